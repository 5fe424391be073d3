"""Points of a scan as small surfaces: something to look at, to stand on and to cut, like everything else.

Each point becomes a triangle in the plane of its neighbours, as wide as they lie apart.  More points than can
be drawn are thinned to an even grid, which keeps the mean of the points in each cell.
"""

from __future__ import annotations

from typing import Any

import numpy as np
import scipy

from altana.core.conventions import Floats, Ints
from altana.core.distinct import distinct
from altana.core.geometry.cross import crossed
from altana.core.model import Material, Problem
from altana.importers.naming import stable_id
from altana.importers.raw import LARGEST_M, Part, RawModel

MOST_POINTS = 1_500_000
NEIGHBOURS = 8
#: A triangle reaches so many times the distance to the next points: where they lie by chance, nine tenths of
#: a floor are then closed.
REACH = 2.3


def splatted(name: str, points: Floats, colours: Any, raw: RawModel, number: int = 0) -> None:
    """Add the points of a scan, (n, 3) metres with (n, 4) uint8 colours or None, as one object."""
    sound = (np.abs(points) < LARGEST_M).all(axis=1)
    points = points[sound]
    shades = (
        np.full((len(points), 4), 200, np.uint8) if colours is None else np.asarray(colours, np.uint8)[sound]
    )
    shades[:, 3] = 255
    if not len(points):
        return
    middle = np.median(points, axis=0)
    place, shades, spacing = thinned(points - middle, shades, MOST_POINTS)
    if len(place) < len(points):
        sentence = f"The scan has {len(points)} points; {len(place)} are shown, {spacing * 100:.1f} cm apart."
        raw.problems.append(Problem("thinned", sentence))
    normals, reach = _lie(place)
    across = crossed(normals, np.where(np.abs(normals[:, 2:3]) > 0.9, (1.0, 0.0, 0.0), (0.0, 0.0, 1.0)))
    across /= np.maximum(np.linalg.norm(across, axis=1, keepdims=True), 1e-12)
    up = crossed(normals, across)
    angle = np.radians([90.0, 210.0, 330.0])
    corner = across[:, None] * np.cos(angle)[None, :, None] + up[:, None] * np.sin(angle)[None, :, None]
    vertices = (place[:, None] + corner * (reach * REACH)[:, None, None]).reshape(-1, 3) + middle
    raw.materials.append(Material("Scan", (1.0, 1.0, 1.0, 1.0), roughness=1.0))
    raw.parts.append(
        Part(
            stable_id(f"{name} {number}" if number else name),
            name,
            "Scan",
            "",
            len(raw.materials) - 1,
            vertices,
            np.arange(len(vertices)).reshape(-1, 3),
            np.repeat(normals, 3, axis=0),
            None,
            np.repeat(shades, 3, axis=0),
        )
    )
    raw.rooms_wanted = False


def thinned(points: Floats, colours: Any, most: int) -> tuple[Floats, Any, float]:
    """At most about ``most`` points on an even grid: places, colours, and the grid's step in metres (0 where
    all are kept)."""
    if len(points) <= most:
        return points, colours, 0.0
    # A scan lies on surfaces, so half as many cells hold a quarter of its points; the step is found from a
    # first try.
    size = np.ptp(np.percentile(points, [1, 99], axis=0), axis=0)
    step = float(np.sqrt(max(size[0] * size[1], size[0] * size[2], size[1] * size[2], 1e-12) / most))
    while True:
        cell = _cells(points, step)
        count = len(distinct(cell))
        if count <= most:
            break
        step *= max(1.15, float(np.sqrt(count / most)))
    _, which, share = np.unique(cell, return_inverse=True, return_counts=True)
    mean = np.stack([np.bincount(which, weights=points[:, axis]) / share for axis in range(3)], axis=1)
    shade = np.stack([np.bincount(which, weights=colours[:, axis]) / share for axis in range(4)], axis=1)
    return mean, np.rint(shade).astype(np.uint8), step


def _cells(points: Floats, step: float) -> Ints:
    at = np.floor(points / step).astype(np.int64)
    at -= at.min(axis=0)
    wide = at.max(axis=0) + 1
    cells: Ints = (at[:, 2] * wide[1] + at[:, 1]) * wide[0] + at[:, 0]
    return cells


def _lie(points: Floats) -> tuple[Floats, Floats]:
    """(n, 3) directions square to the plane of each point's neighbours, and (n,) distances to the next
    points, metres."""
    count = min(NEIGHBOURS, len(points))
    if count < 3:
        return np.tile((0.0, 0.0, 1.0), (len(points), 1)), np.full(len(points), 0.02)
    neighbours = scipy.spatial.cKDTree(points).query(points, k=count, workers=-1)
    distance, near = np.asarray(neighbours[0]), np.asarray(neighbours[1])
    normals = np.empty((len(points), 3))
    for start in range(0, len(points), 200_000):
        some = points[near[start : start + 200_000]]
        some = some - some.mean(axis=1, keepdims=True)
        normals[start : start + 200_000] = np.linalg.eigh(np.einsum("nki,nkj->nij", some, some))[1][:, :, 0]
    # Pointing up, or outwards from the middle where a surface stands upright.
    outward = np.where(
        np.abs(normals[:, 2]) > 0.2,
        normals[:, 2],
        np.einsum("ij,ij->i", normals, points - points.mean(axis=0)),
    )
    normals[outward < 0] *= -1.0
    reach = np.median(distance[:, 1:4], axis=1)
    return normals, np.clip(reach, 1e-4, np.percentile(reach, 95) * 3.0 + 1e-4)
