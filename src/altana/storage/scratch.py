"""Folders for a while.  Each is named for the process that uses it, so that what one left behind that was
killed is cleared away later."""

from __future__ import annotations

import contextlib
import os
import shutil
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from altana.storage.files import this_start

PREFIX = ".altana-scratch-"
#: After so long without a change nobody works in a folder any more.
QUIET_S = 3600.0


@contextmanager
def scratch_folder(beside: Path | None = None) -> Iterator[Path]:
    """A folder that is gone afterwards.  beside : the folder it lies in, where files are renamed out of it.
    Raises OSError."""
    folder = new_scratch(beside)
    try:
        yield folder
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def new_scratch(beside: Path | None = None) -> Path:
    """A new folder, which whoever asks for it removes.  Raises OSError."""
    where = beside or Path(tempfile.gettempdir())
    _clear(where)
    return Path(tempfile.mkdtemp(prefix=f"{PREFIX}{this_start()}.{os.getpid()}.", dir=where))


def _clear(where: Path) -> None:
    """Remove folders of processes of this start of this machine that are gone; of others nothing is known.

    A run may outlive the window that asked for it: what somebody wrote into within the hour is left for
    another time.
    """
    with contextlib.suppress(OSError), os.scandir(where) as entries:
        ours = [entry for entry in entries if entry.name.startswith(f"{PREFIX}{this_start()}.")]
        for entry in ours:
            owner = entry.name.split(".")[2]
            if Path(f"/proc/{owner}").exists() or not entry.is_dir(follow_symlinks=False):
                continue
            folder = Path(entry.path)
            if time.time() - max(path.lstat().st_mtime for path in (folder, *folder.iterdir())) > QUIET_S:
                shutil.rmtree(folder, ignore_errors=True)
