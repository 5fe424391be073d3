"""The sun in polished floors: what wide smooth planes mirror of it on to walls and ceilings.

Rays from a wall hardly ever meet the spot of a floor where the sun is mirrored, and were those that do taken
for all, the wall would be full of spots.  But where the sun is seen in a plane is known beforehand: rays go
that way alone, as much aside of it as the finish scatters.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from altana.core.conventions import Bools, Floats, Ints
from altana.core.light.gathering import Sides
from altana.core.light.gloss import Gloss, drawn_way
from altana.core.light.light_scene import LightScene
from altana.core.light.seen import START_M, in_parts, sun_at

#: Rays of a side for a plane that mirrors no wider than this (the square of its roughness).
WIDTHS = ((0.012, 1), (0.09, 4), (1.0, 8))
#: Where the sun comes flatter than this no beam is followed.
FLAT = 0.02


@dataclass(frozen=True, slots=True)
class Beams:
    """What smooth planes of a scene mirror of the sun on to sides.  turns : (n, 2) 0 to 1, where every side
    has ways of its own; none: the same few for all, so that neighbours differ only by what they see."""

    sides: Sides
    scene: LightScene
    gloss: Gloss
    turns: Floats | None = None

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
        scene, wide = self.scene, float(self.gloss.widths[plane])
        # Where there are rounds each has one way only.
        count = next(rays for width, rays in WIDTHS if wide <= width) if self.turns is None else 1
        normal = self.sides.normal[sides]
        origin = (self.sides.position[sides] + normal * START_M).astype(np.float32)
        away, share = self._ways(sides, plane, up, sun, count)
        share = share * float(up @ sun) / np.maximum(away @ up, 0.05)
        falls = -np.einsum("ij,ikj->ik", normal, away)
        weight = np.where(falls > 0.0, falls * share, 0.0).ravel() / count
        at = np.flatnonzero(weight > 0.0)
        start, towards = origin[at // count], -away[at // count, at % count].astype(np.float32)
        hits = scene.rays.meet(start, towards, alone=True)
        on = np.flatnonzero((hits.face >= 0) & (self.gloss.plane[np.maximum(hits.face, 0)] == plane))
        at, start, towards = at[on], start[on], towards[on]
        run = hits.distance_m[on].astype(np.float32)
        place = start + towards * run[:, None]
        facing = np.broadcast_to(up.astype(np.float32), place.shape)
        left = sun_at(scene.rays, scene.panes, place, facing, sun.astype(np.float32))
        lit = np.flatnonzero(left.any(axis=1))
        if scene.panes is not None and len(lit):
            left[lit] *= scene.panes.through(start[lit], towards[lit], run[lit])
        for k in range(3):
            brought = weight[at] * left[:, min(k, left.shape[1] - 1)]
            total[sides, k] += np.bincount(at // count, weights=brought, minlength=len(sides))

    def _ways(self, sides: Ints, plane: int, up: Floats, sun: Floats, count: int) -> tuple[Floats, Floats]:
        """(k, count, 3) ways that light goes from a plane to sides (k,), and the share (k, count) that
        does."""
        one, two = (np.random.default_rng((plane, seed)).random((1, count)) for seed in (1, 2))
        if self.turns is not None:
            one, two = (np.modf(part + self.turns[sides, k, None])[0] for k, part in enumerate((one, two)))
        wide = np.full(1, float(self.gloss.widths[plane]))
        away, share = drawn_way(sun[None], up[None], wide, one.ravel(), two.ravel())
        shape = (len(sides), count)
        return np.broadcast_to(away.reshape(-1, count, 3), (*shape, 3)), np.broadcast_to(
            share.reshape(-1, count), shape
        )


def beams(
    sides: Sides, scene: LightScene, sun: Floats, sun_lux: Floats, which: Bools, turns: Floats | None = None
) -> Floats:
    """(n, 3) lux that the sun brings to some of the sides, ``which`` (n,), by way of smooth planes.  turns :
    as Beams has them."""
    gloss = scene.surfaces.gloss
    if gloss is None or sun[2] <= 0.0 or not np.any(sun_lux):
        return np.zeros((len(which), 3))
    return Beams(sides, scene, gloss, turns).light(np.asarray(sun, float), sun_lux, which)
