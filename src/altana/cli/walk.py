"""``altana walk``: make walks, list them, and say where the camera is in every film frame."""

from __future__ import annotations

import csv
import sys
from pathlib import Path

import click
import msgspec
import numpy as np

from altana.cli.shared import ProjectPath, edited, named, numbers, opened_models, say, storey_named
from altana.core.conventions import STANDING_M, parse_rate
from altana.core.edits.walks import add_walk, key_from_camera, remove_walk
from altana.core.errors import UserError
from altana.core.project import AHEAD, KEYED, Project, Walk, WalkKey
from altana.core.standing import ground_at, standable
from altana.core.walk.sample import resolve, sample
from altana.storage.project_file import read_project


@click.group("walk")
def walk_group() -> None:
    """Make, list and sample walks."""


@walk_group.command("add")
@click.argument("project", type=ProjectPath)
@click.option("--name", default="Walk", show_default=True)
@click.option("--cameras", help="Cameras to pass in order: names or ids with commas between them.")
@click.option(
    "--through",
    multiple=True,
    callback=lambda c, p, v: [numbers(2)(c, p, text) for text in v],
    help="A place x,y on the plan; give it several times.",
)
@click.option("--storey", help="Storey of the places.")
@click.option("--eye-height", type=float, default=STANDING_M, show_default=True, help="Metres above the floor.")
@click.option("--seconds", type=float, default=20.0, show_default=True)
@click.option("--rate", default="25", show_default=True, help="Frames a second: 25 or 24000/1001.")
@click.option("--looking", type=click.Choice([AHEAD, KEYED]), help="Along the route, or as the cameras look.")
@click.option("--json", "as_json", is_flag=True, help="One JSON document to stdout.")
def add(
    project: Path,
    name: str,
    cameras: str | None,
    through: list[tuple[float, float]],
    storey: str | None,
    eye_height: float,
    seconds: float,
    rate: str,
    looking: str | None,
    as_json: bool,
) -> None:
    """Add a walk through cameras in order, or through places on the plan."""
    if bool(cameras) == bool(through):
        raise click.UsageError("Give either --cameras A,B,… or --through x,y several times.")
    before = read_project(project)
    if cameras:
        keys = tuple(key_from_camera(named(before.camera_named, part.strip())) for part in cameras.split(","))
    else:
        keys = _keys_on_plan(before, project, through, storey, eye_height)
    walk = Walk("", name, keys, seconds, rate, looking or (KEYED if cameras else AHEAD), True, eye_height)
    after = edited(project, lambda current: add_walk(current, walk)[0])
    made = after.walks[-1]
    say(as_json, msgspec.to_builtins(made), [f"{made.name}: {len(made.keys)} places, {made.seconds:g} s at {made.rate} a second"])


def _keys_on_plan(
    project: Project, path: Path, places: list[tuple[float, float]], storey: str | None, eye_height: float
) -> tuple[WalkKey, ...]:
    model = opened_models(project, path).model
    level = storey_named(model, storey).elevation_m
    rays = standable(model)
    keys = []
    for x, y in places:
        ground = ground_at(rays, (x, y), level)
        if ground is None:
            raise UserError(f"There is no floor at {x:g}, {y:g}. Choose another place.")
        keys.append(WalkKey((x, y, ground.floor_m + eye_height), ev=10.0 if ground.inside else 14.0))
    return tuple(keys)


@walk_group.command("list")
@click.argument("project", type=ProjectPath)
@click.option("--json", "as_json", is_flag=True, help="One JSON document to stdout.")
def list_(project: Path, as_json: bool) -> None:
    """List the walks."""
    walks = read_project(project).walks
    lines = [f"{item.name}: {len(item.keys)} places, {item.seconds:g} s at {item.rate} a second" for item in walks]
    say(as_json, msgspec.to_builtins(walks), lines or ["No walks yet."])


@walk_group.command("remove")
@click.argument("project", type=ProjectPath)
@click.argument("walk")
def remove(project: Path, walk: str) -> None:
    """Remove a walk."""
    found = named(read_project(project).walk_named, walk)
    edited(project, lambda current: remove_walk(current, found.id))
    click.echo(f"Removed {found.name}.")


@walk_group.command("sample")
@click.argument("project", type=ProjectPath)
@click.argument("walk")
@click.option("--rate", help="Frames a second instead of the walk's own.")
@click.option("--frames", help="Only these film frames: FIRST-LAST, counted from 0.")
def sample_(project: Path, walk: str, rate: str | None, frames: str | None) -> None:
    """The camera of every film frame as CSV."""
    before = read_project(project)
    found = named(before.walk_named, walk)
    try:
        wanted = parse_rate(rate or found.rate)
    except ValueError as error:
        raise UserError(str(error)) from error
    rows = sample(resolve(found, standable(opened_models(before, project).model)), wanted)
    first, last = _range(frames, len(rows))
    out = csv.writer(sys.stdout, lineterminator="\n")
    out.writerow("frame seconds x y z heading tilt roll focal rise cross".split())
    for index in range(first, last + 1):
        x, y, z = rows.eye[index]
        out.writerow(
            [
                index,
                f"{rows.seconds[index]:.9f}",
                *(f"{v:.6f}" for v in (x, y, z, rows.heading_deg[index] % 360.0, rows.tilt_deg[index])),
                0,
                f"{rows.focal_mm[index]:.6f}",
                0,
                0,
            ]
        )


def _range(text: str | None, count: int) -> tuple[int, int]:
    if text is None:
        return 0, count - 1
    first, _, last = text.partition("-")
    try:
        a, b = int(first), int(last or first)
    except ValueError as error:
        raise click.BadParameter("write FIRST-LAST, such as 0-99") from error
    if not 0 <= a <= b < count:
        raise UserError(f"The walk has film frames 0 to {count - 1}; {text} is not among them.")
    return a, b


@walk_group.command("check")
@click.argument("project", type=ProjectPath)
@click.argument("walk")
@click.option("--json", "as_json", is_flag=True, help="One JSON document to stdout.")
def check(project: Path, walk: str, as_json: bool) -> None:
    """Length, pace, frames and the fastest turn of a walk."""
    before = read_project(project)
    found = named(before.walk_named, walk)
    line = resolve(found, standable(opened_models(before, project).model))
    rows = sample(line)
    turn = float(np.abs(np.diff(rows.heading_deg)).max() * float(rows.rate)) if len(rows) > 1 else 0.0
    climb = float(np.abs(np.diff(rows.eye[:, 2])).max() * float(rows.rate)) if len(rows) > 1 else 0.0
    facts = {
        "name": found.name,
        "seconds": found.seconds,
        "rate": found.rate,
        "frames": len(rows),
        "length_m": line.route.length_m,
        "pace_m_s": line.pace_m_s,
        "fastest_turn_deg_s": turn,
        "fastest_climb_m_s": climb,
    }
    lines = [
        f"{found.name}: {line.route.length_m:.2f} m in {found.seconds:g} s, {line.pace_m_s:.2f} m/s, {len(rows)} film frames, turning at most {turn:.0f}°/s"
    ]
    say(as_json, facts, lines)
