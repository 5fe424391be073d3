"""Pictures and films to files: PNG, JPEG, H.264 in MP4."""

from __future__ import annotations

import io
from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import numpy.typing as npt
from av.video.reformatter import ColorPrimaries, ColorRange, Colorspace, ColorTrc
from PIL import Image, PngImagePlugin

from altana.core.errors import UserError

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


@dataclass(frozen=True, slots=True)
class FilmFacts:
    """What a film file says and holds when read back."""

    frames: int
    rate: Fraction
    seconds: float
    width: int
    height: int
    pixel_format: str


def check_film_size(width: int, height: int) -> None:
    """Raises UserError when H.264 in its common colour sampling cannot hold this size."""
    if width % 2 or height % 2:
        raise UserError(
            f"A film of {width} × {height} px cannot be written: H.264 needs even numbers. Choose {width + width % 2} × {height + height % 2}."
        )


def write_film(path: Path, frames: Iterable[Pixels], rate: Fraction, width: int, height: int, crf: int = 18) -> int:
    """An H.264 film in MP4 (yuv420p, bt709, header first); returns the number of frames written.

    A key frame at least every second.  Raises UserError for odd sizes.
    """
    check_film_size(width, height)
    count = 0
    with av.open(str(path), "w", format="mp4", options={"movflags": "+faststart"}) as container:
        options = {"crf": str(crf), "preset": "veryfast", "x264-params": "colorprim=bt709:transfer=bt709:colormatrix=bt709"}
        stream = container.add_stream("libx264", rate=rate, options=options)
        stream.width, stream.height, stream.pix_fmt = width, height, "yuv420p"
        context = stream.codec_context
        context.time_base = 1 / rate
        context.gop_size = max(1, int(rate))
        # One thread, so that equal frames always become equal bytes.
        context.thread_count = 1
        context.color_primaries = int(ColorPrimaries.BT709)
        context.color_trc = int(ColorTrc.BT709)
        context.colorspace = int(Colorspace.ITU709)
        context.color_range = int(ColorRange.MPEG)
        for pixels in frames:
            frame = av.VideoFrame.from_ndarray(np.ascontiguousarray(pixels), format="rgb24")
            frame = frame.reformat(format="yuv420p", dst_colorspace="ITU709", dst_color_range="MPEG")
            frame.pts, frame.time_base = count, 1 / rate
            container.mux(stream.encode(frame))
            count += 1
        container.mux(stream.encode(None))
    return count


def film_facts(path: Path) -> FilmFacts:
    """Read a film back, decoding every frame."""
    with av.open(str(path)) as container:
        stream = container.streams.video[0]
        count = sum(1 for _ in container.decode(stream))
        rate = stream.average_rate or Fraction(0)
        seconds = float(stream.duration * stream.time_base) if stream.duration and stream.time_base else 0.0
        return FilmFacts(count, Fraction(rate), seconds, stream.width, stream.height, str(stream.pix_fmt))
