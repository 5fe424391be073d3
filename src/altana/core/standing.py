"""Standing a camera: the floor under the eye, eye height above it, and what suits the place."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from altana.core.camera.pose import direction_to
from altana.core.conventions import EV_INSIDE, EV_OUTSIDE, FOCAL_INSIDE_MM, FOCAL_OUTSIDE_MM, STANDING_M, Vec2, Vec3
from altana.core.geometry.rays import RayScene
from altana.core.model import Model
from altana.core.project import Camera

COMPASS = ("north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west")
#: A floor is looked for from this height above a storey's level, below most ceilings.
PROBE_ABOVE_STOREY_M = 1.9


@dataclass(frozen=True, slots=True)
class Ground:
    """A floor under a place: its height and whether it is indoors."""

    floor_m: float
    inside: bool


#: What one does not stand on: the floor below it counts.
NOT_A_FLOOR = frozenset({"Furniture", "Light fixture", "Railing", "Planting", "Door", "Window", "Glazing", "Vessel"})


def standable(model: Model) -> RayScene:
    """The model without furniture, lamps, railings, planting and glazing, for finding floors."""
    keep = np.array([item.category not in NOT_A_FLOOR for item in model.objects], bool)
    return RayScene(model.vertices, model.faces[keep[model.face_objects()]])


def ground_at(rays: RayScene, place: Vec2, storey_m: float) -> Ground | None:
    """The floor under a place on the plan, looked for from a storey's level downwards.

    Storeys, landings, treads and terrain all count; a surface up to PROBE_ABOVE_STOREY_M above the storey's
    level is stood on.  None where there is nothing below.
    """
    x, y = place
    floor = float(rays.floors_below(np.array([[x, y, storey_m + PROBE_ABOVE_STOREY_M]]))[0])
    if np.isnan(floor):
        return None
    return Ground(floor, rays.roofed((x, y, floor + 1.2)))


def floor_under(rays: RayScene, eye: Vec3) -> float | None:
    """The height of the floor under an eye, or None."""
    floor = float(rays.floors_below(np.array([eye]))[0])
    return None if np.isnan(floor) else floor


def stand(model: Model, rays: RayScene, place: Vec2, aim: Vec2, storey_m: float, eye_height_m: float = STANDING_M) -> Camera:
    """A new camera: eye at this height above the floor really under it, level, looking towards ``aim``.

    Raises ValueError when there is no floor to stand on, or the aim is the place itself.
    """
    ground = ground_at(rays, place, storey_m)
    if ground is None:
        raise ValueError("There is no floor here to stand on. Stand the camera on the building or the ground around it.")
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


def clearances(rays: RayScene, eye: Vec3, heading_deg: float) -> tuple[float, float, float, float]:
    """Free distance ahead, right, behind and left of an eye at its height, metres (infinite when open)."""
    turn = np.radians(heading_deg + np.array([0.0, 90.0, 180.0, 270.0]))
    directions = np.stack([np.sin(turn), np.cos(turn), np.zeros(4)], axis=1)
    ahead, right, behind, left = rays.cast(np.tile(eye, (4, 1)), directions).distance_m.tolist()
    return ahead, right, behind, left
