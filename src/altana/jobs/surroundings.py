"""Surroundings: a 2:1 picture round the building, read once and kept as light."""

from __future__ import annotations

import io
from functools import lru_cache
from pathlib import Path

import numpy as np
from PIL import Image

from altana.core.conventions import Floats32
from altana.core.errors import Refused, UserError
from altana.core.light.around import with_surroundings
from altana.core.light.sky import Sky, sky_of
from altana.core.light.sun import illuminance
from altana.core.light.tone import decoded
from altana.core.project import Light, Surroundings
from altana.core.radiance import is_radiance, read_radiance
from altana.importers.pictures import EXR_MAGIC, read_exr
from altana.storage.project_file import beside

#: How much wider or narrower than 2:1 a picture may be.
PROPORTION = (1.9, 2.1)
LARGEST_PX = 16_384


def read_surroundings(path: Path) -> Floats32:
    """Linear light of a 2:1 picture, (height, width, 3) float32; negative values and what is no number are
    taken for nothing.

    Raises UserError with one sentence."""
    stat = path.stat()
    return _read(path, stat.st_mtime_ns, stat.st_size)


@lru_cache(maxsize=2)
def _read(path: Path, _changed: int, _size: int) -> Floats32:
    try:
        light = _light_of(path)
    except UserError as error:
        if not isinstance(error, Refused):
            raise
        raise _damaged(path) from error
    except Exception as error:
        # Readers of pictures fail in as many ways as pictures can be damaged.
        raise _damaged(path) from error
    high, wide = light.shape[:2]
    if not PROPORTION[0] <= wide / max(high, 1) <= PROPORTION[1]:
        raise UserError(
            f"{path.name} is {wide} × {high} px; surroundings go all round and are twice as wide as high. Nothing was changed."
        )
    clean: Floats32 = np.maximum(np.nan_to_num(light, nan=0.0, posinf=65_000.0, neginf=0.0), 0.0).astype(
        np.float32
    )
    return clean


def _damaged(path: Path) -> UserError:
    return UserError(
        f"{path.name} cannot be read as a picture. Nothing was changed. Choose another, as HDR, EXR, JPEG or PNG."
    )


def _light_of(path: Path) -> Floats32:
    data = path.read_bytes()
    if is_radiance(data[:16]):
        return read_radiance(data)
    if data[:4] == EXR_MAGIC:
        return read_exr(data)
    with Image.open(io.BytesIO(data)) as image:
        if max(image.size) > LARGEST_PX:
            raise UserError(
                f"{path.name} is larger than {LARGEST_PX} px a side. Nothing was changed. Make it smaller."
            )
        if image.mode == "F" or image.mode.startswith("I"):
            return np.repeat(np.asarray(image, np.float32)[..., None], 3, axis=2)
        pixels = np.asarray(image.convert("RGB"), np.float32) / 255.0
    return decoded(pixels)


def sky_for(light: Light, base: Path) -> Sky:
    """The sky of a light in a project that lies in a folder, with its surroundings; without them where their
    file is gone."""
    sky, how = sky_of(light), light.surroundings
    if not how.file:
        return sky
    try:
        path = beside(base, how.file, "surroundings")
        pixels = read_surroundings(path)
        stamp = path.stat().st_mtime_ns
    except (UserError, OSError):
        return sky
    lux = illuminance(light)[1]
    key = f"{path}|{stamp}|{how}|{lux:.6g}"
    return _around(sky, lux, path, stamp, how, key) if pixels is not None else sky


@lru_cache(maxsize=4)
def _around(sky: Sky, lux: float, path: Path, _stamp: int, how: Surroundings, key: str) -> Sky:
    return with_surroundings(sky, lux, read_surroundings(path), how, key)
