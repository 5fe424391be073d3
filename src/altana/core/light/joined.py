"""Which points of one plane lie in one room: light is evened out among those alone, never under a wall."""

from __future__ import annotations

import numpy as np
import scipy

from altana.core.conventions import Floats, Ints
from altana.core.geometry.rays import RayScene
from altana.core.light.lightmap import LightPoints

#: So few points in a room are taken with what else of their thing has few.
FEW = 6
#: Points see each other from so far before their surface, over sills and skirting boards.
BEFORE_M = 0.1


def joined(points: LightPoints, place: Floats, rays: RayScene) -> Ints:
    """(2, charts) a number for each side of the points of charts, the same for those that reach each other
    along their plane.

    place : (n, 3) where the points lie, metres.
    """
    count = len(points.texel)
    if not count:
        return np.zeros((2, 0), np.int64)
    first, second = _beside(points)
    labels = np.empty((2, count), np.int64)
    for side, sign in enumerate((1.0, -1.0)):
        off = points.normal[:count] * (sign * BEFORE_M)
        run = place[second] - place[first]
        length = np.maximum(np.linalg.norm(run, axis=1), 1e-9)
        free = ~rays.shaded(place[first] + off[first], run / length[:, None], length)
        links = scipy.sparse.coo_array(
            (np.ones(int(free.sum()), np.int8), (first[free], second[free])), shape=(count, count)
        )
        labels[side] = scipy.sparse.csgraph.connected_components(links, directed=False)[1]
    return labels


def surfaces_in_rooms(points: LightPoints, rooms: Ints) -> Ints:
    """(2 n,) a number for each side of the points, front sides first: what of its plane lies in its room, for
    a wall may run through bright rooms and dark ones; of small parts, and of planes that have few points
    there, the thing it belongs to.

    rooms : (2, charts) as :func:`joined` says.
    """
    count = rooms.shape[1]
    things = int(points.owner.max(initial=-1)) + 1
    sides = []
    for own in rooms:
        belongs = points.owner.copy()
        many = np.bincount(own, minlength=1)[own] >= FEW if count else np.zeros(0, bool)
        belongs[:count][many] = things + own[many]
        sides.append(belongs)
    sides[1] += int(sides[0].max(initial=-1)) + 1
    numbers: Ints = np.concatenate(sides)
    return numbers


def _beside(points: LightPoints) -> tuple[Ints, Ints]:
    """Numbers of the points of charts that lie beside each other, of one chart: pairs (k,) and (k,)."""
    count = len(points.texel)
    number = np.full((points.size[1] + 1, points.size[0] + 1), -1, np.int64)
    column, row = points.texel[:, 0], points.texel[:, 1]
    number[row, column] = np.arange(count)
    chart = points.charts.chart[points.face[:count]]
    pairs = []
    for dy, dx in ((0, 1), (1, 0)):
        other = number[row + dy, column + dx]
        mine = np.flatnonzero((other >= 0) & (chart[np.maximum(other, 0)] == chart))
        pairs.append(np.stack([mine, other[mine]]))
    first, second = np.concatenate(pairs, axis=1)
    return first, second
