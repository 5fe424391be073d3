"""The bounds and wall cuts of the shown camera on the plan."""

from __future__ import annotations

import math
from typing import Protocol

import numpy as np
from PySide6.QtCore import QPointF, QRect, QRectF
from PySide6.QtGui import QColor, QPainter, QPen

from altana.app.canvas.marks import Marks
from altana.app.canvas.sheet import FARTHEST_SEEN_M
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.core.camera.wall_cut import WallCut
from altana.core.project import Camera


class BoundsGround(Protocol):
    """What bounds need of the plan on which they are drawn."""

    marks: Marks

    @property
    def px_per_m(self) -> float:
        """How many pixels a metre takes."""

    def to_screen(self, x: float, y: float) -> QPointF:
        """Metres on the sheet to pixels of the widget."""

    def rect(self) -> QRect:
        """The whole sheet."""


class PlanBounds:
    """Paints bounds on one plan, and says where they lie."""

    def __init__(self, plan: BoundsGround, tokens: Tokens) -> None:
        self._plan, self._tokens = plan, tokens

    def on_axis(self, camera: Camera, depth_m: float) -> QPointF:
        """A point on the line of sight, px."""
        heading = math.radians(camera.heading_deg)
        return self._plan.to_screen(
            camera.eye[0] + math.sin(heading) * depth_m, camera.eye[1] + math.cos(heading) * depth_m
        )

    def paint(self, painter: QPainter, camera: Camera) -> None:
        """The bounds that are on, and all wall cuts."""
        left, right, _, _ = camera.view().edges()
        heading = math.radians(camera.heading_deg)
        side = QPointF(math.cos(heading), math.sin(heading)) * self._plan.px_per_m
        eye = self._plan.to_screen(*camera.eye[:2])
        near, far = camera.near, camera.far
        if near is not None:
            middle = self.on_axis(camera, near)
            grow = max(near, 9.0 / self._plan.px_per_m)
            a, b = middle + side * left * grow, middle + side * right * grow
            self._plan.marks.near_line(painter, a, b, eye - middle)
            if camera.near_at is not None:
                self._plan.marks.pin(painter, b)
        if far is not None:
            middle = self.on_axis(camera, far)
            if self._plan.rect().contains(middle.toPoint()):
                fixed = tr(", fixed") if camera.far_at is not None else ""
                self._plan.marks.far_line(
                    painter,
                    middle + side * left * far,
                    middle + side * right * far,
                    tr("far {far:.1f} m{fixed}", far=far, fixed=fixed),
                )
            else:
                self._far_beyond(painter, eye, middle, far)
        for cut in camera.wall_cuts:
            a, b, into = self.cut_ends(cut)
            self._plan.marks.cut_line(
                painter, a, b, into, cut.on, f"{cut.offset_m:+.2f} m" if cut.offset_m else ""
            )

    def cut_ends(self, cut: WallCut) -> tuple[QPointF, QPointF, QPointF]:
        """A wall cut on the sheet: its left and right end, and the way into the kept room."""
        middle = np.asarray(cut.place) + cut.normal * cut.offset_m
        a, b = (
            middle - cut.along * min(cut.left_m, FARTHEST_SEEN_M),
            middle + cut.along * min(cut.right_m, FARTHEST_SEEN_M),
        )
        normal = cut.normal
        return (
            self._plan.to_screen(a[0], a[1]),
            self._plan.to_screen(b[0], b[1]),
            QPointF(float(normal[0]), -float(normal[1])),
        )

    def _far_beyond(self, painter: QPainter, eye: QPointF, middle: QPointF, far_m: float) -> None:
        """The far bound lies off the sheet: an arrow at the edge, and its figure."""
        frame = QRectF(self._plan.rect()).adjusted(26, 40, -26, -30)
        run = middle - eye
        # Only the edges that the line of sight runs towards count.
        ends = (
            (eye.x(), run.x(), frame.right() if run.x() > 0 else frame.left()),
            (eye.y(), run.y(), frame.bottom() if run.y() > 0 else frame.top()),
        )
        shares = [max((bound - start) / step, 0.0) for start, step, bound in ends if abs(step) > 1e-6]
        tip = eye + run * min(shares, default=0.0)
        painter.setPen(QPen(QColor(self._tokens.mulberry), 2.0))
        self._plan.marks.arrow(painter, tip, run)
        self._plan.marks.tag(
            painter, tip + QPointF(6, -12), tr("far {far_m:.0f} m", far_m=far_m), self._tokens.mulberry
        )
