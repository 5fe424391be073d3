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
    tokens: Tokens,
    over: Sequence[QRectF] = (),
) -> list[QRectF]:
    """Names of the rooms of one storey, as far as there is room for them, the largest first; where they stand.

    over : what lies on top of the drawing, as its title and controls; names keep clear of it.
    """
    painter.setFont(text_font(8.5))
    painter.setPen(QColor(tokens.pencil))
    metrics = painter.fontMetrics()
    placed: list[QRectF] = []
    for room in sorted(rooms, key=_floor_area, reverse=True):
        points = np.array(room.outline)
        corners = [to_screen(*points.min(axis=0).tolist()), to_screen(*points.max(axis=0).tolist())]
        # Only what is seen of a room has place for its name.
        seen = QRectF(*corners).normalized() & QRectF(painter.viewport())
        wide = seen.width()
        box = QRectF(metrics.boundingRect(room.name))
        if box.width() > wide * 1.6 or not QRectF(painter.viewport()).intersects(seen):
            continue
        # A large room is named in a corner, where cameras seldom stand; a small one in its middle.
        if wide > metrics.horizontalAdvance(room.name) * 2.2:
            box.moveTopLeft(QPointF(seen.right() - box.width() - 6, seen.top() + 5))
        else:
            box.moveCenter(seen.center())
        if any(box.intersects(lid) for lid in over):
            for lid in sorted(over, key=QRectF.bottom):
                if box.intersects(lid):
                    box.moveTop(lid.bottom() + 4)
            if box.bottom() > seen.bottom():
                continue
        whole = QRectF(painter.viewport()).contains(box)
        if wide < 26 or not whole or any(box.intersects(other) for other in placed):
            continue
        placed.append(box)
        painter.fillRect(box.adjusted(-2, 0, 2, 0), QColor(tokens.leaf))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, room.name)
    return placed


def _floor_area(room: Room) -> float:
    points = np.array(room.outline)
    return float(np.ptp(points[:, 0]) * np.ptp(points[:, 1]))
