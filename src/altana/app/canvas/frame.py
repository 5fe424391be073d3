"""The Frame: the camera's exact picture in a neutral well, with guides, formats and the five ways to move."""

from __future__ import annotations

import math
from dataclasses import replace

from PySide6.QtCore import QPointF, Qt, QTimer, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QWheelEvent

from altana.app.canvas.frame_picking import FramePicking
from altana.app.canvas.frame_well import FrameWell
from altana.app.canvas.gestures.frame import SHIFT, EdgeGesture, FrameGesture, MoveGesture, ShiftGesture
from altana.app.canvas.gestures.nudges import Nudges
from altana.app.canvas.gestures.stand import StandGesture
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import STANDING_M
from altana.core.edits.cameras import change_camera, stays_plumb
from altana.core.errors import Refused
from altana.core.moving import step
from altana.core.project import Camera, Project
from altana.core.standing import on_floor

SPEEDS = (0.1, 0.25, 0.5, 1.0, 2.0, 4.0)
#: A surface is level when the upright part of its normal is at least this.
FLOOR_UPRIGHT = 0.7
EDGE_CURSORS = {
    "left": Qt.CursorShape.SizeHorCursor,
    "right": Qt.CursorShape.SizeHorCursor,
    "top": Qt.CursorShape.SizeVerCursor,
    "bottom": Qt.CursorShape.SizeVerCursor,
}


class FrameView(FrameWell):
    """Shows ``state.shown``; a drag or a key moves it the chosen way."""

    stood = Signal()
    picked = Signal(str)
    wall_picked = Signal(object)
    speed_changed = Signal()

    def __init__(
        self,
        workspace: Workspace,
        tokens: Tokens,
        channel: str = "frame",
        plain: bool = False,
        walking: bool = False,
        checking: bool = False,
    ) -> None:
        super().__init__(workspace, tokens, channel, plain, walking, checking)
        #: The drag that goes on, or the camera that is being stood.
        self._gesture: FrameGesture | None = None
        self._stood: StandGesture | None = None
        self.keep_on_floor = True
        self.for_shot = ""
        self.eye_height_m = STANDING_M
        self.axis = ""
        self.nudges = Nudges(self, workspace, QTimer(self))
        self.picking = FramePicking(self, workspace)

    @property
    def way(self) -> str:
        """The chosen way to move."""
        return self.ways.chosen

    def choose_way(self, way: str) -> None:
        """Take one of the ways to move."""
        self.ways.choose(way)

    def change_speed(self, faster: int) -> None:
        """Move in larger (1) or smaller (-1) steps."""
        index = SPEEDS.index(self.speed) + faster
        self.speed = SPEEDS[min(len(SPEEDS) - 1, max(0, index))]
        self.speed_changed.emit()
        self.update()

    def toggle_floor(self) -> None:
        """Whether walking in the Frame keeps the eye's height above the floor."""
        self.keep_on_floor = not self.keep_on_floor
        kept = tr("Walking keeps the eye's height above the floor.")
        self._bridge.notices.note(
            kept if self.keep_on_floor else tr("Walking stays level, whatever the floor does.")
        )

    # ------------------------------------------------------------------ moving

    @property
    def dragging(self) -> bool:
        """Whether a drag goes on."""
        return self._gesture is not None or self._stood is not None

    @property
    def moving(self) -> bool:
        """Whether the picture moves, by a drag or by keys."""
        return self.dragging or self.nudges.moving

    def reach(self, camera: Camera) -> float:
        """How far a drag across the picture moves, metres."""
        return min(max(camera.aim_m, 1.0), 40.0) * self.speed

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Begin to move, to stand a camera on a floor seen here, or to drag an edge."""
        camera = self._state.shown
        if event.button() != Qt.MouseButton.LeftButton or camera is None or self.override is not None:
            return
        self.nudges.end()
        at = event.position()
        if self.standing:
            self._stand(at, camera)
            return
        if self.picking_wall:
            self._pick_wall(at)
            return
        edge = self.picking.edge_at(at)
        if edge and self.way != SHIFT:
            self._gesture = EdgeGesture(self, self._bridge, at, camera, edge)
        elif self.way == SHIFT:
            self._gesture = ShiftGesture(self, self._bridge, at, camera)
        else:
            centre = None
            if self.way == "circle" and event.modifiers() & Qt.KeyboardModifier.AltModifier:
                hit = self.picking.hit(at)
                centre = hit[1] if hit else None
            self._gesture = MoveGesture(self, self._bridge, at, camera, self.way, centre)
        if self._state.held:
            self._bridge.begin()

    def _pick_wall(self, at: QPointF) -> None:
        """Panes are walls here; beside the picture nothing is picked."""
        place = self.picking.wall_at(at)
        if place is not None:
            self.wall_picked.emit(place)
        elif self.frame_rect().contains(at):
            self._bridge.notices.trouble(tr("There is no wall there. Press on the wall to look past."))

    def _stand(self, at: QPointF, camera: Camera) -> None:
        scene, hit = self._studio.scene, self.picking.hit(at)
        if scene is None or hit is None:
            self._bridge.notices.trouble(tr("There is no floor there. Press on a floor seen in the picture."))
            return
        face, place = hit
        # Level and seen from above; how the model winds its triangles says nothing about that.
        if abs(scene.rays.face_normal(face)[2]) < FLOOR_UPRIGHT or place[2] >= camera.eye[2]:
            self._bridge.notices.trouble(tr("That is not a floor. Press on a floor seen in the picture."))
            return
        try:
            self._stood = StandGesture(
                self._workspace, (place[0], place[1]), place[2], self.eye_height_m, self.for_shot
            )
        except Refused as error:
            self._bridge.notices.trouble(error.sentence)
            return
        self._aim_stood(at, camera.heading_deg)

    def _aim_stood(self, at: QPointF, heading_deg: float) -> None:
        """The picture itself stays until the drag ends, so the place under the pointer is that of the old
        view."""
        stood = self._stood
        assert stood is not None
        x, y = stood.eye
        turned = math.radians(heading_deg)
        aim = (x + math.sin(turned) * 5, y + math.cos(turned) * 5)
        hit = self.picking.hit(at)
        if hit is not None and math.dist(hit[1][:2], (x, y)) > 0.3:
            aim = (hit[1][0], hit[1][1])
        try:
            stood.aim_at(aim)
        except Refused as error:
            self._stood = None
            stood.cancel()
            self._bridge.notices.trouble(error.sentence)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Move: the camera while held, the view while loose.  Shift keeps to one axis."""
        if self._gesture is not None:
            self._gesture.move(event)
        elif self._stood is not None:
            camera = self._state.shown
            self._aim_stood(event.position(), camera.heading_deg if camera is not None else 0.0)
        else:
            shape = EDGE_CURSORS.get(self.picking.edge_at(event.position()), Qt.CursorShape.ArrowCursor)
            self.setCursor(Qt.CursorShape.CrossCursor if self.standing else shape)

    def walked(self, before: Camera, after: Camera, way: str) -> Camera:
        """Walking keeps the eye's height over stairs and landings."""
        scene = self._studio.scene
        if not self.keep_on_floor or scene is None or way not in ("slide", "step", "circle"):
            return after
        return on_floor(before, after, scene.floors)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """One undo step for the whole drag; a press without a drag chooses the object under the pointer."""
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if self._stood is not None:
            stood, self._stood = self._stood, None
            stood.finish()
            self.arm(False)
            self.stood.emit()
            return
        gesture, self._gesture = self._gesture, None
        if gesture is None:
            return
        if gesture.moved:
            gesture.finish()
            self._rest.start()
        else:
            gesture.cancel()
            self._pick(event.position())

    def _pick(self, at: QPointF) -> None:
        scene, hit = self._studio.scene, self.picking.hit(at)
        if scene is None or not self.frame_rect().contains(at):
            return
        chosen = scene.model.objects[int(scene.owner[hit[0]])].id if hit is not None else ""
        self._state.choose_object("" if chosen == self._state.object_id else chosen)
        self.picked.emit(self._state.object_id)
        self.update()

    def arm(self, on: bool, for_shot: str = "") -> None:
        """Whether the next press stands a camera on a floor seen here; ``for_shot`` names a planned shot it
        is for."""
        self.standing, self.for_shot = on, for_shot if on else ""
        self.picking_wall = False
        self.update()

    def show_moved(self, moved: Camera, origin: Camera) -> None:
        """Show a camera moved: a preview while it is held, a look about while the view is loose."""
        if self._bridge.in_gesture:
            moved = stays_plumb(moved, self._bridge.project.limits.steepest_rise_deg)

            def edit(project: Project) -> Project:
                return change_camera(
                    project,
                    origin.id,
                    lambda c: (
                        replace(c.with_view(moved.pose, moved.lens), aim_m=moved.aim_m)
                        if c.aim_m != moved.aim_m
                        else c.with_view(moved.pose, moved.lens)
                    ),
                )

            self._bridge.preview(edit)
        elif not self._state.held:
            self._state.look(moved)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """The wheel steps forward and back (Shift: far, Control: a little), one undo step for a turn of the
        wheel."""
        factor = {Qt.KeyboardModifier.ShiftModifier: 4.0, Qt.KeyboardModifier.ControlModifier: 0.25}.get(
            event.modifiers(), 1.0
        )
        way = event.angleDelta().y() or event.angleDelta().x()

        def move(camera: Camera) -> Camera:
            far = math.copysign(0.1 * max(1.0, self.reach(camera) / 8.0) * factor, way)
            return self.walked(camera, step(camera, far), "step")

        if way:
            self.nudges.nudge(move)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows move the chosen way (Shift: larger); 1 to 5 choose it; comma and full stop change the speed;
        X and Y keep to one axis while they are held; Return chooses the object in the middle."""
        big = (5.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0) * self.speed
        arrows = {
            Qt.Key.Key_Left: (-1, 0),
            Qt.Key.Key_Right: (1, 0),
            Qt.Key.Key_Up: (0, 1),
            Qt.Key.Key_Down: (0, -1),
        }
        key = Qt.Key(event.key())
        if key in arrows:
            self.nudges.arrow(*arrows[key], big)
        elif Qt.Key.Key_1 <= key < Qt.Key.Key_1 + len(self.ways.offered):
            self.choose_way(self.ways.offered[key - Qt.Key.Key_1])
        elif key in (Qt.Key.Key_Comma, Qt.Key.Key_Period):
            self.change_speed(1 if key == Qt.Key.Key_Period else -1)
        elif key in (Qt.Key.Key_X, Qt.Key.Key_Y) and self.dragging:
            self.axis = "across" if key == Qt.Key.Key_X else "up"
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._pick(self.frame_rect().center())
        elif key == Qt.Key.Key_Escape and (self.dragging or self.standing or self.picking_wall):
            self._gesture = self._stood = None
            self._bridge.cancel()
            if self.standing or self.picking_wall:
                self.arm(False)
                self.stood.emit()
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        """The axis is kept only while its key is held."""
        if event.key() in (Qt.Key.Key_X, Qt.Key.Key_Y):
            self.axis = ""
        super().keyReleaseEvent(event)
