"""The five plain ways to move a camera: turn, slide, lift, step, circle.

Slide, lift and step move the eye without turning it; turn changes the direction in place; circle goes round
the point that is looked at.  Nothing drifts: slide and step stay level, lift is vertical, and the heights of
eye and aim are untouched by turning.
"""

from __future__ import annotations

import math
from dataclasses import replace

from altana.core.conventions import Vec3, wrap_heading
from altana.core.project import Camera

WAYS = ("turn", "slide", "lift", "step", "circle")
STEEPEST_TILT_DEG = 89.0


def turn(camera: Camera, heading_deg: float, tilt_deg: float = 0.0) -> Camera:
    """Rotate in place by these angles (clockwise, upwards)."""
    tilt = max(-STEEPEST_TILT_DEG, min(STEEPEST_TILT_DEG, camera.tilt_deg + tilt_deg))
    return replace(camera, heading_deg=wrap_heading(camera.heading_deg + heading_deg), tilt_deg=tilt)


def _moved(camera: Camera, ahead_m: float, right_m: float, up_m: float) -> Camera:
    heading = math.radians(camera.heading_deg)
    sin_h, cos_h = math.sin(heading), math.cos(heading)
    x, y, z = camera.eye
    return replace(
        camera, eye=(x + sin_h * ahead_m + cos_h * right_m, y + cos_h * ahead_m - sin_h * right_m, z + up_m)
    )


def slide(camera: Camera, right_m: float) -> Camera:
    """Sideways, level."""
    return _moved(camera, 0.0, right_m, 0.0)


def lift(camera: Camera, up_m: float) -> Camera:
    """Straight up or down."""
    return _moved(camera, 0.0, 0.0, up_m)


def step(camera: Camera, ahead_m: float) -> Camera:
    """Forward or back on the level, whatever the tilt; the aim stays where it was."""
    moved = _moved(camera, ahead_m, 0.0, 0.0)
    return replace(moved, aim_m=max(0.1, camera.aim_m - ahead_m))


def circle(camera: Camera, degrees: float, centre: Vec3 | None = None) -> Camera:
    """Round the point that is looked at, or another one, clockwise seen from above, keeping height and
    distance."""
    cx, cy, _ = centre or camera.aim
    x, y, z = camera.eye
    angle = math.radians(degrees)
    dx, dy = x - cx, y - cy
    eye: Vec3 = (
        cx + dx * math.cos(angle) + dy * math.sin(angle),
        cy - dx * math.sin(angle) + dy * math.cos(angle),
        z,
    )
    return replace(camera, eye=eye, heading_deg=wrap_heading(camera.heading_deg + degrees))


def by_pointer(
    camera: Camera, way: str, dx: float, dy: float, reach_m: float, centre: Vec3 | None = None
) -> Camera:
    """A drag in the Frame, in shares of the Frame's width and height (right and down positive).

    ``reach_m`` scales slide, lift and step: about the distance of what is looked at.  ``centre`` is what
    circling goes round when it is not what the camera looks at.
    """
    across, high = camera.view().angles_of_view()
    if way == "turn":
        return turn(camera, -dx * across, dy * high)
    if way == "circle":
        return circle(camera, dx * 120.0, centre)
    if way == "step":
        return step(camera, -dy * reach_m)
    width, height = camera.view().sensor_mm
    if way == "slide":
        return slide(camera, -dx * width / camera.focal_mm * reach_m)
    return lift(camera, dy * height / camera.focal_mm * reach_m)
