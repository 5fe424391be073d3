"""Where sight begins and ends on each line of sight: near and far across the view, and wall cuts along walls.

A bound never touches the building.  Light is not asked: what is cut away still casts its shadow.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from altana.core.camera.view import View
from altana.core.conventions import Bools, Floats, Vec3
from altana.core.geometry.rays import Hits, RayScene
from altana.core.geometry.sight import see
from altana.core.project import Camera

#: A little beyond where sight begins the room begins as well.
STEP_IN_M = 0.02


def sight_begins(view: View, along: Floats) -> Floats:
    """(n,) float64 metres: where sight begins on each (n, 3) unit ray: at the eye (0), the near bound, or a
    wall cut that the eye stands in."""
    begins = _nearest(view, along)
    for cut in view.cuts:
        if cut.holds(view.pose.eye):
            begins = np.maximum(begins, cut.distance(view.pose.eye, along))
    return begins


def sight_passes(view: View, along: Floats) -> Floats:
    """(n,) float64 metres: where the last bound lies that each (n, 3) unit ray passes; 0 where it passes
    none."""
    passes = _nearest(view, along)
    for cut in view.cuts:
        passes = np.maximum(passes, cut.distance(view.pose.eye, along))
    return passes


def _nearest(view: View, along: Floats) -> Floats:
    if view.near_m is None:
        return np.zeros(len(along))
    begins: Floats = view.near_m / np.maximum(along @ view.pose.forward, 1e-9)
    return begins


def look(view: View, rays: RayScene, along: Floats, passed: Bools) -> tuple[Floats, Hits]:
    """What stops each (n, 3) unit ray from the eye, with all bounds heeded: where sight begins, and what it
    meets.

    Distances are metres from the eye; what lies beyond the far bound is not met.  passed : (faces,) as in
    :mod:`altana.core.geometry.sight`.
    """
    eye = np.asarray(view.pose.eye, float)
    begins = sight_begins(view, along)
    face = np.full(len(along), -1, np.int32)
    reached = np.full(len(along), np.inf)
    gone = begins.copy()
    left = np.arange(len(along))
    spans = [(cut.enters(view.pose.eye, along), cut.distance(view.pose.eye, along)) for cut in view.cuts]
    for _ in range(2 * len(spans) + 1):
        hit = see(rays, eye + along[left] * gone[left, None], along[left], passed)
        away = hit.distance_m + gone[left]
        onward = np.zeros(len(left))
        for enters, leaves in spans:
            within = (away >= enters[left]) & (away < leaves[left])
            onward = np.where(within, np.maximum(onward, leaves[left]), onward)
        stopped = onward == 0.0
        face[left[stopped]] = hit.face[stopped]
        reached[left[stopped]] = away[stopped]
        gone[left] = onward
        left = left[~stopped]
        if not len(left):
            break
    beyond = reached > sight_ends(view, along)
    face[beyond] = -1
    return begins, Hits(face, np.where(beyond, np.inf, reached))


def sight_ends(view: View, along: Floats) -> Floats:
    """(n,) float64 metres: where the far bound ends sight on each (n, 3) unit ray; infinite without one."""
    if view.far_m is None:
        return np.full(len(along), np.inf)
    ends: Floats = view.far_m / np.maximum(along @ view.pose.forward, 1e-9)
    return ends


def cut_away(view: View, points: Floats) -> Bools:
    """(n,) bool: which (n, 3) points the bounds keep out of the picture."""
    offsets = np.asarray(points, float) - np.asarray(view.pose.eye)
    away = np.linalg.norm(offsets, axis=1)
    along = offsets / np.maximum(away, 1e-12)[:, None]
    gone: Bools = (away < _nearest(view, along) - 1e-9) | (away > sight_ends(view, along) + 1e-9)
    for cut in view.cuts:
        gone |= (away >= cut.enters(view.pose.eye, along) - 1e-9) & (
            away < cut.distance(view.pose.eye, along) - 1e-9
        )
    return gone


def bounded(view: View) -> bool:
    """Whether anything is cut away at all."""
    return view.near_m is not None or view.far_m is not None or bool(view.cuts)


def unbounded(view: View) -> View:
    """The same view with nothing cut away."""
    return replace(view, near_m=None, far_m=None, cuts=())


def place_of_sight(camera: Camera) -> Vec3:
    """Where the eye would stand if it stood where its sight begins, at its own height: what floor and room go
    by.

    A camera stepped back through a wall stands outside, and yet its picture is one of the room.
    """
    forward = camera.pose.forward
    level = float(np.hypot(forward[0], forward[1]))
    if not (camera.near or camera.cuts) or level < 1e-6:
        return camera.eye
    begins = float(sight_begins(camera.view(), forward[None])[0])
    if begins <= 0.0:
        return camera.eye
    x, y, z = camera.eye
    ahead = begins * level + STEP_IN_M
    return (x + float(forward[0]) / level * ahead, y + float(forward[1]) / level * ahead, z)
