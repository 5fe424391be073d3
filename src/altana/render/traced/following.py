"""Rays followed through one scene: what the path tracer does is recorded at the first launch, and replayed at those that follow.

Recording takes a quarter of a second for a building's materials, as long as following 30 000 rays on two cores.
"""

from __future__ import annotations

from types import ModuleType
from typing import Any

import numpy as np

from altana.core.conventions import Floats, Floats32

MAX_DEPTH, RR_DEPTH = 12, 5
#: Bytes to which numbers that are handed over are aligned; a recording is of one alignment only.
ALIGNED = 64
#: So many holes one behind the other are looked through before what is first seen is taken for solid, and how far a ray is moved behind each.
HOLES, BEHIND_M = 3, 1e-4


class Follower:
    """Follows rays through a scene.  whole : all of it; solid : without its panes; panes, holes : whether it has any panes, and pictures
    with holes, as of foliage."""

    def __init__(self, mi: ModuleType, whole: Any, solid: Any, panes: bool, holes: bool) -> None:
        import drjit as dr

        self._mi, self._whole, self._solid = mi, whole, solid
        integrator = mi.load_dict(
            {"type": "volpath" if panes else "path", "max_depth": MAX_DEPTH, "rr_depth": RR_DEPTH}
        )
        sampler = mi.load_dict({"type": "independent"})

        def through(scene: Any, ray: Any) -> tuple[Any, Any]:
            """The ray behind the holes it goes through, and how far it has come."""
            gone = mi.Float(0.0)
            for _ in range(HOLES if holes else 0):
                met = scene.ray_intersect(ray)
                hole = met.is_valid() & (met.bsdf().eval_null_transmission(met)[0] > 0.5)
                step = dr.select(hole, met.t + BEHIND_M, 0.0)
                gone, ray = gone + step, mi.Ray3f(ray.o + ray.d * step, ray.d)
            return ray, gone

        def follow(scene: Any, bodies: Any, seed: Any, origin: Any, along: Any) -> tuple[Any, Any, Any]:
            ray = mi.RayDifferential3f(mi.Ray3f(origin, along))
            # One of its own: where the last one left off would be recorded, too.
            draws = sampler.clone()
            draws.seed(seed, dr.width(along))
            found, valid, _ = integrator.sample(scene, draws, ray, None, mi.Bool(True))
            first, gone = through(bodies, mi.Ray3f(origin, along))
            return found, valid, gone + bodies.ray_intersect_preliminary(first, coherent=True).t

        def look(scene: Any, origin: Any, along: Any) -> tuple[Any, Any, Any, Any]:
            ray, gone = through(scene, mi.Ray3f(origin, along))
            met = scene.ray_intersect(ray)
            colour = met.bsdf(ray).eval_diffuse_reflectance(met)
            return met.is_valid(), gone + met.t, colour, met.sh_frame.n

        self._follow, self._look = dr.freeze(follow), dr.freeze(look)
        #: Where rays lie while they are followed, by their number.
        self._held: dict[int, Floats32] = {}

    def ray(self, origin: Floats, along: Floats) -> Any:
        """(n, 3) origins and directions as the path tracer has them; they hold until the next are made."""
        held = self._held.get(len(origin))
        if held is None:
            # Of pictures of many sizes only the last few are likely to come again.
            self._held = dict(list(self._held.items())[-3:])
            held = self._held[len(origin)] = _aligned(6, len(origin))
        held[:3], held[3:] = origin.T, along.T
        mi = self._mi
        return mi.Ray3f(mi.Point3f(*held[:3]), mi.Vector3f(*held[3:]))

    def light(self, ray: Any, seed: int) -> tuple[Floats32, Floats32]:
        """(n, 3) the light along rays, and (n,) how far away what they first meet is behind panes and holes, infinite where nothing is."""
        import drjit as dr

        drawn = self._mi.UInt32(seed)
        dr.make_opaque(drawn)
        found, valid, away = self._follow(self._whole, self._solid, drawn, ray.o, ray.d)
        dr.eval(found, valid, away)
        return np.array(found).T.astype(np.float32), np.array(away)

    def seen(self, ray: Any) -> tuple[Any, Floats32, Floats32, Floats32]:
        """Whether rays meet something behind panes (n,), how far away (n,), its colour (n, 3) and direction (n, 3)."""
        there, away, colour, facing = self._look(self._solid, ray.o, ray.d)
        return np.array(there), np.array(away), np.array(colour).T, np.array(facing).T


def _aligned(rows: int, count: int) -> Floats32:
    """(rows, count), each row beginning at a multiple of ALIGNED bytes."""
    step = ALIGNED // 4
    wide = -(-count // step) * step
    whole = np.empty(rows * wide + step, np.float32)
    start = (-whole.ctypes.data % ALIGNED) // 4
    made: Floats32 = whole[start : start + rows * wide].reshape(rows, wide)[:, :count]
    return made
