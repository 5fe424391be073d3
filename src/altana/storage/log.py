"""Where Altana writes what went wrong inside it: a file under the user's state folder that never grows
large."""

from __future__ import annotations

import faulthandler
import logging
import logging.handlers
import os
from pathlib import Path
from typing import IO

import platformdirs

LARGEST_BYTES, KEPT_FILES = 1_000_000, 4
FORMAT = "%(asctime)s %(process)d %(levelname)s %(name)s: %(message)s"


def log_folder() -> Path:
    """The folder of the log; ALTANA_STATE names another state folder."""
    return Path(os.environ.get("ALTANA_STATE") or platformdirs.user_state_dir("altana"))


def log_file() -> Path:
    """The newest log."""
    return log_folder() / "altana.log"


_open: list[tuple[logging.Handler, IO[str]]] = []


def start_log() -> None:
    """Write the log from now on, and the stacks of a crash into a file beside it.  Without a place to write,
    only warnings are shown."""
    try:
        log_folder().mkdir(parents=True, exist_ok=True)
        handler = logging.handlers.RotatingFileHandler(
            log_file(), maxBytes=LARGEST_BYTES, backupCount=KEPT_FILES, encoding="utf-8"
        )
        crash = (log_folder() / "crash.log").open("a", encoding="utf-8")
    except OSError:
        # A full or read-only disk must not keep anyone from working.
        logging.basicConfig(level=logging.WARNING, format=FORMAT)
        return
    faulthandler.enable(crash)
    handler.setFormatter(logging.Formatter(FORMAT))
    root = logging.getLogger()
    root.addHandler(handler)
    root.setLevel(logging.INFO)
    _open.append((handler, crash))


def stop_log() -> None:
    """Close what ``start_log`` opened."""
    while _open:
        handler, crash = _open.pop()
        logging.getLogger().removeHandler(handler)
        handler.close()
        faulthandler.enable()
        crash.close()
