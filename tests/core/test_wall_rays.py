"""Walls mean walls: whatever stands before them, a tree, a lamp, a person, a door's leaf, columns, is passed
by."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
import trimesh

from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.lens import fit_by_distance, fit_by_lens
from altana.core.model import Material, Model
from altana.core.project import Camera, Project
from altana.core.standing import standable
from altana.core.standing_tools import back_to_wall, between_walls, into_corner, square_to_wall
from altana.core.targets import facade_ahead
from altana.core.wall_rays import wall_rays
from altana.jobs.models import Opened
from tests.conftest import box_between, model_of

PLASTER = Material("Plaster", (0.8, 0.8, 0.8, 1.0))
#: A house 20 m by 12 m about the origin, and a wall standing askew by this.
ASKEW_DEG = 23.0


def turned(mesh: trimesh.Trimesh, degrees: float, at: tuple[float, float]) -> trimesh.Trimesh:
    mesh.apply_transform(trimesh.transformations.rotation_matrix(math.radians(-degrees), (0, 0, 1)))
    mesh.apply_translation((*at, 0.0))
    return mesh


def tree(at: tuple[float, float], seed: int) -> trimesh.Trimesh:
    """A trunk and a crown that reaches down to where people look."""
    crown = trimesh.creation.icosphere(2, 1.8)
    crown.vertices += np.random.default_rng(seed).normal(0.0, 0.15, crown.vertices.shape)
    crown.apply_translation((0, 0, 2.4))
    trunk = trimesh.creation.cylinder(0.22, 3.0)
    trunk.apply_translation((0, 0, 1.5))
    both = trimesh.util.concatenate([crown, trunk])
    both.apply_translation((*at, 0.0))
    return both


@pytest.fixture(scope="module")
def yard() -> Model:
    """A house with rooms inside, and what usually stands about it; nothing says by its kind what it is."""
    pole = trimesh.creation.cylinder(0.08, 5.0)
    parts = [
        ("Ground", box_between((-60, -60, -0.5), (60, 60, 0)), PLASTER),
        *((f"Side {n}", box_between(low, high), PLASTER) for n, (low, high) in enumerate((
            ((-10, -6, 0), (10, -5.7, 4)), ((-10, 5.7, 0), (10, 6, 4)), ((-10, -5.7, 0), (-9.7, 5.7, 4)), ((9.7, -5.7, 0), (10, 5.7, 4)),
        ))),
        ("Askew", turned(box_between((-8, 0, 0), (8, 0.3, 4)), ASKEW_DEG, (0, 25)), PLASTER),
        *((f"Green {n}", tree(at, n), PLASTER) for n, at in enumerate(((-3, -9), (4, -9.5), (13, 1), (-14, -2), (1, 18)))),
        *((f"Support {n}", box_between((x - 0.2, -7.6, 0), (x + 0.2, -7.2, 4)), PLASTER) for n, x in enumerate((-8, -4, 0, 4, 8))),
        ("Somebody", box_between((-0.9, -10.2, 0), (-0.4, -9.9, 1.75)), PLASTER),
        ("Standard", pole.apply_translation((2.0, -11.0, 2.5)), PLASTER),
        ("Panel", turned(box_between((0, -0.03, 0), (0.9, 0.03, 2.1)), 38.0, (-1.0, -3.0)), PLASTER),
        ("Seat", box_between((3, -2, 0), (5, -1.2, 0.9)), PLASTER),
    ]  # fmt: skip
    return model_of(*parts)


SOUTH = [(x, y, off) for x, y, off in (
    (-6, -14, 12), (-3, -13, 0), (-0.6, -13, 4), (0, -12.5, -20), (2, -14, 0), (2.0, -13, 3), (4, -13.5, 0), (4.2, -12, -8), (6, -15, 18),
    (-4, -10.5, 0), (-8, -9, 0), (8, -10, -25), (0.1, -9, 1), (-3.2, -12, 6),
)]  # fmt: skip


@pytest.mark.parametrize(("x", "y", "off"), SOUTH)
def test_before_the_front_it_is_the_front(yard: Model, x: float, y: float, off: float) -> None:
    walls = wall_rays(yard, RayScene.of(yard))
    squared = square_to_wall(Camera("", "x", (x, y, 1.6), off), walls)
    assert squared.heading_deg == pytest.approx(0.0, abs=1e-6) or squared.heading_deg == pytest.approx(
        360.0, abs=1e-6
    )


@pytest.mark.parametrize(
    ("x", "y", "heading", "expected"),
    [
        (17, 1, 268, 270), (15.5, 1.4, 280, 270), (14, -3, 262, 270), (-17, -2, 95, 90), (-16, -1, 84, 90), (-15, 3, 90, 90),
        (0, 12, 178, 180), (1, 20.5, 190, 180), (6, 11, 170, 180),
        (-1, 20.5, 20, ASKEW_DEG), (1, 15.5, 30, ASKEW_DEG), (-3, 19, 10, ASKEW_DEG),
        (0, 0, 2, 0), (-2, -4.5, 15, 0), (-1.2, -4.4, 350, 0), (6, 0, 85, 90), (-5, 2, 265, 270),
    ],
)  # fmt: skip
def test_on_every_side_and_inside_it_is_the_wall(
    yard: Model, x: float, y: float, heading: float, expected: float
) -> None:
    walls = wall_rays(yard, RayScene.of(yard))
    squared = square_to_wall(Camera("", "x", (x, y, 1.6), heading), walls)
    assert abs((squared.heading_deg - expected + 180) % 360 - 180) < 1e-3


def test_between_walls_back_to_wall_and_corners_pass_the_leaf_and_the_person(yard: Model) -> None:
    rays = RayScene.of(yard)
    walls = wall_rays(yard, rays)
    # The panel that stands open in the room is beside the eye; the walls of the room are what counts.
    camera = Camera("", "x", (-2.0, -3.3, 1.6), 0.0)
    assert between_walls(camera, walls).eye[0] == pytest.approx(0.0, abs=1e-3)
    corner = into_corner(replace(camera, heading_deg=45.0), walls)
    assert corner.eye[:2] == pytest.approx((-9.4, -5.4), abs=0.01)
    # Somebody stands behind, the front of the house further back.
    outside = Camera("", "x", (-0.65, -10.8, 1.6), 180.0)
    back = back_to_wall(outside, walls, standable(yard))
    assert back.eye[1] == pytest.approx(-6.3, abs=0.05)


def test_the_demos_fronts_are_met_past_trees_lamps_and_benches(
    demo_project: Project, demo_opened: Opened
) -> None:
    """From thirty places round the terminal and in its hall the line of sight ends square to the building."""
    model = demo_opened.model
    walls = wall_rays(model, RayScene.of(model))
    passed = {
        item.category
        for number, item in enumerate(model.objects)
        if walls.passed[item.first_face : item.first_face + 1].any()
    }
    assert {"Furniture", "Planting", "Light fixture"} <= passed and not passed & {"Wall", "Curtain wall"}
    for camera in demo_project.cameras:
        if camera.name.startswith(("Waiting", "Hall from", "Gallery", "Forecourt", "Glass")):
            for off in (-20.0, 0.0, 20.0):
                squared = square_to_wall(replace(camera, heading_deg=camera.heading_deg + off), walls)
                assert squared.heading_deg % 90.0 == pytest.approx(
                    0.0, abs=0.02
                ) or squared.heading_deg % 90.0 == pytest.approx(90.0, abs=0.02), camera.name


@pytest.mark.parametrize(
    ("x", "y", "off", "expected"),
    [(x, y, off, 0.0) for x, y, off in SOUTH if y < -11 and abs(off) < 20] + [(17, 1, 268, 270.0), (-17, -2, 95, 90.0), (0, 12, 178, 180.0)],
)  # fmt: skip
def test_fitting_a_front_takes_the_front_and_nothing_before_it(
    yard: Model, x: float, y: float, off: float, expected: float
) -> None:
    front = facade_ahead(yard, wall_rays(yard, RayScene.of(yard)), Camera("", "x", (x, y, 1.6), off))
    assert abs((front.heading_deg - expected + 180) % 360 - 180) < 1e-3
    low, high = front.points.min(axis=0), front.points.max(axis=0)
    assert high[2] == pytest.approx(4.0, abs=1e-3) and low[2] == pytest.approx(0.0, abs=1e-3)
    wide = high[:2] - low[:2]
    assert wide.max() == pytest.approx(20.0 if expected % 180 == 0 else 12.0, abs=0.7)
    square = fit_by_lens(Camera("", "x", (x, y, 1.6), off), front.points, square_deg=front.heading_deg)
    assert square.heading_deg == pytest.approx(front.heading_deg) and square.tilt_deg == 0.0
    pixels = square.view().project(front.points)
    middle = (pixels.min(axis=0) + pixels.max(axis=0)) / 2
    assert middle[:2] == pytest.approx((960.0, 540.0), abs=1.0)


def test_squared_by_distance_it_is_looked_at_from_its_middle_line(yard: Model) -> None:
    camera = Camera("", "x", (-6.0, -14.0, 1.6), 12.0)
    front = facade_ahead(yard, wall_rays(yard, RayScene.of(yard)), camera)
    fit_camera = fit_by_distance(camera, front.points, square_deg=front.heading_deg)
    assert fit_camera.eye[0] == pytest.approx(0.0, abs=0.02) and fit_camera.eye[2] == 1.6
    assert (fit_camera.cross_mm, fit_camera.focal_mm) == (pytest.approx(0.0, abs=1e-6), camera.focal_mm)
    aside = replace(camera, eye=(-40.0, -14.0, 1.6), heading_deg=60.0)
    with pytest.raises(Refused, match="beside the line of sight"):
        fit_by_lens(aside, front.points, square_deg=front.heading_deg)
