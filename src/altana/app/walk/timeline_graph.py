"""One graph of the timeline: a figure over the time of a walk, with its limit."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.core.conventions import Floats


@dataclass(frozen=True, slots=True)
class Graph:
    """A figure with ``values`` (n,) at places ``x`` (n,) px, and its ``limit``, 0 for none."""

    name: str
    unit: str
    decimals: int
    x: Floats
    values: Floats
    limit: float

    def paint(self, painter: QPainter, tokens: Tokens, box: QRectF) -> None:
        """Paint it into a box; name and worst value stand on its left."""
        worst = float(self.values.max()) if len(self.values) else 0.0
        most = max(worst * 1.08, self.limit * 1.15, 1e-6)
        right = Qt.AlignmentFlag.AlignRight
        painter.setFont(text_font(8))
        painter.setPen(QColor(tokens.pencil))
        painter.drawText(QRectF(4, box.top(), box.left() - 10, 13), right, self.name)
        words = f"{worst:.{self.decimals}f} {self.unit}"
        painter.drawText(QRectF(4, box.top() + 13, box.left() - 10, 13), right, words)
        painter.setPen(QPen(QColor(tokens.rule), 1.0))
        painter.drawLine(box.bottomLeft(), box.bottomRight())
        if self.limit > 0:
            y = box.bottom() - box.height() * self.limit / most
            painter.setPen(QPen(QColor(tokens.brick), 1.0, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
        if not len(self.values):
            return
        y_of = box.bottom() - box.height() * self.values / most
        points = [QPointF(*place) for place in np.column_stack([self.x, y_of]).tolist()]
        wash = QColor(tokens.verdigris)
        wash.setAlpha(36)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(wash)
        first, last = (QPointF(points[end].x(), box.bottom()) for end in (0, -1))
        painter.drawPolygon(QPolygonF([first, *points, last]))
        painter.setPen(QPen(QColor(tokens.verdigris), 1.5))
        painter.drawPolyline(QPolygonF(points))
