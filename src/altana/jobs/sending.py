"""Writing cameras and walks for other tools, by the kind of file that is asked for."""

from __future__ import annotations

import os
import shutil
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from altana.core.conventions import Vec3
from altana.core.errors import UserError
from altana.core.model import Model
from altana.core.project import Camera, Project, Walk
from altana.core.staging import Lookup
from altana.core.standing import standable
from altana.exchange.gltf_out import gltf_bytes
from altana.exchange.tables_out import csv_text, json_text
from altana.exchange.travelling import Travelling, camera_travelling, unheld, walk_travelling
from altana.jobs.models import open_project_models
from altana.storage.files import explain, make_folder, write_atomically
from altana.storage.scratch import scratch_folder

if TYPE_CHECKING:
    from altana.exchange.model_out import Piece

#: Kinds of files with what they are called.
SENT = {
    ".gltf": "glTF, text",
    ".glb": "glTF, binary",
    ".usda": "USD, text",
    ".usdc": "USD, binary",
    ".csv": "Table (CSV)",
    ".json": "Table with placements (JSON)",
}
KINDS = (*SENT, ".usd")
#: Those that the model goes into as well.
WITH_MODEL = (".glb", ".usda", ".usdc", ".usd")


@dataclass(frozen=True, slots=True)
class SentFile:
    """What was written: names of cameras, film frames of walks by name, what the model's file has been moved
    by, and what the format does not hold."""

    file: Path
    cameras: tuple[str, ...]
    walks: dict[str, int]
    offset_m: Vec3
    not_held: tuple[str, ...]
    #: How many objects of the model went along.
    objects: int = 0


def what_is_lost(cameras: Sequence[Camera], kind: str) -> list[str]:
    """What a kind of file does not hold of these cameras, in sentences, before anything is written."""
    straight = not kind.startswith(".gl")
    return unheld([camera_travelling(camera) for camera in cameras], shift=straight, lens=straight)


def send(
    project: Project,
    project_path: Path,
    cameras: Sequence[Camera],
    walks: Sequence[Walk],
    out: Path,
    rate: str = "",
    whole: bool = False,
) -> SentFile:
    """Write cameras and walks.  rate : film frames a second of walks instead of their own.  whole : the model
    as well, as it is shown: with mends and what the project leaves out, and the nudges of the one camera that
    is sent.  Raises UserError."""
    kind = out.suffix.lower()
    if kind not in KINDS:
        raise UserError(
            f"{out.name} is no file that cameras are written to. Choose one that ends in {', '.join(KINDS)}."
        )
    items: list[Travelling] = [camera_travelling(camera) for camera in cameras]
    offset: Vec3 = (0.0, 0.0, 0.0)
    shown: tuple[Model, list[Piece]] | None = None
    if whole and kind not in WITH_MODEL:
        raise UserError(
            f"The model is written to {', '.join(WITH_MODEL)}, not to {kind}. Nothing was written."
        )
    if project.models:
        model = open_project_models(project, project_path).model
        offset = model.offset
        if whole:
            shown = model, _shown(project, model, cameras)
        if walks:
            floors = standable(model)
            items += [walk_travelling(walk, floors, rate) for walk in walks]
    elif walks:
        raise UserError(
            "Walks follow the floors of a model, and the project has none. Add the model, then write them."
        )
    if not items and not shown:
        raise UserError("There is nothing of that kind in the project. Nothing was written.")
    _write(out, items, offset, shown)
    straight = not kind.startswith(".gl")
    return SentFile(
        out,
        tuple(item.name for item in items if item.rate is None),
        {item.name: len(item.frames) for item in items if item.rate is not None},
        offset,
        tuple(unheld(items, shift=straight, lens=straight)),
        len({piece.name for piece in shown[1]}) if shown is not None else 0,
    )


def _write(out: Path, items: list[Travelling], offset: Vec3, shown: tuple[Model, list[Piece]] | None) -> None:
    make_folder(out.parent)
    kind = out.suffix.lower()
    if kind.startswith(".usd"):
        _write_usd(out, items, offset, shown)
    elif kind == ".glb" and shown is not None:
        from altana.exchange.model_out import merged_glb, model_glb

        data = gltf_bytes(items, offset, True)
        write_atomically(out, merged_glb(model_glb(*shown), data))
    elif kind.startswith(".gl"):
        write_atomically(out, gltf_bytes(items, offset, kind == ".glb"))
    else:
        write_atomically(out, (csv_text if kind == ".csv" else json_text)(items, offset).encode())


def _shown(project: Project, model: Model, cameras: Sequence[Camera]) -> list[Piece]:
    """The pieces of the model as it is shown."""
    from altana.exchange.model_out import pieces

    return pieces(model, Lookup(model).staging(project, cameras[0] if len(cameras) == 1 else None))


def _write_usd(
    out: Path, items: Sequence[Travelling], offset: Vec3, shown: tuple[Model, list[Piece]] | None
) -> None:
    # Loaded when used: the library takes its time.
    from altana.exchange.usd_out import write_usd

    try:
        with scratch_folder(out.parent) as scratch:
            whole = scratch / out.name

            def also(stage: object) -> None:
                if shown is not None:
                    from altana.exchange.model_out import add_to_stage

                    add_to_stage(stage, whole, *shown, offset)

            write_usd(whole, items, offset, also)
            pictures = whole.with_name(f"{whole.stem}-pictures")
            if pictures.is_dir():
                shutil.copytree(pictures, out.with_name(pictures.name), dirs_exist_ok=True)
            os.replace(whole, out)
    except OSError as error:
        raise explain(error, out, "What was there before is unchanged.") from error
