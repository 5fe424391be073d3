"""Lamps and surroundings: what they give, where it falls."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from altana.core.conventions import Floats32
from altana.core.edits.light import mark_lamp, set_lamp_group
from altana.core.light.around import with_surroundings
from altana.core.light.lamps import SHINE, group_of, lamps_of, warm_white, with_lamps
from altana.core.light.lightmap import spread
from altana.core.light.luminaires import glowing_faces
from altana.core.light.panes import PANE_MIRROR, pane_density, pane_tint
from altana.core.light.sky import sky_of
from altana.core.light.sun import illuminance
from altana.core.light.tone import decoded
from altana.core.light.transport import solve
from altana.core.model import GLASS, Lamp, Material, Model
from altana.core.project import Lamps, Light, MarkedLamp, Project, Surroundings
from tests.conftest import box_between, light_at, model_of

GREY = Material("Grey", (0.5, 0.5, 0.5, 1.0))
BLACK = Material("Black", (0.0, 0.0, 0.0, 1.0))


def dark_room(*more: tuple[str, object, Material]) -> Model:
    return model_of(
        ("Floor", box_between((-0.2, -0.2, -0.3), (6.2, 4.2, 0.0)), BLACK),
        ("Ceiling", box_between((-0.2, -0.2, 3.0), (6.2, 4.2, 3.2)), BLACK),
        ("West", box_between((-0.2, -0.2, 0.0), (0.0, 4.2, 3.0)), BLACK),
        ("East", box_between((6.0, -0.2, 0.0), (6.2, 4.2, 3.0)), BLACK),
        ("South", box_between((0.0, -0.2, 0.0), (6.0, 0.0, 3.0)), BLACK),
        ("North", box_between((0.0, 4.0, 0.0), (6.0, 4.2, 3.0)), BLACK),
        *more,  # type: ignore[arg-type]
    )


def floor_lux(model: Model, share: float, x: float, y: float) -> float:
    return float(floor_light(model, share, x, y) @ [0.2126, 0.7152, 0.0722])


def floor_light(model: Model, share: float, x: float, y: float) -> Floats32:
    """(3,) what falls on the floor at a place, lux."""
    sky = replace(sky_of(Light()), lamps=share)
    points = spread(model)
    light = solve(model, points, np.zeros((len(model.materials), 3)), sky)
    charts = slice(len(points.texel))
    up = (points.normal[charts, 2] > 0.9) & (np.abs(points.position[charts, 2]) < 0.01)
    nearest = np.argmin(np.hypot(*(points.position[charts][up, :2] - (x, y)).T))
    at = np.flatnonzero(up)[[nearest]]
    return light_at(light, model, points.face[at], points.position[at])[0]


@pytest.mark.slow
def test_a_point_lamp_lights_by_the_square_of_its_distance() -> None:
    lamp = Lamp("Pendant 1", (3.0, 2.0, 2.0), 4.0 * np.pi * 100.0, 6504.0)
    model = replace(dark_room(), lamps=(lamp,))
    # 100 cd two metres above the floor: 25 lux; and nothing while lamps are off.
    assert floor_lux(model, 1.0, 3.0, 2.0) == pytest.approx(25.0, rel=0.06)
    assert floor_lux(model, 0.0, 3.0, 2.0) == pytest.approx(0.0, abs=1e-6)
    assert floor_lux(model, 0.5, 3.0, 2.0) == pytest.approx(12.5, rel=0.06)


@pytest.mark.slow
def test_a_lamp_behind_glass_gives_what_the_glass_leaves() -> None:
    """A pendant over a sheet of green glass: its light on the floor takes the glass's colour, and loses what
    the glass mirrors."""
    colour = (0.2, 0.7, 0.3, 0.3)
    pane = Material("Pane", colour, kind=GLASS, roughness=0.02)
    lamp = Lamp("Pendant", (3.0, 2.0, 2.0), 4.0 * np.pi * 100.0, 6504.0)
    bare = replace(dark_room(), lamps=(lamp,))
    glazed = replace(dark_room(("Pane", box_between((1, 0.5, 1.0), (5, 3.5, 1.02)), pane)), lamps=(lamp,))
    before, after = (floor_light(model, 1.0, 3.0, 2.0) for model in (bare, glazed))
    face = (
        (1.0 - PANE_MIRROR)
        * (1.0 - pane_density(colour[3]))
        * pane_tint(decoded(np.array(colour[:3])), colour[3])
    )
    assert after / before == pytest.approx(face**2, rel=0.02)


def test_something_between_keeps_a_lamps_light_off() -> None:
    lamp = Lamp("Pendant", (3.0, 2.0, 2.0), 4.0 * np.pi * 100.0, 6504.0)
    model = replace(
        dark_room(("Board", box_between((2.4, 1.4, 1.0), (3.6, 2.6, 1.02)), BLACK)), lamps=(lamp,)
    )
    assert floor_lux(model, 1.0, 3.0, 2.0) == pytest.approx(0.0, abs=0.5)


def test_a_spot_lights_only_its_cone() -> None:
    lamp = Lamp("Spot", (3.0, 2.0, 2.5), 500.0, 4000.0, (0.0, 0.0, -1.0), 40.0)
    model = replace(dark_room(), lamps=(lamp,))
    assert floor_lux(model, 1.0, 3.0, 2.0) > 50.0
    assert floor_lux(model, 1.0, 0.5, 0.5) == pytest.approx(0.0, abs=1e-6)


def test_a_marked_object_glows_with_its_lumens() -> None:
    model = dark_room(("Plate 1", box_between((2.8, 1.8, 2.9), (3.2, 2.2, 2.95)), GREY))
    plate = model.objects[-1]
    lit = with_lamps(model, Lamps(True, (), (MarkedLamp(plate.id, 1000.0, 3000.0),)))
    (glowing,) = [item for item in lit.materials if item.lamp]
    assert glowing.lamp == "Plate"
    area = 2 * (0.4 * 0.4) + 4 * (0.4 * 0.05)
    emitted = float(np.array(glowing.emission) @ [0.2126, 0.7152, 0.0722]) * SHINE * np.pi * area
    assert emitted == pytest.approx(1000.0, rel=1e-3)
    # The model of before is as it was, and nothing else glows.
    assert not any(item.emission != (0.0, 0.0, 0.0) for item in model.materials)
    assert glowing_faces(lit, 1.0).sum() == 12 and not glowing_faces(lit, 0.0).any()
    assert floor_lux(lit, 1.0, 3.0, 2.0) > 10.0


def test_groups_go_by_name_and_are_switched_dimmed_and_warmed() -> None:
    assert group_of("Hall lamp 12") == "Hall lamp"
    assert group_of("Lamp_03") == "Lamp"
    model = replace(dark_room(), lamps=(Lamp("Wall 1", (1, 1, 1), 100.0), Lamp("Wall 2", (2, 1, 1), 100.0)))
    sources = lamps_of(model, Lamps())
    assert [item.group for item in sources] == ["Wall", "Wall"]
    project = set_lamp_group(Project(), "Wall", strength_ev=1.0, kelvin=4000.0)
    lit = with_lamps(model, project.light.lamps)
    assert [lamp.lumens for lamp in lit.lamps] == [200.0, 200.0]
    off = with_lamps(model, set_lamp_group(project, "Wall", on=False).light.lamps)
    assert [lamp.lumens for lamp in off.lamps] == [0.0, 0.0]
    assert mark_lamp(project, "x", True).light.lamps.groups == project.light.lamps.groups


def test_a_model_without_lamps_is_the_very_same() -> None:
    model = dark_room()
    assert with_lamps(model, Lamps(True)) is model


def test_warm_light_is_red_and_cold_light_blue() -> None:
    warm, white, cold = warm_white(2700.0), warm_white(6504.0), warm_white(12_000.0)
    assert warm[0] > warm[1] > warm[2]
    assert white == pytest.approx((1.0, 1.0, 1.0), abs=0.06)
    assert cold[2] > cold[0]
    for colour in (warm, white, cold):
        assert colour @ np.array([0.2126, 0.7152, 0.0722]) == pytest.approx(1.0)


def panorama(sun: bool) -> np.ndarray:
    high, wide = 128, 256
    pixels = np.full((high, wide, 3), 0.4, np.float32)
    pixels[high // 2 :] = 0.1
    pixels[: high // 2, wide // 2 - 2 : wide // 2 + 2] = (2.0, 0.0, 0.0)
    if sun:
        pixels[38:41, 190:193] = 5000.0
    return pixels


def test_surroundings_are_as_bright_as_the_hour_and_their_middle_lies_north() -> None:
    light = Light(hour=12.0)
    sky, lux = sky_of(light), illuminance(light)[1]
    bright = with_surroundings(sky, lux, panorama(False), Surroundings("x.exr"), "k")
    assert bright.around is not None
    # The integral over the upper half is what the sky of the hour throws on level ground.
    polar = (np.arange(128) + 0.5) / 128 * np.pi
    weight = np.maximum(np.cos(polar), 0) * np.sin(polar) * (np.pi / 128) * (2 * np.pi / 256)
    level = ((bright.around.pixels @ np.array([0.2126, 0.7152, 0.0722])) * weight[:, None]).sum()
    assert level == pytest.approx(lux, rel=1e-3)
    north, east = bright.luminance(np.array([[0.0, 1.0, 0.2], [1.0, 0.0, 0.2]]))
    assert north[1] == 0.0 and north[0] > 0.0 and east[1] > 0.0
    assert bright.sun_lux == (0.0, 0.0, 0.0)
    turned = with_surroundings(sky, lux, panorama(False), Surroundings("x.exr", turn_deg=90.0), "k")
    assert turned.luminance(np.array([[1.0, 0.0, 0.2]]))[0][1] == 0.0
    double = with_surroundings(sky, lux, panorama(False), Surroundings("x.exr", strength_ev=1.0), "k")
    assert double.around is not None
    assert double.around.pixels.sum() == pytest.approx(2 * bright.around.pixels.sum(), rel=1e-4)


def test_the_sun_of_surroundings_is_found_and_throws_the_shadows() -> None:
    light = Light(hour=12.0)
    with_sun = with_surroundings(
        sky_of(light), illuminance(light)[1], panorama(True), Surroundings("x.exr"), "k"
    )
    heading = (191.5 / 256 - 0.5) * 360.0
    wanted = np.array([np.sin(np.radians(heading)), np.cos(np.radians(heading))]) * np.sin(39.5 / 128 * np.pi)
    assert with_sun.sun == pytest.approx((*wanted, np.cos(39.5 / 128 * np.pi)), abs=0.02)
    assert min(with_sun.sun_lux) > 1000.0


def test_the_sun_of_the_hour_may_shine_instead_of_the_one_in_the_picture() -> None:
    light = Light()
    sky = sky_of(light)
    lux = illuminance(light)[1]
    sun_found = with_surroundings(sky, lux, panorama(True), Surroundings("x.exr"), "k")
    hour = with_surroundings(sky, lux, panorama(True), Surroundings("x.exr", sun_of_hour=True), "k")
    assert (hour.sun, hour.sun_lux) == (sky.sun, sky.sun_lux)
    # What the picture had of a sun is gone from the light all the same.
    assert hour.around is not None and sun_found.around is not None
    assert np.array_equal(hour.around.pixels, sun_found.around.pixels)


def test_surroundings_for_the_background_alone_light_nothing() -> None:
    light = Light(hour=12.0)
    sky = sky_of(light)
    bright = with_surroundings(sky, 1000.0, panorama(True), Surroundings("x.exr", "background"), "k")
    up = np.array([[0.0, 0.6, 0.8]])
    assert bright.luminance(up) == pytest.approx(sky.luminance(up))
    assert bright.seen(up)[0][1] != pytest.approx(sky.seen(up)[0][1])
    assert bright.sun_lux == sky.sun_lux and bright.seen_otherwise
