"""The timeline of a walk: pace and turning over time with their comfort limits, spans of looking, pauses, places, flags.

Drag anywhere to scrub; press a flag or a place to go there; drag a place to give it its second, or an end of a span of
looking to make it longer.  Control adds places to the chosen ones, Shift those between.  The wheel zooms about the
pointer, Shift and wheel go along.  Flags carry a sign and a number, not only a colour.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QBrush,
    QColor,
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QWheelEvent,
)
from PySide6.QtWidgets import QToolTip, QWidget

from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.core.conventions import Floats, parse_rate
from altana.core.project import AHEAD, POINT, Limits, Look
from altana.core.walk.checks import Flag
from altana.core.walk.sample import WalkLine

LEFT, RIGHT, TOP, FOOT = 66.0, 16.0, 20.0, 18.0
#: The lane of looking, above the places.
LANE_PX, PLACES_PX = 13.0, 13.0
#: The timeline shows at least so much of a walk, in seconds.
SHORTEST_S = 0.5
#: How near, in pixels, a press must come to a flag or a place.
HOLD_PX = 7.0
SAMPLES = 600
OWN_KEYS = (
    Qt.Key.Key_Home,
    Qt.Key.Key_End,
    Qt.Key.Key_Left,
    Qt.Key.Key_Right,
    Qt.Key.Key_Up,
    Qt.Key.Key_Down,
    Qt.Key.Key_Plus,
    Qt.Key.Key_Minus,
    Qt.Key.Key_0,
    Qt.Key.Key_Delete,
)
#: With Control: choose all, copy, put in; with Shift too the camera only.
OWN_CONTROL_KEYS = (Qt.Key.Key_A, Qt.Key.Key_C, Qt.Key.Key_V)


class Timeline(QWidget):
    """Shows one walk line; ``moved(seconds)`` while scrubbing, ``key_chosen(index)`` when a place is pressed."""

    moved = Signal(float)
    key_chosen = Signal(int)
    key_moving = Signal(int, float)
    key_moved = Signal()
    look_chosen = Signal(int)
    look_moving = Signal(int, float, float)
    look_moved = Signal()
    copy_wanted = Signal()
    paste_wanted = Signal(bool)
    remove_wanted = Signal()
    zoomed = Signal()

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
        #: The place that was chosen last, and all that are chosen.
        self.key = -1
        self.keys: frozenset[int] = frozenset()
        self.look = -1
        #: The part of the walk that is shown, seconds.
        self.shown: tuple[float, float] = (0.0, 1.0)
        self._grip: tuple[int, int] | None = None
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
        before, self._line, self._limits = self._line, line, limits
        if line is not None:
            if before is None or before.walk.id != line.walk.id:
                self.key, self.keys, self.look = -1, frozenset(), -1
                self.shown = (0.0, line.walk.seconds)
            elif before.walk.seconds != line.walk.seconds:
                whole = self.shown[1] - self.shown[0] > before.walk.seconds - 1e-6
                begin, end = (0.0, line.walk.seconds) if whole else self.shown
                self.shown = (
                    min(begin, max(0.0, line.walk.seconds - SHORTEST_S)),
                    min(end, line.walk.seconds),
                )
            self.keys = frozenset(index for index in self.keys if index < len(line.walk.keys))
            self.key = self.key if self.key < len(line.walk.keys) else -1
            self.look = self.look if self.look < len(line.walk.looks) else -1
            self._sample()
        self.update()

    def _sample(self) -> None:
        line = self._line
        if line is not None:
            self._moments = np.linspace(*self.shown, SAMPLES)
            rows = line.at_seconds(self._moments, parse_rate(line.walk.rate))
            self._pace = line.timing.pace_at(self._moments)
            self._turn = np.abs(np.gradient(rows.heading_deg, self._moments))

    # ------------------------------------------------------------------ zoom

    def show_part(self, begin_s: float, end_s: float) -> None:
        """Show a part of the walk, kept within it and no shorter than SHORTEST_S."""
        if self._line is None:
            return
        whole = self._line.walk.seconds
        wide = min(whole, max(SHORTEST_S, end_s - begin_s))
        begin = min(max(0.0, begin_s), whole - wide)
        self.shown = (begin, begin + wide)
        self._sample()
        self.zoomed.emit()
        self.update()

    def zoom(self, share: float, about_s: float) -> None:
        """Show a smaller (share below 1) or larger part, a moment staying where it is."""
        begin, end = self.shown
        self.show_part(about_s - (about_s - begin) * share, about_s + (end - about_s) * share)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Zoom about the pointer; with Shift go along."""
        turned = event.angleDelta().y() or event.angleDelta().x()
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier or event.angleDelta().x():
            step = -turned / 120.0 * 0.15 * (self.shown[1] - self.shown[0])
            self.show_part(self.shown[0] + step, self.shown[1] + step)
        elif turned:
            self.zoom(0.8 ** (turned / 120.0), self._seconds(event.position().x()))
        event.accept()

    def show_flags(self, flags: Sequence[Flag]) -> None:
        """What the checks found."""
        self.flags = tuple(flags)
        self.update()

    def show_moment(self, seconds: float) -> None:
        """Where the walk is; a part that is shown follows it."""
        self.moment = seconds
        begin, end = self.shown
        if (
            self._line is not None
            and not begin - 1e-9 <= seconds <= end + 1e-9
            and not self._dragging
            and self._grip is None
        ):
            self.show_part(seconds - (end - begin) * 0.1, seconds + (end - begin) * 0.9)
        self.update()

    def x_of(self, seconds: float) -> float:
        """Where a second lies, px."""
        begin, end = self.shown
        return LEFT + (self.width() - LEFT - RIGHT) * (seconds - begin) / max(end - begin, 1e-9)

    def _seconds(self, x: float) -> float:
        whole = self._line.walk.seconds if self._line is not None else 1.0
        begin, end = self.shown
        return min(
            whole, max(0.0, begin + (x - LEFT) / max(self.width() - LEFT - RIGHT, 1.0) * (end - begin))
        )

    @property
    def _lane(self) -> float:
        """The upper edge of the lane of looking."""
        return self.height() - FOOT - PLACES_PX - LANE_PX

    def look_span(self, index: int) -> tuple[float, float]:
        """From when to when a span of looking counts, seconds."""
        line = self._line
        assert line is not None
        look = line.walk.looks[index]
        begin, end = line.timing.second_at(np.array([look.start, look.end]) * line.route.length_m).tolist()
        return begin, end

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
            painter.setClipRect(QRectF(0, 0, self.width() - RIGHT + 12, self.height()))
            high = (self._lane - TOP - 10.0) / 2.0
            turning = self._line.walk.turntable is not None
            # A turntable is no walk: how fast it goes by is a matter of its radius, not of comfort.
            self._graph(
                painter, TOP, high, self._pace, 0.0 if turning else self._limits.pace_m_s, "pace", "m/s", 1
            )
            self._graph(
                painter, TOP + high + 8.0, high, self._turn, self._limits.turn_deg_s, "turning", "°/s", 0
            )
            painter.setClipRect(QRectF(LEFT - 11, 0, self.width() - LEFT - RIGHT + 22, self.height()))
            self._pauses(painter, self._line)
            painter.save()
            painter.setClipRect(QRectF(LEFT, 0, self.width() - LEFT - RIGHT, self.height()))
            self._looking(painter, self._line)
            painter.restore()
            self._places(painter, self._line)
            self._axis(painter, self._line)
            self._flags(painter)
            painter.setClipping(False)
            self._names(painter, self._line)
            x = self.x_of(self.moment)
            painter.setPen(QPen(QColor(self._tokens.verdigris), 2.0))
            painter.drawLine(QPointF(x, TOP - 4), QPointF(x, self.height() - FOOT + 3))
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(QColor(self._tokens.ink), 1))
            painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -1.5, -1.5))
        painter.end()

    def _graph(
        self,
        painter: QPainter,
        top: float,
        high: float,
        values: Floats,
        limit: float,
        name: str,
        unit: str,
        decimals: int,
    ) -> None:
        most = max(float(values.max()) * 1.08 if len(values) else 0.0, limit * 1.15, 1e-6)
        painter.setFont(text_font(8))
        painter.setPen(QColor(self._tokens.pencil))
        painter.drawText(QRectF(4, top, LEFT - 10, 13), Qt.AlignmentFlag.AlignRight, name)
        worst = float(values.max()) if len(values) else 0.0
        painter.drawText(
            QRectF(4, top + 13, LEFT - 10, 13), Qt.AlignmentFlag.AlignRight, f"{worst:.{decimals}f} {unit}"
        )
        bottom = top + high
        painter.setPen(QPen(QColor(self._tokens.rule), 1.0))
        painter.drawLine(QPointF(LEFT, bottom), QPointF(self.width() - RIGHT, bottom))
        if limit > 0:
            y = bottom - high * limit / most
            painter.setPen(QPen(QColor(self._tokens.brick), 1.0, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(LEFT, y), QPointF(self.width() - RIGHT, y))
        points = [
            QPointF(self.x_of(s), bottom - high * v / most)
            for s, v in zip(self._moments.tolist(), values.tolist(), strict=True)
        ]
        wash = QColor(self._tokens.verdigris)
        wash.setAlpha(36)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(wash)
        painter.drawPolygon(
            QPolygonF([QPointF(points[0].x(), bottom), *points, QPointF(points[-1].x(), bottom)])
        )
        painter.setPen(QPen(QColor(self._tokens.verdigris), 1.5))
        painter.drawPolyline(QPolygonF(points))

    def _pauses(self, painter: QPainter, line: WalkLine) -> None:
        painter.setPen(Qt.PenStyle.NoPen)
        shade = QColor(self._tokens.pencil)
        shade.setAlpha(110)
        painter.setBrush(QBrush(shade, Qt.BrushStyle.BDiagPattern))
        for begin, end in line.timing.dwells.tolist():
            painter.drawRect(
                QRectF(self.x_of(begin), TOP, self.x_of(end) - self.x_of(begin), self._lane - TOP)
            )

    def _places(self, painter: QPainter, line: WalkLine) -> None:
        for index, second in enumerate(line.timing.key_s.tolist() if line.walk.turntable is None else []):
            x = self.x_of(second)
            chosen = index in self.keys
            painter.setPen(
                QPen(
                    QColor(self._tokens.verdigris if chosen else self._tokens.pencil), 2.0 if chosen else 1.0
                )
            )
            painter.drawLine(QPointF(x, self.height() - FOOT - 3), QPointF(x, self.height() - FOOT + 4))
            # A place with a second of its own is a square, one that the pace decides a dot.
            painter.setBrush(QColor(self._tokens.verdigris if chosen else self._tokens.leaf))
            box = QRectF(x - 3.5, self.height() - FOOT - 10, 7, 7)
            if line.walk.keys[index].at_s is not None:
                painter.drawRect(box)
            else:
                painter.drawEllipse(box)

    def _looking(self, painter: QPainter, line: WalkLine) -> None:
        """Bars of what is looked at; what the walk does otherwise is the lane itself."""
        if line.walk.turntable is not None:
            return
        painter.setFont(text_font(7.5))
        top = self._lane
        painter.setPen(QPen(QColor(self._tokens.rule), 1.0))
        painter.drawLine(QPointF(LEFT, top + LANE_PX), QPointF(self.width() - RIGHT, top + LANE_PX))
        for index, look in enumerate(line.walk.looks):
            begin, end = self.look_span(index)
            box = QRectF(self.x_of(begin), top + 1, max(6.0, self.x_of(end) - self.x_of(begin)), LANE_PX - 3)
            wash = QColor(self._tokens.pencil)
            wash.setAlpha(110 if index == self.look else 55)
            painter.setBrush(wash)
            painter.setPen(QPen(QColor(self._tokens.pencil), 1.6 if index == self.look else 1.0))
            painter.drawRoundedRect(box, 2, 2)
            painter.setPen(QColor(self._tokens.ink))
            text = painter.fontMetrics().elidedText(
                look_words(look), Qt.TextElideMode.ElideRight, max(0, int(box.width() - 8))
            )
            painter.drawText(
                box.adjusted(4, 0, -4, 0), Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, text
            )

    def _names(self, painter: QPainter, line: WalkLine) -> None:
        """What the lanes are, and how much of the walk is shown."""
        painter.setFont(text_font(8))
        painter.setPen(QColor(self._tokens.pencil))
        if line.walk.turntable is None:
            painter.drawText(
                QRectF(4, self._lane - 1, LEFT - 10, LANE_PX), Qt.AlignmentFlag.AlignRight, "looking"
            )
            painter.drawText(
                QRectF(4, self._lane + LANE_PX, LEFT - 10, PLACES_PX), Qt.AlignmentFlag.AlignRight, "places"
            )
        begin, end = self.shown
        if end - begin < line.walk.seconds - 1e-6:
            # A short bar below the axis, as long as the part is of the whole.
            wide, y = self.width() - LEFT - RIGHT, self.height() - 1.0
            painter.setPen(QPen(QColor(self._tokens.rule), 2.0))
            painter.drawLine(QPointF(LEFT, y), QPointF(LEFT + wide, y))
            painter.setPen(QPen(QColor(self._tokens.pencil), 2.0))
            whole = line.walk.seconds
            painter.drawLine(QPointF(LEFT + wide * begin / whole, y), QPointF(LEFT + wide * end / whole, y))

    def _axis(self, painter: QPainter, line: WalkLine) -> None:
        painter.setFont(text_font(8))
        painter.setPen(QColor(self._tokens.pencil))
        begin, end = self.shown
        step = next(
            (s for s in (0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 30, 60, 120, 300, 600) if (end - begin) / s <= 14),
            1200,
        )
        for number in range(math.ceil(begin / step - 1e-9), math.floor(end / step + 1e-9) + 1):
            x = self.x_of(number * step)
            painter.drawLine(QPointF(x, self.height() - FOOT + 1), QPointF(x, self.height() - FOOT + 5))
            painter.drawText(
                QRectF(x - 30, self.height() - 13, 60, 12),
                Qt.AlignmentFlag.AlignCenter,
                f"{round(number * step, 3):g} s",
            )

    def _flags(self, painter: QPainter) -> None:
        painter.setFont(text_font(8))
        for number, flag in enumerate(self.flags, 1):
            x, begin, end = self.x_of(flag.worst_s), self.x_of(flag.begin_s), self.x_of(flag.end_s)
            painter.setPen(QPen(QColor(self._tokens.brick), 2.0))
            painter.drawLine(QPointF(begin, 16), QPointF(max(end, begin + 2), 16))
            painter.setPen(QPen(QColor(self._tokens.brick), 1.2))
            painter.setBrush(QColor(self._tokens.leaf))
            box = QRectF(x - 11, 1, 22, 13)
            painter.drawRoundedRect(box, 3, 3)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, f"! {number}")

    # ------------------------------------------------------------------ hands

    def _flag_at(self, at: QPointF) -> Flag | None:
        near = (
            [(abs(self.x_of(flag.worst_s) - at.x()), number) for number, flag in enumerate(self.flags)]
            if at.y() < TOP
            else []
        )
        away, number = min(near, default=(math.inf, -1))
        return self.flags[number] if away <= 11.0 else None

    def _key_at(self, at: QPointF) -> int:
        if self._line is None or self._line.walk.turntable is not None or at.y() < self.height() - FOOT - 13:
            return -1
        near = [
            (abs(self.x_of(second) - at.x()), index)
            for index, second in enumerate(self._line.timing.key_s.tolist())
        ]
        away, index = min(near)
        return index if away <= HOLD_PX else -1

    def _grip_at(self, at: QPointF) -> tuple[int, int] | None:
        """A span of looking, and its beginning (0), its end (1) or its middle (-1)."""
        line = self._line
        if line is None or line.walk.turntable is not None or not self._lane <= at.y() < self._lane + LANE_PX:
            return None
        for index in reversed(range(len(line.walk.looks))):
            begin, end = (self.x_of(second) for second in self.look_span(index))
            for which, x in enumerate((begin, end)):
                if abs(x - at.x()) <= 4.0:
                    return index, which
            if begin < at.x() < end:
                return index, -1
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Go to a flag or a place, take hold of a span of looking, or begin to scrub."""
        if self._line is None or event.button() != Qt.MouseButton.LeftButton:
            return
        flag, key, grip = (
            self._flag_at(event.position()),
            self._key_at(event.position()),
            self._grip_at(event.position()),
        )
        if flag is not None:
            self.moved.emit(flag.worst_s)
        elif key >= 0:
            self._choose_with(key, event.modifiers())
            inner = 0 < key < len(self._line.walk.keys) - 1
            self._dragged, self._from, self._dragging = key if inner else -1, event.position().x(), False
        elif grip is not None:
            self.choose_look(grip[0])
            self._grip, self._from, self._dragging = grip, event.position().x(), False
        else:
            self._scrubbing = True
            self.moved.emit(self._seconds(event.position().x()))

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """The whole walk again."""
        if (
            self._line is not None
            and self._key_at(event.position()) < 0
            and self._grip_at(event.position()) is None
        ):
            self.show_part(0.0, self._line.walk.seconds)

    def _choose_with(self, key: int, modifiers: Qt.KeyboardModifier) -> None:
        """Control adds a place or takes it out, Shift takes all up to it; a press on one of several keeps them."""
        if modifiers & Qt.KeyboardModifier.ControlModifier:
            chosen = self.keys ^ {key}
        elif modifiers & Qt.KeyboardModifier.ShiftModifier and self.key >= 0:
            chosen = self.keys | frozenset(range(min(self.key, key), max(self.key, key) + 1))
        else:
            chosen = self.keys if key in self.keys else frozenset({key})
        self.choose_key(key, chosen)

    def choose_look(self, index: int) -> None:
        """Choose a span of looking; -1 chooses none."""
        self.look = index
        self.look_chosen.emit(index)
        self.update()

    def choose_key(self, index: int, among: frozenset[int] | None = None) -> None:
        """Choose a place, alone or among others, and go there."""
        if self._line is None or not 0 <= index < len(self._line.walk.keys):
            return
        self.keys = frozenset({index}) if among is None else among
        self.key = index if index in self.keys else max(self.keys, default=-1)
        self.key_chosen.emit(self.key)
        self.moved.emit(float(self._line.timing.key_s[index]))

    def choose_all(self) -> None:
        """Choose every place."""
        if self._line is not None and self._line.walk.keys:
            self.keys = frozenset(range(len(self._line.walk.keys)))
            self.key = max(self.key, 0)
            self.key_chosen.emit(self.key)
            self.update()

    def step_key(self, step: int) -> None:
        """Choose the place so many further on; the ends hold."""
        if self._line is not None:
            self.choose_key(min(len(self._line.walk.keys) - 1, max(0, self.key + step)))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Scrub, or drag what was taken hold of, by film frames."""
        line, x = self._line, event.position().x()
        if line is None:
            return
        if self._scrubbing:
            self.moved.emit(self._seconds(x))
            return
        if self._dragged < 0 and self._grip is None:
            return
        self._dragging |= abs(x - self._from) > 3.0
        if not self._dragging:
            return
        # Held by film frames: a place is passed in one, not between two.
        frame = 1.0 / float(parse_rate(line.walk.rate))
        second = round(self._seconds(x) / frame) * frame
        if self._dragged >= 0:
            self.key_moving.emit(self._dragged, second)
        elif self._grip is not None:
            self._drag_look(line, second, x)

    def _drag_look(self, line: WalkLine, second: float, x: float) -> None:
        assert self._grip is not None
        index, which = self._grip
        if index >= len(line.walk.looks):
            return
        look = line.walk.looks[index]
        share = float(line.timing.distance_at(np.array([second]))[0]) / line.route.length_m
        if which == 0:
            self.look_moving.emit(index, min(share, look.end - 0.002), look.end)
        elif which == 1:
            self.look_moving.emit(index, look.start, max(share, look.start + 0.002))
        else:
            before = (
                float(line.timing.distance_at(np.array([self._seconds(self._from)]))[0]) / line.route.length_m
            )
            wide = look.end - look.start
            start = min(1.0 - wide, max(0.0, look.start + share - before))
            self._from = x
            self.look_moving.emit(index, start, start + wide)

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        """The end of scrubbing, or of a drag."""
        self._scrubbing = False
        if self._dragging:
            (self.key_moved if self._dragged >= 0 else self.look_moved).emit()
        self._dragged, self._dragging, self._grip = -1, False, None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right go by a film frame (Shift: a second), Home and End to the ends, up and down from place to place;
        plus, minus and 0 zoom; Control with A, C, V chooses all, copies, puts in; Delete removes the chosen places."""
        line, key = self._line, event.key()
        if line is None:
            super().keyPressEvent(event)
            return
        control = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        step = 1.0 if shift else 1.0 / float(parse_rate(line.walk.rate))
        whole = line.walk.seconds
        if control and key == Qt.Key.Key_A:
            self.choose_all()
        elif control and key == Qt.Key.Key_C:
            self.copy_wanted.emit()
        elif control and key == Qt.Key.Key_V:
            self.paste_wanted.emit(shift)
        elif key == Qt.Key.Key_Delete:
            self.remove_wanted.emit()
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Minus):
            self.zoom(0.6 if key == Qt.Key.Key_Plus else 1.0 / 0.6, self.moment)
        elif key == Qt.Key.Key_0:
            self.show_part(0.0, whole)
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.moved.emit(min(whole, max(0.0, self.moment + (step if key == Qt.Key.Key_Right else -step))))
        elif key in (Qt.Key.Key_Home, Qt.Key.Key_End):
            self.moved.emit(0.0 if key == Qt.Key.Key_Home else whole)
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.step_key(1 if key == Qt.Key.Key_Up else -1)
        else:
            super().keyPressEvent(event)

    def event(self, event) -> bool:  # type: ignore[no-untyped-def]
        """What a flag says, under the pointer."""
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent) and _own(event):
            # Home means the beginning here, not what it means in the rest of the window.
            event.accept()
            return True
        if isinstance(event, QHelpEvent):
            flag = self._flag_at(QPointF(event.pos()))
            grip = self._grip_at(QPointF(event.pos()))
            text = "Drag to scrub; press a flag or a place to go there; the wheel zooms"
            if flag is not None:
                text = flag.sentence
            elif grip is not None and self._line is not None:
                text = f"Looks {look_words(self._line.walk.looks[grip[0]])}. Drag it, or its ends"
            QToolTip.showText(event.globalPos(), text, self)
            return True
        return bool(super().event(event))


def _own(event: QKeyEvent) -> bool:
    """Whether a key means something here that it does not mean in the rest of the window."""
    if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
        return event.key() in OWN_CONTROL_KEYS
    return event.key() in OWN_KEYS


def look_words(look: Look) -> str:
    """What a span of looking looks at, in a few words."""
    if look.kind == POINT and look.name:
        return f"at {look.name}"
    if look.kind == POINT:
        x, y, z = look.point
        return (
            f"at a moving point from {x:.1f}, {y:.1f}, {z:.1f}"
            if look.to is not None
            else f"at {x:.1f}, {y:.1f}, {z:.1f}"
        )
    return "ahead" if look.kind == AHEAD else "as keyed"
