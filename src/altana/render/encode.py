"""Pictures and films to files: PNG, JPEG, EXR; H.264 and H.265 in MP4, ProRes in MOV, VP9 in WebM, motion JPEG in AVI, GIF;
or the film frames alone, as a folder of pictures."""

from __future__ import annotations

import io
import tempfile
from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import numpy.typing as npt
import OpenEXR
from av.video.reformatter import ColorPrimaries, ColorRange, Colorspace, ColorTrc
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
    """Linear light, (height, width, 3) float32 in cd/m2, as the bytes of an OpenEXR file with half floats, ZIP-compressed.

    alpha : (height, width) coverage; light is then multiplied by it, as the format has it.  White of the display is no value of it; ``whiteLuminance`` says that 1.0 is one candela per square metre.
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
    """The light in an OpenEXR file, (height, width, 3) float32; multiplied by its coverage where it has one."""
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
    """What is written into a corner of each film frame: any of STAMPS, in a size that is a share of the frame's height."""

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


@dataclass(frozen=True, slots=True)
class FilmFacts:
    """What a film file says and holds when read back."""

    frames: int
    rate: Fraction
    seconds: float
    width: int
    height: int
    pixel_format: str


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
    """A film of one of FILM_FILES (bt709, header first where there is one); returns the number of frames written.

    A key frame at least every second.  Raises UserError for odd sizes and unknown kinds.
    """
    if kind not in FILM_FILES:
        raise UserError(f"“{kind}” is no kind of film. Choose {', '.join(FILM_FILES)}.")
    check_film_size(width, height, kind)
    written: int = KINDS[kind].write(path, frames, rate, (width, height), kind, quality)
    return written


def encode_film(
    path: Path, frames: Iterable[Pixels], rate: Fraction, size: tuple[int, int], kind: str, quality: str
) -> int:
    """A film by the encoding of its kind; the number of frames written."""
    wanted, (width, height) = KINDS[kind].encoding, size
    assert wanted is not None
    full = wanted.pixel_format.startswith("yuvj")
    count = 0
    # Without numbers drawn by lot and names of versions, so that equal frames become equal bytes.
    header = {"fflags": "+bitexact"}
    if wanted.container in ("mp4", "mov"):
        header["movflags"] = "+faststart"
    with av.open(str(path), "w", format=wanted.container, options=header) as container:
        stream = container.add_stream(wanted.codec, rate=rate, options=dict(wanted.options[quality]))
        assert isinstance(stream, av.VideoStream)
        stream.width, stream.height, stream.pix_fmt = width, height, wanted.pixel_format
        context = stream.codec_context
        context.time_base = 1 / rate
        context.gop_size = 1 if wanted.keyed else max(1, int(rate))
        # One thread, so that equal frames always become equal bytes.
        context.thread_count = 1
        if wanted.tag:
            context.codec_tag = wanted.tag
        context.color_primaries = int(ColorPrimaries.BT709)
        context.color_trc = int(ColorTrc.BT709)
        context.colorspace = int(Colorspace.ITU709)
        context.color_range = int(ColorRange.JPEG if full else ColorRange.MPEG)
        for pixels in frames:
            frame = av.VideoFrame.from_ndarray(np.ascontiguousarray(pixels), format="rgb24")
            frame = frame.reformat(
                format=wanted.pixel_format,
                dst_colorspace="ITU709",
                dst_color_range="JPEG" if full else "MPEG",
            )
            frame.pts, frame.time_base = count, 1 / rate
            container.mux(stream.encode(frame))
            count += 1
        container.mux(stream.encode(None))
    return count


def encode_gif(
    path: Path, frames: Iterable[Pixels], rate: Fraction, size: tuple[int, int], kind: str, quality: str
) -> int:
    """A GIF that repeats, each picture with the best 256 colours of its own.

    Its clock ticks in hundredths of a second; each picture is shown at the tick nearest to its moment, so that the length
    does not drift.
    """
    if rate > FASTEST_GIF_HZ:
        raise UserError(
            f"A GIF shows at most {FASTEST_GIF_HZ} pictures a second, not {float(rate):g}. Choose every second film frame."
        )
    count, (width, height) = 0, size
    with av.open(
        str(path), "w", format="gif", options={"loop": "0", "final_delay": str(round(100 / rate))}
    ) as container:
        stream = container.add_stream("gif", rate=100)
        stream.width, stream.height, stream.pix_fmt = width, height, "pal8"
        stream.codec_context.time_base = Fraction(1, 100)
        stream.codec_context.options = {"gifflags": "-offsetting-transdiff"}
        graph = _own_palette(width, height)
        for pixels in frames:
            frame = av.VideoFrame.from_ndarray(np.ascontiguousarray(pixels), format="rgb24")
            frame.pts, frame.time_base = round(count * 100 / rate), Fraction(1, 100)
            graph.push(frame)
            drawn = graph.pull()
            assert isinstance(drawn, av.VideoFrame)
            drawn.pts, drawn.time_base = round(count * 100 / rate), Fraction(1, 100)
            container.mux(stream.encode(drawn))
            count += 1
        container.mux(stream.encode(None))
    return count


def _own_palette(width: int, height: int) -> av.filter.Graph:
    graph = av.filter.Graph()
    source = graph.add_buffer(
        width=width, height=height, format=av.VideoFormat("rgb24"), time_base=Fraction(1, 100)
    )
    split, palette = graph.add("split"), graph.add("palettegen", "stats_mode=single:reserve_transparent=0")
    use, sink = graph.add("paletteuse", "new=1:dither=bayer:bayer_scale=4"), graph.add("buffersink")
    source.link_to(split)
    split.link_to(palette, 0, 0)
    split.link_to(use, 1, 0)
    palette.link_to(use, 0, 1)
    use.link_to(sink)
    graph.configure()
    return graph


def film_frame_at(path: Path, second: float, rate: Fraction) -> Pixels | None:
    """The picture that a player shows at a second, found by seeking; None where there is none."""
    with av.open(str(path)) as container:
        stream = container.streams.video[0]
        base = stream.time_base or Fraction(1, 1000)
        container.seek(max(0, int((second - 1e-3) / base)), stream=stream, backward=True)
        for frame in container.decode(stream):
            if frame.time is not None and frame.time >= second - 0.4 / float(rate):
                return np.asarray(frame.to_ndarray(format="rgb24"))
    return None


def film_facts(path: Path) -> FilmFacts:
    """Read a film back, decoding every frame."""
    with av.open(str(path)) as container:
        stream = container.streams.video[0]
        count = sum(1 for _ in container.decode(stream))
        rate = stream.average_rate or Fraction(0)
        # WebM keeps its length for the whole file only.
        whole = container.duration / av.time_base if container.duration else 0.0
        seconds = float(stream.duration * stream.time_base) if stream.duration and stream.time_base else whole
        return FilmFacts(count, Fraction(rate), seconds, stream.width, stream.height, str(stream.pix_fmt))
