"""Floors that are really there, and numbers as people type them."""

from __future__ import annotations

import pytest

from altana.core.conventions import turn_between, wrap_heading
from altana.core.errors import Refused, UserError
from altana.core.geometry.rays import RayScene
from altana.core.measures import parse_length, parse_number
from altana.core.model import Material
from altana.core.standing import (
    clearances,
    floor_under,
    footing,
    ground_at,
    stand,
    standable,
    standing_trouble,
)
from altana.demo.larkwater import LANDING_M, RISE, TREAD
from altana.demo.site import GALLERY_M, LOOKOUT_M, QUAY_M
from tests.conftest import box_between, model_of


@pytest.fixture(scope="module")
def floors(demo_opened):  # type: ignore[no-untyped-def]
    return standable(demo_opened.model)


@pytest.mark.parametrize(
    ("place", "storey", "floor"),
    [
        ((7.0, 3.0), 0.0, 0.0),
        ((7.0, 5.2), 0.0, 0.0),
        ((2.0, 14.5), GALLERY_M, GALLERY_M),
        ((1.3, 2.1), GALLERY_M, LANDING_M),
        ((3.0, 2.8 + TREAD * 2.5), GALLERY_M, RISE * 7),
        ((-8.0, 8.0), LOOKOUT_M, LOOKOUT_M),
        ((5.0, -6.0), 0.0, QUAY_M),
        ((2.0, 14.5), 0.0, 0.0),
    ],
    ids=[
        "hall",
        "bench is no floor",
        "gallery",
        "landing",
        "tread",
        "lookout",
        "forecourt",
        "under the gallery",
    ],
)
def test_floor_really_under_the_eye(demo_opened, floors, place, storey, floor) -> None:  # type: ignore[no-untyped-def]
    camera = stand(demo_opened.model, floors, place, (place[0], place[1] + 2.0), storey)
    assert camera.eye[2] == pytest.approx(floor + 1.60, abs=2e-4)
    assert camera.tilt_deg == 0.0
    assert floor_under(floors, camera.eye) == pytest.approx(floor, abs=2e-4)


def test_a_new_camera_suits_its_place(demo_opened, floors) -> None:  # type: ignore[no-untyped-def]
    inside = stand(demo_opened.model, floors, (7.0, 3.0), (7.0, 12.0), 0.0)
    outside = stand(demo_opened.model, floors, (5.0, -8.0), (5.0, 0.0), 0.0)
    assert (inside.inside, inside.focal_mm, inside.name) == (True, 24.0, "Waiting hall, north")
    assert (outside.inside, outside.focal_mm) == (False, 35.0)
    assert outside.ev > inside.ev


def test_no_floor_is_said(demo_opened, floors) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises(Refused, match="no floor"):
        stand(demo_opened.model, floors, (5000.0, 0.0), (0.0, 0.0), 0.0)
    assert ground_at(floors, (5000.0, 0.0), 0.0) is None


def test_before_a_house_without_land_one_stands_as_if_its_ground_went_on() -> None:
    slab = model_of(
        ("Slab", box_between((-6, -5, -0.3), (6, 5, -0.12)), Material("Concrete")),
        ("House", box_between((-4, -3, -0.12), (4, 3, 6.0)), Material("Wall")),
    )
    under = standable(slab)
    # Across the street, from the upper storey's plan too: the slab's edge is met first, not the roof.
    for place, storey in (((0.0, -30.0), 0.0), ((25.0, 14.0), 2.8), ((0.0, -300.0), 0.0)):
        camera = stand(slab, under, place, (0.0, 0.0), storey)
        assert camera.eye == pytest.approx((*place, -0.12 + 1.60), abs=1e-6)
        assert not camera.inside
        # And keeps its height: seated, it sits on the same ground.
        assert floor_under(under, camera.eye) == pytest.approx(-0.12, abs=1e-6)
        assert standing_trouble(RayScene.of(slab), under, camera) == ""
    # Between two slabs there is a gap, and no land.
    parted = model_of(
        ("West", box_between((-6, -5, -0.3), (-1, 5, 0)), Material("Concrete")),
        ("East", box_between((1, -5, -0.3), (6, 5, 0)), Material("Concrete")),
    )
    both = standable(parted)
    assert floor_under(both, (0.0, 0.0, 1.6)) is None
    assert "no floor" in footing(RayScene.of(parted), both, (0.0, 0.0, 1.6)).trouble
    # Eaves that reach over the slab are no ground.
    roofed = model_of(
        ("Slab", box_between((-6, -5, -0.3), (6, 5, -0.12)), Material("Concrete")),
        ("Roof", box_between((-7, -6, 2.6), (7, 6, 2.9)), Material("Tiles")),
    )
    assert stand(roofed, standable(roofed), (0.0, -30.0), (0.0, 0.0), 2.8).eye[2] == pytest.approx(
        1.48, abs=1e-6
    )
    with pytest.raises(Refused, match="no floor here"):
        stand(slab, under, (0.0, -310.0), (0.0, 0.0), 0.0)


def test_clearances_to_all_sides(room) -> None:  # type: ignore[no-untyped-def]
    rays = RayScene(room.vertices, room.faces)
    assert clearances(rays, (1.0, 1.0, 1.5), 0.0) == pytest.approx((3.0, 5.0, 1.0, 1.0), abs=1e-6)
    assert clearances(rays, (1.0, 1.0, 1.5), 90.0) == pytest.approx((5.0, 1.0, 1.0, 3.0), abs=1e-6)


@pytest.mark.parametrize(
    ("text", "metres"),
    [
        ("1.6", 1.6),
        ("160 cm", 1.6),
        ("1600mm", 1.6),
        ("5'3\"", 1.6002),
        ("500 ft", 152.4),
        ("-0,5", -0.5),
        ("6'", 1.8288),
        ("63 in", 1.6002),
        ("2 km", 2000.0),
        ("−1.5 m", -1.5),
    ],
)
def test_lengths_as_typed(text: str, metres: float) -> None:
    assert parse_length(text) == pytest.approx(metres)


@pytest.mark.parametrize("text", ["", "abc", "1 furlong", "5''", "1e999", "nan"])
def test_what_is_no_length(text: str) -> None:
    with pytest.raises(Refused, match="“"):
        parse_length(text)


def test_numbers_with_units() -> None:
    assert parse_number("24 mm", ("mm",)) == 24.0
    assert parse_number("35", ("mm",)) == 35.0
    with pytest.raises(Refused, match="mm"):
        parse_number("24 kg", ("mm",))


def test_headings() -> None:
    assert wrap_heading(-1e-18) == 0.0
    assert turn_between(350.0, 10.0) == pytest.approx(20.0)
    assert turn_between(10.0, 350.0) == pytest.approx(-20.0)
    assert turn_between(0.0, 180.0) == 180.0
    assert UserError("a").sentence == "a"
