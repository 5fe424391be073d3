"""Lamps: light fixtures of the model, light sources of its file, and objects marked as lamps, by groups.

A lamp that is a thing glows by its surface: so many lumens over its area, evenly (Lambert).  A light source
without a thing is a point.
"""

from __future__ import annotations

import re
from collections.abc import Container
from dataclasses import dataclass, replace

import numpy as np

from altana.core.conventions import Floats, Ints, Vec3
from altana.core.distinct import distinct
from altana.core.geometry.cross import crossed
from altana.core.light.buried import buried
from altana.core.model import Material, Model
from altana.core.project import LampGroup, Lamps, MarkedLamp

#: The category of objects that are lamps without being marked, and what one of them gives.
FIXTURE, FIXTURE_LUMENS, FIXTURE_KELVIN = "Light fixture", 1500.0, 2900.0
#: What a surface with an emission of one throws, cd/m2: as everywhere.
SHINE = 4000.0
#: A part of a fixture whose material is called so is what glows, else its brightest.
_BULB = re.compile(r"bulb|globe|glow|opal|lamp ?glass|diffus|led|tube|light source", re.IGNORECASE)
_NUMBER = re.compile(r"[\s_.:#-]*\d+$")
MARKED = "Marked"


@dataclass(frozen=True, slots=True)
class LampSource:
    """A lamp of the model: its object (or the name of a light source), its group, what it gives, and where it
    hangs."""

    id: str
    name: str
    group: str
    lumens: float
    kelvin: float
    place: Vec3
    marked: bool = False


def group_of(name: str) -> str:
    """The group that a lamp belongs to: its name without a number."""
    return _NUMBER.sub("", name).strip() or "Lamps"


def lamps_of(model: Model, lamps: Lamps) -> tuple[LampSource, ...]:
    """Every lamp there is, on or off, as it is by itself."""
    marks = {item.object_id: item for item in lamps.marked}
    sources = []
    for item in model.objects:
        mark = marks.get(item.id)
        if not item.face_count or (mark is None and item.category != FIXTURE):
            continue
        given = mark or MarkedLamp(item.id, item.lumens or FIXTURE_LUMENS, item.kelvin or FIXTURE_KELVIN)
        faces = model.faces[item.first_face : item.first_face + item.face_count]
        middle = model.vertices[faces].reshape(-1, 3).mean(axis=0).astype(float)
        x, y, z = middle.tolist()
        group = group_of(item.name or item.category)
        sources.append(
            LampSource(
                item.id, item.name or item.id, group, given.lumens, given.kelvin, (x, y, z), mark is not None
            )
        )
    for lamp in model.lamps:
        sources.append(
            LampSource(lamp.name, lamp.name, group_of(lamp.name), lamp.lumens, lamp.kelvin, lamp.place)
        )
    return tuple(sources)


def burning(lamp: LampSource, group: LampGroup) -> tuple[float, float]:
    """Lumens and kelvin of a lamp as its group burns."""
    lumens = lamp.lumens * 2.0**group.strength_ev if group.on else 0.0
    return lumens, group.kelvin or lamp.kelvin


def warm_white(kelvin: float) -> Floats:
    """(3,) linear sRGB of a black body's light with a luminance of one: the chromaticity by Kim and others
    (US patent 7024034, 2006: cubic splines of Planck's locus), limited to what sRGB holds."""
    t = float(np.clip(kelvin, 1667.0, 25_000.0))
    if t <= 4000.0:
        x = -0.2661239e9 / t**3 - 0.2343589e6 / t**2 + 0.8776956e3 / t + 0.179910
    else:
        x = -3.0258469e9 / t**3 + 2.1070379e6 / t**2 + 0.2226347e3 / t + 0.240390
    if t <= 2222.0:
        y = -1.1063814 * x**3 - 1.34811020 * x**2 + 2.18555832 * x - 0.20219683
    elif t <= 4000.0:
        y = -0.9549476 * x**3 - 1.37418593 * x**2 + 2.09137015 * x - 0.16748867
    else:
        y = 3.0817580 * x**3 - 5.87338670 * x**2 + 3.75112997 * x - 0.37001483
    xyz = np.array([x / y, 1.0, (1.0 - x - y) / y])
    to_rgb = np.array(
        [
            [3.2404542, -1.5371385, -0.4985314],
            [-0.9692660, 1.8760108, 0.0415560],
            [0.0556434, -0.2040259, 1.0572252],
        ]
    )
    rgb = np.maximum(to_rgb @ xyz, 0.0)
    white: Floats = rgb / float(rgb @ np.array([0.2126, 0.7152, 0.0722]))
    return white


def with_lamps(model: Model, lamps: Lamps) -> Model:
    """The model with the surfaces of its lamps glowing as their groups burn, and its light sources likewise.
    What a lamp gives leaves it by those surfaces that are not buried in its own body or a ceiling.

    A lamp's surface has a material of its own, which says by ``lamp`` that it glows only while lamps are on.
    """
    sources = lamps_of(model, lamps)
    if not sources:
        return model
    by_id = {item.id: item for item in sources}
    materials = list(model.materials)
    numbers: dict[Material, int] = {}
    face_material = model.face_material.copy()
    for number, glowing in _glowing_parts(model, by_id).items():
        lamp = by_id[model.objects[number].id]
        lumens, kelvin = burning(lamp, lamps.group(lamp.group))
        area = _area(model, glowing)
        if area <= 0.0:
            continue
        emission = warm_white(kelvin) * (lumens / (np.pi * area) / SHINE)
        for number in distinct(face_material[glowing]).tolist():
            r, g, b = np.round(emission, 6).tolist()
            materials_lit = replace(materials[number], emission=(r, g, b), lamp=lamp.group)
            if materials_lit not in numbers:
                numbers[materials_lit] = len(materials)
                materials.append(materials_lit)
            face_material[glowing[face_material[glowing] == number]] = numbers[materials_lit]
    points = []
    for source in model.lamps:
        lumens, kelvin = burning(by_id[source.name], lamps.group(group_of(source.name)))
        points.append(replace(source, lumens=lumens, kelvin=kelvin))
    return replace(model, materials=tuple(materials), face_material=face_material, lamps=tuple(points))


def _glowing_parts(model: Model, lamps: Container[str]) -> dict[int, Ints]:
    """The triangles of each lamp that throw its light, by the number of its object: those that are not
    buried, where any is not."""
    parts: dict[int, Ints] = {}
    for number, item in enumerate(model.objects):
        if item.id in lamps and item.face_count:
            faces = np.arange(item.first_face, item.first_face + item.face_count)
            parts[number] = faces[_glows(model, faces)]
    if not parts:
        return parts
    hidden = buried(model, np.concatenate(list(parts.values())))
    starts = np.cumsum([len(faces) for faces in parts.values()])[:-1]
    for (number, faces), gone in zip(parts.items(), np.split(hidden, starts), strict=True):
        parts[number] = faces if gone.all() else faces[~gone]
    return parts


def _glows(model: Model, faces: np.ndarray) -> np.ndarray:
    """(k,) bool: which of a lamp's triangles glow: a part called so, else the brightest material, else
    all."""
    own = model.face_material[faces]
    kinds = distinct(own)
    if len(kinds) == 1:
        return np.ones(len(faces), bool)
    called = [number for number in kinds.tolist() if _BULB.search(model.materials[number].name)]
    if not called:
        called = [max(kinds.tolist(), key=lambda number: sum(model.materials[number].colour[:3]))]
    return np.isin(own, called)


def _area(model: Model, faces: np.ndarray) -> float:
    a, b, c = (model.vertices[model.faces[faces, k]].astype(float) for k in range(3))
    return float(np.linalg.norm(crossed(b - a, c - a), axis=1).sum() / 2.0)
