"""Drawn lines of IFC files: grids and annotations."""

from __future__ import annotations

from typing import Any

import ifcopenshell
import ifcopenshell.geom
import ifcopenshell.util.element
import ifcopenshell.util.placement
import ifcopenshell.util.unit
import numpy as np

from altana.importers.ifc_kernel import settings_of_shapes, shape_of
from altana.importers.ifc_place import metres_of
from altana.importers.raw import RawModel

MOST_ANNOTATIONS = 20_000


def add_linework(file: Any, raw: RawModel) -> None:
    """Annotation curves and building grids, kept apart from the building."""
    settings = settings_of_shapes()
    settings.set("dimensionality", ifcopenshell.ifcopenshell_wrapper.CURVES_SURFACES_AND_SOLIDS)
    for item in file.by_type("IfcAnnotation")[:MOST_ANNOTATIONS]:
        try:
            geometry = shape_of(settings, item).geometry
            points = np.array(geometry.verts, float).reshape(-1, 3)
            raw.add_lines(
                str(item.Name or "Annotation"), points[np.array(geometry.edges, int).reshape(-1, 2)]
            )
        except RuntimeError:
            continue  # a text or a shape without curves: nothing to draw
    scale = metres_of(file)
    for grid in file.by_type("IfcGrid"):
        place = np.eye(4)
        if grid.ObjectPlacement is not None:
            place = np.asarray(ifcopenshell.util.placement.get_local_placement(grid.ObjectPlacement), float)
            place[:3, 3] *= scale
        for axis in (*(grid.UAxes or ()), *(grid.VAxes or ()), *(grid.WAxes or ())):
            try:
                curve = shape_of(settings, axis.AxisCurve)
            except RuntimeError:
                continue
            points = np.array(curve.verts, float).reshape(-1, 3) @ place[:3, :3].T + place[:3, 3]
            raw.add_lines(
                f"Grid {grid.Name or ''}".strip(), points[np.array(curve.edges, int).reshape(-1, 2)]
            )
