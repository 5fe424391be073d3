"""Light fixtures of an IFC file: what they give, by their light sources or by the properties of their lamps.

A fixture that is drawn glows by its surface; one without a shape hangs where it is placed.  IFC has sources
with a luminous flux (goniometric ones), and others with an intensity from 0 to 1 that says nothing in lumens:
those give a share of a usual fixture.
"""

from __future__ import annotations

import contextlib
import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import ifcopenshell.util.element
import ifcopenshell.util.placement
import numpy as np

from altana.core.conventions import Floats
from altana.core.light.lamps import FIXTURE_KELVIN, FIXTURE_LUMENS
from altana.core.light.tone import decoded
from altana.importers.lights import add_lamp, kelvin_of, space_of
from altana.importers.raw import RawModel

#: Kinds of products that give light, and the kinds of types that make another product such a one.
FIXTURES, FIXTURE_TYPES = ("IfcLightFixture", "IfcLamp"), ("IfcLightFixtureType", "IfcLampType")
#: Sources within sources within sources: no further than this.
DEEPEST = 8
_FLUX, _WARMTH = ("ContributedLuminousFlux", "LuminousFlux"), ("ColorTemperature", "ColourTemperature")
_COUNT = "NumberOfSources"


@dataclass(frozen=True, slots=True)
class _Source:
    """A light source: where it hangs within its fixture (4, 4), lumens, kelvin (0: it does not say), its
    cone."""

    place: Floats
    lumens: float
    kelvin: float
    along: Floats | None = None
    half_deg: float = 45.0


def gives_light(product: Any) -> bool:
    """Whether a product is a light fixture or a lamp, by its class or (before IFC 4) by its type's."""
    if product.is_a() in FIXTURES:
        return True
    if not product.is_a("IfcFlowTerminal"):
        return False
    kind: Any = ifcopenshell.util.element.get_type(product)
    return kind is not None and any(kind.is_a(name) for name in FIXTURE_TYPES)


def read_lights(file: Any, raw: RawModel, scale: float) -> None:
    """Note what the fixtures of a file give.  scale : metres per unit of the file."""
    drawn = {part.object_id for part in raw.parts}
    names = ("IfcFlowTerminal",) if file.schema == "IFC2X3" else (*FIXTURES, "IfcFlowTerminal")
    seen: set[int] = set()
    for name in names:
        for product in file.by_type(name):
            if product.id() not in seen and gives_light(product):
                seen.add(product.id())
                # One fixture that cannot be understood is dark; the others are not lost for it.
                with contextlib.suppress(RuntimeError, AttributeError, TypeError, ValueError):
                    _read(product, raw, scale, str(product.GlobalId) in drawn)


def _read(product: Any, raw: RawModel, scale: float, drawn: bool) -> None:
    sources = list(_sources(product, scale))
    flux, warmth = _told(product)
    lumens = sum(item.lumens for item in sources) or flux
    kelvin = next((item.kelvin for item in sources if item.kelvin), 0.0) or warmth
    if drawn:
        if lumens > 0.0 or kelvin > 0.0:
            raw.fixtures[str(product.GlobalId)] = (lumens, kelvin)
        return
    place = np.eye(4)
    if product.ObjectPlacement is not None:
        place = np.asarray(ifcopenshell.util.placement.get_local_placement(product.ObjectPlacement), float)
        place[:3, 3] *= scale
    name = str(product.Name or "Light fixture")
    if not sources and flux > 0.0:
        sources = [_Source(np.eye(4), flux, kelvin)]
    for item in sources:
        half = item.half_deg if item.along is not None else None
        add_lamp(
            raw,
            name,
            place @ item.place,
            item.lumens / space_of(half),
            item.kelvin or kelvin or FIXTURE_KELVIN,
            place[:3, :3] @ item.along if item.along is not None else None,
            item.half_deg,
        )


def _told(product: Any) -> tuple[float, float]:
    """Lumens and kelvin of the properties of a fixture or its type; 0 where they say nothing."""
    sets = ifcopenshell.util.element.get_psets(product, psets_only=True)
    values = {name: value for group in sets.values() for name, value in group.items()}
    count = values.get(_COUNT)
    sources = int(count) if isinstance(count, int | float) and 1 <= count <= 100 else 1
    flux = next((_number(values[name]) for name in _FLUX if name in values), 0.0)
    warmth = next((_number(values[name]) for name in _WARMTH if name in values), 0.0)
    return flux * sources, warmth if 1000.0 <= warmth <= 15_000.0 else 0.0


def _number(value: object) -> float:
    return (
        float(value) if isinstance(value, int | float) and math.isfinite(value) and 0 < value < 1e7 else 0.0
    )


def _sources(product: Any, scale: float) -> Iterator[_Source]:
    """The light sources in a product's representations, those of its type included."""
    if product.Representation is None:
        return
    for shape in product.Representation.Representations:
        for item in shape.Items:
            yield from _within(item, np.eye(4), scale, 0)


def _within(item: Any, place: Floats, scale: float, deep: int) -> Iterator[_Source]:
    if deep > DEEPEST:
        return
    if item.is_a("IfcMappedItem"):
        target: Any = ifcopenshell.util.placement.get_mappeditem_transformation(item)
        moved = np.asarray(target, float)
        moved[:3, 3] *= scale
        for inner in item.MappingSource.MappedRepresentation.Items:
            yield from _within(inner, place @ moved, scale, deep + 1)
    elif item.is_a("IfcLightSource"):
        source = _source(item, place, scale)
        if source is not None:
            yield source


def _source(item: Any, place: Floats, scale: float) -> _Source | None:
    """A source with a place; light from everywhere and from a direction alone is the sky's and the sun's."""
    if item.is_a("IfcLightSourceGoniometric"):
        at = np.asarray(ifcopenshell.util.placement.get_axis2placement(item.Position), float)
        at[:3, 3] *= scale
        return _Source(place @ at, _number(item.LuminousFlux), _number(item.ColourTemperature))
    if not item.is_a("IfcLightSourcePositional"):
        return None
    at = np.eye(4)
    at[:3, 3] = np.array([*item.Position.Coordinates, 0.0, 0.0], float)[:3] * scale
    share = 1.0 if item.Intensity is None else min(max(float(item.Intensity), 0.0), 1.0)
    colour = item.LightColour
    kelvin = kelvin_of(*decoded(np.array([colour.Red, colour.Blue], float)).tolist())
    if not item.is_a("IfcLightSourceSpot"):
        return _Source(place @ at, share * FIXTURE_LUMENS, kelvin)
    # Angles come in the file's unit; a spread of more than a right angle's radians is in degrees.
    spread = float(item.SpreadAngle)
    half = spread if spread > math.pi / 2 + 0.01 else math.degrees(spread)
    along = place[:3, :3] @ np.array([*item.Orientation.DirectionRatios, 0.0, 0.0], float)[:3]
    return _Source(place @ at, share * FIXTURE_LUMENS, kelvin, along, half)
