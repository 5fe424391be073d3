"""Gestures on the Plan: the eye with or without its aim, the aim, an edge of the field of view."""

from __future__ import annotations

import math
from typing import Protocol

from PySide6.QtGui import QMouseEvent

from altana.app.canvas.gestures.sheet import SheetGesture, free
from altana.app.canvas.holding import Holding
from altana.app.theme.words import tr
from altana.app.workspace.bridge import Bridge
from altana.app.workspace.scene import Scene
from altana.core.conventions import Vec2, Vec3
from altana.core.edits.cameras import SHORTEST_AIM_M, aim_at, eye_alone, move_eye, set_camera
from altana.core.lens import focal_for_edge
from altana.core.project import Camera


class PlanHands(Protocol):
    """What gestures need of the plan on which they happen."""

    holding: Holding

    @property
    def px_per_m(self) -> float:
        """How many pixels a metre takes."""

    @property
    def scene(self) -> Scene | None:
        """The model that is open."""

    def eye_at(self, camera: Camera, place: Vec2) -> Vec3:
        """The camera's eye over another place, as high above the floor that is really there."""


class PlanGesture(SheetGesture):
    """A drag on the plan."""

    def __init__(self, plan: PlanHands, bridge: Bridge, camera: Camera, start: Vec2) -> None:
        super().__init__(bridge, camera, start)
        self._plan = plan

    def held(self, place: Vec2, event: QMouseEvent, off_wall: bool = False) -> Vec2:
        """The place, or what holds it."""
        return self._plan.holding.place(place, self._plan.px_per_m, free(event), off_wall)


class EyeGesture(PlanGesture):
    """The eye and its aim together."""

    label = tr("Move eye")

    def drag(self, place: Vec2, event: QMouseEvent) -> None:
        """The middle between the walls beside holds as well."""
        plan, camera = self._plan, self._camera
        there = self.held(place, event, off_wall=True)
        there = plan.holding.between(plan.scene, camera, there, plan.px_per_m, free(event))
        eye = plan.eye_at(camera, there)
        self._bridge.preview(lambda p: move_eye(p, camera.id, eye))


class EyeAloneGesture(PlanGesture):
    """The eye; what is looked at stays."""

    label = tr("Move eye alone")

    def drag(self, place: Vec2, event: QMouseEvent) -> None:
        """The heading follows."""
        camera = self._camera
        eye = self._plan.eye_at(camera, self.held(place, event, off_wall=True))
        self._bridge.preview(lambda p: eye_alone(p, camera, eye))


class AimGesture(PlanGesture):
    """What is looked at."""

    label = tr("Aim")

    def drag(self, place: Vec2, event: QMouseEvent) -> None:
        """Not nearer than a step from the eye."""
        camera = self._camera
        target = self._plan.holding.aim((camera.eye[0], camera.eye[1]), self.held(place, event), free(event))
        if math.dist(target, camera.eye[:2]) > SHORTEST_AIM_M:
            self._bridge.preview(lambda p: aim_at(p, camera.id, (*target, camera.eye[2])))


class LensGesture(SheetGesture):
    """An edge of the field of view: the lens whose edge passes through the pointer."""

    label = tr("Change lens")

    def drag(self, place: Vec2, event: QMouseEvent) -> None:
        """The eye stays."""
        focal = focal_for_edge(self._camera, place)
        if focal is not None:
            self._bridge.preview(lambda p: set_camera(p, self._camera.id, focal_mm=focal))
