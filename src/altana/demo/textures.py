"""Tileable surfaces made by code: wood, brick, plaster, tile, gravel, paving, grass, water, metal.

Noise is shaped in the frequency domain of a square picture, which makes it tile without a seam.
"""

from __future__ import annotations

from dataclasses import dataclass
from io import BytesIO

import numpy as np
from numpy.typing import NDArray
from PIL import Image

Array = NDArray[np.float64]
SIDE = 512


@dataclass(frozen=True, slots=True)
class Surface:
    """A material of the demo: sRGB colour and opacity, the metres one texture tile covers (0: no texture)."""

    name: str
    colour: tuple[float, float, float, float]
    tile_m: float = 0.0
    roughness: float = 0.8
    pattern: str = ""


SURFACES = {
    surface.name: surface
    for surface in (
        Surface("Oak", (0.66, 0.49, 0.33, 1), 1.2, 0.6, "wood"),
        Surface("Larch boards", (0.60, 0.44, 0.30, 1), 1.2, 0.8, "boards"),
        Surface("Larch ceiling", (0.74, 0.60, 0.44, 1), 1.2, 0.7, "boards"),
        Surface("Glulam", (0.76, 0.60, 0.42, 1), 1.6, 0.6, "wood"),
        Surface("Weathered deck", (0.52, 0.49, 0.45, 1), 1.2, 0.9, "wood"),
        Surface("Brick", (0.58, 0.41, 0.34, 1), 1.0, 0.9, "brick"),
        Surface("Plaster", (0.90, 0.87, 0.81, 1), 2.0, 0.9, "plaster"),
        Surface("Floor tile", (0.66, 0.63, 0.57, 1), 1.2, 0.35, "tile"),
        Surface("Concrete", (0.62, 0.61, 0.58, 1), 2.5, 0.85, "plaster"),
        Surface("Quay stone", (0.60, 0.58, 0.54, 1), 2.4, 0.9, "paving"),
        Surface("Gravel", (0.62, 0.58, 0.51, 1), 1.6, 0.95, "gravel"),
        Surface("Grass", (0.33, 0.42, 0.20, 1), 3.0, 0.95, "gravel"),
        Surface("Lake water", (0.13, 0.24, 0.27, 1), 0.0, 0.04),
        Surface("Clear glass", (0.86, 0.92, 0.91, 0.12), 0.0, 0.03),
        Surface("Dark steel", (0.17, 0.17, 0.17, 1), 0.0, 0.45),
        Surface("Roof zinc", (0.46, 0.48, 0.49, 1), 0.0, 0.4),
        Surface("White lacquer", (0.90, 0.89, 0.86, 1), 0.0, 0.3),
        Surface("Green lacquer", (0.16, 0.36, 0.33, 1), 0.0, 0.35),
        Surface("Red lacquer", (0.58, 0.19, 0.14, 1), 0.0, 0.35),
        Surface("Lamp shade", (0.96, 0.93, 0.84, 1), 0.0, 0.5),
        Surface("Bark", (0.33, 0.26, 0.20, 1), 0.8, 0.95, "wood"),
        Surface("Lime leaves", (0.30, 0.42, 0.14, 1), 0.0, 0.8),
        Surface("Birch leaves", (0.42, 0.50, 0.18, 1), 0.0, 0.8),
        Surface("Far woods", (0.36, 0.44, 0.38, 1), 0.0, 1.0),
        Surface("Far hills", (0.52, 0.60, 0.62, 1), 0.0, 1.0),
        Surface("Felt", (0.24, 0.33, 0.38, 1), 0.0, 0.95),
        Surface("Paper", (0.93, 0.91, 0.85, 1), 0.0, 0.9),
    )
}


def noise(seed: int, across: float, along: float, slope: float = 1.2) -> Array:
    """(SIDE, SIDE) noise, mean 0, deviation 1; features grow with ``across`` (rows) and ``along``
    (columns)."""
    random = np.random.default_rng(seed)
    spectrum = np.fft.rfft2(random.normal(size=(SIDE, SIDE)))
    fy = np.fft.fftfreq(SIDE)[:, None] * SIDE * across
    fx = np.fft.rfftfreq(SIDE)[None] * SIDE * along
    shaped: Array = np.fft.irfft2(spectrum / (1.0 + (fy**2 + fx**2)) ** slope, s=(SIDE, SIDE))
    shaped -= shaped.mean()
    shaped /= shaped.std()
    return shaped


def _wood(seed: int) -> Array:
    grain = noise(seed, 0.03, 0.6, 0.9)
    return (
        1.0
        + 0.055 * grain
        + 0.05 * noise(seed + 1, 0.2, 1.2)
        + 0.03 * np.sin(noise(seed + 2, 0.25, 2.5) * 9.0)
    )


def _boards(seed: int) -> Array:
    value = _wood(seed)
    count = 8
    row = np.arange(SIDE) * count // SIDE
    tone = np.random.default_rng(seed + 5).uniform(0.86, 1.1, count)
    value = np.stack([np.roll(line, int(row[i]) * 131) for i, line in enumerate(value)]) * tone[row][:, None]
    edge = (np.arange(SIDE) * count % SIDE) / count
    value[edge < 2.2] *= 0.45
    return value


def _courses(
    rows: int, columns: int, joint_px: float, seed: int, spread: float
) -> tuple[Array, NDArray[np.bool_]]:
    y, x = np.mgrid[0:SIDE, 0:SIDE]
    row = y * rows // SIDE
    shifted = (x + (row % 2) * (SIDE // (2 * columns))) % SIDE
    column = shifted * columns // SIDE
    tone = np.random.default_rng(seed).normal(1.0, spread, (rows, columns))[row, column]
    joint = ((y * rows % SIDE) / rows < joint_px) | ((shifted * columns % SIDE) / columns < joint_px)
    return tone, joint


def _brick(seed: int) -> Array:
    tone, joint = _courses(12, 4, 5.0, seed, 0.13)
    value = tone * (1.0 + 0.10 * noise(seed + 1, 0.05, 0.05))
    return np.where(joint, 1.45 + 0.05 * noise(seed + 2, 0.02, 0.02), value)


def _tile(seed: int) -> Array:
    y, x = np.mgrid[0:SIDE, 0:SIDE]
    tone = np.random.default_rng(seed).normal(1.0, 0.025, (2, 2))[y * 2 // SIDE, x * 2 // SIDE]
    joint = (y % (SIDE // 2) < 3) | (x % (SIDE // 2) < 3)
    return np.where(joint, 0.72, tone * (1.0 + 0.025 * noise(seed + 1, 0.2, 0.2)))


def _paving(seed: int) -> Array:
    tone, joint = _courses(4, 3, 4.0, seed, 0.06)
    return np.where(joint, 0.62, tone * (1.0 + 0.06 * noise(seed + 1, 0.05, 0.05, 0.8)))


def _gravel(seed: int) -> Array:
    return 1.0 + 0.10 * noise(seed, 0.04, 0.04, 0.7) + 0.06 * noise(seed + 1, 0.4, 0.4)


def _plaster(seed: int) -> Array:
    return 1.0 + 0.012 * noise(seed, 0.05, 0.05, 0.7) + 0.02 * noise(seed + 1, 0.5, 0.5)


_PATTERNS = {
    "wood": _wood,
    "boards": _boards,
    "brick": _brick,
    "tile": _tile,
    "paving": _paving,
    "gravel": _gravel,
    "plaster": _plaster,
}


def picture(surface: Surface) -> Image.Image:
    """The surface's texture, its colour included; the top row of the picture is v = 1."""
    seed = sum(map(ord, surface.name))
    value = _PATTERNS[surface.pattern](seed)
    linear = (np.asarray(surface.colour[:3]) ** 2.2) * np.clip(value, 0.05, 2.2)[..., None]
    warm = 1.0 + 0.03 * noise(seed + 9, 0.3, 0.3)[..., None] * np.array([1.0, 0.0, -1.0])
    pixels = np.clip(linear * warm, 0.0, 1.0) ** (1 / 2.2)
    image = Image.fromarray((pixels * 255 + 0.5).astype(np.uint8)[::-1])
    buffer = BytesIO()
    # Encoded once here, so that the file holds the same bytes every time.
    image.save(buffer, "JPEG", quality=90)
    return Image.open(BytesIO(buffer.getvalue()))
