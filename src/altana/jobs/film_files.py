"""Where the frames of a film lie while it is made, and how they take their place when it is done."""

from __future__ import annotations

import os
import shutil
from pathlib import Path

from altana.jobs.job_files import BEFORE_FOLDER
from altana.jobs.requests import Film
from altana.storage.files import make_folder


def _beside(path: Path, folder: Path) -> Path:
    """The file on the folder's own file system, so that it can be renamed into place."""
    if path.stat().st_dev == folder.stat().st_dev:
        return path
    near = folder / f".{path.name}.part"
    shutil.move(path, near)
    return near


def frame_path(frames: Path, item: Film, number: int) -> Path:
    """Where a film frame lies in the folder of a film's frames."""
    return frames / f"{number:06d}.{item.sequence or 'png'}"


def raw_path(frames: Path, item: Film, number: int) -> Path:
    """Where a traced film frame lies as it came."""
    return frames / f"{number:06d}.raw.{'exr' if item.sequence == 'exr' else 'png'}"


def keep_before(path: Path) -> None:
    """A file that is about to be replaced by another stays beside it, for comparison."""
    before = make_folder(path.parent / BEFORE_FOLDER) / path.name
    before.unlink(missing_ok=True)
    try:
        os.link(path, before)
    except OSError:
        # Not every file system knows hard links.
        shutil.copyfile(path, before)


def drop(folder: Path) -> None:
    for path in folder.iterdir():
        path.unlink()
    folder.rmdir()


def put_sequence(frames: Path, item: Film, final: Path) -> None:
    """The folder of frames takes the place of an older one, whose pictures go; nothing else in it is
    touched."""
    make_folder(final)
    wanted = {frame_path(frames, item, number).name for number in item.frames}
    for name in sorted(wanted):
        os.replace(_beside(frames / name, final), final / name)
    for old in final.glob("[0-9]" * 6 + f".{item.sequence}"):
        if old.name not in wanted:
            old.unlink()
    drop(frames)
