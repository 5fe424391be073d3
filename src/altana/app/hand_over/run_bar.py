"""The bar that makes the list: starting, pausing, stopping, what comes first, what happens at the end."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import partial

from PySide6.QtCore import QSettings, QTimer, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QBoxLayout, QFrame, QHBoxLayout, QInputDialog, QMenu, QVBoxLayout, QWidget

from altana.app.hand_over.shot_rows import ShotRows
from altana.app.hand_over.where_menu import WhereMenu
from altana.app.theme.widgets import OneLine, button, menu_button, progress_bar, relabel
from altana.app.theme.words import spoken, tr
from altana.app.workspace.production import COMMAND, ENDS, NOTIFY, OFF, Production
from altana.app.workspace.workspace import Workspace
from altana.core.errors import UserError
from altana.core.project import FILM, LINES, PENCIL
from altana.jobs.estimates import doubts
from altana.jobs.following import ASIDE, DRAWING, MADE, OUT
from altana.jobs.job_files import master_path
from altana.jobs.shotlist import Row

#: From this width on all of its buttons stand in one row; narrower than the other it does not become.
WIDE_PX, NARROWEST_PX = 1000, 480


def in_a_row(*parts: QWidget, stretch: bool = False) -> QHBoxLayout:
    """Controls beside each other."""
    row = QHBoxLayout()
    row.setSpacing(8)
    for part in parts:
        row.addWidget(part)
    if stretch:
        row.addStretch(1)
    return row


class RunBar(QFrame):
    """Steers the production of one project.  ``made`` when a run has ended."""

    made = Signal()
    #: All is made, and somebody wants to be told: what it came to.
    told_all = Signal(str)

    def __init__(self, workspace: Workspace, rows: ShotRows, settings: QSettings) -> None:
        super().__init__()
        self._bridge, self._list = workspace.bridge, rows
        self.production = Production()
        #: Test pictures are made beside the run, however long that goes on.
        self.tests = Production("-tests")
        self._settings = settings
        for run in (self.production, self.tests):
            run.keep_awake = settings.value("machines/awake", True, bool) is True
        self.where = WhereMenu(self, self.production, settings)
        self._build()
        for run in (self.production, self.tests):
            run.changed.connect(self.show_run)
        self.production.ended.connect(self._run_ended)
        self.tests.ended.connect(self._tests_ended)

    def show_buttons(self) -> None:
        """Follow the list and the run."""
        some = bool(self._list.table.chosen)
        on = any(row.shot.on and not row.wrong for row in self._list.rows)
        running = self.production.running
        self.go.setEnabled(on and not running)
        self.go_chosen.setEnabled(some)
        self.test.setEnabled((on or some) and not self.tests.running)
        self.choice.setEnabled(bool(self._list.rows))
        self.first.setEnabled(some and running)
        self.enough.setVisible(running and self._tracing)
        for part in (self.pause, self.cancel):
            part.setEnabled(running)

    def _build(self) -> None:
        self.setObjectName("chrome")
        self.setMinimumWidth(NARROWEST_PX)
        self._box = QBoxLayout(QBoxLayout.Direction.LeftToRight, self)
        self._box.setContentsMargins(12, 6, 12, 6)
        self._box.setSpacing(8)
        self._box.addLayout(self._begin())
        self._box.addLayout(self._steer(), 1)
        self._fold(self.width())

    def _begin(self) -> QHBoxLayout:
        """What begins a run."""
        tip = tr(
            "The chosen rows (or all that are on) as proofs of a quarter of the size, also while a run goes on"
        )
        self.test = button(tr("Test pictures"), "", tip, self._make_tests)
        tip = tr("Every row that is on, in a process of its own that outlives the window")
        self.go = button(tr("Make all"), "primary", tip, self.make)
        tip = tr("The chosen rows alone; while a run goes on they are added to it")
        self.go_chosen = button(tr("Make chosen"), "", tip, self.make_chosen)
        tip = tr("Make: the chosen rows, what is out of date, in which quality")
        self.choice = menu_button(tr("Make ▾"), tip, lambda _: None)
        return in_a_row(self.test, self.go, self.go_chosen, self.choice, self.where.button, stretch=True)

    def _steer(self) -> QHBoxLayout:
        """How far it is, and what steers it."""
        self.progress = progress_bar(tr("How far the run is"))
        self.progress.setFixedHeight(8)
        self.told = OneLine("quiet")
        column = QVBoxLayout()
        column.setSpacing(3)
        column.addWidget(self.told)
        column.addWidget(self.progress)
        tip = tr("Pause after the pass in hand; press again to go on")
        self.pause = button(tr("Pause"), "small", tip, self._pause, checkable=True)
        tip = tr("The final picture in hand has samples enough: clean it, write it as it is, and go on")
        self.enough = button(tr("Enough"), "small", tip, self.production.enough)
        self.cancel = button(tr("Stop"), "small", tr("Stop; what is finished stays"), self.production.cancel)
        tip = tr("The chosen rows before all that still wait")
        self.first = button(tr("Chosen first"), "small", tip, self.prefer)
        self.end_menu = menu_button(
            tr("Then: nothing ▾"), tr("What happens when all is made"), self._fill_ends
        )
        row = in_a_row(self.first, self.enough, self.pause, self.cancel, self.end_menu)
        row.insertLayout(0, column, 1)
        return row

    def _fold(self, width: int) -> None:
        """One row of buttons, or two where there is little width."""
        narrow = width < WIDE_PX
        way = QBoxLayout.Direction.TopToBottom if narrow else QBoxLayout.Direction.LeftToRight
        self._box.setDirection(way)
        self.setFixedHeight(92 if narrow else 54)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """In a narrow window what steers a run stands below what begins one."""
        super().resizeEvent(event)
        self._fold(event.size().width())

    @property
    def _tracing(self) -> bool:
        """Whether the picture in hand is a final one."""
        in_hand = {file for file, piece in self.production.state.pieces.items() if piece.state == DRAWING}
        return any(
            row.file in in_hand and row.shot.quality == "final" and row.shot.rendition not in (LINES, PENCIL)
            for row in self._list.rows
        )

    def make(self) -> None:
        """Start the run of all rows that are on."""
        self.make_rows([row for row in self._list.rows if row.shot.on])

    def make_chosen(self) -> None:
        """Make the chosen rows, or add them to the run."""
        if self._list.chosen:
            self.make_rows(self._list.chosen)

    def make_rows(self, rows: Sequence[Row], quality: str = "") -> None:
        """Make these rows, in this quality instead of their own where one is named; while a run goes on they
        are added to it."""
        bad = [row for row in rows if row.wrong]
        if bad:
            number = self._list.rows.index(bad[0]) + 1
            self._bridge.notices.trouble(
                tr("Row {number}: {wrong} Nothing was started.", number=number, wrong=bad[0].wrong)
            )
            return
        sentences = doubts([row.item for row in rows if row.item is not None], "review", self._list.out)
        if sentences:
            self._bridge.notices.note(" ".join(sentences[:2]))
        self._start(self.production, [(row.shot.id, row.file) for row in rows], quality=quality)

    def _make_tests(self) -> None:
        self.make_tests(self._list.chosen or [row for row in self._list.rows if row.shot.on])

    def make_tests(self, rows: Sequence[Row]) -> None:
        """Test pictures of rows, beside the run if one goes on."""
        self._start(self.tests, [(row.shot.id, row.file) for row in rows if not row.wrong], trial=True)

    def _start(
        self, run: Production, shots: list[tuple[str, str]], trial: bool = False, quality: str = ""
    ) -> None:
        rows = self._list
        try:
            run.start(self._bridge.document.settled, rows.project_path, rows.out, shots, trial, quality)
        except UserError as error:
            self._bridge.notices.trouble(error.sentence)
        self.show_run()

    def _pause(self) -> None:
        self.production.pause(self.pause.isChecked())
        self.show_run()

    def prefer(self) -> None:
        """The chosen rows before all that still wait."""
        self.production.prefer([row.file for row in self._list.chosen])

    def take_out(self) -> None:
        """The chosen rows are not to be made in this run any more."""
        self.production.take_out([row.file for row in self._list.chosen])

    def _fill_ends(self, menu: QMenu) -> None:
        for name, words in ENDS.items():
            action = menu.addAction(words, partial(self._choose_end, name))
            action.setCheckable(True)
            action.setChecked(self.production.end_action == name)
        menu.addSeparator()
        awake = menu.addAction(tr("Keep the machine awake meanwhile"), self._choose_awake)
        awake.setCheckable(True)
        awake.setChecked(self.production.keep_awake)

    def _choose_awake(self) -> None:
        """From the next run on the machine may fall asleep, or not."""
        for run in (self.production, self.tests):
            run.keep_awake = not run.keep_awake
        self._settings.setValue("machines/awake", self.production.keep_awake)

    def _choose_end(self, name: str) -> None:
        if name == COMMAND:
            text, accepted = QInputDialog.getText(
                self, tr("When all is made"), tr("Command to run"), text=self.production.end_command
            )
            if not accepted or not text.strip():
                return
            self.production.end_command = text.strip()
        self.production.end_action = name
        self.production.choose_off(name == OFF)
        self.end_menu.setText(tr("Then: {ends} ▾", ends=ENDS[name].rstrip("…").lower()))

    def show_run(self) -> None:
        """How far the run is."""
        production = self.production
        state = production.state
        self._list.table.show_pieces(state.pieces)
        self.progress.setValue(round(1000 * (1.0 if state.ended == "done" else state.share)))
        self.progress.setVisible(production.running)
        whole = len(state.pieces) - state.count(OUT)
        count, aside = state.count(MADE), state.count(ASIDE)
        left = production.left_s
        remaining = ""
        if left >= 0:
            remaining = (
                tr(", {left} min left", left=math.ceil(left / 60))
                if left > 90
                else tr(", {value} s left", value=max(1, round(left)))
            )
        if production.running:
            what = spoken(state.paused or state.waiting or state.label) or tr("Starting")
            if len(state.machines) > 1:
                what = tr("{what} (%n machines)", "", len(state.machines), what=what)
            if state.awake:
                what = tr("{what}. The machine stays awake", what=what)
            self.told.tell(
                state.off
                or tr(
                    "{made} of {whole} made{aside}{remaining}. {what}{tests_told}",
                    made=count,
                    whole=whole,
                    aside=tr(", {aside} set aside", aside=aside) if aside else "",
                    remaining=remaining,
                    what=what,
                    tests_told=self._tests_told,
                )
            )
        elif self.tests.running:
            self.told.tell(self._tests_told.strip())
        # While the machine is about to be switched off the same button keeps it on.
        relabel(self.cancel, tr("Keep it on") if state.off else tr("Stop"))
        self.pause.setChecked(production.paused)
        self.pause.setText(tr("Go on") if production.paused else tr("Pause"))
        self.show_buttons()

    @property
    def _tests_told(self) -> str:
        """How far the test pictures are."""
        state = self.tests.state
        return (
            tr(" Test pictures: {count} of {pieces}.", count=state.count(MADE), pieces=len(state.pieces))
            if self.tests.running
            else ""
        )

    def _tests_ended(self, good: bool, sentence: str) -> None:
        if not self.production.running:
            self.told.tell(sentence)
        if not good:
            self._bridge.notices.note(sentence)
        self.made.emit()
        self.show_run()

    def leave(self) -> None:
        """The window closes: what is being made goes on without it."""
        for run in (self.production, self.tests):
            run.leave()

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
        if good and self.production.end_action == NOTIFY:
            self._bridge.notices.note(tr("All is made."))
            self.told_all.emit(self.production.summary)
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
        self._start(self.production, kept)
