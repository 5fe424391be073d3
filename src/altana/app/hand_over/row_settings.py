"""The settings of the chosen rows of the shot list."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from altana.app.hand_over.chosen_rows import ChosenRows
from altana.app.hand_over.drawn_group import DrawnGroup
from altana.app.hand_over.file_group import FileGroup
from altana.app.hand_over.lines_group import LinesGroup
from altana.app.hand_over.making_group import MakingGroup
from altana.app.hand_over.row_left_out import RowLeftOut
from altana.app.hand_over.row_presets import RowPresets
from altana.app.hand_over.size_group import SizeGroup
from altana.app.theme.widgets import label, stacked
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.jobs.shotlist import Row


class ShotSettings(QWidget):
    """Shows the chosen rows, and changes all of them at once; ``region_wanted`` asks for a region drawn in
    the Frame."""

    region_wanted = Signal()

    def __init__(self, workspace: Workspace, presets: Path) -> None:
        super().__init__()
        self.chosen = chosen = ChosenRows(workspace, presets)
        chosen.refused.connect(lambda: self.show_rows(chosen.rows))
        self.setObjectName("chrome")
        self.setFixedWidth(262)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 10, 14, 10)
        column.setSpacing(8)
        self.drawn, self.lines, self.sizes = DrawnGroup(chosen), LinesGroup(chosen), SizeGroup(chosen)
        chosen.region_wanted.connect(self.region_wanted)
        self.filed, self.making, self.left_out = FileGroup(chosen), MakingGroup(chosen), RowLeftOut(chosen)
        self._groups = (
            self.drawn.group,
            self.lines.group,
            self.sizes.group,
            self.filed.group,
            self.making.group,
            self.left_out.group,
        )
        for group in (self.making.group, self.left_out.group):
            group.fold()
        self.hint = label(tr("Choose rows in the list: what is set here goes to all of them."), "quiet")
        self.hint.setWordWrap(True)
        column.addWidget(self.hint)
        column.addWidget(stacked(self._groups), 1)
        self.presets = RowPresets(chosen)
        column.addWidget(self.presets.menu)
        self.show_rows(())

    def show_rows(self, rows: tuple[Row, ...]) -> None:
        """Follow the chosen rows."""
        self.chosen.rows = rows
        for group in self._groups:
            group.setVisible(bool(rows))
        self.hint.setVisible(not rows)
        if not rows:
            return
        shots = self.chosen.shots
        self.drawn.show(shots)
        self.lines.show(shots)
        self.sizes.show(rows, shots)
        self.left_out.show(shots)
        self.filed.show(rows, shots)
        self.making.show(shots)
