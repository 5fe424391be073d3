"""Glowing surfaces whose light does not get out: those within the body of their own fixture, and those that
lie against a ceiling.

What a lamp gives is told as what leaves it, and modellers let bulbs stand in their sockets and panels in
ceilings.
"""

from __future__ import annotations

import numpy as np

from altana.core.conventions import Bools, Floats, Ints
from altana.core.distinct import distinct
from altana.core.geometry.cross import crossed
from altana.core.geometry.rays import RayScene
from altana.core.geometry.runs import object_boxes
from altana.core.geometry.shells import shells_of_faces
from altana.core.light.shape import fan, frames
from altana.core.model import GLASS, Model

#: What lies this near to a lamp may hide a part of it; rays look out from so far before each place, and what
#: is nearer lies against it.
NEAR_M, START_M, AGAINST_M = 1.0, 0.002, 0.03
#: Places of a triangle, by the shares of its corners, and rays from each; a triangle that fewer than so many
#: leave is buried.
PLACES = np.array(
    [[1 / 3, 1 / 3, 1 / 3], [2 / 3, 1 / 6, 1 / 6], [1 / 6, 2 / 3, 1 / 6], [1 / 6, 1 / 6, 2 / 3]]
)
RAYS, FEWEST = 8, 2
#: Among more triangles than this nobody looks.
MOST = 500_000


def buried(model: Model, faces: Ints) -> Bools:
    """(k,) which of the triangles ``faces`` (k,) of lamps are buried; none where it would take too long to
    tell."""
    owner = model.face_objects()
    near = _near(model, distinct(owner[faces]))[owner]
    around = np.flatnonzero(near)
    through = np.array([item.kind == GLASS or item.has_holes for item in model.materials], bool)
    solid = near & ~through[model.face_material]
    solid[faces] = False
    if not solid.any() or max(len(faces) * len(PLACES), len(around)) > MOST:
        return np.zeros(len(faces), bool)
    sense = np.zeros(len(model.faces), np.int8)
    sense[around] = shells_of_faces(model.vertices, model.faces[around], owner[around])[0]
    start, out = _looking_out(model, faces)
    hits = RayScene(model.vertices, model.faces, chosen=solid).meet(start, out)
    met = np.maximum(hits.face, 0)
    behind = np.einsum("ij,ij->i", _across(model, met), out) > 0.0
    inside = np.where(behind, sense[met] > 0, sense[met] < 0) & (hits.face >= 0)
    leaves = ~inside & (hits.distance_m > AGAINST_M)
    hidden: Bools = leaves.reshape(len(faces), -1).sum(axis=1) < FEWEST
    return hidden


def _near(model: Model, lamps: Ints) -> Bools:
    """(objects,) what may lie round the objects ``lamps`` (l,)."""
    low, high = object_boxes(model)
    near = np.zeros(len(model.objects), bool)
    for number in lamps.tolist():
        near |= ((low <= high[number] + NEAR_M) & (high >= low[number] - NEAR_M)).all(axis=1)
    return near


def _across(model: Model, faces: Ints) -> Floats:
    """(k, 3) what stands square on triangles, by their winding, as long as twice their area."""
    a, b, c = (model.vertices[model.faces[faces, k]].astype(float) for k in range(3))
    return crossed(b - a, c - a)


def _looking_out(model: Model, faces: Ints) -> tuple[Floats, Floats]:
    """Rays from triangles (k,) to the side they throw light: origins and directions (k PLACES RAYS, 3)."""
    across = _across(model, faces)
    normal = across / np.maximum(np.linalg.norm(across, axis=1, keepdims=True), 1e-20)
    place = np.einsum("pc,kcx->kpx", PLACES, model.vertices[model.faces[faces]].astype(float))
    start = place + normal[:, None] * START_M
    out = np.einsum("rx,kxy->kry", fan(RAYS), frames(normal))
    shape = (len(faces), len(PLACES), RAYS, 3)
    return (
        np.broadcast_to(start[:, :, None], shape).reshape(-1, 3),
        np.broadcast_to(out[:, None], shape).reshape(-1, 3),
    )
