"""Where the light of lamps is reckoned on small and curved parts: in more places than their soft light, for
it comes from one side and ends in sharp shadows.  A chair's back takes none of the shade under its seat, and
a post is bright only near its lamp.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy

from altana.core.conventions import Bools, Floats
from altana.core.geometry.rays import RayScene
from altana.core.light.corners import folded
from altana.core.light.light_scene import Surfaces
from altana.core.light.lightmap import LightPoints
from altana.core.light.seen import START_M
from altana.core.light.shape import fan, frames
from altana.core.model import Model

#: Places of one thing that face one way and lie this near to each other are one.
CELL_M = 0.15
#: Triangles longer than this show at each corner what falls on so many places from there towards their
#: middle, the first the most.
LONG_M, ALONG, COUNTS = 0.5, np.array([0.0, 0.35, 0.7]), np.array([0.45, 0.33, 0.22])
#: Between its corners a triangle goes over evenly, and shows no peak: a lamp is taken for no nearer than this
#: share of its length.
NEAREST = 0.3
#: Rays that say whether a place lies inside a body.
PROBE = 6


@dataclass(frozen=True, slots=True)
class CloserPlaces:
    """``position`` and ``normal`` (q, 3) of the places' front sides; ``nearest_m`` (q,) how near a lamp may
    be taken for; ``mix`` (p, q) how much of each place the patches of the light map show."""

    position: Floats
    normal: Floats
    nearest_m: Floats
    mix: scipy.sparse.csr_array

    @classmethod
    def of(cls, points: LightPoints, model: Model) -> CloserPlaces:
        """The places for the small parts of a model with these points."""
        parts = points.corners
        corners = model.vertices[model.faces[parts.lone]].astype(float)
        at, facing, owner = parts.at[:, :3], parts.at[:, 3:6], parts.at[:, 6]
        length = np.linalg.norm(corners - np.roll(corners, 1, axis=1), axis=2).max(axis=1, initial=0.0)
        steps = np.where(np.repeat(length > LONG_M, 3), len(ALONG), 1)
        corner = np.repeat(np.arange(len(at)), steps)
        number = np.arange(len(corner)) - np.repeat(np.cumsum(steps) - steps, steps)
        middle = np.repeat(corners.mean(axis=1), 3, axis=0)
        place = at[corner] + (middle - at)[corner] * ALONG[number][:, None]
        counts = np.where(steps[corner] > 1, COUNTS[number], 1.0)
        unit = facing / np.maximum(np.linalg.norm(facing, axis=1, keepdims=True), 1e-9)
        cells = np.floor(place / CELL_M).astype(np.int64)
        turns = np.round(unit * 1.5).astype(np.int64)[corner]
        whose = np.round(owner).astype(np.int64)[corner]
        _, first, index = np.unique(
            folded([whose, *turns.T], folded(list(cells.T))), return_index=True, return_inverse=True
        )
        weights = scipy.sparse.csr_array((counts, (corner, index)), shape=(len(at), len(first)))
        nearest = np.zeros(len(first))
        np.maximum.at(nearest, index, length[corner // 3] * NEAREST)
        return cls(place[first], unit[corner[first]], nearest, parts.shown_by_patches(weights))

    def sides(self) -> tuple[Floats, Floats]:
        """(2 q, 3) positions and directions of both sides, front sides first."""
        return np.tile(self.position, (2, 1)), np.concatenate([self.normal, -self.normal])

    def buried(self, rays: RayScene, surfaces: Surfaces) -> Bools:
        """(2 q,) sides that lie inside a body: most of what they see is met from within."""
        position, normal = self.sides()
        out = np.einsum("rx,kxy->kry", fan(PROBE), frames(normal)).reshape(-1, 3).astype(np.float32)
        start = np.repeat(position + normal * START_M, PROBE, axis=0)
        hits = rays.meet(start, out)
        inner = surfaces.met(hits.face, out)[1]
        return np.asarray(inner.reshape(-1, PROBE).mean(axis=1) > 0.5, bool)

    def shown(self, light: Floats, buried: Bools) -> tuple[Floats, Floats]:
        """(p, 3) what patches show of light (2 q, 3) on their front and on their back: of buried places
        nothing, where there are others."""
        half = len(self.position)
        front, back = (
            self._mean(light[some], ~buried[some]) for some in (slice(half), slice(half, 2 * half))
        )
        return front, back

    def _mean(self, light: Floats, good: Bools) -> Floats:
        share = self.mix @ good.astype(float)
        shown: Floats = self.mix @ (light * good[:, None])
        some = np.abs(share) > 0.05
        shown[some] /= share[some, None]
        shown[~some] = 0.0
        return shown
