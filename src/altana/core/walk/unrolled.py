"""The long section: the building cut upright along the whole route and rolled out flat.

Across the sheet lies the distance walked, up the sheet the height.  The route is taken as short straight
pieces, each a plane through the building; what is cut on them is set side by side.  Bodies are filled column
by column: along an upright line through a closed body its surfaces come in pairs, an entry and an exit, so
nothing need be joined across pieces.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from altana.core.conventions import Bools, Floats, Ints32
from altana.core.geometry.rays import RayScene
from altana.core.geometry.sections import cut_triangles
from altana.core.model import GLASS, Model
from altana.core.walk.path import Route

#: A piece is at least this long; a long route has longer pieces, so that there are never more than
#: MOST_PIECES.
PIECE_M, MOST_PIECES = 0.12, 500
#: Columns across the sheet, asked a little off their middle, where no piece and no even measure of a building
#: ends.
COLUMNS, ASKED_AT = 1400, 0.4871
#: Shown below the lowest floor and above the highest ceiling; a taller space is cut off above the eye.
BELOW_M, ABOVE_M, TALLEST_M = 0.7, 0.6, 8.0
#: So many steps of a route are looked at together first.
TOGETHER = 24


@dataclass(frozen=True, slots=True, eq=False)
class Unrolled:
    """The long section of a route.  ``solid`` (k, 4) float32: from and to along the route, lower and upper
    edge of what is cut, metres; ``lines`` (n, 2, 2) float32 cut lines (along, up), ``panes`` likewise of
    glass.  ``eye`` (m, 2) and ``floor`` (m, 2): along and up, NaN where there is no floor.  ``rooms``: from,
    to and name along the route; the sheet reaches from ``low_m`` to ``high_m``."""

    length_m: float
    low_m: float
    high_m: float
    solid: Floats
    lines: Floats
    panes: Floats
    eye: Floats
    floor: Floats
    rooms: tuple[tuple[float, float, str], ...] = ()


def unroll(model: Model, rays: RayScene, floors: RayScene, route: Route) -> Unrolled:
    """The long section of a route through a model.  rays : everything; floors : what one stands on."""
    count = int(np.clip(route.length_m / PIECE_M, 2, MOST_PIECES)) + 1
    along = np.linspace(0.0, route.length_m, count)
    eye = route.at(along)
    floor = floors.floors_below(eye)
    up = rays.cast(eye, np.tile((0.0, 0.0, 1.0), (count, 1))).distance_m
    low = float(np.nanmin(floor) if np.isfinite(floor).any() else eye[:, 2].min() - 1.6) - BELOW_M
    ceiling = np.minimum(np.where(np.isfinite(up), up, 2.4), TALLEST_M) + eye[:, 2]
    high = float(ceiling.max()) + ABOVE_M
    lines, owner, glass = _cut(model, eye, along, (low, high))
    return Unrolled(
        route.length_m,
        low,
        high,
        _solids(lines[~glass], owner[~glass], route.length_m, (low, high)).astype(np.float32),
        lines[~glass].astype(np.float32),
        lines[glass].astype(np.float32),
        np.column_stack([along, eye[:, 2]]),
        np.column_stack([along, np.where(np.isfinite(floor), floor, np.nan)]),
        _rooms(model, along, eye),
    )


def _cut(
    model: Model, eye: Floats, along: Floats, reach: tuple[float, float]
) -> tuple[Floats, Ints32, Bools]:
    """(k, 2, 2) cut lines on the sheet, the (k,) objects they belong to and whether they are glass."""
    corner = model.vertices[model.faces]
    low, high = corner.min(axis=1), corner.max(axis=1)
    within = np.flatnonzero((low[:, 2] < reach[1]) & (high[:, 2] > reach[0]))
    low, high = low[within], high[within]
    owner = model.face_objects()
    clear = np.array([item.kind == GLASS for item in model.materials] or [False])[model.face_material]
    pieces, owners, panes = [], [], []
    about = np.zeros(0, np.intp)
    for number in range(len(along) - 1):
        if number % TOGETHER == 0:
            # What lies about this and the next steps: each step looks at these only.
            some = eye[number : number + TOGETHER + 1, :2]
            about = np.flatnonzero(_beside(low, high, some.min(axis=0), some.max(axis=0)))
        start, end = eye[number, :2], eye[number + 1, :2]
        run = end - start
        length = float(np.hypot(*run))
        if length < 1e-9:
            continue
        ahead = run / length
        box_low, box_high = np.minimum(start, end), np.maximum(start, end)
        near = within[about[_beside(low[about], high[about], box_low, box_high)]]
        normal = np.array([ahead[1], -ahead[0], 0.0])
        cut = cut_triangles(corner[near], near, normal, float(normal[:2] @ start))
        if not len(cut.face):
            continue
        flat = np.stack([(cut.points[:, :, :2] - start) @ ahead, cut.points[:, :, 2]], axis=2)
        kept, which = _clipped(flat, 0.0, length)
        # A piece is as long on the sheet as the walk along it, which climbs.
        kept[:, :, 0] = along[number] + kept[:, :, 0] * (along[number + 1] - along[number]) / length
        pieces.append(kept)
        owners.append(owner[cut.face[which]])
        panes.append(clear[cut.face[which]])
    if not pieces:
        return np.zeros((0, 2, 2)), np.zeros(0, np.int32), np.zeros(0, bool)
    return np.concatenate(pieces), np.concatenate(owners), np.concatenate(panes)


def _beside(low: Floats, high: Floats, box_low: Floats, box_high: Floats) -> Bools:
    """(k,) which boxes (k, 3) touch one on the plan."""
    return np.asarray(((low[:, :2] <= box_high + 1e-6) & (high[:, :2] >= box_low - 1e-6)).all(axis=1))


def _clipped(lines: Floats, begin: float, end: float) -> tuple[Floats, Ints32]:
    """The parts of (k, 2, 2) lines between two places along, and which lines they are of."""
    a, b = lines[:, 0, 0], lines[:, 1, 0]
    inside = (np.maximum(a, b) >= begin) & (np.minimum(a, b) <= end)
    which = np.flatnonzero(inside).astype(np.int32)
    kept = lines[which].copy()
    run = kept[:, 1] - kept[:, 0]
    for place, edge in ((0, begin), (0, end), (1, begin), (1, end)):
        beyond = kept[:, place, 0] < edge if edge == begin else kept[:, place, 0] > edge
        share = (edge - lines[which[beyond], 0, 0]) / run[beyond, 0]
        kept[beyond, place, 1] = lines[which[beyond], 0, 1] + share * run[beyond, 1]
        kept[beyond, place, 0] = edge
    return kept, which


def _solids(lines: Floats, owner: Ints32, length_m: float, reach: tuple[float, float]) -> Floats:
    """(k, 4) filled pieces: columns along the sheet in which an object's surfaces pair up."""
    wide = length_m / COLUMNS
    left, right = lines[:, :, 0].min(axis=1), lines[:, :, 0].max(axis=1)
    first = np.ceil(left / wide - ASKED_AT).astype(int)
    last = np.floor(right / wide - ASKED_AT).astype(int)
    count = np.maximum(last - first + 1, 0)
    source = np.repeat(np.arange(len(lines)), count)
    if not len(source):
        return np.zeros((0, 4))
    column = np.repeat(first, count) + np.arange(len(source)) - np.repeat(np.cumsum(count) - count, count)
    a, b = lines[source, 0], lines[source, 1]
    share = ((column + ASKED_AT) * wide - a[:, 0]) / (b[:, 0] - a[:, 0])
    z = a[:, 1] + share * (b[:, 1] - a[:, 1])
    order = np.lexsort((z, owner[source], column))
    column, number, z = column[order], owner[source][order], z[order]
    group = np.concatenate([[True], (column[1:] != column[:-1]) | (number[1:] != number[:-1])])
    begins = np.flatnonzero(group)
    size = np.diff(np.append(begins, len(z)))
    place = np.arange(len(z)) - np.repeat(begins, size)
    # Where a column meets a body's surface an odd number of times the body is open there: its lines alone are
    # drawn.
    lower = (place % 2 == 0) & np.repeat(size % 2 == 0, size)
    index = np.flatnonzero(lower)
    low, high = np.maximum(z[index], reach[0]), np.minimum(z[index + 1], reach[1])
    boxes = np.column_stack([column[index] * wide, (column[index] + 1) * wide, low, high])
    kept: Floats = boxes[high > low]
    return kept


def _rooms(model: Model, along: Floats, eye: Floats) -> tuple[tuple[float, float, str], ...]:
    """The rooms that the route goes through, one after the other."""
    spans: list[tuple[float, float, str]] = []
    for distance, place in zip(along.tolist(), eye.tolist(), strict=True):
        room = model.room_at(place)
        name = room.name if room is not None else ""
        if spans and spans[-1][2] == name:
            spans[-1] = (spans[-1][0], distance, name)
        else:
            spans.append((distance, distance, name))
    return tuple(span for span in spans if span[2] and span[1] - span[0] > 0.3)
