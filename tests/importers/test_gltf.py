"""glTF as its specification says: every kind of primitive and number, skins, instances, compression,
materials; refusals by name."""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import Any

import DracoPy
import numpy as np
import pytest
import trimesh
from PIL import Image
from scipy.spatial.transform import Rotation
from trimesh.visual.material import PBRMaterial

from altana.core.errors import UserError
from altana.core.light.tone import encoded
from altana.core.model import GLASS, MASK, OPAQUE, SOLID, Model
from altana.importers import build
from altana.importers.gltf.scene import rotation_of
from altana.importers.raw import Part
from altana.importers.table import read_model
from altana.render.traced.engine import start_engine
from altana.render.traced.surfaces import Surfaces
from tests.conftest import box_between
from tests.importers.gltf_samples import SQUARE, SQUARE_FACES, SQUARE_UVS, Writer


def area(model: Model) -> float:
    corner = model.vertices[model.faces].astype(float)
    return float(
        np.linalg.norm(np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0]), axis=1).sum() / 2
    )


def facing(model: Model) -> np.ndarray:
    """Directions of the triangles by their winding."""
    corner = model.vertices[model.faces].astype(float)
    normal = np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0])
    return normal / np.linalg.norm(normal, axis=1, keepdims=True)


def read(writer: Writer, folder: Path) -> Model:
    return read_model(writer.write(folder / "m.glb"))[0]


@pytest.mark.parametrize(
    ("mode", "order"),
    [(4, [0, 1, 2, 0, 2, 3]), (5, [0, 1, 3, 2]), (6, [0, 1, 2, 3])],
    ids=["triangles", "strip", "fan"],
)
def test_triangles_strips_and_fans_are_the_same_square(mode: int, order: list[int], tmp_path: Path) -> None:
    writer = Writer()
    mesh = writer.mesh(
        {"POSITION": writer.numbers(SQUARE)}, indices=writer.numbers(np.array(order, np.uint32)), mode=mode
    )
    writer.node("Wall", mesh=mesh)
    model = read(writer, tmp_path)
    assert area(model) == pytest.approx(4.0)
    # +Z of the file looks south in the model.
    assert facing(model) == pytest.approx(np.tile((0.0, -1.0, 0.0), (2, 1)))


def test_numbers_without_indices_and_a_mirrored_node_face_outwards(tmp_path: Path) -> None:
    writer = Writer()
    flat = SQUARE[SQUARE_FACES]
    writer.node("Wall", mesh=writer.mesh({"POSITION": writer.numbers(flat)}), scale=[-1, 1, 1])
    model = read(writer, tmp_path)
    assert area(model) == pytest.approx(4.0)
    assert facing(model) == pytest.approx(np.tile((0.0, -1.0, 0.0), (2, 1)))
    assert model.bounds[0, 0] == pytest.approx(-2.0)


def test_quantized_numbers_strides_and_sparse_replacements(tmp_path: Path) -> None:
    writer = Writer()
    writer.tree["extensionsRequired"] = writer.tree["extensionsUsed"] = ["KHR_mesh_quantization"]
    short = np.zeros((4, 4), np.int16)
    short[:, :3] = np.rint(SQUARE / 2 * 32767)
    view = writer.view(short.tobytes(), byteStride=8)
    accessor = {"bufferView": view, "componentType": 5122, "count": 4, "type": "VEC3", "normalized": True}
    corner = writer.view(np.array([2], np.uint16).tobytes())
    value = writer.view(np.array([32767, 32767, 16384, 0], np.int16).tobytes())
    accessor["sparse"] = {
        "count": 1,
        "indices": {"bufferView": corner, "componentType": 5123},
        "values": {"bufferView": value},
    }
    writer.tree["accessors"].append(accessor)
    mesh = writer.mesh({"POSITION": len(writer.tree["accessors"]) - 1}, indices=writer.numbers(SQUARE_FACES))
    writer.node("Wall", mesh=mesh, scale=[2, 2, 2])
    model = read(writer, tmp_path)
    # The third corner was replaced by one that stands a metre before the others.
    assert model.bounds == pytest.approx(np.array([(0, -1, 0), (2, 0, 2)]), abs=1e-3)


def test_a_skin_stands_in_its_rest_pose(tmp_path: Path) -> None:
    writer = Writer()
    bind = np.tile(np.eye(4, dtype=np.float32), (2, 1, 1))
    attributes = {
        "POSITION": writer.numbers(SQUARE),
        "JOINTS_0": writer.numbers(np.array([[0, 1, 0, 0]] * 4, np.uint8)),
        "WEIGHTS_0": writer.numbers(
            np.array([[1, 0, 0, 0], [1, 0, 0, 0], [0, 1, 0, 0], [0.5, 0.5, 0, 0]], np.float32)
        ),
    }
    mesh = writer.mesh(attributes, indices=writer.numbers(SQUARE_FACES))
    still, raised = writer.node("Still"), writer.node("Raised", translation=[0, 4, 0])
    writer.tree["skins"] = [
        {"joints": [still, raised], "inverseBindMatrices": writer.numbers(bind.reshape(2, 16))}
    ]
    writer.node("Banner", mesh=mesh, skin=0, translation=[100, 0, 0])
    points = read(writer, tmp_path).vertices
    # What a joint carries goes with it, half and half where two do; the node's own place does not count.
    assert sorted(np.unique(points[:, 2]).round(3).tolist()) == [0.0, 4.0, 6.0]
    assert points[:, 0].max() == pytest.approx(2.0)


def test_instances_are_things_of_their_own(tmp_path: Path) -> None:
    writer = Writer()
    writer.tree["extensionsRequired"] = ["EXT_mesh_gpu_instancing"]
    places = np.array([(0, 0, 0), (10, 0, 0), (20, 0, 0)], np.float32)
    half = np.float32(np.sqrt(0.5))
    turned = np.array([(0, 0, 0, 1), (0, half, 0, half), (0, 0, 0, 1)], np.float32)
    more = {"attributes": {"TRANSLATION": writer.numbers(places), "ROTATION": writer.numbers(turned)}}
    writer.square("Panel", extensions={"EXT_mesh_gpu_instancing": more})
    model = read(writer, tmp_path)
    assert [item.name for item in model.objects] == ["Panel", "Panel 2", "Panel 3"]
    assert len({item.id for item in model.objects}) == 3
    assert area(model) == pytest.approx(12.0)
    second = model.vertices[model.faces[2:4]].reshape(-1, 3)
    # A quarter turn about the vertical: it now runs north.
    assert np.ptp(second, axis=0) == pytest.approx((0.0, 2.0, 2.0), abs=1e-5)


@pytest.mark.parametrize("how", ["instances", "nodes"])
def test_copies_share_their_surface_until_they_are_put_together(
    how: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Turned, mirrored and stretched: each stands where it should, facing where it should."""
    writer = Writer()
    facing = np.tile(np.array([0.0, 0.0, 1.0], np.float32), (len(SQUARE), 1))
    attributes = {"POSITION": writer.numbers(SQUARE), "NORMAL": writer.numbers(facing)}
    mesh = writer.mesh(attributes, indices=writer.numbers(SQUARE_FACES))
    places = np.array([(0, 0, 0), (10, 0, 0), (20, 0, 0)], np.float32)
    half = np.float32(np.sqrt(0.5))
    turns = np.array([(0, 0, 0, 1), (0, half, 0, half), (0, 0, 0, 1)], np.float32)
    sizes = np.array([(1, 1, 1), (1, 1, 1), (-2, 1, 3)], np.float32)
    if how == "instances":
        given = {"TRANSLATION": places, "ROTATION": turns, "SCALE": sizes}
        more = {"attributes": {name: writer.numbers(values) for name, values in given.items()}}
        writer.node("Panel", mesh=mesh, extensions={"EXT_mesh_gpu_instancing": more})
    else:
        for place, turn, size in zip(places.tolist(), turns.tolist(), sizes.tolist(), strict=True):
            writer.node("Panel", mesh=mesh, translation=place, rotation=turn, scale=size)
    shared: list[int] = []
    real = build._sound

    def looked(part: Part, looked_at: object) -> object:
        shared.append(id(part.vertices))
        return real(part, looked_at)  # type: ignore[arg-type]

    monkeypatch.setattr(build, "_sound", looked)
    model = read(writer, tmp_path)
    assert len(shared) == 3
    assert len(set(shared)) == 1
    assert area(model) == pytest.approx(4.0 + 4.0 + 8.0)
    for item, width in zip(model.objects, (2.0, 0.0, 4.0), strict=True):
        faces = model.faces[item.first_face : item.first_face + item.face_count]
        corners = model.vertices[faces].astype(float)
        assert np.ptp(corners.reshape(-1, 3)[:, 0]) == pytest.approx(width, abs=1e-5)
        wound = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
        told = model.normals[faces[:, 0]]
        assert np.linalg.norm(told, axis=1) == pytest.approx(1.0, abs=1e-5)
        assert (np.einsum("ij,ij->i", wound, told) > 0.0).all()


def test_draco_is_unpacked(tmp_path: Path) -> None:
    writer = Writer()
    writer.tree["extensionsRequired"] = writer.tree["extensionsUsed"] = ["KHR_draco_mesh_compression"]
    packed = DracoPy.encode(
        SQUARE, SQUARE_FACES.reshape(-1, 3).astype(np.uint32), quantization_bits=14, preserve_order=True
    )
    writer.tree["accessors"].append({"componentType": 5126, "count": 4, "type": "VEC3"})
    told = {"KHR_draco_mesh_compression": {"bufferView": writer.view(packed), "attributes": {"POSITION": 0}}}
    writer.node("Wall", mesh=writer.mesh({"POSITION": 0}, extensions=told))
    model = read(writer, tmp_path)
    assert area(model) == pytest.approx(4.0, rel=1e-3)


@pytest.mark.parametrize(
    ("name", "word"),
    [
        ("EXT_meshopt_compression", "meshopt"),
        ("KHR_texture_basisu", "KTX2"),
        ("ACME_hologram", "ACME_hologram"),
    ],
)
def test_what_is_not_understood_is_refused_by_name(name: str, word: str, tmp_path: Path) -> None:
    writer = Writer()
    writer.square("Wall")
    writer.tree["extensionsRequired"] = [name]
    with pytest.raises(UserError, match=word):
        read(writer, tmp_path)


def test_painted_vertices_keep_their_colours(tmp_path: Path) -> None:
    writer = Writer()
    shades = np.array([(1, 0, 0), (1, 0, 0), (0, 0, 1), (0, 0, 1)], np.float32)
    mesh = writer.mesh(
        {"POSITION": writer.numbers(SQUARE), "COLOR_0": writer.numbers(shades)},
        indices=writer.numbers(SQUARE_FACES),
    )
    writer.node("Wall", mesh=mesh)
    writer.square("Plain")
    model = read(writer, tmp_path)
    assert len(model.colours) == len(model.vertices)
    low = model.vertices[: len(model.faces[:2].ravel()), 2] < 1
    assert (model.colours[: len(low)][low][:, :3] == (255, 0, 0)).all() and (model.colours[-4:] == 255).all()


def test_texture_transforms_choose_and_move_coordinates(tmp_path: Path) -> None:
    writer = Writer()
    picture = writer.picture(np.zeros((4, 4, 3), np.uint8))
    moved = {"KHR_texture_transform": {"offset": [0.25, 0.5], "scale": [3, 2], "texCoord": 1}}
    material = writer.material(
        pbrMetallicRoughness={"baseColorTexture": {"index": picture, "extensions": moved}}
    )
    attributes = {
        "POSITION": writer.numbers(SQUARE),
        "TEXCOORD_0": writer.numbers(np.zeros((4, 2), np.float32)),
        "TEXCOORD_1": writer.numbers(SQUARE_UVS),
    }
    writer.node("Wall", mesh=writer.mesh(attributes, indices=writer.numbers(SQUARE_FACES), material=material))
    uvs = read(writer, tmp_path).uvs
    assert sorted(np.unique(uvs[:, 0]).tolist()) == pytest.approx([0.25, 3.25])
    assert sorted(np.unique(uvs[:, 1]).tolist()) == pytest.approx([1 - 2.5, 1 - 0.5])


def material_of(folder: Path, pixels: np.ndarray | None = None, **told: Any) -> Any:
    writer = Writer()
    if pixels is not None:
        told.setdefault("pbrMetallicRoughness", {})["baseColorTexture"] = {"index": writer.picture(pixels)}
    writer.square("Wall", writer.material(**{"name": "M", **told}))
    return read(writer, folder).materials[0]


HOLED = np.dstack([np.full((4, 4, 3), 90, np.uint8), np.indices((4, 4)).sum(0).astype(np.uint8) % 2 * 255])


def test_opacity_is_what_alpha_mode_says(tmp_path: Path) -> None:
    leaf = material_of(tmp_path, HOLED, alphaMode="MASK", alphaCutoff=0.3)
    assert (leaf.alpha, leaf.cutoff, leaf.kind, leaf.has_holes) == (MASK, 0.3, SOLID, True)
    board = material_of(tmp_path, HOLED)
    assert (board.alpha, board.colour[3], board.has_holes) == (OPAQUE, 1.0, False)
    # Alpha in the factor counts only where the file asks for it.
    solid = material_of(tmp_path, pbrMetallicRoughness={"baseColorFactor": [1, 1, 1, 0.2]})
    pane = material_of(tmp_path, pbrMetallicRoughness={"baseColorFactor": [1, 1, 1, 0.2]}, alphaMode="BLEND")
    assert (solid.kind, solid.colour[3], pane.kind, pane.colour[3]) == (SOLID, 1.0, GLASS, pytest.approx(0.2))


def test_glass_metal_glow_and_the_older_gloss(tmp_path: Path) -> None:
    tinted = {
        "KHR_materials_transmission": {"transmissionFactor": 1.0},
        "KHR_materials_volume": {
            "attenuationColor": [0.1, 1.0, 0.1],
            "attenuationDistance": 0.01,
            "thicknessFactor": 0.01,
        },
    }
    glass = material_of(tmp_path, extensions={**tinted, "KHR_materials_ior": {"ior": 1.45}})
    assert glass.kind == GLASS and glass.ior == 1.45 and glass.colour[1] > 2 * glass.colour[0]
    # Twice as thick it has lost twice as much; what has no thickness loses nothing.
    for thick, left in ((0.02, 0.01), (0.005, 0.1**0.5), (0.0, 1.0)):
        told = {**tinted["KHR_materials_volume"], "thicknessFactor": thick}
        material = material_of(tmp_path, extensions={**tinted, "KHR_materials_volume": told})
        assert material.colour[0] == pytest.approx(float(encoded(np.array([left]))[0]), abs=1e-3)
    # With a thickness it is a body, which takes its colour by the metre, whatever the file's unit; without
    # one it is a pane.
    assert glass.solid_glass and glass.absorbed == pytest.approx(
        (math.log(10) * 100, 0.0, math.log(10) * 100)
    )
    assert not material.solid_glass
    (in_millimetres,) = read_model(tmp_path / "m.glb", 0.001)[0].materials
    assert in_millimetres.absorbed == pytest.approx(np.array(material.absorbed) * 1000)
    # The darker what comes through, the denser the pane; it stays glass, however dark.
    clear = {"KHR_materials_transmission": {"transmissionFactor": 1.0}}
    panes = [
        material_of(tmp_path, pbrMetallicRoughness={"baseColorFactor": [*shade, 1]}, extensions=clear)
        for shade in ((1, 1, 1), (0.9, 0.95, 0.93), (0.03, 0.45, 0.07), (0.001, 0.001, 0.001))
    ]
    assert [item.kind for item in panes] == [GLASS] * 4
    dense = [item.colour[3] for item in panes]
    assert dense == sorted(dense) and dense[0] == pytest.approx(0.1) and dense[1] < 0.2 < 0.5 < dense[2]
    metal = material_of(
        tmp_path,
        pbrMetallicRoughness={
            "metallicFactor": 1.0,
            "roughnessFactor": 0.3,
            "baseColorFactor": [0.9, 0.6, 0.3, 1],
        },
    )
    assert (metal.metal, metal.roughness) == (1.0, 0.3)
    sign = material_of(
        tmp_path,
        emissiveFactor=[0, 0.5, 1],
        extensions={"KHR_materials_emissive_strength": {"emissiveStrength": 4.0}},
    )
    assert sign.emission == pytest.approx((0.0, 2.0, 4.0))
    old = material_of(
        tmp_path,
        extensions={
            "KHR_materials_pbrSpecularGlossiness": {
                "diffuseFactor": [0.5, 0.2, 0.1, 1],
                "glossinessFactor": 0.7,
            }
        },
    )
    assert (
        old.roughness == pytest.approx(0.3)
        and old.metal == 0.0
        and old.colour[0] == pytest.approx(float(encoded(np.array([0.5]))[0]))
    )


def test_water_is_only_where_it_is_water(tmp_path: Path) -> None:
    assert material_of(tmp_path, name="Lake_water").kind == "water"
    for name in ("sea-blue wall paint", "Pool tiles", "Water pipe", "Watercolour", "Waterproofing"):
        assert material_of(tmp_path, name=name).kind == SOLID, name


def test_all_missing_pictures_are_named_and_found_by_bare_name(tmp_path: Path) -> None:
    writer = Writer()
    writer.tree["images"] = [{"uri": f"lost-{number}.png"} for number in range(6)] + [
        {"uri": "C:\\Textures\\WOOD.png"}
    ]
    writer.tree["textures"] = [{"source": number} for number in range(7)]
    for number in range(7):
        writer.square(
            f"Wall {number}", writer.material(pbrMetallicRoughness={"baseColorTexture": {"index": number}})
        )
    (tmp_path / "maps").mkdir()
    from PIL import Image

    Image.new("RGB", (8, 8), "brown").save(tmp_path / "maps" / "wood.PNG")
    path = writer.write(tmp_path / "m.glb")
    model, others = read_model(path)
    told = next(item for item in model.problems if item.code == "missing-files").sentence
    assert all(f"lost-{number}.png" in told for number in range(6)) and "WOOD" not in told
    assert others == ["maps/wood.PNG"] and len(model.images) == 1


def test_loops_doublings_and_lies_are_told_in_one_sentence(tmp_path: Path) -> None:
    loop = Writer()
    first = loop.square("A")
    loop.tree["nodes"][first]["children"] = [first]
    assert any(item.code == "damaged-nodes" for item in read(loop, tmp_path).problems)
    beyond = Writer()
    mesh = beyond.mesh(
        {"POSITION": beyond.numbers(SQUARE)}, indices=beyond.numbers(np.array([0, 1, 9], np.uint16))
    )
    beyond.node("A", mesh=mesh)
    with pytest.raises(UserError, match="names corner 9 of 4"):
        read(beyond, tmp_path)
    huge = Writer()
    huge.square("A")
    huge.tree["accessors"].append({"componentType": 5126, "count": 10**12, "type": "VEC3"})
    huge.tree["meshes"][0]["primitives"][0]["attributes"]["POSITION"] = len(huge.tree["accessors"]) - 1
    with pytest.raises(UserError, match="GB of memory"):
        read(huge, tmp_path)


def test_a_small_file_may_hold_a_large_model(tmp_path: Path) -> None:
    """Limits come from the machine's memory, not from the file's size."""
    writer = Writer()
    side = 60
    x, y = np.meshgrid(np.arange(side), np.arange(side))
    points = np.stack([x.ravel(), np.zeros(side * side), y.ravel()], axis=1).astype(np.float32) * 0.01
    corner = (np.arange(side - 1)[:, None] * side + np.arange(side - 1)).ravel()
    faces = np.stack(
        [corner, corner + side, corner + 1, corner + 1, corner + side, corner + side + 1], axis=1
    ).astype(np.uint32)
    mesh = writer.mesh({"POSITION": writer.numbers(points)}, indices=writer.numbers(faces.ravel()))
    for number in range(60):
        writer.node(f"Tile {number}", mesh=mesh, translation=[number * 0.7, 0, 0])
    path = writer.write(tmp_path / "m.glb")
    model = read_model(path)[0]
    assert path.stat().st_size < 200_000
    assert len(model.faces) == 60 * 2 * (side - 1) ** 2


def test_json_of_the_other_version_is_told(tmp_path: Path) -> None:
    (tmp_path / "old.gltf").write_text(json.dumps({"asset": {"version": "1.0"}}))
    with pytest.raises(UserError, match="version 1"):
        read_model(tmp_path / "old.gltf")


def test_quaternions_turn_as_the_standard_library_says() -> None:
    for quaternion in np.random.default_rng(4).normal(size=(50, 4)):
        assert np.allclose(rotation_of(quaternion), Rotation.from_quat(quaternion).as_matrix(), atol=1e-12)
    assert np.array_equal(rotation_of(np.zeros(4)), np.eye(3))


def test_metal_and_roughness_of_a_picture(tmp_path: Path) -> None:
    """Live their mean holds, whatever the factors are; final has them place by place as the file says."""
    pixels = np.zeros((4, 4, 3), np.uint8)
    pixels[:, :2] = (0, 204, 255)
    pixels[:, 2:] = (0, 102, 0)
    box = box_between((0, 0, 0), (1, 1, 1))
    for metal, rough in ((1.0, 1.0), (0.6, 0.5)):
        box.visual = trimesh.visual.TextureVisuals(
            uv=np.asarray(box.vertices)[:, :2],
            material=PBRMaterial(
                metallicFactor=metal, roughnessFactor=rough, metallicRoughnessTexture=Image.fromarray(pixels)
            ),
        )
        box.export(tmp_path / "m.glb")
        model = read_model(tmp_path / "m.glb")[0]
        (material,) = model.materials
        assert (material.metal, material.roughness) == (
            pytest.approx(0.5 * metal),
            pytest.approx(0.6 * rough),
        )
        mi, _ = start_engine()
        surface = Surfaces(mi, model).of(material, False)["surface"]
        pictures = {name: np.array(surface[name]["bitmap"]) for name in ("metallic", "roughness")}
        assert np.allclose(np.unique(pictures["metallic"]), [0.0, metal], atol=0.01)
        assert np.allclose(np.unique(pictures["roughness"]), np.array([0.4, 0.8]) * rough, atol=0.01)
