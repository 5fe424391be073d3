"""The bar that makes the list: starting, pausing, stopping, what comes first, what happens at the end."""

from __future__ import annotations

import math
from functools import partial

from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QInputDialog, QMenu, QProgressBar, QVBoxLayout

from altana.app.hand_over.shot_rows import ShotRows
from altana.app.theme.widgets import OneLine, button, menu_button, relabel
from altana.app.workspace.production import ASIDE, COMMAND, DRAWING, ENDS, MADE, OFF, Production
from altana.app.workspace.workspace import Workspace
from altana.core.errors import UserError
from altana.core.project import FILM, LINES, PENCIL
from altana.jobs.estimates import doubts
from altana.jobs.picture import master_path


class RunBar(QFrame):
    """Steers the production of one project.  ``made`` when a run has ended."""

    made = Signal()

    def __init__(self, workspace: Workspace, rows: ShotRows) -> None:
        super().__init__()
        self._bridge, self._list = workspace.bridge, rows
        self.production = Production()
        self._build()
        self.production.changed.connect(self.show_run)
        self.production.ended.connect(self._run_ended)

    def show_buttons(self) -> None:
        """Follow the list and the run."""
        some = bool(self._list.table.chosen)
        on = any(row.shot.on and not row.wrong for row in self._list.rows)
        running = self.production.running
        self.go.setEnabled(on and not running)
        self.test.setEnabled(on and not running)
        self.first.setEnabled(some and running)
        self.enough.setVisible(running and self._tracing)
        for part in (self.pause, self.cancel):
            part.setEnabled(running)

    def _build(self) -> None:
        self.setObjectName("chrome")
        self.setFixedHeight(54)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 6, 12, 6)
        row.setSpacing(8)
        self.test = button(
            "Test pictures",
            "",
            "The chosen rows (or all that are on) as proofs of a quarter of the size",
            partial(self.make, True),
        )
        self.go = button(
            "Make all",
            "primary",
            "Every row that is on, in a process of its own that outlives the window",
            partial(self.make, False),
        )
        self.progress = QProgressBar()
        self.progress.setTextVisible(False)
        self.progress.setRange(0, 1000)
        self.progress.setFixedHeight(8)
        self.told = OneLine("quiet")
        told = QVBoxLayout()
        told.setSpacing(3)
        told.addWidget(self.told)
        told.addWidget(self.progress)
        self.pause = button(
            "Pause",
            "small",
            "Pause after the pass in hand; press again to go on",
            self._pause,
            checkable=True,
        )
        tip = "The final picture in hand has samples enough: clean it, write it as it is, and go on"
        self.enough = button("Enough", "small", tip, self.production.enough)
        self.cancel = button("Stop", "small", "Stop; what is finished stays", self.production.cancel)
        self.first = button(
            "Chosen first", "small", "The chosen rows before all that still wait", self._prefer
        )
        self.end_menu = menu_button("Then: nothing ▾", "What happens when all is made", self._fill_ends)
        row.addWidget(self.test)
        row.addWidget(self.go)
        row.addLayout(told, 1)
        for part in (self.first, self.enough, self.pause, self.cancel, self.end_menu):
            row.addWidget(part)

    @property
    def _tracing(self) -> bool:
        """Whether the picture in hand is a final one."""
        in_hand = {file for file, piece in self.production.state.pieces.items() if piece.state == DRAWING}
        return any(
            row.file in in_hand and row.shot.quality == "final" and row.shot.rendition not in (LINES, PENCIL)
            for row in self._list.rows
        )

    def make(self, trial: bool) -> None:
        """Start the run: all rows that are on, or test pictures of the chosen ones."""
        chosen = self._list.table.chosen if trial else []
        wanted = [row for row in self._list.rows if (row.shot.id in chosen if chosen else row.shot.on)]
        bad = [row for row in wanted if row.wrong]
        if bad and not trial:
            number = self._list.rows.index(bad[0]) + 1
            self._bridge.notices.trouble(f"Row {number}: {bad[0].wrong} Nothing was started.")
            return
        shots = [(row.shot.id, row.file) for row in wanted if not row.wrong]
        if not trial:
            told = doubts([row.item for row in wanted if row.item is not None], "review", self._list.out)
            if told:
                self._bridge.notices.note(" ".join(told[:2]))
        try:
            self.production.start(
                self._bridge.document.settled, self._list.project_path, self._list.out, shots, trial
            )
        except UserError as error:
            self._bridge.notices.trouble(error.sentence)
        self.show_run()

    def _pause(self) -> None:
        self.production.pause(self.pause.isChecked())
        self.show_run()

    def _prefer(self) -> None:
        chosen = self._list.table.chosen
        self.production.prefer([row.file for row in self._list.rows if row.shot.id in chosen])

    def _fill_ends(self, menu: QMenu) -> None:
        for name, words in ENDS.items():
            action = menu.addAction(words, partial(self._choose_end, name))
            action.setCheckable(True)
            action.setChecked(self.production.end_action == name)

    def _choose_end(self, name: str) -> None:
        if name == COMMAND:
            text, said = QInputDialog.getText(
                self, "When all is made", "Command to run", text=self.production.end_command
            )
            if not said or not text.strip():
                return
            self.production.end_command = text.strip()
        self.production.end_action = name
        self.production.choose_off(name == OFF)
        self.end_menu.setText(f"Then: {ENDS[name].rstrip('…').lower()} ▾")

    def show_run(self) -> None:
        """How far the run is."""
        production = self.production
        state = production.state
        self._list.table.show_pieces(state.pieces)
        self.progress.setValue(round(1000 * (1.0 if state.ended == "done" else state.share)))
        self.progress.setVisible(production.running)
        whole, made, aside = len(state.pieces), state.count(MADE), state.count(ASIDE)
        left = production.left_s
        remaining = ""
        if left >= 0:
            remaining = (
                f", {math.ceil(left / 60)} min left" if left > 90 else f", {max(1, round(left))} s left"
            )
        if production.running:
            what = state.paused or state.label or "Starting"
            self.told.tell(
                state.off
                or f"{made} of {whole} made{f', {aside} set aside' if aside else ''}{remaining}. {what}"
            )
        # While the machine is about to be switched off the same button keeps it on.
        relabel(self.cancel, "Keep it on" if state.off else "Stop")
        self.pause.setChecked(production.paused)
        self.pause.setText("Go on" if production.paused else "Pause")
        self.show_buttons()

    def _run_ended(self, good: bool, sentence: str) -> None:
        self.told.tell(sentence)
        self.progress.hide()
        aside = [piece.sentence for piece in self.production.state.pieces.values() if piece.state == ASIDE]
        if not good:
            self._bridge.notices.note(" ".join([sentence, *aside[:2]]))
        self.made.emit()
        self.show_buttons()
        self.finished(good)

    def finished(self, good: bool) -> None:
        """What was chosen to happen at the end; commands are run by the process itself."""
        if good and self.production.end_action == "notify":
            self._bridge.notices.note("All is made.")
        elif good and self.production.end_action == "close":
            window = self.window()
            QTimer.singleShot(400, window.close)

    def resume(self) -> None:
        """Go on with the run that was broken off."""
        self.production.resume(self._list.project_path)
        self.show_run()

    def write_toned(self) -> None:
        """Make the files again whose masters are there: only their tone is another."""
        shots = [
            (row.shot.id, row.file)
            for row in self._list.rows
            if row.shot.on and not row.wrong and row.shot.kind != FILM
        ]
        kept = [(shot, file) for shot, file in shots if master_path(self._list.out, file).is_file()]
        try:
            self.production.start(
                self._bridge.document.settled, self._list.project_path, self._list.out, kept
            )
        except UserError as error:
            self._bridge.notices.trouble(error.sentence)
