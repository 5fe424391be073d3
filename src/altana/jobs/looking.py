"""What a camera's picture consists of, found by drawing it once at a small size."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from altana.core.camera.view import View
from altana.core.checks.composition import Composition, compose, wider
from altana.core.checks.cut_faces import cut_faces
from altana.core.geometry.rays import RayScene
from altana.core.model import Model
from altana.core.project import Camera, Project
from altana.core.staging import Lookup, Staging
from altana.render.renderer import Renderer

WIDTH_PX = 256
#: Cut faces are told from a coarser grid of rays: it must not keep the Frame waiting.
CUT_PX = 176


def composition_of(model: Model, project: Project, camera: Camera) -> Composition:
    """Shares, edges and depth of a camera's frame as its picture shows it."""
    renderer = Renderer(model)
    try:
        return looked_at(renderer, model, camera.view(), Lookup(model).staging(project, camera), WIDTH_PX)
    finally:
        renderer.close()


def looked_at(
    renderer: Renderer, model: Model, view: View, staging: Staging, width_px: int, rays: Callable[[], RayScene] | None = None
) -> Composition:
    """The same with a renderer that holds the model already; ``width_px`` is the width of the frame that is drawn.

    rays : where a ray caster comes from when the view has a near bound; one is made when it is left out.
    """
    around, across, up = wider(view, width_px)
    found = renderer.facts(around, staging)
    made = compose(model, found.object_index, found.depth_m, found.normal, across, up)
    if view.near_m is None:
        return made
    scene = rays() if rays is not None else RayScene(model.vertices, model.faces)
    return replace(made, cut=cut_faces(model, scene, view, min(width_px, CUT_PX), staging.omitted))
