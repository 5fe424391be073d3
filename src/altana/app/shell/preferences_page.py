"""The page of preferences: chrome, Frame, files, standing, and the keys of every command."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeySequence
from PySide6.QtWidgets import (
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QKeySequenceEdit,
    QLineEdit,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from altana.app.shell.commands.table import Command, CommandTable
from altana.app.theme.field_buttons import name_buttons
from altana.app.theme.lengths import UNITS
from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import ChoiceBox, button, label, rule
from altana.app.workspace.preferences import AUTOSAVE_S, CHROMES, DECIMALS, SIZES, Preferences
from altana.core.ranges import FOCAL_MM, PASSES


class PreferencesPage(QDialog):
    """Shows the preferences, and takes each at once."""

    def __init__(self, parent: QWidget, preferences: Preferences, table: CommandTable) -> None:
        super().__init__(parent)
        self._preferences, self._table = preferences, table
        self.setWindowTitle("Preferences")
        self.resize(620, 640)
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 16)
        column.setSpacing(10)
        column.addWidget(label("Preferences", "title"))
        column.addLayout(self._values())
        column.addWidget(rule())
        column.addWidget(label("Keys", "group"))
        self._add_keys(column)
        row = QHBoxLayout()
        row.addWidget(button("All keys as usual", "", "Give up the keys that were changed", self._usual_keys))
        row.addStretch(1)
        row.addWidget(button("Close", "", "Close this page (Escape)", self.accept))
        column.addLayout(row)

    def _values(self) -> QGridLayout:
        self._choices()
        self._numbers()
        held = self._preferences
        self.folder = QLineEdit(held.projects_folder)
        self.folder.setAccessibleName("Folder of projects")
        self.folder.setPlaceholderText("beside the model")
        self.folder.setToolTip("Where a project that was not saved yet is offered to be saved")
        self.folder.editingFinished.connect(lambda: setattr(held, "projects_folder", self.folder.text()))
        grid = QGridLayout()
        grid.setHorizontalSpacing(14)
        grid.setVerticalSpacing(8)
        grid.setColumnStretch(1, 1)
        grid.setColumnStretch(3, 1)
        fields = (
            ("Window", self.chrome),
            ("Size of everything", self.everything),
            ("Frame at rest", self.passes),
            ("Keep changes after", self.autosave),
            ("Folder of projects", self.folder),
            ("Eye above floor", self.eye),
            ("Lens inside", self.inside),
            ("Lens outside", self.outside),
            ("Lengths in", self.unit),
            ("Decimals", self.decimals),
        )
        for number, (text, widget) in enumerate(fields):
            # Two columns: what the window is like, and what cameras and numbers are.
            row, column = (number, 0) if number < 5 else (number - 5, 2)
            grid.addWidget(label(text, "quiet"), row, column)
            grid.addWidget(widget, row, column + 1)
        return grid

    def _choices(self) -> None:
        held = self._preferences
        self.chrome, self.unit, self.decimals = ChoiceBox(), ChoiceBox(), ChoiceBox()
        for box, name, text, tip, choices in (
            (self.chrome, "chrome", "Window", "Light or dark; pictures stand on neutral grey either way", CHROMES),
            (self.unit, "unit", "Lengths in", "The unit of lengths in fields, plans and sections; any unit can be typed anywhere", UNITS),
            (self.decimals, "decimals", "Decimals", "What parts the decimals of a number; both signs can be typed anywhere", DECIMALS),
        ):  # fmt: skip
            box.setAccessibleName(text)
            box.setToolTip(tip)
            box.addItems([choice[:1].upper() + choice[1:] for choice in choices])
            box.setCurrentIndex(choices.index(getattr(held, name)))
            box.activated.connect(partial(self._chosen_of, name, choices))

    def _chosen_of(self, name: str, choices: tuple[str, ...], index: int) -> None:
        setattr(self._preferences, name, choices[index])

    def _numbers(self) -> None:
        held = self._preferences
        self.passes = NumberField(
            "Frame at rest", "How often the Frame is drawn over itself while nothing moves: smoother, and slower; from the next start",
            "passes", 0, 1, PASSES.low, 64,
        )  # fmt: skip
        tip = "How large everything is, letters first: 100 to 200 %; from the next start"
        self.everything = NumberField("Size of everything", tip, "%", 0, 25, *SIZES)
        tip = "So long after a change it is kept for the case of a crash"
        self.autosave = NumberField("Keep changes after", tip, "s", 0, 1, *AUTOSAVE_S)
        tip = "How high a new camera stands, until another height is chosen beside it"
        self.eye = NumberField("Eye above floor", tip, "m", 2, 0.05, 0.05, 20.0)
        self.inside, self.outside = (
            NumberField(
                f"Lens {side}",
                f"Focal length of a new camera {side}",
                "mm",
                1,
                1.0,
                FOCAL_MM.low,
                FOCAL_MM.high,
            )
            for side in ("inside", "outside")
        )
        for field, name in (
            (self.passes, "frame_passes"),
            (self.everything, "size_percent"),
            (self.autosave, "autosave_s"),
            (self.eye, "eye_m"),
            (self.inside, "focal_inside_mm"),
            (self.outside, "focal_outside_mm"),
        ):
            field.show_value(float(getattr(held, name)))
            field.changed.connect(lambda number, name=name: setattr(held, name, number))

    # ------------------------------------------------------------------ keys

    def _add_keys(self, column: QVBoxLayout) -> None:
        self.filter = QLineEdit()
        self.filter.setAccessibleName("Find a command")
        self.filter.setPlaceholderText("Find a command")
        self.filter.setToolTip("Part of its name, menu or keys")
        self.filter.textChanged.connect(self._show_commands)
        self.commands = QTreeWidget()
        self.commands.setAccessibleName("Commands and their keys")
        self.commands.setHeaderLabels(["Command", "Menu", "Keys"])
        self.commands.setRootIsDecorated(False)
        self.commands.setColumnWidth(0, 290)
        self.commands.setColumnWidth(1, 140)
        self.commands.currentItemChanged.connect(self._show_chosen)
        self.keys = QKeySequenceEdit()
        self.keys.setAccessibleName("Keys of the chosen command")
        self.keys.setMaximumSequenceLength(1)
        self.keys.setClearButtonEnabled(True)
        name_buttons(self.keys, "Empty the field")
        for field in self.keys.findChildren(QLineEdit):
            field.setAccessibleName(self.keys.accessibleName() or "Keys")
        self.keys.editingFinished.connect(self._take)
        self.told = label("Choose a command, press here and press the keys it is to have.", "quiet")
        self.told.setWordWrap(True)
        for part in (self.filter, self.commands, self.keys, self.told):
            column.addWidget(part)
        self._show_commands()

    def _show_commands(self, *_: object) -> None:
        held, wanted = self._chosen, self.filter.text().strip().lower()
        self.commands.clear()
        for command in self._table:
            keys = self._table.keys_of(command.id)
            if wanted in f"{command.title} {command.menu} {keys}".lower():
                item = QTreeWidgetItem([command.title, command.menu, keys])
                item.setData(0, Qt.ItemDataRole.UserRole, command.id)
                self.commands.addTopLevelItem(item)
                if held is not None and held.id == command.id:
                    self.commands.setCurrentItem(item)

    @property
    def _chosen(self) -> Command | None:
        item = self.commands.currentItem()
        return self._table.commands[item.data(0, Qt.ItemDataRole.UserRole)] if item is not None else None

    def _show_chosen(self, *_: object) -> None:
        command = self._chosen
        self.keys.setEnabled(command is not None)
        if command is not None:
            first = self._table.keys_of(command.id).split(",")[0].strip()
            self.keys.setKeySequence(QKeySequence(first))

    def _take(self) -> None:
        command = self._chosen
        if command is None:
            return
        keys = self.keys.keySequence().toString(QKeySequence.SequenceFormat.PortableText)
        others = [item.title for item in self._table.with_keys(keys) if item.id != command.id]
        if others:
            self.told.setText(
                f"“{keys}” is the key of {others[0]}. Nothing was changed; choose another, or change that one first."
            )
            self._show_chosen()
            return
        self._preferences.set_keys(command.id, keys, command.keys)
        self._table.set_keys(command.id, keys)
        self.told.setText(f"{command.title}: {keys or 'no key'}.")
        self._show_commands()

    def _usual_keys(self) -> None:
        self._preferences.usual_keys()
        for command in self._table:
            self._table.set_keys(command.id, command.keys)
        self.told.setText("All keys are as usual.")
        self._show_commands()
