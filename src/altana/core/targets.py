"""What a camera can be fitted to: a chosen object, the room it looks into, the façade in the middle of its
picture."""

from __future__ import annotations

import math
from dataclasses import dataclass, field

import numpy as np

from altana.core.camera.pose import Pose, direction_to
from altana.core.conventions import EV_INSIDE, EV_OUTSIDE, FOCAL_OUTSIDE_MM, Floats, Ints32, turn_between
from altana.core.errors import Refused
from altana.core.geometry.cross import UP, crossed
from altana.core.geometry.rays import RayScene
from altana.core.geometry.runs import runs_of
from altana.core.geometry.sight import passed_faces, see
from altana.core.model import Model
from altana.core.project import Camera
from altana.core.staging import object_points
from altana.core.standing import level_rays
from altana.core.wall_headings import wall_headings
from altana.core.wall_rays import WallRays, wall_rays

TARGETS = ("object", "room", "façade")
#: A façade is what lies within this of one upright plane; windows and frames stand that far back.
FACADE_DEPTH_M = 0.6
#: A wider gap parts two façades.
GAP_M = 1.5
#: The frame in which a whole building is looked at (mm), and so many times what is shown fits in it: with a
#: margin all round, or closer.
OVERVIEW_MM, MARGIN, CLOSE = (36.0, 20.25), 1.12, 0.6
OUTSIDE_PARTS = frozenset(
    {"Wall", "Window", "Door", "Curtain wall", "Glazing", "Roof", "Column", "Beam", "Plate", "Covering"}
)
#: What lies before a building, and is no part of its front even where it touches it.
LAND = frozenset({"Terrain", "Site", "Ground", "Floor", "Slab", "Water", "Road", "Paving", "Space"})
#: The rays that look for a façade: across and up, over so much of the picture.
LOOKS, LOOKED_OVER = (21, 15), 0.8
#: A façade shows at least so much of itself, square metres.
SMALLEST_M2 = 1.5


@dataclass(frozen=True, slots=True)
class Facade:
    """The front of a building: (n, 3) points that it reaches to, and the heading that faces it squarely,
    degrees."""

    points: Floats
    heading_deg: float


def target_points(
    model: Model, rays: RayScene, owner: Ints32, camera: Camera, target: str, object_id: str = ""
) -> Floats:
    """(n, 3) float64: the points that must be in the picture.  Raises Refused where there is no such thing.

    owner : (faces,) the object of each triangle.  ``object_id`` names the object; without one, what lies in
    the middle of the picture is meant.
    """
    if target == "room":
        return _room(model, camera)
    if target == "façade":
        return facade_ahead(model, wall_rays(model, rays), camera).points
    if target == "object":
        face = _in_the_middle(model, rays, camera)
        number = next((index for index, item in enumerate(model.objects) if item.id == object_id), -1)
        if number < 0:
            if face < 0:
                raise Refused("Choose an object first: press on it in the Frame.")
            number = int(owner[face])
        return object_points(model, number).astype(float)
    raise Refused(f"“{target}” is nothing to fit. There are: {', '.join(TARGETS)}.")


def facade_ahead(model: Model, walls: WallRays, camera: Camera) -> Facade:
    """The building front that the picture is of: the upright plane that most of the middle of the picture
    shows.

    What grows, what can be carried, a door's leaf, a person are looked past; what is seen through an open
    door is less of the picture than the front round it.  Raises Refused where there is none.
    """
    view = camera.view()
    share = [(np.arange(count) + 0.5) / count * LOOKED_OVER + (1 - LOOKED_OVER) / 2 for count in LOOKS]
    across, up = (grid.ravel() for grid in np.meshgrid(*share))
    along = view.rays(np.column_stack([across * view.width_px, up * view.height_px]))
    hits = walls.cast(np.tile(camera.eye, (len(along), 1)), along)
    # The middle of the picture tells more than its edge.
    weight = 1.0 / (0.15 + np.hypot(across - 0.5, up - 0.5))
    places = np.asarray(camera.eye, float) + along * np.where(hits.face >= 0, hits.distance_m, 0.0)[:, None]
    headings, owner = wall_headings(walls, hits.face), model.owners_of(hits.face).tolist()
    # A face seen from its back stands across the same line.
    behind = np.einsum("ij,ij->i", along, level_rays(headings)) < 0.0
    headings[behind] = (headings[behind] + 180.0) % 360.0
    reach = np.einsum("ij,ij->i", places, level_rays(headings))
    planes: list[_Plane] = []
    for ray in np.argsort(-weight).tolist():
        heading, at = float(headings[ray]), float(reach[ray])
        if math.isnan(heading) or model.objects[owner[ray]].category in LAND:
            continue
        plane = next((item for item in planes if item.holds(heading, at)), None)
        if plane is None:
            plane = _Plane(heading, at, int(hits.face[ray]))
            planes.append(plane)
        plane.weight += float(weight[ray])
        plane.rays.append(ray)
    for plane in sorted(planes, key=lambda item: -item.weight):
        spot = places[plane.rays]
        turn = math.radians(plane.heading_deg)
        wide = np.ptp(spot @ np.array([math.cos(turn), -math.sin(turn), 0.0]))
        if wide * np.ptp(spot[:, 2]) >= SMALLEST_M2:
            return Facade(_facade(model, walls, plane), plane.heading_deg)
    raise Refused("There is no upright façade in the middle of the picture.")


@dataclass(slots=True)
class _Plane:
    """An upright plane that rays of a picture meet: the heading into it, how far along that it lies, and a
    triangle in it."""

    heading_deg: float
    at_m: float
    face: int
    weight: float = 0.0
    rays: list[int] = field(default_factory=list)

    def holds(self, heading_deg: float, at_m: float) -> bool:
        """Whether a place belongs to it: windows and frames stand a little behind their wall."""
        return (
            abs(turn_between(self.heading_deg, heading_deg)) < 1.5 and abs(at_m - self.at_m) < FACADE_DEPTH_M
        )


def overview(model: Model) -> Camera:
    """A view of the whole building from the south-east, from above: what the Frame shows without a camera."""
    middle = model.vertices[model.faces[:: max(1, len(model.faces) // 400_000)]].mean(axis=1).astype(float)
    low, high = np.percentile(middle, 2.0, axis=0), np.percentile(middle, 98.0, axis=0)
    whole, margin = model.bounds, CLOSE
    if np.ptp(whole, axis=0).max() <= 2.5 * (high - low).max():
        # Nothing lies far around it, so all of it is looked at; else what stands in the middle of its land.
        (low, high), margin = whole, MARGIN
    centre = (low + high) / 2
    # Looked at over the shoulder of a tall neighbour: from the south-east, twenty-two degrees down.
    right, up, ahead = Pose((0.0, 0.0, 0.0), 324.0, -22.0).axes()
    corners = (
        np.array([[x, y, z] for x in (low[0], high[0]) for y in (low[1], high[1]) for z in (low[2], high[2])])
        - centre
    )
    # As far back as every corner of what most triangles lie in wants, with a margin all round.
    wide, tall = (
        OVERVIEW_MM[0] / 2.0 / FOCAL_OUTSIDE_MM / margin,
        OVERVIEW_MM[1] / 2.0 / FOCAL_OUTSIDE_MM / margin,
    )
    away = float(
        np.maximum(np.abs(corners @ right) / wide, np.abs(corners @ up) / tall).max()
        - (corners @ ahead).min()
    )
    away = max(away, 0.05)
    x, y, z = (centre - ahead * away).tolist()
    return Camera("", "Whole building", (x, y, z), 324.0, -22.0, aim_m=away, focal_mm=FOCAL_OUTSIDE_MM)


def view_of(model: Model, rays: RayScene, number: int) -> Camera:
    """A view of one object from where it can be seen: of eight directions the one least in the way of
    things."""
    points = object_points(model, number).astype(float)
    low, high = points.min(axis=0), points.max(axis=0)
    middle = (low + high) / 2
    size = max(float(np.linalg.norm(high - low)), 0.4)
    away = size * 1.3 + 1.0
    headings = np.radians(np.arange(20.0, 380.0, 45.0))
    directions = np.stack([-np.sin(headings) * 0.9, -np.cos(headings) * 0.9, np.full(8, 0.436)], axis=1)
    start = middle + directions * (size * 0.5)
    free = np.minimum(rays.cast(start, directions).distance_m + size * 0.5, away)
    best = int(np.argmax(free))
    distance = max(float(free[best]) * 0.95, size * 0.6, 0.4)
    eye = middle + directions[best] * distance
    heading, tilt, reach = direction_to(
        (float(eye[0]), float(eye[1]), float(eye[2])), (float(middle[0]), float(middle[1]), float(middle[2]))
    )
    focal = float(np.clip(36.0 * 0.75 * reach / size, 14.0, 85.0))
    place = (float(eye[0]), float(eye[1]), float(eye[2]))
    inside = rays.roofed(place)
    name = model.objects[number].name
    return Camera(
        "",
        name,
        place,
        heading,
        tilt,
        aim_m=reach,
        focal_mm=focal,
        inside=inside,
        ev=EV_INSIDE if inside else EV_OUTSIDE,
    )


def _in_the_middle(model: Model, rays: RayScene, camera: Camera) -> int:
    """The triangle in the middle of the picture, panes passed by; -1 for the sky."""
    view = camera.view()
    direction = view.rays(np.array([[view.width_px / 2, view.height_px / 2]]))
    return int(see(rays, np.asarray(camera.eye, float)[None], direction, passed_faces(model)).face[0])


def _room(model: Model, camera: Camera) -> Floats:
    """The room that the camera looks into, floor to ceiling; of the one it stands in, what lies ahead of
    it."""
    looked = model.room_at(camera.aim) or model.room_at(camera.eye)
    if looked is None:
        raise Refused("The camera neither stands in a room nor looks into one.")
    outline = np.array(looked.outline, float)
    points = np.concatenate(
        [np.column_stack([outline, np.full(len(outline), z)]) for z in (looked.floor_m, looked.ceiling_m)]
    )
    own = model.room_at(camera.eye)
    if own is looked:
        # One cannot see what is beside and behind; the far side of the room is what is fitted.
        depth = (points[:, :2] - np.asarray(camera.eye)[:2]) @ camera.pose.forward[:2]
        ahead = depth > 0.55 * depth.max()
        points = points[ahead & (depth > 0.3)]
        if len(points) < 3:
            raise Refused("Too little of the room lies ahead. Step back, or turn towards it.")
    return points


def _facade(model: Model, walls: WallRays, plane: _Plane) -> Floats:
    front = walls.corners_of(np.array([plane.face]))
    corner = front[0, 0]
    normal = -level_rays(np.array([plane.heading_deg]))[0]
    # Where the file tells what its things are, those of a front; elsewhere whatever walls may be, and is no
    # land.
    known = np.array([item.category in OUTSIDE_PARTS for item in model.objects], bool)
    land = np.array([item.category in LAND for item in model.objects], bool)
    (number,) = model.owners_of(np.array([plane.face])).tolist()
    chosen, runs = known if known[number] else ~land, runs_of(model)
    near = runs.beside(corner, normal, FACADE_DEPTH_M)
    faces = runs.triangles(near[chosen[runs.owner[near]]])
    if not known[number]:
        faces = faces[~walls.passed[faces]]
    places = model.vertices[model.faces[faces]].astype(float)
    lies_in = (np.abs((places - corner) @ normal) < FACADE_DEPTH_M).all(axis=1)
    spans = places[lies_in] if lies_in.any() else front
    # Only what hangs together with the place looked at: a shed in line with the house is another façade.
    along = spans @ crossed(normal, UP)
    low, high = along.min(axis=1), along.max(axis=1)
    order = np.argsort(low)
    reach = np.maximum.accumulate(high[order])
    run = np.concatenate([[0], np.cumsum(low[order][1:] > reach[:-1] + GAP_M)])
    here = float(corner @ crossed(normal, UP))
    holding = (low[order] <= here + 1e-6) & (high[order] >= here - 1e-6)
    mine = run == (run[holding][0] if holding.any() else run[int(np.argmin(np.abs(low[order] - here)))])
    kept: Floats = spans[order][mine].reshape(-1, 3)
    return kept
