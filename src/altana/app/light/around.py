"""Surroundings: a 2:1 picture as light, background or both."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QFileDialog

from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import Group, Segments, button
from altana.app.workspace.workspace import Workspace
from altana.core.edits.light import set_surroundings
from altana.core.errors import UserError
from altana.core.project import SURROUNDINGS_USES, Light
from altana.core.ranges import NORTH_DEG, STRENGTH_EV
from altana.jobs.surroundings import read_surroundings
from altana.storage.project_file import take_in

KINDS = "Pictures (*.hdr *.exr *.jpg *.jpeg *.png *.tif *.tiff *.webp)"


class AroundGroup:
    """The picture, what it is for, its turn and strength."""

    def __init__(self, workspace: Workspace) -> None:
        self._bridge = workspace.bridge
        self.project_path = Path("untitled.altana").resolve()
        self.group = group = Group("Surroundings")
        tip = "A picture all round, twice as wide as high (HDR, EXR, JPEG); it is copied beside the project"
        self.choose = button("Choose a picture…", "small", tip, self._ask)
        self.none = button(
            "None", "small", "No surroundings", lambda: self._change("No surroundings", file="")
        )
        group.add_wide(self.choose, self.none)
        tips = ("It lights the building", "It stands behind the building", "Both")
        self.use = Segments(
            [(name.capitalize(), tip) for name, tip in zip(SURROUNDINGS_USES, tips, strict=True)]
        )
        self.use.chosen.connect(lambda index: self._change("Surroundings", use=SURROUNDINGS_USES[index]))
        group.add_wide(self.use)
        self.turn = NumberField(
            "Turn", "Turns the surroundings, clockwise", "°", 0, 5.0, NORTH_DEG.low, NORTH_DEG.high
        )
        self.turn.changed.connect(lambda value: self._change("Turn surroundings", turn_deg=value))
        group.add_field("Turn", self.turn)
        self.strength = NumberField(
            "Strength", "+1 doubles their light", "EV", 1, 0.5, STRENGTH_EV.low, STRENGTH_EV.high
        )
        self.strength.changed.connect(
            lambda value: self._change("Strength of surroundings", strength_ev=value)
        )
        group.add_field("Strength", self.strength)
        group.fold()

    def _change(self, undo: str, **values: object) -> None:
        self._bridge.apply(undo, lambda project: set_surroundings(project, **values))

    def _ask(self) -> None:
        path, _ = QFileDialog.getOpenFileName(
            self.group, "Surroundings", str(self.project_path.parent), KINDS
        )
        if path:
            self.take(Path(path))

    def take(self, path: Path) -> None:
        """Put a picture round the building."""
        try:
            read_surroundings(path)
            name = take_in(path, [], self.project_path, "surroundings")
        except UserError as error:
            self._bridge.notices.trouble(error.sentence)
            return
        self._change("Surroundings", file=name)

    def show_light(self, light: Light) -> None:
        """Follow the project."""
        around = light.surroundings
        for part in (self.none, self.use, self.turn, self.strength):
            part.setEnabled(bool(around.file))
        self.use.take(SURROUNDINGS_USES.index(around.use))
        self.turn.show_value(around.turn_deg)
        self.strength.show_value(around.strength_ev)
        self.group.show_figure(Path(around.file).name if around.file else "none")
