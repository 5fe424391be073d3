"""Materials as they are drawn: holes, veils, tinted glass, metal, glow, painted corners; large pictures
within a budget."""

from __future__ import annotations

import io
from collections.abc import Iterator
from dataclasses import replace

import numpy as np
import pytest
import trimesh
from PIL import Image

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.light.sky import sky_of
from altana.core.model import BLEND, GLASS, MASK, EncodedImage, Maps, Material, Model
from altana.core.project import Light
from altana.render import textures
from altana.render.coarse import MANY, coarser
from altana.render.quality import COARSE, FULL, Quality
from altana.render.renderer import Renderer
from altana.render.textures import A_PIXEL, fitting_sides
from tests.conftest import box_between, model_of

SKY = sky_of(Light(hour=12.0))
AHEAD = View(Pose((0.0, -4.0, 1.0)), Lens(36.0), 120, 120)
RED = Material("Red", (0.8, 0.1, 0.1, 1.0))


def encoded(pixels: np.ndarray) -> EncodedImage:
    buffer = io.BytesIO()
    Image.fromarray(pixels).save(buffer, "PNG")
    return EncodedImage("picture", buffer.getvalue())


def board(material: Material, *pictures: np.ndarray) -> Model:
    """A board of 2 x 2 m before a red wall, its picture once over it."""
    model = model_of(
        ("Board", box_between((-1, 0, 0), (1, 0.02, 2)), material),
        ("Wall", box_between((-6, 3, -3), (6, 3.2, 6)), RED),
    )
    uvs = np.column_stack([(model.vertices[:, 0] + 1) / 2, model.vertices[:, 2] / 2]).astype(np.float32)
    return replace(model, uvs=uvs, images=tuple(encoded(item) for item in pictures))


@pytest.fixture
def shown() -> Iterator[list[Renderer]]:
    renderers: list[Renderer] = []
    yield renderers
    for item in renderers:
        item.close()


def drawn(model: Model, shown: list[Renderer], quality: Quality = FULL, view: View = AHEAD) -> np.ndarray:
    shown.append(Renderer(model))
    picture = shown[-1].picture(view, SKY, 13.0, quality)
    assert picture is not None
    return picture.astype(float)


def half_holed() -> np.ndarray:
    """Green; its left half is not there."""
    pixels = np.zeros((64, 64, 4), np.uint8)
    pixels[..., :3] = (40, 160, 60)
    pixels[:, 32:, 3] = 255
    return pixels


def test_holes_show_what_lies_behind_and_throw_no_shadow(shown: list[Renderer]) -> None:
    leaf = Material("Leaf", (1.0, 1.0, 1.0, 1.0), 0, alpha=MASK)
    picture = drawn(board(leaf, half_holed()), shown)
    left, right = picture[60, 40], picture[60, 80]
    assert left[0] > 1.5 * left[1] and right[1] > 1.5 * right[0]
    index = shown[0].facts(AHEAD).object_index
    assert index[60, 40] == 1 and index[60, 80] == 0


def test_an_opacity_picture_of_its_own_makes_holes_too(shown: list[Renderer]) -> None:
    colour, veil = np.full((64, 64, 3), (40, 160, 60), np.uint8), np.zeros((64, 64), np.uint8)
    veil[:, 32:] = 255
    leaf = Material("Leaf", (1.0, 1.0, 1.0, 1.0), 0, alpha=MASK, maps=Maps(opacity=1))
    drawn(board(leaf, colour, veil), shown)
    index = shown[0].facts(AHEAD).object_index
    assert index[60, 40] == 1 and index[60, 80] == 0


def test_in_software_textures_are_not_followed_along_however_many_the_samples(shown: list[Renderer]) -> None:
    """Mesa's llvmpipe does not come back where a surface runs past the eye and its texture is to stay sharp
    along it."""
    shown.append(Renderer(board(Material("Sign", (1.0, 1.0, 1.0, 1.0), 0), half_holed())))
    assert shown[-1].master(AHEAD, SKY, Quality(passes=32)) is not None
    arrays = shown[-1]._shown.scene.textures.arrays
    software = "llvmpipe" in shown[-1].context.info["GL_RENDERER"]
    assert len(arrays) == 1 and (arrays[0].anisotropy == 1.0) == software


@pytest.mark.slow
def test_a_veil_is_as_dense_as_it_says(shown: list[Renderer]) -> None:
    pixels = np.full((8, 8, 4), 255, np.uint8)
    pixels[..., 3] = 77
    light = []
    for material, picture in (
        (Material("Veil", (1.0, 1.0, 1.0, 1.0), 0, alpha=BLEND), pixels),
        (Material("Veil", (1.0, 1.0, 1.0, 1.0), 0, alpha=MASK), np.zeros((8, 8, 4), np.uint8)),
        (Material("Veil", (1.0, 1.0, 1.0, 1.0)), pixels),
    ):
        shown.append(Renderer(board(material, picture)))
        # A small exposure keeps the weighing of bright light from counting.
        master = shown[-1].master(AHEAD, SKY, Quality(passes=32), ev=20.0)
        assert master is not None
        light.append(master.light[40:80, 40:80].mean(axis=(0, 1)))
    thin, bare, full = light
    assert (thin - bare)[1] / (full - bare)[1] == pytest.approx(77 / 255, abs=0.06)


def test_glass_takes_its_tint(shown: list[Renderer]) -> None:
    white = replace(RED, colour=(0.9, 0.9, 0.9, 1.0))
    pane = model_of(
        (
            "Pane",
            box_between((-1, 0, 0), (1, 0.02, 2)),
            Material("Green", (0.1, 0.8, 0.2, 0.4), roughness=0.1, kind=GLASS),
        ),
        ("Wall", box_between((-6, 3, -3), (6, 3.2, 6)), white),
    )
    clear = replace(
        pane, materials=(Material("Clear", (0.95, 0.95, 0.95, 0.1), roughness=0.1, kind=GLASS), white)
    )
    tinted, plain = drawn(pane, shown)[60, 60], drawn(clear, shown)[60, 60]
    assert tinted[1] > 1.15 * tinted[0] and abs(plain[1] - plain[0]) < 0.06 * plain[0]


def test_what_glows_is_bright_without_light_and_metal_is_no_plaster(shown: list[Renderer]) -> None:
    night = replace(SKY, sun_lux=(1.0, 1.0, 1.0), scale=1.0)
    shown.append(Renderer(board(Material("Sign", (0.0, 0.0, 0.0, 1.0), emission=(1.0, 0.2, 0.0)))))
    picture = shown[-1].picture(AHEAD, night, 10.0, FULL)
    assert picture is not None and picture[60, 60, 0] > 200 and picture[60, 60, 0] > 2 * picture[60, 60, 2]
    brass = drawn(board(Material("Brass", (0.9, 0.6, 0.25, 1.0), roughness=0.1, metal=1.0)), shown)
    paint = drawn(board(Material("Paint", (0.9, 0.6, 0.25, 1.0), roughness=0.9)), shown)
    assert np.abs(brass[60, 60] - paint[60, 60]).max() > 10


def test_painted_corners_blend_over_a_surface(shown: list[Renderer]) -> None:
    model = board(Material("Paint", (1.0, 1.0, 1.0, 1.0)))
    colours = np.full((len(model.vertices), 4), 255, np.uint8)
    colours[model.vertices[:, 2] < 1.0, :3] = (20, 20, 220)
    picture = drawn(replace(model, colours=colours), shown)
    low, high = picture[85, 60], picture[35, 60]
    assert low[2] > 1.5 * low[0] and high[2] < 1.2 * high[0]
    # A model without painted corners after it is drawn by other programs again.
    shown[0].show(model)
    assert shown[0].picture(AHEAD, SKY, 13.0, FULL) is not None


def test_a_sign_can_be_read(shown: list[Renderer]) -> None:
    """Stripes of one pixel in two thousand stay stripes when looked at closely."""
    stripes = np.zeros((2048, 2048, 3), np.uint8)
    stripes[:, ::2] = 255
    close = View(Pose((0.0, -0.05, 1.0)), Lens(36.0), 100, 100)
    row = drawn(board(Material("Sign", (1.0, 1.0, 1.0, 1.0), 0), stripes), shown, FULL, close)[50, :, 0]
    assert row.max() - row.min() > 60 and (np.abs(np.diff(row)) > 10).sum() > 20


def test_pictures_are_kept_at_their_size_within_a_budget() -> None:
    assert fitting_sides([300, 4096, 0]) == [512, 4096, 0]
    many = fitting_sides([4096] * 40 + [200], budget=256 << 20)
    assert (
        sum(side * side * A_PIXEL for side in many) <= 256 << 20 and many[-1] == 256 and min(many[:40]) >= 512
    )


def test_coarser_versions_keep_corners_and_place() -> None:
    ball = trimesh.creation.icosphere(4, 0.5)
    copies = MANY // len(ball.faces) + 2
    parts = []
    for number in range(3):
        moved = ball.copy()
        moved.apply_translation((number * 2.0, 5.0, 1.0))
        parts.append((f"Ball {number}", moved, RED))
    small = model_of(*parts)
    low = np.array([item[1].bounds[0] for item in parts])
    high = np.array([item[1].bounds[1] for item in parts])
    assert len(coarser(small, low, high)[0]) == 0  # few triangles need none
    large = replace(small, faces=np.tile(small.faces, (copies, 1)))
    faces, counts = coarser(large, low, high)
    assert (counts > 50).all() and (counts < 0.4 * len(ball.faces)).all() and counts.sum() == len(faces)
    first = large.vertices[faces[: counts[0]]]
    assert first.min(axis=(0, 1)) == pytest.approx(low[0], abs=0.1) and first.max(
        axis=(0, 1)
    ) == pytest.approx(high[0], abs=0.1)


def test_the_moving_picture_of_a_large_model_looks_like_the_still_one(shown: list[Renderer]) -> None:
    ball = trimesh.creation.icosphere(4, 0.4)
    parts = []
    for number in range(130):
        moved = ball.copy()
        moved.apply_translation((number % 13 - 6.0, 14.0 + number // 13, 0.5 + number % 7 * 0.5))
        parts.append((f"Ball {number}", moved, RED))
    model = model_of(*parts)
    assert len(model.faces) > MANY
    view = View(Pose((0.0, -4.0, 1.0)), Lens(30.0), 128, 72)
    shown.append(Renderer(model))
    coarse, exact = (
        shown[0].picture(view, SKY, 13.0, quality) for quality in (COARSE, replace(COARSE, small_px=0.0))
    )
    assert coarse is not None and exact is not None
    assert shown[0]._shown.scene.solid.coarse_count.sum() > 0
    assert np.abs(coarse.astype(float) - exact.astype(float)).mean() < 6.0


def test_pictures_that_are_the_same_stay_on_the_card(
    shown: list[Renderer], monkeypatch: pytest.MonkeyPatch
) -> None:
    """A mend, another light or a moved object bring the model anew, but not its pictures; others are shown as
    they are."""
    decodes: list[EncodedImage] = []
    whole = textures.decoded
    monkeypatch.setattr(textures, "decoded", lambda item: (decodes.append(item), whole(item))[1])
    plain = np.full((64, 64, 3), (40, 160, 60), np.uint8)
    sign, blue = Material("Sign", (1.0, 1.0, 1.0, 1.0), 0), np.full((64, 64, 3), (40, 60, 180), np.uint8)
    before = drawn(board(sign, plain), shown)
    assert len(decodes) == 1
    renderer = shown[0]

    def again(model: Model) -> np.ndarray:
        renderer.show(model)
        picture = renderer.picture(AHEAD, SKY, 13.0, FULL)
        assert picture is not None
        return picture.astype(float)

    # Read anew, with a picture that nothing shows before it, and with another material: the picture shown is
    # the same.
    same = board(replace(sign, name="Board", image=1, roughness=0.9), blue, plain)
    assert np.abs(again(same)[50:70, 50:70] - before[50:70, 50:70]).max() < 8.0
    assert len(decodes) == 1
    # Another picture, and then none at all.
    assert again(board(sign, blue))[60, 60].argmax() == 2
    assert len(decodes) == 2
    assert np.ptp(again(board(Material("White", (1.0, 1.0, 1.0, 1.0))))[60, 60]) < 40.0
    assert again(board(sign, plain))[60, 60] == pytest.approx(before[60, 60], abs=1.0)
