"""Composition guides over the Frame; they never get into any output."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from altana.core.project import Camera

GOLDEN = 0.3819660112501051
TITLE_MARGIN = 0.1


def guide_lines(camera: Camera, guide: str, rect: QRectF) -> list[tuple[QPointF, QPointF]]:
    """The lines of one guide in a picture's rectangle."""
    left, right, top, bottom = rect.left(), rect.right(), rect.top(), rect.bottom()
    if guide in ("thirds", "golden", "centre"):
        shares = {"thirds": (1 / 3, 2 / 3), "golden": (GOLDEN, 1 - GOLDEN), "centre": (0.5,)}[guide]
        lines = []
        for share in shares:
            x, y = round(left + rect.width() * share), round(top + rect.height() * share)
            lines += [(QPointF(x, top), QPointF(x, bottom)), (QPointF(left, y), QPointF(right, y))]
        return lines
    if guide == "diagonals":
        return [(rect.topLeft(), rect.bottomRight()), (rect.bottomLeft(), rect.topRight())]
    if guide == "horizon":
        return _horizon(camera, rect)
    inset = rect.adjusted(
        *(
            sign * TITLE_MARGIN * size
            for sign, size in ((1, rect.width()), (1, rect.height()), (-1, rect.width()), (-1, rect.height()))
        )
    )
    corners = [inset.topLeft(), inset.topRight(), inset.bottomRight(), inset.bottomLeft()]
    return [(corners[index], corners[(index + 1) % 4]) for index in range(4)]


def _horizon(camera: Camera, rect: QRectF) -> list[tuple[QPointF, QPointF]]:
    """Where level directions meet the picture: the eye's own height at any distance."""
    view = camera.view()
    places = []
    for aside in (-40.0, 40.0):
        turn = math.radians(camera.heading_deg + aside)
        x, y, z = camera.eye
        px, py, depth = view.project([[x + math.sin(turn) * 1e5, y + math.cos(turn) * 1e5, z]])[0].tolist()  # type: ignore[arg-type]
        if depth <= 0 or not math.isfinite(px):
            return []
        places.append((px / view.width_px, py / view.height_px))
    (x0, y0), (x1, y1) = places
    if abs(x1 - x0) < 1e-9:
        return []
    slope = (y1 - y0) / (x1 - x0)
    ends = [y0 + slope * (edge - x0) for edge in (0.0, 1.0)]
    if all(end < 0 for end in ends) or all(end > 1 for end in ends):
        return []
    return [
        (
            QPointF(rect.left(), rect.top() + ends[0] * rect.height()),
            QPointF(rect.right(), rect.top() + ends[1] * rect.height()),
        )
    ]


def paint_guides(painter: QPainter, camera: Camera, rect: QRectF) -> None:
    """All guides of the camera's format; a dark line beside a light one reads on any picture."""
    painter.save()
    painter.setClipRect(rect)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    for colour, shift in ((QColor(0, 0, 0, 80), 1.0), (QColor(255, 255, 255, 140), 0.0)):
        for guide in camera.guides:
            style = Qt.PenStyle.DashLine if guide == "horizon" else Qt.PenStyle.SolidLine
            painter.setPen(QPen(colour, 1, style))
            painter.setRenderHint(QPainter.RenderHint.Antialiasing, guide in ("diagonals", "horizon"))
            for a, b in guide_lines(camera, guide, rect):
                painter.drawLine(a + QPointF(shift, shift), b + QPointF(shift, shift))
    painter.restore()
