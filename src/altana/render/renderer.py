"""The renderer: a View and a Sky in, an exact picture out.

A picture is the mean of one or more passes.  Each pass shifts the samples within the pixel and, where there are
several, the sun within its disc and the grain of the contact shading, so that more passes bring smooth edges and
true half-shadows.  Large pictures are drawn in tiles with a margin; everything that varies over the picture is
tied to the picture's own pixels, so tiles meet without a seam.
"""

from __future__ import annotations

import functools
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any, ParamSpec, TypeVar

import moderngl
import numpy as np
import numpy.typing as npt

from altana.core.camera.bounds import bounded, sight_passes, unbounded
from altana.core.camera.view import View
from altana.core.checks.cut_faces import Bodies, bodies_of, crossed_bodies
from altana.core.conventions import Floats, Floats32, Ints
from altana.core.light.sky import Sky
from altana.core.light.transport import LightMap
from altana.core.model import Model
from altana.core.staging import WHOLE, Staging
from altana.render.context import create_context, shader
from altana.render.depth import EMPTY, NEARER, depth_buffer, reversed_range
from altana.render.shadows import Region, ShadowMap, ShadowMaps, seen_region
from altana.render.uniforms import (
    AROUND_UNIT,
    UNBOUNDED_M,
    air,
    camera_uniforms,
    gain,
    in_map,
    in_sight,
    jittered,
    ray_uniforms,
    sky_uniforms,
    tile_edges,
    vertex_format,
    with_cuts,
)
from altana.render.upload import Batches, set_lamps, upload

TILE_PX = 2048
#: Pictures of so many passes and more are final.
FINAL_PASSES = 24
MARGIN_PX = 96
#: Contact shading looks this far, and never wider than this share of a picture 720 px high.
CONTACT_M = 0.9
WIDEST = 0.11
#: The second colour that a shader gives, as the graphics library's own names do not reach.
SECOND_COLOUR = 0x88F9
#: The ink of cut faces, as light at an exposure of 1.
POCHE = (0.017, 0.015, 0.013)
_VERTEX_SHADERS = {
    "surface": "scene.vert",
    "cutout": "scene.vert",
    "glass": "scene.vert",
    "facts": "scene.vert",
    "count": "scene.vert",
    "pane": "scene.vert",
    "depth": "depth.vert",
    "plain": "depth.vert",
}
Pixels = npt.NDArray[np.uint8]
Progress = Callable[[float], bool]
Params = ParamSpec("Params")
Result = TypeVar("Result")


@dataclass(frozen=True, slots=True)
class Quality:
    """What a picture costs: passes, shadow map side, whether there is contact shading, size divisor.

    ``small_px`` : finely meshed objects narrower than this are drawn by their coarser versions, where a model is so large that it has
    them, and what is narrower than a twelfth of it is not drawn.
    """

    passes: int = 1
    shadow_px: int = 2048
    contact: bool = True
    divisor: float = 1.0
    taps: int = 4
    small_px: float = 4.0


COARSE = Quality(shadow_px=1024, contact=False, divisor=2.5, taps=1, small_px=24.0)
FULL = Quality(taps=2, small_px=10.0)
#: Small pictures, of the strip: no shadow is told from a finer one there.
SMALL = Quality(shadow_px=1024, taps=2, small_px=10.0)
STILL = Quality(passes=8)


@dataclass(frozen=True, slots=True)
class Facts:
    """Extra outputs, each (height, width): object number or -1, depth in metres along the view (infinite for sky),
    (height, width, 3) surface directions, whether a pane lies before what is seen, and material number or -1."""

    object_index: npt.NDArray[np.int32]
    depth_m: Floats32
    normal: Floats32
    pane: npt.NDArray[np.bool_]
    material_index: npt.NDArray[np.int32]


@dataclass(frozen=True, slots=True)
class Drawn:
    """How a picture is drawn: everything as white card, and whether there is a sky."""

    white: bool = False
    sky: bool = True


AS_IT_IS = Drawn()


@dataclass(frozen=True, slots=True)
class Master:
    """A picture before exposure and tone: ``light`` (height, width, 3) float32 in cd/m2, of what covers each pixel, and
    ``alpha`` (height, width) float32, how much of it is covered; None where there is a sky all over."""

    light: Floats32
    alpha: Floats32 | None = None


@dataclass(slots=True)
class _Targets:
    size: tuple[int, int]
    light: moderngl.Framebuffer
    surface: moderngl.Framebuffer
    open_rough: moderngl.Framebuffer
    open_soft: moderngl.Framebuffer
    sum: moderngl.Framebuffer
    picture: moderngl.Framebuffer
    smooth: moderngl.Framebuffer

    def release(self) -> None:
        self.light.depth_attachment.release()
        for frame in (
            self.light,
            self.surface,
            self.open_rough,
            self.open_soft,
            self.sum,
            self.picture,
            self.smooth,
        ):
            colour_of(frame).release()
            frame.release()


def _current(method: Callable[Params, Result]) -> Callable[Params, Result]:
    """Make the renderer's context the current one first: a process may hold several."""

    @functools.wraps(method)
    def made_current(*args: Params.args, **kwargs: Params.kwargs) -> Result:
        renderer = args[0]
        assert isinstance(renderer, Renderer)
        with renderer.context:
            return method(*args, **kwargs)

    return made_current


def colour_of(frame: moderngl.Framebuffer) -> moderngl.Texture:
    """The first picture that a framebuffer draws into."""
    attachment = frame.color_attachments[0]
    assert isinstance(attachment, moderngl.Texture)
    return attachment


class Renderer:
    """Holds a context and one model; draws any number of views of it."""

    def __init__(self, model: Model, light: LightMap | None = None) -> None:
        self.context = create_context()
        self._switches = () if reversed_range(self.context) else ("SPREAD_DEPTH",)
        with self.context:
            self.context.depth_func = NEARER
            self._on_card = "llvmpipe" not in self.context.info["GL_RENDERER"]
        #: Pictures, masters and facts drawn so far.
        self.views_drawn = 0
        self._programs: dict[str, moderngl.Program] = {}
        self._covers: dict[str, moderngl.VertexArray] = {}
        with self.context:
            self._commands = self.context.buffer(reserve=20)
        self._targets: dict[tuple[int, int], _Targets] = {}
        self._shadows = ShadowMaps(self.context)
        with self.context:
            self._scene = upload(self.context, model, light)
        self._arrays: dict[str, moderngl.VertexArray] = {}
        self._staging = WHOLE
        self._drawn = AS_IT_IS
        self._still: dict[str, npt.NDArray[np.bool_]] = {}
        self._model = model
        #: The share of their light that lamps give now.
        self._lamps = 0.0
        #: What surroundings the shaders have, by key.
        self._around: tuple[str, moderngl.Texture] | None = None
        self._bodies: Bodies | None = None
        self._wholes: dict[tuple[int, int], moderngl.Framebuffer] = {}
        #: How narrow an object must be for its coarser version, 0 for never, and how wide the picture is, pixels.
        self._small, self._wide_px = 0.0, 1.0
        self._counts: dict[tuple[int, int], moderngl.Framebuffer] = {}

    @property
    def bodies(self) -> Bodies:
        """The model's bodies, found when they are first needed."""
        if self._bodies is None:
            self._bodies = bodies_of(self._model)
        return self._bodies

    def _stage(self, staging: Staging) -> None:
        """Note which batches stand as they are in the model, are faint, or move."""
        if staging == self._staging and self._still:
            return
        self._staging = staging
        count = self._scene.object_count
        other, faint = np.zeros(count, bool), np.zeros(count, bool)
        other[list(staging.omitted)] = True
        other[[item.index for item in staging.moved]] = True
        faint[list(staging.faint)] = True
        for name, batches in (("solid", self._scene.solid), ("glass", self._scene.glass)):
            self._still[name] = ~other[batches.owner] & ~faint[batches.owner]
            self._still[f"{name}:faint"] = faint[batches.owner] & ~other[batches.owner]

    def _forget_programs(self, before: tuple[str, ...]) -> None:
        """Programs know whether vertices are painted; those of a model that was otherwise are made again."""
        if ("paint" in before) == ("paint" in self._scene.fields):
            return
        for name in [
            name for name in self._programs if _VERTEX_SHADERS.get(name.split(":")[0]) == "scene.vert"
        ]:
            self._programs.pop(name).release()

    @_current
    def show(self, model: Model, light: LightMap | None = None) -> None:
        """Draw another model from now on."""
        old = self._scene
        self._scene = upload(self.context, model, light)
        self._staging, self._still, self._lamps = WHOLE, {}, 0.0
        self._model, self._bodies = model, self._bodies if model is self._model else None
        for array in self._arrays.values():
            array.release()
        self._arrays.clear()
        self._forget_programs(old.fields)
        self._shadows.clear()
        old.release()

    def close(self) -> None:
        """Give the context back."""
        with self.context:
            self._scene.release()
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

        ev : exposure, lower is brighter.  inside : how bright to guess where no light map is known.  staging : what
        is left out, drawn faintly or moved; what is left out casts no sun shadow either.
        """
        self._stage(staging)
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
        drawn: Drawn = AS_IT_IS,
    ) -> Master | None:
        """The same picture before exposure and tone; None when ``progress`` returned False.

        ev : only weighs edges against bright light as the picture at this exposure does.
        """
        self._stage(staging)
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
        drawn: Drawn,
    ) -> Master | None:
        width, height = view.width_px, view.height_px
        result = np.empty((height, width, 3), np.float32)
        alpha = None if drawn.sky else np.empty((height, width), np.float32)
        every = tiles(width, height)
        for number, (x, y, w, h) in enumerate(every):

            def told(share: float, number: int = number) -> bool:
                return progress is None or progress((number + share) / len(every))

            made = self._one_tile(number, view, sky, quality, inside, told, ev)
            if made is None:
                return None
            light, cover = made
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
        drawn: Drawn,
    ) -> tuple[Floats32, Floats32] | None:
        """One of the ``tiles`` of a master alone, as ``master`` has it: light (h, w, 3) and coverage (h, w)."""
        self._stage(staging)
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
        return self._light_read(w, h, margin, quality, ev)

    def _light_read(
        self, w: int, h: int, margin: int, quality: Quality, ev: float
    ) -> tuple[Floats32, Floats32]:
        """Light of what covers each pixel, and the coverage, of the inner part of a tile."""
        target = self._target(w + 2 * margin, h + 2 * margin)
        source, unit = (target.sum, gain(ev)) if quality.passes > 1 else (target.light, 1.0)
        values = np.frombuffer(source.read(components=4, dtype="f4"), np.float32).reshape(
            h + 2 * margin, w + 2 * margin, 4
        )
        inner = values[::-1][margin : margin + h, margin : margin + w]
        light: Floats32 = np.maximum(
            inner[..., :3] / np.maximum(inner[..., 3:], 1e-6) / np.float32(unit), 0.0
        )
        cover: Floats32 = np.clip(inner[..., 3] / np.float32(quality.passes), 0.0, 1.0)
        return light, cover

    @_current
    def relight(self, pixels: Floats32) -> None:
        """Another light on the same places: (height, width, 3) float32, of the size of the light map shown."""
        self._scene.light.write(pixels.astype(np.float16).tobytes())

    @_current
    def facts(self, view: View, staging: Staging = WHOLE, panes: bool = False) -> Facts:
        """Object numbers, depths and surface directions, one sample at the middle of each pixel.

        panes : panes count as what is seen; otherwise sight goes through them.
        """
        self._stage(staging)
        self._small = 0.0
        width, height = view.width_px, view.height_px
        found = Facts(
            np.full((height, width), -1, np.int32),
            np.full((height, width), np.inf, np.float32),
            np.zeros((height, width, 3), np.float32),
            np.zeros((height, width), bool),
            np.full((height, width), -1, np.int32),
        )
        for x, y, w, h in tiles(width, height):
            self._facts_tile(view, (x, y, w, h), found, panes)
        self.views_drawn += 1
        return found

    @_current
    def inside(
        self, view: View, staging: Staging = WHOLE, depth_m: Floats32 | None = None
    ) -> npt.NDArray[np.bool_]:
        """(height, width) bool: the pixels that show cut faces, where sight begins inside a body that a bound cuts.

        depth_m : (height, width) depths of what is seen, where they are known: what stands before a wall cut hides it.
        """
        self._stage(staging)
        begun = crossed_bodies(self._model, self.bodies, view, staging)[1]
        made = np.zeros((view.height_px, view.width_px), bool)
        if not begun:
            return made
        for x, y, w, h in tiles(view.width_px, view.height_px):
            counted = self._count(view, (x, y, w, h), begun)
            values = np.frombuffer(counted.read(components=1, dtype="f4"), np.float32).reshape(h, w)[::-1]
            made[y : y + h, x : x + w] = values > 0.5
        if view.cuts and made.any():
            depth = self.facts(view, staging).depth_m if depth_m is None else depth_m
            rows, columns = np.nonzero(made)
            along = view.rays(np.column_stack([columns + 0.5, rows + 0.5]))
            begins = sight_passes(view, along) * (along @ view.pose.forward)
            made[rows, columns] = depth[rows, columns] >= begins - 1e-3
        return made

    def _count(
        self, view: View, tile: tuple[float, float, float, float], begun: tuple[int, ...]
    ) -> moderngl.Framebuffer:
        """Counts surfaces of these bodies along each line of sight of a tile."""
        size = (int(tile[2]), int(tile[3]))
        frame = _kept(
            self._counts, size, lambda: self.context.framebuffer([self.context.texture(size, 1, dtype="f4")])
        )
        frame.use()
        frame.clear(0.0, 0.0, 0.0, 0.0)
        self.context.enable_only(moderngl.BLEND)
        self.context.blend_func = moderngl.ONE, moderngl.ONE
        clip = view.clip_matrix(tile) @ view.world_to_camera()
        common = {
            **camera_uniforms(view, clip),
            "u_light_size": (1.0, 1.0),
            "u_materials": 0,
            "u_images": 1,
            "u_phase": 0,
        }
        self._scene.materials.use(0)
        moved = {item.index for item in self._staging.moved}
        for number in begun:
            low, high = self.bodies.low[number] - 1e-4, self.bodies.high[number] + 1e-4
            if number in moved:
                low, high = np.full(3, -UNBOUNDED_M), np.full(3, UNBOUNDED_M)
            box = {
                "u_low": tuple(low.tolist()),
                "u_high": tuple(high.tolist()),
                "u_sense": float(self.bodies.sense[number]),
            }
            self._draw(with_cuts("count", view), "solid", clip, None, {**common, **box}, only=(number,))
        return frame

    @_current
    def bare(self, view: View) -> None:
        """The same buffers with a trivial shader, for comparison only."""
        target = self._target(view.width_px, view.height_px)
        target.light.use()
        target.light.clear(0.0, 0.0, 0.0, 1.0, depth=EMPTY)
        self.context.enable_only(moderngl.DEPTH_TEST)
        clip = view.clip_matrix() @ view.world_to_camera()
        self._set("plain", u_clip=clip, u_from=(0.0, 0.0, 0.0))
        self._array("plain").render()
        self.context.finish()

    def _surround(self, sky: Sky) -> None:
        """Put surroundings where the shaders look for them."""
        around = sky.around
        key = around.key if around is not None else ""
        if self._around is None or self._around[0] != key:
            if self._around is not None:
                self._around[1].release()
            pixels = around.pixels if around is not None else np.zeros((1, 1, 3), np.float32)
            data = np.ascontiguousarray(np.minimum(pixels, 60_000.0).astype(np.float16)).tobytes()
            texture = self.context.texture(
                (pixels.shape[1], pixels.shape[0]), 3, data, dtype="f2", alignment=2
            )
            texture.repeat_x, texture.repeat_y = True, False
            self._around = key, texture
        self._around[1].use(AROUND_UNIT)

    def _burn(self, share: float) -> None:
        """Let lamps glow with a share of their light."""
        if share != self._lamps and any(item.lamp for item in self._model.materials):
            set_lamps(self._scene.materials, self._model, self._scene.textures, share)
        self._lamps = share

    # ------------------------------------------------------------------ one tile

    def _tile(
        self, view: View, sky: Sky, ev: float, quality: Quality, inside: bool, tile: tuple[int, int, int, int]
    ) -> Iterator[float]:
        _x, _y, w, h = tile
        self._burn(sky.lamps)
        self._surround(sky)
        target = self._target(w, h)
        target.sum.use()
        target.sum.clear(0.0, 0.0, 0.0, 0.0)
        begun = (
            crossed_bodies(self._model, self.bodies, view, self._staging)[1]
            if self._staging.cap and bounded(view)
            else ()
        )
        self._small, self._wide_px = quality.small_px, float(w)
        regions = self._shadow_regions(view)
        for number in range(quality.passes):
            jitter = jittered(number, quality.passes)
            shadows = self._shadow_maps(view, sky, quality, number, regions)
            self._pass(view, sky, quality, inside, tile, target, jitter, number, shadows)
            if begun:
                self._cap(view, (tile[0] + jitter[0], tile[1] + jitter[1], w, h), target, begun, ev)
            if quality.passes > 1:
                self._add(target, ev)
                self.context.finish()
            yield (number + 1) / quality.passes

    def _pass(
        self,
        view: View,
        sky: Sky,
        quality: Quality,
        inside: bool,
        tile: tuple[int, int, int, int],
        target: _Targets,
        jitter: tuple[float, float],
        number: int,
        shadows: tuple[ShadowMap, ...],
    ) -> None:
        scene = self._scene
        shifted = (tile[0] + jitter[0], tile[1] + jitter[1], tile[2], tile[3])
        clip = view.clip_matrix(shifted) @ view.world_to_camera()
        common = {**camera_uniforms(view, clip), "u_light_size": tuple(map(float, scene.light.size))}
        self._surfaces(view, target, common, clip, quality, number)
        if quality.contact:
            self._contact(view, tile, target, number, shifted, quality)
        else:
            target.open_soft.use()
            target.open_soft.clear(1.0, 1.0, 1.0, 1.0)
        lights = {
            **sky_uniforms(sky),
            "u_light_known": float(scene.light_known),
            "u_estimate": 0.07 if inside else 1.0,
            "u_light_map": 2,
        }
        self._light(view, target, common, lights, shadows, quality, shifted)
        if len(scene.glass.first):
            self.context.enable_only(moderngl.DEPTH_TEST | moderngl.BLEND)
            # What lies behind a pane goes through it in the pane's colour.
            self.context.blend_func = moderngl.ONE, SECOND_COLOUR
            target.light.depth_mask = False
            scene.materials.use(0)
            scene.light.use(2)
            self._draw(with_cuts("glass", view), "glass", clip, view, {**common, **lights, "u_materials": 0})
            target.light.depth_mask = True
            # Left in force, the second colour keeps some drivers from drawing into several buffers, blending or not.
            self.context.blend_func = moderngl.ONE, moderngl.ZERO

    def _cap(
        self,
        view: View,
        tile: tuple[float, float, float, float],
        target: _Targets,
        begun: tuple[int, ...],
        ev: float,
    ) -> None:
        """Poché over the cut faces; nothing can lie before them, because sight begins there."""
        counted = self._count(view, tile, begun)
        self.context.enable_only(moderngl.NOTHING)
        target.light.use()
        colour_of(counted).use(0)
        colour_of(target.surface).use(1)
        name = with_cuts("cap", view)
        bounds = camera_uniforms(view, np.eye(4))
        ink = tuple((np.asarray(POCHE) / gain(ev)).tolist())
        self._set(name, **bounds, **ray_uniforms(view, tile), u_count=0, u_surface=1, u_cap=ink)
        self._cover(name)

    def _whole_depths(
        self, view: View, tile: tuple[float, float, float, float], target: _Targets
    ) -> moderngl.Texture:
        """What the picture would show with nothing cut away, for the contact shade of what both show."""
        size = target.size
        make = self.context

        def fresh() -> moderngl.Framebuffer:
            texture = make.texture(size, 4, dtype="u4")
            texture.filter = (moderngl.NEAREST, moderngl.NEAREST)
            return make.framebuffer([texture], depth_buffer(make, size))

        frame = _kept(self._wholes, size, fresh)
        whole = unbounded(view)
        clip = whole.clip_matrix(tile) @ whole.world_to_camera()
        self.context.enable_only(moderngl.DEPTH_TEST)
        frame.use()
        frame.clear(0.0, 0.0, 0.0, 0.0, depth=EMPTY)
        self._scene.materials.use(0)
        values = {
            **camera_uniforms(whole, clip),
            "u_light_size": (1.0, 1.0),
            "u_materials": 0,
            "u_images": 1,
            "u_level_bias": 4.0,
        }
        self._draw("surface", "solid", clip, None, values)
        texture = colour_of(frame)
        assert isinstance(texture, moderngl.Texture)
        return texture

    def _surfaces(
        self,
        view: View,
        target: _Targets,
        common: dict[str, object],
        clip: Floats,
        quality: Quality,
        number: int,
    ) -> None:
        self.context.enable_only(moderngl.DEPTH_TEST)
        target.surface.use()
        target.surface.clear(0.0, 0.0, 0.0, 0.0, depth=EMPTY)
        self._scene.materials.use(0)
        self._scene.light.use(2)
        # Mixing two levels of a texture doubles its cost; with one pass one level must do.
        mixed = moderngl.LINEAR_MIPMAP_LINEAR if quality.passes > 1 else moderngl.LINEAR_MIPMAP_NEAREST
        for array in self._scene.textures.arrays:
            array.filter = (mixed, moderngl.LINEAR)
            # Surfaces seen along keep their pattern.  A processor takes three times as long for it, so it is kept for what is final there.
            array.anisotropy = min(
                self.context.max_anisotropy,
                8.0 if self._on_card else 4.0 if quality.passes >= FINAL_PASSES else 1.0,
            )
        name = with_cuts("surface:BOUNDS", view) if bounded(view) else "surface"
        values = {
            **common,
            "u_materials": 0,
            "u_images": 1,
            "u_light_map": 2,
            "u_light_known": float(self._scene.light_known),
            "u_level_bias": -0.7 if quality.passes > 1 else -0.2,
            "u_phase": number,
        }
        self._draw(name, "solid", clip, None, values)
        if self._staging.faint:
            self._draw(with_cuts("surface:BOUNDS:FAINT", view), "solid", clip, None, values, "solid:faint")

    def _light(
        self,
        view: View,
        target: _Targets,
        common: dict[str, object],
        lights: dict[str, object],
        shadows: tuple[ShadowMap, ...],
        quality: Quality,
        tile: tuple[float, float, float, float],
    ) -> None:
        self.context.enable_only(moderngl.NOTHING)
        target.light.use()
        colour_of(target.surface).use(1)
        near, far, seen = *shadows[:2], shadows[-1]
        for unit, held in ((3, near), (4, far), (6, seen)):
            held.depths.use(unit)
        colour_of(target.open_soft).use(5)
        # A processor works through both sides of every question in a shader, so what does not arise is left out of it.
        name = "light" + (":SEEN" if len(shadows) > 2 else "") + (":METAL" if self._scene.metal else "")
        self._set(
            name,
            **lights,
            u_eye=common["u_eye"],
            u_surface=1,
            u_shadow_near=3,
            u_shadow_far=4,
            u_occlusion=5,
            u_to_shadow_near=near.matrix,
            u_to_shadow_far=far.matrix,
            u_shadow_seen=6,
            u_to_shadow_seen=seen.matrix,
            u_shadow_texel=(near.texel_m, far.texel_m, seen.texel_m),
            u_shadow_step=1.0 / quality.shadow_px,
            u_taps=quality.taps,
            u_white=float(self._drawn.white),
            u_sky_shown=float(self._drawn.sky),
            u_air=air(lights),
            **ray_uniforms(view, tile),
        )
        self._cover(name)

    def _draw(
        self,
        name: str,
        kind: str,
        clip: Floats,
        far_first: View | None,
        values: dict[str, object],
        which: str = "",
        only: tuple[int, ...] | None = None,
    ) -> None:
        """Draw what may be in the picture, near things first, so that little is painted over; glass far first.

        kind : "solid" or "glass".  Objects that are moved for this picture are drawn at their other place.  only : the
        objects to draw, where not all are meant.
        """
        batches: Batches = getattr(self._scene, kind)
        kept = self._still[which or kind]
        if only is not None:
            kept = kept & np.isin(batches.owner, only)
        bounds: Any = values.get("u_bounds", (0.0, UNBOUNDED_M))
        order, nearness = in_sight(batches, clip, far_first is not None, bounds)
        chosen = kept[order]
        order, nearness = order[chosen], nearness[chosen]
        first, count = self._detail(batches, order, nearness, clip)
        self._in_groups(name, batches, order[count > 0], first[count > 0], count[count > 0], values)
        if which:
            return
        for item in self._staging.moved:
            if only is not None and item.index not in only:
                continue
            mine = np.flatnonzero(batches.owner == item.index)
            if len(mine):
                moved = {**values, "u_move": item.array()}
                self._in_groups(
                    f"{name}:MOVED", batches, mine, batches.first[mine], batches.count[mine], moved
                )

    def _detail(
        self, batches: Batches, order: npt.NDArray[np.intp], nearness: Floats, clip: Floats
    ) -> tuple[Ints, Ints]:
        """First index and number of indices of each batch: all of it, or its coarser version where it is small in the picture."""
        first, count = batches.first[order].copy(), batches.count[order].copy()
        if not self._small or not batches.coarse_count.any():
            return first, count
        size = np.linalg.norm(batches.high[order] - batches.low[order], axis=1)
        # The matrix's longest row across is the number of half picture widths at a metre's distance for a metre.
        wide = size / np.maximum(nearness, 1e-3) * float(np.linalg.norm(clip[0, :3])) * self._wide_px / 2.0
        small = (wide < self._small) & (batches.coarse_count[order] > 0)
        first[small], count[small] = batches.coarse_first[order][small], batches.coarse_count[order][small]
        count[wide < self._small / 12.0] = 0
        return first, count

    def _in_groups(
        self,
        name: str,
        batches: Batches,
        which: npt.NDArray[np.intp],
        first: Ints,
        count: Ints,
        values: dict[str, object],
    ) -> None:
        """Draw index ranges, one call for each kind of material: with pictures of one size, with holes, or plain."""
        base = name.split(":")[0]
        for array in np.unique(batches.array[which]).tolist():
            for holes in (False, True):
                mine = (batches.array[which] == array) & (batches.holes[which] == holes)
                if not mine.any():
                    continue
                variant = name
                if array >= 0 and (base == "surface" or holes):
                    variant += ":HOLES" if holes else ""
                    variant += ":PICTURED"
                    self._scene.textures.arrays[array].use(1)
                if holes and base == "depth":
                    variant = variant.replace("depth", "cutout", 1)
                self._set(variant, **values)
                self._indirect(variant, first[mine], count[mine])

    def _indirect(self, name: str, first: Ints, count: Ints) -> None:
        if not len(first):
            return
        commands = np.zeros((len(first), 5), np.uint32)
        commands[:, 0] = count
        commands[:, 1] = 1
        commands[:, 2] = first
        self._commands.orphan(max(commands.nbytes, 20))
        self._commands.write(commands.tobytes())
        self._array(name).render_indirect(self._commands, count=len(first))

    def _contact(
        self,
        view: View,
        tile: tuple[int, int, int, int],
        target: _Targets,
        number: int,
        shifted: tuple[float, float, float, float],
        quality: Quality,
    ) -> None:
        whole = self._whole_depths(view, shifted, target) if bounded(view) else colour_of(target.surface)
        self.context.enable_only(moderngl.NOTHING)
        colour_of(target.surface).use(0)
        whole.use(1)
        self._set(
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
        self._cover("occlusion")
        target.open_soft.use()
        colour_of(target.open_rough).use(1)
        left, right = view.edges()[:2]
        self._set("soften", u_open=1, u_surface=0, u_pixel=(right - left) / view.width_px)
        self._cover("soften")

    def _add(self, target: _Targets, ev: float) -> None:
        self.context.enable_only(moderngl.BLEND)
        self.context.blend_func = moderngl.ONE, moderngl.ONE
        target.sum.use()
        colour_of(target.light).use(0)
        self._set("gather", u_light=0, u_gain=gain(ev), u_even=float(not self._drawn.sky))
        self._cover("gather")

    def _develop(self, w: int, h: int, margin: int, quality: Quality, ev: float) -> Pixels:
        target = self._target(w + 2 * margin, h + 2 * margin)
        self.context.enable_only(moderngl.NOTHING)
        target.picture.use()
        # A single pass needs no mean: its light is developed as it is.
        colour_of(target.sum if quality.passes > 1 else target.light).use(0)
        self._set("develop", u_sum=0, u_gain=0.0 if quality.passes > 1 else gain(ev))
        self._cover("develop")
        shown = target.picture
        if quality.passes == 1 and quality.divisor == 1:
            shown = target.smooth
            shown.use()
            colour_of(target.picture).use(0)
            self._set("smooth", u_picture=0)
            self._cover("smooth")
        data = shown.read(components=4)
        pixels = np.frombuffer(data, np.uint8).reshape(h + 2 * margin, w + 2 * margin, 4)[::-1, :, :3]
        return pixels[margin : margin + h, margin : margin + w]

    def _facts_tile(self, view: View, tile: tuple[int, int, int, int], found: Facts, panes: bool) -> None:
        x, y, w, h = tile
        surface = self.context.texture((w, h), 4, dtype="f4")
        number = self.context.texture((w, h), 2, dtype="u4")
        depth = depth_buffer(self.context, (w, h))
        frame = self.context.framebuffer([surface, number], depth)
        frame.use()
        frame.clear(0.0, 0.0, 0.0, 0.0, depth=EMPTY)
        self.context.enable_only(moderngl.DEPTH_TEST)
        clip = view.clip_matrix(tile) @ view.world_to_camera()
        self._scene.materials.use(0)
        common = {
            **camera_uniforms(view, clip),
            "u_light_size": (1.0, 1.0),
            "u_materials": 0,
            "u_images": 1,
            "u_phase": 0,
        }
        self._draw(with_cuts("facts", view), "solid", clip, None, common)
        self._draw(with_cuts("facts", view), "solid", clip, None, common, "solid:faint")
        if panes:
            self._draw(with_cuts("facts", view), "glass", clip, None, common)
        elif len(self._scene.glass.first):
            found.pane[y : y + h, x : x + w] = self._panes(view, clip, common, depth, (w, h))
        values = np.frombuffer(surface.read(), np.float32).reshape(h, w, 4)[::-1]
        numbers = np.frombuffer(number.read(), np.uint32).reshape(h, w, 2)[::-1].astype(np.int64) - 1
        seen = numbers[..., 0] >= 0
        found.object_index[y : y + h, x : x + w] = numbers[..., 0]
        found.material_index[y : y + h, x : x + w] = numbers[..., 1]
        found.depth_m[y : y + h, x : x + w] = np.where(seen, values[..., 3], np.inf)
        found.normal[y : y + h, x : x + w] = values[..., :3]
        for item in (frame, surface, number, depth):
            item.release()

    def _panes(
        self,
        view: View,
        clip: Floats,
        common: dict[str, object],
        depth: moderngl.Renderbuffer,
        size: tuple[int, int],
    ) -> npt.NDArray[np.bool_]:
        """Where a pane lies before what is seen; drawn against the depths of what is seen, which stay."""
        texture = self.context.texture(size, 1, dtype="f1")
        frame = self.context.framebuffer([texture], depth)
        frame.use()
        self.context.enable_only(moderngl.DEPTH_TEST)
        frame.depth_mask = False
        texture.write(bytes(size[0] * size[1]))
        self._draw(with_cuts("pane", view), "glass", clip, None, common)
        frame.depth_mask = True
        made = np.frombuffer(texture.read(alignment=1), np.uint8).reshape(size[1], size[0])[::-1] > 0
        frame.release()
        texture.release()
        return made

    # ------------------------------------------------------------------ shadows

    def _shadow_regions(self, view: View) -> tuple[Region, Region]:
        """The building, and what a view shows: the building again where that holds it."""
        scene = self._scene
        building = Region(scene.centre, scene.core_radius_m + 10.0)
        if 2.0 * scene.core_radius_m > scene.reach_m:
            return building, building
        return building, seen_region(view, scene.solid.low, scene.solid.high, building)

    def _shadow_maps(
        self, view: View, sky: Sky, quality: Quality, number: int, regions: tuple[Region, Region]
    ) -> tuple[ShadowMap, ...]:
        staged = self._staging
        drawn = (staged.omitted, staged.moved, staged.unlit)
        reach = self._scene.reach_m
        return self._shadows.of_pass(
            view, sky, regions, reach, quality.passes, number, quality.shadow_px, drawn, self._draw_shadow
        )

    def _draw_shadow(self, matrix: Floats, side_px: int) -> None:
        """Depths along the sun's rays, without what is left out, and with what is moved at its other place."""
        self.context.depth_func = "<="
        try:
            self._draw_depths(matrix, side_px)
        finally:
            self.context.depth_func = NEARER

    def _draw_depths(self, matrix: Floats, side_px: int) -> None:
        staged, solid = self._staging, self._scene.solid
        self.context.enable_only(moderngl.DEPTH_TEST)
        self._scene.materials.use(0)
        values: dict[str, object] = {
            "u_clip": matrix,
            "u_from": (0.0, 0.0, 0.0),
            "u_eye": (0.0, 0.0, 0.0),
            "u_materials": 0,
            "u_images": 1,
        }
        lit = (self._still["solid"] | self._still["solid:faint"]) & ~np.isin(solid.owner, staged.unlit)
        order = np.flatnonzero(lit & in_map(solid, matrix))
        first, count = solid.first[order].copy(), solid.count[order].copy()
        if solid.coarse_count.any():
            # A map's pixel is as wide everywhere, so size alone decides.
            wide = (
                np.linalg.norm(solid.high[order] - solid.low[order], axis=1)
                * float(np.linalg.norm(matrix[0, :3]))
                * side_px
                / 2.0
            )
            small = (wide < self._small * 2.0) & (solid.coarse_count[order] > 0)
            first[small], count[small] = solid.coarse_first[order][small], solid.coarse_count[order][small]
            count[wide < 0.7] = 0
        self._in_groups("depth", solid, order[count > 0], first[count > 0], count[count > 0], values)
        for item in staged.moved:
            mine = np.flatnonzero(solid.owner == item.index)
            if len(mine):
                self._in_groups(
                    "depth:MOVED",
                    solid,
                    mine,
                    solid.first[mine],
                    solid.count[mine],
                    {**values, "u_move": item.array()},
                )

    # ------------------------------------------------------------------ plumbing

    def _program(self, name: str) -> moderngl.Program:
        """A program by its shader's name, with switches behind colons (``surface:BOUNDS``)."""
        if name not in self._programs:
            base, *switches = name.split(":")
            own = ("PAINTED",) if "paint" in self._scene.fields else ()
            defines = "".join(f"#define {switch}\n" for switch in (*switches, *own, *self._switches))
            vertex, fragment = (
                shader(part).replace("#version 330\n", f"#version 330\n{defines}", 1)
                for part in (_VERTEX_SHADERS.get(base, "cover.vert"), f"{base}.frag")
            )
            self._programs[name] = self.context.program(vertex_shader=vertex, fragment_shader=fragment)
        return self._programs[name]

    def _set(self, name: str, **values: object) -> None:
        program = self._program(name)
        for key, value in values.items():
            if key in program:
                uniform = program[key]
                assert isinstance(uniform, moderngl.Uniform)
                if isinstance(value, bytes):
                    uniform.write(value)
                elif isinstance(value, np.ndarray):
                    # Matrices go column by column.
                    uniform.write(value.T.astype(np.float32).tobytes())
                else:
                    uniform.value = value

    def _array(self, name: str) -> moderngl.VertexArray:
        if name not in self._arrays:
            program = self._program(name)
            if _VERTEX_SHADERS[name.split(":")[0]] == "depth.vert":
                content: list[Any] = [(self._scene.positions, "3f4", "in_position")]
            else:
                content = [(self._scene.vertices, *vertex_format(program, self._scene.fields))]
            self._arrays[name] = self.context.vertex_array(
                program, content, self._scene.indices, index_element_size=4
            )
        return self._arrays[name]

    def _cover(self, name: str) -> None:
        if name not in self._covers:
            self._covers[name] = self.context.vertex_array(self._program(name), [])
        self._covers[name].render(moderngl.TRIANGLES, vertices=3)

    def _target(self, width: int, height: int) -> _Targets:
        size = (width, height)
        if size not in self._targets:
            if len(self._targets) > 5:
                self._targets.pop(next(iter(self._targets))).release()
            make = self.context
            half = (max(1, width // 2), max(1, height // 2))
            surface = make.texture(size, 4, dtype="u4")
            surface.filter = (moderngl.NEAREST, moderngl.NEAREST)
            depth = depth_buffer(make, size)
            opens = []
            for _ in range(2):
                texture = make.texture(half, 1, dtype="f1")
                texture.filter = (moderngl.LINEAR, moderngl.LINEAR)
                texture.repeat_x = texture.repeat_y = False
                opens.append(make.framebuffer([texture]))
            self._targets[size] = _Targets(
                size,
                make.framebuffer([make.texture(size, 4, dtype="f2")], depth),
                make.framebuffer([surface], depth),
                opens[0],
                opens[1],
                make.framebuffer([make.texture(size, 4, dtype="f4")]),
                make.framebuffer([make.texture(size, 4, dtype="f1")]),
                make.framebuffer([make.texture(size, 4, dtype="f1")]),
            )
        return self._targets[size]


def _kept(
    held: dict[tuple[int, int], moderngl.Framebuffer],
    size: tuple[int, int],
    make: Callable[[], moderngl.Framebuffer],
) -> moderngl.Framebuffer:
    """The buffer of a size, made when it is first wanted; a few sizes are kept."""
    if size not in held:
        if len(held) > 5:
            old = held.pop(next(iter(held)))
            for attachment in (
                *old.color_attachments,
                *([old.depth_attachment] if old.depth_attachment else []),
            ):
                attachment.release()
            old.release()
        held[size] = make()
    return held[size]


def tiles(width: int, height: int) -> list[tuple[int, int, int, int]]:
    """The parts in which a large picture is drawn: left, top, width and height of each, pixels."""
    return [
        (x, y, min(TILE_PX, width - x), min(TILE_PX, height - y))
        for y in range(0, height, TILE_PX)
        for x in range(0, width, TILE_PX)
    ]
