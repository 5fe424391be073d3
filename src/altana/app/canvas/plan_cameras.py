"""Cameras on the plan: the others faint and named, the shown one with what it sees, its bounds and what a
drag says."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Protocol

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRect, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPixmap, QPolygonF

from altana.app.canvas.marks import Marks, apart
from altana.app.canvas.plan_bounds import PlanBounds
from altana.app.canvas.sheet import FARTHEST_SEEN_M
from altana.app.theme.lengths import length
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.camera.bounds import look, sight_begins, sight_ends
from altana.core.conventions import Bools, Floats, Vec2
from altana.core.model import Storey
from altana.core.project import Camera
from altana.core.standing import clearances, floor_under

FAN_RAYS = 49
MOST_NAMES, MOST_TRIED = 40, 120
#: A camera's ring and some air.
MARK_PX = 18.0


class PlanGround(Protocol):
    """What cameras need of the plan on which they are drawn."""

    marks: Marks
    storey: Storey | None
    centre: Vec2

    @property
    def px_per_m(self) -> float:
        """How many pixels a metre takes."""

    @property
    def pointer(self) -> Vec2 | None:
        """Where the pointer is, metres."""

    @property
    def panning(self) -> bool:
        """Whether the sheet is being moved."""

    @property
    def dragging(self) -> bool:
        """Whether something is dragged, or a camera being stood."""

    @property
    def dimensioned(self) -> bool:
        """Whether dimensions are said."""

    @property
    def base_key(self) -> int:
        """Another for every drawing painted."""

    def to_screen(self, x: float, y: float) -> QPointF:
        """Metres on the sheet to pixels of the widget."""

    def on_storey(self, cameras: list[Camera]) -> Bools:
        """(n,) bool: which cameras stand on the storey that is shown."""

    def width(self) -> int:
        """Pixels."""

    def height(self) -> int:
        """Pixels."""

    def rect(self) -> QRect:
        """The whole sheet."""

    def devicePixelRatioF(self) -> float:
        """Pixels of the screen in one of the widget's."""


class PlanCameras:
    """Paints the cameras of a workspace on one plan."""

    def __init__(self, plan: PlanGround, workspace: Workspace, tokens: Tokens) -> None:
        self._plan, self._tokens = plan, tokens
        #: Where names of rooms stand, which names of cameras leave free.
        self.lettered: list[QRectF] = []
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio
        self.bounds = PlanBounds(plan, tokens)
        self._edge_ends: tuple[QPointF, QPointF] | None = None
        #: What the camera drawn last sees, of which model.
        self._seen: tuple[object, Camera, tuple[Floats, Floats, Floats, Floats]] | None = None
        self.others_layer: QPixmap | None = None
        self._others_key: object = None

    def paint(self, painter: QPainter) -> None:
        """All of them, the shown one on top."""
        shown = self._state.shown
        others = [
            item
            for item in self._bridge.project.cameras
            if item.id != self._state.active_id and not item.hidden
        ]
        painter.drawPixmap(0, 0, self._layer(others, shown))
        if shown is not None and (shown.id or self._state.loose is not None):
            self._active_camera(painter, shown)
        if not self._plan.dragging and self._plan.pointer is not None:
            hover = self._plan.pointer
            near = [item for item in others if math.dist(hover, item.eye[:2]) * self._plan.px_per_m < 14]
            self._names(painter, near[:3], [], near=True)

    def marks(self) -> list[QRectF]:
        """Where the cameras of this storey stand on the sheet."""
        shown = [item for item in self._bridge.project.cameras if not item.hidden]
        here = self._plan.on_storey(shown)
        places = [
            self._plan.to_screen(item.eye[0], item.eye[1]) for item, on in zip(shown, here, strict=True) if on
        ]
        around = QRectF(-MARK_PX / 2.0, -MARK_PX / 2.0, MARK_PX, MARK_PX)
        return [around.translated(place) for place in places]

    def _layer(self, others: list[Camera], shown: Camera | None) -> QPixmap:
        """The other cameras, painted once for as long as none of them changes: there may be hundreds."""
        named = not self._plan.dragging and not self._plan.panning
        place = shown.eye if shown is not None and named else None
        key = (
            self._plan.base_key,
            tuple(map(id, others)),
            self._state.selected,
            named,
            place,
            self._plan.storey,
        )
        if self._others_key != key or self.others_layer is None:
            ratio = self._plan.devicePixelRatioF()
            layer = QPixmap(round(self._plan.width() * ratio), round(self._plan.height() * ratio))
            layer.setDevicePixelRatio(ratio)
            layer.fill(Qt.GlobalColor.transparent)
            painter = QPainter(layer)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            here = self._plan.on_storey(others)
            self._faint_cameras(painter, others, here)
            if named:
                taken = list(self.lettered)
                if shown is not None:
                    at = self._plan.to_screen(*shown.eye[:2])
                    taken.append(QRectF(at.x() - 9, at.y() - 9, 18, 18))
                self._names(
                    painter,
                    [camera for camera, same in zip(others, here.tolist(), strict=True) if same],
                    taken,
                )
            painter.end()
            self._others_key, self.others_layer = key, layer
        return self.others_layer

    def _faint_cameras(self, painter: QPainter, cameras: list[Camera], here: Bools) -> None:
        """All other cameras, each kind in one go: chosen ones, those of this storey, those of others."""
        if not cameras:
            return
        eye = np.array([camera.eye[:2] for camera in cameras])
        heading = np.radians([camera.heading_deg for camera in cameras])
        at = np.column_stack(
            [
                self._plan.width() / 2 + (eye[:, 0] - self._plan.centre[0]) * self._plan.px_per_m,
                self._plan.height() / 2 - (eye[:, 1] - self._plan.centre[1]) * self._plan.px_per_m,
            ]
        )
        seen = ((at > -20) & (at < (self._plan.width() + 20, self._plan.height() + 20))).all(axis=1)
        chosen = np.array([camera.id in self._state.selected for camera in cameras])
        tips = at + 13 * np.column_stack([np.sin(heading), -np.cos(heading)])
        pencil, verdigris = QColor(self._tokens.pencil), QColor(self._tokens.verdigris)
        for which, colour, alpha, width, style in (
            (~chosen & ~here, pencil, 90, 1.3, Qt.PenStyle.DotLine),
            (~chosen & here, pencil, 230, 1.3, Qt.PenStyle.SolidLine),
            (chosen, verdigris, 255, 2.0, Qt.PenStyle.SolidLine),
        ):
            mine = which & seen
            if not mine.any():
                continue
            colour.setAlpha(alpha)
            painter.setPen(QPen(colour, width, style))
            painter.drawLines([QLineF(*pair) for pair in np.hstack([at[mine], tips[mine]]).tolist()])
            # A wide dot under a narrower one: points are drawn much faster than rings.
            places = QPolygonF([QPointF(x, y) for x, y in at[mine].tolist()])
            for dot, shade in ((8.0 + width, colour), (8.0 - width, QColor(self._tokens.leaf))):
                painter.setPen(QPen(shade, dot, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
                painter.drawPoints(places)

    def _names(
        self, painter: QPainter, cameras: list[Camera], taken: list[QRectF], near: bool = False
    ) -> None:
        """Names of the cameras of this storey, as far as there is room for them."""
        painter.setFont(text_font(8))
        metrics = painter.fontMetrics()
        inner = self._plan.rect().adjusted(4, 30, -4, -4)
        named = 0
        for camera in cameras[:MOST_TRIED]:
            at = self._plan.to_screen(camera.eye[0], camera.eye[1])
            if named >= MOST_NAMES or not inner.contains(at.toPoint()):
                continue
            box = QRectF(at.x() + 8, at.y() + 2, metrics.horizontalAdvance(camera.name) + 4, metrics.height())
            if box.right() > self._plan.width() - 4:
                box.moveRight(at.x() - 8)
            # Whole, at the plan's edge too.
            box.moveLeft(max(box.left(), 4.0))
            box.moveBottom(min(box.bottom(), self._plan.height() - 4.0))
            if not near and any(box.intersects(other) for other in taken):
                continue
            taken.append(box)
            named += 1
            paper = QColor(self._tokens.leaf)
            paper.setAlpha(245 if near else 190)
            painter.fillRect(box, paper)
            painter.setPen(QColor(self._tokens.ink if near else self._tokens.pencil))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, camera.name)

    def _active_camera(self, painter: QPainter, camera: Camera) -> None:
        loose = self._state.loose is not None
        green = QColor(self._tokens.verdigris)
        at, aim = self._plan.to_screen(*camera.eye[:2]), self._plan.to_screen(*camera.aim[:2])
        self._section_line(painter, camera, at)
        self._paint_field(painter, camera, at, loose)
        painter.setPen(QPen(green, 1.1, Qt.PenStyle.DotLine))
        painter.drawLine(at, aim)
        self.bounds.paint(painter, camera)
        painter.setPen(QPen(green, 2.0))
        painter.setBrush(QColor(self._tokens.leaf))
        if camera.looks_at_point:
            painter.drawEllipse(aim, 4.5, 4.5)
        else:
            self._plan.marks.arrow(painter, aim, aim - at)
        painter.setBrush(QColor(self._tokens.leaf) if loose else green)
        painter.drawEllipse(at, 6.0, 6.0)
        if camera.locked:
            self._plan.marks.tag(painter, at + QPointF(10, 14), tr("locked"))
        for edge in self.edge_points(camera):
            self._plan.marks.square_handle(painter, edge, self._tokens.verdigris)
        if self._plan.dimensioned:
            self._dimensions(painter, camera)

    def _section_line(self, painter: QPainter, camera: Camera, at: QPointF) -> None:
        """Where the section is cut: a thin chain line along the line of sight, across the sheet."""
        heading = math.radians(camera.heading_deg)
        run = QPointF(math.sin(heading), -math.cos(heading)) * float(self._plan.width() + self._plan.height())
        pencil = QColor(self._tokens.pencil)
        pencil.setAlpha(120)
        pen = QPen(pencil, 1.0)
        pen.setDashPattern([12, 4, 2, 4])
        painter.setPen(pen)
        painter.drawLine(at - run, at + run)

    def _paint_field(self, painter: QPainter, camera: Camera, at: QPointF, loose: bool) -> None:
        near, far, beyond = self.field_of_view(camera)
        self._edge_ends = (far[0], far[-1])
        cut = camera.near is not None or any(item.holds(camera.eye) for item in camera.cuts)
        self._plan.marks.field_shape(
            painter, at, near, far, beyond if camera.far is not None else [], cut, loose
        )

    def _fan(self, camera: Camera) -> Floats:
        """(n,) angles in radians clockwise from north, from the frame's left edge to its right."""
        left, right, _, _ = camera.view().edges()
        angles: Floats = math.radians(camera.heading_deg) + np.arctan(np.linspace(left, right, FAN_RAYS))
        return angles

    def field_of_view(self, camera: Camera) -> tuple[list[QPointF], list[QPointF], list[QPointF]]:
        """What the camera sees at eye height, side to side: where it begins, what stops it, and what would
        stop it without the far bound."""
        scene = self._studio.scene
        # Whatever else is painted anew, the pointer or the sun, it sees the same.
        if self._seen is None or self._seen[0] is not scene or self._seen[1] != camera:
            self._seen = (scene, camera, self._reaches(camera))
        angles, start, stop, reach = self._seen[2]
        x, y = camera.eye[:2]
        return tuple(  # type: ignore[return-value]
            [
                self._plan.to_screen(x + math.sin(a) * r, y + math.cos(a) * r)
                for a, r in zip(angles.tolist(), np.maximum(length, start).tolist(), strict=True)
            ]
            for length in (start, stop, reach)
        )

    def _reaches(self, camera: Camera) -> tuple[Floats, Floats, Floats, Floats]:
        """(n,) each: the angles, where sight begins along them, where it stops, and where it would stop
        without the far bound, metres."""
        angles = self._fan(camera)
        directions = np.stack([np.sin(angles), np.cos(angles), np.zeros(FAN_RAYS)], axis=1)
        view = camera.view()
        start, reach = sight_begins(view, directions), np.full(FAN_RAYS, FARTHEST_SEEN_M)
        scene = self._studio.scene
        if scene is not None:
            _, met = look(replace(view, far_m=None), scene.rays, directions, scene.panes)
            reach = np.minimum(met.distance_m, FARTHEST_SEEN_M)
        stop = np.minimum(reach, sight_ends(view, directions))
        return angles, start, stop, reach

    def edge_points(self, camera: Camera) -> list[QPointF]:
        """The grips at the edges of the field of view, px."""
        left, right, _, _ = camera.view().edges()
        heading = math.radians(camera.heading_deg)
        reach = min(camera.aim_m, 0.45 * min(self._plan.width(), self._plan.height()) / self._plan.px_per_m)
        x, y = camera.eye[:2]
        points = []
        eye = self._plan.to_screen(x, y)
        for index, edge in enumerate((left, right)):
            angle = heading + math.atan(edge)
            length = reach / max(math.cos(math.atan(edge)), 0.2)
            point = self._plan.to_screen(x + math.sin(angle) * length, y + math.cos(angle) * length)
            if self._edge_ends is not None and not self._plan.dragging:
                # Handles stay on the drawn edge, this side of what stops it.
                end = self._edge_ends[index]
                away, most = apart(eye, point), max(apart(eye, end) * 0.9, 24.0)
                point = eye + (point - eye) * min(1.0, most / max(away, 1e-6))
            points.append(point)
        return points

    def _dimensions(self, painter: QPainter, camera: Camera) -> None:
        """While dragging: height above this floor, distances to the walls beside and to the subject."""
        scene = self._studio.scene
        if scene is None:
            return
        _, right, _, left = clearances(scene.rays, camera.eye, camera.heading_deg)
        heading = math.radians(camera.heading_deg)
        x, y = camera.eye[:2]
        here = self._plan.to_screen(x, y)
        taken: list[QRectF] = []
        for distance, side in ((right, 1.0), (left, -1.0)):
            if distance < 40.0:
                end = self._plan.to_screen(
                    x + math.cos(heading) * distance * side, y - math.sin(heading) * distance * side
                )
                self._plan.marks.dimension(painter, here, end, f"{length(distance)}", taken)
        floor = floor_under(scene.floors, camera.eye)
        if floor is not None:
            self._plan.marks.tag(
                painter,
                here + QPointF(12, 20),
                tr("eye {eye} above the floor", eye=length(camera.eye[2] - floor)),
                taken=taken,
            )
        self._plan.marks.tag(
            painter,
            self._plan.to_screen(*camera.aim[:2]) + QPointF(9, -8),
            f"{length(camera.aim_m)}",
            taken=taken,
        )
