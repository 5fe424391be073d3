"""What polished floors and still water mirror: the picture from below the surface, turned over.

A level surface shows what an eye as far below it as the real one is above it would see, upside down; so the
mirrored picture is an ordinary one, of a view whose tilt, roll and rise are reversed, with everything below
the surface left away.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import moderngl
import numpy as np

from altana.core.camera.view import View
from altana.core.conventions import Floats, Floats32, Ints, Ints32
from altana.core.model import GLASS, WATER, Material, Model
from altana.render.flat_mirrors import FlatMirrors
from altana.render.rooms import RoomMirrors

#: Surfaces rougher than this mirror nothing that could be told.
ROUGHEST = 0.55
#: A mirror is at least so large in the model, m2, and fills at least this share of the picture.
LEAST_M2, LEAST_SHARE = 1.0, 0.004
#: Walls are so high and so wide: what a column hides of a floor matters little.  Floors and other levels are
#: so low and so large, m2.
WALL_M, WALL_WIDE_M, LOW_M, LEVEL_M2 = 2.0, 0.8, 0.6, 1.0
#: Heights within this belong to one mirror; what is less far above it is its own surface.
SAME_M = 0.012
#: The mirrored picture is smaller by this: it is never sharp.
SMALLER = 2
BORDER_PX = 128
NEAR_UNIT = 15


@dataclass(frozen=True, slots=True)
class Mirror:
    """A mirrored picture for one tile, with how far ``near`` what it shows lies behind the surface as a share
    of the whole way; the height of that surface, and how many of its pixels an angle of one radian takes."""

    texture: moderngl.Texture
    near: moderngl.Texture
    height_m: float
    px_a_radian: float
    #: How much of the texture lies beyond the tile on each side, across and up, as a share of the tile.
    border: tuple[float, float] = (0.0, 0.0)

    def uniforms(self, unit: int) -> dict[str, object]:
        """What the light of a picture is told of it."""
        self.texture.use(unit)
        self.near.use(NEAR_UNIT)
        wide, high = self.texture.size
        return {
            "u_mirror": unit,
            "u_mirror_near": NEAR_UNIT,
            "u_mirror_at": self.height_m,
            "u_mirror_px": self.px_a_radian,
            "u_mirror_step": (self.px_a_radian / wide, self.px_a_radian / high),
            "u_mirror_border": self.border,
        }


@dataclass(frozen=True, slots=True)
class Mirrored:
    """All that a picture's surfaces mirror: a level one, what stands before flat ones, and the rooms they lie
    in."""

    level: Mirror | None = None
    flats: FlatMirrors | None = None
    rooms: RoomMirrors | None = None

    @property
    def switch(self) -> str:
        """What is defined in a program for solid surfaces."""
        return (":MIRROR" if self.level is not None else "") + self.panes_switch

    @property
    def panes_switch(self) -> str:
        """What is defined in one for panes."""
        return (":FLATS" if self.flats is not None else "") + (
            self.rooms.switch if self.rooms is not None else ""
        )

    def uniforms(self, unit: int) -> dict[str, object]:
        """What a program for solid surfaces is told."""
        return {**(self.level.uniforms(unit) if self.level is not None else {}), **self.panes_uniforms()}

    def panes_uniforms(self) -> dict[str, object]:
        """What one for panes is told."""
        flats = self.flats.uniforms() if self.flats is not None else {}
        return {**flats, **(self.rooms.uniforms() if self.rooms is not None else {})}


NOTHING_MIRRORED = Mirrored()


def smoothness(materials: tuple[Material, ...]) -> Floats:
    """(n,) how much each material mirrors, 0 for what does not."""
    return np.array(
        [
            1.0
            if item.kind == WATER
            else 0.0
            if item.kind == GLASS or item.metal > 0.5 or any(item.emission) or item.roughness > ROUGHEST
            else (1.0 - item.roughness) ** 2
            for item in materials
        ]
        or [0.0]
    )


def mirroring_heights(model: Model) -> Floats:
    """(k,) heights, metres, at which smooth level surfaces lie."""
    smooth = smoothness(model.materials) > 0.0
    mine = model.faces[smooth[model.face_material]] if len(model.faces) else model.faces
    if not len(mine):
        return np.zeros(0)
    z = model.vertices[mine, 2]
    level = np.ptp(z, axis=1) < SAME_M / 2
    a, b, c = (model.vertices[mine[level, k], :2].astype(float) for k in range(3))
    first, second = b - a, c - a
    area = np.abs(first[:, 0] * second[:, 1] - first[:, 1] * second[:, 0]) / 2.0
    steps, where = np.unique(np.rint(z[level, 0] / SAME_M), return_inverse=True)
    large = np.bincount(where, weights=area, minlength=len(steps)) >= LEAST_M2
    heights: Floats = steps[large] * SAME_M
    return heights


def walls_and_floors(owner: Ints, low: Floats, high: Floats) -> tuple[int, ...]:
    """The objects behind which one room ends and another begins, and floors: what stands about in a room
    hides nothing of what mirrors.

    owner : (n,) the object each box belongs to.  low, high : (n, 3) corners, metres.
    """
    if not len(owner):
        return ()
    count = int(owner.max()) + 1
    least, most = np.full((count, 3), np.inf), np.full((count, 3), -np.inf)
    np.minimum.at(least, owner, low)
    np.maximum.at(most, owner, high)
    wide, deep, tall = (most - least).T
    walls = (tall >= WALL_M) & (np.maximum(wide, deep) >= WALL_WIDE_M)
    flags = walls | ((tall < LOW_M) & (wide * deep >= LEVEL_M2))
    return tuple(np.flatnonzero(flags).tolist())


def seen_mirror(
    view: View, material: Ints32, normal: Floats32, depth_m: Floats32, materials: tuple[Material, ...]
) -> float | None:
    """The height of the mirror that is seen most in a picture; None where none is worth while.

    material, depth_m : (height, width) numbers (-1 for none) and metres along the view.  normal :
    (height, width, 3).
    """
    weight = smoothness(materials)[np.maximum(material, 0)]
    weight[(material < 0) | (normal[..., 2] < 0.99) | ~np.isfinite(depth_m)] = 0.0
    rows, columns = np.nonzero(weight)
    if not len(rows):
        return None
    along = view.rays(np.column_stack([columns + 0.5, rows + 0.5]))
    deep = depth_m[rows, columns] / np.maximum(along @ view.pose.forward, 1e-9)
    z = view.pose.eye[2] + along[:, 2] * deep
    _, where = np.unique(np.rint(z / SAME_M), return_inverse=True)
    seen = np.bincount(where, weights=weight[rows, columns])
    best = int(np.argmax(seen))
    if seen[best] < LEAST_SHARE * weight.size:
        return None
    return float(np.median(z[where == best]))


def mirrored(view: View, height_m: float) -> View:
    """The view from below a level surface whose picture, turned over, is what the surface shows; nothing
    bounds it."""
    x, y, z = view.pose.eye
    pose = replace(
        view.pose, eye=(x, y, 2.0 * height_m - z), tilt_deg=-view.pose.tilt_deg, roll_deg=-view.pose.roll_deg
    )
    lens = replace(view.lens, rise_mm=-view.lens.rise_mm)
    return replace(view, pose=pose, lens=lens, near_m=None, far_m=None, cuts=())


def border_px(view: View, tile: tuple[int, int, int, int]) -> int:
    """How far the mirrored picture reaches beyond a tile: a soft reflection takes from there what its
    neighbour shows too."""
    return 0 if tile[2] >= view.width_px and tile[3] >= view.height_px else BORDER_PX


def mirrored_tile(view: View, tile: tuple[int, int, int, int]) -> tuple[int, int, int, int]:
    """The place of a tile, with its border, in the mirrored picture."""
    x, y, w, h = tile
    border = border_px(view, tile)
    return x - border, view.height_px - y - h - border, w + 2 * border, h + 2 * border
