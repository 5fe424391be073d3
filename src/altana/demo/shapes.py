"""The few shapes the demo building is put together from: boxes, walls with openings, tubes, crowns.

Every shape is a triangle mesh with normals and texture coordinates in metres (u along the grain); a
material's texture says how many metres one tile of it covers.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray

from altana.core.geometry.cross import EAST, UP, crossed

Array = NDArray[np.float64]
Point = Sequence[float]


@dataclass(frozen=True, slots=True)
class Mesh:
    """vertices (n, 3), normals (n, 3), uvs (n, 2) float64 in metres; faces (m, 3) int64."""

    vertices: Array
    normals: Array
    uvs: Array
    faces: NDArray[np.int64]

    def moved(self, offset: Point, turn_deg: float = 0.0, scale: float = 1.0) -> Mesh:
        """Scaled, turned counter-clockwise about Z, then shifted."""
        angle = np.radians(turn_deg)
        turn = np.array([[np.cos(angle), -np.sin(angle), 0], [np.sin(angle), np.cos(angle), 0], [0, 0, 1]])
        return Mesh(
            self.vertices * scale @ turn.T + np.asarray(offset, float),
            self.normals @ turn.T,
            self.uvs,
            self.faces,
        )


def merged(meshes: Sequence[Mesh]) -> Mesh:
    """Several meshes as one."""
    first = np.cumsum([0] + [len(mesh.vertices) for mesh in meshes])
    return Mesh(
        np.concatenate([mesh.vertices for mesh in meshes]),
        np.concatenate([mesh.normals for mesh in meshes]),
        np.concatenate([mesh.uvs for mesh in meshes]),
        np.concatenate([mesh.faces + first[i] for i, mesh in enumerate(meshes)]),
    )


def quads(corners: Array, along: int | None = None) -> Mesh:
    """Flat quadrilaterals, (k, 4, 3) corners counter-clockwise seen from outside.

    Texture coordinates run along the world axis ``along`` (the grain) and across it.
    """
    corners = np.asarray(corners, float).reshape(-1, 4, 3)
    normal = crossed(corners[:, 1] - corners[:, 0], corners[:, 3] - corners[:, 0])
    normal /= np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-12)
    faces = np.arange(len(corners) * 4).reshape(-1, 4)[:, [0, 1, 2, 0, 2, 3]].reshape(-1, 3)
    vertices = corners.reshape(-1, 3)
    return Mesh(
        vertices, np.repeat(normal, 4, axis=0), flat_uvs(vertices, np.repeat(normal, 4, axis=0), along), faces
    )


def flat_uvs(vertices: Array, normals: Array, along: int | None = None) -> Array:
    """Planar texture coordinates by the dominant axis of the normal, u along the grain where given."""
    axis = np.argmax(np.abs(normals), axis=1)
    first = np.array([1, 0, 0])[axis]
    second = np.array([2, 2, 1])[axis]
    if along is not None:
        swap = (second == along) & (axis != along)
        first, second = np.where(swap, second, first), np.where(swap, first, second)
    row = np.arange(len(vertices))
    return np.column_stack([vertices[row, first], vertices[row, second]])


def box(low: Point, high: Point, along: int | None = None) -> Mesh:
    """An upright box between two corners; the grain runs along its longest side unless given."""
    x0, y0, z0 = np.minimum(low, high)
    x1, y1, z1 = np.maximum(low, high)
    c = np.array(
        [
            [x0, y0, z0],
            [x1, y0, z0],
            [x1, y1, z0],
            [x0, y1, z0],
            [x0, y0, z1],
            [x1, y0, z1],
            [x1, y1, z1],
            [x0, y1, z1],
        ]
    )
    sides = [[0, 3, 2, 1], [4, 5, 6, 7], [0, 1, 5, 4], [1, 2, 6, 5], [2, 3, 7, 6], [3, 0, 4, 7]]
    grain = int(np.argmax([x1 - x0, y1 - y0, z1 - z0])) if along is None else along
    return quads(c[sides], grain)


def beam(start: Point, end: Point, width: float, depth: float) -> Mesh:
    """A rectangular bar between two points; ``depth`` is measured upwards as far as the slope allows."""
    a, b = np.asarray(start, float), np.asarray(end, float)
    run = b - a
    length = float(np.linalg.norm(run))
    along = run / length
    side = crossed(along, UP)
    side = EAST if np.linalg.norm(side) < 1e-6 else side / np.linalg.norm(side)
    up = crossed(side, along)
    local = box((0, -width / 2, -depth / 2), (length, width / 2, depth / 2), 0)
    frame = np.stack([along, -side, up])
    return Mesh(local.vertices @ frame + a, local.normals @ frame, local.uvs, local.faces)


def prism(outline: Array | shapely.Polygon, bottom: float, top: float) -> Mesh:
    """An upright prism over a polygon (which may have holes)."""
    polygon = shapely.normalize(outline if isinstance(outline, shapely.Polygon) else shapely.Polygon(outline))
    polygon = shapely.geometry.polygon.orient(polygon)
    pieces = shapely.constrained_delaunay_triangles(polygon).geoms
    flat = np.concatenate([shapely.get_coordinates(piece)[:3] for piece in pieces])
    triangles = np.arange(len(flat)).reshape(-1, 3)
    a, b, c = flat[triangles[:, 0]], flat[triangles[:, 1]], flat[triangles[:, 2]]
    turn = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    triangles = np.where((turn < 0)[:, None], triangles[:, ::-1], triangles)
    parts = []
    for z, up in ((top, 1.0), (bottom, -1.0)):
        vertices = np.column_stack([flat, np.full(len(flat), z)])
        normals = np.tile((0.0, 0.0, up), (len(flat), 1))
        parts.append(Mesh(vertices, normals, flat.copy(), triangles if up > 0 else triangles[:, ::-1]))
    for ring in (polygon.exterior, *polygon.interiors):
        p = np.asarray(ring.coords)
        q = np.roll(p[:-1], -1, axis=0)
        p = p[:-1]
        lift = np.ones(len(p))[:, None]
        parts.append(
            quads(
                np.stack(
                    [
                        np.hstack([p, lift * bottom]),
                        np.hstack([q, lift * bottom]),
                        np.hstack([q, lift * top]),
                        np.hstack([p, lift * top]),
                    ],
                    axis=1,
                )
            )
        )
    return merged(parts)


@dataclass(frozen=True, slots=True)
class Hole:
    """A rectangular opening in a wall: from ``start`` to ``end`` along it, ``sill`` to ``head`` above its
    foot."""

    start: float
    end: float
    sill: float
    head: float


@dataclass(frozen=True, slots=True)
class WallRun:
    """A straight wall: its axis from ``a`` to ``b`` on the plan, thickness to both sides, foot and top."""

    a: tuple[float, float]
    b: tuple[float, float]
    thickness: float
    foot: float
    top: float
    holes: tuple[Hole, ...] = ()

    def mesh(self) -> Mesh:
        """The wall as a closed mesh with real reveals."""
        length = float(np.hypot(self.b[0] - self.a[0], self.b[1] - self.a[1]))
        height, half = self.top - self.foot, self.thickness / 2
        xs = sorted({0.0, length, *(h.start for h in self.holes), *(h.end for h in self.holes)})
        zs = sorted({0.0, height, *(h.sill for h in self.holes), *(h.head for h in self.holes)})
        solid = np.ones((len(xs) + 1, len(zs) + 1), bool)
        solid[[0, -1], :] = solid[:, [0, -1]] = False
        for i, j in np.ndindex(len(xs) - 1, len(zs) - 1):
            x, z = (xs[i] + xs[i + 1]) / 2, (zs[j] + zs[j + 1]) / 2
            solid[i + 1, j + 1] = not any(h.start < x < h.end and h.sill < z < h.head for h in self.holes)
        pieces = []
        for i, j in np.ndindex(len(xs) - 1, len(zs) - 1):
            if solid[i + 1, j + 1]:
                pieces += _cell(xs[i], xs[i + 1], zs[j], zs[j + 1], half, solid[i : i + 3, j : j + 3])
        local = np.array(pieces)
        direction = np.array([self.b[0] - self.a[0], self.b[1] - self.a[1], 0.0]) / length
        frame = np.stack([direction, (-direction[1], direction[0], 0.0), (0.0, 0.0, 1.0)])
        flat = quads(local)
        return Mesh(
            flat.vertices @ frame + (*self.a, self.foot),
            flat.normals @ frame,
            flat.uvs + (0.0, self.foot),
            flat.faces,
        )


def _cell(
    x0: float, x1: float, z0: float, z1: float, half: float, around: NDArray[np.bool_]
) -> list[list[list[float]]]:
    faces = [
        [[x0, -half, z0], [x1, -half, z0], [x1, -half, z1], [x0, -half, z1]],
        [[x1, half, z0], [x0, half, z0], [x0, half, z1], [x1, half, z1]],
    ]
    if not around[0, 1]:
        faces.append([[x0, half, z0], [x0, -half, z0], [x0, -half, z1], [x0, half, z1]])
    if not around[2, 1]:
        faces.append([[x1, -half, z0], [x1, half, z0], [x1, half, z1], [x1, -half, z1]])
    if not around[1, 0]:
        faces.append([[x0, half, z0], [x1, half, z0], [x1, -half, z0], [x0, -half, z0]])
    if not around[1, 2]:
        faces.append([[x0, -half, z1], [x1, -half, z1], [x1, half, z1], [x0, half, z1]])
    return faces


def tube(points: Sequence[Point], radii: Sequence[float], sides: int = 10, caps: bool = True) -> Mesh:
    """A round bar through points with a radius at each; smooth across its sides."""
    path = np.asarray(points, float)
    tangent = np.gradient(path, axis=0)
    tangent /= np.maximum(np.linalg.norm(tangent, axis=1, keepdims=True), 1e-9)
    helper = np.where(np.abs(tangent[:, 2:3]) > 0.9, (1.0, 0.0, 0.0), (0.0, 0.0, 1.0))
    side = crossed(helper, tangent)
    side /= np.linalg.norm(side, axis=1, keepdims=True)
    up = crossed(tangent, side)
    angle = np.linspace(0, 2 * np.pi, sides + 1)
    ring = side[:, None] * np.cos(angle)[None, :, None] + up[:, None] * np.sin(angle)[None, :, None]
    vertices = path[:, None] + ring * np.asarray(radii, float)[:, None, None]
    along = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(path, axis=0), axis=1))])
    uvs = np.stack(np.broadcast_arrays(along[:, None], angle[None] * max(radii)), axis=-1)
    row, column = np.meshgrid(np.arange(len(path) - 1), np.arange(sides), indexing="ij")
    at = (row * (sides + 1) + column).reshape(-1)
    faces = np.stack([at, at + 1, at + sides + 2, at, at + sides + 2, at + sides + 1], axis=1).reshape(-1, 3)
    body = Mesh(vertices.reshape(-1, 3), ring.reshape(-1, 3), uvs.reshape(-1, 2), faces)
    if not caps:
        return body
    return merged([body, _cap(vertices[0, :-1], -tangent[0]), _cap(vertices[-1, :-1][::-1], tangent[-1])])


def _cap(ring: Array, normal: Array) -> Mesh:
    count = len(ring)
    index = np.arange(1, count - 1)
    faces = np.column_stack([np.zeros_like(index), index + 1, index])
    return Mesh(ring, np.tile(normal, (count, 1)), ring[:, :2].copy(), faces)


def cylinder(base: Point, radius: float, height: float, sides: int = 16) -> Mesh:
    """An upright cylinder."""
    x, y, z = base
    return tube([(x, y, z), (x, y, z + height)], [radius, radius], sides)


def ball(centre: Point, radius: float, rings: int = 8, sides: int = 14) -> Mesh:
    """A sphere, smooth."""
    angle = np.linspace(0.0, np.pi, rings + 1)
    path = [(centre[0], centre[1], centre[2] - radius * np.cos(a)) for a in angle]
    mesh = tube(path, np.maximum(radius * np.sin(angle), 1e-4).tolist(), sides, caps=False)
    normal = mesh.vertices - np.asarray(centre, float)
    normal /= np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-9)
    return Mesh(mesh.vertices, normal, mesh.uvs, mesh.faces)


def foliage(blobs: Array, leaves: int, size: float, seed: int) -> Mesh:
    """Leaves as small folded diamonds spread through the outer part of round crowns.

    blobs : (k, 4), centre and radius.  Normals point out of the crown, which is how a mass of leaves
    takes the light.
    """
    random = np.random.default_rng(seed)
    share = blobs[:, 3] ** 2 / np.sum(blobs[:, 3] ** 2)
    which = random.choice(len(blobs), leaves, p=share)
    out = random.normal(size=(leaves, 3))
    out /= np.linalg.norm(out, axis=1, keepdims=True)
    out[:, 2] *= 0.85
    centre = blobs[which, :3] + out * (blobs[which, 3] * random.uniform(0.72, 1.03, leaves))[:, None]
    tilt = out + random.normal(scale=0.55, size=(leaves, 3))
    tilt /= np.linalg.norm(tilt, axis=1, keepdims=True)
    side = crossed(tilt, random.normal(size=(leaves, 3)))
    side /= np.maximum(np.linalg.norm(side, axis=1, keepdims=True), 1e-9)
    tip = crossed(tilt, side)
    length = size * random.uniform(0.7, 1.3, (leaves, 1))
    corners = np.stack(
        [
            centre - tip * length,
            centre + side * length * 0.55,
            centre + tip * length,
            centre - side * length * 0.55,
        ],
        axis=1,
    )
    middle = blobs[:, :3].mean(axis=0)
    soft = out * 0.7 + (centre - middle) / np.linalg.norm(centre - middle, axis=1, keepdims=True) * 0.6
    soft /= np.linalg.norm(soft, axis=1, keepdims=True)
    faces = np.arange(leaves * 4).reshape(-1, 4)[:, [0, 1, 2, 0, 2, 3]].reshape(-1, 3)
    uv = np.tile(np.array([[0.0, 0.5], [0.5, 0.0], [1.0, 0.5], [0.5, 1.0]]), (leaves, 1))
    return Mesh(corners.reshape(-1, 3), np.repeat(soft, 4, axis=0), uv, faces)
