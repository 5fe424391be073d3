"""The Section: a real cut through the building along the line of sight, with eye, tilt, field and bounds on
it.

The sheet's x runs along the line of sight from the place the drawing was made for, its y is height.
"""

from __future__ import annotations

import math
from dataclasses import replace

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QShowEvent

from altana.app.canvas.gestures.section import SectionEyeGesture, SectionGesture, TiltGesture
from altana.app.canvas.gestures.sheet import (
    GRIP_PX,
    BoundGesture,
    CutGesture,
    FarGesture,
    Grip,
    NearGesture,
    SheetGesture,
)
from altana.app.canvas.marks import apart
from altana.app.canvas.section_camera import SectionCamera, aimed
from altana.app.canvas.sheet import Sheet
from altana.app.canvas.storey_names import paint_storey_names
from altana.app.theme.lengths import length
from altana.app.theme.tokens import LIGHT, Tokens
from altana.app.theme.words import tr
from altana.app.workspace.soon import Soon
from altana.app.workspace.workspace import Workspace
from altana.core.camera.bounds import place_of_sight
from altana.core.camera.wall_cut import WallCut
from altana.core.conventions import Vec2
from altana.core.edits.cameras import change_camera, stays_plumb
from altana.core.geometry.drawing import SectionDrawing
from altana.core.moving import lift, step
from altana.core.project import Camera
from altana.core.standing import on_floor

#: After the last movement the beyond-lines are drawn as well.
REST_MS = 160


class SectionView(Sheet):
    """The section along the line of sight of what the Frame shows; it follows live."""

    title = tr("Section")
    wall_picked = Signal(object)

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        state, studio = workspace.state, workspace.studio
        # A drawing stands on white paper, whatever the chrome is.
        tokens = LIGHT
        super().__init__(workspace, tokens)
        self.drawing: SectionDrawing | None = None
        self._asked: tuple[Vec2, float, bool, object] | None = None
        self._framed_for = ""
        #: The next press picks a wall for a wall cut.
        self.picking_wall = False
        self.camera = SectionCamera(self, workspace, tokens)
        self._rest = Soon(self, REST_MS, lambda: self._order(quick=False))
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
        self.centre = (self.centre[0] + self.place_of(camera)[0] - before, self.centre[1])
        self.paths.show(drawing.outlines, drawing.beyond, drawing.fine)
        self.repaint_base()

    def fit(self) -> None:
        """Show the eye, what it looks at, and the height of the space."""
        camera, scene = self._state.shown, self._studio.scene
        if camera is None:
            return
        at, z = self.place_of(camera)
        ahead = min(max(camera.aim_m * 1.25, 6.0), 45.0)
        low, high = z - 2.2, z + 2.5
        if scene is not None:
            here, floor = scene.footing(place_of_sight(camera)), scene.floor_m(camera)
            low = floor if floor is not None and floor > z - 12 else low
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
        painter.setPen(QPen(QColor(self._tokens.pencil), 1.0))
        for _, y in self._storeys():
            painter.drawLine(QPointF(self.width() - 14, y), QPointF(self.width() - 4, y))

    def _storeys(self) -> list[tuple[str, float]]:
        """The storeys in sight: name with height, and how far down on the widget."""
        scene = self._studio.scene
        heights = [] if scene is None else [(s.name, s.elevation_m) for s in scene.model.storeys]
        marks = [(f"{name} {high:+.2f}", self.to_screen(0.0, high).y()) for name, high in heights]
        return [(text, y) for text, y in marks if 34 < y < self.height() - 24]

    def paintEvent(self, _: QPaintEvent) -> None:
        """The cut, then the camera on it."""
        painter = QPainter(self)
        self._paint_ground(painter, tr("Drawing the section…") if self._studio.scene else tr("No model yet"))
        camera = self._state.shown
        if camera is not None and self.drawing is not None:
            others = self._others(painter)
            shown = self._state.active is not None
            marks = [*others, *(self.camera.marks(camera) if shown else ())]
            # On the drawing, but below the camera; where a mark lies they stand aside.
            paint_storey_names(painter, self._storeys(), marks, self._tokens)
            if shown:
                self.camera.paint(painter, camera)
        if self.picking_wall:
            self.marks.hint(
                painter,
                (
                    tr("Press on the wall to look past, between eye and subject. Escape leaves."),
                    tr("Press on a wall. Escape leaves."),
                ),
            )
        self.marks.titled(painter, self.title, tr("along the line of sight"))
        self.marks.scale_bar(painter, self._scale)
        self.marks.focus_ring(painter)
        painter.end()

    def _others(self, painter: QPainter) -> list[QRectF]:
        """Other cameras that stand near this cut, faint; where they are."""
        drawing, there = self.drawing, []
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
                there.append(QRectF(at.x() - 5.0, at.y() - 5.0, 10.0, 10.0))
        return there

    # ------------------------------------------------------------------ pointer

    def _grip(self, at: QPointF) -> Grip | None:
        """What can be taken at a place of the widget."""
        camera = self._state.shown
        if camera is None or not self._state.held:
            return None
        tilt = math.radians(camera.tilt_deg)
        grips = [
            Grip(self.to_screen(*self.place_of(camera)), SectionEyeGesture),
            Grip(self.camera.at(camera, aimed(camera), camera.aim_m), TiltGesture),
            *self.camera.edge_grips(camera),
        ]
        for gesture, depth in ((NearGesture, camera.near), (FarGesture, camera.far)):
            if depth is not None:
                grips.append(Grip(self.camera.at(camera, tilt, depth), gesture))
        for number, cut in enumerate(camera.wall_cuts):
            ends = self.camera.cut_ends(camera, cut) if cut.on else None
            if ends is not None:
                grips.append(Grip((ends[0] + ends[1]) / 2, CutGesture, number))
        nearest = min(grips, key=lambda grip: grip.away(at))
        return nearest if nearest.away(at) <= GRIP_PX else None

    def _taken(self, grip: Grip, camera: Camera, place: Vec2) -> SheetGesture:
        """The gesture of a grip."""
        kind = grip.gesture
        if issubclass(kind, CutGesture):
            return kind(self, self._bridge, camera, place, grip.number)
        assert issubclass(kind, SectionGesture | BoundGesture)
        return kind(self, self._bridge, camera, place)

    def depth_at(self, camera: Camera, place: Vec2) -> float:
        """How far ahead of the eye a place of the sheet lies, metres."""
        s, z = self.place_of(camera)
        tilt = math.radians(camera.tilt_deg)
        return (place[0] - s) * math.cos(tilt) + (place[1] - z) * math.sin(tilt)

    def along_normal(self, camera: Camera, cut: WallCut, run: Vec2) -> float:
        """How far a drag on the sheet goes along the normal of a wall cut, metres."""
        turn = math.radians(camera.heading_deg)
        return run[0] * float(math.sin(turn) * cut.normal[0] + math.cos(turn) * cut.normal[1])

    def eye_moved(self, camera: Camera, along: float, up: float) -> Camera:
        """The camera moved along its line of sight and up, on the floor where it only goes along."""
        moved = step(camera, along) if along else camera
        scene = self._studio.scene
        if along and not up and scene is not None:
            moved = on_floor(camera, moved, scene.floors)
        moved = lift(moved, round(up, 3)) if up else moved
        return replace(moved, aim_m=max(0.25, moved.aim_m))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take a handle, choose another camera, or move the sheet."""
        at = event.position()
        active = self._state.active
        if event.button() == Qt.MouseButton.LeftButton:
            grip = self._grip(at)
            if grip is not None and active is not None:
                self.gesture = self._taken(grip, active, self.to_world(at))
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
        self._pan = (at, self.centre)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Go on with what the press began."""
        at = event.position()
        place = self.to_world(at)
        self.pointed.emit(
            tr("Section · {along} along · z {height}", along=length(place[0]), height=length(place[1]))
        )
        if self.gesture is not None:
            self.gesture.move(place, event)
        elif self._pan is not None:
            self._pan_to(at)
        else:
            self.setCursor(
                Qt.CursorShape.PointingHandCursor if self._grip(at) else Qt.CursorShape.ArrowCursor
            )

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        """One undo step for the whole drag."""
        self._pan = None
        self.let_go()
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Escape takes back a drag; F fits; plus and minus zoom; up and down lift the eye by 5 cm, left and
        right step by 10 cm (Shift: ten times); with Control up and down tilt by a degree."""
        key, active = event.key(), self._state.active
        big = 10.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
        arrows = {
            Qt.Key.Key_Left: (-0.1, 0.0),
            Qt.Key.Key_Right: (0.1, 0.0),
            Qt.Key.Key_Up: (0.0, 0.05),
            Qt.Key.Key_Down: (0.0, -0.05),
        }
        if key == Qt.Key.Key_Escape:
            self.drop_drag()
        elif key == Qt.Key.Key_F:
            self.fit()
        elif key in arrows and active is not None and self._state.held:
            along, up = arrows[Qt.Key(key)]
            if event.modifiers() & Qt.KeyboardModifier.ControlModifier and up:
                tilt = max(-89.0, min(89.0, active.tilt_deg + math.copysign(1.0, up)))
                steepest = self._bridge.project.limits.steepest_rise_deg
                turned = stays_plumb(replace(active, tilt_deg=tilt), steepest)
                self._bridge.apply(tr("Tilt"), lambda p: change_camera(p, active.id, lambda _: turned))
            else:
                moved = self.eye_moved(active, along * big, up * big)
                self._bridge.apply(tr("Move eye"), lambda p: change_camera(p, active.id, lambda _: moved))
        elif not self._zoom_key(event):
            super().keyPressEvent(event)
