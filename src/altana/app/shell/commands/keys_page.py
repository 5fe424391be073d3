"""One page with every key."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from altana.app.shell.commands.table import CommandTable
from altana.app.theme.widgets import button, label, scrolling
from altana.app.theme.words import tr

#: What the drawings and the Frame answer to while they have the focus; it stands on the page of shortcuts.
LOCAL_KEYS: tuple[tuple[str, str, str], ...] = (
    (tr("Frame"), "1 … 6", tr("Turn, slide, lift, step, circle; rise (the picture within the lens)")),
    (tr("Frame"), tr("Arrows, Shift+arrows"), tr("Move the chosen way, larger")),
    (tr("Frame"), tr(", and ."), tr("Smaller and larger steps")),
    (tr("Frame"), tr("X or Y held, or Shift"), tr("Keep a drag to one axis")),
    (tr("Frame"), tr("Wheel; Shift, Control"), tr("Step forward and back; far, a little")),
    (tr("Frame"), "Return", tr("Choose the object in the middle")),
    (tr("Frame"), tr("Alt while circling"), tr("Go round the point under the pointer")),
    (tr("Plan"), tr("Arrows; Control+arrows"), tr("Move the eye by 10 cm; move the aim (Shift: 1 m)")),
    (tr("Plan"), tr("[ and ]"), tr("Lower and raise the cut")),
    (tr("Plan"), "+ − F", tr("Zoom, show the whole building")),
    (tr("Plan"), tr("Shift while dragging the eye"), tr("The eye alone, the aim stays")),
    (tr("Plan"), tr("Control while dragging"), tr("Nothing holds the pointer")),
    (tr("Plan"), tr("Alt while pressing"), tr("Take cameras only; press again for what lies below")),
    (tr("Plan"), tr("Return while standing"), tr("Stand in the middle of the sheet")),
    (tr("Section"), tr("Arrows; Control+up, down"), tr("Step and lift the eye; tilt")),
    (tr("Section"), "+ − F", tr("Zoom, fit")),
    (tr("Fields"), tr("Up, down; Shift"), tr("Step the number; ten steps")),
)


class ShortcutPage(QDialog):
    """One page with every key."""

    def __init__(self, parent: QWidget, table: CommandTable) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Keys"))
        self.resize(820, 700)
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 16)
        column.addWidget(label(tr("Keys"), "title"))
        inner = QWidget()
        inner.setObjectName("chrome")
        both = QHBoxLayout(inner)
        both.setSpacing(30)
        rows = [(item.menu, table.keys_of(item.id), item.title) for item in table if table.keys_of(item.id)]
        rows += [
            (tr("In the ") + place if place != tr("Fields") else tr("In number fields"), keys, text)
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
            button(tr("Close"), "", tr("Close this page (Escape)"), self.accept),
            0,
            Qt.AlignmentFlag.AlignRight,
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
            words = label(text, "quiet")
            words.setWordWrap(True)
            grid.addWidget(words, row, 1)
        row += 1
    grid.setColumnStretch(1, 1)
    grid.setColumnMinimumWidth(0, 108)
    grid.setRowStretch(row, 1)
    return grid
