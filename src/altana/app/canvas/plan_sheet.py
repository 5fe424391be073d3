"""What the Plan draws: a real cut through the storey, room names, cameras and what they see."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import (
    QColor,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
    QResizeEvent,
    QShowEvent,
)
from PySide6.QtWidgets import QComboBox

from altana.app.canvas.gestures.stand import StandGesture
from altana.app.canvas.sheet import FARTHEST_SEEN_M, Sheet, apart, lines_path, outlines_path
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import NumberField, button
from altana.app.workspace.workspace import Workspace
from altana.core.camera.bounds import look, sight_begins, sight_ends
from altana.core.camera.wall_cut import WallCut
from altana.core.conventions import STANDING_M, Bools, Floats, Vec3
from altana.core.geometry.drawing import PlanDrawing
from altana.core.geometry.snapping import Snap, SnapGrid
from altana.core.model import LOWEST_EYE_M, Room, Storey
from altana.core.project import Camera
from altana.core.standing import clearances, floor_under

CUT_ABOVE_FLOOR_M = 1.2
CUT_RANGE_M = (0.05, 30.0)
FAN_RAYS = 49
#: What a press does while something is armed, in a long and a short form.
STANDING_HINTS = (
    "Press where the eye is, drag to what it looks at (Return: in the middle). Escape leaves.",
    "Press: eye. Drag: aim. Escape leaves.",
)
WALL_HINTS = (
    "Press on the wall to look past: a cut along its inner face. Escape leaves.",
    "Press on a wall. Escape leaves.",
)
MOST_NAMES, MOST_TRIED = 40, 120


class PlanSheet(Sheet):
    """One storey as drawn: its cut, its rooms' names, the cameras on it.  What hands do with it is in ``PlanView``."""

    title = "Plan"

    #: The camera that is being stood.
    _stood: StandGesture | None = None

    def __init__(self, workspace: Workspace, tokens: Tokens, channel: str = "plan") -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__(workspace, tokens)
        self._channel = channel
        self.storey: Storey | None = None
        self.cut_above_m = CUT_ABOVE_FLOOR_M
        self.linework = True
        self.snaps: SnapGrid | None = None
        self.drawing: PlanDrawing | None = None
        self.held_on: Snap | None = None
        self._edge_ends: tuple[QPointF, QPointF] | None = None
        self._others: QPixmap | None = None
        self._others_key: object = None
        self._pressed_before: tuple[QPointF, str] | None = None
        self.standing = False
        #: The next press picks a wall for a wall cut.
        self.picking_wall = False
        #: Objects that no picture shows, laid over the drawing while coverage is looked at.
        self.unseen: frozenset[int] = frozenset()
        self._unseen_path = QPainterPath()
        self.for_shot = ""
        self.drawing_route = False
        self.eye_height_m = STANDING_M
        self.overlay: Callable[[QPainter, PlanSheet], None] | None = None
        self._fitted_for = ""
        self._due = False
        self._make_controls()
        self._reorder = QTimer(self)
        self._reorder.setSingleShot(True)
        self._reorder.setInterval(20)
        self._reorder.timeout.connect(self._order)
        state.shown_changed.connect(self.update)
        state.selection_changed.connect(self._follow_selection)
        state.hiding_changed.connect(self._order)
        bridge.cameras_changed.connect(self.update)
        studio.plan.connect(self._take_drawing)
        studio.opened.connect(self._scene_opened)

    @property
    def dragging(self) -> bool:
        """Whether something is dragged, or a camera being stood."""
        return self._drag is not None or self._stood is not None

    def _make_controls(self) -> None:
        self.storeys = QComboBox(self)
        self.storeys.setAccessibleName("Storey")
        self.storeys.setToolTip("The storey that the plan shows (keys Ctrl+Page up and Ctrl+Page down)")
        self.storeys.activated.connect(self._storey_chosen)
        self.cut_field = NumberField(
            "Cut height",
            "Height of the cut above the storey's floor (keys [ and ])",
            "m",
            2,
            0.1,
            *CUT_RANGE_M,
        )
        self.cut_field.setParent(self)
        self.cut_field.setFixedWidth(66)
        self.cut_field.show_value(self.cut_above_m)
        self.cut_field.changing.connect(self.set_cut)
        self.cut_field.changed.connect(self.set_cut)
        self.fit_button = button("Fit", "quiet", "Show the whole building (key F on the plan)", self.fit)
        self.fit_button.setStyleSheet(f"background: {self._tokens.leaf};")
        self.fit_button.setParent(self)
        self.lines_button = button(
            "Lines", "quiet", "Reference linework on or off (key K)", self.toggle_linework
        )
        self.lines_button.setStyleSheet(f"background: {self._tokens.leaf};")
        self.lines_button.setParent(self)
        self.lines_button.hide()

    # ------------------------------------------------------------------ storey and drawing

    def _scene_opened(self) -> None:
        self.storey = None
        self.drawing = None
        scene = self._studio.scene
        self.storeys.clear()
        if scene is None:
            return
        self.storeys.addItems([storey.name for storey in scene.model.storeys[::-1]])
        self.lines_button.setVisible(bool(len(scene.model.linework.points)))
        self._follow_selection()
        if self.storey is None:
            storeys = scene.model.storeys
            self.choose_storey(min(storeys, key=lambda item: abs(item.elevation_m)) if storeys else None)
        self._place_controls()

    def choose_storey(self, storey: Storey | None) -> None:
        """Show a storey; its drawing comes from the drafting process."""
        self.storey = storey
        scene = self._studio.scene
        if scene is not None and storey in scene.model.storeys:
            self.storeys.setCurrentIndex(len(scene.model.storeys) - 1 - scene.model.storeys.index(storey))
        self._order()
        self.update()

    def _storey_chosen(self, index: int) -> None:
        scene = self._studio.scene
        if scene is not None and 0 <= index < len(scene.model.storeys):
            self.choose_storey(scene.model.storeys[::-1][index])

    def step_storey(self, up: int) -> None:
        """The storey above (1) or below (-1)."""
        index = self.storeys.currentIndex() - up
        if 0 <= index < self.storeys.count():
            self._storey_chosen(index)

    def set_cut(self, above_m: float) -> None:
        """Cut at another height above the storey's floor."""
        self.cut_above_m = min(CUT_RANGE_M[1], max(CUT_RANGE_M[0], above_m))
        self.cut_field.show_value(self.cut_above_m)
        self._reorder.start()

    def toggle_linework(self) -> None:
        """Reference lines on or off."""
        self.linework = not self.linework
        self._set_lines()
        self._repaint_base()

    def _order(self) -> None:
        if self.storey is None:
            return
        # A plan that nobody sees waits until it comes to sight.
        self._due = not self.isVisible()
        if not self._due:
            scene = self._studio.scene
            hidden = (
                self._state.hiding.applied(scene.lookup.staging(self._bridge.project, None), scene.lookup)
                if scene
                else None
            )
            gone = (*hidden.omitted, *hidden.faint) if hidden is not None and self._state.hiding else ()
            floor = self.storey.elevation_m
            self._studio.order_plan(self._channel, floor, floor + self.cut_above_m, gone)

    def showEvent(self, event: QShowEvent) -> None:
        """A plan that comes to sight asks for what it missed."""
        super().showEvent(event)
        if self.overlay is None:
            self._follow_selection()
        if self._due:
            self._order()

    def _follow_selection(self) -> None:
        scene, camera = self._studio.scene, self._state.active
        if scene is None or camera is None or not self.isVisible():
            return
        wanted = scene.model.storey_of_eye(camera.eye)
        if wanted is not None and wanted != self.storey:
            self.choose_storey(wanted)
        if not self._in_sight(camera.eye):
            self.centre_on(camera)
        self.update()

    def centre_on(self, camera: Camera) -> None:
        """Move the sheet so that a camera and what it looks at are in sight."""
        # Eye and subject together say more than the eye alone.
        ahead = camera.pose.point_ahead(min(camera.aim_m, 20.0) * 0.5)
        self._centre = (ahead[0], ahead[1])
        self._repaint_base()

    def _in_sight(self, eye: Vec3) -> bool:
        return self.rect().adjusted(20, 20, -20, -20).contains(self.to_screen(eye[0], eye[1]).toPoint())

    def _take_drawing(self, channel: str, drawing: PlanDrawing, snaps: SnapGrid) -> None:
        if (
            channel != self._channel
            or self.storey is None
            or abs(drawing.floor_m - self.storey.elevation_m) > 1e-6
        ):
            return
        self.drawing, self.snaps = drawing, snaps
        self.paths.cut = outlines_path([item for item in drawing.outlines if not item.glass])
        self.paths.glass = outlines_path([item for item in drawing.outlines if item.glass])
        self.paths.beyond, self.paths.fine = lines_path(drawing.beyond), lines_path(drawing.fine)
        self._set_unseen()
        self._set_lines()
        if self._fitted_for != (self._studio.scene.model.source if self._studio.scene else ""):
            self.fit()
        self._repaint_base()

    def show_unseen(self, numbers: frozenset[int]) -> None:
        """Lay over the drawing what is never seen; nothing takes the overlay away."""
        self.unseen = numbers
        self._set_unseen()
        self.update()

    def _set_unseen(self) -> None:
        outlines = self.drawing.outlines if self.drawing is not None and self.unseen else ()
        self._unseen_path = outlines_path([item for item in outlines if item.object_index in self.unseen])

    def _paint_unseen(self, painter: QPainter) -> None:
        painter.save()
        painter.translate(self.width() / 2, self.height() / 2)
        painter.scale(self._scale, -self._scale)
        painter.translate(-self._centre[0], -self._centre[1])
        pen = QPen(QColor(self._tokens.brick), 3.0)
        pen.setCosmetic(True)
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(self._unseen_path)
        painter.restore()
        self._tag(
            painter,
            QPointF(12, self.height() - 20),
            f"{len(self.unseen)} objects never seen: outlined",
            self._tokens.brick,
        )

    def _set_lines(self) -> None:
        scene = self._studio.scene
        lines = (
            scene.model.linework.points[:, :, :2]
            if scene is not None and self.linework
            else np.zeros((0, 2, 2))
        )
        self.paths.lines = lines_path(lines)
        self.lines_button.setText("Lines" if self.linework else "Lines: off")

    def fit(self) -> None:
        """Show the whole building: the rooms, else what is cut."""
        scene = self._studio.scene
        if scene is None:
            return
        self._fitted_for = scene.model.source
        points = [point for room in scene.model.rooms for point in room.outline]
        points += [(camera.eye[0], camera.eye[1]) for camera in self._bridge.project.cameras if camera.inside]
        if not points and self.drawing is not None:
            points = [tuple(p) for outline in self.drawing.outlines for p in outline.points.tolist()]
        if points:
            self.fit_to(points)

    # ------------------------------------------------------------------ painting

    def _lettering(self, painter: QPainter) -> None:
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
                QPointF(at.x() - box.width() - 6, at.y() + 5)
                if large
                else QPointF(at.x() - box.width() / 2, at.y() - box.height() / 2)
            )
            if wide < 26 or any(box.intersects(other) for other in placed) or box.width() > wide * 1.6:
                continue
            placed.append(box)
            painter.fillRect(box.adjusted(-2, 0, 2, 0), QColor(self._tokens.leaf))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, room.name)

    def paintEvent(self, _: QPaintEvent) -> None:
        """The drawing, then cameras, then what a drag says."""
        painter = QPainter(self)
        self._paint_ground(
            painter, "Drawing the plan…" if self._studio.scene or self.storey else "No model yet"
        )
        if self.unseen:
            self._paint_unseen(painter)
        if self.overlay is not None:
            self.overlay(painter, self)
        else:
            self._cameras(painter)
        if self.held_on is not None:
            self._hold_mark(painter, self.held_on)
        if self.standing:
            self._hint(painter, STANDING_HINTS)
        elif self.picking_wall:
            self._hint(painter, WALL_HINTS)
        detail = f"cut {self.cut_above_m:.2f} m above {self.storey.name}" if self.storey is not None else ""
        self._titled(painter, detail)
        self._north(painter)
        self._scale_bar(painter)
        self._focus_ring(painter)
        painter.end()

    def _cameras(self, painter: QPainter) -> None:
        shown = self._state.shown
        others = [
            item
            for item in self._bridge.project.cameras
            if item.id != self._state.active_id and not item.hidden
        ]
        painter.drawPixmap(0, 0, self._layer(others, shown))
        if shown is not None and (shown.id or self._state.loose is not None):
            self._active_camera(painter, shown)
        if not self.dragging and self._hover is not None:
            hover = self._hover
            near = [item for item in others if math.dist(hover, item.eye[:2]) * self._scale < 14]
            self._names(painter, near[:3], [], near=True)

    def _layer(self, others: list[Camera], shown: Camera | None) -> QPixmap:
        """The other cameras, painted once for as long as none of them changes: there may be hundreds."""
        named = not self.dragging and self._pan is None
        place = shown.eye if shown is not None and named else None
        key = (id(self._base), tuple(map(id, others)), self._state.selected, named, place, self.storey)
        if self._others_key != key or self._others is None:
            ratio = self.devicePixelRatioF()
            layer = QPixmap(round(self.width() * ratio), round(self.height() * ratio))
            layer.setDevicePixelRatio(ratio)
            layer.fill(Qt.GlobalColor.transparent)
            painter = QPainter(layer)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            here = self.on_storey(others)
            self._faint_cameras(painter, others, here)
            if named:
                taken = []
                if shown is not None:
                    at = self.to_screen(*shown.eye[:2])
                    taken.append(QRectF(at.x() - 9, at.y() - 9, 18, 18))
                self._names(
                    painter,
                    [camera for camera, same in zip(others, here.tolist(), strict=True) if same],
                    taken,
                )
            painter.end()
            self._others_key, self._others = key, layer
        return self._others

    def _same_storey(self, camera: Camera) -> bool:
        scene = self._studio.scene
        return scene is None or self.storey is None or scene.model.storey_of_eye(camera.eye) == self.storey

    def on_storey(self, cameras: list[Camera]) -> Bools:
        """(n,) bool: which cameras stand on the storey that is shown."""
        scene = self._studio.scene
        if scene is None or self.storey is None or not scene.model.storeys:
            return np.ones(len(cameras), bool)
        floors = np.array(sorted(item.elevation_m for item in scene.model.storeys))
        heights = np.array([camera.eye[2] for camera in cameras]) - LOWEST_EYE_M
        index = np.maximum(np.searchsorted(floors, heights + 0.05, side="right") - 1, 0)
        same: Bools = np.abs(floors[index] - self.storey.elevation_m) < 1e-9
        return same

    def _faint_cameras(self, painter: QPainter, cameras: list[Camera], here: Bools) -> None:
        """All other cameras, each kind in one go: chosen ones, those of this storey, those of others."""
        if not cameras:
            return
        eye = np.array([camera.eye[:2] for camera in cameras])
        heading = np.radians([camera.heading_deg for camera in cameras])
        at = np.column_stack(
            [
                self.width() / 2 + (eye[:, 0] - self._centre[0]) * self._scale,
                self.height() / 2 - (eye[:, 1] - self._centre[1]) * self._scale,
            ]
        )
        seen = ((at > -20) & (at < (self.width() + 20, self.height() + 20))).all(axis=1)
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
        inner = self.rect().adjusted(4, 30, -4, -4)
        named = 0
        for camera in cameras[:MOST_TRIED]:
            at = self.to_screen(camera.eye[0], camera.eye[1])
            if named >= MOST_NAMES or not inner.contains(at.toPoint()):
                continue
            box = QRectF(at.x() + 8, at.y() + 2, metrics.horizontalAdvance(camera.name) + 4, metrics.height())
            if box.right() > self.width() - 4:
                box.moveRight(at.x() - 8)
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
        at, aim = self.to_screen(*camera.eye[:2]), self.to_screen(*camera.aim[:2])
        self._section_line(painter, camera, at)
        self._paint_field(painter, camera, at, loose)
        painter.setPen(QPen(green, 1.1, Qt.PenStyle.DotLine))
        painter.drawLine(at, aim)
        self._bounds(painter, camera)
        painter.setPen(QPen(green, 2.0))
        painter.setBrush(QColor(self._tokens.leaf))
        if camera.looks_at_point:
            painter.drawEllipse(aim, 4.5, 4.5)
        else:
            self._arrow(painter, aim, aim - at)
        painter.setBrush(QColor(self._tokens.leaf) if loose else green)
        painter.drawEllipse(at, 6.0, 6.0)
        if camera.locked:
            self._tag(painter, at + QPointF(10, 14), "locked")
        for edge in self.edge_points(camera):
            self._square_handle(painter, edge, self._tokens.verdigris)
        if self._stood is not None or (self._drag is not None and self._drag.moved):
            self._dimensions(painter, camera)

    def _section_line(self, painter: QPainter, camera: Camera, at: QPointF) -> None:
        """Where the section is cut: a thin chain line along the line of sight, across the sheet."""
        heading = math.radians(camera.heading_deg)
        run = QPointF(math.sin(heading), -math.cos(heading)) * float(self.width() + self.height())
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
        self._field_shape(painter, at, near, far, beyond if camera.far is not None else [], cut, loose)

    def _fan(self, camera: Camera) -> Floats:
        """(n,) angles in radians clockwise from north, from the frame's left edge to its right."""
        left, right, _, _ = camera.view().edges()
        angles: Floats = math.radians(camera.heading_deg) + np.arctan(np.linspace(left, right, FAN_RAYS))
        return angles

    def field_of_view(self, camera: Camera) -> tuple[list[QPointF], list[QPointF], list[QPointF]]:
        """What the camera sees at eye height, side to side: where it begins, what stops it, and what would stop it
        without the far bound."""
        angles = self._fan(camera)
        directions = np.stack([np.sin(angles), np.cos(angles), np.zeros(FAN_RAYS)], axis=1)
        view = camera.view()
        start, reach = sight_begins(view, directions), np.full(FAN_RAYS, FARTHEST_SEEN_M)
        scene = self._studio.scene
        if scene is not None:
            _, met = look(replace(view, far_m=None), scene.rays, directions, scene.panes)
            reach = np.minimum(met.distance_m, FARTHEST_SEEN_M)
        stop = np.minimum(reach, sight_ends(view, directions))
        x, y = camera.eye[:2]
        return tuple(  # type: ignore[return-value]
            [
                self.to_screen(x + math.sin(a) * r, y + math.cos(a) * r)
                for a, r in zip(angles.tolist(), np.maximum(length, start).tolist(), strict=True)
            ]
            for length in (start, stop, reach)
        )

    def edge_points(self, camera: Camera) -> list[QPointF]:
        """The grips at the edges of the field of view, px."""
        left, right, _, _ = camera.view().edges()
        heading = math.radians(camera.heading_deg)
        reach = min(camera.aim_m, 0.45 * min(self.width(), self.height()) / self._scale)
        x, y = camera.eye[:2]
        found = []
        eye = self.to_screen(x, y)
        for index, edge in enumerate((left, right)):
            angle = heading + math.atan(edge)
            length = reach / max(math.cos(math.atan(edge)), 0.2)
            point = self.to_screen(x + math.sin(angle) * length, y + math.cos(angle) * length)
            if self._edge_ends is not None and not self.dragging:
                # Handles stay on the drawn edge, this side of what stops it.
                end = self._edge_ends[index]
                away, most = apart(eye, point), max(apart(eye, end) * 0.9, 24.0)
                point = eye + (point - eye) * min(1.0, most / max(away, 1e-6))
            found.append(point)
        return found

    def on_axis(self, camera: Camera, depth_m: float) -> QPointF:
        """A point on the line of sight, px."""
        heading = math.radians(camera.heading_deg)
        return self.to_screen(
            camera.eye[0] + math.sin(heading) * depth_m, camera.eye[1] + math.cos(heading) * depth_m
        )

    def _bounds(self, painter: QPainter, camera: Camera) -> None:
        left, right, _, _ = camera.view().edges()
        heading = math.radians(camera.heading_deg)
        side = QPointF(math.cos(heading), math.sin(heading)) * self._scale
        eye = self.to_screen(*camera.eye[:2])
        near, far = camera.near, camera.far
        if near is not None:
            middle = self.on_axis(camera, near)
            grow = max(near, 9.0 / self._scale)
            a, b = middle + side * left * grow, middle + side * right * grow
            self._near_line(painter, a, b, eye - middle)
            if camera.near_at is not None:
                self._pin(painter, b)
        if far is not None:
            middle = self.on_axis(camera, far)
            if self.rect().contains(middle.toPoint()):
                fixed = ", fixed" if camera.far_at is not None else ""
                self._far_line(
                    painter,
                    middle + side * left * far,
                    middle + side * right * far,
                    f"far {far:.1f} m{fixed}",
                )
            else:
                self._far_beyond(painter, eye, middle, far)
        for cut in camera.wall_cuts:
            a, b, into = self._cut_ends(cut)
            self._cut_line(painter, a, b, into, cut.on, f"{cut.offset_m:+.2f} m" if cut.offset_m else "")

    def _cut_ends(self, cut: WallCut) -> tuple[QPointF, QPointF, QPointF]:
        """A wall cut on the sheet: its left and right end, and the way into the kept room."""
        middle = np.asarray(cut.place) + cut.normal * cut.offset_m
        a, b = (
            middle - cut.along * min(cut.left_m, FARTHEST_SEEN_M),
            middle + cut.along * min(cut.right_m, FARTHEST_SEEN_M),
        )
        normal = cut.normal
        return (
            self.to_screen(a[0], a[1]),
            self.to_screen(b[0], b[1]),
            QPointF(float(normal[0]), -float(normal[1])),
        )

    def _far_beyond(self, painter: QPainter, eye: QPointF, middle: QPointF, far_m: float) -> None:
        """The far bound lies off the sheet: an arrow at the edge, and its figure."""
        frame = QRectF(self.rect()).adjusted(26, 40, -26, -30)
        run = middle - eye
        # Only the edges that the line of sight runs towards count.
        ends = (
            (eye.x(), run.x(), frame.right() if run.x() > 0 else frame.left()),
            (eye.y(), run.y(), frame.bottom() if run.y() > 0 else frame.top()),
        )
        shares = [max((bound - start) / step, 0.0) for start, step, bound in ends if abs(step) > 1e-6]
        tip = eye + run * min(shares, default=0.0)
        painter.setPen(QPen(QColor(self._tokens.mulberry), 2.0))
        self._arrow(painter, tip, run)
        self._tag(painter, tip + QPointF(6, -12), f"far {far_m:.0f} m", self._tokens.mulberry)

    def _dimensions(self, painter: QPainter, camera: Camera) -> None:
        """While dragging: height above this floor, distances to the walls beside and to the subject."""
        scene = self._studio.scene
        if scene is None:
            return
        _, right, _, left = clearances(scene.rays, camera.eye, camera.heading_deg)
        heading = math.radians(camera.heading_deg)
        x, y = camera.eye[:2]
        here = self.to_screen(x, y)
        taken: list[QRectF] = []
        for distance, side in ((right, 1.0), (left, -1.0)):
            if distance < 40.0:
                end = self.to_screen(
                    x + math.cos(heading) * distance * side, y - math.sin(heading) * distance * side
                )
                self._dimension(painter, here, end, f"{distance:.2f} m", taken)
        floor = floor_under(scene.floors, camera.eye)
        if floor is not None:
            self._tag(
                painter,
                here + QPointF(12, 20),
                f"eye {camera.eye[2] - floor:.2f} m above the floor",
                taken=taken,
            )
        self._tag(
            painter, self.to_screen(*camera.aim[:2]) + QPointF(9, -8), f"{camera.aim_m:.2f} m", taken=taken
        )

    def _hold_mark(self, painter: QPainter, held: Snap) -> None:
        at = self.to_screen(*held.place)
        painter.setPen(QPen(QColor(self._tokens.ink), 1.2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for run in (QPointF(7, 7), QPointF(7, -7)):
            painter.drawLine(at - run, at + run)
        self._tag(painter, at + QPointF(11, -12), held.kind)

    def _north(self, painter: QPainter) -> None:
        painter.setPen(QPen(QColor(self._tokens.pencil), 1.3))
        top = QPointF(self.width() - 24, 16 if self.width() > 430 else 66)
        painter.drawLine(top, top + QPointF(0, 22))
        painter.drawPolyline(QPolygonF([top + QPointF(-4, 6), top, top + QPointF(4, 6)]))
        painter.setFont(text_font(8.5))
        painter.drawText(top + QPointF(-4, 36), "N")

    def resizeEvent(self, event: QResizeEvent) -> None:
        """The controls keep their corner."""
        super().resizeEvent(event)
        self._place_controls()

    def _place_controls(self) -> None:
        x, y = 10, 31
        for item in (self.storeys, self.cut_field, self.fit_button, self.lines_button):
            if item is self.lines_button and item.isHidden():
                continue
            item.adjustSize()
            if x + item.width() > self.width() - 40 and x > 10:
                x, y = 10, y + 28
            item.move(x, y)
            x += item.width() + 4


def _floor_area(room: Room) -> float:
    points = np.array(room.outline)
    return float(np.ptp(points[:, 0]) * np.ptp(points[:, 1]))
