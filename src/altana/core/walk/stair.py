"""A walk up a stair: the treads found in its triangles, the line that people walk on them, and places along
that line.

A tread is a level surface; the next one lies a rise higher and beside it.  Both is looked for, never a name:
straight, winding and spiral stairs, open and closed ones, and ladders of separate boards are all the same to
it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely

from altana.core.conventions import STANDING_M, Floats, Vec2, Vec3, parse_rate
from altana.core.errors import Refused
from altana.core.geometry.cross import area_normals
from altana.core.geometry.rays import RayScene
from altana.core.model import Model
from altana.core.project import EVEN, SMOOTH, Limits, Walk, WalkKey
from altana.core.standing import ground_at, level_rays
from altana.core.walk.sample import resolve, sample
from altana.core.walk.start import EV_INSIDE, EV_ROUND, walk_through

#: What objects that are stairs are called in a model.
STAIR = "Stair"
#: A rise from one tread to the next: flatter ones are nosings and joints, higher ones nobody climbs.
LOWEST_RISE_M, HIGHEST_RISE_M = 0.09, 0.26
#: Level surfaces of one tread differ by no more in height; two treads lie no further apart on the plan.
SAME_LEVEL_M, GAP_M = 0.02, 0.30
#: From the middle of one tread to that of the next it is at least so far on the plan, metres.
LEAST_GOING_M = 0.12
#: What lies over more of the next surface than this is its underside, not the step before it.
MOST_OVERLAP = 0.4
#: Smaller surfaces carry no foot, square metres; fewer treads are no stair.
SMALLEST_TREAD_M2, FEWEST_TREADS = 0.06, 3
#: More level triangles are no stair: land, or a whole building in one object.
MOST_LEVEL = 20_000
#: A longer tread is a landing, which is crossed so far from its edges, metres.
LANDING_M, LANDING_EDGE_M = 0.55, 0.45
#: Nothing should stand nearer beside a place, metres, looked for so far below the eye.
ELBOW_M, BELOW_EYE_M = 0.32, 0.65
#: People step over gaps so wide, metres.
STRIDE_M, NO_GAP_M = 0.35, 0.05
#: Between two flights people walk no further than this on a landing, metres.
LONGEST_LANDING_M = 5.0
#: So far before the first and behind the last tread the walk begins and ends, the first of these where a
#: floor is free to stand on.
RUN_UP_M, ON_LANDING_M = (1.0, 0.7, 0.45), (0.75, 0.6, 0.45)
ROUND_DEG = (0.0, 30.0, -30.0, 60.0, -60.0, 90.0, -90.0)
#: A place of its own after so much turning, degrees, and after so long a straight flight, metres.
TURN_DEG, STRAIGHT_M = 42.0, 6.0
#: Turning more at one point is a corner; on turning treads it is less.
CORNER_DEG = 28.0


@dataclass(frozen=True, slots=True)
class Tread:
    """A level surface: its height in metres and its outline on the plan."""

    level_m: float
    outline: shapely.Polygon

    @property
    def middle(self) -> Floats:
        """(2,) its middle on the plan, metres."""
        return np.array(self.outline.centroid.coords[0])


def flights_in(corners: Floats) -> list[list[Tread]]:
    """The flights of a stair from below to above, each with its treads from below to above.  corners :
    (n, 3, 3) metres, its triangles.

    Between two flights lies a landing that belongs to another object.  Raises Refused where they make no
    stair.
    """
    levels = _levels(np.asarray(corners, float))
    flights: list[list[Tread]] = []
    lower, taken = _steps_down(levels), set[int]()
    for top in range(len(levels) - 1, -1, -1):
        # What is part of a longer flight already begins none of its own.
        numbers = [top] if top not in taken else []
        while numbers and lower[numbers[-1]] >= 0:
            numbers.append(lower[numbers[-1]])
        taken.update(numbers)
        flights.append([levels[index] for index in reversed(numbers)])
    flights = [item for item in flights if len(item) >= FEWEST_TREADS]
    if not flights:
        raise Refused("There are no treads in this object, so there is no stair to walk up. Choose a stair.")
    stack = [max(flights, key=len)]
    while (above := _next(stack[-1], flights, up=True)) is not None:
        stack.append(above)
    while (below := _next(stack[0], flights, up=False)) is not None:
        stack.insert(0, below)
    return stack


def _next(flight: list[Tread], flights: list[list[Tread]], *, up: bool) -> list[Tread] | None:
    """The nearest flight that begins two rises above this one, or ends two rises below: a landing lies
    between."""
    best, nearest = None, LONGEST_LANDING_M
    for other in flights:
        low, high = (flight[-1], other[0]) if up else (other[-1], flight[0])
        away = float(np.linalg.norm(high.middle - low.middle))
        if 2 * LOWEST_RISE_M <= high.level_m - low.level_m <= 2 * HIGHEST_RISE_M and away < nearest:
            best, nearest = other, away
    return best


def _levels(corners: Floats) -> list[Tread]:
    """All level surfaces, each in one piece, from below to above."""
    across = area_normals(corners)
    size = np.linalg.norm(across, axis=1)
    # Some files turn their triangles the wrong way, so that surfaces seen from below count here too.
    flat = corners[(size > 1e-9) & (np.abs(across[:, 2]) > 0.97 * size)]
    if not len(flat) or len(flat) > MOST_LEVEL:
        # Land and large slabs are no stairs, and looking for treads in them would hold whoever asks.
        return []
    height = flat[:, :, 2].mean(axis=1)
    order = np.argsort(height)
    flat, height = flat[order], height[order]
    levels = []
    for group in np.split(np.arange(len(flat)), np.flatnonzero(np.diff(height) > SAME_LEVEL_M) + 1):
        whole = shapely.union_all(shapely.polygons(flat[group][:, :, :2]).tolist(), grid_size=0.001)
        level = float(height[group].mean())
        levels += [
            Tread(level, part)
            for part in shapely.get_parts(whole)
            if isinstance(part, shapely.Polygon) and part.area >= SMALLEST_TREAD_M2
        ]
    return levels


def _steps_down(levels: list[Tread]) -> list[int]:
    """For each surface the number of the one that is a rise lower beside it, -1 where there is none.
    levels : from below to above."""
    outlines = np.array([item.outline for item in levels])
    heights = np.array([item.level_m for item in levels])
    middles = np.array([item.middle for item in levels]).reshape(-1, 2)
    areas = shapely.area(outlines)
    lower = []
    for index in range(len(levels)):
        low = np.searchsorted(heights, heights[index] - HIGHEST_RISE_M)
        high = np.searchsorted(heights, heights[index] - LOWEST_RISE_M, side="right")
        near = np.arange(low, high)
        away = np.linalg.norm(middles[near] - middles[index], axis=1)
        near = near[away >= LEAST_GOING_M]
        near = near[shapely.distance(outlines[near], outlines[index]) <= GAP_M]
        common = shapely.area(shapely.intersection(outlines[near], outlines[index]))
        near = near[common < MOST_OVERLAP * np.minimum(areas[near], areas[index])]
        # Of a board's upper and lower side the upper one is stood on; of several at one height the nearest.
        away = np.linalg.norm(middles[near] - middles[index], axis=1)
        order = np.lexsort((away, -np.round(heights[near], 2)))
        lower.append(int(near[order[0]]) if len(near) else -1)
    return lower


def _line_over(flights: list[list[Tread]], ground: Footholds) -> Floats:
    """(n, 3) metres: the line people walk, on the treads: their middles, and on landings where they are
    entered and left."""
    points: list[tuple[float, float, float]] = []
    for number, treads in enumerate(flights):
        line = _line_on(treads)
        if number:
            below, above = np.array(points[-2:]), np.array(line[:2])
            level = float(points[-1][2] + above[0, 2]) / 2.0
            for place, way in ((below[1], below[1] - below[0]), (above[0], above[0] - above[1])):
                points += [
                    (*beside.eye[:2], level)
                    for beside in [_beside_stair(ground, place, _unit(way), level, ON_LANDING_M)]
                    if beside
                ]
        points += line
    return np.array(points)


def _line_on(treads: list[Tread]) -> list[tuple[float, float, float]]:
    points: list[tuple[float, float, float]] = []
    for index, tread in enumerate(treads):
        middle = tread.middle
        before = treads[index - 1].middle if index else None
        after = treads[index + 1].middle if index + 1 < len(treads) else None
        if before is not None and after is not None and _is_landing(tread, before, after):
            ways = (_entered(treads, index, -1), _entered(treads, index, 1))
            points += [(*_on_landing(tread, place, way), tread.level_m) for place, way in ways]
        else:
            points.append((float(middle[0]), float(middle[1]), tread.level_m))
    return points


def _is_landing(tread: Tread, before: Floats, after: Floats) -> bool:
    """Whether it takes more than a step to cross it."""
    return (
        bool(tread.outline.area > 2.0 * LANDING_M**2)
        and min(float(np.linalg.norm(tread.middle - before)), float(np.linalg.norm(after - tread.middle)))
        > LANDING_M
    )


def _entered(treads: list[Tread], index: int, towards: int) -> tuple[Floats, Floats]:
    """The middle of the tread on one side of a landing, and the way from the flight on that side to the
    landing."""
    beside = treads[index + towards]
    further = treads[index + 2 * towards] if 0 <= index + 2 * towards < len(treads) else None
    way = beside.middle - further.middle if further is not None else treads[index].middle - beside.middle
    return beside.middle, way / max(float(np.linalg.norm(way)), 1e-9)


def _on_landing(landing: Tread, place: Floats, way: Floats) -> tuple[float, float]:
    """Where a landing is crossed that is entered from a place along a way."""
    entered = place + way * (landing.outline.distance(shapely.Point(place)) + LANDING_EDGE_M)
    inner = landing.outline.buffer(-LANDING_EDGE_M / 1.5)
    if inner.is_empty:
        x, y = landing.middle.tolist()
    else:
        x, y = shapely.shortest_line(inner, shapely.Point(entered)).coords[0]
    return x, y


@dataclass(frozen=True, slots=True)
class Footholds:
    """Where one can stand beside a stair.  ``rays`` : everything; ``floors`` : what can be stood on."""

    rays: RayScene
    floors: RayScene

    def reached(self, place: Floats, to: Vec2, level_m: float) -> tuple[Vec3, float] | None:
        """An eye at standing height on the floor at this level, and the gap that is stepped over, if one gets
        there from a tread.

        place : (3,) metres.
        """
        ground = ground_at(self.floors, to, level_m)
        if ground is None or abs(ground.floor_m - level_m) > HIGHEST_RISE_M:
            return None
        eye = (to[0], to[1], ground.floor_m + STANDING_M)
        start = np.array([*place[:2], place[2] + STANDING_M])
        reach = float(np.linalg.norm(eye - start))
        if self.rays.blocked(start[None], ((eye - start) / reach)[None], reach + ELBOW_M).any():
            return None
        gap = self._gap_m(place, eye)
        return (eye, gap) if gap <= STRIDE_M else None

    def _gap_m(self, place: Floats, eye: Vec3) -> float:
        """How much of the way from a tread to an eye has no floor: beside a stair there is often its opening,
        which is stepped across where it is narrow.  Metres."""
        feet = np.array([0.0, 0.0, HIGHEST_RISE_M])
        way = np.linspace(place + feet, np.asarray(eye) - (0.0, 0.0, STANDING_M) + feet, 21)
        void = np.isnan(self.floors.floors_below(way, 3 * HIGHEST_RISE_M))
        return float(void.mean() * np.linalg.norm(way[-1] - way[0]))

    def roomy(self, eye: Vec3) -> bool:
        """Whether nothing stands at one's elbows."""
        around = level_rays(np.arange(0.0, 360.0, 30.0))
        start = np.tile(np.asarray(eye, float) - (0.0, 0.0, BELOW_EYE_M), (len(around), 1))
        return not self.rays.blocked(start, around, ELBOW_M).any()

    def ev(self, eye: Vec3) -> float:
        """The exposure to begin with."""
        return EV_INSIDE if self.floors.roofed(eye) else EV_ROUND


def _thinned(line: Floats) -> list[int]:
    """Which points of a walking line become places of their own: where it has turned, now and then on the
    straight, and on both sides of a corner, which is then not cut."""
    way = np.diff(line[:, :2], axis=0)
    heading = np.degrees(np.unwrap(np.arctan2(way[:, 0], way[:, 1])))
    kept, last = {0, len(line) - 1}, 0
    for index in range(1, len(line) - 1):
        corner = abs(heading[index] - heading[index - 1]) > CORNER_DEG
        far = float(np.linalg.norm(line[index, :2] - line[last, :2]))
        if corner:
            kept |= {index - 1, index, index + 1}
        elif abs(heading[index] - heading[last]) > TURN_DEG or far > STRAIGHT_M:
            kept.add(index)
        last = index if index in kept else last
    return sorted(kept)


def _beside_stair(
    ground: Footholds, place: Floats, way: Floats, level_m: float, far_m: Sequence[float] = RUN_UP_M
) -> WalkKey | None:
    """A place to stand on before or behind a stair: straight on if there is room, over no gap if that can be.

    place : (3,) the tread; way : (2,) unit, leading away from the stair; far_m : how far, what is liked most
    first.
    """
    best: tuple[tuple[bool, bool], WalkKey] | None = None
    for far in far_m:
        for turn in ROUND_DEG:
            cosine, sine = math.cos(math.radians(turn)), math.sin(math.radians(turn))
            x = float(place[0] + far * (cosine * way[0] - sine * way[1]))
            y = float(place[1] + far * (sine * way[0] + cosine * way[1]))
            reach = ground.reached(place, (x, y), level_m)
            if reach is None:
                continue
            eye, gap = reach
            faults = (gap > NO_GAP_M, not ground.roomy(eye))
            if best is None or faults < best[0]:
                best = (faults, WalkKey(eye, ev=ground.ev(eye)))
            if not any(faults):
                return best[1]
    return best[1] if best is not None else None


def walk_up(
    model: Model, number: int, rays: RayScene, floors: RayScene, eye_height_m: float = STANDING_M
) -> Walk:
    """A walk up an object that is a stair, from the floor before it to the floor it leads to, at the eye's
    height over its treads.

    number : of the object in the model.  rays : of the whole model.  floors : of what can be stood on
    (`standing.standable`).  Raises Refused where it is no stair.
    """
    name, ground = model.objects[number].name, Footholds(rays, floors)
    flights = _flights(model, number)
    line = _line_over(flights, ground)
    keys = [_key(line, at, ground) for at in _thinned(line)]
    first, last = flights[0], flights[-1]
    rise = (last[-1].level_m - last[0].level_m) / (len(last) - 1)
    start = _beside_stair(ground, line[0], _unit(line[0] - line[1]), first[0].level_m - rise)
    end = _beside_stair(ground, line[-1], _unit(line[-1] - line[-2]), last[-1].level_m + rise)
    keys = [item for item in (start, *keys, end) if item is not None]
    walk = walk_through(tuple(_at_height(key, eye_height_m) for key in keys))
    walk = replace(walk, name=f"Up {name}", eye_height_m=eye_height_m)
    return replace(walk, seconds=_calm_seconds(walk, floors))


def _calm_seconds(walk: Walk, floors: RayScene) -> float:
    """How long it takes when no turn is made faster than is comfortable to look at: on narrow stairs one
    walks slowly."""
    rows = sample(resolve(walk, floors))
    fastest = float(np.abs(np.gradient(rows.heading_deg, 1.0 / float(parse_rate(walk.rate)))).max())
    most = Limits().turn_deg_s
    return walk.seconds if fastest <= most else float(math.ceil(walk.seconds * fastest / most))


def _key(line: Floats, at: int, ground: Footholds) -> WalkKey:
    """A place of the walk; on turning treads it is passed with an even curvature."""
    x, y, z = line[at].tolist()
    turns = 0 < at < len(line) - 1 and 8.0 < abs(_turn_deg(line, at)) < CORNER_DEG
    eye = (x, y, z + STANDING_M)
    return WalkKey(eye, bend=EVEN if turns else SMOOTH, ev=ground.ev(eye))


def _turn_deg(line: Floats, at: int) -> float:
    (ax, ay), (bx, by) = (line[at] - line[at - 1])[:2], (line[at + 1] - line[at])[:2]
    return math.degrees(math.atan2(ax * by - ay * bx, ax * bx + ay * by))


def _at_height(key: WalkKey, eye_height_m: float) -> WalkKey:
    x, y, z = key.eye
    return replace(key, eye=(x, y, z - STANDING_M + eye_height_m))


def _unit(way: Floats) -> Floats:
    flat: Floats = way[:2]
    return flat / max(float(np.linalg.norm(flat)), 1e-9)


def _flights(model: Model, number: int) -> list[list[Tread]]:
    try:
        return flights_in(_corners(model, [number]))
    except Refused:
        # Many files have each tread as an object of its own: Tread 1, Tread 2 …
        stem = _stem(model.objects[number].name)
        kin = [index for index, item in enumerate(model.objects) if stem and _stem(item.name) == stem]
        if len(kin) < FEWEST_TREADS:
            raise
        return flights_in(_corners(model, kin))


def _stem(name: str) -> str:
    return name.rstrip("0123456789 .:_-#")


def _corners(model: Model, numbers: Sequence[int]) -> Floats:
    """(n, 3, 3) metres: the triangles of objects."""
    items = [model.objects[number] for number in numbers]
    faces = np.concatenate(
        [model.faces[item.first_face : item.first_face + item.face_count] for item in items]
    )
    corners: Floats = model.vertices[faces].astype(float)
    return corners
