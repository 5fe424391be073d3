"""The settings of a walk: timing, the chosen place, route, turntable, what the checks found, the film's size."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial

import numpy as np
from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtWidgets import (
    QComboBox,
    QInputDialog,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from altana.app.theme.widgets import (
    Group,
    NumberField,
    Segments,
    button,
    label,
    menu_button,
    relabel,
    stacked,
)
from altana.app.walk.timeline import Timeline, look_words
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import COMMON_RATES, FAR_WHEN_ON_M, NEAR_WHEN_ON_M, Vec3, frame_count, parse_rate
from altana.core.edits.shots import without_subjects
from altana.core.edits.walks import (
    add_look,
    change_key,
    change_keys,
    change_look,
    duplicate_walk,
    join_walks,
    remove_keys,
    remove_look,
    remove_walk,
    reversed_walk,
    set_walk,
    split_walk,
    turntable_stills,
)
from altana.core.project import AHEAD, CORNER, EVEN, KEYED, POINT, SMOOTH, Look, Project, Walk, WalkKey
from altana.core.staging import object_points
from altana.core.walk.checks import Flag
from altana.core.walk.mends import WORDS as MEND_WORDS
from altana.core.walk.mends import mends_for
from altana.core.walk.sample import WalkLine
from altana.core.walk.timing import seconds_for_pace

#: A new span of looking lasts so long.
LOOK_S = 3.0


class WalkSettings(QWidget):
    """Shows the chosen walk and its chosen place, and changes them.

    ``refused`` when a change was not taken, ``go_to(seconds)`` when a flag is pressed.
    """

    make_film = Signal()
    refused = Signal()
    go_to = Signal(float)
    copy_wanted = Signal()
    paste_wanted = Signal(bool)
    mend_wanted = Signal(object, str)

    def __init__(self, workspace: Workspace, timeline: Timeline) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__()
        self._bridge, self._state, self._studio, self._timeline = bridge, state, studio, timeline
        self._line: WalkLine | None = None
        self._flags: tuple[Flag, ...] = ()
        self._copied = 0
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
        self._camera_group = self._key_camera_group()
        self._look_group = self._looking_group()
        self._route_group = self._route_settings()
        self._table_group = self._turntable_group()
        self._flag_group = Group("Checks")
        self.flag_list = QListWidget()
        self.flag_list.setAccessibleName("What the checks found")
        self.flag_list.setWordWrap(True)
        self.flag_list.setFixedHeight(84)
        self.flag_list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        for signal in (self.flag_list.itemClicked, self.flag_list.itemActivated):
            signal.connect(
                lambda item: self.go_to.emit(self._flags[int(item.data(Qt.ItemDataRole.UserRole))].worst_s)
            )
        self.flag_list.currentRowChanged.connect(self._show_mends)
        self._flag_group.add_wide(self.flag_list)
        self.mends = {
            how: button(words, "small", tip, partial(self._want_mend, how))
            for how, (words, tip) in MEND_WORDS.items()
        }
        holder = QWidget()
        self._mend_row = QVBoxLayout(holder)
        self._mend_row.setContentsMargins(0, 0, 0, 0)
        self._mend_row.setSpacing(4)
        for made in self.mends.values():
            self._mend_row.addWidget(made)
            made.hide()
        self._flag_group.add_wide(holder)
        picture = Group("Film")
        self.width_field = NumberField("Width", "Pixels across, an even number", "px", 0, 2, 16, 8192)
        self.height_field = NumberField("Height", "Pixels up, an even number", "px", 0, 2, 16, 8192)
        self.width_field.changed.connect(lambda value: self._set("Film size", width_px=2 * round(value / 2)))
        self.height_field.changed.connect(
            lambda value: self._set("Film size", height_px=2 * round(value / 2))
        )
        picture.add_field("Width", self.width_field)
        picture.add_field("Height", self.height_field)
        self._groups = (
            timing,
            self._place_group,
            self._camera_group,
            self._look_group,
            self._table_group,
            self._route_group,
            self._flag_group,
            picture,
        )
        for group in (picture, self._camera_group, self._look_group, self._route_group):
            group.fold()
        column.addWidget(stacked(self._groups), 1)
        self.film = button(
            "Make film…",
            "primary",
            "A film of this walk, or of a part of it, in the background (key Ctrl+E)",
            self.make_film.emit,
        )
        column.addWidget(self.film)

    def _timing_group(self) -> Group:
        timing = Group("Timing")
        self.seconds = NumberField(
            "Length", "Length of the film in seconds; the pace follows", "s", 1, 0.5, 0.1, 3600.0
        )
        self.seconds.changed.connect(lambda value: self._set("Walk length", seconds=value))
        timing.add_field("Length", self.seconds)
        self.pace = NumberField(
            "Pace", "Metres a second between eases and pauses; the length follows", "m/s", 2, 0.05, 0.02, 50.0
        )
        self.pace.changed.connect(self._set_pace)
        timing.add_field("Pace", self.pace)
        self.rate = QComboBox()
        self.rate.setAccessibleName("Film frames a second")
        self.rate.setToolTip("Film frames a second; changing it keeps the seconds")
        self.rate.addItems(COMMON_RATES)
        self.rate.activated.connect(lambda: self._set("Walk rate", rate=self.rate.currentText()))
        timing.add_field("Rate", self.rate)
        self.frames = NumberField(
            "Film frames", "How many film frames at this rate; the length follows", "", 0, 1.0, 1.0, 400_000.0
        )
        self.frames.changed.connect(self._set_frames)
        timing.add_field("Film frames", self.frames)
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
        self.before_key = button(
            "‹ Before",
            "small",
            "The place before (key Down in the timeline)",
            lambda: self._timeline.step_key(-1),
        )
        self.next_key = button(
            "Next ›", "small", "The next place (key Up in the timeline)", lambda: self._timeline.step_key(1)
        )
        group.add_wide(self.before_key, self.next_key)
        self.dwell = NumberField("Dwell", "Pause here for so long", "s", 1, 0.5, 0.0, 600.0)
        self.dwell.changed.connect(lambda value: self._set_key("Dwell", dwell_s=value))
        group.add_field("Dwell", self.dwell)
        self.key_second = NumberField(
            "Passed at",
            "The second at which the walk comes here; typed, it stays there",
            "s",
            2,
            0.1,
            0.0,
            3600.0,
        )
        self.key_second.changed.connect(lambda value: self._set_key("Second of a place", at_s=value))
        self.free = button(
            "by pace",
            "small",
            "Let the pace decide when the walk comes here",
            lambda: self._set_key("Second by pace", at_s=None),
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
        self.key_height = NumberField(
            "Eye over storey",
            "Height of the eye above the floor of its storey; set by hand where the walk does not follow the floor",
            "m",
            2,
            0.05,
            -50.0,
            500.0,
        )
        self.key_height.changed.connect(self._set_height)
        group.add_field("Eye over storey", self.key_height)
        self.drop_key = button(
            "Remove",
            "small",
            "Take the chosen places out of the route (key Delete in the timeline)",
            self.remove_places,
        )
        self.places_menu = menu_button(
            "Copy, put in ▾", "Copied places: put in, or their camera only", self._fill_places
        )
        group.add_wide(self.drop_key, self.places_menu)
        return group

    def _key_camera_group(self) -> Group:
        """The lens, exposure, sun, shift and bounds that the walk has at the chosen places."""
        group = Group("Camera here")
        fields = (
            (
                "focal_mm",
                "Focal length",
                "Focal length here; between places it changes smoothly",
                "mm",
                1,
                1.0,
                4.0,
                1200.0,
            ),
            ("ev", "Exposure", "Exposure here; lower is brighter", "EV", 1, 0.1, -10.0, 25.0),
            ("rise_mm", "Rise", "Shift of the lens up (or down) here", "mm", 1, 0.5, -60.0, 60.0),
            ("cross_mm", "Cross", "Shift of the lens to the right (or left) here", "mm", 1, 0.5, -60.0, 60.0),
            (
                "heading_deg",
                "Heading",
                "Where the walk looks here, when it looks as keyed",
                "°",
                1,
                1.0,
                -720.0,
                720.0,
            ),
            ("tilt_deg", "Tilt", "How far it looks up, when it looks as keyed", "°", 1, 1.0, -89.0, 89.0),
        )
        self.key_fields: dict[str, NumberField] = {}
        for name, text, tip, unit, decimals, step, low, high in fields:
            made = NumberField(text, tip, unit, decimals, step, low, high)
            made.changed.connect(partial(self._set_key_field, text, name))
            self.key_fields[name] = made
            group.add_field(text, made)
        self.key_switches: dict[str, QPushButton] = {}
        switched = (
            (
                "near_m",
                "Hide nearer",
                "The near bound here, metres from the eye; between two places it moves evenly",
                "m",
                2,
                0.1,
                0.02,
                1e4,
            ),
            ("far_m", "Hide beyond", "The far bound here, metres from the eye", "m", 1, 1.0, 0.1, 1e5),
            (
                "hour",
                "Time of day",
                "Local hour here: the sun moves on between places that have one",
                "h",
                2,
                0.25,
                0.0,
                24.0,
            ),
        )
        for name, text, tip, unit, decimals, step, low, high in switched:
            made = NumberField(text, tip, unit, decimals, step, low, high)
            made.changed.connect(partial(self._set_key_field, text, name))
            switch = button(
                "off",
                "small",
                f"{text}: on or off here",
                partial(self._switch_key, text, name),
                checkable=True,
            )
            switch.setFixedWidth(38)
            self.key_fields[name], self.key_switches[name] = made, switch
            group.add_pair(text, switch, made)
        return group

    def _looking_group(self) -> Group:
        """Spans of the walk that look elsewhere than the walk does."""
        group = Group("Looking")
        self.looking = Segments(
            [
                ("Ahead", "Look along the route, corners anticipated"),
                ("As keyed", "Look as the cameras do, turning the short way"),
            ]
        )
        self.looking.chosen.connect(lambda index: self._set("Walk looking", looking=(AHEAD, KEYED)[index]))
        group.add_field("The walk looks", self.looking)
        self.anticipation = NumberField(
            "Anticipation", "Corners are looked round so many metres early", "m", 1, 0.1, 0.0, 20.0
        )
        self.anticipation.changed.connect(lambda value: self._set("Anticipation", anticipation_m=value))
        group.add_field("Anticipation", self.anticipation)
        self.look_list = QListWidget()
        self.look_list.setAccessibleName("Spans of looking")
        self.look_list.setFixedHeight(58)
        self.look_list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.look_list.currentRowChanged.connect(self._choose_look)
        group.add_wide(self.look_list)
        self.look_from = NumberField("From", "Second at which this span begins", "s", 2, 0.1, 0.0, 3600.0)
        self.look_to = NumberField("To", "Second at which this span ends", "s", 2, 0.1, 0.0, 3600.0)
        for field in (self.look_from, self.look_to):
            field.changed.connect(lambda _: self._set_look_span())
        group.add_pair("From, to", self.look_from, self.look_to)
        self.look_here = button(
            "Look at the object",
            "small",
            "From here on, for three seconds, look at the object chosen in the model",
            self._look_at_object,
        )
        self.look_more = menu_button(
            "Span ▾", "More spans of looking, and what the chosen one does", self._fill_look
        )
        group.add_wide(self.look_here, self.look_more)
        return group

    def _route_settings(self) -> Group:
        route = Group("Route")
        self.eye_height = NumberField(
            "Eye above floor",
            "Height of the eye above the floor under the route; stairs become ramps",
            "m",
            2,
            0.05,
            0.2,
            30.0,
        )
        self.eye_height.changed.connect(lambda value: self._set("Walk eye height", eye_height_m=value))
        route.add_field("Eye above floor", self.eye_height)
        self.heights = Segments(
            [
                ("Over the floor", "The eye keeps its height over the floor under it; stairs become ramps"),
                ("As set", "Each place has its own height; lift places in the long section"),
            ]
        )
        self.heights.chosen.connect(lambda index: self._set("Heights", follow_floor=index == 0))
        route.add_wide(self.heights)
        self.plumb = button(
            "Keep plumb",
            "small",
            "Verticals stay upright throughout: tilt becomes rise",
            self._toggle_plumb,
            checkable=True,
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
            (
                "start_deg",
                "Begins at",
                "Where it begins, seen from the centre: 180° is south",
                "°",
                0,
                5.0,
                -3600.0,
                3600.0,
            ),
            (
                "sweep_deg",
                "Sweep",
                "How far it goes, clockwise where positive",
                "°",
                0,
                15.0,
                -3600.0,
                3600.0,
            ),
            ("focal_mm", "Focal length", "Focal length", "mm", 1, 1.0, 4.0, 1200.0),
        )
        self.table_fields: dict[str, NumberField] = {}
        for name, text, tip, unit, decimals, step, low, high in fields:
            made = NumberField(text, tip, unit, decimals, step, low, high)
            made.changed.connect(partial(self._set_table, name))
            self.table_fields[name] = made
            group.add_field(text, made)
        self.aimed = Segments(
            [
                ("At the centre", "Tilted so that the centre lies in the middle"),
                ("Level", "Level, whatever the height"),
            ]
        )
        self.aimed.chosen.connect(lambda index: self._set_table("level", index == 1))
        group.add_wide(self.aimed)
        self.stills = button(
            "Eight stops as cameras",
            "small",
            "Keep eight even stops of this turntable as cameras",
            self._keep_stills,
        )
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

    def _set_frames(self, frames: float) -> None:
        walk = self._state.walk
        if walk is not None:
            self._set("Film frames", seconds=float(round(frames) / parse_rate(walk.rate)))

    def _set_key(self, text: str, **values: object) -> None:
        walk, chosen = self._state.walk, sorted(self._timeline.keys)
        if walk is not None and chosen:
            self._change(text, walk, lambda project: change_keys(project, walk.id, chosen, **values))

    def _fill_more(self, menu: QMenu) -> None:
        walk = self._state.walk
        if walk is None:
            return
        menu.addAction("Rename…", self._rename)
        menu.addAction("Duplicate", self._duplicate)
        part = menu.addAction("Part at the chosen place", self._part)
        part.setEnabled(0 < self._timeline.key < len(walk.keys) - 1)
        walks = [item for item in self._bridge.project.walks if item.turntable is None]
        following = (
            walks[walks.index(walk) + 1] if walk in walks and walks.index(walk) + 1 < len(walks) else None
        )
        if following is not None:
            menu.addAction(f"Join with {following.name}", partial(self._join, following.id))
        menu.addAction("Unlock" if walk.locked else "Lock", partial(self._lock, walk))

    def _lock(self, walk: Walk) -> None:
        self._bridge.apply(
            "Unlock walk" if walk.locked else "Lock walk",
            lambda project: set_walk(project, walk.id, locked=not walk.locked),
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
            created = self._bridge.apply_adding(
                "Duplicate walk", lambda project: duplicate_walk(project, walk.id)
            )
            if created:
                self._state.choose_walk(created)

    def _part(self) -> None:
        walk, index = self._state.walk, self._timeline.key
        if walk is not None:
            self._change("Part walk", walk, lambda project: split_walk(project, walk.id, index)[0])

    def _join(self, other_id: str) -> None:
        walk = self._state.walk
        if walk is not None:
            self._change(
                "Join walks", walk, lambda project: without_subjects(join_walks(project, walk.id, other_id))
            )

    def remove_places(self) -> None:
        """Take the chosen places out of the route."""
        walk, chosen = self._state.walk, sorted(self._timeline.keys)
        if walk is not None and chosen:
            self._change(
                "Remove places" if len(chosen) > 1 else "Remove place",
                walk,
                lambda project: remove_keys(project, walk.id, chosen),
            )

    def _fill_places(self, menu: QMenu) -> None:
        chosen = bool(self._timeline.keys)
        menu.addAction("Copy\tCtrl+C", self.copy_wanted.emit).setEnabled(chosen)
        menu.addAction("Put in behind\tCtrl+V", lambda: self.paste_wanted.emit(False)).setEnabled(
            chosen and self._copied > 0
        )
        menu.addAction("Their camera only\tCtrl+Shift+V", lambda: self.paste_wanted.emit(True)).setEnabled(
            chosen and self._copied > 0
        )
        menu.addAction("Choose all\tCtrl+A", self._timeline.choose_all)

    def show_copied(self, count: int) -> None:
        """So many places are copied."""
        self._copied = count

    def _set_key_field(self, text: str, name: str, value: float) -> None:
        self._set_key(text, **{name: value})

    def _switch_key(self, text: str, name: str) -> None:
        on = self.key_switches[name].isChecked()
        usual = {"near_m": NEAR_WHEN_ON_M, "far_m": FAR_WHEN_ON_M, "hour": self._bridge.project.light.hour}
        self._set_key(text if on else f"{text} off", **{name: usual[name] if on else None})

    def _set_height(self, value: float) -> None:
        """The eye of the chosen places so far above the floors of their storeys."""
        walk = self._state.walk
        if walk is None:
            return

        def edit(project: Project) -> Project:
            for index in sorted(self._timeline.keys):
                x, y, z = walk.keys[index].eye
                project = change_key(project, walk.id, index, eye=(x, y, self._storey_m(z) + value))
            return project

        self._change("Height of a place", walk, edit)

    def _storey_m(self, z: float) -> float:
        scene = self._studio.scene
        storey = scene.model.storey_of_eye((0.0, 0.0, z)) if scene is not None else None
        return storey.elevation_m if storey is not None else 0.0

    # ------------------------------------------------------------------ looking

    def _object_middle(self) -> tuple[Vec3, str] | None:
        """The middle of the chosen object and its name; a sentence where none is chosen."""
        scene = self._studio.scene
        number = scene.lookup.index.get(self._state.object_id) if scene is not None else None
        if scene is None or number is None:
            self._bridge.notices.note(
                "Choose an object first: press on it in the Frame of Compose or in the model's list."
            )
            return None
        points = object_points(scene.model, number).astype(float)
        x, y, z = ((points.min(axis=0) + points.max(axis=0)) / 2).tolist()
        return (x, y, z), scene.model.objects[number].name

    def _new_look(self, kind: str, point: Vec3 = (0.0, 0.0, 0.0), name: str = "") -> None:
        """A span of looking about the moment shown; between the chosen places where there are several."""
        walk, line = self._state.walk, self._line
        if walk is None or line is None:
            return
        keys = self._timeline.keys
        begin, end = self._state.moment - LOOK_S / 2.0, self._state.moment + LOOK_S / 2.0
        if len(keys) >= 2:
            begin, end = (float(line.timing.key_s[index]) for index in (min(keys), max(keys)))
        begin, end = max(0.0, min(begin, walk.seconds - 0.2)), min(walk.seconds, max(end, 0.2))
        start, stop = (line.timing.distance_at(np.array([begin, end])) / line.route.length_m).tolist()
        if stop - start < 1e-4:
            self._bridge.notices.trouble("The walk stands still there. Choose a moment at which it walks.")
            return
        look = Look(round(start, 5), round(stop, 5), kind, point, name=name)
        before = len(walk.looks)
        self._change("Span of looking", walk, lambda project: add_look(project, walk.id, look))
        now = self._state.walk
        if now is not None and len(now.looks) > before:
            self._timeline.choose_look(before)

    def _look_at_object(self) -> None:
        """About the moment shown the walk looks at the middle of the chosen object."""
        middle = self._object_middle()
        if middle is not None:
            self._new_look(POINT, *middle)

    def _fill_look(self, menu: QMenu) -> None:
        walk, index = self._state.walk, self._timeline.look
        there = walk is not None and 0 <= index < len(walk.looks)
        menu.addAction("New: look ahead here", partial(self._new_look, AHEAD))
        menu.addAction("New: look as keyed here", partial(self._new_look, KEYED))
        menu.addSeparator()
        moves = there and walk is not None and walk.looks[index].kind == POINT
        menu.addAction("Move on to the chosen object", self._look_on).setEnabled(moves)
        menu.addAction(
            "Stay at one point", partial(self._set_look, "Look at one point", to=None, name="")
        ).setEnabled(moves and walk is not None and walk.looks[index].to is not None)
        menu.addAction("Remove this span", self._remove_look).setEnabled(there)

    def _look_on(self) -> None:
        middle = self._object_middle()
        walk, index = self._state.walk, self._timeline.look
        if middle is not None and walk is not None and 0 <= index < len(walk.looks):
            first = walk.looks[index].name or "a point"
            self._set_look("Look at a moving point", to=middle[0], name=f"{first}, on to {middle[1]}")

    def _set_look(self, text: str, **values: object) -> None:
        walk, index = self._state.walk, self._timeline.look
        if walk is not None and 0 <= index < len(walk.looks):
            self._change(text, walk, lambda project: change_look(project, walk.id, index, **values))

    def _set_look_span(self) -> None:
        line = self._line
        if line is not None:
            begin, end = sorted((self.look_from.value, self.look_to.value))
            start, stop = (line.timing.distance_at(np.array([begin, end])) / line.route.length_m).tolist()
            self._set_look("Span of looking", start=round(start, 5), end=round(stop, 5))

    def _remove_look(self) -> None:
        walk, index = self._state.walk, self._timeline.look
        if walk is not None and 0 <= index < len(walk.looks):
            self._change("Remove span of looking", walk, lambda project: remove_look(project, walk.id, index))

    def _choose_look(self, row: int) -> None:
        if row >= 0 and row != self._timeline.look:
            self._timeline.choose_look(row)

    def show_look(self, index: int) -> None:
        """Follow the chosen span of looking."""
        walk, line = self._state.walk, self._line
        there = (
            walk is not None and line is not None and walk.turntable is None and 0 <= index < len(walk.looks)
        )
        for part in (self.look_from, self.look_to):
            part.setEnabled(there)
        if self.look_list.currentRow() != index:
            self.look_list.blockSignals(True)
            self.look_list.setCurrentRow(index if there else -1)
            self.look_list.blockSignals(False)
        if there:
            begin, end = self._timeline.look_span(index)
            self.look_from.show_value(begin)
            self.look_to.show_value(end)

    def _show_looks(self, walk: Walk) -> None:
        rows = []
        for index, look in enumerate(walk.looks if self._line is not None and walk.turntable is None else ()):
            begin, end = self._timeline.look_span(index)
            rows.append(f"{begin:.1f} – {end:.1f} s  {look_words(look)}")
        if rows != [self.look_list.item(row).text() for row in range(self.look_list.count())]:
            self.look_list.blockSignals(True)
            self.look_list.clear()
            self.look_list.addItems(rows)
            self.look_list.blockSignals(False)
        self.look_list.setVisible(bool(rows))
        way = "as keyed" if walk.looking == KEYED else "ahead"
        count = len(rows)
        self._look_group.show_figure(
            way if not count else f"{way}, {count} {'span' if count == 1 else 'spans'}"
        )
        self.show_look(self._timeline.look)

    # ------------------------------------------------------------------ mends

    def _show_mends(self, row: int) -> None:
        line = self._line
        offered = (
            mends_for(self._flags[row], line) if line is not None and 0 <= row < len(self._flags) else ()
        )
        for how, made in self.mends.items():
            made.setVisible(how in offered)

    def _want_mend(self, how: str) -> None:
        row = self.flag_list.currentRow()
        if 0 <= row < len(self._flags):
            self.mend_wanted.emit(self._flags[row], how)

    def _toggle_plumb(self) -> None:
        self._set(
            "Keep plumb" if self.plumb.isChecked() else "Let it tilt", kept_plumb=self.plumb.isChecked()
        )

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
            self._set(
                "Reverse walk", **{name: getattr(turned, name) for name in Walk.__slots__ if name != "id"}
            )

    def _remove(self) -> None:
        walk = self._state.walk
        if walk is not None:
            self._change("Remove walk", walk, lambda project: without_subjects(remove_walk(project, walk.id)))

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
        row = self.flag_list.currentRow()
        self._flags = flags or ()
        self.flag_list.clear()
        for number, flag in enumerate(self._flags):
            made = QListWidgetItem(f"! {number + 1}  {flag.sentence}")
            made.setData(Qt.ItemDataRole.UserRole, number)
            made.setToolTip("Press: goes there, and offers what mends it")
            made.setSizeHint(self._row_size(made.text()))
            self.flag_list.addItem(made)
        self.flag_list.setVisible(bool(flags))
        self.flag_list.setCurrentRow(row if row < len(self._flags) else -1)
        self._show_mends(self.flag_list.currentRow())
        self._flag_group.show_figure(
            "…" if flags is None else f"{len(flags)} found" if flags else "nothing found"
        )

    def _row_size(self, text: str) -> QSize:
        """The list's own guess at wrapped rows is a line short."""
        wide = self.flag_list.width() - 30
        box = self.flag_list.fontMetrics().boundingRect(0, 0, wide, 200, Qt.TextFlag.TextWordWrap, text)
        return QSize(wide, box.height() + 6)

    def show_key(self) -> None:
        """Follow the chosen places."""
        walk, index, chosen = self._state.walk, self._timeline.key, self._timeline.keys
        there = walk is not None and walk.turntable is None and 0 <= index < len(walk.keys)
        parts = (
            self.dwell,
            self.key_second,
            self.free,
            self.bend,
            self.key_height,
            self.drop_key,
            self.places_menu,
        )
        for part in (*parts, *self.key_fields.values(), *self.key_switches.values()):
            part.setEnabled(there)
        count = len(walk.keys) if walk is not None else 0
        several = f"{len(chosen)} of {count}" if len(chosen) > 1 else f"{index + 1} of {count}"
        self._place_group.show_figure(several if there else f"none of {count} chosen")
        self._camera_group.show_figure("")
        if walk is None or not there or self._line is None:
            return
        key, keys = walk.keys[index], [walk.keys[number] for number in sorted(chosen)]
        _show(self.dwell, [item.dwell_s for item in keys])
        self.key_second.show_value(float(self._line.timing.key_s[index]))
        ends = index in (0, count - 1) or len(chosen) > 1
        self.key_second.setEnabled(not ends)
        self.free.setEnabled(any(item.at_s is not None for item in keys))
        self.bend.take(
            (SMOOTH, EVEN, CORNER).index(key.bend) if len({item.bend for item in keys}) == 1 else -1
        )
        eye = self._line.route.at(self._line.route.key_m[[index]])[0, 2] if walk.follow_floor else key.eye[2]
        self.key_height.show_value(float(eye) - self._storey_m(float(eye)))
        self.key_height.setEnabled(not walk.follow_floor)
        self._show_key_camera(keys)

    def _show_key_camera(self, keys: list[WalkKey]) -> None:
        for name, field in self.key_fields.items():
            values = [getattr(item, name) for item in keys]
            if name in self.key_switches:
                on = any(value is not None for value in values)
                switch = self.key_switches[name]
                switch.setChecked(on)
                relabel(switch, "on" if on else "off")
                field.setEnabled(on)
                usual = {
                    "near_m": NEAR_WHEN_ON_M,
                    "far_m": FAR_WHEN_ON_M,
                    "hour": self._bridge.project.light.hour,
                }
                values = [usual[name] if value is None else value for value in values]
            _show(field, values)
        focal = {item.focal_mm for item in keys}
        self._camera_group.show_figure(
            f"{keys[0].focal_mm:g} mm · EV {keys[0].ev:.1f}" if len(focal) == 1 else "differ"
        )

    def _show_walk(self, walk: Walk) -> None:
        turning = walk.turntable is not None
        for group in (self._place_group, self._camera_group, self._look_group):
            group.setVisible(not turning)
        self._table_group.setVisible(turning)
        for part in (self.eye_height, self.heights):
            part.setEnabled(not turning)
        self.eye_height.setEnabled(not turning and walk.follow_floor)
        self.heights.take(0 if walk.follow_floor else 1)
        self._route_group.show_figure(
            f"{walk.eye_height_m:.2f} m over the floor" if walk.follow_floor else "heights as set"
        )
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
        self._show_looks(walk)
        count = frame_count(walk.seconds, parse_rate(walk.rate))
        self.frames.show_value(count)
        # The length is what is held: another rate, other eases or another route leave it as it is.
        self._timing.show_figure(f"{walk.seconds:.6g} s, held")
        if walk.turntable is not None:
            self._timing_facts.setText(
                f"{count} film frames, {abs(walk.turntable.sweep_deg) / count:.2f}° each; the last is one step before the first."
            )
        elif self._line is not None:
            self._timing_facts.setText(
                f"The route is {self._line.route.length_m:.1f} m, walked at {self._line.pace_m_s:.2f} m/s."
            )


def _show(field: NumberField, values: list[float]) -> None:
    """One value, or that several places differ."""
    if max(values) - min(values) > 1e-9:
        field.show_mixed()
    else:
        field.show_value(values[0])
