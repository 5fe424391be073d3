"""Edits of the model files that a project is made of."""

from __future__ import annotations

import math
from dataclasses import replace

from altana.core.errors import Refused
from altana.core.project import ModelRef, Project, next_id

#: A model is moved by so many metres at most, either way.
FARTHEST_M = 10_000_000.0


def add_model(project: Project, path: str, unit_m: float = 0.0, up: str = "") -> Project:
    """Append a reference to a model file."""
    model_id = next_id("model", tuple(item.id for item in project.models))
    return replace(project, models=(*project.models, ModelRef(model_id, path, unit_m, up)))


def set_model(project: Project, model_id: str, **values: object) -> Project:
    """Set named fields of a model reference: ``unit_m``, ``up``, ``move``, ``turn_deg``, ``shown``.

    Raises Refused when there is no such model, and for values that place nothing.
    """
    if all(item.id != model_id for item in project.models):
        raise Refused(f"There is no model {model_id}.")
    models = tuple(replace(item, **values) if item.id == model_id else item for item in project.models)  # type: ignore[arg-type]
    for item in models:
        checked_model(item)
    if not any(item.shown for item in models):
        raise Refused("At least one model of a project is shown.")
    return replace(project, models=models)


def checked_model(item: ModelRef) -> ModelRef:
    """The reference itself.  Raises Refused for values that place nothing."""
    if not 0.0 <= item.unit_m <= 1e6 or item.up not in ("", "y", "z"):
        raise Refused("a unit is a length in metres, and y or z points up.")
    if not all(math.isfinite(value) and abs(value) <= FARTHEST_M for value in (*item.move, item.turn_deg)):
        raise Refused(f"a model is moved by {FARTHEST_M / 1000:.0f} km at most.")
    return item


def remove_model(project: Project, model_id: str) -> Project:
    """Without a model file; the file stays on disk.  Raises Refused, and for the last one."""
    if all(item.id != model_id for item in project.models):
        raise Refused(f"There is no model {model_id}.")
    if len(project.models) == 1:
        raise Refused("A project needs a model. Add another one first.")
    return replace(project, models=tuple(item for item in project.models if item.id != model_id))
