"""When a walk is where: distance over time, exactly even but for eases, pauses and keys with a second of their own.

Time runs over pieces of constant acceleration.  Between two keys that have their seconds (start and end always do) the
pace is one and the same; eases begin and end a stretch with constant acceleration, so a stretch of length L in T seconds
with eases a and b is walked at L / (T − a/2 − b/2).
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from altana.core.conventions import Floats
from altana.core.project import Walk


@dataclass(frozen=True, slots=True)
class Timing:
    """Pieces of constant acceleration: they begin at ``start_s`` (n,) and ``start_m``, with ``speed`` (m/s) and
    ``acceleration`` (m/s²).  ``key_s`` (k,) is when each key is reached, ``dwells`` (m, 2) from when to when it pauses,
    ``eased`` (e, 2) where the pace is not even."""

    seconds: float
    length_m: float
    start_s: Floats
    start_m: Floats
    speed: Floats
    acceleration: Floats
    key_s: Floats
    dwells: Floats
    eased: Floats

    def distance_at(self, seconds: Floats) -> Floats:
        """(n,) metres along the route at moments, held at its ends."""
        moment = np.clip(np.asarray(seconds, float), 0.0, self.seconds)
        index = np.maximum(np.searchsorted(self.start_s, moment, side="right") - 1, 0)
        gone = moment - self.start_s[index]
        distance = self.start_m[index] + (self.speed[index] + 0.5 * self.acceleration[index] * gone) * gone
        held: Floats = np.clip(distance, 0.0, self.length_m)
        return held

    def pace_at(self, seconds: Floats) -> Floats:
        """(n,) metres a second at moments."""
        moment = np.clip(np.asarray(seconds, float), 0.0, self.seconds)
        index = np.maximum(np.searchsorted(self.start_s, moment, side="right") - 1, 0)
        pace: Floats = self.speed[index] + self.acceleration[index] * (moment - self.start_s[index])
        return pace


@dataclass(slots=True)
class _Pieces:
    """Gathers pieces while the walk is timed."""

    second: float = 0.0
    metre: float = 0.0
    rows: list[tuple[float, float, float, float]] | None = None

    def add(self, lasts: float, speed: float, acceleration: float) -> None:
        if lasts <= 0.0:
            return
        assert self.rows is not None
        self.rows.append((self.second, self.metre, speed, acceleration))
        self.second += lasts
        self.metre += speed * lasts + 0.5 * acceleration * lasts * lasts


def timed(walk: Walk, key_m: Floats) -> Timing:
    """The timing of a walkthrough whose keys lie at these distances (k,) along its route.

    Raises ValueError where eases, pauses and seconds of keys leave no time to walk.
    """
    keys = walk.keys
    fixed = [0, *(index for index in range(1, len(keys) - 1) if keys[index].at_s is not None), len(keys) - 1]
    moments = [0.0, *(float(keys[index].at_s or 0.0) for index in fixed[1:-1]), walk.seconds]
    if any(b - a <= 1e-6 for a, b in itertools.pairwise(moments)):
        raise ValueError("The seconds of keys follow each other, within the length of the walk.")
    pieces = _Pieces(rows=[])
    key_s = np.zeros(len(keys))
    dwells: list[tuple[float, float]] = []
    eased: list[tuple[float, float]] = []
    for (first, last), (begin, end) in zip(itertools.pairwise(fixed), itertools.pairwise(moments), strict=True):
        pieces.second, pieces.metre = begin, float(key_m[first])
        _block(walk, key_m, first, last, end, pieces, key_s, dwells, eased)
    key_s[-1] = walk.seconds - keys[-1].dwell_s
    rows = np.array(pieces.rows)
    return Timing(
        walk.seconds,
        float(key_m[-1]),
        rows[:, 0],
        rows[:, 1],
        rows[:, 2],
        rows[:, 3],
        key_s,
        np.array(dwells).reshape(-1, 2),
        np.array(eased).reshape(-1, 2),
    )


def _block(
    walk: Walk,
    key_m: Floats,
    first: int,
    last: int,
    end_s: float,
    pieces: _Pieces,
    key_s: Floats,
    dwells: list[tuple[float, float]],
    eased: list[tuple[float, float]],
) -> None:
    """Time the keys between two that have their seconds: pauses at the first of them and on the way, one pace."""
    keys = walk.keys
    ends_here = last == len(keys) - 1
    stops = [first, *(index for index in range(first + 1, last) if keys[index].dwell_s > 0), last]
    pauses = sum(keys[index].dwell_s for index in stops[:-1]) + (keys[last].dwell_s if ends_here else 0.0)
    spans = [_eases(walk, a, b, len(keys) - 1) for a, b in itertools.pairwise(stops)]
    begin_s = pieces.second
    left = end_s - begin_s - pauses - sum(a + b for a, b in spans) / 2.0
    length = float(key_m[last] - key_m[first])
    if left <= 1e-6:
        raise ValueError("Pauses and eases take longer than the walk lasts there. Make it longer, or the pauses shorter.")
    pace = length / left
    for (a, b), (ease_in, ease_out) in zip(itertools.pairwise(stops), spans, strict=True):
        key_s[a] = pieces.second
        _pause(pieces, keys[a].dwell_s, dwells)
        stretch = float(key_m[b] - key_m[a])
        even = stretch / pace - (ease_in + ease_out) / 2.0 if pace > 0 else 0.0
        if even < -1e-9:
            raise ValueError("Between two pauses there is no room for their eases. Make them shorter.")
        began = pieces.second
        if ease_in:
            eased.append((began, began + ease_in))
        pieces.add(ease_in, 0.0, pace / ease_in if ease_in else 0.0)
        pieces.add(max(even, 0.0), pace, 0.0)
        if ease_out:
            eased.append((pieces.second, pieces.second + ease_out))
        pieces.add(ease_out, pace, -pace / ease_out if ease_out else 0.0)
        _between(key_m, key_s, a, b, began, ease_in, ease_out, pace, pieces.second)
    key_s[last] = pieces.second
    if ends_here:
        _pause(pieces, keys[last].dwell_s, dwells)


def _eases(walk: Walk, a: int, b: int, last: int) -> tuple[float, float]:
    """How long setting off from one stop and slowing down for the next take."""
    out_of = walk.dwell_ease_s if walk.keys[a].dwell_s > 0 else (walk.ease_in_s if a == 0 else 0.0)
    into = walk.dwell_ease_s if walk.keys[b].dwell_s > 0 else (walk.ease_out_s if b == last else 0.0)
    return out_of, into


def _pause(pieces: _Pieces, lasts: float, dwells: list[tuple[float, float]]) -> None:
    if lasts > 0:
        dwells.append((pieces.second, pieces.second + lasts))
        pieces.add(lasts, 0.0, 0.0)


def _between(
    key_m: Floats, key_s: Floats, a: int, b: int, began: float, ease_in: float, ease_out: float, pace: float, ended: float
) -> None:
    """When the keys on a stretch are passed."""
    whole = float(key_m[b] - key_m[a])
    for index in range(a + 1, b):
        gone = float(key_m[index] - key_m[a])
        if gone < pace * ease_in / 2.0:
            key_s[index] = began + float(np.sqrt(2.0 * gone * ease_in / pace))
        elif whole - gone < pace * ease_out / 2.0:
            key_s[index] = ended - float(np.sqrt(2.0 * (whole - gone) * ease_out / pace))
        else:
            key_s[index] = began + ease_in / 2.0 + gone / pace


def seconds_for_pace(walk: Walk, length_m: float, pace_m_s: float) -> float:
    """How long a walk lasts at a pace: its length walked evenly, with eases and pauses on top."""
    stops: Sequence[int] = [0, *(i for i in range(1, len(walk.keys) - 1) if walk.keys[i].dwell_s > 0), len(walk.keys) - 1]
    eases = sum(sum(_eases(walk, a, b, len(walk.keys) - 1)) for a, b in itertools.pairwise(stops))
    return length_m / pace_m_s + eases / 2.0 + sum(key.dwell_s for key in walk.keys)
