"""Indirect light: how much sky, and how much light from lit surfaces, reaches each point.

From every point rays go out over the hemisphere, denser towards the normal (cosine weighted), so that their plain
mean times pi is the irradiance.  Where a ray leaves the model it brings the sky; where it meets a surface it
brings what the sun and the other surfaces throw there.  The meetings are kept, so each further bounce is a mean
over known pairs (the gathering form of the radiosity equation).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Floats, Floats32
from altana.core.geometry.rays import RayScene
from altana.core.light.lamps import Glow, glows_of
from altana.core.light.lightmap import LightPoints
from altana.core.light.sky import Sky
from altana.core.model import GLASS, Model

RAYS = 56
BOUNCES = 6
CHUNK = 2048
#: Light lost in a pane of clear glass is left out of the rays and put back as one mean loss.
START_M = 0.012
#: A lamp is taken for no nearer than this; the last bit before it is the lamp itself; less light than this is not reckoned.
NEAREST_LAMP_M, LAMP_BODY_M, LEAST_LUX = 0.15, 0.25, 0.02
Progress = Callable[[float], bool]


class Cancelled(Exception):
    """The person asked to stop."""


@dataclass(frozen=True, slots=True)
class LightMap:
    """``pixels`` (height, width, 3) float32 irradiance in lux by sky and bounces, without direct sun;
    ``uv`` (m, 3, 2) float32 the place of each triangle corner, in texels."""

    pixels: Floats32
    uv: Floats32


def solve(
    model: Model, points: LightPoints, albedo: Floats, sky: Sky, progress: Progress | None = None
) -> LightMap:
    """The light map of a model under a sky.

    albedo : (materials, 3) linear reflectances.  progress : called with 0..1; returning False cancels
    (raises Cancelled).
    """
    # Foliage and other cut-out pictures let most of the soft light through.
    glass = np.array([m.kind == GLASS or m.has_holes for m in model.materials], bool)
    rays = RayScene.of(model, chosen=~glass[model.face_material])
    texel_of_face = _texel_of_face(points)
    face_albedo = np.clip(albedo, 0.0, 0.92)[model.face_material]
    normal = _normals(model, np.arange(len(model.faces)))
    lookup = np.full(points.size[0] * points.size[1], -1, np.int64)
    lookup[points.texel[:, 1] * points.size[0] + points.texel[:, 0]] = np.arange(len(points.position))
    gathered = _gather(points, rays, sky, normal, lookup[texel_of_face], progress)
    lamps = _lamplight(points, rays, glows_of(model, sky.lamps), progress)
    return _bounced(points, gathered, face_albedo, sky, lamps)


@dataclass(slots=True)
class _Gathered:
    sky: Floats  # (n, 3) irradiance straight from the sky
    pairs: npt.NDArray[np.int64]  # (k, 3) receiving point, met point, met face
    sunlit: Floats  # (k,) cosine of the sun at the meeting, 0 in shadow
    bad: npt.NDArray[np.bool_]  # (n,) points that lie inside a body


def _texel_of_face(points: LightPoints) -> npt.NDArray[np.int64]:
    middle = np.floor(points.uv.mean(axis=1)).astype(np.int64)
    place: npt.NDArray[np.int64] = middle[:, 1] * points.size[0] + middle[:, 0]
    return place


def _normals(model: Model, faces: npt.NDArray[np.intp]) -> Floats:
    a, b, c = (model.vertices[model.faces[faces, k]].astype(float) for k in range(3))
    normal = np.cross(b - a, c - a)
    unit: Floats = normal / np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-20)
    return unit


def _directions(count: int, seed: int) -> Floats:
    """(count, RAYS, 3) cosine-weighted directions about +Z: one even spiral, turned for every point."""
    index = np.arange(RAYS) + 0.5
    radius = np.sqrt(index / RAYS)
    turn = index * np.pi * (3.0 - np.sqrt(5.0))
    start = np.random.default_rng(seed).uniform(0, 2 * np.pi, (count, 1))
    angle = turn[None] + start
    up = np.sqrt(1.0 - radius**2)
    return np.stack(
        [radius * np.cos(angle), radius * np.sin(angle), np.broadcast_to(up, angle.shape)], axis=-1
    )


def _frame(normal: Floats) -> Floats:
    helper = np.where(np.abs(normal[:, 2:3]) > 0.9, (1.0, 0.0, 0.0), (0.0, 0.0, 1.0))
    side = np.cross(helper, normal)
    side /= np.linalg.norm(side, axis=1, keepdims=True)
    return np.stack([side, np.cross(normal, side), normal], axis=1)


def _gather(
    points: LightPoints,
    rays: RayScene,
    sky: Sky,
    normal: Floats,
    point_of_face: npt.NDArray[np.int64],
    progress: Progress | None,
) -> _Gathered:
    count = len(points.position)
    from_sky = np.zeros((count, 3))
    bad = np.zeros(count, bool)
    pairs, sunlit = [], []
    sun = np.asarray(sky.sun)
    for start in range(0, count, CHUNK):
        if progress is not None and not progress(start / count):
            raise Cancelled
        some = slice(start, min(start + CHUNK, count))
        n = points.normal[some]
        out = np.einsum("pri,pij->prj", _directions(len(n), start), _frame(n)).reshape(-1, 3)
        origin = np.repeat(points.position[some] + n * START_M, RAYS, axis=0)
        hits = rays.meet(origin, out)
        receiver = np.repeat(np.arange(start, start + len(n)), RAYS)
        away = hits.face < 0
        np.add.at(from_sky, receiver[away], sky.luminance(out[away]))
        met = ~away
        facing = np.einsum("ij,ij->i", normal[hits.face[met]], out[met])
        behind = facing > 0.0
        bad[some] = (
            np.bincount(
                receiver[met] - start, weights=behind & (hits.distance_m[met] < 0.6), minlength=len(n)
            )
            > RAYS * 0.4
        )
        pairs.append(np.stack([receiver[met], point_of_face[hits.face[met]], hits.face[met]], axis=1))
        sunlit.append(_sun_on(rays, sun, origin[met], out[met], hits.distance_m[met], normal[hits.face[met]]))
    return _Gathered(from_sky * (np.pi / RAYS), np.concatenate(pairs), np.concatenate(sunlit), bad)


def _sun_on(
    rays: RayScene, sun: Floats, origin: Floats, out: Floats, distance: Floats, normal: Floats
) -> Floats:
    facing = np.where(np.einsum("ij,ij->i", normal, out)[:, None] > 0.0, -normal, normal)
    cosine = facing @ sun
    lit = np.flatnonzero(cosine > 0.0)
    result = np.zeros(len(cosine))
    if sun[2] > 0.0 and len(lit):
        place = origin[lit] + out[lit] * distance[lit, None] + facing[lit] * START_M
        clear = ~rays.shaded(place, np.tile(sun, (len(lit), 1)))
        result[lit[clear]] = cosine[lit[clear]]
    return result


def _lamplight(points: LightPoints, rays: RayScene, glow: Glow, progress: Progress | None) -> Floats:
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


def _bounced(points: LightPoints, gathered: _Gathered, albedo: Floats, sky: Sky, lamps: Floats) -> LightMap:
    receiver, met, face = gathered.pairs.T
    known = met >= 0
    receiver, met, face, sunlit = receiver[known], met[known], face[known], gathered.sunlit[known]
    count = len(points.position)
    reflect = albedo[face] / RAYS
    by_sun = reflect * sunlit[:, None] * np.asarray(sky.sun_lux)
    steady = gathered.sky + lamps + _sum(receiver, by_sun, count)
    light = steady.copy()
    for _ in range(BOUNCES):
        light = _filled(points, light, gathered.bad)
        light = steady + _sum(receiver, reflect * light[met], count)
    # The light straight from lamps has no grain, and its pools are not to be evened out.
    light = _evened(points, _filled(points, light - lamps, gathered.bad)) + lamps
    pixels = np.zeros((points.size[1], points.size[0], 3), np.float32)
    pixels[points.texel[:, 1], points.texel[:, 0]] = light
    return LightMap(pixels, points.uv)


def _sum(index: npt.NDArray[np.int64], values: Floats, count: int) -> Floats:
    return np.stack([np.bincount(index, weights=values[:, k], minlength=count) for k in range(3)], axis=1)


def _evened(points: LightPoints, light: Floats) -> Floats:
    """The grain of few rays taken out: each point mixed with its neighbours in the same chart (1 2 1 both ways)."""
    width, height = points.size
    grid = np.zeros((height + 2, width + 2, 3))
    facing = np.full((height + 2, width + 2, 3), 9.0)
    column, row = points.texel[:, 0] + 1, points.texel[:, 1] + 1
    facing[row, column] = points.normal
    for dy, dx in ((0, 1), (1, 0), (0, 1), (1, 0)):
        grid[row, column] = light
        total, weight = light * 2.0, np.full(len(light), 2.0)
        for sign in (-1, 1):
            y, x = row + dy * sign, column + dx * sign
            same = np.abs(facing[y, x] - points.normal).max(axis=1) < 1e-3
            # A strong step is the border of a lit patch or another chart beside this one, not grain.
            near = np.abs(grid[y, x] - light).max(axis=1) < 0.6 * (grid[y, x] + light).max(axis=1)
            total += grid[y, x] * (same & near)[:, None]
            weight += same & near
        light = total / weight[:, None]
    return light


def _filled(points: LightPoints, light: Floats, bad: npt.NDArray[np.bool_]) -> Floats:
    """Points inside bodies take the light of their neighbours in the same chart."""
    width, height = points.size
    grid = np.zeros((height + 2, width + 2, 3))
    weight = np.zeros((height + 2, width + 2))
    facing = np.full((height + 2, width + 2, 3), 9.0)
    column, row = points.texel[:, 0] + 1, points.texel[:, 1] + 1
    facing[row, column] = points.normal
    good = ~bad
    grid[row[good], column[good]] = light[good]
    weight[row[good], column[good]] = 1.0
    result = light.copy()
    waiting = np.flatnonzero(bad)
    for _ in range(6):
        if not len(waiting):
            break
        total, share = np.zeros((len(waiting), 3)), np.zeros(len(waiting))
        for dy, dx in ((-1, 0), (1, 0), (0, -1), (0, 1)):
            y, x = row[waiting] + dy, column[waiting] + dx
            same = np.abs(facing[y, x] - points.normal[waiting]).max(axis=1) < 1e-3
            total += grid[y, x] * (weight[y, x] * same)[:, None]
            share += weight[y, x] * same
        found = share > 0
        result[waiting[found]] = total[found] / share[found, None]
        grid[row[waiting[found]], column[waiting[found]]] = result[waiting[found]]
        weight[row[waiting[found]], column[waiting[found]]] = 1.0
        waiting = waiting[~found]
    result[waiting] = 0.0
    return result
