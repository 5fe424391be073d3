"""Small buttons inside a field: what they are called for those who do not see them."""

from __future__ import annotations

from PySide6.QtWidgets import QLineEdit, QToolButton, QWidget

from altana.app.theme.words import tr


def name_buttons(field: QWidget, name: str) -> None:
    """Call the buttons that lie in a field by a name."""
    for item in field.findChildren(QToolButton):
        item.setAccessibleName(name)


def clearable(field: QLineEdit) -> None:
    """Give a field the small button that empties it."""
    field.setClearButtonEnabled(True)
    name_buttons(field, tr("Empty the field"))
