"""What surfaces are where files say little: panes clear or frosted, looking-glasses by their name or by what
throws light back."""

from __future__ import annotations

from pathlib import Path

import pytest

from altana.core.model import GLASS, SOLID, Material
from altana.importers.finish import CLEAR_ROUGHNESS, FROSTED_ROUGHNESS, is_mirror, pane_roughness
from altana.importers.ifc import METAL_ROUGHNESS
from altana.importers.table import read_model
from tests.importers.samples import ifc_wall
from tests.importers.test_gltf import material_of
from tests.importers.test_surfaces import DAE, ELL


@pytest.mark.parametrize("name", ["Glass", "Glas", "Window pane", "Opaline", "Mattress"])
def test_glass_is_clear_where_nothing_is_said(name: str) -> None:
    assert pane_roughness(name) == (FROSTED_ROUGHNESS if name == "Opaline" else CLEAR_ROUGHNESS)


@pytest.mark.parametrize("name", ["Frosted glass", "GLASS_SATIN", "milk glass", "Sandblasted"])
def test_glass_is_frosted_where_it_is_called_so(name: str) -> None:
    assert pane_roughness(name) == FROSTED_ROUGHNESS
    assert pane_roughness(name, 0.8) == 0.8


def test_gltf_says_it_with_what_it_lets_through(tmp_path: Path) -> None:
    blended = material_of(
        tmp_path, pbrMetallicRoughness={"baseColorFactor": [1, 1, 1, 0.2]}, alphaMode="BLEND"
    )
    assert (blended.kind, blended.roughness) == (GLASS, CLEAR_ROUGHNESS)
    frosted = material_of(
        tmp_path,
        pbrMetallicRoughness={"roughnessFactor": 0.6},
        extensions={"KHR_materials_transmission": {"transmissionFactor": 1.0}},
    )
    assert (frosted.kind, frosted.roughness) == (GLASS, pytest.approx(0.6))


MIRRORS = ["Mirror", "Spiegel", "wall_mirror_01", "Silver mirror glass", "Badspiegel", "MIROIR 2"]
OTHERS = ["Mirror frame", "Spiegelschrank", "Mirror cabinet oak", "Wasserspiegel", "Silver", "Glass", "Paint"]


@pytest.mark.parametrize("name", MIRRORS + OTHERS)
def test_looking_glasses_are_known_by_their_name_alone(name: str) -> None:
    assert is_mirror(name) == (name in MIRRORS)


def obj_material(folder: Path, name: str, more: str) -> Material:
    (folder / "m.mtl").write_text(f"newmtl {name}\nKd 0.02 0.02 0.02\n{more}\n")
    (folder / "m.obj").write_text(
        f"mtllib m.mtl\nusemtl {name}\nv 0 0 0\nv 3 0 0\nv 3 3 0\nv 0 3 0\nf 1 2 3 4\n"
    )
    return read_model(folder / "m.obj")[0].materials[0]


def test_obj_asks_for_a_picture_of_what_lies_around(tmp_path: Path) -> None:
    chrome = obj_material(tmp_path, "Tap", "illum 3\nKs 0.8 0.7 0.6")
    assert chrome.colour[:3] == pytest.approx((0.8, 0.7, 0.6))
    assert (chrome.metal, chrome.kind) == (1.0, SOLID) and chrome.roughness < 0.05
    # Dark lacquer and rubber are none, nor what does not ask for it; what says itself how much metal it is is
    # believed.
    assert obj_material(tmp_path, "Tap", "illum 3\nKs 0.1 0.1 0.1").metal == 0.0
    assert obj_material(tmp_path, "Tap", "illum 2\nKs 0.8 0.7 0.6").metal == 0.0
    assert obj_material(tmp_path, "Mirror", "illum 2").metal == 1.0
    assert obj_material(tmp_path, "Mirror", "illum 2\nPm 0.0\nPr 0.5").metal == 0.0
    assert obj_material(tmp_path, "Mirror", "d 0.3").kind == GLASS


@pytest.mark.parametrize(
    ("diffuse", "share", "metal"), [("0.05 0.05 0.05 1", 0.9, 1.0), ("0.05 0.05 0.05 1", 0.1, 0.0), ("0.8 0.2 0.2 1", 0.9, 0.0)]
)  # fmt: skip
def test_dae_says_how_much_it_reflects(tmp_path: Path, diffuse: str, share: float, metal: float) -> None:
    around = (
        f"<reflective><color>1 1 1 1</color></reflective><reflectivity><float>{share}</float></reflectivity>"
    )
    faces = '<polylist material="x" count="1"><input semantic="VERTEX" source="#v" offset="0"/><vcount>6</vcount><p>0 1 2 3 4 5</p></polylist>'
    text = DAE.replace("0.5 0.25 0.1 1", diffuse)
    rows = [*(f"{x * 100} 0 {z * 100}" for x, z in ELL), "100 0 50", "200 0 50"]
    (tmp_path / "m.dae").write_text(
        text.format(points=" ".join(rows), faces=faces, through=around, name="Panel")
    )
    assert read_model(tmp_path / "m.dae")[0].materials[0].metal == metal


@pytest.mark.parametrize(
    ("name", "method", "metal", "rough"),
    [("Panel", "MIRROR", 1.0, 0.02), ("Panel", "METAL", 1.0, METAL_ROUGHNESS), ("Panel", "PLASTIC", 0.0, 0.8), ("Spiegel", "NOTDEFINED", 1.0, 0.02)],
)  # fmt: skip
def test_ifc_names_how_light_is_thrown_back(
    tmp_path: Path, name: str, method: str, metal: float, rough: float
) -> None:
    ifc_wall(name, method)[0].write(str(tmp_path / "m.ifc"))
    material = next(item for item in read_model(tmp_path / "m.ifc")[0].materials if item.name == name)
    assert (material.metal, material.roughness) == (metal, pytest.approx(rough))
