"""The timeline to look at: pace and turning over time with their comfort limits, spans of looking, pauses,
places, flags."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QBrush, QColor, QPainter, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QWidget

from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.app.walk.timeline_graph import Graph
from altana.core.conventions import Floats, parse_rate
from altana.core.project import AHEAD, POINT, Limits, Look
from altana.core.walk.checks import Flag
from altana.core.walk.sample import WalkLine

LEFT, RIGHT, TOP, FOOT = 66.0, 16.0, 20.0, 18.0
#: The lane of looking, above the places.
LANE_PX, PLACES_PX = 13.0, 13.0
#: The timeline shows at least so much of a walk, in seconds.
SHORTEST_S = 0.5
SAMPLES = 600


class TimelineChart(QWidget):
    """Shows one walk line, or a part of it."""

    zoomed = Signal()

    def __init__(self, tokens: Tokens) -> None:
        super().__init__()
        self._tokens = tokens
        self.line: WalkLine | None = None
        self._limits = Limits()
        #: What lies behind the line of the moment, and what it shows.
        self._behind = QPixmap()
        self._behind_of: tuple[object, ...] = (None,) * 6
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
        self.setMinimumHeight(128)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Timeline"))
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setToolTip("")

    @property
    def held(self) -> bool:
        """Whether something on it is dragged: the part that is shown then stays."""
        return False

    def show_line(self, line: WalkLine | None, limits: Limits) -> None:
        """Another walk, or the same changed."""
        before, self.line, self._limits = self.line, line, limits
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
        line = self.line
        if line is not None:
            self._moments = np.linspace(*self.shown, SAMPLES)
            rows = line.at_seconds(self._moments, parse_rate(line.walk.rate))
            self._pace = line.timing.pace_at(self._moments)
            self._turn = np.abs(np.gradient(rows.heading_deg, self._moments))

    def show_part(self, begin_s: float, end_s: float) -> None:
        """Show a part of the walk, kept within it and no shorter than SHORTEST_S."""
        if self.line is None:
            return
        whole = self.line.walk.seconds
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

    def show_flags(self, flags: Sequence[Flag]) -> None:
        """What the checks found."""
        self.flags = tuple(flags)
        self.update()

    def show_moment(self, seconds: float) -> None:
        """Where the walk is; a part that is shown follows it."""
        self.moment = seconds
        begin, end = self.shown
        if self.line is not None and not begin - 1e-9 <= seconds <= end + 1e-9 and not self.held:
            self.show_part(seconds - (end - begin) * 0.1, seconds + (end - begin) * 0.9)
        # Only the line of the moment moves: what lies behind it stays as it is painted.
        super().update()

    def update(self, *rest: Any) -> None:
        """Paint anew: something else is to be seen."""
        self._behind = QPixmap()
        super().update(*rest)

    def x_of(self, seconds: float) -> float:
        """Where a second lies, px."""
        begin, end = self.shown
        return LEFT + (self.width() - LEFT - RIGHT) * (seconds - begin) / max(end - begin, 1e-9)

    def second_at(self, x: float) -> float:
        """The second at a place, px, within the walk."""
        whole = self.line.walk.seconds if self.line is not None else 1.0
        begin, end = self.shown
        return min(
            whole, max(0.0, begin + (x - LEFT) / max(self.width() - LEFT - RIGHT, 1.0) * (end - begin))
        )

    @property
    def lane(self) -> float:
        """The upper edge of the lane of looking."""
        return self.height() - FOOT - PLACES_PX - LANE_PX

    def look_span(self, index: int) -> tuple[float, float]:
        """From when to when a span of looking counts, seconds."""
        line = self.line
        assert line is not None
        look = line.walk.looks[index]
        begin, end = line.timing.second_at(np.array([look.start, look.end]) * line.route.length_m).tolist()
        return begin, end

    def paintEvent(self, _: QPaintEvent) -> None:
        """Graphs, pauses, places, flags, and the moment."""
        ratio = self.devicePixelRatioF()
        now = (self.line, self.flags, self.keys, self.key, self.look, self.shown)
        same = all(one is other for one, other in zip(self._behind_of, now, strict=True))
        if not same or self._behind.size() != self.size() * ratio:
            self._behind_of = now
            self._behind = QPixmap(self.size() * ratio)
            self._behind.setDevicePixelRatio(ratio)
            self._paint_behind(QPainter(self._behind))
        painter = QPainter(self)
        painter.drawPixmap(0, 0, self._behind)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.line is not None:
            x = self.x_of(self.moment)
            painter.setPen(QPen(QColor(self._tokens.verdigris), 2.0))
            painter.drawLine(QPointF(x, TOP - 4), QPointF(x, self.height() - FOOT + 3))
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(QColor(self._tokens.ink), 1))
            painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -1.5, -1.5))
        painter.end()

    def _paint_behind(self, painter: QPainter) -> None:
        painter.fillRect(self.rect(), QColor(self._tokens.leaf))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.line is None:
            painter.setFont(text_font(9.5))
            painter.setPen(QColor(self._tokens.pencil))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, tr("No walk yet"))
        else:
            painter.setClipRect(QRectF(0, 0, self.width() - RIGHT + 12, self.height()))
            high = (self.lane - TOP - 10.0) / 2.0
            turning = self.line.walk.turntable is not None
            # A turntable is no walk: how fast it goes by is a matter of its radius, not of comfort.
            pace = 0.0 if turning else self._limits.pace_m_s
            begin, end = self.shown
            x = LEFT + (self.width() - LEFT - RIGHT) * (self._moments - begin) / max(end - begin, 1e-9)
            for graph, top in (
                (Graph(tr("pace"), "m/s", 1, x, self._pace, pace), TOP),
                (Graph(tr("turning"), "°/s", 0, x, self._turn, self._limits.turn_deg_s), TOP + high + 8.0),
            ):
                graph.paint(painter, self._tokens, QRectF(LEFT, top, self.width() - LEFT - RIGHT, high))
            painter.setClipRect(QRectF(LEFT - 11, 0, self.width() - LEFT - RIGHT + 22, self.height()))
            self._pauses(painter, self.line)
            painter.save()
            painter.setClipRect(QRectF(LEFT, 0, self.width() - LEFT - RIGHT, self.height()))
            self._looking(painter, self.line)
            painter.restore()
            self._places(painter, self.line)
            self._axis(painter, self.line)
            self._flags(painter)
            painter.setClipping(False)
            self._names(painter, self.line)
        painter.end()

    def _pauses(self, painter: QPainter, line: WalkLine) -> None:
        painter.setPen(Qt.PenStyle.NoPen)
        shade = QColor(self._tokens.pencil)
        shade.setAlpha(110)
        painter.setBrush(QBrush(shade, Qt.BrushStyle.BDiagPattern))
        for begin, end in line.timing.dwells.tolist():
            painter.drawRect(
                QRectF(self.x_of(begin), TOP, self.x_of(end) - self.x_of(begin), self.lane - TOP)
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
        top = self.lane
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
            left = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
            painter.drawText(box.adjusted(4, 0, -4, 0), left, text)

    def _names(self, painter: QPainter, line: WalkLine) -> None:
        """What the lanes are, and how much of the walk is shown."""
        painter.setFont(text_font(8))
        painter.setPen(QColor(self._tokens.pencil))
        if line.walk.turntable is None:
            right, lanes = Qt.AlignmentFlag.AlignRight, QRectF(4, self.lane - 1, LEFT - 10, LANE_PX)
            painter.drawText(lanes, right, tr("looking"))
            painter.drawText(lanes.translated(0, LANE_PX + 1), right, tr("places"))
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


def look_words(look: Look) -> str:
    """What a span of looking looks at, in a few words."""
    if look.kind == POINT and look.name:
        return tr("at {name}", name=look.name)
    if look.kind == POINT:
        x, y, z = look.point
        return (
            tr("at a moving point from {x:.1f}, {y:.1f}, {z:.1f}", x=x, y=y, z=z)
            if look.to is not None
            else tr("at {x:.1f}, {y:.1f}, {z:.1f}", x=x, y=y, z=z)
        )
    return tr("ahead") if look.kind == AHEAD else tr("as keyed")
