"""Copies: which objects of a model are the same surfaces at other places, so that a card need hold them once.

Files say it in many ways, as instances, mapped items, blocks or not at all; here it is found from the
surfaces themselves.  Two objects with the same triangles, materials and texture coordinates are copies if one
turn, scale and move brings every corner of the one onto that of the other (W. Kabsch, 1976; S. Umeyama,
*Least-squares estimation of transformation parameters*, 1991).
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from weakref import WeakKeyDictionary

import numpy as np

from altana.core.conventions import Bools, Floats, Floats32, Ints, Ints32
from altana.core.distinct import distinct
from altana.core.model import Model

#: Looked for in models of more triangles than this, among objects of more than the second.
MANY, FEWEST = 600_000, 16
#: No corner of a copy lies further from where its original is moved to, metres, and no direction differs by
#: more.
SAME_M, SAME_DIRECTION = 2e-4, 0.02
_known: WeakKeyDictionary[Model, Copies] = WeakKeyDictionary()


@dataclass(frozen=True, slots=True)
class Copies:
    """``of`` (objects,) int32: the object whose surfaces each one has, itself where it is no copy.  ``place``
    (objects, 3, 4) float32: turn, scale and move that bring those surfaces to it, metres."""

    of: Ints32
    place: Floats32

    @property
    def own(self) -> Bools:
        """(objects,) bool: which have surfaces of their own."""
        own: Bools = self.of == np.arange(len(self.of))
        return own


def copies_of(model: Model) -> Copies:
    """The copies of a model; none where it is not large."""
    known = _known.get(model)
    if known is None:
        known = _known[model] = _found(model) if len(model.faces) > MANY else no_copies(len(model.objects))
    return known


def known_copies(model: Model) -> Copies | None:
    """The copies of a model where they were looked for already."""
    return _known.get(model)


def keep_copies(model: Model, copies: Copies) -> None:
    """Say what the copies of a model are, where they were kept with it."""
    _known[model] = copies


def no_copies(count: int) -> Copies:
    """Of a model whose ``count`` objects are all their own."""
    return Copies(np.arange(count, dtype=np.int32), np.tile(np.eye(3, 4, dtype=np.float32), (count, 1, 1)))


def joined_copies(models: Sequence[Model], shifts: Sequence[Floats]) -> Copies | None:
    """The copies of several models one after the other, each shifted by (3,) metres; None where they were not
    looked for in all that have surfaces: many small models may be large together, and then they are looked
    for in the whole, by who draws it."""
    copies = [known_copies(model) if len(model.faces) else no_copies(len(model.objects)) for model in models]
    if any(item is None for item in copies):
        return None
    return _one_after_the_other([item for item in copies if item is not None], models, shifts)


def _one_after_the_other(copies: list[Copies], models: Sequence[Model], shifts: Sequence[Floats]) -> Copies:
    first = np.cumsum([0, *(len(model.objects) for model in models)])
    places = []
    for item, shift in zip(copies, shifts, strict=True):
        place = item.place.astype(float)
        place[..., 3] += shift - place[..., :3] @ shift
        places.append(place.astype(np.float32))
    return Copies(
        np.concatenate([item.of + np.int32(at) for item, at in zip(copies, first, strict=False)]),
        np.concatenate(places),
    )


def vertex_ranges(model: Model) -> tuple[Ints, Ints]:
    """First vertex of each object and the one after its last, (objects,) both; 0 and 0 for objects that share
    vertices with others."""
    low, high = np.zeros(len(model.objects), np.int64), np.zeros(len(model.objects), np.int64)
    for number, item in enumerate(model.objects):
        if item.face_count:
            faces = model.faces[item.first_face : item.first_face + item.face_count]
            low[number], high[number] = int(faces.min()), int(faces.max()) + 1
    order = np.argsort(low, kind="stable")
    order = order[high[order] > 0]
    # How far the vertices of all objects up to each one reach, and which of them reaches so far.
    reach = np.maximum.accumulate(high[order])
    furthest = np.maximum.accumulate(np.where(high[order] == reach, np.arange(len(order)), 0))
    meets = np.flatnonzero(reach[:-1] > low[order][1:])
    shared = distinct(np.concatenate([order[furthest[meets]], order[meets + 1]]))
    low[shared] = high[shared] = 0
    return low, high


def _found(model: Model) -> Copies:
    copies = no_copies(len(model.objects))
    low, high = vertex_ranges(model)
    for group in _alike(model, low, high):
        original = group[0]
        points, directions = _corners(model, low, high, original)
        middle = points.mean(axis=0)
        spread = points - middle
        size = float((spread**2).sum())
        for number in group[1:]:
            place = _place(model, low, high, number, spread, middle, size, directions)
            if place is not None:
                copies.of[number], copies.place[number] = original, place
    return copies


def _alike(model: Model, low: Ints, high: Ints) -> Iterator[list[int]]:
    """Groups of objects whose triangles, materials and texture coordinates are the same, as far as they are
    seen."""
    pictured = np.array([item.pictured for item in model.materials] or [False])
    sizes: dict[tuple[int, int], list[int]] = {}
    for number, item in enumerate(model.objects):
        if item.face_count >= FEWEST and high[number] > 0:
            sizes.setdefault((item.face_count, int(high[number] - low[number])), []).append(number)
    for same in sizes.values():
        groups: dict[bytes, list[int]] = {}
        for number in same if len(same) > 1 else ():
            item = model.objects[number]
            mine = slice(item.first_face, item.first_face + item.face_count)
            corners = slice(int(low[number]), int(high[number]))
            digest = hashlib.blake2b(digest_size=16)
            digest.update(np.ascontiguousarray(model.faces[mine] - np.int32(low[number])).data)
            digest.update(np.ascontiguousarray(model.face_material[mine]).data)
            if pictured[model.face_material[mine]].any():
                digest.update(np.ascontiguousarray(model.uvs[corners]).data)
            if len(model.colours):
                digest.update(np.ascontiguousarray(model.colours[corners]).data)
            groups.setdefault(digest.digest(), []).append(number)
        yield from (group for group in groups.values() if len(group) > 1)


def _corners(model: Model, low: Ints, high: Ints, number: int) -> tuple[Floats, Floats32]:
    mine = slice(int(low[number]), int(high[number]))
    return model.vertices[mine].astype(float), model.normals[mine]


def _place(
    model: Model,
    low: Ints,
    high: Ints,
    number: int,
    spread: Floats,
    middle: Floats,
    size: float,
    directions: Floats32,
) -> Floats32 | None:
    """(3, 4) what brings the original to an object; None where nothing does.  spread : the original's corners
    about its middle."""
    points, own = _corners(model, low, high, number)
    centre = points.mean(axis=0)
    left, strength, right = np.linalg.svd(spread.T @ (points - centre))
    if strength[1] < 1e-9 * max(strength[0], 1e-30) or size <= 0.0:
        # All corners in one line: any turn about it would do.
        return None
    sign = np.array([1.0, 1.0, np.sign(np.linalg.det(left @ right)) or 1.0])
    turn = (left * sign) @ right
    scale = float((strength * sign).sum()) / size
    linear = (turn.T * scale).astype(np.float32)
    move = (centre - linear.astype(float) @ middle).astype(np.float32)
    # As the card reckons it, in single precision.
    back = (spread + middle).astype(np.float32) @ linear.T + move
    if not float(np.abs(back - points).max()) < SAME_M:
        return None
    if not float(np.abs(directions @ turn.astype(np.float32) - own).max()) < SAME_DIRECTION:
        return None
    return np.column_stack([linear, move])
