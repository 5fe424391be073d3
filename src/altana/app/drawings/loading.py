"""Reading and reckoning for the window beside it: the newest wish counts, and its answer arrives as a signal."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, Signal


class Loader(QObject):
    """Runs one kind of work in a thread; ``loaded(result)`` for the newest wish only.

    in_turn : one wish at a time, and of those that wait only the newest: for work that is asked for faster than it is done.
    """

    loaded = Signal(object)
    _read = Signal(int, object)

    def __init__(self, in_turn: bool = False) -> None:
        super().__init__()
        self._newest = 0
        self._in_turn = in_turn
        self._busy = False
        self._waiting: Callable[[], Any] | None = None
        self._read.connect(self._take)

    def load(self, read: Callable[[], Any]) -> None:
        """Work beside the window; what was wished for before no longer counts, or where it is in hand is shown first."""
        if self._in_turn and self._busy:
            self._waiting = read
            return
        self._newest += 1
        self._busy = True
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
        self._waiting = None

    def _take(self, wish: int, result: Any) -> None:
        self._busy = False
        waiting, self._waiting = self._waiting, None
        if wish == self._newest:
            self.loaded.emit(result)
        if waiting is not None:
            self.load(waiting)
