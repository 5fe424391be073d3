"""Gestures in the Frame: moving the camera one of the ways, shifting the picture within the lens, dragging an
edge."""

from __future__ import annotations

from dataclasses import replace
from typing import Protocol

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QMouseEvent

from altana.app.theme.words import capital, spoken, tr
from altana.app.workspace.bridge import Bridge
from altana.core.conventions import Vec3
from altana.core.edits.cameras import change_camera
from altana.core.edits.formats import edge_moved
from altana.core.moving import by_pointer
from altana.core.project import Camera

#: The sixth way moves no camera: the picture within the lens.
SHIFT = "rise"
#: A press that moves less than this is no drag.
STILL_PX = 3.0
#: Shifts this small, in mm, are held at nothing.
HELD_MM = 0.35


class FrameHands(Protocol):
    """What gestures need of the Frame in which they happen."""

    speed: float
    axis: str

    def frame_rect(self) -> QRectF:
        """Where the picture lies."""

    def reach(self, camera: Camera) -> float:
        """How far a drag across the picture moves, metres."""

    def walked(self, before: Camera, after: Camera, way: str) -> Camera:
        """The camera moved, with its height over the floor kept where that is wanted."""

    def show_moved(self, moved: Camera, origin: Camera) -> None:
        """Show a camera moved: a preview while it is held, a look about while the view is loose."""


class FrameGesture:
    """A drag in the Frame; ``label`` names its undo step."""

    label = ""

    def __init__(self, frame: FrameHands, bridge: Bridge, at: QPointF, camera: Camera) -> None:
        self._frame, self._bridge, self._start, self._camera = frame, bridge, at, camera
        self.moved = False

    def move(self, event: QMouseEvent) -> None:
        """The pointer went on."""
        run = event.position() - self._start
        if self.moved or max(abs(run.x()), abs(run.y())) >= STILL_PX:
            self.moved = True
            self.drag(run, event)

    def drag(self, run: QPointF, event: QMouseEvent) -> None:
        """What a drag this far does."""
        raise NotImplementedError

    def _shares(self, run: QPointF, event: QMouseEvent) -> tuple[float, float]:
        """The drag as shares of the picture; Shift, or a held key, keeps it to one axis."""
        rect = self._frame.frame_rect()
        dx, dy = run.x() / max(rect.width(), 1.0), run.y() / max(rect.height(), 1.0)
        across = abs(dx) > abs(dy)
        if self._frame.axis:
            across = self._frame.axis == "across"
        elif not event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            return dx, dy
        return (dx, 0.0) if across else (0.0, dy)

    def finish(self) -> None:
        """One undo step for the whole drag."""
        self._bridge.commit(self.label)

    def cancel(self) -> None:
        """As if nothing had been dragged."""
        self._bridge.cancel()


class MoveGesture(FrameGesture):
    """The camera goes one of the ways.  centre : what circling goes round, where it is not what the camera
    looks at."""

    def __init__(
        self, frame: FrameHands, bridge: Bridge, at: QPointF, camera: Camera, way: str, centre: Vec3 | None
    ) -> None:
        super().__init__(frame, bridge, at, camera)
        self._way, self._centre = way, centre
        self.label = tr("{way} camera", way=capital(spoken(way)))

    def drag(self, run: QPointF, event: QMouseEvent) -> None:
        """Turn, slide, lift, step or circle."""
        dx, dy = self._shares(run, event)
        if self._way in ("turn", "circle"):
            dx, dy = dx * self._frame.speed, dy * self._frame.speed
        moved = by_pointer(self._camera, self._way, dx, dy, self._frame.reach(self._camera), self._centre)
        self._frame.show_moved(self._frame.walked(self._camera, moved, self._way), self._camera)


class ShiftGesture(FrameGesture):
    """The picture within the lens: what is under the pointer goes along.  Nothing holds near zero, unless
    Control is down."""

    label = tr("Rise and cross")

    def drag(self, run: QPointF, event: QMouseEvent) -> None:
        """Rise and cross."""
        dx, dy = self._shares(run, event)
        width, height = self._camera.view().sensor_mm
        cross, rise = self._camera.cross_mm - dx * width, self._camera.rise_mm + dy * height
        if not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            cross, rise = (0.0 if abs(value) < HELD_MM else value for value in (cross, rise))
        shifted = replace(self._camera, cross_mm=round(cross, 3), rise_mm=round(rise, 3))
        self._frame.show_moved(shifted, self._camera)


class EdgeGesture(FrameGesture):
    """One edge of the frame; the eye stays, and what changes becomes shift."""

    label = tr("Drag an edge")

    def __init__(self, frame: FrameHands, bridge: Bridge, at: QPointF, camera: Camera, side: str) -> None:
        super().__init__(frame, bridge, at, camera)
        self._side = side

    def drag(self, run: QPointF, event: QMouseEvent) -> None:
        """The edge follows the pointer."""
        scale = self._camera.width_px / max(self._frame.frame_rect().width(), 1.0)
        by = {"right": run.x(), "left": -run.x(), "top": -run.y(), "bottom": run.y()}[self._side]
        pixels, camera = 2 * round(by * scale / 2), self._camera
        self._bridge.preview(
            lambda p: change_camera(p, camera.id, lambda _: edge_moved(camera, self._side, pixels))
        )
