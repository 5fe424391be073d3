"""What every side of every point of light sees, by rays: places on other surfaces, and the sky.  It is the
same at every hour."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from typing import TypeVar

import numpy as np

from altana.core.conventions import Bools, Floats, Floats32, Ints, Ints32
from altana.core.geometry.rays import RayScene
from altana.core.light.panes import Panes
from altana.core.light.sky import Sky

#: The rays of a side are taken in so many groups, to know their grain.
GROUPS = 4
#: A side lies inside a body when more than this share of its rays meets bodies from within.
INSIDE = 0.4
#: Rays leave surfaces so far before them.
START_M = 0.012
#: Rays looked at in one go, and threads.
AT_ONCE, THREADS = 1 << 18, 2

_Made = TypeVar("_Made")


def in_parts(count: int, work: Callable[[slice], _Made]) -> list[_Made]:
    """Work over slices of ``count`` rows, in several threads: nearly all of it goes on outside Python's
    lock."""
    parts = [slice(start, start + AT_ONCE) for start in range(0, count, AT_ONCE)]
    if len(parts) < 2:
        return [work(part) for part in parts]
    with ThreadPoolExecutor(THREADS) as pool:
        return list(pool.map(work, parts))


def sun_at(rays: RayScene, panes: Panes | None, place: Floats32, facing: Floats32, sun: Floats32) -> Floats32:
    """(k, 3 or 1) what comes of the sun, towards (3,), to places (k, 3) on surfaces that face (k, 3): nothing
    in shadow, else what panes leave of it."""
    left = np.zeros((len(place), 1 if panes is None else panes.passes.shape[1]), np.float32)
    start = place + facing * np.float32(START_M)
    clear = np.flatnonzero(~rays.shaded(start, np.broadcast_to(sun, start.shape), alone=True))
    if panes is None:
        left[clear] = 1.0
    elif len(clear):
        out = np.broadcast_to(sun, (len(clear), 3))
        left[clear] = panes.through(start[clear], out, np.full(len(clear), np.inf, np.float32))
    return left


@dataclass(frozen=True, slots=True)
class Met:
    """Rays that met a surface, sorted by side and group: the rays of group g of side s are ``starts[GROUPS s
    + g]`` up to the next of ``starts`` (GROUPS n + 1,).  Per ray (k,): the ``side`` whose light it brings,
    the triangle's ``face``, what panes on the way, (k, 3 or 1), ``passed``, and the ``place`` (k, 3) it
    met."""

    starts: Ints
    side: Ints32
    face: Ints32
    passed: Floats32
    place: Floats32

    def receivers(self) -> Ints32:
        """(k,) the side each ray belongs to."""
        lengths = np.diff(self.starts[::GROUPS])
        return np.repeat(np.arange(len(lengths), dtype=np.int32), lengths)

    def kept(self, which: Bools) -> Met:
        """Those of the rays (k,) only."""
        return Met(
            shortened(self.starts, which),
            self.side[which],
            self.face[which],
            self.passed[which],
            self.place[which],
        )

    def sunlit(self, rays: RayScene, panes: Panes | None, sun: Floats, normal: Floats32) -> Floats32:
        """(k, 3 or 1) the cosine of the sun where they were met, 0 in shadow, less what panes keep of it.
        sun : (3,).  normal : (m, 3) of the triangles."""
        result = np.zeros((len(self.side), 1 if panes is None else panes.passes.shape[1]), np.float32)
        if sun[2] <= 0.0:
            return result
        towards, backs = np.asarray(sun, np.float32), (len(self.starts) - 1) // GROUPS // 2

        def some(part: slice) -> None:
            facing = normal[self.face[part]]
            facing[self.side[part] >= backs] *= np.float32(-1.0)
            cosine = facing @ towards
            lit = np.flatnonzero(cosine > 0.0)
            left = sun_at(rays, panes, self.place[part][lit], facing[lit], towards)
            result[part][lit] = cosine[lit, None] * left

        in_parts(len(result), some)
        return result


@dataclass(frozen=True, slots=True)
class Away:
    """Rays that met nothing, sorted as those that did: their directions ``out`` (j, 3), what panes on the way
    ``passed`` (j, 3 or 1), and which came ``straight`` (j,), mirrored by nothing."""

    starts: Ints
    out: Floats32
    passed: Floats32
    straight: Bools

    def straight_of(self, sides: Bools) -> Away:
        """Those that came straight to some sides (n,)."""
        return self.kept(self.straight & np.repeat(sides, np.diff(self.starts[::GROUPS])))

    def reached(self) -> Ints:
        """(n,) how many rays of each side came straight."""
        side = np.repeat(np.arange((len(self.starts) - 1) // GROUPS), np.diff(self.starts[::GROUPS]))
        return np.bincount(side[self.straight], minlength=(len(self.starts) - 1) // GROUPS)

    def with_more(self, other: Away) -> Away:
        """These and those of other sides; no side is in both."""
        order, starts = _merged(self.starts, other.starts)
        parts = ((getattr(self, name), getattr(other, name)) for name in ("out", "passed", "straight"))
        return Away(starts, *(np.concatenate(pair)[order] for pair in parts))

    def kept(self, which: Bools) -> Away:
        """Those of the rays (j,) only."""
        return Away(shortened(self.starts, which), self.out[which], self.passed[which], self.straight[which])

    def brought(self, sky: Sky) -> Floats:
        """(GROUPS n, 3) the light of the sky that they bring to each group, lux times rays."""
        light = np.empty((len(self.passed), 3), np.float32)

        def some(part: slice) -> None:
            shines = sky.luminance(self.out[part])
            light[part] = shines * (np.float32(np.pi) * self.passed[part])

        in_parts(len(light), some)
        return np.stack([sums(self.starts, np.ascontiguousarray(light[:, k])) for k in range(3)], axis=1)


@dataclass(frozen=True, slots=True)
class Seen:
    """What the sides (n,) see: rays that ``met`` something and rays that went ``away``; how many of each side
    ``count`` (n,); and which sides are ``bad`` (n,), inside a body."""

    met: Met
    away: Away
    count: Floats
    bad: Bools

    def without_buried(self, rounds: int = 3) -> Seen:
        """Rays that end on what lies inside a body count nothing: nobody in a room sees the ground that runs
        on below its floor.

        Several times over, for what lies behind what is found to be inside a body.
        """
        seen = self
        for _ in range(rounds):
            receiver = seen.met.receivers()
            # What seems to lie inside itself has nothing else to go by.
            buried = seen.bad[seen.met.side] & ~seen.bad[receiver]
            if not buried.any():
                break
            left = seen.count - np.bincount(receiver[buried], minlength=len(seen.count))
            bad = seen.bad | (left < seen.count * (1.0 - INSIDE))
            seen = Seen(seen.met.kept(~buried), seen.away, left, bad)
        return seen

    def only(self, sides: Bools) -> Seen:
        """What some of the sides (n,) see; the others see nothing."""
        if sides[self.count > 0.0].all():
            return self
        met, away = (
            np.repeat(sides, np.diff(starts[::GROUPS])) for starts in (self.met.starts, self.away.starts)
        )
        return Seen(self.met.kept(met), self.away.kept(away), np.where(sides, self.count, 0.0), self.bad)

    def with_more(self, other: Seen) -> Seen:
        """What these and other sides see; no side is in both."""
        met = self.met
        order, starts = _merged(met.starts, other.met.starts)
        return replace(
            self,
            met=Met(
                starts,
                *(
                    np.concatenate([getattr(met, name), getattr(other.met, name)])[order]
                    for name in ("side", "face", "passed", "place")
                ),
            ),
            away=self.away.with_more(other.away),
            count=self.count + other.count,
        )


def _merged(one: Ints, other: Ints) -> tuple[Ints, Ints]:
    """How rows of two lists, sorted by group, come to lie in one; and where its groups start."""
    rows = [np.repeat(np.arange(len(starts) - 1), np.diff(starts)) for starts in (one, other)]
    return np.argsort(np.concatenate(rows), kind="stable"), one + other


def shortened(starts: Ints, kept: Bools) -> Ints:
    """Where groups start once only rows (k,) that are kept are left."""
    before = np.zeros(len(kept) + 1, np.int64)
    np.cumsum(kept, out=before[1:])
    shortened: Ints = before[starts]
    return shortened


def sums(starts: Ints, values: Floats32) -> Floats:
    """(groups,) the sums of values (k,) by groups; nothing where a group is empty."""
    total = np.zeros(len(starts) - 1)
    some = np.flatnonzero(starts[1:] > starts[:-1])
    if len(some):
        total[some] = np.add.reduceat(values, starts[some])
    return total
