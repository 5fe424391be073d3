"""The settings of a walk: timing, the chosen place, route, turntable, what the checks found, the film's size."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QComboBox, QInputDialog, QListWidget, QListWidgetItem, QMenu, QScrollArea, QVBoxLayout, QWidget

from altana.app.bridge import Bridge
from altana.app.desks.timeline import Timeline
from altana.app.scene import Studio
from altana.app.state import ViewState
from altana.app.theme.widgets import Group, NumberField, Segments, button, label, menu_button, rule, side_by_side
from altana.core.conventions import COMMON_RATES, frame_count, parse_rate
from altana.core.edits.walks import (
    change_key,
    duplicate_walk,
    join_walks,
    remove_key,
    remove_walk,
    reversed_walk,
    set_walk,
    split_walk,
    turntable_stills,
)
from altana.core.project import AHEAD, CORNER, EVEN, KEYED, POINT, SMOOTH, Look, Project, Walk
from altana.core.staging import object_points
from altana.core.walk.checks import Flag
from altana.core.walk.sample import WalkLine
from altana.core.walk.timing import seconds_for_pace


class WalkSettings(QWidget):
    """Shows the chosen walk and its chosen place, and changes them.

    ``refused`` when a change was not taken, ``go_to(seconds)`` when a flag is pressed.
    """

    make_film = Signal()
    refused = Signal()
    go_to = Signal(float)

    def __init__(self, bridge: Bridge, state: ViewState, studio: Studio, timeline: Timeline) -> None:
        super().__init__()
        self._bridge, self._state, self._studio, self._timeline = bridge, state, studio, timeline
        self._line: WalkLine | None = None
        self._build()

    # ------------------------------------------------------------------ building

    def _build(self) -> None:
        self.setObjectName("chrome")
        self.setFixedWidth(262)
        column = QVBoxLayout(self)
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
            signal.connect(lambda item: self.go_to.emit(float(item.data(Qt.ItemDataRole.UserRole))))
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
        self.film = button(
            "Make film…", "primary", "A film of this walk, or of a part of it, in the background (key Ctrl+E)", self.make_film.emit
        )
        column.addWidget(self.film)

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
        self.before_key = button("‹ Before", "small", "The place before (key Down in the timeline)", lambda: self._timeline.step_key(-1))
        self.next_key = button("Next ›", "small", "The next place (key Up in the timeline)", lambda: self._timeline.step_key(1))
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

    # ------------------------------------------------------------------ changing

    def _set(self, text: str, **values: object) -> None:
        walk = self._state.walk
        if walk is not None:
            self._change(text, walk, lambda project: set_walk(project, walk.id, **values))

    def _change(self, text: str, walk: Walk, edit: Callable[[Project], Project]) -> None:
        if not self._bridge.change_walk(text, walk, edit):
            # What was typed is not what holds.
            self.refused.emit()

    def _set_pace(self, pace: float) -> None:
        walk, line = self._state.walk, self._line
        if walk is not None and line is not None:
            self._set("Walk pace", seconds=round(seconds_for_pace(walk, line.route.length_m, pace), 3))

    def _set_key(self, text: str, **values: object) -> None:
        walk, index = self._state.walk, self._timeline.key
        if walk is not None and 0 <= index < len(walk.keys):
            self._change(text, walk, lambda project: change_key(project, walk.id, index, **values))

    def _fill_more(self, menu: QMenu) -> None:
        walk = self._state.walk
        if walk is None:
            return
        menu.addAction("Rename…", self._rename)
        menu.addAction("Duplicate", self._duplicate)
        part = menu.addAction("Part at the chosen place", self._part)
        part.setEnabled(0 < self._timeline.key < len(walk.keys) - 1)
        walks = [item for item in self._bridge.project.walks if item.turntable is None]
        following = walks[walks.index(walk) + 1] if walk in walks and walks.index(walk) + 1 < len(walks) else None
        if following is not None:
            menu.addAction(f"Join with {following.name}", partial(self._join, following.id))
        menu.addAction("Unlock" if walk.locked else "Lock", partial(self._lock, walk))

    def _lock(self, walk: Walk) -> None:
        self._bridge.apply(
            "Unlock walk" if walk.locked else "Lock walk", lambda project: set_walk(project, walk.id, locked=not walk.locked)
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
        walk, index = self._state.walk, self._timeline.key
        if walk is not None:
            self._change("Part walk", walk, lambda project: split_walk(project, walk.id, index)[0])

    def _join(self, other_id: str) -> None:
        walk = self._state.walk
        if walk is not None:
            self._change("Join walks", walk, lambda project: join_walks(project, walk.id, other_id))

    def _remove_key(self) -> None:
        walk, index = self._state.walk, self._timeline.key
        if walk is not None and 0 <= index < len(walk.keys):
            self._change("Remove place", walk, lambda project: remove_key(project, walk.id, index))

    def _look_at_object(self) -> None:
        """About the chosen place the walk looks at the middle of the chosen object."""
        walk, line, scene, index = self._state.walk, self._line, self._studio.scene, self._timeline.key
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

    def _set_table(self, name: str, value: object) -> None:
        walk = self._state.walk
        if walk is not None and walk.turntable is not None:
            self._set("Turntable", turntable=replace(walk.turntable, **{name: value}))  # type: ignore[arg-type]

    def _keep_stills(self) -> None:
        walk = self._state.walk
        if walk is not None:
            self._bridge.apply("Stops as cameras", lambda project: turntable_stills(project, walk.id, 8))

    def _reverse(self) -> None:
        walk = self._state.walk
        if walk is not None:
            turned = reversed_walk(walk)
            self._set("Reverse walk", **{name: getattr(turned, name) for name in Walk.__slots__ if name != "id"})

    def _remove(self) -> None:
        walk = self._state.walk
        if walk is not None:
            self._change("Remove walk", walk, lambda project: remove_walk(project, walk.id))

    # ------------------------------------------------------------------ showing

    def show_walk(self, line: WalkLine | None) -> None:
        """Follow the chosen walk; ``line`` is its route, None where it has none."""
        self._line, walk = line, self._state.walk
        for group in self._groups:
            group.body.setEnabled(walk is not None)
        if walk is not None:
            self._show_walk(walk)
        self.film.setEnabled(line is not None)
        self.show_key()

    def show_flags(self, flags: tuple[Flag, ...] | None) -> None:
        """What the checks found; None while they are still looking."""
        self.flag_list.clear()
        for number, flag in enumerate(flags or (), 1):
            made = QListWidgetItem(f"! {number}  {flag.sentence}")
            made.setData(Qt.ItemDataRole.UserRole, flag.worst_s)
            made.setToolTip("Press: goes there")
            self.flag_list.addItem(made)
        self.flag_list.setVisible(bool(flags))
        self._flag_group.show_figure("…" if flags is None else f"{len(flags)} found" if flags else "nothing found")

    def show_key(self) -> None:
        """Follow the chosen place."""
        walk, index = self._state.walk, self._timeline.key
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
