"""Soft light that is not the project's: dimmed lamps of a walk, and what the window's pictures are drawn
in."""

from __future__ import annotations

import time
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from altana.core.conventions import Floats32
from altana.core.light.lightmap import LightPoints
from altana.core.light.own import MomentLight
from altana.core.light.transport import Lighting, LightMap
from altana.core.model import Lamp, Material, Model
from altana.core.picture_key import KNOWN, ROUGH
from altana.core.project import Light, Project
from altana.jobs import light as light_module
from altana.jobs.children import lighting as lighting_module
from altana.jobs.children.lighting import LightingWorker
from altana.jobs.light import (
    KeptLighting,
    film_lights,
    keep_rough_light,
    known_light,
    light_name,
    light_of,
    moving_light,
)
from altana.jobs.models import Opened
from altana.jobs.orders import ComputeLight, LightKnown, Reply
from altana.jobs.service import Task
from altana.jobs.soft import SoftLights
from altana.storage.cache import keep_light, light_file
from tests.conftest import box_between, model_of

DUSK = Light(hour=21.7)
UNKEYED = np.full(4, np.nan)


@pytest.fixture
def pavilion(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Opened:
    """A floor and a roof with a lamp between them."""
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path))
    monkeypatch.setenv("ALTANA_LIGHT_POINTS", "1000")
    grey = Material("Grey", (0.5, 0.5, 0.5, 1.0))
    model = model_of(
        ("Floor", box_between((0, 0, -0.3), (6, 4, 0)), grey),
        ("Roof", box_between((0, 0, 3), (6, 4, 3.2)), grey),
    )
    return Opened(replace(model, lamps=(Lamp("Pendant", (3.0, 2.0, 2.0), 4000.0, 3000.0),)), ("p",), tmp_path)


def lit(light: Light, share: float) -> Light:
    return replace(light, lamps=light.lamps.burning(share))


def test_which_lights_a_film_needs() -> None:
    lamps = np.array([0.0, 0.2, 0.4, 1.0])
    assert film_lights(DUSK, UNKEYED, UNKEYED).all == ()
    assert film_lights(DUSK, UNKEYED, lamps).all == (lit(DUSK, 0.0), lit(DUSK, 1.0))
    assert film_lights(lit(DUSK, 1.0), UNKEYED, lamps * 0.0).all == (lit(DUSK, 0.0),)
    moving = film_lights(DUSK, np.linspace(19.7, 21.7, 4), lamps)
    assert [item.hour for item in moving.steps] == [19.7, 20.7, 21.7]
    # What lamps add is found in the darkest hour.
    assert moving.lamps == lit(DUSK, 1.0)


def test_dimmed_lamps_give_their_share(pavilion: Opened) -> None:
    moving = moving_light(pavilion, DUSK, (UNKEYED, np.array([0.0, 0.5, 1.0, 1.0])))
    assert moving is not None
    for share in (0.0, 0.5, 1.0):
        light, pixels = moving.at(MomentLight(lamps=share))
        assert light.lamps.share == share
        exact = light_of(pavilion, lit(DUSK, share))
        assert exact is not None
        bright = exact.pixels > exact.pixels.max() * 0.02
        assert np.allclose(pixels[bright], exact.pixels[bright], rtol=0.02, atol=0.0)
    assert moving.at(MomentLight(lamps=1.0))[1].sum() > 1.2 * moving.at(MomentLight(lamps=0.0))[1].sum()


class Canvas:
    """Notes which soft light was put on."""

    def __init__(self) -> None:
        self.on: list[Floats32] = []

    def relight(self, pixels: Floats32) -> None:
        self.on.append(pixels)


def test_pictures_are_drawn_in_their_own_light_where_it_is_known(pavilion: Opened) -> None:
    dark, bright = (light_of(pavilion, lit(DUSK, share)) for share in (0.0, 1.0))
    noon = light_of(pavilion, Light(hour=12.0))
    assert dark is not None and bright is not None and noon is not None
    canvas = Canvas()
    soft = SoftLights(pavilion, canvas)  # type: ignore[arg-type]
    soft.put_on(DUSK)
    assert canvas.on == []  # The project's light is not known yet.
    soft.shown(Light(hour=12.0), KNOWN)
    soft.know((lit(DUSK, 0.0), lit(DUSK, 1.0)))
    soft.put_on(Light(hour=12.0))
    soft.put_on(lit(DUSK, 1.0))
    soft.put_on(lit(DUSK, 1.0))
    soft.put_on(lit(DUSK, 0.25))
    dimmed = dark.pixels + np.float32(0.25) * np.maximum(bright.pixels - dark.pixels, 0.0)
    soft.put_on(Light(hour=9.0))
    assert known_light(pavilion, Light(hour=9.0)) is None
    wanted = [bright.pixels, dimmed, noon.pixels]
    assert len(canvas.on) == 3
    for light, expected in zip(canvas.on, wanted, strict=True):
        assert np.allclose(light, expected, rtol=1e-5, atol=1e-12)
    soft.put_on(lit(DUSK, 1.0))
    soft.back()
    soft.put_on(Light(hour=12.0))
    assert len(canvas.on) == 4
    # Between two hours that are known it is blended.
    later = light_of(pavilion, Light(hour=14.0))
    assert later is not None
    soft.know((Light(hour=12.0), Light(hour=14.0)))
    soft.put_on(Light(hour=12.5))
    assert np.allclose(canvas.on[-1], 0.75 * noon.pixels + 0.25 * later.pixels, rtol=1e-4, atol=1e-3)
    soft.put_on(Light(hour=15.0))
    assert len(canvas.on) == 6 and np.allclose(canvas.on[-1], noon.pixels)
    # What another Altana kept may have its light at other places.
    strange = LightMap(noon.pixels[: len(noon.pixels) // 2], noon.uv + np.float32(1.0))
    keep_light(light_name(pavilion, Light(hour=16.0)), strange)
    soft.put_on(lit(DUSK, 1.0))
    soft.put_on(Light(hour=16.0))
    assert len(canvas.on) == 8 and np.allclose(canvas.on[-1], noon.pixels)
    # From few points light lies at other places: what is known of another hour does not fit them.
    soft.shown(Light(hour=12.0), ROUGH)
    soft.put_on(lit(DUSK, 1.0))
    assert len(canvas.on) == 8


@pytest.fixture
def looked(monkeypatch: pytest.MonkeyPatch) -> list[int]:
    """How many points there were each time that points looked round."""
    seen: list[int] = []
    look_round = Lighting.of

    def counted(model: Model, points: LightPoints, *rest: Any) -> Lighting:
        seen.append(len(points.position))
        return look_round(model, points, *rest)

    monkeypatch.setattr(Lighting, "of", staticmethod(counted))
    return seen


def test_other_hours_are_computed_from_what_points_see_once(
    pavilion: Opened, looked: list[int], monkeypatch: pytest.MonkeyPatch
) -> None:
    kept = KeptLighting()
    hours = (8.0, 12.0, 16.0)
    together = [light_of(pavilion, Light(hour=hour), kept=kept) for hour in hours]
    assert len(looked) == 1
    monkeypatch.setattr(light_module, "ROUGH_POINTS", 400)
    # Rough light comes from points of its own, which are kept beside.
    assert all(keep_rough_light(pavilion, Light(hour=hour), kept=kept) for hour in (9.0, 10.0))
    assert len(looked) == 2
    kept.let_go()
    for hour, light in zip(hours, together, strict=True):
        light_file(light_name(pavilion, Light(hour=hour))).unlink()
        alone = light_of(pavilion, Light(hour=hour))
        assert light is not None and alone is not None
        assert np.array_equal(light.pixels, alone.pixels) and np.array_equal(light.uv, alone.uv)
    assert len(looked) == 5
    monkeypatch.setattr(light_module, "free_memory", lambda: 1e9)
    for hour in (6.0, 7.0):
        light_of(pavilion, Light(hour=hour), kept=kept)
    assert len(looked) == 7  # Where memory is short nothing is kept.


def test_the_child_that_computes_light_gives_what_points_see_back(
    pavilion: Opened, looked: list[int], tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Asked twice in a row it looks round once; a while after that it looks round again."""
    told: list[Reply] = []

    class Here:
        def answer(self, task: Task, reply: Reply) -> None:
            told.append(reply)

        def outdated(self, task: Task) -> bool:
            return False

    monkeypatch.setattr(lighting_module, "open_project_models", lambda project, path: pavilion)
    monkeypatch.setattr(lighting_module, "KEPT_S", 3600.0)
    worker = LightingWorker(Here())  # type: ignore[arg-type]

    def ask(hour: float) -> None:
        project = Project(light=Light(hour=hour))
        worker(Task("light", 0, 0, ComputeLight(project, str(tmp_path / "p.altana"))))
        assert told[-1] == LightKnown(project.light, KNOWN)

    ask(8.0)
    ask(9.0)
    assert len(looked) == 1
    monkeypatch.setattr(lighting_module, "KEPT_S", 0.01)
    ask(10.0)
    assert len(looked) == 1
    time.sleep(0.3)
    ask(11.0)
    assert len(looked) == 2
