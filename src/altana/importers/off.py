"""OFF: surfaces as text, with the colours of corners and faces that its variants allow (G. Levin and others,
Geometry Center, 1986 on)."""

from __future__ import annotations

import itertools
import re
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from altana.core.conventions import Floats, Ints
from altana.core.errors import UserError
from altana.importers.bare import PLAIN, Bare, Shades, add_bare, as_shades
from altana.importers.folder import ModelFolder
from altana.importers.memory import check_room
from altana.importers.naming import text_of
from altana.importers.number_rows import even_rows
from altana.importers.raw import RawModel
from altana.importers.units import settle

#: Letters before the word: places on a picture, colours, directions, four or any number of coordinates.
KEY = re.compile(r"(ST)?(C)?(N)?(4)?(n)?OFF\b\s*(BINARY)?")


@dataclass(frozen=True, slots=True)
class _Kind:
    """What stands in the line of a corner after its place."""

    colours: bool
    normals: bool
    places: bool


def read_off(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """The surfaces of an OFF file.  Raises UserError."""
    data = path.read_bytes()
    check_room(len(data) * 12, path.name)
    text = re.sub(r"#[^\n]*", "", text_of(data)).strip()
    key = KEY.match(text)
    if key is not None and (key[4] or key[5] or key[6]):
        raise UserError(
            f"{path.name} is an OFF file of numbers or of other than three dimensions, which Altana does not read. "
            "Nothing was changed. Export it as plain OFF."
        )
    raw, folder = RawModel(), ModelFolder(path)
    lines = (line for line in text[key.end() if key else 0 :].splitlines() if line.strip())
    kind = _Kind(bool(key and key[2]), bool(key and key[3]), bool(key and key[1]))
    add_bare(_read(lines, kind, path.name), path.stem, raw, folder)
    settle(raw, unit_m, up, 0.0, "")
    return raw, folder.read


def _read(lines: Iterator[str], kind: _Kind, name: str) -> Bare:
    """Raises UserError for more than there is room for, ValueError for damage."""
    counts = [int(word) for word in next(lines, "").split()[:2]]
    if len(counts) < 2 or min(counts) < 0:
        raise ValueError("counts")
    check_room((counts[0] + counts[1]) * 64, name)
    corner_lines, face_lines = (list(itertools.islice(lines, count)) for count in counts)
    rows = _rows(corner_lines)
    shortest = rows.shape[1] if isinstance(rows, np.ndarray) else min(map(len, rows))
    if [len(corner_lines), len(face_lines)] != counts or (counts[0] and shortest < 3):
        raise ValueError("too few values")
    points = _columns(rows, 0, 3)
    normals = _columns(rows, 3, 6) if kind.normals else None
    colours = _painted(rows, kind) if kind.colours else None
    sizes, corners, face_colours = _faces(face_lines)
    return Bare(points, sizes, corners, normals, colours=colours, face_colours=face_colours)


Rows = Floats | list[list[float]]


def _rows(lines: list[str]) -> Rows:
    """The numbers of lines: a table where all have as many.  Raises ValueError."""
    table = even_rows(lines)
    return table if table is not None else [list(map(float, line.split())) for line in lines]


def _columns(rows: Rows, start: int, end: int) -> Floats:
    """(n, end - start) some columns of rows."""
    if isinstance(rows, np.ndarray):
        return rows[:, start:end]
    return np.array([row[start:end] for row in rows], float).reshape(-1, end - start)


def _painted(rows: Rows, kind: _Kind) -> Shades:
    """What the corners are painted with, after their place and direction, before their place on a picture."""
    start, ends = (6 if kind.normals else 3), (-2 if kind.places else None)
    if isinstance(rows, np.ndarray) and rows[:, start:ends].shape[1] >= 3:
        return _shades(rows[:, start:ends])
    return _shades([list(row[start:ends]) for row in rows])


def _faces(lines: list[str]) -> tuple[Ints, Ints, Shades | None]:
    """How many corners each face has, all corners in a row, and what the faces are painted with.  Raises
    ValueError."""
    table = even_rows(lines)
    size = int(table[0, 0]) if table is not None and table.size and np.isfinite(table).all() else -1
    if table is not None and 0 <= size < table.shape[1] and (table[:, 0] == size).all():
        corners = table[:, 1 : size + 1].astype(np.int64).ravel()
        paint = table[:, size + 1 :]
        return np.full(len(lines), size, np.int64), corners, _shades(paint) if paint.shape[1] >= 3 else None
    sizes: list[int] = []
    every: list[int] = []
    painted: list[list[float]] = []
    for line in lines:
        words = line.split()
        size = int(words[0])
        if size < 0 or len(words) <= size:
            raise ValueError("too few values")
        sizes.append(size)
        every.extend(map(int, words[1 : size + 1]))
        painted.append(list(map(float, words[size + 1 :])))
    shades = _shades(painted) if any(len(row) >= 3 for row in painted) else None
    return np.array(sizes, np.int64), np.array(every, np.int64), shades


def _shades(rows: Rows) -> Shades:
    """(n, 4) colours of three or four numbers, all of 255 or all of one; plain paper where a row has none."""
    if isinstance(rows, np.ndarray):
        values = rows[:, :4]
        whole = 1.0 if values.max(initial=1.0) <= 1.0 else 255.0
        opaque = np.full((len(values), 4 - values.shape[1]), whole)
        return as_shades(np.column_stack([values, opaque]))
    most = max((value for row in rows if len(row) >= 3 for value in row[:4]), default=1.0)
    whole = 1.0 if most <= 1.0 else 255.0
    colours = np.tile(np.array(PLAIN) * whole, (len(rows), 1))
    for number, row in enumerate(rows):
        if len(row) >= 3:
            colours[number] = (*row[:3], row[3] if len(row) > 3 else whole)
    return as_shades(colours)
