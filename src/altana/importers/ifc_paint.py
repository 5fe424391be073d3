"""Colours that IFC gives to single faces of a tessellated shape (IfcIndexedColourMap), which its kernels pass
over.

Triangles of the kernel are matched with the faces of the file by where they lie.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice
from typing import Any

import ifcopenshell.util.placement
import numpy as np
import numpy.typing as npt
from scipy.spatial import cKDTree

from altana.core.conventions import Bools, Floats, Ints, Ints32
from altana.core.distinct import distinct
from altana.core.geometry.cross import area_normals
from altana.core.model import Material
from altana.importers.finish import kind_of
from altana.importers.ifc_place import metres_of
from altana.importers.polygons import triangles_of
from altana.importers.raw import Part, RawModel

#: A triangle that lies farther than this share of its shape's size beside the plane of a face is none of it.
NEAR = 1e-3
#: Shapes that are placed through other shapes are followed so deep.
DEEPEST = 8
#: So many products are looked for that show one shape.
MOST_USERS = 50_000


@dataclass(frozen=True, slots=True)
class _PaintedTriangles:
    """Triangles of the file with their colours: middles (k, 3) metres in the world, unit directions (k, 3),
    how far their corners lie from their middles (k,), and colours (k, 4)."""

    middles: Floats
    facing: Floats
    reach: Floats
    shades: npt.NDArray[np.uint8]


class FacePaint:
    """Knows what faces of products are painted, and puts those into the model."""

    def __init__(self, file: Any, raw: RawModel) -> None:
        self._raw = raw
        self._maps: dict[int, list[tuple[Any, Floats]]] = {}
        #: The model's materials of painted triangles, by how much they hide.
        self._materials: dict[int, int] = {}
        try:
            maps = file.by_type("IfcIndexedColourMap")
        except RuntimeError:
            # Older schemas have none.
            return
        self._scale = metres_of(file) if maps else 1.0
        for paint_map in maps:
            for product, matrix in islice(_users(file, paint_map.MappedTo, np.eye(4)), MOST_USERS):
                self._maps.setdefault(product.id(), []).append((paint_map, matrix))

    def paints(self, product: Any) -> bool:
        """Whether faces of a product have colours of their own."""
        return product.id() in self._maps

    def take(
        self, product: Any, told: tuple[str, str, str, str], vertices: Floats, faces: Ints32, which: Ints32
    ) -> tuple[Ints32, Ints32]:
        """Put the painted triangles of a product into the model; the others are given back, with their
        materials.

        told : id, name, category and storey.  vertices : (n, 3) metres in the world.  faces : (m, 3).
        which : (m,) the material of each, or (1,) that of all.
        """
        colours = self._colours(product, vertices, faces) if product.id() in self._maps else None
        if colours is None:
            return faces, which
        own, shades = colours
        corners, shades = vertices[faces[own]], shades[own]
        for solid in distinct(shades[:, 3]).tolist():
            mine = shades[:, 3] == solid
            # How much is seen through is said by the material.
            paint = np.column_stack([shades[mine, :3], np.full(int(mine.sum()), 255, np.uint8)])
            self._raw.parts.append(
                Part(
                    *told,
                    self._material(solid),
                    corners[mine].reshape(-1, 3),
                    np.arange(3 * len(paint)).reshape(-1, 3),
                    colours=np.repeat(paint, 3, axis=0),
                )
            )
        return faces[~own], which if len(which) == 1 else which[~own]

    def _material(self, solid: int) -> int:
        if solid not in self._materials:
            self._materials[solid] = len(self._raw.materials)
            share = solid / 255.0
            self._raw.materials.append(
                Material("Painted", (1.0, 1.0, 1.0, share), kind=kind_of("Painted", share))
            )
        return self._materials[solid]

    def _colours(
        self, product: Any, vertices: Floats, faces: Ints32
    ) -> tuple[Bools, npt.NDArray[np.uint8]] | None:
        """(m,) which triangles have a colour of their own, and (m, 4) which; None where no map is sound."""
        place = ifcopenshell.util.placement.get_local_placement(product.ObjectPlacement)
        maps = [
            shades
            for paint_map, matrix in self._maps[product.id()]
            if (shades := self._painted(paint_map, place @ matrix)) is not None
        ]
        if not maps:
            return None
        middles = np.concatenate([one.middles for one in maps])
        here = vertices[faces].mean(axis=1)
        far, at = cKDTree(middles).query(here)
        facing = np.concatenate([one.facing for one in maps])[at]
        beside = np.abs(np.einsum("mk,mk->m", here - middles[at], facing))
        size = max(float(np.ptp(vertices, axis=0).max()), 1e-9)
        own = (far <= np.concatenate([one.reach for one in maps])[at]) & (beside <= NEAR * size)
        return own, np.concatenate([one.shades for one in maps])[at]

    def _painted(self, paint_map: Any, matrix: Floats) -> _PaintedTriangles | None:
        """The triangles of a face set.  matrix : to the world, in the file's units."""
        points = np.asarray(paint_map.MappedTo.Coordinates.CoordList, float).reshape(-1, 3)
        counts, corners = _faces(paint_map.MappedTo)
        index = np.asarray(paint_map.ColourIndex, np.int64) - 1
        palette = np.asarray(paint_map.Colours.ColourList, float).reshape(-1, 3)
        if len(index) != len(counts) or not len(palette) or not len(corners):
            return None
        if corners.min() < 0 or corners.max() >= len(points):
            return None
        places, owner = triangles_of(points, counts, corners)
        corner = (points[corners[places]] @ matrix[:3, :3].T + matrix[:3, 3]) * self._scale
        middles = corner.mean(axis=1)
        facing = area_normals(corner)
        facing /= np.maximum(np.linalg.norm(facing, axis=1, keepdims=True), 1e-300)
        reach = np.linalg.norm(corner - middles[:, None], axis=2).max(axis=1)
        shades = np.full((len(palette), 4), 255.0 * _share(paint_map.Opacity))
        shades[:, :3] = np.clip(palette, 0.0, 1.0) * 255.0
        chosen = np.clip(index[owner], 0, len(palette) - 1)
        return _PaintedTriangles(middles, facing, reach, np.round(shades).astype(np.uint8)[chosen])


def _share(opacity: Any) -> float:
    return 1.0 if opacity is None else float(np.clip(opacity, 0.03, 1.0))


def _faces(item: Any) -> tuple[Ints, Ints]:
    """(f,) corners of each face of a face set, and their point numbers, face after face; of holes only that
    they are there."""
    if item.is_a("IfcTriangulatedFaceSet"):
        corners = np.asarray(item.CoordIndex, np.int64).reshape(-1)
        counts = np.full(len(corners) // 3, 3, np.int64)
    else:
        rings = [face.CoordIndex for face in item.Faces]
        counts = np.array([len(ring) for ring in rings], np.int64)
        corners = np.array([number for ring in rings for number in ring], np.int64)
    through = getattr(item, "PnIndex", None)
    if through is not None and len(corners):
        corners = np.asarray(through, np.int64)[corners - 1]
    return counts, corners - 1


def _users(file: Any, item: Any, matrix: Floats, deep: int = 0) -> Iterator[tuple[Any, Floats]]:
    """Products that show an item, and where it lies in each; in the file's units."""
    if deep > DEEPEST:
        return
    for shape in file.get_inverse(item):
        if not shape.is_a("IfcShapeRepresentation"):
            continue
        for owner in file.get_inverse(shape):
            if owner.is_a("IfcProductDefinitionShape"):
                for product in owner.ShapeOfProduct:
                    yield product, matrix
            elif owner.is_a("IfcRepresentationMap"):
                for mapped in owner.MapUsage:
                    turned = ifcopenshell.util.placement.get_mappeditem_transformation(mapped)
                    yield from _users(file, mapped, turned @ matrix, deep + 1)
