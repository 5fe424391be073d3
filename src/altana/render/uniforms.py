"""What the shaders are told of a view, its tile and its sky, and which parts of a model they are given."""

from __future__ import annotations

import moderngl
import numpy as np
import numpy.typing as npt

from altana.core.camera.view import View
from altana.core.conventions import Floats
from altana.core.light.air import air_colour
from altana.core.light.sky import Sky
from altana.render.upload import FIELDS, Batches

UNBOUNDED_M = 1e9


def with_cuts(name: str, view: View) -> str:
    """A program that knows of so many wall cuts."""
    return f"{name}:CUTS {len(view.cuts)}" if view.cuts else name


def in_sight(
    batches: Batches, clip: Floats, far_first: bool, bounds: tuple[float, float]
) -> tuple[npt.NDArray[np.intp], Floats]:
    """Which batches may be in the picture, between its bounds, ordered by the depth of their nearest corner,
    and the nearness (metres, at least 0) of each of them."""
    low, high = batches.low, batches.high
    middle, half = (low + high) / 2, (high - low) / 2
    # A box's reach along a row of the matrix is the sum of its halves' shares, so eight corners need not be
    # looked at one by one.
    at = middle @ clip[:, :3].T + clip[:, 3]
    x, y, w = at[:, 0], at[:, 1], at[:, 3]
    row_x, row_y, row_w = clip[0, :3], clip[1, :3], clip[3, :3]
    outside = x - w - half @ np.abs(row_x - row_w) > 0
    outside |= -x - w - half @ np.abs(row_x + row_w) > 0
    outside |= y - w - half @ np.abs(row_y - row_w) > 0
    outside |= -y - w - half @ np.abs(row_y + row_w) > 0
    # Clip space's w is the depth along the line of sight, so what lies wholly before or behind costs nothing.
    deep = half @ np.abs(row_w)
    outside |= (w + deep < max(bounds[0], 0.0)) | (w - deep > bounds[1])
    kept = np.flatnonzero(~outside)
    nearest = np.maximum(w[kept] - deep[kept], 0.0)
    # A body around the eye has its nearest corner behind it; its middle says more.
    order = np.argsort(nearest + 0.05 * w[kept])
    if far_first:
        order = order[::-1]
    return kept[order], nearest[order]


def in_map(batches: Batches, matrix: Floats) -> npt.NDArray[np.bool_]:
    """(k,) bool: which batches may throw a shadow into a map, whose (4, 4) matrix takes the world to -1 to 1
    across and up."""
    middle, half = (batches.low + batches.high) / 2, (batches.high - batches.low) / 2
    at, reach = middle @ matrix[:2, :3].T + matrix[:2, 3], half @ np.abs(matrix[:2, :3]).T
    return np.asarray((np.abs(at) - reach <= 1.0).all(axis=1))


def air(lights: dict[str, object]) -> tuple[float, ...]:
    """The colour that distance goes towards: the sky at the horizon, the sun's glow left out."""
    scale = float(lights["u_sky_scale"])  # type: ignore[arg-type]
    return tuple(air_colour(scale).tolist())


def vertex_format(program: moderngl.Program, wanted: tuple[str, ...]) -> tuple[str, ...]:
    """The part of a vertex that a program reads, as the graphics library names it, and the names of its
    fields.

    held : the fields that the vertices have.
    """
    words, names = [], []
    for name, word, kind in FIELDS:
        if name not in wanted:
            continue
        if f"in_{name}" in program:
            words.append(word)
            names.append(f"in_{name}")
        else:
            words.append(f"{np.dtype(kind).itemsize}x1")
    return (" ".join(words), *names)


def tile_edges(view: View, tile: tuple[float, float, float, float]) -> tuple[float, float, float, float]:
    """Tangents of the left, right, bottom and top edge of a tile (x, y, width, height in pixels) of a
    view."""
    x, y, w, h = tile
    left, right, bottom, top = view.edges()
    across, high = (right - left) / view.width_px, (top - bottom) / view.height_px
    return left + across * x, left + across * (x + w), top - high * (y + h), top - high * y


def ray_uniforms(view: View, tile: tuple[float, float, float, float]) -> dict[str, object]:
    """Lines of sight of a tile, one metre deep: its lower left corner, across and up."""
    left, right, bottom, top = tile_edges(view, tile)
    axes = view.pose.axes()
    return {
        "u_corner": axes[0] * left + axes[1] * bottom + axes[2],
        "u_across": axes[0] * (right - left),
        "u_high": axes[1] * (top - bottom),
    }


def camera_uniforms(view: View, clip: Floats) -> dict[str, object]:
    """Where the camera stands, which way it looks, and what bounds it; ``clip`` is its (4, 4) world to clip
    matrix.

    Shaders take places as seen from the eye: far from the origin, the difference of two near places is all
    that single precision keeps.
    """
    near, far = view.near_m or 0.0, view.far_m or UNBOUNDED_M
    from_eye = clip.copy()
    from_eye[:, 3] = clip @ np.append(np.asarray(view.pose.eye, float), 1.0)
    uniforms = {
        "u_clip": from_eye,
        "u_eye": tuple(view.pose.eye),
        "u_forward": tuple(view.pose.forward.tolist()),
        "u_bounds": (near, far),
    }
    return {**uniforms, **cut_uniforms(view)} if view.cuts else uniforms


def cut_uniforms(view: View) -> dict[str, object]:
    """Wall cuts as the shaders hold them (bounds.glsl)."""
    plane = [(*item.normal.tolist(), item.at_m) for item in view.cuts]
    along = [
        (item.along[0], item.along[1], item.depth_m, float(np.asarray(item.place) @ item.along))
        for item in view.cuts
    ]
    extent = [
        (-item.left_m, item.right_m, item.place[2] - item.down_m, item.place[2] + item.up_m)
        for item in view.cuts
    ]
    names = ("u_cut_plane", "u_cut_along", "u_cut_extent")
    return {
        name: np.array(rows, np.float32).tobytes()
        for name, rows in zip(names, (plane, along, extent), strict=True)
    }


#: The texture unit of surroundings.
AROUND_UNIT, MIRROR_UNIT = 11, 12


def sky_uniforms(sky: Sky) -> dict[str, object]:
    """Sun and sky as the shaders hold them."""
    return {
        "u_sun": sky.sun,
        "u_sun_lux": sky.sun_lux,
        "u_sky_scale": sky.scale,
        "u_haze": sky.haze,
        "u_dusk": sky.dusk,
        "u_cover": sky.cover,
        "u_around": AROUND_UNIT,
        "u_around_use": (float(sky.around.lights), float(sky.around.behind)) if sky.around else (0.0, 0.0),
        "u_ground": tuple(sky.ground.tolist()),
    }


def gain(ev: float) -> float:
    """The brightest value a sensor of ISO 100 records is 1.2 x 2^EV candelas per square metre."""
    return float(1.0 / (1.2 * 2.0**ev))
