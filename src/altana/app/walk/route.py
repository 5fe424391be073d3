"""The route of a walk on the plan: painted over it, its places dragged and put in by hand."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPen, QPolygonF

from altana.app.canvas.gestures.sheet import GRIP_PX
from altana.app.canvas.marks import apart
from altana.app.canvas.plan_sheet import PlanSheet
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.app.walk.table_on_plan import TableOnPlan
from altana.app.walk.timeline import Timeline
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import Floats, Vec2, Vec3
from altana.core.edits.walks import change_key, insert_key, key_from_camera, set_walk, timed
from altana.core.errors import Refused
from altana.core.model import Model
from altana.core.project import SMOOTH, Camera, Walk, WalkKey
from altana.core.standing import floor_under, ground_at
from altana.core.walk.bend import bent, stretch_at
from altana.core.walk.sample import WalkLine, resolve


class RouteOnPlan:
    """Hands and overlay of the Walk desk's plan.  ``line`` is the walk shown, ``eye`` its camera of the
    moment, ``drawn`` the places of a route that is just being drawn."""

    def __init__(self, workspace: Workspace, plan: PlanSheet, timeline: Timeline, tokens: Tokens) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        self._bridge, self._state, self._studio = bridge, state, studio
        self._plan, self._timeline, self._tokens = plan, timeline, tokens
        self.line: WalkLine | None = None
        self.eye: Camera | None = None
        self.drawing = False
        self.drawn: list[WalkKey] = []
        self._moving: WalkKey | None = None
        self._handle = 0
        #: The stretch that is pulled at: its number, and the share of it that is held.
        self._pulled: tuple[int, float] | None = None
        self._others: dict[Walk, list[Vec2]] = {}
        #: Which parts of the route lie on the storey shown, and of what that holds.
        self._here: tuple[tuple[object, ...], list[bool]] = ((None, None, None), [])
        self.table = TableOnPlan(bridge, plan, tokens)

    def paint(self, painter: QPainter, plan: PlanSheet) -> None:
        """Lay the route, its places and flags, and the eye of the moment over the plan."""
        green = QColor(self._tokens.verdigris)
        if self.drawing:
            points = [plan.to_screen(*key.eye[:2]) for key in self.drawn]
            painter.setPen(QPen(green, 2.0, Qt.PenStyle.DashLine))
            painter.drawPolyline(QPolygonF(points))
            self._dots(painter, points, green)
            return
        self._paint_others(painter, plan)
        if self.line is None:
            return
        scene, route = self._studio.scene, self.line.route
        assert scene is not None
        self._paint_route(painter, plan, scene.model, route.points[:: max(1, len(route.points) // 400)])
        self._dots(painter, [plan.to_screen(*key.eye[:2]) for key in self.line.walk.keys], green)
        painter.setBrush(green)
        for index in self._timeline.keys:
            if index < len(self.line.walk.keys):
                painter.drawEllipse(plan.to_screen(*self.line.walk.keys[index].eye[:2]), 4.0, 4.0)
        self._paint_handles(painter)
        if self.line.walk.turntable is not None and not self.line.walk.locked:
            self.table.paint(painter, self.line.walk.turntable)
        self._paint_flags(painter, plan)
        self._paint_eye(painter, plan)

    def _paint_route(self, painter: QPainter, plan: PlanSheet, model: Model, points: Floats) -> None:
        """The way itself, faint on another storey; while a walk plays it is painted many times a second."""
        of = (self.line, plan.storey, model)
        if not all(known is now for known, now in zip(self._here[0], of, strict=True)):
            self._here = of, [model.storey_of_eye(point) == plan.storey for point in points]
        at, here = plan.on_screen(points[:, :2]), self._here[1]
        for shown, alpha, wide in ((False, 80, 1.6), (True, 255, 2.4)):
            colour = QColor(self._tokens.verdigris)
            colour.setAlpha(alpha)
            painter.setPen(QPen(colour, wide))
            painter.drawLines([QLineF(at[n], at[n + 1]) for n in range(len(at) - 1) if here[n] == shown])

    def _paint_eye(self, painter: QPainter, plan: PlanSheet) -> None:
        """Where the walk is at the moment."""
        green, ink = QColor(self._tokens.verdigris), QColor(self._tokens.ink)
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
                            QPointF(
                                at.x() + reach * math.sin(heading + a), at.y() - reach * math.cos(heading + a)
                            )
                            for a in np.linspace(-half, half, 9).tolist()
                        ),
                    ]
                )
            )
            painter.setPen(QPen(ink, 1.5))
            painter.setBrush(green)
            painter.drawEllipse(at, 6.0, 6.0)

    def _paint_flags(self, painter: QPainter, plan: PlanSheet) -> None:
        for number, flag in enumerate(self._timeline.flags, 1):
            at = plan.to_screen(*flag.place[:2])
            painter.setPen(QPen(QColor(self._tokens.brick), 1.6))
            painter.setBrush(QColor(self._tokens.leaf))
            painter.drawRoundedRect(QRectF(at.x() - 10, at.y() - 22, 20, 13), 3, 3)
            painter.drawText(
                QRectF(at.x() - 10, at.y() - 22, 20, 13), Qt.AlignmentFlag.AlignCenter, f"!{number}"
            )
            painter.drawLine(at - QPointF(0, 9), at)

    def _paint_others(self, painter: QPainter, plan: PlanSheet) -> None:
        """The routes of the other walks, faint, unless they are taken off the plan."""
        faint = QColor(self._tokens.pencil)
        faint.setAlpha(130)
        painter.setPen(QPen(faint, 1.2, Qt.PenStyle.DotLine))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        walks = [
            item for item in self._bridge.project.walks if not item.hidden and item.id != self._state.walk_id
        ]
        self._others = {item: self._others.get(item) or _on_plan(item) for item in walks}
        for places in self._others.values():
            painter.drawPolyline(QPolygonF(plan.on_screen(np.asarray(places, float).reshape(-1, 2))))

    # ------------------------------------------------------------------ handles

    def _own_handle(self) -> Vec2 | None:
        """How far the route carries on at the chosen place, metres, set or of itself; None at a corner."""
        line, index = self.line, self._timeline.key
        if (
            line is None
            or line.walk.turntable is not None
            or not 0 <= index < len(line.walk.keys)
            or len(self._timeline.keys) > 1
        ):
            return None
        key = line.walk.keys[index]
        if key.bend != SMOOTH:
            return None
        if key.handle is not None:
            return key.handle
        at, route = float(line.route.key_m[index]), line.route
        ends = route.at(np.array([max(0.0, at - 0.02), min(route.length_m, at + 0.02)]))[:, :2]
        way = (ends[1] - ends[0]) / max(float(np.hypot(*(ends[1] - ends[0]))), 1e-9)
        gaps = np.diff(route.key_m)[max(0, index - 1) : index + 1]
        x, y = (way * float(gaps.min()) / 3.0).tolist()
        return (x, y)

    def handle_places(self) -> tuple[QPointF, QPointF] | None:
        """Where the two knobs of the chosen place lie on the plan: ahead, and back."""
        handle, walk, index = self._own_handle(), self._state.walk, self._timeline.key
        if handle is None or walk is None or walk.locked:
            return None
        x, y, _ = walk.keys[index].eye
        return self._plan.to_screen(x + handle[0], y + handle[1]), self._plan.to_screen(
            x - handle[0], y - handle[1]
        )

    def _paint_handles(self, painter: QPainter) -> None:
        knobs = self.handle_places()
        if knobs is None or self._state.walk is None:
            return
        own = self._state.walk.keys[self._timeline.key].handle is not None
        painter.setPen(QPen(QColor(self._tokens.ink), 1.0))
        painter.drawLine(*knobs)
        painter.setBrush(QColor(self._tokens.ink if own else self._tokens.leaf))
        for knob in knobs:
            painter.drawRect(QRectF(knob.x() - 3, knob.y() - 3, 6, 6))

    def _handle_at(self, at: QPointF) -> int:
        """1 for the knob ahead, -1 for the one back, 0 for none."""
        knobs = self.handle_places()
        if knobs is None:
            return 0
        for knob, sense in zip(knobs, (1, -1), strict=True):
            if apart(knob, at) <= GRIP_PX:
                return sense
        return 0

    # ------------------------------------------------------------------ hands

    def _place_at(self, at: QPointF) -> int:
        walk = self._state.walk
        keys = walk.keys if walk is not None else ()
        near = [(apart(self._plan.to_screen(*key.eye[:2]), at), index) for index, key in enumerate(keys)]
        away, index = min(near, default=(math.inf, -1))
        return index if away <= GRIP_PX else -1

    def over(self, at: QPointF, place: Vec2) -> bool:
        """Whether something of the route lies under the pointer that can be dragged."""
        walk, line = self._state.walk, self.line
        if walk is None or walk.locked or walk.turntable is not None or line is None or self.drawing:
            return False
        away = np.hypot(*(line.route.points[:, :2] - place).T).min() * self._plan.px_per_m
        return bool(away <= GRIP_PX) or self._handle_at(at) != 0

    def take(self, at: QPointF, place: Vec2, event: QMouseEvent) -> bool:
        """Take a place of the route on the plan; it is the chosen one from then on."""
        walk, index = self._state.walk, self._place_at(at)
        if walk is None or walk.locked:
            return False
        if walk.turntable is not None:
            return self.table.take(walk, at)
        self._handle = self._handle_at(at) if index < 0 else 0
        if self._handle:
            self._bridge.begin()
            return True
        if index < 0:
            return self._take_stretch(walk, place)
        self._timeline.choose_key(index)
        self._moving = walk.keys[index]
        self._bridge.begin()
        return True

    def _take_stretch(self, walk: Walk, place: Vec2) -> bool:
        """Take the route between two of its places, where the pointer lies on it."""
        if self.line is None or len(walk.keys) < 2:
            return False
        number, share, away_m = stretch_at(walk, place)
        if away_m * self._plan.px_per_m > GRIP_PX:
            return False
        self._pulled = (number, share)
        self._bridge.begin()
        return True

    def _pull(self, walk: Walk, number: int, share: float, place: Vec2) -> None:
        try:
            keys = bent(walk, number, share, place).keys
        except Refused as error:
            self._bridge.notices.note(error.sentence)
            self._pulled = None
            return
        self._bridge.preview(lambda project: timed(set_walk(project, walk.id, keys=keys), walk.id))

    def carry(self, place: Vec2) -> None:
        """The place goes along, at its height above the floor that is really there; a stretch that is pulled
        bends through it."""
        walk, index, key, scene = self._state.walk, self._timeline.key, self._moving, self._studio.scene
        self.table.carry(place)
        if walk is not None and self._handle:
            x, y, _ = walk.keys[index].eye
            handle = (self._handle * (place[0] - x), self._handle * (place[1] - y))
            self._bridge.preview(
                lambda project: timed(change_key(project, walk.id, index, handle=handle), walk.id)
            )
            return
        if walk is not None and self._pulled is not None:
            self._pull(walk, *self._pulled, place)
            return
        if walk is None or key is None or scene is None:
            return
        under, there = (
            floor_under(scene.floors, key.eye),
            ground_at(scene.floors, place, key.eye[2] - walk.eye_height_m),
        )
        z = key.eye[2] if under is None or there is None else there.floor_m + key.eye[2] - under
        self._bridge.preview(
            lambda project: timed(change_key(project, walk.id, index, eye=(place[0], place[1], z)), walk.id)
        )

    def put_down(self) -> None:
        """One undo step for the whole drag."""
        if self.table.put_down():
            return
        self._moving = None
        label = (
            tr("Handle of a place")
            if self._handle
            else tr("Bend the route")
            if self._pulled is not None
            else tr("Move place")
        )
        self._bridge.commit(label)
        self._handle, self._pulled = 0, None

    def twice(self, at: QPointF, place: Vec2) -> None:
        """A new place on the route where it was pressed twice."""
        walk, line = self._state.walk, self.line
        if walk is None or line is None or walk.turntable is not None or self._place_at(at) >= 0:
            return
        if self._handle_at(at):
            chosen = self._timeline.key
            self._bridge.change_walk(
                tr("Handle by itself"),
                walk,
                lambda project: change_key(project, walk.id, chosen, handle=None),
            )
            return
        away = np.hypot(*(line.route.points[:, :2] - place).T)
        nearest = int(np.argmin(away))
        if away[nearest] * self._plan.px_per_m > GRIP_PX * 1.5:
            return
        distance = float(line.route.along_m[nearest])
        index = int(np.searchsorted(line.route.key_m, distance))
        second = float(np.interp(distance, line.route.key_m, line.timing.key_s))
        light = line.light_at(second)
        key = replace(
            key_from_camera(line.camera_at(second)),
            eye=_vec(line.route.points[nearest]),
            hour=light.hour,
            lamps=light.lamps,
        )
        if self._bridge.change_walk(
            tr("New place"), walk, lambda project: insert_key(project, walk.id, index, key)
        ):
            self._timeline.choose_key(index)

    def _dots(self, painter: QPainter, points: list[QPointF], colour: QColor) -> None:
        painter.setPen(QPen(colour, 1.8))
        painter.setBrush(QColor(self._tokens.leaf))
        for point in points:
            painter.drawEllipse(point, 4.0, 4.0)


def _on_plan(walk: Walk) -> list[Vec2]:
    """The route of a walk as a line on the plan; its places alone where it cannot be timed."""
    try:
        points = resolve(walk, None).route.points
    except Refused:
        points = np.array([key.eye for key in walk.keys])
    return [(float(x), float(y)) for x, y in points[:: max(1, len(points) // 200), :2]]


def _vec(point: Floats) -> Vec3:
    x, y, z = point.tolist()
    return (x, y, z)
