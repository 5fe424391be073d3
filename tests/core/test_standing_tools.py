"""Square to walls, between them, in corners; what an eye stands on; rooms found and named."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
import trimesh
from hypothesis import given, settings
from hypothesis import strategies as st

from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.geometry.rooms import found_rooms
from altana.core.model import Material, Model
from altana.core.project import Camera
from altana.core.standing import (
    ceiling_over,
    clearances,
    footing,
    mid_height,
    named_for_place,
    on_floor,
    standable,
)
from altana.core.standing_tools import (
    HAIR_M,
    back_to_wall,
    between_walls,
    into_corner,
    middle_of_room,
    square_to_wall,
)
from altana.core.wall_headings import roundest, wall_heading, wall_headings
from altana.demo.larkwater import LANDING_M
from altana.demo.site import GALLERY_M, LOOKOUT_M, QUAY_M
from altana.jobs.models import Opened, open_model
from tests.conftest import box_between, model_of

PLASTER = Material("Plaster", (0.8, 0.8, 0.8, 1.0))


def turned_room(degrees: float, at: tuple[float, float] = (0.0, 0.0)) -> Model:
    """The room of 6 x 4 m turned clockwise by degrees about its own corner and put somewhere."""
    turn = (
        trimesh.transformations.rotation_matrix(math.radians(-degrees), (0, 0, 1)) if degrees else np.eye(4)
    )
    move = trimesh.transformations.translation_matrix((*at, 0))
    parts = []
    for name, low, high in (
        ("Floor", (-0.2, -0.2, -0.3), (6.2, 4.2, 0.0)),
        ("Ceiling", (-0.2, -0.2, 3.0), (6.2, 4.2, 3.2)),
        ("West", (-0.2, -0.2, 0.0), (0.0, 4.2, 3.0)),
        ("East", (6.0, -0.2, 0.0), (6.2, 4.2, 3.0)),
        ("South", (0.0, -0.2, 0.0), (6.0, 0.0, 3.0)),
        ("North", (0.0, 4.0, 0.0), (6.0, 4.2, 3.0)),
    ):
        mesh = box_between(low, high)
        mesh.apply_transform(move @ turn)
        parts.append((name, mesh, PLASTER))
    return model_of(*parts)


def placed(
    degrees: float, x: float, y: float, at: tuple[float, float] = (0.0, 0.0)
) -> tuple[float, float, float]:
    turn = math.radians(degrees)
    return (
        at[0] + x * math.cos(turn) + y * math.sin(turn),
        at[1] - x * math.sin(turn) + y * math.cos(turn),
        1.6,
    )


@pytest.mark.parametrize("degrees", [0.0, 17.3, 45.0, 123.456])
@pytest.mark.parametrize("at", [(0.0, 0.0), (40.0, -25.0)], ids=["near", "away"])
def test_square_to_a_turned_wall_is_exact(degrees: float, at: tuple[float, float]) -> None:
    model = turned_room(degrees, at)
    rays = RayScene(model.vertices, model.faces)
    for off in (-20.0, 3.0, 31.0):
        camera = Camera("", "x", placed(degrees, 3.0, 1.0, at), (degrees + off) % 360, 4.0, 1.0)
        squared = square_to_wall(camera, rays)
        assert squared.heading_deg == pytest.approx(degrees % 360, abs=1e-6)
        assert (squared.tilt_deg, squared.roll_deg, squared.eye) == (0.0, 0.0, camera.eye)


def test_the_roundest_angle_within_what_is_known() -> None:
    angles = roundest(
        np.array([89.99998, 17.300004, 17.300004, 359.99999]), np.array([5e-5, 1e-5, 1e-7, 1e-4])
    )
    assert angles.tolist() == [90.0, 17.3, pytest.approx(17.300004), 0.0]


def test_what_is_no_wall_has_no_heading() -> None:
    model = turned_room(30.0, (0.0, 0.0))
    rays = RayScene(model.vertices, model.faces)
    faces = np.arange(-1, len(model.faces))
    headings = wall_headings(rays, faces)
    upright = [face >= 0 and abs(rays.face_normal(face)[2]) < 0.03 for face in faces.tolist()]
    assert np.isfinite(headings).tolist() == upright and 0 < sum(upright) < len(faces) - 1
    assert set(headings[upright].tolist()) <= {30.0, 120.0, 210.0, 300.0}
    assert [wall_heading(rays, face) for face in faces.tolist()] == [
        None if math.isnan(heading) else heading for heading in headings.tolist()
    ]


def test_square_needs_a_wall() -> None:
    ground = model_of(("Ground", box_between((-50, -50, -1), (50, 50, 0)), PLASTER))
    with pytest.raises(Refused, match="no wall"):
        square_to_wall(Camera("", "x", (0.0, 0.0, 1.6)), RayScene(ground.vertices, ground.faces))


@settings(max_examples=40)
@given(st.floats(0.4, 5.6), st.floats(0.4, 3.6), st.floats(-35, 35))
def test_between_walls_and_middle_of_the_room(x: float, y: float, off: float) -> None:
    model = turned_room(0.0)
    rays = RayScene(model.vertices, model.faces)
    stood = between_walls(Camera("", "x", (x, y, 1.6), off), rays)
    _, right, _, left = clearances(rays, stood.eye, stood.heading_deg)
    assert abs(right - left) < 1e-3
    assert stood.eye[2] == 1.6
    centre = middle_of_room(Camera("", "x", (x, y, 1.6), 90.0), rays)
    assert centre.eye == pytest.approx((3.0, 2.0, 1.6), abs=1e-3)


def test_corner_and_back_to_wall() -> None:
    model = turned_room(17.3)
    rays = RayScene(model.vertices, model.faces)
    camera = Camera("", "x", placed(17.3, 2.2, 1.4), 17.3 + 40.0)
    stood = into_corner(camera, rays)
    assert stood.eye == pytest.approx(placed(17.3, HAIR_M, HAIR_M), abs=1e-3)
    assert stood.heading_deg == pytest.approx(17.3 + 45.0, abs=1e-6)
    backed = back_to_wall(replace(camera, heading_deg=17.3), rays, rays)
    assert backed.eye == pytest.approx(placed(17.3, 2.2, HAIR_M), abs=1e-3)
    assert backed.aim == pytest.approx(replace(camera, heading_deg=17.3).aim, abs=1e-3)
    open_side = model_of(
        ("Floor", box_between((-5, -5, -1), (5, 5, 0)), PLASTER),
        ("Wall", box_between((-5, 4, 0), (5, 5, 3)), PLASTER),
    )
    scene = RayScene(open_side.vertices, open_side.faces)
    with pytest.raises(Refused, match="no middle"):
        between_walls(Camera("", "x", (0.0, 0.0, 1.6)), scene)
    out = back_to_wall(Camera("", "x", (0.0, 0.0, 1.6)), scene, scene)
    # Outdoors: to the edge of the ground.
    assert -4.75 < out.eye[1] < -4.4


def test_heights_and_footing(room: Model) -> None:
    rays = RayScene(room.vertices, room.faces)
    assert ceiling_over(rays, (3.0, 2.0, 1.6)) == pytest.approx(3.0, abs=1e-5)
    assert mid_height(rays, rays, (3.0, 2.0, 0.4)) == pytest.approx(1.5, abs=1e-5)
    assert footing(rays, rays, (3.0, 2.0, 1.6)).trouble == ""
    assert "inside something solid" in footing(rays, rays, (6.1, 2.0, 1.6)).trouble
    # Beside it one stands as if its floor went on; far off there is none.
    assert footing(rays, rays, (20.0, 2.0, 1.6)).floor_m == pytest.approx(0.0, abs=1e-6)
    assert "no floor" in footing(rays, rays, (400.0, 2.0, 1.6)).trouble
    assert "below ground" in footing(rays, rays, (3.0, 2.0, -2.0)).trouble
    with pytest.raises(Refused, match="no ceiling"):
        mid_height(rays, rays, (3.0, 2.0, 8.0))


def test_walking_goes_up_the_stair_and_over_no_edge(demo_opened: Opened) -> None:
    floors = standable(demo_opened.model)
    camera = Camera("", "x", (3.0, 5.6, 1.6), 180.0)
    heights = []
    for _ in range(34):
        x, y, _ = camera.eye
        camera = on_floor(camera, replace(camera, eye=(x, y - 0.1, camera.eye[2])), floors)
        heights.append(camera.eye[2])
    assert heights[-1] == pytest.approx(LANDING_M + 1.6, abs=1e-3)
    assert heights == sorted(heights)
    edge = Camera("", "x", (4.0, 12.0, GALLERY_M + 1.6))
    over = on_floor(edge, replace(edge, eye=(6.0, 12.0, GALLERY_M + 1.6)), floors)
    assert over.eye[2] == GALLERY_M + 1.6


#: Checked by hand against the description of the terminal: place, whether it is inside, and its room.
FORTY: tuple[tuple[tuple[float, float, float], bool, str | None], ...] = (
    ((7.0, 1.3, 1.6), True, "Waiting hall"),
    ((13.2, 16.6, 1.6), True, "Waiting hall"),
    ((7.0, 9.0, 1.2), True, "Waiting hall"),
    ((12.5, 2.0, 1.6), True, "Waiting hall"),
    ((5.5, 15.0, 1.6), True, "Waiting hall"),
    ((10.0, 12.0, 1.0), True, "Waiting hall"),
    ((3.0, 4.6, 1.6), True, "Waiting hall"),
    ((1.3, 2.1, LANDING_M + 1.6), True, "Waiting hall"),
    ((3.2, 15.0, 1.6), True, "Waiting hall"),
    ((9.0, 5.0, 5.0), True, "Waiting hall"),
    ((0.75, 9.3, 1.6), True, "Ticket office"),
    ((1.8, 12.2, 1.6), True, "Ticket office"),
    ((1.1, 10.8, 1.2), True, "Ticket office"),
    ((0.4, 11.5, 2.0), True, "Ticket office"),
    ((1.1, 16.9, GALLERY_M + 1.2), True, "Café gallery"),
    ((3.6, 10.6, GALLERY_M + 1.6), True, "Café gallery"),
    ((2.0, 7.4, GALLERY_M + 1.6), True, "Café gallery"),
    ((4.2, 17.2, GALLERY_M + 1.6), True, "Café gallery"),
    ((0.8, 13.0, GALLERY_M + 1.0), True, "Café gallery"),
    ((15.0, 3.0, 1.6), True, "Luggage room"),
    ((19.0, 6.0, 1.6), True, "Luggage room"),
    ((17.0, 4.5, 1.2), True, "Luggage room"),
    ((15.0, 11.0, 1.6), True, "Staff room"),
    ((19.0, 8.0, 1.6), True, "Staff room"),
    ((17.0, 9.0, 1.0), True, "Staff room"),
    ((-8.2, 7.8, 1.6), True, "Tower stair"),
    ((-5.0, 11.2, 1.6), True, "Tower stair"),
    ((-8.4, 7.4, LOOKOUT_M + 1.6), True, "Lookout"),
    ((-4.4, 11.6, LOOKOUT_M + 1.6), True, "Lookout"),
    ((12.0, -21.0, QUAY_M + 1.6), False, None),
    ((1.2, -10.5, QUAY_M + 1.6), False, None),
    ((-12.5, 24.8, QUAY_M + 1.6), False, None),
    ((26.0, 26.0, QUAY_M + 1.6), False, None),
    ((26.0, 8.0, 1.6), False, None),
    ((-15.0, 2.0, 1.6), False, None),
    ((7.0, -6.0, QUAY_M + 1.6), False, None),
    ((-2.0, 6.0, 1.6), False, None),
    ((7.0, 21.5, QUAY_M + 1.6), False, None),
    ((0.0, -18.0, 8.0), False, None),
    ((30.0, -30.0, 1.6), False, None),
)


def test_forty_places_inside_and_outside(demo_opened: Opened) -> None:
    model = demo_opened.model
    rays = RayScene(model.vertices, model.faces)
    assert len(FORTY) == 40
    wrong = []
    for place, inside, room in FORTY:
        room_there = model.room_at(place)
        if rays.roofed(place) != inside or (room_there.name if room_there else None) != room:
            wrong.append((place, rays.roofed(place), room_there.name if room_there else None))
    assert wrong == []


def test_forty_places_without_spaces(demo_opened: Opened) -> None:
    """The same building without its spaces: rooms are found, and every place in one lies in the right one."""
    model = replace(demo_opened.model, rooms=())
    rays = RayScene(model.vertices, model.faces)
    bare = replace(model, rooms=found_rooms(model))
    belongs: dict[str, set[str]] = {}
    for place, inside, room in FORTY:
        assert rays.roofed(place) == inside
        room_there = bare.room_at(place)
        assert (room_there is not None) == (room is not None), place
        if room_there is not None and room is not None:
            belongs.setdefault(room_there.name, set()).add(room)
    # The gallery stands open to the hall, so both are one found room there; all others are told apart.
    shared = [rooms for rooms in belongs.values() if len(rooms) > 1]
    assert all(rooms <= {"Waiting hall", "Café gallery"} for rooms in shared)
    assert {"Ticket office"} in belongs.values()
    assert {"Staff room"} in belongs.values()
    named = named_for_place(Camera("", "", (1.1, 10.8, 1.2), 92.0, inside=True), bare)
    assert named.name.endswith(", east")


def test_rooms_are_found_in_a_file_that_names_none(demo_files, room: Model, tmp_path) -> None:  # type: ignore[no-untyped-def]
    scene = trimesh.Scene()
    for item in room.objects:
        faces = room.faces[item.first_face : item.first_face + item.face_count]
        scene.add_geometry(trimesh.Trimesh(room.vertices, faces, process=True), node_name=item.name)
    scene.apply_transform(np.array([[1.0, 0, 0, 0], [0, 0, 1, 0], [0, -1, 0, 0], [0, 0, 0, 1]]))
    scene.export(tmp_path / "room.glb")
    model, _, _ = open_model(tmp_path / "room.glb")
    assert len(model.rooms) == 1
    assert model.rooms[0].name == "Room 1, 24 m²"
    assert any("rooms" in problem.sentence for problem in model.problems)
    assert model.room_at((3.0, 2.0, 1.6)) is model.rooms[0]
    assert model.room_at((7.0, 2.0, 1.6)) is None
