"""The light of a scene, computed once and kept."""

from __future__ import annotations

import math
import os
from dataclasses import dataclass, field, replace
from pathlib import Path

import numpy as np

from altana.core.conventions import Floats, Floats32
from altana.core.light.lightmap import MOST_LIT, MOST_POINTS, spread
from altana.core.light.own import MomentLight
from altana.core.light.sun import illuminance
from altana.core.light.transport import Lighting, LightMap
from altana.core.progress import Progress
from altana.core.project import Light
from altana.jobs.estimates import free_memory
from altana.jobs.models import Opened
from altana.jobs.surroundings import sky_for
from altana.render.images import albedos
from altana.storage.cache import keep_light, light_key, load_light

#: For slow machines: how many points the soft light takes at most.
POINTS_SETTING = "ALTANA_LIGHT_POINTS"
#: So many points are enough to see a room by while the rest is reckoned.
ROUGH_POINTS = 20_000
#: Memory that must be free for what points see to be kept, bytes.
LEAST_FREE = 2e9
#: The folder of a project without surroundings.
NOWHERE = Path()


def most_points() -> int:
    """How many points the soft light takes at most on this machine."""
    setting = os.environ.get(POINTS_SETTING, "")
    return min(max(int(setting), 1_000), 10 * MOST_POINTS) if setting.isdigit() else MOST_POINTS


def _key(opened: Opened, light: Light, *more: str) -> str:
    points = most_points()
    return light_key([*opened.keys, *more, *([str(points)] if points != MOST_POINTS else [])], light)


def light_name(opened: Opened, light: Light) -> str:
    """What the kept light map of a scene is called in the cache."""
    return _key(opened, light)


@dataclass(slots=True)
class KeptLighting:
    """What the points of a model see, kept between the lights of several hours: the second takes a fifth of
    the time of the first.

    It takes half a gigabyte of a model of many points; where memory is short nothing is kept.
    """

    _held: dict[tuple[str, ...], Lighting] = field(default_factory=dict)

    def of(self, opened: Opened, most: int, progress: Progress | None) -> Lighting:
        """The lighting of a model by so many points at most.  Raises Cancelled."""
        key = (*opened.keys, str(most))
        self._held = {old: other for old, other in self._held.items() if old[:-1] == opened.keys}
        lighting = self._held.get(key)
        if lighting is None:
            lighting = Lighting.of(opened.model, spread(opened.model, most), albedos(opened.model), progress)
            if free_memory() > LEAST_FREE:
                self._held[key] = lighting
        return lighting

    def let_go(self) -> None:
        """Give the memory back."""
        self._held.clear()


def known_light(opened: Opened, light: Light) -> LightMap | None:
    """The light map if it was computed before."""
    return load_light(_key(opened, light))


def rough_light(opened: Opened, light: Light) -> LightMap | None:
    """The light map from few points, if it was computed before."""
    return load_light(_key(opened, light, "rough"))


def keep_rough_light(
    opened: Opened,
    light: Light,
    progress: Progress | None = None,
    base: Path = NOWHERE,
    kept: KeptLighting | None = None,
) -> bool:
    """Compute and keep a light map from few points, to look at until the whole is known; False where that is
    not worth while.

    Raises Cancelled.
    """
    if most_points() <= 2 * ROUGH_POINTS or len(opened.model.faces) > MOST_LIT:
        return False
    if known_light(opened, light) is not None:
        return False
    light_map = (
        (kept or KeptLighting()).of(opened, ROUGH_POINTS, progress).lit(sky_for(light, base), progress, True)
    )
    keep_light(_key(opened, light, "rough"), light_map)
    return True


def light_of(
    opened: Opened,
    light: Light,
    progress: Progress | None = None,
    base: Path = NOWHERE,
    kept: KeptLighting | None = None,
) -> LightMap | None:
    """The light map of a scene under this sun, computed when it is not kept; None for a model so large that
    its soft light is only estimated.  kept : what other hours of the model were computed with.  Raises
    Cancelled."""
    if len(opened.model.faces) > MOST_LIT:
        return None
    known = known_light(opened, light)
    if known is not None:
        return known
    light_map = (
        (kept or KeptLighting()).of(opened, most_points(), progress).lit(sky_for(light, base), progress)
    )
    # What comes back is what a later run will read, rounding included, so that both give the same picture.
    return keep_light(_key(opened, light), light_map)


#: Soft light under a moving sun is computed at whole hours and blended between them.
STEP_H = 1.0
MOST_LIGHTS = 25


@dataclass(frozen=True, slots=True)
class MovingLight:
    """The soft light of a film whose sun moves or whose lamps are dimmed: light maps at hours that follow
    each other, and what lamps add at their full strength, where they are keyed."""

    light: Light
    hours: tuple[float, ...]
    maps: tuple[LightMap, ...]
    glow: Floats32 | None = None

    def at(self, moment: MomentLight) -> tuple[Light, Floats32]:
        """The light at a moment, and its soft light, blended from the two light maps about its hour: light
        adds up, so that lamps give their share of what they add at full strength."""
        lit = moment.of(self.light)
        place = float(np.interp(lit.hour, self.hours, np.arange(len(self.hours))))
        lower = min(int(place), len(self.maps) - 2) if len(self.maps) > 1 else 0
        share = place - lower
        pixels = self.maps[lower].pixels
        if share > 0.0 and len(self.maps) > 1:
            pixels = pixels + np.float32(share) * (self.maps[lower + 1].pixels - pixels)
        if self.glow is not None and moment.lamps:
            pixels = pixels + np.float32(moment.lamps) * self.glow
        return lit, pixels


def hours_lit(hours: Floats) -> list[float]:
    """The hours for which soft light is computed.  hours : (n,) of a film, NaN where its sun stands still."""
    known = hours[np.isfinite(hours)]
    if not len(known):
        return []
    first, last = float(known.min()), float(known.max())
    count = int(np.clip(math.ceil((last - first) / STEP_H) + 1, 1, MOST_LIGHTS))
    steps: list[float] = np.linspace(first, last, count).round(4).tolist()
    return steps


def glow_of(lit: LightMap, dark: LightMap) -> Floats32:
    """What lamps add at full strength, (height, width, 3) lux: the light with them less the same without."""
    added: Floats32 = np.maximum(lit.pixels - dark.pixels, np.float32(0.0))
    return added


@dataclass(frozen=True, slots=True)
class FilmLights:
    """The lights whose soft light a film is blended from: by hours without keyed lamps, and one in which
    those burn."""

    steps: tuple[Light, ...]
    lamps: Light | None = None
    dark: Light | None = None

    @property
    def all(self) -> tuple[Light, ...]:
        """Every one of them, once."""
        return (*self.steps, self.lamps) if self.lamps is not None else self.steps


def film_lights(light: Light, hours: Floats, lamps: Floats) -> FilmLights:
    """Which lights a film needs.  hours, lamps : (n,) of its film frames, NaN where they are not keyed; none
    where neither is."""
    steps = hours_lit(hours)
    if not np.isfinite(lamps).any():
        return FilmLights(tuple(replace(light, hour=hour) for hour in steps))
    unlit = replace(light, lamps=light.lamps.burning(0.0))
    dark = tuple(replace(unlit, hour=hour) for hour in (steps or [light.hour]))
    if not np.nanmax(lamps) > 0.0:
        return FilmLights(dark)
    # What lamps add is found where the least other light is rounded away with them.
    darkest = min(dark, key=lambda item: sum(illuminance(item)))
    return FilmLights(dark, replace(darkest, lamps=light.lamps.burning(1.0)), darkest)


def moving_light(
    opened: Opened,
    light: Light,
    rows: tuple[Floats, Floats],
    progress: Progress | None = None,
    base: Path = NOWHERE,
    kept: KeptLighting | None = None,
) -> MovingLight | None:
    """The soft light for the hours and the lamps of a film, each (n,) with NaN where it is not keyed; None
    where light stands still.

    Raises Cancelled.
    """
    wanted = film_lights(light, *rows)
    count = len(wanted.all)
    if not count:
        return None

    def one(number: int) -> Progress | None:
        return None if progress is None else lambda share: progress((number + share) / count)

    if len(opened.model.faces) > MOST_LIT:
        return None
    maps, kept = {}, kept or KeptLighting()
    for number, item in enumerate(wanted.all):
        light_map = light_of(opened, item, one(number), base, kept)
        if light_map is not None:
            maps[item] = light_map
    glow = None
    if wanted.lamps is not None and wanted.dark is not None:
        glow = glow_of(maps[wanted.lamps], maps[wanted.dark])
    hours = tuple(item.hour for item in wanted.steps)
    return MovingLight(light, hours, tuple(maps[item] for item in wanted.steps), glow)
