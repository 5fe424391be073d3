"""What is done to the shot list: rows added, ordered, copied, taken out; and the pages for the client."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QMenu, QSizePolicy, QVBoxLayout, QWidget

from altana.app.hand_over.client_pages import ClientPages
from altana.app.hand_over.shot_rows import ShotRows
from altana.app.theme.widgets import button, label, menu_button, rule
from altana.app.theme.words import tr
from altana.app.workspace.times import times
from altana.app.workspace.workspace import Workspace
from altana.core.edits.shots import add_shots, duplicate_shots, move_shots, remove_shots, start_values
from altana.core.project import FILM, PANORAMA, STILL, Project
from altana.jobs.estimates import bytes_for, expected_for, size_words
from altana.jobs.paces import scene_of


class ListSide(QWidget):
    """Buttons beside the list."""

    send_wanted = Signal()
    take_in_wanted = Signal()
    remarks_wanted = Signal()

    def __init__(self, workspace: Workspace, rows: ShotRows, pages: ClientPages) -> None:
        super().__init__()
        self._bridge, self._state = workspace.bridge, workspace.state
        self._list, self.pages = rows, pages
        self._build()
        rows.table.moved.connect(self.move_rows)
        rows.table.removed.connect(self.remove)
        rows.table.doubled.connect(self.duplicate)

    def show_list(self) -> None:
        """Say what the list comes to."""
        project, rows = self._bridge.project, self._list.rows
        items = [row.item for row in rows if row.shot.on and row.item is not None]
        wrong = sum(bool(row.wrong) for row in rows if row.shot.on)
        text = tr("{items} of {rows} rows are on", items=len(items), rows=len(rows))
        if items:
            text += f": {times(expected_for(items, 'review', project.qualities, scene_of(project)))}, {size_words(sum(bytes_for(item, 'review') for item in items))}."
        self.total.setText(text + (tr(" %n cannot be made as they are.", "", wrong) if wrong else ""))

    def show_buttons(self) -> None:
        """Follow what is chosen, here and in Compose."""
        for part in (self.add_still, self.add_round):
            part.setEnabled(len(self._state.selected) > 0)
        names = [
            camera.name
            for item in self._state.selected
            if (camera := self._bridge.project.camera(item)) is not None
        ]
        self._hint.setText(
            f"{names[0].rstrip('.')}."
            if len(names) == 1
            else tr("%n cameras are chosen in Compose.", "", len(names))
        )
        for part in (self.earlier, self.later, self.copy, self.drop):
            part.setEnabled(bool(self._list.table.chosen))

    def _build(self) -> None:
        self.setObjectName("chrome")
        self.setFixedWidth(200)
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 10, 10, 8)
        column.setSpacing(7)
        self.add_still = button(
            tr("Add chosen cameras"),
            "outline",
            tr("A row for each camera chosen in Compose, in the format it is in"),
            partial(self.add, STILL),
        )
        self.add_round = button(
            tr("Add panoramas"),
            "",
            tr("A panorama from the place of each camera chosen in Compose"),
            partial(self.add, PANORAMA),
        )
        self.add_film = menu_button(
            tr("Add a film ▾"), tr("A film of a walk or a turntable"), self._fill_films
        )
        self.add_film.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        for part in (self.add_still, self.add_round, self.add_film):
            column.addWidget(part)
        self._hint = label("", "quiet")
        self._hint.setWordWrap(True)
        column.addWidget(self._hint)
        column.addWidget(rule())
        self._add_order(column)
        column.addWidget(rule())
        column.addWidget(self.pages)
        self._add_exchange(column)
        column.addStretch(1)
        self.total = label("", "quiet")
        self.total.setWordWrap(True)
        column.addWidget(self.total)

    def _add_order(self, column: QVBoxLayout) -> None:
        self.later = button(
            tr("Later"),
            "small",
            tr("The chosen rows one place later (Control and Down)"),
            partial(self.move_rows, 1),
        )
        self.earlier = button(
            tr("Earlier"),
            "small",
            tr("The chosen rows one place earlier (Control and Up)"),
            partial(self.move_rows, -1),
        )
        self.copy = button(
            tr("Duplicate"), "small", tr("A copy of the chosen rows behind them"), self.duplicate
        )
        self.drop = button(
            tr("Take out"), "small", tr("Take the chosen rows out of the list (Delete)"), self.remove
        )
        for pair in ((self.earlier, self.later), (self.copy, self.drop)):
            line = QHBoxLayout()
            line.setSpacing(5)
            for part in pair:
                line.addWidget(part)
            column.addLayout(line)

    def _add_exchange(self, column: QVBoxLayout) -> None:
        """What goes to other tools and people, and what comes from them."""
        column.addWidget(rule())
        line = QHBoxLayout()
        line.setSpacing(5)
        self.send = button(
            tr("Send…"),
            "small",
            tr("Cameras, walks, viewpoints, plans or the list as an edit, for other tools and people"),
            self.send_wanted.emit,
        )
        self.take = button(
            tr("Take in…"),
            "small",
            tr("Cameras, walks and remarks of other people's files, offered first"),
            self.take_in_wanted.emit,
        )
        self.remarks = button(
            tr("Remarks…"), "small", tr("What others said, and what answers it"), self.remarks_wanted.emit
        )
        for part in (self.send, self.take):
            line.addWidget(part)
        column.addLayout(line)
        column.addWidget(self.remarks)

    def add(self, kind: str) -> None:
        """Rows of a kind for the cameras chosen in Compose."""
        ids = [item for item in self._state.selected if self._bridge.project.camera(item) is not None]
        if not ids:
            self._bridge.notices.note(tr("Choose cameras in Compose first."))
            return
        project = self._bridge.project
        there = {
            shot.id: shot.subject
            for shot in project.shots
            if shot.kind == kind
            and shot.subject in ids
            and (kind != STILL or shot.format_index == self._format(shot.subject))
        }
        text = tr("Add to shot list") if kind == STILL else tr("Add panoramas")
        wanted = [item for item in ids if item not in there.values()]
        if wanted:
            self._add_rows(text, lambda p: add_shots(p, [start_values(p, kind, camera) for camera in wanted]))
        if there:
            if not wanted:
                # What is set on the right goes to what was asked for.
                self._list.table.choose(list(there))
            names = ", ".join(
                camera.name for item in dict.fromkeys(there.values()) if (camera := project.camera(item))
            )
            self._bridge.notices.note(
                tr("In the list already: {names}. Duplicate a row to have it twice.", names=names)
            )
        # Keys are for these rows: duplicated, moved, switched on and off.
        self._list.table.setFocus()

    def _format(self, camera_id: str) -> int:
        camera = self._bridge.project.camera(camera_id)
        return camera.format_index if camera is not None else 0

    def _add_rows(self, text: str, edit: Callable[[Project], Project]) -> None:
        """Add rows; they are chosen, and in sight."""
        known = {shot.id for shot in self._bridge.project.shots}
        if self._bridge.apply(text, edit):
            self._list.refresh()
            self._list.table.choose([shot.id for shot in self._bridge.project.shots if shot.id not in known])

    def _fill_films(self, menu: QMenu) -> None:
        for walk in self._bridge.project.walks:
            menu.addAction(walk.name, partial(self._add_film, walk.id))
        if not self._bridge.project.walks:
            menu.addAction(tr("No walks yet")).setEnabled(False)

    def _add_film(self, walk_id: str) -> None:
        self._add_rows(
            tr("Add film"), lambda project: add_shots(project, [start_values(project, FILM, walk_id)])
        )

    def move_rows(self, by: int) -> None:
        """The chosen rows so many places on."""
        chosen = self._list.table.chosen
        places = [number for number, row in enumerate(self._list.rows) if row.shot.id in chosen]
        if chosen and 0 <= places[0] + min(by, 0) and places[-1] + max(by, 0) < len(self._list.rows):
            to = places[0] - 1 if by < 0 else places[-1] + 2
            self._bridge.apply(tr("Order of rows"), lambda project: move_shots(project, chosen, to))

    def duplicate(self) -> None:
        """A copy of the chosen rows."""
        chosen = self._list.table.chosen
        if chosen:
            self._add_rows(tr("Duplicate rows"), lambda project: duplicate_shots(project, chosen))

    def remove(self) -> None:
        """Take the chosen rows out."""
        chosen = self._list.table.chosen
        if chosen:
            self._bridge.apply(tr("Take rows out"), lambda project: remove_shots(project, chosen))
