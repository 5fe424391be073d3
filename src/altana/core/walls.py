"""Walls as one sees past them: a wall cut on a picked wall, what stands in the way ahead, and going back through a wall.

Everything is found by casting rays and from the extents of wall-like objects, so that a wall may consist of a leaf, its
lining, its windows and their frames, as in real models.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from altana.core.camera.bounds import place_of_sight
from altana.core.camera.wall_cut import HAIR_M, WallCut
from altana.core.checks.cut_faces import Bodies, bodies_of, opened_objects
from altana.core.conventions import Bools, Floats, Floats32, Vec3, turn_between, wrap_heading
from altana.core.edits.bounds import add_wall_cut, with_near
from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.geometry.sight import see
from altana.core.model import Model
from altana.core.project import Camera
from altana.core.standing import UPRIGHT_DEG, level_rays, roundest, wall_heading
from altana.core.wall_rays import LOOSE_PARTS

#: What a wall is made of; linings and coverings stand for themselves.
WALL_PARTS = frozenset(
    {"Wall", "Curtain wall", "Glazing", "Window", "Door", "Covering", "Plate", "Sign", "Railing"}
)
#: The parts of one wall lie within this of the face that was picked.
THICKEST_M = 0.8
#: Free air at least this deep ends a wall.
COLUMN_M = 0.12
#: An eye square to a wall within this gets a bound across the view, otherwise a wall cut.
SQUARE_DEG = 0.3
FARTHEST_M = 80.0
MOST_CANDIDATES = 6
#: What stands against a wall is passed along with it up to this depth.
AGAINST_M = 0.7
#: A wall cut also takes what stands proud of the wall's outer face by this: sills, downpipes.
PROUD_M = 0.12


@dataclass(frozen=True, slots=True)
class Candidate:
    """A near bound just past what stands ahead: its name, the distance, and the objects it would open (id, name)."""

    name: str
    near_m: float
    opened: tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True)
class SteppedBack:
    """The camera after going back through a wall, and how far behind the wall's inner face it stands (0: still inside)."""

    camera: Camera
    back_m: float
    outside_m: float
    wall: str
    by: str

    @property
    def sentence(self) -> str:
        """What happened, in one sentence."""
        if self.back_m <= 0.0:
            return "It fits already; the camera was not moved."
        if self.outside_m <= 0.0:
            return f"Stepped back {self.back_m:.2f} m and still inside: nothing needs to be cut away."
        return f"Stands {self.outside_m:.2f} m behind the inner face of “{self.wall}”; {self.by}, fixed in the building."


def passed_by_walls(model: Model) -> Bools:
    """(faces,) bool: what sight for walls goes through: panes and what can be carried away."""
    loose = np.array([item.category in LOOSE_PARTS for item in model.objects], bool)
    panes = np.array([material.kind == "glass" for material in model.materials], bool)
    passed: Bools = loose[model.face_objects()] | panes[model.face_material]
    return passed


# ---------------------------------------------------------------------- wall cuts


def wall_cut_at(model: Model, rays: RayScene, face: int, point: Vec3, eye: Vec3) -> WallCut:
    """A wall cut on the inner face of the wall that a triangle belongs to, picked at a point of it and seen from an eye.

    The kept side is the one away from the eye.  The rectangle is the free one on that face: up to the walls beside,
    the floor below and the ceiling above.  Raises Refused where the surface is no wall.
    """
    heading = _wall_heading_around(model, rays, face, point, eye)
    towards = level_rays(np.array([heading]))[0]
    if (np.asarray(point) - np.asarray(eye)) @ towards < 0.0:
        heading = wrap_heading(heading + 180.0)
        towards = -towards
    number = int(model.face_objects()[face])
    outer, inner = _faces_of_wall(model, point, towards, number)
    cut = wall_cut_on(model, rays, point, heading, inner, model.objects[number])
    # Nothing but the wall: what stands well before it stays whole.
    return replace(cut, depth_m=round(inner - outer + 2 * HAIR_M + PROUD_M, 4))


def _wall_heading_around(model: Model, rays: RayScene, face: int, point: Vec3, eye: Vec3) -> float:
    """The direction that a wall faces at a picked point: what most of it faces there, not the side of one mullion."""
    sight = np.asarray(point) - np.asarray(eye)
    away = float(np.linalg.norm(sight))
    sight /= max(away, 1e-9)
    across = np.cross(sight, (0.0, 0.0, 1.0))
    across /= max(float(np.linalg.norm(across)), 1e-9)
    up = np.cross(across, sight)
    # A field of about two metres round the point, or eight degrees where it is near.
    reach = max(1.0 / max(away, 0.1), math.tan(math.radians(8.0)))
    grid = np.linspace(-reach, reach, 11)
    aside, rise = (value.ravel() for value in np.meshgrid(grid, grid))
    along = sight + np.outer(aside, across) + np.outer(rise, up)
    along /= np.linalg.norm(along, axis=1, keepdims=True)
    hits = rays.cast(np.tile(np.asarray(eye, float), (len(along), 1)), along)
    owner = model.face_objects()
    votes: dict[float, float] = {}
    for number, distance in zip(hits.face.tolist(), hits.distance_m.tolist(), strict=True):
        if (
            number >= 0
            and model.objects[int(owner[number])].category in WALL_PARTS
            and abs(distance - away) < 0.4 * away + 0.5
        ):
            found = wall_heading(rays, number)
            if found is not None:
                heading = roundest(*found) % 180.0
                votes[heading] = votes.get(heading, 0.0) + 1.0
    own = wall_heading(rays, face)
    if own is not None:
        heading = roundest(*own) % 180.0
        votes[heading] = votes.get(heading, 0.0) + 1.5
    if not votes:
        raise Refused(f"That is no wall: its face leans by more than {UPRIGHT_DEG:g}°. Pick a wall.")
    return max(votes, key=lambda item: votes[item])


def pick_wall(model: Model, rays: RayScene, eye: Vec3, place: Vec3) -> WallCut:
    """A wall cut on the wall nearest to a place, looked for on the line from the eye through it.  Raises Refused."""
    ahead = np.asarray(place, float) - np.asarray(eye)
    away = float(np.linalg.norm(ahead))
    if away < 1e-6:
        raise Refused("Pick a wall, not the eye itself.")
    ahead /= away
    owner = model.face_objects()
    walls = [
        (abs(distance - away), distance, face)
        for distance, face in _passages(rays, np.asarray(eye, float), ahead, away + 2.0)
        if model.objects[int(owner[face])].category in WALL_PARTS - {"Railing", "Sign"}
    ]
    if not walls:
        raise Refused("There is no wall here. Pick a wall that stands between the camera and what it shows.")
    _, distance, face = min(walls)
    return wall_cut_at(model, rays, face, _vec(np.asarray(eye) + ahead * distance), eye)


def wall_cut_on(
    model: Model, rays: RayScene, point: Vec3, heading_deg: float, at_m: float, item: object
) -> WallCut:
    """A wall cut in the plane at ``at_m`` along a heading, a hair into the room, with the free rectangle round a point."""
    probe = WallCut(point, heading_deg)
    foot = np.asarray(point) + probe.normal * (at_m + HAIR_M - float(np.asarray(point) @ probe.normal))
    left, right, down, up = _free_rectangle(model, rays, foot, probe)
    x, y, z = foot.tolist()
    return WallCut(
        (x, y, z),
        heading_deg,
        left,
        right,
        down,
        up,
        name=str(getattr(item, "name", "")),
        object_id=str(getattr(item, "id", "")),
    )


def _faces_of_wall(model: Model, point: Vec3, towards: Floats, number: int) -> tuple[float, float]:
    """How far along the heading the parts of the wall begin and end that was hit at a point."""
    at = float(np.asarray(point) @ towards)
    along = np.array([towards[1], -towards[0], 0.0])
    here = float(np.asarray(point) @ along)
    outer = inner = at
    for index, item in enumerate(model.objects):
        if not item.face_count or (item.category not in WALL_PARTS and index != number):
            continue
        corner = _corners(model, index).reshape(-1, 3).astype(float)
        depth, aside = corner @ towards, corner @ along
        low, high = float(depth.min()), float(depth.max())
        # Only what lies flat in this wall, and on this stretch of it.
        flat = low > at - THICKEST_M and high < at + THICKEST_M
        beside = float(aside.min()) < here + 4.0 and float(aside.max()) > here - 4.0
        touching = low < inner + 0.05 and high > outer - 0.05
        if flat and beside and touching and (item.category != "Covering" or high - low < 0.25):
            outer, inner = min(outer, low), max(inner, high)
    return outer, inner


def _free_rectangle(
    model: Model, rays: RayScene, foot: Floats, probe: WallCut
) -> tuple[float, float, float, float]:
    """Left, right, down and up from a point in free air: the largest free rectangle round it that columns of rays find."""
    passed = passed_by_walls(model)
    up = np.array([0.0, 0.0, 1.0])
    sides = see(rays, np.tile(foot, (2, 1)), np.stack([-probe.along, probe.along]), passed).distance_m
    left, right = (min(float(value), FARTHEST_M) - 1e-3 for value in sides)
    left, right = max(left, 0.05), max(right, 0.05)
    places = np.concatenate(
        [-np.arange(0.0, left, COLUMN_M)[::-1], np.arange(COLUMN_M, right, COLUMN_M), [right], [-left]]
    )
    places = np.unique(places)
    start = foot + np.outer(places, probe.along)
    heights = see(
        rays,
        np.vstack([start, start]),
        np.vstack([np.tile(up, (len(places), 1)), np.tile(-up, (len(places), 1))]),
        passed,
    )
    above = np.minimum(heights.distance_m[: len(places)], FARTHEST_M) - 1e-3
    below = np.minimum(heights.distance_m[len(places) :], FARTHEST_M) - 1e-3
    middle = int(np.argmin(np.abs(places)))
    best = (0.0, 0.05, 0.05, 0.05, 0.05)
    low_down, low_up = below[middle], above[middle]
    first = last = middle
    # Grown towards the side that costs less height, one column at a time; the largest area on the way is kept.
    while True:
        area = (places[last] - places[first]) * (low_down + low_up)
        if area > best[0]:
            best = (area, -places[first], places[last], low_down, low_up)
        options = []
        if first > 0:
            options.append((min(low_down, below[first - 1]) + min(low_up, above[first - 1]), -1))
        if last < len(places) - 1:
            options.append((min(low_down, below[last + 1]) + min(low_up, above[last + 1]), 1))
        if not options:
            break
        _, side = max(options)
        first, last = (first - 1, last) if side < 0 else (first, last + 1)
        edge = first if side < 0 else last
        low_down, low_up = min(low_down, below[edge]), min(low_up, above[edge])
    _, out_left, out_right, down, rise = (float(value) for value in best)
    return max(out_left, 0.05), max(out_right, 0.05), down, rise


# ---------------------------------------------------------------------- candidates


def _passages(rays: RayScene, eye: Floats, ahead: Floats, reach_m: float) -> list[tuple[float, int]]:
    """Every surface along a ray, as distance and triangle, up to a reach."""
    found: list[tuple[float, int]] = []
    gone = 0.0
    while len(found) < 200:
        hit = rays.cast((eye + ahead * gone)[None], ahead[None])
        if hit.face[0] < 0:
            break
        gone += float(hit.distance_m[0])
        if gone > reach_m:
            break
        found.append((gone, int(hit.face[0])))
        gone += 2e-4
    return found


def candidates(model: Model, rays: RayScene, bodies: Bodies, camera: Camera) -> tuple[Candidate, ...]:
    """Near bounds just past each thing that stands on the line of sight before what is looked at, nearest first.

    Things that lie against each other (a wall and its lining) count as one, named after the thicker.
    """
    owner = model.face_objects()
    eye, ahead = np.asarray(camera.eye, float), camera.pose.forward
    spans: dict[int, list[float]] = {}
    for distance, face in _passages(rays, eye, ahead, max(camera.aim_m - 0.05, 0.1)):
        spans.setdefault(int(owner[face]), []).append(distance)
    stops: list[tuple[float, float, int]] = sorted(
        (min(values), max(values), number) for number, values in spans.items()
    )
    made: list[tuple[float, int, float]] = []
    for first, last, number in stops:
        if made and first <= made[-1][0] + 0.03:
            kept = made[-1]
            thicker = number if last - first > kept[2] else kept[1]
            made[-1] = (max(last, kept[0]), thicker, max(last - first, kept[2]))
        else:
            made.append((last, number, last - first))
    found = []
    for last, number, _ in made[:MOST_CANDIDATES]:
        bound = round(last + HAIR_M, 4)
        view = with_near(replace(camera, wall_cuts=()), bound).view()
        opened = tuple(
            (model.objects[index].id, model.objects[index].name)
            for index in opened_objects(model, bodies, view)
        )
        found.append(Candidate(model.objects[number].name, bound, opened))
    return tuple(found)


def just_clear(model: Model, bodies: Bodies, camera: Camera) -> Camera:
    """The near bound moved on, as little as needed, until it opens nothing; back towards the eye where that is nearer.

    Raises Refused where no place before what is looked at is clear.
    """
    if camera.near is None:
        raise Refused("There is no near bound to move.")
    ahead = camera.pose.forward
    depths = model.vertices.astype(float) @ ahead - float(np.asarray(camera.eye) @ ahead)
    tried: list[float] = []
    for number in opened_objects(model, bodies, camera.view()):
        item = model.objects[number]
        mine = depths[model.faces[item.first_face : item.first_face + item.face_count]]
        tried += [float(mine.max()) + HAIR_M, float(mine.min()) - HAIR_M]
    # Leaving one object may enter another, so the ends of those are tried as well.
    for step in range(2):
        usable = sorted(
            {round(value, 5) for value in tried if 0.02 < value < camera.aim_m},
            key=lambda value: abs(value - (camera.near or 0)),
        )
        for value in usable[:40]:
            moved = with_near(camera, value)
            opened = opened_objects(model, bodies, moved.view())
            if not opened:
                return moved
            if step == 0:
                for number in opened:
                    item = model.objects[number]
                    mine = depths[model.faces[item.first_face : item.first_face + item.face_count]]
                    tried += [float(mine.max()) + HAIR_M, float(mine.min()) - HAIR_M]
    raise Refused("No near bound before what is looked at opens nothing. Use a wall cut, or cap the cut.")


def bound_as_wall_cut(model: Model, rays: RayScene, camera: Camera) -> Camera:
    """The near bound turned into a wall cut on the last wall it stands in or behind.  Raises Refused without one."""
    if camera.near is None:
        raise Refused("There is no near bound to turn into a wall cut.")
    owner = model.face_objects()
    eye, ahead = np.asarray(camera.eye, float), camera.pose.forward
    walls = [
        (distance, face)
        for distance, face in _passages(rays, eye, ahead, camera.near + THICKEST_M)
        if model.objects[int(owner[face])].category in WALL_PARTS - {"Railing", "Sign"}
        and wall_heading(rays, face) is not None
    ]
    entered = [item for item in walls if item[0] <= camera.near]
    if not entered:
        raise Refused(
            "No wall stands before the near bound on the line of sight. Pick a wall for a wall cut."
        )
    distance, face = entered[-1]
    x, y, z = (eye + ahead * distance).tolist()
    cut = wall_cut_at(model, rays, face, (x, y, z), camera.eye)
    return add_wall_cut(with_near(camera, None), cut)


# ---------------------------------------------------------------------- back through the wall


@dataclass(frozen=True, slots=True)
class _Facing:
    """A wall across a line of sight: how far along it, the heading that faces it squarely, and the object that it is."""

    away_m: float
    heading_deg: float
    number: int


def _wall_across(
    model: Model, rays: RayScene, eye: Floats, heading_deg: float, nearest: bool
) -> _Facing | None:
    """The wall ahead: the plane that most of a fan of rays meet, or the nearest that a good part of them do.

    One ray would go out through a hatch or a door; furniture is no wall.
    """
    aside, rise = (
        value.ravel() for value in np.meshgrid(np.linspace(-28.0, 28.0, 15), np.linspace(-32.0, 32.0, 11))
    )
    turn, lift = np.radians(heading_deg + aside), np.radians(rise)
    along = np.stack([np.sin(turn) * np.cos(lift), np.cos(turn) * np.cos(lift), np.sin(lift)], axis=1)
    hits = rays.cast(np.tile(eye, (len(along), 1)), along)
    axis = level_rays(np.array([heading_deg]))[0]
    owner = model.face_objects()
    votes: dict[tuple[float, int], list[tuple[float, float, int]]] = {}
    walls = WALL_PARTS - {"Railing", "Sign"}
    for face, distance, ray in zip(hits.face.tolist(), hits.distance_m.tolist(), along, strict=True):
        if face < 0 or distance > FARTHEST_M or model.objects[int(owner[face])].category not in walls:
            continue
        found = wall_heading(rays, face)
        if found is None:
            continue
        facing = roundest(*found)
        if abs(turn_between(heading_deg, facing)) > 90.0:
            facing = wrap_heading(facing + 180.0)
        if abs(turn_between(heading_deg, facing)) > 75.0:
            continue
        normal = level_rays(np.array([facing]))[0]
        at = float(ray @ normal) * distance / float(axis @ normal)
        votes.setdefault((round(facing, 2), round(at / 0.04)), []).append((at, facing, int(owner[face])))
    if not votes:
        return None
    enough = [group for group in votes.values() if len(group) >= 0.1 * len(along)] or list(votes.values())
    chosen = min(enough, key=lambda group: group[0][0]) if nearest else max(enough, key=len)
    numbers = [number for _, _, number in chosen]
    return _Facing(
        float(np.median([at for at, _, _ in chosen])), chosen[0][1], max(set(numbers), key=numbers.count)
    )


def _far_wall(
    model: Model, rays: RayScene, passed: Bools, camera: Camera
) -> tuple[Floats, Floats, float, float]:
    """The place ahead on the far wall, the unit vector along it to the right, and its width to the left and right."""
    eye = np.asarray(camera.eye, float)
    found = _wall_across(model, rays, eye, camera.heading_deg, nearest=False)
    if found is None:
        raise Refused("There is no wall ahead whose width could be wanted.")
    place = eye + level_rays(np.array([camera.heading_deg]))[0] * found.away_m
    turn = math.radians(found.heading_deg)
    along = np.array([math.cos(turn), -math.sin(turn), 0.0])
    before = place - level_rays(np.array([found.heading_deg]))[0] * 0.02
    # At several heights, because a thing against the wall beside would end one ray early.
    left = right = 0.0
    for lift in (0.0, 0.35, -0.35, 0.7):
        sides = see(
            rays, np.tile(before + (0.0, 0.0, lift), (2, 1)), np.stack([-along, along]), passed
        ).distance_m
        left, right = (
            max(held, min(float(value), FARTHEST_M)) for held, value in zip((left, right), sides, strict=True)
        )
    return place, along, left, right


def back_through_wall(
    model: Model, rays: RayScene, camera: Camera, width_m: float | None = None, bodies: Bodies | None = None
) -> SteppedBack:
    """Back along the line of sight, out through the wall behind if need be, until a width of the far wall fits.

    width_m : the wanted width about what is looked at, metres; all of the wall when left out.  The height above the
    room's floor is kept.  Behind the wall the bound lands on its inner face plus a hair, or past what stands against it:
    a near bound where the camera stands square to it, a wall cut otherwise.  Raises Refused with the reason where it cannot be.
    """
    passed = passed_by_walls(model)
    # A camera that stands outside already is asked from where its sight begins.
    begins = place_of_sight(camera)
    within = replace(camera, eye=begins)
    place, along, left, right = _far_wall(model, rays, passed, within)
    if width_m is not None:
        if not 0.0 < width_m <= left + right + 1e-6:
            raise Refused(
                f"The wall ahead is {left + right:.2f} m wide; a width of {width_m:.2f} m does not fit on it."
            )
        # Where the wanted width would run past an end of the wall it is moved along.
        half = width_m / 2
        shift = max(half - left, 0.0) - max(half - right, 0.0)
        left, right = half - shift, half + shift
    needed = _way_back(camera, np.stack([place - along * left, place + along * right]))
    if needed <= 1e-4:
        return SteppedBack(camera, 0.0, 0.0, "", "")
    eye = np.asarray(begins, float)
    back = -level_rays(np.array([camera.heading_deg]))[0]
    behind = _wall_across(model, rays, eye, wrap_heading(camera.heading_deg + 180.0), nearest=True)
    x, y, z = (np.asarray(camera.eye) + back * needed).tolist()
    moved = replace(camera, eye=(x, y, z), aim_m=camera.aim_m + needed, near_m=None, near_at=None)
    whole = needed + math.dist(begins, camera.eye)
    if behind is None or whole < behind.away_m - 0.05:
        return SteppedBack(moved, needed, 0.0, "", "")
    item = model.objects[behind.number]
    into = wrap_heading(behind.heading_deg + 180.0)
    outside = whole - behind.away_m
    on_face = eye + back * behind.away_m
    bodies = bodies or bodies_of(model)
    if abs(turn_between(camera.heading_deg, into)) > SQUARE_DEG:
        cut = wall_cut_on(
            model, rays, _vec(on_face), into, float(on_face @ level_rays(np.array([into]))[0]), item
        )
        made, past = _cut_cleared(model, bodies, moved, cut)
        return SteppedBack(made, needed, outside, item.name, f"a wall cut lies on it{past}")
    near = _near_past(moved, outside + HAIR_M)
    bound, past = _near_cleared(
        model, bodies, replace(moved, near_m=near, near_at=moved.pose.point_ahead(near))
    )
    return SteppedBack(bound, needed, outside, item.name, f"hides nearer than {bound.near:.3f} m{past}")


def _names(model: Model, numbers: tuple[int, ...]) -> str:
    named = [f"“{model.objects[number].name}”" for number in numbers[:2]]
    return ", ".join(named) + (f" and {len(numbers) - 2} more" if len(numbers) > 2 else "")


def _near_cleared(model: Model, bodies: Bodies, camera: Camera) -> tuple[Camera, str]:
    """A near bound on a wall's face moved past what stands against the wall, where that is not deep."""
    opened = opened_objects(model, bodies, camera.view())
    if not opened:
        return camera, ""
    try:
        moved = just_clear(model, bodies, camera)
    except Refused:
        return camera, f" (opens {_names(model, opened)})"
    if not (camera.near or 0.0) <= (moved.near or 0.0) <= (camera.near or 0.0) + AGAINST_M:
        return camera, f" (opens {_names(model, opened)})"
    return moved, f", past {_names(model, opened)}"


def _cut_cleared(model: Model, bodies: Bodies, camera: Camera, cut: WallCut) -> tuple[Camera, str]:
    """A wall cut moved into the room past what stands against the wall, where that is not deep."""
    made = add_wall_cut(camera, cut)
    opened = opened_objects(model, bodies, made.view())
    for _ in range(4):
        now = opened_objects(model, bodies, made.view())
        if not now:
            return made, f", past {_names(model, opened)}" if opened else ""
        reach = max(
            float(_corners(model, number).reshape(-1, 3).astype(float).dot(cut.normal).max())
            for number in now
        )
        offset = reach + HAIR_M - cut.at_m
        if offset > AGAINST_M:
            break
        made = add_wall_cut(camera, replace(cut, offset_m=offset))
    return add_wall_cut(camera, cut), f" (opens {_names(model, opened)})"


def _corners(model: Model, number: int) -> Floats32:
    item = model.objects[number]
    corners: Floats32 = model.vertices[model.faces[item.first_face : item.first_face + item.face_count]]
    return corners


def _near_past(camera: Camera, level_m: float) -> float:
    """The near bound that clears an upright face across the way at a level distance, over the whole height of the frame."""
    tilt = math.radians(camera.tilt_deg)
    _, _, bottom, top = camera.view().edges()
    return max(0.02, *(level_m / max(math.cos(tilt) - edge * math.sin(tilt), 0.05) for edge in (bottom, top)))


def _way_back(camera: Camera, points: Floats) -> float:
    """How far an eye goes back, level, until (n, 3) points lie between the frame's side edges."""
    left, right, _, _ = camera.view().edges()
    right_axis = np.array(
        [math.cos(math.radians(camera.heading_deg)), -math.sin(math.radians(camera.heading_deg)), 0.0]
    )
    ahead = level_rays(np.array([camera.heading_deg]))[0]
    offsets = points - np.asarray(camera.eye)
    tilt = math.cos(math.radians(camera.tilt_deg))
    needed = 0.0
    for aside, away in zip((offsets @ right_axis).tolist(), (offsets @ ahead).tolist(), strict=True):
        edge = right if aside > 0.0 else left
        if aside * edge > 0.0:
            needed = max(needed, aside / (edge * tilt) - away)
    return needed


def _vec(values: Floats) -> Vec3:
    x, y, z = values.tolist()
    return (x, y, z)
