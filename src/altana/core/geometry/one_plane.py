"""Things that lie in one plane, as a cloth on its table or a sign flush with its wall: pictures show the
smaller, and no streaks of both.

What is larger recedes there by a fraction of a millimetre, in pictures alone; what is measured stays where it
is.
"""

from __future__ import annotations

import itertools
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely

from altana.core.conventions import Floats, Floats32, Ints
from altana.core.distinct import distinct
from altana.core.geometry.cross import area_normals
from altana.core.geometry.runs import object_boxes
from altana.core.geometry.shells import outsides
from altana.core.model import Model

#: So far apart things in one plane are put, and planes are one that lie nearer to each other than this,
#: metres.
APART_M, NEAR_M = 2.5e-4, 5e-5
#: Things that share less than this are left, and triangles that are smaller are not looked at, m2.
LEAST_M2, LEAST_FACE_M2 = 1e-4, 1e-5
#: Directions are one that differ less than this, as unit vectors.
LIKE = 1e-3
#: Where along the directions' numbers they are parted: twice, at no round number, as directions of buildings
#: are.
SHIFTS = (0.37, 0.87)
#: Larger models are left as they are; so many triangles are held against all others at a time.
MOST_FACES, AT_A_TIME = 3_000_000, 5_000
#: Two parts are held against each other by so many of their triangles at a time; after so many pairs of
#: triangles it is enough.
LOOKED_AT, MOST_PAIRS = 64, 30_000_000
#: How small an object is goes from 0 (4096 m2 and more) to 255 (40 cm2 and less).
LEAST_LOG2, MOST_LOG2 = -8.0, 12.0


def smallness(low: Floats, high: Floats) -> Ints:
    """(objects,) 0 to 255 by the largest face of each object's box (objects, 3): the smaller of two that lie
    in one plane is seen."""
    sides = np.sort(np.maximum(high - low, 1e-4), axis=1)
    share = (np.log2(sides[:, 1] * sides[:, 2]) - LEAST_LOG2) / (MOST_LOG2 - LEAST_LOG2)
    small: Ints = np.rint(255.0 * (1.0 - np.clip(share, 0.0, 1.0))).astype(np.int64)
    return small


@dataclass(frozen=True, slots=True)
class _Flat:
    """Triangles by their planes: numbers of ``faces``, of their ``plane``, of the ``part`` (what is of one
    object and one material), outward ``normal`` (n, 3) and ``area`` (n,)."""

    faces: Ints
    plane: Ints
    part: Ints
    normal: Floats
    area: Floats

    def only(self, chosen: Ints) -> _Flat:
        """Those of some places."""
        return _Flat(
            self.faces[chosen], self.plane[chosen], self.part[chosen], self.normal[chosen], self.area[chosen]
        )


def receded(model: Model) -> Floats32:
    """(n, 3) float32: the model's vertices, those of the larger of things in one plane a little back; the
    same array where there are none."""
    if not 0 < len(model.faces) <= MOST_FACES:
        return model.vertices
    sides, back = _sides(model), np.zeros((0, 3))
    # Where one direction ends and the next begins two sides of one plane may fall apart; then the other
    # division has them together.
    for shift in SHIFTS:
        moves = _moves(model, _shared_planes(model, sides, shift))
        if moves is not None:
            back = (
                moves
                if not len(back)
                else np.where((moves**2).sum(1, keepdims=True) > (back**2).sum(1, keepdims=True), moves, back)
            )
    return (model.vertices + back).astype(np.float32) if len(back) else model.vertices


def _moves(model: Model, flat: _Flat) -> Floats | None:
    """(n, 3) metres by which vertices go back, None where none does."""
    pairs = _overlapping(model, flat) if len(flat.faces) else np.zeros((0, 3), np.int64)
    if not len(pairs):
        return None
    steps = _steps(model, flat, pairs)
    key = flat.plane * (flat.part.max() + 1) + flat.part
    wanted = np.array(sorted(steps), np.int64)
    at = np.minimum(np.searchsorted(wanted, key), len(wanted) - 1)
    moved = np.flatnonzero(wanted[at] == key)
    step = np.array([steps[item] for item in wanted.tolist()])[at[moved]]
    back = -flat.normal[moved] * (APART_M * step)[:, None]
    vertex = model.faces[flat.faces[moved]].reshape(-1).astype(np.int64)
    # A corner of several triangles of one plane goes back once.
    once = np.unique(vertex * (flat.plane.max() + 1) + np.repeat(flat.plane[moved], 3), return_index=True)[1]
    moves = np.zeros((len(model.vertices), 3))
    np.add.at(moves, vertex[once], np.repeat(back, 3, axis=0)[once])
    return moves


@dataclass(frozen=True, slots=True)
class _Sides:
    """Numbers of triangles that are large enough, their outward ``normal`` (n, 3), how far along it they lie
    and their ``area`` (n,)."""

    faces: Ints
    normal: Floats
    away: Floats
    area: Floats


def _sides(model: Model) -> _Sides:
    corners = model.vertices[model.faces].astype(float)
    corners -= np.median(model.vertices, axis=0)
    doubled = area_normals(corners)
    length = np.linalg.norm(doubled, axis=1)
    sense = outsides(model)
    faces = np.flatnonzero(length > 2 * LEAST_FACE_M2)
    normal = doubled[faces] / length[faces, None] * np.where(sense[faces] < 0, -1.0, 1.0)[:, None]
    # Along an axis: exactly, so that places far away fall into one plane, too.
    axis = np.where(np.abs(normal) > 1.0 - LIKE, np.sign(normal), 0.0)
    level = np.abs(axis).any(axis=1) & (np.ptp(_away(axis, corners[faces]), axis=1) < NEAR_M)
    normal = np.where(level[:, None], axis, normal)
    return _Sides(faces, normal, _away(normal, corners[faces]).mean(axis=1), length[faces] / 2)


def _shared_planes(model: Model, sides: _Sides, shift: float) -> _Flat:
    """The triangles of planes in which there are several materials.  shift : where directions are parted, 0
    to 1."""
    cells = np.floor(sides.normal / LIKE + shift).astype(np.int64) + 1100
    direction = (cells[:, 0] * 2201 + cells[:, 1]) * 2201 + cells[:, 2]
    order = np.lexsort((sides.away, direction))
    first = np.ones(len(order), bool)
    first[1:] = (np.diff(direction[order]) != 0) | (np.diff(sides.away[order]) > NEAR_M)
    plane = np.empty(len(order), np.int64)
    plane[order] = np.cumsum(first) - 1
    material = model.face_material[sides.faces].astype(np.int64)
    kinds = len(model.materials)
    several = np.bincount(distinct(plane * kinds + material) // kinds, minlength=len(order) + 1) > 1
    part = model.face_objects()[sides.faces].astype(np.int64) * kinds + material
    flat = _Flat(sides.faces, plane, part, sides.normal, sides.area)
    return flat.only(np.flatnonzero(several[plane]))


def _away(normal: Floats, corners: Floats) -> Floats:
    """(n, 3) how far along normals (n, 3) the corners (n, 3, 3) of triangles lie."""
    away: Floats = np.einsum("ij,ikj->ik", normal, corners)
    return away


def _overlapping(model: Model, flat: _Flat) -> Ints:
    """(k, 3) planes and two parts each that cover each other there."""
    corners = model.vertices[model.faces[flat.faces]].astype(float)
    corners -= corners.reshape(-1, 3).min(axis=0)
    upright = np.abs(flat.normal).argmax(axis=1)
    across = np.array([[1, 2], [0, 2], [0, 1]])[upright]
    places = np.take_along_axis(corners, across[:, None, :], axis=2)
    # Every plane has ground of its own, side by side.
    _, rank = np.unique(flat.plane, return_inverse=True)
    places[..., 0] += (rank * (2.0 * corners.max() + 1.0))[:, None]
    rings = np.concatenate([places, places[:, :1]], axis=1)
    shapes: npt.NDArray[np.object_] = np.asarray(shapely.polygons(rings), object)
    steep = np.abs(flat.normal)[np.arange(len(upright)), upright]
    return _Search(shapes, flat, rank, len(model.materials), steep).pairs()


class _Search:
    """Looks for parts that cover each other.  shapes : triangles on their planes; rank : the planes' numbers
    without gaps; kinds : how many materials there are; steep : how much smaller areas are there than they
    really are."""

    def __init__(
        self, shapes: npt.NDArray[np.object_], flat: _Flat, rank: Ints, kinds: int, steep: Floats
    ) -> None:
        self._shapes, self._flat, self._rank, self._kinds, self._steep = shapes, flat, rank, kinds, steep
        self._boxes: Floats = shapely.bounds(shapes)
        self._names, self._part = np.unique(flat.part, return_inverse=True)

    def pairs(self) -> Ints:
        """(k, 3) planes and two parts each."""
        tree, keys, looked_at = shapely.STRtree(self._shapes), np.zeros(0, np.int64), 0
        count = len(self._names)
        for start in range(0, len(self._shapes), AT_A_TIME):
            one, two = tree.query(self._shapes[start : start + AT_A_TIME])
            one = one + start
            apart = (one < two) & (self._flat.part[one] % self._kinds != self._flat.part[two] % self._kinds)
            one, two = one[apart], two[apart]
            looked_at += len(apart)
            low, high = (pick(self._part[one], self._part[two]) for pick in (np.minimum, np.maximum))
            key = (self._rank[one] * count + low) * count + high
            left = np.flatnonzero(~np.isin(key, keys))
            best = left[self._best(one[left], two[left], key[left])]
            one, two = one[best], two[best]
            shared = shapely.area(shapely.intersection(self._shapes[one], self._shapes[two]))
            keys = np.union1d(keys, key[best][shared > LEAST_M2 * self._steep[one]])
            if looked_at > MOST_PAIRS:
                break
        first = np.unique(self._rank, return_index=True)[1]
        planes = self._flat.plane[first][keys // count // count]
        return np.stack([planes, self._names[keys // count % count], self._names[keys % count]], axis=1)

    def _best(self, one: Ints, two: Ints, key: Ints) -> Ints:
        """Which few of each ``key`` to look at: those whose boxes share most."""
        a, b = self._boxes[one], self._boxes[two]
        side = np.maximum(np.minimum(a[:, 2:], b[:, 2:]) - np.maximum(a[:, :2], b[:, :2]), 0.0)
        order = np.lexsort((-side[:, 0] * side[:, 1], key))
        fresh = np.ones(len(order), bool)
        fresh[1:] = np.diff(key[order]) != 0
        starts = np.flatnonzero(fresh)
        place = np.arange(len(order)) - starts[np.cumsum(fresh) - 1]
        few: Ints = order[place < LOOKED_AT]
        return few


def _steps(model: Model, flat: _Flat, pairs: Ints) -> dict[int, int]:
    """How many steps each part recedes in its plane, by both in one number: one more than any smaller one
    that it is covered by."""
    parts, kinds = int(flat.part.max()) + 1, len(model.materials)
    small = smallness(*object_boxes(model))
    key = flat.plane * parts + flat.part
    keys, index = np.unique(key, return_inverse=True)
    area = dict(zip(keys.tolist(), np.bincount(index, weights=flat.area).tolist(), strict=True))
    steps: dict[int, int] = {}
    for _, group in itertools.groupby(pairs.tolist(), key=lambda row: row[0]):
        size: dict[int, tuple[float, ...]] = {}
        under: dict[int, set[int]] = {}
        for plane, one, two in group:
            names = plane * parts + one, plane * parts + two
            for name, part in zip(names, (one, two), strict=True):
                size[name] = -float(small[part // kinds]), area[name], float(part)
            lower, upper = sorted(names, key=size.__getitem__, reverse=True)
            under.setdefault(lower, set()).add(upper)
        for name in sorted(size, key=size.__getitem__):
            if name in under:
                steps[name] = 1 + max(steps.get(item, 0) for item in under[name])
    return steps
