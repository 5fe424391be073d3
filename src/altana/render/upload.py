"""Arrays to the graphics card: the only place where a Model becomes buffers and textures."""

from __future__ import annotations

import io
from dataclasses import dataclass

import moderngl
import numpy as np
import numpy.typing as npt
from PIL import Image

from altana.core.conventions import Floats
from altana.core.light.transport import LightMap
from altana.core.model import GLASS, SOLID, WATER, EncodedImage, Model

IMAGE_SIDE = 512
#: sRGB bytes as bytes of the square root of linear light: the shader squares, which is quicker than the sRGB curve.
ROOTS = np.round(255.0 * (np.arange(256) / 255.0) ** 1.1).astype(np.uint8)
KIND_NUMBER = {SOLID: 0.0, GLASS: 1.0, WATER: 2.0}
VERTEX = np.dtype([("position", "3f4"), ("normal", "4f2"), ("uv", "2f4"), ("light", "2f4"), ("ids", "2u4")])


def decoded(image: EncodedImage) -> Image.Image | None:
    """The picture, or None when it cannot be read or is absurdly large."""
    try:
        picture = Image.open(io.BytesIO(image.data))
        if picture.width * picture.height > 100_000_000:
            return None
        return picture.convert("RGB")
    except Exception:
        # Any damage means the same to a person: the plain colour stands in (the importer has said so).
        return None


def albedos(model: Model) -> Floats:
    """(materials, 3) linear reflectance: plain colours, or the mean of the texture."""
    result = np.array([material.colour[:3] for material in model.materials], float).reshape(-1, 3) ** 2.2
    means = [_mean(image) for image in model.images]
    for index, material in enumerate(model.materials):
        if material.image >= 0 and (mean := means[material.image]) is not None:
            result[index] *= mean
    return result


def _mean(image: EncodedImage) -> Floats | None:
    picture = decoded(image)
    if picture is None:
        return None
    small = np.asarray(picture.resize((32, 32), Image.Resampling.BOX), float) / 255.0
    mean: Floats = (small**2.2).mean(axis=(0, 1))
    return mean


@dataclass(frozen=True, slots=True)
class Batches:
    """Index ranges of one kind of material, one an object: ``first``, ``count`` and ``owner`` (k,), boxes ``low``, ``high`` (k, 3)."""

    first: npt.NDArray[np.int64]
    count: npt.NDArray[np.int64]
    low: Floats
    high: Floats
    owner: npt.NDArray[np.int64]

    @property
    def span(self) -> tuple[int, int]:
        """First index and number of indices of all batches together."""
        return (int(self.first[0]), int(self.count.sum())) if len(self.first) else (0, 0)


@dataclass(slots=True)
class Uploaded:
    """A model on the graphics card; ``solid`` and ``glass`` say which indices to draw."""

    vertices: moderngl.Buffer
    positions: moderngl.Buffer
    indices: moderngl.Buffer
    solid: Batches
    glass: Batches
    materials: moderngl.Texture
    images: moderngl.TextureArray
    light: moderngl.Texture
    light_known: bool
    centre: Floats
    core_radius_m: float
    #: How far from each other things stand that may throw shadows on one another.
    reach_m: float
    object_count: int

    def release(self) -> None:
        """Free everything."""
        for item in (self.vertices, self.positions, self.indices, self.materials, self.images, self.light):
            item.release()


def upload(context: moderngl.Context, model: Model, light: LightMap | None) -> Uploaded:
    """Put a model, with its light map where there is one, on the graphics card."""
    vertices, faces = _vertices(model, light)
    glass = np.array([material.kind == GLASS for material in model.materials], bool)[model.face_material]
    order = np.argsort(glass, kind="stable")
    solid, clear = _batches(model, order, glass)
    centre, radius = _core(model)
    corners = model.bounds
    pictures = [decoded(image) for image in model.images]
    return Uploaded(
        vertices=context.buffer(vertices.tobytes()),
        positions=context.buffer(np.ascontiguousarray(vertices["position"]).tobytes()),
        indices=context.buffer(faces[order].astype(np.uint32).tobytes()),
        solid=solid,
        glass=clear,
        materials=_material_table(context, model, [picture is not None for picture in pictures]),
        images=_images(context, pictures),
        light=_light_texture(context, light),
        light_known=light is not None,
        centre=centre,
        core_radius_m=radius,
        reach_m=float(np.linalg.norm(corners[1] - corners[0])),
        object_count=len(model.objects),
    )


def _vertices(model: Model, light: LightMap | None) -> tuple[np.ndarray, np.ndarray]:
    corner = model.faces.reshape(-1).astype(np.int64)
    owner = np.repeat(model.face_objects(), 3).astype(np.int64)
    material = np.repeat(model.face_material, 3).astype(np.int64)
    if light is None:
        place = np.zeros((len(corner), 2), np.float32)
    else:
        place = light.uv.reshape(-1, 2)
    # One vertex for each corner that differs in anything; most are shared by the triangles of a face.
    key = (corner * np.int64(len(model.materials) + 1) + material) * np.int64(1 << 20)
    key = key + (place[:, 0] * 8).astype(np.int64) * 8191 + (place[:, 1] * 8).astype(np.int64) * 131
    _, first, index = np.unique(key, return_index=True, return_inverse=True)
    packed = np.zeros(len(first), VERTEX)
    source = corner[first]
    packed["position"] = model.vertices[source]
    packed["normal"][:, :3] = model.normals[source]
    packed["uv"] = model.uvs[source]
    packed["light"] = place[first]
    packed["ids"][:, 0] = material[first]
    packed["ids"][:, 1] = owner[first]
    return packed, index.reshape(-1, 3)


def _batches(model: Model, order: npt.NDArray[np.intp], glass: npt.NDArray[np.bool_]) -> tuple[Batches, Batches]:
    owner = model.face_objects()[order].astype(np.int64) * 2 + glass[order]
    owner = owner + glass[order] * (2 * len(model.objects))
    starts = np.flatnonzero(np.r_[True, owner[1:] != owner[:-1]])
    corner = model.vertices[model.faces[order]]
    low = np.minimum.reduceat(corner.min(axis=1), starts).astype(float)
    high = np.maximum.reduceat(corner.max(axis=1), starts).astype(float)
    count = np.diff(np.r_[starts, len(owner)]) * 3
    clear = glass[order][starts]
    of = model.face_objects()[order][starts].astype(np.int64)
    return tuple(Batches(starts[pick] * 3, count[pick], low[pick], high[pick], of[pick]) for pick in (~clear, clear))  # type: ignore[return-value]


def _core(model: Model) -> tuple[Floats, float]:
    """Middle and radius of what most triangles belong to: the building without its far surroundings."""
    middle = model.vertices[model.faces].mean(axis=1).astype(float)
    low, high = np.percentile(middle, 1.0, axis=0), np.percentile(middle, 99.0, axis=0)
    centre = np.median(middle, axis=0)
    reach = np.linalg.norm(np.maximum(high - centre, centre - low)[:2])
    return centre, float(np.clip(reach, 5.0, 90.0))


def _material_table(context: moderngl.Context, model: Model, readable: list[bool]) -> moderngl.Texture:
    table = np.zeros((len(model.materials), 2, 4), np.float32)
    for index, material in enumerate(model.materials):
        usable = material.image >= 0 and readable[material.image]
        # Square roots of linear light, as the textures.
        table[index, 0] = (*(np.asarray(material.colour[:3]) ** 1.1), material.colour[3])
        table[index, 1] = (material.image if usable else -1, material.roughness, KIND_NUMBER.get(material.kind, 0.0), 0)
    texture = context.texture((2, len(model.materials)), 4, table.tobytes(), dtype="f4")
    texture.filter = (moderngl.NEAREST, moderngl.NEAREST)
    return texture


def _images(context: moderngl.Context, pictures: list[Image.Image | None]) -> moderngl.TextureArray:
    layers = []
    for found in pictures:
        picture = found or Image.new("RGB", (IMAGE_SIDE, IMAGE_SIDE), "white")
        resized = picture.resize((IMAGE_SIDE, IMAGE_SIDE), Image.Resampling.LANCZOS)
        # The first row of a texture is v = 0, the last row of a picture.
        pixels = ROOTS[np.asarray(resized)[::-1]]
        layers.append(np.dstack([pixels, np.full(pixels.shape[:2], 255, np.uint8)]))
    if not layers:
        layers.append(np.full((1, 1, 4), 255, np.uint8))
    stack = np.ascontiguousarray(np.stack(layers))
    side = stack.shape[1]
    texture = context.texture_array((side, side, len(layers)), 4, stack.tobytes())
    texture.build_mipmaps()
    texture.filter = (moderngl.LINEAR_MIPMAP_LINEAR, moderngl.LINEAR)
    texture.repeat_x = texture.repeat_y = True
    return texture


def _light_texture(context: moderngl.Context, light: LightMap | None) -> moderngl.Texture:
    pixels = np.zeros((1, 1, 3), np.float32) if light is None else light.pixels
    height, width = pixels.shape[:2]
    texture = context.texture((width, height), 3, pixels.astype(np.float16).tobytes(), dtype="f2")
    texture.filter = (moderngl.LINEAR, moderngl.LINEAR)
    texture.repeat_x = texture.repeat_y = False
    return texture
