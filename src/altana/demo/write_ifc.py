"""The demo as IFC4: storeys, spaces, walls with voided openings, slabs, tessellated furniture, coloured
materials."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import ifcopenshell
import ifcopenshell.guid
import numpy as np
import shapely

from altana.demo.shapes import WallRun
from altana.demo.site import SPACES, STOREYS, Element, Piece
from altana.demo.textures import SURFACES

CLASSES = {
    "Wall": "IfcWall",
    "Floor": "IfcSlab",
    "Roof": "IfcRoof",
    "Beam": "IfcBeam",
    "Column": "IfcColumn",
    "Stair": "IfcStair",
    "Railing": "IfcRailing",
    "Door": "IfcDoor",
    "Window": "IfcWindow",
    "Covering": "IfcCovering",
    "Curtain wall": "IfcCurtainWall",
    "Glazing": "IfcPlate",
    "Furniture": "IfcFurniture",
    "Light fixture": "IfcLightFixture",
    "Terrain": "IfcGeographicElement",
    "Planting": "IfcGeographicElement",
    "Water": "IfcGeographicElement",
}


class Writer:
    """Builds the file; ids come from names, so the same description gives the same file."""

    def __init__(self) -> None:
        self.file = ifcopenshell.file(schema="IFC4")
        self._styles: dict[str, Any] = {}
        self._materials: dict[str, Any] = {}
        self._users: dict[str, list[Any]] = {}
        self._names = 0
        f = self.file
        units = [
            f.createIfcSIUnit(UnitType=kind, Name=name)
            for kind, name in (
                ("LENGTHUNIT", "METRE"),
                ("AREAUNIT", "SQUARE_METRE"),
                ("VOLUMEUNIT", "CUBIC_METRE"),
                ("PLANEANGLEUNIT", "RADIAN"),
            )
        ]
        self.origin = self._axes((0.0, 0.0, 0.0))
        world = f.createIfcGeometricRepresentationContext(
            ContextType="Model", CoordinateSpaceDimension=3, Precision=1e-5, WorldCoordinateSystem=self.origin
        )
        self.body = f.createIfcGeometricRepresentationSubContext(
            ContextIdentifier="Body", ContextType="Model", ParentContext=world, TargetView="MODEL_VIEW"
        )
        self.project = f.createIfcProject(
            self.id_of("project"),
            None,
            "Larkwater ferry terminal",
            RepresentationContexts=[world],
            UnitsInContext=f.createIfcUnitAssignment(units),
        )

    def id_of(self, name: str) -> str:
        """The file's id of a thing, the same every time."""
        self._names += 1
        return ifcopenshell.guid.compress(hashlib.md5(f"larkwater|{self._names}|{name}".encode()).hexdigest())

    def point(self, *values: float) -> Any:
        """A point."""
        return self.file.createIfcCartesianPoint([float(v) for v in values])

    def _axes(self, at: Sequence[float], along: Sequence[float] | None = None) -> Any:
        f = self.file
        if along is None:
            return f.createIfcAxis2Placement3D(self.point(*at))
        return f.createIfcAxis2Placement3D(
            self.point(*at),
            f.createIfcDirection((0.0, 0.0, 1.0)),
            f.createIfcDirection([float(v) for v in along]),
        )

    def placed(self, relative: Any = None) -> Any:
        """A placement, below another one."""
        return self.file.createIfcLocalPlacement(relative, self.origin)

    def style(self, name: str) -> Any:
        """The surface style of a demo surface."""
        if name not in self._styles:
            f = self.file
            r, g, b, opacity = SURFACES[name].colour
            rendering = f.createIfcSurfaceStyleRendering(
                SurfaceColour=f.createIfcColourRgb(None, r, g, b),
                Transparency=1.0 - opacity,
                ReflectanceMethod="NOTDEFINED",
            )
            self._styles[name] = f.createIfcSurfaceStyle(name, "BOTH", [rendering])
        return self._styles[name]

    def mesh(self, piece: Piece) -> Any:
        """A tessellated item with its style."""
        points, index = np.unique(np.round(piece.mesh.vertices, 5), axis=0, return_inverse=True)
        faces = index.reshape(-1)[piece.mesh.faces]
        faces = faces[
            (faces[:, 0] != faces[:, 1]) & (faces[:, 1] != faces[:, 2]) & (faces[:, 2] != faces[:, 0])
        ]
        coordinates = self.file.createIfcCartesianPointList3D(points.tolist())
        item = self.file.createIfcTriangulatedFaceSet(coordinates, None, None, (faces + 1).tolist())
        return self._styled(item, piece.surface)

    def _styled(self, item: Any, surface: str) -> Any:
        self.file.createIfcStyledItem(item, [self.style(surface)])
        return item

    def _profile(self, outline: Sequence[Sequence[float]]) -> Any:
        f = self.file
        ring = [self.point(x, y) for x, y in outline]
        return f.createIfcPolyline([*ring, ring[0]])

    def extrusion(self, polygon: Any, bottom: float, top: float) -> Any:
        """An upright extrusion over a polygon with holes."""
        f = self.file
        outer = self._profile(list(polygon.exterior.coords)[:-1])
        if polygon.interiors:
            profile = f.createIfcArbitraryProfileDefWithVoids(
                "AREA", None, outer, [self._profile(list(ring.coords)[:-1]) for ring in polygon.interiors]
            )
        else:
            profile = f.createIfcArbitraryClosedProfileDef("AREA", None, outer)
        return f.createIfcExtrudedAreaSolid(
            profile, self._axes((0.0, 0.0, bottom)), f.createIfcDirection((0.0, 0.0, 1.0)), top - bottom
        )

    def _bar(self, run: WallRun, start: float, end: float, foot: float, top: float, thickness: float) -> Any:
        f = self.file
        length = float(np.hypot(run.b[0] - run.a[0], run.b[1] - run.a[1]))
        along = ((run.b[0] - run.a[0]) / length, (run.b[1] - run.a[1]) / length, 0.0)
        half = thickness / 2
        outline = [(start, -half), (end, -half), (end, half), (start, half)]
        profile = f.createIfcArbitraryClosedProfileDef("AREA", None, self._profile(outline))
        return f.createIfcExtrudedAreaSolid(
            profile,
            self._axes((run.a[0], run.a[1], foot), along),
            f.createIfcDirection((0.0, 0.0, 1.0)),
            top - foot,
        )

    def shape(self, items: list[Any], kind: str) -> Any:
        """A product's shape."""
        representation = self.file.createIfcShapeRepresentation(self.body, "Body", kind, items)
        return self.file.createIfcProductDefinitionShape(None, None, [representation])

    def product(self, element: Element) -> Any:
        """An element as a product, its openings voided."""
        f = self.file
        ifc_class = CLASSES.get(element.category, "IfcBuildingElementProxy")
        length = 0.0
        if element.wall is not None:
            run = element.wall
            length = float(np.hypot(run.b[0] - run.a[0], run.b[1] - run.a[1]))
            body = self._styled(
                self._bar(run, 0.0, length, run.foot, run.top, run.thickness), element.pieces[0].surface
            )
            shape = self.shape([body], "SweptSolid")
        elif element.slab is not None:
            slab = element.slab
            shape = self.shape(
                [
                    self._styled(
                        self.extrusion(slab.outline, slab.bottom, slab.top), element.pieces[0].surface
                    )
                ],
                "SweptSolid",
            )
        else:
            shape = self.shape([self.mesh(piece) for piece in element.pieces], "Tessellation")
        kind = element.category if ifc_class in ("IfcBuildingElementProxy", "IfcGeographicElement") else None
        product = f.create_entity(
            ifc_class,
            GlobalId=self.id_of(element.name),
            Name=element.name,
            ObjectType=kind,
            ObjectPlacement=self.placed(),
            Representation=shape,
        )
        self._users.setdefault(element.pieces[0].surface, []).append(product)
        if element.wall is not None:
            self._openings(product, element)
        return product

    def _openings(self, wall: Any, element: Element) -> None:
        f, run = self.file, element.wall
        assert run is not None
        for index, hole in enumerate(run.holes):
            body = self._bar(
                run, hole.start, hole.end, run.foot + hole.sill, run.foot + hole.head, run.thickness + 0.1
            )
            name = f"{element.name} opening {index + 1}"
            opening = f.createIfcOpeningElement(
                self.id_of(name),
                None,
                name,
                ObjectPlacement=self.placed(),
                Representation=self.shape([body], "SweptSolid"),
            )
            f.createIfcRelVoidsElement(self.id_of(f"voids {name}"), None, None, None, wall, opening)

    def write_materials(self) -> None:
        """Name the main material of each product."""
        for name, products in self._users.items():
            material = self.file.createIfcMaterial(name)
            self.file.createIfcRelAssociatesMaterial(
                self.id_of(f"material {name}"), None, None, None, products, material
            )


def write_ifc(path: Path, elements: Sequence[Element]) -> None:
    """Write the elements as IFC4."""
    writer = Writer()
    f = writer.file
    site = f.createIfcSite(writer.id_of("site"), None, "Larkwater quay", ObjectPlacement=writer.placed())
    building = f.createIfcBuilding(
        writer.id_of("building"), None, "Ferry terminal", ObjectPlacement=writer.placed()
    )
    storeys = {
        name: f.createIfcBuildingStorey(
            writer.id_of(name), None, name, ObjectPlacement=writer.placed(), Elevation=elevation
        )
        for name, elevation in STOREYS
    }
    for name, elevation in STOREYS:
        placement = f.createIfcAxis2Placement3D(writer.point(0.0, 0.0, elevation))
        storeys[name].ObjectPlacement = f.createIfcLocalPlacement(None, placement)
    f.createIfcRelAggregates(writer.id_of("a1"), None, None, None, writer.project, [site])
    f.createIfcRelAggregates(writer.id_of("a2"), None, None, None, site, [building])
    f.createIfcRelAggregates(writer.id_of("a3"), None, None, None, building, list(storeys.values()))
    products_of: dict[str, list[Any]] = {name: [] for name in storeys}
    for element in elements:
        products_of[element.storey].append(writer.product(element))
    for name, products in products_of.items():
        if products:
            f.createIfcRelContainedInSpatialStructure(
                writer.id_of(f"in {name}"), None, None, None, products, storeys[name]
            )
    spaces: dict[str, list[Any]] = {}
    for space in SPACES:
        x0, y0, x1, y1 = space.rect
        shape = writer.shape(
            [writer.extrusion(shapely.box(x0, y0, x1, y1), space.floor, space.ceiling)], "SweptSolid"
        )
        room = f.createIfcSpace(
            writer.id_of(space.name), None, space.name, None, None, writer.placed(), shape, space.name
        )
        spaces.setdefault(space.storey, []).append(room)
    for name, made_here in spaces.items():
        f.createIfcRelAggregates(writer.id_of(f"spaces {name}"), None, None, None, storeys[name], made_here)
    writer.write_materials()
    f.header.file_name.time_stamp = "2026-01-01T00:00:00"
    f.header.file_name.name = "larkwater.ifc"
    f.write(str(path))
