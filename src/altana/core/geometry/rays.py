"""Casting rays into the model: the floor under an eye, the walls beside it, what is in sight."""

from __future__ import annotations

import hashlib
import os
import weakref
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from typing import Any

import numpy as np

from altana.core.conventions import Bools, Floats, Floats32, Ints32, Numbers, Vec3
from altana.core.distinct import in_use
from altana.core.extent import extent
from altana.core.geometry.blocks import Blocks
from altana.core.geometry.copied_trees import CopiedSurfaces
from altana.core.geometry.copies import known_copies
from altana.core.geometry.cross import area_normals
from altana.core.geometry.runs import Runs, runs_of
from altana.core.model import Model

#: Rays start this far along their direction, so that they do not hit what they start from.
SKIN_M = 1e-4


@dataclass(frozen=True, slots=True)
class Hits:
    """Per ray: triangle index or -1, and distance in metres (infinite where nothing was hit)."""

    face: Ints32
    distance_m: Floats


def _shared(query: Callable[..., Any], alone: bool, *rays: Floats | Floats32) -> list[Any]:
    """The query over equal shares of the rays; the ray caster lets other threads run meanwhile.  alone : who
    asks has threads already."""
    single = [np.ascontiguousarray(part, np.float32) for part in rays]
    workers = min(8, os.cpu_count() or 1)
    if alone or len(single[0]) < 4096 or workers == 1:
        return [query(*single)]
    with ThreadPoolExecutor(workers) as pool:
        return list(pool.map(query, *(np.array_split(part, workers) for part in single)))


#: Scenes of models by their arrays and what of them counts.
_in_use: weakref.WeakValueDictionary[tuple[int, int, bytes], RayScene] = weakref.WeakValueDictionary()


class RayScene:
    """A model prepared for ray casting.

    vertices : (n, 3) float32 metres, faces : (m, 3) int32; neither may change.  Trees take about 0.3 seconds
    per million triangles, so of a large model they are built a block at a time when a ray first comes near,
    until most are asked for and all become one.  Other threads run meanwhile.  Queries may be repeated
    freely.
    """

    def __init__(
        self,
        vertices: Floats32,
        faces: Ints32,
        runs: Runs | None = None,
        chosen: Bools | None = None,
        copied: CopiedSurfaces | None = None,
    ) -> None:
        """runs : the runs of the model that the triangles are, where they are known.  chosen : (faces,) the
        triangles that count.  copied : surfaces that stand there many times, where they are most of it."""
        self._vertices = np.ascontiguousarray(vertices, np.float32)
        self._faces = np.ascontiguousarray(faces, np.int32)
        self._chosen = chosen
        self._of: Model | None = None
        #: Worked out when it is first asked for: models may have millions of triangles.
        self._extent: Floats | None = None
        self._blocks = Blocks(self._vertices, self._faces, runs, chosen, copied)

    @classmethod
    def of(cls, model: Model, chosen: Bools | None = None) -> RayScene:
        """All of a model, or the chosen (faces,) triangles of it; the same one again while somebody has it,
        for its trees take time."""
        key = (
            id(model.vertices),
            id(model.faces),
            b"" if chosen is None else hashlib.blake2b(chosen.tobytes()).digest(),
        )
        scene = _in_use.get(key)
        if scene is None:
            # It keeps the model's arrays, so that no other arrays can take their numbers while it is there.
            copied = CopiedSurfaces.of(model, known_copies(model))
            scene = cls(model.vertices, model.faces, runs_of(model), chosen, copied)
            scene._of = model
            _in_use[key] = scene
        return scene

    @property
    def extent(self) -> Floats:
        """(2, 3) the lowest and highest corner of all triangles that count, metres; zeros where there are
        none."""
        if self._extent is None:
            faces = self._faces if self._chosen is None else self._faces[self._chosen]
            used = self._vertices[in_use(faces, len(self._vertices))] if len(faces) else np.zeros((1, 3))
            self._extent = extent(used).astype(float)
        return self._extent

    def _nearest(self, start: Floats32, along: Floats32) -> tuple[Ints32, Floats32]:
        """Triangle numbers (or -1) and single-precision distances of the nearest hits over all blocks."""
        alone = self._blocks.alone
        if alone is not None:
            # Nothing to choose between: rays need not be copied.
            number, far = self._blocks.tree(alone).nearest(start, along)
            met = number >= 0
            return np.where(met, alone.named(number), np.int32(-1)), np.where(met, far, np.float32(np.inf))
        face = np.full(len(start), -1, np.int32)
        nearest = np.full(len(start), np.inf, np.float32)
        for block, rays, enters in self._blocks.met(start, along):
            left = rays[enters < nearest[rays]]
            if not len(left):
                continue
            number, far = self._blocks.tree(block).nearest(
                np.ascontiguousarray(start[left]), np.ascontiguousarray(along[left])
            )
            hit = (number >= 0) & (far < nearest[left])
            where = left[hit]
            face[where] = block.named(number[hit])
            nearest[where] = far[hit]
        return face, nearest

    def _met(self, start: Floats32, along: Floats32) -> Ints32:
        return self._nearest(start, along)[0]

    def warm(self) -> None:
        """Work out now what questions need: the trees, all in one unless there is too much of it, and the
        extent.  Raises MemoryError."""
        self._blocks.warm()
        self._extent = self.extent

    def cast(self, origins: Floats, directions: Floats) -> Hits:
        """The nearest hit of each ray.

        origins, directions : (n, 3), metres and unit vectors.  Distances are refined in double precision
        against the plane of the triangle that was hit.
        """
        start = np.atleast_2d(np.asarray(origins, float))
        along = np.atleast_2d(np.asarray(directions, float))
        count = len(start)
        if count == 0 or not self._blocks:
            return Hits(np.full(count, -1, np.int32), np.full(count, np.inf))
        face = self._met((start + along * SKIN_M).astype(np.float32), along.astype(np.float32))
        distance = np.full(count, np.inf)
        hit = face >= 0
        corner = self._vertices[self._faces[face[hit]]].astype(float)
        normal = area_normals(corner)
        below = np.einsum("ij,ij->i", normal, along[hit])
        below = np.where(np.abs(below) < 1e-30, 1e-30, below)
        distance[hit] = np.einsum("ij,ij->i", normal, corner[:, 0] - start[hit]) / below
        return Hits(face, distance)

    def meet(self, origins: Floats | Floats32, directions: Floats | Floats32, alone: bool = False) -> Hits:
        """As :meth:`cast`, in single precision and over all processors: for light, where millions are cast.
        alone : by this thread only."""
        if not self._blocks:
            return Hits(np.full(len(origins), -1, np.int32), np.full(len(origins), np.inf))
        parts = _shared(self._nearest, alone, origins, directions)
        face = np.concatenate([part[0] for part in parts])
        distance = np.concatenate([part[1] for part in parts]).astype(float)
        return Hits(face, np.where(face >= 0, distance, np.inf))

    def shaded(
        self,
        origins: Floats | Floats32,
        directions: Floats | Floats32,
        reach_m: Floats | Floats32 | None = None,
        alone: bool = False,
    ) -> Bools:
        """(n,) bool: whether anything at all lies along each ray, or within ``reach_m`` (n,) of its
        beginning; quicker than finding what."""
        shaded = np.zeros(len(origins), bool)
        start, along = np.asarray(origins, np.float32), np.asarray(directions, np.float32)
        reach = [] if reach_m is None else [np.asarray(reach_m, np.float32)]
        single = self._blocks.alone
        if single is not None and len(start):
            return np.concatenate(_shared(self._blocks.tree(single).covered, alone, start, along, *reach))
        for block, rays, _ in self._blocks.met(start, along):
            left = rays[~shaded[rays]]
            if len(left):
                tree = self._blocks.tree(block)
                parts = _shared(
                    tree.covered, alone, start[left], along[left], *(part[left] for part in reach)
                )
                shaded[left] = np.concatenate(parts)
        return shaded

    def blocked(self, origins: Floats, directions: Floats, reach_m: float | Floats) -> Bools:
        """(n,) bool: whether anything lies within ``reach_m`` along each ray."""
        blocked: Bools = self.cast(origins, directions).distance_m < reach_m
        return blocked

    def face_normal(self, face: int) -> Vec3:
        """Unit normal of a triangle by its winding."""
        x, y, z = self.normals_of(np.array([face]))[0].tolist()
        return x, y, z

    def normals_of(self, faces: Numbers) -> Floats:
        """(n, 3) float64: unit normals of triangles by their winding."""
        normal = area_normals(self.corners_of(faces))
        unit: Floats = normal / np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-30)
        return unit

    def corners_of(self, faces: Numbers) -> Floats:
        """(n, 3, 3) float64: the corners of triangles, metres."""
        corners: Floats = self._vertices[self._faces[faces]].astype(float)
        return corners

    def floors_below(self, points: Floats, reach_m: float = 500.0) -> Floats:
        """(n,) float64: height of the surface under each point, NaN where there is none in reach."""
        start = np.atleast_2d(np.asarray(points, float))
        hits = self.cast(start, np.tile((0.0, 0.0, -1.0), (len(start), 1)))
        height: Floats = np.where(hits.distance_m <= reach_m, start[:, 2] - hits.distance_m, np.nan)
        return height

    def roofed(self, point: Vec3) -> bool:
        """Whether an eye here is indoors: something is overhead and around it in most directions."""
        heading = np.radians(np.arange(0.0, 360.0, 30.0))
        steep = np.array([np.cos(heading), np.sin(heading), np.full(12, 0.9)]).T
        directions = np.vstack([[0.0, 0.0, 1.0], steep / np.linalg.norm(steep, axis=1, keepdims=True)])
        hits = self.cast(np.tile(point, (len(directions), 1)), directions)
        return bool(np.isfinite(hits.distance_m[0]) and np.isfinite(hits.distance_m[1:]).mean() >= 0.5)
