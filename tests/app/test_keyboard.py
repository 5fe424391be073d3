"""The five main jobs without a mouse: every key goes where the focus is, as from a keyboard."""

from __future__ import annotations

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QPushButton, QTableWidget, QWidget

from altana.app.shell.window import COMPOSE, HAND_OVER, WALK, MainWindow
from altana.app.theme.number_field import NumberField
from altana.core.project import Camera
from tests.app.conftest import until
from tests.conftest import picture_at

CONTROL, SHIFT, NONE = (
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.NoModifier,
)


class Keyboard:
    """Presses keys for whatever has the focus in the window in front."""

    def __init__(self, window: MainWindow) -> None:
        self.window = window

    @property
    def focus(self) -> QWidget:
        """Where keys go."""
        front = QApplication.activeModalWidget() or self.window
        return front.focusWidget() or front

    def key(self, key: Qt.Key, modifier: Qt.KeyboardModifier = NONE) -> None:
        QTest.keyClick(self.focus, key, modifier)

    def type(self, text: str) -> None:
        QTest.keyClicks(self.focus, text)

    def find(self, text: str) -> None:
        """Find something, and take the first answer."""
        self.key(Qt.Key.Key_F, CONTROL)
        self.type(text)
        self.key(Qt.Key.Key_Return)

    def tab_to(self, name: str, kind: type[QWidget] = QWidget, most: int = 160) -> QWidget:
        """Go from control to control until one of this name, and of this kind, has the focus."""
        for _ in range(most):
            self.key(Qt.Key.Key_Tab)
            if not isinstance(self.focus, kind):
                continue
            if self.focus.accessibleName() == name or (
                isinstance(self.focus, QPushButton) and self.focus.text() == name
            ):
                return self.focus
        raise AssertionError(f"no way to “{name}” by the Tab key")

    def enter(self, name: str, text: str) -> None:
        """A value into the field of this name."""
        field = self.tab_to(name)
        assert isinstance(field, NumberField)
        self.key(Qt.Key.Key_A, CONTROL)
        self.type(text)
        self.key(Qt.Key.Key_Return)


@pytest.fixture
def keyboard(window: MainWindow) -> Keyboard:
    window.activateWindow()
    window.going.choose_desk(COMPOSE)
    window.compose.frame.setFocus()
    return Keyboard(window)


def active(window: MainWindow) -> Camera:
    camera = window.workspace.state.active
    assert camera is not None
    return camera


def made(folder: Path, pattern: str) -> list[Path]:
    return [path for path in folder.rglob(pattern) if not path.name.startswith(".")]


def test_stand_a_camera_and_make_a_still(window: MainWindow, keyboard: Keyboard) -> None:
    before = len(window.workspace.bridge.project.cameras)
    keyboard.find("stand in ticket office")
    assert len(window.workspace.bridge.project.cameras) == before + 1
    camera = active(window)
    assert camera.name.startswith("Ticket office")
    # Or on the plan: C, and Return in the middle of what it shows; arrows move the eye.
    window.compose.plan.fit_to([(0, 0), (14, 18)])
    keyboard.key(Qt.Key.Key_C)
    keyboard.key(Qt.Key.Key_Return)
    assert len(window.workspace.bridge.project.cameras) == before + 2
    eye = active(window).eye
    keyboard.key(Qt.Key.Key_Right)
    until(lambda: active(window).eye[0] > eye[0], 5)
    keyboard.enter("Eye above floor", "1.2")
    assert active(window).eye[2] == pytest.approx(1.2, abs=0.02)
    folder = window.files.out_folder("stills")
    known = set(made(folder, "*.png"))
    keyboard.key(Qt.Key.Key_E, CONTROL)
    until(lambda: QApplication.activeModalWidget() is window.making.sheet, 5)
    keyboard.enter("Width", "160")
    keyboard.tab_to(window.making.sheet.go.text())
    keyboard.key(Qt.Key.Key_Space)
    until(lambda: set(made(folder, "*.png")) - known and not window.making.work.running, 90)
    (still,) = set(made(folder, "*.png")) - known
    assert picture_at(still).shape[:2] == (90, 160)


def test_plumb(window: MainWindow, keyboard: Keyboard) -> None:
    keyboard.find("Tower from the forecourt")
    assert active(window).name == "Tower from the forecourt"
    keyboard.enter("Tilt", "12")
    assert active(window).tilt_deg == pytest.approx(12.0) or active(window).kept_plumb
    keyboard.find("Plumb")
    assert active(window).tilt_deg == 0.0 and active(window).view().lean_deg() == 0.0
    keyboard.key(Qt.Key.Key_Z, CONTROL)
    keyboard.find("Plumb")
    assert active(window).rise_mm > 0.0


def test_bound(window: MainWindow, keyboard: Keyboard) -> None:
    keyboard.find("Forecourt")
    window.compose.frame.setFocus()
    keyboard.key(Qt.Key.Key_D)
    assert active(window).near_m is not None
    group = window.compose.settings.groups["cut"]
    if group.folded:
        keyboard.tab_to("Cut-away, fold or unfold")
        keyboard.key(Qt.Key.Key_Space)
    keyboard.enter("Near", "8'")
    assert active(window).near_m == pytest.approx(2.4384)
    window.compose.frame.setFocus()
    keyboard.key(Qt.Key.Key_D)
    assert active(window).near_m is None
    keyboard.find("stand in ticket office")
    window.compose.frame.setFocus()
    keyboard.key(Qt.Key.Key_Q)
    keyboard.key(Qt.Key.Key_Y)
    assert active(window).near_m is not None or active(window).wall_cuts


@pytest.mark.slow
def test_a_walk_and_its_film(window: MainWindow, keyboard: Keyboard) -> None:
    window.workspace.state.select_many(("cam-01", "cam-02"), "cam-02")
    keyboard.find("walk the chosen cameras")
    assert window.going.desk == WALK
    walk = window.workspace.state.walk
    assert walk is not None and len(walk.keys) == 2
    keyboard.find("look at the building all along")
    assert window.workspace.state.walk.looks[0].name == "the building"  # type: ignore[union-attr]
    keyboard.enter("Film frames", "6")
    assert window.workspace.state.walk.seconds == pytest.approx(0.24)  # type: ignore[union-attr]
    keyboard.key(Qt.Key.Key_Z, CONTROL)
    keyboard.enter("Length", "0.2")
    folder = window.files.out_folder("films")
    known = set(made(folder, "*.mp4"))
    keyboard.find("Make film")
    until(lambda: QApplication.activeModalWidget() is window.making.sheet, 5)
    keyboard.enter("Width", "160")
    keyboard.tab_to(window.making.sheet.go.text())
    keyboard.key(Qt.Key.Key_Space)
    until(lambda: set(made(folder, "*.mp4")) - known and not window.making.work.running, 90)


@pytest.mark.slow
def test_the_list_and_handing_over(window: MainWindow, keyboard: Keyboard) -> None:
    window.workspace.state.select_many(("cam-01",), "cam-01")
    keyboard.find("add the chosen cameras to the shot list")
    keyboard.key(Qt.Key.Key_4, CONTROL)
    assert window.going.desk == HAND_OVER
    table = window.handover.table
    keyboard.tab_to("Shot list", QTableWidget)
    keyboard.key(Qt.Key.Key_Home)
    first = table.rows[0].shot
    on = first.on
    keyboard.key(Qt.Key.Key_Space)
    assert next(s for s in window.workspace.bridge.project.shots if s.id == first.id).on is not on
    keyboard.key(Qt.Key.Key_Space)
    keyboard.key(Qt.Key.Key_A, CONTROL)
    assert len(table.chosen) == len(table.rows)
    keyboard.key(Qt.Key.Key_Down)
    keyboard.key(Qt.Key.Key_Up)
    assert table.chosen == [first.id]
    keyboard.enter("Width", "96")
    keyboard.tab_to("Test pictures")
    keyboard.key(Qt.Key.Key_Space)
    until(lambda: window.handover.run_bar.tests.running, 10)
    until(lambda: not window.handover.run_bar.tests.running, 90)
    keyboard.find("results: everything that was made")
    assert window.handover.results.isVisible() and window.handover.results.made


def test_a_number_entered_is_chosen_whole_and_typed_over(window: MainWindow, keyboard: Keyboard) -> None:
    keyboard.enter("Eye above floor", "1.3")
    # Still in the field: letters are keys of the desk now, but Control and A is the field's.
    keyboard.key(Qt.Key.Key_End)
    keyboard.key(Qt.Key.Key_A, CONTROL)
    keyboard.type("1.2")
    keyboard.key(Qt.Key.Key_Return)
    assert active(window).eye[2] == pytest.approx(1.2, abs=0.02)
    assert len(window.workspace.state.selected) == 1
