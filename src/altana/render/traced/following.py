"""Rays followed through one scene: what the path tracer does is recorded at the first launch, and replayed at
those that follow.

Recording takes a quarter of a second for a building's materials, as long as following 30 000 rays on two
cores.
"""

from __future__ import annotations

from dataclasses import dataclass
from types import ModuleType
from typing import Any

import numpy as np

from altana.core.conventions import Floats, Floats32
from altana.render.traced.bending import through_bodies
from altana.render.traced.draws import even_draws, hashed, turned
from altana.render.traced.sights import Sights

MAX_DEPTH, RR_DEPTH = 12, 5
#: Bytes to which numbers that are handed over are aligned; a recording is of one alignment only.
ALIGNED = 64
#: So many holes one behind the other are looked through before what is first seen is taken for solid, and how
#: far a ray is moved behind each.
HOLES, BEHIND_M = 3, 1e-4
#: So many faces of panes, one behind the other, colour what is first seen behind them.
PANES = 4


@dataclass(frozen=True, slots=True)
class Ready:
    """Rays that were made while others were followed: of some rows of a picture and the number of a sample,
    with which way they go (n, 3) and how far they see (n,)."""

    sights: Sights
    rows: range
    sample: int
    rays: tuple[Any, Floats, Floats]


class Follower:
    """Follows rays through a scene.  whole : all of it; bodies : without panes and without what has holes;
    leaves : that which has holes, as foliage, or None; glass : bodies of solid glass, or None; panes :
    whether it has any panes."""

    def __init__(self, mi: ModuleType, whole: Any, bodies: Any, leaves: Any, glass: Any, panes: bool) -> None:
        import drjit as dr

        self._mi, self._lit = mi, (whole, bodies, leaves, glass)
        # What is seen behind panes and bodies of glass needs all that may stand before it.
        self._shown = (whole if panes or glass is not None else None), bodies, leaves, glass
        integrator = mi.load_dict(
            {"type": "volpath" if panes else "path", "max_depth": MAX_DEPTH, "rr_depth": RR_DEPTH}
        )
        draws = even_draws(mi)

        def follow(
            scene: Any,
            solid: Any,
            foliage: Any,
            glass_bodies: Any,
            sample: Any,
            key: Any,
            origin: Any,
            along: Any,
        ) -> tuple[Any, Any, Any]:
            ray = seen = mi.Ray3f(origin, along)
            sampler = draws()
            sampler.begin(sample, hashed(mi, key + dr.arange(mi.UInt32, dr.width(along))))
            if glass_bodies is not None:
                beyond = through_bodies(mi, glass_bodies, scene, ray, sampler.next_1d)
                ray = beyond.ray
            hit, valid, _ = integrator.sample(scene, sampler, mi.RayDifferential3f(ray), None, mi.Bool(True))
            away = solid.ray_intersect_preliminary(seen, coherent=True).t
            if foliage is not None:
                away = dr.minimum(away, _behind_holes(mi, foliage, seen)[1])
            if glass_bodies is not None:
                hit, away = hit * beyond.left, dr.select(beyond.bent, beyond.away, away)
            return hit, valid, away

        self._follow, self._look = dr.freeze(follow), dr.freeze(_looking(mi, panes))
        #: Where rays lie while they are followed, and where the next ones are put meanwhile, by their number.
        self._held: dict[int, tuple[Floats32, Floats32]] = {}
        #: The last rays that were made, where nobody has followed them yet.
        self.ready: Ready | None = None

    def ray(self, origin: Floats, along: Floats) -> Any:
        """(n, 3) origins and directions as the path tracer has them; they hold until the next but one are
        made."""
        count, self.ready = len(origin), None
        if count not in self._held:
            # Of pictures of many sizes only the last few are likely to come again.
            self._held = dict(list(self._held.items())[-3:])
            self._held[count] = _aligned(6, count), _aligned(6, count)
        other, launch = self._held[count]
        self._held[count] = launch, other
        launch[:3], launch[3:] = origin.T, along.T
        mi = self._mi
        return mi.Ray3f(mi.Point3f(*launch[:3]), mi.Vector3f(*launch[3:]))

    def sent(self, ray: Any, sample: int, key: int) -> Any:
        """Begin to follow rays; what comes back is for ``light``.

        sample : the number of the sample of its pixels.  key : of the first pixel; the others have those that
        follow.
        """
        import drjit as dr

        drawn, own = self._mi.UInt32(turned(sample)), self._mi.UInt32(key)
        dr.make_opaque(drawn, own)
        followed = self._follow(*self._lit, drawn, own, ray.o, ray.d)
        dr.eval(followed)
        return followed

    @staticmethod
    def light(sent: Any) -> tuple[Floats32, Floats32]:
        """Wait for (n, 3) the light along rays, and (n,) how far away what they first meet is behind panes
        and holes, infinite where nothing is."""
        light, _, away = sent
        return np.array(light).T.astype(np.float32), np.array(away)

    def seen(self, ray: Any) -> tuple[Any, Floats32, Floats32, Floats32]:
        """Whether rays meet something behind panes (n,), how far away (n,), its colour (n, 3) and direction
        (n, 3)."""
        there, away, colour, facing = self._look(*self._shown, ray.o, ray.d)
        return np.array(there), np.array(away), np.array(colour).T, np.array(facing).T


def _looking(mi: ModuleType, panes: bool) -> Any:
    """What is first seen along rays, to be recorded.  panes : whether there are any."""
    import drjit as dr

    def look(
        scene: Any, solid: Any, foliage: Any, glass_bodies: Any, origin: Any, along: Any
    ) -> tuple[Any, Any, Any, Any]:
        ray, beyond = mi.Ray3f(origin, along), None
        if glass_bodies is not None:
            # The way that most of the light comes.
            beyond = through_bodies(mi, glass_bodies, scene, ray, lambda: mi.Float(0.5))
            ray = beyond.ray
        there, away, colour, facing = _first_seen(mi, solid, foliage, ray)
        if panes:
            colour = dr.select(there, colour, 1.0) * _left_by_panes(mi, scene, ray, away)
        if beyond is None:
            return there, away, colour, facing
        colour = dr.select(there, colour, 1.0) * beyond.left
        return there | beyond.bent, dr.select(beyond.bent, beyond.away, away), colour, facing

    return look


def _left_by_panes(mi: ModuleType, scene: Any, ray: Any, away: Any) -> Any:
    """What the faces of panes on a ray's way leave of light: so the edges of glass guide the denoiser."""
    import drjit as dr

    left, gone = mi.Color3f(1.0), mi.Float(0.0)
    # Where nothing stands before what is seen there is nothing to ask.
    going = scene.ray_intersect_preliminary(ray, coherent=True).t < away * (1.0 - BEHIND_M)
    for _ in range(PANES):
        met = scene.ray_intersect(mi.Ray3f(ray.o + ray.d * gone, ray.d), going)
        passes = met.bsdf().eval_null_transmission(met, going)
        going &= met.is_valid() & (gone + met.t < away) & (dr.max(passes) > 0.0)
        left *= dr.select(going, passes, 1.0)
        gone += dr.select(going, met.t + BEHIND_M, 0.0)
    return left


def _behind_holes(mi: ModuleType, foliage: Any, ray: Any) -> tuple[Any, Any]:
    """What a ray meets behind the holes it goes through, and how far away that is."""
    import drjit as dr

    gone = mi.Float(0.0)
    for _ in range(HOLES):
        met = foliage.ray_intersect(ray)
        hole = met.is_valid() & (met.bsdf().eval_null_transmission(met)[0] > 0.5)
        step = dr.select(hole, met.t + BEHIND_M, 0.0)
        gone, ray = gone + step, mi.Ray3f(ray.o + ray.d * step, ray.d)
    met = foliage.ray_intersect(ray)
    return met, gone + met.t


def _first_seen(mi: ModuleType, solid: Any, foliage: Any, ray: Any) -> tuple[Any, Any, Any, Any]:
    """Whether a ray meets anything behind panes and holes, how far away, its colour and direction."""
    import drjit as dr

    met = solid.ray_intersect(ray)
    there, away = met.is_valid(), met.t
    shown = met.bsdf(ray).eval_diffuse_reflectance(met), met.sh_frame.n
    if foliage is None:
        return there, away, *shown
    leaf, leaf_away = _behind_holes(mi, foliage, ray)
    before = leaf_away < away
    of_leaf = leaf.bsdf(ray).eval_diffuse_reflectance(leaf), leaf.sh_frame.n
    colour, facing = (dr.select(before, one, other) for one, other in zip(of_leaf, shown, strict=True))
    return there | before, dr.minimum(leaf_away, away), colour, facing


def _aligned(rows: int, count: int) -> Floats32:
    """(rows, count), each row beginning at a multiple of ALIGNED bytes."""
    step = ALIGNED // 4
    wide = -(-count // step) * step
    whole = np.empty(rows * wide + step, np.float32)
    start = (-whole.ctypes.data % ALIGNED) // 4
    padded: Floats32 = whole[start : start + rows * wide].reshape(rows, wide)[:, :count]
    return padded
