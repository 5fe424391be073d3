"""Finished pictures to the bytes of their files: PNG with 8 or 16 bits, JPEG, TIFF with 16 bits, EXR; with
dpi and XMP."""

from __future__ import annotations

import io
import struct
import zlib
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import tifffile
from PIL import Image, PngImagePlugin

from altana.core.conventions import Floats32
from altana.core.errors import UserError
from altana.core.file_kinds import KINDS
from altana.render.encode import JPEG_LONGEST, exr_bytes

Shown8 = npt.NDArray[np.uint8]
METRES_AN_INCH = 0.0254


@dataclass(frozen=True, slots=True)
class Labels:
    """What is written into the file beside the picture."""

    title: str = ""
    dpi: float = 0.0
    xmp: bytes = b""


def grained(shown: Floats32) -> Shown8:
    """Displayed values 0 to 1 as 8 bits; a grain below one step keeps even skies from banding."""
    high, wide = shown.shape[:2]
    y, x = np.mgrid[0:high, 0:wide].astype(np.float64)
    grain = np.mod(52.9829189 * np.mod(x * 0.06711056 + y * 0.00583715, 1.0), 1.0) - 0.5
    bytes_shown: Shown8 = np.clip(np.rint(shown * 255.0 + grain[..., None]), 0, 255).astype(np.uint8)
    return bytes_shown


def picture_bytes(
    kind: str, shown: Floats32, alpha: Floats32 | None, labels: Labels, light: Floats32 | None = None
) -> bytes:
    """A finished picture, displayed sRGB 0 to 1 (height, width, 3), as a file of a kind.

    alpha : (height, width) coverage for a transparent picture.  light : linear light for EXR.  Raises
    UserError.
    """
    data: bytes = KINDS[kind].write(FinishedPicture(shown, alpha, labels, light))
    return data


@dataclass(frozen=True, slots=True)
class FinishedPicture:
    """What a writer is given: displayed values, coverage, labels, and linear light where it is known."""

    shown: Floats32
    alpha: Floats32 | None
    labels: Labels
    light: Floats32 | None = None

    @property
    def cover8(self) -> Shown8 | None:
        """Coverage in 8 bits."""
        return None if self.alpha is None else np.rint(self.alpha * 255.0).astype(np.uint8)

    @property
    def deep(self) -> npt.NDArray[np.uint16]:
        """Displayed values, and coverage where there is one, in 16 bits."""
        deep: npt.NDArray[np.uint16] = np.rint(np.clip(self.shown, 0.0, 1.0) * 65535.0).astype(np.uint16)
        if self.alpha is None:
            return deep
        cover = np.rint(np.clip(self.alpha, 0.0, 1.0) * 65535.0).astype(np.uint16)
        both: npt.NDArray[np.uint16] = np.dstack([deep, cover])
        return both


def png(picture: FinishedPicture) -> bytes:
    """PNG with 8 bits."""
    return _png(grained(picture.shown), picture.cover8, picture.labels)


def png16(picture: FinishedPicture) -> bytes:
    """PNG with 16 bits."""
    return _png16(picture.deep, picture.labels)


def jpeg(picture: FinishedPicture) -> bytes:
    """JPEG; what is transparent is not known to it."""
    return _jpeg(grained(picture.shown), picture.labels)


def tiff(picture: FinishedPicture) -> bytes:
    """TIFF with 16 bits."""
    return _tiff(picture.deep, picture.labels)


def exr(picture: FinishedPicture) -> bytes:
    """OpenEXR of linear light."""
    assert picture.light is not None
    return exr_bytes(picture.light, picture.labels.title, picture.alpha, picture.labels.xmp.decode())


def _jpeg(pixels: Shown8, labels: Labels) -> bytes:
    image = Image.fromarray(pixels)
    if max(image.size) > JPEG_LONGEST:
        raise UserError(f"A JPEG ends at {JPEG_LONGEST} px a side. Nothing was written. Choose PNG.")
    exif = Image.Exif()
    exif[0x010E], exif[0x0131] = labels.title.encode("ascii", "replace").decode(), "Altana"
    # Colour space: sRGB.
    exif.get_ifd(0x8769)[0xA001] = 1
    buffer = io.BytesIO()
    more = {"dpi": (labels.dpi, labels.dpi)} if labels.dpi else {}
    image.save(
        buffer,
        "JPEG",
        quality=94,
        subsampling=0,
        exif=exif,
        **({"xmp": labels.xmp} if labels.xmp else {}),
        **more,
    )
    return buffer.getvalue()


def _png(pixels: Shown8, alpha: Shown8 | None, labels: Labels) -> bytes:
    image = Image.fromarray(pixels if alpha is None else np.dstack([pixels, alpha]))
    info = PngImagePlugin.PngInfo()
    info.add(b"sRGB", b"\0")
    if labels.title:
        info.add_itxt("Title", labels.title)
    if labels.xmp:
        info.add_itxt("XML:com.adobe.xmp", labels.xmp.decode())
    buffer = io.BytesIO()
    image.save(
        buffer,
        "PNG",
        pnginfo=info,
        compress_level=6,
        **({"dpi": (labels.dpi, labels.dpi)} if labels.dpi else {}),
    )
    return buffer.getvalue()


def _png16(pixels: npt.NDArray[np.uint16], labels: Labels) -> bytes:
    """PNG with 16 bits a channel (ISO/IEC 15948), which the picture library does not write.

    Every row is filtered as the difference from the one above, which suits smooth pictures.
    """
    high, wide, channels = pixels.shape
    rows = pixels.astype(">u2").view(np.uint8).reshape(high, wide * channels * 2)
    above = np.vstack([np.zeros((1, rows.shape[1]), np.uint8), rows[:-1]])
    filtered = np.column_stack([np.full(high, 2, np.uint8), rows - above])

    def chunk(name: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))

    parts = [
        chunk(b"IHDR", struct.pack(">IIBBBBB", wide, high, 16, 2 if channels == 3 else 6, 0, 0, 0)),
        chunk(b"sRGB", b"\0"),
    ]
    if labels.dpi:
        a_metre = round(labels.dpi / METRES_AN_INCH)
        parts.append(chunk(b"pHYs", struct.pack(">IIB", a_metre, a_metre, 1)))
    for key, text in (("Title", labels.title.encode()), ("XML:com.adobe.xmp", labels.xmp)):
        if text:
            parts.append(chunk(b"iTXt", key.encode() + b"\0\0\0\0\0" + text))
    parts += [chunk(b"IDAT", zlib.compress(filtered.tobytes(), 6)), chunk(b"IEND", b"")]
    return b"\x89PNG\r\n\x1a\n" + b"".join(parts)


def _tiff(pixels: npt.NDArray[np.uint16], labels: Labels) -> bytes:
    buffer = io.BytesIO()
    more = [(700, "B", len(labels.xmp), labels.xmp, True)] if labels.xmp else []
    tifffile.imwrite(
        buffer,
        pixels,
        photometric="rgb",
        compression="zlib",
        predictor=True,
        description=labels.title.encode("ascii", "replace").decode(),
        software="Altana",
        metadata=None,
        extratags=more,
        extrasamples=["unassalpha"] if pixels.shape[2] == 4 else None,
        resolution=(labels.dpi, labels.dpi) if labels.dpi else None,
        resolutionunit="INCH" if labels.dpi else None,
    )
    return buffer.getvalue()
