"""Smaller parts of the window: fields, groups, strips of many cameras, closing, dropping, the menu."""

from __future__ import annotations

from pathlib import Path

import pytest
from PySide6.QtCore import QEvent, QMimeData, QPoint, Qt, QUrl
from PySide6.QtGui import QDragEnterEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QMessageBox, QSizePolicy

from altana.app.canvas.picture_view import pixels_of
from altana.app.shell import files as files_module
from altana.app.shell.commands.keys_page import ShortcutPage
from altana.app.shell.export import ExportSheet
from altana.app.shell.preferences_page import PreferencesPage
from altana.app.shell.window import MainWindow
from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import Group, OneLine, Segments
from altana.app.workspace.bridge import Bridge
from altana.app.workspace.notices import Notices
from altana.app.workspace.view_state import ViewState
from altana.core.edits.cameras import add_camera, remove_camera, set_camera
from altana.core.edits.shots import set_making
from altana.core.errors import UserError
from altana.core.project import Camera, Making, Project, Walk
from altana.jobs.requests import Part
from tests.app.conftest import press, until


@pytest.fixture
def bridge(application: QApplication) -> Bridge:
    project = Project("P")
    for name in ("A", "B", "C"):
        project, _ = add_camera(project, Camera("", name))
    return Bridge(project, Notices())


def test_the_bridge_says_what_changed(bridge: Bridge) -> None:
    heard: list[str] = []
    for name in (
        "cameras_changed",
        "walks_changed",
        "models_changed",
        "light_changed",
        "name_changed",
        "settled",
    ):
        getattr(bridge, name).connect(lambda name=name: heard.append(name))
    bridge.apply("x", lambda p: set_camera(p, "cam-01", focal_mm=50.0))
    assert heard == ["cameras_changed", "settled"]
    heard.clear()
    bridge.begin()
    bridge.preview(lambda p: set_camera(p, "cam-01", focal_mm=60.0))
    bridge.preview(lambda p: set_camera(p, "cam-01", focal_mm=-1.0))
    assert heard == ["cameras_changed"]
    assert bridge.project.cameras[0].focal_mm == 60.0
    bridge.cancel()
    assert bridge.project.cameras[0].focal_mm == 50.0
    said: list[str] = []
    bridge.notices.told.connect(lambda notice: said.append(notice.sentence))
    assert not bridge.apply("x", lambda p: set_camera(p, "cam-01", focal_mm=-1.0))
    assert "focal length" in said[0]
    assert bridge.apply_adding("x", lambda p: add_camera(p, Camera("", "D"))) == "cam-04"
    assert bridge.apply_adding("x", lambda p: add_camera(p, Camera("", "E", focal_mm=0.0))) == ""


def test_selection_survives_edits_and_follows_removals(bridge: Bridge) -> None:
    state = ViewState(bridge)
    state.select("cam-02")
    state.select("cam-03", add=True)
    assert (state.selected, state.active_id) == (("cam-02", "cam-03"), "cam-03")
    state.select("cam-03", add=True)
    assert (state.selected, state.active_id) == (("cam-02",), "cam-02")
    bridge.apply("x", lambda p: remove_camera(p, "cam-02"))
    assert state.active_id == "cam-01"
    state.let_loose()
    assert not state.held
    bridge.document.undo()
    assert state.loose is not None
    state.back_to_camera()
    assert state.held


def typed(field: NumberField, text: str) -> None:
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, text)
    QTest.keyClick(field, Qt.Key.Key_Return)


@pytest.mark.parametrize(
    ("text", "value"), [("2", 2.0), ("250 cm", 2.5), ("99", 5.0), ("-3", 0.0), ("4'", 1.2192)]
)
def test_number_fields_take_units_and_keep_their_range(
    application: QApplication, text: str, value: float
) -> None:
    field = NumberField("Height", "Tip", "m", 2, 0.1, 0.0, 5.0)
    field.show()
    heard: list[float] = []
    field.changed.connect(heard.append)
    field.show_value(1.0)
    assert (field.text(), heard) == ("1.00 m", [])
    typed(field, text)
    assert heard == [pytest.approx(value)]
    assert field.text() == f"{value:.2f} m"


def test_number_fields_step_and_refuse(application: QApplication) -> None:
    field = NumberField("Tilt", "Tip", "°", 1, 1.0)
    field.show()
    heard: list[float] = []
    field.changed.connect(heard.append)
    QTest.keyClick(field, Qt.Key.Key_Up)
    QTest.keyClick(field, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    QTest.keyClick(field, Qt.Key.Key_Down)
    assert heard == [1.0, 11.0, 10.0]
    typed(field, "north")
    assert heard == [1.0, 11.0, 10.0]
    assert "not a number" in field.toolTip()
    field.show_value(-0.04)
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert field.text() == "0.0°"


def test_segments_and_groups(application: QApplication) -> None:
    segments = Segments([("One", "first"), ("Two", "second")])
    chosen: list[int] = []
    segments.chosen.connect(chosen.append)
    segments.take(0)
    assert [item.isChecked() for item in segments.buttons()] == [True, False]
    press(segments.buttons()[1])
    assert chosen == [1]
    segments.take(-1)
    assert not any(item.isChecked() for item in segments.buttons())
    group = Group("Lens")
    group.show_figure("24 mm")
    press(group.heading)
    assert group.body.isHidden()
    press(group.heading)
    assert not group.body.isHidden()
    assert group.figure == "24 mm"


def test_a_line_that_does_not_fit_ends_in_an_ellipsis(application: QApplication) -> None:
    line = OneLine("quiet")
    line.tell("3 of 12 made, 21 min left. Waiting hall to the water, Tall 9:16 (4 of 12)")
    line.resize(200, 20)
    assert line.shown_text().endswith("…") and line.text().startswith(line.shown_text()[:-1])
    assert line.toolTip() == line.text()
    pixels = pixels_of(line.grab().toImage())
    assert pixels[:, :190].min() < 150
    # It has no part in how wide its window is.
    assert line.sizePolicy().horizontalPolicy() == QSizePolicy.Policy.Ignored
    line.resize(900, 20)
    assert line.shown_text() == line.text()


def test_the_sheet_says_what_was_chosen(application: QApplication, tmp_path: Path) -> None:
    project = set_making(Project(), "review", Making(8, 9))
    # Several cameras, each in its own size.
    sheet = ExportSheet(None, "Make stills", "x", tmp_path, None, project)  # type: ignore[arg-type]
    assert sheet.quality.buttons()[1].toolTip() == "Passes: 9"
    order = sheet.order(("cam-01",), ())
    assert (order.quality, order.kind, order.scale, sheet.out) == ("review", "png", 100.0, tmp_path)
    sheet.quality.chosen.emit(2)
    sheet.size_choice.setCurrentIndex(1)
    sheet.kind.setCurrentIndex(1)
    order = sheet.order(("cam-01",), ())
    assert (order.quality, order.kind, order.scale) == ("final", "jpg", 50.0)


def test_the_film_sheet_asks_for_the_part(application: QApplication, tmp_path: Path) -> None:
    walk = Walk("w", "Up", (), seconds=8.0, rate="30000/1001")
    sheet = ExportSheet(None, "Make film", "x", tmp_path, (320, 180), Project(walks=(walk,)), walk=walk)  # type: ignore[arg-type]
    assert sheet.order((), ("w",)).part == Part()
    assert "240 film frames" in sheet.expected.text()
    sheet.from_field.show_value(1.5)
    sheet.to_field.show_value(3.0)
    sheet.step_choice.setCurrentIndex(1)
    sheet.strip.setChecked(True)
    sheet.keep.setChecked(True)
    sheet.kind.setCurrentIndex(2)
    order = sheet.order((), ("w",))
    assert (order.part, order.film) == (Part(1.5, 3.0, 2, 15, True), "mov")


def test_two_hundred_cameras_in_the_strip(window: MainWindow) -> None:
    def many(project: Project) -> Project:
        for number in range(200):
            project, _ = add_camera(
                project, Camera("", f"Many {number}", (float(number % 14), 5.0, 1.6), inside=number % 2 == 0)
            )
        return project

    window.workspace.bridge.apply("Many", many)
    strip = window.compose.strip
    assert len(strip.ids()) == 220
    window.workspace.state.select("cam-150")
    rows = list(strip.rows.rows)
    window.workspace.bridge.apply("One", lambda p: set_camera(p, "cam-150", focal_mm=50.0))
    changed = [
        new
        for old, new in zip(rows, strip.rows.rows, strict=True)
        if old is not new and isinstance(new, Camera)
    ]
    assert [camera.id for camera in changed] == ["cam-150"]
    assert "50 mm" in strip.told(changed[0]).line
    asked = len(strip._told)
    strip.view.grab()
    # Only cards in sight are found out about.
    assert len(strip._told) - asked < 12
    window.workspace.bridge.undo()
    window.workspace.bridge.undo()
    assert len(strip.ids()) == 20


def test_thumbnails_come_for_all_cameras(window: MainWindow) -> None:
    until(
        lambda: all(
            window.compose.strip.thumb(camera_id) is not None for camera_id in window.compose.strip.ids()
        ),
        90,
    )
    tall = window.compose.strip.thumb("cam-08")
    assert tall is not None
    assert tall.width() / tall.height() == pytest.approx(1080 / 1350, rel=0.03)


def test_unsaved_changes_are_asked_about(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    window.workspace.bridge.apply("x", lambda p: set_camera(p, "cam-01", focal_mm=50.0))
    asked: list[str] = []

    class Box(QMessageBox):
        answer = "Stay here"

        def exec(self) -> int:
            asked.append(self.text())
            next(item for item in self.buttons() if item.text() == self.answer).click()
            return 0

    monkeypatch.setattr(files_module, "QMessageBox", Box)
    assert not window.files.may_leave()
    assert "not saved" in asked[0]
    Box.answer = "Discard changes"
    assert window.files.may_leave()
    assert window.workspace.bridge.document.changed
    Box.answer = "Save"
    assert window.files.may_leave()
    assert not window.workspace.bridge.document.changed
    assert window.files.may_leave()
    assert len(asked) == 3


def test_what_may_be_dropped(window: MainWindow, tmp_path: Path) -> None:
    for name, taken in (("a.ifc", True), ("a.altana", True), ("a.txt", False)):
        data = QMimeData()
        data.setUrls([QUrl.fromLocalFile(str(tmp_path / name))])
        event = QDragEnterEvent(
            QPoint(5, 5),
            Qt.DropAction.CopyAction,
            data,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
        )
        event.ignore()
        window.dragEnterEvent(event)
        assert event.isAccepted() == taken, name


def test_the_project_menu_and_the_camera_menu(window: MainWindow) -> None:
    window.top.fill_menu()
    texts = [action.text() for action in window.top.menu.actions() if action.text()]
    assert texts[:3] == ["Project", "Edit", "Camera"]
    inside = [
        action.text() for menu in window.top.menu.actions() if menu.menu() for action in menu.menu().actions()
    ]  # type: ignore[union-attr]
    assert {command.title for command in window.table} <= set(inside)
    window.cameras.toggle_locked()
    assert window.workspace.bridge.project.cameras[0].locked
    assert window.workspace.state.loose is not None
    window.cameras.delete_cameras()
    assert window.workspace.bridge.project.camera("cam-01") is not None
    window.cameras.toggle_locked()
    assert window.workspace.state.held


def test_without_a_display_it_says_so(monkeypatch: pytest.MonkeyPatch) -> None:
    from altana.app.shell.main import start

    for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"):
        monkeypatch.delenv(name, raising=False)
    with pytest.raises(UserError, match="no display"):
        start(None)


def test_closed_pages_of_a_kind_do_not_pile_up(window: MainWindow) -> None:
    def kept(kind: type[QDialog]) -> int:
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        return len(window.findChildren(kind))

    for _ in range(4):
        window.show_keys()
        window.keys_page.reject()
        window.show_preferences()
        window.preferences_page.reject()
        window.making.make_stills()
        assert window.making.sheet is not None
        window.making.sheet.reject()
    assert (kept(ShortcutPage), kept(PreferencesPage), kept(ExportSheet)) == (1, 1, 1)
    # The one that was closed last can still be asked what was chosen in it.
    assert window.making.sheet.size_field.size_px == (1920, 1080)
