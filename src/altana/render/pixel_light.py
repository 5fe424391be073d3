"""Light that was reckoned for the places a view shows, as the shaders have it (pixel_light.glsl)."""

from __future__ import annotations

import moderngl
import numpy as np
import numpy.typing as npt

from altana.core.conventions import Bools, Floats, Floats32
from altana.core.light.pixel_light import LitPixels
from altana.render.uniforms import camera_uniforms

#: The texture units of light and places: of materials and of the light map, which the shader of light does
#: not ask.
LIGHT_UNIT, PLACE_UNIT = 0, 2
#: How directions are packed.
STEPS = 127.0
#: How sure it is of places beside which others lie that are not of their plane: cleaning them of grain mixed
#: in some of the light of those.
AT_EDGE = 0.75
#: Of one plane, as pixel_light.glsl has it.
OFF_PLANE_M, OFF_PLANE_A_METRE, ALIKE = 0.003, 0.0015, 0.9


class PixelLightTextures:
    """The light of the places of one view, on the card; none at first."""

    def __init__(self, context: moderngl.Context) -> None:
        self._context = context
        self._wanted: LitPixels | None = None
        self._held: LitPixels | None = None
        self._textures: tuple[moderngl.Texture, ...] = ()
        self._uniforms: dict[str, object] = {}

    def show(self, lit: LitPixels | None) -> None:
        """Draw places that these pixels show in their light from now on; none: all in that of the light
        map."""
        self._wanted = lit

    def uniforms(self) -> dict[str, object]:
        """What the shader of light is told; its textures are put in their units.  Nothing where there are
        none."""
        if self._wanted is None:
            return {}
        if self._wanted is not self._held:
            self._put(self._wanted)
        for unit, texture in zip((LIGHT_UNIT, PLACE_UNIT), self._textures, strict=True):
            texture.use(unit)
        return self._uniforms

    def _put(self, lit: LitPixels) -> None:
        for texture in self._textures:
            texture.release()
        size = lit.known.shape[1], lit.known.shape[0]
        halves = np.zeros((*lit.known.shape, 8), np.float16)
        halves[..., :3], halves[..., 4:7] = lit.lux, lit.sheen
        halves[..., 3] = np.where(at_edges(lit), AT_EDGE, 1.0) * lit.known
        facing = np.zeros((*lit.known.shape, 4), np.int8)
        facing[..., :3] = np.rint(lit.normal * STEPS)
        place = np.concatenate([lit.offset.view(np.uint32), facing.view(np.uint32)], axis=2)
        self._textures = (
            self._context.texture(size, 4, _rows(halves.view(np.uint32)), dtype="u4"),
            self._context.texture(size, 4, _rows(place), dtype="u4"),
        )
        for texture in self._textures:
            texture.filter = (moderngl.NEAREST, moderngl.NEAREST)
        view, self._held = lit.view, lit
        self._uniforms = {
            "u_pixel_light": LIGHT_UNIT,
            "u_pixel_place": PLACE_UNIT,
            "u_pixel_clip": camera_uniforms(view, view.clip_matrix() @ view.world_to_camera())["u_clip"],
            "u_pixel_eye": tuple(view.pose.eye),
        }


def off_plane_m(offset: Floats32) -> Floats:
    """(...) how far off a plane places (..., 3), as seen from the eye, may lie that are of it, metres."""
    near: Floats = OFF_PLANE_M + OFF_PLANE_A_METRE * np.linalg.norm(offset, axis=-1)
    return near


def at_edges(lit: LitPixels) -> Bools:
    """(h, w) places one of whose neighbours lies in another plane."""
    near = off_plane_m(lit.offset)
    edge = np.zeros(lit.known.shape, bool)
    for axis in (0, 1):
        here: tuple[slice, ...] = (slice(None),) * axis + (slice(None, -1),)
        there: tuple[slice, ...] = (slice(None),) * axis + (slice(1, None),)
        away = lit.offset[there] - lit.offset[here]
        turned = np.einsum("...k,...k->...", lit.normal[here], lit.normal[there]) < ALIKE
        for side in (here, there):
            off = np.abs(np.einsum("...k,...k->...", lit.normal[side], away)) > near[side]
            edge[side] |= turned | off
    return edge


def _rows(pixels: npt.NDArray[np.generic]) -> bytes:
    """Rows from below, as the card counts them."""
    return np.ascontiguousarray(pixels[::-1]).tobytes()
