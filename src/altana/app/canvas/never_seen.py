"""The outlines of what no picture shows, laid over the plan."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen

from altana.app.canvas.paths import outlines_path
from altana.app.theme.words import tr
from altana.core.geometry.drawing import Outline


class NeverSeen:
    """The objects' numbers and their outlines in the drawing that is shown; no number takes the overlay
    away."""

    def __init__(self) -> None:
        self.numbers: frozenset[int] = frozenset()
        self._path = QPainterPath()

    def show(self, numbers: frozenset[int], outlines: Sequence[Outline]) -> None:
        """Other objects, or another drawing."""
        self.numbers = numbers
        self._path = outlines_path([item for item in outlines if item.object_index in numbers])

    @property
    def words(self) -> str:
        """What the overlay is, for a tag."""
        return tr("%n objects never seen: outlined", "", len(self.numbers))

    def paint(self, painter: QPainter, colour: str) -> None:
        """The outlines; the painter stands in metres."""
        pen = QPen(QColor(colour), 3.0)
        pen.setCosmetic(True)
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(self._path)
