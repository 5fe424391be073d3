"""A glTF file as parts of a model: metres and Y up by its standard."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np

from altana.core.model import Problem, Room, Storey
from altana.importers.folder import ModelFolder
from altana.importers.gltf.document import Document
from altana.importers.gltf.scene import SceneReader
from altana.importers.raw import RawModel
from altana.importers.units import Z_UP_FROM_Y_UP


def read_gltf(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """The parts of a glTF file and the other files it was read from.  Raises UserError.

    unit_m : metres per unit, 0 for what the standard says.  up : the axis that points up, empty for what the
    standard says.
    """
    folder = ModelFolder(path)
    document = Document(path, folder)
    raw = RawModel()
    turned = np.eye(4) if up == "z" else Z_UP_FROM_Y_UP
    if unit_m:
        raw.unit = f"{unit_m:g} m, as chosen"
    SceneReader(document, turned * np.array([[unit_m or 1.0]] * 3 + [[1.0]]), raw).read()
    if unit_m:
        for number, item in enumerate(raw.materials):
            red, green, blue = (share / unit_m for share in item.absorbed)
            raw.materials[number] = replace(item, absorbed=(red, green, blue))
    _altana(document, raw)
    folder.tell(raw)
    return raw, folder.read


def _altana(document: Document, raw: RawModel) -> None:
    """Storeys and rooms that Altana's own files tell of (docs/formats.md)."""
    scenes = document.all("scenes")
    extras = scenes[0].get("extras") if scenes else None
    extra: Any = extras.get("altana") if isinstance(extras, dict) else None
    if not isinstance(extra, dict):
        return
    try:
        ids = {}
        for index, item in enumerate(extra.get("storeys", ())):
            ids[str(item["name"])] = f"storey-{index + 1}"
            raw.storeys.append(Storey(ids[str(item["name"])], str(item["name"]), float(item["elevation_m"])))
        for index, item in enumerate(extra.get("rooms", ())):
            outline = tuple((float(x), float(y)) for x, y in item["outline"])
            if len(outline) >= 3:
                storey = ids.get(str(item["storey"]), "")
                raw.rooms.append(
                    Room(
                        f"room-{index + 1}",
                        str(item["name"]),
                        storey,
                        outline,
                        float(item["floor_m"]),
                        float(item["ceiling_m"]),
                    )
                )
        for part in raw.parts:
            part.storey = ids.get(part.storey, "")
    except (KeyError, TypeError, ValueError):
        raw.storeys.clear()
        raw.rooms.clear()
        raw.problems.append(
            Problem(
                "damaged-extras",
                "The storeys and rooms written in the file cannot be read; storeys are found from its floors.",
            )
        )
