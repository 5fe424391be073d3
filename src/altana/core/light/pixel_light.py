"""The light of the very places that the pixels of one picture show.

The light map knows the light of a room at points a hand apart and evens out what lies between them: behind a
row of books, in the joint of a frame, under a handle.  Where a camera stands still there is time to ask for
each pixel: rays go out from its place as from a point of the map, and what they meet throws on the light that
the map has there (a final gather, as M. Jensen calls it, "Realistic image synthesis using photon mapping",
2001).  One bounce is exact, then, and all before it are as good as the map.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from altana.core.camera.view import View
from altana.core.conventions import Bools, Floats, Floats32, Ints
from altana.core.light.beams import beams
from altana.core.light.gathering import Sides, in_chunks
from altana.core.light.gloss import STRAIGHT
from altana.core.light.lamp_shadows import ALL, LampReckoning
from altana.core.light.light_scene import LightScene
from altana.core.light.lines import Lines
from altana.core.light.luminaires import NEAREST_M
from altana.core.light.map_texels import MapTexels
from altana.core.light.seen import sun_at
from altana.core.light.shape import frames
from altana.core.light.sky import Sky
from altana.core.model import Model
from altana.core.progress import Progress

#: Rays of a place in one round; places at a time.
RAYS, CHUNK = 16, 16_384
SEED = 7
#: Rays leave so far before their place: nearer than those of points, for a pixel may lie in a corner.
BEFORE_M = 0.004
#: What is met nearer than this says what light it has by a line of its own, and what that meets so near, so
#: many times over: the map's points lie farther apart.
NEAR_M, TURNS = 0.12, 3
#: Smoother than this too few of the rays meet what a surface mirrors; the shader has that by other ways
#: (light.frag).
ROUGH_ENOUGH = 0.3
#: Where more of a place's rays meet bodies from within it lies in one: nothing is known of it.
WITHIN = 0.25


@dataclass(frozen=True, slots=True)
class PixelPlaces:
    """Places on surfaces, ``position`` (n, 3) metres, which way they face, ``normal`` (n, 3), and the number
    of the ``pixel`` (n,) that shows each; the way ``to_eye`` (n, 3), and how ``rough`` (n,) they are, 0 where
    they do not shine as paint does."""

    position: Floats
    normal: Floats
    pixel: Ints
    to_eye: Floats
    rough: Floats

    def only(self, which: Ints) -> PixelPlaces:
        """Those (k,) alone."""
        return PixelPlaces(*(getattr(self, name)[which] for name in self.__dataclass_fields__))

    def turns(self, number: int) -> Floats:
        """(n, 2) 0 to 1, for each pixel other ones in each round: white noise, as the denoiser takes for
        noise, and over the rounds evenly spread (the sequence of the plastic number)."""
        drawn = np.random.default_rng(SEED).random((int(self.pixel.max(initial=0)) + 1, 2))[self.pixel]
        turned: Floats = np.modf(drawn + number * np.array([0.7548776662, 0.5698402910]))[0]
        return turned


@dataclass(frozen=True, slots=True)
class LitPixels:
    """What the pixels of a view show: places as seen from its eye, ``offset`` (h, w, 3) float32 metres, which
    way they face, ``normal`` (h, w, 3) float32, their light, ``lux`` (h, w, 3) float32, at most what half
    floats hold, how they shine in it, ``sheen`` (h, w, 3) float32 cd/m2, and whether it is ``known``
    (h, w)."""

    view: View
    offset: Floats32
    normal: Floats32
    lux: Floats32
    sheen: Floats32
    known: Bools


@dataclass(frozen=True, slots=True)
class Gathered:
    """What rays brought to places: ``lux`` (n, 3), what the places throw of it to the eye as paint shines,
    ``sheen`` (n, 3) cd/m2, and whether a place lies before a surface, ``open`` (n,), not within a body."""

    lux: Floats
    sheen: Floats
    open: Bools


@dataclass(frozen=True, slots=True)
class PixelLight:
    """What the light of places is reckoned from: the ``scene`` of a model, and its light map, ``texels``,
    under a sky."""

    model: Model
    scene: LightScene
    texels: MapTexels
    sky: Sky

    def straight(self, places: PixelPlaces, progress: Progress | None = None) -> Floats:
        """(n, 3) lux that comes to places straight from lamps.  Raises Cancelled."""
        position, normal = places.position, places.normal
        count = len(position)
        reckoned = LampReckoning.of(self.model, self.sky.lamps, self.scene, progress)
        if reckoned is None or not count:
            return np.zeros((count, 3))
        begins, near = (position + normal * BEFORE_M)[:, None], np.full(count, NEAREST_M)
        return reckoned.at(0.0, ALL)(position, normal, begins, near)

    def gathered(self, places: PixelPlaces, number: int, progress: Progress | None = None) -> Gathered:
        """What RAYS rays of a round bring to places from sky and surfaces, other rays in each round, and the
        sun by way of smooth planes.  Raises Cancelled."""

        turns = places.turns(number)

        def some(part: Ints) -> tuple[Floats, Floats, Bools]:
            # What is drawn besides is the same for the same places of the same round.
            dice = np.random.default_rng((SEED, number, int(part[0]) if len(part) else 0))
            few = places.only(part)
            light, sheen, open_ = self._gathered(few, turns[part], dice)
            mirrored = self._mirrored(few, turns[part])
            return light + mirrored, sheen + even_sheen(few, mirrored), open_

        parts = in_chunks(np.arange(len(places.position)), CHUNK, some, progress)
        light, sheen, open_ = (np.concatenate(part) for part in zip(*parts, strict=True))
        return Gathered(light, sheen, open_)

    def _mirrored(self, places: PixelPlaces, turns: Floats) -> Floats:
        """(n, 3) lux of the sun by way of smooth planes."""
        sun, everyone = np.asarray(self.sky.sun), np.ones(len(places.position), bool)
        return beams(_sides(places), self.scene, sun, np.asarray(self.sky.sun_lux), everyone, turns)

    def _gathered(
        self, places: PixelPlaces, turns: Floats, dice: np.random.Generator
    ) -> tuple[Floats, Floats, Bools]:
        count, normal = len(places.position), places.normal
        out = _directions(turns) @ frames(normal).astype(np.float32)
        begin = (places.position + normal * BEFORE_M).astype(np.float32)
        lines, inner = self._sent(np.broadcast_to(begin[:, None], out.shape), out)
        counted = np.maximum((~inner).sum(axis=1), 1)[:, None]
        by_ray = _summed(lines.group, self._brought(lines, TURNS, dice), count * RAYS).reshape(count, RAYS, 3)
        sheen = np.einsum("ij,ijk->ik", shines(places, out), by_ray)
        return by_ray.sum(axis=1) / counted, sheen / counted, inner.mean(axis=1) <= WITHIN

    def _sent(self, origin: Floats32, out: Floats32) -> tuple[Lines, Bools]:
        """The rays (n, r, 3) of some places that count, with what mirrors and panes make of them; and which
        meet bodies from within (n, r)."""
        hits = self.scene.rays.meet(origin.reshape(-1, 3), out.reshape(-1, 3), alone=True)
        face = hits.face.reshape(out.shape[:2])
        run = hits.distance_m.astype(np.float32).reshape(out.shape[:2])
        behind, inner = self.scene.surfaces.met(face, out)
        which = np.nonzero(~inner)
        # The group of a line is its ray here: how far its light may be off nobody asks.
        sent = Lines(
            which[0] * out.shape[1] + which[1],
            origin[which],
            out[which],
            face[which],
            run[which],
            behind[which],
            np.ones((len(which[0]), 1), np.float32),
            np.ones(len(which[0]), bool),
        )
        return self.scene.onward(sent), inner

    def _brought(self, lines: Lines, turns: int, dice: np.random.Generator) -> Floats32:
        """(k, 3) what lines bring, lux of one that would come from all sides; of what is met close by, so
        many times more, other lines say what light it has."""
        light = np.empty((len(lines.face), 3), np.float32)
        away = lines.face < 0
        light[away] = self.sky.luminance(lines.out[away]) * (np.float32(np.pi) * lines.passed[away])
        met = lines.only(~away)
        light[~away] = self._thrown(met, turns, dice) * met.passed
        return light

    def _thrown(self, met: Lines, turns: int, dice: np.random.Generator) -> Floats32:
        """(k, 3) what surfaces throw along lines that meet them."""
        surfaces, face = self.scene.surfaces, met.face
        place = met.origin + met.out * met.run[:, None]
        # Of frosted glass one sees the light that falls on it from beyond.
        back = met.behind ^ surfaces.frosted[face]
        facing = np.where(back[:, None], np.float32(-1.0), np.float32(1.0)) * surfaces.normal[face]
        sunny = self._sunny(place, facing)
        albedo, gloss = surfaces.albedo[face], surfaces.gloss
        mirrored = np.zeros((len(face), 1), np.float32)
        if gloss is not None:
            # Others of the lines are what smooth things mirror, but for the sun in those that are small or
            # bent.
            sheen = gloss.sheen[face][:, None]
            albedo = np.maximum(albedo - sheen, np.float32(0.0))
            mirrored = sheen * (gloss.plane[face] < 0)[:, None]
        around = self.texels.at(place, face, back, dice.random((2, len(face)), np.float32))
        near = np.flatnonzero(met.run < NEAR_M)
        if turns and len(near):
            around[near] = self._around(place[near], facing[near], turns - 1, dice)
        thrown: Floats32 = albedo * (around + sunny) + mirrored * sunny
        return thrown

    def _around(self, place: Floats32, facing: Floats32, turns: int, dice: np.random.Generator) -> Floats32:
        """(k, 3) lux about places, by one line of each: in a joint the map has no points of its own."""
        square, around = dice.random((2, len(place)))
        radius, angle = np.sqrt(square), 2.0 * np.pi * around
        way = np.stack([radius * np.cos(angle), radius * np.sin(angle), np.sqrt(1.0 - square)], axis=1)
        out = np.einsum("ik,ikj->ij", way, frames(facing.astype(float))).astype(np.float32)
        lines, _ = self._sent((place + facing * np.float32(BEFORE_M / 2))[:, None], out[:, None])
        light = _summed(lines.group, self._brought(lines, turns, dice), len(place))
        return light.astype(np.float32)

    def _sunny(self, place: Floats32, facing: Floats32) -> Floats32:
        """(k, 3) lux of the sun on places that face (k, 3)."""
        sunny = np.zeros((len(place), 3), np.float32)
        towards = np.asarray(self.sky.sun, np.float32)
        if towards[2] <= 0.0:
            return sunny
        cosine = facing @ towards
        lit = np.flatnonzero(cosine > 0.0)
        left = sun_at(self.scene.rays, self.scene.panes, place[lit], facing[lit], towards)
        sunny[lit] = cosine[lit, None] * left * np.asarray(self.sky.sun_lux, np.float32)
        return sunny


def shines(places: PixelPlaces, out: Floats32) -> Floats:
    """(n, r) what places throw to the eye, as paint, wood and stone shine, of the light that comes from
    directions ``out`` (n, r, 3): candelas per square metre of a lux from there (B. Walter and others,
    "Microfacet models for refraction", 2007, as final pictures have it)."""
    half = out + places.to_eye[:, None]
    half /= np.maximum(np.linalg.norm(half, axis=2, keepdims=True), 1e-9)
    normal = places.normal
    facing, arriving = (np.clip(np.einsum("ik,ijk->ij", normal, way), 1e-3, 1.0) for way in (half, out))
    along = np.clip(np.einsum("ij,ij->i", normal, places.to_eye), 1e-3, 1.0)[:, None]
    wide = np.maximum(places.rough, ROUGH_ENOUGH)[:, None] ** 4
    spread = wide / (np.pi * (facing**2 * (wide - 1.0) + 1.0) ** 2)
    unhidden = 1.0 / (
        (arriving + np.sqrt(wide + (1.0 - wide) * arriving**2))
        * (along + np.sqrt(wide + (1.0 - wide) * along**2))
    )
    fresnel = dielectric(np.einsum("ik,ijk->ij", places.to_eye, half))
    return np.where((places.rough > 0.0)[:, None], spread * unhidden * fresnel, 0.0)


def dielectric(cosine: Floats) -> Floats:
    """What paint, lacquer and stone (index 1.5) mirror of light that meets them at an angle of this cosine
    (Fresnel, not polarized), as light.frag has it."""
    c = np.clip(cosine, 0.0, 1.0)
    g = np.sqrt(1.25 + c * c)
    aside, along = (g - c) / (g + c), (c * (g + c) - 1.0) / (c * (g - c) + 1.0)
    share: Floats = 0.5 * aside * aside * (1.0 + along * along)
    return share


def even_sheen(places: PixelPlaces, lux: Floats) -> Floats:
    """(n, 3) cd/m2 that places throw to the eye, as paint shines, of light (n, 3) that is taken to come from
    all sides (split sum, B. Karis' fit)."""
    rough = places.rough
    along = np.clip(np.einsum("ij,ij->i", places.normal, places.to_eye), 0.0, 1.0)
    fit = rough[:, None] * (-1.0, -0.0275, -0.572, 0.022) + (1.0, 0.0425, 1.04, -0.04)
    share = np.minimum(fit[:, 0] ** 2, np.exp2(-9.28 * along)) * fit[:, 0] + fit[:, 1]
    sheen = STRAIGHT * (-1.04 * share + fit[:, 2]) + 1.04 * share + fit[:, 3]
    return lux * (np.where(rough > 0.0, np.maximum(sheen, 0.0), 0.0) / np.pi)[:, None]


def _directions(turns: Floats) -> Floats32:
    """(n, RAYS, 3) directions about +Z, denser towards it by the cosine; turns : (n, 2)."""
    index = np.arange(RAYS)
    square = np.modf((index + 0.5) / RAYS + turns[:, :1])[0]
    around = 2.0 * np.pi * np.modf(index * 0.6180339887 + turns[:, 1:])[0]
    radius = np.sqrt(square)
    ways = np.stack([radius * np.cos(around), radius * np.sin(around), np.sqrt(1.0 - square)], axis=2)
    return ways.astype(np.float32)


def _summed(place: Ints, light: Floats32, count: int) -> Floats:
    """(count, 3) the sums of light (k, 3) by places (k,)."""
    return np.stack([np.bincount(place, light[:, k], count) for k in range(3)], axis=1)


def _sides(places: PixelPlaces) -> Sides:
    count = len(places.position)
    nobody = np.full(count, -1, np.int64)
    return Sides(places.position, places.normal, nobody, np.zeros(count), np.zeros(count, bool))
