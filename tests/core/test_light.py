"""The sun against known places and times; light against cases that can be worked out by hand."""

from __future__ import annotations

import numpy as np
import pytest
import trimesh

from altana.core.errors import Refused
from altana.core.light.lightmap import spread
from altana.core.light.sky import Sky, sky_of
from altana.core.light.sun import illuminance, sun_position, towards_sun
from altana.core.light.transport import Cancelled, solve
from altana.core.model import Material, Model
from altana.core.project import Light
from tests.conftest import light_at, model_of


@pytest.mark.parametrize(
    ("latitude", "date", "altitude"),
    [
        (0.0, "2026-03-20", 90.0),
        (47.5, "2026-06-21", 90 - 47.5 + 23.44),
        (47.5, "2026-12-21", 90 - 47.5 - 23.44),
        (-33.0, "2026-12-21", 90 - 33.0 + 23.44),
    ],
)
def test_noon_altitudes(latitude: float, date: str, altitude: float) -> None:
    highest = max(
        sun_position(Light(latitude, 0.0, 0.0, date, hour))[1] for hour in np.arange(11.5, 12.6, 0.02)
    )
    assert highest == pytest.approx(altitude, abs=0.35)


def test_morning_is_in_the_east_and_noon_in_the_south() -> None:
    assert 60 < sun_position(Light(47.5, 9.4, 2.0, "2026-06-21", 7.0))[0] < 95
    noon = max(
        (sun_position(Light(47.5, 0.0, 0.0, "2026-06-21", h)) for h in np.arange(11.5, 12.6, 0.01)),
        key=lambda p: p[1],
    )
    assert noon[0] == pytest.approx(180.0, abs=1.5)
    assert np.linalg.norm(towards_sun(Light())) == pytest.approx(1.0)
    assert illuminance(Light(hour=1.0))[0] == 0.0
    with pytest.raises(Refused, match="date"):
        sun_position(Light(date="tomorrow"))


def even_sky() -> Sky:
    """No sun: only the sky."""
    sky = sky_of(Light())
    return Sky(sky.sun, (0.0, 0.0, 0.0), sky.scale, sky.haze)


def plate(tall: float = 0.0) -> Model:
    mesh = trimesh.Trimesh([(0, 0, tall), (4, 0, tall), (4, 4, tall), (0, 4, tall)], [(0, 1, 2), (0, 2, 3)])
    return model_of(("Plate", mesh, Material("Plate")))


def test_open_ground_gets_the_whole_sky() -> None:
    light = Light()
    solved = solve(plate(), spread(plate()), np.array([[0.5] * 3]), even_sky())
    # The upper half of the picture is the side that its winding faces; the other looks at the ground below.
    front = np.split(solved.pixels, 2)[0]
    lit = front[front.sum(axis=2) > 0]
    assert lit.mean() == pytest.approx(illuminance(light)[1], rel=0.03)


def test_a_closed_room_is_dark_and_its_places_are_within_the_map(room: Model) -> None:
    points = spread(room)
    solved = solve(room, points, np.full((6, 3), 0.8), sky_of(Light()))
    inside = np.abs(points.position - (3, 2, 1.5)).max(axis=1) < 2.9
    floor = (
        inside
        & (points.normal[:, 2] > 0.9)
        & (np.abs(points.position[:, 2]) < 0.01)
        & (points.position[:, 0] > 0.3)
        & (points.position[:, 0] < 5.7)
        & (points.position[:, 1] > 0.3)
        & (points.position[:, 1] < 3.7)
    )
    values = light_at(solved, room, points.face[floor], points.position[floor])
    assert floor.sum() > 20
    assert values.max() < 1.0
    assert solved.uv.min() >= 0.0
    assert solved.uv[..., 0].max() <= solved.pixels.shape[1]
    assert solved.uv[..., 1].max() <= solved.pixels.shape[0] / 2


def test_more_reflecting_walls_give_more_light() -> None:
    """A roof over the ground: bounces reach below it, the more the brighter the ground is."""
    ground = trimesh.Trimesh([(-9, -9, 0), (9, -9, 0), (9, 9, 0), (-9, 9, 0)], [(0, 1, 2), (0, 2, 3)])
    roof = trimesh.Trimesh([(-3, -3, 3), (-3, 3, 3), (3, 3, 3), (3, -3, 3)], [(0, 1, 2), (0, 2, 3)])
    model = model_of(("Ground", ground, Material("Ground")), ("Roof", roof, Material("Roof")))
    points = spread(model)
    under = (points.position[:, 2] > 2.9) & (np.abs(points.position[:, :2]).max(axis=1) < 1.0)
    levels = []
    for albedo in (0.1, 0.6):
        solved = solve(model, points, np.full((2, 3), albedo), sky_of(Light()))
        levels.append(light_at(solved, model, points.face[under], points.position[under]).mean())
    assert levels[1] > 3.0 * levels[0] > 0.0


def test_it_can_be_stopped() -> None:
    with pytest.raises(Cancelled):
        solve(plate(), spread(plate()), np.array([[0.5] * 3]), sky_of(Light()), lambda share: False)
