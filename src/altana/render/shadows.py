"""Maps of the sun's shadow: depths along its rays, round the eye and round the building."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import moderngl
import numpy as np

from altana.core.camera.view import View
from altana.core.conventions import Floats
from altana.core.light.sky import Sky

SUN_DISC_DEG = 0.8
#: The map round the eye reaches so far about its middle, and moves in steps, so that it can be kept while the camera is dragged.
NEAR_M, NEAR_STEP_M = 16.0, 6.0
#: What a pixel of a map takes, and what the maps of all passes of a picture may take together to be kept for the next, bytes.
PIXEL_BYTES, KEPT_BYTES = 4, 256 << 20


@dataclass(frozen=True, slots=True)
class ShadowMap:
    """Depths along the sun's rays, the (4, 4) matrix from the world to them, and metres to a pixel."""

    depths: moderngl.Texture
    matrix: Floats
    texel_m: float


class ShadowMaps:
    """Makes the maps of a pass, or finds them again.

    The sun of a pass is the same in every picture of as many passes, so the next tile, face or film frame finds the map round
    the building again, and mostly the one round the eye.
    """

    def __init__(self, context: moderngl.Context) -> None:
        self._context = context
        self._held: dict[tuple[str, int, int], tuple[object, moderngl.Framebuffer]] = {}

    def of_pass(
        self,
        view: View,
        sky: Sky,
        core: tuple[Floats, float],
        passes: int,
        number: int,
        side_px: int,
        drawn: object,
        draw: Callable[[Floats], None],
    ) -> tuple[ShadowMap, ShadowMap]:
        """The maps round the eye and round the building in one pass of a picture.

        core : middle and radius (m) of the building.  drawn : says what ``draw``, given a map's matrix, puts into it; a map
        is made again when it says something else.
        """
        sun = sun_in_disc(sky, number, passes)
        # A view that is as wide as a panorama's face sees as far to its sides as ahead; all six faces then share one map.
        ahead = 0.0 if min(view.angles_of_view()) >= 90.0 else NEAR_M * 0.7
        middle = np.asarray(view.pose.eye) + view.pose.forward * ahead
        snapped = np.round(middle / NEAR_STEP_M) * NEAR_STEP_M
        centre, radius = core
        depth = max(radius * 2.0, 120.0)
        # Where the maps of all passes would take too much, each pass draws its own.
        place = number if 2 * passes * side_px * side_px * PIXEL_BYTES <= KEPT_BYTES else 0
        return (
            self._map(("near", side_px, place), sun_matrix(snapped, NEAR_M + NEAR_STEP_M, sun, depth), NEAR_M + NEAR_STEP_M, drawn, draw),
            self._map(("far", side_px, place), sun_matrix(centre, radius + 10.0, sun, depth), radius + 10.0, drawn, draw),
        )

    def _map(self, place: tuple[str, int, int], matrix: Floats, radius: float, drawn: object, draw: Callable[[Floats], None]) -> ShadowMap:
        key = (tuple(np.round(matrix.ravel(), 9).tolist()), drawn)
        held, side = self._held.get(place), place[1]
        if held is None or held[0] != key:
            frame = self._fresh(side) if held is None else held[1]
            frame.use()
            frame.clear(depth=1.0)
            draw(matrix)
            held = self._held[place] = (key, frame)
        depths = held[1].depth_attachment
        assert isinstance(depths, moderngl.Texture)
        return ShadowMap(depths, matrix, 2.0 * radius / side)

    def _fresh(self, side: int) -> moderngl.Framebuffer:
        depth = self._context.depth_texture((side, side))
        depth.compare_func = "<="
        depth.filter = (moderngl.LINEAR, moderngl.LINEAR)
        depth.repeat_x = depth.repeat_y = False
        return self._context.framebuffer(depth_attachment=depth)

    def clear(self) -> None:
        """Forget all maps: the model is another."""
        for _, frame in self._held.values():
            frame.depth_attachment.release()
            frame.release()
        self._held.clear()


def sun_in_disc(sky: Sky, number: int, passes: int) -> Floats:
    """The direction of the sun in one pass: passes spread evenly over its disc (a sunflower's spiral), one stands in its middle."""
    sun = np.asarray(sky.sun)
    if passes == 1:
        return sun
    side = np.cross(sun, (0.0, 0.0, 1.0)) if abs(sun[2]) < 0.99 else np.array([1.0, 0.0, 0.0])
    side /= np.linalg.norm(side)
    radius = np.tan(np.radians(SUN_DISC_DEG / 2)) * np.sqrt((number + 0.5) / passes)
    angle = number * 2.399963
    moved = sun + radius * (np.cos(angle) * side + np.sin(angle) * np.cross(side, sun))
    return moved / np.linalg.norm(moved)


def sun_matrix(centre: Floats, radius: float, sun: Floats, depth: float) -> Floats:
    """World to the shadow map's clip space: an even projection along the sun's rays."""
    forward = -sun
    helper = np.array([0.0, 1.0, 0.0]) if abs(sun[2]) > 0.95 else np.array([0.0, 0.0, 1.0])
    side = np.cross(forward, helper)
    side /= np.linalg.norm(side)
    up = np.cross(side, forward)
    rows = np.stack([side / radius, up / radius, forward / depth])
    matrix = np.eye(4)
    matrix[:3, :3] = rows
    matrix[:3, 3] = -rows @ centre
    return matrix
