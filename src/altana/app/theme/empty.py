"""What can be done about a list that is empty, said where its rows would be."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtWidgets import QAbstractItemView, QLabel

#: Free on either side of the words, pixels.
MARGIN_PX = 16


class EmptyHint(QLabel):
    """Words in the middle of a list, for as long as it has no rows."""

    def __init__(self, view: QAbstractItemView, words: str) -> None:
        super().__init__(view.viewport())
        self._view = view
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(words)
        self.setObjectName("quiet")
        self.setWordWrap(True)
        self.setAlignment(Qt.AlignmentFlag.AlignCenter)
        # What is pressed or dropped here is meant for the list.
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        view.viewport().installEventFilter(self)
        model = view.model()
        for changed in (model.rowsInserted, model.rowsRemoved, model.modelReset):
            changed.connect(self._follow)
        self._follow()

    def _follow(self) -> None:
        self.setVisible(self._view.model().rowCount() == 0)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Take the list's size."""
        if event.type() == QEvent.Type.Resize:
            self.setGeometry(self._view.viewport().rect().adjusted(MARGIN_PX, 0, -MARGIN_PX, 0))
        return super().eventFilter(watched, event)
