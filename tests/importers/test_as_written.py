"""Files as programs write them: what each holds is there, where it stands, in its colours."""

from __future__ import annotations

import itertools
import json
import math
import struct
import zipfile
from pathlib import Path
from typing import Any

import ifcopenshell
import ifcopenshell.guid
import numpy as np
import pytest
from PIL import Image
from pxr import Usd, UsdGeom

from altana.core.errors import UserError
from altana.core.model import CLAMP, GLASS, Model
from altana.core.model import SOLID as NO_GLASS
from altana.importers import threemf
from altana.importers.table import read_model
from tests.importers.test_gltf import area

BOX = np.array(list(itertools.product((0.0, 1.0), repeat=3)))
#: Its sides as quads, seen from outside: below, above, and all round.
SIDES = ((0, 2, 6, 4), (1, 5, 7, 3), (0, 4, 5, 1), (4, 6, 7, 5), (6, 2, 3, 7), (2, 0, 1, 3))
#: An L of three square metres; from its second corner a fan would cover more.
ELL = ((2, 0, 0), (2, 1, 0), (1, 1, 0), (1, 2, 0), (0, 2, 0), (0, 0, 0))
CORNER = ((5, 0, 0), (6, 0, 0), (6, 1, 0))


def opened(path: Path) -> Model:
    return read_model(path, 1.0, "z")[0]


def told(model: Model) -> str:
    return " ".join(problem.sentence for problem in model.problems)


def shades(model: Model) -> set[tuple[int, ...]]:
    """The colours that triangles have, by corner or by material."""
    if len(model.colours):
        used = model.colours[np.unique(model.faces)]
        return set(map(tuple, used[:, :3].tolist()))
    return {tuple(round(255 * value) for value in material.colour[:3]) for material in model.materials}


def picture(path: Path) -> str:
    """A picture whose left half is red and whose right half is blue."""
    image = Image.new("RGB", (8, 8), (255, 0, 0))
    image.paste((0, 0, 255), (4, 0, 8, 8))
    image.save(path)
    return path.name


# ---------------------------------------------------------------------- PLY and OFF


def ply(
    path: Path, vertex: str, face: str, rows: list[str], count: int, faces: int, remark: str = ""
) -> Path:
    head = f"ply\nformat ascii 1.0\n{remark}element vertex {count}\n{vertex}element face {faces}\n{face}end_header\n"
    path.write_text(head + "\n".join(rows) + "\n")
    return path


XYZ = "".join(f"property float {axis}\n" for axis in "xyz")
LIST = "property list uchar int vertex_indices\n"


def line(values: Any) -> str:
    return " ".join(f"{value:g}" for value in values)


@pytest.mark.parametrize("order", ["ascii", "binary_little_endian", "binary_big_endian"])
def test_faces_of_any_number_of_corners_in_ply(order: str, tmp_path: Path) -> None:
    points = (*ELL, *CORNER)
    head = f"ply\nformat {order} 1.0\nelement vertex 9\n{XYZ}element face 2\n{LIST}end_header\n"
    if order == "ascii":
        body = "\n".join([*map(line, points), "6 0 1 2 3 4 5", "3 6 7 8"]).encode()
    else:
        mark = "<" if "little" in order else ">"
        body = b"".join(struct.pack(f"{mark}3f", *point) for point in points)
        body += struct.pack(f"{mark}B6i", 6, *range(6)) + struct.pack(f"{mark}B3i", 3, 6, 7, 8)
    (tmp_path / "m.ply").write_bytes(head.encode() + body)
    model = opened(tmp_path / "m.ply")
    assert area(model) == pytest.approx(3.5)
    # Cut short it is refused in a sentence.
    (tmp_path / "m.ply").write_bytes((head.encode() + body)[:-9])
    with pytest.raises(UserError, match=r"m\.ply is damaged"):
        opened(tmp_path / "m.ply")


def test_faces_without_their_corners_are_left_out_and_said(tmp_path: Path) -> None:
    rows = [*map(line, ELL), "3 0 1 2", "3 0 1 77"]
    model = opened(ply(tmp_path / "m.ply", XYZ, LIST, rows, 6, 2))
    assert len(model.faces) == 1
    assert "1 faces name corners that the file does not have" in told(model)


def test_strips_of_triangles_in_ply(tmp_path: Path) -> None:
    """Every second triangle of a strip is wound the other way; -1 begins another."""
    points = [(x, y, 0) for x in range(3) for y in range(2)]
    head = f"ply\nformat ascii 1.0\nelement vertex 6\n{XYZ}element tristrips 1\nproperty list int int vertex_indices\nend_header\n"
    rows = "\n".join([*map(line, points), "9 1 0 3 2 -1 3 2 5 4"])
    (tmp_path / "m.ply").write_text(head + rows + "\n")
    model = opened(tmp_path / "m.ply")
    a, b, c = (model.vertices[model.faces[:, k]].astype(float) for k in range(3))
    assert area(model) == pytest.approx(2.0)
    assert (np.cross(b - a, c - a)[:, 2] > 0).all()


def test_colours_by_corner_by_face_and_of_splats(tmp_path: Path) -> None:
    paint = "".join(f"property uchar {name}\n" for name in ("red", "green", "blue"))
    quad = [(0, 0, 0), (1, 0, 0), (1, 1, 0), (0, 1, 0)]
    corners = [f"{line(point)} {10 * number} 20 30" for number, point in enumerate(quad)]
    by_corner = opened(ply(tmp_path / "c.ply", XYZ + paint, LIST, [*corners, "4 0 1 2 3"], 4, 1))
    assert shades(by_corner) == {(0, 20, 30), (10, 20, 30), (20, 20, 30), (30, 20, 30)}
    faces = ["3 0 1 2 255 0 0", "3 0 2 3 0 0 255"]
    by_face = opened(ply(tmp_path / "f.ply", XYZ, LIST + paint, [*map(line, quad), *faces], 4, 2))
    assert shades(by_face) == {(255, 0, 0), (0, 0, 255)}
    splat = "".join(f"property float f_dc_{number}\n" for number in range(3))
    rows = [f"{line(point)} 0 1.7724 -1.7724" for point in quad]
    (tmp_path / "s.ply").write_text(
        f"ply\nformat ascii 1.0\nelement vertex 4\n{XYZ}{splat}end_header\n" + "\n".join(rows) + "\n"
    )
    assert shades(opened(tmp_path / "s.ply")) == {(128, 255, 0)}


@pytest.mark.parametrize("where", ["corner", "face"])
def test_a_picture_on_ply(where: str, tmp_path: Path) -> None:
    name = picture(tmp_path / "brick wall.png")
    quad = [(0, 0, 0), (2, 0, 0), (2, 2, 0), (0, 2, 0)]
    vertex, face, rows = XYZ, LIST, list(map(line, quad))
    if where == "corner":
        vertex += "property float s\nproperty float t\n"
        rows = [f"{row} {point[0] / 2} {point[1] / 2}" for row, point in zip(rows, quad, strict=True)]
        rows.append("4 0 1 2 3")
    else:
        face += "property list uchar float texcoord\n"
        rows.append("4 0 1 2 3 8 0 0 1 0 1 1 0 1")
    model = opened(ply(tmp_path / "m.ply", vertex, face, rows, 4, 1, f"comment TextureFile {name}\n"))
    (material,) = model.materials
    assert model.images[material.image].name == name
    assert model.uvs == pytest.approx(model.vertices[:, :2] / 2)
    (tmp_path / name).unlink()
    assert f"{name}. Plain colours stand in" in told(opened(tmp_path / "m.ply"))


def test_edges_of_ply_are_reference_lines(tmp_path: Path) -> None:
    head = f"ply\nformat ascii 1.0\nelement vertex 3\n{XYZ}element edge 2\nproperty int vertex1\nproperty int vertex2\n"
    rows = "\n".join([*map(line, CORNER), "0 1", "1 2"])
    face = f"element face 1\n{LIST}end_header\n"
    (tmp_path / "m.ply").write_text(f"{head}{face}{rows}\n3 0 1 2\n")
    assert len(opened(tmp_path / "m.ply").linework.points) == 2


def test_off_in_its_variants(tmp_path: Path) -> None:
    rows = [*map(line, (*ELL, *CORNER))]
    path = tmp_path / "m.off"
    path.write_text(
        "OFF # a remark\n9 2 0\n" + "\n".join([*rows, "6 0 1 2 3 4 5 1.0 0.0 0.0", "3 6 7 8 0.0 0.0 1.0"])
    )
    model = opened(path)
    assert area(model) == pytest.approx(3.5)
    assert shades(model) == {(255, 0, 0), (0, 0, 255)}
    path.write_text(
        "COFF\n3 1 0\n" + "\n".join(f"{line(point)} 0 128 0 255" for point in CORNER) + "\n3 0 1 2\n"
    )
    assert shades(opened(path)) == {(0, 128, 0)}
    path.write_bytes(b"OFF BINARY\n\0\0\0\3\0\0\0\1")
    with pytest.raises(UserError, match="Export it as plain OFF"):
        opened(path)


def sheet(count: int) -> tuple[list[str], list[str]]:
    """Lines of the corners and of the triangles of a bent strip."""
    corners = [line((k // 2, k % 2, round(math.sin(k / 5), 3))) for k in range(count)]
    return corners, [f"3 {k} {k + 1} {k + 2}" for k in range(count - 2)]


@pytest.mark.parametrize("kind", ["off", "ply"])
def test_even_rows_are_read_as_those_that_differ(kind: str, tmp_path: Path) -> None:
    """Rows of as many numbers are taken in at once, others one by one: the same surfaces."""

    def file(name: str, corners: list[str], faces: list[str]) -> Path:
        if kind == "ply":
            return ply(tmp_path / f"{name}.ply", XYZ, LIST, [*corners, *faces], len(corners), len(faces))
        path = tmp_path / f"{name}.off"
        path.write_text("\n".join(["OFF", f"{len(corners)} {len(faces)} 0", *corners, *faces]))
        return path

    corners, faces = sheet(60)
    even = opened(file("even", corners, faces))
    mixed = opened(file("mixed", corners, [*faces[:-2], "4 56 57 59 58"]))
    assert (len(even.faces), len(mixed.faces)) == (58, 58)
    assert even.vertices[even.faces[:-2]] == pytest.approx(mixed.vertices[mixed.faces[:-2]])
    assert area(even) == pytest.approx(area(mixed), rel=1e-3)
    for damaged in (
        faces[:-1],
        [*faces[:-1], "3 56 57 no"],
        [*faces[:-1], "3 56 57"],
        [*faces[:-1], "nan 1 2 3"],
    ):
        path = file("damaged", corners, damaged)
        path.write_text(
            path.read_text().replace(f"face {len(damaged)}", "face 58").replace(f" {len(damaged)} 0", " 58 0")
        )
        with pytest.raises(UserError, match="is damaged"):
            opened(path)


def test_colours_of_even_rows_in_off(tmp_path: Path) -> None:
    """Three or four numbers of 255 or of one, of corners and of faces."""
    corners, faces = sheet(8)
    for paint, shade in (
        ("1 0.5 0", (255, 128, 0)),
        ("255 128 0 255", (255, 128, 0)),
        ("0 0 1 1.0", (0, 0, 255)),
    ):
        path = tmp_path / "m.off"
        path.write_text("\n".join(["OFF", "8 6 0", *corners, *(f"{face} {paint}" for face in faces)]))
        assert shades(opened(path)) == {shade}
        path.write_text("\n".join(["COFF", "8 6 0", *(f"{corner} {paint}" for corner in corners), *faces]))
        assert shades(opened(path)) == {shade}


# ---------------------------------------------------------------------- 3MF


def write_3mf(path: Path, resources: str, build: str, files: dict[str, bytes] | None = None) -> Path:
    core = "http://schemas.microsoft.com/3dmanufacturing/core/2015/02"
    paint = "http://schemas.microsoft.com/3dmanufacturing/material/2015/02"
    model = f'<model unit="inch" xmlns="{core}" xmlns:m="{paint}"><resources>{resources}</resources><build>{build}</build></model>'
    with zipfile.ZipFile(path, "w") as archive:
        archive.writestr(
            "_rels/.rels",
            '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/house.model" Id="r" '
            'Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>',
        )
        archive.writestr("3D/house.model", model)
        for name, data in (files or {}).items():
            archive.writestr(name, data)
    return path


def mesh_3mf(painted: str = "") -> str:
    corners = "".join(f'<vertex x="{x}" y="{y}" z="{z}"/>' for x, y, z in BOX)
    three = [(a, b, c) for p, q, r, s in SIDES for a, b, c in ((p, q, r), (p, r, s))]
    faces = "".join(f'<triangle v1="{a}" v2="{b}" v3="{c}" {painted}/>' for a, b, c in three)
    return f"<mesh><vertices>{corners}</vertices><triangles>{faces}</triangles></mesh>"


def test_things_of_3mf_stand_where_they_are_built_in_their_colours(tmp_path: Path) -> None:
    resources = (
        '<basematerials id="5"><base name="Brick" displaycolor="#C00000FF"/><base name="Pane" displaycolor="#0000FF40"/></basematerials>'
        f'<object id="1" pid="5" pindex="0" name="Pier">{mesh_3mf()}</object><object id="4" pid="5" pindex="1" name="Pane">{mesh_3mf()}</object>'
        '<object id="2"><components><component objectid="1"/><component objectid="1" transform="-1 0 0 0 1 0 0 0 2 3 0 0"/></components></object>'
        f'<object id="7" type="support">{mesh_3mf()}</object>'
    )
    items = (
        '<item objectid="2"/><item objectid="4" transform="1 0 0 0 1 0 0 0 1 0 10 0"/><item objectid="7"/>'
    )
    path = write_3mf(tmp_path / "m.3mf", resources, items)
    model, _ = read_model(path)
    assert model.bounds / 0.0254 == pytest.approx(np.array([(0, 0, 0), (3, 11, 2)]), abs=1e-4)
    assert [item.name for item in model.objects] == ["Pier", "Pier 2", "Pane"]
    looks = {material.name: material for material in model.materials}
    assert looks["Brick"].colour[0] == pytest.approx(192 / 255, abs=0.003)
    assert looks["Pane"].kind == "glass" and looks["Pane"].colour[3] == pytest.approx(0.25, abs=0.01)
    # The mirrored one is still seen from outside.
    pier = model.objects[1]
    faces = model.faces[pier.first_face : pier.first_face + pier.face_count]
    a, b, c = (model.vertices[faces[:, k]].astype(float) for k in range(3))
    assert np.einsum("ij,ij->i", a - a.mean(axis=0), np.cross(b, c)).sum() != 0
    outward = np.einsum(
        "ij,ij->i", (a + b + c) / 3 - model.vertices[np.unique(faces)].mean(axis=0), np.cross(b - a, c - a)
    )
    assert (outward > 0).all()


def test_colours_and_pictures_on_faces_of_3mf(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    picture(tmp_path / "t.png")
    painted, pictured = 'pid="6" p1="0" p2="1" p3="0"', 'pid="9" p1="0" p2="1" p3="2"'
    resources = (
        '<m:colorgroup id="6"><m:color color="#FF0000"/><m:color color="#00FF00"/></m:colorgroup>'
        '<m:texture2d id="8" path="/3D/t.png" contenttype="image/png" tilestyleu="clamp"/>'
        '<m:texture2dgroup id="9" texid="8"><m:tex2coord u="0" v="0"/><m:tex2coord u="1" v="0"/><m:tex2coord u="1" v="1"/></m:texture2dgroup>'
        f'<object id="1">{mesh_3mf(painted)}</object><object id="2">{mesh_3mf(pictured)}</object>'
    )
    files = {"3D/t.png": (tmp_path / "t.png").read_bytes()}
    model = opened(
        write_3mf(tmp_path / "m.3mf", resources, '<item objectid="1"/><item objectid="2"/>', files)
    )
    assert {(255, 0, 0), (0, 255, 0)} <= shades(model)
    (looks,) = (material for material in model.materials if material.image >= 0)
    assert looks.wraps == (CLAMP, CLAMP) and model.images[looks.image].name == "t.png"
    circle = '<object id="1"><components><component objectid="1"/></components></object>'
    with pytest.raises(UserError, match=r"c\.3mf is damaged: its parts are nested without end"):
        opened(write_3mf(tmp_path / "c.3mf", circle, '<item objectid="1"/>'))
    # Each object twice the one before: two to the 28th power of nothing.
    twice = "".join(
        f'<object id="{number}"><components><component objectid="{number - 1}"/><component objectid="{number - 1}"/></components></object>'
        for number in range(2, 30)
    )
    monkeypatch.setattr(threemf, "MOST_PLACED", 5_000)
    with pytest.raises(UserError, match="nested without end"):
        opened(write_3mf(tmp_path / "d.3mf", '<object id="1"/>' + twice, '<item objectid="29"/>'))


# ---------------------------------------------------------------------- CityJSON


def city(**told: Any) -> dict[str, Any]:
    flat = [[int(value * 1000) for value in point] for point in BOX]
    return {
        "type": "CityJSON",
        "version": "2.0",
        "transform": {"scale": [0.01, 0.01, 0.01], "translate": [0.0, 0.0, 0.0]},
        "vertices": flat,
        **told,
    }


SOLID = {"type": "Solid", "lod": "2.2", "boundaries": [[[list(side)] for side in SIDES]]}


def test_templates_of_a_city_stand_in_many_places(tmp_path: Path) -> None:
    tree = {"type": "MultiSurface", "lod": "2", "boundaries": [[list(side)] for side in SIDES]}
    large = [2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 5, 0, 0, 0, 0, 1]

    def instance(at: int) -> dict[str, Any]:
        shape = {"type": "GeometryInstance", "template": 0, "boundaries": [at], "transformationMatrix": large}
        return {"type": "SolitaryVegetationObject", "geometry": [shape]}

    trees = city(
        vertices=[[0, 0, 0], [5000, 0, 0]],
        CityObjects={"one": instance(0), "two": instance(1), "lost": instance(9)},
    )
    trees["geometry-templates"] = {"templates": [tree], "vertices-templates": BOX.tolist()}
    (tmp_path / "m.city.json").write_text(json.dumps(trees))
    model = opened(tmp_path / "m.city.json")
    assert model.bounds == pytest.approx(np.array([(0, 0, 0), (52, 2, 5)]), abs=1e-3)
    assert {item.category for item in model.objects} == {"Planting"} and len(model.objects) == 2
    assert "1 surfaces are damaged" in told(model)


def test_a_city_looks_as_its_file_says(tmp_path: Path) -> None:
    name = picture(tmp_path / "front.png")
    front = [[[0, 0, 1, 2, 3]], *[[[None]] for _ in SIDES[1:]]]
    shape = SOLID | {
        "material": {"plain": {"values": [[None, 0, 0, 1, 1, 1]]}},
        "texture": {"seen": {"values": [front]}},
    }
    looks = {
        "materials": [
            {"name": "Render", "diffuseColor": [1.0, 0.5, 0.0]},
            {"name": "Pane", "diffuseColor": [0.0, 0.0, 1.0], "transparency": 0.6},
        ],
        "textures": [{"type": "PNG", "image": name, "wrapMode": "clamp"}],
        "vertices-texture": [[0, 0], [0, 1], [1, 1], [1, 0]],
    }
    outline = {"type": "MultiSurface", "lod": "0", "boundaries": [[[0, 2, 6, 4]]]}
    things = {
        "house": {"type": "Building", "geometry": [outline], "children": ["part"]},
        "part": {"type": "BuildingPart", "geometry": [shape], "parents": ["house"]},
        "kerb": {
            "type": "Road",
            "geometry": [{"type": "MultiLineString", "lod": "1", "boundaries": [[0, 4, 6]]}],
        },
    }
    (tmp_path / "m.city.json").write_text(json.dumps(city(CityObjects=things, appearance=looks)))
    model = opened(tmp_path / "m.city.json")
    # The outline on the ground is not drawn beside what stands on it.
    assert len(model.faces) == 12 and len(model.linework.points) == 2
    by_name = {material.name: material for material in model.materials}
    assert by_name["Render"].colour == pytest.approx((1.0, 0.5, 0.0, 1.0))
    assert by_name["Pane"].colour[3] == pytest.approx(0.4) and by_name["Pane"].kind == "glass"
    (pictured,) = (number for number, material in enumerate(model.materials) if material.image >= 0)
    assert model.materials[pictured].wraps == (CLAMP, CLAMP)
    faces = model.faces[model.face_material == pictured]
    places = model.vertices[faces].reshape(-1, 3)[:, [0, 1]] / 10.0
    assert model.uvs[faces].reshape(-1, 2) == pytest.approx(places, abs=1e-5)


# ---------------------------------------------------------------------- COLLADA, OBJ, USD, IFC


def dae(path: Path, prims: str, nodes: str, library: str = "") -> Model:
    numbers = line(np.array(ELL).ravel())
    accessor = "".join(f'<param name="{axis}" type="float"/>' for axis in "XYZ")
    source = f'<source id="p"><float_array id="pa" count="18">{numbers}</float_array><technique_common><accessor source="#pa" count="6" stride="3">{accessor}</accessor></technique_common></source>'
    path.write_text(
        '<?xml version="1.0"?><COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1"><asset><up_axis>Z_UP</up_axis></asset>'
        f'<library_geometries><geometry id="g"><mesh>{source}<vertices id="v"><input semantic="POSITION" source="#p"/></vertices>{prims}</mesh></geometry></library_geometries>'
        f'{library}<library_visual_scenes><visual_scene id="s">{nodes}</visual_scene></library_visual_scenes><scene><instance_visual_scene url="#s"/></scene></COLLADA>'
    )
    return opened(path)


VERTEX = '<input semantic="VERTEX" source="#v" offset="0"/>'
WHOLE = f'<polylist count="1">{VERTEX}<vcount>6</vcount><p>0 1 2 3 4 5</p></polylist>'


def test_components_of_dae_are_placed_wherever_they_are_used(tmp_path: Path) -> None:
    """One component within another, which the file describes first."""
    library = (
        '<library_nodes><node id="pair" name="Pair"><node name="left"><instance_node url="#ell"/></node><node name="right">'
        '<translate>10 0 0</translate><instance_node url="#ell"/></node></node><node id="ell" name="Ell"><instance_geometry url="#g"/></node></library_nodes>'
    )
    nodes = '<node><instance_node url="#pair"/></node><node><translate>0 20 0</translate><scale>2 2 1</scale><instance_node url="#ell"/></node>'
    model = dae(tmp_path / "m.dae", WHOLE, nodes, library)
    assert area(model) == pytest.approx(3.0 + 3.0 + 12.0)
    assert model.bounds[1] == pytest.approx((12.0, 24.0, 0.0))
    assert len(model.objects) == 3


def test_lines_in_dae_lose_no_surface_and_what_leads_nowhere_is_said(tmp_path: Path) -> None:
    strips = f'<linestrips count="1">{VERTEX}<p>0 1 2 3</p></linestrips>'
    nodes = '<node id="n"><instance_geometry url="#g"/></node><node id="k"><instance_geometry url="#gone"/><instance_node url="other.dae#x"/></node>'
    model = dae(tmp_path / "m.dae", strips + WHOLE, nodes)
    assert area(model) == pytest.approx(3.0) and len(model.linework.points) == 3
    assert "2 things in the file refer to shapes that it does not hold" in told(model)


def test_letters_of_older_desktops_in_obj(tmp_path: Path) -> None:
    picture(tmp_path / "Ziegelwände.png")
    lines = "".join(f"v {line(point)}\n" for point in ELL)
    text = f"mtllib Wände.mtl\no Außenwand\n{lines}usemtl Größe\nf 1 2 3 4 5 6\n"
    (tmp_path / "m.obj").write_bytes(text.encode("cp1252"))
    (tmp_path / "Wände.mtl").write_bytes(
        "newmtl Größe\nmap_Kd -s 1 1 1 'D:\\Bilder\\Ziegelwände.png'\n".encode("cp1252")
    )
    model = opened(tmp_path / "m.obj")
    assert model.objects[0].name == "Außenwand"
    (material,) = model.materials
    assert material.name == "Größe" and model.images[material.image].name == "Ziegelwände.png"


def test_what_usd_shows_otherwise_is_named_and_points_have_their_colours(tmp_path: Path) -> None:
    stage = Usd.Stage.CreateNew(str(tmp_path / "m.usda"))
    UsdGeom.SetStageMetersPerUnit(stage, 1.0)
    UsdGeom.NurbsPatch.Define(stage, "/Sail")
    UsdGeom.Cube.Define(stage, "/Block")
    points = UsdGeom.Points.Define(stage, "/Scan")
    points.CreatePointsAttr([(float(x), 0.0, 0.0) for x in range(4)])
    points.CreateDisplayColorPrimvar(UsdGeom.Tokens.vertex).Set([(1.0, 0.0, 0.0)] * 4)
    stage.Save()
    model = opened(tmp_path / "m.usda")
    assert "not shown: 1 “NurbsPatch”" in told(model)
    assert (255, 0, 0) in shades(model)


def small_ifc(unit: bool = True) -> tuple[Any, Any, Any]:
    """A file in millimetres, or one that names no unit, its context and its project."""
    file = ifcopenshell.file(schema="IFC4")
    origin = file.createIfcAxis2Placement3D(file.createIfcCartesianPoint((0.0, 0.0, 0.0)))
    context = file.createIfcGeometricRepresentationContext(None, "Model", 3, 1e-5, origin)
    millimetres = file.createIfcSIUnit(None, "LENGTHUNIT", "MILLI", "METRE")
    units = file.createIfcUnitAssignment([millimetres]) if unit else None
    project = file.createIfcProject(
        ifcopenshell.guid.new(), Name="P", RepresentationContexts=[context], UnitsInContext=units
    )
    return file, context, project


def faces_of_block(file: Any, size: float) -> Any:
    """The sides of a cube in the file's units."""
    points = file.createIfcCartesianPointList3D((BOX * size).tolist())
    faces = [file.createIfcIndexedPolygonalFace([number + 1 for number in side]) for side in SIDES]
    return file.createIfcPolygonalFaceSet(points, None, faces, None)


def product(
    file: Any, context: Any, item: Any, name: str, at: tuple[float, float, float] = (0.0, 0.0, 0.0)
) -> Any:
    """A thing that shows one item, and where it stands."""
    kind = "MappedRepresentation" if item.is_a("IfcMappedItem") else "Tessellation"
    body = file.createIfcShapeRepresentation(context, "Body", kind, [item])
    place = file.createIfcAxis2Placement3D(file.createIfcCartesianPoint(at))
    return file.createIfcBuildingElementProxy(
        ifcopenshell.guid.new(),
        Name=name,
        ObjectPlacement=file.createIfcLocalPlacement(None, place),
        Representation=file.createIfcProductDefinitionShape(None, None, [body]),
    )


def test_colours_of_single_faces_in_ifc(tmp_path: Path) -> None:
    """A face set used through a map, moved and turned: three sides red, three blue."""
    file, context, project = small_ifc()
    shape = faces_of_block(file, 1000.0)
    paint = file.createIfcColourRgbList([[1.0, 0.0, 0.0], [0.0, 0.0, 1.0]])
    file.createIfcIndexedColourMap(shape, None, paint, [1, 1, 1, 2, 2, 2])
    inner = file.createIfcShapeRepresentation(context, "Body", "Tessellation", [shape])
    place = file.createIfcAxis2Placement3D(file.createIfcCartesianPoint((0.0, 0.0, 0.0)))
    target = file.createIfcCartesianTransformationOperator3D(
        file.createIfcDirection((0.0, 1.0, 0.0)),
        file.createIfcDirection((-1.0, 0.0, 0.0)),
        file.createIfcCartesianPoint((5000.0, 0.0, 0.0)),
        1.0,
    )
    mapped = file.createIfcMappedItem(file.createIfcRepresentationMap(place, inner), target)
    thing = product(file, context, mapped, "Pier", (0.0, 2000.0, 0.0))
    houses = [file.createIfcBuilding(ifcopenshell.guid.new(), Name=name) for name in ("Mill", "Barn")]
    file.createIfcRelAggregates(ifcopenshell.guid.new(), RelatingObject=project, RelatedObjects=houses)
    storeys = [
        file.createIfcBuildingStorey(ifcopenshell.guid.new(), Name="Ground floor", Elevation=level)
        for level in (0.0, 700.0)
    ]
    for house, storey in zip(houses, storeys, strict=True):
        file.createIfcRelAggregates(ifcopenshell.guid.new(), RelatingObject=house, RelatedObjects=[storey])
    file.createIfcRelContainedInSpatialStructure(
        ifcopenshell.guid.new(), RelatedElements=[thing], RelatingStructure=storeys[0]
    )
    file.write(str(tmp_path / "m.ifc"))
    model, _ = read_model(tmp_path / "m.ifc")
    assert [storey.name for storey in model.storeys] == ["Ground floor, Mill", "Ground floor, Barn"]
    assert model.bounds == pytest.approx(np.array([(4, 2, 0), (5, 3, 1)]), abs=1e-4)
    corner = model.vertices[model.faces].astype(float)
    normal = np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0])
    normal /= np.linalg.norm(normal, axis=1, keepdims=True)
    red = model.colours[model.faces[:, 0], 0] > 128
    # Below, above and the side that looked to -Y, which a quarter turn brings to +X.
    assert set(map(tuple, np.round(normal[red]).astype(int).tolist())) == {(0, 0, -1), (0, 0, 1), (1, 0, 0)}


@pytest.mark.parametrize("unit", [True, False])
def test_storeys_of_ifc_are_in_the_unit_that_is_taken(unit: bool, tmp_path: Path) -> None:
    """A block of 9 m with storeys at 0 and 3 m: in millimetres as the file says, or as is likely where it
    says nothing, or as chosen."""
    file, context, project = small_ifc(unit)
    thing = product(file, context, faces_of_block(file, 9000.0), "Block")
    storeys = [
        file.createIfcBuildingStorey(ifcopenshell.guid.new(), Name=f"Level {level:g}", Elevation=level)
        for level in (0.0, 3000.0)
    ]
    file.createIfcRelAggregates(ifcopenshell.guid.new(), RelatingObject=project, RelatedObjects=storeys)
    file.createIfcRelContainedInSpatialStructure(
        ifcopenshell.guid.new(), RelatedElements=[thing], RelatingStructure=storeys[0]
    )
    file.write(str(tmp_path / "m.ifc"))
    model, _ = read_model(tmp_path / "m.ifc")
    assert model.bounds[1] == pytest.approx((9.0, 9.0, 9.0))
    assert [storey.elevation_m for storey in model.storeys] == pytest.approx([0.0, 3.0])
    assert ("it is taken as millimetres" in told(model)) is not unit
    model, _ = read_model(tmp_path / "m.ifc", 0.01)
    assert model.bounds[1] == pytest.approx((90.0, 90.0, 90.0))
    assert [storey.elevation_m for storey in model.storeys] == pytest.approx([0.0, 30.0])


def test_layers_of_ifc_that_are_off_stay_away(tmp_path: Path) -> None:
    file, context, _ = small_ifc()
    kept, away = (
        product(file, context, faces_of_block(file, size), name)
        for name, size in (("Kept", 1000.0), ("Away", 5000.0))
    )
    for layer, thing, on in (("A-Old", away, False), ("A-New", kept, True)):
        shapes = thing.Representation.Representations
        file.createIfcPresentationLayerWithStyle(layer, None, shapes, None, on, False, False, [])
    file.write(str(tmp_path / "m.ifc"))
    model, _ = read_model(tmp_path / "m.ifc")
    assert [item.name for item in model.objects] == ["Kept"]
    assert "not shown: A-Old." in told(model)


# ---------------------------------------------------------------------- where one stands


def test_the_roof_of_a_block_is_no_ground(tmp_path: Path) -> None:
    """Blocks of a city: one stands beside them, on the land where there is some."""

    def blocks(*boxes: tuple[float, float, float, float]) -> float:
        lines, faces = [], []
        for number, (x, wide, low, high) in enumerate(boxes):
            lines += [f"v {x + wide * a} {wide * b} {low + (high - low) * c}" for a, b, c in BOX]
            faces += ["f " + " ".join(str(8 * number + corner + 1) for corner in side) for side in SIDES]
        (tmp_path / "m.obj").write_text("\n".join([*lines, *faces]))
        (storey,) = opened(tmp_path / "m.obj").storeys
        return storey.elevation_m

    assert blocks((0, 12, 0, 10), (40, 12, 0, 25)) == pytest.approx(0.0)
    assert blocks((-50, 200, 3.0, 4.0), (0, 12, 4, 14), (40, 12, 4, 29)) == pytest.approx(4.0)
    # A field is stood on, a warehouse not.
    assert blocks((0, 40, -0.5, 0.0)) == pytest.approx(0.0)
    assert blocks((0, 100, 0, 4.5)) == pytest.approx(0.0)


def test_what_is_flat_is_told_by_how_wide_it_is(tmp_path: Path) -> None:
    (tmp_path / "m.obj").write_text("v 0 0 0\nv 30000 0 0\nv 30000 20000 0\nv 0 20000 0\nf 1 2 3 4\n")
    model, _ = read_model(tmp_path / "m.obj")
    assert "it is taken as millimetres and is then 30 m wide" in told(model)


def test_usd_says_how_dense_things_without_a_material_are(tmp_path: Path) -> None:
    stage = Usd.Stage.CreateNew(str(tmp_path / "m.usda"))
    for number, (colour, opacity) in enumerate((((0.1, 0.6, 0.2), 0.3), (None, 0.3), ((0.1, 0.6, 0.2), 1.0))):
        box = UsdGeom.Cube.Define(stage, f"/box{number}")
        box.AddTranslateOp().Set((3.0 * number, 0.0, 0.0))
        if colour is not None:
            box.CreateDisplayColorAttr([colour])
        box.CreateDisplayOpacityAttr([opacity])
    stage.GetRootLayer().Save()
    model = opened(tmp_path / "m.usda")
    owners = model.face_objects()
    kinds = [model.materials[model.face_material[owners == number][0]] for number in range(3)]
    assert [item.kind for item in kinds] == [GLASS, GLASS, NO_GLASS]
    assert [item.colour[3] for item in kinds] == [pytest.approx(0.3), pytest.approx(0.3), 1.0]
    # The glass is green; what is solid is painted.
    r, g, b, _ = kinds[0].colour
    assert (r, g, b) == (0.35, 0.8, 0.49)
    assert len(model.colours) and kinds[2].name == "Painted"
