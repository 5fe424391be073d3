"""Every action of the window by name: menus, shortcuts, search and the page of shortcuts are all made from this table."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QDialog, QGridLayout, QHBoxLayout, QMainWindow, QMenu, QScrollArea, QVBoxLayout, QWidget

from altana.app.theme.widgets import button, label

MENUS = (
    "Project",
    "Edit",
    "Camera",
    "Standing",
    "Lens and format",
    "Verticals and cut-away",
    "Frame",
    "Plan and section",
    "Model",
    "Walk",
    "Help",
)

#: What the drawings and the Frame answer to while they have the focus; it stands on the page of shortcuts.
LOCAL_KEYS: tuple[tuple[str, str, str], ...] = (
    ("Frame", "1 … 6", "Turn, slide, lift, step, circle; rise (the picture within the lens)"),
    ("Frame", "Arrows, Shift+arrows", "Move the chosen way, larger"),
    ("Frame", ", and .", "Smaller and larger steps"),
    ("Frame", "X or Y held, or Shift", "Keep a drag to one axis"),
    ("Frame", "Wheel; Shift, Control", "Step forward and back; far, a little"),
    ("Frame", "Return", "Choose the object in the middle"),
    ("Frame", "Alt while circling", "Go round the point under the pointer"),
    ("Plan", "Arrows; Control+arrows", "Move the eye by 10 cm; move the aim (Shift: 1 m)"),
    ("Plan", "[ and ]", "Lower and raise the cut"),
    ("Plan", "+ − F", "Zoom, show the whole building"),
    ("Plan", "Shift while dragging the eye", "The eye alone, the aim stays"),
    ("Plan", "Control while dragging", "Nothing holds the pointer"),
    ("Plan", "Alt while pressing", "Take cameras only; press again for what lies below"),
    ("Plan", "Return while standing", "Stand in the middle of the sheet"),
    ("Section", "Arrows; Control+up, down", "Step and lift the eye; tilt"),
    ("Section", "+ − F", "Zoom, fit"),
    ("Fields", "Up, down; Shift", "Step the number; ten steps"),
)


@dataclass(frozen=True, slots=True)
class Action:
    """One thing that can be done: where it stands in the menus, its key, what it does."""

    name: str
    menu: str
    run: Callable[[], object]
    keys: str = ""
    tip: str = ""
    enabled: Callable[[], bool] = lambda: True


class ActionTable:
    """The actions of one window."""

    def __init__(self, window: QMainWindow) -> None:
        self._window = window
        self.actions: list[Action] = []
        self._made: dict[str, QAction] = {}

    def add(self, *actions: Action) -> None:
        """Put actions into the table, with their keys in force at once."""
        for action in actions:
            made = QAction(action.name, self._window)
            if action.keys:
                made.setShortcut(QKeySequence(action.keys))
            made.setToolTip(action.tip or action.name)
            made.triggered.connect(lambda _=False, run=action.run: run())
            # On the window itself the keys work in every desk and without an open menu.
            self._window.addAction(made)
            self.actions.append(action)
            self._made[action.name] = made

    def named(self, name: str) -> Action:
        """An action by its name.  Raises StopIteration."""
        return next(item for item in self.actions if item.name == name)

    def fill(self, menu: QMenu, names: tuple[str, ...] = MENUS) -> None:
        """Fill a menu with a submenu for each of these."""
        for name in names:
            part = menu.addMenu(name)
            self.fill_one(part, name)

    def fill_one(self, menu: QMenu, name: str) -> None:
        """Fill a menu with the actions that belong to it."""
        for action in self.actions:
            if action.menu == name:
                made = self._made[action.name]
                made.setEnabled(action.enabled())
                menu.addAction(made)
        # What cannot be done now is only greyed while the menu is open; a key that does nothing says so itself.
        menu.aboutToHide.connect(self._enable_all)

    def _enable_all(self) -> None:
        for made in self._made.values():
            made.setEnabled(True)


class ShortcutPage(QDialog):
    """One page with every key."""

    def __init__(self, parent: QWidget, table: ActionTable) -> None:
        super().__init__(parent)
        self.setWindowTitle("Keys")
        self.resize(820, 700)
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 16)
        column.addWidget(label("Keys", "title"))
        inner = QWidget()
        inner.setObjectName("chrome")
        both = QHBoxLayout(inner)
        both.setSpacing(30)
        rows = [
            (item.menu, QKeySequence(item.keys).toString(QKeySequence.SequenceFormat.NativeText), item.name)
            for item in table.actions
            if item.keys
        ]
        rows += [("In the " + place if place != "Fields" else "In number fields", keys, text) for place, keys, text in LOCAL_KEYS]
        groups: dict[str, list[tuple[str, str]]] = {}
        for group, keys, text in rows:
            groups.setdefault(group, []).append((keys, text))
        half = (len(rows) + 2 * len(groups)) / 2
        sides: tuple[list[str], list[str]] = ([], [])
        taken = 0
        for group, entries in groups.items():
            sides[0 if taken + len(entries) / 2 < half else 1].append(group)
            taken += len(entries) + 2
        for side in sides:
            both.addLayout(_key_column([(group, groups[group]) for group in side]), 1)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(inner)
        column.addWidget(scroll, 1)
        column.addWidget(button("Close", "", "Close this page (Escape)", self.accept), 0, Qt.AlignmentFlag.AlignRight)


def _key_column(groups: list[tuple[str, list[tuple[str, str]]]]) -> QGridLayout:
    grid = QGridLayout()
    grid.setHorizontalSpacing(14)
    grid.setVerticalSpacing(3)
    row = 0
    for group, entries in groups:
        if row:
            grid.setRowMinimumHeight(row, 9)
            row += 1
        grid.addWidget(label(group, "group"), row, 0, 1, 2)
        for keys, text in entries:
            row += 1
            grid.addWidget(label(keys), row, 0)
            told = label(text, "quiet")
            told.setWordWrap(True)
            grid.addWidget(told, row, 1)
        row += 1
    grid.setColumnStretch(1, 1)
    grid.setColumnMinimumWidth(0, 108)
    grid.setRowStretch(row, 1)
    return grid
