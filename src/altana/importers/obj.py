"""Wavefront OBJ with its materials: faces of any number of corners, objects and groups, painted vertices,
lines and points.

The whole file is taken apart with array operations: lines are sorted by their first word, and each kind is
read at once.
"""

from __future__ import annotations

import itertools
import warnings
from collections import Counter
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import numpy as np

from altana.core.conventions import Floats, Ints
from altana.core.errors import UserError
from altana.core.model import Problem
from altana.importers.extras import chained, crosses
from altana.importers.folder import ModelFolder
from altana.importers.memory import check_room, check_triangles
from altana.importers.mtl import Library
from altana.importers.naming import Names, category_of, text_of
from altana.importers.number_rows import even_rows
from altana.importers.polygons import triangles_of
from altana.importers.raw import Part, RawModel
from altana.importers.units import settle

#: A file of text takes this many times its size while it is read.
WHILE_READING = 8


@dataclass(slots=True)
class _Faces:
    """Faces of one object, group and material, as they are written: the corners of each in a row."""

    rows: list[str] = field(default_factory=list)
    #: From which face on how many vertices, texture places and normals stood before it, for numbers that
    #: count back.
    before: list[tuple[int, int, int, int]] = field(default_factory=list)
    #: Whether any of them belongs to a smoothing group.
    smooth: bool = False

    def counts(self) -> list[int]:
        """How many corners each face has."""
        return [len(row.split()) for row in self.rows]

    def stood_before(self) -> Ints:
        """(faces, 3) how many vertices, texture places and normals stood before each face."""
        begins = np.array(self.before, np.int64)
        lengths = np.diff(np.append(begins[:, 0], len(self.rows)))
        return np.repeat(begins[:, 1:], lengths, axis=0)


@dataclass(slots=True)
class _Contents:
    vertices: list[str] = field(default_factory=list)
    textures: list[str] = field(default_factory=list)
    normals: list[str] = field(default_factory=list)
    faces: dict[tuple[str, str], _Faces] = field(default_factory=dict)
    lines: list[tuple[str, str, list[str], int]] = field(default_factory=list)
    libraries: list[str] = field(default_factory=list)
    curved: Counter[str] = field(default_factory=Counter)

    def group(self, thing: str, group: str, material: str, smooth: bool) -> _Faces:
        """The faces of a group, new or begun before."""
        faces = self.faces.setdefault((_label(thing, group), material), _Faces())
        faces.smooth |= smooth
        return faces

    def stood(self) -> tuple[int, int, int]:
        """How many vertices, texture places and normals there are so far."""
        return len(self.vertices), len(self.textures), len(self.normals)


def read_obj(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """The parts of an OBJ file and the other files it was read from.  Raises UserError."""
    data = path.read_bytes()
    check_room(len(data) * WHILE_READING, path.name)
    raw, folder = RawModel(), ModelFolder(path)
    contents = _sorted(data)
    library = Library(folder, raw)
    for name in contents.libraries:
        library.read(name)
    points, colours = _vertices(contents.vertices)
    _surfaces(contents, points, colours, library, raw, path.name)
    _drawn(contents, points, raw)
    if contents.curved:
        kinds = ", ".join(f"{count} “{word}”" for word, count in sorted(contents.curved.items()))
        raw.problems.append(
            Problem(
                "incomplete",
                f"Curves and curved surfaces in the file are not shown: {kinds}. Export it as faces.",
            )
        )
    settle(raw, unit_m, up, doubtful_up="y")
    folder.tell(raw)
    return raw, folder.read


CURVED = frozenset({"curv", "curv2", "surf"})


def _sorted(data: bytes) -> _Contents:
    """All lines by their first word; a line that ends in a backslash goes on in the next."""
    text = text_of(data)
    if "\\\n" in text or "\\\r\n" in text:
        text = text.replace("\\\r\n", " ").replace("\\\n", " ")
    result = _Contents()
    thing = group = material = ""
    smooth = False
    current: _Faces | None = None
    #: Whether more vertices, texture places or normals stand before the next face than before the last one of
    #: its group.
    more = True
    for line in text.splitlines():
        word, _, rest = line.strip().partition(" ")
        if word == "v":
            result.vertices.append(rest)
            more = True
        elif word == "f":
            if current is None:
                current, more = result.group(thing, group, material, smooth), True
            if more:
                current.before.append((len(current.rows), *result.stood()))
                more = False
            current.rows.append(rest if "#" not in rest else rest.partition("#")[0])
        elif word == "vt":
            result.textures.append(rest)
            more = True
        elif word == "vn":
            result.normals.append(rest)
            more = True
        elif word in ("o", "g", "usemtl"):
            name = rest.strip()
            thing, group = (name, "") if word == "o" else (thing, name if word == "g" else group)
            material, current = name if word == "usemtl" else material, None
        elif word in ("l", "p"):
            result.lines.append(
                (group or thing or "Lines", word, rest.split("#")[0].split(), len(result.vertices))
            )
        elif word == "s":
            smooth, current = rest.strip().lower() not in ("", "0", "off"), None
        elif word == "mtllib":
            result.libraries.append(rest.strip())
        elif word in CURVED:
            result.curved[word] += 1
        elif "\t" in word:
            # Some writers part words with tabs.
            return _sorted(data.replace(b"\t", b" "))
    return result


def _label(thing: str, group: str) -> str:
    """What a part is called: its group within its object."""
    if not group or group == thing:
        return thing
    return f"{thing} {group}" if thing else group


def _table(rows: list[str], width: int) -> Floats:
    """(n, width) numbers; rows that are shorter are filled with 0, what is no number becomes NaN."""
    even = even_rows(rows, width)
    if even is not None:
        return even
    table = np.zeros((len(rows), width))
    for at, row in enumerate(rows):
        for column, word in enumerate(row.split("#")[0].split()[:width]):
            try:
                table[at, column] = float(word)
            except ValueError:
                table[at, column] = np.nan
    return table


def _vertices(rows: list[str]) -> tuple[Floats, Any]:
    """Places (n, 3), and colours (n, 4) uint8 where the file paints its vertices."""
    if not rows:
        return np.zeros((0, 3)), None
    width = len(rows[0].split())
    if width < 6:
        return _table(rows, max(3, min(width, 4)))[:, :3], None
    table = _table(rows, min(width, 7))
    shades = table[:, -3:]
    if not (np.nan_to_num(shades, nan=-1.0) >= 0).all():
        return table[:, :3], None
    scale = 255.0 if shades.max() <= 1.0 else 1.0
    colours = np.full((len(table), 4), 255, np.uint8)
    colours[:, :3] = np.clip(np.rint(shades * scale), 0, 255)
    return table[:, :3], colours


def _numbers(groups: list[_Faces], counts: Ints, name: str) -> Ints:
    """(corners, 3) numbers of vertex, texture place and normal from 0, -1 where there is none, of all groups
    of faces.  Raises UserError."""
    text = " ".join(itertools.chain.from_iterable(faces.rows for faces in groups))
    try:
        numbers = _written(text, int(counts.sum()))
    except ValueError as error:
        raise UserError(
            f"{name} is damaged: a face names no numbers. Nothing was changed. Export it again, or choose another file."
        ) from error
    # Numbers count from 1, or back from what stood before them.
    corners = numbers - 1
    back = numbers < 0
    if back.any():
        before = np.repeat(np.concatenate([faces.stood_before() for faces in groups]), counts, axis=0)
        corners[back] = before[back] + numbers[back]
    return corners


#: Which of vertex, texture place and normal a corner names, by how many strokes it has, and whether two of
#: them stand together.
WAYS = {(0, False): (0,), (1, False): (0, 1), (2, True): (0, 2), (2, False): (0, 1, 2)}


def _written(text: str, count: int) -> Ints:
    """(count, 3) numbers of corners as they are written, 0 where there is none.  Raises ValueError."""
    numbers = np.zeros((count, 3), np.int64)
    strokes, together = text.count("/"), text.count("//")
    way = WAYS.get((strokes // max(count, 1), together > 0)) if together in (0, count) else None
    if way is not None and strokes % max(count, 1) == 0:
        with warnings.catch_warnings():
            # It stops at what is no number, which is then looked at corner by corner.
            warnings.simplefilter("ignore", DeprecationWarning)
            flat = np.fromstring(text.replace("/", " "), np.int64, sep=" ")
        if len(flat) == count * len(way):
            numbers[:, way] = flat.reshape(count, -1)
            return numbers
    parts = [corner.split("/") for corner in text.split()]
    for column in range(3):
        numbers[:, column] = [
            int(part[column]) if len(part) > column and part[column] else 0 for part in parts
        ]
    return numbers


def _surfaces(
    contents: _Contents, points: Floats, colours: Any, library: Library, raw: RawModel, name: str
) -> None:
    if not contents.faces or not len(points):
        return
    groups = list(contents.faces.values())
    textures, normals = (
        _textures(contents),
        _table(contents.normals, 3) if contents.normals else np.zeros((0, 3)),
    )
    counts = np.array([count for faces in groups for count in faces.counts()], np.int64)
    check_triangles(int(np.maximum(counts - 2, 0).sum()), name)
    corners = _numbers(groups, counts, name)
    sound = (corners[:, 0] >= 0) & (corners[:, 0] < len(points))
    whole = np.ones(len(counts), bool)
    whole[np.repeat(np.arange(len(counts)), counts)[~sound]] = False
    corners[~sound, 0] = 0
    # All at once: a file may have tens of thousands of groups.
    cut, face = triangles_of(points, counts, corners[:, 0])
    cut, face = cut[whole[face]], face[whole[face]]
    ends = np.searchsorted(face, np.cumsum([len(faces.rows) for faces in groups])).tolist()
    names, keys = Names(), dict[str, tuple[str, str]]()
    for ((label, material), faces), start, end in zip(contents.faces.items(), [0, *ends], ends, strict=False):
        if end == start:
            continue
        label = label or "Object"
        if label not in keys:
            keys[label] = names.of(label)
        raw.parts.append(
            _part(
                keys[label],
                library.number(material),
                corners,
                cut[start:end],
                points,
                textures,
                normals,
                colours,
                faces.smooth,
            )
        )
    if not whole.all():
        raw.problems.append(
            Problem(
                "damaged-faces",
                f"{int((~whole).sum())} faces name corners that the file does not have; they were left out.",
            )
        )


def _textures(contents: _Contents) -> Floats:
    if not contents.textures:
        return np.zeros((0, 2))
    return _table(contents.textures, 3 if len(contents.textures[0].split()) > 2 else 2)[:, :2]


def _part(
    label: tuple[str, str],
    material: int,
    corners: Ints,
    cut: Ints,
    points: Floats,
    textures: Floats,
    normals: Floats,
    colours: Any,
    smooth: bool,
) -> Part:
    used = corners[cut.reshape(-1)]
    textured = len(textures) > 0 and bool(((used[:, 1] >= 0) & (used[:, 1] < len(textures))).all())
    shaded = len(normals) > 0 and bool(((used[:, 2] >= 0) & (used[:, 2] < len(normals))).all())
    if shaded or textured:
        keep = used * np.array([1, textured, shaded])
        rows, places = np.unique(keep, axis=0, return_inverse=True)
        faces = places.reshape(-1, 3)
    else:
        numbers, places = np.unique(used[:, 0], return_inverse=True)
        rows, faces = np.column_stack([numbers, numbers, numbers]), places.reshape(-1, 3)
    name, key = label
    return Part(
        key,
        name,
        category_of(name),
        "",
        material,
        points[rows[:, 0]],
        faces,
        normals[rows[:, 2]] if shaded else None,
        textures[rows[:, 1]] if textured else None,
        None if colours is None else colours[rows[:, 0]],
        smooth and not shaded,
    )


def _drawn(contents: _Contents, points: Floats, raw: RawModel) -> None:
    """The ``l`` and ``p`` elements, by the group they stand in."""
    for layer, word, words, before in contents.lines:
        try:
            numbers = [int(item.split("/")[0]) for item in words]
        except ValueError:
            continue
        at = np.array([n - 1 if n > 0 else before + n for n in numbers], np.int64)
        at = at[(at >= 0) & (at < len(points))]
        if word == "p" and len(at):
            raw.add_lines(layer, crosses(points[at]))
        elif len(at) > 1:
            raw.add_lines(layer, chained(points[at]))
