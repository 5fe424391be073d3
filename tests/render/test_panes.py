"""Clear panes: the Frame and final show the same glass, no light comes from nothing, and coloured glass
colours the light of a room."""

from __future__ import annotations

from types import ModuleType

import numpy as np
import pytest
import trimesh

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.light.lightmap import spread
from altana.core.light.panes import PANE_MIRROR, pane_tint
from altana.core.light.sky import sky_of
from altana.core.light.transport import solve
from altana.core.model import GLASS, Material, Model
from altana.core.project import Light
from altana.render.images import albedos
from altana.render.quality import Quality
from altana.render.renderer import Renderer
from altana.render.traced.engine import llvm_library, start_engine
from altana.render.traced.panes import pane_surface
from tests.conftest import box_between, light_at, model_of
from tests.small_pictures import live_light, traced_light

pytestmark = pytest.mark.skipif(not llvm_library(), reason="LLVM 19 is not installed")
GREY = Material("Wall", (0.8, 0.8, 0.8, 1.0))
NOON = sky_of(Light(hour=12.0))


@pytest.fixture(scope="module")
def engine() -> ModuleType:
    return start_engine()[0]


def glass(*colour: float) -> Material:
    return Material("Pane", colour, kind=GLASS, roughness=0.02)  # type: ignore[arg-type]


@pytest.mark.parametrize("solid", [True, False], ids=["a body", "a sheet"])
@pytest.mark.parametrize(
    "colour",
    [
        pytest.param((0.2, 0.7, 0.3, 0.1), marks=pytest.mark.slow),
        (0.2, 0.7, 0.3, 0.3),
        pytest.param((0.55, 0.6, 0.58, 0.3), marks=pytest.mark.slow),
        (0.06, 0.08, 0.07, 0.12),
    ],
)
def test_what_is_seen_through_a_pane_is_as_bright_and_coloured_live_as_final(
    colour: tuple[float, float, float, float], solid: bool, engine: ModuleType
) -> None:
    sheet = trimesh.Trimesh([(-1, 2, -1), (1, 2, -1), (1, 2, 1.5), (-1, 2, 1.5)], [(0, 1, 2), (0, 2, 3)])
    model = model_of(
        ("Wall", box_between((-6, 5, -3), (6, 5.2, 6)), GREY),
        ("Floor", box_between((-6, -6, -3.2), (6, 5, -3)), GREY),
        ("Pane", box_between((-1, 2, -1), (1, 2.02, 1.5)) if solid else sheet, glass(*colour)),
    )
    view = View(Pose((0.0, 0.0, 0.0)), Lens(24.0), 60, 60)
    one, two = (
        light[25:35, 25:35].mean(axis=(0, 1)) / light[25:35, 2:6].mean(axis=(0, 1))
        for light in (live_light(model, view, NOON), traced_light(engine, model, view, NOON, 32))
    )
    assert two == pytest.approx(one, abs=0.08)
    # A body has two faces.
    square = (1.0 - PANE_MIRROR) * (1.0 - colour[3] ** 2) * pane_tint(np.array(colour[:3]) ** 2.2, colour[3])
    assert (two > (square**2 if solid else square) - 0.05).all()


def test_a_pane_gives_back_no_more_than_falls_on_it(engine: ModuleType) -> None:
    """What is mirrored, thrown back and let through, reckoned by its own draws, for each way light may
    come."""
    import drjit as dr

    pane = pane_surface(engine, np.array([0.9, 1.0, 0.5], np.float32), 0.6)
    many = 20_000
    for slant in (1.0, 0.5, 0.05, -0.5):
        at = dr.zeros(engine.SurfaceInteraction3f, many)
        at.wi = engine.Vector3f((1.0 - slant**2) ** 0.5, 0.0, slant)
        draws = engine.PCG32(size=many)
        draw, weight = pane.sample(
            engine.BSDFContext(), at, draws.next_float32(), engine.Point2f(draws.next_float32(), draws.next_float32())
        )  # fmt: skip
        left = np.array(weight).mean(axis=1)
        assert (left <= 1.0).all() and left[1] > 0.9
        through = np.array(draw.sampled_type) == int(engine.BSDFFlags.Null)
        straight = np.array(pane.eval_null_transmission(at))[:, 0]
        assert (np.array(weight).T[through].sum(axis=0) / many) == pytest.approx(straight, abs=0.012)
        # The flatter it comes, the more is mirrored.
        mirrored = (np.array(draw.sampled_type) == int(engine.BSDFFlags.DeltaReflection)).mean()
        assert mirrored > 0.3 if slant == 0.05 else mirrored == pytest.approx(PANE_MIRROR, abs=0.02)
        # And what is thrown stays on the side it came from.
        thrown = np.array(draw.sampled_type) == int(engine.BSDFFlags.DiffuseReflection)
        assert (np.array(draw.wo)[2][thrown] * slant > 0.0).all()


@pytest.mark.slow
def test_coloured_glass_colours_the_light_of_a_room(engine: ModuleType) -> None:
    def room(pane: Material) -> Model:
        return model_of(
            ("Floor", box_between((0, 0, -0.2), (4, 4, 0)), GREY),
            ("Roof", box_between((0, 0, 3), (4, 4, 3.2)), GREY),
            ("Back", box_between((0, 4, 0), (4, 4.2, 3)), GREY),
            ("Left", box_between((-0.2, 0, 0), (0, 4, 3)), GREY),
            ("Right", box_between((4, 0, 0), (4.2, 4, 3)), GREY),
            ("Pane", box_between((0, -0.02, 0), (4, 0, 3)), pane),
        )

    def reds(pane: Material) -> tuple[float, float]:
        """How much red there is for green on the back wall, in soft light and traced."""
        model = room(pane)
        points = spread(model)
        light = solve(model, points, np.full((len(model.materials), 3), 0.6), NOON)
        own = np.flatnonzero((points.owner == 2) & (np.abs(points.position[:, 1] - 4.0) < 0.01))
        place = np.array([(1.2, 4.0, 1.5), (2.8, 4.0, 1.5)])
        soft = light_at(light, model, np.full(2, points.face[own[0]]), place).sum(axis=0)
        back = traced_light(engine, model, View(Pose((2.0, 0.6, 1.6)), Lens(24.0), 24, 24), NOON, 48)[
            6:18
        ].mean(axis=(0, 1))
        return float(soft[0] / soft[1]), float(back[0] / back[1])

    clear, green = reds(glass(0.95, 0.95, 0.95, 0.1)), reds(glass(0.2, 0.7, 0.3, 0.3))
    for before, after in zip(clear, green, strict=True):
        assert after < 0.75 * before


@pytest.mark.slow
def test_panes_give_a_room_some_of_its_own_light_back(engine: ModuleType) -> None:
    """A wall before a dark opening: with a pane in it, the wall sees the sunlit ground before it a second
    time, mirrored."""
    black = Material("Black", (0.0, 0.0, 0.0, 1.0))
    dark = [
        (name, box_between(low, high), black)
        for name, low, high in (
            ("Floor", (-3, 0.02, -0.2), (3, 0.3, 0)),
            ("Roof", (-3, 0.02, 2), (3, 0.3, 2.2)),
            ("Left", (-3.2, 0.02, 0), (-3, 0.3, 2)),
            ("Right", (3, 0.02, 0), (3.2, 0.3, 2)),
            ("End", (-3, 0.3, 0), (3, 0.5, 2)),
        )
    ]

    def lit(*panes: tuple[str, trimesh.Trimesh, Material]) -> tuple[float, float]:
        """How light the wall is, in soft light and traced."""
        model = model_of(
            ("Wall", box_between((-1.5, -1.7, 0), (1.5, -1.5, 1.25)), GREY),
            ("Ground", box_between((-3, -1.5, -0.2), (3, 0, 0)), GREY),
            *dark,
            *panes,
        )
        points = spread(model)
        light = solve(
            model,
            points,
            np.full((len(model.materials), 3), 0.6) * [[1], [1], *[[0]] * (len(dark) + len(panes))],
            NOON,
        )
        own = np.flatnonzero((points.owner == 0) & (np.abs(points.position[:, 1] + 1.5) < 0.01))
        place = np.array([(x, -1.5, z) for x in (-0.4, 0.0, 0.4) for z in (0.4, 0.6, 0.8)])
        soft = light_at(light, model, np.full(len(place), points.face[own[0]]), place)
        view = View(Pose((0.0, -0.8, 0.6), 180.0), Lens(24.0), 24, 24)
        return float(soft.mean()), float(traced_light(engine, model, view, NOON, 48)[6:18, 6:18].mean())

    without = lit()
    with_pane = lit(("Pane", box_between((-3, 0, 0), (3, 0.02, 2)), glass(0.95, 0.95, 0.95, 0.1)))
    more = [after / before - 1.0 for after, before in zip(with_pane, without, strict=True)]
    assert more[0] > 0.04
    assert more[0] == pytest.approx(more[1], rel=0.3)


@pytest.mark.parametrize("sun", [pytest.param("behind", marks=pytest.mark.slow), "before"])
def test_frosted_glass_is_as_bright_as_in_final_pictures(sun: str, engine: ModuleType) -> None:
    """With the sun behind it it glares where one looks towards the sun, and not elsewhere; it had been three
    quarters as bright."""
    pane = Material("Pane", (0.9, 0.9, 0.9, 0.3), kind=GLASS, roughness=0.6)
    model = model_of(
        ("Pane", box_between((-3.0, 3.0, 0.0), (3.0, 3.0001, 3.0)), pane),
        ("Ground", box_between((-50, -50, -0.3), (50, 50, -0.01)), GREY),
    )
    sky = sky_of(Light(47.5, 9.4, 2.0, "2026-03-21", 12.5))
    heading = float(np.degrees(np.arctan2(sky.sun[0], sky.sun[1]))) + (0.0 if sun == "behind" else 180.0)
    side = 1.0 if sun == "behind" else -1.0
    view = View(Pose((0.0, 3.0 + side * 3.0, 1.5), heading % 360.0), Lens(35, rise_mm=6.0), 90, 60)
    renderer = Renderer(model, solve(model, spread(model), albedos(model), sky))
    master = renderer.master(view, sky, Quality(passes=4))
    renderer.close()
    assert master is not None
    final = traced_light(engine, model, view, sky, 48)
    for part in (np.s_[5:15, 40:50], np.s_[25:35, 40:50]):
        assert master.light[part].mean() == pytest.approx(final[part].mean(), rel=0.3)
