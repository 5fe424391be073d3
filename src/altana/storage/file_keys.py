"""Digests of files that have not changed since they were made: a file of gigabytes is not read through to
know that it is the same."""

from __future__ import annotations

import contextlib
import hashlib
import os
import time
from collections.abc import Callable
from pathlib import Path
from typing import Annotated

import msgspec

#: A file that was written this short before its digest was made may be written again without its times
#: showing it.
SETTLED_NS = 2_000_000_000


class _KnownFile(msgspec.Struct, frozen=True):
    """The file as it was when its digest was made: device, number, bytes, times of its content and of its
    record, nanoseconds."""

    file: tuple[int, int, int, int, int]
    #: It names a folder of the cache: nothing else than a digest may.
    digest: Annotated[str, msgspec.Meta(pattern="^[0-9a-f]{40}$")]


_KNOWN = msgspec.json.Decoder(_KnownFile)


def known_digest(path: Path, how: str, folder: Path, make: Callable[[], str]) -> str:
    """The digest of a file's bytes, read only where the file is another than it was.

    how : what the digest is of besides the bytes; folder : where it is noted.  ``make`` reads the file.
    Raises OSError where the file cannot be read; a folder that cannot be written is no loss.
    """
    whole = os.path.abspath(path)
    name = hashlib.blake2b(f"{whole}|{how}".encode(errors="surrogateescape"), digest_size=16).hexdigest()
    note, before = folder / name, _file(path)
    with contextlib.suppress(OSError, msgspec.MsgspecError, UnicodeDecodeError):
        known = _KNOWN.decode(note.read_bytes())
        if known.file == before:
            # Whoever may not read the file is not told what is in it.
            with path.open("rb"):
                return known.digest
    digest, now = make(), time.time_ns()
    if _file(path) == before and now - max(before[3:]) > SETTLED_NS:
        _note(note, _KnownFile(before, digest))
    return digest


def _file(path: Path) -> tuple[int, int, int, int, int]:
    stat = path.stat()
    return stat.st_dev, stat.st_ino, stat.st_size, stat.st_mtime_ns, stat.st_ctime_ns


def _note(note: Path, known: _KnownFile) -> None:
    part = note.with_name(f"{note.name}.{os.getpid()}.part")
    try:
        note.parent.mkdir(parents=True, exist_ok=True)
        part.write_bytes(msgspec.json.encode(known))
        os.replace(part, note)
    except OSError:
        with contextlib.suppress(OSError):
            part.unlink(missing_ok=True)
