"""Pictures remember their camera: read from the file beside them, or from what is written into them.

What a file says is only ever taken for numbers and names of a camera; nothing is opened or written because of
it.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from pathlib import Path

import msgspec
from PIL import Image

from altana.core.edits.cameras import checked
from altana.core.errors import UserError
from altana.core.project import Camera
from altana.render.metadata import read_xmp

SIDECAR = ".camera.json"
LARGEST_BYTES = 2_000_000
XMP_TAG = 700
PICTURES = (".png", ".jpg", ".jpeg", ".tif", ".tiff", ".exr")


@dataclass(frozen=True, slots=True)
class Remembered:
    """The camera that a picture was made with, and the name of its project."""

    camera: Camera
    project: str = ""


def remembered(path: Path) -> Remembered:
    """The camera of a picture.  Raises UserError where it says none."""
    sidecar = path.with_name(path.name + SIDECAR)
    texts = []
    try:
        if sidecar.is_file() and sidecar.stat().st_size < LARGEST_BYTES:
            texts.append(sidecar.read_text(encoding="utf-8"))
        texts.append(read_xmp(_packet(path)).get("altana:Camera", ""))
    except Exception as error:  # every library has its own kinds for a damaged file
        if not texts:
            raise UserError(
                f"{path.name} cannot be read as a picture: {error}. Nothing was changed."
            ) from error
    for text in texts:
        record = _camera(text)
        if record is not None:
            return record
    raise UserError(
        f"{path.name} remembers no camera: it was not made by Altana, or lost what was written into it. Nothing was changed."
    )


def _camera(text: str) -> Remembered | None:
    try:
        content = json.loads(text)
        camera = msgspec.convert(content["camera"], Camera)
        checked(camera)
        return Remembered(camera, str(content.get("project", ""))[:200])
    except (ValueError, KeyError, TypeError, RecursionError, msgspec.ValidationError):
        return None


def _packet(path: Path) -> bytes:
    """The XMP packet of a picture file, empty where there is none."""
    suffix = path.suffix.lower()
    # The libraries of these files are loaded by those who meet one.
    if suffix == ".exr":
        import OpenEXR

        with OpenEXR.File(str(path), header_only=True) as file:
            return str(file.header().get("xmp", ""))[:LARGEST_BYTES].encode()
    if suffix in (".tif", ".tiff"):
        import tifffile

        with tifffile.TiffFile(path) as file:
            page = file.pages[0]
            tag = page.tags.get(XMP_TAG) if isinstance(page, tifffile.TiffPage) else None
            return bytes(tag.value)[:LARGEST_BYTES] if tag is not None else b""
    with Image.open(path) as image:
        packet = image.info.get("xmp") or image.info.get("XML:com.adobe.xmp") or b""
    return (packet.encode() if isinstance(packet, str) else bytes(packet))[:LARGEST_BYTES]
