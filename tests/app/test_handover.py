"""The Hand-over desk through its window: rows, their settings, the run, results, tone, look round,
framing."""

from __future__ import annotations

import json
import os
import shutil
import signal
import subprocess
import sys
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent, QImage, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu

from altana.app.canvas.picture_view import ACTUAL, AGAINST, DIFFERENCE, FIT, image_of, pixels_of
from altana.app.hand_over.curve import CurveEditor
from altana.app.hand_over.desk import RESULTS, HandOverDesk
from altana.app.shell.window import MainWindow
from altana.app.theme.figures import FiguresDialog
from altana.app.theme.tokens import LIGHT
from altana.app.workspace.production import Production
from altana.core.edits.shots import add_shots, change_shots, checked_tone
from altana.core.project import LINES, MATERIALS, PICTURE, USUAL_QUALITIES, Project, Shot, Tone
from altana.jobs.job_files import BEFORE_FOLDER
from altana.jobs.orders import DrawFinished, DrawPicture, DrawRound, Order
from tests.app.conftest import drag, enter, look_at, menu_of, named, press, shots_of, until


def turned_a_little(project: Project) -> Project:
    """Every camera and walk shows a little else."""
    cameras = tuple(replace(camera, heading_deg=camera.heading_deg + 1.0) for camera in project.cameras)
    return replace(
        project,
        cameras=cameras,
        walks=tuple(replace(walk, eye_height_m=walk.eye_height_m + 0.02) for walk in project.walks),
    )


def toned(desk: HandOverDesk) -> np.ndarray:
    """The picture under the tone that holds, once it is worked out."""
    desk.tone.made = None
    desk.tone._refresh()
    until(lambda: desk.tone.made is not None and not desk.tone.busy, 20)
    return desk.tone.made.pixels.astype(int)


def make_first_alone(window: MainWindow, desk: HandOverDesk) -> Shot:
    """The list with its first row alone, made; that row."""
    only = shots_of(window)[0]
    window.workspace.bridge.apply("x", lambda p: replace(p, shots=(only,)))
    desk.refresh()
    run_whole(desk)
    return only


def run_whole(desk: HandOverDesk) -> None:
    press(desk.run_bar.go)
    assert desk.production.running
    until(lambda: not desk.production.running, 120)


@pytest.mark.slow
def test_rows_are_added_for_chosen_cameras_and_walks(window: MainWindow, desk: HandOverDesk) -> None:
    window.workspace.state.select_many(("cam-02", "cam-04"), "cam-04")
    press(desk.side.add_still)
    press(desk.side.add_round)
    assert [(shot.kind, shot.subject) for shot in shots_of(window)[4:]] == [
        ("still", "cam-02"),
        ("still", "cam-04"),
        ("panorama", "cam-02"),
        ("panorama", "cam-04"),
    ]
    menu = menu_of(desk.side.add_film)
    menu.actions()[1].trigger()
    assert shots_of(window)[-1].subject == "walk-02"
    desk.refresh()
    assert desk.table.rowCount() == 9
    assert desk.table.item(8, 2).text() == "Round the terminal\nturntable"
    assert "9 of 9 rows are on: " in desk.side.total.text()
    window.workspace.bridge.undo()
    assert len(shots_of(window)) == 8


def test_rows_are_chosen_switched_moved_duplicated_and_taken_out(
    window: MainWindow, desk: HandOverDesk
) -> None:
    ids = [shot.id for shot in shots_of(window)]
    desk.table.item(1, 0).setCheckState(Qt.CheckState.Unchecked)
    assert [shot.on for shot in shots_of(window)] == [True, False, True, True]
    desk.refresh()
    desk.table.choose(ids[:1])
    desk.table.setFocus()
    QTest.keyClick(desk.table, Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
    assert [shot.id for shot in shots_of(window)] == [ids[1], ids[0], ids[2], ids[3]]
    desk.refresh()
    assert desk.table.chosen == [ids[0]]
    press(desk.side.earlier)
    assert [shot.id for shot in shots_of(window)] == ids
    desk.refresh()
    press(desk.side.copy)
    assert len(shots_of(window)) == 5
    desk.refresh()
    desk.table.choose([shots_of(window)[1].id, ids[3]])
    QTest.keyClick(desk.table, Qt.Key.Key_Delete)
    assert [shot.id for shot in shots_of(window)] == ids[:3]


def test_settings_change_all_chosen_rows_and_show_where_they_differ(
    window: MainWindow, desk: HandOverDesk
) -> None:
    ids = [shot.id for shot in shots_of(window)]
    desk.table.choose(ids[:2])
    settings = desk.settings
    assert settings.filed.file.currentIndex() == -1
    settings.drawn.rendition.setCurrentText("lines")
    settings.drawn.rendition.activated.emit(settings.drawn.rendition.currentIndex())
    assert [shot.rendition for shot in shots_of(window)] == ["lines", "lines", "materials", "materials"]
    assert window.workspace.bridge.document.undo_label == "Drawn as"
    desk.refresh()
    enter(settings.lines.fields["outline_px"], "4")
    assert [shot.style.outline_px for shot in shots_of(window)[:2]] == [4.0, 4.0]
    desk.refresh()
    enter(settings.sizes.dpi, "300")
    desk.refresh()
    enter(settings.sizes.print_width, "100")
    assert [(shot.dpi, shot.width_px) for shot in shots_of(window)[:2]] == [(300.0, 1181), (300.0, 1181)]
    desk.refresh()
    enter(settings.sizes.print_width, "5 in")
    assert [shot.width_px for shot in shots_of(window)[:2]] == [1500, 1500]
    desk.refresh()
    desk.table.choose(ids[:1])
    enter(settings.filed.pattern, "{order}-{room}")
    desk.refresh()
    assert settings.filed.example.text() == "becomes stills/inside/01-waiting-hall.png"
    enter(settings.filed.pattern, "{weather}")
    assert "no field of a name" in window.notice_bar.sentence
    assert shots_of(window)[0].pattern == "{order}-{room}"
    settings.making.quality.chosen.emit(2)
    assert shots_of(window)[0].quality == "final"
    # A transparent JPEG is refused with a sentence, and nothing changes.
    desk.refresh()
    desk.table.choose(ids[1:2])
    settings.drawn.background.setCurrentText("transparent")
    settings.drawn.background.activated.emit(settings.drawn.background.currentIndex())
    assert "cannot be transparent" in window.notice_bar.sentence
    assert shots_of(window)[1].background == "sky"


def test_presets_are_kept_and_used(window: MainWindow, desk: HandOverDesk, tmp_path: Path) -> None:
    ids = [shot.id for shot in shots_of(window)]
    window.workspace.bridge.apply("x", lambda p: change_shots(p, ids[:1], rendition="pencil", dpi=150.0))
    desk.refresh()
    desk.table.choose(ids[:1])
    desk.settings.presets.save_preset(tmp_path / "sketch")
    desk.table.choose(ids[1:2])
    desk.settings.presets.use_preset(tmp_path / "sketch.altana-preset")
    assert (shots_of(window)[1].rendition, shots_of(window)[1].dpi, shots_of(window)[1].file) == (
        "pencil",
        150.0,
        "png",
    )
    (tmp_path / "bad.altana-preset").write_text("{")
    desk.refresh()
    desk.settings.presets.use_preset(tmp_path / "bad.altana-preset")
    assert "cannot be used as a preset" in window.notice_bar.sentence


def test_names_that_clash_are_shown_and_nothing_starts(window: MainWindow, desk: HandOverDesk) -> None:
    ids = [shot.id for shot in shots_of(window)]
    window.workspace.bridge.apply(
        "x", lambda p: change_shots(p, ids[:2], pattern="same", folder="", file="png")
    )
    desk.refresh()
    assert "would be written twice" in desk.table.rows[0].wrong
    desk.run_bar.make()
    assert not desk.production.running
    assert "Nothing was started" in window.notice_bar.sentence


def test_on_the_list_there_is_nothing_for_results(window: MainWindow, desk: HandOverDesk) -> None:
    assert window.property("began_with") == [True, True]
    assert desk.tone_button.isHidden() and desk.results.view_choice.isHidden()
    desk.choose_page(RESULTS)
    assert not desk.tone_button.isHidden() and not desk.results.view_choice.isHidden()


def test_an_empty_list_says_what_fills_it(window: MainWindow, desk: HandOverDesk) -> None:
    assert not desk.table.hint.isVisibleTo(desk.table)
    window.workspace.bridge.apply("x", lambda p: replace(p, shots=()))
    desk.refresh()
    assert desk.table.hint.isVisibleTo(desk.table) and "Add chosen cameras" in desk.table.hint.text()
    assert desk.table.viewport().rect().contains(desk.table.hint.geometry())
    window.workspace.state.select("cam-01")
    press(desk.side.add_still)
    assert not desk.table.hint.isVisibleTo(desk.table) and len(desk.table.rows) == 1


def test_the_list_is_made_in_a_process_of_its_own_and_looked_at(
    window: MainWindow, desk: HandOverDesk
) -> None:
    run_whole(desk)
    assert desk.run_bar.told.text() == f"4 files made in {desk.out}."
    assert {piece.state for piece in desk.production.state.pieces.values()} == {"made"}
    # The same project made from the command line: the same files, byte for byte.
    beside = desk.out.parent / "from-command-line"
    snapshot = Production.job_of(desk.project_path) / "project.altana"
    ask = [
        sys.executable,
        "-m",
        "altana",
        "render",
        str(snapshot),
        "--base",
        str(desk.project_path.parent),
        "--shots",
        "--out",
        str(beside),
    ]
    subprocess.run(ask, check=True, capture_output=True, timeout=600)
    ours, theirs = (
        {path.relative_to(out).as_posix(): path.read_bytes() for path in out.rglob("*") if path.is_file()}
        for out in (desk.out, beside)
    )
    assert ours == theirs and len(ours) == 9
    shutil.rmtree(beside)
    desk.choose_page(RESULTS)
    assert sorted(path.suffix for path in desk.results.made) == [".jpg", ".jpg", ".mp4", ".png"]
    film, round_, still = (named(desk, part) for part in (".mp4", "panorama", ".png"))
    # The film plays at its own rate.
    look_at(desk, film)
    assert desk.results.viewers.currentWidget() is desk.results.film_holder
    assert desk.results.film.length == pytest.approx(0.5, abs=0.01)
    desk.results.film.toggle()
    assert desk.results.film.playing
    until(lambda: not desk.results.film.playing, 10)
    assert desk.results.film.seconds == pytest.approx(0.5 - 1 / 12, abs=0.01)
    QTest.keyClick(desk.results.film, Qt.Key.Key_Left)
    assert desk.results.film.seconds == pytest.approx(0.5 - 2 / 12, abs=0.01)
    # The panorama is looked round in.
    look_at(desk, round_)
    assert desk.results.viewers.currentWidget() is desk.results.round_holder
    assert desk.results.phone.verdict.text().startswith("! A host would not take it")
    assert "narrower than 512" in desk.results.phone.verdict.toolTip()
    desk.results.phone.alpha.setValue(90)
    assert desk.results.round.heading_deg == pytest.approx(270.0)
    desk.results.phone.beta.setValue(120)
    assert desk.results.round.tilt_deg == pytest.approx(30.0)
    press(desk.results.phone.motion)
    until(lambda: desk.results.round.heading_deg > 5.0 and desk.results.phone.motion.text() == "Stop", 10)
    press(desk.results.phone.motion)
    desk.results.round.turn(0.0, 0.0)
    QApplication.processEvents()
    before = desk.results.round.picture(60, 40)
    middle = QPointF(desk.results.round.width() / 2, desk.results.round.height() / 2)
    drag(desk.results.round, middle, middle - QPointF(100, 0))
    assert desk.results.round.heading_deg == pytest.approx(100 * 75.0 / desk.results.round.width(), abs=0.5)
    assert np.abs(desk.results.round.picture(60, 40).astype(int) - before).mean() > 2
    QTest.keyClick(desk.results.round, Qt.Key.Key_Up)
    assert desk.results.round.tilt_deg == pytest.approx(10.0)
    # The still at actual pixels; there is no last version yet.
    look_at(desk, still)
    assert desk.results.viewers.currentWidget() is desk.picture
    assert not desk.picture.has_before
    desk.picture.choose(AGAINST)
    assert desk.picture.mode == FIT
    desk.results.view_choice.chosen.emit(1)
    assert (desk.picture.mode, desk.picture.picture_rect().width()) == (ACTUAL, 160.0)
    # The window goes on meanwhile; the project is as it was.
    assert len(shots_of(window)) == 4


@pytest.mark.slow
def test_made_again_it_is_compared_with_the_last_version(window: MainWindow, desk: HandOverDesk) -> None:
    only = make_first_alone(window, desk)
    window.workspace.bridge.apply(
        "x",
        lambda p: replace(
            p,
            cameras=tuple(
                replace(c, heading_deg=c.heading_deg + 6) if c.id == only.subject else c for c in p.cameras
            ),
        ),
    )
    desk.refresh()
    run_whole(desk)
    desk.choose_page(RESULTS)
    look_at(desk, 0)
    assert desk.picture.has_before
    assert (desk.results.made[0].parent / BEFORE_FOLDER / desk.results.made[0].name).is_file()
    desk.picture.choose(AGAINST)
    assert len(desk.picture.parts()) == 2
    place = QPointF(40, 40)
    wheel = QWheelEvent(
        place,
        QPointF(desk.picture.mapToGlobal(place.toPoint())),
        QPoint(),
        QPoint(0, 120),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    desk.picture.zoom = 1.0
    QApplication.sendEvent(desk.picture, wheel)
    assert desk.picture.zoom == 2.0
    left, right = (desk.picture.target(box, image) for box, image, _ in desk.picture.parts())
    distance = right.x() - left.x()
    drag(desk.picture, QPointF(50, 80), QPointF(30, 70))
    left, right = (desk.picture.target(box, image) for box, image, _ in desk.picture.parts())
    # Both are panned together.
    assert right.x() - left.x() == pytest.approx(distance, abs=1.0)
    desk.picture.choose(DIFFERENCE)
    assert len(desk.picture.parts()) == 1
    assert pixels_of(desk.picture.apart).max() > 20


@pytest.mark.slow
def test_tone_changes_the_picture_at_once_and_the_files_without_drawing(
    window: MainWindow, desk: HandOverDesk, monkeypatch: pytest.MonkeyPatch
) -> None:
    make_first_alone(window, desk)
    took = next(iter(desk.production.state.pieces.values())).took
    desk.choose_page(RESULTS)
    look_at(desk, 0)
    press(desk.tone_button)
    until(lambda: desk.tone.light_read is not None, 20)
    assert desk.panels.currentWidget() is desk.tone
    ordered: list[tuple[Order, str]] = []
    send = window.workspace.studio.pictures.send
    monkeypatch.setattr(
        window.workspace.studio.pictures,
        "send",
        lambda task: (ordered.append((task.order, task.channel)), send(task)),
    )
    before = toned(desk)
    enter(desk.tone.fields["exposure_ev"], "1")
    assert window.workspace.bridge.project.tone.exposure_ev == 1.0
    assert window.workspace.bridge.document.undo_label == "Exposure"
    after = toned(desk)
    assert after.mean() > before.mean() + 10
    curve = desk.tone.curve
    press(curve.add)
    enter(curve.after, "0.7")
    assert window.workspace.bridge.project.tone.curve == ((0.5, 0.7),)
    assert toned(desk).mean() > after.mean() + 5
    press(curve.away)
    assert window.workspace.bridge.project.tone.curve == ()
    desk.tone.whose.chosen.emit(1)
    enter(desk.tone.fields["contrast"], "0.4")
    assert shots_of(window)[0].tone is not None
    assert window.workspace.bridge.project.tone.contrast == 0.0
    press(desk.tone.propose)
    press(desk.tone.before)
    assert desk.tone.histogram._values.shape == (3, 128)
    until(lambda: abs((pixels_of(desk.picture.image).astype(int) - before).mean()) < 0.6, 10)
    press(desk.tone.before)
    # No picture was asked for from the renderer by all this; the strip may be drawing what the tests before
    # have changed.
    drawn = [
        order
        for order, channel in ordered
        if isinstance(order, DrawPicture | DrawRound | DrawFinished) and not channel.startswith("thumb:")
    ]
    assert drawn == []
    path = desk.results.made[0]
    stamp = path.read_bytes()
    press(desk.tone.write)
    until(lambda: not desk.production.running, 60)
    assert path.read_bytes() != stamp
    assert next(iter(desk.production.state.pieces.values())).took < max(0.4, took)
    press(desk.tone_button)


@pytest.mark.slow
def test_a_picture_leads_back_to_its_framing(window: MainWindow, desk: HandOverDesk) -> None:
    only = make_first_alone(window, desk)
    desk.choose_page(RESULTS)
    look_at(desk, 0)
    wanted = window.workspace.bridge.project.camera(only.subject)
    assert wanted is not None
    press(desk.framing)
    assert window.workspace.state.active == wanted and window.workspace.state.loose is None
    # The camera stands elsewhere now: the framing comes as a loose view.
    window.workspace.bridge.apply(
        "x",
        lambda p: replace(
            p, cameras=tuple(replace(c, focal_mm=50.0) if c.id == only.subject else c for c in p.cameras)
        ),
    )
    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(desk.results.made[0]))])
    window.dropEvent(
        QDropEvent(
            QPointF(5, 5),
            Qt.DropAction.CopyAction,
            mime,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
        )
    )
    until(lambda: window.workspace.state.loose is not None, 10)
    assert window.workspace.state.loose is not None
    assert window.workspace.state.loose.view() == wanted.view()
    assert "This is how" in window.notice_bar.sentence
    assert not window.going.to_picture(Path("/nowhere/x.png"))
    assert "cannot be read" in window.notice_bar.sentence


@pytest.mark.slow
def test_every_row_has_its_own_small_picture(window: MainWindow, desk: HandOverDesk) -> None:
    def more(project: Project) -> Project:
        first = project.shots[0]
        tall = next(
            number
            for number, item in enumerate(project.camera(first.subject).formats)
            if item.height_px > item.width_px
        )  # type: ignore[union-attr]
        return add_shots(project, [replace(first, format_index=tall), replace(first, rendition=LINES)])

    window.workspace.bridge.apply("x", more)
    desk.refresh()
    rows = {row.shot.id: row for row in desk.table.rows}
    ids = list(rows)
    pictures = desk.list.pictures

    def drawn() -> bool:
        desk.table.viewport().update()
        return all(
            pictures.image_of(row) is not None and pictures.drawn.get(key) == pictures.key_of(row.item)
            for key, row in rows.items()
        )

    until(drawn, 120)
    whole, _jpeg, panorama, film, tall, lines = (pictures.images[key] for key in ids)
    assert whole.width() / whole.height() == pytest.approx(16 / 9, rel=0.02)
    assert panorama.width() == 2 * panorama.height()
    assert film.width() / film.height() == pytest.approx(16 / 9, rel=0.02)
    # In its own format, not in the one that the camera shows; drawn as it will be: mostly paper.
    assert tall.width() / tall.height() == pytest.approx(9 / 16, rel=0.03)
    assert np.median(pixels_of(lines)) > 240 > np.median(pixels_of(whole))
    # What changes no picture has none drawn again; what does, has.
    asked: list[str] = []
    send = window.workspace.studio.order_finished
    window.workspace.studio.order_finished = lambda channel, *rest: (
        asked.append(channel),
        send(channel, *rest),
    )[1]  # type: ignore[method-assign]
    try:
        window.workspace.bridge.apply(
            "x", lambda p: change_shots(p, [ids[0], ids[3]], folder="other", quality="final", dpi=300.0)
        )
        desk.refresh()
        rows = {row.shot.id: row for row in desk.table.rows}
        assert drawn()
        window.workspace.bridge.apply("x", lambda p: change_shots(p, [ids[0]], rendition=LINES))
        desk.refresh()
        rows = {row.shot.id: row for row in desk.table.rows}
        assert not drawn()
        until(drawn, 60)
    finally:
        del window.workspace.studio.order_finished  # type: ignore[method-assign]
    assert asked == [f"row:{ids[0]}"]
    window.workspace.bridge.apply("x", lambda p: change_shots(p, [ids[3]], rendition=LINES))
    desk.refresh()
    rows = {row.shot.id: row for row in desk.table.rows}
    until(drawn, 60)
    assert np.median(pixels_of(pictures.images[ids[3]])) > 240 > np.median(pixels_of(film))
    # What cannot be drawn is tried once more, and then left.
    window.workspace.bridge.apply(
        "x",
        lambda p: change_shots(
            p, [ids[0]], rendition=MATERIALS, background=PICTURE, background_file="gone.png"
        ),
    )
    desk.refresh()
    rows = {row.shot.id: row for row in desk.table.rows}
    until(drawn, 60)
    assert "gone.png" in window.notice_bar.sentence
    # Another project may have rows of the same names: it begins with no picture.
    pictures.follow_project(desk.project_path)
    assert [pictures.images.get(key) for key in ids] == [None] * len(ids)


def test_a_region_is_drawn_in_the_picture(window: MainWindow, desk: HandOverDesk) -> None:
    shot = shots_of(window)[0]
    desk.table.choose([shot.id])
    press(desk.settings.sizes.region)
    # Nothing was made yet: the whole of it is drawn, large enough to draw in.
    until(lambda: desk.picture.image is not None and desk.picture.image.width() >= 900, 30)
    box = desk.picture.picture_rect()
    drag(
        desk.picture,
        box.topLeft() + QPointF(box.width() * 0.25, box.height() * 0.25),
        box.topLeft() + QPointF(box.width() * 0.75, box.height() * 0.5),
    )
    region = shots_of(window)[0].region
    assert region == pytest.approx((0.25, 0.25, 0.75, 0.5), abs=0.01)
    desk.refresh()
    press(desk.settings.sizes.whole)
    assert shots_of(window)[0].region is None


@pytest.mark.slow
def test_a_run_pauses_goes_on_and_is_stopped(window: MainWindow, desk: HandOverDesk) -> None:
    ids = [shot.id for shot in shots_of(window)]
    # So many samples that it is not over before it is stopped, on whatever machine.
    window.workspace.bridge.apply(
        "x", lambda p: change_shots(p, ids[:2], width_px=96, quality="final", samples=60_000)
    )
    desk.refresh()
    press(desk.run_bar.go)
    until(lambda: desk.production.state.label, 30)
    press(desk.run_bar.pause)
    until(lambda: desk.production.state.paused, 30)
    share = desk.production.state.share
    QTest.qWait(500)
    assert desk.production.state.share == share
    assert desk.run_bar.pause.text() == "Go on"
    press(desk.run_bar.pause)
    until(lambda: not desk.production.state.paused, 30)
    desk.table.choose([ids[3]])
    press(desk.run_bar.first)
    assert json.loads((desk.production._job / "order.json").read_text()) == [desk.list.rows[3].file]  # type: ignore[operator]
    press(desk.run_bar.cancel)
    until(lambda: not desk.production.running, 60)
    assert desk.run_bar.told.text().startswith("Stopped.")


@pytest.mark.slow
def test_a_run_outlives_the_window_and_is_found_again_or_resumed(
    window: MainWindow, desk: HandOverDesk
) -> None:
    press(desk.run_bar.go)
    until(lambda: desk.production.state.process, 30)
    # What a window that is opened anew does: the run is still going, and followed.
    desk.production.leave()
    again = Production()
    assert again.pick_up(desk.project_path) == "going"
    os.kill(again.state.process or desk.production.state.process, signal.SIGKILL)
    until(lambda: not again.running, 30)
    third = Production()
    assert third.pick_up(desk.project_path) == "broken"
    ended: list[bool] = []
    third.ended.connect(lambda good, sentence: ended.append(good))
    third.resume(desk.project_path)
    until(lambda: ended, 120)
    assert ended == [True]
    assert third.pick_up(desk.project_path) == ""
    assert len([path for path in desk.out.rglob("*") if path.suffix in (".png", ".jpg", ".mp4")]) == 4


@pytest.mark.slow
def test_test_pictures_of_the_chosen_rows(window: MainWindow, desk: HandOverDesk) -> None:
    desk.table.choose([shots_of(window)[0].id])
    press(desk.run_bar.test)
    assert desk.run_bar.tests.running and not desk.production.running
    until(lambda: not desk.run_bar.tests.running, 60)
    (path,) = (desk.out / "tests").glob("*.png")
    assert path.name == "01-waiting-hall-to-the-water-screen-16-9-test.png"


@pytest.mark.slow
def test_pages_are_written_in_the_background(window: MainWindow, desk: HandOverDesk) -> None:
    desk.client_pages.make_pages(("sheet",))
    until(lambda: "Nothing of the shot list" in desk.run_bar.told.text(), 20)
    run_whole(desk)
    menu = menu_of(desk.client_pages.sheet_button)
    assert [action.isEnabled() for action in menu.actions()] == [True] * 5
    menu.actions()[-1].trigger()
    until(lambda: "for-the-client.zip" in desk.run_bar.told.text(), 60)
    assert {
        "contact-sheet.png",
        "presentation.pdf",
        "look-round.html",
        "index.html",
        "for-the-client.zip",
    } <= {p.name for p in desk.out.iterdir()}


def test_what_happens_at_the_end_is_chosen_before(window: MainWindow, desk: HandOverDesk) -> None:
    menu = menu_of(desk.run_bar.end_menu)
    menu.actions()[1].trigger()
    assert desk.run_bar.end_menu.text() == "Then: say so ▾"
    desk.run_bar.finished(True)
    assert window.notice_bar.sentence == "All is made."
    menu_of(desk.run_bar.end_menu).actions()[0].trigger()
    assert desk.run_bar.end_menu.text() == "Then: nothing ▾"


def test_rows_go_with_their_camera_and_come_back_with_it(window: MainWindow, desk: HandOverDesk) -> None:
    window.going.choose_desk(1)
    subject = shots_of(window)[1].subject
    window.workspace.state.select(subject)
    window.cameras.delete_cameras()
    assert subject not in {shot.subject for shot in shots_of(window)}
    window.workspace.bridge.undo()
    assert subject in {shot.subject for shot in shots_of(window)}


def test_the_button_of_compose_puts_cameras_in_the_list(window: MainWindow, desk: HandOverDesk) -> None:
    window.going.choose_desk(1)
    window.workspace.state.select("cam-05")
    press(window.compose.settings.shot_button)
    assert any(shot.subject == "cam-05" for shot in shots_of(window))
    press(window.compose.settings.shot_button)
    assert not any(shot.subject == "cam-05" for shot in shots_of(window))


@pytest.mark.slow
def test_the_frame_is_copied_and_saved_in_the_formats_exact_size(
    window: MainWindow, desk: HandOverDesk
) -> None:
    window.going.choose_desk(1)
    window.workspace.state.select("cam-03")
    window.workspace.bridge.apply(
        "x",
        lambda p: replace(
            p,
            cameras=tuple(
                replace(c, width_px=320, height_px=180) if c.id == "cam-03" else c for c in p.cameras
            ),
        ),
    )
    window.making.copy_frame()
    until(lambda: "on the clipboard, 320 × 180 px" in window.notice_bar.sentence, 30)
    assert QApplication.clipboard().image().size().width() == 320
    window.making.save_frame()
    until(lambda: "Written:" in window.notice_bar.sentence, 30)
    (path,) = (desk.project_path.parent / "frames").glob("ticket-office*.png")
    assert image_of(pixels_of(QImage(str(path)))).height() == 180
    path.unlink()


@pytest.mark.slow
def test_a_panorama_is_toned_while_one_looks_round(window: MainWindow, desk: HandOverDesk) -> None:
    """Its tone works as that of a still, keeps where one looks, and is written from the master; vignettes
    have no place in it."""
    ids = [shot.id for shot in shots_of(window)]
    window.workspace.bridge.apply("x", lambda p: change_shots(p, [*ids[:2], ids[3]], on=False))
    desk.refresh()
    run_whole(desk)
    desk.choose_page(RESULTS)
    look_at(desk, 0)
    desk.results.round.turn(80.0, 5.0)
    before = desk.results.round.picture(60, 40).astype(int)
    press(desk.tone_button)
    until(lambda: desk.tone.light_read is not None, 20)
    assert not desk.tone.fields["vignette"].isEnabled() and desk.tone.fields["glow"].isEnabled()
    enter(desk.tone.fields["exposure_ev"], "1")
    toned(desk)
    assert desk.results.round.heading_deg == pytest.approx(80.0)
    assert desk.results.round.picture(60, 40).mean() > before.mean() + 10
    # Below nought highlights come back: the bend begins earlier, and the picture is darker.
    bright = toned(desk).mean()
    enter(desk.tone.fields["highlights"], "-0.5")
    assert window.workspace.bridge.project.tone.rolloff == 1.5
    assert toned(desk).mean() < bright
    file = desk.results.made[0].read_bytes()
    press(desk.tone.write)
    until(lambda: desk.results.made[0].read_bytes() != file and not desk.production.running, 60)


@pytest.mark.slow
def test_panoramas_and_films_are_compared_with_their_last_version_in_step(
    window: MainWindow, desk: HandOverDesk
) -> None:
    ids = [shot.id for shot in shots_of(window)]
    window.workspace.bridge.apply("x", lambda p: change_shots(p, ids[:2], on=False))
    desk.refresh()
    for _ in range(2):
        run_whole(desk)
        window.workspace.bridge.apply("x", turned_a_little, over_locks=True)
        desk.refresh()
    desk.choose_page(RESULTS)
    names = [path.suffix for path in desk.results.made]
    look_at(desk, names.index(".jpg"))
    assert desk.results.round_before.isHidden()
    assert [item.isEnabled() for item in desk.results.view_choice.buttons()] == [True, False, True, False]
    desk.results.choose_view(AGAINST)
    assert not desk.results.round_before.isHidden()
    desk.results.round.turn(80.0, 12.0)
    desk.results.round.zoom(50.0)
    assert (
        desk.results.round_before.heading_deg,
        desk.results.round_before.tilt_deg,
        desk.results.round_before.angle_deg,
    ) == (
        pytest.approx(
            81.0
        ),  # its middle looks a degree less far round: both look to the same point of the compass
        12.0,
        50.0,
    )
    desk.results.round_before.turn(10.0, 0.0)
    assert desk.results.round.heading_deg == pytest.approx(9.0)
    look_at(desk, names.index(".mp4"))
    desk.results.choose_view(AGAINST)
    assert not desk.results.film_before.isHidden()
    desk.results.film.seek(0.25)
    assert desk.results.film_before.seconds == pytest.approx(desk.results.film.seconds)
    desk.results.film.toggle()
    assert desk.results.film.playing and desk.results.film_before.playing
    until(lambda: not desk.results.film.playing, 10)
    until(lambda: not desk.results.film_before.playing, 10)
    assert desk.results.film_before.seconds == pytest.approx(desk.results.film.seconds)
    desk.results.choose_view(FIT)
    assert desk.results.film_before.isHidden()


def take(menu: QMenu, name: str) -> bool:
    """Trigger an action of a menu, or of a menu in it; False where there is none."""
    for action in menu.actions():
        if action.text() == name:
            action.trigger()
            return True
        inner = action.menu()
        if inner is not None and take(inner, name):
            return True
    return False


def test_line_styles_are_chosen_changed_and_kept(
    window: MainWindow, desk: HandOverDesk, tmp_path: Path
) -> None:
    ids = [shot.id for shot in shots_of(window)]
    window.workspace.bridge.apply("x", lambda p: change_shots(p, ids[:2], rendition="pencil"))
    desk.settings.chosen.presets = tmp_path / "presets"
    desk.refresh()
    desk.table.choose(ids[:2])
    lines = desk.settings.lines
    assert not lines.group.isHidden() and lines.styles.text() == "Ink ▾"
    assert take(menu_of(lines.styles), "Soft pencil")
    assert [shot.style.name for shot in shots_of(window)[:2]] == ["Soft pencil"] * 2
    assert window.workspace.bridge.document.undo_label == "Style Soft pencil"
    desk.refresh()
    enter(lines.fields["roughness"], "0.9")
    lines.ink.setText("2040a0")
    lines.ink.setModified(True)
    lines.ink.editingFinished.emit()
    desk.refresh()
    assert lines.styles.text() == "Soft pencil, changed ▾"
    assert shots_of(window)[1].style.ink == "#2040a0"
    lines.ink.setText("blue")
    lines.ink.setModified(True)
    lines.ink.editingFinished.emit()
    assert shots_of(window)[1].style.ink == "#2040a0" and lines.ink.property("wrong")
    lines.ink.setModified(False)
    lines.keep("Blue hand/../x")
    (kept,) = (tmp_path / "presets").iterdir()
    assert kept.name == "Blue hand-..-x.altana-style"
    desk.refresh()
    desk.table.choose(ids[:1])
    assert take(menu_of(lines.styles), "Fine pen")
    assert take(menu_of(lines.styles), "Blue hand-..-x")
    assert (shots_of(window)[0].style.ink, shots_of(window)[0].style.roughness) == ("#2040a0", 0.9)
    # Another of the same name goes beside it.
    stamp = kept.read_bytes()
    lines.keep("Blue hand-..-x")
    assert kept.read_bytes() == stamp and (tmp_path / "presets" / "Blue hand-..-x 2.altana-style").is_file()
    desk.refresh()
    kept.write_text("{}")
    damaged = next(
        action for action in menu_of(lines.styles).actions() if action.text() == f"{kept.name} (damaged)"
    )
    assert not damaged.isEnabled()
    lines.use_file(kept)
    assert "cannot be used as a line style" in window.notice_bar.sentence
    desk.table.choose(ids[2:3])
    assert lines.group.isHidden()


def test_background_ground_and_what_is_left_out_are_the_rows_own(
    window: MainWindow, desk: HandOverDesk, tmp_path: Path
) -> None:
    ids = [shot.id for shot in shots_of(window)]
    desk.table.choose(ids[:1])
    settings = desk.settings
    assert settings.drawn.ground_colour.isHidden()
    settings.drawn.ground.setCurrentText("plain")
    settings.drawn.ground.activated.emit(settings.drawn.ground.currentIndex())
    desk.refresh()
    assert shots_of(window)[0].ground == "plain" and not settings.drawn.ground_colour.isHidden()
    picture = QImage(40, 20, QImage.Format.Format_RGB32)
    picture.fill(0x335577)
    picture.save(str(tmp_path / "lake.png"))
    settings.drawn.use_picture(tmp_path / "lake.png")
    assert shots_of(window)[0].background_file == "backgrounds/lake.png"
    assert (desk.project_path.parent / "backgrounds/lake.png").is_file()
    picture.fill(0x112233)
    picture.save(str(tmp_path / "lake.png"))
    settings.drawn.use_picture(tmp_path / "lake.png")
    # Another picture of the same name goes beside it, and takes nothing away.
    assert shots_of(window)[0].background_file == "backgrounds/lake-2/lake.png"
    desk.refresh()
    shutil.rmtree(desk.project_path.parent / "backgrounds")
    assert take(menu_of(settings.left_out.menu), "Furniture")
    desk.refresh()
    assert shots_of(window)[0].left_out.categories == ("Furniture",)
    assert shots_of(window)[1].left_out.categories == ()
    assert settings.left_out.names.text() == "Furniture"
    # A drawing has paper or nothing behind it.
    window.workspace.bridge.apply(
        "x", lambda p: change_shots(p, ids[:1], rendition="lines", background="sky")
    )
    desk.refresh()
    assert [
        settings.drawn.background.itemText(index) for index in range(settings.drawn.background.count())
    ] == ["paper", "transparent"]
    assert settings.drawn.ground.isHidden()
    settings.drawn.background.setCurrentText("transparent")
    settings.drawn.background.activated.emit(1)
    assert shots_of(window)[0].background == "transparent"


def test_a_panoramas_size_and_front(window: MainWindow, desk: HandOverDesk) -> None:
    ids = [shot.id for shot in shots_of(window)]
    desk.table.choose(ids[2:3])
    sizes = desk.settings.sizes
    sizes.form.activated.emit(2)
    assert shots_of(window)[2].width_px == 6000
    desk.refresh()
    assert "16.7 px/°" in sizes.group.figure
    hall = window.workspace.bridge.project.camera(shots_of(window)[2].subject)
    assert sizes.front.value == pytest.approx(hall.heading_deg) and not sizes.front.isEnabled()
    press(sizes.front_on)
    desk.refresh()
    enter(sizes.front, "-90")
    assert shots_of(window)[2].front_deg == 270.0
    desk.refresh()
    assert take(menu_of(sizes.towards), "Quay, morning")
    quay = window.workspace.bridge.project.camera_named("Quay, morning")
    east, north = (quay.eye[axis] - hall.eye[axis] for axis in (0, 1))
    assert shots_of(window)[2].front_deg == pytest.approx(
        np.degrees(np.arctan2(east, north)) % 360.0, abs=0.01
    )
    desk.refresh()
    assert take(menu_of(sizes.towards), "Ticket office")
    room = next(item for item in window.workspace.studio.scene.model.rooms if item.name == "Ticket office")
    x, y = np.mean(room.outline, axis=0) - hall.eye[:2]
    assert shots_of(window)[2].front_deg == pytest.approx(np.degrees(np.arctan2(x, y)) % 360.0, abs=0.01)
    desk.refresh()
    press(sizes.front_on)
    assert shots_of(window)[2].front_deg is None


def test_what_the_words_of_quality_stand_for(
    window: MainWindow, desk: HandOverDesk, monkeypatch: pytest.MonkeyPatch
) -> None:
    desk.table.choose([shots_of(window)[0].id])
    before = desk.side.total.text()

    def typed(dialog: FiguresDialog) -> int:
        dialog.fields["proof", "passes"].show_value(90.0)
        return 1

    monkeypatch.setattr(FiguresDialog, "exec", typed)
    press(desk.settings.making.figures)
    assert window.workspace.bridge.project.qualities.proof.passes == 90
    assert window.workspace.bridge.document.undo_label == "Figures of proof, review and final"
    desk.refresh()
    assert desk.side.total.text() != before
    assert "90 passes" in desk.settings.making.quality.buttons()[0].toolTip()
    dialog = FiguresDialog(window.workspace.bridge.project.qualities)
    dialog.show_figures(USUAL_QUALITIES)
    assert dialog.qualities == USUAL_QUALITIES


def test_a_curve_is_drawn_by_hand_and_by_keys(window: MainWindow) -> None:
    editor = CurveEditor(LIGHT)
    editor.resize(240, 140)
    editor.show()
    view, changes = editor.view, []
    editor.changed.connect(changes.append)
    middle = QPoint(view.width() // 2, view.height() // 2)
    drag(view, QPointF(middle), QPointF(middle.x(), 8))
    assert len(changes) == 1
    ((x, y),) = changes[-1]
    assert x == pytest.approx(0.5, abs=0.03) and y > 0.9
    QTest.keyClick(view, Qt.Key.Key_Down)
    assert view.points[0][1] == pytest.approx(y - 0.01, abs=1e-6)
    QTest.keyClick(view, Qt.Key.Key_Insert)
    assert len(view.points) == 2
    QTest.keyClick(view, Qt.Key.Key_PageDown)
    enter(editor.after, "0.6")
    # A point stays between its neighbours.
    for _ in range(80):
        QTest.keyClick(view, Qt.Key.Key_Right)
    places = [place for place, _ in view.points]
    assert places == sorted(set(places))
    checked_tone(Tone(curve=view.points))
    drag(view, view._at(view.points[view.chosen]), QPointF(middle.x(), -200))
    assert len(view.points) == 1
    view.chosen = 0
    QTest.keyClick(view, Qt.Key.Key_Delete)
    assert view.points == () and changes[-1] == ()
    for _ in range(20):
        view.insert()
    assert len(view.points) == 8
    editor.close()


@pytest.mark.slow
def test_a_colour_table_is_put_over_and_copied_in(
    window: MainWindow, desk: HandOverDesk, tmp_path: Path
) -> None:
    make_first_alone(window, desk)
    desk.choose_page(RESULTS)
    look_at(desk, 0)
    press(desk.tone_button)
    until(lambda: desk.tone.light_read is not None, 20)
    before = toned(desk)
    (tmp_path / "turned.cube").write_text("LUT_1D_SIZE 2\n1 1 1\n0 0 0\n")
    desk.tone.tables.use(tmp_path / "turned.cube")
    until(lambda: window.workspace.bridge.project.tone.table == "tables/turned.cube", 10)
    assert np.abs(toned(desk) - (255 - before)).max() <= 1
    # Its file may be worked on meanwhile.
    (desk.project_path.parent / "tables" / "turned.cube").write_text("LUT_1D_SIZE 2\n0 0 0\n1.0 1.0 1.0\n")
    assert np.abs(toned(desk) - before).max() <= 1
    assert not desk.tone.tables.share.isHidden()
    enter(desk.tone.tables.share, "0")
    assert np.abs(toned(desk) - before).max() <= 1
    (tmp_path / "bad.cube").write_text("LUT_3D_SIZE 4\n")
    desk.tone.tables.use(tmp_path / "bad.cube")
    until(lambda: "cannot be used as a colour table" in window.notice_bar.sentence, 10)
    assert "turned" in [action.text() for action in menu_of(desk.tone.tables.menu).actions()]
    assert take(menu_of(desk.tone.tables.menu), "None")
    until(lambda: window.workspace.bridge.project.tone.table == "", 10)
    # One that is no longer there is said, and the picture is shown without it.
    window.workspace.bridge.apply(
        "x", lambda p: replace(p, tone=replace(p.tone, table="tables/gone.cube", table_share=1.0))
    )
    assert np.abs(toned(desk) - before).max() <= 1
    until(lambda: "gone.cube is not there" in window.notice_bar.sentence, 10)
    shutil.rmtree(desk.project_path.parent / "tables")
    press(desk.tone_button)


@pytest.mark.slow
def test_any_two_files_of_a_kind_are_compared(window: MainWindow, desk: HandOverDesk) -> None:
    ids = [shot.id for shot in shots_of(window)]
    window.workspace.bridge.apply(
        "x",
        lambda p: add_shots(
            p, [replace(shots_of(window)[2], front_deg=90.0, pattern="{order}-panorama-east")]
        ),
    )
    desk.refresh()
    run_whole(desk)
    desk.choose_page(RESULTS)
    names = [path.name for path in desk.results.made]
    pictures = [
        number for number, path in enumerate(desk.results.made) if desk.results.family(path) == "picture"
    ]
    rounds = [
        number for number, path in enumerate(desk.results.made) if desk.results.family(path) == "panorama"
    ]
    assert len(pictures) == len(rounds) == 2, names
    pictures, rounds = (sorted(pair, key=lambda number: names[number]) for pair in (pictures, rounds))
    look_at(desk, pictures[0])
    menu = menu_of(desk.results.compared)
    other = desk.results.made[pictures[1]]
    # Only what can be looked at in the same way is offered.
    assert [action.text() for action in menu.actions() if action.text()] == [
        "Last version",
        other.relative_to(desk.out).as_posix(),
    ]
    menu.actions()[-1].trigger()
    until(lambda: desk.picture.mode == AGAINST, 20)
    assert [name for _, _, name in desk.picture.parts()] == [
        other.relative_to(desk.out).as_posix(),
        names and desk.results._called(desk.file),
    ]
    desk.results.choose_view(DIFFERENCE)
    assert pixels_of(desk.picture.apart).max() > 20 if desk.picture.parts() else False
    look_at(desk, rounds[0])
    assert desk.results.other is None
    desk.results.compare(desk.results.made[rounds[1]])
    until(lambda: not desk.results.round_before.isHidden(), 20)
    # Both look to the same point of the compass.
    desk.results.round.turn(30.0, 0.0)
    hall = window.workspace.bridge.project.camera(shots_of(window)[2].subject)
    assert desk.results.round_before.heading_deg == pytest.approx(
        (30.0 + hall.heading_deg - 90.0) % 360.0, abs=0.1
    )
    desk.results.compare(None)
    assert desk.results.compared.text() == "Last version ▾"
    assert ids


@pytest.mark.slow
def test_the_machine_is_switched_off_at_the_end_unless_kept_on(
    window: MainWindow, desk: HandOverDesk, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("ALTANA_SWITCH_OFF", "pretend")
    only = shots_of(window)[1]
    window.workspace.bridge.apply("x", lambda p: replace(p, shots=(only,)))
    desk.refresh()
    assert take(menu_of(desk.run_bar.end_menu), "Switch the machine off")
    press(desk.run_bar.go)
    until(lambda: "The machine is switched off in" in desk.run_bar.told.text(), 60)
    assert desk.run_bar.cancel.text() == "Keep it on" and desk.run_bar.cancel.isEnabled()
    # A window that is opened meanwhile finds the countdown.
    other = Production()
    assert other.pick_up(desk.project_path) == "going"
    until(lambda: bool(other.state.off), 10)
    press(desk.run_bar.cancel)
    until(lambda: not desk.production.running, 20)
    assert "1 file made" in desk.run_bar.told.text() and "stays on" in desk.run_bar.told.text()
    assert desk.run_bar.cancel.text() == "Stop"
    until(lambda: not other.running, 20)
    # Chosen and taken back while it goes on: nothing is counted down.
    assert take(menu_of(desk.run_bar.end_menu), "Nothing")
    press(desk.run_bar.go)
    assert take(menu_of(desk.run_bar.end_menu), "Switch the machine off")
    assert take(menu_of(desk.run_bar.end_menu), "Nothing")
    until(lambda: not desk.production.running, 60)
    assert "switched off" not in desk.run_bar.told.text() and "stays on" not in desk.run_bar.told.text()
