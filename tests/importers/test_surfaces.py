"""Concave and holed faces, groups, materials and pictures of OBJ, DAE, USD, CityJSON and DXF, and scans."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from altana.core.errors import Refused
from altana.core.model import GLASS, MASK, Model
from altana.core.radiance import read_radiance
from altana.importers.polygons import ear_clipped, triangles_of
from altana.importers.table import read_model
from tests.importers.samples import write_faces_dxf, write_scan
from tests.importers.test_gltf import area, facing

#: An L, which a fan from its first corner would fill.
ELL = np.array([(0, 0), (4, 0), (4, 1), (1, 1), (1, 4), (0, 4)], float)


@settings(max_examples=60)
@given(st.integers(5, 14), st.integers(0, 10_000), st.floats(0.0, 6.28), st.booleans())
def test_a_concave_face_keeps_its_area_and_its_side(
    corners: int, seed: int, turn: float, clockwise: bool
) -> None:
    """Stars of any spikes, in any plane, either way round: as much area as a geometry library finds, all of
    it facing one way."""
    random = np.random.default_rng(seed)
    angle = np.sort(random.random(corners)) * 2 * np.pi
    radius = random.uniform(0.3, 2.0, corners)
    flat = np.column_stack([np.cos(angle) * radius, np.sin(angle) * radius])
    shape = shapely.Polygon(flat)
    if not shape.is_valid or shape.area < 0.05:
        return
    # Spikes that all lie to one side of the middle may go round it the other way.
    signed = shape.area if shape.exterior.is_ccw else -shape.area
    if clockwise:
        flat, signed = flat[::-1], -signed
    u = np.array([np.cos(turn), np.sin(turn), 0.3])
    u /= np.linalg.norm(u)
    v = np.cross(np.cross(u, (0.2, 0.1, 1.0)), u)
    v /= np.linalg.norm(v)
    points = flat[:, :1] * u + flat[:, 1:] * v + (5.0, -3.0, 2.0)
    cut, _ = triangles_of(points, np.array([corners]), np.arange(corners))
    a, b, c = (points[cut[:, k]] for k in range(3))
    cross = np.cross(b - a, c - a) / 2
    wanted = np.cross(u, v) * signed
    assert cross.sum(axis=0) == pytest.approx(wanted, abs=1e-6)
    assert np.linalg.norm(cross, axis=1).sum() == pytest.approx(shape.area, rel=1e-6)


def test_a_hole_stays_open() -> None:
    outer = np.array([(0, 0, 0), (4, 0, 0), (4, 4, 0), (0, 4, 0)], float)
    hole = np.array([(1, 1, 0), (1, 3, 0), (3, 3, 0), (3, 1, 0)], float)
    points = np.vstack([outer, hole])
    cut = ear_clipped(outer, [hole])
    corner = points[cut]
    assert np.linalg.norm(
        np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0]), axis=1
    ).sum() / 2 == pytest.approx(12.0)
    middle = corner.mean(axis=1)
    assert not (np.abs(middle[:, :2] - 2.0) < 0.9).all(axis=1).any()


def obj(folder: Path, text: str, library: str = "") -> Model:
    (folder / "m.mtl").write_text(library)
    (folder / "m.obj").write_text("mtllib m.mtl\n" + text)
    return read_model(folder / "m.obj", 1.0, "z")[0]


def test_a_concave_wall_of_obj(tmp_path: Path) -> None:
    lines = "".join(f"v {x} 0 {z}\n" for x, z in ELL)
    model = obj(tmp_path, lines + "f 1 2 3 4 5 6\n")
    assert area(model) == pytest.approx(7.0)
    assert facing(model) == pytest.approx(np.tile((0.0, -1.0, 0.0), (4, 1)))
    back = obj(tmp_path, lines + "f -1 -2 -3 -4 -5 -6\n")
    assert area(back) == pytest.approx(7.0) and facing(back)[:, 1] == pytest.approx(np.ones(4))


@pytest.mark.parametrize(
    "corners",
    [
        ("1", "2", "3", "4"),
        ("1/4", "2/3", "3/2", "4/1"),
        ("1//1", "2//1", "3//1", "4//1"),
        ("1/4/1", "2/3/1", "3/2/1", "4/1/1"),
        ("-4/-1/-1", "-3/-2/-1", "-2/-3/-1", "-1/-4/-1"),
        ("1/4/1", "2//1", "3", "4/1"),
        ("1/", "2/", "3/", "4/"),
        ("1/4/1/7", "2/3/1", "3/2/1", "4/1"),
    ],
)
def test_corners_of_obj_in_every_way_of_writing(tmp_path: Path, corners: tuple[str, ...]) -> None:
    """The same wall twice, behind more corners: numbers count from the beginning of the file, or back from
    where they stand."""
    quad = "v 0 0 0\nv 4 0 0\nv 4 0 3\nv 0 0 3\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nvn 0 -1 0\n"
    moved = quad.replace("v 0 0", "v 0 9").replace("v 4 0", "v 4 9")
    face = f"f {' '.join(corners)}"
    model = obj(tmp_path, f"o Wall\n{quad}{face}  # all of it\nf 1 2 9\no Other\n{moved}{face}\n")
    assert [item.face_count for item in model.objects] == [2, 2] and area(model) == pytest.approx(24.0)
    # Numbers from the beginning name the first wall again, those counted back the second.
    far = model.vertices[model.faces[2:]][..., 1]
    assert (far == (9.0 if corners[0].startswith("-") else 0.0)).all()
    assert [problem.code for problem in model.problems if problem.code == "damaged-faces"] == [
        "damaged-faces"
    ]


def test_groups_of_obj_stay_so_that_a_roof_can_be_hidden(tmp_path: Path) -> None:
    square = "v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\n"
    model = obj(
        tmp_path,
        f"{square}o House\ng Wall\nf 1 2 3 4\ng Roof\nf 1 2 3\nusemtl other\nf 1 3 4\no Shed\nf 1 2 3 4\n",
    )
    assert [(item.name, item.face_count) for item in model.objects] == [
        ("House Wall", 2),
        ("House Roof", 2),
        ("Shed", 2),
    ]


MTL = """newmtl Pane
Kd 0.4 0.7 0.5
Tr 0.8
newmtl Dull
Kd 0.5 0.5 0.5
d 1.0
Tr 0.0
newmtl Leaf
Kd 1 1 1
map_Kd -s 2 2 1 -o 0.1 leaf one.png
map_d leaf-mask.png
newmtl Bark
Kd 0 0 0
map_Kd -blendu on TEXTURES\\BARK.JPG
map_Bump -bm 0.4 bumps.png
"""


def test_materials_of_obj(tmp_path: Path) -> None:
    Image.new("RGB", (8, 8), "green").save(tmp_path / "leaf one.png")
    Image.new("L", (8, 8), 0).save(tmp_path / "leaf-mask.png")
    Image.new("RGB", (8, 8), "brown").save(tmp_path / "bark.jpg")
    faces = "".join(f"usemtl {name}\nf 1 2 3\n" for name in ("Pane", "Dull", "Leaf", "Bark", "Unknown"))
    model = obj(tmp_path, "v 0 0 0\nv 9 0 0\nv 9 0 9\n" + faces, MTL)
    pane, dull, leaf, bark, unknown = model.materials
    assert (pane.kind, pane.colour[3], pane.solid_glass) == (GLASS, pytest.approx(0.2), False)
    asked = obj(
        tmp_path, "v 0 0 0\nv 9 0 0\nv 9 0 9\n" + faces, MTL.replace("newmtl Pane", "newmtl Pane\nillum 7")
    )
    assert asked.materials[0].solid_glass and not asked.materials[1].solid_glass
    assert dull.colour == pytest.approx((0.5, 0.5, 0.5, 1.0))
    assert (leaf.alpha, leaf.has_holes) == (MASK, True) and leaf.maps.opacity >= 0
    assert bark.image >= 0 and bark.colour[0] == 1.0
    assert unknown.name == "Unknown"
    told = next(item for item in model.problems if item.code == "missing-files").sentence
    assert "bumps.png" in told and "BARK" not in told


DAE = """<?xml version="1.0"?><COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
<asset><unit name="cm" meter="0.01"/><up_axis>Z_UP</up_axis></asset>
<library_effects><effect id="e"><profile_COMMON><technique sid="t"><phong>
<diffuse><color>0.5 0.25 0.1 1</color></diffuse>{through}</phong></technique></profile_COMMON></effect></library_effects>
<library_materials><material id="m" name="Clay"><instance_effect url="#e"/></material></library_materials>
<library_geometries><geometry id="g" name="Shape"><mesh>
<source id="p"><float_array id="pa" count="24">{points}</float_array><technique_common>
<accessor source="#pa" count="8" stride="3"><param name="X" type="float"/><param name="Y" type="float"/><param name="Z" type="float"/></accessor>
</technique_common></source>
<vertices id="v"><input semantic="POSITION" source="#p"/></vertices>
{faces}
</mesh></geometry></library_geometries>
<library_visual_scenes><visual_scene id="s"><node id="n" name="{name}"><translate>1000 0 0</translate>
<instance_geometry url="#g"><bind_material><technique_common><instance_material symbol="x" target="#m"/></technique_common></bind_material>
</instance_geometry></node></visual_scene></library_visual_scenes><scene><instance_visual_scene url="#s"/></scene></COLLADA>"""


def dae(folder: Path, faces: str, through: str = "", name: str = "Gable wall") -> Model:
    rows = [*(f"{x * 100} 0 {z * 100}" for x, z in ELL), "100 0 50", "200 0 50"]
    (folder / "m.dae").write_text(DAE.format(points=" ".join(rows), faces=faces, through=through, name=name))
    return read_model(folder / "m.dae")[0]


def test_a_concave_wall_of_dae_with_its_name_unit_and_colour(tmp_path: Path) -> None:
    polylist = '<polylist material="x" count="1"><input semantic="VERTEX" source="#v" offset="0"/><vcount>6</vcount><p>0 1 2 3 4 5</p></polylist>'
    model = dae(tmp_path, polylist)
    assert area(model) == pytest.approx(7.0) and model.bounds[0, 0] == pytest.approx(10.0)
    assert model.objects[0].name == "Gable wall" and model.objects[0].category == "Gable"
    # Its colours are displayed values; they were washed out when taken for linear light.
    assert model.materials[0].colour == pytest.approx((0.5, 0.25, 0.1, 1.0))


def test_holed_polygons_of_dae(tmp_path: Path) -> None:
    rows = '<polygons material="x" count="1"><input semantic="VERTEX" source="#v" offset="0"/><ph><p>0 1 2 3 4 5</p><h>6 7 3</h></ph></polygons>'
    assert area(dae(tmp_path, rows)) == pytest.approx(7.0 - 0.25)


@pytest.mark.parametrize(
    ("through", "opacity"),
    [
        ("<transparency><float>0.3</float></transparency>", 0.3),
        ("<transparency><float>0</float></transparency>", 1.0),
        (
            '<transparent opaque="RGB_ZERO"><color>0.8 0.8 0.8 1</color></transparent><transparency><float>1</float></transparency>',
            0.2,
        ),
        (
            '<transparent opaque="A_ONE"><color>1 1 1 0.4</color></transparent><transparency><float>1</float></transparency>',
            0.4,
        ),
    ],
)
def test_transparency_of_dae(through: str, opacity: float, tmp_path: Path) -> None:
    faces = '<triangles material="x" count="1"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2</p></triangles>'
    material = dae(tmp_path, faces, through).materials[0]
    assert material.colour[3] == pytest.approx(opacity, abs=0.01)
    assert (material.kind == GLASS) == (opacity < 0.9)


USDA = """#usda 1.0
(
  defaultPrim = "House"
  metersPerUnit = 0.01
  upAxis = "Y"
)
def Xform "House" {
  def Mesh "Gable" (prepend apiSchemas = ["MaterialBindingAPI"]) {
    int[] faceVertexCounts = [6]
    int[] faceVertexIndices = [0, 1, 2, 3, 4, 5]
    point3f[] points = [(0,0,0), (400,0,0), (400,100,0), (100,100,0), (100,400,0), (0,400,0)]
    rel material:binding = </House/Pane>
  }
  def Material "Pane" {
    token outputs:surface.connect = </House/Pane/S.outputs:surface>
    def Shader "S" {
      uniform token info:id = "UsdPreviewSurface"
      color3f inputs:diffuseColor = (0.2, 0.5, 0.2)
      float inputs:opacity = 0.3
      token outputs:surface
    }
  }
  def PointInstancer "Posts" {
    point3f[] positions = [(500,0,0), (600,0,0)]
    int[] protoIndices = [0, 0]
    rel prototypes = [</House/Posts/Post>]
    def Cube "Post" {
      double size = 20
    }
  }
  def Camera "View" {
    float focalLength = 24
    float horizontalAperture = 36
    float verticalAperture = 24
  }
  def Mesh "Hidden" {
    token visibility = "invisible"
    int[] faceVertexCounts = [3]
    int[] faceVertexIndices = [0, 1, 2]
    point3f[] points = [(0,0,0), (9999,0,0), (0,9999,0)]
  }
  def "Elsewhere" (references = @/etc/hostname.usda@)
  {
  }
  def "Beside" (references = @part.usda@)
  {
  }
}
"""


def test_usd_with_instances_materials_references_and_cameras(tmp_path: Path) -> None:
    (tmp_path / "m.usda").write_text(USDA)
    (tmp_path / "part.usda").write_text(
        '#usda 1.0\n(\n    defaultPrim = "Block"\n)\ndef Cube "Block"\n{\n    double size = 100\n}\n'
    )
    model, others = read_model(tmp_path / "m.usda")
    names = {item.name for item in model.objects}
    assert "Gable" in names and sum("Post" in name for name in names) == 2 and "Hidden" not in names
    gable = next(item for item in model.objects if item.name == "Gable")
    corner = model.vertices[model.faces[gable.first_face : gable.first_face + gable.face_count]].astype(float)
    assert np.linalg.norm(
        np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0]), axis=1
    ).sum() / 2 == pytest.approx(7.0)
    assert model.bounds[1] == pytest.approx((6.1, 0.5, 4.0), abs=1e-4)
    pane = next(item for item in model.materials if item.name == "Pane")
    assert pane.kind == GLASS and pane.colour[3] == pytest.approx(0.3)
    assert [camera.name for camera in model.cameras] == ["View"] and model.cameras[
        0
    ].focal_mm == pytest.approx(24.0, abs=0.01)
    assert others == ["part.usda"]
    assert any("hostname.usda" in item.sentence for item in model.problems)


@pytest.mark.parametrize(
    ("kind", "figures", "size"),
    [
        ("Cube", "double size = 3", (3.0, 3.0, 3.0)),
        ("Sphere", "double radius = 1.5", (3.0, 3.0, 3.0)),
        (
            "Cylinder",
            'double radius = 1.5\n    double height = 4\n    uniform token axis = "X"',
            (4.0, 3.0, 3.0),
        ),
        ("Cone", 'double radius = 1.5\n    double height = 4\n    uniform token axis = "Z"', (3.0, 3.0, 4.0)),
        (
            "Capsule",
            'double radius = 1.5\n    double height = 4\n    uniform token axis = "Y"',
            (3.0, 7.0, 3.0),
        ),
        ("Plane", 'double width = 2\n    double length = 5\n    uniform token axis = "Z"', (2.0, 5.0, 0.0)),
    ],
)
def test_plain_solids_of_usd_lie_about_their_middle(
    tmp_path: Path, kind: str, figures: str, size: tuple[float, float, float]
) -> None:
    (tmp_path / "m.usda").write_text(
        f'#usda 1.0\n(\n    defaultPrim = "Thing"\n    metersPerUnit = 1\n    upAxis = "Z"\n)\n'
        f'def {kind} "Thing"\n{{\n    {figures}\n}}\n'
    )
    model = read_model(tmp_path / "m.usda", 1.0)[0]
    world = model.bounds + np.asarray(model.offset)
    assert np.ptp(world, axis=0) == pytest.approx(size, abs=0.02)
    assert world.mean(axis=0) == pytest.approx((0.0, 0.0, 0.0), abs=0.01)


def test_faces_in_drawings_are_surfaces_and_layers_that_are_off_stay_away(tmp_path: Path) -> None:
    for binary in (False, True):
        path = tmp_path / f"d{binary}.dxf"
        write_faces_dxf(path, binary)
        model = read_model(path)[0]
        assert area(model) == pytest.approx(15.0) and [item.name for item in model.objects] == ["Wall"]
        assert model.linework.layers == ("Lines",)
        assert any("Resting" in item.sentence for item in model.problems)


def test_a_scan_is_something_to_stand_on(tmp_path: Path) -> None:
    from altana.core.geometry.rays import RayScene

    write_scan(tmp_path / "s.laz")
    model = read_model(tmp_path / "s.laz")[0]
    assert [item.category for item in model.objects] == ["Scan"] and not model.rooms
    assert model.bounds == pytest.approx(np.array([(0, 0, 0), (6, 4, 3)]), abs=0.3)
    rays = RayScene.of(model)
    random = np.random.default_rng(2)
    places = np.column_stack(
        [random.uniform(0.5, 5.5, 200), random.uniform(0.5, 3.5, 200), np.full(200, 1.6)]
    )
    floor = rays.floors_below(places)
    assert np.isfinite(floor).mean() > 0.9 and np.nanmedian(np.abs(floor)) < 0.02
    shade = model.colours[model.vertices[:, 2] < 0.02][:, :3]
    assert np.median(shade, axis=0) == pytest.approx((200, 120, 60), abs=2)


def test_a_radiance_picture_is_read_run_by_run() -> None:
    row = b"\2\2\0\x08" + b"\x88\x80" + b"\x08" + bytes(range(8)) + b"\x88\x10" + b"\x88\x81"
    light = read_radiance(b"#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 2 +X 8\n" + row * 2)
    assert light.shape == (2, 8, 3)
    assert light[0, 3] == pytest.approx((1.0, 3 / 128, 16 / 128))
    for cut in (20, 50, 60, 70):
        with pytest.raises(Refused, match="Radiance"):
            read_radiance((b"#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 2 +X 8\n" + row * 2)[:cut])


def test_light_pictures_are_read_wherever_a_picture_is_taken(tmp_path: Path) -> None:
    import OpenEXR

    from altana.importers.pictures import opened_picture

    row = b"\2\2\0\x08" + b"\x88\x80" * 3 + b"\x88\x81"
    (tmp_path / "sky.hdr").write_bytes(b"#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 2 +X 8\n" + row * 2)
    light = np.full((4, 4, 3), 0.5, np.float32)
    light[0] = (-1.0, 7.0, 0.5)
    with OpenEXR.File(
        {"compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage}, {"RGB": light}
    ) as file:
        file.write(str(tmp_path / "wall.exr"))
    assert np.asarray(opened_picture(tmp_path / "sky.hdr"))[0, 0].tolist() == [255, 255, 255]
    # What is negative is black, what is brighter than white is white; half the light is a displayed 188.
    shown = np.asarray(opened_picture(tmp_path / "wall.exr"))
    assert shown[0, 0].tolist() == [0, 255, 188] and shown[2, 2].tolist() == [188, 188, 188]
    model = obj(tmp_path, "v 0 0 0\nv 9 0 0\nv 9 0 9\nusemtl a\nf 1 2 3\n", "newmtl a\nmap_Kd wall.exr\n")
    assert len(model.images) == 1 and model.materials[0].image == 0


def test_an_archive_that_would_swell_is_refused(tmp_path: Path) -> None:
    import zipfile

    from altana.core.errors import UserError

    for name, inner in (("m.ifczip", "model.ifc"), ("m.3mf", "3D/3dmodel.model")):
        with zipfile.ZipFile(tmp_path / name, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.writestr(inner, b"\0" * 40_000_000)
        with pytest.raises(UserError, match="packed more tightly"):
            read_model(tmp_path / name)


def test_smoothing_groups_bend_curved_surfaces_and_leave_edges_sharp(tmp_path: Path) -> None:
    import trimesh

    pipe = trimesh.creation.cylinder(1.0, 4.0, 32)
    lines = "".join(f"v {x} {y} {z}\n" for x, y, z in pipe.vertices)
    faces = "".join(f"f {a + 1} {b + 1} {c + 1}\n" for a, b, c in pipe.faces)
    smooth, flat = obj(tmp_path, f"{lines}s 1\n{faces}"), obj(tmp_path, f"{lines}s off\n{faces}")
    side = np.abs(smooth.normals[:, 2]) < 0.5
    outward = smooth.vertices[side, :2] / np.linalg.norm(smooth.vertices[side, :2], axis=1, keepdims=True)
    assert np.einsum("ij,ij->i", smooth.normals[side, :2], outward).min() > 0.9999
    assert np.abs(smooth.normals[~side, 2]).min() > 0.9999
    straight = np.abs(flat.normals[:, 2]) < 0.5
    turned = flat.vertices[straight, :2] / np.linalg.norm(flat.vertices[straight, :2], axis=1, keepdims=True)
    assert np.einsum("ij,ij->i", flat.normals[straight, :2], turned).min() < 0.996
