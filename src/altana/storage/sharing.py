"""Several writers of one project: a save never overwrites what somebody else has written since it was read.

Who saves says what it began with.  Under a lock the file is read once more; where it is another by now, both
changes are put together if they touch different things, and refused otherwise.
"""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import os
import time
from collections.abc import Callable, Iterator
from pathlib import Path

from altana.core.errors import UserError
from altana.core.merging import merged
from altana.core.project import Project
from altana.storage.project_file import read_project, write_project

#: How long a save waits for another one.
WAIT_S = 60.0


@contextlib.contextmanager
def locked(path: Path) -> Iterator[None]:
    """Alone with a project's folder as far as its file system knows locks; nothing is left behind.  Raises
    UserError after WAIT_S."""
    try:
        handle = os.open(path.resolve().parent, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
    except OSError:
        # The save itself will say what is wrong with the folder.
        yield
        return
    try:
        _wait_for(handle, path)
        yield
    finally:
        os.close(handle)


def _wait_for(handle: int, path: Path) -> None:
    until = time.monotonic() + WAIT_S
    while True:
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
            return
        except BlockingIOError:
            if time.monotonic() > until:
                raise UserError(
                    f"{path.name} is being saved by somebody else for {WAIT_S:.0f} s. Nothing was written; try again."
                ) from None
            time.sleep(0.01)
        except OSError:
            # Some network folders know no locks; then comparing the content has to do.
            return


def digest_of(path: Path) -> str:
    """A name for the content of a project's file; empty where there is none."""
    try:
        return hashlib.blake2b(path.read_bytes(), digest_size=16).hexdigest()
    except OSError:
        return ""


def change_project(path: Path, edit: Callable[[Project], Project]) -> Project:
    """Read, change and save while nobody else does.  Raises UserError, and what the edit raises."""
    with locked(path):
        after = edit(read_project(path))
        write_project(path, after)
    return after


def save_changes(path: Path, base: Project, ours: Project) -> Project:
    """Save a project that was read as ``base``; what others changed meanwhile is kept.  What is in the file
    now.

    Raises UserError where both changed the same thing: then the file is theirs, and nothing was written.
    """
    with locked(path):
        theirs = read_project(path) if path.exists() else base
        both = merged(base, ours, theirs)
        if both.clashes:
            raise UserError(
                f"{path.name} was changed by somebody else meanwhile, in the same places: {'; '.join(both.clashes[:3])}. Nothing was written; read it again."
            )
        write_project(path, both.project)
    return both.project
