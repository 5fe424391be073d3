"""Writing a file so that it is either the old one or the new one, never half of each."""

from __future__ import annotations

import contextlib
import errno
import functools
import hashlib
import os
import stat
import tempfile
import time
from pathlib import Path

from altana.core.errors import UserError

#: Lists that Altana keeps beside a project are not read beyond this.
TOO_LARGE_BYTES = 64_000_000


#: How unfinished files end, and how old one is at least that nobody finishes any more, seconds.
PART, PART_S = ".part", 3600.0


_looked_through: set[Path] = set()


def explain(error: OSError, path: Path, kept: str) -> UserError:
    """A sentence for what the file system said."""
    reasons = {
        errno.ENOSPC: ("the disk is full", "Make room and do it again."),
        errno.EDQUOT: ("the disk quota is used up", "Make room and do it again."),
        errno.EROFS: ("the disk is read-only", "Choose another folder."),
        errno.EACCES: (
            "the folder may not be written to",
            "Choose another folder, or change its permissions.",
        ),
        errno.EPERM: (
            "the folder may not be written to",
            "Choose another folder, or change its permissions.",
        ),
        errno.ENOENT: ("the folder is not there", "Choose another folder."),
        errno.ENOTDIR: ("part of the path is not a folder", "Choose another folder."),
        errno.ENAMETOOLONG: ("its name is too long", "Choose a shorter one."),
        errno.EISDIR: ("there is a folder of that name", "Choose another name."),
    }
    reason, advice = reasons.get(
        error.errno or 0, (os.strerror(error.errno) if error.errno else str(error), "Try another folder.")
    )
    return UserError(f"{path.name} was not written: {reason}. {kept} {advice}")


def write_atomically(path: Path, data: bytes, kept: str = "What was there before is unchanged.") -> None:
    """Write bytes under a temporary name beside the target, then rename.  A file that is there keeps its mode
    and group; a link goes on pointing where it did.  Raises UserError with a sentence."""
    temporary = ""
    try:
        target = path.resolve() if path.is_symlink() else path
        if target.parent not in _looked_through:
            # Once is enough: a film writes thousands of files into one folder.
            _looked_through.add(target.parent)
            remove_parts(target.parent)
        handle, temporary = tempfile.mkstemp(prefix=part_prefix(target.name), suffix=PART, dir=target.parent)
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            _like_before(file.fileno(), target)
            os.fsync(file.fileno())
        os.replace(temporary, target)
        _flush_folder(target.parent)
    except OSError as error:
        if temporary and os.path.exists(temporary):
            os.unlink(temporary)
        raise explain(error, path, kept) from error


def part_prefix(name: str) -> str:
    """How the name of an unfinished file begins: it tells which process writes it, and where that number is
    one."""
    # A name may have 255 bytes, of which the rest of it needs some.
    short = name.encode(errors="surrogateescape")[:120].decode(errors="ignore")
    return f".{short}.{this_start()}.{os.getpid()}."


@functools.cache
def this_start() -> str:
    """Where numbers of processes mean the same as here, as part of a file's name: this start of this machine,
    and this container of it.

    Names of machines do not tell: in a studio several may have the same one.
    """
    try:
        start = Path("/proc/sys/kernel/random/boot_id").read_bytes() + os.readlink(b"/proc/self/ns/pid")
    except OSError:
        start = os.urandom(16)
    # Never a number of its own.
    return "h" + hashlib.blake2b(start, digest_size=6).hexdigest()


def remove_parts(folder: Path) -> None:
    """Remove unfinished files whose writer is gone.  Of writers elsewhere nothing is known: theirs go after
    an hour."""
    try:
        with os.scandir(folder) as entries:
            parts = [entry for entry in entries if entry.name.startswith(".") and entry.name.endswith(PART)]
        for entry in parts:
            words = entry.name.split(".")
            owner = next((int(word) for word in reversed(words) if word.isdigit()), 0)
            if owner and Path(f"/proc/{owner}").exists():
                continue
            ours = owner and this_start() in words
            if ours or time.time() - entry.stat(follow_symlinks=False).st_mtime > PART_S:
                os.unlink(entry.path)
    except OSError:
        return


def _like_before(handle: int, target: Path) -> None:
    """The mode and group of the file that is replaced; those of any new file where there is none."""
    try:
        before = target.stat()
    except OSError:
        mask = os.umask(0)
        os.umask(mask)
        os.fchmod(handle, 0o666 & ~mask)
        return
    os.fchmod(handle, stat.S_IMODE(before.st_mode))
    # Who may write a file need not be allowed to give it to its group.
    with contextlib.suppress(OSError):
        os.fchown(handle, -1, before.st_gid)


def _flush_folder(folder: Path) -> None:
    """The new name is on the disk as well; where a file system cannot do that, it need not."""
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def make_folder(path: Path) -> Path:
    """The folder, made where needed.  Raises UserError with a sentence."""
    try:
        path.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise explain(error, path, "Nothing was changed.") from error
    return path
