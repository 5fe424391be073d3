"""CityJSON 1.0 to 2.0: city objects with their most detailed surfaces, coloured by what each surface is."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np

from altana.core.conventions import Floats, Ints
from altana.core.errors import UserError
from altana.core.model import Material, Place, Problem
from altana.importers.memory import check_room
from altana.importers.naming import stable_id
from altana.importers.polygons import ear_clipped
from altana.importers.raw import Part, RawModel
from altana.importers.units import settle

#: Colours of surfaces by their meaning, sRGB; a city model mostly has no others.
COLOURS = {
    "RoofSurface": (0.62, 0.38, 0.31),
    "WallSurface": (0.82, 0.79, 0.73),
    "GroundSurface": (0.56, 0.54, 0.50),
    "OuterFloorSurface": (0.60, 0.58, 0.55),
    "OuterCeilingSurface": (0.75, 0.73, 0.70),
    "Window": (0.55, 0.66, 0.72),
    "Door": (0.45, 0.36, 0.28),
    "WaterSurface": (0.30, 0.42, 0.48),
    "TrafficArea": (0.48, 0.48, 0.48),
}
WORDS = {
    "BuildingPart": "Building",
    "TINRelief": "Terrain",
    "PlantCover": "Planting",
    "SolitaryVegetationObject": "Planting",
    "WaterBody": "Water",
}
#: How deep boundaries are nested in each type of geometry, counted in lists above a surface.
NESTED = {"MultiSurface": 1, "CompositeSurface": 1, "Solid": 2, "MultiSolid": 3, "CompositeSolid": 3}


def read_cityjson(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """The objects of a CityJSON file.  Raises UserError."""
    data = path.read_bytes()
    check_room(len(data) * 12, path.name)
    try:
        tree, features = _parsed(data)
    except (ValueError, RecursionError) as error:
        raise UserError(
            f"{path.name} is damaged and cannot be read as CityJSON. Nothing was changed. Export it again, or choose another file."
        ) from error
    if not isinstance(tree, dict) or tree.get("type") != "CityJSON":
        raise UserError(f"{path.name} is no CityJSON file. Nothing was changed. Choose another file.")
    raw = RawModel()
    materials: dict[str, int] = {}
    skipped = 0
    for objects, points in features:
        for key, item in objects.items():
            if isinstance(item, dict):
                skipped += _object(str(key), item, points, raw, materials)
    if skipped:
        raw.problems.append(
            Problem("incomplete", f"{skipped} surfaces are damaged or refer to templates and are not shown.")
        )
    system = str((tree.get("metadata") or {}).get("referenceSystem") or "")
    if system:
        raw.place = Place(origin=(0.0, 0.0, 0.0), grid=system.rsplit("/", 1)[-1] if "/" in system else system)
    settle(raw, unit_m, up, 1.0, "z")
    return raw, []


def _parsed(data: bytes) -> tuple[Any, Iterator[tuple[dict[str, Any], Floats]]]:
    """The tree, and groups of objects with their vertices: one, or one a line in a sequence of features."""
    text = data.decode("utf-8-sig")
    try:
        tree = json.loads(text)
        lines: list[str] = []
    except ValueError:
        first, *lines = text.splitlines()
        tree = json.loads(first)

    def groups() -> Iterator[tuple[dict[str, Any], Floats]]:
        transform = tree.get("transform") or {}
        for part in (tree, *(json.loads(line) for line in lines if line.strip())):
            objects = part.get("CityObjects")
            if isinstance(objects, dict) and objects:
                points = np.asarray(part.get("vertices") or np.zeros((0, 3)), float).reshape(-1, 3)
                points = points * np.asarray(transform.get("scale", (1, 1, 1)), float) + np.asarray(
                    transform.get("translate", (0, 0, 0)), float
                )
                yield objects, points

    return tree, groups()


def _object(key: str, item: dict[str, Any], points: Floats, raw: RawModel, materials: dict[str, int]) -> int:
    shapes = [
        shape
        for shape in item.get("geometry") or ()
        if isinstance(shape, dict) and shape.get("type") in NESTED
    ]
    if not shapes:
        return len(item.get("geometry") or ())
    by_kind: dict[str, list[Ints]] = {}
    skipped = 0
    for kind, rings in _told_surfaces(max(shapes, key=lambda shape: str(shape.get("lod", "0")))):
        try:
            numbers = [np.asarray(ring, np.int64) for ring in rings]
            whole = np.concatenate(numbers)
            if whole.min() < 0 or whole.max() >= len(points):
                raise IndexError
            cut = ear_clipped(points[numbers[0]], [points[ring] for ring in numbers[1:]])
        except (ValueError, IndexError, TypeError):
            skipped += 1
            continue
        by_kind.setdefault(kind, []).append(whole[cut])
    name = str((item.get("attributes") or {}).get("name") or key)
    told = str(item.get("type", "Object")).lstrip("+")
    category = WORDS.get(told) or re.sub(r"(?<=[a-z])(?=[A-Z])", " ", told).capitalize()
    for kind, pieces in by_kind.items():
        used, faces = np.unique(np.concatenate(pieces), return_inverse=True)
        raw.parts.append(
            Part(
                stable_id(key),
                name,
                category,
                "",
                _material(kind, raw, materials),
                points[used],
                faces.reshape(-1, 3),
            )
        )
    return skipped


def _told_surfaces(shape: dict[str, Any]) -> Iterator[tuple[str, Any]]:
    """The surfaces of a shape, each with the word for what it is and its rings of corners."""
    surfaces = shape.get("boundaries") or []
    semantics = shape.get("semantics") or {}
    meanings: Any = semantics.get("values")
    for _ in range(NESTED[shape["type"]] - 1):
        surfaces = [surface for group in surfaces for surface in group]
        meanings = (
            [value for group in meanings for value in (group or [])]
            if isinstance(meanings, list) and all(isinstance(g, list | None.__class__) for g in meanings)
            else meanings
        )
    kinds = [
        str(kind.get("type", "")) if isinstance(kind, dict) else ""
        for kind in semantics.get("surfaces") or ()
    ]
    for number, rings in enumerate(surfaces):
        value = meanings[number] if isinstance(meanings, list) and number < len(meanings) else None
        yield kinds[value] if isinstance(value, int) and 0 <= value < len(kinds) else "", rings


def _material(kind: str, raw: RawModel, materials: dict[str, int]) -> int:
    if kind not in materials:
        materials[kind] = len(raw.materials)
        word = re.sub(r"(?<=[a-z])(?=[A-Z])", " ", kind.lstrip("+")).capitalize() or "Plain"
        raw.materials.append(Material(word, (*COLOURS.get(kind, (0.78, 0.76, 0.72)), 1.0)))
    return materials[kind]
