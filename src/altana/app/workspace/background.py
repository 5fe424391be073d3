"""Work beside the window: a thread does it, and what comes of it, also when it fails, arrives in the window's
own thread."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Generic, TypeVar

from PySide6.QtCore import QObject, Signal

from altana.app.workspace.notices import Notices
from altana.core.errors import UserError

T = TypeVar("T")


class _Post(QObject):
    """Carries a call into the thread in which it was made."""

    arrived = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.arrived.connect(self._run)

    def _run(self, call: Callable[[], object]) -> None:
        call()

    def send(self, call: Callable[[], object]) -> None:
        """Run a call there; nothing happens where the window was closed meanwhile."""
        try:
            self.arrived.emit(call)
        except RuntimeError:
            return


class Background:
    """Runs slow work in threads.  Exactly one of ``done`` and ``failed`` follows each, in the window's
    thread.

    A UserError is said as it is; anything else is a fault: it is logged with its stack, and said with
    details.
    """

    def __init__(self, notices: Notices) -> None:
        self._notices = notices
        self._post = _Post()

    def run(
        self,
        what: str,
        work: Callable[[], T],
        done: Callable[[T], object],
        failed: Callable[[], object] = lambda: None,
    ) -> None:
        """Do ``work`` beside the window.  what : its name in the log."""

        def thread() -> None:
            try:
                result = work()
            except UserError as error:
                sentence = error.sentence
                self._post.send(lambda: self._refused(sentence, failed))
            except Exception as error:  # noqa: BLE001 - the border of a thread
                fault = error
                self._post.send(lambda: self._fault(what, fault, failed))
            else:
                self._post.send(lambda: done(result))

        threading.Thread(target=thread, name=what, daemon=True).start()

    def _refused(self, sentence: str, failed: Callable[[], object]) -> None:
        failed()
        self._notices.trouble(sentence)

    def _fault(self, what: str, error: Exception, failed: Callable[[], object]) -> None:
        failed()
        self._notices.failed(f"While doing: {what}", error)


class Newest(Generic[T]):
    """One kind of background work of which the newest wish counts.

    in_turn : one wish at a time, and of those that wait only the newest: for work that is asked for faster
    than it is done.
    """

    def __init__(
        self, background: Background, what: str, done: Callable[[T], object], in_turn: bool = False
    ) -> None:
        self._background, self._what, self._done, self._in_turn = background, what, done, in_turn
        self._wish = 0
        self._busy = False
        self._waiting: Callable[[], T] | None = None

    @property
    def busy(self) -> bool:
        """Whether something is in hand."""
        return self._busy

    def wish(self, work: Callable[[], T]) -> None:
        """Do this; what was wished for before no longer counts, or where it is in hand is shown first."""
        if self._in_turn and self._busy:
            self._waiting = work
            return
        self._wish += 1
        self._busy = True
        wish = self._wish
        self._background.run(self._what, work, lambda result: self._take(wish, result), self._go_on)

    def forget(self) -> None:
        """What is in hand is no longer wanted."""
        self._wish += 1
        self._waiting = None

    def _take(self, wish: int, result: T) -> None:
        wanted = wish == self._wish
        if wanted:
            self._done(result)
        self._go_on()

    def _go_on(self) -> None:
        self._busy = False
        waiting, self._waiting = self._waiting, None
        if waiting is not None:
            self.wish(waiting)
