"""The timeline of a walk: pace and turning over time with their comfort limits, spans of looking, pauses,
places, flags.

Drag anywhere to scrub; press a flag or a place to go there; drag a place to give it its second, or an end of
a span of looking to make it longer.  Control adds places to the chosen ones, Shift those between.  The wheel
zooms about the pointer, Shift and wheel go along.  Flags carry a sign and a number, not only a colour.
"""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QSize, Qt, Signal
from PySide6.QtGui import QHelpEvent, QKeyEvent, QMouseEvent, QWheelEvent
from PySide6.QtWidgets import QToolTip

from altana.app.theme.tokens import Tokens
from altana.app.theme.words import spoken, tr
from altana.app.walk.timeline_chart import FOOT, LANE_PX, TOP, TimelineChart, look_words
from altana.core.conventions import parse_rate
from altana.core.walk.checks import Flag
from altana.core.walk.sample import WalkLine

#: How near, in pixels, a press must come to a flag or a place.
HOLD_PX = 7.0
OWN_KEYS = (
    Qt.Key.Key_Home,
    Qt.Key.Key_End,
    Qt.Key.Key_Left,
    Qt.Key.Key_Right,
    Qt.Key.Key_Up,
    Qt.Key.Key_Down,
    Qt.Key.Key_Plus,
    Qt.Key.Key_Minus,
    Qt.Key.Key_0,
    Qt.Key.Key_Delete,
)
#: With Control: choose all, copy, put in; with Shift too the camera only.
OWN_CONTROL_KEYS = (Qt.Key.Key_A, Qt.Key.Key_C, Qt.Key.Key_V)


class Timeline(TimelineChart):
    """Shows one walk line; ``moved(seconds)`` while scrubbing, ``key_chosen(index)`` when a place is
    pressed."""

    moved = Signal(float)
    key_chosen = Signal(int)
    key_moving = Signal(int, float)
    key_moved = Signal()
    look_chosen = Signal(int)
    look_moving = Signal(int, float, float)
    look_moved = Signal()
    copy_wanted = Signal()
    paste_wanted = Signal(bool)
    remove_wanted = Signal()

    def __init__(self, tokens: Tokens) -> None:
        super().__init__(tokens)
        self._grip: tuple[int, int] | None = None
        self._scrubbing = False
        #: The place whose second is dragged, from where, and whether it has moved.
        self._dragged = -1
        self._from = 0.0
        self._dragging = False

    def sizeHint(self) -> QSize:
        """Room for two graphs."""
        return QSize(600, 150)

    @property
    def held(self) -> bool:
        """Whether something on it is dragged."""
        return self._dragging or self._grip is not None

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Zoom about the pointer; with Shift go along."""
        turned = event.angleDelta().y() or event.angleDelta().x()
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier or event.angleDelta().x():
            step = -turned / 120.0 * 0.15 * (self.shown[1] - self.shown[0])
            self.show_part(self.shown[0] + step, self.shown[1] + step)
        elif turned:
            self.zoom(0.8 ** (turned / 120.0), self.second_at(event.position().x()))
        event.accept()

    # ------------------------------------------------------------------ hands

    def _flag_at(self, at: QPointF) -> Flag | None:
        near = (
            [(abs(self.x_of(flag.worst_s) - at.x()), number) for number, flag in enumerate(self.flags)]
            if at.y() < TOP
            else []
        )
        away, number = min(near, default=(math.inf, -1))
        return self.flags[number] if away <= 11.0 else None

    def _key_at(self, at: QPointF) -> int:
        if self.line is None or self.line.walk.turntable is not None or at.y() < self.height() - FOOT - 13:
            return -1
        near = [
            (abs(self.x_of(second) - at.x()), index)
            for index, second in enumerate(self.line.timing.key_s.tolist())
        ]
        away, index = min(near)
        return index if away <= HOLD_PX else -1

    def _grip_at(self, at: QPointF) -> tuple[int, int] | None:
        """A span of looking, and its beginning (0), its end (1) or its middle (-1)."""
        line = self.line
        if line is None or line.walk.turntable is not None or not self.lane <= at.y() < self.lane + LANE_PX:
            return None
        for index in reversed(range(len(line.walk.looks))):
            begin, end = (self.x_of(second) for second in self.look_span(index))
            for which, x in enumerate((begin, end)):
                if abs(x - at.x()) <= 4.0:
                    return index, which
            if begin < at.x() < end:
                return index, -1
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Go to a flag or a place, take hold of a span of looking, or begin to scrub."""
        if self.line is None or event.button() != Qt.MouseButton.LeftButton:
            return
        flag, key, grip = (
            self._flag_at(event.position()),
            self._key_at(event.position()),
            self._grip_at(event.position()),
        )
        if flag is not None:
            self.moved.emit(flag.worst_s)
        elif key >= 0:
            self._choose_with(key, event.modifiers())
            inner = 0 < key < len(self.line.walk.keys) - 1
            self._dragged, self._from, self._dragging = key if inner else -1, event.position().x(), False
        elif grip is not None:
            self.choose_look(grip[0])
            self._grip, self._from, self._dragging = grip, event.position().x(), False
        else:
            self._scrubbing = True
            self.moved.emit(self.second_at(event.position().x()))

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """The whole walk again."""
        if (
            self.line is not None
            and self._key_at(event.position()) < 0
            and self._grip_at(event.position()) is None
        ):
            self.show_part(0.0, self.line.walk.seconds)

    def _choose_with(self, key: int, modifiers: Qt.KeyboardModifier) -> None:
        """Control adds a place or takes it out, Shift takes all up to it; a press on one of several keeps
        them."""
        if modifiers & Qt.KeyboardModifier.ControlModifier:
            chosen = self.keys ^ {key}
        elif modifiers & Qt.KeyboardModifier.ShiftModifier and self.key >= 0:
            chosen = self.keys | frozenset(range(min(self.key, key), max(self.key, key) + 1))
        else:
            chosen = self.keys if key in self.keys else frozenset({key})
        self.choose_key(key, chosen)

    def choose_look(self, index: int) -> None:
        """Choose a span of looking; -1 chooses none."""
        self.look = index
        self.look_chosen.emit(index)
        self.update()

    def choose_key(self, index: int, among: frozenset[int] | None = None) -> None:
        """Choose a place, alone or among others, and go there."""
        if self.line is None or not 0 <= index < len(self.line.walk.keys):
            return
        self.keys = frozenset({index}) if among is None else among
        self.key = index if index in self.keys else max(self.keys, default=-1)
        self.key_chosen.emit(self.key)
        self.moved.emit(float(self.line.timing.key_s[index]))

    def choose_all(self) -> None:
        """Choose every place."""
        if self.line is not None and self.line.walk.keys:
            self.keys = frozenset(range(len(self.line.walk.keys)))
            self.key = max(self.key, 0)
            self.key_chosen.emit(self.key)
            self.update()

    def step_key(self, step: int) -> None:
        """Choose the place so many further on; the ends hold."""
        if self.line is not None:
            self.choose_key(min(len(self.line.walk.keys) - 1, max(0, self.key + step)))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Scrub, or drag what was taken hold of, by film frames."""
        line, x = self.line, event.position().x()
        if line is None:
            return
        if self._scrubbing:
            self.moved.emit(self.second_at(x))
            return
        if self._dragged < 0 and self._grip is None:
            return
        self._dragging |= abs(x - self._from) > 3.0
        if not self._dragging:
            return
        # Held by film frames: a place is passed in one, not between two.
        frame = 1.0 / float(parse_rate(line.walk.rate))
        second = round(self.second_at(x) / frame) * frame
        if self._dragged >= 0:
            self.key_moving.emit(self._dragged, second)
        elif self._grip is not None:
            self._drag_look(line, second, x)

    def _drag_look(self, line: WalkLine, second: float, x: float) -> None:
        assert self._grip is not None
        index, which = self._grip
        if index >= len(line.walk.looks):
            return
        look = line.walk.looks[index]
        share = float(line.timing.distance_at(np.array([second]))[0]) / line.route.length_m
        if which == 0:
            self.look_moving.emit(index, min(share, look.end - 0.002), look.end)
        elif which == 1:
            self.look_moving.emit(index, look.start, max(share, look.start + 0.002))
        else:
            before = (
                float(line.timing.distance_at(np.array([self.second_at(self._from)]))[0])
                / line.route.length_m
            )
            wide = look.end - look.start
            start = min(1.0 - wide, max(0.0, look.start + share - before))
            self._from = x
            self.look_moving.emit(index, start, start + wide)

    def mouseReleaseEvent(self, _: QMouseEvent) -> None:
        """The end of scrubbing, or of a drag."""
        self._scrubbing = False
        if self._dragging:
            (self.key_moved if self._dragged >= 0 else self.look_moved).emit()
        self._dragged, self._dragging, self._grip = -1, False, None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right go by a film frame (Shift: a second), Home and End to the ends, up and down from
        place to place; plus, minus and 0 zoom; Control with A, C, V chooses all, copies, puts in; Delete
        removes the chosen places."""
        line, key = self.line, event.key()
        if line is None:
            super().keyPressEvent(event)
            return
        control = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        step = 1.0 if shift else 1.0 / float(parse_rate(line.walk.rate))
        whole = line.walk.seconds
        if control and key == Qt.Key.Key_A:
            self.choose_all()
        elif control and key == Qt.Key.Key_C:
            self.copy_wanted.emit()
        elif control and key == Qt.Key.Key_V:
            self.paste_wanted.emit(shift)
        elif key == Qt.Key.Key_Delete:
            self.remove_wanted.emit()
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Minus):
            self.zoom(0.6 if key == Qt.Key.Key_Plus else 1.0 / 0.6, self.moment)
        elif key == Qt.Key.Key_0:
            self.show_part(0.0, whole)
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.moved.emit(min(whole, max(0.0, self.moment + (step if key == Qt.Key.Key_Right else -step))))
        elif key in (Qt.Key.Key_Home, Qt.Key.Key_End):
            self.moved.emit(0.0 if key == Qt.Key.Key_Home else whole)
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.step_key(1 if key == Qt.Key.Key_Up else -1)
        else:
            super().keyPressEvent(event)

    def event(self, event) -> bool:  # type: ignore[no-untyped-def]
        """What a flag says, under the pointer."""
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent) and _own(event):
            # Home means the beginning here, not what it means in the rest of the window.
            event.accept()
            return True
        if isinstance(event, QHelpEvent):
            flag = self._flag_at(QPointF(event.pos()))
            grip = self._grip_at(QPointF(event.pos()))
            text = tr("Drag to scrub; press a flag or a place to go there; the wheel zooms")
            if flag is not None:
                text = spoken(flag.sentence)
            elif grip is not None and self.line is not None:
                text = tr(
                    "Looks {look_words}. Drag it, or its ends",
                    look_words=look_words(self.line.walk.looks[grip[0]]),
                )
            QToolTip.showText(event.globalPos(), text, self)
            return True
        return bool(super().event(event))


def _own(event: QKeyEvent) -> bool:
    """Whether a key means something here that it does not mean in the rest of the window."""
    if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
        return event.key() in OWN_CONTROL_KEYS
    return event.key() in OWN_KEYS
