"""The Walk desk: routes on the plan, played in the Frame, made into films."""

from __future__ import annotations

import time
from dataclasses import replace
from functools import partial

import numpy as np
from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QScrollArea, QSlider, QSplitter, QVBoxLayout, QWidget

from altana.app.bridge import Bridge
from altana.app.desks.timeline import Timeline
from altana.app.drawings.frame import FrameView
from altana.app.drawings.plan import PlanView
from altana.app.drawings.route import RouteOnPlan
from altana.app.scene import Studio
from altana.app.settings.walk import WalkSettings
from altana.app.state import ViewState
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import button, label, rule
from altana.core.conventions import STANDING_M, frame_count, parse_rate
from altana.core.edits.walks import add_walk, change_key, key_from_camera, timed, turntable_round
from altana.core.project import AHEAD, KEYED, Camera, Walk, WalkKey
from altana.core.staging import object_points
from altana.core.standing import ground_at
from altana.core.walk.checks import Flag
from altana.core.walk.sample import WalkLine, resolve

PLAY_MS = 40


class WalkDesk(QWidget):
    """List, Frame and plan, settings, and the bar that plays."""

    make_film = Signal()

    def __init__(self, bridge: Bridge, state: ViewState, studio: Studio, tokens: Tokens) -> None:
        super().__init__()
        self._bridge, self._state, self._studio, self._tokens = bridge, state, studio, tokens
        self._line: WalkLine | None = None
        self._flags_of: Walk | None = None
        self._flags: tuple[Flag, ...] = ()
        self._playing_since = 0.0
        self.frame = FrameView(bridge, state, studio, tokens, "walk", walking=True)
        self.plan = PlanView(bridge, state, studio, tokens, "walk plan")
        self.timeline = Timeline(tokens)
        self.route = RouteOnPlan(bridge, state, studio, self.plan, self.timeline, tokens)
        self.settings = WalkSettings(bridge, state, studio, self.timeline)
        self.settings.make_film.connect(self.make_film)
        self.settings.refused.connect(self.refresh)
        self.settings.go_to.connect(self._go_to)
        self.plan.overlay = self.route.paint
        self.plan.place_clicked.connect(self._add_place)
        self.plan.hands = self.route
        self._clock = QTimer(self)
        self._clock.setInterval(PLAY_MS)
        self._clock.timeout.connect(self._tick)
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
        split = QSplitter(Qt.Orientation.Horizontal)
        split.setChildrenCollapsible(False)
        split.setHandleWidth(1)
        split.addWidget(self.plan)
        split.addWidget(self.frame)
        split.setSizes([440, 380])
        middle.addWidget(split, 1)
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
            "Turntable", "", "Round the chosen object, or the whole building: closes without a repeated frame", self.add_turntable
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
        row.addWidget(self.play)
        row.addWidget(self.slider, 1)
        row.addWidget(self._moment)
        return bar

    # ------------------------------------------------------------------ walks

    def _drag_in_time(self, index: int, second: float) -> None:
        """A place is dragged along the time axis: from now on it is passed at that second."""
        walk = self._state.walk
        if walk is None or walk.locked:
            return
        if not self._bridge.in_gesture:
            self._bridge.begin()
        at = round(second, 6)
        self._bridge.preview(lambda project: timed(change_key(project, walk.id, index, at_s=at), walk.id))

    def add_turntable(self) -> None:
        """A turntable round the chosen object, or round what most of the building is."""
        scene = self._studio.scene
        if scene is None:
            return
        number = scene.lookup.index.get(self._state.object_id)
        if number is not None:
            points, name = object_points(scene.model, number).astype(float), scene.model.objects[number].name
        else:
            outlines = [(x, y, z) for room in scene.model.rooms for x, y in room.outline for z in (room.floor_m, room.ceiling_m)]
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
        cameras = [camera for item in self._state.selected if (camera := self._bridge.project.camera(item)) is not None]
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
            self._bridge.failed.emit("There is no floor here to walk on. Press a place on the building or the ground around it.")
            return
        self.route.drawn.append(WalkKey((x, y, ground.floor_m + STANDING_M), ev=10.7 if ground.inside else 13.4))
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
        self._line = None
        scene = self._studio.scene
        if walk is not None and scene is not None:
            try:
                self._line = resolve(walk, scene.floors)
            except ValueError as error:
                self._bridge.failed.emit(str(error))
            else:
                self._studio.order_walk_check(walk, self._bridge.project.limits)
        self.timeline.show_line(self._line, self._bridge.project.limits)
        self.timeline.show_flags(self._known_flags() or ())
        self.route.line = self._line
        if walk is not None:
            self.slider.blockSignals(True)
            self.slider.setRange(0, max(1, round(walk.seconds * 100)))
            self.slider.blockSignals(False)
        self.settings.show_walk(self._line)
        self.settings.show_flags(self._known_flags())
        self._show_buttons()
        self._show_moment(self._state.moment)
        self.plan.update()

    def _show_rows(self, walks: tuple[Walk, ...]) -> None:
        while self._rows.count():
            item = self._rows.takeAt(0)
            if item is not None and (widget := item.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        for walk in walks:
            made = button(
                f"{walk.name}\n{walk.seconds:g} s · {walk.rate} a second",
                "",
                walk.name,
                partial(self._state.choose_walk, walk.id),
                checkable=True,
            )
            made.setStyleSheet("text-align: left; padding: 6px 9px;")
            made.setChecked(walk.id == self._state.walk_id)
            made.setText(
                f"{self.fontMetrics().elidedText(walk.name, Qt.TextElideMode.ElideRight, 150)}\n{walk.seconds:g} s · {walk.rate} a second"
            )
            self._rows.addWidget(made)
        if not walks:
            empty = label("No walks yet.", "quiet")
            self._rows.addWidget(empty)
        self._rows.addStretch(1)

    def _take_flags(self, walk: Walk, flags: tuple[Flag, ...]) -> None:
        self._flags_of, self._flags = walk, flags
        if walk == self._state.walk:
            self.timeline.show_flags(flags)
            self.settings.show_flags(flags)

    def _known_flags(self) -> tuple[Flag, ...] | None:
        return self._flags if self._flags_of is not None and self._flags_of == self._state.walk else None

    def _show_key(self) -> None:
        self.settings.show_key()
        self.plan.update()

    def _show_buttons(self) -> None:
        chosen = len(self._state.selected)
        self.from_cameras.setEnabled(chosen >= 2)
        self.play.setEnabled(self._line is not None)
        self.slider.setEnabled(self._line is not None)
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
        return self._line.camera_at(seconds) if self._line is not None else None

    def _go_to(self, seconds: float) -> None:
        self._clock.stop()
        self.play.setText("Play")
        self._state.set_moment(seconds)

    def _show_moment(self, seconds: float) -> None:
        walk = self._state.walk
        self.timeline.show_moment(seconds)
        self.frame.override = self.route.eye = self.camera_at(seconds)
        self.slider.blockSignals(True)
        self.slider.setValue(round(seconds * 100))
        self.slider.blockSignals(False)
        if walk is not None:
            number = min(int(seconds * float(parse_rate(walk.rate)) + 1e-6), frame_count(walk.seconds, parse_rate(walk.rate)) - 1)
            self._moment.setText(f"{seconds:.2f} s of {walk.seconds:g} s · frame {number}")
        else:
            self._moment.setText("")
        if self.isVisible():
            self._follow_storey()
            self.frame.refresh()
        self.plan.update()

    def _fit_route(self) -> None:
        if self._line is not None:
            points = self._line.route.points[:, :2]
            self.plan.fit_to([points.min(axis=0) - 3.0, points.max(axis=0) + 3.0])

    def _follow_storey(self) -> None:
        camera, scene = self.frame.override, self._studio.scene
        if camera is not None and scene is not None:
            wanted = scene.model.storey_below(camera.eye[2] - 0.9)
            if wanted is not None and wanted != self.plan.storey:
                self.plan.choose_storey(wanted)

    # ------------------------------------------------------------------ playing

    def _scrubbed(self, value: int) -> None:
        self._clock.stop()
        self.play.setText("Play")
        self._state.set_moment(value / 100.0)

    def toggle_play(self) -> None:
        """Play from here, or stop."""
        walk = self._state.walk
        if self._clock.isActive():
            self._clock.stop()
            self.play.setText("Play")
            self.frame.refresh()
            return
        if walk is None or self._line is None:
            return
        start = 0.0 if self._state.moment >= walk.seconds - 0.05 else self._state.moment
        self._playing_since = time.monotonic() - start
        self.play.setText("Stop")
        self._clock.start()

    def _tick(self) -> None:
        """Time goes on as it does; pictures that come late are left out."""
        walk = self._state.walk
        if walk is None:
            self._clock.stop()
            return
        seconds = time.monotonic() - self._playing_since
        if seconds >= walk.seconds:
            seconds = walk.seconds
            self._clock.stop()
            self.play.setText("Play")
        self._state.set_moment(seconds)

    def hideEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        """Leaving the desk stops the play."""
        self._clock.stop()
        self.play.setText("Play")
        super().hideEvent(event)

    def showEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        """Coming to the desk shows the moment."""
        super().showEvent(event)
        QTimer.singleShot(0, self._fit_route)
        self._show_moment(self._state.moment)


def _calm_seconds(length_m: float) -> float:
    """A film length at a calm walking pace of one metre a second, within what is usual."""
    return float(min(80.0, max(8.0, round(length_m))))
