"""The model files of a project on the Model desk: unit, axis, place and showing of each."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QCheckBox

from altana.app.theme.number_field import NumberField
from altana.app.theme.plain_text import tip_text
from altana.app.theme.widgets import ChoiceBox, Group
from altana.app.theme.words import spoken, tr
from altana.app.workspace.workspace import Workspace
from altana.core.edits.models import FARTHEST_M, set_model
from altana.core.model import Problem
from altana.core.project import ModelRef

UNITS = (
    (tr("As the file says"), 0.0),
    (tr("Metres"), 1.0),
    (tr("Centimetres"), 0.01),
    (tr("Millimetres"), 0.001),
    (tr("Feet"), 0.3048),
    (tr("Inches"), 0.0254),
)
AXES = ((tr("As the file says"), ""), (tr("Z is up"), "z"), (tr("Y is up"), "y"))


class ModelFiles:
    """The fields of one model file at a time, put into a group; ``reopen`` is called when the scene has to be
    read again."""

    def __init__(self, workspace: Workspace, group: Group, reopen: Callable[[], object]) -> None:
        bridge = workspace.bridge
        self._bridge, self._reopen = bridge, reopen
        self.choice, self.unit, self.axis = ChoiceBox(), ChoiceBox(), ChoiceBox()
        for combo, name, tip in (
            (self.choice, tr("Model file"), tr("The model file that the fields below are of")),
            (self.unit, tr("Unit"), tr("How long one unit of the file is")),
            (self.axis, tr("Up"), tr("Which axis of the file points up")),
        ):
            combo.setAccessibleName(name)
            combo.setToolTip(tip_text(tip))
            group.add_field(name, combo)
        self.unit.addItems([name for name, _ in UNITS])
        self.axis.addItems([name for name, _ in AXES])
        self._add_place(group)
        self.choice.activated.connect(lambda _: self.refresh())
        self.unit.activated.connect(
            lambda index: self.correct(tr("Unit of the model"), unit_m=UNITS[index][1])
        )
        self.axis.activated.connect(lambda index: self.correct(tr("Axis of the model"), up=AXES[index][1]))
        bridge.models_changed.connect(self.refresh)

    def _add_place(self, group: Group) -> None:
        self.move = tuple(
            NumberField(
                tr("Moved {word}", word=spoken(word)),
                tr("How far the model is moved {word}, metres", word=spoken(word)),
                "m",
                2,
                0.1,
                -FARTHEST_M,
                FARTHEST_M,
            )
            for word in ("east", "north", "up")
        )
        for field in self.move:
            field.changed.connect(lambda _: self._place())
        self.turn = NumberField(
            tr("Turned"),
            tr("How far the model is turned clockwise about its own zero"),
            "°",
            2,
            1.0,
            -360.0,
            360.0,
        )
        group.add_pair(tr("East, north"), self.move[0], self.move[1])
        group.add_pair(tr("Up, turned"), self.move[2], self.turn)
        self.turn.changed.connect(lambda value: self.correct(tr("Turn the model"), turn_deg=value))
        self.shown = QCheckBox(tr("Part of the scene"))
        self.shown.setAccessibleName(tr("Part of the scene"))
        self.shown.setToolTip(
            tr(
                "Whether this file is shown, throws shadows and is stood on; it stays in the project either way"
            )
        )
        group.add_wide(self.shown)
        self.shown.toggled.connect(
            lambda on: self.correct(tr("Show the model") if on else tr("Hide the model"), shown=on)
        )

    @property
    def chosen(self) -> ModelRef | None:
        """The model file that the fields are of."""
        models = self._bridge.project.models
        index = max(0, self.choice.currentIndex())
        return models[index] if index < len(models) else None

    def refresh(self) -> None:
        """Show what the project says."""
        names = [item.path.rpartition("/")[2] for item in self._bridge.project.models]
        if [self.choice.itemText(i) for i in range(self.choice.count())] != names:
            self.choice.clear()
            self.choice.addItems(names)
        item = self.chosen
        if item is None:
            return
        self.unit.setCurrentIndex(
            next((i for i, (_, m) in enumerate(UNITS) if abs(m - item.unit_m) < 1e-12), 0)
        )
        self.axis.setCurrentIndex(next(i for i, (_, up) in enumerate(AXES) if up == item.up))
        for field, value in zip(self.move, item.move, strict=True):
            field.show_value(value)
        self.turn.show_value(item.turn_deg)
        self.shown.blockSignals(True)
        self.shown.setChecked(item.shown)
        self.shown.setEnabled(not item.shown or sum(other.shown for other in self._bridge.project.models) > 1)
        self.shown.blockSignals(False)

    def _place(self) -> None:
        east, north, up = (field.value for field in self.move)
        self.correct(tr("Move the model"), move=(east, north, up))

    def correct(self, name: str, **values: object) -> None:
        """Change the chosen model file, and read the scene again."""
        item = self.chosen
        if item is not None and self._bridge.apply(
            name, lambda project: set_model(project, item.id, **values)
        ):
            self._reopen()

    def mend(self, problem: Problem) -> None:
        """Take what else an assumption could be."""
        # Where there are several files, what is said of one begins with its name.
        for index in range(self.choice.count()):
            if problem.sentence.startswith(f"{self.choice.itemText(index)}: "):
                self.choice.setCurrentIndex(index)
        what, _, value = problem.remedy.partition(":")
        if what == "unit":
            self.correct(tr("Unit of the model"), unit_m=float(value))
        elif what == "up":
            self.correct(tr("Axis of the model"), up=value)


def remedy_words(problem: Problem) -> str:
    """What one press on a problem does, in words; empty where it does nothing about it."""
    what, _, value = problem.remedy.partition(":")
    if what == "unit":
        name = next(
            (name.lower() for name, metres in UNITS if abs(metres - float(value)) < 1e-9), f"{value} m"
        )
        return tr("Take as {name} ›", name=name)
    return tr("Take {value} as up ›", value=value.upper()) if what == "up" else ""
