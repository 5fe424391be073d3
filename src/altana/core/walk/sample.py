"""The camera of every film frame.

Frame i of a film at rate R shows the camera at i / R seconds; N frames last N / R.  Pace is even: equal times
cover equal lengths of the route.  The horizon stays level.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from scipy.interpolate import PchipInterpolator
from scipy.ndimage import gaussian_filter1d

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.conventions import Floats, frame_count, parse_rate
from altana.core.geometry.rays import RayScene
from altana.core.project import KEYED, Walk
from altana.core.walk.path import Route, follow_floor, route_through

#: Looking ahead is smoothed over this length of the route, so that corners are anticipated.
ANTICIPATION_M = 0.9


@dataclass(frozen=True, slots=True)
class WalkSamples:
    """One row a film frame.  ``seconds`` (n,), ``eye`` (n, 3) metres, ``heading_deg`` (n,) unwrapped,
    ``tilt_deg``, ``focal_mm`` and ``ev`` (n,); roll and shifts are zero."""

    rate: Fraction
    seconds: Floats
    eye: Floats
    heading_deg: Floats
    tilt_deg: Floats
    focal_mm: Floats
    ev: Floats

    def __len__(self) -> int:
        return len(self.seconds)

    def view(self, frame: int, width_px: int, height_px: int) -> View:
        """The exact picture of one film frame."""
        x, y, z = self.eye[frame].tolist()
        pose = Pose((x, y, z), float(self.heading_deg[frame]) % 360.0, float(self.tilt_deg[frame]))
        return View(pose, Lens(float(self.focal_mm[frame])), width_px, height_px)


@dataclass(frozen=True, slots=True)
class WalkLine:
    """A walk resolved against its building: its route and what it looks at, by distance."""

    walk: Walk
    route: Route

    @property
    def pace_m_s(self) -> float:
        """Even pace in metres a second."""
        return self.route.length_m / self.walk.seconds

    def at_seconds(self, seconds: Floats, rate: Fraction) -> WalkSamples:
        """The cameras at these moments, which need not be whole film frames."""
        moment = np.asarray(seconds, float)
        distance = np.clip(moment / self.walk.seconds, 0.0, 1.0) * self.route.length_m
        keys = self.walk.keys
        heading = self._heading(distance)
        smooth = PchipInterpolator(
            self.route.key_m, np.array([[k.tilt_deg if self.walk.looking == KEYED else 0.0, k.focal_mm, k.ev] for k in keys])
        )(distance)
        return WalkSamples(rate, moment, self.route.at(distance), heading, smooth[:, 0], smooth[:, 1], smooth[:, 2])

    def _heading(self, distance: Floats) -> Floats:
        if self.walk.looking == KEYED:
            turns = np.degrees(np.unwrap(np.radians([key.heading_deg for key in self.walk.keys])))
            keyed: Floats = PchipInterpolator(self.route.key_m, turns)(distance)
            return keyed
        table = np.linspace(0.0, self.route.length_m, len(self.route.points))
        spacing = self.route.length_m / (len(table) - 1)
        ahead = gaussian_filter1d(self.route.heading_at(table), ANTICIPATION_M / spacing, mode="nearest")
        return np.interp(distance, table, ahead)


def resolve(walk: Walk, floors: RayScene | None) -> WalkLine:
    """The walk's route in its building; without ``floors`` the heights of the keys are kept."""
    route = route_through(np.array([key.eye for key in walk.keys]))
    if walk.follow_floor and floors is not None:
        route = follow_floor(route, floors, walk.eye_height_m)
    return WalkLine(walk, route)


def sample(line: WalkLine, rate: Fraction | None = None) -> WalkSamples:
    """The camera of every film frame at a rate (the walk's own when not given): round(seconds x rate) rows."""
    rate = rate or parse_rate(line.walk.rate)
    count = frame_count(line.walk.seconds, rate)
    seconds: Floats = np.arange(count, dtype=float) * (rate.denominator / rate.numerator)
    return line.at_seconds(seconds, rate)
