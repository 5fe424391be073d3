"""The one way in which the window changes cameras: the chosen ones together, as one step; what is locked is
left alone."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from PySide6.QtCore import QObject, Signal

from altana.app.workspace.bridge import Bridge
from altana.app.workspace.view_state import ViewState
from altana.core.edits.cameras import change_camera, checked, stays_plumb
from altana.core.edits.locks import unlocked
from altana.core.project import Camera, Project

Value = TypeVar("Value")
Change = Callable[[Camera, Value], Camera]


class CameraEdits(QObject):
    """Edits of the chosen cameras.  ``tried`` follows every change that was asked for, whether it came to be
    or was refused: views show again what is."""

    tried = Signal()

    def __init__(self, bridge: Bridge, state: ViewState) -> None:
        super().__init__()
        self._bridge, self._state = bridge, state

    @property
    def chosen(self) -> list[Camera]:
        """The chosen cameras."""
        project = self._bridge.project
        ids = self._state.selected or ((self._state.active_id,) if self._state.active_id else ())
        return [camera for item in ids if (camera := project.camera(item)) is not None]

    @property
    def targets(self) -> tuple[str, ...]:
        """Ids of the chosen cameras that may be changed."""
        return tuple(camera.id for camera in self.chosen if not camera.locked)

    @property
    def usable(self) -> bool:
        """Whether what is shown may be changed: not while it is locked or loose."""
        return bool(self.targets) and self._state.loose is None

    def edit(self, change: Change[Value], value: Value) -> Callable[[Project], Project]:
        """An edit of all targets; refused where everything chosen is locked."""
        targets, chosen = self.targets, self.chosen

        def edited(project: Project) -> Project:
            if not targets and chosen:
                unlocked(chosen[0])
            steepest = project.limits.steepest_rise_deg
            for camera_id in targets:
                project = change_camera(
                    project, camera_id, lambda camera: stays_plumb(checked(change(camera, value)), steepest)
                )
            return project

        return edited

    def preview(self, change: Change[Value], value: Value) -> None:
        """Show a change while it is dragged."""
        if not self._bridge.in_gesture:
            self._bridge.begin()
        self._bridge.preview(self.edit(change, value))

    def commit(self, label: str, change: Change[Value], value: Value) -> bool:
        """Make a change as one undo step; False when it changed nothing."""
        if self._bridge.in_gesture:
            self._bridge.preview(self.edit(change, value))
            self._bridge.commit(label)
            done = True
        else:
            done = self._bridge.apply(label, self.edit(change, value))
        self.tried.emit()
        return done

    def do(self, label: str, change: Callable[[Camera], Camera]) -> bool:
        """A change that needs no value, as one undo step."""
        return self.commit(label, lambda camera, _: change(camera), None)
