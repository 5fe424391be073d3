"""Sending, taking in and remarks through the window."""

from __future__ import annotations

import contextlib
import datetime
import io
from dataclasses import replace
from pathlib import Path

import psutil
import pytest
from PIL import Image
from PySide6.QtCore import QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent

from altana.app.shell.window import MainWindow
from altana.core.edits.remarks import keep_remark
from altana.core.project import Remark
from altana.exchange.bcf_in import read_bcf
from altana.exchange.bcf_out import Sending, write_bcf
from tests.app.conftest import press, until

NOW = datetime.datetime(2026, 5, 4, 9, 30, tzinfo=datetime.UTC)


def snapshot() -> bytes:
    picture = io.BytesIO()
    Image.new("RGB", (160, 90), (200, 160, 90)).save(picture, "PNG")
    return picture.getvalue()


@pytest.fixture
def site(window: MainWindow, tmp_path: Path) -> Path:
    """A BCF of two remarks about the demo."""
    path = tmp_path / "site.bcf"
    hall, tower = (
        window.workspace.bridge.project.camera_named(name)
        for name in ("Waiting hall to the water", "Tower from the forecourt")
    )
    sent = [
        Sending(replace(camera, id="", name=name, intent=title, note="Please look."), snapshot())
        for camera, name, title in ((hall, "a", "Too dark?"), (tower, "b", "Is it plumb?"))
    ]
    write_bcf(path, "Site", "site@example.org", sent, (0.0, 0.0, 0.0), "3.0", NOW)
    return path


def test_a_dropped_file_is_offered_and_only_what_is_ticked_is_taken(window: MainWindow, site: Path) -> None:
    before = window.workspace.bridge.project
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(site))])
    window.dropEvent(
        QDropEvent(
            QPointF(10, 10),
            Qt.DropAction.CopyAction,
            data,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
        )
    )
    until(lambda: window.exchange.take_page is not None and window.exchange.take_page.isVisible(), 20)
    page = window.exchange.take_page
    assert page is not None and window.workspace.bridge.project == before
    names = [page.list.item(row).text() for row in range(page.list.count())]
    assert sorted(names) == ["Is it plumb?  ·  remark", "Too dark?  ·  remark"]
    page.list.setCurrentRow(names.index("Too dark?  ·  remark"))
    assert "site@example.org" in page.words.text() and not page.picture.isHidden()
    page.list.item(names.index("Is it plumb?  ·  remark")).setCheckState(Qt.CheckState.Unchecked)
    assert page.take.text() == "Take 1"
    press(page.take)
    project = window.workspace.bridge.project
    assert [item.title for item in project.remarks] == ["Too dark?"]
    assert len(project.cameras) == len(before.cameras) + 1
    assert window.workspace.state.active is not None and window.workspace.state.active.name == "Too dark?"
    assert (window.files.project_path.parent / project.remarks[0].picture).is_file()
    window.workspace.bridge.undo()
    assert window.workspace.bridge.project == before


@pytest.mark.slow
def test_remarks_are_answered_and_sent_back(window: MainWindow, site: Path, tmp_path: Path) -> None:
    window.exchange.take_page = None
    window.exchange.look_into(site)
    until(lambda: window.exchange.take_page is not None, 20)
    press(window.exchange.take_page.take)  # type: ignore[union-attr]
    press(window.handover.side.remarks)
    page = window.exchange.remarks_page
    assert page is not None and page.list.count() == 2
    assert page.summary.text() == "2 remarks, 0 answered."
    titles = [page.list.item(row).text().split("\n")[0] for row in range(2)]
    page.list.setCurrentRow(titles.index("• Too dark?"))
    assert not page.picture.isHidden() and "Please look." in page.words.text()
    assert page.camera.currentText() == "Too dark?" and not page.send.isEnabled()
    page.answer.setText("A lamp was added.")
    press(page.answered)
    remark = next(item for item in window.workspace.bridge.project.remarks if item.title == "Too dark?")
    assert remark.answered and remark.answer == "A lamp was added."
    assert page.summary.text() == "2 remarks, 1 answered." and page.send.isEnabled()
    # Another camera answers it better.
    page.list.setCurrentRow(
        [item.data(Qt.ItemDataRole.UserRole) for item in (page.list.item(0), page.list.item(1))].index(
            remark.id
        )
    )
    names = [page.camera.itemText(row) for row in range(page.camera.count())]
    page.camera.setCurrentIndex(names.index("Waiting hall to the water"))
    page.camera.activated.emit(page.camera.currentIndex())
    out = tmp_path / "answers.bcf"
    window.exchange.send_answers_to(out)
    until(lambda: out.is_file() and not window.making.work.running, 90)
    (item,) = read_bcf(out, (0.0, 0.0, 0.0))
    assert item.remark is not None and item.remark.id == remark.id
    assert item.remark.comments[-1].text == "A lamp was added."
    press(page.again)
    assert page.summary.text() == "2 remarks, 0 answered."
    press(page.drop)
    assert len(window.workspace.bridge.project.remarks) == 1
    page.accept()


def test_pictures_outside_the_project_are_never_shown(window: MainWindow, tmp_path: Path) -> None:
    outside = tmp_path / "secret.png"
    outside.write_bytes(snapshot())
    for picture in (str(outside), "../" * 12 + str(outside).lstrip("/")):
        window.workspace.bridge.apply(
            "x", lambda p, at=picture: keep_remark(p, Remark("r", "<img src=x>", picture=at))
        )
        window.exchange.remarks()
        page = window.exchange.remarks_page
        assert page is not None and page.picture.isHidden()
        assert "<img src=x>" in page.list.item(0).text()
        page.accept()


@pytest.mark.slow
def test_plans_and_edits_are_sent_from_the_window(window: MainWindow, tmp_path: Path) -> None:
    cameras = window.workspace.bridge.project.cameras[:2]
    for name in ("plan.svg", "list.vtt"):
        window.exchange.send_to(tmp_path / name, cameras)
        until(lambda name=name: (tmp_path / name).is_file() and not window.making.work.running, 60)
    assert "Waiting hall to the water" in (tmp_path / "plan.svg").read_text()
    assert (tmp_path / "list.vtt").read_text().startswith("WEBVTT")
    window.exchange.send_to(tmp_path / "model.glb", cameras, whole=True)
    until(lambda: (tmp_path / "model.glb").is_file(), 60)
    until(lambda: "for other tools" in window.notice_bar.sentence, 20)
    window.exchange.look_into(tmp_path / "list.vtt")
    until(lambda: "is no file that cameras are taken from" in window.notice_bar.sentence, 10)


def looking() -> bool:
    """Whether a child of ours reads somebody's file."""
    for child in psutil.Process().children():
        # One that has just ended has no words any more.
        with contextlib.suppress(psutil.Error):
            if "altana.jobs.brought" in " ".join(child.cmdline()):
                return True
    return False


def test_reading_is_cancelled_at_once(
    window: MainWindow, site: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A file that takes long is left alone, its child with it, and the line at the bottom is free again."""
    before = window.workspace.bridge.project
    # The child never comes to an end by itself.
    slow = site.with_name("sitecustomize.py")
    slow.write_text(
        "import sys, time\nif any('altana.jobs.brought' in word for word in sys.orig_argv):\n    time.sleep(120)\n"
    )
    monkeypatch.setenv("PYTHONPATH", str(slow.parent))
    shown = window.exchange.take_page
    window.exchange.look_into(site)
    assert window.activity.cancel.isVisible() and window.activity.text == "Reading site.bcf"
    until(looking, 10)
    press(window.activity.cancel)
    until(lambda: window.activity.text == "", 10)
    assert not window.activity.cancel.isVisible()
    assert "Opening site.bcf was stopped. Nothing was changed." in window.notice_bar.sentence
    assert not looking()
    assert window.exchange.take_page is shown and window.workspace.bridge.project is before
