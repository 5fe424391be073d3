"""A field for one value that gives the keys back once the value is entered."""

from __future__ import annotations

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QLineEdit

MODIFIERS = frozenset(
    {Qt.Key.Key_Shift, Qt.Key.Key_Control, Qt.Key.Key_Alt, Qt.Key.Key_AltGr, Qt.Key.Key_Meta}
)
LAID_OVER = frozenset({Qt.FocusReason.ActiveWindowFocusReason, Qt.FocusReason.PopupFocusReason})
RETURN = frozenset({Qt.Key.Key_Return, Qt.Key.Key_Enter})


def is_letter(event: QKeyEvent) -> bool:
    """Whether a key alone is a letter; with Control held it edits the field, whatever text comes with it."""
    modifiers = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier
    return event.text().isalpha() and not event.modifiers() & modifiers


class ValueField(QLineEdit):
    """After Return the field keeps the focus, but letters are keys of the desk, until it is pressed, left, or
    a figure is typed."""

    def __init__(self) -> None:
        super().__init__()
        self.entered = False

    def event(self, event: QEvent) -> bool:
        """Once a value was entered, letters are keys of the desk."""
        if (
            event.type() == QEvent.Type.ShortcutOverride
            and isinstance(event, QKeyEvent)
            and self.entered
            and is_letter(event)
        ):
            event.ignore()
            return False
        return bool(super().event(event))

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Come back to, it is typed into anew; not after a sheet or a menu that lay over it."""
        if event.reason() not in LAID_OVER:
            self.entered = False
        super().focusOutEvent(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Pressed, it is typed into anew."""
        self.entered = False
        super().mousePressEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Return enters; it never reaches a button that would start something."""
        if event.key() in RETURN:
            super().keyPressEvent(event)
            event.accept()
            self.entered = True
            self.selectAll()
        elif self.entered and (is_letter(event) or event.key() in MODIFIERS):
            # Shift alone, which begins a key of the desk, types nothing either.
            event.ignore()
        else:
            if self.entered and event.text().isprintable() and event.text():
                # A figure begins the next value.
                self.selectAll()
            self.entered = False
            super().keyPressEvent(event)
