"""Spaces of IFC as rooms."""

from __future__ import annotations

from typing import Any

import ifcopenshell.util.element
import numpy as np
import shapely

from altana.core.geometry.cross import area_normals
from altana.core.model import Room
from altana.importers.ifc_kernel import EXACT_KERNEL, FAST_KERNEL, Shape, clipped_products, shapes_of
from altana.importers.raw import RawModel


def add_rooms(file: Any, storeys: dict[int, str], raw: RawModel) -> None:
    """Spaces as rooms, by their undersides: a ceiling may slope, a floor is what one stands on."""
    spaces = [item for item in file.by_type("IfcSpace") if item.Representation]
    clipped = clipped_products(file)
    for kernel, group in (
        (FAST_KERNEL, [s for s in spaces if s.id() not in clipped]),
        (EXACT_KERNEL, [s for s in spaces if s.id() in clipped]),
    ):
        for shape in shapes_of(file, group, kernel):
            _room(file, shape, storeys, raw)


def _room(file: Any, shape: Shape, storeys: dict[int, str], raw: RawModel) -> None:
    vertices = shape.standing
    outline = _footprint(vertices, shape.faces)
    if not outline:
        return
    item = file.by_id(shape.id)
    above = ifcopenshell.util.element.get_aggregate(item)
    name = str(item.LongName or item.Name or "Room")
    storey = storeys.get(above.id(), "") if above is not None else ""
    raw.rooms.append(
        Room(
            str(item.GlobalId),
            name,
            storey,
            outline,
            float(vertices[:, 2].min()),
            float(vertices[:, 2].max()),
        )
    )


def _footprint(vertices: np.ndarray, faces: np.ndarray) -> tuple[tuple[float, float], ...]:
    """The outline of a body on plan: of its undersides, or of all of it where they are missing or flipped."""
    corner = vertices[faces]
    normal = area_normals(corner)
    length = np.linalg.norm(normal, axis=1)
    low = corner[:, :, 2].max(axis=1) < vertices[:, 2].min() + 0.05
    for chosen in (
        (normal[:, 2] < -0.5 * length),
        (np.abs(normal[:, 2]) > 0.5 * length) & low,
        np.abs(normal[:, 2]) > 0.02 * length,
    ):
        if not chosen.any():
            continue
        pieces = [shapely.Polygon(triangle[:, :2]) for triangle in corner[chosen]]
        merged = shapely.union_all(pieces)
        if not isinstance(merged, shapely.Polygon):
            # Triangles whose corners differ in the last digits part at their seams.
            merged = shapely.union_all([piece.buffer(1e-6) for piece in pieces])
        if not isinstance(merged, shapely.Polygon):
            merged = max(shapely.get_parts(merged).tolist(), key=lambda part: part.area)
        if isinstance(merged, shapely.Polygon) and merged.area > 0.2:
            return tuple(
                (float(x), float(y))
                for x, y in shapely.get_coordinates(shapely.get_exterior_ring(merged.simplify(0.001)))[:-1]
            )
    return ()
