"""How surfaces of a CityJSON file look: by the file's own materials and pictures, or else by what each
surface is."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from altana.core.conventions import Floats
from altana.core.model import CLAMP, MIRROR, OPAQUE, REPEAT, Material
from altana.importers.finish import kind_of
from altana.importers.folder import ModelFolder
from altana.importers.pictures import keep_picture
from altana.importers.raw import RawModel

#: Colours of surfaces by their meaning, sRGB; a city model mostly has no others.
COLOURS = {
    "RoofSurface": (0.62, 0.38, 0.31),
    "WallSurface": (0.82, 0.79, 0.73),
    "GroundSurface": (0.56, 0.54, 0.50),
    "OuterFloorSurface": (0.60, 0.58, 0.55),
    "OuterCeilingSurface": (0.75, 0.73, 0.70),
    "Window": (0.55, 0.66, 0.72),
    "Door": (0.45, 0.36, 0.28),
    "WaterSurface": (0.30, 0.42, 0.48),
    "TrafficArea": (0.48, 0.48, 0.48),
}
PLAIN = (0.78, 0.76, 0.72)
#: How deep boundaries are nested in each type of geometry, counted in lists above a surface.
NESTED = {"MultiSurface": 1, "CompositeSurface": 1, "Solid": 2, "MultiSolid": 3, "CompositeSolid": 3}
#: What lies beyond the edges of a picture, in the file's words and in ours.
WRAPS = {"wrap": REPEAT, "mirror": MIRROR, "clamp": CLAMP, "border": CLAMP}


@dataclass(frozen=True, slots=True)
class Appearance:
    """What a file, or one feature of it, tells of looks: materials and pictures, places on pictures (n, 2),
    and which themes are usual."""

    materials: list[Any]
    textures: list[Any]
    corners: Floats
    themes: tuple[str, str]

    @classmethod
    def of(cls, entry: Any) -> Appearance:
        """Read from the file's own words; what is damaged says nothing."""
        entry = entry if isinstance(entry, dict) else {}
        try:
            corners = np.asarray(entry.get("vertices-texture") or (), float).reshape(-1, 2)
        except (TypeError, ValueError):
            corners = np.zeros((0, 2))
        material, texture = (
            str(entry.get(f"default-theme-{word}") or "") for word in ("material", "texture")
        )
        return cls(_list(entry.get("materials")), _list(entry.get("textures")), corners, (material, texture))


@dataclass(frozen=True, slots=True)
class Surface:
    """One surface: its rings of corner numbers, the model's number of its material, and the places of its
    corners on the picture, or None."""

    rings: list[Any]
    material: int
    uvs: Floats | None


class Looks:
    """Gives surfaces the materials they are told; each is in the model once."""

    def __init__(self, raw: RawModel, folder: ModelFolder) -> None:
        self._raw, self._folder = raw, folder
        self._known: dict[str, int] = {}
        self._pictures: dict[str, int] = {}

    def surfaces(self, shape: dict[str, Any], appearance: Appearance) -> Iterator[Surface]:
        """The surfaces of a shape."""
        depth, bounds = NESTED[shape["type"]], shape.get("boundaries") or []
        meanings = shape.get("semantics") or {}
        kinds = [
            str(kind.get("type", "")) if isinstance(kind, dict) else ""
            for kind in meanings.get("surfaces") or ()
        ]
        values = (
            meanings.get("values"),
            _themed(shape.get("material"), appearance.themes[0]),
            _themed(shape.get("texture"), appearance.themes[1]),
        )
        for rings, (meaning, material, texture) in _nested(bounds, values, depth):
            uvs, picture = _on_picture(rings, texture, appearance)
            number = self._number(_at(kinds, meaning) or "", _at(appearance.materials, material), picture)
            yield Surface(rings, number, uvs)

    def _number(self, kind: str, entry: Any, texture: Any) -> int:
        entry = entry if isinstance(entry, dict) else None
        plain = entry is None and texture is None
        key = f"plain {kind}" if plain else json.dumps([entry, texture], sort_keys=True)
        if key not in self._known:
            self._known[key] = len(self._raw.materials)
            # Its picture is kept first, so that its number stands in the material.
            self._raw.materials.append(self._material(kind, entry, texture))
        return self._known[key]

    def _material(self, kind: str, told: dict[str, Any] | None, texture: Any) -> Material:
        image, wraps = self._picture(texture)
        word = re.sub(r"(?<=[a-z])(?=[A-Z])", " ", kind.lstrip("+")).capitalize() or "Plain"
        if told is None:
            colour = (1.0, 1.0, 1.0) if image >= 0 else COLOURS.get(kind, PLAIN)
            return Material(word, (*colour, 1.0), image, wraps=(wraps, wraps))
        name = str(told.get("name") or word)
        # Where a picture stands for the colour, the colour is not laid over it.
        paint = np.ones(3) if image >= 0 else _shade(told.get("diffuseColor"), PLAIN)
        solid = 1.0 - float(np.clip(_figure(told.get("transparency")), 0.0, 0.98))
        return Material(
            name,
            (*paint.tolist(), solid),
            image,
            float(np.clip(1.0 - _figure(told.get("shininess")), 0.1, 0.9)),
            kind_of(name, solid, image >= 0),
            emission=tuple(_shade(told.get("emissiveColor"), (0.0, 0.0, 0.0)).tolist()),
            alpha=OPAQUE,
            wraps=(wraps, wraps),
        )

    def _picture(self, texture: Any) -> tuple[int, str]:
        if not isinstance(texture, dict) or not texture.get("image"):
            return -1, REPEAT
        name = str(texture["image"])
        if name not in self._pictures:
            self._pictures[name] = keep_picture(self._raw, name, self._folder.bytes_of(name))
        return self._pictures[name], WRAPS.get(str(texture.get("wrapMode") or "wrap"), REPEAT)


def _nested(bounds: Any, told: tuple[Any, ...], depth: int) -> Iterator[tuple[Any, tuple[Any, ...]]]:
    """Surfaces, each with what is told of it; what is told once, or of a whole group, holds for all of it."""
    if depth == 0:
        yield bounds, told
        return
    for number, inner in enumerate(bounds if isinstance(bounds, list) else ()):
        own = tuple(
            (values[number] if number < len(values) else None) if isinstance(values, list) else values
            for values in told
        )
        yield from _nested(inner, own, depth - 1)


def _themed(entry: Any, usual: str) -> Any:
    """What one theme tells of the surfaces of a shape: the usual one, or the first."""
    if not isinstance(entry, dict) or not entry:
        return None
    chosen = entry.get(usual) or next(iter(entry.values()))
    if not isinstance(chosen, dict):
        return None
    return chosen["values"] if "values" in chosen else chosen.get("value")


def _on_picture(rings: Any, texture: Any, appearance: Appearance) -> tuple[Floats | None, Any]:
    """Where the corners of a surface lie on its picture, ring by ring (n, 2), and the picture as it is told;
    None twice where it has none."""
    if not isinstance(texture, list) or not isinstance(rings, list) or len(texture) < len(rings):
        return None, None
    try:
        numbers = [
            [int(value) for value in ring[1 : len(corners) + 1]]
            for ring, corners in zip(texture, rings, strict=False)
        ]
        whole = [len(number) == len(corners) for number, corners in zip(numbers, rings, strict=True)]
        picture = _at(appearance.textures, texture[0][0])
        flat = np.array([value for number in numbers for value in number], np.int64)
        if not all(whole) or picture is None or not len(flat) or flat.min() < 0:
            return None, None
        return appearance.corners[flat], picture
    except (IndexError, TypeError, ValueError):
        return None, None


def _at(items: list[Any], number: Any) -> Any:
    """An item by a number from the file, None where there is none of that number."""
    fits = isinstance(number, int) and not isinstance(number, bool) and 0 <= number < len(items)
    return items[number] if fits else None


def _list(value: Any) -> list[Any]:
    return value if isinstance(value, list) else []


def _figure(value: Any) -> float:
    fits = isinstance(value, int | float) and np.isfinite(value)
    return float(value) if fits else 0.0


def _shade(value: Any, usual: tuple[float, float, float]) -> Floats:
    """(3,) a colour, 0 to 1."""
    if not isinstance(value, list) or len(value) < 3:
        return np.array(usual)
    return np.clip([_figure(item) for item in value[:3]], 0.0, 1.0)
