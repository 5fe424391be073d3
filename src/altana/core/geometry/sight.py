"""Sight: what really stops a line of sight, panes and what is left out being passed."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from altana.core.conventions import Bools, Floats
from altana.core.geometry.rays import Hits, RayScene
from altana.core.model import GLASS, Model

#: Behind a pane the ray goes on this much further; so many are passed at most.
STEP_M, MOST_PANES = 1e-4, 24


def passed_faces(model: Model, omitted: Iterable[int] = ()) -> Bools:
    """(faces,) bool: which triangles sight goes through: panes, and those of omitted objects (by number)."""
    panes = np.array([material.kind == GLASS for material in model.materials], bool)
    passed: Bools = panes[model.face_material]
    gone = list(omitted)
    return passed | np.isin(model.face_objects(), gone) if gone else passed


def see(rays: RayScene, start: Floats, along: Floats, passed: Bools) -> Hits:
    """The first thing that stops each ray.

    start, along : (n, 3), metres and unit vectors; passed : (faces,) as from :func:`passed_faces`.
    """
    face = np.full(len(start), -1, np.int32)
    reached, gone = np.full(len(start), np.inf), np.zeros(len(start))
    left = np.arange(len(start))
    for _ in range(MOST_PANES):
        hit = rays.cast(start[left] + along[left] * gone[left, None], along[left])
        met = hit.face >= 0
        through = met & passed[hit.face]
        stopped = met & ~through
        face[left[stopped]] = hit.face[stopped]
        reached[left[stopped]] = gone[left[stopped]] + hit.distance_m[stopped]
        gone[left[through]] += hit.distance_m[through] + STEP_M
        left = left[through]
        if not len(left):
            break
    return Hits(face, reached)
