"""Where the light of a point comes from: rays from both sides of every point, and what of what they meet
counts."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from typing import TypeVar

import numpy as np

from altana.core.conventions import Bools, Floats, Floats32, Ints, Ints32
from altana.core.geometry.rays import RayScene
from altana.core.light.finer import Places
from altana.core.light.light_scene import LightScene, Surfaces
from altana.core.light.lightmap import LightPoints
from altana.core.light.lines import Lines, RayBundle
from altana.core.light.panes import Panes
from altana.core.light.seen import GROUPS, INSIDE, START_M, THREADS, Away, Met, Seen
from altana.core.light.shape import fan, frames
from altana.core.model import Model
from altana.core.progress import Progress

#: Rays of a side.
RAYS = 64
#: So many more where much grain is left.
MORE = 192
#: Places from which the rays of a side begin, by turns.
BEGINS = 16
#: Rays of a side that say whether it lies inside a body: the rest is not sent where it does.
PROBE = 8
#: Sides at a time.
CHUNK = 4096
#: A side surely lies inside a body when so many of the probe meet bodies from within.
BURIED = 0.9
#: Where rays go no farther than this in the mean, the side lies in a crevice: nobody looks into it, and it
#: says nothing of what is seen beside.
CREVICE_M = 0.12
#: The light of what a ray meets is taken from so far before it.
NEARER_M = 0.1
#: A point of a chart has a surface within this, or hangs in the air.
ON_SURFACE_M, SAME_PLANE_M = 0.025, 0.001
#: Where else a point is stood that has something thin in its place: so far aside at most, for beyond a wall
#: begins another room.
ASIDE_M, BESIDE = 0.035, ((1.0, 0.0), (-1.0, 0.0), (0.0, 1.0), (0.0, -1.0))


_Made = TypeVar("_Made")


class Cancelled(Exception):
    """The person asked to stop."""


@dataclass(frozen=True, slots=True)
class Sides:
    """The points twice: first all front sides, then all back sides."""

    position: Floats
    normal: Floats
    owner: Ints
    reach: Floats
    #: Whether it lies on the inner side of its own body: there it is no wonder that rays meet that body from
    #: within.
    within: Bools


@dataclass(frozen=True, slots=True)
class SideRays:
    """Of the rays of some sides, sorted by side and group: how many of each group met something and went away
    (c, GROUPS); what Met and Away keep of them; how many of each side count (c,); and which sides lie inside
    a body (c,)."""

    met: Ints
    went: Ints
    side: Ints32
    face: Ints32
    passed: Floats32
    place: Floats32
    out: Floats32
    clear: Floats32
    straight: Bools
    count: Ints
    bad: Bools


def on_surface(model: Model, points: LightPoints, whole: RayScene) -> tuple[Floats, Bools, Ints]:
    """(n, 3) the points brought onto the very surface, for a chart takes planes together that are nearly one;
    (n,) which of them hang where there is no surface: in doorways and windows, and beyond slanting edges; and
    (n,) the triangles of their charts on which they lie."""
    charts = len(points.texel)
    off = np.zeros(len(points.position), bool)
    place, on = points.position.copy(), points.face.copy()
    if charts:
        place[:charts], off[:charts], face = landed(
            model, whole, place[:charts], points.normal[:charts], points.owner[:charts]
        )
        own = np.flatnonzero(~off[:charts])
        own = own[points.charts.chart[face[own]] == points.charts.chart[points.face[own]]]
        on[own] = face[own]
        # A pane's edge or a bar may stand just there: beside it, the point still speaks for its cell.
        for across, along in BESIDE:
            left = np.flatnonzero(off[:charts])
            if not len(left):
                break
            frame = frames(points.normal[left])
            aside = (across * frame[:, 0] + along * frame[:, 1]) * np.minimum(points.reach[left], ASIDE_M)[
                :, None
            ]
            beside, still, _ = landed(
                model, whole, points.position[left] + aside, points.normal[left], points.owner[left]
            )
            place[left[~still]], off[left] = beside[~still], still
    return place, off, on


def landed(
    model: Model, whole: RayScene, place: Floats, normal: Floats, owner: Ints
) -> tuple[Floats, Bools, Ints32]:
    """(n, 3) places on planes of objects ``owner`` (n,) brought onto their very surface, (n,) where there is
    none, and (n,) the triangles there."""
    start = place + normal * ON_SURFACE_M
    hits = whole.meet(start, -normal)
    other = model.face_objects()[np.maximum(hits.face, 0)] != owner
    # Another thing's face may lie in the very plane, as a layer of plaster does; beside it, it is a door in
    # its frame.
    other &= np.abs(hits.distance_m - ON_SURFACE_M) > SAME_PLANE_M
    off = (hits.face < 0) | (hits.distance_m > 2.0 * ON_SURFACE_M) | other
    run = np.where(off, ON_SURFACE_M, hits.distance_m)
    return start - normal * run[:, None], off, hits.face


def _directions(position: Floats, count: int, round_: int) -> Floats32:
    """(n, count, 3) cosine-weighted directions about +Z: one even spiral, turned for every point by where it
    lies, and for every round."""
    turn = (2 * np.pi * np.modf(_hash(position) + round_ * 0.6180339887)[0]).astype(np.float32)
    spiral = fan(count).astype(np.float32)
    cosine, sine = np.cos(turn)[:, None], np.sin(turn)[:, None]
    x, y = spiral[None, :, 0], spiral[None, :, 1]
    up = np.broadcast_to(spiral[:, 2], (len(position), count))
    return np.stack([x * cosine - y * sine, x * sine + y * cosine, up], axis=-1)


def _hash(position: Floats) -> Floats:
    """(n,) numbers from 0 to 1 that look random and depend on the place alone: a room's grain stays when the
    model changes elsewhere."""
    fractions: Floats = np.modf(
        np.abs(np.round(position, 3)) @ np.array([12.9898, 78.233, 37.719]) * 43.7585
    )[0]
    return fractions


@dataclass(frozen=True, slots=True)
class Gatherer:
    """What a chunk of sides is gathered with; each chunk writes its own sides only, so that several can be at
    work."""

    points: LightPoints
    places: Places
    sides: Sides
    scene: LightScene

    @property
    def rays(self) -> RayScene:
        """What keeps light off."""
        return self.scene.rays

    @property
    def panes(self) -> Panes | None:
        """What takes a part of it."""
        return self.scene.panes

    @property
    def surfaces(self) -> Surfaces:
        """What is met."""
        return self.scene.surfaces

    def all(self, progress: Progress | None) -> Seen:
        """What all sides see.  Raises Cancelled."""
        self.rays.warm()
        return self._chunks(np.arange(len(self.sides.position)), CHUNK, self.some, progress)

    def more(self, which: Ints, progress: Progress | None) -> Seen:
        """What some sides (k,) see with MORE rays beside those they had.  Raises Cancelled."""
        return self._chunks(which, CHUNK * RAYS // MORE, self._some_more, progress)

    def _chunks(
        self, which: Ints, size: int, gather: Callable[[Ints], SideRays], progress: Progress | None
    ) -> Seen:
        # A model without surfaces has one chunk, with nothing in it.
        found_chunks = in_chunks(which, size, gather, progress)
        return _joined(found_chunks, which, len(self.sides.position))

    def some(self, some: Ints) -> SideRays:
        """What the rays of some sides meet."""
        origin, out = self.rays_of(some, RAYS, 0)
        # A few rays first: of what seems to lie inside a body all over the rest is not sent.
        probe = np.zeros(RAYS, bool)
        probe[PROBE // 2 :: RAYS // PROBE] = True
        probe = probe[_by_groups(RAYS)]
        sent = RayBundle.none(origin, out)
        self._send(some, sent, np.arange(len(some)), np.flatnonzero(probe))
        hidden = sent.inner[:, probe].mean(axis=1) > BURIED
        self._send(some, sent, np.flatnonzero(~hidden), np.flatnonzero(~probe))
        # Such a side is looked at by those few, in case it does not lie there: it must not be black.
        counted = np.where(hidden[:, None], probe, ~sent.inner)
        room = np.where(sent.face < 0, 1.0, np.minimum(sent.run, 1.0)).mean(axis=1)
        bad = hidden | (sent.inner.mean(axis=1) > INSIDE) | (room < CREVICE_M)
        return self._collect(Lines.of(sent, counted), counted.sum(axis=1), bad)

    def _some_more(self, some: Ints) -> SideRays:
        sent = RayBundle.none(*self.rays_of(some, MORE, 1))
        self._send(some, sent, np.arange(len(some)), np.arange(MORE))
        return self._collect(
            Lines.of(sent, ~sent.inner), (~sent.inner).sum(axis=1), np.zeros(len(some), bool)
        )

    def _collect(self, lines: Lines, count: Ints, bad: Bools) -> SideRays:
        """What rays bring, of which so many count (c,) of each side."""
        lines = self.scene.onward(lines).sorted()
        ends = lines.face >= 0
        f, towards, length = lines.face[ends], lines.out[ends], lines.run[ends][:, None]
        place = lines.origin[ends] + towards * length
        # Of frosted glass one sees the light that falls on it from beyond.
        from_back = lines.behind[ends] ^ self.surfaces.frosted[f]
        # Looked up a little nearer to where the ray comes from: beyond a wall that stands there the light is
        # another room's.
        nearer = place - towards * np.minimum(np.float32(NEARER_M), np.float32(0.5) * length)
        side = self.places.nearest(self.points, f, nearer, from_back)
        groups = len(count) * GROUPS
        return SideRays(
            np.bincount(lines.group[ends], minlength=groups).reshape(-1, GROUPS),
            np.bincount(lines.group[~ends], minlength=groups).reshape(-1, GROUPS),
            *(side, f, lines.passed[ends], place),
            *(lines.out[~ends], lines.passed[~ends], lines.straight[~ends]),
            count,
            bad,
        )

    def rays_of(self, some: Ints, count: int, round_: int) -> tuple[Floats32, Floats32]:
        """(k, count, 3) where the rays of some sides begin and where they go, in each round others."""
        frame = frames(self.sides.normal[some]).astype(np.float32)
        order = _by_groups(count)
        out = _directions(self.sides.position[some], count, round_)[:, order] @ frame
        return self.begins(some, BEGINS, round_)[:, order % BEGINS], out

    def begins(self, some: Ints, count: int, round_: int = 0) -> Floats32:
        """(k, count, 3) places all over the cells that some sides speak for, a little before them, in each
        round others: a door handle darkens its share of the cell, not all of it."""
        frame = frames(self.sides.normal[some]).astype(np.float32)
        # The sequence of the plastic number fills a square evenly; turned to a disc by its square root.
        index = np.arange(count)[None] + round_ * count + 977.0 * _hash(self.sides.position[some])[:, None]
        radius = (np.sqrt(np.modf(index * 0.7548776662)[0]) * self.sides.reach[some][:, None]).astype(
            np.float32
        )
        angle = (2.0 * np.pi * np.modf(index * 0.5698402910)[0]).astype(np.float32)
        aside = (radius * np.cos(angle))[..., None] * frame[:, None, 0] + (radius * np.sin(angle))[
            ..., None
        ] * frame[:, None, 1]
        middle = (self.sides.position[some] + self.sides.normal[some] * START_M)[:, None].astype(np.float32)
        away = np.sqrt(np.einsum("ijk,ijk->ij", aside, aside))
        # Not through a thin wall into the next room: what cannot be reached along the surface begins in the
        # middle.
        shut = self.rays.shaded(
            np.broadcast_to(middle, aside.shape).reshape(-1, 3),
            (aside / np.maximum(away, np.float32(1e-9))[..., None]).reshape(-1, 3),
            away.ravel(),
            alone=True,
        )
        aside[shut.reshape(away.shape)] = 0.0
        return middle + aside

    def _send(self, some: Ints, sent: RayBundle, sides: Ints, rays: Ints) -> None:
        """Send some of the rays of some of these sides, and write down what they meet."""
        at = np.ix_(sides, rays)
        origin, out = sent.origin[at], sent.out[at]
        if not origin.size:
            return
        hits = self.rays.meet(origin.reshape(-1, 3), out.reshape(-1, 3), alone=True)
        face = hits.face.reshape(out.shape[:2])
        behind, inner = self.surfaces.met(face, out)
        within = np.flatnonzero(self.sides.within[some[sides]])
        own = self.surfaces.owner[face[within]] == self.sides.owner[some[sides[within]]][:, None]
        inner[within] &= ~own
        sent.face[at], sent.run[at] = face, hits.distance_m.reshape(face.shape)
        sent.behind[at], sent.inner[at] = behind, inner


def in_chunks(
    which: Ints, size: int, work: Callable[[Ints], _Made], progress: Progress | None
) -> list[_Made]:
    """Work on some sides (k,), so many at a time, in several threads: nearly all of it goes on outside
    Python's lock.  Raises Cancelled."""
    chunks = [which[start : start + size] for start in range(0, max(len(which), 1), size)]
    made: list[_Made] = []
    with ThreadPoolExecutor(THREADS) as pool:
        waiting = [pool.submit(work, chunk) for chunk in chunks]
        try:
            for number, piece in enumerate(waiting):
                if progress is not None and not progress(number / len(chunks)):
                    raise Cancelled
                made.append(piece.result())
        finally:
            for piece in waiting:
                piece.cancel()
    return made


def _by_groups(count: int) -> Ints:
    """(count,) the numbers of rays in the order of their groups: every GROUPS-th belongs to one."""
    return np.arange(count).reshape(-1, GROUPS).T.ravel()


def _joined(pieces: list[SideRays], which: Ints, sides: int) -> Seen:
    """What was found of sides (k,), in their order, as what all ``sides`` see."""
    count, bad = np.zeros(sides), np.zeros(sides, bool)
    starts = []
    for name in ("met", "went"):
        length = np.zeros((sides, GROUPS), np.int64)
        length[which] = np.concatenate([getattr(item, name) for item in pieces])
        starts.append(np.concatenate([[0], np.cumsum(length)]))
    parts = {
        name: np.concatenate([getattr(item, name) for item in pieces])
        for name in ("side", "face", "passed", "place", "out", "clear", "straight", "count", "bad")
    }
    count[which], bad[which] = parts["count"], parts["bad"]
    met = Met(starts[0], parts["side"], parts["face"], parts["passed"], parts["place"])
    return Seen(met, Away(starts[1], parts["out"], parts["clear"], parts["straight"]), count, bad)
