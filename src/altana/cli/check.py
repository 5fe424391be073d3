"""``altana camera check|bound|wall-cut|back|mend`` and ``altana check|coverage|gaps|patch``: bounds and
checks from outside."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any

import click
import msgspec

from altana.cli.bounds import bound_lines
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
from altana.core.camera.bounds import place_of_sight
from altana.core.checks.camera_check import MENDS, CameraCheck, Trouble, troubles
from altana.core.checks.coverage import Tally, as_csv
from altana.core.checks.cut_faces import bodies_of
from altana.core.checks.perspective import main_axes, vanishing_points
from altana.core.checks.verticals import Verticals
from altana.core.errors import UserError
from altana.core.geometry.rays import RayScene
from altana.core.lens import stretch_grade
from altana.core.light.transport import Cancelled
from altana.core.mends import Ground, mend
from altana.core.model import Model
from altana.core.patching import LOOKS, add_patch, ground_to_horizon, remove_patch, turn_patch
from altana.core.project import Camera, Project
from altana.core.staging import Lookup
from altana.core.standing import Footing, stance, standable
from altana.jobs.gaps import write_gap_list
from altana.jobs.journal import Journal
from altana.jobs.looking import check_camera, check_cameras, coverage_views, tallied
from altana.render.renderer import Renderer
from altana.storage.files import make_folder, write_atomically
from altana.storage.project_file import read_project

# ---------------------------------------------------------------------- one camera


def check_facts(
    camera: Camera,
    project: Project,
    model: Model,
    seen: CameraCheck,
    here: Footing,
    wrong: tuple[Trouble, ...],
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
        "verticals": _verticals(seen.verticals),
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
        "troubles": msgspec.to_builtins(wrong),
    }


def _verticals(seen: Verticals) -> dict[str, Any]:
    edges = zip(seen.lines.tolist(), seen.deviation_px.tolist(), strict=True)
    return {
        "count": seen.count,
        "worst_px": seen.worst_px,
        "edges": [{"from_px": line[0], "to_px": line[1], "deviation_px": off} for line, off in edges],
    }


def _check_lines(camera: Camera, facts: dict[str, Any], wrong: tuple[Trouble, ...]) -> list[str]:
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
        *bound_lines(camera),
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
    return lines + [f"! {item.sentence} Mends: {', '.join(item.mends) or 'none'}." for item in wrong]


@camera_group.command("check")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@JSON
def check(project: Path, camera: str, as_json: bool) -> None:
    """Angles of view, verticals, bounds and what they open, gaps, and where the eye stands."""
    before = read_project(project)
    chosen = before.camera_named(camera)
    model = opened_models(before, project).model
    rays, floors = RayScene.of(model), standable(model)
    here = stance(rays, floors, chosen)
    seen = check_camera(model, before, chosen, rays=rays)
    wrong = troubles(chosen, seen, before.limits, here.trouble)
    facts = check_facts(chosen, before, model, seen, here, wrong)
    say(as_json, facts, _check_lines(chosen, facts, wrong))


@camera_group.command("mend")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@click.argument("code", type=click.Choice([code for code in MENDS if code != "go"]))
@JSON
def mend_(project: Path, camera: str, code: str, as_json: bool) -> None:
    """Mend one kind of trouble that camera check found."""
    read = read_project(project)
    camera_before = read.camera_named(camera)
    model = opened_models(read, project).model
    rays = RayScene.of(model)
    seen = check_camera(model, read, camera_before, rays=rays)
    ground = Ground(model, rays, standable(model), bodies_of(model))
    after = edited(project, lambda current: mend(current, camera_before.id, code, seen, ground))
    camera_after = after.camera(camera_before.id)
    assert camera_after is not None
    facts = {"camera": msgspec.to_builtins(camera_after), "patches": msgspec.to_builtins(after.patches)}
    added = [f"  {item.name}" for item in after.patches if item not in read.patches]
    say(as_json, facts, [f"{MENDS[code]}: done.", line_of(camera_after), *bound_lines(camera_after), *added])


# ---------------------------------------------------------------------- all cameras


@click.command("check")
@click.argument("project", type=ProjectPath)
@JSON
def check_all(project: Path, as_json: bool) -> None:
    """Check every camera: what in it is trouble, and what mends it.  Exit code 0 also when there is
    trouble."""
    read = read_project(project)
    model = opened_models(read, project).model
    rows: list[dict[str, Any]] = []
    lines: list[str] = []
    for camera, seen, checks in check_cameras(model, read, read.cameras):
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
                "troubles": msgspec.to_builtins(checks),
            }
        )
        lines.append(f"{camera.name}: {'; '.join(item.words for item in checks) or 'nothing checks'}")
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
    coverage = tally.result()
    if out is not None:
        write_atomically(out, as_csv(coverage).encode(), "Nothing else was changed.")
    unseen = [item for item in coverage if not item.seen]
    facts = {
        "pictures": len(views),
        "objects": [
            {**msgspec.to_builtins(item), "nearest_m": item.nearest_m if item.seen else None}
            for item in coverage
        ],
        "never_seen": len(unseen),
    }
    lines = [
        f"{len(coverage) - len(unseen)} of {len(coverage)} objects are seen in {len(views)} pictures; {len(unseen)} never."
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
    patches = read_project(project).patches
    say(
        as_json,
        msgspec.to_builtins(patches),
        [f"{p.id}: {p.name} ({p.kind}{'' if p.on else ', off'})" for p in patches] or ["No mends."],
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
    patch_before = next((item for item in read.patches if patch in (item.id, item.name)), None)
    if patch_before is None or remove:
        edited(project, lambda current: remove_patch(current, patch))
        click.echo(f"Took back {patch}.")
        return
    edited(
        project, lambda current: turn_patch(current, patch_before.id, patch_before.on if on is None else on)
    )
    click.echo(f"{patch_before.name} is {'on' if (patch_before.on if on is None else on) else 'off'}.")
