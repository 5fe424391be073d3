"""The same two things, a slab of 8 x 6 m and a post 3 m tall, as every kind of file; and other small files
for the readers."""

from __future__ import annotations

import json
import zipfile
from pathlib import Path
from typing import Any

import ifcopenshell
import ifcopenshell.api
import laspy
import numpy as np
import trimesh
from ezdxf import new as new_dxf
from pxr import Gf, Usd, UsdGeom, UsdUtils

from altana.demo.larkwater import terminal
from altana.demo.write_dxf import write_dxf
from altana.demo.write_ifc import write_ifc
from altana.importers.table import READERS
from tests.conftest import box_between

Y_UP = np.array([[1.0, 0, 0, 0], [0, 0, 1, 0], [0, -1, 0, 0], [0, 0, 0, 1]])
SUFFIXES = sorted(READERS)
#: Kinds that hold something else than the two things.
OTHERWISE = (".ifc", ".ifczip", ".ifcxml", ".dxf", ".las", ".laz")
MESHES = tuple(suffix for suffix in SUFFIXES if suffix not in OTHERWISE)


def scene() -> trimesh.Scene:
    """Two named boxes, Z up, metres."""
    shapes = trimesh.Scene()
    shapes.add_geometry(box_between((0, 0, -0.3), (8, 6, 0)), node_name="Slab", geom_name="Slab")
    shapes.add_geometry(box_between((1, 1, 0), (1.3, 1.3, 3)), node_name="Post 1", geom_name="Post 1")
    return shapes


def write(folder: Path, suffix: str, scale: float = 1.0) -> Path:
    """A file of this kind."""
    path = folder / f"m{suffix}"
    shapes = scene()
    shapes.apply_scale(scale)
    if suffix == ".dxf":
        write_dxf(path)
    elif suffix in (".ifc", ".ifczip", ".ifcxml"):
        write_small_ifc(folder, path)
    elif suffix in (".usd", ".usda", ".usdc", ".usdz"):
        write_usd(shapes, path)
    elif suffix in (".json", ".cityjson", ".jsonl"):
        write_cityjson(shapes, path)
    elif suffix in (".las", ".laz"):
        write_scan(path)
    elif suffix == ".gltf":
        shapes.apply_transform(Y_UP)
        for name, data in trimesh.exchange.gltf.export_gltf(shapes).items():
            (folder / ("m.gltf" if name == "model.gltf" else name)).write_bytes(data)
    elif suffix == ".dae":
        text = trimesh.exchange.dae.export_collada(shapes.to_mesh()).decode()
        # The writer leaves the header to others; a real file names its axis and unit.
        path.write_text(text.replace("<up_axis>Y_UP</up_axis>", "<up_axis>Z_UP</up_axis>"))
    else:
        if suffix in (".glb", ".obj"):
            shapes.apply_transform(Y_UP)
        if suffix == ".3mf":
            shapes.units = "meter"
        data = (
            shapes.to_mesh().export(file_type=suffix[1:])
            if suffix in (".stl", ".ply", ".off")
            else shapes.export(file_type=suffix[1:])
        )
        path.write_bytes(data if isinstance(data, bytes) else data.encode())
        if suffix == ".3mf":
            _in_metres(path)
    return path


def _in_metres(path: Path) -> None:
    """The writer says millimetres whatever the numbers are."""
    with zipfile.ZipFile(path) as archive:
        parts = {item.filename: archive.read(item) for item in archive.infolist()}
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in parts.items():
            archive.writestr(
                name, data.replace(b'unit="millimeter"', b'unit="meter"') if name.endswith(".model") else data
            )


def write_small_ifc(folder: Path, path: Path) -> None:
    """Four things of the demo as IFC, plain or in an archive."""
    plain = folder / "small-plain.ifc"
    write_ifc(
        plain,
        [
            element
            for element in terminal()
            if element.name in ("West wall", "Hall floor", "Bench 1", "Staff table")
        ],
    )
    if path.suffix == ".ifczip":
        with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.write(plain, "model.ifc")
    elif path.suffix == ".ifcxml":
        path.write_text(IFCXML)
    else:
        plain.rename(path)


def write_usd(made: trimesh.Scene, path: Path) -> None:
    """A stage of the scene's meshes; a package is written by way of a layer beside it."""
    layer = path if path.suffix != ".usdz" else path.with_name("packed.usdc")
    stage = Usd.Stage.CreateNew(str(layer))
    UsdGeom.SetStageUpAxis(stage, UsdGeom.Tokens.z)
    UsdGeom.SetStageMetersPerUnit(stage, 1.0)
    root = UsdGeom.Xform.Define(stage, "/Building")
    stage.SetDefaultPrim(root.GetPrim())
    for node in made.graph.nodes_geometry:
        matrix, name = made.graph[node]
        shape = made.geometry[name]
        mesh = UsdGeom.Mesh.Define(stage, f"/Building/{str(node).replace(' ', '_')}")
        mesh.GetPrim().SetDisplayName(str(node))
        points = trimesh.transform_points(shape.vertices, matrix)
        mesh.CreatePointsAttr([Gf.Vec3f(*map(float, point)) for point in points])
        mesh.CreateFaceVertexCountsAttr([3] * len(shape.faces))
        mesh.CreateFaceVertexIndicesAttr(shape.faces.reshape(-1).tolist())
        mesh.CreateSubdivisionSchemeAttr(UsdGeom.Tokens.none)
    stage.Save()
    if path.suffix == ".usdz":
        UsdUtils.CreateNewUsdzPackage(str(layer), str(path))
        layer.unlink()


def write_cityjson(made: trimesh.Scene, path: Path) -> None:
    """Each thing as a building of one solid; as a sequence, one feature a line."""
    head = {
        "type": "CityJSON",
        "version": "2.0",
        "transform": {"scale": [0.001] * 3, "translate": [0, 0, 0]},
        "CityObjects": {},
        "vertices": [],
    }
    features = []
    for node in made.graph.nodes_geometry:
        matrix, name = made.graph[node]
        mesh = made.geometry[name]
        points = np.rint(trimesh.transform_points(mesh.vertices, matrix) * 1000).astype(int).tolist()
        shape = {"type": "Solid", "lod": "2", "boundaries": [[[face] for face in mesh.faces.tolist()]]}
        features.append(
            {
                "type": "CityJSONFeature",
                "CityObjects": {str(node): {"type": "Building", "geometry": [shape]}},
                "vertices": points,
            }
        )
    if path.suffix == ".jsonl":
        path.write_text("\n".join(json.dumps(item) for item in (head, *features)))
        return
    for feature in features:
        start = len(head["vertices"])  # type: ignore[arg-type]
        for key, item in feature["CityObjects"].items():  # type: ignore[attr-defined]
            boundary = item["geometry"][0]["boundaries"][0]
            item["geometry"][0]["boundaries"] = [
                [[[n + start for n in ring] for ring in surface] for surface in boundary]
            ]
            head["CityObjects"][key] = item  # type: ignore[index]
        head["vertices"] += feature["vertices"]  # type: ignore[operator]
    path.write_text(json.dumps(head))


def write_scan(path: Path, count: int = 20_000) -> None:
    """A room of 6 x 4 x 3 m as a scanner sees it: floor and walls, coloured."""
    random = np.random.default_rng(3)
    places = random.random((count, 3)) * (6.0, 4.0, 3.0)
    side = random.integers(0, 5, count)
    for number, (axis, value) in enumerate(((2, 0.0), (0, 0.0), (0, 6.0), (1, 0.0), (1, 4.0))):
        places[side == number, axis] = value
    header = laspy.LasHeader(point_format=3, version="1.2")
    header.scales, header.offsets = [0.001] * 3, [0.0] * 3
    scan = laspy.LasData(header)
    scan.x, scan.y, scan.z = places.T
    for name, value in (("red", 200), ("green", 120), ("blue", 60)):
        setattr(scan, name, np.where(side == 0, value, 180).astype(np.uint16) * 256)
    scan.write(path)


def write_faces_dxf(path: Path, binary: bool = False) -> None:
    """A drawing with a wall of 3D faces, lines, and a layer that is off."""
    drawing = new_dxf()
    drawing.header["$INSUNITS"] = 6
    for name in ("Wall", "Lines", "Resting"):
        drawing.layers.add(name, color=30)
    drawing.layers.get("Resting").off()
    space = drawing.modelspace()
    space.add_3dface([(0, 0, 0), (5, 0, 0), (5, 0, 3), (0, 0, 3)], dxfattribs={"layer": "Wall"})
    space.add_line((0, 0), (7, 0), dxfattribs={"layer": "Lines"})
    space.add_line((0, 0), (900, 0), dxfattribs={"layer": "Resting"})
    drawing.saveas(path, fmt="bin" if binary else "asc")


#: One wall of 4 x 0.2 x 3 m on one storey, in millimetres, as version 4 writes it.
IFCXML = """<?xml version="1.0" encoding="UTF-8"?>
<ifcXML xmlns="http://www.buildingsmart-tech.org/ifcXML/IFC4/final" xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance">
  <IfcProject id="p" GlobalId="0YvctVUKr0kugbFTf53O9L" Name="Small">
    <RepresentationContexts>
      <IfcGeometricRepresentationContext id="c" ContextType="Model" CoordinateSpaceDimension="3" Precision="1.e-05">
        <WorldCoordinateSystem><IfcAxis2Placement3D id="w"><Location Coordinates="0. 0. 0."/></IfcAxis2Placement3D></WorldCoordinateSystem>
      </IfcGeometricRepresentationContext>
    </RepresentationContexts>
    <UnitsInContext><Units><IfcSIUnit UnitType="lengthunit" Prefix="milli" Name="metre"/></Units></UnitsInContext>
    <IsDecomposedBy>
      <IfcRelAggregates GlobalId="1YvctVUKr0kugbFTf53O9L">
        <RelatedObjects>
          <IfcBuildingStorey id="s" GlobalId="2YvctVUKr0kugbFTf53O9L" Name="Ground" Elevation="0." CompositionType="element">
            <ObjectPlacement xsi:type="IfcLocalPlacement" id="l">
              <RelativePlacement><IfcAxis2Placement3D><Location Coordinates="0. 0. 0."/></IfcAxis2Placement3D></RelativePlacement>
            </ObjectPlacement>
            <ContainsElements>
              <IfcRelContainedInSpatialStructure GlobalId="3YvctVUKr0kugbFTf53O9L">
                <RelatedElements>
                  <IfcWall GlobalId="0aYctVUKr0kugbFTf53O9L" Name="South wall">
                    <ObjectPlacement xsi:type="IfcLocalPlacement">
                      <PlacementRelTo xsi:type="IfcLocalPlacement" ref="l" xsi:nil="true"/>
                      <RelativePlacement><IfcAxis2Placement3D><Location Coordinates="1000. 0. 0."/></IfcAxis2Placement3D></RelativePlacement>
                    </ObjectPlacement>
                    <Representation xsi:type="IfcProductDefinitionShape">
                      <Representations>
                        <IfcShapeRepresentation RepresentationIdentifier="Body" RepresentationType="SweptSolid">
                          <ContextOfItems xsi:type="IfcGeometricRepresentationContext" ref="c" xsi:nil="true"/>
                          <Items>
                            <IfcExtrudedAreaSolid Depth="3000.">
                              <SweptArea xsi:type="IfcRectangleProfileDef" ProfileType="area" XDim="4000." YDim="200."/>
                              <Position><Location Coordinates="2000. 100. 0."/></Position>
                              <ExtrudedDirection DirectionRatios="0. 0. 1."/>
                            </IfcExtrudedAreaSolid>
                          </Items>
                        </IfcShapeRepresentation>
                      </Representations>
                    </Representation>
                  </IfcWall>
                </RelatedElements>
              </IfcRelContainedInSpatialStructure>
            </ContainsElements>
          </IfcBuildingStorey>
        </RelatedObjects>
      </IfcRelAggregates>
    </IsDecomposedBy>
  </IfcProject>
</ifcXML>
"""


def ifc_wall(name: str, method: str = "NOTDEFINED") -> tuple[Any, Any]:
    """A file with one wall of 4 x 3 m, and its grey surface style of that name, which throws light back by
    that method."""
    file = ifcopenshell.file(schema="IFC4")
    call = ifcopenshell.api.run
    call("root.create_entity", file, ifc_class="IfcProject", name="P")
    call("unit.assign_unit", file, length={"is_metric": True, "raw": "METERS"})
    context = call("context.add_context", file, context_type="Model")
    body = call(
        "context.add_context", file, context_type="Model", context_identifier="Body",
        target_view="MODEL_VIEW", parent=context,
    )  # fmt: skip
    wall = call("root.create_entity", file, ifc_class="IfcWall", name="Wall")
    call("geometry.edit_object_placement", file, product=wall)
    shape = call(
        "geometry.add_wall_representation", file, context=body, length=4.0, height=3.0, thickness=0.2
    )
    call("geometry.assign_representation", file, product=wall, representation=shape)
    style = call("style.add_style", file, name=name)
    grey = {"Name": None, "Red": 0.5, "Green": 0.5, "Blue": 0.5}
    call(
        "style.add_surface_style", file, style=style, ifc_class="IfcSurfaceStyleRendering",
        attributes={"SurfaceColour": grey, "Transparency": 0.0, "ReflectanceMethod": method},
    )  # fmt: skip
    call("style.assign_representation_styles", file, shape_representation=shape, styles=[style])
    return file, style
