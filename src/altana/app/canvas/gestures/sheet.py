"""Gestures on Plan and Section: each thing of the shown camera that can be dragged is a class."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QMouseEvent

from altana.app.canvas.marks import apart
from altana.app.theme.words import tr
from altana.app.workspace.bridge import Bridge
from altana.core.camera.wall_cut import WallCut
from altana.core.conventions import Vec2
from altana.core.edits.bounds import change_wall_cut, with_far, with_near
from altana.core.edits.cameras import change_camera, checked
from altana.core.project import Camera

NEAREST_BOUND_M = 0.02
#: A wall cut this near to the wall's face is held there.
HELD_CUT_M = 0.03
#: How near to a grip the pointer takes it.
GRIP_PX = 11.0


class SheetHands(Protocol):
    """What gestures need of the sheet on which they happen."""

    @property
    def px_per_m(self) -> float:
        """How many pixels a metre takes."""

    def depth_at(self, camera: Camera, place: Vec2) -> float:
        """How far ahead of the eye a place of the sheet lies, metres."""

    def along_normal(self, camera: Camera, cut: WallCut, run: Vec2) -> float:
        """How far a drag on the sheet goes along the normal of a wall cut, metres."""


class SheetGesture:
    """A drag of something of a camera; ``label`` names its undo step.  start : where it began, metres on the
    sheet."""

    label = ""

    def __init__(self, bridge: Bridge, camera: Camera, start: Vec2) -> None:
        self._bridge, self._camera, self._start = bridge, camera, start
        self.moved = False
        bridge.begin()

    def move(self, place: Vec2, event: QMouseEvent) -> None:
        """The pointer went on."""
        self.moved = True
        self.drag(place, event)

    def drag(self, place: Vec2, event: QMouseEvent) -> None:
        """What a drag to here does."""
        raise NotImplementedError

    def show(self, changed: Camera) -> None:
        """Preview the camera as it would be."""
        self._bridge.preview(lambda p: change_camera(p, self._camera.id, lambda _: changed))

    def finish(self) -> None:
        """One undo step for the whole drag."""
        self._bridge.commit(self.label)

    def cancel(self) -> None:
        """As if nothing had been dragged."""
        self._bridge.cancel()


class BoundGesture(SheetGesture):
    """The near or the far bound along the line of sight; they never pass each other."""

    def __init__(self, sheet: SheetHands, bridge: Bridge, camera: Camera, start: Vec2) -> None:
        super().__init__(bridge, camera, start)
        self._sheet = sheet

    def drag(self, place: Vec2, event: QMouseEvent) -> None:
        """The bound follows the pointer."""
        self.bound(round(self._sheet.depth_at(self._camera, place), 2))

    def bound(self, depth_m: float) -> None:
        """Bring the bound to a depth."""
        raise NotImplementedError


class NearGesture(BoundGesture):
    """What is nearer is hidden."""

    label = tr("Hide nearer than")

    def bound(self, depth_m: float) -> None:
        """At least a hand's breadth off, and short of the far bound."""
        far = self._camera.far
        if depth_m >= NEAREST_BOUND_M and (far is None or depth_m < far):
            self.show(checked(with_near(self._camera, depth_m)))


class FarGesture(BoundGesture):
    """What is beyond is hidden."""

    label = tr("Hide beyond")

    def bound(self, depth_m: float) -> None:
        """Beyond the near bound."""
        if depth_m > (self._camera.near or NEAREST_BOUND_M):
            self.show(checked(with_far(self._camera, depth_m)))


class CutGesture(SheetGesture):
    """A wall cut along its normal."""

    label = tr("Move wall cut")

    def __init__(self, sheet: SheetHands, bridge: Bridge, camera: Camera, start: Vec2, number: int) -> None:
        super().__init__(bridge, camera, start)
        self._sheet, self._number = sheet, number

    def drag(self, place: Vec2, event: QMouseEvent) -> None:
        """It follows the pointer; near the wall's face it is held there."""
        cut = self._camera.wall_cuts[self._number]
        run = (place[0] - self._start[0], place[1] - self._start[1])
        offset = cut.offset_m + self._sheet.along_normal(self._camera, cut, run)
        cut_m = 0.0 if abs(offset) < HELD_CUT_M else round(offset, 2)
        self.show(change_wall_cut(self._camera, self._number, offset_m=cut_m))


@dataclass(frozen=True, slots=True)
class Grip:
    """A place that can be taken, px, and the class of what is then dragged; ``number`` tells wall cuts
    apart."""

    at: QPointF
    gesture: type[SheetGesture]
    number: int = 0

    @property
    def key(self) -> tuple[type[SheetGesture], int]:
        """What it is, wherever it lies."""
        return self.gesture, self.number

    def away(self, at: QPointF) -> float:
        """How far the pointer is, px."""
        return apart(self.at, at)


def free(event: QMouseEvent) -> bool:
    """Control lets go of whatever would hold a drag."""
    return bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
