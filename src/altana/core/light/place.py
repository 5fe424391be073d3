"""Places on earth as people write them."""

from __future__ import annotations

import re

from altana.core.ranges import LATITUDE_DEG, LONGITUDE_DEG

_NUMBER = r"[+\-−]?\d{1,3}(?:[.,]\d+)?"
#: Degrees, and minutes and seconds where they are written; a letter of the compass before or behind.
_ANGLE = re.compile(
    rf"(?P<before>[NSEWO])?\s*(?P<deg>{_NUMBER})\s*°?\s*"
    r"(?:(?P<min>\d{1,2}(?:[.,]\d+)?)\s*['′’]\s*(?:(?P<sec>\d{1,2}(?:[.,]\d+)?)\s*(?:\"|″|”|''))?)?\s*(?P<behind>[NSEWO])?",
    re.IGNORECASE,
)


def _degrees(match: re.Match[str]) -> tuple[float, str]:
    number = [
        float((match[name] or "0").replace(",", ".").replace("−", "-")) for name in ("deg", "min", "sec")
    ]
    letter = (match["before"] or match["behind"] or "").upper()
    size = abs(number[0]) + number[1] / 60.0 + number[2] / 3600.0
    negative = (match["deg"] or "").startswith(("-", "−")) or letter in ("S", "W")
    return -size if negative else size, letter


def parse_place(text: str) -> tuple[float, float] | None:
    """Latitude and longitude in degrees from ``47.5, 9.4``, ``47°30'N 9°24'E``, ``N 47 30.5' E 9 24'``,
    ``47,5; 9,4``; None for text that holds no two angles.  Raises Refused for angles that lie nowhere on
    earth."""
    plain = " ".join(text.split())
    # A comma between digits is decimal only where something else parts the two numbers.
    parted = re.split(r"\s*;\s*", plain)
    if len(parted) != 2:
        parted = re.split(r"\s*,\s+|(?<=[NSEWO°'′″\"])\s*,\s*", plain, flags=re.IGNORECASE)
    if len(parted) != 2:
        parted = plain.split(",") if plain.count(",") == 1 else []
    if len(parted) != 2:
        both = re.fullmatch(r"(.*?[NS])\s*(.+)", plain, re.IGNORECASE) or re.fullmatch(r"(\S+) (\S+)", plain)
        # The letter may stand before: N 47 … E 9 …
        ahead = re.fullmatch(r"([NS].*?)\s*([EWO].*)", plain, re.IGNORECASE)
        match = ahead or both
        parted = list(match.groups()) if match else []
    if len(parted) != 2:
        return None
    first, second = (_ANGLE.fullmatch(part.strip()) for part in parted)
    if first is None or second is None:
        return None
    (a, a_letter), (b, b_letter) = _degrees(first), _degrees(second)
    latitude, longitude = (b, a) if a_letter in ("E", "W", "O") or b_letter in ("N", "S") else (a, b)
    LATITUDE_DEG.check("A latitude", latitude)
    LONGITUDE_DEG.check("A longitude", longitude)
    return latitude, longitude


def place_words(latitude_deg: float, longitude_deg: float) -> str:
    """A place as ``47.50° N, 9.40° E``."""
    north, east = "N" if latitude_deg >= 0 else "S", "E" if longitude_deg >= 0 else "W"
    return f"{abs(latitude_deg):.2f}° {north}, {abs(longitude_deg):.2f}° {east}"
