"""Pictures of a model before they are textures: read, and what light surfaces covered with them throw back."""

from __future__ import annotations

import io

import numpy as np
from PIL import Image

from altana.core.conventions import Floats
from altana.core.model import EncodedImage, Model

LARGEST_PIXELS = 300_000_000
#: What a rough surface throws back beyond its colour, as a share of that and of all light.
ROUGH_GAIN, SHEEN = 1.045, 0.033


def decoded(image: EncodedImage, mode: str = "RGBA") -> Image.Image | None:
    """The picture, or None when it cannot be read or is absurdly large."""
    try:
        picture = Image.open(io.BytesIO(image.data))
        if picture.width * picture.height > LARGEST_PIXELS:
            return None
        return picture.convert(mode)
    except Exception:  # noqa: BLE001 - the border of a foreign parser
        # Any damage means the same to a person: the plain colour stands in (the importer has said so).
        return None


def albedos(model: Model) -> Floats:
    """(materials, 3) the share of even light that each throws back: its colour, or the mean of its texture, with the sheen of its
    surface and what roughness throws towards the flat (measured of the surfaces that final pictures have, for all directions)."""
    result = np.array([material.colour[:3] for material in model.materials], float).reshape(-1, 3) ** 2.2
    means: dict[int, Floats | None] = {}
    for index, material in enumerate(model.materials):
        if material.image < 0:
            continue
        if material.image not in means:
            means[material.image] = _mean(model.images[material.image])
        mean = means[material.image]
        if mean is not None:
            result[index] *= mean
    plain = np.array([material.metal < 0.5 for material in model.materials], bool)
    result[plain] = result[plain] * ROUGH_GAIN + SHEEN
    return result


def _mean(image: EncodedImage) -> Floats | None:
    picture = decoded(image, "RGB")
    if picture is None:
        return None
    small = np.asarray(picture.resize((32, 32), Image.Resampling.BOX), float) / 255.0
    mean: Floats = (small**2.2).mean(axis=(0, 1))
    return mean
