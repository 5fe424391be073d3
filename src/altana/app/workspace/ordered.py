"""A run as it was ordered, as it lies in its job's folder: whoever opens the project again follows it, or
goes on with it."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass
from pathlib import Path

import msgspec

from altana.storage.files import write_atomically

ORDERED_FILE = "wanted.json"


@dataclass(frozen=True, slots=True)
class Where:
    """Where a run is made: here by one process; here by several; or by the machines lent to a scheduler."""

    processes: int = 1
    address: str = ""
    certificates: str = ""
    shared: str = ""

    def words(self) -> list[str]:
        """What the command is told."""
        if self.address:
            more = ["--certificates", self.certificates] if self.certificates else []
            more += ["--shared", self.shared] if self.shared else []
            return ["--on", self.address, *more]
        return ["--machines", str(self.processes)] if self.processes > 1 else []


HERE = Where()


@dataclass(frozen=True, slots=True)
class Ordered:
    """out : the folder that files are made in.  base : the project's own folder.  shots, files : ids of rows
    and the files they become; files may grow while the run goes on.  quality : one for all rows, "" for their
    own."""

    out: str
    base: str
    shots: tuple[str, ...]
    files: tuple[str, ...]
    trial: bool = False
    quality: str = ""
    name: str = ""
    where: Where = HERE

    def words(self, job: Path) -> list[str]:
        """What ``altana render`` is told, all but how to go on and to end."""
        words = [str(job / "project.altana"), "--base", self.base, "--out", self.out]
        words += ["--job", str(job), "--json", "--project-name", self.name]
        for shot_id in self.shots:
            words += ["--shot", shot_id]
        words += ["--test"] if self.trial else []
        words += ["--quality", self.quality] if self.quality else []
        return [*words, *self.where.words()]


def write_ordered(job: Path, ordered: Ordered) -> None:
    """Keep it with its job.  Raises UserError where it cannot be written."""
    # Names of folders need not be text, which msgspec would refuse to write.
    write_atomically(job / ORDERED_FILE, json.dumps(asdict(ordered)).encode())


def read_ordered(job: Path) -> Ordered | None:
    """What a job was ordered to make; None where there is none, or none that can be read."""
    try:
        return msgspec.convert(json.loads((job / ORDERED_FILE).read_bytes()), Ordered)
    except (OSError, ValueError, msgspec.ValidationError):
        return None
