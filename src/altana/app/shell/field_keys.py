"""Keys while a text field has the focus: those that edit are the field's, all others are commands of the
window."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QApplication, QLineEdit, QWidget

#: What a person does in a field with Control held.  Qt's fields take more, among them Control and E, on some
#: desktops only.
EDITING = frozenset(
    {
        Qt.Key.Key_A,
        Qt.Key.Key_C,
        Qt.Key.Key_V,
        Qt.Key.Key_X,
        Qt.Key.Key_Z,
        Qt.Key.Key_Y,
        Qt.Key.Key_Left,
        Qt.Key.Key_Right,
        Qt.Key.Key_Home,
        Qt.Key.Key_End,
        Qt.Key.Key_Backspace,
        Qt.Key.Key_Delete,
        Qt.Key.Key_Insert,
    }
)


class FieldKeys(QObject):
    """Watches the field that has the focus, and no other: a filter on everything would slow every event."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        application = QApplication.instance()
        assert isinstance(application, QApplication)
        application.focusChanged.connect(self._focus_changed)

    def _focus_changed(self, before: QWidget | None, now: QWidget | None) -> None:
        if isinstance(before, QLineEdit):
            before.removeEventFilter(self)
        if isinstance(now, QLineEdit):
            now.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Leave a key to the window's commands unless it edits; a key that is no command still reaches the
        field."""
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            control = event.modifiers() & Qt.KeyboardModifier.ControlModifier
            if control and event.key() not in EDITING:
                event.ignore()
                return True
        return super().eventFilter(watched, event)
