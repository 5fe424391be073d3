"""Where the walk looks: ahead or as keyed, and spans that look elsewhere than the walk does."""

from __future__ import annotations

from functools import partial

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QListWidget, QMenu

from altana.app.theme.number_field import NumberField
from altana.app.theme.plain_text import short_name, tip_text
from altana.app.theme.widgets import Group, Segments, button, menu_button
from altana.app.theme.words import tr
from altana.app.walk.edits import WalkEdits
from altana.app.walk.timeline import Timeline
from altana.app.walk.timeline_chart import look_words
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import Vec3
from altana.core.edits.walks import add_look, change_look, remove_look, set_walk
from altana.core.project import AHEAD, KEYED, POINT, Look, Walk
from altana.core.staging import object_points

#: A new span of looking lasts so long.
LOOK_S = 3.0


class LookingGroup:
    """The walk's own way to look, and its spans of looking."""

    def __init__(self, workspace: Workspace, edits: WalkEdits, timeline: Timeline) -> None:
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio
        self._edits, self._timeline = edits, timeline
        self.group = group = Group(tr("Looking"))
        self.looking = Segments(
            [
                (tr("Ahead"), tr("Look along the route, corners anticipated")),
                (tr("As keyed"), tr("Look as the cameras do, turning the short way")),
            ]
        )
        self.looking.chosen.connect(
            lambda index: self._edits.set(tr("Walk looking"), looking=(AHEAD, KEYED)[index])
        )
        group.add_field(tr("The walk looks"), self.looking)
        self.anticipation = NumberField(
            tr("Anticipation"), tr("Corners are looked round so many metres early"), "m", 1, 0.1, 0.0, 20.0
        )
        self.anticipation.changed.connect(
            lambda value: self._edits.set(tr("Anticipation"), anticipation_m=value)
        )
        group.add_field(tr("Anticipation"), self.anticipation)
        self.look_list = QListWidget()
        self.look_list.setAccessibleName(tr("Spans of looking"))
        self.look_list.setFixedHeight(58)
        self.look_list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.look_list.currentRowChanged.connect(self._choose_look)
        group.add_wide(self.look_list)
        self.look_from = NumberField(
            tr("From"), tr("Second at which this span begins"), "s", 2, 0.1, 0.0, 3600.0
        )
        self.look_to = NumberField(tr("To"), tr("Second at which this span ends"), "s", 2, 0.1, 0.0, 3600.0)
        for field in (self.look_from, self.look_to):
            field.changed.connect(lambda _: self._set_look_span())
        group.add_pair(tr("From, to"), self.look_from, self.look_to)
        self.look_here = button(
            tr("Look at an object"),
            "small",
            tr("From here on, for three seconds, look at the chosen object"),
            self.look_at_object,
        )
        self.look_more = menu_button(
            tr("Span ▾"), tr("More spans of looking, and what the chosen one does"), self.fill
        )
        group.add_wide(self.look_here, self.look_more)
        self._state.object_changed.connect(self._show_object)
        self._studio.opened.connect(self._show_object)
        self._show_object()

    def _show_object(self) -> None:
        """Say on the button what is chosen: nothing chosen elsewhere is taken unseen."""
        scene = self._studio.scene
        number = scene.lookup.index.get(self._state.object_id) if scene is not None else None
        name = scene.model.objects[number].name if scene is not None and number is not None else ""
        self.look_here.setText(
            tr("Look at {name}", name=short_name(name)) if name else tr("Look at an object")
        )
        self.look_here.setToolTip(
            tip_text(
                tr(
                    "From here on, for three seconds, look at “{name}”. Press another in the Frame to choose it.",
                    name=name,
                )
                if name
                else tr(
                    "Press an object in the Frame to choose it; then the walk looks at it from here on, for three seconds."
                )
            )
        )

    def _object_middle(self) -> tuple[Vec3, str] | None:
        """The middle of the chosen object and its name; a sentence where none is chosen."""
        scene = self._studio.scene
        number = scene.lookup.index.get(self._state.object_id) if scene is not None else None
        if scene is None or number is None:
            self._bridge.notices.note(tr("Choose an object first: press on it in the Frame."))
            return None
        points = object_points(scene.model, number).astype(float)
        x, y, z = ((points.min(axis=0) + points.max(axis=0)) / 2).tolist()
        return (x, y, z), scene.model.objects[number].name

    def new_look(self, kind: str, point: Vec3 = (0.0, 0.0, 0.0), name: str = "") -> None:
        """A span of looking about the moment shown; between the chosen places where there are several."""
        walk, line = self._state.walk, self._edits.line
        if walk is None or line is None:
            return
        keys = self._timeline.keys
        begin, end = self._state.moment - LOOK_S / 2.0, self._state.moment + LOOK_S / 2.0
        if len(keys) >= 2:
            begin, end = (float(line.timing.key_s[index]) for index in (min(keys), max(keys)))
        begin, end = max(0.0, min(begin, walk.seconds - 0.2)), min(walk.seconds, max(end, 0.2))
        start, stop = (line.timing.distance_at(np.array([begin, end])) / line.route.length_m).tolist()
        if stop - start < 1e-4:
            self._bridge.notices.trouble(
                tr("The walk stands still there. Choose a moment at which it walks.")
            )
            return
        look = Look(round(start, 5), round(stop, 5), kind, point, name=name)
        before = len(walk.looks)
        self._edits.change(tr("Span of looking"), walk, lambda project: add_look(project, walk.id, look))
        now = self._state.walk
        if now is not None and len(now.looks) > before:
            self._timeline.choose_look(before)

    def all_along(self, point: Vec3, name: str) -> None:
        """The walk looks at one point from its first film frame to its last, instead of what it looked at."""
        walk = self._state.walk
        if walk is not None and walk.turntable is not None:
            self._bridge.notices.note(
                tr("A turntable looks at its middle. Choose a walk, then say what it looks at.")
            )
        elif walk is not None:
            looks = (Look(0.0, 1.0, POINT, point, name=name),)
            self._edits.change(
                tr("Look all along"), walk, lambda project: set_walk(project, walk.id, looks=looks)
            )

    def all_along_object(self) -> None:
        """The walk looks at the chosen object from its first film frame to its last."""
        middle = self._object_middle()
        if middle is not None:
            self.all_along(*middle)

    def all_along_building(self) -> None:
        """The walk looks at the middle of the building from its first film frame to its last."""
        scene = self._studio.scene
        if scene is not None:
            self.all_along(scene.overview.aim, tr("the building"))

    def look_at_object(self) -> None:
        """About the moment shown the walk looks at the middle of the chosen object."""
        middle = self._object_middle()
        if middle is not None:
            self.new_look(POINT, *middle)

    def fill(self, menu: QMenu) -> None:
        """More spans of looking, and what the chosen one does."""
        walk, index = self._state.walk, self._timeline.look
        there = walk is not None and 0 <= index < len(walk.looks)
        menu.addAction(tr("New: look ahead here"), partial(self.new_look, AHEAD))
        menu.addAction(tr("New: look as keyed here"), partial(self.new_look, KEYED))
        menu.addSeparator()
        menu.addAction(tr("All along: the building"), self.all_along_building)
        menu.addAction(tr("All along: the chosen object"), self.all_along_object)
        menu.addSeparator()
        moves = there and walk is not None and walk.looks[index].kind == POINT
        menu.addAction(tr("Move on to the chosen object"), self._look_on).setEnabled(moves)
        menu.addAction(
            tr("Stay at one point"), partial(self._set_look, tr("Look at one point"), to=None, name="")
        ).setEnabled(moves and walk is not None and walk.looks[index].to is not None)
        menu.addAction(tr("Remove this span"), self._remove_look).setEnabled(there)

    def _look_on(self) -> None:
        middle = self._object_middle()
        walk, index = self._state.walk, self._timeline.look
        if middle is not None and walk is not None and 0 <= index < len(walk.looks):
            first = walk.looks[index].name or tr("a point")
            self._set_look(
                tr("Look at a moving point"),
                to=middle[0],
                name=tr("{first}, on to {middle}", first=first, middle=middle[1]),
            )

    def _set_look(self, text: str, **values: object) -> None:
        walk, index = self._state.walk, self._timeline.look
        if walk is not None and 0 <= index < len(walk.looks):
            self._edits.change(text, walk, lambda project: change_look(project, walk.id, index, **values))

    def _set_look_span(self) -> None:
        line = self._edits.line
        if line is not None:
            begin, end = sorted((self.look_from.value, self.look_to.value))
            start, stop = (line.timing.distance_at(np.array([begin, end])) / line.route.length_m).tolist()
            self._set_look(tr("Span of looking"), start=round(start, 5), end=round(stop, 5))

    def _remove_look(self) -> None:
        walk, index = self._state.walk, self._timeline.look
        if walk is not None and 0 <= index < len(walk.looks):
            self._edits.change(
                tr("Remove span of looking"), walk, lambda project: remove_look(project, walk.id, index)
            )

    def _choose_look(self, row: int) -> None:
        if row >= 0 and row != self._timeline.look:
            self._timeline.choose_look(row)

    def show_look(self, index: int) -> None:
        """Follow the chosen span of looking."""
        walk, line = self._state.walk, self._edits.line
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
        for index, look in enumerate(
            walk.looks if self._edits.line is not None and walk.turntable is None else ()
        ):
            begin, end = self._timeline.look_span(index)
            rows.append(f"{begin:.1f} – {end:.1f} s  {look_words(look)}")
        if rows != [self.look_list.item(row).text() for row in range(self.look_list.count())]:
            self.look_list.blockSignals(True)
            self.look_list.clear()
            self.look_list.addItems(rows)
            self.look_list.blockSignals(False)
        self.look_list.setVisible(bool(rows))
        way = tr("as keyed") if walk.looking == KEYED else tr("ahead")
        count = len(rows)
        self.group.show_figure(way if not count else tr("{way}, %n spans", "", count, way=way))
        self.show_look(self._timeline.look)

    def show_walk(self, walk: Walk) -> None:
        """Follow the chosen walk."""
        self.anticipation.show_value(walk.anticipation_m)
        self.looking.take(1 if walk.looking == KEYED else 0)
        self._show_looks(walk)
