"""The plan and the Frame as drawings: moving the sheet, zoom, keys, what is written on them."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QWidget

from altana.app.compose.facts import Facts
from altana.app.shell.window import MainWindow
from altana.core.camera.view import View
from altana.core.edits.cameras import set_camera
from altana.core.project import Project
from tests.app.conftest import drag, press, until


def wheel(window: MainWindow, widget, at: QPointF, steps: int) -> None:  # type: ignore[no-untyped-def]
    event = QWheelEvent(
        at,
        QPointF(widget.mapToGlobal(at.toPoint())),
        QPoint(0, 0),
        QPoint(0, 120 * steps),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(widget, event)


def test_the_sheet_moves_and_zooms_about_the_pointer(window: MainWindow) -> None:
    plan, before = window.compose.plan, window.workspace.bridge.project
    corner = QPointF(40, 200)
    place = plan.to_world(corner)
    wheel(window, plan, corner, 3)
    assert plan.to_world(corner) == pytest.approx(place, abs=1e-9)
    scale = plan.px_per_m
    drag(plan, corner, corner + QPointF(30, -20))
    assert plan.px_per_m == scale
    assert plan.to_world(corner + QPointF(30, -20)) == pytest.approx(place, abs=1e-9)
    QTest.keyClick(plan, Qt.Key.Key_Minus)
    assert plan.px_per_m == pytest.approx(scale * 0.8)
    QTest.keyClick(plan, Qt.Key.Key_F)
    for x, y in ((0, 0), (14, 18), (20, 12), (-9, 7)):
        assert plan.rect().contains(plan.to_screen(x, y).toPoint())
    assert window.workspace.bridge.project is before


def test_arrow_keys_move_the_eye_on_the_plan(window: MainWindow) -> None:
    start = window.workspace.state.active
    assert start is not None
    QTest.keyClick(window.compose.plan, Qt.Key.Key_Right)
    QTest.keyClick(window.compose.plan, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    moved = window.workspace.state.active
    assert moved is not None
    assert moved.eye == pytest.approx((start.eye[0] + 0.1, start.eye[1] + 1.0, start.eye[2]), abs=1e-4)


def test_arrow_keys_in_the_frame_are_one_step(window: MainWindow) -> None:
    start = window.workspace.state.active
    assert start is not None
    for _ in range(4):
        QTest.keyClick(window.compose.frame, Qt.Key.Key_Right)
    until(lambda: window.workspace.bridge.document.undo_label == "Move camera", 5)
    moved = window.workspace.state.active
    assert moved is not None
    assert moved.heading_deg == pytest.approx((start.heading_deg + 4.0) % 360.0)
    window.workspace.bridge.undo()
    assert window.workspace.state.active == start
    QTest.keyClick(window.compose.frame, Qt.Key.Key_3)
    assert window.compose.frame.way == "lift"
    QTest.keyClick(window.compose.frame, Qt.Key.Key_1)
    wheel(window, window.compose.frame, QPointF(400, 200), 1)
    until(lambda: window.workspace.bridge.document.undo_label == "Move camera", 5)
    stepped = window.workspace.state.active
    assert stepped is not None
    assert stepped.eye[1] > start.eye[1]
    assert stepped.eye[2] == start.eye[2]


def test_the_field_ends_at_walls_and_goes_through_glass(window: MainWindow) -> None:
    camera = window.workspace.state.active
    assert camera is not None
    plan = window.compose.plan
    aside = replace(camera, heading_deg=90.0)
    far = plan.cameras.field_of_view(aside)[1]
    assert max(plan.to_world(point)[0] for point in far) > 13.9
    middle = far[len(far) // 2]
    assert plan.to_world(middle)[0] == pytest.approx(14.0, abs=0.05)
    to_the_lake = plan.cameras.field_of_view(camera)[1]
    assert max(plan.to_world(point)[1] for point in to_the_lake) > 25.0


def test_field_edges_are_the_frames_edges(window: MainWindow) -> None:
    camera = window.workspace.state.active
    assert camera is not None
    view: View = camera.view()
    for edge, px in zip(window.compose.plan.cameras.edge_points(camera), (0.0, 1920.0), strict=True):
        x, y = window.compose.plan.to_world(edge)
        import numpy as np

        assert view.project(np.array([(x, y, camera.eye[2])]))[0, 0] == pytest.approx(px, abs=0.5)


def test_trouble_that_has_no_room_is_listed(application: QApplication, demo_project: Project) -> None:
    """The worst stays in sight; the rest is behind one button, where it is pressed as ever."""
    holder, facts, pressed = QWidget(), Facts(), []
    facts.setParent(holder)
    facts.mend.connect(pressed.append)
    camera = replace(demo_project.cameras[0], focal_mm=14.0, tilt_deg=12.0)
    holder.resize(900, 40)
    facts.resize(900, 32)
    holder.show()
    facts.show_camera(camera, demo_project.limits, "The eye is inside “Bench 2”.")
    assert not facts.folded and facts.more.isHidden()
    facts.resize(260, 32)
    assert facts.folded == ["lean", "stretch"] and facts.more.text() == "2 more"
    assert facts.buttons["eye"].isVisible() and facts.buttons["lean"].isHidden()
    menu = facts.more.menu()
    menu.aboutToShow.emit()
    assert [action.text() for action in menu.actions()] == [
        facts.buttons[name].text() for name in ("lean", "stretch")
    ]
    menu.actions()[0].trigger()
    assert pressed == ["lean"] and facts.place_of("lean") is facts.more
    facts.show_camera(camera, demo_project.limits)
    assert "eye" not in facts.folded and facts.buttons["eye"].isHidden()
    facts.resize(900, 32)
    assert not facts.folded and facts.buttons["stretch"].isVisible()
    holder.close()
    holder.deleteLater()


def test_the_picture_lies_clear_of_what_stands_beside_it(window: MainWindow) -> None:
    frame = window.compose.frame
    try:
        for right in (0.0, 140.0):
            frame.make_room(0.0, right)
            place, beside = frame.frame_rect(), frame.beside
            assert place.left() >= beside[0] - 1 and place.right() <= frame.width() - beside[1] + 1
            assert beside[1] == max(right, 78.0)
    finally:
        frame.make_room(0.0, 0.0)


def test_facts_follow_the_camera(window: MainWindow) -> None:
    facts = window.compose.facts
    texts = {name: item.text() for name, item in facts.labels.items()}
    assert "1920 × 1080" in texts["size"]
    assert "73.7° × 45.7°" in texts["view"]
    assert "×1.32" in texts["stretch"]
    assert "0.0°" in texts["lean"]
    assert facts.buttons["stretch"].isHidden()
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", focal_mm=14.0, tilt_deg=12.0))
    assert facts.buttons["stretch"].text().startswith("! edge stretch")
    expected = window.workspace.state.active
    assert expected is not None
    assert f"{expected.view().lean_deg():.1f}°" in facts.buttons["lean"].text()
    press(facts.buttons["lean"])
    mended = window.workspace.state.active
    assert mended is not None
    assert (mended.tilt_deg, window.workspace.bridge.document.undo_label) == (0.0, "Plumb")
    press(facts.buttons["stretch"])
    calmer = window.workspace.state.active
    assert calmer is not None
    assert calmer.focal_mm == 16.0
    assert calmer.aim_m == pytest.approx(mended.aim_m * 16.0 / 14.0)


def test_the_pointer_tells_its_place_and_the_floor(window: MainWindow) -> None:
    told: list[str] = []
    window.compose.plan.pointed.connect(told.append)
    QTest.mouseMove(window.compose.plan, window.compose.plan.to_screen(7.0, 3.0).toPoint())
    until(lambda: bool(told), 5)
    assert told[-1].startswith("Ground storey · x ")
    assert told[-1].endswith("z 0.00 m")
    window.compose.plan.controls.storeys.activated.emit(0)
    assert window.compose.plan.storey is not None
    assert window.compose.plan.storey.name == "Lookout"
    window.workspace.state.select("cam-02")
    assert window.compose.plan.storey.name == "Ground storey"


def test_dimensions_show_only_while_dragging(window: MainWindow) -> None:
    camera = window.workspace.state.active
    assert camera is not None
    at = window.compose.plan.to_screen(*camera.eye[:2])
    still = window.compose.plan.grab().toImage()
    drag(window.compose.plan, at, at + QPointF(4, 0), at + QPointF(0, 0), release=False)
    assert window.compose.plan.gesture is not None
    dragging = window.compose.plan.grab().toImage()
    QTest.mouseRelease(window.compose.plan, Qt.MouseButton.LeftButton)
    assert dragging != still
    assert window.compose.plan.gesture is None
    assert math.isclose(camera.eye[0], 7.0)


def test_what_a_near_bound_opens_is_said(window: MainWindow) -> None:
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", eye=(7.0, -1.5, 1.6), near_m=1.32))
    fact = window.compose.facts.buttons["cut"]
    until(lambda: "cut faces" in fact.text(), 40)
    assert "South wall" in fact.toolTip()
    press(fact)
    # Pressed, it shows where in the Frame, and offers its mends and the opened objects.
    assert "cut faces" in window.compose.frame.aids
    menu = window.compose.mending.menu
    names = [action.text() for action in menu.actions() if action.text()]
    assert names[:4] == ["Cap the cut", "Leave the objects out", "Move the bound clear", "Make it a wall cut"]
    next(action for action in menu.actions() if action.text() == "Choose South wall").trigger()
    scene = window.workspace.studio.scene
    assert scene is not None
    assert window.workspace.state.object_id in {
        item.id for item in scene.model.objects if item.name == "South wall"
    }
    menu.close()
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", near_m=None))
    until(lambda: fact.isHidden(), 40)
