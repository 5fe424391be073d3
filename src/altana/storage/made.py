"""What was ever made for the projects of a folder: one line a file in ``made.jsonl`` beside them, the newest
last.

Whoever makes something appends a line; nothing is rewritten, so that several may write at once.  A folder
that cannot be written, or a line that cannot be read, loses a note and nothing else.
"""

from __future__ import annotations

import os
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import msgspec

from altana.core.project import Shot
from altana.storage.files import TOO_LARGE_BYTES

FILE = "made.jsonl"
MADE, ASIDE = "made", "set aside"
#: How it was asked for: as a row of the list, as a test picture of one, or straight from a camera or walk.
LIST, TEST, DIRECT = "list", "test", "direct"


@dataclass(frozen=True, slots=True)
class MadeFile:
    """One file as it was made, or one that was set aside with the reason in ``sentence``.

    ``file`` is relative to the project's folder where it lies there.  ``parts`` has a digest for each thing
    that the picture depends on (camera, light, model …), by its name; ``quality`` the word that was asked for
    instead of the row's own, if one was.
    """

    file: str
    project: str
    state: str
    #: Seconds since the epoch, and how long it took.
    when: float
    took_s: float
    name: str
    way: str
    shot: Shot
    width_px: int
    height_px: int
    parts: dict[str, str] = field(default_factory=dict)
    quality: str = ""
    #: How it was drawn instead of as its row says, if that was asked for; of films which part.
    drawn: str = ""
    film: dict[str, Any] = field(default_factory=dict)
    sentence: str = ""

    def path(self, base: Path) -> Path:
        """Where the file lies.  base : the project's folder."""
        return base / self.file


#: What msgspec learns of a type the first time must not be learnt by two threads at once, which ends the
#: process: it is learnt here.
_LINE = msgspec.json.Decoder(MadeFile)


def note_made(base: Path, record: MadeFile) -> None:
    """Add a line; a folder that cannot be written is no reason to lose what was made."""
    line = msgspec.json.encode(record) + b"\n"
    try:
        handle = os.open(
            base / FILE, os.O_WRONLY | os.O_APPEND | os.O_CREAT | os.O_CLOEXEC | os.O_NOFOLLOW, 0o644
        )
        try:
            os.write(handle, line)
        finally:
            os.close(handle)
    except OSError:
        return


def all_made(base: Path, project: str = "") -> dict[str, MadeFile]:
    """The newest line of each file, by its name there, oldest first.  project : of this project only (its
    file's name)."""
    newest: dict[str, MadeFile] = {}
    try:
        if (base / FILE).stat().st_size > TOO_LARGE_BYTES:
            return newest
        lines = (base / FILE).read_bytes().splitlines()
    except OSError:
        return newest
    for line in lines:
        try:
            record = _LINE.decode(line)
        except (msgspec.MsgspecError, UnicodeError):
            continue
        if project and record.project != project:
            continue
        newest.pop(record.file, None)
        newest[record.file] = record
    return newest


def name_in(base: Path, path: Path) -> str:
    """A file's name as its line has it: relative to the project's folder where it lies there."""
    whole, folder = path.resolve(), base.resolve()
    return whole.relative_to(folder).as_posix() if whole.is_relative_to(folder) else whole.as_posix()
