"""``altana lamps``: what lamps there are, by groups; switching and marking them."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import click

from altana.cli.shared import JSON, ProjectPath, edited, opened_models, say, without_none
from altana.core.edits.light import dim_lamps, mark_lamp, set_lamp_group, set_lamps
from altana.core.errors import UserError
from altana.core.light.lamps import burning, lamps_of
from altana.core.model import Model
from altana.core.naming import counted
from altana.core.project import Project
from altana.storage.project_file import read_project


class _LampCommands(click.Group):
    """A first word that is no subcommand is the project: PROJECT list|set … reads as in the other
    commands."""

    def parse_args(self, ctx: click.Context, args: list[str]) -> list[str]:
        if args and args[0] not in self.commands and args[0] != "--help":
            project, *rest = args
            name = (
                rest[0]
                if rest and rest[0] in self.commands
                else "list"
                if not rest or rest == ["--json"]
                else "mark"
            )
            if rest and rest[0] in self.commands:
                rest = rest[1:]
            args = [name, project, *rest]
        return super().parse_args(ctx, args)


@click.group("lamps", cls=_LampCommands)
def lamps_group() -> None:
    """Lamps: altana lamps PROJECT [list | set GROUP … | --mark OBJECT … | --on | --off | --level SHARE]."""


def facts_of(project: Project, model: Model) -> dict[str, Any]:
    """Groups with their lamps, as plain values."""
    lamps = project.light.lamps
    groups: dict[str, dict[str, Any]] = {}
    for lamp in lamps_of(model, lamps):
        group = lamps.group(lamp.group)
        lumens, kelvin = burning(lamp, group)
        entry = groups.setdefault(
            lamp.group,
            {
                "group": lamp.group,
                "on": group.on,
                "strength_ev": group.strength_ev,
                "kelvin": group.kelvin,
                "lamps": [],
            },
        )
        entry["lamps"].append(
            {
                "object": lamp.id,
                "name": lamp.name,
                "lumens": round(lumens, 2),
                "kelvin": kelvin,
                "marked": lamp.marked,
                "place": [round(value, 3) for value in lamp.place],
            }
        )
    return {"on": lamps.on, "level": lamps.level, "groups": list(groups.values())}


def _say(project: Project, model: Model, as_json: bool) -> None:
    facts = facts_of(project, model)
    dimmed = f", dimmed to {facts['level']:.0%}" if facts["level"] < 1.0 else ""
    lines = [f"lamps are {'on' if facts['on'] else 'off'}{dimmed}"]
    for group in facts["groups"]:
        total = sum(lamp["lumens"] for lamp in group["lamps"])
        state = "on" if group["on"] else "off"
        lines.append(
            f"{group['group']}: {counted(len(group['lamps']), 'lamp')}, {total:.0f} lm in all, {state}"
        )
    say(as_json, facts, lines if facts["groups"] else ["The model has no lamps. Mark objects with --mark."])


@lamps_group.command("list")
@click.argument("project", type=ProjectPath)
@JSON
def list_(project: Path, as_json: bool) -> None:
    """List the lamps by groups."""
    read = read_project(project)
    _say(read, opened_models(read, project).model, as_json)


@lamps_group.command("set")
@click.argument("project", type=ProjectPath)
@click.argument("group")
@click.option("--on/--off", "on", default=None)
@click.option("--strength", type=float, help="EV on what the lamps are: +1 doubles.")
@click.option("--kelvin", type=float, help="Warmth; 0 for as they are.")
@JSON
def set_(
    project: Path, group: str, on: bool | None, strength: float | None, kelvin: float | None, as_json: bool
) -> None:
    """How a group of lamps burns."""
    read = read_project(project)
    model = opened_models(read, project).model
    known = {lamp.group for lamp in lamps_of(model, read.light.lamps)}
    if group not in known:
        raise UserError(
            f"There is no group of lamps “{group}”. Groups: {', '.join(sorted(known)) or 'none'}."
        )
    values = without_none(on=on, strength_ev=strength, kelvin=kelvin)
    _say(edited(project, lambda current: set_lamp_group(current, group, **values)), model, as_json)


@lamps_group.command("mark")
@click.argument("project", type=ProjectPath)
@click.option("--on/--off", "on", default=None, help="All lamps of the project.")
@click.option("--level", type=float, help="How much of their light all lamps give while on, 0 to 1.")
@click.option("--mark", "marked", multiple=True, help="An object, by name or id, that is a lamp.")
@click.option("--unmark", "unmarked", multiple=True, help="An object that is no lamp after all.")
@click.option("--lumens", type=float, help="Of the objects that are marked.")
@click.option("--kelvin", type=float, help="Of the objects that are marked.")
@JSON
def mark(
    project: Path,
    on: bool | None,
    level: float | None,
    marked: tuple[str, ...],
    unmarked: tuple[str, ...],
    lumens: float | None,
    kelvin: float | None,
    as_json: bool,
) -> None:
    """Switch all lamps, and mark objects as lamps."""
    read = read_project(project)
    model = opened_models(read, project).model
    values = without_none(lumens=lumens, kelvin=kelvin)
    chosen = [(_object(model, name), True) for name in marked] + [
        (_object(model, name), False) for name in unmarked
    ]

    def edit(current: Project) -> Project:
        for object_id, is_lamp in chosen:
            current = mark_lamp(current, object_id, is_lamp, **(values if is_lamp else {}))
        if level is not None:
            current = dim_lamps(current, level)
        return current if on is None else set_lamps(current, on)

    _say(edited(project, edit), model, as_json)


def _object(model: Model, name: str) -> str:
    objects = [item.id for item in model.objects if name in (item.id, item.name)]
    if not objects:
        raise UserError(f"The model has no object “{name}”. Nothing was changed.")
    return objects[0]
