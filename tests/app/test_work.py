"""Stills, walks and films through the window; children that die; first start."""

from __future__ import annotations

import os
import signal
import sys
from dataclasses import replace
from pathlib import Path

import pytest
from PySide6.QtCore import QObject, QSettings, Qt
from PySide6.QtGui import QPainterPath
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from altana.app.shell import main as start_module
from altana.app.shell.window import COMPOSE, WALK, MainWindow
from altana.core.edits.walks import set_walk
from altana.core.project import Project
from altana.render.film_file import film_facts
from altana.storage.project_file import from_json, to_json
from tests.app.conftest import press, until
from tests.conftest import picture_at


@pytest.mark.slow
def test_stills_are_made_in_the_background(window: MainWindow, tmp_path: Path) -> None:
    window.workspace.state.select("cam-08")
    told: list[tuple[float, str]] = []
    ended: list[tuple[bool, str]] = []
    window.making.work.progress.connect(lambda share, label, left: told.append((share, label)))
    window.making.work.finished.connect(lambda good, said, folder: ended.append((good, said)))
    window.making.make_stills()
    sheet = window.making.sheet
    sheet.folder.setText(str(tmp_path / "out"))
    sheet.quality.chosen.emit(0)
    sheet.size_field.width_field.setText("25 %")
    sheet.size_field.width_field.setModified(True)
    sheet.size_field.width_field.editingFinished.emit()
    assert sheet.size_field.size_px == (270, 338)
    press(sheet.go)
    assert window.making.work.running
    window.making.make_stills()
    assert "already" in window.notice_bar.sentence
    until(lambda: bool(ended), 90)
    assert ended[0][0], ended
    assert picture_at(tmp_path / "out" / "tower-from-the-forecourt.png").shape == (338, 270, 3)
    assert window.activity.open_folder.isVisible()
    assert any("Tower" in label for _, label in told)


@pytest.mark.slow
def test_a_job_can_be_cancelled(window: MainWindow, tmp_path: Path) -> None:
    ended: list[tuple[bool, str]] = []
    window.making.work.finished.connect(lambda good, said, folder: ended.append((good, said)))

    def small(project: Project) -> Project:
        same = {"width_px": 480, "height_px": 270, "formats": (), "format_index": 0}
        return replace(project, cameras=tuple(replace(item, **same) for item in project.cameras))

    window.workspace.bridge.apply("small", small)
    for camera_id in window.compose.strip.ids()[1:]:
        window.workspace.state.select(camera_id, True)
    window.making.make_stills()
    window.making.sheet.folder.setText(str(tmp_path))
    window.making.sheet.quality.chosen.emit(0)
    press(window.making.sheet.go)
    until(lambda: len(list(tmp_path.glob("*.png"))) >= 1, 90)
    press(window.activity.cancel)
    until(lambda: bool(ended), 60)
    pictures = list(tmp_path.glob("*.png"))
    assert not ended[0][0]
    assert "kept" in ended[0][1]
    assert 1 <= len(pictures) < len(window.compose.strip.ids())
    # Beside each stands its camera, and nothing else.
    assert {path.name for path in tmp_path.iterdir()} == {
        name for path in pictures for name in (path.name, f"{path.name}.camera.json")
    }
    assert not window.making.work.running


@pytest.mark.slow
def test_a_walk_is_drawn_played_and_filmed(window: MainWindow, tmp_path: Path) -> None:
    window.going.choose_desk(WALK)
    desk = window.walk_desk
    until(lambda: desk.line is not None)
    QApplication.processEvents()
    press(desk.walks.draw)
    desk.plan.fit_to([(0, 0), (14, 18)])
    for x, y in ((6.0, 2.0), (9.2, 4.0), (9.2, 12.0)):
        QTest.mouseClick(
            desk.plan,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
            desk.plan.to_screen(x, y).toPoint(),
        )
    QTest.keyClick(window, Qt.Key.Key_Return)
    walk = window.workspace.state.walk
    assert walk is not None
    assert len(walk.keys) == 3
    assert all(key.eye[2] == pytest.approx(1.6, abs=1e-3) for key in walk.keys)
    assert window.workspace.bridge.document.undo_label == "Add walk"
    assert from_json(to_json(window.workspace.bridge.project), "x") == window.workspace.bridge.project
    desk.settings.timing.seconds.changed.emit(1.0)
    desk.settings.timing.rate.setCurrentText("12")
    desk.settings.timing.rate.activated.emit(0)
    window.workspace.bridge.apply(
        "size", lambda p: set_walk(p, walk.id, rate="12", width_px=96, height_px=54)
    )
    moments: list[float] = []
    window.workspace.state.moment_changed.connect(moments.append)
    press(desk.bar.play)
    until(lambda: desk.bar.play.text() == "Play" and window.workspace.state.moment == pytest.approx(1.0), 20)
    assert moments == sorted(moments)
    desk.bar.slider.setValue(50)
    camera = desk.camera_at(0.5)
    assert camera is not None
    assert (camera.tilt_deg, camera.roll_deg) == (0.0, 0.0)
    assert desk.frame.camera == camera
    ended: list[tuple[bool, str]] = []
    window.making.work.finished.connect(lambda good, said, folder: ended.append((good, said)))
    window.making.make_film()
    window.making.sheet.folder.setText(str(tmp_path))
    window.making.sheet.quality.chosen.emit(0)
    press(window.making.sheet.go)
    until(lambda: bool(ended), 90)
    assert ended[0][0], ended
    facts = film_facts(tmp_path / "walk.mp4")
    assert (facts.frames, facts.rate, facts.width, facts.height) == (12, 12, 96, 54)


def test_a_walk_through_chosen_cameras(window: MainWindow) -> None:
    window.workspace.state.select("cam-01")
    window.workspace.state.select("cam-02", True)
    window.going.choose_desk(WALK)
    press(window.walk_desk.walks.from_cameras)
    walk = window.workspace.state.walk
    assert walk is not None
    assert [key.eye for key in walk.keys] == [
        camera.eye for camera in window.workspace.bridge.project.cameras[:2]
    ]
    assert walk.looking == "keyed"
    press(window.walk_desk.settings.route.reverse)
    turned = window.workspace.state.walk
    assert turned is not None
    assert turned.keys[0].eye == walk.keys[1].eye
    press(window.walk_desk.settings.route.remove)
    assert len(window.workspace.bridge.project.walks) == 2
    window.going.choose_desk(COMPOSE)


def test_a_picture_process_that_dies_comes_back(window: MainWindow) -> None:
    arrived: list[str] = []
    window.workspace.studio.picture.connect(lambda channel, revision, image, look: arrived.append(channel))
    # The Frame may be at rest already: another camera wants another picture.
    window.workspace.state.select("cam-03")
    until(lambda: "frame" in arrived)
    os.kill(window.workspace.studio.pictures.service.process_id, signal.SIGKILL)
    until(lambda: window.workspace.studio.pictures.service.restarts >= 1, 20)
    arrived.clear()
    until(lambda: "frame" in arrived)


def test_dropping_and_damaged_files(window: MainWindow, tmp_path: Path) -> None:
    broken = tmp_path / "broken.altana"
    broken.write_text("{")
    before = window.workspace.bridge.project
    assert not window.files.open_path(broken)
    assert "damaged" in window.notice_bar.sentence
    assert window.workspace.bridge.project is before
    model = tmp_path / "broken.glb"
    model.write_bytes(b"glTF" + b"\0" * 50)
    window.workspace.notices.note("nothing yet")
    assert window.files.start_project([model], tmp_path / "new.altana")
    until(lambda: "broken.glb" in window.notice_bar.sentence, 30)
    assert window.workspace.bridge.project is before
    assert not (tmp_path / "new.altana").exists()


def test_first_start_writes_and_opens_the_demo(
    window: MainWindow, demo_files: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(start_module, "demo_folder", lambda: demo_files)
    empty = QSettings(str(tmp_path / "empty.ini"), QSettings.Format.IniFormat)
    monkeypatch.setattr(window.files, "settings", empty)
    path = window.files.path
    # Nothing is opened unasked: the first page offers what was opened lately, the demo, a file of one's own.
    page = start_module._first(window, None)
    assert page is not None
    press(page.demo)
    assert window.files.path == (demo_files / "larkwater.altana").resolve()
    assert "demo" in window.notice_bar.sentence
    assert window.notice_bar.own.isVisible()
    assert path is not None
    window.files.open_path(path)
    until(lambda: window.workspace.studio.scene is not None and window.compose.plan.drawing is not None)


def test_the_interface_library_counts_its_references() -> None:
    """One release of the library loses a reference to None in every call, which ends the process after a
    while."""
    path, thing = QPainterPath(), QObject()
    before = sys.getrefcount(None)
    for _ in range(500):
        path.moveTo(1.0, 2.0)
        thing.setObjectName("x")
    assert abs(sys.getrefcount(None) - before) < 250
