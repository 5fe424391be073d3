"""Plumb against the worked figures, and its promises for any camera."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from altana.core.camera.plumb import plumb
from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View

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
def test_centre_stays_and_size_is_kept(heading: float, tilt: float, focal: float, rise: float, amount: float, keep: bool) -> None:
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
    with pytest.raises(ValueError, match="Tilt less"):
        plumb(Pose((0, 0, 0), 0, 61), Lens(24))
    with pytest.raises(ValueError, match="between 0 and 1"):
        plumb(TILTED, Lens(24), 1.5)
