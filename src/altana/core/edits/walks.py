"""Changes to walks and to the project as a whole."""

from __future__ import annotations

from dataclasses import replace

from altana.core.conventions import parse_rate
from altana.core.project import Camera, Light, ModelRef, Project, Walk, WalkKey, free_name, next_id

LONGEST_S = 3600.0


def add_walk(project: Project, walk: Walk) -> tuple[Project, str]:
    """Append a walk under a free id and name; returns the project and the id."""
    walk_id = next_id("walk", tuple(item.id for item in project.walks))
    name = free_name(walk.name or "Walk", tuple(item.name for item in project.walks))
    added = checked_walk(replace(walk, id=walk_id, name=name))
    return replace(project, walks=(*project.walks, added)), walk_id


def set_walk(project: Project, walk_id: str, **values: object) -> Project:
    """Set named fields of a walk.  Raises KeyError or ValueError with a sentence."""
    if project.walk(walk_id) is None:
        raise KeyError(f"There is no walk {walk_id}.")
    return replace(
        project,
        walks=tuple(
            checked_walk(replace(item, **values)) if item.id == walk_id else item  # type: ignore[arg-type]
            for item in project.walks
        ),
    )


def remove_walk(project: Project, walk_id: str) -> Project:
    """Without this walk.  Raises KeyError when there is no such walk."""
    if project.walk(walk_id) is None:
        raise KeyError(f"There is no walk {walk_id}.")
    return replace(project, walks=tuple(item for item in project.walks if item.id != walk_id))


def checked_walk(walk: Walk) -> Walk:
    """The walk itself, or ValueError naming what makes no film."""
    if len(walk.keys) < 2:
        raise ValueError("A walk needs at least two places to pass.")
    if not 0.1 <= walk.seconds <= LONGEST_S:
        raise ValueError(f"A length of {walk.seconds:g} s is outside 0.1 to {LONGEST_S:g} s.")
    for a, b in zip(walk.keys, walk.keys[1:], strict=False):
        if max(abs(p - q) for p, q in zip(a.eye, b.eye, strict=True)) < 1e-3:
            raise ValueError("Two places of the walk that follow each other are the same.")
    parse_rate(walk.rate)
    return walk


def key_from_camera(camera: Camera) -> WalkKey:
    """The place, direction, lens and exposure of a camera as a key of a walk."""
    return WalkKey(camera.eye, camera.heading_deg, camera.tilt_deg, camera.focal_mm, camera.ev)


def add_model(project: Project, path: str, unit_m: float = 0.0, up: str = "") -> Project:
    """Append a reference to a model file."""
    model_id = next_id("model", tuple(item.id for item in project.models))
    return replace(project, models=(*project.models, ModelRef(model_id, path, unit_m, up)))


def set_model(project: Project, model_id: str, **values: object) -> Project:
    """Set named fields of a model reference: ``unit_m``, ``up``.  Raises KeyError when there is no such model."""
    if all(item.id != model_id for item in project.models):
        raise KeyError(f"There is no model {model_id}.")
    return replace(
        project,
        models=tuple(replace(item, **values) if item.id == model_id else item for item in project.models),  # type: ignore[arg-type]
    )


def set_light(project: Project, light: Light) -> Project:
    """With another sun."""
    return replace(project, light=light)


def rename(project: Project, name: str) -> Project:
    """Under another name.  Raises ValueError for an empty one."""
    if not name.strip():
        raise ValueError("A project needs a name.")
    return replace(project, name=name.strip())
