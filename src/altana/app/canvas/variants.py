"""A camera's variants side by side: the camera as it is and up to six tries, each naming what differs."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QFont,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
    QShowEvent,
)
from PySide6.QtWidgets import QHBoxLayout, QWidget

from altana.app.canvas.picture_view import paint_focus
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import button
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.edits.variants import keep_variant, remove_variant
from altana.core.light.own import light_for
from altana.core.picture_key import PictureKey, camera_key
from altana.core.project import Camera

TEXT_PX, TOOLS_PX = 24, 30


class VariantsView(QWidget):
    """Cells in rows; a press chooses one, Return or a double press keeps it as the camera."""

    left = Signal()

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__()
        # What is drawn has its own left and right, whichever way a language runs.
        self.setLayoutDirection(Qt.LayoutDirection.LeftToRight)
        self._bridge, self._state, self._studio, self._tokens = bridge, state, studio, tokens
        self.chosen = 0
        self._images: list[QImage | None] = []
        self._asked: dict[int, int] = {}
        self._keys: tuple[PictureKey, ...] = ()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(220, 150)
        self.setAccessibleName(tr("Variants"))
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self._tools = QWidget(self)
        row = QHBoxLayout(self._tools)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        self.take = button(
            tr("Take this one"), "onwell", tr("The chosen try becomes the camera (Return)"), self.keep
        )
        self.back = button(
            tr("Back to the Frame"), "onwell", tr("The camera's picture to move in (Escape)"), self.left.emit
        )
        row.addWidget(self.take)
        row.addWidget(self.back)
        state.shown_changed.connect(self.refresh)
        bridge.cameras_changed.connect(self.refresh)
        studio.picture.connect(self._arrived)
        for signal in (studio.relit, bridge.light_changed, bridge.left_out_changed):
            signal.connect(self.refresh)

    def cells(self) -> tuple[Camera, ...]:
        """The camera and its tries."""
        active = self._state.active
        return (active, *active.variants) if active is not None else ()

    def rects(self) -> list[QRectF]:
        """Where each picture lies: as many columns as make the pictures largest."""
        cells = self.cells()
        if not cells:
            return []
        best: tuple[float, list[QRectF]] = (0.0, [])
        for columns in range(1, len(cells) + 1):
            rows = math.ceil(len(cells) / columns)
            wide = (self.width() - 12) / columns - 12
            high = (self.height() - 12 - TOOLS_PX) / rows - 12 - TEXT_PX
            if wide < 40 or high < 30:
                continue
            rects, area = [], 0.0
            for index, camera in enumerate(cells):
                scale = min(wide / camera.width_px, high / camera.height_px)
                w, h = camera.width_px * scale, camera.height_px * scale
                x = 12 + (index % columns) * (wide + 12) + (wide - w) / 2
                y = 12 + (index // columns) * (high + TEXT_PX + 12) + (high - h) / 2
                rects.append(QRectF(round(x), round(y), round(w), round(h)))
                area += w * h
            if area > best[0]:
                best = (area, rects)
        return best[1]

    def _again(self) -> None:
        self._keys = ()
        self.refresh()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """The way out stands below the pictures."""
        super().resizeEvent(event)
        self._tools.adjustSize()
        self._tools.move(self.width() - self._tools.width() - 10, self.height() - self._tools.height() - 6)
        self._again()

    def showEvent(self, event: QShowEvent) -> None:
        """Variants that come to sight ask for their pictures."""
        super().showEvent(event)
        self._again()

    def refresh(self) -> None:
        """Order the pictures that are not what they were."""
        cells = self.cells()
        if not self.isVisible():
            return
        keys = tuple(camera_key(camera, self._studio.scenery) for camera in cells)
        if len(cells) != len(self._images):
            self._images = [None] * len(cells)
        self.chosen = min(self.chosen, max(0, len(cells) - 1))
        for index, (camera, rect) in enumerate(zip(cells, self.rects(), strict=False)):
            if self._keys[index : index + 1] == keys[index : index + 1]:
                continue
            view = camera.view(max(16, int(rect.width())), max(16, int(rect.height())))
            staging = self._studio.staging(self._bridge.project, camera)
            self._asked[index] = self._studio.order_picture(
                f"variant:{index}",
                "still",
                view,
                light_for(self._bridge.project.light, camera),
                camera.ev,
                camera.inside,
                2,
                staging,
            )
        self._keys = keys
        self.update()

    def _arrived(self, channel: str, revision: int, image: QImage, _: str) -> None:
        if not channel.startswith("variant:"):
            return
        index = int(channel[8:])
        if index < len(self._images) and self._asked.get(index) == revision:
            self._images[index] = image
            self.update()

    def paintEvent(self, _: QPaintEvent) -> None:
        """Every picture with what differs below it."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self._tokens.well))
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        for index, (camera, rect) in enumerate(zip(self.cells(), self.rects(), strict=False)):
            image = self._images[index] if index < len(self._images) else None
            painter.fillRect(rect, QColor("#8A8A8A"))
            if image is not None:
                painter.drawImage(rect, image)
            chosen = index == self.chosen
            painter.setPen(
                QPen(QColor(self._tokens.band_text if chosen else self._tokens.ink), 2.5 if chosen else 1.0)
            )
            painter.drawRect(rect.adjusted(-1, -1, 1, 1))
            painter.setFont(text_font(9, QFont.Weight.Bold if chosen else QFont.Weight.Normal))
            text = tr("as it is · {focal_mm:.4g} mm", focal_mm=camera.focal_mm) if index == 0 else camera.name
            words = painter.fontMetrics().elidedText(
                text, Qt.TextElideMode.ElideRight, int(max(rect.width(), 120)) - 10
            )
            band = QRectF(0, 0, painter.fontMetrics().horizontalAdvance(words) + 16, TEXT_PX - 5)
            band.moveTopLeft(QPointF(rect.center().x() - band.width() / 2, rect.bottom() + 4))
            painter.fillRect(band, QColor(self._tokens.band))
            painter.setPen(QColor(self._tokens.band_text))
            painter.drawText(band, Qt.AlignmentFlag.AlignCenter, words)
        self.take.setEnabled(self.chosen > 0)
        if len(self.cells()) < 2:
            painter.setPen(QColor(self._tokens.band_text))
            painter.drawText(
                self.rect(),
                Qt.AlignmentFlag.AlignCenter,
                tr("No variants yet: keep a try (T) or take a ladder"),
            )
        paint_focus(painter, self, self._tokens)
        painter.end()

    def keep(self) -> None:
        """The chosen try becomes the camera; what the camera was becomes a try."""
        active = self._state.active
        if active is not None and self.chosen > 0 and not active.locked:
            index = self.chosen - 1
            self._bridge.apply(tr("Keep variant"), lambda p: keep_variant(p, active.id, index))
            self.chosen = 0
            self._again()

    def remove(self) -> None:
        """Without the chosen try."""
        active = self._state.active
        if active is not None and self.chosen > 0:
            index = self.chosen - 1
            self._bridge.apply(tr("Remove variant"), lambda p: remove_variant(p, active.id, index))
            self._again()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose a cell."""
        for index, rect in enumerate(self.rects()):
            if rect.adjusted(-4, -4, 4, TEXT_PX).contains(event.position()):
                self.chosen = index
                self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Keep the try under the pointer."""
        self.mousePressEvent(event)
        self.keep()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right choose, Return keeps, Delete removes, Escape leaves."""
        count = len(self.cells())
        if event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right) and count:
            self.chosen = (self.chosen + (1 if event.key() == Qt.Key.Key_Right else -1)) % count
            self.update()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.keep()
        elif event.key() == Qt.Key.Key_Delete:
            self.remove()
        elif event.key() == Qt.Key.Key_Escape:
            self.left.emit()
        else:
            super().keyPressEvent(event)
