"""Wall cuts: the wall that was picked, its inner face, and the free rectangle on it.

Everything is found by casting rays and from the extents of wall-like objects, so that a wall may consist of a
leaf, its lining, its windows and their frames, as in real models.
"""

from __future__ import annotations

import math
from dataclasses import replace
from typing import NamedTuple

import numpy as np

from altana.core.camera.wall_cut import HAIR_M, WallCut
from altana.core.conventions import Bools, Floats, Floats32, Vec3, wrap_heading
from altana.core.errors import Refused
from altana.core.geometry.cross import UP, crossed
from altana.core.geometry.rays import RayScene
from altana.core.geometry.sight import see
from altana.core.model import Model
from altana.core.standing import level_rays
from altana.core.wall_headings import UPRIGHT_DEG, wall_heading, wall_headings
from altana.core.wall_rays import LOOSE_PARTS

#: What a wall is made of; linings and coverings stand for themselves.
WALL_PARTS = frozenset(
    {"Wall", "Curtain wall", "Glazing", "Window", "Door", "Covering", "Plate", "Sign", "Railing"}
)
#: Thin things on walls, that are no wall across a way.
NO_WALLS = frozenset({"Railing", "Sign"})
#: The parts of one wall lie within this of the face that was picked.
THICKEST_M = 0.8
#: Free air at least this deep ends a wall.
COLUMN_M = 0.12
FARTHEST_M = 80.0
#: A wall cut also takes what stands proud of the wall's outer face by this: sills, downpipes.
PROUD_M = 0.12


def passed_by_walls(model: Model) -> Bools:
    """(faces,) bool: what sight for walls goes through: panes and what can be carried away."""
    loose = np.array([item.category in LOOSE_PARTS for item in model.objects], bool)
    panes = np.array([material.kind == "glass" for material in model.materials], bool)
    passed: Bools = loose[model.face_objects()] | panes[model.face_material]
    return passed


# ---------------------------------------------------------------------- wall cuts


def wall_cut_at(model: Model, rays: RayScene, face: int, point: Vec3, eye: Vec3) -> WallCut:
    """A wall cut on the inner face of the wall that a triangle belongs to, picked at a point of it and seen
    from an eye.

    The kept side is the one away from the eye.  The rectangle is the free one on that face: up to the walls
    beside, the floor below and the ceiling above.  Raises Refused where the surface is no wall.
    """
    heading = _wall_heading_around(model, rays, face, point, eye)
    towards = level_rays(np.array([heading]))[0]
    if (np.asarray(point) - np.asarray(eye)) @ towards < 0.0:
        heading = wrap_heading(heading + 180.0)
        towards = -towards
    (number,) = model.owners_of(np.array([face])).tolist()
    outer, inner = _faces_of_wall(model, point, towards, number)
    cut = wall_cut_on(model, rays, point, heading, inner, model.objects[number])
    # Nothing but the wall: what stands well before it stays whole.
    return replace(cut, depth_m=round(inner - outer + 2 * HAIR_M + PROUD_M, 4))


def _wall_heading_around(model: Model, rays: RayScene, face: int, point: Vec3, eye: Vec3) -> float:
    """The direction that a wall faces at a picked point: what most of it faces there, not the side of one
    mullion."""
    sight = np.asarray(point) - np.asarray(eye)
    away = float(np.linalg.norm(sight))
    sight /= max(away, 1e-9)
    across = crossed(sight, UP)
    across /= max(float(np.linalg.norm(across)), 1e-9)
    up = crossed(across, sight)
    # A field of about two metres round the point, or eight degrees where it is near.
    reach = max(1.0 / max(away, 0.1), math.tan(math.radians(8.0)))
    grid = np.linspace(-reach, reach, 11)
    aside, rise = (value.ravel() for value in np.meshgrid(grid, grid))
    along = sight + np.outer(aside, across) + np.outer(rise, up)
    along /= np.linalg.norm(along, axis=1, keepdims=True)
    hits = rays.cast(np.tile(np.asarray(eye, float), (len(along), 1)), along)
    owners = model.owners_of(hits.face).tolist()
    votes: dict[float, float] = {}
    headings = (wall_headings(rays, hits.face) % 180.0).tolist()
    for number, heading, distance in zip(owners, headings, hits.distance_m.tolist(), strict=True):
        if (
            not math.isnan(heading)
            and model.objects[number].category in WALL_PARTS
            and abs(distance - away) < 0.4 * away + 0.5
        ):
            votes[heading] = votes.get(heading, 0.0) + 1.0
    own = wall_heading(rays, face)
    if own is not None:
        votes[own % 180.0] = votes.get(own % 180.0, 0.0) + 1.5
    if not votes:
        raise Refused(f"That is no wall: its face leans by more than {UPRIGHT_DEG:g}°. Pick a wall.")
    return max(votes, key=lambda item: votes[item])


def pick_wall(model: Model, rays: RayScene, eye: Vec3, place: Vec3) -> WallCut:
    """A wall cut on the wall nearest to a place, looked for on the line from the eye through it.  Raises
    Refused."""
    ahead = np.asarray(place, float) - np.asarray(eye)
    away = float(np.linalg.norm(ahead))
    if away < 1e-6:
        raise Refused("Pick a wall, not the eye itself.")
    ahead /= away
    walls = [
        (abs(item.distance_m - away), item.distance_m, item.face)
        for item in passages(model, rays, np.asarray(eye, float), ahead, away + 2.0)
        if model.objects[item.owner].category in WALL_PARTS - NO_WALLS
    ]
    if not walls:
        raise Refused("There is no wall here. Pick a wall that stands between the camera and what it shows.")
    _, distance, face = min(walls)
    return wall_cut_at(model, rays, face, vec3_of(np.asarray(eye) + ahead * distance), eye)


def wall_cut_on(
    model: Model, rays: RayScene, point: Vec3, heading_deg: float, at_m: float, item: object
) -> WallCut:
    """A wall cut in the plane at ``at_m`` along a heading, a hair into the room, with the free rectangle
    round a point."""
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
        corner = object_corners(model, index).reshape(-1, 3).astype(float)
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
    """Left, right, down and up from a point in free air: the largest free rectangle round it that columns of
    rays find."""
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
    # Grown towards the side that costs less height, one column at a time; the largest area on the way is
    # kept.
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


class Passage(NamedTuple):
    """A surface that a line goes through: how far along, its triangle, and the number of its object."""

    distance_m: float
    face: int
    owner: int


def passages(model: Model, rays: RayScene, eye: Floats, ahead: Floats, reach_m: float) -> list[Passage]:
    """Every surface along a ray up to a reach, the nearest first."""
    distances: list[float] = []
    faces: list[int] = []
    gone = 0.0
    while len(faces) < 200:
        hit = rays.cast((eye + ahead * gone)[None], ahead[None])
        if hit.face[0] < 0:
            break
        gone += float(hit.distance_m[0])
        if gone > reach_m:
            break
        distances.append(gone)
        faces.append(int(hit.face[0]))
        gone += 2e-4
    owners = model.owners_of(np.array(faces, np.int64)).tolist()
    return [Passage(*item) for item in zip(distances, faces, owners, strict=True)]


def object_corners(model: Model, number: int) -> Floats32:
    item = model.objects[number]
    corners: Floats32 = model.vertices[model.faces[item.first_face : item.first_face + item.face_count]]
    return corners


def vec3_of(values: Floats) -> Vec3:
    x, y, z = values.tolist()
    return (x, y, z)
