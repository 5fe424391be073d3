"""Looking round in a panorama: drag turns, the wheel changes the angle of view, the arrow keys step.

The picture is worked out for the window's size from the 2:1 picture, a table of directions at a time; coarser
while it is turned, full when it rests.
"""

from __future__ import annotations

import math

import numpy as np
import numpy.typing as npt
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

from altana.app.canvas.picture_view import image_of, paint_caption, paint_focus, pixels_of
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.app.workspace.soon import Soon
from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.render.panorama import pixel_of

NARROWEST_DEG, WIDEST_DEG = 20.0, 110.0
REST_MS = 120
COARSER = 3


class LookRound(QWidget):
    """Shows a panorama as seen from its middle; ``turned(heading, tilt)`` in degrees against the panorama's
    own middle."""

    turned = Signal(float, float)

    def __init__(self, tokens: Tokens) -> None:
        super().__init__()
        # What is drawn has its own left and right, whichever way a language runs.
        self.setLayoutDirection(Qt.LayoutDirection.LeftToRight)
        self._tokens = tokens
        self.pixels: np.ndarray | None = None
        self._shown: QImage | None = None
        self._shown_for: tuple[object, ...] = ()
        self.heading_deg, self.tilt_deg, self.angle_deg = 0.0, 0.0, 75.0
        #: The heading of the panorama's middle, and what it is called where two are beside each other.
        self.front_deg, self.caption = 0.0, ""
        #: Another panorama that is turned with this one, to the same point of the compass.
        self.peer: LookRound | None = None
        self._grab: QPointF | None = None
        self._resting = True
        self._rest = Soon(self, REST_MS, self._rested)
        self.setMinimumSize(200, 150)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Look round"))
        self.setToolTip(
            tr("Drag to look round, turn the wheel for the angle of view; arrow keys turn by ten degrees")
        )
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)

    def show_panorama(
        self, image: QImage | None, stereo: bool = False, front_deg: float = 0.0, caption: str = ""
    ) -> None:
        """Another panorama; of a stereo pair the left eye's, which lies above.  front_deg : the heading of
        its middle."""
        self.front_deg, self.caption = front_deg, caption
        self.pixels = None
        if image is not None:
            pixels = pixels_of(image)
            self.pixels = pixels[: pixels.shape[0] // 2] if stereo else pixels
        self.heading_deg, self.tilt_deg, self.angle_deg = 0.0, 0.0, 75.0
        self._shown_for = ()
        self.update()

    def show_toned(self, image: QImage) -> None:
        """The same panorama in another tone: one keeps looking where one looked.  Of a stereo pair the left
        eye's is shown."""
        pixels = pixels_of(image)
        self.pixels = pixels[: pixels.shape[0] // 2] if pixels.shape[0] == pixels.shape[1] else pixels
        self._shown_for = ()
        self.update()

    def turn(self, heading_deg: float, tilt_deg: float) -> None:
        """Look that way."""
        self.heading_deg, self.tilt_deg = heading_deg % 360.0, min(90.0, max(-90.0, tilt_deg))
        self._resting = False
        self._rest.start()
        self.turned.emit(self.heading_deg, self.tilt_deg)
        self._with_peer()
        self.update()

    def zoom(self, angle_deg: float) -> None:
        """With another angle of view."""
        self.angle_deg = min(WIDEST_DEG, max(NARROWEST_DEG, angle_deg))
        self._resting = False
        self._rest.start()
        self._with_peer()
        self.update()

    def _with_peer(self) -> None:
        """The other one looks the same way, as wide."""
        peer = self.peer
        turned = (self.heading_deg + self.front_deg - (peer.front_deg if peer is not None else 0.0)) % 360.0
        mine = (turned, self.tilt_deg, self.angle_deg)
        if peer is not None and mine != (peer.heading_deg, peer.tilt_deg, peer.angle_deg):
            peer.heading_deg, peer.tilt_deg, peer.angle_deg = mine
            peer.move_on()

    def move_on(self) -> None:
        """It is turned: coarse now, fine once it rests."""
        self._resting = False
        self._rest.start()
        self.update()

    def _rested(self) -> None:
        self._resting = True
        self.update()

    def picture(self, width: int, height: int) -> np.ndarray:
        """What is seen, (height, width, 3) uint8."""
        assert self.pixels is not None
        focal = 18.0 / math.tan(math.radians(self.angle_deg) / 2.0)
        view = View(Pose((0.0, 0.0, 0.0), self.heading_deg, self.tilt_deg), Lens(focal, 36.0), width, height)
        y, x = np.mgrid[0:height, 0:width]
        along = view.rays(np.column_stack([x.ravel() + 0.5, y.ravel() + 0.5]))
        high, wide = self.pixels.shape[:2]
        at = pixel_of(along, wide, high, 0.0)
        if not self._resting:
            columns, rows = at[:, 0].astype(int) % wide, np.clip(at[:, 1].astype(int), 0, high - 1)
            nearest: npt.NDArray[np.uint8] = self.pixels[rows, columns]
            return nearest.reshape(height, width, 3)
        # Between pixels, once it rests.
        x, y = at[:, 0] - 0.5, np.clip(at[:, 1] - 0.5, 0.0, high - 1.001)
        left, top = np.floor(x).astype(int), np.floor(y).astype(int)
        across, down = (x - left)[:, None].astype(np.float32), (y - top)[:, None].astype(np.float32)
        a, b = left % wide, (left + 1) % wide
        upper = self.pixels[top, a] * (1.0 - across) + self.pixels[top, b] * across
        lower = self.pixels[top + 1, a] * (1.0 - across) + self.pixels[top + 1, b] * across
        blended: npt.NDArray[np.uint8] = np.rint(upper * (1.0 - down) + lower * down).astype(np.uint8)
        return blended.reshape(height, width, 3)

    def paintEvent(self, _: QPaintEvent) -> None:
        """What is seen."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self._tokens.well))
        if self.pixels is None:
            painter.setFont(text_font(10))
            painter.setPen(QColor(self._tokens.band))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, tr("No panorama chosen"))
        else:
            coarser = 1 if self._resting else COARSER
            size = (max(2, self.width() // coarser), max(2, self.height() // coarser))
            wanted = (self.heading_deg, self.tilt_deg, self.angle_deg, size)
            if self._shown is None or self._shown_for != wanted:
                self._shown, self._shown_for = image_of(self.picture(*size)), wanted
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(self.rect(), self._shown)
            text = tr(
                "{heading_deg:.0f}° · {angle_deg:.0f}° wide",
                heading_deg=self.heading_deg,
                angle_deg=self.angle_deg,
            )
            painter.setFont(text_font(9))
            wide = painter.fontMetrics().horizontalAdvance(text) + 16
            painter.fillRect(self.width() - wide - 8, self.height() - 28, wide, 20, QColor(self._tokens.band))
            painter.setPen(QColor(self._tokens.band_text))
            painter.drawText(
                self.width() - wide - 8, self.height() - 28, wide, 20, Qt.AlignmentFlag.AlignCenter, text
            )
            if self.peer is not None and self.peer.isVisible():
                paint_caption(painter, QRectF(self.rect()), self.caption, self._tokens)
        paint_focus(painter, self, self._tokens)
        painter.end()

    # ------------------------------------------------------------------ hands

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold."""
        self._grab = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """What was taken hold of stays under the pointer."""
        if self._grab is None:
            return
        run = event.position() - self._grab
        self._grab = event.position()
        a_pixel = self.angle_deg / max(1, self.width())
        self.turn(self.heading_deg - run.x() * a_pixel, self.tilt_deg + run.y() * a_pixel)

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        """Let go."""
        self._grab = None

    def wheelEvent(self, event: QWheelEvent) -> None:
        """The angle of view."""
        self.zoom(self.angle_deg * 0.9 ** (event.angleDelta().y() / 120.0))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows turn by ten degrees, plus and minus change the angle of view."""
        steps = {
            Qt.Key.Key_Left: (-10, 0),
            Qt.Key.Key_Right: (10, 0),
            Qt.Key.Key_Up: (0, 10),
            Qt.Key.Key_Down: (0, -10),
        }
        if event.key() in steps:
            heading, tilt = steps[Qt.Key(event.key())]
            self.turn(self.heading_deg + heading, self.tilt_deg + tilt)
        elif event.key() in (Qt.Key.Key_Plus, Qt.Key.Key_Minus):
            self.zoom(self.angle_deg * (0.85 if event.key() == Qt.Key.Key_Plus else 1.0 / 0.85))
        else:
            super().keyPressEvent(event)
