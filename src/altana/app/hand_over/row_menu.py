"""What can be done with rows: which are made, in which quality; in a menu beside the run, and where rows are
pressed with the right button."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QMenu

from altana.app.hand_over.list_side import ListSide
from altana.app.hand_over.run_bar import RunBar
from altana.app.hand_over.shot_rows import ShotRows
from altana.app.theme.words import capital, spoken, tr
from altana.app.workspace.workspace import Workspace
from altana.core.project import FILM
from altana.jobs.shotlist import Row


class RowMenu:
    """Fills both menus."""

    def __init__(self, workspace: Workspace, rows: ShotRows, bar: RunBar, side: ListSide) -> None:
        self._state, self._list, self._bar, self._side = workspace.state, rows, bar, side
        bar.choice.menu().aboutToShow.connect(lambda: self.fill(bar.choice.menu()))
        rows.table.customContextMenuRequested.connect(self._pressed)

    def fill(self, menu: QMenu) -> None:
        """What may be made: everything, the chosen rows, what is out of date, this camera's; while a run goes
        on it is added."""
        menu.clear()
        rows, verb = self._list.rows, tr("Add to the run: ") if self._bar.production.running else ""
        camera = self._state.active
        chosen = [
            row
            for row in rows
            if camera is not None and row.shot.kind != FILM and row.shot.subject == camera.id
        ]
        late = [row for row in rows if row.shot.id in self._list.outdated]
        self._add(menu, tr("{verb}everything that is on", verb=verb), [row for row in rows if row.shot.on])
        self._add(menu, tr("{verb}what is out of date or missing", verb=verb), late)
        self._add(menu, tr("{verb}the chosen rows", verb=verb), self._list.chosen)
        self._add(
            menu,
            tr("{verb}the rows of {name}", verb=verb, name=camera.name)
            if camera is not None
            else tr("The rows of the camera"),
            chosen,
        )
        menu.addSeparator()
        self._add_qualities(menu)

    def make_late(self) -> None:
        """Make what is out of date or missing."""
        self._bar.make_rows([row for row in self._list.rows if row.shot.id in self._list.outdated])

    def _add(self, menu: QMenu, text: str, rows: list[Row], quality: str = "") -> None:
        count = f" ({len(rows)})" if rows else ""
        action = menu.addAction(f"{capital(text)}{count}", partial(self._bar.make_rows, rows, quality))
        action.setEnabled(bool(rows))

    def _add_qualities(self, menu: QMenu) -> None:
        chosen = self._list.chosen
        tests = menu.addAction(tr("The chosen rows as test pictures"), partial(self._bar.make_tests, chosen))
        tests.setEnabled(bool(chosen))
        for word in ("review", "final"):
            self._add(menu, tr("The chosen rows in {word} quality", word=spoken(word)), chosen, word)

    def _pressed(self, at: QPoint) -> None:
        menu = QMenu(self._list.table)
        self.fill_row(menu)
        menu.popup(self._list.table.viewport().mapToGlobal(at))

    def fill_row(self, menu: QMenu) -> None:
        """What may be done with the chosen rows."""
        chosen, bar, side = self._list.chosen, self._bar, self._side
        if not chosen:
            menu.addAction(tr("No row is chosen")).setEnabled(False)
            return
        running = bar.production.running
        self._add(menu, tr("Add to the run") if running else tr("Make"), chosen)
        self._add_qualities(menu)
        menu.addSeparator()
        first = menu.addAction(tr("First in the run"), bar.prefer)
        out = menu.addAction(tr("Take out of the run"), bar.take_out)
        for action in (first, out):
            action.setEnabled(running)
        menu.addSeparator()
        on = not chosen[0].shot.on
        ids = [row.shot.id for row in chosen]
        menu.addAction(
            tr("Switch on\tSpace") if on else tr("Switch off\tSpace"),
            partial(self._list.table.switched.emit, ids, on),
        )
        menu.addAction(tr("Duplicate\tCtrl+D"), side.duplicate)
        menu.addAction(tr("Earlier\tCtrl+Up"), partial(side.move_rows, -1))
        menu.addAction(tr("Later\tCtrl+Down"), partial(side.move_rows, 1))
        menu.addAction(tr("Take out of the list\tDelete"), side.remove)
