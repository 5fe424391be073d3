"""``altana shots``: the shot list from the command line."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any

import click
import msgspec

from altana.cli.shared import JSON, ProjectPath, edited, opened_models, say, shot_ids
from altana.cli.shot_values import (
    AS_USUAL,
    MAKING_FIELDS,
    TONE_FIELDS,
    TONE_VALUE,
    files_taken_in,
    given_values,
    row_options,
    tone_of,
)
from altana.cli.values import Field, FieldValue, fields_of
from altana.core.edits.shots import (
    add_shots,
    apply_preset,
    change_shots,
    move_shots,
    remove_shots,
    set_making,
    set_tone,
    start_values,
)
from altana.core.project import FILM, PANORAMA, QUALITY_WORDS, STILL, USUAL_QUALITIES, Project, Shot
from altana.core.styles import STYLES, called
from altana.jobs.estimates import about, bytes_for, expected_for, seconds_of
from altana.jobs.paces import scene_of
from altana.jobs.pages import write_pages
from altana.jobs.presentation import TEMPLATES
from altana.jobs.remembered import remembered
from altana.jobs.shotlist import Row, rows_of
from altana.storage.files import write_atomically
from altana.storage.presets import STYLE_SUFFIX, preset_json, read_preset, style_json
from altana.storage.project_file import read_project


@click.group("shots")
def shots_group() -> None:
    """The shot list: what is delivered, in which format, drawn how, as which file."""


def _words(row: Row, number: int, name: str) -> str:
    shot = row.shot
    words = row.wrong or row.file
    return f"{number:2}  {'on ' if shot.on else 'off'}  {shot.kind:8} {name:32} {shot.rendition:10} {shot.quality:7} {words}"


def _subject(project: Project, shot: Shot) -> str:
    item = project.walk(shot.subject) if shot.kind == FILM else project.camera(shot.subject)
    return item.name if item is not None else "gone"


@shots_group.command("list")
@click.argument("project", type=ProjectPath)
@JSON
def list_(project: Path, as_json: bool) -> None:
    """All rows with their files, expected seconds and bytes, and what is wrong with them."""
    read = read_project(project)
    rows = rows_of(read, opened_models(read, project).model if read.models else None)
    facts = []
    for number, row in enumerate(rows, 1):
        row_facts: dict[str, Any] = {
            "number": number,
            "subject_name": _subject(read, row.shot),
            **msgspec.to_builtins(row.shot),
        }
        row_facts |= {"file_name": row.file, "wrong": row.wrong, "about": row.note}
        if row.item is not None:
            row_facts |= {
                "seconds": round(
                    seconds_of(row.item, row.shot.quality, read.qualities, scene=scene_of(read)), 1
                ),
                "bytes": round(bytes_for(row.item, row.shot.quality)),
            }
            row_facts |= {"size": [row.item.width_px, row.item.height_px]}
        facts.append(row_facts)
    lines = [_words(row, number, _subject(read, row.shot)) for number, row in enumerate(rows, 1)]
    items = [row.item for row in rows if row.shot.on and row.item is not None]
    if items:
        lines.append(
            f"{len(items)} rows: {about(expected_for(items, 'review', read.qualities, scene_of(read)), sum(bytes_for(item, 'review') for item in items))}"
        )
    say(as_json, facts, lines or ["No rows yet."])


@shots_group.command("add")
@click.argument("project", type=ProjectPath)
@click.option("--camera", "cameras", multiple=True, help="A still of this camera.")
@click.option("--walk", "walks", multiple=True, help="A film of this walk or turntable.")
@click.option("--panorama", "panoramas", multiple=True, help="A panorama from this camera's place.")
@row_options
@JSON
def add(
    project: Path,
    cameras: tuple[str, ...],
    walks: tuple[str, ...],
    panoramas: tuple[str, ...],
    as_json: bool,
    **values: Any,
) -> None:
    """Add rows; what is not said has the usual values, which differ inside and outside."""
    if not cameras and not walks and not panoramas:
        raise click.UsageError("Name what the rows are of: --camera, --walk or --panorama.")
    before = read_project(project)
    values = files_taken_in(project, values)
    rows = [start_values(before, STILL, before.camera_named(name).id) for name in cameras]
    rows += [start_values(before, FILM, before.walk_named(name).id) for name in walks]
    rows += [start_values(before, PANORAMA, before.camera_named(name).id) for name in panoramas]
    after = edited(
        project,
        lambda current: add_shots(
            current, [replace(row, **given_values(current, row, values)) for row in rows]
        ),
    )
    added = after.shots[-len(rows) :]
    say(
        as_json,
        msgspec.to_builtins(added),
        [f"{item.id}: {_subject(after, item)}, {item.kind}" for item in added],
    )


@shots_group.command("set")
@click.argument("project", type=ProjectPath)
@click.argument("rows", nargs=-1, required=True)
@row_options
@JSON
def set_(project: Path, rows: tuple[str, ...], as_json: bool, **values: Any) -> None:
    """Change rows, by number or id, several at once."""
    ids = shot_ids(read_project(project), rows)
    values = files_taken_in(project, values)

    def edit(current: Project) -> Project:
        for shot_id in ids:
            shot = current.shot(shot_id)
            assert shot is not None
            current = change_shots(current, [shot_id], **given_values(current, shot, values))
        return current

    after = edited(project, edit)
    changed = [item for item in after.shots if item.id in ids]
    say(as_json, msgspec.to_builtins(changed), [f"{item.id}: {_subject(after, item)}" for item in changed])


@shots_group.command("remove")
@click.argument("project", type=ProjectPath)
@click.argument("rows", nargs=-1, required=True)
def remove(project: Path, rows: tuple[str, ...]) -> None:
    """Take rows out."""
    ids = shot_ids(read_project(project), rows)
    edited(project, lambda current: remove_shots(current, ids))
    click.echo(f"{len(ids)} rows taken out.")


@shots_group.command("move")
@click.argument("project", type=ProjectPath)
@click.argument("row")
@click.argument("to", type=int)
def move(project: Path, row: str, to: int) -> None:
    """Move a row to a place, counted from 1."""
    before = read_project(project)
    (shot_id,) = shot_ids(before, (row,))
    now = [item.id for item in before.shots].index(shot_id)
    edited(project, lambda current: move_shots(current, [shot_id], to if to > now + 1 else to - 1))
    click.echo(f"Row {row} is row {to} now.")


@shots_group.command("tone")
@click.argument("project", type=ProjectPath)
@click.argument("fields", nargs=-1, required=True, type=TONE_VALUE)
@JSON
def tone(project: Path, fields: tuple[Field, ...], as_json: bool) -> None:
    """Set the project's tone, which all rows without one of their own have: FIELD=VALUE …"""
    fields = files_taken_in(project, {"tones": fields})["tones"]
    after = edited(project, lambda current: set_tone(current, tone_of(fields, current.tone)))
    say(
        as_json,
        msgspec.to_builtins(after.tone),
        [f"{name} {getattr(after.tone, name)}" for name in TONE_FIELDS],
    )


@shots_group.command("preset")
@click.argument("project", type=ProjectPath)
@click.argument("row")
@click.option(
    "--save", type=click.Path(dir_okay=False, path_type=Path), help="Write how the row is made to this file."
)
@click.option(
    "--use", type=click.Path(dir_okay=False, path_type=Path), help="Make the row as this file says."
)
def preset(project: Path, row: str, save: Path | None, use: Path | None) -> None:
    """Save how a row is made as a file, or make a row as a file says."""
    if (save is None) == (use is None):
        raise click.UsageError("Give either --save FILE or --use FILE.")
    before = read_project(project)
    (shot_id,) = shot_ids(before, (row,))
    if save is not None:
        shot = before.shot(shot_id)
        assert shot is not None
        write_atomically(save, preset_json(shot))
        click.echo(f"Written to {save}.")
    elif use is not None:
        values = read_preset(use)
        edited(project, lambda current: apply_preset(current, [shot_id], values))
        click.echo(f"Row {row} is made as {use.name} says.")


@shots_group.command("style")
@click.argument("project", type=ProjectPath)
@click.argument("row", required=False)
@click.option(
    "--save",
    type=click.Path(dir_okay=False, path_type=Path),
    help=f"Write the row's line style to this file ({STYLE_SUFFIX}).",
)
@JSON
def style(project: Path, row: str | None, save: Path | None, as_json: bool) -> None:
    """The line styles that come with Altana, or a row's own; --save keeps it as a file for other rows and
    projects."""
    if row is None:
        if save is not None:
            raise click.UsageError("Name the row whose style is kept.")
        lines = [
            f"{item.name:14} outlines {item.outline_px:g} px, creases {item.crease_px:g} px, {item.ink}"
            for item in STYLES
        ]
        say(as_json, msgspec.to_builtins(STYLES), lines)
        return
    before = read_project(project)
    shot = before.shot(shot_ids(before, (row,))[0])
    assert shot is not None
    if save is not None:
        save = save if save.suffix == STYLE_SUFFIX else save.with_name(save.name + STYLE_SUFFIX)
        write_atomically(save, style_json(replace(shot.style, name=save.stem)))
    say(
        as_json,
        msgspec.to_builtins(shot.style),
        [f"Written to {save}." if save is not None else called(shot.style)],
    )


@shots_group.command("quality")
@click.argument("project", type=ProjectPath)
@click.argument("word", required=False, type=click.Choice(QUALITY_WORDS))
@click.argument("fields", nargs=-1, type=FieldValue(USUAL_QUALITIES.proof, MAKING_FIELDS, words=("usual",)))
@JSON
def quality(project: Path, word: str | None, fields: tuple[Field, ...], as_json: bool) -> None:
    """The figures behind proof, review and final in this project; with a word and FIELD=VALUE …, set them;
    `usual` as the only field puts them back."""
    read = read_project(project)
    if word is not None and fields:
        now = USUAL_QUALITIES.of(word) if fields == (AS_USUAL,) else read.qualities.of(word)
        given = {} if fields == (AS_USUAL,) else fields_of(fields)
        read = edited(project, lambda current: set_making(current, word, replace(now, **given)))
    lines = [
        f"{name:7} {figures.passes} passes, film frames {figures.film_passes}, shadow map {figures.shadow_px} px,"
        f" {figures.light_rays} rays of light a place"
        for name in QUALITY_WORDS
        for figures in (read.qualities.of(name),)
    ]
    say(as_json, msgspec.to_builtins(read.qualities), lines)


@shots_group.command("pages")
@click.argument("project", type=ProjectPath)
@click.option(
    "--out",
    required=True,
    type=click.Path(file_okay=False, path_type=Path),
    help="The folder that the shot list was made into.",
)
@click.option(
    "--what",
    multiple=True,
    type=click.Choice(["sheet", "presentation", "look-round", "index", "zip"]),
    help="Which pages; all when none is named.",
)
@click.option(
    "--template", type=click.Choice(TEMPLATES), default="one", show_default=True, help="Of the presentation."
)
@JSON
def pages(project: Path, out: Path, what: tuple[str, ...], template: str, as_json: bool) -> None:
    """Contact sheet, presentation, a page that turns panoramas, an index and a zip, from what was made."""
    read = read_project(project)
    model = opened_models(read, project).model
    rows = rows_of(read, model)
    wanted = what or (
        "sheet",
        "presentation",
        *(["look-round"] if any(row.shot.kind == PANORAMA for row in rows) else []),
        "index",
        "zip",
    )
    files = write_pages(read, rows, model, out, wanted, template)
    say(as_json, {"files": [str(path) for path in files]}, [str(path) for path in files])


@click.command("remembered")
@click.argument("picture", type=click.Path(dir_okay=False, path_type=Path))
@JSON
def remembered_(picture: Path, as_json: bool) -> None:
    """The camera that a picture was made with."""
    record = remembered(picture)
    camera = record.camera
    lines = [
        f"{camera.name} of {record.project}: eye {', '.join(f'{value:.3f}' for value in camera.eye)}, {camera.focal_mm:g} mm"
    ]
    say(as_json, msgspec.to_builtins(record), lines)
