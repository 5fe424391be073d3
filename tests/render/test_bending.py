"""Bodies of solid glass in final pictures: light goes through them as Snell, Fresnel and Beer say."""

from __future__ import annotations

import os
from dataclasses import replace
from types import ModuleType

import numpy as np
import pytest
import trimesh

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.conventions import Floats32, Vec3
from altana.core.light.glass_bodies import glass_bodies
from altana.core.light.sky import sky_of
from altana.core.model import GLASS, Material, Model
from altana.core.project import Light
from altana.core.staging import WHOLE, MovedObject, Staging
from altana.render.traced import scene as scenes_module
from altana.render.traced.engine import llvm_library, start_engine
from altana.render.traced.scene import SceneMaker
from altana.render.traced.sights import FlatSights
from altana.render.traced.tracer import Sums, Tracer
from tests.conftest import box_between, model_of

NOON = sky_of(Light(47.5, 9.4, 2.0, "2026-06-21", 12.0))
NIGHT = replace(NOON, sun_lux=(0.0, 0.0, 0.0))
CLEAR = Material("Crystal", (1.0, 1.0, 1.0, 0.0), kind=GLASS, roughness=0.02, ior=1.5, solid_glass=True)
PANE = replace(CLEAR, name="Pane", solid_glass=False)
DARK = Material("Dark", (0.02, 0.02, 0.02, 1.0), roughness=1.0)
SHINING = Material("Shining", (1.0, 1.0, 1.0, 1.0), emission=(2.0,) * 3)
EYE = (0.0, 0.0, 1.0)


@pytest.fixture(scope="module")
def engine() -> ModuleType:
    if not llvm_library():
        pytest.skip("LLVM 19 is not installed")
    os.environ.pop("ALTANA_TRACE_PLAIN", None)
    return start_engine()[0]


def ball(middle: Vec3, radius: float) -> trimesh.Trimesh:
    mesh = trimesh.creation.icosphere(4, radius)
    mesh.apply_translation(middle)
    return mesh


def ahead(width: int = 64, focal: float = 24.0) -> View:
    return View(Pose(EYE), Lens(focal), width, width * 9 // 16)


def tracer_of(engine: ModuleType, model: Model, staging: Staging = WHOLE) -> Tracer:
    return Tracer(engine, SceneMaker(engine, model).make(NIGHT, staging), NIGHT, 1e6)


def light(tracer: Tracer, view: View, samples: int = 16) -> Floats32:
    sums = Sums.empty((view.width_px, view.height_px))
    for _ in range(samples):
        tracer.add(FlatSights(view), sums)
    return sums.mean


@pytest.fixture
def furnace(monkeypatch: pytest.MonkeyPatch) -> float:
    """The same light from all round."""
    monkeypatch.setattr(scenes_module, "sky_picture", lambda sky: np.full((64, 128, 3), 1000.0, np.float32))
    return 1000.0


def test_which_bodies_bend_light() -> None:
    parts = [
        ("Ball", ball((0, 5, 1), 0.5), CLEAR),
        ("Block", box_between((1, 5, 0), (1.2, 5.2, 0.5)), CLEAR),
        ("Sheet", box_between((2, 5, 0), (3, 5.02, 1)), CLEAR),
        ("Globe", ball((4, 5, 1), 0.2), PANE),
        ("Frosted", ball((5, 5, 1), 0.2), replace(CLEAR, roughness=0.5)),
    ]
    model = model_of(*parts)
    bends = glass_bodies(model)
    owner = model.face_objects()
    assert [int(np.abs(bends[owner == number]).max()) for number in range(5)] == [1, 1, 0, 0, 0]
    assert (bends[owner < 2] == 1).all()
    # Wound the other way round it is the same body; with a hole it is none.
    turned = replace(model, faces=np.ascontiguousarray(model.faces[:, ::-1]))
    assert (glass_bodies(turned)[owner < 2] == -1).all()
    holed = replace(model, faces=model.faces.copy())
    holed.faces[0] = 0
    assert not glass_bodies(holed)[owner == 0].any() and glass_bodies(holed)[owner == 1].all()
    assert not glass_bodies(model_of(("Wall", box_between((0, 0, 0), (1, 1, 1)), DARK))).any()


def test_clear_glass_in_even_light_cannot_be_seen(engine: ModuleType, furnace: float) -> None:
    model = model_of(("Ball", ball((0, 4, 1), 1.0), CLEAR))
    seen = light(tracer_of(engine, model), ahead())
    assert seen == pytest.approx(np.full_like(seen, furnace), rel=2e-3)


@pytest.mark.parametrize("wound", [1, -1])
def test_what_a_body_takes_is_by_its_thickness(engine: ModuleType, furnace: float, wound: int) -> None:
    """Straight through a block: what its two faces send to and fro adds up to (1 - R)^2 E / (1 - R E) besides
    R."""
    absorbed = (4.0, 1.0, 0.25)
    model = model_of(
        ("Block", box_between((-0.6, 4, 0.4), (0.6, 4.5, 1.6)), replace(CLEAR, absorbed=absorbed))
    )
    if wound < 0:
        model = replace(model, faces=np.ascontiguousarray(model.faces[:, ::-1]))
    seen = light(tracer_of(engine, model), ahead(16, 200.0), 256).mean(axis=(0, 1))
    left, mirror = np.exp(-0.5 * np.array(absorbed)), 0.04
    expected = mirror + (1 - mirror) ** 2 * left / (1 - mirror * left)
    assert seen / furnace == pytest.approx(expected, abs=0.006)


def shown_at(picture: Floats32) -> float:
    """The column about which the bright lies."""
    bright = picture.mean(axis=2) > 0.5 * picture.max()
    return float(np.nonzero(bright)[1].mean())


def test_a_turned_block_moves_what_is_behind_it_as_snell_says(engine: ModuleType) -> None:
    """A plane-parallel body of thickness t moves sight by t sin(a - b) / cos b, where sin a = n sin b."""
    thick, turn, away = 0.6, np.radians(40.0), 6.0
    block = box_between((-1.5, -thick / 2, -1.5), (1.5, thick / 2, 1.5))
    block.apply_transform(trimesh.transformations.rotation_matrix(turn, [0, 0, 1]))
    block.apply_translation((0, 3, 1))
    post = ("Post", box_between((-0.02, away, 0), (0.02, away + 0.02, 2)), SHINING)
    view = ahead(256, 50.0)
    straight, bent = (
        shown_at(light(tracer_of(engine, model), view, 8))
        for model in (model_of(post), model_of(post, ("Block", block, CLEAR)))
    )
    inside = np.arcsin(np.sin(turn) / 1.5)
    moved = thick * np.sin(turn - inside) / np.cos(inside)
    assert abs(bent - straight) == pytest.approx(moved / away * 50.0 / 36.0 * 256, abs=1.0)


@pytest.mark.slow
def test_a_ball_turns_what_is_behind_it_over(engine: ModuleType) -> None:
    post = ("Post", box_between((0.4, 8.0, 0), (0.9, 8.2, 2)), SHINING)
    view = ahead(96, 50.0)
    straight = shown_at(light(tracer_of(engine, model_of(post)), view, 4))
    model = model_of(post, ("Ball", ball((0, 2.0, 1), 0.5), CLEAR))
    through = light(tracer_of(engine, model), view, 16)
    disc = np.hypot(*(np.mgrid[0:54, 0:96] - np.array([26.5, 47.5])[:, None, None])) < 20
    assert straight > 50 and shown_at(through * disc[..., None]) < 44
    # Taken elsewhere it bends there, and nothing where it stood.
    aside = MovedObject(1, tuple(np.ravel(trimesh.transformations.translation_matrix((0, 0, 5))).tolist()))
    moved = light(tracer_of(engine, model, Staging(moved=(aside,))), view, 4)
    assert shown_at(moved) == pytest.approx(straight, abs=0.5)


def test_its_shadow_is_that_of_a_pane(engine: ModuleType) -> None:
    """Light through a body on other things goes straight: no black shadow, no dots."""
    ground = ("Ground", box_between((-5, -1, -0.1), (5, 9, 0.0)), Material("Grey", (0.5, 0.5, 0.5, 1.0)))
    shaded = []
    for glass in (CLEAR, PANE):
        model = model_of(ground, ("Ball", ball((0, 4, 5), 1.0), glass))
        scenes = SceneMaker(engine, model).make(NOON, WHOLE)
        shaded.append(light(Tracer(engine, scenes, NOON, 1e6), ahead(32), 16))
    below = np.s_[12:, :]
    bent, straight = (item[below].mean() for item in shaded)
    assert bent == pytest.approx(straight, rel=0.01)
    assert np.abs(shaded[0][below] / shaded[1][below] - 1.0).max() < 0.2


def test_what_guides_the_denoiser_is_what_is_seen_through_it(engine: ModuleType) -> None:
    red = Material("Red", (0.8, 0.1, 0.1, 1.0), roughness=1.0)
    wall = ("Wall", box_between((-4, 6, -1), (4, 6.2, 3)), red)
    model = model_of(wall, ("Block", box_between((-1, 3, 0), (1, 3.8, 2)), CLEAR))
    guides = tracer_of(engine, model).guides(FlatSights(ahead(32)))
    middle = np.s_[8:10, 15:17]
    assert guides.albedo[middle][..., 0].min() > 5 * guides.albedo[middle][..., 1].max() > 0
    assert guides.normal[middle].reshape(-1, 3) == pytest.approx(np.tile([0, -1, 0], (4, 1)), abs=1e-3)
