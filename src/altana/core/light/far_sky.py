"""Sky through far openings: a window at the other end of a hall fills a hundredth of what a wall sees, and is
most of its light.

Sides that see so little of it get many more rays, which ask for nothing else.  What rays of either kind bring
of the sky counts alike.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from altana.core.conventions import Bools, Floats, Ints
from altana.core.light.gathering import MORE, RAYS, Gatherer, in_chunks
from altana.core.light.seen import GROUPS, Away, Seen
from altana.core.light.sky import Sky
from altana.core.progress import Progress

#: So many rays of a side ask for nothing but sky, where less than FEW of its others reach it.
OPEN, FEW = 704, 0.04
#: Sides at a time.
CHUNK = 1024


@dataclass(slots=True)
class FarSky:
    """What sides (n,) see of far sky: those that were looked from, ``asked`` (n,), and rays of theirs that
    went ``away``; once any were."""

    gatherer: Gatherer
    asked: Bools = field(init=False)
    away: Away | None = field(init=False, default=None)

    def __post_init__(self) -> None:
        self.asked = np.zeros(len(self.gatherer.sides.position), bool)

    def light(self, sky: Sky, sides: Bools, seen: Seen, more: Seen, progress: Progress | None) -> Floats:
        """(GROUPS n, 3) lux times rays that far sky brings to some sides (n,) beside what they have: less
        what rays they have ``seen`` already, and ``more``, bring too much.  Raises Cancelled."""
        reached = seen.away.reached() + more.away.reached()
        sides = sides & (reached < FEW * (RAYS + MORE))
        if not sides.any():
            return np.zeros((GROUPS * len(sides), 3))
        self._look(np.flatnonzero(sides & ~self.asked), progress)
        assert self.away is not None
        share = (RAYS + MORE) / (RAYS + MORE + OPEN)
        had = seen.away.straight_of(sides).brought(sky) + more.away.straight_of(sides).brought(sky)
        return share * self.away.straight_of(sides).brought(sky) - (1.0 - share) * had

    def _look(self, which: Ints, progress: Progress | None) -> None:
        if len(which):
            found = _joined(in_chunks(which, CHUNK, self._some, progress), len(self.asked))
            self.away = found if self.away is None else self.away.with_more(found)
            self.asked[which] = True

    def _some(self, some: Ints) -> Away:
        """Rays of some sides (k,) that reach the sky, by those sides' groups: ``starts`` is the group (j,) of
        each."""
        gatherer = self.gatherer
        origin, out = (part.reshape(-1, 3) for part in gatherer.rays_of(some, OPEN, 2))
        at = np.flatnonzero(~gatherer.rays.shaded(origin, out, alone=True))
        group = some[at // OPEN] * GROUPS + at % OPEN // (OPEN // GROUPS)
        passed = np.ones((len(at), 1), np.float32)
        if gatherer.panes is not None:
            infinite = np.full(len(at), np.inf, np.float32)
            passed = gatherer.panes.through(origin[at], out[at], infinite)
        return Away(group, out[at], passed, np.ones(len(at), bool))


def _joined(pieces: list[Away], sides: int) -> Away:
    group, out, passed, straight = (
        np.concatenate([getattr(item, name) for item in pieces])
        for name in ("starts", "out", "passed", "straight")
    )
    starts = np.concatenate([[0], np.cumsum(np.bincount(group, minlength=GROUPS * sides))])
    return Away(starts, out, passed, straight)
