"""``altana model``: the model files of a project, each with its unit, its axis, its place, and whether it is
shown."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import click
import msgspec

from altana.cli.shared import JSON, ProjectPath, edited, numbers, say, without_none
from altana.core.edits.models import add_model, remove_model, set_model
from altana.core.errors import UserError
from altana.core.project import ModelRef, Project
from altana.jobs.models import open_model
from altana.storage.project_file import read_project, take_in


@click.group("model")
def model_group() -> None:
    """List, add, place and hide the model files of a project."""


def _options(function: Any) -> Any:
    for option in (
        click.option("--unit", type=float, help="Metres per unit; 0 as the file says."),
        click.option(
            "--up",
            type=click.Choice(["y", "z", "file"]),
            help="The axis of the file that points up; `file` as it says.",
        ),
        click.option("--move", callback=numbers(3), help="East, north and up in metres."),
        click.option("--turn", "turn_deg", type=float, help="Degrees clockwise about the model's own zero."),
        click.option("--show/--hide", "shown", default=None, help="Whether it is part of the scene."),
    ):
        function = option(function)
    return function


def _given(values: dict[str, Any]) -> dict[str, Any]:
    values_given = without_none(
        unit_m=values["unit"], move=values["move"], turn_deg=values["turn_deg"], shown=values["shown"]
    )
    if values["up"] is not None:
        values_given["up"] = "" if values["up"] == "file" else values["up"]
    return values_given


def _found(project: Project, name: str) -> ModelRef:
    """A model by id, path, or the name of its file.  Raises UserError."""
    for item in project.models:
        if name in (item.id, item.path, Path(item.path).name):
            return item
    raise UserError(
        f"There is no model “{name}”. Models: {', '.join(Path(item.path).name for item in project.models)}."
    )


def _line(item: ModelRef) -> str:
    placed = (
        f", moved {item.move[0]:g}, {item.move[1]:g}, {item.move[2]:g} m, turned {item.turn_deg:g}°"
        if any(item.move) or item.turn_deg
        else ""
    )
    return f"{item.id}: {item.path}{placed}{'' if item.shown else ', not shown'}"


@model_group.command("list")
@click.argument("project", type=ProjectPath)
@JSON
def list_(project: Path, as_json: bool) -> None:
    """The model files in their order."""
    models = read_project(project).models
    say(as_json, msgspec.to_builtins(models), [_line(item) for item in models])


@model_group.command("add")
@click.argument("project", type=ProjectPath)
@click.argument("file", type=click.Path(dir_okay=False, path_type=Path))
@_options
@JSON
def add(project: Path, file: Path, as_json: bool, **values: Any) -> None:
    """Another model file; one from elsewhere is copied into models/ beside the project."""
    read_project(project)
    given = _given(values)
    others = open_model(file, given.get("unit_m", 0.0), up=given.get("up", ""))[1]
    stored = take_in(file, others, project)

    def edit(current: Project) -> Project:
        after = add_model(current, stored)
        return set_model(after, after.models[-1].id, **given)

    model_after = edited(project, edit).models[-1]
    say(as_json, msgspec.to_builtins(model_after), [_line(model_after)])


@model_group.command("set")
@click.argument("project", type=ProjectPath)
@click.argument("name")
@_options
@JSON
def set_(project: Path, name: str, as_json: bool, **values: Any) -> None:
    """Change a model file's unit, axis, place or showing; what is not named stays."""
    model_id = _found(read_project(project), name).id
    after = edited(project, lambda current: set_model(current, model_id, **_given(values)))
    model_after = next(item for item in after.models if item.id == model_id)
    say(as_json, msgspec.to_builtins(model_after), [_line(model_after)])


@model_group.command("remove")
@click.argument("project", type=ProjectPath)
@click.argument("name")
def remove(project: Path, name: str) -> None:
    """Take a model file out of the project; the file stays."""
    model_before = _found(read_project(project), name)
    edited(project, lambda current: remove_model(current, model_before.id))
    click.echo(f"{model_before.path} is no longer part of the project. The file was left as it is.")
