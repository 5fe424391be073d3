"""The camera of every film frame.

Frame i of a film at rate R shows the camera at i / R seconds; N frames last N / R.  Pace is even but for
eases and pauses (core/walk/timing.py): equal times cover equal lengths of the route.  The horizon stays
level.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
import scipy

from altana.core.camera.plumb import KEPT_DEG
from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.conventions import Floats, frame_count, parse_rate
from altana.core.geometry.rays import RayScene
from altana.core.light.own import MomentLight
from altana.core.project import AHEAD, KEYED, Camera, Look, Turntable, Walk, WalkKey
from altana.core.walk.path import Route, follow_floor, route_through
from altana.core.walk.timing import Timing, timed

#: Directions are worked out at this spacing along the route.
LOOK_STEP_M = 0.05
MOST_ROWS = 60_000
#: Turning from one thing looked at to another takes as long as this rate needs.
CALM_DEG_S = 36.0


@dataclass(frozen=True, slots=True)
class WalkSamples:
    """One row a film frame.  ``seconds`` (n,), ``eye`` (n, 3) metres, ``heading_deg`` (n,) unwrapped,
    ``tilt_deg``, ``focal_mm``, ``ev``, ``rise_mm``, ``cross_mm`` (n,), ``near_m`` and ``far_m`` (n,) with NaN
    where a bound is off, ``hour`` (n,) local time of day and ``lamps`` (n,) the share of their light that
    lamps give, with NaN where the project's holds; roll is zero."""

    rate: Fraction
    seconds: Floats
    eye: Floats
    heading_deg: Floats
    tilt_deg: Floats
    focal_mm: Floats
    ev: Floats
    rise_mm: Floats
    cross_mm: Floats
    near_m: Floats
    far_m: Floats
    hour: Floats
    lamps: Floats

    def __len__(self) -> int:
        return len(self.seconds)

    def view(self, frame: int, width_px: int, height_px: int) -> View:
        """The exact picture of one film frame."""
        x, y, z = self.eye[frame].tolist()
        pose = Pose((x, y, z), float(self.heading_deg[frame]) % 360.0, float(self.tilt_deg[frame]))
        lens = Lens(
            float(self.focal_mm[frame]),
            rise_mm=float(self.rise_mm[frame]),
            cross_mm=float(self.cross_mm[frame]),
        )
        near, far = (
            float(value[frame]) if np.isfinite(value[frame]) else None for value in (self.near_m, self.far_m)
        )
        return View(pose, lens, width_px, height_px, near, far)

    def light(self, frame: int) -> MomentLight:
        """What of the light of one film frame is keyed."""
        return _keyed_light(float(self.hour[frame]), float(self.lamps[frame]))


def _keyed_light(hour: float, lamps: float) -> MomentLight:
    """What is NaN is not keyed."""
    return MomentLight(hour if math.isfinite(hour) else None, lamps if math.isfinite(lamps) else None)


@dataclass(frozen=True, slots=True)
class WalkLine:
    """A walk resolved against its building: its route, when it is where, and what it looks at by distance."""

    walk: Walk
    route: Route
    timing: Timing
    #: (n,) distances with the (n,) directions there; headings unwrapped.
    look_m: Floats
    look_heading: Floats
    look_tilt: Floats

    @property
    def pace_m_s(self) -> float:
        """The fastest even pace in metres a second."""
        return float(self.timing.speed.max()) if len(self.timing.speed) else 0.0

    def at_seconds(self, seconds: Floats, rate: Fraction) -> WalkSamples:
        """The cameras at these moments, which need not be whole film frames."""
        moment = np.asarray(seconds, float)
        if self.walk.turntable is not None:
            return _round(self.walk.turntable, self.walk, moment, rate)
        distance = self.timing.distance_at(moment)
        keys = self.walk.keys
        smooth = scipy.interpolate.PchipInterpolator(
            self.route.key_m, np.array([[k.focal_mm, k.ev, k.rise_mm, k.cross_mm] for k in keys])
        )(distance)
        near, far = (
            np.interp(distance, self.route.key_m, [math.nan if value is None else value for value in values])
            for values in ([k.near_m for k in keys], [k.far_m for k in keys])
        )
        # Directions have a continuous rate: a straight line between the rows of the table would jerk at each
        # of them.
        heading, tilt = scipy.interpolate.PchipInterpolator(
            self.look_m, np.column_stack([self.look_heading, self.look_tilt])
        )(distance).T
        rise = smooth[:, 2]
        if self.walk.kept_plumb:
            tilt, rise = _kept_plumb(tilt, smooth[:, 0], rise)
        return WalkSamples(
            rate,
            moment,
            self.route.at(distance),
            heading,
            tilt,
            smooth[:, 0],
            smooth[:, 1],
            rise,
            smooth[:, 3],
            near,
            far,
            self._by_time(moment, [key.hour for key in self.walk.keys]),
            self._by_time(moment, [key.lamps for key in self.walk.keys]),
        )

    def _by_time(self, moment: Floats, keyed: list[float | None]) -> Floats:
        """Sun and lamps go by time, not by the way: they move on while the walk pauses.  NaN where no place
        has a value."""
        known = [
            (float(second), value)
            for second, value in zip(self.timing.key_s, keyed, strict=True)
            if value is not None
        ]
        if not known:
            return np.full(len(moment), math.nan)
        values: Floats = np.interp(moment, [second for second, _ in known], [value for _, value in known])
        return values

    def light_at(self, seconds: float) -> MomentLight:
        """What of the light is keyed at a moment."""
        if self.walk.turntable is not None:
            return MomentLight()
        moment = np.array([seconds])
        return _keyed_light(
            float(self._by_time(moment, [key.hour for key in self.walk.keys])[0]),
            float(self._by_time(moment, [key.lamps for key in self.walk.keys])[0]),
        )

    def camera_at(self, seconds: float) -> Camera:
        """The camera at a moment, held at the walk's end."""
        walk = self.walk
        row = self.at_seconds(np.array([min(seconds, walk.seconds)]), parse_rate(walk.rate))
        x, y, z = row.eye[0].tolist()
        return Camera(
            "walk",
            walk.name,
            (x, y, z),
            float(row.heading_deg[0]) % 360.0,
            float(row.tilt_deg[0]),
            focal_mm=float(row.focal_mm[0]),
            rise_mm=float(row.rise_mm[0]),
            cross_mm=float(row.cross_mm[0]),
            near_m=float(row.near_m[0]) if np.isfinite(row.near_m[0]) else None,
            far_m=float(row.far_m[0]) if np.isfinite(row.far_m[0]) else None,
            width_px=walk.width_px,
            height_px=walk.height_px,
            ev=float(row.ev[0]),
            inside=float(row.ev[0]) < 12.5,
            aim_m=3.0,
        )


def _kept_plumb(tilt: Floats, focal: Floats, rise: Floats) -> tuple[Floats, Floats]:
    """Tilt as rise, up to the limit of a camera that is kept plumb."""
    up = np.clip(np.degrees(np.radians(tilt) + np.arctan2(rise, focal)), -KEPT_DEG, KEPT_DEG)
    return np.zeros_like(tilt), focal * np.tan(np.radians(up))


def _directions(walk: Walk, route: Route, pace_m_s: float) -> tuple[Floats, Floats, Floats]:
    """Distances, headings (unwrapped) and tilts along a route."""
    count = int(np.clip(route.length_m / LOOK_STEP_M, 200, MOST_ROWS)) + 1
    table = np.linspace(0.0, route.length_m, count)
    eye = route.at(table)
    heading, tilt = _looked(walk, route, walk.looking, table, eye, None)
    for look in walk.looks:
        other_heading, other_tilt = _looked(walk, route, look.kind, table, eye, look)
        turn = np.degrees(np.unwrap(np.radians(other_heading - heading)))
        least = max(walk.anticipation_m, 0.05)
        over = tuple(
            max(least, _calm_m(float(np.interp(at * route.length_m, table, turn)), pace_m_s))
            for at in (look.start, look.end)
        )
        share = _blend(look, table, route.length_m, over)
        # The short way round where the two directions are mixed evenly.
        middle = int(np.argmin(np.abs(share - 0.5))) if share.max() > 0.5 else int(np.argmax(share))
        turn -= 360.0 * round(float(turn[middle]) / 360.0)
        heading = heading + share * turn
        tilt = tilt + share * (other_tilt - tilt)
    # Nothing is turned by less than a billionth of a degree; smaller numbers only upset divisions.
    return table, np.round(heading, 9), np.round(tilt, 9)


def _looked(
    walk: Walk, route: Route, kind: str, table: Floats, eye: Floats, look: Look | None
) -> tuple[Floats, Floats]:
    if kind == KEYED:
        turns = np.round(_turns(walk.keys), 9)
        keyed = scipy.interpolate.PchipInterpolator(
            route.key_m, np.column_stack([turns, [round(key.tilt_deg, 9) for key in walk.keys]])
        )(table)
        return keyed[:, 0], keyed[:, 1]
    if kind == AHEAD or look is None:
        even = np.linspace(0.0, route.length_m, max(200, int(route.length_m / LOOK_STEP_M)) + 1)
        spacing = even[1] - even[0]
        ahead = scipy.ndimage.gaussian_filter1d(
            route.heading_at(even), max(walk.anticipation_m, 0.05) / spacing, mode="nearest"
        )
        return np.interp(table, even, ahead), np.zeros(len(table))
    towards = np.asarray(look.point, float)
    if look.to is not None:
        share = np.clip((table / route.length_m - look.start) / (look.end - look.start), 0.0, 1.0)
        towards = towards + share[:, None] * (np.asarray(look.to) - towards)
    away = towards - eye
    level = np.maximum(np.hypot(away[:, 0], away[:, 1]), 1e-6)
    return np.degrees(np.unwrap(np.arctan2(away[:, 0], away[:, 1]))), np.degrees(
        np.arctan2(away[:, 2], level)
    )


def _turns(keys: tuple[WalkKey, ...]) -> Floats:
    """(n,) headings of the keys, unwrapped: each reached by the shorter turn, or the longer one where it is
    asked for."""
    turns = np.degrees(np.unwrap(np.radians([key.heading_deg for key in keys])))
    steps = np.diff(turns)
    longer = np.array([key.long_way for key in keys[1:]], bool)
    steps = np.where(longer, steps - np.where(steps > 0.0, 360.0, -360.0), steps)
    turns_whole: Floats = turns[0] + np.concatenate([[0.0], np.cumsum(steps)])
    return turns_whole


def _calm_m(turn_deg: float, pace_m_s: float) -> float:
    """Over what length a turn is blended at a pace so that it stays calm: its middle turns 1.5 times its
    mean."""
    return 1.5 * abs((turn_deg + 180.0) % 360.0 - 180.0) / CALM_DEG_S * pace_m_s


def _blend(look: Look, table: Floats, length_m: float, over_m: tuple[float, ...]) -> Floats:
    """How much of a look counts along the route: eased in before its span and out after it, whole within."""
    begin, end = look.start * length_m, look.end * length_m
    into = (
        np.clip((table - (begin - over_m[0])) / over_m[0], 0.0, 1.0) if begin > 1e-9 else np.ones(len(table))
    )
    out_of = (
        np.clip(((end + over_m[1]) - table) / over_m[1], 0.0, 1.0)
        if end < length_m - 1e-9
        else np.ones(len(table))
    )
    share = np.minimum(into, out_of)
    smooth: Floats = share * share * (3.0 - 2.0 * share)
    return smooth


def _round(table: Turntable, walk: Walk, moment: Floats, rate: Fraction) -> WalkSamples:
    """The cameras of a turntable: at t of T seconds the eye has gone t/T of its sweep; the centre stays in
    the middle."""
    around = np.radians(table.start_deg + table.sweep_deg * moment / walk.seconds)
    x, y, z = table.centre
    eye = np.stack(
        [
            x + table.radius_m * np.sin(around),
            y + table.radius_m * np.cos(around),
            np.full(len(moment), table.eye_m),
        ],
        axis=1,
    )
    heading = np.degrees(around) + 180.0
    up = 0.0 if table.level else math.degrees(math.atan2(z - table.eye_m, table.radius_m))
    tilt, rise = np.full(len(moment), up), np.zeros(len(moment))
    focal = np.full(len(moment), table.focal_mm)
    if walk.kept_plumb:
        tilt, rise = _kept_plumb(tilt, focal, rise)
    off = np.full(len(moment), math.nan)
    return WalkSamples(
        rate,
        moment,
        eye,
        heading,
        tilt,
        focal,
        np.full(len(moment), table.ev),
        rise,
        np.zeros(len(moment)),
        off,
        off,
        off,
        off,
    )


def _circle(table: Turntable) -> Route:
    """The way of a turntable as a route, for drawing and measuring."""
    count = max(64, int(abs(table.sweep_deg)) + 1)
    around = np.radians(table.start_deg + table.sweep_deg * np.linspace(0.0, 1.0, count))
    x, y, _ = table.centre
    points = np.stack(
        [
            x + table.radius_m * np.sin(around),
            y + table.radius_m * np.cos(around),
            np.full(count, table.eye_m),
        ],
        axis=1,
    )
    along = np.linspace(0.0, abs(math.radians(table.sweep_deg)) * table.radius_m, count)
    return Route(points, along, along[[0, -1]])


def resolve(walk: Walk, floors: RayScene | None) -> WalkLine:
    """The walk in its building; without ``floors`` the heights of the keys are kept.  Raises Refused."""
    if walk.turntable is not None:
        route = _circle(walk.turntable)
        pace = route.length_m / walk.seconds
        one, none = np.zeros(1), np.zeros((0, 2))
        timing = Timing(
            walk.seconds,
            route.length_m,
            one,
            one,
            np.array([pace]),
            one,
            np.array([0.0, walk.seconds]),
            none,
            none,
        )
        return WalkLine(
            walk, route, timing, route.along_m, np.zeros(len(route.along_m)), np.zeros(len(route.along_m))
        )
    route = route_through(
        np.array([key.eye for key in walk.keys]),
        [key.bend for key in walk.keys],
        [key.handle for key in walk.keys],
    )
    if walk.follow_floor and floors is not None:
        route = follow_floor(route, floors, walk.eye_height_m, float(timed(walk, route.key_m).speed.max()))
    timing = timed(walk, route.key_m)
    return WalkLine(walk, route, timing, *_directions(walk, route, float(timing.speed.max())))


def sample(line: WalkLine, rate: Fraction | None = None) -> WalkSamples:
    """The camera of every film frame at a rate (the walk's own when not given): round(seconds x rate) rows.

    A closed turntable ends one step before its beginning: frame i of N has gone i/N of the sweep.
    """
    rate = rate or parse_rate(line.walk.rate)
    count = frame_count(line.walk.seconds, rate)
    if line.walk.turntable is not None:
        # Steps of sweep / N, whatever the rate makes of the last fraction of a frame.
        even: Floats = np.arange(count, dtype=float) * (line.walk.seconds / count)
        places = line.at_seconds(even, rate)
        return WalkSamples(
            rate, _seconds(count, rate), *(getattr(places, name) for name in WalkSamples.__slots__[2:])
        )
    return line.at_seconds(_seconds(count, rate), rate)


def _seconds(count: int, rate: Fraction) -> Floats:
    seconds: Floats = np.arange(count, dtype=float) * rate.denominator / rate.numerator
    return seconds
