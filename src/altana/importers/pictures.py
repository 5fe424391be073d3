"""Pictures on surfaces, kept as the file held them; kinds that drawing does not read are brought to PNG."""

from __future__ import annotations

import io
import tempfile
from pathlib import Path

import numpy as np
import OpenEXR
from PIL import Image

from altana.core.conventions import Floats32
from altana.core.errors import Refused
from altana.core.model import EncodedImage, Problem
from altana.core.radiance import is_radiance, read_radiance
from altana.importers.raw import RawModel

KEPT_AS_THEY_ARE = ("PNG", "JPEG", "WEBP")
LARGEST_PIXELS = 300_000_000
EXR_MAGIC = b"\x76\x2f\x31\x01"


def keep_picture(raw: RawModel, name: str, data: bytes | None) -> int:
    """The number of a picture in the model, or -1 where it cannot be read, which is said."""
    encoded = None if data is None else _readable(data)
    if encoded is None:
        if data is not None:
            raw.problems.append(
                Problem("damaged-picture", f"The picture “{name}” cannot be read; a plain colour stands in.")
            )
        return -1
    raw.images.append(EncodedImage(name, encoded))
    return len(raw.images) - 1


def _readable(data: bytes) -> bytes | None:
    try:
        if is_radiance(data):
            return _as_png(shown(read_radiance(data)))
        if data[:4] == EXR_MAGIC:
            return _as_png(shown(read_exr(data)))
        with Image.open(io.BytesIO(data)) as picture:
            if picture.width * picture.height > LARGEST_PIXELS:
                return None
            if picture.format in KEPT_AS_THEY_ARE:
                picture.verify()
                return data
            return _as_png(np.asarray(picture.convert("RGBA" if has_opacity(picture) else "RGB")))
    except Exception:  # noqa: BLE001 - the border of a foreign parser
        # Damaged pictures fail in as many ways as there are decoders; a person is told that this one cannot
        # be read.
        return None


def opened_picture(path: Path) -> Image.Image:
    """A picture file of any kind; light beyond white is clipped.  Raises OSError and ValueError for what
    cannot be read."""
    with path.open("rb") as file:
        head = file.read(16)
    if not is_radiance(head) and head[:4] != EXR_MAGIC:
        return Image.open(path)
    read = read_radiance if is_radiance(head) else read_exr
    try:
        return Image.fromarray(shown(read(path.read_bytes())))
    except (Refused, RuntimeError, KeyError, StopIteration) as error:
        raise ValueError(f"{path.name} is damaged") from error


def has_opacity(picture: Image.Image) -> bool:
    """Whether a picture says how opaque its pixels are."""
    return "A" in picture.getbands() or "transparency" in picture.info


def encoded_has_opacity(data: bytes) -> bool:
    """The same for an encoded picture that can be read."""
    with Image.open(io.BytesIO(data)) as picture:
        return has_opacity(picture)


def read_exr(data: bytes) -> Floats32:
    """(height, width, 3) float32 linear light of an OpenEXR picture.  Raises what the library raises."""
    with tempfile.TemporaryDirectory(prefix="altana-") as folder:
        path = Path(folder, "picture.exr")
        path.write_bytes(data)
        with OpenEXR.File(str(path)) as file:
            channels = file.channels()
            pixels = channels.get("RGB", channels.get("RGBA", channels.get("Y")))
            values = np.array(
                pixels.pixels if pixels is not None else next(iter(channels.values())).pixels, np.float32
            )
    return values[..., :3] if values.ndim == 3 else np.repeat(values[..., None], 3, axis=2)


def shown(light: Floats32) -> np.ndarray:
    """(height, width, 3) uint8 sRGB of linear light, 1 being white; what is brighter or negative is
    clipped."""
    clipped = np.clip(np.nan_to_num(light), 0.0, 1.0)
    return np.asarray(
        np.rint(
            255.0 * np.where(clipped <= 0.0031308, clipped * 12.92, 1.055 * clipped ** (1 / 2.4) - 0.055)
        ),
        np.uint8,
    )


def _as_png(pixels: np.ndarray) -> bytes:
    buffer = io.BytesIO()
    Image.fromarray(pixels).save(buffer, "PNG", compress_level=1)
    return buffer.getvalue()
