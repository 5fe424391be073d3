"""The shipped list of towns: place and time zone by name, without a network.  Data of GeoNames
(geonames.org), CC BY 4.0."""

from __future__ import annotations

import gzip
import math
import unicodedata
from bisect import bisect_left
from dataclasses import dataclass
from functools import lru_cache
from itertools import accumulate
from pathlib import Path

from altana.core.errors import UserError

LIST = Path(__file__).parent / "towns.tsv.gz"


@dataclass(frozen=True, slots=True)
class Town:
    """A town: its name, its country's two letters, where it lies (degrees north and east), its time zone,
    other names."""

    name: str
    country: str
    latitude_deg: float
    longitude_deg: float
    zone: str
    others: tuple[str, ...] = ()

    @property
    def words(self) -> str:
        """Name and country."""
        return f"{self.name}, {self.country}"


def plain(name: str) -> str:
    """A name without accents and capitals."""
    if name.isascii():
        return name.casefold().strip()
    spread = unicodedata.normalize("NFKD", name.replace("ß", "ss").replace("ø", "o").replace("ł", "l"))
    return "".join(sign for sign in spread if not unicodedata.combining(sign)).casefold().strip()


@lru_cache(maxsize=1)
def towns() -> tuple[Town, ...]:
    """All towns, the largest first."""
    towns_read = []
    for line in gzip.decompress(LIST.read_bytes()).decode().splitlines():
        name, country, north, east, zone, others = line.split("\t")
        more = tuple(others.split("|")) if others else ()
        towns_read.append(Town(name, country, float(north), float(east), zone, more))
    return tuple(towns_read)


@lru_cache(maxsize=1)
def _written() -> tuple[str, list[int], list[int]]:
    """All names without accents, one a line, the first line empty; where each begins, and to which town it
    belongs."""
    names, owner = [], []
    for number, town in enumerate(towns()):
        for name in (town.name, *town.others):
            names.append(plain(name))
            owner.append(number)
    begins = list(accumulate((len(name) + 1 for name in names[:-1]), initial=1))
    return "\n" + "\n".join(names) + "\n", begins, owner


def towns_like(text: str, most: int = 12) -> list[Town]:
    """Towns whose name, or another name, begins so; whole names first, then the largest.  A country may
    follow: ``Bern, CH``."""
    name, _, country = text.partition(",")
    wanted, land = plain(name).replace("\n", " "), country.strip().upper()
    if not wanted:
        return []
    lines, begins, owner = _written()
    # Of each town that is found: 0 where it is called so, 1 where another name of it is, 2 where one begins
    # so.
    places: dict[int, int] = {}
    at = lines.find("\n" + wanted)
    while at >= 0:
        number = bisect_left(begins, at + 1)
        town = owner[number]
        if lines[at + 1 + len(wanted)] != "\n":
            rank = 2
        else:
            rank = 0 if number == 0 or owner[number - 1] != town else 1
        places[town] = min(rank, places.get(town, 2))
        at = lines.find("\n" + wanted, at + 1)
    every = towns()
    there = [number for number in places if not land or every[number].country == land]
    return [every[number] for number in sorted(there, key=lambda number: (places[number], number))[:most]]


def town_named(text: str) -> Town:
    """The town of this name, the largest where there are several.  Raises UserError."""
    matches = towns_like(text, 3)
    if not matches:
        raise UserError(
            f"“{text}” is no town in the list and no place. Write a town, or degrees such as 47.5, 9.4."
        )
    return matches[0]


def nearest_town(latitude_deg: float, longitude_deg: float) -> Town:
    """The town nearest to a place; its time zone holds there almost everywhere."""
    narrow = math.cos(math.radians(latitude_deg))

    def away(town: Town) -> float:
        east = abs(town.longitude_deg - longitude_deg)
        return (town.latitude_deg - latitude_deg) ** 2 + (min(east, 360.0 - east) * narrow) ** 2

    return min(towns(), key=away)
