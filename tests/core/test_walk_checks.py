"""Walks made bad on purpose give exactly the flags they should, and good ones give none."""

from __future__ import annotations

from dataclasses import replace

import pytest

from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.model import Material, Model
from altana.core.project import CORNER, Limits, Walk, WalkKey
from altana.core.standing import standable
from altana.core.walk.checks import Flag, check_walk
from altana.core.walk.mends import CLEAR, ROUND, SLOW, UNBOUND, mended, mends_for
from altana.core.walk.sample import resolve
from altana.core.walk.unrolled import COLUMNS, unroll
from altana.jobs.models import Opened
from tests.conftest import box_between, model_of

PLASTER = Material("Plaster", (0.8, 0.8, 0.8, 1.0))


@pytest.fixture(scope="module")
def hall() -> Model:
    """A hall of 24 x 8 x 4 m with a wall across it that has a door of 1.2 x 2.3 m, and a low beam further
    on."""
    model = model_of(
        ("Floor", box_between((-1, -1, -0.3), (25, 9, 0.0)), PLASTER),
        ("Ceiling", box_between((-1, -1, 4.0), (25, 9, 4.2)), PLASTER),
        ("Wall left", box_between((10, -1, 0), (10.2, 3.4, 4)), PLASTER),
        ("Wall right", box_between((10, 4.6, 0), (10.2, 9, 4)), PLASTER),
        ("Over the door", box_between((10, 3.4, 2.3), (10.2, 4.6, 4)), PLASTER),
        ("Low beam", box_between((18, -1, 1.8), (18.3, 9, 2.1)), PLASTER),
    )
    return replace(
        model,
        objects=tuple(
            replace(item, category="Wall" if "Floor" not in item.name else "Floor") for item in model.objects
        ),
    )


def flags_of(model: Model, *places: tuple[float, float], **values: object) -> tuple[Flag, ...]:
    keys = tuple(WalkKey((x, y, 1.6)) for x, y in places)
    walk = Walk("w", "W", keys, follow_floor=False, **values)  # type: ignore[arg-type]
    floors = standable(model)
    return check_walk(resolve(walk, floors), RayScene(model.vertices, model.faces), floors, Limits())


def test_a_calm_walk_through_the_door_gives_no_flag(hall: Model) -> None:
    assert flags_of(hall, (1, 4), (10.1, 4), (16, 4), seconds=15.0, ease_in_s=1.0, ease_out_s=1.0) == ()


def test_over_a_void() -> None:
    """Two galleries with an open well of 5 m between them: the eye goes on where there is nothing to stand
    on."""
    galleries = model_of(
        ("Floor", box_between((-1, -1, -6.3), (25, 9, -6.0)), PLASTER),
        ("Gallery", box_between((-1, -1, -0.3), (9, 9, 0.0)), PLASTER),
        ("Gallery on", box_between((14, -1, -0.3), (25, 9, 0.0)), PLASTER),
    )
    floors = standable(galleries)

    def found(*places: tuple[float, float], **values: object) -> list[Flag]:
        walk = Walk("w", "W", tuple(WalkKey((x, y, 1.6)) for x, y in places), seconds=20.0, **values)  # type: ignore[arg-type]
        rays = RayScene(galleries.vertices, galleries.faces)
        return [
            flag for flag in check_walk(resolve(walk, floors), rays, floors, Limits()) if flag.code == "void"
        ]

    (flag,) = found((1, 4), (22, 4))
    assert flag.figure == pytest.approx(7.6, abs=0.02) and 8.9 < flag.place[0] < 14.1
    assert "goes over a void, 7.6 m above the nearest floor" in flag.sentence
    assert found((1, 4), (8, 4)) == []
    # An eye that is carried through the air on purpose does not follow floors.
    assert found((1, 4), (22, 4), follow_floor=False) == []


def test_through_a_wall(hall: Model) -> None:
    (flag,) = [item for item in flags_of(hall, (1, 2), (16, 2), seconds=15.0) if item.code == "solid"]
    assert flag.worst_s == pytest.approx(9.0, abs=0.25)
    assert flag.place[0] == pytest.approx(10.0, abs=0.2)
    assert flag.sentence.startswith("At ")


def test_too_near_the_jamb_and_under_a_low_beam(hall: Model) -> None:
    flags = flags_of(hall, (1, 3.55), (16, 3.55), seconds=15.0)
    assert [item.code for item in flags] == ["clearance"]
    assert flags[0].figure == pytest.approx(0.15, abs=0.03)
    below = flags_of(hall, (14, 4), (22, 4), seconds=8.0)
    # Eye at 1.60 m passes beneath the beam at 1.80 m: only the headroom is short.
    assert [item.code for item in below] == ["headroom"]
    assert below[0].figure == pytest.approx(1.8, abs=0.01)
    assert below[0].worst_s == pytest.approx(4.1, abs=0.2)


def test_too_fast_and_too_sharp(hall: Model) -> None:
    fast = flags_of(hall, (1, 4), (9, 4), seconds=3.0)
    assert [item.code for item in fast] == ["pace"]
    assert fast[0].figure == pytest.approx(8 / 3, abs=0.01)
    keys = (WalkKey((1, 2, 1.6)), WalkKey((5, 2, 1.6), bend=CORNER), WalkKey((5, 6, 1.6)))
    sharp = Walk("w", "W", keys, seconds=8.0, follow_floor=False, anticipation_m=0.1)
    floors = standable(hall)
    flags = check_walk(resolve(sharp, floors), RayScene(hall.vertices, hall.faces), floors, Limits())
    assert [item.code for item in flags] == ["turn"]
    assert flags[0].worst_s == pytest.approx(4.0, abs=0.2)
    # Looked round earlier the same corner is calm.
    calm = replace(sharp, anticipation_m=1.2)
    assert check_walk(resolve(calm, floors), RayScene(hall.vertices, hall.faces), floors, Limits()) == ()


def test_a_jump_of_pace_of_height_and_of_the_lens(hall: Model) -> None:
    floors, rays = standable(hall), RayScene(hall.vertices, hall.faces)

    def found(*keys: WalkKey, seconds: float) -> list[str]:
        return [
            item.code
            for item in check_walk(
                resolve(Walk("w", "W", keys, seconds, follow_floor=False), floors), rays, floors, Limits()
            )
        ]

    pace = (WalkKey((1, 4, 1.6)), WalkKey((3, 4, 1.6), at_s=6.0), WalkKey((8, 4, 1.6)))
    # From 0.3 to 1.7 m/s is gone over calmly; from one place to the next within half a second it is not.
    assert found(*pace, seconds=9.0) == []
    hurried = (*pace[:2], WalkKey((3.55, 4, 1.6), at_s=6.5), WalkKey((8, 4, 1.6)))
    assert found(*hurried, seconds=13.0) == ["acceleration"]
    # A pause without eases stops dead.
    pause = (WalkKey((1, 4, 1.6)), WalkKey((4, 4, 1.6), dwell_s=2.0), WalkKey((8, 4, 1.6)))
    walk = Walk("w", "W", pause, 9.0, follow_floor=False, dwell_ease_s=0.0)
    assert {item.code for item in check_walk(resolve(walk, floors), rays, floors, Limits())} == {
        "acceleration"
    }
    eased = replace(walk, dwell_ease_s=1.0)
    assert check_walk(resolve(eased, floors), rays, floors, Limits()) == ()
    assert found(WalkKey((1, 4, 1.0)), WalkKey((3, 4, 3.2)), seconds=2.2) == ["climb"]
    assert found(WalkKey((1, 4, 1.6), focal_mm=16), WalkKey((4, 4, 1.6), focal_mm=120), seconds=3.0) == [
        "lens"
    ]


def test_the_demos_walk_up_the_stair_is_clean(demo_opened: Opened, demo_project) -> None:  # type: ignore[no-untyped-def]
    floors = standable(demo_opened.model)
    rays = RayScene(demo_opened.model.vertices, demo_opened.model.faces)
    flags = check_walk(resolve(demo_project.walks[0], floors), rays, floors, demo_project.limits)
    assert flags == ()


def test_an_eye_that_jumps(hall: Model) -> None:
    floors, rays = standable(hall), RayScene(hall.vertices, hall.faces)
    level = [WalkKey((1.0 + 0.5 * n, 4, 1.6)) for n in range(6)]
    step = [WalkKey((4.2 + 0.5 * n, 4, 2.15)) for n in range(6)]
    walk = Walk("w", "W", (*level, *step), 4.0, follow_floor=False)
    flags = check_walk(resolve(walk, floors), rays, floors, Limits(climb_m_s=5.0))
    assert {item.code for item in flags} == {"jump"}
    assert flags[0].place[0] == pytest.approx(3.8, abs=0.5)
    assert "jump" in flags[0].sentence


# ---------------------------------------------------------------------- mends


def checked(model: Model, walk: Walk) -> tuple[Flag, ...]:
    floors = standable(model)
    return check_walk(resolve(walk, floors), RayScene(model.vertices, model.faces), floors, Limits())


def test_slowing_down_mends_the_flag_and_leaves_the_rest_of_the_walk_at_its_pace(hall: Model) -> None:
    keys = (
        WalkKey((1, 4, 1.6)),
        WalkKey((4, 4, 1.6), at_s=3.0),
        WalkKey((8, 4, 1.6), at_s=5.0),
        WalkKey((14, 4, 1.6)),
    )
    walk = Walk("w", "W", keys, 11.0, follow_floor=False)
    (flag,) = checked(hall, walk)
    assert flag.code == "pace"
    line = resolve(walk, None)
    assert mends_for(flag, line) == (SLOW,)
    slower = mended(line, flag, SLOW)
    assert checked(hall, slower) == ()
    assert slower.seconds > walk.seconds
    before, after = (
        line.timing.pace_at([1.0, 10.0]),
        resolve(slower, None).timing.pace_at([1.0, slower.seconds - 1.0]),
    )
    assert after == pytest.approx(before, rel=0.12)


def test_rounding_a_corner_mends_a_hasty_turn(hall: Model) -> None:
    keys = (WalkKey((1, 2, 1.6)), WalkKey((5, 2, 1.6), bend=CORNER), WalkKey((5, 6, 1.6)))
    walk = Walk("w", "W", keys, seconds=8.0, follow_floor=False, anticipation_m=0.1)
    (flag,) = checked(hall, walk)
    line = resolve(walk, None)
    assert mends_for(flag, line)[0] == ROUND
    rounder = mended(line, flag, ROUND)
    assert rounder.keys[1].bend != CORNER
    assert checked(hall, rounder) == ()
    with pytest.raises(Refused, match="Keep clear"):
        mended(line, flag, CLEAR)


def test_keeping_clear_moves_the_route_off_the_jamb(hall: Model) -> None:
    walk = Walk("w", "W", (WalkKey((1, 3.55, 1.6)), WalkKey((16, 3.55, 1.6))), 15.0, follow_floor=False)
    (flag,) = checked(hall, walk)
    line = resolve(walk, None)
    clear = mended(line, flag, CLEAR, RayScene(hall.vertices, hall.faces))
    assert len(clear.keys) == 3
    assert clear.keys[1].eye[1] > 3.64
    assert "clearance" not in {item.code for item in checked(hall, clear)}


def test_a_bound_that_opens_something_is_taken_off_about_the_flag(hall: Model) -> None:
    keys = tuple(WalkKey((x, 4.0, 1.6), near_m=1.0) for x in (1.0, 4.0, 7.0, 9.0))
    line = resolve(Walk("w", "W", keys, 8.0, follow_floor=False), None)
    flag = Flag("cut", 3.5, 4.5, 4.0, (5.0, 4.0, 1.6), 0.02, 0.0005, "")
    mended_walk = mended(line, flag, UNBOUND)
    assert [key.near_m for key in mended_walk.keys] == [1.0, None, None, 1.0]


# ---------------------------------------------------------------------- the long section


def test_the_long_section_shows_floor_wall_door_and_beam_where_they_are(hall: Model) -> None:
    floors, rays = standable(hall), RayScene(hall.vertices, hall.faces)
    # Round a corner, so that the section is really unrolled: 6 m east, then the hall's length is at 3 + 6 m.
    keys = (WalkKey((4, 1, 1.6), bend=CORNER), WalkKey((4, 4, 1.6), bend=CORNER), WalkKey((22, 4, 1.6)))
    route = resolve(Walk("w", "W", keys, 20.0, follow_floor=False), None).route
    sheet = unroll(hall, rays, floors, route)
    assert sheet.length_m == pytest.approx(21.0)

    def solid_at(along: float, z: float) -> bool:
        left, right, low, high = sheet.solid.T
        return bool(((left <= along) & (along < right) & (low <= z) & (z <= high)).any())

    wall, beam = 3.0 + 6.1, 3.0 + 14.15
    assert solid_at(1.0, -0.15) and solid_at(15.0, -0.15)
    assert solid_at(wall, 3.0) and not solid_at(wall, 1.6)
    assert solid_at(beam, 1.95) and not solid_at(beam, 2.3)
    assert not solid_at(wall - 0.5, 3.0)
    assert sheet.eye[:, 1] == pytest.approx(1.6)
    assert sheet.floor[:, 1] == pytest.approx(0.0, abs=1e-5)
    # Every column of the floor is filled: nothing is lost where pieces meet.
    floor = sheet.solid[(sheet.solid[:, 3] <= 0.01) & (sheet.solid[:, 2] < -0.2)]
    assert len(floor) == COLUMNS
