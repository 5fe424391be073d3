"""The headings of walls, as exactly as corners in single precision tell them."""

from __future__ import annotations

import math

import numpy as np

from altana.core.conventions import Floats, Ints, Numbers
from altana.core.geometry.cross import area_normals
from altana.core.wall_rays import WallCaster

#: A wall leans by less than this.
UPRIGHT_DEG = 2.0


def wall_headings(rays: WallCaster, faces: Numbers) -> Floats:
    """(n,) degrees in [0, 360): the heading that faces each triangle squarely; NaN where it is no wall, or
    -1, a ray that met none.

    Models hold corners in single precision: the longest edge tells the direction best, and how exactly it
    does.
    """
    numbers: Ints = np.asarray(faces, np.int64)
    met = numbers >= 0
    corner = rays.corners_of(numbers[met])
    normal = area_normals(corner)
    normal /= np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-30)
    edges = np.roll(corner, -1, axis=1) - corner
    longest = np.linalg.norm(edges[..., :2], axis=2).max(axis=1)
    # Half a unit in the last place at both ends of the longest edge.
    least = np.spacing(np.abs(corner).max(axis=(1, 2)).astype(np.float32)).astype(float)
    doubt = np.degrees(least * 1.5 / np.maximum(longest, 1e-6))
    leans = np.abs(normal[:, 2]) > math.sin(math.radians(UPRIGHT_DEG))
    heading = roundest(np.degrees(np.arctan2(-normal[:, 0], -normal[:, 1])) % 360.0, doubt)
    headings = np.full(len(met), np.nan)
    headings[met] = np.where(leans | (longest < 1e-6), np.nan, heading)
    return headings


def wall_heading(rays: WallCaster, face: int) -> float | None:
    """The heading that faces one triangle squarely, degrees; None where it is no wall, or -1."""
    (heading,) = wall_headings(rays, np.array([face])).tolist()
    return None if math.isnan(heading) else heading


def roundest(angles_deg: Floats, doubts_deg: Floats) -> Floats:
    """(n,) in [0, 360): angles with the fewest decimals within what is known; single precision must not make
    90 into 89.99998."""
    angles = np.array(angles_deg, float)
    open_ = np.ones(len(angles), bool)
    for decimals in range(7):
        rounded = np.round(angles_deg, decimals)
        fits = open_ & (np.abs(rounded - angles_deg) <= doubts_deg)
        angles[fits] = rounded[fits]
        open_ &= ~fits
    wrapped: Floats = angles % 360.0
    # A tiny negative angle rounds to 360.0 exactly, which is outside the range.
    wrapped[wrapped >= 360.0] = 0.0
    return wrapped
