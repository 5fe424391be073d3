"""A first camera in each room: on its floor, inside, clear of walls and things, and looking across."""

from __future__ import annotations

import math
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
import shapely
import trimesh

from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.model import Material, Model, Room
from altana.core.project import Camera
from altana.core.rooms_stood import stand_in_room
from altana.core.standing import standable, standing_trouble
from altana.jobs.models import Opened, open_model
from tests.conftest import box_between, model_of

PLASTER = Material("Plaster", (0.8, 0.8, 0.8, 1.0))
HOUSE = Path(__file__).resolve().parents[3] / "shared/models/real-house.ifc"


def test_each_room_of_the_demo_is_stood_in(demo_opened: Opened) -> None:
    model = demo_opened.model
    rays, floors = RayScene.of(model), standable(model)
    assert len(model.rooms) == 7
    for room in model.rooms:
        camera = stand_in_room(model, rays, floors, room)
        assert shapely.Polygon(room.outline).contains(shapely.Point(camera.eye[:2])), room.name
        assert camera.eye[2] == pytest.approx(room.floor_m + 1.6, abs=0.1) and camera.tilt_deg == 0.0
        assert camera.inside and camera.name.startswith(room.name)
        assert standing_trouble(rays, floors, camera) == "", room.name


def test_it_stands_in_the_corner_that_shows_most() -> None:
    """An L of two wings with a cupboard in one corner: the eye stands at the end of the long wing, not behind
    the cupboard."""
    room_model: Model = model_of(
        ("Floor", box_between((-1, -1, -0.2), (13, 9, 0)), PLASTER),
        ("South", box_between((-0.2, -0.2, 0), (12.2, 0, 3)), PLASTER),
        ("Cupboard", box_between((10.2, 0.1, 0), (11.3, 1.0, 2.2)), PLASTER),
    )
    outline = ((0.0, 0.0), (12.0, 0.0), (12.0, 3.0), (4.0, 3.0), (4.0, 8.0), (0.0, 8.0))
    room = Room("r", "L", "s", outline, 0.0, 3.0)
    model = replace(room_model, rooms=(room,))
    rays, floors = RayScene.of(model), standable(model)
    camera = stand_in_room(model, rays, floors, room)
    assert camera.eye[2] == pytest.approx(1.6)
    assert math.dist(camera.eye[:2], (11.5, 0.5)) > 1.0
    # A room with no floor under it is refused with its name.
    with pytest.raises(Refused, match="no place to stand in “L”"):
        stand_in_room(model, rays, floors, replace(room, floor_m=9.0, ceiling_m=12.0))


def air_around(rays: RayScene, camera: Camera) -> float:
    """How far the nearest thing is from the eye, to any side, metres."""
    ways = np.random.default_rng(5).normal(size=(400, 3))
    ways /= np.linalg.norm(ways, axis=1, keepdims=True)
    return float(rays.cast(np.tile(camera.eye, (len(ways), 1)), ways).distance_m.min())


def test_under_a_sloping_ceiling_the_eye_has_air_around_it() -> None:
    """From 1.4 m at the eaves to 4 m: in the corners there is no room for a head, and just beside them it
    would touch the ceiling."""
    slope = trimesh.creation.box((7.0, 5.6, 0.1))
    slope.apply_transform(trimesh.transformations.rotation_matrix(np.arctan2(2.6, 4.0), (1.0, 0.0, 0.0)))
    slope.apply_translation((3.0, 2.0, 2.76))
    model = model_of(
        ("Floor", box_between((-0.5, -0.5, -0.2), (6.5, 4.5, 0)), PLASTER), ("Roof", slope, PLASTER)
    )
    rays, floors = RayScene.of(model), standable(model)
    for low, high in ((0.0, 4.0), (0.0, 2.0)):
        outline = ((0.0, low), (6.0, low), (6.0, high), (0.0, high))
        camera = stand_in_room(model, rays, floors, Room("r", "Attic", "s", outline, 0.0, 4.0))
        assert camera.eye[2] == pytest.approx(1.6)
        assert air_around(rays, camera) > 0.2


@pytest.mark.skipif(
    not HOUSE.is_file(), reason="the real house lies beside the project on the founders' machines only"
)
def test_the_real_houses_rooms_are_stood_in() -> None:
    model = open_model(HOUSE)[0]
    rays, floors = RayScene.of(model), standable(model)
    assert len(model.rooms) >= 5
    for room in model.rooms:
        camera = stand_in_room(model, rays, floors, room)
        assert standing_trouble(rays, floors, camera) == "", room.name
        assert air_around(rays, camera) > 0.2, room.name
