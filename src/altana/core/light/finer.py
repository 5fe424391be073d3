"""The light map drawn finer than its points lie, where something stands on a surface between them.

Between points the picture goes over evenly from one to the next; where a wall stands between them the light
of one room would shine under it into the other.  Charts on which anything stands are therefore drawn FINER
times as fine, and what a place shows is a mean of those of the four points about it that can be reached from
it along the surface.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from altana.core.conventions import Bools, Floats, Floats32, Ints, Ints32
from altana.core.geometry.rays import RayScene
from altana.core.light.lightmap import LightPoints, packed

#: How much finer, and how many places there may be at most for it.
FINER, MOST_PLACES = 4, 1_500_000
#: What stands on a surface reaches higher than this above it.
ABOVE_M = 0.02
#: A place that reaches less than this of what lies about it takes the light of its neighbours.
LEAST = 0.02
#: The front and the back of a surface.
SIGNS = (1, -1)
#: Where the places round one lie in the picture, down and right: beside it first, then aslant.
NEIGHBOURS = ((-1, 0), (1, 0), (0, -1), (0, 1), (-1, -1), (-1, 1), (1, -1), (1, 1))

#: Says which points (k,) see anything from their front (1) or from their back (-1).
Sight = Callable[[Ints, int], Bools]


@dataclass(frozen=True, slots=True)
class Places:
    """The places of the picture that belong to charts: ``column``, ``row`` and ``chart`` (f,); the picture's
    ``size`` (width, height of one side's half); on the front and on the back the four points about each,
    ``corner`` (f, 4), and how much each counts (f, 4)."""

    column: Ints
    row: Ints
    chart: Ints
    size: tuple[int, int]
    corner: tuple[Ints, Ints]
    share: tuple[Floats, Floats]
    #: Per chart the steps between its places, and the first of them.
    steps: Ints
    first: Ints
    #: Patches of small parts begin so many rows farther down than the points have them.
    down: int
    #: (m, 3, 2) per triangle corner, in texels of the front half.
    uv: Floats32
    #: Of each place the point that speaks for it, on the front and on the back; and whether it can be reached
    #: from none.
    speaker: tuple[Ints, Ints]
    hidden: tuple[Bools, Bools]
    #: Per triangle (m, 2, 4) how places on it become steps of its chart, and (m, 3) how many steps there are
    #: each way and the first place; -1 for what lies on no chart.
    onto: Floats32
    within: Ints32

    @classmethod
    def of(cls, points: LightPoints, position: Floats, off: Bools, rays: RayScene, sees: Sight) -> Places:
        """The places for points that lie at ``position`` (n, 3).  off : (n,) points that hang where there is
        no surface.  sees : says which points see anything: one within a wall that stands on the surface says
        nothing of what lies beside it."""
        grid, charts = _Grid.of(points, position), points.charts
        walls = [grid.walls(rays, sign) for sign in SIGNS]
        stood_on = np.zeros(len(charts.steps), bool)
        for wall in walls:
            stood_on[grid.chart[wall]] = True
        times = _finest(charts.steps, stood_on)
        steps = charts.steps * times[:, None]
        place = packed(steps)
        index, at = _numbered(steps)
        places = grid.about(index, at / np.maximum(times[index], 1)[:, None], charts.steps)
        share = []
        for sign, wall in zip(SIGNS, walls, strict=True):
            asked = np.flatnonzero(wall[places.corner].any(axis=1) & (times[index] > 1))
            counts = places.share.copy()
            silent = off[: len(wall)] | grid.blind(wall, sees, sign)
            counts[asked] *= ~_shut(places, grid, rays, sign, asked)
            counts[times[index] > 1] *= ~silent[places.corner[times[index] > 1]]
            share.append(counts)
        rows = int((place[:, 1] + steps[:, 1]).max()) + 1 if len(place) else 0
        down = rows - points.chart_rows
        uv = points.uv.copy()
        on = charts.chart >= 0
        c = charts.chart[on]
        uv[on] = (uv[on] - 0.5 - charts.place[c][:, None]) * times[c][:, None, None] + place[c][:, None] + 0.5
        uv[~on, :, 1] += down
        column, row = place[index, 0] + at[:, 0], place[index, 1] + at[:, 1]
        # Where nothing about a place can be reached, the nearest speaks as it would if nothing stood there.
        front, back = (
            places.corner[np.arange(len(index)), (counts + 1e-6 * places.share).argmax(axis=1)]
            for counts in share
        )
        first = np.cumsum((steps + 1).prod(axis=1)) - (steps + 1).prod(axis=1)
        return cls(
            column, row, index, (points.size[0], points.size[1] + down), (places.corner, places.corner), (share[0], share[1]),
            steps, first, down, uv, (front, back), (_none(share[0]), _none(share[1])),
            *_onto(points, steps, first),
        )  # fmt: skip

    def numbered(self) -> Ints:
        """(height + 2, width + 2) the number of the place at each row and column, with a rim of -1, as
        wherever there is none."""
        number = np.full((int(self.row.max(initial=-1)) + 3, self.size[0] + 2), -1, np.int64)
        number[self.row + 1, self.column + 1] = np.arange(len(self.row))
        return number

    def lonely(self, side: int) -> Ints:
        """Places from which no point about them can be reached."""
        return np.flatnonzero(self.hidden[side])

    def where(self, points: LightPoints, which: Ints) -> tuple[Ints, Floats, Ints]:
        """Of places (k,): a triangle of their chart (k,), where they lie in its plane (k, 3), and their
        column and row in it (k, 2)."""
        charts = points.charts
        chart = self.chart[which]
        number, across = which - self.first[chart], self.steps[chart, 0] + 1
        step = np.column_stack([number % across, number // across])
        own = np.full(len(charts.steps), -1, np.int64)
        count = len(points.texel)
        own[charts.chart[points.face[:count]]] = np.arange(count)
        point = own[chart]
        face, normal = points.face[point], points.normal[point]
        flat = charts.low[chart] + step / np.maximum(self.steps[chart], 1) * charts.size[chart]
        level = np.einsum("ij,ij->i", points.position[point], normal)
        at = normal * level[:, None] + flat[:, :1] * charts.u[face] + flat[:, 1:] * charts.v[face]
        return face, at, step

    def spoken_for(self, side: int, which: Ints, point: Ints) -> Places:
        """The same with places ``which`` (k,) showing one point each."""
        return self.shown_by(
            side, which, np.repeat(point[:, None], 4, axis=1), np.tile((1.0, 0.0, 0.0, 0.0), (len(which), 1))
        )

    def shown_by(self, side: int, which: Ints, point: Ints, share: Floats) -> Places:
        """The same with places ``which`` (k,) showing a mean of points (k, 4), each by its ``share``
        (k, 4)."""
        corner, speaker = list(self.corner), list(self.speaker)
        shares, hidden = list(self.share), list(self.hidden)
        corner[side], shares[side] = corner[side].copy(), shares[side].copy()
        speaker[side], hidden[side] = speaker[side].copy(), hidden[side].copy()
        corner[side][which], shares[side][which] = point, share
        speaker[side][which] = point[np.arange(len(which)), share.argmax(axis=1)]
        hidden[side][which] = _none(share)
        return replace(
            self,
            corner=(corner[0], corner[1]),
            share=(shares[0], shares[1]),
            speaker=(speaker[0], speaker[1]),
            hidden=(hidden[0], hidden[1]),
        )

    def mixed(self, side: int, bad: Bools, dumb: Bools, light: Floats) -> tuple[Floats, Bools, Bools]:
        """(f, 3) what places show of the light of a side's points (n, 3), which of them (f,) have only points
        that lie inside a body, ``bad`` (n,), and which show ``nothing`` of their own: those whose points are
        all ``dumb`` (n,)."""
        corner = self.corner[side]
        share = self.share[side] * ~bad[corner]
        within = share.sum(axis=1) < LEAST
        share[within] = self.share[side][within] * ~dumb[corner[within]]
        total = share.sum(axis=1)
        nothing = total < LEAST
        plain = self.share[side] + 1e-9
        share[nothing], total[nothing] = plain[nothing], plain[nothing].sum(axis=1)
        shown = np.zeros((len(share), 3))
        for number in range(4):
            shown += light[corner[:, number]] * (share[:, number] / total)[:, None]
        return shown, within, nothing

    def nearest(self, points: LightPoints, face: Ints32, place: Floats32, back: Bools) -> Ints32:
        """(k,) the side that speaks for places (k, 3) on triangles ``face`` (k,), on their back or not: front
        sides first."""
        near = points.corners.nearest[face].astype(np.int32)
        on = np.flatnonzero(self.within[face, 2] >= 0)
        if len(on):
            f, side = face[on], back[on]
            onto, within = self.onto[f], self.within[f]
            at = np.einsum("ijk,ik->ij", onto[:, :, :3], place[on]) + onto[:, :, 3]
            step = np.clip(np.rint(at), 0.0, within[:, :2]).astype(np.int32)
            number = self._beside_hidden(at, step, within, side)
            near[on] = np.where(side, self.speaker[1][number], self.speaker[0][number])
        nearest: Ints32 = near + back * np.int32(len(points.position))
        return nearest

    def _beside_hidden(self, at: Floats32, step: Ints32, within: Ints32, back: Bools) -> Ints32:
        """(k,) the places nearest to ``at`` (k, 2), columns and rows of charts, at ``step``; beside one from
        which no point can be reached, as in the thickness of a floor, the next that has any: what speaks for
        it may be in the room beyond."""
        number: Ints32 = within[:, 2] + step[:, 1] * (within[:, 0] + 1) + step[:, 0]
        hidden = np.flatnonzero(self._hidden(number, back))
        if not len(hidden):
            return number
        aside = at[hidden] - step[hidden]
        toward = np.where(aside < 0.0, -1, 1).astype(np.int32)
        # The nearer of the two neighbours that way, the other, and the one aslant.
        first = np.abs(aside[:, 0]) >= np.abs(aside[:, 1])
        left = np.arange(len(hidden))
        for across, up in ((first, ~first), (~first, first), (True, True)):
            some = hidden[left]
            shift = np.column_stack(
                [toward[left, 0] * _some(across, left), toward[left, 1] * _some(up, left)]
            )
            other = np.clip(step[some] + shift, 0, within[some, :2])
            there = within[some, 2] + other[:, 1] * (within[some, 0] + 1) + other[:, 0]
            open_ = ~self._hidden(there, back[some])
            number[some[open_]] = there[open_]
            left = left[~open_]
            if not len(left):
                break
        return number

    def _hidden(self, number: Ints32, back: Bools) -> Bools:
        hidden: Bools = np.where(back, self.hidden[1][number], self.hidden[0][number])
        return hidden


def _none(share: Floats) -> Bools:
    """(k,) of places whether nothing counts of the points about them, (k, 4)."""
    none: Bools = share.sum(axis=1) < LEAST
    return none


def _some(which: Bools | bool, rows: Ints) -> Bools | bool:
    return which if isinstance(which, bool) else which[rows]


def _onto(points: LightPoints, steps: Ints, first: Ints) -> tuple[Floats32, Ints32]:
    charts = points.charts
    chart = np.maximum(charts.chart, 0)
    onto = np.zeros((len(chart), 2, 4), np.float32)
    within = np.full((len(chart), 3), -1, np.int32)
    if len(steps):
        scale = steps[chart] / np.maximum(charts.size[chart], 1e-9)
        onto[:, 0, :3], onto[:, 1, :3] = charts.u * scale[:, :1], charts.v * scale[:, 1:]
        onto[:, :, 3] = -charts.low[chart] * scale
        within = np.column_stack([steps[chart], first[chart]]).astype(np.int32)
        within[charts.chart < 0] = -1
    return onto, within


def _finest(steps: Ints, stood_on: Bools) -> Ints:
    """How many times as fine charts are drawn: those on which something stands as fine as there is room
    for."""
    for times in range(FINER, 1, -1):
        splits = np.where(stood_on, times, 1)
        if int((steps * splits[:, None] + 1).prod(axis=1).sum()) <= MOST_PLACES:
            return splits
    return np.ones(len(steps), np.int64)


def _numbered(steps: Ints) -> tuple[Ints, Ints]:
    """All places of grids: the grid each belongs to (f,), and its column and row in it (f, 2)."""
    count = (steps + 1).prod(axis=1)
    index = np.repeat(np.arange(len(steps)), count)
    number = np.arange(len(index)) - np.repeat(np.cumsum(count) - count, count)
    across = steps[index, 0] + 1
    return index, np.column_stack([number % across, number // across])


@dataclass(frozen=True, slots=True)
class _About:
    """For places (f,): the four points about each (f, 4), how much each counts (f, 4), and where the place
    lies (f, 3)."""

    corner: Ints
    share: Floats
    place: Floats


@dataclass(frozen=True, slots=True)
class _Grid:
    """The points of charts: where each lies, its direction and chart; the point after it along and across,
    itself at the rim."""

    position: Floats
    normal: Floats
    chart: Ints
    after: tuple[Ints, Ints]
    first: Ints

    @classmethod
    def of(cls, points: LightPoints, position: Floats) -> _Grid:
        count = len(points.texel)
        chart = points.charts.chart[points.face[:count]]
        steps, place = points.charts.steps[chart], points.charts.place[chart]
        inside = points.texel - place
        own = np.arange(count)
        right = np.where(inside[:, 0] < steps[:, 0], own + 1, own)
        up = np.where(inside[:, 1] < steps[:, 1], own + steps[:, 0] + 1, own)
        first = np.full(len(points.charts.steps), -1, np.int64)
        first[chart[::-1]] = own[::-1]
        return cls(position[:count], points.normal[:count], chart, (right, up), first)

    def walls(self, rays: RayScene, sign: int) -> Bools:
        """(n,) whether something stands between a point and one of those after it."""
        has_wall = np.zeros(len(self.position), bool)
        lifted = self.position + self.normal * (sign * ABOVE_M)
        for after in self.after:
            some = np.flatnonzero(after != np.arange(len(after)))
            has_wall[some[between(rays, lifted[some], lifted[after[some]])]] = True
        return has_wall

    def blind(self, wall: Bools, sees: Sight, sign: int) -> Bools:
        """(n,) which points next to a wall see nothing."""
        beside = wall.copy()
        for after in self.after:
            beside[after[wall]] = True
        which = np.flatnonzero(beside)
        blind = np.zeros(len(wall), bool)
        blind[which] = ~sees(which, sign)
        return blind

    def about(self, index: Ints, at: Floats, steps: Ints) -> _About:
        """What lies about places of charts ``index`` (f,), at columns and rows of points (f, 2)."""
        low = np.minimum(np.floor(at).astype(np.int64), np.maximum(steps[index] - 1, 0))
        part = at - low
        across = steps[index, 0] + 1
        origin = self.first[index] + low[:, 1] * across + low[:, 0]
        right = np.where(steps[index, 0] > 0, 1, 0)
        up = np.where(steps[index, 1] > 0, across, 0)
        corner = np.column_stack([origin, origin + right, origin + up, origin + right + up])
        x, y = part.T
        share = np.column_stack([(1 - x) * (1 - y), x * (1 - y), (1 - x) * y, x * y])
        return _About(corner, share, np.einsum("ij,ijk->ik", share, self.position[corner]))


def between(rays: RayScene, start: Floats, end: Floats) -> Bools:
    """(n,) whether anything lies between places (n, 3)."""
    along = end - start
    away = np.linalg.norm(along, axis=1)
    shut: Bools = rays.meet(start, along / np.maximum(away, 1e-9)[:, None]).distance_m < away
    return shut


def _shut(places: _About, grid: _Grid, rays: RayScene, sign: int, asked: Ints) -> Bools:
    """(k, 4) whether something lies between places and the points about them."""
    lift = grid.normal[places.corner[asked, 0]] * (sign * ABOVE_M)
    shut = np.zeros((len(asked), 4), bool)
    for number in range(4):
        end = grid.position[places.corner[asked, number]] + lift
        shut[:, number] = between(rays, places.place[asked] + lift, end)
    return shut
