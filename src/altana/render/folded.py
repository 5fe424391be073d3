"""All-round pictures folded to a square, sharp and blurred as surfaces of some roughness mirror them.

The sphere is folded to an octahedron and that to a square (Q. Meyer and others, "On floating-point normal
vectors", 2010); one more texel on each side shows what lies beyond the fold, so that looking up between
texels never shows a seam.  Blurred levels are means over the lobe of a rough surface seen square on (B.
Karis, "Real shading in Unreal Engine 4", 2013, "split sum").
"""

from __future__ import annotations

import functools

import numpy as np

from altana.core.conventions import Floats, Floats32, Ints, Vec3
from altana.render.panorama import FACES, Place, face_view

#: Side of each of the six pictures that are folded, pixels; they are brought together to so many for what is
#: blurred.
FACE_PX, FEW_PX = 160, 16
#: Sides of the squares, texels, without the border.
SHARP_PX, SOFT_PX, BORDER_PX = 256, 32, 1
#: How rough the surfaces are that mirror the blurred levels; behind them comes one that light from all sides
#: falls by (Lambert).
ROUGH = (0.25, 0.5)
LEVELS = len(ROUGH) + 1


def unfolded(side: int) -> Floats:
    """(side + 2 borders, the same, 3) unit directions of the texels of a square, the border's beyond the
    fold."""
    at = ((np.arange(side + 2 * BORDER_PX) - BORDER_PX + 0.5) / side) * 2.0 - 1.0
    x, y = np.meshgrid(at, at)
    for _ in range(2):
        # Beyond an edge the square goes on where its mirror image about the edge's middle lies.
        over_x, over_y = np.abs(x) > 1.0, np.abs(y) > 1.0
        x, y = (
            np.where(over_x, np.sign(x) * (2.0 - np.abs(x)), np.where(over_y, -x, x)),
            np.where(over_x, -y, np.where(over_y, np.sign(y) * (2.0 - np.abs(y)), y)),
        )
    up = 1.0 - np.abs(x) - np.abs(y)
    east = np.where(up >= 0.0, x, (1.0 - np.abs(y)) * np.where(x >= 0.0, 1.0, -1.0))
    north = np.where(up >= 0.0, y, (1.0 - np.abs(x)) * np.where(y >= 0.0, 1.0, -1.0))
    along = np.stack([east, north, up], axis=2)
    unit: Floats = along / np.linalg.norm(along, axis=2, keepdims=True)
    return unit


@functools.cache
def _axes() -> Floats:
    """(6, 3, 3) right, up and forward of the six pictures, in their order."""
    nowhere: Vec3 = (0.0, 0.0, 0.0)
    return np.array([face_view(Place(nowhere), face, 2, 0.0).pose.axes() for face in FACES])


@functools.cache
def _lookup() -> tuple[Ints, Floats32]:
    """(n, 4) which pixels of the six pictures each texel of the sharp square lies between, and (n, 4) their
    shares."""
    along = unfolded(SHARP_PX).reshape(-1, 3)
    face = np.argmax(along @ _axes()[:, 2].T, axis=1)
    local = np.einsum("nij,nj->ni", _axes()[face], along)
    x = (1.0 + local[:, 0] / local[:, 2]) / 2.0 * FACE_PX - 0.5
    y = (1.0 - local[:, 1] / local[:, 2]) / 2.0 * FACE_PX - 0.5
    left, top = np.floor(x), np.floor(y)
    columns = np.clip(left[:, None] + (0, 1, 0, 1), 0, FACE_PX - 1).astype(int)
    rows = np.clip(top[:, None] + (0, 0, 1, 1), 0, FACE_PX - 1).astype(int)
    right, low = x - left, y - top
    shares = np.stack([(1 - right) * (1 - low), right * (1 - low), (1 - right) * low, right * low], axis=1)
    return (face[:, None] * FACE_PX + rows) * FACE_PX + columns, shares.astype(np.float32)


@functools.cache
def _blurs() -> Floats32:
    """(levels, texels, pixels) what each of the few pixels of the six pictures brings to each texel of a
    blurred square."""
    at = (np.arange(FEW_PX) + 0.5) / FEW_PX * 2.0 - 1.0
    x, y = np.meshgrid(at, -at)
    local = np.stack([x, y, np.ones_like(x)], axis=2).reshape(-1, 3)
    # Towards the corners of a picture pixels take less of the sphere.
    solid = np.tile(np.linalg.norm(local, axis=1) ** -3.0, len(FACES))
    pixels = np.einsum("fij,ni->fnj", _axes(), local).reshape(-1, 3)
    pixels /= np.linalg.norm(pixels, axis=1, keepdims=True)
    cosine = np.clip(unfolded(SOFT_PX).reshape(-1, 3) @ pixels.T, -1.0, 1.0)
    ahead = np.maximum(cosine, 0.0) * solid
    blurs = []
    for rough in ROUGH:
        alpha2 = rough**4
        # Half way between eye and light the microfacets stand (GGX).
        half2 = (1.0 + cosine) / 2.0
        blurs.append(ahead / (half2 * (alpha2 - 1.0) + 1.0) ** 2)
    blurs.append(ahead)
    weights = np.stack([item / item.sum(axis=1, keepdims=True) for item in blurs])
    return weights.astype(np.float32)


def folded(faces: Floats32, dim: Floats32 | None = None) -> tuple[Floats32, Floats32]:
    """Six square pictures round a place, (6, FACE_PX, FACE_PX, 3) in the order of FACES, as a sharp square
    and (LEVELS, …) blurred ones.

    dim : the same without the glow of lamps, where any burn: rough surfaces mirror that.  A lamp hangs in the
    room, not on its walls, where mirrored lines are followed to; rough things would gleam of it in streaks,
    and nowhere near where they do.
    """
    which, shares = _lookup()
    side, soft = SHARP_PX + 2 * BORDER_PX, SOFT_PX + 2 * BORDER_PX
    flat = faces.reshape(-1, 3)
    sharp = np.einsum("nkc,nk->nc", flat[which], shares).reshape(side, side, 3)
    step = FACE_PX // FEW_PX
    few, few_dim = (
        item.reshape(len(FACES), FEW_PX, step, FEW_PX, step, 3).mean(axis=(2, 4)).reshape(-1, 3)
        for item in (faces, faces if dim is None else dim)
    )
    blurred = np.concatenate([_blurs()[:-1] @ few_dim, _blurs()[-1:] @ few])
    return sharp, blurred.reshape(LEVELS, soft, soft, 3)
