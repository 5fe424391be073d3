"""What Plan and Section share: a sheet in metres that can be moved and zoomed, real cuts on it, tags and
dimensions."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from PySide6.QtCore import QPointF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QPainter, QPen, QPixmap, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

from altana.app.canvas.gestures.sheet import SheetGesture
from altana.app.canvas.marks import Marks
from altana.app.canvas.paths import Paths
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.workspace.soon import Soon
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import Floats, Vec2

FARTHEST_SEEN_M = 60.0
FINEST, COARSEST = 400.0, 0.4


class Sheet(QWidget):
    """Base of Plan and Section.  Subclasses say what is drawn over the cut and what can be dragged."""

    pointed = Signal(str)
    title = ""

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__()
        # What is drawn has its own left and right, whichever way a language runs.
        self.setLayoutDirection(Qt.LayoutDirection.LeftToRight)
        self._workspace = workspace
        self._bridge, self._state, self._studio, self._tokens = bridge, state, studio, tokens
        self.marks = Marks(self, tokens)
        self.paths = Paths(self, self.repaint_base)
        self._base: QPixmap | None = None
        self._scale, self.centre = 20.0, (5.0, 8.0)
        #: What is being dragged of the shown camera.
        self.gesture: SheetGesture | None = None
        self._pan: tuple[QPointF, Vec2] | None = None
        #: Where the pointer is, metres.
        self.pointer: Vec2 | None = None
        self.setMouseTracking(True)
        self.setMinimumSize(200, 140)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(self.title)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self._redraw = Soon(self, 30, self.repaint_base)

    # ------------------------------------------------------------------ drags

    def let_go(self) -> None:
        """The end of a drag: one undo step."""
        gesture, self.gesture = self.gesture, None
        if gesture is not None:
            gesture.finish()

    def drop_drag(self) -> None:
        """As if nothing had been dragged."""
        gesture, self.gesture = self.gesture, None
        if gesture is not None:
            gesture.cancel()

    # ------------------------------------------------------------------ coordinates

    @property
    def px_per_m(self) -> float:
        """How many pixels a metre takes."""
        return self._scale

    @property
    def panning(self) -> bool:
        """Whether the sheet is being moved."""
        return self._pan is not None

    @property
    def base_key(self) -> int:
        """Another for every drawing painted."""
        return id(self._base)

    def to_screen(self, x: float, y: float) -> QPointF:
        """Metres on the sheet to pixels of the widget."""
        return QPointF(
            self.width() / 2 + (x - self.centre[0]) * self._scale,
            self.height() / 2 - (y - self.centre[1]) * self._scale,
        )

    def on_screen(self, places: Floats) -> list[QPointF]:
        """Pixels of the widget of places (n, 2) in metres on the sheet, all at once."""
        x = self.width() / 2 + (places[:, 0] - self.centre[0]) * self._scale
        y = self.height() / 2 - (places[:, 1] - self.centre[1]) * self._scale
        return [QPointF(*place) for place in np.column_stack([x, y]).tolist()]

    def to_world(self, point: QPointF) -> Vec2:
        """Pixels of the widget to metres on the sheet."""
        return (
            self.centre[0] + (point.x() - self.width() / 2) / self._scale,
            self.centre[1] - (point.y() - self.height() / 2) / self._scale,
        )

    def fit_to(self, points: Sequence[Sequence[float]] | Floats) -> None:
        """Show all of these places, metres on the sheet."""
        low, high = np.min(points, axis=0), np.max(points, axis=0)
        self.centre = (float((low[0] + high[0]) / 2), float((low[1] + high[1]) / 2))
        size = np.maximum(high - low, 2.0) * 1.18 + 1.0
        # Plain numbers: what is read off the sheet goes into the project and its file.
        self._scale = float(max(COARSEST, min((self.width() - 20) / size[0], (self.height() - 40) / size[1])))
        self.repaint_base()

    def zoom(self, factor: float, about: QPointF | None = None) -> None:
        """Zoom about a place of the widget, or its middle."""
        at = about or QPointF(self.width() / 2, self.height() / 2)
        before = self.to_world(at)
        self._scale = min(FINEST, max(COARSEST, self._scale * factor))
        after = self.to_world(at)
        self.centre = (self.centre[0] + before[0] - after[0], self.centre[1] + before[1] - after[1])
        self.repaint_base()

    def _pan_to(self, at: QPointF) -> None:
        if self._pan is not None:
            start, centre = self._pan
            self.centre = (
                centre[0] - (at.x() - start.x()) / self._scale,
                centre[1] + (at.y() - start.y()) / self._scale,
            )
            self.repaint_base()

    # ------------------------------------------------------------------ painting

    def repaint_base(self) -> None:
        """The drawing itself is painted once for each view of it; cameras go on top."""
        ratio = self.devicePixelRatioF()
        base = QPixmap(round(self.width() * ratio), round(self.height() * ratio))
        base.setDevicePixelRatio(ratio)
        base.fill(QColor(self._tokens.leaf))
        painter = QPainter(base)
        painter.translate(self.width() / 2, self.height() / 2)
        painter.scale(self._scale, -self._scale)
        painter.translate(-self.centre[0], -self.centre[1])
        pencil = QColor(self._tokens.pencil)
        for lines, alpha in ((self.paths.fine, 105 if self._scale > 90.0 else 34), (self.paths.beyond, 105)):
            pencil.setAlpha(alpha)
            painter.setPen(_cosmetic(pencil, 1.0))
            lines.paint(painter)
        painter.setPen(_cosmetic(QColor(self._tokens.reference), 1.0))
        self.paths.lines.paint(painter)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(_cosmetic(QColor(self._tokens.ink), 1.0))
        painter.setBrush(QColor(self._tokens.leaf))
        painter.drawPath(self.paths.glass)
        painter.setBrush(QColor(self._tokens.ink))
        painter.drawPath(self.paths.cut)
        painter.resetTransform()
        self._lettering(painter)
        painter.end()
        self._base = base
        self.update()

    def _lettering(self, painter: QPainter) -> None:
        """Names that belong to the drawing."""

    def _paint_ground(self, painter: QPainter, waiting: str) -> None:
        if self._base is None:
            painter.fillRect(self.rect(), QColor(self._tokens.leaf))
            painter.setPen(QColor(self._tokens.pencil))
            painter.setFont(text_font(9.5))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, waiting)
        else:
            painter.drawPixmap(0, 0, self._base)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)

    # ------------------------------------------------------------------ events

    def resizeEvent(self, _: QResizeEvent) -> None:
        """Paint the drawing again for the new size."""
        self._redraw.start()

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Zoom about the pointer."""
        self.zoom(1.0015 ** event.angleDelta().y(), event.position())

    def _zoom_key(self, event: QKeyEvent) -> bool:
        if event.key() in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.zoom(1.25)
        elif event.key() == Qt.Key.Key_Minus:
            self.zoom(0.8)
        else:
            return False
        return True


def _cosmetic(colour: QColor, width: float) -> QPen:
    pen = QPen(colour, width)
    pen.setCosmetic(True)
    return pen
