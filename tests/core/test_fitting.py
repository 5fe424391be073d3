"""Fitting, holding the subject's size, and when a lens is called wide."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.lens import (
    FIT_MARGIN,
    fit_by_distance,
    fit_by_lens,
    hold_subject,
    stretch_grade,
    stretch_limits,
)
from altana.core.model import Model
from altana.core.project import Camera, Limits
from altana.core.staging import object_points
from altana.core.targets import overview, target_points, view_of
from altana.jobs.models import Opened

TEN = (
    "Bench 3",
    "Hall lamp 2",
    "Lookout roof",
    "Tree 2",
    "News kiosk",
    "Ferry saloon",
    "Ticket counter",
    "Departures board",
    "Boat shed 1",
    "Bollard 4",
)


def touching(camera: Camera, points: np.ndarray, margin: float = FIT_MARGIN) -> tuple[float, int]:
    """The worst distance of a point outside the margin, and how many points lie on it within one pixel."""
    px, py, depth = camera.view().project(points).T
    free = margin * min(camera.width_px, camera.height_px)
    assert (depth > 0).all()
    inside = np.stack([px - free, camera.width_px - free - px, py - free, camera.height_px - free - py])
    return float(-inside.min()), int((inside.min(axis=0) < 1.0).sum())


@pytest.fixture(scope="module")
def building(demo_opened: Opened) -> Model:
    return demo_opened.model


def camera_before(points: np.ndarray, tilt: float = 0.0) -> Camera:
    low, high = points.min(axis=0), points.max(axis=0)
    middle = (low + high) / 2
    away = float(np.linalg.norm(high - low)) * 1.6 + 1.0
    x, y, z = (middle + np.array([away, -away * 0.7, 0.3])).tolist()
    return Camera("", "x", (x, y, z), 20.0, tilt, focal_mm=35.0)


@pytest.mark.parametrize("name", TEN)
@pytest.mark.parametrize("fit", [fit_by_lens, fit_by_distance], ids=["lens", "distance"])
@pytest.mark.parametrize("tilt", [0.0, -9.0], ids=["level", "tilted"])
def test_fit_holds_every_vertex_and_touches_its_margin_twice(
    building: Model, name: str, fit, tilt: float
) -> None:  # type: ignore[no-untyped-def]
    number = next(index for index, item in enumerate(building.objects) if item.name == name)
    points = object_points(building, number).astype(float)
    before = camera_before(points, tilt)
    fit_camera = fit(before, points)
    outside, on_margin = touching(fit_camera, points)
    assert outside < 0.5
    assert on_margin >= 2
    assert fit_camera.eye[2] == before.eye[2]
    if fit is fit_by_lens:
        assert fit_camera.eye == before.eye
    else:
        assert fit_camera.focal_mm == before.focal_mm
    if tilt == 0.0:
        assert (fit_camera.tilt_deg, fit_camera.roll_deg) == (0.0, 0.0)


def test_fit_says_what_is_impossible() -> None:
    cube = np.array([[x, y, z] for x in (-1, 1) for y in (-1, 1) for z in (0, 2)], float)
    with pytest.raises(Refused, match="Step back"):
        fit_by_lens(Camera("", "x", (0.0, 0.0, 1.0)), cube)
    with pytest.raises(Refused, match="Step closer"):
        fit_by_lens(Camera("", "x", (0.0, -900.0, 1.0)), cube)


def test_room_and_facade_of_the_demo(building: Model) -> None:
    rays, owner = RayScene(building.vertices, building.faces), building.face_objects()
    hall = Camera("", "x", (7.0, 1.3, 1.6), 0.0, focal_mm=24.0)
    far_side = target_points(building, rays, owner, hall, "room")
    assert far_side[:, 1].min() > 9.0
    outside = Camera("", "x", (7.0, -25.0, 1.45), 0.0, focal_mm=35.0)
    front = target_points(building, rays, owner, outside, "façade")
    assert front[:, 0].min() == pytest.approx(-0.36, abs=0.5)
    assert front[:, 0].max() == pytest.approx(14.36, abs=6.5)
    assert np.ptp(front[:, 1]) < 1.3
    fit_camera = fit_by_distance(outside, front)
    assert touching(fit_camera, front)[0] < 0.5
    bench = next(item.id for item in building.objects if item.name == "Bench 1")
    assert len(target_points(building, rays, owner, hall, "object", bench)) > 8
    with pytest.raises(Refused, match="neither stands in a room"):
        target_points(building, rays, owner, replace(outside, heading_deg=180.0), "room")


def test_overview_and_views_of_objects_show_them(building: Model) -> None:
    whole = overview(building)
    corners = np.array([(0, 0, 0), (14, 18, 7), (-9, 12, 22)], float)
    px, py, depth = whole.view().project(corners).T
    assert (depth > 0).all()
    assert ((px > 0) & (px < 1920) & (py > 0) & (py < 1080)).all()
    rays = RayScene(building.vertices, building.faces)
    for name in ("Ticket counter", "Bench 5", "Lookout roof"):
        number = next(index for index, item in enumerate(building.objects) if item.name == name)
        camera = view_of(building, rays, number)
        middle = object_points(building, number).astype(float)
        centre = (middle.min(axis=0) + middle.max(axis=0)) / 2
        px, py, depth = camera.view().project(centre[None])[0]
        assert (abs(px - 960), abs(py - 540)) == (pytest.approx(0, abs=5), pytest.approx(0, abs=5))
        assert depth > 0.3


@settings(max_examples=200)
@given(
    st.floats(10, 120),
    st.floats(10, 120),
    st.floats(0.5, 60),
    st.floats(-40, 40),
    st.floats(0, 360),
    st.floats(-8, 8),
)
def test_hold_subject_keeps_the_width_of_what_is_aimed_at(
    f0: float, f1: float, away: float, tilt: float, heading: float, rise: float
) -> None:
    camera = Camera("", "x", (3.0, -2.0, 1.6), heading, tilt, aim_m=away, focal_mm=f0, rise_mm=rise)
    right = camera.pose.axes()[0] * 0.2
    ends = np.array([np.asarray(camera.aim) - right, np.asarray(camera.aim) + right])
    camera_after = hold_subject(camera, f1)
    before, after = camera.view().project(ends), camera_after.view().project(ends)
    assert after[:, :2] == pytest.approx(before[:, :2], abs=1e-4)
    assert camera_after.aim == pytest.approx(camera.aim, abs=1e-9)


def test_limits_are_the_stretch_of_their_lenses() -> None:
    view = Camera("", "x", focal_mm=18.0).view()
    assert stretch_limits(view, Limits()) == pytest.approx((1.5220, 1.9905), abs=5e-4)
    grades = [
        stretch_grade(Camera("", "x", focal_mm=focal).view(), Limits())
        for focal in (24.0, 18.0, 17.0, 12.0, 11.0)
    ]
    assert grades == [0, 0, 1, 1, 2]
    shifted = Camera("", "x", focal_mm=20.0, rise_mm=12.0).view()
    assert stretch_grade(shifted, Limits()) == 1
    assert math.isclose(stretch_limits(view, Limits(wide_mm=24.0))[0], 1.3193, abs_tol=5e-4)
