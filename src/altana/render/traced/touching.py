"""Glass that touches what is not glass: a pane on its frame, a shower's screen on the wall.

Where a face of glass and a wall lie in one plane, rays that go through the glass begin anew behind the wall,
which then is not there: black stripes along frames and corners.  The tracer begins rays so far from where
they were (STEP), so that glass which touches anything is drawn by a little more than that towards its own
middle.
"""

from __future__ import annotations

import numpy as np

from altana.core.conventions import Bools, Floats, Floats32, Ints
from altana.core.geometry.rays import RayScene
from altana.core.light.light_scene import normals_of
from altana.core.model import GLASS, Model

#: The tracer's rays begin anew this far away, times one and the largest coordinate; and how much more is
#: enough.
STEP, ENOUGH = 1500 * 2.0**-24, 1.3
#: Glass is no thinner than three times what its faces may be moved; and more than this would be seen, metres:
#: farther than some fifty metres from the model's origin not every stripe goes.
THICK, MOST_M = 3.0, 0.006
#: Farther off than this the next face of glass is another pane's.
ONE_PANE_M = 0.1
#: How far within its edges a face is looked at, metres, and at how many places along each.
WITHIN_M, ALONG = 0.004, 5
#: Triangles looked at in one go.
AT_ONCE = 1 << 15


def drawn_in(model: Model, vertices: Floats32) -> tuple[Ints, Floats32]:
    """The numbers (k,) of the triangles of glass that touch other things, and by how much (k, 3) metres they
    are drawn towards the middle of their pane.  vertices : (n, 3) of the model, as they are traced."""
    glass = np.array([item.kind == GLASS for item in model.materials])[model.face_material]
    which = np.flatnonzero(glass)
    if not len(which) or glass.all():
        return np.zeros(0, np.int64), np.zeros((0, 3), np.float32)
    corners = vertices[model.faces[which]].astype(float)
    reach = np.minimum(ENOUGH * STEP * (1.0 + np.abs(corners).max(axis=(1, 2))), MOST_M)
    normal = normals_of(model, which)
    other = RayScene.of(model, chosen=~glass)
    parts = [slice(start, start + AT_ONCE) for start in range(0, len(which), AT_ONCE)]
    touches = np.concatenate([_touches(other, corners[part], normal[part], reach[part]) for part in parts])
    if not touches.any():
        return np.zeros(0, np.int64), np.zeros((0, 3), np.float32)
    which, normal, reach, middle = (
        which[touches],
        normal[touches],
        reach[touches],
        corners[touches].mean(axis=1),
    )
    # Towards the next face of glass, if one lies close by; of sheets along their front.
    panes = RayScene.of(model, chosen=glass)
    thick, side = np.full(len(which), np.inf), np.ones(len(which))
    for sign in (1.0, -1.0):
        away = panes.cast(middle + sign * normal * 1e-4, sign * normal).distance_m
        nearer = (away < thick) & (away < ONE_PANE_M)
        thick, side = np.where(nearer, away, thick), np.where(nearer, sign, side)
    moved = (side * np.minimum(reach, thick / THICK))[:, None] * normal
    return which, moved.astype(np.float32)


def _touches(other: RayScene, corners: Floats, normal: Floats, reach: Floats) -> Bools:
    """(k,) which triangles (k, 3, 3) that face (k, 3) lie no farther than ``reach`` (k,) from another
    thing."""
    places = _looked_at(corners)
    count = places.shape[1]
    towards, far = np.repeat(normal, count, axis=0), np.repeat(reach, count)
    begins = places.reshape(-1, 3) + towards * far[:, None]
    met = other.shaded(begins, -towards, 2.0 * far).reshape(-1, count)
    touches: Bools = np.any(met, axis=1)
    return touches


def _looked_at(corners: Floats) -> Floats:
    """(k, n, 3) places of triangles (k, 3, 3): their middle, and along their edges a little within."""
    middle = corners.mean(axis=1, keepdims=True)
    share = ((np.arange(ALONG) + 0.5) / ALONG)[None, None, :, None]
    edge = corners[:, :, None] * (1.0 - share) + np.roll(corners, -1, axis=1)[:, :, None] * share
    edge = edge.reshape(len(corners), -1, 3)
    inward = middle - edge
    length = np.maximum(np.linalg.norm(inward, axis=2, keepdims=True), 1e-9)
    return np.concatenate([middle, edge + inward * np.minimum(WITHIN_M / length, 0.5)], axis=1)
