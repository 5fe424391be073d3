"""The Frame: the camera's exact picture in a neutral well, with guides and the five ways to move."""

from __future__ import annotations

import math
from dataclasses import replace

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent, QShowEvent, QWheelEvent
from PySide6.QtWidgets import QButtonGroup, QFrame, QHBoxLayout, QVBoxLayout, QWidget

from altana.app.bridge import Bridge
from altana.app.scene import Studio
from altana.app.state import ViewState
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import button, label
from altana.core.edits.cameras import add_camera, change_camera
from altana.core.moving import WAYS, by_pointer, step, turn
from altana.core.project import Camera
from altana.jobs.workers import COARSE

#: The waiting time after the last movement before the picture sharpens.
REST_MS = 90
WAY_TIPS = {
    "turn": "Turn: rotate in place (key 1)",
    "slide": "Slide: sideways (key 2)",
    "lift": "Lift: up and down (key 3)",
    "step": "Step: forward and back (key 4)",
    "circle": "Circle: around what the camera looks at (key 5)",
}


class FrameView(QWidget):
    """Shows ``state.shown``; a drag or a key moves it the chosen way."""

    keep_as_new = Signal()
    grabbed = Signal()

    def __init__(self, bridge: Bridge, state: ViewState, studio: Studio, tokens: Tokens, channel: str = "frame") -> None:
        super().__init__()
        self._bridge, self._state, self._studio, self._tokens = bridge, state, studio, tokens
        self._channel = channel
        self._image: QImage | None = None
        self._image_of: Camera | None = None
        self._look = ""
        self._ordered: tuple[str, Camera | None] = ("", None)
        self._latest = 0
        self._drag: tuple[QPointF, Camera, str] | None = None
        self._keys_moving = False
        self.way = "turn"
        self.thirds = True
        self.override: Camera | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(320, 200)
        self.setAccessibleName("Frame")
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST_MS)
        self._rest.timeout.connect(lambda: self._order("full"))
        self._key_rest = QTimer(self)
        self._key_rest.setSingleShot(True)
        self._key_rest.setInterval(400)
        self._key_rest.timeout.connect(self._end_keys)
        self._ways = self._way_buttons()
        self._ribbon = self._loose_ribbon()
        state.shown_changed.connect(self.refresh)
        studio.relit.connect(self.refresh)
        studio.picture.connect(self._arrived)
        bridge.light_changed.connect(self.refresh)

    # ------------------------------------------------------------------ overlays

    def _way_buttons(self) -> QWidget:
        holder = QWidget(self)
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(5)
        group = QButtonGroup(holder)
        for way in WAYS:
            made = button(way.capitalize(), "onwell", WAY_TIPS[way], checkable=True)
            made.clicked.connect(lambda _=False, chosen=way: self.choose_way(chosen))
            made.setChecked(way == self.way)
            group.addButton(made)
            column.addWidget(made)
        self._way_group = group
        return holder

    def choose_way(self, way: str) -> None:
        """Take one of the five ways to move."""
        self.way = way
        for index, item in enumerate(self._way_group.buttons()):
            item.setChecked(WAYS[index] == way)

    def _loose_ribbon(self) -> QFrame:
        ribbon = QFrame(self)
        ribbon.setObjectName("band")
        row = QHBoxLayout(ribbon)
        row.setContentsMargins(12, 5, 6, 5)
        self._ribbon_text = label("")
        row.addWidget(self._ribbon_text)
        self._keep = button("Keep as new", "onwell", "Make a new camera of this view (key N)", self.keep_as_new.emit)
        self._move_here = button("Move camera here", "onwell", "Give the camera this view; one undo step (key M)", self.move_camera_here)
        self._back = button("Back to camera", "onwell", "Show the camera as it stands (key L)", self._state.back_to_camera)
        for made in (self._keep, self._move_here, self._back):
            row.addWidget(made)
        ribbon.hide()
        return ribbon

    def move_camera_here(self) -> None:
        """Out of loose: the active camera takes the loose view."""
        loose, active = self._state.loose, self._state.active
        if loose is None or active is None or active.locked:
            return
        self._state.loose = None
        self._bridge.apply("Move camera here", lambda p: change_camera(p, active.id, lambda c: c.with_view(loose.pose, loose.lens)))
        self._state.shown_changed.emit()

    def keep_loose_as_new(self) -> None:
        """Out of loose: a new camera with this view, selected."""
        made = self._state.kept_as_new()
        if made is None:
            return
        created = self._bridge.apply_adding("Keep view as camera", lambda project: add_camera(project, made))
        if created:
            self._state.loose = None
            self._state.select(created)

    # ------------------------------------------------------------------ pictures

    @property
    def camera(self) -> Camera | None:
        """What is shown."""
        return self.override or self._state.shown

    def frame_rect(self) -> QRectF:
        """Where the exact picture lies in the widget."""
        camera = self.camera
        margin = 14.0
        wide, high = self.width() - 2 * margin - 150.0, self.height() - 2 * margin
        if camera is None or wide <= 0 or high <= 0:
            return QRectF()
        scale = min(wide / camera.width_px, high / camera.height_px)
        w, h = round(camera.width_px * scale), round(camera.height_px * scale)
        return QRectF(round((self.width() - w) / 2), round((self.height() - h) / 2), w, h)

    def refresh(self) -> None:
        """Show the camera as it is now: coarse at once while it moves, sharp when it rests."""
        camera = self.camera
        loose = self._state.loose is not None and self.override is None
        self._ribbon.setVisible(loose and camera is not None)
        if loose:
            locked = self._state.active is not None and self._state.active.locked
            self._ribbon_text.setText("This camera is locked: looking around only" if locked else "Looking around: camera not moved")
            self._move_here.setEnabled(not locked)
            self._back.setVisible(not locked)
            self._place_overlays()
        self._ways.setVisible(camera is not None and self.override is None)
        if camera is not None and camera != self._image_of:
            moving = self._drag is not None or self._bridge.in_gesture or self._keys_moving or self.override is not None
            self._order("coarse" if moving else "full")
            if moving:
                self._rest.start()
        elif camera is not None:
            self._order("full")
        self.update()

    def _order(self, look: str) -> None:
        camera = self.camera
        rect = self.frame_rect()
        if camera is None or rect.isEmpty() or not self.isVisible():
            return
        ratio = self.devicePixelRatioF()
        divisor = COARSE.divisor if look == "coarse" else 1.0
        width, height = max(16, round(rect.width() * ratio / divisor)), max(16, round(rect.height() * ratio / divisor))
        urgency = {"coarse": 0, "full": 1, "still": 3}[look]
        self._latest = self._studio.order_picture(
            self._channel, look, camera.view(width, height), self._bridge.project.light, camera.ev, camera.inside, urgency
        )
        self._ordered = (look, camera)

    def _arrived(self, channel: str, revision: int, image: QImage, look: str) -> None:
        if channel != self._channel:
            return
        # A sharp picture of where the camera no longer is would be worse than the coarse one shown.
        if look != "coarse" and revision != self._latest:
            return
        self._image, self._look = image, look
        if revision == self._latest:
            self._image_of = self._ordered[1]
            if look == "full" and not self._bridge.in_gesture and self.override is None:
                self._order("still")
        self.update()

    # ------------------------------------------------------------------ painting

    def paintEvent(self, _: QPaintEvent) -> None:
        """The well, the picture, the guides."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self._tokens.well))
        rect = self.frame_rect()
        if self.camera is None:
            self._say(painter, "Stand a camera: press “Stand a camera”, then press on the plan and drag to what it looks at.")
        elif self._image is None:
            painter.fillRect(rect, QColor("#8A8A8A"))
            self._say(painter, "Drawing the picture…")
        else:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(rect, self._image)
            if self.thirds and self.override is None:
                self._guides(painter, rect)
            painter.setPen(QPen(QColor(self._tokens.ink), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(rect.adjusted(-0.5, -0.5, 0.5, 0.5))
        if self.hasFocus():
            painter.setPen(QPen(QColor(self._tokens.band), 1))
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))
            painter.setPen(QPen(QColor(self._tokens.band_text), 1))
            painter.drawRect(self.rect().adjusted(3, 3, -4, -4))
        painter.end()

    def _say(self, painter: QPainter, text: str) -> None:
        painter.setFont(text_font(10))
        room = painter.fontMetrics().boundingRect(text)
        box = QRectF(0, 0, room.width() + 32, 30)
        box.moveCenter(QPointF(self.width() / 2, self.height() / 2))
        painter.fillRect(box, QColor(self._tokens.band))
        painter.setPen(QColor(self._tokens.band_text))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def _guides(self, painter: QPainter, rect: QRectF) -> None:
        # A dark line under a light one reads on any picture.
        for colour, shift in ((QColor(0, 0, 0, 70), 1.0), (QColor(255, 255, 255, 130), 0.0)):
            painter.setPen(QPen(colour, 1))
            for share in (1 / 3, 2 / 3):
                x, y = (round(rect.left() + rect.width() * share) + shift, round(rect.top() + rect.height() * share) + shift)
                painter.drawLine(QPointF(x, rect.top()), QPointF(x, rect.bottom()))
                painter.drawLine(QPointF(rect.left(), y), QPointF(rect.right(), y))

    def showEvent(self, event: QShowEvent) -> None:
        """A Frame that comes to sight asks for its picture."""
        super().showEvent(event)
        self.refresh()

    def resizeEvent(self, _: QResizeEvent) -> None:
        """Place the overlays; the picture follows the new size."""
        self._place_overlays()
        self._rest.start()

    def _place_overlays(self) -> None:
        self._ways.move(14, 14)
        self._ways.adjustSize()
        self._ribbon.adjustSize()
        self._ribbon.move(max(0, (self.width() - self._ribbon.width()) // 2), 22)

    # ------------------------------------------------------------------ moving

    def _reach(self, camera: Camera) -> float:
        return min(max(camera.aim_m, 1.0), 40.0)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Begin to move."""
        camera = self._state.shown
        if event.button() != Qt.MouseButton.LeftButton or camera is None or self.override is not None:
            return
        self._end_keys()
        self._drag = (event.position(), camera, self.way)
        if self._state.held:
            self._bridge.begin()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Move: the camera while held, the view while loose.  Shift keeps to one axis."""
        if self._drag is None:
            return
        start, camera, way = self._drag
        rect = self.frame_rect()
        dx = (event.position().x() - start.x()) / max(rect.width(), 1.0)
        dy = (event.position().y() - start.y()) / max(rect.height(), 1.0)
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            dx, dy = (dx, 0.0) if abs(dx) > abs(dy) else (0.0, dy)
        self._show(by_pointer(camera, way, dx, dy, self._reach(camera)), camera)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """One undo step for the whole drag."""
        if self._drag is None or event.button() != Qt.MouseButton.LeftButton:
            return
        way = self._drag[2]
        self._drag = None
        self._bridge.commit(f"{way.capitalize()} camera")
        self._rest.start()

    def _show(self, moved: Camera, origin: Camera) -> None:
        if self._bridge.in_gesture:
            self._bridge.preview(
                lambda p: change_camera(
                    p,
                    origin.id,
                    lambda c: (
                        c.with_view(moved.pose, moved.lens)
                        if c.aim_m == moved.aim_m
                        else replace(c.with_view(moved.pose, moved.lens), aim_m=moved.aim_m)
                    ),
                )
            )
        elif self._state.loose is not None:
            self._state.look(moved)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """The wheel steps forward and back, one undo step for a turn of the wheel."""
        self._nudge(lambda camera: step(camera, math.copysign(0.1 * max(1.0, self._reach(camera) / 8.0), event.angleDelta().y())))

    def _nudge(self, move) -> None:  # type: ignore[no-untyped-def]
        camera = self._state.shown
        if camera is None or self._drag is not None or self.override is not None:
            return
        if not self._keys_moving:
            self._keys_moving = True
            if self._state.held:
                self._bridge.begin()
        self._key_rest.start()
        self._show(move(camera), camera)

    def _end_keys(self) -> None:
        if self._keys_moving:
            self._keys_moving = False
            self._key_rest.stop()
            self._bridge.commit("Move camera")
            self._rest.start()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows move the chosen way (Shift: larger); 1 to 5 choose it."""
        big = 5.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
        arrows = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1)}
        key = Qt.Key(event.key())
        if key in arrows:
            dx, dy = arrows[key]
            if self.way == "turn":
                self._nudge(lambda camera: turn(camera, dx * big, dy * big))
            else:
                self._nudge(
                    lambda camera: by_pointer(
                        camera,
                        self.way,
                        -dx * 0.01 * big if self.way != "circle" else dx * big / 120.0,
                        dy * 0.01 * big if self.way == "lift" else -dy * 0.02 * big,
                        self._reach(camera),
                    )
                )
        elif Qt.Key.Key_1 <= key <= Qt.Key.Key_5:
            self.choose_way(WAYS[key - Qt.Key.Key_1])
        elif key == Qt.Key.Key_Escape and self._drag is not None:
            self._drag = None
            self._bridge.cancel()
        else:
            super().keyPressEvent(event)
