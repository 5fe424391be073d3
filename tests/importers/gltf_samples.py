"""Small glTF files written number by number, for what the mesh library's writer cannot write."""

from __future__ import annotations

import io
import json
import struct
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

KINDS = {
    np.dtype(np.float32): 5126,
    np.dtype(np.uint32): 5125,
    np.dtype(np.uint16): 5123,
    np.dtype(np.int16): 5122,
    np.dtype(np.uint8): 5121,
}
NAMES = {1: "SCALAR", 2: "VEC2", 3: "VEC3", 4: "VEC4", 16: "MAT4"}
#: A square of 2 x 2 m standing up in the file's axes (Y up), seen from +Z.
SQUARE = np.array([(0, 0, 0), (2, 0, 0), (2, 2, 0), (0, 2, 0)], np.float32)
SQUARE_UVS = np.array([(0, 1), (1, 1), (1, 0), (0, 0)], np.float32)
SQUARE_FACES = np.array([0, 1, 2, 0, 2, 3], np.uint16)


class Writer:
    """Puts a binary glTF file together."""

    def __init__(self) -> None:
        self.tree: dict[str, Any] = {
            "asset": {"version": "2.0"},
            "scene": 0,
            "scenes": [{"nodes": []}],
            "nodes": [],
            "meshes": [],
        }
        self.tree |= {"accessors": [], "bufferViews": [], "buffers": [{"byteLength": 0}]}
        self._data = b""

    def view(self, data: bytes, **more: Any) -> int:
        """A buffer view of these bytes."""
        self.tree["bufferViews"].append(
            {"buffer": 0, "byteOffset": len(self._data), "byteLength": len(data), **more}
        )
        self._data += data + b"\0" * (-len(data) % 4)
        return len(self.tree["bufferViews"]) - 1

    def numbers(self, values: np.ndarray, **more: Any) -> int:
        """An accessor of these numbers."""
        flat = values.reshape(len(values), -1)
        told = {
            "bufferView": self.view(np.ascontiguousarray(values).tobytes()),
            "componentType": KINDS[values.dtype],
            "count": len(values),
        }
        self.tree["accessors"].append({**told, "type": NAMES[flat.shape[1]], **more})
        return len(self.tree["accessors"]) - 1

    def mesh(self, attributes: dict[str, int], **more: Any) -> int:
        """A mesh of one primitive."""
        self.tree["meshes"].append({"primitives": [{"attributes": attributes, **more}]})
        return len(self.tree["meshes"]) - 1

    def node(self, name: str, **more: Any) -> int:
        """A node of the scene."""
        self.tree["nodes"].append({"name": name, **more})
        self.tree["scenes"][0]["nodes"].append(len(self.tree["nodes"]) - 1)
        return len(self.tree["nodes"]) - 1

    def material(self, **told: Any) -> int:
        """A material."""
        self.tree.setdefault("materials", []).append(told)
        return len(self.tree["materials"]) - 1

    def picture(self, pixels: np.ndarray, name: str = "picture") -> int:
        """A texture with this picture in the file."""
        buffer = io.BytesIO()
        Image.fromarray(pixels).save(buffer, "PNG")
        self.tree.setdefault("images", []).append(
            {"bufferView": self.view(buffer.getvalue()), "mimeType": "image/png", "name": name}
        )
        self.tree.setdefault("textures", []).append({"source": len(self.tree["images"]) - 1})
        return len(self.tree["textures"]) - 1

    def square(self, name: str, material: int | None = None, **node: Any) -> int:
        """A node with the square."""
        attributes = {"POSITION": self.numbers(SQUARE), "TEXCOORD_0": self.numbers(SQUARE_UVS)}
        more = {} if material is None else {"material": material}
        return self.node(name, mesh=self.mesh(attributes, indices=self.numbers(SQUARE_FACES), **more), **node)

    def write(self, path: Path) -> Path:
        """The file."""
        self.tree["buffers"][0]["byteLength"] = len(self._data)
        head = json.dumps(self.tree).encode()
        head += b" " * (-len(head) % 4)
        total = 28 + len(head) + len(self._data)
        path.write_bytes(
            struct.pack("<4sIIII", b"glTF", 2, total, len(head), 0x4E4F534A)
            + head
            + struct.pack("<II", len(self._data), 0x004E4942)
            + self._data
        )
        return path
