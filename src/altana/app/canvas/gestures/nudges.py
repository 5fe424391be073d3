"""Moving the shown camera by keys and by the wheel: moves that follow each other are one undo step."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Protocol

from PySide6.QtCore import QTimer

from altana.app.canvas.gestures.frame import SHIFT
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.moving import by_pointer, turn
from altana.core.project import Camera

#: So long after the last move they no longer follow each other.
REST_MS = 400


class NudgedFrame(Protocol):
    """What nudges need of the Frame."""

    override: Camera | None

    @property
    def way(self) -> str:
        """The chosen way to move."""

    @property
    def dragging(self) -> bool:
        """Whether a drag goes on."""

    def walked(self, before: Camera, after: Camera, way: str) -> Camera:
        """The camera moved, with its height over the floor kept where that is wanted."""

    def show_moved(self, moved: Camera, origin: Camera) -> None:
        """Show a camera moved."""

    def rest(self) -> None:
        """Nothing moves any more: sharpen soon."""


class Nudges:
    """The moves by key of one Frame."""

    def __init__(self, frame: NudgedFrame, workspace: Workspace, timer: QTimer) -> None:
        self._frame, self._bridge, self._state = frame, workspace.bridge, workspace.state
        self.moving = False
        self._rest = timer
        timer.setSingleShot(True)
        timer.setInterval(REST_MS)
        timer.timeout.connect(self.end)

    def nudge(self, move: Callable[[Camera], Camera]) -> None:
        """Move the shown camera a little; moves that follow each other are one undo step."""
        camera = self._state.shown
        if camera is None or self._frame.dragging or self._frame.override is not None:
            return
        if not self.moving:
            self.moving = True
            if self._state.held:
                self._bridge.begin()
        self._rest.start()
        self._frame.show_moved(move(camera), camera)

    def end(self) -> None:
        """No more moves: the undo step is whole."""
        if self.moving:
            self.moving = False
            self._rest.stop()
            self._bridge.commit(tr("Move camera"))
            self._frame.rest()

    def arrow(self, dx: int, dy: int, big: float) -> None:
        """An arrow key: the chosen way, or the lens shifted."""
        if self._frame.way == "turn":
            self.nudge(lambda camera: turn(camera, dx * big, dy * big))
            return
        if self._frame.way == SHIFT:
            self.nudge(
                lambda camera: replace(
                    camera,
                    cross_mm=camera.cross_mm + dx * 0.25 * big,
                    rise_mm=camera.rise_mm + dy * 0.25 * big,
                )
            )
            return

        def move(camera: Camera) -> Camera:
            across = dx * big / 120.0 if self._frame.way == "circle" else -dx * 0.01 * big
            up = dy * 0.01 * big if self._frame.way == "lift" else -dy * 0.02 * big
            return self._frame.walked(
                camera,
                by_pointer(camera, self._frame.way, across, up, min(max(camera.aim_m, 1.0), 40.0)),
                self._frame.way,
            )

        self.nudge(move)
