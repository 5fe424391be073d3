"""What is said to the person: one stream of notices, each with its weight; and what went wrong inside Altana,
logged with its stack."""

from __future__ import annotations

import logging
import sys
import threading
import traceback
from collections.abc import Callable
from dataclasses import dataclass
from enum import Enum
from types import TracebackType

from PySide6.QtCore import QObject, Signal

from altana.app.theme.words import tr

log = logging.getLogger(__name__)

#: A fault that comes again at every move of the pointer is logged this often.
MOST_TIMES = 20


class Weight(Enum):
    """How much a notice weighs."""

    DONE = "done"
    NOTE = "note"
    TROUBLE = "trouble"


@dataclass(frozen=True, slots=True)
class Offer:
    """A button beside a notice: its text and what it does."""

    text: str
    run: Callable[[], object]


@dataclass(frozen=True, slots=True)
class Notice:
    """A sentence for the person.  ``details`` can be copied; they are there where Altana itself is at
    fault."""

    weight: Weight
    sentence: str
    details: str = ""
    offer: Offer | None = None


class Notices(QObject):
    """Passes on notices to whoever shows them; from any thread."""

    told = Signal(object)
    #: What was said before no longer counts: another project is open.
    cleared = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._times: dict[str, int] = {}
        #: Whether something said still stands.
        self.said = False
        self.told.connect(self._note_said)

    def _note_said(self, _: Notice) -> None:
        self.said = True

    def clear(self) -> None:
        """What was said before no longer counts, or was put away."""
        self.said = False
        self.cleared.emit()

    def done(self, sentence: str) -> None:
        """Something was done as asked."""
        self.told.emit(Notice(Weight.DONE, sentence))

    def note(self, sentence: str, offer: Offer | None = None) -> None:
        """Something worth knowing, or what to do first."""
        self.told.emit(Notice(Weight.NOTE, sentence, offer=offer))

    def trouble(self, sentence: str) -> None:
        """Something could not be done."""
        self.told.emit(Notice(Weight.TROUBLE, sentence))

    def fault(self, where: str, trace: str, sentence: str = "") -> None:
        """Something went wrong inside Altana: it is logged with its trace, and said; not again while it still
        stands there."""
        last = trace.strip().splitlines()[-1] if trace.strip() else where
        times = self._times[trace] = self._times.get(trace, 0) + 1
        if times <= MOST_TIMES:
            log.error("%s\n%s", where, trace)
        if times == 1 or not self.said:
            words = sentence or tr(
                "Something went wrong. What was open is kept as it was before; try it another way."
            )
            self.told.emit(Notice(Weight.TROUBLE, words, f"{where}\n{last}\n\n{trace}"))

    def failed(self, where: str, error: BaseException) -> None:
        """An error that nobody expected."""
        self.fault(where, "".join(traceback.format_exception(error)))

    # ------------------------------------------------------------------ what nothing else catches

    def listen(self) -> None:
        """From now on what nothing catches, in this thread and in others, comes here."""
        sys.excepthook = self._uncaught
        threading.excepthook = self._uncaught_in_thread

    def _uncaught(self, kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if issubclass(kind, KeyboardInterrupt):
            sys.__excepthook__(kind, error, trace)
            return
        self.failed("In the window", error)

    def _uncaught_in_thread(self, hook: threading.ExceptHookArgs) -> None:
        if hook.exc_value is not None:
            self.failed(f"In the thread {hook.thread.name if hook.thread else '?'}", hook.exc_value)
