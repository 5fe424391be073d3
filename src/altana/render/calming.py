"""What is left of grain in path-traced film frames would flicker; each is calmed by its neighbours.

A building stands still while the camera walks: what a pixel shows is found in the film frames before and
after, where its place comes to lie, and the mean of all has less grain than one alone (reprojection, as in
temporal accumulation: D. Nehab et al., *Accelerating Real-Time Shading with Reverse Reprojection Caching*,
2007).  Only what the depths of both agree on is taken, and only where both look nearly alike: mirrors, panes
and moving shadows show something else from elsewhere.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import scipy

from altana.core.camera.view import View
from altana.core.conventions import Bools, Floats, Floats32
from altana.render.outputs import Pixels

#: Film frames before and after that calm one.
REACH = 3
#: Depths that differ by less than this share, or so many metres, are of the same surface.
SAME_SHARE, SAME_M = 0.01, 0.02
#: Differences up to the first count whole, from the second on nothing; of 255.
ALIKE, UNLIKE = 20.0, 50.0
#: A sky has no depth: its directions are looked up so far away.
FAR_M = 1e7
#: Rows that are worked at together.
ROWS = 128


@dataclass(frozen=True, slots=True)
class Moment:
    """A film frame: its camera, the depths of what it shows (height, width) in metres along the view,
    infinite for sky, its picture (height, width, 3) as it is looked at, 0 to 255 in any type, and the cubic
    splines through that (3, height, width)."""

    view: View
    depth_m: Floats32
    picture: Pixels | Floats32
    splines: Floats32

    @classmethod
    def of(cls, view: View, depth_m: Floats32, picture: Pixels | Floats32) -> Moment:
        """Ready to be looked up between its pixels.  Cubic: linear interpolation would take a sixteenth of
        the contrast of edges."""
        splines = np.stack(
            [scipy.ndimage.spline_filter(picture[..., k], 3, np.float32, "nearest") for k in range(3)]
        )
        return cls(view, depth_m, picture, splines)


def calmed(here: Moment, others: Sequence[Moment]) -> Floats32:
    """The picture of ``here`` (height, width, 3), 0 to 255, with less grain.  All have the same size."""
    high, wide = here.depth_m.shape
    correction = np.zeros((high, wide, 3), np.float32)
    for top in range(0, high, ROWS):
        rows = slice(top, min(high, top + ROWS))
        places, sky = _places(here, rows)
        weights = np.ones((rows.stop - top, wide, 1), np.float32)
        for other in others:
            change, weight = _from_other(here, other, rows, places, sky)
            correction[rows] += change * weight
            weights += weight
        correction[rows] /= weights
    calm: Floats32 = np.clip(here.picture + correction, 0.0, 255.0).astype(np.float32)
    return calm


def _places(here: Moment, rows: slice) -> tuple[Floats, Bools]:
    """Where in the building lies what the pixels of some rows show, (n, 3) metres, and which (n,) of them are
    sky."""
    y, x = np.mgrid[rows, 0 : here.view.width_px]
    along = here.view.rays(np.column_stack([x.ravel() + 0.5, y.ravel() + 0.5]))
    depth = here.depth_m[rows].ravel()
    sky = ~np.isfinite(depth)
    reach = np.where(sky, FAR_M, depth) / np.maximum(along @ here.view.pose.forward, 1e-9)
    return np.asarray(here.view.pose.eye) + along * reach[:, None], sky


def _from_other(
    here: Moment, other: Moment, rows: slice, places: Floats, sky: Bools
) -> tuple[Floats32, Floats32]:
    """How much another film frame differs where it shows the same places, (rows, width, 3), and how much that
    counts, (rows, width, 1)."""
    high, wide = here.depth_m.shape
    px, py, expected = other.view.project(places).T
    inside = (px >= 0.5) & (px <= wide - 0.5) & (py >= 0.5) & (py <= high - 0.5)
    u, v = np.where(inside, px - 0.5, 0.0), np.where(inside, py - 0.5, 0.0)
    depth = other.depth_m[np.rint(v).astype(np.int32), np.rint(u).astype(np.int32)]
    depth = np.where(np.isfinite(depth), depth, np.float32(FAR_M))
    same = np.abs(depth - np.where(sky, FAR_M, expected)) <= np.maximum(SAME_M, SAME_SHARE * depth)
    shape = (rows.stop - rows.start, wide)
    change = np.stack(
        [
            scipy.ndimage.map_coordinates(
                spline, [v, u], np.float32, order=3, mode="nearest", prefilter=False
            ).reshape(shape)
            for spline in other.splines
        ],
        axis=-1,
    )
    change -= here.picture[rows]
    unlike = (np.abs(change).max(axis=-1) - ALIKE) / (UNLIKE - ALIKE)
    weight = np.clip(1.0 - unlike, 0.0, 1.0) * (inside & same).reshape(shape)
    return change, weight[..., None].astype(np.float32)
