"""Others who write the project while the window has it open; versions; what the file holds that is not
known."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import pytest
from PySide6.QtWidgets import QDialog

from altana.app.shell.sharing import BOTH, COPY, THEIRS, MeetingPage
from altana.app.shell.versions_page import VersionsPage
from altana.app.shell.window import MainWindow
from altana.core.edits.cameras import set_camera
from altana.storage.project_file import read_project, write_project
from altana.storage.sharing import change_project
from tests.app.conftest import press, until


@pytest.fixture
def path(window: MainWindow) -> Path:
    """The open project as its file holds it."""
    assert window.files.path is not None
    write_project(window.files.path, window.workspace.bridge.project)
    window.files.sharing.follow(window.files.path, window.workspace.bridge.project)
    return window.files.path


def theirs(path: Path, note: str = "theirs", camera: str = "cam-02") -> None:
    change_project(path, lambda p: set_camera(p, camera, note=note))


def ours(window: MainWindow, note: str = "ours", camera: str = "cam-01") -> None:
    window.workspace.bridge.apply("x", lambda p: set_camera(p, camera, note=note))


def answering(monkeypatch: pytest.MonkeyPatch, choice: str) -> list[MeetingPage]:
    """The page of what somebody else changed is answered so."""
    shown: list[MeetingPage] = []

    def answered(page: QDialog) -> int:
        assert isinstance(page, MeetingPage)
        shown.append(page)
        {BOTH: page.take_both, COPY: page.keep_copy, THEIRS: page.read_theirs}.get(
            choice, page.read_theirs
        ).setDefault(True)
        if choice:
            press({BOTH: page.take_both, COPY: page.keep_copy, THEIRS: page.read_theirs}[choice])
        return 0

    monkeypatch.setattr(QDialog, "exec", answered)
    return shown


def test_a_colleagues_save_is_noticed_and_read(window: MainWindow, path: Path) -> None:
    theirs(path)
    window.files.sharing.look()
    until(lambda: "changed by somebody else" in window.notice_bar.sentence, 20)
    assert "camera “Hall from the quay doors”: note" in window.notice_bar.sentence
    assert window.notice_bar.offer.text() == "Read it"
    press(window.notice_bar.offer)
    assert window.workspace.bridge.project.camera("cam-02").note == "theirs"  # type: ignore[union-attr]
    assert not window.workspace.bridge.document.changed
    # It is told of once.
    window.workspace.notices.clear()
    window.files.sharing.look()
    assert window.notice_bar.isHidden()


def test_saving_never_overwrites_what_others_saved(
    window: MainWindow, path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    ours(window)
    theirs(path)
    shown = answering(monkeypatch, "")
    assert not window.files.save()
    assert read_project(path).camera("cam-02").note == "theirs"  # type: ignore[union-attr]
    assert window.workspace.bridge.document.changed
    they, you = shown[0].lists
    assert they.item(0).text() == "camera “Hall from the quay doors”: note"
    assert you.item(0).text() == "camera “Waiting hall to the water”: note"
    answering(monkeypatch, BOTH)
    assert window.files.save()
    saved = read_project(path)
    assert [saved.camera(item).note for item in ("cam-01", "cam-02")] == ["ours", "theirs"]  # type: ignore[union-attr]
    assert window.workspace.bridge.project == saved and not window.workspace.bridge.document.changed


@pytest.mark.slow
@pytest.mark.slow
def test_mine_as_a_copy_or_theirs(window: MainWindow, path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    ours(window, camera="cam-02")
    theirs(path)
    shown = answering(monkeypatch, COPY)
    assert not window.files.save()
    assert shown[0].both.clashes and "yours" in shown[0].take_both.toolTip()
    copy = path.with_name(f"{path.stem} mine.altana")
    assert read_project(copy).camera("cam-02").note == "ours"  # type: ignore[union-attr]
    assert window.workspace.bridge.project.camera("cam-02").note == "theirs"  # type: ignore[union-attr]
    copy.unlink()
    ours(window)
    theirs(path, "again")
    answering(monkeypatch, THEIRS)
    assert not window.files.save()
    project = window.workspace.bridge.project
    assert project.camera("cam-01").note != "ours" and project.camera("cam-02").note == "again"  # type: ignore[union-attr]


def test_an_earlier_save_is_taken_back_whole_or_by_camera(window: MainWindow, path: Path) -> None:
    before = window.workspace.bridge.project
    for note in ("one", "two"):
        ours(window, note)
        ours(window, note, "cam-02")
        assert window.files.save()
    window.files.show_versions()
    page = window.files.versions_page
    assert isinstance(page, VersionsPage)
    assert len(page.versions) >= 2 and page._chosen.camera("cam-01").note == "one"  # type: ignore[union-attr]
    assert {page.cameras.item(row).text() for row in range(page.cameras.count())} == {
        "Waiting hall to the water",
        "Hall from the quay doors",
    }
    page.cameras.item(0).setSelected(True)
    press(page.some)
    project = window.workspace.bridge.project
    assert [project.camera(item).note for item in ("cam-01", "cam-02")] == ["one", "two"]  # type: ignore[union-attr]
    window.workspace.bridge.undo()
    window.files.show_versions()
    page = window.files.versions_page
    page.list.setCurrentRow(1)
    press(page.whole)
    assert window.workspace.bridge.project == before
    window.workspace.bridge.undo()
    assert window.workspace.bridge.project.camera("cam-01").note == "two"  # type: ignore[union-attr]
    page.accept()


def test_what_a_newer_file_holds_besides_is_said_before_it_is_lost(window: MainWindow, path: Path) -> None:
    document = json.loads(path.read_text())
    document["cameras"][0]["mood"] = "calm"
    path.write_text(json.dumps(document))
    window.files.open_path(path)
    # What else is said on opening comes over it, and it is there again when that is put away.
    window.workspace.notices.note("And another thing.")

    def found() -> bool:
        if not window.notice_bar.isHidden() and "cameras 1.mood" not in window.notice_bar.sentence:
            window.notice_bar.put_away()
        return not window.notice_bar.isHidden() and "cameras 1.mood" in window.notice_bar.sentence

    until(found)
    assert "lost when you save" in window.notice_bar.sentence
    window.workspace.notices.clear()
    write_project(path, replace(read_project(path)))


def test_what_was_saved_while_both_were_looked_at_is_not_overwritten(
    window: MainWindow, path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    ours(window)
    theirs(path)
    shown: list[MeetingPage] = []

    def answered(page: QDialog) -> int:
        assert isinstance(page, MeetingPage)
        shown.append(page)
        if len(shown) == 1:
            # A third save, while the page is open.
            theirs(path, "third", "cam-03")
        press(page.take_both)
        return 0

    monkeypatch.setattr(QDialog, "exec", answered)
    assert window.files.save()
    saved = read_project(path)
    assert len(shown) == 2
    assert [saved.camera(item).note for item in ("cam-01", "cam-02", "cam-03")] == ["ours", "theirs", "third"]  # type: ignore[union-attr]


def test_reading_a_colleagues_save_gives_up_nothing_changed_meanwhile(
    window: MainWindow, path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    theirs(path)
    window.files.sharing.look()
    until(lambda: "changed by somebody else" in window.notice_bar.sentence, 20)
    ours(window)
    shown = answering(monkeypatch, "")
    press(window.notice_bar.offer)
    assert len(shown) == 1
    assert window.workspace.bridge.project.camera("cam-01").note == "ours"  # type: ignore[union-attr]


@pytest.mark.slow
def test_what_has_no_file_yet_is_not_taken_for_the_project_before(window: MainWindow, path: Path) -> None:
    window.files._show_project(window.workspace.bridge.project, path.with_name("new.altana"), saved=False)
    theirs(path)
    window.files.sharing.look()
    assert window.files.sharing._path is None
    window.files.open_path(path)
