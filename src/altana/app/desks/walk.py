"""The Walk desk: routes on the plan, played in the Frame, made into films."""

from __future__ import annotations

import math
import time
from dataclasses import replace
from functools import partial

import numpy as np
from PySide6.QtCore import QPointF, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF
from PySide6.QtWidgets import QComboBox, QFrame, QHBoxLayout, QScrollArea, QSlider, QSplitter, QVBoxLayout, QWidget

from altana.app.bridge import Bridge
from altana.app.drawings.frame import FrameView
from altana.app.drawings.plan import PlanView
from altana.app.drawings.plan_sheet import PlanSheet
from altana.app.scene import Studio
from altana.app.state import ViewState
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import Group, NumberField, Segments, button, label, rule
from altana.core.conventions import COMMON_RATES, STANDING_M, frame_count, parse_rate
from altana.core.edits.walks import add_walk, key_from_camera, remove_walk, set_walk
from altana.core.project import AHEAD, KEYED, Camera, Walk, WalkKey
from altana.core.standing import ground_at
from altana.core.walk.sample import WalkLine, resolve

PLAY_MS = 40


class WalkDesk(QWidget):
    """List, Frame and plan, settings, and the bar that plays."""

    make_film = Signal()

    def __init__(self, bridge: Bridge, state: ViewState, studio: Studio, tokens: Tokens) -> None:
        super().__init__()
        self._bridge, self._state, self._studio, self._tokens = bridge, state, studio, tokens
        self._line: WalkLine | None = None
        self._route: list[WalkKey] = []
        self._playing_since = 0.0
        self.frame = FrameView(bridge, state, studio, tokens, "walk", walking=True)
        self.plan = PlanView(bridge, state, studio, tokens, "walk plan")
        self.plan.overlay = self._paint_route
        self.plan.place_clicked.connect(self._add_place)
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
        split = QSplitter(Qt.Orientation.Vertical)
        split.setChildrenCollapsible(False)
        split.setHandleWidth(1)
        split.addWidget(self.frame)
        split.addWidget(self.plan)
        split.setSizes([360, 300])
        middle.addWidget(split, 1)
        middle.addWidget(rule())
        middle.addWidget(self._bar())
        row.addLayout(middle, 1)
        row.addWidget(rule(vertical=True))
        row.addWidget(self._settings())
        bridge.walks_changed.connect(self.refresh)
        bridge.cameras_changed.connect(self._show_buttons)
        state.walk_changed.connect(self.refresh)
        state.selection_changed.connect(self._show_buttons)
        state.moment_changed.connect(self._show_moment)
        studio.opened.connect(self.refresh)
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
        column.addWidget(self.draw)
        column.addWidget(self.from_cameras)
        self._hint = label("", "quiet")
        self._hint.setWordWrap(True)
        column.addWidget(self._hint)
        column.addWidget(label("WALKTHROUGHS", "heading"))
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

    def _settings(self) -> QWidget:
        panel = QWidget()
        panel.setObjectName("chrome")
        panel.setFixedWidth(262)
        column = QVBoxLayout(panel)
        column.setContentsMargins(14, 10, 14, 10)
        column.setSpacing(8)
        timing = Group("Timing")
        self.seconds = NumberField("Length", "Length of the film in seconds; the pace follows", "s", 1, 0.5, 0.1, 3600.0)
        self.seconds.changed.connect(lambda value: self._set("Walk length", seconds=value))
        timing.add_field("Length", self.seconds)
        self.rate = QComboBox()
        self.rate.setAccessibleName("Film frames a second")
        self.rate.setToolTip("Film frames a second; changing it keeps the seconds")
        self.rate.addItems(COMMON_RATES)
        self.rate.activated.connect(lambda: self._set("Walk rate", rate=self.rate.currentText()))
        timing.add_field("Rate", self.rate)
        self._timing_facts = label("", "quiet")
        self._timing_facts.setWordWrap(True)
        timing.add_wide(self._timing_facts)
        self._timing = timing
        route = Group("Route")
        self.eye_height = NumberField(
            "Eye above floor", "Height of the eye above the floor under the route; stairs become ramps", "m", 2, 0.05, 0.2, 30.0
        )
        self.eye_height.changed.connect(lambda value: self._set("Walk eye height", eye_height_m=value))
        route.add_field("Eye above floor", self.eye_height)
        self.looking = Segments(
            [("Ahead", "Look along the route, corners anticipated"), ("As keyed", "Look as the cameras do, turning the short way")]
        )
        self.looking.chosen.connect(lambda index: self._set("Walk looking", looking=(AHEAD, KEYED)[index]))
        route.add_field("Looking", self.looking)
        self.reverse = button("Reverse", "", "Walk the route the other way", self._reverse)
        self.remove = button("Remove", "", "Remove this walk; undo brings it back", self._remove)
        route.add_wide(self.reverse, self.remove)
        picture = Group("Film")
        self.width_field = NumberField("Width", "Pixels across, an even number", "px", 0, 2, 16, 8192)
        self.height_field = NumberField("Height", "Pixels up, an even number", "px", 0, 2, 16, 8192)
        self.width_field.changed.connect(lambda value: self._set("Film size", width_px=2 * round(value / 2)))
        self.height_field.changed.connect(lambda value: self._set("Film size", height_px=2 * round(value / 2)))
        picture.add_field("Width", self.width_field)
        picture.add_field("Height", self.height_field)
        self._groups = (timing, route, picture)
        for index, group in enumerate(self._groups):
            if index:
                column.addWidget(rule())
            column.addWidget(group)
        column.addStretch(1)
        self.film = button("Make film…", "primary", "An H.264 film of this walk, in the background (key Ctrl+E)", self.make_film.emit)
        column.addWidget(self.film)
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

    def _set(self, text: str, **values: object) -> None:
        walk = self._state.walk
        if walk is not None:
            self._bridge.apply(text, lambda project: set_walk(project, walk.id, **values))
            self.refresh()

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
        self._route = []
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
        self._route.append(WalkKey((x, y, ground.floor_m + STANDING_M), ev=10.7 if ground.inside else 13.4))
        self._show_buttons()
        self.plan.update()

    def end_route(self) -> None:
        """The places pressed so far become a walk."""
        keys = tuple(self._route)
        self.draw.setChecked(False)
        if len(keys) >= 2:
            length = float(np.linalg.norm(np.diff([key.eye for key in keys], axis=0), axis=1).sum())
            self._add(Walk("", "Walk", keys, seconds=_calm_seconds(length), looking=AHEAD))

    def _reverse(self) -> None:
        walk = self._state.walk
        if walk is not None:
            turned = tuple(replace(key, heading_deg=(key.heading_deg + 180.0) % 360.0) for key in reversed(walk.keys))
            self._set("Reverse walk", keys=turned)

    def _remove(self) -> None:
        walk = self._state.walk
        if walk is not None:
            self._bridge.apply("Remove walk", lambda project: remove_walk(project, walk.id))

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
        for group in self._groups:
            group.body.setEnabled(walk is not None)
        if walk is not None:
            self._show_walk(walk)
        self._show_buttons()
        self._show_moment(self._state.moment)
        self.plan.update()

    def _show_rows(self, walks: tuple[Walk, ...]) -> None:
        while self._rows.count():
            item = self._rows.takeAt(0)
            if item is not None and (widget := item.widget()) is not None:
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

    def _show_walk(self, walk: Walk) -> None:
        self.seconds.show_value(walk.seconds)
        if self.rate.findText(walk.rate) < 0:
            self.rate.addItem(walk.rate)
        self.rate.setCurrentText(walk.rate)
        self.eye_height.show_value(walk.eye_height_m)
        self.looking.take(1 if walk.looking == KEYED else 0)
        self.width_field.show_value(walk.width_px)
        self.height_field.show_value(walk.height_px)
        count = frame_count(walk.seconds, parse_rate(walk.rate))
        self._timing.show_figure(f"{walk.seconds:g} s")
        if self._line is not None:
            self._timing_facts.setText(
                f"{count} film frames. The route is {self._line.route.length_m:.1f} m, walked at {self._line.pace_m_s:.2f} m/s."
            )
        self.slider.blockSignals(True)
        self.slider.setRange(0, max(1, round(walk.seconds * 100)))
        self.slider.blockSignals(False)

    def _show_buttons(self) -> None:
        chosen = len(self._state.selected)
        self.from_cameras.setEnabled(chosen >= 2)
        self.play.setEnabled(self._line is not None)
        self.film.setEnabled(self._line is not None)
        self.slider.setEnabled(self._line is not None)
        if self.draw.isChecked():
            count = len(self._route)
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
        walk, line = self._state.walk, self._line
        if walk is None or line is None:
            return None
        row = line.at_seconds(np.array([min(seconds, walk.seconds)]), parse_rate(walk.rate))
        x, y, z = row.eye[0].tolist()
        return Camera(
            "walk",
            walk.name,
            (x, y, z),
            float(row.heading_deg[0]) % 360.0,
            float(row.tilt_deg[0]),
            focal_mm=float(row.focal_mm[0]),
            width_px=walk.width_px,
            height_px=walk.height_px,
            ev=float(row.ev[0]),
            inside=float(row.ev[0]) < 12.5,
            aim_m=3.0,
        )

    def _show_moment(self, seconds: float) -> None:
        walk = self._state.walk
        self.frame.override = self.camera_at(seconds)
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

    # ------------------------------------------------------------------ the route on the plan

    def _paint_route(self, painter: QPainter, plan: PlanSheet) -> None:
        green, ink = QColor(self._tokens.verdigris), QColor(self._tokens.ink)
        if self.draw.isChecked():
            points = [plan.to_screen(*key.eye[:2]) for key in self._route]
            painter.setPen(QPen(green, 2.0, Qt.PenStyle.DashLine))
            painter.drawPolyline(QPolygonF(points))
            self._dots(painter, points, green)
            return
        if self._line is None:
            return
        scene, route = self._studio.scene, self._line.route
        assert scene is not None
        step = max(1, len(route.points) // 400)
        points_m = route.points[::step]
        here = [scene.model.storey_below(float(z) - 0.9) == plan.storey for z in points_m[:, 2]]
        for index in range(len(points_m) - 1):
            faint = QColor(green)
            faint.setAlpha(255 if here[index] else 80)
            painter.setPen(QPen(faint, 2.4 if here[index] else 1.6))
            painter.drawLine(plan.to_screen(*points_m[index, :2]), plan.to_screen(*points_m[index + 1, :2]))
        self._dots(painter, [plan.to_screen(*key.eye[:2]) for key in self._line.walk.keys], green)
        camera = self.frame.override
        if camera is not None:
            at, heading = plan.to_screen(*camera.eye[:2]), math.radians(camera.heading_deg)
            half = math.radians(camera.view().angles_of_view()[0]) / 2
            wash = QColor(green)
            wash.setAlpha(60)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(wash)
            reach = 70.0
            painter.drawPolygon(
                QPolygonF(
                    [
                        at,
                        *(
                            QPointF(at.x() + reach * math.sin(heading + a), at.y() - reach * math.cos(heading + a))
                            for a in np.linspace(-half, half, 9).tolist()
                        ),
                    ]
                )
            )
            painter.setPen(QPen(ink, 1.5))
            painter.setBrush(green)
            painter.drawEllipse(at, 6.0, 6.0)

    def _dots(self, painter: QPainter, points: list[QPointF], colour: QColor) -> None:
        painter.setPen(QPen(colour, 1.8))
        painter.setBrush(QColor(self._tokens.leaf))
        for point in points:
            painter.drawEllipse(point, 4.0, 4.0)


def _calm_seconds(length_m: float) -> float:
    """A film length at a calm walking pace of one metre a second, within what is usual."""
    return float(min(80.0, max(8.0, round(length_m))))
