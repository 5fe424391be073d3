"""Gestures on the Section: the eye, the tilt, and the upper and lower edge of the frame, which make rise."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Protocol

from PySide6.QtCore import Qt
from PySide6.QtGui import QMouseEvent

from altana.app.canvas.gestures.sheet import SheetGesture, free
from altana.app.canvas.holding import HOLD_PX
from altana.app.theme.words import tr
from altana.app.workspace.bridge import Bridge
from altana.core.conventions import Vec2
from altana.core.edits.cameras import set_camera, stays_plumb
from altana.core.project import Camera

STEEPEST_TILT_DEG = 80.0
LARGEST_RISE_MM = 60.0
#: A rise this small is held at nothing.
HELD_MM = 0.35
NEAREST_AIM_M = 0.25


class SectionHands(Protocol):
    """What gestures need of the section on which they happen."""

    @property
    def px_per_m(self) -> float:
        """How many pixels a metre takes."""

    def place_of(self, camera: Camera) -> Vec2:
        """Where the eye lies on the sheet."""

    def eye_moved(self, camera: Camera, along: float, up: float) -> Camera:
        """The camera moved along its line of sight and up, on the floor where it only goes along."""


class SectionGesture(SheetGesture):
    """A drag on the section."""

    def __init__(self, section: SectionHands, bridge: Bridge, camera: Camera, start: Vec2) -> None:
        super().__init__(bridge, camera, start)
        self._section = section

    def _elevation(self, place: Vec2) -> float:
        """The angle above the horizon at which the eye sees a place of the sheet, radians."""
        s, z = self._section.place_of(self._camera)
        return math.atan2(place[1] - z, max(place[0] - s, 1e-3))


class SectionEyeGesture(SectionGesture):
    """The eye along the line of sight and up; Shift keeps to one of the two."""

    label = tr("Move eye")

    def drag(self, place: Vec2, event: QMouseEvent) -> None:
        """The eye follows the pointer."""
        along, up = place[0] - self._start[0], place[1] - self._start[1]
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            along, up = (along, 0.0) if abs(along) > abs(up) else (0.0, up)
        self.show(self._section.eye_moved(self._camera, along, up))


class TiltGesture(SectionGesture):
    """What is looked at, up and down; level holds it."""

    label = tr("Tilt")

    def drag(self, place: Vec2, event: QMouseEvent) -> None:
        """A camera that is kept plumb looks along its rise; from there the same line becomes another rise."""
        camera = self._camera
        s, z = self._section.place_of(camera)
        tilt = math.degrees(self._elevation(place))
        if not free(event) and abs(place[1] - z) * self._section.px_per_m < HOLD_PX:
            tilt = 0.0
        tilt = max(-STEEPEST_TILT_DEG, min(STEEPEST_TILT_DEG, tilt))
        away = max(NEAREST_AIM_M, math.hypot(place[0] - s, place[1] - z))
        rise = 0.0 if camera.kept_plumb else camera.rise_mm
        turned = replace(camera, tilt_deg=tilt, aim_m=away, rise_mm=rise)
        self.show(stays_plumb(turned, self._bridge.project.limits.steepest_rise_deg))


class UpperEdgeGesture(SectionGesture):
    """The frame's upper edge."""

    label = tr("Rise")
    #: Which way the edge lies from the middle of the sensor.
    side = 1.0

    def drag(self, place: Vec2, event: QMouseEvent) -> None:
        """The frame keeps its height; the lens is shifted."""
        camera = self._camera
        tangent = math.tan(max(-1.4, min(1.4, self._elevation(place) - math.radians(camera.tilt_deg))))
        rise = camera.focal_mm * tangent - self.side * camera.view().sensor_mm[1] / 2
        if not free(event) and abs(rise) < HELD_MM:
            rise = 0.0
        rise = round(max(-LARGEST_RISE_MM, min(LARGEST_RISE_MM, rise)), 2)
        self._bridge.preview(lambda p: set_camera(p, camera.id, rise_mm=rise))


class LowerEdgeGesture(UpperEdgeGesture):
    """The frame's lower edge."""

    side = -1.0
