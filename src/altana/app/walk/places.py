"""The chosen places of the walk: pauses, seconds, bends, heights; copied and put in."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QMenu

from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import Group, Segments, button, check_box, menu_button
from altana.app.theme.words import spoken, tr
from altana.app.walk.edits import WalkEdits
from altana.app.walk.fields import show_several
from altana.app.walk.timeline import Timeline
from altana.app.workspace.workspace import Workspace
from altana.core.edits.walks import change_key, remove_keys
from altana.core.project import CORNER, EVEN, KEYED, SMOOTH, Project


class PlacesGroup(QObject):
    """``copy_wanted`` and ``paste_wanted(camera only)`` for whoever keeps the copied places."""

    copy_wanted = Signal()
    paste_wanted = Signal(bool)

    def __init__(self, workspace: Workspace, edits: WalkEdits, timeline: Timeline) -> None:
        super().__init__()
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio
        self._edits, self._timeline = edits, timeline
        self._copied = 0
        self.group = group = Group(tr("Place"))
        self.before_key = button(
            tr("‹ Before"),
            "small",
            tr("The place before (key Down in the timeline)"),
            lambda: self._timeline.step_key(-1),
        )
        self.next_key = button(
            tr("Next ›"),
            "small",
            tr("The next place (key Up in the timeline)"),
            lambda: self._timeline.step_key(1),
        )
        group.add_wide(self.before_key, self.next_key)
        self.dwell = NumberField(tr("Dwell"), tr("Pause here for so long"), "s", 1, 0.5, 0.0, 600.0)
        self.dwell.changed.connect(lambda value: self._edits.set_places(tr("Dwell"), dwell_s=value))
        group.add_field(tr("Dwell"), self.dwell)
        self.key_second = NumberField(
            tr("Passed at"),
            tr("The second at which the walk comes here; typed, it stays there"),
            "s",
            2,
            0.1,
            0.0,
            3600.0,
        )
        self.key_second.changed.connect(
            lambda value: self._edits.set_places(tr("Second of a place"), at_s=value)
        )
        self.free = button(
            tr("by pace"),
            "small",
            tr("Let the pace decide when the walk comes here"),
            lambda: self._edits.set_places(tr("Second by pace"), at_s=None),
        )
        group.add_pair(tr("Passed at"), self.free, self.key_second)
        self._add_shape()

    def _add_shape(self) -> None:
        group = self.group
        self.bend = Segments(
            [
                (spoken(SMOOTH), tr("The route passes smoothly")),
                (spoken(EVEN), tr("With an even curvature: along the circle through the places beside it")),
                (spoken(CORNER), tr("Straight in and straight out")),
            ]
        )
        self.bend.chosen.connect(
            lambda index: self._edits.set_places(tr("Bend"), bend=(SMOOTH, EVEN, CORNER)[index])
        )
        group.add_wide(self.bend)
        self.long_way = check_box(
            tr("Turns here the long way round"),
            tr("Where the walk looks as keyed: round the other side, not the short way"),
        )
        self.long_way.clicked.connect(
            lambda: self._edits.set_places(tr("Way of turning"), long_way=self.long_way.isChecked())
        )
        group.add_wide(self.long_way)
        self.key_height = NumberField(
            tr("Eye over storey"),
            tr(
                "Height of the eye above the floor of its storey; set by hand where the walk does not follow the floor"
            ),
            "m",
            2,
            0.05,
            -50.0,
            500.0,
        )
        self.key_height.changed.connect(self._set_height)
        group.add_field(tr("Eye over storey"), self.key_height)
        self.drop_key = button(
            tr("Remove"),
            "small",
            tr("Take the chosen places out of the route (key Delete in the timeline)"),
            self.remove_places,
        )
        self.places_menu = menu_button(
            tr("Copy, put in ▾"), tr("Copied places: put in, or their camera only"), self._fill_places
        )
        group.add_wide(self.drop_key, self.places_menu)

    def remove_places(self) -> None:
        """Take the chosen places out of the route."""
        walk, chosen = self._state.walk, sorted(self._timeline.keys)
        if walk is not None and chosen:
            self._edits.change(
                tr("Remove places") if len(chosen) > 1 else tr("Remove place"),
                walk,
                lambda project: remove_keys(project, walk.id, chosen),
            )

    def _fill_places(self, menu: QMenu) -> None:
        chosen = bool(self._timeline.keys)
        menu.addAction(tr("Copy\tCtrl+C"), self.copy_wanted.emit).setEnabled(chosen)
        menu.addAction(tr("Put in behind\tCtrl+V"), lambda: self.paste_wanted.emit(False)).setEnabled(
            chosen and self._copied > 0
        )
        menu.addAction(
            tr("Their camera only\tCtrl+Shift+V"), lambda: self.paste_wanted.emit(True)
        ).setEnabled(chosen and self._copied > 0)
        menu.addAction(tr("Choose all\tCtrl+A"), self._timeline.choose_all)

    def show_copied(self, count: int) -> None:
        """So many places are copied."""
        self._copied = count

    def _set_height(self, value: float) -> None:
        """The eye of the chosen places so far above the floors of their storeys."""
        walk = self._state.walk
        if walk is None:
            return

        def edit(project: Project) -> Project:
            for index in sorted(self._timeline.keys):
                x, y, z = walk.keys[index].eye
                project = change_key(project, walk.id, index, eye=(x, y, self.storey_m(z) + value))
            return project

        self._edits.change(tr("Height of a place"), walk, edit)

    def storey_m(self, z: float) -> float:
        """The floor of the storey on which an eye of this height stands."""
        scene = self._studio.scene
        storey = scene.model.storey_of_eye((0.0, 0.0, z)) if scene is not None else None
        return storey.elevation_m if storey is not None else 0.0

    def show_places(self) -> bool:
        """Follow the chosen places; whether there are any."""
        walk, index, chosen = self._state.walk, self._timeline.key, self._timeline.keys
        line = self._edits.line
        there = walk is not None and walk.turntable is None and 0 <= index < len(walk.keys)
        for part in (
            self.dwell,
            self.key_second,
            self.free,
            self.bend,
            self.long_way,
            self.key_height,
            self.drop_key,
            self.places_menu,
        ):
            part.setEnabled(there)
        count = len(walk.keys) if walk is not None else 0
        several = (
            tr("{chosen} of {count}", chosen=len(chosen), count=count)
            if len(chosen) > 1
            else tr("{index} of {count}", index=index + 1, count=count)
        )
        self.group.show_figure(several if there else tr("none of {count} chosen", count=count))
        if walk is None or not there or line is None:
            return there
        key, keys = walk.keys[index], [walk.keys[number] for number in sorted(chosen)]
        show_several(self.dwell, [item.dwell_s for item in keys])
        self.key_second.show_value(float(line.timing.key_s[index]))
        ends = index in (0, count - 1) or len(chosen) > 1
        self.key_second.setEnabled(not ends)
        self.free.setEnabled(any(item.at_s is not None for item in keys))
        same = len({item.bend for item in keys}) == 1
        self.bend.take((SMOOTH, EVEN, CORNER).index(key.bend) if same else -1)
        self.long_way.setChecked(all(item.long_way for item in keys))
        self.long_way.setEnabled(walk.looking == KEYED)
        eye = line.route.at(line.route.key_m[[index]])[0, 2] if walk.follow_floor else key.eye[2]
        self.key_height.show_value(float(eye) - self.storey_m(float(eye)))
        self.key_height.setEnabled(not walk.follow_floor)
        return there
