"""What a picture's surfaces mirror, drawn before the picture itself: the floor or the water that is seen
most, and its rooms."""

from __future__ import annotations

from collections.abc import Iterator

import moderngl
import numpy as np

from altana.core.camera.bounds import bounded, unbounded
from altana.core.camera.view import View
from altana.core.conventions import Floats
from altana.core.light.sky import Sky
from altana.core.model import Model
from altana.core.staging import WHOLE, Staging
from altana.render.facts import FactsPass
from altana.render.flat_pass import FlatPass
from altana.render.light_pass import LightPass
from altana.render.looks import Looks
from altana.render.mirrors import (
    SAME_M,
    SMALLER,
    Mirror,
    Mirrored,
    border_px,
    mirrored,
    mirrored_tile,
    mirroring_heights,
    seen_mirror,
    walls_and_floors,
)
from altana.render.programs import Programs
from altana.render.quality import Quality
from altana.render.room_pass import RoomPass
from altana.render.shadows import ShadowMap
from altana.render.shown import ModelDrawer
from altana.render.targets import Targets, TargetShelf, colour_of
from altana.render.uniforms import camera_uniforms, ray_uniforms


class MirrorPass:
    """Draws what is mirrored; never sharp, so once is enough for all passes of a picture."""

    def __init__(
        self,
        context: moderngl.Context,
        programs: Programs,
        shown: ModelDrawer,
        targets: TargetShelf,
        facts: FactsPass,
        light: LightPass,
    ) -> None:
        self._context, self._programs, self._shown = context, programs, shown
        self._targets, self._light = targets, light
        self._looks = Looks(shown, facts)
        self._rooms = RoomPass(context, shown, targets, light, self._looks)
        self._flats = FlatPass(context, programs, shown, light, self._looks)
        #: At which heights a model mirrors, found when first needed, and which of them the last picture shows
        #: most.
        self._mirrors: tuple[Model | None, Floats] = (None, np.zeros(0))
        self._walls: tuple[int, ...] = ()
        self._mirror_of: tuple[View | None, Staging, float | None] = (None, WHOLE, None)

    def clear(self) -> None:
        """The model is another, or its soft light."""
        self._rooms.clear()
        self._looks.clear()

    def rooms(
        self, view: View, sky: Sky, quality: Quality, inside: bool, shadows: tuple[ShadowMap, ...]
    ) -> Iterator[None]:
        """Take the pictures of rooms that ``of`` will want, step by step."""
        return self._rooms.take(view, sky, quality, inside, shadows)

    def of(
        self,
        view: View,
        sky: Sky,
        quality: Quality,
        inside: bool,
        tile: tuple[int, int, int, int],
        shadows: tuple[ShadowMap, ...],
    ) -> Mirrored:
        """All that a tile of a picture needs, its rooms among it where they are taken.  shadows : of the
        picture's first pass."""
        rooms = self._rooms.of(view, sky, quality, inside)
        level = self._floor(view, sky, quality, inside, tile, shadows)
        target = self._targets.of(tile[2], tile[3])
        return Mirrored(level, self._flats.of(view, sky, quality, inside, tile, target, shadows), rooms)

    def _floor(
        self,
        view: View,
        sky: Sky,
        quality: Quality,
        inside: bool,
        tile: tuple[int, int, int, int],
        shadows: tuple[ShadowMap, ...],
    ) -> Mirror | None:
        """What the floor or the water mirrors that is seen most, if there is one."""
        height = self._height(view)
        if height is None:
            return None
        below, part = mirrored(view, height), mirrored_tile(view, tile)
        target = self._targets.of(max(1, part[2] // SMALLER), max(1, part[3] // SMALLER))
        self._level(view, height, tile, target, quality)
        self._light.plainly(
            below, sky, quality, inside, part, target, shadows, (0.0, 0.0, 1.0, height + SAME_M)
        )
        self._context.enable_only(moderngl.NOTHING)
        target.sum.use()
        colour_of(target.light).use(0)
        colour_of(target.picture).use(1)
        self._programs.set("within", u_light=0, u_level=1)
        self._programs.cover("within")
        target.picture.use()
        colour_of(target.surface).use(0)
        colour_of(target.sum).use(1)
        self._programs.set(
            "nearness",
            u_surface=0,
            u_light=1,
            u_eye_high=height - below.pose.eye[2],
            **ray_uniforms(below, part),
        )
        self._programs.cover("nearness")
        texture, near = _blurred(target.sum), _blurred(target.picture)
        wide = view.edges()[1] - view.edges()[0]
        border = border_px(view, tile)
        return Mirror(
            texture,
            near,
            height,
            view.width_px / wide * texture.size[0] / part[2],
            (border / tile[2], border / tile[3]),
        )

    def _level(
        self, view: View, height_m: float, tile: tuple[int, int, int, int], target: Targets, quality: Quality
    ) -> None:
        """Mark in the target's ``picture`` where a tile, with its border, shows the mirror, or would without
        its bounds."""
        x, y, w, h = tile
        border = border_px(view, tile)
        wider = (x - border, y - border, w + 2 * border, h + 2 * border)
        target.picture.use()
        target.picture.clear()
        for shown in (view, unbounded(view)) if bounded(view) else (view,):
            clip = shown.clip_matrix(wider) @ shown.world_to_camera()
            common = {**camera_uniforms(shown, clip), "u_light_size": (1.0, 1.0)}
            self._light.surfaces(shown, target, common, clip, quality, 0, only=self._walls)
            self._context.enable_only(moderngl.BLEND)
            self._context.blend_func = moderngl.ONE, moderngl.ONE
            target.picture.use()
            colour_of(target.surface).use(0)
            self._programs.set(
                "level", u_surface=0, u_eye_high=view.pose.eye[2] - height_m, **ray_uniforms(shown, wider)
            )
            self._programs.cover("level")

    def _height(self, view: View) -> float | None:
        """The height of the mirror that is seen most, above which the eye stands."""
        if self._mirrors[0] is not self._shown.model:
            self._mirrors = (self._shown.model, mirroring_heights(self._shown.model))
            solid = self._shown.scene.solid
            self._walls = walls_and_floors(solid.owner, solid.low, solid.high)
            self._mirror_of = (None, WHOLE, None)
        if not (self._mirrors[1] < view.pose.eye[2]).any():
            return None
        if self._mirror_of[:2] != (view, self._shown.staging):
            small, facts = self._looks.at(view, panes=False)
            height = seen_mirror(
                small, facts.material_index, facts.normal, facts.depth_m, self._shown.model.materials
            )
            self._mirror_of = (view, self._shown.staging, height)
        return self._mirror_of[2]


def _blurred(frame: moderngl.Framebuffer) -> moderngl.Texture:
    """What a buffer holds, to be looked up blurred."""
    texture = colour_of(frame)
    texture.build_mipmaps()
    texture.filter = (moderngl.LINEAR_MIPMAP_LINEAR, moderngl.LINEAR)
    texture.repeat_x = texture.repeat_y = False
    return texture
