"""How a hand draws straight lines with a pencil: they waver, overshoot at both ends, and each is gone over
twice.

The hand is the edge's own.  What it does at each place comes from the numbers of edge, turn and place alone,
so that an edge is drawn in the same way in every film frame, whatever else is in the picture and however much
of it is seen.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy

from altana.core.conventions import Bools, Floats, Ints
from altana.core.project import Style

#: Figures are those of a picture of this height, pixels.
HEIGHT_PX = 1080
#: A line bends anew after so many pixels, overshoots by so many at most, and strokes shorter than these are
#: left out.
BEND_PX, OVERSHOOT_PX, SHORTEST_PX = 14.0, 9.0, 2.0
#: What is thrown once for a line; its places come after these.
AHEAD, BEYOND, ASIDE, DARKNESS, PLACES = range(5)


@dataclass(frozen=True, slots=True)
class HandLines:
    """Lines in the order in which they are drawn: ``points`` (n, 2) pixels, of which line i has those from
    ``begin[i]`` to ``begin[i + 1]``; ``grey`` (k,) how dark it is, 0 to 255; ``first`` (k,) whether it is
    drawn for the first time."""

    points: Floats
    begin: Ints
    grey: Ints
    first: Bools


def drawn_by_hand(ends: Floats, edge: Ints, style: Style, height_px: int) -> HandLines:
    """Each stroke as two lines.  ends : (m, 2, 2) pixels.  edge : (m,) the number of the edge it lies on."""
    scale = height_px / HEIGHT_PX
    run = ends[:, 1] - ends[:, 0]
    length = np.hypot(*run.T)
    long = length >= SHORTEST_PX * scale
    ends, run, length, edge = ends[long], run[long], length[long], edge[long]
    turn = np.tile([0, 1], len(length))
    start, along, length = (
        np.repeat(part, 2, axis=0) for part in (ends[:, 0], run / length[:, None], length)
    )
    number = np.repeat(edge.astype(np.int64), 2) * 2 + turn
    rough = style.roughness * scale

    def thrown(what: int) -> Floats:
        return _thrown(style.seed, number, np.int64(what))

    reach = np.minimum(OVERSHOOT_PX * scale, 0.12 * length) * style.roughness * np.where(turn == 0, 1.0, 0.5)
    ahead, beyond = ((0.4 + 0.6 * thrown(what)) * reach for what in (AHEAD, BEYOND))
    count = np.maximum(3, (length / (BEND_PX * scale)).astype(int) + 2)
    begin = np.concatenate([[0], np.cumsum(count)])
    line = np.repeat(np.arange(len(length)), count)
    index = np.arange(begin[-1]) - begin[line]
    place = (ahead + length + beyond)[line] * index / (count[line] - 1) - ahead[line]
    waver = 0.9 * rough * scipy.special.ndtri(_thrown(style.seed, number[line], index + PLACES))
    aside = waver + (0.8 * rough * scipy.special.ndtri(thrown(ASIDE)))[line]
    across = np.column_stack([-along[:, 1], along[:, 0]])
    points = start[line] + along[line] * place[:, None] + across[line] * aside[:, None]
    low, high = np.where(turn == 0, 175.0, 80.0), np.where(turn == 0, 245.0, 140.0)
    grey = (low + (high - low) * thrown(DARKNESS)).astype(int)
    return HandLines(points, begin, grey, turn == 0)


def _thrown(seed: int, number: Ints, what: Ints | np.int64) -> Floats:
    """Evenly spread numbers above 0 and below 1, (n,), by the finalizer of SplitMix64 (Steele, Lea and Flood
    2014)."""
    odd = np.uint64(0x9E3779B97F4A7C15)
    with np.errstate(over="ignore"):
        mixed = np.uint64(seed & 0xFFFFFFFF) * odd + number.astype(np.uint64)
        for more in (np.uint64(0), np.asarray(what).astype(np.uint64)):
            mixed = (mixed + more + np.uint64(1)) * odd
            mixed = (mixed ^ (mixed >> np.uint64(30))) * np.uint64(0xBF58476D1CE4E5B9)
            mixed = (mixed ^ (mixed >> np.uint64(27))) * np.uint64(0x94D049BB133111EB)
            mixed ^= mixed >> np.uint64(31)
    numbers: Floats = (mixed >> np.uint64(11)).astype(np.float64) * 2.0**-53 + 2.0**-54
    return numbers
