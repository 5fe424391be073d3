"""A glTF file's tree of properties and its arrays of numbers.

Numbers are read as the specification says (glTF 2.0, section 3.6): typed views with strides, sparse
replacements, normalized integers. Whatever a file asks for that is not understood is refused by name; nothing
is ever filled in silently.
"""

from __future__ import annotations

import base64
import binascii
import codecs
import re
import struct
from pathlib import Path
from typing import Any

import msgspec
import numpy as np
import numpy.typing as npt

from altana.core.errors import UserError
from altana.importers.folder import ModelFolder
from altana.importers.memory import check_room

Numbers = npt.NDArray[Any]
Tree = dict[str, Any]

COMPONENTS: dict[int, type[np.generic]] = {
    5120: np.int8,
    5121: np.uint8,
    5122: np.int16,
    5123: np.uint16,
    5125: np.uint32,
    5126: np.float32,
}
WIDTHS = {"SCALAR": 1, "VEC2": 2, "VEC3": 3, "VEC4": 4, "MAT2": 4, "MAT3": 9, "MAT4": 16}
#: Extensions whose meaning is taken or changes nothing that Altana shows.
UNDERSTOOD = frozenset(
    {
        "EXT_mesh_gpu_instancing",
        "EXT_texture_webp",
        "KHR_draco_mesh_compression",
        "KHR_lights_punctual",
        "KHR_materials_anisotropy",
        "KHR_materials_clearcoat",
        "KHR_materials_diffuse_transmission",
        "KHR_materials_dispersion",
        "KHR_materials_emissive_strength",
        "KHR_materials_ior",
        "KHR_materials_iridescence",
        "KHR_materials_pbrSpecularGlossiness",
        "KHR_materials_sheen",
        "KHR_materials_specular",
        "KHR_materials_transmission",
        "KHR_materials_unlit",
        "KHR_materials_variants",
        "KHR_materials_volume",
        "KHR_mesh_quantization",
        "KHR_node_visibility",
        "KHR_texture_transform",
        "KHR_xmp_json_ld",
    }
)
#: What stands behind names that a person may meet on a file that is refused.
WORDS = {
    "EXT_meshopt_compression": "meshopt compression",
    "KHR_meshopt_compression": "meshopt compression",
    "KHR_texture_basisu": "KTX2 pictures",
}
MESHOPT = {"EXT_meshopt_compression", "KHR_meshopt_compression"}


class Document:
    """The tree of a glTF file and the bytes behind it.  Raises UserError for what cannot be read."""

    def __init__(self, path: Path, folder: ModelFolder) -> None:
        self.name, self.folder = path.name, folder
        data = path.read_bytes()
        self._binary: memoryview | None = None
        text = self._unpacked(data) if path.suffix.lower() == ".glb" or data[:4] == b"glTF" else data
        self.tree = self._parsed(text)
        self._buffers: dict[int, memoryview] = {}
        self._read: dict[int, Numbers] = {}
        self._refuse_unknown()

    def damaged(self, what: str) -> UserError:
        """A sentence for a file that contradicts itself."""
        return UserError(
            f"{self.name} is damaged: {what}. Nothing was changed. Export it again, or choose another file."
        )

    # ------------------------------------------------------------------ the tree

    def _unpacked(self, data: bytes) -> bytes:
        if data[:4] != b"glTF" or len(data) < 20:
            raise UserError(
                f"{self.name} is not a binary glTF file. Nothing was changed. Choose another file."
            )
        version, total = struct.unpack_from("<II", data, 4)
        if version not in (1, 2):
            raise self.damaged("its head makes no sense")
        if version == 1:
            raise UserError(
                f"{self.name} is glTF of version 1; Altana reads version 2. Nothing was changed. Export it as glTF 2.0."
            )
        if total > len(data):
            raise UserError(
                f"{self.name} breaks off: {len(data)} of {total} bytes are there. Nothing was changed. Copy or export it again."
            )
        at, text = 12, b""
        view = memoryview(data)
        while at + 8 <= total:
            length, kind = struct.unpack_from("<II", data, at)
            if at + 8 + length > len(data):
                raise self.damaged("a part of it is longer than the file")
            if kind == 0x4E4F534A and not text:
                text = bytes(view[at + 8 : at + 8 + length])
            elif kind == 0x004E4942 and self._binary is None:
                self._binary = view[at + 8 : at + 8 + length]
            at += 8 + length + (-length % 4)
        return text

    def _parsed(self, text: bytes) -> Tree:
        try:
            tree = msgspec.json.decode(text.removeprefix(codecs.BOM_UTF8))
        except (msgspec.DecodeError, ValueError, RecursionError) as error:
            raise self.damaged("its description cannot be read") from error
        if not isinstance(tree, dict) or not isinstance(tree.get("asset"), dict):
            raise self.damaged("it does not say that it is glTF")
        version = str(tree["asset"].get("version", ""))
        if not version.startswith("2"):
            raise UserError(
                f"{self.name} is glTF of version {version or '1'}; Altana reads version 2. Nothing was changed. Export it as glTF 2.0."
            )
        return tree

    def _refuse_unknown(self) -> None:
        wanted = self.tree.get("extensionsRequired")
        unknown = [str(name) for name in wanted if name not in UNDERSTOOD] if isinstance(wanted, list) else []
        if unknown:
            words = ", ".join(
                f"{WORDS[name]} ({name})" if name in WORDS else name for name in sorted(unknown)
            )
            raise UserError(
                f"{self.name} needs {words}, which Altana does not read. Nothing was changed. Export it without."
            )

    def all(self, kind: str) -> list[Tree]:
        """All properties of a kind (``nodes``, ``meshes``); what is none of them counts as empty."""
        items = self.tree.get(kind)
        return [item if isinstance(item, dict) else {} for item in items] if isinstance(items, list) else []

    def one(self, kind: str, index: Any) -> Tree:
        """The property of this number.  Raises UserError where there is none."""
        items = self.tree.get(kind)
        if (
            isinstance(items, list)
            and isinstance(index, int)
            and 0 <= index < len(items)
            and isinstance(items[index], dict)
        ):
            item: Tree = items[index]
            return item
        raise self.damaged(f"it names a part of its {kind} that is not there")

    # ------------------------------------------------------------------ bytes

    def _buffer(self, index: Any) -> memoryview:
        known = self._buffers.get(index) if isinstance(index, int) else None
        if known is not None:
            return known
        buffer = self.one("buffers", index)
        uri = buffer.get("uri")
        if uri is None:
            if index != 0 or self._binary is None:
                raise self.damaged("its numbers are missing")
            content = self._binary
        elif str(uri).startswith("data:"):
            content = memoryview(self.from_data_uri(str(uri)))
        else:
            data = self.folder.bytes_of(str(uri))
            if data is None:
                name = re.split(r"[\\/]", str(uri))[-1][:120]
                raise UserError(
                    f"{self.name} needs {name}, which is not in its folder. Nothing was changed. Put both into one folder."
                )
            content = memoryview(data)
        self._buffers[index] = content
        return content

    def from_data_uri(self, uri: str) -> bytes:
        """The bytes written into an address that begins with ``data:``."""
        head, _, body = uri.partition(",")
        try:
            return base64.b64decode(body, validate=False) if head.endswith(";base64") else body.encode()
        except (binascii.Error, ValueError) as error:
            raise self.damaged("a part of its numbers cannot be decoded") from error

    def view(self, index: Any) -> memoryview:
        """The bytes of a buffer view."""
        view = self.one("bufferViews", index)
        if MESHOPT & set(view.get("extensions") or ()):
            # A file that does not insist on the compression brings its numbers plain as well, unless this
            # buffer only reserves their place.
            fallback = self.one("buffers", view.get("buffer", 0))
            if any((fallback.get("extensions") or {}).get(name, {}).get("fallback") for name in MESHOPT):
                raise UserError(
                    f"{self.name} needs meshopt compression, which Altana does not read. Nothing was changed. Export it without."
                )
        start, length = _whole(view.get("byteOffset", 0)), _whole(view.get("byteLength", 0))
        buffer = self._buffer(view.get("buffer"))
        if start < 0 or length < 0 or start + length > len(buffer):
            raise self.damaged(f"{start + length} bytes of numbers are named and {len(buffer)} are there")
        return buffer[start : start + length]

    # ------------------------------------------------------------------ numbers

    def numbers(self, index: Any) -> Numbers:
        """An accessor as (count, width) in its own type; kept, and not to be changed."""
        values_read = self._read.get(index) if isinstance(index, int) else None
        if values_read is None:
            values_read = self._read[index] = self._numbers(self.one("accessors", index))
        return values_read

    def floats(self, index: Any) -> Numbers:
        """An accessor as (count, width) float32; normalized integers become shares of one."""
        values = self.numbers(index)
        if values.dtype == np.float32:
            return values
        floats = values.astype(np.float32)
        if self.one("accessors", index).get("normalized"):
            floats /= np.float32(np.iinfo(values.dtype).max)
            np.maximum(floats, -1.0, out=floats)
        return floats

    def _numbers(self, accessor: Tree) -> Numbers:
        kind = COMPONENTS.get(accessor.get("componentType", 0))
        width = WIDTHS.get(str(accessor.get("type")))
        count = _whole(accessor.get("count", 0))
        if kind is None or width is None or count < 0:
            raise self.damaged("an array of numbers is of no known type")
        check_room(count * width * np.dtype(kind).itemsize, self.name)
        if "bufferView" in accessor:
            numbers = self._strided(accessor, np.dtype(kind), width, count)
        else:
            numbers = np.zeros((count, width), kind)
        if isinstance(accessor.get("sparse"), dict):
            numbers = self._replaced(accessor["sparse"], numbers.copy(), np.dtype(kind), width)
        return numbers

    def _strided(self, accessor: Tree, kind: np.dtype[Any], width: int, count: int) -> Numbers:
        view = self.one("bufferViews", accessor["bufferView"])
        data = self.view(accessor["bufferView"])
        start = _whole(accessor.get("byteOffset", 0))
        size = kind.itemsize * width
        stride = _whole(view.get("byteStride", 0)) or size
        if start < 0 or stride < size or (count and start + stride * (count - 1) + size > len(data)):
            raise self.damaged(f"an array of {count} numbers reaches beyond its {len(data)} bytes")
        if stride == size:
            return np.frombuffer(data, kind, count * width, start).reshape(count, width)
        raw = np.frombuffer(data, np.uint8)
        rows = np.lib.stride_tricks.as_strided(raw[start:], (count, size), (stride, 1), writeable=False)
        return np.ascontiguousarray(rows).view(kind).reshape(count, width)

    def _replaced(self, sparse: Tree, numbers: Numbers, kind: np.dtype[Any], width: int) -> Numbers:
        count = _whole(sparse.get("count", 0))
        places, values = sparse.get("indices") or {}, sparse.get("values") or {}
        where = COMPONENTS.get(places.get("componentType", 0), np.uint16)
        at = self._strided(places, np.dtype(where), 1, count)[:, 0].astype(np.int64)
        if count and at.max() >= len(numbers):
            raise self.damaged("a replacement lies beyond its array")
        numbers[at] = self._strided(values, kind, width, count)
        return numbers


def _whole(value: Any) -> int:
    return int(value) if isinstance(value, int | float) and abs(value) < 1e15 else -1
