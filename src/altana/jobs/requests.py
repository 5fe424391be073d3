"""What is to be made: a frozen list of pictures and films, and the names of their files."""

from __future__ import annotations

import hashlib
import re
import unicodedata
from dataclasses import dataclass, replace
from fractions import Fraction
from pathlib import Path

from altana.core.camera.view import View, part_of
from altana.core.conventions import frame_count, parse_rate
from altana.core.edits.shots import row_as_made
from altana.core.errors import UserError
from altana.core.file_kinds import FILM_KINDS
from altana.core.file_kinds import KINDS as FILE_KINDS
from altana.core.naming import unreserved
from altana.core.project import FILM, QUALITY_WORDS, RENDITIONS, STILL, Camera, Project, Shot, Walk
from altana.render.encode import CORNERS, FASTEST_GIF_HZ, NO_STAMP, STAMPS, Stamp, check_film_size
from altana.storage.made import DIRECT, LIST

KINDS = ("png", "jpg")


@dataclass(frozen=True, slots=True)
class Picture:
    """A still: the row of the shot list that says how it is made, the camera in the row's format, and the
    size of the whole frame."""

    shot: Shot
    camera: Camera
    width_px: int
    height_px: int
    file: str

    @property
    def name(self) -> str:
        """What progress calls it."""
        return f"{self.camera.name}, {self.camera.format_name}"

    @property
    def quality(self) -> str:
        """The row's own quality."""
        return self.shot.quality

    def view(self) -> View:
        """Its exact picture, or the region of it that is asked for."""
        return part_of(self.camera.view(self.width_px, self.height_px), self.shot.region)


@dataclass(frozen=True, slots=True)
class Pano:
    """A panorama of the shot list: its row, the camera at whose place it is taken, and the size of one 2:1
    picture."""

    shot: Shot
    camera: Camera
    width_px: int
    height_px: int
    file: str

    @property
    def name(self) -> str:
        """What progress calls it."""
        return f"{self.camera.name}, panorama"

    @property
    def front_deg(self) -> float:
        """The heading of its middle, degrees."""
        return self.camera.heading_deg if self.shot.front_deg is None else self.shot.front_deg % 360.0

    @property
    def eyes(self) -> tuple[float, ...]:
        """How far each eye stands aside of the camera's place, metres: one in the middle, or left and
        right."""
        half = self.shot.stereo_m / 2.0
        return (-half, half) if half else (0.0,)

    @property
    def quality(self) -> str:
        """The row's own quality."""
        return self.shot.quality


@dataclass(frozen=True, slots=True)
class Part:
    """Which film frames of a walk are made and what is left beside the film.

    ``from_s``, ``to_s`` : seconds of the walk (None: its end); ``step`` : every n-th film frame only;
    ``strip_every`` : a contact strip of every n-th film frame made (0: none); ``keep_frames`` : the film
    frames stay as PNG;
    ``stamp`` : what is written into a corner of each.
    """

    from_s: float = 0.0
    to_s: float | None = None
    step: int = 1
    strip_every: int = 0
    keep_frames: bool = False
    stamp: Stamp = NO_STAMP


@dataclass(frozen=True, slots=True)
class Film:
    """One film: a walk at a size and a rate."""

    walk: Walk
    width_px: int
    height_px: int
    rate: str
    file: str
    container: str = "mp4"
    part: Part = Part()
    #: The row of the shot list that the film is of, which says how it is drawn; None: as the Frame shows it.
    shot: Shot | None = None

    @property
    def quality(self) -> str:
        """The row's own quality; empty where the request's holds."""
        return self.shot.quality if self.shot is not None else ""

    @property
    def name(self) -> str:
        """What progress calls it."""
        return self.walk.name

    @property
    def frames(self) -> range:
        """The walk's film frames that are made, by number."""
        rate = parse_rate(self.rate)
        last = self.walk.seconds if self.part.to_s is None else self.part.to_s
        return range(_first_frame(self.part.from_s, rate), frame_count(last, rate), self.part.step)

    @property
    def sequence(self) -> str:
        """The kind of picture where the film is a folder of its frames; empty for a film file."""
        return FILE_KINDS[self.container].frames

    @property
    def film_rate(self) -> Fraction:
        """Film frames a second of the file: with a step the film has fewer, and lasts as long."""
        return parse_rate(self.rate) / self.part.step


Item = Film | Picture | Pano


@dataclass(frozen=True, slots=True)
class Request:
    """All that a run makes; equal requests make equal files."""

    project: Project
    items: tuple[Item, ...]
    quality: str = "review"
    #: Of path-traced pictures: samples a pixel, and minutes for each picture, instead of what rows and words
    #: say; 0 keeps those.
    samples: int = 0
    minutes: float = 0.0
    #: Layers for compositing beside every still, whatever its row says.
    passes: bool = False
    #: How it was asked for (``storage.made``), of which project file, and how all are drawn instead of as
    #: their rows say.
    way: str = LIST
    of: str = ""
    drawn: str = ""

    def digest(self) -> str:
        """A name for the content of the request, by which finished pieces are recognised."""
        bare = replace(self, way=LIST, of="", drawn="")
        return hashlib.blake2b(repr(bare).encode(), digest_size=16).hexdigest()


def parse_size(text: str) -> tuple[int, int]:
    """``1920x1080`` as width and height in pixels.  Raises UserError."""
    match = re.fullmatch(r"\s*(\d{1,5})\s*[xX×]\s*(\d{1,5})\s*", text)
    if not match:
        raise UserError(f"“{text}” is not a size. Write width x height in pixels, such as 1920x1080.")
    width, height = int(match.group(1)), int(match.group(2))
    if not (16 <= width <= 32768 and 16 <= height <= 32768):
        raise UserError(f"A size of {width} × {height} px is outside 16 to 32768 px a side.")
    return width, height


def file_stem(name: str) -> str:
    """A name as part of a file name: plain letters, digits and dashes."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode()
    return unreserved(re.sub(r"[^A-Za-z0-9]+", "-", plain).strip("-").lower()[:80] or "picture")


def request_for(
    project: Project,
    cameras: tuple[Camera, ...],
    walks: tuple[Walk, ...],
    size: tuple[int, int] | None,
    rate: str | None,
    quality: str,
    kind: str,
    scale: float = 1.0,
    container: str = "mp4",
    part: Part = Part(),
    drawn: str = "",
    name: str = "",
) -> Request:
    """A request for these cameras and walks, each made as its row of the shot list says, or with the usual
    values where it has none.

    ``drawn`` says how all are drawn instead.  With ``size`` each camera's picture is the largest of its own
    proportion that fits into it; ``scale`` makes all sizes smaller or larger; ``name`` is the file's, without
    its kind, where one thing is made.  Raises UserError.
    """
    _check_wishes(scale, quality, kind, drawn, container)
    if name and len(cameras) + len(walks) != 1:
        raise UserError("A name is for one picture or film. Leave it out, or name one camera or walk.")
    taken: set[str] = set()
    items: list[Item] = []

    def looked(kind_of: str, subject: str, file: str) -> Shot:
        shot = replace(row_as_made(project, kind_of, subject), quality=quality, file=file)
        return replace(shot, rendition=drawn) if drawn else shot

    for camera in cameras:
        width, height = fitted(camera, size) if size else (camera.width_px, camera.height_px)
        width, height = (min(32768, max(16, round(value * scale))) for value in (width, height))
        file = _free(file_stem(name or camera.name), kind, taken)
        items.append(Picture(looked(STILL, camera.id, kind), camera, width, height, file))
    for walk in walks:
        width, height = size or (walk.width_px, walk.height_px)
        if scale != 1.0:
            width, height = (max(16, round(value * scale / 2) * 2) for value in (width, height))
        hertz = rate or walk.rate
        _check_film(walk, (width, height), hertz, container, part)
        file = _film_file(file_stem(name or walk.name), container, taken)
        shot = looked(FILM, walk.id, container)
        items.append(Film(walk, width, height, hertz, file, container, part, shot))
    return Request(project, tuple(items), quality, way=DIRECT, drawn=drawn)


def check_scale(scale: float) -> None:
    """Raises UserError for a share of a size that nobody means."""
    if not 0.01 <= scale <= 4.0:
        raise UserError(f"A scale of {scale * 100:g} % is outside 1 to 400 %.")


def _check_wishes(scale: float, quality: str, kind: str, drawn: str, container: str) -> None:
    check_scale(scale)
    if quality not in QUALITY_WORDS:
        raise UserError(f"“{quality}” is no quality. Choose proof, review or final.")
    if kind not in KINDS:
        raise UserError(f"“{kind}” is no kind of picture. Choose png or jpg.")
    if drawn and drawn not in RENDITIONS:
        raise UserError(f"“{drawn}” is no way to draw. Choose {', '.join(RENDITIONS)}.")
    if container not in FILM_KINDS:
        raise UserError(f"“{container}” is no kind of film. Choose {', '.join(FILM_KINDS)}.")


def _check_film(walk: Walk, size: tuple[int, int], rate: str, container: str, part: Part) -> None:
    check_film_size(*size, container)
    _check_part(walk, parse_rate(rate), part)
    hertz = parse_rate(rate) / part.step
    if container == "gif" and hertz > FASTEST_GIF_HZ:
        raise UserError(
            f"A GIF shows at most {FASTEST_GIF_HZ} pictures a second, not {float(hertz):g}. Choose a larger step."
        )


def _film_file(stem: str, container: str, taken: set[str]) -> str:
    suffix = FILE_KINDS[container].suffix
    if FILE_KINDS[container].frames:
        # A folder of frames: no suffix, so that it is not taken for a file.
        return _free(f"{stem}-{suffix}", "frames", taken).replace(".frames", "-frames")
    return _free(stem, suffix, taken)


def _first_frame(seconds: float, rate: Fraction) -> int:
    return frame_count(seconds, rate) if seconds > 0.5 / rate else 0


def _check_part(walk: Walk, rate: Fraction, part: Part) -> None:
    last = walk.seconds if part.to_s is None else part.to_s
    if not (0.0 <= part.from_s < last <= walk.seconds + 1e-9) or frame_count(last, rate) <= _first_frame(
        part.from_s, rate
    ):
        raise UserError(
            f"{walk.name} lasts {walk.seconds:g} s; nothing of it lies from {part.from_s:g} to {last:g} s. Choose a beginning before the end."
        )
    if part.step < 1 or rate / part.step < 1:
        raise UserError(
            f"Every {part.step}. film frame leaves less than one a second. Choose a step of 1 to {int(rate)}."
        )
    unknown = [name for name in part.stamp.fields if name not in STAMPS]
    if unknown:
        raise UserError(f"“{unknown[0]}” is nothing that a stamp shows. Choose among {', '.join(STAMPS)}.")
    if part.stamp.corner not in CORNERS or not 0.01 <= part.stamp.size <= 0.2:
        raise UserError(
            f"A stamp stands {', '.join(CORNERS[:-1])} or {CORNERS[-1]}, in a size of 1 to 20 % of the film's height."
        )
    if part.strip_every < 0:
        raise UserError("A contact strip takes every n-th film frame, n being 1 or more; 0 makes none.")


def fitted(camera: Camera, size: tuple[int, int]) -> tuple[int, int]:
    """The camera's proportion in a size, never distorted."""
    width, height = size
    if height == round(width * camera.height_px / camera.width_px) or width == round(
        height * camera.width_px / camera.height_px
    ):
        # One side was typed, and the other is what it rounds to: nothing is taken off the typed one for that.
        return size
    if width * camera.height_px <= height * camera.width_px:
        return width, max(1, round(width * camera.height_px / camera.width_px))
    return max(1, round(height * camera.width_px / camera.height_px)), height


def _free(stem: str, suffix: str, taken: set[str]) -> str:
    name, number = f"{stem}.{suffix}", 2
    while name in taken:
        name, number = f"{stem}-{number}.{suffix}", number + 1
    taken.add(name)
    return name


def target(folder: Path, item: Item) -> Path:
    """Where an item's file goes."""
    return folder / item.file
