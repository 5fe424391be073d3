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
    camera = window.workspace.state.active
    assert camera is not None
    return camera


def at(window: MainWindow, x: float, y: float) -> QPointF:
    return window.compose.plan.to_screen(x, y)


def test_press_drag_release_stands_a_camera(window: MainWindow) -> None:
    count = len(window.workspace.bridge.project.cameras)
    press(window.compose.strip.stand_button)
    assert window.compose.plan.standing
    # Control: nothing holds the pointer.
    drag(
        window.compose.plan,
        at(window, 10.0, 3.0),
        at(window, 8.0, 6.0),
        at(window, 5.0, 12.0),
        modifier=Qt.KeyboardModifier.ControlModifier,
    )
    camera = active(window)
    assert len(window.workspace.bridge.project.cameras) == count + 1
    place = window.compose.plan.to_world(at(window, 10.0, 3.0).toPoint().toPointF())
    assert camera.eye[:2] == pytest.approx(place, abs=1e-6)
    assert camera.eye[2] == pytest.approx(1.60, abs=1e-4)
    aim = window.compose.plan.to_world(at(window, 5.0, 12.0).toPoint().toPointF())
    assert camera.heading_deg == pytest.approx(
        math.degrees(math.atan2(aim[0] - place[0], aim[1] - place[1])) % 360, abs=1e-6
    )
    assert camera.tilt_deg == 0.0
    assert camera.name == "Waiting hall, north-west"
    assert (window.workspace.bridge.document.undo_label, window.compose.plan.standing) == (
        "Stand a camera",
        False,
    )
    assert camera.id in window.compose.strip.ids()
    assert from_json(to_json(window.workspace.bridge.project), "x") == window.workspace.bridge.project
    window.workspace.bridge.undo()
    assert len(window.workspace.bridge.project.cameras) == count


def test_near_the_plans_edge_one_aims_where_one_drags(window: MainWindow) -> None:
    plan = window.compose.plan
    centre, bottom = plan.centre, plan.height() - 12
    eye, aim = QPointF(plan.width() / 2, bottom), QPointF(plan.width() / 2 + 60, bottom - 90)
    there, to = plan.to_world(eye), plan.to_world(aim)
    QTest.keyClick(window, Qt.Key.Key_C)
    drag(plan, eye, QPointF(eye.x() + 20, bottom - 40), aim, release=False)
    # The sheet lies still while the button is down.
    assert plan.centre == centre
    QTest.mouseRelease(plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, aim.toPoint())
    wanted = math.degrees(math.atan2(to[0] - there[0], to[1] - there[1])) % 360
    assert active(window).heading_deg == pytest.approx(wanted, abs=6.0)


@pytest.mark.parametrize(
    ("place", "floor"), [((2.0, 14.5), GALLERY_M), ((1.3, 2.1), LANDING_M)], ids=["gallery", "landing"]
)
def test_on_an_upper_storey_the_floor_is_the_one_really_there(
    window: MainWindow, place: tuple[float, float], floor: float
) -> None:
    window.compose.plan.controls.storeys.activated.emit(
        window.compose.plan.controls.storeys.findText("Gallery storey")
    )
    QTest.keyClick(window, Qt.Key.Key_C)
    drag(window.compose.plan, at(window, *place), at(window, place[0] + 1.0, place[1] + 2.0))
    assert active(window).eye[2] == pytest.approx(floor + 1.60, abs=2e-4)


def test_escape_takes_a_standing_camera_back(window: MainWindow) -> None:
    before = window.workspace.bridge.project
    window.table.run("camera.stand")
    drag(window.compose.plan, at(window, 10.0, 3.0), at(window, 8.0, 6.0), release=False)
    assert len(window.workspace.bridge.project.cameras) == len(before.cameras) + 1
    QTest.keyClick(window.compose.plan, Qt.Key.Key_Escape)
    assert window.workspace.bridge.project is before
    assert window.workspace.bridge.document.undo_label is None


def test_dragging_eye_aim_and_lens_edge(window: MainWindow) -> None:
    start = active(window)
    drag(window.compose.plan, at(window, *start.eye[:2]), at(window, 8.0, 3.0), at(window, 9.0, 4.0))
    moved = active(window)
    assert moved.eye == pytest.approx((9.0, 4.0, 1.6), abs=0.06)
    assert moved.heading_deg == start.heading_deg
    drag(window.compose.plan, at(window, *moved.aim[:2]), at(window, 12.0, 12.0))
    aimed = active(window)
    assert aimed.eye == moved.eye
    assert aimed.heading_deg == pytest.approx(
        math.degrees(math.atan2(12.0 - moved.eye[0], 12.0 - moved.eye[1])), abs=0.5
    )
    edge = window.compose.plan.cameras.edge_points(aimed)[1]
    aim = window.compose.plan.to_screen(*aimed.aim[:2])
    drag(window.compose.plan, edge, edge + (aim - edge) * 0.4)
    assert active(window).focal_mm > aimed.focal_mm * 1.3
    assert active(window).eye == aimed.eye
    assert [window.workspace.bridge.document.undo_label] == ["Change lens"]
    for _ in range(3):
        window.workspace.bridge.undo()
    assert active(window) == start


def test_the_eye_keeps_its_height_above_the_floor_when_dragged_onto_the_quay(window: MainWindow) -> None:
    start = active(window)
    outside = at(window, 5.0, -6.0)
    window.compose.plan.fit_to([(0, -9), (14, 18)])
    outside = at(window, 5.0, -6.0)
    drag(window.compose.plan, at(window, *start.eye[:2]), outside)
    assert active(window).eye[2] == pytest.approx(-0.15 + 1.6, abs=1e-3)


def test_pictures_follow_and_sharpen(window: MainWindow) -> None:
    looks: list[str] = []
    window.workspace.studio.picture.connect(
        lambda channel, revision, image, look: looks.append(look) if channel == "frame" else None
    )
    window.workspace.state.select("cam-02")

    def sharp() -> bool:
        return window.compose.frame.picture.current and window.compose.frame.picture.look == "still"

    until(sharp)
    first = window.compose.frame.picture.image
    assert first is not None
    assert first.width() >= window.compose.frame.frame_rect().width() - 1
    drag(window.compose.frame, QPointF(400, 200), QPointF(420, 200), QPointF(480, 200), release=False)
    places = itertools.count(1)

    def moved_and_coarse() -> bool:
        # The hand goes on moving; a hand that rests gets the full picture instead.
        at = QPoint(480 + next(places) % 40, 200)
        left, none = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton
        sent = QMouseEvent(
            QEvent.Type.MouseMove,
            QPointF(at),
            QPointF(window.compose.frame.mapToGlobal(at)),
            none,
            left,
            Qt.KeyboardModifier.NoModifier,
        )
        QApplication.sendEvent(window.compose.frame, sent)
        return "coarse" in looks

    until(moved_and_coarse)
    QTest.mouseRelease(window.compose.frame, Qt.MouseButton.LeftButton)
    until(sharp)
    shown = window.compose.frame.picture.image
    assert shown is not None
    assert shown != first
    assert window.workspace.bridge.document.undo_label == "Turn camera"


def test_frame_is_exact_whatever_the_windows_shape(window: MainWindow) -> None:
    for camera_id in ("cam-01", "cam-08"):
        window.workspace.state.select(camera_id)
        camera, rect = active(window), window.compose.frame.frame_rect()
        assert rect.width() / rect.height() == pytest.approx(camera.width_px / camera.height_px, rel=0.01)
    before = window.workspace.bridge.project
    wide = window.compose.frame.width()
    window.resize(1500, 700)
    until(lambda: window.compose.frame.width() != wide)
    rect = window.compose.frame.frame_rect()
    assert rect.width() / rect.height() == pytest.approx(1080 / 1350, rel=0.01)
    assert window.workspace.bridge.project is before
    window.resize(1280, 800)


def test_held_moves_the_camera_loose_does_not(window: MainWindow) -> None:
    start = active(window)
    window.compose.frame.choose_way("slide")
    drag(window.compose.frame, QPointF(400, 200), QPointF(300, 200))
    slid = active(window)
    assert slid.eye != start.eye
    assert slid.eye[2] == start.eye[2]
    QTest.keyClick(window, Qt.Key.Key_L)
    assert window.compose.frame.ribbon.isVisible()
    assert "not moved" in window.compose.frame.ribbon.text.text()
    drag(window.compose.frame, QPointF(400, 200), QPointF(300, 200))
    assert active(window) == slid
    assert window.workspace.state.loose is not None
    assert window.workspace.state.loose.eye != slid.eye
    label = window.workspace.bridge.document.undo_label
    press(window.compose.frame.ribbon.back)
    assert window.workspace.state.loose is None
    assert (active(window), window.workspace.bridge.document.undo_label) == (slid, label)
    window.compose.frame.choose_way("turn")


def test_ways_out_of_loose(window: MainWindow) -> None:
    start, count = active(window), len(window.workspace.bridge.project.cameras)
    window.workspace.state.let_loose()
    drag(window.compose.frame, QPointF(400, 200), QPointF(300, 220))
    seen = window.workspace.state.loose
    assert seen is not None
    press(window.compose.frame.ribbon.keep)
    assert len(window.workspace.bridge.project.cameras) == count + 1
    assert active(window).pose == seen.pose
    assert window.workspace.bridge.project.camera("cam-01") == start
    window.workspace.state.select("cam-01")
    window.workspace.state.let_loose()
    drag(window.compose.frame, QPointF(400, 200), QPointF(300, 220))
    press(window.compose.frame.ribbon.move_here)
    assert window.workspace.state.loose is None
    assert active(window).pose != start.pose
    window.workspace.bridge.undo()
    assert active(window) == start


def test_a_locked_camera_is_always_loose(window: MainWindow) -> None:
    window.workspace.bridge.apply("Lock", lambda p: set_camera(p, "cam-01", locked=True))
    window.workspace.state.select("cam-01")
    before = window.workspace.bridge.project
    drag(window.compose.frame, QPointF(400, 200), QPointF(300, 220))
    drag(window.compose.plan, at(window, *active(window).eye[:2]), at(window, 9.0, 4.0))
    QTest.keyClick(window, Qt.Key.Key_L)
    assert window.workspace.state.loose is not None
    assert not window.workspace.state.held
    assert window.workspace.bridge.project is before
    assert not window.compose.settings.direction.heading.isEnabled()


def test_typed_values(window: MainWindow) -> None:
    panel = window.compose.settings

    enter(panel.standpoint.eye_height, "120 cm")
    assert active(window).eye[2] == pytest.approx(1.2, abs=1e-4)
    enter(panel.direction.heading, "-17.3")
    assert active(window).heading_deg == pytest.approx(342.7)
    enter(panel.lens.focal, "35")
    assert active(window).focal_mm == 35.0
    enter(panel.lens.angle, "90")
    assert active(window).focal_mm == pytest.approx(18.0)
    before = window.workspace.bridge.project
    enter(panel.lens.focal, "wide")
    assert window.workspace.bridge.project is before
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
    field = window.compose.settings.lens.focal
    window.compose.frame.setFocus()
    drag(field, QPointF(60, 10), QPointF(75, 10), QPointF(90, 10))
    assert active(window).focal_mm == pytest.approx(34.0)
    window.workspace.bridge.undo()
    assert active(window).focal_mm == 24.0
    assert window.workspace.bridge.document.undo_label is None


def test_settings_of_several_cameras_are_one_step(window: MainWindow) -> None:
    press_card(window, "cam-01")
    press_card(window, "cam-02", Qt.KeyboardModifier.ControlModifier)
    assert set(window.workspace.state.selected) == {"cam-01", "cam-02"}
    window.compose.settings.lens.focal.changed.emit(28.0)
    assert [camera.focal_mm for camera in window.workspace.bridge.project.cameras[:2]] == [28.0, 28.0]
    window.workspace.bridge.undo()
    assert [camera.focal_mm for camera in window.workspace.bridge.project.cameras[:2]] == [24.0, 24.0]


def test_plumb_and_formats(window: MainWindow) -> None:
    window.workspace.state.select("cam-08")
    assert active(window).tilt_deg > 10
    QTest.keyClick(window, Qt.Key.Key_P)
    assert active(window).tilt_deg == 0.0
    assert active(window).rise_mm > 5
    assert "0.0°" in window.compose.facts.labels["lean"].text()
    assert window.workspace.bridge.document.undo_label == "Plumb"
    window.compose.settings.format.take("Square 1:1", 1080, 1080)
    assert (active(window).width_px, active(window).height_px) == (1080, 1080)


def test_a_typed_side_keeps_the_proportion_and_both_may_be_typed(window: MainWindow) -> None:
    settings = window.compose.settings.format
    settings.take("Tall 9:16", 1080, 1920)
    enter(settings.width, "3240")
    assert (active(window).width_px, active(window).height_px) == (3240, 5760)
    enter(settings.height, "10 x 7 in")
    assert (active(window).width_px, active(window).height_px) == (3000, 2100)
    settings.kept.buttons()[0].click()
    enter(settings.width, "2000")
    assert (active(window).width_px, active(window).height_px) == (2000, 2100)
    settings.kept.buttons()[1].click()


def test_cameras_are_chosen_on_the_plan_and_by_keys(window: MainWindow) -> None:
    other = window.workspace.bridge.project.camera_named("Hall from the quay doors")
    QTest.mouseClick(
        window.compose.plan,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
        at(window, *other.eye[:2]).toPoint(),
    )
    assert window.workspace.state.active_id == other.id
    gallery = window.workspace.bridge.project.camera_named("Gallery, seated")
    window.workspace.state.select(gallery.id)
    assert window.compose.plan.storey is not None
    assert window.compose.plan.storey.name == "Gallery storey"
    ids = window.compose.strip.ids()
    window.workspace.state.select(ids[0])
    QTest.keyClick(window, Qt.Key.Key_PageDown)
    assert window.workspace.state.active_id == ids[1]


def test_duplicate_remove_and_undo(window: MainWindow) -> None:
    count = len(window.workspace.bridge.project.cameras)
    window.cameras.duplicate_camera()
    assert active(window).name == "Waiting hall to the water 2"
    window.cameras.delete_cameras()
    assert len(window.workspace.bridge.project.cameras) == count
    window.workspace.bridge.undo()
    assert len(window.workspace.bridge.project.cameras) == count + 1
    assert len(window.compose.strip.ids()) == count + 1


def test_no_floor_is_said_in_a_sentence(window: MainWindow) -> None:
    before = window.workspace.bridge.project
    window.compose.plan.fit_to([(2000, 2000), (2010, 2010)])
    window.table.run("camera.stand")
    drag(window.compose.plan, at(window, 2005, 2005), at(window, 2006, 2006))
    assert window.notice_bar.isVisible()
    assert "no floor" in window.notice_bar.sentence
    assert window.workspace.bridge.project is before
    window.compose.plan.fit()


def test_save_and_open_again(window: MainWindow) -> None:
    assert window.files.path is not None
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", name="Renamed"))
    assert window.activity.saved.text() == "changes not saved"
    QTest.keyClick(window, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    assert read_project(window.files.path).cameras[0].name == "Renamed"
    assert window.activity.saved.text() == "saved"
    assert window.files.recent()[0] == window.files.path
    assert not window.files.open_path(window.files.path.with_name("none.altana"))
    assert "not there" in window.notice_bar.sentence
    assert window.workspace.bridge.project.cameras[0].name == "Renamed"


def test_save_elsewhere_takes_the_model_along(window: MainWindow, tmp_path: Path) -> None:
    old = window.files.path
    assert window.files.save_to(tmp_path / "copy.altana")
    assert (tmp_path / "larkwater.glb").is_file()
    assert read_project(tmp_path / "copy.altana") == window.workspace.bridge.project
    # Everything goes back with it, or what later tests make lies in two places.
    window.files.path = old
    window.files.moved.emit()


def test_every_control_has_a_name_and_a_tip(window: MainWindow) -> None:
    for index in (0, 2, 1):
        window.going.choose_desk(index)
    window.show_preferences()
    nameless = [
        (type(item).__name__, item.objectName(), type(item.parent()).__name__, getattr(item, "text", str)())
        for kind in (QAbstractButton, QLineEdit, QComboBox, QSlider)
        for item in window.findChildren(kind)
        if not item.objectName().startswith("qt_")
        # What another test closed is no more to be seen; what is folded away is.
        and not (item.window().isHidden() and item.window() is not window)
        # The little cross that empties a field belongs to the field.
        and not isinstance(item.parent(), QLineEdit)
        and not (item.accessibleName() and item.toolTip())
    ]
    window.preferences_page.accept()
    assert nameless == []


def contrast(one: str, two: str) -> float:
    def brightness(name: str) -> float:
        parts = [
            value / 12.92 if value <= 0.03928 else ((value + 0.055) / 1.055) ** 2.4
            for value in QColor(name).getRgbF()[:3]
        ]  # type: ignore[index]
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


def test_every_folded_group_still_shows_its_key_figure(window: MainWindow) -> None:
    figures = {name: group.figure for name, group in window.compose.settings.groups.items()}
    assert figures["cut"] == "off" and figures["verticals"] == "true" and figures["lens"] == "24 mm"
    assert all(text for name, text in figures.items() if name != "intent"), figures
