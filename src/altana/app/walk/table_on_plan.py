"""A turntable in the hands of its user on the plan: its centre, where it begins with its radius, and where it
ends."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QColor, QPainter, QPen

from altana.app.canvas.gestures.sheet import GRIP_PX
from altana.app.canvas.marks import apart
from altana.app.canvas.plan_sheet import PlanSheet
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.app.workspace.bridge import Bridge
from altana.core.conventions import Vec2
from altana.core.edits.walks import set_walk
from altana.core.project import Turntable, Walk
from altana.core.ranges import RADIUS_M

CENTRE, BEGIN, END = "centre", "begin", "end"
LABELS = {CENTRE: tr("Centre of a turntable"), BEGIN: tr("Radius and begin"), END: tr("Sweep")}
#: The knob of the end lies so far outside the circle, px: a whole turn ends where it begins.
OUTSIDE_PX = 16.0
#: Angles fall on whole steps of this, degrees.
STEP_DEG = 1.0


@dataclass(slots=True)
class _KnobInHand:
    """A knob in hand, and the turntable as it was."""

    knob: str
    walk: Walk
    table: Turntable


class TableOnPlan:
    """Knobs of the chosen turntable on the plan."""

    def __init__(self, bridge: Bridge, plan: PlanSheet, tokens: Tokens) -> None:
        self._bridge, self._plan, self._tokens = bridge, plan, tokens
        self._taken: _KnobInHand | None = None

    def knobs(self, table: Turntable) -> dict[str, QPointF]:
        """Where each knob lies on the plan, px."""
        x, y, _ = table.centre
        out_m = OUTSIDE_PX / self._plan.px_per_m
        begin, end = math.radians(table.start_deg), math.radians(table.start_deg + table.sweep_deg)
        return {
            CENTRE: self._plan.to_screen(x, y),
            BEGIN: self._plan.to_screen(
                x + table.radius_m * math.sin(begin), y + table.radius_m * math.cos(begin)
            ),
            END: self._plan.to_screen(
                x + (table.radius_m + out_m) * math.sin(end), y + (table.radius_m + out_m) * math.cos(end)
            ),
        }

    def paint(self, painter: QPainter, table: Turntable) -> None:
        """Lay the knobs over the plan: a cross in the centre, a dot where it begins, a square where it
        ends."""
        knobs = self.knobs(table)
        ink = QColor(self._tokens.ink)
        painter.setPen(QPen(ink, 1.0))
        painter.drawLine(knobs[CENTRE], knobs[BEGIN])
        at = knobs[CENTRE]
        painter.drawLine(at - QPointF(6, 0), at + QPointF(6, 0))
        painter.drawLine(at - QPointF(0, 6), at + QPointF(0, 6))
        painter.setBrush(QColor(self._tokens.leaf))
        painter.drawEllipse(knobs[BEGIN], 4.5, 4.5)
        painter.setBrush(ink)
        painter.drawRect(QRectF(knobs[END].x() - 4, knobs[END].y() - 4, 8, 8))

    def take(self, walk: Walk, at: QPointF) -> bool:
        """Take the knob under the pointer."""
        table = walk.turntable
        if table is None or walk.locked:
            return False
        away, knob = min((apart(place, at), name) for name, place in self.knobs(table).items())
        if away > GRIP_PX:
            return False
        self._taken = _KnobInHand(knob, walk, table)
        self._bridge.begin()
        return True

    def carry(self, place: Vec2) -> None:
        """The knob goes along; the eye keeps its height."""
        taken = self._taken
        if taken is None:
            return
        table = taken.table
        x, y, z = table.centre
        if taken.knob == CENTRE:
            changed = replace(table, centre=(round(place[0], 3), round(place[1], 3), z))
        else:
            dx, dy = place[0] - x, place[1] - y
            around = round(math.degrees(math.atan2(dx, dy)) / STEP_DEG) * STEP_DEG % 360.0
            if taken.knob == BEGIN:
                radius = min(max(round(math.hypot(dx, dy), 2), RADIUS_M.low), RADIUS_M.high)
                changed = replace(table, radius_m=radius, start_deg=around)
            else:
                changed = replace(table, sweep_deg=_sweep(table, around))
        self._bridge.preview(lambda project: set_walk(project, taken.walk.id, turntable=changed))

    def put_down(self) -> bool:
        """One undo step for the whole drag; False where nothing was in hand."""
        if self._taken is None:
            return False
        self._bridge.commit(LABELS[self._taken.knob])
        self._taken = None
        return True


def _sweep(table: Turntable, end_deg: float) -> float:
    """The sweep that ends there, the way round that the turntable goes; a whole turn where it would be
    none."""
    way = 1.0 if table.sweep_deg >= 0.0 else -1.0
    return way * ((way * (end_deg - table.start_deg)) % 360.0 or 360.0)
