"""What stands behind a picture: where its horizon lies, its sky, and laying a picture over something."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from altana.core.camera.view import View
from altana.core.conventions import Floats, Floats32
from altana.core.light.sky import Sky

BAND_ROWS = 128


def _by_bands(view: View, reckon: Callable[[Floats], Floats]) -> Floats32:
    """What is reckoned from the (n, 3) directions of a picture's pixels, (height, width, …) float32, some
    rows at a time: the directions of a large picture would fill the memory."""
    high, wide = view.height_px, view.width_px
    bands = []
    for top in range(0, high, BAND_ROWS):
        y, x = np.mgrid[top : min(high, top + BAND_ROWS), 0:wide] + 0.5
        band = reckon(view.rays(np.column_stack([x.ravel(), y.ravel()])))
        bands.append(band.reshape(*y.shape, *band.shape[1:]).astype(np.float32))
    picture: Floats32 = np.concatenate(bands)
    return picture


def below_horizon(view: View) -> Floats32:
    """(height, width) share of each pixel that lies below the horizon."""
    up = _by_bands(view, lambda along: along[:, 2])
    step = np.hypot(*np.gradient(up))
    share: Floats32 = np.clip(0.5 - up / np.maximum(step, np.float32(1e-9)), 0.0, 1.0).astype(np.float32)
    return share


def sky_light(view: View, sky: Sky) -> Floats32:
    """The sky alone, (height, width, 3) cd/m2, as ``light.frag`` draws it."""
    return _by_bands(view, sky.seen)


def over(shown: Floats32, alpha: Floats32, behind: Floats32) -> Floats32:
    """A picture over a background, displayed values, as every program lays a transparent picture over
    another."""
    picture: Floats32 = shown * alpha[..., None] + behind * (1.0 - alpha[..., None])
    return picture


def horizon_row(view: View) -> float:
    """The row at which the horizon lies in the middle of a picture, pixels from the top."""
    forward = view.pose.forward
    level = np.array([forward[0], forward[1], 0.0])
    far = np.asarray(view.pose.eye) + level / max(float(np.linalg.norm(level)), 1e-9) * 1e5
    row = float(view.project(far[None])[0, 1])
    return row if np.isfinite(row) else view.height_px / 2.0
