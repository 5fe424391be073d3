"""``altana demo``, ``new`` and ``inspect``: projects from models, and what is in them."""

from __future__ import annotations

from collections import Counter
from pathlib import Path
from typing import Any

import click
import msgspec

from altana.cli.shared import JSON, opened_models, say
from altana.core.checks.survey import survey
from altana.core.edits.models import add_model
from altana.core.errors import UserError
from altana.core.project import Project
from altana.jobs.models import agreed, open_model
from altana.jobs.requests import Film, Pano, Picture
from altana.jobs.shotlist import Row, rows_of
from altana.storage.project_file import SUFFIX, read_project, take_in, write_project


@click.command("demo")
@click.option(
    "--out", required=True, type=click.Path(file_okay=False, path_type=Path), help="Folder for the demo."
)
def demo(out: Path) -> None:
    """Write the Larkwater ferry terminal: IFC and GLB models and a project with cameras and a walk."""
    # The demo and what writes its models are loaded by nobody else.
    from altana.demo.project import write_demo

    click.echo(str(write_demo(out)))


@click.command("new")
@click.argument("models", nargs=-1, required=True, type=click.Path(dir_okay=False, path_type=Path))
@click.option(
    "--out", required=True, type=click.Path(dir_okay=False, path_type=Path), help="The project file to write."
)
@click.option("--unit", type=float, default=0.0, help="Metres per unit, for files that name none.")
@click.option(
    "--up",
    type=click.Choice(["y", "z"]),
    help="The axis of the files that points up, where they are wrong or silent.",
)
@click.option("--force", is_flag=True, help="Replace a project that is already there.")
def new(models: tuple[Path, ...], out: Path, unit: float, up: str | None, force: bool) -> None:
    """Start a project from model files; models from elsewhere are copied beside it."""
    if out.suffix != SUFFIX:
        raise click.UsageError(f"A project's name ends in {SUFFIX}.")
    if out.exists() and not force:
        raise UserError(f"{out} is already there and was not touched. Choose another name, or say --force.")
    if unit < 0 or unit > 1e6:
        raise click.UsageError("A unit is a length in metres, such as 0.001.")
    project = Project(name=out.stem)
    opened = [open_model(path, unit, up=up or "") for path in models]
    # Files that belong together are of one unit and one axis, whatever each of them looks like alone.
    one_unit, one_up = agreed([model for model, _, _ in opened])
    for path, (model, others, _) in zip(models, opened, strict=True):
        assumed = any(item.code == "unit-assumed" for item in model.problems)
        turned = any(item.code == "axis-assumed" for item in model.problems)
        project = add_model(
            project,
            take_in(path, others, out),
            unit or (one_unit if assumed else 0.0),
            up or (one_up if turned else ""),
        )
    write_project(out, project)
    click.echo(str(out))


@click.command("inspect")
@click.argument("project", type=click.Path(dir_okay=False, path_type=Path))
@JSON
def inspect(project: Path, as_json: bool) -> None:
    """What a project, or a model file, contains: storeys, rooms, cameras, walks, problems."""
    if project.suffix.lower() == SUFFIX or not project.suffix:
        read = read_project(project)
        model = opened_models(read, project).model if read.models else None
    else:
        read = Project(name=project.stem)
        model = open_model(project)[0]
    facts: dict[str, Any] = {"name": read.name, "model": None, "storeys": [], "rooms": [], "problems": []}
    if model is not None:
        low, high = model.bounds.tolist()
        facts["model"] = {
            "source": model.source,
            "unit": model.unit,
            "triangles": len(model.faces),
            "objects": len(model.objects),
            "materials": len(model.materials),
            "low_m": low,
            "high_m": high,
            "offset_m": list(model.offset),
            "place": msgspec.to_builtins(model.place),
            "categories": _counts([item.category for item in model.objects]),
        }
        facts["storeys"] = msgspec.to_builtins(model.storeys)
        facts["rooms"] = msgspec.to_builtins(model.rooms)
        facts["problems"] = msgspec.to_builtins((*model.problems, *survey(model)))
        facts["linework"] = {"lines": len(model.linework.points), "layers": list(model.linework.layers)}
        facts["cameras_in_file"] = msgspec.to_builtins(model.cameras)
    facts["cameras"] = msgspec.to_builtins(read.cameras)
    facts["walks"] = msgspec.to_builtins(read.walks)
    facts["shots"] = [_shot_facts(row) for row in rows_of(read, model)]
    facts["planned"] = msgspec.to_builtins(read.planned)
    facts["patches"] = msgspec.to_builtins(read.patches)
    facts["left_out"] = msgspec.to_builtins(read.left_out)
    say(as_json, facts, _lines(facts))


def _shot_facts(row: Row) -> dict[str, Any]:
    """A row of the shot list in a few facts."""
    item, shot = row.item, row.shot
    facts: dict[str, Any] = {
        "kind": shot.kind,
        "on": shot.on,
        "drawn": shot.rendition,
        "file": row.file,
        "wrong": row.wrong,
    }
    if isinstance(item, Film):
        facts |= {"walk": item.walk.name}
    elif isinstance(item, Picture | Pano):
        facts |= {"camera": item.camera.name, "format": item.camera.format_name}
    if item is not None:
        facts |= {"size_px": [item.width_px, item.height_px]}
    return facts


def _counts(values: list[str]) -> dict[str, int]:
    return dict(sorted(Counter(values).items()))


def _lines(facts: dict[str, Any]) -> list[str]:
    lines = [facts["name"]]
    model = facts["model"]
    if model:
        size = [b - a for a, b in zip(model["low_m"], model["high_m"], strict=True)]
        lines.append(
            f"  {model['source']}: {model['triangles']} triangles, {model['objects']} objects, {size[0]:.1f} × {size[1]:.1f} × {size[2]:.1f} m, unit {model['unit']}"
        )
    place = model["place"] if model else None
    if place and place["latitude_deg"] is not None:
        lines.append(
            f"  stands at {place['latitude_deg']:.5f}° north, {place['longitude_deg']:.5f}° east; true north {place['north_deg']:g}°"
        )
    lines += [f"  storey {item['name']} at {item['elevation_m']:.2f} m" for item in facts["storeys"]]
    lines += [f"  room {item['name']}" for item in facts["rooms"]]
    lines += [f"  camera {item['name']}" for item in facts["cameras"]]
    lines += [f"  walk {item['name']}, {item['seconds']:g} s" for item in facts["walks"]]
    lines += [
        f"  shot {number}: {item['wrong'] or item['file']}"
        for number, item in enumerate(facts["shots"], 1)
        if item["on"]
    ]
    lines += [f"  planned {item['intent']}" for item in facts["planned"]]
    lines += [f"  in the file: camera {item['name']}" for item in facts.get("cameras_in_file", [])]
    if facts.get("linework", {}).get("lines"):
        lines.append(
            f"  {facts['linework']['lines']} reference lines: {', '.join(facts['linework']['layers'])}"
        )
    lines += [f"  note: {item['sentence']}" for item in facts["problems"]]
    return lines
