"""The timeline of a walk: pace and turning over time with their comfort limits, pauses, places and flags.

Drag anywhere to scrub; press a flag or a place to go there; drag a place to give it its second.  Flags carry a sign and a number, not only a colour.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QBrush, QColor, QHelpEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QToolTip, QWidget

from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.core.conventions import Floats, parse_rate
from altana.core.project import Limits
from altana.core.walk.checks import Flag
from altana.core.walk.sample import WalkLine

LEFT, RIGHT, TOP, FOOT = 66.0, 16.0, 20.0, 18.0
#: How near, in pixels, a press must come to a flag or a place.
HOLD_PX = 7.0
SAMPLES = 600
OWN_KEYS = (Qt.Key.Key_Home, Qt.Key.Key_End, Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down)


class Timeline(QWidget):
    """Shows one walk line; ``moved(seconds)`` while scrubbing, ``key_chosen(index)`` when a place is pressed."""

    moved = Signal(float)
    key_chosen = Signal(int)
    key_moving = Signal(int, float)
    key_moved = Signal()

    def __init__(self, tokens: Tokens) -> None:
        super().__init__()
        self._tokens = tokens
        self._line: WalkLine | None = None
        self._limits = Limits()
        self._moments: Floats = np.zeros(0)
        self._pace: Floats = np.zeros(0)
        self._turn: Floats = np.zeros(0)
        self.flags: tuple[Flag, ...] = ()
        self.moment = 0.0
        self.key = -1
        self._scrubbing = False
        #: The place whose second is dragged, from where, and whether it has moved.
        self._dragged = -1
        self._from = 0.0
        self._dragging = False
        self.setMinimumHeight(128)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Timeline")
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setToolTip("")

    def sizeHint(self) -> QSize:
        """Room for two graphs."""
        return QSize(600, 150)

    # ------------------------------------------------------------------ what is shown

    def show_line(self, line: WalkLine | None, limits: Limits) -> None:
        """Another walk, or the same changed."""
        self._line, self._limits = line, limits
        if line is not None:
            self._moments = np.linspace(0.0, line.walk.seconds, SAMPLES)
            rows = line.at_seconds(self._moments, parse_rate(line.walk.rate))
            self._pace = line.timing.pace_at(self._moments)
            self._turn = np.abs(np.gradient(rows.heading_deg, self._moments))
        self.update()

    def show_flags(self, flags: Sequence[Flag]) -> None:
        """What the checks found."""
        self.flags = tuple(flags)
        self.update()

    def show_moment(self, seconds: float) -> None:
        """Where the walk is."""
        self.moment = seconds
        self.update()

    def _x(self, seconds: float) -> float:
        whole = self._line.walk.seconds if self._line is not None else 1.0
        return LEFT + (self.width() - LEFT - RIGHT) * seconds / max(whole, 1e-9)

    def _seconds(self, x: float) -> float:
        whole = self._line.walk.seconds if self._line is not None else 1.0
        return min(whole, max(0.0, (x - LEFT) / max(self.width() - LEFT - RIGHT, 1.0) * whole))

    # ------------------------------------------------------------------ painting

    def paintEvent(self, _: QPaintEvent) -> None:
        """Graphs, pauses, places, flags, and the moment."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self._tokens.leaf))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._line is None:
            painter.setFont(text_font(9.5))
            painter.setPen(QColor(self._tokens.pencil))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "No walk yet")
        else:
            self._pauses(painter, self._line)
            high = (self.height() - TOP - FOOT - 8.0) / 2.0
            turning = self._line.walk.turntable is not None
            # A turntable is no walk: how fast it goes by is a matter of its radius, not of comfort.
            self._graph(painter, TOP, high, self._pace, 0.0 if turning else self._limits.pace_m_s, "pace", "m/s", 1)
            self._graph(painter, TOP + high + 8.0, high, self._turn, self._limits.turn_deg_s, "turning", "°/s", 0)
            self._places(painter, self._line)
            self._axis(painter, self._line)
            self._flags(painter)
            x = self._x(self.moment)
            painter.setPen(QPen(QColor(self._tokens.verdigris), 2.0))
            painter.drawLine(QPointF(x, TOP - 4), QPointF(x, self.height() - FOOT + 3))
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(QColor(self._tokens.ink), 1))
            painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -1.5, -1.5))
        painter.end()

    def _graph(self, painter: QPainter, top: float, high: float, values: Floats, limit: float, name: str, unit: str, decimals: int) -> None:
        most = max(float(values.max()) * 1.08 if len(values) else 0.0, limit * 1.15, 1e-6)
        painter.setFont(text_font(8))
        painter.setPen(QColor(self._tokens.pencil))
        painter.drawText(QRectF(4, top, LEFT - 10, 13), Qt.AlignmentFlag.AlignRight, name)
        worst = float(values.max()) if len(values) else 0.0
        painter.drawText(QRectF(4, top + 13, LEFT - 10, 13), Qt.AlignmentFlag.AlignRight, f"{worst:.{decimals}f} {unit}")
        bottom = top + high
        painter.setPen(QPen(QColor(self._tokens.rule), 1.0))
        painter.drawLine(QPointF(LEFT, bottom), QPointF(self.width() - RIGHT, bottom))
        if limit > 0:
            y = bottom - high * limit / most
            painter.setPen(QPen(QColor(self._tokens.brick), 1.0, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(LEFT, y), QPointF(self.width() - RIGHT, y))
        points = [QPointF(self._x(s), bottom - high * v / most) for s, v in zip(self._moments.tolist(), values.tolist(), strict=True)]
        wash = QColor(self._tokens.verdigris)
        wash.setAlpha(36)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(wash)
        painter.drawPolygon(QPolygonF([QPointF(points[0].x(), bottom), *points, QPointF(points[-1].x(), bottom)]))
        painter.setPen(QPen(QColor(self._tokens.verdigris), 1.5))
        painter.drawPolyline(QPolygonF(points))

    def _pauses(self, painter: QPainter, line: WalkLine) -> None:
        painter.setPen(Qt.PenStyle.NoPen)
        shade = QColor(self._tokens.pencil)
        shade.setAlpha(110)
        painter.setBrush(QBrush(shade, Qt.BrushStyle.BDiagPattern))
        for begin, end in line.timing.dwells.tolist():
            painter.drawRect(QRectF(self._x(begin), TOP, self._x(end) - self._x(begin), self.height() - TOP - FOOT))

    def _places(self, painter: QPainter, line: WalkLine) -> None:
        for index, second in enumerate(line.timing.key_s.tolist() if line.walk.turntable is None else []):
            x = self._x(second)
            chosen = index == self.key
            painter.setPen(QPen(QColor(self._tokens.verdigris if chosen else self._tokens.pencil), 2.0 if chosen else 1.0))
            painter.drawLine(QPointF(x, self.height() - FOOT - 3), QPointF(x, self.height() - FOOT + 4))
            # A place with a second of its own is a square, one that the pace decides a dot.
            painter.setBrush(QColor(self._tokens.verdigris if chosen else self._tokens.leaf))
            box = QRectF(x - 3.5, self.height() - FOOT - 10, 7, 7)
            if line.walk.keys[index].at_s is not None:
                painter.drawRect(box)
            else:
                painter.drawEllipse(box)

    def _axis(self, painter: QPainter, line: WalkLine) -> None:
        painter.setFont(text_font(8))
        painter.setPen(QColor(self._tokens.pencil))
        whole = line.walk.seconds
        step = next((s for s in (0.5, 1, 2, 5, 10, 20, 30, 60, 120, 300, 600) if whole / s <= 14), 1200)
        for number in range(math.floor(whole / step) + 1):
            x = self._x(number * step)
            painter.drawLine(QPointF(x, self.height() - FOOT + 1), QPointF(x, self.height() - FOOT + 5))
            painter.drawText(QRectF(x - 30, self.height() - 13, 60, 12), Qt.AlignmentFlag.AlignCenter, f"{number * step:g} s")

    def _flags(self, painter: QPainter) -> None:
        painter.setFont(text_font(8))
        for number, flag in enumerate(self.flags, 1):
            x, begin, end = self._x(flag.worst_s), self._x(flag.begin_s), self._x(flag.end_s)
            painter.setPen(QPen(QColor(self._tokens.brick), 2.0))
            painter.drawLine(QPointF(begin, 16), QPointF(max(end, begin + 2), 16))
            painter.setPen(QPen(QColor(self._tokens.brick), 1.2))
            painter.setBrush(QColor(self._tokens.leaf))
            box = QRectF(x - 11, 1, 22, 13)
            painter.drawRoundedRect(box, 3, 3)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, f"! {number}")

    # ------------------------------------------------------------------ hands

    def _flag_at(self, at: QPointF) -> Flag | None:
        near = [(abs(self._x(flag.worst_s) - at.x()), number) for number, flag in enumerate(self.flags)] if at.y() < TOP else []
        away, number = min(near, default=(math.inf, -1))
        return self.flags[number] if away <= 11.0 else None

    def _key_at(self, at: QPointF) -> int:
        if self._line is None or self._line.walk.turntable is not None or at.y() < self.height() - FOOT - 13:
            return -1
        near = [(abs(self._x(second) - at.x()), index) for index, second in enumerate(self._line.timing.key_s.tolist())]
        away, index = min(near)
        return index if away <= HOLD_PX else -1

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Go to a flag or a place, or begin to scrub."""
        if self._line is None or event.button() != Qt.MouseButton.LeftButton:
            return
        flag, key = self._flag_at(event.position()), self._key_at(event.position())
        if flag is not None:
            self.moved.emit(flag.worst_s)
        elif key >= 0:
            self.choose_key(key)
            inner = 0 < key < len(self._line.walk.keys) - 1
            self._dragged, self._from, self._dragging = key if inner else -1, event.position().x(), False
        else:
            self._scrubbing = True
            self.moved.emit(self._seconds(event.position().x()))

    def choose_key(self, index: int) -> None:
        """Choose a place and go there."""
        if self._line is None or not 0 <= index < len(self._line.walk.keys):
            return
        self.key = index
        self.key_chosen.emit(index)
        self.moved.emit(float(self._line.timing.key_s[index]))

    def step_key(self, step: int) -> None:
        """Choose the place so many further on; the ends hold."""
        if self._line is not None:
            self.choose_key(min(len(self._line.walk.keys) - 1, max(0, self.key + step)))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Scrub."""
        if self._scrubbing:
            self.moved.emit(self._seconds(event.position().x()))
        elif self._dragged >= 0 and self._line is not None:
            self._dragging |= abs(event.position().x() - self._from) > 3.0
            if self._dragging:
                # Held by film frames: a place is passed in one, not between two.
                frame = 1.0 / float(parse_rate(self._line.walk.rate))
                self.key_moving.emit(self._dragged, round(self._seconds(event.position().x()) / frame) * frame)

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        """The end of scrubbing, or of dragging a place in time."""
        self._scrubbing = False
        if self._dragging:
            self.key_moved.emit()
        self._dragged, self._dragging = -1, False

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right go by a film frame (Shift: a second), Home and End to the ends, up and down from place to place."""
        if self._line is None:
            super().keyPressEvent(event)
            return
        frame = 1.0 / float(parse_rate(self._line.walk.rate))
        step = 1.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else frame
        whole = self._line.walk.seconds
        key = event.key()
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.moved.emit(min(whole, max(0.0, self.moment + (step if key == Qt.Key.Key_Right else -step))))
        elif key in (Qt.Key.Key_Home, Qt.Key.Key_End):
            self.moved.emit(0.0 if key == Qt.Key.Key_Home else whole)
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.step_key(1 if key == Qt.Key.Key_Up else -1)
        else:
            super().keyPressEvent(event)

    def event(self, event) -> bool:  # type: ignore[no-untyped-def]
        """What a flag says, under the pointer."""
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent) and event.key() in OWN_KEYS:
            # Home means the beginning here, not what it means in the rest of the window.
            event.accept()
            return True
        if isinstance(event, QHelpEvent):
            flag = self._flag_at(QPointF(event.pos()))
            QToolTip.showText(
                event.globalPos(), flag.sentence if flag is not None else "Drag to scrub; press a flag or a place to go there", self
            )
            return True
        return bool(super().event(event))
