"""OFF: surfaces as text, with the colours of corners and faces that its variants allow (G. Levin and others, Geometry Center, 1986 on)."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from altana.core.errors import UserError
from altana.importers.bare import PLAIN, Bare, Shades, add_bare, as_shades
from altana.importers.folder import ModelFolder
from altana.importers.memory import check_room
from altana.importers.naming import text_of
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
    rows = [list(map(float, next(lines, "").split())) for _ in range(counts[0])]
    if any(len(row) < 3 for row in rows):
        raise ValueError("too few values")
    points = np.array([row[:3] for row in rows], float).reshape(-1, 3)
    normals = np.array([row[3:6] for row in rows], float) if kind.normals else None
    start, ends = (6 if kind.normals else 3), (-2 if kind.places else None)
    colours = _shades([row[start:ends] for row in rows]) if kind.colours else None
    sizes: list[int] = []
    corners: list[int] = []
    painted: list[list[float]] = []
    for _ in range(counts[1]):
        words = next(lines, "").split()
        size = int(words[0])
        if size < 0 or len(words) <= size:
            raise ValueError("too few values")
        sizes.append(size)
        corners.extend(map(int, words[1 : size + 1]))
        painted.append(list(map(float, words[size + 1 :])))
    return Bare(
        points,
        np.array(sizes, np.int64),
        np.array(corners, np.int64),
        normals,
        colours=colours,
        face_colours=_shades(painted) if any(len(row) >= 3 for row in painted) else None,
    )


def _shades(rows: list[list[float]]) -> Shades:
    """(n, 4) colours of three or four numbers, all of 255 or all of one; plain paper where a row has none."""
    most = max((value for row in rows if len(row) >= 3 for value in row[:4]), default=1.0)
    whole = 1.0 if most <= 1.0 else 255.0
    colours = np.tile(np.array(PLAIN) * whole, (len(rows), 1))
    for number, row in enumerate(rows):
        if len(row) >= 3:
            colours[number] = (*row[:3], row[3] if len(row) > 3 else whole)
    return as_shades(colours)
