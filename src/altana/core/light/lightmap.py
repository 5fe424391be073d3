"""Where indirect light is computed: points on the model's surfaces, and the picture they are read from.

Triangles of one object that lie in one plane share a chart, a grid of points across that plane, and so do
those of objects that lie side by side in it, as tiles do.  Small and curved parts take their light at their
corners, from points that near corners of one direction share; each of their triangles has a patch of four
places in the picture, so that the light runs evenly across it.  Every point has two sides, the one its
surface's winding faces and the one behind it: models are wound as they please, and a sheet is seen from both.
The picture (the light map) holds the front sides in its upper half and the back sides in its lower one.

Nothing here depends on what stands elsewhere in the model, but for what touches a plane, so that a room keeps
its light when something is added outside.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy

from altana.core.conventions import Bools, Floats, Floats32, Ints
from altana.core.geometry.cross import crossed
from altana.core.geometry.rays import RayScene
from altana.core.light.abutting import abutting
from altana.core.light.corners import Corners, Lone, hanging_together
from altana.core.light.frosted import looked_through
from altana.core.light.priority import far_off, under_sky
from altana.core.light.shape import Shape
from altana.core.light.stood_on import NARROWEST_M, stood_upon
from altana.core.model import Model

SPACING_M, WIDE_M2 = 0.30, 60.0
#: A chart has at most this many points a side; large grounds get coarser ones.
MOST_A_SIDE = 72
#: Planes smaller than this are lit at their corners, but for those that are so wide both ways: light across a
#: lintel goes over no more evenly than across the wall beside it.
SMALL_M, WIDE_M = 1.3, 0.6
#: Planes that are mostly holes (balusters, frames) are lit at their corners too, and curved ones narrower
#: than this.
EMPTY_SHARE, NARROW_M = 0.22, 0.6
#: Of planes less filled than this, pieces farther apart than this are planes of their own, and such pieces
#: narrower than this are bars.
SPARSE_SHARE, HANGS_M, BAR_M = 0.5, 0.3, 0.25
#: A plane narrower than this has one line of points.  Small planes so well filled, on which something stands,
#: have points as large ones do.
LINE_M, FILLED_SHARE = 0.16, 0.8
#: A point speaks for this share of the step between points, and for no more metres than this.
REACH, MOST_REACH_M = 0.5, 0.15
#: Points on a rim are drawn in by this.
RIM_M = 0.025
WIDTH = 1024
#: Points spread at most: each takes four kilobytes and two thirds of a millisecond.  Where more would be
#: wanted, the spacings of what lies far off grow first, then those of what lies in no room, then all of them.
MOST_POINTS, COARSER, FAR_TOO_MANY = 80_000, 1.2, 4.0
#: How much coarser the far may get, and what lies open under the sky, step by step.
FARTHER, OPENER = (1.0, 4.0, 16.0, 16.0, 16.0, 16.0), (1.0, 1.0, 1.0, 1.8, 3.2, 5.6)
#: Where a step leaves more than this share of the points, the next is a stride; where that leaves nearly all,
#: there are no fewer.
SLOW, STRIDE, STILL = 0.95, 4.0, 0.99
#: Of models of more triangles the soft light is estimated, not computed.
MOST_LIT = 1_500_000


@dataclass(frozen=True, slots=True)
class Charts:
    """The grids: per triangle its chart (-1: lit at its corners), axes ``u``, ``v`` (m, 3); per chart the low
    corner and size on them in metres, steps between points and its first place in the picture."""

    chart: Ints
    u: Floats
    v: Floats
    low: Floats
    size: Floats
    steps: Ints
    place: Ints


@dataclass(frozen=True, slots=True)
class LightPoints:
    """The points: ``position`` and ``normal`` (n, 3) float64 of their front sides, ``owner`` (n,) the object,
    ``face`` (n,) a triangle they lie on, ``reach`` (n,) how far about it in metres each of them speaks for
    its surface.

    The first ones are those of charts: ``texel`` (g, 2) column and row in a picture of ``size`` (width,
    height of one side's half). ``patch`` (p,) are the other places of the picture, as one number, and ``mix``
    (p, n) how much of each point they show. Per triangle corner ``uv`` (m, 3, 2) float32 in texels of the
    front half.
    """

    position: Floats
    normal: Floats
    owner: Ints
    face: Ints
    reach: Floats
    texel: Ints
    size: tuple[int, int]
    uv: Floats32
    patch: Ints
    mix: scipy.sparse.csr_array
    charts: Charts
    corners: Corners
    #: So many rows of the picture belong to charts.
    chart_rows: int


def spread(model: Model, most: int = MOST_POINTS) -> LightPoints:
    """Place the points for a model, about ``most`` of them at the most."""
    shape = Shape.of(model)
    planes = _Planes.of(model, shape)
    away, open_ = far_off(shape), np.zeros(len(shape.area), bool)
    coarser, step, ready, before, strode = 1.0, 0, None, np.inf, False
    while True:
        farther = coarser * np.maximum(np.minimum(away, FARTHER[step]), np.where(open_, OPENER[step], 1.0))
        charts = planes.charts(SPACING_M * farther)
        lone = charts.chart < 0
        if ready is None or not np.array_equal(ready.lone, lone):
            ready = Lone.of(model, lone, planes.group, shape)
        count = int((charts.steps + 1).prod(axis=1).sum()) + ready.count(farther)
        # Thousands of things have a point each way they face, however coarse.
        if count <= most or (strode and count > STILL * before):
            return _laid_out(shape, charts, ready.points(farther))
        much = count / most
        if step + 1 < len(FARTHER):
            # Each step looks at all triangles again; where far too many points are wanted, the last is the
            # first that may do.
            step = len(FARTHER) - 1 if much > FAR_TOO_MANY else step + 1
            if OPENER[step] > 1.0 and not open_.any():
                open_ = under_sky(model, shape, *planes.surfaces(shape.owner))
        else:
            strode = count > SLOW * before
            before = count
            coarser *= STRIDE if strode else max(COARSER, float(much**0.65 if much > 2.0 else np.sqrt(much)))


def _laid_out(shape: Shape, charts: Charts, corners: Corners) -> LightPoints:
    position, normals, texel, face, reach, rows = _grid(charts, shape.corners, shape.normal)
    lone, patch, mix, uv, height = corners.laid_out(len(position), rows, WIDTH)
    uv[charts.chart >= 0] = _places(charts, shape.corners)
    return LightPoints(
        np.concatenate([position, lone.position]),
        np.concatenate([normals, lone.normal]),
        np.concatenate([shape.owner[face], lone.owner]),
        np.concatenate([face, lone.face]),
        np.concatenate([reach, lone.reach]),
        texel,
        (WIDTH, max(height, 1)),
        uv,
        patch,
        mix,
        charts,
        lone,
        rows,
    )


@dataclass(frozen=True, slots=True)
class _Planes:
    """Triangles of one object that lie in one plane, and with them what other objects have beside it: per
    triangle its ``group`` and axes ``u``, ``v``; per group its low corner and size on them, metres, whether
    it is lit at its corners whatever its size, and whether it is not, though small, for it is wide both ways
    or something stands on it."""

    group: Ints
    u: Floats
    v: Floats
    low: Floats
    size: Floats
    at_corners: Bools
    own_grid: Bools

    @classmethod
    def of(cls, model: Model, shape: Shape) -> _Planes:
        corners, normal, area = shape.corners, shape.normal, shape.area
        u, v = _axes(normal)
        flat = np.stack([np.einsum("ikj,ij->ik", corners, u), np.einsum("ikj,ij->ik", corners, v)], axis=-1)
        group, low, high, torn = _apart(
            shape, flat, _planes(shape.owner, normal, np.einsum("ij,ij->i", normal, corners[:, 0]))
        )
        size = high - low
        shading = model.normals[model.faces].astype(float).mean(axis=1)
        bent = np.abs(np.einsum("ij,ij->i", normal, shading)) < 0.97
        filled = np.bincount(group, weights=area) / np.maximum(size.prod(axis=1), 1e-9)
        # Bars and posts stay small parts, taken apart or not; a sill is none.
        holed = ((filled < EMPTY_SHARE) & (size.max(axis=1) > 1.0)) | (torn & (size.min(axis=1) < BAR_M))
        curved = (np.bincount(group, weights=bent) > 0) & (size.min(axis=1) < NARROW_M)
        holes = np.array([material.has_holes for material in model.materials], bool)[model.face_material]
        single = np.bincount(group, weights=holes | (area < 1e-12)) > 0
        at_corners = holed | curved | single
        first = _first(group)
        level = np.einsum("ij,ij->i", normal, corners[:, 0])
        one = abutting(
            _facing(normal[first]), level[first], low, high, filled * size.prod(axis=1), ~(at_corners | torn)
        )
        group, (low, high) = one[group], _extent(one, np.stack([low, high], axis=1))
        at_corners, size = np.bincount(one, weights=at_corners) > 0, high - low
        filled, first = np.bincount(group, weights=area) / np.maximum(size.prod(axis=1), 1e-9), _first(group)
        own_grid = np.zeros(len(size), bool)
        whole = ~at_corners & (size.max(axis=1) < SMALL_M) & (filled > FILLED_SHARE)
        own_grid[whole] = size[whole].min(axis=1) >= WIDE_M
        small = np.flatnonzero(whole & ~own_grid)
        if len(small):
            rays = RayScene.of(model, chosen=~looked_through(model)[2][model.face_material])
            own_grid[small] = stood_upon(
                rays, small, normal[first], level[first], (u[first], v[first]), low, size
            )
        return cls(group, u, v, low, size, at_corners, own_grid)

    def surfaces(self, owner: Ints) -> tuple[Ints, Bools]:
        """(m,) numbers of what is looked at as one: wide planes, and of each object all that is lit at its
        corners; (m,) which is that."""
        small: Bools = (self.at_corners | ((self.size.max(axis=1) < SMALL_M) & ~self.own_grid))[self.group]
        one = np.unique(np.where(small, -1 - owner, self.group), return_inverse=True)[1]
        return one.astype(np.int64), small

    def charts(self, spacing: Floats) -> Charts:
        """Grids with points so far apart, per triangle, metres: as far as the nearest triangle of a plane
        asks for."""
        size = self.size
        wanted = np.full(len(size), np.inf)
        np.minimum.at(wanted, self.group, spacing)
        # Where points lie farther apart than a plane is wide, no plane has a grid.
        small = self.at_corners | (
            size.max(axis=1) < np.where(self.own_grid, wanted, np.maximum(SMALL_M, wanted))
        )
        # Wide grounds and fronts get coarser points, slowly: by the fourth root of how much larger they are.
        own = wanted * np.maximum(size.prod(axis=1) / WIDE_M2, 1.0) ** 0.25
        steps = np.clip(np.ceil(size / own[:, None]), 1, MOST_A_SIDE).astype(np.int64)
        steps = np.where(size < np.where(self.own_grid, NARROWEST_M, LINE_M)[:, None], 0, steps)
        number = np.full(len(size), -1, np.int64)
        wide = np.flatnonzero(~small)
        number[wide] = np.arange(len(wide))
        return Charts(
            number[self.group], self.u, self.v, self.low[wide], size[wide], steps[wide], packed(steps[wide])
        )


def _planes(owner: Ints, normal: Floats, distance: Floats) -> Ints:
    facing = _facing(normal) + 64
    key = ((owner * 131 + facing[:, 0]) * 131 + facing[:, 1]) * 131 + facing[:, 2]
    key = key * 1_000_003 + np.round(distance * 50.0).astype(np.int64)
    _, group = np.unique(key, return_inverse=True)
    return np.asarray(group, np.int64)


def _facing(normal: Floats) -> Ints:
    facing: Ints = np.round(normal * 40.0).astype(np.int64)
    return facing


def _first(group: Ints) -> Ints:
    """(groups,) the first triangle of each."""
    first = np.zeros(int(group.max(initial=-1)) + 1, np.int64)
    first[group[::-1]] = np.arange(len(group))[::-1]
    return first


def _apart(shape: Shape, flat: Floats, group: Ints) -> tuple[Ints, Floats, Floats, Bools]:
    """(m,) the planes ``group`` (m,), of which those that are mostly holes are taken apart where they do not
    hang together; their low and high corners on their axes, of corners ``flat`` (m, 3, 2); and which are
    pieces of what would have been lit at its corners.

    Where a model is one object, the floors of all its houses lie in one plane.
    """
    low, high = _extent(group, flat)
    size = high - low
    filled = np.bincount(group, weights=shape.area) / np.maximum(size.prod(axis=1), 1e-9)
    sparse = (filled < SPARSE_SHARE) & (size.max(axis=1) > 1.0)
    if not sparse.any():
        return group, low, high, sparse
    piece = hanging_together(shape.corners, group, sparse[group], HANGS_M)
    key = np.where(sparse[group], len(size) + piece, group)
    _, first, apart = np.unique(key, return_index=True, return_inverse=True)
    torn = (sparse & (filled < EMPTY_SHARE))[group[first]]
    return apart.astype(np.int64), *_extent(apart, flat), torn


def _axes(normal: Floats) -> tuple[Floats, Floats]:
    level = np.abs(normal[:, 2:3]) > 0.9
    u = np.where(
        level,
        np.array([1.0, 0.0, 0.0]),
        np.column_stack([-normal[:, 1], normal[:, 0], np.zeros(len(normal))]),
    )
    u -= normal * np.einsum("ij,ij->i", u, normal)[:, None]
    u /= np.maximum(np.linalg.norm(u, axis=1, keepdims=True), 1e-12)
    return u, crossed(normal, u)


def _extent(group: Ints, flat: Floats) -> tuple[Floats, Floats]:
    count = int(group.max()) + 1 if len(group) else 0
    low, high = np.full((count, 2), np.inf), np.full((count, 2), -np.inf)
    np.minimum.at(low, group, flat.min(axis=1))
    np.maximum.at(high, group, flat.max(axis=1))
    return low, high


def packed(steps: Ints) -> Ints:
    """(charts, 2) the first place of each chart, in rows of charts of like height."""
    place = np.zeros((len(steps), 2), np.int64)
    column = row = tallest = 0
    for index in np.argsort(-steps[:, 1], kind="stable").tolist():
        columns, high = int(steps[index, 0]) + 1, int(steps[index, 1]) + 1
        if column + columns > WIDTH:
            column, row, tallest = 0, row + tallest, 0
        place[index] = column, row
        column += columns
        tallest = max(tallest, high)
    return place


def _grid(charts: Charts, corners: Floats, normal: Floats) -> tuple[Floats, Floats, Ints, Ints, Floats, int]:
    first = np.full(len(charts.size), -1)
    on = np.flatnonzero(charts.chart >= 0)[::-1]
    first[charts.chart[on]] = on
    position, normals, texels, faces = (
        [np.zeros((0, 3))],
        [np.zeros((0, 3))],
        [np.zeros((0, 2), np.int64)],
        [],
    )
    reaches: list[Floats] = [np.zeros(0)]
    for index, face in enumerate(first.tolist()):
        columns, high = charts.steps[index] + 1
        i, j = np.meshgrid(np.arange(columns), np.arange(high))
        # Points on the rim are drawn in a little, because a rim often touches or enters a neighbour.
        size = charts.size[index]
        share = np.stack([_inset(i, columns, size[0]), _inset(j, high, size[1])], axis=-1).reshape(-1, 2)
        at = charts.low[index] + share * size
        n = normal[face]
        origin = n * np.dot(corners[face, 0], n)
        position.append(origin + at[:, :1] * charts.u[face] + at[:, 1:] * charts.v[face])
        normals.append(np.tile(n, (len(at), 1)))
        texels.append(np.stack([i, j], axis=-1).reshape(-1, 2) + charts.place[index])
        faces.append(np.full(len(at), face))
        step = size / np.maximum(charts.steps[index], 1)
        rim = np.minimum(share, 1.0 - share) * size
        reaches.append(
            np.minimum(np.minimum(step.min() * REACH, MOST_REACH_M), np.maximum(rim.min(axis=1), 0.01))
        )
    texel = np.concatenate(texels)
    rows = int(texel[:, 1].max()) + 1 if len(texel) else 0
    face_of = np.concatenate(faces).astype(np.int64) if faces else np.zeros(0, np.int64)
    return np.concatenate(position), np.concatenate(normals), texel, face_of, np.concatenate(reaches), rows


def _inset(index: Ints, count: int, size: float) -> Floats:
    if count == 1:
        return np.full(index.shape, 0.5)
    rim = min(RIM_M, size * 0.2) / size
    return np.clip(index / (count - 1), rim, 1.0 - rim)


def _places(charts: Charts, corners: Floats) -> Floats32:
    on = charts.chart >= 0
    c = charts.chart[on]
    flat = np.stack(
        [
            np.einsum("ikj,ij->ik", corners[on], charts.u[on]),
            np.einsum("ikj,ij->ik", corners[on], charts.v[on]),
        ],
        axis=-1,
    )
    share = (flat - charts.low[c][:, None]) / np.maximum(charts.size[c], 1e-9)[:, None]
    return (charts.place[c][:, None] + 0.5 + share * charts.steps[c][:, None]).astype(np.float32)
