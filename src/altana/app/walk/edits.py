"""The one way in which the Walk desk changes the chosen walk and its chosen places."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, Signal

from altana.app.walk.timeline import Timeline
from altana.app.workspace.bridge import Bridge
from altana.app.workspace.view_state import ViewState
from altana.core.edits.walks import change_keys, set_walk
from altana.core.project import Project, Walk
from altana.core.walk.sample import WalkLine


class WalkEdits(QObject):
    """Edits of the chosen walk.  ``refused`` when a change was not taken: views show again what is.  ``line``
    is the walk in its building, None while it has no route."""

    refused = Signal()

    def __init__(self, bridge: Bridge, state: ViewState, timeline: Timeline) -> None:
        super().__init__()
        self._bridge, self._state, self._timeline = bridge, state, timeline
        self.line: WalkLine | None = None

    def set(self, text: str, **values: object) -> None:
        """Set fields of the chosen walk, as one step."""
        walk = self._state.walk
        if walk is not None:
            self.change(text, walk, lambda project: set_walk(project, walk.id, **values))

    def set_places(self, text: str, **values: object) -> None:
        """Set fields of the chosen places, as one step."""
        walk, chosen = self._state.walk, sorted(self._timeline.keys)
        if walk is not None and chosen:
            self.change(text, walk, lambda project: change_keys(project, walk.id, chosen, **values))

    def change(self, text: str, walk: Walk, edit: Callable[[Project], Project]) -> None:
        """One step on a walk."""
        if not self._bridge.change_walk(text, walk, edit):
            # What was typed is not what holds.
            self.refused.emit()
