"""CityJSON 1.0 to 2.0: city objects with their most detailed surfaces, and templates that stand in many places, as trees do."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from altana.core.conventions import Floats, Ints
from altana.core.errors import UserError
from altana.core.model import Place, Problem
from altana.importers.cityjson_looks import NESTED, Appearance, Looks
from altana.importers.folder import ModelFolder
from altana.importers.memory import check_room, check_triangles
from altana.importers.naming import stable_id
from altana.importers.polygons import ear_clipped
from altana.importers.raw import Part, RawModel
from altana.importers.units import settle

WORDS = {
    "BuildingPart": "Building",
    "TINRelief": "Terrain",
    "PlantCover": "Planting",
    "SolitaryVegetationObject": "Planting",
    "WaterBody": "Water",
}
INSTANCE = "GeometryInstance"
#: Lines in each type of geometry: how deep they are nested.
LINES = {"MultiLineString": 1}


def read_cityjson(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """The objects of a CityJSON file, and the pictures it was read with.  Raises UserError."""
    data = path.read_bytes()
    check_room(len(data) * 12, path.name)
    try:
        tree, groups = _parsed(data)
    except (ValueError, RecursionError) as error:
        raise UserError(
            f"{path.name} is damaged and cannot be read as CityJSON. Nothing was changed. Export it again, or choose another file."
        ) from error
    if not isinstance(tree, dict) or tree.get("type") != "CityJSON":
        raise UserError(f"{path.name} is no CityJSON file. Nothing was changed. Choose another file.")
    raw, folder = RawModel(), ModelFolder(path)
    city = _City(tree, Looks(raw, folder), raw, path.name)
    for group in groups:
        city.add(group)
    if city.skipped:
        raw.problems.append(Problem("incomplete", f"{city.skipped} surfaces are damaged and are not shown."))
    system = str((tree.get("metadata") or {}).get("referenceSystem") or "")
    if system:
        raw.place = Place(origin=(0.0, 0.0, 0.0), grid=system.rsplit("/", 1)[-1] if "/" in system else system)
    settle(raw, unit_m, up, 1.0, "z")
    folder.tell(raw)
    return raw, folder.read


@dataclass(frozen=True, slots=True)
class _Group:
    """Objects with their vertices (n, 3) and looks: those of a file, or of one feature of a sequence."""

    objects: dict[str, Any]
    points: Floats
    appearance: Appearance


def _parsed(data: bytes) -> tuple[Any, Iterator[_Group]]:
    """The tree, and groups of objects: one, or one a line in a sequence of features."""
    text = data.decode("utf-8-sig")
    try:
        tree = json.loads(text)
        lines: list[str] = []
    except ValueError:
        first, *lines = text.splitlines()
        tree = json.loads(first)

    def groups() -> Iterator[_Group]:
        transform = tree.get("transform") or {}
        for part in (tree, *(json.loads(line) for line in lines if line.strip())):
            objects = part.get("CityObjects")
            if isinstance(objects, dict) and objects:
                points = np.asarray(part.get("vertices") or np.zeros((0, 3)), float).reshape(-1, 3)
                points = points * np.asarray(transform.get("scale", (1, 1, 1)), float) + np.asarray(
                    transform.get("translate", (0, 0, 0)), float
                )
                yield _Group(objects, points, Appearance.of(part.get("appearance")))

    return tree, groups()


@dataclass(frozen=True, slots=True)
class _Piece:
    """The triangles of one material of a shape: corners (n, 3), faces (m, 3) and places on the picture (n, 2), or None."""

    material: int
    corners: Floats
    faces: Ints
    uvs: Floats | None


class _City:
    """Takes objects into the model.  ``skipped`` : surfaces that are damaged."""

    def __init__(self, tree: dict[str, Any], looks: Looks, raw: RawModel, name: str) -> None:
        told = tree.get("geometry-templates")
        told = told if isinstance(told, dict) else {}
        self._templates = [item for item in told.get("templates") or () if isinstance(item, dict)]
        self._template_points = np.asarray(told.get("vertices-templates") or np.zeros((0, 3)), float)
        self._template_looks = Appearance.of(tree.get("appearance"))
        self._made: dict[int, list[_Piece]] = {}
        self._looks, self._raw, self._name = looks, raw, name
        self.skipped, self._triangles = 0, 0

    def add(self, group: _Group) -> None:
        """Take in the objects of a group."""
        for key, item in group.objects.items():
            if isinstance(item, dict) and not self._is_footprint(item, group.objects):
                self._add(str(key), item, group)

    def _is_footprint(self, item: dict[str, Any], objects: dict[str, Any]) -> bool:
        """Whether something is only the outline, on the ground, of what its own parts show whole."""
        levels = [self._level(shape) for shape in self._shapes(item)]
        if not levels or max(levels) >= "1":
            return False
        parts = (objects.get(str(key)) for key in item.get("children") or ())
        return any(
            self._level(shape) >= "1"
            for part in parts
            if isinstance(part, dict)
            for shape in self._shapes(part)
        )

    def _shapes(self, item: dict[str, Any]) -> list[dict[str, Any]]:
        told = item.get("geometry")
        return [
            shape
            for shape in (told if isinstance(told, list) else ())
            if isinstance(shape, dict) and (shape.get("type") in NESTED or self._template(shape) is not None)
        ]

    def _template(self, shape: dict[str, Any]) -> int | None:
        number = shape.get("template")
        if shape.get("type") != INSTANCE or not isinstance(number, int):
            return None
        there = 0 <= number < len(self._templates) and self._templates[number].get("type") in NESTED
        return number if there else None

    def _level(self, shape: dict[str, Any]) -> str:
        """The level of detail of a shape, or of the template that it shows."""
        number = self._template(shape)
        return str((shape if number is None else self._templates[number]).get("lod", "0"))

    def _add(self, key: str, item: dict[str, Any], group: _Group) -> None:
        name = str((item.get("attributes") or {}).get("name") or key)
        shapes = self._shapes(item)
        if not shapes:
            self._add_lines(name, item, group)
            return
        shape = max(shapes, key=self._level)
        number = self._template(shape)
        if number is None:
            pieces = self._pieces(shape, group.points, group.appearance)
        else:
            pieces = self._placed(number, shape, group.points)
        told = str(item.get("type", "Object")).lstrip("+")
        category = WORDS.get(told) or re.sub(r"(?<=[a-z])(?=[A-Z])", " ", told).capitalize()
        for piece in pieces:
            self._triangles += len(piece.faces)
            check_triangles(self._triangles, self._name)
            self._raw.parts.append(
                Part(
                    stable_id(key),
                    name,
                    category,
                    "",
                    piece.material,
                    piece.corners,
                    piece.faces,
                    uvs=piece.uvs,
                )
            )

    def _add_lines(self, name: str, item: dict[str, Any], group: _Group) -> None:
        """What is only lines is reference linework; what is neither is counted as not shown."""
        told = item.get("geometry")
        for shape in told if isinstance(told, list) else ():
            try:
                if shape["type"] not in LINES:
                    raise KeyError(shape["type"])
                for line in shape["boundaries"]:
                    places = group.points[np.asarray(line, np.int64)]
                    self._raw.add_lines(name, np.stack([places[:-1], places[1:]], axis=1))
            except (KeyError, IndexError, TypeError, ValueError):
                self.skipped += 1

    def _placed(self, number: int, shape: dict[str, Any], points: Floats) -> list[_Piece]:
        """A template where it stands: turned and sized by its matrix, then moved to its place."""
        try:
            matrix = np.asarray(shape.get("transformationMatrix") or np.eye(4).ravel(), float).reshape(4, 4)
            (anchor,) = shape["boundaries"]
            place = points[int(anchor)]
        except (IndexError, KeyError, TypeError, ValueError):
            self.skipped += 1
            return []
        if number not in self._made:
            self._made[number] = self._pieces(
                self._templates[number], self._template_points, self._template_looks
            )
        mirrored = np.linalg.det(matrix[:3, :3]) < 0.0
        return [
            _Piece(
                piece.material,
                piece.corners @ matrix[:3, :3].T + matrix[:3, 3] + place,
                piece.faces[:, ::-1] if mirrored else piece.faces,
                piece.uvs,
            )
            for piece in self._made[number]
        ]

    def _pieces(self, shape: dict[str, Any], points: Floats, appearance: Appearance) -> list[_Piece]:
        """The triangles of a shape by material."""
        by_material: dict[tuple[int, bool], list[tuple[Ints, Floats | None]]] = {}
        for surface in self._looks.surfaces(shape, appearance):
            try:
                numbers = [np.asarray(ring, np.int64) for ring in surface.rings]
                whole = np.concatenate(numbers)
                if whole.min() < 0 or whole.max() >= len(points):
                    raise IndexError
                cut = ear_clipped(points[numbers[0]], [points[ring] for ring in numbers[1:]])
            except (ValueError, IndexError, TypeError):
                self.skipped += 1
                continue
            uvs = None if surface.uvs is None else surface.uvs[cut.ravel()]
            by_material.setdefault((surface.material, uvs is not None), []).append((whole[cut], uvs))
        made = []
        for (material, pictured), found in by_material.items():
            faces = np.concatenate([one for one, _ in found])
            if pictured:
                # A corner lies elsewhere on the picture in each surface.
                uvs = np.concatenate([one for _, one in found if one is not None])
                own = np.arange(faces.size).reshape(-1, 3)
                made.append(_Piece(material, points[faces.ravel()], own, uvs))
                continue
            used, index = np.unique(faces, return_inverse=True)
            made.append(_Piece(material, points[used], index.reshape(-1, 3), None))
        return made
