"""PLY: surfaces of any number of corners, strips of triangles, colours by corner or face, pictures, lines and
scans."""

from __future__ import annotations

from pathlib import Path

import numpy as np

from altana.core.conventions import Floats, Ints
from altana.importers.bare import Bare, Shades, add_bare, as_shades
from altana.importers.folder import ModelFolder
from altana.importers.memory import check_room
from altana.importers.ply_elements import Contents, Element, read_elements
from altana.importers.raw import RawModel
from altana.importers.units import settle

#: What writers call the corners of faces, and places on pictures.
CORNERS = ("vertex_indices", "vertex_index")
PLACES = (("texture_u", "texture_v"), ("u", "v"), ("s", "t"), ("texture_s", "texture_t"))
COLOURS = (("red", "green", "blue"), ("diffuse_red", "diffuse_green", "diffuse_blue"), ("r", "g", "b"))
OPACITY = ("alpha", "diffuse_alpha", "a")
#: Colour of a splat seen from all sides alike: the first term of its spherical harmonics, and what that is
#: worth (B. Kerbl and others, 2023).
SPLAT, SPLAT_SHARE = ("f_dc_0", "f_dc_1", "f_dc_2"), 0.28209479177387814
#: In a strip, where another begins.
NEXT_STRIP = -1


def read_ply(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """The surfaces or points of a PLY file and the pictures it was read with.  Raises UserError."""
    data = path.read_bytes()
    check_room(len(data) * 6, path.name)
    contents = read_elements(data, path.name)
    raw, folder = RawModel(), ModelFolder(path)
    vertex = contents.elements.get("vertex")
    points = vertex.columns("x", "y", "z") if vertex is not None else None
    if vertex is not None and points is not None and len(points):
        points = points.astype(float)
        _add_edges(contents.elements.get("edge"), points, path.stem, raw)
        bare = _surfaces(contents, vertex, points)
        if bare is not None:
            add_bare(bare, path.stem, raw, folder)
        elif not raw.lines:
            raw.add_points(path.stem, points, _colours(vertex))
    settle(raw, unit_m, up, 0.0, "")
    folder.tell(raw)
    return raw, folder.read


def _surfaces(contents: Contents, vertex: Element, points: Floats) -> Bare | None:
    """The faces of a file; None where it has none."""
    face, strips = contents.elements.get("face"), contents.elements.get("tristrips")
    if face is not None and face.rows:
        lists = next((face.lists[name] for name in CORNERS if name in face.lists), None)
        if lists is None and len(face.lists) == 1:
            lists = next(iter(face.lists.values()))
        if lists is None:
            raise ValueError("faces without corners")
        counts, corners = lists[0], lists[1].astype(np.int64)
    elif strips is not None and strips.lists:
        face = None
        corners = _stripped(*next(iter(strips.lists.values())))
        counts = np.full(len(corners) // 3, 3, np.int64)
    else:
        return None
    normals = vertex.columns("nx", "ny", "nz")
    numbered = face.values.get("texnumber") if face is not None else None
    return Bare(
        points,
        counts,
        corners,
        normals.astype(float) if normals is not None else None,
        _places(vertex, face, counts, corners) if contents.pictures else None,
        _colours(vertex),
        _colours(face) if face is not None else None,
        numbered.astype(np.int64) if numbered is not None else None,
        contents.pictures,
    )


def _places(vertex: Element, face: Element | None, counts: Ints, corners: Ints) -> Floats | None:
    """(corners, 2) where corners lie on the picture: told by face, or by point."""
    if face is not None and "texcoord" in face.lists:
        many, flat = face.lists["texcoord"]
        if np.array_equal(many, 2 * counts):
            return flat.astype(float).reshape(-1, 2)
    for names in PLACES:
        places = vertex.columns(*names)
        if places is not None:
            there = np.clip(corners, 0, len(places) - 1)
            return places.astype(float)[there]
    return None


def _colours(element: Element) -> Shades | None:
    """(rows, 4) colours of an element, None where it has none."""
    for names in COLOURS:
        colours = element.columns(*names)
        if colours is not None:
            clear = next((element.values[name] for name in OPACITY if name in element.values), None)
            return as_shades(colours if clear is None else np.column_stack([colours, clear]))
    splat = element.columns(*SPLAT)
    if splat is not None:
        return as_shades(np.clip(0.5 + SPLAT_SHARE * np.nan_to_num(splat.astype(float)), 0.0, 1.0))
    return None


def _stripped(counts: Ints, numbers: Ints) -> Ints:
    """(3 m,) corners of triangles from strips, in which every second triangle is wound the other way."""
    pieces = []
    ends = np.cumsum(counts)
    for start, end in zip(ends - counts, ends, strict=True):
        strip = numbers[start:end].astype(np.int64)
        for run in np.split(strip, np.flatnonzero(strip == NEXT_STRIP)):
            run = run[run != NEXT_STRIP]
            if len(run) < 3:
                continue
            triangles = np.stack([run[:-2], run[1:-1], run[2:]], axis=1)
            triangles[1::2] = triangles[1::2, [1, 0, 2]]
            pieces.append(triangles)
    whole = np.concatenate(pieces) if pieces else np.zeros((0, 3), np.int64)
    a, b, c = whole.T
    flat: Ints = whole[(a != b) & (b != c) & (a != c)].reshape(-1)
    return flat


def _add_edges(edge: Element | None, points: Floats, name: str, raw: RawModel) -> None:
    """Edges that stand in the file by themselves are reference linework."""
    ends = edge.columns("vertex1", "vertex2") if edge is not None else None
    if ends is not None and len(ends):
        ends = ends.astype(np.int64)
        sound = ((ends >= 0) & (ends < len(points))).all(axis=1)
        raw.add_lines(name, points[ends[sound]])
