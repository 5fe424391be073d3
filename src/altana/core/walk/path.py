"""The route: a smooth line through the keys, measured by arc length.

Between the keys runs a cubic Hermite curve with centripetal Catmull-Rom tangents: it passes every key, has a
continuous direction, and does not loop or overshoot where keys stand close together (the centripetal
parameterisation is what guarantees that).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.interpolate import CubicHermiteSpline
from scipy.ndimage import gaussian_filter1d

from altana.core.conventions import Floats
from altana.core.geometry.rays import RayScene

#: Spacing of the table that turns arc length into places; routes are looked up between its rows.
TABLE_STEP_M = 0.02
#: The eye's height follows floors through a smoothing of this length (standard deviation).
STAIR_SMOOTHING_M = 0.45
#: How far above the line between two keys a floor is looked for, and how far below.
HEADROOM_M, REACH_M = 0.35, 4.0


@dataclass(frozen=True, slots=True)
class Route:
    """A walkable line: ``points`` (n, 3) float64 metres at even spacing of ``length_m`` / (n - 1) along
    the ground, and ``key_m`` (k,) the distance at which each key is passed."""

    points: Floats
    key_m: Floats
    length_m: float

    def at(self, distance_m: Floats) -> Floats:
        """(m, 3) places at distances along the route, metres."""
        share = np.clip(np.asarray(distance_m, float) / self.length_m, 0.0, 1.0)
        position = share * (len(self.points) - 1)
        index = np.minimum(position.astype(int), len(self.points) - 2)
        part = (position - index)[:, None]
        place: Floats = self.points[index] * (1.0 - part) + self.points[index + 1] * part
        return place

    def heading_at(self, distance_m: Floats) -> Floats:
        """(m,) degrees, unwrapped: the direction of walking at distances along the route."""
        step = np.diff(self.points[:, :2], axis=0)
        heading = np.unwrap(np.arctan2(step[:, 0], step[:, 1]))
        middle = (np.arange(len(heading)) + 0.5) * (self.length_m / (len(self.points) - 1))
        return np.degrees(np.interp(distance_m, middle, heading))


def curve(keys: Floats) -> CubicHermiteSpline:
    """The smooth curve through (k, 3) key points over the centripetal parameter."""
    gap = np.linalg.norm(np.diff(keys, axis=0), axis=1)
    knots = np.concatenate([[0.0], np.cumsum(np.sqrt(np.maximum(gap, 1e-6)))])
    slope = np.diff(keys, axis=0) / np.diff(knots)[:, None]
    tangents = np.empty_like(keys)
    tangents[0], tangents[-1] = slope[0], slope[-1]
    before, after = np.diff(knots)[:-1, None], np.diff(knots)[1:, None]
    tangents[1:-1] = (slope[:-1] * after + slope[1:] * before) / (before + after)
    return CubicHermiteSpline(knots, keys, tangents)


def route_through(keys: Floats) -> Route:
    """The route through (k, 3) eye points, evenly spaced by arc length.

    Raises ValueError for fewer than two keys or a route without length.
    """
    keys = np.asarray(keys, float)
    if len(keys) < 2:
        raise ValueError("A route needs at least two places.")
    line = curve(keys)
    fine_count = int(np.clip(np.linalg.norm(np.diff(keys, axis=0), axis=1).sum() / TABLE_STEP_M * 4, 400, 400_000))
    parameter = np.union1d(np.linspace(line.x[0], line.x[-1], fine_count), line.x)
    dense = line(parameter)
    along = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(dense, axis=0), axis=1))])
    length = float(along[-1])
    if length < 1e-3:
        raise ValueError("The places of the route all lie in one point.")
    count = max(64, int(length / TABLE_STEP_M) + 1)
    even = np.linspace(0.0, length, count)
    points = np.stack([np.interp(even, along, dense[:, axis]) for axis in range(3)], axis=1)
    return Route(points, np.interp(line.x, parameter, along), length)


def follow_floor(route: Route, rays: RayScene, eye_height_m: float) -> Route:
    """The same line on the plan with the eye at this height above the floor below it, smoothed.

    The floor is found by casting down from a little above the line between the keys; where there is none
    (an open edge) it carries on evenly.  Treads become one ramp: the floor profile is smoothed over
    STAIR_SMOOTHING_M, so the eye neither bobs nor jumps.
    """
    start = route.points + (0.0, 0.0, HEADROOM_M)
    floor = rays.floors_below(start, reach_m=REACH_M)
    known = np.isfinite(floor)
    if not known.any():
        return route
    index = np.arange(len(floor))
    floor = np.interp(index, index[known], floor[known])
    spacing = route.length_m / (len(route.points) - 1)
    ramp = _stairs_to_ramps(floor, spacing)
    smooth = gaussian_filter1d(ramp, STAIR_SMOOTHING_M / spacing, mode="nearest")
    points = route.points.copy()
    points[:, 2] = smooth + eye_height_m
    return _measured_again(points, route)


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


def _measured_again(points: Floats, route: Route) -> Route:
    """Even spacing once more after heights were changed, keys kept at their places."""
    along = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(points, axis=0), axis=1))])
    length = float(along[-1])
    even = np.linspace(0.0, length, len(points))
    spaced = np.stack([np.interp(even, along, points[:, axis]) for axis in range(3)], axis=1)
    old = np.linspace(0.0, route.length_m, len(points))
    return Route(spaced, np.interp(np.interp(route.key_m, old, np.arange(len(points))), np.arange(len(points)), along), length)
