"""STL: bare triangles, read with trimesh; the format names neither units nor materials."""

from __future__ import annotations

import io
import logging
from pathlib import Path

import numpy as np
import trimesh

from altana.core.model import OPAQUE, Material
from altana.importers.bare import PLAIN
from altana.importers.finish import kind_of
from altana.importers.memory import check_room, check_triangles
from altana.importers.naming import Names, category_of
from altana.importers.raw import Part, RawModel
from altana.importers.units import settle

# The library reports what it skips through logging; what matters is said as problems instead.
logging.getLogger("trimesh").setLevel(logging.CRITICAL)


def read_stl(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """The solids of a file.  Raises UserError.

    unit_m : metres per unit, 0 to find out.  up : the axis that points up, empty to find out.
    """
    data = path.read_bytes()
    check_room(len(data) * 6, path.name)
    scene = trimesh.load_scene(io.BytesIO(data), file_type="stl", process=False)
    raw, names, total = RawModel(), Names(), 0
    for key_there, shape in scene.geometry.items():
        if not isinstance(shape, trimesh.Trimesh) or not len(shape.faces):
            continue
        total += len(shape.faces)
        check_triangles(total, path.name)
        one = len(scene.geometry) == 1
        name, key = names.of(path.stem if one else str(shape.metadata.get("name") or key_there))
        raw.materials.append(Material("Plain", PLAIN, kind=kind_of(name, 1.0), alpha=OPAQUE))
        raw.parts.append(
            Part(
                key,
                name,
                category_of(name),
                "",
                len(raw.materials) - 1,
                np.asarray(shape.vertices, float),
                np.asarray(shape.faces),
            )
        )
    settle(raw, unit_m, up, 0.0, "")
    return raw, []
