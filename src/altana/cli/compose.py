"""``altana camera place|fit|format|copy|variant|nudge|take`` and ``altana leave-out|plan-shot|changes``:
composing from outside."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import click
import msgspec

from altana.cli.camera import camera_group, line_of
from altana.cli.shared import JSON, ProjectPath, edited, numbers, opened_models, say, shot_ids
from altana.core.checks.changes import compare
from altana.core.edits.cameras import add_camera, change_camera, checked, from_file
from altana.core.edits.formats import DESTINATIONS, add_format, choose_format, remove_format
from altana.core.edits.left_out import leave_out, leave_out_of_walks, nudge
from altana.core.edits.planned import plan_shot
from altana.core.edits.settings import SETTINGS, copy_settings
from altana.core.edits.shots import leave_out_of_rows
from altana.core.edits.variants import LADDERS, add_variant, keep_variant, remove_variant, set_ladder
from altana.core.errors import UserError
from altana.core.geometry.rays import RayScene
from altana.core.lens import fit_by_distance, fit_by_lens
from altana.core.measures import parse_millimetres
from altana.core.model import Model
from altana.core.project import Camera, Project
from altana.core.standing import standable
from altana.core.standing_tools import TOOLS, back_to_wall
from altana.core.targets import facade_ahead, target_points
from altana.core.wall_rays import wall_rays
from altana.jobs.models import open_model
from altana.jobs.requests import parse_size
from altana.storage.project_file import read_project

PLACES = {
    "square": "Square to wall",
    "between": "Between walls",
    "middle": "Middle of the room",
    "corner": "Corner",
}


def _change(project: Path, name: str, as_json: bool, edit: Callable[[Project, Camera], Project]) -> None:
    """Edit one camera and say what it is now."""
    camera_before = read_project(project).camera_named(name)
    camera_after = edited(
        project, lambda current: edit(current, current.camera(camera_before.id) or camera_before)
    ).camera(camera_before.id)
    assert camera_after is not None
    say(as_json, msgspec.to_builtins(camera_after), [line_of(camera_after)])


def _object_id(model: Model, name: str) -> str:
    return model.objects[model.object_number(name)].id


@camera_group.command("place")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@click.argument("how", type=click.Choice([*PLACES, "back"]))
@JSON
def place(project: Path, camera: str, how: str, as_json: bool) -> None:
    """Stand a camera by the building: square to a wall, between walls, in the middle, into a corner, back to
    the wall."""

    def edit(current: Project, camera_now: Camera) -> Project:
        model = opened_models(current, project).model
        rays = wall_rays(model, RayScene.of(model))
        moved = (
            back_to_wall(camera_now, rays, standable(model))
            if how == "back"
            else TOOLS[PLACES[how]](camera_now, rays)
        )
        return change_camera(current, camera_now.id, lambda _: checked(moved))

    _change(project, camera, as_json, edit)


@camera_group.command("fit")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@click.option(
    "--target", type=click.Choice(["object", "room", "facade"]), default="object", show_default=True
)
@click.option(
    "--object",
    "object_name",
    help="The object's name or id; without it what lies in the middle of the picture.",
)
@click.option("--by", type=click.Choice(["lens", "distance"]), default="lens", show_default=True)
@click.option(
    "--square", is_flag=True, help="With a façade: squarely, by a shifted lens or from its middle line."
)
@JSON
def fit(
    project: Path, camera: str, target: str, object_name: str | None, by: str, square: bool, as_json: bool
) -> None:
    """Frame an object, the room looked into, or the façade that the picture is of, all of it inside the
    frame."""
    if square and target != "facade":
        raise click.UsageError("--square goes with --target facade.")

    def edit(current: Project, camera_now: Camera) -> Project:
        model = opened_models(current, project).model
        rays = RayScene.of(model)
        object_id = _object_id(model, object_name) if object_name else ""
        if target == "facade":
            front = facade_ahead(model, wall_rays(model, rays), camera_now)
            points, heading = front.points, front.heading_deg if square else None
        else:
            points, heading = (
                target_points(model, rays, model.face_objects(), camera_now, target, object_id),
                None,
            )
        fit_camera = (fit_by_lens if by == "lens" else fit_by_distance)(
            camera_now, points, square_deg=heading
        )
        return change_camera(current, camera_now.id, lambda _: checked(fit_camera))

    _change(project, camera, as_json, edit)


@camera_group.command("format")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@click.option("--add", "added", help="Add a format: a destination's name, or a size such as 1080x1350.")
@click.option("--use", "used", type=int, help="Use the format of this number, counted from 1.")
@click.option("--remove", "removed", type=int, help="Remove the format of this number, counted from 1.")
@JSON
def format_(
    project: Path, camera: str, added: str | None, used: int | None, removed: int | None, as_json: bool
) -> None:
    """Add, choose or remove one of a camera's formats; without an option, list them."""
    camera_before = read_project(project).camera_named(camera)
    if added is None and used is None and removed is None:
        lines = [
            f"{'*' if index == camera_before.format_index else ' '} {index + 1} {item.name} {item.width_px} × {item.height_px}"
            for index, item in enumerate(camera_before.all_formats)
        ]
        say(as_json, msgspec.to_builtins(camera_before.all_formats), lines)
        return

    def edit(current: Project, _: Camera) -> Project:
        if added is not None:
            known = next((item for item in DESTINATIONS if item[0].lower() == added.lower()), None)
            name, width, height = known or ("Own size", *parse_size(added))
            current = add_format(current, camera_before.id, name, width, height)
        if used is not None:
            current = choose_format(current, camera_before.id, used - 1)
        return remove_format(current, camera_before.id, removed - 1) if removed is not None else current

    _change(project, camera, as_json, edit)


@camera_group.command("variant")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@click.option("--keep-try", is_flag=True, help="Keep the camera as it is as a variant.")
@click.option("--ladder", type=click.Choice(LADDERS), help="Lay a ladder of tries beside the camera.")
@click.option("--focals", default="", help="The lenses of a ladder, millimetres with commas between.")
@click.option(
    "--take", "taken", type=int, help="The variant of this number, counted from 1, becomes the camera."
)
@click.option("--remove", "removed", type=int, help="Remove the variant of this number.")
@JSON
def variant(
    project: Path,
    camera: str,
    keep_try: bool,
    ladder: str | None,
    focals: str,
    taken: int | None,
    removed: int | None,
    as_json: bool,
) -> None:
    """Variants of a camera; without an option, list them."""
    camera_before = read_project(project).camera_named(camera)
    lenses = tuple(parse_millimetres(part) for part in focals.split(",") if part.strip())

    def edit(current: Project, _: Camera) -> Project:
        if keep_try:
            current = add_variant(current, camera_before.id)
        if ladder:
            current = set_ladder(current, camera_before.id, ladder, lenses)
        if taken is not None:
            current = keep_variant(current, camera_before.id, taken - 1)
        return remove_variant(current, camera_before.id, removed - 1) if removed is not None else current

    if keep_try or ladder or taken is not None or removed is not None:
        camera_before = (
            edited(project, lambda current: edit(current, camera_before)).camera(camera_before.id)
            or camera_before
        )
    lines = [f"{index + 1} {item.name}" for index, item in enumerate(camera_before.variants)] or [
        "No variants."
    ]
    say(as_json, msgspec.to_builtins(camera_before.variants), lines)


@camera_group.command("copy")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@click.option(
    "--to",
    "targets",
    multiple=True,
    required=True,
    help="A camera that takes the settings; give it several times.",
)
@click.option(
    "--what",
    multiple=True,
    type=click.Choice(list(SETTINGS)),
    required=True,
    help="Which settings; give it several times.",
)
def copy(project: Path, camera: str, targets: tuple[str, ...], what: tuple[str, ...]) -> None:
    """Give one camera's settings to others."""
    before = read_project(project)
    source = before.camera_named(camera)
    ids = [before.camera_named(name).id for name in targets]
    edited(project, lambda current: copy_settings(current, source.id, ids, what))
    click.echo(f"{source.name}: {', '.join(what)} given to {len(ids)}.")


@camera_group.command("nudge")
@click.argument("project", type=ProjectPath)
@click.argument("camera")
@click.argument("object_name", metavar="OBJECT")
@click.option("--move", callback=numbers(3), help="East, north, up in metres.")
@click.option("--turn", type=float, default=0.0, help="Degrees clockwise.")
@click.option("--out", is_flag=True, help="Take the object out of this camera's picture.")
@JSON
def nudge_(
    project: Path,
    camera: str,
    object_name: str,
    move: tuple[float, ...] | None,
    turn: float,
    out: bool,
    as_json: bool,
) -> None:
    """Move, turn or take out one object for one camera; without an option the nudge is taken back."""

    def edit(current: Project, camera_now: Camera) -> Project:
        object_id = _object_id(opened_models(current, project).model, object_name)
        x, y, z = move or (0.0, 0.0, 0.0)
        return nudge(current, camera_now.id, object_id, (x, y, z), turn, out)

    _change(project, camera, as_json, edit)


@camera_group.command("take")
@click.argument("project", type=ProjectPath)
@click.option(
    "--name", "names", multiple=True, help="A camera of the model file; without it, all are only listed."
)
@click.option("--all", "everything", is_flag=True, help="Take all of them.")
@JSON
def take(project: Path, names: tuple[str, ...], everything: bool, as_json: bool) -> None:
    """Cameras found in the model files: listed, or taken into the project."""
    before = read_project(project)
    model = opened_models(before, project).model
    unknown = set(names) - {item.name for item in model.cameras}
    if unknown:
        raise UserError(
            f"There is no camera “{min(unknown)}” in the model. There are: {', '.join(c.name for c in model.cameras) or 'none'}."
        )
    chosen = [item for item in model.cameras if everything or item.name in names]
    rays = RayScene.of(model)

    def edit(current: Project) -> Project:
        for item in chosen:
            current, _ = add_camera(current, from_file(item, rays.roofed(item.eye)))
        return current

    if chosen:
        edited(project, edit)
    shown = chosen or list(model.cameras)
    say(
        as_json,
        msgspec.to_builtins(shown),
        [f"{'taken: ' if chosen else ''}{item.name}, {item.focal_mm:.1f} mm" for item in shown]
        or ["The model holds no cameras."],
    )


@click.command("leave-out")
@click.argument("project", type=ProjectPath)
@click.option(
    "--camera", "cameras", multiple=True, help="Only of this camera's pictures; give it several times."
)
@click.option("--walk", "walks", multiple=True, help="Only of this walk's film; give it several times.")
@click.option(
    "--row",
    "rows",
    multiple=True,
    help="Only of what this row of the shot list makes; give it several times.",
)
@click.option("--object", "objects", multiple=True, help="An object by name or id.")
@click.option("--category", "categories", multiple=True, help="A whole category.")
@click.option("--storey", "storeys", multiple=True, help="A whole storey.")
@click.option("--back", is_flag=True, help="Show it again.")
def leave_out_(
    project: Path,
    cameras: tuple[str, ...],
    walks: tuple[str, ...],
    rows: tuple[str, ...],
    objects: tuple[str, ...],
    categories: tuple[str, ...],
    storeys: tuple[str, ...],
    back: bool,
) -> None:
    """Leave objects, categories or storeys out of pictures: of the whole project's, or of named cameras',
    walks' or rows'."""
    before = read_project(project)
    model = opened_models(before, project).model
    ids = [before.camera_named(name).id for name in cameras]
    walk_ids = [before.walk_named(name).id for name in walks]
    row_ids = shot_ids(before, rows)
    known = {item.name: item.id for item in model.storeys} | {item.id: item.id for item in model.storeys}
    missing = [name for name in storeys if name not in known] + [
        name for name in categories if all(o.category != name for o in model.objects)
    ]
    if missing:
        raise UserError(f"The model has no “{missing[0]}”. altana inspect lists storeys and categories.")
    named_things = [("objects", _object_id(model, name)) for name in objects]
    named_things += [("categories", name) for name in categories] + [
        ("storeys", known[name]) for name in storeys
    ]
    if not named_things:
        raise click.UsageError("Name what to leave out: --object, --category or --storey.")

    def edit(current: Project) -> Project:
        for kind, name in named_things:
            # Without a camera, a walk or a row the whole project is meant.
            if ids or not (walk_ids or row_ids):
                current = leave_out(current, ids, kind, name, not back)
            current = leave_out_of_walks(current, walk_ids, kind, name, not back)
            current = leave_out_of_rows(current, row_ids, kind, name, not back)
        return current

    edited(project, edit)
    click.echo(f"{len(named_things)} {'shown again' if back else 'left out'}.")


@click.command("plan-shot")
@click.argument("project", type=ProjectPath)
@click.argument("intent")
@click.option("--note", default="", help="A longer note.")
def plan_shot_(project: Path, intent: str, note: str) -> None:
    """Note a picture that is wanted and has no camera yet."""
    edited(project, lambda current: plan_shot(current, intent, note)[0])
    click.echo(f"Planned: {intent}")


@click.command("changes")
@click.argument("before", type=click.Path(dir_okay=False, path_type=Path))
@click.argument("after", type=click.Path(dir_okay=False, path_type=Path))
@JSON
def changes(before: Path, after: Path, as_json: bool) -> None:
    """What one model file changed against another: objects that came, went or were altered."""
    difference = compare(open_model(before)[0], open_model(after)[0])
    facts: dict[str, Any] = msgspec.to_builtins(difference)
    lines = [
        f"{word} {name}"
        for word, names in (
            ("new", difference.added),
            ("gone", difference.removed),
            ("altered", difference.altered),
        )
        for name in names.values()
    ]
    say(as_json, facts, lines or ["Nothing changed."])
