"""What mesh files hold besides meshes: lines and points as linework, and cameras, which are offered and never mixed in."""

from __future__ import annotations

import math

import numpy as np

from altana.core.conventions import FULL_FRAME_WIDTH_MM, Floats, wrap_heading
from altana.core.model import FoundCamera

#: A point is drawn as a small cross of this half length.
CROSS_M = 0.05
MOST_FOUND = 200


def as_camera(name: str, world: Floats, across_deg: float, aspect: float) -> FoundCamera | None:
    """A camera from its (4, 4) placement (x right, y up, looking along -z) and its angle of view across; None when damaged."""
    axes = world[:3, :3] / np.maximum(np.linalg.norm(world[:3, :3], axis=0), 1e-12)
    right, ahead = axes[:, 0], -axes[:, 2]
    if not (np.isfinite(world).all() and 1.0 < across_deg < 170.0 and 0.02 < aspect < 50.0):
        return None
    heading = math.degrees(math.atan2(ahead[0], ahead[1])) if math.hypot(ahead[0], ahead[1]) > 1e-9 else 0.0
    tilt = math.degrees(math.asin(max(-1.0, min(1.0, float(ahead[2])))))
    turn, lift = math.radians(heading), math.radians(tilt)
    level = np.array([math.cos(turn), -math.sin(turn), 0.0])
    up = np.array([-math.sin(turn) * math.sin(lift), -math.cos(turn) * math.sin(lift), math.cos(lift)])
    roll = math.degrees(math.atan2(-float(right @ up), float(right @ level)))
    focal = FULL_FRAME_WIDTH_MM / (2.0 * math.tan(math.radians(across_deg) / 2))
    width, height = (
        (1920, max(16, round(1920 / aspect))) if aspect >= 1 else (max(16, round(1920 * aspect)), 1920)
    )
    x, y, z = world[:3, 3].tolist()
    clean = [0.0 if abs(value) < 1e-6 else value for value in (tilt, roll)]
    return FoundCamera(
        name, (x, y, z), wrap_heading(round(heading, 9)), clean[0], clean[1], focal, width, height
    )


def crosses(points: Floats) -> Floats:
    """(2n, 2, 3): a small level cross for each of (n, 3) points."""
    arms = np.array([[[-CROSS_M, 0, 0], [CROSS_M, 0, 0]], [[0, -CROSS_M, 0], [0, CROSS_M, 0]]])
    placed: Floats = np.asarray(points, float)[:, None, None, :] + arms[None]
    return placed.reshape(-1, 2, 3)


def chained(points: Floats) -> Floats:
    """(n - 1, 2, 3): the segments of a chain of (n, 3) points."""
    return np.stack([points[:-1], points[1:]], axis=1)
