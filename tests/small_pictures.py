"""Small pictures of models made by tests: as the Frame draws them, and traced."""

from __future__ import annotations

from types import ModuleType

from altana.core.camera.view import View
from altana.core.conventions import Floats32
from altana.core.light.sky import Sky
from altana.core.light.tone import gain
from altana.core.model import Model
from altana.core.staging import WHOLE, Staging
from altana.render.quality import Quality
from altana.render.renderer import Renderer
from altana.render.traced.scene import SceneMaker
from altana.render.traced.sights import FlatSights
from altana.render.traced.tracer import Sums, Tracer


def live_light(model: Model, view: View, sky: Sky, passes: int = 2, staging: Staging = WHOLE) -> Floats32:
    """(height, width, 3) as the Frame draws it."""
    renderer = Renderer(model)
    try:
        light = renderer.master(view, sky, Quality(passes=passes), staging=staging)
    finally:
        renderer.close()
    assert light is not None
    return light.light.astype("float32")


def traced_light(engine: ModuleType, model: Model, view: View, sky: Sky, samples: int) -> Floats32:
    """(height, width, 3) traced."""
    sights = FlatSights(view)
    tracer = Tracer(engine, SceneMaker(engine, model).make(sky, WHOLE), sky, 1.0 / gain(14.0))
    sums = Sums.empty(sights.size)
    for _ in range(samples):
        tracer.add(sights, sums)
    return sums.mean
