"""Linework and cameras inside model files, DXF drawings, units and axes corrected."""

from __future__ import annotations

from pathlib import Path

import ezdxf
import ifcopenshell.api
import numpy as np
import pytest
import trimesh
from ezdxf import units

from altana.core.errors import UserError
from altana.core.model import join
from altana.core.project import ModelRef, Project
from altana.demo.write_dxf import BOUNDARY, write_dxf
from altana.demo.write_glb import CAMERAS
from altana.importers.table import read_model
from altana.jobs.models import Opened, open_project_models
from altana.storage.project_file import take_in
from tests.conftest import box_between


def drawing(path: Path, unit: int, draw) -> Path:  # type: ignore[no-untyped-def]
    document = ezdxf.new("R2010")
    document.header["$INSUNITS"] = unit
    draw(document)
    document.saveas(path)
    return path


def test_a_drawing_is_lines_by_layer_in_metres(tmp_path: Path) -> None:
    def draw(document) -> None:  # type: ignore[no-untyped-def]
        space = document.modelspace()
        space.add_line((0, 0), (3000, 4000), dxfattribs={"layer": "Axis"})
        space.add_circle((0, 0), 1000, dxfattribs={"layer": "Tree"})
        space.add_text("not a line")
        block = document.blocks.new("Door")
        block.add_line((0, 0), (900, 0))
        space.add_blockref("Door", (5000, 0), dxfattribs={"rotation": 90})

    model, _ = read_model(drawing(tmp_path / "a.dxf", units.MM, draw))
    lines = model.linework
    assert (model.unit, len(model.faces), model.storeys) == ("mm", 0, ())
    assert {"Axis", "Tree"} <= set(lines.layers)
    axis = lines.points[lines.layer == lines.layers.index("Axis")]
    assert axis[0] == pytest.approx(np.array([(0, 0, 0), (3, 4, 0)]), abs=1e-6)
    ring = lines.points[lines.layer == lines.layers.index("Tree")]
    assert np.linalg.norm(ring[:, 0, :2], axis=1) == pytest.approx(np.ones(len(ring)), abs=1e-4)
    door = lines.points[
        (lines.layer != lines.layers.index("Axis")) & (lines.layer != lines.layers.index("Tree"))
    ]
    assert door[0] == pytest.approx(np.array([(5, 0, 0), (5, 0.9, 0)]), abs=1e-6)


def test_a_drawing_without_a_unit_says_what_is_assumed(tmp_path: Path) -> None:
    path = drawing(tmp_path / "a.dxf", 0, lambda d: d.modelspace().add_line((0, 0), (3, 0)))
    model, _ = read_model(path)
    assert "no unit" in model.problems[0].sentence
    assert read_model(path, 0.01)[0].linework.points[0, 1, 0] == pytest.approx(0.03)
    with pytest.raises(UserError, match="no lines"):
        read_model(drawing(tmp_path / "empty.dxf", units.M, lambda d: None))
    (tmp_path / "b.dxf").write_text("nonsense")
    with pytest.raises(UserError, match="damaged or is not a DXF"):
        read_model(tmp_path / "b.dxf")


def test_the_demo_has_its_drawing_and_its_architects_cameras(demo_opened: Opened, tmp_path: Path) -> None:
    model = demo_opened.model
    assert set(model.linework.layers) == {"Boundary", "Grid", "Trees", "Way in"}
    edge = model.linework.points[model.linework.layer == model.linework.layers.index("Boundary")]
    assert edge[:, 0, :2] == pytest.approx(np.array(BOUNDARY), abs=1e-3)
    cameras = {camera.name: camera for camera in model.cameras}
    assert set(cameras) == {name for name, *_ in CAMERAS}
    for name, eye, heading, tilt, focal in CAMERAS:
        camera = cameras[name]
        assert camera.eye == pytest.approx(eye, abs=1e-5)
        assert (camera.heading_deg, camera.tilt_deg, camera.roll_deg) == pytest.approx(
            (heading, tilt, 0.0), abs=1e-5
        )
        assert camera.focal_mm == pytest.approx(focal, rel=1e-6)
    for name in ("a.dxf", "b.dxf"):
        write_dxf(tmp_path / name)
    assert (tmp_path / "a.dxf").read_bytes() == (tmp_path / "b.dxf").read_bytes()


def test_ids_of_the_first_model_stay_when_another_is_added(demo_opened: Opened) -> None:
    model = demo_opened.model
    both = join([model, model])
    assert [item.id for item in both.objects[: len(model.objects)]] == [item.id for item in model.objects]
    assert both.objects[len(model.objects)].id == f"1:{model.objects[0].id}"
    assert len(both.linework.points) == 2 * len(model.linework.points)
    assert both.linework.layers[both.linework.layer[-1]] == model.linework.layers[model.linework.layer[-1]]


def test_a_project_of_drawings_alone_asks_for_a_building(tmp_path: Path) -> None:
    write_dxf(tmp_path / "site.dxf")
    with pytest.raises(UserError, match="only linework"):
        open_project_models(Project(models=(ModelRef("model-01", "site.dxf"),)), tmp_path / "p.altana")
    assert take_in(tmp_path / "site.dxf", [], tmp_path / "p.altana") == "site.dxf"


def test_lines_and_points_of_obj_and_gltf(tmp_path: Path) -> None:
    text = "o Box\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf 1 2 3 4\ng Axis\nv 0 0 0\nv 5 0 0\nv 5 0 -2\nl 5 6 7\np 7\n"
    (tmp_path / "a.obj").write_text(text)
    model, _ = read_model(tmp_path / "a.obj", up="y")
    assert model.linework.layers == ("Axis",)
    assert model.linework.points[:2].reshape(-1, 3) == pytest.approx(
        np.array([(0, 0, 0), (5, 0, 0), (5, 0, 0), (5, 2, 0)]), abs=1e-6
    )
    assert len(model.linework.points) == 4
    scene = trimesh.Scene()
    scene.add_geometry(box_between((0, 0, 0), (4, 4, 1)), node_name="Slab")
    scene.add_geometry(trimesh.load_path(np.array([[(0, 0, 0), (0, 3, 0)]])), node_name="Grid")
    scene.export(tmp_path / "a.glb")
    lines = read_model(tmp_path / "a.glb", up="z")[0].linework
    assert lines.points.reshape(-1, 3)[[0, -1]] == pytest.approx(np.array([(0, 0, 0), (0, 3, 0)]), abs=1e-6)


def test_axes_and_units_can_be_corrected(tmp_path: Path) -> None:
    box_between((0, 0, 0), (2, 3, 5)).export(tmp_path / "a.stl")
    tall = read_model(tmp_path / "a.stl", up="z")[0].bounds
    flat = read_model(tmp_path / "a.stl", up="y")[0].bounds
    assert (tall[1] - tall[0]) == pytest.approx((2, 3, 5), abs=1e-5)
    assert (flat[1] - flat[0]) == pytest.approx((2, 5, 3), abs=1e-5)
    small = read_model(tmp_path / "a.stl", 0.3048, "z")[0].bounds
    assert (small[1] - small[0]) == pytest.approx((0.6096, 0.9144, 1.524), abs=1e-5)


@pytest.mark.slow
def test_annotation_and_grid_of_an_ifc_file(tmp_path: Path, demo_files: Path) -> None:
    file = ifcopenshell.open(str(demo_files / "larkwater.ifc"))
    grid = ifcopenshell.api.run("root.create_entity", file, ifc_class="IfcGrid", name="Hall")
    ends = [file.createIfcCartesianPoint(place) for place in ((0.0, -1.0), (0.0, 10.0))]
    across = [file.createIfcCartesianPoint(place) for place in ((-1.0, 2.0), (9.0, 2.0))]
    grid.UAxes = [file.createIfcGridAxis("A", file.createIfcPolyline(ends), True)]
    grid.VAxes = [file.createIfcGridAxis("1", file.createIfcPolyline(across), True)]
    ifcopenshell.api.run("geometry.edit_object_placement", file, product=grid)
    file.write(str(tmp_path / "grid.ifc"))
    lines = read_model(tmp_path / "grid.ifc")[0].linework
    assert lines.layers == ("Grid Hall",)
    assert lines.points.reshape(-1, 3)[:, :2] == pytest.approx(
        np.array([(0, -1), (0, 10), (-1, 2), (9, 2)]), abs=1e-6
    )


DAE = """<?xml version="1.0"?><COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
<asset><unit meter="0.01" name="cm"/><up_axis>Z_UP</up_axis></asset>
<library_cameras><camera id="View"><optics><technique_common><perspective><xfov>60</xfov><aspect_ratio>1.5</aspect_ratio>
<znear>1</znear><zfar>100</zfar></perspective></technique_common></optics></camera></library_cameras>
<library_geometries><geometry id="g" name="Slab"><mesh><source id="p"><float_array id="pa" count="12">0 0 0 100 0 0 100 100 0 0 100 0</float_array>
<technique_common><accessor source="#pa" count="4" stride="3"><param name="X" type="float"/><param name="Y" type="float"/>
<param name="Z" type="float"/></accessor></technique_common></source><vertices id="v"><input semantic="POSITION" source="#p"/></vertices>
<triangles count="2"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2 0 2 3</p></triangles>
<lines count="1"><input semantic="VERTEX" source="#v" offset="0"/><p>0 2</p></lines></mesh></geometry></library_geometries>
<library_visual_scenes><visual_scene id="s"><node id="n"><instance_geometry url="#g"/></node>
<node id="c"><matrix>1 0 0 200 0 0 -1 -300 0 1 0 160 0 0 0 1</matrix><instance_camera url="#View"/></node></visual_scene></library_visual_scenes>
<scene><instance_visual_scene url="#s"/></scene></COLLADA>"""


def test_lines_and_cameras_of_a_dae_file(tmp_path: Path) -> None:
    (tmp_path / "a.dae").write_text(DAE)
    model, _ = read_model(tmp_path / "a.dae")
    assert model.linework.points.reshape(-1, 3) == pytest.approx(np.array([(0, 0, 0), (1, 1, 0)]), abs=1e-6)
    camera = model.cameras[0]
    assert camera.eye == pytest.approx((2.0, -3.0, 1.6))
    assert (camera.heading_deg, camera.tilt_deg, camera.roll_deg) == pytest.approx((0.0, 0.0, 0.0), abs=1e-6)
    assert camera.focal_mm == pytest.approx(18.0 / np.tan(np.radians(30)), rel=1e-6)
    assert camera.width_px / camera.height_px == pytest.approx(1.5)
