"""``altana camera`` bound, candidates, wall-cut, back: what is cut away for a camera, and going back through
a wall."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any

import click
import msgspec

from altana.cli.camera import camera_group, line_of
from altana.cli.shared import JSON, ProjectPath, edited, numbers, opened_models, say, vec3
from altana.core.back_through import WHOLE, back_through_wall
from altana.core.camera.wall_cut import WallCut
from altana.core.checks.cut_faces import bodies_of
from altana.core.edits.bounds import (
    add_wall_cut,
    change_wall_cut,
    far_fixed,
    near_fixed,
    remove_wall_cut,
    turn_wall_cut_over,
    with_far,
    with_near,
)
from altana.core.edits.cameras import change_camera, checked
from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.past import Candidate, candidates, just_clear
from altana.core.project import Camera
from altana.core.walls import pick_wall
from altana.storage.project_file import read_project


def _change(project: Path, name: str, as_json: bool, edit: Any, lines: list[str] | None = None) -> None:
    camera_before = read_project(project).camera_named(name)
    camera_after = edited(
        project, lambda current: change_camera(current, camera_before.id, lambda c: checked(edit(c)))
    ).camera(camera_before.id)
    assert camera_after is not None
    say(
        as_json,
        msgspec.to_builtins(camera_after),
        [*(lines or []), line_of(camera_after), *bound_lines(camera_after)],
    )


def bound_lines(camera: Camera) -> list[str]:
    lines = []
    for name, distance, place in (
        ("nearer than", camera.near, camera.near_at),
        ("beyond", camera.far, camera.far_at),
    ):
        if distance is not None:
            lines.append(
                f"  hides {name} {distance:.3f} m{', fixed in the building' if place is not None else ''}"
            )
    for number, cut in enumerate(camera.wall_cuts, 1):
        lines.append(
            f"  wall cut {number}: {cut.name or 'by hand'}, {cut.left_m + cut.right_m:.2f} × {cut.down_m + cut.up_m:.2f} m{'' if cut.on else ', off'}"
        )
    return lines


@camera_group.command("bound")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@click.option("--near", help="Hide nearer than this many metres, or “off”.")
@click.option("--far", help="Hide beyond this many metres, or “off”.")
@click.option(
    "--near-fixed/--near-at-distance",
    "near_stays",
    default=None,
    help="The near bound stays in the building, or goes with the eye.",
)
@click.option(
    "--far-fixed/--far-at-distance",
    "far_stays",
    default=None,
    help="The far bound stays in the building, or goes with the eye.",
)
@click.option("--cap/--no-cap", default=None, help="Fill cut faces with poché.")
@click.option(
    "--far-dark/--far-lit",
    "far_dark",
    default=None,
    help="What lies wholly beyond throws no sun shadow either.",
)
@click.option(
    "--just-clear", is_flag=True, help="Move the near bound as little as needed so that it opens nothing."
)
@click.option("--past", type=int, help="Put the near bound past this candidate (see camera candidates).")
@click.option(
    "--by-wall-cut", is_flag=True, help="With --past: a wall cut along it instead, where it stands obliquely."
)
@JSON
def bound(project: Path, camera: str, as_json: bool, **values: Any) -> None:
    """Near and far bound: distance, off, fixed in the building, capped, or just clear of everything."""
    read = read_project(project)
    camera_before = read.camera_named(camera)
    model = opened_models(read, project).model if values["just_clear"] or values["past"] is not None else None

    def edit(item: Camera) -> Camera:
        for name, change in (("near", with_near), ("far", with_far)):
            if values[name] is not None:
                item = change(item, None if values[name].lower() == "off" else _metres(values[name]))
        if values["near_stays"] is not None:
            item = near_fixed(item, values["near_stays"])
        if values["far_stays"] is not None:
            item = far_fixed(item, values["far_stays"])
        item = replace(item, cap=item.cap if values["cap"] is None else values["cap"])
        item = replace(item, far_dark=item.far_dark if values["far_dark"] is None else values["far_dark"])
        if model is not None and values["past"] is not None:
            listed = candidates(model, RayScene.of(model), bodies_of(model), item)
            if not 1 <= values["past"] <= len(listed):
                raise Refused(
                    f"There are {len(listed)} things on the line of sight; altana camera candidates lists them."
                )
            item = _put_past(item, listed[values["past"] - 1], values["by_wall_cut"])
        return (
            just_clear(model, RayScene.of(model), bodies_of(model), item)
            if model is not None and values["just_clear"]
            else item
        )

    _change(project, camera_before.id, as_json, edit)


def _put_past(camera: Camera, thing: Candidate, by_wall_cut: bool) -> Camera:
    if not by_wall_cut:
        return with_near(camera, thing.near_m)
    if thing.cut is None:
        raise Refused(f"“{thing.name}” is no wall that stands obliquely; a near bound sees past it.")
    return add_wall_cut(with_near(camera, None), thing.cut)


def _metres(text: str) -> float:
    try:
        return float(text)
    except ValueError as error:
        raise Refused(f"“{text}” is neither a distance in metres nor “off”.") from error


def _opens(opened: tuple[tuple[str, str], ...]) -> str:
    return ", ".join(name for _, name in opened) or "nothing"


@camera_group.command("candidates")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@JSON
def candidates_(project: Path, camera: str, as_json: bool) -> None:
    """Near bounds just past each thing on the line of sight, with what each opens."""
    read = read_project(project)
    camera_before = read.camera_named(camera)
    model = opened_models(read, project).model
    listed = candidates(model, RayScene.of(model), bodies_of(model), camera_before)
    lines = []
    for number, item in enumerate(listed, 1):
        lines.append(f"{number}: past {item.name} at {item.near_m:.3f} m, opens {_opens(item.opened)}")
        if item.cut is not None:
            better = "better " if item.by_cut else ""
            lines.append(
                f"   {better}by a wall cut along it (--by-wall-cut), opens {_opens(item.cut_opened)}"
            )
    say(as_json, msgspec.to_builtins(listed), lines or ["Nothing stands on the line of sight."])


@camera_group.command("wall-cut")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@click.option(
    "--at", callback=numbers(3), help="Pick the wall nearest to x,y,z on the line from the eye through it."
)
@click.option(
    "--place",
    callback=numbers(3),
    help="By hand instead: a point on the face, x,y,z; with --heading, --width, --height.",
)
@click.option("--heading", type=float, help="With --place: the direction into the room that is kept.")
@click.option(
    "--width",
    type=float,
    default=4.0,
    show_default=True,
    help="With --place: metres along the wall, about the place.",
)
@click.option(
    "--height", type=float, default=3.0, show_default=True, help="With --place: metres up from the place."
)
@click.option("--cut", "index", type=int, help="Change the cut of this number instead.")
@click.option("--offset", type=float, help="Move it so far into the room, metres.")
@click.option(
    "--depth", type=float, help="It takes away what stands up to so far before it, metres; 0 for everything."
)
@click.option("--on/--off", "on", default=None, help="Switch it.")
@click.option("--turn-over", is_flag=True, help="Keep its other side.")
@click.option("--remove", is_flag=True, help="Take it away.")
@JSON
def wall_cut_(project: Path, camera: str, as_json: bool, **values: Any) -> None:
    """Cut along a wall's inner face: picked, given by hand, or change one that is there."""
    read = read_project(project)
    camera_before = read.camera_named(camera)
    given = [values["at"] is not None, values["place"] is not None, values["index"] is not None]
    if sum(given) != 1:
        raise click.UsageError("Give one of --at x,y,z, --place x,y,z or --cut NUMBER.")
    model = opened_models(read, project).model if values["at"] is not None else None

    def edit(item: Camera) -> Camera:
        if model is not None:
            cut = pick_wall(model, RayScene.of(model), item.eye, vec3(values["at"]))
        elif values["place"] is not None:
            half = values["width"] / 2
            cut = WallCut(
                vec3(values["place"]), (values["heading"] or 0.0) % 360.0, half, half, 0.0, values["height"]
            )
        else:
            return _cut_changed(item, values["index"] - 1, values)
        cut_camera = add_wall_cut(item, cut)
        return _cut_changed(cut_camera, len(cut_camera.wall_cuts) - 1, values)

    _change(project, camera_before.id, as_json, edit)


def _cut_changed(item: Camera, index: int, values: dict[str, Any]) -> Camera:
    changed: dict[str, Any] = {}
    if values["offset"] is not None:
        changed["offset_m"] = values["offset"]
    if values["depth"] is not None:
        changed["depth_m"] = values["depth"] or WallCut((0.0, 0.0, 0.0), 0.0).depth_m
    if values["on"] is not None:
        changed["on"] = values["on"]
    item = change_wall_cut(item, index, **changed)
    if values["turn_over"]:
        item = turn_wall_cut_over(item, index)
    return remove_wall_cut(item, index) if values["remove"] else item


@camera_group.command("back")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@click.option("--width", type=float, help="Wanted width of the far wall in metres; all of it when left out.")
@click.option(
    "--whole",
    type=click.Choice(WHOLE),
    default=WHOLE[0],
    show_default=True,
    help="Without --width: all of the far wall, or only from end to end (width), or from floor to ceiling (height).",
)
@JSON
def back(project: Path, camera: str, width: float | None, whole: str, as_json: bool) -> None:
    """Back through the wall behind until the far wall fits; the bound lands on the wall's inner face."""
    read = read_project(project)
    camera_before = read.camera_named(camera)
    model = opened_models(read, project).model
    step_back = back_through_wall(model, RayScene.of(model), camera_before, width, whole=whole)
    after = edited(
        project, lambda current: change_camera(current, camera_before.id, lambda _: checked(step_back.camera))
    ).camera(camera_before.id)
    facts = {
        "camera": msgspec.to_builtins(after),
        "back_m": step_back.back_m,
        "outside_m": step_back.outside_m,
        "out_of_picture": list(step_back.out),
        "sentence": step_back.sentence,
    }
    say(as_json, facts, [step_back.sentence, line_of(step_back.camera), *bound_lines(step_back.camera)])
