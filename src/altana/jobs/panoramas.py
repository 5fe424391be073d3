"""Panoramas after they were made: would a host take them as such, tags put back, smaller copies, and a
stand-in phone.

The host and the phone are small stand-ins that ship with Altana: what real ones look for is published, so
that no account and no device is needed to know beforehand.
"""

from __future__ import annotations

import io
import math
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from PIL import Image

from altana.core.conventions import Floats
from altana.core.errors import UserError
from altana.render.metadata import OVER_UNDER, PanoramaTags, jpeg_with_xmp, read_xmp, xmp_packet
from altana.storage.files import write_atomically

#: What hosts commonly take: JPEG, no wider than this, no smaller than that.
WIDEST_PX, NARROWEST_PX = 16_384, 512
LARGEST_BYTES = 100_000_000
WANTED = (
    "ProjectionType",
    "FullPanoWidthPixels",
    "FullPanoHeightPixels",
    "CroppedAreaImageWidthPixels",
    "CroppedAreaImageHeightPixels",
)


@dataclass(frozen=True, slots=True)
class Verdict:
    """Whether a file would be taken as a panorama; ``reasons`` are sentences: why not, or what speaks for
    it."""

    taken: bool
    reasons: tuple[str, ...]
    width_px: int = 0
    height_px: int = 0


def host_says(path: Path) -> Verdict:
    """What the stand-in host says of a file.  Raises UserError where it is no picture."""
    size, kind, packet = _looked_at(path)
    width, height = size
    xmp = read_xmp(packet)
    tags = {name.partition(":")[2]: value for name, value in xmp.items() if name.startswith("GPano:")}
    stereo = xmp.get("GSpherical:StereoMode") == OVER_UNDER
    one = (width, height // 2) if stereo else size
    against: list[str] = []
    if kind != "JPEG":
        against.append(f"It is a {kind} file; hosts take JPEG.")
    if not tags:
        against.append("It has no panorama tags: it is shown as a flat picture. “Mend tags” puts them back.")
    else:
        missing = [name for name in WANTED if name not in tags]
        if missing:
            against.append(f"The tag {missing[0]} is missing. “Mend tags” puts it back.")
        elif tags["ProjectionType"] != "equirectangular":
            against.append(f"Its projection is called {tags['ProjectionType']!r}, not equirectangular.")
        elif not _agrees(tags, one):
            against.append(
                "The tags tell of another size than the picture has; it was made smaller or cut elsewhere. “Mend tags” sets them right."
            )
    if stereo and width != height:
        against.append(
            f"It is {width} × {height} px; a stereo pair is as high as it is wide, one eye above the other."
        )
    elif not stereo and width == height:
        against.append(
            f"It is {width} × {height} px, as a stereo pair is, and no tag says that it is one. “Mend tags” says so."
        )
    elif not stereo and width != 2 * height:
        against.append(f"It is {width} × {height} px, which is not 2:1.")
    if width > WIDEST_PX:
        against.append(f"It is wider than {WIDEST_PX} px. Make a smaller copy.")
    if width < NARROWEST_PX:
        against.append(f"It is narrower than {NARROWEST_PX} px.")
    if path.stat().st_size > LARGEST_BYTES:
        against.append(f"It is larger than {LARGEST_BYTES // 1_000_000} MB. Make a smaller copy.")
    if against:
        return Verdict(False, tuple(against), width, height)
    heading = _number(tags.get("PoseHeadingDegrees", "0"))
    what = "a stereo panorama, one eye above the other, each" if stereo else "a panorama"
    sentence = f"Taken as {what} of {one[0]} × {one[1]} px; its middle looks to {heading:.0f}°."
    return Verdict(True, (sentence,), width, height)


def mendable(path: Path) -> bool:
    """Whether new tags would make a host take a file that it does not take now.  Raises UserError where it is
    no picture."""
    (width, height), kind, _ = _looked_at(path)
    verdict = host_says(path)
    shaped = width in (height, 2 * height)
    return not verdict.taken and kind == "JPEG" and shaped and NARROWEST_PX <= width <= WIDEST_PX


def mend_in_place(path: Path) -> Path:
    """The tags of a JPEG set right in the file itself, its picture untouched.  Raises UserError."""
    size, kind, packet = _looked_at(path)
    if kind != "JPEG" or size[0] not in (size[1], 2 * size[1]):
        raise UserError(
            f"{path.name} is no JPEG of a panorama, 2:1, or 1:1 for a stereo pair. Nothing was changed."
        )
    before = read_xmp(packet)
    try:
        data = jpeg_with_xmp(path.read_bytes(), _packet(path, before, size[0], size[0] == size[1], None))
    except (OSError, ValueError) as error:
        raise UserError(f"{path.name} cannot take tags: it is damaged. Nothing was changed.") from error
    write_atomically(path, data)
    return path


def _packet(path: Path, before: dict[str, str], wide: int, stereo: bool, heading_deg: float | None) -> bytes:
    heading = _number(before.get("GPano:PoseHeadingDegrees", "0")) if heading_deg is None else heading_deg
    begin = _number(before.get("GPano:InitialViewHeadingDegrees", "0"))
    return xmp_packet(
        path.stem,
        before.get("altana:Camera", ""),
        PanoramaTags(wide, wide // 2, heading, begin, stereo=stereo),
    )


def _agrees(tags: dict[str, str], size: tuple[int, int]) -> bool:
    try:
        numbers = {name: int(tags[name]) for name in WANTED[1:]}
    except ValueError:
        return False
    whole = (numbers["FullPanoWidthPixels"], numbers["FullPanoHeightPixels"])
    return whole == size == (numbers["CroppedAreaImageWidthPixels"], numbers["CroppedAreaImageHeightPixels"])


def _looked_at(path: Path) -> tuple[tuple[int, int], str, bytes]:
    try:
        with Image.open(path) as image:
            packet = image.info.get("xmp") or image.info.get("XML:com.adobe.xmp") or b""
            return (
                image.size,
                str(image.format),
                packet.encode() if isinstance(packet, str) else bytes(packet),
            )
    except (OSError, Image.DecompressionBombError, ValueError) as error:
        raise UserError(f"{path.name} cannot be read as a picture. Nothing was changed.") from error


def front_of(path: Path) -> float:
    """The heading of a panorama's middle as its tags say, degrees; 0 where they say none, or the file is
    none."""
    try:
        _, _, packet = _looked_at(path)
        return _number(read_xmp(packet).get("GPano:PoseHeadingDegrees", "0"))
    except (UserError, ValueError):
        return 0.0


def mended(path: Path, out: Path, width_px: int = 0, heading_deg: float | None = None) -> Path:
    """Any 2:1 picture, or 1:1 stereo pair, as a JPEG with panorama tags; what the tags said before of its
    heading and its camera stays.

    width_px : a smaller copy; 0 keeps the size.  Raises UserError.
    """
    size, _, packet = _looked_at(path)
    if size[0] not in (size[1], 2 * size[1]):
        raise UserError(
            f"{path.name} is {size[0]} × {size[1]} px, which is not 2:1, nor 1:1 as a stereo pair. Nothing was written; cut it first."
        )
    stereo = size[0] == size[1]
    wide = min(width_px or size[0], size[0]) // 2 * 2
    with Image.open(path) as image:
        pixels = image.convert("RGB")
        if wide != size[0]:
            pixels = pixels.resize((wide, wide if stereo else wide // 2), Image.Resampling.LANCZOS)
    buffer = io.BytesIO()
    packet = _packet(path, read_xmp(packet), wide, stereo, heading_deg)
    pixels.save(buffer, "JPEG", quality=94, subsampling=0, xmp=packet)
    write_atomically(out, buffer.getvalue())
    return out


def _number(text: str) -> float:
    try:
        value = float(text)
    except ValueError:
        return 0.0
    return value if math.isfinite(value) else 0.0


# ---------------------------------------------------------------------- a phone


def seen_by_phone(alpha_deg: float, beta_deg: float, start_alpha_deg: float = 0.0) -> tuple[float, float]:
    """Heading and tilt that a page shows for a phone's turning sensor (alpha about the vertical, beta from
    lying to upright, as the W3C's device orientation has them), held upright at the beginning."""
    return (start_alpha_deg - alpha_deg) % 360.0, min(89.0, max(-89.0, beta_deg - 90.0))


def recorded_motion(seconds: float = 8.0, rate_hz: float = 30.0) -> Floats:
    """(n, 3) a phone turned by hand: second, alpha and beta in degrees.  Once round with a look up and a look
    down, and the small shaking of a hand; made up, the same each time."""
    moment = np.arange(0.0, seconds, 1.0 / rate_hz)
    share = moment / seconds
    eased = share * share * (3.0 - 2.0 * share)
    hand = np.random.default_rng(9).normal(0.0, 0.25, (2, len(moment)))
    steady = np.stack([np.convolve(row, np.ones(9) / 9.0, mode="same") for row in hand])
    alpha = -360.0 * eased + steady[0]
    beta = 90.0 + 24.0 * np.sin(2.0 * np.pi * share) + steady[1]
    return np.column_stack([moment, alpha % 360.0, beta])
