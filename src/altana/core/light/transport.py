"""Indirect light: how much sky, and how much light from lit surfaces, reaches each point.

From every point rays go out over the hemisphere, denser towards the normal (cosine weighted), so that their
plain mean times pi is the irradiance.  Where a ray leaves the model it brings the sky; where it meets a
surface it brings what the sun and the other surfaces throw there.  The meetings are kept, so each further
bounce is a mean over known pairs (the gathering form of the radiosity equation).
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace

import numpy as np

from altana.core.conventions import Bools, Floats, Floats32, Ints
from altana.core.light.beams import beams
from altana.core.light.closer import CloserPlaces
from altana.core.light.far_sky import FarSky
from altana.core.light.finer import Places
from altana.core.light.gathering import MORE, RAYS, Cancelled, Gatherer, Sides, on_surface
from altana.core.light.joined import joined, surfaces_in_rooms
from altana.core.light.lamp_shadows import ALL, LARGE, SMALL, DirectLight, LampReckoning, Reckoning, at_edges
from altana.core.light.light_scene import LightScene
from altana.core.light.lightmap import LightPoints
from altana.core.light.lonely import sight_of, with_lonely
from altana.core.light.luminaires import NEAREST_M
from altana.core.light.painting import carriers, painted
from altana.core.light.seams import without_seams
from altana.core.light.seen import START_M, Seen
from altana.core.light.shape import fan
from altana.core.light.sky import Sky
from altana.core.light.throwing import Exchange, Throwing
from altana.core.model import Model
from altana.core.progress import Progress

__all__ = ["Cancelled", "LightMap", "Lighting", "solve"]


BOUNCES = 10
#: Surfaces whose light may be off by more than this share get more rays, the rest of the work after the FIRST
#: part; so many bounces are enough to tell, and darker than this it does not matter.
MUCH_GRAIN, FIRST, FEW_BOUNCES, LEAST_SEEN_LUX = 0.2, 0.75, 4, 0.5
#: The sky of one ray is much where it would be more than this share of all light; by so many ways the sky is
#: measured.
MUCH_SKY, HALF_SPACE = 0.15, 256
#: From so many places of its cell each side looks at lamps.
LAMP_BEGINS = 4
#: With so much of the work done all rays but those to far sky are known, and all.
NEARER, NEARLY = 0.9, 0.97


@dataclass(frozen=True, slots=True)
class LightMap:
    """``pixels`` (height, width, 3) float32 irradiance in lux by sky and bounces, without direct sun: the
    front sides of surfaces in the upper half, the back sides in the lower one; ``uv`` (m, 3, 2) float32 the
    place of each triangle corner, in texels of the upper half."""

    pixels: Floats32
    uv: Floats32


def solve(
    model: Model, points: LightPoints, albedo: Floats, sky: Sky, progress: Progress | None = None
) -> LightMap:
    """The light map of a model under a sky.

    albedo : (materials, 3) linear reflectances.  progress : called with 0..1; returning False cancels
    (raises Cancelled).
    """
    return Lighting.of(model, points, albedo, progress).lit(sky, progress)


@dataclass(slots=True)
class Lighting:
    """What the points of a model see, kept: light maps under several skies need few rays more than those to
    the sun.

    ``seen`` by RAYS rays of each side; ``more`` by the MORE rays of those sides, ``asked`` (n,), that needed
    them under some sky.
    """

    model: Model
    points: LightPoints
    gatherer: Gatherer
    seen: Seen
    #: (n,) the side whose light each side throws on.
    carried: Ints
    #: (2, charts) the room each side of the points of charts lies in.
    rooms: Ints
    asked: Bools
    more: Seen | None = field(default=None)
    far: FarSky = field(init=False)
    #: Where lamps are reckoned on small parts, and which sides of those places are buried; once lamps were
    #: on.
    parts: tuple[CloserPlaces, Bools] | None = field(default=None)

    def __post_init__(self) -> None:
        self.far = FarSky(self.gatherer)

    @classmethod
    def of(
        cls, model: Model, points: LightPoints, albedo: Floats, progress: Progress | None = None
    ) -> Lighting:
        """Look round from all points.  albedo, progress : as for :func:`solve`.  Raises Cancelled."""
        scene = LightScene.of(model, albedo)
        rays, whole, surfaces = scene.rays, scene.whole, scene.surfaces
        place, off, face = on_surface(model, points, whole)
        points = replace(points, face=face, owner=model.face_objects()[face].astype(np.int64))
        places = Places.of(points, place, off, rays, sight_of(points, place, rays, surfaces))
        points, place, off, places = with_lonely(model, points, place, off, places, rays, whole, surfaces)
        own = surfaces.outside[points.face]
        sides = Sides(
            np.concatenate([place, place]),
            np.concatenate([points.normal, -points.normal]),
            np.concatenate([points.owner, points.owner]),
            np.tile(points.reach, 2),
            np.concatenate([own < 0, own > 0]),
        )
        gatherer = Gatherer(points, places, sides, scene)
        seen = gatherer.all(_part_of(progress, 0.0, FIRST))
        seen = replace(seen, bad=seen.bad | np.tile(off, 2)).without_buried()
        rooms = joined(points, place, rays)
        gatherer = replace(gatherer, places=without_seams(places, points, rooms, seen.bad, rays))
        asked = np.zeros(len(own) * 2, bool)
        return cls(model, points, gatherer, seen, carriers(points, seen.bad, rays), rooms, asked)

    def lit(self, sky: Sky, progress: Progress | None = None, rough: bool = False) -> LightMap:
        """The light map under a sky.  rough : lamps shine on small parts as on the points about them.  Raises
        Cancelled."""
        gatherer, seen = self.gatherer, self.seen
        reckoned = LampReckoning.of(self.model, sky.lamps, gatherer.scene, progress)
        small, large = self._lamplight(reckoned)
        lamps = small + large
        at_once: Floats = lamps + beams(
            gatherer.sides, gatherer.scene, np.asarray(sky.sun), np.asarray(sky.sun_lux), ~seen.bad
        )
        _go_on(progress, FIRST)
        thrown = Throwing.of(seen, gatherer, sky, lamps)
        _go_on(progress, FIRST)
        weight = 1.0 / np.maximum(seen.count, 1.0)
        grainy, dim = self._grainy(sky, Exchange(thrown.grey(), None, weight, at_once))
        more = None
        if grainy.any():
            closer = self._seen_closer(grainy, _part_of(progress, FIRST, NEARER))
            far = self.far.light(sky, grainy & dim, seen, closer, _part_of(progress, NEARER, NEARLY))
            _go_on(progress, NEARLY)
            more = Throwing.of(closer, gatherer, sky, lamps).with_steady(far)
            weight = 1.0 / np.maximum(seen.count + closer.count, 1.0)
        _go_on(progress, NEARLY)
        light, grain = Exchange(thrown, more, weight, at_once).light(BOUNCES, self.carried)
        _go_on(progress, NEARLY)
        direct = DirectLight(lamps)
        if reckoned is not None and not rough:
            edges = at_edges(self.model, gatherer, small, light, seen.bad, reckoned.at(NEARLY, SMALL))
            direct = DirectLight(lamps, self._on_parts(reckoned.at(NEARLY, ALL)), edges)
        # The light straight from lamps has no grain, and its pools are not to be evened out.
        colours = painted(
            self.points, light, direct, grain, seen.bad, self.carried, gatherer.places, self.rooms
        )
        return LightMap(colours, gatherer.places.uv)

    def _lamplight(self, reckoned: LampReckoning | None) -> tuple[Floats, Floats]:
        """(n, 3) lux straight from what glows: from what is small, and from what is not.  Raises
        Cancelled."""
        sides = self.gatherer.sides
        if reckoned is None:
            return np.zeros((len(sides.position), 3)), np.zeros((len(sides.position), 3))
        begins = self.gatherer.begins(np.arange(len(sides.position)), LAMP_BEGINS)
        near = np.full(len(sides.position), NEAREST_M)
        small, large = (
            reckoned.at(FIRST, which)(sides.position, sides.normal, begins, near) for which in (SMALL, LARGE)
        )
        return small, large

    def _on_parts(self, reckoned: Reckoning) -> tuple[Floats, Floats]:
        """What of the light straight from lamps patches show on either side (p, 3).  Raises Cancelled."""
        gatherer = self.gatherer
        if self.parts is None:
            places = CloserPlaces.of(self.points, self.model)
            self.parts = places, places.buried(gatherer.rays, gatherer.surfaces)
        places, buried = self.parts
        position, normal = places.sides()
        near = np.tile(np.maximum(places.nearest_m, NEAREST_M), 2)
        return places.shown(reckoned(position, normal, (position + normal * START_M)[:, None], near), buried)

    def _seen_closer(self, sides: Bools, progress: Progress | None) -> Seen:
        """What some sides (n,) see by more rays: those that nobody asked for before are looked from now.
        Raises Cancelled."""
        new = np.flatnonzero(sides & ~self.asked)
        if len(new):
            seen_more = self.gatherer.more(new, progress)
            seen_more = replace(seen_more, bad=self.seen.bad).without_buried(1)
            self.more = seen_more if self.more is None else self.more.with_more(seen_more)
            self.asked[new] = True
        assert self.more is not None
        return self.more.only(sides)

    def _grainy(self, sky: Sky, exchange: Exchange) -> tuple[Bools, Bools]:
        """(n,) sides on surfaces whose light is not known well by the rays they had: in dim rooms few of them
        meet what is bright; and (n,) those that are so dim that the sky of one ray more or less would be
        much."""
        light, grain = exchange.light(FEW_BOUNCES)
        # All of a surface or none of it: those alone that have much grain are those that met more light than
        # they should, and taking only theirs away would darken the whole.
        good = ~self.seen.bad
        surface = surfaces_in_rooms(self.points, self.rooms)
        total, off = (np.bincount(surface, weights=values * good) for values in (light[:, 0], grain))
        much = (off > MUCH_GRAIN * total) & (total > LEAST_SEEN_LUX * np.bincount(surface, weights=good))
        grainy: Bools = good & much[surface]
        whole = np.pi * float(sky.luminance(fan(HALF_SPACE).astype(np.float32)).mean())
        dim: Bools = (light[:, 0] > LEAST_SEEN_LUX) & (MUCH_SKY * light[:, 0] * (RAYS + MORE) < whole)
        return grainy, dim


def _go_on(progress: Progress | None, share: float) -> None:
    if progress is not None and not progress(share):
        raise Cancelled


def _part_of(progress: Progress | None, start: float, end: float) -> Progress | None:
    return None if progress is None else lambda share: progress(start + (end - start) * share)
