"""What every importer ends with: parts of meshes become one Model in metres, Z up.

Here damaged geometry is dropped, models far from the origin are moved into reach of single precision, storeys
are found where the file names none, and what a person should know is written down.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Floats, Floats32, Vec3
from altana.core.errors import UserError
from altana.core.extent import extent
from altana.core.model import (
    NO_COLOURS,
    NO_LINES,
    Linework,
    Material,
    Model,
    Problem,
    Room,
    SceneObject,
    corner_normals,
)
from altana.importers.levels import with_levels
from altana.importers.raw import LARGEST_M, Part, RawModel
from altana.importers.smoothing import smooth_corners
from altana.importers.splats import splatted

#: Beyond this distance from the origin single precision gets coarser than a millimetre.
FAR_AWAY_M = 8_000.0
#: More are told before they are asked for, by what the machine has; this is what numbers of corners allow.
MOST_TRIANGLES = 400_000_000
MOST_LINES = 8_000_000
#: Small parts are made smooth together, up to so many points.
TOGETHER = 200_000
#: What lies so many times as far from the middle of everything as most things do, and at least so far, does
#: not belong to it.
STRAY_TIMES, STRAY_M = 40.0, 2_000.0
MOST_STRAYS = 0.1

_LookedAt = dict[tuple[int, int], tuple[npt.NDArray[np.floating], bool]]


def build(raw: RawModel, source: str) -> Model:
    """Put the parts together.  Raises UserError when nothing drawable is left."""
    kept, dropped = [], 0
    for number, cloud in enumerate(raw.clouds):
        splatted(cloud.name, cloud.points, cloud.colours, raw, number)
    looked_at: _LookedAt = {}
    for part in raw.parts:
        clean, lost = _sound(part, looked_at)
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
        raise UserError(
            f"{source} has more than {MOST_TRIANGLES // 1_000_000} million triangles. Export a lighter model."
        )
    if dropped:
        raw.problems.append(Problem("damaged-faces", f"{dropped} damaged triangles were left out."))
    kept.sort(key=_object_order(kept))
    offset = _offset(kept, raw.problems)
    model = _assemble(kept, raw, source, offset)
    return with_levels(model, raw.rooms_wanted)


def _linework(raw: RawModel, offset: Vec3) -> Linework:
    if not raw.lines:
        return NO_LINES
    names = tuple(raw.lines)
    parts = [np.concatenate(raw.lines[name]) for name in names]
    points = (np.concatenate(parts) - np.asarray(offset)).astype(np.float32)
    if len(points) > MOST_LINES:
        raise UserError(
            f"The drawing has more than {MOST_LINES // 1_000_000} million lines. Export a lighter one."
        )
    return Linework(
        points, np.repeat(np.arange(len(names), dtype=np.int32), [len(part) for part in parts]), names
    )


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


def _sound(part: Part, looked_at: _LookedAt) -> tuple[Part | None, int]:
    """The part without what is damaged, and how many of its triangles were.  looked_at : by the numbers of
    vertices and faces that copies share, the box of the one and whether the other name no corner that is not
    there."""
    faces = np.asarray(part.faces).reshape(-1, 3)
    count = len(part.vertices)
    if not len(faces) or not count:
        return None, len(faces)
    # One look at all numbers is the usual case; only damaged parts are looked at point by point.
    shared = id(part.vertices), id(part.faces)
    if shared not in looked_at:
        known = int(faces.max()) < count and (faces.dtype.kind == "u" or int(faces.min()) >= 0)
        looked_at[shared] = extent(part.vertices), bool(known)
    box, known = looked_at[shared]
    part.box(box)
    within = part.low.min() > -LARGEST_M and part.high.max() < LARGEST_M
    if within and known:
        return part, 0
    part.settle()
    good = np.asarray(((faces >= 0) & (faces < count)).all(axis=1))
    finite = np.asarray(np.abs(part.vertices).max(axis=1) < LARGEST_M)
    good[good] &= finite[faces[good]].all(axis=1)
    if not good.any():
        return None, len(faces)
    part.faces = faces[good]
    part.vertices = np.where(finite[:, None], part.vertices, 0.0)
    part.box(extent(part.vertices))
    return part, int((~good).sum())


def _offset(parts: Sequence[Part], problems: list[Problem]) -> Vec3:
    """How far the model is moved to lie within reach of single precision; what stands astray is named and has
    no say."""
    owner = np.cumsum([True] + [a.object_id != b.object_id for a, b in pairwise(parts)]) - 1
    low, high = np.full((owner[-1] + 1, 3), np.inf), np.full((owner[-1] + 1, 3), -np.inf)
    np.minimum.at(low, owner, [part.low for part in parts])
    np.maximum.at(high, owner, [part.high for part in parts])
    astray = strays(low, high)
    if astray.any():
        first = {int(number): parts[at] for at, number in reversed(list(enumerate(owner.tolist())))}
        lost = [first[number] for number in np.flatnonzero(astray).tolist()]
        names = ", ".join(dict.fromkeys(f"“{part.name}”" for part in lost[:5])) + (
            " and others" if len(lost) > 5 else ""
        )
        far = np.linalg.norm(((low + high) / 2 - np.median((low + high) / 2, axis=0))[astray], axis=1).max()
        problems.append(
            Problem(
                "stray-objects",
                f"{names} {'lies' if len(lost) == 1 else 'lie'} up to {far / 1000:.0f} km from everything else; the middle is taken without. "
                "Leave it out of pictures, or have it moved in the model.",
                tuple(part.object_id for part in lost),
            )
        )
    return _offset_of(low[~astray].min(axis=0), high[~astray].max(axis=0), problems)


def strays(low: Floats, high: Floats) -> npt.NDArray[np.bool_]:
    """(n,) bool: which of the boxes, (n, 3) lowest and highest corners, lie far from what belongs
    together."""
    middle = (low + high) / 2
    away = np.linalg.norm(middle - np.median(middle, axis=0), axis=1)
    reach = np.median(away) + np.median(np.linalg.norm(high - low, axis=1))
    astray: npt.NDArray[np.bool_] = away > max(STRAY_TIMES * reach, STRAY_M)
    # Where more than a few stand apart, nothing tells which belong together.
    few = astray.sum() <= max(1, MOST_STRAYS * len(low)) and len(low) > 2
    return astray if few else np.zeros(len(low), bool)


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
            f"it is shown moved by {0.0 - x:.0f}, {0.0 - y:.0f}, {0.0 - z:.0f} m, so that nothing trembles.",
        )
    )
    return float(x), float(y), float(z)


def _mend_normals(parts: Sequence[Part]) -> None:
    """Drop directions that say nothing, without length or no numbers: all of a part's where many are so, else
    the few."""
    for part in parts:
        if part.normals is None or len(part.normals) != len(part.vertices):
            continue
        square = np.einsum("ij,ij->i", part.normals, part.normals)
        # Nearly always all are sound, which two looks tell.
        if square.min() > 0.25 and square.max() < 4.0:
            continue
        if part.placing is not None:
            part.settle()
            assert part.normals is not None
            square = np.einsum("ij,ij->i", part.normals, part.normals)
        sound = (square > 0.25) & (square < 4.0)
        if sound.mean() < 0.9:
            part.normals = None
        elif not sound.all():
            part.normals = np.nan_to_num(np.where(sound[:, None], part.normals, (0.0, 0.0, 1.0)))


def _add_flat_normals(parts: Sequence[Part], near: bool) -> None:
    """Give the parts that have no normals flat ones, all in one go: files of many small things are the usual
    case.  Copies get those of their original.

    near : whether the model stays where it is, so that single precision holds its places.
    """
    lacking = [part for part in parts if part.normals is None or len(part.normals) != len(part.vertices)]
    if not lacking:
        return
    alike: dict[tuple[int, ...], list[Part]] = {}
    for part in lacking:
        arrays = (part.vertices, part.faces, part.uvs, part.colours)
        alike.setdefault((*map(id, arrays), part.smooth, part.placing is None), []).append(part)
    _flatten([same[0] for same in alike.values()], near)
    for original, *copies in alike.values():
        if original.placing is not None and original.placing.turn.mirrors and original.normals is not None:
            # Its faces are turned over for where it will stand, not for where it lies.
            original.normals = -original.normals
        for copy in copies:
            copy.vertices, copy.faces, copy.normals = original.vertices, original.faces, original.normals
            copy.uvs, copy.colours = original.uvs, original.colours


def _flatten(bare: Sequence[Part], near: bool) -> None:
    """Give parts a corner for each of their triangles', with flat normals where they are not to be smooth."""
    first = np.cumsum([0, *(len(part.vertices) for part in bare)])
    corners = np.cumsum([0, *(3 * len(part.faces) for part in bare)])
    points = np.concatenate([part.vertices for part in bare])
    faces = np.concatenate([part.faces + first[i] for i, part in enumerate(bare)])
    if any(part.placing is not None for part in bare):
        # Copies lie where their file has them until they are placed.
        near = near and bool(np.nanmax(np.abs(points)) < FAR_AWAY_M)
    # Far from the origin only differences survive single precision, so they are taken before rounding.
    middle = points.mean(axis=0)
    normal, _, source = corner_normals((points - middle).astype(np.float32), faces.astype(np.int32))
    placed: npt.NDArray[np.floating] = (points.astype(np.float32) if near else points)[source]
    bent = _smooth(bare, middle)
    for index, part in enumerate(bare):
        mine = slice(corners[index], corners[index + 1])
        taken = source[mine]
        if part.uvs is not None and len(part.uvs) == len(part.vertices):
            part.uvs = part.uvs[taken - first[index]]
        else:
            part.uvs = None
        if part.colours is not None and len(part.colours) == len(part.vertices):
            part.colours = part.colours[taken - first[index]]
        part.vertices, part.normals = placed[mine], bent.get(index, normal[mine])
        part.faces = np.arange(len(taken)).reshape(-1, 3)


def _smooth(bare: Sequence[Part], middle: Floats) -> dict[int, Floats32]:
    """Smooth directions of the corners of those parts that ask for them, by their place in the list; small
    parts together."""
    normals: dict[int, Floats32] = {}
    asked = [index for index, part in enumerate(bare) if part.smooth]
    rows: list[int] = []
    total = 0
    for index in asked:
        rows.append(index)
        total += len(bare[index].vertices)
        if total < TOGETHER and index != asked[-1]:
            continue
        sizes = [len(bare[at].vertices) for at in rows]
        points = np.concatenate([bare[at].vertices - middle for at in rows])
        faces = [
            bare[at].faces.astype(np.int64) + start
            for at, start in zip(rows, np.cumsum([0, *sizes]), strict=False)
        ]
        bent = smooth_corners(points, np.concatenate(faces), sizes).astype(np.float32)
        ends = np.cumsum([3 * len(part) for part in faces])[:-1]
        normals.update(zip(rows, np.split(bent, ends), strict=True))
        rows, total = [], 0
    return normals


class _Arrays:
    """The arrays of a model, filled part by part.  painted : whether any part has colours."""

    def __init__(self, parts: Sequence[Part], painted: bool) -> None:
        corners, triangles = (
            sum(len(array) for array in arrays)
            for arrays in ([part.vertices for part in parts], [part.faces for part in parts])
        )
        self.vertices, self.normals = np.empty((corners, 3), np.float32), np.empty((corners, 3), np.float32)
        # What nobody writes to takes no memory.
        self.uvs = np.zeros((corners, 2), np.float32)
        self.faces, self.materials = np.empty((triangles, 3), np.int32), np.empty(triangles, np.int32)
        self.colours = np.empty((corners if painted else 0, 4), np.uint8)
        self.objects: list[SceneObject] = []
        #: Corners and triangles up to now.
        self.corners = self.triangles = 0

    def add(self, part: Part, offset: Vec3, pictured: bool, gives: tuple[float, float]) -> None:
        """One more part.  pictured : whether its material has pictures; gives : lumens and kelvin of its
        object."""
        points, normals = part.placed()
        own = slice(self.corners, self.corners + len(points))
        self.vertices[own] = points - np.asarray(offset) if any(offset) else points
        self.normals[own] = normals
        if part.uvs is not None and len(part.uvs) == len(points):
            self.uvs[own] = part.uvs
        elif pictured:
            self.uvs[own] = _box_uvs(self.vertices[own], self.normals[own])
        if len(self.colours):
            self.colours[own] = 255
            if part.colours is not None and len(part.colours) == len(points):
                self.colours[own] = part.colours
        mine = slice(self.triangles, self.triangles + len(part.faces))
        self.faces[mine] = np.add(part.faces, self.corners, dtype=np.int32, casting="unsafe")
        self.materials[mine] = part.material
        self._name(part, gives)
        self.corners, self.triangles = own.stop, mine.stop

    def _name(self, part: Part, gives: tuple[float, float]) -> None:
        """Say which object the triangles belong to."""
        count = len(part.faces)
        if self.objects and self.objects[-1].id == part.object_id:
            last = self.objects.pop()
            self.objects.append(replace(last, face_count=last.face_count + count))
            return
        named = (part.object_id, part.name, part.category, part.storey)
        self.objects.append(SceneObject(*named, self.triangles, count, *gives))


def _assemble(parts: list[Part], raw: RawModel, source: str, offset: Vec3) -> Model:
    painted = any(part.colours is not None for part in parts)
    _mend_normals(parts)
    _add_flat_normals(parts, not any(offset))
    pictured = [item.pictured for item in raw.materials] or [False]
    arrays = _Arrays(parts, painted)
    # What is put together is needed no more: a large model is not held twice.
    raw.parts.clear()
    parts.reverse()
    while parts:
        part = parts.pop()
        gives = raw.fixtures.get(part.object_id, (0.0, 0.0))
        arrays.add(part, offset, pictured[part.material], gives)
    storeys = sorted(raw.storeys, key=lambda storey: storey.elevation_m)
    return Model(
        vertices=arrays.vertices,
        normals=_numbers(arrays.normals),
        uvs=_numbers(arrays.uvs),
        faces=arrays.faces,
        face_material=arrays.materials,
        objects=tuple(arrays.objects),
        materials=tuple(raw.materials) or (Material("Plain"),),
        images=tuple(raw.images),
        storeys=tuple(replace(item, elevation_m=item.elevation_m - offset[2]) for item in storeys),
        rooms=tuple(_room(item, offset) for item in raw.rooms),
        problems=tuple(raw.problems),
        offset=offset,
        source=source,
        unit=raw.unit,
        linework=_linework(raw, offset),
        colours=arrays.colours if painted else NO_COLOURS,
        place=raw.place,
        cameras=tuple(replace(item, eye=_less(item.eye, offset)) for item in raw.cameras),
        lamps=tuple(replace(item, place=_less(item.place, offset)) for item in raw.lamps),
    )


def _room(room: Room, offset: Vec3) -> Room:
    east, north, up = offset
    outline = tuple((x - east, y - north) for x, y in room.outline)
    return replace(room, outline=outline, floor_m=room.floor_m - up, ceiling_m=room.ceiling_m - up)


def _less(place: Vec3, offset: Vec3) -> Vec3:
    return place[0] - offset[0], place[1] - offset[1], place[2] - offset[2]


def _numbers(values: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    """The same, with 0 for what is no number; mostly there is none such, and nothing is copied."""
    return values if np.isfinite(values).all() else np.nan_to_num(values)


def _box_uvs(points: npt.NDArray[np.float32], normals: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    axis = np.argmax(np.abs(normals), axis=1)
    row = np.arange(len(points))
    return np.column_stack([points[row, np.array([1, 0, 0])[axis]], points[row, np.array([2, 2, 1])[axis]]])
