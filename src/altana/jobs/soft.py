"""Which soft light the window's pictures are drawn in: each picture's own where that is known, else the
project's."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from altana.core.conventions import Floats32
from altana.core.light.own import MomentLight
from altana.core.light.transport import LightMap
from altana.core.picture_key import KNOWN
from altana.core.project import Light
from altana.jobs.light import MovingLight, glow_of, known_light
from altana.jobs.models import Opened
from altana.render.renderer import Renderer

#: So many light maps are held for going to and fro between cameras, and through a film; of the demo each
#: takes 13 MB.
MOST_HELD = 6


class SoftLights:
    """Puts the soft light of a picture's light on the model before it is drawn."""

    def __init__(self, opened: Opened, renderer: Renderer) -> None:
        self._opened, self._renderer = opened, renderer
        self._project: Light | None = None
        self._on: Light | None = None
        self._held: dict[Light, LightMap] = {}
        #: Lights beside the project's whose soft light is known.
        self.others: tuple[Light, ...] = ()

    def shown(self, light: Light | None, lit: int) -> None:
        """The renderer shows the soft light of the project anew; rough or estimated it stands for every
        picture."""
        self._project = self._on = light if lit == KNOWN else None
        self._held.clear()

    def know(self, others: tuple[Light, ...]) -> None:
        """These are known from now on; what was put together before may be better now."""
        if others != self.others:
            self.others = others
            self._held.clear()

    def back(self) -> None:
        """Another has put the project's soft light on again."""
        self._on = self._project

    def put_on(self, light: Light) -> None:
        """Draw in this light from now on, as far as its soft light is known."""
        if self._project is None or light == self._on:
            return
        for wanted in (light, self._project):
            if wanted == self._on:
                return
            pixels = self._pixels(wanted)
            if pixels is not None:
                self._renderer.relight(pixels)
                self._on = wanted
                return

    def _pixels(self, light: Light) -> Floats32 | None:
        """The soft light of a light: as it is kept, or between those of hours beside it, with its lamps'
        share of what they add."""
        exact = self._map(light)
        if exact is not None:
            return exact.pixels
        between = self._moving(light)
        if between is not None:
            return between.at(MomentLight(light.hour))[1]
        unlit = replace(light, lamps=light.lamps.burning(0.0))
        dimmed = self._moving(unlit) if light.lamps.on else None
        if dimmed is None or dimmed.glow is None:
            return None
        return dimmed.at(MomentLight(light.hour, light.lamps.share))[1]

    def _map(self, light: Light) -> LightMap | None:
        """A kept light map; the last few stay in memory, for a film goes through the same ones again and
        again."""
        light_map = self._held.pop(light, None) or known_light(self._opened, light)
        if light_map is not None and light != self._project and not self._fits(light_map):
            return None
        if light_map is not None:
            self._held[light] = light_map
            for old in list(self._held)[:-MOST_HELD]:
                del self._held[old]
        return light_map

    def _fits(self, light_map: LightMap) -> bool:
        """Whether its places are those of the light that is shown; one that was kept by another Altana may
        have others."""
        shown = self._map(self._project) if self._project is not None else None
        return shown is None or (
            shown.pixels.shape == light_map.pixels.shape and np.array_equal(shown.uv, light_map.uv)
        )

    def _moving(self, light: Light) -> MovingLight | None:
        """From the known lights that are the same but for their hour, the two about it; None where it lies
        beyond them."""
        beside = sorted(
            (item for item in self.others if replace(item, hour=light.hour) == light),
            key=lambda item: item.hour,
        )
        after = next((number for number, item in enumerate(beside) if item.hour >= light.hour), None)
        if after is None or (after == 0 and beside[0].hour > light.hour):
            return None
        about = beside[max(after - 1, 0) : after + 1]
        maps = tuple(light_map for light_map in map(self._map, about) if light_map is not None)
        if len(maps) != len(about):
            return None
        return MovingLight(light, tuple(item.hour for item in about), maps, self._glow(light))

    def _glow(self, light: Light) -> Floats32 | None:
        """What lamps add at full strength: found where a light is known with them and without."""
        for item in self.others:
            if item.lamps.share == 1.0 and item.lamps.hung == light.lamps.hung:
                lit, dark = (self._map(item), self._map(replace(item, lamps=item.lamps.burning(0.0))))
                if lit is not None and dark is not None:
                    return glow_of(lit, dark)
        return None
