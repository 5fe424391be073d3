"""Casting rays into the model: the floor under an eye, the walls beside it, what is in sight."""

from __future__ import annotations

import os
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from typing import Any

import numpy as np
from embreex.mesh_construction import TriangleMesh
from embreex.rtcore_scene import EmbreeScene

from altana.core.conventions import Bools, Floats, Floats32, Ints, Ints32, Vec3

#: How many pieces share one tree; a tree of 190 000 triangles takes some 70 ms, and each tree makes every ray dearer.
GROUP = 24
#: Rays start this far along their direction, so that they do not hit what they start from.
SKIN_M = 1e-4


@dataclass(frozen=True, slots=True)
class Hits:
    """Per ray: triangle index or -1, and distance in metres (infinite where nothing was hit)."""

    face: Ints32
    distance_m: Floats


def _shared(query: Callable[[Floats32, Floats32], Any], origins: Floats, directions: Floats) -> list[Any]:
    """The query over equal shares of the rays; the ray caster lets other threads run meanwhile."""
    o, d = np.ascontiguousarray(origins, np.float32), np.ascontiguousarray(directions, np.float32)
    workers = min(8, os.cpu_count() or 1)
    if len(o) < 4096 or workers == 1:
        return [query(o, d)]
    with ThreadPoolExecutor(workers) as pool:
        return list(pool.map(query, np.array_split(o, workers), np.array_split(d, workers)))


class RayScene:
    """A model prepared for ray casting.

    vertices : (n, 3) float32 metres, faces : (m, 3) int32.  Building takes about two seconds per million triangles
    and holds Python's lock; with ``piece`` it is done in pieces of so many triangles, between which other threads
    may run, and the tree is parted into one for each GROUP pieces.  Queries are read-only and may be repeated freely.
    """

    def __init__(self, vertices: Floats32, faces: Ints32, piece: int = 0) -> None:
        self._vertices = np.ascontiguousarray(vertices, np.float32)
        self._faces = np.ascontiguousarray(faces, np.int32)
        self._meshes: list[TriangleMesh] = []
        count = len(self._faces)
        starts = list(range(0, count, piece)) if piece else [0] * min(count, 1)
        self._parts = [self._part(starts[at : at + GROUP], piece or count) for at in range(0, max(len(starts), 1), GROUP)]

    def _part(self, starts: list[int], piece: int) -> tuple[EmbreeScene, Ints]:
        """A ray caster for some pieces, and where each of them begins among the faces."""
        scene = EmbreeScene()
        for start in starts:
            self._meshes.append(TriangleMesh(scene, self._vertices[self._faces[start : start + piece]]))
            time.sleep(0)
        if starts and len(starts) * piece < len(self._faces):
            # Its tree is built at the first ray; better now, while others may have their turn in between.
            scene.run(np.zeros((1, 3), np.float32), np.ones((1, 3), np.float32))
            time.sleep(0)
        return scene, np.array(starts, np.int64)

    def _nearest(self, start: Floats32, along: Floats32) -> tuple[Ints32, Floats32]:
        """Triangle numbers (or -1) and single-precision distances of the nearest hits over all parts."""
        face = np.full(len(start), -1, np.int32)
        nearest = np.full(len(start), np.inf, np.float32)
        for scene, starts in self._parts:
            found = scene.run(start, along, output=1)
            hit = (found["primID"] >= 0) & (found["tfar"] < nearest)
            where = np.flatnonzero(hit)
            face[where] = found["primID"][where] + starts[found["geomID"][where]]
            nearest[where] = found["tfar"][where]
        return face, nearest

    def _met(self, start: Floats32, along: Floats32) -> Ints32:
        if not len(self._faces):
            return np.full(len(start), -1, np.int32)
        scene, starts = self._parts[0]
        if len(self._parts) == 1 and len(starts) == 1:
            return np.asarray(scene.run(start, along), np.int32)
        return self._nearest(start, along)[0]

    def cast(self, origins: Floats, directions: Floats) -> Hits:
        """The nearest hit of each ray.

        origins, directions : (n, 3), metres and unit vectors.  Distances are refined in double precision
        against the plane of the triangle that was hit.
        """
        start = np.atleast_2d(np.asarray(origins, float))
        along = np.atleast_2d(np.asarray(directions, float))
        count = len(start)
        if count == 0 or not len(self._faces):
            return Hits(np.full(count, -1, np.int32), np.full(count, np.inf))
        face = self._met((start + along * SKIN_M).astype(np.float32), along.astype(np.float32))
        distance = np.full(count, np.inf)
        hit = face >= 0
        corner = self._vertices[self._faces[face[hit]]].astype(float)
        normal = np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0])
        below = np.einsum("ij,ij->i", normal, along[hit])
        below = np.where(np.abs(below) < 1e-30, 1e-30, below)
        distance[hit] = np.einsum("ij,ij->i", normal, corner[:, 0] - start[hit]) / below
        return Hits(face, distance)

    def meet(self, origins: Floats, directions: Floats) -> Hits:
        """As :meth:`cast`, in single precision and over all processors: for light, where millions are cast."""
        if not len(self._faces):
            return Hits(np.full(len(origins), -1, np.int32), np.full(len(origins), np.inf))
        parts = _shared(self._nearest, origins, directions)
        face = np.concatenate([part[0] for part in parts])
        distance = np.concatenate([part[1] for part in parts]).astype(float)
        return Hits(face, np.where(face >= 0, distance, np.inf))

    def shaded(self, origins: Floats, directions: Floats) -> Bools:
        """(n,) bool: whether anything at all lies along each ray; quicker than finding what."""
        shaded = np.zeros(len(origins), bool)
        for scene, _ in self._parts if len(self._faces) else ():
            parts = _shared(lambda o, d, scene=scene: scene.run(o, d, query="OCCLUDED"), origins, directions)  # type: ignore[misc]
            shaded |= np.concatenate(parts) == 0
        return shaded

    def blocked(self, origins: Floats, directions: Floats, reach_m: float | Floats) -> Bools:
        """(n,) bool: whether anything lies within ``reach_m`` along each ray."""
        blocked: Bools = self.cast(origins, directions).distance_m < reach_m
        return blocked

    def face_normal(self, face: int) -> Vec3:
        """Unit normal of a triangle by its winding."""
        x, y, z = self.normals_of(np.array([face], np.int32))[0].tolist()
        return x, y, z

    def normals_of(self, faces: Ints32) -> Floats:
        """(n, 3) float64: unit normals of triangles by their winding."""
        corner = self._vertices[self._faces[faces]].astype(float)
        normal = np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0])
        unit: Floats = normal / np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-30)
        return unit

    def corners(self, face: int) -> Floats:
        """(3, 3) float64: the corners of a triangle, metres."""
        corners: Floats = self._vertices[self._faces[face]].astype(float)
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
