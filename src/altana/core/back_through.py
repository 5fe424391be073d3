"""Going back through the wall behind until what is wanted of the far wall fits, and the bound that this
takes."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from altana.core.camera.bounds import place_of_sight
from altana.core.camera.wall_cut import HAIR_M, WallCut
from altana.core.checks.cut_faces import Bodies, bodies_of, opened_objects
from altana.core.conventions import Bools, Floats, turn_between, wrap_heading
from altana.core.edits.bounds import add_wall_cut
from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.geometry.sight import see
from altana.core.model import Model
from altana.core.past import just_clear
from altana.core.project import Camera
from altana.core.standing import level_rays
from altana.core.wall_headings import wall_headings
from altana.core.walls import (
    FARTHEST_M,
    NO_WALLS,
    WALL_PARTS,
    object_corners,
    passed_by_walls,
    vec3_of,
    wall_cut_on,
)

#: What of the far wall may be wanted, when no width is given: from end to end, from floor to ceiling, or
#: both.
WHOLE = ("all", "width", "height")
#: An eye square to a wall within this gets a bound across the view, otherwise a wall cut.
SQUARE_DEG = 0.3
#: What stands against a wall is passed along with it up to this depth.
AGAINST_M = 0.7


@dataclass(frozen=True, slots=True)
class SteppedBack:
    """The camera after going back through a wall, and how far behind the wall's inner face it stands (0:
    still inside)."""

    camera: Camera
    back_m: float
    outside_m: float
    wall: str
    by: str
    #: What of the far wall no way back brings into the picture, as this lens is tilted and shifted.
    out: tuple[str, ...] = ()

    @property
    def sentence(self) -> str:
        """What happened, and what could not be reached."""
        if self.back_m <= 0.0:
            done = "It fits already; the camera was not moved."
        elif self.outside_m <= 0.0:
            done = f"Stepped back {self.back_m:.2f} m and still inside: nothing needs to be cut away."
        else:
            done = f"Stands {self.outside_m:.2f} m behind the inner face of “{self.wall}”; {self.by}, fixed in the building."
        if not self.out:
            return done
        stay = "stays" if len(self.out) == 1 else "stay"
        return f"{done} The far wall's {' and '.join(self.out)} {stay} out of the picture however far back: change tilt or shift."


@dataclass(frozen=True, slots=True)
class _FarWall:
    """The far wall round the place ahead: the unit vector along it to the right, and its reach from there,
    metres."""

    place: Floats
    along: Floats
    left_m: float
    right_m: float
    down_m: float
    up_m: float

    def corners(self) -> Floats:
        """(4, 3) its corners."""
        return np.array(
            [
                self.place + self.along * aside + (0.0, 0.0, rise)
                for aside in (-self.left_m, self.right_m)
                for rise in (-self.down_m, self.up_m)
            ]
        )


@dataclass(frozen=True, slots=True)
class _Facing:
    """A wall across a line of sight: how far along it, the heading that faces it squarely, and the object
    that it is."""

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
    votes: dict[tuple[float, int], list[tuple[float, float, int]]] = {}
    walls = WALL_PARTS - NO_WALLS
    headings, owners = wall_headings(rays, hits.face).tolist(), model.owners_of(hits.face).tolist()
    for number, facing, distance, ray in zip(owners, headings, hits.distance_m.tolist(), along, strict=True):
        if math.isnan(facing) or distance > FARTHEST_M:
            continue
        if model.objects[number].category not in walls:
            continue
        if abs(turn_between(heading_deg, facing)) > 90.0:
            facing = wrap_heading(facing + 180.0)
        if abs(turn_between(heading_deg, facing)) > 75.0:
            continue
        normal = level_rays(np.array([facing]))[0]
        at = float(ray @ normal) * distance / float(axis @ normal)
        votes.setdefault((round(facing, 2), round(at / 0.04)), []).append((at, facing, number))
    if not votes:
        return None
    enough = [group for group in votes.values() if len(group) >= 0.1 * len(along)] or list(votes.values())
    chosen = min(enough, key=lambda group: group[0][0]) if nearest else max(enough, key=len)
    numbers = [number for _, _, number in chosen]
    return _Facing(
        float(np.median([at for at, _, _ in chosen])), chosen[0][1], max(set(numbers), key=numbers.count)
    )


def _far_wall(model: Model, rays: RayScene, passed: Bools, camera: Camera) -> _FarWall:
    """What the far wall ahead reaches to.  Raises Refused without one."""
    eye = np.asarray(camera.eye, float)
    wall = _wall_across(model, rays, eye, camera.heading_deg, nearest=False)
    if wall is None:
        raise Refused("There is no wall ahead whose width could be wanted.")
    place = eye + level_rays(np.array([camera.heading_deg]))[0] * wall.away_m
    turn = math.radians(wall.heading_deg)
    along = np.array([math.cos(turn), -math.sin(turn), 0.0])
    before = place - level_rays(np.array([wall.heading_deg]))[0] * 0.02
    # At several heights, because a thing against the wall beside would end one ray early.
    left = right = 0.0
    for lift in (0.0, 0.35, -0.35, 0.7):
        sides = see(
            rays, np.tile(before + (0.0, 0.0, lift), (2, 1)), np.stack([-along, along]), passed
        ).distance_m
        left, right = (
            max(least, min(float(value), FARTHEST_M))
            for least, value in zip((left, right), sides, strict=True)
        )
    # And at several places, because a ceiling may slope and a beam may hang before the wall.
    places = before + np.outer(np.linspace(-left + 0.05, right - 0.05, 7), along)
    ways = np.repeat(np.array([[0.0, 0.0, -1.0], [0.0, 0.0, 1.0]]), len(places), axis=0)
    reach = see(rays, np.vstack([places, places]), ways, passed).distance_m.reshape(2, -1)
    own = object_corners(model, wall.number).reshape(-1, 3)[:, 2].astype(float) - place[2]
    ends = [float(side[np.isfinite(side)].max(initial=0.0)) for side in reach]
    # In the open the wall's own foot and top end it.
    down, up = ends[0] or max(-float(own.min()), 0.0), ends[1] or max(float(own.max()), 0.0)
    return _FarWall(place, along, left, right, min(down, FARTHEST_M), min(up, FARTHEST_M))


def _of_width(wall: _FarWall, width_m: float) -> _FarWall:
    """So much of a wall about the place ahead; where that would run past an end of the wall it is moved
    along."""
    whole = wall.left_m + wall.right_m
    if not 0.0 < width_m <= whole + 1e-6:
        raise Refused(f"The wall ahead is {whole:.2f} m wide; a width of {width_m:.2f} m does not fit on it.")
    half = width_m / 2
    shift = max(half - wall.left_m, 0.0) - max(half - wall.right_m, 0.0)
    return replace(wall, left_m=half - shift, right_m=half + shift)


def back_through_wall(
    model: Model,
    rays: RayScene,
    camera: Camera,
    width_m: float | None = None,
    bodies: Bodies | None = None,
    whole: str = WHOLE[0],
) -> SteppedBack:
    """Back along the line of sight, out through the wall behind if need be, until what is wanted of the far
    wall fits.

    width_m : the wanted width about what is looked at, metres.  whole : without a width, one of WHOLE: all of
    the wall from end to end and from floor to ceiling, or one of the two.  The height above the
    room's floor is kept.  Behind the wall the bound lands on its inner face plus a hair, or past what stands
    against it: a near bound where the camera stands square to it, a wall cut otherwise.  Raises Refused with
    the reason where it cannot be.
    """
    passed = passed_by_walls(model)
    # A camera that stands outside already is asked from where its sight begins.
    begins = place_of_sight(camera)
    wall = _far_wall(model, rays, passed, replace(camera, eye=begins))
    if width_m is not None:
        wall, whole = _of_width(wall, width_m), "width"
    needed, out = _way_back(camera, wall, whole)
    if needed <= 1e-4:
        return SteppedBack(camera, 0.0, 0.0, "", "", out)
    result = _gone_back(model, rays, camera, needed, bodies or bodies_of(model))
    return replace(result, out=out)


def _gone_back(model: Model, rays: RayScene, camera: Camera, needed_m: float, bodies: Bodies) -> SteppedBack:
    """The camera so far back, and where it then stands behind a wall, the bound that hides the wall."""
    begins = place_of_sight(camera)
    eye = np.asarray(begins, float)
    back = -level_rays(np.array([camera.heading_deg]))[0]
    behind = _wall_across(model, rays, eye, wrap_heading(camera.heading_deg + 180.0), nearest=True)
    moved = replace(
        camera,
        eye=vec3_of(np.asarray(camera.eye) + back * needed_m),
        aim_m=camera.aim_m + needed_m,
        near_m=None,
        near_at=None,
    )
    whole = needed_m + math.dist(begins, camera.eye)
    if behind is None or whole < behind.away_m - 0.05:
        return SteppedBack(moved, needed_m, 0.0, "", "")
    item = model.objects[behind.number]
    into = wrap_heading(behind.heading_deg + 180.0)
    outside = whole - behind.away_m
    on_face = eye + back * behind.away_m
    opens = -1
    if abs(turn_between(camera.heading_deg, into)) <= SQUARE_DEG:
        near = _near_past(moved, outside + HAIR_M)
        bound, past = _near_cleared(
            model, rays, bodies, replace(moved, near_m=near, near_at=moved.pose.point_ahead(near))
        )
        by_bound = SteppedBack(
            bound, needed_m, outside, item.name, f"hides nearer than {bound.near:.3f} m{past}"
        )
        opens = len(opened_objects(model, bodies, bound.view()))
        if not opens:
            return by_bound
    # Where the frame is wider or higher than the room, a bound across the view would open what encloses it.
    at_m = float(on_face @ level_rays(np.array([into]))[0])
    cut = wall_cut_on(model, rays, vec3_of(on_face), into, at_m, item)
    result, past = _cut_cleared(model, bodies, moved, cut)
    if 0 < opens <= len(opened_objects(model, bodies, result.view())):
        return by_bound
    return SteppedBack(result, needed_m, outside, item.name, f"a wall cut lies on it{past}")


def _names(model: Model, numbers: tuple[int, ...]) -> str:
    named = [f"“{model.objects[number].name}”" for number in numbers[:2]]
    return ", ".join(named) + (f" and {len(numbers) - 2} more" if len(numbers) > 2 else "")


def _near_cleared(model: Model, rays: RayScene, bodies: Bodies, camera: Camera) -> tuple[Camera, str]:
    """A near bound on a wall's face moved past what stands against the wall, where that is not deep."""
    opened = opened_objects(model, bodies, camera.view())
    if not opened:
        return camera, ""
    try:
        moved = just_clear(model, rays, bodies, camera)
    except Refused:
        return camera, f" (opens {_names(model, opened)})"
    if not (camera.near or 0.0) <= (moved.near or 0.0) <= (camera.near or 0.0) + AGAINST_M:
        return camera, f" (opens {_names(model, opened)})"
    return moved, f", past {_names(model, opened)}"


def _cut_cleared(model: Model, bodies: Bodies, camera: Camera, cut: WallCut) -> tuple[Camera, str]:
    """A wall cut moved into the room past what stands against the wall, where that is not deep."""
    cut_camera = add_wall_cut(camera, cut)
    opened = opened_objects(model, bodies, cut_camera.view())
    for _ in range(4):
        now = opened_objects(model, bodies, cut_camera.view())
        if not now:
            return cut_camera, f", past {_names(model, opened)}" if opened else ""
        reach = max(
            float(object_corners(model, number).reshape(-1, 3).astype(float).dot(cut.normal).max())
            for number in now
        )
        offset = reach + HAIR_M - cut.at_m
        if offset > AGAINST_M:
            break
        cut_camera = add_wall_cut(camera, replace(cut, offset_m=offset))
    return add_wall_cut(camera, cut), f" (opens {_names(model, opened)})"


def _near_past(camera: Camera, level_m: float) -> float:
    """The near bound that clears an upright face across the way at a level distance, over the whole height of
    the frame."""
    tilt = math.radians(camera.tilt_deg)
    _, _, bottom, top = camera.view().edges()
    return max(0.02, *(level_m / max(math.cos(tilt) - edge * math.sin(tilt), 0.05) for edge in (bottom, top)))


#: The sides of the frame by what of the far wall they hold: the sign of the side, and which axis of the
#: camera.
_SIDES = (("left end", 0), ("right end", 1), ("floor", 2), ("ceiling", 3))


def _way_back(camera: Camera, wall: _FarWall, whole: str) -> tuple[float, tuple[str, ...]]:
    """How far an eye goes back, level, until the wall's corners lie within the frame, and what never will.

    A corner p lies within the frame's right edge while (right - e forward)·(p - eye) <= 0, e the edge's
    tangent; each step back along the level way h adds (right - e forward)·h to the left side, so every edge
    asks for one distance, or for none that there is.
    """
    right, up, forward = camera.pose.axes()
    edges = camera.view().edges()
    back = level_rays(np.array([camera.heading_deg]))[0]
    offsets = wall.corners() - np.asarray(camera.eye)
    wanted = {"all": (0, 1, 2, 3), "width": (0, 1), "height": (2, 3)}[whole]
    needed, out = 0.0, []
    for name, side in _SIDES:
        if side not in wanted:
            continue
        sign = 1.0 if side % 2 else -1.0
        normal = sign * ((right if side < 2 else up) - edges[side] * forward)
        over = float((offsets @ normal).max())
        if over <= 0.0:
            continue
        gain = -float(back @ normal)
        if gain <= 1e-9 or over / gain > FARTHEST_M:
            out.append(name)
        else:
            needed = max(needed, over / gain)
    return needed, tuple(out)
