"""What a camera's picture consists of, found by drawing it once at a small size."""

from __future__ import annotations

from altana.core.checks.composition import Composition, compose, wider
from altana.core.model import Model
from altana.core.project import Camera, Project
from altana.core.staging import Lookup
from altana.render.renderer import Renderer

WIDTH_PX = 256


def composition_of(model: Model, project: Project, camera: Camera) -> Composition:
    """Shares, edges and depth of a camera's frame as its picture shows it."""
    view, across, up = wider(camera.view(), WIDTH_PX)
    renderer = Renderer(model)
    try:
        found = renderer.facts(view, Lookup(model).staging(project, camera))
    finally:
        renderer.close()
    return compose(model, found.object_index, found.depth_m, found.normal, across, up)
