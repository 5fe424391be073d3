"""Files by which a run is steered and told of, and folders beside what it makes: names that runs and those
who watch them share."""

from __future__ import annotations

import json
from pathlib import Path

#: In the job's folder, from whoever watches: while the first is there the run pauses; the second lists files
#: in the order in which they are wanted, the third those that are not wanted any more.
PAUSE_FILE, ORDER_FILE, OUT_FILE = "pause", "order.json", "out.json"
#: The picture that is being traced is good enough as it is.
ENOUGH_FILE = "enough"
#: The machine is switched off at the end; it stays on after all.
SWITCH_OFF_FILE, KEEP_ON_FILE = "switch-off", "keep-on"
#: Beside what is made: the last version of what was made again, and pictures before exposure and tone.
BEFORE_FOLDER, MASTER_FOLDER = "before", "masters"


def first_wanted(job: Path | None) -> list[str]:
    """The files that a job's folder asks for before all others, in their order."""
    return _names(job, ORDER_FILE)


def not_wanted(job: Path | None) -> list[str]:
    """The files that were taken out of a run while it goes on."""
    return _names(job, OUT_FILE)


def master_path(out: Path, file: str) -> Path:
    """Where the master of a file lies."""
    return out / MASTER_FOLDER / f"{Path(file).with_suffix('')}.exr"


def _names(job: Path | None, file: str) -> list[str]:
    try:
        return [str(name) for name in json.loads((job / file).read_text())] if job is not None else []
    except (OSError, ValueError, TypeError):
        return []
