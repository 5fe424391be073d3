"""The sun behind panes: as much of it, and of the colour, as the panes before a place let through, in the
Frame as in final."""

from __future__ import annotations

import numpy as np
import pytest
import trimesh

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.conventions import Floats, Floats32
from altana.core.light.lightmap import spread
from altana.core.light.panes import PANE_MIRROR, pane_tint
from altana.core.light.sky import sky_of
from altana.core.light.tone import decoded
from altana.core.light.transport import solve
from altana.core.model import GLASS, Material, Model
from altana.core.project import Light
from altana.core.staging import WHOLE, MovedObject, Staging
from altana.render.quality import COARSE, Quality
from altana.render.renderer import Renderer
from altana.render.traced.engine import llvm_library, start_engine
from tests.conftest import box_between, light_at, model_of
from tests.small_pictures import live_light, traced_light

GREY, DARK = Material("Wall", (0.8, 0.8, 0.8, 1.0)), Material("Earth", (0.2, 0.2, 0.2, 1.0))
NOON = sky_of(Light(hour=12.0))
GREEN, RED = (0.2, 0.7, 0.3, 0.3), (0.8, 0.2, 0.1, 0.5)
#: From just under a pane onto the ground, and from high above what stands on it.
DOWN = View(Pose((0.0, 0.0, 1.8), 0.0, -90.0), Lens(35.0), 24, 24)


def glass(colour: tuple[float, float, float, float], rough: float = 0.02) -> Material:
    return Material("Pane", colour, kind=GLASS, roughness=rough)


def roofed(*plates: tuple[float, Material], ground: Material = GREY) -> Model:
    """Ground, and plates over it at some heights, wide enough that all of the sun goes through them."""
    roofs = [(f"Plate {z}", box_between((-20, -20, z), (20, 20, z + 0.02)), stuff) for z, stuff in plates]
    return model_of(("Ground", box_between((-60, -60, -0.2), (60, 60, 0.0)), ground), *roofs)


def middle(light: Floats32) -> Floats:
    mean: Floats = light[8:16, 8:16].mean(axis=(0, 1), dtype=float)
    return mean


def expected(*colours: tuple[float, float, float, float]) -> Floats:
    """What bodies of glass let through of what falls on them nearly square, by the formula of a face."""
    left = np.ones(3)
    for colour in colours:
        tint = pane_tint(decoded(np.array(colour[:3])), colour[3])
        left *= ((1.0 - PANE_MIRROR) * (1.0 - colour[3] ** 2) * tint) ** 2
    return left


def passed(model: Model, staging: Staging = WHOLE, view: View = DOWN) -> Floats:
    """The share of the sun that comes to the ground: the light there between that under a roof of wall and
    that under none."""
    dark, open_ = (middle(live_light(other, view, NOON)) for other in (roofed((3.0, GREY)), roofed()))
    share: Floats = (middle(live_light(model, view, NOON, staging=staging)) - dark) / (open_ - dark)
    return share


@pytest.mark.parametrize("colour", [GREEN, RED, (0.9, 0.95, 0.95, 0.1), (0.06, 0.08, 0.07, 0.12)])
def test_the_sun_takes_the_colour_of_the_pane_it_comes_through(
    colour: tuple[float, float, float, float],
) -> None:
    assert passed(roofed((3.0, glass(colour)))) == pytest.approx(expected(colour), abs=0.01)


def test_the_edge_of_a_panes_shadow_has_no_steps() -> None:
    """Aslant across the pixels of the map it is nearly as straight as that of a wall; it was three times as
    rough."""
    turn = np.radians(25.0)
    plate = box_between((-3, -3, 1.5), (3, 3, 1.51))
    plate.apply_transform(trimesh.transformations.rotation_matrix(turn, [0, 0, 1]))
    above = sky_of(Light(0.0, 0.0, 0.0, "2026-03-20", 12.1))
    view = View(Pose((3.0 * np.cos(turn), 3.0 * np.sin(turn), 1.2), 0.0, -90.0), Lens(50.0), 96, 96)
    rough = []
    for stuff in (glass(RED), GREY):
        model = model_of(
            ("Ground", box_between((-60, -60, -0.2), (60, 60, 0.0)), GREY), ("Plate", plate, stuff)
        )
        light = live_light(model, view, above, 8)[..., 1].astype(float)
        shade = (light - light.min()) / np.ptp(light)
        first = np.argmax(shade > 0.5, axis=1)
        rows = np.arange(96)
        after, before = shade[rows, first], shade[rows, first - 1]
        edge = first - (after - 0.5) / (after - before)
        rough.append((edge - np.polyval(np.polyfit(rows, edge, 1), rows)).std())
    assert rough[1] > 0.1 and rough[0] < 1.7 * rough[1]


@pytest.mark.slow
@pytest.mark.parametrize("side", [1024, 4096])
def test_shadows_may_be_finer_or_coarser_than_the_panes_colours(side: int) -> None:
    quality = Quality(passes=2, shadow_px=side)
    shown = []
    for model in (roofed((3.0, GREY)), roofed((3.0, glass(RED))), roofed()):
        renderer = Renderer(model)
        light = renderer.master(DOWN, NOON, quality)
        renderer.close()
        assert light is not None
        shown.append(middle(light.light))
    dark, red, bare = shown
    assert (red - dark) / (bare - dark) == pytest.approx(expected(RED), abs=0.01)


def test_of_two_panes_each_takes_its_share() -> None:
    both = roofed((3.0, glass(GREEN)), (4.0, glass(RED)))
    assert passed(both) == pytest.approx(expected(GREEN, RED), abs=0.01)


def test_frosted_glass_throws_no_patch_of_sun() -> None:
    assert (passed(roofed((3.0, glass((0.9, 0.9, 0.9, 0.1), rough=0.6)))) < 0.01).all()


def test_only_panes_between_a_place_and_the_sun_count() -> None:
    """Not the one under the ground, though the sun's ray would meet it, and not the one below a table's
    top."""
    under = model_of(
        ("Ground", box_between((-60, -60, -0.2), (60, 60, 0.0)), GREY),
        ("Skylight", box_between((-20, -20, 3.0), (20, 20, 3.02)), glass(GREEN)),
        ("Cellar", box_between((-20, -20, -3.0), (20, 20, -2.98)), glass(RED)),
    )
    assert passed(under) == pytest.approx(expected(GREEN), abs=0.01)
    above = View(Pose((0.0, 0.0, 8.0), 0.0, -90.0), Lens(35.0), 24, 24)
    table = roofed((3.0, glass(RED)), (5.0, GREY))
    bare = roofed((5.0, GREY))
    assert middle(live_light(table, above, NOON)) == pytest.approx(
        middle(live_light(bare, above, NOON)), rel=1e-3
    )


def test_a_pane_that_is_left_out_or_stands_elsewhere_colours_nothing_here() -> None:
    model = roofed((3.0, glass(RED)))
    assert passed(model, Staging(omitted=(1,))) == pytest.approx(np.ones(3), abs=0.01)
    away = np.eye(4)
    away[0, 3] = 300.0
    aside = MovedObject(1, tuple(away.ravel().tolist()))
    assert passed(model, Staging(moved=(aside,))) == pytest.approx(np.ones(3), abs=0.01)
    little = np.eye(4)
    little[0, 3] = 2.0
    beside = MovedObject(1, tuple(little.ravel().tolist()))
    assert passed(model, Staging(moved=(beside,))) == pytest.approx(expected(RED), abs=0.01)


def test_the_colour_stays_while_the_picture_is_coarse_and_as_the_sun_moves() -> None:
    """One renderer draws one picture after the other, as the Frame does while the sun is dragged; its maps
    are kept where they can be."""
    colour, plain = (Renderer(roofed((3.0, stuff))) for stuff in (glass(RED), GREY))
    open_ = Renderer(roofed())
    try:
        for hour in (12.0, 12.0, 13.0, 14.5):
            sky = sky_of(Light(hour=hour))
            red, dark, bare = (
                middle(light.light)
                for light in (each.master(DOWN, sky, COARSE) for each in (colour, plain, open_))
                if light is not None
            )
            assert (red - dark) / (bare - dark) == pytest.approx(expected(RED), abs=0.02)
    finally:
        for each in (colour, plain, open_):
            each.close()


@pytest.mark.slow
@pytest.mark.skipif(not llvm_library(), reason="LLVM 19 is not installed")
@pytest.mark.parametrize("hour", [12.0, 17.0], ids=["high", "low"])
def test_the_frame_and_final_agree_however_high_the_sun_stands(hour: float) -> None:
    engine, sky = start_engine()[0], sky_of(Light(hour=hour))
    # Dark ground throws next to nothing up at the pane that could come back from it.
    plain, roof, pane = (
        roofed(*plates, ground=DARK) for plates in ((), ((3.0, DARK),), ((3.0, glass(RED)),))
    )
    shares = []
    for draw in (
        lambda model: live_light(model, DOWN, sky),
        lambda model: traced_light(engine, model, DOWN, sky, 48),
    ):
        bare, dark, red = (middle(draw(model)) for model in (plain, roof, pane))
        shares.append((red - dark) / (bare - dark))
    assert shares[1] == pytest.approx(shares[0], abs=0.06)


@pytest.mark.slow
def test_sunlit_ground_behind_glass_throws_back_less_light() -> None:
    """A ceiling over a floor that the sun reaches through a pane: soft light takes what the pane leaves, and
    its colour."""

    def ceiling(pane: Material | None) -> Floats:
        parts = [
            ("Floor", box_between((-3, -3, -0.2), (3, 3, 0.0)), GREY),
            ("Ceiling", box_between((-3, 0, 3.0), (3, 3, 3.1)), GREY),
            *(
                (name, box_between(low, high), GREY)
                for name, low, high in (
                    ("North", (-3.2, 3, -0.2), (3.2, 3.2, 3.2)),
                    ("South", (-3.2, -3.2, -0.2), (3.2, -3, 3.2)),
                    ("East", (3, -3, -0.2), (3.2, 3, 3.2)),
                    ("West", (-3.2, -3, -0.2), (-3, 3, 3.2)),
                )
            ),
        ]
        if pane is not None:
            parts.append(("Skylight", box_between((-3.2, -3.2, 3.2), (3.2, 3.2, 3.22)), pane))
        model = model_of(*parts)
        points = spread(model)
        sun = sky_of(Light(hour=12.0))
        light = solve(model, points, np.full((len(model.materials), 3), 0.6), sun)
        own = np.flatnonzero((points.owner == 1) & (np.abs(points.position[:, 2] - 3.0) < 0.01))
        return light_at(light, model, points.face[own[:1]], points.position[own[:1]])[0]

    bare, red = ceiling(None), ceiling(glass(RED))
    share = red / bare
    assert share == pytest.approx(expected(RED), rel=0.25)
