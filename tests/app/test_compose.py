"""The Compose desk through the real window: stand, aim, lens, held and loose, undo, fields, files."""

from __future__ import annotations

import itertools
import math
from pathlib import Path

import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QColor, QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QApplication, QComboBox, QLineEdit, QSlider

from altana.app.shell.window import MainWindow
from altana.app.theme.tokens import DARK, LIGHT, Tokens
from altana.core.edits.cameras import set_camera
from altana.core.project import Camera
from altana.demo.larkwater import LANDING_M
from altana.demo.site import GALLERY_M
from altana.storage.project_file import from_json, read_project, to_json
from tests.app.conftest import drag, enter, press, press_card, until


def active(window: MainWindow) -> Camera:
    camera = window.state.active
    assert camera is not None
    return camera


def at(window: MainWindow, x: float, y: float) -> QPointF:
    return window.plan.to_screen(x, y)


def test_press_drag_release_stands_a_camera(window: MainWindow) -> None:
    count = len(window.bridge.project.cameras)
    press(window.strip.stand_button)
    assert window.plan.standing
    # Control: nothing holds the pointer.
    drag(window.plan, at(window, 10.0, 3.0), at(window, 8.0, 6.0), at(window, 5.0, 12.0), modifier=Qt.KeyboardModifier.ControlModifier)
    made = active(window)
    assert len(window.bridge.project.cameras) == count + 1
    place = window.plan.to_world(at(window, 10.0, 3.0).toPoint().toPointF())
    assert made.eye[:2] == pytest.approx(place, abs=1e-6)
    assert made.eye[2] == pytest.approx(1.60, abs=1e-4)
    aim = window.plan.to_world(at(window, 5.0, 12.0).toPoint().toPointF())
    assert made.heading_deg == pytest.approx(math.degrees(math.atan2(aim[0] - place[0], aim[1] - place[1])) % 360, abs=1e-6)
    assert made.tilt_deg == 0.0
    assert made.name == "Waiting hall, north-west"
    assert (window.bridge.document.undo_label, window.plan.standing) == ("Stand a camera", False)
    assert made.id in window.strip.ids()
    assert from_json(to_json(window.bridge.project), "x") == window.bridge.project
    window.undo()
    assert len(window.bridge.project.cameras) == count


@pytest.mark.parametrize(("place", "floor"), [((2.0, 14.5), GALLERY_M), ((1.3, 2.1), LANDING_M)], ids=["gallery", "landing"])
def test_on_an_upper_storey_the_floor_is_the_one_really_there(window: MainWindow, place: tuple[float, float], floor: float) -> None:
    window.plan.storeys.activated.emit(window.plan.storeys.findText("Gallery storey"))
    QTest.keyClick(window, Qt.Key.Key_C)
    drag(window.plan, at(window, *place), at(window, place[0] + 1.0, place[1] + 2.0))
    assert active(window).eye[2] == pytest.approx(floor + 1.60, abs=2e-4)


def test_escape_takes_a_standing_camera_back(window: MainWindow) -> None:
    before = window.bridge.project
    window._arm()
    drag(window.plan, at(window, 10.0, 3.0), at(window, 8.0, 6.0), release=False)
    assert len(window.bridge.project.cameras) == len(before.cameras) + 1
    QTest.keyClick(window.plan, Qt.Key.Key_Escape)
    assert window.bridge.project is before
    assert window.bridge.document.undo_label is None


def test_dragging_eye_aim_and_lens_edge(window: MainWindow) -> None:
    start = active(window)
    drag(window.plan, at(window, *start.eye[:2]), at(window, 8.0, 3.0), at(window, 9.0, 4.0))
    moved = active(window)
    assert moved.eye == pytest.approx((9.0, 4.0, 1.6), abs=0.06)
    assert moved.heading_deg == start.heading_deg
    drag(window.plan, at(window, *moved.aim[:2]), at(window, 12.0, 12.0))
    aimed = active(window)
    assert aimed.eye == moved.eye
    assert aimed.heading_deg == pytest.approx(math.degrees(math.atan2(12.0 - moved.eye[0], 12.0 - moved.eye[1])), abs=0.5)
    edge = window.plan._edge_points(aimed)[1]
    aim = window.plan.to_screen(*aimed.aim[:2])
    drag(window.plan, edge, edge + (aim - edge) * 0.4)
    assert active(window).focal_mm > aimed.focal_mm * 1.3
    assert active(window).eye == aimed.eye
    assert [window.bridge.document.undo_label] == ["Change lens"]
    for _ in range(3):
        window.undo()
    assert active(window) == start


def test_the_eye_keeps_its_height_above_the_floor_when_dragged_onto_the_quay(window: MainWindow) -> None:
    start = active(window)
    outside = at(window, 5.0, -6.0)
    window.plan.fit_to([(0, -9), (14, 18)])
    outside = at(window, 5.0, -6.0)
    drag(window.plan, at(window, *start.eye[:2]), outside)
    assert active(window).eye[2] == pytest.approx(-0.15 + 1.6, abs=1e-3)


def test_pictures_follow_and_sharpen(window: MainWindow) -> None:
    looks: list[str] = []
    window.studio.picture.connect(lambda channel, revision, image, look: looks.append(look) if channel == "frame" else None)
    window.state.select("cam-02")

    def sharp() -> bool:
        return window.frame._image_of == window.state.active and window.frame._look == "still"

    until(sharp)
    first = window.frame._image
    assert first is not None
    assert first.width() >= window.frame.frame_rect().width() - 1
    drag(window.frame, QPointF(400, 200), QPointF(420, 200), QPointF(480, 200), release=False)
    places = itertools.count(1)

    def moved_and_coarse() -> bool:
        # The hand goes on moving; a hand that rests gets the full picture instead.
        at = QPoint(480 + next(places) % 40, 200)
        left, none = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton
        sent = QMouseEvent(
            QEvent.Type.MouseMove, QPointF(at), QPointF(window.frame.mapToGlobal(at)), none, left, Qt.KeyboardModifier.NoModifier
        )
        QApplication.sendEvent(window.frame, sent)
        return "coarse" in looks

    until(moved_and_coarse)
    QTest.mouseRelease(window.frame, Qt.MouseButton.LeftButton)
    until(sharp)
    shown = window.frame._image
    assert shown is not None
    assert shown != first
    assert window.bridge.document.undo_label == "Turn camera"


def test_frame_is_exact_whatever_the_windows_shape(window: MainWindow) -> None:
    for camera_id in ("cam-01", "cam-08"):
        window.state.select(camera_id)
        camera, rect = active(window), window.frame.frame_rect()
        assert rect.width() / rect.height() == pytest.approx(camera.width_px / camera.height_px, rel=0.01)
    before = window.bridge.project
    wide = window.frame.width()
    window.resize(1500, 700)
    until(lambda: window.frame.width() != wide)
    rect = window.frame.frame_rect()
    assert rect.width() / rect.height() == pytest.approx(1080 / 1350, rel=0.01)
    assert window.bridge.project is before
    window.resize(1280, 800)


def test_held_moves_the_camera_loose_does_not(window: MainWindow) -> None:
    start = active(window)
    window.frame.choose_way("slide")
    drag(window.frame, QPointF(400, 200), QPointF(300, 200))
    slid = active(window)
    assert slid.eye != start.eye
    assert slid.eye[2] == start.eye[2]
    QTest.keyClick(window, Qt.Key.Key_L)
    assert window.frame.ribbon.isVisible()
    assert "not moved" in window.frame.ribbon.text.text()
    drag(window.frame, QPointF(400, 200), QPointF(300, 200))
    assert active(window) == slid
    assert window.state.loose is not None
    assert window.state.loose.eye != slid.eye
    label = window.bridge.document.undo_label
    press(window.frame.ribbon._back)
    assert window.state.loose is None
    assert (active(window), window.bridge.document.undo_label) == (slid, label)
    window.frame.choose_way("turn")


def test_ways_out_of_loose(window: MainWindow) -> None:
    start, count = active(window), len(window.bridge.project.cameras)
    window.state.let_loose()
    drag(window.frame, QPointF(400, 200), QPointF(300, 220))
    seen = window.state.loose
    assert seen is not None
    press(window.frame.ribbon._keep)
    assert len(window.bridge.project.cameras) == count + 1
    assert active(window).pose == seen.pose
    assert window.bridge.project.camera("cam-01") == start
    window.state.select("cam-01")
    window.state.let_loose()
    drag(window.frame, QPointF(400, 200), QPointF(300, 220))
    press(window.frame.ribbon._move_here)
    assert window.state.loose is None
    assert active(window).pose != start.pose
    window.undo()
    assert active(window) == start


def test_a_locked_camera_is_always_loose(window: MainWindow) -> None:
    window.bridge.apply("Lock", lambda p: set_camera(p, "cam-01", locked=True))
    window.state.select("cam-01")
    before = window.bridge.project
    drag(window.frame, QPointF(400, 200), QPointF(300, 220))
    drag(window.plan, at(window, *active(window).eye[:2]), at(window, 9.0, 4.0))
    QTest.keyClick(window, Qt.Key.Key_L)
    assert window.state.loose is not None
    assert not window.state.held
    assert window.bridge.project is before
    assert not window.settings_panel.direction.heading.isEnabled()


def test_typed_values(window: MainWindow) -> None:
    panel = window.settings_panel

    enter(panel.standpoint.eye_height, "120 cm")
    assert active(window).eye[2] == pytest.approx(1.2, abs=1e-4)
    enter(panel.direction.heading, "-17.3")
    assert active(window).heading_deg == pytest.approx(342.7)
    enter(panel.lens.focal, "35")
    assert active(window).focal_mm == 35.0
    enter(panel.lens.angle, "90")
    assert active(window).focal_mm == pytest.approx(18.0)
    before = window.bridge.project
    enter(panel.lens.focal, "wide")
    assert window.bridge.project is before
    assert panel.lens.focal.property("wrong") is True
    QTest.keyClick(panel.lens.focal, Qt.Key.Key_Escape)
    assert panel.lens.focal.property("wrong") is False
    QTest.keyClick(panel.direction.tilt, Qt.Key.Key_Up)
    assert active(window).tilt_deg == pytest.approx(1.0)
    press(panel.direction.tilt_zero)
    assert active(window).tilt_deg == 0.0
    press(panel.standpoint.presets.buttons()[1])
    assert active(window).eye[2] == pytest.approx(1.2, abs=1e-4)


def test_dragging_a_field_is_one_step(window: MainWindow) -> None:
    field = window.settings_panel.lens.focal
    window.frame.setFocus()
    drag(field, QPointF(60, 10), QPointF(75, 10), QPointF(90, 10))
    assert active(window).focal_mm == pytest.approx(34.0)
    window.undo()
    assert active(window).focal_mm == 24.0
    assert window.bridge.document.undo_label is None


def test_settings_of_several_cameras_are_one_step(window: MainWindow) -> None:
    press_card(window, "cam-01")
    press_card(window, "cam-02", Qt.KeyboardModifier.ControlModifier)
    assert set(window.state.selected) == {"cam-01", "cam-02"}
    window.settings_panel.lens.focal.changed.emit(28.0)
    assert [camera.focal_mm for camera in window.bridge.project.cameras[:2]] == [28.0, 28.0]
    window.undo()
    assert [camera.focal_mm for camera in window.bridge.project.cameras[:2]] == [24.0, 24.0]


def test_plumb_and_formats(window: MainWindow) -> None:
    window.state.select("cam-08")
    assert active(window).tilt_deg > 10
    QTest.keyClick(window, Qt.Key.Key_P)
    assert active(window).tilt_deg == 0.0
    assert active(window).rise_mm > 5
    assert "0.0°" in window.facts._labels["lean"].text()
    assert window.bridge.document.undo_label == "Plumb"
    window.settings_panel.format.take("Square 1:1", 1080, 1080)
    assert (active(window).width_px, active(window).height_px) == (1080, 1080)


def test_cameras_are_chosen_on_the_plan_and_by_keys(window: MainWindow) -> None:
    other = window.bridge.project.camera_named("Hall from the quay doors")
    QTest.mouseClick(window.plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at(window, *other.eye[:2]).toPoint())
    assert window.state.active_id == other.id
    gallery = window.bridge.project.camera_named("Gallery, seated")
    window.state.select(gallery.id)
    assert window.plan.storey is not None
    assert window.plan.storey.name == "Gallery storey"
    ids = window.strip.ids()
    window.state.select(ids[0])
    QTest.keyClick(window, Qt.Key.Key_PageDown)
    assert window.state.active_id == ids[1]


def test_duplicate_remove_and_undo(window: MainWindow) -> None:
    count = len(window.bridge.project.cameras)
    window.duplicate_camera()
    assert active(window).name == "Waiting hall to the water 2"
    window.delete_cameras()
    assert len(window.bridge.project.cameras) == count
    window.undo()
    assert len(window.bridge.project.cameras) == count + 1
    assert len(window.strip.ids()) == count + 1


def test_no_floor_is_said_in_a_sentence(window: MainWindow) -> None:
    before = window.bridge.project
    window.plan.fit_to([(2000, 2000), (2010, 2010)])
    window._arm()
    drag(window.plan, at(window, 2005, 2005), at(window, 2006, 2006))
    assert window.notice_bar.isVisible()
    assert "no floor" in window.notice_bar.sentence
    assert window.bridge.project is before
    window.plan.fit()


def test_save_and_open_again(window: MainWindow) -> None:
    assert window.path is not None
    window.bridge.apply("x", lambda p: set_camera(p, "cam-01", name="Renamed"))
    assert window._saved.text() == "changes not saved"
    QTest.keyClick(window, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    assert read_project(window.path).cameras[0].name == "Renamed"
    assert window._saved.text() == "saved"
    assert window.recent() == [window.path]
    assert not window.open_path(window.path.with_name("none.altana"))
    assert "not there" in window.notice_bar.sentence
    assert window.bridge.project.cameras[0].name == "Renamed"


def test_save_elsewhere_takes_the_model_along(window: MainWindow, tmp_path: Path) -> None:
    old = window.path
    assert window.save_to(tmp_path / "copy.altana")
    assert (tmp_path / "larkwater.glb").is_file()
    assert read_project(tmp_path / "copy.altana") == window.bridge.project
    window.path = old


def test_every_control_has_a_name_and_a_tip(window: MainWindow) -> None:
    for index in (0, 2, 1):
        window.choose_desk(index)
    nameless = [
        (type(item).__name__, item.objectName(), type(item.parent()).__name__, getattr(item, "text", str)())
        for kind in (QAbstractButton, QLineEdit, QComboBox, QSlider)
        for item in window.findChildren(kind)
        if not item.objectName().startswith("qt_")
        # The little cross that empties a field belongs to the field.
        and not isinstance(item.parent(), QLineEdit)
        and not (item.accessibleName() and item.toolTip())
    ]
    assert nameless == []


def contrast(one: str, two: str) -> float:
    def brightness(name: str) -> float:
        parts = [value / 12.92 if value <= 0.03928 else ((value + 0.055) / 1.055) ** 2.4 for value in QColor(name).getRgbF()[:3]]  # type: ignore[index]
        return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]

    high, low = sorted((brightness(one), brightness(two)), reverse=True)
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize("tokens", [LIGHT, DARK], ids=["light", "dark"])
def test_text_keeps_its_contrast(tokens: Tokens) -> None:
    pairs = [
        (tokens.ink, tokens.paper),
        (tokens.ink, tokens.leaf),
        (tokens.pencil, tokens.paper),
        (tokens.pencil, tokens.leaf),
        (tokens.band_text, tokens.band),
        (tokens.on_verdigris, tokens.verdigris),
        (tokens.verdigris, tokens.leaf),
        (tokens.brick, tokens.paper),
        (tokens.ink, tokens.verdigris_wash),
    ]
    assert [(pair, contrast(*pair)) for pair in pairs if contrast(*pair) < 4.5] == []
