"""One primitive of a glTF mesh as triangles, lines or points, in the file's own axes."""

from __future__ import annotations

import warnings
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from altana.core.conventions import Floats
from altana.core.errors import UserError
from altana.core.light.tone import encoded
from altana.importers.gltf.document import Document, Tree

POINTS, LINES, LOOP, STRIP, TRIANGLES, TRIANGLE_STRIP, FAN = range(7)


@dataclass(frozen=True, slots=True)
class Surface:
    """points (n, 3), faces (m, 3), normals (n, 3), uvs (n, 2) V upwards and colours (n, 4) uint8 or None;
    lines (k, 2, 3) where it is lines."""

    points: Any
    faces: Any
    normals: Any = None
    uvs: Any = None
    colours: Any = None
    lines: Any = None
    dots: bool = False


class Primitives:
    """Reads primitives of one document."""

    def __init__(self, document: Document) -> None:
        self._document = document

    def read(self, primitive: Tree, weights: Sequence[float], texture: Tree) -> Surface:
        """What a primitive shows.  texture : the reference of its colour's texture, which chooses and moves
        its coordinates."""
        mode = primitive.get("mode", TRIANGLES)
        draco = (primitive.get("extensions") or {}).get("KHR_draco_mesh_compression")
        unpacked, faces = self._unpacked(draco) if isinstance(draco, dict) else ({}, None)
        attributes = primitive.get("attributes") or {}
        points = unpacked.get("POSITION", self._floats(attributes, "POSITION", 3))
        if points is None:
            return Surface(np.zeros((0, 3)), np.zeros((0, 3), np.int64))
        count = len(points)
        points = self._morphed(points, primitive, weights)
        if faces is None:
            order = (
                self._document.numbers(primitive["indices"])[:, 0]
                if "indices" in primitive
                else np.arange(count, dtype=np.uint32)
            )
            if len(order) and int(order.max()) >= count:
                raise self._document.damaged(f"a surface names corner {int(order.max())} of {count}")
            if mode == POINTS:
                colours = self._colours(unpacked, attributes, count)
                return Surface(
                    points[order],
                    np.zeros((0, 3)),
                    colours=None if colours is None else colours[order],
                    dots=True,
                )
            if mode in (LINES, LOOP, STRIP):
                return Surface(
                    points, np.zeros((0, 3), np.int64), lines=np.asarray(points, float)[_chain(order, mode)]
                )
            faces = _triangles(order, mode)
        normals = unpacked.get("NORMAL", self._floats(attributes, "NORMAL", 3))
        return Surface(
            points,
            faces,
            normals if normals is not None and len(normals) == count else None,
            self._uvs(unpacked, attributes, texture, count),
            self._colours(unpacked, attributes, count),
        )

    def _floats(self, attributes: Tree, name: str, width: int) -> Any:
        if name not in attributes:
            return None
        values = self._document.floats(attributes[name])
        if values.shape[1] < width:
            raise self._document.damaged(f"its {name} are of another type")
        return values[:, :width]

    def _morphed(self, points: Any, primitive: Tree, weights: Sequence[float]) -> Any:
        """Shapes that a mesh holds, mixed as its file leaves them."""
        for target, weight in zip(primitive.get("targets") or (), weights, strict=False):
            if weight and isinstance(target, dict) and "POSITION" in target:
                moved = self._document.floats(target["POSITION"])
                if len(moved) == len(points):
                    points = points + np.float32(weight) * moved
        return points

    def _uvs(self, unpacked: Tree, attributes: Tree, texture: Tree, count: int) -> Any:
        moved = (texture.get("extensions") or {}).get("KHR_texture_transform") or {}
        which = f"TEXCOORD_{moved.get('texCoord', texture.get('texCoord', 0))}"
        uvs = unpacked.get(which, self._floats(attributes, which, 2))
        if uvs is None or len(uvs) != count:
            return None
        if moved:
            uvs = np.asarray(uvs, float) * _pair(moved.get("scale"), 1.0)
            turn = float(moved.get("rotation") or 0.0)
            cos, sin = np.cos(turn), np.sin(turn)
            # Rotation as the extension's text has it: anticlockwise in pictures whose V runs down.
            uvs = uvs @ np.array([[cos, -sin], [sin, cos]]) + _pair(moved.get("offset"), 0.0)
        turned = np.array(uvs, np.float32)
        np.subtract(1.0, uvs[:, 1], out=turned[:, 1], casting="same_kind")
        return turned

    def _colours(self, unpacked: Tree, attributes: Tree, count: int) -> Any:
        if "COLOR_0" not in attributes and "COLOR_0" not in unpacked:
            return None
        values = (
            unpacked["COLOR_0"] if "COLOR_0" in unpacked else self._document.floats(attributes["COLOR_0"])
        )
        if len(values) != count:
            return None
        colours = np.full((count, 4), 255, np.uint8)
        # Linear light in the file, displayed values in the model.
        colours[:, :3] = np.rint(255 * encoded(values[:, :3]))
        if values.shape[1] == 4:
            colours[:, 3] = np.rint(255 * np.clip(values[:, 3], 0, 1))
        return None if (colours == 255).all() else colours

    def _unpacked(self, entry: Tree) -> tuple[Tree, Any]:
        """Attributes and faces of a surface compressed as Draco."""
        import DracoPy

        data = bytes(self._document.view(entry.get("bufferView")))
        try:
            with warnings.catch_warnings():
                warnings.simplefilter("ignore")
                mesh = DracoPy.decode(data)
        except (ValueError, RuntimeError, DracoPy.FileTypeException) as error:
            raise self._document.damaged("a surface compressed as Draco cannot be unpacked") from error
        faces = getattr(mesh, "faces", None)
        if faces is None:
            raise self._document.damaged("a surface compressed as Draco holds no triangles")
        attributes: Tree = {}
        for name, number in (entry.get("attributes") or {}).items():
            attribute = mesh.get_attribute_by_unique_id(number)
            if attribute is None:
                raise UserError(
                    f"{self._document.name} is damaged: {name} is missing from a compressed surface. Nothing was changed."
                )
            values = np.asarray(attribute["data"])
            values = values.reshape(len(values), -1)
            if name.startswith(("COLOR", "TEXCOORD")) and values.dtype.kind == "u":
                values = values.astype(np.float32) / np.iinfo(values.dtype).max
            attributes[name] = values if name.startswith("JOINTS") else values.astype(np.float32)
        return attributes, np.asarray(faces, np.int64).reshape(-1, 3)


def _pair(values: Any, usual: float) -> Floats:
    return (
        np.array(values, float) if isinstance(values, list) and len(values) == 2 else np.array([usual, usual])
    )


def _triangles(order: Any, mode: int) -> Any:
    """(m, 3) corners of triangles, strips or fans, all wound the same way."""
    if mode == TRIANGLE_STRIP:
        if len(order) < 3:
            return np.zeros((0, 3), np.int64)
        triangles = np.stack([order[:-2], order[1:-1], order[2:]], axis=1)
        triangles[1::2] = triangles[1::2, [1, 0, 2]]
        return triangles
    if mode == FAN:
        return np.stack(
            [np.full(max(0, len(order) - 2), order[0] if len(order) else 0), order[1:-1], order[2:]], axis=1
        )
    return order[: len(order) // 3 * 3].reshape(-1, 3)


def _chain(order: Any, mode: int) -> Any:
    """(k, 2) ends of lines."""
    if mode == LINES:
        return order[: len(order) // 2 * 2].reshape(-1, 2)
    ends = np.stack([order[:-1], order[1:]], axis=1)
    return np.vstack([ends, [[order[-1], order[0]]]]) if mode == LOOP and len(order) > 2 else ends
