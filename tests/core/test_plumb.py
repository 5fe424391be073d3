"""Plumb against the worked figures, and its promises for any camera."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from altana.core.camera.plumb import kept_true, plumb
from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.edits.cameras import at_rise_limit, keep_plumb, stays_plumb
from altana.core.errors import Refused
from altana.core.moving import turn
from altana.core.project import Camera

TILTED = Pose((0, 0, 1.6), 0, 20)


def test_worked_figures() -> None:
    pose, lens = plumb(TILTED, Lens(24))
    assert (pose.tilt_deg, lens.rise_mm, lens.focal_mm) == pytest.approx((0, 8.7353, 24), abs=6e-5)
    pose, lens = plumb(TILTED, Lens(24), keep_size=True)
    assert (lens.focal_mm, lens.rise_mm) == pytest.approx((22.5526, 8.2085), abs=6e-5)
    pose, lens = plumb(TILTED, Lens(24), 0.5, keep_size=True)
    assert (pose.tilt_deg, lens.focal_mm, lens.rise_mm) == pytest.approx((10, 23.6354, 4.1676), abs=6e-5)


tilts, focals, rises = st.floats(-50, 50), st.floats(14, 120), st.floats(-8, 8)


@given(st.floats(0, 360), tilts, focals, rises, st.floats(0, 1), st.booleans())
def test_centre_stays_and_size_is_kept(
    heading: float, tilt: float, focal: float, rise: float, amount: float, keep: bool
) -> None:
    pose, lens = Pose((3, -2, 1.6), heading, tilt), Lens(focal, 36, rise, 0)
    assume(abs(tilt + math.degrees(math.atan(rise / focal))) < 59.0)
    after_pose, after_lens = plumb(pose, lens, amount, keep)
    before, after = View(pose, lens, 1920, 1080), View(after_pose, after_lens, 1920, 1080)
    centre = np.asarray(pose.eye) + before.rays(np.array([[960.0, 540.0]])) * 12.0
    assert after.project(centre)[0, :2] == pytest.approx((960, 540), abs=0.01)
    if keep:
        sideways = centre + before.pose.axes()[0] * 1e-3
        sizes = [v.project(sideways)[0, 0] - v.project(centre)[0, 0] for v in (before, after)]
        assert sizes[1] == pytest.approx(sizes[0], rel=1e-7)


@given(tilts, focals)
def test_full_plumb_makes_verticals_upright(tilt: float, focal: float) -> None:
    pose, lens = plumb(Pose((0, 0, 1.6), 25, tilt, 3), Lens(focal))
    feet = np.array([(3.0, 9.0, 0.0), (8.0, 12.0, 0.0)])
    view = View(pose, lens, 1920, 1080)
    low, high = view.project(feet), view.project(feet + (0, 0, 3))
    assert np.abs(low[:, 0] - high[:, 0]).max() < 1e-6
    assert pose.roll_deg == 0.0


def test_too_steep_is_refused_with_a_reason() -> None:
    with pytest.raises(Refused, match="Tilt less"):
        plumb(Pose((0, 0, 0), 0, 61), Lens(24))
    with pytest.raises(Refused, match="between 0 and 1"):
        plumb(TILTED, Lens(24), 1.5)


@pytest.mark.slow
def test_plumb_of_ten_thousand_random_cameras() -> None:
    """The centre keeps its place within 0.01 px, verticals are vertical within 1e-6 px, size is kept within
    1e-9."""
    rng = np.random.default_rng(20261125)
    done = refused = 0
    while done < 10_000:
        focal, width, high = rng.uniform(10, 120), int(rng.integers(400, 4000)), int(rng.integers(400, 4000))
        eye = tuple(rng.uniform(-50, 50, 3).tolist())
        pose = Pose(eye, rng.uniform(0, 360), rng.uniform(-55, 55), rng.uniform(-5, 5))
        lens = Lens(focal, 36.0, rng.uniform(-8, 8), 0.0)
        keep, amount = bool(rng.integers(2)), 1.0
        level = replace(pose, roll_deg=0.0)
        before = View(level, lens, width, high)
        try:
            straight = View(*plumb(pose, lens, amount, keep), width, high)
        except Refused:
            refused += 1
            continue
        done += 1
        centre = np.array([[width / 2, high / 2]])
        subject = np.asarray(eye) + before.rays(centre)[0] * rng.uniform(1, 60)
        px, py, depth = straight.project(subject[None])[0]
        assert abs(px - width / 2) < 0.01
        assert abs(py - high / 2) < 0.01
        foot = subject + (*rng.uniform(-0.5, 0.5, 2), 0.0)
        upright = straight.project(np.stack([foot, foot + (0.0, 0.0, 3.0)]))
        if np.isfinite(upright).all():
            assert abs(upright[0, 0] - upright[1, 0]) < 1e-6
        if keep:
            size_before = lens.focal_mm / before.project(subject[None])[0, 2]
            assert straight.lens.focal_mm / depth == pytest.approx(size_before, rel=1e-9)
        else:
            assert straight.lens.focal_mm == lens.focal_mm
    assert refused < done


def test_half_a_plumb_takes_half_of_the_tilt() -> None:
    pose, lens = plumb(Pose((0, 0, 0), 0.0, 20.0), Lens(24.0), 0.5, True)
    assert (pose.tilt_deg, lens.focal_mm, lens.rise_mm) == pytest.approx((10.0, 23.6354, 4.1676), abs=5e-5)


@pytest.mark.parametrize("elevation", [-39.0, -10.0, 0.5, 25.0, 39.9])
def test_a_camera_kept_true_rises_where_it_would_tilt(elevation: float) -> None:
    pose, lens, limited = kept_true(Pose((0, 0, 0), 30.0, elevation, 3.0), Lens(28.0))
    assert (pose.tilt_deg, pose.roll_deg, limited) == (0.0, 0.0, False)
    assert math.degrees(math.atan2(lens.rise_mm, 28.0)) == pytest.approx(elevation)


def test_kept_true_ends_at_its_limit_and_says_so() -> None:
    _pose, lens, limited = kept_true(Pose((0, 0, 0), 0.0, 55.0), Lens(24.0), 40.0)
    assert limited
    assert lens.rise_mm == pytest.approx(24.0 * math.tan(math.radians(40.0)))
    camera = Camera("", "x", kept_plumb=True, focal_mm=24.0)
    turned = camera
    for _ in range(30):
        turned = stays_plumb(turn(turned, 0.0, 3.0), 40.0)
    assert turned.tilt_deg == 0.0
    assert at_rise_limit(turned, 40.0)
    # And down again: the same turns back bring the same picture.
    for _ in range(14):
        turned = stays_plumb(turn(turned, 0.0, -3.0), 40.0)
    assert math.degrees(math.atan2(turned.rise_mm, 24.0)) == pytest.approx(-2.0)
    assert not at_rise_limit(turned, 40.0)


def test_only_a_camera_that_is_kept_plumb_is_levelled() -> None:
    free = Camera("", "x", tilt_deg=12.0)
    assert stays_plumb(free) is free
    kept = keep_plumb(free, True)
    assert (kept.kept_plumb, kept.tilt_deg) == (True, 0.0)
    assert kept.rise_mm == pytest.approx(35.0 * math.tan(math.radians(12.0)))
    assert keep_plumb(kept, False).rise_mm == kept.rise_mm
