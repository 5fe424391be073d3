"""Faces of a panorama agree on the light of what both show."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from altana.core.light.pixel_light import LitPixels
from altana.render.panorama import FACES, MOST_SIDE, OVERLAP, Place, face_view, light_places, light_side
from altana.render.round_light import evened

EYE, SIDE = Place((1.0, 2.0, 1.6), 30.0), 40
#: All stand so far from the eye.
APART_M = 1.0


def face_of(name: str, lux: float) -> LitPixels:
    """What a face of a panorama shows in a round room, in one light."""
    view = face_view(EYE, name, SIDE, OVERLAP)
    rows, columns = np.mgrid[: view.height_px, : view.width_px]
    along = view.rays(np.column_stack([columns.ravel() + 0.5, rows.ravel() + 0.5])).astype(np.float32)
    along = along.reshape(view.height_px, view.width_px, 3)
    light = np.full_like(along, lux)
    return LitPixels(view, along * APART_M, -along, light, light / 10.0, np.ones(along.shape[:2], bool))


@pytest.fixture
def faces() -> list[LitPixels]:
    return [face_of(name, 100.0 + 10.0 * number) for number, name in enumerate(FACES)]


def towards(faces: list[LitPixels], number: int, along: np.ndarray, what: str = "lux") -> np.ndarray:
    """What a face has in directions (n, 3), of its nearest places."""
    face = faces[number]
    at = face.view.project(along + np.asarray(EYE.eye))[:, :2].astype(int)
    return np.asarray(getattr(face, what))[at[:, 1], at[:, 0]]


def border() -> np.ndarray:
    """Directions along the border of front and right, upright, short of the corners that others share."""
    ahead, right = (np.asarray(face_view(EYE, name, SIDE).pose.forward) for name in ("front", "right"))
    rise = np.linspace(-0.55, 0.55, 30)[:, None] * (0.0, 0.0, 1.0)
    return (ahead + right) / np.sqrt(2.0) + rise


def test_at_their_border_two_faces_say_the_same(faces: list[LitPixels]) -> None:
    agreed = evened(faces)
    for what, apart in (("lux", 10.0), ("sheen", 1.0)):
        before = np.abs(towards(faces, 0, border(), what) - towards(faces, 1, border(), what))
        after = np.abs(towards(agreed, 0, border(), what) - towards(agreed, 1, border(), what))
        assert before == pytest.approx(apart) and after.max() < 0.12 * apart
    assert towards(agreed, 0, border()) == pytest.approx(105.0, abs=1.0)


def test_it_goes_over_evenly_and_the_middle_stays(faces: list[LitPixels]) -> None:
    front = evened(faces)[0].lux[..., 0]
    middle = front[len(front) // 2]
    assert middle[len(middle) // 2] == 100.0 and (np.abs(middle - 100.0) < 1e-3).mean() > 0.7
    # To the right lies a face with ten lux more, to the left one with thirty.
    assert (np.diff(middle[len(middle) // 2 :]) >= -1e-3).all() and middle[-1] == pytest.approx(
        110.0, abs=1.5
    )
    assert np.abs(np.diff(middle)).max() < 8.0 and middle[0] == pytest.approx(130.0, abs=3.0)


def test_where_three_meet_all_have_a_part(faces: list[LitPixels]) -> None:
    axes = [np.asarray(face_view(EYE, name, SIDE).pose.forward) for name in ("front", "right", "up")]
    corner = np.sum(axes, axis=0)[None] / np.sqrt(3.0)
    agreed = evened(faces)
    for number in (0, 1, 4):
        assert towards(agreed, number, corner) == pytest.approx((100.0 + 110.0 + 140.0) / 3.0, abs=3.0)


def test_what_one_face_does_not_know_another_says(faces: list[LitPixels]) -> None:
    nothing = replace(faces[1], known=np.zeros_like(faces[1].known), lux=np.full_like(faces[1].lux, 1e4))
    agreed = evened([faces[0], nothing, *faces[2:]])
    assert towards(agreed, 0, border()) == pytest.approx(100.0, abs=1e-3)
    assert towards(agreed, 1, border(), "known").all()
    assert towards(agreed, 1, border()) == pytest.approx(100.0, abs=1e-3)
    middle = len(nothing.known) // 2
    assert not agreed[1].known[middle, middle]


def test_only_places_of_one_plane_speak_for_each_other(faces: list[LitPixels]) -> None:
    behind = replace(faces[1], offset=1.1 * faces[1].offset)
    turned = replace(faces[1], normal=np.roll(faces[1].normal, 1, axis=2))
    for other in (behind, turned):
        agreed = evened([faces[0], other, *faces[2:]])
        assert towards(agreed, 0, border()) == pytest.approx(100.0, abs=1e-3)


def test_small_panoramas_have_no_more_places_than_pixels() -> None:
    assert light_side(8192) == MOST_SIDE and light_side(512) == 164
    views = [face_view(EYE, name, light_side(512), OVERLAP) for name in FACES]
    assert light_places(512) == pytest.approx(sum(view.width_px * view.height_px for view in views), rel=0.02)
