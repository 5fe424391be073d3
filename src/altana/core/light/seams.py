"""Where a surface runs on beyond a wall into a gap, as between the two sheets of a wall that is no body: the
gap's light must not shine into the room along the wall's foot.

The picture goes over from one place to the next, and a wall seldom stands just on a place.  Of a room and a
narrow gap behind its wall it is the room that is looked at: the gap's first place shows the room's light.
"""

from __future__ import annotations

import numpy as np

from altana.core.conventions import Bools, Floats, Ints
from altana.core.geometry.cross import crossed
from altana.core.geometry.rays import RayScene
from altana.core.light.finer import ABOVE_M, NEIGHBOURS, SIGNS, Places, between
from altana.core.light.lightmap import LightPoints

#: A gap is narrower than this one way, and has so many times fewer points than the room beside it.
GAP_M, FEWER = 0.45, 4


def without_seams(places: Places, points: LightPoints, rooms: Ints, bad: Bools, rays: RayScene) -> Places:
    """The places with those of gaps that lie beside a room showing what the room's next place shows.

    rooms : (2, charts) as :func:`altana.core.light.joined.joined` says.  bad : (2 n,) sides inside bodies;
    places below what stands on a surface are not gaps.
    """
    if not len(points.texel):
        return places
    number = places.numbered()
    for side, (own, sign) in enumerate(zip(rooms, SIGNS, strict=True)):
        count = np.bincount(own)
        gap = _narrow(points, own)
        speaker = places.speaker[side]
        # What lonely points speak for lies in neither.
        room = np.where(speaker < len(own), own[np.minimum(speaker, len(own) - 1)], -1)
        within = bad[side * len(points.position) + speaker]
        which = np.flatnonzero((room >= 0) & gap[room] & ~within & ~places.hidden[side])
        beside, much = np.full(len(which), -1), FEWER * count[room[which]] - 1
        for down, right in NEIGHBOURS:
            other = number[places.row[which] + 1 + down, places.column[which] + 1 + right]
            there = (other >= 0) & (places.chart[other] == places.chart[which])
            there &= (room[other] >= 0) & ~gap[room[other]] & ~within[other] & ~places.hidden[side][other]
            there[there] &= count[room[other[there]]] > much[there]
            beside[there], much[there] = other[there], count[room[other[there]]]
        found = np.flatnonzero(beside >= 0)
        found = found[_walled(places, points, which[found], beside[found], sign, rays)]
        which, beside = which[found], beside[found]
        if len(which):
            corner, share = places.corner[side][beside], places.share[side][beside]
            places = places.shown_by(side, which, corner, share)
    return places


def _walled(
    places: Places, points: LightPoints, first: Ints, second: Ints, sign: int, rays: RayScene
) -> Bools:
    """(k,) whether something stands on the surface between places (k,) and others (k,) of their charts."""
    face, start, _ = places.where(points, first)
    lift = crossed(points.charts.u[face], points.charts.v[face]) * (sign * ABOVE_M)
    return between(rays, start + lift, places.where(points, second)[1] + lift)


def _narrow(points: LightPoints, room: Ints) -> Bools:
    """(rooms,) whether what points (charts,) of one ``room`` cover is narrow one way."""
    charts = points.charts
    chart = charts.chart[points.face[: len(room)]]
    step = charts.size[chart] / np.maximum(charts.steps[chart], 1)
    narrow = np.zeros(int(room.max()) + 1, bool)
    for way in range(2):
        low, high = np.full(len(narrow), np.inf), np.full(len(narrow), -np.inf)
        at = points.texel[:, way] * step[:, way]
        np.minimum.at(low, room, at)
        np.maximum.at(high, room, at)
        # Half a step more on either side is what they speak for; at the rim of a plane there is no such half.
        narrow |= high - low < GAP_M - 0.5 * _widest(room, step[:, way], len(narrow))
    return narrow


def _widest(room: Ints, step: Floats, count: int) -> Floats:
    """(count,) the widest step (charts,) in each room."""
    widest = np.zeros(count)
    np.maximum.at(widest, room, step)
    return widest
