"""What every settings panel does: fields that show the chosen cameras, and edits that go to all of them as one step."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from PySide6.QtWidgets import QWidget

from altana.app.theme.widgets import Group, NumberField
from altana.app.workspace.workspace import Workspace
from altana.core.edits.cameras import change_camera, checked, stays_plumb
from altana.core.project import Camera, Project

Change = Callable[[Camera, Any], Camera]
Get = Callable[[Camera], float]
#: With more cameras than this chosen, what has to be found out by casting rays is not compared.
MOST_COMPARED = 40


@dataclass(slots=True)
class Bound:
    """A field and where its number comes from; ``costly`` ones are compared for few cameras only."""

    field: NumberField
    get: Get
    costly: bool


class Panel(QWidget):
    """Base of panels over ``state.selected``; every change is one named undo step."""

    def __init__(self, workspace: Workspace) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__()
        self._bridge, self._state, self._studio = bridge, state, studio
        self._bound: list[Bound] = []

    def field(
        self,
        text: str,
        tip: str,
        unit: str,
        decimals: int,
        step: float,
        label_: str,
        get: Get,
        change: Change,
        low: float = -1e6,
        high: float = 1e6,
        costly: bool = False,
    ) -> NumberField:
        """A number field of the chosen cameras."""
        made = NumberField(text, tip, unit, decimals, step, low, high)
        made.changing.connect(lambda value: self.preview(change, value))
        made.changed.connect(lambda value: self.commit(label_, change, value))
        self._bound.append(Bound(made, get, costly))
        return made

    def add(self, group: Group, text: str, *args: Any, **values: Any) -> NumberField:
        """A number field on its own row of a group."""
        made = self.field(text, *args, **values)
        group.add_field(text, made)
        return made

    def targets(self) -> tuple[str, ...]:
        """The chosen cameras that may be changed."""
        project = self._bridge.project
        chosen = self._state.selected or ((self._state.active_id,) if self._state.active_id else ())
        return tuple(item for item in chosen if (camera := project.camera(item)) is not None and not camera.locked)

    def chosen(self) -> list[Camera]:
        """The chosen cameras."""
        project = self._bridge.project
        ids = self._state.selected or ((self._state.active_id,) if self._state.active_id else ())
        return [camera for item in ids if (camera := project.camera(item)) is not None]

    def edit(self, change: Change, value: Any) -> Callable[[Project], Project]:
        """An edit of all targets."""
        targets = self.targets()

        def made(project: Project) -> Project:
            steepest = project.limits.steepest_rise_deg
            for camera_id in targets:
                project = change_camera(project, camera_id, lambda camera: stays_plumb(checked(change(camera, value)), steepest))
            return project

        return made

    def preview(self, change: Change, value: Any) -> None:
        """Show a change while it is dragged."""
        if not self._bridge.in_gesture:
            self._bridge.begin()
        self._bridge.preview(self.edit(change, value))

    def commit(self, label_: str, change: Change, value: Any = None) -> bool:
        """Make a change as one undo step; False when it changed nothing."""
        if self._bridge.in_gesture:
            self._bridge.preview(self.edit(change, value))
            self._bridge.commit(label_)
            done = True
        else:
            done = self._bridge.apply(label_, self.edit(change, value))
        self.refresh()
        return done

    def show_fields(self, shown: Camera) -> None:
        """Every field shows the shown camera's number, or that the chosen ones differ."""
        others = [camera for camera in self.chosen() if camera.id != shown.id] if self._state.loose is None else []
        for bound in self._bound:
            # What is folded away is shown when it is unfolded; a drag has no time for it.
            body = bound.field.parentWidget()
            if body is not None and body.isHidden():
                continue
            compared = others if not bound.costly or len(others) < MOST_COMPARED else []
            value = bound.get(shown)
            if any(abs(bound.get(camera) - value) > 1e-9 for camera in compared):
                bound.field.show_mixed()
            else:
                bound.field.show_value(value)

    def refresh(self) -> None:
        """Show what may have changed."""
        raise NotImplementedError
