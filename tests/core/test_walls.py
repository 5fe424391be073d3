"""Wall cuts on picked walls, near bounds past what stands ahead, and going back through a wall."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
import trimesh

from altana.core.back_through import back_through_wall
from altana.core.checks.cut_faces import bodies_of, opened_objects
from altana.core.edits.bounds import with_near
from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.model import GLASS, Material, Model
from altana.core.moving import step
from altana.core.past import bound_as_wall_cut, candidates, just_clear
from altana.core.project import Camera, Project
from altana.core.standing import stance, standable, standing_trouble
from altana.core.walls import pick_wall
from altana.jobs.looking import check_camera
from altana.jobs.models import Opened
from tests.conftest import box_between, model_of

PLASTER = Material("Plaster", (0.8, 0.8, 0.8, 1.0))
PANE = Material("Glass", (1, 1, 1, 0.2), kind=GLASS)


def house_with(*more: tuple[str, trimesh.Trimesh, Material]) -> Model:
    """A room of 6 x 4 x 3 m with a lined south wall, a cupboard against it, and a lamp outside."""
    model = model_of(
        ("Floor", box_between((-0.2, -0.2, -0.3), (6.2, 4.2, 0.0)), PLASTER),
        ("Ceiling", box_between((-0.2, -0.2, 3.0), (6.2, 4.2, 3.2)), PLASTER),
        ("West", box_between((-0.2, -0.2, 0.0), (0.0, 4.2, 3.0)), PLASTER),
        ("East", box_between((6.0, -0.2, 0.0), (6.2, 4.2, 3.0)), PLASTER),
        ("South", box_between((0.0, -0.2, 0.0), (6.0, 0.0, 3.0)), PLASTER),
        ("South lining", box_between((0.0, 0.0, 0.0), (6.0, 0.02, 3.0)), PLASTER),
        ("North", box_between((0.0, 4.0, 0.0), (6.0, 4.2, 3.0)), PLASTER),
        ("Cupboard", box_between((0.3, 0.02, 0.0), (1.3, 0.42, 1.9)), PLASTER),
        ("Lamp post", box_between((2.9, -3.1, -0.3), (3.1, -2.9, 4.0)), PLASTER),
        ("Ground", box_between((-30, -30, -0.6), (30, -0.2, -0.3)), PLASTER),
        *more,
    )
    kinds = {
        "Cupboard": "Furniture",
        "Screen": "Glazing",
        "Lamp post": "Light fixture",
        "Ground": "Terrain",
        "Floor": "Floor",
    }
    kinds |= {"Ceiling": "Covering"}
    objects = tuple(replace(item, category=kinds.get(item.name, "Wall")) for item in model.objects)
    return replace(model, objects=objects)


@pytest.fixture(scope="module")
def house() -> Model:
    return house_with()


@pytest.fixture(scope="module")
def screened() -> Model:
    """The same with a glass screen across the room."""
    return house_with(("Screen", box_between((1.0, 1.0, 0.0), (5.0, 1.04, 2.2)), PANE))


@pytest.fixture(scope="module")
def rays(house: Model) -> RayScene:
    return RayScene(house.vertices, house.faces)


def names(model: Model, camera: Camera) -> set[str]:
    return {model.objects[number].name for number in opened_objects(model, bodies_of(model), camera.view())}


OUTSIDE = Camera("", "x", (3.4, -4.0, 1.5), 12.0, focal_mm=24.0, aim_m=7.0)


def test_a_picked_wall_is_cut_along_its_inner_face(house: Model, rays: RayScene) -> None:
    cut = pick_wall(house, rays, OUTSIDE.eye, (3.4, -0.2, 1.5))
    assert cut.heading_deg == 0.0
    # The lining is part of the wall: the cut lies a hair behind its face.
    assert cut.at_m == pytest.approx(0.025, abs=1e-4)
    low, high = cut.corners().min(axis=0), cut.corners().max(axis=0)
    assert (low[0], high[0]) == (pytest.approx(0.0, abs=0.01), pytest.approx(6.0, abs=0.01))
    assert (low[2], high[2]) == (pytest.approx(0.0, abs=0.01), pytest.approx(3.0, abs=0.01))
    assert 0.2 < cut.depth_m < 0.6
    camera = replace(OUTSIDE, wall_cuts=(cut,))
    # What is carried away is no limit for a cut, and is opened where it stands in it; here it touches the
    # lining only.
    assert names(house, camera) <= {"Cupboard"}


def test_an_angled_bound_opens_more_than_a_wall_cut(house: Model, rays: RayScene) -> None:
    angled = replace(OUTSIDE, eye=(8.0, -4.0, 1.5), heading_deg=320.0)
    for away in (4.6, 5.4, 6.0):
        assert len(names(house, with_near(angled, away))) >= 2
    cut = pick_wall(house, rays, angled.eye, (3.6, -0.2, 1.5))
    assert not names(house, replace(angled, wall_cuts=(cut,))) - {"Cupboard"}


def test_picking_needs_a_wall(house: Model, rays: RayScene) -> None:
    with pytest.raises(Refused, match="no wall here"):
        pick_wall(house, rays, (3.0, -8.0, 1.5), (3.0, -9.0, 1.5))
    with pytest.raises(Refused, match="not the eye"):
        pick_wall(house, rays, OUTSIDE.eye, OUTSIDE.eye)


def test_candidates_name_what_stands_ahead_and_what_they_open(screened: Model) -> None:
    house, rays = screened, RayScene(screened.vertices, screened.faces)
    camera = replace(OUTSIDE, eye=(3.0, -4.0, 1.5), heading_deg=0.0)
    ways = candidates(house, rays, bodies_of(house), camera)
    assert [item.name for item in ways] == ["Lamp post", "South", "Screen"]
    assert ways[0].near_m == pytest.approx(1.105, abs=1e-3)
    # The wall and its lining lie against each other and count as one.
    assert ways[1].near_m == pytest.approx(4.025, abs=1e-3)
    assert ways[2].near_m == pytest.approx(5.045, abs=1e-3)
    assert {"Floor", "Ceiling"} <= {name for _, name in ways[1].opened}
    narrow = candidates(house, rays, bodies_of(house), replace(camera, focal_mm=120.0))
    assert narrow[2].opened == ()


def test_just_clear_moves_the_bound_as_little_as_needed(house: Model, rays: RayScene) -> None:
    bodies = bodies_of(house)
    camera = with_near(replace(OUTSIDE, eye=(3.0, -4.0, 1.5), heading_deg=0.0, focal_mm=120.0), 3.9)
    assert names(house, camera) == {"South"}
    moved = just_clear(house, rays, bodies, camera)
    # Past the wall that it is there to hide, never before it, though that is as near.
    assert moved.near == pytest.approx(4.025, abs=1e-3)
    assert names(house, moved) == set()
    with pytest.raises(Refused, match="no near bound"):
        just_clear(house, rays, bodies, with_near(camera, None))


def test_just_clear_comes_back_where_nothing_comes_back_into_the_picture(
    house: Model, rays: RayScene
) -> None:
    # The lamp post stands at the picture's edge, and hardly anything of it before the bound: less far back
    # than on.
    aside = replace(OUTSIDE, eye=(1.805, -4.0, 1.5), heading_deg=0.0, focal_mm=15.0, width_px=2160)
    camera = with_near(aside, 0.92)
    assert names(house, camera) == {"Lamp post"}
    assert just_clear(house, rays, bodies_of(house), camera).near == pytest.approx(0.895, abs=1e-3)
    # In the middle of the picture it is what the bound is there to hide.
    before = with_near(replace(aside, eye=(3.0, -4.0, 1.5)), 0.92)
    assert just_clear(house, rays, bodies_of(house), before).near == pytest.approx(1.105, abs=1e-3)


def test_an_oblique_wall_is_passed_by_a_wall_cut(house: Model, rays: RayScene) -> None:
    bodies = bodies_of(house)
    square = candidates(house, rays, bodies, replace(OUTSIDE, eye=(4.5, -4.0, 1.5), heading_deg=0.0))
    assert [item.cut for item in square] == [None] * len(square)
    angled = replace(OUTSIDE, eye=(8.0, -4.0, 1.5), heading_deg=320.0)
    wall = next(item for item in candidates(house, rays, bodies, angled) if item.name.startswith("South"))
    assert wall.by_cut and wall.cut is not None
    assert wall.cut.heading_deg == 0.0 and wall.cut.at_m == pytest.approx(0.025, abs=1e-3)
    assert {name for _, name in wall.cut_opened} <= {"Cupboard"} and len(wall.opened) > len(wall.cut_opened)


def test_all_of_the_far_wall_is_floor_to_ceiling(house: Model, rays: RayScene) -> None:
    tall = replace(INSIDE, width_px=1080, height_px=1080, eye=(3.0, 1.5, 1.5))
    wide = replace(INSIDE, width_px=2160, height_px=600, eye=(3.0, 1.5, 1.5))
    for camera in (tall, wide):
        back = back_through_wall(house, rays, camera)
        assert back.out == ()
        corners = np.array([[x, 4.0, z] for x in (0.0, 6.0) for z in (0.0, 3.0)])
        pixels = back.camera.view().project(corners)[:, :2]
        assert pixels.min() > -0.6
        assert (pixels <= np.array([camera.width_px, camera.height_px]) + 0.6).all()
    # 3 m of height about the eye at 35 mm on a sensor 10 mm high, and of the width only so much as is wanted.
    by_height = back_through_wall(house, rays, wide, whole="height").camera
    assert by_height.eye[1] == pytest.approx(4.0 - 3.0 * 35.0 / 10.0, abs=1e-3)
    by_width = back_through_wall(house, rays, wide, whole="width").camera
    assert by_width.eye[1] == pytest.approx(4.0 - 6.0 * 35.0 / 36.0, abs=1e-3)


def test_what_no_way_back_brings_in_is_said_with_what_was_reached(house: Model, rays: RayScene) -> None:
    # The lens is raised so far that the lower edge looks up: the floor never comes.
    back = back_through_wall(house, rays, replace(INSIDE, rise_mm=14.0))
    assert back.out == ("floor",)
    assert "The far wall's floor stays out of the picture" in back.sentence
    assert "behind the inner face" in back.sentence
    edges = back.camera.view().project(np.array([[0.0, 4.0, 1.6], [6.0, 4.0, 1.6]]))
    assert edges[:, 0] == pytest.approx([0.0, 1920.0], abs=0.6)


def test_a_bound_never_changes_the_height_that_is_told(house: Model, rays: RayScene) -> None:
    floors = standable(house)
    # The ground outside lies 0.3 m below the floor inside.
    for camera in (replace(OUTSIDE, eye=(3.4, -4.0, 1.3)), replace(INSIDE, inside=True)):
        before = stance(rays, floors, camera).floor_m
        for near in (0.5, 1.0, 4.1, 5.0):
            assert stance(rays, floors, with_near(camera, near)).floor_m == before
    assert stance(rays, floors, replace(OUTSIDE, eye=(3.4, -4.0, 1.3))).floor_m == pytest.approx(
        -0.3, abs=1e-4
    )
    # Gone back through the wall the camera is still one of the room, and its height is told above the room's
    # floor.
    gone = back_through_wall(house, rays, replace(INSIDE, inside=True)).camera
    assert gone.eye[1] < 0.0 and stance(rays, floors, gone).floor_m == pytest.approx(0.0, abs=1e-4)


def test_a_bound_becomes_a_wall_cut(house: Model, rays: RayScene) -> None:
    camera = with_near(replace(OUTSIDE, heading_deg=15.0), 4.2)
    cut_camera = bound_as_wall_cut(house, rays, camera)
    assert cut_camera.near is None
    assert [cut.name for cut in cut_camera.wall_cuts] in (["South"], ["South lining"])
    assert cut_camera.wall_cuts[0].at_m == pytest.approx(0.025, abs=1e-4)
    with pytest.raises(Refused, match="No wall stands"):
        bound_as_wall_cut(house, rays, with_near(OUTSIDE, 0.5))


INSIDE = Camera("", "x", (3.0, 1.5, 1.6), 0.0, focal_mm=35.0, aim_m=2.5)


def test_back_through_the_wall_until_the_far_wall_fits(house: Model, rays: RayScene) -> None:
    back = back_through_wall(house, rays, INSIDE)
    camera = back.camera
    # 6 m of wall at 35 mm on 36 mm take 5.8333 m; the far wall stands at y = 4.
    assert camera.eye == pytest.approx((3.0, 4.0 - 6.0 * 35.0 / 36.0, 1.6), abs=1e-3)
    assert back.outside_m == pytest.approx(6.0 * 35.0 / 36.0 - 4.0 + 0.02, abs=1e-3)
    edges = camera.view().project(np.array([[0.0, 4.0, 1.6], [6.0, 4.0, 1.6]]))
    assert edges[:, 0] == pytest.approx([0.0, 1920.0], abs=0.6)
    # The bound lies on the lining's face, a hair into the room, or past the cupboard that stands against it.
    assert camera.near_at is not None
    on_face = camera.eye[1] + (camera.near or 0.0)
    assert on_face == pytest.approx(0.025, abs=1e-3) or on_face == pytest.approx(0.425, abs=1e-3)
    assert names(house, camera) == set()
    # It stays on its wall while the eye goes on moving.
    assert step(camera, -1.0).near == pytest.approx((camera.near or 0.0) + 1.0)
    assert "behind the inner face" in back.sentence


def test_a_glass_screen_behind_is_passed_as_well(screened: Model) -> None:
    back = back_through_wall(screened, RayScene(screened.vertices, screened.faces), INSIDE)
    assert back.wall == "Screen"
    assert back.camera.eye[1] + (back.camera.near or 0.0) == pytest.approx(1.045, abs=1e-3)


def test_a_wanted_width_that_fits_inside_needs_no_bound(house: Model, rays: RayScene) -> None:
    back = back_through_wall(house, rays, INSIDE, 3.0)
    assert back.camera.eye[1] == pytest.approx(4.0 - 3.0 * 35.0 / 36.0, abs=1e-3)
    assert (back.outside_m, back.camera.near) == (0.0, None)
    assert "still inside" in back.sentence
    again = back_through_wall(house, rays, back.camera, 2.0)
    assert again.camera == back.camera
    assert "fits already" in again.sentence
    with pytest.raises(Refused, match=r"6\.00 m wide"):
        back_through_wall(house, rays, INSIDE, 7.0)


def test_an_angled_camera_goes_back_behind_a_wall_cut(house: Model, rays: RayScene) -> None:
    back = back_through_wall(house, rays, replace(INSIDE, heading_deg=15.0))
    camera = back.camera
    assert camera.near is None
    assert len(camera.wall_cuts) == 1
    cut = camera.wall_cuts[0]
    assert cut.heading_deg == 0.0
    assert cut.at_m in (pytest.approx(0.025, abs=1e-3), pytest.approx(0.425, abs=1e-3))
    pixels = camera.view().project(np.array([[0.0, 4.0, 1.6], [6.0, 4.0, 1.6]]))[:, 0]
    assert pixels.min() > -1.0
    assert pixels.max() < 1921.0
    assert min(abs(pixels.min()), abs(1920 - pixels.max())) < 1.0


def test_a_shifted_and_a_tilted_camera_fit_the_wall_as_well(house: Model, rays: RayScene) -> None:
    shifted = back_through_wall(house, rays, replace(INSIDE, cross_mm=5.0)).camera
    pixels = shifted.view().project(np.array([[0.0, 4.0, 1.6], [6.0, 4.0, 1.6]]))[:, 0]
    assert pixels.min() == pytest.approx(0.0, abs=0.6)
    assert pixels.max() < 1921.0
    tilted = back_through_wall(house, rays, replace(INSIDE, tilt_deg=8.0), whole="width").camera
    pixels = tilted.view().project(np.array([[0.0, 4.0, 1.6], [6.0, 4.0, 1.6]]))[:, 0]
    assert pixels.max() < 1921.0
    # The bound is a plane across the tilted line of sight; over the whole frame it clears the wall.
    _, _, bottom, top = tilted.view().edges()
    _, up, forward = tilted.pose.axes()
    for edge in (bottom, top):
        place = np.asarray(tilted.eye) + (forward + up * edge) * tilted.near
        assert place[1] >= 0.02


def test_going_back_again_goes_by_the_room_and_not_by_the_wall_it_stands_behind(
    house: Model, rays: RayScene
) -> None:
    outside = back_through_wall(house, rays, INSIDE).camera
    again = back_through_wall(house, rays, outside)
    assert again.back_m == pytest.approx(0.0, abs=1e-3)
    longer = back_through_wall(house, rays, replace(outside, focal_mm=50.0))
    assert longer.camera.eye[1] == pytest.approx(4.0 - 6.0 * 50.0 / 36.0, abs=2e-2)
    assert longer.camera.eye[1] + (longer.camera.near or 0.0) == pytest.approx(
        outside.eye[1] + (outside.near or 0.0), abs=1e-3
    )


def test_there_must_be_a_wall_ahead(house: Model, rays: RayScene) -> None:
    with pytest.raises(Refused, match="no wall ahead"):
        back_through_wall(house, rays, replace(INSIDE, eye=(3.0, -6.0, 1.6), heading_deg=180.0))


# ---------------------------------------------------------------------- the demo

OFFICE = Camera("", "Office", (1.1, 10.8, 1.6), 270.0, focal_mm=35.0, aim_m=1.05, inside=True)
FRONT = Camera("", "Front", (16.0, 27.0, 1.5), 215.0, focal_mm=24.0, aim_m=20.0)


@pytest.mark.slow
@pytest.mark.parametrize(
    ("heading", "focal"), [(270.0, 24.0), (270.0, 35.0), (90.0, 24.0), (180.0, 85.0), (282.0, 28.0)]
)
def test_the_ticket_office_from_behind_its_walls_shows_no_cut_faces(
    demo_opened: Opened, heading: float, focal: float
) -> None:
    model = demo_opened.model
    rays = RayScene(model.vertices, model.faces)
    back = back_through_wall(model, rays, replace(OFFICE, heading_deg=heading, focal_mm=focal))
    assert back.outside_m > 0.0
    assert back.camera.eye[2] == 1.6
    checks = check_camera(model, Project(), back.camera)
    assert checks.cut.share == 0.0
    assert checks.cut.opened == ()
    # It stands in a wall or outside, and yet its picture is one of the room: nothing is wrong with its place.
    assert standing_trouble(rays, standable(model), back.camera) == ""


def test_through_the_glass_front_at_an_angle(demo_opened: Opened) -> None:
    model = demo_opened.model
    rays, bodies = RayScene(model.vertices, model.faces), bodies_of(model)
    ahead = candidates(model, rays, bodies, FRONT)
    glass = next(item for item in ahead if "Glass front" in item.name)
    assert len(glass.opened) >= 2
    checks = check_camera(model, Project(), with_near(FRONT, glass.near_m))
    assert len(checks.cut.opened) >= 2
    assert checks.cut.share > 0.01
    hit = rays.cast(np.array([FRONT.eye]), FRONT.pose.forward[None])
    place = np.asarray(FRONT.eye) + FRONT.pose.forward * float(hit.distance_m[0])
    cut = pick_wall(model, rays, FRONT.eye, tuple(place.tolist()))
    through = check_camera(model, Project(), replace(FRONT, wall_cuts=(cut,)))
    assert through.cut.opened == ()
    assert through.cut.share == 0.0
    # It did something: the hall's floor and ceiling now take more of the picture than behind the glass frame.
    assert (
        through.composition.floor + through.composition.ceiling
        > check_camera(model, Project(), FRONT).composition.ceiling
    )
