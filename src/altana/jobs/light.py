"""The light of a scene, computed once and kept."""

from __future__ import annotations

from altana.core.light.lightmap import spread
from altana.core.light.sky import sky_of
from altana.core.light.transport import LightMap, Progress, solve
from altana.core.project import Light
from altana.jobs.models import Opened
from altana.render.upload import albedos
from altana.storage.cache import keep_light, light_key, load_light


def known_light(opened: Opened, light: Light) -> LightMap | None:
    """The light map if it was computed before."""
    return load_light(light_key(list(opened.keys), light))


def light_of(opened: Opened, light: Light, progress: Progress | None = None) -> LightMap:
    """The light map of a scene under this sun, computed when it is not kept.  Raises Cancelled."""
    held = known_light(opened, light)
    if held is not None:
        return held
    made = solve(opened.model, spread(opened.model), albedos(opened.model), sky_of(light), progress)
    keep_light(light_key(list(opened.keys), light), made)
    # What comes back is what a later run will read, rounding included, so that both give the same picture.
    return load_light(light_key(list(opened.keys), light)) or made
