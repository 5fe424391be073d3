"""The Plan: a real cut through the storey, with cameras that can be stood, dragged and aimed on it."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Protocol

from PySide6.QtCore import QPointF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent

from altana.app.canvas.gestures.stand import StandGesture
from altana.app.canvas.plan_sheet import PlanSheet
from altana.app.canvas.sheet import HANDLE_PX, HOLD_PX, Drag, apart
from altana.core.conventions import Vec2, Vec3
from altana.core.edits.cameras import aim_at, change_camera, move_eye, set_camera
from altana.core.errors import Refused
from altana.core.geometry.snapping import Snap
from altana.core.lens import focal_for_edge
from altana.core.project import Camera, Project
from altana.core.standing import clearances, floor_under, ground_at

SHORTEST_AIM_M = 0.25
#: The eye keeps this far from a wall face that holds it.
OFF_WALL_M = 0.02
LABELS = {
    "eye": "Move eye",
    "eye alone": "Move eye alone",
    "aim": "Aim",
    "edge": "Change lens",
    "near": "Hide nearer than",
    "far": "Hide beyond",
    "cut": "Move wall cut",
}


class Hands(Protocol):
    """Who answers to presses on a plan that shows something other than cameras: a route and its places."""

    def take(self, at: QPointF, place: Vec2, event: QMouseEvent) -> bool:
        """Take what lies here; False where there is nothing."""

    def carry(self, place: Vec2) -> None:
        """Drag what was taken."""

    def put_down(self) -> None:
        """The end of a drag."""

    def twice(self, at: QPointF, place: Vec2) -> None:
        """Pressed twice."""


class PlanView(PlanSheet):
    """The plan of one storey, in the hands of its user.  ``standing`` armed: the next press stands a camera."""

    stood = Signal()
    place_clicked = Signal(float, float, float)
    wall_picked = Signal(object)

    #: While an overlay is shown, who answers to presses on it.
    hands: Hands | None = None
    _in_hand = False

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """A second press: what shows here answers to it."""
        if self.hands is not None and not self.drawing_route and event.button() == Qt.MouseButton.LeftButton:
            self.hands.twice(event.position(), self.to_world(event.position()))
        else:
            super().mouseDoubleClickEvent(event)

    def _grips(self, camera: Camera) -> list[tuple[str, QPointF]]:
        grips = [("eye", self.to_screen(*camera.eye[:2])), ("aim", self.to_screen(*camera.aim[:2]))]
        grips += [("edge", point) for point in self.edge_points(camera)]
        if camera.near is not None:
            grips.append(("near", self.on_axis(camera, camera.near)))
        if camera.far is not None:
            grips.append(("far", self.on_axis(camera, camera.far)))
        for index, cut in enumerate(camera.wall_cuts):
            if cut.on:
                a, b, _ = self._cut_ends(cut)
                grips.append((f"cut {index}", (a + b) / 2))
        return grips

    def _under(self, at: QPointF, cameras_only: bool = False) -> list[str]:
        """Everything that can be taken at a place, nearest first: grips of the active camera, then other cameras."""
        found: list[tuple[float, str]] = []
        camera = self._state.shown
        if self.overlay is not None:
            return []
        if camera is not None and not cameras_only and self._state.held:
            found += [(apart(p, at), kind) for kind, p in self._grips(camera)]
        for other in self._bridge.project.cameras:
            if other.id == self._state.active_id or other.hidden:
                continue
            away = apart(self.to_screen(*other.eye[:2]), at)
            # The same storey goes before others that lie over it.
            found.append((away + (0.0 if self._same_storey(other) else 3.0), f"camera:{other.id}"))
        return [name for away, name in sorted(found, key=lambda item: item[0]) if away <= HANDLE_PX]

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Stand a camera, take a handle, choose a camera, or move the sheet.

        Pressing again at the same place takes the next thing under the pointer; with Alt only cameras are taken.
        """
        at = event.position()
        place = self.to_world(at)
        if event.button() == Qt.MouseButton.LeftButton:
            if self.drawing_route and self.storey is not None:
                self.place_clicked.emit(place[0], place[1], self.storey.elevation_m)
                return
            if self.hands is not None and self.hands.take(at, place, event):
                self._in_hand = True
                return
            if self.standing:
                self._stand(self._hold(place, event, off_wall=True))
                return
            if self.picking_wall and self._state.shown is not None:
                self.wall_picked.emit((*place, self._state.shown.eye[2]))
                return
            if self._take(at, place, event):
                return
        self._pan = (at, self._centre)

    def _take(self, at: QPointF, place: Vec2, event: QMouseEvent) -> bool:
        names = self._under(at, bool(event.modifiers() & Qt.KeyboardModifier.AltModifier))
        if not names:
            self._pressed_before = None
            return False
        before = self._pressed_before
        name = names[0]
        if before is not None and apart(before[0], at) < 4 and before[1] in names and len(names) > 1:
            name = names[(names.index(before[1]) + 1) % len(names)]
        active = self._state.active
        if name.startswith("camera:"):
            self._state.select(name[7:], bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier))
            # What was taken is now the active camera's eye; the next press here goes on from there.
            self._pressed_before = (at, "eye")
            return True
        self._pressed_before = (at, name)
        if active is not None:
            alone = name == "eye" and event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            self._drag = Drag("eye alone" if alone else name, active, place)
            self._bridge.begin()
        return True

    def _hold(self, place: Vec2, event: QMouseEvent, off_wall: bool = False) -> Vec2:
        """The place, or what it is held by: corners, wall faces and centre lines; Control lets go."""
        self.held_on = None
        if self.snaps is None or event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            return place
        held = self.snaps.hold(place, HOLD_PX / self._scale)
        if held is None:
            return place
        self.held_on = held
        if not off_wall:
            return held.place
        away = math.dist(place, held.place)
        if away < 1e-6:
            return held.place
        # An eye does not stand in the wall it is held by.
        step = OFF_WALL_M / away
        return (
            held.place[0] + (place[0] - held.place[0]) * step,
            held.place[1] + (place[1] - held.place[1]) * step,
        )

    def stand_in_middle(self) -> None:
        """Stand a camera in the middle of the sheet, looking north: standing without a pointer."""
        if not self.standing or self._stood is not None:
            return
        self._stand(self._centre)
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
        self._hover = place
        self._say_place(place)
        if self._in_hand and self.hands is not None:
            self.hands.carry(self._hold(place, event))
        elif self._stood is not None:
            free = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
            self._aim_stood(self._aim_place(self._stood.eye, self._hold(place, event), free))
        elif self._drag is not None:
            self._drag.moved = True
            self._drag_to(place, event)
        elif self._pan is not None:
            self._pan_to(at)
        else:
            self.held_on = None
            armed = self.standing or self.drawing_route or self.picking_wall
            if self.standing:
                self._hold(place, event)
            self.setCursor(
                Qt.CursorShape.CrossCursor
                if armed
                else Qt.CursorShape.PointingHandCursor
                if self._under(at)
                else Qt.CursorShape.ArrowCursor
            )
            self.update()

    def _drag_to(self, place: Vec2, event: QMouseEvent) -> None:
        drag = self._drag
        assert drag is not None
        camera = drag.camera
        free = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        if drag.kind == "eye":
            eye = self._eye_at(camera, self._between(camera, self._hold(place, event, off_wall=True), free))
            self._bridge.preview(lambda p: move_eye(p, camera.id, eye))
        elif drag.kind == "eye alone":
            eye = self._eye_at(camera, self._hold(place, event, off_wall=True))
            self._bridge.preview(lambda p: _eye_alone(p, camera, eye))
        elif drag.kind == "aim":
            target = self._aim_place((camera.eye[0], camera.eye[1]), self._hold(place, event), free)
            if math.dist(target, camera.eye[:2]) > SHORTEST_AIM_M:
                self._bridge.preview(lambda p: aim_at(p, camera.id, (*target, camera.eye[2])))
        elif drag.kind in ("near", "far"):
            self._drag_bound(drag.kind, camera, place)
        elif drag.kind.startswith("cut"):
            cut = camera.wall_cuts[int(drag.kind[4:])]
            run = (place[0] - drag.start[0]) * cut.normal[0] + (place[1] - drag.start[1]) * cut.normal[1]
            self._preview_cut(camera, int(drag.kind[4:]), cut.offset_m + float(run))
        else:
            focal = focal_for_edge(camera, place)
            if focal is not None:
                self._bridge.preview(lambda p: set_camera(p, camera.id, focal_mm=focal))

    def _aim_place(self, eye: Vec2, place: Vec2, free: bool) -> Vec2:
        """The aim, its direction held by the storey's grid of angles unless something nearer holds it."""
        if free or self.held_on is not None or self.snaps is None:
            return place
        length = math.dist(eye, place)
        if length < SHORTEST_AIM_M:
            return place
        heading = math.degrees(math.atan2(place[0] - eye[0], place[1] - eye[1])) % 360.0
        held = math.radians(self.snaps.hold_heading(heading))
        return (eye[0] + math.sin(held) * length, eye[1] + math.cos(held) * length)

    def _between(self, camera: Camera, place: Vec2, free: bool) -> Vec2:
        """The middle between the side walls holds the eye when it comes near."""
        scene = self._studio.scene
        if free or self.held_on is not None or scene is None:
            return place
        _, right, _, left = clearances(scene.rays, (*place, camera.eye[2]), camera.heading_deg)
        off = (right - left) / 2
        if not math.isfinite(off) or abs(off) * self._scale > HOLD_PX * 0.7 or left + right > 40.0:
            return place
        heading = math.radians(camera.heading_deg)
        held = (place[0] + math.cos(heading) * off, place[1] - math.sin(heading) * off)
        self.held_on = Snap(held, "between walls")
        return held

    def _drag_bound(self, kind: str, camera: Camera, place: Vec2) -> None:
        heading = math.radians(camera.heading_deg)
        depth = (place[0] - camera.eye[0]) * math.sin(heading) + (place[1] - camera.eye[1]) * math.cos(
            heading
        )
        self._preview_bound(kind, camera, depth)

    def _eye_at(self, camera: Camera, place: Vec2) -> Vec3:
        """The eye keeps its height above the floor that is really under it."""
        scene = self._studio.scene
        if scene is None or self.storey is None:
            return (*place, camera.eye[2])
        here = floor_under(scene.floors, camera.eye)
        there = ground_at(scene.floors, place, self.storey.elevation_m)
        if here is None or there is None:
            return (*place, camera.eye[2])
        return (*place, there.floor_m + (camera.eye[2] - here))

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        """One undo step for the whole drag."""
        self._pan = None
        self.held_on = None
        if self._in_hand and self.hands is not None:
            self._in_hand = False
            self.hands.put_down()
        self._finish_standing()
        if self._drag is not None:
            self._finish()

    def _finish(self) -> None:
        drag, self._drag = self._drag, None
        assert drag is not None
        if drag.moved:
            # Only presses that follow each other go through what lies under the pointer.
            self._pressed_before = None
        self._bridge.commit(LABELS[drag.kind.split()[0]] if drag.kind not in LABELS else LABELS[drag.kind])
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
        self.held_on = None
        self.setCursor(Qt.CursorShape.CrossCursor if on else Qt.CursorShape.ArrowCursor)
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Escape takes back a drag or the armed tool; F fits; plus and minus zoom; brackets move the cut; arrows move the eye by 10 cm (Shift: 1 m, Control: the aim instead of the eye)."""
        key = event.key()
        moves = {
            Qt.Key.Key_Left: (-1, 0),
            Qt.Key.Key_Right: (1, 0),
            Qt.Key.Key_Up: (0, 1),
            Qt.Key.Key_Down: (0, -1),
        }
        if key == Qt.Key.Key_Escape:
            self._drag = self._stood = None
            self._bridge.cancel()
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
            self._bridge.apply("Aim", lambda p: aim_at(p, active.id, (ax + dx, ay + dy, active.eye[2])))
            return
        place = (active.eye[0] + dx, active.eye[1] + dy)
        self._bridge.apply(
            "Move eye",
            lambda p: change_camera(p, active.id, lambda c: replace(c, eye=self._eye_at(c, place))),
        )

    def _say_place(self, place: Vec2) -> None:
        scene = self._studio.scene
        if scene is None or self.storey is None:
            return
        ground = ground_at(scene.floors, place, self.storey.elevation_m) if not self.dragging else None
        height = f" z {ground.floor_m:.2f} m" if ground is not None else ""
        self.pointed.emit(f"{self.storey.name} · x {place[0]:.2f} y {place[1]:.2f}{height}")


def _eye_alone(project: Project, camera: Camera, eye: Vec3) -> Project:
    """The eye elsewhere, the aim where it was; the tilt is kept, because only the plan was touched."""

    def change(current: Camera) -> Camera:
        aim = camera.aim
        moved = replace(camera, eye=eye)
        level = math.dist(eye[:2], aim[:2])
        if level < SHORTEST_AIM_M:
            return current
        heading = math.degrees(math.atan2(aim[0] - eye[0], aim[1] - eye[1])) % 360.0
        return replace(
            moved, heading_deg=heading, aim_m=level / max(math.cos(math.radians(camera.tilt_deg)), 0.05)
        )

    return change_camera(project, camera.id, change)
