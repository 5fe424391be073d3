"""Surroundings: a 2:1 picture as light, background or both."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QFileDialog

from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import Group, Segments, button
from altana.app.theme.words import capital, spoken, tr
from altana.app.workspace.workspace import Workspace
from altana.core.edits.light import set_surroundings
from altana.core.errors import UserError
from altana.core.project import AS_BACKGROUND, SURROUNDINGS_USES, Light
from altana.core.ranges import NORTH_DEG, STRENGTH_EV
from altana.jobs.surroundings import read_surroundings
from altana.storage.project_file import take_in

KINDS = tr("Pictures (*.hdr *.exr *.jpg *.jpeg *.png *.tif *.tiff *.webp)")


class AroundGroup:
    """The picture, what it is for, its turn and strength."""

    def __init__(self, workspace: Workspace) -> None:
        self._bridge = workspace.bridge
        self.project_path = Path("untitled.altana").resolve()
        self.group = group = Group(tr("Surroundings"))
        tip = tr(
            "A picture all round, twice as wide as high (HDR, EXR, JPEG); it is copied beside the project"
        )
        self.choose = button(tr("Choose a picture…"), "small", tip, self._ask)
        self.none = button(
            tr("None"), "small", tr("No surroundings"), lambda: self._change(tr("No surroundings"), file="")
        )
        group.add_wide(self.choose, self.none)
        tips = (tr("It lights the building"), tr("It stands behind the building"), tr("Both"))
        self.use = Segments(
            [(capital(spoken(name)), tip) for name, tip in zip(SURROUNDINGS_USES, tips, strict=True)]
        )
        self.use.chosen.connect(lambda index: self._change(tr("Surroundings"), use=SURROUNDINGS_USES[index]))
        group.add_wide(self.use)
        self.turn = NumberField(
            tr("Turn"), tr("Turns the surroundings, clockwise"), "°", 0, 5.0, NORTH_DEG.low, NORTH_DEG.high
        )
        self.turn.changed.connect(lambda value: self._change(tr("Turn surroundings"), turn_deg=value))
        group.add_field(tr("Turn"), self.turn)
        self.strength = NumberField(
            tr("Strength"), tr("+1 doubles their light"), "EV", 1, 0.5, STRENGTH_EV.low, STRENGTH_EV.high
        )
        self.strength.changed.connect(
            lambda value: self._change(tr("Strength of surroundings"), strength_ev=value)
        )
        group.add_field(tr("Strength"), self.strength)
        self.sun = Segments(
            [
                (
                    tr("Sun in the picture"),
                    tr("The sun that is found in the picture shines, where it lights"),
                ),
                (
                    tr("Sun of the hour"),
                    tr("The sun of date and hour shines; the one in the picture goes out"),
                ),
            ]
        )
        self.sun.chosen.connect(lambda index: self._change(tr("Which sun shines"), sun_of_hour=index == 1))
        group.add_wide(self.sun)
        group.fold()

    def _change(self, undo: str, **values: object) -> None:
        self._bridge.apply(undo, lambda project: set_surroundings(project, **values))

    def _ask(self) -> None:
        path, _ = QFileDialog.getOpenFileName(
            self.group, tr("Surroundings"), str(self.project_path.parent), KINDS
        )
        if path:
            self.take(Path(path))

    def take(self, path: Path) -> None:
        """Put a picture round the building."""
        try:
            pixels = read_surroundings(path)
            name = take_in(path, [], self.project_path, "surroundings")
        except UserError as error:
            self._bridge.notices.trouble(error.sentence)
            return
        values: dict[str, object] = {"file": name}
        if not self._bridge.project.light.surroundings.file and pixels.max() <= 1.0:
            # A photograph that holds no more than a screen shows has no sun in it, and would light like a
            # dull day.
            values["use"] = AS_BACKGROUND
        self._change(tr("Surroundings"), **values)

    def show_light(self, light: Light) -> None:
        """Follow the project."""
        around = light.surroundings
        for part in (self.none, self.use, self.turn, self.strength):
            part.setEnabled(bool(around.file))
        self.sun.setEnabled(bool(around.file) and around.use != AS_BACKGROUND)
        self.sun.take(int(around.sun_of_hour))
        self.use.take(SURROUNDINGS_USES.index(around.use))
        self.turn.show_value(around.turn_deg)
        self.strength.show_value(around.strength_ev)
        self.group.show_figure(Path(around.file).name if around.file else tr("none"))
