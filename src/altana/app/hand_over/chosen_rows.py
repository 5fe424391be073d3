"""The chosen rows of the shot list, and how settings change all of them as one step."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QComboBox

from altana.app.theme.number_field import NumberField
from altana.app.theme.plain_text import tip_text
from altana.app.theme.widgets import ChoiceBox
from altana.app.theme.words import spoken
from altana.app.workspace.workspace import Workspace
from altana.core.edits.shots import change_shots
from altana.core.project import Project, Shot
from altana.jobs.shotlist import Row


class ChosenRows(QObject):
    """What groups of settings are given.  ``refused`` when a step could not be: the fields show again what
    is; ``region_wanted`` asks for a region drawn over the picture.

    presets : the person's own folder of presets and line styles.
    """

    refused = Signal()
    region_wanted = Signal()

    def __init__(self, workspace: Workspace, presets: Path) -> None:
        super().__init__()
        self.bridge, self.studio, self.state, self.presets = (
            workspace.bridge,
            workspace.studio,
            workspace.state,
            presets,
        )
        self.project_path = Path("untitled.altana").resolve()
        self.rows: tuple[Row, ...] = ()

    @property
    def ids(self) -> list[str]:
        """Their ids."""
        return [row.shot.id for row in self.rows]

    @property
    def shots(self) -> list[Shot]:
        """The rows as the project has them."""
        return [row.shot for row in self.rows]

    @property
    def project(self) -> Project:
        """The project as it is now."""
        return self.bridge.project

    def set(self, text: str, **values: object) -> None:
        """Set fields of all chosen rows, as one step."""
        ids = self.ids
        self.apply(text, lambda project: change_shots(project, ids, **values))

    def apply(self, text: str, edit: Callable[[Project], Project]) -> None:
        """A step that changes rows."""
        if self.ids and not self.bridge.apply(text, edit):
            self.refused.emit()

    def fail(self, sentence: str) -> None:
        """Say what could not be done."""
        self.bridge.notices.trouble(sentence)

    def number(
        self, field: str, name: str, tip: str, unit: str, decimals: int, step: float, low: float, high: float
    ) -> NumberField:
        """A number that is a field of the rows."""
        number_field = NumberField(name, tip, unit, decimals, step, low, high)
        number_field.changed.connect(
            lambda value: self.set(name, **{field: type(getattr(Shot(""), field))(value)})
        )
        return number_field


def same(values: list[object]) -> bool:
    """Whether all rows have one value."""
    return len(set(values)) == 1


def choice(name: str, tip: str, choices: tuple[str, ...], chosen: Callable[[str], None]) -> QComboBox:
    """A list of words of which one holds."""
    box = ChoiceBox()
    box.setAccessibleName(name)
    box.setToolTip(tip_text(tip))
    for word in choices:
        box.addItem(spoken(word), word)
    box.activated.connect(lambda index: chosen(box.itemData(index)))
    return box


def show_number(field: NumberField, values: list[float]) -> None:
    """The value of all rows, or that they differ."""
    if max(values) - min(values) > 1e-9:
        field.show_mixed()
    else:
        field.show_value(values[0])
