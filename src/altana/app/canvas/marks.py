"""The marks that Plan and Section share, as drafting draws them: tags, dimensions, grips, bounds, wall cuts,
the field of view."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QFont, QFontMetricsF, QPainter, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens


def apart(a: QPointF, b: QPointF) -> float:
    """Distance between two places on the sheet, in pixels."""
    return math.hypot(a.x() - b.x(), a.y() - b.y())


class Marks:
    """Paints marks on one sheet, within which they stay."""

    def __init__(self, sheet: QWidget, tokens: Tokens) -> None:
        self._sheet, self._tokens = sheet, tokens

    def hint(self, painter: QPainter, texts: tuple[str, str]) -> None:
        """What the next press does, on a coloured patch at the foot; the shorter words where there is little
        room."""
        painter.setFont(text_font(9))
        for text in texts:
            box = QRectF(painter.fontMetrics().boundingRect(text)).adjusted(-12, -5, 12, 5)
            if box.width() <= self._sheet.width() - 12:
                break
        box.moveCenter(QPointF(self._sheet.width() / 2, self._sheet.height() - 22))
        painter.fillRect(box, QColor(self._tokens.verdigris))
        painter.setPen(QColor(self._tokens.on_verdigris))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def tick(self, painter: QPainter, at: QPointF, heading: float) -> None:
        """The end of a dimension line."""
        run = QPointF(math.sin(heading + 0.8) * 5, -math.cos(heading + 0.8) * 5)
        painter.drawLine(at - run, at + run)

    def tag(
        self, painter: QPainter, at: QPointF, text: str, colour: str = "", taken: list[QRectF] | None = None
    ) -> QRectF:
        """Text on a patch of paper, kept within the sheet and, where ``taken`` is given, clear of what stands
        there."""
        painter.setFont(text_font(8.5))
        box = QRectF(painter.fontMetrics().boundingRect(text)).adjusted(-4, -1, 4, 1)
        box.moveLeft(min(max(at.x(), 4.0), self._sheet.width() - box.width() - 4))
        box.moveTop(min(max(at.y() - box.height() / 2, 4.0), self._sheet.height() - box.height() - 4))
        if taken is not None:
            for _ in range(6):
                if not any(box.intersects(other) for other in taken):
                    break
                box.translate(0, box.height() + 1)
            taken.append(box)
        ground = QColor(self._tokens.leaf)
        ground.setAlpha(235)
        painter.fillRect(box, ground)
        painter.setPen(QColor(colour or self._tokens.ink))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
        return box

    def dimension(
        self, painter: QPainter, a: QPointF, b: QPointF, text: str, taken: list[QRectF] | None = None
    ) -> None:
        """A dimension line with ticks and its figure in the middle."""
        painter.setPen(QPen(QColor(self._tokens.ink), 1.0))
        painter.drawLine(a, b)
        along = math.atan2(b.x() - a.x(), a.y() - b.y())
        for end in (a, b):
            self.tick(painter, end, along)
        self.tag(painter, (a + b) / 2 + QPointF(-18, -9), text, taken=taken)

    def scale_bar(self, painter: QPainter, px_per_m: float) -> None:
        """A bar of a round length."""
        painter.setFont(text_font(8.5))
        painter.setPen(QPen(QColor(self._tokens.pencil), 1.3))
        metres = next((m for m in (0.5, 1, 2, 5, 10, 20, 50, 100, 200) if m * px_per_m > 50), 200)
        length = metres * px_per_m
        right, y = self._sheet.width() - 18.0, self._sheet.height() - 14.0
        paper = QColor(self._tokens.leaf)
        paper.setAlpha(225)
        painter.fillRect(QRectF(right - length - 6, y - 20, length + 12, 28), paper)
        painter.drawLine(QPointF(right - length, y), QPointF(right, y))
        for x in (right - length, right):
            painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))
        painter.drawText(
            QRectF(right - length, y - 19, length, 14), Qt.AlignmentFlag.AlignCenter, f"{metres:g} m"
        )

    def titled(self, painter: QPainter, title: str, detail: str) -> None:
        """What the sheet is, and how it is cut."""
        paper = QColor(self._tokens.leaf)
        paper.setAlpha(225)
        painter.fillRect(self.title_box(title, detail), paper)
        painter.setPen(QColor(self._tokens.pencil))
        painter.setFont(text_font(9))
        wide = QFontMetricsF(text_font(9, QFont.Weight.Bold)).horizontalAdvance(title)
        painter.drawText(QPointF(18 + wide, 20), detail)
        painter.setFont(text_font(9, QFont.Weight.Bold))
        painter.setPen(QColor(self._tokens.ink))
        painter.drawText(QPointF(12, 20), title)

    def title_box(self, title: str, detail: str) -> QRectF:
        """Where a sheet's title lies."""
        bold, plain = (
            QFontMetricsF(text_font(9, weight)) for weight in (QFont.Weight.Bold, QFont.Weight.Normal)
        )
        return QRectF(0, 0, bold.horizontalAdvance(title) + plain.horizontalAdvance(detail) + 30, 28)

    def square_handle(self, painter: QPainter, at: QPointF, colour: str) -> None:
        """A grip."""
        painter.setPen(QPen(QColor(colour), 1.6))
        painter.setBrush(QColor(self._tokens.leaf))
        painter.drawRect(QRectF(at.x() - 3.5, at.y() - 3.5, 7, 7))

    def field_shape(
        self,
        painter: QPainter,
        at: QPointF,
        near: list[QPointF],
        far: list[QPointF],
        beyond: list[QPointF],
        cut: bool,
        loose: bool,
    ) -> None:
        """The field of view from where it begins to what stops it, its two edges, and, hatched, what the
        bounds cut away.

        beyond : what would stop sight without the far bound; empty where there is none.
        """
        wash, hatch = QColor(self._tokens.verdigris), QColor(self._tokens.saffron)
        wash.setAlpha(26 if loose else 42)
        hatch.setAlpha(150)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(wash)
        # Its edge needs no smoothing, which would cost more than all the rest.
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        painter.drawPolygon(QPolygonF([*near[::-1], *far]))
        if cut:
            painter.setBrush(QBrush(hatch, Qt.BrushStyle.BDiagPattern))
            painter.drawPolygon(QPolygonF([at, *near]))
        if beyond:
            shade = QColor(self._tokens.mulberry)
            shade.setAlpha(120)
            painter.setBrush(QBrush(shade, Qt.BrushStyle.FDiagPattern))
            painter.drawPolygon(QPolygonF([*far, *beyond[::-1]]))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(
            QPen(
                QColor(self._tokens.verdigris), 1.4, Qt.PenStyle.DashLine if loose else Qt.PenStyle.SolidLine
            )
        )
        painter.drawLine(near[0], far[0])
        painter.drawLine(near[-1], far[-1])

    def near_line(self, painter: QPainter, a: QPointF, b: QPointF, towards_eye: QPointF) -> None:
        """The near bound: solid, with teeth on the side that is cut away."""
        painter.setPen(QPen(QColor(self._tokens.saffron), 2.0))
        painter.drawLine(a, b)
        length = apart(a, b)
        away = math.hypot(towards_eye.x(), towards_eye.y()) or 1.0
        tooth = QPointF(towards_eye.x() / away * 5, towards_eye.y() / away * 5)
        for share in np.arange(4.0, max(length, 4.1), 8.0) / max(length, 1e-6):
            foot = a + (b - a) * float(share)
            painter.drawLine(foot, foot + tooth)

    def pin(self, painter: QPainter, at: QPointF) -> None:
        """A bound that is fixed in the building: a pin at its end."""
        painter.setPen(QPen(QColor(self._tokens.saffron), 1.8))
        painter.setBrush(QColor(self._tokens.saffron))
        painter.drawEllipse(at, 3.2, 3.2)

    def far_line(self, painter: QPainter, a: QPointF, b: QPointF, figure: str) -> None:
        """The far bound: long dashes and a figure."""
        pen = QPen(QColor(self._tokens.mulberry), 2.0)
        pen.setDashPattern([7, 4])
        painter.setPen(pen)
        painter.drawLine(a, b)
        self.tag(painter, b + QPointF(4, 0), figure, self._tokens.mulberry)

    def cut_line(self, painter: QPainter, a: QPointF, b: QPointF, into: QPointF, on: bool, text: str) -> None:
        """A wall cut, as drafting draws a cutting line: a chain line with thick ends and arrows into the kept
        room."""
        colour = QColor(self._tokens.saffron if on else self._tokens.pencil)
        pen = QPen(colour, 1.8 if on else 1.1)
        pen.setDashPattern([9, 3, 1.5, 3])
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawLine(a, b)
        length = apart(a, b) or 1.0
        run = (b - a) / length
        size = math.hypot(into.x(), into.y()) or 1.0
        for end, inwards in ((a, run), (b, -run)):
            painter.setPen(QPen(colour, 4.0 if on else 1.2, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
            painter.drawLine(end, end + inwards * min(10.0, length / 3))
            painter.setPen(QPen(colour, 1.6))
            self.arrow(painter, end + into / size * 14, into)
        middle = (a + b) / 2
        if on:
            self.square_handle(painter, middle, self._tokens.saffron)
        if text:
            self.tag(painter, middle + into / size * 12 + QPointF(6, 4), text)

    def arrow(self, painter: QPainter, tip: QPointF, run: QPointF) -> None:
        """An arrow with its tip here, pointing along ``run``."""
        size = math.hypot(run.x(), run.y()) or 1.0
        unit = run / size
        side = QPointF(-unit.y(), unit.x())
        painter.drawLine(tip - unit * 14, tip)
        painter.drawPolyline(QPolygonF([tip - unit * 6 + side * 4, tip, tip - unit * 6 - side * 4]))

    def focus_ring(self, painter: QPainter) -> None:
        """Two ink rings round a sheet that has the keyboard."""
        if self._sheet.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(QColor(self._tokens.ink), 1))
            painter.drawRect(QRectF(self._sheet.rect()).adjusted(0.5, 0.5, -1.5, -1.5))
            painter.drawRect(QRectF(self._sheet.rect()).adjusted(2.5, 2.5, -3.5, -3.5))
