"""``altana camera``: stand, change, straighten, list and check cameras; project points through them."""

from __future__ import annotations

import csv
import io
import math
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
from altana.core.camera.pose import direction_to
from altana.core.conventions import STANDING_M
from altana.core.edits.bounds import with_far, with_near
from altana.core.edits.cameras import add_camera, change_camera, checked, plumb_cameras, remove_camera
from altana.core.edits.shots import without_subjects
from altana.core.errors import Refused, UserError
from altana.core.geometry.rays import RayScene
from altana.core.lens import hold_subject
from altana.core.light.clock import parse_hour
from altana.core.light.exposure import exposure_for
from altana.core.model import Model
from altana.core.project import SKIES, Camera, OwnLight, Project
from altana.core.rooms_stood import stand_in_room
from altana.core.staging import Lookup
from altana.core.standing import named_for_place, stand, standable
from altana.jobs.light import light_of
from altana.jobs.looking import exposure_of
from altana.jobs.requests import parse_size
from altana.render.renderer import Renderer
from altana.storage.project_file import read_project

LARGEST_POINTS_BYTES = 500_000_000


@click.group("camera")
def camera_group() -> None:
    """Stand, change, straighten and check cameras."""


#: What can be said of a camera.
CAMERA_OPTIONS = (
    click.option("--eye", callback=numbers(3), help="Place of the eye: x,y,z in metres."),
    click.option(
        "--stand", "place", callback=numbers(2), help="Stand at x,y on the floor that is really there."
    ),
    click.option(
        "--eye-height", type=float, help=f"Eye above the floor with --stand, metres ({STANDING_M:g})."
    ),
    click.option("--storey", help="Storey on which --stand looks for the floor."),
    click.option("--aim", callback=numbers(3), help="The point looked at: x,y,z in metres."),
    click.option("--heading", type=float, help="Degrees clockwise from +Y."),
    click.option("--tilt", type=float, help="Degrees, up positive."),
    click.option("--roll", type=float, help="Degrees, clockwise seen from behind."),
    click.option("--focal", type=float, help="Focal length in mm."),
    click.option("--sensor-width", type=float, help="Sensor width in mm."),
    click.option("--size", help="Picture size, such as 1920x1080."),
    click.option("--rise", help="Lens shift upwards in mm, or in % of the frame's height, such as 40%."),
    click.option("--cross", help="Lens shift to the right in mm, or in % of the frame's width."),
    click.option("--near", help="Hide nearer than this many metres, or “off”."),
    click.option("--far", help="Hide beyond this many metres, or “off”."),
    click.option(
        "--hold-subject", is_flag=True, help="With --focal: walk as well, so that the subject keeps its size."
    ),
    click.option("--intent", help="What the picture is to show, one line."),
    click.option("--note", help="A longer note."),
    click.option("--group", help="The group it is listed under."),
    click.option("--lock/--unlock", "locked", default=None, help="Keep it from being changed in the window."),
    click.option(
        "--in-shot-list/--out-of-shot-list",
        "in_shot_list",
        default=None,
        help="Deliver it with the shot list.",
    ),
    click.option(
        "--keep-plumb/--let-tilt",
        "kept_plumb",
        default=None,
        help="Turned up or down it stays true: turning becomes rise.",
    ),
    click.option(
        "--guides",
        help="Guides over the Frame, with commas between: thirds, centre, diagonals, golden, horizon, title margin.",
    ),
    click.option("--ev", type=float, help="Exposure; lower is brighter."),
    click.option("--date", "day", help="A date of its own, such as 2026-12-21, or `project`."),
    click.option("--time", "clock", help="Clock time of its own, such as 17:30, or `project`."),
    click.option("--sky", type=click.Choice([*SKIES, "project"]), help="A sky of its own, or the project's."),
    click.option(
        "--lamps", type=click.Choice(["on", "off", "project"]), help="Lamps on or off for this camera."
    ),
    click.option("--f-number", type=float, help="f-number of the lens, for depth of field."),
    click.option("--focus", help="Distance in focus, metres, or `subject`."),
    click.option("--blur/--no-blur", default=None, help="Depth of field on or off."),
    JSON,
)


def _camera_options(command: Any) -> Any:
    for option in reversed(CAMERA_OPTIONS):
        command = option(command)
    return command


def _bound(text: str | None) -> tuple[bool, float | None]:
    if text is None:
        return False, None
    if text.lower() == "off":
        return True, None
    try:
        return True, float(text)
    except ValueError as error:
        raise click.BadParameter(f"“{text}” is neither a distance in metres nor “off”") from error


def _shift(text: str | None, side_mm: float) -> float | None:
    """A lens shift in mm, or as a share of the sensor's side with a per cent sign."""
    if text is None:
        return None
    try:
        return (
            float(text.rstrip().removesuffix("%")) / 100.0 * side_mm
            if text.rstrip().endswith("%")
            else float(text)
        )
    except ValueError as error:
        raise click.BadParameter(f"“{text}” is neither millimetres nor a percentage") from error


def own_light(now: OwnLight, values: dict[str, Any]) -> OwnLight:
    """What a camera or a row has of the light from its options; ``project`` follows the project again."""
    day, clock, sky, lamps = (values[name] for name in ("day", "clock", "sky", "lamps"))
    if day is not None:
        now = replace(now, date="" if day == "project" else day)
    if clock is not None:
        now = replace(now, hour=None if clock == "project" else parse_hour(clock))
    if sky is not None:
        now = replace(now, sky="" if sky == "project" else sky)
    if lamps is not None:
        now = replace(now, lamps={"on": True, "off": False}.get(lamps))
    return now


def _own_light(camera: Camera, values: dict[str, Any]) -> dict[str, Any]:
    """Light and depth of field from their options."""
    given = without_none(f_number=values["f_number"], blur=values["blur"])
    if values["focus"] is not None:
        try:
            given["focus_m"] = None if values["focus"] == "subject" else float(values["focus"])
        except ValueError as error:
            raise click.BadParameter(f"“{values['focus']}” is neither metres nor “subject”") from error
    return given | {"light": own_light(camera.light, values)}


def _changed(camera: Camera, values: dict[str, Any]) -> Camera:
    given = without_none(
        heading_deg=values["heading"],
        tilt_deg=values["tilt"],
        roll_deg=values["roll"],
        focal_mm=values["focal"],
        sensor_width_mm=values["sensor_width"],
        ev=values["ev"],
        intent=values["intent"],
        note=values["note"],
        group=values["group"],
        locked=values["locked"],
        in_shot_list=values["in_shot_list"],
        kept_plumb=values["kept_plumb"],
        guides=None
        if values["guides"] is None
        else tuple(part.strip() for part in values["guides"].split(",") if part.strip()),
    )
    given |= _own_light(camera, values)
    if values["hold_subject"] and "focal_mm" in given:
        camera = hold_subject(camera, given.pop("focal_mm"))
    if "heading_deg" in given:
        given["heading_deg"] %= 360.0
    if values["size"]:
        given["width_px"], given["height_px"] = parse_size(values["size"])
        given["format_name"] = "Own size"
    if values["eye"] is not None:
        given["eye"] = vec3(values["eye"])
    camera = replace(camera, **given)
    width, height = camera.view().sensor_mm
    camera = replace(
        camera,
        **without_none(rise_mm=_shift(values["rise"], height), cross_mm=_shift(values["cross"], width)),
    )
    for name, change in (("near", with_near), ("far", with_far)):
        bound, distance = _bound(values[name])
        if bound:
            camera = change(camera, distance)
    if values["aim"] is not None:
        heading, tilt, distance = direction_to(camera.eye, vec3(values["aim"]))
        camera = replace(camera, heading_deg=heading, tilt_deg=tilt, aim_m=distance)
    return checked(camera)


def _stood(project: Project, path: Path, camera: Camera | None, values: dict[str, Any]) -> Camera:
    """The camera stood on the floor at ``--stand``; a new one gets the place's lens, exposure and name."""
    model = opened_models(project, path).model
    storey = storey_named(model, values["storey"])
    x, y = values["place"]
    heading = math.radians(values["heading"] or 0.0)
    aim = (
        values["aim"][:2]
        if values["aim"] is not None
        else (x + 5 * math.sin(heading), y + 5 * math.cos(heading))
    )
    height = STANDING_M if values["eye_height"] is None else values["eye_height"]
    standpoint = stand(model, standable(model), (x, y), aim, storey.elevation_m, height)
    if camera is None:
        return standpoint
    kept = (
        camera
        if values["aim"] is None and values["heading"] is None
        else replace(camera, heading_deg=standpoint.heading_deg)
    )
    return replace(kept, eye=standpoint.eye, inside=standpoint.inside)


def _in_room(model: Model, name: str, eye_height_m: float | None) -> Camera:
    """A camera in a room by its name or id.  Raises Refused."""
    matches = [room for room in model.rooms if name in (room.id, room.name)]
    if len(matches) != 1:
        rooms = ", ".join(dict.fromkeys(room.name for room in model.rooms)) or "none"
        many = "no room" if not matches else f"{len(matches)} rooms"
        raise Refused(f"There is {many} called “{name}”. Rooms: {rooms}.")
    height = STANDING_M if eye_height_m is None else eye_height_m
    return stand_in_room(model, RayScene.of(model), standable(model), matches[0], height)


@camera_group.command("add")
@click.argument("project", type=ProjectPath)
@click.option("--name", help="Name; suggested from room and direction when left out.")
@click.option("--room", help="Stand in this room, by its name or id, in the corner that shows most of it.")
@_camera_options
def add(project: Path, name: str | None, room: str | None, as_json: bool, **values: Any) -> None:
    """Add a camera, by its eye, by the place it stands on or by its room."""
    if [values["eye"], values["place"], room].count(None) != 2:
        raise click.UsageError("Give one of --eye x,y,z, --stand x,y or --room NAME.")
    before = read_project(project)
    if room is not None:
        camera = _in_room(opened_models(before, project).model, room, values["eye_height"])
    else:
        camera = Camera("", "Camera") if values["place"] is None else _stood(before, project, None, values)
    if values["place"] is not None and values["aim"] is not None:
        values["aim"] = None if values["tilt"] is None and values["aim"][2] == 0.0 else values["aim"]
    camera = _changed(camera, values)
    if values["eye"] is not None and before.models:
        camera = _placed(before, project, camera, values)
    stood = replace(camera, name=name or camera.name)
    ids: list[str] = []

    def edit(current: Project) -> Project:
        # Into the project as it is by now: the model may have taken a while to open.
        after, camera_id = add_camera(current, stood)
        ids.append(camera_id)
        return after

    new_camera = edited(project, edit).camera(ids[-1])
    assert new_camera is not None
    say(as_json, msgspec.to_builtins(new_camera), [line_of(new_camera)])


def _placed(project: Project, path: Path, camera: Camera, values: dict[str, Any]) -> Camera:
    model = opened_models(project, path).model
    inside = RayScene.of(model).roofed(camera.eye)
    ev = camera.ev if values["ev"] is not None or not inside else 10.0
    return named_for_place(replace(camera, inside=inside, ev=ev), model)


@camera_group.command("set")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@click.option("--name", help="A new name.")
@_camera_options
def set_(project: Path, camera: str, name: str | None, as_json: bool, **values: Any) -> None:
    """Change a camera; what is not named stays."""
    before = read_project(project)
    camera_before = before.camera_named(camera)

    def edit(current: Project) -> Project:
        camera_now = current.camera(camera_before.id) or camera_before
        source = camera_now if values["place"] is None else _stood(current, project, camera_now, values)
        camera_after = _changed(source, values)
        return change_camera(
            current, camera_before.id, lambda _: replace(camera_after, name=name or camera_after.name)
        )

    camera_after = edited(project, edit).camera(camera_before.id)
    assert camera_after is not None
    say(as_json, msgspec.to_builtins(camera_after), [line_of(camera_after)])


@camera_group.command("remove")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
def remove(project: Path, camera: str) -> None:
    """Remove a camera."""
    camera_before = read_project(project).camera_named(camera)
    edited(project, lambda current: without_subjects(remove_camera(current, camera_before.id)))
    click.echo(f"Removed {camera_before.name}.")


@camera_group.command("list")
@click.argument("project", type=ProjectPath)
@JSON
def list_(project: Path, as_json: bool) -> None:
    """List the cameras."""
    cameras = read_project(project).cameras
    say(as_json, msgspec.to_builtins(cameras), [line_of(item) for item in cameras] or ["No cameras yet."])


@camera_group.command("plumb")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@click.option(
    "--amount", type=float, default=1.0, show_default=True, help="Share of the tilt taken out, 0 to 1."
)
@click.option("--keep-size", is_flag=True, help="Keep the subject's size at the frame's centre.")
@JSON
def plumb(project: Path, camera: str, amount: float, keep_size: bool, as_json: bool) -> None:
    """Straighten the verticals of a camera."""
    camera_before = read_project(project).camera_named(camera)
    camera_after = edited(
        project, lambda current: plumb_cameras(current, [camera_before.id], amount, keep_size)
    ).camera(camera_before.id)
    assert camera_after is not None
    say(as_json, msgspec.to_builtins(camera_after), [line_of(camera_after)])


@camera_group.command("expose")
@click.argument("project", type=ProjectPath)
@click.argument("cameras", nargs=-1)
@click.option("--only-say", is_flag=True, help="Change nothing.")
@JSON
def expose(project: Path, cameras: tuple[str, ...], only_say: bool, as_json: bool) -> None:
    """Take the exposure of cameras (all where none is named) from their pictures: their middle comes out as
    middle grey."""
    read = read_project(project)
    wanted = [read.camera_named(name) for name in cameras] or list(read.cameras)
    opened = opened_models(read, project)
    renderer, lookup = (
        Renderer(opened.model, light_of(opened, read.light, None, project.parent)),
        Lookup(opened.model),
    )
    exposures = {
        camera.id: exposure_of(renderer, camera, lookup.staging(read, camera), read.light, project.parent)
        for camera in wanted
    }
    renderer.close()

    def edit(current: Project) -> Project:
        for name, ev in exposures.items():
            current = change_camera(current, name, lambda c, ev=ev: replace(c, ev=ev))  # type: ignore[misc]
        return current

    if not only_say:
        edited(project, edit)
    facts = [
        {
            "camera": camera.name,
            "before": camera.ev,
            "ev": exposures[camera.id],
            "as": exposure_for(exposures[camera.id]).words,
        }
        for camera in wanted
    ]
    say(
        as_json,
        facts,
        [f"{item['camera']}: EV {item['ev']}, {item['as']} (before EV {item['before']:g})" for item in facts],
    )


@camera_group.command("project")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@click.option(
    "--points", required=True, type=click.Path(dir_okay=False, path_type=Path), help="CSV of world x,y,z."
)
@click.option("--size", help="Picture size instead of the camera's own.")
def project_points(project: Path, camera: str, points: Path, size: str | None) -> None:
    """World points to pixels: x,y,z rows in, px,py,depth rows out."""
    chosen = read_project(project).camera_named(camera)
    view = chosen.view(*parse_size(size)) if size else chosen.view()
    out = csv.writer(sys.stdout, lineterminator="\n")
    out.writerow(["px", "py", "depth"])
    for px, py, depth in view.project(_read_points(points)).tolist():
        out.writerow([f"{px:.6f}", f"{py:.6f}", f"{depth:.6f}"])


def _read_points(path: Path) -> np.ndarray:
    try:
        if path.stat().st_size > LARGEST_POINTS_BYTES:
            raise UserError(f"{path.name} is too large for a list of points.")
        text = path.read_text("utf-8-sig")
    except (OSError, UnicodeError) as error:
        raise UserError(f"{path} cannot be read as text. Write one x,y,z a line.") from error
    rows = []
    for number, row in enumerate(csv.reader(io.StringIO(text)), 1):
        if not row or not "".join(row).strip():
            continue
        try:
            x, y, z = (float(cell) for cell in row[:3])
        except ValueError as error:
            if number == 1:
                continue
            raise UserError(f"{path.name}, line {number}: “{','.join(row)}” is not x,y,z.") from error
        rows.append((x, y, z))
    return np.array(rows, float).reshape(-1, 3)


def line_of(camera: Camera) -> str:
    """A camera on one line, for people."""
    x, y, z = camera.eye
    return (
        f"{camera.name}: eye {x:.3f}, {y:.3f}, {z:.3f} m; heading {camera.heading_deg:.2f}°, tilt {camera.tilt_deg:.2f}°, "
        f"roll {camera.roll_deg:.2f}°; {camera.focal_mm:.4g} mm, rise {camera.rise_mm:.3f} mm; {camera.width_px} × {camera.height_px} px"
    )
