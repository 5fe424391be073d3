"""What lies beyond the edges of a picture is read from every kind of file, drawn so, traced so, and handed
on."""

from __future__ import annotations

import io
from dataclasses import replace
from pathlib import Path
from types import ModuleType

import numpy as np
import pytest
import trimesh
from PIL import Image
from pxr import Usd, UsdGeom

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.light.sky import sky_of
from altana.core.model import CLAMP, MIRROR, REPEAT, EncodedImage, Material, Model
from altana.core.project import Light
from altana.core.staging import WHOLE
from altana.exchange.model_out import add_to_stage, model_glb, pieces
from altana.importers.table import read_model
from altana.render.traced import surfaces as surfaces_module
from altana.render.traced.engine import llvm_library, start_engine
from altana.render.traced.surfaces import LARGEST_TEXTURE_PX, extended
from tests.conftest import model_of
from tests.importers.gltf_samples import Writer
from tests.importers.samples import ifc_wall
from tests.small_pictures import live_light, traced_light

#: Four quarters, the lower left one first, as u and v count.
QUARTERS = np.array([[(220, 20, 20), (20, 220, 20)], [(20, 20, 220), (200, 200, 200)]], np.uint8)
WAYS = (REPEAT, MIRROR, CLAMP)


def picture() -> bytes:
    buffer = io.BytesIO()
    Image.fromarray(QUARTERS[::-1].repeat(32, axis=0).repeat(32, axis=1)).save(buffer, "PNG")
    return buffer.getvalue()


def card(wraps: tuple[str, str]) -> Model:
    """6 x 6 m that stand before one, each picture 2 m wide: one to each side of the one in the middle."""
    flat = trimesh.Trimesh([(-3, 3, -3), (3, 3, -3), (3, 3, 3), (-3, 3, 3)], [(0, 1, 2), (0, 2, 3)])
    model = model_of(("Card", flat, Material("Card", (1.0, 1.0, 1.0, 1.0), 0, wraps=wraps)))
    uvs = ((model.vertices[:, [0, 2]] + 1.0) / 2.0).astype(np.float32)
    return replace(model, uvs=uvs, images=(EncodedImage("card", picture()),))


def taken(at: float, way: str) -> float:
    """Where on the picture a place lies, by the definition."""
    if way == CLAMP:
        return min(max(at, 0.0), 0.999)
    if way == MIRROR and np.floor(at) % 2:
        return 1.0 - at % 1.0
    return float(at % 1.0)


@pytest.fixture(scope="module")
def engine() -> ModuleType:
    return start_engine()[0]


@pytest.mark.skipif(not llvm_library(), reason="LLVM 19 is not installed")
@pytest.mark.parametrize(
    ("along", "up"),
    [pytest.param(along, up, marks=[pytest.mark.slow] * (along != up)) for along in WAYS for up in WAYS],
)
def test_it_is_drawn_and_traced_as_the_file_says(along: str, up: str, engine: ModuleType) -> None:
    model, sky = card((along, up)), sky_of(Light(hour=12.0))
    # 6 m wide at a distance of 3 m: each pixel is a tenth of a metre.
    view = View(Pose((0.0, 0.0, 0.0)), Lens(18.0), 60, 60)
    pictures = live_light(model, view, sky), traced_light(engine, model, view, sky, 4)
    for row in range(6):
        for column in range(6):
            # The middle of each half picture; v counts from below.
            u, v = (column * 10 + 5) / 20 - 1.0, 2.0 - (row * 10 + 5) / 20
            quarter = QUARTERS[int(taken(v, up) * 2), int(taken(u, along) * 2)]
            wanted = (quarter / quarter.max()) ** 2.2
            for light in pictures:
                there = light[row * 10 + 3 : row * 10 + 8, column * 10 + 3 : column * 10 + 8].mean(
                    axis=(0, 1)
                )
                assert there / there.max() == pytest.approx(wanted, abs=0.15), (row, column)


def test_the_other_edge_does_not_shine_in() -> None:
    """A clamped sign, white on the left and black on the right, has no grey seam at its left edge."""
    buffer = io.BytesIO()
    Image.fromarray(np.repeat([[255] * 8 + [0] * 8], 16, axis=0).astype(np.uint8)).save(buffer, "PNG")
    drawn = {}
    for way in (CLAMP, REPEAT):
        model = replace(card((way, way)), images=(EncodedImage("sign", buffer.getvalue()),))
        model = replace(model, uvs=(model.uvs + 1.0) / np.float32(3.0))
        light = live_light(model, View(Pose((-2.95, 2.4, 0.0)), Lens(50.0), 40, 40), sky_of(Light(hour=12.0)))
        # The card's edge lies at the 15th pixel.
        drawn[way] = light[20, 16:36, 1]
    assert drawn[CLAMP].min() > 0.9 * drawn[CLAMP].max()
    assert drawn[REPEAT].min() < 0.75 * drawn[REPEAT].max()


@pytest.mark.parametrize("wraps", [(MIRROR, CLAMP), (CLAMP, REPEAT)])
def test_what_is_written_out_takes_no_more_than_the_largest_picture(
    wraps: tuple[str, str], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(surfaces_module, "LARGEST_TEXTURE_PX", LARGEST_TEXTURE_PX // 64)
    side = LARGEST_TEXTURE_PX // 64
    ramp = np.repeat(np.linspace(0.0, 1.0, side, dtype=np.float32)[None], side, axis=0)
    picture, way, count = extended(ramp, wraps)
    assert way == REPEAT and picture.size <= 1.1 * side**2
    # The first of its pictures is still the picture.
    first = picture[: picture.shape[0] // count[1], : picture.shape[1] // count[0]]
    assert first.mean() == pytest.approx(0.5, abs=0.02) and np.ptp(first) > 0.9


def test_samplers_of_gltf(tmp_path: Path) -> None:
    wraps = []
    for told in ({"wrapS": 33071, "wrapT": 33648}, {"wrapS": 10497}, {}, None):
        writer = Writer()
        number = writer.picture(QUARTERS)
        if told is not None:
            writer.tree["samplers"] = [told]
            writer.tree["textures"][number]["sampler"] = 0
        writer.square("Wall", writer.material(pbrMetallicRoughness={"baseColorTexture": {"index": number}}))
        wraps.append(read_model(writer.write(tmp_path / "m.glb"), 1.0)[0].materials[0].wraps)
    assert wraps == [(CLAMP, MIRROR), (REPEAT, REPEAT), (REPEAT, REPEAT), (REPEAT, REPEAT)]


def test_options_of_obj(tmp_path: Path) -> None:
    (tmp_path / "sign.png").write_bytes(picture())
    (tmp_path / "m.mtl").write_text(
        "newmtl a\nmap_Kd -clamp on sign.png\nnewmtl b\nmap_Kd -clamp off -s 2 2 1 sign.png\n"
    )
    (tmp_path / "m.obj").write_text(
        "mtllib m.mtl\nv 0 0 0\nv 9 0 0\nv 9 0 9\nusemtl a\nf 1 2 3\nusemtl b\nf 1 2 3\n"
    )
    materials = read_model(tmp_path / "m.obj", 1.0)[0].materials
    assert [item.wraps for item in materials] == [(CLAMP, CLAMP), (REPEAT, REPEAT)]
    assert all(item.image >= 0 for item in materials)


DAE = """<?xml version="1.0"?><COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
<asset><unit name="meter" meter="1"/><up_axis>Z_UP</up_axis></asset>
<library_images><image id="i"><init_from>sign.png</init_from></image></library_images>
<library_effects><effect id="e"><profile_COMMON>
<newparam sid="f"><surface type="2D"><init_from>i</init_from></surface></newparam>
<newparam sid="p"><sampler2D><source>f</source><wrap_s>MIRROR</wrap_s><wrap_t>CLAMP</wrap_t></sampler2D></newparam>
<technique sid="t"><phong><diffuse><texture texture="p" texcoord="UV"/></diffuse></phong></technique></profile_COMMON></effect></library_effects>
<library_materials><material id="m" name="Sign"><instance_effect url="#e"/></material></library_materials>
<library_geometries><geometry id="g" name="Shape"><mesh>
<source id="s"><float_array id="sa" count="9">0 0 0 4 0 0 4 0 4</float_array><technique_common>
<accessor source="#sa" count="3" stride="3"><param name="X" type="float"/><param name="Y" type="float"/><param name="Z" type="float"/></accessor>
</technique_common></source>
<vertices id="v"><input semantic="POSITION" source="#s"/></vertices>
<triangles material="x" count="1"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2</p></triangles>
</mesh></geometry></library_geometries>
<library_visual_scenes><visual_scene id="w"><node id="n" name="Sign">
<instance_geometry url="#g"><bind_material><technique_common><instance_material symbol="x" target="#m"/></technique_common></bind_material>
</instance_geometry></node></visual_scene></library_visual_scenes><scene><instance_visual_scene url="#w"/></scene></COLLADA>"""


def test_samplers_of_dae(tmp_path: Path) -> None:
    (tmp_path / "sign.png").write_bytes(picture())
    (tmp_path / "m.dae").write_text(DAE)
    material = read_model(tmp_path / "m.dae")[0].materials[0]
    assert material.image >= 0 and material.wraps == (MIRROR, CLAMP)


def test_pictures_of_ifc_that_are_not_repeated(tmp_path: Path) -> None:
    (tmp_path / "sign.png").write_bytes(picture())
    file, style = ifc_wall("Sign")
    texture = file.createIfcImageTexture(False, True, "DIFFUSE", None, None, "sign.png")
    style.Styles = (*style.Styles, file.createIfcSurfaceStyleWithTextures([texture]))
    file.write(str(tmp_path / "m.ifc"))
    material = next(item for item in read_model(tmp_path / "m.ifc")[0].materials if item.name == "Sign")
    assert material.image >= 0 and material.wraps == (CLAMP, REPEAT)


def test_gltf_that_is_handed_on_says_it_too(tmp_path: Path) -> None:
    model = card((CLAMP, MIRROR))
    (tmp_path / "m.glb").write_bytes(model_glb(model, pieces(model, WHOLE)))
    back = read_model(tmp_path / "m.glb", 1.0)[0]
    assert next(item for item in back.materials if item.name == "Card").wraps == (CLAMP, MIRROR)


def test_and_so_does_usd(tmp_path: Path) -> None:
    model, path = card((MIRROR, CLAMP)), tmp_path / "m.usda"
    stage = Usd.Stage.CreateNew(str(path))
    UsdGeom.SetStageUpAxis(stage, UsdGeom.Tokens.z)
    UsdGeom.SetStageMetersPerUnit(stage, 1.0)
    add_to_stage(stage, path, model, pieces(model, WHOLE), (0.0, 0.0, 0.0))
    stage.Save()
    back = read_model(path)[0]
    assert next(item for item in back.materials if item.image >= 0).wraps == (MIRROR, CLAMP)
