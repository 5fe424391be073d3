"""Kinds that hold bare surfaces or points: STL, PLY, OFF and 3MF, read with trimesh; none of them names what it shows."""

from __future__ import annotations

import io
import logging
from pathlib import Path
from typing import Any

import numpy as np
import trimesh

from altana.core.model import OPAQUE, Material
from altana.importers.finish import kind_of
from altana.importers.folder import ModelFolder
from altana.importers.memory import check_archive, check_room, check_triangles
from altana.importers.naming import Names, category_of
from altana.importers.raw import Part, RawModel
from altana.importers.units import settle

#: Metres of the units that a 3MF file may name.
UNITS_3MF = {
    "micron": 1e-6,
    "millimeter": 1e-3,
    "centimeter": 1e-2,
    "inch": 0.0254,
    "foot": 0.3048,
    "meter": 1.0,
}
PLAIN = (0.78, 0.76, 0.72, 1.0)

# The library reports what it skips through logging; what matters is said as problems instead.
logging.getLogger("trimesh").setLevel(logging.CRITICAL)


def read_plain(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """The surfaces or points of a file and the other files it was read from.  Raises UserError.

    unit_m : metres per unit, 0 to find out.  up : the axis that points up, empty to find out.
    """
    suffix = path.suffix.lower().lstrip(".")
    data = path.read_bytes()
    check_room(len(data) * 6, path.name)
    if suffix == "3mf":
        check_archive(path, path.name)
    raw, folder = RawModel(), ModelFolder(path)
    scene = trimesh.load_scene(io.BytesIO(data), file_type=suffix, process=False)
    names = Names()
    total = 0
    for node in scene.graph.nodes_geometry:
        matrix, geometry = scene.graph[node]
        held = scene.geometry.get(geometry)
        if isinstance(held, trimesh.PointCloud):
            shades = (
                np.asarray(held.colors)
                if held.colors is not None and len(held.colors) == len(held.vertices)
                else None
            )
            raw.add_points(
                path.stem, trimesh.transform_points(np.asarray(held.vertices, float), matrix), shades
            )
        elif isinstance(held, trimesh.Trimesh) and len(held.faces):
            total += len(held.faces)
            check_triangles(total, path.name)
            told = (
                path.stem
                if suffix in ("stl", "ply", "off") and len(scene.geometry) == 1
                else str(held.metadata.get("name") or geometry)
            )
            raw.parts.append(_part(held, matrix, names.of(told), raw))
    told_unit = UNITS_3MF.get(str(scene.units), 0.001) if suffix == "3mf" else 0.0
    settle(raw, unit_m, up, told_unit, "z" if suffix == "3mf" else "")
    folder.tell(raw)
    return raw, folder.read


def _part(held: trimesh.Trimesh, matrix: Any, label: tuple[str, str], raw: RawModel) -> Part:
    name, key = label
    faces = np.asarray(held.faces)
    if np.linalg.det(matrix[:3, :3]) < 0:
        faces = faces[:, ::-1]
    points = np.asarray(held.vertices, float)
    moved = not np.array_equal(matrix, np.eye(4))
    normals = held._cache.cache.get("vertex_normals")  # noqa: SLF001 - only those that the file gave; the property makes others up
    colour, painted = _colours(held)
    raw.materials.append(
        Material(
            "Plain" if painted is not None or colour == PLAIN else name,
            colour,
            kind=kind_of(name, colour[3]),
            alpha=OPAQUE,
        )
    )
    if painted is not None and len(painted) == len(faces) != len(points):
        # Colours by face need corners of their own.
        points, painted = points[faces].reshape(-1, 3), np.repeat(painted, 3, axis=0)
        faces, normals = np.arange(len(points)).reshape(-1, 3), None
    return Part(
        key,
        name,
        category_of(name),
        "",
        len(raw.materials) - 1,
        trimesh.transform_points(points, matrix) if moved else points,
        faces,
        np.asarray(normals) @ np.linalg.pinv(matrix[:3, :3])
        if normals is not None and len(normals) == len(points)
        else None,
        None,
        painted,
    )


def _colours(held: trimesh.Trimesh) -> tuple[tuple[float, float, float, float], Any]:
    """One colour for all, and (n, 4) uint8 where corners or faces have their own."""
    visual: Any = held.visual
    kind = getattr(visual, "kind", None)
    if kind not in ("face", "vertex"):
        return PLAIN, None
    shades = np.asarray(visual.face_colors if kind == "face" else visual.vertex_colors, np.uint8)
    if len(shades) and (shades == shades[0]).all():
        r, g, b, a = (shades[0] / 255.0).tolist()
        return (r, g, b, a if a > 0 else 1.0), None
    if shades[:, 3].max(initial=0) == 0:
        shades = np.column_stack([shades[:, :3], np.full(len(shades), 255, np.uint8)])
    return (1.0, 1.0, 1.0, 1.0), shades
