"""What takes the Frame's place for a while: the picture as it will be made, and the panorama from here."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest

from altana.app.canvas.live import REST_MS
from altana.app.canvas.picture_view import pixels_of
from altana.app.shell.window import COMPOSE, MainWindow
from altana.core.edits.cameras import change_camera
from altana.core.edits.shots import add_shots, change_shots, set_making, start_values
from altana.core.picture_key import KNOWN
from altana.core.project import PANORAMA, STILL, Making, Project
from altana.jobs.light import light_of
from altana.jobs.models import Opened
from altana.jobs.requests import Picture, Request
from altana.jobs.run import Run
from altana.render.traced.engine import llvm_library
from tests.app.conftest import drag, press, until
from tests.conftest import picture_at

HALL = "cam-01"


@pytest.fixture
def frame(window: MainWindow) -> Iterator[MainWindow]:
    """The Compose desk with the hall's camera, which has one row in the shot list."""
    window.going.choose_desk(COMPOSE)

    def one(project: Project) -> Project:
        bare = replace(project, shots=())
        return add_shots(bare, [replace(start_values(bare, STILL, HALL), quality="proof")])

    window.workspace.bridge.apply("one", one)
    window.workspace.state.back_to_camera()
    window.workspace.state.select(HALL)
    window.compose.pictures.look_at(window.compose.frame)
    if window.compose.pictures.currentWidget() is not window.compose.frame:
        window.compose.pictures.look_at(window.compose.frame)
    yield window
    window.compose.pictures.setCurrentWidget(window.compose.frame)


def settled(window: MainWindow) -> None:
    """Nothing is asked for any more: whatever was still laid out or lit is."""
    ordered = -1
    while ordered != window.workspace.studio.ordered:
        ordered = window.workspace.studio.ordered
        QTest.qWait(4 * REST_MS)


def test_the_frame_as_it_will_be_made(frame: MainWindow, tmp_path: Path) -> None:
    view = frame.compose.pictures.finished
    QTest.keyClick(frame, Qt.Key.Key_F4)
    assert frame.compose.pictures.currentWidget() is view
    until(lambda: view.sharp, 60)
    assert "materials, proof" in view.caption()
    plain = pixels_of(view.image).astype(int)
    shot = frame.workspace.bridge.project.shots[0]
    frame.workspace.bridge.apply("x", lambda p: change_shots(p, [shot.id], rendition="lines"))
    assert not view.sharp and "drawing it as lines" in view.caption()
    until(lambda: view.sharp, 60)
    drawn = pixels_of(view.image).astype(int)
    assert np.median(drawn) > 235 > np.median(plain)
    # Sharper while it rests: the proof comes before the row's own quality.
    seen: list[str] = []
    frame.workspace.studio.picture.connect(
        lambda channel, _, __, look: seen.append(look) if channel == "finished" else None
    )
    frame.workspace.bridge.apply(
        "x", lambda p: change_shots(p, [shot.id], rendition="materials", quality="review")
    )
    until(lambda: view.sharp, 90)
    assert seen == ["proof|", "review|"]
    # A camera that moves is followed.
    before = view.image
    frame.workspace.bridge.apply(
        "x", lambda p: change_camera(p, HALL, lambda c: replace(c, heading_deg=c.heading_deg + 20.0))
    )
    until(lambda: view.sharp and view.image is not before, 90)
    assert np.abs(pixels_of(view.image).astype(int) - pixels_of(before)).mean() > 5
    QTest.keyClick(view, Qt.Key.Key_Escape)
    assert frame.compose.pictures.currentWidget() is frame.compose.frame


@pytest.mark.skipif(not llvm_library(), reason="LLVM 19 is not installed")
@pytest.mark.slow
def test_a_final_picture_sharpens_sample_by_sample(frame: MainWindow) -> None:
    view, bridge = frame.compose.pictures.finished, frame.workspace.bridge
    shot = bridge.project.shots[0]

    def final(project: Project) -> Project:
        words = set_making(project, "final", Making(1, 1, 512, 6, 2))
        return change_shots(words, [shot.id], quality="final", width_px=240)

    seen: list[str] = []
    frame.workspace.studio.picture.connect(
        lambda channel, _, __, look: seen.append(look) if channel == "finished" else None
    )
    bridge.apply("x", final)
    frame.compose.pictures.look_at(view)
    until(lambda: "final|" in seen, 120)
    assert seen[-2:] == ["final|4 of 6 samples", "final|"]
    assert view.sharp
    # The Frame goes on being drawn while nothing is traced.
    frame.compose.pictures.look_at(frame.compose.frame)
    until(lambda: frame.compose.frame.picture.current, 60)


def test_it_shows_what_the_file_shows(frame: MainWindow, demo_opened: Opened, tmp_path: Path) -> None:
    view = frame.compose.pictures.finished
    shot = frame.workspace.bridge.project.shots[0]
    frame.workspace.bridge.apply(
        "x", lambda p: change_shots(p, [shot.id], background="paper white", rendition="white card")
    )
    frame.compose.pictures.look_at(view)
    until(lambda: view.sharp and "white card" in view.caption(), 60)
    item = view._shown
    assert isinstance(item, Picture)
    light_of(demo_opened, frame.workspace.bridge.project.light)
    Run(
        Request(frame.workspace.bridge.project, (replace(item, file="same.png"),)), demo_opened, tmp_path
    ).go()
    file_pixels = picture_at(tmp_path / "same.png").astype(int)
    # The file has a grain of half a step.
    assert np.abs(file_pixels - pixels_of(view.image)).max() <= 1


def test_drawn_as_is_set_where_the_camera_is_composed(frame: MainWindow) -> None:
    group = frame.compose.settings.drawn
    frame.workspace.state.select("cam-02")
    assert group.group.figure == "no row yet"
    group.rendition.setCurrentText("pencil")
    group.rendition.activated.emit(group.rendition.currentIndex())
    shot = frame.workspace.bridge.project.shots[-1]
    assert (shot.subject, shot.rendition, shot.kind) == ("cam-02", "pencil", STILL)
    assert frame.workspace.bridge.project.camera("cam-02").in_shot_list
    assert group.group.figure == "pencil" and not group.style.isHidden()
    group.style.setCurrentText("Soft pencil")
    group.style.activated.emit(group.style.currentIndex())
    assert frame.workspace.bridge.project.shots[-1].style.name == "Soft pencil"
    assert len(frame.workspace.bridge.project.shots) == 2
    frame.workspace.bridge.undo()
    assert group.style.currentText() == "Ink"
    frame.workspace.state.select(HALL)
    assert group.rendition.currentText() == "materials"


@pytest.mark.slow
def test_all_round_is_live_while_it_is_placed(frame: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    view, studio = frame.compose.pictures.round, frame.workspace.studio
    # Once the soft light is known nothing but the hand changes the picture any more.
    until(lambda: studio.scenery.lit == KNOWN, 60)
    QTest.keyClick(frame, Qt.Key.Key_Z)
    assert frame.compose.pictures.currentWidget() is view
    until(lambda: view.image is not None and view.look == "full", 60)
    settled(frame)
    assert view.image.width() == 2 * view.image.height()
    assert "level" in view.caption() and "Set aside: the 24 mm lens" in view.caption()
    before = view.image
    # Turning draws nothing anew: the same picture is shown turned, the camera's heading goes along.
    hall = frame.workspace.bridge.project.camera(HALL)
    ordered = studio.ordered
    middle = view.rect_of().center()
    with monkeypatch.context() as turning:
        turning.setattr(studio, "order_round", lambda *_: pytest.fail("drawn anew for a turn"))
        drag(view, middle, middle + QPointF(view.rect_of().width() / 4, 0.0))
        QTest.qWait(2 * REST_MS)
    turned = frame.workspace.bridge.project.camera(HALL)
    assert turned.heading_deg == pytest.approx((hall.heading_deg - 90.0) % 360.0, abs=1.0)
    assert (turned.eye, turned.tilt_deg, turned.focal_mm) == (hall.eye, hall.tilt_deg, hall.focal_mm)
    assert frame.workspace.bridge.document.undo_label == "Turn camera"
    assert view.image is before
    frame.workspace.bridge.undo()
    # While it is moved it follows, coarse; at rest it is fine again.
    looks: list[str] = []
    frame.workspace.studio.picture.connect(
        lambda channel, _, __, look: looks.append(look) if channel == "round" else None
    )
    frame.workspace.bridge.begin()
    far = iter(range(1, 2000))

    def moved() -> bool:
        by = 0.001 * next(far)
        frame.workspace.bridge.preview(
            lambda p: change_camera(
                p, HALL, lambda c: replace(c, eye=(hall.eye[0] + by, c.eye[1], c.eye[2]), tilt_deg=3.0)
            )
        )
        return "coarse" in looks

    until(moved, 60)
    assert "leans by 3.0°" in view.caption()
    frame.workspace.bridge.commit("Move camera")
    until(lambda: looks[-1] == "full" and view.look == "full", 60)
    frame.workspace.bridge.undo()
    assert studio.ordered > ordered
    press(view.add)
    row = frame.workspace.bridge.project.shots[-1]
    assert (row.kind, row.subject) == (PANORAMA, HALL)
    QTest.keyClick(view, Qt.Key.Key_Right)
    QTest.keyClick(view, Qt.Key.Key_Up)
    until(lambda: not frame.workspace.bridge.in_gesture, 5)
    stepped = frame.workspace.bridge.project.camera(HALL)
    assert stepped.heading_deg == pytest.approx((hall.heading_deg + 5.0) % 360.0)
    assert np.hypot(*np.subtract(stepped.eye[:2], hall.eye[:2])) == pytest.approx(0.1, abs=1e-6)
    frame.workspace.bridge.undo()


@pytest.mark.slow
def test_what_stands_too_near_is_marked_where_it_is(frame: MainWindow) -> None:
    scene = frame.workspace.studio.scene
    hall = frame.workspace.bridge.project.camera(HALL)
    bench = next(item for item in scene.model.objects if item.name.startswith("Bench"))
    points = scene.model.vertices[
        scene.model.faces[bench.first_face : bench.first_face + bench.face_count].ravel()
    ]
    x, y, z = points.mean(axis=0).tolist()
    top = float(points[:, 2].max())
    frame.workspace.bridge.apply(
        "x", lambda p: change_camera(p, HALL, lambda c: replace(c, eye=(x, y, top + 0.3)))
    )
    view = frame.compose.pictures.round
    frame.compose.pictures.look_at(view)
    until(lambda: bool(view.near), 60)
    thing = next(item for item in view.near if item.name == bench.name)
    assert thing.away_m < 0.5 and thing.towards[2] < -0.5
    assert "nearer than 0.5 m" in view.caption()
    frame.workspace.bridge.undo()
    until(lambda: not view.near, 60)
    assert frame.workspace.bridge.project.camera(HALL).eye == hall.eye
    assert z < top


def test_looking_otherwise_changes_nothing_in_the_project(frame: MainWindow) -> None:
    before = frame.workspace.bridge.document.settled
    for page in (frame.compose.pictures.finished, frame.compose.pictures.round):
        frame.compose.pictures.look_at(page)
        until(lambda page=page: page.image is not None, 60)
        frame.compose.pictures.look_at(page)
        assert frame.compose.pictures.currentWidget() is frame.compose.frame
    assert frame.workspace.bridge.document.settled == before


def test_exposure_is_proposed_from_the_picture_and_shown_as_a_pair(frame: MainWindow) -> None:
    panel = frame.compose.settings
    frame.workspace.bridge.apply("x", lambda p: change_camera(p, HALL, lambda c: replace(c, ev=16.0)))
    assert panel.light.exposure.text() == "f/8 · 1/1000 s"
    press(panel.light.propose)
    until(lambda: frame.workspace.bridge.document.undo_label == "Proposed exposure", 30)
    first = frame.workspace.bridge.project.camera(HALL).ev
    assert 8.0 < first < 13.0
    # What is proposed does not hang on what was set before.
    frame.workspace.bridge.apply("x", lambda p: change_camera(p, HALL, lambda c: replace(c, ev=3.0)))
    press(panel.light.propose)
    until(lambda: frame.workspace.bridge.document.undo_label == "Proposed exposure", 30)
    assert frame.workspace.bridge.project.camera(HALL).ev == pytest.approx(first, abs=0.11)
    assert f"EV {first:.1f}" in panel.groups["light"].figure


def test_outside_a_camera_begins_with_the_exposure_of_its_picture(frame: MainWindow) -> None:
    count = len(frame.workspace.bridge.project.cameras)
    plan = frame.compose.plan
    frame.compose.arm(True)
    drag(plan, plan.to_screen(12.0, -14.0), plan.to_screen(20.0, -14.0))
    camera = frame.workspace.state.active
    assert len(frame.workspace.bridge.project.cameras) == count + 1 and not camera.inside
    until(lambda: frame.workspace.bridge.project.camera(camera.id).ev != 14.0, 30)
    assert 10.0 < frame.workspace.bridge.project.camera(camera.id).ev < 16.0
    # It is part of standing: one undo takes both back.
    assert frame.workspace.bridge.document.undo_label == "Stand a camera"
    frame.workspace.bridge.undo()
    assert len(frame.workspace.bridge.project.cameras) == count
