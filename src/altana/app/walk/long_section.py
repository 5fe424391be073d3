"""The long section of a walk: floors, stairs and ceilings along the whole route, with the eye's line and its
places.

Drag to scrub; press a place to choose it; a place whose height is set by hand is dragged up and down.
"""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap, QPolygonF
from PySide6.QtWidgets import QWidget

from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.app.walk.timeline import Timeline
from altana.app.walk.timeline_chart import LEFT, RIGHT
from altana.core.conventions import Floats
from altana.core.model import Model
from altana.core.walk.sample import WalkLine
from altana.core.walk.unrolled import Unrolled

TOP, FOOT = 5.0, 17.0
HOLD_PX = 8.0
#: What is cut is at least so wide and high, pixels.
LEAST_PX = (0.5, 0.8)


class LongSection(QWidget):
    """Shows what was unrolled of one walk line.  ``moved(seconds)`` while scrubbing; ``lifting(index,
    metres)`` and ``lifted()`` while a place is dragged up or down."""

    moved = Signal(float)
    lifting = Signal(int, float)
    lifted = Signal()

    def __init__(self, tokens: Tokens, timeline: Timeline) -> None:
        super().__init__()
        self._tokens, self._timeline = tokens, timeline
        self._line: WalkLine | None = None
        self._model: Model | None = None
        self.sheet: Unrolled | None = None
        self._drawn: QPixmap | None = None
        self._drawn_for: tuple[object, ...] = ()
        self._scrubbing = False
        self._lifted = -1
        self.setMinimumHeight(84)
        self.setAccessibleName(tr("Long section"))
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setToolTip(tr("The building along the whole route. Drag to scrub; press a place to choose it"))

    def sizeHint(self) -> QSize:
        """Room for two storeys."""
        return QSize(600, 138)

    def show_line(self, line: WalkLine | None, model: Model | None) -> None:
        """The walk as it is now; the cut that is known stays until the new one comes."""
        self._line, self._model = line, model
        self.update()

    def show_sheet(self, sheet: Unrolled | None) -> None:
        """What was cut along the route."""
        self.sheet = sheet
        self.update()

    # ------------------------------------------------------------------ places on the sheet

    @property
    def _length(self) -> float:
        return max(self._line.route.length_m, 1e-6) if self._line is not None else 1.0

    @property
    def reach(self) -> tuple[float, float]:
        """The lowest and the highest level shown, metres."""
        if self.sheet is not None:
            return self.sheet.low_m, self.sheet.high_m
        if self._line is None:
            return 0.0, 3.0
        z = self._line.route.points[:, 2]
        return float(z.min()) - 2.3, float(z.max()) + 1.6

    def x_of(self, along_m: float) -> float:
        return LEFT + (self.width() - LEFT - RIGHT) * along_m / self._length

    def _y(self, z: float) -> float:
        low, high = self.reach
        return TOP + (self.height() - TOP - FOOT) * (high - z) / max(high - low, 1e-6)

    def _on_sheet(self, places: Floats, stretch: float = 1.0) -> Floats:
        """(…, 2) pixels of places (…, 2) given by metres along the walk, stretched, and height: thousands at
        once."""
        low, high = self.reach
        wide, tall = self.width() - LEFT - RIGHT, self.height() - TOP - FOOT
        x = LEFT + wide / self._length * stretch * places[..., 0]
        y = TOP + tall / max(high - low, 1e-6) * (high - places[..., 1])
        return np.stack([x, y], axis=-1)

    def _along(self, x: float) -> float:
        return min(self._length, max(0.0, (x - LEFT) / max(self.width() - LEFT - RIGHT, 1.0) * self._length))

    def _height(self, y: float) -> float:
        low, high = self.reach
        return high - (y - TOP) / max(self.height() - TOP - FOOT, 1.0) * (high - low)

    def place_of_key(self, index: int) -> QPointF:
        """Where a place lies on the widget."""
        assert self._line is not None
        along = float(self._line.route.key_m[index])
        return QPointF(self.x_of(along), self._y(float(self._line.route.at(np.array([along]))[0, 2])))

    # ------------------------------------------------------------------ painting

    def paintEvent(self, _: QPaintEvent) -> None:
        """Cut, storeys, rooms, the eye's line, places, flags and the moment."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self._tokens.leaf))
        if self._line is None or self._line.walk.turntable is not None:
            painter.setFont(text_font(9.5))
            painter.setPen(QColor(self._tokens.pencil))
            text = (
                tr("A turntable goes round level: it has no long section")
                if self._line is not None
                else tr("No walk yet")
            )
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, text)
            painter.end()
            return
        if self.sheet is not None:
            painter.drawPixmap(0, 0, self._cut())
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._storeys(painter)
        self._route(painter, self._line)
        painter.end()

    def _cut(self) -> QPixmap:
        """The cut itself, drawn once for a size."""
        ratio = self.devicePixelRatioF()
        wanted = (self.sheet, self.width(), self.height(), ratio, self._length, self._tokens.name)
        if self._drawn is not None and self._drawn_for == wanted:
            return self._drawn
        sheet = self.sheet
        assert sheet is not None
        picture = QPixmap(round(self.width() * ratio), round(self.height() * ratio))
        picture.setDevicePixelRatio(ratio)
        picture.fill(QColor(self._tokens.leaf))
        painter = QPainter(picture)
        stretch = self._length / max(sheet.length_m, 1e-6)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(self._tokens.ink))
        # From the upper left to the lower right corner.
        corners = self._on_sheet(sheet.solid[:, [0, 3, 1, 2]].reshape(-1, 2, 2).astype(float), stretch)
        size = np.maximum(corners[:, 1] - corners[:, 0], LEAST_PX)
        painter.drawRects([QRectF(*box) for box in np.concatenate([corners[:, 0], size], axis=1).tolist()])
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for lines, colour in ((sheet.lines, self._tokens.pencil), (sheet.panes, self._tokens.verdigris)):
            painter.setPen(QPen(QColor(colour), 0.8))
            ends = self._on_sheet(lines.astype(float), stretch).reshape(-1, 4)
            painter.drawLines([QLineF(*line) for line in ends.tolist()])
        painter.fillRect(QRectF(0, 0, self.width(), TOP), QColor(self._tokens.leaf))
        painter.fillRect(QRectF(0, self.height() - FOOT, self.width(), FOOT), QColor(self._tokens.leaf))
        painter.end()
        self._drawn, self._drawn_for = picture, wanted
        return picture

    def _storeys(self, painter: QPainter) -> None:
        painter.setFont(text_font(8))
        low, high = self.reach
        for storey in self._model.storeys if self._model is not None else ():
            if low <= storey.elevation_m <= high:
                y = self._y(storey.elevation_m)
                painter.setPen(QPen(QColor(self._tokens.rule), 1.0, Qt.PenStyle.DashDotLine))
                painter.drawLine(QPointF(LEFT - 6, y), QPointF(self.width() - RIGHT, y))
                painter.setPen(QColor(self._tokens.pencil))
                name = painter.fontMetrics().elidedText(
                    storey.name, Qt.TextElideMode.ElideRight, int(LEFT - 12)
                )
                painter.drawText(QRectF(4, y - 14, LEFT - 10, 13), Qt.AlignmentFlag.AlignRight, name)
        painter.setPen(QColor(self._tokens.pencil))
        for begin, end, name in self.sheet.rooms if self.sheet is not None else ():
            box = QRectF(
                self.x_of(begin), self.height() - FOOT + 2, self.x_of(end) - self.x_of(begin), FOOT - 3
            )
            painter.drawLine(box.topLeft(), box.topLeft() + QPointF(0, 6))
            text = painter.fontMetrics().elidedText(
                name, Qt.TextElideMode.ElideRight, max(0, int(box.width() - 8))
            )
            painter.drawText(
                box.adjusted(4, 0, 0, 0), Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, text
            )

    def _route(self, painter: QPainter, line: WalkLine) -> None:
        green = QColor(self._tokens.verdigris)
        along = np.linspace(0.0, self._length, 400)
        places = self._on_sheet(np.column_stack([along, line.route.at(along)[:, 2]]))
        painter.setPen(QPen(green, 2.2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in places.tolist()]))
        painter.setPen(QPen(green, 1.6))
        for index in range(len(line.walk.keys)):
            painter.setBrush(green if index in self._timeline.keys else QColor(self._tokens.leaf))
            painter.drawEllipse(self.place_of_key(index), 3.8, 3.8)
        painter.setFont(text_font(8))
        for number, flag in enumerate(self._timeline.flags, 1):
            distance = float(line.timing.distance_at(np.array([flag.worst_s]))[0])
            at = QPointF(self.x_of(distance), self._y(flag.place[2]))
            painter.setPen(QPen(QColor(self._tokens.brick), 1.2))
            painter.setBrush(QColor(self._tokens.leaf))
            box = QRectF(at.x() - 10, max(TOP, at.y() - 21), 20, 13)
            painter.drawRoundedRect(box, 3, 3)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, f"!{number}")
        distance = float(line.timing.distance_at(np.array([self._timeline.moment]))[0])
        x, z = self.x_of(distance), float(line.route.at(np.array([distance]))[0, 2])
        painter.setPen(QPen(green, 1.0))
        painter.drawLine(QPointF(x, TOP), QPointF(x, self.height() - FOOT))
        painter.setPen(QPen(QColor(self._tokens.ink), 1.5))
        painter.setBrush(green)
        painter.drawEllipse(QPointF(x, self._y(z)), 5.5, 5.5)

    # ------------------------------------------------------------------ hands

    def _key_at(self, at: QPointF) -> int:
        if self._line is None or self._line.walk.turntable is not None:
            return -1
        away = []
        for index in range(len(self._line.walk.keys)):
            off = self.place_of_key(index) - at
            away.append((math.hypot(off.x(), off.y()), index))
        nearest, index = min(away)
        return index if nearest <= HOLD_PX else -1

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose a place, or begin to scrub."""
        if (
            self._line is None
            or self._line.walk.turntable is not None
            or event.button() != Qt.MouseButton.LeftButton
        ):
            return
        key = self._key_at(event.position())
        if key >= 0:
            self._timeline.choose_key(key)
            if not self._line.walk.follow_floor and not self._line.walk.locked:
                self._lifted = key
        else:
            self._scrubbing = True
            self._scrub(event.position().x())

    def _scrub(self, x: float) -> None:
        if self._line is not None:
            self.moved.emit(float(self._line.timing.second_at(np.array([self._along(x)]))[0]))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Scrub, or lift a place."""
        if self._lifted >= 0:
            self.lifting.emit(self._lifted, self._height(event.position().y()))
        elif self._scrubbing:
            self._scrub(event.position().x())

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        """The end of either."""
        self._scrubbing = False
        if self._lifted >= 0:
            self._lifted = -1
            self.lifted.emit()
