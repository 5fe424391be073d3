"""The names of rooms on a plan."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter

from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.core.model import Room


def paint_room_names(
    painter: QPainter,
    rooms: Sequence[Room],
    to_screen: Callable[[float, float], QPointF],
    px_per_m: float,
    tokens: Tokens,
) -> list[QRectF]:
    """Names of the rooms of one storey, as far as there is room for them, the largest first; where they stand."""
    painter.setFont(text_font(8.5))
    painter.setPen(QColor(tokens.pencil))
    metrics = painter.fontMetrics()
    placed: list[QRectF] = []
    for room in sorted(rooms, key=_floor_area, reverse=True):
        points = np.array(room.outline)
        wide = float(np.ptp(points[:, 0])) * px_per_m
        low = points.min(axis=0)
        # A large room is named in a corner, where cameras seldom stand; a small one in its middle.
        large = wide > metrics.horizontalAdvance(room.name) * 2.2
        at = (
            to_screen(float(points[:, 0].max()), float(points[:, 1].max()))
            if large
            else to_screen(*(low + np.ptp(points, axis=0) / 2))
        )
        box = QRectF(metrics.boundingRect(room.name))
        box.moveTopLeft(
            QPointF(at.x() - box.width() - 6, at.y() + 5)
            if large
            else QPointF(at.x() - box.width() / 2, at.y() - box.height() / 2)
        )
        if wide < 26 or any(box.intersects(other) for other in placed) or box.width() > wide * 1.6:
            continue
        placed.append(box)
        painter.fillRect(box.adjusted(-2, 0, 2, 0), QColor(tokens.leaf))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, room.name)
    return placed


def _floor_area(room: Room) -> float:
    points = np.array(room.outline)
    return float(np.ptp(points[:, 0]) * np.ptp(points[:, 1]))
