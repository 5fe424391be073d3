"""Which surfaces can do with fewer points of light, where a model has more surface than points: what lies far
off, and what lies open under the sky, whose light changes slowly.  Rooms come first."""

from __future__ import annotations

import numpy as np

from altana.core.conventions import Bools, Floats, Ints
from altana.core.geometry.rays import RayScene
from altana.core.geometry.shells import outsides
from altana.core.light.shape import Shape, fan, frames
from altana.core.model import Model

#: What is far begins at so many times the usual distance of an object from the middle of all, and no nearer
#: than this.
FAR_OFF, NEAR_M = 2.0, 25.0
#: With fewer objects than this the middle is that of the triangles.
FEW_OBJECTS = 5
#: Places on each surface, and rays from each side of a place, that ask how much of the sky is seen.
PLACES, ASKED = 5, 8
#: A side that sees more of the sky than this lies open; one whose rays end nearer than this lies inside
#: something.
OPEN, WITHIN_M = 0.2, 0.4
START_M = 0.012
#: Small parts lie in a room when more than this of their places does.
MOSTLY = 0.5


def far_off(shape: Shape) -> Floats:
    """(m,) how many times farther off each triangle lies than what belongs together reaches, at least 1:
    hills and woods round a site."""
    if not len(shape.area):
        return np.ones(0)
    middle = shape.corners.mean(axis=1)
    owners, index = np.unique(shape.owner, return_inverse=True)
    places = middle
    if len(owners) >= FEW_OBJECTS:
        count = np.bincount(index)
        places = np.stack([np.bincount(index, weights=middle[:, k]) / count for k in range(3)], axis=1)
    centre = np.median(places, axis=0)
    usual = float(np.median(np.linalg.norm(places - centre, axis=1)))
    # A large triangle, as of a ground, is as near as its nearest part.
    own = np.linalg.norm(shape.corners - middle[:, None], axis=2).max(axis=1)
    away = np.linalg.norm(middle - centre, axis=1) - own
    weight: Floats = np.maximum(away / max(FAR_OFF * usual, NEAR_M), 1.0)
    return weight


def under_sky(model: Model, shape: Shape, surface: Ints, small: Bools) -> Bools:
    """(m,) whether the surface that a triangle belongs to lies in no room: none of its sides is shut off from
    the sky.  Foliage never does.

    surface : (m,) numbers of surfaces, from 0 on, as large as may be told at one go.  small : (m,) whether it
    is of small parts, of which some always shut off others.
    """
    count = int(surface.max()) + 1 if len(surface) else 0
    if not count:
        return np.zeros(0, bool)
    face, place = _places(shape, surface, count)
    rays, sense = RayScene.of(model), outsides(model)[face]
    in_room, sees_sky = np.zeros(len(face), bool), np.zeros(len(face), bool)
    for side in (1, -1):
        # The inner sides of closed bodies are seen by nobody.
        seen = np.flatnonzero(sense * side >= 0)
        normal = shape.normal[face[seen]] * side
        out = fan(ASKED)[None] @ frames(normal)
        start = np.broadcast_to((place[seen] + normal * START_M)[:, None], out.shape)
        hits = rays.meet(start.reshape(-1, 3), out.reshape(-1, 3))
        away = np.where(hits.face >= 0, hits.distance_m, np.inf).reshape(len(seen), ASKED)
        sky = np.isinf(away).mean(axis=1) > OPEN
        in_room[seen] |= ~sky & (np.median(away, axis=1) > WITHIN_M)
        sees_sky[seen] |= sky
    roomed, shut, open_air = (
        np.bincount(surface[face], weights=what, minlength=count)
        for what in (in_room, in_room & ~sees_sky, sees_sky)
    )
    # One place in a room is enough: a floor may run out through a door.  Of small parts that stand close
    # together, as books on a shelf, most look at each other and say nothing either way.
    apart = roomed == 0
    mostly = open_air * MOSTLY >= shut * (1.0 - MOSTLY)
    holes = np.array([item.has_holes for item in model.materials], bool)[model.face_material]
    open_: Bools = np.where(small, (mostly & (open_air > 0))[surface], apart[surface]) | holes
    return open_


def _places(shape: Shape, surface: Ints, count: int) -> tuple[Ints, Floats]:
    """PLACES of every surface, spread by area: the triangle of each and where it lies."""
    order = np.argsort(surface, kind="stable")
    sums = np.cumsum(np.maximum(shape.area[order], 1e-12))
    ends = np.searchsorted(surface[order], np.arange(count), side="right")
    there = np.flatnonzero(np.diff(ends, prepend=0))
    last = sums[ends[there] - 1]
    first = np.concatenate([[0.0], last[:-1]])
    share = (np.arange(PLACES) + 0.5) / PLACES
    at = first[:, None] + (last - first)[:, None] * share
    face = order[np.minimum(np.searchsorted(sums, at.ravel()), len(order) - 1)]
    # Not the middle of each, which may be where something stands: by turns nearer to one of its corners.
    lean = np.full((len(face), 3), 0.2)
    lean[np.arange(len(face)), np.arange(len(face)) % 3] = 0.6
    return face, np.einsum("ij,ijk->ik", lean, shape.corners[face])
