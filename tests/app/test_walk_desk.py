"""The Walk desk through its window: timeline, places, pauses, turntables, flags."""

from __future__ import annotations

import subprocess
import sys
from dataclasses import replace
from pathlib import Path
from types import SimpleNamespace

import numpy as np
import pytest
from PySide6.QtCore import QObject, QPoint, QPointF, Qt, Signal
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QInputDialog, QMenu, QPushButton

from altana.app.shell.search import best
from altana.app.shell.window import WALK, MainWindow
from altana.app.walk import desk as desk_module
from altana.app.walk.findings import Findings
from altana.core.edits.walks import add_walk, set_walk
from altana.core.project import CORNER, Walk, WalkKey
from altana.demo.project import PROJECT
from altana.storage.project_file import read_project
from tests.app.conftest import drag, enter, press, until


@pytest.fixture
def desk(window: MainWindow):  # type: ignore[no-untyped-def]
    # The demo's walk alone; its turntable would only be in the way.
    window.workspace.bridge.replace_document(
        replace(window.workspace.bridge.project, walks=window.workspace.bridge.project.walks[:1], shots=())
    )
    window.going.choose_desk(WALK)
    window.workspace.state.choose_walk("walk-01")
    desk = window.walk_desk
    desk.timeline.key, desk.timeline.keys, desk.timeline.look = -1, frozenset(), -1
    until(lambda: desk.line is not None)
    # The plan is fitted to the route a moment after the desk is come to.
    QApplication.processEvents()
    return desk


def place_twice(desk, share: float) -> list[float]:  # type: ignore[no-untyped-def]
    """Press twice on the route, at a share of the way between its first two places; where that is."""
    route, plan = desk.line.route, desk.plan
    middle = route.at([route.key_m[0] + share * (route.key_m[1] - route.key_m[0])])[0]
    QTest.mouseDClick(
        plan,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
        plan.to_screen(middle[0], middle[1]).toPoint(),
    )
    return [float(value) for value in middle]


def walk_of(window: MainWindow) -> Walk:
    walk = window.workspace.state.walk
    assert walk is not None
    return walk


@pytest.mark.slow
def test_the_demos_walk_has_no_flag_and_a_hurried_one_has(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    until(lambda: desk.findings.flags_of == walk_of(window), 40)
    assert desk.findings.flags == ()
    assert desk.settings.flags.group.figure == "nothing found"
    enter(desk.settings.timing.seconds, "12")
    until(lambda: desk.findings.flags_of == walk_of(window), 40)
    codes = {flag.code for flag in desk.findings.flags}
    assert {"pace", "turn"} <= codes
    assert desk.settings.flags.flag_list.count() == len(desk.findings.flags)
    assert desk.settings.flags.flag_list.item(0).text().startswith("! 1")
    # Pressed in the list or on the time axis, a flag is gone to.
    desk.settings.flags.flag_list.itemClicked.emit(desk.settings.flags.flag_list.item(0))
    assert window.workspace.state.moment == pytest.approx(desk.findings.flags[0].worst_s)
    last = desk.findings.flags[-1]
    place = QPoint(round(desk.timeline.x_of(last.worst_s)), 7)
    QTest.mouseClick(desk.timeline, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, place)
    assert window.workspace.state.moment == pytest.approx(last.worst_s)


class _Studio(QObject):
    """What findings hear of: another model, and the answers about walks."""

    opened = Signal()
    walk_checked = Signal(object, object)
    film_checked = Signal(object, object)
    unrolled = Signal(object, object)


def test_what_was_found_in_another_model_is_forgotten(application: QApplication) -> None:
    walk, studio = Walk("walk-01", "Round", ()), _Studio()
    state = SimpleNamespace(walk=walk)
    workspace = SimpleNamespace(bridge=None, state=state, studio=studio)
    findings = Findings(workspace)  # type: ignore[arg-type]
    studio.walk_checked.emit(walk, ())
    studio.film_checked.emit(walk, ())
    studio.unrolled.emit(walk, "a long section")
    assert findings.known_flags() == () and findings.sheet == "a long section"
    studio.opened.emit()
    assert findings.known_flags() is None and findings.sheet is None
    assert findings.film_flags == (None, ())


def test_scrubbing_and_keys_in_the_timeline(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    line = desk.timeline
    middle = line.height() / 2
    drag(line, QPointF(line.x_of(2.0), middle), QPointF(line.x_of(10.0), middle))
    assert window.workspace.state.moment == pytest.approx(10.0, abs=0.1)
    assert desk.frame.camera == desk.camera_at(window.workspace.state.moment)
    line.setFocus()
    QTest.keyClick(line, Qt.Key.Key_Home)
    assert window.workspace.state.moment == 0.0
    for _ in range(3):
        QTest.keyClick(line, Qt.Key.Key_Right)
    assert window.workspace.state.moment == pytest.approx(3 / 25)
    QTest.keyClick(line, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert window.workspace.state.moment == pytest.approx(1.12)
    QTest.keyClick(line, Qt.Key.Key_End)
    assert window.workspace.state.moment == 24.0


def test_a_place_is_chosen_paused_at_and_given_its_second(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    line = desk.timeline
    second = float(desk.line.timing.key_s[5])
    at = QPoint(round(line.x_of(second)), line.height() - 24)
    QTest.mouseClick(line, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at)
    assert line.key == 5
    assert window.workspace.state.moment == pytest.approx(second)
    press(desk.settings.places.next_key)
    assert line.key == 6
    enter(desk.settings.places.dwell, "2")
    assert walk_of(window).keys[6].dwell_s == 2.0
    assert len(desk.line.timing.dwells) == 1
    # While it pauses the camera stands still.
    begin, end = desk.line.timing.dwells[0]
    assert desk.camera_at(begin + 0.1) == desk.camera_at(end - 0.1)
    enter(desk.settings.places.key_second, "15")
    assert walk_of(window).keys[6].at_s == 15.0
    assert desk.line.timing.key_s[6] == pytest.approx(15.0)
    press(desk.settings.places.free)
    assert walk_of(window).keys[6].at_s is None
    desk.settings.places.bend.chosen.emit(2)
    assert walk_of(window).keys[6].bend == CORNER
    assert window.workspace.bridge.document.undo_label == "Bend"
    # More pauses than the walk is long are refused with a sentence, and nothing changes.
    before = walk_of(window)
    enter(desk.settings.places.dwell, "60")
    assert "longer than the walk" in window.notice_bar.sentence
    assert walk_of(window) == before
    count = len(before.keys)
    press(desk.settings.places.drop_key)
    assert len(walk_of(window).keys) == count - 1


def test_places_are_dragged_put_in_and_undone_on_the_plan(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    plan = desk.plan
    plan.fit_to([(0, 0), (14, 18)])
    before = walk_of(window).keys
    start = plan.to_screen(*before[2].eye[:2])
    drag(
        plan,
        start,
        start + QPointF(0.4 * plan.px_per_m, 0),
        start + QPointF(0.8 * plan.px_per_m, 0),
        modifier=Qt.KeyboardModifier.ControlModifier,
    )
    after = walk_of(window).keys
    assert desk.timeline.key == 2
    assert after[2].eye[0] == pytest.approx(before[2].eye[0] + 0.8, abs=0.08)
    assert after[2].eye[2] == pytest.approx(1.6, abs=1e-3)
    assert (after[:2], after[3:]) == (before[:2], before[3:])
    assert window.workspace.bridge.document.undo_label == "Move place"
    window.workspace.bridge.undo()
    assert walk_of(window).keys == before
    # Pressed twice on the line between two places, a new one stands there, with the lens and shift of its
    # moment.
    window.workspace.bridge.apply(
        "Rise", lambda p: set_walk(p, "walk-01", keys=tuple(replace(key, rise_mm=3.0) for key in before))
    )
    middle = place_twice(desk, 0.5)
    assert walk_of(window).keys[1].rise_mm == pytest.approx(3.0)
    assert len(walk_of(window).keys) == len(before) + 1
    assert desk.timeline.key == 1
    assert walk_of(window).keys[1].eye == pytest.approx(middle, abs=0.1)
    # Away from the route a double press does nothing.
    QTest.mouseDClick(
        plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, plan.to_screen(12.0, 2.0).toPoint()
    )
    assert len(walk_of(window).keys) == len(before) + 1


def test_a_place_is_dragged_in_time(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    line = desk.timeline
    y = line.height() - 24.0
    second = float(desk.line.timing.key_s[4])
    drag(
        line,
        QPointF(line.x_of(second), y),
        QPointF(line.x_of(second + 1.0), y),
        QPointF(line.x_of(second + 2.0), y),
    )
    at = walk_of(window).keys[4].at_s
    assert at == pytest.approx(second + 2.0, abs=0.08)
    # Held by film frames.
    assert at * 25 == pytest.approx(round(at * 25), abs=1e-4)
    assert window.workspace.bridge.document.undo_label == "Second of a place"
    window.workspace.bridge.undo()
    assert walk_of(window).keys[4].at_s is None
    # First and last stay at the ends.
    drag(line, QPointF(line.x_of(0.0), y), QPointF(line.x_of(5.0), y))
    assert walk_of(window).keys[0].at_s is None


def test_walks_are_duplicated_parted_joined_and_locked(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    def more(word: str) -> None:
        menu = QMenu()
        desk.settings.route.fill_more(menu)
        next(action for action in menu.actions() if action.text().startswith(word)).trigger()

    more("Duplicate")
    assert [walk.name for walk in window.workspace.bridge.project.walks] == [
        "Up the stair to the gallery",
        "Up the stair to the gallery 2",
    ]
    assert window.workspace.state.walk_id == "walk-02"
    window.workspace.state.choose_walk("walk-01")
    desk.timeline.choose_key(5)
    more("Part")
    assert len(window.workspace.bridge.project.walks) == 3
    assert len(walk_of(window).keys) == 6
    assert sum(
        walk.seconds for walk in window.workspace.bridge.project.walks if walk.id != "walk-02"
    ) == pytest.approx(24.0)
    more("Join")
    assert len(window.workspace.bridge.project.walks) == 2
    more("Lock")
    before = walk_of(window)
    enter(desk.settings.timing.seconds, "40")
    assert walk_of(window) == before
    assert "is locked" in window.notice_bar.sentence
    desk.timeline.choose_key(2)
    for refused in (
        lambda: press(desk.settings.places.drop_key),
        lambda: more("Part"),
        lambda: press(desk.settings.route.remove),
    ):
        refused()
        assert walk_of(window) == before
    place_twice(desk, 0.5)
    assert walk_of(window) == before
    more("Unlock")
    enter(desk.settings.timing.seconds, "40")
    assert walk_of(window).seconds == 40.0


def test_pace_length_and_eases_follow_each_other(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    length = desk.line.route.length_m
    enter(desk.settings.timing.pace, "1")
    assert walk_of(window).seconds == pytest.approx(length, abs=0.04)
    enter(desk.settings.timing.frames, "500")
    assert walk_of(window).seconds == pytest.approx(20.0)
    assert desk.settings.timing.group.figure == "20 s, held"
    enter(desk.settings.timing.pace, "1")
    enter(desk.settings.timing.ease_in, "2")
    enter(desk.settings.timing.ease_out, "2")
    # The faster it is walked, the gentler the stair's ramp begins: the route's own length differs by
    # millimetres.
    assert desk.line.route.length_m == pytest.approx(length, abs=0.03)
    assert desk.line.pace_m_s == pytest.approx(desk.line.route.length_m / (walk_of(window).seconds - 2.0))
    enter(desk.settings.timing.pace, "1")
    assert walk_of(window).seconds == pytest.approx(length + 2.0, abs=0.04)
    press(desk.settings.route.plumb)
    assert walk_of(window).kept_plumb
    camera = desk.camera_at(5.0)
    assert camera is not None
    assert camera.tilt_deg == 0.0


def test_any_rate_may_be_typed(window: MainWindow, desk, monkeypatch: pytest.MonkeyPatch) -> None:  # type: ignore[no-untyped-def]
    rate, state = desk.settings.timing.rate, window.workspace.state
    seconds = state.walk.seconds  # type: ignore[union-attr]
    typed = ["20", "lots", "30000/1001"]
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: (typed.pop(0), True))
    for wanted in ("20", "20", "30000/1001"):
        rate.setCurrentIndex(rate.count() - 1)
        rate.activated.emit(rate.count() - 1)
        assert state.walk is not None and (state.walk.rate, state.walk.seconds) == (wanted, seconds)
        assert rate.currentData() == wanted
    # What is no rate was told, and nothing changed.
    assert "is not a frame rate" in window.notice_bar.sentence
    assert rate.itemText(rate.count() - 1) == "Another rate…"


def test_a_turntable_round_the_chosen_object_and_its_stops(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    scene = window.workspace.studio.scene
    assert scene is not None
    roof = next(item for item in scene.model.objects if item.name == "Lookout roof")
    window.workspace.state.choose_object(roof.id)
    press(desk.walks.turn)
    walk = walk_of(window)
    assert walk.turntable is not None
    assert walk.name == "Round Lookout roof"
    assert not desk.settings.table.group.isHidden()
    assert desk.settings.places.group.isHidden()
    assert "240 film frames, 1.50° each" in desk.settings.timing.facts.text()
    enter(desk.settings.table.table_fields["radius_m"], "30")
    enter(desk.settings.table.table_fields["eye_m"], "25")
    table = walk_of(window).turntable
    assert table is not None
    assert (table.radius_m, table.eye_m) == (30.0, 25.0)
    camera = desk.camera_at(0.0)
    assert camera is not None
    px, py, _ = camera.view().project([table.centre])[0]
    assert (px, py) == (pytest.approx(640.0, abs=0.1), pytest.approx(360.0, abs=0.1))
    press(desk.settings.route.reverse)
    assert walk_of(window).turntable.sweep_deg == -360.0  # type: ignore[union-attr]
    count = len(window.workspace.bridge.project.cameras)
    press(desk.settings.table.stills)
    assert len(window.workspace.bridge.project.cameras) == count + 8
    assert window.workspace.bridge.project.cameras[-1].group == "Round Lookout roof"
    window.workspace.bridge.undo()
    assert len(window.workspace.bridge.project.cameras) == count


def test_a_walk_up_the_chosen_stair(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    count = len(window.workspace.bridge.project.walks)
    window.workspace.state.choose_object("")
    press(desk.walks.stair)
    # Two stairs: which one is asked for, nothing is made.
    assert (
        len(window.workspace.bridge.project.walks) == count
        and "Choose the stair first" in window.notice_bar.sentence
    )
    model = window.workspace.studio.scene.model
    window.workspace.state.choose_object(model.objects[model.object_number("Tower stair")].id)
    assert desk.walks.stair.text() == "Up: Tower stair"
    press(desk.walks.stair)
    until(lambda: walk_of(window).name == "Up Tower stair", 20)
    assert walk_of(window).keys[-1].eye[2] == pytest.approx(18.6, abs=0.01)
    window.workspace.state.choose_object(model.objects[model.object_number("Bench 1")].id)
    # What is no stair is not called one.
    assert desk.walks.stair.text() == "Up the chosen stair"
    press(desk.walks.stair)
    until(lambda: "no stair to walk up" in window.notice_bar.sentence, 20)
    assert len(window.workspace.bridge.project.walks) == count + 1


def test_a_turntable_is_dragged_on_the_plan(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    window.workspace.state.choose_object("")
    assert desk.walks.turn.text() == "Turntable: whole building"
    press(desk.walks.turn)
    plan, table = desk.plan, walk_of(window).turntable
    assert table is not None
    x, y, z = table.centre
    far = table.radius_m * 1.6
    plan.fit_to([(x - far, y - far), (x + far, y + far)])

    def knob(name: str) -> QPointF:
        return desk.route.table.knobs(walk_of(window).turntable)[name]

    begin = plan.to_screen(x + 30.0, y)
    drag(
        plan, knob("begin"), (knob("begin") + begin) / 2, begin, modifier=Qt.KeyboardModifier.ControlModifier
    )
    table = walk_of(window).turntable
    assert table is not None and table.start_deg == pytest.approx(90.0, abs=1.0)
    assert table.radius_m == pytest.approx(30.0, abs=0.5)
    assert window.workspace.bridge.document.undo_label == "Radius and begin"
    camera = desk.camera_at(0.0)
    assert camera is not None and camera.eye[0] == pytest.approx(x + 30.0, abs=0.5)
    end = plan.to_screen(x, y - 34.0)
    drag(plan, knob("end"), (knob("end") + end) / 2, end, modifier=Qt.KeyboardModifier.ControlModifier)
    table = walk_of(window).turntable
    assert table is not None and table.sweep_deg == pytest.approx(90.0, abs=2.0)
    drag(plan, knob("centre"), knob("centre") + QPointF(15, 0), knob("centre") + QPointF(30, 0),
         modifier=Qt.KeyboardModifier.ControlModifier)  # fmt: skip
    table = walk_of(window).turntable
    assert table is not None and table.centre[0] > x + 1.0 and table.centre[2] == z
    window.workspace.bridge.undo()
    assert walk_of(window).turntable.centre == (x, y, z)  # type: ignore[union-attr]


def test_the_walk_looks_at_the_building_all_along(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    menu = QMenu()
    desk.settings.looking.fill(menu)
    next(item for item in menu.actions() if item.text() == "All along: the building").trigger()
    (look,) = walk_of(window).looks
    assert (look.start, look.end, look.name) == (0.0, 1.0, "the building")
    for second in (0.0, 7.0, 14.0):
        camera = desk.camera_at(second)
        assert camera is not None
        px, py, depth = camera.view().project([look.point])[0]
        assert depth > 0 and (px, py) == (pytest.approx(640.0, abs=1.0), pytest.approx(360.0, abs=1.0))


def test_an_object_is_chosen_in_the_walks_own_frame_and_named(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    looking = desk.settings.looking
    window.workspace.state.choose_object("")
    assert looking.look_here.text() == "Look at an object"
    window.workspace.state.set_moment(3.0)
    until(lambda: desk.frame.override is not None)
    QTest.mouseClick(
        desk.frame,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
        desk.frame.frame_rect().center().toPoint(),
    )
    scene = window.workspace.studio.scene
    assert scene is not None
    name = scene.model.objects[scene.lookup.index[window.workspace.state.object_id]].name
    assert f"“{name}” is chosen" in window.notice_bar.sentence
    assert looking.look_here.text().startswith("Look at ") and name[:6] in looking.look_here.text()
    assert name[:6] in desk.walks.turn.text()
    press(looking.look_here)
    assert walk_of(window).looks[0].name == name


def test_a_place_turns_the_long_way(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    desk.timeline.choose_key(1)
    places, looking = desk.settings.places, desk.settings.looking
    looking.looking.chosen.emit(1)
    assert places.long_way.isEnabled()
    press(places.long_way)
    assert walk_of(window).keys[1].long_way
    looking.looking.chosen.emit(0)
    assert not places.long_way.isEnabled()


def test_a_place_looks_at_the_chosen_object(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    scene = window.workspace.studio.scene
    assert scene is not None
    window.workspace.state.choose_object("")
    desk.settings.looking.look_at_object()
    assert "Choose an object" in window.notice_bar.sentence
    counter = next(item for item in scene.model.objects if item.name == "Ticket counter")
    window.workspace.state.choose_object(counter.id)
    desk.timeline.choose_key(3)
    press(desk.settings.looking.look_here)
    (look,) = walk_of(window).looks
    camera = desk.camera_at(float(desk.line.timing.key_s[3]))
    assert camera is not None
    px, py, depth = camera.view().project([look.point])[0]
    assert depth > 0
    assert (px, py) == (pytest.approx(640.0, abs=6.0), pytest.approx(360.0, abs=6.0))


def test_the_timeline_draws_what_it_shows(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    until(lambda: desk.findings.flags_of == walk_of(window), 40)
    plain = desk.timeline.grab().toImage()
    window.workspace.bridge.apply("x", lambda p: set_walk(p, "walk-01", ease_in_s=4.0))
    eased = desk.timeline.grab().toImage()
    assert eased != plain
    window.workspace.bridge.apply(
        "x", lambda p: add_walk(p, Walk("", "Short", (WalkKey((7, 2, 1.6)), WalkKey((7, 8, 1.6))), 6.0))[0]
    )
    window.workspace.state.choose_walk("walk-02")
    assert desk.timeline.grab().toImage() != eased
    desk.timeline.show_line(None, window.workspace.bridge.project.limits)
    assert desk.timeline.grab().toImage() != eased
    window.workspace.bridge.apply("x", lambda p: replace(p, walks=p.walks[:1]))


def test_several_places_are_chosen_moved_copied_and_removed_in_the_timeline(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    line, settings = desk.timeline, desk.settings
    y = line.height() - 24

    def at(index: int) -> QPoint:
        return QPoint(round(line.x_of(float(desk.line.timing.key_s[index]))), y)

    QTest.mouseClick(line, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at(2))
    QTest.mouseClick(line, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier, at(4))
    QTest.mouseClick(line, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ControlModifier, at(3))
    assert line.keys == {2, 4}
    assert settings.places.group.figure == "2 of 13"
    enter(settings.camera_here.key_fields["focal_mm"], "35")
    assert [key.focal_mm for key in walk_of(window).keys[:6]] == [24.0, 24.0, 35.0, 24.0, 35.0, 24.0]
    # Dragged in time they keep their distance.
    before = desk.line.timing.key_s.copy()
    drag(line, QPointF(at(4)), QPointF(at(4)) + QPointF(20, 0), QPointF(at(4)) + QPointF(40, 0))
    now = walk_of(window).keys
    assert now[2].at_s is not None and now[4].at_s is not None and now[3].at_s is None
    assert now[4].at_s - now[2].at_s == pytest.approx(before[4] - before[2], abs=0.05)
    assert window.workspace.bridge.document.undo_label == "Second of a place"
    window.workspace.bridge.undo()
    line.setFocus()
    line.choose_key(2)
    QTest.keyClick(line, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    line.choose_key(8)
    QTest.keyClick(
        line, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    )
    assert walk_of(window).keys[8].focal_mm == 35.0
    assert walk_of(window).keys[8].heading_deg == walk_of(window).keys[2].heading_deg
    QTest.keyClick(line, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    assert len(walk_of(window).keys) == 14
    assert walk_of(window).keys[9].eye == walk_of(window).keys[2].eye
    line.choose_key(9)
    QTest.keyClick(line, Qt.Key.Key_Delete)
    assert len(walk_of(window).keys) == 13
    QTest.keyClick(line, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    assert len(line.keys) == 13
    count = len(walk_of(window).keys)
    QTest.keyClick(line, Qt.Key.Key_Delete)
    assert len(walk_of(window).keys) == count
    assert "at least two places" in window.notice_bar.sentence


def test_the_timeline_zooms_about_the_pointer_and_follows_the_moment(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    line = desk.timeline
    line.show_part(0.0, 24.0)
    place = QPointF(line.x_of(10.0), line.height() / 2)
    wheel = QWheelEvent(
        place,
        QPointF(line.mapToGlobal(place.toPoint())),
        QPoint(),
        QPoint(0, 480),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(line, wheel)
    begin, end = line.shown
    assert end - begin == pytest.approx(24.0 * 0.8**4)
    assert line.x_of(10.0) == pytest.approx(place.x(), abs=0.5)
    window.workspace.state.set_moment(22.0)
    assert line.shown[0] <= 22.0 <= line.shown[1]
    line.setFocus()
    QTest.keyClick(line, Qt.Key.Key_0)
    assert line.shown == (0.0, 24.0)
    QTest.keyClick(line, Qt.Key.Key_Plus)
    assert line.shown[1] - line.shown[0] < 24.0
    QTest.mouseDClick(
        line,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
        QPoint(round(line.x_of(line.shown[0] + 1)), 40),
    )
    assert line.shown == (0.0, 24.0)


@pytest.mark.slow
def test_spans_of_looking_are_made_dragged_and_taken_out(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    line, settings = desk.timeline, desk.settings
    scene = window.workspace.studio.scene
    assert scene is not None
    counter = next(item for item in scene.model.objects if item.name == "Ticket counter")
    window.workspace.state.choose_object(counter.id)
    window.workspace.state.set_moment(5.0)
    settings.looking.look_at_object()
    (look,) = walk_of(window).looks
    assert look.name == "Ticket counter"
    begin, end = line.look_span(0)
    assert (begin, end) == (pytest.approx(3.5, abs=0.02), pytest.approx(6.5, abs=0.02))
    assert line.look == 0
    y = line.lane + 6
    drag(line, QPointF(line.x_of(end), y), QPointF(line.x_of(end + 1), y), QPointF(line.x_of(end + 2), y))
    assert line.look_span(0)[1] == pytest.approx(end + 2, abs=0.1)
    drag(
        line,
        QPointF(line.x_of(begin + 1), y),
        QPointF(line.x_of(begin + 2), y),
        QPointF(line.x_of(begin + 3), y),
    )
    assert line.look_span(0)[0] == pytest.approx(begin + 2, abs=0.15)
    assert window.workspace.bridge.document.undo_label == "Span of looking"
    enter(settings.looking.look_from, "6")
    assert line.look_span(0)[0] == pytest.approx(6.0, abs=0.02)
    lamp = next(item for item in scene.model.objects if item.name == "Lookout roof")
    window.workspace.state.choose_object(lamp.id)
    menu = QMenu()
    settings.looking.fill(menu)
    next(item for item in menu.actions() if item.text().startswith("Move on")).trigger()
    assert walk_of(window).looks[0].to is not None
    assert "Lookout roof" in settings.looking.look_list.item(0).text()
    settings.looking.new_look("ahead")
    assert [item.kind for item in walk_of(window).looks] == ["point", "ahead"]
    menu = QMenu()
    settings.looking.fill(menu)
    next(item for item in menu.actions() if item.text().startswith("Remove")).trigger()
    assert len(walk_of(window).looks) == 1


def test_handles_are_dragged_on_the_plan_and_taken_back(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    plan = desk.plan
    plan.fit_to([(0, 0), (14, 18)])
    desk.timeline.choose_key(2)
    ahead, back = desk.route.handle_places()
    x, y, _ = walk_of(window).keys[2].eye
    middle = plan.to_screen(x, y)
    assert ((ahead + back) / 2 - middle).manhattanLength() < 1.0
    drag(
        plan,
        ahead,
        ahead + QPointF(20, 0),
        ahead + QPointF(40, 10),
        modifier=Qt.KeyboardModifier.ControlModifier,
    )
    handle = walk_of(window).keys[2].handle
    assert handle is not None
    assert plan.to_screen(x + handle[0], y + handle[1]).x() == pytest.approx(ahead.x() + 40, abs=2.0)
    assert window.workspace.bridge.document.undo_label == "Handle of a place"
    assert walk_of(window).keys[2].eye == (x, y, 1.6)
    knob = desk.route.handle_places()[0].toPoint()
    QTest.mouseDClick(plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, knob)
    assert walk_of(window).keys[2].handle is None


@pytest.mark.slow
def test_while_a_walk_plays_only_the_moment_is_painted(
    window: MainWindow, desk, monkeypatch: pytest.MonkeyPatch
) -> None:  # type: ignore[no-untyped-def]
    """What lies behind the line of the moment is painted when something else has changed, and then it is to
    be seen."""
    timeline = desk.timeline
    painted: list[int] = []
    behind = timeline._paint_behind
    monkeypatch.setattr(timeline, "_paint_behind", lambda painter: (painted.append(1), behind(painter)))
    timeline.update()
    before = timeline.grab().toImage()
    painted.clear()
    for second in (1.0, 2.0, 3.0):
        window.workspace.state.set_moment(second)
        later = timeline.grab().toImage()
        assert later != before
    assert painted == []
    window.workspace.state.set_moment(0.0)
    assert timeline.grab().toImage() == before
    timeline.choose_key(1)
    assert timeline.grab().toImage() != before and painted
    # As a timeline looks that was never painted before.
    kept = timeline.grab().toImage()
    timeline.update()
    assert timeline.grab().toImage() == kept


@pytest.mark.slow
def test_the_long_section_scrubs_chooses_and_lifts(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    section = desk.long
    until(lambda: section.sheet is not None and desk.findings.sheets[0] == walk_of(window), 60)
    assert {name for _, _, name in section.sheet.rooms} == {"Waiting hall", "Café gallery"}
    # To another walk and back before that one was cut: the cut that is known is shown again.
    window.workspace.bridge.apply(
        "x", lambda p: add_walk(p, Walk("", "Short", (WalkKey((7, 2, 1.6)), WalkKey((7, 8, 1.6))), 6.0))[0]
    )
    window.workspace.state.choose_walk("walk-02")
    assert section.sheet is None
    window.workspace.state.choose_walk("walk-01")
    assert section.sheet is not None
    middle = section.height() / 2
    half = desk.line.route.length_m / 2
    drag(section, QPointF(section.x_of(1.0), middle - 30), QPointF(section.x_of(half), middle - 30))
    assert window.workspace.state.moment == pytest.approx(12.0, abs=0.1)
    QTest.mouseClick(
        section, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, section.place_of_key(6).toPoint()
    )
    assert desk.timeline.key == 6
    # Over the floor a place cannot be lifted; with heights as set it can.
    before = walk_of(window).keys
    drag(section, section.place_of_key(6), section.place_of_key(6) - QPointF(0, 20))
    assert walk_of(window).keys == before
    desk.settings.route.heights.chosen.emit(1)
    assert not walk_of(window).follow_floor
    start = section.place_of_key(6)
    drag(section, start, start - QPointF(0, 10), start - QPointF(0, 20))
    lifted = walk_of(window).keys[6].eye[2] - before[6].eye[2]
    low, high = section.reach
    assert lifted == pytest.approx(20 / (section.height() - 22) * (high - low), abs=0.12)
    assert window.workspace.bridge.document.undo_label == "Height of a place"
    enter(desk.settings.places.key_height, "2")
    assert walk_of(window).keys[6].eye[2] == pytest.approx(
        2.0 + desk.settings.places.storey_m(walk_of(window).keys[6].eye[2])
    )


def test_bounds_and_the_sun_are_switched_on_at_places(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    settings = desk.settings
    desk.timeline.choose_key(3)
    settings.camera_here.group.fold()
    for name, typed in (("hour", "8.5"), ("near_m", "0.6")):
        press(settings.camera_here.key_switches[name])
        assert getattr(walk_of(window).keys[3], name) is not None
        enter(settings.camera_here.key_fields[name], typed)
    assert (walk_of(window).keys[3].hour, walk_of(window).keys[3].near_m) == (8.5, 0.6)
    window.workspace.state.set_moment(float(desk.line.timing.key_s[3]))
    assert desk.frame.picture.light().hour == pytest.approx(8.5)
    press(settings.camera_here.key_switches["hour"])
    assert walk_of(window).keys[3].hour is None
    assert desk.frame.picture.light() == window.workspace.bridge.project.light
    lamps = settings.camera_here.key_fields["lamps"]
    press(settings.camera_here.key_switches["lamps"])
    assert walk_of(window).keys[3].lamps == 0.0
    enter(lamps, "60")
    assert (walk_of(window).keys[3].lamps, lamps.value) == (0.6, 60.0)
    assert desk.frame.picture.light().lamps.share == pytest.approx(0.6)
    # Their soft light is asked for, off and at full strength, from which the Frame dims it.
    asked = window.workspace.own_lights.wanted()
    assert [item.lamps.share for item in asked if item != window.workspace.bridge.project.light] == [1.0]
    press(settings.camera_here.key_switches["lamps"])
    assert walk_of(window).keys[3].lamps is None
    assert window.workspace.own_lights.wanted() == ()
    settings.camera_here.group.fold()


@pytest.mark.slow
def test_a_flag_is_mended_from_the_list(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    enter(desk.settings.timing.seconds, "16")
    until(lambda: desk.findings.flags_of == walk_of(window) and desk.findings.flags, 40)
    row = next(index for index, flag in enumerate(desk.settings.flags.flags) if flag.code == "pace")
    desk.settings.flags.flag_list.setCurrentRow(row)
    shown = [how for how, mend_button in desk.settings.flags.mends.items() if not mend_button.isHidden()]
    assert shown == ["slow"]
    desk.settings.flags.mends["slow"].click()
    assert walk_of(window).seconds > 16.0
    assert window.workspace.bridge.document.undo_label == "Slow down here"
    until(lambda: desk.findings.flags_of == walk_of(window), 40)
    assert "pace" not in {flag.code for flag in desk.findings.flags}


@pytest.mark.slow
def test_a_view_into_a_hole_and_a_bound_that_opens_something_are_flagged(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    keys = tuple(WalkKey((x, 12.0, 1.6), 90.0, near_m=4.0) for x in (5.0, 8.0, 12.0))
    window.workspace.bridge.apply(
        "x", lambda p: add_walk(p, Walk("", "Towards the wall", keys, 6.0, looking="keyed"))[0]
    )
    window.workspace.state.choose_walk("walk-02")
    until(lambda: desk.findings.film_flags[0] == walk_of(window), 60)
    # What is reckoned of the route alone may come after what the pictures tell.
    until(lambda: desk.findings.known_flags() is not None, 60)
    flags = desk.findings.known_flags()
    assert "cut" in {flag.code for flag in flags}
    row = next(index for index, flag in enumerate(flags) if flag.code == "cut")
    desk.settings.flags.flag_list.setCurrentRow(row)
    assert not desk.settings.flags.mends["unbound"].isHidden()
    desk.settings.flags.mends["unbound"].click()
    until(lambda: desk.findings.film_flags[0] == walk_of(window), 60)
    assert "cut" not in {flag.code for flag in desk.findings.known_flags()}


@pytest.mark.slow
def test_played_again_the_film_frames_come_from_the_reel(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    window.workspace.bridge.apply(
        "x",
        lambda p: add_walk(p, Walk("", "Short", (WalkKey((7, 2, 1.6)), WalkKey((7, 4, 1.6))), 2.0, "12"))[0],
    )
    window.workspace.state.choose_walk("walk-02")
    shown: list[int] = []
    desk.frame.film_frame_shown.connect(shown.append)
    press(desk.bar.play)
    assert desk.playing
    until(lambda: not desk.playing, 20)
    assert window.workspace.state.moment == 2.0
    # What was left out is drawn afterwards, until all 24 film frames are there.
    until(lambda: len(desk.frame.reel) == 24, 40)
    shown.clear()
    ordered = window.workspace.studio.ordered
    press(desk.bar.play)
    until(lambda: not desk.playing, 20)
    # At the real rate film frames are dropped rather than shown late; what is shown comes from the reel.
    assert len(set(shown)) >= 8
    # Only the last picture, at which it rests, was drawn anew.
    assert window.workspace.studio.ordered - ordered <= 4
    # Looping between two chosen places goes on until it is stopped.
    desk.timeline.choose_key(0)
    desk.timeline.choose_key(1, frozenset({0, 1}))
    press(desk.bar.loop)
    press(desk.bar.play)
    QTest.qWait(2400)
    assert desk.playing
    press(desk.bar.play)
    assert not desk.playing
    desk.bar.loop.setChecked(False)
    # A changed walk has no film frames yet.
    window.workspace.bridge.apply("x", lambda p: set_walk(p, "walk-02", seconds=3.0))
    assert len(desk.frame.reel) == 0
    desk.frame.film_frame_shown.disconnect(shown.append)


def test_other_routes_show_on_the_plan_unless_taken_off(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    window.workspace.bridge.apply(
        "x", lambda p: add_walk(p, Walk("", "Short", (WalkKey((7, 2, 1.6)), WalkKey((7, 8, 1.6))), 6.0))[0]
    )
    with_it = desk.plan.grab().toImage()
    assert [item.id for item in desk.route._others] == ["walk-02"]
    window.workspace.bridge.apply("Hide route", lambda p: set_walk(p, "walk-02", hidden=True))
    assert desk.plan.grab().toImage() != with_it
    rows = [desk.walks._rows.itemAt(index).widget() for index in range(2)]
    switch = rows[1].findChildren(QPushButton)[1]
    assert not switch.isChecked()
    switch.click()
    assert not window.workspace.bridge.project.walks[1].hidden


def test_a_route_is_bent_by_pulling_at_it(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    ends = Walk("", "Past", (WalkKey((-20.0, -24.0, 1.6)), WalkKey((16.0, -24.0, 1.6))), 12.0)
    window.workspace.bridge.apply("x", lambda p: add_walk(p, ends)[0])
    window.workspace.state.choose_walk(window.workspace.bridge.project.walks[-1].id)
    plan = desk.plan
    plan.fit_to([(-24.0, -40.0), (20.0, -10.0)])
    start, to = plan.to_screen(-2.0, -24.0), plan.to_screen(-4.0, -34.0)
    free = Qt.KeyboardModifier.ControlModifier
    # The pointer says that there is something to take, and beside the line that there is nothing.
    for at, shape in (
        (start, Qt.CursorShape.PointingHandCursor),
        (start + QPointF(0, 60), Qt.CursorShape.ArrowCursor),
    ):
        QTest.mouseMove(plan, at.toPoint())
        QApplication.processEvents()
        assert plan.cursor().shape() == shape
    drag(plan, start, (start + to) / 2, to, modifier=free)
    walk = walk_of(window)
    assert [key.eye for key in walk.keys] == [key.eye for key in ends.keys]
    assert all(key.handle is not None for key in walk.keys)
    points = desk.line.route.points[:, :2]
    assert np.hypot(*(points - (-4.0, -34.0)).T).min() < 0.3
    assert window.workspace.bridge.document.undo_label == "Bend the route"
    # Pressed without a drag nothing changes, and two presses still put a place in.
    window.workspace.bridge.undo()
    drag(plan, start, modifier=free)
    assert walk_of(window).keys[0].handle is None
    QTest.mouseDClick(plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start.toPoint())
    assert len(walk_of(window).keys) == 3
    # Between corners there is nothing to bend, and it is said.
    corners = tuple(replace(key, bend="corner") for key in ends.keys)
    window.workspace.bridge.apply("x", lambda p: set_walk(p, walk.id, keys=corners))
    drag(plan, start, (start + to) / 2, to, modifier=free)
    assert walk_of(window).keys == corners and "sharp corners" in window.notice_bar.sentence


def test_stairs_and_objects_are_found_with_what_is_done_with_them(
    window: MainWindow, desk, demo_files: Path
) -> None:  # type: ignore[no-untyped-def]
    def found(text: str) -> list[str]:
        return [item.name for item in best(window.going.entries(window.table, text), text)]

    assert found("walk up tower")[0] == "Walk up Tower stair"
    assert found("look at bench 5")[0] == "Look at Bench 5, all along the walk"
    # Who only looks for a bench is not shown what a walk might do with each.
    assert not [name for name in found("bench") if "all along" in name]
    best(window.going.entries(window.table, "look at bench 5"), "look at bench 5")[0].run()
    assert [(item.kind, item.name, item.start, item.end) for item in walk_of(window).looks] == [
        ("point", "Bench 5", 0.0, 1.0)
    ]
    # A turntable keeps looking at its middle, and says so.
    window.workspace.bridge.replace_document(read_project(demo_files / PROJECT))
    window.workspace.state.choose_walk("walk-02")
    best(window.going.entries(window.table, "look at bench 5"), "look at bench 5")[0].run()
    assert walk_of(window).looks == () and "looks at its middle" in window.notice_bar.sentence
    before = len(window.workspace.bridge.project.walks)
    best(window.going.entries(window.table, "walk up stair"), "walk up stair")[0].run()
    until(lambda: len(window.workspace.bridge.project.walks) == before + 1, 20)
    assert walk_of(window).name == "Up Stair"


@pytest.mark.slow
def test_what_routes_need_is_loaded_beside_the_window_before_it_is_asked_for(
    desk, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:  # type: ignore[no-untyped-def]
    (tmp_path / "needed_by_routes.py").write_text("import threading\nBY = threading.current_thread().name\n")
    monkeypatch.syspath_prepend(tmp_path)
    monkeypatch.setattr(desk_module, "LOADED", ("needed_by_routes",))
    desk._load.start()
    until(lambda: hasattr(sys.modules.get("needed_by_routes"), "BY"))
    assert sys.modules.pop("needed_by_routes").BY == desk_module.LOADING
    monkeypatch.undo()
    # And it is all: a route that is worked out and looked along loads nothing of its own.
    script = (
        "import importlib, sys\n"
        "from altana.core.project import Project, Walk, WalkKey\n"
        "from altana.core.walk.sample import resolve, sample\n"
        f"[importlib.import_module(name) for name in {desk_module.LOADED}]\n"
        "before = set(sys.modules)\n"
        "keys = tuple(WalkKey(eye=(4.0 * n, 3.0 * (n % 2), 1.6)) for n in range(4))\n"
        "line = resolve(Walk('w', 'Round', keys=keys), None)\n"
        "sample(line)\n"
        "print(sorted(name for name in set(sys.modules) - before if name.startswith('scipy')))"
    )
    result = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, timeout=600)
    assert result.stdout.strip() == "[]", result.stderr
