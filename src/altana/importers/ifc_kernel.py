"""What makes triangles of IFC: two kernels, one fast and one exact; that one works on all processors."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from typing import Any

import ifcopenshell
import ifcopenshell.geom
import numpy as np

from altana.core.conventions import Floats, Ints32
from altana.importers.memory import done_with

FAST_KERNEL, EXACT_KERNEL = "hybrid-manifold-opencascade", "opencascade"


@dataclass(frozen=True, slots=True)
class Shape:
    """The triangles of a product, by its number in the file: ``vertices`` (n, 3) metres, ``faces`` (m, 3),
    ``which`` (m,) of its ``styles`` each has, -1 for none.  They stand where ``place`` (4, 4) brings them;
    products with the same ``key`` share them."""

    id: int
    key: str
    place: Floats
    vertices: Floats
    faces: Ints32
    which: Ints32
    styles: list[Any]

    @property
    def standing(self) -> Floats:
        """(n, 3) the vertices in the world, metres."""
        placed: Floats = self.vertices @ self.place[:3, :3].T + self.place[:3, 3]
        return placed


def settings_of_shapes(in_world: bool = True) -> Any:
    """in_world : shapes in the coordinates of the world; otherwise each as it is before it is placed."""
    settings = ifcopenshell.geom.settings()  # type: ignore[no-untyped-call]
    settings.set("use-world-coords", in_world)
    return settings


def shapes_of(
    file: Any, group: list[Any], kernel: Any, counted: Callable[[int], None] = lambda triangles: None
) -> Iterator[Shape]:
    """Shapes of products: those of the fast kernel as they come, those of the exact one in the order of the
    group, whichever was done first.

    kernel : its name; the library's own list lacks the fast one.  counted : called with the triangles of each
    that shares them with none before, as they come.
    """
    if not group:
        return
    iterator: Any = ifcopenshell.geom.iterator(
        settings_of_shapes(False), file, _threads(group, kernel), include=group, geometry_library=kernel
    )
    try:
        if not iterator.initialize():
            return
        if kernel == FAST_KERNEL:
            yield from _each(iterator, kernel, counted)
            return
        order = {item.id(): number for number, item in enumerate(group)}
        yield from sorted(_each(iterator, kernel, counted), key=lambda shape: order[shape.id])
    finally:
        done_with(iterator)


def _each(iterator: Any, kernel: str, counted: Callable[[int], None]) -> Iterator[Shape]:
    known: dict[str, Shape] = {}
    while True:
        before, shape = len(known), _copied(iterator.get(), kernel, known)
        if len(known) > before:
            counted(len(shape.faces))
        yield shape
        if not iterator.next():
            return


def _threads(group: list[Any], kernel: str) -> int:
    """How many processors a group is worth: the fast kernel is done before they have shared its work."""
    return 1 if kernel == FAST_KERNEL else max(1, min(len(os.sched_getaffinity(0)), len(group)))


def _copied(shape: Any, kernel: str, known: dict[str, Shape]) -> Shape:
    """known : shapes by their keys; is added to."""
    geometry = shape.geometry
    key = f"{kernel} {geometry.id}"
    place = np.array(shape.transformation.matrix, float).reshape(4, 4, order="F")
    if key in known:
        return replace(known[key], id=shape.id, place=place)
    # The buffers belong to the iterator and are gone after its next step.
    vertices = np.frombuffer(geometry.verts_buffer, np.float64).reshape(-1, 3).copy()
    faces = np.frombuffer(geometry.faces_buffer, np.int32).reshape(-1, 3).copy()
    which = np.frombuffer(geometry.material_ids_buffer, np.int32).copy()
    known[key] = Shape(shape.id, key, place, vertices, faces, which, list(geometry.materials))
    return known[key]


def shape_of(settings: Any, item: Any) -> Any:
    """One shape; the library types it as one of ten kinds."""
    return ifcopenshell.geom.create_shape(settings, item)


def clipped_products(file: Any) -> set[int]:
    """Products whose representation reaches a half-space."""
    products: set[int] = set()
    seen: set[int] = set()
    try:
        waiting = list(file.by_type("IfcHalfSpaceSolid"))
    except Exception:  # noqa: BLE001 - the border of a foreign parser
        return products
    while waiting:
        item = waiting.pop()
        for user in file.get_inverse(item):
            if user.id() in seen:
                continue
            seen.add(user.id())
            if user.is_a("IfcProduct"):
                products.add(user.id())
            elif (
                user.is_a("IfcRepresentationItem")
                or user.is_a("IfcRepresentation")
                or user.is_a("IfcProductRepresentation")
                or user.is_a("IfcRepresentationMap")
            ):
                waiting.append(user)
    return products
