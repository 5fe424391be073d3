"""The Section, the large place, tall formats, the surround, view history, variants: the Compose desk's newer
half."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF
from PySide6.QtTest import QTest

from altana.app.canvas.storey_names import placed_names
from altana.app.shell.window import MainWindow
from altana.app.theme.style import text_font
from altana.core.edits.cameras import add_camera, set_camera
from altana.core.edits.settings import set_many
from altana.core.edits.variants import add_variant
from altana.core.hiding import Hiding
from altana.core.project import Camera, LeftOut
from altana.core.standing import clearances
from altana.demo.larkwater import LANDING_M
from tests.app.conftest import drag, enter, press, until


def active(window: MainWindow) -> Camera:
    camera = window.workspace.state.active
    assert camera is not None
    return camera


def drawn(window: MainWindow) -> None:
    def follows() -> bool:
        drawing, camera = window.compose.section.drawing, window.workspace.state.shown
        return (
            drawing is not None
            and camera is not None
            and not drawing.quick
            and not window.compose.section.leaves(camera, drawing)
        )

    until(follows, 30)


def test_the_section_follows_the_camera(window: MainWindow) -> None:
    drawn(window)
    scene, drawing = window.workspace.studio.scene, window.compose.section.drawing
    assert scene is not None
    assert drawing is not None
    names = {scene.model.objects[item.object_index].name for item in drawing.outlines}
    assert {"Hall floor", "South wall"} <= names
    eye = window.compose.section.to_screen(*window.compose.section.place_of(active(window)))
    window.compose.settings.direction.turn_by(90.0)
    drawn(window)
    assert window.compose.section.drawing is not None
    assert window.compose.section.drawing.heading_deg == 90.0
    # The building turns behind the camera; the camera keeps its place on the sheet.
    now = window.compose.section.to_screen(*window.compose.section.place_of(active(window)))
    assert (now.x(), now.y()) == pytest.approx((eye.x(), eye.y()), abs=1.0)


@pytest.mark.slow
def test_eye_tilt_rise_and_bounds_are_dragged_on_the_section(window: MainWindow) -> None:
    window.compose.set_large("section")
    until(lambda: window.compose.section.height() > 300)
    drawn(window)
    window.compose.section.fit()
    section, start = window.compose.section, active(window)
    at = section.to_screen(*section.place_of(start))
    drag(section, at, at + QPointF(0, -0.5 * section.px_per_m), modifier=Qt.KeyboardModifier.ShiftModifier)
    lifted = active(window)
    assert lifted.eye[2] == pytest.approx(start.eye[2] + 0.5, abs=0.05)
    assert lifted.eye[:2] == start.eye[:2]
    assert window.workspace.bridge.document.undo_label == "Move eye"
    aim = section.camera.at(lifted, 0.0, lifted.aim_m)
    drag(section, aim, aim + QPointF(0, -60))
    tilted = active(window)
    assert 5.0 < tilted.tilt_deg < 40.0
    assert tilted.eye == lifted.eye
    aim = section.camera.at(tilted, math.radians(tilted.tilt_deg), tilted.aim_m)
    level = section.to_screen(section.place_of(tilted)[0] + 5.0, tilted.eye[2])
    drag(section, aim, level + QPointF(0, -3))
    assert active(window).tilt_deg == 0.0
    top = section.camera.edge_grips(active(window))[0].at
    drag(section, top, top + QPointF(0, -30))
    risen = active(window)
    assert risen.rise_mm > 1.0
    assert risen.tilt_deg == 0.0
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", near_m=1.0))
    near = section.camera.at(active(window), 0.0, 1.0)
    drag(section, near, near + QPointF(0.8 * section.px_per_m, 0))
    assert active(window).near_m == pytest.approx(1.8, abs=0.05)
    for _ in range(6):
        window.workspace.bridge.undo()
    assert active(window) == start
    window.compose.set_large("section")


def test_keys_on_the_section(window: MainWindow) -> None:
    start = active(window)
    QTest.keyClick(window.compose.section, Qt.Key.Key_Up)
    QTest.keyClick(window.compose.section, Qt.Key.Key_Right)
    QTest.keyClick(window.compose.section, Qt.Key.Key_Up, Qt.KeyboardModifier.ControlModifier)
    moved = active(window)
    assert moved.eye == pytest.approx((start.eye[0], start.eye[1] + 0.1, start.eye[2] + 0.05), abs=1e-3)
    assert moved.tilt_deg == 1.0


def test_each_pane_takes_the_large_place_and_gives_it_back(window: MainWindow) -> None:
    desk = window.compose
    for key, pane in ((Qt.Key.Key_F6, window.compose.plan), (Qt.Key.Key_F7, window.compose.section)):
        before = pane.height()
        QTest.keyClick(window, key)
        until(lambda pane=pane, before=before: pane.height() > before)  # type: ignore[misc]
        assert window.compose.frame.isVisible()
        QTest.keyClick(window, key)
        assert desk.outer.large == "frame"
    until(lambda: window.compose.frame.height() > window.compose.plan.height())


def test_a_tall_format_lays_the_desk_out_side_by_side(window: MainWindow) -> None:
    press(window.compose.tools.chips[2])
    camera = active(window)
    assert (camera.width_px, camera.height_px, camera.format_index) == (1080, 1920, 2)
    until(lambda: window.compose.frame.frame_rect().height() > 480)
    assert window.compose.outer.orientation() == Qt.Orientation.Horizontal
    rect = window.compose.frame.frame_rect()
    assert rect.width() / rect.height() == pytest.approx(1080 / 1920, rel=0.01)
    QTest.keyClick(window, Qt.Key.Key_F3, Qt.KeyboardModifier.ShiftModifier)
    assert active(window).format_name == "Square 1:1"
    window.workspace.bridge.undo()
    window.workspace.bridge.undo()
    assert active(window).format_index == 0
    assert window.compose.outer.orientation() == Qt.Orientation.Vertical


def test_the_surround_shows_more_around_the_same_frame(window: MainWindow) -> None:
    frame, camera = window.compose.frame, active(window)
    press(window.compose.tools.around)
    rect = frame.frame_rect()
    view = frame.picture.view_of(camera, rect, 1.0)
    assert (view.width_px, view.height_px) == (frame.width(), frame.height())
    corner = camera.view().rays(np.array([[0.0, 0.0]]))
    place = view.project(np.asarray(camera.eye) + corner * 3.0)[0, :2]
    assert place == pytest.approx((rect.left(), rect.top()), abs=1.0)
    press(window.compose.tools.around)
    assert not frame.surround


def test_an_edge_of_the_frame_is_dragged(window: MainWindow) -> None:
    start, rect = active(window), window.compose.frame.frame_rect()
    drag(
        window.compose.frame,
        QPointF(rect.right(), rect.center().y()),
        QPointF(rect.right() - 30, rect.center().y()),
        QPointF(rect.right() - 60, rect.center().y()),
    )
    camera = active(window)
    assert camera.width_px < start.width_px
    assert camera.height_px == start.height_px
    assert camera.cross_mm < 0
    assert camera.eye == start.eye
    assert window.workspace.bridge.document.undo_label == "Drag an edge"
    window.workspace.bridge.undo()
    assert active(window) == start


def test_views_are_got_back_and_the_project_stays(window: MainWindow) -> None:
    window.workspace.state.note_view()
    before = window.workspace.bridge.project
    window.workspace.state.let_loose()
    drag(window.compose.frame, QPointF(400, 200), QPointF(330, 215))
    wandered = window.workspace.state.loose
    assert wandered is not None
    window.workspace.state.note_view()
    window.workspace.state.select("cam-03")
    window.workspace.state.note_view()
    QTest.keyClick(window, Qt.Key.Key_Backspace)
    assert window.workspace.state.active_id == "cam-01"
    assert window.workspace.state.loose is not None
    assert window.workspace.state.loose.pose == wandered.pose
    QTest.keyClick(window, Qt.Key.Key_Backspace)
    assert window.workspace.state.held
    assert window.workspace.state.active_id == "cam-01"
    QTest.keyClick(window, Qt.Key.Key_Backspace, Qt.KeyboardModifier.ShiftModifier)
    assert window.workspace.state.loose.pose == wandered.pose
    assert window.workspace.bridge.project is before


def test_keeping_with_the_usual_lens_holds_the_subject(window: MainWindow) -> None:
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", focal_mm=50.0))
    window.workspace.state.let_loose()
    assert "50 mm" in window.compose.frame.ribbon.keep.text()
    assert window.compose.frame.ribbon.keep_usual.text() == "Keep at 24 mm"
    loose = window.workspace.state.loose
    assert loose is not None
    QTest.keyClick(window, Qt.Key.Key_N, Qt.KeyboardModifier.ShiftModifier)
    camera = active(window)
    assert camera.id != "cam-01"
    assert camera.focal_mm == 24.0
    assert camera.aim == pytest.approx(loose.aim, abs=1e-6)


def test_without_a_camera_the_frame_shows_the_whole_building(window: MainWindow) -> None:
    window.workspace.bridge.apply("none", lambda p: replace(p, cameras=()), over_locks=True)
    assert window.workspace.state.active is None
    shown = window.workspace.state.shown
    assert shown is not None
    assert shown.name == "Whole building"
    assert "No camera yet" in window.compose.frame.ribbon.text.text()
    drag(window.compose.frame, QPointF(400, 200), QPointF(360, 205))
    assert window.workspace.state.loose is not None
    QTest.keyClick(window, Qt.Key.Key_N)
    assert len(window.workspace.bridge.project.cameras) == 1
    assert window.workspace.state.held
    window.workspace.bridge.undo()
    window.workspace.bridge.undo()


def test_standing_on_a_floor_seen_in_the_frame(window: MainWindow) -> None:
    count = len(window.workspace.bridge.project.cameras)
    QTest.keyClick(window, Qt.Key.Key_C)
    assert window.compose.frame.standing
    rect, camera = window.compose.frame.frame_rect(), active(window)
    place = camera.view().project(np.array([(9.0, 5.0, 0.0), (12.0, 12.0, 0.0)]))[:, :2]
    spots = [
        QPointF(rect.left() + x / 1920 * rect.width(), rect.top() + y / 1080 * rect.height())
        for x, y in place.tolist()
    ]
    drag(window.compose.frame, spots[0], spots[0] + QPointF(5, -4), spots[1])
    assert len(window.workspace.bridge.project.cameras) == count + 1
    new_camera = active(window)
    assert new_camera.eye == pytest.approx((9.0, 5.0, 1.6), abs=0.06)
    assert 10.0 < new_camera.heading_deg < 40.0
    assert not window.compose.frame.standing
    assert window.workspace.bridge.document.undo_label == "Stand a camera"


def test_standing_without_a_pointer(window: MainWindow) -> None:
    window.compose.plan.fit_to([(4, 2), (8, 6)])
    QTest.keyClick(window, Qt.Key.Key_C)
    QTest.keyClick(window.compose.plan, Qt.Key.Key_Return)
    camera = active(window)
    assert camera.eye == pytest.approx((6.0, 4.0, 1.6), abs=1e-3)
    assert camera.heading_deg == 0.0


def test_standing_tools_from_the_panel_and_by_key(window: MainWindow) -> None:
    scene = window.workspace.studio.scene
    assert scene is not None
    window.workspace.bridge.apply(
        "x", lambda p: set_camera(p, "cam-01", eye=(1.0, 10.2, 1.9), heading_deg=12.0)
    )
    QTest.keyClick(window, Qt.Key.Key_Q)
    assert active(window).heading_deg == pytest.approx(0.0, abs=1e-6)
    press(window.compose.settings.standpoint.tools["Between walls"])
    _, right, _, left = clearances(scene.rays, active(window).eye, active(window).heading_deg)
    assert abs(right - left) < 1e-3
    press(window.compose.settings.standpoint.tools["Middle of the room"])
    ahead, _, behind, _ = clearances(scene.rays, active(window).eye, active(window).heading_deg)
    assert abs(ahead - behind) < 1e-3
    press(window.compose.settings.standpoint.tools["Back to wall"])
    assert clearances(scene.rays, active(window).eye, 0.0)[2] == pytest.approx(0.3, abs=2e-3)
    window.compose.settings.standpoint.take_preset(3)
    assert window.workspace.bridge.document.undo_label == "Eye in the middle"
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", eye=(1.3, 2.1, LANDING_M + 1.2)))
    press(window.compose.settings.standpoint.presets.buttons()[0])
    assert active(window).eye[2] == pytest.approx(LANDING_M + 1.6, abs=2e-4)
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", eye=(-0.18, 5.0, 1.6)))
    assert "solid" in window.compose.settings.standpoint.trouble.text()
    press(window.compose.facts.buttons["eye"])


def test_hold_subject_through_the_panel(window: MainWindow) -> None:
    start = active(window)
    side = start.pose.axes()[0] * 0.6
    ends = np.array([np.asarray(start.aim) - side, np.asarray(start.aim) + side])
    QTest.keyClick(window, Qt.Key.Key_H)
    assert window.compose.settings.lens.hold.isChecked()
    enter(window.compose.settings.lens.focal, "50")
    camera_after = active(window)
    assert camera_after.focal_mm == 50.0
    before, after = (camera.view().project(ends)[:, 0] for camera in (start, camera_after))
    assert abs((after[1] - after[0]) - (before[1] - before[0])) < 0.5
    QTest.keyClick(window, Qt.Key.Key_H)
    enter(window.compose.settings.lens.focal, "24")
    assert active(window).eye == camera_after.eye


def test_fit_a_chosen_object(window: MainWindow) -> None:
    scene = window.workspace.studio.scene
    assert scene is not None
    bench = next(item.id for item in scene.model.objects if item.name == "Bench 5")
    window.workspace.state.choose_object(bench)
    window.compose.settings.lens.fit_to("object", "lens")
    assert window.workspace.bridge.document.undo_label == "Fit object by lens"
    number = scene.lookup.index[bench]
    item = scene.model.objects[number]
    points = scene.model.vertices[
        np.unique(scene.model.faces[item.first_face : item.first_face + item.face_count])
    ].astype(float)
    px, py, _ = active(window).view().project(points).T
    assert px.min() >= 54 - 1
    assert px.max() <= 1920 - 54 + 1
    assert (min(px.min() - 54, 1920 - 54 - px.max()) < 1) or (min(py.min() - 54, 1080 - 54 - py.max()) < 1)


def test_fields_of_several_cameras_say_that_they_vary(window: MainWindow) -> None:
    window.workspace.state.select("cam-01")
    window.workspace.state.select("cam-03", add=True)
    panel = window.compose.settings
    assert panel.lens.focal.text() == "varies"
    assert panel.direction.tilt.text() == "0.0°"
    enter(panel.lens.focal, "28")
    assert [window.workspace.bridge.project.camera(name).focal_mm for name in ("cam-01", "cam-03")] == [
        28.0,
        28.0,
    ]  # type: ignore[union-attr]
    assert panel.lens.focal.text() == "28.0 mm"
    window.workspace.bridge.undo()
    assert [window.workspace.bridge.project.camera(name).focal_mm for name in ("cam-01", "cam-03")] == [
        24.0,
        18.0,
    ]  # type: ignore[union-attr]
    window.cameras.give_settings(("exposure",))
    assert window.workspace.bridge.project.cameras[0].ev == window.workspace.bridge.project.cameras[2].ev


def test_variants_side_by_side_and_flicked_through(window: MainWindow) -> None:
    start = active(window)
    QTest.keyClick(window, Qt.Key.Key_T)
    assert active(window).variants[0].name == "as it was"
    window.compose.pictures.take_ladder("exposure")
    assert window.compose.pictures.comparing
    assert len(window.compose.pictures.variants.rects()) == 5
    until(lambda: all(image is not None for image in window.compose.pictures.variants._images), 60)
    QTest.keyClick(window.compose.pictures.variants, Qt.Key.Key_Right)
    QTest.keyClick(window.compose.pictures.variants, Qt.Key.Key_Return)
    kept = active(window)
    assert kept.ev == pytest.approx(start.ev - 1.0)
    assert kept.variants[0].ev == start.ev
    window.compose.pictures.compare(False)
    QTest.keyClick(window, Qt.Key.Key_V)
    assert window.compose.frame.camera == kept.variants[0]
    before = window.workspace.bridge.project
    drag(window.compose.frame, QPointF(400, 200), QPointF(360, 205))
    assert window.workspace.bridge.project is before
    window.compose.pictures.leave_flicking()
    assert window.compose.frame.camera == kept
    window.workspace.bridge.apply("x", lambda p: add_variant(p, "cam-02"))
    assert window.workspace.bridge.project.camera("cam-02").variants  # type: ignore[union-attr]


def test_what_is_hidden_here_is_said_and_not_left_out(window: MainWindow) -> None:
    scene = window.workspace.studio.scene
    assert scene is not None
    roof = [item.id for item in scene.model.objects if item.category == "Roof"]
    window.workspace.state.hide(Hiding(LeftOut(categories=("Roof",))))
    project, camera = window.workspace.bridge.project, active(window)
    assert scene.lookup.staging(project, camera).omitted == ()
    shown = window.workspace.studio.staging(project, camera, window.workspace.state.hiding)
    assert [scene.model.objects[number].id for number in shown.omitted] == roof
    assert window.workspace.state.hiding.differs(scene.lookup.staging(project, camera), scene.lookup) == len(
        roof
    )
    QTest.keyClick(window, Qt.Key.Key_I, Qt.KeyboardModifier.ControlModifier)
    assert not window.workspace.state.hiding


def test_picking_goes_through_what_lies_together(window: MainWindow) -> None:
    start = active(window)
    window.workspace.bridge.apply(
        "x", lambda p: add_camera(p, replace(start, id="", name="Twin", eye=(7.0, 1.3, 1.6)))[0]
    )
    at = window.compose.plan.to_screen(*start.eye[:2]).toPoint()
    twin = window.workspace.bridge.project.camera_named("Twin").id
    taken = []
    for _ in range(3):
        QTest.mouseClick(window.compose.plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at)
        taken.append(window.workspace.state.active_id)
    assert twin in taken
    assert window.workspace.bridge.project.camera(twin).eye == start.eye  # type: ignore[union-attr]
    window.workspace.state.select("cam-01")
    QTest.mouseClick(window.compose.plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.AltModifier, at)
    assert window.workspace.state.active_id == twin
    window.workspace.bridge.apply("x", lambda p: set_many(p, [twin], hidden=True))
    window.workspace.state.select("cam-01")
    QTest.mouseClick(window.compose.plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.AltModifier, at)
    assert window.workspace.state.active_id == "cam-01"


def test_the_cut_of_the_plan_moves(window: MainWindow) -> None:
    plan = window.compose.plan
    drawing = plan.drawing
    assert drawing is not None
    enter(plan.controls.cut_field, "2.3")
    until(lambda: plan.drawing is not None and abs(plan.drawing.cut_m - 2.3) < 1e-6, 20)
    QTest.keyClick(plan, Qt.Key.Key_BracketLeft)
    assert plan.cut_above_m == pytest.approx(2.2)
    plan.set_cut(1.2)
    until(lambda: plan.drawing is not None and abs(plan.drawing.cut_m - 1.2) < 1e-6, 20)
    lines = plan.paths.lines.count
    QTest.keyClick(window, Qt.Key.Key_K)
    assert (lines > 500, plan.paths.lines.count) == (True, 0)
    QTest.keyClick(window, Qt.Key.Key_K)


def test_typed_steps_and_turns(window: MainWindow) -> None:
    start = active(window)
    window.cameras.move_by_steps("1.5, -0.5, 0.2")
    assert active(window).eye == pytest.approx((start.eye[0] - 0.5, start.eye[1] + 1.5, 1.8))
    before = window.workspace.bridge.project
    window.cameras.move_by_steps("north")
    assert "not three numbers" in window.notice_bar.sentence
    assert window.workspace.bridge.project is before
    window.workspace.bridge.undo()
    # Eye and aim are a table of numbers, in any unit, with their heights above the floor.
    window.cameras.ask_places()
    page = window.cameras.places_page
    for field, text in zip(page.fields["Aim"], ("9", "800 cm", "2.6 m"), strict=True):
        enter(field, text)
    press(page.take)
    aimed = active(window)
    assert (aimed.eye, aimed.aim) == (start.eye, pytest.approx((9.0, 8.0, 2.6)))
    window.cameras.ask_places()
    page = window.cameras.places_page
    for name, place in (("Eye", ("5", "2", "1.2")), ("Aim", ("5", "9", "1.5"))):
        for field, text in zip(page.fields[name], place, strict=True):
            enter(field, text)
    assert page.heights["Eye"].value == pytest.approx(1.2, abs=0.01)
    enter(page.heights["Eye"], "1.5")
    press(page.take)
    both = active(window)
    assert both.eye == pytest.approx((5.0, 2.0, 1.5), abs=0.01)
    assert (both.heading_deg, both.aim_m) == (0.0, pytest.approx(7.0, abs=0.01))
    window.cameras.ask_places()
    page = window.cameras.places_page
    for field, text in zip(page.fields["Aim"], ("5", "2", f"{both.eye[2]}"), strict=True):
        enter(field, text)
    press(page.take)
    assert "same point" in page.told.text() and active(window) == both
    page.reject()
    window.workspace.bridge.undo()
    window.workspace.bridge.undo()
    press(window.compose.settings.direction.turns[180.0])
    assert active(window).heading_deg == 180.0
    QTest.keyClick(window, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
    assert active(window).heading_deg == 195.0


def test_storey_names_stand_aside_from_marks_and_each_other(window: MainWindow) -> None:
    metrics = QFontMetricsF(text_font(8))
    names = [("Ground storey +0.00", 100.0), ("Mezzanine +0.20", 96.0), ("Gallery storey +3.60", 60.0)]
    plain = placed_names(names, 400.0, metrics, [])
    # Of two that would cover each other the first is named.
    assert [text for text, _ in plain] == ["Ground storey +0.00", "Gallery storey +3.60"]
    assert all(box.right() == 382.0 for _, box in plain)
    aim, other = QRectF(300.0, 88.0, 14.0, 14.0), QRectF(230.0, 86.0, 10.0, 10.0)
    (_, ground), (_, gallery) = placed_names(names, 400.0, metrics, [aim, other])
    assert gallery.right() == 382.0
    assert ground.right() <= aim.left() and not ground.intersects(other)
    # In the window: the demo's forecourt looks at the hall, where the storeys are named.
    window.workspace.state.select("cam-07")
    section = window.compose.section
    until(lambda: section.drawing is not None and section._storeys(), 60)
    camera = active(window)
    marks = section.camera.marks(camera)
    shown = placed_names(section._storeys(), section.width(), metrics, marks)
    assert shown and not any(box.intersects(mark) for _, box in shown for mark in marks)
