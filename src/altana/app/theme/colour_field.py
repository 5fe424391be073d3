"""A colour, typed as #rrggbb or chosen from its swatch."""

from __future__ import annotations

import re

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QColor, QIcon, QPainter, QPen, QPixmap
from PySide6.QtWidgets import QColorDialog, QLineEdit

from altana.app.theme.field_buttons import name_buttons
from altana.app.theme.plain_text import tip_text
from altana.app.theme.words import tr

SWATCH_PX = 14


class ColourField(QLineEdit):
    """``changed(colour)`` once a colour was typed or chosen; what is none is marked and changes nothing."""

    changed = Signal(str)

    def __init__(self, name: str, tip: str) -> None:
        super().__init__()
        self._value = "#000000"
        self.setAccessibleName(name)
        self.setToolTip(tip_text(tr("{tip}\nType it as #rrggbb, or press its swatch.", tip=tip)))
        self._swatch = self.addAction(QIcon(), QLineEdit.ActionPosition.LeadingPosition)
        self._swatch.setToolTip(tip_text(tr("{name}: choose", name=name)))
        self._swatch.triggered.connect(self.choose)
        name_buttons(self, tr("{name}: choose", name=name))
        self.editingFinished.connect(self._typed)

    @property
    def value(self) -> str:
        """The colour shown."""
        return self._value

    def show_value(self, value: str, same: bool = True) -> None:
        """Show a colour without telling anyone; text being typed is left alone."""
        self._value = value
        self._swatch.setIcon(swatch(value if same else "#808080"))
        if not self.isModified():
            self.setText(value if same else tr("varies"))
            self._mark(False)

    def choose(self) -> None:
        """Choose from all colours."""
        colour = QColorDialog.getColor(QColor(self._value), self, self.accessibleName())
        if colour.isValid():
            self._take(colour.name())

    def _typed(self) -> None:
        if not self.isModified():
            return
        text = self.text().strip().lower()
        text = text if text.startswith("#") else f"#{text}"
        if not re.fullmatch(r"#[0-9a-f]{6}", text):
            self._mark(True)
            return
        self._take(text)

    def _take(self, value: str) -> None:
        self.setModified(False)
        self.show_value(value)
        self.changed.emit(value)

    def _mark(self, wrong: bool) -> None:
        if self.property("wrong") != wrong:
            self.setProperty("wrong", wrong)
            self.style().unpolish(self)
            self.style().polish(self)


def swatch(colour: str) -> QIcon:
    """A small square of a colour."""
    picture = QPixmap(SWATCH_PX * 2, SWATCH_PX * 2)
    picture.fill(Qt.GlobalColor.transparent)
    painter = QPainter(picture)
    painter.setPen(QPen(QColor("#655E53"), 2))
    painter.setBrush(QColor(colour))
    painter.drawRect(1, 1, picture.width() - 3, picture.height() - 3)
    painter.end()
    picture.setDevicePixelRatio(2.0)
    return QIcon(picture)
