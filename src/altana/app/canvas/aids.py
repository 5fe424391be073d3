"""Aids over the Frame that show what a check found; they never get into any picture.

Vertical edges with how far each deviates, vanishing points, cut faces and gaps hatched.  Lines and hatches
tell themselves apart without colour: cut faces lean one way, gaps are boxed and lean the other.
"""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPen, QPolygonF

from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.core.checks.gaps import Gaps
from altana.core.checks.perspective import Vanishing, vanishing_points
from altana.core.checks.verticals import Verticals
from altana.core.conventions import Bools
from altana.core.project import Camera, Limits

#: The aids by name, with what each shows.
AIDS = {
    "verticals": tr("Vertical edges: how far each deviates, in pixels of the output"),
    "vanishing": tr("Vanishing points of verticals and walls, and which way they lie"),
    "cut faces": tr("Cut faces: where a bound opens something"),
    "gaps": tr("Gaps: openings that nothing closes, ground that ends"),
}
HATCH_PX = 9
MOST_LABELS = 6

#: The aids that are hatched over the picture.
HATCHED = frozenset({"cut faces", "gaps"})


def paint_verticals(
    painter: QPainter, rect: QRectF, camera: Camera, edges: Verticals, limits: Limits, tokens: Tokens
) -> None:
    """Every seen vertical edge; those beyond the limit thicker, with their deviation and the true vertical
    beside them."""
    x, y = rect.width() / camera.width_px, rect.height() / camera.height_px
    painter.save()
    painter.setClipRect(rect)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    order = np.argsort(-np.abs(edges.deviation_px))
    # The worst are painted last, over the others.
    for number in order[::-1].tolist():
        low, high = edges.lines[number]
        off = float(edges.deviation_px[number])
        a = QPointF(rect.left() + low[0] * x, rect.top() + low[1] * y)
        b = QPointF(rect.left() + high[0] * x, rect.top() + high[1] * y)
        wrong = abs(off) > limits.vertical_px
        for colour, width in (
            (QColor(0, 0, 0, 130), 3.4 if wrong else 2.6),
            (QColor(tokens.brick if wrong else "#FBFAF6"), 1.8 if wrong else 1.1),
        ):
            painter.setPen(QPen(colour, width))
            painter.drawLine(a, b)
        if wrong:
            pen = QPen(QColor("#FBFAF6"), 1.0, Qt.PenStyle.DashLine)
            painter.setPen(pen)
            painter.drawLine(a, QPointF(a.x(), b.y()))
    taken: list[QRectF] = []
    for number in order[:MOST_LABELS].tolist():
        off = float(edges.deviation_px[number])
        if abs(off) > limits.vertical_px:
            top = edges.lines[number][1]
            at = QPointF(rect.left() + top[0] * x + 6, rect.top() + top[1] * y + 14)
            _label(painter, rect, at, f"! {abs(off):.1f} px {'right' if off > 0 else 'left'}", taken, tokens)
    worst = edges.worst_px
    if not edges.count:
        text = tr("No vertical edge in view is long enough to be judged")
    else:
        text = (
            tr("%n vertical edges, at worst {worst:.1f} px off", "", edges.count, worst=worst)
            if worst >= 0.05
            else tr("%n vertical edges, all true", "", edges.count)
        )
    _label(painter, rect, QPointF(rect.left() + 8, rect.bottom() - 16), text, taken, tokens)
    painter.restore()


def paint_vanishing(
    painter: QPainter, rect: QRectF, camera: Camera, axes: tuple[float, ...], tokens: Tokens
) -> None:
    """Vanishing points in the frame as crosses with rays, those outside as arrows at its edge with their
    distance."""
    view = camera.view()
    painter.save()
    painter.setClipRect(rect)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    taken: list[QRectF] = []
    x, y = rect.width() / camera.width_px, rect.height() / camera.height_px
    for point in vanishing_points(view, axes):
        if point.place is None:
            _at_infinity(painter, rect, point, taken, tokens)
            continue
        at = QPointF(rect.left() + point.place[0] * x, rect.top() + point.place[1] * y)
        _rays(painter, rect, at)
        name = point.name if point.name == "verticals" else tr("walls {name}", name=point.name)
        if rect.contains(at):
            painter.setPen(QPen(QColor("#FBFAF6"), 2.0))
            for run in (QPointF(8, 0), QPointF(0, 8)):
                painter.drawLine(at - run, at + run)
            _label(painter, rect, at + QPointF(10, -12), tr("{name} vanish here", name=name), taken, tokens)
        else:
            _outside(painter, rect, at, f"{name}: {_away(rect, at)}", taken, tokens)
    painter.restore()


def _away(rect: QRectF, at: QPointF) -> str:
    wide = math.hypot(at.x() - rect.center().x(), at.y() - rect.center().y()) / rect.width()
    return tr("{wide:.1f} frame widths away", wide=wide) if wide < 100 else tr("very far")


def _rays(painter: QPainter, rect: QRectF, at: QPointF) -> None:
    """Faint lines to a vanishing point, evenly over the frame."""
    painter.setPen(QPen(QColor(251, 250, 246, 120), 1.0))
    corners = [rect.topLeft(), rect.topRight(), rect.bottomRight(), rect.bottomLeft()]
    if rect.contains(at):
        for number in range(16):
            turn = math.tau * number / 16
            painter.drawLine(
                at, at + QPointF(math.cos(turn), math.sin(turn)) * (rect.width() + rect.height())
            )
        return
    centre = rect.center()
    middle = math.atan2(centre.y() - at.y(), centre.x() - at.x())
    spread = [math.remainder(math.atan2(c.y() - at.y(), c.x() - at.x()) - middle, math.tau) for c in corners]
    reach = math.hypot(centre.x() - at.x(), centre.y() - at.y()) + rect.width() + rect.height()
    for turn in np.linspace(min(spread), max(spread), 11).tolist():
        painter.drawLine(at, at + QPointF(math.cos(middle + turn), math.sin(middle + turn)) * reach)


def _outside(
    painter: QPainter, rect: QRectF, at: QPointF, text: str, taken: list[QRectF], tokens: Tokens
) -> None:
    inner = rect.adjusted(18, 18, -18, -18)
    run = at - rect.center()
    shares = [
        (edge - start) / step
        for start, step, edge in (
            (rect.center().x(), run.x(), inner.right() if run.x() > 0 else inner.left()),
            (rect.center().y(), run.y(), inner.bottom() if run.y() > 0 else inner.top()),
        )
        if abs(step) > 1e-6
    ]
    tip = rect.center() + run * min(shares, default=0.0)
    length = math.hypot(run.x(), run.y()) or 1.0
    unit = run / length
    side = QPointF(-unit.y(), unit.x())
    for colour, width in ((QColor(0, 0, 0, 150), 4.0), (QColor("#FBFAF6"), 2.0)):
        painter.setPen(QPen(colour, width))
        painter.drawLine(tip - unit * 26, tip)
        painter.drawPolyline(QPolygonF([tip - unit * 9 + side * 6, tip, tip - unit * 9 - side * 6]))
    _label(painter, rect, tip - unit * 30 + QPointF(-40, -10 if unit.y() > -0.5 else 8), text, taken, tokens)


def _at_infinity(
    painter: QPainter, rect: QRectF, point: Vanishing, taken: list[QRectF], tokens: Tokens
) -> None:
    """What never vanishes: verticals of an upright camera, walls that stand across the line of sight."""
    if point.name == "verticals":
        _label(
            painter,
            rect,
            QPointF(rect.center().x() - 70, rect.top() + 14),
            tr("verticals stay vertical"),
            taken,
            tokens,
        )
    else:
        _label(
            painter,
            rect,
            QPointF(rect.right() - 170, rect.center().y()),
            tr("walls {name} stay level", name=point.name),
            taken,
            tokens,
        )


def _label(
    painter: QPainter, rect: QRectF, at: QPointF, text: str, taken: list[QRectF], tokens: Tokens
) -> None:
    painter.setFont(text_font(8.5))
    box = QRectF(painter.fontMetrics().boundingRect(text)).adjusted(-5, -2, 5, 2)
    box.moveTopLeft(QPointF(at.x(), at.y() - box.height() / 2))
    box.moveLeft(min(max(box.left(), rect.left() + 4), rect.right() - box.width() - 4))
    box.moveTop(min(max(box.top(), rect.top() + 4), rect.bottom() - box.height() - 4))
    for _ in range(8):
        if not any(box.intersects(other) for other in taken):
            break
        box.translate(0, box.height() + 2)
    taken.append(box)
    painter.fillRect(box, QColor(tokens.band))
    painter.setPen(QColor(tokens.band_text))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)


def hatched(mask: Bools, width: int, height: int, colour: str, falling: bool) -> QImage:
    """A picture of the frame's size with a mask hatched in a colour, and clear elsewhere."""
    rows = np.minimum(np.arange(height) * mask.shape[0] // max(height, 1), mask.shape[0] - 1)
    columns = np.minimum(np.arange(width) * mask.shape[1] // max(width, 1), mask.shape[1] - 1)
    where = mask[np.ix_(rows, columns)]
    y, x = np.mgrid[0:height, 0:width]
    line = ((x + y if falling else x - y) % HATCH_PX) < 3
    shade = QColor(colour)
    pixels = np.zeros((height, width, 4), np.uint8)
    pixels[where] = (shade.red(), shade.green(), shade.blue(), 80)
    pixels[where & line] = (shade.red(), shade.green(), shade.blue(), 235)
    return QImage(pixels.tobytes(), width, height, width * 4, QImage.Format.Format_RGBA8888).copy()


def paint_gaps(painter: QPainter, rect: QRectF, gaps: Gaps, tokens: Tokens) -> None:
    """A box round each gap with what it is and its share."""
    painter.save()
    painter.setClipRect(rect)
    taken: list[QRectF] = []
    for number, gap in enumerate(gaps.gaps, 1):
        left, top, right, bottom = gap.box
        box = QRectF(
            rect.left() + left * rect.width(),
            rect.top() + top * rect.height(),
            (right - left) * rect.width(),
            (bottom - top) * rect.height(),
        ).adjusted(-2, -2, 2, 2)
        for colour, width in ((QColor("#FBFAF6"), 3.5), (QColor(tokens.brick), 1.6)):
            painter.setPen(QPen(colour, width))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(box)
        words = "opening" if gap.kind == "hole" else tr("ground ends")
        _label(
            painter,
            rect,
            box.topLeft() + QPointF(4, 10),
            f"{number}: {words}, {gap.share * 100:.1f} %",
            taken,
            tokens,
        )
    painter.restore()
