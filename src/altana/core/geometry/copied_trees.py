"""Trees of models in which the same surfaces stand many times: each of them once, and where its copies stand.

Three thousand trees of sixteen thousand triangles would take two gigabytes and half a minute otherwise.  The
library beneath embreex has it; embreex does not say which copy a ray met, so that library is asked directly,
sixteen rays at a time.
"""

from __future__ import annotations

import ctypes
from dataclasses import dataclass
from functools import cache

import numpy as np
from embreex.rtcore_scene import EmbreeScene

from altana.core.conventions import Bools, Floats32, Ints, Ints32
from altana.core.geometry.copies import Copies
from altana.core.geometry.trees import (
    COMPACT_FLAG,
    attach_triangles,
    embree,
    filling,
    handle_of,
    readable_beyond,
)
from altana.core.model import Model

#: What Embree's own header calls these things.
_INSTANCE, _FLOAT3X4 = 121, 0x9134
_ADDRESS, _NUMBER = ctypes.c_void_p, ctypes.c_uint
_CALLS = (
    ("rtcNewScene", _ADDRESS, (_ADDRESS,)),
    ("rtcReleaseScene", None, (_ADDRESS,)),
    ("rtcSetGeometryInstancedScene", None, (_ADDRESS, _ADDRESS)),
    ("rtcSetGeometryTransform", None, (_ADDRESS, _NUMBER, ctypes.c_int, _ADDRESS)),
    ("rtcIntersect16", None, (_ADDRESS, _ADDRESS, _ADDRESS, _ADDRESS)),
)
#: Rays of one call, and the rows of its figures: origin, nearest, direction, time, farthest, mask, number,
#: flags; then normal, place, triangle, surface, copy, and two that newer versions may write.
ABREAST, ROWS = 16, 22
_ALONG, _FARTHEST, _MASK, _TRIANGLE, _SURFACE, _COPY = 4, 8, 9, 17, 18, 19
NOTHING = 0xFFFFFFFF
#: To how many bytes those figures are aligned.
ALIGNED = 64
#: Copies are worth it in models of so many triangles, of which at least this share are in copies.
MANY, SHARE = 2_000_000, 0.5


@dataclass(frozen=True, slots=True)
class CopiedSurfaces:
    """Surfaces that stand in a model many times: ``first`` and ``count`` (objects,) triangles of each object,
    and the ``copies`` among them."""

    first: Ints
    count: Ints
    copies: Copies

    @classmethod
    def of(cls, model: Model, copies: Copies | None) -> CopiedSurfaces | None:
        """Those of a large model where they are most of it, and can be asked for."""
        if copies is None or len(model.faces) < MANY:
            return None
        first, count = (
            np.array([getattr(item, name) for item in model.objects], np.int64)
            for name in ("first_face", "face_count")
        )
        worth = count[~copies.own].sum() >= SHARE * len(model.faces) and can_ask()
        return cls(first, count, copies) if worth else None

    def triangles(self, number: int) -> slice:
        """Those of an object."""
        return slice(int(self.first[number]), int(self.first[number] + self.count[number]))


class CopiedTree:
    """A tree of copies and of what there is once; asked as ``Tree`` is, and triangles are named by their
    number in the model.

    vertices : (n, 3) float32 metres, faces : (m, 3) int32, both contiguous; they are kept and must not
    change.  chosen : (m,) the triangles that count.  Raises IndexError where a face has a corner that is not
    there, MemoryError where there is no room for it.
    """

    def __init__(
        self, vertices: Floats32, faces: Ints32, surfaces: CopiedSurfaces, chosen: Bools | None = None
    ) -> None:
        library = _library()
        assert library is not None
        self._library, self._scene = library, EmbreeScene()
        vertices = readable_beyond(vertices)
        self._kept: list[object] = [vertices, faces]
        placed, once = _sorted_out(surfaces, chosen)
        with filling(library, self._scene, compact=True) as (device, handle):
            #: The number in the model of each triangle that there is once.
            self._once = once.astype(np.int32)
            self._first_copy = 1 if len(once) else 0
            if len(once):
                self._attach(device, handle, vertices, np.ascontiguousarray(faces[once]))
            #: Of each copy its first triangle, and where in ``_local`` those of its original begin.
            self._begins, self._table = np.zeros(len(placed), np.int64), np.zeros(len(placed), np.int64)
            self._local = self._copies(device, handle, vertices, faces, placed, surfaces)

    def _attach(self, device: int, handle: ctypes.c_void_p | int, vertices: Floats32, faces: Ints32) -> None:
        self._kept.append(faces)
        attach_triangles(self._library, device, handle, vertices, faces)

    def _copies(
        self,
        device: int,
        handle: ctypes.c_void_p,
        vertices: Floats32,
        faces: Ints32,
        placed: list[_Placed],
        surfaces: CopiedSurfaces,
    ) -> Ints32:
        """Put every copy into the scene; the triangles of originals, counted from each one's first."""
        library, tables, length = self._library, [np.zeros(0, np.int32)], 0
        scenes: dict[int, tuple[int, int]] = {}
        for number, item in enumerate(placed):
            if item.original not in scenes:
                own = library.rtcNewScene(device)
                library.rtcSetSceneFlags(own, COMPACT_FLAG)
                mine = surfaces.triangles(item.original)
                self._attach(device, own, vertices, np.ascontiguousarray(faces[mine][item.local]))
                library.rtcCommitScene(own)
                scenes[item.original] = own, length
                tables.append(item.local.astype(np.int32))
                length += len(item.local)
            own, table = scenes[item.original]
            copy = library.rtcNewGeometry(device, _INSTANCE)
            library.rtcSetGeometryInstancedScene(copy, own)
            rows = np.ascontiguousarray(surfaces.copies.place[item.number], np.float32)
            library.rtcSetGeometryTransform(copy, 0, _FLOAT3X4, rows.ctypes.data)
            library.rtcCommitGeometry(copy)
            library.rtcAttachGeometry(handle, copy)
            library.rtcReleaseGeometry(copy)
            self._begins[number], self._table[number] = surfaces.first[item.number], table
        for own, _ in scenes.values():
            # Its copies hold it.
            library.rtcReleaseScene(own)
        return np.concatenate(tables)

    def nearest(self, start: Floats32, along: Floats32) -> tuple[Ints32, Floats32]:
        """Numbers of the faces that (n, 3) rays meet first, or -1, and how far along each."""
        count = len(start)
        figures = _figures(start, along)
        handle, step = handle_of(self._scene).value, ROWS * ABREAST * 4
        intersect, valid = self._library.rtcIntersect16, _aligned(ABREAST).view(np.int32)
        valid[:] = -1
        begin = figures.ctypes.data
        for number in range(len(figures)):
            intersect(valid.ctypes.data, handle, begin + number * step, None)
        whole = figures.view(np.uint32)
        triangle, surface, copy = (whole[:, row].reshape(-1)[:count] for row in (_TRIANGLE, _SURFACE, _COPY))
        face = np.full(count, -1, np.int32)
        met = np.flatnonzero(surface != NOTHING)
        alone = copy[met] == NOTHING
        once, copied = met[alone], met[~alone]
        face[once] = self._once[triangle[once]]
        which = copy[copied].astype(np.int64) - self._first_copy
        face[copied] = self._begins[which] + self._local[self._table[which] + triangle[copied]]
        far = np.where(face >= 0, figures[:, _FARTHEST].reshape(-1)[:count], np.float32(np.inf))
        return face, far.astype(np.float32)

    def covered(self, start: Floats32, along: Floats32, reach_m: Floats32 | None = None) -> Bools:
        """(n,) bool: whether anything lies along each ray, or within ``reach_m`` (n,) of its beginning."""
        reach = () if reach_m is None else (reach_m,)
        met: Bools = np.asarray(self._scene.run(start, along, *reach, query="OCCLUDED")) == 0
        return met


@dataclass(frozen=True, slots=True)
class _Placed:
    """A copy: its object, that whose surfaces it has, and which of their triangles count."""

    number: int
    original: int
    local: Ints


def _sorted_out(surfaces: CopiedSurfaces, chosen: Bools | None) -> tuple[list[_Placed], Ints]:
    """The copies, originals among them, and the triangles of all else."""
    copied = np.zeros(len(surfaces.first), bool)
    copied[surfaces.copies.of[~surfaces.copies.own]] = True
    copied |= ~surfaces.copies.own
    placed: list[_Placed] = []
    rest: list[Ints] = [np.zeros(0, np.int64)]
    locals_: dict[int, Ints] = {}
    for number in range(len(copied)):
        mine, original = surfaces.triangles(number), int(surfaces.copies.of[number])
        counts = None if chosen is None else chosen[mine]
        if copied[number]:
            own = None if chosen is None else chosen[surfaces.triangles(original)]
            if counts is None or own is None or np.array_equal(counts, own):
                if original not in locals_:
                    whole = np.arange(surfaces.count[original])
                    locals_[original] = whole if own is None else whole[own]
                if len(locals_[original]):
                    placed.append(_Placed(number, original, locals_[original]))
                continue
        some = np.arange(mine.start, mine.stop)
        rest.append(some if counts is None else some[counts])
    return placed, np.concatenate(rest)


def _aligned(size: int) -> Floats32:
    room = np.zeros(size + ALIGNED // 4, np.float32)
    skip = (-room.ctypes.data % ALIGNED) // 4
    return room[skip : skip + size]


def _figures(start: Floats32, along: Floats32) -> Floats32:
    """(k, ROWS, ABREAST) float32: rays (n, 3) as the library takes them; those of the last call that are too
    many go nowhere."""
    calls = -(-len(start) // ABREAST)
    figures = _aligned(calls * ROWS * ABREAST).reshape(calls, ROWS, ABREAST)
    for rows, values in ((0, start), (_ALONG, along)):
        padded = np.zeros((calls * ABREAST, 3), np.float32)
        padded[: len(values)] = values
        figures[:, rows : rows + 3] = padded.reshape(calls, ABREAST, 3).transpose(0, 2, 1)
    figures[:, _FARTHEST] = np.inf
    figures[-1:, _FARTHEST, len(start) - (calls - 1) * ABREAST :] = -1.0
    whole = figures.view(np.uint32)
    whole[:, [_MASK, _TRIANGLE, _SURFACE, _COPY]] = NOTHING
    return figures


@cache
def _library() -> ctypes.CDLL | None:
    library = embree()
    if library is None:
        return None
    try:
        for name, result, takes in _CALLS:
            call = getattr(library, name)
            call.restype, call.argtypes = result, takes
    except AttributeError:
        return None
    return library


@cache
def can_ask() -> bool:
    """Whether the library finds of two copies the one that is met, and what there is once beside them."""
    if _library() is None:
        return False
    corners = np.array([(0, 0, 1), (1, 0, 1), (0, 1, 1), (0, 0, 5), (9, 0, 5), (0, 9, 5)], np.float32)
    place = np.tile(np.eye(3, 4, dtype=np.float32), (3, 1, 1))
    place[2, :, 3] = 4.0, 0.0, 1.0
    copies = Copies(np.array([0, 1, 0], np.int32), place)
    moved = corners[:3] + np.float32(place[2, :, 3])
    surfaces = CopiedSurfaces(np.arange(3), np.ones(3, np.int64), copies)
    faces = np.arange(9, dtype=np.int32).reshape(3, 3)
    tree = CopiedTree(np.concatenate([corners, moved]), faces, surfaces)
    start = np.array([(0.2, 0.2, 0), (4.2, 0.2, 0), (2.5, 0.2, 0), (-1, 0, 0)], np.float32)
    face, far = tree.nearest(start, np.tile(np.array([0, 0, 1], np.float32), (4, 1)))
    return face.tolist() == [0, 2, 1, -1] and bool(np.allclose(far[:3], (1, 2, 5), atol=1e-4))
