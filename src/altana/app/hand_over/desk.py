"""The Hand-over desk: what is delivered, its unattended making, and a look at what was made."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QSettings, Signal
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QStackedWidget, QVBoxLayout, QWidget

from altana.app.hand_over.client_pages import ClientPages
from altana.app.hand_over.list_side import ListSide
from altana.app.hand_over.regions import Regions
from altana.app.hand_over.results import ResultsPage
from altana.app.hand_over.row_menu import RowMenu
from altana.app.hand_over.row_settings import ShotSettings
from altana.app.hand_over.run_bar import RunBar
from altana.app.hand_over.shot_rows import ShotRows
from altana.app.hand_over.tone import TonePage
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import Segments, button, rule
from altana.app.theme.words import tr
from altana.app.workspace.production import Production
from altana.app.workspace.soon import Soon
from altana.app.workspace.workspace import Workspace
from altana.jobs.following import ASIDE, MADE
from altana.jobs.job_files import master_path
from altana.jobs.requests import Pano, Picture

LIST, RESULTS = range(2)


class HandOverDesk(QWidget):
    """Shot list, run, results.  ``frame_wanted(file)`` to go to a picture's framing."""

    frame_wanted = Signal(object)

    def __init__(self, workspace: Workspace, tokens: Tokens, settings: QSettings) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__()
        self._bridge = bridge
        self.list = ShotRows(workspace, tokens)
        self.table = self.list.table
        self.settings = ShotSettings(workspace, Path(settings.fileName()).parent / "presets")
        self.tone = TonePage(workspace, tokens)
        self.results = ResultsPage(tokens, workspace.background, self.list.row_of)
        self.picture = self.results.picture
        self.run_bar = RunBar(workspace, self.list, settings)
        self.client_pages = ClientPages(workspace, self.list, self.run_bar.told.tell)
        self.side = ListSide(workspace, self.list, self.client_pages)
        self.row_menu = RowMenu(workspace, self.list, self.run_bar, self.side)
        self.regions = Regions(workspace, self.list, self.results)
        #: The file whose tone is being set.
        self._toned: Path | None = None
        #: How many files the run had made when that was looked at last.
        self._made = 0
        self._lay_out()
        self._wait = Soon(self, 60, self.refresh)
        for signal in (bridge.settled, studio.opened):
            signal.connect(self._wait.start)
        state.selection_changed.connect(self._show_buttons)
        self._connect()
        self.refresh()
        self._show_view()

    def _lay_out(self) -> None:
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.side)
        row.addWidget(rule(vertical=True))
        middle = QVBoxLayout()
        middle.setSpacing(0)
        middle.setContentsMargins(0, 0, 0, 0)
        self.pages = QStackedWidget()
        self.pages.addWidget(self._list_page())
        self.pages.addWidget(self.results)
        middle.addWidget(self._heading())
        middle.addWidget(rule())
        middle.addWidget(self.pages, 1)
        middle.addWidget(rule())
        middle.addWidget(self.run_bar)
        row.addLayout(middle, 1)
        row.addWidget(rule(vertical=True))
        self.panels = QStackedWidget()
        self.panels.setFixedWidth(262)
        self.panels.addWidget(self.settings)
        self.panels.addWidget(self.tone)
        row.addWidget(self.panels)

    def _connect(self) -> None:
        self.table.itemSelectionChanged.connect(self._chosen)
        self.settings.region_wanted.connect(self.regions.draw)
        self.regions.drawing.connect(lambda: self.choose_page(RESULTS))
        self.regions.drawn.connect(lambda: self.choose_page(LIST))
        self.results.shown_changed.connect(self._show_view)
        for signal in (self.run_bar.made, self.client_pages.written):
            signal.connect(self.list.follow_made)
            signal.connect(self._fill_results)
        self.list.followed.connect(self._fill_results)
        self.results.files.thrown_away.connect(self.list.follow_made)
        self.results.files.thrown_away.connect(self._fill_results)
        self.results.files.refused.connect(self._bridge.notices.trouble)
        self.run_bar.production.changed.connect(self._made_more)
        self.tone.shown.connect(self.results.show_toned)
        self.tone.write_wanted.connect(self.run_bar.write_toned)

    @property
    def production(self) -> Production:
        """What is being made."""
        return self.run_bar.production

    @property
    def out(self) -> Path:
        """Where deliveries go: beside the project."""
        return self.list.out

    @property
    def project_path(self) -> Path:
        """The project's file."""
        return self.list.project_path

    def _made_more(self) -> None:
        """Look at what was made whenever the run has made one more file."""
        count = self.production.state.count(MADE) + self.production.state.count(ASIDE)
        if count != self._made:
            self._made = count
            self.list.follow_made()

    def _fill_results(self) -> None:
        self.results.fill(self.out, self.project_path.parent, self.list.states)

    # ------------------------------------------------------------------ building

    def _heading(self) -> QFrame:
        bar = QFrame()
        bar.setObjectName("chrome")
        bar.setFixedHeight(42)
        row = QHBoxLayout(bar)
        row.setContentsMargins(12, 4, 12, 4)
        row.setSpacing(10)
        self.page_choice = Segments(
            [(tr("Shot list"), tr("What is delivered")), (tr("Results"), tr("What was made"))]
        )
        self.page_choice.setFixedWidth(170)
        self.page_choice.chosen.connect(self.choose_page)
        self.page_choice.take(LIST)
        row.addWidget(self.page_choice)
        row.addStretch(1)
        row.addWidget(self.results.compared)
        row.addWidget(self.results.view_choice, 3)
        self.tone_button = button(
            tr("Tone"),
            "small",
            tr("Exposure, highlights, contrast of what was made, without drawing again"),
            self._toggle_tone,
            checkable=True,
        )
        self.framing = button(
            tr("To its camera"),
            "small",
            tr("Go to the camera as it stood for this picture"),
            self._go_to_framing,
        )
        row.addWidget(self.tone_button)
        row.addWidget(self.framing)
        return bar

    def _list_page(self) -> QWidget:
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.table)
        return page

    # ------------------------------------------------------------------ the list

    def refresh(self) -> None:
        """Show the list as it is now."""
        self.list.refresh()
        self.side.show_list()
        self._show_buttons()
        if self.isVisible():
            self.list.follow_made()

    def showEvent(self, event: QShowEvent) -> None:
        """In sight it knows which files are current."""
        super().showEvent(event)
        self.list.follow_made()

    def _chosen(self) -> None:
        self._show_settings()
        self._show_buttons()

    def _show_settings(self) -> None:
        """The settings of the chosen rows; while results are looked at, of the row that the file is of."""
        if self.pages.currentIndex() == RESULTS:
            row = self.list.row_of(self.file) if self.file is not None else None
            rows = [row] if row is not None else []
        else:
            rows = self.list.chosen
        self.settings.show_rows(tuple(self.list.noted(row) for row in rows))

    def _show_buttons(self) -> None:
        self.side.show_buttons()
        self.run_bar.show_buttons()

    # ------------------------------------------------------------------ the run

    def opened(self, path: Path | None) -> str:
        """Another project: find its run.  "going", "broken", "over" or nothing."""
        self.list.project_path = self.settings.chosen.project_path = (
            path or Path("untitled.altana")
        ).resolve()
        self.list.pictures.follow_project(self.project_path)
        self.tone.follow_project(self.project_path)
        self.list.states = ()
        self.list.outdated = ()
        answer = self.production.pick_up(self.project_path)
        self.run_bar.tests.pick_up(self.project_path)
        self._fill_results()
        self.list.follow_made()
        self.run_bar.show_run()
        return answer

    # ------------------------------------------------------------------ results

    def choose_page(self, index: int) -> None:
        """The list, or what was made."""
        self.page_choice.take(index)
        self.pages.setCurrentIndex(index)
        if index == RESULTS:
            self.list.follow_made()
            self._fill_results()
        self._show_view()

    @property
    def file(self) -> Path | None:
        """The file that is looked at."""
        return self.results.file

    def _show_view(self) -> None:
        results = self.pages.currentIndex() == RESULTS
        picture = results and (self.results.shows_picture or self.results.shows_panorama)
        for part in (self.results.view_choice, self.results.compared, self.tone_button, self.framing):
            part.setVisible(results)
        self.tone_button.setEnabled(picture)
        self.framing.setEnabled(results and self.file is not None)
        toning = picture and self.tone_button.isChecked()
        if toning and self.file != self._toned:
            self._open_tone()
        self.panels.setCurrentWidget(self.tone if toning else self.settings)
        self._show_settings()

    def _toggle_tone(self) -> None:
        self._toned = None
        if not self.tone_button.isChecked():
            self.results.open_file()
        self._show_view()

    def _open_tone(self) -> None:
        path = self._toned = self.file
        row = self.list.row_of(path) if path is not None else None
        item = row.item if row is not None else None
        master = master_path(self.out, row.file) if row is not None else None
        self.tone.open(
            row.shot if row is not None else None,
            item.camera.ev if isinstance(item, Picture | Pano) else 10.0,
            master,
        )

    def _go_to_framing(self) -> None:
        if self.file is not None:
            self.frame_wanted.emit(self.file)

    # ------------------------------------------------------------------ regions

    # ------------------------------------------------------------------ pages for the client
