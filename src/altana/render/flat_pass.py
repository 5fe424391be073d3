"""Draws what the flat mirrors of a picture show, before the picture itself."""

from __future__ import annotations

from dataclasses import dataclass

import moderngl
import numpy as np

from altana.core.camera.view import View
from altana.core.light.sky import Sky
from altana.render.flat_mirrors import SMALLER, FlatMirror, FlatMirrors, mirrors_sharply, seen_planes
from altana.render.light_pass import LightPass
from altana.render.looks import Looks
from altana.render.mirrors import SAME_M
from altana.render.programs import Programs
from altana.render.quality import Quality, jittered
from altana.render.shadows import ShadowMap
from altana.render.shown import ModelDrawer
from altana.render.targets import Targets, colour_of

#: Sides of the texture that holds them are multiples of this, so that the next picture finds it large enough.
STEP_PX = 128


class FlatPass:
    """Draws them into the buffers of the picture, which are not wanted yet, and lays them into a texture of
    its own."""

    def __init__(
        self,
        context: moderngl.Context,
        programs: Programs,
        shown: ModelDrawer,
        light: LightPass,
        looks: Looks,
    ) -> None:
        self._context, self._programs, self._shown = context, programs, shown
        self._light, self._looks = light, looks
        self._sheet: moderngl.Framebuffer | None = None

    def of(
        self,
        view: View,
        sky: Sky,
        quality: Quality,
        inside: bool,
        tile: tuple[int, int, int, int],
        target: Targets,
        shadows: tuple[ShadowMap, ...],
    ) -> FlatMirrors | None:
        """What the planes mirror that a tile shows; None where there are none.  target : the buffers of the
        tile."""
        parts = _parts(self.planes(view), view, tile)
        if not parts:
            return None
        sheet = self._sheet_of(max(part.size[0] for part in parts), parts[-1].low + parts[-1].size[1])
        sheet.viewport = (0, 0, *sheet.size)
        sheet.use()
        sheet.clear(0.0, 0.0, 0.0, 0.0)
        before = self._shown.wide_px
        for part in parts:
            behind = part.plane.behind(view)
            self._shown.wide_px = float(part.size[0])
            for number in range(part.plane.drawn):
                for frame in (target.surface, target.light):
                    frame.viewport = frame.scissor = (0, 0, *part.size)
                there, cut = part.seen_from_behind(view, tile, number), part.cut
                self._light.plainly(behind, sky, quality, inside, there, target, shadows, cut, number)
                self._lay(target, sheet, part)
        self._shown.wide_px = before
        for frame in (target.surface, target.light):
            frame.viewport = frame.scissor = (0, 0, *target.size)
        texture = colour_of(sheet)
        texture.filter = (moderngl.LINEAR, moderngl.LINEAR)
        planes = tuple(part.plane for part in parts)
        shift = np.array([part.shift(tile) for part in parts])
        box = np.array([(0, part.low, part.size[0], part.low + part.size[1]) for part in parts], float)
        return FlatMirrors(texture, planes, shift, box)

    def planes(self, view: View) -> tuple[FlatMirror, ...]:
        """The planes that mirror most of a view."""
        materials = self._shown.model.materials
        return seen_planes(*self._looks.at(view, panes=True), materials) if mirrors_sharply(materials) else ()

    def _lay(self, target: Targets, sheet: moderngl.Framebuffer, part: _Part) -> None:
        sheet.viewport = (0, part.low, *part.size)
        sheet.use()
        self._context.enable_only(moderngl.BLEND)
        self._context.blend_func = moderngl.ONE, moderngl.ONE
        colour_of(target.light).use(0)
        self._programs.set("lay", u_light=0, u_low=part.low, u_share=1.0 / part.plane.drawn)
        self._programs.cover("lay")

    def _sheet_of(self, wide: int, high: int) -> moderngl.Framebuffer:
        """A buffer at least so large; the last one where it is."""
        sheet = self._sheet
        if sheet is not None and sheet.width >= wide and sheet.height >= high:
            return sheet
        if sheet is not None:
            colour_of(sheet).release()
            sheet.release()
        size = tuple(-(-side // STEP_PX) * STEP_PX for side in (wide, high))
        texture = self._context.texture((size[0], size[1]), 4, dtype="f2")
        texture.repeat_x = texture.repeat_y = False
        self._sheet = self._context.framebuffer([texture])
        return self._sheet


@dataclass(frozen=True, slots=True)
class _Part:
    """What a tile shows of a plane: its ``place`` in the tile (left, top, width, height), the ``size`` of its
    picture, pixels, and from which row of the sheet on that lies."""

    plane: FlatMirror
    place: tuple[int, int, int, int]
    size: tuple[int, int]
    low: int

    @property
    def cut(self) -> tuple[float, float, float, float]:
        """The plane, behind which nothing is drawn; what lies less far before it is its own surface."""
        return (*self.plane.normal, self.plane.at_m + SAME_M)

    def seen_from_behind(
        self, view: View, tile: tuple[int, int, int, int], number: int
    ) -> tuple[float, float, float, float]:
        """Its place in the picture from behind, each time aside by other parts of a pixel."""
        left, top, wide, high = self.place
        aside = jittered(number, self.plane.drawn)
        x = view.width_px - (tile[0] + left) - wide
        return (
            x + aside[0] * wide / self.size[0],
            tile[1] + top + aside[1] * high / self.size[1],
            wide,
            high,
        )

    def shift(self, tile: tuple[int, int, int, int]) -> tuple[float, float, float, float]:
        """From which pixel of the tile it begins, right to left and from below, and its texels a pixel."""
        left, top, wide, high = self.place
        return left + wide, top + high - tile[3], self.size[0] / wide, self.size[1] / high


def _parts(planes: tuple[FlatMirror, ...], view: View, tile: tuple[int, int, int, int]) -> tuple[_Part, ...]:
    """Of the planes that a tile shows, one above the other."""
    parts: list[_Part] = []
    for plane in planes:
        place = plane.pixels(view, tile)
        if place is not None:
            smaller = 1 if plane.looking_glass else SMALLER
            size = (-(-place[2] // smaller), -(-place[3] // smaller))
            parts.append(_Part(plane, place, size, parts[-1].low + parts[-1].size[1] if parts else 0))
    return tuple(parts)
