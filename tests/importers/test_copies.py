"""What stands in many places of a file: read once for all of them, and each where and as it should be."""

from __future__ import annotations

import zipfile
from collections.abc import Callable
from pathlib import Path

import ifcopenshell
import ifcopenshell.guid
import numpy as np
import pytest
import trimesh
from pxr import Gf, Sdf, Usd, UsdGeom, UsdShade

from altana.core.conventions import Floats
from altana.core.model import Model
from altana.importers import build
from altana.importers.copying import Copies
from altana.importers.ifc_kernel import EXACT_KERNEL, FAST_KERNEL, shapes_of
from altana.importers.raw import Part
from altana.importers.table import read_model

#: A wedge: it has no two sides alike, so that nothing that is turned wrongly looks right.
POINTS = np.array([(0, 0, 0), (3, 0, 0), (0, 2, 0), (0, 0, 1)], float)
FACES = np.array([(0, 2, 1), (0, 1, 3), (1, 2, 3), (2, 0, 3)])
AS_IT_IS = np.eye(4)
TURNED = trimesh.transformations.rotation_matrix(0.7, (0.2, 0.3, 1.0), (4.0, 0.0, 1.0)) @ np.diag(
    (1, 1, 1, 1.0)
)
TURNED[:3, 3] += (10.0, 5.0, 0.0)
MIRRORED = np.array([(-2, 0, 0, 30), (0, 1, 0, -4), (0, 0, 3, 2), (0, 0, 0, 1)], float)
RIGID, ALL = [AS_IT_IS, TURNED], [AS_IT_IS, TURNED, MIRRORED]


def write_dae(path: Path, places: list[Floats]) -> None:
    def numbers(values: object) -> str:
        return " ".join(f"{value:.9g}" for value in np.ravel(values))  # type: ignore[arg-type]

    def mesh(name: str, points: Floats) -> str:
        names = "".join(f'<param name="{axis}" type="float"/>' for axis in "XYZ")
        return (
            f'<geometry id="{name}"><mesh><source id="{name}-p"><float_array id="{name}-a" count="12">{numbers(points)}</float_array>'
            f'<technique_common><accessor source="#{name}-a" count="4" stride="3">{names}</accessor></technique_common></source>'
            f'<vertices id="{name}-v"><input semantic="POSITION" source="#{name}-p"/></vertices><triangles count="4">'
            f'<input semantic="VERTEX" source="#{name}-v" offset="0"/><p>{numbers(FACES)}</p></triangles></mesh></geometry>'
        )

    nodes = "".join(
        f'<node name="Wedge"><matrix>{numbers(place)}</matrix><instance_geometry url="#wedge"/></node>'
        for place in places
    )
    path.write_text(
        '<?xml version="1.0"?><COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1"><asset><up_axis>Z_UP</up_axis></asset>'
        f"<library_geometries>{mesh('wedge', POINTS)}{mesh('other', POINTS + 50.0)}</library_geometries>"
        f'<library_visual_scenes><visual_scene id="s">{nodes}<node name="Other"><instance_geometry url="#other"/></node></visual_scene>'
        '</library_visual_scenes><scene><instance_visual_scene url="#s"/></scene></COLLADA>'
    )


def write_3mf(path: Path, places: list[Floats]) -> None:
    def mesh(number: int, name: str, points: Floats) -> str:
        corners = "".join(f'<vertex x="{x}" y="{y}" z="{z}"/>' for x, y, z in points)
        faces = "".join(f'<triangle v1="{a}" v2="{b}" v3="{c}"/>' for a, b, c in FACES)
        return f'<object id="{number}" name="{name}" type="model"><mesh><vertices>{corners}</vertices><triangles>{faces}</triangles></mesh></object>'

    items = "".join(
        f'<item objectid="1" transform="{" ".join(f"{v:.9g}" for v in place.T[:, :3].ravel())}"/>'
        for place in places
    )
    with zipfile.ZipFile(path, "w") as archive:
        archive.writestr(
            "3D/3dmodel.model",
            '<?xml version="1.0"?><model unit="meter" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"><resources>'
            f'{mesh(1, "Wedge", POINTS)}{mesh(2, "Other", POINTS + 50.0)}</resources><build>{items}<item objectid="2"/></build></model>',
        )


def usd_wedge(stage: Usd.Stage, path: str, points: Floats = POINTS) -> UsdGeom.Mesh:
    mesh = UsdGeom.Mesh.Define(stage, path)
    mesh.CreatePointsAttr([Gf.Vec3f(*map(float, point)) for point in points])
    mesh.CreateFaceVertexCountsAttr([3] * len(FACES))
    mesh.CreateFaceVertexIndicesAttr(FACES.ravel().tolist())
    mesh.CreateSubdivisionSchemeAttr(UsdGeom.Tokens.none)
    return mesh


def usd_stage(path: Path) -> Usd.Stage:
    stage = Usd.Stage.CreateNew(str(path))
    UsdGeom.SetStageUpAxis(stage, UsdGeom.Tokens.z)
    UsdGeom.SetStageMetersPerUnit(stage, 1.0)
    return stage


def usd_instance(stage: Usd.Stage, name: str, place: Floats) -> UsdGeom.Xform:
    instance = UsdGeom.Xform.Define(stage, f"/{name}")
    instance.GetPrim().GetReferences().AddInternalReference("/Kind")
    instance.GetPrim().SetInstanceable(True)
    instance.AddTransformOp().Set(Gf.Matrix4d(place.T.tolist()))
    return instance


def write_usd(path: Path, places: list[Floats]) -> None:
    stage = usd_stage(path)
    stage.CreateClassPrim("/Kind")
    usd_wedge(stage, "/Kind/Wedge")
    for number, place in enumerate(places):
        usd_instance(stage, f"Wedge{number}", place)
    usd_wedge(stage, "/Other", POINTS + 50.0)
    stage.Save()


def write_scattered(path: Path, places: list[Floats]) -> None:
    """Instances of a point instancer, which are moved, turned and stretched."""
    stage = usd_stage(path)
    scattered = UsdGeom.PointInstancer.Define(stage, "/Scattered")
    usd_wedge(stage, "/Scattered/Wedge")
    scattered.CreatePrototypesRel().AddTarget("/Scattered/Wedge")
    scattered.CreateProtoIndicesAttr([0] * len(places))
    scattered.CreatePositionsAttr([Gf.Vec3f(*place[:3, 3].tolist()) for place in places])
    turns = [trimesh.transformations.quaternion_from_matrix(place) for place in places]
    scattered.CreateOrientationsfAttr([Gf.Quatf(*map(float, turn)) for turn in turns])
    usd_wedge(stage, "/Other", POINTS + 50.0)
    stage.Save()


def write_ifc(path: Path, places: list[Floats]) -> None:
    file = ifcopenshell.file(schema="IFC4")
    make = file.create_entity

    def point(values: object) -> object:
        return make("IfcCartesianPoint", [float(value) for value in values])  # type: ignore[attr-defined]

    def placed(place: Floats) -> object:
        axes = (make("IfcDirection", place[:3, column].tolist()) for column in (2, 0))
        return make("IfcLocalPlacement", None, make("IfcAxis2Placement3D", point(place[:3, 3]), *axes))

    origin = make("IfcAxis2Placement3D", point((0, 0, 0)))
    context = make("IfcGeometricRepresentationContext", None, "Model", 3, 1e-5, origin)
    units = make("IfcUnitAssignment", [make("IfcSIUnit", None, "LENGTHUNIT", None, "METRE")])
    make("IfcProject", ifcopenshell.guid.new(), None, "P", None, None, None, None, [context], units)

    def shape(kind: str, item: object) -> object:
        return make("IfcShapeRepresentation", context, "Body", kind, [item])

    def thing(name: str, place: Floats, shown: object) -> None:
        whole = make("IfcProductDefinitionShape", None, None, [shown])
        make("IfcFurniture", ifcopenshell.guid.new(), None, name, None, None, placed(place), whole)

    def wedge(points: Floats) -> object:
        corners = make("IfcCartesianPointList3D", points.tolist())
        return shape(
            "Tessellation", make("IfcTriangulatedFaceSet", corners, None, True, (FACES + 1).tolist())
        )

    kind = make("IfcRepresentationMap", origin, wedge(POINTS))
    for place in places:
        still = make("IfcCartesianTransformationOperator3D", None, None, point((0, 0, 0)), 1.0, None)
        thing("Wedge", place, shape("MappedRepresentation", make("IfcMappedItem", kind, still)))
    thing("Other", AS_IT_IS, wedge(POINTS + 50.0))
    file.write(str(path))


KINDS: dict[str, tuple[str, Callable[[Path, list[Floats]], None], list[Floats]]] = {
    "dae": ("m.dae", write_dae, ALL),
    "3mf": ("m.3mf", write_3mf, ALL),
    "usd": ("m.usda", write_usd, ALL),
    "scattered": ("m.usdc", write_scattered, RIGID),
    "ifc": ("m.ifc", write_ifc, RIGID),
}


@pytest.fixture
def handed_over(monkeypatch: pytest.MonkeyPatch) -> list[tuple[int, bool]]:
    """Of the parts of files, as they are handed over: their surface's number, and whether they are still to
    be placed."""
    parts: list[tuple[int, bool]] = []
    real = build.build

    def built(raw, source):  # type: ignore[no-untyped-def]
        parts.extend((id(part.vertices), part.placing is not None) for part in raw.parts)
        return real(raw, source)

    monkeypatch.setattr("altana.importers.table.build", built)
    return parts


def corners_of(model: Model, index: int) -> Floats:
    thing = model.objects[index]
    faces = model.faces[thing.first_face : thing.first_face + thing.face_count]
    return model.vertices[faces].astype(float) + model.offset


@pytest.mark.parametrize("kind", KINDS)
def test_copies_are_read_once_and_stand_where_they_should(
    kind: str, tmp_path: Path, handed_over: list[tuple[int, bool]]
) -> None:
    file_name, write, places = KINDS[kind]
    write(tmp_path / file_name, places)
    model = read_model(tmp_path / file_name)[0]
    *copies, other = handed_over
    assert len(set(copies)) == 1 < len(copies) == len(places)
    assert (copies[0][1], other[1]) == (True, False)
    assert len({item.id for item in model.objects}) == len(places) + 1
    for index, place in enumerate(places):
        corners = corners_of(model, index)
        wanted = POINTS @ place[:3, :3].T + place[:3, 3]
        found = np.unique(corners.reshape(-1, 3).round(4), axis=0)
        assert found == pytest.approx(np.unique(wanted.round(4), axis=0), abs=2e-4)
        # All faces look outward, those of what is mirrored, too.
        volume = np.einsum("ij,ij->i", corners[:, 0], np.cross(corners[:, 1], corners[:, 2])).sum() / 6
        assert volume == pytest.approx(abs(np.linalg.det(place[:3, :3])), rel=1e-4)
        thing = model.objects[index]
        faces = model.faces[thing.first_face : thing.first_face + thing.face_count]
        wound = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
        wound /= np.linalg.norm(wound, axis=1, keepdims=True)
        assert model.normals[faces[:, 0]] == pytest.approx(wound, abs=1e-4)
    assert corners_of(model, len(places)).min() == pytest.approx(50.0)


def test_copies_in_a_stage_keep_what_each_takes_over(tmp_path: Path) -> None:
    """A colour and a material of what holds it: of two copies that differ in nothing else."""
    stage = usd_stage(tmp_path / "m.usda")
    stage.CreateClassPrim("/Kind")
    usd_wedge(stage, "/Kind/Wedge")
    for number, shade in enumerate([(1.0, 0.0, 0.0), (0.0, 0.0, 1.0)]):
        instance = usd_instance(stage, f"Painted{number}", AS_IT_IS)
        UsdGeom.PrimvarsAPI(instance).CreatePrimvar(
            "displayColor", Sdf.ValueTypeNames.Color3fArray, "constant"
        ).Set([Gf.Vec3f(*shade)])  # type: ignore[arg-type]
    for number, name in enumerate(("Oak", "Slate")):
        instance = usd_instance(stage, f"Clad{number}", AS_IT_IS)
        material = UsdShade.Material.Define(stage, f"/{name}")
        UsdShade.MaterialBindingAPI.Apply(instance.GetPrim()).Bind(material)
    stage.Save()
    model = read_model(tmp_path / "m.usda")[0]
    firsts = [model.faces[item.first_face, 0] for item in model.objects]
    assert [model.colours[at, :3].tolist() for at in firsts[:2]] == [[255, 0, 0], [0, 0, 255]]
    looks = [model.materials[model.face_material[item.first_face]].name for item in model.objects]
    assert looks[2:] == ["Oak", "Slate"]


def test_a_chosen_unit_and_axis_move_copies_as_they_move_all_else(tmp_path: Path) -> None:
    write_dae(tmp_path / "m.dae", ALL)
    usual, chosen = (read_model(tmp_path / "m.dae", *how)[0] for how in ((0.0, ""), (0.1, "y")))
    for index in range(len(ALL) + 1):
        places = corners_of(usual, index).reshape(-1, 3) * 0.1
        turned = np.column_stack([places[:, 0], -places[:, 2], places[:, 1]])
        assert corners_of(chosen, index).reshape(-1, 3) == pytest.approx(turned, abs=1e-4)


@pytest.mark.parametrize("kernel", [FAST_KERNEL, EXACT_KERNEL])
def test_what_kernels_hold_is_counted_as_it_comes(kernel: str, tmp_path: Path) -> None:
    """Copies share their triangles; all others are told before any of them is placed."""
    write_ifc(tmp_path / "m.ifc", RIGID)
    file, held = ifcopenshell.open(str(tmp_path / "m.ifc")), list[int]()
    shapes = list(shapes_of(file, file.by_type("IfcFurniture"), kernel, held.append))
    assert len(shapes) == len(RIGID) + 1
    assert held == [len(FACES)] * 2


def test_a_copy_that_stands_nowhere_takes_no_other_with_it(tmp_path: Path) -> None:
    nowhere = np.where(np.eye(4) > 0.0, np.nan, 0.0)
    write_dae(tmp_path / "m.dae", [AS_IT_IS, nowhere, TURNED])
    model = read_model(tmp_path / "m.dae")[0]
    assert len(model.objects) == 3
    assert np.isfinite(model.vertices).all() and np.isfinite(model.normals).all()
    assert any("4 damaged triangles" in item.sentence for item in model.problems)


def test_copies_count_for_less_and_what_stands_once_has_its_own_surface() -> None:
    copies = Copies("m")
    read: list[str] = []

    def make(name: str) -> list[Part]:
        read.append(name)
        return [Part("", "", "", "", 0, POINTS, FACES)]

    told = ("1", "Wedge", "Other", "")
    made = []
    for name in ("twice", "once", "twice"):
        assert copies.read(name, lambda name=name: make(name))
        made += copies.of(name, told, TURNED)
    assert not copies.read("nothing", lambda: ())
    copies.settle()
    assert read == ["twice", "once"]
    assert [part.placing is None for part in made] == [False, True, False]
    assert made[0].vertices is made[2].vertices is POINTS
    assert made[1].vertices == pytest.approx(POINTS @ TURNED[:3, :3].T + TURNED[:3, 3])
