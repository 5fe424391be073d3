"""The ways to move in the Frame, as buttons beside the picture."""

from __future__ import annotations

from PySide6.QtWidgets import QButtonGroup, QVBoxLayout, QWidget

from altana.app.canvas.gestures.frame import SHIFT
from altana.app.theme.widgets import button
from altana.app.theme.words import capital, spoken, tr
from altana.core.moving import WAYS

TIPS = {
    "turn": tr("Turn: rotate in place (key 1)"),
    "slide": tr("Slide: sideways (key 2)"),
    "lift": tr("Lift: up and down (key 3)"),
    "step": tr("Step: forward and back (key 4)"),
    "circle": tr(
        "Circle: around what the camera looks at; with Alt around the point under the pointer (key 5)"
    ),
    SHIFT: tr("Rise: shift the lens up or down, or across, with the camera where it is (key 6)"),
}


class WayButtons(QWidget):
    """``chosen`` is the way; the five that move the camera and, with ``shift``, the lens's own."""

    def __init__(self, parent: QWidget, shift: bool) -> None:
        super().__init__(parent)
        self.offered = (*WAYS, SHIFT) if shift else WAYS
        self.chosen = WAYS[0]
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(5)
        self._group = QButtonGroup(self)
        for way in self.offered:
            if way == SHIFT:
                # It moves the picture in the lens, not the camera: a little apart.
                column.addSpacing(7)
            item = button(capital(spoken(way)), "onwell", TIPS[way], checkable=True)
            item.clicked.connect(lambda _=False, chosen=way: self.choose(chosen))
            item.setChecked(way == self.chosen)
            self._group.addButton(item)
            column.addWidget(item)

    def choose(self, way: str) -> None:
        """Take a way."""
        self.chosen = way
        for index, item in enumerate(self._group.buttons()):
            item.setChecked(self.offered[index] == way)
