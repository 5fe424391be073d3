"""What counters and panes in rooms mirror: the room itself, wherever one looks from."""

from __future__ import annotations

import re
from dataclasses import replace

import numpy as np
import pytest
import trimesh

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.light.lightmap import spread
from altana.core.light.sky import sky_of
from altana.core.light.transport import LightMap, solve
from altana.core.model import GLASS, Material, Model, Room
from altana.core.project import Light
from altana.core.staging import WHOLE, Staging
from altana.render import flat_mirrors
from altana.render.context import shader
from altana.render.folded import BORDER_PX, FACE_PX, LEVELS, ROUGH, SHARP_PX, SOFT_PX, folded, unfolded
from altana.render.mirrors import ROUGHEST, SAME_M
from altana.render.panorama import FACES, Place, face_view
from altana.render.quality import FULL, Quality
from altana.render.renderer import Renderer
from altana.render.rooms import INTO_M, OFF_M, Boxes, eye_in
from tests.conftest import box_between, model_of

SKY = sky_of(Light(hour=12.0))
SEVERAL = Quality(passes=6)
RED = Material("Red", (0.9, 0.05, 0.05, 1.0), roughness=1.0)
GREY = Material("Matt", (0.5, 0.5, 0.5, 1.0), roughness=1.0)
#: Too rough for a sharp picture.
LACQUER = Material("Lacquer", (0.1, 0.1, 0.1, 1.0), roughness=0.15)
PANE = Material("Glass", (0.9, 0.9, 0.9, 0.1), roughness=0.0, kind=GLASS)


def square(low: tuple[float, float], high: tuple[float, float]) -> tuple[tuple[float, float], ...]:
    return (low, (high[0], low[1]), high, (low[0], high[1]))


def room(name: str, outline: tuple[tuple[float, float], ...], ceiling: float = 3.0) -> Room:
    return Room(name, name, "g", outline, 0.0, ceiling)


def hall(panel: Material, *more: tuple[str, trimesh.Trimesh, Material]) -> Model:
    """A room of 6 x 4 x 3 m without a roof; its west wall is red, a panel stands before the east one, and
    whatever ``more``."""
    model = model_of(
        ("Floor", box_between((-0.2, -0.2, -0.2), (6.2, 4.2, 0)), GREY),
        ("West", box_between((-0.2, -0.2, 0), (0, 4.2, 3)), RED),
        ("East", box_between((6, -0.2, 0), (6.2, 4.2, 3)), GREY),
        ("South", box_between((0, -0.2, 0), (6, 0, 3)), GREY),
        ("North", box_between((0, 4, 0), (6, 4.2, 3)), GREY),
        ("Panel", box_between((5.8, 0.5, 0.3), (5.85, 3.5, 2.8)), panel),
        *more,
    )
    return replace(model, rooms=(room("Hall", square((0.0, 0.0), (6.0, 4.0))),))


#: Towards the panel, a little from the side.
VIEW = View(Pose((3.0, 2.0, 1.5), 80.0), Lens(24.0), 200, 140)


def lit(model: Model) -> tuple[Model, LightMap]:
    albedo = np.full((len(model.materials), 3), 0.4)
    return model, solve(model, spread(model, 1_500), albedo, sky_of(Light(hour=12.0)))


def light(
    model: Model,
    renderers: list[Renderer],
    quality: Quality = SEVERAL,
    view: View = VIEW,
    staging: Staging = WHOLE,
) -> np.ndarray:
    renderers.append(Renderer(*lit(model)))
    light = renderers[-1].master(view, SKY, quality, staging=staging)
    assert light is not None
    return light.light


def redness(picture: np.ndarray) -> float:
    """How much more red than blue the middle of a picture has, as a share."""
    middle = picture[50:90, 70:130].reshape(-1, 3).mean(axis=0)
    return float((middle[0] - middle[2]) / middle.mean())


# ---------------------------------------------------------------------- folded pictures


def test_a_folded_picture_shows_each_direction_where_it_lies() -> None:
    faces = np.empty((len(FACES), FACE_PX, FACE_PX, 3), np.float32)
    y, x = np.mgrid[0:FACE_PX, 0:FACE_PX] + 0.5
    for into, name in zip(faces, FACES, strict=True):
        along = face_view(Place((0.0, 0.0, 0.0)), name, FACE_PX, 0.0).rays(
            np.column_stack([x.ravel(), y.ravel()])
        )
        into[:] = (along / np.linalg.norm(along, axis=1, keepdims=True)).reshape(FACE_PX, FACE_PX, 3)
    sharp, soft = folded(faces)
    # Beyond the fold, too: between texels nothing jumps.
    assert np.abs(sharp - unfolded(sharp.shape[0] - 2)).max() < 0.01
    assert np.abs(np.diff(sharp, axis=0)).max() < 0.05 and np.abs(np.diff(sharp, axis=1)).max() < 0.05
    assert soft.shape == (LEVELS, SOFT_PX + 2, SOFT_PX + 2, 3)
    wanted = unfolded(SOFT_PX)
    # A blurred picture of directions points the same way, and is the shorter the more it is blurred.
    length = np.linalg.norm(soft, axis=3)
    assert ((soft / length[..., None] * wanted).sum(axis=3) > 0.99).all()
    means = length.mean(axis=(1, 2))
    assert (np.diff(means) < -0.01).all() and means[0] > 0.9
    # By the cosine law the mean of directions about one is two thirds of it.
    assert means[-1] == pytest.approx(2.0 / 3.0, abs=0.01)


def test_even_light_stays_even_however_it_is_blurred() -> None:
    sharp, soft = folded(np.full((len(FACES), FACE_PX, FACE_PX, 3), 7.0, np.float32))
    assert np.allclose(sharp, 7.0, rtol=1e-5) and np.allclose(soft, 7.0, rtol=1e-5)


def test_shader_and_tables_agree_about_squares_and_rooms() -> None:
    text = shader("rooms.glsl")

    def said(name: str) -> float:
        match = re.search(rf"\b{name} = ([\d.]+)", text)
        assert match is not None
        return float(match.group(1))

    assert (said("LEVELS"), said("SHARP_PX"), said("SOFT_PX")) == (LEVELS, SHARP_PX, SOFT_PX)
    assert (said("OFF"), said("INTO")) == (OFF_M, INTO_M)
    # Levels are looked up at the roughness they were made for, and the border is a texel wide.
    assert ROUGH == (0.25, 0.5) and "rough * 4.0" in text and BORDER_PX == 1
    assert f"< {SAME_M}" in shader("level.frag") and f"ROUGHEST = {ROUGHEST};" in shader("light.frag")


# ---------------------------------------------------------------------- rooms as boxes


def test_a_wall_belongs_to_the_room_before_it() -> None:
    model = replace(
        hall(GREY),
        rooms=(room("West", square((0.0, 0.0), (3.0, 4.0))), room("East", square((3.1, 0.0), (9.0, 4.0)))),
    )
    boxes = Boxes.of(model)
    assert [item.name for item in boxes.rooms] == ["West", "East"]
    places = np.array([(3.0, 2.0, 1.0), (3.1, 2.0, 1.0), (9.0, 2.0, 1.0), (9.2, 2.0, 1.0)])
    facing = np.array([(-1.0, 0, 0), (1.0, 0, 0), (-1.0, 0, 0), (1.0, 0, 0)])
    assert boxes.before(places, facing).tolist() == [0, 1, 1, -1]


@pytest.mark.parametrize("turn", [0.0, 30.0, 75.0, 140.0])
def test_a_turned_room_is_a_turned_box(turn: float) -> None:
    angle = np.radians(turn)
    matrix = np.array([(np.cos(angle), -np.sin(angle)), (np.sin(angle), np.cos(angle))])
    outline = np.array(square((0.0, 0.0), (8.0, 2.0))) @ matrix.T
    boxes = Boxes.of(
        replace(hall(GREY), rooms=(room("Aslant", tuple(map(tuple, outline.tolist()))),))  # type: ignore[arg-type]
    )
    sides = sorted((boxes.high - boxes.low)[0, :2].tolist())
    assert sides == pytest.approx([2.0, 8.0], abs=1e-6)
    inside, outside = (np.array([(*(np.array(at) @ matrix.T), 1.0)]) for at in ((7.5, 1.0), (4.0, 3.0)))
    up = np.array([(0.0, 0.0, 1.0)])
    assert boxes.before(inside, up).tolist() == [0] and boxes.before(outside, up).tolist() == [-1]


def test_a_room_is_looked_round_from_clear_of_what_stands_in_it() -> None:
    wide = room("Wide", square((0.0, 0.0), (6.0, 4.0)))
    cupboard = np.array([(2.0, 1.2, 0.0)]), np.array([(4.0, 2.8, 2.2)])
    x, y, z = eye_in(wide, *cupboard)
    assert not (1.9 < x < 4.1 and 1.1 < y < 2.9) and 0.4 < x < 5.6 and 0.4 < y < 3.6 and z == 1.5
    # A low room is looked round from half way up.
    assert eye_in(replace(wide, ceiling_m=1.6), *cupboard)[2] == pytest.approx(0.8)


# ---------------------------------------------------------------------- pictures


@pytest.mark.slow
def test_lacquer_mirrors_the_wall_behind_one_and_matt_paint_does_not(renderers: list[Renderer]) -> None:
    lacquered = redness(light(hall(LACQUER), renderers))
    alone = redness(light(replace(hall(LACQUER), rooms=()), renderers))
    matt = redness(light(hall(replace(LACQUER, roughness=0.9)), renderers))
    assert lacquered > alone + 0.2
    assert lacquered > matt + 0.2
    # Pictures drawn in passing show nothing of it.
    assert redness(light(hall(LACQUER), renderers, FULL)) < lacquered - 0.2


@pytest.mark.slow
def test_a_pane_mirrors_the_room(renderers: list[Renderer], monkeypatch: pytest.MonkeyPatch) -> None:
    # One among many, for which no picture of its own is drawn.
    monkeypatch.setattr(flat_mirrors, "MOST_PLANES", 0)
    pane = light(hall(PANE), renderers)
    assert redness(pane) > redness(light(replace(hall(PANE), rooms=()), renderers)) + 0.01


def test_what_is_left_out_of_a_picture_is_not_mirrored(renderers: list[Renderer]) -> None:
    whole = redness(light(hall(LACQUER), renderers))
    assert redness(light(hall(LACQUER), renderers, staging=Staging(omitted=(1,)))) < whole - 0.2


@pytest.mark.slow
def test_a_room_is_mirrored_the_same_whatever_was_drawn_before(renderers: list[Renderer]) -> None:
    fresh = light(hall(LACQUER), renderers)
    used = renderers[0]
    other = replace(VIEW, pose=Pose((1.0, 1.0, 1.2), 40.0))
    for sky in (sky_of(Light(hour=9.0)), SKY):
        assert used.master(other, sky, SEVERAL) is not None
    again = used.master(VIEW, SKY, SEVERAL)
    assert again is not None and np.array_equal(again.light, fresh)
    elsewhen = used.master(VIEW, sky_of(Light(hour=9.0)), SEVERAL)
    assert elsewhen is not None and not np.array_equal(elsewhen.light, fresh)


@pytest.mark.slow
def test_nobody_waits_for_all_pictures_of_rooms(renderers: list[Renderer]) -> None:
    """They can be broken off after each side, and what was begun is made anew."""
    fresh = light(hall(LACQUER), renderers)
    told: list[float] = []

    def stop(share: float) -> bool:
        told.append(share)
        return len(told) < 4

    light(replace(hall(LACQUER), rooms=()), renderers)
    used = renderers[-1]
    used.show(*(lit(hall(LACQUER))))
    assert used.master(VIEW, SKY, SEVERAL, progress=stop) is None
    assert told == [0.0] * 4
    again = used.master(VIEW, SKY, SEVERAL)
    assert again is not None and np.array_equal(again.light, fresh)


def test_without_soft_light_no_room_is_mirrored(renderers: list[Renderer]) -> None:
    dark = []
    for model in (hall(LACQUER), replace(hall(LACQUER), rooms=())):
        renderers.append(Renderer(model))
        light = renderers[-1].master(VIEW, SKY, SEVERAL)
        assert light is not None
        dark.append(light.light)
    assert np.array_equal(*dark)


def test_rough_things_mirror_no_lamps() -> None:
    """A lamp in the middle of a room is mirrored as if it were on a wall: sharply, if at all."""
    dim = np.ones((6, FACE_PX, FACE_PX, 3), np.float32)
    dim[0, 40:100, 30:90] = 50.0
    faces = dim.copy()
    faces[2, 70:75, 70:75] = 20_000.0
    sharp, soft = folded(faces, dim)
    dim_sharp, dim_soft = folded(dim)
    # The lamp is gone from what is blurred by a lobe, and from nothing else.
    assert np.array_equal(soft[:-1], dim_soft[:-1])
    assert soft[-1].max() > 1.5 * dim_soft[-1].max()
    assert sharp.max() > 15_000.0 > dim_sharp.max()
    assert folded(faces)[1][0].max() > 10.0 * dim_soft[0].max()


@pytest.mark.parametrize(
    ("roughness", "gleams"), [(0.0, True), pytest.param(0.5, False, marks=pytest.mark.slow)]
)
def test_a_lamp_gleams_on_what_is_smooth(roughness: float, gleams: bool) -> None:
    """Its light is known as soft light alone; here nobody reckoned with it, so that all that comes is what is
    mirrored."""
    bulb = Material("Bulb", (1.0, 1.0, 1.0, 1.0), emission=(20.0, 20.0, 20.0), lamp="Bulbs")
    panel = Material("Panel", (0.8, 0.8, 0.8, 1.0), roughness=roughness, metal=1.0)
    model = hall(panel, ("Bulb", box_between((2.0, 1.9, 2.2), (2.2, 2.1, 2.4)), bulb))
    dark = solve(model, spread(model), np.full((len(model.materials), 3), 0.5), SKY)
    renderer = Renderer(model, dark)
    pictures = []
    for share in (0.0, 1.0):
        master = renderer.master(VIEW, replace(SKY, lamps=share), SEVERAL, True)
        assert master is not None
        pictures.append(master.light[..., 1])
    renderer.close()
    assert ((pictures[1] - pictures[0]).max() > 0.1 * pictures[0].max()) == gleams
