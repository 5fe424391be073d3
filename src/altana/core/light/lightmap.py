"""Where indirect light is computed: points spread over the model's surfaces.

Triangles of one object that lie in one plane share a chart, a grid of points across that plane; small or curved
parts share single points by place and direction.  Every vertex gets its place in one picture (the light map), in
which the renderer interpolates.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Bools, Floats, Floats32, Ints
from altana.core.model import Model

SPACING_M = 0.50
#: A chart has at most this many points a side; large grounds get coarser ones.
MOST_A_SIDE = 56
#: Planes smaller than this are lit by single points.
SMALL_M = 1.3
CELL_M = 1.6
#: Planes that are mostly holes (balusters, frames) are lit by single points too.
EMPTY_SHARE = 0.22
#: Spacing grows with the distance from the building's middle beyond this.
NEAR_M = 30.0
WIDTH = 1024
#: Points spread at most: each takes two kilobytes and a third of a millisecond.  Where more would be wanted, all spacings grow.
MOST_POINTS, COARSER = 220_000, 1.5
#: Of models of more triangles the soft light is estimated, not computed.
MOST_LIT = 1_500_000


@dataclass(frozen=True, slots=True)
class LightPoints:
    """The points: ``position`` and ``normal`` (n, 3) float64, ``texel`` (n, 2) column and row in a map of
    ``size`` (width, height); per triangle corner ``uv`` (m, 3, 2) float32 in texels."""

    position: Floats
    normal: Floats
    texel: npt.NDArray[np.int64]
    size: tuple[int, int]
    uv: Floats32


def spread(model: Model, most: int = MOST_POINTS) -> LightPoints:
    """Place the points for a model, about ``most`` of them at the most."""
    coarser = 1.0
    while True:
        made = _spread(model, coarser)
        if len(made.position) <= most or coarser > 1e4:
            return made
        coarser *= max(COARSER, float(np.sqrt(len(made.position) / most)))


def _spread(model: Model, coarser: float) -> LightPoints:
    corners = model.vertices[model.faces].astype(float)
    cross = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    area = np.linalg.norm(cross, axis=1) / 2
    normal = cross / np.maximum(2 * area, 1e-20)[:, None]
    shading = model.normals[model.faces].astype(float).mean(axis=1)
    bent = np.einsum("ij,ij->i", normal, shading) < 0.97
    owner = model.face_objects().astype(np.int64)
    group = _planes(owner, normal, np.einsum("ij,ij->i", normal, corners[:, 0]))
    u_axis, v_axis = _axes(normal)
    flat = np.stack(
        [np.einsum("ikj,ij->ik", corners, u_axis), np.einsum("ikj,ij->ik", corners, v_axis)], axis=-1
    )
    low, high = _extent(group, flat)
    size = high - low
    filled = np.bincount(group, weights=area) / np.maximum(size.prod(axis=1), 1e-9)
    holed = (filled < EMPTY_SHARE) & (size.max(axis=1) > 1.0)
    small = (size.max(axis=1) < SMALL_M) | (np.bincount(group, weights=bent) > 0) | holed
    spacing = _spacing(group, corners) * coarser
    small |= size.max(axis=1) < spacing
    position, point_normal, texel, uv, rows = _charts(
        group, flat, low, size, small, spacing, normal, corners, u_axis, v_axis
    )
    lone = small[group]
    cell = CELL_M * spacing[group] / SPACING_M
    _single_points(lone, cell, owner, corners, shading, area, position, point_normal, texel, uv, rows)
    height = int(max(t[:, 1].max() for t in texel)) + 1
    return LightPoints(
        np.concatenate(position), np.concatenate(point_normal), np.concatenate(texel), (WIDTH, height), uv
    )


def _planes(owner: Ints, normal: Floats, distance: Floats) -> Ints:
    facing = np.round(normal * 40.0).astype(np.int64) + 64
    key = ((owner * 131 + facing[:, 0]) * 131 + facing[:, 1]) * 131 + facing[:, 2]
    key = key * 1_000_003 + np.round(distance * 50.0).astype(np.int64)
    _, group = np.unique(key, return_inverse=True)
    return np.asarray(group, np.int64)


def _axes(normal: Floats) -> tuple[Floats, Floats]:
    level = np.abs(normal[:, 2:3]) > 0.9
    u = np.where(
        level,
        np.array([1.0, 0.0, 0.0]),
        np.column_stack([-normal[:, 1], normal[:, 0], np.zeros(len(normal))]),
    )
    u -= normal * np.einsum("ij,ij->i", u, normal)[:, None]
    u /= np.maximum(np.linalg.norm(u, axis=1, keepdims=True), 1e-12)
    return u, np.cross(normal, u)


def _extent(group: Ints, flat: Floats) -> tuple[Floats, Floats]:
    count = int(group.max()) + 1
    low, high = np.full((count, 2), np.inf), np.full((count, 2), -np.inf)
    np.minimum.at(low, group, flat.min(axis=1))
    np.maximum.at(high, group, flat.max(axis=1))
    return low, high


def _spacing(group: Ints, corners: Floats) -> Floats:
    middle = corners.mean(axis=1)
    away = np.linalg.norm(middle - np.median(middle, axis=0), axis=1)
    nearest = np.full(int(group.max()) + 1, np.inf)
    np.minimum.at(nearest, group, away)
    spacing: Floats = SPACING_M * np.maximum(1.0, nearest / NEAR_M) ** 2
    return spacing


def _charts(
    group: Ints,
    flat: Floats,
    low: Floats,
    size: Floats,
    small: Bools,
    spacing: Floats,
    normal: Floats,
    corners: Floats,
    u_axis: Floats,
    v_axis: Floats,
) -> tuple[list[Floats], list[Floats], list[npt.NDArray[np.int64]], Floats32, list[int]]:
    first = np.full(len(size), -1)
    first[group[::-1]] = np.arange(len(group))[::-1]
    steps = np.clip(np.ceil(size / spacing[:, None]), 1, MOST_A_SIDE).astype(int)
    steps = np.where(size < 0.16, 0, steps)
    wide = np.flatnonzero(~small)
    place = np.zeros((len(size), 2), np.int64)
    cursor = [0, 0, 0]
    for index in wide[np.argsort(-steps[wide, 1], kind="stable")].tolist():
        columns, high = int(steps[index, 0]) + 1, int(steps[index, 1]) + 1
        if cursor[0] + columns > WIDTH:
            cursor = [0, cursor[1] + cursor[2], 0]
        place[index] = cursor[0], cursor[1]
        cursor[0] += columns
        cursor[2] = max(cursor[2], high)
    position, normals, texels = [], [], []
    for index in wide.tolist():
        columns, high = steps[index] + 1
        i, j = np.meshgrid(np.arange(columns), np.arange(high))
        # Points on the rim are drawn in a little, because a rim often touches or enters a neighbour.
        share = np.stack(
            [_inset(i, columns, size[index, 0]), _inset(j, high, size[index, 1])], axis=-1
        ).reshape(-1, 2)
        at = low[index] + share * size[index]
        face = first[index]
        n = normal[face]
        origin = n * np.dot(corners[face, 0], n)
        position.append(origin + at[:, :1] * u_axis[face] + at[:, 1:] * v_axis[face])
        normals.append(np.tile(n, (len(at), 1)))
        texels.append(np.stack([i, j], axis=-1).reshape(-1, 2) + place[index])
    share = (flat - low[group][:, None]) / np.maximum(size[group], 1e-9)[:, None]
    uv = (place[group][:, None] + 0.5 + share * steps[group][:, None]).astype(np.float32)
    return position, normals, texels, uv, [cursor[1] + cursor[2]]


def _inset(index: npt.NDArray[np.int64], count: int, size: float) -> Floats:
    if count == 1:
        return np.full(index.shape, 0.5)
    rim = min(0.08, size * 0.2) / size
    return np.clip(index / (count - 1), rim, 1.0 - rim)


def _single_points(
    lone: Bools,
    cell_m: Floats,
    owner: Ints,
    corners: Floats,
    shading: Floats,
    area: Floats,
    position: list[Floats],
    normals: list[Floats],
    texels: list[npt.NDArray[np.int64]],
    uv: Floats32,
    rows: list[int],
) -> None:
    if not lone.any():
        return
    middle = corners[lone].mean(axis=1)
    facing = shading[lone]
    axis = np.argmax(np.abs(facing), axis=1)
    side = axis * 2 + (np.take_along_axis(facing, axis[:, None], 1)[:, 0] > 0)
    cell = np.floor(middle / cell_m[lone, None]).astype(np.int64)
    key = ((owner[lone] * 6 + side) * 4001 + cell[:, 0]) * 4001 + cell[:, 1]
    key = key * 401 + cell[:, 2]
    _, index = np.unique(key, return_inverse=True)
    weight = np.maximum(area[lone], 1e-9)
    # The largest triangle speaks for its group: a small one may be a hidden end (a table's foot below its top).
    chosen = np.zeros(int(index.max()) + 1, np.int64)
    order = np.argsort(weight, kind="stable")
    chosen[index[order]] = order
    total = np.bincount(index, weights=weight)
    mean = np.stack([np.bincount(index, weights=weight * facing[:, k]) / total for k in range(3)], axis=1)
    number = np.arange(len(total))
    texel = np.stack([number % WIDTH, rows[0] + number // WIDTH], axis=1)
    # A mean place may lie inside the body; a triangle's middle lies on its surface.
    position.append(middle[chosen])
    normals.append(mean / np.maximum(np.linalg.norm(mean, axis=1, keepdims=True), 1e-9))
    texels.append(texel)
    uv[lone] = (texel[index] + 0.5)[:, None].astype(np.float32)
