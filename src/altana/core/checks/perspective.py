"""One-, two- or three-point: how a picture stands to the building's main directions, and where its lines
vanish.

A picture has a third vanishing point while the camera is tilted or rolled, a second one while it stands at an
angle to the walls.  The main directions are those that most wall area faces.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from altana.core.camera.view import View
from altana.core.conventions import Floats
from altana.core.geometry.cross import area_normals
from altana.core.model import Model

#: Within this a direction counts as met; it shifts a line across a 4K picture by less than a pixel.
MET_DEG = 0.01
BIN_DEG = 0.25
LEAST_SHARE = 0.06


@dataclass(frozen=True, slots=True)
class Perspective:
    """``points`` 1, 2 or 3; ``missing_deg`` the turn that would take one point away (0 for a one-point view),
    and ``words`` that say which turn it is."""

    points: int
    missing_deg: float
    words: str


@dataclass(frozen=True, slots=True)
class Vanishing:
    """A vanishing point: what vanishes there, its place in pixels (None at infinity), and its direction as an
    angle in the picture, degrees clockwise from up."""

    name: str
    place: tuple[float, float] | None
    angle_deg: float


#: Triangles looked at for the directions of walls.
LOOKED_AT = 1_000_000


def main_axes(model: Model) -> tuple[float, ...]:
    """Directions of the building's walls, degrees from 0 to 90 (walls at right angles count together), most
    area first."""
    # Walls are large: an even choice of a very large model's triangles tells their directions as well.
    corner = model.vertices[model.faces[:: max(1, len(model.faces) // LOOKED_AT)]].astype(float)
    cross = area_normals(corner)
    area = np.linalg.norm(cross, axis=1) / 2
    upright = (area > 0.02) & (np.abs(cross[:, 2]) < 2.0 * area * 0.003)
    if not upright.any():
        return ()
    angle = np.degrees(np.arctan2(cross[upright, 0], cross[upright, 1])) % 90.0
    weight = area[upright]
    count = round(90.0 / BIN_DEG)
    # Half a bin on, so that the walls of a building along the axes do not part into the first and the last
    # bin.
    shares = np.bincount(
        (np.floor(angle / BIN_DEG + 0.5).astype(int)) % count, weights=weight, minlength=count
    )
    axes = []
    for bin_number in np.argsort(-shares)[:4].tolist():
        if shares[bin_number] < LEAST_SHARE * weight.sum():
            break
        middle = bin_number * BIN_DEG
        off = (angle - middle + 45.0) % 90.0 - 45.0
        near = np.abs(off) <= BIN_DEG
        exact = middle + float(np.average(off[near], weights=weight[near]))
        # Single-precision corners must not make 90 into 89.9999.
        axes.append(round(exact, 3) % 90.0)
    return tuple(axes)


def square_heading(heading_deg: float, axes: tuple[float, ...]) -> float:
    """The turn, in degrees, from a heading to the nearest main direction."""
    turns = [(axis - heading_deg + 45.0) % 90.0 - 45.0 for axis in axes]
    return min(turns, key=abs) if turns else 0.0


def perspective(view: View, axes: tuple[float, ...]) -> Perspective:
    """How many vanishing points the building has in a view."""
    pose = view.pose
    if abs(pose.tilt_deg) > MET_DEG:
        return Perspective(3, abs(pose.tilt_deg), f"tilt {pose.tilt_deg:+.2f}° off two-point")
    if abs(pose.roll_deg) > MET_DEG:
        return Perspective(3, abs(pose.roll_deg), f"roll {pose.roll_deg:+.2f}° off level")
    turn = square_heading(pose.heading_deg, axes)
    if not axes or abs(turn) > MET_DEG:
        words = f"turn {turn:+.2f}° for one-point" if axes else "no main direction"
        return Perspective(2, abs(turn), words)
    return Perspective(1, 0.0, "square to the building")


def vanishing_points(view: View, axes: tuple[float, ...]) -> tuple[Vanishing, ...]:
    """Where the verticals and the two horizontal main directions vanish."""
    directions: list[tuple[str, Floats]] = [("verticals", np.array([0.0, 0.0, 1.0]))]
    if axes:
        nearest = view.pose.heading_deg + square_heading(view.pose.heading_deg, axes)
        for turned in (0.0, 90.0):
            angle = math.radians(nearest + turned)
            name = f"{(nearest + turned) % 360.0:.1f}°"
            directions.append((name, np.array([math.sin(angle), math.cos(angle), 0.0])))
    return tuple(_vanishing(view, name, direction) for name, direction in directions)


def _vanishing(view: View, name: str, direction: Floats) -> Vanishing:
    x, y, z = (float(value) for value in view.pose.axes() @ direction)
    if abs(z) < 1e-9:
        return Vanishing(name, None, math.degrees(math.atan2(x, y)) % 180.0)
    width, height = view.sensor_mm
    lens = view.lens
    px = view.width_px * (0.5 + (lens.focal_mm * x / z - lens.cross_mm) / width)
    py = view.height_px * (0.5 - (lens.focal_mm * y / z - lens.rise_mm) / height)
    angle = math.degrees(math.atan2(px - view.width_px / 2, view.height_px / 2 - py)) % 360.0
    return Vanishing(name, (px, py), angle)
