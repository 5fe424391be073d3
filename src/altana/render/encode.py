"""Pictures to files: PNG, JPEG, EXR; stamps and strips; and films by what writes their kind
(render/film_file.py, loaded when used)."""

from __future__ import annotations

import io
import tempfile
from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import numpy as np
import numpy.typing as npt
import OpenEXR
from PIL import Image, ImageDraw, PngImagePlugin

from altana.core.conventions import Floats32
from altana.core.errors import UserError
from altana.core.file_kinds import FILM_FILES, KINDS
from altana.render.lettering import letters

Pixels = npt.NDArray[np.uint8]
JPEG_LONGEST = 65_500


def still_bytes(pixels: Pixels, kind: str, title: str = "", fast: bool = False) -> bytes:
    """A picture as the bytes of a PNG or JPEG file, tagged as sRGB.

    pixels : (height, width, 3) uint8.  Raises UserError for a JPEG larger than its format allows.
    """
    image = Image.fromarray(pixels)
    buffer = io.BytesIO()
    if kind == "jpg":
        if max(image.size) > JPEG_LONGEST:
            raise UserError(f"A JPEG ends at {JPEG_LONGEST} px a side. Nothing was written. Choose PNG.")
        image.save(buffer, "JPEG", quality=94, subsampling=0)
    else:
        info = PngImagePlugin.PngInfo()
        info.add(b"sRGB", b"\0")
        if title:
            info.add_itxt("Title", title)
        image.save(buffer, "PNG", pnginfo=info, compress_level=1 if fast else 6)
    return buffer.getvalue()


def exr_bytes(
    light: Floats32, comments: str = "", alpha: Floats32 | None = None, xmp: str = "", key: str = ""
) -> bytes:
    """Linear light, (height, width, 3) float32 in cd/m2, as the bytes of an OpenEXR file with half floats,
    ZIP-compressed.

    alpha : (height, width) coverage; light is then multiplied by it, as the format has it.  White of the
    display is no value of it; ``whiteLuminance`` says that 1.0 is one candela per square metre.
    """
    lit = light if alpha is None else np.dstack([light * alpha[..., None], alpha])
    half = np.ascontiguousarray(np.clip(lit, 0.0, 65_000.0).astype(np.float16))
    header = {"compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage, "whiteLuminance": 1.0}
    if comments:
        header["comments"] = comments
    if xmp:
        header["xmp"] = xmp
    if key:
        header["altanaKey"] = key
    with tempfile.TemporaryDirectory(prefix="altana-exr-") as folder:
        # The library writes to a path only.
        path = Path(folder) / "picture.exr"
        with OpenEXR.File(header, {"RGB" if alpha is None else "RGBA": half}) as file:
            file.write(str(path))
        return path.read_bytes()


def exr_light(path: Path) -> Floats32:
    """The light in an OpenEXR file, (height, width, 3) float32; multiplied by its coverage where it has
    one."""
    return exr_master(path)[0]


def exr_key(path: Path) -> str:
    """What a master was drawn from, as its file says; empty where it says nothing or cannot be read."""
    try:
        with OpenEXR.File(str(path), header_only=True) as file:
            return str(file.header().get("altanaKey", ""))
    except Exception:  # noqa: BLE001 - the library raises plain RuntimeError and its own kinds
        return ""


def exr_master(path: Path) -> tuple[Floats32, Floats32 | None]:
    """The light in an OpenEXR file, (height, width, 3) float32, and its coverage where it has one."""
    with OpenEXR.File(str(path)) as file:
        channels = file.channels()
        if "RGBA" in channels:
            whole = np.asarray(channels["RGBA"].pixels, np.float32)
            return whole[..., :3], whole[..., 3]
        return np.asarray(channels["RGB"].pixels, np.float32), None


@dataclass(frozen=True, slots=True)
class Stamp:
    """What is written into a corner of each film frame: any of STAMPS, in a size that is a share of the
    frame's height."""

    fields: tuple[str, ...] = ()
    corner: str = "bottom left"
    size: float = 0.03


NO_STAMP = Stamp()
STAMPS = {
    "project": "The project's name",
    "camera": "The walk's name",
    "frame": "The film frame's number",
    "time": "The second of the walk",
    "sun": "Date and local time of the sun",
}
CORNERS = ("top left", "top right", "bottom left", "bottom right")


def stamped(pixels: Pixels, text: str, stamp: Stamp) -> Pixels:
    """A picture with text in its corner, light on a dark band, so that it is read on anything."""
    image = Image.fromarray(pixels)
    width, height = image.size
    size = max(9.0, stamp.size * height)
    font = letters(size)
    draw = ImageDraw.Draw(image, "RGBA")
    left, top, right, bottom = draw.textbbox((0, 0), text, font=font)
    pad, edge = round(size * 0.45), round(size * 0.7)
    wide, high = right - left + 2 * pad, bottom - top + 2 * pad
    x = edge if "left" in stamp.corner else width - edge - wide
    y = edge if "top" in stamp.corner else height - edge - high
    draw.rectangle((x, y, x + wide, y + high), fill=(30, 28, 26, 190))
    draw.text((x + pad - left, y + pad - top), text, fill=(244, 241, 234, 255), font=font)
    return np.asarray(image)


def contact_strip(
    pictures: Iterable[tuple[Pixels, str]], count: int, columns: int = 5, width_px: int = 320
) -> Pixels:
    """Small pictures with a line of text below each, in rows on paper white, as one picture.

    pictures : ((height, width, 3) uint8 of equal size, text), ``count`` of them, read one at a time.
    """
    gap, below = 12, 24
    columns = min(columns, count)
    font = letters(14)
    sheet: Image.Image | None = None
    for number, (pixels, text) in enumerate(pictures):
        high, wide = pixels.shape[:2]
        small = (width_px, max(1, round(width_px * high / wide)))
        if sheet is None:
            rows = -(-count // columns)
            size = (gap + columns * (small[0] + gap), gap + rows * (small[1] + below + gap))
            sheet = Image.new("RGB", size, (252, 251, 247))
        row, column = divmod(number, columns)
        corner = (gap + column * (small[0] + gap), gap + row * (small[1] + below + gap))
        sheet.paste(Image.fromarray(pixels).resize(small, Image.Resampling.LANCZOS), corner)
        ImageDraw.Draw(sheet).text((corner[0], corner[1] + small[1] + 5), text, fill=(38, 36, 32), font=font)
    if sheet is None:
        raise UserError("A contact strip of no pictures cannot be made.")
    return np.asarray(sheet)


#: A GIF counts in hundredths of a second; browsers show no picture for less than two.
FASTEST_GIF_HZ = 50


def check_film_size(width: int, height: int, kind: str = "mp4") -> None:
    """Raises UserError when common colour sampling cannot hold this size."""
    encoding = KINDS[kind].encoding
    if encoding is not None and encoding.even and (width % 2 or height % 2):
        raise UserError(
            f"A film of {width} × {height} px cannot be written: H.264 needs even numbers. Choose {width + width % 2} × {height + height % 2}."
        )


def write_film(
    path: Path,
    frames: Iterable[Pixels],
    rate: Fraction,
    width: int,
    height: int,
    kind: str = "mp4",
    quality: str = "review",
) -> int:
    """A film of one of FILM_FILES (bt709, header first where there is one); returns the number of frames
    written.

    A key frame at least every second.  Raises UserError for odd sizes and unknown kinds.
    """
    if kind not in FILM_FILES:
        raise UserError(f"“{kind}” is no kind of film. Choose {', '.join(FILM_FILES)}.")
    check_film_size(width, height, kind)
    written: int = KINDS[kind].write(path, frames, rate, (width, height), kind, quality)
    return written
