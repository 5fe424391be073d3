"""A tone curve to be drawn: points that are dragged, added and taken away; what a brightness becomes."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from altana.app.theme.number_field import NumberField
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import button, label
from altana.app.theme.words import tr
from altana.core.conventions import Vec2
from altana.core.light.tone import curve_table

#: A press this near to a point takes it; points keep this far from each other.
GRASP_PX, APART = 9.0, 0.02
MOST_POINTS = 8
#: Dragged this far out of the drawing, a point is taken away.
OUT_PX = 26.0


class CurveView(QWidget):
    """The curve itself.  ``changing(points)`` while a point is dragged, ``changed(points)`` once;
    ``chosen_changed`` when another point is the chosen one."""

    changing = Signal(object)
    changed = Signal(object)
    chosen_changed = Signal()

    def __init__(self, tokens: Tokens) -> None:
        super().__init__()
        self._tokens = tokens
        self.points: tuple[Vec2, ...] = ()
        self.chosen = -1
        self._dragged = False
        self._before: tuple[Vec2, ...] = ()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumHeight(96)
        self.setAccessibleName(tr("Tone curve"))
        self.setToolTip(
            tr(
                "What each brightness becomes. Press to add a point and drag it; drag it out or press Delete to take it away.\nKeys: Page up and down choose a point, the arrows move it, Insert adds one."
            )
        )

    def sizeHint(self) -> QSize:
        """Wider than high."""
        return QSize(220, 104)

    def _box(self) -> QRectF:
        return QRectF(self.rect()).adjusted(5, 5, -5, -5)

    def _at(self, point: Vec2) -> QPointF:
        box = self._box()
        return QPointF(box.left() + point[0] * box.width(), box.bottom() - point[1] * box.height())

    def _value(self, place: QPointF) -> Vec2:
        box = self._box()
        x, y = (place.x() - box.left()) / box.width(), (box.bottom() - place.y()) / box.height()
        return (min(1.0, max(0.0, x)), min(1.0, max(0.0, y)))

    def show_points(self, points: tuple[Vec2, ...]) -> None:
        """Another curve; while a point is dragged its own counts."""
        if not self._dragged and points != self.points:
            self.points = points
            self.chosen = min(self.chosen, len(points) - 1)
            self.update()
            self.chosen_changed.emit()

    def move_chosen(self, to: Vec2) -> None:
        """Put the chosen point elsewhere, between its neighbours."""
        self._move(to)
        self.changed.emit(self.points)

    def _move(self, to: Vec2) -> None:
        if not 0 <= self.chosen < len(self.points):
            return
        low = self.points[self.chosen - 1][0] + APART if self.chosen else 0.0
        high = self.points[self.chosen + 1][0] - APART if self.chosen + 1 < len(self.points) else 1.0
        points = list(self.points)
        points[self.chosen] = (round(min(high, max(low, to[0])), 4), round(min(1.0, max(0.0, to[1])), 4))
        self.points = tuple(points)
        self.update()
        self.chosen_changed.emit()

    def add_point(self, at: Vec2) -> bool:
        """A new point, which is the chosen one; not where another lies, and no more than eight."""
        if len(self.points) >= MOST_POINTS or any(abs(x - at[0]) < APART for x, _ in self.points):
            return False
        self.points = tuple(sorted([*self.points, (round(at[0], 4), round(at[1], 4))]))
        self.chosen = min(range(len(self.points)), key=lambda number: abs(self.points[number][0] - at[0]))
        self.update()
        self.chosen_changed.emit()
        return True

    def remove_chosen(self) -> None:
        """Take the chosen point away."""
        if 0 <= self.chosen < len(self.points):
            self._drop()
            self.changed.emit(self.points)

    def _drop(self) -> None:
        self.points = tuple(point for number, point in enumerate(self.points) if number != self.chosen)
        self.chosen = -1
        self.update()
        self.chosen_changed.emit()

    # ------------------------------------------------------------------ pointer and keys

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take a point, or add one on the curve."""
        place = event.position()
        self._before = self.points
        near = [
            number
            for number, point in enumerate(self.points)
            if (self._at(point) - place).manhattanLength() < 2 * GRASP_PX
        ]
        if near:
            self.chosen = min(
                near, key=lambda number: (self._at(self.points[number]) - place).manhattanLength()
            )
        elif not self.add_point(self._value(place)):
            return
        self._dragged = True
        self.update()
        self.chosen_changed.emit()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Drag the point; far out of the drawing it goes."""
        if not self._dragged:
            return
        far = self.rect().adjusted(0, -int(OUT_PX), 0, int(OUT_PX))
        if (
            not far.contains(event.position().toPoint().x(), event.position().toPoint().y())
            and self.chosen >= 0
        ):
            self._drop()
        else:
            self._move(self._value(event.position()))
        self.changing.emit(self.points)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """The end of a drag is one step."""
        if self._dragged:
            self._dragged = False
            if self.points != self._before:
                self.changed.emit(self.points)

    def event(self, event: QEvent) -> bool:
        """Keys that are shortcuts elsewhere move points here."""
        if (
            event.type() == QEvent.Type.ShortcutOverride
            and isinstance(event, QKeyEvent)
            and Qt.Key(event.key()) in _KEYS
        ):
            event.accept()
            return True
        return bool(super().event(event))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Page up and down choose, the arrows move, Delete takes away, Insert adds."""
        key = Qt.Key(event.key())
        step = 0.05 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 0.01
        if key in (Qt.Key.Key_PageUp, Qt.Key.Key_PageDown) and self.points:
            self.chosen = (self.chosen + (1 if key == Qt.Key.Key_PageDown else -1)) % len(self.points)
            self.update()
            self.chosen_changed.emit()
        elif key in _MOVES and self.chosen >= 0:
            x, y = self.points[self.chosen]
            self.move_chosen((x + _MOVES[key][0] * step, y + _MOVES[key][1] * step))
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.remove_chosen()
        elif key == Qt.Key.Key_Insert:
            self.insert()
        else:
            super().keyPressEvent(event)

    def insert(self) -> None:
        """A point on the curve in the middle of its widest stretch."""
        places = [0.0, *(x for x, _ in self.points), 1.0]
        widths = np.diff(places)
        number = int(np.argmax(widths))
        x = places[number] + float(widths[number]) / 2.0
        if self.add_point((x, float(np.interp(x, np.linspace(0.0, 1.0, 1025), curve_table(self.points))))):
            self.changed.emit(self.points)

    def paintEvent(self, _: QPaintEvent) -> None:
        """Quarters, the straight line, the curve and its points."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = self._box()
        painter.fillRect(box, QColor(self._tokens.leaf))
        painter.setPen(QPen(QColor(self._tokens.rule), 1))
        for share in (0.0, 0.25, 0.5, 0.75, 1.0):
            painter.drawLine(self._at((share, 0.0)), self._at((share, 1.0)))
            painter.drawLine(self._at((0.0, share)), self._at((1.0, share)))
        painter.setPen(QPen(QColor(self._tokens.pencil), 1, Qt.PenStyle.DotLine))
        painter.drawLine(self._at((0.0, 0.0)), self._at((1.0, 1.0)))
        ink = QColor(self._tokens.ink if self.isEnabled() else self._tokens.pencil)
        table = curve_table(self.points)
        along = np.linspace(0, len(table) - 1, 129).astype(int)
        painter.setPen(QPen(ink, 1.6))
        painter.drawPolyline(
            QPolygonF(
                [self._at((number / (len(table) - 1), float(table[number]))) for number in along.tolist()]
            )
        )
        for number, point in enumerate(self.points):
            chosen = number == self.chosen
            painter.setPen(QPen(ink, 1.4))
            painter.setBrush(QColor(self._tokens.verdigris if chosen else self._tokens.leaf))
            painter.drawEllipse(self._at(point), 5.0 if chosen else 4.0, 5.0 if chosen else 4.0)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(QColor(self._tokens.ink), 1))
            painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5))
            painter.drawRect(QRectF(self.rect()).adjusted(2.5, 2.5, -2.5, -2.5))
        painter.end()


_MOVES = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1)}
_KEYS = {
    *_MOVES,
    Qt.Key.Key_PageUp,
    Qt.Key.Key_PageDown,
    Qt.Key.Key_Delete,
    Qt.Key.Key_Backspace,
    Qt.Key.Key_Insert,
}


class CurveEditor(QWidget):
    """The curve with the figures of its chosen point below it; ``changing(points)`` and
    ``changed(points)``."""

    changing = Signal(object)
    changed = Signal(object)

    def __init__(self, tokens: Tokens) -> None:
        super().__init__()
        self.view = CurveView(tokens)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addWidget(self.view)
        row = QHBoxLayout()
        row.setSpacing(4)
        self.before = NumberField(tr("From"), tr("Brightness of the chosen point"), "", 2, 0.01, 0.0, 1.0)
        self.after = NumberField(tr("To"), tr("What this brightness becomes"), "", 2, 0.01, 0.0, 1.0)
        self.before.changed.connect(lambda value: self.view.move_chosen((value, self.after.value)))
        self.after.changed.connect(lambda value: self.view.move_chosen((self.before.value, value)))
        self.add = button(tr("Add"), "small", tr("Another point on the curve (Insert)"), self.view.insert)
        self.away = button(
            tr("Away"), "small", tr("Take the chosen point away (Delete)"), self.view.remove_chosen
        )
        for part in (self.before, label(tr("to"), "quiet"), self.after, self.add, self.away):
            row.addWidget(part)
        for field in (self.before, self.after):
            field.setFixedWidth(52)
        column.addLayout(row)
        self.view.changing.connect(self.changing)
        self.view.changed.connect(self.changed)
        self.view.chosen_changed.connect(self._show_chosen)
        self._show_chosen()

    def show_points(self, points: tuple[Vec2, ...]) -> None:
        """Another curve."""
        self.view.show_points(points)

    def _show_chosen(self) -> None:
        chosen = 0 <= self.view.chosen < len(self.view.points)
        for field in (self.before, self.after):
            field.setEnabled(chosen)
        self.away.setEnabled(chosen)
        self.add.setEnabled(len(self.view.points) < MOST_POINTS)
        x, y = self.view.points[self.view.chosen] if chosen else (0.0, 0.0)
        self.before.show_value(x)
        self.after.show_value(y)
