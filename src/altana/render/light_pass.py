"""One pass of a picture: the surfaces seen, the light on them, contact shade, mirrors and panes."""

from __future__ import annotations

import moderngl
import numpy as np

from altana.core.camera.bounds import bounded, unbounded
from altana.core.camera.view import View
from altana.core.conventions import Floats
from altana.core.light.sky import Sky
from altana.render.depth import EMPTY, depth_buffer
from altana.render.facts import FactsPass
from altana.render.mirrors import NOTHING_MIRRORED, Mirrored
from altana.render.outputs import AS_IT_IS, DrawnAs
from altana.render.pixel_light import PixelLightTextures
from altana.render.programs import Programs
from altana.render.quality import Quality
from altana.render.shadows import ShadowMap
from altana.render.shown import ModelDrawer
from altana.render.targets import Targets, TargetShelf, colour_of, kept
from altana.render.uniforms import (
    AROUND_UNIT,
    MIRROR_UNIT,
    air,
    camera_uniforms,
    ray_uniforms,
    sky_uniforms,
    tile_edges,
    with_cuts,
)

#: Contact shading looks this far, and never wider than this share of a picture 720 px high.
CONTACT_M = 0.9
WIDEST = 0.11
#: The second colour that a shader gives, as the graphics library's own names do not reach.
SECOND_COLOUR = 0x88F9

#: The texture units of what panes let through: near, far, seen.
PANES_UNITS = {"near": 7, "far": 8, "seen": 9}


class LightPass:
    """Draws what a view shows in its light."""

    def __init__(
        self,
        context: moderngl.Context,
        programs: Programs,
        shown: ModelDrawer,
        targets: TargetShelf,
        facts: FactsPass,
    ) -> None:
        self._context, self._programs, self._shown = context, programs, shown
        self._targets, self._facts = targets, facts
        self._on_card = "llvmpipe" not in context.info["GL_RENDERER"]
        #: What surroundings the shaders have, by key.
        self._around: tuple[str, moderngl.Texture] | None = None
        #: Light that was reckoned for what one view shows.
        self.pixels = PixelLightTextures(context)
        self._wholes: dict[tuple[int, int], moderngl.Framebuffer] = {}

    def draw(
        self,
        view: View,
        sky: Sky,
        quality: Quality,
        inside: bool,
        tile: tuple[int, int, int, int],
        target: Targets,
        jitter: tuple[float, float],
        number: int,
        shadows: tuple[ShadowMap, ...],
        mirrored: Mirrored,
        drawn: DrawnAs,
    ) -> None:
        """Draw one pass of a tile of a picture into the target's ``light``."""
        scene = self._shown.scene
        shifted = (tile[0] + jitter[0], tile[1] + jitter[1], tile[2], tile[3])
        clip = view.clip_matrix(shifted) @ view.world_to_camera()
        common = {**camera_uniforms(view, clip), "u_light_size": tuple(map(float, scene.light.size))}
        self.surfaces(view, target, common, clip, quality, number)
        if quality.contact:
            self._contact(view, tile, target, number, shifted, quality)
        else:
            target.open_soft.use()
            target.open_soft.clear(1.0, 1.0, 1.0, 1.0)
        lights = self._lights(sky, inside, drawn)
        self._light(view, target, common, lights, shadows, quality, shifted, mirrored, self.pixels.uniforms())
        values = {**common, **lights, **mirrored.panes_uniforms(), **sun_uniforms(shadows, quality)}
        self._glass(view, target, clip, values, shadows, mirrored.panes_switch)

    def surround(self, sky: Sky) -> None:
        """Put surroundings where the shaders look for them."""
        around = sky.around
        key = around.key if around is not None else ""
        if self._around is None or self._around[0] != key:
            if self._around is not None:
                self._around[1].release()
            pixels = around.pixels if around is not None else np.zeros((1, 1, 3), np.float32)
            data = np.ascontiguousarray(np.minimum(pixels, 60_000.0).astype(np.float16)).tobytes()
            texture = self._context.texture(
                (pixels.shape[1], pixels.shape[0]), 3, data, dtype="f2", alignment=2
            )
            texture.repeat_x, texture.repeat_y = True, False
            self._around = key, texture
        self._around[1].use(AROUND_UNIT)

    def plainly(
        self,
        view: View,
        sky: Sky,
        quality: Quality,
        inside: bool,
        tile: tuple[float, float, float, float],
        target: Targets,
        shadows: tuple[ShadowMap, ...],
        before: tuple[float, float, float, float] | None = None,
        number: int = 0,
    ) -> None:
        """Draw what mirrors show into the target's ``light``: no contact shade, and nothing mirrored again.

        before : a plane, its normal and how far along it: what lies behind it is left away.  number : of the
        time that it is drawn.
        """
        clip = view.clip_matrix(tile) @ view.world_to_camera()
        common = {
            **camera_uniforms(view, clip),
            "u_light_size": tuple(map(float, self._shown.scene.light.size)),
            "u_before": before,
        }
        switch = "" if before is None else ":BEFORE"
        self.surfaces(view, target, common, clip, quality, number, switch)
        target.open_soft.use()
        target.open_soft.clear(1.0, 1.0, 1.0, 1.0)
        lights = self._lights(sky, inside, AS_IT_IS)
        self._light(view, target, common, lights, shadows, quality, tile, NOTHING_MIRRORED)
        values = {**common, **lights, **sun_uniforms(shadows, quality)}
        self._glass(view, target, clip, values, shadows, switch)

    def surfaces(
        self,
        view: View,
        target: Targets,
        common: dict[str, object],
        clip: Floats,
        quality: Quality,
        number: int,
        switch: str = "",
        only: tuple[int, ...] | None = None,
    ) -> None:
        """Draw what each pixel shows into the target's ``surface``.  only : the objects to draw, where not
        all are meant."""
        self._context.enable_only(moderngl.DEPTH_TEST)
        target.surface.use()
        target.surface.clear(0.0, 0.0, 0.0, 0.0, depth=EMPTY)
        self._shown.scene.materials.use(0)
        self._shown.scene.light.use(2)
        # Mixing two levels of a texture doubles its cost; with one pass one level must do.
        mixed = moderngl.LINEAR_MIPMAP_LINEAR if quality.passes > 1 else moderngl.LINEAR_MIPMAP_NEAREST
        for array in self._shown.scene.textures.arrays:
            array.filter = (mixed, moderngl.LINEAR)
            # Surfaces seen along keep their pattern.  In software it takes three times as long, and is worse:
            # where a surface runs past the eye itself, Mesa's llvmpipe counts through texels and does not
            # come back.  There the many samples of a pixel must do.
            array.anisotropy = min(self._context.max_anisotropy, 8.0) if self._on_card else 1.0
        name = with_cuts("surface:BOUNDS", view) if bounded(view) else "surface" + switch
        values = {
            **common,
            "u_materials": 0,
            "u_images": 1,
            "u_light_map": 2,
            "u_light_known": float(self._shown.scene.light_known),
            "u_level_bias": -0.7 if quality.passes > 1 else -0.2,
            "u_phase": number,
        }
        self._shown.draw(name, "solid", clip, None, values, only=only)
        if self._shown.staging.faint and only is None:
            self._shown.draw(
                with_cuts("surface:BOUNDS:FAINT", view), "solid", clip, None, values, "solid:faint"
            )

    def _contact(
        self,
        view: View,
        tile: tuple[int, int, int, int],
        target: Targets,
        number: int,
        shifted: tuple[float, float, float, float],
        quality: Quality,
    ) -> None:
        whole = self._whole_depths(view, shifted, target) if bounded(view) else colour_of(target.surface)
        self._context.enable_only(moderngl.NOTHING)
        colour_of(target.surface).use(0)
        whole.use(1)
        self._programs.set(
            "occlusion",
            u_surface=0,
            u_whole=1,
            u_cut=float(bounded(view)),
            u_edges=tile_edges(view, shifted),
            u_camera=view.pose.axes(),
            u_radius=CONTACT_M,
            u_widest=WIDEST * min(1.0, view.height_px / tile[3]),
            u_noise=(float(tile[0] // 2), float(-(tile[1] + tile[3]) // 2), number * 2.399),
            u_samples=6 if quality.passes == 1 else 8,
        )
        target.open_rough.use()
        self._programs.cover("occlusion")
        target.open_soft.use()
        colour_of(target.open_rough).use(1)
        left, right = view.edges()[:2]
        self._programs.set("soften", u_open=1, u_surface=0, u_pixel=(right - left) / view.width_px)
        self._programs.cover("soften")

    def _whole_depths(
        self, view: View, tile: tuple[float, float, float, float], target: Targets
    ) -> moderngl.Texture:
        """What the picture would show with nothing cut away, for the contact shade of what both show."""
        size = target.size
        make = self._context

        def fresh() -> moderngl.Framebuffer:
            texture = make.texture(size, 4, dtype="u4")
            texture.filter = (moderngl.NEAREST, moderngl.NEAREST)
            return make.framebuffer([texture], depth_buffer(make, size))

        frame = kept(self._wholes, size, fresh)
        whole = unbounded(view)
        clip = whole.clip_matrix(tile) @ whole.world_to_camera()
        self._context.enable_only(moderngl.DEPTH_TEST)
        frame.use()
        frame.clear(0.0, 0.0, 0.0, 0.0, depth=EMPTY)
        self._shown.scene.materials.use(0)
        values = {
            **camera_uniforms(whole, clip),
            "u_light_size": (1.0, 1.0),
            "u_materials": 0,
            "u_images": 1,
            "u_level_bias": 4.0,
        }
        self._shown.draw("surface", "solid", clip, None, values)
        texture = colour_of(frame)
        assert isinstance(texture, moderngl.Texture)
        return texture

    def _lights(self, sky: Sky, inside: bool, drawn: DrawnAs) -> dict[str, object]:
        return {
            **sky_uniforms(sky),
            "u_light_known": float(self._shown.scene.light_known),
            "u_estimate": 0.07 if inside else 1.0,
            "u_light_map": 2,
            "u_white": float(drawn.white),
            "u_sky_shown": float(drawn.sky),
            "u_ground_at": self._shown.scene.ground_m,
        }

    def _light(
        self,
        view: View,
        target: Targets,
        common: dict[str, object],
        lights: dict[str, object],
        shadows: tuple[ShadowMap, ...],
        quality: Quality,
        tile: tuple[float, float, float, float],
        mirrored: Mirrored,
        by_pixel: dict[str, object] | None = None,
    ) -> None:
        by_pixel = by_pixel or {}
        self._context.enable_only(moderngl.NOTHING)
        target.light.use()
        colour_of(target.surface).use(1)
        near, far, seen = *shadows[:2], shadows[-1]
        colour_of(target.open_soft).use(5)
        through = panes_uniforms(near, far, seen)
        # A processor works through both sides of every question in a shader, so what does not arise is left
        # out of it.
        name = "light" + seen_switch(shadows) + (":METAL" if self._shown.scene.metal else "")
        name += (":PANES" if through else "") + mirrored.switch + (":PIXEL_LIGHT" if by_pixel else "")
        self._programs.set(
            name,
            **lights,
            **by_pixel,
            **mirrored.uniforms(MIRROR_UNIT),
            u_eye=common["u_eye"],
            u_surface=1,
            u_occlusion=5,
            **sun_uniforms(shadows, quality),
            **through,
            u_air=air(lights),
            **ray_uniforms(view, tile),
        )
        self._programs.cover(name)

    def _glass(
        self,
        view: View,
        target: Targets,
        clip: Floats,
        values: dict[str, object],
        shadows: tuple[ShadowMap, ...],
        switch: str,
    ) -> None:
        scene = self._shown.scene
        if scene.frosted:
            switch = seen_switch(shadows) + ":FROSTED" + switch
        if len(scene.glass.first):
            self._context.enable_only(moderngl.DEPTH_TEST | moderngl.BLEND)
            # What lies behind a pane goes through it in the pane's colour.
            self._context.blend_func = moderngl.ONE, SECOND_COLOUR
            target.light.depth_mask = False
            scene.materials.use(0)
            scene.light.use(2)
            self._shown.draw(
                with_cuts("glass" + switch, view), "glass", clip, view, {**values, "u_materials": 0}
            )
            target.light.depth_mask = True
            # Left in force, the second colour keeps some drivers from drawing into several buffers, blending
            # or not.
            self._context.blend_func = moderngl.ONE, moderngl.ZERO


def seen_switch(shadows: tuple[ShadowMap, ...]) -> str:
    """What is defined in a program where what a view shows has a shadow map of its own."""
    return ":SEEN" if len(shadows) > 2 else ""


def sun_uniforms(shadows: tuple[ShadowMap, ...], quality: Quality) -> dict[str, object]:
    """Where the sun is kept off, as sunlight.glsl holds it; the maps are put in their units."""
    near, far, seen = *shadows[:2], shadows[-1]
    for unit, shadow in ((3, near), (4, far), (6, seen)):
        shadow.depths.use(unit)
    return {
        "u_shadow_near": 3,
        "u_shadow_far": 4,
        "u_shadow_seen": 6,
        "u_to_shadow_near": near.matrix,
        "u_to_shadow_far": far.matrix,
        "u_to_shadow_seen": seen.matrix,
        "u_shadow_texel": (near.texel_m, far.texel_m, seen.texel_m),
        "u_shadow_step": 1.0 / quality.shadow_px,
        "u_taps": quality.taps,
    }


def panes_uniforms(near: ShadowMap, far: ShadowMap, seen: ShadowMap) -> dict[str, object]:
    """What panes do to the sun, as light.frag holds it; its textures are put in their units.  Nothing where
    there are no panes."""
    uniforms: dict[str, object] = {}
    deep = []
    for (name, unit), shadow in zip(PANES_UNITS.items(), (near, far, seen), strict=True):
        if shadow.panes is None:
            return {}
        shadow.panes.through.use(unit)
        uniforms[f"u_panes_{name}"], uniforms[f"u_to_panes_{name}"] = unit, shadow.panes.matrix
        deep.append(shadow.panes.deep_m)
    return {**uniforms, "u_panes_deep": tuple(deep), "u_panes_shift": near.panes_shift}
