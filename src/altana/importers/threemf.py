"""3MF: objects put together from others, with colours by face or corner and pictures (3D Manufacturing
Format, core and materials)."""

from __future__ import annotations

import posixpath
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, NamedTuple

import numpy as np
from lxml import etree

from altana.core.conventions import Floats, Ints
from altana.core.distinct import distinct
from altana.core.errors import UserError
from altana.core.model import CLAMP, MIRROR, OPAQUE, REPEAT, Material
from altana.importers.bare import PLAIN
from altana.importers.copying import Copies
from altana.importers.finish import kind_of
from altana.importers.memory import check_archive, check_room
from altana.importers.naming import Names, category_of
from altana.importers.pictures import keep_picture
from altana.importers.raw import Part, RawModel
from altana.importers.units import settle

#: Metres of the units that a file may name.
UNITS = {"micron": 1e-6, "millimeter": 1e-3, "centimeter": 1e-2, "inch": 0.0254, "foot": 0.3048, "meter": 1.0}
RELATIONS = "_rels/.rels"
USUAL_MODEL = "3D/3dmodel.model"
#: Objects within objects are followed so deep; the format allows no circles.
DEEPEST = 30
#: So many objects are placed; a small file may double them at every step.
MOST_PLACED = 500_000
#: What is printed along and thrown away is no part of the thing.
PROPS = ("support", "solidsupport", "other")
WRAPS = {"wrap": REPEAT, "mirror": MIRROR, "clamp": CLAMP, "none": CLAMP}
PART_OF = "{http://schemas.microsoft.com/3dmanufacturing/production/2015/06}path"


class Key(NamedTuple):
    """A resource: the part of the archive it stands in, and its number there."""

    part: str
    number: str


@dataclass(slots=True)
class _Mesh:
    """points (n, 3), faces (m, 3); for each face which palette it is painted from, "" for none, and which of
    its colours lie on its corners."""

    points: Floats
    faces: Ints
    palettes: list[str]
    chosen: Ints


@dataclass(slots=True)
class _Object:
    name: str
    kind: str
    mesh: _Mesh | None = None
    #: Others that it is put together from, and where they stand.
    members: list[tuple[Key, Floats]] = field(default_factory=list)


@dataclass(slots=True)
class _Palette:
    """Colours (n, 4) with their names, or places (n, 2) on a picture of the archive."""

    names: list[str] = field(default_factory=list)
    colours: list[tuple[float, ...]] = field(default_factory=list)
    places: list[tuple[float, float]] = field(default_factory=list)
    picture: str = ""


@dataclass(slots=True)
class _Contents:
    unit: str = "millimeter"
    objects: dict[Key, _Object] = field(default_factory=dict)
    palettes: dict[Key, _Palette] = field(default_factory=dict)
    #: Pictures by number: their name in the archive and how they go on beyond their edges.
    pictures: dict[Key, tuple[str, str]] = field(default_factory=dict)
    built: list[tuple[Key, Floats]] = field(default_factory=list)


def read_3mf(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """The things that a 3MF file builds.  Raises UserError."""
    check_archive(path, path.name)
    raw = RawModel()
    with zipfile.ZipFile(path) as archive:
        contents = _read(archive, path.name)
        maker = _Maker(archive, contents, raw, path.name)
        for key, matrix in contents.built:
            maker.build(key, matrix)
        maker.copies.settle()
    settle(raw, unit_m, up, UNITS.get(contents.unit, 1e-3), "z")
    return raw, []


def _read(archive: zipfile.ZipFile, name: str) -> _Contents:
    """All resources of all parts that what is built refers to."""
    contents, first = _Contents(), _first_part(archive)
    waiting, seen = [first], set[str]()
    there = set(archive.namelist())
    while waiting:
        part = waiting.pop()
        if part in seen or part not in there:
            continue
        seen.add(part)
        with archive.open(part) as file:
            for element in _elements(file):
                _take(element, part, part == first, contents, name)
        waiting += [
            key.part
            for thing in contents.objects.values()
            for key, _ in thing.members
            if key.part not in seen
        ]
        waiting += [key.part for key, _ in contents.built if key.part not in seen]
    return contents


def _first_part(archive: zipfile.ZipFile) -> str:
    """The part in which the archive says its model stands."""
    try:
        with archive.open(RELATIONS) as file:
            for relation in etree.parse(file, _parser()).getroot():
                if str(relation.get("Type", "")).endswith("/3dmodel"):
                    return _part_name(str(relation.get("Target", "")))
    except KeyError:
        pass
    return USUAL_MODEL


def _part_name(target: str) -> str:
    return posixpath.normpath(target).lstrip("/")


def _parser() -> etree.XMLParser:
    return etree.XMLParser(resolve_entities=False, no_network=True, load_dtd=False)


def _elements(file: Any) -> Iterator[Any]:
    """The root as it begins, then each resource and each built item once it is whole; they are forgotten
    afterwards."""
    wanted = ("object", "basematerials", "colorgroup", "texture2dgroup", "texture2d", "item")
    walk = etree.iterparse(
        file, events=("start", "end"), resolve_entities=False, no_network=True, load_dtd=False, huge_tree=True
    )
    begun = False
    for event, element in walk:
        if event == "start":
            if not begun:
                begun = True
                yield element
        elif isinstance(element.tag, str) and _word(element) in wanted:
            yield element
            element.clear(keep_tail=False)


def _word(element: Any) -> str:
    """What an element is, without the address of its words."""
    return str(etree.QName(element).localname)


def _take(element: Any, part: str, first: bool, contents: _Contents, name: str) -> None:
    word, key = _word(element), Key(part, str(element.get("id", "")))
    if word == "model" and first:
        contents.unit = str(element.get("unit", contents.unit))
    elif word == "object":
        contents.objects[key] = _object(element, part, name)
    elif word == "basematerials":
        contents.palettes[key] = _Palette(
            [str(base.get("name") or "") for base in element],
            [_colour(str(base.get("displaycolor", ""))) for base in element],
        )
    elif word == "colorgroup":
        colours = [_colour(str(one.get("color", ""))) for one in element]
        contents.palettes[key] = _Palette([""] * len(colours), colours)
    elif word == "texture2dgroup":
        places = [(float(one.get("u", 0)), float(one.get("v", 0))) for one in element]
        contents.palettes[key] = _Palette(places=places, picture=str(element.get("texid", "")))
    elif word == "texture2d":
        part_name = _part_name(str(element.get("path", "")))
        contents.pictures[key] = part_name, WRAPS.get(str(element.get("tilestyleu", "wrap")), REPEAT)
    elif word == "item" and first:
        contents.built.append(_placed(element, part))


def _placed(element: Any, part: str) -> tuple[Key, Floats]:
    other = element.get(PART_OF)
    key = Key(_part_name(str(other)) if other else part, str(element.get("objectid", "")))
    return key, _matrix(str(element.get("transform") or ""))


def _matrix(text: str) -> Floats:
    """(4, 4) from twelve numbers, row by row as the format has them, for rows of points."""
    matrix = np.eye(4)
    if text:
        matrix[:, :3] = np.array([float(word) for word in text.split()], float).reshape(4, 3)
    return matrix


def _colour(text: str) -> tuple[float, ...]:
    """#RRGGBB or #RRGGBBAA as four shares of one, sRGB."""
    digits = text.lstrip("#")
    if len(digits) not in (6, 8):
        return PLAIN
    values = tuple(int(digits[at : at + 2], 16) / 255.0 for at in range(0, len(digits), 2))
    return values if len(values) == 4 else (*values, 1.0)


def _object(element: Any, part: str, name: str) -> _Object:
    thing = _Object(
        str(element.get("name") or f"Object {element.get('id', '')}"), str(element.get("type", "model"))
    )
    usual = str(element.get("pid") or ""), int(element.get("pindex") or 0)
    for inner in element:
        if not isinstance(inner.tag, str):
            continue
        if _word(inner) == "mesh":
            thing.mesh = _mesh(inner, usual, name)
        elif _word(inner) == "components":
            thing.members = [_placed(one, part) for one in inner if isinstance(one.tag, str)]
    return thing


def _mesh(element: Any, usual: tuple[str, int], name: str) -> _Mesh:
    lists = {_word(inner): inner for inner in element if isinstance(inner.tag, str)}
    corners, triangles = lists["vertices"], lists["triangles"]
    check_room((len(corners) + len(triangles)) * 200, name)
    points = np.array([[float(one.get(axis)) for axis in "xyz"] for one in corners], float).reshape(-1, 3)
    faces, palettes, chosen = [], [], []
    for one in triangles:
        faces.append([int(one.get(word)) for word in ("v1", "v2", "v3")])
        own = one.get("pid")
        palettes.append(usual[0] if own is None else str(own))
        lead = one.get("p1")
        first = usual[1] if lead is None else int(lead)
        chosen.append([first, int(one.get("p2") or first), int(one.get("p3") or first)])
    faces_array = np.array(faces, np.int64).reshape(-1, 3)
    if faces_array.size and (faces_array.min() < 0 or faces_array.max() >= len(points)):
        raise ValueError("a face names a corner that is not there")
    return _Mesh(points, faces_array, palettes, np.array(chosen, np.int64).reshape(-1, 3))


class _Maker:
    """Puts what is built into the model."""

    def __init__(self, archive: zipfile.ZipFile, contents: _Contents, raw: RawModel, name: str) -> None:
        self._archive, self._contents, self._raw, self._name = archive, contents, raw, name
        self._names, self._placed = Names(), 0
        self.copies = Copies(name)
        self._materials: dict[tuple[str, tuple[float, ...], int, str], int] = {}
        self._images: dict[str, int] = {}

    def build(self, key: Key, matrix: Floats, deep: int = 0) -> None:
        """One object where it stands, and all that it is put together from.  Raises UserError for too many
        triangles."""
        thing = self._contents.objects.get(key)
        if thing is None or thing.kind in PROPS:
            return
        self._placed += 1
        if deep > DEEPEST or self._placed > MOST_PLACED:
            raise UserError(
                f"{self._name} is damaged: its parts are nested without end. Nothing was changed. Export it again."
            )
        for inner, place in thing.members:
            self.build(inner, place @ matrix, deep + 1)
        if thing.mesh is not None and len(thing.mesh.faces):
            mesh, (name, number) = thing.mesh, self._names.of(thing.name)
            self.copies.read(key, lambda: self._parts(mesh, key.part, name))
            # Rows of points in the format, columns here.
            self._raw.parts += self.copies.of(key, (number, name, category_of(name), ""), matrix.T)

    def _parts(self, mesh: _Mesh, part: str, name: str) -> Iterator[Part]:
        """The surfaces of an object as they lie in it."""
        points, palettes = mesh.points, np.array(mesh.palettes)
        for palette_id in dict.fromkeys(mesh.palettes):
            mine = palettes == palette_id
            palette = self._contents.palettes.get(Key(part, palette_id))
            faces, chosen = mesh.faces[mine], mesh.chosen[mine]
            if palette is not None and palette.places:
                yield self._pictured(points[faces.ravel()], palette, chosen, part, name)
            elif palette is not None and palette.colours:
                yield from self._painted(points, faces, palette, chosen, name)
            else:
                yield _part(points, faces, self._material("Plain", PLAIN))

    def _painted(
        self, points: Floats, faces: Ints, palette: _Palette, chosen: Ints, called: str
    ) -> Iterator[Part]:
        count = len(palette.colours)
        chosen = np.where((chosen >= 0) & (chosen < count), chosen, 0)
        plain = (chosen == chosen[:, :1]).all(axis=1)
        for number in distinct(chosen[plain, 0]).tolist():
            # Of one colour all over.
            mine = plain & (chosen[:, 0] == number)
            name = palette.names[number] or called
            yield _part(points, faces[mine], self._material(name, palette.colours[number]))
        if not plain.all():
            shades = np.round(np.array(palette.colours)[chosen[~plain].ravel()] * 255.0).astype(np.uint8)
            material = self._material("Painted", (1.0, 1.0, 1.0, 1.0))
            yield _part(points[faces[~plain].ravel()], None, material, shades=shades)

    def _pictured(self, corners: Floats, palette: _Palette, chosen: Ints, part: str, called: str) -> Part:
        inside, wraps = self._contents.pictures.get(Key(part, palette.picture), ("", REPEAT))
        if inside not in self._images:
            data = self._archive.read(inside) if inside in self._archive.namelist() else None
            self._images[inside] = keep_picture(self._raw, posixpath.basename(inside), data)
        chosen = np.where((chosen >= 0) & (chosen < len(palette.places)), chosen, 0)
        material = self._material(called, (1.0, 1.0, 1.0, 1.0), self._images[inside], wraps)
        return _part(corners, None, material, uvs=np.array(palette.places)[chosen.ravel()])

    def _material(self, name: str, colour: tuple[float, ...], image: int = -1, wraps: str = REPEAT) -> int:
        key = name, colour, image, wraps
        if key not in self._materials:
            self._materials[key] = len(self._raw.materials)
            r, g, b, a = colour
            kind = kind_of(name, a, image >= 0)
            self._raw.materials.append(
                Material(name, (r, g, b, a), image, kind=kind, alpha=OPAQUE, wraps=(wraps, wraps))
            )
        return self._materials[key]


def _part(
    points: Floats, faces: Ints | None, material: int, uvs: Floats | None = None, shades: Any = None
) -> Part:
    """One part, of nobody yet; without ``faces`` each three points are one."""
    if faces is None:
        faces = np.arange(len(points)).reshape(-1, 3)
    else:
        used, index = np.unique(faces, return_inverse=True)
        points, faces = points[used], index.reshape(-1, 3)
    return Part("", "", "", "", material, points, faces, None, uvs, shades)
