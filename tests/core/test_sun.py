"""The sun against an independent published algorithm, clock time and time zones, places as people write
them."""

from __future__ import annotations

import math
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from altana.core.edits.light import checked_light, light_from_model, mark_lamp, set_light, set_surroundings
from altana.core.errors import Refused
from altana.core.geometry.drawing import Drafter
from altana.core.geometry.rays import RayScene
from altana.core.light.above import camera_above, with_camera
from altana.core.light.clock import hour_words, offset_h, parse_hour, parse_zone
from altana.core.light.own import light_for
from altana.core.light.place import parse_place
from altana.core.light.shade import TURNING_DAYS
from altana.core.light.sky import sky_of
from altana.core.light.study import Study, add_study, false_colour, legend_steps, moments
from altana.core.light.sun import illuminance, sun_azimuth, sun_position, towards_sun
from altana.core.model import Model, Place
from altana.core.project import OVERCAST, Camera, Light, OwnLight, Project, Shot
from altana.core.standing import standing_trouble


def published(moment: datetime, latitude_deg: float, longitude_deg: float) -> tuple[float, float]:
    """Azimuth and true elevation by J. Meeus, Astronomical Algorithms (2nd edition 1998), chapters 12, 22 and
    25, higher accuracy of the sun's longitude by its centre's equation, nutation and aberration; nothing of
    Altana's is used."""
    day = (
        moment.year,
        moment.month,
        moment.day + (moment.hour + moment.minute / 60 + moment.second / 3600) / 24,
    )
    y, m, d = day
    if m <= 2:
        y, m = y - 1, m + 12
    a = y // 100
    julian = math.floor(365.25 * (y + 4716)) + math.floor(30.6001 * (m + 1)) + d + 2 - a + a // 4 - 1524.5
    t = (julian - 2451545.0) / 36525.0
    mean = 280.46646 + 36000.76983 * t + 0.0003032 * t * t
    anomaly = math.radians(357.52911 + 35999.05029 * t - 0.0001537 * t * t)
    centre = (
        (1.914602 - 0.004817 * t - 0.000014 * t * t) * math.sin(anomaly)
        + (0.019993 - 0.000101 * t) * math.sin(2 * anomaly)
        + 0.000289 * math.sin(3 * anomaly)
    )
    node = math.radians(125.04 - 1934.136 * t)
    apparent = math.radians(mean + centre - 0.00569 - 0.00478 * math.sin(node))
    tilt = math.radians(23.4392911 - 0.0130042 * t + 0.00256 * math.cos(node))
    ascension = math.atan2(math.cos(tilt) * math.sin(apparent), math.cos(apparent))
    declination = math.asin(math.sin(tilt) * math.sin(apparent))
    greenwich = 280.46061837 + 360.98564736629 * (julian - 2451545.0) + 0.000387933 * t * t
    hour = math.radians(greenwich + longitude_deg) - ascension
    latitude = math.radians(latitude_deg)
    elevation = math.asin(
        math.sin(latitude) * math.sin(declination)
        + math.cos(latitude) * math.cos(declination) * math.cos(hour)
    )
    south = math.atan2(
        math.sin(hour), math.cos(hour) * math.sin(latitude) - math.tan(declination) * math.cos(latitude)
    )
    return (math.degrees(south) + 180.0) % 360.0, math.degrees(elevation)


def test_the_sun_of_a_thousand_places_and_times_is_within_a_twentieth_of_a_degree() -> None:
    chance = np.random.default_rng(20)
    worst = 0.0
    for _ in range(1000):
        latitude, longitude = float(chance.uniform(-66, 66)), float(chance.uniform(-180, 180))
        moment = datetime(1980, 1, 1, tzinfo=UTC) + timedelta(
            minutes=int(chance.integers(0, 70 * 365 * 1440))
        )
        light = Light(latitude, longitude, 0.0, moment.date().isoformat(), moment.hour + moment.minute / 60)
        azimuth, elevation = sun_azimuth(light)
        wanted = published(moment, latitude, longitude)
        off = (azimuth - wanted[0] + 180.0) % 360.0 - 180.0
        # Straight overhead there is no azimuth: what counts is the direction.
        worst = max(worst, abs(off) * math.cos(math.radians(elevation)), abs(elevation - wanted[1]))
    assert worst < 0.05


def test_daylight_saving_comes_with_the_zone() -> None:
    light = Light(47.66, 9.18, date="2026-07-01", hour=12.0, zone="Europe/Berlin")
    assert offset_h(light) == 2.0
    assert offset_h(replace(light, date="2026-01-15")) == 1.0
    # The morning on which clocks are put on: at one it is still winter time, at four summer time.
    change = replace(light, date="2026-03-29")
    assert (offset_h(replace(change, hour=1.0)), offset_h(replace(change, hour=4.0))) == (1.0, 2.0)
    with pytest.raises(Refused, match="no time zone"):
        offset_h(replace(light, zone="Middle/Earth"))


def test_north_turns_the_sun_with_the_model() -> None:
    light = Light(hour=12.0)
    plain, turned = sun_position(light), sun_position(replace(light, north_deg=30.0))
    assert turned[0] == pytest.approx((plain[0] + 30.0) % 360.0)
    assert turned[1] == plain[1]
    assert np.linalg.norm(towards_sun(light)) == pytest.approx(1.0)


@pytest.mark.parametrize(
    ("text", "hour"),
    [("17:30", 17.5), ("5:30 pm", 17.5), ("12:15 am", 0.25), ("17.5", 17.5), ("17", 17.0), ("0:00", 0.0), ("8:05 h", 8 + 5 / 60)],
)  # fmt: skip
def test_clock_time_is_read_as_people_write_it(text: str, hour: float) -> None:
    assert parse_hour(text) == pytest.approx(hour)


@pytest.mark.parametrize("text", ["noon", "25:00", "12:75", "", "-3"])
def test_what_is_no_clock_time_is_refused(text: str) -> None:
    with pytest.raises(Refused):
        parse_hour(text)


@given(st.integers(0, 24 * 60 - 1))
def test_clock_time_comes_back(minutes: int) -> None:
    assert parse_hour(hour_words(minutes / 60)) == pytest.approx(minutes / 60)


def test_zones_are_read_by_name_and_by_hours() -> None:
    assert parse_zone("Europe/Zurich") == ("Europe/Zurich", 0.0)
    assert parse_zone("+5:30") == ("", 5.5)
    assert parse_zone("UTC-3") == ("", -3.0)
    with pytest.raises(Refused):
        parse_zone("+19")


@pytest.mark.parametrize(
    "text",
    ["47.5, 9.4", "47.5 9.4", "47,5; 9,4", "47°30'N 9°24'E", "N 47° 30' E 9° 24'", "47.5N, 9.4E", "9.4E 47.5N",
     "47° 30′ 0″ N, 9° 24′ 0″ E", "47.5°N 9.4°E"],
)  # fmt: skip
def test_places_are_read_in_any_usual_notation(text: str) -> None:
    assert parse_place(text) == pytest.approx((47.5, 9.4))


def test_places_that_are_none() -> None:
    assert parse_place("-33.86, 151.2") == (-33.86, 151.2)
    assert parse_place("33°52'S 151°12'W") == pytest.approx((-33.8667, -151.2), abs=1e-3)
    assert parse_place("Konstanz") is None
    with pytest.raises(Refused, match="latitude"):
        parse_place("97.5, 9.4")


def test_the_sky_has_no_step_from_day_to_night() -> None:
    # A day in steps of a minute: twilight falls fast, but nothing jumps.
    light = Light(47.5, 9.4, 1.0, "2026-03-20")
    lux = [illuminance(replace(light, hour=minute / 60))[1] for minute in range(24 * 60)]
    steps = np.abs(np.diff(np.log(lux)))
    assert steps.max() < 0.2
    assert lux[0] < 0.01 and max(lux) > 15_000


def test_an_overcast_sky_has_no_sun_and_is_brightest_overhead() -> None:
    sky = sky_of(Light(hour=12.0, sky=OVERCAST))
    assert sky.sun_lux == (0.0, 0.0, 0.0)
    up, side = sky.luminance(np.array([[0.0, 0.0, 1.0], [0.0, 1.0, 1e-6]]))
    assert (up / side) == pytest.approx(3.0, rel=0.01)
    with pytest.raises(Refused, match="no sky"):
        checked_light(Light(sky="stormy"))


def test_a_row_goes_before_its_camera_and_a_camera_before_the_project() -> None:
    light = Light(date="2026-06-21", hour=10.0)
    camera = Camera("c", "C", light=OwnLight("2026-12-21", 9.0))
    shot = Shot("s", hour=16.0, sky=OVERCAST)
    assert light_for(light) == light
    assert light_for(light, camera) == replace(light, date="2026-12-21", hour=9.0)
    assert light_for(light, camera, shot) == replace(light, date="2026-12-21", hour=16.0, sky=OVERCAST)


def test_edits_of_the_light_are_checked() -> None:
    project = Project()
    assert set_light(project, north_deg=12.0).light.north_deg == 12.0
    assert light_from_model(project, Place(47.0, 8.0, north_deg=5.0)).light.north_deg == 5.0
    with pytest.raises(Refused, match="does not say where"):
        light_from_model(project, Place())
    with pytest.raises(Refused, match="folder"):
        set_surroundings(project, file="../sky.hdr")
    with pytest.raises(Refused, match="latitude"):
        set_light(project, latitude_deg=91.0)
    marked = mark_lamp(project, "lamp-1", True, lumens=500.0)
    assert marked.light.lamps.marked[0].lumens == 500.0
    assert mark_lamp(marked, "lamp-1", False).light.lamps.marked == ()


def test_a_study_keeps_to_the_hours_of_the_sun() -> None:
    """What it makes is every step at which the sun is up, on one day or on four; nothing else."""
    light = Light(date="2026-12-21", latitude_deg=60.0, longitude_deg=25.0, zone="Europe/Helsinki")
    hours = moments(light, Study(6.0, 20.0, 1.0))
    assert {item.date for item in hours} == {"2026-12-21"}
    assert all(sun_position(item)[1] > 0.0 for item in hours)
    assert 5 <= len(hours) <= 6 and min(item.hour for item in hours) >= 9.0
    year = moments(light, Study(6.0, 20.0, 2.0, turning_days=True))
    assert list(dict.fromkeys(item.date[5:] for item in year)) == list(TURNING_DAYS)
    june = [item for item in year if item.date.endswith("06-21")]
    assert len(june) == 8


@pytest.mark.parametrize(
    ("study", "said"),
    [
        (Study(18.0, 8.0, 1.0), "later"),
        (Study(8.0, 18.0, 0.01), "five minutes"),
        (Study(0.0, 23.9, 1.0 / 12.0), "pictures"),
        (Study(1.0, 2.0, 0.5), "not up"),
        (Study(-1.0, 30.0, 1.0), "beginning"),
    ],
)
def test_studies_that_make_nothing_are_refused(study: Study, said: str) -> None:
    light = Light(date="2026-12-21", latitude_deg=60.0, longitude_deg=25.0, zone="Europe/Helsinki")
    with pytest.raises(Refused) as caught:
        moments(light, study)
    assert said in str(caught.value)


def test_false_colour_runs_from_cold_to_warm_and_keeps_its_ends() -> None:
    colours = false_colour(np.array([-1.0, 0.0, 6.0, 12.0, 99.0, np.nan]), 12.0)
    assert (colours[0] == colours[1]).all() and (colours[3] == colours[4]).all()
    assert colours[1][2] > colours[1][0] and colours[3][0] > colours[3][2]
    assert (colours[5] == colours[1]).all()
    assert legend_steps(12.0)[0] == 0.0 and len(legend_steps(12.0)) <= 7


@pytest.mark.parametrize("cut", [False, True])
def test_a_camera_above_sees_the_building_as_a_plan_does(room: Model, cut: bool) -> None:
    storey = room.storeys[0] if cut else None
    drawing = Drafter(room, RayScene.of(room)).plan(0.0, 1.2)
    camera = camera_above(room, drawing, storey)
    view = camera.view()
    level = 1.2 if cut else 3.2
    corners = np.array([(-0.2, -0.2, level), (6.2, -0.2, level), (6.2, 4.2, level), (-0.2, 4.2, level)])
    seen = view.project(corners)[:, :2]
    # North of the model is up, east is right, and all of it is in the picture.
    assert seen[1, 0] > seen[0, 0] and seen[2, 1] < seen[1, 1]
    assert (seen > 0.0).all() and (seen < [camera.width_px, camera.height_px]).all()
    metres = np.hypot(*(seen[1] - seen[0])) / 6.4
    assert np.hypot(*(seen[2] - seen[1])) / 4.4 == pytest.approx(metres, rel=1e-6)
    # What stands a storey higher or lower lies within a two-hundredth of where it stands.
    below = view.project(corners - [0.0, 0.0, 1.2])[:, :2]
    assert np.abs(below - seen).max() < 0.005 * camera.width_px
    assert (camera.near is not None, camera.cap) == (cut, cut)
    if camera.near is not None:
        assert camera.eye[2] - camera.near == pytest.approx(1.2)
    # Nobody stands there, and nothing is told of floors and verticals.
    rays = RayScene.of(room)
    assert camera.looks_down and standing_trouble(rays, rays, camera) == ""
    project, chosen = with_camera(Project(), camera)
    assert with_camera(project, camera) == (project, chosen)
    assert len(add_study(project, chosen, Study(9.0, 15.0, 3.0)).shots) == 3
