"""The route of a walk on the plan: painted over it, its places dragged and put in by hand."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPen, QPolygonF

from altana.app.bridge import Bridge
from altana.app.desks.timeline import Timeline
from altana.app.drawings.plan_sheet import PlanSheet
from altana.app.drawings.sheet import HANDLE_PX, apart
from altana.app.scene import Studio
from altana.app.state import ViewState
from altana.app.theme.tokens import Tokens
from altana.core.conventions import Floats, Vec2, Vec3
from altana.core.edits.walks import change_key, insert_key, key_from_camera, timed
from altana.core.project import Camera, WalkKey
from altana.core.standing import floor_under, ground_at
from altana.core.walk.sample import WalkLine


class RouteOnPlan:
    """Hands and overlay of the Walk desk's plan.  ``line`` is the walk shown, ``eye`` its camera of the moment,
    ``drawn`` the places of a route that is just being drawn."""

    def __init__(self, bridge: Bridge, state: ViewState, studio: Studio, plan: PlanSheet, timeline: Timeline, tokens: Tokens) -> None:
        self._bridge, self._state, self._studio = bridge, state, studio
        self._plan, self._timeline, self._tokens = plan, timeline, tokens
        self.line: WalkLine | None = None
        self.eye: Camera | None = None
        self.drawing = False
        self.drawn: list[WalkKey] = []
        self._moving: WalkKey | None = None

    def paint(self, painter: QPainter, plan: PlanSheet) -> None:
        """Lay the route, its places and flags, and the eye of the moment over the plan."""
        green, ink = QColor(self._tokens.verdigris), QColor(self._tokens.ink)
        if self.drawing:
            points = [plan.to_screen(*key.eye[:2]) for key in self.drawn]
            painter.setPen(QPen(green, 2.0, Qt.PenStyle.DashLine))
            painter.drawPolyline(QPolygonF(points))
            self._dots(painter, points, green)
            return
        if self.line is None:
            return
        scene, route = self._studio.scene, self.line.route
        assert scene is not None
        step = max(1, len(route.points) // 400)
        points_m = route.points[::step]
        here = [scene.model.storey_below(float(z) - 0.9) == plan.storey for z in points_m[:, 2]]
        for index in range(len(points_m) - 1):
            faint = QColor(green)
            faint.setAlpha(255 if here[index] else 80)
            painter.setPen(QPen(faint, 2.4 if here[index] else 1.6))
            painter.drawLine(plan.to_screen(*points_m[index, :2]), plan.to_screen(*points_m[index + 1, :2]))
        self._dots(painter, [plan.to_screen(*key.eye[:2]) for key in self.line.walk.keys], green)
        if 0 <= self._timeline.key < len(self.line.walk.keys):
            painter.setBrush(green)
            painter.drawEllipse(plan.to_screen(*self.line.walk.keys[self._timeline.key].eye[:2]), 4.0, 4.0)
        for number, flag in enumerate(self._timeline.flags, 1):
            at = plan.to_screen(*flag.place[:2])
            painter.setPen(QPen(QColor(self._tokens.brick), 1.6))
            painter.setBrush(QColor(self._tokens.leaf))
            painter.drawRoundedRect(QRectF(at.x() - 10, at.y() - 22, 20, 13), 3, 3)
            painter.drawText(QRectF(at.x() - 10, at.y() - 22, 20, 13), Qt.AlignmentFlag.AlignCenter, f"!{number}")
            painter.drawLine(at - QPointF(0, 9), at)
        camera = self.eye
        if camera is not None:
            at, heading = plan.to_screen(*camera.eye[:2]), math.radians(camera.heading_deg)
            half = math.radians(camera.view().angles_of_view()[0]) / 2
            wash = QColor(green)
            wash.setAlpha(60)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(wash)
            reach = 70.0
            painter.drawPolygon(
                QPolygonF(
                    [
                        at,
                        *(
                            QPointF(at.x() + reach * math.sin(heading + a), at.y() - reach * math.cos(heading + a))
                            for a in np.linspace(-half, half, 9).tolist()
                        ),
                    ]
                )
            )
            painter.setPen(QPen(ink, 1.5))
            painter.setBrush(green)
            painter.drawEllipse(at, 6.0, 6.0)

    def _place_at(self, at: QPointF) -> int:
        walk = self._state.walk
        keys = walk.keys if walk is not None else ()
        near = [(apart(self._plan.to_screen(*key.eye[:2]), at), index) for index, key in enumerate(keys)]
        away, index = min(near, default=(math.inf, -1))
        return index if away <= HANDLE_PX else -1

    def take(self, at: QPointF, place: Vec2, event: QMouseEvent) -> bool:
        """Take a place of the route on the plan; it is the chosen one from then on."""
        walk, index = self._state.walk, self._place_at(at)
        if walk is None or index < 0 or walk.locked:
            return False
        self._timeline.choose_key(index)
        self._moving = walk.keys[index]
        self._bridge.begin()
        return True

    def carry(self, place: Vec2) -> None:
        """The place goes along, at its height above the floor that is really there."""
        walk, index, key, scene = self._state.walk, self._timeline.key, self._moving, self._studio.scene
        if walk is None or key is None or scene is None:
            return
        under, there = floor_under(scene.floors, key.eye), ground_at(scene.floors, place, key.eye[2] - walk.eye_height_m)
        z = key.eye[2] if under is None or there is None else there.floor_m + key.eye[2] - under
        self._bridge.preview(lambda project: timed(change_key(project, walk.id, index, eye=(place[0], place[1], z)), walk.id))

    def put_down(self) -> None:
        """One undo step for the whole drag."""
        self._moving = None
        self._bridge.commit("Move place")

    def twice(self, at: QPointF, place: Vec2) -> None:
        """A new place on the route where it was pressed twice."""
        walk, line = self._state.walk, self.line
        if walk is None or line is None or walk.turntable is not None or self._place_at(at) >= 0:
            return
        away = np.hypot(*(line.route.points[:, :2] - place).T)
        nearest = int(np.argmin(away))
        if away[nearest] * self._plan._scale > HANDLE_PX * 1.5:
            return
        distance = float(line.route.along_m[nearest])
        index = int(np.searchsorted(line.route.key_m, distance))
        second = float(np.interp(distance, line.route.key_m, line.timing.key_s))
        key = replace(key_from_camera(line.camera_at(second)), eye=_vec(line.route.points[nearest]))
        if self._bridge.change_walk("New place", walk, lambda project: insert_key(project, walk.id, index, key)):
            self._timeline.choose_key(index)

    def _dots(self, painter: QPainter, points: list[QPointF], colour: QColor) -> None:
        painter.setPen(QPen(colour, 1.8))
        painter.setBrush(QColor(self._tokens.leaf))
        for point in points:
            painter.drawEllipse(point, 4.0, 4.0)


def _vec(point: Floats) -> Vec3:
    x, y, z = point.tolist()
    return (x, y, z)
