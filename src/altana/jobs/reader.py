"""Files of others are read by a child process: what they ask for, and how they end it, does no harm to
whoever asked."""

from __future__ import annotations

import contextlib
import ctypes
import os
import resource
import signal
import subprocess
import sys
import time
import traceback
from collections.abc import Callable, Sequence
from typing import NoReturn

from altana.core.errors import UserError

Waiting = Callable[[float], bool]
#: A reader is given up after so long.
READER_S = 1800.0


def read_in_child(module: str, arguments: Sequence[str], name: str, waiting: Waiting | None = None) -> bytes:
    """What a module of ours prints when it reads the file of this name in a child process.

    ``waiting`` is called with the seconds so far; returning False gives up.  Raises UserError with the
    child's last sentence, or with one of our own where the child came to a sudden end.
    """
    child = subprocess.Popen(
        [sys.executable, "-m", module, *arguments],
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
    )
    started = time.monotonic()
    while True:
        try:
            printed, errors = child.communicate(timeout=0.1)
            break
        except subprocess.TimeoutExpired:
            if time.monotonic() - started > READER_S:
                child.kill()
                child.communicate()
                raise UserError(
                    f"{name} takes longer than {READER_S / 60:.0f} minutes to read and was given up. Nothing was changed. Export a lighter model."
                ) from None
            if waiting is not None and not waiting(time.monotonic() - started):
                child.kill()
                child.communicate()
                raise UserError(f"Opening {name} was stopped. Nothing was changed.") from None
    if child.returncode == 0:
        return printed
    lines = errors.decode("utf-8", "replace").strip().splitlines()
    if child.returncode == 1 and lines:
        raise UserError(lines[-1])
    raise UserError(
        f"{name} is damaged: reading it came to a sudden end. Nothing was changed. Export it again, or choose another file."
    )


def as_child(name: str, limit: int, work: Callable[[], object]) -> int:
    """Do the work of a reading child with at most so many bytes of memory; what goes wrong is a sentence.
    Gives the exit code."""
    end_with_parent()
    resource.setrlimit(resource.RLIMIT_DATA, (limit, limit))
    try:
        work()
    except UserError as error:
        sys.stderr.write(error.sentence + "\n")
        return 1
    except MemoryError:
        sys.stderr.write(
            f"{name} needs more memory than is free. Nothing was changed. Close other programs, or export a lighter model.\n"
        )
        return 1
    except Exception:  # noqa: BLE001 - the border of a process
        # The border of a process: whoever asked gets a sentence, and the stack goes before it for whoever
        # mends it.
        traceback.print_exc()
        sys.stderr.write(
            f"Reading {name} went wrong. Nothing was changed. Export it again, or choose another file.\n"
        )
        return 1
    return 0


def end_at_once(code: int) -> NoReturn:
    """End this process without taking apart what it loaded, which nobody will use again."""
    # What a child printed goes round the standard output where a library might print there, too.
    for stream in (sys.__stdout__, sys.stdout, sys.stderr):
        if stream is not None:
            stream.flush()
    os._exit(code)


def end_with_parent() -> None:
    """This process ends when the one that started it does, however that ends (prctl(2), PR_SET_PDEATHSIG)."""
    with contextlib.suppress(OSError, AttributeError):
        ctypes.CDLL(None).prctl(1, signal.SIGKILL)
