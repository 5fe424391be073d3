"""Orders added to a run that goes on, as files in its job's folder."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import msgspec

from altana.core.project import Project
from altana.storage.files import make_folder, write_atomically
from altana.storage.project_file import write_project

MORE_FOLDER = "more"


@dataclass(frozen=True, slots=True)
class Added:
    """An order that was added: rows by id, as test pictures or in a quality of their own instead of their
    rows'."""

    shots: tuple[str, ...]
    trial: bool = False
    quality: str = ""


def add_order(job: Path, project: Project, added: Added) -> None:
    """Add an order to the job in a folder.  Raises UserError."""
    folder = make_folder(job / MORE_FOLDER)
    number = 1 + max((int(path.stem) for path in folder.glob("[0-9]*.altana")), default=0)
    write_project(folder / f"{number:04}.altana", project, passing=True)
    write_atomically(folder / f"{number:04}.json", msgspec.json.encode(added))


def orders_left(job: Path) -> list[Path]:
    """The orders added to a job that were not made to their end, in their order."""
    return sorted((job / MORE_FOLDER).glob("[0-9]*.json"))
