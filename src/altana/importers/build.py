"""What every importer ends with: parts of meshes become one Model in metres, Z up.

Here damaged geometry is dropped, models far from the origin are moved into reach of single precision, storeys are
found where the file names none, and what a person should know is written down.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Floats, Vec3
from altana.core.errors import UserError
from altana.core.geometry.rays import RayScene
from altana.core.geometry.rooms import found_rooms
from altana.core.model import (
    NO_LINES,
    EncodedImage,
    FoundCamera,
    Linework,
    Material,
    Model,
    Problem,
    Room,
    SceneObject,
    Storey,
    corner_normals,
)

#: Beyond this distance from the origin single precision gets coarser than a millimetre.
FAR_AWAY_M = 8_000.0
LARGEST_M = 1e9
SMALLEST_FLOOR_M2 = 8.0
MOST_TRIANGLES = 60_000_000
MOST_LINES = 8_000_000


@dataclass(slots=True)
class Part:
    """One material's share of one object.  vertices (n, 3), faces (m, 3), normals (n, 3) or None, uvs (n, 2) or None."""

    object_id: str
    name: str
    category: str
    storey: str
    material: int
    vertices: Floats
    faces: npt.NDArray[np.int64]
    normals: npt.NDArray[np.floating] | None = None
    uvs: npt.NDArray[np.floating] | None = None


@dataclass(slots=True)
class RawModel:
    """What a format module hands over."""

    parts: list[Part] = field(default_factory=list)
    materials: list[Material] = field(default_factory=list)
    images: list[EncodedImage] = field(default_factory=list)
    storeys: list[Storey] = field(default_factory=list)
    rooms: list[Room] = field(default_factory=list)
    problems: list[Problem] = field(default_factory=list)
    unit: str = "metre"
    #: Reference lines by layer: (k, 2, 3) float64 metres each.
    lines: dict[str, list[Floats]] = field(default_factory=dict)
    cameras: list[FoundCamera] = field(default_factory=list)
    rooms_wanted: bool = True

    def add_lines(self, layer: str, points: Floats) -> None:
        """Keep (k, 2, 3) segments; those that are not finite are dropped."""
        points = np.asarray(points, float).reshape(-1, 2, 3)
        sound = (np.abs(points) < LARGEST_M).all(axis=(1, 2))
        if sound.any():
            self.lines.setdefault(layer, []).append(points[sound])


def build(raw: RawModel, source: str) -> Model:
    """Put the parts together.  Raises UserError when nothing drawable is left."""
    kept, dropped = [], 0
    for part in raw.parts:
        clean, lost = _sound(part)
        dropped += lost
        if clean is not None:
            kept.append(clean)
    if not kept and raw.lines:
        return _only_lines(raw, source)
    if not kept:
        raise UserError(
            f"{source} holds no surfaces that can be drawn. Nothing was changed. "
            "Export it again with meshes or solids, or choose another file."
        )
    if sum(len(part.faces) for part in kept) > MOST_TRIANGLES:
        raise UserError(f"{source} has more than {MOST_TRIANGLES // 1_000_000} million triangles. Export a lighter model.")
    if dropped:
        raw.problems.append(Problem("damaged-faces", f"{dropped} damaged triangles were left out."))
    kept.sort(key=_object_order(kept))
    offset = _offset(kept, raw.problems)
    model = _assemble(kept, raw, source, offset)
    if not model.storeys:
        model = with_found_storeys(model)
    if not model.rooms and raw.rooms_wanted:
        model = _with_found_rooms(model)
    return model


def _with_found_rooms(model: Model) -> Model:
    rooms = found_rooms(model)
    if not rooms:
        return model
    told = Problem("rooms-found", f"The file names no rooms; {len(rooms)} were found from what its walls enclose.")
    return replace(model, rooms=rooms, problems=(*model.problems, told))


def _linework(raw: RawModel, offset: Vec3) -> Linework:
    if not raw.lines:
        return NO_LINES
    names = tuple(raw.lines)
    parts = [np.concatenate(raw.lines[name]) for name in names]
    points = (np.concatenate(parts) - np.asarray(offset)).astype(np.float32)
    if len(points) > MOST_LINES:
        raise UserError(f"The drawing has more than {MOST_LINES // 1_000_000} million lines. Export a lighter one.")
    return Linework(points, np.repeat(np.arange(len(names), dtype=np.int32), [len(part) for part in parts]), names)


def _only_lines(raw: RawModel, source: str) -> Model:
    """A drawing without surfaces: linework only."""
    points = np.concatenate([part for parts in raw.lines.values() for part in parts]).reshape(-1, 3)
    offset = _offset_of(points.min(axis=0), points.max(axis=0), raw.problems)
    none = np.zeros((0, 3), np.float32)
    return Model(
        none,
        none,
        np.zeros((0, 2), np.float32),
        np.zeros((0, 3), np.int32),
        np.zeros(0, np.int32),
        (),
        (),
        problems=tuple(raw.problems),
        offset=offset,
        source=source,
        unit=raw.unit,
        linework=_linework(raw, offset),
    )


def _object_order(parts: Sequence[Part]):  # type: ignore[no-untyped-def]
    first: dict[str, int] = {}
    for part in parts:
        first.setdefault(part.object_id, len(first))
    return lambda part: first[part.object_id]


def _sound(part: Part) -> tuple[Part | None, int]:
    faces = np.asarray(part.faces, np.int64).reshape(-1, 3)
    count = len(part.vertices)
    if not len(faces) or not count:
        return None, len(faces)
    good = np.ones(len(faces), bool)
    if faces.min() < 0 or faces.max() >= count:
        good &= ((faces >= 0) & (faces < count)).all(axis=1)
    finite = np.ones(count, bool)
    # One look at all numbers is the usual case; only damaged parts are looked at point by point.
    if not np.abs(part.vertices).max() < LARGEST_M:
        finite = np.abs(part.vertices).max(axis=1) < LARGEST_M
        good[good] &= finite[faces[good]].all(axis=1)
    if good.all():
        return part, 0
    if not good.any():
        return None, len(faces)
    part.faces = faces[good]
    part.vertices = np.where(finite[:, None], part.vertices, 0.0)
    return part, int((~good).sum())


def _offset(parts: Sequence[Part], problems: list[Problem]) -> Vec3:
    low = np.min([part.vertices.min(axis=0) for part in parts], axis=0)
    high = np.max([part.vertices.max(axis=0) for part in parts], axis=0)
    return _offset_of(low, high, problems)


def _offset_of(low: Floats, high: Floats, problems: list[Problem]) -> Vec3:
    middle = (low + high) / 2
    if np.abs(middle).max() < FAR_AWAY_M:
        return (0.0, 0.0, 0.0)
    x, y, z = (np.round(middle / 100.0) * 100.0).tolist()
    z = z if abs(z) >= FAR_AWAY_M else 0.0
    problems.append(
        Problem(
            "far-away",
            f"The model lies {np.linalg.norm(middle) / 1000:.0f} km from the origin; "
            f"it is shown moved by {-x:.0f}, {-y:.0f}, {-z:.0f} m, so that nothing trembles.",
        )
    )
    return float(x), float(y), float(z)


def _add_flat_normals(parts: Sequence[Part]) -> None:
    """Give the parts that have no normals flat ones, all in one go: files of many small things are the usual case."""
    bare = [part for part in parts if part.normals is None or len(part.normals) != len(part.vertices)]
    if not bare:
        return
    first = np.cumsum([0, *(len(part.vertices) for part in bare)])
    corners = np.cumsum([0, *(3 * len(part.faces) for part in bare)])
    points = np.concatenate([part.vertices for part in bare])
    faces = np.concatenate([part.faces + first[i] for i, part in enumerate(bare)])
    # Far from the origin only differences survive single precision, so they are taken before rounding.
    middle = points.mean(axis=0)
    normal, _, source = corner_normals((points - middle).astype(np.float32), faces.astype(np.int32))
    for index, part in enumerate(bare):
        mine = slice(corners[index], corners[index + 1])
        taken = source[mine]
        if part.uvs is not None and len(part.uvs) == len(part.vertices):
            part.uvs = part.uvs[taken - first[index]]
        else:
            part.uvs = None
        part.vertices, part.normals = points[taken], normal[mine]
        part.faces = np.arange(len(taken)).reshape(-1, 3)


def _assemble(parts: Sequence[Part], raw: RawModel, source: str, offset: Vec3) -> Model:
    away = np.asarray(offset)
    vertices, normals, uvs, faces, materials = [], [], [], [], []
    objects: list[SceneObject] = []
    start = first = 0
    _add_flat_normals(parts)
    for part in parts:
        points = (part.vertices - away if away.any() else part.vertices).astype(np.float32)
        triangles = part.faces.astype(np.int32)
        texture = part.uvs
        normal = np.asarray(part.normals, np.float32)
        if texture is None or len(texture) != len(points):
            texture = _box_uvs(points, normal)
        vertices.append(points)
        normals.append(normal)
        uvs.append(np.asarray(texture, np.float32))
        faces.append(triangles + np.int32(start))
        materials.append(np.full(len(triangles), part.material, np.int32))
        start += len(points)
        if objects and objects[-1].id == part.object_id:
            last = objects.pop()
            objects.append(
                SceneObject(last.id, last.name, last.category, last.storey_id, last.first_face, last.face_count + len(triangles))
            )
        else:
            objects.append(SceneObject(part.object_id, part.name, part.category, part.storey, first, len(triangles)))
        first += len(triangles)
    shift = offset[2]
    return Model(
        vertices=np.concatenate(vertices),
        normals=np.nan_to_num(np.concatenate(normals)),
        uvs=np.nan_to_num(np.concatenate(uvs)),
        faces=np.concatenate(faces),
        face_material=np.concatenate(materials),
        objects=tuple(objects),
        materials=tuple(raw.materials) or (Material("Plain"),),
        images=tuple(raw.images),
        storeys=tuple(Storey(s.id, s.name, s.elevation_m - shift) for s in sorted(raw.storeys, key=lambda s: s.elevation_m)),
        rooms=tuple(
            Room(
                r.id,
                r.name,
                r.storey_id,
                tuple((x - offset[0], y - offset[1]) for x, y in r.outline),
                r.floor_m - shift,
                r.ceiling_m - shift,
            )
            for r in raw.rooms
        ),
        problems=tuple(raw.problems),
        offset=offset,
        source=source,
        unit=raw.unit,
        linework=_linework(raw, offset),
        cameras=tuple(
            replace(item, eye=(item.eye[0] - offset[0], item.eye[1] - offset[1], item.eye[2] - offset[2])) for item in raw.cameras
        ),
    )


def _box_uvs(points: npt.NDArray[np.float32], normals: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    axis = np.argmax(np.abs(normals), axis=1)
    row = np.arange(len(points))
    return np.column_stack([points[row, np.array([1, 0, 0])[axis]], points[row, np.array([2, 2, 1])[axis]]])


def with_found_storeys(model: Model) -> Model:
    """The model with storeys found from its large level surfaces.

    A storey is an upward-facing level surface of at least 8 square metres (and 1 % of the largest) under cover,
    at least 2 m above the one below; a model without such a floor gets one storey at its lowest large surface.
    """
    a, b, c = (model.vertices[model.faces[:, corner]].astype(float) for corner in range(3))
    normal = np.cross(b - a, c - a)
    area = np.linalg.norm(normal, axis=1) / 2
    level = normal[:, 2] > 0.999 * 2 * np.maximum(area, 1e-12)
    middle = ((a + b + c) / 3)[level]
    area = area[level]
    floors = _floors(middle, area, RayScene(model.vertices, model.faces))
    if not floors:
        low = float(model.vertices[:, 2].min()) if not len(middle) else float(np.average(middle[:, 2], weights=area))
        floors = [low if not len(middle) else float(middle[np.argmax(area), 2])]
    storeys = tuple(Storey(f"level-{i + 1}", f"Level {i}" if i else "Ground level", z) for i, z in enumerate(floors))
    bottoms = np.array([z.elevation_m for z in storeys])
    objects = []
    for item in model.objects:
        if item.storey_id:
            objects.append(item)
            continue
        used = model.faces[item.first_face : item.first_face + item.face_count]
        bottom = float(model.vertices[used, 2].min())
        index = max(0, int(np.searchsorted(bottoms, bottom + 0.5)) - 1)
        objects.append(SceneObject(item.id, item.name, item.category, storeys[index].id, item.first_face, item.face_count))
    found = Problem("storeys-found", f"The file names no storeys; {len(storeys)} were found from its level floors.")
    return replace(model, objects=tuple(objects), storeys=storeys, problems=(*model.problems, found))


def _floors(middle: Floats, area: Floats, rays: RayScene) -> list[float]:
    if not len(middle):
        return []
    height = np.round(middle[:, 2] / 0.05).astype(int)
    totals = np.bincount(height - height.min(), weights=area)
    candidates = []
    for index in np.flatnonzero(totals >= SMALLEST_FLOOR_M2):
        z = float((index + height.min()) * 0.05)
        mine = np.flatnonzero(height == index + height.min())
        mine = mine[np.argsort(-area[mine])[:200]]
        over = rays.cast(middle[mine] + (0.0, 0.0, 0.05), np.tile((0.0, 0.0, 1.0), (len(mine), 1))).distance_m
        covered = float(area[mine][(over > 1.9) & (over < 30.0)].sum())
        exact = float(np.average(middle[mine, 2], weights=area[mine]))
        if covered >= SMALLEST_FLOOR_M2 * 0.5:
            candidates.append((exact, covered, z))
    # What counts is measured against the largest floor under cover, not against the land around.
    enough = 0.01 * max((covered for _, covered, _ in candidates), default=0.0)
    floors: list[tuple[float, float]] = []
    for z, covered, _ in sorted(item for item in candidates if item[1] >= enough):
        if floors and z - floors[-1][0] < 2.0:
            if covered > floors[-1][1]:
                floors[-1] = (z, covered)
            continue
        floors.append((z, covered))
    return [z for z, _ in floors]
