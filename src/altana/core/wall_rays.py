"""Rays that only walls stop: what can be carried away, what grows, a door's leaf, a column, a person are
passed by."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

import numpy as np

from altana.core.conventions import Bools, Floats, Numbers
from altana.core.geometry.cross import crossed
from altana.core.geometry.rays import Hits, RayScene
from altana.core.geometry.runs import object_boxes
from altana.core.geometry.sight import see
from altana.core.model import Model

#: What can be carried away, or grows: no wall, and no limit of one.
LOOSE_PARTS = frozenset({"Furniture", "Light fixture", "Planting", "Vessel", "Sign", "Railing"})
#: What stands before walls besides, by category, as importers and the first words of names have it.
PASSED = LOOSE_PARTS | frozenset(
    {
        "Door", "Column", "Beam", "Member", "Person",
        "People", "Man", "Woman", "Child", "Figure", "Tree", "Trees", "Bush", "Shrub", "Plant", "Plants", "Hedge", "Leaf", "Leaves",
        "Car", "Bicycle", "Lamp", "Lamps", "Post", "Pole", "Bollard", "Bench", "Chair", "Table", "Sofa", "Bed", "Desk", "Shelf", "Curtain",
    }
)  # fmt: skip
#: Always walls, however narrow.
WALLS = frozenset(
    {"Wall", "Walls", "Curtain wall", "Glazing", "Window", "Covering", "Plate", "Facade", "Façade"}
)
#: Whatever else is no wider and no higher than this stands in front of walls.
WIDE_M, HIGH_M = 1.3, 2.7
#: Nor is what is as slender as this a wall, however high: columns, poles, trunks.
SLENDER_M = 0.7
#: A wall has at least one upright plane of this size, and that is so much of its surface or so large by
#: itself; larger models are not looked through for that.
FLAT_M2, FLAT_SHARE, LARGE_M2, UPRIGHT, MOST_FACES = 0.5, 0.05, 4.0, 0.1, 3_000_000


class WallCaster(Protocol):
    """What looks for walls: all triangles of a scene, or only those of walls."""

    def cast(self, origins: Floats, directions: Floats) -> Hits:
        """The first thing that stops each ray."""

    def corners_of(self, faces: Numbers) -> Floats:
        """(n, 3, 3) corners of triangles."""


@dataclass(frozen=True, slots=True)
class WallRays:
    """A scene whose ``passed`` (faces,) triangles stop no ray."""

    rays: RayScene
    passed: Bools

    def cast(self, origins: Floats, directions: Floats) -> Hits:
        """The first wall that stops each ray."""
        return see(self.rays, np.asarray(origins, float), np.asarray(directions, float), self.passed)

    def corners_of(self, faces: Numbers) -> Floats:
        """(n, 3, 3) corners of triangles."""
        return self.rays.corners_of(faces)


def wall_rays(model: Model, rays: RayScene) -> WallRays:
    """Rays that only the walls of a model stop."""
    gone = np.array([item.category in PASSED for item in model.objects], bool)
    low, high = object_boxes(model)
    size = high - low
    wide = size[:, :2].max(axis=1) if len(size) else np.zeros(0)
    small = (wide < SLENDER_M) | (wide < WIDE_M) & (size[:, 2] < HIGH_M) if len(size) else np.zeros(0, bool)
    kept = np.array([item.category in WALLS for item in model.objects], bool)
    return WallRays(rays, (gone | ((small | ~_flat(model)) & ~kept))[model.face_objects()])


def _flat(model: Model) -> Bools:
    """(objects,) bool: which have an upright plane of some size; leaves and fur have many planes, and none of
    any size."""
    count = len(model.objects)
    if not count or len(model.faces) > MOST_FACES:
        return np.ones(count, bool)
    first, second, third = (model.vertices[model.faces[:, corner]].astype(float) for corner in range(3))
    normal = crossed(second - first, third - first)
    double = np.linalg.norm(normal, axis=1)
    normal /= np.maximum(double, 1e-12)[:, None]
    upright = (np.abs(normal[:, 2]) < UPRIGHT) & (double > 1e-9)
    keys = np.column_stack(
        [
            model.face_objects()[upright],
            np.rint(normal[upright, :2] * 30.0),
            np.rint(np.einsum("ij,ij->i", first[upright], normal[upright]) * 5.0),
        ]
    ).astype(np.int64)
    if not len(keys):
        return np.zeros(count, bool)
    planes, place = np.unique(keys, axis=0, return_inverse=True)
    area = np.bincount(place.ravel(), double[upright] / 2.0)
    is_flat = np.zeros(count, bool)
    whole = np.bincount(model.face_objects(), double / 2.0, minlength=count)[planes[:, 0]]
    is_flat[planes[(area >= FLAT_M2) & ((area >= FLAT_SHARE * whole) | (area >= LARGE_M2)), 0]] = True
    return is_flat
