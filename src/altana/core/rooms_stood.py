"""A first camera in a room: from the corner that shows most of it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import shapely

from altana.core.camera.pose import direction_to
from altana.core.conventions import EV_INSIDE, FOCAL_INSIDE_MM, STANDING_M, Floats, Vec3
from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.model import Model, Room
from altana.core.project import Camera
from altana.core.standing import floor_under, inside_solid, level_rays, named_for_place

#: The eye keeps so far from the walls, or nearer where the room is small.
OFF_WALLS_M = (0.45, 0.25, 0.1)
#: Nothing may be nearer to the eye than this, under a sloping ceiling as beside a cupboard, in any of these
#: directions; where it is, the place goes towards the middle by so many steps.
CLEAR_M, STEPS = 0.3, 5
AROUND = np.array([way for way in np.ndindex(3, 3, 3) if way != (1, 1, 1)], float) - 1.0
AROUND /= np.linalg.norm(AROUND, axis=1, keepdims=True)
#: What is seen is told by rays over so much of the view, up to a length; further away counts no more.
FAN_DEG, FARTHEST_M = np.arange(-34.0, 35.0, 4.0), 25.0
#: A room's floor is looked for this near to where the file says that it is.
NEAR_FLOOR_M = 0.6


def stand_in_room(
    model: Model, rays: RayScene, floors: RayScene, room: Room, eye_height_m: float = STANDING_M
) -> Camera:
    """A level camera in a room, an arm's length off its walls, that looks across the middle from where most
    is seen.

    Raises Refused where there is no place to stand in it.
    """
    shape = shapely.make_valid(shapely.Polygon(room.outline))
    middle = shape.centroid if shape.contains(shape.centroid) else shape.representative_point()
    best: tuple[float, Camera] | None = None
    for off in OFF_WALLS_M:
        inset = shape.buffer(-off, join_style="mitre")
        places = np.unique(np.round(shapely.get_coordinates(inset.simplify(0.05)), 3), axis=0)
        for corner in places:
            eye = _eye(
                rays,
                floors,
                room,
                corner,
                np.array([middle.x, middle.y]),
                0.95 * min(off, CLEAR_M),
                eye_height_m,
            )
            if eye is None:
                continue
            heading, _, away = direction_to(eye, (middle.x, middle.y, eye[2]))
            fan = level_rays(heading + FAN_DEG)
            seen = rays.cast(np.tile(eye, (len(fan), 1)), fan).distance_m
            score = float(np.minimum(seen, FARTHEST_M).mean())
            if best is None or score > best[0] + 1e-6:
                best = score, _camera(eye, heading, away)
        if best is not None:
            return named_for_place(best[1], model)
    raise Refused(f"There is no place to stand in “{room.name}”.")


def _eye(
    rays: RayScene,
    floors: RayScene,
    room: Room,
    corner: Floats,
    middle: Floats,
    clear_m: float,
    eye_height_m: float,
) -> Vec3 | None:
    """The place nearest to a corner (x, y), on the way to the middle, where an eye has air around it; None
    where there is none."""
    for share in np.arange(STEPS) / STEPS:
        x, y = (corner + (middle - corner) * share).tolist()
        if np.hypot(*(middle - (x, y))) < 0.3:
            return None
        floor = floor_under(floors, (x, y, room.floor_m + NEAR_FLOOR_M))
        if floor is None or abs(floor - room.floor_m) > NEAR_FLOOR_M:
            continue
        eye = x, y, floor + min(eye_height_m, max(room.ceiling_m - floor - 0.1, 0.3))
        near = rays.cast(np.tile(eye, (len(AROUND), 1)), AROUND).distance_m.min()
        if near >= clear_m and not inside_solid(rays, eye):
            return eye
    return None


def _camera(eye: Vec3, heading_deg: float, away_m: float) -> Camera:
    camera = Camera("", "", eye, heading_deg, focal_mm=FOCAL_INSIDE_MM, ev=EV_INSIDE, inside=True)
    return replace(camera, aim_m=max(away_m, 0.5))
