"""Film frames calmed by their neighbours: less grain, the same edges, and nothing that was not there."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy.ndimage import gaussian_filter, maximum_filter

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.conventions import Floats32
from altana.core.model import Model
from altana.render.calming import REACH, Moment, calmed
from altana.render.renderer import Renderer

WIDE, HIGH = 160, 90
#: Edges are smooth, as those of traced pictures are.
FINER = 4
#: What the denoiser leaves are patches of several pixels.
GRAIN, PATCH_PX = 3.0, 3.0


@pytest.fixture(scope="module")
def walk(room: Model) -> list[tuple[View, Floats32, Floats32]]:
    """Seven film frames through a room at 1 m/s: their views, depths, and pictures without grain: checks of
    0.5 m on every wall."""
    renderer = Renderer(room, None)
    frames = []
    for number in range(2 * REACH + 1):
        pose = Pose((1.0 + 0.04 * number, 2.0, 1.6), 80.0 + 0.4 * number, -4.0)
        view = View(pose, Lens(24), WIDE, HIGH)
        fine = replace(view, width_px=FINER * WIDE, height_px=FINER * HIGH)
        y, x = np.mgrid[0 : fine.height_px, 0 : fine.width_px]
        along = fine.rays(np.column_stack([x.ravel() + 0.5, y.ravel() + 0.5]))
        depth = renderer.facts(fine).depth_m.ravel()
        place = np.asarray(pose.eye) + along * (depth / (along @ pose.forward))[:, None]
        checks = np.floor((place + 0.013) / 0.5).astype(int).sum(axis=1) % 2
        shade = (90.0 + 30.0 * checks).reshape(HIGH, FINER, WIDE, FINER).mean(axis=(1, 3))
        frames.append(
            (view, renderer.facts(view).depth_m, np.repeat(shade[..., None], 3, axis=2).astype(np.float32))
        )
    renderer.close()
    return frames


def grainy(walk: list[tuple[View, Floats32, Floats32]], seed: int) -> list[Moment]:
    drawn = np.random.default_rng(seed)
    frames = []
    for view, depth, picture in walk:
        patches = gaussian_filter(drawn.normal(0.0, 1.0, picture.shape), (PATCH_PX, PATCH_PX, 0.0))
        frames.append(Moment.of(view, depth, (picture + patches * GRAIN / patches.std()).astype(np.float32)))
    return frames


def around_middle(moments: list[Moment]) -> tuple[Moment, list[Moment]]:
    return moments[REACH], [*moments[:REACH], *moments[REACH + 1 :]]


def test_seven_frames_have_less_grain_than_one(walk: list[tuple[View, Floats32, Floats32]]) -> None:
    here, others = around_middle(grainy(walk, 1))
    truth = walk[REACH][2]
    flat = maximum_filter(np.abs(np.gradient(truth[..., 0])).max(axis=0), 5) == 0.0
    before = float((here.picture - truth)[flat].std())
    after = float((calmed(here, others) - truth)[flat].std())
    assert before == pytest.approx(GRAIN, rel=0.05)
    # The mean of seven has 1/sqrt(7) = 0.38 of it.
    assert after < 0.5 * before


def test_two_seeds_come_nearer_to_each_other(walk: list[tuple[View, Floats32, Floats32]]) -> None:
    one, two = (grainy(walk, seed) for seed in (1, 2))
    apart = np.abs(one[REACH].picture - two[REACH].picture).mean()
    calm = np.abs(calmed(*around_middle(one)) - calmed(*around_middle(two))).mean()
    assert calm < 0.5 * apart


def test_edges_stay_where_and_as_sharp_as_they_are(walk: list[tuple[View, Floats32, Floats32]]) -> None:
    here, others = around_middle([Moment.of(*item) for item in walk])
    off = np.abs(calmed(here, others) - here.picture)
    assert off.mean() < 1.0
    steps = np.abs(np.diff(calmed(here, others)[..., 0], axis=1)).max()
    assert steps > 0.8 * np.abs(np.diff(here.picture[..., 0], axis=1)).max()


def test_what_passes_through_the_picture_leaves_no_trace(walk: list[tuple[View, Floats32, Floats32]]) -> None:
    here, others = around_middle([Moment.of(*item) for item in walk])
    bright = []
    for number, item in enumerate(others):
        picture = np.array(item.picture)
        # Something bright that every neighbour shows elsewhere, as a pane mirrors a lamp.
        picture[30:40, 20 * number : 20 * number + 10] += 90.0
        bright.append(Moment.of(item.view, item.depth_m, picture))
    off = np.abs(calmed(here, bright) - calmed(here, others))
    # At its very edge a spline swings a little.
    assert off.max() < 5.0 and off.mean() < 0.1


def test_what_was_hidden_is_not_taken_from_what_hid_it(walk: list[tuple[View, Floats32, Floats32]]) -> None:
    here, others = around_middle([Moment.of(*item) for item in walk])
    # In all neighbours something half as far away stands before the wall, only a little darker.
    before = [Moment.of(item.view, item.depth_m * 0.5, item.picture - 10.0) for item in others]
    assert np.array_equal(calmed(here, before), here.picture)


def test_a_sky_is_found_by_its_direction() -> None:
    views = [View(Pose((0.0, 0.0, 1.6), 10.0 + turn, 30.0), Lens(24), WIDE, HIGH) for turn in (0.0, 0.5)]
    empty = np.full((HIGH, WIDE), np.inf, np.float32)
    moments = [
        Moment.of(view, empty, np.full((HIGH, WIDE, 3), shade, np.float32))
        for view, shade in zip(views, (100.0, 106.0), strict=True)
    ]
    calm = calmed(moments[0], moments[1:])
    assert calm[45, 80] == pytest.approx(103.0, abs=0.01)
    # The other does not see what lies at the left edge.
    assert calm[45, 0] == pytest.approx(100.0, abs=0.2)
