"""Bending a route by pulling at it: a stretch between two places is led through another point by the handles
at its ends."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from altana.core.conventions import Floats, Vec2
from altana.core.errors import Refused
from altana.core.project import SMOOTH, Walk
from altana.core.ranges import HANDLE_M
from altana.core.walk.path import stretch_tangents

#: Near a place its stretch can hardly be pulled: the handles would have to be many times as long as the pull.
SHARES = (0.15, 0.85)
_AT = np.linspace(0.0, 1.0, 101)


def _stretches(walk: Walk) -> list[tuple[Floats, Floats, Floats, Floats]]:
    """(2,) each, for every stretch: the places at both ends, and the handles there, metres."""
    keys = np.array([key.eye for key in walk.keys])
    leaving, arriving = stretch_tangents(
        keys, [key.bend for key in walk.keys], [key.handle for key in walk.keys]
    )
    flat = keys[:, :2]
    return list(zip(flat[:-1], flat[1:], leaving[:, :2] / 3.0, arriving[:, :2] / 3.0, strict=True))


def _curve(start: Floats, end: Floats, ahead: Floats, back: Floats, share: Floats) -> Floats:
    """(n, 2) points of a cubic between two places with their handles."""
    u = np.atleast_1d(share)[:, None]
    inner = 3.0 * u * (1.0 - u)
    return (
        (1.0 - u) ** 3 * start + inner * (1.0 - u) * (start + ahead) + inner * u * (end - back) + u**3 * end
    )


def stretch_at(walk: Walk, place: Vec2) -> tuple[int, float, float]:
    """The stretch of a route that passes nearest to a place of the plan: its number, the share of it, and how
    far off it is, metres."""
    best = (0, 0.5, math.inf)
    for index, stretch in enumerate(_stretches(walk)):
        away = np.hypot(*(_curve(*stretch, _AT) - np.asarray(place)).T)
        nearest = int(np.argmin(away))
        if away[nearest] < best[2]:
            best = (index, float(_AT[nearest]), float(away[nearest]))
    return best


def bent(walk: Walk, index: int, share: float, to: Vec2) -> Walk:
    """The walk with one stretch led through a place of the plan, by the shortest change of the handles at its
    ends.

    index : of the place before the stretch; share : 0 to 1, where on the stretch it is pulled.  Places that
    are corners stay so. Raises Refused where both ends are corners.
    """
    share = min(max(share, SHARES[0]), SHARES[1])
    start, end, ahead, back = _stretches(walk)[index]
    pull = np.asarray(to, float) - _curve(start, end, ahead, back, np.array([share]))[0]
    # How far the curve follows each handle at this share of it.
    follows = [3.0 * share * (1.0 - share) ** 2, -3.0 * share**2 * (1.0 - share)]
    smooth = [walk.keys[number].bend == SMOOTH for number in (index, index + 1)]
    if not any(smooth):
        raise Refused(
            "Both ends of this stretch are sharp corners. Make one of them smooth, then pull again."
        )
    weight = sum(follow**2 for follow, free in zip(follows, smooth, strict=True) if free)
    keys = list(walk.keys)
    for number, handle, follow, free in zip((index, index + 1), (ahead, back), follows, smooth, strict=True):
        if free:
            x, y = _within(handle + pull * follow / weight)
            keys[number] = replace(keys[number], handle=(x, y))
    return replace(walk, keys=tuple(keys))


def _within(handle: Floats) -> Vec2:
    """A handle as long as handles may be."""
    long = float(np.hypot(*handle))
    if long < HANDLE_M.low:
        return (HANDLE_M.low, 0.0)
    # A hair less than the most, so that rounding does not lengthen it.
    x, y = (handle * min(1.0, (HANDLE_M.high - 1e-3) / long)).tolist()
    return (round(x, 4), round(y, 4))
