"""Where a camera stands and which way it looks."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from altana.core.conventions import Floats, Vec3, wrap_heading
from altana.core.errors import Refused


@dataclass(frozen=True, slots=True)
class Pose:
    """Eye in metres; heading, tilt and roll in degrees (signs: :mod:`altana.core.conventions`)."""

    eye: Vec3
    heading_deg: float = 0.0
    tilt_deg: float = 0.0
    roll_deg: float = 0.0

    @property
    def forward(self) -> Floats:
        """(3,) unit vector along the line of sight."""
        forward: Floats = self.axes()[2]
        return forward

    def axes(self) -> Floats:
        """(3, 3) float64, rows right, up, forward: an orthonormal frame, roll included."""
        heading, tilt, roll = (
            math.radians(self.heading_deg),
            math.radians(self.tilt_deg),
            math.radians(self.roll_deg),
        )
        sin_h, cos_h = math.sin(heading), math.cos(heading)
        sin_t, cos_t = math.sin(tilt), math.cos(tilt)
        forward = np.array([sin_h * cos_t, cos_h * cos_t, sin_t])
        right = np.array([cos_h, -sin_h, 0.0])
        up = np.array([-sin_h * sin_t, -cos_h * sin_t, cos_t])
        sin_r, cos_r = math.sin(roll), math.cos(roll)
        return np.stack([cos_r * right - sin_r * up, cos_r * up + sin_r * right, forward])

    def point_ahead(self, distance_m: float) -> Vec3:
        """The point this far along the line of sight."""
        x, y, z = np.asarray(self.eye) + self.forward * distance_m
        return float(x), float(y), float(z)


def pose_of(world: Floats) -> Pose:
    """The pose of a (4, 4) placement whose axes are x right, y up, looking along -z, of any scale.

    Raises Refused where it has no axes.
    """
    lengths = np.linalg.norm(world[:3, :3], axis=0)
    if not np.isfinite(world).all() or (lengths < 1e-12).any():
        raise Refused("A camera without a direction cannot be taken.")
    axes = world[:3, :3] / lengths
    right, ahead = axes[:, 0], -axes[:, 2]
    heading = math.degrees(math.atan2(ahead[0], ahead[1])) if math.hypot(ahead[0], ahead[1]) > 1e-9 else 0.0
    tilt = math.degrees(math.asin(max(-1.0, min(1.0, float(ahead[2])))))
    turn, lift = math.radians(heading), math.radians(tilt)
    level = np.array([math.cos(turn), -math.sin(turn), 0.0])
    up = np.array([-math.sin(turn) * math.sin(lift), -math.cos(turn) * math.sin(lift), math.cos(lift)])
    roll = math.degrees(math.atan2(-float(right @ up), float(right @ level)))
    x, y, z = world[:3, 3].tolist()
    clean = [0.0 if abs(value) < 1e-6 else value for value in (tilt, roll)]
    return Pose((x, y, z), wrap_heading(round(heading, 9)), clean[0], clean[1])


def direction_to(eye: Vec3, aim: Vec3) -> tuple[float, float, float]:
    """Heading, tilt (degrees) and distance (metres) from an eye to the point it aims at.

    Raises Refused when both are the same point, because no direction follows from that.
    """
    dx, dy, dz = (b - a for a, b in zip(eye, aim, strict=True))
    level = math.hypot(dx, dy)
    distance = math.hypot(level, dz)
    if distance < 1e-9:
        raise Refused("The eye and the aim are the same point.")
    heading = math.degrees(math.atan2(dx, dy)) if level > 1e-12 else 0.0
    return wrap_heading(heading), math.degrees(math.atan2(dz, level)), distance
