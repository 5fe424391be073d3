"""What smooth surfaces mirror on to others, and sky that is seen through far openings."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.conventions import Floats32
from altana.core.light import far_sky, painting, transport
from altana.core.light.gloss import Gloss, gloss_of
from altana.core.light.light_scene import normals_of
from altana.core.light.lightmap import spread
from altana.core.light.sky import Sky, sky_of
from altana.core.light.transport import Lighting, solve
from altana.core.model import GLASS, WATER, Material, Model
from altana.core.project import Light
from altana.render.images import albedos
from altana.render.quality import Quality
from altana.render.renderer import Renderer
from altana.render.traced.engine import llvm_library, start_engine
from tests.conftest import box_between, light_at, model_of
from tests.small_pictures import traced_light

WALL = Material("Wall", (0.7, 0.7, 0.7, 1.0), roughness=0.9)
POLISHED = Material("Stone", (0.3, 0.3, 0.3, 1.0), roughness=0.15)


def rays_down(count: int, cosine: float) -> tuple[np.ndarray, np.ndarray]:
    """Rays from all over a square on to level ground, as flat as the cosine says."""
    random = np.random.default_rng(4)
    flat = np.sqrt(1.0 - cosine**2)
    turn = 2.0 * np.pi * random.random(count)
    out = np.column_stack([flat * np.cos(turn), flat * np.sin(turn), np.full(count, -cosine)])
    return (random.random((count, 3)) * 5.0).astype(np.float32), out.astype(np.float32)


@pytest.mark.parametrize("cosine", [0.95, 0.5, 0.2])
def test_rays_go_on_as_often_as_a_polished_floor_mirrors_and_where_it_does(cosine: float) -> None:
    count = 200_000
    one = np.ones(1, np.float32)
    gloss = Gloss(0.1**2 * one, 0.09 * one, np.array([-1]), np.zeros((0, 3), np.float32), one[:0])
    origin, out = rays_down(count, cosine)
    normal = np.tile(np.array([0.0, 0.0, 1.0], np.float32), (count, 1))
    on, onward, counts = gloss.mirrored(np.zeros(count, np.int32), normal, origin, out)
    schlick = 0.04 + 0.96 * (1.0 - cosine) ** 5
    assert counts.sum() / count == pytest.approx(schlick, rel=0.04)
    mirror = out[on] * np.array([1.0, 1.0, -1.0])
    off = np.degrees(np.arccos(np.clip((onward * mirror).sum(axis=1), -1.0, 1.0)))
    assert np.median(off) < 2.5
    # From below it mirrors downwards, and the same rays go on again.
    again = gloss.mirrored(np.zeros(count, np.int32), -normal, origin, out)
    assert np.array_equal(again[0], on)
    assert (onward[:, 2] > 0.0).all()


def test_rough_things_metal_and_panes_are_not_followed() -> None:
    def of(material: Material) -> Gloss | None:
        model = model_of(("Thing", box_between((0, 0, 0), (1, 1, 1)), material))
        normal = normals_of(model, np.arange(len(model.faces))).astype(np.float32)
        return gloss_of(model, np.ones(len(model.materials), bool), normal)

    assert of(WALL) is None
    assert of(replace(POLISHED, metal=1.0)) is None
    assert of(replace(POLISHED, kind=GLASS)) is None
    followed = of(POLISHED)
    assert followed is not None
    assert followed.wide == pytest.approx(0.15**2)
    # Six sides of a metre each, two and two of which lie alike.
    assert sorted(np.bincount(followed.plane).tolist()) == [4, 4, 4]
    water = of(replace(WALL, kind=WATER))
    assert water is not None
    assert water.wide.max() < 0.01


def low_room(floor: Material) -> Model:
    """A deep room whose south side is open from the floor to breast height."""
    return model_of(
        ("Floor", box_between((0, 0, -0.2), (6, 8, 0)), floor),
        ("Ceiling", box_between((0, 0, 2.6), (6, 8, 2.8)), WALL),
        ("South", box_between((0, -0.2, 1.2), (6, 0, 2.8)), WALL),
        ("North", box_between((0, 8, -0.2), (6, 8.2, 2.8)), WALL),
        ("West", box_between((-0.2, -0.2, -0.2), (0, 8.2, 2.8)), WALL),
        ("East", box_between((6, -0.2, -0.2), (6.2, 8.2, 2.8)), WALL),
    )


def framed(model: Model, view: View, sky: Sky) -> Floats32:
    """(height, width, 3) as the Frame shows it with its soft light."""
    renderer = Renderer(model, solve(model, spread(model), albedos(model), sky))
    try:
        light = renderer.master(view, sky, Quality(passes=2))
    finally:
        renderer.close()
    assert light is not None
    return light.light.astype(np.float32)


@pytest.mark.slow
@pytest.mark.skipif(not llvm_library(), reason="LLVM 19 is not installed")
@pytest.mark.parametrize("rough", [0.15, 0.4, 0.9])
def test_a_polished_floor_lights_the_ceiling_as_in_final_pictures(rough: float) -> None:
    model = low_room(replace(POLISHED, roughness=rough))
    up = View(Pose((3.0, 2.0, 0.4), 0.0, 90.0), Lens(20.0), 32, 24)
    sky = sky_of(Light(hour=12.0, date="2026-12-21"))
    engine = start_engine()[0]
    live, final = framed(model, up, sky).mean(), traced_light(engine, model, up, sky, 192).mean()
    assert live == pytest.approx(final, rel=0.08)
    if rough < 0.2:
        # Where the floor mirrors the low sun, deep in the room: half as bright before that was reckoned.
        deep = View(Pose((3.0, 6.0, 0.4), 0.0, 90.0), Lens(20.0), 32, 24)
        # Few paths meet that spot: 192 samples of each pixel are off by a tenth.
        live, final = framed(model, deep, sky).mean(), traced_light(engine, model, deep, sky, 1200).mean()
        assert live == pytest.approx(final, rel=0.08)


def test_light_above_a_ceiling_is_not_seen_on_the_rim_of_the_wall_below() -> None:
    """A wall goes through a ceiling; the last of its places under it is nearer to those above than to any
    below."""
    model = model_of(
        ("Wall", box_between((-0.2, 0, -0.2), (0, 6, 6.0)), WALL),
        ("Ceiling", box_between((0, 0, 2.4), (6, 6, 2.5)), WALL),
        ("Floor", box_between((0, 0, -0.2), (6, 6, 0)), WALL),
        ("North", box_between((0, 6, -0.2), (6, 6.2, 2.4)), WALL),
        ("South", box_between((0, -0.2, -0.2), (6, 0, 2.4)), WALL),
        ("East", box_between((6, 0, -0.2), (6.2, 6, 2.4)), WALL),
    )
    lighting = Lighting.of(model, spread(model), np.full((len(model.materials), 3), 0.5))
    points, places = lighting.points, lighting.gatherer.places
    own = np.flatnonzero((points.owner == 0) & (points.normal[:, 0] > 0.9))
    face = int(points.face[own[0]])
    for height in (2.30, 2.36, 2.39, 2.399, 2.501, 2.51, 2.6):
        for y in (1.0, 2.9, 4.5):
            place = np.array([[0.0, y, height]], np.float32)
            speaks = int(places.nearest(points, np.array([face], np.int32), place, np.array([False]))[0])
            assert (points.position[speaks, 2] > 2.45) == (height > 2.45), (height, y)


@pytest.mark.slow
def test_sky_through_a_far_opening_is_known_better_and_is_no_other(monkeypatch: pytest.MonkeyPatch) -> None:
    """A dark room in which the sky is a hundredth of what a wall sees."""
    model = model_of(
        ("Floor", box_between((0, 0, -0.2), (6, 9, 0)), WALL),
        ("Ceiling", box_between((0, 0, 2.6), (6, 9, 2.8)), WALL),
        ("South left", box_between((0, -0.2, -0.2), (2.4, 0, 2.8)), WALL),
        ("South right", box_between((3.6, -0.2, -0.2), (6, 0, 2.8)), WALL),
        ("Sill", box_between((2.4, -0.2, -0.2), (3.6, 0, 1.0)), WALL),
        ("North", box_between((0, 9, -0.2), (6, 9.2, 2.8)), WALL),
        ("West", box_between((-0.2, -0.2, -0.2), (0, 9.2, 2.8)), WALL),
        ("East", box_between((6, -0.2, -0.2), (6.2, 9.2, 2.8)), WALL),
    )
    points = spread(model)
    wall = np.flatnonzero((points.owner == 5) & (points.normal[:, 1] < -0.9) & (points.position[:, 1] < 9.01))
    wall = wall[np.abs(points.position[wall, 2] - 1.2) < 0.5]
    wall = wall[np.abs(points.position[wall, 0] - 3.0) < 1.2]
    monkeypatch.setattr(painting, "_evened", lambda _points, light, *_: light)
    monkeypatch.setattr(transport, "MUCH_GRAIN", 0.0)
    levels = []
    for much in (4, 700):
        monkeypatch.setattr(far_sky, "OPEN", much)
        solved = solve(model, points, np.full((len(model.materials), 3), 0.05), sky_of(Light(sky="overcast")))
        levels.append(light_at(solved, model, points.face[wall], points.position[wall]).mean(axis=1))
    few, many = levels
    assert many.mean() == pytest.approx(few.mean(), rel=0.08)
    assert many.std() < 0.65 * few.std()
