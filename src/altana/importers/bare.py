"""Bare surfaces as PLY and OFF hold them: corners, faces of any number of corners, colours, and pictures told
by bare names."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Floats, Ints
from altana.core.distinct import distinct
from altana.core.model import OPAQUE, Material, Problem
from altana.importers.finish import kind_of
from altana.importers.folder import ModelFolder
from altana.importers.memory import check_triangles
from altana.importers.naming import Names, category_of
from altana.importers.pictures import keep_picture
from altana.importers.polygons import triangles_of
from altana.importers.raw import Part, RawModel

PLAIN = (0.78, 0.76, 0.72, 1.0)
Shades = npt.NDArray[np.uint8]


@dataclass(slots=True)
class Bare:
    """Faces over points.

    points : (n, 3).  counts : (f,) corners of each face.  corners : (sum of counts,) point numbers, face
    after face.
    normals : (n, 3) or None.  uvs : (corners, 2) places on a picture, or None.  colours : (n, 4) of points or
    None.
    face_colours : (f, 4) or None.  face_picture : (f,) which of ``pictures`` lies on each face, or None for
    the first.
    """

    points: Floats
    counts: Ints
    corners: Ints
    normals: Floats | None = None
    uvs: Floats | None = None
    colours: Shades | None = None
    face_colours: Shades | None = None
    face_picture: Ints | None = None
    pictures: list[str] = field(default_factory=list)


def add_bare(bare: Bare, label: str, raw: RawModel, folder: ModelFolder) -> None:
    """Put bare surfaces into a model as one object of that name.  Raises UserError where there are too
    many."""
    sound = _sound(bare, raw)
    check_triangles(int(np.maximum(bare.counts - 2, 0).sum()), label)
    kept = np.flatnonzero(np.repeat(sound, bare.counts))
    places, owner = triangles_of(bare.points, np.where(sound, bare.counts, 0), bare.corners[kept])
    # Among all corners again, not among those that were kept.
    places = kept[places]
    if not len(places):
        return
    images = [
        keep_picture(raw, name, folder.bytes_of(name))
        for name in (bare.pictures if bare.uvs is not None else ())
    ]
    chosen = np.zeros(len(owner), np.int64) if bare.face_picture is None else bare.face_picture[owner]
    name, key = Names().of(label)
    for number in distinct(chosen).tolist():
        image = images[number] if 0 <= number < len(images) else -1
        mine = chosen == number
        _add(bare, (name, key), places[mine], owner[mine], image, raw)


def _sound(bare: Bare, raw: RawModel) -> npt.NDArray[np.bool_]:
    """(f,) which faces name only corners that there are; how many others there are is said."""
    bad = (bare.corners < 0) | (bare.corners >= len(bare.points))
    owner = np.repeat(np.arange(len(bare.counts)), bare.counts)
    sound = np.ones(len(bare.counts), bool)
    sound[owner[bad]] = False
    if not sound.all():
        raw.problems.append(
            Problem(
                "bad-faces",
                f"{int((~sound).sum())} faces name corners that the file does not have; they were left out.",
            )
        )
    return sound


def _add(bare: Bare, label: tuple[str, str], places: Ints, owner: Ints, image: int, raw: RawModel) -> None:
    """One part: its triangles as ``places`` (m, 3) in the corners, and (m,) the faces that they come from."""
    faces = bare.corners[places]
    painted = None if image >= 0 else bare.colours
    own: Any = None
    if image < 0 and painted is None and bare.face_colours is not None:
        own = np.repeat(bare.face_colours[owner], 3, axis=0)
    colour, painted, own = _alike(painted, own)
    name, key = label
    raw.materials.append(
        Material(
            "Plain" if painted is not None or own is not None or (colour == PLAIN and image < 0) else name,
            (1.0, 1.0, 1.0, 1.0) if image >= 0 else colour,
            image,
            kind=kind_of(name, colour[3], image >= 0),
            alpha=OPAQUE,
        )
    )
    points, normals, uvs = bare.points, bare.normals, None
    if own is not None or image >= 0:
        # Colours by face and places on a picture need corners of their own.
        flat = faces.ravel()
        points, normals = points[flat], None if normals is None else normals[flat]
        uvs = bare.uvs[places.ravel()] if bare.uvs is not None and image >= 0 else None
        faces, painted = np.arange(len(flat)).reshape(-1, 3), own
    raw.parts.append(
        Part(key, name, category_of(name), "", len(raw.materials) - 1, points, faces, normals, uvs, painted)
    )


def _alike(painted: Any, own: Any) -> tuple[tuple[float, float, float, float], Any, Any]:
    """One colour for all, and the colours of points and of corners where they differ."""
    shades = own if own is not None else painted
    if shades is None or not len(shades):
        return PLAIN, None, None
    if (shades == shades[0]).all():
        r, g, b, a = (shades[0] / 255.0).tolist()
        return (r, g, b, a if a > 0 else 1.0), None, None
    if shades[:, 3].max(initial=0) == 0:
        shades = np.column_stack([shades[:, :3], np.full(len(shades), 255, np.uint8)])
    return (1.0, 1.0, 1.0, 1.0), None if own is not None else shades, shades if own is not None else None


def as_shades(values: npt.NDArray[Any]) -> Shades:
    """(n, 4) colours as bytes from (n, 3) or (n, 4) numbers: bytes, words of 16 bits, or shares of one."""
    if values.dtype == np.uint8:
        shades = values
    elif values.dtype == np.uint16:
        shades = (values >> 8).astype(np.uint8)
    else:
        numbers = np.nan_to_num(values.astype(float))
        shades = np.clip(
            np.round(numbers * (255.0 if numbers.max(initial=0.0) <= 1.0 else 1.0)), 0, 255
        ).astype(np.uint8)
    if shades.shape[1] == 3:
        shades = np.column_stack([shades, np.full(len(shades), 255, np.uint8)])
    return np.ascontiguousarray(shades)
