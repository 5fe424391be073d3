"""Edges of a model's surfaces, reckoned once and kept as long as the model: which are open or run twice the
same way, and which a draughtsman would draw.

Triangles do not share their corners where materials or directions change, so corners that coincide are joined
first.  Some objects are looked at at a time: no edge belongs to two of them, and a large model takes no more
memory than a middling one.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from weakref import WeakKeyDictionary

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Floats, Floats32, Ints, Ints32
from altana.core.geometry.copies import Copies, copies_of
from altana.core.geometry.cross import crossed
from altana.core.model import Model

#: An edge is drawn where its two faces meet at more than this angle, or where there is one face only.
CREASE_DEG = 25.0
#: Objects with more edges than this read as texture (foliage), not as lines.
BUSIEST_EDGES = 4000
#: Triangles looked at together.
AT_A_TIME = 500_000
_known: WeakKeyDictionary[Model, Edges] = WeakKeyDictionary()


@dataclass(frozen=True, slots=True)
class Edges:
    """``figures`` (4, objects): open edges, edges run along twice in one direction, all edges, and the signed
    volume (m3); ``points`` (k, 2, 3) float32 and ``object_index`` (k,) int32: the edges a draughtsman would
    draw, metres."""

    figures: Floats
    points: Floats32
    object_index: Ints32


def edges_of(model: Model) -> Edges:
    """The edges of a model."""
    known = _known.get(model)
    if known is None:
        known = _known[model] = _reckoned(model)
    return known


def keep_edges(model: Model, edges: Edges) -> None:
    """Say what the edges of a model are, where they were kept with it."""
    _known[model] = edges


def joined_edges(models: Sequence[Model], shifts: Sequence[Floats]) -> Edges:
    """The edges of several models one after the other, each shifted by (3,) metres."""
    edges = [edges_of(model) for model in models]
    objects = np.cumsum([0, *(len(model.objects) for model in models)])
    return Edges(
        np.concatenate([item.figures for item in edges], axis=1),
        np.concatenate(
            [(item.points + shift).astype(np.float32) for item, shift in zip(edges, shifts, strict=True)]
        ),
        np.concatenate(
            [
                (item.object_index + first).astype(np.int32)
                for item, first in zip(edges, objects, strict=False)
            ]
        ),
    )


def welded(vertices: Floats32, faces: Ints32, owner: Ints32) -> tuple[Floats, npt.NDArray[np.int64]]:
    """Vertices of the same object that coincide (to 0.1 mm) become one: (k, 3) float64 and (m, 3) faces."""
    corner = vertices[faces.reshape(-1)].astype(float)
    keys = np.round(corner / 1e-4).astype(np.int64)
    packed = np.column_stack([keys, np.repeat(owner, 3)])
    # A hash per row is far quicker to sort than rows; clashes of 64 bits are not a practical matter.
    mixed = (packed * np.array([73856093, 19349663, 83492791, 2654435761], np.int64)).astype(np.uint64)
    mixed = (
        mixed[:, 0]
        ^ (mixed[:, 1] << np.uint64(17))
        ^ (mixed[:, 2] << np.uint64(34))
        ^ (mixed[:, 3] << np.uint64(5))
    )
    _, first, index = np.unique(mixed, return_index=True, return_inverse=True)
    return corner[first], index.reshape(-1, 3).astype(np.int64)


def _reckoned(model: Model) -> Edges:
    counts = np.array([item.face_count for item in model.objects], np.int64)
    if not counts.sum():
        return Edges(np.zeros((4, len(counts))), np.zeros((0, 2, 3), np.float32), np.zeros(0, np.int32))
    copies = copies_of(model)
    own = np.flatnonzero(copies.own)
    group = (np.cumsum(counts[own]) - counts[own]) // AT_A_TIME
    edges = [_of_objects(model, some) for some in np.split(own, np.flatnonzero(np.diff(group)) + 1)]
    figures = np.zeros((4, len(counts)))
    figures[:, own] = np.concatenate([item.figures for item in edges], axis=1)
    points = np.concatenate([item.points for item in edges])
    return _with_copies(figures, points, np.concatenate([item.object_index for item in edges]), copies)


def _with_copies(figures: Floats, points: Floats32, index: Ints32, copies: Copies) -> Edges:
    """The edges of all objects, from those of objects that are no copies."""
    rest = np.flatnonzero(~copies.own)
    if not len(rest):
        return Edges(figures, points, index)
    figures[:, rest] = figures[:, copies.of[rest]]
    linear = copies.place[rest, :, :3].astype(float)
    figures[3, rest] *= np.linalg.det(linear)
    sorted_ = np.argsort(index, kind="stable")
    points, index = points[sorted_], index[sorted_]
    starts, ends = (np.searchsorted(index, copies.of[rest], side=side) for side in ("left", "right"))
    moved = [points]
    for number, first, end in zip(rest.tolist(), starts.tolist(), ends.tolist(), strict=True):
        if end > first:
            place = copies.place[number]
            moved.append((points[first:end] @ place[:, :3].T + place[:, 3]).astype(np.float32))
    of = np.concatenate([index, np.repeat(rest.astype(np.int32), ends - starts)])
    order = np.argsort(of, kind="stable")
    return Edges(figures, np.concatenate(moved)[order], of[order])


def _of_objects(model: Model, numbers: Ints) -> Edges:
    """The edges of some objects, in their order; ``figures`` of those alone."""
    count = len(numbers)
    items = [model.objects[number] for number in numbers.tolist()]
    owner = np.repeat(np.arange(count, dtype=np.int32), [item.face_count for item in items])
    if items[-1].first_face + items[-1].face_count - items[0].first_face == len(owner):
        used = model.faces[items[0].first_face : items[0].first_face + len(owner)]
    else:
        used = np.concatenate(
            [model.faces[item.first_face : item.first_face + item.face_count] for item in items]
        )
    points, faces = welded(model.vertices, used, owner)
    sound = (faces[:, 0] != faces[:, 1]) & (faces[:, 1] != faces[:, 2]) & (faces[:, 2] != faces[:, 0])
    faces, owner = faces[sound], owner[sound]
    directed = faces[:, [0, 1, 1, 2, 2, 0]].reshape(-1, 2)
    low, high = directed.min(axis=1), directed.max(axis=1)
    key = low * np.int64(len(points) + 1) + high
    order = np.argsort(key, kind="stable")
    first = np.flatnonzero(np.r_[True, np.diff(key[order]) != 0]) if len(key) else np.zeros(0, int)
    uses = np.diff(np.r_[first, len(key)])
    sense = np.where(directed[:, 0] == low, 1, -1)
    balance = np.add.reduceat(sense[order], first) if len(first) else np.zeros(0)
    face = order // 3
    of = owner[face[first]]
    corner = [points[faces[:, k]] for k in range(3)]
    cross = crossed(corner[1] - corner[0], corner[2] - corner[0])
    normal = cross / np.maximum(np.linalg.norm(cross, axis=1, keepdims=True), 1e-20)
    volume = np.einsum("ij,ij->i", corner[0], crossed(corner[1], corner[2])) / 6.0
    pair = uses == 2
    meeting = np.ones(len(first))
    meeting[pair] = np.einsum("ij,ij->i", normal[face[first[pair]]], normal[face[first[pair] + 1]])
    drawn = (uses == 1) | (pair & (meeting < np.cos(np.radians(CREASE_DEG))))
    calm = np.bincount(of[drawn], minlength=count)[of] <= BUSIEST_EDGES
    kept = order[first[drawn & calm]]

    def summed(values: npt.NDArray[np.generic]) -> Floats:
        return np.bincount(of, weights=values.astype(float), minlength=count).astype(float)

    figures = np.stack(
        [
            summed(uses == 1),
            summed(pair & (balance != 0)),
            summed(np.ones(len(first))),
            np.bincount(owner, weights=volume, minlength=count).astype(float),
        ]
    )
    ends = np.stack([low[kept], high[kept]], axis=1)
    return Edges(figures, points[ends].astype(np.float32), numbers[owner[kept // 3]].astype(np.int32))
