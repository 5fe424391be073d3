"""A child process that answers requests, the newest of each channel first; it is started again when it dies.

Pictures hold Python's lock while they are drawn, so they are drawn elsewhere; the window only receives them.
Results come back through a pipe, pictures through shared memory that the parent owns.
"""

from __future__ import annotations

import faulthandler
import gc
import importlib
import multiprocessing
import os
import signal
import traceback
from collections.abc import Callable
from dataclasses import dataclass
from multiprocessing.connection import Connection
from multiprocessing.shared_memory import SharedMemory
from typing import TYPE_CHECKING

from altana.core.errors import UserError

# The window starts a child before it loads anything else: what neither needs for that is loaded where it is
# used.
if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt

    from altana.jobs.orders import Failure, Order, PictureDrawn, Reply

#: From this patience on a child uses only time that is left over.
IDLE_PATIENCE = 15
#: For tests, several of which go on at once: whoever waits for a child waits no longer because another test
#: has work to do.
EQUAL_SETTING, LITTLE = "ALTANA_EQUAL", 5
#: The patience of a child that has not shown anything yet.
EAGER = 2
SLOTS, SLOT_BYTES = 4, 3840 * 2160 * 3


@dataclass(frozen=True, slots=True)
class Task:
    """An order on its way: its channel, its revision, its urgency (lower first)."""

    channel: str
    revision: int
    urgency: int
    order: Order


@dataclass(frozen=True, slots=True)
class Answer:
    """A reply on its way back, under the channel and the revision of its task."""

    channel: str
    revision: int
    reply: Reply


Work = Callable[[Task], None]


def _buffer(memory: SharedMemory) -> memoryview:
    assert memory.buf is not None
    return memory.buf


class Desk:
    """The child's side: waiting tasks, and the means to answer."""

    def __init__(self, connection: Connection, memory: SharedMemory | None) -> None:
        self._connection = connection
        self._memory = memory
        self._free = set(range(SLOTS))
        self.waiting: dict[str, Task] = {}
        #: Whether a picture was sent.
        self.shown = False

    def listen(self, block: bool) -> None:
        """Take in what has arrived; the newest task of a channel replaces an older one."""
        while block or self._connection.poll():
            message = self._connection.recv()
            if isinstance(message, Task):
                self.waiting.pop(message.channel, None)
                self.waiting[message.channel] = message
            elif message is None:
                raise EOFError
            else:
                self._free.add(message)
            block = False

    def outdated(self, task: Task) -> bool:
        """Whether something newer on the channel, or something more urgent, has arrived."""
        self.listen(block=False)
        return task.channel in self.waiting or any(
            other.urgency < task.urgency for other in self.waiting.values()
        )

    def next(self) -> Task:
        """The most urgent waiting task; waits for one."""
        self.listen(block=not self.waiting)
        while not self.waiting:
            self.listen(block=True)
        task = min(self.waiting.values(), key=lambda item: item.urgency)
        return self.waiting.pop(task.channel)

    def later(self, task: Task) -> None:
        """A task that gave way to something more urgent is still wanted, unless a newer one of its channel
        has arrived."""
        self.waiting.setdefault(task.channel, task)

    def answer(self, task: Task, reply: Reply) -> None:
        """Send a reply."""
        self._connection.send(Answer(task.channel, task.revision, reply))

    def picture(self, task: Task, pixels: npt.NDArray[np.uint8], note: str = "") -> None:
        """Send a picture through shared memory."""
        import numpy as np

        from altana.jobs.orders import PictureDrawn

        assert self._memory is not None
        while not self._free:
            self.listen(block=True)
        slot, self.shown = self._free.pop(), True
        height, width = pixels.shape[:2]
        start = slot * SLOT_BYTES
        view = np.frombuffer(_buffer(self._memory), np.uint8, pixels.size, start)
        view[:] = pixels.reshape(-1)
        del view
        self.answer(task, PictureDrawn(slot, height, width, note))


def _serve(
    handler: str, connection: Connection, memory_name: str | None, parent: int, patience: int, ahead: str
) -> None:
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    faulthandler.enable()
    # What draws may need a path tracer of its own; it ends with this process, which ends with its parent.
    multiprocessing.process.current_process()._config["daemon"] = False  # type: ignore[attr-defined]  # noqa: SLF001 - no public way
    # The window goes first on a machine with few processors; but until there is something to see, nothing is
    # more urgent than that.
    idle = patience >= IDLE_PATIENCE
    if os.environ.get(EQUAL_SETTING):
        patience = LITTLE if idle else 0
    eager = patience if idle else EAGER
    os.nice(min(eager, patience))
    if patience >= IDLE_PATIENCE:
        # Work that may take half a minute runs only where nobody else wants to.
        os.sched_setscheduler(0, os.SCHED_IDLE, os.sched_param(0))
    module, _, name = handler.partition(":")
    memory = SharedMemory(memory_name) if memory_name else None
    desk = Desk(connection, memory)
    # Nothing that is loaded is garbage.
    gc.disable()
    work: Work = getattr(importlib.import_module(module), name)(desk)
    gc.freeze()
    gc.enable()
    if ahead:
        from altana.jobs.orders import OpenAhead

        desk.waiting["ahead"] = Task("ahead", 0, -20, OpenAhead(ahead))
    try:
        while os.getppid() == parent:
            task = desk.next()
            try:
                work(task)
                if desk.shown and eager < patience:
                    os.nice(patience - eager)
                    eager = patience
            except (EOFError, BrokenPipeError):
                raise
            except Exception as error:  # noqa: BLE001 - the border of a process
                # A task that fails must not take the service with it; what is a bug goes home with its trace,
                # to be logged there.
                desk.answer(task, _failure(task.order, error))
    except (EOFError, BrokenPipeError, OSError):
        return


def _failure(order: Order, error: Exception) -> Failure:
    from altana.jobs.orders import Failure

    if isinstance(error, UserError):
        return Failure(type(order).__name__, error.sentence)
    sentence = f"Something went wrong in the background ({type(error).__name__}). Nothing in the project was changed."
    return Failure(type(order).__name__, sentence, "".join(traceback.format_exception(error)))


#: The child that draws the window's pictures: what it does, whether pictures come from it, and its patience.
PICTURES = ("altana.jobs.children.pictures:pictures", True, 10)
#: Children that were started before anybody asked for them, by what they do.
_early: dict[tuple[str, bool, int], Service] = {}


def start_early(handler: str, pictures: bool, patience: int, ahead: str = "") -> None:
    """Start a child before who needs it is there: it loads what it needs meanwhile, on another processor.
    ahead : the project file that will be opened, whose models it has ready then."""
    _early[(handler, pictures, patience)] = Service(handler, pictures, patience, ahead)


def started(handler: str, pictures: bool, patience: int) -> Service:
    """The child that was started early, or a new one."""
    return _early.pop((handler, pictures, patience), None) or Service(handler, pictures, patience)


class Service:
    """The parent's side.  ``handler`` is "module:function"; the function takes a Desk and returns what does a
    task.

    ``patience`` lowers the child's priority, as nice does.
    """

    def __init__(self, handler: str, pictures: bool = False, patience: int = 2, ahead: str = "") -> None:
        self._handler = handler
        self._patience = patience
        self._context = multiprocessing.get_context("spawn")
        self._memory = SharedMemory(create=True, size=SLOTS * SLOT_BYTES) if pictures else None
        self.restarts = 0
        self._start(ahead)

    def _start(self, ahead: str = "") -> None:
        self.connection, child = self._context.Pipe()
        name = self._memory.name if self._memory else None
        self._process = self._context.Process(
            target=_serve, args=(self._handler, child, name, os.getpid(), self._patience, ahead), daemon=True
        )
        self._process.start()
        child.close()

    @property
    def alive(self) -> bool:
        """Whether the child runs."""
        return self._process.is_alive()

    @property
    def exit_code(self) -> int | None:
        """How the child ended; minus a signal's number where one ended it."""
        self._process.join(0.5)
        return self._process.exitcode

    @property
    def process_id(self) -> int:
        """The child's process number."""
        return self._process.pid or 0

    def restart(self) -> None:
        """Start a new child in place of one that died."""
        self.restarts += 1
        self.connection.close()
        if self._process.is_alive():
            self._process.kill()
        self._process.join(2)
        self._start()

    def send(self, task: Task) -> None:
        """Ask for something.  A dead child is noticed by whoever reads the connection."""
        try:
            self.connection.send(task)
        except (BrokenPipeError, OSError):
            return

    def take_picture(self, drawn: PictureDrawn) -> npt.NDArray[np.uint8]:
        """A copy of a picture; its slot is free again."""
        import numpy as np

        assert self._memory is not None
        view = np.frombuffer(
            _buffer(self._memory), np.uint8, drawn.height * drawn.width * 3, drawn.slot * SLOT_BYTES
        )
        copy = view.reshape(drawn.height, drawn.width, 3).copy()
        del view
        try:
            self.connection.send(drawn.slot)
        except (BrokenPipeError, OSError):
            pass
        return copy

    def close(self) -> None:
        """End the child."""
        try:
            self.connection.send(None)
        except (BrokenPipeError, OSError):
            pass
        self._process.join(1.0)
        if self._process.is_alive():
            self._process.kill()
            self._process.join(1.0)
        self.connection.close()
        if self._memory is not None:
            self._memory.close()
            self._memory.unlink()
