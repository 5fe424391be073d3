"""A hand at the mouse and the keys of the real window: it presses what it sees, by its name, and counts what
it does.

The window lives in the thread that it belongs to, as ever; what the hand does is told in another one, so that
menus and sheets may wait for the next press as they do for a person's.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QEvent, QObject, QPoint, QPointF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractItemView,
    QApplication,
    QCheckBox,
    QLabel,
    QLineEdit,
    QMenu,
    QScrollArea,
    QWidget,
)

from altana.app.shell.window import MainWindow
from tests.app.conftest import until

NONE, SHIFT, CONTROL, ALT = (
    Qt.KeyboardModifier.NoModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.AltModifier,
)
LEFT = Qt.MouseButton.LeftButton
#: How long the window is given after each press, seconds.
REST_S = 0.12
#: How long a view may take to come up, seconds.
COMES_S = 5.0


class Lost(AssertionError):
    """Nothing of that name is to be seen."""


class _Gate(QObject):
    wanted = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.wanted.connect(lambda run: run(), Qt.ConnectionType.QueuedConnection)


def plain(text: str) -> str:
    """A label as it is said."""
    return text.replace("&", "").replace("▾", "").replace("…", "").split("\t")[0].strip()


def names_of(widget: QWidget) -> list[str]:
    """What a control is called: its name for screen readers, and what stands on it."""
    shown = [widget.accessibleName()]
    for name in ("text", "placeholderText"):
        told = getattr(widget, name, None)
        if callable(told) and not (name == "text" and isinstance(widget, QLineEdit)):
            shown.append(str(told()))
    return [plain(item) for item in shown if item]


class Hand:
    """``actions`` : presses, drags and typed values so far.  ``waits`` : what was waited for, and how many
    seconds; ``told`` : how long the window had said that it would take."""

    def __init__(self, window: MainWindow) -> None:
        self.window = window
        self.actions = 0
        self.waits: dict[str, float] = {}
        self.told: dict[str, str] = {}
        self._gate = _Gate()

    def perform(self, script: Callable[[], None], seconds: float = 300.0) -> None:
        """Do what a script tells, while the window lives."""
        failed: list[BaseException] = []

        def run() -> None:
            try:
                script()
            except BaseException as error:  # noqa: BLE001 - raised again in the test's own thread
                failed.append(error)
                # Whatever was open would hold the window for ever.
                self._gate.wanted.emit(self._close_all)

        thread = threading.Thread(target=run, daemon=True)
        thread.start()
        until(lambda: not thread.is_alive(), seconds)
        if failed:
            raise failed[0]

    @staticmethod
    def _close_all() -> None:
        for front in (QApplication.activePopupWidget(), QApplication.activeModalWidget()):
            if front is not None:
                front.close()

    def see(self, look: Callable[[], Any]) -> Any:
        """What the window's own thread finds."""
        answers: list[Any] = []
        failed: list[BaseException] = []
        done = threading.Event()

        def run() -> None:
            try:
                answers.append(look())
            except BaseException as error:  # noqa: BLE001 - raised again in the hand's own thread
                failed.append(error)
            done.set()

        self._gate.wanted.emit(run)
        assert done.wait(300), "the window stands still"
        if failed:
            raise failed[0]
        return answers[0]

    def rest(self, seconds: float = REST_S) -> None:
        """Look at the window for a moment."""
        self.see(lambda: None)
        time.sleep(seconds)
        self.see(lambda: None)

    def wait(
        self, condition: Callable[[], object], what: str, seconds: float = 900.0, told: str = ""
    ) -> None:
        """Wait for something, and note how long it took, beside what the window had ``told``."""
        if told:
            self.told[what] = told
        began = time.monotonic()
        while not self.see(condition):
            assert time.monotonic() - began < seconds, f"waited {seconds} s for {what}"
            time.sleep(0.05)
        self.waits[what] = time.monotonic() - began

    def _act(self, do: Callable[[], object], count: int = 1) -> None:
        self.actions += count
        failed: list[BaseException] = []
        done, before = threading.Event(), self.see(self._front)

        def run() -> None:
            try:
                front = QApplication.activeWindow()
                # Without a window manager nobody gives the keyboard back when a sheet closes.
                if (front is None or not front.isVisible()) and QApplication.activePopupWidget() is None:
                    self.window.activateWindow()
                    QApplication.processEvents()
                do()
            except BaseException as error:  # noqa: BLE001 - raised again in the hand's own thread
                failed.append(error)
            done.set()

        self._gate.wanted.emit(run)
        # A press that opens a menu or a sheet comes back when that is closed, so nobody waits for it then.
        while not done.wait(0.02) and self.see(self._front) in (None, before):
            pass
        self.rest()
        if failed:
            raise failed[0]

    # ---------------------------------------------------------------- what is seen

    @staticmethod
    def _front() -> QWidget | None:
        return QApplication.activePopupWidget() or QApplication.activeModalWidget()

    def find(self, name: str, kind: type[QWidget] = QWidget) -> Any:
        """The control of this name in what lies in front; labels only where nothing else is called so."""

        def look() -> QWidget:
            widgets = [
                widget
                for widget in (self._front() or self.window).findChildren(QWidget)
                if isinstance(widget, kind) and widget.isVisible() and plain(name) in names_of(widget)
            ]
            widgets = [widget for widget in widgets if not isinstance(widget, QLabel)] or widgets
            if not widgets:
                raise Lost(f"{name!r} is not to be seen")
            return widgets[0]

        return self.see(look)

    @staticmethod
    def _to_sight(widget: QWidget) -> None:
        parent = widget.parentWidget()
        while parent is not None:
            if isinstance(parent, QScrollArea):
                parent.ensureWidgetVisible(widget)
            parent = parent.parentWidget()
        QApplication.processEvents()

    # ---------------------------------------------------------------- what is done

    def press(self, what: str | QWidget) -> None:
        """Press a control."""
        widget = self.find(what) if isinstance(what, str) else what

        def do() -> None:
            self._to_sight(widget)
            assert widget.isEnabled(), f"{what} cannot be pressed"
            seen = widget.visibleRegion().boundingRect()
            place = QPoint(12, seen.center().y()) if isinstance(widget, QCheckBox) else seen.center()
            QTest.mouseClick(widget, LEFT, NONE, place)

        self._act(do)

    def at(self, widget: QWidget, place: QPointF, modifier: Qt.KeyboardModifier = NONE) -> None:
        """Press at a place of a view."""
        began = time.monotonic()
        # As a person does it waits for a view that is just coming up.
        while not self.see(lambda: widget.visibleRegion().contains(place.toPoint())):
            assert time.monotonic() - began < COMES_S, f"{place} is out of sight"
            self.rest()
        self._act(lambda: QTest.mouseClick(widget, LEFT, modifier, place.toPoint()))

    def drag(
        self, widget: QWidget, start: QPointF, to: QPointF, modifier: Qt.KeyboardModifier = NONE
    ) -> None:
        """Press, move and let go."""
        for place in (start, to):
            assert self.see(lambda place=place: widget.rect().contains(place.toPoint())), (
                f"{place} is out of sight"
            )

        def do() -> None:
            _move(widget, start, Qt.MouseButton.NoButton, modifier)
            QTest.mousePress(widget, LEFT, modifier, start.toPoint())
            for step in range(1, 6):
                _move(widget, start + (to - start) * (step / 5), LEFT, modifier)
                QApplication.processEvents()
            QTest.mouseRelease(widget, LEFT, modifier, to.toPoint())

        self._act(do)

    def choose(self, button: str | QWidget, entry: str) -> None:
        """Open a menu or a drop-down, and take an entry."""
        self.press(button)

        def look() -> tuple[QWidget, QPoint]:
            popup = QApplication.activePopupWidget()
            if isinstance(popup, QMenu):
                for action in popup.actions():
                    if plain(action.text()) == plain(entry) and action.isEnabled():
                        return popup, popup.actionGeometry(action).center()
                raise Lost(f"{entry!r} is not among {[plain(item.text()) for item in popup.actions()]}")
            views = popup.findChildren(QAbstractItemView) if popup is not None else []
            for view in views:
                model = view.model()
                for row in range(model.rowCount()):
                    index = model.index(row, 0)
                    if plain(str(index.data())) == plain(entry):
                        view.scrollTo(index)
                        return view.viewport(), view.visualRect(index).center()
            raise Lost(f"{entry!r} is in no list that is open")

        widget, place = self.see(look)
        # A list that opens takes no release for a while, so that the press that opened it chooses nothing.
        time.sleep(0.25)

        def do() -> None:
            _move(widget, QPointF(place), Qt.MouseButton.NoButton, NONE)
            QTest.mouseClick(widget, LEFT, NONE, place)

        self._act(do)

    def enter(self, name: str, text: str) -> None:
        """Type a value into a field, and Return."""
        field = self.find(name, QLineEdit)

        def do() -> None:
            self._to_sight(field)
            assert field.isEnabled(), f"{name} cannot be typed into"
            QTest.mouseClick(field, LEFT, NONE, QPoint(20, field.height() // 2))
            QTest.keyClick(field, Qt.Key.Key_A, CONTROL)
            QTest.keyClicks(field, text)
            QTest.keyClick(field, Qt.Key.Key_Return)

        self._act(do)

    def key(self, key: Qt.Key, modifier: Qt.KeyboardModifier = NONE) -> None:
        """Press a key, wherever keys go."""

        def do() -> None:
            front = self._front() or self.window
            QTest.keyClick(front.focusWidget() or front, key, modifier)

        self._act(do)

    def write(self, text: str, down: int = 0) -> None:
        """Type a text wherever keys go, and Return: one value.  down : presses of the arrow key before, each
        an action."""

        def do() -> None:
            front = self._front() or self.window
            target = front.focusWidget() or front
            for letter in text:
                # The test library types plain letters only.
                QApplication.sendEvent(target, QKeyEvent(QEvent.Type.KeyPress, 0, NONE, letter))
            for _ in range(down):
                QTest.keyClick(target, Qt.Key.Key_Down)
            QTest.keyClick(target, Qt.Key.Key_Return)

        self._act(do, 1 + down)

    def search(self, text: str, nth: int = 0) -> None:
        """Find something, and take the first answer, or one below it."""
        self.key(Qt.Key.Key_F, CONTROL)
        self.write(text, nth)


def _move(widget: QWidget, place: QPointF, button: Qt.MouseButton, modifier: Qt.KeyboardModifier) -> None:
    at = QPointF(place.toPoint())
    event = QMouseEvent(
        QEvent.Type.MouseMove,
        at,
        QPointF(widget.mapToGlobal(at.toPoint())),
        Qt.MouseButton.NoButton,
        button,
        modifier,
    )
    QApplication.sendEvent(widget, event)
