"""Light sources of files as lamps, whatever the format says of them."""

from __future__ import annotations

import math

import numpy as np

from altana.core.conventions import Floats, Vec3
from altana.core.model import Lamp
from altana.core.project import free_name
from altana.importers.raw import RawModel

#: More than so many are not taken.
MOST_LAMPS = 1000
#: A source brighter than this is no lamp.
BRIGHTEST_CD = 1e9
#: Blue over red of a light, and the warmth that looks so (kelvin).
_BLUE_OVER_RED, _KELVIN = (0.1, 0.35, 0.65, 1.0, 1.4), (1900.0, 2700.0, 4000.0, 6500.0, 9000.0)


def kelvin_of(red: float, blue: float) -> float:
    """The warmth of a light by its linear red and blue."""
    return float(np.interp(blue / max(red, 1e-3), _BLUE_OVER_RED, _KELVIN))


def space_of(half_deg: float | None) -> float:
    """The solid angle, steradian, that a cone of this half-angle fills; None for all round."""
    return 4.0 * math.pi if half_deg is None else 2.0 * math.pi * (1.0 - math.cos(math.radians(half_deg)))


def add_lamp(
    raw: RawModel,
    name: str,
    world: Floats,
    candela: float,
    kelvin: float,
    along: Floats | None = None,
    half_deg: float = 45.0,
) -> None:
    """Keep a lamp under a name of its own.  world : (4, 4) where it hangs.  along : (3,) which way it throws
    its cone of this half-angle, None for all round.  What is damaged or dark is left out."""
    sound = np.isfinite(world).all() and 0.0 < candela < BRIGHTEST_CD and math.isfinite(kelvin)
    if not sound or len(raw.lamps) >= MOST_LAMPS:
        return
    direction: Vec3 | None = None
    half = min(max(half_deg, 0.5), 90.0)
    if along is not None:
        east, north, up = (np.asarray(along, float) / max(float(np.linalg.norm(along)), 1e-12)).tolist()
        direction = (east, north, up)
    x, y, z = world[:3, 3].tolist()
    lumens = candela * space_of(half if direction is not None else None)
    free = free_name(name, tuple(lamp.name for lamp in raw.lamps))
    raw.lamps.append(Lamp(free, (x, y, z), lumens, kelvin, direction, 2.0 * half))
