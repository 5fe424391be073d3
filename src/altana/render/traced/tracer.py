"""The path tracer: sights in, light out, sample by sample.

Samples come in launches of one sample a pixel; each launch has a seed of its own, and launches are summed in
order, so that the same number of samples always gives the same numbers, whether they came at one go or the
work was broken off between.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from types import ModuleType
from typing import Any

import numpy as np

from altana.core.conventions import Bools, Floats, Floats32
from altana.core.geometry.cross import EAST, UP, crossed
from altana.core.light.air import CLEAR_M, air_colour, air_share
from altana.core.light.panes import PANE_MIRROR
from altana.core.light.sky import Sky
from altana.render.traced.following import Ready
from altana.render.traced.scene import Scenes, sky_light, sun_turn
from altana.render.traced.sights import Sights, jitter

#: So many rays are followed at a time.
LAUNCH_RAYS = 1 << 20
#: Half the width of the sun, radians: its light comes from a disc.
SUN_RADIUS = np.radians(0.2665)
#: A single sample brighter than so many times the white of the picture is taken for so bright: it would stay
#: as a dot.  Far less, and rooms that are lit by few bright places come out too dark: a corridor of a house
#: was half as light with 24.
BRIGHTEST = 2000.0
#: Samples of the pictures that guide the denoiser.
GUIDE_SAMPLES = 8
#: What a clear pane of two faces lets through.
CLEAR_PANE = (1.0 - PANE_MIRROR) ** 2
#: What of a clear pane before nothing counts as covered.
PANE_COVER = 0.1
#: How much a sample of something solid counts where a pixel shows bright sky, too, and from how many times
#: white on sky is no brighter.
SOLID_COUNTS, MOST_COUNTED = 0.6, 500.0


@dataclass(slots=True)
class Sums:
    """What was summed up to now: light and how much it counts, its square's luminance, coverage; ``samples``
    a pixel."""

    light: Floats32
    weight: Floats32
    square: Floats32
    cover: Floats32
    samples: int = 0

    @classmethod
    def empty(cls, size: tuple[int, int]) -> Sums:
        """Nothing yet, for a picture of width and height."""
        high, wide = size[1], size[0]
        zero = np.zeros((high, wide), np.float32)
        return cls(np.zeros((high, wide, 3), np.float32), zero.copy(), zero.copy(), zero)

    @property
    def mean(self) -> Floats32:
        """(height, width, 3) the light of the picture; nothing where there is no sample yet."""
        return (self.light / np.maximum(self.weight, 1e-12)[..., None]).astype(np.float32)

    @property
    def grain(self) -> float:
        """How much grain is left: the mean standard error of a pixel's brightness over the picture's
        brightness.

        Not the middle one: in a dark room most pixels have met no light for a long time, and seem to be
        without grain.
        """
        if self.samples < 2:
            return np.inf
        mean = self.mean.mean(axis=2)
        variance = np.maximum(self.square / self.samples - mean**2, 0.0) / (self.samples - 1)
        return float(np.sqrt(variance).mean() / max(float(mean.mean()), 1e-9))


@dataclass(frozen=True, slots=True)
class Guides:
    """What guides the denoiser: colour and direction of the first surface behind panes,
    (height, width, 3)."""

    albedo: Floats32
    normal: Floats32


@dataclass(slots=True)
class Tracer:
    """Follows the light of one scene.  fast : many rays at a time (LLVM), otherwise one after the other."""

    mi: ModuleType
    scenes: Scenes
    sky: Sky
    white: float
    seed: int = 1
    #: Whether there is a sky behind; without one only what stands there covers.
    sky_shown: bool = True
    #: How much sky counts behind each pixel of some rows of a picture: it hardly changes within a pixel.
    _sky_counts: dict[tuple[int, int], tuple[Sights, Floats32]] = field(default_factory=dict, repr=False)

    def add(
        self,
        sights: Sights,
        sums: Sums,
        go_on: Callable[[float], bool] | None = None,
        band: int | None = None,
    ) -> bool:
        """One more sample of every pixel; False, and nothing added, where ``go_on(share)`` said no on the
        way.

        band : only of the pixels of one of the ``bands``; the others stay as they are.
        """
        light = np.zeros_like(sums.light)
        cover, weight = np.zeros_like(sums.cover), np.zeros_like(sums.weight)
        self._move_sun(sums.samples)
        parts = _some(sights, band)
        following = [*((rows, sums.samples) for rows in parts[1:]), (parts[0], sums.samples + 1)]
        for rows, after in zip(parts, following, strict=True):
            if go_on is not None and not go_on(rows.start / sights.size[1]):
                return False
            levels, there, counts = self._launch(sights, rows, sums.samples, after)
            some, shape = slice(rows.start, rows.stop), (len(rows), sights.size[0])
            light[some] = levels.reshape(*shape, 3)
            cover[some], weight[some] = there.reshape(shape), counts.reshape(shape)
        sums.light += light * weight[..., None]
        sums.weight += weight
        sums.square += light.mean(axis=2) ** 2
        sums.cover += cover
        sums.samples += 1
        return True

    def _move_sun(self, sample: int) -> None:
        """Each sample has the sun from another place of its disc: half-shadows."""
        if not self.scenes.has_sun:
            return
        import drjit as dr

        u, v = np.random.default_rng((self.seed, 11)).random(2)
        radius = SUN_RADIUS * np.sqrt((u + sample * 0.7548776662466927) % 1.0)
        turn = 2.0 * np.pi * ((v + sample * 0.5698402909980532) % 1.0)
        sun = np.asarray(self.sky.sun, float)
        side = crossed(sun, UP if abs(sun[2]) < 0.99 else EAST)
        side /= np.linalg.norm(side)
        moved = sun + radius * (np.cos(turn) * side + np.sin(turn) * crossed(side, sun))
        towards = self.mi.Transform4f(sun_turn(self.mi, moved / np.linalg.norm(moved)))
        # A number that might change, not one that is written into the recording.
        dr.make_opaque(towards)
        self.scenes.move_sun(towards)

    def _rays(self, sights: Sights, rows: range, sample: int) -> tuple[Any, Floats, Floats]:
        """Rays through the pixels of some rows, which way they go (n, 3) and how far they see (n,)."""
        ready = self.scenes.follower.ready
        if ready is not None and ready.sights is sights and (ready.rows, ready.sample) == (rows, sample):
            return ready.rays
        wide = sights.size[0]
        # Whatever the seed: edges are as smooth in one film frame as in the next.
        shift = jitter(wide, rows, sample).astype(float)
        pixels = shift.T[:2].reshape(2, len(rows), wide)
        pixels[0] += np.arange(wide)
        pixels[1] += np.arange(rows.start, rows.stop)[:, None]
        sight = sights.through(pixels.reshape(2, -1).T, shift[:, 2:])
        return self.scenes.follower.ray(sight.origin, sight.along), sight.along, sight.ends

    def _launch(
        self, sights: Sights, rows: range, sample: int, after: tuple[range, int]
    ) -> tuple[Floats32, Floats32, Floats32]:
        """One sample of each pixel of some rows: light (n, 3), coverage and how much it counts (n,).  after :
        the rows and the sample that are likely to come next."""
        ray, along, ends = self._rays(sights, rows, sample)
        follower = self.scenes.follower
        sent = follower.sent(ray, sample, _key(self.seed, rows.start * sights.size[0]))
        # Meanwhile: a sixteenth of the time of a picture went into rays while nothing was followed.
        follower.ready = Ready(sights, *after, self._rays(sights, *after))
        light, away = follower.light(sent)
        light = np.clip(np.nan_to_num(light, nan=0.0, posinf=0.0), 0.0, BRIGHTEST * self.white)
        self._through_air(light, ray, along[:, 2], away)
        cover, open_ = np.ones(len(along), np.float32), ~np.isfinite(away) | (away > ends)
        if np.isfinite(ends).any() or not self.sky_shown or self.sky.seen_otherwise:
            self._bound(ray, along, ends, open_, light, cover)
        return light, cover, self._counts(sights, rows, open_)

    def _through_air(self, light: Floats32, ray: Any, up: Floats, away: Floats32) -> None:
        """Take the air between the eyes and what they see into light (n, 3), as the Frame does.  up : (n,)
        what rays gain of height by the metre; away : (n,) how far they run, infinite where they meet nothing.

        What panes mirror is taken to be little beside what is seen through them, where that lies far behind
        them.
        """
        far = np.flatnonzero(np.isfinite(away) & (away > CLEAR_M))
        if not len(far):
            return
        run, begin = away[far].astype(float), np.array(ray.o.z)[far].astype(float)
        first = self._first_met(ray, away)[far].astype(float)
        ground, rise = self.scenes.ground_m, up[far]
        before, whole = (
            air_share(self.sky, ground, begin, begin + rise * distance, distance)[:, None]
            for distance in (first, run)
        )
        # Air before a pane lies over what it mirrors, too; air behind it is seen through it.
        behind = 1.0 - (1.0 - whole) / (1.0 - before)
        through = np.where(first < run, CLEAR_PANE, 1.0)[:, None]
        air = air_colour(self.sky.scale)
        seen = light[far] * (1.0 - behind) + air * (through * behind)
        light[far] = seen * (1.0 - before) + air * before

    def _first_met(self, ray: Any, away: Floats32) -> Floats32:
        """(n,) how far rays run to what they first meet, panes among it.  away : (n,) to what lies behind
        panes."""
        if not self.scenes.has_panes:
            return away
        first = np.array(self.scenes.whole.ray_intersect_preliminary(ray, coherent=True).t)
        # Things in one plane are met in either order.
        nearest: Floats32 = np.where(first < away * (1.0 - 1e-4), first, away)
        return nearest

    def _counts(self, sights: Sights, rows: range, open_: Bools) -> Floats32:
        """(n,) how much samples of the pixels of some rows count: bright sky, where it is ``open_``, less
        than what stands before it, so that edges against it stay smooth, as in the Frame; all alike where
        there is no sky, for there coverage says it."""
        if not self.sky_shown:
            return np.ones(len(open_), np.float32)
        if not open_.any():
            return np.full(len(open_), SOLID_COUNTS, np.float32)
        # The picture is held with what was found for it, so that no other can have its number.
        key = id(sights), rows.start
        if key not in self._sky_counts:
            self._sky_counts[key] = sights, self._of_sky(sights, rows)
        counts: Floats32 = np.where(open_, self._sky_counts[key][1], np.float32(SOLID_COUNTS))
        return counts

    def _of_sky(self, sights: Sights, rows: range) -> Floats32:
        wide = sights.size[0]
        middle = np.column_stack(
            [np.tile(np.arange(wide), len(rows)), np.repeat(np.arange(rows.start, rows.stop), wide)]
        )
        along = sights.through(middle + 0.5, np.zeros((len(middle), 2))).along
        bright = sky_light(self.sky, along).max(axis=1) / np.float32(self.white)
        counts: Floats32 = np.reciprocal(1.0 + np.minimum(bright, np.float32(MOST_COUNTED)), dtype=np.float32)
        return counts

    def _bound(
        self, ray: Any, along: Floats, ends: Floats, open_: Bools, light: Floats32, cover: Floats32
    ) -> None:
        """What lies beyond the far bound is not seen, and where there is no sky nothing covers: of ``open_``
        (n,) rays."""
        if not open_.any():
            return
        seen = sky_light(self.sky, along[open_])
        if self.sky_shown:
            light[open_] = seen
            return
        pane = np.zeros(int(open_.sum()), bool)
        if self.scenes.has_panes:
            through = self.scenes.whole.ray_intersect_preliminary(ray, coherent=True)
            before = np.array(through.t).astype(float)[open_]
            pane = np.isfinite(before) & (before <= ends[open_])
        share = np.where(pane, PANE_COVER, 0.0).astype(np.float32)
        light[open_] = np.maximum(light[open_] - (1.0 - share)[:, None] * seen, 0.0) * (share > 0.0)[:, None]
        cover[open_] = share

    def guides(self, sights: Sights, band: int | None = None) -> Guides:
        """Colour and direction of what is first seen behind panes, the mean of a few samples; of one band,
        the others 0."""
        wide, high = sights.size
        albedo, normal = np.zeros((high, wide, 3), np.float32), np.zeros((high, wide, 3), np.float32)
        weight = np.full((high, wide, 1), 1e-12, np.float32)
        for sample in range(GUIDE_SAMPLES):
            for rows in _some(sights, band):
                ray, along, ends = self._rays(sights, rows, sample)
                there, away, colour, facing = self.scenes.follower.seen(ray)
                there &= away <= ends
                turned = np.where((facing * along).sum(axis=1, keepdims=True) > 0.0, -facing, facing)
                shown = np.where(there[:, None], np.clip(np.nan_to_num(colour), 0.0, 1.0), 1.0)
                towards = np.where(there[:, None], np.nan_to_num(turned), 0.0)
                counts = self._counts(sights, rows, ~there)[:, None]
                shape, some = (len(rows), wide, 3), slice(rows.start, rows.stop)
                albedo[some] += (shown * counts).reshape(shape)
                normal[some] += (towards * counts).reshape(shape)
                weight[some] += counts.reshape(*shape[:2], 1)
        return Guides(albedo / weight, normal / weight)


def bands(size: tuple[int, int]) -> list[range]:
    """The rows of a picture that are followed at one go.  size : pixels."""
    wide, high = size
    rows = max(1, LAUNCH_RAYS // wide)
    return [range(top, min(high, top + rows)) for top in range(0, high, rows)]


def _some(sights: Sights, band: int | None) -> list[range]:
    every = bands(sights.size)
    return every if band is None else [every[band]]


def denoised(light: Floats32, guides: Guides) -> Floats32:
    """Light without grain, (height, width, 3)."""
    import pyoidn

    clean: Floats32 = pyoidn.denoise(light, guides.albedo, guides.normal, hdr=True)
    return np.maximum(clean, 0.0)


def _key(seed: int, pixel: int) -> int:
    """What the draws of a pixel go by; seeds lie far apart."""
    return (seed * 0x9E3779B1 + pixel) & 0xFFFFFFFF
