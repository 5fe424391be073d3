"""Bounds: where sight begins and ends, at a distance or fixed in the building, and wall cuts."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from altana.core.camera.bounds import (
    bounded,
    cut_away,
    look,
    place_of_sight,
    sight_begins,
    sight_ends,
    sight_passes,
    unbounded,
)
from altana.core.camera.wall_cut import WallCut
from altana.core.edits.bounds import (
    add_wall_cut,
    change_wall_cut,
    far_fixed,
    near_as_wall_cut,
    near_fixed,
    remove_wall_cut,
    turn_wall_cut_over,
    with_far,
    with_near,
)
from altana.core.edits.cameras import checked
from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.model import Model
from altana.core.moving import slide, step, turn
from altana.core.project import Camera

CAMERA = Camera("", "x", (0.0, -4.0, 1.5), 0.0, focal_mm=24.0)
#: A wall from x = -2 to 3 and z = 0 to 2.5 at y = 0; what lies to the north is kept.
CUT = WallCut((0.0, 0.0, 1.0), 0.0, 2.0, 3.0, 1.0, 1.5, depth_m=0.4)
metres = st.floats(-20, 20, allow_nan=False)


def one_way(x: float, y: float, z: float) -> np.ndarray:
    place = np.array([[x, y, z]], float)
    return place / np.linalg.norm(place)


def test_a_bound_at_a_distance_goes_along_and_a_fixed_one_stays() -> None:
    near = with_near(CAMERA, 3.0)
    assert step(near, -2.0).near == 3.0
    fixed = near_fixed(near, True)
    assert fixed.near_at == pytest.approx((0.0, -1.0, 1.5))
    assert step(fixed, -2.0).near == pytest.approx(5.0)
    assert slide(fixed, 1.0).near == pytest.approx(3.0)
    assert step(fixed, 2.9).near == pytest.approx(0.1)
    # Walked past it: nothing is hidden any more, and the bound is there again on the way back.
    assert step(fixed, 3.5).near is None
    assert step(step(fixed, 3.5), -3.5).near == pytest.approx(3.0)
    loose = near_fixed(step(fixed, -2.0), False)
    assert (loose.near, loose.near_at) == (pytest.approx(5.0), None)


def test_a_fixed_bound_typed_anew_is_fixed_at_its_new_place() -> None:
    fixed = with_near(near_fixed(with_near(CAMERA, 3.0), True), 2.0)
    assert step(fixed, -1.0).near == pytest.approx(3.0)
    far = far_fixed(with_far(CAMERA, 30.0), True)
    assert step(far, 10.0).far == pytest.approx(20.0)
    assert with_far(far, None).far_at is None
    assert with_near(fixed, None).near is None


def test_a_far_bound_never_lies_before_the_near_one() -> None:
    camera = far_fixed(with_far(with_near(CAMERA, 1.0), 5.0), True)
    assert step(camera, 4.5).far is None
    with pytest.raises(Refused, match="beyond the near"):
        checked(with_far(with_near(CAMERA, 5.0), 4.0))


@given(st.floats(-80, 80), st.floats(-40, 40), st.floats(0.5, 8))
@settings(max_examples=60)
def test_a_turned_camera_keeps_the_fixed_place_on_its_bound(heading: float, tilt: float, away: float) -> None:
    fixed = near_fixed(with_near(CAMERA, away), True)
    turned = turn(fixed, heading, tilt)
    assert turned.near_at is not None
    if turned.near is not None:
        offset = np.asarray(turned.near_at) - turned.eye
        assert float(offset @ turned.pose.forward) == pytest.approx(turned.near, abs=1e-9)


def test_sight_begins_on_a_plane_across_the_view() -> None:
    camera = replace(with_far(with_near(CAMERA, 2.0), 9.0), heading_deg=30.0, tilt_deg=12.0)
    view = camera.view()
    along = view.rays(np.array([[0.0, 0.0], [960.0, 540.0], [1900.0, 1000.0]]))
    assert sight_begins(view, along) * (along @ view.pose.forward) == pytest.approx(2.0)
    assert sight_ends(view, along) * (along @ view.pose.forward) == pytest.approx(9.0)
    assert not bounded(unbounded(view))
    assert np.isinf(sight_ends(unbounded(view), along)).all()


def test_a_wall_cut_is_met_within_its_rectangle_only() -> None:
    eye = CAMERA.eye
    assert CUT.distance(eye, one_way(0, 1, 0))[0] == pytest.approx(4.0)
    assert CUT.distance(eye, one_way(2.9, 4, 0))[0] == pytest.approx(math.hypot(2.9, 4))
    assert CUT.distance(eye, one_way(3.1, 4, 0))[0] == 0.0
    assert CUT.distance(eye, one_way(-2.1, 4, 0))[0] == 0.0
    assert CUT.distance(eye, one_way(0, 4, 1.01))[0] == 0.0
    assert CUT.distance(eye, one_way(0, -1, 0))[0] == 0.0
    # From within its room it does nothing.
    assert CUT.distance((0.0, 1.0, 1.5), one_way(0, -1, 0))[0] == 0.0
    moved = replace(CUT, offset_m=0.5)
    assert moved.distance(eye, one_way(0, 1, 0))[0] == pytest.approx(4.5)


def test_only_the_wall_itself_is_taken_away_unless_the_cut_is_deeper() -> None:
    view = replace(CAMERA, wall_cuts=(CUT,)).view()
    places = np.array(
        [[0.0, -0.2, 1.5], [0.0, -0.5, 1.5], [0.0, 0.1, 1.5], [3.2, -0.2, 1.5], [0.0, -0.2, 3.0]]
    )
    assert cut_away(view, places).tolist() == [True, False, False, False, False]
    deep = replace(CAMERA, wall_cuts=(replace(CUT, depth_m=1e5),)).view()
    assert cut_away(deep, places).tolist() == [True, True, False, False, False]
    assert sight_begins(view, one_way(0, 1, 0))[0] == 0.0
    assert sight_begins(deep, one_way(0, 1, 0))[0] == pytest.approx(4.0)
    assert sight_passes(view, one_way(0, 1, 0))[0] == pytest.approx(4.0)


def test_turned_over_twice_is_the_same_cut() -> None:
    camera = replace(CAMERA, wall_cuts=(CUT,))
    over = turn_wall_cut_over(camera, 0).wall_cuts[0]
    assert over.heading_deg == 180.0
    assert np.sort(over.corners(), axis=0) == pytest.approx(np.sort(CUT.corners(), axis=0))
    assert over.turned_over() == CUT
    # Seen from the other side it now works, from this side no more.
    assert over.distance((0.0, 5.0, 1.5), one_way(0, -1, 0))[0] == pytest.approx(5.0)
    assert over.distance(CAMERA.eye, one_way(0, 1, 0))[0] == 0.0


def test_wall_cuts_are_added_changed_and_removed_one_by_one() -> None:
    other = replace(CUT, place=(0.0, 3.0, 1.0), name="another")
    camera = add_wall_cut(add_wall_cut(CAMERA, CUT), other)
    assert camera.wall_cuts == (CUT, other)
    # The same face picked again takes the place of the one before.
    assert add_wall_cut(camera, replace(CUT, up_m=2.0)).wall_cuts == (other, replace(CUT, up_m=2.0))
    assert change_wall_cut(camera, 1, on=False).cuts == (CUT,)
    assert remove_wall_cut(camera, 0).wall_cuts == (other,)
    with pytest.raises(Refused, match="no wall cut 3"):
        change_wall_cut(camera, 2, on=False)
    with pytest.raises(Refused, match="width and a height"):
        add_wall_cut(CAMERA, replace(CUT, left_m=-5.0))
    with pytest.raises(Refused, match="finite"):
        checked(replace(CAMERA, wall_cuts=(replace(CUT, place=(math.inf, 0.0, 0.0)),)))


def test_a_near_bound_as_a_wall_cut_shows_the_same() -> None:
    camera = with_near(CAMERA, 3.0)
    as_cut = near_as_wall_cut(camera)
    assert as_cut.near is None
    along = as_cut.view().rays(np.array([[5.0, 5.0], [960.0, 540.0], [1915.0, 1075.0]]))
    assert sight_begins(as_cut.view(), along) == pytest.approx(sight_begins(camera.view(), along))
    with pytest.raises(Refused, match="no near bound"):
        near_as_wall_cut(CAMERA)


def test_looking_through_a_wall_into_a_room(room: Model) -> None:
    """The room is 6 x 4 x 3 m with walls of 0.2 m; the eye stands 3 m south of it."""
    rays = RayScene(room.vertices, room.faces)
    none = np.zeros(len(room.faces), bool)
    camera = Camera("", "x", (3.0, -3.0, 1.5), 0.0)
    ahead = one_way(0, 1, 0)
    assert look(camera.view(), rays, ahead, none)[1].distance_m[0] == pytest.approx(2.8)
    assert look(with_near(camera, 3.1).view(), rays, ahead, none)[1].distance_m[0] == pytest.approx(7.0)
    cut = WallCut((3.0, 0.005, 1.5), 0.0, 2.0, 2.0, 1.0, 1.0, depth_m=0.3)
    through = replace(camera, wall_cuts=(cut,))
    assert look(through.view(), rays, ahead, none)[1].distance_m[0] == pytest.approx(7.0)
    aside = one_way(2.5, 3.0, 0)
    assert look(through.view(), rays, aside, none)[1].distance_m[0] == pytest.approx(2.8 / aside[0, 1])
    assert np.isinf(look(with_far(through, 6.5).view(), rays, ahead, none)[1].distance_m[0])
    two = add_wall_cut(through, WallCut((3.0, 4.205, 1.5), 0.0, 2.0, 2.0, 1.0, 1.0, depth_m=0.3))
    assert np.isinf(look(two.view(), rays, ahead, none)[1].distance_m[0])


def test_where_a_camera_stands_goes_by_where_its_sight_begins() -> None:
    assert place_of_sight(CAMERA) == CAMERA.eye
    near = with_near(CAMERA, 2.0)
    assert place_of_sight(near) == pytest.approx((0.0, -1.98, 1.5))
    steep = replace(near, tilt_deg=30.0)
    x, y, z = place_of_sight(steep)
    assert (x, z) == (pytest.approx(0.0), 1.5)
    assert y > -4.0 + 1.7
    assert place_of_sight(replace(CAMERA, wall_cuts=(CUT,))) == CAMERA.eye


@given(metres, metres, st.floats(0, 360), st.floats(0.3, 6), st.floats(0.3, 6))
@settings(max_examples=80)
def test_points_and_rays_agree_about_a_wall_cut(
    x: float, y: float, heading: float, left: float, up: float
) -> None:
    cut = WallCut((x, y, 1.0), heading, left, 1.0, 1.0, up, depth_m=1e5)
    view = replace(CAMERA, wall_cuts=(cut,)).view()
    rng = np.random.default_rng(7)
    along = rng.normal(size=(60, 3))
    along /= np.linalg.norm(along, axis=1, keepdims=True)
    begins = sight_passes(view, along)
    met = begins > 1e-3
    before = np.asarray(view.pose.eye) + along * (begins * 0.98)[:, None]
    after = np.asarray(view.pose.eye) + along * (begins * 1.02 + 0.01)[:, None]
    assert cut_away(view, before[met]).all()
    assert not cut_away(view, after).any()
