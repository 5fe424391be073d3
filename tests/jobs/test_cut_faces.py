"""Which objects a bound opens, and how much of the frame shows their insides: where the answer is known, and
against rays."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np
import pytest
import trimesh

from altana.core.camera.bounds import sight_passes
from altana.core.camera.view import View
from altana.core.camera.wall_cut import WallCut
from altana.core.checks.cut_faces import Bodies, bodies_of, opened_objects, surfaces_left
from altana.core.geometry.rays import RayScene
from altana.core.model import GLASS, Material, Model
from altana.core.project import Camera, LeftOut, Nudge, Project
from altana.core.staging import Lookup, Staging
from altana.jobs.looking import check_camera
from altana.jobs.models import Opened
from altana.render.renderer import Renderer
from tests.conftest import box_between, model_of

PLASTER = Material("Plaster", (0.8, 0.8, 0.8, 1.0))
CAMERA = Camera("", "x", (0.0, 0.0, 1.5), 0.0, focal_mm=24.0)


def share(model: Model, camera: Camera, omitted: tuple[int, ...] = ()) -> float:
    renderer = Renderer(model)
    try:
        return float(renderer.inside(camera.view(640, 360), Staging(omitted)).mean())
    finally:
        renderer.close()


def opened(model: Model, camera: Camera) -> tuple[int, ...]:
    return opened_objects(model, bodies_of(model), camera.view())


def block(*more: tuple[str, trimesh.Trimesh, Material]) -> Model:
    """A block from 3 to 5 m ahead, 1 m wide and 2 m high, before a far wall."""
    return model_of(
        ("Block", box_between((-0.5, 3, 0.5), (0.5, 5, 2.5)), PLASTER),
        ("Wall", box_between((-20, 9, -10), (20, 10, 20)), PLASTER),
        *more,
    )


def cut_share(near: float, wide: float = 1.0) -> float:
    """What a rectangle of ``wide`` by 2 m takes of the frame at a distance."""
    sensor_wide, sensor_high = CAMERA.view().sensor_mm
    return (wide * 24.0 / near / sensor_wide) * (2.0 * 24.0 / near / sensor_high)


@pytest.mark.parametrize("near", [3.2, 4.0, 4.9])
def test_the_inside_of_a_block_has_the_size_of_its_cut(near: float) -> None:
    model = block()
    camera = replace(CAMERA, near_m=near)
    assert share(model, camera) == pytest.approx(cut_share(near), abs=0.002)
    assert opened(model, camera) == (0,)


def test_before_and_behind_the_block_nothing_is_opened() -> None:
    for near in (None, 1.0, 2.9, 5.1, 8.0):
        assert opened(block(), replace(CAMERA, near_m=near)) == ()
        assert share(block(), replace(CAMERA, near_m=near)) == 0.0


def test_wholly_inside_a_wall_everything_is_cut() -> None:
    model = block()
    camera = replace(CAMERA, near_m=9.5)
    # The wall's outline lies outside the frame: no edge of a cut is in sight, and yet all one sees is the
    # wall's inside.
    assert opened(model, camera) == (1,)
    assert share(model, camera) == 1.0
    narrow = model_of(("Wall", box_between((-1, 2, -10), (20, 3, 20)), PLASTER))
    edge = 1.0 * 24.0 / 2.5 / 36.0
    assert share(narrow, replace(CAMERA, near_m=2.5)) == pytest.approx(0.5 + edge, abs=0.003)


def test_panes_are_no_bodies_and_what_is_left_out_is_not_opened() -> None:
    pane = ("Pane", box_between((-5, 3.9, -5), (5, 4.1, 8)), Material("Glass", (1, 1, 1, 0.2), kind=GLASS))
    camera = replace(CAMERA, near_m=4.0)
    assert share(block(pane), camera) == share(block(), camera)
    assert opened(block(pane), camera) == (0,)
    assert share(block(), camera, (0,)) == 0.0


def test_what_stands_inside_a_body_is_seen_only_through_its_cut() -> None:
    """A screen within the block hides its end; still all that one sees there one sees through the cut."""
    screen = ("Screen", box_between((-0.4, 4.2, 0.6), (0.4, 4.3, 2.4)), PLASTER)
    camera = replace(CAMERA, near_m=4.0)
    assert share(block(screen), camera) == pytest.approx(share(block(), camera), abs=1e-9)


def test_bodies_that_touch_and_bodies_turned_inside_out() -> None:
    flush = ("Flush", box_between((-0.5, 5, 0.5), (0.5, 6, 2.5)), PLASTER)
    camera = replace(CAMERA, near_m=4.0)
    assert share(block(flush), camera) == pytest.approx(share(block(), camera), abs=1e-9)
    turned = box_between((-0.5, 3, 0.5), (0.5, 5, 2.5))
    turned.invert()
    inside_out = model_of(
        ("Block", turned, PLASTER), ("Wall", box_between((-20, 9, -10), (20, 10, 20)), PLASTER)
    )
    assert share(inside_out, camera) == pytest.approx(cut_share(4.0), abs=0.002)


def test_sheets_are_cut_but_show_no_inside() -> None:
    sheet = trimesh.Trimesh([[-3, 0, 1], [3, 0, 1], [3, 8, 1], [-3, 8, 1]], [[0, 1, 2], [0, 2, 3]])
    model = model_of(
        ("Shelf of paper", sheet, PLASTER), ("Wall", box_between((-20, 9, -10), (20, 10, 20)), PLASTER)
    )
    camera = replace(CAMERA, near_m=4.0)
    assert opened(model, camera) == (0,)
    assert share(model, camera) == 0.0


def test_a_nudged_object_is_opened_where_it_stands_now() -> None:
    model = block()
    camera = replace(CAMERA, near_m=4.0, nudges=(Nudge("o0", (0.0, 3.0, 0.0)),))
    moved = Lookup(model).staging(Project(), camera)
    assert opened_objects(model, bodies_of(model), camera.view(), moved) == ()
    renderer = Renderer(model)
    try:
        assert renderer.inside(camera.view(640, 360), moved).mean() == 0.0
        assert renderer.inside(replace(camera, near_m=7.0).view(640, 360), moved).mean() == pytest.approx(
            cut_share(7.0), abs=0.002
        )
    finally:
        renderer.close()


def test_a_wall_cut_in_a_body_opens_it_and_what_stands_before_hides_that() -> None:
    cut = WallCut((0.0, 4.0, 1.5), 0.0, 0.5, 0.5, 1.0, 1.0)
    camera = replace(CAMERA, wall_cuts=(cut,))
    assert share(block(), camera) == pytest.approx(cut_share(4.0), abs=0.002)
    assert opened(block(), camera) == (0,)
    assert share(block(), replace(camera, wall_cuts=(replace(cut, on=False),))) == 0.0
    # Only half a metre deep: the block's front stays and hides its own cut.
    shallow = replace(camera, wall_cuts=(replace(cut, depth_m=0.5),))
    assert share(block(), shallow) == 0.0
    # A post well before the cut stays, and hides the right half of what is opened.
    post = ("Post", box_between((0.0, 1.9, -9), (0.4, 2.0, 9)), PLASTER)
    before = replace(camera, wall_cuts=(replace(cut, depth_m=1.8),))
    assert share(block(post), before) == pytest.approx(cut_share(4.0, 0.5), abs=0.002)


def test_surfaces_left_counts_as_one_would() -> None:
    corner = np.asarray(box_between((0, 0, 0), (2, 2, 2)).triangles, float)
    ahead = np.array([0.3, 0.9, 0.1])
    assert surfaces_left(corner, np.array([1.0, 1.0, 1.0]), ahead) == 1
    assert surfaces_left(corner, np.array([1.0, -3.0, 1.0]), ahead) == 0
    assert surfaces_left(corner, np.array([1.0, 5.0, 1.0]), ahead) == 0


# ---------------------------------------------------------------------- the demo, against rays


def by_rays(model: Model, bodies: Bodies, view: View) -> float:
    """Brute force: for each body, a ray from where sight begins; met from the back first, it begins
    inside."""
    x, y = np.meshgrid(np.arange(view.width_px) + 0.5, np.arange(view.height_px) + 0.5)
    along = view.rays(np.column_stack([x.ravel(), y.ravel()]))
    start = np.asarray(view.pose.eye) + along * sight_passes(view, along)[:, None]
    inside = np.zeros(len(along), bool)
    for number in np.flatnonzero(bodies.sound):
        within = ((start >= bodies.low[number] - 1e-6) & (start <= bodies.high[number] + 1e-6)).all(axis=1)
        mine = np.flatnonzero(within)
        faces = np.flatnonzero((bodies.owner == number) & bodies.solid)
        if not len(mine) or not len(faces):
            continue
        rays = RayScene(model.vertices, model.faces[faces])
        hits = rays.cast(start[mine], along[mine])
        met = hits.face >= 0
        facing = (
            np.einsum("ij,ij->i", rays.normals_of(hits.face[met]), along[mine][met]) * bodies.sense[number]
        )
        inside[mine[np.flatnonzero(met)[facing > 0]]] = True
    return float(inside.mean())


TWENTY = [
    ("Waiting hall to the water", near) for near in (1.2, 2.45, 5.0, 9.3, 16.6)
] + [
    ("Hall from the quay doors", 3.0),
    ("Hall from the quay doors", 7.5),
    ("Ticket office", 0.6),
    ("Ticket office", 1.35),
    ("Gallery, seated", 1.5),
    ("Gallery, seated", 4.0),
    ("Stair landing", 1.4),
    ("Lookout", 2.0),
    ("Lookout", 4.2),
    ("Forecourt", 14.0),
    ("Forecourt", 24.0),
    ("Tower from the forecourt", 18.0),
    ("Tower from the forecourt", 21.0),
    ("Glass front from the quay", 14.0),
    ("Quay, morning", 15.0),
]  # fmt: skip


@pytest.fixture(scope="module")
def demo_renderer(demo_opened: Opened) -> Iterator[Renderer]:
    renderer = Renderer(demo_opened.model)
    yield renderer
    renderer.close()


@pytest.mark.slow
@pytest.mark.parametrize(
    ("name", "near"),
    # Every fifth each time, all twenty where there is time.
    [
        item if index % 5 == 0 else pytest.param(*item, marks=pytest.mark.slow)
        for index, item in enumerate(TWENTY)
    ],
)
def test_cut_faces_of_the_demo_agree_with_rays(
    demo_opened: Opened, demo_project: Project, demo_renderer: Renderer, name: str, near: float
) -> None:
    camera = replace(demo_project.camera_named(name), near_m=near)
    view = camera.view(480, round(480 * camera.height_px / camera.width_px))
    by_counting = float(demo_renderer.inside(view).mean())
    assert by_counting == pytest.approx(by_rays(demo_opened.model, demo_renderer.bodies, view), abs=0.002)


def test_the_twenty_do_open_something(
    demo_project: Project, demo_renderer: Renderer, demo_opened: Opened
) -> None:
    views = [replace(demo_project.camera_named(name), near_m=near).view(320, 180) for name, near in TWENTY]
    assert len(views) == 20
    assert sum(bool(opened_objects(demo_opened.model, demo_renderer.bodies, view)) for view in views) >= 15


def test_through_the_wall_of_the_demo(demo_opened: Opened) -> None:
    model = demo_opened.model
    through = Camera("", "x", (7.0, -1.5, 1.6), 0.0, focal_mm=24.0)
    in_the_wall = check_camera(model, Project(), replace(through, near_m=1.5 - 0.18)).cut
    assert "South wall" in dict(in_the_wall.opened).values()
    assert in_the_wall.share > 0.05
    assert in_the_wall.mask is not None
    assert in_the_wall.mask.mean() == pytest.approx(in_the_wall.share)
    clear = check_camera(model, Project(), replace(through, near_m=1.5 + 0.05)).cut
    assert "South wall" not in dict(clear.opened).values()
    assert clear.share < 0.02
    out = Project(left_out=LeftOut(categories=("Wall",)))
    assert (
        "South wall" not in dict(check_camera(model, out, replace(through, near_m=1.32)).cut.opened).values()
    )
    assert check_camera(model, Project(), through).cut.opened == ()
