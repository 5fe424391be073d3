"""The Hand-over desk through its window: rows, their settings, the run, results, tone, look round, framing."""

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

from altana.app.desks.handover import LIST, RESULTS, HandOverDesk
from altana.app.drawings.picture_view import ACTUAL, AGAINST, DIFFERENCE, FIT, image_of, pixels_of
from altana.app.production import Production, State
from altana.app.window import HAND_OVER, MainWindow
from altana.core.edits.shots import add_shots, change_shots, start_values
from altana.core.project import FILM, PANORAMA, Project, Shot
from altana.jobs.film import BEFORE_FOLDER
from tests.app.conftest import drag, enter, press, until


@pytest.fixture
def desk(window: MainWindow) -> HandOverDesk:
    desk = window.handover
    shutil.rmtree(desk.out, ignore_errors=True)
    shutil.rmtree(Production.job_of(desk.project_path), ignore_errors=True)
    desk.production.state = State()
    desk.production.end_action = "nothing"
    desk.tone_button.setChecked(False)

    def few(project: Project) -> Project:
        hall, quay = (project.camera_named(name).id for name in ("Waiting hall to the water", "Quay, morning"))
        walks = tuple(replace(walk, seconds=0.5, rate="12", width_px=96, height_px=54) for walk in project.walks)
        bare = replace(project, shots=(), walks=walks)
        still = replace(start_values(bare, "still", hall), width_px=160, quality="proof")
        rows = [still, replace(still, subject=quay, file="jpg", keep_master=False)]
        rows.append(replace(start_values(bare, PANORAMA, hall), width_px=256, quality="proof"))
        rows.append(replace(start_values(bare, FILM, "walk-01"), quality="proof"))
        return add_shots(bare, rows)

    window.bridge.apply("few", few)
    window.choose_desk(HAND_OVER)
    desk.choose_page(LIST)
    desk.refresh()
    desk.table.choose([])
    return desk


def shots_of(window: MainWindow) -> tuple[Shot, ...]:
    return window.bridge.project.shots


def turned_a_little(project: Project) -> Project:
    """Every camera and walk shows a little else."""
    cameras = tuple(replace(camera, heading_deg=camera.heading_deg + 1.0) for camera in project.cameras)
    return replace(project, cameras=cameras, walks=tuple(replace(walk, eye_height_m=walk.eye_height_m + 0.02) for walk in project.walks))


def look_at(desk: HandOverDesk, row: int) -> None:
    """Choose a file of the results, and wait until it is read."""
    desk.files.setCurrentRow(-1)
    desk.files.setCurrentRow(row)
    if desk.viewers.currentWidget() is desk.picture:
        until(lambda: desk.picture.image is not None, 20)
    elif desk.viewers.currentWidget() is desk._round_holder:
        until(lambda: desk.round._pixels is not None, 20)


def run_whole(desk: HandOverDesk) -> None:
    press(desk.go)
    assert desk.production.running
    until(lambda: not desk.production.running, 120)


def test_rows_are_added_for_chosen_cameras_and_walks(window: MainWindow, desk: HandOverDesk) -> None:
    window.state.select_many(("cam-02", "cam-04"), "cam-04")
    press(desk.add_still)
    press(desk.add_round)
    assert [(shot.kind, shot.subject) for shot in shots_of(window)[4:]] == [
        ("still", "cam-02"),
        ("still", "cam-04"),
        ("panorama", "cam-02"),
        ("panorama", "cam-04"),
    ]
    menu = QMenu()
    desk._fill_films(menu)
    menu.actions()[1].trigger()
    assert shots_of(window)[-1].subject == "walk-02"
    desk.refresh()
    assert desk.table.rowCount() == 9
    assert desk.table.item(8, 2).text() == "Round the terminal\nturntable"
    assert "9 of 9 rows are on: about" in desk._total.text()
    window.undo()
    assert len(shots_of(window)) == 8


def test_rows_are_chosen_switched_moved_duplicated_and_taken_out(window: MainWindow, desk: HandOverDesk) -> None:
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
    press(desk.earlier)
    assert [shot.id for shot in shots_of(window)] == ids
    desk.refresh()
    press(desk.copy)
    assert len(shots_of(window)) == 5
    desk.refresh()
    desk.table.choose([shots_of(window)[1].id, ids[3]])
    QTest.keyClick(desk.table, Qt.Key.Key_Delete)
    assert [shot.id for shot in shots_of(window)] == ids[:3]


def test_settings_change_all_chosen_rows_and_show_where_they_differ(window: MainWindow, desk: HandOverDesk) -> None:
    ids = [shot.id for shot in shots_of(window)]
    desk.table.choose(ids[:2])
    settings = desk.settings
    assert settings.file.currentIndex() == -1
    settings.rendition.setCurrentText("lines")
    settings.rendition.activated.emit(settings.rendition.currentIndex())
    assert [shot.rendition for shot in shots_of(window)] == ["lines", "lines", "materials", "materials"]
    assert window.bridge.document.undo_label == "Drawn as"
    desk.refresh()
    enter(settings.style_fields["outline_px"], "4")
    assert [shot.style.outline_px for shot in shots_of(window)[:2]] == [4.0, 4.0]
    desk.refresh()
    enter(settings.dpi, "300")
    desk.refresh()
    enter(settings.print_field, "100")
    assert [(shot.dpi, shot.width_px) for shot in shots_of(window)[:2]] == [(300.0, 1181), (300.0, 1181)]
    desk.refresh()
    desk.table.choose(ids[:1])
    enter(settings.pattern, "{order}-{room}")
    desk.refresh()
    assert settings.example.text() == "becomes stills/inside/01-waiting-hall.png"
    enter(settings.pattern, "{weather}")
    assert "no field of a name" in window._banner_text.text()
    assert shots_of(window)[0].pattern == "{order}-{room}"
    settings.quality.chosen.emit(2)
    assert shots_of(window)[0].quality == "final"
    # A transparent JPEG is refused with a sentence, and nothing changes.
    desk.refresh()
    desk.table.choose(ids[1:2])
    settings.background.setCurrentText("transparent")
    settings.background.activated.emit(settings.background.currentIndex())
    assert "cannot be transparent" in window._banner_text.text()
    assert shots_of(window)[1].background == "sky"


def test_presets_are_kept_and_used(window: MainWindow, desk: HandOverDesk, tmp_path: Path) -> None:
    ids = [shot.id for shot in shots_of(window)]
    window.bridge.apply("x", lambda p: change_shots(p, ids[:1], rendition="pencil", dpi=150.0))
    desk.refresh()
    desk.table.choose(ids[:1])
    desk.settings.save_preset(tmp_path / "sketch")
    desk.table.choose(ids[1:2])
    desk.settings.use_preset(tmp_path / "sketch.altana-preset")
    assert (shots_of(window)[1].rendition, shots_of(window)[1].dpi, shots_of(window)[1].file) == ("pencil", 150.0, "png")
    (tmp_path / "bad.altana-preset").write_text("{")
    desk.refresh()
    desk.settings.use_preset(tmp_path / "bad.altana-preset")
    assert "cannot be used as a preset" in window._banner_text.text()


def test_names_that_clash_are_shown_and_nothing_starts(window: MainWindow, desk: HandOverDesk) -> None:
    ids = [shot.id for shot in shots_of(window)]
    window.bridge.apply("x", lambda p: change_shots(p, ids[:2], pattern="same", folder="", file="png"))
    desk.refresh()
    assert "would be written twice" in desk.table.rows[0].wrong
    desk.make(False)
    assert not desk.production.running
    assert "Nothing was started" in window._banner_text.text()


def test_the_list_is_made_in_a_process_of_its_own_and_looked_at(window: MainWindow, desk: HandOverDesk) -> None:
    run_whole(desk)
    assert desk._told.text() == f"4 files made in {desk.out}."
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
    subprocess.run(ask, check=True, capture_output=True, timeout=120)
    ours, theirs = (
        {path.relative_to(out).as_posix(): path.read_bytes() for path in out.rglob("*") if path.is_file()} for out in (desk.out, beside)
    )
    assert ours == theirs and len(ours) == 8
    shutil.rmtree(beside)
    desk.choose_page(RESULTS)
    assert [path.suffix for path in desk._made] == [".mp4", ".jpg", ".png", ".jpg"]
    # The film plays at its own rate.
    look_at(desk, 0)
    assert desk.viewers.currentWidget() is desk._film_holder
    assert desk.film.length == pytest.approx(0.5, abs=0.01)
    desk.film.toggle()
    assert desk.film.playing
    until(lambda: not desk.film.playing, 10)
    assert desk.film.seconds == pytest.approx(0.5 - 1 / 12, abs=0.01)
    QTest.keyClick(desk.film, Qt.Key.Key_Left)
    assert desk.film.seconds == pytest.approx(0.5 - 2 / 12, abs=0.01)
    # The panorama is looked round in.
    look_at(desk, 1)
    assert desk.viewers.currentWidget() is desk._round_holder
    assert desk.phone.verdict.text().startswith("! A host would not take it")
    assert "narrower than 512" in desk.phone.verdict.toolTip()
    desk.phone.alpha.setValue(90)
    assert desk.round.heading_deg == pytest.approx(270.0)
    desk.phone.beta.setValue(120)
    assert desk.round.tilt_deg == pytest.approx(30.0)
    press(desk.phone.motion)
    until(lambda: desk.round.heading_deg > 5.0 and desk.phone.motion.text() == "Stop", 10)
    press(desk.phone.motion)
    desk.round.turn(0.0, 0.0)
    QApplication.processEvents()
    before = desk.round.picture(60, 40)
    middle = QPointF(desk.round.width() / 2, desk.round.height() / 2)
    drag(desk.round, middle, middle - QPointF(100, 0))
    assert desk.round.heading_deg == pytest.approx(100 * 75.0 / desk.round.width(), abs=0.5)
    assert np.abs(desk.round.picture(60, 40).astype(int) - before).mean() > 2
    QTest.keyClick(desk.round, Qt.Key.Key_Up)
    assert desk.round.tilt_deg == pytest.approx(10.0)
    # The still at actual pixels; there is no last version yet.
    look_at(desk, 2)
    assert desk.viewers.currentWidget() is desk.picture
    assert not desk.picture.has_before
    desk.picture.choose(AGAINST)
    assert desk.picture.mode == FIT
    desk.view_choice.chosen.emit(1)
    assert (desk.picture.mode, desk.picture.picture_rect().width()) == (ACTUAL, 160.0)
    # The window goes on meanwhile; the project is as it was.
    assert len(shots_of(window)) == 4


def test_made_again_it_is_compared_with_the_last_version(window: MainWindow, desk: HandOverDesk) -> None:
    only = shots_of(window)[0]
    window.bridge.apply("x", lambda p: replace(p, shots=(only,)))
    desk.refresh()
    run_whole(desk)
    window.bridge.apply(
        "x",
        lambda p: replace(p, cameras=tuple(replace(c, heading_deg=c.heading_deg + 6) if c.id == only.subject else c for c in p.cameras)),
    )
    desk.refresh()
    run_whole(desk)
    desk.choose_page(RESULTS)
    look_at(desk, 0)
    assert desk.picture.has_before
    assert (desk._made[0].parent / BEFORE_FOLDER / desk._made[0].name).is_file()
    desk.picture.choose(AGAINST)
    assert len(desk.picture._parts()) == 2
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
    left, right = (desk.picture._target(box, image) for box, image, _ in desk.picture._parts())
    held = right.x() - left.x()
    drag(desk.picture, QPointF(50, 80), QPointF(30, 70))
    left, right = (desk.picture._target(box, image) for box, image, _ in desk.picture._parts())
    # Both are panned together.
    assert right.x() - left.x() == pytest.approx(held, abs=1.0)
    desk.picture.choose(DIFFERENCE)
    assert len(desk.picture._parts()) == 1
    assert pixels_of(desk.picture._apart).max() > 20


def test_tone_changes_the_picture_at_once_and_the_files_without_drawing(window: MainWindow, desk: HandOverDesk) -> None:
    only = shots_of(window)[0]
    window.bridge.apply("x", lambda p: replace(p, shots=(only,)))
    desk.refresh()
    run_whole(desk)
    took = next(iter(desk.production.state.pieces.values())).took
    desk.choose_page(RESULTS)
    look_at(desk, 0)
    press(desk.tone_button)
    until(lambda: desk.tone._light is not None, 20)
    assert desk.panels.currentWidget() is desk.tone
    ordered = window.studio._revision
    before = pixels_of(desk.tone.picture()).astype(int)
    enter(desk.tone.fields["exposure_ev"], "1")
    assert window.bridge.project.tone.exposure_ev == 1.0
    assert window.bridge.document.undo_label == "Exposure"
    after = pixels_of(desk.tone.picture()).astype(int)
    assert after.mean() > before.mean() + 10
    enter(desk.tone.curve_fields[0], "0.35")
    assert window.bridge.project.tone.curve == ((0.25, 0.35), (0.75, 0.75))
    assert pixels_of(desk.tone.picture()).astype(int).mean() > after.mean()
    enter(desk.tone.curve_fields[0], "0.25")
    assert window.bridge.project.tone.curve == ()
    desk.tone.whose.chosen.emit(1)
    enter(desk.tone.fields["contrast"], "0.4")
    assert shots_of(window)[0].tone is not None
    assert window.bridge.project.tone.contrast == 0.0
    press(desk.tone.propose)
    press(desk.tone.before)
    assert desk.tone.histogram._values.shape == (3, 128)
    assert (pixels_of(desk.picture.image).astype(int) - before).mean() == pytest.approx(0.0, abs=0.6)
    press(desk.tone.before)
    # No picture was asked for from the renderer by all this.
    assert window.studio._revision == ordered
    path = desk._made[0]
    stamp = path.read_bytes()
    press(desk.tone.write)
    until(lambda: not desk.production.running, 60)
    assert path.read_bytes() != stamp
    assert next(iter(desk.production.state.pieces.values())).took < max(0.4, took)
    press(desk.tone_button)


def test_a_picture_leads_back_to_its_framing(window: MainWindow, desk: HandOverDesk) -> None:
    only = shots_of(window)[0]
    window.bridge.apply("x", lambda p: replace(p, shots=(only,)))
    desk.refresh()
    run_whole(desk)
    desk.choose_page(RESULTS)
    look_at(desk, 0)
    wanted = window.bridge.project.camera(only.subject)
    assert wanted is not None
    press(desk.framing)
    assert window.state.active == wanted and window.state.loose is None
    # The camera stands elsewhere now: the framing comes as a loose view.
    window.bridge.apply(
        "x", lambda p: replace(p, cameras=tuple(replace(c, focal_mm=50.0) if c.id == only.subject else c for c in p.cameras))
    )
    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(desk._made[0]))])
    window.dropEvent(QDropEvent(QPointF(5, 5), Qt.DropAction.CopyAction, mime, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier))
    until(lambda: window.state.loose is not None, 10)
    assert window.state.loose is not None
    assert window.state.loose.view() == wanted.view()
    assert "This is how" in window._banner_text.text()
    assert not window.open_picture(Path("/nowhere/x.png"))
    assert "cannot be read" in window._banner_text.text()


def test_a_region_is_drawn_in_the_picture(window: MainWindow, desk: HandOverDesk) -> None:
    shot = shots_of(window)[0]
    desk.table.choose([shot.id])
    image = image_of(np.full((90, 160, 3), 120, np.uint8))
    desk.table._thumb = lambda _: image  # type: ignore[assignment]
    try:
        press(desk.settings.region)
        box = desk.picture.picture_rect()
        drag(
            desk.picture,
            box.topLeft() + QPointF(box.width() * 0.25, box.height() * 0.25),
            box.topLeft() + QPointF(box.width() * 0.75, box.height() * 0.5),
        )
    finally:
        desk.table._thumb = window.strip.thumb
    region = shots_of(window)[0].region
    assert region == pytest.approx((0.25, 0.25, 0.75, 0.5), abs=0.01)
    desk.refresh()
    press(desk.settings.whole)
    assert shots_of(window)[0].region is None


def test_a_run_pauses_goes_on_and_is_stopped(window: MainWindow, desk: HandOverDesk) -> None:
    ids = [shot.id for shot in shots_of(window)]
    window.bridge.apply("x", lambda p: change_shots(p, ids[:2], width_px=900, quality="final"))
    desk.refresh()
    press(desk.go)
    until(lambda: desk.production.state.label, 30)
    press(desk.pause)
    until(lambda: desk.production.state.paused, 30)
    share = desk.production.state.share
    QTest.qWait(500)
    assert desk.production.state.share == share
    assert desk.pause.text() == "Go on"
    press(desk.pause)
    until(lambda: not desk.production.state.paused, 30)
    desk.table.choose([ids[3]])
    press(desk.first)
    assert json.loads((desk.production._job / "order.json").read_text()) == [desk._rows[3].file]  # type: ignore[operator]
    press(desk.cancel)
    until(lambda: not desk.production.running, 60)
    assert desk._told.text().startswith("Stopped.")


def test_a_run_outlives_the_window_and_is_found_again_or_resumed(window: MainWindow, desk: HandOverDesk) -> None:
    press(desk.go)
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


def test_test_pictures_of_the_chosen_rows(window: MainWindow, desk: HandOverDesk) -> None:
    desk.table.choose([shots_of(window)[0].id])
    press(desk.test)
    until(lambda: not desk.production.running, 60)
    (path,) = (desk.out / "tests").glob("*.png")
    assert path.name == "01-waiting-hall-to-the-water-screen-16-9-test.png"


def test_pages_are_written_in_the_background(window: MainWindow, desk: HandOverDesk) -> None:
    desk.make_pages(("sheet",))
    until(lambda: "Nothing of the shot list" in desk._told.text(), 20)
    run_whole(desk)
    menu = QMenu()
    desk._fill_pages(menu)
    assert [action.isEnabled() for action in menu.actions()] == [True] * 5
    menu.actions()[-1].trigger()
    until(lambda: "for-the-client.zip" in desk._told.text(), 60)
    assert {"contact-sheet.png", "presentation.pdf", "look-round.html", "index.html", "for-the-client.zip"} <= {
        p.name for p in desk.out.iterdir()
    }


def test_what_happens_at_the_end_is_chosen_before(window: MainWindow, desk: HandOverDesk) -> None:
    menu = QMenu()
    desk._fill_ends(menu)
    menu.actions()[1].trigger()
    assert desk.end_menu.text() == "Then: say so ▾"
    desk.finished(True)
    assert window._banner_text.text() == "All is made."
    desk._choose_end("nothing")


def test_rows_go_with_their_camera_and_come_back_with_it(window: MainWindow, desk: HandOverDesk) -> None:
    window.choose_desk(1)
    subject = shots_of(window)[1].subject
    window.state.select(subject)
    window.delete_cameras()
    assert subject not in {shot.subject for shot in shots_of(window)}
    window.undo()
    assert subject in {shot.subject for shot in shots_of(window)}


def test_the_button_of_compose_puts_cameras_in_the_list(window: MainWindow, desk: HandOverDesk) -> None:
    window.choose_desk(1)
    window.state.select("cam-05")
    press(window.settings_panel.shot_button)
    assert any(shot.subject == "cam-05" for shot in shots_of(window))
    press(window.settings_panel.shot_button)
    assert not any(shot.subject == "cam-05" for shot in shots_of(window))


def test_the_frame_is_copied_and_saved_in_the_formats_exact_size(window: MainWindow, desk: HandOverDesk) -> None:
    window.choose_desk(1)
    window.state.select("cam-03")
    window.bridge.apply(
        "x", lambda p: replace(p, cameras=tuple(replace(c, width_px=320, height_px=180) if c.id == "cam-03" else c for c in p.cameras))
    )
    window.copy_frame()
    until(lambda: "on the clipboard, 320 × 180 px" in window._banner_text.text(), 30)
    assert QApplication.clipboard().image().size().width() == 320
    window.save_frame()
    until(lambda: "Written:" in window._banner_text.text(), 30)
    (path,) = (desk.project_path.parent / "frames").glob("ticket-office*.png")
    assert image_of(pixels_of(QImage(str(path)))).height() == 180
    path.unlink()
    window.bridge.apply(
        "x", lambda p: replace(p, cameras=tuple(replace(c, width_px=9000, height_px=6000) if c.id == "cam-03" else c for c in p.cameras))
    )
    window.copy_frame()
    assert "too large for that" in window._banner_text.text()


def test_panoramas_and_films_are_compared_with_their_last_version_in_step(window: MainWindow, desk: HandOverDesk) -> None:
    ids = [shot.id for shot in shots_of(window)]
    window.bridge.apply("x", lambda p: change_shots(p, ids[:2], on=False))
    desk.refresh()
    for _ in range(2):
        run_whole(desk)
        window.bridge.apply("x", turned_a_little)
        desk.refresh()
    desk.choose_page(RESULTS)
    names = [path.suffix for path in desk._made]
    look_at(desk, names.index(".jpg"))
    assert desk.round_before.isHidden()
    assert [item.isEnabled() for item in desk.view_choice.buttons()] == [True, False, True, False]
    desk.choose_view(AGAINST)
    assert not desk.round_before.isHidden()
    desk.round.turn(80.0, 12.0)
    desk.round.zoom(50.0)
    assert (desk.round_before.heading_deg, desk.round_before.tilt_deg, desk.round_before.angle_deg) == (80.0, 12.0, 50.0)
    desk.round_before.turn(10.0, 0.0)
    assert desk.round.heading_deg == 10.0
    look_at(desk, names.index(".mp4"))
    desk.choose_view(AGAINST)
    assert not desk.film_before.isHidden()
    desk.film.seek(0.25)
    assert desk.film_before.seconds == pytest.approx(desk.film.seconds)
    desk.film.toggle()
    assert desk.film.playing and desk.film_before.playing
    until(lambda: not desk.film.playing, 10)
    until(lambda: not desk.film_before.playing, 10)
    assert desk.film_before.seconds == pytest.approx(desk.film.seconds)
    desk.choose_view(FIT)
    assert desk.film_before.isHidden()
