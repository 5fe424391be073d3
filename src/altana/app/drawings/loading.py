"""Reading large files for the window beside it: the newest wish counts, and its answer arrives as a signal."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, Signal


class Loader(QObject):
    """Runs one kind of reading in a thread; ``loaded(result)`` for the newest wish only."""

    loaded = Signal(object)
    _read = Signal(int, object)

    def __init__(self) -> None:
        super().__init__()
        self._newest = 0
        self._read.connect(self._take)

    def load(self, read: Callable[[], Any]) -> None:
        """Read beside the window; what was wished for before no longer counts."""
        self._newest += 1
        wish = self._newest

        def work() -> None:
            result = read()
            try:
                self._read.emit(wish, result)
            except RuntimeError:
                return  # the window was closed meanwhile

        threading.Thread(target=work, daemon=True).start()

    def forget(self) -> None:
        """What is being read is no longer wanted."""
        self._newest += 1

    def _take(self, wish: int, result: Any) -> None:
        if wish == self._newest:
            self.loaded.emit(result)
