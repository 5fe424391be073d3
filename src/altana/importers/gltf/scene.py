"""What a glTF scene shows: its nodes' meshes in place, skins in their rest pose, instances, lines and
cameras."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from altana.core.conventions import Floats
from altana.core.model import Problem
from altana.importers.copying import Copies
from altana.importers.extras import MOST_FOUND, as_camera, crosses
from altana.importers.gltf.document import Document, Tree
from altana.importers.gltf.materials import Materials
from altana.importers.gltf.primitives import Primitives, Surface
from altana.importers.lights import add_lamp, kelvin_of
from altana.importers.naming import Names, category_of
from altana.importers.placing import moved_points
from altana.importers.raw import Part, RawModel

MOST_NODES, DEEPEST = 2_000_000, 500
#: Fewer points than this are marks in a drawing, not a scan.
SCAN_FROM = 2_000


@dataclass(frozen=True, slots=True)
class PlacedNode:
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
        self._copies = Copies(document.name)
        self._worlds: dict[int, Floats] = {}
        #: How many nodes show each mesh as it is, and what the surfaces are of those that several show.
        self._uses: Counter[int] = Counter()
        self._shown: dict[tuple[int, int], Surface] = {}

    def read(self) -> None:
        """All parts, lines and cameras.  Raises UserError."""
        placed = list(self._placed())
        self._worlds = {item.index: item.world for item in placed}
        meshes = (item.node.get("mesh") for item in placed if not item.node.get("weights"))
        self._uses = Counter(number for number in meshes if isinstance(number, int))
        for item in placed:
            if "mesh" in item.node:
                self._mesh(item)
            self._light(item)
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

    def _placed(self) -> Iterator[PlacedNode]:
        waiting: list[tuple[int, Floats, str, int]] = [
            (index, np.eye(4), "", 0) for index in reversed(self._roots())
        ]
        seen: set[int] = set()
        while waiting:
            index, above, name, depth = waiting.pop()
            if index in seen:
                # The specification gives every node one place; a second one would be a loop or a doubling.
                self._say(
                    "damaged-nodes",
                    "Some things stand twice in the file's order or hold themselves; they are shown once.",
                )
                continue
            seen.add(index)
            if depth > DEEPEST or len(seen) > MOST_NODES:
                raise self._document.damaged("its parts are nested without end")
            node = self._document.one("nodes", index)
            if (node.get("extensions") or {}).get("KHR_node_visibility", {}).get("visible") is False:
                continue
            world = above @ node_matrix(node)
            yield PlacedNode(index, node, world, name)
            own = str(node.get("name") or name)
            waiting += [
                (child, world, own, depth + 1)
                for child in reversed(node.get("children") or ())
                if isinstance(child, int)
            ]

    def _say(self, code: str, sentence: str) -> None:
        if not any(item.code == code for item in self._raw.problems):
            self._raw.problems.append(Problem(code, sentence))

    # ------------------------------------------------------------------ meshes

    def _mesh(self, item: PlacedNode) -> None:
        mesh = self._document.one("meshes", item.node["mesh"])
        extras = {**_extras(mesh), **_extras(item.node)}
        label = str(
            extras.get("object") or item.node.get("name") or mesh.get("name") or item.above or "Object"
        )
        places = [item.world] if "skin" not in item.node else [np.eye(4)]
        instances = (item.node.get("extensions") or {}).get("EXT_mesh_gpu_instancing")
        if isinstance(instances, dict):
            places = [item.world @ place for place in self._instances(instances)]
        labels = [self._names.of(label, "object" in extras) for _ in places]
        for number, primitive in enumerate(mesh.get("primitives") or ()):
            if not isinstance(primitive, dict):
                continue
            drawn = self._surface(item.node, mesh, number, primitive)
            if drawn.lines is not None:
                for place in places:
                    world = self._matrix @ place
                    self._raw.add_lines(
                        label,
                        moved_points(
                            drawn.lines.reshape(-1, 3), self._copies.turn(world), world[:3, 3]
                        ).reshape(-1, 2, 3),
                    )
                continue
            if drawn.dots:
                self._dots(label, drawn, places)
                continue
            if not len(drawn.faces):
                continue
            shared = len(places) > 1 or self._shared(item.node)
            count = len(drawn.faces) * len(places)
            self._copies.count(count, count if shared else 0)
            if "skin" in item.node:
                drawn = self._posed(drawn, item.node["skin"], primitive)
            category = str(extras.get("category") or category_of(label))
            self._add(
                labels,
                drawn,
                places,
                self._materials.number(primitive.get("material")),
                category,
                str(extras.get("storey") or ""),
                shared,
            )

    def _shared(self, node: Tree) -> bool:
        """Whether other nodes show the same mesh in the same way."""
        return not node.get("weights") and "skin" not in node and self._uses[node["mesh"]] > 1

    def _surface(self, node: Tree, mesh: Tree, number: int, primitive: Tree) -> Surface:
        """What a primitive of a node's mesh shows; the same one again where other nodes show it, too."""
        key, shared = (node["mesh"], number), self._shared(node)
        if shared and key in self._shown:
            return self._shown[key]
        weights = node.get("weights") or mesh.get("weights") or ()
        texture = self._materials.texture_of(primitive.get("material"))
        surface = self._primitives.read(primitive, weights, texture)
        if shared:
            self._shown[key] = surface
        return surface

    def _add(
        self,
        labels: list[tuple[str, str]],
        drawn: Surface,
        places: list[Floats],
        material: int,
        category: str,
        storey: str,
        shared: bool,
    ) -> None:
        surface = drawn.points, drawn.faces, drawn.normals, drawn.uvs, drawn.colours
        part = Part("", "", "", "", material, *surface)
        for (name, key), place in zip(labels, places, strict=True):
            told = key, name, category, storey
            self._raw.parts.append(self._copies.stood(part, told, self._matrix @ place, shared))

    def _dots(self, told: str, drawn: Surface, places: list[Floats]) -> None:
        for place in places:
            world = self._matrix @ place
            points = moved_points(drawn.points, self._copies.turn(world), world[:3, 3])
            if len(points) >= SCAN_FROM:
                self._raw.add_points(told, points, drawn.colours)
            else:
                self._raw.add_lines(told, crosses(points))

    def _instances(self, entry: Tree) -> list[Floats]:
        """The (4, 4) matrices of EXT_mesh_gpu_instancing."""
        attributes = entry.get("attributes") or {}
        columns = {
            name: self._document.floats(attributes[name])
            for name in ("TRANSLATION", "ROTATION", "SCALE")
            if name in attributes
        }
        count = min((len(values) for values in columns.values()), default=0)
        matrices = []
        for at in range(count):
            node = {
                key: columns[name][at].tolist()
                for name, key in (
                    ("TRANSLATION", "translation"),
                    ("ROTATION", "rotation"),
                    ("SCALE", "scale"),
                )
                if name in columns
            }
            matrices.append(node_matrix(node))
        return matrices

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
            which = np.clip(
                self._document.numbers(attributes[f"JOINTS_{group}"]).astype(np.int64), 0, len(world) - 1
            )
            share = self._document.floats(attributes[f"WEIGHTS_{group}"]).astype(float)
            if len(which) != len(points) or len(share) != len(points):
                raise self._document.damaged("a skin has other numbers of corners than its surface")
            for corner in range(which.shape[1]):
                matrix = world[which[:, corner]]
                weight = share[:, corner : corner + 1]
                points += weight * (
                    np.einsum("nij,nj->ni", matrix[:, :3, :3], drawn.points) + matrix[:, :3, 3]
                )
                if normals is not None and drawn.normals is not None:
                    normals += weight * np.einsum("nij,nj->ni", matrix[:, :3, :3], drawn.normals)
                total += weight
        points /= np.maximum(total, 1e-9)
        return Surface(points, drawn.faces, normals, drawn.uvs, drawn.colours)

    # ------------------------------------------------------------------ lamps

    def _light(self, item: PlacedNode) -> None:
        """The light of a node, where it has one."""
        number = ((item.node.get("extensions") or {}).get("KHR_lights_punctual") or {}).get("light")
        lights = ((self._document.tree.get("extensions") or {}).get("KHR_lights_punctual") or {}).get(
            "lights"
        ) or []
        if not isinstance(number, int) or not 0 <= number < len(lights):
            return
        entry = lights[number]
        # A directional one is a sun and not taken.
        kind, cone = entry.get("type"), entry.get("spot") or {}
        if kind not in ("point", "spot"):
            return
        name = str(item.node.get("name") or entry.get("name") or f"Light {number + 1}")
        world = self._matrix @ item.world
        red, _, blue = (float(part) for part in (entry.get("color") or (1.0, 1.0, 1.0))[:3])
        outer = math.degrees(float(cone.get("outerConeAngle", math.pi / 4)))
        along = -world[:3, 2] if kind == "spot" else None
        add_lamp(
            self._raw, name, world, float(entry.get("intensity", 1.0)), kelvin_of(red, blue), along, outer
        )

    # ------------------------------------------------------------------ cameras

    def _camera(self, item: PlacedNode) -> None:
        entry = self._document.one("cameras", item.node["camera"])
        name = str(item.node.get("name") or entry.get("name") or "Camera")
        lens = entry.get("perspective")
        if not isinstance(lens, dict):
            self._raw.problems.append(
                Problem("camera-skipped", f"“{name}” in the file is a parallel view and is not offered.")
            )
            return
        aspect = float(lens.get("aspectRatio") or 16 / 9)
        across = 2 * math.degrees(math.atan(math.tan(float(lens.get("yfov") or 0.0) / 2) * aspect))
        camera = as_camera(name, self._matrix @ item.world, across, aspect)
        if camera is not None and len(self._raw.cameras) < MOST_FOUND:
            self._raw.cameras.append(camera)


def node_matrix(node: Tree) -> Floats:
    """(4, 4) float64: where a node stands within the one that holds it."""
    values = node.get("matrix")
    if isinstance(values, list) and len(values) == 16:
        return np.array(values, float).reshape(4, 4).T
    matrix: Floats = np.eye(4)
    if node.get("rotation"):
        matrix[:3, :3] = rotation_of(np.asarray(node["rotation"], float))
    if node.get("scale"):
        matrix[:3, :3] *= np.asarray(node["scale"], float)
    if node.get("translation"):
        matrix[:3, 3] = node["translation"]
    return matrix


def rotation_of(quaternion: Floats) -> Floats:
    """(3, 3) rotation of a quaternion x, y, z, w of any length (K. Shoemake, *Animating rotation with
    quaternion curves*, 1985).

    Written out, because every library that has it takes a second to load, and each file is read in a process
    of its own.
    """
    length = float(quaternion @ quaternion)
    if length < 1e-16:
        return np.eye(3)
    x, y, z, w = quaternion * math.sqrt(2.0 / length)
    matrix: Floats = np.array(
        [
            [1.0 - y * y - z * z, x * y - z * w, x * z + y * w],
            [x * y + z * w, 1.0 - x * x - z * z, y * z - x * w],
            [x * z - y * w, y * z + x * w, 1.0 - x * x - y * y],
        ]
    )
    return matrix


def _extras(entry: Tree) -> Tree:
    extras = entry.get("extras")
    return extras if isinstance(extras, dict) else {}
