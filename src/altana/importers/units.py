"""Units and axes: what a file says, else what its floors, doors and people are likely to be; one place for
every kind of file.

Readers hand over parts in the file's own numbers; here they come to metres and Z up, and what was assumed is
said with what else it could be.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from altana.core.conventions import Floats, Vec3
from altana.core.geometry.cross import area_normals
from altana.core.model import Problem
from altana.importers.placing import Turn
from altana.importers.raw import Cloud, Part, RawModel

Z_UP_FROM_Y_UP = np.array([[1.0, 0, 0, 0], [0, 0, -1, 0], [0, 1, 0, 0], [0, 0, 0, 1]])
Z_UP_FROM_X_UP = np.array([[0.0, 1, 0, 0], [0, 0, 1, 0], [1, 0, 0, 0], [0, 0, 0, 1]])
#: Units by their metres: name, plural, and how much less usual than metres each is.
UNITS = {
    1.0: ("metre", "metres", 0.0),
    0.001: ("millimetre", "millimetres", 0.3),
    0.01: ("centimetre", "centimetres", 0.8),
    0.0254: ("inch", "inches", 1.2),
    0.3048: ("foot", "feet", 1.2),
}
#: Usual heights in metres with how widely they vary, as decimal logarithms: a building, from floor to floor,
#: a door, a person.
BUILDING, STOREY, DOOR, PERSON = (8.0, 0.6), (3.0, 0.09), (2.1, 0.06), (1.72, 0.06)
#: What is less high than this share of its width is flat, and told by how wide it is.
FLAT, GROUND = 0.01, (25.0, 0.7)
#: No piece of evidence speaks louder than this.
LOUDEST = 8.0
MOST_LOOKED_AT = 400_000
#: Small parts are looked at together, up to so many triangles.
TOGETHER = 100_000


def unit_name(unit_m: float) -> str:
    """The name of a unit by its metres."""
    return next(
        (name for metres, (name, _, _) in UNITS.items() if abs(metres - unit_m) < 1e-6 * metres),
        f"{unit_m:g} m",
    )


def settle(
    raw: RawModel, unit_m: float, up: str, told_unit_m: float = 0.0, told_up: str = "", doubtful_up: str = "z"
) -> Floats:
    """Bring everything in the file's numbers to metres and Z up; returns the (4, 4) matrix that did.

    unit_m, up : as a person chose, 0 and empty for neither.  told_unit_m, told_up : as the file says.
    doubtful_up : the axis to take when its surfaces do not tell.
    """
    axis = up or told_up or _likely_up(raw, doubtful_up)
    turned = {"x": Z_UP_FROM_X_UP, "y": Z_UP_FROM_Y_UP}.get(axis, np.eye(4))
    if unit_m:
        scale, raw.unit = unit_m, f"{unit_m:g} m, as chosen"
    elif told_unit_m:
        scale, raw.unit = told_unit_m, unit_name(told_unit_m)
    else:
        scale = _likely_unit(raw, turned)
    matrix: Floats = turned * np.array([[scale]] * 3 + [[1.0]])
    apply(raw, matrix)
    return matrix


def apply(raw: RawModel, matrix: Floats) -> None:
    """Move all that a file holds by a (4, 4) matrix."""
    if np.array_equal(matrix, np.eye(4)):
        return
    linear, moved = matrix[:3, :3], matrix[:3, 3]
    size = float(abs(np.linalg.det(linear))) ** (1 / 3) or 1.0
    turns: dict[Turn, Turn] = {}
    for part in raw.parts:
        if part.placing is not None:
            part.placing = part.placing.then(linear, moved, turns)
            continue
        part.vertices = np.asarray(part.vertices, float) @ linear.T + moved
        if part.normals is not None:
            part.normals = np.asarray(part.normals, float) @ linear.T / size
    for layer, pieces in raw.lines.items():
        raw.lines[layer] = [piece @ linear.T + moved for piece in pieces]
    raw.clouds = [Cloud(item.name, item.points @ linear.T + moved, item.colours) for item in raw.clouds]
    _apply_to_building(raw, linear, moved, size)


def _apply_to_building(raw: RawModel, linear: Floats, moved: Floats, size: float) -> None:
    """The same for the file's storeys, rooms and lamps; a model that is turned has others, which are
    found."""
    raw.lamps = [
        replace(
            lamp, place=_moved(lamp.place, linear, moved), direction=_turned(lamp.direction, linear / size)
        )
        for lamp in raw.lamps
    ]
    if not np.allclose(linear, size * np.eye(3)):
        raw.storeys, raw.rooms = [], []
        for part in raw.parts:
            part.storey = ""
        return
    x, y, z = moved.tolist()
    raw.storeys = [replace(item, elevation_m=item.elevation_m * size + z) for item in raw.storeys]
    raw.rooms = [
        replace(
            item,
            outline=tuple((a * size + x, b * size + y) for a, b in item.outline),
            floor_m=item.floor_m * size + z,
            ceiling_m=item.ceiling_m * size + z,
        )
        for item in raw.rooms
    ]


def _moved(place: Vec3, linear: Floats, moved: Floats) -> Vec3:
    x, y, z = (linear @ np.asarray(place) + moved).tolist()
    return x, y, z


def _turned(direction: Vec3 | None, turn: Floats) -> Vec3 | None:
    return None if direction is None else _moved(direction, turn, np.zeros(3))


# ---------------------------------------------------------------------- what is likely


def _likely_up(raw: RawModel, doubtful: str) -> str:
    """By the area that lies level along each axis."""
    level = {"y": 0.0, "z": 0.0}
    for corner in _corners(raw):
        normal = np.abs(np.nan_to_num(area_normals(corner)))
        length = np.linalg.norm(normal, axis=1)
        for axis, column in (("y", 1), ("z", 2)):
            level[axis] += float(normal[normal[:, column] > 0.99 * length, column].sum())
    for cloud in raw.clouds:
        # A scan has no surfaces; it is flatter upwards than it is wide.
        size = np.ptp(np.percentile(cloud.points, [2, 98], axis=0), axis=0)
        level["y"] += 1.0 / max(size[1], 1e-9)
        level["z"] += 1.0 / max(size[2], 1e-9)
    other = "y" if doubtful == "z" else "z"
    likely = other if level[other] > 1.3 * level[doubtful] else doubtful
    raw.problems.append(
        Problem(
            "axis-assumed",
            f"The file does not say which way is up; {likely.upper()} is taken as up.",
            (),
            f"up:{'z' if likely == 'y' else 'y'}",
        )
    )
    return likely


def _likely_unit(raw: RawModel, turned: Floats) -> float:
    evidence = _evidence(raw, turned)
    scores = {unit: _likelihood(unit, evidence) - unusual for unit, (_, _, unusual) in UNITS.items()}
    best, second = sorted(scores, key=lambda unit: -scores[unit])[:2]
    size, usual = evidence[0]
    raw.unit = f"{UNITS[best][0]}, assumed"
    likely_words, other = UNITS[best][1], UNITS[second][1]
    if usual is GROUND:
        sentence = (
            f"The file names no unit; it is taken as {likely_words} and is then {_length(size * best)} wide. "
            f"In {other} it would be {_length(size * second)} wide."
        )
    else:
        sentence = (
            f"The file names no unit; it is taken as {likely_words} and is then {_length(size * best)} high. "
            f"In {other} it would be {_length(size * second)} high."
        )
    raw.problems.append(Problem("unit-assumed", sentence, (), f"unit:{second!r}"))
    return best


def _length(metres: float) -> str:
    return (
        f"{metres:.0f} m"
        if metres >= 20
        else f"{metres:.1f} m"
        if metres >= 1
        else f"{metres * 100:.0f} cm"
        if metres >= 0.01
        else f"{metres * 1000:.1f} mm"
    )


def _likelihood(unit: float, evidence: list[tuple[float, tuple[float, float]]]) -> float:
    score = 0.0
    for size, (usual, spread) in evidence:
        score -= min(LOUDEST, (np.log10(max(size * unit, 1e-12) / usual) / spread) ** 2)
    return float(score)


def _evidence(raw: RawModel, turned: Floats) -> list[tuple[float, tuple[float, float]]]:
    """Heights in the file's numbers with what they would usually be; of what is flat how wide it is."""
    up = turned[2, :3]
    tall: dict[str, list[Floats]] = {}
    for part in _looked_at(raw):
        heights = np.asarray(part.placed()[0], float) @ up
        heights = heights[np.isfinite(heights)]
        if len(heights):
            tall.setdefault(part.object_id, []).append(np.array([heights.min(), heights.max()]))
    for cloud in raw.clouds:
        tall.setdefault(cloud.name, []).append(np.percentile(cloud.points @ up, [0.5, 99.5]))
    spans = {key: (min(v[0] for v in values), max(v[1] for v in values)) for key, values in tall.items()}
    if not spans:
        return [(1.0, BUILDING)]
    low, high = np.median([a for a, _ in spans.values()]), np.median([b for _, b in spans.values()])
    reach = max(
        np.percentile([b for _, b in spans.values()], 98) - np.percentile([a for a, _ in spans.values()], 2),
        high - low,
        1e-9,
    )
    wide = _wide(raw, turned)
    if reach < FLAT * wide:
        return [(wide, GROUND)]
    evidence = [(float(reach), BUILDING)]
    names = {part.object_id: f"{part.name} {part.category}".lower() for part in raw.parts}
    for pattern, usual in (
        (r"\bdoors?\b|\bt(ü|ue)r\b|\bporte\b", DOOR),
        (r"\b(person|people|man|woman|human|figure)s?\b", PERSON),
    ):
        sizes = [
            b - a for key, (a, b) in spans.items() if re.search(pattern, names.get(key, "").replace("_", " "))
        ]
        if sizes:
            evidence.append((float(np.median(sizes)), usual))
    gap = _floor_to_floor(raw, up, reach)
    if gap:
        evidence.append((gap, STOREY))
    return evidence


def _wide(raw: RawModel, turned: Floats) -> float:
    """How far all surfaces and points reach sideways, in the file's numbers."""
    ends = [
        values.min(axis=0) if lowest else values.max(axis=0)
        for places in (
            *(part.placed()[0] for part in _looked_at(raw)),
            *(cloud.points for cloud in raw.clouds),
        )
        if len(values := np.nan_to_num(np.asarray(places, float) @ turned[:2, :3].T))
        for lowest in (True, False)
    ]
    return float(np.ptp(np.array(ends), axis=0).max()) if ends else 0.0


def _floor_to_floor(raw: RawModel, up: Floats, reach: float) -> float:
    """The usual height between large level surfaces, in the file's numbers; 0 where there are not three."""
    heights, areas = [], []
    for corner in _corners(raw):
        normal = np.nan_to_num(area_normals(corner))
        level = normal @ up > 0.999 * np.maximum(np.linalg.norm(normal, axis=1), 1e-300)
        heights.append((corner[level].mean(axis=1)) @ up)
        areas.append(np.linalg.norm(normal[level], axis=1))
    height, area = np.concatenate(heights or [np.zeros(0)]), np.concatenate(areas or [np.zeros(0)])
    if not len(height):
        return 0.0
    steps = np.round((height - height.min()) / (reach / 200.0)).astype(int)
    total = np.bincount(np.clip(steps, 0, 400), weights=area)
    floors = np.flatnonzero(total > 0.25 * total.max())
    gaps = np.diff(floors) * reach / 200.0
    gaps = gaps[gaps > 0.06 * reach]
    return float(np.median(gaps)) if len(gaps) >= 2 else 0.0


def _corners(raw: RawModel) -> Iterator[Floats]:
    """(m, 3, 3) corners of triangles to judge by, those of many small parts together."""
    corners: list[Floats] = []
    total = 0
    for part in _looked_at(raw):
        corners.append(np.asarray(part.placed()[0], float)[np.clip(part.faces, 0, len(part.vertices) - 1)])
        total += len(part.faces)
        if total > TOGETHER:
            yield np.concatenate(corners)
            corners, total = [], 0
    if corners:
        yield np.concatenate(corners)


def _looked_at(raw: RawModel) -> list[Part]:
    """Parts to judge by: all, or an even choice where there are very many triangles."""
    total = sum(len(part.faces) for part in raw.parts)
    every = max(1, total // MOST_LOOKED_AT)
    return [
        part
        for at, part in enumerate(raw.parts)
        if len(part.faces) and len(part.vertices) and (at % every == 0 or every == 1)
    ]
