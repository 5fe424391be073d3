"""How much a model may ask for: what this machine has, not what its file weighs."""

from __future__ import annotations

import os
import resource
import time
import zipfile
from pathlib import Path

import psutil

from altana.core.errors import UserError

#: A reader leaves this share of what is free to everything else.
SHARE = 0.7
#: Bytes that a triangle takes while a model is put together: corners, directions, textures, numbers, and the
#: copies on the way.
A_TRIANGLE = 260
#: And one of a copy, whose surface is held once until it has its place.
A_COPY = 120
#: What is packed into an archive may be this many times as large as the archive, and takes so many times its
#: size while it is read.
UNPACKED, WHILE_READING = 200, 8


#: With less memory free than this, bytes, it is given back all the same.
PLENTY = 4 << 30
#: For so many seconds what is free is taken for known; and when it was last asked for.
LATELY_S = 0.2
_asked = (-LATELY_S, 0)
#: What parsers hold, in a process that ends soon; None where it is freed when it is done with.
_until_the_end: list[object] | None = None


def leave_to_the_end() -> None:
    """From now on nothing that a parser holds is freed: this process reads one file and ends, and giving a
    building's shapes back piece by piece takes a tenth of reading them."""
    global _until_the_end
    if _until_the_end is None:
        _until_the_end = []


def done_with(thing: object) -> None:
    """What a parser holds is needed no more."""
    if _until_the_end is not None and free_bytes() > PLENTY:
        _until_the_end.append(thing)


def free_bytes() -> int:
    """What this process may still take: memory that is free, within the limit set for it."""
    free = int(psutil.virtual_memory().available * SHARE)
    limit = resource.getrlimit(resource.RLIMIT_DATA)[0]
    if limit == resource.RLIM_INFINITY:
        return free
    return max(0, min(free, limit - int(psutil.Process(os.getpid()).memory_info().data)))


def _free_lately() -> int:
    """What was free a moment ago: readers ask for every part of a file, and asking the system takes as long
    as a small part."""
    global _asked
    now = time.monotonic()
    if now - _asked[0] > LATELY_S:
        _asked = now, free_bytes()
    return _asked[1]


def reader_limit() -> int:
    """What a reading process may take at most, bytes."""
    return max(1 << 30, int(psutil.virtual_memory().available * SHARE))


def check_room(size: int, name: str) -> None:
    """Refuse what cannot be held, before it is asked for.  size : bytes.  Raises UserError."""
    if size > 1 << 24 and size > free_bytes():
        raise UserError(
            f"{name} asks for {size / 1e9:.1f} GB of memory and {free_bytes() / 1e9:.1f} GB are free. "
            "Nothing was changed. Close other programs, or export a lighter model."
        )


def check_triangles(count: int, name: str, copies: int = 0) -> None:
    """Refuse more triangles than can be held.  copies : how many of them are of copies.  Raises UserError."""
    size = (count - copies) * A_TRIANGLE + copies * A_COPY
    if size > 1 << 24 and size > _free_lately():
        raise UserError(
            f"{name} has {count / 1e6:.1f} million triangles once everything in it is placed; this machine has room for "
            f"{free_bytes() / size * count / 1e6:.1f} million now. Nothing was changed. Close other programs, or export a lighter model."
        )


def check_archive(path: Path, name: str) -> None:
    """Refuse an archive that would unpack to more than can be held, or to absurdly much.  Raises UserError;
    damage is left to its reader."""
    try:
        with zipfile.ZipFile(path) as archive:
            total = sum(item.file_size for item in archive.infolist())
    except (zipfile.BadZipFile, OSError, NotImplementedError):
        return
    check_room(total * WHILE_READING, name)
    if total > max(path.stat().st_size * UNPACKED, 1 << 20):
        raise UserError(
            f"{name} is packed more tightly than any building model. Nothing was changed. Choose another file."
        )
