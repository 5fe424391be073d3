"""Points of light for what lies between things that stand on a surface: the strip of wall over a bath, a
shelf's back between its boards.

No point of a chart's grid can be reached from there along the surface, so that nothing would be known of its
light.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
import scipy

from altana.core.conventions import Bools, Floats, Ints
from altana.core.geometry.rays import RayScene
from altana.core.light.finer import ABOVE_M, SIGNS, Places, Sight, between
from altana.core.light.gathering import CREVICE_M, PROBE, landed
from altana.core.light.light_scene import Surfaces
from altana.core.light.lightmap import LightPoints
from altana.core.light.seen import INSIDE, START_M
from altana.core.light.shape import fan, frames
from altana.core.model import Model

#: With more of them on a side than this every other one each way is taken, then every fourth; and so many
#: more, the most open first, of those that no taken one can speak for.
MOST, EVERY, MORE = 4_000, (1, 2, 4, 8), 3_000
REACH_M = 0.02
#: From so far at most a taken one speaks for another place, and the less the more they differ in how far they
#: see, metres.
REACHED_M, ALIKE_M, LEAST_ALIKE = 0.5, 0.12, 0.1


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
    """The points, where they lie, which hang in the air and the picture's places, with a point more for each
    place that has none.  Where there are too many of those some of them speak for the others."""
    for side, sign in enumerate(SIGNS):
        lonely = places.lonely(side)
        face, at, step = places.where(points, lonely)
        normal = surfaces.normal[face].astype(float)
        at, nowhere, _ = landed(model, whole, at, normal, surfaces.owner[face])
        there = ~nowhere
        lonely, face, at, step, normal = lonely[there], face[there], at[there], step[there], normal[there]
        open_, room = open_to_sight(at, normal * sign, rays, surfaces)
        seen = np.flatnonzero(open_)
        spots = _Spots(at + normal * (sign * ABOVE_M), places.chart[lonely], room)
        own = _taken(spots, rays, seen, step)
        rest = np.setdiff1d(seen, own)
        which, share = spots.about(rays, rest, own)
        spoken = share.sum(axis=1) > 0.0
        first = len(points.position)
        places = places.spoken_for(side, lonely[own], np.arange(first, first + len(own)))
        places = places.shown_by(side, lonely[rest[spoken]], first + which[spoken], share[spoken])
        points = _more(points, at[own], normal[own], surfaces.owner[face[own]], face[own])
        place = np.concatenate([place, at[own]])
        off = np.concatenate([off, np.zeros(len(own), bool)])
    return points, place, off, places


@dataclass(frozen=True, slots=True)
class _Spots:
    """Places (n, 3) just above a surface, the charts they lie on (n,), and how far they see on an average
    (n,), metres."""

    at: Floats
    chart: Ints
    room: Floats

    def about(self, rays: RayScene, which: Ints, others: Ints) -> tuple[Ints, Floats]:
        """(k, 4) the nearest of the ``others`` (m,) about each of ``which`` (k,), by their number among them,
        and how much each counts: 0 where something stands between or they lie quite otherwise."""
        count = min(4, len(others))
        near, share = np.zeros((len(which), 4), np.int64), np.zeros((len(which), 4))
        if not count or not len(which):
            return near, share
        # No place speaks for one of another chart.
        place = np.column_stack([self.at, 1_000.0 * REACHED_M * self.chart])
        reached = scipy.spatial.cKDTree(place[others]).query(
            place[which], count, distance_upper_bound=REACHED_M, workers=-1
        )
        away, found = (np.reshape(item, (len(which), count)) for item in reached)
        for number in range(count):
            there = np.flatnonzero(np.isfinite(away[:, number]))
            other = others[found[there, number]]
            alike = np.exp(-(((self.room[which[there]] - self.room[other]) / ALIKE_M) ** 2))
            shut = between(rays, self.at[which[there]], self.at[other]) | (alike < LEAST_ALIKE)
            near[there, number] = found[there, number]
            share[there, number] = np.where(shut, 0.0, alike / np.maximum(away[there, number], 1e-3) ** 2)
        total = share.sum(axis=1, keepdims=True)
        return near, np.divide(share, total, out=np.zeros_like(share), where=total > 0.0)


def _taken(spots: _Spots, rays: RayScene, seen: Ints, step: Ints) -> Ints:
    """Which of the places ``seen`` (k,) have a point of their own.  step : (n, 2) their columns and rows."""
    every = next((n for n in EVERY if (step[seen] % n == 0).all(axis=1).sum() <= MOST), EVERY[-1])
    on = step % every == 0
    own: Ints = seen[on[seen].all(axis=1)][:MOST]
    left = MORE
    # In a strip between two things no place may lie on both lines: then those on either, and what is left.
    for chosen in (on.any(axis=1), np.ones(len(on), bool)):
        rest = np.setdiff1d(seen, own)
        unlike = rest[spots.about(rays, rest, own)[1].sum(axis=1) == 0.0]
        unlike = unlike[chosen[unlike]]
        more = unlike[np.argsort(-spots.room[unlike], kind="stable")][:left]
        own, left = np.concatenate([own, more]), left - len(more)
    return own


def open_to_sight(
    at: Floats, normal: Floats, rays: RayScene, surfaces: Surfaces, body: Ints | None = None
) -> tuple[Bools, Floats]:
    """(n,) whether a few rays from a place go anywhere, and do not end on the inner sides of bodies; and how
    far they go on an average, of a metre.

    body : (n,) the object in whose body a place may lie, as in a room that is one, or -1.
    """
    out = fan(PROBE)[None] @ frames(normal)
    start = np.broadcast_to((at + normal * START_M)[:, None], out.shape)
    hits = rays.meet(start.reshape(-1, 3), out.reshape(-1, 3))
    _, inner = surfaces.met(hits.face, out.reshape(-1, 3).astype(np.float32))
    if body is not None:
        inner &= surfaces.owner[np.maximum(hits.face, 0)] != np.repeat(body, PROBE)
    room = np.where(hits.face < 0, 1.0, np.minimum(hits.distance_m, 1.0)).reshape(-1, PROBE).mean(axis=1)
    return (inner.reshape(-1, PROBE).mean(axis=1) <= INSIDE) & (room > CREVICE_M), room


def sight_of(points: LightPoints, place: Floats, rays: RayScene, surfaces: Surfaces) -> Sight:
    """What says which points (k,), of those of charts, that lie at ``place`` (n, 3), see anything from their
    front (1) or from their back (-1)."""

    def sees(which: Ints, sign: int) -> Bools:
        within = surfaces.outside[points.face[which]] * sign < 0
        body = np.where(within, points.owner[which], -1)
        return open_to_sight(place[which], points.normal[which] * sign, rays, surfaces, body)[0]

    return sees


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
