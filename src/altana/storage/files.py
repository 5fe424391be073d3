"""Writing a file so that it is either the old one or the new one, never half of each."""

from __future__ import annotations

import errno
import os
import tempfile
from pathlib import Path

from altana.core.errors import UserError

#: Lists that Altana keeps beside a project are not read beyond this.
TOO_LARGE_BYTES = 64_000_000


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
        errno.EISDIR: ("there is a folder of that name", "Choose another name."),
    }
    reason, advice = reasons.get(
        error.errno or 0, (os.strerror(error.errno) if error.errno else str(error), "Try another folder.")
    )
    return UserError(f"{path.name} was not written: {reason}. {kept} {advice}")


def write_atomically(path: Path, data: bytes, kept: str = "What was there before is unchanged.") -> None:
    """Write bytes under a temporary name beside the target, then rename.  Raises UserError with a sentence."""
    temporary = ""
    try:
        handle, temporary = tempfile.mkstemp(prefix=f".{path.name[:40]}.", suffix=".part", dir=path.parent)
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.chmod(temporary, 0o644)
        os.replace(temporary, path)
    except OSError as error:
        if temporary and os.path.exists(temporary):
            os.unlink(temporary)
        raise explain(error, path, kept) from error


def make_folder(path: Path) -> Path:
    """The folder, made where needed.  Raises UserError with a sentence."""
    try:
        path.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise explain(error, path, "Nothing was changed.") from error
    return path
