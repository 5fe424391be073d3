"""Tools that put a camera where walls are: square to one, between two, in a corner, in the middle, back
against one."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

import numpy as np

from altana.core.conventions import STANDING_M, turn_between, wrap_heading
from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.project import Camera
from altana.core.standing import clearances, floor_under, level_rays, on_floor
from altana.core.wall_headings import wall_headings
from altana.core.wall_rays import WallCaster

#: How far the eye keeps from what it is put against.
HAIR_M = 0.30
#: What "square to wall" looks at: rays to both sides of the heading.
LOOKED_AT_DEG = np.arange(-60.0, 60.1, 2.5)
FARTHEST_BACK_M = 120.0
#: A step down deeper than this ends free ground.
LEDGE_M = 0.45


def square_to_wall(camera: Camera, rays: WallCaster) -> Camera:
    """Turned so that the nearest wall it faces stands exactly across the line of sight, level and unrolled.

    Raises Refused when there is no wall in view.
    """
    directions = level_rays(camera.heading_deg + LOOKED_AT_DEG)
    hits = rays.cast(np.tile(camera.eye, (len(directions), 1)), directions)
    options: list[tuple[float, float, float]] = []
    spans: dict[tuple[float, float], list[float]] = {}
    headings = wall_headings(rays, hits.face)
    for heading, distance, aside in zip(
        headings.tolist(), hits.distance_m.tolist(), LOOKED_AT_DEG.tolist(), strict=True
    ):
        if math.isnan(heading):
            continue
        off = turn_between(camera.heading_deg, heading)
        # A face seen from its back stands across the same line.
        if abs(off) > 90.0:
            heading = wrap_heading(heading + 180.0)
            off = turn_between(camera.heading_deg, heading)
        if abs(off) > 50.0:
            continue
        beside = turn_between(heading, camera.heading_deg + aside)
        across = distance * math.cos(math.radians(abs(beside)))
        # The wall in the middle of the view goes before others that are as near; a large turn counts as
        # distance.
        cost = across * (1.0 + abs(aside) / 60.0) * (1.0 + abs(off) / 45.0)
        options.append((cost, heading, across))
        spans.setdefault(_plane(heading, across), []).append(distance * math.sin(math.radians(beside)))
    # A wall is flat and wide: what shows only a strip of itself, or a leaf here and there, stands before
    # walls.
    wide = [
        item for item in options if _span(spans[_plane(item[1], item[2])]) >= min(NARROW_M, 0.2 * item[2])
    ]
    best = min(wide or options, default=None)
    if best is None:
        raise Refused("There is no wall in front of the camera to stand square to.")
    return replace(camera, heading_deg=best[1], tilt_deg=0.0, roll_deg=0.0)


#: A plane counts as a wall from this width on.
NARROW_M = 0.9


def _plane(heading_deg: float, across_m: float) -> tuple[float, float]:
    return round(heading_deg * 2.0) / 2.0 % 360.0, round(across_m * 10.0) / 10.0


def _span(places: list[float]) -> float:
    return max(places) - min(places)


def _shifted(camera: Camera, ahead_m: float, right_m: float) -> Camera:
    turn = math.radians(camera.heading_deg)
    x, y, z = camera.eye
    return replace(
        camera,
        eye=(
            x + math.sin(turn) * ahead_m + math.cos(turn) * right_m,
            y + math.cos(turn) * ahead_m - math.sin(turn) * right_m,
            z,
        ),
    )


def between_walls(camera: Camera, rays: WallCaster) -> Camera:
    """Slid sideways until the walls to the left and right are equally far.  Raises Refused where one side is
    open."""
    for _ in range(12):
        _, right, _, left = clearances(rays, camera.eye, camera.heading_deg)
        if not (math.isfinite(left) and math.isfinite(right)):
            raise Refused("There is no wall on one side, so there is no middle between walls here.")
        if abs(right - left) < 2e-5:
            break
        camera = _shifted(camera, 0.0, (right - left) / 2)
    return camera


def middle_of_room(camera: Camera, rays: WallCaster) -> Camera:
    """In the middle both ways: between the side walls, and between what lies ahead and behind.

    Raises Refused where the room is open, or where things in the way leave no middle at this height.
    """
    for turn in range(24):
        ahead, right, behind, left = clearances(rays, camera.eye, camera.heading_deg)
        if not all(math.isfinite(value) for value in (ahead, right, behind, left)):
            raise Refused("The room is open on one side, so it has no middle here.")
        if max(abs(right - left), abs(ahead - behind)) < 2e-5:
            return camera
        # One way after the other: moved both ways at once, the eye may jump about what stands in the room.
        camera = (
            _shifted(camera, (ahead - behind) / 2, 0.0)
            if turn % 2
            else _shifted(camera, 0.0, (right - left) / 2)
        )
    raise Refused("Things stand in the way here, so there is no middle at this height.")


def into_corner(camera: Camera, rays: WallCaster) -> Camera:
    """Put into the nearest corner behind it, HAIR_M off both walls, looking along the corner's bisector.

    Raises Refused where no two walls meet behind the camera.
    """
    behind = wrap_heading(camera.heading_deg + 180.0)
    offsets = np.arange(-88.0, 88.1, 4.0)
    hits = rays.cast(np.tile(camera.eye, (len(offsets), 1)), level_rays(behind + offsets))
    walls: list[tuple[float, float]] = []
    for towards, distance, aside in zip(
        wall_headings(rays, hits.face).tolist(), hits.distance_m.tolist(), offsets.tolist(), strict=True
    ):
        if math.isnan(towards):
            continue
        if abs(turn_between(behind + aside, towards)) > 90.0:
            towards = wrap_heading(towards + 180.0)
        across = distance * math.cos(math.radians(abs(turn_between(behind + aside, towards))))
        walls.append((across, towards))
    pairs = [
        (a[0] + b[0], a, b)
        for index, a in enumerate(walls)
        for b in walls[index + 1 :]
        if 60.0 < abs(turn_between(a[1], b[1])) < 120.0
    ]
    if not pairs:
        raise Refused("No two walls meet behind the camera. Turn it away from the corner you mean.")
    _, first, second = min(pairs, key=lambda item: item[0])
    normals = level_rays(np.array([first[1], second[1]]))[:, :2]
    moved = np.linalg.solve(normals, np.array([first[0] - HAIR_M, second[0] - HAIR_M]))
    x, y, z = camera.eye
    into = first[1] + turn_between(first[1], second[1]) / 2
    return replace(
        camera, eye=(x + float(moved[0]), y + float(moved[1]), z), heading_deg=wrap_heading(into + 180.0)
    )


def back_to_wall(camera: Camera, rays: WallCaster, floors: RayScene) -> Camera:
    """Stepped back until HAIR_M before the wall behind; outdoors as far as there is free ground on one level.

    Height above the floor is kept.  Raises Refused where there is no way back.
    """
    _, _, behind, _ = clearances(rays, camera.eye, camera.heading_deg)
    reach = min(behind - HAIR_M, FARTHEST_BACK_M)
    ground = floor_under(floors, camera.eye)
    if not math.isfinite(behind) or behind > 30.0:
        steps = np.arange(0.25, max(reach, 0.25), 0.25)
        turn = math.radians(camera.heading_deg)
        places = np.asarray(camera.eye) - np.outer(steps, (math.sin(turn), math.cos(turn), 0.0))
        heights = floors.floors_below(places)
        here = ground if ground is not None else camera.eye[2] - STANDING_M
        profile = np.concatenate([[here], heights])
        lost = np.isnan(heights) | (np.abs(np.diff(np.nan_to_num(profile, nan=-1e9))) > LEDGE_M)
        free = int(np.argmax(lost)) if lost.any() else len(steps)
        reach = min(reach, float(steps[free - 1]) - HAIR_M if free else 0.0)
    if reach <= 0.01:
        raise Refused("There is no room to step back here.")
    moved = replace(_shifted(camera, -reach, 0.0), aim_m=camera.aim_m + reach)
    return on_floor(camera, moved, floors)


TOOLS: dict[str, Callable[[Camera, WallCaster], Camera]] = {
    "Square to wall": square_to_wall,
    "Between walls": between_walls,
    "Middle of the room": middle_of_room,
    "Corner": into_corner,
}
