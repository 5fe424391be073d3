"""The rows of the shot list as they are now, and the table that shows them."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QObject

from altana.app.hand_over.row_pictures import RowPictures
from altana.app.hand_over.shot_table import ShotTable
from altana.app.theme.tokens import Tokens
from altana.app.workspace.workspace import Workspace
from altana.core.edits.shots import change_shots
from altana.jobs.requests import Pano
from altana.jobs.shotlist import Row, near_things, rows_of


class ShotRows(QObject):
    """``rows`` follow the project; ``out`` is where their files go."""

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        super().__init__()
        self._bridge, self._studio = workspace.bridge, workspace.studio
        self.project_path = Path("untitled.altana").resolve()
        self.rows: tuple[Row, ...] = ()
        self.pictures = RowPictures(workspace)
        self.table = ShotTable(tokens, self.pictures.image_of)
        self.pictures.changed.connect(self.table.viewport().update)
        self.table.switched.connect(self._switch)

    def _switch(self, shot: str, on: bool) -> None:
        label = "Row on" if on else "Row off"
        self._bridge.apply(label, lambda project: change_shots(project, [shot], on=on))

    def refresh(self) -> None:
        """Follow the project."""
        scene = self._studio.scene
        self.rows = rows_of(self._bridge.project, scene.model if scene is not None else None)
        self.table.show_rows(self._bridge.project, self.rows)

    @property
    def chosen(self) -> list[Row]:
        """The chosen rows."""
        return [row for row in self.rows if row.shot.id in self.table.chosen]

    @property
    def out(self) -> Path:
        """Where deliveries go: beside the project."""
        return self.project_path.parent / "delivery"

    def noted(self, row: Row) -> Row:
        """A panorama's row says what stands too near to its eye."""
        scene = self._studio.scene
        if scene is None or not isinstance(row.item, Pano):
            return row
        near = near_things(scene.rays, scene.owner, scene.model, row.item.camera)
        if not near:
            return row
        names = ", ".join(f"{item.name} ({item.away_m:.2f} m)" for item in near[:3])
        return replace(row, note=f"{row.note} Nearer than 0.5 m: {names}.")

    def row_of(self, path: Path) -> Row | None:
        """The row that a file is of."""
        return next((row for row in self.rows if row.file and self.out / row.file == path), None)
