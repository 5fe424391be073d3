"""glTF materials: metal and roughness, the older gloss, glass, what shines by itself, and pictures with their
holes."""

from __future__ import annotations

import io
import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from PIL import Image

from altana.core.conventions import Floats, Vec3
from altana.core.light.tone import encoded
from altana.core.model import (
    BLEND,
    CLAMP,
    GLASS,
    MASK,
    MIRROR,
    OPAQUE,
    REPEAT,
    SOLID,
    Maps,
    Material,
    Problem,
)
from altana.importers.finish import SOLID_FROM, kind_of, pane_roughness
from altana.importers.gltf.document import Document, Tree
from altana.importers.pictures import encoded_has_opacity, keep_picture
from altana.importers.raw import RawModel

#: More of its light than this a surface must let through to be drawn as glass.
CLEAR = 0.3
#: A body takes no more colour than over so many times the distance that its colour is told for: told is where
#: it is thickest.
THICKEST = 2.0
#: What the numbers of samplers mean; every other is the usual, the picture again.
WRAPS = {33071: CLAMP, 33648: MIRROR}


class Materials:
    """Turns a file's materials into the model's, each once."""

    def __init__(self, document: Document, raw: RawModel) -> None:
        self._document, self._raw = document, raw
        self._known: dict[Any, int] = {}
        self._pictures: dict[Any, int] = {}

    def number(self, index: Any) -> int:
        """The model's number of a material of the file, or of the plain one where there is none."""
        if index not in self._known:
            material = (
                Material("Plain", (0.78, 0.76, 0.72, 1.0))
                if index is None
                else self._material(self._document.one("materials", index))
            )
            self._known[index] = len(self._raw.materials)
            self._raw.materials.append(material)
        return self._known[index]

    def texture_of(self, index: Any) -> Tree:
        """What a material says of its colour's texture: ``texCoord`` and its transform; empty where there is
        none."""
        if index is None:
            return {}
        return _main_texture(self._document.one("materials", index))

    def _material(self, entry: Tree) -> Material:
        name = str(entry.get("name") or "Material")
        gloss = _extension(entry, "KHR_materials_pbrSpecularGlossiness")
        surface = entry.get("pbrMetallicRoughness") or {}
        body = _glossy(gloss) if gloss else _rough(entry, surface)
        rough, metal = _coated(entry, body)
        image = self._picture(body.texture)
        maps = Maps(
            self._picture(entry.get("normalTexture")),
            self._picture(None if gloss else surface.get("metallicRoughnessTexture")),
            self._picture(entry.get("occlusionTexture")),
            self._picture(entry.get("emissiveTexture")),
        )
        # The picture says where it is metal and how rough; as one value its mean holds, which final pictures
        # part again.
        if maps.finish >= 0:
            of_metal, of_rough = self._means(maps.finish)
            metal, rough = metal * of_metal, rough * of_rough
        alpha = {"MASK": MASK, "BLEND": BLEND}.get(str(entry.get("alphaMode")), OPAQUE)
        clear, opacity, tint = _clearness(entry, float(body.factor[3]) if alpha == BLEND else 1.0)
        if alpha != OPAQUE and not (image >= 0 and encoded_has_opacity(self._raw.images[image].data)):
            # A picture that says nothing of opacity makes no holes.
            alpha = OPAQUE
        shade = np.clip(body.factor[:3], 0, 1) * tint
        if clear and image < 0:
            # However dark: the file says that light goes through.
            opacity = min(max(opacity, _dense(shade)), SOLID_FROM - 0.01)
        kind = kind_of(name, opacity, image >= 0)
        if kind == GLASS and alpha == BLEND and not clear and opacity >= 0.5:
            kind = SOLID
        if kind == GLASS:
            rough = pane_roughness(name, rough if clear else None)
        colour = np.append(encoded(shade), opacity)
        return Material(
            name,
            tuple(np.clip(colour, 0.0, 1.0).tolist()),
            image,
            float(np.clip(rough, 0.0, 1.0)),
            kind,
            float(np.clip(metal, 0.0, 1.0)),
            _glow(entry),
            alpha,
            float(np.clip(_number(entry.get("alphaCutoff"), 0.5), 0.0, 1.0)),
            float(np.clip(_number(_extension(entry, "KHR_materials_ior").get("ior"), 1.5), 1.0, 4.0)),
            maps,
            wraps=self._wraps(entry),
            solid_glass=kind == GLASS and _is_body(entry),
            absorbed=_absorbed(entry),
        )

    def _wraps(self, entry: Tree) -> tuple[str, str]:
        """What lies beyond the edges of its pictures."""
        texture = _main_texture(entry).get("index")
        number = self._document.one("textures", texture).get("sampler") if texture is not None else None
        sampler = self._document.one("samplers", number) if number is not None else {}
        u, v = (WRAPS.get(sampler.get(word, 0), REPEAT) for word in ("wrapS", "wrapT"))
        return u, v

    def _means(self, image: int) -> tuple[float, float]:
        """Mean metal and roughness of a picture that holds them in blue and green."""
        with Image.open(io.BytesIO(self._raw.images[image].data)) as picture:
            picture.draft("RGB", (64, 64))
            mean = (
                np.asarray(picture.convert("RGB").resize((16, 16), Image.Resampling.BOX), float).mean(
                    axis=(0, 1)
                )
                / 255.0
            )
        return float(mean[2]), float(mean[1])

    def _picture(self, texture: Any) -> int:
        if not isinstance(texture, dict):
            return -1
        entry = self._document.one("textures", texture.get("index"))
        extensions = entry.get("extensions") or {}
        source = extensions.get("EXT_texture_webp", {}).get("source", entry.get("source"))
        if source is None:
            if "KHR_texture_basisu" in extensions:
                self._say_once("A picture is KTX2, which Altana does not read; a plain colour stands in.")
            return -1
        if source not in self._pictures:
            self._pictures[source] = self._image(self._document.one("images", source), source)
        return self._pictures[source]

    def _image(self, image: Tree, number: int) -> int:
        name, uri = str(image.get("name") or f"picture {number}"), image.get("uri")
        if "bufferView" in image:
            return keep_picture(self._raw, name, bytes(self._document.view(image["bufferView"])))
        if not isinstance(uri, str):
            return -1
        if uri.startswith("data:"):
            return keep_picture(self._raw, name, self._document.from_data_uri(uri))
        return keep_picture(self._raw, uri.rsplit("/", 1)[-1], self._document.folder.bytes_of(uri))

    def _say_once(self, sentence: str) -> None:
        if not any(item.sentence == sentence for item in self._raw.problems):
            self._raw.problems.append(Problem("unread-picture", sentence))


def _main_texture(material: Tree) -> Tree:
    """The reference to the texture by which a material's pictures are laid on; empty where there is none."""
    gloss = _extension(material, "KHR_materials_pbrSpecularGlossiness")
    surface = gloss or material.get("pbrMetallicRoughness") or {}
    for texture in (
        surface.get("diffuseTexture" if gloss else "baseColorTexture"),
        material.get("normalTexture"),
        material.get("emissiveTexture"),
        surface.get("metallicRoughnessTexture"),
    ):
        if isinstance(texture, dict):
            return texture
    return {}


@dataclass(frozen=True, slots=True)
class _Body:
    """A surface's own colour (4,) linear, the reference of its picture, roughness and metal."""

    factor: Floats
    texture: Any
    rough: float
    metal: float


def _glossy(gloss: Tree) -> _Body:
    """By specular colour and glossiness."""
    factor = _numbers(gloss.get("diffuseFactor"), (1, 1, 1, 1))
    # A mirror's colour stands in its specular share; above plain plastic's four hundredths it is metal.
    specular = _numbers(gloss.get("specularFactor"), (1, 1, 1))
    metal = float(np.clip((specular.max() - 0.08) / 0.6, 0.0, 1.0)) if factor[:3].max() < 0.2 else 0.0
    factor[:3] = np.maximum(factor[:3], specular * metal)
    rough = 1.0 - _number(gloss.get("glossinessFactor"), 1.0)
    return _Body(factor, gloss.get("diffuseTexture"), rough, metal)


def _rough(entry: Tree, surface: Tree) -> _Body:
    """By roughness and metal."""
    factor = _numbers(surface.get("baseColorFactor"), (1, 1, 1, 1))
    rough, metal = _number(surface.get("roughnessFactor"), 1.0), _number(surface.get("metallicFactor"), 1.0)
    if "KHR_materials_unlit" in (entry.get("extensions") or {}):
        rough, metal = 1.0, 0.0
    return _Body(factor, surface.get("baseColorTexture"), rough, metal)


def _coated(entry: Tree, body: _Body) -> tuple[float, float]:
    """Roughness and metal of a surface, under its lacquer where it has any (KHR_materials_clearcoat)."""
    coat = _extension(entry, "KHR_materials_clearcoat")
    if _number(coat.get("clearcoatFactor"), 0.0) <= 0.5:
        return body.rough, body.metal
    return min(body.rough, _number(coat.get("clearcoatRoughnessFactor"), 0.0) + 0.1), body.metal * 0.5


def _clearness(entry: Tree, opacity: float) -> tuple[bool, float, Floats]:
    """Whether light goes through by the file's own word, the opacity, and (3,) the tint of what goes
    through."""
    clear = _number(_extension(entry, "KHR_materials_transmission").get("transmissionFactor"), 0.0)
    if clear <= CLEAR:
        return False, opacity, np.ones(3)
    return True, min(opacity, 1.0 - 0.9 * clear), _attenuation(_extension(entry, "KHR_materials_volume"))


def _attenuation(volume: Tree) -> Floats:
    """(3,) what is left of light that goes through a body (KHR_materials_volume): its colour at its distance,
    the more so the thicker it is; nothing is lost in what has no thickness."""
    distance, thick = (_number(volume.get(word), 0.0) for word in ("attenuationDistance", "thicknessFactor"))
    if distance <= 0.0 or thick <= 0.0:
        return np.ones(3)
    colour = np.clip(_numbers(volume.get("attenuationColor"), (1, 1, 1)), 1e-3, 1.0)
    left: Floats = colour ** min(thick / distance, THICKEST)
    return left


def _is_body(entry: Tree) -> bool:
    """Whether the file says that it is a body (KHR_materials_volume): what has no thickness is a sheet."""
    return _number(_extension(entry, "KHR_materials_volume").get("thicknessFactor"), 0.0) > 0.0


def _absorbed(entry: Tree) -> Vec3:
    """How much of each colour a body takes per unit of length: its colour is what is left at its distance
    (KHR_materials_volume)."""
    volume = _extension(entry, "KHR_materials_volume")
    distance = _number(volume.get("attenuationDistance"), 0.0)
    if distance <= 0.0:
        return (0.0, 0.0, 0.0)
    red, green, blue = _numbers(volume.get("attenuationColor"), (1, 1, 1)).clip(1e-3, 1.0).tolist()
    return (-math.log(red) / distance, -math.log(green) / distance, -math.log(blue) / distance)


def _dense(through: Floats) -> float:
    """How dense a pane is of which linear light (3,) comes ``through``: of its two faces each lets the root
    of it pass."""
    return float(np.sqrt(1.0 - np.sqrt(np.clip(through.max(), 0.0, 1.0))))


def _glow(entry: Tree) -> Vec3:
    strength = _number(_extension(entry, "KHR_materials_emissive_strength").get("emissiveStrength"), 1.0)
    r, g, b = np.clip(_numbers(entry.get("emissiveFactor"), (0, 0, 0)) * strength, 0.0, 1e4).tolist()
    return (r, g, b)


def _extension(entry: Tree, name: str) -> Tree:
    """What an extension says of a property; empty where it is not there."""
    extensions = entry.get("extensions")
    extension = extensions.get(name) if isinstance(extensions, dict) else None
    return extension if isinstance(extension, dict) else {}


def _number(value: Any, usual: float) -> float:
    return float(value) if isinstance(value, int | float) and abs(value) < 1e9 else usual


def _numbers(values: Any, usual: tuple[float, ...]) -> Any:
    if (
        isinstance(values, list)
        and len(values) == len(usual)
        and all(isinstance(v, int | float) and abs(v) < 1e9 for v in values)
    ):
        return np.array(values, float)
    return np.array(usual, float)
