"""Small and curved parts: their light is computed at their corners and runs evenly across each triangle.

Corners of one object that are near each other and face the same way share a point.  What a corner shows is a
mean over the nearest points, by distance and direction (Shepard's weights), so that no step shows where one
point's corners end.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import scipy
import scipy.sparse.csgraph

from altana.core.conventions import Bools, Floats, Floats32, Ints
from altana.core.distinct import distinct
from altana.core.light.shape import Shape
from altana.core.model import Model

#: Points of corners are about so far apart; foliage and other things with holes, of which nobody sees single
#: leaves, have fewer.
CELL_M, HOLED_CELL_M = 0.40, 1.6
#: A corner is drawn in by this share of the way to its triangle's middle: corners touch and enter neighbours.
INSET = 0.2
#: A point speaks for its surroundings half the way to its triangle's middle, no farther than this.
MOST_REACH_M = 0.06
#: Points that a corner's light is mixed from, and what a turn of one radian counts for as a distance.
NEAR_POINTS, TURN_M = 4, 0.6
#: With more triangles than this, each takes one even value.
MOST_PATCHES = 250_000
#: Corners nearer to each other than this are one.
SAME_M = 0.001
#: What makes whole numbers look random when they are multiplied by it.
PRIMES = (2654435761, 73856093, 19349663, 83492791)


@dataclass(frozen=True, slots=True)
class Corners:
    """The points: ``position``, ``normal`` (k, 3), ``owner``, ``face`` (k,).  Per triangle the ``nearest``
    point (m,), counted from the first point of all; ``lone`` (m,) whether it is lit here, ``even`` (m,)
    whether with one value for its ``piece`` (m,).  ``at`` (corners, 7) where each corner lies, counting
    direction and object as distances too, and ``chosen`` (k,) the corner that each point is taken from."""

    position: Floats
    normal: Floats
    owner: Ints
    face: Ints
    reach: Floats
    nearest: Ints
    lone: Bools
    even: Bools
    piece: Ints
    at: Floats
    chosen: Ints

    def laid_out(
        self, first: int, row: int, width: int
    ) -> tuple[Corners, Ints, scipy.sparse.csr_array, Floats32, int]:
        """The same with points counted from ``first``; places of the picture from ``row`` on; what they show
        of all points; the corners' places (m, 3, 2); and the picture's height.

        A triangle has four places in a square: its corners a, b, c and b + c - a, for between four places the
        light is read as on the plane through them.
        """
        faces = np.flatnonzero(self.lone)
        uv = np.zeros((len(self.lone), 3, 2), np.float32)
        even = self.even[faces]
        # Triangles of one even value: one place for each piece of a plane, or its diagonals would show.
        single = faces[even]
        pieces, piece = np.unique(self.piece[single], return_inverse=True)
        at = np.arange(len(pieces))
        column, line = at % width, row + at // width
        uv[single] = (np.stack([column, line], axis=-1) + 0.5)[piece][:, None]
        patch = [line * width + column]
        row += -(-len(pieces) // width)
        square = faces[~even]
        at = np.arange(len(square))
        across = width // 2
        column, line = 2 * (at % across), row + 2 * (at // across)
        corner = np.stack([column, line], axis=-1) + 0.5
        uv[square] = np.stack([corner, corner + (1, 0), corner + (0, 1)], axis=1)
        here = line * width + column
        patch += [here, here + 1, here + width, here + width + 1]
        row += 2 * -(-len(square) // across)
        mix = self.shown_by_patches(_weights(self.at, self.chosen))
        mix = scipy.sparse.csr_array(
            (mix.data, mix.indices + first, mix.indptr), shape=(mix.shape[0], first + len(self.position))
        )
        moved = Corners(
            self.position, self.normal, self.owner, self.face, self.reach,
            np.where(self.lone, self.nearest + first, -1), self.lone, self.even, self.piece, self.at, self.chosen,
        )  # fmt: skip
        return moved, np.concatenate(patch), mix, uv, row

    def shown_by_patches(self, weights: scipy.sparse.csr_array) -> scipy.sparse.csr_array:
        """(p, n) how much of n things each place of the patches shows.  weights : (corners, n) how much of
        them each corner shows."""
        even = self.even[np.flatnonzero(self.lone)]
        pieces, piece = np.unique(self.piece[self.lone & self.even], return_inverse=True)
        a, b, c = (weights[np.flatnonzero(even) * 3 + k] for k in range(3))
        means = _means(piece, len(pieces)) @ ((a + b + c) / 3.0)
        a, b, c = (weights[np.flatnonzero(~even) * 3 + k] for k in range(3))
        return scipy.sparse.csr_array(scipy.sparse.vstack([means, a, b, c, b + c - a], format="csr"))


@dataclass(frozen=True, slots=True)
class Lone:
    """Triangles that are lit at their corners, made ready for any spacing: ``lone`` (m,), their numbers
    ``faces`` (k,), and per corner (3 k,) where it lies drawn in, where it faces, its object, its triangle's
    area and how large its cell is as a rule, metres."""

    lone: Bools
    faces: Ints
    middle: Floats
    at: Floats
    facing: Floats
    whose: Ints
    area: Floats
    cell_m: Floats
    side: npt.NDArray[np.uint64]
    even: Bools
    piece: Ints

    @classmethod
    def of(cls, model: Model, lone: Bools, plane: Ints, shape: Shape) -> Lone:
        """The triangles ``lone`` (m,), of the ``plane`` (m,) that each lies in."""
        normal, area, owner = shape.normal, shape.area, shape.owner
        faces = np.flatnonzero(lone)
        corners = model.vertices[model.faces[faces]].astype(float)
        middle = corners.mean(axis=1)
        at = (corners + (middle[:, None] - corners) * INSET).reshape(-1, 3)
        facing = _facing(model, faces, normal[faces]).reshape(-1, 3)
        holes = np.array([item.has_holes for item in model.materials], bool)[model.face_material[faces]]
        cell = np.repeat(np.where(holes, HOLED_CELL_M, CELL_M), 3)
        even = np.zeros(len(lone), bool)
        even[faces] = holes | (len(faces) > MOST_PATCHES)
        return cls(
            lone,
            faces,
            middle,
            at,
            facing,
            np.repeat(owner[faces], 3),
            np.repeat(area[faces], 3),
            cell,
            # Corners share a point if they are of one object, face one way, and lie in one cell.
            folded([np.repeat(owner[faces], 3), *np.round(facing.T * 1.5).astype(np.int64)]),
            even,
            hanging_together(shape.corners, plane, even),
        )

    def count(self, coarser: Floats) -> int:
        """How many points they get, so many times farther apart than usual (m,)."""
        return len(distinct(self._keys(coarser)))

    def _keys(self, coarser: Floats) -> npt.NDArray[np.uint64]:
        cell = self.cell_m * np.repeat(coarser[self.faces], 3)
        boxes = (np.floor(self.at[:, axis] / cell).astype(np.int64) for axis in range(3))
        return folded(boxes, self.side)

    def points(self, coarser: Floats) -> Corners:
        """The points, so many times farther apart than usual (m,)."""
        faces, lone, at = self.faces, self.lone, self.at
        index, chosen = _shared(self._keys(coarser), at, self.facing, self.area)
        place = at[chosen]
        nearest = np.full(len(lone), -1, np.int64)
        nearest[faces] = index.reshape(-1, 3)[:, 0] if len(faces) else 0
        reach = np.minimum(
            np.linalg.norm(np.repeat(self.middle, 3, axis=0)[chosen] - place, axis=1) * 0.5, MOST_REACH_M
        )
        return Corners(
            place,
            self.facing[chosen],
            self.whose[chosen],
            faces[chosen // 3],
            reach,
            nearest,
            lone,
            self.even,
            self.piece,
            np.column_stack([at, self.facing * TURN_M, self.whose * 1e3]),
            chosen,
        )


def hanging_together(corners: Floats, plane: Ints, some: Bools, near_m: float = SAME_M) -> Ints:
    """(m,) a number for each piece of a plane, of ``some`` (m,) triangles that hang together in it by their
    corners (m, 3, 3), no farther apart than about ``near_m``."""
    piece = np.arange(len(some), dtype=np.int64)
    chosen = np.flatnonzero(some)
    if not len(chosen):
        return piece
    steps = np.round(corners[chosen].reshape(-1, 3) / near_m).astype(np.int64)
    keys = folded([np.repeat(plane[chosen], 3), *steps.T])
    _, place = np.unique(keys, return_inverse=True)
    # Triangles and the places of their corners are linked to each other.
    rows, size = np.repeat(np.arange(len(chosen)), 3), len(chosen) + int(place.max()) + 1
    links = scipy.sparse.csr_array((np.ones(len(rows)), (rows, len(chosen) + place)), shape=(size, size))
    labels = scipy.sparse.csgraph.connected_components(links, directed=False)[1][: len(chosen)]
    # The first triangle of a piece gives it its number.
    first = np.full(int(labels.max()) + 1, len(some), np.int64)
    np.minimum.at(first, labels, chosen)
    piece[chosen] = first[labels]
    return piece


def _means(group: Ints, count: int) -> scipy.sparse.csr_array:
    """(count, n) what makes means of groups from n rows."""
    weight = 1.0 / np.maximum(np.bincount(group, minlength=count), 1)
    return scipy.sparse.csr_array((weight[group], (group, np.arange(len(group)))), shape=(count, len(group)))


def _facing(model: Model, faces: Ints, normal: Floats) -> Floats:
    """(k, 3, 3) the direction at each corner, on the side that the winding faces: normals of files point to
    either."""
    shading = model.normals[model.faces[faces]].astype(float)
    side = np.einsum("ikj,ij->ik", shading, normal)
    shading = np.where(np.abs(side)[..., None] < 0.3, normal[:, None], shading * np.sign(side)[..., None])
    unit: Floats = shading / np.maximum(np.linalg.norm(shading, axis=-1, keepdims=True), 1e-9)
    return unit


def folded(columns: Iterable[Ints], into: npt.NDArray[np.uint64] | None = None) -> npt.NDArray[np.uint64]:
    """(k,) one number for the whole numbers (k,) of each row, taken ``into`` those that there are already."""
    code = into
    for column, prime in zip(columns, PRIMES, strict=False):
        mixed = (column * prime).view(np.uint64)
        if code is None:
            code = mixed
            continue
        turned = code << np.uint64(9)
        turned ^= code >> np.uint64(55)
        turned ^= mixed
        code = turned
    assert code is not None
    return code


def _shared(keys: npt.NDArray[np.uint64], at: Floats, facing: Floats, weight: Floats) -> tuple[Ints, Ints]:
    """(k,) which point each corner shares, and the corner that each point is taken from: a mean of corners of
    something round would lie inside it."""
    _, index = np.unique(keys, return_inverse=True)
    index = index.astype(np.int64)
    count = int(index.max()) + 1 if len(index) else 0
    heavy = np.maximum(weight, 1e-9)
    total = np.bincount(index, weights=heavy, minlength=count)
    mean = np.stack(
        [np.bincount(index, weights=heavy * at[:, k], minlength=count) / total for k in range(3)], axis=1
    )
    # The foremost speaks for all: what lies behind it may be covered, as a post is by the slats of a bench.
    off = at - mean[index]
    behind = -np.einsum("ij,ij->i", off, facing) + 0.25 * np.linalg.norm(off, axis=1)
    return index, _least(index, behind, count)


def _least(index: Ints, values: Floats, count: int) -> Ints:
    """(count,) of each group the row with the least value, the first of several."""
    if not count:
        return np.zeros(0, np.int64)
    order = np.argsort(index, kind="stable")
    group, value = index[order], values[order]
    least = np.minimum.reduceat(value, np.searchsorted(group, np.arange(count)))
    rows = np.flatnonzero(value == least[group])
    first = np.flatnonzero(np.diff(group[rows], prepend=-1))
    return order[rows[first]]


def _weights(place: Floats, chosen: Ints) -> scipy.sparse.csr_array:
    """(corners, k) how much of each point a corner shows."""
    corners, points = len(place), len(chosen)
    if not points:
        return scipy.sparse.csr_array((corners, points))
    near = min(NEAR_POINTS, points)
    nearest = scipy.spatial.cKDTree(place[chosen]).query(place, near, workers=-1)
    away, which = np.reshape(nearest[0], (corners, near)), np.reshape(nearest[1], (corners, near))
    # Beyond the last neighbour a point counts nothing; at a point itself it counts for nearly all.
    reach = np.minimum(np.maximum(away[:, -1:], 0.3) * 1.05, 3.0)
    weight = np.maximum(1.0 - away / reach, 0.0) ** 2 / (away**2 + 0.02)
    weight[:, 0] = np.maximum(weight[:, 0], 1e-6)
    weight /= weight.sum(axis=1, keepdims=True)
    rows = np.repeat(np.arange(corners), near)
    return scipy.sparse.csr_array((weight.ravel(), (rows, which.ravel())), shape=(corners, points))
