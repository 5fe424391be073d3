"""``altana walk turntable``: a camera that goes round something."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any

import click
import msgspec

from altana.cli.shared import JSON, ProjectPath, edited, numbers, opened_models, say, vec3
from altana.cli.walk import walk_group
from altana.core.conventions import parse_rate
from altana.core.edits.walks import add_walk, turntable_round, turntable_stills
from altana.core.project import Project, Turntable, Walk
from altana.core.staging import object_points
from altana.jobs.requests import parse_size
from altana.storage.project_file import read_project


@walk_group.command("turntable")
@click.argument("project", type=ProjectPath)
@click.option("--name", default="Turntable", show_default=True)
@click.option(
    "--object", "object_name", help="Round this object, by name or id; centre and radius follow from it."
)
@click.option("--centre", callback=numbers(3), help="Or round this place: x,y,z in metres.")
@click.option(
    "--radius", type=float, help="Metres from the centre; far enough to hold the object when left out."
)
@click.option("--eye", type=float, help="Height of the eye above zero, metres; the centre's when left out.")
@click.option(
    "--start",
    type=float,
    default=180.0,
    show_default=True,
    help="Where it begins: degrees, seen from the centre.",
)
@click.option(
    "--sweep", type=float, default=360.0, show_default=True, help="Degrees, clockwise where positive."
)
@click.option("--level", is_flag=True, help="Level instead of looking at the centre.")
@click.option("--keep-plumb", is_flag=True, help="Verticals upright: the tilt becomes rise.")
@click.option("--focal", type=float, default=35.0, show_default=True)
@click.option("--frames", type=int, default=240, show_default=True)
@click.option("--rate", default="25", show_default=True)
@click.option("--size", default="1280x720", show_default=True)
@click.option("--stills", type=int, default=0, help="Keep so many even stops as cameras too.")
@JSON
def turntable(project: Path, as_json: bool, **values: Any) -> None:
    """A turntable: round an object or a place, closing exactly, without a repeated frame."""
    if bool(values["object_name"]) == (values["centre"] is not None):
        raise click.UsageError("Give either --object or --centre x,y,z.")
    before = read_project(project)
    rate = parse_rate(values["rate"])
    if values["object_name"]:
        model = opened_models(before, project).model
        number = model.object_number(values["object_name"])
        points = object_points(model, number).astype(float)
        table = turntable_round(
            vec3(tuple(points.min(axis=0).tolist())),
            vec3(tuple(points.max(axis=0).tolist())),
            0.0,
            values["focal"],
        )
    else:
        table = Turntable(vec3(values["centre"]), values["radius"] or 10.0, 0.0, focal_mm=values["focal"])
    eye = table.centre[2] if values["eye"] is None else values["eye"]
    table = replace(
        table,
        radius_m=values["radius"] or table.radius_m,
        eye_m=eye,
        start_deg=values["start"],
        sweep_deg=values["sweep"],
        level=values["level"],
    )
    width, height = parse_size(values["size"])
    walk = Walk(
        "",
        values["name"],
        (),
        seconds=float(values["frames"] / rate),
        rate=values["rate"],
        width_px=width,
        height_px=height,
        turntable=table,
        kept_plumb=values["keep_plumb"],
    )

    def edit(current: Project) -> Project:
        after, walk_id = add_walk(current, walk)
        return turntable_stills(after, walk_id, values["stills"]) if values["stills"] else after

    new_walk = edited(project, edit).walks[-1]
    line = (
        f"{new_walk.name}: radius {table.radius_m:.2f} m, {values['frames']} film frames at {new_walk.rate}"
    )
    say(as_json, msgspec.to_builtins(new_walk), [line])
