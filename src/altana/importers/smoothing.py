"""Directions of curved surfaces whose file gives none but asks for smooth ones.

Each corner takes the mean of the triangles that meet there and lie within CREASE of its own, weighted by
their angle there (G. Thürmer and C. A. Wüthrich, "Computing vertex normals from polygonal facets", 1998), so
that it does not matter how faces were cut and edges that are meant stay sharp.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from altana.core.conventions import Floats, Ints
from altana.core.geometry.cross import area_normals, crossed

CREASE_DEG = 44.0
#: Pairs of triangles that meet at a corner, looked at together.
AT_A_TIME = 4_000_000
#: Corners in which more triangles than this meet are poles of a fan; they stay as they are.
MOST_AT_A_CORNER = 64


def smooth_corners(points: Floats, faces: Ints, sizes: Sequence[int] = ()) -> Floats:
    """(3m, 3) directions of all corners of (m, 3) triangles over (n, 3) points, triangle after triangle; unit
    length.

    sizes : how many of the points each thing has, where there are several; they do not bend towards each
    other.
    """
    corner = points[faces]
    cross = area_normals(corner)
    size = np.linalg.norm(cross, axis=1, keepdims=True)
    unit = np.where(size > 0.0, cross / np.maximum(size, 1e-300), (0.0, 0.0, 1.0))
    weight = _angles(corner).reshape(-1)
    _, place = np.unique(_places(points, sizes or (len(points),)), axis=0, return_inverse=True)
    at = place.reshape(-1)[faces.reshape(-1)]
    order = np.argsort(at, kind="stable")
    starts = np.flatnonzero(np.r_[True, np.diff(at[order]) > 0])
    counts = np.diff(np.r_[starts, len(order)])
    normals = np.repeat(unit, 3, axis=0)
    usable = (counts > 1) & (counts <= MOST_AT_A_CORNER)
    starts, counts = starts[usable], counts[usable]
    ends = np.cumsum(counts**2)
    begin = 0
    while begin < len(counts):
        end = max(begin + 1, int(np.searchsorted(ends, (ends[begin - 1] if begin else 0) + AT_A_TIME)))
        _mix(normals, weight, unit, order, starts[begin:end], counts[begin:end])
        begin = end
    return normals


def _places(points: Floats, sizes: Sequence[int]) -> Ints:
    """(n, 4) where points lie within their thing, by millionths of its size, and the number of the thing."""
    starts = np.cumsum([0, *sizes])[:-1]
    owner = np.repeat(np.arange(len(sizes)), sizes)
    low, high = np.minimum.reduceat(points, starts), np.maximum.reduceat(points, starts)
    scale = np.maximum((high - low).max(axis=1), 1e-12)
    steps = np.round((points - low[owner]) / scale[owner, None] * 1e6).astype(np.int64)
    return np.column_stack([steps, owner])


def _angles(corner: Floats) -> Floats:
    """(m, 3) angles of triangles (m, 3, 3) at their corners, radians."""
    ahead = np.roll(corner, -1, axis=1) - corner
    back = np.roll(corner, 1, axis=1) - corner
    across = np.linalg.norm(crossed(ahead, back), axis=2)
    angles: Floats = np.arctan2(across, np.einsum("mck,mck->mc", ahead, back))
    return angles


def _mix(normals: Floats, weight: Floats, unit: Floats, order: Ints, starts: Ints, counts: Ints) -> None:
    """Mix the corners of some places in place."""
    pairs = counts**2
    group = np.repeat(np.arange(len(counts)), pairs)
    within = np.arange(int(pairs.sum())) - np.repeat(np.cumsum(pairs) - pairs, pairs)
    mine = order[starts[group] + within // counts[group]]
    other = order[starts[group] + within % counts[group]]
    near = np.einsum("ij,ij->i", unit[mine // 3], unit[other // 3]) > np.cos(np.radians(CREASE_DEG))
    mine, other = mine[near], other[near]
    used, index = np.unique(mine, return_inverse=True)
    total = np.stack(
        [np.bincount(index, weights=unit[other // 3, axis] * weight[other]) for axis in range(3)], axis=1
    )
    length = np.linalg.norm(total, axis=1, keepdims=True)
    normals[used] = np.where(length > 0.0, total / np.maximum(length, 1e-300), normals[used])
