"""The Walk desk: routes on the plan, played in the Frame, made into films."""

from __future__ import annotations

import importlib

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import QHBoxLayout, QSplitter, QVBoxLayout, QWidget

from altana.app.canvas.plan import PlanView
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import rule
from altana.app.theme.words import tr
from altana.app.walk.film_frame import Filmed, FilmFrame
from altana.app.walk.findings import Findings
from altana.app.walk.long_section import LongSection
from altana.app.walk.player import PlayBar
from altana.app.walk.route import RouteOnPlan
from altana.app.walk.settings import WalkSettings
from altana.app.walk.time_edits import TimeEdits
from altana.app.walk.timeline import Timeline
from altana.app.walk.walk_list import WalkList
from altana.app.workspace.soon import Soon
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import frame_count, parse_rate
from altana.core.errors import Refused
from altana.core.project import Camera
from altana.core.walk.sample import WalkLine, resolve

#: Film frames are drawn ahead so long after a play.
FILL_AFTER_MS = 1200
#: What routes and their timing need is loaded so long after a project came that nobody looks at them, and
#: what it is.
LOAD_AFTER_MS, LOADED = 1500, ("scipy.interpolate", "scipy.ndimage")
LOADING = "loading what routes need"


class WalkDesk(QWidget):
    """List, Frame and plan, settings, and the bar that plays."""

    make_film = Signal()

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__()
        self._bridge, self._state, self._studio, self._tokens = bridge, state, studio, tokens
        self.line: WalkLine | None = None
        #: The walk changed while the desk was out of sight.
        self._late = False
        self.frame = FilmFrame(workspace, tokens)
        self.plan = PlanView(workspace, tokens, tr("walk plan"))
        self.timeline = Timeline(tokens)
        self.long = LongSection(tokens, self.timeline)
        self.route = RouteOnPlan(workspace, self.plan, self.timeline, tokens)
        self.settings = WalkSettings(workspace, self.timeline)
        self.settings.make_film.connect(self.make_film)
        self.settings.edits.refused.connect(self.refresh)
        self.settings.flags.go_to.connect(self._go_to)
        self.plan.overlay = self.route.paint
        self.plan.hands = self.route
        self._fill = Soon(self, FILL_AFTER_MS, self._fill_reel)
        #: Loaded here it would hold the window when the desk is first come to.
        self._load = Soon(
            self, LOAD_AFTER_MS, lambda: workspace.background.run(LOADING, _load, lambda _: None)
        )
        self.findings = Findings(workspace)
        self.findings.changed.connect(self._show_flags)
        self.findings.unrolled.connect(self.long.show_sheet)
        self.bar = PlayBar(workspace, self.timeline)
        self.bar.started.connect(self._stop_filling)
        self.bar.stopped.connect(self._fill.start)
        self.walks = WalkList(workspace, self.plan, self.route)
        self.walks.added.connect(self._fit_route)
        self.walks.fill_menu = self.settings.route.fill_more
        self.edits = TimeEdits(workspace, self.timeline, self.bar, self.settings)
        self._lay_out()
        self._connect(workspace)
        self.refresh()

    def _lay_out(self) -> None:
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.walks)
        row.addWidget(rule(vertical=True))
        middle = QVBoxLayout()
        middle.setSpacing(0)
        split = QSplitter(Qt.Orientation.Horizontal)
        split.setChildrenCollapsible(False)
        split.setHandleWidth(1)
        split.addWidget(self.plan)
        split.addWidget(self.frame)
        split.setSizes([440, 380])
        # What a large window has to give goes to the picture first.
        split.setStretchFactor(0, 2)
        split.setStretchFactor(1, 5)
        stack = QSplitter(Qt.Orientation.Vertical)
        stack.setChildrenCollapsible(False)
        stack.setHandleWidth(1)
        stack.addWidget(split)
        stack.addWidget(self.long)
        stack.setStretchFactor(0, 1)
        stack.setSizes([380, 138])
        middle.addWidget(stack, 1)
        middle.addWidget(rule())
        middle.addWidget(self.bar)
        middle.addWidget(rule())
        middle.addWidget(self.timeline)
        row.addLayout(middle, 1)
        row.addWidget(rule(vertical=True))
        row.addWidget(self.settings)

    def _connect(self, workspace: Workspace) -> None:
        state = workspace.state
        self.timeline.moved.connect(self._go_to)
        self.timeline.key_chosen.connect(lambda _: self._show_key())
        self.timeline.look_chosen.connect(self.settings.looking.show_look)
        self.timeline.remove_wanted.connect(self.settings.places.remove_places)
        self.long.moved.connect(self._go_to)
        self.long.lifting.connect(self.edits.lift)
        self.long.lifted.connect(lambda: self._bridge.commit(tr("Height of a place")))
        workspace.bridge.walks_changed.connect(self.refresh)
        state.walk_changed.connect(self.refresh)
        state.moment_changed.connect(self._show_moment)
        workspace.studio.opened.connect(self.refresh)
        workspace.studio.opened.connect(self._load.start)

    @property
    def playing(self) -> bool:
        """Whether the walk is played."""
        return self.bar.playing

    def _stop_filling(self) -> None:
        self.frame.stop_filling()
        self._fill.stop()

    # ------------------------------------------------------------------ building

    # ------------------------------------------------------------------ walks

    # ------------------------------------------------------------------ showing

    def refresh(self) -> None:
        """Show the chosen walk; its route is worked out anew, out of sight only when the desk is come to."""
        walks = self._bridge.project.walks
        if self._state.walk is None and walks:
            self._state.walk_id = walks[0].id
        walk = self._state.walk
        self.walks.show_walks(walks)
        self.line = None
        # A route takes a moment to be worked out, and here nobody sees it.
        self._late = not self.isVisible()
        if self._late:
            self.route.line = None
            return
        scene = self._studio.scene
        if walk is not None and scene is not None:
            try:
                self.line = resolve(walk, scene.floors)
            except Refused as error:
                self._bridge.notices.trouble(error.sentence)
            else:
                self.findings.ask(walk)
        self.long.show_line(self.line, scene.model if scene is not None else None)
        self.long.show_sheet(self.findings.sheet)
        self.timeline.show_line(self.line, self._bridge.project.limits)
        self.timeline.show_flags(self.findings.known_flags() or ())
        self.route.line = self.line
        self.bar.show_line(self.line)
        self.settings.show_walk(self.line)
        self.settings.flags.show_flags(self.findings.known_flags())
        self.walks.show_buttons()
        self._show_moment(self._state.moment)
        self.plan.update()

    def _show_flags(self) -> None:
        self.timeline.show_flags(self.findings.known_flags() or ())
        self.settings.flags.show_flags(self.findings.known_flags())
        self.long.update()
        self.plan.update()

    def _show_key(self) -> None:
        self.settings.show_places()
        self.plan.update()
        self.long.update()

    def camera_at(self, seconds: float) -> Camera | None:
        """The walk's camera at a moment."""
        return self.line.camera_at(seconds) if self.line is not None else None

    def _filmed(self, number: int) -> Filmed | None:
        """A film frame by its number."""
        if self.line is None:
            return None
        second = number / float(parse_rate(self.line.walk.rate))
        return self.line.camera_at(second), self.line.light_at(second)

    def _fill_reel(self) -> None:
        walk = self._state.walk
        if walk is not None and self.line is not None and self.bar.played == walk and not self.playing:
            self.frame.fill(frame_count(walk.seconds, parse_rate(walk.rate)), self._filmed)

    def _go_to(self, seconds: float) -> None:
        self.bar.stop()
        self._state.set_moment(seconds)

    def _show_moment(self, seconds: float) -> None:
        walk = self._state.walk
        self.timeline.show_moment(seconds)
        self.long.update()
        number = 0
        if walk is not None:
            rate = parse_rate(walk.rate)
            number = min(int(seconds * float(rate) + 1e-6), frame_count(walk.seconds, rate) - 1)
        filmed: Filmed | None = None
        if self.line is not None:
            # Played, the film frame of the moment is shown; scrubbed, the moment itself.
            filmed = (
                self._filmed(number)
                if self.playing
                else (self.line.camera_at(seconds), self.line.light_at(seconds))
            )
        self.route.eye = filmed[0] if filmed is not None else None
        self.bar.show_moment(seconds, number)
        if self.isVisible():
            self.frame.show_film_frame(filmed, number, self.playing)
            self._follow_storey()
        else:
            self.frame.override = filmed[0] if filmed is not None else None
        self.plan.update()

    def _fit_route(self) -> None:
        if self.line is not None:
            points = self.line.route.points[:, :2]
            self.plan.fit_to([points.min(axis=0) - 3.0, points.max(axis=0) + 3.0])

    def _follow_storey(self) -> None:
        camera, scene = self.frame.override, self._studio.scene
        if camera is not None and scene is not None:
            wanted = scene.model.storey_of_eye(camera.eye)
            if wanted is not None and wanted != self.plan.storey:
                self.plan.choose_storey(wanted)

    # ------------------------------------------------------------------ playing

    def hideEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        """Leaving the desk stops the play."""
        self.bar.halt()
        self._stop_filling()
        self.findings.wanted = False
        super().hideEvent(event)

    def showEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        """Coming to the desk shows the moment."""
        super().showEvent(event)
        QTimer.singleShot(0, self._fit_route)
        self.findings.wanted = True
        if self._late:
            self.refresh()
        self.findings.ask_later()
        self._show_moment(self._state.moment)


def _load() -> None:
    for name in LOADED:
        importlib.import_module(name)
