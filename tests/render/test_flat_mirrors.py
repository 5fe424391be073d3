"""Panes, looking-glasses and lacquered fronts: what they mirror lies where it must, as sharp as it must, and
nowhere else."""

from __future__ import annotations

import re
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.light.sky import sky_of
from altana.core.model import GLASS, Material, Model
from altana.core.project import Light
from altana.core.staging import WHOLE, Staging
from altana.render import flat_mirrors
from altana.render import quality as quality_module
from altana.render.context import shader
from altana.render.flat_mirrors import (
    MOST_PLANES,
    ROUGHEST,
    STRAIGHT,
    FlatMirror,
    mirrors_sharply,
    thrown_back,
)
from altana.render.panorama import Place, face_view, square_of
from altana.render.quality import FULL, Quality
from altana.render.renderer import Renderer
from tests.conftest import box_between, model_of

SKY = sky_of(Light(hour=12.0))
SHARP = Quality(passes=6)
RED = Material("Red", (0.9, 0.05, 0.05, 1.0), roughness=1.0)
GREY = Material("Matt", (0.25, 0.25, 0.25, 1.0), roughness=0.9)
SILVER = Material("Silver", (0.95, 0.95, 0.95, 1.0), roughness=0.0, metal=1.0)
LACQUER = Material("Lacquer", (0.02, 0.02, 0.02, 1.0), roughness=0.05)
PANE = Material("Glass", (0.9, 0.9, 0.9, 0.1), roughness=0.0, kind=GLASS)
#: Beside a post, towards what mirrors, so that the post itself is not seen.
VIEW = View(Pose((1.0, -4.0, 1.6), 0.0), Lens(24.0), 240, 160)
#: The corners of the post.
POST = [(x, y, z) for x in (-0.6, -0.2) for y in (-4.2, -3.8) for z in (0.2, 2.4)]


def front(material: Material) -> Model:
    """A wall of 8 x 4 m to the north with something before it, on a floor; a red post stands beside the eye,
    out of sight."""
    return model_of(
        ("Floor", box_between((-10, -10, -0.3), (10, 2, 0)), GREY),
        ("Wall", box_between((-4, 0.05, 0), (4, 0.3, 4)), GREY),
        ("Front", box_between((-3, 0.0, 0.1), (3, 0.02, 3.5)), material),
        ("Post", box_between((-0.6, -4.2, 0.2), (-0.2, -3.8, 2.4)), RED),
    )


def light(
    model: Model, renderers: list[Renderer], quality: Quality = SHARP, view: View = VIEW, staging: Staging = WHOLE
) -> np.ndarray:  # fmt: skip
    if not renderers:
        renderers.append(Renderer(model))
    elif renderers[-1]._shown.model is not model:
        renderers[-1].show(model)
    master = renderers[-1].master(view, SKY, quality, staging=staging)
    assert master is not None
    return master.light


def redness(picture: np.ndarray) -> np.ndarray:
    """(height, width) how much more red than blue each pixel has, as a share of its brightness."""
    red: np.ndarray = (picture[..., 0] - picture[..., 2]) / np.maximum(picture.max(axis=2), 1e-6)
    return red


def seen_in_the_mirror(view: View = VIEW) -> tuple[int, int, int, int]:
    """First and last column, first and last row of the post as a plane at y = 0 mirrors it."""
    turned = np.array([(x, -y, z) for x, y, z in POST])
    pixels = view.project(turned)
    low, high = np.rint(pixels[:, :2].min(axis=0)).astype(int), np.rint(pixels[:, :2].max(axis=0)).astype(int)
    return int(low[0]), int(high[0]), int(low[1]), int(high[1])


@settings(max_examples=80)
@given(
    st.floats(-170, 170), st.floats(-70, 70), st.floats(-30, 30), st.floats(-12, 12), st.floats(-12, 12), st.floats(0.0, 1.5),
    st.tuples(st.floats(-1, 1), st.floats(-1, 1), st.floats(-1, 1)).filter(lambda way: np.linalg.norm(way) > 0.1),
    st.tuples(st.floats(-20, 20), st.floats(-20, 20), st.floats(1.6, 12)),
)  # fmt: skip
def test_the_view_from_behind_shows_what_a_plane_mirrors(
    heading: float, tilt: float, roll: float, rise: float, cross: float, at: float,
    way: tuple[float, float, float], place: tuple[float, float, float],
) -> None:  # fmt: skip
    view = View(
        Pose((1.0, 2.0, 1.6), heading, tilt, roll), Lens(28.0, rise_mm=rise, cross_mm=cross), 300, 200
    )
    normal = np.array(way) / np.linalg.norm(way)
    x, y, z = normal.tolist()
    mirror = FlatMirror((x, y, z), at, (0.0, 0.0, 1.0, 1.0))
    turned = np.array(place) - 2.0 * (normal @ np.array(place) - at) * normal
    seen, behind = view.project(turned[None])[0], mirror.behind(view).project(np.array([place]))[0]
    assert seen[2] == pytest.approx(behind[2], abs=1e-6)
    if seen[2] > 0.05:
        # The same row, and the column counted from the other end.
        assert 300.0 - behind[0] == pytest.approx(seen[0], abs=1e-5 * max(abs(seen[0]), 1.0))
        assert behind[1] == pytest.approx(seen[1], abs=1e-5 * max(abs(seen[1]), 1.0))


def test_a_looking_glass_shows_what_stands_before_it(renderers: list[Renderer]) -> None:
    left, right, top, bottom = seen_in_the_mirror()
    red = redness(light(front(SILVER), renderers)) > 0.3
    rows, columns = np.nonzero(red[: bottom + 3])
    assert (columns.min(), columns.max() + 1) == pytest.approx((left, right), abs=1)
    assert (rows.min(), rows.max() + 1) == pytest.approx((top, bottom), abs=1)
    assert red[top + 2 : bottom - 2, left + 2 : right - 4].all()
    # What is left out is not mirrored, and pictures drawn in passing mirror nothing.
    assert not (redness(light(front(SILVER), renderers, staging=Staging(omitted=(3,)))) > 0.3).any()
    assert not (redness(light(front(SILVER), renderers, FULL)) > 0.3).any()


def test_panes_and_lacquer_show_it_faintly_and_matt_paint_does_not(renderers: list[Renderer]) -> None:
    left, right, top, bottom = seen_in_the_mirror()
    added = {}
    for name, material in {
        "silver": SILVER,
        "pane": PANE,
        "lacquer": LACQUER,
        "matt": replace(LACQUER, roughness=0.5),
    }.items():
        model = front(material)
        both = [light(model, renderers, staging=staging) for staging in (Staging(omitted=(3,)), WHOLE)]
        without, with_post = (
            picture[top + 2 : bottom - 2, left + 2 : right - 4].reshape(-1, 3).mean(axis=0)
            for picture in both
        )
        # The post hides the sky: what of its blue goes is what was mirrored.
        added[name] = float(without[2] - with_post[2])
    assert added["pane"] / added["silver"] == pytest.approx(0.2, abs=0.06)
    assert added["lacquer"] / added["silver"] == pytest.approx(0.04, abs=0.02)
    assert abs(added["matt"] / added["silver"]) < 0.01


def test_nothing_behind_the_plane_is_mirrored(renderers: list[Renderer]) -> None:
    """From behind its plane one would see the wall's back; the eye of the mirrored picture stands within what
    lies there."""
    walled = model_of(
        ("Floor", box_between((-10, -10, -0.3), (10, 2, 0)), GREY),
        ("Wall", box_between((-4, 0.05, 0), (4, 9.0, 4)), RED),
        ("Front", box_between((-3, 0.0, 0.1), (3, 0.02, 3.5)), SILVER),
    )
    shown = redness(light(walled, renderers))[60:100, 60:180]
    assert shown.max() < 0.3


def test_tiles_of_a_picture_meet(renderers: list[Renderer], monkeypatch: pytest.MonkeyPatch) -> None:
    model = front(SILVER)
    whole = light(model, renderers)
    monkeypatch.setattr(quality_module, "TILE_PX", 96)
    parts = light(model, renderers)
    glass = np.s_[40:110, 40:200]
    apart = np.abs(np.log2(parts[glass] / whole[glass])).mean(axis=2)
    # Edges are drawn from other parts of their pixels; nothing else differs.
    assert np.median(apart) < 0.01 and (apart > 0.2).mean() < 0.02


def test_faces_of_a_panorama_mirror_the_same(renderers: list[Renderer]) -> None:
    """A glazed wall runs over the border of two faces, and is as bright on either side."""
    place = Place((1.0, -4.0, 1.6), 45.0)
    model = front(SILVER)
    faces = [
        square_of(light(model, renderers, view=face_view(place, name, 96)), 96) for name in ("left", "front")
    ]
    # Their borders: to the north of the eye.
    last, first = faces[0][40:60, -1], faces[1][40:60, 0]
    assert np.abs(np.log2(last / first)).max() < 0.2


def test_planes_that_are_worth_about_the_same_fade() -> None:
    """Of a round tower of panes none is mirrored alone, and none comes or goes at once."""
    plane = FlatMirror((0.0, -1.0, 0.0), 0.0, (0.0, 0.0, 1.0, 1.0))
    equal = flat_mirrors._fading([(plane, 0.01)] * (MOST_PLANES + 1))
    assert equal == ()
    clear = flat_mirrors._fading([(plane, 0.1), (plane, 0.015), *[(plane, 0.01)] * (MOST_PLANES - 1)])
    assert [item.share for item in clear] == pytest.approx([1.0, 0.5])


def test_what_mirrors_sharply() -> None:
    materials = (PANE, replace(PANE, roughness=0.5), SILVER, replace(SILVER, roughness=0.3), LACQUER, GREY)
    straight = thrown_back(materials, np.arange(6), np.ones(6))
    assert straight == pytest.approx([0.2, 0.0, 0.8, 0.0, 0.04, 0.0])
    along = thrown_back(materials, np.arange(6), np.full(6, 0.1))
    assert (along[[0, 2, 4]] > straight[[0, 2, 4]]).all() and not along[[1, 3, 5]].any()
    assert mirrors_sharply((GREY, LACQUER)) and not mirrors_sharply((GREY, replace(SILVER, roughness=0.3)))
    glowing = (replace(SILVER, emission=(1.0, 1.0, 1.0)),)
    assert thrown_back(glowing, np.zeros(1, int), np.ones(1)) == pytest.approx([0.0])


def test_shaders_and_tables_agree_about_planes() -> None:
    text = shader("glass.frag").replace("#ifdef FLATS", "").replace("#endif", "")
    assert {int(count) for count in re.findall(r"u_flat_\w+\[(\d+)\]", text)} == {MOST_PLANES}
    assert float(re.search(r"STRAIGHT = ([\d.]+);", text)[1]) == STRAIGHT  # type: ignore[index]
    sharpest = re.search(r"SHARPEST = ([\d.]+);", shader("light.frag"))
    # The roughness of a pixel comes in steps of a sixty-third.
    assert sharpest is not None
    assert ROUGHEST < float(sharpest[1]) < ROUGHEST + 1 / 63


def test_planes_of_a_view_are_found(renderers: list[Renderer]) -> None:
    light(front(PANE), renderers)
    planes = renderers[-1]._mirrors._flats.planes(VIEW)
    assert planes[0].normal == pytest.approx((0.0, -1.0, 0.0), abs=1e-4)
    assert planes[0].at_m == pytest.approx(0.0, abs=0.01)
    left, top, right, bottom = planes[0].part
    corners = VIEW.project(np.array([(-3, 0, 3.5), (3, 0, 0.1)], float))[:, :2] / (240, 160)
    assert left <= max(corners[0][0], 0.0) and right >= min(corners[1][0], 1.0)
    assert top == pytest.approx(max(corners[0][1], 0.0), abs=0.04)
    assert bottom == pytest.approx(min(corners[1][1], 1.0), abs=0.04)
