"""The light of the very places that pixels show: as known of fields of light, and as the light map has it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
import scipy

from altana.core.conventions import Bools, Floats, Floats32, Ints32
from altana.core.light.gloss import ROUGHNESS, SHEEN
from altana.core.light.light_scene import LightScene
from altana.core.light.lightmap import LightPoints, spread
from altana.core.light.map_texels import MapTexels
from altana.core.light.pixel_light import PixelLight, PixelPlaces, even_sheen, shines
from altana.core.light.shape import fan
from altana.core.light.sky import Sky, sky_of
from altana.core.light.transport import Cancelled, LightMap, solve
from altana.core.model import Lamp, Material, Model
from altana.core.project import Light
from tests.conftest import box_between, light_at, model_of

GREY = Material("Grey", (0.7, 0.7, 0.7, 1.0), roughness=0.95)
SKY = sky_of(Light())
#: A room without a south wall, on ground.
ROOM = (
    ("Ground", box_between((-9, -9, -0.4), (9, 9, -0.2)), GREY),
    ("Floor", box_between((0, 0, -0.2), (4, 4, 0)), GREY),
    ("Ceiling", box_between((0, 0, 2.8), (4, 4, 3)), GREY),
    ("West", box_between((-0.2, 0, -0.2), (0, 4, 3)), GREY),
    ("East", box_between((4, 0, -0.2), (4.2, 4, 3)), GREY),
    ("North", box_between((-0.2, 4, -0.2), (4.2, 4.2, 3)), GREY),
)
UP = (0.0, 0.0, 1.0)


def on(position: Floats, normal: Floats, rough: float = 0.9) -> PixelPlaces:
    """Places that are looked at from straight before them."""
    return PixelPlaces(position, normal, np.arange(len(position)), normal, np.full(len(position), rough))


def places(
    position: list[tuple[float, float, float]], normal: tuple[float, float, float] = UP
) -> PixelPlaces:
    facing = np.tile(np.array(normal, float), (len(position), 1))
    return on(np.array(position, float).reshape(-1, 3), facing)


def solved(model: Model, share: float = 0.5, sky: Sky = SKY) -> tuple[LightPoints, LightMap, PixelLight]:
    points, albedo = spread(model), np.full((len(model.materials), 3), share)
    made = solve(model, points, albedo, sky)
    return points, made, PixelLight(model, LightScene.of(model, albedo), MapTexels.of(made, model), sky)


def looked_up(made: LightMap, model: Model, place: Floats32, face: Ints32, back: Bools) -> Floats:
    """What is found of a light map, in the mean of every way in which dice may fall."""
    texels, count = MapTexels.of(made, model), 16
    steps = (np.arange(count) + 0.5) / count
    dice = np.stack(np.meshgrid(steps, steps), axis=-1).reshape(-1, 2, 1).repeat(len(face), axis=2)
    every = [texels.at(place, face, back, fallen) for fallen in dice.astype(np.float32)]
    mean: Floats = np.mean(every, axis=0, dtype=float)
    return mean


def gathered(light: PixelLight, where: PixelPlaces, rounds: int = 16) -> Floats:
    return np.mean([light.gathered(where, number).lux for number in range(rounds)], axis=0)


@pytest.fixture(scope="module")
def open_room() -> tuple[Model, LightPoints, LightMap, PixelLight]:
    """A room without a south wall, on ground."""
    model = model_of(*ROOM)
    return model, *solved(model)


def test_the_map_is_looked_up_as_it_is_drawn(
    open_room: tuple[Model, LightPoints, LightMap, PixelLight],
) -> None:
    model, points, made, _ = open_room
    charts = np.arange(0, len(points.texel), 7)
    face, place = points.face[charts].astype(np.int32), points.position[charts].astype(np.float32)
    front = np.zeros(len(face), bool)
    asked = looked_up(made, model, place, face, front)
    half = made.pixels.shape[0] // 2
    corner = model.vertices[model.faces[face]].astype(float)
    across = np.stack([corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0]], axis=2)
    share = np.einsum("ijk,ik->ij", np.linalg.pinv(across), place - corner[:, 0])
    within = (share >= 0.0).all(axis=1) & (share.sum(axis=1) <= 1.0)
    assert within.sum() > 100
    uv = made.uv[face].astype(float)
    at = uv[:, 0] + share[:, :1] * (uv[:, 1] - uv[:, 0]) + share[:, 1:] * (uv[:, 2] - uv[:, 0]) - 0.5
    for colour in range(3):
        upper = made.pixels[:half, :, colour]
        drawn = scipy.ndimage.map_coordinates(upper, [at[:, 1], at[:, 0]], order=1, mode="nearest")
        assert np.allclose(asked[within, colour], drawn[within], rtol=0.02, atol=2.0)
    # The back of what lies in a wall has another light than its front.
    back = looked_up(made, model, place, face, ~front)
    turned = replace(made, pixels=np.concatenate([made.pixels[half:], made.pixels[:half]]))
    assert np.allclose(back, looked_up(turned, model, place, face, front), rtol=1e-4)
    assert not np.allclose(back, asked, rtol=0.1)


def test_under_open_sky_it_is_the_irradiance_of_the_sky() -> None:
    """Half of the sky behind a black wall without end: half of the light of an even sky."""
    black = Material("Black", (0.0, 0.0, 0.0, 1.0), roughness=1.0)
    model = model_of(
        ("Ground", box_between((-5, -5, -1.2), (5, 5, -1.0)), black),
        ("Wall", box_between((-4000, 0.0, -0.5), (4000, 1.0, 4000)), black),
    )
    overcast = sky_of(Light(sky="overcast"))
    _, _, light = solved(model, 0.0, overcast)
    free = gathered(light, places([(0.0, 0.0, 9000.0)] * 64)).mean(axis=0)
    # The same number from the sky alone, by as many directions again.
    turn, up = np.random.default_rng(5).random((2, 200_000))
    way = np.stack(
        [np.sqrt(up) * np.cos(2 * np.pi * turn), np.sqrt(up) * np.sin(2 * np.pi * turn), np.sqrt(1 - up)], 1
    )
    whole = np.pi * overcast.luminance(way.astype(np.float32)).mean(axis=0)
    assert np.allclose(free, whole, rtol=0.02)
    beside = gathered(light, places([(0.0, -0.002, 0.0)] * 64)).mean(axis=0)
    assert np.allclose(beside, whole / 2, rtol=0.04)


def test_in_a_room_it_is_as_light_as_the_map_says(
    open_room: tuple[Model, LightPoints, LightMap, PixelLight],
) -> None:
    model, points, made, light = open_room
    floor = np.flatnonzero((points.owner == 1) & (points.normal[:, 2] > 0.9))
    inner = floor[(np.abs(points.position[floor, :2] - 2.0) < 1.4).all(axis=1)]
    where = on(points.position[inner], points.normal[inner])
    known = light_at(made, model, points.face[inner], points.position[inner])
    found = gathered(light, where, 32)
    assert abs(found.sum() / known.sum() - 1.0) < 0.05
    assert np.abs(found - known).sum() < 0.15 * known.sum()


def test_rounds_differ_and_are_the_same_each_time(
    open_room: tuple[Model, LightPoints, LightMap, PixelLight],
) -> None:
    light, where = open_room[3], places([(2.0, 3.0, 0.0), (2.0, 3.5, 0.0)])
    one, again, other = (light.gathered(where, number).lux for number in (0, 0, 1))
    assert np.array_equal(one, again) and not np.array_equal(one, other)
    # Neighbours that see the same have rays of their own: grain, not stripes.
    turns = where.turns(0)
    assert np.abs(turns[0] - turns[1]).max() > 0.01 and (turns >= 0).all() and (turns < 1).all()
    # A pixel's own rays do not depend on how many others there are.
    alone = where.only(np.array([1]))
    assert np.array_equal(alone.turns(3)[0], where.turns(3)[1])


def test_a_place_in_a_body_is_not_known(open_room: tuple[Model, LightPoints, LightMap, PixelLight]) -> None:
    light = open_room[3]
    found = light.gathered(places([(2.0, 2.0, 0.0), (2.0, 4.1, 1.0)]), 0)
    assert found.open.tolist() == [True, False]


def test_lamps_shine_straight_past_what_stands_there() -> None:
    model = model_of(
        ("Floor", box_between((-4, -4, -0.2), (4, 4, 0)), GREY),
        ("Table", box_between((0.5, -0.5, 0.7), (1.5, 0.5, 0.75)), GREY),
    )
    candela = 4000.0 / (4.0 * np.pi)
    lit = replace(model, lamps=(Lamp("Pendant", (0.0, 0.0, 2.0), 4000.0, 6500.0),))
    night = Light(hour=23.0)
    sky = sky_of(replace(night, lamps=night.lamps.burning(1.0)))
    _, _, light = solved(lit, 0.5, sky)
    straight = light.straight(places([(0.0, 0.0, 0.0), (1.4, 0.0, 0.0)]))
    assert straight[0].mean() == pytest.approx(candela / 4.0, rel=0.1) and straight[1].max() == 0.0
    dark = replace(light, sky=replace(sky, lamps=0.0))
    assert not dark.straight(places([(0.0, 0.0, 0.0)])).any()


@pytest.mark.slow
def test_behind_a_row_of_books_it_is_dark() -> None:
    """A hand from the outer face of its wall: the light of outside is not lent to what stands so close."""
    more = [
        ("South", box_between((-0.2, -0.2, -0.2), (3.4, 0, 3)), GREY),
        *(
            (f"Book {n}", box_between((0.02, 1 + 0.05 * n, 1.0), (0.2, 1.048 + 0.05 * n, 1.25)), GREY)
            for n in range(9)
        ),
    ]
    model = model_of(*ROOM, *more)
    _, made, light = solved(model)
    book = np.flatnonzero(model.face_objects() == 10)
    rear = book[light.scene.surfaces.normal[book, 0] < -0.9]
    place = model.vertices[model.faces[rear]].mean(axis=1)
    behind = looked_up(made, model, place, rear.astype(np.int32), np.zeros(len(rear), bool))
    wall = np.flatnonzero((model.face_objects() == 3) & (light.scene.surfaces.normal[:, 0] < -0.9))
    outside = looked_up(
        made,
        model,
        model.vertices[model.faces[wall]].mean(axis=1),
        wall.astype(np.int32),
        np.zeros(len(wall), bool),
    )
    assert behind.mean() < 0.02 * outside.mean()


def test_it_can_be_broken_off(
    open_room: tuple[Model, LightPoints, LightMap, PixelLight], monkeypatch: pytest.MonkeyPatch
) -> None:
    asked: list[float] = []

    def no(share: float) -> bool:
        asked.append(share)
        return False

    with pytest.raises(Cancelled):
        open_room[3].gathered(places([(2.0, 3.0, 0.0)] * 3), 0, no)
    assert asked


def test_nothing_seen_has_no_light(open_room: tuple[Model, LightPoints, LightMap, PixelLight]) -> None:
    found = open_room[3].gathered(places([]), 0)
    assert found.lux.shape == found.sheen.shape == (0, 3) and found.open.shape == (0,)


@pytest.mark.parametrize("rough", [0.3, 0.5, 0.7, 0.9])
def test_in_even_light_paint_shines_as_much_as_in_final_pictures(rough: float) -> None:
    """The mean over all ways it is looked at, as measured of the surfaces that those have (gloss.py); and as
    the fit for light from all sides has it."""
    ways, eyes = fan(10_000)[None].astype(np.float32), fan(48)
    up = np.tile(UP, (len(eyes), 1))
    where = replace(on(np.zeros((len(eyes), 3)), up, rough), to_eye=eyes)
    shone = np.pi * np.mean([shines(where.only(np.array([n])), ways).mean() for n in range(len(eyes))])
    assert shone == pytest.approx(SHEEN[ROUGHNESS.index(rough)], rel=0.06)
    even = float(even_sheen(where, np.full((len(eyes), 3), np.pi)).mean())
    assert even == pytest.approx(shone, rel=0.25)
    # What does not shine as paint does has none.
    bare = replace(where, rough=np.zeros(len(eyes)))
    assert not shines(bare, ways).any() and not even_sheen(bare, np.ones((len(eyes), 3))).any()


def test_a_floor_shines_towards_what_is_bright_beyond_it(
    open_room: tuple[Model, LightPoints, LightMap, PixelLight],
) -> None:
    """Seen against the open side of the room it has more sheen than seen from there."""
    light = open_room[3]
    position = np.tile((2.0, 2.0, 0.0), (256, 1)).astype(float)
    sheen = []
    for south in (-1.0, 1.0):
        way = np.array([0.0, -south * np.cos(np.radians(15.0)), np.sin(np.radians(15.0))])
        where = replace(on(position, np.tile(UP, (256, 1)), 0.5), to_eye=np.tile(way, (256, 1)))
        sheen.append(float(light.gathered(where, 0).sheen.mean()))
    against, along = sheen
    assert against > 2.0 * along > 0.0
