"""What makes triangles of IFC: two kernels, one fast and one exact."""

from __future__ import annotations

from typing import Any

import ifcopenshell
import ifcopenshell.geom

FAST_KERNEL, EXACT_KERNEL = "hybrid-manifold-opencascade", "opencascade"


def settings_of_shapes() -> Any:
    """Shapes in the coordinates of the world."""
    settings = ifcopenshell.geom.settings()  # type: ignore[no-untyped-call]
    settings.set("use-world-coords", True)
    return settings


def shapes_of(file: Any, group: list[Any], kernel: Any) -> Any:
    """Shapes of products, one after the other, or None where there is none.  kernel : its name; the library's own list lacks the fast one."""
    iterator: Any = ifcopenshell.geom.iterator(
        settings_of_shapes(), file, 1, include=group, geometry_library=kernel
    )
    return iterator if iterator.initialize() else None


def shape_of(settings: Any, item: Any) -> Any:
    """One shape; the library types it as one of ten kinds."""
    return ifcopenshell.geom.create_shape(settings, item)
