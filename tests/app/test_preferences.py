"""Preferences, keys of one's own, the first page, what Find knows, and hands that change nothing by
accident."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QKeySequence, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QPushButton, QWidget

from altana.app.shell import notice_bar
from altana.app.shell.notice_bar import SHOWN_MS
from altana.app.shell.search import best
from altana.app.shell.start_page import StartPage
from altana.app.shell.window import COMPOSE, HAND_OVER, WALK, MainWindow
from altana.app.theme.lengths import UNITS, length, typed_length, wording
from altana.app.theme.number_field import NumberField
from altana.app.theme.tokens import DARK, LIGHT
from altana.app.theme.widgets import ChoiceBox, Slider
from altana.app.workspace.notices import Offer, Weight
from altana.app.workspace.preferences import CHROMES
from altana.core.edits.shots import add_shots, start_values
from altana.core.project import STILL
from tests.app.conftest import drag, enter, press, until


def turn_wheel(widget: QWidget) -> None:
    middle = QPointF(widget.rect().center())
    event = QWheelEvent(
        middle,
        QPointF(widget.mapToGlobal(middle.toPoint())),
        QPoint(),
        QPoint(0, -120),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(widget, event)


@pytest.fixture
def page(window: MainWindow):  # type: ignore[no-untyped-def]
    window.show_preferences()
    yield window.preferences_page
    window.preferences_page.accept()
    window.preferences.usual_keys()
    for command in window.table:
        window.table.set_keys(command.id, command.keys)
    window.preferences.chrome = CHROMES[0]


def test_the_chrome_is_chosen_and_the_drawings_stay_on_white_paper(window: MainWindow, page) -> None:  # type: ignore[no-untyped-def]
    page.chrome.activated.emit(2)
    assert window.dressing.tokens.name == "dark" and window.compose.frame._tokens.paper == DARK.paper
    assert window.compose.plan._tokens.leaf == LIGHT.leaf
    assert QApplication.palette().window().color().name().upper() == DARK.paper
    page.chrome.activated.emit(1)
    assert (
        window.dressing.tokens.name == "light"
        and QApplication.palette().window().color().name().upper() == LIGHT.paper
    )


def test_what_is_pressed_on_the_well_is_told_from_the_rest_in_both_chromes(window: MainWindow, page) -> None:  # type: ignore[no-untyped-def]
    """The tool in hand and the format in use: light on the dark well, whatever the chrome."""
    window.going.choose_desk(COMPOSE)
    window.workspace.state.select("cam-01")
    for chrome in (2, 1):
        page.chrome.activated.emit(chrome)
        buttons = [
            item for item in window.compose.frame.findChildren(QPushButton, "onwell") if item.isVisible()
        ]
        shade = {True: set(), False: set()}  # type: dict[bool, set[int]]
        for item in buttons:
            image = item.grab().toImage()
            shade[item.isChecked()].add(image.pixelColor(image.width() // 2, 4).lightness())
        assert min(shade[True]) - max(shade[False]) > 120


def test_values_are_kept_and_hold_at_once(window: MainWindow, page) -> None:  # type: ignore[no-untyped-def]
    enter(page.eye, "1.5")
    enter(page.autosave, "20")
    assert window.compose.plan.eye_height_m == 1.5
    assert window.files.autosave.interval() == 20_000
    assert window.preferences.eye_m == 1.5
    window.files.settings.setValue("preferences/eye_m", "nonsense")
    assert window.preferences.eye_m == 1.6
    enter(page.eye, "1.6")
    enter(page.autosave, "4")


def test_lengths_and_numbers_speak_as_is_preferred(window: MainWindow, page) -> None:  # type: ignore[no-untyped-def]
    standpoint = window.compose.settings.standpoint
    window.workspace.state.select("cam-01")
    assert standpoint.eye_height.text() == "1.60 m"
    try:
        page.unit.activated.emit(UNITS.index("feet and inches"))
        assert standpoint.eye_height.text() == "5' 3.0\""
        assert page.eye.text() == "5' 3.0\""
        camera = window.workspace.state.active
        assert camera is not None and "5' 3.0\"" in window.compose.strip.told(camera).line
        # What is shown can be typed; a bare number is of the unit that is shown, and any other unit still
        # holds.
        for typed, metres in (("5' 9\"", 1.7526), ("5.5", 1.6764), ("160 cm", 1.6), ("1.7 m", 1.7)):
            enter(standpoint.eye_height, typed)
            assert window.workspace.state.active.eye[2] == pytest.approx(metres, abs=1e-4)  # type: ignore[union-attr]
        page.unit.activated.emit(UNITS.index("millimetres"))
        page.decimals.activated.emit(1)
        assert standpoint.eye_height.text() == "1700 mm"
        enter(standpoint.eye_height, "1650")
        assert window.workspace.state.active.eye[2] == pytest.approx(1.65)  # type: ignore[union-attr]
        assert window.compose.settings.lens.focal.text() == "24,0 mm"
        enter(window.compose.settings.lens.focal, "28,5")
        assert window.workspace.state.active.focal_mm == 28.5  # type: ignore[union-attr]
    finally:
        page.unit.activated.emit(0)
        page.decimals.activated.emit(0)
    assert standpoint.eye_height.text() == "1.65 m"


@pytest.mark.parametrize(
    ("metres", "decimals", "told"),
    [(1.6, 2, "5' 3.0\""), (-0.6858, 2, "-2' 3.0\""), (0.3048 * 2 - 1e-6, 2, "2' 0.0\""), (0.0, 2, "0' 0.0\""), (30.48, 1, "100' 0\"")],
)  # fmt: skip
def test_feet_and_inches(metres: float, decimals: int, told: str) -> None:
    wording.unit = "feet and inches"
    try:
        assert length(metres, decimals) == told
        assert typed_length(told) == pytest.approx(metres, abs=2e-3 if decimals == 2 else 2e-2)
    finally:
        wording.unit = "metres"


def test_new_cameras_have_the_lens_that_is_preferred(window: MainWindow, page) -> None:  # type: ignore[no-untyped-def]
    try:
        enter(page.inside, "28")
        window.compose.arm(True)
        window.compose.plan.choose_storey(window.workspace.studio.scene.model.storeys[0])  # type: ignore[union-attr]
        plan = window.compose.plan
        plan.fit_to([(0, 0), (14, 18)])
        drag(plan, plan.to_screen(7, 5), plan.to_screen(7, 8), plan.to_screen(7, 9))
        camera = window.workspace.state.active
        assert camera is not None and camera.inside and camera.focal_mm == 28.0
    finally:
        enter(page.inside, "24")


def test_keys_are_changed_and_double_use_is_said(window: MainWindow, page) -> None:  # type: ignore[no-untyped-def]
    page.filter.setText("duplicate")
    page.commands.setCurrentItem(page.commands.topLevelItem(0))
    page.keys.setKeySequence(QKeySequence("Ctrl+S"))
    page.keys.editingFinished.emit()
    assert "is the key of Save. Nothing was changed" in page.told.text()
    assert window.table.keys_of("camera.duplicate") == "Ctrl+D"
    page.keys.setKeySequence(QKeySequence("Shift+F9"))
    page.keys.editingFinished.emit()
    assert window.table.keys_of("camera.duplicate") == "Shift+F9"
    page.accept()
    window.activateWindow()
    until(window.isActiveWindow, 5)
    window.workspace.state.select("cam-01")
    count = len(window.workspace.bridge.project.cameras)
    window.going.choose_desk(COMPOSE)
    QTest.keyClick(window, Qt.Key.Key_F9, Qt.KeyboardModifier.ShiftModifier)
    assert len(window.workspace.bridge.project.cameras) == count + 1
    window.workspace.bridge.undo()
    (usual,) = (item for item in page.findChildren(QPushButton) if item.text() == "All keys as usual")
    press(usual)
    assert window.table.keys_of("camera.duplicate") == "Ctrl+D"


@pytest.mark.parametrize(
    ("words", "command"),
    [
        ("sun", "light.panel"),
        ("360", "list.add-panoramas"),
        ("batch", "list.make-all"),
        ("pencil", "frame.as-made"),
        ("clip", "camera.near"),
        ("film", "walk.draw"),
        ("rename", "camera.rename"),
        ("background", "frame.as-made"),
        ("section", "section.large"),
        ("history", "project.versions"),
        ("dark mode", "help.preferences"),
        ("shortcuts", "help.keys"),
    ],
)
def test_find_knows_the_trades_other_words(window: MainWindow, words: str, command: str) -> None:
    names = [item.name for item in best(window.going.entries(window.table), words)]
    assert window.table.commands[command].title in names


def test_the_wheel_changes_nothing_that_has_no_focus(window: MainWindow) -> None:
    window.going.choose_desk(COMPOSE)
    window.compose.frame.setFocus()
    boxes = [box for box in window.findChildren(ChoiceBox) if box.isVisible() and box.count() > 1]
    sliders = [slider for slider in window.findChildren(Slider) if slider.isVisible()]
    fields = [field for field in window.findChildren(NumberField) if field.isVisible()]
    assert boxes and fields
    before = (
        [box.currentIndex() for box in boxes]
        + [slider.value() for slider in sliders]
        + [field.value for field in fields]
    )
    for widget in (*boxes, *sliders, *fields):
        turn_wheel(widget)
    after = (
        [box.currentIndex() for box in boxes]
        + [slider.value() for slider in sliders]
        + [field.value for field in fields]
    )
    assert before == after
    # The list of a box shows every entry.
    for box in boxes:
        assert box.maxVisibleItems() >= box.count()


def test_return_enters_a_number_and_letters_are_keys_again(window: MainWindow) -> None:
    window.going.choose_desk(COMPOSE)
    window.workspace.state.select("cam-01")
    field = window.compose.settings.lens.focal
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "30")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert window.workspace.bridge.project.camera("cam-01").focal_mm == 30.0  # type: ignore[union-attr]
    text = field.text()
    QTest.keyClicks(field, "q")
    assert field.text() == text and field.hasFocus()
    # With Shift, which is a key of its own before the letter, too.
    QTest.keyPress(field, Qt.Key.Key_Shift)
    QTest.keyClick(field, Qt.Key.Key_T, Qt.KeyboardModifier.ShiftModifier)
    QTest.keyRelease(field, Qt.Key.Key_Shift)
    assert field.text() == text
    window.compose.pictures.compare(False)
    field.setFocus()
    QTest.keyClick(field, Qt.Key.Key_Return)
    QTest.keyClicks(field, "4")
    assert field.text().startswith("4")
    # Escape takes what was typed back, then leaves the field.
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert field.text() == text and field.hasFocus()
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert not field.hasFocus()


def test_a_text_that_is_one_value_gives_the_keys_back_too(window: MainWindow) -> None:
    window.going.choose_desk(COMPOSE)
    window.workspace.state.select("cam-01")
    field = window.compose.settings.format.proportion
    field.setFocus()
    enter(field, "2.2:1")
    camera = window.workspace.bridge.project.camera("cam-01")
    assert camera is not None and camera.width_px / camera.height_px == pytest.approx(2.2, abs=0.002)
    text = field.text()
    QTest.keyClicks(field, "q")
    assert field.text() == text and field.hasFocus()
    # Figures and a press begin anew.
    QTest.keyClicks(field, "3:2")
    assert field.text() == "3:2"
    QTest.keyClick(field, Qt.Key.Key_Return)
    press(field)
    QTest.keyClicks(field, "q")
    assert "q" in field.text()


def test_nonsense_and_values_out_of_range_are_told_at_the_field(window: MainWindow) -> None:
    window.going.choose_desk(COMPOSE)
    window.workspace.state.select("cam-01")
    field = window.compose.settings.lens.focal
    tip = field.toolTip()
    enter(field, "wide")
    assert field.property("wrong") and "is not a length" in field.toolTip()
    enter(field, "5000")
    assert "is outside 4.0 mm to 1200.0 mm: 1200.0 mm is taken" in field.toolTip()
    assert window.workspace.bridge.project.camera("cam-01").focal_mm == 1200.0  # type: ignore[union-attr]
    enter(field, "28")
    assert field.toolTip() == tip and not field.property("wrong")


def test_the_chosen_entry_of_a_list_is_readable(window: MainWindow) -> None:
    # A list of the desk's own plan: what is chosen in it stands out from the ground and from its letters.
    box = window.compose.plan.controls.storeys
    box.showPopup()
    view = box.view()
    QApplication.processEvents()
    row = view.visualRect(view.model().index(box.currentIndex(), 0))
    picture = view.viewport().grab(row).toImage()
    shown = {
        picture.pixelColor(x, y).lightness() for x in range(picture.width()) for y in range(picture.height())
    }
    box.hidePopup()
    assert max(shown) - min(shown) > 100


def test_commands_are_had_from_a_text_field_and_editing_stays_its_own(window: MainWindow) -> None:
    field = window.compose.settings.format.proportion
    field.setFocus()
    field.setText("2.2:1")
    QTest.keyClick(field, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    assert field.selectedText() == "2.2:1"
    cameras = len(window.workspace.bridge.project.cameras)
    QTest.keyClick(field, Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
    assert len(window.workspace.bridge.project.cameras) == cameras + 1
    field.setFocus()
    QTest.keyClick(field, Qt.Key.Key_E, Qt.KeyboardModifier.ControlModifier)
    until(lambda: QApplication.activeModalWidget() is not None, 5)
    assert QApplication.activeModalWidget() is window.making.sheet
    window.making.sheet.reject()


def test_find_gives_the_keys_back(window: MainWindow) -> None:
    frame = window.compose.frame

    def found(text: str) -> None:
        QTest.keyClick(window, Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
        QTest.keyClicks(window.top.search, text)
        QTest.keyClick(window.top.search, Qt.Key.Key_Return)

    window.compose.strip.view.setFocus()
    found("hall from the quay")
    # The keys of the Frame move the camera that was found.
    assert window.workspace.state.active is not None
    assert window.workspace.state.active.name == "Hall from the quay doors" and frame.hasFocus()
    found("guides on or off")
    assert frame.hasFocus()
    window.compose.settings.lens.focal.setFocus()
    found("guides on or off")
    # Not to a field, which would take the next key for a number.
    assert not window.compose.settings.lens.focal.hasFocus() and not window.top.search.hasFocus()


def test_escape_leaves_one_thing_a_press(window: MainWindow) -> None:
    window.going.choose_desk(COMPOSE)
    compose = window.compose
    window.workspace.notices.note("Something.")
    window.show_light()
    compose.pictures.look_at(compose.pictures.finished)
    compose.pick_wall(True)
    window.setFocus()
    for still in ("tool", "picture", "light", "notice"):
        assert (
            compose.frame.picking_wall,
            compose.pictures.currentWidget() is compose.pictures.finished,
        ) == (still == "tool", still in ("tool", "picture"))
        assert window.light.isHidden() == (still == "notice") and not window.notice_bar.isHidden()
        QTest.keyClick(window, Qt.Key.Key_Escape)
    assert window.notice_bar.isHidden()


def test_a_notice_moves_nothing(window: MainWindow) -> None:
    for desk in range(4):
        window.going.choose_desk(desk)
        QApplication.processEvents()
        before = [
            item.geometry() for item in (window.compose.frame, window.handover.table, window.walk_desk.plan)
        ]
        window.workspace.notices.trouble(
            "What was wanted could not be done, and this says why at some length."
        )
        QApplication.processEvents()
        assert not window.notice_bar.isHidden()
        assert [
            item.geometry() for item in (window.compose.frame, window.handover.table, window.walk_desk.plan)
        ] == before
        window.workspace.notices.clear()


def test_notes_go_by_themselves_and_trouble_stays(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    notices, bar = window.workspace.notices, window.notice_bar
    monkeypatch.setitem(SHOWN_MS, Weight.NOTE, 50)
    # Each of them is read.
    monkeypatch.setattr(notice_bar, "READ_S", 0.0)
    notices.note("It was so already.", Offer("Look at it", lambda: None))
    QTest.qWait(150)
    assert not bar.isHidden()
    notices.trouble("It could not be done.")
    QTest.qWait(150)
    assert not bar.isHidden()
    notices.note("It was so already.")
    assert not bar.isHidden()
    until(bar.isHidden, 5)


def test_what_is_added_is_chosen_in_sight_and_never_twice_unsaid(window: MainWindow) -> None:
    window.going.choose_desk(HAND_OVER)
    desk, bridge = window.handover, window.workspace.bridge

    def many(project):  # type: ignore[no-untyped-def]
        return add_shots(project, [start_values(project, STILL, "cam-01") for _ in range(30)])

    bridge.apply("x", many)
    window.workspace.state.select_many(("cam-01", "cam-20"), "cam-20")
    desk.refresh()
    desk.side.add(STILL)
    added = bridge.project.shots[-1]
    assert added.subject == "cam-20" and desk.table.chosen == [added.id]
    row = desk.table.rowCount() - 1
    until(
        lambda: (
            desk.table.viewport().rect().intersects(desk.table.visualRect(desk.table.model().index(row, 0)))
        ),
        5,
    )
    assert "In the list already: Waiting hall to the water" in window.notice_bar.sentence
    # It covers nothing that is pressed, and what is there already is chosen when nothing is added.
    bar, notice = desk.run_bar, window.notice_bar
    assert bar.isVisible() and notice.isVisible()
    top = bar.mapTo(window, bar.rect().topLeft()).y()
    assert notice.mapTo(window, notice.rect().bottomLeft()).y() < top
    desk.table.choose([])
    desk.side.add(STILL)
    chosen = {shot.subject for shot in bridge.project.shots if shot.id in desk.table.chosen}
    assert chosen == {"cam-01", "cam-20"}


def test_f2_renames_what_the_desk_is_about(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    asked: list[str] = []

    def answer(parent: QWidget, title: str, *rest: object, **more: object) -> tuple[str, bool]:
        asked.append(title)
        return "Otherwise", True

    monkeypatch.setattr("PySide6.QtWidgets.QInputDialog.getText", answer)
    window.going.choose_desk(WALK)
    until(lambda: window.walk_desk.line is not None)
    QTest.keyClick(window, Qt.Key.Key_F2)
    window.going.choose_desk(COMPOSE)
    window.workspace.state.select("cam-01")
    QTest.keyClick(window, Qt.Key.Key_F2)
    assert asked == ["Rename walk", "Rename camera"]
    assert window.workspace.bridge.project.camera("cam-01").name == "Otherwise"  # type: ignore[union-attr]


def test_the_first_page_offers_projects_the_demo_and_ones_own(window: MainWindow, demo_files: Path) -> None:
    done: list[object] = []
    recent = [demo_files / "larkwater.altana"]
    page = StartPage(window, recent, done.append, lambda: done.append("own"), lambda: done.append("demo"))
    QTest.keyClick(page.list, Qt.Key.Key_Return)
    press(
        StartPage(window, recent, done.append, lambda: done.append("own"), lambda: done.append("demo")).demo
    )
    press(StartPage(window, [], done.append, lambda: done.append("own"), lambda: done.append("demo")).own)
    assert done == [recent[0], "demo", "own"]


def test_a_room_is_stood_in_with_one_press(window: MainWindow) -> None:
    bridge, state = window.workspace.bridge, window.workspace.state
    first = window.compose.strip.first_rooms
    assert first.isHidden()
    bridge.replace_document(replace(bridge.project, cameras=(), shots=(), walks=()))
    assert not first.isHidden() and next(iter(first.buttons)) == "Waiting hall" and len(first.buttons) == 7
    press(first.buttons["Ticket office"])
    assert state.active is not None and state.active.name.startswith("Ticket office")
    # With a camera the buttons are gone; undone, they are back.
    assert first.isHidden()
    bridge.undo()
    assert not first.isHidden()
    # The same on the Model desk, where a press alone chooses; and by Find.
    group = window.model_desk.room_group
    names = [group.rooms.item(row).text() for row in range(group.rooms.count())]
    assert any(name.startswith("Café gallery  ·  Gallery storey") for name in names)
    group.rooms.setCurrentRow(next(row for row, name in enumerate(names) if name.startswith("Café gallery")))
    assert bridge.project.cameras == ()
    press(group.here)
    assert state.active is not None and state.active.name.startswith("Café gallery")
    assert window.desks.currentIndex() == COMPOSE
    entries = list(window.going.entries(window.table))
    best(entries, "stand in staff room")[0].run()
    assert state.active is not None and state.active.name.startswith("Staff room")


def test_ones_own_file_is_looked_at_before_anything_is_asked(window: MainWindow, tmp_path: Path) -> None:
    import trimesh

    model = tmp_path / "house.glb"
    trimesh.creation.box((8.0, 6.0, 3.0)).export(model)
    before = window.files.path
    window.files.open_path(model)
    until(lambda: window.files.path is None and window.workspace.studio.scene is not None, 60)
    assert window.files.project_path == (tmp_path / "house.altana").resolve()
    assert window.activity.saved.text() == "not saved yet"
    assert [item.name for item in tmp_path.iterdir()] == ["house.glb"]
    assert window.workspace.bridge.project.models[0].path == "house.glb"
    (tmp_path / "elsewhere").mkdir(exist_ok=True)
    assert window.files.save_to(tmp_path / "elsewhere" / "mine.altana")
    assert (tmp_path / "elsewhere" / "house.glb").is_file()
    assert before is not None
    window.files.open_path(before)
    until(lambda: window.workspace.studio.scene is not None and window.compose.plan.drawing is not None)
