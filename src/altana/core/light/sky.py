"""The sky's brightness by direction: pale at the horizon, deeper above, brighter around the sun.

A plain analytic sky, scaled so that the open sky alone lights level ground with a given illuminance.  The
shader ``sky.glsl`` computes the same; a test holds the two together.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Protocol, cast

import numpy as np

from altana.core.conventions import Floats, Floats32, Vec3
from altana.core.light.sun import haze_of, illuminance, towards_sun
from altana.core.project import OVERCAST, Light

HORIZON = np.array([1.20, 1.30, 1.38])
ZENITH = np.array([0.27, 0.55, 1.10])
GROUND_ALBEDO = np.array([0.30, 0.29, 0.26])
SUN_TINT = np.array([1.0, 0.94, 0.85])


#: The glow about a low sun, and the blue of the zenith in twilight.
LOW_TINT = np.array([1.0, 0.52, 0.24])
DUSK_ZENITH = np.array([0.20, 0.40, 1.05])
#: The grey of an overcast sky.
OVERCAST_GREY = np.array([0.93, 0.98, 1.05])
#: Below this altitude of the sun the sky goes over into dusk, which is full at the second.
DUSK_DEG = (10.0, -4.0)


#: Nothing in the sky is drawn brighter than this; the sun is a light of its own.
BRIGHTEST_SEEN = 50_000.0


class Surrounding(Protocol):
    """A picture all round (see core/light/around.py)."""

    @property
    def key(self) -> str:
        """What it was made of."""

    @property
    def lights(self) -> bool:
        """Whether it is the light."""

    @property
    def behind(self) -> bool:
        """Whether it is what is seen."""

    @property
    def pixels(self) -> Floats32:
        """(height, width, 3) cd/m2."""

    def luminance(self, directions: Floats | Floats32) -> Floats:
        """(n, 3) luminance towards (n, 3) unit directions."""


@dataclass(frozen=True, slots=True)
class Sky:
    """``sun`` unit vector; ``sun_lux`` (3,) on a surface square to it; ``scale`` turns the shape into cd/m2.

    ``dusk`` : 0 by day, 1 in twilight.  ``cover`` : 1 for an overcast sky.
    """

    sun: Vec3
    sun_lux: tuple[float, float, float]
    scale: float
    haze: float
    dusk: float = 0.0
    cover: float = 0.0
    #: The share of their light that lamps give: 0 while they are off.
    lamps: float = 0.0
    #: A picture all round as light, background or both.
    around: Surrounding | None = None

    @property
    def ground(self) -> Floats:
        """(3,) luminance of the ground far around, lit by sun and sky."""
        level = np.asarray(self.sun_lux) * max(self.sun[2], 0.0) + self.scale * _SHAPE_LUX
        shade: Floats = GROUND_ALBEDO * level / np.pi
        return shade

    def luminance(self, directions: Floats | Floats32) -> Floats:
        """(n, 3) red, green, blue luminance (cd/m2) towards (n, 3) unit directions, without the sun
        itself."""
        if self.around is not None and self.around.lights:
            return self.around.luminance(directions)
        return self._own(directions)

    def _own(self, directions: Floats | Floats32) -> Floats:
        up = directions[:, 2:3]
        # Single precision stays single.
        sun = cast("Floats", np.asarray(self.sun, directions.dtype))
        colour = shape(cast("Floats", directions), sun, self.haze, self.dusk, self.cover) * self.scale
        return np.where(up > 0.0, colour, self.ground)

    def seen(self, directions: Floats) -> Floats:
        """(n, 3) what is seen towards (n, 3) unit directions where nothing stands: surroundings, or the sky,
        which below the horizon goes over into ground."""
        if self.around is not None and self.around.behind:
            return self.around.luminance(directions)
        above = directions[:, 2] > 0.0
        colours = np.empty((len(directions), 3), directions.dtype)
        colours[above] = np.minimum(self._own(directions[above]), BRIGHTEST_SEEN)
        under = directions[~above]
        level = under[:, :2] / np.maximum(np.linalg.norm(under[:, :2], axis=1, keepdims=True), 1e-9)
        low = self._own(np.column_stack([level, np.full(len(level), 0.01)]))
        colours[~above] = low + (self.ground - low) * np.clip(-under[:, 2:3] * 6.0, 0.0, 1.0)
        return colours

    @property
    def seen_otherwise(self) -> bool:
        """Whether what is seen behind the building is another than what lights it."""
        return self.around is not None and self.around.lights != self.around.behind


def shape(directions: Floats, sun: Floats, haze: float, dusk: float = 0.0, cover: float = 0.0) -> Floats:
    """(n, 3) relative brightness of the sky towards directions above the horizon."""
    up = np.clip(directions[:, 2:3], 0.0, 1.0)
    blend = up**0.42
    zenith = ZENITH * (1.0 - dusk) + DUSK_ZENITH * dusk
    colour = HORIZON * (1.0 - blend) + zenith * blend
    towards = np.clip(directions @ sun, 0.0, 1.0)[:, None]
    glow = 0.9 * towards**24 + 0.35 * towards**4
    # A low sun's light has come a long way: the glow is wider and warm, and lies along the horizon.
    glow = glow * (1.0 - dusk) + dusk * (1.6 * towards**6 * (1.0 - up) ** 3 + 0.25 * towards**4)
    tint = SUN_TINT * (1.0 - dusk) + LOW_TINT * dusk
    grey = colour.mean(axis=1, keepdims=True)
    mixed = colour * (1.0 - 0.5 * haze) + grey * 0.5 * haze + glow * tint
    if cover == 0.0:
        clear: Floats = mixed
        return clear
    # The standard overcast sky of the CIE: three times as bright overhead as at the horizon.
    overcast = OVERCAST_GREY * (1.0 + 2.0 * up) / 3.0
    covered: Floats = mixed * (1.0 - cover) + overcast * cover
    return covered


@lru_cache(maxsize=64)
def _level_lux(sun: Vec3, haze: float, dusk: float, cover: float) -> float:
    """Illuminance on level ground by the relative sky: the integral of brightness x cosine.  It is asked for
    every picture."""
    high, round_ = np.meshgrid((np.arange(48) + 0.5) / 48, (np.arange(96) + 0.5) / 96 * 2 * np.pi)
    sin2 = high.ravel()
    up = np.sqrt(1.0 - sin2)
    flat = np.sqrt(sin2)
    directions = np.stack([flat * np.cos(round_.ravel()), flat * np.sin(round_.ravel()), up], axis=1)
    return float(np.pi * shape(directions, np.asarray(sun), haze, dusk, cover).mean())


_SHAPE_LUX = np.pi


def sky_of(light: Light) -> Sky:
    """The sky and sun of a place and time."""
    sun = towards_sun(light)
    sun_lux, sky_lux = illuminance(light)
    low = np.clip(sun[2], 0.0, 1.0)
    tint = SUN_TINT * np.array([1.0, 0.9 + 0.1 * low**0.3, 0.7 + 0.3 * low**0.3])
    altitude = np.degrees(np.arcsin(sun[2]))
    dusk = float(np.clip((DUSK_DEG[0] - altitude) / (DUSK_DEG[0] - DUSK_DEG[1]), 0.0, 1.0))
    cover, haze = float(light.sky == OVERCAST), haze_of(light)
    scale = sky_lux / _level_lux(sun, haze, dusk, cover)
    r, g, b = (tint * sun_lux).tolist()
    return Sky(sun, (r, g, b), scale, haze, dusk, cover, light.lamps.share)
