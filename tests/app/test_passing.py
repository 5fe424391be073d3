"""Cameras that pass from inside to outside, and the names of views that are kept."""

from __future__ import annotations

from dataclasses import replace

import pytest

from altana.app.shell.window import MainWindow
from altana.core.edits.cameras import add_camera, change_camera, set_camera
from altana.core.project import Camera
from tests.app.conftest import press, until

INDOORS = Camera("", "Waiting hall, north", (7.0, 5.0, 1.6), 0.0, inside=True, ev=10.0)
FORECOURT = (7.0, 24.0, 1.6)


def stood(window: MainWindow, camera: Camera) -> str:
    camera_id = window.workspace.bridge.apply_adding("x", lambda p: add_camera(p, camera))
    window.workspace.state.select(camera_id)
    return str(camera_id)


def moved(window: MainWindow, name: str, eye: tuple[float, float, float]) -> None:
    window.workspace.bridge.apply("Move eye", lambda p: set_camera(p, name, eye=eye))


def now(window: MainWindow, name: str) -> Camera:
    camera = window.workspace.bridge.project.camera(name)
    assert camera is not None
    return camera


def test_moved_outside_it_is_offered_exposure_group_and_name(window: MainWindow) -> None:
    name = stood(window, INDOORS)
    moved(window, name, FORECOURT)
    told = window.notice_bar.sentence
    assert "stands outside now; its exposure, group and name are still of inside" in told
    assert now(window, name).inside
    # Nothing is changed unless it is taken; then it is one step, and the exposure comes from the picture.
    press(window.notice_bar.offer)
    camera = now(window, name)
    assert not camera.inside and camera.name.startswith("Outside, north") and camera.ev > 12.0
    until(lambda: window.workspace.bridge.document.undo_label == "Proposed exposure", 40)
    assert now(window, name).ev == pytest.approx(13.4, abs=2.5)
    window.workspace.bridge.undo()
    window.workspace.bridge.undo()
    assert now(window, name) == replace(INDOORS, id=name, eye=FORECOURT, name=camera_name(window, name))


def camera_name(window: MainWindow, name: str) -> str:
    return now(window, name).name


def test_a_name_of_ones_own_stays_and_a_camera_behind_its_wall_is_still_inside(window: MainWindow) -> None:
    name = stood(window, replace(INDOORS, name="For the jury"))
    moved(window, name, FORECOURT)
    assert "its exposure and group are still of inside" in window.notice_bar.sentence
    press(window.notice_bar.offer)
    assert now(window, name).name == "For the jury" and not now(window, name).inside
    window.workspace.notices.clear()
    # Stepped back through a wall it shows the room, and nothing is offered.
    office = stood(
        window, Camera("", "Office", (1.1, 10.8, 1.6), 270.0, focal_mm=35.0, aim_m=1.05, inside=True)
    )
    window.compose.settings.cut.back.go(None, "width")
    assert now(window, office).eye[0] > 2.3
    assert "stands outside" not in window.notice_bar.sentence
    # In the ground it is on neither side.
    deep = stood(window, Camera("", "Deep", FORECOURT, 0.0, inside=False))
    moved(window, deep, (7.0, -30.0, -2.0))
    assert "stands inside" not in window.notice_bar.sentence
    # Locked cameras, and moves on one side, say nothing.
    window.workspace.notices.clear()
    moved(window, name, (9.0, 24.0, 1.6))
    window.workspace.bridge.apply("Lock", lambda p: change_camera(p, name, lambda c: replace(c, locked=True)))
    assert "now; its" not in window.notice_bar.sentence


def test_kept_views_are_named_for_where_they_are(window: MainWindow) -> None:
    state = window.workspace.state
    name = stood(window, replace(INDOORS, name="Morning"))
    views = []
    for _ in range(3):
        state.loose = replace(now(window, name), eye=(7.0, 24.0, 1.6), heading_deg=181.0)
        window.compose.frame.ribbon.keep_as_new()
        assert state.active is not None
        views.append(state.active)
    assert [camera.name for camera in views] == ["Outside, south", "Outside, south 2", "Outside, south 3"]
    assert not views[0].inside and views[0].ev > 12.0
    # From a kept view the next is no "2 2".
    state.loose = views[1]
    window.compose.frame.ribbon.keep_as_new()
    assert state.active is not None and state.active.name == "Outside, south 4"
