"""The Hand-over desk: what is delivered, its unattended making, and a look at what was made."""

from __future__ import annotations

import math
from dataclasses import replace
from functools import partial
from pathlib import Path

from PySide6.QtCore import QTimer, QUrl, Signal
from PySide6.QtGui import QDesktopServices, QImage
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QInputDialog,
    QMenu,
    QProgressBar,
    QSizePolicy,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from altana.app.canvas.picture_view import FIT, read_picture
from altana.app.hand_over.results import ResultsPage
from altana.app.hand_over.row_pictures import RowPictures
from altana.app.hand_over.row_settings import ShotSettings
from altana.app.hand_over.shot_table import ShotTable
from altana.app.hand_over.tone import TonePage
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import OneLine, Segments, button, label, menu_button, relabel, rule
from altana.app.workspace.production import ASIDE, COMMAND, ENDS, MADE, OFF, Production
from altana.app.workspace.workspace import Workspace
from altana.core.edits.shots import (
    add_shots,
    change_shots,
    duplicate_shots,
    move_shots,
    remove_shots,
    start_values,
)
from altana.core.errors import UserError
from altana.core.project import FILM, PANORAMA, STILL, Project
from altana.jobs.estimates import about, bytes_for, doubts, seconds_for
from altana.jobs.pages import write_pages
from altana.jobs.picture import master_path
from altana.jobs.requests import Pano, Picture
from altana.jobs.shotlist import Row, near_things, rows_of

LIST, RESULTS = range(2)


class HandOverDesk(QWidget):
    """Shot list, run, results.  ``frame_wanted(file)`` to go to a picture's framing."""

    frame_wanted = Signal(object)

    def __init__(self, workspace: Workspace, tokens: Tokens, presets: Path) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__()
        self._workspace = workspace
        self._bridge, self._state, self._studio, self._tokens = bridge, state, studio, tokens
        self.production = Production()
        self.project_path = Path("untitled.altana").resolve()
        self._rows: tuple[Row, ...] = ()
        #: The row whose region is being drawn.
        self._region_of = ""
        self.row_pictures = RowPictures(workspace)
        self.table = ShotTable(tokens, self.row_pictures.image_of)
        self.row_pictures.changed.connect(self.table.viewport().update)
        self.row_pictures.whole_drawn.connect(self._show_region_picture)
        self.settings = ShotSettings(workspace, presets)
        self.tone = TonePage(workspace, tokens)
        self.results = ResultsPage(tokens, workspace.background, self._row_of)
        self.picture = self.results.picture
        #: The file whose tone is being set.
        self._toned: Path | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self._side())
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
        middle.addWidget(self._run_bar())
        row.addLayout(middle, 1)
        row.addWidget(rule(vertical=True))
        self.panels = QStackedWidget()
        self.panels.setFixedWidth(262)
        self.panels.addWidget(self.settings)
        self.panels.addWidget(self.tone)
        row.addWidget(self.panels)
        self._wait = QTimer(self)
        self._wait.setSingleShot(True)
        self._wait.setInterval(60)
        self._wait.timeout.connect(self.refresh)
        for signal in (bridge.settled, studio.opened):
            signal.connect(self._wait.start)
        state.selection_changed.connect(self._show_buttons)
        self.table.itemSelectionChanged.connect(self._chosen)
        self.table.switched.connect(
            lambda shot, on: bridge.apply(
                "Row on" if on else "Row off", lambda p: change_shots(p, [shot], on=on)
            )
        )
        self.table.moved.connect(self.move_rows)
        self.table.removed.connect(self.remove)
        self.settings.region_wanted.connect(self._draw_region)
        self.picture.region_drawn.connect(self._take_region)
        self.results.shown_changed.connect(self._show_view)
        self.production.changed.connect(self._show_run)
        self.production.ended.connect(self._run_ended)
        self.tone.shown.connect(lambda image: self.picture.show_picture(image, None, True))
        self.tone.write_wanted.connect(self._write_toned)
        self.refresh()

    # ------------------------------------------------------------------ building

    def _side(self) -> QWidget:
        side = QWidget()
        side.setObjectName("chrome")
        side.setFixedWidth(200)
        column = QVBoxLayout(side)
        column.setContentsMargins(10, 10, 10, 8)
        column.setSpacing(7)
        self.add_still = button(
            "Add chosen cameras",
            "outline",
            "A row for each camera chosen in Compose, in the format it is in",
            partial(self.add, STILL),
        )
        self.add_round = button(
            "Add panoramas",
            "",
            "A panorama from the place of each camera chosen in Compose",
            partial(self.add, PANORAMA),
        )
        self.add_film = menu_button("Add a film ▾", "A film of a walk or a turntable", self._fill_films)
        self.add_film.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        for part in (self.add_still, self.add_round, self.add_film):
            column.addWidget(part)
        self._hint = label("", "quiet")
        self._hint.setWordWrap(True)
        column.addWidget(self._hint)
        column.addWidget(rule())
        self.later = button(
            "Later", "small", "The chosen rows one place later (Control and Down)", partial(self.move_rows, 1)
        )
        self.earlier = button(
            "Earlier",
            "small",
            "The chosen rows one place earlier (Control and Up)",
            partial(self.move_rows, -1),
        )
        self.copy = button("Duplicate", "small", "A copy of the chosen rows behind them", self.duplicate)
        self.drop = button("Take out", "small", "Take the chosen rows out of the list (Delete)", self.remove)
        for pair in ((self.earlier, self.later), (self.copy, self.drop)):
            line = QHBoxLayout()
            line.setSpacing(5)
            for part in pair:
                line.addWidget(part)
            column.addLayout(line)
        column.addWidget(rule())
        self.sheet_button = menu_button(
            "Pages for the client ▾",
            "Pages for the client: contact sheet, presentation, look round",
            self._fill_pages,
        )
        self.sheet_button.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        column.addWidget(self.sheet_button)
        self.open_button = button(
            "Open the folder", "", "Show what was made in the file manager", self._open_folder
        )
        column.addWidget(self.open_button)
        column.addStretch(1)
        self.total = label("", "quiet")
        self.total.setWordWrap(True)
        column.addWidget(self.total)
        return side

    def _heading(self) -> QFrame:
        bar = QFrame()
        bar.setObjectName("chrome")
        bar.setFixedHeight(42)
        row = QHBoxLayout(bar)
        row.setContentsMargins(12, 4, 12, 4)
        row.setSpacing(10)
        self.page_choice = Segments([("Shot list", "What is delivered"), ("Results", "What was made")])
        self.page_choice.setFixedWidth(170)
        self.page_choice.chosen.connect(self.choose_page)
        self.page_choice.take(LIST)
        row.addWidget(self.page_choice)
        row.addStretch(1)
        row.addWidget(self.results.compared)
        row.addWidget(self.results.view_choice, 3)
        self.tone_button = button(
            "Tone",
            "small",
            "Exposure, highlights, contrast of what was made, without drawing again",
            self._toggle_tone,
            checkable=True,
        )
        self.framing = button(
            "Its framing", "small", "Go to the camera as it stood for this picture", self._go_to_framing
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

    def _run_bar(self) -> QFrame:
        bar = QFrame()
        bar.setObjectName("chrome")
        bar.setFixedHeight(54)
        row = QHBoxLayout(bar)
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
        self.cancel = button("Stop", "small", "Stop; what is finished stays", self.production.cancel)
        self.first = button(
            "Chosen first", "small", "The chosen rows before all that still wait", self._prefer
        )
        self.end_menu = menu_button("Then: nothing ▾", "What happens when all is made", self._fill_ends)
        row.addWidget(self.test)
        row.addWidget(self.go)
        row.addLayout(told, 1)
        for part in (self.first, self.pause, self.cancel, self.end_menu):
            row.addWidget(part)
        return bar

    # ------------------------------------------------------------------ the list

    @property
    def out(self) -> Path:
        """Where deliveries go: beside the project."""
        return self.project_path.parent / "delivery"

    def add(self, kind: str) -> None:
        """Rows of a kind for the cameras chosen in Compose."""
        ids = [item for item in self._state.selected if self._bridge.project.camera(item) is not None]
        if not ids:
            self._bridge.notices.note("Choose cameras in Compose first.")
            return
        text = "Add to shot list" if kind == STILL else "Add panoramas"
        self._bridge.apply(
            text, lambda project: add_shots(project, [start_values(project, kind, camera) for camera in ids])
        )

    def _fill_films(self, menu: QMenu) -> None:
        for walk in self._bridge.project.walks:
            menu.addAction(walk.name, partial(self._add_film, walk.id))
        if not self._bridge.project.walks:
            menu.addAction("No walks yet").setEnabled(False)

    def _add_film(self, walk_id: str) -> None:
        self._bridge.apply(
            "Add film", lambda project: add_shots(project, [start_values(project, FILM, walk_id)])
        )

    def move_rows(self, by: int) -> None:
        """The chosen rows so many places on."""
        chosen = self.table.chosen
        places = [number for number, row in enumerate(self._rows) if row.shot.id in chosen]
        if chosen and 0 <= places[0] + min(by, 0) and places[-1] + max(by, 0) < len(self._rows):
            to = places[0] - 1 if by < 0 else places[-1] + 2
            self._bridge.apply("Order of rows", lambda project: move_shots(project, chosen, to))

    def duplicate(self) -> None:
        """A copy of the chosen rows."""
        chosen = self.table.chosen
        if chosen:
            self._bridge.apply("Duplicate rows", lambda project: duplicate_shots(project, chosen))

    def remove(self) -> None:
        """Take the chosen rows out."""
        chosen = self.table.chosen
        if chosen:
            self._bridge.apply("Take rows out", lambda project: remove_shots(project, chosen))

    def refresh(self) -> None:
        """Show the list as it is now."""
        project: Project = self._bridge.project
        scene = self._studio.scene
        self._rows = rows_of(project, scene.model if scene is not None else None)
        self.table.show_rows(project, self._rows)
        items = [row.item for row in self._rows if row.shot.on and row.item is not None]
        wrong = sum(bool(row.wrong) for row in self._rows if row.shot.on)
        text = f"{len(items)} of {len(self._rows)} rows are on"
        if items:
            text += f": {about(seconds_for(items, 'review', project.qualities), sum(bytes_for(item, 'review') for item in items))}."
        self.total.setText(text + (f" {wrong} cannot be made as they are." if wrong else ""))
        self._show_buttons()

    def _chosen(self) -> None:
        self._show_settings()
        self._show_buttons()

    def _show_settings(self) -> None:
        """The settings of the chosen rows; while results are looked at, of the row that the file is of."""
        if self.pages.currentIndex() == RESULTS:
            row = self._row_of(self.file) if self.file is not None else None
            rows = [row] if row is not None else []
        else:
            chosen = self.table.chosen
            rows = [row for row in self._rows if row.shot.id in chosen]
        self.settings.show_rows(tuple(self._noted(row) for row in rows))

    def _noted(self, row: Row) -> Row:
        """A panorama's row says what stands too near to its eye."""
        scene = self._studio.scene
        if scene is None or not isinstance(row.item, Pano):
            return row
        near = near_things(scene.rays, scene.owner, scene.model, row.item.camera)
        if not near:
            return row
        names = ", ".join(f"{item.name} ({item.away_m:.2f} m)" for item in near[:3])
        return replace(row, note=f"{row.note} Nearer than 0.5 m: {names}.")

    def _show_buttons(self) -> None:
        count = len(self._state.selected)
        for part in (self.add_still, self.add_round):
            part.setEnabled(count > 0)
        names = [
            camera.name
            for item in self._state.selected
            if (camera := self._bridge.project.camera(item)) is not None
        ]
        self._hint.setText(
            f"{names[0]}." if len(names) == 1 else f"{len(names)} cameras are chosen in Compose."
        )
        some = bool(self.table.chosen)
        for part in (self.earlier, self.later, self.copy, self.drop):
            part.setEnabled(some)
        on = any(row.shot.on and not row.wrong for row in self._rows)
        running = self.production.running
        self.go.setEnabled(on and not running)
        self.test.setEnabled(on and not running)
        self.first.setEnabled(some and running)
        for part in (self.pause, self.cancel):
            part.setEnabled(running)

    # ------------------------------------------------------------------ the run

    def make(self, trial: bool) -> None:
        """Start the run: all rows that are on, or test pictures of the chosen ones."""
        chosen = self.table.chosen if trial else []
        wanted = [row for row in self._rows if (row.shot.id in chosen if chosen else row.shot.on)]
        bad = [row for row in wanted if row.wrong]
        if bad and not trial:
            number = self._rows.index(bad[0]) + 1
            self._bridge.notices.trouble(f"Row {number}: {bad[0].wrong} Nothing was started.")
            return
        shots = [(row.shot.id, row.file) for row in wanted if not row.wrong]
        if not trial:
            told = doubts([row.item for row in wanted if row.item is not None], "review", self.out)
            if told:
                self._bridge.notices.note(" ".join(told[:2]))
        try:
            self.production.start(self._bridge.document.settled, self.project_path, self.out, shots, trial)
        except UserError as error:
            self._bridge.notices.trouble(error.sentence)
        self._show_run()

    def _pause(self) -> None:
        self.production.pause(self.pause.isChecked())
        self._show_run()

    def _prefer(self) -> None:
        chosen = self.table.chosen
        self.production.prefer([row.file for row in self._rows if row.shot.id in chosen])

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

    def _show_run(self) -> None:
        production = self.production
        state = production.state
        self.table.show_pieces(state.pieces)
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
        self._show_buttons()

    def _run_ended(self, good: bool, sentence: str) -> None:
        self.told.tell(sentence)
        self.progress.hide()
        aside = [piece.sentence for piece in self.production.state.pieces.values() if piece.state == ASIDE]
        if not good:
            self._bridge.notices.note(" ".join([sentence, *aside[:2]]))
        self.results.fill(self.out)
        self._show_buttons()
        self.finished(good)

    def finished(self, good: bool) -> None:
        """What was chosen to happen at the end; commands are run by the process itself."""
        if good and self.production.end_action == "notify":
            self._bridge.notices.note("All is made.")
        elif good and self.production.end_action == "close":
            window = self.window()
            QTimer.singleShot(400, window.close)

    def opened(self, path: Path | None) -> str:
        """Another project: find its run.  "going", "broken" or nothing."""
        self.project_path = self.settings.project_path = (path or Path("untitled.altana")).resolve()
        self.row_pictures.follow_project(self.project_path)
        self.tone.follow_project(self.project_path)
        found = self.production.pick_up(self.project_path)
        self.results.fill(self.out)
        self._show_run()
        return found

    def resume(self) -> None:
        """Go on with the run that was broken off."""
        self.production.resume(self.project_path)
        self._show_run()

    # ------------------------------------------------------------------ results

    def choose_page(self, index: int) -> None:
        """The list, or what was made."""
        self.page_choice.take(index)
        self.pages.setCurrentIndex(index)
        if index == RESULTS:
            self.results.fill(self.out)
        self._show_view()

    def _row_of(self, path: Path) -> Row | None:
        return next((row for row in self._rows if row.file and self.out / row.file == path), None)

    @property
    def file(self) -> Path | None:
        """The file that is looked at."""
        return self.results.file

    def _show_view(self) -> None:
        results = self.pages.currentIndex() == RESULTS
        picture = results and self.results.shows_picture
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
        row = self._row_of(path) if path is not None else None
        item = row.item if row is not None else None
        master = master_path(self.out, row.file) if row is not None else None
        self.tone.open(
            row.shot if row is not None else None,
            item.camera.ev if isinstance(item, Picture) else 10.0,
            master,
        )

    def _write_toned(self) -> None:
        """Make the files again whose masters are there: only their tone is another."""
        shots = [
            (row.shot.id, row.file)
            for row in self._rows
            if row.shot.on and not row.wrong and row.shot.kind == STILL
        ]
        kept = [(shot, file) for shot, file in shots if master_path(self.out, file).is_file()]
        try:
            self.production.start(self._bridge.document.settled, self.project_path, self.out, kept)
        except UserError as error:
            self._bridge.notices.trouble(error.sentence)

    def _go_to_framing(self) -> None:
        if self.file is not None:
            self.frame_wanted.emit(self.file)

    def _open_folder(self) -> None:
        QDesktopServices.openUrl(QUrl.fromLocalFile(str(self.out)))

    # ------------------------------------------------------------------ regions

    def _draw_region(self) -> None:
        """A region is drawn in the picture that was made, or in the small one."""
        chosen = self.table.chosen
        row = next((row for row in self._rows if row.shot.id in chosen), None)
        if row is None:
            return
        self.choose_page(RESULTS)
        self.results.viewers.setCurrentWidget(self.picture)
        path = self.out / row.file
        image = read_picture(path) if row.shot.region is None and path.is_file() else None
        if image is None:
            if row.shot.region is None:
                image = self.row_pictures.image_of(row)
            self.row_pictures.ask_whole(row)
        self.picture.mode = FIT
        self.picture.show_picture(image)
        self.picture.drawing_region = True
        self._region_of = row.shot.id
        self._bridge.notices.note(
            "Draw a rectangle over the picture: only that part is made, at its own pixels."
        )

    def _show_region_picture(self, shot_id: str, image: QImage) -> None:
        if self.picture.drawing_region and shot_id == self._region_of:
            self.picture.show_picture(image)

    def _take_region(self, left: float, top: float, right: float, bottom: float) -> None:
        shot = self._region_of
        region = (round(left, 4), round(top, 4), round(right, 4), round(bottom, 4))
        if shot:
            self._bridge.apply("Region", lambda project: change_shots(project, [shot], region=region))
            self.choose_page(LIST)

    # ------------------------------------------------------------------ pages for the client

    def _fill_pages(self, menu: QMenu) -> None:
        kinds = (
            ("Contact sheet (PNG)", ("sheet",), "one"),
            ("Presentation, a picture a page (PDF)", ("presentation",), "one"),
            ("Presentation, four a page (PDF)", ("presentation",), "grid"),
            ("Look round in a browser (HTML)", ("look-round",), "one"),
            (
                "Everything for the client (ZIP)",
                ("sheet", "presentation", "look-round", "index", "zip"),
                "one",
            ),
        )
        panoramas = any(
            row.shot.kind == PANORAMA and row.file and (self.out / row.file).is_file() for row in self._rows
        )
        for words, what, template in kinds:
            wanted = (
                what if panoramas or len(what) == 1 else tuple(name for name in what if name != "look-round")
            )
            action = menu.addAction(words, partial(self.make_pages, wanted, template))
            action.setEnabled(self._studio.scene is not None and (panoramas or what != ("look-round",)))

    def make_pages(self, what: tuple[str, ...], template: str = "one") -> None:
        """Write pages for the client beside the delivery, in the background."""
        scene = self._studio.scene
        if scene is None:
            return
        project, rows, out, model = self._bridge.document.settled, self._rows, self.out, scene.model
        self.told.tell("Writing pages for the client…")

        def write() -> str:
            try:
                return f"{', '.join(path.name for path in write_pages(project, rows, model, out, what, template))} in {out}."
            except UserError as error:
                return error.sentence

        failed = partial(self.told.tell, "No pages were written.")
        self._workspace.background.run("writing pages for the client", write, self._pages_made, failed)

    def _pages_made(self, sentence: str) -> None:
        self.told.tell(sentence)
        self.results.fill(self.out)
