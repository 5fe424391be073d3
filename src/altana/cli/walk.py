"""``altana walk``: make walks, list them, and say where the camera is in every film frame."""

from __future__ import annotations

import csv
import sys
from dataclasses import replace
from pathlib import Path
from typing import Any

import click
import msgspec
import numpy as np

from altana.cli.shared import (
    JSON,
    ProjectPath,
    edited,
    numbers,
    opened_models,
    say,
    storey_named,
    vec3,
    without_none,
)
from altana.cli.values import PlaceFields, Read, or_off
from altana.core.conventions import STANDING_M, parse_rate
from altana.core.edits.shots import without_subjects
from altana.core.edits.walks import (
    add_walk,
    key_from_camera,
    remove_walk,
    reversed_walk,
    set_walk,
    timed,
    turntable_round,
    turntable_stills,
)
from altana.core.errors import Refused, UserError
from altana.core.geometry.rays import RayScene
from altana.core.model import Model
from altana.core.project import (
    AHEAD,
    CORNER,
    EVEN,
    KEYED,
    POINT,
    SMOOTH,
    Look,
    Project,
    Turntable,
    Walk,
    WalkKey,
)
from altana.core.staging import object_points
from altana.core.standing import ground_at, standable
from altana.core.walk.checks import Flag, check_walk
from altana.core.walk.mends import WORDS as MEND_WORDS
from altana.core.walk.mends import mended, mends_for
from altana.core.walk.sample import WalkLine, resolve, sample
from altana.core.walk.timing import seconds_for_pace
from altana.jobs.looking import check_film
from altana.jobs.requests import parse_size
from altana.storage.project_file import read_project

#: What of a place is set by ``--key``, by the name it has there.
KEY_FIELDS = {
    "focal": "focal_mm",
    "ev": "ev",
    "rise": "rise_mm",
    "cross": "cross_mm",
    "near": "near_m",
    "far": "far_m",
    "hour": "hour",
    "heading": "heading_deg",
    "tilt": "tilt_deg",
    "handle": "handle",
    "long-way": "long_way",
}


def _handle(text: str) -> tuple[float, float]:
    east, north = (float(part) for part in text.split("/"))
    return (east, north)


def _yes(text: str) -> bool:
    if text not in ("yes", "no"):
        raise ValueError(text)
    return text == "yes"


def _moment(text: str) -> float | None:
    return None if text == "free" else float(text)


KEY_READS: dict[str, Read] = {
    **dict.fromkeys(("focal", "ev", "rise", "cross", "heading", "tilt"), float),
    **dict.fromkeys(("near", "far", "hour"), or_off(float)),
    "handle": or_off(_handle),
    "long-way": _yes,
}


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
@click.option(
    "--eye-height", type=float, default=STANDING_M, show_default=True, help="Metres above the floor."
)
@click.option("--seconds", type=float, default=20.0, show_default=True)
@click.option("--rate", default="25", show_default=True, help="Frames a second: 25 or 24000/1001.")
@click.option("--looking", type=click.Choice([AHEAD, KEYED]), help="Along the route, or as the cameras look.")
@JSON
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
        keys = tuple(key_from_camera(before.camera_named(part.strip())) for part in cameras.split(","))
    else:
        keys = _keys_on_plan(before, project, through, storey, eye_height)
    walk = Walk("", name, keys, seconds, rate, looking or (KEYED if cameras else AHEAD), True, eye_height)
    after = edited(project, lambda current: add_walk(current, walk)[0])
    made = after.walks[-1]
    say(
        as_json,
        msgspec.to_builtins(made),
        [f"{made.name}: {len(made.keys)} places, {made.seconds:g} s at {made.rate} a second"],
    )


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
    found = read_project(project).walk_named(walk)
    edited(project, lambda current: without_subjects(remove_walk(current, found.id)))
    click.echo(f"Removed {found.name}.")


@walk_group.command("sample")
@click.argument("project", type=ProjectPath)
@click.argument("walk")
@click.option("--rate", help="Frames a second instead of the walk's own.")
@click.option("--frames", help="Only these film frames: FIRST-LAST, counted from 0.")
def sample_(project: Path, walk: str, rate: str | None, frames: str | None) -> None:
    """The camera of every film frame as CSV."""
    before = read_project(project)
    found = before.walk_named(walk)
    wanted = parse_rate(rate or found.rate)
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
    type=PlaceFields({"at_s": _moment}, "at_s"),
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
    found = before.walk_named(walk)
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
        item = _with_keys(replace(current.walk(found.id) or found, **given), values)
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
                current, found.id, **{name: getattr(item, name) for name in Walk.__slots__ if name != "id"}
            ),
            found.id,
        )

    made = edited(project, edit).walk(found.id)
    assert made is not None
    say(
        as_json,
        msgspec.to_builtins(made),
        [f"{made.name}: {len(made.keys)} places, {made.seconds:g} s at {made.rate} a second"],
    )


def _with_keys(walk: Walk, values: dict[str, Any]) -> Walk:
    keys = list(walk.keys)
    for told in (*values["dwells"], *values["moments"], *values["bends"], *values["places"]):
        if told.index >= len(keys):
            raise Refused(f"There is no place {told.index + 1}: the walk has {len(keys)}.")
        own = {KEY_FIELDS.get(name, name): value for name, value in told.fields.items()}
        keys[told.index] = replace(keys[told.index], **own)
    looks = [
        *walk.looks,
        *(_look(text) for text in values["looks"]),
        *(_way(text) for text in values["ways"]),
    ]
    return replace(walk, keys=tuple(keys), looks=tuple(looks))


def _span(text: str) -> tuple[float, float, str]:
    span, _, what = text.partition(":")
    start, _, end = span.partition("-")
    return float(start), float(end), what


def _look(text: str) -> Look:
    try:
        start, end, what = _span(text)
        first, moves, last = what.partition(">")
        x, y, z = (float(part) for part in first.split(","))
        to = vec3(tuple(float(part) for part in last.split(","))) if moves else None
        return Look(start, end, POINT, (x, y, z), to)
    except ValueError as error:
        raise Refused(f"“{text}” is not FROM-TO:x,y,z, such as 0.2-0.5:3,4,1.6.") from error


def _way(text: str) -> Look:
    try:
        start, end, what = _span(text)
        if what not in (AHEAD, KEYED):
            raise ValueError(what)
        return Look(start, end, what)
    except ValueError as error:
        raise Refused(
            f"“{text}” is not FROM-TO:{AHEAD} or FROM-TO:{KEYED}, such as 0.2-0.5:{AHEAD}."
        ) from error


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
        number = next(
            (n for n, item in enumerate(model.objects) if values["object_name"] in (item.name, item.id)), None
        )
        if number is None:
            raise UserError(f"There is no object “{values['object_name']}” in the model.")
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

    made = edited(project, edit).walks[-1]
    say(
        as_json,
        msgspec.to_builtins(made),
        [f"{made.name}: radius {table.radius_m:.2f} m, {values['frames']} film frames at {made.rate}"],
    )


@walk_group.command("check")
@click.argument("project", type=ProjectPath)
@click.argument("walk")
@JSON
def check(project: Path, walk: str, as_json: bool) -> None:
    """Length, pace and frames of a walk, and everything on it that a client would notice, with its time and place."""
    before = read_project(project)
    found = before.walk_named(walk)
    model = opened_models(before, project).model
    line, flags = _flagged(before, found, model, RayScene.of(model))
    rows = sample(line)
    turn = float(np.abs(np.diff(rows.heading_deg)).max() * float(rows.rate)) if len(rows) > 1 else 0.0
    climb = float(np.abs(np.diff(rows.eye[:, 2])).max() * float(rows.rate)) if len(rows) > 1 else 0.0
    facts = {
        "name": found.name,
        "kind": "turntable" if found.turntable is not None else "walkthrough",
        "seconds": found.seconds,
        "rate": found.rate,
        "frames": len(rows),
        "length_m": line.route.length_m,
        "pace_m_s": line.pace_m_s,
        "fastest_turn_deg_s": turn,
        "fastest_climb_m_s": climb,
        "key_seconds": line.timing.key_s.tolist(),
        "dwells": line.timing.dwells.tolist(),
        "flags": [{**msgspec.to_builtins(item), "mends": mends_for(item, line)} for item in flags],
    }
    lines = [
        f"{found.name}: {line.route.length_m:.2f} m in {found.seconds:g} s, {line.pace_m_s:.2f} m/s, {len(rows)} film frames, turning at most {turn:.0f}°/s"
    ]
    say(as_json, facts, lines + [f"! {item.sentence}" for item in flags])


def _flagged(project: Project, walk: Walk, model: Model, rays: RayScene) -> tuple[WalkLine, tuple[Flag, ...]]:
    """A walk in its building, and all its flags in the order of time."""
    floors = standable(model)
    line = resolve(walk, floors)
    flags = (*check_walk(line, rays, floors, project.limits), *check_film(model, project, line, rays))
    return line, tuple(sorted(flags, key=lambda item: (item.begin_s, item.code)))


@walk_group.command("mend")
@click.argument("project", type=ProjectPath)
@click.argument("walk")
@click.argument("flag", type=int)
@click.argument("how", type=click.Choice(list(MEND_WORDS)), required=False)
@JSON
def mend(project: Path, walk: str, flag: int, how: str | None, as_json: bool) -> None:
    """Mend a flag of a walk, by its number in `walk check`; the likeliest way when none is named."""
    before = read_project(project)
    found = before.walk_named(walk)
    model = opened_models(before, project).model
    rays = RayScene.of(model)
    line, flags = _flagged(before, found, model, rays)
    if not 1 <= flag <= len(flags):
        raise UserError(f"{found.name} has {len(flags)} flags; there is no flag {flag}.")
    ways = mends_for(flags[flag - 1], line)
    if not ways:
        raise UserError(f"{flags[flag - 1].sentence} Nothing mends that by itself; change the route.")

    def edit(current: Project) -> Project:
        made = mended(line, flags[flag - 1], how or ways[0], rays)
        fields = {name: getattr(made, name) for name in ("keys", "seconds", "anticipation_m")}
        return timed(set_walk(current, found.id, **fields), found.id)

    after = edited(project, edit).walk(found.id)
    assert after is not None
    words = MEND_WORDS[how or ways[0]][0]
    say(
        as_json,
        msgspec.to_builtins(after),
        [f"{words}: {after.name} lasts {after.seconds:g} s, {len(after.keys)} places"],
    )
