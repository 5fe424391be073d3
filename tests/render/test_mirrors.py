"""Polished floors and still water: what they mirror lies where it must, and nowhere else."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.light.sky import sky_of
from altana.core.model import WATER, Material, Model
from altana.core.project import Light
from altana.core.staging import Staging
from altana.render import mirror_pass
from altana.render import quality as quality_module
from altana.render.mirrors import mirrored, mirroring_heights, walls_and_floors
from altana.render.quality import FULL, Quality
from altana.render.renderer import Renderer
from tests.conftest import box_between, model_of

SKY = sky_of(Light(hour=12.0))
SHARP = Quality(passes=6)
RED = Material("Red", (0.9, 0.05, 0.05, 1.0))
GREY = Material("Matt", (0.25, 0.25, 0.25, 1.0), roughness=0.9)
POLISHED = Material("Polished", (0.25, 0.25, 0.25, 1.0), roughness=0.06)


def hall(floor: Material) -> Model:
    """A red post on a floor of 20 m."""
    return model_of(
        ("Floor", box_between((-10, -10, -0.3), (10, 10, 0)), floor),
        ("Post", box_between((-0.4, 1.0, 0), (0.4, 1.8, 3)), RED),
    )


#: Low, as one sees a floor along; the post stands in the middle.
VIEW = View(Pose((0.0, -6.0, 0.7), 0.0, 0.0), Lens(30.0, rise_mm=2.0), 240, 160)


def redness(picture: np.ndarray) -> np.ndarray:
    red: np.ndarray = picture[..., 0].astype(float) - picture[..., 2].astype(float)
    return red


def drawn(model: Model, renderers: list[Renderer], quality: Quality = SHARP, view: View = VIEW) -> np.ndarray:
    renderers.append(Renderer(model))
    picture = renderers[-1].picture(view, SKY, 13.5, quality)
    assert picture is not None
    return picture


@settings(max_examples=80)
@given(
    st.floats(-170, 170), st.floats(-70, 70), st.floats(-30, 30), st.floats(-12, 12), st.floats(-12, 12), st.floats(0.0, 1.5),
    st.tuples(st.floats(-20, 20), st.floats(-20, 20), st.floats(1.6, 12)),
)  # fmt: skip
def test_the_mirrored_view_shows_what_the_surface_mirrors(
    heading: float, tilt: float, roll: float, rise: float, cross: float, height: float, place: tuple[float, float, float]
) -> None:  # fmt: skip
    view = View(
        Pose((1.0, 2.0, 1.6), heading, tilt, roll), Lens(28.0, rise_mm=rise, cross_mm=cross), 300, 200
    )
    x, y, z = place
    turned_over = np.array([(x, y, 2.0 * height - z)])
    seen, below = view.project(turned_over)[0], mirrored(view, height).project(np.array([place]))[0]
    assert (seen[2] > 0) == (below[2] > 0)
    if seen[2] > 0.05:
        # The same column, and the row counted from the other end.
        assert below[0] == pytest.approx(seen[0], abs=1e-6 * max(abs(seen[0]), 1.0))
        assert 200.0 - below[1] == pytest.approx(seen[1], abs=1e-6 * max(abs(seen[1]), 1.0))


def test_a_polished_floor_shows_the_post_upside_down(renderers: list[Renderer]) -> None:
    polished, matt = drawn(hall(POLISHED), renderers), drawn(hall(GREY), renderers)
    # Two metres up on the front of the post, and on the floor where it is mirrored.
    up, mirrored_up = VIEW.project(np.array([(0.0, 1.0, 0.5), (0.0, 1.0, -0.5)]))[:, :2].astype(int)
    assert redness(polished)[up[1], up[0]] > 60
    column, row = mirrored_up
    assert redness(polished)[row, column] > redness(matt)[row, column] + 12
    # Beside its image the floor is not red.
    assert redness(polished)[row, column + 60] < redness(matt)[row, column + 60] + 4
    # As far from the foot as the post is high: the image keeps the post's width.
    reddened = redness(polished)[row] > redness(matt)[row] + 8
    left, right = (
        VIEW.project(np.array([(side, 1.0, -0.5) for side in (-0.4, 0.4)]))[:, 0].round().astype(int)
    )
    inside = np.flatnonzero(reddened)
    assert abs(inside.min() - left) <= 3 and abs(inside.max() - right) <= 3


def test_what_is_left_out_is_not_mirrored_and_quick_pictures_mirror_nothing(
    renderers: list[Renderer],
) -> None:
    renderers.append(Renderer(hall(POLISHED)))
    column, row = VIEW.project(np.array([(0.0, 1.0, -0.5)]))[0, :2].astype(int)
    whole = renderers[-1].picture(VIEW, SKY, 13.5, SHARP)
    without = renderers[-1].picture(VIEW, SKY, 13.5, SHARP, staging=Staging(omitted=(1,)))
    quick = renderers[-1].picture(VIEW, SKY, 13.5, FULL)
    assert whole is not None and without is not None and quick is not None
    assert redness(whole)[row, column] > redness(without)[row, column] + 12
    assert redness(whole)[row, column] > redness(quick)[row, column] + 8
    # What a bound hides from sight still stands there.
    bound = renderers[-1].picture(replace(VIEW, far_m=6.5), SKY, 13.5, SHARP)
    assert bound is not None
    assert redness(bound)[row, column] > redness(without)[row, column] + 12


def test_water_mirrors_the_bank(renderers: list[Renderer], monkeypatch: pytest.MonkeyPatch) -> None:
    lake = Material("Lake water", (0.1, 0.2, 0.25, 1.0), roughness=0.05, kind=WATER)
    wet = drawn(hall(lake), renderers)
    monkeypatch.setattr(mirror_pass, "mirroring_heights", lambda model: np.zeros(0))
    dry = drawn(hall(lake), renderers)
    left, right = VIEW.project(np.array([(side, 1.0, -0.3) for side in (-0.3, 0.3)]))[:, 0].astype(int)
    row = int(VIEW.project(np.array([(0.0, 1.0, -0.3)]))[0, 1])
    assert redness(wet)[row, left:right].mean() > redness(dry)[row, left:right].mean() + 10


@pytest.mark.slow
def test_tiles_of_a_mirrored_picture_meet(renderers: list[Renderer], monkeypatch: pytest.MonkeyPatch) -> None:
    whole = drawn(hall(POLISHED), renderers).astype(int)
    monkeypatch.setattr(quality_module, "TILE_PX", 64)
    parts = renderers[-1].picture(VIEW, SKY, 13.5, SHARP)
    assert parts is not None
    floor = np.abs(parts.astype(int) - whole)[100:]
    assert floor.mean() < 0.6 and np.percentile(floor, 99) < 8


def test_a_floor_does_not_mirror_what_lies_beyond_its_wall(renderers: list[Renderer]) -> None:
    """Under the foot of a dark wall one would see the sky from below the floor: blur must not bring it in."""
    floor = replace(POLISHED, colour=(0.05, 0.05, 0.05, 1.0), roughness=0.3)
    model = model_of(
        ("Floor", box_between((-10, -10, -0.3), (10, 10, 0)), floor),
        ("Wall", box_between((-10, 1.0, 0), (10, 1.2, 3)), replace(GREY, colour=(0.1, 0.1, 0.1, 1.0))),
    )
    low = View(Pose((0.0, -3.0, 1.0), 0.0, 0.0), Lens(24.0, rise_mm=-5.0), 240, 160)
    mirrored = drawn(model, renderers, view=low)[:, 60:180].mean(axis=(1, 2))
    foot = int(low.project(np.array([(0.0, 1.0, 0.0)]))[0, 1])
    # Away from the wall the floor mirrors more of it from row to row; at its foot nothing brighter begins.
    assert mirrored[foot + 2] - mirrored[foot + 7] < 3.5


def test_only_smooth_level_surfaces_mirror() -> None:
    assert mirroring_heights(hall(POLISHED)) == pytest.approx([-0.3, 0.0], abs=0.012)
    assert len(mirroring_heights(hall(GREY))) == 0
    assert len(mirroring_heights(hall(replace(POLISHED, emission=(1.0, 1.0, 1.0))))) == 0


def test_walls_and_floors_part_rooms_and_columns_do_not() -> None:
    boxes = {
        "floor": ((0, 0, -0.3), (8, 6, 0)),
        "wall": ((0, 0, 0), (0.2, 6, 3)),
        "column": ((3, 3, 0), (3.3, 3.3, 3)),
        "bench": ((4, 4, 0), (6, 4.5, 0.8)),
        "mat": ((1, 1, 0), (1.8, 1.4, 0.02)),
    }
    low, high = (np.array([box[side] for box in boxes.values()], float) for side in (0, 1))
    assert walls_and_floors(np.arange(len(boxes)), low, high) == (0, 1)
    # A wall of several pieces is one.
    pieces = np.array([(0, 0, 0), (0.5, 0, 0)], float), np.array([(0.5, 0.2, 3), (1.0, 0.2, 3)], float)
    assert walls_and_floors(np.zeros(2, int), *pieces) == (0,)
    assert walls_and_floors(np.zeros(0, int), np.zeros((0, 3)), np.zeros((0, 3))) == ()
