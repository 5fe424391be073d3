"""The last saves of each project, small and by their content, so that there is a way back: kept beside the
user's own data."""

from __future__ import annotations

import gzip
import hashlib
import time
from dataclasses import dataclass
from pathlib import Path

from altana.core.errors import UserError
from altana.storage.files import TOO_LARGE_BYTES, make_folder, write_atomically

#: So many saves are kept of each project.
KEPT = 20
SUFFIX = ".json.gz"


@dataclass(frozen=True, slots=True)
class Version:
    """A project as it once was: the file that holds it, when it was replaced by the next save (seconds since
    the epoch)."""

    path: Path
    seconds: float

    @property
    def data(self) -> bytes:
        """The bytes of the project's file.  Raises UserError."""
        try:
            with gzip.open(self.path) as file:
                data = file.read(TOO_LARGE_BYTES + 1)
        except (OSError, EOFError) as error:
            raise UserError(
                "That version cannot be read any more. The project is as it was; take another."
            ) from error
        if len(data) > TOO_LARGE_BYTES:
            raise UserError(
                "That version is too large to be a project. The project is as it was; take another."
            )
        return data


def versions_of(folder: Path, path: Path) -> tuple[Version, ...]:
    """The kept saves of a project, the newest first.  folder : where versions are kept."""
    versions = []
    for file in _folder(folder, path).glob(f"*{SUFFIX}"):
        number = file.name.partition("-")[0]
        if number.isdigit():
            versions.append(Version(file, int(number) / 1000.0))
    return tuple(sorted(versions, key=lambda version: -version.seconds))


def keep_version(folder: Path, path: Path) -> None:
    """Keep what a project's file holds now, before it is replaced; what cannot be kept is no reason not to
    save."""
    try:
        if not path.is_file() or path.stat().st_size > TOO_LARGE_BYTES:
            return
        data = path.read_bytes()
        digest = hashlib.blake2b(data, digest_size=8).hexdigest()
        versions = versions_of(folder, path)
        if versions and digest in versions[0].path.name:
            return
        place = make_folder(_folder(folder, path))
        name = f"{time.time_ns() // 1_000_000}-{digest}{SUFFIX}"
        write_atomically(place / name, gzip.compress(data, mtime=0))
        for old in versions[KEPT - 1 :]:
            old.path.unlink(missing_ok=True)
    except (OSError, UserError):
        return


def _folder(folder: Path, path: Path) -> Path:
    return (
        folder
        / hashlib.blake2b(str(path.resolve()).encode(errors="surrogateescape"), digest_size=12).hexdigest()
    )
