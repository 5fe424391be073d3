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


class Follower:
    """Follows rays through a scene.  whole : all of it; solid : without its panes; panes : whether it has any."""

    def __init__(self, mi: ModuleType, whole: Any, solid: Any, panes: bool) -> None:
        import drjit as dr

        self._mi, self._whole, self._solid = mi, whole, solid
        integrator = mi.load_dict(
            {"type": "volpath" if panes else "path", "max_depth": MAX_DEPTH, "rr_depth": RR_DEPTH}
        )
        sampler = mi.load_dict({"type": "independent"})

        def follow(scene: Any, seed: Any, origin: Any, along: Any) -> tuple[Any, Any]:
            ray = mi.RayDifferential3f(mi.Ray3f(origin, along))
            # One of its own: where the last one left off would be recorded, too.
            draws = sampler.clone()
            draws.seed(seed, dr.width(along))
            found, valid, _ = integrator.sample(scene, draws, ray, None, mi.Bool(True))
            return found, valid

        def look(scene: Any, origin: Any, along: Any) -> tuple[Any, Any, Any, Any]:
            ray = mi.Ray3f(origin, along)
            met = scene.ray_intersect(ray)
            return met.is_valid(), met.t, met.bsdf(ray).eval_diffuse_reflectance(met), met.sh_frame.n

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

    def light(self, ray: Any, seed: int) -> Floats32:
        """(n, 3) the light along rays."""
        import drjit as dr

        drawn = self._mi.UInt32(seed)
        dr.make_opaque(drawn)
        found, valid = self._follow(self._whole, drawn, ray.o, ray.d)
        dr.eval(found, valid)
        made: Floats32 = np.array(found).T.astype(np.float32)
        return made

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
