"""Final pictures: the physics of small scenes, the camera's exactness, and samples that add up."""

from __future__ import annotations

import io
import os
from dataclasses import replace
from types import ModuleType

import numpy as np
import pytest
import trimesh
from PIL import Image
from scipy import ndimage

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.camera.wall_cut import WallCut
from altana.core.conventions import Floats32, Vec3
from altana.core.errors import UserError
from altana.core.geometry.rays import RayScene
from altana.core.light.sky import Sky, sky_of
from altana.core.light.tone import decoded, encoded
from altana.core.model import GLASS, EncodedImage, Material, Model
from altana.core.project import Light
from altana.core.staging import WHOLE, Staging
from altana.jobs.tracing import check_memory
from altana.render.images import albedos
from altana.render.quality import Quality
from altana.render.renderer import Renderer
from altana.render.traced import scene as scenes_module
from altana.render.traced import tracer as tracer_module
from altana.render.traced.engine import llvm_library, start_engine
from altana.render.traced.scene import SceneMaker, sky_light
from altana.render.traced.sights import FlatSights, RoundSights, Sights, aperture
from altana.render.traced.tracer import Sums, Tracer, bands, denoised
from tests.conftest import box_between, model_of
from tests.small_pictures import live_light

pytestmark = pytest.mark.skipif(not llvm_library(), reason="LLVM 19 is not installed")

NOON = sky_of(Light(47.5, 9.4, 2.0, "2026-06-21", 12.0))
GREY = Material("Grey", (0.5, 0.5, 0.5, 1.0))
DARK = Material("Dark", (0.02, 0.02, 0.02, 1.0), roughness=1.0)
WHITE = 1.2 * 2.0**14


@pytest.fixture(scope="module")
def engine() -> ModuleType:
    os.environ.pop("ALTANA_TRACE_PLAIN", None)
    return start_engine()[0]


def traced(
    engine: ModuleType,
    model: Model,
    sights: Sights,
    samples: int = 8,
    sky: Sky = NOON,
    staging: Staging = WHOLE,
    white: bool = False,
    sky_shown: bool = True,
) -> Sums:
    """The sums of a small picture."""
    scenes = SceneMaker(engine, model, white).make(sky, staging)
    tracer = Tracer(engine, scenes, sky, 1e6, sky_shown=sky_shown)
    sums = Sums.empty(sights.size)
    for _ in range(samples):
        tracer.add(sights, sums)
    return sums


def light_of(sums: Sums) -> Floats32:
    return sums.mean


def ahead(eye: Vec3 = (0.0, 0.0, 1.6), width: int = 64, **more: float) -> View:
    return View(Pose(eye), Lens(24, **more), width, width * 9 // 16)


def test_a_closed_room_is_dark(engine: ModuleType, room: Model) -> None:
    sums = traced(engine, room, FlatSights(ahead((3.0, 1.0, 1.6))), 16)
    assert light_of(sums).max() <= 1e-4 * NOON.scale


def test_a_white_furnace_gives_back_what_it_gets(engine: ModuleType, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(scenes_module, "sky_picture", lambda sky: np.full((64, 128, 3), 1000.0, np.float32))
    night = replace(NOON, sun_lux=(0.0, 0.0, 0.0))
    block = model_of(("Block", box_between((-1, 4, 0), (1, 6, 3)), GREY))
    sums = traced(engine, block, FlatSights(ahead()), 64, night, white=True)
    middle = light_of(sums)[12:24, 28:36]
    assert middle.mean() == pytest.approx(0.78 * 1000.0, rel=0.01)


def test_ground_in_the_sun_takes_few_samples(engine: ModuleType) -> None:
    """Rays sent for the sun and for the sky by equal shares leave a sample off by three quarters of its
    light."""
    ground = model_of(("Ground", box_between((-50, -50, -1), (50, 50, 0)), GREY))
    down = View(Pose((0.0, 0.0, 6.0), tilt_deg=-60.0), Lens(24), 48, 27)
    assert traced(engine, ground, FlatSights(down), 16).grain * np.sqrt(16.0) < 0.45


@pytest.mark.slow
def test_twice_the_lamp_is_twice_the_light(engine: ModuleType, room: Model) -> None:
    def lit(strength: float) -> float:
        lamp = Material("Lamp", (1.0, 1.0, 1.0, 1.0), emission=(strength,) * 3)
        parts = [
            (item.name, box_between((-0.2, -0.2, -0.3), (6.2, 4.2, 0.0)), GREY) for item in room.objects[:1]
        ]
        whole = model_of(
            *parts,
            ("Ceiling", box_between((-0.2, -0.2, 3.0), (6.2, 4.2, 3.2)), GREY),
            ("West", box_between((-0.2, -0.2, 0.0), (0.0, 4.2, 3.0)), GREY),
            ("East", box_between((6.0, -0.2, 0.0), (6.2, 4.2, 3.0)), GREY),
            ("South", box_between((0.0, -0.2, 0.0), (6.0, 0.0, 3.0)), GREY),
            ("North", box_between((0.0, 4.0, 0.0), (6.0, 4.2, 3.0)), GREY),
            ("Lamp", box_between((2.8, 1.8, 2.9), (3.2, 2.2, 2.95)), lamp),
        )
        return float(light_of(traced(engine, whole, FlatSights(ahead((3.0, 0.3, 1.2))), 32)).mean())

    assert lit(2.0) == pytest.approx(2.0 * lit(1.0), rel=1e-3)


MARKS = [(0.0, 10.0, 1.6), (3.0, 10.0, 2.4), (-4.0, 8.0, 0.9), (2.0, 6.0, 0.6)]


def marks(*more: tuple[str, object, Material]) -> Model:
    shining = Material("Shining", (1.0, 1.0, 1.0, 1.0), emission=(50.0,) * 3)
    parts = [
        (f"Mark {index}", box_between(np.subtract(p, 0.06), np.add(p, 0.06)), shining)  # type: ignore[arg-type]
        for index, p in enumerate(MARKS)
    ]
    return model_of(("Wall", box_between((-60, 14, -30), (60, 15, 40)), DARK), *parts, *more)  # type: ignore[arg-type]


def found(light: Floats32, px: float, py: float) -> tuple[float, float]:
    x0, y0 = int(px) - 12, int(py) - 12
    patch = light[y0 : y0 + 24, x0 : x0 + 24].max(axis=2)
    weight = np.clip(patch - np.median(patch) * 3.0 - 2000.0, 0.0, None)
    y, x = np.mgrid[0:24, 0:24] + 0.5
    return x0 + float((x * weight).sum() / weight.sum()), y0 + float((y * weight).sum() / weight.sum())


SCREEN = ("Screen", box_between((-9, 2.0, -9), (9, 2.1, 9)), DARK)
BACK = (
    "Back",
    box_between((-60, 20, -30), (60, 21, 40)),
    Material("Lit", (1, 1, 1, 1), emission=(20.0,) * 3),
)
CUT = WallCut((0.0, 2.1, 0.0), 0.0, depth_m=0.3)


@pytest.mark.parametrize(
    ("more", "extra"),
    [
        pytest.param({}, (), marks=pytest.mark.slow),
        ({"rise_mm": 5.0, "cross_mm": -4.0}, ()),
        pytest.param({"near_m": 3.0}, (SCREEN,), marks=pytest.mark.slow),
        pytest.param({"far_m": 12.5}, (BACK,), marks=pytest.mark.slow),
        pytest.param({"cuts": (CUT,)}, (SCREEN,), marks=pytest.mark.slow),
    ],
    ids=["plain", "shifted", "near", "far", "wall cut"],
)
def test_marks_lie_where_the_camera_says(
    engine: ModuleType, more: dict[str, object], extra: tuple[tuple[str, object, Material], ...]
) -> None:
    lens = Lens(24, **{k: v for k, v in more.items() if k.endswith("_mm")})  # type: ignore[arg-type]
    bounds = {k: v for k, v in more.items() if not k.endswith("_mm")}
    view = View(Pose((0.0, 0.0, 1.6)), lens, 640, 360, **bounds)  # type: ignore[arg-type]
    model = marks(*extra)
    sights = FlatSights(view, rays=RayScene.of(model), faces=len(model.faces))
    light = light_of(traced(engine, model, sights, 12, replace(NOON, sun_lux=(0.0, 0.0, 0.0))))
    for px, py, _ in view.project(np.array(MARKS)).tolist():
        if 14 < px < 626 and 14 < py < 346:
            assert found(light, px, py) == pytest.approx((px, py), abs=0.5)
    if "far_m" in more:
        # The wall lies beyond the bound and is not seen: sky instead.
        wall = light[20, 320]
        assert wall == pytest.approx(sky_light(NOON, view.rays(np.array([[320.5, 20.5]])))[0], rel=0.05)


def test_a_picture_beyond_this_machines_memory_is_refused_before_it_begins(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setattr("altana.jobs.tracing.free_bytes", lambda: 2_000_000_000)
    check_memory((1920, 1080), 100_000)
    with pytest.raises(UserError, match=r"16384 × 16384 px needs about 84\.\d GB .* 2\.0 GB are free"):
        check_memory((16384, 16384), 100_000)


@pytest.mark.slow
def test_marks_lie_where_they_should_in_a_panorama(engine: ModuleType) -> None:
    eye = (0.0, 0.0, 1.6)
    light = light_of(traced(engine, marks(), RoundSights(eye, 20.0, (1024, 512)), 12))
    for mark in MARKS:
        x, y, z = np.subtract(mark, eye)
        heading, up = np.degrees(np.arctan2(x, y)) - 20.0, np.degrees(np.arctan2(z, np.hypot(x, y)))
        px, py = 1024 * (0.5 + heading / 360.0), 512 * (0.5 - up / 180.0)
        assert found(light, px, py) == pytest.approx((px, py), abs=0.5)


@pytest.mark.slow
def test_bounds_change_no_shadow_and_no_bounced_light(engine: ModuleType) -> None:
    model = model_of(
        ("Ground", box_between((-20, -20, -0.2), (20, 40, 0)), GREY),
        ("Wall", box_between((-4, 3, 0), (4, 3.2, 3)), GREY),
        ("Far wall", box_between((-9, 12, 0), (9, 12.3, 6)), GREY),
    )
    low = replace(NOON, sun=(0.0, -0.8, 0.6))
    free = View(Pose((0.0, 0.0, 1.6)), Lens(24), 96, 54, near_m=3.3)
    past = light_of(traced(engine, model, FlatSights(free), 48, low, white=True))
    # The same floor seen over the wall from above it, where nothing needs to be cut.
    point = np.array([[0.0, 5.0, 0.0], [1.5, 5.5, 0.0]])
    px = free.project(point)[:, :2]
    above = View(Pose((0.0, 5.2, 4.0), 0.0, -89.0), Lens(24), 96, 54)
    there = light_of(traced(engine, model, FlatSights(above), 48, low, white=True))
    qx = above.project(point)[:, :2]

    def at(light: Floats32, place: np.ndarray) -> float:
        x, y = int(place[0]), int(place[1])
        return float(light[y - 1 : y + 2, x - 1 : x + 2].mean())

    for a, b in zip(px, qx, strict=True):
        assert at(past, a) == pytest.approx(at(there, b), rel=0.15)
    # In the shadow of the wall that was cut away.
    assert at(past, px[0]) < 0.65 * 0.78 * NOON.sun_lux[0] * 0.6 / np.pi


def test_a_picture_followed_in_bands_is_that_followed_whole(
    engine: ModuleType, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The rays of the next band, or of the next sample, are made while those of one are followed."""
    model, sights = marks(), FlatSights(ahead(width=96))
    whole = traced(engine, model, sights, 3)
    monkeypatch.setattr(tracer_module, "LAUNCH_RAYS", 96 * 10)
    scenes, sums, asked = SceneMaker(engine, model).make(NOON, WHOLE), Sums.empty(sights.size), []
    tracer = Tracer(engine, scenes, NOON, 1e6)

    def once(share: float) -> bool:
        asked.append(share)
        return len(asked) < 3

    tracer.add(sights, sums)
    # Left off between bands, and by another who follows rays of the same number through the same scene.
    assert not tracer.add(sights, sums, once) and sums.samples == 1
    Tracer(engine, scenes, NOON, 1e6).add(FlatSights(ahead((1.0, 0.0, 1.6), 96)), Sums.empty(sights.size))
    for _ in range(2):
        tracer.add(sights, sums)
    assert len(bands(sights.size)) == 6 and np.array_equal(sums.light, whole.light)


def test_the_same_samples_are_the_same_bytes_however_they_came(engine: ModuleType) -> None:
    model, sights = marks(), FlatSights(ahead(width=96))
    whole = traced(engine, model, sights, 6)
    scenes = SceneMaker(engine, model).make(NOON, WHOLE)
    first = Tracer(engine, scenes, NOON, 1e6)
    sums = Sums.empty(sights.size)
    for _ in range(2):
        first.add(sights, sums)
    # Broken off in the middle of a sample, and gone on with by another process: a fresh scene.
    assert not first.add(sights, sums, lambda _: False)
    second = Tracer(engine, SceneMaker(engine, model).make(NOON, WHOLE), NOON, 1e6)
    for _ in range(4):
        second.add(sights, sums)
    assert sums.samples == 6
    assert (sums.light == whole.light).all()
    assert whole.grain > 0.0


def test_without_a_sky_only_what_stands_there_covers(engine: ModuleType) -> None:
    model = model_of(("Block", box_between((-1, 6, 0), (1, 7, 3)), GREY))
    view = ahead(width=96)
    sums = traced(engine, model, FlatSights(view), 8, sky_shown=False)
    cover = sums.cover / sums.samples
    px, py, _ = view.project(np.array([(0.0, 6.0, 1.5)]))[0]
    assert cover[int(py), int(px)] == 1.0
    assert cover[:6].max() == 0.0
    assert sums.light[:6].max() == 0.0


def test_sun_and_sky_come_in_through_panes(engine: ModuleType) -> None:
    def lit(pane: Material | None) -> float:
        parts = [
            ("Floor", box_between((0, 0, -0.2), (4, 4, 0)), GREY),
            ("Roof", box_between((0, 0, 3), (4, 4, 3.2)), GREY),
            ("Back", box_between((0, 4, 0), (4, 4.2, 3)), GREY),
            ("Left", box_between((-0.2, 0, 0), (0, 4, 3)), GREY),
            ("Right", box_between((4, 0, 0), (4.2, 4, 3)), GREY),
        ]
        if pane is not None:
            parts.append(("Pane", box_between((0, -0.02, 0), (4, 0, 3)), pane))
        sums = traced(engine, model_of(*parts), FlatSights(ahead((2.0, 0.6, 1.6))), 24)  # type: ignore[arg-type]
        return float(light_of(sums)[18:].mean())

    clear = Material("Clear", (0.95, 0.97, 0.97, 0.1), kind=GLASS, roughness=0.02)
    assert 0.6 < lit(clear) / lit(None) < 0.95


@pytest.mark.slow
def test_the_tip_of_a_shadow_lies_where_it_is_reckoned_live_and_final(engine: ModuleType) -> None:
    model = model_of(
        ("Ground", box_between((-60, -60, -0.5), (60, 60, 0)), Material("Pale", (0.8, 0.8, 0.8, 1.0))),
        ("Pole", box_between((-0.4, -0.4, 0), (0.4, 0.4, 10)), DARK),
    )
    # From due south, so that the shadow ends in a straight edge: the far edge of the pole's top.
    sky = replace(NOON, sun=(0.0, -0.8, 0.6))
    run = np.array([0.0, 1.0])
    tip = np.array([0.0, 0.4 + 10.0 * 0.8 / 0.6, 0.0])
    view = View(Pose((float(tip[0]), float(tip[1]), 28.0), 0.0, -89.9), Lens(50), 480, 480)
    beside = np.array([tip - np.append(run, 0) * 1.6, tip + np.append(run, 0) * 1.6])
    (ax, ay, _), (bx, by, _) = view.project(beside).tolist()

    def edge(picture: np.ndarray) -> float:
        """Where along the line from shadow into sun the brightness passes the middle, pixels from the
        beginning."""
        steps = np.linspace(0.0, 1.0, 400)
        line = ndimage.map_coordinates(
            picture, [ay + (by - ay) * steps - 0.5, ax + (bx - ax) * steps - 0.5], order=1
        )
        smooth = np.convolve(line, np.ones(9) / 9, "same")[9:-9]
        half = (smooth[:20].mean() + smooth[-20:].mean()) / 2
        return float(steps[9:-9][np.argmax(smooth > half)]) * float(np.hypot(bx - ax, by - ay))

    wanted = float(np.hypot(bx - ax, by - ay)) / 2
    final = light_of(traced(engine, model, FlatSights(view), 24, sky)).mean(axis=2)
    assert edge(final) == pytest.approx(wanted, abs=1.0)
    live = Renderer(model)
    shown = live.picture(view, sky, 14.0, Quality(passes=8, shadow_px=4096, contact=False))
    live.close()
    assert shown is not None
    assert edge(shown.astype(float).mean(axis=2)) == pytest.approx(wanted, abs=1.0)


@pytest.mark.slow
def test_depth_of_field_keeps_sharp_what_is_in_focus(engine: ModuleType) -> None:
    view = View(Pose((0.0, 0.0, 1.6)), Lens(85), 320, 180)
    near, far = (-0.4, 4.0, 1.6), (1.2, 12.0, 1.6)
    shining = Material("Shining", (1.0, 1.0, 1.0, 1.0), emission=(50.0,) * 3)
    model = model_of(
        ("Near", box_between(np.subtract(near, 0.008), np.add(near, 0.008)), shining),  # type: ignore[arg-type]
        ("Far", box_between(np.subtract(far, 0.025), np.add(far, 0.025)), shining),  # type: ignore[arg-type]
        ("Wall", box_between((-60, 30, -30), (60, 31, 40)), DARK),
    )

    def spread(focus_m: float, place: Vec3) -> float:
        light = light_of(traced(engine, model, FlatSights(view, aperture(85.0, 1.4, focus_m)), 8))
        px, py, _ = view.project(np.array([place]))[0]
        x0, y0 = int(px) - 30, int(py) - 30
        patch = np.clip(light[y0 : y0 + 60, x0 : x0 + 60].max(axis=2) - 3000.0, 0.0, None)
        return float((patch > 0.05 * patch.max()).sum())

    assert spread(4.0, near) < spread(12.0, near) / 3
    assert spread(12.0, far) < spread(4.0, far) / 2


def test_guides_and_denoising(engine: ModuleType) -> None:
    red = Material("Red", (0.8, 0.05, 0.05, 1.0))
    pane = Material("Clear", (0.95, 0.97, 0.97, 0.1), kind=GLASS)
    model = model_of(
        ("Pane", box_between((-3, 3, 0), (3, 3.02, 3)), pane),
        ("Wall", box_between((-3, 5, 0), (3, 5.2, 3)), red),
    )
    sights = FlatSights(ahead(width=96))
    scenes = SceneMaker(engine, model).make(NOON, WHOLE)
    tracer = Tracer(engine, scenes, NOON, WHITE)
    guides = tracer.guides(sights)
    # What is seen through the pane guides, not the pane.
    assert guides.albedo[27, 48, 0] > 4 * guides.albedo[27, 48, 1]
    assert guides.normal[27, 48] == pytest.approx((0.0, -1.0, 0.0), abs=0.05)
    few, many = Sums.empty(sights.size), Sums.empty(sights.size)
    for _ in range(4):
        tracer.add(sights, few)
    for _ in range(32):
        tracer.add(sights, many)
    truth = light_of(many)
    before = np.abs(light_of(few) - truth).mean()
    assert np.abs(denoised(light_of(few), guides) - truth).mean() < before


def test_a_nudged_and_a_left_out_thing_are_traced_as_staged(engine: ModuleType) -> None:
    model, sights = marks(), FlatSights(ahead(width=160))
    whole = light_of(traced(engine, model, sights, 4))
    without = light_of(traced(engine, model, sights, 4, staging=Staging(omitted=(1,))))
    px, py, _ = sights.view.project(np.array(MARKS[:1]))[0]
    assert whole[int(py), int(px)].max() > 20 * without[int(py), int(px)].max()


def test_a_room_lit_by_few_bright_places_is_not_dimmed(engine: ModuleType) -> None:
    """At the exposure of a dim room, where the patch of sun on its floor is hundreds of times as bright as
    white, the walls are as light as at that of the patch."""
    roof = [
        box_between((0, 0, 2.7), (6, 1.8, 2.9)),
        box_between((0, 2.2, 2.7), (6, 4, 2.9)),
        box_between((0, 1.8, 2.7), (2.8, 2.2, 2.9)),
        box_between((3.2, 1.8, 2.7), (6, 2.2, 2.9)),
    ]
    walls = [
        box_between((0, 0, -0.2), (6, 4, 0)),
        box_between((-0.2, 0, -0.2), (0, 4, 2.9)),
        box_between((6, 0, -0.2), (6.2, 4, 2.9)),
        box_between((0, -0.2, -0.2), (6, 0, 2.9)),
        box_between((0, 4, -0.2), (6, 4.2, 2.9)),
    ]
    model = model_of(*((f"Part {n}", mesh, GREY) for n, mesh in enumerate(roof + walls)))
    scenes = SceneMaker(engine, model).make(NOON, WHOLE)
    sights = FlatSights(View(Pose((1.0, 3.5, 1.5), 315.0), Lens(24), 48, 27))
    levels = []
    for white in (10.0, 1e6):
        tracer, sums = Tracer(engine, scenes, NOON, white), Sums.empty(sights.size)
        for _ in range(24):
            tracer.add(sights, sums)
        levels.append(float(sums.mean.mean()))
    assert levels[0] == pytest.approx(levels[1], rel=0.02)
    assert levels[1] > 1.0


@pytest.mark.slow
def test_a_thin_bar_before_a_bright_sky_stays_as_dark_as_in_the_frame(engine: ModuleType) -> None:
    bars = [
        (f"Bar {n}", box_between((0.2 * n - 2, -5.01, -1), (0.2 * n - 1.9, -5, 5)), DARK) for n in range(20)
    ]
    model, view = model_of(*bars), View(Pose((0.0, 0.0, 1.6), 180.0, 4.0), Lens(24), 96, 54)
    dim = 1.2 * 2.0**8
    scenes = SceneMaker(engine, model).make(NOON, WHOLE)
    tracer, sums = Tracer(engine, scenes, NOON, dim), Sums.empty((96, 54))
    for _ in range(32):
        tracer.add(FlatSights(view), sums)
    renderer = Renderer(model)
    try:
        live = renderer.master(view, NOON, Quality(passes=32), False, ev=8.0)
    finally:
        renderer.close()
    assert live is not None
    middle = np.s_[20:40, 30:70]
    final_white, live_white = (
        np.minimum(light[middle] / dim, 1.0).mean() for light in (sums.mean, live.light)
    )
    sky = np.minimum(sky_light(NOON, view.rays(np.array([(48.0, 20.0)])))[0] / dim, 1.0).mean()
    assert sky == 1.0
    assert final_white < 0.97
    assert final_white == pytest.approx(live_white, abs=0.04)


def test_pictures_on_things_stand_as_in_the_frame(engine: ModuleType) -> None:
    """Four quarters of four colours: none upside down or the wrong way round."""
    picture, buffer = np.full((64, 64, 4), 255, np.uint8), io.BytesIO()
    for rows, columns, colour in (
        (slice(32), slice(32), (220, 20, 20)),
        (slice(32), slice(32, 64), (20, 220, 20)),
        (slice(32, 64), slice(32), (20, 20, 220)),
    ):
        picture[rows, columns, :3] = colour
    Image.fromarray(picture).save(buffer, "PNG")
    card = trimesh.Trimesh([(-2, 3, 0), (2, 3, 0), (2, 3, 4), (-2, 3, 4)], [(0, 1, 2), (0, 2, 3)])
    model = model_of(("Card", card, Material("Card", (1.0, 1.0, 1.0, 1.0), 0)))
    uvs = np.column_stack([(model.vertices[:, 0] + 2) / 4, model.vertices[:, 2] / 4]).astype(np.float32)
    model = replace(model, uvs=uvs, images=(EncodedImage("card", buffer.getvalue()),))
    view = View(Pose((0.0, 0.0, 2.0)), Lens(36), 40, 40)
    live = live_light(model, view, NOON, 4)
    final = light_of(traced(engine, model, FlatSights(view), 8))
    for y, x in ((12, 12), (12, 28), (28, 12)):
        shown = final[y, x] / final[y, x].max()
        assert shown == pytest.approx(live[y, x] / live[y, x].max(), abs=0.05)
        assert np.sort(shown)[1] < 0.1
    assert final[28, 28].min() > 0.5 * final[28, 28].max()


def test_a_painted_thing_has_its_paint(engine: ModuleType) -> None:
    view = ahead(width=48)
    block = model_of(("Block", box_between((-3, 4, -2), (3, 5, 4)), Material("Plain", (1.0, 0.5, 1.0, 1.0))))
    painted = replace(block, colours=np.tile(np.uint8([255, 128, 40, 255]), (len(block.vertices), 1)))
    shade = float(encoded(decoded(np.array([128 / 255.0])) * decoded(np.array([0.5])))[0])
    same = model_of(
        ("Block", box_between((-3, 4, -2), (3, 5, 4)), Material("Same", (1.0, shade, 40 / 255, 1.0)))
    )
    light = light_of(traced(engine, painted, FlatSights(view), 8))[10:17, 18:30].mean(axis=(0, 1))
    wanted = light_of(traced(engine, same, FlatSights(view), 8))[10:17, 18:30].mean(axis=(0, 1))
    assert light == pytest.approx(wanted, rel=0.03)


def test_a_picture_on_a_painted_thing_has_both(engine: ModuleType) -> None:
    view, data = ahead(width=48), io.BytesIO()
    Image.new("RGB", (4, 4), (255, 128, 255)).save(data, "PNG")
    block = model_of(("Block", box_between((-3, 4, -2), (3, 5, 4)), Material("Brick", (1, 1, 1, 1), 0)))
    block = replace(block, images=(EncodedImage("a.png", data.getvalue()),))
    painted = replace(block, colours=np.tile(np.uint8([255, 255, 128, 255]), (len(block.vertices), 1)))
    half = 128 / 255
    same = model_of(("Block", box_between((-3, 4, -2), (3, 5, 4)), Material("Same", (1.0, half, half, 1.0))))
    light, wanted = (
        light_of(traced(engine, model, FlatSights(view), 8))[10:17, 18:30].mean(axis=(0, 1))
        for model in (painted, same)
    )
    assert light == pytest.approx(wanted, rel=0.03)
    guides = Tracer(engine, SceneMaker(engine, painted).make(NOON, WHOLE), NOON, WHITE).guides(
        FlatSights(view)
    )
    assert guides.albedo[13, 24, 1] < 0.5 * guides.albedo[13, 24, 0]


def test_what_is_seen_through_holes_guides_too(engine: ModuleType) -> None:
    buffer, picture = io.BytesIO(), np.zeros((8, 8, 4), np.uint8)
    picture[:4] = (30, 160, 30, 255)
    Image.fromarray(picture).save(buffer, "PNG")
    leaf = Material("Leaf", (1.0, 1.0, 1.0, 1.0), 0, alpha="mask")
    card = trimesh.Trimesh([(-2, 3, 0), (2, 3, 0), (2, 3, 4), (-2, 3, 4)], [(0, 1, 2), (0, 2, 3)])
    red = Material("Red", (0.8, 0.1, 0.1, 1.0))
    model = model_of(("Leaf", card, leaf), ("Wall", box_between((-6, 5, -3), (6, 5.2, 8)), red))
    uvs = np.column_stack([(model.vertices[:, 0] + 2) / 4, model.vertices[:, 2] / 4]).astype(np.float32)
    model = replace(model, uvs=uvs, images=(EncodedImage("leaf", buffer.getvalue()),))
    view = View(Pose((0.0, 0.0, 2.0)), Lens(36), 40, 40)
    scenes = SceneMaker(engine, model).make(NOON, WHOLE)
    guides = Tracer(engine, scenes, NOON, WHITE).guides(FlatSights(view))
    high, low = guides.albedo[15, 20], guides.albedo[25, 20]
    assert high[1] > 3 * high[0]
    assert low[0] > 3 * low[1]


def test_where_there_is_no_compiler_it_is_said(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("ALTANA_TRACE_PLAIN", "1")
    assert llvm_library() == ""


def test_pictures_taken_in_turn_are_those_taken_alone(engine: ModuleType) -> None:
    """What is recorded at the first launch holds for other sizes, seeds and places of the sun."""
    pane = Material("Clear", (0.95, 0.97, 0.97, 0.1), kind=GLASS)
    model = model_of(
        ("Pane", box_between((-3, 1.5, 0), (3, 1.52, 3)), pane),
        ("Ground", box_between((-9, -9, -1), (9, 9, 0)), GREY),
    )
    maker, widths, aside = SceneMaker(engine, model), (48, 80, 48), (0.0, 0.0, 1.0)
    views = [FlatSights(ahead((x, 0.0, 1.6), width=width)) for x, width in zip(aside, widths, strict=True)]
    shared = maker.make(NOON, WHOLE)
    turned = [Sums.empty(sights.size) for sights in views]
    for _ in range(2):
        for number, sights in enumerate(views):
            Tracer(engine, shared, NOON, WHITE, seed=5 + number).add(sights, turned[number])
    for number, sights in enumerate(views):
        alone = Tracer(engine, maker.make(NOON, WHOLE), NOON, WHITE, seed=5 + number)
        sums = Sums.empty(sights.size)
        for _ in range(2):
            alone.add(sights, sums)
        assert np.array_equal(turned[number].light, sums.light)
        guides = Tracer(engine, shared, NOON, WHITE).guides(sights), alone.guides(sights)
        assert np.array_equal(guides[0].albedo, guides[1].albedo)
        assert np.array_equal(guides[0].normal, guides[1].normal)
    assert not np.array_equal(turned[0].light, turned[2].light)


@pytest.mark.parametrize("rough", [0.1, 0.4, 0.8])
def test_soft_light_is_thrown_back_as_final_surfaces_throw_it(engine: ModuleType, rough: float) -> None:
    """Of a grey and a black surface, by 200 000 draws of the path tracer's own."""
    import drjit as dr

    count, random = 200_000, np.random.default_rng(1)
    u, v, *draws = random.random((5, count))
    level, turn = np.sqrt(u), 2 * np.pi * v
    for shade in (0.0, 0.5):
        surface = engine.load_dict(
            {
                "type": "principled",
                "base_color": {"type": "rgb", "value": [shade] * 3},
                "roughness": rough,
                "specular": 0.5,
            }
        )
        met = dr.zeros(engine.SurfaceInteraction3f, count)
        met.wi = engine.Vector3f(level * np.cos(turn), level * np.sin(turn), np.sqrt(1 - u))
        met.sh_frame = engine.Frame3f(engine.Normal3f(0, 0, 1))
        _, thrown = surface.sample(
            engine.BSDFContext(), met, engine.Float(draws[0]), engine.Point2f(draws[1], draws[2])
        )
        wanted = float(np.nan_to_num(np.array(thrown)[0]).mean())
        displayed = float(encoded(np.array([shade]))[0])
        model = model_of(
            (
                "Block",
                box_between((0, 0, 0), (1, 1, 1)),
                Material("M", (displayed,) * 3 + (1.0,), roughness=rough),
            )
        )
        assert albedos(model)[0] == pytest.approx([wanted] * 3, abs=0.006)


def test_of_things_in_one_plane_the_smaller_is_traced_as_in_the_frame(engine: ModuleType) -> None:
    """A rug let into a floor, and a stripe across both, with no streaks of what lies in the same plane."""
    shades = [(0.8, 0.8, 0.8, 1.0), (0.8, 0.1, 0.1, 1.0), (0.1, 0.1, 0.8, 1.0)]
    boxes = [
        box_between((-3, 2, -0.2), (3, 8, 0)),
        box_between((-1.5, 3, -0.1), (1.5, 5, 0)),
        box_between((-3, 3.8, -0.1), (3, 4.2, 0)),
    ]
    parts = [
        (name, box, Material(name, shade)) for name, box, shade in zip("abc", boxes, shades, strict=True)
    ]
    view = View(Pose((0.0, 0.0, 1.6), 0.0, -20.0), Lens(24), 96, 54)
    light = light_of(traced(engine, model_of(*parts), FlatSights(view), 8))
    for place, wanted in (((0.0, 3.4), 0), ((-1.0, 4.6), 0), ((0.0, 4.0), 2), ((-2.2, 4.0), 2)):
        ((x, y, _),) = view.project(np.array([[*place, 0.0]]))
        around = light[int(y), int(x) - 2 : int(x) + 3]
        # Red or blue in every pixel, not here and there.
        assert (around[:, wanted] > 2.0 * around[:, 2 - wanted]).all()


@pytest.mark.parametrize(
    "rough", [*(pytest.param(rough, marks=pytest.mark.slow) for rough in (0.3, 0.5)), 0.8]
)
def test_metal_in_the_sun_is_as_bright_as_in_final_pictures(engine: ModuleType, rough: float) -> None:
    """The top of a metal block beside plain ground, seen at three angles; it was more than twice as bright
    where it was rough."""
    metal = Material("Steel", (0.6, 0.6, 0.62, 1.0), roughness=rough, metal=1.0)
    model = model_of(
        ("Block", box_between((-2, 3, 0), (2, 7, 0.5)), metal),
        ("Ground", box_between((-40, -40, -0.5), (40, 40, 0)), GREY),
    )
    for heading, eye in ((0.0, (0.0, 0.0, 1.6)), (180.0, (0.0, 10.0, 1.6)), (0.0, (0.0, 1.5, 3.5))):
        tilt = -np.degrees(np.arctan2(eye[2] - 0.5, abs(5.0 - eye[1])))
        view = View(Pose(eye, heading, tilt), Lens(50), 48, 27)
        live = live_light(model, view, NOON, 4)[9:18, 16:32].mean()
        final = light_of(traced(engine, model, FlatSights(view), 16))[9:18, 16:32].mean()
        assert live == pytest.approx(final, rel=0.2)


def test_far_things_lie_in_the_air_as_in_the_frame(engine: ModuleType) -> None:
    """Hills had been as dark and clear as things near by in final pictures; seen through a pane they are as
    far away."""
    dark = Material("Hill", (0.02, 0.02, 0.02, 1.0), roughness=1.0)
    parts = [
        ("Near", box_between((-60, 100, 0), (0, 110, 30)), dark),
        ("Far", box_between((0, 1500, 0), (900, 1510, 450)), dark),
        ("Ground", box_between((-2000, -2000, -1), (2000, 2000, 0)), GREY),
    ]
    glass = Material("Glass", (1.0, 1.0, 1.0, 0.02), kind=GLASS, roughness=0.02)
    # A pane, and black behind the eye, so that it mirrors nothing.
    pane = ("Pane", box_between((-2, 2, 0), (2, 2.01, 4)), glass)
    black = ("Black", box_between((-20, -3, 0), (20, -2, 30)), DARK)
    view = View(Pose((0.0, 0.0, 1.6), 0.0, 5.0), Lens(35), 64, 36)
    shades = {}
    for some in (parts, [*parts, pane, black]):
        model = model_of(*some)
        live = live_light(model, view, NOON, 6)
        final = light_of(traced(engine, model, FlatSights(view), 24))
        for name, part in (("near", np.s_[10:14, 18:28]), ("far", np.s_[10:14, 36:46])):
            shades[name, len(some)] = float(final[part].mean())
            if some is parts:
                assert final[part].mean() == pytest.approx(live[part].mean(), rel=0.1)
    assert shades["far", 3] > 3.0 * shades["near", 3]
    assert shades["far", 5] == pytest.approx(0.81 * shades["far", 3], rel=0.1)


@pytest.mark.parametrize(
    ("rough", "hour"), [(0.25, 10.0), pytest.param(0.4, 8.0, marks=pytest.mark.slow), (0.9, 7.0)]
)
def test_paint_in_the_sun_is_as_bright_as_in_final_pictures(
    engine: ModuleType, rough: float, hour: float
) -> None:
    """A dark and a light top, seen towards the sun, away from it and from above; a roof towards the sun was
    an eighth as bright as it must be."""
    sun = sky_of(Light(47.5, 9.4, 2.0, "2026-06-21", hour))
    # No light but the sun's, and nothing that throws it back.
    sun = replace(sun, scale=1e-6)
    paints = [
        Material(f"Paint {value}", (value, value, value, 1.0), roughness=rough) for value in (0.15, 0.7)
    ]
    parts = [
        (item.name, box_between((-40 + side * 40, -40, -0.5), (side * 40, 40, 0)), item)
        for side, item in enumerate(paints)
    ]
    model = model_of(*parts)
    towards = float(np.degrees(np.arctan2(sun.sun[0], sun.sun[1])))
    for heading, tilt in (
        (towards, -np.degrees(np.arcsin(sun.sun[2]))),
        (towards + 180.0, -25.0),
        (towards, -80.0),
    ):
        view = View(Pose((0.0, 0.0, 2.0), heading % 360.0, float(tilt)), Lens(80), 48, 27)
        live = live_light(model, view, sun, 4)
        final = light_of(traced(engine, model, FlatSights(view), 24, sun))
        for half in (np.s_[6:21, 4:18], np.s_[6:21, 30:44]):
            assert live[half].mean() == pytest.approx(final[half].mean(), rel=0.06)


@pytest.mark.parametrize("hour", [pytest.param(9.0, marks=pytest.mark.slow), 18.5])
def test_a_scene_with_another_light_is_as_if_made_with_it(
    engine: ModuleType, room: Model, hour: float
) -> None:
    """The same bytes as of a scene made anew; a sun that is gone, and a sky of another size, need one."""
    view, maker = FlatSights(ahead((3.0, -6.0, 1.6))), SceneMaker(engine, room)
    later = sky_of(Light(47.5, 9.4, 2.0, "2026-06-21", hour))
    moved, fresh = maker.make(NOON, WHOLE), maker.make(later, WHOLE)
    Tracer(engine, moved, NOON, WHITE).add(view, Sums.empty(view.size))
    assert moved.relit(engine, later)
    sums = []
    for scenes in (moved, fresh):
        relit = Sums.empty(view.size)
        for _ in range(2):
            Tracer(engine, scenes, later, WHITE).add(view, relit)
        sums.append(relit)
    assert np.array_equal(sums[0].light, sums[1].light) and sums[0].light.max() > 0.0
    night = sky_of(Light(47.5, 9.4, 2.0, "2026-06-21", 1.0))
    assert not moved.relit(engine, night)
    assert not maker.make(night, WHOLE).relit(engine, NOON)
