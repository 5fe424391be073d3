"""The files of rows: kind, name, folder."""

from __future__ import annotations

from PySide6.QtWidgets import QLineEdit

from altana.app.hand_over.chosen_rows import ChosenRows
from altana.app.theme.widgets import ChoiceBox, Group, label
from altana.app.theme.words import spoken, tr
from altana.core.file_kinds import FILES, KINDS
from altana.core.naming import FIELDS
from altana.core.project import Shot
from altana.jobs.shotlist import Row


class FileGroup:
    """What is written, under which name."""

    def __init__(self, chosen: ChosenRows) -> None:
        self._chosen = chosen
        self.group = group = Group(tr("File"))
        self.file = ChoiceBox()
        self.file.setAccessibleName(tr("Kind of file"))
        self.file.setToolTip(tr("Kind of file"))
        self.file.activated.connect(
            lambda index: self._chosen.set(tr("Kind of file"), file=self.file.itemData(index))
        )
        group.add_wide(self.file)
        self.pattern = QLineEdit()
        self.pattern.setAccessibleName(tr("Name"))
        self.pattern.setToolTip(
            tr("Name of the file. Fields: ") + ", ".join(f"{{{name}}}" for name in FIELDS)
        )
        self.pattern.editingFinished.connect(
            lambda: self._typed(self.pattern, tr("Name of the file"), "pattern")
        )
        # Patterns are long: in half the width their beginning would be out of sight.
        named = label(tr("Name"), "quiet")
        named.setBuddy(self.pattern)
        group.add_wide(named)
        group.add_wide(self.pattern)
        self.folder = QLineEdit()
        self.folder.setAccessibleName(tr("Folder"))
        self.folder.setToolTip(tr("Folder below the delivery; the same fields as in the name"))
        self.folder.editingFinished.connect(
            lambda: self._typed(self.folder, tr("Folder of the file"), "folder")
        )
        group.add_field(tr("Folder"), self.folder)
        self.example = label("", "quiet")
        self.example.setWordWrap(True)
        group.add_wide(self.example)

    def _typed(self, field: QLineEdit, text: str, name: str) -> None:
        if field.isModified():
            field.setModified(False)
            self._chosen.set(text, **{name: field.text().strip()})

    def show(self, rows: tuple[Row, ...], shots: list[Shot]) -> None:
        """Follow the chosen rows."""
        first = shots[0]
        same = len({shot.kind for shot in shots}) == 1
        names = FILES[first.kind] if same else ()
        if names != tuple(self.file.itemData(index) for index in range(self.file.count())):
            self.file.clear()
            for name in names:
                self.file.addItem(spoken(KINDS[name].words), name)
        self.file.setEnabled(same)
        self.file.setCurrentIndex(
            names.index(first.file) if same and len({shot.file for shot in shots}) == 1 else -1
        )
        _text(self.pattern, first.pattern, len({shot.pattern for shot in shots}) == 1)
        _text(self.folder, first.folder, len({shot.folder for shot in shots}) == 1)
        becomes = (
            tr("becomes {file}", file=rows[0].file)
            if len(rows) == 1
            else tr("{file} and {rows} more", file=rows[0].file, rows=len(rows) - 1)
        )
        self.example.setText(
            " ".join(
                part
                for part in (spoken(rows[0].wrong) or becomes, spoken(rows[0].note) if len(rows) == 1 else "")
                if part
            )
        )
        self.group.show_figure(first.file if len(shots) == 1 else "")


def _text(field: QLineEdit, value: str, same: bool) -> None:
    if not field.isModified():
        field.setText(value if same else "")
        field.setCursorPosition(0)
        field.setPlaceholderText("" if same else tr("varies"))
