"""Floors that are really there, and numbers as people type them."""

from __future__ import annotations

import pytest

from altana.core.conventions import turn_between, wrap_heading
from altana.core.errors import Refused, UserError
from altana.core.geometry.rays import RayScene
from altana.core.measures import parse_length, parse_number
from altana.core.standing import clearances, floor_under, ground_at, stand, standable
from altana.demo.larkwater import LANDING_M, RISE, TREAD
from altana.demo.site import GALLERY_M, LOOKOUT_M, QUAY_M


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
