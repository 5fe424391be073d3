"""Routes and timing: counts, even pace, keys passed, stairs as ramps, level horizons."""

from __future__ import annotations

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from altana.core.conventions import COMMON_RATES, frame_count, parse_rate
from altana.core.edits.walks import reversed_walk
from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.model import Material
from altana.core.project import KEYED, Walk, WalkKey
from altana.core.standing import standable
from altana.core.walk.path import route_through
from altana.core.walk.sample import resolve, sample
from tests.conftest import box_between, model_of


def walk_of(*places: tuple[float, float, float], **values: object) -> Walk:
    return Walk("w", "W", tuple(WalkKey(place) for place in places), **values)  # type: ignore[arg-type]


@pytest.mark.parametrize("rate", COMMON_RATES)
@pytest.mark.parametrize("seconds", [1.0, 7.3, 20.0, 61.0])
def test_frame_count_is_round_of_seconds_times_rate(rate: str, seconds: float) -> None:
    exact = parse_rate(rate)
    rows = sample(resolve(walk_of((0, 0, 1), (9, 0, 1), seconds=seconds, rate=rate), None))
    assert (
        len(rows) == round(Fraction(seconds).limit_denominator(1000) * exact) == frame_count(seconds, exact)
    )
    assert rows.seconds[-1] == pytest.approx(float((len(rows) - 1) / exact), abs=1e-12)


def test_time_does_not_drift_over_an_hour() -> None:
    rows = sample(resolve(walk_of((0, 0, 1), (900, 0, 1), seconds=3600.0, rate="30000/1001"), None))
    assert len(rows) == 107892
    assert rows.seconds[100_000] == pytest.approx(100_000 * 1001 / 30000, abs=1e-9)


places = st.lists(
    st.tuples(st.floats(-20, 20), st.floats(-20, 20)),
    min_size=2,
    max_size=7,
    unique_by=lambda p: (round(p[0]), round(p[1])),
)


@settings(max_examples=60)
@given(places, st.sampled_from(COMMON_RATES))
def test_even_pace_and_keys_passed(points: list[tuple[float, float]], rate: str) -> None:
    keys = np.array([(x, y, 1.6) for x, y in points])
    if np.linalg.norm(np.diff(keys, axis=0), axis=1).min() < 0.5:
        return
    route = route_through(keys)
    assert np.linalg.norm(route.at(route.key_m) - keys, axis=1).max() < 0.012
    line = resolve(walk_of(*map(tuple, keys.tolist()), seconds=20.0, rate=rate), None)  # type: ignore[arg-type]
    rows = sample(line)
    distance = np.asarray(rows.seconds) / 20.0 * line.route.length_m
    chord = np.linalg.norm(np.diff(rows.eye, axis=0), axis=1)
    straight = np.diff(distance)
    assert (chord <= straight * 1.001 + 1e-9).all()
    assert np.median(chord / straight) > 0.995


def test_pace_is_even_on_a_straight_route() -> None:
    rows = sample(resolve(walk_of((0, 0, 1), (3, 0, 1), (4, 0, 1), (20, 0, 1), seconds=10.0), None))
    pace = np.linalg.norm(np.diff(rows.eye, axis=0), axis=1)
    assert (pace.max() - pace.min()) / pace.mean() < 1e-3


def stair():  # type: ignore[no-untyped-def]
    stone = Material("Stone")
    parts = [
        ("Ground", box_between((-5, -2, -0.2), (2, 2, 0.0)), stone),
        ("Top", box_between((4.9, -2, 0), (12, 2, 1.8)), stone),
    ]
    parts += [
        (f"Tread {i}", box_between((2 + 0.29 * i, -2, 0), (2 + 0.29 * (i + 1), 2, 0.18 * (i + 1))), stone)
        for i in range(10)
    ]
    return standable(model_of(*parts))


def test_a_stair_becomes_an_even_ramp() -> None:
    rays = stair()
    line = resolve(walk_of((-4, 0, 1.6), (2, 0, 1.6), (4.9, 0, 3.4), (11, 0, 3.4), seconds=14.0), rays)
    rows = sample(line)
    assert rows.eye[0, 2] == pytest.approx(1.6, abs=0.01)
    assert rows.eye[-1, 2] == pytest.approx(3.4, abs=0.01)
    climb = np.diff(rows.eye[:, 2])
    assert climb.min() > -1e-4
    on_stair = (rows.eye[:-1, 0] > 2.8) & (rows.eye[:-1, 0] < 4.1)
    steady = climb[on_stair]
    assert steady.std() / steady.mean() < 0.12
    floor = rays.floors_below(rows.eye)
    assert np.abs(rows.eye[:, 2] - floor - 1.6).max() < 0.26


def test_looking_as_keyed_turns_the_short_way() -> None:
    keys = (
        WalkKey((0, 0, 1), heading_deg=350.0),
        WalkKey((5, 0, 1), heading_deg=20.0),
        WalkKey((9, 0, 1), heading_deg=300.0),
    )
    rows = sample(resolve(Walk("w", "W", keys, seconds=10.0, looking=KEYED), None))
    assert np.abs(np.diff(rows.heading_deg)).max() < 2.0
    assert rows.heading_deg.max() - rows.heading_deg.min() < 81.0
    assert np.abs(rows.tilt_deg).max() == 0.0


def test_looking_ahead_follows_the_route_without_jumps() -> None:
    rows = sample(resolve(walk_of((0, 0, 1), (0, 10, 1), (10, 10, 1), (10, 0, 1), seconds=20.0), None))
    assert rows.heading_deg[0] == pytest.approx(0.0, abs=12.0)
    assert rows.heading_deg[-1] == pytest.approx(180.0, abs=12.0)
    rate_of_turn = np.diff(rows.heading_deg) * 25
    assert np.abs(np.diff(rate_of_turn)).max() < 12.0


def test_views_have_a_level_horizon() -> None:
    view = sample(resolve(walk_of((0, 0, 1), (5, 5, 1)), None)).view(10, 640, 360)
    assert view.pose.roll_deg == 0.0
    assert (view.width_px, view.height_px) == (640, 360)


def test_rates_that_are_none() -> None:
    for text in ("", "0", "-5", "1/0", "a", "1000"):
        with pytest.raises(Refused, match="rate"):
            parse_rate(text)


def test_a_route_needs_two_places_apart() -> None:
    with pytest.raises(Refused, match="two places"):
        route_through(np.array([(0.0, 0.0, 0.0)]))
    with pytest.raises(Refused, match="one point"):
        route_through(np.zeros((3, 3)))


def test_a_place_may_be_turned_to_the_long_way_round() -> None:
    headings, longer = (350.0, 30.0, 30.0, 100.0), (False, True, False, False)
    keys = tuple(
        WalkKey((4.0 * index, 0.0, 1.6), heading_deg=heading, long_way=long)
        for index, (heading, long) in enumerate(zip(headings, longer, strict=True))
    )
    walk = Walk("w", "W", keys, seconds=10.0, looking=KEYED)
    rows = sample(resolve(walk, None))
    # From 350 to 30 the short way is 40 degrees clockwise; the long one 320 the other way, then on as always.
    assert rows.heading_deg[-1] - rows.heading_deg[0] == pytest.approx(-320.0 + 70.0, abs=1.5)
    assert np.degrees(np.ptp(np.radians(rows.heading_deg))) == pytest.approx(320.0, abs=1.5)
    # Walked back, it turns back the same way.
    back = sample(resolve(reversed_walk(walk), None))
    assert np.ptp(back.heading_deg) == pytest.approx(np.ptp(rows.heading_deg), abs=8.0)


def test_key_distances_run_along_the_route() -> None:
    route = route_through(np.array([(0.0, 0.0, 1.0), (4.0, 0.0, 1.0), (4.0, 3.0, 1.0)]))
    assert route.key_m[0] == 0.0
    assert route.key_m[-1] == pytest.approx(route.length_m)
    assert (np.diff(route.key_m) > 0).all()
    # Arcs, not chords: neighbouring places lie as far apart as the line between them is long.
    spacing = np.linalg.norm(np.diff(route.at(np.linspace(0.0, route.length_m, 2000)), axis=0), axis=1)
    assert spacing.std() / spacing.mean() < 0.01


def test_the_demo_walk_climbs_without_bobbing(demo_opened, demo_project) -> None:  # type: ignore[no-untyped-def]
    line = resolve(demo_project.walks[0], standable(demo_opened.model))
    rows = sample(line)
    assert len(rows) == 600
    climb = np.diff(rows.eye[:, 2]) * 25
    assert climb.min() > -0.02
    assert climb.max() < 1.0
    assert np.abs(np.diff(climb)).max() < 0.15
    pace = np.linalg.norm(np.diff(rows.eye, axis=0), axis=1)
    assert (pace.max() - pace.min()) / pace.mean() < 0.02
    assert np.abs(np.diff(rows.heading_deg)).max() * 25 < 120.0


def test_the_demo_walk_passes_through_nothing(demo_opened, demo_project) -> None:  # type: ignore[no-untyped-def]
    rows = sample(resolve(demo_project.walks[0], standable(demo_opened.model)))
    rays = RayScene(demo_opened.model.vertices, demo_opened.model.faces)
    step = np.diff(rows.eye, axis=0)
    length = np.linalg.norm(step, axis=1)
    assert not rays.blocked(rows.eye[:-1], step / length[:, None], length + 0.15).any()


def test_a_route_without_floor_keeps_its_heights() -> None:
    rays = RayScene(np.zeros((3, 3), np.float32), np.zeros((0, 3), np.int32))
    line = resolve(walk_of((0, 0, 5), (9, 0, 7), seconds=4.0), rays)
    assert line.route.points[[0, -1], 2] == pytest.approx((5.0, 7.0))
