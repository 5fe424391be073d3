"""The Walk desk: routes on the plan, played in the Frame, made into films."""

from __future__ import annotations

import time
from dataclasses import replace
from functools import partial

import numpy as np
from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QScrollArea, QSlider, QSplitter, QVBoxLayout, QWidget

from altana.app.canvas.plan import PlanView
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import button, label, rule
from altana.app.walk.film_frame import Filmed, FilmFrame
from altana.app.walk.long_section import LongSection
from altana.app.walk.route import RouteOnPlan
from altana.app.walk.settings import WalkSettings
from altana.app.walk.timeline import Timeline
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import STANDING_M, frame_count, parse_rate
from altana.core.edits.walks import (
    add_walk,
    change_key,
    change_look,
    key_from_camera,
    paste_key_camera,
    paste_keys,
    set_walk,
    shift_keys,
    timed,
    turntable_round,
)
from altana.core.errors import Refused
from altana.core.project import AHEAD, KEYED, Camera, Project, Walk, WalkKey
from altana.core.staging import object_points
from altana.core.standing import ground_at
from altana.core.walk.checks import Flag
from altana.core.walk.mends import WORDS as MEND_WORDS
from altana.core.walk.mends import mended
from altana.core.walk.sample import WalkLine, resolve
from altana.core.walk.unrolled import Unrolled

PLAY_MS = 10
#: What takes long is asked when nothing has changed for so long; film frames are drawn ahead so long after a play.
ASK_MS, FILL_AFTER_MS = 500, 1200


class WalkDesk(QWidget):
    """List, Frame and plan, settings, and the bar that plays."""

    make_film = Signal()

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__()
        self._bridge, self._state, self._studio, self._tokens = bridge, state, studio, tokens
        self.line: WalkLine | None = None
        self.flags_of: Walk | None = None
        self.flags: tuple[Flag, ...] = ()
        self.film_flags: tuple[Walk | None, tuple[Flag, ...]] = (None, ())
        self._sheets: tuple[Walk | None, Unrolled | None] = (None, None)
        self._playing_since = 0.0
        self._played: Walk | None = None
        self._copied: tuple[WalkKey, ...] = ()
        self._dragged_from: list[float] = []
        self._rows_of: list[tuple[Walk, bool, bool]] | None = None
        self.frame = FilmFrame(workspace, tokens)
        self.plan = PlanView(workspace, tokens, "walk plan")
        self.timeline = Timeline(tokens)
        self.long = LongSection(tokens, self.timeline)
        self.route = RouteOnPlan(workspace, self.plan, self.timeline, tokens)
        self.settings = WalkSettings(workspace, self.timeline)
        self.settings.make_film.connect(self.make_film)
        self.settings.edits.refused.connect(self.refresh)
        self.settings.flags.go_to.connect(self._go_to)
        self.plan.overlay = self.route.paint
        self.plan.place_clicked.connect(self._add_place)
        self.plan.hands = self.route
        self._clock = QTimer(self)
        self._clock.setInterval(PLAY_MS)
        self._clock.timeout.connect(self._tick)
        self._fill = QTimer(self)
        self._fill.setSingleShot(True)
        self._fill.setInterval(FILL_AFTER_MS)
        self._fill.timeout.connect(self._fill_reel)
        self._ask = QTimer(self)
        self._ask.setSingleShot(True)
        self._ask.setInterval(ASK_MS)
        self._ask.timeout.connect(self._ask_about)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self._list_panel())
        row.addWidget(rule(vertical=True))
        middle = QVBoxLayout()
        middle.setSpacing(0)
        self.timeline.moved.connect(self._go_to)
        self.timeline.key_chosen.connect(lambda _: self._show_key())
        self.timeline.key_moving.connect(self._drag_in_time)
        self.timeline.key_moved.connect(lambda: self._bridge.commit("Second of a place"))
        self.timeline.look_chosen.connect(self.settings.looking.show_look)
        self.timeline.look_moving.connect(self._drag_look)
        self.timeline.look_moved.connect(lambda: self._bridge.commit("Span of looking"))
        self.timeline.copy_wanted.connect(self.copy_places)
        self.timeline.paste_wanted.connect(self.paste_places)
        self.timeline.remove_wanted.connect(self.settings.places.remove_places)
        self.settings.places.copy_wanted.connect(self.copy_places)
        self.settings.places.paste_wanted.connect(self.paste_places)
        self.settings.flags.mend_wanted.connect(self._mend)
        self.long.moved.connect(self._go_to)
        self.long.lifting.connect(self._lift)
        self.long.lifted.connect(lambda: self._bridge.commit("Height of a place"))
        split = QSplitter(Qt.Orientation.Horizontal)
        split.setChildrenCollapsible(False)
        split.setHandleWidth(1)
        split.addWidget(self.plan)
        split.addWidget(self.frame)
        split.setSizes([440, 380])
        stack = QSplitter(Qt.Orientation.Vertical)
        stack.setChildrenCollapsible(False)
        stack.setHandleWidth(1)
        stack.addWidget(split)
        stack.addWidget(self.long)
        stack.setStretchFactor(0, 1)
        stack.setSizes([380, 138])
        middle.addWidget(stack, 1)
        middle.addWidget(rule())
        middle.addWidget(self._bar())
        middle.addWidget(rule())
        middle.addWidget(self.timeline)
        row.addLayout(middle, 1)
        row.addWidget(rule(vertical=True))
        row.addWidget(self.settings)
        bridge.walks_changed.connect(self.refresh)
        bridge.cameras_changed.connect(self._show_buttons)
        state.walk_changed.connect(self.refresh)
        state.selection_changed.connect(self._show_buttons)
        state.moment_changed.connect(self._show_moment)
        studio.opened.connect(self.refresh)
        studio.walk_checked.connect(self._take_flags)
        studio.film_checked.connect(self._take_film_flags)
        studio.unrolled.connect(self._take_sheet)
        self.refresh()

    # ------------------------------------------------------------------ building

    def _list_panel(self) -> QWidget:
        panel = QWidget()
        panel.setObjectName("chrome")
        panel.setFixedWidth(200)
        column = QVBoxLayout(panel)
        column.setContentsMargins(10, 10, 10, 8)
        column.setSpacing(7)
        self.draw = button(
            "Draw a route",
            "outline",
            "Press places on the plan one after the other; Return ends the route, Escape drops it (key R)",
            checkable=True,
        )
        self.draw.toggled.connect(self._draw_toggled)
        self.from_cameras = button(
            "Walk the chosen cameras",
            "",
            "A walk through the cameras chosen in the strip, in the order they were chosen (Control-press adds one)",
            self.walk_cameras,
        )
        self.turn = button(
            "Turntable",
            "",
            "Round the chosen object, or the whole building: closes without a repeated frame",
            self.add_turntable,
        )
        column.addWidget(self.draw)
        column.addWidget(self.from_cameras)
        column.addWidget(self.turn)
        self._hint = label("", "quiet")
        self._hint.setWordWrap(True)
        column.addWidget(self._hint)
        column.addWidget(label("WALKS AND TURNTABLES", "heading"))
        self._rows = QVBoxLayout()
        self._rows.setSpacing(5)
        self._rows.setContentsMargins(0, 0, 4, 0)
        inner = QWidget()
        inner.setObjectName("chrome")
        inner.setLayout(self._rows)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setWidget(inner)
        column.addWidget(scroll, 1)
        return panel

    def _bar(self) -> QFrame:
        bar = QFrame()
        bar.setObjectName("chrome")
        bar.setFixedHeight(46)
        row = QHBoxLayout(bar)
        row.setContentsMargins(14, 4, 14, 4)
        row.setSpacing(10)
        self.play = button("Play", "", "Play or stop, at the real rate (Space)", self.toggle_play)
        self.play.setFixedWidth(66)
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setAccessibleName("Moment")
        self.slider.setToolTip("The moment shown; drag to scrub")
        self.slider.valueChanged.connect(self._scrubbed)
        self._moment = label("0.00 s")
        self._moment.setMinimumWidth(168)
        self.loop = button(
            "Loop",
            "small",
            "Begin anew at the end; with several places chosen, between the first and the last of them",
            checkable=True,
        )
        row.addWidget(self.play)
        row.addWidget(self.loop)
        row.addWidget(self.slider, 1)
        row.addWidget(self._moment)
        return bar

    # ------------------------------------------------------------------ walks

    def _drag_in_time(self, index: int, second: float) -> None:
        """A place is dragged along the time axis, and the other chosen ones with it: from now on they have their seconds."""
        walk, line = self._state.walk, self.line
        if walk is None or line is None or walk.locked:
            return
        if not self._bridge.in_gesture:
            self._bridge.begin()
            self._dragged_from = line.timing.key_s.tolist()
        shift = second - self._dragged_from[index]
        wanted = [(number, self._dragged_from[number] + shift) for number in self.timeline.keys | {index}]
        self._bridge.preview(lambda project: timed(shift_keys(project, walk.id, wanted), walk.id))

    def _drag_look(self, index: int, start: float, end: float) -> None:
        walk = self._state.walk
        if walk is None or walk.locked:
            return
        if not self._bridge.in_gesture:
            self._bridge.begin()
        self._bridge.preview(
            lambda project: change_look(project, walk.id, index, start=round(start, 5), end=round(end, 5))
        )

    def _lift(self, index: int, z: float) -> None:
        walk = self._state.walk
        if walk is None or walk.locked:
            return
        if not self._bridge.in_gesture:
            self._bridge.begin()
        x, y, _ = walk.keys[index].eye
        self._bridge.preview(
            lambda project: timed(change_key(project, walk.id, index, eye=(x, y, round(z, 2))), walk.id)
        )

    def copy_places(self) -> None:
        """Remember the chosen places, to put them in elsewhere."""
        walk = self._state.walk
        if walk is not None and self.timeline.keys:
            self._copied = tuple(walk.keys[index] for index in sorted(self.timeline.keys))
            self.settings.places.show_copied(len(self._copied))

    def paste_places(self, camera_only: bool) -> None:
        """Put the copied places in behind the chosen one; or give the chosen ones the first one's camera."""
        walk, timeline = self._state.walk, self.timeline
        if walk is None or not self._copied or not timeline.keys:
            self._bridge.notices.note(
                "Choose places in the timeline and copy them (Control C), then choose where they go."
            )
            return
        if camera_only:
            chosen, first = sorted(timeline.keys), self._copied[0]
            self._bridge.change_walk(
                "Camera of a place", walk, lambda project: paste_key_camera(project, walk.id, chosen, first)
            )
            return
        after, copied = max(timeline.keys), self._copied
        self._bridge.change_walk(
            "Put in places", walk, lambda project: paste_keys(project, walk.id, after, copied)
        )

    def _mend(self, flag: Flag, how: str) -> None:
        """Mend what a flag says."""
        walk, line, scene = self._state.walk, self.line, self._studio.scene
        if walk is None or line is None or scene is None:
            return

        def edit(project: Project) -> Project:
            made = mended(line, flag, how, scene.rays)
            return set_walk(
                project,
                walk.id,
                **{name: getattr(made, name) for name in ("keys", "seconds", "anticipation_m")},
            )

        self._bridge.change_walk(MEND_WORDS[how][0], walk, edit)

    def add_turntable(self) -> None:
        """A turntable round the chosen object, or round what most of the building is."""
        scene = self._studio.scene
        if scene is None:
            return
        number = scene.lookup.index.get(self._state.object_id)
        if number is not None:
            points, name = object_points(scene.model, number).astype(float), scene.model.objects[number].name
        else:
            outlines = [
                (x, y, z)
                for room in scene.model.rooms
                for x, y in room.outline
                for z in (room.floor_m, room.ceiling_m)
            ]
            points, name = (np.array(outlines) if outlines else scene.bounds), self._bridge.project.name
        low, high = points.min(axis=0), points.max(axis=0)
        eye = float(low[2] + max(1.6, 0.35 * (high[2] - low[2])))
        lowest, highest = ((float(corner[0]), float(corner[1]), float(corner[2])) for corner in (low, high))
        table = turntable_round(lowest, highest, eye, ev=13.4)
        table = replace(table, radius_m=round(table.radius_m, 2), eye_m=round(eye, 2))
        self._add(Walk("", f"Round {name}", (), seconds=240 / 25, rate="25", turntable=table))

    def _add(self, walk: Walk) -> None:
        created = self._bridge.apply_adding("Add walk", lambda project: add_walk(project, walk))
        if created:
            self._state.choose_walk(created)
            self._fit_route()

    def walk_cameras(self) -> None:
        """A walk through the selected cameras, in the order they were chosen."""
        cameras = [
            camera
            for item in self._state.selected
            if (camera := self._bridge.project.camera(item)) is not None
        ]
        if len(cameras) >= 2:
            first, last = cameras[0].name.split(",")[0], cameras[-1].name.split(",")[0]
            keys = tuple(key_from_camera(camera) for camera in cameras)
            length = float(np.linalg.norm(np.diff([key.eye for key in keys], axis=0), axis=1).sum())
            self._add(Walk("", f"{first} to {last}", keys, seconds=_calm_seconds(length), looking=KEYED))

    def _draw_toggled(self, on: bool) -> None:
        self.route.drawing, self.route.drawn = on, []
        self.plan.drawing_route = on
        self.plan.update()
        self.plan.setFocus()
        self._show_buttons()

    def _add_place(self, x: float, y: float, storey_m: float) -> None:
        scene = self._studio.scene
        ground = ground_at(scene.floors, (x, y), storey_m) if scene is not None else None
        if ground is None:
            self._bridge.notices.trouble(
                "There is no floor here to walk on. Press a place on the building or the ground around it."
            )
            return
        self.route.drawn.append(
            WalkKey((x, y, ground.floor_m + STANDING_M), ev=10.7 if ground.inside else 13.4)
        )
        self._show_buttons()
        self.plan.update()

    def end_route(self) -> None:
        """The places pressed so far become a walk."""
        keys = tuple(self.route.drawn)
        self.draw.setChecked(False)
        if len(keys) >= 2:
            length = float(np.linalg.norm(np.diff([key.eye for key in keys], axis=0), axis=1).sum())
            self._add(Walk("", "Walk", keys, seconds=_calm_seconds(length), looking=AHEAD))

    # ------------------------------------------------------------------ showing

    def refresh(self) -> None:
        """Show the chosen walk; its route is worked out anew."""
        walks = self._bridge.project.walks
        if self._state.walk is None and walks:
            self._state.walk_id = walks[0].id
        walk = self._state.walk
        self._show_rows(walks)
        self.line = None
        scene = self._studio.scene
        if walk is not None and scene is not None:
            try:
                self.line = resolve(walk, scene.floors)
            except Refused as error:
                self._bridge.notices.trouble(error.sentence)
            else:
                self._studio.order_walk_check(walk, self._bridge.project.limits)
                self._ask.start()
        self.long.show_line(self.line, scene.model if scene is not None else None)
        # A cut of the same walk as it was a moment ago is nearer than none; one of another walk is not.
        same = self._sheets[0] is not None and walk is not None and self._sheets[0].id == walk.id
        self.long.show_sheet(self._sheets[1] if same else None)
        self.timeline.show_line(self.line, self._bridge.project.limits)
        self.timeline.show_flags(self.known_flags() or ())
        self.route.line = self.line
        if walk is not None:
            self.slider.blockSignals(True)
            self.slider.setRange(0, max(1, round(walk.seconds * 100)))
            self.slider.blockSignals(False)
        self.settings.show_walk(self.line)
        self.settings.flags.show_flags(self.known_flags())
        self._show_buttons()
        self._show_moment(self._state.moment)
        self.plan.update()

    def _show_rows(self, walks: tuple[Walk, ...]) -> None:
        known = self._studio.scene is not None
        wanted = [(walk, walk.id == self._state.walk_id, known) for walk in walks]
        if wanted == self._rows_of:
            return
        self._rows_of = wanted
        while self._rows.count():
            item = self._rows.takeAt(0)
            if item is not None and (widget := item.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        for walk, chosen, _ in wanted:
            self._rows.addWidget(self._row(walk, chosen))
        if not walks:
            empty = label("No walks yet.", "quiet")
            self._rows.addWidget(empty)
        self._rows.addStretch(1)

    def _row(self, walk: Walk, chosen: bool) -> QWidget:
        """One walk: its name, what it is, how long, on which storeys, and whether its route shows on the plan."""
        line = QWidget()
        row = QHBoxLayout(line)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(3)
        what = "turntable" if walk.turntable is not None else self._storeys(walk)
        facts = f"{walk.seconds:g} s · {what}" + (" · locked" if walk.locked else "")
        name = self.fontMetrics().elidedText(walk.name, Qt.TextElideMode.ElideRight, 108)
        short = self.fontMetrics().elidedText(facts, Qt.TextElideMode.ElideRight, 112)
        made = button(
            f"{name}\n{short}", "", f"{walk.name}: {facts}, {walk.rate} film frames a second", checkable=True
        )
        made.setStyleSheet("text-align: left; padding: 5px 8px; min-height: 34px;")
        made.setAccessibleName(walk.name)
        made.setChecked(chosen)
        made.clicked.connect(partial(self._state.choose_walk, walk.id))
        made.setMinimumHeight(2 * self.fontMetrics().lineSpacing() + 14)
        shown = button(
            "Plan",
            "small",
            "Show its route on the plan while another walk is worked on, or not",
            checkable=True,
        )
        shown.setAccessibleName(f"Show the route of {walk.name} on the plan")
        shown.setFixedWidth(38)
        shown.setChecked(not walk.hidden)
        shown.clicked.connect(partial(self._show_route, walk))
        row.addWidget(made, 1)
        row.addWidget(shown)
        return line

    def _storeys(self, walk: Walk) -> str:
        """The storeys that a walk's places lie on, in the order of the walk."""
        scene = self._studio.scene
        if scene is None:
            return f"{len(walk.keys)} places"
        names: list[str] = []
        for key in walk.keys:
            storey = scene.model.storey_of_eye(key.eye)
            if storey is not None and storey.name not in names:
                names.append(storey.name)
        return " – ".join([names[0], names[-1]] if len(names) > 1 else names)

    def _show_route(self, walk: Walk, *_: object) -> None:
        self._bridge.apply(
            "Hide route" if not walk.hidden else "Show route",
            lambda project: set_walk(project, walk.id, hidden=not walk.hidden),
        )

    def _ask_about(self) -> None:
        """What takes longer is asked when the walk has rested: the long section, and what its film frames show."""
        walk, scene = self._state.walk, self._studio.scene
        if (
            walk is None
            or scene is None
            or self.line is None
            or self._bridge.in_gesture
            or not self.isVisible()
        ):
            return
        if self.film_flags[0] != walk:
            self._studio.order_film_check(walk, self._bridge.project)
        if walk.turntable is None and self._sheets[0] != walk:
            self._studio.order_unrolled(walk)

    def _take_flags(self, walk: Walk, flags: tuple[Flag, ...]) -> None:
        self.flags_of, self.flags = walk, flags
        if walk == self._state.walk:
            self._show_flags()

    def _take_film_flags(self, walk: Walk, flags: tuple[Flag, ...]) -> None:
        self.film_flags = walk, flags
        if walk == self._state.walk:
            self._show_flags()

    def _take_sheet(self, walk: Walk, sheet: Unrolled) -> None:
        if self._state.walk is not None and walk.id == self._state.walk.id:
            self._sheets = walk, sheet
            self.long.show_sheet(sheet)

    def _show_flags(self) -> None:
        self.timeline.show_flags(self.known_flags() or ())
        self.settings.flags.show_flags(self.known_flags())
        self.long.update()
        self.plan.update()

    def known_flags(self) -> tuple[Flag, ...] | None:
        """All flags of the walk as it is; None while the quick checks are still looking."""
        walk = self._state.walk
        if self.flags_of is None or self.flags_of != walk:
            return None
        more = self.film_flags[1] if self.film_flags[0] == walk else ()
        return tuple(sorted((*self.flags, *more), key=lambda flag: (flag.begin_s, flag.code)))

    def _show_key(self) -> None:
        self.settings.show_places()
        self.plan.update()
        self.long.update()

    def _show_buttons(self) -> None:
        chosen = len(self._state.selected)
        self.from_cameras.setEnabled(chosen >= 2)
        self.play.setEnabled(self.line is not None)
        self.slider.setEnabled(self.line is not None)
        if self.draw.isChecked():
            count = len(self.route.drawn)
            self._hint.setText(
                f"{count} {'place' if count == 1 else 'places'}. Press the next one on the plan; Return ends the route."
                if count
                else "Press the first place on the plan."
            )
        elif chosen >= 2:
            self._hint.setText(f"{chosen} cameras are chosen.")
        else:
            self._hint.setText("Or choose several cameras in Compose with Control.")

    def camera_at(self, seconds: float) -> Camera | None:
        """The walk's camera at a moment."""
        return self.line.camera_at(seconds) if self.line is not None else None

    def _filmed(self, number: int) -> Filmed | None:
        """A film frame by its number."""
        if self.line is None:
            return None
        second = number / float(parse_rate(self.line.walk.rate))
        return self.line.camera_at(second), self.line.hour_at(second)

    @property
    def playing(self) -> bool:
        """Whether the walk is played."""
        return self._clock.isActive()

    def _stop(self) -> None:
        """Stop playing; what was left out of the film frames is drawn when nothing else is."""
        if self._clock.isActive():
            self._clock.stop()
            self._fill.start()
        self.play.setText("Play")

    def _fill_reel(self) -> None:
        walk = self._state.walk
        if walk is not None and self.line is not None and self._played == walk and not self.playing:
            self.frame.fill(frame_count(walk.seconds, parse_rate(walk.rate)), self._filmed)

    def _go_to(self, seconds: float) -> None:
        self._stop()
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
                else (self.line.camera_at(seconds), self.line.hour_at(seconds))
            )
        self.route.eye = filmed[0] if filmed is not None else None
        self.slider.blockSignals(True)
        self.slider.setValue(round(seconds * 100))
        self.slider.blockSignals(False)
        if walk is not None:
            self._moment.setText(f"{seconds:.2f} s of {walk.seconds:g} s · frame {number}")
        else:
            self._moment.setText("")
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

    def _scrubbed(self, value: int) -> None:
        self._stop()
        self._state.set_moment(value / 100.0)

    def _part_played(self) -> tuple[float, float]:
        """From when to when is played: the whole walk, or looping between the chosen places."""
        assert self.line is not None
        whole = self.line.walk.seconds
        if self.loop.isChecked() and len(self.timeline.keys) >= 2:
            seconds = self.line.timing.key_s
            return float(seconds[min(self.timeline.keys)]), min(
                whole, float(seconds[max(self.timeline.keys)])
            )
        return 0.0, whole

    def toggle_play(self) -> None:
        """Play from here, or stop."""
        walk = self._state.walk
        if self._clock.isActive():
            self._stop()
            self._show_moment(self._state.moment)
            return
        if walk is None or self.line is None:
            return
        begin, end = self._part_played()
        start = self._state.moment if begin <= self._state.moment < end - 0.05 else begin
        self._playing_since = time.monotonic() - start
        self._played = walk
        self.frame.stop_filling()
        self._fill.stop()
        self.play.setText("Stop")
        self._clock.start()

    def _tick(self) -> None:
        """Time goes on as it does; pictures that come late are left out."""
        walk = self._state.walk
        if walk is None or self.line is None:
            self._stop()
            return
        begin, end = self._part_played()
        seconds = time.monotonic() - self._playing_since
        if seconds >= end and self.loop.isChecked():
            # What went beyond the end belongs to the next round: time is not lost.
            seconds = begin + (seconds - begin) % max(end - begin, 1e-3)
            self._playing_since = time.monotonic() - seconds
        elif seconds >= end:
            seconds = end
            self._stop()
        rate = float(parse_rate(walk.rate))
        if (
            self.playing
            and int(seconds * rate + 1e-6) == int(self._state.moment * rate + 1e-6)
            and seconds > self._state.moment
        ):
            return
        self._state.set_moment(seconds)

    def hideEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        """Leaving the desk stops the play."""
        self._clock.stop()
        self._fill.stop()
        self.frame.stop_filling()
        self.play.setText("Play")
        super().hideEvent(event)

    def showEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        """Coming to the desk shows the moment."""
        super().showEvent(event)
        QTimer.singleShot(0, self._fit_route)
        self._ask.start()
        self._show_moment(self._state.moment)


def _calm_seconds(length_m: float) -> float:
    """A film length at a calm walking pace of one metre a second, within what is usual."""
    return float(min(80.0, max(8.0, round(length_m))))
