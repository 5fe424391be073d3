"""Panoramas after they were made: would a host take them as such, tags put back, smaller copies, and a stand-in phone.

The host and the phone are small stand-ins that ship with Altana: what real ones look for is published, so that no account
and no device is needed to know beforehand.
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
from altana.render.metadata import PanoramaTags, read_xmp, xmp_packet
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
    """Whether a file would be taken as a panorama; ``reasons`` are sentences: why not, or what speaks for it."""

    taken: bool
    reasons: tuple[str, ...]
    width_px: int = 0
    height_px: int = 0


def host_says(path: Path) -> Verdict:
    """What the stand-in host says of a file.  Raises UserError where it is no picture."""
    size, kind, packet = _looked_at(path)
    width, height = size
    tags = {
        name.partition(":")[2]: value for name, value in read_xmp(packet).items() if name.startswith("GPano:")
    }
    against: list[str] = []
    if kind != "JPEG":
        against.append(f"It is a {kind} file; hosts take JPEG.")
    if not tags:
        against.append("It has no panorama tags: it is shown as a flat picture. “Mend tags” puts them back.")
    else:
        missing = [name for name in WANTED if name not in tags]
        if missing:
            against.append(f"The tag {missing[0]} is missing.")
        elif tags["ProjectionType"] != "equirectangular":
            against.append(f"Its projection is called {tags['ProjectionType']!r}, not equirectangular.")
        elif not _agrees(tags, size):
            against.append(
                "The tags tell of another size than the picture has; it was made smaller or cut elsewhere. “Mend tags” sets them right."
            )
    if width != 2 * height:
        against.append(
            f"It is {width} × {height} px, which is not 2:1"
            + (" (a stereo pair, one above the other)." if width == height else ".")
        )
    if width > WIDEST_PX:
        against.append(f"It is wider than {WIDEST_PX} px. Make a smaller copy.")
    if width < NARROWEST_PX:
        against.append(f"It is narrower than {NARROWEST_PX} px.")
    if path.stat().st_size > LARGEST_BYTES:
        against.append(f"It is larger than {LARGEST_BYTES // 1_000_000} MB. Make a smaller copy.")
    if against:
        return Verdict(False, tuple(against), width, height)
    heading = tags.get("PoseHeadingDegrees", "0")
    return Verdict(
        True,
        (f"Taken as a panorama of {width} × {height} px; its middle looks to {float(heading):.0f}°.",),
        width,
        height,
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
            found = image.info.get("xmp") or image.info.get("XML:com.adobe.xmp") or b""
            return image.size, str(image.format), found.encode() if isinstance(found, str) else bytes(found)
    except (OSError, Image.DecompressionBombError, ValueError) as error:
        raise UserError(f"{path.name} cannot be read as a picture. Nothing was changed.") from error


def front_of(path: Path) -> float:
    """The heading of a panorama's middle as its tags say, degrees; 0 where they say none, or the file is none."""
    try:
        _, _, packet = _looked_at(path)
        return _number(read_xmp(packet).get("GPano:PoseHeadingDegrees", "0"))
    except (UserError, ValueError):
        return 0.0


def mended(path: Path, out: Path, width_px: int = 0, heading_deg: float | None = None) -> Path:
    """Any 2:1 picture as a JPEG with panorama tags; what the tags said before of its heading and its camera stays.

    width_px : a smaller copy; 0 keeps the size.  Raises UserError.
    """
    size, _, packet = _looked_at(path)
    if size[0] != 2 * size[1]:
        raise UserError(
            f"{path.name} is {size[0]} × {size[1]} px, which is not 2:1. Nothing was written; cut it to 2:1 first."
        )
    before = read_xmp(packet)
    held = heading_deg if heading_deg is not None else _number(before.get("GPano:PoseHeadingDegrees", "0"))
    wide = min(width_px or size[0], size[0]) // 2 * 2
    tags = PanoramaTags(wide, wide // 2, held, _number(before.get("GPano:InitialViewHeadingDegrees", "0")))
    with Image.open(path) as image:
        pixels = image.convert("RGB")
        if wide != size[0]:
            pixels = pixels.resize((wide, wide // 2), Image.Resampling.LANCZOS)
    buffer = io.BytesIO()
    pixels.save(
        buffer,
        "JPEG",
        quality=94,
        subsampling=0,
        xmp=xmp_packet(path.stem, before.get("altana:Camera", ""), tags),
    )
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
    """Heading and tilt that a page shows for a phone's turning sensor (alpha about the vertical, beta from lying to upright,
    as the W3C's device orientation has them), held upright at the beginning."""
    return (start_alpha_deg - alpha_deg) % 360.0, min(89.0, max(-89.0, beta_deg - 90.0))


def recorded_motion(seconds: float = 8.0, rate_hz: float = 30.0) -> Floats:
    """(n, 3) a phone turned by hand: second, alpha and beta in degrees.  Once round with a look up and a look down, and the
    small shaking of a hand; made up, the same each time."""
    moment = np.arange(0.0, seconds, 1.0 / rate_hz)
    share = moment / seconds
    eased = share * share * (3.0 - 2.0 * share)
    hand = np.random.default_rng(9).normal(0.0, 0.25, (2, len(moment)))
    steady = np.stack([np.convolve(row, np.ones(9) / 9.0, mode="same") for row in hand])
    alpha = -360.0 * eased + steady[0]
    beta = 90.0 + 24.0 * np.sin(2.0 * np.pi * share) + steady[1]
    return np.column_stack([moment, alpha % 360.0, beta])
