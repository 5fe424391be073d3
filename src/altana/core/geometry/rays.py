"""Casting rays into the model: the floor under an eye, the walls beside it, what is in sight."""

from __future__ import annotations

import hashlib
import os
import threading
import time
import weakref
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import partial
from typing import Any

import numpy as np
from embreex.mesh_construction import TriangleMesh
from embreex.rtcore_scene import EmbreeScene

from altana.core.conventions import Bools, Floats, Floats32, Ints, Ints32, Numbers, Vec3
from altana.core.distinct import in_use
from altana.core.geometry.cross import area_normals
from altana.core.geometry.runs import Runs, runs_of
from altana.core.model import Model

#: So many triangles share one tree; each further tree makes every ray that meets its box dearer.
BLOCK = 200_000
#: So many trees are kept, a gigabyte at most; of a larger model those that were asked longest ago are given up.
MOST_TREES = 24
#: Up to so many triangles all trees of a model are built before they are asked.
WARMED = 2_000_000
#: Boxes are so much larger than what they hold, metres.
BOX_SKIN_M = 1e-3
#: Rays start this far along their direction, so that they do not hit what they start from.
SKIN_M = 1e-4


@dataclass(frozen=True, slots=True)
class Hits:
    """Per ray: triangle index or -1, and distance in metres (infinite where nothing was hit)."""

    face: Ints32
    distance_m: Floats


class _Block:
    """Triangles that share a tree, which is built when it is first asked."""

    __slots__ = ("_meshes", "_numbers", "_piece", "_tree", "high", "low")

    def __init__(self, numbers: Ints, low: Floats32, high: Floats32, piece: int) -> None:
        self._numbers, self.low, self.high, self._piece = numbers, low, high, piece
        self._tree: EmbreeScene | None = None
        self._meshes: list[TriangleMesh] = []

    def tree(self, vertices: Floats32, faces: Ints32) -> EmbreeScene:
        """The ray caster.  It is fed a piece at a time, so that other threads may have their turn in between."""
        if self._tree is None:
            tree, meshes = EmbreeScene(), []
            for at in range(0, len(self._numbers), self._piece):
                corners = faces[self._numbers[at : at + self._piece]]
                # Shared corners are taken over twice as quickly as triangles of their own.
                used, own = np.unique(corners, return_inverse=True)
                meshes.append(TriangleMesh(tree, vertices[used], own.reshape(-1, 3).astype(np.int32)))
                time.sleep(0)
            # The tree itself is built at the first ray.
            tree.run(np.zeros((1, 3), np.float32), np.ones((1, 3), np.float32))
            self._tree, self._meshes = tree, meshes
            return tree
        return self._tree

    def forget(self) -> None:
        """Give the tree up; it is built again when it is asked."""
        self._tree, self._meshes = None, []

    def own(self, hits: dict[str, Any], hit: Bools) -> Ints:
        """Triangle numbers of the rays that hit something."""
        mine: Ints = self._numbers[
            hits["primID"][hit].astype(np.int64) + hits["geomID"][hit].astype(np.int64) * self._piece
        ]
        return mine


def _blocks(
    vertices: Floats32, faces: Ints32, piece: int, runs: Runs | None, chosen: Bools | None
) -> list[_Block]:
    size = BLOCK
    if runs is None or len(faces) <= size:
        numbers = np.arange(len(faces)) if chosen is None else np.flatnonzero(chosen)
        if not len(numbers):
            return []
        if len(numbers) <= size:
            return [_Block(numbers, np.full(3, -np.inf, np.float32), np.full(3, np.inf, np.float32), piece)]
        return [
            _boxed(vertices, faces, numbers[at : at + size], piece) for at in range(0, len(numbers), size)
        ]
    blocks: list[_Block] = []
    groups = _near_together(runs.low + runs.high, runs.count, size)
    for group in groups:
        numbers = runs.triangles(group)
        if chosen is not None:
            numbers = numbers[chosen[numbers]]
        if len(numbers):
            blocks.append(_Block(numbers, runs.low[group].min(axis=0), runs.high[group].max(axis=0), piece))
    return blocks


def _boxed(vertices: Floats32, faces: Ints32, numbers: Ints, piece: int) -> _Block:
    corner = vertices[faces[numbers]].reshape(-1, 3)
    return _Block(numbers, corner.min(axis=0), corner.max(axis=0), piece)


def _near_together(middle: Floats32, weight: Ints, most: int) -> list[Ints]:
    """Groups of (n, 3) places that lie near each other, each of about ``most`` weight: halves of halves along the longest side."""
    waiting, done = [np.arange(len(middle))], []
    while waiting:
        group = waiting.pop()
        total = int(weight[group].sum())
        if total <= most or len(group) == 1:
            done.append(group)
            continue
        axis = int(np.argmax(np.ptp(middle[group], axis=0)))
        order = group[np.argsort(middle[group, axis], kind="stable")]
        at = int(np.clip(np.searchsorted(np.cumsum(weight[order]), total / 2), 1, len(order) - 1))
        waiting += [order[at:], order[:at]]
    return done


def _shared(query: Callable[..., Any], alone: bool, *rays: Floats | Floats32) -> list[Any]:
    """The query over equal shares of the rays; the ray caster lets other threads run meanwhile.  alone : who asks has threads already."""
    single = [np.ascontiguousarray(part, np.float32) for part in rays]
    workers = min(8, os.cpu_count() or 1)
    if alone or len(single[0]) < 4096 or workers == 1:
        return [query(*single)]
    with ThreadPoolExecutor(workers) as pool:
        return list(pool.map(query, *(np.array_split(part, workers) for part in single)))


#: Scenes of models by their arrays and what of them counts.
_in_use: weakref.WeakValueDictionary[tuple[int, int, int, bytes], RayScene] = weakref.WeakValueDictionary()


class RayScene:
    """A model prepared for ray casting.

    vertices : (n, 3) float32 metres, faces : (m, 3) int32.  Trees take about two seconds per million triangles and hold Python's lock, so
    each is built when a ray first comes near what it holds: triangles lie in blocks of BLOCK, and a ray asks only the blocks whose boxes it
    meets.  With ``piece`` a tree is fed so many triangles at a time, between which other threads may run.  Queries may be repeated freely.
    """

    def __init__(
        self,
        vertices: Floats32,
        faces: Ints32,
        piece: int = 0,
        runs: Runs | None = None,
        chosen: Bools | None = None,
    ) -> None:
        """runs : the runs of the model that the triangles are, where they are known.  chosen : (faces,) the triangles that count."""
        self._vertices = np.ascontiguousarray(vertices, np.float32)
        self._faces = np.ascontiguousarray(faces, np.int32)
        self._chosen = chosen
        self._of: Model | None = None
        #: Worked out when it is first asked for: models may have millions of triangles.
        self._extent: Floats | None = None
        #: Blocks in the order in which they were last asked.
        self._asked: dict[int, None] = {}
        self._building = threading.Lock()
        self._blocks = _blocks(self._vertices, self._faces, piece or BLOCK, runs, chosen)
        self._low = np.array([block.low for block in self._blocks], np.float32).reshape(-1, 3) - BOX_SKIN_M
        self._high = np.array([block.high for block in self._blocks], np.float32).reshape(-1, 3) + BOX_SKIN_M

    @classmethod
    def of(cls, model: Model, piece: int = 0, chosen: Bools | None = None) -> RayScene:
        """All of a model, or the chosen (faces,) triangles of it; the same one again while somebody has it, for its trees take time."""
        key = (
            id(model.vertices),
            id(model.faces),
            piece,
            b"" if chosen is None else hashlib.blake2b(chosen.tobytes()).digest(),
        )
        scene = _in_use.get(key)
        if scene is None:
            # It keeps the model's arrays, so that no other arrays can take their numbers while it is there.
            scene = cls(model.vertices, model.faces, piece, runs_of(model), chosen)
            scene._of = model
            _in_use[key] = scene
        return scene

    @property
    def extent(self) -> Floats:
        """(2, 3) the lowest and highest corner of all triangles that count, metres; zeros where there are none."""
        if self._extent is None:
            faces = self._faces if self._chosen is None else self._faces[self._chosen]
            used = self._vertices[in_use(faces, len(self._vertices))] if len(faces) else np.zeros((1, 3))
            self._extent = np.stack([used.min(axis=0), used.max(axis=0)]).astype(float)
        return self._extent

    def _nearest(self, start: Floats32, along: Floats32) -> tuple[Ints32, Floats32]:
        """Triangle numbers (or -1) and single-precision distances of the nearest hits over all blocks."""
        face = np.full(len(start), -1, np.int32)
        nearest = np.full(len(start), np.inf, np.float32)
        for number, rays, enters in self._met_blocks(start, along):
            left = rays[enters < nearest[rays]]
            if not len(left):
                continue
            block, scene = self._blocks[number], self._tree(number)
            hits = scene.run(np.ascontiguousarray(start[left]), np.ascontiguousarray(along[left]), output=1)
            hit = (hits["primID"] >= 0) & (hits["tfar"] < nearest[left])
            where = left[hit]
            face[where] = block.own(hits, hit)
            nearest[where] = hits["tfar"][hit]
        return face, nearest

    def _tree(self, number: int) -> EmbreeScene:
        """The tree of a block, built where it is not there; whoever holds an older one may go on with it."""
        # Two threads that want the same tree would each build it.
        with self._building:
            tree = self._blocks[number].tree(self._vertices, self._faces)
            self._asked.pop(number, None)
            self._asked[number] = None
            if len(self._asked) > MOST_TREES:
                oldest = next(iter(self._asked))
                self._asked.pop(oldest, None)
                self._blocks[oldest].forget()
        return tree

    def _met_blocks(self, start: Floats32, along: Floats32) -> Iterator[tuple[int, Ints, Floats32]]:
        """Blocks that some rays meet, nearest first: number, the rays, and where each enters the block's box."""
        if len(self._blocks) == 1:
            yield 0, np.arange(len(start)), np.zeros(len(start), np.float32)
            return
        entered = np.full((len(self._blocks), len(start)), np.inf, np.float32)
        with np.errstate(divide="ignore", invalid="ignore"):
            share = 1.0 / along
            for number in range(len(self._blocks)):
                one, other = (self._low[number] - start) * share, (self._high[number] - start) * share
                enters = np.nanmax(np.minimum(one, other), axis=1)
                leaves = np.nanmin(np.maximum(one, other), axis=1)
                entered[number] = np.where(
                    (leaves >= enters) & (leaves >= 0.0), np.maximum(enters, 0.0), np.inf
                )
        met = np.isfinite(entered)
        order = np.argsort(
            np.where(met.any(axis=1), np.where(met, entered, np.inf).min(axis=1, initial=np.inf), np.inf)
        )
        for number in order.tolist():
            rays = np.flatnonzero(met[number])
            if not len(rays):
                return
            yield number, rays, entered[number, rays]

    def _met(self, start: Floats32, along: Floats32) -> Ints32:
        return self._nearest(start, along)[0]

    def warm(self) -> None:
        """Build the trees now, if the model is not so large that most of them may never be asked."""
        if len(self._faces) <= WARMED:
            for block in self._blocks:
                block.tree(self._vertices, self._faces)

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
        """As :meth:`cast`, in single precision and over all processors: for light, where millions are cast.  alone : by this thread only."""
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
        """(n,) bool: whether anything at all lies along each ray, or within ``reach_m`` (n,) of its beginning; quicker than finding what."""
        shaded = np.zeros(len(origins), bool)
        start, along = np.asarray(origins, np.float32), np.asarray(directions, np.float32)
        reach = [] if reach_m is None else [np.asarray(reach_m, np.float32)]
        for number, rays, _ in self._met_blocks(start, along) if self._blocks else ():
            left = rays[~shaded[rays]]
            if len(left):
                scene = self._tree(number)
                asked = partial(scene.run, query="OCCLUDED")
                parts = _shared(asked, alone, start[left], along[left], *(part[left] for part in reach))
                shaded[left] = np.concatenate(parts) == 0
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
