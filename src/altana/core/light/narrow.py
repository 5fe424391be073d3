"""Grain taken out of narrow and small parts: rafters, boards, legs of furniture.

On wide surfaces a point's neighbours on all sides say what of its light is grain.  A rafter has neighbours on
two sides only, and in a dim room it was dark on one metre and bright on the next; a small part has none.
They look about themselves instead: for whatever lies in their plane or close to it and faces the same way, as
the boards beside a rafter do.
"""

from __future__ import annotations

import numpy as np
import scipy

from altana.core.conventions import Bools, Floats, Ints
from altana.core.light.corners import TURN_M
from altana.core.light.grain import agreement, steps
from altana.core.light.lightmap import LightPoints

#: How far about itself a part looks, how far out of its plane, for how many others, and how often.
REACH_M, PLANE_M, OTHERS, ROUNDS = 0.5, 0.02, 12, 2
#: Where grain is less than the first share of the light it stays as it is; where it is twice as much, the
#: others count in full.
LEAST_GRAIN = 0.15


def without_grain(points: LightPoints, light: Floats, grain: Floats, bad: Bools) -> Floats:
    """(2 n, 3) the light of both sides of the points with less grain on narrow and small parts; the others
    keep theirs.

    grain : (2 n,) lux, standard error.  bad : (2 n,) sides inside bodies; they say nothing.
    """
    wanting, sources = np.flatnonzero(np.tile(_narrow(points), 2) & ~bad), np.flatnonzero(~bad)
    if not len(wanting):
        return light
    which, near = _others(points, wanting, sources)
    total = np.maximum(near.sum(axis=1), 1e-9)
    error = grain**2
    # Of few groups of rays the standard error is hardly known itself: better with those of the others.
    error[wanting] = (near * error[which]).sum(axis=1) / total
    level = light.mean(axis=1)
    about = np.maximum((near * level[which]).sum(axis=1) / total, 1e-9)
    share = np.sqrt(error[wanting]) / about
    step = steps(share)[:, None]
    counts = np.clip(share / LEAST_GRAIN - 1.0, 0.0, 1.0)[:, None] * near
    itself = which == wanting[:, None]
    light = light.copy()
    for _ in range(ROUNDS):
        level, others = light.mean(axis=1), error[which]
        own = level[wanting][:, None]
        weight = counts * agreement(level[which] - own, step, error[wanting][:, None], others, own)
        weight[itself] = 1.0
        total = weight.sum(axis=1)
        light[wanting] = np.einsum("ik,ikx->ix", weight, light[which]) / total[:, None]
        error[wanting] = (weight**2 * others).sum(axis=1) / total**2
    return light


def _narrow(points: LightPoints) -> Bools:
    """(n,) points that have no neighbours on all sides: in one line across a plane, or on none."""
    charts = len(points.texel)
    narrow = np.ones(len(points.position), bool)
    one_line = (points.charts.steps == 0).any(axis=1)
    narrow[:charts] = one_line[points.charts.chart[points.face[:charts]]]
    return narrow


def _others(points: LightPoints, wanting: Ints, sources: Ints) -> tuple[Ints, Floats]:
    """(k, OTHERS) the sides about each of the ``wanting`` (k,), itself among them, and how near they are, 0
    to 1."""
    place = np.concatenate([points.position, points.position])
    facing = np.concatenate([points.normal, -points.normal])
    at = np.column_stack([place, facing * TURN_M])
    count = min(OTHERS, len(sources))
    reached = scipy.spatial.cKDTree(at[sources]).query(
        at[wanting], count, distance_upper_bound=REACH_M, workers=-1
    )
    away, found = (np.reshape(item, (len(wanting), count)) for item in reached)
    there = np.isfinite(away)
    which = sources[np.where(there, found, 0)]
    off = np.einsum("ikx,ix->ik", place[which] - place[wanting][:, None], facing[wanting])
    near = there * (1.0 - np.minimum(away, REACH_M) / REACH_M) ** 2 * np.exp(-((off / PLANE_M) ** 2))
    return which, near
