"""A number with its unit in one field."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QWheelEvent
from PySide6.QtWidgets import QToolTip

from altana.app.theme.lengths import length, typed_length, wording
from altana.app.theme.plain_text import tip_text
from altana.app.theme.value_field import RETURN, ValueField, is_letter
from altana.app.theme.words import spoken, tr
from altana.core.errors import Refused
from altana.core.measures import USUAL_DPI, parse_millimetres, parse_number, parse_pixels

#: What was wrong with what was typed is shown at the field for so long.
TOLD_MS = 3000


class NumberField(ValueField):
    """A number with its unit: typed in any unit, dragged sideways, or stepped with the arrow keys.

    ``changing(value)`` while dragging, then ``changed(value)`` once.
    """

    changing = Signal(float)
    changed = Signal(float)
    #: Pixels: both sides were typed.
    sides = Signal(float, float)

    def __init__(
        self,
        name: str,
        tip: str,
        unit: str = "",
        decimals: int = 2,
        step: float = 0.1,
        low: float = -1e6,
        high: float = 1e6,
    ) -> None:
        super().__init__()
        self._unit, self._decimals, self._step = unit, decimals, step
        self._low, self._high = low, high
        self._value = 0.0
        #: What nought is called, where it means that there is none.
        self.nothing = ""
        #: What a typed percentage refers to, where one makes sense.
        self.whole: Callable[[], float] | None = None
        #: Pixels: how fine it is printed, for sides typed in inches or millimetres.
        self.dpi: Callable[[], float] = lambda: USUAL_DPI
        self._drag: tuple[QPoint, float] | None = None
        self._dragging = False
        #: The usual tooltip, while another says what was wrong.
        self._tip = ""
        # Focus comes with the release, because a press may become a drag.
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName(name)
        self.setToolTip(tip_text(tr("{tip}\nType it, drag sideways, or use the up and down keys.", tip=tip)))
        self.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self.editingFinished.connect(self._typed)

    @property
    def value(self) -> float:
        """The number shown."""
        return self._value

    def show_value(self, value: float, unit: str | None = None) -> None:
        """Show a number without telling anyone; text being typed is left alone."""
        if unit is not None:
            self._unit = unit
        self._value = value
        text = self._text(value)
        # Setting even the same text lays out and paints anew, which a drag cannot afford.
        if not (self.hasFocus() and self.isModified()) and text != self.text():
            self.setText(text)
        if not self.isModified():
            self._mark(False)

    def reword(self) -> None:
        """The same number in other words: another unit is preferred now."""
        self.show_value(self._value)

    def show_mixed(self) -> None:
        """Several cameras are chosen and differ here; a number typed goes to all."""
        if not (self.hasFocus() and self.isModified()) and self.text() != tr("varies"):
            self.setText(tr("varies"))

    def _text(self, value: float) -> str:
        if self._unit == "m":
            shown = length(value, self._decimals)
            return self.nothing if self.nothing and round(value, self._decimals) == 0.0 else shown
        text = f"{value:.{self._decimals}f}"
        if self.nothing and float(text) == 0.0:
            return self.nothing
        if float(text) == 0.0:
            text = text.replace("-", "")
        joint = "" if self._unit in ("°", "") else " "
        return f"{wording.number(text)}{joint}{self._unit}"

    def _parse(self, text: str) -> float:
        if self.nothing and text.strip().lower() == self.nothing:
            return 0.0
        if self.whole is not None and text.rstrip().endswith("%"):
            return parse_number(text.rstrip()[:-1], ()) / 100.0 * self.whole()
        if self._unit == "m":
            return typed_length(text)
        if self._unit == "mm":
            return parse_millimetres(text)
        if self._unit == "px":
            return parse_pixels(text, self._value)[0]
        return parse_number(text, (self._unit, "deg") if self._unit == "°" else (self._unit,))

    def _typed(self) -> None:
        if not self.isModified():
            return
        try:
            value, other = self._parse(self.text()), None
            if self._unit == "px" and not (self.nothing and value == 0.0):
                value, other = parse_pixels(self.text(), self._value, self.dpi() or USUAL_DPI)
        except Refused as error:
            self._mark(True)
            self._say(spoken(error.sentence))
            return
        self.setModified(False)
        if self._tip:
            self.setToolTip(self._tip)
            self._tip = ""
            QToolTip.hideText()
        if not self._low <= value <= self._high:
            taken = self._text(self._within(value))
            self._say(
                tr(
                    "{typed} is outside {low} to {high}: {taken} is taken.",
                    typed=self._text(value),
                    low=self._text(self._low),
                    high=self._text(self._high),
                    taken=taken,
                )
            )
        if other is not None:
            self.show_value(self._value)
            self.sides.emit(self._within(value), self._within(other))
            return
        self._take(value)

    def _say(self, sentence: str) -> None:
        """What was wrong with what was typed, at the field and at once."""
        self._tip = self._tip or self.toolTip()
        self.setToolTip(tip_text(sentence))
        if self.isVisible():
            place = self.mapToGlobal(QPoint(0, self.height()))
            QToolTip.showText(place, tip_text(sentence), self, self.rect(), TOLD_MS)

    def _within(self, value: float) -> float:
        return min(self._high, max(self._low, value))

    def _take(self, value: float) -> None:
        self._value = self._within(value)
        self.setText(self._text(self._value))
        self._mark(False)
        self.changed.emit(self._value)

    def _mark(self, wrong: bool) -> None:
        if self.property("wrong") != wrong:
            self.setProperty("wrong", wrong)
            self.style().unpolish(self)
            self.style().polish(self)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Up and down step; Return takes what was typed, Escape takes it back, or leaves the field."""
        if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            factor = 10.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            sign = 1.0 if event.key() == Qt.Key.Key_Up else -1.0
            self.setModified(False)
            self._take(self._value + sign * factor * self._step)
        elif event.key() == Qt.Key.Key_Escape and (self.isModified() or self.hasFocus()):
            # First what was typed is taken back, then the field is left.
            typed = self.isModified()
            self.setModified(False)
            self.show_value(self._value)
            if not typed:
                self.clearFocus()
        elif event.key() in RETURN:
            # It never reaches a button that would start something; letters typed afterwards are keys, not
            # digits.
            self.editingFinished.emit()
            if not self.property("wrong"):
                self.entered = True
                self.selectAll()
        elif self.entered and (is_letter(event) or not event.text()):
            # Shift alone, which begins a key of the desk, is no digit either.
            event.ignore()
        else:
            self.entered = False
            super().keyPressEvent(event)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """The wheel scrolls the panel, never a value by accident."""
        event.ignore()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """A press may become a drag."""
        if event.button() == Qt.MouseButton.LeftButton and not self.hasFocus():
            self._drag = (event.globalPosition().toPoint(), self._value)
            return
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Dragging sideways changes the number."""
        if self._drag is None:
            super().mouseMoveEvent(event)
            return
        shift = event.globalPosition().toPoint().x() - self._drag[0].x()
        if abs(shift) > 3 or self._dragging:
            self._dragging = True
            value = min(self._high, max(self._low, self._drag[1] + round(shift / 3) * self._step))
            self._value = value
            self.setText(self._text(value))
            self.changing.emit(value)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """The end of a drag, or a click that starts typing."""
        if self._drag is None:
            super().mouseReleaseEvent(event)
            return
        self._drag = None
        if self._dragging:
            self._dragging = False
            self.changed.emit(self._value)
        else:
            self.setFocus(Qt.FocusReason.MouseFocusReason)
            self.selectAll()
