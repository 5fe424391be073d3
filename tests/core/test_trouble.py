"""Checks that find trouble: verticals, perspective, gaps, the far bound, coverage; and the mends of each."""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Iterator
from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest
import trimesh

from altana.core.camera.plumb import plumb
from altana.core.camera.view import View
from altana.core.checks.camera_check import MENDS, CameraCheck, troubles
from altana.core.checks.coverage import HEADINGS, Tally, as_csv
from altana.core.checks.cut_faces import bodies_of
from altana.core.checks.gaps import ground_level
from altana.core.checks.perspective import main_axes, perspective, square_heading, vanishing_points
from altana.core.checks.verticals import check_verticals, upright_edges
from altana.core.edits.bounds import with_far, with_near
from altana.core.edits.cameras import add_camera
from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.lens import stretch_grade
from altana.core.mends import Ground, mend
from altana.core.model import GLASS, Material, Model
from altana.core.patching import (
    CATEGORY,
    add_patch,
    ground_to_horizon,
    patch_gap,
    remove_patch,
    turn_patch,
    with_patches,
)
from altana.core.project import Camera, Limits, Patch, Project
from altana.core.staging import WHOLE, Lookup, Staging
from altana.core.standing import standable
from altana.jobs import looking
from altana.jobs.looking import Checker, check_camera, check_cameras, coverage_views, tallied
from altana.jobs.models import Opened
from altana.render.renderer import Renderer
from tests.conftest import box_between, model_of

PLASTER = Material("Plaster", (0.8, 0.8, 0.8, 1.0))
PANE = Material("Glass", (1, 1, 1, 0.2), kind=GLASS)


def checked(model: Model, camera: Camera, project: Project | None = None, width_px: int = 640) -> CameraCheck:
    return check_camera(model, project or Project(), camera, width_px)


# ---------------------------------------------------------------------- verticals


@pytest.fixture(scope="module")
def tower() -> Model:
    """A square post 2 m wide and 20 m high, 12 m ahead, on open ground."""
    return model_of(
        ("Tower", box_between((-1, 12, 0), (1, 14, 20)), PLASTER),
        ("Ground", box_between((-90, -90, -1), (90, 90, 0)), PLASTER),
    )


TILTED = Camera("", "x", (0.0, 0.0, 1.6), 0.0, 25.0, focal_mm=20.0, width_px=1080, height_px=1350)


def verticals_of(model: Model, camera: Camera):  # type: ignore[no-untyped-def]
    none = np.zeros(len(model.faces), bool)
    return check_verticals(upright_edges(model), camera.view(), RayScene(model.vertices, model.faces), none)


def test_a_tilted_cameras_verticals_deviate_as_much_as_they_are_drawn_to(tower: Model) -> None:
    edges = verticals_of(tower, TILTED)
    assert edges.count == 2
    for line, off in zip(edges.lines, edges.deviation_px, strict=True):
        assert line[1, 0] - line[0, 0] == pytest.approx(off)
        assert line[0, 1] > line[1, 1]
    # The two front edges lean towards each other, by the same amount.
    assert sorted(np.sign(edges.deviation_px)) == [-1, 1]
    assert abs(edges.deviation_px.sum()) < 1e-6
    corner = np.array([[1.0, 12.0, 0.0], [1.0, 12.0, 20.0]])
    whole = TILTED.view().project(corner)
    assert edges.worst_px == pytest.approx(abs(whole[1, 0] - whole[0, 0]), rel=0.25)


def test_after_plumb_nothing_deviates(tower: Model) -> None:
    pose, lens = plumb(TILTED.pose, TILTED.lens)
    edges = verticals_of(tower, TILTED.with_view(pose, lens))
    assert edges.count == 2
    assert edges.worst_px < 1e-6


def test_hidden_edges_and_cut_away_ones_do_not_count(tower: Model) -> None:
    screen = model_of(
        ("Tower", box_between((-1, 12, 0), (1, 14, 20)), PLASTER),
        ("Screen", box_between((-40, 6, -1), (40, 6.1, 60)), PLASTER),
    )
    level = replace(TILTED, tilt_deg=0.0, rise_mm=6.0)
    assert verticals_of(screen, level).count == 0
    assert verticals_of(screen, with_near(level, 7.0)).count == 2
    # With the front cut away the edges of the back are seen, and behind those none.
    assert verticals_of(tower, with_near(level, 13.0)).count == 2
    assert verticals_of(tower, with_near(level, 15.0)).count == 0
    assert verticals_of(tower, replace(level, heading_deg=180.0)).count == 0


def test_only_edges_within_a_tenth_of_a_degree_are_meant_to_be_vertical() -> None:
    for lean, meant in ((0.05, 4), (0.3, 0)):
        turn = trimesh.transformations.rotation_matrix(math.radians(lean), (0, 1, 0))
        leaning = box_between((-1, 12, 0), (1, 14, 20))
        leaning.apply_transform(turn)
        assert len(upright_edges(model_of(("Post", leaning, PLASTER)))) == meant


def test_pieces_of_one_edge_are_joined() -> None:
    column = model_of(
        *[(f"Drum {k}", box_between((-1, 12, 3 * k), (1, 14, 3 * k + 3)), PLASTER) for k in range(4)]
    )
    edges = upright_edges(column)
    assert len(edges) == 4
    assert (edges[:, 1, 2] - edges[:, 0, 2]) == pytest.approx(12.0)


# ---------------------------------------------------------------------- perspective


def test_main_directions_and_the_turn_that_is_missing(room: Model) -> None:
    assert main_axes(room) == (0.0,)
    turned = trimesh.transformations.rotation_matrix(math.radians(-17.0), (0, 0, 1))
    shed = box_between((0, 0, 0), (8, 5, 3))
    shed.apply_transform(turned)
    assert main_axes(model_of(("Shed", shed, PLASTER))) == (pytest.approx(17.0, abs=0.01),)
    assert square_heading(350.0, (0.0,)) == pytest.approx(10.0)
    assert square_heading(100.0, (17.0,)) == pytest.approx(7.0)
    assert (
        main_axes(
            model_of(("Sheet", trimesh.Trimesh([[0, 0, 0], [1, 0, 0], [0, 1, 0]], [[0, 1, 2]]), PLASTER))
        )
        == ()
    )


@pytest.mark.parametrize(
    ("values", "points", "missing"),
    [({}, 1, 0.0), ({"heading_deg": 90.0}, 1, 0.0), ({"heading_deg": 12.0}, 2, 12.0), ({"tilt_deg": -4.0}, 3, 4.0), ({"roll_deg": 1.5}, 3, 1.5)],
)  # fmt: skip
def test_one_two_or_three_points(values: dict[str, float], points: int, missing: float) -> None:
    vanishing = perspective(replace(Camera("", "x"), **values).view(), (0.0,))  # type: ignore[arg-type]
    assert (vanishing.points, vanishing.missing_deg) == (points, pytest.approx(missing))


def test_vanishing_points_are_where_far_points_go() -> None:
    view = replace(
        Camera("", "x", heading_deg=20.0, tilt_deg=15.0, focal_mm=28.0), rise_mm=2.0, cross_mm=-1.0
    ).view()
    by_name = {item.name: item for item in vanishing_points(view, (0.0,))}
    far = view.project(np.array([[0.0, 0.0, 1e9], [0.0, 1e9, 0.0], [1e9, 0.0, 0.0]]))
    for name, place in (("verticals", far[0]), ("0.0°", far[1]), ("90.0°", far[2])):
        assert by_name[name].place == pytest.approx(place[:2].tolist(), abs=0.1)
    level = {item.name: item for item in vanishing_points(Camera("", "x").view(), (0.0,))}
    assert level["verticals"].place is None
    assert level["90.0°"].place is None
    assert level["0.0°"].place == pytest.approx((960.0, 540.0))


# ---------------------------------------------------------------------- gaps


def pierced(*more: tuple[str, trimesh.Trimesh, Material], roof: bool = True, ground: bool = True) -> Model:
    """A room of 6 x 4 x 3 m whose north wall has an opening of 1.2 x 1.0 m, 1 m above the floor, from x = 2
    on."""
    parts = [
        ("Floor", box_between((-0.2, -0.2, -0.3), (6.2, 4.2, 0.0)), PLASTER),
        ("West", box_between((-0.2, -0.2, 0.0), (0.0, 4.2, 3.0)), PLASTER),
        ("East", box_between((6.0, -0.2, 0.0), (6.2, 4.2, 3.0)), PLASTER),
        ("South", box_between((0.0, -0.2, 0.0), (6.0, 0.0, 3.0)), PLASTER),
        ("North left", box_between((0.0, 4.0, 0.0), (2.0, 4.2, 3.0)), PLASTER),
        ("North right", box_between((3.2, 4.0, 0.0), (6.0, 4.2, 3.0)), PLASTER),
        ("North below", box_between((2.0, 4.0, 0.0), (3.2, 4.2, 1.0)), PLASTER),
        ("North above", box_between((2.0, 4.0, 2.0), (3.2, 4.2, 3.0)), PLASTER),
    ]
    if roof:
        parts.append(("Ceiling", box_between((-0.2, -0.2, 3.0), (6.2, 4.2, 3.2)), PLASTER))
    model = model_of(
        *parts, *([("Lawn", box_between((-60, -60, -0.8), (60, 60, -0.3)), PLASTER)] if ground else []), *more
    )
    objects = tuple(
        replace(item, category="Terrain" if item.name == "Lawn" else "Wall") for item in model.objects
    )
    return replace(model, objects=objects)


LOOKING_OUT = Camera("", "Inside", (2.6, 0.5, 1.5), 0.0, focal_mm=24.0, aim_m=3.5, inside=True)
#: The opening seen over the outer edges of its reveals, which are nearest in the picture.
HOLE_SHARE = (1.2 * 24.0 / 3.7 / 36.0) * (1.0 * 24.0 / 3.7 / 20.25)


def test_a_hole_has_the_share_of_its_opening() -> None:
    gaps = checked(pierced(), LOOKING_OUT).gaps
    assert gaps.out == pytest.approx(HOLE_SHARE, abs=0.002)
    assert [gap.kind for gap in gaps.gaps] == ["hole"]
    gap = gaps.gaps[0]
    assert gap.share == pytest.approx(gaps.out)
    left, top, right, bottom = gap.box
    assert (right - left) == pytest.approx(1.2 * 24.0 / 3.7 / 36.0, abs=0.01)
    assert (bottom - top) == pytest.approx(1.0 * 24.0 / 3.7 / 20.25, abs=0.015)
    assert gaps.mask is not None
    assert gaps.mask.mean() == pytest.approx(gaps.out)


def test_a_pane_closes_an_opening_and_a_closed_room_has_none(room: Model) -> None:
    glazed = pierced(("Window", box_between((2.0, 4.08, 1.0), (3.2, 4.12, 2.0)), PANE))
    assert checked(glazed, LOOKING_OUT).gaps.gaps == ()
    assert checked(room, LOOKING_OUT).gaps == checked(glazed, LOOKING_OUT).gaps


def test_without_a_ceiling_nothing_is_called_a_hole_but_a_lawn_outside_is_no_floor() -> None:
    # Under the open sky an eye is outside: what it sees is no gap.
    assert checked(pierced(roof=False), LOOKING_OUT).gaps.out == 0.0


def test_a_panel_across_the_gap_closes_it() -> None:
    model = pierced()
    gap = checked(model, LOOKING_OUT).gaps.gaps[0]
    corners = np.array(gap.corners)
    # The rim lies in the wall's inner face, y = 4; the panel covers what is seen of the opening.
    assert corners[:, 1] == pytest.approx(4.0, abs=0.01)
    assert gap.beside.startswith("North")
    assert corners[:, 0].min() == pytest.approx(2.0, abs=0.12)
    assert corners[:, 0].max() == pytest.approx(3.2, abs=0.12)
    project, patch_id = patch_gap(Project(), gap)
    closed = with_patches(model, project.patches)
    assert checked(closed, LOOKING_OUT).gaps.out == 0.0
    assert closed.objects[-1].category == CATEGORY
    assert closed.objects[-1].name.startswith("Plain panel, North")
    # It does not stand in the room: the wall's face stays what one sees beside it.
    assert closed.vertices[closed.faces[-12:]][..., 1].min() >= 4.0 - 1e-3
    assert with_patches(model, remove_patch(project, patch_id).patches) is model
    assert with_patches(model, turn_patch(project, patch_id, False).patches) is model


def test_an_open_roof_light_is_closed_by_carrying_the_ceiling_on() -> None:
    parts = [
        ((-0.2, -0.2), (6.2, 1.6)),
        ((-0.2, 2.6), (6.2, 4.2)),
        ((-0.2, 1.6), (2.0, 2.6)),
        ((3.2, 1.6), (6.2, 2.6)),
    ]
    pieces = [(f"Ceiling {n}", box_between((*a, 3.0), (*b, 3.2)), PLASTER) for n, (a, b) in enumerate(parts)]
    glazed = ("Window", box_between((2.0, 4.08, 1.0), (3.2, 4.12, 2.0)), PANE)
    model = pierced(glazed, *pieces, roof=False)
    camera = replace(LOOKING_OUT, eye=(2.6, 0.3, 1.2), rise_mm=14.0)
    gaps = checked(model, camera).gaps
    assert [gap.panel for gap in gaps.gaps] == ["ceiling"]
    assert np.array(gaps.gaps[0].corners)[:, 2] == pytest.approx(3.0, abs=0.01)
    project, _ = patch_gap(Project(), gaps.gaps[0])
    assert project.patches[0].name.startswith("Ceiling carried on")
    assert checked(with_patches(model, project.patches), camera).gaps.out == 0.0


def test_ground_that_ends_in_view_and_plain_ground_to_the_horizon() -> None:
    model = pierced(ground=False)
    outside = Camera("", "x", (3.0, -12.0, 1.6), 180.0, focal_mm=24.0)
    checks = checked(model, outside)
    # Looking level into the open: the lower half of the frame shows nothing.
    assert checks.gaps.ground_ends == pytest.approx(0.5, abs=0.01)
    assert [item.code for item in troubles(outside, checks, Limits())] == ["ground"]
    project, _ = ground_to_horizon(Project(), model)
    assert checked(with_patches(model, project.patches), outside).gaps.ground_ends < 0.002
    assert project.patches[0].corners[0][2] == pytest.approx(ground_level(model))
    with pytest.raises(Refused, match="already"):
        ground_to_horizon(project, model)


@pytest.mark.parametrize(
    ("patch", "said"),
    [
        (Patch("m", "x", "carpet", ((0, 0, 0), (1, 0, 0), (0, 1, 0))), "no kind of mend"),
        (Patch("m", "x", "panel", ((0, 0, 0), (1, 0, 0))), "corners"),
        (Patch("m", "x", "panel", ((0, 0, 0), (1, 0, 0), (2, 0, 0))), "span a surface"),
        (Patch("m", "x", "panel", ((0, 0, 0), (1, 0, 0), (0, math.inf, 0))), "finite"),
    ],
)
def test_a_mend_that_makes_no_surface_is_refused(patch: Patch, said: str) -> None:
    with pytest.raises(Refused, match=said):
        add_patch(Project(), patch.kind, patch.corners)
    with pytest.raises(Refused, match="no mend"):
        remove_patch(Project(), "mend-01")


def test_patches_are_closed_bodies_that_face_outwards(room: Model) -> None:
    project, _ = add_patch(Project(), "panel", ((1, 1, 0), (2, 1, 0), (2, 1, 2), (1.5, 1, 2.6), (1, 1, 2)))
    model = with_patches(room, project.patches)
    bodies = bodies_of(model)
    assert bodies.sound[-1]
    assert bodies.sense[-1] == 1
    assert len(model.vertices) == len(model.normals) == len(model.uvs)


# ---------------------------------------------------------------------- the far bound


def test_the_far_bound_says_what_it_removes_and_what_brings_it_back() -> None:
    model = model_of(
        ("Near", box_between((-3, 5, 0), (-1, 6, 3)), PLASTER),
        ("Mast", box_between((1, 40, 0), (1.5, 40.5, 12)), PLASTER),
        ("Hill", box_between((-90, 80, 0), (90, 120, 9)), PLASTER),
    )
    camera = with_far(Camera("", "x", (0.0, 0.0, 1.6), 0.0, focal_mm=24.0), 30.0)
    checks = checked(model, camera)
    assert [item.name for item in checks.far.removed] == ["Hill", "Mast"]
    assert [item.back_at_m for item in checks.far.removed] == [
        pytest.approx(80.0, abs=0.1),
        pytest.approx(40.0, abs=0.1),
    ]
    assert checks.far.model_share == pytest.approx(2 / 3)
    assert checks.gaps.background == pytest.approx(sum(item.share for item in checks.far.removed))
    assert checks.gaps.ground_ends == pytest.approx(
        checked(model, with_far(camera, None)).gaps.ground_ends, abs=1e-9
    )
    trouble = next(item for item in troubles(camera, checks, Limits()) if item.code == "far")
    assert trouble.mends == ("far-back", "far-off")
    assert checked(model, with_far(camera, 200.0)).far.removed == ()
    assert checked(model, with_far(camera, None)).far.model_share == 0.0


def test_far_dark_takes_only_what_lies_wholly_beyond_out_of_the_light(tower: Model) -> None:
    camera = replace(with_far(replace(TILTED, tilt_deg=0.0), 10.0), far_dark=True)
    assert Lookup(tower).staging(Project(), camera).unlit == (0,)
    assert Lookup(tower).staging(Project(), replace(camera, far_dark=False)) is WHOLE
    assert Lookup(tower).staging(Project(), with_far(camera, 13.0)).unlit == ()


# ---------------------------------------------------------------------- coverage


def test_coverage_counts_share_distance_and_pictures(tower: Model) -> None:
    tally = Tally(tower)
    numbers = np.full((10, 20), -1, np.int32)
    numbers[5:] = 1
    depth = np.full((10, 20), np.inf, np.float32)
    depth[5:] = 8.0
    tally.add("One", numbers, depth)
    numbers[5:, :10] = 0
    depth[5:, :10] = 3.0
    tally.add("Two", numbers, depth)
    first, ground = tally.result()
    assert (first.share, first.largest_in, first.nearest_m, first.pictures) == (0.25, "Two", 3.0, 1)
    assert (ground.share, ground.largest_in, ground.nearest_in, ground.pictures) == (0.5, "One", "One", 2)
    table = list(csv.reader(io.StringIO(as_csv(tally.result()))))
    assert tuple(table[0]) == HEADINGS
    assert table[1][1:5] == ["Tower", "Thing", "yes", "1"]


def test_panes_count_and_so_does_what_is_behind_them() -> None:
    model = model_of(
        ("Pane", box_between((-2, 3, 0), (2, 3.02, 3)), PANE),
        ("Block", box_between((-0.5, 6, 0.5), (0.5, 7, 2.5)), PLASTER),
        ("Behind", box_between((-0.4, 8, 0.6), (0.4, 9, 2.0)), PLASTER),
    )
    tally, renderer = Tally(model), Renderer(model)
    try:
        tallied(tally, renderer, "x", Camera("", "x", (0.0, 0.0, 1.5), 0.0).view(320, 180), WHOLE)
    finally:
        renderer.close()
    pane, block, behind = tally.result()
    assert pane.seen
    assert block.nearest_m == pytest.approx(6.0, abs=0.05)
    assert not behind.seen
    assert as_csv(tally.result()).splitlines()[3].endswith(",no,0,0.000000,,,")


def test_coverage_of_the_demo_over_cameras_and_its_walk(demo_opened: Opened, demo_project: Project) -> None:
    views = coverage_views(demo_opened.model, demo_project, demo_project.cameras[:2], demo_project.walks[:1])
    assert len(views) == 2 + 48
    assert {name for name, _, _ in views[2:]} == {"Up the stair to the gallery"}
    assert {view.width_px for _, view, _ in views} == {480}


# ---------------------------------------------------------------------- troubles and mends


@pytest.fixture(scope="module")
def ground_of_pierced() -> Ground:
    model = pierced()
    return Ground(model, RayScene(model.vertices, model.faces), standable(model), bodies_of(model))


def mended(project: Project, code: str, ground: Ground) -> Project:
    camera = project.cameras[0]
    return mend(project, camera.id, code, checked(ground.model, camera, project), ground)


def project_with(camera: Camera) -> Project:
    return add_camera(Project(), camera)[0]


def test_every_mend_does_what_its_button_says(ground_of_pierced: Ground) -> None:
    ground = ground_of_pierced
    through = with_near(replace(LOOKING_OUT, eye=(3.0, -3.0, 1.5)), 2.9)
    project = project_with(through)
    checks = checked(ground.model, through)
    (trouble,) = [item for item in troubles(through, checks, Limits()) if item.code == "cut"]
    assert trouble.mends == ("cap", "leave-out", "clear", "wall-cut")
    assert "South" in trouble.sentence
    capped = mended(project, "cap", ground).cameras[0]
    assert not [item for item in troubles(capped, checks, Limits()) if item.code == "cut"]
    left_out = mended(project, "leave-out", ground)
    assert set(left_out.cameras[0].left_out.objects) == {object_id for object_id, _ in checks.cut.opened}
    assert checked(ground.model, left_out.cameras[0], left_out).cut.share == 0.0
    clear = mended(project, "clear", ground).cameras[0]
    assert checked(ground.model, clear).cut.opened == ()
    cut = mended(project, "wall-cut", ground).cameras[0]
    assert (cut.near, len(cut.wall_cuts)) == (None, 1)
    assert checked(ground.model, cut).cut.share == 0.0
    panelled = mended(project_with(LOOKING_OUT), "panel", ground)
    assert [patch.kind for patch in panelled.patches] == ["panel"]
    assert mended(project, "ground", ground).patches[0].kind == "ground"
    tilted = mended(project_with(replace(LOOKING_OUT, tilt_deg=12.0)), "plumb", ground).cameras[0]
    assert tilted.tilt_deg == 0.0
    far = project_with(with_far(LOOKING_OUT, 2.0))
    assert mended(far, "far-off", ground).cameras[0].far is None
    back = mended(far, "far-back", ground).cameras[0]
    assert checked(ground.model, back).far.removed == ()
    wide = mended(project_with(replace(LOOKING_OUT, focal_mm=10.0)), "calmer-lens", ground).cameras[0]
    assert wide.focal_mm == 16.0
    floating = mended(project_with(replace(LOOKING_OUT, eye=(2.6, 0.5, 2.7))), "eye-height", ground).cameras[
        0
    ]
    assert floating.eye[2] == pytest.approx(1.6)


def test_a_mend_that_cannot_be_says_why(ground_of_pierced: Ground) -> None:
    project = project_with(LOOKING_OUT)
    for code, said in (
        ("leave-out", "opens anything"),
        ("clear", "no near bound"),
        ("far-back", "nothing out"),
        ("rewire", "mends nothing"),
    ):
        with pytest.raises(Refused, match=said):
            mended(project, code, ground_of_pierced)
    with pytest.raises(Refused):
        mend(project, "cam-99", "cap", checked(ground_of_pierced.model, LOOKING_OUT), ground_of_pierced)


def test_troubles_come_worst_first_and_every_mend_has_a_name(tower: Model) -> None:
    wide = replace(TILTED, focal_mm=9.0)
    checks = checked(tower, wide)
    codes = [item.code for item in troubles(wide, checks, Limits(), "The eye is below ground.")]
    assert codes == ["standing", "ground", "verticals", "stretch"]
    assert stretch_grade(wide.view(), Limits()) == 2
    for item in troubles(wide, checks, Limits(), "The eye is below ground."):
        assert all(code in MENDS for code in item.mends)
        assert item.sentence.endswith(".")
    assert [item.code for item in troubles(wide, checks, Limits(vertical_px=1e4, gap_share=1.0))] == [
        "stretch"
    ]


@pytest.fixture(scope="module")
def checker(demo_opened: Opened) -> Iterator[Checker]:
    renderer = Renderer(demo_opened.model)
    yield Checker(demo_opened.model, renderer)
    renderer.close()


def test_the_time_that_a_far_bound_saves_is_measured(
    checker: Checker, demo_project: Project, monkeypatch: pytest.MonkeyPatch
) -> None:
    camera = with_far(demo_project.camera_named("Waiting hall to the water"), 6.0)
    view = camera.view(256, 144)
    assert checker._time_saved(view, WHOLE) == 0.0
    # In a model that is large enough to be worth asking both are drawn in turn, and what is taken is what the
    # clock says.
    monkeypatch.setattr(looking, "TIMED_FACES", 1)
    drawn: list[bool] = []
    clock = [0.0]

    def picture(shown: View, *_: object) -> None:
        drawn.append(shown.far_m is not None)
        clock[0] += 1.0 if shown.far_m is not None else 4.0 + 0.5 * (len(drawn) % 3)

    monkeypatch.setattr(checker, "renderer", SimpleNamespace(picture=picture))
    monkeypatch.setattr(looking.time, "perf_counter", lambda: clock[0])
    assert checker._time_saved(view, WHOLE) == pytest.approx(0.75)
    assert drawn == [True, False] * (looking.TIMED + 1)


def test_the_checker_finds_the_demos_trouble_and_no_other(demo_opened: Opened, demo_project: Project) -> None:
    names = (
        "Waiting hall to the water",
        "Ticket office",
        "Tower from the forecourt",
        "Around the terminal 1",
    )
    cameras = [demo_project.camera_named(name) for name in names]
    rows = {
        camera.name: [item.code for item in wrong]
        for camera, _, wrong in check_cameras(demo_opened.model, demo_project, cameras)
    }
    assert rows == {
        "Waiting hall to the water": [],
        "Ticket office": [],
        "Tower from the forecourt": ["verticals"],
        "Around the terminal 1": ["ground", "verticals"],
    }


def test_a_missing_pane_is_a_gap_in_the_demo(checker: Checker, demo_project: Project) -> None:
    view = demo_project.camera_named("Waiting hall to the water").view()
    assert checker.check(view, WHOLE).gaps.out == 0.0
    panes = [
        number for number, item in enumerate(checker.model.objects) if item.name.startswith("Glass front bay")
    ]
    without = checker.check(view, Staging(tuple(sorted(panes)))).gaps
    assert without.out > 0.05
    assert any(gap.corners for gap in without.gaps)
