"""The light of a scene, computed once and kept."""

from __future__ import annotations

import math
import os
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np

from altana.core.conventions import Floats, Floats32
from altana.core.light.lightmap import MOST_LIT, MOST_POINTS, spread
from altana.core.light.transport import LightMap, Progress, solve
from altana.core.project import Light
from altana.jobs.models import Opened
from altana.jobs.surroundings import sky_for
from altana.render.upload import albedos
from altana.storage.cache import keep_light, light_key, load_light

#: For slow machines: how many points the soft light takes at most.
POINTS_SETTING = "ALTANA_LIGHT_POINTS"
#: So many points are enough to see a room by while the rest is reckoned.
ROUGH_POINTS = 9_000
#: The folder of a project without surroundings.
NOWHERE = Path()


def most_points() -> int:
    """How many points the soft light takes at most on this machine."""
    told = os.environ.get(POINTS_SETTING, "")
    return min(max(int(told), 1_000), 10 * MOST_POINTS) if told.isdigit() else MOST_POINTS


def _key(opened: Opened, light: Light, *more: str) -> str:
    points = most_points()
    return light_key([*opened.keys, *more, *([str(points)] if points != MOST_POINTS else [])], light)


def light_name(opened: Opened, light: Light) -> str:
    """What the kept light map of a scene is called in the cache."""
    return _key(opened, light)


def known_light(opened: Opened, light: Light) -> LightMap | None:
    """The light map if it was computed before."""
    return load_light(_key(opened, light))


def rough_light(opened: Opened, light: Light) -> LightMap | None:
    """The light map from few points, if it was computed before."""
    return load_light(_key(opened, light, "rough"))


def keep_rough_light(
    opened: Opened, light: Light, progress: Progress | None = None, base: Path = NOWHERE
) -> bool:
    """Compute and keep a light map from few points, to look at until the whole is known; False where that is not worth while.

    Raises Cancelled.
    """
    if len(opened.model.faces) > MOST_LIT or known_light(opened, light) is not None:
        return False
    points = spread(opened.model, ROUGH_POINTS)
    made = solve(opened.model, points, albedos(opened.model), sky_for(light, base), progress)
    keep_light(_key(opened, light, "rough"), made)
    return True


def light_of(
    opened: Opened, light: Light, progress: Progress | None = None, base: Path = NOWHERE
) -> LightMap | None:
    """The light map of a scene under this sun, computed when it is not kept; None for a model so large that its soft light is only
    estimated.  Raises Cancelled."""
    if len(opened.model.faces) > MOST_LIT:
        return None
    held = known_light(opened, light)
    if held is not None:
        return held
    made = solve(
        opened.model,
        spread(opened.model, most_points()),
        albedos(opened.model),
        sky_for(light, base),
        progress,
    )
    # What comes back is what a later run will read, rounding included, so that both give the same picture.
    return keep_light(_key(opened, light), made)


#: Soft light under a moving sun is computed at whole hours and blended between them.
STEP_H = 1.0
MOST_LIGHTS = 25


@dataclass(frozen=True, slots=True)
class MovingLight:
    """The soft light of a film whose sun moves: light maps at hours that follow each other."""

    light: Light
    hours: tuple[float, ...]
    maps: tuple[LightMap, ...]

    def at(self, hour: float) -> tuple[Light, Floats32]:
        """The sun at an hour, and the soft light there, blended from the two light maps about it."""
        place = float(np.interp(hour, self.hours, np.arange(len(self.hours))))
        lower = min(int(place), len(self.maps) - 2) if len(self.maps) > 1 else 0
        share = place - lower
        pixels = self.maps[lower].pixels
        if share > 0.0 and len(self.maps) > 1:
            pixels = pixels + np.float32(share) * (self.maps[lower + 1].pixels - pixels)
        return replace(self.light, hour=hour), pixels


def hours_lit(hours: Floats) -> list[float]:
    """The hours for which soft light is computed.  hours : (n,) of a film, NaN where its sun stands still."""
    known = hours[np.isfinite(hours)]
    if not len(known):
        return []
    first, last = float(known.min()), float(known.max())
    count = int(np.clip(math.ceil((last - first) / STEP_H) + 1, 1, MOST_LIGHTS))
    steps: list[float] = np.linspace(first, last, count).round(4).tolist()
    return steps


def moving_light(
    opened: Opened, light: Light, hours: Floats, progress: Progress | None = None, base: Path = NOWHERE
) -> MovingLight | None:
    """The soft light for the hours (n,) of a film, NaN where the project's holds; None where the sun stands still.

    Raises Cancelled.
    """
    steps = hours_lit(hours)
    count = len(steps)
    if not steps:
        return None

    def one(number: int) -> Progress | None:
        return None if progress is None else lambda share: progress((number + share) / count)

    if len(opened.model.faces) > MOST_LIT:
        return None
    found = [
        light_of(opened, replace(light, hour=hour), one(number), base) for number, hour in enumerate(steps)
    ]
    return MovingLight(light, tuple(steps), tuple(item for item in found if item is not None))
