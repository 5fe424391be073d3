"""Indirect light: how much sky, and how much light from lit surfaces, reaches each point.

From every point rays go out over the hemisphere, denser towards the normal (cosine weighted), so that their plain
mean times pi is the irradiance.  Where a ray leaves the model it brings the sky; where it meets a surface it
brings what the sun and the other surfaces throw there.  The meetings are kept, so each further bounce is a mean
over known pairs (the gathering form of the radiosity equation).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import scipy

from altana.core.conventions import Bools, Floats, Floats32, Ints, Ints32
from altana.core.geometry.rays import RayScene
from altana.core.geometry.shells import outsides
from altana.core.light.finer import Places
from altana.core.light.gathering import (
    FROSTED,
    FROSTED_PASSES,
    GROUPS,
    START_M,
    Cancelled,
    Gathered,
    Gatherer,
    Progress,
    Sides,
    Surfaces,
    drop_buried,
    normals_of,
    on_surface,
    panes_of,
)
from altana.core.light.lamps import Glow, glows_of
from altana.core.light.lightmap import LightPoints
from altana.core.light.lonely import with_lonely
from altana.core.light.painting import carriers, painted
from altana.core.light.sky import Sky
from altana.core.model import GLASS, Model

__all__ = ["Cancelled", "LightMap", "Progress", "solve"]


BOUNCES = 10
#: Surfaces whose light may be off by more than this share get more rays, the rest of the work after the FIRST part; so many bounces are enough
#: to tell, and darker than this it does not matter.
MUCH_GRAIN, FIRST, FEW_BOUNCES, LEAST_SEEN_LUX = 0.2, 0.75, 4, 0.5
#: A lamp is taken for no nearer than this; the last bit before it is the lamp itself; less light than this is not reckoned.
NEAREST_LAMP_M, LAMP_BODY_M, LEAST_LUX = 0.15, 0.25, 0.02


@dataclass(frozen=True, slots=True)
class LightMap:
    """``pixels`` (height, width, 3) float32 irradiance in lux by sky and bounces, without direct sun: the front sides of surfaces in
    the upper half, the back sides in the lower one; ``uv`` (m, 3, 2) float32 the place of each triangle corner, in texels of the
    upper half."""

    pixels: Floats32
    uv: Floats32


def solve(
    model: Model, points: LightPoints, albedo: Floats, sky: Sky, progress: Progress | None = None
) -> LightMap:
    """The light map of a model under a sky.

    albedo : (materials, 3) linear reflectances.  progress : called with 0..1; returning False cancels
    (raises Cancelled).
    """
    pane = np.array([m.kind == GLASS for m in model.materials], bool)
    frosted = pane & np.array([m.roughness > FROSTED for m in model.materials], bool)
    # Clear panes are looked through, and foliage and other cut-out pictures let most of the soft light through.
    clear = (pane & ~frosted) | np.array([m.has_holes for m in model.materials], bool)
    rays = RayScene.of(model, chosen=~clear[model.face_material])
    sense = outsides(model)
    surfaces = _surfaces_of(model, albedo, pane, frosted, sense)
    whole = RayScene.of(model) if clear.any() else rays
    place, off = on_surface(model, points, whole)
    places = Places.of(points, place, off, rays)
    points, place, off, places = with_lonely(model, points, place, off, places, rays, whole, surfaces)
    own = surfaces.outside[points.face]
    sides = Sides(
        np.concatenate([place, place]),
        np.concatenate([points.normal, -points.normal]),
        np.concatenate([points.owner, points.owner]),
        np.tile(points.reach, 2),
        np.concatenate([own < 0, own > 0]),
    )
    count = len(sides.position)
    gathered = Gathered(
        np.zeros((count, 3)), np.zeros((count, GROUPS)), np.zeros((4, 0), np.int32), np.zeros(0, np.float32),
        np.zeros(0, np.float32),
        np.zeros(count, bool), np.zeros(count),
    )  # fmt: skip
    panes = panes_of(model, pane & ~frosted, sense)
    gatherer = Gatherer(points, places, sides, rays, panes, sky, surfaces, gathered)
    gatherer.all(_part_of(progress, 0.0, FIRST))
    gathered.bad |= np.tile(off, 2)
    _drop_buried_twice(gathered)
    lamps = _lamplight(sides, rays, glows_of(model, sky.lamps), progress)
    gatherer.more(_grainy(points, gathered, surfaces, sky, lamps), _part_of(progress, FIRST, 1.0))
    _drop_buried_twice(gathered)
    return _bounced(points, gathered, surfaces, sky, lamps, places)


def _surfaces_of(
    model: Model, albedo: Floats, pane: Bools, frosted: Bools, sense: npt.NDArray[np.int8]
) -> Surfaces:
    shown = np.clip(albedo, 0.0, 0.92)
    shown[frosted] *= FROSTED_PASSES
    return Surfaces(
        normals_of(model, np.arange(len(model.faces))).astype(np.float32),
        np.where(pane[model.face_material], 0, sense).astype(np.int8),
        model.face_objects().astype(np.int64),
        shown[model.face_material].astype(np.float32),
        frosted[model.face_material],
    )


def _part_of(progress: Progress | None, start: float, end: float) -> Progress | None:
    return None if progress is None else lambda share: progress(start + (end - start) * share)


def _drop_buried_twice(gathered: Gathered) -> None:
    """The second time for what lies behind what was found to be inside a body the first time."""
    for _ in range(2):
        drop_buried(gathered)


def _grainy(points: LightPoints, gathered: Gathered, surfaces: Surfaces, sky: Sky, lamps: Floats) -> Ints:
    """(k,) sides on surfaces whose light is not known well by the rays they had: in dim rooms few of them meet what is bright."""
    receiver, met, face, _ = gathered.pairs
    count = len(gathered.sky)
    reflect = surfaces.albedo.mean(axis=1)[face] * gathered.weight[receiver] * gathered.passed
    sun = gathered.sunlit * float(np.mean(sky.sun_lux))
    steady = gathered.sky.mean(axis=1) + lamps.mean(axis=1) + np.bincount(receiver, reflect * sun, count)
    (throws,) = _throwing(receiver, met, reflect[:, None], count)
    light = steady
    for _ in range(FEW_BOUNCES):
        light = steady + throws @ light
    grain = _grain(gathered, reflect * (sun + light[met]))
    # All of a surface or none of it: those alone that have much grain are those that met more light than they should, and taking only theirs
    # away would darken the whole.
    good = ~gathered.bad
    surface = points.surfaces()
    total, off = (np.bincount(surface, weights=values * good) for values in (light, grain))
    much = (off > MUCH_GRAIN * total) & (total > LEAST_SEEN_LUX * np.bincount(surface, weights=good))
    return np.flatnonzero(good & much[surface])


def _lamplight(points: Sides, rays: RayScene, glow: Glow, progress: Progress | None) -> Floats:
    """(n, 3) irradiance straight from what glows, lux: each piece throws by the cosine of its own side (Lambert), or evenly."""
    made = np.zeros((len(points.position), 3))
    for number in range(len(glow.place)):
        if progress is not None and not progress(0.999):
            raise Cancelled
        run = glow.place[number] - points.position
        away2 = np.maximum(np.einsum("ij,ij->i", run, run), NEAREST_LAMP_M**2)
        towards = run / np.sqrt(away2)[:, None]
        cosine = np.einsum("ij,ij->i", towards, points.normal)
        normal = glow.normal[number]
        throws = np.ones(len(run))
        if normal.any():
            ahead = -(towards @ normal)
            cone = glow.cosine[number]
            throws = np.where(ahead > cone, 1.0, 0.0) if cone > -1.0 else np.maximum(ahead, 0.0)
        strength = cosine * throws / away2
        # What would not be seen costs no rays.
        lit = np.flatnonzero(strength * glow.candela[number].max() > LEAST_LUX)
        if not len(lit):
            continue
        start = points.position[lit] + points.normal[lit] * START_M
        reach = np.sqrt(away2[lit]) - LAMP_BODY_M
        clear = ~rays.blocked(start, towards[lit], reach)
        some = lit[clear]
        made[some] += strength[some, None] * glow.candela[number]
    return made


def _bounced(
    points: LightPoints, gathered: Gathered, surfaces: Surfaces, sky: Sky, lamps: Floats, places: Places
) -> LightMap:
    receiver, met, face, _ = gathered.pairs
    sunlit = gathered.sunlit
    count = 2 * len(points.position)
    weight = (gathered.weight[receiver] * gathered.passed).astype(np.float32)
    reflect = surfaces.albedo[face] * weight[:, None]
    sun = np.asarray(sky.sun_lux, np.float32)
    steady = gathered.sky + lamps + _sum(receiver, reflect * (sunlit[:, None] * sun), count)
    # One bounce is a product with a thin matrix for each colour.
    throws = _throwing(receiver, met, reflect, count)
    light = steady.copy()
    carried = carriers(points, gathered.bad)
    for _ in range(BOUNCES):
        light = light[carried]
        light = steady + np.stack([throw @ light[:, k] for k, throw in enumerate(throws)], axis=1)
    # The light straight from lamps has no grain, and its pools are not to be evened out.
    grain = _grain(gathered, _thrown(reflect, sunlit, sky, light.astype(np.float32)[met]))
    return LightMap(painted(points, light, lamps, grain, gathered.bad, carried, places), places.uv)


def _throwing(
    receiver: Ints32, met: Ints32, reflect: Floats | Floats32, count: int
) -> list[scipy.sparse.csr_array]:
    """For each column of ``reflect`` (k, c) what sides (count, count) throw at each other.  Put together by hand: pairs that there are twice
    need not be found and added up, which takes as long as all the bounces."""
    order = np.argsort(receiver, kind="stable")
    starts = np.zeros(count + 1, np.int64)
    np.cumsum(np.bincount(receiver, minlength=count), out=starts[1:])
    columns = met[order]
    return [
        scipy.sparse.csr_array((reflect[order, k], columns, starts), shape=(count, count))
        for k in range(reflect.shape[1])
    ]


def _thrown(reflect: Floats32, sunlit: Floats32, sky: Sky, light: Floats32) -> Floats32:
    """(k,) what each ray that met something brings, lux, the mean of its colours."""
    sun = np.asarray(sky.sun_lux, np.float32)
    brought: Floats32 = np.einsum("ij,ij->i", reflect, sunlit[:, None] * sun + light) / np.float32(3.0)
    return brought


def _grain(gathered: Gathered, brought: Floats | Floats32) -> Floats:
    """(n,) how far the light of each side may be off, lux: the standard error from its rays in four groups."""
    receiver, _, _, group = gathered.pairs
    count = len(gathered.sky)
    whole = gathered.groups + np.bincount(receiver * GROUPS + group, brought, count * GROUPS).reshape(
        count, GROUPS
    )
    error: Floats = whole.std(axis=1, ddof=1) * np.sqrt(GROUPS)
    return error


def _sum(index: Ints32, values: Floats32, count: int) -> Floats:
    return np.stack([np.bincount(index, weights=values[:, k], minlength=count) for k in range(3)], axis=1)
