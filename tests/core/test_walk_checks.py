"""Walks made bad on purpose give exactly the flags they should, and good ones give none."""

from __future__ import annotations

from dataclasses import replace

import pytest

from altana.core.geometry.rays import RayScene
from altana.core.model import Material, Model
from altana.core.project import CORNER, Limits, Walk, WalkKey
from altana.core.standing import standable
from altana.core.walk.checks import Flag, check_walk
from altana.core.walk.sample import resolve
from altana.jobs.models import Opened
from tests.conftest import box_between, model_of

PLASTER = Material("Plaster", (0.8, 0.8, 0.8, 1.0))


@pytest.fixture(scope="module")
def hall() -> Model:
    """A hall of 24 x 8 x 4 m with a wall across it that has a door of 1.2 x 2.3 m, and a low beam further on."""
    made = model_of(
        ("Floor", box_between((-1, -1, -0.3), (25, 9, 0.0)), PLASTER),
        ("Ceiling", box_between((-1, -1, 4.0), (25, 9, 4.2)), PLASTER),
        ("Wall left", box_between((10, -1, 0), (10.2, 3.4, 4)), PLASTER),
        ("Wall right", box_between((10, 4.6, 0), (10.2, 9, 4)), PLASTER),
        ("Over the door", box_between((10, 3.4, 2.3), (10.2, 4.6, 4)), PLASTER),
        ("Low beam", box_between((18, -1, 1.8), (18.3, 9, 2.1)), PLASTER),
    )
    return replace(made, objects=tuple(replace(item, category="Wall" if "Floor" not in item.name else "Floor") for item in made.objects))


def flags_of(model: Model, *places: tuple[float, float], **values: object) -> tuple[Flag, ...]:
    keys = tuple(WalkKey((x, y, 1.6)) for x, y in places)
    walk = Walk("w", "W", keys, follow_floor=False, **values)  # type: ignore[arg-type]
    floors = standable(model)
    return check_walk(resolve(walk, floors), RayScene(model.vertices, model.faces), floors, Limits())


def test_a_calm_walk_through_the_door_gives_no_flag(hall: Model) -> None:
    assert flags_of(hall, (1, 4), (10.1, 4), (16, 4), seconds=15.0, ease_in_s=1.0, ease_out_s=1.0) == ()


def test_through_a_wall(hall: Model) -> None:
    (flag,) = [item for item in flags_of(hall, (1, 2), (16, 2), seconds=15.0) if item.code == "solid"]
    assert flag.worst_s == pytest.approx(9.0, abs=0.25)
    assert flag.place[0] == pytest.approx(10.0, abs=0.2)
    assert flag.sentence.startswith("At ")


def test_too_near_the_jamb_and_under_a_low_beam(hall: Model) -> None:
    found = flags_of(hall, (1, 3.55), (16, 3.55), seconds=15.0)
    assert [item.code for item in found] == ["clearance"]
    assert found[0].figure == pytest.approx(0.15, abs=0.03)
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
    found = check_walk(resolve(sharp, floors), RayScene(hall.vertices, hall.faces), floors, Limits())
    assert [item.code for item in found] == ["turn"]
    assert found[0].worst_s == pytest.approx(4.0, abs=0.2)
    # Looked round earlier the same corner is calm.
    calm = replace(sharp, anticipation_m=1.2)
    assert check_walk(resolve(calm, floors), RayScene(hall.vertices, hall.faces), floors, Limits()) == ()


def test_a_jump_of_pace_of_height_and_of_the_lens(hall: Model) -> None:
    floors, rays = standable(hall), RayScene(hall.vertices, hall.faces)

    def found(*keys: WalkKey, seconds: float) -> list[str]:
        return [
            item.code for item in check_walk(resolve(Walk("w", "W", keys, seconds, follow_floor=False), floors), rays, floors, Limits())
        ]

    pace = (WalkKey((1, 4, 1.6)), WalkKey((3, 4, 1.6), at_s=6.0), WalkKey((8, 4, 1.6)))
    assert found(*pace, seconds=9.0) == ["acceleration"]
    # A pause without eases stops dead.
    pause = (WalkKey((1, 4, 1.6)), WalkKey((4, 4, 1.6), dwell_s=2.0), WalkKey((8, 4, 1.6)))
    walk = Walk("w", "W", pause, 9.0, follow_floor=False, dwell_ease_s=0.0)
    assert {item.code for item in check_walk(resolve(walk, floors), rays, floors, Limits())} == {"acceleration"}
    eased = replace(walk, dwell_ease_s=1.0)
    assert check_walk(resolve(eased, floors), rays, floors, Limits()) == ()
    assert found(WalkKey((1, 4, 1.0)), WalkKey((3, 4, 3.2)), seconds=2.2) == ["climb"]
    assert found(WalkKey((1, 4, 1.6), focal_mm=16), WalkKey((4, 4, 1.6), focal_mm=120), seconds=3.0) == ["lens"]


def test_the_demos_walk_up_the_stair_is_clean(demo_opened: Opened, demo_project) -> None:  # type: ignore[no-untyped-def]
    floors = standable(demo_opened.model)
    rays = RayScene(demo_opened.model.vertices, demo_opened.model.faces)
    found = check_walk(resolve(demo_project.walks[0], floors), rays, floors, demo_project.limits)
    assert found == ()
