"""Edits change only what they say; undo gives back the identical object; gestures are one step or none."""

from __future__ import annotations

from dataclasses import fields, replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from altana.core.document import Document
from altana.core.edits.cameras import (
    add_camera,
    aim_at,
    change_camera,
    checked,
    move_eye,
    plumb_cameras,
    remove_camera,
    set_camera,
)
from altana.core.edits.walks import add_walk, checked_walk, remove_walk, rename, set_light, set_walk
from altana.core.errors import Refused
from altana.core.moving import WAYS, by_pointer, circle, lift, slide, step, turn
from altana.core.project import Camera, Light, Project, Walk, WalkKey


def project_of(*names: str) -> Project:
    project = Project("Test")
    for index, name in enumerate(names):
        project, _ = add_camera(project, Camera("", name, (float(index), 0.0, 1.6), tilt_deg=5.0))
    return add_walk(project, Walk("", "W", (WalkKey((0, 0, 1.6)), WalkKey((5, 0, 1.6)))))[0]


def changed_fields(before: object, after: object) -> set[str]:
    return {item.name for item in fields(before) if getattr(before, item.name) != getattr(after, item.name)}  # type: ignore[arg-type]


EDITS = {
    "set": (lambda p: set_camera(p, "cam-02", focal_mm=50.0), {"cameras"}, {"focal_mm"}),
    "move": (lambda p: move_eye(p, "cam-02", (9.0, 9.0, 2.0)), {"cameras"}, {"eye"}),
    "aim": (lambda p: aim_at(p, "cam-02", (9.5, 4.0, 2.0)), {"cameras"}, {"heading_deg", "aim_m"}),
    "plumb": (lambda p: plumb_cameras(p, ["cam-02"]), {"cameras"}, {"tilt_deg", "rise_mm"}),
    "rename": (lambda p: rename(p, "Else"), {"name"}, set()),
    "light": (lambda p: set_light(p, Light(hour=9.0)), {"light"}, set()),
    "walk": (lambda p: set_walk(p, "walk-01", seconds=9.0), {"walks"}, set()),
}


@pytest.mark.parametrize("name", EDITS)
def test_an_edit_changes_only_what_it_says(name: str) -> None:
    edit, touched, camera_fields = EDITS[name]
    before = project_of("A", "B", "C")
    after = edit(before)
    assert changed_fields(before, after) == touched
    for untouched in {f.name for f in fields(before)} - touched:
        assert getattr(after, untouched) is getattr(before, untouched)
    if camera_fields:
        assert after.cameras[0] is before.cameras[0]
        assert after.cameras[2] is before.cameras[2]
        assert changed_fields(before.cameras[1], after.cameras[1]) == camera_fields


@given(st.lists(st.sampled_from(sorted(EDITS)), max_size=8))
def test_undo_gives_back_the_identical_objects(names: list[str]) -> None:
    document = Document(project_of("A", "B"))
    states = [document.project]
    for name in names:
        if document.apply(name, EDITS[name][0]):
            states.append(document.project)
    for state in reversed(states[:-1]):
        assert document.undo() is not None
        assert document.project is state
    assert document.undo() is None
    for state in states[1:]:
        document.redo()
        assert document.project is state
    assert document.redo() is None


def test_a_gesture_is_one_step() -> None:
    document = Document(project_of("A"))
    heard: list[bool] = []
    document.subscribe(lambda before, after, preview: heard.append(preview))
    start = document.project
    document.begin()
    for x in range(5):
        document.preview(lambda p, x=x: move_eye(p, "cam-01", (float(x), 1.0, 1.6)))
    assert document.settled is start
    assert document.commit("Move eye")
    assert heard == [True] * 5 + [False]
    assert document.project.cameras[0].eye == (4.0, 1.0, 1.6)
    assert document.undo_label == "Move eye"
    document.undo()
    assert document.project is start
    assert document.undo_label is None


def test_a_cancelled_or_empty_gesture_is_no_step() -> None:
    document = Document(project_of("A"))
    start = document.project
    document.begin()
    document.preview(lambda p: move_eye(p, "cam-01", (8.0, 8.0, 8.0)))
    document.cancel()
    assert document.project is start
    document.begin()
    document.preview(lambda p: move_eye(p, "cam-01", (8.0, 8.0, 8.0)))
    document.preview(lambda p: p)
    assert not document.commit("Nothing")
    assert document.undo_label is None
    assert not document.apply("Same", lambda p: set_camera(p, "cam-01", focal_mm=35.0))


def test_saved_state() -> None:
    document = Document(project_of("A"))
    assert not document.changed
    document.apply("x", EDITS["rename"][0])
    assert document.changed
    document.mark_saved()
    assert not document.changed
    document.undo()
    assert document.changed


@pytest.mark.parametrize(
    "values",
    [
        {"focal_mm": 1.0},
        {"focal_mm": float("nan")},
        {"eye": (float("inf"), 0, 0)},
        {"tilt_deg": 91.0},
        {"width_px": 3},
        {"near_m": -1.0},
        {"near_m": 5.0, "far_m": 4.0},
        {"name": " "},
        {"sensor_width_mm": 0.0},
    ],
)
def test_values_that_make_no_picture_are_refused(values: dict[str, object]) -> None:
    with pytest.raises(Refused, match=r"\w+"):
        set_camera(project_of("A"), "cam-01", **values)


def test_cameras_get_free_ids_and_names() -> None:
    project = project_of("Hall", "Hall", "Hall")
    assert [c.name for c in project.cameras] == ["Hall", "Hall 2", "Hall 3"]
    project = remove_camera(project, "cam-02")
    project, camera_id = add_camera(project, Camera("", "Hall"))
    assert camera_id == "cam-02"
    with pytest.raises(Refused, match="no camera"):
        change_camera(project, "cam-99", checked)
    with pytest.raises(Refused, match="Hall"):
        project.camera_named("Attic")


def test_walks_that_make_no_film_are_refused() -> None:
    keys = (WalkKey((0, 0, 1)), WalkKey((0, 0, 1)))
    for walk in (
        Walk("w", "W", keys[:1]),
        Walk("w", "W", keys),
        Walk("w", "W", (keys[0], WalkKey((1, 0, 1))), seconds=0.0),
        Walk("w", "W", (keys[0], WalkKey((1, 0, 1))), rate="x"),
    ):
        with pytest.raises(Refused, match=r"\w+"):
            checked_walk(walk)
    assert remove_walk(project_of("A"), "walk-01").walks == ()


CAMERA = Camera("c", "C", (1.0, 2.0, 1.6), 30.0, 10.0, aim_m=4.0)


@given(st.sampled_from(WAYS), st.floats(-1, 1), st.floats(-1, 1))
def test_moving_never_lets_the_eye_height_drift(way: str, dx: float, dy: float) -> None:
    moved = by_pointer(CAMERA, way, dx, dy, 4.0)
    if way != "lift":
        assert moved.eye[2] == CAMERA.eye[2]
    if way == "turn":
        assert moved.eye == CAMERA.eye
    else:
        assert moved.tilt_deg == CAMERA.tilt_deg
    if way == "lift":
        assert moved.eye[:2] == CAMERA.eye[:2]


def test_plain_moves() -> None:
    assert turn(CAMERA, 350.0).heading_deg == pytest.approx(20.0)
    assert slide(replace(CAMERA, heading_deg=0.0), 2.0).eye == pytest.approx((3.0, 2.0, 1.6))
    assert lift(CAMERA, 0.5).eye == pytest.approx((1.0, 2.0, 2.1))
    assert step(replace(CAMERA, heading_deg=90.0), 2.0).eye == pytest.approx((3.0, 2.0, 1.6))
    level = replace(CAMERA, tilt_deg=0.0)
    round_ = circle(level, 73.0)
    assert round_.aim == pytest.approx(level.aim)
    assert circle(circle(level, 200.0), 160.0).eye == pytest.approx(level.eye)
