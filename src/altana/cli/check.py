"""``altana camera check|bound|wall-cut|back|mend`` and ``altana check|coverage|gaps|patch``: bounds and checks from outside."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any

import click
import msgspec

from altana.cli.camera import camera_group, line_of
from altana.cli.shared import (
    BASE,
    JOB,
    JSON,
    ProjectPath,
    asked_to_stop,
    edited,
    numbers,
    opened_models,
    say,
    tell_progress,
    vec3,
)
from altana.core.back_through import WHOLE, back_through_wall
from altana.core.camera.bounds import place_of_sight
from altana.core.camera.wall_cut import WallCut
from altana.core.checks.camera_check import MENDS, CameraCheck, Trouble, troubles
from altana.core.checks.coverage import Tally, as_csv
from altana.core.checks.cut_faces import bodies_of
from altana.core.checks.perspective import main_axes, vanishing_points
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
from altana.core.errors import Refused, UserError
from altana.core.geometry.rays import RayScene
from altana.core.lens import stretch_grade
from altana.core.light.transport import Cancelled
from altana.core.mends import Ground, mend
from altana.core.model import Model
from altana.core.past import Candidate, candidates, just_clear
from altana.core.patching import LOOKS, add_patch, ground_to_horizon, remove_patch, turn_patch
from altana.core.project import Camera, Project
from altana.core.staging import Lookup
from altana.core.standing import Footing, stance, standable
from altana.core.walls import pick_wall
from altana.jobs.gaps import write_gap_list
from altana.jobs.looking import check_camera, check_cameras, coverage_views, tallied
from altana.jobs.run import Journal
from altana.render.renderer import Renderer
from altana.storage.files import make_folder, write_atomically
from altana.storage.project_file import read_project


def _change(project: Path, name: str, as_json: bool, edit: Any, lines: list[str] | None = None) -> None:
    found = read_project(project).camera_named(name)
    made = edited(
        project, lambda current: change_camera(current, found.id, lambda c: checked(edit(c)))
    ).camera(found.id)
    assert made is not None
    say(as_json, msgspec.to_builtins(made), [*(lines or []), line_of(made), *_bound_lines(made)])


def _bound_lines(camera: Camera) -> list[str]:
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


# ---------------------------------------------------------------------- one camera


def check_facts(
    camera: Camera,
    project: Project,
    model: Model,
    seen: CameraCheck,
    here: Footing,
    found: tuple[Trouble, ...],
) -> dict[str, Any]:
    """Every figure of a camera's check, for ``--json``."""
    view, composition = camera.view(), seen.composition
    across, high = view.angles_of_view()
    room = model.room_at(place_of_sight(camera))
    return {
        "name": camera.name,
        "size_px": [camera.width_px, camera.height_px],
        "angle_of_view_deg": [across, high],
        "edge_stretch": view.edge_stretch(),
        "stretch_grade": ("calm", "wide", "very wide")[stretch_grade(view, project.limits)],
        "lean_deg": view.lean_deg(),
        "perspective": msgspec.to_builtins(seen.perspective),
        "vanishing_points": msgspec.to_builtins(vanishing_points(view, main_axes(model))),
        "verticals": {
            "count": seen.verticals.count,
            "worst_px": seen.verticals.worst_px,
            "edges": [
                {"from_px": line[0], "to_px": line[1], "deviation_px": off}
                for line, off in zip(
                    seen.verticals.lines.tolist(), seen.verticals.deviation_px.tolist(), strict=True
                )
            ],
        },
        "floor_m": here.floor_m,
        "eye_above_floor_m": None if here.floor_m is None else camera.eye[2] - here.floor_m,
        "ceiling_m": here.ceiling_m,
        "room": room.name if room else None,
        "inside": camera.inside,
        "trouble": here.trouble or None,
        "depth_ratio": composition.depth_ratio,
        "shares": {name: getattr(composition, name) for name in ("floor", "ceiling", "sky", "ground")},
        "edges": msgspec.to_builtins(composition.edges),
        "near": {"distance_m": camera.near, "fixed": camera.near_at is not None},
        "far": {
            "distance_m": camera.far,
            "fixed": camera.far_at is not None,
            "light_too": camera.far_dark,
            **msgspec.to_builtins(seen.far),
        },
        "wall_cuts": msgspec.to_builtins(camera.wall_cuts),
        "capped": camera.cap,
        "cut_faces": seen.cut.share,
        "opened": [{"id": object_id, "name": name} for object_id, name in seen.cut.opened],
        "gaps": msgspec.to_builtins(replace(seen.gaps, mask=None)),
        "left_out": len(Lookup(model).staging(project, camera).omitted),
        "troubles": msgspec.to_builtins(found),
    }


def _check_lines(camera: Camera, facts: dict[str, Any], found: tuple[Trouble, ...]) -> list[str]:
    across, high = facts["angle_of_view_deg"]
    floor = facts["eye_above_floor_m"]
    uprights = facts["verticals"]
    lines = [
        f"{camera.name}: {camera.width_px} × {camera.height_px} px, view {across:.1f}° × {high:.1f}°",
        f"edge stretch ×{facts['edge_stretch']:.2f}, lean {facts['lean_deg']:.2f}°, {facts['perspective']['points']}-point ({facts['perspective']['words']})",
        f"{uprights['count']} vertical edges in view, at worst {uprights['worst_px']:.2f} px off",
        "no floor below the eye" if floor is None else f"eye {floor:.3f} m above the floor",
        "floor {floor:.0%}, ceiling {ceiling:.0%}, sky {sky:.0%}, ground {ground:.0%} of the frame".format(
            **facts["shares"]
        ),
        *_bound_lines(camera),
    ]
    if facts["opened"]:
        lines.append(
            f"the bounds open {', '.join(item['name'] for item in facts['opened'])}; cut faces {facts['cut_faces']:.1%} of the frame"
        )
    lines += [
        f"beyond the far bound: {item['name']}, back at {item['back_at_m']:.1f} m"
        for item in facts["far"]["removed"]
    ]
    lines += [
        f"edge {'grazes' if e['grazes'] else 'cuts'} {e['name']}, {e['share_inside']:.0%} inside"
        for e in facts["edges"]
    ]
    return lines + [f"! {item.sentence} Mends: {', '.join(item.mends) or 'none'}." for item in found]


@camera_group.command("check")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@JSON
def check(project: Path, camera: str, as_json: bool) -> None:
    """Angles of view, verticals, bounds and what they open, gaps, and where the eye stands."""
    before = read_project(project)
    found = before.camera_named(camera)
    model = opened_models(before, project).model
    rays, floors = RayScene.of(model), standable(model)
    here = stance(rays, floors, found)
    seen = check_camera(model, before, found, rays=rays)
    wrong = troubles(found, seen, before.limits, here.trouble)
    facts = check_facts(found, before, model, seen, here, wrong)
    say(as_json, facts, _check_lines(found, facts, wrong))


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
    found = read.camera_named(camera)
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

    _change(project, found.id, as_json, edit)


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
    found = read.camera_named(camera)
    model = opened_models(read, project).model
    listed = candidates(model, RayScene.of(model), bodies_of(model), found)
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
    found = read.camera_named(camera)
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
        made = add_wall_cut(item, cut)
        return _cut_changed(made, len(made.wall_cuts) - 1, values)

    _change(project, found.id, as_json, edit)


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
    found = read.camera_named(camera)
    model = opened_models(read, project).model
    made = back_through_wall(model, RayScene.of(model), found, width, whole=whole)
    after = edited(
        project, lambda current: change_camera(current, found.id, lambda _: checked(made.camera))
    ).camera(found.id)
    facts = {
        "camera": msgspec.to_builtins(after),
        "back_m": made.back_m,
        "outside_m": made.outside_m,
        "out_of_picture": list(made.out),
        "sentence": made.sentence,
    }
    say(as_json, facts, [made.sentence, line_of(made.camera), *_bound_lines(made.camera)])


@camera_group.command("mend")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@click.argument("code", type=click.Choice([code for code in MENDS if code != "go"]))
@JSON
def mend_(project: Path, camera: str, code: str, as_json: bool) -> None:
    """Mend one kind of trouble that camera check found."""
    read = read_project(project)
    found = read.camera_named(camera)
    model = opened_models(read, project).model
    rays = RayScene.of(model)
    seen = check_camera(model, read, found, rays=rays)
    ground = Ground(model, rays, standable(model), bodies_of(model))
    after = edited(project, lambda current: mend(current, found.id, code, seen, ground))
    made = after.camera(found.id)
    assert made is not None
    facts = {"camera": msgspec.to_builtins(made), "patches": msgspec.to_builtins(after.patches)}
    added = [f"  {item.name}" for item in after.patches if item not in read.patches]
    say(as_json, facts, [f"{MENDS[code]}: done.", line_of(made), *_bound_lines(made), *added])


# ---------------------------------------------------------------------- all cameras


@click.command("check")
@click.argument("project", type=ProjectPath)
@JSON
def check_all(project: Path, as_json: bool) -> None:
    """Check every camera: what in it is trouble, and what mends it.  Exit code 0 also when there is trouble."""
    read = read_project(project)
    model = opened_models(read, project).model
    rows: list[dict[str, Any]] = []
    lines: list[str] = []
    for camera, seen, found in check_cameras(model, read, read.cameras):
        tell_progress(len(rows) / max(len(read.cameras), 1), camera.name)
        rows.append(
            {
                "name": camera.name,
                "cut_faces": seen.cut.share,
                "verticals_px": seen.verticals.worst_px,
                "points": seen.perspective.points,
                "gaps": seen.gaps.out,
                "ground_ends": seen.gaps.ground_ends,
                "far_cuts": seen.gaps.background,
                "troubles": msgspec.to_builtins(found),
            }
        )
        lines.append(f"{camera.name}: {'; '.join(item.words for item in found) or 'nothing found'}")
    say(
        as_json,
        {"cameras": rows, "with_trouble": sum(bool(row["troubles"]) for row in rows)},
        lines or ["No cameras yet."],
    )


@click.command("coverage")
@click.argument("project", type=ProjectPath)
@click.option("--camera", "cameras", multiple=True, help="Only these cameras; may be repeated.")
@click.option("--walk", "walks", multiple=True, help="These walks as well; may be repeated.")
@click.option("--all-walks", is_flag=True, help="All walks as well.")
@click.option(
    "--out", type=click.Path(dir_okay=False, path_type=Path), help="Write the table to this CSV file."
)
@JSON
def coverage(
    project: Path,
    cameras: tuple[str, ...],
    walks: tuple[str, ...],
    all_walks: bool,
    out: Path | None,
    as_json: bool,
) -> None:
    """What of the model the cameras and walks see, how large, from where, and what is never seen."""
    read = read_project(project)
    chosen = [read.camera_named(name) for name in cameras] if cameras else list(read.cameras)
    walked = list(read.walks) if all_walks else [read.walk_named(name) for name in walks]
    model = opened_models(read, project).model
    tally, renderer = Tally(model), Renderer(model)
    try:
        views = coverage_views(model, read, chosen, walked)
        for number, (name, view, staging) in enumerate(views):
            tell_progress(number / max(len(views), 1), name)
            tallied(tally, renderer, name, view, staging)
    finally:
        renderer.close()
    found = tally.result()
    if out is not None:
        write_atomically(out, as_csv(found).encode(), "Nothing else was changed.")
    unseen = [item for item in found if not item.seen]
    facts = {
        "pictures": len(views),
        "objects": [
            {**msgspec.to_builtins(item), "nearest_m": item.nearest_m if item.seen else None}
            for item in found
        ],
        "never_seen": len(unseen),
    }
    lines = [
        f"{len(found) - len(unseen)} of {len(found)} objects are seen in {len(views)} pictures; {len(unseen)} never."
    ]
    lines += [f"  never: {item.name} ({item.category})" for item in unseen[:40]]
    say(as_json, facts, lines)


@click.command("gaps")
@click.argument("project", type=ProjectPath)
@click.option(
    "--out",
    required=True,
    type=click.Path(file_okay=False, path_type=Path),
    help="Folder for the page, table and pictures.",
)
@BASE
@JOB
@JSON
def gaps(project: Path, out: Path, base: Path | None, job: Path | None, as_json: bool) -> None:
    """A list of gaps with pictures, for whoever models: holes, and ground that ends in view."""
    read = read_project(project)
    journal = Journal(make_folder(job) if job else None)
    stopped = asked_to_stop()

    def told(share: float, name: str) -> bool:
        journal.progress(share, name)
        tell_progress(share, name)
        return not stopped()

    try:
        written = write_gap_list(
            opened_models(read, base / "project.altana" if base else project), read, read.cameras, out, told
        )
    except Cancelled:
        raise UserError(f"Stopped. Pictures made before are kept in {out}.") from None
    say(as_json, {"files": [str(path) for path in written]}, [str(path) for path in written])


@click.group("patch")
def patch_group() -> None:
    """Mends of ours on the model: plain panels, a ceiling carried on, ground to the horizon."""


@patch_group.command("list")
@click.argument("project", type=ProjectPath)
@JSON
def patch_list(project: Path, as_json: bool) -> None:
    """List the mends."""
    held = read_project(project).patches
    say(
        as_json,
        msgspec.to_builtins(held),
        [f"{p.id}: {p.name} ({p.kind}{'' if p.on else ', off'})" for p in held] or ["No mends."],
    )


@patch_group.command("add")
@click.argument("project", type=ProjectPath)
@click.argument("kind", type=click.Choice(list(LOOKS)))
@click.option(
    "--corner",
    "corners",
    multiple=True,
    callback=lambda c, p, values: [numbers(3)(c, p, v) for v in values],
    help="A corner x,y,z; three or more, round the piece.",
)
@click.option("--name", default="", help="Its name.")
@JSON
def patch_add(project: Path, kind: str, corners: list[tuple[float, ...]], name: str, as_json: bool) -> None:
    """Put a plain piece on the model; ground without corners reaches to the horizon."""
    read = read_project(project)
    if kind == "ground" and not corners:
        model = opened_models(read, project).model
        after = edited(project, lambda current: ground_to_horizon(current, model)[0])
    else:
        after = edited(
            project, lambda current: add_patch(current, kind, [vec3(corner) for corner in corners], name)[0]
        )
    say(as_json, msgspec.to_builtins(after.patches[-1]), [f"Added {after.patches[-1].name}."])


@patch_group.command("set")
@click.argument("project", type=ProjectPath)
@click.argument("patch")
@click.option("--on/--off", "on", default=None, help="Switch it.")
@click.option("--remove", is_flag=True, help="Take it back.")
def patch_set(project: Path, patch: str, on: bool | None, remove: bool) -> None:
    """Switch a mend, or take it back."""
    read = read_project(project)
    found = next((item for item in read.patches if patch in (item.id, item.name)), None)
    if found is None or remove:
        edited(project, lambda current: remove_patch(current, patch))
        click.echo(f"Took back {patch}.")
        return
    edited(project, lambda current: turn_patch(current, found.id, found.on if on is None else on))
    click.echo(f"{found.name} is {'on' if (found.on if on is None else on) else 'off'}.")
