"""Pictures of a model on the graphics card: at their full size, as far as a budget of memory allows.

Pictures of about the same size share one array of textures.  Where all together would take more than the
budget, the largest are halved until they fit, so that signs stay readable and a thousand large pictures still
open.
"""

from __future__ import annotations

import io
from dataclasses import dataclass

import moderngl
import numpy as np
import numpy.typing as npt
from PIL import Image

from altana.core.light.tone import decoded as srgb_decoded
from altana.core.model import CLAMP, MIRROR, REPEAT, EncodedImage, Material, Model
from altana.render.images import LARGEST_PIXELS, decoded

SIDES = (64, 256, 512, 1024, 2048, 4096)
BUDGET_BYTES = 768 << 20
#: Smaller versions of a picture take a third on top; four bytes a pixel.
A_PIXEL = 4 * 4 / 3
#: Ways in which a picture goes on beyond its edges, as the shaders count them, and what is added to a layer
#: for each.
WRAPS, MOST_LAYERS = (REPEAT, MIRROR, CLAMP), 4096
#: sRGB bytes as bytes of the square root of linear light: the shader squares, which is quicker than the sRGB
#: curve.
ROOTS = np.round(255.0 * np.sqrt(srgb_decoded(np.arange(256) / 255.0))).astype(np.uint8)


@dataclass(frozen=True, slots=True)
class Shelf:
    """Where a material's picture lies: which array, and which layer of it; both -1 for none."""

    array: int = -1
    layer: int = -1


#: A picture of colour and one of opacity, either of which may be missing.
Pair = tuple[EncodedImage | None, EncodedImage | None]


@dataclass(slots=True)
class Textures:
    """Arrays of textures, one a size, and where each material's picture lies; ``places`` : where each pair of
    pictures lies, in the order of ``shown``."""

    arrays: list[moderngl.TextureArray]
    shelves: list[Shelf]
    shown: tuple[Pair, ...]
    places: tuple[Shelf, ...]

    def release(self) -> None:
        """Free everything."""
        for array in self.arrays:
            array.release()


def size_of(image: EncodedImage) -> int:
    """The longer side of a picture in pixels, 0 when it cannot be read."""
    try:
        with Image.open(io.BytesIO(image.data)) as picture:
            return max(picture.size) if picture.width * picture.height <= LARGEST_PIXELS else 0
    except Exception:  # noqa: BLE001 - the border of a foreign parser
        # As above: what cannot be read is not there.
        return 0


def fitting_sides(longest: list[int], budget: int = BUDGET_BYTES, largest: int = SIDES[-1]) -> list[int]:
    """The side each picture is kept at, pixels, so that all together stay within a budget in bytes; 0 stays
    0."""
    sides = [
        next((side for side in SIDES if side >= min(value, largest)), largest) if value else 0
        for value in longest
    ]
    while sum(side * side * A_PIXEL for side in sides) > budget and max(sides) > SIDES[0]:
        top = max(sides)
        sides = [SIDES[SIDES.index(side) - 1] if side == top else side for side in sides]
    return sides


def load(context: moderngl.Context, model: Model, before: Textures | None = None) -> Textures:
    """The pictures that the materials show, each once.  held : those on the card, which stay there where they
    are the same."""
    wanted = sorted({pair for item in model.materials if (pair := _pair_of(item)) is not None})
    shown = tuple(_pictures(model, pair) for pair in wanted)
    if before is not None and before.shown == shown:
        arrays, places = before.arrays, before.places
    else:
        arrays, places = _loaded(context, shown)
    at = dict(zip(wanted, places, strict=True))
    shelves = [
        Shelf() if (pair := _pair_of(item)) is None else at.get(pair, Shelf()) for item in model.materials
    ]
    return Textures(arrays, shelves, shown, places)


def _pair_of(material: Material) -> tuple[int, int] | None:
    """The numbers of the pictures of a material's colour and opacity, -1 for none; None where it shows
    neither."""
    opacity = material.maps.opacity if material.has_holes else -1
    return (material.image, opacity) if material.image >= 0 or material.has_holes else None


def _pictures(model: Model, pair: tuple[int, int]) -> Pair:
    colour, opacity = (model.images[at] if at >= 0 else None for at in pair)
    return colour, opacity


def _loaded(
    context: moderngl.Context, shown: tuple[Pair, ...]
) -> tuple[list[moderngl.TextureArray], tuple[Shelf, ...]]:
    """Arrays of these pictures, and where each pair lies."""
    longest = [max((size_of(item) for item in pair if item is not None), default=0) for pair in shown]
    largest = min(SIDES[-1], context.info["GL_MAX_TEXTURE_SIZE"])
    sides = fitting_sides(longest, largest=largest)
    arrays: list[moderngl.TextureArray] = []
    places = [Shelf()] * len(shown)
    for side in sorted({side for side in sides if side}):
        layers: list[npt.NDArray[np.uint8]] = []
        for number, pair in enumerate(shown):
            pixels = _pixels(pair, side) if sides[number] == side else None
            if pixels is not None:
                places[number] = Shelf(len(arrays), len(layers))
                layers.append(pixels)
        if layers:
            arrays.append(_array(context, side, layers))
    return arrays, tuple(places)


def _pixels(pair: Pair, side: int) -> npt.NDArray[np.uint8] | None:
    """(side, side, 4) uint8, the first row being v = 0: roots of linear light, and opacity."""
    colour, opacity = (decoded(item) if item is not None else None for item in pair)
    if colour is None and opacity is None:
        return None
    resized = (colour or Image.new("RGBA", (1, 1), "white")).resize((side, side), Image.Resampling.LANCZOS)
    pixels = np.array(resized)[::-1]
    if opacity is not None:
        alpha = opacity.getchannel("A")
        veil = alpha if np.asarray(alpha).min() < 255 else opacity.convert("L")
        pixels[..., 3] = np.asarray(veil.resize((side, side), Image.Resampling.LANCZOS))[::-1]
    pixels[..., :3] = ROOTS[pixels[..., :3]]
    return pixels


def _array(
    context: moderngl.Context, side: int, layers: list[npt.NDArray[np.uint8]]
) -> moderngl.TextureArray:
    array = context.texture_array((side, side, len(layers)), 4)
    for number, layer in enumerate(layers):
        array.write(np.ascontiguousarray(layer).tobytes(), viewport=(0, 0, number, side, side, 1))
    array.build_mipmaps()
    array.filter = (moderngl.LINEAR_MIPMAP_LINEAR, moderngl.LINEAR)
    array.repeat_x = array.repeat_y = True
    return array


def wrap_code(material: Material) -> int:
    """What lies beyond the edges of its pictures as one number: along u, and three times that along v."""
    u, v = (WRAPS.index(wrap) if wrap in WRAPS else 0 for wrap in material.wraps)
    return u + len(WRAPS) * v


def table_row(material: Material, shelf: Shelf, kinds: dict[str, float]) -> npt.NDArray[np.float32]:
    """(3, 4) float32: what the shaders are told of a material: colour and opacity; layer, roughness, kind,
    cutoff; glow and metal."""
    # Square roots of linear light, as the textures.
    colour = (*np.sqrt(srgb_decoded(np.asarray(material.colour[:3]))).tolist(), material.colour[3])
    cutoff = (
        0.0
        if not material.has_holes or shelf.layer < 0
        else max(material.cutoff, 0.02)
        if material.alpha == "mask"
        else -1.0
    )
    glow = np.asarray(material.emission, float)
    layer = shelf.layer + wrap_code(material) * MOST_LAYERS if shelf.layer >= 0 else shelf.layer
    return np.array(
        [
            colour,
            (layer, material.roughness, kinds.get(material.kind, 0.0), cutoff),
            (*glow.tolist(), material.metal),
        ],
        np.float32,
    )
