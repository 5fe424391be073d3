"""The camera model against the worked figures, and against itself."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from altana.core.camera.pose import Pose, direction_to
from altana.core.camera.view import Lens, View, focal_for_angle
from altana.core.errors import Refused


@pytest.mark.parametrize(
    ("focal", "across", "high", "stretch"),
    [
        (12, 112.620, 80.312, 1.9905),
        (18, 90.0, 58.716, 1.5220),
        (24, 73.740, 45.747, 1.3193),
        (35, 54.432, 32.269, 1.1611),
        (50, 39.598, 22.895, 1.0819),
    ],
)
def test_angles_and_stretch(focal: float, across: float, high: float, stretch: float) -> None:
    view = View(Pose((0, 0, 1.6)), Lens(focal), 1920, 1080)
    assert view.angles_of_view() == pytest.approx((across, high), abs=6e-4)
    assert view.edge_stretch() == pytest.approx(stretch, abs=6e-5)


@pytest.mark.parametrize(
    ("tilt", "point", "px", "py"),
    [
        (0, (0, 10, 1.6), 960, 540),
        (20, (0, 10, 1.6), 960, 1005.882),
        (0, (0, 10, 21.6), 960, -2020),
        (20, (0, 10, 21.6), 960, -671.916),
        (0, (3, 10, 1.6), 1344, 540),
        (20, (3, 10, 1.6), 1368.644, 1005.882),
        (0, (-4, 8, 0), 320, 796),
        (20, (-4, 8, 0), 225.456, 1318.556),
    ],
)
def test_projected_points(tilt: float, point: tuple[float, ...], px: float, py: float) -> None:
    view = View(Pose((0, 0, 1.6), 0, tilt), Lens(24), 1920, 1080)
    assert view.project(np.array([point]))[0, :2] == pytest.approx((px, py), abs=0.05)


def test_everything_at_once() -> None:
    view = View(Pose((1, -3, 1.55), 30, -6, 2), Lens(28, 36, 3, -2), 1600, 1200)
    assert view.project(np.array([(2.0, 5.0, 1.0)]))[0] == pytest.approx(
        (364.0203, 713.2822, 7.445), abs=6e-4
    )


def test_lean_of_a_tilted_camera() -> None:
    assert View(Pose((0, 0, 1.6), 0, 20), Lens(24), 1920, 1080).lean_deg() == pytest.approx(15.268, abs=6e-4)
    assert View(Pose((0, 0, 1.6), 0, -20), Lens(24), 1920, 1080).lean_deg() == pytest.approx(
        -15.268, abs=6e-4
    )
    assert View(Pose((0, 0, 1.6), 40, 0), Lens(24, rise_mm=5), 1920, 1080).lean_deg() == 0.0


angles = st.floats(-180, 180)
poses = st.builds(Pose, st.tuples(*[st.floats(-50, 50)] * 3), angles, st.floats(-80, 80), st.floats(-30, 30))
lenses = st.builds(Lens, st.floats(10, 200), st.floats(10, 60), st.floats(-12, 12), st.floats(-12, 12))


@given(poses, lenses, st.floats(0, 1920), st.floats(0, 1080), st.booleans())
def test_rays_undo_projection(pose: Pose, lens: Lens, px: float, py: float, keep: bool) -> None:
    view = View(pose, lens, 1920, 1080, keep_sensor_height=keep)
    point = np.asarray(pose.eye) + view.rays(np.array([[px, py]]))[0] * 7.0
    assert view.project(point[None])[0, :2] == pytest.approx((px, py), abs=1e-5)


@given(poses, lenses)
def test_clip_matrix_agrees_with_projection(pose: Pose, lens: Lens) -> None:
    view = View(pose, lens, 640, 480)
    point = np.append(np.asarray(pose.eye) + view.rays(np.array([[100.0, 50.0]]))[0] * 9.0, 1.0)
    x, y, _, w = view.clip_matrix() @ view.world_to_camera() @ point
    assert (x / w, y / w) == pytest.approx((2 * 100 / 640 - 1, 1 - 2 * 50 / 480), abs=1e-9)


def test_a_tile_is_a_part_of_the_whole() -> None:
    view = View(Pose((0, 0, 0), 33, 4), Lens(24, rise_mm=2), 1000, 600)
    point = np.append(view.rays(np.array([[620.0, 310.0]]))[0] * 5.0, 1.0)
    x, y, _, w = view.clip_matrix((600, 300, 100, 40)) @ view.world_to_camera() @ point
    assert (x / w, y / w) == pytest.approx((2 * 20 / 100 - 1, 1 - 2 * 10 / 40), abs=1e-9)


def test_behind_the_eye_is_no_pixel() -> None:
    pixels = View(Pose((0, 0, 0)), Lens(24), 100, 100).project(np.array([(0.0, -1.0, 0.0)]))
    assert np.isnan(pixels[0, :2]).all()
    assert pixels[0, 2] == pytest.approx(-1.0)


def test_sensor_height_can_be_kept() -> None:
    tall = View(Pose((0, 0, 0)), Lens(24), 1080, 1920, keep_sensor_height=True)
    assert tall.sensor_mm == pytest.approx((13.5, 24.0))


def test_focal_for_an_angle() -> None:
    assert focal_for_angle(90.0, 36.0) == pytest.approx(18.0)
    with pytest.raises(Refused, match="between"):
        focal_for_angle(180.0, 36.0)


def test_direction_to_a_point() -> None:
    assert direction_to((0, 0, 0), (1, 1, 0)) == pytest.approx((45.0, 0.0, 2**0.5))
    assert direction_to((0, 0, 0), (-1, 0, 1))[:2] == pytest.approx((270.0, 45.0))
    with pytest.raises(Refused, match="same point"):
        direction_to((1, 2, 3), (1, 2, 3))
