"""Soft light on models as they come: wound either way, seen from both sides, with things in each other; and
against final pictures."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
import trimesh
from flip_evaluator import evaluate

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.conventions import Floats32
from altana.core.edits.shots import start_values
from altana.core.light.lightmap import LightPoints, spread
from altana.core.light.sky import sky_of
from altana.core.light.tone import developed, gain, proposed_ev
from altana.core.light.transport import LightMap, solve
from altana.core.model import GLASS, Material, Model
from altana.core.project import STILL, Light
from altana.core.staging import Lookup
from altana.demo.faulty_house import box, inside_out, sheet, some_turned, write_faulty_house
from altana.jobs.light import light_of
from altana.jobs.models import open_project_models
from altana.jobs.picture import PictureWork
from altana.jobs.requests import Picture
from altana.jobs.rows.shared import Rows
from altana.render.images import albedos
from altana.render.quality import Quality
from altana.render.renderer import Renderer
from altana.storage.project_file import read_project
from tests.conftest import light_at, model_of

PLASTER = Material("Plaster", (0.8, 0.8, 0.8, 1.0), roughness=0.9)
OAK = Material("Oak", (0.5, 0.35, 0.2, 1.0), roughness=0.6)
SKY = sky_of(Light())
VIEW = View(Pose((5.4, 3.4, 1.5), 235.0), Lens(20), 240, 160)

Mesh = trimesh.Trimesh


def lit(model: Model) -> tuple[LightPoints, LightMap]:
    points = spread(model)
    return points, solve(model, points, albedos(model), SKY)


def seen(model: Model, view: View = VIEW) -> Floats32:
    renderer = Renderer(model, lit(model)[1])
    try:
        light = renderer.master(view, SKY, Quality(passes=2), True)
        assert light is not None
        return light.light
    finally:
        renderer.close()


def room(wound=lambda mesh: mesh, *more: tuple[str, Mesh, Material]) -> Model:  # type: ignore[no-untyped-def]
    """A room of 6 x 4 x 2.7 m with a wide window in the south, a cupboard, and a floor on which it stands."""
    walls = [
        ("Floor", box((0, 0, -0.2), (6, 4, 0))),
        ("Ceiling", box((0, 0, 2.7), (6, 4, 2.9))),
        ("North", box((-0.2, 4, -0.2), (6.2, 4.2, 2.9))),
        ("West", box((-0.2, -0.2, -0.2), (0, 4, 2.9))),
        ("East", box((6, -0.2, -0.2), (6.2, 4, 2.9))),
        ("South below", box((0, -0.2, -0.2), (6, 0, 0.8))),
        ("South above", box((0, -0.2, 2.4), (6, 0, 2.9))),
    ]
    return model_of(
        *((name, wound(mesh), PLASTER) for name, mesh in walls),
        ("Cupboard", wound(box((0.02, 2.5, 0), (0.6, 3.9, 2.0))), OAK),
        *more,
    )


def flip(live: Floats32, wanted: Floats32) -> float:
    ev = proposed_ev(wanted)
    pictures = [developed(light, ev).astype(np.float32) for light in (wanted, live)]
    return float(evaluate(*pictures, "LDR")[1])


@pytest.mark.slow
@pytest.mark.parametrize("wound", [inside_out, some_turned])
def test_a_room_looks_the_same_whichever_way_it_is_wound(wound) -> None:  # type: ignore[no-untyped-def]
    assert flip(seen(room(wound)), seen(room())) < 0.03


@pytest.mark.slow
def test_each_side_of_a_sheet_has_its_own_light() -> None:
    """A wall of no thickness between a room full of light and a closed one behind it."""
    closed = [
        ("Back", box((-3, 9.9, -1), (3, 10.1, 4)), PLASTER),
        ("Roof", box((-3, 4, 3), (3, 10, 3.2)), PLASTER),
        ("Base", box((-3, 4, -0.2), (3, 10, 0)), PLASTER),
        ("Left", box((-3.2, 4, -1), (-3, 10, 4)), PLASTER),
        ("Right", box((3, 4, -1), (3.2, 10, 4)), PLASTER),
    ]
    for corners in (
        ((-3.1, 4.1, -1), (3.1, 4.1, -1), (3.1, 4.1, 4), (-3.1, 4.1, 4)),
        ((-3.1, 4.1, 4), (3.1, 4.1, 4), (3.1, 4.1, -1), (-3.1, 4.1, -1)),
    ):
        model = model_of(("Sheet", sheet(*corners), PLASTER), *closed)
        outside = seen(model, View(Pose((0, 0, 1.5)), Lens(35), 60, 40))[20, 30].mean()
        within = seen(model, View(Pose((0, 8, 1.5), 180.0), Lens(35), 60, 40))[20, 30].mean()
        assert outside > 500.0
        assert within < outside / 100.0


def on_floor(model: Model) -> tuple[np.ndarray, np.ndarray]:
    """Places and light of the room's floor, less a rim."""
    points, light = lit(model)
    charts = slice(len(points.texel))
    place = points.position[charts]
    some = (points.normal[charts, 2] > 0.9) & (np.abs(place[:, 2]) < 0.01)
    some &= (place[:, 0] > 0.9) & (place[:, 0] < 5.7) & (place[:, 1] > 0.3) & (place[:, 1] < 2.3)
    return place[some], light_at(light, model, points.face[charts][some], place[some]).mean(axis=1)


@pytest.mark.slow
def test_a_room_keeps_its_light_when_something_is_added_elsewhere() -> None:
    shed = [(f"Shed {n}", box((400 + 9 * n, 300, 0), (407 + 9 * n, 306, 3)), OAK) for n in range(12)]
    before, after = on_floor(room()), on_floor(room(lambda mesh: mesh, *shed))
    assert np.array_equal(before[0], after[0])
    assert len(before[1]) > 60
    assert after[1] == pytest.approx(before[1], rel=0.01)


@pytest.mark.slow
def test_something_small_leaves_no_blot() -> None:
    """A handle's rose, 5 cm across and 1 cm off the wall: it shades itself, not half a metre of wall."""
    rose = trimesh.creation.icosphere(2, 0.05)
    rose.apply_transform(np.diag([1.0, 0.4, 1.0, 1.0]))
    bare = seen(room(), View(Pose((3, 1.0, 1.2)), Lens(35), 120, 80))
    for z in (1.05, 1.35):
        with_rose = seen(
            room(lambda mesh: mesh, ("Rose", rose.copy().apply_translation((3.0, 3.985, z)), OAK)),
            View(Pose((3, 1.0, 1.2)), Lens(35), 120, 80),
        )
        share = with_rose.mean(axis=2) / bare.mean(axis=2)
        far = np.hypot(*np.mgrid[-40:40, -60:60]) > 16
        assert share[far].min() > 0.86


def with_two_sheets(*more: tuple[str, Mesh, Material]) -> Model:
    """The room with an eastern wall of two sheets, a hand and a half apart, on a floor that runs on under
    them."""

    def across(x: float, high: float) -> Mesh:
        return sheet((x, -0.2, 0), (x, 4.2, 0), (x, 4.2, high), (x, -0.2, high))

    return model_of(
        ("Floor", box((0, -0.2, -0.2), (6.25, 4.2, 0)), PLASTER),
        ("Ceiling", box((0, -0.2, 2.7), (6.0, 4.2, 2.9)), PLASTER),
        ("North", box((0, 4, -0.2), (6.25, 4.2, 2.9)), PLASTER),
        ("South below", box((0, -0.2, -0.2), (6, 0, 0.8)), PLASTER),
        ("South above", box((0, -0.2, 2.4), (6, 0, 2.9)), PLASTER),
        ("West", box((-0.2, -0.2, -0.2), (0, 4.2, 2.9)), PLASTER),
        ("Inner sheet", across(6.0, 2.7), PLASTER),
        ("Outer sheet", across(6.25, 0.4), PLASTER),
        *more,
    )


@pytest.mark.slow
def test_light_in_a_gap_behind_a_wall_does_not_shine_under_it() -> None:
    """Open above or shut, the gap is not seen from the room."""
    lid = ("Lid", box((6.0, -0.2, 0.4), (6.3, 4.2, 0.5)), PLASTER)
    foot = View(Pose((4.8, 3.0, 0.9), 90.0, -35.0), Lens(60), 90, 60)
    open_, shut = (seen(with_two_sheets(*more), foot).mean(axis=2) for more in ((), (lid,)))
    assert shut.min() > 20.0
    assert (open_ / shut).max() < 1.2


@pytest.mark.slow
def test_panels_side_by_side_look_like_one_ceiling() -> None:
    panels = [
        (f"Panel {x} {y}", box((0.5 * x, 0.5 * y, 2.6), (0.5 * x + 0.5, 0.5 * y + 0.5, 2.65)), PLASTER)
        for x in range(12)
        for y in range(8)
    ]
    up = View(Pose((1.0, 0.6, 1.2), 45.0, 30.0), Lens(18), 120, 80)
    one = seen(room(lambda mesh: mesh, ("Panel", box((0, 0, 2.6), (6, 4, 2.65)), PLASTER)), up)
    many = seen(room(lambda mesh: mesh, *panels), up)
    assert np.abs(np.log(many.mean(axis=2) / one.mean(axis=2))).max() < 0.05


def test_a_strip_between_two_things_keeps_out_the_light_of_the_next_room() -> None:
    """On the wall that runs through a bright and a dark room, points lie 0.3 m apart: in the partition, and
    in the cupboard's side beside it."""
    model = model_of(
        ("Lining", box((0, -6, 0), (0.02, 6, 2.7)), PLASTER),
        ("Floor", box((-0.2, -6, -0.2), (4, 6, 0)), PLASTER),
        ("Ceiling", box((-0.2, -2, 2.7), (4, 6, 2.9)), PLASTER),
        ("Partition", box((0.02, -0.12, 0), (4, 0, 2.7)), PLASTER),
        ("North", box((-0.2, 6, 0), (4, 6.2, 2.7)), PLASTER),
        ("East", box((4, 0, 0), (4.2, 5, 2.7)), PLASTER),
        ("Cupboard's side", box((0.02, 0.3, 0), (0.5, 0.34, 2.2)), OAK),
    )
    picture = seen(model, View(Pose((1.5, 0.16, 1.4), 270.0), Lens(14), 180, 120)).mean(axis=2)
    # Straight before the eye, and 0.75 m beside it.
    strip, wall = (np.median(picture[40:60, column - 2 : column + 2]) for column in (90, 125))
    assert 0.1 < strip / wall < 1.0


def test_no_sun_comes_in_under_a_wall_of_no_thickness() -> None:
    """The sun stands before the western wall, 60° high; in the room it is a hundredth as bright as on the
    ground before it."""
    model = model_of(
        ("West", sheet((0, -6, 0), (0, 6, 0), (0, 6, 2.7), (0, -6, 2.7)), PLASTER),
        ("Floor", box((-0.2, -6, -0.2), (4, 6, 0)), PLASTER),
        ("Ceiling", box((-0.2, -2, 2.7), (4, 6, 2.9)), PLASTER),
        ("South", box((-0.2, -0.12, 0), (4, 0, 2.7)), PLASTER),
        ("North", box((-0.2, 6, 0), (4, 6.2, 2.7)), PLASTER),
        ("East", box((4, 0, 0), (4.2, 5, 2.7)), PLASTER),
    )
    picture = seen(model, View(Pose((2.0, 1.2, 1.4), 270.0, -20.0), Lens(20), 360, 240)).mean(axis=2)
    assert 50.0 < np.median(picture) < 300.0
    # It was a bright line along the whole foot: one pixel in two hundred.
    assert (picture > 4.0 * np.median(picture)).mean() < 0.0004


@pytest.mark.slow
def test_frosted_glass_passes_light_and_no_picture() -> None:
    def behind(rough: float, colour: tuple[float, float, float, float]) -> Floats32:
        pane = Material("Pane", (0.9, 0.9, 0.9, 0.3), kind=GLASS, roughness=rough)
        return seen(
            model_of(
                ("Pane", sheet((-3, 3, 0), (3, 3, 0), (3, 3, 3), (-3, 3, 3)), pane),
                ("Block", box((-0.5, 6, 0.5), (0.5, 7, 2.5)), Material("Block", colour)),
                ("Ground", sheet((-50, -50, 0), (50, -50, 0), (50, 50, 0), (-50, 50, 0)), PLASTER),
            ),
            View(Pose((0, 0, 1.5)), Lens(35), 90, 60),
        )

    black = (0.02, 0.02, 0.02, 1.0)
    clear, frosted = behind(0.05, black), behind(0.6, black)
    # Through clear glass the black block stands out from what is beside it; through frosted glass it does
    # not.
    assert clear[30, 45].mean() < 0.4 * clear[30, 20].mean()
    assert frosted[30, 45].mean() == pytest.approx(frosted[30, 20].mean(), rel=0.15)
    assert frosted[30, 45].mean() > 0.3 * clear[30, 20].mean()


VIEWS = ["Living room, to the window", "Living room, cupboards", "Bath", "From the garden"]


@pytest.mark.parametrize(
    ("name", "most"),
    [
        pytest.param(VIEWS[0], 0.15, marks=pytest.mark.slow),
        pytest.param(VIEWS[1], 0.17, marks=pytest.mark.slow),
        pytest.param(VIEWS[2], 0.21, marks=pytest.mark.slow),
        pytest.param(VIEWS[3], 0.10, marks=pytest.mark.slow),
    ],
)
def test_the_house_with_every_fault_live_is_much_like_final(name: str, most: float, tmp_path: Path) -> None:
    path = write_faulty_house(tmp_path)
    project = read_project(path)
    opened = open_project_models(project, path)
    soft = light_of(opened, project.light, None, tmp_path)
    renderer = Renderer(opened.model, soft)
    work = PictureWork(Rows(project, opened, Lookup(opened.model), renderer, tmp_path, soft))
    work.rows.samples = 24
    camera = project.camera_named(name)
    pictures = {}
    try:
        for quality in ("review", "final"):
            shot = start_values(project, STILL, camera.id)
            item = Picture(replace(shot, quality=quality), camera, 320, 180, "")
            pictures[quality] = work.stills.master(item, lambda _: True).light.astype(np.float32)
    finally:
        work.close()
        renderer.close()
    assert flip(pictures["review"], pictures["final"]) <= most
    white = 1.0 / gain(proposed_ev(pictures["final"]))
    shades = [np.maximum(pictures[word].mean(axis=2), 0.004 * white) for word in ("review", "final")]
    assert abs(float(np.log2(np.median(shades[0] / shades[1])))) < 0.4
