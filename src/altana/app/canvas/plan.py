"""The Plan: a real cut through the storey, with cameras that can be stood, dragged and aimed on it."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Protocol

from PySide6.QtCore import QPointF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent

from altana.app.canvas.gestures.plan import AimGesture, EyeAloneGesture, EyeGesture, LensGesture, PlanGesture
from altana.app.canvas.gestures.sheet import (
    GRIP_PX,
    BoundGesture,
    CutGesture,
    FarGesture,
    Grip,
    NearGesture,
    SheetGesture,
    free,
)
from altana.app.canvas.gestures.stand import StandGesture
from altana.app.canvas.marks import apart
from altana.app.canvas.plan_sheet import PlanSheet
from altana.app.theme.lengths import length
from altana.app.theme.words import tr
from altana.core.camera.wall_cut import WallCut
from altana.core.conventions import Vec2, Vec3
from altana.core.edits.cameras import SHORTEST_AIM_M, aim_at, change_camera
from altana.core.errors import Refused
from altana.core.project import Camera
from altana.core.standing import eye_over, ground_at


class Hands(Protocol):
    """Who answers to presses on a plan that shows something other than cameras: a route and its places."""

    def over(self, at: QPointF, place: Vec2) -> bool:
        """Whether something lies here that can be taken."""

    def take(self, at: QPointF, place: Vec2, event: QMouseEvent) -> bool:
        """Take what lies here; False where there is nothing."""

    def carry(self, place: Vec2) -> None:
        """Drag what was taken."""

    def put_down(self) -> None:
        """The end of a drag."""

    def twice(self, at: QPointF, place: Vec2) -> None:
        """Pressed twice."""


class PlanView(PlanSheet):
    """The plan of one storey, in the hands of its user.  ``standing`` armed: the next press stands a
    camera."""

    stood = Signal()
    place_clicked = Signal(float, float, float)
    wall_picked = Signal(object)

    #: While an overlay is shown, who answers to presses on it.
    hands: Hands | None = None
    _in_hand = False
    #: Where the last press was, and what it took: pressing there again takes the next thing.
    _pressed_before: tuple[QPointF, object] | None = None

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """A second press: what shows here answers to it."""
        if self.hands is not None and not self.drawing_route and event.button() == Qt.MouseButton.LeftButton:
            self.hands.twice(event.position(), self.to_world(event.position()))
        else:
            super().mouseDoubleClickEvent(event)

    def _grips(self, camera: Camera) -> list[Grip]:
        """What can be dragged of the shown camera."""
        grips = [
            Grip(self.to_screen(*camera.eye[:2]), EyeGesture),
            Grip(self.to_screen(*camera.aim[:2]), AimGesture),
        ]
        grips += [Grip(point, LensGesture) for point in self.cameras.edge_points(camera)]
        for gesture, depth in ((NearGesture, camera.near), (FarGesture, camera.far)):
            if depth is not None:
                grips.append(Grip(self.cameras.bounds.on_axis(camera, depth), gesture))
        for number, cut in enumerate(camera.wall_cuts):
            if cut.on:
                a, b, _ = self.cameras.bounds.cut_ends(cut)
                grips.append(Grip((a + b) / 2, CutGesture, number))
        return grips

    def _under(self, at: QPointF, cameras_only: bool = False) -> list[Grip | Camera]:
        """Everything that can be taken at a place, nearest first: grips of the shown camera, and other
        cameras."""
        if self.overlay is not None:
            return []
        candidates: list[tuple[float, Grip | Camera]] = []
        camera = self._state.shown
        if camera is not None and not cameras_only and self._state.held:
            candidates += [(grip.away(at), grip) for grip in self._grips(camera)]
        for other in self._bridge.project.cameras:
            if other.id == self._state.active_id or other.hidden:
                continue
            away = apart(self.to_screen(*other.eye[:2]), at)
            # The same storey goes before others that lie over it.
            candidates.append((away + (0.0 if self._same_storey(other) else 3.0), other))
        return [item for away, item in sorted(candidates, key=lambda pair: pair[0]) if away <= GRIP_PX]

    def _take(self, at: QPointF, place: Vec2, event: QMouseEvent) -> bool:
        """Take what lies here, or the next thing where the last press was here too."""
        items = self._under(at, bool(event.modifiers() & Qt.KeyboardModifier.AltModifier))
        if not items:
            self._pressed_before = None
            return False
        keys = [item.key if isinstance(item, Grip) else item.id for item in items]
        before = self._pressed_before
        index = 0
        if before is not None and apart(before[0], at) < 4 and before[1] in keys and len(keys) > 1:
            index = (keys.index(before[1]) + 1) % len(keys)
        item = items[index]
        if isinstance(item, Camera):
            self._state.select(item.id, bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier))
            # What was taken is now the active camera's eye; the next press here goes on from there.
            self._pressed_before = (at, (EyeGesture, 0))
            return True
        self._pressed_before = (at, item.key)
        active = self._state.active
        if active is not None:
            alone = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self.gesture = self._taken(item, active, place, alone)
        return True

    def _taken(self, grip: Grip, camera: Camera, place: Vec2, alone: bool) -> SheetGesture:
        """The gesture of a grip; ``alone``: the eye without its aim."""
        kind = EyeAloneGesture if alone and grip.gesture is EyeGesture else grip.gesture
        if issubclass(kind, CutGesture):
            return kind(self, self._bridge, camera, place, grip.number)
        if issubclass(kind, PlanGesture | BoundGesture):
            return kind(self, self._bridge, camera, place)
        return kind(self._bridge, camera, place)

    def depth_at(self, camera: Camera, place: Vec2) -> float:
        """How far ahead of the eye a place of the sheet lies, metres."""
        heading = math.radians(camera.heading_deg)
        east, north = place[0] - camera.eye[0], place[1] - camera.eye[1]
        return east * math.sin(heading) + north * math.cos(heading)

    def along_normal(self, camera: Camera, cut: WallCut, run: Vec2) -> float:
        """How far a drag on the sheet goes along the normal of a wall cut, metres."""
        return float(run[0] * cut.normal[0] + run[1] * cut.normal[1])

    def eye_at(self, camera: Camera, place: Vec2) -> Vec3:
        """The camera's eye over another place, as high above the floor that is really there."""
        scene = self._studio.scene
        if scene is None or self.storey is None:
            return (*place, camera.eye[2])
        return eye_over(scene.floors, camera.eye, place, self.storey.elevation_m)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Stand a camera, take a handle, choose a camera, or move the sheet.

        Pressing again at the same place takes the next thing under the pointer; with Alt only cameras are
        taken. With Shift a camera is stood where nothing lies, without arming anything first.
        """
        at = event.position()
        place = self.to_world(at)
        if event.button() == Qt.MouseButton.LeftButton:
            if self._state.sun_shown and self.sun.take(at):
                return
            if self.drawing_route and self.storey is not None:
                self.place_clicked.emit(place[0], place[1], self.storey.elevation_m)
                return
            if self.hands is not None and self.hands.take(at, place, event):
                self._in_hand = True
                return
            if self.standing:
                self._stand(self.holding.place(place, self._scale, free(event), off_wall=True))
                return
            if self.picking_wall and self._state.shown is not None:
                self.wall_picked.emit((*place, self._state.shown.eye[2]))
                return
            if self._take(at, place, event):
                return
            if self.hands is None and event.modifiers() == Qt.KeyboardModifier.ShiftModifier:
                self._stand(self.holding.place(place, self._scale, free(event), off_wall=True))
                return
        self._pan = (at, self.centre)

    def stand_in_middle(self) -> None:
        """Stand a camera in the middle of the sheet, looking north: standing without a pointer."""
        if not self.standing or self._stood is not None:
            return
        self._stand(self.centre)
        self._finish_standing()

    def _stand(self, place: Vec2) -> None:
        scene = self._studio.scene
        if scene is None or self.storey is None:
            return
        try:
            self._stood = StandGesture(
                self._workspace, place, self.storey.elevation_m, self.eye_height_m, self.for_shot
            )
        except Refused as error:
            self._bridge.notices.trouble(error.sentence)
            return
        self._aim_stood(place)

    def _aim_stood(self, aim: Vec2) -> None:
        stood = self._stood
        assert stood is not None
        if math.dist(aim, stood.eye) < SHORTEST_AIM_M:
            aim = (stood.eye[0], stood.eye[1] + 3.0)
        stood.aim_at(aim)
        # The Frame shows what the new camera sees, while it is aimed.
        if stood.created and self._state.active_id != stood.created:
            self._state.select(stood.created)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Go on with what the press began."""
        at = event.position()
        place = self.to_world(at)
        self.pointer = place
        self._say_place(place)
        if self.sun.dragging:
            self.sun.drag(at)
        elif self._in_hand and self.hands is not None:
            self.hands.carry(self.holding.place(place, self._scale, free(event)))
        elif self._stood is not None:
            spot = self.holding.place(place, self._scale, free(event))
            self._aim_stood(self.holding.aim(self._stood.eye, spot, free(event)))
        elif self.gesture is not None:
            self.gesture.move(place, event)
        elif self._pan is not None:
            self._pan_to(at)
        else:
            self.holding.by = None
            armed = self.standing or self.drawing_route or self.picking_wall
            if self.standing:
                self.holding.place(place, self._scale, free(event))
            self.setCursor(
                Qt.CursorShape.CrossCursor
                if armed
                else Qt.CursorShape.PointingHandCursor
                if self._under(at) or (self.hands is not None and self.hands.over(at, place))
                else Qt.CursorShape.ArrowCursor
            )
            self.update()

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        """One undo step for the whole drag."""
        self._pan = None
        self.sun.put_down()
        self.holding.by = None
        if self._in_hand and self.hands is not None:
            self._in_hand = False
            self.hands.put_down()
        self._finish_standing()
        if self.gesture is not None:
            if self.gesture.moved:
                # Only presses that follow each other go through what lies under the pointer.
                self._pressed_before = None
            self.let_go()
            self.update()

    def _finish_standing(self) -> None:
        stood, self._stood = self._stood, None
        if stood is not None:
            stood.finish()
            self.arm(False)
            self.stood.emit()
            self.update()

    def arm(self, on: bool, for_shot: str = "") -> None:
        """Whether the next press stands a camera; ``for_shot`` names a planned shot that it is for."""
        self.standing, self.for_shot = on, for_shot if on else ""
        self.picking_wall = False
        self.holding.by = None
        self.setCursor(Qt.CursorShape.CrossCursor if on else Qt.CursorShape.ArrowCursor)
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Escape takes back a drag or the armed tool; F fits; plus and minus zoom; brackets move the cut;
        arrows move the eye by 10 cm (Shift: 1 m, Control: the aim instead of the eye)."""
        key = event.key()
        moves = {
            Qt.Key.Key_Left: (-1, 0),
            Qt.Key.Key_Right: (1, 0),
            Qt.Key.Key_Up: (0, 1),
            Qt.Key.Key_Down: (0, -1),
        }
        if key == Qt.Key.Key_Escape:
            self.drop_drag()
            if self._stood is not None:
                self._stood.cancel()
                self._stood = None
            self.arm(False)
            self.stood.emit()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.standing:
            self.stand_in_middle()
        elif key == Qt.Key.Key_F:
            self.fit()
        elif key in (Qt.Key.Key_BracketLeft, Qt.Key.Key_BracketRight):
            self.set_cut(self.cut_above_m + (0.1 if key == Qt.Key.Key_BracketRight else -0.1))
        elif key in moves and self._state.active is not None and self._state.held:
            self._move_by_key(moves[Qt.Key(key)], event)
        elif not self._zoom_key(event):
            super().keyPressEvent(event)

    def _move_by_key(self, move: tuple[int, int], event: QKeyEvent) -> None:
        active = self._state.active
        assert active is not None
        far = 1.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 0.1
        dx, dy = move[0] * far, move[1] * far
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            ax, ay, _ = active.aim
            self._bridge.apply(tr("Aim"), lambda p: aim_at(p, active.id, (ax + dx, ay + dy, active.eye[2])))
            return
        place = (active.eye[0] + dx, active.eye[1] + dy)
        self._bridge.apply(
            tr("Move eye"),
            lambda p: change_camera(p, active.id, lambda c: replace(c, eye=self.eye_at(c, place))),
        )

    def _say_place(self, place: Vec2) -> None:
        scene = self._studio.scene
        if scene is None or self.storey is None:
            return
        ground = ground_at(scene.floors, place, self.storey.elevation_m) if not self.dragging else None
        height = f" z {length(ground.floor_m)}" if ground is not None else ""
        self.pointed.emit(f"{self.storey.name} · x {place[0]:.2f} y {place[1]:.2f}{height}")
