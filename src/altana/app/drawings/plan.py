"""The Plan: a real cut through the storey, with cameras that can be stood, dragged and aimed on it."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QFont,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from altana.app.bridge import Bridge
from altana.app.scene import Studio
from altana.app.state import ViewState
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.core.conventions import STANDING_M, Vec2
from altana.core.edits.cameras import add_camera, aim_at, change_camera, move_eye, set_camera
from altana.core.geometry.drawing import PlanDrawing
from altana.core.model import Room, Storey
from altana.core.project import Camera
from altana.core.standing import clearances, floor_under, ground_at, stand

CUT_ABOVE_FLOOR_M = 1.2
HANDLE_PX = 11.0
FAN_RAYS = 49
SHORTEST_AIM_M = 0.25


@dataclass(slots=True)
class Drag:
    """A drag that goes on: what is dragged, of which camera, from where (metres)."""

    kind: str
    camera: Camera
    start: Vec2
    moved: bool = False


class PlanView(QWidget):
    """The plan of one storey.  ``standing`` armed: the next press stands a camera."""

    pointed = Signal(str)
    stood = Signal()
    place_clicked = Signal(float, float, float)

    def __init__(self, bridge: Bridge, state: ViewState, studio: Studio, tokens: Tokens) -> None:
        super().__init__()
        self._bridge, self._state, self._studio, self._tokens = bridge, state, studio, tokens
        self.storey: Storey | None = None
        self._drawing: PlanDrawing | None = None
        self._cut, self._glass, self._beyond, self._fine = (QPainterPath() for _ in range(4))
        self._base: QPixmap | None = None
        self._scale, self._centre = 20.0, (5.0, 8.0)
        self._drag: Drag | None = None
        self._pan: tuple[QPointF, Vec2] | None = None
        self._hover: Vec2 | None = None
        self.standing = False
        self.drawing_route = False
        self.eye_height_m = STANDING_M
        self.overlay: Callable[[QPainter, PlanView], None] | None = None
        self._fitted_for = ""
        self.setMouseTracking(True)
        self.setMinimumSize(240, 160)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Plan")
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self._redraw = QTimer(self)
        self._redraw.setSingleShot(True)
        self._redraw.setInterval(30)
        self._redraw.timeout.connect(self._repaint_base)
        state.shown_changed.connect(self._follow_camera)
        state.selection_changed.connect(self._follow_selection)
        bridge.cameras_changed.connect(self.update)
        studio.plan.connect(self._take_drawing)
        studio.opened.connect(self._scene_opened)

    # ------------------------------------------------------------------ storey and drawing

    def _scene_opened(self) -> None:
        self.storey = None
        self._follow_selection()
        if self.storey is None and self._studio.scene is not None:
            storeys = self._studio.scene.model.storeys
            self.choose_storey(min(storeys, key=lambda item: abs(item.elevation_m)) if storeys else None)

    def choose_storey(self, storey: Storey | None) -> None:
        """Show a storey; its drawing comes from the drafting process."""
        self.storey = storey
        if storey is not None:
            self._studio.order_plan(storey.elevation_m, storey.elevation_m + CUT_ABOVE_FLOOR_M)
        self.update()

    def _follow_selection(self) -> None:
        scene, camera = self._studio.scene, self._state.active
        if scene is None or camera is None:
            return
        wanted = scene.model.storey_below(camera.eye[2] - 0.4)
        if wanted is not None and wanted != self.storey:
            self.choose_storey(wanted)
        if not self._in_sight(camera.eye):
            # Eye and subject together say more than the eye alone.
            ahead = camera.pose.point_ahead(min(camera.aim_m, 20.0) * 0.5)
            self._centre = (ahead[0], ahead[1])
            self._repaint_base()
        self.update()

    def _follow_camera(self) -> None:
        self.update()

    def _in_sight(self, eye: tuple[float, float, float]) -> bool:
        return self.rect().adjusted(20, 20, -20, -20).contains(self.to_screen(eye[0], eye[1]).toPoint())

    def _take_drawing(self, drawing: PlanDrawing) -> None:
        if self.storey is None or abs(drawing.floor_m - self.storey.elevation_m) > 1e-6:
            return
        self._drawing = drawing
        self._cut, self._glass, self._beyond, self._fine = (QPainterPath() for _ in range(4))
        for outline in drawing.outlines:
            path = self._glass if outline.glass else self._cut
            path.addPolygon(QPolygonF([QPointF(x, y) for x, y in outline.points.tolist()]))
        for path, lines in ((self._beyond, drawing.beyond), (self._fine, drawing.fine)):
            for (x0, y0), (x1, y1) in lines.tolist():
                path.moveTo(x0, y0)
                path.lineTo(x1, y1)
        self._cut.setFillRule(Qt.FillRule.WindingFill)
        if self._fitted_for != (self._studio.scene.model.source if self._studio.scene else ""):
            self.fit()
        self._repaint_base()

    def fit(self) -> None:
        """Show the whole building: the rooms, else what is cut."""
        scene = self._studio.scene
        if scene is None:
            return
        self._fitted_for = scene.model.source
        points = [point for room in scene.model.rooms for point in room.outline]
        points += [(camera.eye[0], camera.eye[1]) for camera in self._bridge.project.cameras if camera.inside]
        if not points and self._drawing is not None:
            points = [tuple(p) for outline in self._drawing.outlines for p in outline.points.tolist()]
        if points:
            self.fit_to(points)

    def fit_to(self, points: Sequence[Sequence[float]]) -> None:
        """Show all of these places, metres."""
        low, high = np.min(points, axis=0), np.max(points, axis=0)
        self._centre = (float((low[0] + high[0]) / 2), float((low[1] + high[1]) / 2))
        size = np.maximum(high - low, 2.0) * 1.18 + 1.0
        # Plain numbers: what is read off the plan goes into the project and its file.
        self._scale = float(max(0.5, min((self.width() - 20) / size[0], (self.height() - 40) / size[1])))
        self._repaint_base()

    # ------------------------------------------------------------------ coordinates

    def to_screen(self, x: float, y: float) -> QPointF:
        """Metres to pixels of the widget."""
        return QPointF(self.width() / 2 + (x - self._centre[0]) * self._scale, self.height() / 2 - (y - self._centre[1]) * self._scale)

    def to_world(self, point: QPointF) -> Vec2:
        """Pixels of the widget to metres."""
        return (
            self._centre[0] + (point.x() - self.width() / 2) / self._scale,
            self._centre[1] - (point.y() - self.height() / 2) / self._scale,
        )

    # ------------------------------------------------------------------ painting

    def _repaint_base(self) -> None:
        """The drawing itself is painted once for each view of it; cameras go on top."""
        ratio = self.devicePixelRatioF()
        base = QPixmap(round(self.width() * ratio), round(self.height() * ratio))
        base.setDevicePixelRatio(ratio)
        base.fill(QColor(self._tokens.leaf))
        painter = QPainter(base)
        painter.translate(self.width() / 2, self.height() / 2)
        painter.scale(self._scale, -self._scale)
        painter.translate(-self._centre[0], -self._centre[1])
        pencil = QColor(self._tokens.pencil)
        pencil.setAlpha(105)
        line = QPen(pencil, 1.0)
        line.setCosmetic(True)
        painter.setPen(line)
        painter.drawPath(self._beyond)
        pencil.setAlpha(105 if self._scale > 90.0 else 34)
        line.setColor(pencil)
        painter.setPen(line)
        painter.drawPath(self._fine)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        edge = QPen(QColor(self._tokens.ink), 1.0)
        edge.setCosmetic(True)
        painter.setPen(edge)
        painter.setBrush(QColor(self._tokens.leaf))
        painter.drawPath(self._glass)
        painter.setBrush(QColor(self._tokens.ink))
        painter.drawPath(self._cut)
        painter.resetTransform()
        self._room_names(painter)
        painter.end()
        self._base = base
        self.update()

    def _room_names(self, painter: QPainter) -> None:
        scene = self._studio.scene
        if scene is None or self.storey is None:
            return
        painter.setFont(text_font(8.5))
        painter.setPen(QColor(self._tokens.pencil))
        metrics = painter.fontMetrics()
        placed: list[QRectF] = []
        for room in sorted(scene.model.rooms, key=_floor_area, reverse=True):
            if room.storey_id != self.storey.id:
                continue
            points = np.array(room.outline)
            wide = float(np.ptp(points[:, 0])) * self._scale
            low = points.min(axis=0)
            # A large room is named in a corner, where cameras seldom stand; a small one in its middle.
            large = wide > metrics.horizontalAdvance(room.name) * 2.2
            at = (
                self.to_screen(float(points[:, 0].max()), float(points[:, 1].max()))
                if large
                else self.to_screen(*(low + np.ptp(points, axis=0) / 2))
            )
            box = QRectF(metrics.boundingRect(room.name))
            box.moveTopLeft(
                QPointF(at.x() - box.width() - 6, at.y() + 5) if large else QPointF(at.x() - box.width() / 2, at.y() - box.height() / 2)
            )
            if wide < 26 or any(box.intersects(other) for other in placed) or box.width() > wide * 1.6:
                continue
            placed.append(box)
            painter.fillRect(box.adjusted(-2, 0, 2, 0), QColor(self._tokens.leaf))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, room.name)

    def paintEvent(self, _: QPaintEvent) -> None:
        """The drawing, then cameras, then what a drag says."""
        painter = QPainter(self)
        if self._base is None:
            painter.fillRect(self.rect(), QColor(self._tokens.leaf))
            painter.setPen(QColor(self._tokens.pencil))
            painter.drawText(
                self.rect(), Qt.AlignmentFlag.AlignCenter, "Drawing the plan…" if self._studio.scene or self.storey else "No model yet"
            )
        else:
            painter.drawPixmap(0, 0, self._base)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.overlay is not None:
            self.overlay(painter, self)
        else:
            for camera in self._bridge.project.cameras:
                if camera.id != self._state.active_id:
                    self._faint_camera(painter, camera)
            shown = self._state.shown
            if shown is not None:
                self._active_camera(painter, shown)
        if self.standing:
            self._standing_hint(painter)
        self._furniture(painter)
        painter.end()

    def _same_storey(self, camera: Camera) -> bool:
        scene = self._studio.scene
        return scene is None or self.storey is None or scene.model.storey_below(camera.eye[2] - 0.4) == self.storey

    def _faint_camera(self, painter: QPainter, camera: Camera) -> None:
        here = self._same_storey(camera)
        colour = QColor(self._tokens.pencil)
        colour.setAlpha(230 if here else 110)
        at = self.to_screen(camera.eye[0], camera.eye[1])
        if not self.rect().adjusted(-30, -30, 30, 30).contains(at.toPoint()):
            return
        chosen = camera.id in self._state.selected
        painter.setPen(
            QPen(
                QColor(self._tokens.verdigris) if chosen else colour,
                2.0 if chosen else 1.3,
                Qt.PenStyle.SolidLine if here else Qt.PenStyle.DotLine,
            )
        )
        painter.setBrush(QColor(self._tokens.leaf))
        heading = math.radians(camera.heading_deg)
        painter.drawLine(at, QPointF(at.x() + 13 * math.sin(heading), at.y() - 13 * math.cos(heading)))
        painter.drawEllipse(at, 4.0, 4.0)
        if here and self._hover is not None and math.dist(self._hover, camera.eye[:2]) * self._scale < 16:
            self._tag(painter, at + QPointF(10, 14), camera.name)

    def _active_camera(self, painter: QPainter, camera: Camera) -> None:
        loose = self._state.loose is not None
        green = QColor(self._tokens.verdigris)
        at, aim = self.to_screen(*camera.eye[:2]), self.to_screen(*camera.aim[:2])
        fan = self._field(camera)
        if len(fan) > 2:
            wash = QColor(green)
            wash.setAlpha(26 if loose else 42)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(wash)
            # Its edge needs no smoothing, which would cost more than all the rest.
            painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
            painter.drawPolygon(QPolygonF([at, *fan]))
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(QPen(green, 1.4, Qt.PenStyle.DashLine if loose else Qt.PenStyle.SolidLine))
            painter.drawLine(at, fan[0])
            painter.drawLine(at, fan[-1])
        painter.setPen(QPen(green, 1.1, Qt.PenStyle.DotLine))
        painter.drawLine(at, aim)
        painter.setPen(QPen(green, 2.0))
        painter.setBrush(QColor(self._tokens.leaf))
        painter.drawEllipse(aim, 4.5, 4.5)
        painter.setBrush(QColor(self._tokens.leaf) if loose else green)
        painter.drawEllipse(at, 6.0, 6.0)
        if camera.locked:
            self._tag(painter, at + QPointF(10, 14), "locked")
        for edge in self._edge_points(camera):
            painter.setPen(QPen(green, 1.6))
            painter.setBrush(QColor(self._tokens.leaf))
            painter.drawRect(QRectF(edge.x() - 3.5, edge.y() - 3.5, 7, 7))
        if self._drag is not None and self._drag.moved:
            self._dimensions(painter, camera)

    def _field(self, camera: Camera) -> list[QPointF]:
        """The edge of what the camera sees at eye height: from side to side, up to what stops it."""
        left, right, _, _ = camera.view().edges()
        heading = math.radians(camera.heading_deg)
        angles = heading + np.arctan(np.linspace(left, right, FAN_RAYS))
        reach = np.full(FAN_RAYS, 60.0)
        scene = self._studio.scene
        if scene is not None:
            directions = np.stack([np.sin(angles), np.cos(angles), np.zeros(FAN_RAYS)], axis=1)
            hit = scene.rays.cast(np.tile(camera.eye, (FAN_RAYS, 1)), directions)
            reach = np.minimum(self._through_glass(hit.face, hit.distance_m, directions, camera), 60.0)
        x, y = camera.eye[:2]
        return [self.to_screen(x + math.sin(a) * r, y + math.cos(a) * r) for a, r in zip(angles.tolist(), reach.tolist(), strict=True)]

    def _through_glass(self, face, distance, directions, camera):  # type: ignore[no-untyped-def]
        """Sight goes through panes: rays that met glass are sent on, a few panes deep."""
        scene = self._studio.scene
        assert scene is not None
        kinds = np.array([material.kind == "glass" for material in scene.model.materials], bool)
        total = distance.copy()
        face = face.copy()
        for _ in range(4):
            glass = np.flatnonzero((face >= 0) & kinds[scene.model.face_material[np.maximum(face, 0)]])
            if not len(glass):
                break
            start = np.asarray(camera.eye) + directions[glass] * (total[glass, None] + 0.01)
            hit = scene.rays.cast(start, directions[glass])
            total[glass] += 0.01 + hit.distance_m
            face[glass] = hit.face
        return total

    def _edge_points(self, camera: Camera) -> list[QPointF]:
        left, right, _, _ = camera.view().edges()
        heading = math.radians(camera.heading_deg)
        reach = min(camera.aim_m, 0.45 * min(self.width(), self.height()) / self._scale)
        x, y = camera.eye[:2]
        found = []
        for edge in (left, right):
            angle = heading + math.atan(edge)
            length = reach / max(math.cos(math.atan(edge)), 0.2)
            found.append(self.to_screen(x + math.sin(angle) * length, y + math.cos(angle) * length))
        return found

    def _dimensions(self, painter: QPainter, camera: Camera) -> None:
        """While dragging: height above this floor, distances to the walls beside and to the subject."""
        scene = self._studio.scene
        if scene is None:
            return
        _, right, _, left = clearances(scene.rays, camera.eye, camera.heading_deg)
        heading = math.radians(camera.heading_deg)
        x, y = camera.eye[:2]
        painter.setPen(QPen(QColor(self._tokens.ink), 1.0))
        for distance, side in ((right, 1.0), (left, -1.0)):
            if distance < 40.0:
                end = (x + math.cos(heading) * distance * side, y - math.sin(heading) * distance * side)
                a, b = self.to_screen(x, y), self.to_screen(*end)
                painter.setPen(QPen(QColor(self._tokens.ink), 1.0))
                painter.drawLine(a, b)
                self._tick(painter, b, heading)
                self._tag(painter, (a + b) / 2 + QPointF(-18, -9), f"{distance:.2f} m")
        floor = floor_under(scene.floors, camera.eye)
        here = self.to_screen(x, y)
        if floor is not None:
            self._tag(painter, here + QPointF(12, 20), f"eye {camera.eye[2] - floor:.2f} m")
        self._tag(painter, self.to_screen(*camera.aim[:2]) + QPointF(9, -8), f"{camera.aim_m:.2f} m")

    def _tick(self, painter: QPainter, at: QPointF, heading: float) -> None:
        run = QPointF(math.sin(heading + 0.8) * 5, -math.cos(heading + 0.8) * 5)
        painter.drawLine(at - run, at + run)

    def _tag(self, painter: QPainter, at: QPointF, text: str) -> None:
        painter.setFont(text_font(8.5))
        box = QRectF(painter.fontMetrics().boundingRect(text)).adjusted(-4, -1, 4, 1)
        box.moveLeft(min(max(at.x(), 4.0), self.width() - box.width() - 4))
        box.moveTop(min(max(at.y() - box.height() / 2, 4.0), self.height() - box.height() - 4))
        ground = QColor(self._tokens.leaf)
        ground.setAlpha(235)
        painter.fillRect(box, ground)
        painter.setPen(QColor(self._tokens.ink))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def _standing_hint(self, painter: QPainter) -> None:
        text = "Press where the eye is, drag to what it looks at. Escape leaves."
        painter.setFont(text_font(9))
        box = QRectF(painter.fontMetrics().boundingRect(text)).adjusted(-12, -5, 12, 5)
        box.moveCenter(QPointF(self.width() / 2, self.height() - 22))
        painter.fillRect(box, QColor(self._tokens.verdigris))
        painter.setPen(QColor(self._tokens.on_verdigris))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def _furniture(self, painter: QPainter) -> None:
        """Title, north and scale bar."""
        painter.setFont(text_font(9, QFont.Weight.Bold))
        painter.setPen(QColor(self._tokens.ink))
        title = QRectF(0, 0, 230, 28) if self.storey is not None else QRectF(0, 0, 50, 28)
        paper = QColor(self._tokens.leaf)
        paper.setAlpha(215)
        painter.fillRect(title, paper)
        painter.drawText(QPointF(12, 20), "Plan")
        if self.storey is not None:
            wide = painter.fontMetrics().horizontalAdvance("Plan ")
            painter.setFont(text_font(9))
            painter.setPen(QColor(self._tokens.pencil))
            painter.drawText(QPointF(14 + wide, 20), f"{self.storey.name} · cut at {CUT_ABOVE_FLOOR_M:.2f} m")
        painter.setPen(QPen(QColor(self._tokens.pencil), 1.3))
        top = QPointF(self.width() - 24, 16)
        painter.drawLine(top, top + QPointF(0, 22))
        painter.drawPolyline(QPolygonF([top + QPointF(-4, 6), top, top + QPointF(4, 6)]))
        painter.setFont(text_font(8.5))
        painter.drawText(top + QPointF(-4, 36), "N")
        metres = next((m for m in (0.5, 1, 2, 5, 10, 20, 50, 100, 200) if m * self._scale > 50), 200)
        length = metres * self._scale
        right, y = self.width() - 18.0, self.height() - 14.0
        painter.drawLine(QPointF(right - length, y), QPointF(right, y))
        for x in (right - length, right):
            painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))
        painter.drawText(QRectF(right - length, y - 19, length, 14), Qt.AlignmentFlag.AlignCenter, f"{metres:g} m")

    def resizeEvent(self, _: QResizeEvent) -> None:
        """Paint the drawing again for the new size."""
        self._redraw.start()

    # ------------------------------------------------------------------ pointer

    def _grip(self, at: QPointF) -> str:
        camera = self._state.shown
        if camera is None or self.overlay is not None:
            return ""
        candidates = [("eye", self.to_screen(*camera.eye[:2])), ("aim", self.to_screen(*camera.aim[:2]))]
        candidates += [("edge", point) for point in self._edge_points(camera)]
        near = [(math.hypot(p.x() - at.x(), p.y() - at.y()), kind) for kind, p in candidates]
        distance, kind = min(near)
        return kind if distance <= HANDLE_PX else ""

    def _camera_under(self, at: QPointF) -> Camera | None:
        near = [
            (math.hypot(p.x() - at.x(), p.y() - at.y()), camera)
            for camera in self._bridge.project.cameras
            if (p := self.to_screen(*camera.eye[:2])) is not None
        ]
        near = [item for item in near if item[0] <= HANDLE_PX]
        # The same storey goes before others that lie over it.
        return min(near, key=lambda item: (not self._same_storey(item[1]), item[0]))[1] if near else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Stand a camera, take a handle, choose a camera, or move the sheet."""
        at = event.position()
        place = self.to_world(at)
        if event.button() == Qt.MouseButton.LeftButton:
            if self.drawing_route and self.storey is not None:
                self.place_clicked.emit(place[0], place[1], self.storey.elevation_m)
                return
            if self.standing:
                self._stand(place)
                return
            kind = self._grip(at)
            active = self._state.active
            if kind and self._state.held and active is not None:
                self._drag = Drag(kind, active, place)
                self._bridge.begin()
                return
            found = self._camera_under(at) if self.overlay is None else None
            if found is not None:
                self._state.select(found.id, bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier))
                return
        self._pan = (at, self._centre)

    def _stand(self, place: Vec2) -> None:
        scene = self._studio.scene
        if scene is None or self.storey is None:
            return
        try:
            camera = stand(scene.model, scene.floors, place, (place[0], place[1] + 1.0), self.storey.elevation_m, self.eye_height_m)
        except ValueError as error:
            self._bridge.failed.emit(str(error))
            return
        self._drag = Drag("stand", camera, place)
        self._bridge.begin()
        self._preview_stand(place)

    def _preview_stand(self, aim: Vec2) -> None:
        scene, drag = self._studio.scene, self._drag
        assert scene is not None and drag is not None and self.storey is not None
        if math.dist(aim, drag.start) < SHORTEST_AIM_M:
            aim = (drag.start[0], drag.start[1] + 3.0)
        made = stand(scene.model, scene.floors, drag.start, aim, self.storey.elevation_m, self.eye_height_m)
        created: list[str] = []

        def edit(project):  # type: ignore[no-untyped-def]
            after, camera_id = add_camera(project, made)
            created.append(camera_id)
            return after

        self._bridge.preview(edit)
        if created and self._state.active_id != created[-1]:
            self._state.select(created[-1])

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Go on with what the press began."""
        at = event.position()
        place = self.to_world(at)
        self._hover = place
        self._say_place(place)
        if self._drag is not None:
            self._drag.moved = True
            self._drag_to(place)
        elif self._pan is not None:
            start, centre = self._pan
            self._centre = (centre[0] - (at.x() - start.x()) / self._scale, centre[1] + (at.y() - start.y()) / self._scale)
            self._repaint_base()
        else:
            armed = self.standing or self.drawing_route
            self.setCursor(
                Qt.CursorShape.CrossCursor
                if armed
                else Qt.CursorShape.PointingHandCursor
                if self._grip(at) or self._camera_under(at)
                else Qt.CursorShape.ArrowCursor
            )
            self.update()

    def _drag_to(self, place: Vec2) -> None:
        drag = self._drag
        assert drag is not None
        camera = drag.camera
        if drag.kind == "stand":
            self._preview_stand(place)
        elif drag.kind == "eye":
            self._bridge.preview(lambda p: move_eye(p, camera.id, self._eye_at(camera, place)))
        elif drag.kind == "aim":
            if math.dist(place, camera.eye[:2]) > SHORTEST_AIM_M:
                self._bridge.preview(lambda p: aim_at(p, camera.id, (*place, camera.eye[2])))
        else:
            focal = self._focal_for_edge(camera, place)
            if focal is not None:
                self._bridge.preview(lambda p: set_camera(p, camera.id, focal_mm=focal))

    def _eye_at(self, camera: Camera, place: Vec2) -> tuple[float, float, float]:
        """The eye keeps its height above the floor that is really under it."""
        scene = self._studio.scene
        if scene is None or self.storey is None:
            return (*place, camera.eye[2])
        here = floor_under(scene.floors, camera.eye)
        there = ground_at(scene.floors, place, self.storey.elevation_m)
        if here is None or there is None:
            return (*place, camera.eye[2])
        return (*place, there.floor_m + (camera.eye[2] - here))

    def _focal_for_edge(self, camera: Camera, place: Vec2) -> float | None:
        dx, dy = place[0] - camera.eye[0], place[1] - camera.eye[1]
        heading = math.radians(camera.heading_deg)
        ahead = dx * math.sin(heading) + dy * math.cos(heading)
        aside = abs(dx * math.cos(heading) - dy * math.sin(heading))
        if ahead < 0.05 or aside < 1e-3:
            return None
        half = camera.view().sensor_mm[0] / 2 - abs(camera.cross_mm)
        return float(min(300.0, max(8.0, round(half * ahead / aside, 1))))

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        """One undo step for the whole drag."""
        self._pan = None
        drag, self._drag = self._drag, None
        if drag is None:
            return
        labels = {"stand": "Stand a camera", "eye": "Move eye", "aim": "Aim", "edge": "Change lens"}
        self._bridge.commit(labels[drag.kind])
        if drag.kind == "stand":
            self.arm(False)
            self.stood.emit()
        self.update()

    def arm(self, on: bool) -> None:
        """Whether the next press stands a camera."""
        self.standing = on
        self.setCursor(Qt.CursorShape.CrossCursor if on else Qt.CursorShape.ArrowCursor)
        self.update()

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Zoom about the pointer."""
        before = self.to_world(event.position())
        self._scale = min(400.0, max(0.4, self._scale * 1.0015 ** event.angleDelta().y()))
        after = self.to_world(event.position())
        self._centre = (self._centre[0] + before[0] - after[0], self._centre[1] + before[1] - after[1])
        self._repaint_base()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Escape takes back a drag or the armed tool; F fits; plus and minus zoom; arrows move the eye by 10 cm (Shift: 1 m)."""
        key = event.key()
        moves = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1)}
        active = self._state.active
        if key == Qt.Key.Key_Escape:
            self._drag = None
            self._bridge.cancel()
            self.arm(False)
            self.stood.emit()
        elif key == Qt.Key.Key_F:
            self.fit()
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal, Qt.Key.Key_Minus):
            self._scale = min(400.0, max(0.4, self._scale * (0.8 if key == Qt.Key.Key_Minus else 1.25)))
            self._repaint_base()
        elif key in moves and active is not None and self._state.held:
            far = 1.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 0.1
            dx, dy = moves[Qt.Key(key)]
            place = (active.eye[0] + dx * far, active.eye[1] + dy * far)
            self._bridge.apply("Move eye", lambda p: change_camera(p, active.id, lambda c: replace(c, eye=self._eye_at(c, place))))
        else:
            super().keyPressEvent(event)

    def _say_place(self, place: Vec2) -> None:
        scene = self._studio.scene
        if scene is None or self.storey is None:
            return
        ground = ground_at(scene.floors, place, self.storey.elevation_m) if self._drag is None else None
        height = f" z {ground.floor_m:.2f} m" if ground is not None else ""
        self.pointed.emit(f"{self.storey.name} · x {place[0]:.2f} y {place[1]:.2f}{height}")


def _floor_area(room: Room) -> float:
    points = np.array(room.outline)
    return float(np.ptp(points[:, 0]) * np.ptp(points[:, 1]))
