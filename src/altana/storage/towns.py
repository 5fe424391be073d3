"""The shipped list of towns: place and time zone by name, without a network.  Data of GeoNames (geonames.org), CC BY 4.0."""

from __future__ import annotations

import gzip
import math
import unicodedata
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from altana.core.errors import UserError

LIST = Path(__file__).parent / "towns.tsv.gz"


@dataclass(frozen=True, slots=True)
class Town:
    """A town: its name, its country's two letters, where it lies (degrees north and east), its time zone, other names."""

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
    spread = unicodedata.normalize("NFKD", name.replace("ß", "ss").replace("ø", "o").replace("ł", "l"))
    return "".join(sign for sign in spread if not unicodedata.combining(sign)).casefold().strip()


@lru_cache(maxsize=1)
def towns() -> tuple[Town, ...]:
    """All towns, the largest first."""
    found = []
    for line in gzip.decompress(LIST.read_bytes()).decode().splitlines():
        name, country, north, east, zone, others = line.split("\t")
        more = tuple(others.split("|")) if others else ()
        found.append(Town(name, country, float(north), float(east), zone, more))
    return tuple(found)


def towns_like(text: str, most: int = 12) -> list[Town]:
    """Towns whose name, or another name, begins so; whole names first, then the largest.  A country may follow: ``Bern, CH``."""
    name, _, country = text.partition(",")
    wanted, land = plain(name), country.strip().upper()
    if not wanted:
        return []
    whole, begins = [], []
    for town in towns():
        if land and town.country != land:
            continue
        names = [plain(item) for item in (town.name, *town.others)]
        if wanted in names:
            whole.append((wanted != names[0], town))
        elif any(item.startswith(wanted) for item in names):
            begins.append(town)
    whole.sort(key=lambda pair: pair[0])
    return [*(town for _, town in whole), *begins][:most]


def town_named(text: str) -> Town:
    """The town of this name, the largest where there are several.  Raises UserError."""
    found = towns_like(text, 3)
    if not found:
        raise UserError(
            f"“{text}” is no town in the list and no place. Write a town, or degrees such as 47.5, 9.4."
        )
    return found[0]


def nearest_town(latitude_deg: float, longitude_deg: float) -> Town:
    """The town nearest to a place; its time zone holds there almost everywhere."""
    narrow = math.cos(math.radians(latitude_deg))

    def away(town: Town) -> float:
        east = abs(town.longitude_deg - longitude_deg)
        return (town.latitude_deg - latitude_deg) ** 2 + (min(east, 360.0 - east) * narrow) ** 2

    return min(towns(), key=away)
