"""The Section: a real cut through the building along the line of sight, with eye, tilt, field and bounds on it.

The sheet's x runs along the line of sight from the place the drawing was made for, its y is height.
"""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QShowEvent

from altana.app.canvas.sheet import (
    FARTHEST_SEEN_M,
    HANDLE_PX,
    HOLD_PX,
    Drag,
    Sheet,
    apart,
    lines_path,
    outlines_path,
)
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.workspace.workspace import Workspace
from altana.core.camera.bounds import look, place_of_sight, sight_begins, sight_ends
from altana.core.camera.wall_cut import WallCut
from altana.core.conventions import Vec2
from altana.core.edits.cameras import change_camera, set_camera, stays_plumb
from altana.core.geometry.drawing import SectionDrawing
from altana.core.moving import lift, step
from altana.core.project import Camera
from altana.core.standing import on_floor

FAN_RAYS = 33
#: After the last movement the beyond-lines are drawn as well.
REST_MS = 160
STEEPEST_TILT_DEG = 80.0
LARGEST_RISE_MM = 60.0
LABELS = {
    "eye": "Move eye",
    "aim": "Tilt",
    "top": "Rise",
    "bottom": "Rise",
    "near": "Hide nearer than",
    "far": "Hide beyond",
    "cut": "Move wall cut",
}


class SectionView(Sheet):
    """The section along the line of sight of what the Frame shows; it follows live."""

    title = "Section"
    wall_picked = Signal(object)

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        state, studio = workspace.state, workspace.studio
        super().__init__(workspace, tokens)
        self.drawing: SectionDrawing | None = None
        self._asked: tuple[Vec2, float, bool, object] | None = None
        self._framed_for = ""
        #: The next press picks a wall for a wall cut.
        self.picking_wall = False
        self._stops = (FARTHEST_SEEN_M, FARTHEST_SEEN_M)
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST_MS)
        self._rest.timeout.connect(lambda: self._order(quick=False))
        state.shown_changed.connect(self._follow)
        state.hiding_changed.connect(lambda: self._order(quick=False))
        studio.section.connect(self._take_drawing)
        studio.opened.connect(self._scene_opened)

    # ------------------------------------------------------------------ following the camera

    def _scene_opened(self) -> None:
        self.drawing = None
        self._framed_for = ""
        self._follow()

    def _follow(self) -> None:
        camera = self._state.shown
        if camera is not None and camera.id != self._framed_for and self.isVisible():
            self._framed_for = camera.id
            # In a turn of its own: choosing a camera sets off enough at once.
            QTimer.singleShot(0, self.fit)
        self._order(quick=True)
        self._rest.start()
        self.update()

    def showEvent(self, event: QShowEvent) -> None:
        """A section that comes to sight is drawn for the camera of now."""
        super().showEvent(event)
        self._follow()

    def _order(self, quick: bool) -> None:
        camera, scene = self._state.shown, self._studio.scene
        if camera is None or scene is None or not self.isVisible():
            return
        origin = (camera.eye[0], camera.eye[1])
        hiding = self._state.hiding
        hidden = (
            hiding.applied(scene.lookup.staging(self._bridge.project, None), scene.lookup) if hiding else None
        )
        gone = (*hidden.omitted, *hidden.faint) if hidden else ()
        wanted = (origin, camera.heading_deg, quick, gone)
        drawing = self.drawing
        if quick and drawing is not None and not self.leaves(camera, drawing):
            return  # the cut is the same plane; only the camera moves on it
        if wanted != self._asked:
            self._asked = wanted
            self._studio.order_section(origin, camera.heading_deg, quick, gone)

    def leaves(self, camera: Camera, drawing: SectionDrawing) -> bool:
        """Whether the camera left the drawing, so that another is needed."""
        turn = math.radians(drawing.heading_deg)
        aside = (camera.eye[0] - drawing.origin[0]) * math.cos(turn) - (
            camera.eye[1] - drawing.origin[1]
        ) * math.sin(turn)
        return abs(aside) > 1e-4 or abs(camera.heading_deg - drawing.heading_deg) > 1e-6

    def _take_drawing(self, drawing: SectionDrawing) -> None:
        camera = self._state.shown
        if camera is None:
            return
        before = self.place_of(camera)[0]
        self.drawing = drawing
        # The camera keeps its place on the widget while the building turns behind it.
        self._centre = (self._centre[0] + self.place_of(camera)[0] - before, self._centre[1])
        self.paths.cut = outlines_path([item for item in drawing.outlines if not item.glass])
        self.paths.glass = outlines_path([item for item in drawing.outlines if item.glass])
        self.paths.beyond, self.paths.fine = lines_path(drawing.beyond), lines_path(drawing.fine)
        self._repaint_base()

    def fit(self) -> None:
        """Show the eye, what it looks at, and the height of the space."""
        camera, scene = self._state.shown, self._studio.scene
        if camera is None:
            return
        at, z = self.place_of(camera)
        ahead = min(max(camera.aim_m * 1.25, 6.0), 45.0)
        low, high = z - 2.2, z + 2.5
        if scene is not None:
            here = scene.footing(place_of_sight(camera))
            low = here.floor_m if here.floor_m is not None and here.floor_m > z - 12 else low
            high = min(here.ceiling_m, z + 9.0) if here.ceiling_m is not None else z + ahead * 0.35
        self.fit_to([(at - 2.5, low - 0.5), (at + ahead, max(high, camera.aim[2]) + 0.5)])

    def place_of(self, camera: Camera) -> Vec2:
        """Where the eye lies on the sheet."""
        drawing = self.drawing
        if drawing is None:
            return 0.0, camera.eye[2]
        turn = math.radians(drawing.heading_deg)
        x, y = camera.eye[0] - drawing.origin[0], camera.eye[1] - drawing.origin[1]
        return x * math.sin(turn) + y * math.cos(turn), camera.eye[2]

    # ------------------------------------------------------------------ painting

    def _lettering(self, painter: QPainter) -> None:
        scene, drawing = self._studio.scene, self.drawing
        if scene is None or drawing is None:
            return
        painter.setFont(text_font(8))
        pencil = QColor(self._tokens.pencil)
        for storey in scene.model.storeys:
            y = self.to_screen(0.0, storey.elevation_m).y()
            if 34 < y < self.height() - 24:
                painter.setPen(QPen(pencil, 1.0))
                painter.drawLine(QPointF(self.width() - 14, y), QPointF(self.width() - 4, y))
                text = f"{storey.name} {storey.elevation_m:+.2f}"
                wide = painter.fontMetrics().horizontalAdvance(text)
                box = QRectF(self.width() - wide - 22, y - 15, wide + 4, 14)
                painter.fillRect(box, QColor(self._tokens.leaf))
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def paintEvent(self, _: QPaintEvent) -> None:
        """The cut, then the camera on it."""
        painter = QPainter(self)
        self._paint_ground(painter, "Drawing the section…" if self._studio.scene else "No model yet")
        camera = self._state.shown
        if camera is not None and self.drawing is not None:
            self._others(painter)
            self._camera(painter, camera)
        if self.picking_wall:
            self._hint(
                painter,
                (
                    "Press on the wall to look past, between eye and subject. Escape leaves.",
                    "Press on a wall. Escape leaves.",
                ),
            )
        self._titled(painter, "along the line of sight")
        self._scale_bar(painter)
        self._focus_ring(painter)
        painter.end()

    def _others(self, painter: QPainter) -> None:
        """Other cameras that stand near this cut, faint."""
        drawing = self.drawing
        assert drawing is not None
        turn = math.radians(drawing.heading_deg)
        for other in self._bridge.project.cameras:
            aside = (other.eye[0] - drawing.origin[0]) * math.cos(turn) - (
                other.eye[1] - drawing.origin[1]
            ) * math.sin(turn)
            if other.id == self._state.active_id or other.hidden or abs(aside) > 2.0:
                continue
            at = self.to_screen(*self.place_of(other))
            if self.rect().contains(at.toPoint()):
                pencil = QColor(self._tokens.pencil)
                pencil.setAlpha(170)
                painter.setPen(QPen(pencil, 1.3))
                painter.setBrush(QColor(self._tokens.leaf))
                painter.drawEllipse(at, 3.5, 3.5)

    def _directions(self, camera: Camera) -> np.ndarray:
        """Elevations (radians) of the rays in the plane of sight, from the frame's lower to its upper edge."""
        _, _, bottom, top = camera.view().edges()
        return math.radians(camera.tilt_deg) + np.arctan(np.linspace(bottom, top, FAN_RAYS))

    def _reaches(self, camera: Camera, elevation: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Where sight begins, what stops it, and what would without the far bound, metres along each ray."""
        turn = math.radians(camera.heading_deg)
        level = np.cos(elevation)
        directions = np.stack([math.sin(turn) * level, math.cos(turn) * level, np.sin(elevation)], axis=1)
        view = camera.view()
        start, reach = sight_begins(view, directions), np.full(len(elevation), FARTHEST_SEEN_M)
        scene = self._studio.scene
        if scene is not None:
            _, met = look(replace(view, far_m=None), scene.rays, directions, scene.panes)
            reach = np.minimum(met.distance_m, FARTHEST_SEEN_M)
        stop = np.minimum(reach, sight_ends(view, directions))
        return start, np.maximum(stop, start), np.maximum(reach, start)

    def _at(self, camera: Camera, elevation: float, length: float) -> QPointF:
        s, z = self.place_of(camera)
        return self.to_screen(s + math.cos(elevation) * length, z + math.sin(elevation) * length)

    def _camera(self, painter: QPainter, camera: Camera) -> None:
        loose = self._state.loose is not None
        green = QColor(self._tokens.verdigris)
        at = self.to_screen(*self.place_of(camera))
        elevation = self._directions(camera)
        start, reach, without = self._reaches(camera, elevation)
        self._stops = (float(reach[0]), float(reach[-1]))
        near = [self._at(camera, e, r) for e, r in zip(elevation.tolist(), start.tolist(), strict=True)]
        far = [self._at(camera, e, r) for e, r in zip(elevation.tolist(), reach.tolist(), strict=True)]
        beyond = [self._at(camera, e, r) for e, r in zip(elevation.tolist(), without.tolist(), strict=True)]
        cut = camera.near is not None or any(item.holds(camera.eye) for item in camera.cuts)
        self._field_shape(painter, at, near, far, beyond if camera.far is not None else [], cut, loose)
        painter.setPen(QPen(green, 1.1, Qt.PenStyle.DotLine))
        aim = self._at(camera, _aimed(camera), camera.aim_m)
        painter.drawLine(at, aim)
        self._bounds(painter, camera, at)
        self._heights(painter, camera, at, aim)
        painter.setPen(QPen(green, 2.0))
        painter.setBrush(QColor(self._tokens.leaf))
        painter.drawEllipse(aim, 4.5, 4.5)
        painter.setBrush(QColor(self._tokens.leaf) if loose else green)
        painter.drawEllipse(at, 6.0, 6.0)
        for _, point in self._edge_grips(camera):
            self._square_handle(painter, point, self._tokens.verdigris)

    def _bounds(self, painter: QPainter, camera: Camera, at: QPointF) -> None:
        _, _, bottom, top = camera.view().edges()
        tilt = math.radians(camera.tilt_deg)
        side = QPointF(-math.sin(tilt), -math.cos(tilt)) * self._scale
        for kind, depth in (("near", camera.near), ("far", camera.far)):
            if depth is None:
                continue
            middle = self._at(camera, tilt, depth)
            grow = max(depth, 9.0 / self._scale)
            a, b = middle + side * bottom * grow, middle + side * top * grow
            if kind == "near":
                self._near_line(painter, a, b, at - middle)
                fixed = ", fixed" if camera.near_at is not None else ""
                self._tag(painter, b + QPointF(-36, -14), f"near {depth:.2f} m{fixed}", self._tokens.ink)
                if fixed:
                    self._pin(painter, b)
            elif self.rect().contains(middle.toPoint()):
                self._far_line(painter, a, b, f"far {depth:.1f} m")
            else:
                tip = QPointF(self.width() - 30, min(max(middle.y(), 44.0), self.height() - 40))
                painter.setPen(QPen(QColor(self._tokens.mulberry), 2.0))
                self._arrow(painter, tip, QPointF(1, 0))
                self._tag(painter, tip + QPointF(-50, -14), f"far {depth:.0f} m", self._tokens.mulberry)
        for cut in camera.wall_cuts:
            ends = self._cut_ends(camera, cut)
            if ends is not None:
                self._cut_line(painter, *ends, cut.on, f"{cut.offset_m:+.2f} m" if cut.offset_m else "")

    def _cut_ends(self, camera: Camera, cut: WallCut) -> tuple[QPointF, QPointF, QPointF] | None:
        """Where a wall cut crosses the section: its foot, its head and the way into the room; None where it does not."""
        turn = math.radians(camera.heading_deg)
        ahead = np.array([math.sin(turn), math.cos(turn), 0.0])
        facing = float(ahead @ cut.normal)
        if abs(facing) < 0.05:
            return None
        away = (cut.at_m - float(np.asarray(camera.eye) @ cut.normal)) / facing
        aside = float((np.asarray(camera.eye) + ahead * away - np.asarray(cut.place)) @ cut.along)
        if not -cut.left_m <= aside <= cut.right_m:
            return None
        s = self.place_of(camera)[0] + away
        low, high = max(cut.place[2] - cut.down_m, -200.0), min(cut.place[2] + cut.up_m, 400.0)
        return self.to_screen(s, low), self.to_screen(s, high), QPointF(math.copysign(1.0, facing), 0.0)

    def _heights(self, painter: QPainter, camera: Camera, at: QPointF, aim: QPointF) -> None:
        """Eye above the floor, clear height to the ceiling, and the floor under what is looked at."""
        scene = self._studio.scene
        if scene is None:
            return
        taken: list[QRectF] = [QRectF(at.x() - 8, at.y() - 8, 16, 16)]
        s, z = self.place_of(camera)
        here = scene.footing(place_of_sight(camera))
        left = at - QPointF(16, 0)
        if here.floor_m is not None and z - here.floor_m < 60:
            self._dimension(
                painter,
                QPointF(left.x(), self.to_screen(s, here.floor_m).y()),
                left,
                f"{z - here.floor_m:.2f} m",
                taken,
            )
        if here.ceiling_m is not None and (self._drag is not None or self.height() > 330):
            top = QPointF(left.x(), self.to_screen(s, here.ceiling_m).y())
            self._dimension(painter, left, top, f"{here.ceiling_m - z:.2f} m", taken)
        beneath = scene.footing(camera.aim)
        if beneath.floor_m is not None and self.rect().contains(aim.toPoint()):
            foot = QPointF(aim.x(), self.to_screen(s, beneath.floor_m).y())
            pen = QPen(QColor(self._tokens.pencil), 1.0, Qt.PenStyle.DotLine)
            painter.setPen(pen)
            painter.drawLine(aim, foot)
            if self._drag is not None:
                self._tag(
                    painter,
                    (aim + foot) / 2 + QPointF(5, 0),
                    f"{camera.aim[2] - beneath.floor_m:.2f} m",
                    taken=taken,
                )
        if self._drag is not None:
            words = f"{camera.aim_m:.2f} m · tilt {camera.tilt_deg:.1f}°"
            self._tag(painter, aim + QPointF(9, -12), words, taken=taken)
            if self._drag.kind in ("top", "bottom"):
                self._tag(
                    painter,
                    self._edge_grips(camera)[0][1] + QPointF(9, -8),
                    f"rise {camera.rise_mm:.1f} mm",
                    taken=taken,
                )

    # ------------------------------------------------------------------ pointer

    def _edge_grips(self, camera: Camera) -> list[tuple[str, QPointF]]:
        _, _, bottom, top = camera.view().edges()
        tilt = math.radians(camera.tilt_deg)
        reach = min(camera.aim_m * 0.8, 0.4 * self.width() / self._scale)
        grips = []
        for kind, edge, stop in (("top", top, self._stops[1]), ("bottom", bottom, self._stops[0])):
            length = reach / max(math.cos(math.atan(edge)), 0.2)
            if self._drag is None:
                # Handles stay on the drawn edge, this side of what stops it.
                length = min(length, max(stop * 0.92, 24.0 / self._scale))
            grips.append((kind, self._at(camera, tilt + math.atan(edge), length)))
        return grips

    def _grip(self, at: QPointF) -> str:
        camera = self._state.shown
        if camera is None or not self._state.held:
            return ""
        tilt = math.radians(camera.tilt_deg)
        grips = [
            ("eye", self.to_screen(*self.place_of(camera))),
            ("aim", self._at(camera, _aimed(camera), camera.aim_m)),
            *self._edge_grips(camera),
        ]
        grips += [
            (kind, self._at(camera, tilt, d))
            for kind, d in (("near", camera.near), ("far", camera.far))
            if d is not None
        ]
        for index, cut in enumerate(camera.wall_cuts):
            ends = self._cut_ends(camera, cut) if cut.on else None
            if ends is not None:
                grips.append((f"cut {index}", (ends[0] + ends[1]) / 2))
        away, kind = min((apart(p, at), kind) for kind, p in grips)
        return kind if away <= HANDLE_PX else ""

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take a handle, choose another camera, or move the sheet."""
        at = event.position()
        active = self._state.active
        if event.button() == Qt.MouseButton.LeftButton:
            kind = self._grip(at)
            if kind and active is not None:
                self._drag = Drag(kind, active, self.to_world(at))
                self._bridge.begin()
                return
            shown = self._state.shown
            if self.picking_wall and shown is not None:
                s, z = self.to_world(at)
                turn, ahead = math.radians(shown.heading_deg), s - self.place_of(shown)[0]
                self.wall_picked.emit(
                    (shown.eye[0] + math.sin(turn) * ahead, shown.eye[1] + math.cos(turn) * ahead, z)
                )
                return
            for other in self._bridge.project.cameras:
                place = self.to_screen(*self.place_of(other))
                if other.id != self._state.active_id and apart(place, at) <= 7 and not other.hidden:
                    self._state.select(other.id)
                    return
        self._pan = (at, self._centre)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Go on with what the press began."""
        at = event.position()
        place = self.to_world(at)
        self.pointed.emit(f"Section · {place[0]:.2f} m along · z {place[1]:.2f} m")
        if self._drag is not None:
            self._drag.moved = True
            self._drag_to(place, event)
        elif self._pan is not None:
            self._pan_to(at)
        else:
            self.setCursor(
                Qt.CursorShape.PointingHandCursor if self._grip(at) else Qt.CursorShape.ArrowCursor
            )

    def _drag_to(self, place: Vec2, event: QMouseEvent) -> None:
        drag = self._drag
        assert drag is not None
        camera = drag.camera
        along, up = place[0] - drag.start[0], place[1] - drag.start[1]
        if drag.kind == "eye":
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                along, up = (along, 0.0) if abs(along) > abs(up) else (0.0, up)
            moved = self._eye_moved(camera, along, up)
            self._bridge.preview(lambda p: change_camera(p, camera.id, lambda _: moved))
            return
        s, z = self.place_of(camera)
        elevation = math.atan2(place[1] - z, max(place[0] - s, 1e-3))
        free = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        if drag.kind == "aim":
            tilt = math.degrees(elevation)
            if not free and abs(place[1] - z) * self._scale < HOLD_PX:
                tilt = 0.0
            tilt = max(-STEEPEST_TILT_DEG, min(STEEPEST_TILT_DEG, tilt))
            away = max(0.25, math.hypot(place[0] - s, place[1] - z))
            steepest = self._bridge.project.limits.steepest_rise_deg
            # A camera that is kept plumb looks along its rise; from there the same line becomes another rise.
            turned = stays_plumb(
                replace(
                    camera, tilt_deg=tilt, aim_m=away, rise_mm=0.0 if camera.kept_plumb else camera.rise_mm
                ),
                steepest,
            )
            self._bridge.preview(lambda p: change_camera(p, camera.id, lambda _: turned))
        elif drag.kind in ("top", "bottom"):
            tangent = math.tan(max(-1.4, min(1.4, elevation - math.radians(camera.tilt_deg))))
            half = camera.view().sensor_mm[1] / 2
            rise = camera.focal_mm * tangent + (-half if drag.kind == "top" else half)
            if not free and abs(rise) < 0.35:
                rise = 0.0
            rise = round(max(-LARGEST_RISE_MM, min(LARGEST_RISE_MM, rise)), 2)
            self._bridge.preview(lambda p: set_camera(p, camera.id, rise_mm=rise))
        elif drag.kind.startswith("cut"):
            cut = camera.wall_cuts[int(drag.kind[4:])]
            turn = math.radians(camera.heading_deg)
            facing = math.sin(turn) * cut.normal[0] + math.cos(turn) * cut.normal[1]
            self._preview_cut(camera, int(drag.kind[4:]), cut.offset_m + along * float(facing))
        else:
            self._drag_bound(drag.kind, camera, place)

    def _eye_moved(self, camera: Camera, along: float, up: float) -> Camera:
        moved = step(camera, along) if along else camera
        scene = self._studio.scene
        if along and not up and scene is not None:
            moved = on_floor(camera, moved, scene.floors)
        moved = lift(moved, round(up, 3)) if up else moved
        return replace(moved, aim_m=max(0.25, moved.aim_m))

    def _drag_bound(self, kind: str, camera: Camera, place: Vec2) -> None:
        s, z = self.place_of(camera)
        tilt = math.radians(camera.tilt_deg)
        self._preview_bound(kind, camera, (place[0] - s) * math.cos(tilt) + (place[1] - z) * math.sin(tilt))

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        """One undo step for the whole drag."""
        self._pan = None
        drag, self._drag = self._drag, None
        if drag is not None:
            self._bridge.commit(LABELS[drag.kind.split()[0]])
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Escape takes back a drag; F fits; plus and minus zoom; up and down lift the eye by 5 cm, left and right step
        by 10 cm (Shift: ten times); with Control up and down tilt by a degree."""
        key, active = event.key(), self._state.active
        big = 10.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
        arrows = {
            Qt.Key.Key_Left: (-0.1, 0.0),
            Qt.Key.Key_Right: (0.1, 0.0),
            Qt.Key.Key_Up: (0.0, 0.05),
            Qt.Key.Key_Down: (0.0, -0.05),
        }
        if key == Qt.Key.Key_Escape:
            self._drag = None
            self._bridge.cancel()
        elif key == Qt.Key.Key_F:
            self.fit()
        elif key in arrows and active is not None and self._state.held:
            along, up = arrows[Qt.Key(key)]
            if event.modifiers() & Qt.KeyboardModifier.ControlModifier and up:
                tilt = max(-89.0, min(89.0, active.tilt_deg + math.copysign(1.0, up)))
                steepest = self._bridge.project.limits.steepest_rise_deg
                turned = stays_plumb(replace(active, tilt_deg=tilt), steepest)
                self._bridge.apply("Tilt", lambda p: change_camera(p, active.id, lambda _: turned))
            else:
                moved = self._eye_moved(active, along * big, up * big)
                self._bridge.apply("Move eye", lambda p: change_camera(p, active.id, lambda _: moved))
        elif not self._zoom_key(event):
            super().keyPressEvent(event)


def _aimed(camera: Camera) -> float:
    """Elevation, in radians, of the line that the aim is drawn on: a camera that is kept plumb aims by its rise."""
    tilt = math.radians(camera.tilt_deg)
    return tilt + math.atan2(camera.rise_mm, camera.focal_mm) if camera.kept_plumb else tilt
