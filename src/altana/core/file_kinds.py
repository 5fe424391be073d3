"""The one table of what is written: every kind of picture, film and folder of film frames.

A kind is added here, and nowhere else but in the function that writes it (``writer``, by module and name;
loaded when it is used).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from importlib import import_module
from typing import Any

from altana.core.project import FILM, PANORAMA, STILL

#: For each word of quality the options of an encoder.
Options = dict[str, dict[str, str]]


@dataclass(frozen=True, slots=True)
class Encoding:
    """How a film is encoded: container and encoder by the names of the video library, colour sampling,
    options by quality.

    ``keyed`` : every frame stands for itself.  ``tag`` : the name players look for.  ``even`` : sides must be
    even numbers.
    """

    container: str
    codec: str
    pixel_format: str
    options: Options
    keyed: bool = False
    tag: str = ""
    even: bool = True


@dataclass(frozen=True, slots=True)
class FileKind:
    """One kind of file.  ``words`` say what it is for, ``short`` names it in a table.

    ``rows`` : the kinds of rows that can be written so.  ``bytes_a_pixel`` by quality: measured on the demo.
    ``writer`` : the function that writes it.  ``encoding`` : of films.  ``frames`` : a folder of film frames,
    of this kind of picture.
    """

    name: str
    suffix: str
    short: str
    words: str
    rows: tuple[str, ...]
    bytes_a_pixel: dict[str, float]
    writer: str
    encoding: Encoding | None = None
    frames: str = ""

    @property
    def write(self) -> Callable[..., Any]:
        """The function that writes it."""
        module, name = self.writer.split(":")
        writer: Callable[..., Any] = getattr(import_module(module), name)
        return writer


def _even(size: float) -> dict[str, float]:
    return dict.fromkeys(("proof", "review", "final"), size)


def _by_word(proof: float, review: float, final: float) -> dict[str, float]:
    return {"proof": proof, "review": review, "final": final}


def _crf(proof: int, review: int, final: int, **more: str) -> Options:
    values = (("proof", proof), ("review", review), ("final", final))
    return {name: {"crf": str(value), **more} for name, value in values}


_BT709 = "colorprim=bt709:transfer=bt709:colormatrix=bt709"
#: Its macroblock tree reads memory that nobody wrote, so that equal frames became one of several films.
_X264 = f"{_BT709}:mbtree=0"
_X265 = f"{_BT709}:log-level=error:open-gop=0:pools=none:frame-threads=1"
_PICTURES, _FILMS = "altana.render.pictures", "altana.render.film_file"
_ROUND = (STILL, PANORAMA)

_TABLE = (
    FileKind("png", "png", "PNG", "PNG, 8 bits: opens everywhere", _ROUND, _even(0.93), f"{_PICTURES}:png"),
    FileKind("png16", "png", "PNG 16", "PNG, 16 bits: room for grading", (STILL,), _even(4.6), f"{_PICTURES}:png16"),
    FileKind("jpg", "jpg", "JPEG", "JPEG: small", _ROUND, _even(0.31), f"{_PICTURES}:jpeg"),
    FileKind("tif", "tif", "TIFF 16", "TIFF, 16 bits: for print", _ROUND, _even(4.6), f"{_PICTURES}:tiff"),
    FileKind("exr", "exr", "EXR", "EXR: linear light", _ROUND, _even(2.8), f"{_PICTURES}:exr"),
    FileKind(
        "mp4", "mp4", "MP4", "MP4, H.264: plays everywhere", (FILM,), _by_word(0.010, 0.029, 0.048), f"{_FILMS}:encode_film",
        Encoding("mp4", "libx264", "yuv420p", _crf(26, 18, 14, preset="veryfast", **{"x264-params": _X264})),
    ),
    FileKind(
        "h265", "mp4", "H265", "MP4, H.265: smaller, newer players", (FILM,), _by_word(0.006, 0.016, 0.029), f"{_FILMS}:encode_film",
        Encoding("mp4", "libx265", "yuv420p", _crf(30, 23, 18, preset="veryfast", **{"x265-params": _X265}), tag="hvc1"),
    ),
    FileKind(
        "mov", "mov", "MOV", "MOV, ProRes: for cutting", (FILM,), _by_word(0.13, 0.49, 0.73), f"{_FILMS}:encode_film",
        Encoding(
            "mov", "prores_ks", "yuv422p10le",
            {"proof": {"profile": "0"}, "review": {"profile": "2"}, "final": {"profile": "3"}}, keyed=True,
        ),
    ),
    FileKind(
        "webm", "webm", "WEBM", "WebM, VP9: for pages", (FILM,), _by_word(0.015, 0.027, 0.041), f"{_FILMS}:encode_film",
        Encoding(
            "webm", "libvpx-vp9", "yuv420p", _crf(40, 31, 24, **{"b:v": "0", "deadline": "realtime", "cpu-used": "6"})
        ),
    ),
    FileKind(
        "avi", "avi", "AVI", "AVI, motion JPEG: for old players", (FILM,), _by_word(0.070, 0.104, 0.156), f"{_FILMS}:encode_film",
        Encoding(
            "avi", "mjpeg", "yuvj420p",
            {name: {"qmin": q, "qmax": q} for name, q in (("proof", "8"), ("review", "4"), ("final", "2"))}, keyed=True,
        ),
    ),
    FileKind(
        "gif", "gif", "GIF", "GIF: short loops for pages and mail", (FILM,), _even(0.49), f"{_FILMS}:encode_gif",
        Encoding("gif", "gif", "pal8", {name: {} for name in ("proof", "review", "final")}, keyed=True, even=False),
    ),
    FileKind(
        "png-frames", "png", "PNG-FRAMES", "PNG frames: a folder, for cutting without loss", (FILM,), _even(0.93), f"{_PICTURES}:png",
        frames="png",
    ),
    FileKind(
        "jpg-frames", "jpg", "JPG-FRAMES", "JPEG frames: a folder, smaller", (FILM,), _even(0.31), f"{_PICTURES}:jpeg", frames="jpg"
    ),
    FileKind(
        "exr-frames", "exr", "EXR-FRAMES", "EXR frames: a folder of linear light, for grading", (FILM,), _even(2.8), f"{_PICTURES}:exr",
        frames="exr",
    ),
)  # fmt: skip

KINDS: dict[str, FileKind] = {kind.name: kind for kind in _TABLE}
#: The names of the kinds that rows of a kind can be written as, in the order in which they are offered.
FILES: dict[str, tuple[str, ...]] = {
    row: tuple(kind.name for kind in _TABLE if row in kind.rows) for row in (STILL, FILM, PANORAMA)
}
# Phones and pages take JPEG panoramas: it is offered first.
FILES[PANORAMA] = tuple(sorted(FILES[PANORAMA], key=lambda name: name != "jpg"))
#: Film files, and all that a film can be.
FILM_FILES = tuple(kind.name for kind in _TABLE if kind.encoding is not None)
FILM_KINDS = FILES[FILM]
