"""Pictures of a model before they are textures: read, and what light surfaces covered with them throw
back."""

from __future__ import annotations

import io

import numpy as np
from PIL import Image

from altana.core.conventions import Floats
from altana.core.light.gloss import OF_COLOUR, ROUGHNESS, SHEEN
from altana.core.light.tone import decoded as srgb_decoded
from altana.core.model import EncodedImage, Model

LARGEST_PIXELS = 300_000_000


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
    """(materials, 3) the share of even light that each throws back: its colour, or the mean of its texture,
    with the sheen of its surface and what roughness throws towards the flat."""
    shown = np.array([material.colour[:3] for material in model.materials], float).reshape(-1, 3)
    result = srgb_decoded(shown).astype(float)
    means: dict[int, Floats | None] = {}
    for index, material in enumerate(model.materials):
        if material.image < 0:
            continue
        if material.image not in means:
            means[material.image] = _mean(model.images[material.image])
        mean = means[material.image]
        if mean is not None:
            result[index] *= mean
    if len(model.colours):
        result *= _paint(model)
    plain = np.array([material.metal < 0.5 for material in model.materials], bool)
    rough = np.array([material.roughness for material in model.materials], float)[plain]
    share, sheen = np.interp(rough, ROUGHNESS, OF_COLOUR), np.interp(rough, ROUGHNESS, SHEEN)
    result[plain] = result[plain] * share[:, None] + sheen[:, None]
    return result


def _paint(model: Model) -> Floats:
    """(materials, 3) the mean of what the file paints the vertices of each material with, linear."""
    material = np.repeat(model.face_material, 3)
    paint = srgb_decoded(model.colours[model.faces.ravel(), :3] / 255.0)
    count = np.bincount(material, minlength=len(model.materials))
    mean: Floats = (
        np.stack([np.bincount(material, weights=paint[:, k], minlength=len(count)) for k in range(3)], axis=1)
        / np.maximum(count, 1)[:, None]
    )
    return mean


def _mean(image: EncodedImage) -> Floats | None:
    picture = decoded(image, "RGB")
    if picture is None:
        return None
    small = np.asarray(picture.resize((32, 32), Image.Resampling.BOX), float) / 255.0
    mean: Floats = srgb_decoded(small).mean(axis=(0, 1)).astype(float)
    return mean
