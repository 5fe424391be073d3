"""Files that travel: kept by what they hold, so that each goes to a machine once."""

from __future__ import annotations

import hashlib
import os
import shutil
import socket
import stat
from collections.abc import Callable, Iterable
from pathlib import Path

from altana.core.errors import UserError
from altana.core.project import PICTURE, Project, Tone
from altana.jobs.machines.pieces import DIGEST_BYTES, PackedFile, check_name
from altana.jobs.requests import Item
from altana.storage.cache import cache_folder, limit_bytes, load_model, model_key, tidy
from altana.storage.files import make_folder
from altana.storage.project_file import beside, model_path

CHUNK = 4 << 20


#: Names the folder that machines share, where there is one.
SHARED = "ALTANA_SHARED"


def shared() -> Path | None:
    """The folder that machines share: files are put there and taken from there by digest, and need not
    travel.  None where there is none."""
    named = os.environ.get(SHARED, "")
    return Path(named) if named and Path(named).is_dir() else None


def share(digest: str, data: bytes | Path) -> None:
    """Put a file into the folder that machines share, if there is one; where it cannot be written the file
    travels."""
    folder = shared()
    if folder is None or (folder / digest).exists():
        return
    part = folder / f".{digest}.{socket.gethostname()}.{os.getpid()}.part"
    try:
        if isinstance(data, Path):
            shutil.copyfile(data, part)
        else:
            part.write_bytes(data)
        part.replace(folder / digest)
    except OSError:
        part.unlink(missing_ok=True)


def take_shared(digest: str) -> bool:
    """Take a file from the folder that machines share; False where it is not there, or is another than its
    digest says."""
    folder = shared()
    if folder is None:
        return False
    try:
        # A pipe or a device would never end.
        if not stat.S_ISREG((folder / digest).stat().st_mode):
            return False
        with (folder / digest).open("rb") as file:
            at = 0
            while block := file.read(CHUNK):
                take_part(digest, at, block, False)
                at += len(block)
        take_part(digest, at, b"", True)
    except (OSError, UserError):
        return False
    return True


def store() -> Path:
    """The folder of files by digest."""
    return cache_folder() / "lent" / "files"


def digest_of(data: bytes) -> str:
    """What some bytes are called."""
    return hashlib.blake2b(data, digest_size=DIGEST_BYTES).hexdigest()


def digest_of_file(path: Path) -> str:
    """What a file is called by what it holds."""
    with path.open("rb") as file:
        digest = hashlib.blake2b(digest_size=DIGEST_BYTES)
        while block := file.read(CHUNK):
            digest.update(block)
    return digest.hexdigest()


def has(digest: str) -> bool:
    """Whether a file is here."""
    return (store() / digest).is_file()


def take_part(digest: str, start: int, data: bytes, last: bool) -> None:
    """Keep a part of a file at its place; with the last one the whole is looked at.  Two who send the same
    file write the same.

    Raises UserError where it is not what its digest says, or is larger than the cache may become.
    """
    if start < 0 or start + len(data) > limit_bytes():
        raise UserError("A file is larger than the cache may become. Nothing was kept; set ALTANA_CACHE_GB.")
    folder = make_folder(store())
    part = folder / f"{digest}.{os.getpid()}.part"
    with part.open("r+b" if start and part.is_file() else "wb") as file:
        file.seek(start)
        file.write(data)
    if not last:
        return
    good = digest_of_file(part) == digest
    if good:
        part.replace(folder / digest)
        tidy(folder / digest)
    else:
        part.unlink(missing_ok=True)
        raise UserError(
            "A file arrived otherwise than it was sent. It was not used; start the run once more."
        )


def part_of(digest: str, start: int) -> bytes:
    """Some bytes of a kept file; none at its end.  Raises UserError."""
    try:
        with (store() / digest).open("rb") as file:
            file.seek(start)
            return file.read(CHUNK)
    except OSError as error:
        raise UserError(
            "A file that a piece needs is gone. Start the run once more with --resume."
        ) from error


def lay_out(files: Iterable[PackedFile], folder: Path) -> None:
    """The files under their names in a folder.  Raises UserError."""
    for file in files:
        check_name(file.name)
        path = folder / file.name
        if path.is_file():
            continue
        make_folder(path.parent)
        part = path.with_name(f".{path.name}.{os.getpid()}.part")
        part.unlink(missing_ok=True)
        try:
            os.link(store() / file.digest, part)
        except OSError:
            shutil.copyfile(store() / file.digest, part)
        part.replace(path)


def packed_files(project: Project, items: list[Item], base: Path) -> dict[PackedFile, Path]:
    """Everything that making some items reads from a project's folder, and where it lies.  What is not there
    is left away."""
    files: dict[str, Path] = {}

    def add(path: Path) -> None:
        whole = path.resolve()
        if whole.is_file() and whole.is_relative_to(base.resolve()):
            files[whole.relative_to(base.resolve()).as_posix()] = whole

    for reference in project.models:
        if not reference.shown:
            continue
        try:
            path = model_path(base / "project.altana", reference)
            kept_model = load_model(path, model_key(path, reference.unit_m, reference.up))
        except (OSError, UserError):
            continue
        add(path)
        for name in kept_model[1] if kept_model is not None else ():
            add(path.parent / name)
    for name in _named(project, items):
        try:
            add(beside(base, name, "file"))
        except UserError:
            # Whoever makes the row will say so.
            continue
    return {PackedFile(name, digest_of_file(path), path.stat().st_size): path for name, path in files.items()}


def _named(project: Project, items: list[Item]) -> set[str]:
    """The names of pictures and tables that rows and light use."""

    def tables(tone: Tone | None) -> set[str]:
        return {tone.table} if tone is not None and tone.table else set()

    names = {project.light.surroundings.file} | tables(project.tone)
    for item in items:
        shot = item.shot
        if shot is None:
            continue
        names |= tables(shot.tone)
        if shot.background == PICTURE:
            names.add(shot.background_file)
    return names - {""}


def bring(missing: Iterable[str], fetch: Callable[[str, int], bytes]) -> int:
    """Fetch files that are not here; the bytes that came over the network.  Raises UserError."""
    count = 0
    for digest in missing:
        if has(digest) or take_shared(digest):
            continue
        at = 0
        while block := fetch(digest, at):
            take_part(digest, at, block, False)
            at += len(block)
        take_part(digest, at, b"", True)
        count += at
    return count
