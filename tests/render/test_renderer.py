"""Pictures against what must be in them: marks where the mathematics says, tiles without seams, bounds that
leave light alone."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace

import numpy as np
import pytest
import trimesh
from scipy import ndimage

from altana.core.camera.pose import Pose
from altana.core.camera.view import Blur, Lens, View, part_of
from altana.core.light.lightmap import spread
from altana.core.light.sky import HORIZON, ZENITH, sky_of
from altana.core.light.transport import solve
from altana.core.model import GLASS, Material, Model
from altana.core.project import Light
from altana.render import quality as module
from altana.render.context import SHADERS, shader
from altana.render.encode import still_bytes
from altana.render.images import albedos
from altana.render.quality import COARSE, FULL, STILL, Quality, for_size
from altana.render.renderer import Renderer
from altana.render.shadows import ShadowMaps
from tests.conftest import box_between, model_of

SKY = sky_of(Light(hour=12.0))
WORKED = [(0, 10, 1.6), (3, 10, 1.6), (-4, 8, 0), (2, 9, 3.2), (-3, 12, 4.0)]
EVERYTHING = [(2, 5, 1), (1.5, 6, 2.4), (3.0, 4.0, 0.6)]


def marks(places: list[tuple[float, float, float]]) -> Model:
    """Small bright balls before nothing, and a dark wall far behind them."""
    black = Material("Black", (0.0, 0.0, 0.0, 1.0))
    white = Material("White", (1.0, 1.0, 1.0, 1.0), emission=(1.0, 1.0, 1.0))
    parts = [("Wall", box_between((-300, 80, -300), (300, 81, 300)), black)]
    for index, place in enumerate(places):
        ball = trimesh.creation.icosphere(2, 0.03)
        ball.apply_translation(place)
        parts.append((f"Mark {index}", ball, white))
    return model_of(*parts)


@pytest.fixture(scope="module")
def drawn() -> Iterator[Renderer]:
    renderer = Renderer(marks(WORKED))
    yield renderer
    renderer.close()


@pytest.mark.parametrize(
    "view",
    [
        pytest.param(View(Pose((0, 0, 1.6)), Lens(24), 1920, 1080), marks=pytest.mark.slow),
        pytest.param(View(Pose((0, 0, 1.6), 0, 20), Lens(24), 1920, 1080), marks=pytest.mark.slow),
        pytest.param(
            View(Pose((0, 0, 1.6), 0, 4), Lens(24, rise_mm=4.5, cross_mm=-3.0), 1920, 1080),
            marks=pytest.mark.slow,
        ),
        View(Pose((1, -1, 2.0), 5, -6, 7), Lens(21, rise_mm=-2.0, cross_mm=2.5), 960, 720),
    ],
    ids=["level", "tilted", "shifted", "all"],
)
def test_marks_lie_where_the_formulas_say(drawn: Renderer, view: View) -> None:
    drawn.show(marks(WORKED))
    # The picture itself, and the object numbers, which do not depend on light.
    seen = drawn.facts(view)
    wanted = view.project(np.array(WORKED, float))
    picture = drawn.picture(view, SKY, 11.0, Quality(passes=5, contact=False))
    assert picture is not None
    bright = picture.astype(float).max(axis=2)
    marks_seen = 0
    for index, (px, py, _) in enumerate(wanted):
        if not (20 < px < view.width_px - 20 and 20 < py < view.height_px - 20):
            continue
        rows, columns = np.nonzero(seen.object_index == index + 1)
        assert (columns.mean() + 0.5, rows.mean() + 0.5) == pytest.approx((px, py), abs=0.5)
        x0, y0 = int(px) - 14, int(py) - 14
        patch = bright[y0 : y0 + 28, x0 : x0 + 28]
        # What the wall shows of the sun goes over by a step or two.
        y, x = ndimage.center_of_mass(np.maximum(patch - np.median(patch) - 4.0, 0.0))
        assert (x0 + x + 0.5, y0 + y + 0.5) == pytest.approx((px, py), abs=0.5)
        marks_seen += 1
    assert marks_seen >= 3


def test_facts_of_a_plain_wall() -> None:
    renderer = Renderer(model_of(("Wall", box_between((-9, 5, -9), (9, 6, 9)), Material("W"))))
    facts = renderer.facts(View(Pose((0, 0, 0), 20), Lens(24), 200, 120))
    renderer.close()
    assert (facts.object_index == 0).all()
    view = View(Pose((0, 0, 0), 20), Lens(24), 200, 120)
    ray = view.rays(np.array([[100.5, 60.5]]))[0]
    assert facts.depth_m[60, 100] == pytest.approx(5 / ray[1] * float(ray @ view.pose.forward), rel=1e-3)
    assert facts.normal[60, 100] == pytest.approx((0, -1, 0), abs=1e-3)


@pytest.fixture(scope="module")
def terminal(demo_opened) -> Iterator[Renderer]:  # type: ignore[no-untyped-def]
    renderer = Renderer(demo_opened.model)
    yield renderer
    renderer.close()


@pytest.mark.slow
def test_tiles_meet_without_a_seam(terminal: Renderer, demo_project, monkeypatch: pytest.MonkeyPatch) -> None:  # type: ignore[no-untyped-def]
    camera = demo_project.camera_named("Forecourt")
    view, sky = camera.view(768, 432), sky_of(demo_project.light)
    whole = terminal.picture(view, sky, camera.ev, Quality(passes=2))
    monkeypatch.setattr(module, "TILE_PX", 256)
    tiled = terminal.picture(view, sky, camera.ev, Quality(passes=2))
    assert whole is not None
    assert tiled is not None
    apart = np.abs(whole.astype(int) - tiled.astype(int)).max(axis=2)
    assert (apart > 6).mean() < 2e-3
    steps = np.abs(np.diff(tiled.astype(int).sum(axis=2), axis=1)).mean(axis=0)
    same = np.abs(np.diff(whole.astype(int).sum(axis=2), axis=1)).mean(axis=0)
    for border in (255, 511):
        assert steps[border] == pytest.approx(same[border], abs=1.0)


def test_while_the_sun_moves_one_map_stands_for_both(monkeypatch: pytest.MonkeyPatch) -> None:
    plaster = Material("Plaster", (0.8, 0.8, 0.8, 1.0))
    model = model_of(
        ("Floor", box_between((-15, -15, -0.3), (15, 15, 0)), plaster),
        ("Block", box_between((-1, 8, 0), (1, 10, 3)), plaster),
    )
    maps: list[str] = []
    whole = ShadowMaps._depths

    def noted(self: ShadowMaps, place: tuple[str, int, int], *more: object) -> object:
        maps.append(place[0])
        return whole(self, place, *more)  # type: ignore[arg-type]

    monkeypatch.setattr(ShadowMaps, "_depths", noted)
    renderer, view = Renderer(model), View(Pose((0, 0, 4.0), 0, -15), Lens(24), 320, 180)
    try:
        pictures = []
        for hour in (9.0, 10.0, 10.0):
            maps.clear()
            pictures.append(renderer.picture(view, sky_of(Light(hour=hour)), 13.4, COARSE).astype(int))
            # At rest, and when the camera alone moves, there is the finer one.
            assert maps == (["far"] if len(pictures) == 2 else ["near", "far"])
        maps.clear()
        renderer.picture(view, sky_of(Light(hour=11.0)), 13.4, FULL)
        assert maps == ["near", "far"]
    finally:
        renderer.close()
    # The shadow goes along, and lies where the finer one lies, but for its edge.
    before, moving, resting = pictures
    assert np.abs(moving - before).mean() > 5 * np.abs(moving - resting).mean()
    assert np.abs(moving - resting).mean() < 1.5


def test_only_small_pictures_have_smaller_shadow_maps() -> None:
    small, large = View(Pose((0, 0, 1.6)), Lens(24), 480, 270), View(Pose((0, 0, 1.6)), Lens(24), 4000, 2250)
    assert for_size(Quality(), small).shadow_px == 1024
    assert for_size(Quality(), large).shadow_px == 2048
    # A small part of a large picture has the large one's shadows, and so has a long lens.
    assert for_size(Quality(), part_of(large, (0.4, 0.4, 0.5, 0.5))).shadow_px == 2048
    assert for_size(Quality(), replace(small, lens=Lens(85))).shadow_px == 2048
    # Finer ones that are asked for are had.
    assert for_size(Quality(shadow_px=4096), small).shadow_px == 4096


@pytest.mark.slow
def test_sixteen_thousand_pixels_wide(drawn: Renderer) -> None:
    view = View(Pose((0, 0, 1.6)), Lens(24), 16_000, 400)
    picture = drawn.picture(view, SKY, 11.0, replace(COARSE, shadow_px=256))
    assert picture is not None
    assert picture.shape == (400, 16_000, 3)
    px, py, _ = view.project(np.array([(0.0, 10.0, 1.6)]))[0]
    bright = picture[int(py) - 40 : int(py) + 40, int(px) - 200 : int(px) + 200].max(axis=2) > 180
    _, x = ndimage.center_of_mass(bright)
    assert (x - 200 + int(px) + 0.5) == pytest.approx(px, abs=0.6)


def test_the_same_request_gives_the_same_picture(terminal: Renderer, demo_project) -> None:  # type: ignore[no-untyped-def]
    camera = demo_project.cameras[0]
    sky = sky_of(demo_project.light)
    one, two = (terminal.picture(camera.view(200, 112), sky, camera.ev, FULL, True) for _ in range(2))
    assert one is not None
    assert (one == two).all()


def test_lower_ev_is_brighter_and_passes_smooth(terminal: Renderer, demo_project) -> None:  # type: ignore[no-untyped-def]
    camera, sky = demo_project.camera_named("Forecourt"), sky_of(demo_project.light)
    view = camera.view(240, 135)
    means = [terminal.picture(view, sky, ev, FULL).mean() for ev in (15.0, 14.0, 13.0)]  # type: ignore[union-attr]
    assert means[0] < means[1] < means[2]
    rough = terminal.picture(view, sky, 14.0, Quality(contact=False, divisor=2))
    smooth = terminal.picture(view, sky, 14.0, STILL)
    assert rough is not None
    assert smooth is not None
    assert (
        np.abs(np.diff(smooth.astype(int), axis=1)).mean() < np.abs(np.diff(rough.astype(int), axis=1)).mean()
    )


def test_it_stops_when_told(terminal: Renderer, demo_project) -> None:  # type: ignore[no-untyped-def]
    camera = demo_project.cameras[0]
    told: list[float] = []

    def once(share: float) -> bool:
        told.append(share)
        return False

    assert terminal.picture(camera.view(64, 36), sky_of(demo_project.light), 10.0, STILL, True, once) is None
    assert len(told) == 1


def screened() -> Model:
    """A floor, a post on it, and a tall screen between them and the camera that shades part of the floor."""
    grey = Material("Grey", (0.7, 0.7, 0.7, 1.0))
    return model_of(
        ("Floor", box_between((-20, -20, -0.2), (20, 20, 0)), grey),
        ("Post", box_between((-0.3, 6, 0), (0.3, 6.6, 2)), grey),
        ("Screen", box_between((-1.5, 2.0, 0), (1.5, 2.2, 2.2)), grey),
    )


def test_bounds_change_what_is_seen_and_leave_the_light_alone() -> None:
    model = screened()
    light = solve(model, spread(model), albedos(model), SKY)
    renderer = Renderer(model, light)
    open_view = View(Pose((0, -3, 1.6)), Lens(24), 320, 180)
    bound = replace(open_view, near_m=6.0)
    with_screen, without = renderer.facts(open_view), renderer.facts(bound)
    assert (with_screen.object_index == 2).any()
    assert not (without.object_index == 2).any()
    assert (without.object_index == 1).any()
    pictures = [renderer.picture(view, SKY, 14.0, STILL) for view in (open_view, bound)]
    # A model without the screen has no shadow of it on the floor; with the bound the shadow is still there.
    bare_model = model_of(
        *[
            (
                o.name,
                trimesh.Trimesh(
                    model.vertices, model.faces[o.first_face : o.first_face + o.face_count], process=False
                ),
                model.materials[0],
            )
            for o in model.objects[:2]
        ]
    )
    renderer.show(bare_model, solve(bare_model, spread(bare_model), albedos(bare_model), SKY))
    bare = renderer.picture(bound, SKY, 14.0, STILL)
    renderer.close()
    assert pictures[0] is not None
    assert pictures[1] is not None
    assert bare is not None
    same = (with_screen.object_index == without.object_index) & (with_screen.object_index >= 0)
    same = ndimage.binary_erosion(same, iterations=10)
    assert same.sum() > 300
    assert np.abs(pictures[0].astype(int) - pictures[1].astype(int)).max(axis=2)[same].max() <= 3
    shaded = without.object_index == 0
    assert np.abs(bare.astype(int) - pictures[1].astype(int)).max(axis=2)[shaded].max() > 40
    far = made_far(model, open_view)
    assert not np.isfinite(far.depth_m[0]).any()


def made_far(model: Model, view: View):  # type: ignore[no-untyped-def]
    renderer = Renderer(model)
    facts = renderer.facts(replace(view, far_m=4.0))
    renderer.close()
    assert facts.depth_m[np.isfinite(facts.depth_m)].max() <= 4.0 + 1e-3
    return facts


def test_one_sees_through_glass_but_not_through_walls() -> None:
    red = Material("Red", (0.9, 0.05, 0.05, 1.0))
    for material, through in (
        (Material("Clear", (0.9, 0.9, 0.9, 0.1), roughness=0.1, kind=GLASS), True),
        (Material("Wall", (0.9, 0.9, 0.9, 1.0)), False),
    ):
        renderer = Renderer(
            model_of(
                ("Red", box_between((-5, 6, -5), (5, 6.2, 5)), red),
                ("Pane", box_between((-2, 3, -2), (2, 3.02, 2)), material),
            )
        )
        picture = renderer.picture(View(Pose((0, 0, 0)), Lens(35), 64, 64), SKY, 13.5, FULL)
        renderer.close()
        assert picture is not None
        r, g, _ = picture[32, 32].astype(int)
        assert (r > g + 40) == through


def test_the_sky_of_the_shader_is_the_sky_of_the_core() -> None:
    numbers = [
        [float(v) for v in figures.split(",")]
        for figures in re.findall(r"vec3\(([\d., ]+)\)", (SHADERS / "sky.glsl").read_text())
    ]
    assert HORIZON.tolist() in numbers
    assert ZENITH.tolist() in numbers
    empty = Renderer(model_of(("Speck", box_between((0, -5000, -9), (0.1, -4999, -8.9)), Material("S"))))
    view = View(Pose((0, 0, 0), 40, 35), Lens(24), 64, 48)
    picture = empty.picture(view, SKY, 16.0, FULL)
    empty.close()
    assert picture is not None
    for px, py in ((5, 5), (32, 24), (60, 40)):
        light = SKY.luminance(view.rays(np.array([[px + 0.5, py + 0.5]])))[0] / (1.2 * 2**16.0) * 1.6
        toned = light * (1 + light / 200) / (1 + light * 0.86)
        expected = 255 * np.where(toned > 0.0031308, 1.055 * toned ** (1 / 2.4) - 0.055, toned * 12.92)
        assert picture[py, px] == pytest.approx(expected, abs=2.5)


def test_shaders_are_files_with_their_includes() -> None:
    assert "vec3 sky_luminance" in shader("light.frag")
    assert "#include" not in shader("light.frag")


def test_stills_are_tagged_and_read_back() -> None:
    import io

    from PIL import Image

    pixels = np.random.default_rng(0).integers(0, 255, (20, 30, 3)).astype(np.uint8)
    image = Image.open(io.BytesIO(still_bytes(pixels, "png", "Ünï")))
    assert (np.asarray(image) == pixels).all()
    assert image.info["Title"] == "Ünï"
    assert image.info["srgb"] == 0
    assert Image.open(io.BytesIO(still_bytes(pixels, "jpg"))).size == (30, 20)


@pytest.mark.slow
def test_what_is_out_of_focus_is_as_wide_as_the_lens_makes_it() -> None:
    """A small bright ball behind the distance in focus becomes a disc of the size that the formula of the
    thin lens gives."""
    glow = Material("Glow", (0.0, 0.0, 0.0, 1.0), emission=(1.0, 1.0, 1.0))
    black = Material("Black", (0.0, 0.0, 0.0, 1.0))
    far, focus = 8.0, 2.0
    ball = trimesh.creation.icosphere(2, 0.02)
    ball.apply_translation((0.0, far, 1.0))
    edge = box_between((-1.0, focus, 0.0), (-0.2, focus + 0.01, 3.0))
    model = model_of(
        ("Ball", ball, glow),
        ("Edge", edge, glow),
        ("Ground", box_between((-20, -20, -9), (20, 40, -8)), black),
    )
    night = replace(sky_of(Light(hour=1.0)), scale=0.0, sun_lux=(0.0, 0.0, 0.0))
    sharp = View(Pose((0.0, 0.0, 1.0)), Lens(50.0), 400, 300)
    opening = 50.0 / 2.0 / 2000.0
    blurred = replace(sharp, blur=Blur(opening, focus))
    renderer = Renderer(model)
    try:
        plain, open_ = (renderer.picture(view, night, 13.0, Quality(passes=4)) for view in (sharp, blurred))
        quick = renderer.picture(blurred, night, 13.0, FULL)
        assert quick is not None and np.array_equal(quick, renderer.picture(sharp, night, 13.0, FULL))
    finally:
        renderer.close()
    assert plain is not None and open_ is not None

    def across(picture: np.ndarray) -> int:
        lit = np.flatnonzero(picture[:, 180:221].max(axis=(0, 2)) > 12)
        return int(lit.max() - lit.min() + 1)

    # Circle of confusion: opening x focal length x (far - focus) / (far x focus), on a sensor of 36 mm over
    # 400 px.
    disc_px = 2.0 * opening * 50.0 * (far - focus) / (far * focus) / 36.0 * 400.0
    assert across(plain) <= 5
    assert across(open_) == pytest.approx(disc_px + across(plain), abs=3.0)
    # What stands in focus is as sharp as before.
    row = 60
    assert np.abs(plain[row, :140].astype(int) - open_[row, :140]).max() <= 30
    steps = [np.flatnonzero(np.diff(item[row, :, 0].astype(int)) < -40) for item in (plain, open_)]
    assert abs(int(steps[0].max()) - int(steps[1].max())) <= 1
