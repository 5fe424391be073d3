"""The light map as a picture: light carried under what covers a surface, grain taken out, corners mixed."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor

import numpy as np
import scipy

from altana.core.conventions import Bools, Floats, Floats32, Ints
from altana.core.geometry.rays import RayScene
from altana.core.light.corners import TURN_M
from altana.core.light.finer import NEIGHBOURS, Places
from altana.core.light.grain import agreement, steps
from altana.core.light.lamp_shadows import DirectLight
from altana.core.light.lightmap import LightPoints
from altana.core.light.narrow import without_grain
from altana.core.light.seen import START_M

#: How far light is carried under what covers a surface, in points of its chart.
FILLED = 8
#: And how far in places of the picture.
CLOSED = 8
#: How far the light of something else is taken over; of so many the nearest that is of the same layer, or in
#: sight.
BESIDE_M, MOST_BESIDE, ONE_LAYER_M = 0.8, 6, 0.1
#: Grain is taken out in rounds whose neighbours lie so many points away.
ROUNDS = (1, 2, 4)
#: Neighbours farther off than the next count where so much grain is left, as shares of the light: none of
#: them, all of them.
LEFT = (0.08, 0.12)
#: Farther off than this only pairs of neighbours count, on either side of a point: at the rim of a surface
#: light falls off, too.
ALONE = 2


def painted(
    points: LightPoints,
    light: Floats,
    direct: DirectLight,
    grain: Floats,
    bad: Bools,
    carried: Ints,
    places: Places,
    rooms: Ints,
) -> Floats32:
    """(2 height, width, 3) float32 the light map of the light on both sides of the points (2 n, 3).

    direct : what of it comes straight from lamps; it has no grain.  grain : (2 n,) lux, standard error of the
    rest.  bad : (2 n,) sides inside bodies.  carried : (2 n,) as ``carriers`` says.  rooms : (2, charts) as
    ``joined`` says.
    """
    width, height = places.size
    half, charts = len(points.position), len(points.texel)
    pixels = np.zeros((2 * height, width, 3), np.float32)
    flat = pixels.reshape(-1, 3)
    soft, lamps = (filled(points, part, bad, carried) for part in (light - direct.sides, direct.sides))
    # A point inside a body that took a near one's light speaks for it, where no other does: in a floor's
    # thickness, before a wall, begins another room.
    dumb = bad & (carried == np.arange(2 * half))

    def even(side: int) -> None:
        grid = slice(side * half, side * half + charts)
        soft[grid] = _evened(points, soft[grid], grain[grid], rooms[side])

    def paint(side: int) -> None:
        own = slice(side * half, (side + 1) * half)
        first = side * height * width
        here, within, nothing = places.mixed(side, bad[own], dumb[own], soft[own])
        from_lamps = direct.shown(side, places.mixed(side, bad[own], dumb[own], lamps[own])[0])
        flat[first + places.row * width + places.column] = _closed(places, here + from_lamps, within, nothing)
        # Patches at the rim between light and dark would go below nothing.
        patch = first + places.down * width + points.patch
        if direct.on_parts is None:
            shown = _mixed(points, soft[own] + lamps[own], dumb[own])
        else:
            shown = _mixed(points, soft[own], dumb[own]) + direct.on_parts[side]
        flat[patch] = np.maximum(shown, 0.0)

    # Each side writes its own half, outside Python's lock most of the time.
    with ThreadPoolExecutor(2) as pool:
        list(pool.map(even, range(2)))
        soft = without_grain(points, soft, grain, bad)
        list(pool.map(paint, range(2)))
    return pixels


def _closed(places: Places, light: Floats, within: Bools, nothing: Bools) -> Floats:
    """(f, 3) the light with that of places below what stands on them taken from their neighbours, the
    darkest: neither of two rooms is to shine into the other.  within : places that have only points inside
    bodies; beside others they take theirs.  nothing : those that have none at all take what comes to them
    from farther away."""
    if not within.any():
        return light
    number, light, known = places.numbered(), light.copy(), ~within
    waiting = np.flatnonzero(within)
    for turn in range(CLOSED):
        y, x = places.row[waiting] + 1, places.column[waiting] + 1
        best, level = np.full(len(waiting), -1), np.full(len(waiting), np.inf)
        # Aslant, too: into the corner of a room within a room no others lead.
        for dy, dx in NEIGHBOURS:
            other = number[y + dy, x + dx]
            bright = light[other].sum(axis=1)
            there = (other >= 0) & known[other] & (places.chart[other] == places.chart[waiting])
            there &= bright < level
            best[there], level[there] = other[there], bright[there]
        reached = best >= 0
        light[waiting[reached]] = light[best[reached]]
        known[waiting[reached]] = True
        if turn == 0:
            known |= ~nothing
        waiting = waiting[~reached & nothing[waiting]]
        if not len(waiting):
            break
    return light


def _mixed(points: LightPoints, light: Floats, bad: Bools) -> Floats:
    """What the patches show: of points inside bodies nothing, where there are others."""
    good = 1.0 - bad.astype(float)
    share = points.mix @ good
    mixed = points.mix @ (light * good[:, None])
    some = np.abs(share) > 0.05
    shown: Floats = points.mix @ light
    shown[some] = mixed[some] / share[some, None]
    return shown


def _evened(points: LightPoints, light: Floats, grain: Floats, rooms: Ints) -> Floats:
    """The grain of few rays taken out of charts: neighbours count by how well they agree (edge-avoiding
    wavelets of Dammertz, Sewtz, Hanika and Lensch, steered by the standard error)."""
    rim = max(ROUNDS)
    shape = (points.size[1] + 2 * rim, points.size[0] + 2 * rim)
    values, errors = np.zeros((*shape, 3)), np.zeros(shape)
    chart = np.full(shape, -1, np.int64)
    column, row = points.texel[:, 0] + rim, points.texel[:, 1] + rim
    chart[row, column] = own = rooms
    doubt = _calm(points, grain, rooms)
    error = doubt**2
    share = doubt / np.maximum(_calm(points, light.mean(axis=1), rooms), 1e-9)
    step = steps(share)
    for stride in ROUNDS:
        values[row, column], errors[row, column] = light, error
        # Farther off only where much grain is left: light is seldom even for so long.
        left = np.sqrt(error) / np.maximum(light.mean(axis=1), 1e-9)
        wanted = 1.0 if stride == 1 else np.interp(left, LEFT, (0.0, 1.0))
        total, weight, doubt = light * 4.0, np.full(len(light), 4.0), error * 16.0
        for dy, dx, much in ((0, 1, 4.0), (1, 0, 4.0), (1, 1, 2.0), (1, -1, 2.0)):
            ahead, behind = (
                (row + dy * stride, column + dx * stride),
                (row - dy * stride, column - dx * stride),
            )
            front, back = (chart[place] == own for place in (ahead, behind))
            # Both sides together where there are two: light that falls off evenly along a wall stays as it
            # is.
            both = values[ahead] * np.where(back & front, 0.5, front)[:, None]
            both += values[behind] * np.where(back & front, 0.5, back)[:, None]
            unsure = errors[ahead] * np.where(back & front, 0.25, front)
            unsure += errors[behind] * np.where(back & front, 0.25, back)
            counts = agreement((both - light).mean(axis=1), step, error, unsure, light.mean(axis=1))
            alone = 0.5 if stride <= ALONE else 0.0
            counts *= (front | back) * wanted * much * np.where(front & back, 1.0, alone)
            total += both * counts[:, None]
            weight += counts
            doubt += unsure * counts**2
        light, error = total / weight[:, None], doubt / weight**2
    return light


def _calm(points: LightPoints, grain: Floats, rooms: Ints) -> Floats:
    """The standard error itself known better: the root mean square over a point and its neighbours in the
    room."""
    chart = np.full((points.size[1] + 2, points.size[0] + 2), -1, np.int64)
    squares = np.zeros(chart.shape)
    column, row = points.texel[:, 0] + 1, points.texel[:, 1] + 1
    chart[row, column] = own = rooms
    squares[row, column] = grain**2
    total, count = grain**2, np.ones(len(grain))
    for dy, dx in ((-1, 0), (1, 0), (0, -1), (0, 1), (-1, -1), (-1, 1), (1, -1), (1, 1)):
        same = chart[row + dy, column + dx] == own
        total = total + squares[row + dy, column + dx] * same
        count = count + same
    calm: Floats = np.sqrt(total / count)
    return calm


def _chart_grid(points: LightPoints) -> Ints:
    """(height + 2, width + 2) which chart each place of the picture belongs to, with a rim of -1."""
    chart = np.full((points.size[1] + 2, points.size[0] + 2), -1, np.int64)
    chart[points.texel[:, 1] + 1, points.texel[:, 0] + 1] = points.charts.chart[
        points.face[: len(points.texel)]
    ]
    return chart


def carriers(points: LightPoints, bad: Bools, rays: RayScene) -> Ints:
    """(2 n,) for every side the one whose light it takes: itself, or for one inside a body a near one that is
    not: of its chart, else of whatever lies close by, faces the same way and is of the same side of a wall;
    itself again where there is none."""
    half, charts = len(points.position), len(points.texel)
    carrier = np.arange(2 * half)
    for side in range(2):
        own = slice(side * half, side * half + charts)
        if bad[own].any():
            carrier[own] = side * half + _nearest_good(points, bad[own])
    left = np.flatnonzero(bad & (carrier == np.arange(2 * half)))
    good = np.flatnonzero(~bad)
    if len(left) and len(good):
        # Of a roof's underside that lies on boards only the rim is seen: it is about as light as the boards.
        place = np.concatenate([points.position, points.position])
        facing = np.concatenate([points.normal, -points.normal])
        at = np.column_stack([place, facing * TURN_M])
        tree = scipy.spatial.cKDTree(at[good])
        away, which = tree.query(
            at[left], k=min(MOST_BESIDE, len(good)), distance_upper_bound=BESIDE_M, workers=-1
        )
        away, which = (np.asarray(part).reshape(len(left), -1) for part in (away, which))
        for turn in range(away.shape[1]):
            asked = np.flatnonzero(np.isfinite(away[:, turn]) & (carrier[left] == left))
            mine, other = left[asked], good[which[asked, turn]]
            run = place[other] - place[mine]
            # Behind a shelf's back nobody is as light as the house outside.
            beyond = np.abs(np.einsum("ij,ij->i", run, facing[mine])) > ONE_LAYER_M
            far = np.flatnonzero(beyond)
            begin = place[mine[far]] + facing[mine[far]] * START_M
            way = place[other[far]] + facing[other[far]] * START_M - begin
            length = np.linalg.norm(way, axis=1)
            beyond[far] = rays.shaded(begin, way / np.maximum(length, 1e-9)[:, None], length)
            carrier[mine[~beyond]] = other[~beyond]
    return carrier


def _nearest_good(points: LightPoints, bad: Bools) -> Ints:
    chart = _chart_grid(points)
    source = np.full(chart.shape, -1, np.int64)
    column, row = points.texel[:, 0] + 1, points.texel[:, 1] + 1
    own = chart[row, column]
    numbers = np.arange(len(bad))
    good = ~bad
    source[row[good], column[good]] = numbers[good]
    waiting = np.flatnonzero(bad)
    result = numbers.copy()
    for _ in range(FILLED):
        taken = np.full(len(waiting), -1, np.int64)
        for dy, dx in ((-1, 0), (1, 0), (0, -1), (0, 1)):
            y, x = row[waiting] + dy, column[waiting] + dx
            there = np.where(chart[y, x] == own[waiting], source[y, x], -1)
            taken = np.where(taken < 0, there, taken)
        reached = taken >= 0
        if not reached.any():
            break
        known = waiting[reached]
        result[known] = taken[reached]
        source[row[known], column[known]] = taken[reached]
        waiting = waiting[~reached]
    return result


def filled(points: LightPoints, light: Floats, bad: Bools, carried: Ints) -> Floats:
    """The light with that of sides inside bodies taken from where ``carriers`` says, evenly within charts."""
    half, charts = len(points.position), len(points.texel)
    result = light[carried]
    chart = points.charts.chart[points.face[:charts]]
    for side in range(2):
        own = slice(side * half, side * half + charts)
        source = carried[own] - own.start
        same = (source >= 0) & (source < charts)
        same[same] = chart[source[same]] == chart[same]
        # What took the light of another chart, or none, is left as it is.
        within = bad[own] & same & (source != np.arange(charts))
        if within.any():
            result[own] = _spread_in(points, result[own], within, ~bad[own])
    return result


def _spread_in(points: LightPoints, light: Floats, wanting: Bools, good: Bools) -> Floats:
    width, height = points.size
    grid = np.zeros((height + 2, width + 2, 3))
    weight = np.zeros((height + 2, width + 2))
    chart = _chart_grid(points)
    column, row = points.texel[:, 0] + 1, points.texel[:, 1] + 1
    own = chart[row, column]
    grid[row[good], column[good]] = light[good]
    weight[row[good], column[good]] = 1.0
    result = light.copy()
    waiting = np.flatnonzero(wanting)
    for _ in range(FILLED):
        # The darkest neighbour: under a wall between two rooms the light of the one must not shine into the
        # other.
        dark, level = np.zeros((len(waiting), 3)), np.full(len(waiting), np.inf)
        for dy, dx in ((-1, 0), (1, 0), (0, -1), (0, 1)):
            y, x = row[waiting] + dy, column[waiting] + dx
            there = (weight[y, x] > 0.0) & (chart[y, x] == own[waiting]) & (grid[y, x].sum(axis=1) < level)
            dark[there], level[there] = grid[y, x][there], grid[y, x][there].sum(axis=1)
        reached = np.isfinite(level)
        if not reached.any():
            break
        known = waiting[reached]
        result[known] = dark[reached]
        grid[row[known], column[known]] = result[known]
        weight[row[known], column[known]] = 1.0
        waiting = waiting[~reached]
    return result
