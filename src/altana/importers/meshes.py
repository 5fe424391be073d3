"""glTF, OBJ, STL, PLY and DAE, read with trimesh and brought to metres and Z up.

glTF is metres and Y up by its standard; DAE says both in its header; OBJ, STL and PLY say neither, so they are
judged by their size and by which way their level surfaces lie, and what was assumed is said.
"""

from __future__ import annotations

import hashlib
import io
import json
import logging
import re
import struct
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
import trimesh
from PIL import Image
from trimesh.exchange.gltf import load_glb, load_gltf
from trimesh.resolvers import FilePathResolver
from trimesh.scene.transforms import SceneGraph

from altana.core.conventions import Floats
from altana.core.errors import UserError
from altana.core.model import GLASS, SOLID, WATER, EncodedImage, Material, Problem, Room, Storey
from altana.importers.build import Part, RawModel
from altana.importers.extras import read_dae_extras, read_gltf_extras, read_obj_lines

Z_UP_FROM_Y_UP = np.array([[1.0, 0, 0, 0], [0, 0, -1, 0], [0, 1, 0, 0], [0, 0, 0, 1]])
#: A file without a unit that would be larger than this many metres is taken as millimetres.
TOO_LARGE_M = 2_000.0

# The library reports what it skips through logging; what matters is said as problems instead.
logging.getLogger("trimesh").setLevel(logging.CRITICAL)


class FolderResolver(FilePathResolver):
    """Reads only what lies in the model's own folder or below it, and remembers what was read or missing."""

    def __init__(self, source: str) -> None:
        super().__init__(source)
        self.read: list[str] = []
        self.missing: list[str] = []

    def get(self, name: str) -> bytes:
        """The bytes of a file named by the model; ValueError when it lies elsewhere."""
        base = Path(self.parent).resolve()
        wanted = (base / str(name).replace("\\", "/")).resolve()
        if not wanted.is_relative_to(base) or not wanted.is_file():
            self.missing.append(str(name))
            raise ValueError(f"{name} is not in the model's folder")
        self.read.append(str(wanted.relative_to(base)))
        return wanted.read_bytes()


def read_mesh_file(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """The parts of a mesh file and the other files it was read from.

    unit_m : metres per unit, 0 to find out.  up : the axis that points up, "y" or "z", empty to find out.
    """
    suffix = path.suffix.lower().lstrip(".")
    resolver = FolderResolver(str(path))
    data = path.read_bytes()
    _check_head(suffix, data, path.name)
    options: dict[str, Any] = {"split_objects": True, "group_material": True} if suffix == "obj" else {}
    scene: Any
    if suffix in ("glb", "gltf"):
        scene = _gltf_scene(suffix, data, resolver)
    else:
        scene = trimesh.load_scene(io.BytesIO(data), file_type=suffix, resolver=resolver, process=False, **options)
    raw = RawModel()
    matrix = _to_world(suffix, data, scene, unit_m, up, raw)
    _parts(scene, matrix, raw)
    _metadata(scene, raw)
    if suffix in ("glb", "gltf"):
        read_gltf_extras(suffix, data, scene, matrix, raw)
    elif suffix == "obj":
        read_obj_lines(data, matrix, raw)
    elif suffix == "dae":
        read_dae_extras(data, matrix, raw)
    if resolver.missing:
        names = ", ".join(sorted(set(resolver.missing))[:4])
        raw.problems.append(Problem("missing-files", f"Not found in the model's folder: {names}. Plain colours stand in."))
    return raw, resolver.read


@dataclass(slots=True)
class _BareMesh:
    """A mesh as the glTF parser gives it, without the checks and tables of a full mesh object, which cost as much again."""

    vertices: Any
    faces: Any
    normals: Any
    visual: Any
    metadata: dict[str, Any]


@dataclass(slots=True)
class _BareScene:
    graph: SceneGraph
    geometry: dict[str, _BareMesh]
    metadata: dict[str, Any]
    #: Lines and points: name to vertices and, for lines, the chains of vertex numbers.
    drawn: dict[str, tuple[Any, Any]]


def _gltf_scene(suffix: str, data: bytes, resolver: FolderResolver) -> _BareScene:
    if suffix == "glb":
        parsed = load_glb(io.BytesIO(data), resolver=resolver, skip_materials=False)
    else:
        parsed = load_gltf(io.BytesIO(data), resolver=resolver)
    graph = SceneGraph()
    for edge in parsed.get("graph") or ():
        graph.update(**edge)
    if "base_frame" in parsed:
        graph.base_frame = parsed["base_frame"]
    meshes = {
        name: _BareMesh(item["vertices"], item["faces"], item.get("vertex_normals"), item.get("visual"), item.get("metadata") or {})
        for name, item in parsed["geometry"].items()
        if "faces" in item and item.get("vertices") is not None
    }
    drawn = {
        name: (item["vertices"], item.get("entities"))
        for name, item in parsed["geometry"].items()
        if "faces" not in item and item.get("vertices") is not None
    }
    told = parsed.get("metadata")
    return _BareScene(graph, meshes, told if isinstance(told, dict) else {}, drawn)


def _check_head(suffix: str, data: bytes, name: str) -> None:
    if not data.strip():
        raise UserError(f"{name} is empty. Nothing was changed. Export it again, or choose another file.")
    if suffix == "glb":
        if data[:4] != b"glTF" or len(data) < 20:
            raise UserError(f"{name} is not a binary glTF file. Nothing was changed. Choose another file.")
        total = struct.unpack_from("<I", data, 8)[0]
        if total > len(data):
            raise UserError(f"{name} breaks off: {len(data)} of {total} bytes are there. Nothing was changed. Copy or export it again.")


def _to_world(suffix: str, data: bytes, scene: Any, unit_m: float, up: str, raw: RawModel) -> Floats:
    chosen = {"y": Z_UP_FROM_Y_UP, "z": np.eye(4)}.get(up)
    if suffix in ("glb", "gltf"):
        return (Z_UP_FROM_Y_UP if chosen is None else chosen) * np.array([[unit_m or 1.0]] * 3 + [[1.0]])
    if suffix == "dae":
        head = data[:20000].decode("utf-8", "replace")
        unit = re.search(r"<unit\b[^>]*\bmeter\s*=\s*[\"']([-+.\deE]+)[\"']", head)
        scale = unit_m or (float(unit.group(1)) if unit else 1.0)
        if not 1e-6 < scale < 1e6:
            raise ValueError(f"a unit of {scale} metres")
        raw.unit = "metre" if scale == 1.0 else f"{scale:g} m"
        axis = re.search(r"<up_axis>\s*([XYZ])_UP", head)
        turned = np.eye(4) if axis and axis.group(1) == "Z" else Z_UP_FROM_Y_UP.copy()
        turned = turned if chosen is None else chosen
        return turned * np.array([[scale]] * 3 + [[1.0]])
    turned = chosen if chosen is not None else Z_UP_FROM_Y_UP.copy() if _lies_on_its_back(scene, suffix, raw) else np.eye(4)
    return turned * np.array([[_guessed_scale(scene, unit_m, raw)]] * 3 + [[1.0]])


def _guessed_scale(scene: trimesh.Scene, unit_m: float, raw: RawModel) -> float:
    if unit_m:
        raw.unit = f"{unit_m:g} m, as chosen"
        return unit_m
    size = float(np.ptp(_corners(scene), axis=0).max())
    if size > TOO_LARGE_M:
        raw.unit = "millimetre, assumed"
        raw.problems.append(
            Problem(
                "unit-assumed",
                f"The file names no unit and would be {size:.0f} m large; it is taken as millimetres. Choose the unit if that is wrong.",
            )
        )
        return 0.001
    raw.unit = "metre, assumed"
    raw.problems.append(Problem("unit-assumed", "The file names no unit; it is taken as metres. Choose the unit if that is wrong."))
    return 1.0


def _corners(scene: trimesh.Scene) -> Floats:
    found = [np.asarray(mesh.vertices, float) for mesh in scene.geometry.values() if len(getattr(mesh, "faces", ()))]
    if not found:
        return np.zeros((1, 3))
    stacked = np.concatenate(found)
    stacked = stacked[np.isfinite(stacked).all(axis=1)]
    return np.stack([stacked.min(axis=0), stacked.max(axis=0)]) if len(stacked) else np.zeros((1, 3))


def _lies_on_its_back(scene: trimesh.Scene, suffix: str, raw: RawModel) -> bool:
    """Whether a file without axes has Y up: by the area that faces up, OBJ being Y up when in doubt."""
    up_y = up_z = 0.0
    for mesh in scene.geometry.values():
        if len(getattr(mesh, "faces", ())):
            corner = np.asarray(mesh.vertices, float)[np.clip(mesh.faces, 0, len(mesh.vertices) - 1)]
            normal = np.abs(np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0]))
            length = np.linalg.norm(normal, axis=1)
            level = np.nan_to_num(normal)[length > 0]
            up_y += float(level[level[:, 1] > 0.99 * length[length > 0], 1].sum())
            up_z += float(level[level[:, 2] > 0.99 * length[length > 0], 2].sum())
    y_up = up_y * 1.3 > up_z if suffix == "obj" else up_y > 1.3 * up_z
    raw.problems.append(Problem("axis-assumed", f"The file does not say which way is up; {'Y' if y_up else 'Z'} is taken as up."))
    return y_up


def _parts(scene: Any, matrix: Floats, raw: RawModel) -> None:
    turns: dict[bytes, tuple[Any, bool, bool]] = {}

    def turn(world: Floats) -> tuple[Any, bool, bool]:
        """For a transform: what turns normals, whether it stretches, whether it mirrors."""
        key = world.tobytes()
        if key not in turns:
            linear = world[:3, :3]
            stretches = not np.allclose(linear @ linear.T, np.eye(3), atol=1e-9)
            turns[key] = np.linalg.pinv(linear), stretches, bool(np.linalg.det(linear) < 0)
        return turns[key]

    known: dict[Any, int] = {}
    for node in scene.graph.nodes_geometry:
        transform, geometry = scene.graph[node]
        mesh = scene.geometry.get(geometry)
        if not isinstance(mesh, trimesh.Trimesh | _BareMesh) or not len(mesh.faces):
            continue
        told = mesh.metadata
        name = str(told.get("object") or node)
        world = matrix @ transform
        vertices = np.asarray(mesh.vertices, float) @ world[:3, :3].T + world[:3, 3]
        normals = None
        turning, stretches, mirrors = turn(world)
        given = mesh.normals if isinstance(mesh, _BareMesh) else mesh._cache.cache.get("vertex_normals")
        if given is not None and len(given) == len(vertices):
            normals = np.asarray(given) @ turning
            if stretches:
                normals /= np.maximum(np.linalg.norm(normals, axis=1, keepdims=True), 1e-12)
        faces = np.asarray(mesh.faces)
        if mirrors:
            faces = faces[:, ::-1]
        category = str(told.get("category") or _category(name))
        storey = str(told.get("storey") or "")
        raw.parts.append(Part(_stable_id(name), name, category, storey, _material(mesh, known, raw), vertices, faces, normals, _uvs(mesh)))


def _stable_id(name: str) -> str:
    """An id that stays when other objects are added or taken out of the file."""
    return "o" + hashlib.blake2b(name.encode("utf-8", "replace"), digest_size=5).hexdigest()


def _category(name: str) -> str:
    word = re.split(r"[\s_.:\-\d]+", name.strip())[0]
    return word.capitalize() or "Object"


def _uvs(mesh: Any) -> Any:
    uv = getattr(mesh.visual, "uv", None)
    return uv if uv is not None and np.shape(uv) == (len(mesh.vertices), 2) else None


def _material(mesh: Any, known: dict[Any, int], raw: RawModel) -> int:
    source = getattr(mesh.visual, "material", None)
    key = id(source) if source is not None else "plain"
    if key not in known:
        known[key] = len(raw.materials)
        raw.materials.append(_converted(source, mesh, raw))
    return known[key]


def _converted(source: Any, mesh: Any, raw: RawModel) -> Material:
    if source is None:
        return Material("Plain", _plain_colour(mesh))
    name = str(getattr(source, "name", "") or "Material")
    if hasattr(source, "baseColorFactor"):
        factor = source.baseColorFactor
        linear = np.ones(4) if factor is None else np.asarray(factor, float) / 255.0
        # glTF factors are linear light; Altana's colours are sRGB.
        colour = np.append(linear[:3] ** (1 / 2.2), linear[3])
        if source.alphaMode not in ("BLEND", None) or (source.alphaMode is None and linear[3] >= 1.0):
            colour[3] = 1.0
        image, rough = source.baseColorTexture, source.roughnessFactor
    else:
        colour = np.asarray(getattr(source, "diffuse", (180, 180, 180, 255)), float) / 255.0
        image, rough = getattr(source, "image", None), None
        if image is not None and colour[:3].max() < 0.02:
            colour[:3] = 1.0
    return Material(
        name,
        tuple(np.clip(colour, 0.0, 1.0).tolist()),
        _image(image, name, raw),
        0.8 if rough is None else float(rough),
        kind_of(name, float(colour[3])),
    )


def kind_of(name: str, opacity: float) -> str:
    """Glass by its opacity, water by its name, otherwise solid."""
    if re.search(r"\b(water|lake|sea|pool)\b", name, re.IGNORECASE):
        return WATER
    return GLASS if opacity < 0.9 else SOLID


def _plain_colour(mesh: Any) -> tuple[float, float, float, float]:
    if getattr(mesh.visual, "kind", None) in ("face", "vertex"):
        r, g, b, a = (np.asarray(mesh.visual.main_color, float) / 255.0).tolist()
        return r, g, b, a
    return (0.78, 0.76, 0.72, 1.0)


def _image(image: Image.Image | None, name: str, raw: RawModel) -> int:
    if image is None:
        return -1
    try:
        buffer = io.BytesIO()
        source = getattr(image, "fp", None)
        if source is not None and image.format in ("PNG", "JPEG"):
            source.seek(0)
            buffer.write(source.read())
            Image.open(io.BytesIO(buffer.getvalue())).verify()
        else:
            image.convert("RGBA" if "A" in image.getbands() else "RGB").save(buffer, "PNG")
    except Exception:
        raw.problems.append(Problem("damaged-picture", f"The picture of the material “{name}” cannot be read; its plain colour stands in."))
        return -1
    raw.images.append(EncodedImage(name, buffer.getvalue()))
    return len(raw.images) - 1


def _metadata(scene: Any, raw: RawModel) -> None:
    told = scene.metadata.get("altana")
    if not isinstance(told, dict):
        return
    try:
        told = json.loads(json.dumps(told))
        ids = {}
        for index, item in enumerate(told.get("storeys", ())):
            ids[str(item["name"])] = f"storey-{index + 1}"
            raw.storeys.append(Storey(ids[str(item["name"])], str(item["name"]), float(item["elevation_m"])))
        for index, item in enumerate(told.get("rooms", ())):
            outline = tuple((float(x), float(y)) for x, y in item["outline"])
            if len(outline) >= 3:
                raw.rooms.append(
                    Room(
                        f"room-{index + 1}",
                        str(item["name"]),
                        ids.get(str(item["storey"]), ""),
                        outline,
                        float(item["floor_m"]),
                        float(item["ceiling_m"]),
                    )
                )
        for part in raw.parts:
            part.storey = ids.get(part.storey, "")
    except (KeyError, TypeError, ValueError):
        raw.storeys.clear()
        raw.rooms.clear()
        raw.problems.append(
            Problem("damaged-extras", "The storeys and rooms written in the file cannot be read; storeys are found from its floors.")
        )
