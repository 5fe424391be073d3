"""Where shadow maps lie, and that shadows end where they should."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.light.sky import sky_of
from altana.core.model import Material, Model
from altana.core.project import Light, Making
from altana.jobs.rows.shared import quality_of
from altana.render.quality import COARSE, FULL, STILL, Quality
from altana.render.renderer import Renderer
from altana.render.shadows import FITTED_M, NEAR_M, fitted_region, near_region
from tests.conftest import box_between, model_of

GREY = Material("Grey", (0.7, 0.7, 0.7, 1.0), roughness=0.95)
VIEW = View(Pose((50.0, 20.0, 1.6), 30.0), Lens(24), 300, 200)
SHAPE = (32, 48)


def test_what_is_seen_of_a_room_has_a_map_of_its_own() -> None:
    room = fitted_region(VIEW, np.full(SHAPE, 5.0, np.float32))
    middle = np.asarray(VIEW.pose.eye) + VIEW.pose.forward * 5.0
    assert room.radius_m == FITTED_M[0] and np.linalg.norm(room.centre - middle) < 0.5 * room.radius_m
    # What lies outside its windows is no matter, nor is what only a few pixels show.
    windows = np.full(SHAPE, 5.0, np.float32)
    windows[:16, 10:40] = 400.0
    windows[:8] = np.inf
    windows[-1, :20] = 20.0
    assert fitted_region(VIEW, windows).radius_m == FITTED_M[0]


def test_in_a_hall_or_all_round_it_lies_round_the_eye() -> None:
    hall = np.linspace(3.0, 30.0, SHAPE[0] * SHAPE[1]).reshape(SHAPE).astype(np.float32)
    wide = replace(VIEW, lens=Lens(8))
    for view, depth in (
        (VIEW, hall),
        (VIEW, np.full(SHAPE, np.inf, np.float32)),
        (wide, np.full(SHAPE, 5.0, np.float32)),
    ):
        region, usual = fitted_region(view, depth), near_region(view)
        assert region.radius_m == usual.radius_m > NEAR_M and (region.centre == usual.centre).all()


def test_a_step_aside_keeps_the_map() -> None:
    depth = np.full(SHAPE, 4.0, np.float32)
    kept = {
        tuple(
            fitted_region(
                replace(VIEW, pose=replace(VIEW.pose, eye=(50.0 + 0.1 * n, 20.0, 1.6))), depth
            ).centre
        )
        for n in range(12)
    }
    assert len(kept) <= 2


def test_pictures_at_rest_and_stills_have_it_and_films_do_not() -> None:
    many, few = Making(passes=8, film_passes=8), Making(passes=1, film_passes=1)
    assert STILL.fitted and quality_of(many).fitted
    assert not any(item.fitted for item in (FULL, COARSE, quality_of(many, film=True), quality_of(few)))


def stage() -> Model:
    return model_of(
        ("Floor", box_between((-3, -3, -0.2), (3, 3, 0)), GREY),
        ("Plate", box_between((-0.5, -0.5, 0.08), (0.5, 0.5, 0.1)), GREY),
    )


@pytest.mark.parametrize("heading", [pytest.param(0.0, marks=pytest.mark.slow), 37.0])
def test_the_shadow_of_a_plate_lies_where_it_should(heading: float) -> None:
    """Of a plate a hand above the floor: pixels of the floor that are wrongly lit or shaded."""
    renderer = Renderer(stage())
    try:
        sky = replace(sky_of(Light()), sun=(0.5, 0.4, float(np.sqrt(1.0 - 0.41))))
        turn = np.radians(heading)
        eye = (-2.2 * np.sin(turn), -2.2 * np.cos(turn), 1.6)
        view = View(Pose(eye, heading, -35.0), Lens(30), 480, 320)
        facts = renderer.facts(view)
        y, x = np.mgrid[:320, :480]
        along = view.rays(np.column_stack([x.ravel() + 0.5, y.ravel() + 0.5]))
        deep = facts.depth_m.ravel() / (along @ view.pose.forward)
        place = np.asarray(eye) + along * np.where(np.isfinite(deep), deep, 0.0)[:, None]
        floor = (facts.object_index.ravel() == 0) & (facts.normal.reshape(-1, 3)[:, 2] > 0.9)
        shaded = np.zeros(len(place), bool)
        for height in (0.08, 0.1):
            at = place[:, :2] + np.array(sky.sun[:2]) * height / sky.sun[2]
            shaded |= (np.abs(at) < 0.5).all(axis=1)
        wrong = []
        for fitted in (False, True):
            master = renderer.master(view, sky, Quality(passes=8, fitted=fitted))
            assert master is not None
            light = master.light.mean(axis=2).ravel()
            dark = light < 0.5 * (np.percentile(light[floor & ~shaded], 50) + light[floor & shaded].min())
            wrong.append(float((dark != shaded)[floor].sum() / (floor & shaded).sum()))
        assert wrong[1] < 0.7 * wrong[0] and wrong[1] < 0.08
    finally:
        renderer.close()
