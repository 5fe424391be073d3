"""One page with every key."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from altana.app.shell.commands.table import CommandTable
from altana.app.theme.widgets import button, label, scrolling

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


class ShortcutPage(QDialog):
    """One page with every key."""

    def __init__(self, parent: QWidget, table: CommandTable) -> None:
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
        rows = [(item.menu, table.keys_of(item.id), item.title) for item in table if table.keys_of(item.id)]
        rows += [
            ("In the " + place if place != "Fields" else "In number fields", keys, text)
            for place, keys, text in LOCAL_KEYS
        ]
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
        scroll = scrolling(inner)
        column.addWidget(scroll, 1)
        column.addWidget(
            button("Close", "", "Close this page (Escape)", self.accept), 0, Qt.AlignmentFlag.AlignRight
        )


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
