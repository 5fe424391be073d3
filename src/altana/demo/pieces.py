"""Pieces that several parts of the terminal have: windows with their frames, railings, parts of an
outline."""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Sequence

import numpy as np
import shapely

from altana.core.geometry.cross import crossed
from altana.demo.shapes import Array, Hole, Mesh, beam, box
from altana.demo.site import Site


def parts_of(shape: shapely.Geometry) -> list[shapely.Polygon]:
    solids = (
        [shape]
        if isinstance(shape, shapely.Polygon)
        else [p for p in shapely.get_parts(shape).tolist() if isinstance(p, shapely.Polygon)]
    )
    return sorted(solids, key=lambda p: p.bounds)


def local_box(
    origin: Sequence[float], along: Sequence[float], s0: float, s1: float, z0: float, z1: float, depth: float
) -> Mesh:
    """A box in a wall's own directions: from s0 to s1 along it, centred on its axis."""
    ox, oy = origin
    ax, ay = along
    a = np.array([ox + ax * s0 - abs(ay) * depth / 2, oy + ay * s0 - abs(ax) * depth / 2, z0])
    b = np.array([ox + ax * s1 + abs(ay) * depth / 2, oy + ay * s1 + abs(ax) * depth / 2, z1])
    return box(a.tolist(), b.tolist())


def framed(
    origin: Sequence[float], along: Sequence[float], hole: Hole, base: float, width: float, depth: float
) -> list[Mesh]:
    z0, z1 = hole.sill + base, hole.head + base
    bars = [
        (hole.start, hole.start + width, z0, z1),
        (hole.end - width, hole.end, z0, z1),
        (hole.start + width, hole.end - width, z1 - width, z1),
    ]
    if hole.sill > 0.05:
        bars.append((hole.start + width, hole.end - width, z0, z0 + width))
    return [local_box(origin, along, *bar, depth) for bar in bars]


def glazed(
    site: Site,
    name: str,
    category: str,
    storey: str,
    origin: Sequence[float],
    along: Sequence[float],
    hole: Hole,
    columns: int,
    rows: int,
    surface: str = "Oak",
) -> None:
    bars = framed(origin, along, hole, 0.0, 0.07, 0.12)
    xs = np.linspace(hole.start, hole.end, columns + 1)
    zs = np.linspace(hole.sill, hole.head, rows + 1)
    for x in xs[1:-1]:
        bars.append(local_box(origin, along, x - 0.03, x + 0.03, hole.sill + 0.07, hole.head - 0.07, 0.09))
    for z in zs[1:-1]:
        bars.append(local_box(origin, along, hole.start + 0.07, hole.end - 0.07, z - 0.03, z + 0.03, 0.09))
    pieces: list[tuple[str, Iterable[Mesh]]] = [(surface, bars)]
    if category == "Door":
        for x in xs[1:-1]:
            for side in (-0.12, 0.12):
                handle = [local_box(origin, along, x + side - 0.015, x + side + 0.015, 0.85, 1.35, 0.16)]
                pieces.append(("Dark steel", handle))
        pieces.append(
            (surface, [local_box(origin, along, hole.start + 0.07, hole.end - 0.07, 0.0, 0.18, 0.08)])
        )
    pane = local_box(
        origin, along, hole.start + 0.05, hole.end - 0.05, hole.sill + 0.03, hole.head - 0.05, 0.016
    )
    pieces.append(("Clear glass", [pane]))
    site.add(name, category, storey, *by_surface(pieces))


def by_surface(pieces: Sequence[tuple[str, Iterable[Mesh]]]) -> list[tuple[str, list[Mesh]]]:
    grouped: dict[str, list[Mesh]] = {}
    for surface, meshes in pieces:
        grouped.setdefault(surface, []).extend(meshes)
    return list(grouped.items())


def railing(site: Site, name: str, storey: str, path: Sequence[tuple[float, float]], floor: float) -> None:
    steel: list[Mesh] = []
    oak: list[Mesh] = []
    for (x0, y0), (x1, y1) in itertools.pairwise(path):
        length = float(np.hypot(x1 - x0, y1 - y0))
        ux, uy = (x1 - x0) / length, (y1 - y0) / length
        for s in np.arange(0.0, length + 1e-6, length / max(1, round(length / 0.115))):
            x, y = x0 + ux * s, y0 + uy * s
            steel.append(box((x - 0.007, y - 0.007, floor + 0.08), (x + 0.007, y + 0.007, floor + 0.98)))
        for s in np.linspace(0.0, length, max(2, round(length / 1.6) + 1)):
            x, y = x0 + ux * s, y0 + uy * s
            steel.append(box((x - 0.02, y - 0.02, floor), (x + 0.02, y + 0.02, floor + 1.0)))
        steel.append(beam((x0, y0, floor + 0.09), (x1, y1, floor + 0.09), 0.03, 0.02))
        oak.append(
            beam(
                (x0 - ux * 0.03, y0 - uy * 0.03, floor + 1.02),
                (x1 + ux * 0.03, y1 + uy * 0.03, floor + 1.02),
                0.07,
                0.05,
            )
        )
    site.add(name, "Railing", storey, ("Dark steel", steel), ("Oak", oak))


def _counter_clockwise(ring: Sequence[Array]) -> bool:
    points = np.array(ring)
    x, y = points[:, 0], points[:, 1]
    return bool(np.dot(x, np.roll(y, -1)) > np.dot(y, np.roll(x, -1)))


def _normal(a: Array, b: Array, c: Array) -> Array:
    normal = crossed(b - a, c - a)
    unit: Array = normal / np.linalg.norm(normal)
    return unit
