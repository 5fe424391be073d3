"""Materials of a model as the path tracer's surfaces."""

from __future__ import annotations

from types import ModuleType
from typing import Any

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Floats32, Ints
from altana.core.light.frosted import FROSTED
from altana.core.light.tone import decoded as linear
from altana.core.model import CLAMP, GLASS, MASK, MIRROR, REPEAT, WATER, Material, Model
from altana.render.images import decoded
from altana.render.traced.painted import painted_picture
from altana.render.traced.panes import pane_surface

SMOOTHEST = 0.04
WHITE_CARD = 0.78
WATER_COLOUR = (0.012, 0.035, 0.042)
LARGEST_TEXTURE_PX = 4096
#: Ripples of water repeat after so many metres, in a picture so wide.
RIPPLES_M, RIPPLES_PX = 12.0, 512
PLAIN_WRAPS = (REPEAT, REPEAT)
#: How many pictures a direction takes in which what lies beyond the edges is written out.
WRITTEN_OUT = {REPEAT: 1, MIRROR: 2, CLAMP: 4}
#: What a mesh calls the colours of its vertices.
PAINT = "vertex_paint"

Surface = dict[str, Any]


class Surfaces:
    """Makes surfaces; each picture of the model is read once."""

    def __init__(self, mi: ModuleType, model: Model) -> None:
        self._mi, self._model = mi, model
        self._pictures: dict[int, Floats32 | None] = {}

    def picture(self, number: int) -> Floats32 | None:
        """(height, width, 4) float32 of a picture, 0 to 1 as the file has it, its lowest row first; None
        where it cannot be read."""
        if number < 0:
            return None
        if number not in self._pictures:
            image = decoded(self._model.images[number])
            if image is not None and max(image.size) > LARGEST_TEXTURE_PX:
                image.thumbnail((LARGEST_TEXTURE_PX, LARGEST_TEXTURE_PX))
            self._pictures[number] = (
                None if image is None else np.asarray(image, np.float32)[::-1] / np.float32(255)
            )
        return self._pictures[number]

    def texture(self, values: npt.NDArray[np.float32], wraps: tuple[str, str] = PLAIN_WRAPS) -> Surface:
        """A texture of linear values (height, width) or (height, width, 3).  wraps : what lies beyond its
        edges along u and v."""
        values, mode, count = extended(values, wraps)
        bitmap = self._mi.Bitmap(
            np.array(values if values.ndim == 3 else values[..., None], np.float32, copy=True)
        )
        texture: Surface = {"type": "bitmap", "bitmap": bitmap, "raw": True, "wrap_mode": mode}
        if count != (1, 1):
            flat = self._mi.ScalarTransform3f()
            texture["to_uv"] = flat.scale([1.0 / count[0], 1.0 / count[1]])
        return texture

    def colour(self, material: Material, painted: bool = False) -> Any:
        """The base colour, linear, as one value, a texture, what the mesh is ``painted`` with, or both."""
        factor = linear(np.array(material.colour[:3], np.float32))
        pixels, paint = self.picture(material.image), {"type": "mesh_attribute", "name": PAINT}
        if pixels is None:
            return paint if painted else {"type": "rgb", "value": factor.tolist()}
        if painted:
            # What the vertices have holds the factor already.
            factor = np.ones(3, np.float32)
        picture = self.texture(
            np.clip(linear(pixels[..., :3]) * factor, 0.0, 1.0).astype(np.float32), material.wraps
        )
        return painted_picture(self._mi, picture, paint) if painted else picture

    def paint(self, material: Material, vertices: Ints) -> Floats32 | None:
        """(n, 3) linear base colours of vertices, where the file paints them; else None."""
        if not len(self._model.colours):
            return None
        painted = self._model.colours[vertices, :3]
        if (painted == 255).all():
            return None
        return linear(painted / np.float32(255)) * linear(np.array(material.colour[:3], np.float32))

    def of(self, material: Material, white: bool, painted: bool = False) -> Any:
        """The surface of a material, or what the path tracer makes one of; with ``white`` everything but
        glass is white card."""
        if material.kind == GLASS:
            return self._glass(material)
        if white:
            surface: Surface = {"type": "diffuse", "reflectance": {"type": "rgb", "value": [WHITE_CARD] * 3}}
        elif material.kind == WATER:
            surface = self._water()
        else:
            surface = self._bumped(material, self._solid(material, painted))
        return self._with_holes(material, {"type": "twosided", "surface": surface})

    def _solid(self, material: Material, painted: bool) -> Surface:
        finish = self.picture(material.maps.finish)
        rough: Any = max(float(material.roughness), SMOOTHEST)
        metal: Any = float(material.metal)
        if finish is not None:
            # What the material says is the mean of what its picture says.
            roughs, metals = (
                np.clip(part * np.float32(mean / max(float(part.mean()), 1e-3)), low, 1.0)
                for part, mean, low in (
                    (finish[..., 1], material.roughness, SMOOTHEST),
                    (finish[..., 2], material.metal, 0.0),
                )
            )
            rough, metal = self.texture(roughs, material.wraps), self.texture(metals, material.wraps)
        return {
            "type": "principled",
            "base_color": self.colour(material, painted),
            "roughness": rough,
            "metallic": metal,
            "specular": 0.5,
        }

    def _bumped(self, material: Material, surface: Surface) -> Surface:
        pixels = self.picture(material.maps.normal)
        if pixels is None:
            return surface
        return {
            "type": "normalmap",
            "normalmap": self.texture(pixels[..., :3], material.wraps),
            "surface": surface,
        }

    def _with_holes(self, material: Material, surface: Surface) -> Surface:
        if not material.has_holes:
            return surface
        pixels = self.picture(material.maps.opacity if material.maps.opacity >= 0 else material.image)
        if pixels is None:
            return surface
        alpha = pixels[..., 0] if material.maps.opacity >= 0 else pixels[..., 3]
        if material.alpha == MASK:
            alpha = (alpha >= material.cutoff).astype(np.float32)
        else:
            alpha = alpha * np.float32(material.colour[3])
        return {
            "type": "mask",
            "opacity": self.texture(np.ascontiguousarray(alpha, np.float32), material.wraps),
            "surface": surface,
        }

    def _glass(self, material: Material) -> Any:
        tint = linear(np.array(material.colour[:3], np.float32))
        if material.roughness > FROSTED:
            return {
                "type": "principledthin",
                "base_color": {"type": "rgb", "value": np.clip(tint, 0.02, 0.98).tolist()},
                "roughness": float(material.roughness),
                "spec_trans": 0.9,
                "diff_trans": 1.2,
                "eta": 1.45,
            }
        return pane_surface(self._mi, tint, float(material.colour[3]))

    def _water(self) -> Surface:
        still: Surface = {
            "type": "principled",
            "base_color": {"type": "rgb", "value": list(WATER_COLOUR)},
            "roughness": 0.06,
            "specular": 0.35,
        }
        ripples = {**self.texture(ripple_normals()), "to_uv": self._mi.ScalarTransform3f()}
        return {"type": "normalmap", "normalmap": ripples, "surface": still}

    def glow(self, material: Material, shine: float) -> Surface | None:
        """What a material throws by itself, cd/m2, or None."""
        strength = np.array(material.emission, np.float32) * np.float32(shine)
        if not strength.any():
            return None
        pixels = self.picture(material.maps.emission)
        if pixels is None:
            return {"type": "rgb", "value": strength.tolist()}
        return self.texture((linear(pixels[..., :3]) * strength).astype(np.float32), material.wraps)


def extended(
    values: npt.NDArray[np.float32], wraps: tuple[str, str]
) -> tuple[npt.NDArray[np.float32], str, tuple[int, int]]:
    """Values (height, width, ...) with what lies beyond their edges, for the path tracer, which has one word
    for both directions: values, that word, and how many pictures wide and high they are now.  Where the
    directions differ, it is written out: the mirrored picture beside the picture, or three times its edge,
    one of them for what lies before it, whose end nobody comes near."""
    if wraps[0] == wraps[1]:
        return values, wraps[0], (1, 1)
    along, up = (WRITTEN_OUT[wrap] for wrap in wraps)
    values = _thinned(values, along * up)
    for wrap, axis in zip(wraps, (1, 0), strict=True):
        if wrap == MIRROR:
            values = np.concatenate([values, np.flip(values, axis)], axis)
        elif wrap == CLAMP:
            size = values.shape[axis]
            first, last = np.take(values, [0], axis), np.take(values, [-1], axis)
            # Where it is repeated, what comes last lies before the picture.
            after = (np.repeat(last, size + size // 2, axis), np.repeat(first, 2 * size - size // 2, axis))
            values = np.concatenate([values, *after], axis)
    return values, REPEAT, (along, up)


def _thinned(values: npt.NDArray[np.float32], copies: int) -> npt.NDArray[np.float32]:
    """The means of so many pixels each way that ``copies`` of the values take no more than the largest
    picture."""
    step = int(np.ceil(np.sqrt(values.shape[0] * values.shape[1] * copies) / LARGEST_TEXTURE_PX))
    if step <= 1:
        return values
    high, wide = (-(-side // step) for side in values.shape[:2])
    whole = [(0, high * step - values.shape[0]), (0, wide * step - values.shape[1])]
    padded = np.pad(values, [*whole, *[(0, 0)] * (values.ndim - 2)], "edge")
    thin: npt.NDArray[np.float32] = padded.reshape(high, step, wide, step, *values.shape[2:]).mean((1, 3))
    return thin


def ripple_normals() -> npt.NDArray[np.float32]:
    """(RIPPLES_PX, RIPPLES_PX, 3) normals of calm water as a picture, 0 to 1, that repeats without a seam."""
    y, x = np.mgrid[0:RIPPLES_PX, 0:RIPPLES_PX] / RIPPLES_PX * 2.0 * np.pi
    slope = np.zeros((2, RIPPLES_PX, RIPPLES_PX))
    # Waves of whole numbers across the picture, from many sides, the short ones flat.
    for along, across, steep, phase in (
        (3, 1, 0.040, 0.3), (-2, 4, 0.038, 1.7), (5, -3, 0.034, 4.1), (4, 6, 0.030, 2.2), (-7, 5, 0.027, 0.9),
        (9, 4, 0.024, 5.0), (-6, -10, 0.022, 3.3), (12, -7, 0.019, 1.1), (13, 9, 0.016, 2.8), (-15, 11, 0.014, 4.6),
    ):  # fmt: skip
        wave = steep * np.cos(along * x + across * y + phase)
        size = np.hypot(along, across)
        slope[0] += wave * along / size
        slope[1] += wave * across / size
    normal = np.stack([-slope[0], -slope[1], np.ones_like(x)], axis=-1)
    normal /= np.linalg.norm(normal, axis=-1, keepdims=True)
    return (normal * 0.5 + 0.5).astype(np.float32)
