"""The route: a line through the keys, measured by arc length.

Between the keys run cubic Hermite curves.  At a smooth key the tangent is that of a centripetal Catmull-Rom
curve, which passes every key and neither loops nor overshoots where keys stand close together; at an even one
that of the circle through the key and its neighbours, so that three places on a circle are walked along it;
at a corner the line comes straight in and goes straight out.  A smooth key may carry a handle of its own
instead.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import scipy

from altana.core.conventions import Floats, Ints, Vec2
from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.model import LOWEST_EYE_M
from altana.core.project import CORNER, EVEN, SMOOTH

#: Spacing of the table that turns arc length into places; routes are looked up between its rows.
TABLE_STEP_M = 0.02
MOST_ROWS = 400_000
#: The eye's height follows floors through a smoothing of this length (standard deviation), or a longer one
#: where the pace would otherwise begin or end a climb faster than CALM_M_S2; never so long that a landing is
#: no longer level.
STAIR_SMOOTHING_M, LONGEST_SMOOTHING_M = 0.45, 1.1
CALM_M_S2 = 0.9
#: How far above the line between two keys a floor is looked for, and how far below.
HEADROOM_M, REACH_M = 0.35, 4.0
#: So many floors are looked through below one that lies too high.
LAYERS = 4


@dataclass(frozen=True, slots=True)
class Route:
    """A walkable line: ``points`` (n, 3) float64 metres at distances ``along_m`` (n,) from its start, rising;
    the keys lie among them, at ``key_m`` (k,)."""

    points: Floats
    along_m: Floats
    key_m: Floats

    @property
    def length_m(self) -> float:
        """The whole length."""
        return float(self.along_m[-1])

    def at(self, distance_m: Floats) -> Floats:
        """(m, 3) places at distances along the route, metres."""
        distance = np.clip(np.asarray(distance_m, float), 0.0, self.length_m)
        return np.stack(
            [np.interp(distance, self.along_m, self.points[:, axis]) for axis in range(3)], axis=1
        )

    def heading_at(self, distance_m: Floats) -> Floats:
        """(m,) degrees, unwrapped: the direction of walking at distances along the route."""
        step = np.diff(self.points[:, :2], axis=0)
        moving = np.hypot(step[:, 0], step[:, 1]) > 1e-9
        heading = np.unwrap(np.arctan2(step[moving, 0], step[moving, 1]))
        middle = ((self.along_m[1:] + self.along_m[:-1]) / 2)[moving]
        return (
            np.degrees(np.interp(distance_m, middle, heading))
            if len(heading)
            else np.zeros(len(np.atleast_1d(distance_m)))
        )


def _tangents(
    keys: Floats, knots: Floats, bends: Sequence[str], handles: Sequence[Vec2 | None]
) -> tuple[Floats, Floats]:
    """(k, 3) derivatives by the parameter on arriving at each key, and on leaving it."""
    gap = np.diff(knots)
    run = np.diff(keys, axis=0)
    slope = run / gap[:, None]
    arriving, leaving = np.empty_like(keys), np.empty_like(keys)
    arriving[0] = leaving[0] = slope[0]
    arriving[-1] = leaving[-1] = slope[-1]
    for index in range(len(keys)):
        handle = handles[index]
        if handle is not None and bends[index] == SMOOTH:
            # A cubic's handle is a third of its tangent.
            way = 3.0 * np.array([*handle, 0.0])
            arriving[index] = way / gap[max(index - 1, 0)]
            leaving[index] = way / gap[min(index, len(gap) - 1)]
            continue
        if index in (0, len(keys) - 1):
            continue
        if bends[index] == CORNER:
            arriving[index], leaving[index] = slope[index - 1], slope[index]
            continue
        if bends[index] == EVEN:
            # Turned inside out about the key, the circle through three places becomes a line along its
            # tangent there.
            way = run[index - 1] / max(run[index - 1] @ run[index - 1], 1e-12) + run[index] / max(
                run[index] @ run[index], 1e-12
            )
            way /= max(float(np.linalg.norm(way)), 1e-12)
            # The chord of an arc is shorter than the arc; the tangent is as long as the arc it stands for.
            arriving[index] = way * _arc(run[index - 1], way) / gap[index - 1]
            leaving[index] = way * _arc(run[index], way) / gap[index]
        else:
            both = (slope[index - 1] * gap[index] + slope[index] * gap[index - 1]) / (
                gap[index - 1] + gap[index]
            )
            arriving[index] = leaving[index] = both
    return arriving, leaving


def _arc(chord: Floats, way: Floats) -> float:
    """The length of the arc over a chord whose end tangent is known."""
    length = float(np.linalg.norm(chord))
    half = float(np.arccos(np.clip(chord @ way / max(length, 1e-12), -1.0, 1.0)))
    return length * (half / np.sin(half)) if 1e-6 < half < 3.0 else length


def _knots(keys: Floats) -> Floats:
    """(k,) the parameter at each key: centripetal, so that a short step beside a long one makes no loop."""
    gap = np.linalg.norm(np.diff(keys, axis=0), axis=1)
    return np.concatenate([[0.0], np.cumsum(np.sqrt(np.maximum(gap, 1e-6)))])


def stretch_tangents(
    keys: Floats, bends: Sequence[str], handles: Sequence[Vec2 | None]
) -> tuple[Floats, Floats]:
    """(k - 1, 3) each: how the route leaves the key before each stretch and arrives at the one after it,
    metres over the whole stretch; three times the handles of a cubic."""
    keys = np.asarray(keys, float)
    knots = _knots(keys)
    arriving, leaving = _tangents(keys, knots, list(bends), list(handles))
    over = np.diff(knots)[:, None]
    return over * leaving[:-1], over * arriving[1:]


def route_through(
    keys: Floats, bends: Sequence[str] | None = None, handles: Sequence[Vec2 | None] | None = None
) -> Route:
    """The route through (k, 3) eye points.  bends : how each key is passed; smooth where left out.  handles :
    (k) metres east and north by which the route carries on at a smooth key, None where its neighbours decide.

    Raises Refused for fewer than two keys or a route without length.
    """
    keys = np.asarray(keys, float)
    if len(keys) < 2:
        raise Refused("A route needs at least two places.")
    bends = list(bends or [SMOOTH] * len(keys))
    gap = np.linalg.norm(np.diff(keys, axis=0), axis=1)
    if gap.sum() < 1e-3:
        raise Refused("The places of the route all lie in one point.")
    knots = _knots(keys)
    arriving, leaving = _tangents(keys, knots, bends, list(handles or [None] * len(keys)))
    pieces, ends = [keys[:1]], [0]
    share_of_table = min(1.0, MOST_ROWS * TABLE_STEP_M / max(float(gap.sum()), 1e-9))
    for index in range(len(keys) - 1):
        count = max(16, int(gap[index] / TABLE_STEP_M * 1.3 * share_of_table))
        u = np.linspace(0.0, 1.0, count + 1)[1:, None]
        h = knots[index + 1] - knots[index]
        pieces.append(
            (2 * u**3 - 3 * u**2 + 1) * keys[index]
            + (u**3 - 2 * u**2 + u) * h * leaving[index]
            + (3 * u**2 - 2 * u**3) * keys[index + 1]
            + (u**3 - u**2) * h * arriving[index + 1]
        )
        ends.append(ends[-1] + count)
    points = np.concatenate(pieces)
    points[ends] = keys
    along = _measured(points)
    return Route(points, along, along[ends])


def _measured(points: Floats) -> Floats:
    """Distances along a line of points, each a hair beyond the one before even where two coincide."""
    step = np.linalg.norm(np.diff(points, axis=0), axis=1)
    return np.concatenate([[0.0], np.cumsum(np.maximum(step, 1e-12))])


@dataclass(frozen=True, slots=True)
class FloorProfile:
    """Floor heights under a route: at ``along_m`` (n,), evenly spaced, ``floor_m`` as it really is (treads
    and all) and ``ramp_m`` with each run of treads as one ramp, both (n,) metres."""

    along_m: Floats
    floor_m: Floats
    ramp_m: Floats

    @property
    def spacing_m(self) -> float:
        """Between two rows."""
        return float(self.along_m[1] - self.along_m[0])

    def smoothed(self, over_m: float) -> Floats:
        """(n,) the ramps, smoothed over a length (standard deviation)."""
        smooth: Floats = scipy.ndimage.gaussian_filter1d(self.ramp_m, over_m / self.spacing_m, mode="nearest")
        return smooth

    def smoothing_for(self, pace_m_s: float) -> float:
        """The length over which the ramps are smoothed so that this pace climbs calmly.

        At pace v a height z(s) is felt as an acceleration of v² z''(s).
        """
        over = STAIR_SMOOTHING_M
        while over < LONGEST_SMOOTHING_M and self._felt(over) * pace_m_s**2 > CALM_M_S2:
            over *= 1.1
        return min(over, LONGEST_SMOOTHING_M)

    def _felt(self, over_m: float) -> float:
        bend = np.diff(self.smoothed(over_m), 2) / self.spacing_m**2
        return float(np.abs(bend).max()) if len(bend) else 0.0


def floor_profile(route: Route, rays: RayScene) -> FloorProfile | None:
    """The floors under a route, found by casting down from a little above the line between the keys; where
    there is none (an open edge) the floor carries on evenly.  None where there is no floor at all."""
    count = int(np.clip(route.length_m / TABLE_STEP_M, 64, MOST_ROWS)) + 1
    even = np.linspace(0.0, route.length_m, count)
    floor = _floors_under(route.at(even), rays)
    known = np.isfinite(floor)
    if not known.any():
        return None
    index = np.arange(len(floor))
    floor = np.interp(index, index[known], floor[known])
    return FloorProfile(even, floor, _stairs_to_ramps(floor, route.length_m / (count - 1)))


def _floors_under(line: Floats, rays: RayScene) -> Floats:
    """(n,) floors under the points (n, 3) of a line at eye height, NaN where there is none.

    A floor hardly below the line or above it is that of a steep climb, or the storey above, seen through a
    low ceiling: whichever goes on evenly counts.
    """
    floor = rays.floors_below(line + (0.0, 0.0, HEADROOM_M), reach_m=REACH_M)
    least = line[:, 2] - LOWEST_EYE_M
    above = np.flatnonzero(floor > least)
    if not len(above):
        return floor
    lower = floor.copy()
    for _ in range(LAYERS):
        high = np.flatnonzero(lower > least)
        lower[high] = rays.floors_below(
            np.column_stack([line[high, :2], lower[high] - 0.01]), reach_m=2 * REACH_M
        )
    for run in np.split(above, np.flatnonzero(np.diff(above) > 1) + 1):
        if _steps_beside(lower, floor, run) < _steps_beside(floor, floor, run):
            floor[run] = lower[run]
    return floor


def _steps_beside(within: Floats, floor: Floats, run: Ints) -> float:
    """How far the floors before and behind a run of rows lie from those within, metres; without end where
    there is none within."""
    first, last = int(run[0]), int(run[-1])
    beside = [(first, first - 1)] if first else []
    beside += [(last, last + 1)] if last + 1 < len(floor) else []
    steps = [abs(float(within[at] - floor[other])) for at, other in beside]
    return sum(step for step in steps if np.isfinite(step)) if np.isfinite(within[run]).all() else np.inf


def follow_floor(route: Route, rays: RayScene, eye_height_m: float, pace_m_s: float = 1.0) -> Route:
    """The same line on the plan with the eye at this height above the floor below it, smoothed.

    Treads become one ramp, which is smoothed over STAIR_SMOOTHING_M, or longer at a fast pace: the eye
    neither bobs nor jumps.
    """
    profile = floor_profile(route, rays)
    if profile is None:
        return route
    smooth = profile.smoothed(profile.smoothing_for(pace_m_s))
    points = route.points.copy()
    points[:, 2] = np.interp(route.along_m, profile.along_m, smooth) + eye_height_m
    along = _measured(points)
    return Route(points, along, np.interp(route.key_m, route.along_m, along))


def _stairs_to_ramps(floor: Floats, spacing_m: float) -> Floats:
    """Replace runs of small rises by the straight line through the middles of their treads."""
    change = np.diff(floor)
    rise = np.flatnonzero(np.abs(change) > 0.04)
    if len(rise) < 2:
        return floor
    ramp = floor.copy()
    breaks = np.flatnonzero(np.diff(rise) * spacing_m > 0.6)
    for run in np.split(rise, breaks + 1):
        if len(run) < 2:
            continue
        nodes = np.concatenate([[run[0]], (run[:-1] + run[1:] + 1) // 2, [run[-1] + 1]])
        span = np.arange(nodes[0], nodes[-1] + 1)
        ramp[span] = np.interp(span, nodes, floor[nodes])
    return ramp
