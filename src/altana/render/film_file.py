"""Film files: H.264 and H.265 in MP4, ProRes in MOV, VP9 in WebM, motion JPEG in AVI, GIF; written, and read
back."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from av.video.reformatter import ColorPrimaries, ColorRange, Colorspace, ColorTrc

from altana.core.errors import UserError
from altana.core.file_kinds import KINDS
from altana.render.encode import FASTEST_GIF_HZ, Pixels


@dataclass(frozen=True, slots=True)
class FilmFacts:
    """What a film file says and holds when read back."""

    frames: int
    rate: Fraction
    seconds: float
    width: int
    height: int
    pixel_format: str


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

    Its clock ticks in hundredths of a second; each picture is shown at the tick nearest to its moment, so
    that the length does not drift.
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
