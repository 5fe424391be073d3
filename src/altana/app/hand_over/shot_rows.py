"""The rows of the shot list as they are now, and the table that shows them."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from altana.app.hand_over.made_list import States
from altana.app.hand_over.row_pictures import RowPictures
from altana.app.hand_over.shot_table import RowState, ShotTable
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.app.workspace.background import Newest
from altana.app.workspace.workspace import Workspace
from altana.core.edits.shots import change_shots
from altana.core.project import Project
from altana.jobs.made import models_digest, outdated_rows, states_of
from altana.jobs.requests import Pano
from altana.jobs.shotlist import Row, near_things, rows_of


class ShotRows(QObject):
    """``rows`` follow the project; ``out`` is where their files go."""

    #: How what was made stands is known anew.
    followed = Signal()

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        super().__init__()
        #: Everything that was made, with what has changed since; and the rows that are on and not current, by
        #: id.
        self.states: States = ()
        self.outdated: tuple[str, ...] = ()
        self._made_read = Newest(
            workspace.background, "looking at what was made", self._take_made, in_turn=True
        )
        self._bridge, self._studio = workspace.bridge, workspace.studio
        self.project_path = Path("untitled.altana").resolve()
        self.rows: tuple[Row, ...] = ()
        self.pictures = RowPictures(workspace)
        self.table = ShotTable(tokens, self.pictures.image_of)
        self.pictures.changed.connect(self.table.viewport().update)
        self.table.switched.connect(self._switch)

    def _switch(self, shots: list[str], on: bool) -> None:
        many = tr("Rows") if len(shots) > 1 else tr("Row")
        self._bridge.apply(
            f"{many} {'on' if on else 'off'}", lambda project: change_shots(project, shots, on=on)
        )

    def refresh(self) -> None:
        """Follow the project."""
        scene = self._studio.scene
        self.rows = rows_of(self._bridge.project, scene.model if scene is not None else None)
        self.table.show_rows(self._bridge.project, self.rows)

    def follow_made(self) -> None:
        """Find out which files are current; models may have to be read for that, so it is done beside the
        window."""
        project, rows, path, out = self._bridge.project, self.rows, self.project_path, self.out
        if path.is_file():
            self._made_read.wish(lambda: _looked_at(project, rows, path, out))

    def _take_made(self, answer: tuple[States, tuple[str, ...]]) -> None:
        if answer != (self.states, self.outdated):
            self.states, self.outdated = answer
            self.table.show_states(self._row_states())
        self.followed.emit()

    def _row_states(self) -> dict[str, RowState]:
        known = {item.path(self.project_path.parent): (item, changed) for item, changed in self.states}
        states = {}
        for row in self.rows:
            state = known.get(self.out / row.file) if row.file else None
            if state is not None:
                item, changed = state
                states[row.shot.id] = RowState(item, changed, (self.out / row.file).exists())
        return states

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
        return replace(row, note=tr("{note} Nearer than 0.5 m: {names}.", note=row.note, names=names))

    def row_of(self, path: Path) -> Row | None:
        """The row that a file is of."""
        return next((row for row in self.rows if row.file and self.out / row.file == path), None)


def _looked_at(
    project: Project, rows: tuple[Row, ...], path: Path, out: Path
) -> tuple[States, tuple[str, ...]]:
    """What was made for a project, and the rows that are not current."""
    base = path.parent
    states = states_of(project, rows, base, path.name)
    items = {item.file: item for item, _ in states}
    late = outdated_rows(project, rows, out, base, items, models_digest(project, base))
    return states, tuple(row.shot.id for row in late)
