"""The Frame: the camera's exact picture in a neutral well, with guides, formats and the five ways to move."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
    QShowEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QButtonGroup, QVBoxLayout, QWidget

from altana.app.canvas.aids import hatched, paint_gaps, paint_vanishing, paint_verticals
from altana.app.canvas.gestures.frame import EdgeGesture, FrameGesture, MoveGesture, ShiftGesture
from altana.app.canvas.gestures.stand import StandGesture
from altana.app.canvas.guides import paint_guides
from altana.app.canvas.loose import LooseRibbon
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import button
from altana.app.workspace.studio import FACTS_PX
from altana.app.workspace.workspace import Workspace
from altana.core.camera.bounds import look
from altana.core.camera.view import Lens, View
from altana.core.conventions import STANDING_M, Vec3
from altana.core.edits.cameras import at_rise_limit, change_camera, stays_plumb
from altana.core.errors import Refused
from altana.core.geometry.sight import passed_faces
from altana.core.moving import WAYS, by_pointer, step, turn
from altana.core.picture_key import PictureKey, camera_key
from altana.core.project import Camera, Light, Project
from altana.core.staging import Staging, object_points
from altana.core.standing import on_floor
from altana.render.renderer import COARSE

#: The waiting time after the last movement before the picture sharpens.
REST_MS = 90
SPEEDS = (0.1, 0.25, 0.5, 1.0, 2.0, 4.0)
EDGE_PX = 5.0
#: A surface is level when the upright part of its normal is at least this.
FLOOR_UPRIGHT = 0.7
#: Hatched aids are looked at this wide.
AIDED_PX = 640
#: The line below the picture that says what it is for.
INTENT_PX = 24
WAY_TIPS = {
    "turn": "Turn: rotate in place (key 1)",
    "slide": "Slide: sideways (key 2)",
    "lift": "Lift: up and down (key 3)",
    "step": "Step: forward and back (key 4)",
    "circle": "Circle: around what the camera looks at; with Alt around the point under the pointer (key 5)",
}
#: The sixth way moves no camera: the picture within the lens.
SHIFT = "rise"
WAY_TIPS[SHIFT] = "Rise: shift the lens up or down, or across, with the camera where it is (key 6)"
EDGE_CURSORS = {
    "left": Qt.CursorShape.SizeHorCursor,
    "right": Qt.CursorShape.SizeHorCursor,
    "top": Qt.CursorShape.SizeVerCursor,
    "bottom": Qt.CursorShape.SizeVerCursor,
}
SURROUND_SHADE = QColor(20, 20, 18, 165)


class FrameView(QWidget):
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
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__()
        self._workspace = workspace
        self._bridge, self._state, self._studio, self._tokens = bridge, state, studio, tokens
        self._channel = channel
        #: On the Walk desk the picture is a film frame.
        self._walking = walking
        #: Where what pictures consist of is noted, on the desk that asks for it.
        self._book = workspace.book if checking else None
        #: Which aids are shown over the picture (see canvas/aids.py).
        self.aids: set[str] = set()
        self._hatches: dict[str, tuple[object, QImage]] = {}
        #: The next press picks a wall for a wall cut.
        self.picking_wall = False
        #: A plain Frame has no ribbon: on the Model desk everything is looking about.
        self._plain = plain
        self._image: QImage | None = None
        #: What the picture in sight is of.
        self._image_key: PictureKey | None = None
        self._look = ""
        self._ordered_key: PictureKey | None = None
        self._latest = 0
        #: The drag that goes on, or the camera that is being stood.
        self._gesture: FrameGesture | None = None
        self._stood: StandGesture | None = None
        self._keys_moving = False
        self.way = "turn"
        self.speed = 1.0
        self.guides_on = True
        self.surround = False
        self.keep_on_floor = True
        self.standing = False
        self.for_shot = ""
        self.eye_height_m = STANDING_M
        self.axis = ""
        self.override: Camera | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setMinimumSize(220, 150)
        self.setAccessibleName("Frame")
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self._rest = self._timer(REST_MS, lambda: self._order("full"))
        self._key_rest = self._timer(400, self._end_keys)
        self._ways = self._way_buttons()
        self.ribbon = LooseRibbon(workspace, self)
        state.shown_changed.connect(self.refresh)
        state.hiding_changed.connect(self._again)
        bridge.left_out_changed.connect(self._again)
        studio.relit.connect(self._again)
        studio.picture.connect(self._arrived)
        bridge.light_changed.connect(self._again)

    def _timer(self, wait_ms: int, action: Callable[[], None]) -> QTimer:
        made = QTimer(self)
        made.setSingleShot(True)
        made.setInterval(wait_ms)
        made.timeout.connect(action)
        return made

    # ------------------------------------------------------------------ overlays

    def _way_buttons(self) -> QWidget:
        holder = QWidget(self)
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(5)
        group = QButtonGroup(holder)
        for way in self._offered():
            if way == SHIFT:
                # It moves the picture in the lens, not the camera: a little apart.
                column.addSpacing(7)
            made = button(way.capitalize(), "onwell", WAY_TIPS[way], checkable=True)
            made.clicked.connect(lambda _=False, chosen=way: self.choose_way(chosen))
            made.setChecked(way == self.way)
            group.addButton(made)
            column.addWidget(made)
        self._way_group = group
        return holder

    def _offered(self) -> tuple[str, ...]:
        """The five ways to move, and with a camera the lens's own."""
        return WAYS if self._plain or self._walking else (*WAYS, SHIFT)

    def choose_way(self, way: str) -> None:
        """Take one of the five ways to move."""
        self.way = way
        for index, item in enumerate(self._way_group.buttons()):
            item.setChecked(self._offered()[index] == way)

    def change_speed(self, faster: int) -> None:
        """Move in larger (1) or smaller (-1) steps."""
        index = SPEEDS.index(self.speed) + faster
        self.speed = SPEEDS[min(len(SPEEDS) - 1, max(0, index))]
        self.speed_changed.emit()
        self.update()

    def _show_ribbon(self, camera: Camera | None) -> None:
        loose = not self._plain and self.override is None and not self._state.held
        if self.ribbon.follow(camera if loose else None):
            self._place_overlays()

    # ------------------------------------------------------------------ pictures

    @property
    def camera(self) -> Camera | None:
        """What is shown.  A plain Frame shows as much as it has room for."""
        shown = self.override or self._state.shown
        if shown is not None and self._plain:
            return replace(shown, width_px=max(16, self.width()), height_px=max(16, self.height()))
        return shown

    def frame_rect(self) -> QRectF:
        """Where the exact picture lies in the widget."""
        camera = self.camera
        side, margin = 72.0, 14.0
        wide, high = self.width() - 2 * side, self.height() - 2 * margin
        if self.width() < 420:
            # A small Frame has its buttons over the picture.
            wide = self.width() - 2 * margin
        if camera is None or wide <= 0 or high <= 0:
            return QRectF()
        if self._plain:
            return QRectF(self.rect())
        if self.surround:
            wide, high = wide * 0.86, high * 0.86
        if self._intent():
            high -= INTENT_PX
        scale = min(wide / camera.width_px, high / camera.height_px)
        w, h = round(camera.width_px * scale), round(camera.height_px * scale)
        raised = INTENT_PX / 2 if self._intent() else 0
        return QRectF(round((self.width() - w) / 2), round((self.height() - h) / 2 - raised), w, h)

    def _intent(self) -> str:
        """What the picture is for, said below it where there is room."""
        camera = self.camera
        return (
            camera.intent
            if camera is not None and self.override is None and not self._plain and self.width() >= 420
            else ""
        )

    def _again(self) -> None:
        self._image_key = None
        self.refresh()

    def toggle_guides(self) -> None:
        """Guides over the Frame, or not."""
        self.guides_on = not self.guides_on
        self.update()

    def toggle_surround(self) -> None:
        """Show what lies outside the frame, dimmed, or only the frame."""
        self.surround = not self.surround
        self._again()

    def toggle_floor(self) -> None:
        """Whether walking in the Frame keeps the eye's height above the floor."""
        self.keep_on_floor = not self.keep_on_floor
        kept = "Walking keeps the eye's height above the floor."
        self._bridge.notices.note(
            kept if self.keep_on_floor else "Walking stays level, whatever the floor does."
        )

    def refresh(self) -> None:
        """Show the camera as it is now: coarse at once while it moves, sharp when it rests."""
        camera = self.camera
        self._show_ribbon(camera)
        self._ways.setVisible(camera is not None and self.override is None and self.width() >= 420)
        if camera is not None and self.key_of(camera) != self._image_key:
            moving = (
                self.dragging or self._bridge.in_gesture or self._keys_moving or self.override is not None
            )
            self._order("coarse" if moving else "full")
            if moving:
                self._rest.start()
        self.update()

    def key_of(self, camera: Camera) -> PictureKey:
        """What the picture of a camera depends on here."""
        scenery = replace(self._studio.scenery, light=self._light())
        return camera_key(camera, scenery, self._state.hiding)

    @property
    def current(self) -> bool:
        """Whether the picture in sight is of what is shown now, and at rest."""
        camera = self.camera
        return camera is not None and self._look == "still" and self._image_key == self.key_of(camera)

    def _view(self, camera: Camera, rect: QRectF, divisor: float) -> View:
        """The picture to order: the exact frame, or more around it when the surround is shown."""
        ratio = self.devicePixelRatioF()
        width, height = (
            max(16, round(rect.width() * ratio / divisor)),
            max(16, round(rect.height() * ratio / divisor)),
        )
        view = camera.view(width, height)
        if not self.surround or self.override is not None:
            return view
        whole_w, whole_h = (
            max(16, round(self.width() * ratio / divisor)),
            max(16, round(self.height() * ratio / divisor)),
        )
        # The frame need not lie in the middle of the well; the larger picture is shifted to meet it.
        raised = (self.height() / 2 - rect.center().y()) * ratio / divisor * view.sensor_mm[0] / width
        lens = Lens(
            camera.focal_mm, view.sensor_mm[0] * whole_w / width, camera.rise_mm - raised, camera.cross_mm
        )
        return replace(view, lens=lens, width_px=whole_w, height_px=whole_h, keep_sensor_height=False)

    def _order(self, look: str) -> None:
        camera = self.camera
        rect = self.frame_rect()
        if camera is None or rect.isEmpty() or not self.isVisible():
            return
        urgency = {"coarse": 0, "full": 1, "still": 3}[look]
        view = self._view(camera, rect, COARSE.divisor if look == "coarse" else 1.0)
        staging = self._staging(camera)
        self._latest = self._studio.order_picture(
            self._channel, look, view, self._light(), camera.ev, camera.inside, urgency, staging
        )
        self._ordered_key = self.key_of(camera)

    def _light(self) -> Light:
        """The sun of the picture."""
        return self._bridge.project.light

    def _staging(self, camera: Camera) -> Staging:
        """What the picture shows: a film frame what its walk leaves out, anything else what its camera does."""
        project, hiding = self._bridge.project, self._state.hiding
        if self._walking:
            return self._studio.walk_staging(project, self._state.walk, hiding)
        return self._studio.staging(project, camera, hiding)

    def _arrived(self, channel: str, revision: int, image: QImage, look: str) -> None:
        if channel != self._channel:
            return
        # A sharp picture of where the camera no longer is would be worse than the coarse one shown.
        if look != "coarse" and revision != self._latest:
            return
        self._image, self._look = image, look
        if revision == self._latest:
            self._image_key = self._ordered_key
            if look == "full" and not self._bridge.in_gesture:
                self._order("still")
                if self.override is None:
                    self._ask_facts()
        self.update()

    def _ask_facts(self) -> None:
        camera = self.camera
        if camera is not None and not self._plain:
            wide = AIDED_PX if self.aids & {"cut faces", "gaps"} else FACTS_PX
            revision = self._studio.order_facts(
                camera.id, camera.view(), self._studio.staging(self._bridge.project, camera), wide
            )
            if self._book is not None:
                self._book.asked(camera, revision)

    # ------------------------------------------------------------------ painting

    def paintEvent(self, _: QPaintEvent) -> None:
        """The well, the picture, the guides."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self._tokens.well))
        rect = self.frame_rect()
        camera = self.camera
        if camera is None:
            self._say(
                painter,
                "Stand a camera: press “Stand a camera”, then press on the plan and drag to what it looks at.",
            )
        elif self._image is None:
            painter.fillRect(rect, QColor("#8A8A8A"))
            self._say(painter, "Drawing the picture…")
        else:
            self._picture(painter, rect, camera)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(QColor(self._tokens.band), 1))
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))
            painter.setPen(QPen(QColor(self._tokens.band_text), 1))
            painter.drawRect(self.rect().adjusted(3, 3, -4, -4))
        painter.end()

    def _picture(self, painter: QPainter, rect: QRectF, camera: Camera) -> None:
        assert self._image is not None
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        around = self.surround and self.override is None
        target = QRectF(self.rect()) if around else rect
        # A picture of another proportion (just after a format was changed) is never stretched.
        off = (
            abs(self._image.width() * target.height() - self._image.height() * target.width())
            > 0.02 * target.height() * self._image.width()
        )
        if off:
            painter.fillRect(rect, QColor("#8A8A8A"))
        else:
            painter.drawImage(target, self._image)
        if around:
            for part in _outside(QRectF(self.rect()), rect):
                painter.fillRect(part, SURROUND_SHADE)
        if self.guides_on and self.override is None and not self._plain:
            paint_guides(painter, camera, rect)
        self._paint_aids(painter, rect, camera)
        self._mark_object(painter, rect, camera)
        painter.setPen(QPen(QColor(self._tokens.ink), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(rect.adjusted(-0.5, -0.5, 0.5, 0.5))
        self._notes(painter, rect)
        if self._intent():
            self._below(painter, rect, self._intent())

    def toggle_aid(self, name: str) -> None:
        """Show an aid over the picture, or no longer."""
        self.aids ^= {name}
        self._hatches.clear()
        if name in ("cut faces", "gaps") and name in self.aids:
            # Hatches want a finer look than figures do.
            self._ask_facts()
        self.update()

    def _paint_aids(self, painter: QPainter, rect: QRectF, camera: Camera) -> None:
        scene = self._studio.scene
        if not self.aids or self._book is None or scene is None or self.override is not None:
            return
        found = self._book.of(camera)
        if "vanishing" in self.aids:
            paint_vanishing(painter, rect, camera, scene.axes, self._tokens)
        if found is None:
            return
        for name, mask, colour, falling in (
            ("cut faces", found.cut.mask, self._tokens.saffron, False),
            ("gaps", found.gaps.mask, self._tokens.brick, True),
        ):
            if name in self.aids and mask is not None:
                size = (round(rect.width()), round(rect.height()))
                held = self._hatches.get(name)
                if held is None or held[0] != (id(mask), size):
                    held = self._hatches[name] = ((id(mask), size), hatched(mask, *size, colour, falling))
                painter.drawImage(rect.topLeft(), held[1])
        if "gaps" in self.aids:
            paint_gaps(painter, rect, found.gaps, self._tokens)
        if "verticals" in self.aids:
            paint_verticals(painter, rect, camera, found.verticals, self._bridge.project.limits, self._tokens)

    def _below(self, painter: QPainter, rect: QRectF, text: str) -> None:
        painter.setFont(text_font(9))
        wide = int(max(rect.width(), 240.0))
        words = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, wide - 20)
        band = QRectF(0, 0, painter.fontMetrics().horizontalAdvance(words) + 20, INTENT_PX - 4)
        band.moveTopLeft(QPointF(rect.center().x() - band.width() / 2, rect.bottom() + 5))
        painter.fillRect(band, QColor(self._tokens.band))
        painter.setPen(QColor(self._tokens.band_text))
        painter.drawText(band, Qt.AlignmentFlag.AlignCenter, words)

    def _notes(self, painter: QPainter, rect: QRectF) -> None:
        """What one must know about this Frame, on a dark band at its foot."""
        notes = []
        scene = self._studio.scene
        if scene is not None and not self._plain and self._state.hiding and self.override is None:
            camera = self.camera
            count = self._state.hiding.differs(
                self._studio.staging(self._bridge.project, camera), scene.lookup
            )
            if count:
                notes.append(
                    f"{count} {'object' if count == 1 else 'objects'} hidden here: the picture shows {'it' if count == 1 else 'them'}"
                )
        if self.standing:
            notes.append("Press on a floor: the eye. Drag: what it looks at. Escape leaves.")
        if self.picking_wall:
            notes.append("Press on the wall to look past, here or on the plan or section. Escape leaves.")
        shown = self.camera
        if (
            shown is not None
            and self.dragging
            and at_rise_limit(shown, self._bridge.project.limits.steepest_rise_deg)
        ):
            limit = self._bridge.project.limits.steepest_rise_deg
            notes.append(
                f"Kept plumb: the lens is shifted as far as it goes ({limit:.0f}°). Let it tilt to look further."
            )
        if self.dragging and self.speed != 1.0:
            notes.append(f"speed × {self.speed:g}")
        if not notes:
            return
        painter.setFont(text_font(9))
        text = "   ·   ".join(notes)
        box = QRectF(painter.fontMetrics().boundingRect(text)).adjusted(-12, -4, 12, 4)
        box.moveCenter(QPointF(self.width() / 2, rect.bottom() - 18))
        painter.fillRect(box, QColor(self._tokens.band))
        painter.setPen(QColor(self._tokens.band_text))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def _mark_object(self, painter: QPainter, rect: QRectF, camera: Camera) -> None:
        """A box of thin lines round the chosen object."""
        scene = self._studio.scene
        number = scene.lookup.index.get(self._state.object_id) if scene is not None else None
        if (
            scene is None
            or number is None
            or self.override is not None
            or not scene.model.objects[number].face_count
        ):
            return
        points = object_points(scene.model, number).astype(float)
        low, high = points.min(axis=0), points.max(axis=0)
        corners = np.array([[(low, high)[(k >> axis) & 1][axis] for axis in range(3)] for k in range(8)])
        px, py, depth = camera.view().project(corners).T
        if (depth <= 0.01).any():
            return
        x = rect.left() + px / camera.width_px * rect.width()
        y = rect.top() + py / camera.height_px * rect.height()
        painter.save()
        painter.setClipRect(rect)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for colour, width in ((QColor(0, 0, 0, 120), 3.0), (QColor(255, 255, 255, 235), 1.2)):
            painter.setPen(QPen(colour, width))
            for a in range(8):
                for axis in range(3):
                    b = a | (1 << axis)
                    if b != a:
                        painter.drawLine(QPointF(x[a], y[a]), QPointF(x[b], y[b]))
        painter.restore()

    def _say(self, painter: QPainter, text: str) -> None:
        painter.setFont(text_font(10))
        room = painter.fontMetrics().boundingRect(text)
        box = QRectF(0, 0, min(room.width() + 32, self.width() - 8), 30)
        box.moveCenter(QPointF(self.width() / 2, self.height() / 2))
        painter.fillRect(box, QColor(self._tokens.band))
        painter.setPen(QColor(self._tokens.band_text))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def showEvent(self, event: QShowEvent) -> None:
        """A Frame that comes to sight asks for its picture."""
        super().showEvent(event)
        self._again()

    def resizeEvent(self, _: QResizeEvent) -> None:
        """Place the overlays; the picture follows the new size."""
        self._ways.setVisible(self.camera is not None and self.override is None and self.width() >= 420)
        self._place_overlays()
        self._rest.start()

    def _place_overlays(self) -> None:
        self._ways.move(10, 14)
        self._ways.adjustSize()
        self.ribbon.adjustSize()
        self.ribbon.move(max(0, (self.width() - self.ribbon.width()) // 2), 20)

    # ------------------------------------------------------------------ moving

    @property
    def dragging(self) -> bool:
        """Whether a drag goes on."""
        return self._gesture is not None or self._stood is not None

    def reach(self, camera: Camera) -> float:
        """How far a drag across the picture moves, metres."""
        return min(max(camera.aim_m, 1.0), 40.0) * self.speed

    def hit(self, at: QPointF) -> tuple[int, Vec3] | None:
        """The triangle and the place seen at a point of the widget, panes passed by; None for the sky."""
        scene, camera, rect = self._studio.scene, self.camera, self.frame_rect()
        if scene is None or camera is None or rect.isEmpty():
            return None
        pixel = np.array(
            [
                [
                    (at.x() - rect.left()) / rect.width() * camera.width_px,
                    (at.y() - rect.top()) / rect.height() * camera.height_px,
                ]
            ]
        )
        direction = camera.view().rays(pixel)
        omitted = self._studio.staging(self._bridge.project, camera, self._state.hiding).omitted
        _, found = look(
            camera.view(),
            scene.rays,
            direction,
            passed_faces(scene.model, omitted) if omitted else scene.panes,
        )
        face = int(found.face[0])
        if face < 0:
            return None
        x, y, z = (np.asarray(camera.eye) + direction[0] * float(found.distance_m[0])).tolist()
        return face, (x, y, z)

    def _edge_at(self, at: QPointF) -> str:
        """The edge of the frame under the pointer."""
        rect = self.frame_rect()
        if not self._state.held or self.override is not None or self._plain:
            return ""
        if not rect.adjusted(-EDGE_PX, -EDGE_PX, EDGE_PX, EDGE_PX).contains(at):
            return ""
        near = [
            (abs(at.x() - rect.left()), "left"),
            (abs(at.x() - rect.right()), "right"),
            (abs(at.y() - rect.top()), "top"),
            (abs(at.y() - rect.bottom()), "bottom"),
        ]
        away, side = min(near)
        return side if away <= EDGE_PX else ""

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Begin to move, to stand a camera on a floor seen here, or to drag an edge."""
        camera = self._state.shown
        if event.button() != Qt.MouseButton.LeftButton or camera is None or self.override is not None:
            return
        self._end_keys()
        at = event.position()
        if self.standing:
            self._stand(at, camera)
            return
        if self.picking_wall:
            self._pick_wall(at, camera)
            return
        edge = self._edge_at(at)
        if edge and self.way != SHIFT:
            self._gesture = EdgeGesture(self, self._bridge, at, camera, edge)
        elif self.way == SHIFT:
            self._gesture = ShiftGesture(self, self._bridge, at, camera)
        else:
            centre = None
            if self.way == "circle" and event.modifiers() & Qt.KeyboardModifier.AltModifier:
                found = self.hit(at)
                centre = found[1] if found else None
            self._gesture = MoveGesture(self, self._bridge, at, camera, self.way, centre)
        if self._state.held:
            self._bridge.begin()

    def _pick_wall(self, at: QPointF, camera: Camera) -> None:
        """The first wall on the line of sight under the pointer; panes are walls here."""
        rect = self.frame_rect()
        scene = self._studio.scene
        if scene is None or not rect.contains(at):
            return
        pixel = [
            [
                (at.x() - rect.left()) / rect.width() * camera.width_px,
                (at.y() - rect.top()) / rect.height() * camera.height_px,
            ]
        ]
        along = camera.view().rays(np.array(pixel))
        _, met = look(camera.view(), scene.rays, along, np.zeros(len(scene.model.faces), bool))
        if met.face[0] < 0:
            self._bridge.notices.trouble("There is no wall there. Press on the wall to look past.")
            return
        x, y, z = (np.asarray(camera.eye) + along[0] * float(met.distance_m[0])).tolist()
        self.wall_picked.emit((x, y, z))

    def _stand(self, at: QPointF, camera: Camera) -> None:
        scene, found = self._studio.scene, self.hit(at)
        if scene is None or found is None:
            self._bridge.notices.trouble("There is no floor there. Press on a floor seen in the picture.")
            return
        face, place = found
        # Level and seen from above; how the model winds its triangles says nothing about that.
        if abs(scene.rays.face_normal(face)[2]) < FLOOR_UPRIGHT or place[2] >= camera.eye[2]:
            self._bridge.notices.trouble("That is not a floor. Press on a floor seen in the picture.")
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
        """The picture itself stays until the drag ends, so the place under the pointer is that of the old view."""
        stood = self._stood
        assert stood is not None
        x, y = stood.eye
        turned = math.radians(heading_deg)
        aim = (x + math.sin(turned) * 5, y + math.cos(turned) * 5)
        found = self.hit(at)
        if found is not None and math.dist(found[1][:2], (x, y)) > 0.3:
            aim = (found[1][0], found[1][1])
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
            shape = EDGE_CURSORS.get(self._edge_at(event.position()), Qt.CursorShape.ArrowCursor)
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
        scene, found = self._studio.scene, self.hit(at)
        if scene is None or not self.frame_rect().contains(at):
            return
        chosen = scene.model.objects[int(scene.owner[found[0]])].id if found is not None else ""
        self._state.choose_object("" if chosen == self._state.object_id else chosen)
        self.picked.emit(self._state.object_id)
        self.update()

    def arm(self, on: bool, for_shot: str = "") -> None:
        """Whether the next press stands a camera on a floor seen here; ``for_shot`` names a planned shot it is for."""
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
        """The wheel steps forward and back (Shift: far, Control: a little), one undo step for a turn of the wheel."""
        factor = {Qt.KeyboardModifier.ShiftModifier: 4.0, Qt.KeyboardModifier.ControlModifier: 0.25}.get(
            event.modifiers(), 1.0
        )
        way = event.angleDelta().y() or event.angleDelta().x()

        def move(camera: Camera) -> Camera:
            far = math.copysign(0.1 * max(1.0, self.reach(camera) / 8.0) * factor, way)
            return self.walked(camera, step(camera, far), "step")

        if way:
            self._nudge(move)

    def _nudge(self, move: Callable[[Camera], Camera]) -> None:
        camera = self._state.shown
        if camera is None or self.dragging or self.override is not None:
            return
        if not self._keys_moving:
            self._keys_moving = True
            if self._state.held:
                self._bridge.begin()
        self._key_rest.start()
        self.show_moved(move(camera), camera)

    def _end_keys(self) -> None:
        if self._keys_moving:
            self._keys_moving = False
            self._key_rest.stop()
            self._bridge.commit("Move camera")
            self._rest.start()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows move the chosen way (Shift: larger); 1 to 5 choose it; comma and full stop change the speed; X and Y
        keep to one axis while they are held; Return chooses the object in the middle."""
        big = (5.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0) * self.speed
        arrows = {
            Qt.Key.Key_Left: (-1, 0),
            Qt.Key.Key_Right: (1, 0),
            Qt.Key.Key_Up: (0, 1),
            Qt.Key.Key_Down: (0, -1),
        }
        key = Qt.Key(event.key())
        if key in arrows:
            self._arrow(*arrows[key], big)
        elif Qt.Key.Key_1 <= key < Qt.Key.Key_1 + len(self._offered()):
            self.choose_way(self._offered()[key - Qt.Key.Key_1])
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

    def _arrow(self, dx: int, dy: int, big: float) -> None:
        if self.way == "turn":
            self._nudge(lambda camera: turn(camera, dx * big, dy * big))
            return
        if self.way == SHIFT:
            self._nudge(
                lambda camera: replace(
                    camera,
                    cross_mm=camera.cross_mm + dx * 0.25 * big,
                    rise_mm=camera.rise_mm + dy * 0.25 * big,
                )
            )
            return

        def move(camera: Camera) -> Camera:
            across = dx * big / 120.0 if self.way == "circle" else -dx * 0.01 * big
            up = dy * 0.01 * big if self.way == "lift" else -dy * 0.02 * big
            return self.walked(
                camera, by_pointer(camera, self.way, across, up, min(max(camera.aim_m, 1.0), 40.0)), self.way
            )

        self._nudge(move)


def _outside(whole: QRectF, inner: QRectF) -> list[QRectF]:
    """The four bands of a rectangle round an inner one."""
    return [
        QRectF(whole.left(), whole.top(), whole.width(), inner.top() - whole.top()),
        QRectF(whole.left(), inner.bottom(), whole.width(), whole.bottom() - inner.bottom()),
        QRectF(whole.left(), inner.top(), inner.left() - whole.left(), inner.height()),
        QRectF(inner.right(), inner.top(), whole.right() - inner.right(), inner.height()),
    ]
