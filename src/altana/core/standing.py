"""Standing a camera: the floor under the eye, eye height above it, and what suits the place.

Walls are found by casting level rays at eye height, so that what stands in the way counts, drawn or not.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from altana.core.camera.bounds import place_of_sight
from altana.core.camera.pose import direction_to
from altana.core.conventions import (
    EV_INSIDE,
    EV_OUTSIDE,
    FOCAL_INSIDE_MM,
    FOCAL_OUTSIDE_MM,
    STANDING_M,
    Floats,
    Vec2,
    Vec3,
)
from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.model import Model
from altana.core.project import Camera
from altana.core.wall_rays import WallCaster

COMPASS = ("north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west")
#: A floor is looked for from this height above a storey's level, below most ceilings.
PROBE_ABOVE_STOREY_M = 1.9
#: Land is looked for from this height where there is none below.
HIGHEST_LAND_M = 5_000.0
#: So far from all floors a camera is stood where there is no land; the land's height is looked for at so many
#: places on the way to it.
OFF_THE_MODEL_M, WAY_STEPS = 300.0, 512


@dataclass(frozen=True, slots=True)
class Ground:
    """A floor under a place: its height and whether it is indoors."""

    floor_m: float
    inside: bool


#: What one does not stand on: the floor below it counts.
NOT_A_FLOOR = frozenset(
    {"Furniture", "Light fixture", "Railing", "Planting", "Door", "Window", "Glazing", "Vessel"}
)


def standable(model: Model) -> RayScene:
    """The model without furniture, lamps, railings, planting and glazing, for finding floors."""
    keep = np.array([item.category not in NOT_A_FLOOR for item in model.objects], bool)
    # Where all of it may be stood upon it is the same scene, and its trees are built once.
    return RayScene.of(model, None if keep.all() else keep[model.face_objects()])


def ground_at(rays: RayScene, place: Vec2, storey_m: float) -> Ground | None:
    """The floor under a place on the plan, looked for from a storey's level downwards.

    Storeys, landings, treads and terrain all count; a surface up to PROBE_ABOVE_STOREY_M above the storey's
    level is stood on.  Where nothing lies below, as on land that rises above the storey, the highest surface
    counts.  None where there is none at all.
    """
    x, y = place
    floor = float(rays.floors_below(np.array([[x, y, storey_m + PROBE_ABOVE_STOREY_M]]))[0])
    if np.isnan(floor):
        floor = float(
            rays.floors_below(np.array([[x, y, storey_m + HIGHEST_LAND_M]]), 2.0 * HIGHEST_LAND_M)[0]
        )
    if np.isnan(floor):
        return None
    return Ground(floor, rays.roofed((x, y, floor + 1.2)))


def land_beside(rays: RayScene, place: Vec2, from_m: float) -> float | None:
    """The height of the land at a place beside all floors, as if it went on from where they begin on the way
    to their middle.

    A house is often drawn on no more land than it covers, and its front is seen from across the street.
    from_m : looked for downwards from this height.  None over a gap between floors, farther than
    OFF_THE_MODEL_M from all of them, and where there are none.
    """
    low, high = rays.extent[:, :2]
    at = np.asarray(place, float)
    away = float(np.linalg.norm(np.maximum(np.maximum(low - at, at - high), 0.0)))
    if not 0.0 < away <= OFF_THE_MODEL_M:
        return None
    middle = (low + high) / 2.0
    way = at + np.linspace(0.0, 1.0, WAY_STEPS)[:, None] * (middle - at)
    floors = rays.floors_below(np.column_stack([way, np.full(WAY_STEPS, from_m)]))
    met = np.flatnonzero(~np.isnan(floors))
    return float(floors[met[0]]) if len(met) else None


def floor_under(rays: RayScene, eye: Vec3) -> float | None:
    """The height of the floor under an eye, beside a model without land of the land as it would go on; or
    None."""
    floor = float(rays.floors_below(np.array([eye]))[0])
    return land_beside(rays, eye[:2], eye[2]) if np.isnan(floor) else floor


def stand(
    model: Model, rays: RayScene, place: Vec2, aim: Vec2, storey_m: float, eye_height_m: float = STANDING_M
) -> Camera:
    """A new camera: eye at this height above the floor really under it, level, looking towards ``aim``.

    Off the model's land it stands as if that went on.  Raises Refused when there is no floor to stand on far
    and wide, or the aim is the place itself.
    """
    ground = ground_at(rays, place, storey_m)
    if ground is None:
        # Land is at the ground storey, whichever storey's plan is pressed; seen from above it the eaves would
        # be met first.
        lowest = min([storey_m, *sorted((item.elevation_m for item in model.storeys), key=abs)[:1]])
        land = land_beside(rays, place, lowest + PROBE_ABOVE_STOREY_M)
        ground = Ground(land, False) if land is not None else None
    if ground is None:
        raise Refused(
            "There is no floor here to stand on. Stand the camera on the building or the ground around it."
        )
    eye = (place[0], place[1], ground.floor_m + eye_height_m)
    heading, _, distance = direction_to(eye, (aim[0], aim[1], eye[2]))
    camera = Camera(
        id="",
        name="",
        eye=eye,
        heading_deg=heading,
        aim_m=distance,
        focal_mm=FOCAL_INSIDE_MM if ground.inside else FOCAL_OUTSIDE_MM,
        ev=EV_INSIDE if ground.inside else EV_OUTSIDE,
        inside=ground.inside,
    )
    return named_for_place(camera, model)


def named_for_place(camera: Camera, model: Model) -> Camera:
    """The camera with a name that tells: room or outside, and the direction it looks."""
    room = model.room_at(camera.eye)
    where = room.name if room else ("Inside" if camera.inside else "Outside")
    direction = COMPASS[round(camera.heading_deg / 45.0) % 8]
    return replace(camera, name=f"{where}, {direction}")


def clearances(rays: WallCaster, eye: Vec3, heading_deg: float) -> tuple[float, float, float, float]:
    """Free distance ahead, right, behind and left of an eye at its height, metres (infinite when open)."""
    turn = np.radians(heading_deg + np.array([0.0, 90.0, 180.0, 270.0]))
    directions = np.stack([np.sin(turn), np.cos(turn), np.zeros(4)], axis=1)
    ahead, right, behind, left = rays.cast(np.tile(eye, (4, 1)), directions).distance_m.tolist()
    return ahead, right, behind, left


# ---------------------------------------------------------------------- walls


def level_rays(headings_deg: Floats) -> Floats:
    """(n, 3) level unit directions for headings in degrees."""
    turn = np.radians(np.asarray(headings_deg, float))
    rays: Floats = np.stack([np.sin(turn), np.cos(turn), np.zeros(len(turn))], axis=1)
    return rays


def eye_over(floors: RayScene, eye: Vec3, place: Vec2, storey_m: float) -> Vec3:
    """The eye over another place of a storey, as high above the floor that is really there; level where there
    is none."""
    here, there = floor_under(floors, eye), ground_at(floors, place, storey_m)
    return (*place, eye[2] if here is None or there is None else there.floor_m + (eye[2] - here))


def on_floor(before: Camera, after: Camera, floors: RayScene) -> Camera:
    """The moved camera with its height above the floor kept: over treads and landings the eye goes along."""
    here = floor_under(floors, before.eye)
    there = floor_under(floors, (after.eye[0], after.eye[1], max(before.eye[2], after.eye[2])))
    if here is None or there is None or abs(there - here) > 1.2:
        return after
    return replace(after, eye=(after.eye[0], after.eye[1], after.eye[2] + there - here))


def ceiling_over(rays: RayScene, eye: Vec3) -> float | None:
    """Height of what is overhead, or None under the open sky."""
    distance = float(rays.cast(np.array([eye]), np.array([[0.0, 0.0, 1.0]])).distance_m[0])
    return eye[2] + distance if math.isfinite(distance) else None


def mid_height(rays: RayScene, floors: RayScene, eye: Vec3) -> float:
    """Half of the room's height above the floor, metres.  Raises Refused in the open."""
    floor, ceiling = floor_under(floors, eye), ceiling_over(rays, eye)
    if floor is None or ceiling is None or ceiling - floor > 60.0:
        raise Refused("There is no ceiling here, so the room has no middle height.")
    return (ceiling - floor) / 2


@dataclass(frozen=True, slots=True)
class Footing:
    """How an eye stands: floor and ceiling (metres or None) and what is wrong, in a sentence, or nothing."""

    floor_m: float | None
    ceiling_m: float | None
    trouble: str = ""


def footing(rays: RayScene, floors: RayScene, eye: Vec3) -> Footing:
    """Floor and ceiling of an eye, and whether it is inside a solid, below ground or over nothing."""
    floor, ceiling = floor_under(floors, eye), ceiling_over(rays, eye)
    if inside_solid(rays, eye):
        return Footing(floor, ceiling, "The eye is inside something solid.")
    if floor is None:
        above = ceiling is not None
        return Footing(
            floor, ceiling, "The eye is below ground." if above else "There is no floor under the eye."
        )
    return Footing(floor, ceiling)


def place_stood_in(rays: RayScene, camera: Camera) -> Vec3:
    """The place whose floor a camera's height is told by: that of its eye.

    Only a camera of a room whose eye stands in a wall or out of doors, behind a bound, goes by the room that
    it shows; so switching a bound on never changes the height that is told.
    """
    bounded = camera.near or camera.cuts
    if not bounded or not camera.inside or (rays.roofed(camera.eye) and not inside_solid(rays, camera.eye)):
        return camera.eye
    return place_of_sight(camera)


def stance(rays: RayScene, floors: RayScene, camera: Camera) -> Footing:
    """How a camera stands: its floor is that of its eye, its ceiling and what is wrong go by where its sight
    begins."""
    here = footing(rays, floors, place_of_sight(camera))
    return replace(here, floor_m=floor_under(floors, place_stood_in(rays, camera)))


def standing_trouble(rays: RayScene, floors: RayScene, camera: Camera) -> str:
    """What is wrong with where a camera stands, in a sentence, or nothing; it goes by where its sight
    begins."""
    return "" if camera.looks_down else footing(rays, floors, place_of_sight(camera)).trouble


def inside_solid(rays: RayScene, eye: Vec3) -> bool:
    """Whether more than half of what can be seen from here shows its back: the eye is inside a wall, a floor,
    the ground."""
    hits = rays.cast(np.tile(eye, (len(AROUND), 1)), AROUND)
    met = hits.face >= 0
    if met.sum() < len(AROUND) * 0.6:
        return False
    backs = np.einsum("ij,ij->i", rays.normals_of(hits.face[met]), AROUND[met]) > 0
    # A lined wall shows its lining from the front, so half is enough; in the open hardly anything shows its
    # back.
    return bool(backs.sum() > 0.5 * len(AROUND))


def _around() -> Floats:
    level = level_rays(np.arange(7.0, 360.0, 30.0))
    return np.concatenate([level, level * 0.7 + (0, 0, 0.714), level * 0.7 - (0, 0, 0.714)])


#: Thirty-six directions about an eye, none along an axis of the building.
AROUND: Floats = _around()
