"""What travels between machines: pieces of a run as plain values, and what comes back.

Nothing here is code: orders and results are msgspec values, and whoever gets one checks it before anything is
done.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from functools import lru_cache
from pathlib import PurePosixPath
from typing import Any

import msgspec
import numpy as np

from altana import __version__
from altana.core.errors import UserError
from altana.core.project import MATERIALS, PENCIL, WHITE_CARD, Project
from altana.jobs.estimates import light_rays_of, samples_of, seconds_of
from altana.jobs.paces import scene_of
from altana.jobs.requests import Film, Item, Pano, Picture, Request
from altana.render.panorama import FACES, SLICES, TILTS_DEG
from altana.render.quality import tiles
from altana.render.traced.tracer import bands
from altana.storage.cache import LIGHT_REVISION, REVISION

#: Raised whenever orders or results are written otherwise.
WIRE = 1
#: Pictures of fewer pixels are made in one piece.
SMALL_PX = 6_000_000
#: Panoramas that have the light of their places, too: who draws one face of theirs needs the light of all,
#: and in larger ones drawing takes far longer than that.
SMALL_LIT_PX = 20_000_000
#: A piece of a film takes about so long, and has so many film frames at most.
A_PIECE_S, MOST_IN_A_PIECE = 6.0, 25
#: So many slices of a panorama for two eyes are made in one piece.
SLICES_A_PIECE = 24
#: The largest picture, film frame or number of film frames that anyone is asked for.
LARGEST_SIDE_PX, LARGEST_PX, MOST_FRAMES = 32_768, 600_000_000, 1_000_000
DIGEST_BYTES = 20


class PackedFile(msgspec.Struct, frozen=True):
    """A file that a piece needs: where it lies below the project's folder, what it holds, and its length in
    bytes."""

    name: str
    digest: str
    size: int


class Common(msgspec.Struct, frozen=True):
    """What all pieces of a request share.  ``lights`` are kept light maps by their names in the cache."""

    project: Project
    quality: str
    samples: int
    minutes: float
    files: tuple[PackedFile, ...]
    lights: tuple[PackedFile, ...]


class Still(msgspec.Struct, frozen=True, tag="still"):
    """A still in one piece."""

    item: Picture


class Round(msgspec.Struct, frozen=True, tag="round"):
    """A panorama in one piece."""

    item: Pano


class Tile(msgspec.Struct, frozen=True, tag="tile"):
    """One tile of a large still that is drawn in passes."""

    item: Picture
    number: int


class Band(msgspec.Struct, frozen=True, tag="band"):
    """Some rows of a large still that is traced."""

    item: Picture
    number: int


class RoundBand(msgspec.Struct, frozen=True, tag="round band"):
    """Some rows of a large panorama that is traced, for one eye."""

    item: Pano
    eye: int
    number: int


class Slices(msgspec.Struct, frozen=True, tag="slices"):
    """Some slices of a panorama for two eyes, by number, for one eye."""

    item: Pano
    eye: int
    start: int
    stop: int


class Face(msgspec.Struct, frozen=True, tag="face"):
    """One face of a panorama that is drawn in passes."""

    item: Pano
    name: str


class Frames(msgspec.Struct, frozen=True, tag="frames"):
    """Some film frames, by number."""

    item: Film
    numbers: tuple[int, ...]


Piece = Still | Round | Tile | Band | RoundBand | Slices | Face | Frames


class PieceOrder(msgspec.Struct, frozen=True):
    """One piece to be made.  ``wire`` and ``build`` say of which Altana it is; ``common`` is a digest."""

    wire: int
    build: str
    common: str
    piece: Piece


class Result(msgspec.Struct, frozen=True):
    """What came of a piece: files or arrays by name; or a sentence why not, or the stack of a fault."""

    machine: str
    seconds: float
    files: dict[str, bytes] = {}
    arrays: dict[str, tuple[tuple[int, ...], bytes]] = {}
    #: Bytes that came over the network for it.
    fetched: int = 0
    refused: str = ""
    fault: str = ""

    def array(self, name: str) -> Any:
        """A float32 array of the result."""
        shape, data = self.arrays[name]
        return np.frombuffer(data, np.float32).reshape(shape)


def packed_array(values: Any) -> tuple[tuple[int, ...], bytes]:
    """A float32 array for a result."""
    plain = np.ascontiguousarray(values, np.float32)
    return plain.shape, plain.tobytes()


_ORDER, _COMMON = msgspec.msgpack.Decoder(PieceOrder), msgspec.msgpack.Decoder(Common)
_RESULT = msgspec.msgpack.Decoder(Result)


def packed(value: PieceOrder | Common | Result) -> bytes:
    """A value as it travels."""
    return msgspec.msgpack.encode(value)


def read_order(data: bytes) -> PieceOrder:
    """An order that arrived.  Raises UserError for one that is none, is of another Altana, or asks for what
    nobody makes."""
    try:
        order: PieceOrder = _ORDER.decode(data)
    except (msgspec.MsgspecError, RecursionError) as error:
        raise UserError(
            f"An order cannot be read: {error}. Nothing was made. Use the same Altana on all machines."
        ) from error
    if (order.wire, order.build) != (WIRE, build()):
        raise UserError(
            f"The order is of {order.build or 'another Altana'}, this machine has {build()}. Nothing was made. "
            "Use the same Altana on all machines."
        )
    check_digest(order.common)
    _check_size(order.piece)
    check_name(order.piece.item.file)
    return order


def read_common(data: bytes) -> Common:
    """What the pieces of a request share, as it arrived.  Raises UserError."""
    try:
        common: Common = _COMMON.decode(data)
    except (msgspec.MsgspecError, RecursionError) as error:
        raise UserError(
            f"The project of an order cannot be read: {error}. Nothing was made. Use the same Altana on all machines."
        ) from error
    for file in (*common.files, *common.lights):
        check_name(file.name)
        check_digest(file.digest)
    for light in common.lights:
        check_digest(light.name)
    return common


def read_result(data: bytes) -> Result:
    """What another machine sent back.  Raises UserError."""
    try:
        result: Result = _RESULT.decode(data)
    except (msgspec.MsgspecError, RecursionError) as error:
        raise UserError(
            f"A machine sent back what cannot be read: {error}. The piece was not used; it is made once more."
        ) from error
    return result


def check_name(name: str) -> None:
    """Refuse a path that would leave its folder.  Raises UserError."""
    path = PurePosixPath(name)
    if not name or path.is_absolute() or ".." in path.parts or "\\" in name or "\0" in name:
        raise UserError(
            f"An order names “{name}”, which leads out of its folder. Nothing was read or made; do not trust who sent it."
        )


def check_digest(digest: str) -> None:
    """Refuse what is no digest, and so might be a path.  Raises UserError."""
    if len(digest) != 2 * DIGEST_BYTES or not set(digest) <= set("0123456789abcdef"):
        raise UserError("An order names a file by something that is no digest. Nothing was read or made.")


def _check_size(piece: Piece) -> None:
    wide, high = piece.item.width_px, piece.item.height_px
    if not (1 <= min(wide, high) and max(wide, high) <= LARGEST_SIDE_PX and wide * high <= LARGEST_PX):
        raise UserError(
            f"An order asks for {wide} × {high} px; the largest picture has {LARGEST_SIDE_PX} px a side. Nothing was made."
        )
    if isinstance(piece, Frames) and not 0 < len(piece.numbers) <= MOST_FRAMES:
        raise UserError(f"An order asks for {len(piece.numbers)} film frames at once. Nothing was made.")


@lru_cache(maxsize=1)
def build() -> str:
    """Which Altana this is: its version and how it reads models and light.  Equal builds make equal pictures
    on equal machines."""
    text = f"{WIRE} {REVISION} {LIGHT_REVISION}"
    return f"altana-{__version__}-{hashlib.blake2b(text.encode(), digest_size=4).hexdigest()}"


def key_of(piece: Piece, common: str) -> str:
    """What a piece is called in the cluster."""
    digest = hashlib.blake2b(msgspec.msgpack.encode(piece) + common.encode(), digest_size=12).hexdigest()
    return f"altana-{digest}"


def label_of(piece: Piece) -> str:
    """What people are told of a piece."""
    match piece:
        case Frames(item, numbers):
            some = f"{numbers[0]}" if len(numbers) == 1 else f"{numbers[0]} to {numbers[-1]}"
            return f"{item.name}, film frame {some}"
        case Tile(item, number):
            return f"{item.name}, part {number + 1} of {len(tiles(*_drawn_size(item)))}"
        case Band(item, number):
            return f"{item.name}, rows {number + 1} of {len(bands(_drawn_size(item)))}"
        case RoundBand(item, eye, number):
            whole = len(bands((item.width_px, item.height_px))) * len(item.eyes)
            return f"{item.name}, rows {eye * whole // 2 + number + 1} of {whole}"
        case Slices(item, eye, start, _):
            whole = SLICES * len(TILTS_DEG) * len(item.eyes)
            return f"{item.name}, slice {eye * whole // 2 + start + 1} of {whole}"
        case Face(item, name):
            return f"{item.name}, {name}"
        case Still(item) | Round(item):
            return item.name


def pieces_of(item: Item, request: Request, a_time: int = 1) -> list[Piece]:
    """The pieces of an item, in the order in which they are put together.  a_time : film frames in one
    piece."""
    if isinstance(item, Film):
        frames = item.frames
        return [Frames(item, tuple(part)) for part in _by(frames, a_time)]
    traced = samples_of(item, request.quality, request.project.qualities) > 0
    # How much grain is left, or what time it is, can be asked only where the whole picture is.
    steady = not (request.minutes or item.shot.minutes or item.shot.until_clean)
    if isinstance(item, Pano):
        lit = light_rays_of(item, request.quality, request.project.qualities) > 0
        if lit and item.width_px * item.height_px < SMALL_LIT_PX:
            return [Round(item)]
        return _of_round(item, traced, steady)
    size = _drawn_size(item)
    if request.passes or item.shot.passes or size[0] * size[1] < SMALL_PX:
        return [Still(item)]
    if traced:
        return [Band(item, number) for number in range(len(bands(size)))] if steady else [Still(item)]
    if item.shot.rendition in (MATERIALS, WHITE_CARD, PENCIL):
        return [Tile(item, number) for number in range(len(tiles(*size)))]
    return [Still(item)]


def _of_round(item: Pano, traced: bool, steady: bool) -> list[Piece]:
    size, eyes = (item.width_px, item.height_px), range(len(item.eyes))
    if item.shot.rendition not in (MATERIALS, WHITE_CARD) or (item.shot.faces and (traced or len(eyes) > 1)):
        return [Round(item)]
    if traced:
        if not steady or size[0] * size[1] < SMALL_PX:
            return [Round(item)]
        return [RoundBand(item, eye, number) for eye in eyes for number in range(len(bands(size)))]
    if len(eyes) == 1:
        return [Face(item, name) for name in FACES]
    whole = SLICES * len(TILTS_DEG)
    starts = range(0, whole, SLICES_A_PIECE)
    return [Slices(item, eye, start, min(whole, start + SLICES_A_PIECE)) for eye in eyes for start in starts]


def a_time(item: Item, request: Request) -> int:
    """How many film frames are made in one piece."""
    if not isinstance(item, Film):
        return 1
    project = request.project
    whole = seconds_of(item, request.quality, project.qualities, scene=scene_of(project))
    one = whole / max(1, len(item.frames))
    return max(1, min(MOST_IN_A_PIECE, round(A_PIECE_S / max(one, 1e-3))))


def _drawn_size(item: Picture) -> tuple[int, int]:
    view = item.view()
    return view.width_px, view.height_px


def _by(numbers: range, count: int) -> Iterator[range]:
    for start in range(0, len(numbers), count):
        yield numbers[start : start + count]
