"""What each pixel shows, beside its light: object, depth, direction, material, and whether a pane lies before
it."""

from __future__ import annotations

import moderngl
import numpy as np
import numpy.typing as npt

from altana.core.camera.view import View
from altana.core.conventions import Floats
from altana.render.depth import EMPTY, depth_buffer
from altana.render.outputs import Facts
from altana.render.quality import tiles
from altana.render.shown import ModelDrawer
from altana.render.uniforms import camera_uniforms, with_cuts


class FactsPass:
    """Looks at the model that is shown, one sample at the middle of each pixel."""

    def __init__(self, context: moderngl.Context, shown: ModelDrawer) -> None:
        self._context, self._shown = context, shown

    def of(self, view: View, panes: bool = False) -> Facts:
        """All of a view.  panes : panes count as what is seen; otherwise sight goes through them."""
        facts = Facts.empty(view.width_px, view.height_px)
        for tile in tiles(view.width_px, view.height_px):
            self.tile(view, tile, facts, panes)
        return facts

    def tile(self, view: View, tile: tuple[int, int, int, int], facts: Facts, panes: bool) -> None:
        """Look at one tile of a view, and write what it shows into ``facts``."""
        x, y, w, h = tile
        surface = self._context.texture((w, h), 4, dtype="f4")
        number = self._context.texture((w, h), 2, dtype="u4")
        depth = depth_buffer(self._context, (w, h))
        frame = self._context.framebuffer([surface, number], depth)
        frame.use()
        frame.clear(0.0, 0.0, 0.0, 0.0, depth=EMPTY)
        self._context.enable_only(moderngl.DEPTH_TEST)
        clip = view.clip_matrix(tile) @ view.world_to_camera()
        self._shown.scene.materials.use(0)
        common = {
            **camera_uniforms(view, clip),
            "u_light_size": (1.0, 1.0),
            "u_materials": 0,
            "u_images": 1,
            "u_phase": 0,
        }
        self._shown.draw(with_cuts("facts", view), "solid", clip, None, common)
        self._shown.draw(with_cuts("facts", view), "solid", clip, None, common, "solid:faint")
        if panes:
            self._shown.draw(with_cuts("facts", view), "glass", clip, None, common)
        elif len(self._shown.scene.glass.first):
            facts.pane[y : y + h, x : x + w] = self._panes(view, clip, common, depth, (w, h))
        values = np.frombuffer(surface.read(), np.float32).reshape(h, w, 4)[::-1]
        numbers = np.frombuffer(number.read(), np.uint32).reshape(h, w, 2)[::-1].astype(np.int64) - 1
        seen = numbers[..., 0] >= 0
        facts.object_index[y : y + h, x : x + w] = numbers[..., 0]
        facts.material_index[y : y + h, x : x + w] = numbers[..., 1]
        facts.depth_m[y : y + h, x : x + w] = np.where(seen, values[..., 3], np.inf)
        facts.normal[y : y + h, x : x + w] = values[..., :3]
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
        texture = self._context.texture(size, 1, dtype="f1")
        frame = self._context.framebuffer([texture], depth)
        frame.use()
        self._context.enable_only(moderngl.DEPTH_TEST)
        frame.depth_mask = False
        texture.write(bytes(size[0] * size[1]))
        self._shown.draw(with_cuts("pane", view), "glass", clip, None, common)
        frame.depth_mask = True
        shades = np.frombuffer(texture.read(alignment=1), np.uint8).reshape(size[1], size[0])[::-1] > 0
        frame.release()
        texture.release()
        return shades
