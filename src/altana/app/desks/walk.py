"""The Walk desk: routes on the plan, played in the Frame, made into films."""

from __future__ import annotations

import math
import time
from dataclasses import replace
from functools import partial

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPen, QPolygonF
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QHBoxLayout,
    QInputDialog,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QScrollArea,
    QSlider,
    QSplitter,
    QVBoxLayout,
    QWidget,
)

from altana.app.bridge import Bridge
from altana.app.desks.timeline import Timeline
from altana.app.drawings.frame import FrameView
from altana.app.drawings.plan import PlanView
from altana.app.drawings.plan_sheet import PlanSheet
from altana.app.drawings.sheet import HANDLE_PX, apart
from altana.app.scene import Studio
from altana.app.state import ViewState
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import Group, NumberField, Segments, button, label, menu_button, rule, side_by_side
from altana.core.conventions import COMMON_RATES, STANDING_M, Vec2, frame_count, parse_rate
from altana.core.edits.walks import (
    add_walk,
    change_key,
    duplicate_walk,
    insert_key,
    join_walks,
    key_from_camera,
    remove_key,
    remove_walk,
    reversed_walk,
    set_walk,
    split_walk,
    turntable_round,
    turntable_stills,
)
from altana.core.project import AHEAD, CORNER, EVEN, KEYED, POINT, SMOOTH, Camera, Look, Project, Walk, WalkKey
from altana.core.staging import object_points
from altana.core.standing import floor_under, ground_at
from altana.core.walk.checks import Flag
from altana.core.walk.sample import WalkLine, resolve
from altana.core.walk.timing import seconds_for_pace

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
        self._route: list[WalkKey] = []
        self._playing_since = 0.0
        self.frame = FrameView(bridge, state, studio, tokens, "walk", walking=True)
        self.plan = PlanView(bridge, state, studio, tokens, "walk plan")
        self.plan.overlay = self._paint_route
        self.plan.place_clicked.connect(self._add_place)
        self.plan.hands = self
        self._moving: WalkKey | None = None
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
        self.timeline = Timeline(tokens)
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
        row.addWidget(self._settings())
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

    def _settings(self) -> QWidget:
        panel = QWidget()
        panel.setObjectName("chrome")
        panel.setFixedWidth(262)
        column = QVBoxLayout(panel)
        column.setContentsMargins(14, 10, 14, 10)
        column.setSpacing(8)
        self._timing = timing = self._timing_group()
        self._place_group = self._key_group()
        self._route_group = self._route_settings()
        self._table_group = self._turntable_group()
        self._flag_group = Group("Checks")
        self.flag_list = QListWidget()
        self.flag_list.setAccessibleName("What the checks found")
        self.flag_list.setWordWrap(True)
        self.flag_list.setFixedHeight(84)
        self.flag_list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        for signal in (self.flag_list.itemClicked, self.flag_list.itemActivated):
            signal.connect(lambda item: self._go_to(float(item.data(Qt.ItemDataRole.UserRole))))
        self._flag_group.add_wide(self.flag_list)
        picture = Group("Film")
        self.width_field = NumberField("Width", "Pixels across, an even number", "px", 0, 2, 16, 8192)
        self.height_field = NumberField("Height", "Pixels up, an even number", "px", 0, 2, 16, 8192)
        self.width_field.changed.connect(lambda value: self._set("Film size", width_px=2 * round(value / 2)))
        self.height_field.changed.connect(lambda value: self._set("Film size", height_px=2 * round(value / 2)))
        picture.add_field("Width", self.width_field)
        picture.add_field("Height", self.height_field)
        self._groups = (timing, self._place_group, self._table_group, self._route_group, self._flag_group, picture)
        inner = QWidget()
        inner.setObjectName("chrome")
        rows = QVBoxLayout(inner)
        rows.setContentsMargins(0, 0, 6, 0)
        rows.setSpacing(6)
        for index, group in enumerate(self._groups):
            if index:
                # Its rule belongs to a group, so that it goes where the group is hidden.
                group.layout().insertWidget(0, rule())  # type: ignore[union-attr]
            rows.addWidget(group)
        picture.fold()
        rows.addStretch(1)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setWidget(inner)
        column.addWidget(scroll, 1)
        self.film = button("Make film…", "primary", "An H.264 film of this walk, in the background (key Ctrl+E)", self.make_film.emit)
        column.addWidget(self.film)
        return panel

    def _timing_group(self) -> Group:
        timing = Group("Timing")
        self.seconds = NumberField("Length", "Length of the film in seconds; the pace follows", "s", 1, 0.5, 0.1, 3600.0)
        self.seconds.changed.connect(lambda value: self._set("Walk length", seconds=value))
        timing.add_field("Length", self.seconds)
        self.pace = NumberField("Pace", "Metres a second between eases and pauses; the length follows", "m/s", 2, 0.05, 0.02, 50.0)
        self.pace.changed.connect(self._set_pace)
        timing.add_field("Pace", self.pace)
        self.rate = QComboBox()
        self.rate.setAccessibleName("Film frames a second")
        self.rate.setToolTip("Film frames a second; changing it keeps the seconds")
        self.rate.addItems(COMMON_RATES)
        self.rate.activated.connect(lambda: self._set("Walk rate", rate=self.rate.currentText()))
        timing.add_field("Rate", self.rate)
        self.ease_in = NumberField("Ease in", "Setting off takes so long", "s", 1, 0.1, 0.0, 60.0)
        self.ease_out = NumberField("Ease out", "Coming to rest takes so long", "s", 1, 0.1, 0.0, 60.0)
        self.ease_in.changed.connect(lambda value: self._set("Ease in", ease_in_s=value))
        self.ease_out.changed.connect(lambda value: self._set("Ease out", ease_out_s=value))
        timing.add_pair("Ease in, out", self.ease_in, self.ease_out)
        self._timing_facts = label("", "quiet")
        self._timing_facts.setWordWrap(True)
        timing.add_wide(self._timing_facts)
        return timing

    def _key_group(self) -> Group:
        group = Group("Place")
        self.before_key = button("‹ Before", "small", "The place before (key Down in the timeline)", lambda: self._step_key(-1))
        self.next_key = button("Next ›", "small", "The next place (key Up in the timeline)", lambda: self._step_key(1))
        group.add_wide(self.before_key, self.next_key)
        self.dwell = NumberField("Dwell", "Pause here for so long", "s", 1, 0.5, 0.0, 600.0)
        self.dwell.changed.connect(lambda value: self._set_key("Dwell", dwell_s=value))
        group.add_field("Dwell", self.dwell)
        self.key_second = NumberField(
            "Passed at", "The second at which the walk comes here; typed, it stays there", "s", 2, 0.1, 0.0, 3600.0
        )
        self.key_second.changed.connect(lambda value: self._set_key("Second of a place", at_s=value))
        self.free = button(
            "by pace", "small", "Let the pace decide when the walk comes here", lambda: self._set_key("Second by pace", at_s=None)
        )
        group.add_pair("Passed at", self.free, self.key_second)
        self.bend = Segments(
            [
                (SMOOTH, "The route passes smoothly"),
                (EVEN, "With an even curvature: along the circle through the places beside it"),
                (CORNER, "Straight in and straight out"),
            ]
        )
        self.bend.chosen.connect(lambda index: self._set_key("Bend", bend=(SMOOTH, EVEN, CORNER)[index]))
        group.add_wide(self.bend)
        self.look_here = button(
            "Look at the chosen object", "small", "About this place look at the object chosen in the model", self._look_at_object
        )
        self.drop_key = button("Remove place", "small", "Take this place out of the route", self._remove_key)
        group.add_wide(side_by_side(self.look_here))
        group.add_wide(self.drop_key)
        return group

    def _route_settings(self) -> Group:
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
        self.anticipation = NumberField("Anticipation", "Corners are looked round so many metres early", "m", 1, 0.1, 0.0, 20.0)
        self.anticipation.changed.connect(lambda value: self._set("Anticipation", anticipation_m=value))
        route.add_field("Anticipation", self.anticipation)
        self.plumb = button(
            "Keep plumb", "small", "Verticals stay upright throughout: tilt becomes rise", self._toggle_plumb, checkable=True
        )
        self.reverse = button("Reverse", "small", "Walk the route the other way", self._reverse)
        self.remove = button("Remove", "small", "Remove this walk; undo brings it back", self._remove)
        route.add_wide(self.plumb, self.reverse, self.remove)
        self.more = menu_button("More ▾", "Rename, duplicate, part, join, lock", self._fill_more)
        route.add_wide(self.more)
        return route

    def _turntable_group(self) -> Group:
        group = Group("Turntable")
        fields = (
            ("radius_m", "Radius", "Metres from the centre", "m", 2, 0.5, 0.05, 1e5),
            ("eye_m", "Eye height", "Height of the eye above zero", "m", 2, 0.1, -1e4, 1e4),
            ("start_deg", "Begins at", "Where it begins, seen from the centre: 180° is south", "°", 0, 5.0, -3600.0, 3600.0),
            ("sweep_deg", "Sweep", "How far it goes, clockwise where positive", "°", 0, 15.0, -3600.0, 3600.0),
            ("focal_mm", "Focal length", "Focal length", "mm", 1, 1.0, 4.0, 1200.0),
        )
        self.table_fields: dict[str, NumberField] = {}
        for name, text, tip, unit, decimals, step, low, high in fields:
            made = NumberField(text, tip, unit, decimals, step, low, high)
            made.changed.connect(partial(self._set_table, name))
            self.table_fields[name] = made
            group.add_field(text, made)
        self.aimed = Segments([("At the centre", "Tilted so that the centre lies in the middle"), ("Level", "Level, whatever the height")])
        self.aimed.chosen.connect(lambda index: self._set_table("level", index == 1))
        group.add_wide(self.aimed)
        self.stills = button("Eight stops as cameras", "small", "Keep eight even stops of this turntable as cameras", self._keep_stills)
        group.add_wide(self.stills)
        return group

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
        if walk is not None and walk.locked and "locked" not in values:
            self._bridge.failed.emit(f"{walk.name} is locked. Unlock it (More ▾), then change it.")
            self.refresh()
        elif walk is not None:
            self._bridge.apply(text, lambda project: _timed(set_walk(project, walk.id, **values), walk.id))
            self.refresh()

    def _set_pace(self, pace: float) -> None:
        walk, line = self._state.walk, self._line
        if walk is not None and line is not None:
            self._set("Walk pace", seconds=round(seconds_for_pace(walk, line.route.length_m, pace), 3))

    def _set_key(self, text: str, **values: object) -> None:
        walk, index = self._state.walk, self.timeline.key
        if walk is not None and walk.locked:
            self._bridge.failed.emit(f"{walk.name} is locked. Unlock it (More ▾), then change it.")
        elif walk is not None and 0 <= index < len(walk.keys):
            self._bridge.apply(text, lambda project: _timed(change_key(project, walk.id, index, **values), walk.id))
            self.refresh()

    def _drag_in_time(self, index: int, second: float) -> None:
        """A place is dragged along the time axis: from now on it is passed at that second."""
        walk = self._state.walk
        if walk is None or walk.locked:
            return
        if not self._bridge.in_gesture:
            self._bridge.begin()
        at = round(second, 6)
        self._bridge.preview(lambda project: _timed(change_key(project, walk.id, index, at_s=at), walk.id))

    def _fill_more(self, menu: QMenu) -> None:
        walk = self._state.walk
        if walk is None:
            return
        menu.addAction("Rename…", self._rename)
        menu.addAction("Duplicate", self._duplicate)
        part = menu.addAction("Part at the chosen place", self._part)
        part.setEnabled(0 < self.timeline.key < len(walk.keys) - 1)
        walks = [item for item in self._bridge.project.walks if item.turntable is None]
        following = walks[walks.index(walk) + 1] if walk in walks and walks.index(walk) + 1 < len(walks) else None
        if following is not None:
            menu.addAction(f"Join with {following.name}", partial(self._join, following.id))
        menu.addAction(
            "Unlock" if walk.locked else "Lock", lambda: self._set("Unlock walk" if walk.locked else "Lock walk", locked=not walk.locked)
        )

    def _rename(self) -> None:
        walk = self._state.walk
        if walk is not None:
            name, said = QInputDialog.getText(self, "Rename walk", "Name", text=walk.name)
            if said and name.strip():
                self._set("Rename walk", name=name.strip())

    def _duplicate(self) -> None:
        walk = self._state.walk
        if walk is not None:
            created = self._bridge.apply_adding("Duplicate walk", lambda project: duplicate_walk(project, walk.id))
            if created:
                self._state.choose_walk(created)

    def _part(self) -> None:
        walk, index = self._state.walk, self.timeline.key
        if walk is not None:
            self._bridge.apply_adding("Part walk", lambda project: split_walk(project, walk.id, index))
            self.timeline.key = -1
            self.refresh()

    def _join(self, other_id: str) -> None:
        walk = self._state.walk
        if walk is not None:
            self._bridge.apply("Join walks", lambda project: join_walks(project, walk.id, other_id))
            self.refresh()

    def _remove_key(self) -> None:
        walk, index = self._state.walk, self.timeline.key
        if walk is not None and 0 <= index < len(walk.keys):
            self._bridge.apply("Remove place", lambda project: remove_key(project, walk.id, index))
            self.refresh()

    def _step_key(self, step: int) -> None:
        walk = self._state.walk
        if walk is not None and walk.keys:
            self.timeline.choose_key(min(len(walk.keys) - 1, max(0, self.timeline.key + step)))

    def _look_at_object(self) -> None:
        """About the chosen place the walk looks at the middle of the chosen object."""
        walk, line, scene, index = self._state.walk, self._line, self._studio.scene, self.timeline.key
        number = scene.lookup.index.get(self._state.object_id) if scene is not None else None
        if walk is None or line is None or scene is None or number is None or not 0 <= index < len(walk.keys):
            self._bridge.failed.emit(
                "Choose a place in the timeline, and an object: press on it in the Frame of Compose or in the model's list."
            )
            return
        points = object_points(scene.model, number).astype(float)
        x, y, z = ((points.min(axis=0) + points.max(axis=0)) / 2).tolist()
        at = float(line.route.key_m[index]) / line.route.length_m
        span = 1.5 / line.route.length_m
        look = Look(max(0.0, at - span), min(1.0, at + span), POINT, (x, y, z))
        self._set("Look at an object", looks=(*walk.looks, look))

    def _toggle_plumb(self) -> None:
        self._set("Keep plumb" if self.plumb.isChecked() else "Let it tilt", kept_plumb=self.plumb.isChecked())

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

    def _set_table(self, name: str, value: object) -> None:
        walk = self._state.walk
        if walk is not None and walk.turntable is not None:
            self._set("Turntable", turntable=replace(walk.turntable, **{name: value}))  # type: ignore[arg-type]

    def _keep_stills(self) -> None:
        walk = self._state.walk
        if walk is not None:
            self._bridge.apply("Stops as cameras", lambda project: turntable_stills(project, walk.id, 8))

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
            turned = reversed_walk(walk)
            self._set("Reverse walk", **{name: getattr(turned, name) for name in Walk.__slots__ if name != "id"})

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
            else:
                self._studio.order_walk_check(walk, self._bridge.project.limits)
        self.timeline.show_line(self._line, self._bridge.project.limits)
        self.timeline.show_flags(self._flags if walk is not None and walk == self._flags_of else ())
        for group in self._groups:
            group.body.setEnabled(walk is not None)
        if walk is not None:
            self._show_walk(walk)
        self._show_key()
        self._show_flags()
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
            self._show_flags()

    def _show_flags(self) -> None:
        known = self._flags_of is not None and self._flags_of == self._state.walk
        flags = self._flags if known else ()
        self.flag_list.clear()
        for number, flag in enumerate(flags, 1):
            made = QListWidgetItem(f"! {number}  {flag.sentence}")
            made.setData(Qt.ItemDataRole.UserRole, flag.worst_s)
            made.setToolTip("Press: goes there")
            self.flag_list.addItem(made)
        self.flag_list.setVisible(bool(flags))
        self._flag_group.show_figure((f"{len(flags)} found" if flags else "nothing found") if known else "…")

    def _show_key(self) -> None:
        walk, index = self._state.walk, self.timeline.key
        there = walk is not None and walk.turntable is None and 0 <= index < len(walk.keys)
        for part in (self.dwell, self.key_second, self.free, self.bend, self.look_here, self.drop_key):
            part.setEnabled(there)
        count = len(walk.keys) if walk is not None else 0
        self._place_group.show_figure(f"{index + 1} of {count}" if there else f"none of {count} chosen")
        if walk is None or not there or self._line is None:
            return
        key = walk.keys[index]
        self.dwell.show_value(key.dwell_s)
        self.key_second.show_value(float(self._line.timing.key_s[index]))
        ends = index in (0, count - 1)
        self.key_second.setEnabled(not ends)
        self.free.setEnabled(key.at_s is not None and not ends)
        self.bend.take((SMOOTH, EVEN, CORNER).index(key.bend))
        self.plan.update()

    def _show_walk(self, walk: Walk) -> None:
        turning = walk.turntable is not None
        self._place_group.setVisible(not turning)
        self._table_group.setVisible(turning)
        for part in (self.eye_height, self.looking, self.anticipation):
            part.setEnabled(not turning)
        if walk.turntable is not None:
            for name, field in self.table_fields.items():
                field.show_value(float(getattr(walk.turntable, name)))
            self.aimed.take(int(walk.turntable.level))
        self.pace.show_value(self._line.pace_m_s if self._line is not None else 0.0)
        self.pace.setEnabled(not turning)
        self.ease_in.show_value(walk.ease_in_s)
        self.ease_out.show_value(walk.ease_out_s)
        for part in (self.ease_in, self.ease_out):
            part.setEnabled(not turning)
        self.anticipation.show_value(walk.anticipation_m)
        self.plumb.setChecked(walk.kept_plumb)
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
        if walk.turntable is not None:
            self._timing_facts.setText(
                f"{count} film frames, {abs(walk.turntable.sweep_deg) / count:.2f}° each; the last is one step before the first."
            )
        elif self._line is not None:
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
            rise_mm=float(row.rise_mm[0]),
            cross_mm=float(row.cross_mm[0]),
            near_m=float(row.near_m[0]) if np.isfinite(row.near_m[0]) else None,
            far_m=float(row.far_m[0]) if np.isfinite(row.far_m[0]) else None,
            width_px=walk.width_px,
            height_px=walk.height_px,
            ev=float(row.ev[0]),
            inside=float(row.ev[0]) < 12.5,
            aim_m=3.0,
        )

    def _go_to(self, seconds: float) -> None:
        self._clock.stop()
        self.play.setText("Play")
        self._state.set_moment(seconds)

    def _show_moment(self, seconds: float) -> None:
        walk = self._state.walk
        self.timeline.show_moment(seconds)
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
        if 0 <= self.timeline.key < len(self._line.walk.keys):
            painter.setBrush(green)
            painter.drawEllipse(plan.to_screen(*self._line.walk.keys[self.timeline.key].eye[:2]), 4.0, 4.0)
        for number, flag in enumerate(self.timeline.flags, 1):
            at = plan.to_screen(*flag.place[:2])
            painter.setPen(QPen(QColor(self._tokens.brick), 1.6))
            painter.setBrush(QColor(self._tokens.leaf))
            painter.drawRoundedRect(QRectF(at.x() - 10, at.y() - 22, 20, 13), 3, 3)
            painter.drawText(QRectF(at.x() - 10, at.y() - 22, 20, 13), Qt.AlignmentFlag.AlignCenter, f"!{number}")
            painter.drawLine(at - QPointF(0, 9), at)
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

    # ------------------------------------------------------------------ places in hand

    def _place_at(self, at: QPointF) -> int:
        walk = self._state.walk
        keys = walk.keys if walk is not None else ()
        near = [(apart(self.plan.to_screen(*key.eye[:2]), at), index) for index, key in enumerate(keys)]
        away, index = min(near, default=(math.inf, -1))
        return index if away <= HANDLE_PX else -1

    def take(self, at: QPointF, place: Vec2, event: QMouseEvent) -> bool:
        """Take a place of the route on the plan; it is the chosen one from then on."""
        walk, index = self._state.walk, self._place_at(at)
        if walk is None or index < 0 or walk.locked:
            return False
        self.timeline.choose_key(index)
        self._moving = walk.keys[index]
        self._bridge.begin()
        return True

    def carry(self, place: Vec2) -> None:
        """The place goes along, at its height above the floor that is really there."""
        walk, index, key, scene = self._state.walk, self.timeline.key, self._moving, self._studio.scene
        if walk is None or key is None or scene is None:
            return
        under, there = floor_under(scene.floors, key.eye), ground_at(scene.floors, place, key.eye[2] - walk.eye_height_m)
        z = key.eye[2] if under is None or there is None else there.floor_m + key.eye[2] - under
        self._bridge.preview(lambda project: _timed(change_key(project, walk.id, index, eye=(place[0], place[1], z)), walk.id))

    def put_down(self) -> None:
        """One undo step for the whole drag."""
        self._moving = None
        self._bridge.commit("Move place")

    def twice(self, at: QPointF, place: Vec2) -> None:
        """A new place on the route where it was pressed twice."""
        walk, line = self._state.walk, self._line
        if walk is None or line is None or walk.turntable is not None or self._place_at(at) >= 0:
            return
        away = np.hypot(*(line.route.points[:, :2] - place).T)
        nearest = int(np.argmin(away))
        if away[nearest] * self.plan._scale > HANDLE_PX * 1.5:
            return
        distance = float(line.route.along_m[nearest])
        index = int(np.searchsorted(line.route.key_m, distance))
        second = float(np.interp(distance, line.route.key_m, line.timing.key_s))
        row = line.at_seconds(np.array([second]), parse_rate(walk.rate))
        x, y, z = line.route.points[nearest].tolist()
        key = WalkKey((x, y, z), float(row.heading_deg[0]) % 360.0, float(row.tilt_deg[0]), float(row.focal_mm[0]), float(row.ev[0]))
        if self._bridge.apply("New place", lambda project: insert_key(project, walk.id, index, key)):
            self.timeline.choose_key(index)

    def _dots(self, painter: QPainter, points: list[QPointF], colour: QColor) -> None:
        painter.setPen(QPen(colour, 1.8))
        painter.setBrush(QColor(self._tokens.leaf))
        for point in points:
            painter.drawEllipse(point, 4.0, 4.0)


def _timed(project: Project, walk_id: str) -> Project:
    """The project itself, or ValueError where the walk can no longer be timed."""
    walk = project.walk(walk_id)
    if walk is not None:
        resolve(walk, None)
    return project


def _calm_seconds(length_m: float) -> float:
    """A film length at a calm walking pace of one metre a second, within what is usual."""
    return float(min(80.0, max(8.0, round(length_m))))
