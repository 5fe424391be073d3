"""Where the light of a point comes from: rays from both sides of every point, what they meet, and what of it counts."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Bools, Floats, Floats32, Ints, Ints32
from altana.core.geometry.rays import RayScene
from altana.core.light.finer import Places
from altana.core.light.lightmap import LightPoints
from altana.core.light.shape import fan, frames
from altana.core.light.sky import Sky
from altana.core.model import Model

#: Rays of a side, and the groups they are taken in to know their grain.
RAYS, GROUPS = 64, 4
#: So many more where much grain is left.
MORE = 192
#: Places from which the rays of a side begin, by turns.
BEGINS = 16
#: Rays of a side that say whether it lies inside a body: the rest is not sent where it does.
PROBE = 8
#: Panes rougher than this are frosted, and let so much of their tint through.
FROSTED, FROSTED_PASSES = 0.3, 0.85
#: What of a clear pane is mirror; the rest lets light through unbent.
PANE_MIRROR = 0.1
#: Sides at a time, and threads.
CHUNK, THREADS = 4096, 2
#: A side lies inside a body when more than this share of its rays meets bodies from within; surely, when so many of the probe do.
INSIDE, BURIED = 0.4, 0.9
#: Where rays go no farther than this in the mean, the side lies in a crevice: nobody looks into it, and it says nothing of what is seen beside.
CREVICE_M = 0.12
START_M = 0.012
#: The light of what a ray meets is taken from so far before it.
NEARER_M = 0.1
#: A point of a chart has a surface within this, or hangs in the air.
ON_SURFACE_M, SAME_PLANE_M = 0.025, 0.001
Progress = Callable[[float], bool]
#: Pairs, how the sun falls where they were met, and what panes let through.
Found = tuple[Ints32, Floats32, Floats32]


class Cancelled(Exception):
    """The person asked to stop."""


@dataclass(frozen=True, slots=True)
class Sides:
    """The points twice: first all front sides, then all back sides."""

    position: Floats
    normal: Floats
    owner: Ints
    reach: Floats
    #: Whether it lies on the inner side of its own body: there it is no wonder that rays meet that body from within.
    within: Bools


@dataclass(frozen=True, slots=True)
class Surfaces:
    """Per triangle: ``normal`` (m, 3), which side is ``outside`` (m,), its ``owner`` (m,) and ``albedo`` (m, 3); of what is ``frosted``
    (m,) that is the share of the light on its other side."""

    normal: Floats32
    outside: npt.NDArray[np.int8]
    owner: Ints
    albedo: Floats32
    frosted: Bools

    def met(self, face: Ints32, out: Floats32) -> tuple[Bools, Bools]:
        """Of rays (…, 3) that meet triangles (…,), -1 for none: whether from behind, and whether from within a body."""
        known = np.maximum(face, 0)
        behind = (np.einsum("...k,...k->...", self.normal[known], out) > 0.0) & (face >= 0)
        sense = self.outside[known]
        return behind, np.where(behind, sense > 0, sense < 0) & (face >= 0)


@dataclass(slots=True)
class Gathered:
    sky: Floats  # (n, 3) irradiance straight from the sky
    groups: Floats  # (n, GROUPS) the same by groups of its rays, the mean of its colours
    pairs: Ints32  # (4, k) receiving side, met side, met face, group of rays
    sunlit: Floats32  # (k,) cosine of the sun at the meeting, 0 in shadow
    passed: Floats32  # (k,) what panes on the way let through
    bad: Bools  # (n,) sides that lie inside a body
    weight: Floats  # (n,) what each ray of a side counts: those that begin inside a body count nothing


@dataclass(frozen=True, slots=True)
class Panes:
    """Clear panes apart from everything else, and how much light each of their triangles lets through with the one behind it."""

    rays: RayScene
    passes: Floats

    def through(self, origin: Floats32, out: Floats32, run: Floats32) -> Floats:
        """(k,) what is left of the light that comes to places (k, 3) from directions (k, 3) out of distances (k,)."""
        hits = self.rays.meet(origin, out)
        before = (hits.face >= 0) & (hits.distance_m < run)
        return np.where(before, self.passes[np.maximum(hits.face, 0)], 1.0)


def panes_of(model: Model, clear: Bools, sense: npt.NDArray[np.int8]) -> Panes | None:
    which = clear[model.face_material]
    if not which.any():
        return None
    passes = np.array([1.0 - pane_opacity(item.colour[3]) for item in model.materials])[model.face_material]
    # Of a body one looks through two faces.
    return Panes(RayScene.of(model, chosen=which), np.where(sense != 0, passes**2, passes))


def pane_opacity(alpha: float) -> float:
    """How much of what lies behind one face of a clear pane is not seen: its mirror, and the more of its body the denser it is."""
    dense = float(np.clip(alpha, 0.0, 0.97)) ** 2
    return PANE_MIRROR + (1.0 - PANE_MIRROR) * dense


def on_surface(model: Model, points: LightPoints, whole: RayScene) -> tuple[Floats, Bools]:
    """(n, 3) the points brought onto the very surface, for a chart takes planes together that are nearly one; (n,) which of them
    hang where there is no surface: in doorways and windows, and beyond slanting edges."""
    charts = len(points.texel)
    off = np.zeros(len(points.position), bool)
    place = points.position.copy()
    if charts:
        place[:charts], off[:charts] = landed(
            model, whole, place[:charts], points.normal[:charts], points.owner[:charts]
        )
    return place, off


def landed(model: Model, whole: RayScene, place: Floats, normal: Floats, owner: Ints) -> tuple[Floats, Bools]:
    """(n, 3) places on planes of objects ``owner`` (n,) brought onto their very surface, and (n,) where there is none."""
    start = place + normal * ON_SURFACE_M
    hits = whole.meet(start, -normal)
    other = model.face_objects()[np.maximum(hits.face, 0)] != owner
    # Another thing's face may lie in the very plane, as a layer of plaster does; beside it, it is a door in its frame.
    other &= np.abs(hits.distance_m - ON_SURFACE_M) > SAME_PLANE_M
    off = (hits.face < 0) | (hits.distance_m > 2.0 * ON_SURFACE_M) | other
    run = np.where(off, ON_SURFACE_M, hits.distance_m)
    return start - normal * run[:, None], off


def normals_of(model: Model, faces: npt.NDArray[np.intp]) -> Floats:
    a, b, c = (model.vertices[model.faces[faces, k]].astype(float) for k in range(3))
    normal = np.cross(b - a, c - a)
    unit: Floats = normal / np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-20)
    return unit


def _directions(position: Floats, count: int, round_: int) -> Floats32:
    """(n, count, 3) cosine-weighted directions about +Z: one even spiral, turned for every point by where it lies, and for every round."""
    turn = (2 * np.pi * np.modf(_hash(position) + round_ * 0.6180339887)[0]).astype(np.float32)
    spiral = fan(count).astype(np.float32)
    cosine, sine = np.cos(turn)[:, None], np.sin(turn)[:, None]
    x, y = spiral[None, :, 0], spiral[None, :, 1]
    up = np.broadcast_to(spiral[:, 2], (len(position), count))
    return np.stack([x * cosine - y * sine, x * sine + y * cosine, up], axis=-1)


def _hash(position: Floats) -> Floats:
    """(n,) numbers from 0 to 1 that look random and depend on the place alone: a room's grain stays when the model changes elsewhere."""
    found: Floats = np.modf(np.abs(np.round(position, 3)) @ np.array([12.9898, 78.233, 37.719]) * 43.7585)[0]
    return found


@dataclass(frozen=True, slots=True)
class Gatherer:
    """What a chunk of sides is gathered with; each chunk writes its own sides only, so that several can be at work."""

    points: LightPoints
    places: Places
    sides: Sides
    rays: RayScene
    panes: Panes | None
    sky: Sky
    surfaces: Surfaces
    made: Gathered

    def all(self, progress: Progress | None) -> None:
        """Gather all sides.  Raises Cancelled."""
        self.rays.warm()
        self._chunks(np.arange(len(self.sides.position)), CHUNK, self.some, progress)

    def more(self, which: Ints, progress: Progress | None) -> None:
        """Gather some sides (k,) with MORE rays beside those they had.  Raises Cancelled."""
        self._chunks(which, CHUNK * RAYS // MORE, self._some_more, progress)

    def _chunks(
        self, which: Ints, size: int, gather: Callable[[Ints], list[Found]], progress: Progress | None
    ) -> None:
        made = self.made
        chunks = [which[start : start + size] for start in range(0, len(which), size)]
        found = [(made.pairs, made.sunlit, made.passed)]
        # Nearly all of the work goes on outside Python's lock.
        with ThreadPoolExecutor(THREADS) as pool:
            waiting = [pool.submit(gather, chunk) for chunk in chunks]
            try:
                for number, piece in enumerate(waiting):
                    if progress is not None and not progress(number / len(chunks)):
                        raise Cancelled
                    found += piece.result()
            finally:
                for piece in waiting:
                    piece.cancel()
        made.pairs, made.sunlit, made.passed = (
            np.concatenate(part, axis=-1) for part in zip(*found, strict=True)
        )

    def some(self, some: Ints) -> list[Found]:
        """What the rays of some sides meet: pairs, sunlight and what panes let through; the rest is written where it belongs."""
        probe = np.arange(PROBE // 2, RAYS, RAYS // PROBE)
        origin, out = self._rays_of(some, RAYS, 0)
        first = self._send(some, origin[:, probe], out[:, probe])
        hidden = first.inner.mean(axis=1) > BURIED
        self.made.bad[some[hidden]] = True
        # What seems to lie inside a body all over is looked at by few rays, in case it does not: it must not be black.
        few = self._collect(some[hidden], first.part(hidden), np.ones((int(hidden.sum()), PROBE), bool))
        some, origin, out = some[~hidden], origin[~hidden], out[~hidden]
        if not len(some):
            return [few]
        sent = self._send(some, origin, out)
        room = np.where(sent.face < 0, 1.0, np.minimum(sent.run, 1.0)).mean(axis=1)
        self.made.bad[some] = (sent.inner.mean(axis=1) > INSIDE) | (room < CREVICE_M)
        return [few, self._collect(some, sent, ~sent.inner)]

    def _some_more(self, some: Ints) -> list[Found]:
        sent = self._send(some, *self._rays_of(some, MORE, 1))
        return [self._collect(some, sent, ~sent.inner)]

    def _collect(self, some: Ints, sent: Sent, counted: Bools) -> Found:
        """Add what rays bring that are counted (k, r) to what others brought before."""
        made, surfaces = self.made, self.surfaces
        before = np.where(made.weight[some] > 0.0, 1.0 / np.maximum(made.weight[some], 1e-9), 0.0)
        now = np.maximum(before + counted.sum(axis=1), 1.0)
        made.weight[some] = 1.0 / now
        kept = (before / now)[:, None]
        shape = sent.face.shape
        face, run, out = sent.face.ravel(), sent.run.ravel(), sent.out.reshape(-1, 3)
        origin = sent.origin.reshape(-1, 3)
        passed = np.ones(len(face), np.float32)
        if self.panes is not None:
            passed = self.panes.through(origin, out, run).astype(np.float32)
        weight = np.repeat(made.weight[some], shape[1])
        away = np.flatnonzero(face < 0)
        light = np.zeros((len(face), 3), np.float32)
        light[away] = (
            self.sky.luminance(out[away].astype(float)) * (np.pi * weight[away] * passed[away])[:, None]
        )
        made.sky[some] = made.sky[some] * kept + light.reshape(*shape, 3).sum(axis=1)
        groups = light.mean(axis=1).reshape(len(some), shape[1] // GROUPS, GROUPS).sum(axis=1)
        made.groups[some] = made.groups[some] * kept + groups
        ends = np.flatnonzero((face >= 0) & counted.ravel())
        f, towards, length = face[ends], out[ends], run[ends][:, None]
        place = origin[ends] + towards * length
        # Of frosted glass one sees the light that falls on it from beyond.
        from_back = sent.behind.ravel()[ends] ^ surfaces.frosted[f]
        # Looked up a little nearer to where the ray comes from: beyond a wall that stands there the light is another room's.
        nearer = place - towards * np.minimum(np.float32(NEARER_M), np.float32(0.5) * length)
        at = self.places.nearest(self.points, f, nearer, from_back)
        facing = surfaces.normal[f] * np.where(from_back, np.float32(-1.0), np.float32(1.0))[:, None]
        sunlit = _sun_on(self.rays, np.asarray(self.sky.sun, np.float32), place, facing)
        side, ray = ends // shape[1], ends % shape[1]
        return np.stack([some[side], at, f, ray % GROUPS]).astype(np.int32), sunlit, passed[ends]

    def _rays_of(self, some: Ints, count: int, round_: int) -> tuple[Floats32, Floats32]:
        """(k, count, 3) where the rays of some sides begin and where they go, in each round others.

        They begin all over the cell that a point speaks for: a door handle darkens its share of the cell, not all of it.
        """
        frame = frames(self.sides.normal[some]).astype(np.float32)
        out = _directions(self.sides.position[some], count, round_) @ frame
        # The sequence of the plastic number fills a square evenly; turned to a disc by its square root.
        index = np.arange(BEGINS)[None] + round_ * BEGINS + 977.0 * _hash(self.sides.position[some])[:, None]
        radius = (np.sqrt(np.modf(index * 0.7548776662)[0]) * self.sides.reach[some][:, None]).astype(
            np.float32
        )
        angle = (2.0 * np.pi * np.modf(index * 0.5698402910)[0]).astype(np.float32)
        aside = (radius * np.cos(angle))[..., None] * frame[:, None, 0] + (radius * np.sin(angle))[
            ..., None
        ] * frame[:, None, 1]
        middle = (self.sides.position[some] + self.sides.normal[some] * START_M)[:, None].astype(np.float32)
        away = np.linalg.norm(aside, axis=2)
        # Not through a thin wall into the next room: what cannot be reached along the surface begins in the middle.
        ahead = self.rays.meet(
            np.broadcast_to(middle, aside.shape).reshape(-1, 3),
            (aside / np.maximum(away, np.float32(1e-9))[..., None]).reshape(-1, 3),
        )
        aside[ahead.distance_m.reshape(away.shape) < away] = 0.0
        return (middle + aside)[:, np.arange(count) % BEGINS], out

    def _send(self, some: Ints, origin: Floats32, out: Floats32) -> Sent:
        shape = out.shape[:2]
        sides, surfaces = self.sides, self.surfaces
        hits = self.rays.meet(origin.reshape(-1, 3), out.reshape(-1, 3))
        face = hits.face.reshape(shape)
        known = np.maximum(face, 0)
        behind, inner = surfaces.met(face, out)
        within = np.flatnonzero(sides.within[some])
        own = surfaces.owner[known[within]] == sides.owner[some[within]][:, None]
        inner[within] &= ~own
        return Sent(origin, out, face, hits.distance_m.astype(np.float32).reshape(shape), behind, inner)


@dataclass(frozen=True, slots=True)
class Sent:
    """Rays of some sides (k, r): where from, where to, the triangle each meets (-1: none), how far, whether from behind, and whether from
    within a body."""

    origin: Floats32
    out: Floats32
    face: Ints32
    run: Floats32
    behind: Bools
    inner: Bools

    def part(self, which: Bools) -> Sent:
        """Of these sides only."""
        return Sent(
            self.origin[which],
            self.out[which],
            self.face[which],
            self.run[which],
            self.behind[which],
            self.inner[which],
        )


def drop_buried(gathered: Gathered) -> None:
    """Rays that end on what lies inside a body count nothing: nobody in a room sees the ground that runs on below its floor."""
    receiver, met = gathered.pairs[:2]
    # What seems to lie inside itself has nothing else to go by.
    buried = gathered.bad[met] & ~gathered.bad[receiver]
    if not buried.any():
        return
    counted = np.where(gathered.weight > 0.0, 1.0 / np.maximum(gathered.weight, 1e-9), 0.0)
    left = counted - np.bincount(receiver[buried], minlength=len(counted))
    scale = counted / np.maximum(left, 1.0)
    gathered.sky *= scale[:, None]
    gathered.groups *= scale[:, None]
    gathered.weight *= scale
    gathered.bad |= left < np.minimum(counted, RAYS) * (1.0 - INSIDE)
    kept = np.flatnonzero(~buried)
    gathered.pairs, gathered.sunlit = gathered.pairs[:, kept], gathered.sunlit[kept]
    gathered.passed = gathered.passed[kept]


def _sun_on(rays: RayScene, sun: Floats32, place: Floats32, facing: Floats32) -> Floats32:
    """(k,) the cosine of the sun at places on surfaces that face ``facing``, 0 in shadow."""
    cosine = facing @ sun
    lit = np.flatnonzero(cosine > 0.0)
    result = np.zeros(len(cosine), np.float32)
    if sun[2] > 0.0 and len(lit):
        clear = ~rays.shaded(
            place[lit] + facing[lit] * np.float32(START_M), np.broadcast_to(sun, (len(lit), 3))
        )
        result[lit[clear]] = cosine[lit[clear]]
    return result
