"""The sun's path of the day on a plan: where it stands at each hour, seen from the middle of the sheet, and
the sun to be dragged along."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Protocol

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from altana.app.canvas.marks import apart
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.app.workspace.bridge import Bridge
from altana.core.edits.light import set_light
from altana.core.light.clock import hour_words
from altana.core.light.sun import sun_position
from altana.core.project import Light

STEP_H = 0.1
SUN_PX = 9.0
#: The horizon lies so far from the middle, as a share of the sheet's shorter side.
HORIZON = 0.40


class SunGround(Protocol):
    """What the path needs of the sheet on which it lies."""

    def width(self) -> int:
        """Pixels."""

    def height(self) -> int:
        """Pixels."""


class SunPath:
    """Paints the path; a press on the sun takes it, and dragging moves the time of day."""

    def __init__(self, sheet: SunGround, bridge: Bridge, tokens: Tokens) -> None:
        self._sheet, self._bridge, self._tokens = sheet, bridge, tokens
        self._day: tuple[Light, list[tuple[float, QPointF]]] | None = None
        self.dragging = False

    @property
    def _radius(self) -> float:
        return min(self._sheet.width(), self._sheet.height()) * HORIZON

    def at(self, heading_deg: float, altitude_deg: float) -> QPointF:
        """Where a direction lies on the sheet: the horizon a circle, straight up its middle."""
        out = self._radius * (1.0 - max(altitude_deg, 0.0) / 90.0)
        turn = math.radians(heading_deg)
        middle = QPointF(self._sheet.width() / 2, self._sheet.height() / 2)
        return middle + QPointF(math.sin(turn), -math.cos(turn)) * out

    def path(self, light: Light) -> list[tuple[float, QPointF]]:
        """Hours of the day with the sun up, and where it stands then."""
        key = replace(light, hour=0.0)
        if self._day is None or self._day[0] != key:
            places = []
            for hour in np.arange(0.0, 24.0, STEP_H).tolist():
                heading, altitude = sun_position(replace(light, hour=hour))
                if altitude > 0.0:
                    places.append((hour, QPointF(heading, altitude)))
            self._day = key, places
        return [(hour, self.at(place.x(), place.y())) for hour, place in self._day[1]]

    def paint(self, painter: QPainter) -> None:
        """Horizon, path with its hours, the sun."""
        light = self._bridge.project.light
        places = self.path(light)
        ink, gold = QColor(self._tokens.pencil), QColor(self._tokens.saffron)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        faint = QColor(ink)
        faint.setAlpha(90)
        painter.setPen(QPen(faint, 1.0, Qt.PenStyle.DotLine))
        middle = QPointF(self._sheet.width() / 2, self._sheet.height() / 2)
        painter.drawEllipse(middle, self._radius, self._radius)
        painter.setPen(QPen(gold, 2.0))
        painter.drawPolyline(QPolygonF([place for _, place in places]))
        painter.setFont(text_font(8))
        for hour, place in places:
            if abs(hour - round(hour)) < STEP_H / 2:
                painter.setPen(QPen(gold, 1.4))
                painter.setBrush(QColor(self._tokens.leaf))
                painter.drawEllipse(place, 2.5, 2.5)
                if round(hour) % 3 == 0:
                    self._hour(painter, place, middle, f"{round(hour)}")
        heading, altitude = sun_position(light)
        if altitude > 0.0:
            here = self.at(heading, altitude)
            painter.setPen(QPen(gold, 1.2, Qt.PenStyle.DashLine))
            painter.drawLine(here, middle)
            painter.setPen(QPen(gold, 2.0))
            painter.setBrush(QColor(self._tokens.leaf))
            painter.drawEllipse(here, SUN_PX, SUN_PX)
            for k in range(8):
                run = QPointF(math.cos(k * math.pi / 4), math.sin(k * math.pi / 4))
                painter.drawLine(here + run * (SUN_PX + 2), here + run * (SUN_PX + 6))
            if self.dragging:
                self._hour(painter, here, middle, hour_words(light.hour), 26.0)

    def _hour(
        self, painter: QPainter, place: QPointF, middle: QPointF, text: str, away: float = 12.0
    ) -> None:
        out = place - middle
        size = math.hypot(out.x(), out.y()) or 1.0
        at = place + out / size * away
        wide = painter.fontMetrics().horizontalAdvance(text) + 6.0
        box = QRectF(at.x() - wide / 2, at.y() - 7, wide, 14)
        ground = QColor(self._tokens.leaf)
        ground.setAlpha(220)
        painter.fillRect(box, ground)
        painter.setPen(QColor(self._tokens.ink))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def take(self, at: QPointF) -> bool:
        """Take the sun, if it lies here."""
        heading, altitude = sun_position(self._bridge.project.light)
        if altitude <= 0.0 or apart(self.at(heading, altitude), at) > SUN_PX + 5:
            return False
        self.dragging = True
        self._bridge.begin()
        return True

    def drag(self, at: QPointF) -> None:
        """The time of day at which the sun stands nearest to the pointer."""
        places = self.path(self._bridge.project.light)
        if places:
            hour = min(places, key=lambda item: apart(item[1], at))[0]
            self._bridge.preview(lambda project: set_light(project, hour=round(hour, 2)))

    def put_down(self) -> None:
        """One undo step."""
        if self.dragging:
            self.dragging = False
            self._bridge.commit(tr("Time of day"))
