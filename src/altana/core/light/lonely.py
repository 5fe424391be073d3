"""Points of light for what lies between things that stand on a surface: the strip of wall over a bath, a shelf's back between its boards.

No point of a chart's grid can be reached from there along the surface, so that nothing would be known of its light.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import scipy

from altana.core.conventions import Bools, Floats, Ints
from altana.core.geometry.rays import RayScene
from altana.core.light.finer import SIGNS, Places
from altana.core.light.gathering import CREVICE_M, PROBE, Surfaces, landed
from altana.core.light.lightmap import LightPoints
from altana.core.light.seen import INSIDE, START_M
from altana.core.light.shape import fan, frames
from altana.core.model import Model

#: With more of them on a side than this every other one each way is taken, then every fourth.
MOST, EVERY = 4_000, (1, 2, 4, 8)
REACH_M = 0.02


def with_lonely(
    model: Model,
    points: LightPoints,
    place: Floats,
    off: Bools,
    places: Places,
    rays: RayScene,
    whole: RayScene,
    surfaces: Surfaces,
) -> tuple[LightPoints, Floats, Bools, Places]:
    """The points, where they lie, which hang in the air and the picture's places, with a point more for each place that has none."""
    for side, sign in enumerate(SIGNS):
        lonely = places.lonely(side)
        face, at, step = places.where(points, lonely)
        normal = surfaces.normal[face].astype(float)
        at, nowhere = landed(model, whole, at, normal, surfaces.owner[face])
        seen = np.flatnonzero(~nowhere)
        seen = seen[_open_to_sight(at[seen], normal[seen] * sign, rays, surfaces)]
        every = next((n for n in EVERY if (step[seen] % n == 0).all(axis=1).sum() <= MOST), EVERY[-1])
        seen = seen[(step[seen] % every == 0).all(axis=1)][:MOST]
        first = len(points.position)
        places = places.spoken_for(side, lonely[seen], np.arange(first, first + len(seen)))
        points = _more(points, at[seen], normal[seen], surfaces.owner[face[seen]], face[seen])
        place = np.concatenate([place, at[seen]])
        off = np.concatenate([off, np.zeros(len(seen), bool)])
    return points, place, off, places


def _open_to_sight(at: Floats, normal: Floats, rays: RayScene, surfaces: Surfaces) -> Bools:
    """(n,) whether a few rays from a place go anywhere, and do not end on the inner sides of bodies."""
    out = fan(PROBE)[None] @ frames(normal)
    start = np.broadcast_to((at + normal * START_M)[:, None], out.shape)
    hits = rays.meet(start.reshape(-1, 3), out.reshape(-1, 3))
    _, inner = surfaces.met(hits.face, out.reshape(-1, 3).astype(np.float32))
    room = np.where(hits.face < 0, 1.0, np.minimum(hits.distance_m, 1.0)).reshape(-1, PROBE).mean(axis=1)
    open_: Bools = (inner.reshape(-1, PROBE).mean(axis=1) <= INSIDE) & (room > CREVICE_M)
    return open_


def _more(points: LightPoints, at: Floats, normal: Floats, owner: Ints, face: Ints) -> LightPoints:
    mix = scipy.sparse.csr_array(
        (points.mix.data, points.mix.indices, points.mix.indptr),
        shape=(points.mix.shape[0], points.mix.shape[1] + len(at)),
    )
    return replace(
        points,
        position=np.concatenate([points.position, at]),
        normal=np.concatenate([points.normal, normal]),
        owner=np.concatenate([points.owner, owner]),
        face=np.concatenate([points.face, face]),
        reach=np.concatenate([points.reach, np.full(len(at), REACH_M)]),
        mix=mix,
    )
