"""Cut faces: where a bound or a wall cut goes through a body, sight begins inside it, and the cut is shown as
poché."""

from __future__ import annotations

from collections.abc import Callable

import moderngl
import numpy as np
import numpy.typing as npt

from altana.core.camera.bounds import sight_passes
from altana.core.camera.view import View
from altana.core.checks.cut_faces import Bodies, bodies_of, crossed_bodies
from altana.core.conventions import Floats32
from altana.core.model import Model
from altana.render.programs import Programs
from altana.render.quality import tiles
from altana.render.shown import ModelDrawer
from altana.render.targets import Targets, colour_of, kept
from altana.render.uniforms import UNBOUNDED_M, camera_uniforms, gain, ray_uniforms, with_cuts

#: The ink of cut faces, as light at an exposure of 1.
POCHE = (0.017, 0.015, 0.013)


class CutFaces:
    """Finds and draws the cut faces of the model that is shown."""

    def __init__(self, context: moderngl.Context, programs: Programs, shown: ModelDrawer) -> None:
        self._context, self._programs, self._shown = context, programs, shown
        self._bodies: Bodies | None = None
        self._bodies_of: Model | None = None
        self._counts: dict[tuple[int, int], moderngl.Framebuffer] = {}

    @property
    def bodies(self) -> Bodies:
        """The model's bodies, found when they are first needed."""
        if self._bodies is None or self._bodies_of is not self._shown.model:
            self._bodies, self._bodies_of = bodies_of(self._shown.model), self._shown.model
        return self._bodies

    def begun(self, view: View) -> tuple[int, ...]:
        """The bodies inside which sight may begin."""
        return crossed_bodies(self._shown.model, self.bodies, view, self._shown.staging)[1]

    def inside(self, view: View, depth_m: Callable[[], Floats32]) -> npt.NDArray[np.bool_]:
        """(height, width) bool: the pixels that show cut faces, where sight begins inside a body that a bound
        cuts.

        depth_m : gives (height, width) depths of what is seen, asked for where they matter: what stands
        before a wall cut hides it.
        """
        begun = self.begun(view)
        mask = np.zeros((view.height_px, view.width_px), bool)
        if not begun:
            return mask
        for x, y, w, h in tiles(view.width_px, view.height_px):
            counted = self._count(view, (x, y, w, h), begun)
            values = np.frombuffer(counted.read(components=1, dtype="f4"), np.float32).reshape(h, w)[::-1]
            mask[y : y + h, x : x + w] = values > 0.5
        if view.cuts and mask.any():
            depth = depth_m()
            rows, columns = np.nonzero(mask)
            along = view.rays(np.column_stack([columns + 0.5, rows + 0.5]))
            begins = sight_passes(view, along) * (along @ view.pose.forward)
            mask[rows, columns] = depth[rows, columns] >= begins - 1e-3
        return mask

    def cap(
        self,
        view: View,
        tile: tuple[float, float, float, float],
        target: Targets,
        begun: tuple[int, ...],
        ev: float,
    ) -> None:
        """Poché over the cut faces; nothing can lie before them, because sight begins there."""
        counted = self._count(view, tile, begun)
        self._context.enable_only(moderngl.NOTHING)
        target.light.use()
        colour_of(counted).use(0)
        colour_of(target.surface).use(1)
        name = with_cuts("cap", view)
        bounds = camera_uniforms(view, np.eye(4))
        ink = tuple((np.asarray(POCHE) / gain(ev)).tolist())
        self._programs.set(name, **bounds, **ray_uniforms(view, tile), u_count=0, u_surface=1, u_cap=ink)
        self._programs.cover(name)

    def _count(
        self, view: View, tile: tuple[float, float, float, float], begun: tuple[int, ...]
    ) -> moderngl.Framebuffer:
        """Counts surfaces of these bodies along each line of sight of a tile."""
        size = (int(tile[2]), int(tile[3]))
        frame = kept(
            self._counts,
            size,
            lambda: self._context.framebuffer([self._context.texture(size, 1, dtype="f4")]),
        )
        frame.use()
        frame.clear(0.0, 0.0, 0.0, 0.0)
        self._context.enable_only(moderngl.BLEND)
        self._context.blend_func = moderngl.ONE, moderngl.ONE
        clip = view.clip_matrix(tile) @ view.world_to_camera()
        common = {
            **camera_uniforms(view, clip),
            "u_light_size": (1.0, 1.0),
            "u_materials": 0,
            "u_images": 1,
            "u_phase": 0,
        }
        self._shown.scene.materials.use(0)
        moved = {item.index for item in self._shown.staging.moved}
        for number in begun:
            low, high = self.bodies.low[number] - 1e-4, self.bodies.high[number] + 1e-4
            if number in moved:
                low, high = np.full(3, -UNBOUNDED_M), np.full(3, UNBOUNDED_M)
            box = {
                "u_low": tuple(low.tolist()),
                "u_high": tuple(high.tolist()),
                "u_sense": float(self.bodies.sense[number]),
            }
            self._shown.draw(with_cuts("count", view), "solid", clip, None, {**common, **box}, only=(number,))
        return frame
