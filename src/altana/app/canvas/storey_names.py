"""The names of storeys with their heights, at the right rim of a section."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QFontMetricsF, QPainter

from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens

#: How high a name is, how far it ends from the rim and from a mark, pixels.
HIGH, RIM, CLEAR = 14.0, 18.0, 4.0


def placed_names(
    names: Sequence[tuple[str, float]], wide: float, metrics: QFontMetricsF, marks: Sequence[QRectF]
) -> list[tuple[str, QRectF]]:
    """Where names (with the height of their line, pixels) stand on a sheet so wide: at its right rim, or left
    of the marks that lie there."""
    placed: list[tuple[str, QRectF]] = []
    for text, y in names:
        box = QRectF(0.0, y - HIGH - 1.0, metrics.horizontalAdvance(text) + 4.0, HIGH)
        box.moveRight(wide - RIM)
        # Beside one mark the next may lie.
        for _ in marks:
            covered = [mark for mark in marks if mark.intersects(box)]
            if not covered:
                break
            box.moveRight(min(mark.left() for mark in covered) - CLEAR)
        if box.left() > 0.0 and not any(box.intersects(other) for _, other in placed):
            placed.append((text, box))
    return placed


def paint_storey_names(
    painter: QPainter, names: Sequence[tuple[str, float]], marks: Sequence[QRectF], tokens: Tokens
) -> None:
    """Paint them where no mark lies on them."""
    painter.setFont(text_font(8))
    painter.setPen(QColor(tokens.pencil))
    wide = float(painter.viewport().width())
    for text, box in placed_names(names, wide, QFontMetricsF(painter.font()), marks):
        painter.fillRect(box, QColor(tokens.leaf))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
