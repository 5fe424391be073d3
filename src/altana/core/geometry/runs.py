"""Runs: a model's triangles in short rows with their boxes, reckoned once and kept as long as the model.

A run holds up to RUN triangles of one object that stand next to each other in the model.  What asks "what is
near here?" looks at the boxes first and then only at the triangles of few runs; a large model is never gone
through as a whole for a small question.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from weakref import WeakKeyDictionary

import numpy as np

from altana.core.conventions import Floats, Floats32, Ints
from altana.core.model import Model

RUN = 4096
_known: WeakKeyDictionary[Model, Runs] = WeakKeyDictionary()
#: Corners looked up at a time, so that a large model is never held twice.
AT_A_TIME = 3_000_000


@dataclass(frozen=True, slots=True)
class Runs:
    """``first`` and ``count`` (r,) triangles of each run, ``owner`` (r,) its object, ``low`` and ``high``
    (r, 3) float32 its box, metres."""

    first: Ints
    count: Ints
    owner: Ints
    low: Floats32
    high: Floats32

    def within(self, low: Floats, high: Floats) -> Ints:
        """Triangle numbers of all runs whose boxes meet a box (its lowest and highest corner), in rising
        order."""
        return self.triangles(np.flatnonzero(((self.low <= high) & (self.high >= low)).all(axis=1)))

    def beside(self, place: Floats, normal: Floats, within_m: float) -> Ints:
        """Numbers of the runs whose boxes come within a distance of a plane: through ``place`` (3,), across
        ``normal`` (3,)."""
        low, high = self.low.astype(float), self.high.astype(float)
        middle, half = (low + high) / 2.0, (high - low) / 2.0
        return np.flatnonzero(np.abs((middle - place) @ normal) <= half @ np.abs(normal) + within_m)

    def triangles(self, runs: Ints) -> Ints:
        """Triangle numbers of some runs, run after run."""
        count = self.count[runs]
        start = np.repeat(self.first[runs] - (np.cumsum(count) - count), count)
        numbers: Ints = start + np.arange(int(count.sum()))
        return numbers


def runs_of(model: Model) -> Runs:
    """The runs of a model."""
    known = _known.get(model)
    if known is None:
        known = _known[model] = _reckoned(model)
    return known


def keep_runs(model: Model, runs: Runs) -> None:
    """Say what the runs of a model are, where they were kept with it."""
    _known[model] = runs


def joined_runs(models: Sequence[Model], shifts: Sequence[Floats]) -> Runs:
    """The runs of several models one after the other, each shifted by (3,) metres."""
    runs = [runs_of(model) for model in models]
    faces = np.cumsum([0, *(len(model.faces) for model in models)])
    objects = np.cumsum([0, *(len(model.objects) for model in models)])
    return Runs(
        np.concatenate([item.first + first for item, first in zip(runs, faces, strict=False)]),
        np.concatenate([item.count for item in runs]),
        np.concatenate([item.owner + first for item, first in zip(runs, objects, strict=False)]),
        np.concatenate(
            [(item.low + shift).astype(np.float32) for item, shift in zip(runs, shifts, strict=True)]
        ),
        np.concatenate(
            [(item.high + shift).astype(np.float32) for item, shift in zip(runs, shifts, strict=True)]
        ),
    )


def object_boxes(model: Model) -> tuple[Floats, Floats]:
    """Lowest and highest corners of all objects, (objects, 3) each, metres; infinite the wrong way round for
    those without triangles."""
    runs = runs_of(model)
    low, high = np.full((len(model.objects), 3), np.inf), np.full((len(model.objects), 3), -np.inf)
    np.minimum.at(low, runs.owner, runs.low)
    np.maximum.at(high, runs.owner, runs.high)
    return low, high


def _reckoned(model: Model) -> Runs:
    firsts, counts, owners = [], [], []
    for number, item in enumerate(model.objects):
        starts = np.arange(0, item.face_count, RUN)
        firsts.append(item.first_face + starts)
        counts.append(np.minimum(RUN, item.face_count - starts))
        owners.append(np.full(len(starts), number))
    first, count, owner = (
        np.concatenate(parts).astype(np.int64) if parts else np.zeros(0, np.int64)
        for parts in (firsts, counts, owners)
    )
    low, high = np.zeros((len(first), 3), np.float32), np.zeros((len(first), 3), np.float32)
    at = 0
    while at < len(first):
        end = at + max(1, int(np.searchsorted(np.cumsum(count[at:]), AT_A_TIME // 3)))
        begin = int(first[at])
        faces = model.faces[begin : int(first[end - 1] + count[end - 1])]
        steps = first[at:end] - begin
        one, two, three = (model.vertices[faces[:, corner]] for corner in range(3))
        low[at:end] = np.minimum.reduceat(np.minimum(np.minimum(one, two), three), steps)
        high[at:end] = np.maximum.reduceat(np.maximum(np.maximum(one, two), three), steps)
        at = end
    return Runs(first, count, owner, low, high)
