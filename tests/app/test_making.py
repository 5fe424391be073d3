"""One way of making, in the window: what may be made, rows added to a run, tests beside it, and what Results
knows."""

from __future__ import annotations

import json
import os
import time
from dataclasses import replace

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel, QMenu, QMessageBox

from altana.app.hand_over import made_list
from altana.app.hand_over.desk import RESULTS, HandOverDesk
from altana.app.shell.small_test import trial_size
from altana.app.shell.window import COMPOSE, HAND_OVER, MainWindow
from altana.app.workspace.production import SEEN_FILE, Production
from altana.core.edits.shots import change_shots
from altana.core.picture_key import ESTIMATED, KNOWN
from altana.core.project import PENCIL, TRANSPARENT, Tone
from altana.storage.made import FILE
from tests.app.conftest import enter, look_at, named, press, shots_of, until
from tests.conftest import picture_at


def fresh(desk: HandOverDesk) -> None:
    """Nothing was made yet."""
    (desk.project_path.parent / FILE).unlink(missing_ok=True)
    desk.list.states, desk.list.outdated = (), ()


def menu_of(desk: HandOverDesk) -> QMenu:
    menu = QMenu(desk)
    desk.row_menu.fill(menu)
    return menu


def entry(menu: QMenu, text: str) -> object:
    (action,) = [item for item in menu.actions() if text in item.text()]
    return action


def test_space_and_a_box_switch_all_chosen_rows(window: MainWindow, desk: HandOverDesk) -> None:
    ids = [shot.id for shot in shots_of(window)]
    desk.table.choose(ids[:3])
    QTest.keyClick(desk.table, Qt.Key.Key_Space)
    assert [shot.on for shot in shots_of(window)] == [False, False, False, True]
    until(lambda: desk.table.item(0, 0).checkState() == Qt.CheckState.Unchecked)
    # The box of one of them is the box of all.
    desk.table.item(1, 0).setCheckState(Qt.CheckState.Checked)
    assert [shot.on for shot in shots_of(window)] == [True] * 4
    # That of a row that is not chosen is its own.
    until(lambda: desk.table.item(0, 0).checkState() == Qt.CheckState.Checked)
    desk.table.item(3, 0).setCheckState(Qt.CheckState.Unchecked)
    assert [shot.on for shot in shots_of(window)] == [True, True, True, False]
    window.workspace.bridge.undo()
    until(lambda: desk.table.item(3, 0).checkState() == Qt.CheckState.Checked)
    # Every row with Control and A, and nothing happens to the cameras chosen elsewhere.
    chosen = window.workspace.state.selected
    desk.table.setFocus()
    QTest.keyClick(desk.table, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    assert desk.table.chosen == ids and window.workspace.state.selected == chosen


@pytest.mark.slow
def test_chosen_rows_are_made_alone_and_what_is_out_of_date_is_told(
    window: MainWindow, desk: HandOverDesk
) -> None:
    fresh(desk)
    ids = [shot.id for shot in shots_of(window)]
    desk.list.follow_made()
    until(lambda: len(desk.list.outdated) == 4)
    desk.table.choose(ids[:2])
    entry(menu_of(desk), "The chosen rows (2)").trigger()  # type: ignore[attr-defined]
    until(lambda: not desk.production.running, 60)
    until(lambda: desk.list.outdated == tuple(ids[2:]), 20)
    assert [state.words[0][0] for state in desk.table.states.values()] == ["✓", "✓"]
    # Another size of one row: its file is out of date, that of the other is not.
    window.workspace.bridge.apply("x", lambda p: change_shots(p, ids[:1], width_px=96))
    until(lambda: desk.table.states[ids[0]].changed == ("size",), 20)
    assert desk.table.states[ids[1]].changed == ()
    assert "out of date" in desk.table.item(0, 7).data(Qt.ItemDataRole.AccessibleTextRole)
    assert entry(menu_of(desk), "out of date or missing (3)").isEnabled()  # type: ignore[attr-defined]
    desk.choose_page(RESULTS)
    look_at(desk, named(desk, "01-"))
    assert "out of date: size" in desk.results.told.text()
    look_at(desk, named(desk, "02-"))
    assert desk.results.told.text().endswith("current") and "160 ×" in desk.results.told.text()
    assert desk.results.files.item(named(desk, "01-")).text().split("\n")[1].startswith("out of date")
    # The light of the project belongs to all.
    window.workspace.bridge.apply("x", lambda p: replace(p, light=replace(p.light, hour=7.0)))
    until(lambda: desk.table.states[ids[1]].changed == ("light",), 20)


@pytest.mark.slow
def test_everything_that_is_made_lands_in_results(window: MainWindow, desk: HandOverDesk) -> None:
    """A still of a camera that its row draws in pencil is in pencil, whichever way it is asked for; byte for
    byte the row's own."""
    fresh(desk)
    only = shots_of(window)[0]
    look = {"rendition": PENCIL, "background": TRANSPARENT, "tone": Tone(exposure_ev=0.5), "width_px": 0}

    def edit(project):  # type: ignore[no-untyped-def]
        small = tuple(
            replace(c, width_px=96, height_px=54, formats=(), format_index=0) if c.id == only.subject else c
            for c in project.cameras
        )
        return change_shots(replace(project, cameras=small), [only.id], format_index=0, **look)

    window.workspace.bridge.apply("x", edit)
    desk.refresh()
    desk.table.choose([only.id])
    desk.run_bar.make_rows(desk.list.chosen)
    until(lambda: not desk.production.running, 60)
    listed = (desk.out / desk.list.chosen[0].file).read_bytes()
    window.workspace.state.select(only.subject)
    window.making.save_frame()
    until(lambda: not window.making.work.running, 60)
    window.making.make_stills()
    sheet = window.making.sheet
    sheet.quality.chosen.emit(0)
    press(sheet.go)
    until(lambda: not window.making.work.running, 60)
    until(lambda: len(desk.list.states) == 3, 20)
    paths = [record.path(desk.project_path.parent) for record, _ in desk.list.states]
    assert [path.read_bytes() for path in paths] == [listed] * 3
    assert {path.parent.name for path in paths} == {"inside", "frames", "stills"}
    desk.choose_page(RESULTS)
    assert set(paths) <= set(desk.results.made)
    assert [changed for _, changed in desk.list.states] == [(), (), ()]


def test_it_is_said_when_pictures_wait_for_the_light(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    studio = window.workspace.studio
    for lit, said in ((ESTIMATED, True), (KNOWN, False)):
        monkeypatch.setattr(studio, "lit", lit)
        window.making.make_stills()
        sheet = window.making.sheet
        told = [label.text() for label in sheet.findChildren(QLabel)]
        assert any("pictures wait for it" in text for text in told) == said
        sheet.reject()


@pytest.mark.slow
def test_rows_are_added_to_a_run_and_tests_made_beside_it(window: MainWindow, desk: HandOverDesk) -> None:
    rows = desk.list.rows
    desk.table.choose([rows[0].shot.id, rows[2].shot.id])
    desk.run_bar.make_rows(desk.list.chosen)
    desk.production.pause(True)
    desk.table.choose([rows[1].shot.id])
    assert entry(menu_of(desk), "Add to the run: the chosen rows (1)").isEnabled()  # type: ignore[attr-defined]
    desk.run_bar.make_rows(desk.list.chosen)
    assert desk.production.state.pieces[rows[1].file].state == "waiting"
    desk.run_bar.prefer()
    # Taken out, it is not made; the test pictures do not wait for the run.
    desk.table.choose([rows[2].shot.id])
    menu = QMenu(desk)
    desk.row_menu.fill_row(menu)
    entry(menu, "Take out of the run").trigger()  # type: ignore[attr-defined]
    desk.run_bar.make_tests(desk.list.chosen)
    until(lambda: not desk.run_bar.tests.running, 60)
    assert desk.production.running and list((desk.out / "tests").glob("*panorama-test.jpg"))
    desk.production.pause(False)
    until(lambda: not desk.production.running, 60)
    names = {name for name, piece in desk.production.state.pieces.items() if piece.state == "made"}
    assert names == {rows[0].file, rows[1].file}
    assert desk.production.state.pieces[rows[2].file].state == "taken out"
    assert not (desk.out / rows[2].file).exists()


@pytest.mark.slow
def test_a_run_that_was_stopped_is_not_broken_off_and_a_night_is_told_of(
    window: MainWindow, desk: HandOverDesk
) -> None:
    press(desk.run_bar.go)
    until(lambda: desk.production.state.process, 30)
    press(desk.run_bar.cancel)
    until(lambda: not desk.production.running, 60)
    assert Production().pick_up(desk.project_path) == ""
    # The window is closed, and the run comes to its end.
    bad = shots_of(window)[1].id
    window.workspace.bridge.apply(
        "x", lambda p: change_shots(p, [bad], background="picture", background_file="nowhere.png")
    )
    desk.refresh()
    desk.run_bar.make()
    until(lambda: desk.production.state.process, 30)
    desk.run_bar.leave()
    job = Production.job_of(desk.project_path)
    journal = job / "journal.jsonl"

    def over() -> bool:
        lines = [json.loads(line) for line in journal.read_text().splitlines()]
        return any(line["event"] == "done" for line in lines)

    until(over, 60)
    time.sleep(0.5)
    assert not (job / SEEN_FILE).exists()
    sentences: list[str] = []
    window.workspace.notices.told.connect(lambda notice: sentences.append(notice.sentence))
    window._project_shown()
    told = next((text for text in sentences if text.startswith("While Altana")), "")
    assert told.startswith("While Altana was closed: 3 files made in") and "1 set aside" in told
    assert "nowhere.png" in told
    window.going.to_results()
    assert window.going.desk == HAND_OVER and desk.pages.currentIndex() == RESULTS
    # It is told of once.
    assert Production().pick_up(desk.project_path) == ""


@pytest.mark.parametrize(
    ("typed", "size"),
    [
        ("960", (960, 540)),
        ("×2", (3840, 2160)),
        ("10 in", (3000, 1688)),
        ("10 x 7 in", (3000, 1688)),
        ("254 mm", (3000, 1688)),
        ("50 %", (960, 540)),
        ("800 x 800", (800, 450)),
    ],
)
def test_one_side_is_typed_and_the_other_follows(
    window: MainWindow, typed: str, size: tuple[int, int]
) -> None:
    window.workspace.state.select("cam-01")
    window.making.make_stills()
    field = window.making.sheet.size_field
    field.width_field.setText(typed)
    field.width_field.setModified(True)
    field.width_field.editingFinished.emit()
    assert field.size_px == size
    assert window.making.sheet.order(("cam-01",), ()).size == size
    window.making.sheet.reject()


@pytest.mark.slow
def test_a_result_goes_into_the_trash_after_asking_once(
    window: MainWindow, desk: HandOverDesk, monkeypatch: pytest.MonkeyPatch
) -> None:
    fresh(desk)
    desk.table.choose([shots_of(window)[0].id])
    desk.run_bar.make_rows(desk.list.chosen)
    until(lambda: not desk.production.running, 60)
    desk.choose_page(RESULTS)
    until(lambda: len(desk.results.made) == 1, 20)
    path, asked, thrown = desk.results.made[0], [], []

    class Box(QMessageBox):
        answer = "Keep it"

        def exec(self) -> int:
            asked.append(self.text())
            next(item for item in self.buttons() if item.text() == self.answer).click()
            return 0

    def move(name: str) -> bool:
        thrown.append(name)
        os.remove(name)
        return True

    monkeypatch.setattr(made_list, "QMessageBox", Box)
    monkeypatch.setattr(made_list.QFile, "moveToTrash", move)
    desk.results.files.setCurrentRow(0)
    QTest.keyClick(desk.results.files, Qt.Key.Key_Delete)
    assert path.is_file() and len(asked) == 1 and path.name in asked[0]
    Box.answer = "Into the trash"
    QTest.keyClick(desk.results.files, Qt.Key.Key_Delete)
    assert thrown == [str(path), f"{path}.camera.json"]
    until(lambda: desk.results.made == [], 20)
    # Its row is not current any more.
    until(lambda: shots_of(window)[0].id in desk.list.outdated, 20)
    monkeypatch.setattr(made_list.QFile, "moveToTrash", lambda name: False)
    desk.results.files.throw_away(path)
    assert "could not be put into the trash" in window.notice_bar.sentence


@pytest.mark.slow
def test_the_chosen_rows_are_made_by_one_press_or_key(window: MainWindow, desk: HandOverDesk) -> None:
    fresh(desk)
    ids = [shot.id for shot in shots_of(window)]
    assert not desk.run_bar.go_chosen.isEnabled()
    desk.table.choose(ids[:1])
    until(desk.run_bar.go_chosen.isEnabled, 5)
    press(desk.run_bar.go_chosen)
    until(lambda: not desk.production.running, 60)
    assert [piece.state for piece in desk.production.state.pieces.values()] == ["made"]
    desk.table.choose(ids[1:2])
    QTest.keyClick(
        window, Qt.Key.Key_M, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    )
    assert desk.production.running
    until(lambda: not desk.production.running, 60)
    kinds = {path.suffix for path in desk.out.rglob("*") if path.suffix in (".png", ".jpg")}
    assert kinds == {".png", ".jpg"}


def test_rows_are_added_by_key_from_any_desk_and_take_the_keys(
    window: MainWindow, desk: HandOverDesk
) -> None:
    window.going.choose_desk(COMPOSE)
    window.workspace.state.select("cam-04")
    before = len(shots_of(window))
    QTest.keyClick(window, Qt.Key.Key_F12)
    assert window.going.desk == HAND_OVER
    assert [shot.subject for shot in shots_of(window)[before:]] == ["cam-04"]
    # The new row is chosen and has the keys: the row is doubled, not the camera.
    cameras = len(window.workspace.bridge.project.cameras)
    QTest.keyClick(window.focusWidget(), Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
    assert len(shots_of(window)) == before + 2 and len(window.workspace.bridge.project.cameras) == cameras
    QTest.keyClick(window, Qt.Key.Key_F12, Qt.KeyboardModifier.ShiftModifier)
    assert shots_of(window)[-1].kind == "panorama"


@pytest.mark.slow
def test_a_test_is_made_in_the_sheet_before_the_large_picture(window: MainWindow, desk: HandOverDesk) -> None:
    window.going.choose_desk(COMPOSE)
    window.making.make_stills()
    sheet = window.making.sheet
    assert sheet is not None and sheet.trial.isHidden()
    sheet.quality.take(0)
    sheet._take_quality(0)
    enter(sheet.size_field.width_field, "200")
    press(sheet.trial.button)
    assert sheet.trial.running and not sheet.go.isEnabled() and sheet.isVisible()
    assert "being made" in sheet.trial.picture.text()
    until(lambda: not sheet.trial.running, 60)
    assert sheet.trial.path is not None and sheet.trial.path.parent.name == "tests"
    assert picture_at(sheet.trial.path).shape[:2] == (112, 200)
    assert not sheet.trial.picture.pixmap().isNull() and "200 × 112" in sheet.trial.told.text()
    # The sheet is as it was, and the large picture is made from it.
    assert sheet.isVisible() and sheet.go.isEnabled()
    enter(sheet.size_field.width_field, "320")
    press(sheet.go)
    until(lambda: not window.making.work.running, 60)
    (large,) = window.files.out_folder("stills").glob("*.png")
    assert picture_at(large).shape[:2] == (180, 320)
    # From the line at the bottom one goes to it, large.
    press(window.activity.look)
    assert window.going.desk == HAND_OVER and desk.results.isVisible()
    until(lambda: desk.results.files.entry is not None and desk.results.files.entry.path == large, 20)


@pytest.mark.slow
def test_a_test_that_cannot_be_made_says_so_in_the_sheet(window: MainWindow, desk: HandOverDesk) -> None:
    window.making.make_stills()
    sheet = window.making.sheet
    assert sheet is not None
    sheet.folder.setText("/proc/nowhere")
    press(sheet.trial.button)
    until(lambda: not sheet.trial.running, 60)
    assert sheet.trial.path is None and sheet.trial.told.text()
    assert sheet.trial.button.isEnabled() and sheet.go.isEnabled()
    sheet.reject()


def test_a_test_is_never_larger_than_one() -> None:
    assert trial_size((1920, 1080), None) == (640, 360)
    assert trial_size((1920, 1080), (400, 225)) == (400, 225)
    assert trial_size((1080, 1920), (1080, 1920)) == (360, 640)
