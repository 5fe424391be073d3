"""What mesh files hold besides meshes: lines and points as linework, and cameras, which are offered and never
mixed in."""

from __future__ import annotations

import math

import numpy as np

from altana.core.camera.pose import pose_of
from altana.core.conventions import FULL_FRAME_WIDTH_MM, Floats
from altana.core.errors import Refused
from altana.core.model import FoundCamera

#: A point is drawn as a small cross of this half length.
CROSS_M = 0.05
MOST_FOUND = 200


def as_camera(name: str, world: Floats, across_deg: float, aspect: float) -> FoundCamera | None:
    """A camera from its (4, 4) placement (x right, y up, looking along -z) and its angle of view across; None
    when damaged."""
    if not (np.isfinite(world).all() and 1.0 < across_deg < 170.0 and 0.02 < aspect < 50.0):
        return None
    try:
        pose = pose_of(world)
    except Refused:
        return None
    focal = FULL_FRAME_WIDTH_MM / (2.0 * math.tan(math.radians(across_deg) / 2))
    width, height = (
        (1920, max(16, round(1920 / aspect))) if aspect >= 1 else (max(16, round(1920 * aspect)), 1920)
    )
    return FoundCamera(name, pose.eye, pose.heading_deg, pose.tilt_deg, pose.roll_deg, focal, width, height)


def crosses(points: Floats) -> Floats:
    """(2n, 2, 3): a small level cross for each of (n, 3) points."""
    arms = np.array([[[-CROSS_M, 0, 0], [CROSS_M, 0, 0]], [[0, -CROSS_M, 0], [0, CROSS_M, 0]]])
    placed: Floats = np.asarray(points, float)[:, None, None, :] + arms[None]
    return placed.reshape(-1, 2, 3)


def chained(points: Floats) -> Floats:
    """(n - 1, 2, 3): the segments of a chain of (n, 3) points."""
    return np.stack([points[:-1], points[1:]], axis=1)
