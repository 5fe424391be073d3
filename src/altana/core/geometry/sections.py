"""Cuts through triangles by a plane: the basis of every plan and section.

"Above" is a signed distance of zero or more, and crossings are always interpolated from the upper to the
lower vertex.  Two triangles that share an edge then compute the identical point, so outlines of closed
bodies close exactly and run in one sense, even when vertices lie on the plane.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Floats, Floats32, Ints32
from altana.core.geometry.cross import crossed

#: Points closer than this are one point when outlines are chained (a tenth of a millimetre).
WELD_M = 1e-4


@dataclass(frozen=True, slots=True)
class Segments:
    """Cut lines: ``points`` (k, 2, 3) float64 metres, ``face`` (k,) the triangle each comes from."""

    points: Floats
    face: npt.NDArray[np.intp]


class SortedTriangles:
    """Triangles ordered by where they begin along one direction, so that a cut looks only at a few.

    vertices : (n, 3) float32, faces : (m, 3) int32, direction : unit vector.
    """

    def __init__(self, vertices: Floats32, faces: Ints32, direction: Sequence[float]) -> None:
        self.direction = np.asarray(direction, float)
        height = vertices.astype(np.float32) @ self.direction.astype(np.float32)
        corner = height[faces]
        low = corner.min(axis=1)
        order = np.argsort(low, kind="stable")
        self._order = order
        # Corners in the order of the sort: a cut then reads memory that lies together.
        self._corners = vertices[faces[order]]
        self._low = low[order]
        self._high = corner.max(axis=1)[order]
        self._tallest = float((self._high - self._low).max()) if len(order) else 0.0

    def cut(self, at_m: float) -> Segments:
        """The cut by the plane at this position along the direction."""
        # Single-precision heights only choose candidates; a hair of slack keeps none out.
        slack = 1e-3 + abs(at_m) * 1e-6
        first = int(np.searchsorted(self._low, at_m - self._tallest - slack))
        last = int(np.searchsorted(self._low, at_m + slack, side="right"))
        near = np.flatnonzero(self._high[first:last] >= at_m - slack) + first
        return cut_triangles(self._corners[near], self._order[near], self.direction, at_m)


def cut_triangles(corners: Floats32, ids: npt.NDArray[np.intp], normal: Floats, at_m: float) -> Segments:
    """The cut of (k, 3, 3) triangle corners by the plane at ``at_m`` along a unit normal; ``ids`` (k,) name
    them."""
    corner = corners.astype(float)
    height = corner @ normal - at_m
    above = height >= 0.0
    count = above[:, 0].view(np.int8) + above[:, 1].view(np.int8) + above[:, 2].view(np.int8)
    crossing = np.flatnonzero((count == 1) | (count == 2))
    alone_above = count[crossing] == 1
    # The odd corner stands alone on its side; the two edges that leave it are the ones cut.
    odd = np.argmax(above[crossing] == alone_above[:, None], axis=1)
    flat = crossing * 3
    order = np.stack([flat + odd, flat + (odd + 1) % 3, flat + (odd + 2) % 3])
    apex, after, before = corner.reshape(-1, 3)[order]
    apex_height, after_height, before_height = height.reshape(-1)[order]
    first = _crossing(apex, apex_height, after, after_height, alone_above)
    second = _crossing(apex, apex_height, before, before_height, alone_above)
    points = np.empty((len(crossing), 2, 3))
    swap = alone_above[:, None]
    points[:, 0] = np.where(swap, first, second)
    points[:, 1] = np.where(swap, second, first)
    return Segments(points, ids[crossing])


def _crossing(
    apex: Floats, apex_height: Floats, other: Floats, other_height: Floats, apex_above: npt.NDArray[np.bool_]
) -> Floats:
    """The cut of the edges from each odd corner to another, always reckoned from the upper end."""
    high = np.where(apex_above, apex_height, other_height)
    share = high / np.abs(apex_height - other_height)
    up = apex_above[:, None]
    top = np.where(up, apex, other)
    point: Floats = top + (np.where(up, other, apex) - top) * share[:, None]
    return point


def chain(segments: Floats, weld_m: float = WELD_M) -> list[Floats]:
    """Join directed 2-D segments end to start into outlines.

    segments : (k, 2, 2) float64.  Returns a list of (n, 2) arrays; a closed outline repeats its first point.
    """
    if not len(segments):
        return []
    keys = np.round(segments.reshape(-1, 2) / weld_m).astype(np.int64)
    _, index = np.unique(keys, axis=0, return_inverse=True)
    start, end = index.reshape(-1, 2).T
    alive = start != end
    following: dict[int, list[int]] = {}
    for number in np.flatnonzero(alive).tolist():
        following.setdefault(int(start[number]), []).append(number)
    arriving = np.bincount(end[alive], minlength=int(index.max()) + 1)
    leaving = np.bincount(start[alive], minlength=int(index.max()) + 1)
    # Open runs are followed first, from their loose ends; what remains is closed.
    seeds = np.concatenate([np.flatnonzero(leaving > arriving), np.flatnonzero(leaving > 0)])
    outlines = []
    for seed in seeds.tolist():
        while following.get(seed):
            outlines.append(_follow(seed, following, segments, end))
    return outlines


def _follow(
    seed: int, following: dict[int, list[int]], segments: Floats, end: npt.NDArray[np.intp]
) -> Floats:
    points: list[Floats] = []
    node = seed
    while following.get(node):
        number = following[node].pop()
        if not points:
            points.append(segments[number, 0])
        points.append(segments[number, 1])
        node = int(end[number])
        if node == seed:
            break
    return np.asarray(points)


def plane_axes(normal: Sequence[float]) -> tuple[Floats, Floats]:
    """Two unit vectors that span a plane: for a plan east and north, for a section along and up."""
    n = np.asarray(normal, float)
    if abs(n[2]) > 0.999:
        return np.array([1.0, 0.0, 0.0]), np.array([0.0, 1.0, 0.0])
    up = np.array([0.0, 0.0, 1.0])
    along = crossed(up, n)
    return along / np.linalg.norm(along), up
