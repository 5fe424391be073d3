"""CityJSON 1.0 to 2.0: city objects with their most detailed surfaces, and templates that stand in many
places, as trees do."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from altana.core.conventions import Floats
from altana.core.errors import UserError
from altana.core.model import Place, Problem
from altana.importers.cityjson_looks import NESTED, Appearance, Looks, Surface
from altana.importers.folder import ModelFolder
from altana.importers.memory import check_room, check_triangles
from altana.importers.naming import stable_id
from altana.importers.polygons import ear_clipped, triangles_of
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
LINES = "MultiLineString"


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
    city.finish()
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
class _Thing:
    """What a city object is called: id, name and category."""

    key: str
    name: str
    category: str


class _Faces:
    """Faces of many things over one list of points, cut into triangles all at once: a city has hundreds of
    thousands of them."""

    def __init__(self) -> None:
        self._points: list[Floats] = []
        self._total = 0
        self._counts: list[int] = []
        self._corners: list[int] = []
        #: Of each face: the number of its thing, and its material.
        self._owners: list[int] = []
        self._materials: list[int] = []
        #: Places on pictures of the corners of faces, by the number of the face.
        self._uvs: dict[int, Floats] = {}

    def add_points(self, points: Floats) -> int:
        """Points that faces of a group refer to; the number of the first."""
        first = self._total
        self._points.append(points)
        self._total += len(points)
        return first

    def add(self, thing: int, surface: Surface, points: Floats, first: int) -> None:
        """One surface of a thing over the points (n, 3) whose first has this number.  Raises ValueError,
        IndexError or TypeError for damage."""
        numbers = [np.asarray(ring, np.int64) for ring in surface.rings[1:]]
        outer = surface.rings[0]
        if min(outer) < 0 or max(outer) >= len(points):
            raise IndexError
        if not numbers:
            self._put(thing, surface, [first + int(number) for number in outer], surface.uvs)
            return
        # One with holes is cut by itself, and its triangles are faces.
        whole = np.concatenate([np.asarray(outer, np.int64), *numbers])
        if whole.min() < 0 or whole.max() >= len(points):
            raise IndexError
        for cut in ear_clipped(points[np.asarray(outer, np.int64)], [points[ring] for ring in numbers]):
            self._put(
                thing,
                surface,
                (first + whole[cut]).tolist(),
                None if surface.uvs is None else surface.uvs[cut],
            )

    def _put(self, thing: int, surface: Surface, corners: list[int], uvs: Floats | None) -> None:
        if uvs is not None:
            self._uvs[len(self._counts)] = uvs
        self._counts.append(len(corners))
        self._corners += corners
        self._owners.append(thing)
        self._materials.append(surface.material)

    @property
    def triangles(self) -> int:
        """How many triangles it will be."""
        return len(self._corners) - 2 * len(self._counts)

    def parts(self, things: list[_Thing]) -> Iterator[Part]:
        """The triangles of each material of each thing, in the order of the things."""
        if not self._counts:
            return
        points, counts = np.concatenate(self._points), np.array(self._counts, np.int64)
        corners, materials = np.array(self._corners, np.int64), np.array(self._materials, np.int64)
        places, face = triangles_of(points, counts, corners)
        uvs = np.full((len(corners), 2), np.nan)
        first = np.cumsum(counts) - counts
        for number, own_uvs in self._uvs.items():
            uvs[first[number] : first[number] + counts[number]] = own_uvs
        key = np.array(self._owners, np.int64)[face] * (materials.max() + 1) + materials[face]
        order = np.argsort(key, kind="stable")
        for mine in np.split(order, np.flatnonzero(np.diff(key[order])) + 1):
            if not len(mine):
                continue
            thing, flat = things[self._owners[face[mine[0]]]], places[mine].reshape(-1)
            pictured = not np.isnan(uvs[flat[0]]).any()
            yield Part(
                thing.key,
                thing.name,
                thing.category,
                "",
                int(materials[face[mine[0]]]),
                points[corners[flat]],
                np.arange(len(flat)).reshape(-1, 3),
                uvs=uvs[flat] if pictured else None,
            )


class _City:
    """Takes objects into the model.  ``skipped`` : surfaces that are damaged."""

    def __init__(self, tree: dict[str, Any], looks: Looks, raw: RawModel, name: str) -> None:
        templates = tree.get("geometry-templates")
        templates = templates if isinstance(templates, dict) else {}
        self._templates = [item for item in templates.get("templates") or () if isinstance(item, dict)]
        self._template_points = np.asarray(templates.get("vertices-templates") or np.zeros((0, 3)), float)
        self._template_looks = Appearance.of(tree.get("appearance"))
        self._made: dict[int, list[Part]] = {}
        self._looks, self._raw, self._name = looks, raw, name
        self._things: list[_Thing] = []
        self._faces = _Faces()
        self.skipped, self._triangles = 0, 0

    def finish(self) -> None:
        """Put what was taken in into the model.  Raises UserError for too many triangles."""
        check_triangles(self._triangles + self._faces.triangles, self._name)
        self._raw.parts += self._faces.parts(self._things)

    def add(self, group: _Group) -> None:
        """Take in the objects of a group."""
        first = self._faces.add_points(group.points)
        for key, item in group.objects.items():
            if isinstance(item, dict) and not self._is_footprint(item, group.objects):
                self._add(str(key), item, group, first)

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
        shapes = item.get("geometry")
        return [
            shape
            for shape in (shapes if isinstance(shapes, list) else ())
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

    def _add(self, key: str, item: dict[str, Any], group: _Group, first: int) -> None:
        name = str((item.get("attributes") or {}).get("name") or key)
        shapes = self._shapes(item)
        if not shapes:
            self._add_lines(name, item, group)
            return
        shape = max(shapes, key=self._level)
        number = self._template(shape)
        kind = str(item.get("type", "Object")).lstrip("+")
        category = WORDS.get(kind) or re.sub(r"(?<=[a-z])(?=[A-Z])", " ", kind).capitalize()
        thing = _Thing(stable_id(key), name, category)
        if number is None:
            self._things.append(thing)
            self._take(shape, group.appearance, self._faces, group.points, first)
        else:
            self._raw.parts += self._placed(number, shape, group.points, thing)

    def _take(
        self, shape: dict[str, Any], appearance: Appearance, faces: _Faces, points: Floats, first: int
    ) -> None:
        """The surfaces of a shape, of the last thing."""
        for surface in self._looks.surfaces(shape, appearance):
            try:
                faces.add(len(self._things) - 1, surface, points, first)
            except (ValueError, IndexError, TypeError):
                self.skipped += 1

    def _add_lines(self, name: str, item: dict[str, Any], group: _Group) -> None:
        """What is only lines is reference linework; what is neither is counted as not shown."""
        shapes = item.get("geometry")
        for shape in shapes if isinstance(shapes, list) else ():
            try:
                if shape["type"] != LINES:
                    raise KeyError(shape["type"])
                for line in shape["boundaries"]:
                    places = group.points[np.asarray(line, np.int64)]
                    self._raw.add_lines(name, np.stack([places[:-1], places[1:]], axis=1))
            except (KeyError, IndexError, TypeError, ValueError):
                self.skipped += 1

    def _placed(self, number: int, shape: dict[str, Any], points: Floats, thing: _Thing) -> list[Part]:
        """A template where it stands: turned and sized by its matrix, then moved to its place."""
        try:
            matrix = np.asarray(shape.get("transformationMatrix") or np.eye(4).ravel(), float).reshape(4, 4)
            (anchor,) = shape["boundaries"]
            place = points[int(anchor)]
        except (IndexError, KeyError, TypeError, ValueError):
            self.skipped += 1
            return []
        if number not in self._made:
            faces = _Faces()
            self._things.append(thing)
            self._take(
                self._templates[number],
                self._template_looks,
                faces,
                self._template_points,
                faces.add_points(self._template_points),
            )
            self._made[number] = list(faces.parts(self._things))
        self._triangles += sum(len(part.faces) for part in self._made[number])
        check_triangles(self._triangles, self._name)
        mirrored = np.linalg.det(matrix[:3, :3]) < 0.0
        return [
            Part(
                thing.key,
                thing.name,
                thing.category,
                "",
                part.material,
                part.vertices @ matrix[:3, :3].T + matrix[:3, 3] + place,
                part.faces[:, ::-1] if mirrored else part.faces,
                uvs=part.uvs,
            )
            for part in self._made[number]
        ]
