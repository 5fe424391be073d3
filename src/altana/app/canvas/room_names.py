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
    marks: Sequence[QRectF] = (),
) -> list[QRectF]:
    """Names of the rooms of one storey, as far as there is room for them, the largest first; where they
    stand.

    over : what lies on top of the drawing, as its title and controls; names keep clear of it.  marks : where
    cameras stand; a name stands elsewhere in its room where it can.
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
        large = wide > metrics.horizontalAdvance(room.name) * 2.2
        sheet = QRectF(painter.viewport())
        tried = [_below(place, over) for place in (_corners(box, seen) if large else [_centred(box, seen)])]
        free = [
            place
            for place in tried
            if sheet.contains(place)
            and place.bottom() <= max(seen.bottom(), _centred(box, seen).bottom())
            and not any(place.intersects(other) for other in placed)
        ]
        if wide < 26 or not free:
            continue
        box = next((place for place in free if not any(place.intersects(mark) for mark in marks)), free[0])
        placed.append(box)
        painter.fillRect(box.adjusted(-2, 0, 2, 0), QColor(tokens.leaf))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, room.name)
    return placed


def _corners(box: QRectF, seen: QRectF) -> list[QRectF]:
    """A large room is named in a corner, where cameras seldom stand: the upper right, or another."""
    left, right = seen.left() + 6, seen.right() - box.width() - 6
    high, low = seen.top() + 5, seen.bottom() - box.height() - 5
    return [
        QRectF(QPointF(x, y), box.size()) for x, y in ((right, high), (left, high), (right, low), (left, low))
    ]


def _centred(box: QRectF, seen: QRectF) -> QRectF:
    """A small one is named in its middle."""
    rect = QRectF(box)
    rect.moveCenter(seen.center())
    return rect


def _below(box: QRectF, over: Sequence[QRectF]) -> QRectF:
    """A place under what lies on top."""
    rect = QRectF(box)
    for lid in sorted(over, key=QRectF.bottom):
        if rect.intersects(lid):
            rect.moveTop(lid.bottom() + 4)
    return rect


def _floor_area(room: Room) -> float:
    points = np.array(room.outline)
    return float(np.ptp(points[:, 0]) * np.ptp(points[:, 1]))
