"""Drawings as paths that are quick to paint: cuts at once, many lines a few thousand at a time."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Sequence

import numpy as np
import numpy.typing as npt
from PySide6.QtCore import QByteArray, QDataStream, QObject, QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPainterPath

from altana.app.workspace.soon import Soon
from altana.core.conventions import Floats
from altana.core.geometry.drawing import Outline

_ELEMENT = np.dtype([("kind", ">i4"), ("x", ">f8"), ("y", ">f8")])
#: So many lines become a path in one step of the event loop, a few milliseconds.
LINES_AT_ONCE = 16_384


def path_of(points: Floats, starts: np.ndarray, fill: Qt.FillRule = Qt.FillRule.WindingFill) -> QPainterPath:
    """A path from (n, 2) points; ``starts`` (n,) bool marks where the pen is lifted.

    Ten thousand lines take a few milliseconds this way, where one call a line would hold the window up for a
    frame.
    """
    elements = np.empty(len(points), _ELEMENT)
    elements["kind"] = np.where(starts, 0, 1)
    elements["x"], elements["y"] = points[:, 0], points[:, 1]
    rule = 1 if fill == Qt.FillRule.WindingFill else 0
    data = (
        np.array([len(points)], ">i4").tobytes() + elements.tobytes() + np.array([0, rule], ">i4").tobytes()
    )
    path = QPainterPath()
    if len(points):
        QDataStream(QByteArray(data)) >> path
    return path


def lines_path(lines: npt.NDArray[np.floating]) -> QPainterPath:
    """A path of separate (k, 2, 2) lines."""
    flat = np.asarray(lines, float).reshape(-1, 2)
    return path_of(flat, np.arange(len(flat)) % 2 == 0)


def outlines_path(outlines: Sequence[Outline]) -> QPainterPath:
    """A path of closed and open outlines."""
    if not outlines:
        return QPainterPath()
    points = np.concatenate([item.points for item in outlines])
    starts = np.zeros(len(points), bool)
    starts[np.cumsum([0, *(len(item.points) for item in outlines[:-1])])] = True
    return path_of(points, starts)


class LinePaths:
    """Separate lines of a sheet.  The first few thousand are there at once, the others come bit by bit, so
    that the window answers meanwhile; ``come`` is called when the last of them are there."""

    def __init__(self, sheet: QObject, come: Callable[[], object]) -> None:
        self._come = come
        #: What the lines are of, and which of it they are.
        self._of: tuple[object, Hashable] = (None, None)
        self._lines: npt.NDArray[np.floating] = np.zeros((0, 2, 2))
        #: Paths of the lines up to now, and the box of each.
        self._paths: list[tuple[QPainterPath, QRectF]] = []
        self._next = Soon(sheet, 0, self._more)

    @property
    def count(self) -> int:
        """How many lines there are, those that are still to come included."""
        return len(self._lines)

    @property
    def whole(self) -> bool:
        """Whether all of them have come."""
        return len(self._paths) * LINES_AT_ONCE >= self.count

    def lay(self, lines: npt.NDArray[np.floating]) -> None:
        """Lay (k, 2, 2) lines, metres, in place of those before."""
        self._next.stop()
        self._lines, self._paths = lines, []
        self._take()
        if not self.whole:
            self._next.start()

    def lay_of(self, source: object, which: Hashable, lines: Callable[[], npt.NDArray[np.floating]]) -> None:
        """The same with the lines of something, of which there may be hundreds of thousands: nothing happens
        where they are there already.  which : those of it that are shown."""
        if source is not self._of[0] or which != self._of[1]:
            self._of = (source, which)
            self.lay(lines())

    def _take(self) -> None:
        begin = len(self._paths) * LINES_AT_ONCE
        some = self._lines[begin : begin + LINES_AT_ONCE]
        if len(some):
            low, high = some.min(axis=(0, 1)).tolist(), some.max(axis=(0, 1)).tolist()
            self._paths.append((lines_path(some), QRectF(QPointF(*low), QPointF(*high))))

    def _more(self) -> None:
        self._take()
        if self.whole:
            self._come()
        else:
            self._next.start()

    def paint(self, painter: QPainter) -> None:
        """Paint those that have come and lie in sight, with the painter's pen."""
        sight = painter.transform().inverted()[0].mapRect(QRectF(painter.viewport()))
        for path, box in self._paths:
            # A box without width meets nothing by Qt's own reckoning.
            beside = box.right() < sight.left() or box.left() > sight.right()
            if not beside and box.bottom() >= sight.top() and box.top() <= sight.bottom():
                painter.drawPath(path)


class Paths:
    """A drawing ready to be painted, in metres."""

    def __init__(self, sheet: QObject, come: Callable[[], object]) -> None:
        """come : paints the sheet again, once lines are there that were to come."""
        self.cut, self.glass = QPainterPath(), QPainterPath()
        self.beyond, self.fine, self.lines = (LinePaths(sheet, come) for _ in range(3))

    def show(
        self, outlines: Sequence[Outline], beyond: npt.NDArray[np.floating], fine: npt.NDArray[np.floating]
    ) -> None:
        """Another drawing; the lines of reference stay."""
        self.cut = outlines_path([item for item in outlines if not item.glass])
        self.glass = outlines_path([item for item in outlines if item.glass])
        self.beyond.lay(beyond)
        self.fine.lay(fine)
