"""The Walk desk through its window: timeline, places, pauses, turntables, flags."""

from __future__ import annotations

from dataclasses import replace

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QMenu

from altana.app.window import WALK, MainWindow
from altana.core.edits.walks import add_walk, set_walk
from altana.core.project import CORNER, Walk, WalkKey
from tests.app.conftest import drag, enter, press, until


@pytest.fixture
def desk(window: MainWindow):  # type: ignore[no-untyped-def]
    window.choose_desk(WALK)
    window.state.choose_walk("walk-01")
    desk = window.walk_desk
    desk.timeline.key = -1
    until(lambda: desk._line is not None)
    return desk


def place_twice(desk, share: float) -> list[float]:  # type: ignore[no-untyped-def]
    """Press twice on the route, at a share of the way between its first two places; where that is."""
    route, plan = desk._line.route, desk.plan
    middle = route.at([route.key_m[0] + share * (route.key_m[1] - route.key_m[0])])[0]
    QTest.mouseDClick(plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, plan.to_screen(middle[0], middle[1]).toPoint())
    return [float(value) for value in middle]


def walk_of(window: MainWindow) -> Walk:
    walk = window.state.walk
    assert walk is not None
    return walk


def test_the_demos_walk_has_no_flag_and_a_hurried_one_has(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    until(lambda: desk._flags_of == walk_of(window), 40)
    assert desk._flags == ()
    assert desk.settings._flag_group._figure.text() == "nothing found"
    enter(desk.settings.seconds, "12")
    until(lambda: desk._flags_of == walk_of(window), 40)
    codes = {flag.code for flag in desk._flags}
    assert {"pace", "turn"} <= codes
    assert desk.settings.flag_list.count() == len(desk._flags)
    assert desk.settings.flag_list.item(0).text().startswith("! 1")
    # Pressed in the list or on the time axis, a flag is gone to.
    desk.settings.flag_list.itemClicked.emit(desk.settings.flag_list.item(0))
    assert window.state.moment == pytest.approx(desk._flags[0].worst_s)
    last = desk._flags[-1]
    place = QPoint(round(desk.timeline._x(last.worst_s)), 7)
    QTest.mouseClick(desk.timeline, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, place)
    assert window.state.moment == pytest.approx(last.worst_s)


def test_scrubbing_and_keys_in_the_timeline(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    line = desk.timeline
    middle = line.height() / 2
    drag(line, QPointF(line._x(2.0), middle), QPointF(line._x(10.0), middle))
    assert window.state.moment == pytest.approx(10.0, abs=0.1)
    assert desk.frame.camera == desk.camera_at(window.state.moment)
    line.setFocus()
    QTest.keyClick(line, Qt.Key.Key_Home)
    assert window.state.moment == 0.0
    for _ in range(3):
        QTest.keyClick(line, Qt.Key.Key_Right)
    assert window.state.moment == pytest.approx(3 / 25)
    QTest.keyClick(line, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert window.state.moment == pytest.approx(1.12)
    QTest.keyClick(line, Qt.Key.Key_End)
    assert window.state.moment == 24.0


def test_a_place_is_chosen_paused_at_and_given_its_second(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    line = desk.timeline
    second = float(desk._line.timing.key_s[5])
    at = QPoint(round(line._x(second)), line.height() - 24)
    QTest.mouseClick(line, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at)
    assert line.key == 5
    assert window.state.moment == pytest.approx(second)
    press(desk.settings.next_key)
    assert line.key == 6
    enter(desk.settings.dwell, "2")
    assert walk_of(window).keys[6].dwell_s == 2.0
    assert len(desk._line.timing.dwells) == 1
    # While it pauses the camera stands still.
    begin, end = desk._line.timing.dwells[0]
    assert desk.camera_at(begin + 0.1) == desk.camera_at(end - 0.1)
    enter(desk.settings.key_second, "15")
    assert walk_of(window).keys[6].at_s == 15.0
    assert desk._line.timing.key_s[6] == pytest.approx(15.0)
    press(desk.settings.free)
    assert walk_of(window).keys[6].at_s is None
    desk.settings.bend.chosen.emit(2)
    assert walk_of(window).keys[6].bend == CORNER
    assert window.bridge.document.undo_label == "Bend"
    # More pauses than the walk is long are refused with a sentence, and nothing changes.
    before = walk_of(window)
    enter(desk.settings.dwell, "60")
    assert "longer than the walk" in window._banner_text.text()
    assert walk_of(window) == before
    count = len(before.keys)
    press(desk.settings.drop_key)
    assert len(walk_of(window).keys) == count - 1


def test_places_are_dragged_put_in_and_undone_on_the_plan(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    plan = desk.plan
    plan.fit_to([(0, 0), (14, 18)])
    before = walk_of(window).keys
    start = plan.to_screen(*before[2].eye[:2])
    drag(
        plan,
        start,
        start + QPointF(0.4 * plan._scale, 0),
        start + QPointF(0.8 * plan._scale, 0),
        modifier=Qt.KeyboardModifier.ControlModifier,
    )
    after = walk_of(window).keys
    assert desk.timeline.key == 2
    assert after[2].eye[0] == pytest.approx(before[2].eye[0] + 0.8, abs=0.08)
    assert after[2].eye[2] == pytest.approx(1.6, abs=1e-3)
    assert (after[:2], after[3:]) == (before[:2], before[3:])
    assert window.bridge.document.undo_label == "Move place"
    window.undo()
    assert walk_of(window).keys == before
    # Pressed twice on the line between two places, a new one stands there, with the lens and shift of its moment.
    window.bridge.apply("Rise", lambda p: set_walk(p, "walk-01", keys=tuple(replace(key, rise_mm=3.0) for key in before)))
    middle = place_twice(desk, 0.5)
    assert walk_of(window).keys[1].rise_mm == pytest.approx(3.0)
    assert len(walk_of(window).keys) == len(before) + 1
    assert desk.timeline.key == 1
    assert walk_of(window).keys[1].eye == pytest.approx(middle, abs=0.1)
    # Away from the route a double press does nothing.
    QTest.mouseDClick(plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, plan.to_screen(12.0, 2.0).toPoint())
    assert len(walk_of(window).keys) == len(before) + 1


def test_a_place_is_dragged_in_time(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    line = desk.timeline
    y = line.height() - 24.0
    second = float(desk._line.timing.key_s[4])
    drag(line, QPointF(line._x(second), y), QPointF(line._x(second + 1.0), y), QPointF(line._x(second + 2.0), y))
    at = walk_of(window).keys[4].at_s
    assert at == pytest.approx(second + 2.0, abs=0.08)
    # Held by film frames.
    assert at * 25 == pytest.approx(round(at * 25), abs=1e-4)
    assert window.bridge.document.undo_label == "Second of a place"
    window.undo()
    assert walk_of(window).keys[4].at_s is None
    # First and last stay at the ends.
    drag(line, QPointF(line._x(0.0), y), QPointF(line._x(5.0), y))
    assert walk_of(window).keys[0].at_s is None


def test_walks_are_duplicated_parted_joined_and_locked(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    def more(word: str) -> None:
        menu = QMenu()
        desk.settings._fill_more(menu)
        next(action for action in menu.actions() if action.text().startswith(word)).trigger()

    more("Duplicate")
    assert [walk.name for walk in window.bridge.project.walks] == ["Up the stair to the gallery", "Up the stair to the gallery 2"]
    assert window.state.walk_id == "walk-02"
    window.state.choose_walk("walk-01")
    desk.timeline.choose_key(5)
    more("Part")
    assert len(window.bridge.project.walks) == 3
    assert len(walk_of(window).keys) == 6
    assert sum(walk.seconds for walk in window.bridge.project.walks if walk.id != "walk-02") == pytest.approx(24.0)
    more("Join")
    assert len(window.bridge.project.walks) == 2
    more("Lock")
    before = walk_of(window)
    enter(desk.settings.seconds, "40")
    assert walk_of(window) == before
    assert "is locked" in window._banner_text.text()
    desk.timeline.choose_key(2)
    for refused in (lambda: press(desk.settings.drop_key), lambda: more("Part"), lambda: press(desk.settings.remove)):
        refused()
        assert walk_of(window) == before
    place_twice(desk, 0.5)
    assert walk_of(window) == before
    more("Unlock")
    enter(desk.settings.seconds, "40")
    assert walk_of(window).seconds == 40.0


def test_pace_length_and_eases_follow_each_other(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    length = desk._line.route.length_m
    enter(desk.settings.pace, "1")
    assert walk_of(window).seconds == pytest.approx(length, abs=0.04)
    enter(desk.settings.ease_in, "2")
    enter(desk.settings.ease_out, "2")
    # The faster it is walked, the gentler the stair's ramp begins: the route's own length differs by millimetres.
    assert desk._line.route.length_m == pytest.approx(length, abs=0.03)
    assert desk._line.pace_m_s == pytest.approx(desk._line.route.length_m / (walk_of(window).seconds - 2.0))
    enter(desk.settings.pace, "1")
    assert walk_of(window).seconds == pytest.approx(length + 2.0, abs=0.04)
    press(desk.settings.plumb)
    assert walk_of(window).kept_plumb
    camera = desk.camera_at(5.0)
    assert camera is not None
    assert camera.tilt_deg == 0.0


def test_a_turntable_round_the_chosen_object_and_its_stops(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    scene = window.studio.scene
    assert scene is not None
    roof = next(item for item in scene.model.objects if item.name == "Lookout roof")
    window.state.choose_object(roof.id)
    press(desk.turn)
    walk = walk_of(window)
    assert walk.turntable is not None
    assert walk.name == "Round Lookout roof"
    assert not desk.settings._table_group.isHidden()
    assert desk.settings._place_group.isHidden()
    assert "240 film frames, 1.50° each" in desk.settings._timing_facts.text()
    enter(desk.settings.table_fields["radius_m"], "30")
    enter(desk.settings.table_fields["eye_m"], "25")
    table = walk_of(window).turntable
    assert table is not None
    assert (table.radius_m, table.eye_m) == (30.0, 25.0)
    camera = desk.camera_at(0.0)
    assert camera is not None
    px, py, _ = camera.view().project([table.centre])[0]
    assert (px, py) == (pytest.approx(640.0, abs=0.1), pytest.approx(360.0, abs=0.1))
    press(desk.settings.reverse)
    assert walk_of(window).turntable.sweep_deg == -360.0  # type: ignore[union-attr]
    count = len(window.bridge.project.cameras)
    press(desk.settings.stills)
    assert len(window.bridge.project.cameras) == count + 8
    assert window.bridge.project.cameras[-1].group == "Round Lookout roof"
    window.undo()
    assert len(window.bridge.project.cameras) == count


def test_a_place_looks_at_the_chosen_object(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    scene = window.studio.scene
    assert scene is not None
    window.state.choose_object("")
    desk.settings._look_at_object()
    assert "Choose an object" in window._banner_text.text()
    counter = next(item for item in scene.model.objects if item.name == "Ticket counter")
    window.state.choose_object(counter.id)
    desk.timeline.choose_key(3)
    press(desk.settings.look_here)
    (look,) = walk_of(window).looks
    camera = desk.camera_at(float(desk._line.timing.key_s[3]))
    assert camera is not None
    px, py, depth = camera.view().project([look.point])[0]
    assert depth > 0
    assert (px, py) == (pytest.approx(640.0, abs=6.0), pytest.approx(360.0, abs=6.0))


def test_the_timeline_draws_what_it_shows(window: MainWindow, desk) -> None:  # type: ignore[no-untyped-def]
    until(lambda: desk._flags_of == walk_of(window), 40)
    plain = desk.timeline.grab().toImage()
    window.bridge.apply("x", lambda p: set_walk(p, "walk-01", ease_in_s=4.0))
    eased = desk.timeline.grab().toImage()
    assert eased != plain
    window.bridge.apply("x", lambda p: add_walk(p, Walk("", "Short", (WalkKey((7, 2, 1.6)), WalkKey((7, 8, 1.6))), 6.0))[0])
    window.state.choose_walk("walk-02")
    assert desk.timeline.grab().toImage() != eased
    desk.timeline.show_line(None, window.bridge.project.limits)
    assert desk.timeline.grab().toImage() != eased
    window.bridge.apply("x", lambda p: replace(p, walks=p.walks[:1]))
