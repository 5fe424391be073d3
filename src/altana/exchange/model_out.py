"""The model as it is shown, as a glTF binary (through trimesh) or in a USD stage: objects by name, materials
and their pictures."""

from __future__ import annotations

import io
import json
import struct
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
import trimesh
from PIL import Image

from altana.core.conventions import Floats, Floats32, Ints32, Vec3
from altana.core.distinct import distinct
from altana.core.model import BLEND, CLAMP, MASK, MIRROR, REPEAT, Material, Model
from altana.core.staging import Staging
from altana.exchange.gltf_out import TURN

Tree = dict[str, Any]
#: What glTF calls what lies beyond the edges of a picture.
WRAPS = {REPEAT: 10497, MIRROR: 33648, CLAMP: 33071}


@dataclass(frozen=True, slots=True)
class Piece:
    """The part of an object that has one material: vertices (n, 3) metres with z up, normals (n, 3), faces
    (m, 3), uvs (n, 2) or None.

    ``placement`` (4, 4) moves it, where it is nudged.
    """

    name: str
    category: str
    material: int
    vertices: Floats32
    normals: Floats32
    faces: Ints32
    uvs: Floats32 | None
    placement: Floats


def pieces(model: Model, staging: Staging) -> list[Piece]:
    """Every object that is shown, parted by material."""
    left, moved = set(staging.omitted), {item.index: item.array() for item in staging.moved}
    pieces: list[Piece] = []
    for number, item in enumerate(model.objects):
        if number in left or not item.face_count:
            continue
        rows = slice(item.first_face, item.first_face + item.face_count)
        faces, drawn = model.faces[rows], model.face_material[rows]
        for material in distinct(drawn).tolist():
            used, places = np.unique(faces[drawn == material], return_inverse=True)
            uvs = model.uvs[used] if len(model.uvs) else None
            pieces.append(
                Piece(
                    item.name,
                    item.category,
                    int(material),
                    model.vertices[used],
                    model.normals[used],
                    places.reshape(-1, 3).astype(np.int32),
                    uvs if uvs is not None and bool(uvs.any()) else None,
                    moved.get(number, np.eye(4)),
                )
            )
    return pieces


def picture_of(model: Model, index: int) -> bytes:
    """A picture of the model as the file held it; empty where there is none."""
    return model.images[index].data if 0 <= index < len(model.images) else b""


# ---------------------------------------------------------------------- glTF


def model_glb(model: Model, pieces: Sequence[Piece]) -> bytes:
    """A glTF binary of pieces, y up, in the coordinates of the model's file."""
    materials = [_gltf_material(model, item) for item in model.materials]
    turned = np.eye(4)
    turned[:3, :3] = TURN
    moved = np.eye(4)
    moved[:3, 3] = model.offset
    scene = trimesh.Scene()
    for number, piece in enumerate(pieces):
        mesh = trimesh.Trimesh(
            piece.vertices @ TURN.T, piece.faces, vertex_normals=piece.normals @ TURN.T, process=False
        )
        # A material without a picture keeps its colour only where there are coordinates for one.
        uvs = piece.uvs if piece.uvs is not None else np.zeros((len(piece.vertices), 2))
        mesh.visual = trimesh.visual.TextureVisuals(uv=uvs, material=materials[piece.material])  # type: ignore[no-untyped-call]
        mesh.metadata = {"object": piece.name, "category": piece.category}
        # What is moved is moved with z up, before it is turned.
        placement = turned @ moved @ piece.placement @ turned.T
        scene.add_geometry(mesh, node_name=f"{piece.name} {number}", geom_name=f"{piece.name} {number}", transform=placement)  # fmt: skip
    wraps = {item.name: item.wraps for item in model.materials}
    data = scene.export(  # type: ignore[no-untyped-call]
        file_type="glb", include_normals=True, tree_postprocessor=lambda tree: _tell_wraps(tree, wraps)
    )
    assert isinstance(data, bytes)
    return data


def _gltf_material(model: Model, item: Material) -> Any:
    data = picture_of(model, item.image)
    picture = Image.open(io.BytesIO(data)) if data else None
    see_through = item.colour[3] < 1.0 or item.alpha == BLEND
    return trimesh.visual.material.PBRMaterial(  # type: ignore[no-untyped-call]
        name=item.name,
        baseColorFactor=_linear_bytes(item.colour),
        baseColorTexture=picture,
        metallicFactor=float(item.metal),
        roughnessFactor=float(item.roughness),
        emissiveFactor=[min(float(value), 1.0) for value in item.emission],
        alphaMode="MASK" if item.alpha == MASK else "BLEND" if see_through else "OPAQUE",
        alphaCutoff=item.cutoff if item.alpha == MASK else None,
        doubleSided=True,
    )


def _tell_wraps(tree: Tree, wraps: Mapping[str, tuple[str, str]]) -> None:
    """Say in a glTF tree what lies beyond the edges of pictures.  wraps : by the names of materials."""
    for material in tree.get("materials", []):
        texture = material.get("pbrMetallicRoughness", {}).get("baseColorTexture")
        u, v = wraps.get(material.get("name", ""), (REPEAT, REPEAT))
        if texture is None or (u, v) == (REPEAT, REPEAT):
            continue
        samplers = tree.setdefault("samplers", [])
        samplers.append({"wrapS": WRAPS[u], "wrapT": WRAPS[v]})
        # Of its own: the same picture may be laid on in another way elsewhere.
        shared = tree["textures"][texture["index"]]
        tree["textures"].append({**shared, "sampler": len(samplers) - 1})
        texture["index"] = len(tree["textures"]) - 1


def linear_of(colour: Sequence[float]) -> list[float]:
    """sRGB red, green, blue as linear (IEC 61966-2-1)."""
    value = np.asarray(colour[:3], float)
    linear = np.where(value <= 0.04045, value / 12.92, ((value + 0.055) / 1.055) ** 2.4)
    return [float(item) for item in linear]


def _linear_bytes(colour: Sequence[float]) -> list[float]:
    return [*linear_of(colour), float(colour[3])]


def merged_glb(one: bytes, other: bytes) -> bytes:
    """Two glTF binaries in one scene: the nodes, cameras and animations of the second beside what the first
    holds."""
    first, first_blob = _parted(one)
    second, second_blob = _parted(other)
    first_blob += b"\0" * (-len(first_blob) % 4)
    shift = {name: len(first.get(name, [])) for name in ("nodes", "cameras", "accessors", "bufferViews")}
    for view in second.get("bufferViews", []):
        first.setdefault("bufferViews", []).append(
            {**view, "byteOffset": view.get("byteOffset", 0) + len(first_blob)}
        )
    for accessor in second.get("accessors", []):
        first.setdefault("accessors", []).append(
            {**accessor, "bufferView": accessor["bufferView"] + shift["bufferViews"]}
        )
    for node in second.get("nodes", []):
        more = (
            {"children": [child + shift["nodes"] for child in node["children"]]} if "children" in node else {}
        )
        more |= {"camera": node["camera"] + shift["cameras"]} if "camera" in node else {}
        first.setdefault("nodes", []).append({**node, **more})
    first.setdefault("cameras", []).extend(second.get("cameras", []))
    for animation in second.get("animations", []):
        first.setdefault("animations", []).append(
            {
                **animation,
                "samplers": [
                    {
                        **item,
                        "input": item["input"] + shift["accessors"],
                        "output": item["output"] + shift["accessors"],
                    }
                    for item in animation["samplers"]
                ],
                "channels": [
                    {**item, "target": {**item["target"], "node": item["target"]["node"] + shift["nodes"]}}
                    for item in animation["channels"]
                ],
            }
        )
    first["scenes"][first.get("scene", 0)]["nodes"] += [
        node + shift["nodes"] for node in second["scenes"][0]["nodes"]
    ]
    if not first.get("cameras"):
        first.pop("cameras", None)
    return _joined(first, first_blob + second_blob)


def _parted(data: bytes) -> tuple[Tree, bytes]:
    length = struct.unpack_from("<I", data, 12)[0]
    document: Tree = json.loads(data[20 : 20 + length])
    rest = data[20 + length :]
    return document, rest[8 : 8 + struct.unpack_from("<I", rest, 0)[0]] if rest else b""


def _joined(document: Tree, blob: bytes) -> bytes:
    document["buffers"] = [{"byteLength": len(blob)}]
    document["asset"] = {"version": "2.0", "generator": "Altana"}
    text = json.dumps(document, ensure_ascii=False, allow_nan=False).encode()
    text += b" " * (-len(text) % 4)
    blob += b"\0" * (-len(blob) % 4)
    chunks = (
        struct.pack("<II", len(text), 0x4E4F534A) + text + struct.pack("<II", len(blob), 0x004E4942) + blob
    )
    return struct.pack("<III", 0x46546C67, 2, 12 + len(chunks)) + chunks


# ---------------------------------------------------------------------- USD


def add_to_stage(stage: Any, path: Path, model: Model, pieces: Sequence[Piece], offset: Vec3) -> None:
    """Meshes and materials into a stage; pictures are written into a folder beside it.  Raises OSError."""
    from pxr import Gf, Sdf, Tf, UsdGeom, UsdShade, Vt

    top = UsdGeom.Xform.Define(stage, "/Model")
    top.AddTranslateOp().Set(Gf.Vec3d(*offset))
    shades = [
        _usd_material(stage, path, model, number) for number in sorted({item.material for item in pieces})
    ]
    known = dict(zip(sorted({item.material for item in pieces}), shades, strict=True))
    for number, piece in enumerate(pieces):
        name = f"{Tf.MakeValidIdentifier(piece.name) or 'Object'}_{number}"
        mesh = UsdGeom.Mesh.Define(stage, f"/Model/{name}")
        prim = mesh.GetPrim()
        prim.SetMetadata("displayName", piece.name)
        prim.SetCustomDataByKey("altana:category", piece.category)
        mesh.CreatePointsAttr(Vt.Vec3fArray.FromNumpy(np.ascontiguousarray(piece.vertices, np.float32)))
        mesh.CreateNormalsAttr(Vt.Vec3fArray.FromNumpy(np.ascontiguousarray(piece.normals, np.float32)))
        mesh.SetNormalsInterpolation(UsdGeom.Tokens.vertex)
        mesh.CreateFaceVertexIndicesAttr(
            Vt.IntArray.FromNumpy(np.ascontiguousarray(piece.faces.ravel(), np.int32))
        )
        mesh.CreateFaceVertexCountsAttr(Vt.IntArray.FromNumpy(np.full(len(piece.faces), 3, np.int32)))
        mesh.CreateSubdivisionSchemeAttr(UsdGeom.Tokens.none)
        mesh.CreateDoubleSidedAttr(True)
        low, high = piece.vertices.min(axis=0), piece.vertices.max(axis=0)
        mesh.CreateExtentAttr([Gf.Vec3f(*low.tolist()), Gf.Vec3f(*high.tolist())])
        if not np.array_equal(piece.placement, np.eye(4)):
            mesh.AddTransformOp().Set(Gf.Matrix4d(*piece.placement.T.ravel().tolist()))
        if piece.uvs is not None:
            places = UsdGeom.PrimvarsAPI(prim).CreatePrimvar(
                "st", Sdf.ValueTypeNames.TexCoord2fArray, UsdGeom.Tokens.vertex
            )
            places.Set(Vt.Vec2fArray.FromNumpy(np.ascontiguousarray(piece.uvs, np.float32)))
        UsdShade.MaterialBindingAPI.Apply(prim).Bind(known[piece.material])


def _usd_material(stage: Any, path: Path, model: Model, number: int) -> Any:
    from pxr import Gf, Sdf, Tf, UsdShade

    item = model.materials[number]
    where = f"/Materials/{Tf.MakeValidIdentifier(item.name) or 'Material'}_{number}"
    material = UsdShade.Material.Define(stage, where)
    shader = UsdShade.Shader.Define(stage, f"{where}/surface")
    shader.CreateIdAttr("UsdPreviewSurface")
    kinds = Sdf.ValueTypeNames
    shader.CreateInput("roughness", kinds.Float).Set(float(item.roughness))
    shader.CreateInput("metallic", kinds.Float).Set(float(item.metal))
    shader.CreateInput("opacity", kinds.Float).Set(float(item.colour[3]))
    shader.CreateInput("emissiveColor", kinds.Color3f).Set(
        Gf.Vec3f(*(float(value) for value in item.emission))
    )
    colour = shader.CreateInput("diffuseColor", kinds.Color3f)
    data = picture_of(model, item.image)
    if not data:
        colour.Set(Gf.Vec3f(*linear_of(item.colour)))
    else:
        suffix = ".jpg" if data[:2] == b"\xff\xd8" else ".png"
        folder = path.with_name(f"{path.stem}-pictures")
        folder.mkdir(exist_ok=True)
        (folder / f"{item.image}{suffix}").write_bytes(data)
        reader = UsdShade.Shader.Define(stage, f"{where}/places")
        reader.CreateIdAttr("UsdPrimvarReader_float2")
        reader.CreateInput("varname", kinds.String).Set("st")
        texture = UsdShade.Shader.Define(stage, f"{where}/picture")
        texture.CreateIdAttr("UsdUVTexture")
        texture.CreateInput("file", kinds.Asset).Set(Sdf.AssetPath(f"./{folder.name}/{item.image}{suffix}"))
        for word, wrap in zip(("wrapS", "wrapT"), item.wraps, strict=True):
            texture.CreateInput(word, kinds.Token).Set(wrap)
        texture.CreateInput("st", kinds.Float2).ConnectToSource(reader.CreateOutput("result", kinds.Float2))
        texture.CreateInput("scale", kinds.Float4).Set(Gf.Vec4f(*linear_of(item.colour), 1.0))
        colour.ConnectToSource(texture.CreateOutput("rgb", kinds.Float3))
    material.CreateSurfaceOutput().ConnectToSource(shader.ConnectableAPI(), "surface")
    return material
