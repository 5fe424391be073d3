"""What was not saved yet, kept beside the user's own data so that a crash or a power cut loses little.

A file is named by a digest of the project's path; it holds the path, the time, and the project.  While what
was kept before a crash is offered and neither taken nor declined, newer changes go into a second file, so
that neither is lost.
"""

from __future__ import annotations

import hashlib
import json
import time
from dataclasses import dataclass
from pathlib import Path

from altana.core.errors import UserError
from altana.core.project import Project
from altana.storage.files import make_folder, write_atomically
from altana.storage.project_file import autosave_folder, from_json, to_plain


@dataclass(frozen=True, slots=True)
class KeptProject:
    """A project as it was when Altana last kept it; ``seconds`` is the time since the epoch."""

    path: Path
    project: Project
    seconds: float


def _file(path: Path, beside: bool = False) -> Path:
    digest = hashlib.blake2b(str(path.resolve()).encode(), digest_size=12).hexdigest()
    return autosave_folder() / f"{digest}{'-later' if beside else ''}.json"


def keep(path: Path, project: Project, beside: bool = False) -> None:
    """Keep a project, or keep it beside what is still offered.  A folder that cannot be written is no reason
    to disturb anybody."""
    content = {"path": str(path.resolve()), "seconds": time.time(), "project": to_plain(project)}
    try:
        make_folder(autosave_folder())
        write_atomically(_file(path, beside), json.dumps(content).encode())
    except UserError:
        return


def kept(path: Path) -> KeptProject | None:
    """The newest of what was kept of a project and is newer than its file, or None."""
    copies = [copy for beside in (False, True) if (copy := _read(path, beside)) is not None]
    return max(copies, key=lambda copy: copy.seconds, default=None)


def _read(path: Path, beside: bool) -> KeptProject | None:
    try:
        content = json.loads(_file(path, beside).read_bytes())
        seconds = float(content["seconds"])
        # Clocks go wrong and jump: that it is not what the file holds is seen by whoever offers it.
        if content["path"] != str(path.resolve()):
            return None
        return KeptProject(path, from_json(json.dumps(content["project"]).encode(), path.name), seconds)
    except (OSError, ValueError, KeyError, TypeError, UserError):
        return None


def drop(path: Path, later_only: bool = False) -> None:
    """Nothing of this project needs to be kept any more; or nothing but what is still offered."""
    for beside in (True,) if later_only else (False, True):
        _file(path, beside).unlink(missing_ok=True)
