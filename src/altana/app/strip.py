"""The strip: one card a camera, inside and outside, with its picture."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QContextMenuEvent, QFont, QImage, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PySide6.QtWidgets import QLabel, QScrollArea, QSizePolicy, QVBoxLayout, QWidget

from altana.app.bridge import Bridge
from altana.app.scene import Studio
from altana.app.state import ViewState
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import button, label
from altana.core.project import Camera
from altana.core.standing import floor_under

THUMB_WIDE, THUMB_HIGH = 160, 96


class Card(QWidget):
    """One camera: picture in its own proportion, name, lens, height, room."""

    pressed = Signal(str, bool)
    menu = Signal(str, object)

    def __init__(self, camera: Camera, tokens: Tokens) -> None:
        super().__init__()
        self._tokens = tokens
        self.camera = camera
        self.image: QImage | None = None
        self.line = ""
        self.active = self.chosen = False
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.show_camera(camera, "")

    def show_camera(self, camera: Camera, line: str) -> None:
        """Show what may have changed."""
        self.camera, self.line = camera, line
        self.setAccessibleName(f"Camera {camera.name}")
        self.setToolTip(f"{camera.name}\n{line}" + (f"\n{camera.intent}" if camera.intent else ""))
        self.setFixedHeight(self._thumb().height() + 50)
        self.update()

    def sizeHint(self) -> QSize:
        """The height follows the picture."""
        return QSize(THUMB_WIDE + 20, self._thumb().height() + 50)

    def _thumb(self) -> QSize:
        scale = min(THUMB_WIDE / self.camera.width_px, THUMB_HIGH / self.camera.height_px)
        return QSize(max(8, round(self.camera.width_px * scale)), max(8, round(self.camera.height_px * scale)))

    def paintEvent(self, _: QPaintEvent) -> None:
        """The card."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        box = QRectF(self.rect()).adjusted(1.5, 1.5, -1.5, -1.5)
        if self.active:
            pen = QPen(QColor(self._tokens.verdigris), 2.2)
        elif self.chosen:
            pen = QPen(QColor(self._tokens.verdigris), 1.4, Qt.PenStyle.DashLine)
        else:
            pen = QPen(QColor(self._tokens.rule), 1.0)
        painter.setPen(pen)
        painter.setBrush(QColor(self._tokens.leaf))
        painter.drawRoundedRect(box, 7, 7)
        if self.hasFocus():
            painter.setPen(QPen(QColor(self._tokens.ink), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box.adjusted(3, 3, -3, -3), 5, 5)
        size = self._thumb()
        place = QRectF(9, 8, size.width(), size.height())
        clip = QPainterPath()
        clip.addRoundedRect(place, 3, 3)
        painter.save()
        painter.setClipPath(clip)
        if self.image is None:
            painter.fillRect(place, QColor(self._tokens.rule))
        else:
            painter.drawImage(place, self.image)
        painter.restore()
        self._text(painter, place.bottom())
        painter.end()

    def _text(self, painter: QPainter, top: float) -> None:
        wide = self.width() - 20
        painter.setFont(text_font(9.5, QFont.Weight.DemiBold))
        painter.setPen(QColor(self._tokens.ink))
        name = painter.fontMetrics().elidedText(self.camera.name, Qt.TextElideMode.ElideRight, wide)
        painter.drawText(QRectF(10, top + 4, wide, 17), Qt.AlignmentFlag.AlignVCenter, name)
        painter.setFont(text_font(8.5))
        painter.setPen(QColor(self._tokens.pencil))
        line = painter.fontMetrics().elidedText(self.line, Qt.TextElideMode.ElideRight, wide)
        painter.drawText(QRectF(10, top + 20, wide, 15), Qt.AlignmentFlag.AlignVCenter, line)
        if self.camera.locked:
            self._padlock(painter)

    def _padlock(self, painter: QPainter) -> None:
        x, y = self.width() - 24.0, 12.0
        painter.setPen(QPen(QColor(self._tokens.ink), 1.6))
        painter.setBrush(QColor(self._tokens.leaf))
        painter.drawRoundedRect(QRectF(x - 3, y - 3, 16, 18), 3, 3)
        painter.setBrush(QColor(self._tokens.ink))
        painter.drawRect(QRectF(x, y + 5, 10, 7))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawArc(QRectF(x + 2, y, 6, 10), 0, 180 * 16)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose the camera; with Control, choose it as well."""
        if event.button() == Qt.MouseButton.LeftButton:
            self.pressed.emit(self.camera.id, bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Return and Space choose."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.pressed.emit(self.camera.id, bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier))
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """The camera's menu."""
        self.menu.emit(self.camera.id, event.globalPos())


class Strip(QWidget):
    """All cameras; their pictures are drawn in the background, those in sight first."""

    stand = Signal(bool)
    menu = Signal(str, object)

    def __init__(self, bridge: Bridge, state: ViewState, studio: Studio, tokens: Tokens) -> None:
        super().__init__()
        self._bridge, self._state, self._studio, self._tokens = bridge, state, studio, tokens
        self.setObjectName("chrome")
        self.setFixedWidth(200)
        self.cards: dict[str, Card] = {}
        self._drawn: dict[str, Camera] = {}
        self._ordered: dict[str, tuple[int, Camera]] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 10, 4, 6)
        column.setSpacing(7)
        self.stand_button = button(
            "Stand a camera", "outline", "Press on the plan where the eye is, drag to what it looks at (key C)", checkable=True
        )
        self.stand_button.clicked.connect(self.stand)
        top = QVBoxLayout()
        top.setContentsMargins(0, 0, 6, 0)
        top.addWidget(self.stand_button)
        column.addLayout(top)
        self._list = QVBoxLayout()
        self._list.setContentsMargins(0, 0, 4, 0)
        self._list.setSpacing(7)
        inner = QWidget()
        inner.setObjectName("chrome")
        inner.setLayout(self._list)
        self._scroll = QScrollArea()
        self._scroll.setWidgetResizable(True)
        self._scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._scroll.setWidget(inner)
        column.addWidget(self._scroll, 1)
        self._headings: list[QLabel] = []
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(250)
        self._later.timeout.connect(self._order_pictures)
        bridge.cameras_changed.connect(self.refresh)
        bridge.light_changed.connect(self._forget)
        state.selection_changed.connect(self._mark)
        studio.opened.connect(self._tell_places)
        studio.relit.connect(self._forget)
        studio.picture.connect(self._arrived)
        self.refresh()

    def _forget(self) -> None:
        self._drawn.clear()
        self._ordered.clear()
        self._later.start()

    def _tell_places(self) -> None:
        for card in self.cards.values():
            card.line = ""
        self.refresh()

    def refresh(self) -> None:
        """Cards follow the cameras; only a change in what there is builds the list anew."""
        cameras = self._bridge.project.cameras
        wanted = [camera.id for camera in sorted(cameras, key=lambda item: not item.inside)]
        if wanted != list(self.cards) or any(self.cards[c.id].camera.inside != c.inside for c in cameras):
            self._rebuild(wanted)
        for camera in cameras:
            card = self.cards[camera.id]
            if card.camera is not camera or not card.line:
                card.show_camera(camera, self._line(camera))
        self._mark()
        if not self._bridge.in_gesture:
            self._later.start()

    def _rebuild(self, wanted: list[str]) -> None:
        old = self.cards
        while self._list.count():
            item = self._list.takeAt(0)
            if item is not None and (widget := item.widget()) is not None and widget not in old.values():
                widget.deleteLater()
        self.cards = {}
        last: bool | None = None
        for camera_id in wanted:
            camera = self._bridge.project.camera(camera_id)
            assert camera is not None
            if camera.inside != last:
                last = camera.inside
                count = sum(1 for item in self._bridge.project.cameras if item.inside == last)
                self._list.addWidget(label(f"{'INSIDE' if last else 'OUTSIDE'}   {count}", "heading"))
            card = old.pop(camera_id, None)
            if card is None:
                card = Card(camera, self._tokens)
                card.pressed.connect(self._state.select)
                card.menu.connect(self.menu)
            self.cards[camera_id] = card
            self._list.addWidget(card)
        for card in old.values():
            card.deleteLater()
        self._list.addStretch(1)

    def _line(self, camera: Camera) -> str:
        parts = [f"{camera.focal_mm:.4g} mm"]
        scene = self._studio.scene
        if scene is not None:
            room = scene.model.room_at(camera.eye)
            below = floor_under(scene.floors, camera.eye)
            if below is not None:
                parts.append(f"eye {camera.eye[2] - below:.2f} m")
            if room is not None:
                parts.append(room.name)
        if abs(camera.rise_mm) > 0.05:
            parts.append(f"rise {camera.rise_mm:.1f} mm")
        return " · ".join(parts)

    def _mark(self) -> None:
        for camera_id, card in self.cards.items():
            active, chosen = camera_id == self._state.active_id, camera_id in self._state.selected
            if (active, chosen) != (card.active, card.chosen):
                card.active, card.chosen = active, chosen
                card.update()
                if active:
                    QTimer.singleShot(0, lambda shown=card: self._scroll.ensureWidgetVisible(shown, 0, 20))

    def _order_pictures(self) -> None:
        if self._studio.scene is None:
            return
        for camera in self._bridge.project.cameras:
            if self._drawn.get(camera.id) == camera:
                continue
            if camera.id in self._ordered and self._ordered[camera.id][1] == camera:
                continue
            scale = min(THUMB_WIDE / camera.width_px, THUMB_HIGH / camera.height_px) * self.devicePixelRatioF() * 1.5
            view = camera.view(max(16, round(camera.width_px * scale)), max(16, round(camera.height_px * scale)))
            revision = self._studio.order_picture(
                f"thumb:{camera.id}", "full", view, self._bridge.project.light, camera.ev, camera.inside, 2
            )
            self._ordered[camera.id] = (revision, camera)

    def _arrived(self, channel: str, revision: int, image: QImage, _: str) -> None:
        if not channel.startswith("thumb:"):
            return
        camera_id = channel[6:]
        ordered = self._ordered.get(camera_id)
        if camera_id in self.cards:
            self.cards[camera_id].image = image
            self.cards[camera_id].update()
        if ordered is not None and ordered[0] == revision:
            self._drawn[camera_id] = self._ordered.pop(camera_id)[1]
