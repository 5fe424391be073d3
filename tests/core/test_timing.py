"""Timing of walks: exact counts and lengths, even pace, eases, pauses, keys at their seconds; turntables;
looking."""

from __future__ import annotations

import math
from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from altana.core.conventions import COMMON_RATES, frame_count, parse_rate
from altana.core.edits.walks import (
    add_look,
    add_walk,
    change_key,
    change_look,
    insert_key,
    join_walks,
    paste_key_camera,
    paste_keys,
    remove_key,
    remove_keys,
    remove_look,
    reversed_walk,
    shift_keys,
    split_walk,
    turntable_round,
)
from altana.core.errors import Refused
from altana.core.light.own import MomentLight
from altana.core.light.sky import sky_of
from altana.core.project import CORNER, EVEN, KEYED, POINT, Light, Look, Project, Turntable, Walk, WalkKey
from altana.core.walk.path import route_through
from altana.core.walk.sample import resolve, sample
from altana.core.walk.timing import seconds_for_pace

BENDS = ("smooth", EVEN, CORNER)


def walk_of(*places: tuple[float, float, float], **values: object) -> Walk:
    return Walk("w", "W", tuple(WalkKey(place) for place in places), follow_floor=False, **values)  # type: ignore[arg-type]


STRAIGHT = walk_of((0, 0, 1.6), (4, 0, 1.6), (10, 0, 1.6), seconds=10.0)


@st.composite
def walks(draw: st.DrawFn) -> Walk:
    count = draw(st.integers(2, 9))
    steps = draw(
        st.lists(
            st.tuples(st.floats(1, 6), st.floats(-3, 3), st.floats(-0.4, 0.4)),
            min_size=count - 1,
            max_size=count - 1,
        )
    )
    places = np.concatenate([[[0.0, 0.0, 1.6]], np.cumsum(steps, axis=0) + (0.0, 0.0, 1.6)])
    keys = tuple(
        WalkKey(
            tuple(place),
            draw(st.floats(0, 360)),
            draw(st.floats(-20, 20)),
            draw(st.floats(18, 50)),
            bend=draw(st.sampled_from(BENDS)),
            dwell_s=draw(st.sampled_from((0.0, 0.0, 0.0, 1.5))),
        )
        for place in places.tolist()
    )
    return Walk(
        "w",
        "W",
        keys,
        seconds=draw(st.floats(30, 60)),
        rate=draw(st.sampled_from(COMMON_RATES)),
        looking=draw(st.sampled_from(("ahead", KEYED))),
        follow_floor=False,
        ease_in_s=draw(st.sampled_from((0.0, 1.0))),
        ease_out_s=draw(st.sampled_from((0.0, 2.0))),
        dwell_ease_s=0.5,
    )


@pytest.mark.slow
@given(walks())
@settings(max_examples=100)
def test_every_walk_keeps_its_promises(walk: Walk) -> None:
    try:
        line = resolve(walk, None)
    except Refused as error:
        assert "no room" in str(error) or "longer than" in str(error)
        return
    rows = sample(line)
    rate = parse_rate(walk.rate)
    assert len(rows) == frame_count(walk.seconds, rate)
    # Frame i is at i / R to the last bit that a float holds.
    last = len(rows) - 1
    assert abs(Fraction(float(rows.seconds[last])) - Fraction(last) / rate) < Fraction(1, 10**9)
    timing = line.timing
    # Every key is passed at its second, within a millimetre, and a pause stays there.
    for key, second in zip(walk.keys, timing.key_s.tolist(), strict=True):
        for moment in (second, second + key.dwell_s):
            place = line.at_seconds(np.array([moment]), rate).eye[0]
            assert math.dist(place, key.eye) < 1e-3
    assert timing.distance_at(np.array([walk.seconds]))[0] == pytest.approx(line.route.length_m, abs=1e-6)
    # Even pace away from eases and pauses: arc length between moments differs by less than a thousandth.
    moments = np.linspace(0.0, walk.seconds, 400)
    still = np.zeros(len(moments), bool)
    for begin, end in (*timing.dwells.tolist(), *timing.eased.tolist()):
        still |= (moments >= begin - 0.4) & (moments <= end + 0.4)
    gone = np.diff(timing.distance_at(moments))
    even = gone[~still[1:] & ~still[:-1]]
    if len(even) > 1:
        assert np.ptp(even) < 1e-3 * even.mean()
    # Distance never goes back, headings never flip.
    assert (gone >= -1e-9).all()
    assert np.abs(np.diff(rows.heading_deg)).max() < 90.0


@pytest.mark.parametrize("rate", COMMON_RATES)
def test_changing_the_rate_keeps_the_seconds(rate: str) -> None:
    rows = sample(resolve(replace(STRAIGHT, rate=rate), None))
    assert len(rows) == round(10.0 * float(parse_rate(rate)))
    assert rows.eye[:, 0] == pytest.approx(rows.seconds, abs=1e-6)


def test_time_never_drifts_over_a_hundred_thousand_frames() -> None:
    rate = parse_rate("30000/1001")
    walk = replace(STRAIGHT, seconds=3336.6667, rate="30000/1001")
    rows = sample(resolve(walk, None))
    assert len(rows) == 100_000
    exact = Fraction(99_999) / rate
    assert abs(Fraction(float(rows.seconds[-1])) - exact) < Fraction(1, 10**9)
    steps = np.diff(rows.eye[:, 0])
    assert np.ptp(steps) < 1e-3 * steps.mean()


def test_eases_pauses_and_fixed_seconds() -> None:
    eased = resolve(replace(STRAIGHT, ease_in_s=2.0, ease_out_s=2.0), None).timing
    # 10 m in 10 s with two eases of two seconds: 10 / (10 - 1 - 1) metres a second between them.
    assert eased.pace_at(np.array([5.0]))[0] == pytest.approx(1.25)
    assert eased.pace_at(np.array([0.0, 1.0, 10.0])) == pytest.approx([0.0, 0.625, 0.0], abs=1e-9)
    keys = (STRAIGHT.keys[0], replace(STRAIGHT.keys[1], dwell_s=3.0), STRAIGHT.keys[2])
    paused = resolve(replace(STRAIGHT, keys=keys, dwell_ease_s=0.0), None).timing
    assert paused.dwells.tolist() == [[pytest.approx(2.8), pytest.approx(5.8)]]
    assert paused.distance_at(np.array([3.0, 5.5])) == pytest.approx([4.0, 4.0])
    fixed = (STRAIGHT.keys[0], replace(STRAIGHT.keys[1], at_s=8.0), STRAIGHT.keys[2])
    timing = resolve(replace(STRAIGHT, keys=fixed), None).timing
    assert timing.key_s.tolist() == pytest.approx([0.0, 8.0, 10.0])
    # 4 m in 8 s, then 6 m in 2 s: the pace goes over evenly about the key, which keeps its second and its
    # place.
    assert timing.distance_at(np.array([8.0, 10.0])) == pytest.approx([4.0, 10.0], abs=1e-9)
    slow, fast = timing.pace_at(np.array([4.0, 9.5]))
    assert slow < 0.5
    assert fast > 3.0
    assert timing.pace_at(np.array([8.0]))[0] == pytest.approx((slow + fast) / 2)
    (began, ended) = timing.eased[0][0], timing.eased[-1][1]
    assert (began, ended) == (pytest.approx(7.4), pytest.approx(8.6))
    assert np.abs(np.diff(timing.pace_at(np.arange(0.0, 10.0, 0.01)))).max() < 0.05
    assert seconds_for_pace(replace(STRAIGHT, ease_in_s=2.0), 10.0, 1.0) == pytest.approx(11.0)
    assert resolve(replace(STRAIGHT, ease_in_s=2.0, seconds=11.0), None).pace_m_s == pytest.approx(1.0)


@pytest.mark.parametrize(
    ("values", "said"),
    [
        ({"ease_in_s": 12.0, "ease_out_s": 12.0}, "longer than the walk"),
        (
            {"keys": (STRAIGHT.keys[0], replace(STRAIGHT.keys[1], dwell_s=11.0), STRAIGHT.keys[2])},
            "longer than the walk",
        ),
        (
            {
                "keys": (
                    *(STRAIGHT.keys[:1]),
                    WalkKey((4, 0, 1.6), at_s=6.0),
                    WalkKey((6, 0, 1.6), at_s=5.0),
                    STRAIGHT.keys[2],
                )
            },
            "follow each other",
        ),
    ],
)
def test_a_walk_that_cannot_be_timed_says_why(values: dict[str, object], said: str) -> None:
    with pytest.raises(Refused, match=said):
        resolve(replace(STRAIGHT, **values), None)  # type: ignore[arg-type]


# ---------------------------------------------------------------------- the route


def test_a_corner_goes_straight_in_and_straight_out() -> None:
    keys = np.array([[0, 0, 1.6], [5, 0, 1.6], [5, 5, 1.6]], float)
    route = route_through(keys, ["smooth", CORNER, "smooth"])
    assert route.length_m == pytest.approx(10.0, abs=1e-6)
    assert np.minimum(np.abs(route.points[:, 1]), np.abs(route.points[:, 0] - 5.0)).max() < 1e-9
    assert route_through(keys).length_m > 10.0 * 0.8


def test_even_bends_walk_along_the_circle_through_their_neighbours() -> None:
    around = np.radians([0, 40, 80, 120, 160, 200])
    keys = np.stack([6 * np.sin(around), 6 * np.cos(around), np.full(6, 1.6)], axis=1)
    off = {}
    for bend in ("smooth", EVEN):
        route = route_through(keys, [bend] * 6)
        between = (route.along_m > route.key_m[1]) & (route.along_m < route.key_m[4])
        off[bend] = float(np.abs(np.hypot(*route.points[between, :2].T) - 6.0).max())
    assert off[EVEN] < 0.02
    assert off[EVEN] < off["smooth"]


def test_the_keys_lie_on_the_route_exactly() -> None:
    rng = np.random.default_rng(3)
    keys = np.cumsum(rng.uniform(-1, 3, (40, 3)), axis=0)
    route = route_through(keys, rng.choice(BENDS, 40).tolist())
    assert route.at(route.key_m) == pytest.approx(keys, abs=1e-9)


# ---------------------------------------------------------------------- looking


def test_a_look_at_a_point_is_blended_in_and_out() -> None:
    walk = walk_of(
        (0, 0, 1.6),
        (10, 0, 1.6),
        (20, 0, 1.6),
        seconds=20.0,
        looks=(Look(0.4, 0.6, POINT, (10.0, 8.0, 4.0)),),
    )
    line = resolve(walk, None)
    rows = line.at_seconds(np.array([0.0, 10.0, 20.0]), Fraction(25))
    assert rows.heading_deg[[0, 2]] % 360 == pytest.approx([90.0, 90.0])
    assert rows.heading_deg[1] % 360 == pytest.approx(0.0, abs=1e-6) or rows.heading_deg[
        1
    ] % 360 == pytest.approx(360.0, abs=1e-6)
    assert rows.tilt_deg[1] == pytest.approx(math.degrees(math.atan2(2.4, 8.0)), abs=0.05)
    assert rows.tilt_deg[0] == 0.0
    dense = line.at_seconds(np.linspace(0, 20, 2001), Fraction(100))
    rates = np.diff(dense.heading_deg) / 0.01
    # The turning rate is continuous: no jump between neighbouring hundredths of a second.
    assert np.abs(np.diff(rates)).max() < 20.0


def test_turning_goes_the_short_way_and_pauses_look_still() -> None:
    keys = (
        WalkKey((0, 0, 1.6), 350.0),
        WalkKey((5, 0, 1.6), 10.0, dwell_s=2.0),
        WalkKey((10, 0, 1.6), 350.0),
    )
    line = resolve(Walk("w", "W", keys, seconds=12.0, looking=KEYED, follow_floor=False), None)
    rows = sample(line)
    assert np.ptp(rows.heading_deg) == pytest.approx(20.0, abs=0.1)
    begin, end = line.timing.dwells[0]
    paused = line.at_seconds(np.linspace(begin, end, 20), Fraction(25))
    assert np.ptp(paused.heading_deg) < 1e-9
    assert np.ptp(paused.eye, axis=0) == pytest.approx(0.0, abs=1e-9)


def test_a_walk_kept_plumb_rises_instead_of_tilting() -> None:
    keys = (WalkKey((0, 0, 1.6), 0.0, 20.0, 24.0), WalkKey((0, 5, 1.6), 0.0, -10.0, 24.0))
    rows = sample(
        resolve(Walk("w", "W", keys, 5.0, looking=KEYED, follow_floor=False, kept_plumb=True), None)
    )
    assert (rows.tilt_deg == 0.0).all()
    assert rows.rise_mm[0] == pytest.approx(8.7353, abs=1e-4)
    assert rows.view(0, 1280, 720).lean_deg() == 0.0


def test_lens_shift_and_bounds_are_keyed() -> None:
    keys = (
        WalkKey((0, 0, 1.6), focal_mm=24.0, near_m=1.0, cross_mm=-2.0),
        WalkKey((5, 0, 1.6), focal_mm=50.0, near_m=3.0),
        WalkKey((10, 0, 1.6), focal_mm=50.0),
    )
    line = resolve(Walk("w", "W", keys, 10.0, follow_floor=False), None)
    rows = line.at_seconds(np.array([0.0, 2.5, 7.5]), Fraction(25))
    assert rows.near_m[:2] == pytest.approx([1.0, 2.0])
    assert np.isnan(rows.near_m[2])
    assert 24.0 < rows.focal_mm[1] < 50.0
    view = rows.view(1, 1280, 720)
    assert (view.near_m, view.far_m) == (pytest.approx(2.0), None)
    assert -2.0 < view.lens.cross_mm < 0.0


# ---------------------------------------------------------------------- turntables


def turning(**values: object) -> Walk:
    table = Turntable((3.0, -2.0, 5.0), 30.0, 12.0, **values)  # type: ignore[arg-type]
    return Walk("t", "T", (), 240 / 25, "25", turntable=table)


def test_a_turntable_closes_without_a_repeated_frame() -> None:
    line = resolve(turning(), None)
    rows = sample(line)
    assert len(rows) == 240
    again = line.at_seconds(np.array([0.0, line.walk.seconds]), Fraction(25))
    assert again.eye[0] == pytest.approx(again.eye[1], abs=1e-9)
    assert (again.heading_deg[1] - again.heading_deg[0]) == pytest.approx(360.0, abs=1e-9)
    steps = np.linalg.norm(np.diff(np.vstack([rows.eye, rows.eye[:1]]), axis=0), axis=1)
    assert np.ptp(steps) < 1e-9
    for frame in (0, 71, 239):
        px, py, _ = rows.view(frame, 1280, 720).project(np.array([[3.0, -2.0, 5.0]]))[0]
        assert (px, py) == (pytest.approx(640.0, abs=0.1), pytest.approx(360.0, abs=0.1))


def test_a_turntable_kept_plumb_keeps_its_centre_as_well() -> None:
    rows = sample(resolve(replace(turning(), kept_plumb=True), None))
    px, py, _ = rows.view(100, 1280, 720).project(np.array([[3.0, -2.0, 5.0]]))[0]
    assert (px, py) == (pytest.approx(640.0, abs=0.1), pytest.approx(360.0, abs=0.1))
    assert rows.tilt_deg[100] == 0.0


def test_half_a_turn_the_other_way_and_level() -> None:
    rows = sample(resolve(turning(sweep_deg=-180.0, start_deg=90.0, level=True), None))
    assert rows.eye[0] == pytest.approx([33.0, -2.0, 12.0])
    assert (rows.tilt_deg == 0.0).all()
    assert rows.eye[120] == pytest.approx([3.0, 28.0, 12.0], abs=1e-6)


def test_a_turntable_round_a_box_holds_it_from_every_side() -> None:
    table = turntable_round((0, 0, 0), (8, 5, 3), 4.0)
    rows = sample(resolve(Walk("t", "T", (), 4.0, "15", turntable=table), None))
    corners = np.array([[x, y, z] for x in (0, 8) for y in (0, 5) for z in (0, 3)], float)
    for frame in range(0, 60, 7):
        px, py, _ = rows.view(frame, 1280, 720).project(corners).T
        assert px.min() > 0 and px.max() < 1280 and py.min() > 0 and py.max() < 720


# ---------------------------------------------------------------------- edits


def test_keys_are_changed_put_in_and_taken_out() -> None:
    project, walk_id = add_walk(Project(), STRAIGHT)
    changed = change_key(project, walk_id, 1, dwell_s=2.0, bend=CORNER)
    assert changed.walks[0].keys[1].dwell_s == 2.0
    assert insert_key(project, walk_id, 2, WalkKey((7, 1, 1.6))).walks[0].keys[2].eye == (7, 1, 1.6)
    assert len(remove_key(project, walk_id, 1).walks[0].keys) == 2
    with pytest.raises(Refused, match="at least two"):
        remove_key(remove_key(project, walk_id, 1), walk_id, 0)
    with pytest.raises(Refused, match="no place 9"):
        change_key(project, walk_id, 8, dwell_s=1.0)
    with pytest.raises(Refused, match="no way to pass"):
        change_key(project, walk_id, 1, bend="wiggly")
    with pytest.raises(Refused, match="outside the walk"):
        change_key(project, walk_id, 1, at_s=99.0)


def test_reversed_twice_is_the_same_walk() -> None:
    walk = replace(STRAIGHT, ease_in_s=1.0, looks=(Look(0.1, 0.3, POINT, (1.0, 2.0, 3.0)),))
    walk = replace(walk, keys=(walk.keys[0], replace(walk.keys[1], at_s=3.0), walk.keys[2]))
    back = reversed_walk(walk)
    assert (back.ease_out_s, back.keys[1].at_s) == (1.0, 7.0)
    again = reversed_walk(back)
    assert again.looks[0].start == pytest.approx(0.1)
    assert replace(again, looks=walk.looks) == walk
    assert reversed_walk(turning()).turntable.sweep_deg == -360.0  # type: ignore[union-attr]


def test_a_walk_is_parted_and_joined_again() -> None:
    project, walk_id = add_walk(Project(), STRAIGHT)
    parted, second = split_walk(project, walk_id, 1)
    first, on = parted.walks
    assert (first.seconds, on.seconds) == (pytest.approx(4.0), pytest.approx(6.0))
    assert first.keys[-1].eye == on.keys[0].eye
    joined = join_walks(parted, walk_id, second).walks[0]
    assert [key.eye for key in joined.keys] == [key.eye for key in STRAIGHT.keys]
    assert joined.seconds == pytest.approx(10.0)
    with pytest.raises(Refused, match="not one with itself"):
        join_walks(project, walk_id, walk_id)
    with pytest.raises(Refused, match="between its first"):
        split_walk(project, walk_id, 0)


@pytest.mark.parametrize(
    ("values", "said"),
    [
        ({"radius_m": 0.0}, "radius"),
        ({"sweep_deg": 0.0}, "sweeps"),
        ({"focal_mm": 1.0}, "focal length"),
        ({"eye_m": math.inf}, "finite"),
    ],
)
def test_a_turntable_that_makes_no_film_is_refused(values: dict[str, float], said: str) -> None:
    table = replace(Turntable((0.0, 0.0, 0.0), 10.0, 2.0), **values)  # type: ignore[arg-type]
    with pytest.raises(Refused, match=said):
        add_walk(Project(), Walk("", "T", (), turntable=table))


# ---------------------------------------------------------------------- handles, moving points, the sun,
# copies


def test_a_handle_sets_which_way_the_route_goes_on() -> None:
    keys = (WalkKey((0, 0, 1.6)), WalkKey((5, 0, 1.6), handle=(0.0, 2.0)), WalkKey((10, 0, 1.6)))
    route = resolve(Walk("w", "W", keys, 10.0), None).route
    assert route.at(route.key_m)[1] == pytest.approx([5, 0, 1.6], abs=1e-9)
    ahead, back = route.at([route.key_m[1] + 0.05, route.key_m[1] - 0.05])
    assert (ahead - back)[:2] / 0.1 == pytest.approx([0.0, 1.0], abs=0.02)
    # It carries on that way and comes from the other side.
    assert route.points[:, 1].max() > 0.3
    assert route.points[:, 1].min() < -0.3
    turned = reversed_walk(Walk("w", "W", keys, 10.0))
    assert resolve(turned, None).route.length_m == pytest.approx(route.length_m)


def test_a_moving_point_is_followed_over_its_span() -> None:
    keys = (WalkKey((0, 0, 1.6)), WalkKey((10, 0, 1.6)))
    look = Look(0.0, 1.0, POINT, (0.0, 5.0, 1.6), to=(10.0, 5.0, 1.6))
    rows = sample(resolve(Walk("w", "W", keys, 10.0, looks=(look,)), None))
    # The point keeps beside the walk: the view is square to it all the way.
    assert np.abs((rows.heading_deg + 180.0) % 360.0 - 180.0).max() < 0.05


def test_the_sun_is_keyed_by_time_and_goes_on_through_a_pause() -> None:
    keys = (
        WalkKey((0, 0, 1.6), hour=8.0),
        WalkKey((5, 0, 1.6), dwell_s=4.0),
        WalkKey((10, 0, 1.6), hour=12.0),
    )
    line = resolve(Walk("w", "W", keys, 10.0), None)
    rows = line.at_seconds(np.array([0.0, 5.0, 10.0]), Fraction(25))
    assert rows.hour == pytest.approx([8.0, 10.0, 12.0])
    assert line.light_at(2.5).hour == pytest.approx(9.0)
    plain = resolve(Walk("w", "W", (WalkKey((0, 0, 1)), WalkKey((1, 0, 1))), 2.0), None)
    assert plain.light_at(1.0) == MomentLight()
    assert plain.light_at(1.0).of(Light(hour=7.5)) == Light(hour=7.5)


def test_lamps_are_dimmed_by_time() -> None:
    keys = (WalkKey((0, 0, 1.6), lamps=0.0), WalkKey((5, 0, 1.6)), WalkKey((10, 0, 1.6), lamps=0.8))
    line = resolve(Walk("w", "W", keys, 10.0), None)
    rows = line.at_seconds(np.array([0.0, 5.0, 10.0]), Fraction(25))
    assert rows.lamps == pytest.approx([0.0, 0.4, 0.8])
    assert np.isnan(rows.hour).all()
    assert rows.light(1).lamps == line.light_at(5.0).lamps == pytest.approx(0.4)
    lit = [rows.light(row).of(Light()) for row in range(3)]
    assert [item.lamps.on for item in lit] == [False, True, True]
    assert [sky_of(item).lamps for item in lit] == pytest.approx([0.0, 0.4, 0.8])
    # What hangs there is the same, however it burns.
    assert len({item.lamps.hung for item in lit}) == 1
    turning = Walk("w", "W", keys, 10.0, turntable=Turntable((0, 0, 1), 5.0, 1.6))
    assert resolve(turning, None).light_at(5.0) == MomentLight()


def test_the_second_at_which_a_distance_is_reached() -> None:
    keys = (STRAIGHT.keys[0], replace(STRAIGHT.keys[1], dwell_s=2.0), STRAIGHT.keys[2])
    timing = resolve(replace(STRAIGHT, keys=keys, ease_in_s=1.0, ease_out_s=1.0), None).timing
    metres = np.array([0.5, 2.0, 3.9, 4.1, 9.0])
    assert timing.distance_at(timing.second_at(metres)) == pytest.approx(metres, abs=1e-9)


def test_places_are_copied_shifted_and_removed_together() -> None:
    project, walk_id = add_walk(
        Project(), replace(STRAIGHT, keys=(*STRAIGHT.keys, WalkKey((12, 3, 1.6), focal_mm=50.0)))
    )
    pasted = paste_keys(project, walk_id, 3, STRAIGHT.keys[:2]).walk(walk_id)
    assert pasted is not None
    assert [key.eye for key in pasted.keys[4:]] == [key.eye for key in STRAIGHT.keys[:2]]
    # A copy that would stand on its neighbour is passed over; where nothing is left it is said.
    with pytest.raises(Refused, match="already passes"):
        paste_keys(project, walk_id, 1, STRAIGHT.keys[1:2])
    camera = paste_key_camera(project, walk_id, [0, 1], WalkKey((0, 0, 0), focal_mm=85.0, hour=9.0)).walk(
        walk_id
    )
    assert camera is not None
    assert [key.focal_mm for key in camera.keys] == [85.0, 85.0, STRAIGHT.keys[2].focal_mm, 50.0]
    assert camera.keys[0].eye == STRAIGHT.keys[0].eye
    shifted = shift_keys(project, walk_id, [(0, 3.0), (1, 4.0), (2, 6.5)]).walk(walk_id)
    assert shifted is not None
    assert [key.at_s for key in shifted.keys] == [None, 4.0, 6.5, None]
    left = remove_keys(project, walk_id, [0, 2]).walk(walk_id)
    assert left is not None
    assert len(left.keys) == 2
    with pytest.raises(Refused, match="at least two"):
        remove_keys(project, walk_id, [0, 1, 2])


def test_spans_of_looking_are_added_changed_and_removed() -> None:
    project, walk_id = add_walk(Project(), STRAIGHT)
    project = add_look(project, walk_id, Look(0.2, 0.4))
    project = change_look(project, walk_id, 0, end=0.6, to=(1.0, 2.0, 3.0))
    walk = project.walk(walk_id)
    assert walk is not None
    assert walk.looks == (Look(0.2, 0.6, to=(1.0, 2.0, 3.0)),)
    with pytest.raises(Refused, match="span between"):
        change_look(project, walk_id, 0, start=0.7)
    with pytest.raises(Refused, match="no span 4"):
        change_look(project, walk_id, 3, start=0.1)
    emptied = remove_look(project, walk_id, 0).walk(walk_id)
    assert emptied is not None
    assert emptied.looks == ()


@settings(max_examples=60)
@given(
    st.lists(st.floats(0.4, 6.0), min_size=2, max_size=6),
    st.lists(st.floats(0.3, 8.0), min_size=2, max_size=6),
)
def test_every_second_of_a_place_is_kept_however_the_pace_goes_over(
    lengths: list[float], times: list[float]
) -> None:
    count = min(len(lengths), len(times))
    moments = np.cumsum(times[:count])
    places = np.cumsum(lengths[:count])
    keys = [WalkKey((0.0, 0.0, 1.6))]
    keys += [
        WalkKey((float(x), 0.0, 1.6), at_s=float(t)) for x, t in zip(places[:-1], moments[:-1], strict=True)
    ]
    keys.append(WalkKey((float(places[-1]), 0.0, 1.6)))
    line = resolve(Walk("w", "W", tuple(keys), float(moments[-1])), None)
    assert line.timing.distance_at(moments) == pytest.approx(places, abs=1e-6)
    assert line.timing.key_s[1:] == pytest.approx(moments, abs=1e-9)
    fine = line.timing.distance_at(np.linspace(0.0, float(moments[-1]), 2000))
    assert (np.diff(fine) >= -1e-9).all()
