"""One finished picture, or two versions of it: fitted, at actual pixels with panning together, side by side,
or their difference."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QImage,
    QImageReader,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr

FIT, ACTUAL, AGAINST, DIFFERENCE = "fit", "actual", "against", "difference"
#: What is compared: usually a picture with what it was before.
NAMES = (tr("last version"), tr("now"))
ZOOMS = (0.125, 0.25, 0.5, 1.0, 2.0, 4.0, 8.0)
#: Pictures above this many bytes are not opened in the window.
LARGEST_MB = 1600


def read_picture(path: Path) -> QImage | None:
    """A picture file as an image; None where it cannot be read."""
    if path.suffix.lower() in (".tif", ".tiff"):
        return _read_tiff(path)
    QImageReader.setAllocationLimit(LARGEST_MB)
    image = QImage(str(path))
    return None if image.isNull() else image


def _read_tiff(path: Path) -> QImage | None:
    """TIFF with 16 bits, which Qt does not read."""
    import tifffile

    try:
        pixels = tifffile.imread(path)
    except (OSError, ValueError, tifffile.TiffFileError):
        return None
    if pixels.ndim != 3 or pixels.shape[2] < 3:
        return None
    return image_of(
        (pixels[..., :3] >> 8).astype(np.uint8)
        if pixels.dtype == np.uint16
        else pixels[..., :3].astype(np.uint8)
    )


def pixels_of(image: QImage) -> np.ndarray:
    """(height, width, 3) uint8 of an image, in memory of its own: an image's memory goes with the image."""
    plain = image.convertToFormat(QImage.Format.Format_RGB888)
    rows = np.frombuffer(plain.constBits(), np.uint8).reshape(plain.height(), plain.bytesPerLine())
    return rows[:, : plain.width() * 3].reshape(plain.height(), plain.width(), 3).copy()


def image_of(pixels: np.ndarray) -> QImage:
    """(height, width, 3) uint8 as an image of its own."""
    buffer = np.ascontiguousarray(pixels)
    return QImage(
        buffer.data, buffer.shape[1], buffer.shape[0], buffer.shape[1] * 3, QImage.Format.Format_RGB888
    ).copy()


class PictureView(QWidget):
    """Shows a picture; drag pans, the wheel zooms about the pointer.  ``region_drawn(left, top, right,
    bottom)`` in shares of the picture, when ``drawing_region`` is set and a rectangle is drawn."""

    region_drawn = Signal(float, float, float, float)
    mode_changed = Signal()

    def __init__(self, tokens: Tokens) -> None:
        super().__init__()
        # What is drawn has its own left and right, whichever way a language runs.
        self.setLayoutDirection(Qt.LayoutDirection.LeftToRight)
        self._tokens = tokens
        self._image: QImage | None = None
        self._before: QImage | None = None
        self._names = NAMES
        self.apart: QImage | None = None
        self.mode = FIT
        self.zoom = 1.0
        #: The place of the picture, in its pixels, that lies in the middle of the view.
        self.middle = QPointF(0, 0)
        self.drawing_region = False
        self._grab: QPointF | None = None
        self._region: QRectF | None = None
        self.setMinimumSize(200, 150)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Picture"))
        self.setToolTip(
            tr("Drag to move the picture, turn the wheel to zoom; 1 shows actual pixels, F the whole")
        )
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)

    @property
    def image(self) -> QImage | None:
        """The picture shown."""
        return self._image

    def show_picture(
        self,
        image: QImage | None,
        before: QImage | None = None,
        keep_place: bool = False,
        names: tuple[str, str] = NAMES,
    ) -> None:
        """Another picture, with its last version where there is one, or with whatever else ``names`` says."""
        self._names = names
        same = (
            keep_place
            and self._image is not None
            and image is not None
            and self._image.size() == image.size()
        )
        self._image, self._before, self.apart = image, before, None
        if image is not None and not same:
            self.middle, self.zoom = QPointF(image.width() / 2, image.height() / 2), 1.0
        if self.mode in (AGAINST, DIFFERENCE) and before is None:
            self.mode = FIT
            self.mode_changed.emit()
        self.update()

    def choose(self, mode: str) -> None:
        """Fit, actual pixels, against the last version, or the difference."""
        if mode in (AGAINST, DIFFERENCE) and self._before is None:
            return
        self.mode = mode
        if mode == ACTUAL:
            self.zoom = 1.0
        self.mode_changed.emit()
        self.update()

    @property
    def has_before(self) -> bool:
        """Whether there is a last version."""
        return self._before is not None

    # ------------------------------------------------------------------ where things lie

    def parts(self) -> list[tuple[QRectF, QImage, str]]:
        whole = QRectF(self.rect())
        image, before = self._image, self._before
        if image is None:
            return []
        if self.mode == AGAINST and before is not None:
            half = whole.width() / 2
            left, right = (
                QRectF(0, 0, half - 1, whole.height()),
                QRectF(half + 1, 0, half - 1, whole.height()),
            )
            return [(left, before, self._names[0]), (right, image, self._names[1])]
        if self.mode == DIFFERENCE and before is not None:
            return [(whole, self._difference(image, before), tr("difference, four times as strong"))]
        return [(whole, image, "")]

    def _difference(self, image: QImage, before: QImage) -> QImage:
        if self.apart is None:
            other = before if before.size() == image.size() else before.scaled(image.size())
            apart = np.abs(pixels_of(image).astype(np.int16) - pixels_of(other)) * 4
            self.apart = image_of(np.clip(apart, 0, 255).astype(np.uint8))
        return self.apart

    def _scale(self, box: QRectF, image: QImage) -> float:
        if self.mode == FIT:
            return min((box.width() - 16) / image.width(), (box.height() - 16) / image.height(), 4.0)
        # Actual pixels are those of the screen, whatever its scale.
        return self.zoom / self.devicePixelRatioF()

    def picture_rect(self) -> QRectF:
        """Where the (first) picture lies in the view."""
        parts = self.parts()
        return self.target(*parts[0][:2]) if parts else QRectF()

    def target(self, box: QRectF, image: QImage) -> QRectF:
        scale = self._scale(box, image)
        wide, high = image.width() * scale, image.height() * scale
        if self.mode == FIT:
            return QRectF(box.center().x() - wide / 2, box.center().y() - high / 2, wide, high)
        # Two versions of different size are panned by the same share.
        share_x = self.middle.x() / max(1, self._image.width()) if self._image is not None else 0.5
        share_y = self.middle.y() / max(1, self._image.height()) if self._image is not None else 0.5
        x, y = box.center().x() - share_x * wide, box.center().y() - share_y * high
        return QRectF(round(x), round(y), wide, high)

    # ------------------------------------------------------------------ painting

    def paintEvent(self, _: QPaintEvent) -> None:
        """The well and what lies in it."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self._tokens.well))
        parts = self.parts()
        if not parts:
            painter.setPen(QColor(self._tokens.band))
            painter.setFont(text_font(10))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, tr("No picture yet"))
        for box, image, name in parts:
            painter.save()
            painter.setClipRect(box)
            target = self.target(box, image)
            if image.hasAlphaChannel():
                self._checks(painter, target.intersected(box))
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, self._scale(box, image) < 1.0)
            painter.drawImage(target, image)
            painter.restore()
            if name:
                paint_caption(painter, box, name, self._tokens, foot=True)
        if self._region is not None:
            painter.setPen(QPen(QColor(self._tokens.band_text), 1.5, Qt.PenStyle.DashLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self._region)
        paint_focus(painter, self, self._tokens)
        painter.end()

    def _checks(self, painter: QPainter, box: QRectF) -> None:
        painter.fillRect(box, QColor("#8A8A8A"))
        side = 10
        for row in range(int(box.height() // side) + 1):
            for column in range(row % 2, int(box.width() // side) + 1, 2):
                cell = QRectF(box.x() + column * side, box.y() + row * side, side, side).intersected(box)
                painter.fillRect(cell, QColor("#7C7C7C"))

    # ------------------------------------------------------------------ hands

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Begin to pan, or to draw a region."""
        if event.button() == Qt.MouseButton.LeftButton and self._image is not None:
            self._grab = event.position()
            if self.drawing_region:
                self._region = QRectF(event.position(), event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Pan, or draw on."""
        if self._grab is None or self._image is None:
            return
        if self.drawing_region:
            self._region = QRectF(self._grab, event.position()).normalized()
        elif self.mode != FIT:
            run = event.position() - self._grab
            self._grab = event.position()
            parts = self.parts()
            scale = self._scale(parts[0][0], self._image)
            x, y = self.middle.x() - run.x() / scale, self.middle.y() - run.y() / scale
            self.middle = QPointF(
                min(self._image.width(), max(0.0, x)), min(self._image.height(), max(0.0, y))
            )
        self.update()

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        """The end of either."""
        if self.drawing_region and self._region is not None:
            box, part = self.picture_rect(), self._region
            shares = (
                (part.left() - box.left()) / box.width(),
                (part.top() - box.top()) / box.height(),
                (part.right() - box.left()) / box.width(),
                (part.bottom() - box.top()) / box.height(),
            )
            left, top, right, bottom = (min(1.0, max(0.0, share)) for share in shares)
            if right - left > 0.005 and bottom - top > 0.005:
                self.region_drawn.emit(left, top, right, bottom)
            self.drawing_region = False
            self._region = None
        self._grab = None
        self.update()

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Zoom in steps about the pointer."""
        if self._image is None:
            return
        parts = self.parts()
        box = next((part for part, _, _ in parts if part.contains(event.position())), parts[0][0])
        target = self.target(box, self._image)
        scale = target.width() / self._image.width()
        anchor = QPointF(
            (event.position().x() - target.x()) / scale, (event.position().y() - target.y()) / scale
        )
        up = event.angleDelta().y() > 0
        now = scale * self.devicePixelRatioF()
        steps = [zoom for zoom in ZOOMS if (zoom > now * 1.001 if up else zoom < now * 0.999)]
        if not steps:
            return
        self.zoom = steps[0] if up else steps[-1]
        if self.mode == FIT:
            self.mode = ACTUAL
            self.mode_changed.emit()
        scale = self.zoom / self.devicePixelRatioF()
        off = event.position() - box.center()
        self.middle = QPointF(anchor.x() - off.x() / scale, anchor.y() - off.y() / scale)
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """1 shows actual pixels, F the whole, arrows pan."""
        steps = {
            Qt.Key.Key_Left: (-1, 0),
            Qt.Key.Key_Right: (1, 0),
            Qt.Key.Key_Up: (0, -1),
            Qt.Key.Key_Down: (0, 1),
        }
        if event.key() == Qt.Key.Key_1:
            self.choose(ACTUAL)
        elif event.key() == Qt.Key.Key_F:
            self.choose(FIT)
        elif event.key() in steps and self._image is not None and self.mode != FIT:
            dx, dy = steps[Qt.Key(event.key())]
            self.middle += QPointF(dx * 60 / self.zoom, dy * 60 / self.zoom)
            self.update()
        else:
            super().keyPressEvent(event)


def paint_focus(painter: QPainter, view: QWidget, tokens: Tokens) -> None:
    """Two rings, seen on light and on dark, round a view in the well that has the keyboard."""
    if view.hasFocus():
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for inset, colour in ((1, tokens.band), (3, tokens.band_text)):
            painter.setPen(QPen(QColor(colour), 1))
            painter.drawRect(view.rect().adjusted(inset, inset, -inset - 1, -inset - 1))


def paint_caption(painter: QPainter, area: QRectF, text: str, tokens: Tokens, foot: bool = False) -> None:
    """What a picture is called, on a band at the top or the foot of where it is shown."""
    painter.setFont(text_font(9))
    metrics = painter.fontMetrics()
    shown = metrics.elidedText(text, Qt.TextElideMode.ElideMiddle, max(40, int(area.width()) - 28))
    wide = metrics.horizontalAdvance(shown) + 16
    band = QRectF(area.center().x() - wide / 2, area.bottom() - 28 if foot else area.top() + 8, wide, 20)
    painter.fillRect(band, QColor(tokens.band))
    painter.setPen(QColor(tokens.band_text))
    painter.drawText(band, Qt.AlignmentFlag.AlignCenter, shown)
