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
from typing import ParamSpec, TypeVar

import moderngl
import numpy as np
import numpy.typing as npt

from altana.core.camera.bounds import bounded, sight_passes, unbounded
from altana.core.camera.view import View
from altana.core.checks.cut_faces import Bodies, bodies_of, crossed_bodies
from altana.core.conventions import Floats, Floats32
from altana.core.light.sky import HORIZON, Sky
from altana.core.light.transport import LightMap
from altana.core.model import Model
from altana.core.staging import WHOLE, Staging
from altana.render.context import create_context, shader
from altana.render.upload import Batches, upload

TILE_PX = 2048
MARGIN_PX = 96
#: Contact shading looks this far, and never wider than this share of a picture 720 px high.
CONTACT_M = 0.9
WIDEST = 0.11
SUN_DISC_DEG = 0.8
UNBOUNDED_M = 1e9
#: The ink of cut faces, as light at an exposure of 1.
POCHE = (0.017, 0.015, 0.013)
_VERTEX_SHADERS = {
    "surface": "scene.vert",
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
    """What a picture costs: passes, shadow map side, whether there is contact shading, size divisor."""

    passes: int = 1
    shadow_px: int = 2048
    contact: bool = True
    divisor: float = 1.0
    taps: int = 4


#: What a pixel of a shadow map takes, and what the maps of all passes of a picture may take together to be kept for the next, bytes.
SHADOW_BYTES, SHADOWS_KEPT = 4, 256 << 20
COARSE = Quality(shadow_px=1024, contact=False, divisor=2.5, taps=1)
FULL = Quality(taps=2)
STILL = Quality(passes=8)


@dataclass(frozen=True, slots=True)
class Facts:
    """Extra outputs, each (height, width): object number or -1, depth in metres along the view (infinite for sky),
    (height, width, 3) surface directions, and whether a pane lies before what is seen."""

    object_index: npt.NDArray[np.int32]
    depth_m: Floats32
    normal: Floats32
    pane: npt.NDArray[np.bool_]


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
        for frame in (self.light, self.surface, self.open_rough, self.open_soft, self.sum, self.picture, self.smooth):
            frame.color_attachments[0].release()
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


class Renderer:
    """Holds a context and one model; draws any number of views of it."""

    def __init__(self, model: Model, light: LightMap | None = None) -> None:
        self.context = create_context()
        self.shots_drawn = 0
        self._programs: dict[str, moderngl.Program] = {}
        self._covers: dict[str, moderngl.VertexArray] = {}
        with self.context:
            self._commands = self.context.buffer(reserve=20)
        self._targets: dict[tuple[int, int], _Targets] = {}
        self._shadows: dict[tuple[str, int, int], tuple[object, moderngl.Framebuffer]] = {}
        with self.context:
            self._scene = upload(self.context, model, light)
        self._arrays: dict[str, moderngl.VertexArray] = {}
        self._staging = WHOLE
        self._drawn = AS_IT_IS
        self._still: dict[str, npt.NDArray[np.bool_]] = {}
        self._model = model
        self._bodies: Bodies | None = None
        self._wholes: dict[tuple[int, int], moderngl.Framebuffer] = {}
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

    @_current
    def show(self, model: Model, light: LightMap | None = None) -> None:
        """Draw another model from now on."""
        old = self._scene
        self._scene = upload(self.context, model, light)
        self._staging, self._still = WHOLE, {}
        self._model, self._bodies = model, self._bodies if model is self._model else None
        for array in self._arrays.values():
            array.release()
        self._arrays.clear()
        for _, frame in self._shadows.values():
            frame.depth_attachment.release()
            frame.release()
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
        tiles = list(_tiles(width, height))
        for number, (x, y, w, h) in enumerate(tiles):
            margin = MARGIN_PX if len(tiles) > 1 else 0
            for step in self._tile(view, sky, ev, quality, inside, (x - margin, y - margin, w + 2 * margin, h + 2 * margin)):
                if progress is not None and not progress((number + step) / len(tiles)):
                    return None
            result[y : y + h, x : x + w] = self._develop(w, h, margin, quality, ev)
        self.shots_drawn += 1
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
        self, view: View, sky: Sky, quality: Quality, inside: bool, progress: Progress | None, ev: float, drawn: Drawn
    ) -> Master | None:
        width, height = view.width_px, view.height_px
        result = np.empty((height, width, 3), np.float32)
        alpha = None if drawn.sky else np.empty((height, width), np.float32)
        tiles = list(_tiles(width, height))
        for number, (x, y, w, h) in enumerate(tiles):
            margin = MARGIN_PX if len(tiles) > 1 else 0
            for step in self._tile(view, sky, ev, quality, inside, (x - margin, y - margin, w + 2 * margin, h + 2 * margin)):
                if progress is not None and not progress((number + step) / len(tiles)):
                    return None
            light, cover = self._light_read(w, h, margin, quality, ev)
            result[y : y + h, x : x + w] = light
            if alpha is not None:
                alpha[y : y + h, x : x + w] = cover
        self.shots_drawn += 1
        return Master(result, alpha)

    def _light_read(self, w: int, h: int, margin: int, quality: Quality, ev: float) -> tuple[Floats32, Floats32]:
        """Light of what covers each pixel, and the coverage, of the inner part of a tile."""
        target = self._target(w + 2 * margin, h + 2 * margin)
        source, unit = (target.sum, _gain(ev)) if quality.passes > 1 else (target.light, 1.0)
        values = np.frombuffer(source.read(components=4, dtype="f4"), np.float32).reshape(h + 2 * margin, w + 2 * margin, 4)
        inner = values[::-1][margin : margin + h, margin : margin + w]
        light: Floats32 = np.maximum(inner[..., :3] / np.maximum(inner[..., 3:], 1e-6) / np.float32(unit), 0.0)
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
        width, height = view.width_px, view.height_px
        found = Facts(
            np.full((height, width), -1, np.int32),
            np.full((height, width), np.inf, np.float32),
            np.zeros((height, width, 3), np.float32),
            np.zeros((height, width), bool),
        )
        for x, y, w, h in _tiles(width, height):
            self._facts_tile(view, (x, y, w, h), found, panes)
        return found

    @_current
    def inside(self, view: View, staging: Staging = WHOLE, depth_m: Floats32 | None = None) -> npt.NDArray[np.bool_]:
        """(height, width) bool: the pixels that show cut faces, where sight begins inside a body that a bound cuts.

        depth_m : (height, width) depths of what is seen, where they are known: what stands before a wall cut hides it.
        """
        self._stage(staging)
        begun = crossed_bodies(self._model, self.bodies, view, staging)[1]
        made = np.zeros((view.height_px, view.width_px), bool)
        if not begun:
            return made
        for x, y, w, h in _tiles(view.width_px, view.height_px):
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

    def _count(self, view: View, tile: tuple[float, float, float, float], begun: tuple[int, ...]) -> moderngl.Framebuffer:
        """Counts surfaces of these bodies along each line of sight of a tile."""
        size = (int(tile[2]), int(tile[3]))
        frame = _kept(self._counts, size, lambda: self.context.framebuffer([self.context.texture(size, 1, dtype="f4")]))
        frame.use()
        frame.clear(0.0, 0.0, 0.0, 0.0)
        self.context.enable_only(moderngl.BLEND)
        self.context.blend_func = moderngl.ONE, moderngl.ONE
        clip = view.clip_matrix(self._scene.deepest_m * 1.5, tile) @ view.world_to_camera()  # type: ignore[arg-type]
        common = {**_camera_uniforms(view, clip), "u_light_size": (1.0, 1.0), "u_materials": 0}
        self._scene.materials.use(0)
        moved = {item.index for item in self._staging.moved}
        for number in begun:
            low, high = self.bodies.low[number] - 1e-4, self.bodies.high[number] + 1e-4
            if number in moved:
                low, high = np.full(3, -UNBOUNDED_M), np.full(3, UNBOUNDED_M)
            box = {"u_low": tuple(low.tolist()), "u_high": tuple(high.tolist()), "u_sense": float(self.bodies.sense[number])}
            self._draw(_with_cuts("count", view), "solid", clip, None, {**common, **box}, only=(number,))
        return frame

    @_current
    def bare(self, view: View) -> None:
        """The same buffers with a trivial shader, for comparison only."""
        target = self._target(view.width_px, view.height_px)
        target.light.use()
        target.light.clear(0.0, 0.0, 0.0, 1.0, depth=1.0)
        self.context.enable_only(moderngl.DEPTH_TEST)
        clip = view.clip_matrix(self._scene.deepest_m * 1.5) @ view.world_to_camera()
        self._set("plain", u_clip=clip)
        self._array("plain").render()
        self.context.finish()

    # ------------------------------------------------------------------ one tile

    def _tile(self, view: View, sky: Sky, ev: float, quality: Quality, inside: bool, tile: tuple[int, int, int, int]) -> Iterator[float]:
        _x, _y, w, h = tile
        target = self._target(w, h)
        target.sum.use()
        target.sum.clear(0.0, 0.0, 0.0, 0.0)
        begun = crossed_bodies(self._model, self.bodies, view, self._staging)[1] if self._staging.cap and bounded(view) else ()
        for number in range(quality.passes):
            jitter = _jitter(number, quality.passes)
            shadows = self._shadow_maps(view, _sun_in_disc(sky, number, quality.passes), quality, number)
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
        shadows: tuple[tuple[moderngl.Framebuffer, Floats, float], tuple[moderngl.Framebuffer, Floats, float]],
    ) -> None:
        scene = self._scene
        shifted = (tile[0] + jitter[0], tile[1] + jitter[1], tile[2], tile[3])
        clip = view.clip_matrix(scene.deepest_m * 1.5, shifted) @ view.world_to_camera()  # type: ignore[arg-type]
        common = {**_camera_uniforms(view, clip), "u_light_size": tuple(map(float, scene.light.size))}
        self._surfaces(view, target, common, clip, quality, number)
        if quality.contact:
            self._contact(view, tile, target, number, shifted, quality)
        else:
            target.open_soft.use()
            target.open_soft.clear(1.0, 1.0, 1.0, 1.0)
        lights = {**_sky_uniforms(sky), "u_light_known": float(scene.light_known), "u_estimate": 0.07 if inside else 1.0, "u_light_map": 2}
        self._light(view, target, common, lights, shadows, quality, shifted)
        if scene.glass.span[1]:
            self.context.enable_only(moderngl.DEPTH_TEST | moderngl.BLEND)
            self.context.blend_func = moderngl.ONE, moderngl.ONE_MINUS_SRC_ALPHA
            target.light.depth_mask = False
            scene.materials.use(0)
            self._draw(_with_cuts("glass", view), "glass", clip, view, {**common, **lights, "u_materials": 0})
            target.light.depth_mask = True

    def _cap(self, view: View, tile: tuple[float, float, float, float], target: _Targets, begun: tuple[int, ...], ev: float) -> None:
        """Poché over the cut faces; nothing can lie before them, because sight begins there."""
        counted = self._count(view, tile, begun)
        self.context.enable_only(moderngl.NOTHING)
        target.light.use()
        counted.color_attachments[0].use(0)
        target.surface.color_attachments[0].use(1)
        name = _with_cuts("cap", view)
        bounds = _camera_uniforms(view, np.eye(4))
        ink = tuple((np.asarray(POCHE) / _gain(ev)).tolist())
        self._set(name, **bounds, **_ray_uniforms(view, tile), u_count=0, u_surface=1, u_cap=ink)
        self._cover(name)

    def _whole_depths(self, view: View, tile: tuple[float, float, float, float], target: _Targets) -> moderngl.Texture:
        """What the picture would show with nothing cut away, for the contact shade of what both show."""
        size = target.size
        make = self.context

        def fresh() -> moderngl.Framebuffer:
            texture = make.texture(size, 4, dtype="u4")
            texture.filter = (moderngl.NEAREST, moderngl.NEAREST)
            return make.framebuffer([texture], make.depth_renderbuffer(size))

        frame = _kept(self._wholes, size, fresh)
        whole = unbounded(view)
        clip = whole.clip_matrix(self._scene.deepest_m * 1.5, tile) @ whole.world_to_camera()  # type: ignore[arg-type]
        self.context.enable_only(moderngl.DEPTH_TEST)
        frame.use()
        frame.clear(0.0, 0.0, 0.0, 0.0, depth=1.0)
        self._scene.materials.use(0)
        self._scene.images.use(1)
        values = {**_camera_uniforms(whole, clip), "u_light_size": (1.0, 1.0), "u_materials": 0, "u_images": 1, "u_level_bias": 4.0}
        self._draw("surface", "solid", clip, None, values)
        texture = frame.color_attachments[0]
        assert isinstance(texture, moderngl.Texture)
        return texture

    def _surfaces(self, view: View, target: _Targets, common: dict[str, object], clip: Floats, quality: Quality, number: int) -> None:
        self.context.enable_only(moderngl.DEPTH_TEST)
        target.surface.use()
        target.surface.clear(0.0, 0.0, 0.0, 0.0, depth=1.0)
        self._scene.materials.use(0)
        # Mixing two levels of a texture doubles its cost; with one pass one level must do.
        mixed = moderngl.LINEAR_MIPMAP_LINEAR if quality.passes > 1 else moderngl.LINEAR_MIPMAP_NEAREST
        self._scene.images.filter = (mixed, moderngl.LINEAR)
        self._scene.images.use(1)
        name = _with_cuts("surface:BOUNDS", view) if bounded(view) else "surface"
        values = {**common, "u_materials": 0, "u_images": 1, "u_level_bias": -0.7 if quality.passes > 1 else -0.2}
        self._draw(name, "solid", clip, None, values)
        if self._staging.faint:
            self._draw(_with_cuts("surface:BOUNDS:FAINT", view), "solid", clip, None, {**values, "u_phase": number}, "solid:faint")

    def _light(
        self,
        view: View,
        target: _Targets,
        common: dict[str, object],
        lights: dict[str, object],
        shadows: tuple[tuple[moderngl.Framebuffer, Floats, float], tuple[moderngl.Framebuffer, Floats, float]],
        quality: Quality,
        tile: tuple[float, float, float, float],
    ) -> None:
        self.context.enable_only(moderngl.NOTHING)
        target.light.use()
        target.surface.color_attachments[0].use(1)
        self._scene.light.use(2)
        shadows[0][0].depth_attachment.use(3)
        shadows[1][0].depth_attachment.use(4)
        target.open_soft.color_attachments[0].use(5)
        self._set(
            "light",
            **lights,
            u_eye=common["u_eye"],
            u_surface=1,
            u_shadow_near=3,
            u_shadow_far=4,
            u_occlusion=5,
            u_to_shadow_near=shadows[0][1],
            u_to_shadow_far=shadows[1][1],
            u_shadow_texel=(shadows[0][2], shadows[1][2]),
            u_shadow_step=1.0 / quality.shadow_px,
            u_taps=quality.taps,
            u_white=float(self._drawn.white),
            u_sky_shown=float(self._drawn.sky),
            u_air=_air(lights),
            **_ray_uniforms(view, tile),
        )
        self._cover("light")

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
        self._set(name, **values)
        kept = self._still[which or kind]
        if only is not None:
            kept = kept & np.isin(batches.owner, only)
        order = _in_sight(batches, clip, far_first is not None, values.get("u_bounds", (0.0, UNBOUNDED_M)))
        self._indirect(name, batches, order[kept[order]])
        if which:
            return
        for item in self._staging.moved:
            if only is not None and item.index not in only:
                continue
            mine = np.flatnonzero(batches.owner == item.index)
            if len(mine):
                self._set(f"{name}:MOVED", **values, u_move=item.array())
                self._indirect(f"{name}:MOVED", batches, mine)

    def _indirect(self, name: str, batches: Batches, order: npt.NDArray[np.intp]) -> None:
        if not len(order):
            return
        commands = np.zeros((len(order), 5), np.uint32)
        commands[:, 0] = batches.count[order]
        commands[:, 1] = 1
        commands[:, 2] = batches.first[order]
        self._commands.orphan(max(commands.nbytes, 20))
        self._commands.write(commands.tobytes())
        self._array(name).render_indirect(self._commands, count=len(order))

    def _contact(
        self,
        view: View,
        tile: tuple[int, int, int, int],
        target: _Targets,
        number: int,
        shifted: tuple[float, float, float, float],
        quality: Quality,
    ) -> None:
        whole = self._whole_depths(view, shifted, target) if bounded(view) else target.surface.color_attachments[0]
        self.context.enable_only(moderngl.NOTHING)
        target.surface.color_attachments[0].use(0)
        whole.use(1)
        self._set(
            "occlusion",
            u_surface=0,
            u_whole=1,
            u_cut=float(bounded(view)),
            u_edges=_tile_edges(view, shifted),
            u_camera=view.pose.axes(),
            u_radius=CONTACT_M,
            u_widest=WIDEST * min(1.0, view.height_px / tile[3]),
            u_noise=(float(tile[0] // 2), float(-(tile[1] + tile[3]) // 2), number * 2.399),
            u_samples=6 if quality.passes == 1 else 8,
        )
        target.open_rough.use()
        self._cover("occlusion")
        target.open_soft.use()
        target.open_rough.color_attachments[0].use(1)
        self._set("soften", u_open=1, u_surface=0)
        self._cover("soften")

    def _add(self, target: _Targets, ev: float) -> None:
        self.context.enable_only(moderngl.BLEND)
        self.context.blend_func = moderngl.ONE, moderngl.ONE
        target.sum.use()
        target.light.color_attachments[0].use(0)
        self._set("gather", u_light=0, u_gain=_gain(ev), u_even=float(not self._drawn.sky))
        self._cover("gather")

    def _develop(self, w: int, h: int, margin: int, quality: Quality, ev: float) -> Pixels:
        target = self._target(w + 2 * margin, h + 2 * margin)
        self.context.enable_only(moderngl.NOTHING)
        target.picture.use()
        # A single pass needs no mean: its light is developed as it is.
        (target.sum if quality.passes > 1 else target.light).color_attachments[0].use(0)
        self._set("develop", u_sum=0, u_gain=0.0 if quality.passes > 1 else _gain(ev))
        self._cover("develop")
        shown = target.picture
        if quality.passes == 1 and quality.divisor == 1:
            shown = target.smooth
            shown.use()
            target.picture.color_attachments[0].use(0)
            self._set("smooth", u_picture=0)
            self._cover("smooth")
        data = shown.read(components=4)
        pixels = np.frombuffer(data, np.uint8).reshape(h + 2 * margin, w + 2 * margin, 4)[::-1, :, :3]
        return pixels[margin : margin + h, margin : margin + w]

    def _facts_tile(self, view: View, tile: tuple[int, int, int, int], found: Facts, panes: bool) -> None:
        x, y, w, h = tile
        surface = self.context.texture((w, h), 4, dtype="f4")
        number = self.context.texture((w, h), 1, dtype="u4")
        depth = self.context.depth_renderbuffer((w, h))
        frame = self.context.framebuffer([surface, number], depth)
        frame.use()
        frame.clear(0.0, 0.0, 0.0, 0.0, depth=1.0)
        self.context.enable_only(moderngl.DEPTH_TEST)
        clip = view.clip_matrix(self._scene.deepest_m * 1.5, tile) @ view.world_to_camera()
        self._scene.materials.use(0)
        common = {**_camera_uniforms(view, clip), "u_light_size": (1.0, 1.0), "u_materials": 0}
        self._draw(_with_cuts("facts", view), "solid", clip, None, common)
        self._draw(_with_cuts("facts", view), "solid", clip, None, common, "solid:faint")
        if panes:
            self._draw(_with_cuts("facts", view), "glass", clip, None, common)
        elif self._scene.glass.span[1]:
            found.pane[y : y + h, x : x + w] = self._panes(view, clip, common, depth, (w, h))
        values = np.frombuffer(surface.read(), np.float32).reshape(h, w, 4)[::-1]
        numbers = np.frombuffer(number.read(), np.uint32).reshape(h, w)[::-1]
        seen = numbers > 0
        found.object_index[y : y + h, x : x + w] = numbers.astype(np.int64) - 1
        found.depth_m[y : y + h, x : x + w] = np.where(seen, values[..., 3], np.inf)
        found.normal[y : y + h, x : x + w] = values[..., :3]
        for item in (frame, surface, number, depth):
            item.release()

    def _panes(
        self, view: View, clip: Floats, common: dict[str, object], depth: moderngl.Renderbuffer, size: tuple[int, int]
    ) -> npt.NDArray[np.bool_]:
        """Where a pane lies before what is seen; drawn against the depths of what is seen, which stay."""
        texture = self.context.texture(size, 1, dtype="f1")
        frame = self.context.framebuffer([texture], depth)
        frame.use()
        self.context.enable_only(moderngl.DEPTH_TEST)
        frame.depth_mask = False
        texture.write(bytes(size[0] * size[1]))
        self._draw(_with_cuts("pane", view), "glass", clip, None, common)
        frame.depth_mask = True
        made = np.frombuffer(texture.read(alignment=1), np.uint8).reshape(size[1], size[0])[::-1] > 0
        frame.release()
        texture.release()
        return made

    # ------------------------------------------------------------------ shadows

    def _shadow_maps(
        self, view: View, sun: Floats, quality: Quality, number: int
    ) -> tuple[tuple[moderngl.Framebuffer, Floats, float], tuple[moderngl.Framebuffer, Floats, float]]:
        """Two maps of the sun's shadow in one pass of a picture, round the eye and round the building: map, matrix, metres a pixel.

        The sun of a pass is the same in every picture of that many passes, so the next tile, face or film frame finds the map
        round the building again, and mostly the one round the eye.
        """
        scene, side = self._scene, quality.shadow_px
        near_radius = 16.0
        # A view that is as wide as a panorama's face sees as far to its sides as ahead; all six faces then share one map.
        ahead = 0.0 if min(view.angles_of_view()) >= 90.0 else near_radius * 0.7
        middle = np.asarray(view.pose.eye) + view.pose.forward * ahead
        # The near map moves in steps, so that it can be kept while the camera is dragged.
        snapped = np.round(middle / 6.0) * 6.0
        # Where the maps of all passes would take too much, each pass draws its own.
        place = number if 2 * quality.passes * side * side * SHADOW_BYTES <= SHADOWS_KEPT else 0
        return (
            self._shadow_map(("near", side, place), snapped, near_radius + 6.0, sun),
            self._shadow_map(("far", side, place), scene.centre, scene.core_radius_m + 10.0, sun),
        )

    def _shadow_map(
        self, place: tuple[str, int, int], centre: Floats, radius: float, sun: Floats
    ) -> tuple[moderngl.Framebuffer, Floats, float]:
        matrix = _sun_matrix(centre, radius, sun, max(self._scene.core_radius_m * 2.0, 120.0))
        staged, side = self._staging, place[1]
        key = (tuple(np.round(matrix.ravel(), 9).tolist()), staged.omitted, staged.moved, staged.unlit)
        held = self._shadows.get(place)
        texel = 2.0 * radius / side
        if held is not None and held[0] == key:
            return held[1], matrix, texel
        if held is not None:
            frame = held[1]
        else:
            depth = self.context.depth_texture((side, side))
            depth.compare_func = "<="
            depth.filter = (moderngl.LINEAR, moderngl.LINEAR)
            depth.repeat_x = depth.repeat_y = False
            frame = self.context.framebuffer(depth_attachment=depth)
        frame.use()
        frame.clear(depth=1.0)
        self.context.enable_only(moderngl.DEPTH_TEST)
        if not (staged.omitted or staged.moved or staged.unlit):
            self._set("depth", u_clip=matrix)
            first, count = self._scene.solid.span
            self._array("depth").render(first=first, vertices=count)
        else:
            self._staged_shadow(matrix)
        self._shadows[place] = (key, frame)
        return frame, matrix, texel

    def _staged_shadow(self, matrix: Floats) -> None:
        """The shadow map without what is left out, and with what is moved at its other place."""
        solid = self._scene.solid
        self._set("depth", u_clip=matrix)
        lit = ~np.isin(solid.owner, self._staging.unlit)
        self._indirect("depth", solid, np.flatnonzero((self._still["solid"] | self._still["solid:faint"]) & lit))
        for item in self._staging.moved:
            mine = np.flatnonzero(solid.owner == item.index)
            self._set("depth:MOVED", u_clip=matrix, u_move=item.array())
            self._indirect("depth:MOVED", solid, mine)

    # ------------------------------------------------------------------ plumbing

    def _program(self, name: str) -> moderngl.Program:
        """A program by its shader's name, with switches behind colons (``surface:BOUNDS``)."""
        if name not in self._programs:
            base, *switches = name.split(":")
            defines = "".join(f"#define {switch}\n" for switch in switches)
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
                if isinstance(value, bytes):
                    program[key].write(value)
                elif isinstance(value, np.ndarray):
                    # Matrices go column by column.
                    program[key].write(value.T.astype(np.float32).tobytes())
                else:
                    program[key].value = value

    def _array(self, name: str) -> moderngl.VertexArray:
        if name not in self._arrays:
            program = self._program(name)
            if _VERTEX_SHADERS[name.split(":")[0]] == "depth.vert":
                content = [(self._scene.positions, "3f4", "in_position")]
            else:
                content = [(self._scene.vertices, *_vertex_format(program))]
            self._arrays[name] = self.context.vertex_array(program, content, self._scene.indices, index_element_size=4)
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
            depth = make.depth_renderbuffer(size)
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
    held: dict[tuple[int, int], moderngl.Framebuffer], size: tuple[int, int], make: Callable[[], moderngl.Framebuffer]
) -> moderngl.Framebuffer:
    """The buffer of a size, made when it is first wanted; a few sizes are kept."""
    if size not in held:
        if len(held) > 5:
            old = held.pop(next(iter(held)))
            for attachment in (*old.color_attachments, *([old.depth_attachment] if old.depth_attachment else [])):
                attachment.release()
            old.release()
        held[size] = make()
    return held[size]


def _with_cuts(name: str, view: View) -> str:
    """A program that knows of so many wall cuts."""
    return f"{name}:CUTS {len(view.cuts)}" if view.cuts else name


def _in_sight(batches: Batches, clip: Floats, far_first: bool, bounds: tuple[float, float]) -> npt.NDArray[np.intp]:
    """Which batches may be in the picture, between its bounds, ordered by the depth of their nearest corner."""
    low, high = batches.low, batches.high
    corners = np.stack([np.where([(k >> axis) & 1 for axis in range(3)], high, low) for k in range(8)], axis=1)
    x, y, _, w = np.moveaxis(corners @ clip[:, :3].T + clip[:, 3], -1, 0)
    outside = (x > w).all(1) | (x < -w).all(1) | (y > w).all(1) | (y < -w).all(1) | (w < 0).all(1)
    # Clip space's w is the depth along the line of sight, so what lies wholly before or behind costs nothing.
    outside |= (w < bounds[0]).all(1) | (w > bounds[1]).all(1)
    kept = np.flatnonzero(~outside)
    # A body around the eye has its nearest corner behind it; its middle says more.
    nearness = np.maximum(w[kept].min(axis=1), 0.0) + 0.05 * w[kept].mean(axis=1)
    order = kept[np.argsort(nearness)]
    return order[::-1] if far_first else order


def _air(lights: dict[str, object]) -> tuple[float, ...]:
    """The colour that distance goes towards: the sky at the horizon, the sun's glow left out."""
    scale = float(lights["u_sky_scale"])  # type: ignore[arg-type]
    return tuple((HORIZON * 0.9 * scale).tolist())


def _vertex_format(program: moderngl.Program) -> tuple[str, ...]:
    fields = (("in_position", "3f4", 12), ("in_normal", "3f2 2x1", 8), ("in_uv", "2f4", 8), ("in_light", "2f4", 8), ("in_ids", "2u4", 8))
    words, names = [], []
    for name, code, size in fields:
        if name in program:
            words.append(code)
            names.append(name)
        else:
            words.append(f"{size}x1")
    return (" ".join(words), *names)


def _tiles(width: int, height: int) -> Iterator[tuple[int, int, int, int]]:
    for y in range(0, height, TILE_PX):
        for x in range(0, width, TILE_PX):
            yield x, y, min(TILE_PX, width - x), min(TILE_PX, height - y)


def _tile_edges(view: View, tile: tuple[float, float, float, float]) -> tuple[float, float, float, float]:
    x, y, w, h = tile
    left, right, bottom, top = view.edges()
    across, high = (right - left) / view.width_px, (top - bottom) / view.height_px
    return left + across * x, left + across * (x + w), top - high * (y + h), top - high * y


def _ray_uniforms(view: View, tile: tuple[float, float, float, float]) -> dict[str, object]:
    """Lines of sight of a tile, one metre deep: its lower left corner, across and up."""
    left, right, bottom, top = _tile_edges(view, tile)
    axes = view.pose.axes()
    return {
        "u_corner": axes[0] * left + axes[1] * bottom + axes[2],
        "u_across": axes[0] * (right - left),
        "u_high": axes[1] * (top - bottom),
    }


def _camera_uniforms(view: View, clip: Floats) -> dict[str, object]:
    near, far = view.near_m or 0.0, view.far_m or UNBOUNDED_M
    made = {"u_clip": clip, "u_eye": tuple(view.pose.eye), "u_forward": tuple(view.pose.forward.tolist()), "u_bounds": (near, far)}
    return {**made, **_cut_uniforms(view)} if view.cuts else made


def _cut_uniforms(view: View) -> dict[str, object]:
    """Wall cuts as the shaders hold them (bounds.glsl)."""
    plane = [(*item.normal.tolist(), item.at_m) for item in view.cuts]
    along = [(item.along[0], item.along[1], item.depth_m, float(np.asarray(item.place) @ item.along)) for item in view.cuts]
    extent = [(-item.left_m, item.right_m, item.place[2] - item.down_m, item.place[2] + item.up_m) for item in view.cuts]
    names = ("u_cut_plane", "u_cut_along", "u_cut_extent")
    return {name: np.array(rows, np.float32).tobytes() for name, rows in zip(names, (plane, along, extent), strict=True)}


def _sky_uniforms(sky: Sky) -> dict[str, object]:
    return {
        "u_sun": sky.sun,
        "u_sun_lux": sky.sun_lux,
        "u_sky_scale": sky.scale,
        "u_haze": sky.haze,
        "u_ground": tuple(sky.ground.tolist()),
    }


def _gain(ev: float) -> float:
    """The brightest value a sensor of ISO 100 records is 1.2 x 2^EV candelas per square metre."""
    return float(1.0 / (1.2 * 2.0**ev))


def _jitter(number: int, passes: int) -> tuple[float, float]:
    """Sample places within the pixel: an even two-dimensional sequence about its middle."""
    if passes == 1:
        return 0.0, 0.0
    return ((number + 0.5) * 0.7548776662466927) % 1.0 - 0.5, ((number + 0.5) * 0.5698402909980532) % 1.0 - 0.5


def _sun_in_disc(sky: Sky, number: int, passes: int) -> Floats:
    sun = np.asarray(sky.sun)
    if passes == 1:
        return sun
    side = np.cross(sun, (0.0, 0.0, 1.0)) if abs(sun[2]) < 0.99 else np.array([1.0, 0.0, 0.0])
    side /= np.linalg.norm(side)
    radius = np.tan(np.radians(SUN_DISC_DEG / 2)) * np.sqrt((number + 0.5) / passes)
    angle = number * 2.399963
    moved = sun + radius * (np.cos(angle) * side + np.sin(angle) * np.cross(side, sun))
    return moved / np.linalg.norm(moved)


def _sun_matrix(centre: Floats, radius: float, sun: Floats, depth: float) -> Floats:
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
