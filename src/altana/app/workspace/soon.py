"""One action for many wishes: it happens once nothing has been wished for a while."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer


class Soon(QTimer):
    """``start()`` wishes; ``action`` happens ``wait_ms`` after the last wish, ``stop()`` drops it."""

    def __init__(self, parent: QObject, wait_ms: int, action: Callable[[], object]) -> None:
        super().__init__(parent)
        self.setSingleShot(True)
        self.setInterval(wait_ms)
        self.timeout.connect(action)
