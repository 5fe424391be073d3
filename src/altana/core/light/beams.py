"""The sun in polished floors: what wide smooth planes mirror of it on to walls and ceilings.

Rays from a wall hardly ever meet the spot of a floor where the sun is mirrored, and were those that do taken
for all, the wall would be full of spots.  But where the sun is seen in a plane is known beforehand: rays go
that way alone, as much aside of it as the finish scatters.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from altana.core.conventions import Bools, Floats, Ints
from altana.core.light.gathering import Gatherer
from altana.core.light.gloss import Gloss, drawn_way
from altana.core.light.seen import START_M, in_parts, sun_at

#: Rays of a side for a plane that mirrors no wider than this (the square of its roughness).
WIDTHS = ((0.012, 1), (0.09, 4), (1.0, 8))
#: Where the sun comes flatter than this no beam is followed.
FLAT = 0.02


@dataclass(frozen=True, slots=True)
class Beams:
    """What smooth planes mirror of the sun, by the rays of a gatherer."""

    gatherer: Gatherer
    gloss: Gloss

    def light(self, sun: Floats, sun_lux: Floats, sides: Bools) -> Floats:
        """(n, 3) lux that the sun, towards (3,) unit vector, brings to some of the sides (n,) by way of
        smooth planes.  sun_lux : (3,) square to it."""
        total = np.zeros((len(sides), 3))
        which = np.flatnonzero(sides)
        for number, normal in enumerate(self.gloss.normals.astype(float)):
            cosine = float(normal @ sun)
            if abs(cosine) > FLAT and len(which):
                facing = normal * np.sign(cosine)
                self._add(total, which, number, facing, sun)
        return total * np.asarray(sun_lux)

    def _add(self, total: Floats, which: Ints, plane: int, up: Floats, sun: Floats) -> None:
        def some(part: slice) -> None:
            self._of(total, which[part], plane, up, sun)

        in_parts(len(which), some)

    def _of(self, total: Floats, sides: Ints, plane: int, up: Floats, sun: Floats) -> None:
        """Add what one plane mirrors to some sides (k,), for a sun of one lux."""
        gatherer, wide = self.gatherer, float(self.gloss.widths[plane])
        count = next(rays for width, rays in WIDTHS if wide <= width)
        normal = gatherer.sides.normal[sides]
        origin = (gatherer.sides.position[sides] + normal * START_M).astype(np.float32)
        one, two = (np.random.default_rng((plane, seed)).random(count) for seed in (1, 2))
        # The same few ways for all, so that neighbours differ only by what they see.
        away, share = drawn_way(
            np.tile(sun, (count, 1)), np.tile(up, (count, 1)), np.full(count, wide), one, two
        )
        share *= float(up @ sun) / np.maximum(away @ up, 0.05)
        falls = -(normal @ away.T)
        weight = np.where(falls > 0.0, falls * share, 0.0).ravel() / count
        at = np.flatnonzero(weight > 0.0)
        start, towards = origin[at // count], (-away).astype(np.float32)[at % count]
        hits = gatherer.rays.meet(start, towards, alone=True)
        on = np.flatnonzero((hits.face >= 0) & (self.gloss.plane[np.maximum(hits.face, 0)] == plane))
        at, start, towards = at[on], start[on], towards[on]
        run = hits.distance_m[on].astype(np.float32)
        place = start + towards * run[:, None]
        facing = np.broadcast_to(up.astype(np.float32), place.shape)
        left = sun_at(gatherer.rays, gatherer.panes, place, facing, sun.astype(np.float32))
        lit = np.flatnonzero(left.any(axis=1))
        if gatherer.panes is not None and len(lit):
            left[lit] *= gatherer.panes.through(start[lit], towards[lit], run[lit])
        for k in range(3):
            brought = weight[at] * left[:, min(k, left.shape[1] - 1)]
            total[sides, k] += np.bincount(at // count, weights=brought, minlength=len(sides))


def beams(gatherer: Gatherer, sun: Floats, sun_lux: Floats, sides: Bools) -> Floats:
    """(n, 3) lux that the sun brings to some sides (n,) by way of smooth planes."""
    gloss = gatherer.surfaces.gloss
    if gloss is None or sun[2] <= 0.0 or not np.any(sun_lux):
        return np.zeros((len(sides), 3))
    return Beams(gatherer, gloss).light(np.asarray(sun, float), sun_lux, sides)
