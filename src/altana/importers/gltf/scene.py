"""What a glTF scene shows: its nodes' meshes in place, skins in their rest pose, instances, lines and cameras."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from altana.core.conventions import Floats
from altana.core.model import Problem
from altana.importers.extras import MOST_FOUND, as_camera, crosses
from altana.importers.gltf.document import Document, Tree
from altana.importers.gltf.materials import Materials
from altana.importers.gltf.primitives import Primitives, Surface
from altana.importers.memory import check_triangles
from altana.importers.naming import Names, category_of
from altana.importers.raw import Part, RawModel

MOST_NODES, DEEPEST = 2_000_000, 500
#: Fewer points than this are marks in a drawing, not a scan.
SCAN_FROM = 2_000


@dataclass(frozen=True, slots=True)
class Placed:
    """A node in place: its number, its (4, 4) matrix in the file's axes, and the name of what holds it."""

    index: int
    node: Tree
    world: Floats
    above: str


class SceneReader:
    """Walks the scene and gives the model its parts."""

    def __init__(self, document: Document, matrix: Floats, raw: RawModel) -> None:
        self._document, self._matrix, self._raw = document, matrix, raw
        self._materials = Materials(document, raw)
        self._primitives = Primitives(document)
        self._names = Names()
        self._triangles = 0
        self._worlds: dict[int, Floats] = {}

    def read(self) -> None:
        """All parts, lines and cameras.  Raises UserError."""
        placed = list(self._placed())
        self._worlds = {item.index: item.world for item in placed}
        for item in placed:
            if "mesh" in item.node:
                self._mesh(item)
            if "camera" in item.node:
                self._camera(item)

    # ------------------------------------------------------------------ nodes

    def _roots(self) -> list[int]:
        scenes = self._document.all("scenes")
        chosen = self._document.tree.get("scene", 0)
        if scenes:
            scene = scenes[chosen] if isinstance(chosen, int) and 0 <= chosen < len(scenes) else scenes[0]
            return [index for index in scene.get("nodes") or () if isinstance(index, int)]
        nodes = self._document.all("nodes")
        below = {child for node in nodes for child in node.get("children") or ()}
        return [index for index in range(len(nodes)) if index not in below]

    def _placed(self) -> Iterator[Placed]:
        waiting: list[tuple[int, Floats, str, int]] = [(index, np.eye(4), "", 0) for index in reversed(self._roots())]
        seen: set[int] = set()
        while waiting:
            index, above, name, depth = waiting.pop()
            if index in seen:
                # The specification gives every node one place; a second one would be a loop or a doubling.
                self._say("damaged-nodes", "Some things stand twice in the file's order or hold themselves; they are shown once.")
                continue
            seen.add(index)
            if depth > DEEPEST or len(seen) > MOST_NODES:
                raise self._document.damaged("its parts are nested without end")
            node = self._document.one("nodes", index)
            if (node.get("extensions") or {}).get("KHR_node_visibility", {}).get("visible") is False:
                continue
            world = above @ node_matrix(node)
            yield Placed(index, node, world, name)
            own = str(node.get("name") or name)
            waiting += [(child, world, own, depth + 1) for child in reversed(node.get("children") or ()) if isinstance(child, int)]

    def _say(self, code: str, sentence: str) -> None:
        if not any(item.code == code for item in self._raw.problems):
            self._raw.problems.append(Problem(code, sentence))

    # ------------------------------------------------------------------ meshes

    def _mesh(self, item: Placed) -> None:
        mesh = self._document.one("meshes", item.node["mesh"])
        extras = {**_extras(mesh), **_extras(item.node)}
        told = str(extras.get("object") or item.node.get("name") or mesh.get("name") or item.above or "Object")
        places = [item.world] if "skin" not in item.node else [np.eye(4)]
        instances = (item.node.get("extensions") or {}).get("EXT_mesh_gpu_instancing")
        if isinstance(instances, dict):
            places = [item.world @ place for place in self._instances(instances)]
        labels = [self._names.of(told, "object" in extras) for _ in places]
        weights = item.node.get("weights") or mesh.get("weights") or ()
        for primitive in mesh.get("primitives") or ():
            if not isinstance(primitive, dict):
                continue
            texture = self._materials.texture_of(primitive.get("material"))
            drawn = self._primitives.read(primitive, weights, texture)
            if drawn.lines is not None:
                for place in places:
                    world = self._matrix @ place
                    self._raw.add_lines(told, _moved(drawn.lines.reshape(-1, 3), world).reshape(-1, 2, 3))
                continue
            if drawn.dots:
                self._dots(told, drawn, places)
                continue
            if not len(drawn.faces):
                continue
            self._triangles += len(drawn.faces) * len(places)
            check_triangles(self._triangles, self._document.name)
            if "skin" in item.node:
                drawn = self._posed(drawn, item.node["skin"], primitive)
            category = str(extras.get("category") or category_of(told))
            self._add(labels, drawn, places, self._materials.number(primitive.get("material")), category, str(extras.get("storey") or ""))

    def _add(
        self, labels: list[tuple[str, str]], drawn: Surface, places: list[Floats], material: int, category: str, storey: str
    ) -> None:
        for (name, key), place in zip(labels, places, strict=True):
            world = self._matrix @ place
            faces = drawn.faces if np.linalg.det(world[:3, :3]) >= 0 else drawn.faces[:, ::-1]
            self._raw.parts.append(
                Part(
                    key,
                    name,
                    category,
                    storey,
                    material,
                    _moved(drawn.points, world),
                    faces,
                    None if drawn.normals is None else _turned(drawn.normals, world),
                    drawn.uvs,
                    drawn.colours,
                )
            )

    def _dots(self, told: str, drawn: Surface, places: list[Floats]) -> None:
        for place in places:
            points = _moved(drawn.points, self._matrix @ place)
            if len(points) >= SCAN_FROM:
                self._raw.add_points(told, points, drawn.colours)
            else:
                self._raw.add_lines(told, crosses(points))

    def _instances(self, told: Tree) -> list[Floats]:
        """The (4, 4) matrices of EXT_mesh_gpu_instancing."""
        attributes = told.get("attributes") or {}
        held = {name: self._document.floats(attributes[name]) for name in ("TRANSLATION", "ROTATION", "SCALE") if name in attributes}
        count = min((len(values) for values in held.values()), default=0)
        made = []
        for at in range(count):
            node = {key: held[name][at].tolist() for name, key in (("TRANSLATION", "translation"), ("ROTATION", "rotation"), ("SCALE", "scale")) if name in held}
            made.append(node_matrix(node))
        return made

    def _posed(self, drawn: Surface, index: Any, primitive: Tree) -> Surface:
        """A skinned surface in the pose in which its joints stand (glTF 2.0, section 3.7.3)."""
        skin = self._document.one("skins", index)
        attributes = primitive.get("attributes") or {}
        joints = skin.get("joints") or []
        if "JOINTS_0" not in attributes or "WEIGHTS_0" not in attributes or not joints:
            return drawn
        world = np.stack([self._worlds.get(joint, np.eye(4)) for joint in joints])
        if "inverseBindMatrices" in skin:
            bind = self._document.floats(skin["inverseBindMatrices"]).reshape(-1, 4, 4).transpose(0, 2, 1)
            world = world[: len(bind)] @ bind[: len(world)]
        points = np.zeros((len(drawn.points), 3))
        normals = None if drawn.normals is None else np.zeros((len(drawn.points), 3))
        total = np.zeros((len(drawn.points), 1))
        for group in range(4):
            if f"JOINTS_{group}" not in attributes or f"WEIGHTS_{group}" not in attributes:
                break
            which = np.clip(self._document.numbers(attributes[f"JOINTS_{group}"]).astype(np.int64), 0, len(world) - 1)
            share = self._document.floats(attributes[f"WEIGHTS_{group}"]).astype(float)
            if len(which) != len(points) or len(share) != len(points):
                raise self._document.damaged("a skin has other numbers of corners than its surface")
            for corner in range(which.shape[1]):
                matrix = world[which[:, corner]]
                weight = share[:, corner : corner + 1]
                points += weight * (np.einsum("nij,nj->ni", matrix[:, :3, :3], drawn.points) + matrix[:, :3, 3])
                if normals is not None and drawn.normals is not None:
                    normals += weight * np.einsum("nij,nj->ni", matrix[:, :3, :3], drawn.normals)
                total += weight
        points /= np.maximum(total, 1e-9)
        return Surface(points, drawn.faces, normals, drawn.uvs, drawn.colours)

    # ------------------------------------------------------------------ cameras

    def _camera(self, item: Placed) -> None:
        told = self._document.one("cameras", item.node["camera"])
        name = str(item.node.get("name") or told.get("name") or "Camera")
        lens = told.get("perspective")
        if not isinstance(lens, dict):
            self._raw.problems.append(Problem("camera-skipped", f"“{name}” in the file is a parallel view and is not offered."))
            return
        aspect = float(lens.get("aspectRatio") or 16 / 9)
        across = 2 * math.degrees(math.atan(math.tan(float(lens.get("yfov") or 0.0) / 2) * aspect))
        made = as_camera(name, self._matrix @ item.world, across, aspect)
        if made is not None and len(self._raw.cameras) < MOST_FOUND:
            self._raw.cameras.append(made)


def node_matrix(node: Tree) -> Floats:
    """(4, 4) float64: where a node stands within the one that holds it."""
    values = node.get("matrix")
    if isinstance(values, list) and len(values) == 16:
        return np.array(values, float).reshape(4, 4).T
    x, y, z, w = (float(value) for value in node.get("rotation") or (0, 0, 0, 1))
    matrix = np.eye(4)
    turned = [
        [1 - 2 * (y * y + z * z), 2 * (x * y - z * w), 2 * (x * z + y * w)],
        [2 * (x * y + z * w), 1 - 2 * (x * x + z * z), 2 * (y * z - x * w)],
        [2 * (x * z - y * w), 2 * (y * z + x * w), 1 - 2 * (x * x + y * y)],
    ]
    matrix[:3, :3] = np.array(turned) * np.asarray(node.get("scale") or (1, 1, 1), float)
    matrix[:3, 3] = node.get("translation") or (0, 0, 0)
    return matrix


def _extras(told: Tree) -> Tree:
    extras = told.get("extras")
    return extras if isinstance(extras, dict) else {}


def _moved(points: Any, world: Floats) -> Any:
    """(n, 3) places; single precision stays where axes are only exchanged."""
    linear, moved = world[:3, :3], world[:3, 3]
    axis = np.argmax(np.abs(linear), axis=1)
    if points.dtype == np.float32 and not moved.any() and np.array_equal(np.abs(linear), np.eye(3)[axis]):
        made = np.empty_like(points)
        for row in range(3):
            np.multiply(points[:, axis[row]], np.float32(linear[row, axis[row]]), out=made[:, row])
        return made
    return np.asarray(points, float) @ linear.T + moved


def _turned(normals: Any, world: Floats) -> Any:
    """(n, 3) directions of surfaces, unit length."""
    linear = world[:3, :3]
    if np.allclose(linear @ linear.T, np.eye(3), atol=1e-9):
        return _moved(normals, np.vstack([np.column_stack([linear, np.zeros(3)]), [0, 0, 0, 1]]))
    made = np.asarray(normals, float) @ np.linalg.pinv(linear)
    return made / np.maximum(np.linalg.norm(made, axis=1, keepdims=True), 1e-12)
