"""When a walk is where: distance over time, exactly even but for eases, pauses and keys with a second of
their own.

Time runs over pieces of constant acceleration.  Between two keys that have their seconds (start and end
always do) the pace is one and the same; eases begin and end a stretch with constant acceleration, so a
stretch of length L in T seconds with eases a and b is walked at L / (T − a/2 − b/2).  Where two stretches of
different pace meet at a key that is passed without a pause, the pace goes over evenly about the key, which is
passed at its second all the same.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from altana.core.conventions import Floats
from altana.core.errors import Refused
from altana.core.project import Walk

#: The pace goes over from one stretch to the next in this time, where there is room.
PACE_CHANGE_S = 1.2


@dataclass(frozen=True, slots=True)
class Timing:
    """Pieces of constant acceleration: they begin at ``start_s`` (n,) and ``start_m``, with ``speed`` (m/s)
    and ``acceleration`` (m/s²).  ``key_s`` (k,) is when each key is reached, ``dwells`` (m, 2) from when to
    when it pauses, ``eased`` (e, 2) where the pace is not even."""

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
        inside: Floats = np.clip(distance, 0.0, self.length_m)
        return inside

    def pace_at(self, seconds: Floats) -> Floats:
        """(n,) metres a second at moments."""
        moment = np.clip(np.asarray(seconds, float), 0.0, self.seconds)
        index = np.maximum(np.searchsorted(self.start_s, moment, side="right") - 1, 0)
        pace: Floats = self.speed[index] + self.acceleration[index] * (moment - self.start_s[index])
        return pace

    def second_at(self, metres: Floats) -> Floats:
        """(n,) seconds at which distances are first reached; a place where the walk pauses counts when it
        goes on."""
        distance = np.clip(np.asarray(metres, float), 0.0, self.length_m)
        seconds = _passed_at(
            np.column_stack([self.start_s, self.start_m, self.speed, self.acceleration]), distance
        )
        inside: Floats = np.clip(seconds, 0.0, self.seconds)
        return inside


@dataclass(slots=True)
class _Pieces:
    """Gathers pieces while the walk is timed."""

    second: float = 0.0
    metre: float = 0.0
    rows: list[tuple[float, float, float, float]] = field(default_factory=list)
    dwells: list[tuple[float, float]] = field(default_factory=list)
    eased: list[tuple[float, float]] = field(default_factory=list)

    def add(self, lasts: float, speed: float, acceleration: float) -> None:
        """A piece that begins with this speed; one that takes no time is none."""
        if lasts <= 0.0:
            return
        self.rows.append((self.second, self.metre, speed, acceleration))
        if acceleration:
            self.eased.append((self.second, self.second + lasts))
        self.second += lasts
        self.metre += speed * lasts + 0.5 * acceleration * lasts * lasts

    def change(self, lasts: float, speed: float, to_speed: float) -> None:
        """From one speed to another."""
        self.add(lasts, speed, (to_speed - speed) / lasts if lasts > 0.0 else 0.0)

    def pause(self, lasts: float) -> None:
        """Standing still."""
        if lasts > 0:
            self.dwells.append((self.second, self.second + lasts))
            self.add(lasts, 0.0, 0.0)


@dataclass(slots=True)
class _Block:
    """The way from one key that has its second to the next: where it stops, the eases of each stretch between
    stops, the time left for walking evenly, and how its pace changes over from the block before and into the
    block after."""

    stops: list[int]
    eases: list[tuple[float, float]]
    begin_s: float
    end_s: float
    length_m: float
    left_s: float
    from_before_s: float = 0.0
    into_next_s: float = 0.0
    pace: float = 0.0


def timed(walk: Walk, key_m: Floats) -> Timing:
    """The timing of a walkthrough whose keys lie at these distances (k,) along its route.

    Raises Refused where eases, pauses and seconds of keys leave no time to walk.
    """
    keys = walk.keys
    fixed = [0, *(index for index in range(1, len(keys) - 1) if keys[index].at_s is not None), len(keys) - 1]
    moments = [0.0, *(float(keys[index].at_s or 0.0) for index in fixed[1:-1]), walk.seconds]
    if any(b - a <= 1e-6 for a, b in itertools.pairwise(moments)):
        raise Refused("The seconds of keys follow each other, within the length of the walk.")
    spans = zip(itertools.pairwise(fixed), itertools.pairwise(moments), strict=True)
    blocks = [_block(walk, key_m, first, last, begin, end) for (first, last), (begin, end) in spans]
    _paces(walk, key_m, blocks)
    pieces = _Pieces()
    key_s = np.zeros(len(keys))
    for number, block in enumerate(blocks):
        before = blocks[number - 1].pace if number else block.pace
        after = blocks[number + 1].pace if number + 1 < len(blocks) else block.pace
        _lay(walk, key_m, block, pieces, key_s, (before + block.pace) / 2.0, (after + block.pace) / 2.0)
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
        np.array(pieces.dwells).reshape(-1, 2),
        np.array(pieces.eased).reshape(-1, 2),
    )


def _block(walk: Walk, key_m: Floats, first: int, last: int, begin_s: float, end_s: float) -> _Block:
    """What lies between two keys that have their seconds: pauses at the first of them and on the way."""
    keys = walk.keys
    ends_here = last == len(keys) - 1
    stops = [first, *(index for index in range(first + 1, last) if keys[index].dwell_s > 0), last]
    pauses = sum(keys[index].dwell_s for index in stops[:-1]) + (keys[last].dwell_s if ends_here else 0.0)
    eases = [_eases(walk, a, b, len(keys) - 1) for a, b in itertools.pairwise(stops)]
    left = end_s - begin_s - pauses - sum(a + b for a, b in eases) / 2.0
    if left <= 1e-6:
        raise Refused(
            "Pauses and eases take longer than the walk lasts there. Make it longer, or the pauses shorter."
        )
    length = float(key_m[last] - key_m[first])
    return _Block(stops, eases, begin_s, end_s, length, left, pace=length / left)


def _paces(walk: Walk, key_m: Floats, blocks: list[_Block]) -> None:
    """The pace of each block, such that every key with a second is passed at it although the pace goes over
    evenly from one block to the next, half of the change before the key and half after.

    Over a change of d seconds a block of pace v is walked (v − w) d / 8 short of what v alone would do, w
    being the pace of its neighbour: one linear equation a block.
    """
    for before, after in itertools.pairwise(blocks):
        if walk.keys[after.stops[0]].dwell_s > 0:
            continue
        rooms = (_even_s(key_m, before, -1), _even_s(key_m, after, 0))
        before.into_next_s = after.from_before_s = max(
            0.0, min(PACE_CHANGE_S, *(0.9 * room for room in rooms))
        )
    count = len(blocks)
    matrix = np.zeros((count, count))
    for number, block in enumerate(blocks):
        matrix[number, number] = block.left_s - (block.from_before_s + block.into_next_s) / 8.0
        if number:
            matrix[number, number - 1] = block.from_before_s / 8.0
        if number + 1 < count:
            matrix[number, number + 1] = block.into_next_s / 8.0
    paces = np.linalg.solve(matrix, np.array([block.length_m for block in blocks]))
    if _roomy(key_m, blocks, paces):
        for block, pace in zip(blocks, paces.tolist(), strict=True):
            block.pace = pace
        return
    # Too little room to go over evenly anywhere: the pace steps, and the checks say so.
    for block in blocks:
        block.from_before_s = block.into_next_s = 0.0


def _even_s(key_m: Floats, block: _Block, stretch: int) -> float:
    """How long one stretch of a block is walked evenly, as a first guess."""
    a, b = list(itertools.pairwise(block.stops))[stretch]
    return float(key_m[b] - key_m[a]) / max(block.pace, 1e-9) - sum(block.eases[stretch]) / 2.0


def _roomy(key_m: Floats, blocks: list[_Block], paces: Floats) -> bool:
    """Whether these paces are walked forwards and leave every stretch an even part that is not negative."""
    if (paces <= 0).any():
        return False
    for number, block in enumerate(blocks):
        pace = float(paces[number])
        for stretch, (a, b) in enumerate(itertools.pairwise(block.stops)):
            first = block.from_before_s / 2.0 if stretch == 0 else 0.0
            last = block.into_next_s / 2.0 if stretch == len(block.eases) - 1 else 0.0
            neighbours = (
                paces[number - 1] if number else pace,
                paces[number + 1] if number + 1 < len(blocks) else pace,
            )
            walked = first * (3.0 * pace + neighbours[0]) / 4.0 + last * (3.0 * pace + neighbours[1]) / 4.0
            if float(key_m[b] - key_m[a]) - walked - pace * sum(block.eases[stretch]) / 2.0 < 0.0:
                return False
    return True


def _lay(
    walk: Walk, key_m: Floats, block: _Block, pieces: _Pieces, key_s: Floats, coming: float, going: float
) -> None:
    """The pieces of one block; ``coming`` and ``going`` are the paces at which its first and last key are
    passed."""
    pieces.second, pieces.metre = block.begin_s, float(key_m[block.stops[0]])
    begun = len(pieces.rows)
    pace = block.pace
    for number, (a, b) in enumerate(itertools.pairwise(block.stops)):
        ease_in, ease_out = block.eases[number]
        key_s[a] = pieces.second
        pieces.pause(walk.keys[a].dwell_s)
        first = block.from_before_s / 2.0 if number == 0 else 0.0
        last = block.into_next_s / 2.0 if number == len(block.eases) - 1 else 0.0
        walked = (
            (ease_in + ease_out) / 2.0 * pace + first * (coming + pace) / 2.0 + last * (going + pace) / 2.0
        )
        even = (float(key_m[b] - key_m[a]) - walked) / pace if pace > 0 else 0.0
        if even < -1e-9:
            raise Refused("Between two pauses there is no room for their eases. Make them shorter.")
        pieces.change(ease_in, 0.0, pace)
        pieces.change(first, coming, pace)
        pieces.add(max(even, 0.0), pace, 0.0)
        pieces.change(last, pace, going)
        pieces.change(ease_out, pace, 0.0)
    key_s[block.stops[-1]] = pieces.second
    if block.stops[-1] == len(walk.keys) - 1:
        pieces.pause(walk.keys[-1].dwell_s)
    passed = [index for index in range(block.stops[0] + 1, block.stops[-1]) if index not in block.stops]
    if passed:
        key_s[passed] = _passed_at(np.array(pieces.rows[begun:]), key_m[passed])


def _passed_at(rows: Floats, metres: Floats) -> Floats:
    """(n,) seconds at which distances (n,) are passed, by pieces (second, metre, speed, acceleration)."""
    index = np.searchsorted(rows[:, 1], metres, side="right") - 1
    second, metre, speed, acceleration = rows[index].T
    gone = metres - metre
    # The form of the quadratic's root that loses nothing where the acceleration is small.
    reached: Floats = second + 2.0 * gone / np.maximum(
        speed + np.sqrt(np.maximum(speed * speed + 2.0 * acceleration * gone, 0.0)), 1e-12
    )
    return reached


def _eases(walk: Walk, a: int, b: int, last: int) -> tuple[float, float]:
    """How long setting off from one stop and slowing down for the next take."""
    out_of = walk.dwell_ease_s if walk.keys[a].dwell_s > 0 else (walk.ease_in_s if a == 0 else 0.0)
    into = walk.dwell_ease_s if walk.keys[b].dwell_s > 0 else (walk.ease_out_s if b == last else 0.0)
    return out_of, into


def seconds_for_pace(walk: Walk, length_m: float, pace_m_s: float) -> float:
    """How long a walk lasts at a pace: its length walked evenly, with eases and pauses on top."""
    stops: Sequence[int] = [
        0,
        *(i for i in range(1, len(walk.keys) - 1) if walk.keys[i].dwell_s > 0),
        len(walk.keys) - 1,
    ]
    eases = sum(sum(_eases(walk, a, b, len(walk.keys) - 1)) for a, b in itertools.pairwise(stops))
    return length_m / pace_m_s + eases / 2.0 + sum(key.dwell_s for key in walk.keys)
