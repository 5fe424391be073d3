"""DXF: reference drawings as linework by layer, in metres; texts and hatches are left aside."""

from __future__ import annotations

import io
from pathlib import Path

import ezdxf
import numpy as np
from ezdxf import disassemble, recover, units
from ezdxf.lldxf.const import DXFError

from altana.core.errors import UserError
from altana.core.model import Problem
from altana.importers.build import RawModel

#: Curves are drawn as chords that leave them by at most this much, metres.
CHORD_M = 0.005
TOO_LARGE_M = 5_000.0
NOT_DRAWN = frozenset(
    {"TEXT", "MTEXT", "ATTRIB", "ATTDEF", "HATCH", "MPOLYGON", "IMAGE", "WIPEOUT", "VIEWPORT", "OLE2FRAME", "UNDERLAY", "XREF"}
)


def read_dxf(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """The lines of a drawing's model space by layer.  Raises UserError when it cannot be read as DXF.

    unit_m : metres per unit, 0 to take what the drawing says.  A drawing is flat, so ``up`` changes nothing.
    """
    del up
    data = path.read_bytes()
    if not data.strip():
        raise UserError(f"{path.name} is empty. Nothing was changed. Export it again, or choose another file.")
    raw = RawModel()
    try:
        document, audit = recover.read(io.BytesIO(data))
    except (OSError, DXFError, ValueError) as error:
        raise UserError(f"{path.name} is damaged or is not a DXF drawing. Nothing was changed. Export it again as DXF.") from error
    if audit.has_errors:
        raw.problems.append(Problem("incomplete-file", f"{path.name} is damaged in places; what could be read is shown."))
    scale = unit_m or _scale(document, raw)
    _lines(document, scale, raw)
    if not raw.lines:
        raise UserError(f"{path.name} holds no lines in its model space. Nothing was changed. Choose another drawing.")
    return raw, []


def _scale(document: ezdxf.document.Drawing, raw: RawModel) -> float:
    code = int(document.header.get("$INSUNITS", 0) or 0)
    if code:
        factor = float(units.conversion_factor(units.InsertUnits(code), units.InsertUnits.Meters))
        raw.unit = str(units.decode(code) or "unit")
        return factor
    low, high = np.array(document.header.get("$EXTMIN", (0, 0, 0))[:2]), np.array(document.header.get("$EXTMAX", (0, 0, 0))[:2])
    large = bool(np.all(np.abs([low, high]) < 1e15)) and float(np.max(high - low)) > TOO_LARGE_M
    raw.unit = "millimetre, assumed" if large else "metre, assumed"
    raw.problems.append(
        Problem(
            "unit-assumed",
            f"The drawing names no unit; it is taken as {'millimetres' if large else 'metres'}. Choose the unit if that is wrong.",
        )
    )
    return 0.001 if large else 1.0


def _lines(document: ezdxf.document.Drawing, scale: float, raw: RawModel) -> None:
    found: dict[str, list[np.ndarray]] = {}
    skipped = 0
    for entity in disassemble.recursive_decompose(document.modelspace()):
        if entity.dxftype() in NOT_DRAWN:
            continue
        try:
            primitive = disassemble.make_primitive(entity, max_flattening_distance=CHORD_M / scale)
            points = np.array([(p.x, p.y, p.z) for p in primitive.vertices()], float).reshape(-1, 3) * scale
        except (TypeError, ValueError, DXFError, ArithmeticError):
            skipped += 1
            continue
        if len(points) >= 2:
            found.setdefault(str(entity.dxf.get("layer", "0")), []).append(np.stack([points[:-1], points[1:]], axis=1))
    for layer, parts in found.items():
        raw.add_lines(layer, np.concatenate(parts))
    if skipped:
        raw.problems.append(Problem("incomplete", f"{skipped} things in the drawing could not be read and are not shown."))
