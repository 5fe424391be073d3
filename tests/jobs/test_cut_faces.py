"""Which objects a near bound opens, and how much of the frame shows their insides, where the answer is known."""

from __future__ import annotations

from dataclasses import replace

import pytest
import trimesh

from altana.core.checks.cut_faces import cut_faces, opened_objects
from altana.core.geometry.rays import RayScene
from altana.core.model import GLASS, Material, Model
from altana.core.project import Camera, LeftOut, Project
from altana.jobs.looking import check_camera
from altana.jobs.models import Opened
from tests.conftest import box_between, model_of

PLASTER = Material("Plaster", (0.8, 0.8, 0.8, 1.0))
CAMERA = Camera("", "x", (0.0, 0.0, 1.5), 0.0, focal_mm=24.0)


def share(model: Model, camera: Camera, omitted: tuple[int, ...] = ()) -> float:
    return cut_faces(model, RayScene(model.vertices, model.faces), camera.view(), 320, omitted).share


def block(*more: tuple[str, trimesh.Trimesh, Material]) -> Model:
    """A block from 3 to 5 m ahead, 1 m wide and 2 m high, before a far wall."""
    return model_of(
        ("Block", box_between((-0.5, 3, 0.5), (0.5, 5, 2.5)), PLASTER), ("Wall", box_between((-20, 9, -10), (20, 10, 20)), PLASTER), *more
    )


@pytest.mark.parametrize("near", [3.2, 4.0, 4.9])
def test_the_inside_of_a_block_has_the_size_of_its_cut(near: float) -> None:
    """Through the cut one sees the block's inside, whatever lies behind: a rectangle of 1 by 2 m at the bound's distance."""
    model = block()
    camera = replace(CAMERA, near_m=near)
    wide, high = camera.view().sensor_mm
    expected = (1.0 * 24.0 / near / wide) * (2.0 * 24.0 / near / high)
    assert share(model, camera) == pytest.approx(expected, abs=0.002)
    assert opened_objects(model, camera.view()) == (0,)


def test_before_and_behind_the_block_nothing_is_opened() -> None:
    for near in (None, 1.0, 2.9, 5.1, 8.0):
        assert opened_objects(block(), replace(CAMERA, near_m=near).view()) == ()
        assert share(block(), replace(CAMERA, near_m=near)) == 0.0


def test_wholly_inside_a_wall_everything_is_cut() -> None:
    model = block()
    found = cut_faces(model, RayScene(model.vertices, model.faces), replace(CAMERA, near_m=9.5).view(), 320)
    # The wall's outline lies outside the frame: no edge of a cut is in sight, and yet all one sees is the wall's inside.
    assert found.opened == (("o1", "Wall"),)
    assert found.share == 1.0
    narrow = model_of(("Wall", box_between((-1, 2, -10), (20, 3, 20)), PLASTER))
    edge = 1.0 * 24.0 / 2.5 / 36.0
    assert share(narrow, replace(CAMERA, near_m=2.5)) == pytest.approx(0.5 + edge, abs=0.005)


def test_panes_and_what_is_left_out_are_passed() -> None:
    pane = ("Pane", box_between((-5, 4.2, -5), (5, 4.3, 8)), Material("Glass", (1, 1, 1, 0.2), kind=GLASS))
    camera = replace(CAMERA, near_m=4.0)
    assert share(block(pane), camera) == pytest.approx(share(block(), camera), abs=1e-9)
    screen = ("Screen", box_between((-5, 4.2, -5), (5, 4.3, 8)), PLASTER)
    # The screen stands within the block and hides its end; what is left are the block's sides before the screen.
    assert 0.0 < share(block(screen), camera) < 0.3 * share(block(), camera)
    assert share(block(screen), camera, (2,)) == pytest.approx(share(block(), camera), abs=1e-9)
    assert share(block(), camera, (0,)) == 0.0


def test_bodies_that_touch_count_once_and_as_open() -> None:
    """A second block stands flush behind the first: its front lies in the plane of the first one's back."""
    flush = ("Flush", box_between((-0.5, 5, 0.5), (0.5, 6, 2.5)), PLASTER)
    camera = replace(CAMERA, near_m=4.0)
    assert share(block(flush), camera) == pytest.approx(share(block(), camera), abs=0.002)


def test_through_the_wall_of_the_demo(demo_opened: Opened) -> None:
    model = demo_opened.model
    through = Camera("", "x", (7.0, -1.5, 1.6), 0.0, focal_mm=24.0)
    in_the_wall = check_camera(model, Project(), replace(through, near_m=1.5 - 0.18)).cut
    assert "South wall" in dict(in_the_wall.opened).values()
    assert in_the_wall.share > 0.05
    clear = check_camera(model, Project(), replace(through, near_m=1.5 + 0.05)).cut
    assert "South wall" not in dict(clear.opened).values()
    assert clear.share < 0.02
    out = Project(left_out=LeftOut(categories=("Wall",)))
    assert "South wall" not in dict(check_camera(model, out, replace(through, near_m=1.32)).cut.opened).values()
    assert check_camera(model, Project(), through).cut.opened == ()
