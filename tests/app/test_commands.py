"""Everything that can be done, by id: a locked camera withstands all of it, and titles are for people
only."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QFileDialog, QInputDialog, QMenu, QMessageBox

from altana.app.shell.window import MainWindow
from altana.core.edits.cameras import set_camera
from altana.core.edits.left_out import leave_out
from altana.core.edits.locks import respect_locks
from altana.core.edits.settings import set_many
from altana.core.edits.variants import add_variant, set_ladder
from altana.core.errors import Refused
from altana.core.project import Camera, Project
from tests.app.conftest import until

LOCKED = "cam-02"
#: Commands that open what waits for a person, or leave the window: a test of its own looks at each of them.
NOT_HERE = ("project.quit", "help.full-screen", "help.menu", "help.keys")
#: Commands that only start long work beside the window.
LONG = (
    "list.make-all",
    "list.make-late",
    "list.make-tests",
    "list.pages",
    "camera.copy-frame",
    "camera.save-frame",
    "model.reload",
    "model.coverage",
    "model.list-gaps",
    "cameras.check-all",
)


def as_shown(camera: Camera) -> Camera:
    """A camera without the marks about it."""
    return replace(camera, locked=False, done=False, hidden=False, group="", in_shot_list=False)


@pytest.fixture
def answered(monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    """Every question is answered with something that would change a camera."""
    answers = {"Move by steps": "1, 1, 1", "Rename camera": "Otherwise", "Lens limits": "20, 14, 9"}
    monkeypatch.setattr(
        QInputDialog, "getText", lambda parent, title, *rest, **more: (answers.get(title, "3 m"), True)
    )
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *rest, **more: ("", ""))
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *rest, **more: ([], ""))
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *rest, **more: ("", ""))
    monkeypatch.setattr(QMessageBox, "exec", lambda self: 0)
    monkeypatch.setattr(QDialog, "open", lambda self: None)
    monkeypatch.setattr(QMenu, "popup", lambda self, *rest: None)
    yield


@pytest.mark.slow
def test_a_locked_camera_withstands_every_command(
    window: MainWindow, answered: None, monkeypatch: pytest.MonkeyPatch
) -> None:
    bridge, state = window.workspace.bridge, window.workspace.state
    bench = window.workspace.studio.scene.model.objects[5].id  # type: ignore[union-attr]

    def prepared(project: Project) -> Project:
        project = leave_out(add_variant(project, LOCKED), [LOCKED], "objects", bench)
        return set_many(project, [LOCKED], locked=True)

    # Nothing is painted for what is put back at once, and its light is nobody's concern.
    window.setUpdatesEnabled(False)
    for child in (window.workspace.studio.lighting, window.workspace.studio.pictures):
        monkeypatch.setattr(child, "send", lambda task: None)
    bridge.apply("prepared", prepared)
    start = bridge.project
    bridge.replace_document(start)
    before = as_shown(start.camera(LOCKED))  # type: ignore[arg-type]
    tried = 0
    for command in list(window.table):
        if command.id in (*NOT_HERE, *LONG, "camera.lock"):
            continue
        for chosen in ((LOCKED,), (LOCKED, "cam-01")):
            if bridge.project is not start:
                bridge.replace_document(start)
            state.select_many(chosen, LOCKED)
            state.choose_object(bench)
            window.going.choose_desk(1)
            command.run()
            QApplication.processEvents()
            camera = bridge.project.camera(LOCKED)
            assert camera is not None and as_shown(camera) == before, command.id
            tried += 1
    assert tried > 200
    window.setUpdatesEnabled(True)
    # Unlocked it gives way again.
    bridge.replace_document(start)
    state.select(LOCKED)
    window.table.run("camera.lock")
    window.table.run("camera.about-face")
    assert bridge.project.camera(LOCKED).heading_deg != before.heading_deg  # type: ignore[union-attr]
    until(lambda: not bridge.in_gesture, 5)


@pytest.mark.parametrize("key", [Qt.Key.Key_D, Qt.Key.Key_P, Qt.Key.Key_Y])
def test_a_key_that_a_lock_keeps_from_working_says_so(window: MainWindow, key: Qt.Key) -> None:
    window.workspace.bridge.apply("lock", lambda p: set_camera(p, LOCKED, locked=True))
    window.workspace.state.select(LOCKED)
    window.going.choose_desk(1)
    window.workspace.notices.clear()
    QTest.keyClick(window.compose.frame, key)
    until(lambda: "is locked" in window.notice_bar.sentence, 5)
    assert "Ctrl+L" in window.notice_bar.sentence


def test_previews_of_a_locked_camera_show_nothing_else(window: MainWindow) -> None:
    bridge = window.workspace.bridge
    bridge.apply("lock", lambda p: set_camera(p, LOCKED, locked=True))
    before = bridge.project
    bridge.begin()
    bridge.preview(lambda p: set_camera(p, LOCKED, heading_deg=77.0))
    assert bridge.project == before
    bridge.cancel()


def test_the_core_refuses_to_change_or_remove_what_is_locked_and_lets_marks_pass(
    demo_project: Project,
) -> None:
    locked = set_camera(demo_project, LOCKED, locked=True)
    for edit in (
        lambda p: set_camera(p, LOCKED, name="Otherwise"),
        lambda p: leave_out(p, [LOCKED], "categories", "Wall"),
        lambda p: set_ladder(p, LOCKED, "lens"),
        lambda p: replace(p, cameras=tuple(camera for camera in p.cameras if camera.id != LOCKED)),
    ):
        with pytest.raises(Refused, match="is locked"):
            respect_locks(locked, edit(locked))
    marked = set_many(locked, [LOCKED], done=True, hidden=True, group="Later")
    assert respect_locks(locked, marked) is marked
    walk = replace(demo_project, walks=tuple(replace(item, locked=True) for item in demo_project.walks))
    with pytest.raises(Refused, match="More"):
        respect_locks(walk, replace(walk, walks=tuple(replace(item, seconds=9.0) for item in walk.walks)))


def test_lens_limits_keep_what_is_not_changed(window: MainWindow, answered: None) -> None:
    bridge = window.workspace.bridge
    bridge.apply("own", lambda p: replace(p, limits=replace(p.limits, pace_m_s=2.5, vertical_px=3.0)))
    window.table.run("project.lens-limits")
    limits = bridge.project.limits
    assert (limits.wide_mm, limits.very_wide_mm, limits.depth_ratio) == (20.0, 14.0, 9.0)
    assert (limits.pace_m_s, limits.vertical_px) == (2.5, 3.0)


def test_ids_are_for_machines_and_titles_for_people(window: MainWindow) -> None:
    commands = list(window.table)
    assert len(commands) > 100
    assert all(
        command.id == command.id.lower() and " " not in command.id and "." in command.id
        for command in commands
    )
    titles = {command.title for command in commands}
    # Nothing in the window finds a command by what is written on it.
    for path in (Path(__file__).parents[2] / "src/altana/app").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if (
                isinstance(node, ast.Call)
                and getattr(node.func, "attr", "") == "run"
                and node.args
                and isinstance(node.args[0], ast.Constant)
            ):
                assert node.args[0].value not in titles, path
