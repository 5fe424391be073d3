"""Gestures as objects of their own: standing is the same on the plan and in the Frame, one undo step, none
when cancelled."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest

from altana.app.canvas.gestures.stand import StandGesture
from altana.app.shell.window import MainWindow
from altana.core.errors import Refused
from altana.core.lens import focal_for_edge
from altana.core.project import Camera
from altana.core.ranges import FOCAL_MM
from tests.app.conftest import drag


def test_a_camera_is_stood_aimed_and_kept_as_one_step(window: MainWindow) -> None:
    space = window.workspace
    before = len(space.bridge.project.cameras)
    gesture = StandGesture(space, (7.0, 3.0), 0.0, 1.6)
    gesture.aim_at((7.0, 9.0))
    gesture.aim_at((12.0, 3.0))
    camera = space.bridge.project.camera(gesture.created)
    assert camera is not None and camera.heading_deg == pytest.approx(90.0)
    assert camera.eye == pytest.approx((7.0, 3.0, 1.6))
    gesture.finish()
    assert space.state.active_id == gesture.created and len(space.bridge.project.cameras) == before + 1
    assert space.bridge.document.undo_label == "Stand a camera"
    space.bridge.undo()
    assert len(space.bridge.project.cameras) == before


def test_standing_that_is_cancelled_leaves_nothing_and_without_a_floor_it_does_not_begin(
    window: MainWindow,
) -> None:
    bridge = window.workspace.bridge
    before = bridge.project
    gesture = StandGesture(window.workspace, (7.0, 3.0), 0.0, 1.6)
    gesture.aim_at((7.0, 9.0))
    assert bridge.project != before
    gesture.cancel()
    assert bridge.project == before and not bridge.in_gesture
    with pytest.raises(Refused, match="no floor"):
        StandGesture(window.workspace, (40_000.0, 0.0), 0.0, 1.6)
    assert not bridge.in_gesture


def test_the_same_place_pressed_on_the_plan_gives_the_same_camera(window: MainWindow) -> None:
    space, plan = window.workspace, window.compose.plan
    gesture = StandGesture(space, (7.0, 3.0), 0.0, plan.eye_height_m)
    gesture.aim_at((7.0, 9.0))
    wanted = space.bridge.project.camera(gesture.created)
    gesture.cancel()
    window.table.run("camera.stand")
    drag(
        plan,
        plan.to_screen(7.0, 3.0),
        plan.to_screen(7.0, 6.0),
        plan.to_screen(7.0, 9.0),
        modifier=Qt.KeyboardModifier.ControlModifier,
    )
    stood = space.state.active
    assert stood is not None and wanted is not None
    assert stood.eye == pytest.approx(wanted.eye, abs=0.06) and stood.heading_deg == pytest.approx(
        0.0, abs=0.6
    )


def test_escape_in_the_middle_of_a_drag_takes_it_back(window: MainWindow) -> None:
    bridge, frame = window.workspace.bridge, window.compose.frame
    before = bridge.project
    drag(frame, QPointF(300, 200), QPointF(360, 200), release=False)
    assert frame.dragging and bridge.project != before
    QTest.keyClick(frame, Qt.Key.Key_Escape)
    assert not frame.dragging and bridge.project == before
    QTest.mouseRelease(frame, Qt.MouseButton.LeftButton)


def test_an_edge_of_the_field_of_view_through_a_place_gives_a_lens_within_its_range() -> None:
    camera = Camera("", "A", eye=(0.0, 0.0, 1.6), heading_deg=0.0)
    assert focal_for_edge(camera, (9.0, 12.0)) == pytest.approx(24.0, abs=0.05)
    assert focal_for_edge(camera, (0.01, 100.0)) == FOCAL_MM.high
    assert focal_for_edge(camera, (5.0, -1.0)) is None
