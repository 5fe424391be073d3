"""The renderer: a View and a Sky in, an exact picture out.

A picture is the mean of one or more passes.  Each pass shifts the samples within the pixel and, where there
are several, the sun within its disc and the grain of the contact shading, so that more passes bring smooth
edges and true half-shadows.  Large pictures are drawn in tiles with a margin; everything that varies over the
picture is tied to the picture's own pixels, so tiles meet without a seam.
"""

from __future__ import annotations

import functools
from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import ParamSpec, TypeVar

import moderngl
import numpy as np
import numpy.typing as npt

from altana.core.camera.bounds import bounded
from altana.core.camera.view import View
from altana.core.checks.cut_faces import Bodies
from altana.core.conventions import Floats32
from altana.core.light.sky import Sky
from altana.core.light.transport import LightMap
from altana.core.model import Model
from altana.core.progress import Progress
from altana.core.staging import WHOLE, Staging
from altana.render.context import create_context
from altana.render.cut_faces import CutFaces
from altana.render.depth import EMPTY, NEARER, reversed_range
from altana.render.facts import FactsPass
from altana.render.light_pass import LightPass
from altana.render.mirror_pass import MirrorPass
from altana.render.mirrors import NOTHING_MIRRORED
from altana.render.outputs import AS_IT_IS, DrawnAs, Facts, Master, Pixels
from altana.render.pixel_light import PixelLightTextures
from altana.render.programs import Programs
from altana.render.quality import FULL, MIRROR_PASSES, Quality, for_size, jittered, on_lens, passes_of, tiles
from altana.render.shadows import Region, ShadowMap, ShadowMaps, fitted_region, near_region
from altana.render.shown import ModelDrawer, shadow_regions
from altana.render.targets import Targets, TargetShelf, colour_of
from altana.render.uniforms import gain

MARGIN_PX = 96
#: How wide a picture says how far what is seen lies apart.
LOOKED_PX = 48
Params = ParamSpec("Params")
Result = TypeVar("Result")


def _current(method: Callable[Params, Result]) -> Callable[Params, Result]:
    """Make the renderer's context the current one first: a process may hold several."""

    @functools.wraps(method)
    def made_current(*args: Params.args, **kwargs: Params.kwargs) -> Result:
        renderer = args[0]
        assert isinstance(renderer, Renderer)
        with renderer.context:
            return method(*args, **kwargs)

    return made_current


class Renderer:
    """Holds a context and one model; draws any number of views of it."""

    def __init__(self, model: Model, light: LightMap | None = None) -> None:
        self.context = create_context()
        switches = () if reversed_range(self.context) else ("SPREAD_DEPTH",)
        #: Pictures, masters and facts drawn so far.
        self.views_drawn = 0
        self._drawn = AS_IT_IS
        with self.context:
            self.context.depth_func = NEARER
            self._programs = Programs(self.context, switches)
            self._targets = TargetShelf(self.context)
            self._shadows = ShadowMaps(self.context)
            self._shown = ModelDrawer(self.context, self._programs, model, light)
            self._facts = FactsPass(self.context, self._shown)
            self._cut_faces = CutFaces(self.context, self._programs, self._shown)
            self._light_pass = LightPass(
                self.context, self._programs, self._shown, self._targets, self._facts
            )
            self._mirrors = MirrorPass(
                self.context, self._programs, self._shown, self._targets, self._facts, self._light_pass
            )

    @property
    def pixel_light(self) -> PixelLightTextures:
        """The light that was reckoned for what one view shows."""
        return self._light_pass.pixels

    @property
    def bodies(self) -> Bodies:
        """The model's bodies, found when they are first needed."""
        return self._cut_faces.bodies

    @_current
    def show(self, model: Model, light: LightMap | None = None) -> None:
        """Draw another model from now on."""
        self._shown.show(model, light)
        self._shadows.clear()
        self._mirrors.clear()

    def close(self) -> None:
        """Give the context back."""
        with self.context:
            self._shown.release()
        self.context.release()

    # ------------------------------------------------------------------ pictures

    @_current
    def picture(
        self,
        view: View,
        sky: Sky,
        ev: float,
        quality: Quality = FULL,
        inside: bool = False,
        progress: Progress | None = None,
        staging: Staging = WHOLE,
    ) -> Pixels | None:
        """The picture as (height, width, 3) uint8, or None when ``progress`` returned False.

        ev : exposure, lower is brighter.  inside : how bright to guess where no light map is known.
        staging : what is left out, drawn faintly or moved; what is left out casts no sun shadow either.
        """
        self._shown.stage(staging)
        width, height = view.width_px, view.height_px
        result = np.empty((height, width, 3), np.uint8)
        every = tiles(width, height)
        for number, (x, y, w, h) in enumerate(every):
            margin = MARGIN_PX if len(every) > 1 else 0
            for step in self._tile(
                view, sky, ev, quality, inside, (x - margin, y - margin, w + 2 * margin, h + 2 * margin)
            ):
                if progress is not None and not progress((number + step) / len(every)):
                    return None
            result[y : y + h, x : x + w] = self._develop(w, h, margin, quality, ev)
        self.views_drawn += 1
        return result

    @_current
    def master(
        self,
        view: View,
        sky: Sky,
        quality: Quality = FULL,
        inside: bool = False,
        progress: Progress | None = None,
        staging: Staging = WHOLE,
        ev: float = 0.0,
        drawn: DrawnAs = AS_IT_IS,
    ) -> Master | None:
        """The same picture before exposure and tone; None when ``progress`` returned False.

        ev : only weighs edges against bright light as the picture at this exposure does.
        """
        self._shown.stage(staging)
        self._drawn = drawn
        try:
            return self._master(view, sky, quality, inside, progress, ev, drawn)
        finally:
            self._drawn = AS_IT_IS

    def _master(
        self,
        view: View,
        sky: Sky,
        quality: Quality,
        inside: bool,
        progress: Progress | None,
        ev: float,
        drawn: DrawnAs,
    ) -> Master | None:
        width, height = view.width_px, view.height_px
        result = np.empty((height, width, 3), np.float32)
        alpha = None if drawn.sky else np.empty((height, width), np.float32)
        every = tiles(width, height)
        for number, (x, y, w, h) in enumerate(every):

            def told(share: float, number: int = number) -> bool:
                return progress is None or progress((number + share) / len(every))

            tile = self._one_tile(number, view, sky, quality, inside, told, ev)
            if tile is None:
                return None
            light, cover = tile
            result[y : y + h, x : x + w] = light
            if alpha is not None:
                alpha[y : y + h, x : x + w] = cover
        self.views_drawn += 1
        return Master(result, alpha)

    @_current
    def tile(
        self,
        number: int,
        view: View,
        sky: Sky,
        quality: Quality,
        inside: bool,
        progress: Progress,
        staging: Staging,
        ev: float,
        drawn: DrawnAs,
    ) -> tuple[Floats32, Floats32] | None:
        """One of a master's ``tiles``, as ``master`` has it: light (h, w, 3) and coverage (h, w)."""
        self._shown.stage(staging)
        self._drawn = drawn
        try:
            return self._one_tile(number, view, sky, quality, inside, progress, ev)
        finally:
            self._drawn = AS_IT_IS

    def _one_tile(
        self, number: int, view: View, sky: Sky, quality: Quality, inside: bool, progress: Progress, ev: float
    ) -> tuple[Floats32, Floats32] | None:
        every = tiles(view.width_px, view.height_px)
        x, y, w, h = every[number]
        margin = MARGIN_PX if len(every) > 1 else 0
        wider = (x - margin, y - margin, w + 2 * margin, h + 2 * margin)
        for step in self._tile(view, sky, ev, quality, inside, wider):
            if not progress(step):
                return None
        return _light_read(self._targets.of(w + 2 * margin, h + 2 * margin), w, h, margin, quality, ev)

    @_current
    def relight(self, pixels: Floats32) -> None:
        """Another light on the same places: (height, width, 3) float32, as large as the one shown."""
        self._shown.scene.light.write(pixels.astype(np.float16).tobytes())
        self._mirrors.clear()

    @_current
    def facts(self, view: View, staging: Staging = WHOLE, panes: bool = False) -> Facts:
        """Object numbers, depths and surface directions, one sample at the middle of each pixel.

        panes : panes count as what is seen; otherwise sight goes through them.
        """
        self._shown.stage(staging)
        self._shown.small_px = 0.0
        facts = self._facts.of(view, panes)
        self.views_drawn += 1
        return facts

    @_current
    def inside(
        self, view: View, staging: Staging = WHOLE, depth_m: Floats32 | None = None
    ) -> npt.NDArray[np.bool_]:
        """(height, width) bool: pixels of cut faces, where sight begins inside a body that a bound cuts.

        depth_m : (height, width) depths of what is seen, where known: what stands before a wall cut hides it.
        """
        self._shown.stage(staging)
        return self._cut_faces.inside(
            view, lambda: self.facts(view, staging).depth_m if depth_m is None else depth_m
        )

    @_current
    def bare(self, view: View) -> None:
        """The same buffers with a trivial shader, for comparison only."""
        target = self._targets.of(view.width_px, view.height_px)
        target.light.use()
        target.light.clear(0.0, 0.0, 0.0, 1.0, depth=EMPTY)
        self.context.enable_only(moderngl.DEPTH_TEST)
        self._shown.draw_plain(view.clip_matrix() @ view.world_to_camera())
        self.context.finish()

    # ------------------------------------------------------------------ one tile

    def _tile(
        self, view: View, sky: Sky, ev: float, quality: Quality, inside: bool, tile: tuple[int, int, int, int]
    ) -> Iterator[float]:
        _x, _y, w, h = tile
        quality = for_size(quality, view)
        self._shown.burn(sky.lamps)
        self._light_pass.surround(sky)
        target = self._targets.of(w, h)
        target.sum.use()
        target.sum.clear(0.0, 0.0, 0.0, 0.0)
        begun = self._cut_faces.begun(view) if self._shown.staging.cap and bounded(view) else ()
        self._shown.small_px, self._shown.wide_px = quality.small_px, float(w)
        regions = self._near_region(view, quality), *shadow_regions(view, self._shown.scene)
        mirrored = NOTHING_MIRRORED
        passes = passes_of(view, quality)
        for number in range(passes):
            jitter = jittered(number, passes)
            shadows = self._shadow_maps(view, sky, quality, number % quality.passes, regions)
            if number == 0 and quality.passes >= MIRROR_PASSES and not self._drawn.white:
                for _ in self._mirrors.rooms(view, sky, quality, inside, shadows):
                    yield 0.0
                mirrored = self._mirrors.of(view, sky, quality, inside, tile, shadows)
            # Drawn several times over, each time from another place in the lens's opening.
            through = view.through(*on_lens(number, passes)) if passes > 1 else view
            self._light_pass.draw(
                through, sky, quality, inside, tile, target, jitter, number, shadows, mirrored, self._drawn
            )
            if begun:
                self._cut_faces.cap(
                    through, (tile[0] + jitter[0], tile[1] + jitter[1], w, h), target, begun, ev
                )
            if quality.passes > 1:
                self._add(target, ev)
                self.context.finish()
            yield (number + 1) / passes

    def _near_region(self, view: View, quality: Quality) -> Region:
        if not quality.fitted:
            return near_region(view)
        high = max(2, round(LOOKED_PX * view.height_px / view.width_px))
        small = replace(view, width_px=LOOKED_PX, height_px=high, blur=None)
        return fitted_region(view, self._facts.of(small).depth_m)

    def _add(self, target: Targets, ev: float) -> None:
        self.context.enable_only(moderngl.BLEND)
        self.context.blend_func = moderngl.ONE, moderngl.ONE
        target.sum.use()
        colour_of(target.light).use(0)
        self._programs.set("gather", u_light=0, u_gain=gain(ev), u_even=float(not self._drawn.sky))
        self._programs.cover("gather")

    def _develop(self, w: int, h: int, margin: int, quality: Quality, ev: float) -> Pixels:
        target = self._targets.of(w + 2 * margin, h + 2 * margin)
        self.context.enable_only(moderngl.NOTHING)
        target.picture.use()
        # A single pass needs no mean: its light is developed as it is.
        colour_of(target.sum if quality.passes > 1 else target.light).use(0)
        self._programs.set("develop", u_sum=0, u_gain=0.0 if quality.passes > 1 else gain(ev))
        self._programs.cover("develop")
        shown = target.picture
        if quality.passes == 1 and quality.divisor == 1:
            shown = target.smooth
            shown.use()
            colour_of(target.picture).use(0)
            self._programs.set("smooth", u_picture=0)
            self._programs.cover("smooth")
        data = shown.read(components=4)
        pixels = np.frombuffer(data, np.uint8).reshape(h + 2 * margin, w + 2 * margin, 4)[::-1, :, :3]
        return pixels[margin : margin + h, margin : margin + w]

    def _shadow_maps(
        self, view: View, sky: Sky, quality: Quality, number: int, regions: tuple[Region, Region, Region]
    ) -> tuple[ShadowMap, ...]:
        staged = self._shown.staging
        drawn = (staged.omitted, staged.moved, staged.unlit)
        reach = self._shown.scene.reach_m
        return self._shadows.of_pass(
            view,
            sky,
            regions,
            reach,
            quality.passes,
            number,
            quality.shadow_px,
            drawn,
            self._shown,
            quality.hasty,
        )


def _light_read(
    target: Targets, w: int, h: int, margin: int, quality: Quality, ev: float
) -> tuple[Floats32, Floats32]:
    """Light of what covers each pixel, and the coverage, of the inner part of a tile."""
    source, unit = (target.sum, gain(ev)) if quality.passes > 1 else (target.light, 1.0)
    values = np.frombuffer(source.read(components=4, dtype="f4"), np.float32).reshape(
        h + 2 * margin, w + 2 * margin, 4
    )
    inner = values[::-1][margin : margin + h, margin : margin + w]
    light: Floats32 = np.maximum(inner[..., :3] / np.maximum(inner[..., 3:], 1e-6) / np.float32(unit), 0.0)
    cover: Floats32 = np.clip(inner[..., 3] / np.float32(quality.passes), 0.0, 1.0)
    return light, cover
