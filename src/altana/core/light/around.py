"""Surroundings as light: a picture all round, brought to the brightness of the hour, and the sun that is
found in it."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

import numpy as np

from altana.core.conventions import Floats, Floats32
from altana.core.light.sky import Sky
from altana.core.project import AS_BACKGROUND, AS_LIGHT, Surroundings

LUMINANCE = np.array([0.2126, 0.7152, 0.0722])
#: A sun is at least so many times brighter than the middle of the sky, lies within pixels at least so bright
#: compared with the brightest, and throws at least so large a share of all light.
SUN_OVER, SUN_SHARE, SUN_LIGHT = 80.0, 0.1, 0.15
LARGEST_PX = 4096


@dataclass(frozen=True, slots=True)
class Around:
    """``pixels`` (height, width, 3) cd/m2: columns by heading from north, clockwise, rows from straight up to
    straight down.

    ``lights`` : it is the light; ``behind`` : it is what is seen.  Equal where they were made of the same.
    """

    key: str
    lights: bool
    behind: bool
    pixels: Floats32 = field(compare=False, repr=False)

    def luminance(self, directions: Floats | Floats32) -> Floats:
        """(n, 3) luminance towards (n, 3) unit directions, of the nearest pixel."""
        high, wide = self.pixels.shape[:2]
        heading = np.arctan2(directions[:, 0], directions[:, 1]) / (2.0 * np.pi)
        column = np.floor((heading % 1.0) * wide).astype(int) % wide
        row = np.clip(
            (np.arccos(np.clip(directions[:, 2], -1.0, 1.0)) / np.pi * high).astype(int), 0, high - 1
        )
        pixels: Floats = self.pixels[row, column].astype(float)
        return pixels


def with_surroundings(sky: Sky, sky_lux: float, pixels: Floats32, how: Surroundings, key: str) -> Sky:
    """The sky with surroundings.  pixels : (height, width, 3) linear, of any brightness.  sky_lux : what the
    sky of the hour throws on level ground.  Where they light, their sun is the sun, or there is none, unless
    the sun of the hour is to shine."""
    high, wide = pixels.shape[:2]
    if wide > LARGEST_PX:
        step = -(-wide // LARGEST_PX)
        high, wide = high // step * step, wide // step * step
        pixels = pixels[:high, :wide].reshape(high // step, step, wide // step, step, 3).mean(axis=(1, 3))
        high, wide = pixels.shape[:2]
    # The middle of the picture lies in the north, or where it is turned.
    shown = np.roll(pixels, round(how.turn_deg / 360.0 * wide) - wide // 2, axis=1)
    polar = (np.arange(high) + 0.5) / high * np.pi
    space = np.sin(polar) * (np.pi / high) * (2.0 * np.pi / wide)
    upward = np.maximum(np.cos(polar), 0.0) * space
    lights, behind = how.use != AS_BACKGROUND, how.use != AS_LIGHT
    sun, sun_light, without = _sun_in(shown, space) if lights else (None, np.zeros(3), shown)
    level = float(((without @ LUMINANCE) * upward[:, None]).sum())
    scale = sky_lux / max(level, 1e-9) * 2.0**how.strength_ev
    around = Around(key, lights, behind, (without * scale).astype(np.float32))
    if not lights or how.sun_of_hour:
        return replace(sky, around=around)
    if sun is None:
        return replace(sky, around=around, sun_lux=(0.0, 0.0, 0.0))
    r, g, b = (sun_light * scale).tolist()
    x, y, z = sun.tolist()
    return replace(sky, around=around, sun=(x, y, z), sun_lux=(r, g, b))


def _sun_in(pixels: Floats32, space: Floats) -> tuple[Floats | None, Floats, Floats32]:
    """The direction of the sun in a picture all round, what it throws square to itself, and the picture
    without it; None for none."""
    high, wide = pixels.shape[:2]
    bright = pixels @ LUMINANCE
    upper = bright[: high // 2]
    top = float(upper.max())
    if top < SUN_OVER * max(float(np.median(upper)), 1e-9):
        return None, np.zeros(3), pixels
    mask = bright > SUN_SHARE * top
    mask[high // 2 :] = False
    weight = np.where(mask, bright * space[:, None], 0.0)
    if weight.sum() < SUN_LIGHT * (bright[: high // 2] * space[: high // 2, None]).sum():
        return None, np.zeros(3), pixels
    rows, columns = np.nonzero(mask)
    polar, heading = (rows + 0.5) / high * np.pi, (columns + 0.5) / wide * 2.0 * np.pi
    along = np.stack(
        [np.sin(polar) * np.sin(heading), np.sin(polar) * np.cos(heading), np.cos(polar)], axis=1
    )
    sun = (along * weight[rows, columns][:, None]).sum(axis=0)
    thrown = (pixels[rows, columns].astype(float) * space[rows][:, None]).sum(axis=0)
    without = pixels.copy()
    without[mask] = np.median(pixels[: high // 2].reshape(-1, 3), axis=0)
    return sun / np.linalg.norm(sun), thrown, without
