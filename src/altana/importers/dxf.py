"""DXF, text or binary: drawings as linework by layer, and 3D faces as surfaces; texts, hatches and layers
that are off stay aside."""

from __future__ import annotations

import io
import logging
import struct
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import Any

import numpy as np
from ezdxf import disassemble, recover, units
from ezdxf.colors import aci2rgb
from ezdxf.document import Drawing
from ezdxf.entities.dxfentity import DXFEntity
from ezdxf.entities.insert import Insert
from ezdxf.entities.solid import Face3d
from ezdxf.enums import InsertUnits
from ezdxf.filemanagement import readfile
from ezdxf.lldxf.const import DXFError
from ezdxf.lldxf.tagger import binary_tags_loader
from ezdxf.protocols import virtual_entities

from altana.core.errors import UserError
from altana.core.model import Material, Problem
from altana.importers.memory import check_room
from altana.importers.naming import category_of, stable_id
from altana.importers.polygons import triangles_of
from altana.importers.raw import Part, RawModel, layers_off

# The library reports every repair through logging; what matters is said as problems instead.
logging.getLogger("ezdxf").setLevel(logging.CRITICAL)

#: Curves are drawn as chords that leave them by at most this much, metres.
CHORD_M = 0.005
TOO_LARGE_M = 5_000.0
BINARY = b"AutoCAD Binary DXF\r\n\x1a\0"
WHILE_READING = 15
MOST_ENTITIES = 1_500_000
#: So many things are placed of any drawing, or so many times those that stand in the file.
FEW_ENTITIES, MOST_TIMES = 60_000, 20
#: Things that have no others in them.
SIMPLE = frozenset(
    {"LINE", "CIRCLE", "ARC", "ELLIPSE", "SPLINE", "POINT", "LWPOLYLINE", "POLYLINE", "3DFACE", "TEXT"}
)
SURFACES = frozenset({"MESH", "POLYLINE"})
NOT_DRAWN = frozenset(
    {
        "TEXT",
        "MTEXT",
        "ATTRIB",
        "ATTDEF",
        "HATCH",
        "MPOLYGON",
        "IMAGE",
        "WIPEOUT",
        "VIEWPORT",
        "OLE2FRAME",
        "UNDERLAY",
        "XREF",
    }
)


def read_dxf(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """The lines of a drawing's model space by layer.  Raises UserError when it cannot be read as DXF.

    unit_m : metres per unit, 0 to take what the drawing says.  A drawing is flat, so ``up`` changes nothing.
    """
    del up
    data = path.read_bytes()
    check_room(len(data) * WHILE_READING, path.name)
    raw = RawModel()
    try:
        document, sound = _opened(path, data)
    except (OSError, DXFError, ValueError, IndexError, KeyError, struct.error) as error:
        raise UserError(
            f"{path.name} is damaged or is not a DXF drawing. Nothing was changed. Export it again as DXF."
        ) from error
    if not sound:
        raw.problems.append(
            Problem("incomplete-file", f"{path.name} is damaged in places; what could be read is shown.")
        )
    scale = unit_m or _scale(document, raw)
    _lines(document, scale, raw)
    if not raw.lines and not raw.parts:
        raise UserError(
            f"{path.name} holds no lines and no faces that are on in its model space. Nothing was changed. Choose another drawing."
        )
    return raw, []


def _opened(path: Path, data: bytes) -> tuple[Drawing, bool]:
    """The drawing, and whether all of it was sound."""
    if data.startswith(BINARY):
        return Drawing.load(binary_tags_loader(data)), True
    try:
        # Of a sound drawing this takes half the time.
        document = readfile(path)
        audit = document.audit()
    except Exception:  # noqa: BLE001 - the border of a foreign parser
        # What it cannot read is looked through piece by piece, which saves what is sound.
        document, audit = recover.read(io.BytesIO(data))
    return document, not audit.has_errors


def _scale(document: Drawing, raw: RawModel) -> float:
    code = int(document.header.get("$INSUNITS", 0) or 0)
    if code:
        factor = float(units.conversion_factor(InsertUnits(code), InsertUnits.Meters))
        raw.unit = str(units.decode(code) or "unit")
        return factor
    low, high = (
        np.array(document.header.get("$EXTMIN", (0, 0, 0))[:2]),
        np.array(document.header.get("$EXTMAX", (0, 0, 0))[:2]),
    )
    large = bool(np.all(np.abs([low, high]) < 1e15)) and float(np.max(high - low)) > TOO_LARGE_M
    raw.unit = "millimetre, assumed" if large else "metre, assumed"
    raw.problems.append(
        Problem(
            "unit-assumed",
            f"The drawing names no unit; it is taken as {'millimetres' if large else 'metres'}. Choose the unit if that is wrong.",
        )
    )
    return 0.001 if large else 1.0


#: Points (n, 3), the corners of each face, and the numbers of their points.
Faces = tuple[np.ndarray, list[int], list[int]]


def _lines(document: Drawing, scale: float, raw: RawModel) -> None:
    lines: dict[str, list[np.ndarray]] = {}
    faces: dict[str, list[Faces]] = {}
    resting = {layer.dxf.name for layer in document.layers if layer.is_off() or layer.is_frozen()}
    skipped = count = 0
    left: set[str] = set()
    # Blocks in blocks and arrays of blocks make a small file endless; a drawing that is large itself may be
    # large.
    most = min(MOST_ENTITIES, max(FEW_ENTITIES, MOST_TIMES * len(document.entitydb)))
    for entity in _each(document.modelspace()):
        count += 1
        if count > most:
            raw.problems.append(
                Problem(
                    "incomplete",
                    f"The drawing has more than {most // 1000} thousand things once its blocks are placed; the rest is not shown.",
                )
            )
            break
        layer = str(entity.dxf.get("layer", "0"))
        if entity.dxftype() in NOT_DRAWN:
            continue
        if layer in resting:
            left.add(layer)
            continue
        try:
            drawn = _drawn(entity, scale)
        except (TypeError, ValueError, DXFError, ArithmeticError):
            skipped += 1
            continue
        if isinstance(drawn, tuple):
            faces.setdefault(layer, []).append(drawn)
        elif len(drawn) >= 2:
            lines.setdefault(layer, []).append(np.stack([drawn[:-1], drawn[1:]], axis=1))
    for layer, parts in lines.items():
        raw.add_lines(layer, np.concatenate(parts))
    _surfaces(document, faces, raw)
    if skipped:
        raw.problems.append(
            Problem("incomplete", f"{skipped} things in the drawing could not be read and are not shown.")
        )
    if left:
        raw.problems.append(layers_off(sorted(left)))


def _each(things: Iterable[DXFEntity]) -> Iterator[DXFEntity]:
    """All things of a drawing, with those of blocks where they are placed; the library asks each for longer
    whether it has parts."""
    for thing in things:
        if thing.dxftype() in SIMPLE:
            yield thing
        elif not isinstance(thing, Insert):
            yield from disassemble.recursive_decompose([thing])
        elif thing.mcount > 1:
            yield from _each(thing.multi_insert())
        else:
            yield from thing.attribs
            yield from _each(virtual_entities(thing))


def _drawn(entity: Any, scale: float) -> Faces | np.ndarray:
    """What a thing of the drawing is made of: faces, or the (n, 3) points of a line."""

    def metres(points: Iterable[Any]) -> np.ndarray:
        return np.array([(p.x, p.y, p.z) for p in points], float).reshape(-1, 3) * scale

    if isinstance(entity, Face3d):
        corners = metres(entity.wcs_vertices())
        return corners, [len(corners)], list(range(len(corners)))
    if entity.dxftype() == "LINE":
        # By far most of a drawing; the usual way takes eight times as long.
        return metres((entity.dxf.start, entity.dxf.end))
    primitive = disassemble.make_primitive(entity, max_flattening_distance=CHORD_M / scale)
    if entity.dxftype() in SURFACES and primitive.mesh is not None:
        faces = primitive.mesh.faces
        return (
            metres(primitive.mesh.vertices),
            [len(face) for face in faces],
            [n for face in faces for n in face],
        )
    return metres(primitive.vertices())


def _surfaces(document: Drawing, faces: dict[str, list[Faces]], raw: RawModel) -> None:
    """Faces as one object a layer, in the layer's colour."""
    for layer, pieces in faces.items():
        starts = np.cumsum([0, *(len(points) for points, _, _ in pieces)])
        points = np.concatenate([points for points, _, _ in pieces])
        counts = np.array([count for _, sizes, _ in pieces for count in sizes], np.int64)
        corners = np.array(
            [n + start for (_, _, numbers), start in zip(pieces, starts, strict=False) for n in numbers],
            np.int64,
        )
        cut, _ = triangles_of(points, counts, corners)
        if not len(cut):
            continue
        known = document.layers.get(layer) if document.layers.has_entry(layer) else None
        shade = (
            known.rgb
            if known is not None and known.rgb is not None
            else aci2rgb(known.color)
            if known is not None
            else (200, 195, 184)
        )
        red, green, blue = (value / 255.0 for value in shade)
        raw.materials.append(Material(layer, (red, green, blue, 1.0)))
        raw.parts.append(
            Part(
                stable_id(layer), layer, category_of(layer), "", len(raw.materials) - 1, points, corners[cut]
            )
        )
