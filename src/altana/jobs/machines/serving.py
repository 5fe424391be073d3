"""The two programs of a cluster: the scheduler, which hands out pieces and files, and the worker, which makes
pieces."""

from __future__ import annotations

import asyncio
import hashlib
import logging
import os
import resource
import signal
import sys
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import dask
import distributed
from distributed.spans import SpansSchedulerExtension, SpansWorkerExtension
from distributed.stealing import WorkStealing

from altana.core.errors import UserError
from altana.jobs.light import most_points
from altana.jobs.machines import files
from altana.jobs.machines.bench import machine_name
from altana.jobs.machines.fence import SCHEDULER_DOES, WORKER_DOES, fence, keep_only
from altana.jobs.machines.pieces import build, check_digest
from altana.jobs.machines.places import OPEN_SAID, security_of
from altana.render.context import drawn_by
from altana.storage.cache import cache_folder
from altana.storage.files import explain, make_folder

#: A machine that says nothing for so long is given up, and its pieces go to others.
SILENT_S = 60
#: How long a worker waits before it looks for its scheduler again.
AGAIN_S = 2.0
#: How often a piece may end the process that makes it, before it is given up.
DEATHS = 3

Say = Callable[[str], None]


def settle() -> None:
    """Dask as Altana uses it: fenced, silent, without a web page, without what a person's own settings would
    load."""
    fence()
    dask.config.set(
        {
            "distributed.scheduler.worker-ttl": f"{SILENT_S}s",
            "distributed.scheduler.allowed-failures": DEATHS,
            "distributed.scheduler.preload": [],
            "distributed.worker.preload": [],
            "distributed.worker.memory.target": False,
            "distributed.worker.memory.spill": False,
            "distributed.worker.memory.pause": False,
            "distributed.worker.memory.terminate": False,
            "distributed.scheduler.allowed-imports": [],
            "distributed.scheduler.work-stealing": True,
            "distributed.comm.retry.count": 3,
        }
    )
    # What its many messages say, a sentence of Altana's says once.
    for name in ("distributed", "tornado", *logging.root.manager.loggerDict):
        if name.partition(".")[0] in ("distributed", "tornado"):
            logging.getLogger(name).setLevel(logging.CRITICAL)


class _Scheduler(distributed.Scheduler):
    """A scheduler without a web page."""

    def start_http_server(self, *_: Any, **__: Any) -> None:
        """Nothing is served."""


class _Worker(distributed.Worker):
    """A worker without a web page."""

    def start_http_server(self, *_: Any, **__: Any) -> None:
        """Nothing is served."""


def kind() -> str:
    """What machines must share so that their pictures are the same to the byte: the Altana, what draws, how
    finely light is reckoned."""
    how = f"{drawn_by()} {most_points()}"
    return f"{build()}-{hashlib.blake2b(how.encode(), digest_size=4).hexdigest()}"


async def _missing(comm: Any = None, digests: Iterable[str] = ()) -> list[str]:
    """Which of some files are not here."""
    wanted = list(digests)
    for digest in wanted:
        check_digest(digest)
    return [digest for digest in wanted if not (files.has(digest) or files.take_shared(digest))]


async def _put(
    comm: Any = None, digest: str = "", start: int = 0, data: bytes = b"", last: bool = False
) -> str:
    """Take a part of a file.  A sentence why not, or nothing."""
    try:
        check_digest(digest)
        files.take_part(digest, int(start), bytes(data), last)
    except UserError as error:
        return error.sentence
    except OSError as error:
        return explain(error, files.store(), "Nothing was kept.").sentence
    return ""


async def _get(comm: Any = None, digest: str = "", start: int = 0) -> bytes | str:
    """A part of a file, or a sentence why not."""
    try:
        check_digest(digest)
        return files.part_of(digest, int(start))
    except UserError as error:
        return error.sentence


async def _stopped() -> asyncio.Event:
    """An event that Ctrl+C or a request to end sets."""
    event, loop = asyncio.Event(), asyncio.get_running_loop()
    for number in (signal.SIGINT, signal.SIGTERM):
        loop.add_signal_handler(number, event.set)
    return event


def run_scheduler(
    address: str, certificates: Path | None, say: Callable[[str, str], None], parent: int = 0
) -> None:
    """Hand out pieces until the process is told to end, or its parent is gone (0: none).  say : gets the
    address, and a warning where nothing is encrypted.  Raises UserError."""
    settle()

    async def serve() -> None:
        kind_, _, rest = address.partition("://")
        host, _, port = rest.rpartition(":")
        makes: Any = _Scheduler
        try:
            scheduler = makes(
                host=host.strip("[]"),
                port=int(port),
                protocol=kind_,
                security=security_of(certificates),
                dashboard=False,
                extensions={"spans": SpansSchedulerExtension, "stealing": WorkStealing},
            )
            keep_only(scheduler, SCHEDULER_DOES)
            scheduler.handlers |= {"altana_missing": _missing, "altana_put": _put, "altana_get": _get}
            await scheduler
        except (OSError, RuntimeError, ValueError) as error:
            raise UserError(
                f"Nothing can listen at {address}: {error}. Choose another port, or an address of this machine."
            ) from error
        stop = await _stopped()
        say(scheduler.address, "" if certificates else OPEN_SAID)
        while not (stop.is_set() or _orphaned(parent)):
            await _either(stop, 0.5)
        await scheduler.close()

    asyncio.run(serve())


@dataclass(frozen=True, slots=True)
class Lending:
    """How a machine is lent: where the scheduler is, and bytes at most (0: no limit)."""

    address: str
    certificates: Path | None = None
    memory: int = 0
    name: str = ""
    #: End when this process is gone; 0: none.
    parent: int = 0


def run_worker(lending: Lending, say: Say) -> None:
    """Make pieces until the process is told to end; a scheduler that is gone is looked for again.  Raises
    UserError."""
    settle()
    if lending.memory:
        resource.setrlimit(resource.RLIMIT_DATA, (lending.memory, lending.memory))
    asyncio.run(_lend(lending, say, kind()))


async def _lend(lending: Lending, say: Say, what: str) -> None:
    stop, reason = await _stopped(), ""
    while not stop.is_set() and not _orphaned(lending.parent):
        try:
            worker = await _joined(lending, what)
        except (OSError, TimeoutError, ValueError, RuntimeError) as error:
            sentence = f"No scheduler answers at {lending.address}; looking again every {AGAIN_S:.0f} s."
            if reason != sentence:
                say(f"{sentence} ({type(error).__name__})")
                reason = sentence
            await _either(stop, AGAIN_S)
            continue
        reason = f"Lent to {lending.address} as {worker.name}."
        say(reason)
        ended = asyncio.ensure_future(worker.finished())
        while not (stop.is_set() or ended.done() or _orphaned(lending.parent)):
            await _either(stop, 0.5)
        if not ended.done():
            await worker.close(timeout=2)
    # A piece in hand is somebody else's now; its thread would keep the process.
    sys.stdout.flush()
    os._exit(0)


async def _joined(lending: Lending, what: str) -> Any:
    makes: Any = _Worker
    worker = makes(
        lending.address,
        nthreads=1,
        name=lending.name or f"{machine_name()}-{os.getpid()}",
        resources={what: 1},
        security=security_of(lending.certificates),
        local_directory=str(make_folder(cache_folder() / "lent" / "dask")),
        dashboard=False,
        death_timeout=10,
        memory_limit=0,
        extensions={"spans": SpansWorkerExtension},
    )
    keep_only(worker, WORKER_DOES)
    try:
        return await asyncio.wait_for(worker, 15)
    except BaseException:
        await worker.close(timeout=1)
        raise


async def _either(stop: asyncio.Event, seconds: float) -> None:
    try:
        await asyncio.wait_for(stop.wait(), seconds)
    except TimeoutError:
        return


def _orphaned(parent: int) -> bool:
    return bool(parent) and os.getppid() != parent
