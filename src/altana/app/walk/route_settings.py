"""The route as a whole: heights, verticals, the way it is walked; and what is done with the walk."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QInputDialog, QMenu

from altana.app.theme.lengths import length
from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import Group, Segments, button, menu_button
from altana.app.theme.words import tr
from altana.app.walk.edits import WalkEdits
from altana.app.walk.timeline import Timeline
from altana.app.workspace.workspace import Workspace
from altana.core.edits.shots import without_subjects
from altana.core.edits.walks import (
    duplicate_walk,
    join_walks,
    remove_walk,
    reversed_walk,
    set_walk,
    split_walk,
)
from altana.core.project import Walk


class RouteGroup:
    """Eye height over the floor or as set, plumb, reverse, remove, and more."""

    def __init__(self, workspace: Workspace, edits: WalkEdits, timeline: Timeline) -> None:
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio
        self._edits, self._timeline = edits, timeline
        self.group = route = Group(tr("Route"))
        self.eye_height = NumberField(
            tr("Eye above floor"),
            tr("Height of the eye above the floor under the route; stairs become ramps"),
            "m",
            2,
            0.05,
            0.2,
            30.0,
        )
        self.eye_height.changed.connect(
            lambda value: self._edits.set(tr("Walk eye height"), eye_height_m=value)
        )
        route.add_field(tr("Eye above floor"), self.eye_height)
        self.heights = Segments(
            [
                (
                    tr("Over the floor"),
                    tr("The eye keeps its height over the floor under it; stairs become ramps"),
                ),
                (tr("As set"), tr("Each place has its own height; lift places in the long section")),
            ]
        )
        self.heights.chosen.connect(lambda index: self._edits.set(tr("Heights"), follow_floor=index == 0))
        route.add_wide(self.heights)
        self.plumb = button(
            tr("Keep plumb"),
            "small",
            tr("Verticals stay upright throughout: tilt becomes rise"),
            self._toggle_plumb,
            checkable=True,
        )
        self.reverse = button(tr("Reverse"), "small", tr("Walk the route the other way"), self._reverse)
        self.remove = button(tr("Remove"), "small", tr("Remove this walk; undo brings it back"), self._remove)
        route.add_wide(self.plumb, self.reverse, self.remove)
        self.more = menu_button(tr("More ▾"), tr("Rename, duplicate, part, join, lock"), self.fill_more)
        route.add_wide(self.more)

    def fill_more(self, menu: QMenu) -> None:
        """What else can be done with the walk."""
        walk = self._state.walk
        if walk is None:
            return
        menu.addAction(tr("Rename…"), self.rename)
        menu.addAction(tr("Duplicate"), self._duplicate)
        part = menu.addAction(tr("Part at the chosen place"), self._part)
        part.setEnabled(0 < self._timeline.key < len(walk.keys) - 1)
        walks = [item for item in self._bridge.project.walks if item.turntable is None]
        following = (
            walks[walks.index(walk) + 1] if walk in walks and walks.index(walk) + 1 < len(walks) else None
        )
        if following is not None:
            menu.addAction(tr("Join with {name}", name=following.name), partial(self._join, following.id))
        menu.addAction(tr("Unlock") if walk.locked else tr("Lock"), partial(self._lock, walk))

    def _lock(self, walk: Walk) -> None:
        self._bridge.apply(
            tr("Unlock walk") if walk.locked else tr("Lock walk"),
            lambda project: set_walk(project, walk.id, locked=not walk.locked),
        )

    def rename(self) -> None:
        """Ask for another name of the walk."""
        walk = self._state.walk
        if walk is not None:
            name, accepted = QInputDialog.getText(self.group, tr("Rename walk"), tr("Name"), text=walk.name)
            if accepted and name.strip():
                self._edits.set(tr("Rename walk"), name=name.strip())

    def _duplicate(self) -> None:
        walk = self._state.walk
        if walk is not None:
            created = self._bridge.apply_adding(
                tr("Duplicate walk"), lambda project: duplicate_walk(project, walk.id)
            )
            if created:
                self._state.choose_walk(created)

    def _part(self) -> None:
        walk, index = self._state.walk, self._timeline.key
        if walk is not None:
            self._edits.change(tr("Part walk"), walk, lambda project: split_walk(project, walk.id, index)[0])

    def _join(self, other_id: str) -> None:
        walk = self._state.walk
        if walk is not None:
            self._edits.change(
                tr("Join walks"),
                walk,
                lambda project: without_subjects(join_walks(project, walk.id, other_id)),
            )

    def _toggle_plumb(self) -> None:
        self._edits.set(
            tr("Keep plumb") if self.plumb.isChecked() else tr("Let it tilt"),
            kept_plumb=self.plumb.isChecked(),
        )

    def _reverse(self) -> None:
        walk = self._state.walk
        if walk is not None:
            turned = reversed_walk(walk)
            self._edits.set(
                tr("Reverse walk"), **{name: getattr(turned, name) for name in Walk.__slots__ if name != "id"}
            )

    def _remove(self) -> None:
        walk = self._state.walk
        if walk is not None:
            self._edits.change(
                tr("Remove walk"), walk, lambda project: without_subjects(remove_walk(project, walk.id))
            )

    def show_walk(self, walk: Walk) -> None:
        """Follow the chosen walk."""
        turning = walk.turntable is not None
        self.heights.setEnabled(not turning)
        self.eye_height.setEnabled(not turning and walk.follow_floor)
        self.heights.take(0 if walk.follow_floor else 1)
        self.eye_height.show_value(walk.eye_height_m)
        self.plumb.setChecked(walk.kept_plumb)
        over = (
            tr("{eye_height_m} over the floor", eye_height_m=length(walk.eye_height_m))
            if walk.follow_floor
            else tr("heights as set")
        )
        self.group.show_figure(over)
