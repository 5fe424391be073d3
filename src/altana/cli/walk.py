"""``altana walk``: make walks, list them, and say where the camera is in every film frame."""

from __future__ import annotations

import csv
import sys
from dataclasses import replace
from pathlib import Path
from typing import Any

import click
import msgspec

from altana.cli.shared import (
    JSON,
    ProjectPath,
    edited,
    numbers,
    opened_models,
    say,
    storey_named,
    without_none,
)
from altana.cli.values import PlaceFields
from altana.cli.walk_values import KEY_FIELDS, KEY_READS, second_or_pace, with_keys
from altana.core.conventions import STANDING_M, parse_rate
from altana.core.edits.shots import without_subjects
from altana.core.edits.walks import add_walk, key_from_camera, remove_walk, reversed_walk, set_walk, timed
from altana.core.errors import UserError
from altana.core.geometry.rays import RayScene
from altana.core.project import AHEAD, CORNER, EVEN, KEYED, SMOOTH, Project, Walk, WalkKey
from altana.core.standing import ground_at, standable
from altana.core.walk.sample import resolve, sample
from altana.core.walk.stair import walk_up
from altana.core.walk.timing import seconds_for_pace
from altana.jobs.requests import parse_size
from altana.storage.project_file import read_project


#: What of a place is set by ``--key``, by the name it has there.
@click.group("walk")
def walk_group() -> None:
    """Make, list and sample walks."""


@walk_group.command("add")
@click.argument("project", type=ProjectPath)
@click.option("--name", help="What it is called; Walk where left out, up a stair by its name.")
@click.option("--cameras", help="Cameras to pass in order: names or ids with commas between them.")
@click.option(
    "--through",
    multiple=True,
    callback=lambda c, p, v: [numbers(2)(c, p, text) for text in v],
    help="A place x,y on the plan; give it several times.",
)
@click.option("--up", "stair", help="Up this stair, an object by name or id, from floor to floor.")
@click.option("--storey", help="Storey of the places.")
@click.option(
    "--eye-height", type=float, default=STANDING_M, show_default=True, help="Metres above the floor."
)
@click.option("--seconds", type=float, help="20 where left out; up a stair what a calm pace takes.")
@click.option("--rate", default="25", show_default=True, help="Frames a second: 25 or 24000/1001.")
@click.option("--looking", type=click.Choice([AHEAD, KEYED]), help="Along the route, or as the cameras look.")
@JSON
def add(project: Path, looking: str | None, as_json: bool, **values: Any) -> None:
    """Add a walk through cameras in order, through places on the plan, or up a stair."""
    cameras, through, stair = values["cameras"], values["through"], values["stair"]
    if sum(map(bool, (cameras, through, stair))) != 1:
        raise click.UsageError("Give one of --cameras A,B,…, --through x,y several times, or --up STAIR.")
    before = read_project(project)
    if stair:
        walk = _up(before, project, stair, values["eye_height"])
    elif cameras:
        keys = tuple(key_from_camera(before.camera_named(part.strip())) for part in cameras.split(","))
        walk = Walk("", "Walk", keys, looking=KEYED)
    else:
        keys = _keys_on_plan(before, project, through, values["storey"], values["eye_height"])
        walk = Walk("", "Walk", keys)
    walk = replace(
        walk,
        name=values["name"] or walk.name,
        seconds=walk.seconds if values["seconds"] is None else values["seconds"],
        rate=values["rate"],
        looking=looking or walk.looking,
        eye_height_m=values["eye_height"],
    )
    after = edited(project, lambda current: add_walk(current, walk)[0])
    new_walk = after.walks[-1]
    say(
        as_json,
        msgspec.to_builtins(new_walk),
        [f"{new_walk.name}: {len(new_walk.keys)} places, {new_walk.seconds:g} s at {new_walk.rate} a second"],
    )


def _up(project: Project, path: Path, stair: str, eye_height: float) -> Walk:
    model = opened_models(project, path).model
    number = model.object_number(stair)
    return walk_up(model, number, RayScene.of(model), standable(model), eye_height)


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
@JSON
def list_(project: Path, as_json: bool) -> None:
    """List the walks."""
    walks = read_project(project).walks
    lines = [
        f"{item.name}: {len(item.keys)} places, {item.seconds:g} s at {item.rate} a second" for item in walks
    ]
    say(as_json, msgspec.to_builtins(walks), lines or ["No walks yet."])


@walk_group.command("remove")
@click.argument("project", type=ProjectPath)
@click.argument("walk")
def remove(project: Path, walk: str) -> None:
    """Remove a walk."""
    walk_before = read_project(project).walk_named(walk)
    edited(project, lambda current: without_subjects(remove_walk(current, walk_before.id)))
    click.echo(f"Removed {walk_before.name}.")


@walk_group.command("sample")
@click.argument("project", type=ProjectPath)
@click.argument("walk")
@click.option("--rate", help="Frames a second instead of the walk's own.")
@click.option("--frames", help="Only these film frames: FIRST-LAST, counted from 0.")
def sample_(project: Path, walk: str, rate: str | None, frames: str | None) -> None:
    """The camera of every film frame as CSV."""
    before = read_project(project)
    chosen = before.walk_named(walk)
    wanted = parse_rate(rate or chosen.rate)
    rows = sample(resolve(chosen, standable(opened_models(before, project).model)), wanted)
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
                *(f"{v:.6f}" for v in (rows.focal_mm[index], rows.rise_mm[index], rows.cross_mm[index])),
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


@walk_group.command("set")
@click.argument("project", type=ProjectPath)
@click.argument("walk")
@click.option("--name", help="A new name.")
@click.option("--seconds", type=float, help="How long it lasts; the pace follows.")
@click.option("--pace", type=float, help="Metres a second between eases and pauses; the seconds follow.")
@click.option("--frames", type=int, help="How many film frames at its rate; the seconds follow.")
@click.option("--rate", help="Film frames a second; the seconds stay.")
@click.option("--size", help="Film size, such as 1280x720.")
@click.option("--ease-in", "ease_in_s", type=float, help="Seconds of setting off.")
@click.option("--ease-out", "ease_out_s", type=float, help="Seconds of coming to rest.")
@click.option(
    "--dwell-ease",
    "dwell_ease_s",
    type=float,
    help="Seconds of slowing down before a pause, and of setting off after it.",
)
@click.option("--looking", type=click.Choice([AHEAD, KEYED]), help="Along the route, or as keyed.")
@click.option(
    "--anticipation", "anticipation_m", type=float, help="Corners are looked round so many metres early."
)
@click.option("--eye-height", "eye_height_m", type=float, help="Metres above the floor.")
@click.option("--keep-plumb/--let-tilt", "kept_plumb", default=None, help="Verticals upright throughout.")
@click.option(
    "--dwell",
    "dwells",
    type=PlaceFields({"dwell_s": float}, "dwell_s"),
    multiple=True,
    help="PLACE:SECONDS, a pause; places count from 1.",
)
@click.option(
    "--at",
    "moments",
    type=PlaceFields({"at_s": second_or_pace}, "at_s"),
    multiple=True,
    help="PLACE:SECOND at which it is passed, or PLACE:free.",
)
@click.option(
    "--bend",
    "bends",
    type=PlaceFields({"bend": str}, "bend"),
    multiple=True,
    help=f"PLACE:{SMOOTH}, PLACE:{EVEN} or PLACE:{CORNER}.",
)
@click.option(
    "--look-at",
    "looks",
    multiple=True,
    help="FROM-TO:x,y,z looks at a point between two shares of the route (0 to 1), FROM-TO:x,y,z>x,y,z at one that moves.",
)
@click.option(
    "--look",
    "ways",
    multiple=True,
    help=f"FROM-TO:{AHEAD} or FROM-TO:{KEYED}: looks so between two shares of the route.",
)
@click.option("--no-looks", is_flag=True, help="Without the spans of looking that there are.")
@click.option(
    "--heights",
    type=click.Choice(["floor", "set"]),
    help="The eye over the floor under it, or as each place has it.",
)
@click.option(
    "--key",
    "places",
    type=PlaceFields(KEY_READS),
    multiple=True,
    help=f"PLACE:FIELD=VALUE[,FIELD=VALUE]: the camera at a place. Fields: {', '.join(KEY_FIELDS)}; off for none.",
)
@click.option("--reverse", is_flag=True, help="Walk it the other way.")
@JSON
def set_(project: Path, walk: str, as_json: bool, **values: Any) -> None:
    """Change a walk; what is not named stays."""
    before = read_project(project)
    walk_before = before.walk_named(walk)
    fields = (
        "name",
        "seconds",
        "rate",
        "ease_in_s",
        "ease_out_s",
        "dwell_ease_s",
        "looking",
        "anticipation_m",
        "eye_height_m",
        "kept_plumb",
    )
    given = without_none(**{name: values[name] for name in fields})
    if values["heights"]:
        given["follow_floor"] = values["heights"] == "floor"
    if values["no_looks"]:
        given["looks"] = ()
    if values["size"]:
        given["width_px"], given["height_px"] = parse_size(values["size"])

    def edit(current: Project) -> Project:
        item = with_keys(replace(current.walk(walk_before.id) or walk_before, **given), values)
        if values["frames"] is not None:
            item = replace(item, seconds=float(values["frames"] / parse_rate(item.rate)))
        if values["pace"] is not None:
            length = resolve(item, standable(opened_models(before, project).model)).route.length_m
            item = replace(item, seconds=seconds_for_pace(item, length, values["pace"]))
        if values["reverse"]:
            item = reversed_walk(item)
        # A walk that cannot be timed is refused here, not at midnight.
        return timed(
            set_walk(
                current,
                walk_before.id,
                **{name: getattr(item, name) for name in Walk.__slots__ if name != "id"},
            ),
            walk_before.id,
        )

    walk_after = edited(project, edit).walk(walk_before.id)
    assert walk_after is not None
    length = f"{len(walk_after.keys)} places, {walk_after.seconds:g} s at {walk_after.rate} a second"
    say(as_json, msgspec.to_builtins(walk_after), [f"{walk_after.name}: {length}"])
