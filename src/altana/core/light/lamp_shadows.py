"""Light straight from lamps, and where its shadows end on floors and walls: between two points of which one
lies in the shade of a table the picture of the light is drawn finer, and each of its places there looks at
the lamps itself.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from altana.core.conventions import Bools, Floats, Floats32, Ints
from altana.core.geometry.cross import crossed
from altana.core.light.finer import SIGNS, Places
from altana.core.light.gathering import Cancelled, Gatherer, landed
from altana.core.light.light_scene import LightScene
from altana.core.light.luminaires import (
    NEAREST_M,
    Lamplight,
    Luminaire,
    Sources,
    glowing_faces,
    luminaires_of,
    sources_of,
)
from altana.core.light.seen import START_M
from altana.core.model import Model
from altana.core.progress import Progress

#: Points about a place that differ by this share of the brighter one have a shadow's edge between them, or a
#: lamp close by; less than so many lux are nothing to look at, nor what is less than a share of all the light
#: there.
EDGE, LEAST_LUX, LEAST_SHARE = 0.15, 0.3, 0.1
#: So many places on a side at most: those that differ most.
MOST = 40_000
#: A place looks at lamps from so many parts of the step to the next.
BEGINS = np.array([(-0.25, -0.25), (0.25, -0.25), (-0.25, 0.25), (0.25, 0.25)])

#: Which of what glows is reckoned with, by whether it is small.
SMALL, LARGE, ALL = (True,), (False,), (True, False)

#: What reckons lux (n, 3) for sides: positions and normals (n, 3), places to look from (n, k, 3), how near a
#: lamp is taken for (n,).
Reckoning = Callable[[Floats, Floats, Floats | Floats32, Floats], Floats]


@dataclass(frozen=True, slots=True)
class LampReckoning:
    """Reckons the light straight from what glows: ``luminaires``, and the light ``sources`` of the file."""

    luminaires: list[Luminaire]
    sources: Sources
    none: Sources
    scene: LightScene
    progress: Progress | None

    @classmethod
    def of(
        cls, model: Model, share: float, scene: LightScene, progress: Progress | None
    ) -> LampReckoning | None:
        """Of lamps with a share of their light; None where nothing glows."""
        if not glowing_faces(model, share).any() and not (model.lamps and share > 0.0):
            return None
        luminaires = luminaires_of(model, share, scene.rays)
        return cls(luminaires, sources_of(model, share), sources_of(model, 0.0), scene, progress)

    def at(self, share: float, small: tuple[bool, ...]) -> Reckoning:
        """What reckons it once so much of the work is done: from what is small, or not, or both.  It raises
        Cancelled."""
        some = [item for item in self.luminaires if item.small in small]
        points = self.sources if True in small else self.none
        progress = self.progress

        def light(position: Floats, normal: Floats, begins: Floats | Floats32, nearest_m: Floats) -> Floats:
            lamplight = Lamplight(position, normal, begins, nearest_m, self.scene.rays, self.scene.panes)
            lux = lamplight.light(some, points, lambda _: progress is None or progress(share))
            if lux is None:
                raise Cancelled
            return lux

        return light


@dataclass(frozen=True, slots=True)
class DirectLight:
    """Lux straight from lamps: on all ``sides`` (2 n, 3), front sides first; where it is known better than by
    those, what patches of small parts show on their front and on their back (p, 3); and for either side
    places of charts (k,) with what they have more or less (k, 3)."""

    sides: Floats
    on_parts: tuple[Floats, Floats] | None = None
    at_places: tuple[tuple[Ints, Floats], ...] = ()

    def shown(self, side: int, plain: Floats) -> Floats:
        """(f, 3) what places show of it, where ``plain`` (f, 3) is what the points about them have."""
        if not self.at_places:
            return plain
        which, more = self.at_places[side]
        shown = plain.copy()
        shown[which] = np.maximum(shown[which] + more, 0.0)
        return shown


def at_edges(
    model: Model, gatherer: Gatherer, lamps: Floats, light: Floats, bad: Bools, lux_of: Reckoning
) -> tuple[tuple[Ints, Floats], ...]:
    """For either side the places (k,) on the edges of shadows, and lux (k, 3) that they have more or less
    than the points about them say.

    lamps, light : (2 n, 3) lux straight from small lamps, and in all, on both sides of the points.  bad : (2
    n,) sides inside bodies.
    lux_of : reckons by small lamps alone: in the light of a large body shadows have no edges, and single
    places would be blots.
    """
    points, places = gatherer.points, gatherer.places
    half, charts = len(points.position), points.charts
    finer = []
    for side, sign in enumerate(SIGNS):
        own = slice(side * half, (side + 1) * half)
        which = _edges(places, side, lamps[own].mean(axis=1), light[own].mean(axis=1), bad[own])
        face, at, _ = places.where(points, which)
        u, v = charts.u[face], charts.v[face]
        # A chart takes planes together that are nearly one: a place may lie within the floor.
        at, nowhere, _ = landed(model, gatherer.rays, at, crossed(u, v), gatherer.surfaces.owner[face])
        there = ~nowhere
        which, at, u, v = which[there], at[there], u[there], v[there]
        chart, normal = places.chart[which], crossed(u, v) * sign
        step = charts.size[chart] / np.maximum(places.steps[chart], 1)
        aside = (step[:, :1] * BEGINS[:, 0])[..., None] * u[:, None]
        aside += (step[:, 1:] * BEGINS[:, 1])[..., None] * v[:, None]
        begins = at[:, None] + aside + START_M * normal[:, None]
        exact = lux_of(at, normal, begins, np.full(len(which), NEAREST_M))
        corner = places.corner[side][which]
        share = places.share[side][which] * ~bad[own][corner]
        mixed = np.einsum("ik,ikx->ix", share / share.sum(axis=1, keepdims=True), lamps[own][corner])
        finer.append((which, exact - mixed))
    return tuple(finer)


def _edges(places: Places, side: int, lamps: Floats, light: Floats, bad: Bools) -> Ints:
    """(k,) places of a side between points whose light straight from lamps differs.  lamps, light : (n,)
    lux."""
    counts = (places.share[side] > 0.0) & ~bad[places.corner[side]]
    level = lamps[places.corner[side]]
    most = np.where(counts, level, 0.0).max(axis=1)
    differ = most - np.where(counts, level, np.inf).min(axis=1)
    seen = np.where(counts, light[places.corner[side]], 0.0).max(axis=1)
    edge = (differ > EDGE * most) & (differ > LEAST_LUX) & (differ > LEAST_SHARE * seen)
    which = np.flatnonzero(edge)
    if len(which) > MOST:
        which = np.sort(which[np.argsort(-differ[which], kind="stable")[:MOST]])
    return which
