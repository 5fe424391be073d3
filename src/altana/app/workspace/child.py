"""A child process of the window: orders go out, replies arrive as signals; it is started again when it
dies."""

from __future__ import annotations

import logging
import time
from dataclasses import dataclass
from typing import Protocol

import numpy as np
import numpy.typing as npt
from PySide6.QtCore import QObject, QSocketNotifier, Signal, SignalInstance

from altana.app.theme.words import tr
from altana.jobs.orders import Failure, PictureDrawn
from altana.jobs.service import Answer, Service, Task, started

log = logging.getLogger(__name__)

#: A child that dies this often in a row is given up: something on this machine kills it each time.
MOST_DEATHS = 6
#: One that lived this long did not die in a row.
LIVED_S = 60.0
#: An order at which the child died is tried so often.
MOST_TRIES = 2


class PictureMemory(Protocol):
    """Where pictures come back."""

    def take_picture(self, drawn: PictureDrawn) -> npt.NDArray[np.uint8]:
        """A copy of a picture, (height, width, 3)."""


class ServingChild(Protocol):
    """What the window needs of a child: orders go out, replies come back as signals."""

    name: str
    answered: SignalInstance
    restarted: SignalInstance
    given_up: SignalInstance

    @property
    def service(self) -> PictureMemory:
        """Where its pictures come back."""

    def send(self, task: Task) -> None:
        """Ask for something."""

    def send_again(self) -> None:
        """Ask once more for what was not answered."""

    def close(self) -> None:
        """End it."""


@dataclass(slots=True)
class _Pending:
    task: Task
    tries: int = 1


class Child(QObject):
    """A service whose replies arrive as signals.  name : what it does, for the log and for sentences."""

    answered = Signal(object)
    restarted = Signal()
    #: The child died too often and does nothing any more.
    given_up = Signal()

    def __init__(self, handler: str, name: str, pictures: bool = False, patience: int = 2) -> None:
        super().__init__()
        self.name = name
        self._service = started(handler, pictures, patience)
        self._closed = False
        self._deaths = 0
        self._born = time.monotonic()
        #: Lasting orders by channel, until they are answered.
        self._pending: dict[str, _Pending] = {}
        self._notifier: QSocketNotifier | None = None
        self._watch()

    @property
    def service(self) -> Service:
        """The process itself."""
        return self._service

    def _watch(self) -> None:
        self._notifier = QSocketNotifier(self._service.connection.fileno(), QSocketNotifier.Type.Read, self)
        self._notifier.activated.connect(self._receive)

    def send(self, task: Task) -> None:
        """Ask for something."""
        self._pending.pop(task.channel, None)
        if task.order.lasting:
            self._pending[task.channel] = _Pending(task)
        if not self._closed:
            self._service.send(task)

    def send_again(self) -> None:
        """Ask once more for what a child that died had not answered; what it died of twice comes to
        nothing."""
        for pending in list(self._pending.values()):
            task = pending.task
            if pending.tries >= MOST_TRIES:
                del self._pending[task.channel]
                name = type(task.order).__name__
                sentence = tr(
                    "The part of Altana for {name} ended twice at the same thing, which is left off. Nothing is lost; try it again later.",
                    name=self.name,
                )
                self.answered.emit(Answer(task.channel, task.revision, Failure(name, sentence)))
                continue
            pending.tries += 1
            self._service.send(task)

    def _receive(self) -> None:
        try:
            while not self._closed and self._service.connection.poll():
                self._pass_on(self._service.connection.recv())
        except (EOFError, OSError):
            self._again()

    def _pass_on(self, answer: Answer) -> None:
        if isinstance(answer.reply, Failure) and answer.reply.trace:
            log.error(
                "The child for %s failed at %s (%s):\n%s",
                self.name,
                answer.reply.order,
                answer.channel,
                answer.reply.trace,
            )
        pending = self._pending.get(answer.channel)
        if pending is not None and pending.task.revision == answer.revision and answer.reply.final:
            del self._pending[answer.channel]
        self.answered.emit(answer)

    def _again(self) -> None:
        if self._closed:
            return
        if self._notifier is not None:
            self._notifier.setEnabled(False)
            self._notifier.deleteLater()
        self._deaths = 1 if time.monotonic() - self._born > LIVED_S else self._deaths + 1
        self._born = time.monotonic()
        if self._deaths >= MOST_DEATHS:
            log.error("The child for %s died %d times in a row and is given up.", self.name, self._deaths)
            self._closed = True
            self.given_up.emit()
            return
        log.warning("The child for %s died (%s); it is started again.", self.name, self._service.exit_code)
        self._service.restart()
        self._watch()
        self.restarted.emit()

    def close(self) -> None:
        """End the process."""
        if not self._closed:
            self._closed = True
            if self._notifier is not None:
                self._notifier.setEnabled(False)
            self._service.close()
