"""Masters: pictures before exposure and tone as they are kept, what they are known by, and what a picture
remembers."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path
from typing import Any

import msgspec
import numpy as np

from altana.core.conventions import Floats32
from altana.core.errors import UserError
from altana.core.project import AS_BEHIND, NO_TONE, PENCIL, SKY, TRANSPARENT, USUAL_QUALITIES, Project, Shot
from altana.jobs.job_files import master_path
from altana.jobs.requests import Pano, Picture, Request
from altana.render.encode import exr_master
from altana.render.outputs import Master
from altana.storage.files import make_folder, write_atomically


def sky_drawn(shot: Shot) -> bool:
    """Whether the sky stands in a row's master: where nothing else takes its place; a pencil leaves paper
    there."""
    return shot.background == SKY and shot.ground == AS_BEHIND and shot.rendition != PENCIL


def camera_json(project: Project, item: Picture | Pano) -> str:
    """What a picture remembers: its project, its camera and how it was drawn."""
    camera: dict[str, Any] = msgspec.to_builtins(replace(item.camera, variants=(), formats=()))
    # Where its row stands and how its file is called makes no other picture.
    bare = replace(item.shot, id="", on=True, folder="", pattern="", keep_master=False, passes=False, note="")
    shot: dict[str, Any] = msgspec.to_builtins(bare)
    return json.dumps(
        {"altana": 1, "project": project.name, "camera": camera, "shot": shot}, ensure_ascii=False
    )


def read_master(path: Path) -> Master:
    """A master as it was kept; the file holds its light multiplied by its coverage.  Raises UserError for one
    that cannot be read."""
    try:
        kept = exr_master(path)
    except Exception as error:
        # The library has kinds of errors of its own beside plain RuntimeError.
        raise UserError(f"{path.name} cannot be read: {error}. Make the row once more.") from error
    return _uncovered(*kept)


def as_kept(master: Master) -> Master:
    """A master as its file gives it back: half floats, its light multiplied by its coverage meanwhile."""
    alpha = None if master.alpha is None else _as_half(master.alpha)
    return _uncovered(
        _as_half(master.light if master.alpha is None else master.light * master.alpha[..., None]), alpha
    )


def _uncovered(light: Floats32, alpha: Floats32 | None) -> Master:
    if alpha is None:
        return Master(light)
    return Master((light / np.maximum(alpha, np.float32(1e-6))[..., None]).astype(np.float32), alpha)


def _as_half(values: Floats32) -> Floats32:
    return np.clip(values, 0.0, 65_000.0).astype(np.float16).astype(np.float32)


def master_key(project: Project, item: Picture | Pano) -> str:
    """A name for everything that a master shows: all but tone, and what the file is and is called."""
    plain = Shot("", background=SKY if sky_drawn(item.shot) else TRANSPARENT)
    # What stands behind is put there afterwards; only whether there is a sky counts.
    names = ("background", "background_colour", "background_file", "ground", "ground_colour")
    behind = {name: getattr(plain, name) for name in names}
    shot = replace(
        item.shot,
        tone=None,
        file="png",
        dpi=0.0,
        folder="",
        pattern="",
        on=True,
        note="",
        id="",
        passes=False,
        **behind,
    )
    # Of the figures only those of the row's own word count.
    qualities = replace(USUAL_QUALITIES, **{shot.quality: project.qualities.of(shot.quality)})
    bare = replace(
        project,
        shots=(),
        tone=NO_TONE,
        qualities=qualities,
        cameras=(),
        walks=(),
        planned=(),
        name="",
        author="",
    )
    return Request(bare, (replace(item, shot=shot, file=""),)).digest()


def write_master(out: Path, file: str, data: bytes) -> Path:
    """Write the master of a picture."""
    path = master_path(out, file)
    make_folder(path.parent)
    write_atomically(path, data, "The picture is kept.")
    return path
