"""The Plan's finer points: what holds the pointer, bounds, storeys, names, other cameras; paths made in
bulk."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

import numpy as np
import pytest
from PySide6.QtCore import QPointF, QRect, QRectF, Qt
from PySide6.QtGui import QImage, QPainter, QPen
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QWidget

from altana.app.canvas.guides import guide_lines
from altana.app.canvas.paths import LINES_AT_ONCE, LinePaths, lines_path, outlines_path, path_of
from altana.app.shell.window import MainWindow
from altana.core.edits.cameras import add_camera, set_camera
from altana.core.geometry.drawing import Outline
from altana.core.project import GUIDES, Camera, Project
from altana.core.standing import clearances
from tests.app.conftest import drag, until


def active(window: MainWindow) -> Camera:
    camera = window.workspace.state.active
    assert camera is not None
    return camera


def test_paths_made_in_bulk_are_what_was_meant() -> None:
    lines = np.array([[(0.0, 1.0), (2.0, 3.0)], [(4.0, 5.0), (6.5, 7.25)]])
    path = lines_path(lines)
    assert path.elementCount() == 4
    kinds = [path.elementAt(index).isMoveTo() for index in range(4)]  # type: ignore[attr-defined]
    places = [(path.elementAt(index).x, path.elementAt(index).y) for index in range(4)]  # type: ignore[attr-defined]
    assert kinds == [True, False, True, False]
    assert places == [(0.0, 1.0), (2.0, 3.0), (4.0, 5.0), (6.5, 7.25)]
    square = np.array([(0.0, 0.0), (2.0, 0.0), (2.0, 2.0), (0.0, 2.0), (0.0, 0.0)])
    filled = outlines_path([Outline(square, 0, True, False), Outline(square + 5.0, 1, True, False)])
    assert filled.contains(QPointF(1.0, 1.0))
    assert filled.contains(QPointF(6.0, 6.0))
    assert not filled.contains(QPointF(3.5, 3.5))
    assert filled.fillRule() == Qt.FillRule.WindingFill
    assert path_of(np.zeros((0, 2)), np.zeros(0, bool)).isEmpty()
    assert outlines_path([]).isEmpty()


def painted(paint: Callable[[QPainter], object], about: tuple[float, float]) -> QImage:
    """200 × 100 pixels of a sheet, ten to the metre, about a place."""
    image = QImage(200, 100, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.white)
    painter = QPainter(image)
    painter.translate(100, 50)
    painter.scale(10, -10)
    painter.translate(-about[0], -about[1])
    pen = QPen(Qt.GlobalColor.black, 1.0)
    pen.setCosmetic(True)
    painter.setPen(pen)
    paint(painter)
    painter.end()
    return image


def test_many_lines_come_bit_by_bit_and_are_all_of_them(application: QApplication) -> None:
    random = np.random.default_rng(3)
    places = random.uniform(-100.0, 100.0, (3 * LINES_AT_ONCE - 5, 1, 2)).astype(np.float32)
    lines = places + random.uniform(-1.0, 1.0, (len(places), 2, 2)).astype(np.float32)
    # As a drawing has them: what lies together stands together, and one line is level and one upright.
    lines = lines[np.argsort(places[:, 0, 0])]
    lines[-2:] = [[(99.0, 50.0), (101.0, 50.0)], [(100.0, 40.0), (100.0, 60.0)]]
    come: list[bool] = []
    sheet = QWidget()
    some = LinePaths(sheet, lambda: come.append(some.whole))
    some.lay(lines)
    assert (some.count, some.whole) == (len(lines), False)
    until(lambda: some.whole, 5)
    assert come == [True]
    whole = lines_path(lines)
    for about in ((0.0, 0.0), (-95.0, 60.0), (99.0, 50.0)):
        assert painted(some.paint, about) == painted(lambda painter: painter.drawPath(whole), about)
    # Others put in their place while these were coming are alone there.
    some.lay(lines)
    some.lay(lines[-1:])
    assert some.whole
    QTest.qWait(30)
    assert painted(some.paint, (0.0, 0.0)) == painted(lambda _: None, (0.0, 0.0))
    asked: list[int] = []
    drawing = object()
    for which in (1, 1, 2):
        some.lay_of(drawing, which, lambda: (asked.append(1), lines[:1])[1])
    assert len(asked) == 2


def test_guides_lie_where_they_should() -> None:
    rect = QRectF(10, 20, 300, 150)
    camera = Camera("", "x", tilt_deg=0.0, rise_mm=3.0)
    assert {len(guide_lines(camera, guide, rect)) for guide in GUIDES} <= {1, 2, 4}
    thirds = guide_lines(camera, "thirds", rect)
    assert sorted({round(line[0].x()) for line in thirds if line[0].x() == line[1].x()}) == [110, 210]
    horizon = guide_lines(camera, "horizon", rect)[0]
    # A level camera with rise: the horizon lies below the middle by rise over the sensor's height.
    assert horizon[0].y() == pytest.approx(rect.center().y() + 3.0 / 20.25 * rect.height(), abs=0.01)
    assert horizon[0].y() == pytest.approx(horizon[1].y(), abs=1e-6)
    rolled = guide_lines(replace(camera, roll_deg=5.0, rise_mm=0.0), "horizon", rect)[0]
    slope = math.degrees(math.atan2(rolled[1].y() - rolled[0].y(), rolled[1].x() - rolled[0].x()))
    assert abs(slope) == pytest.approx(5.0, abs=0.6)
    assert guide_lines(replace(camera, tilt_deg=80.0), "horizon", rect) == []


def test_in_a_small_frame_the_hint_leaves_its_switch_readable(window: MainWindow) -> None:
    frame, switch = window.compose.frame, window.compose.tools.held
    window.compose.set_large("plan")
    until(lambda: 0 < frame.width() < 560)
    QApplication.processEvents()
    foot = QRect(switch.x(), switch.y(), frame.width() - 2 * switch.x(), switch.height())

    def shown(standing: bool, where: QRect) -> QImage:
        frame.standing = standing
        return frame.grab(where).toImage()

    # The picture may still sharpen: it is the hint that changes the whole, and nothing at the foot.
    until(lambda: shown(False, frame.rect()) != shown(True, frame.rect()), 20)
    until(lambda: shown(False, foot) == shown(True, foot), 5)
    frame.standing = False
    window.compose.set_large("plan")


def test_corners_walls_and_the_middle_hold_the_pointer(window: MainWindow) -> None:
    plan = window.compose.plan
    window.compose.set_large("plan")
    until(lambda: plan.height() > 330)
    # The pane fits its drawing once it has its new size.
    QApplication.processEvents()
    plan.fit_to([(0, 0), (14, 18)])
    until(lambda: plan.holding.grid is not None)
    start = active(window)
    at = plan.to_screen(*start.eye[:2])
    # Near the middle between the side walls the eye is held by it.
    beside = plan.to_screen(7.0 + 3.0 / plan.px_per_m, 4.0)
    drag(plan, at, beside, release=False)
    assert plan.holding.by is not None
    assert plan.holding.by.kind == "between walls"
    scene = window.workspace.studio.scene
    assert scene is not None
    _, right, _, left = clearances(scene.rays, active(window).eye, active(window).heading_deg)
    assert abs(right - left) < 2e-3
    QTest.mouseRelease(plan, Qt.MouseButton.LeftButton)
    assert plan.holding.by is None
    window.workspace.bridge.undo()
    # With Control nothing holds it.
    drag(plan, at, beside, modifier=Qt.KeyboardModifier.ControlModifier)
    assert active(window).eye[0] == pytest.approx(plan.to_world(beside.toPoint().toPointF())[0], abs=1e-6)
    window.workspace.bridge.undo()
    # The aim is held by the storey's directions.
    aim = plan.to_screen(*start.aim[:2])
    turned = math.radians(30.8)
    drag(
        plan,
        aim,
        plan.to_screen(start.eye[0] + math.sin(turned) * 4.3, start.eye[1] + math.cos(turned) * 4.3),
    )
    assert active(window).heading_deg == pytest.approx(30.0, abs=1e-6)
    window.workspace.bridge.undo()
    assert active(window) == start
    window.compose.set_large("plan")


def test_the_eye_alone_leaves_the_aim_where_it_is(window: MainWindow) -> None:
    start = active(window)
    at = window.compose.plan.to_screen(*start.eye[:2])
    drag(
        window.compose.plan,
        at,
        window.compose.plan.to_screen(10.0, 3.0),
        modifier=Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.ControlModifier,
    )
    moved = active(window)
    assert moved.eye[0] == pytest.approx(10.0, abs=0.1)
    assert moved.aim[:2] == pytest.approx(start.aim[:2], abs=1e-6)
    assert moved.tilt_deg == 0.0
    assert window.workspace.bridge.document.undo_label == "Move eye alone"


def test_bounds_are_dragged_on_the_plan(window: MainWindow) -> None:
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", near_m=2.0, far_m=9.0))
    plan, camera = window.compose.plan, active(window)
    near = plan.cameras.bounds.on_axis(camera, 2.0)
    drag(plan, near, plan.cameras.bounds.on_axis(camera, 3.0))
    assert active(window).near_m == pytest.approx(3.0, abs=0.06)
    assert window.workspace.bridge.document.undo_label == "Hide nearer than"
    far = plan.cameras.bounds.on_axis(camera, 9.0)
    drag(plan, far, plan.cameras.bounds.on_axis(camera, 12.0))
    assert active(window).far_m == pytest.approx(12.0, abs=0.06)
    # The near bound never passes the far one.
    drag(
        plan,
        plan.cameras.bounds.on_axis(active(window), active(window).near_m or 0.0),
        plan.cameras.bounds.on_axis(camera, 14.0),
    )
    assert (active(window).near_m or 0.0) < 12.1
    begin, end, beyond = plan.cameras.field_of_view(active(window))
    depths = [plan.to_world(point)[1] - camera.eye[1] for point in (begin[24], end[24])]
    assert depths[0] == pytest.approx(active(window).near_m, abs=0.02)
    assert depths[1] <= 12.1
    # Without the far bound sight would go on to the end of the hall and beyond; that part is hatched.
    assert plan.to_world(beyond[24])[1] > plan.to_world(end[24])[1] + 1.0


def test_the_far_bound_off_the_sheet_is_an_arrow_ahead(window: MainWindow) -> None:
    window.compose.plan.fit_to([(4, 0), (10, 6)])
    still = window.compose.plan.grab().toImage()
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", far_m=300.0))
    drawn = window.compose.plan.grab().toImage()
    changed = [
        y
        for y in range(still.height())
        for x in range(0, still.width(), 3)
        if still.pixel(x, y) != drawn.pixel(x, y)
    ]
    eye = window.compose.plan.to_screen(7.0, 1.3).y()
    assert changed
    assert min(changed) < eye - 30


def test_storeys_and_cameras_of_other_storeys(window: MainWindow) -> None:
    plan = window.compose.plan
    gallery = window.workspace.bridge.project.camera_named("Gallery, seated")
    others = [camera for camera in window.workspace.bridge.project.cameras if camera.id != "cam-01"]
    here = dict(zip((camera.id for camera in others), plan.on_storey(others).tolist(), strict=True))
    assert here["cam-02"]
    assert not here[gallery.id]
    QTest.keyClick(window, Qt.Key.Key_PageUp, Qt.KeyboardModifier.ControlModifier)
    assert plan.storey is not None
    assert plan.storey.name == "Gallery storey"
    assert plan.on_storey([gallery]).tolist() == [True]
    QTest.keyClick(window, Qt.Key.Key_PageDown, Qt.KeyboardModifier.ControlModifier)
    assert plan.storey.name == "Ground storey"
    window.workspace.state.select(gallery.id)
    plan.fit_to([(100, 100), (110, 110)])
    window.compose.plan.choose_storey(window.workspace.studio.scene.model.storeys[0])  # type: ignore[union-attr]
    QTest.keyClick(window, Qt.Key.Key_Home)
    assert plan.storey.name == "Gallery storey"
    assert plan.rect().contains(plan.to_screen(*gallery.eye[:2]).toPoint())


def test_other_cameras_are_painted_once_for_as_long_as_they_stay(window: MainWindow) -> None:
    def many(project: Project) -> Project:
        for number in range(60):
            project, _ = add_camera(
                project,
                Camera("", f"M {number}", (float(number % 12) + 1, 2.0 + number // 12, 1.6), inside=True),
            )
        return project

    window.workspace.bridge.apply("Many", many)
    plan = window.compose.plan
    plan.grab()
    layer = plan.cameras.others_layer
    plan.grab()
    assert plan.cameras.others_layer is layer
    start = active(window)
    at = plan.to_screen(*start.eye[:2])
    drag(plan, at, at + QPointF(5, 5), release=False)
    plan.grab()
    dragging = plan.cameras.others_layer
    before = active(window).eye
    QTest.mouseMove(plan, (at + QPointF(12, 9)).toPoint())
    until(lambda: active(window).eye != before, 5)
    plan.grab()
    # While the active camera is dragged the others are not painted again.
    assert plan.cameras.others_layer is dragging
    QTest.mouseRelease(plan, Qt.MouseButton.LeftButton)
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-02", heading_deg=10.0))
    plan.grab()
    assert plan.cameras.others_layer is not dragging


def test_names_of_rooms_stand_whole_in_what_is_seen_of_them(window: MainWindow) -> None:
    """However far in, no name is cut by the sheet's edge, and the room that fills the sheet is named."""
    plan = window.compose.plan
    scene = window.workspace.studio.scene
    assert scene is not None and plan.storey is not None
    plan.grab()
    fitted = len(plan.cameras.lettered)
    assert fitted >= 3
    hall = next(room for room in scene.model.rooms if room.name == "Waiting hall")
    middle = np.array(hall.outline).mean(axis=0)
    for _ in range(5):
        plan.zoom(1.5, plan.to_screen(*middle.tolist()))
        plan.grab()
        assert all(plan.rect().contains(box.toAlignedRect()) for box in plan.cameras.lettered)
    inside = [box for box in plan.cameras.lettered if box.width() > 30]
    assert len(inside) == 1
    plan.fit()


def test_names_of_rooms_keep_clear_of_title_and_controls(window: MainWindow) -> None:
    plan = window.compose.plan
    over = [QRectF(0, 0, 212, 28), *plan.controls.boxes()]
    assert len(over) >= 4
    hall = next(room for room in plan.scene.model.rooms if room.name == "Waiting hall")  # type: ignore[union-attr]
    high = max(y for _, y in hall.outline)
    right = max(x for x, _ in hall.outline)
    named = 0
    for aside, down in ((200.0, 4.0), (150.0, 12.0), (130.0, 35.0), (320.0, 2.0)):
        # The hall's corner, where its name stands, comes to lie under title and controls.
        plan.fit_to([(right - 12.0, high - 12.0), (right, high)])
        corner, scale = plan.to_screen(right, high), plan.px_per_m
        plan.centre = (
            plan.centre[0] + (corner.x() - aside) / scale,
            plan.centre[1] - (corner.y() - down) / scale,
        )
        plan.repaint_base()
        assert abs(plan.to_screen(right, high).x() - aside) < 1.0
        named += len(plan.cameras.lettered)
        assert not [box for box in plan.cameras.lettered if any(box.intersects(lid) for lid in over)]
    assert named >= 3


def test_names_of_rooms_keep_clear_of_cameras_where_they_can(window: MainWindow) -> None:
    plan, bridge = window.compose.plan, window.workspace.bridge
    plan.fit()
    plan.repaint_base()
    # The largest room is named first.
    place = plan.to_world(plan.cameras.lettered[0].center())
    bridge.apply("x", lambda p: set_camera(p, "cam-02", eye=(*place, 1.6)))
    plan.repaint_base()
    at = plan.to_screen(*place)
    assert not any(box.contains(at) for box in plan.cameras.lettered)
    assert len(plan.cameras.lettered) >= 3


def test_with_shift_a_camera_is_stood_where_nothing_lies(window: MainWindow) -> None:
    plan, before = window.compose.plan, len(window.workspace.bridge.project.cameras)
    plan.fit_to([(-6.0, -30.0), (16.0, -10.0)])
    eye, aim = plan.to_screen(2.0, -24.0), plan.to_screen(8.0, -14.0)
    assert not plan._under(eye)
    drag(plan, eye, (eye + aim) / 2, aim, modifier=Qt.KeyboardModifier.ShiftModifier)
    cameras = window.workspace.bridge.project.cameras
    assert len(cameras) == before + 1 and active(window).id == cameras[-1].id
    assert active(window).eye[:2] == pytest.approx((2.0, -24.0), abs=0.2)
    assert active(window).heading_deg == pytest.approx(math.degrees(math.atan2(6.0, 10.0)), abs=1.5)
    assert window.workspace.bridge.document.undo_label == "Stand a camera"
    # Without Shift the sheet is moved, and no camera is stood.
    centre, empty = plan.centre, plan.to_screen(-3.0, -14.0)
    drag(plan, empty, empty + QPointF(10.0, 4.0), empty + QPointF(20.0, 8.0))
    assert plan.centre != centre and len(window.workspace.bridge.project.cameras) == before + 1
    assert not plan.standing
