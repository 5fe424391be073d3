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
from altana.app.theme.words import LANGUAGES, capital, spoken, tr
from altana.app.workspace.preferences import (
    AUTOSAVE_S,
    CHROMES,
    DARK,
    DECIMALS,
    DESKTOP,
    LIGHT,
    SIZES,
    Preferences,
)
from altana.core.ranges import FOCAL_MM, PASSES

#: What light and dark are called of a window; light is also what falls into a room.
CHROME_WORDS = {LIGHT: tr("light", "window"), DARK: tr("dark", "window")}


class PreferencesPage(QDialog):
    """Shows the preferences, and takes each at once."""

    def __init__(self, parent: QWidget, preferences: Preferences, table: CommandTable) -> None:
        super().__init__(parent)
        self._preferences, self._table = preferences, table
        self.setWindowTitle(tr("Preferences"))
        self.resize(620, 640)
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 16)
        column.setSpacing(10)
        column.addWidget(label(tr("Preferences"), "title"))
        column.addLayout(self._values())
        column.addWidget(rule())
        column.addWidget(label(tr("Keys"), "group"))
        self._add_keys(column)
        row = QHBoxLayout()
        row.addWidget(
            button(tr("All keys as usual"), "", tr("Give up the keys that were changed"), self._usual_keys)
        )
        row.addStretch(1)
        row.addWidget(button(tr("Close"), "", tr("Close this page (Escape)"), self.accept))
        column.addLayout(row)

    def _values(self) -> QGridLayout:
        self._choices()
        self._numbers()
        preferences = self._preferences
        self.folder = QLineEdit(preferences.projects_folder)
        self.folder.setAccessibleName(tr("Folder of projects"))
        self.folder.setPlaceholderText(tr("beside the model"))
        self.folder.setToolTip(tr("Where a project that was not saved yet is offered to be saved"))
        self.folder.editingFinished.connect(
            lambda: setattr(preferences, "projects_folder", self.folder.text())
        )
        grid = QGridLayout()
        grid.setHorizontalSpacing(14)
        grid.setVerticalSpacing(8)
        grid.setColumnStretch(1, 1)
        grid.setColumnStretch(3, 1)
        fields = (
            (tr("Window"), self.chrome),
            (tr("Language"), self.language),
            (tr("Size of everything"), self.everything),
            (tr("Frame at rest"), self.passes),
            (tr("Keep changes after"), self.autosave),
            (tr("Folder of projects"), self.folder),
            (tr("Eye above floor"), self.eye),
            (tr("Lens inside"), self.inside),
            (tr("Lens outside"), self.outside),
            (tr("Lengths in"), self.unit),
            (tr("Decimals"), self.decimals),
        )
        for number, (text, widget) in enumerate(fields):
            # Two columns: what the window is like, and what cameras and numbers are.
            row, column = (number, 0) if number < 6 else (number - 6, 2)
            grid.addWidget(label(text, "quiet"), row, column)
            grid.addWidget(widget, row, column + 1)
        return grid

    def _choices(self) -> None:
        preferences = self._preferences
        self.chrome, self.unit, self.decimals = ChoiceBox(), ChoiceBox(), ChoiceBox()
        for box, name, text, tip, choices in (
            (self.chrome, "chrome", tr("Window"), tr("Light or dark; pictures stand on neutral grey either way"), CHROMES),
            (self.unit, "unit", tr("Lengths in"), tr("The unit of lengths in fields, plans and sections; any unit can be typed anywhere"), UNITS),
            (self.decimals, "decimals", tr("Decimals"), tr("What parts the decimals of a number; both signs can be typed anywhere"), DECIMALS),
        ):  # fmt: skip
            box.setAccessibleName(text)
            box.setToolTip(tip)
            box.addItems([capital(CHROME_WORDS.get(choice) or spoken(choice)) for choice in choices])
            box.setCurrentIndex(choices.index(getattr(preferences, name)))
            box.activated.connect(partial(self._chosen_of, name, choices))

        self.language = ChoiceBox()
        self.language.setAccessibleName(tr("Language"))
        self.language.setToolTip(tr("What the window speaks; from the next start"))
        codes = ("", *LANGUAGES)
        self.language.addItems([capital(spoken(DESKTOP)), *LANGUAGES.values()])
        self.language.setCurrentIndex(codes.index(preferences.language))
        self.language.activated.connect(lambda index: setattr(preferences, "language", codes[index]))

    def _chosen_of(self, name: str, choices: tuple[str, ...], index: int) -> None:
        setattr(self._preferences, name, choices[index])

    def _numbers(self) -> None:
        preferences = self._preferences
        self.passes = NumberField(
            tr("Frame at rest"), tr("How often the Frame is drawn over itself while nothing moves: smoother, and slower; from the next start"),
            tr("passes"), 0, 1, PASSES.low, 64,
        )  # fmt: skip
        tip = tr("How large everything is, letters first: 100 to 200 %; from the next start")
        self.everything = NumberField(tr("Size of everything"), tip, "%", 0, 25, *SIZES)
        tip = tr("So long after a change it is kept for the case of a crash")
        self.autosave = NumberField(tr("Keep changes after"), tip, "s", 0, 1, *AUTOSAVE_S)
        tip = tr("How high a new camera stands, until another height is chosen beside it")
        self.eye = NumberField(tr("Eye above floor"), tip, "m", 2, 0.05, 0.05, 20.0)
        self.inside, self.outside = (
            NumberField(
                tr("Lens {side}", side=spoken(side)),
                tr("Focal length of a new camera {side}", side=spoken(side)),
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
            field.show_value(float(getattr(preferences, name)))
            field.changed.connect(lambda number, name=name: setattr(preferences, name, number))

    # ------------------------------------------------------------------ keys

    def _add_keys(self, column: QVBoxLayout) -> None:
        self.filter = QLineEdit()
        self.filter.setAccessibleName(tr("Find a command"))
        self.filter.setPlaceholderText(tr("Find a command"))
        self.filter.setToolTip(tr("Part of its name, menu or keys"))
        self.filter.textChanged.connect(self._show_commands)
        self.commands = QTreeWidget()
        self.commands.setAccessibleName(tr("Commands and their keys"))
        self.commands.setHeaderLabels([tr("Command"), tr("Menu"), tr("Keys")])
        self.commands.setRootIsDecorated(False)
        self.commands.setColumnWidth(0, 290)
        self.commands.setColumnWidth(1, 140)
        self.commands.currentItemChanged.connect(self._show_chosen)
        self.keys = QKeySequenceEdit()
        self.keys.setAccessibleName(tr("Keys of the chosen command"))
        self.keys.setMaximumSequenceLength(1)
        self.keys.setClearButtonEnabled(True)
        name_buttons(self.keys, tr("Empty the field"))
        for field in self.keys.findChildren(QLineEdit):
            field.setAccessibleName(self.keys.accessibleName() or tr("Keys"))
        self.keys.editingFinished.connect(self._take)
        self.told = label(tr("Choose a command, press here and press the keys it is to have."), "quiet")
        self.told.setWordWrap(True)
        for part in (self.filter, self.commands, self.keys, self.told):
            column.addWidget(part)
        self._show_commands()

    def _show_commands(self, *_: object) -> None:
        chosen, wanted = self._chosen, self.filter.text().strip().lower()
        self.commands.clear()
        for command in self._table:
            keys = self._table.keys_of(command.id)
            if wanted in f"{command.title} {command.menu} {keys}".lower():
                item = QTreeWidgetItem([command.title, command.menu, keys])
                item.setData(0, Qt.ItemDataRole.UserRole, command.id)
                self.commands.addTopLevelItem(item)
                if chosen is not None and chosen.id == command.id:
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
                tr(
                    "“{keys}” is the key of {others}. Nothing was changed; choose another, or change that one first.",
                    keys=keys,
                    others=others[0],
                )
            )
            self._show_chosen()
            return
        self._preferences.set_keys(command.id, keys, command.keys)
        self._table.set_keys(command.id, keys)
        shown = keys or tr("no key")
        self.told.setText(f"{command.title}: {shown}.")
        self._show_commands()

    def _usual_keys(self) -> None:
        self._preferences.usual_keys()
        for command in self._table:
            self._table.set_keys(command.id, command.keys)
        self.told.setText(tr("All keys are as usual."))
        self._show_commands()
