"""``altana shots``: the shot list from the command line."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any

import click
import msgspec

from altana.cli.shared import JSON, ProjectPath, edited, opened_models, say, shot_ids, without_none
from altana.cli.values import Field, FieldValue, fields_of, number_of
from altana.core.camera.pose import direction_to
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
from altana.core.errors import Refused, UserError
from altana.core.light.clock import parse_hour
from altana.core.measures import parse_millimetres
from altana.core.naming import size_for_print
from altana.core.project import (
    BACKGROUNDS,
    FILM,
    GROUNDS,
    PANORAMA,
    QUALITY_WORDS,
    RENDITIONS,
    SKIES,
    STILL,
    USUAL_QUALITIES,
    Making,
    Project,
    Shot,
    Style,
    Tone,
)
from altana.core.styles import STYLES, called, style_named
from altana.jobs.estimates import about, bytes_for, expected_for, seconds_of
from altana.jobs.paces import scene_of
from altana.jobs.pages import write_pages
from altana.jobs.presentation import TEMPLATES
from altana.jobs.remembered import remembered
from altana.jobs.shotlist import Row, rows_of
from altana.storage.files import write_atomically
from altana.storage.presets import STYLE_SUFFIX, preset_json, read_preset, read_style, style_json
from altana.storage.project_file import read_project, take_in

TONE_FIELDS = tuple(Tone.__slots__)
MAKING_FIELDS = tuple(Making.__slots__)
STYLE_FIELDS = tuple(name for name in Style.__slots__ if name != "name")
#: A row's own tone given up for the project's.
AS_PROJECT = Field("project")
TONE_VALUE = FieldValue(Tone(), TONE_FIELDS, words=("project",), own={"highlights": float})
#: The figures behind a quality put back.
AS_USUAL = Field("usual")


@click.group("shots")
def shots_group() -> None:
    """The shot list: what is delivered, in which format, drawn how, as which file."""


def _words(row: Row, number: int, name: str) -> str:
    shot = row.shot
    told = row.wrong or row.file
    return f"{number:2}  {'on ' if shot.on else 'off'}  {shot.kind:8} {name:32} {shot.rendition:10} {shot.quality:7} {told}"


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
        made: dict[str, Any] = {
            "number": number,
            "subject_name": _subject(read, row.shot),
            **msgspec.to_builtins(row.shot),
        }
        made |= {"file_name": row.file, "wrong": row.wrong, "about": row.note}
        if row.item is not None:
            made |= {
                "seconds": round(
                    seconds_of(row.item, row.shot.quality, read.qualities, scene=scene_of(read)), 1
                ),
                "bytes": round(bytes_for(row.item, row.shot.quality)),
            }
            made |= {"size": [row.item.width_px, row.item.height_px]}
        facts.append(made)
    lines = [_words(row, number, _subject(read, row.shot)) for number, row in enumerate(rows, 1)]
    items = [row.item for row in rows if row.shot.on and row.item is not None]
    if items:
        lines.append(
            f"{len(items)} rows: {about(expected_for(items, 'review', read.qualities, scene_of(read)), sum(bytes_for(item, 'review') for item in items))}"
        )
    say(as_json, facts, lines or ["No rows yet."])


def _options(function: Any) -> Any:
    for option in reversed(
        (
            click.option(
                "--format", "format_name", help="Which of the camera's formats, by name or number from 1."
            ),
            click.option("--on/--off", "on", default=None),
            click.option("--drawn", "rendition", type=click.Choice(RENDITIONS)),
            click.option("--quality", type=click.Choice(QUALITY_WORDS)),
            click.option("--background", type=click.Choice(BACKGROUNDS)),
            click.option("--background-colour", help="#rrggbb, for a plain background."),
            click.option(
                "--background-file", help="A picture in the project's folder, fitted to the horizon."
            ),
            click.option(
                "--ground",
                type=click.Choice(GROUNDS),
                help="What lies below the horizon where the model ends.",
            ),
            click.option("--ground-colour", help="#rrggbb, for a plain ground."),
            click.option("--hour", help="The sun's clock time for this row, such as 17:30, or `project`."),
            click.option("--date", "day", help="A date of this row's own, or `project`."),
            click.option("--sky", type=click.Choice([*SKIES, "project"])),
            click.option("--lamps", type=click.Choice(["on", "off", "project"])),
            click.option("--samples", type=int, help="Final: samples a pixel; 0 for what final stands for."),
            click.option("--minutes", type=float, help="Final: stop after so many minutes; 0 for no limit."),
            click.option(
                "--until-clean/--as-counted",
                default=None,
                help="Final: as many samples as it takes until hardly any grain is left.",
            ),
            click.option("--folder", help="Folder below the delivery; may hold fields as the name does."),
            click.option(
                "--name", "pattern", help="Name of the file: {order}-{camera}-{format} and other fields."
            ),
            click.option(
                "--file",
                help="Kind of file: png, png16, jpg, tif, exr; mp4, h265, mov, webm, avi, gif, png-frames …",
            ),
            click.option("--dpi", type=float, help="Written into the file; 0 writes none."),
            click.option("--scale", type=float, help="Per cent of the format's size, 25 to 400."),
            click.option("--width", "width_px", type=int, help="Pixels across instead of the format's."),
            click.option(
                "--print-width",
                help="Width on paper, such as 297, 30cm or 11in; with --dpi the pixels follow.",
            ),
            click.option("--region", help="LEFT,TOP,RIGHT,BOTTOM in shares of the frame, or `whole`."),
            click.option(
                "--stereo", "stereo_m", type=float, help="Panoramas: two eyes so far apart, metres."
            ),
            click.option(
                "--front",
                help="Panoramas: the heading of the middle, X,Y,Z or a camera's name to look towards, or `camera`.",
            ),
            click.option("--faces/--no-faces", default=None, help="Panoramas: the six faces as files too."),
            click.option("--step", type=int, help="Films: every n-th film frame."),
            click.option(
                "--strip", "strip_every", type=int, help="Films: a contact strip of every n-th film frame."
            ),
            click.option(
                "--keep-master/--no-master",
                "keep_master",
                default=None,
                help="Keep the linear picture, for toning without drawing again.",
            ),
            click.option(
                "--passes/--no-passes",
                "passes",
                default=None,
                help="Stills: an EXR of layers for compositing beside the picture.",
            ),
            click.option(
                "--line-style",
                help=f"Lines and pencil as one of {', '.join(style.name for style in STYLES)}, or as a file of a style says.",
            ),
            click.option(
                "--style",
                type=FieldValue(Style(), STYLE_FIELDS),
                multiple=True,
                help=f"FIELD=VALUE of lines and pencil: {', '.join(STYLE_FIELDS)}.",
            ),
            click.option(
                "--tone",
                "tones",
                type=TONE_VALUE,
                multiple=True,
                help=f"FIELD=VALUE: highlights, {', '.join(TONE_FIELDS)}; or `project`.",
            ),
        )
    ):
        function = option(function)
    return function


def _given(project: Project, shot: Shot, values: dict[str, Any]) -> dict[str, Any]:
    names = (
        "on",
        "rendition",
        "quality",
        "background",
        "background_colour",
        "background_file",
        "ground",
        "ground_colour",
        "folder",
        "pattern",
        "file",
        "dpi",
        "scale",
        "width_px",
        "stereo_m",
        "faces",
        "step",
        "strip_every",
        "keep_master",
        "passes",
        "samples",
        "minutes",
        "until_clean",
    )
    given = without_none(**{name: values[name] for name in names})
    if values["hour"] is not None:
        given["hour"] = None if values["hour"] == "project" else parse_hour(values["hour"])
    for option, field in (("day", "date"), ("sky", "sky")):
        if values[option] is not None:
            given[field] = "" if values[option] == "project" else values[option]
    if values["lamps"] is not None:
        given["lamps"] = {"on": True, "off": False}.get(values["lamps"])
    if values["print_width"] is not None:
        given["width_px"] = size_for_print(
            parse_millimetres(values["print_width"]), values["dpi"] or shot.dpi or 300.0
        )
        given.setdefault("dpi", shot.dpi or 300.0)
    if values["region"] is not None:
        given["region"] = None if values["region"] == "whole" else _region(values["region"])
    if values["format_name"] is not None:
        given["format_index"] = _format(project, shot, values["format_name"])
    if values["front"] is not None:
        given["front_deg"] = None if values["front"] == "camera" else _front(project, shot, values["front"])
    if values["line_style"] is not None:
        given["style"] = _style(values["line_style"])
    if values["style"]:
        given["style"] = replace(given.get("style", shot.style), **fields_of(values["style"]))
    if values["tones"]:
        given["tone"] = (
            None if values["tones"] == (AS_PROJECT,) else _tone(values["tones"], shot.tone or project.tone)
        )
    return given


def _taken_in(project: Path, values: dict[str, Any]) -> dict[str, Any]:
    """The same values with files from elsewhere copied beside the project, because a project names only what lies in its folder."""
    made = dict(values)
    if values.get("background_file"):
        made["background_file"] = _within(project, values["background_file"], "backgrounds")
    made["tones"] = tuple(
        Field("table", _within(project, item.value, "tables"))
        if item.name == "table" and item.value
        else item
        for item in values.get("tones") or ()
    )
    return made


def _within(project: Path, name: str, folder: str) -> str:
    """A file's name as the project stores it; the row says so where it is not there yet.  Raises UserError for one that lies elsewhere
    and is not there."""
    path = Path(name)
    inside = not path.is_absolute() and ".." not in path.parts
    if inside and ((project.parent / path).is_file() or not path.is_file()):
        return path.as_posix()
    if not path.is_file():
        raise UserError(
            f"{name} is not there. Nothing was changed. Name a file that is, or one in the project's folder."
        )
    return take_in(path, [], project, folder)


def _front(project: Project, shot: Shot, text: str) -> float:
    """A heading in degrees, or the one from the row's camera towards a place or another camera."""
    camera = project.camera(shot.subject)
    if camera is None or shot.kind != PANORAMA:
        raise Refused("Only a panorama has a front.")
    other = next((item for item in project.cameras if text in (item.name, item.id)), None)
    if other is None and "," not in text:
        return number_of(text, "--front")
    to = other.eye if other is not None else tuple(number_of(part, "--front") for part in text.split(","))
    if len(to) not in (2, 3):
        raise Refused("Write a place as X,Y or X,Y,Z in metres.")
    return round(direction_to(camera.eye, (to[0], to[1], camera.eye[2]))[0], 3)


def _style(name: str) -> Style:
    """A line style by name, or from a file."""
    path = Path(name)
    return read_style(path) if path.suffix == STYLE_SUFFIX else style_named(name)


def _region(text: str) -> tuple[float, float, float, float]:
    parts = [number_of(part, "--region") for part in text.split(",")]
    if len(parts) != 4:
        raise Refused(
            "Write a region as LEFT,TOP,RIGHT,BOTTOM in shares of the frame, such as 0.2,0.3,0.6,0.7."
        )
    left, top, right, bottom = parts
    return (left, top, right, bottom)


def _tone(given: tuple[Field, ...], now: Tone) -> Tone:
    """A tone with these fields; ``highlights`` is the bend of highlights counted as photographers do."""
    values = fields_of(given)
    if "highlights" in values:
        values["rolloff"] = 1.0 - values.pop("highlights")
    return replace(now, **values)


def _format(project: Project, shot: Shot, name: str) -> int:
    camera = project.camera(shot.subject)
    formats = camera.all_formats if camera is not None else ()
    for index, item in enumerate(formats):
        if name in (item.name, str(index + 1)):
            return index
    raise Refused(f"The camera has no format “{name}”. Formats: {', '.join(item.name for item in formats)}.")


@shots_group.command("add")
@click.argument("project", type=ProjectPath)
@click.option("--camera", "cameras", multiple=True, help="A still of this camera.")
@click.option("--walk", "walks", multiple=True, help="A film of this walk or turntable.")
@click.option("--panorama", "panoramas", multiple=True, help="A panorama from this camera's place.")
@_options
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
    values = _taken_in(project, values)
    rows = [start_values(before, STILL, before.camera_named(name).id) for name in cameras]
    rows += [start_values(before, FILM, before.walk_named(name).id) for name in walks]
    rows += [start_values(before, PANORAMA, before.camera_named(name).id) for name in panoramas]
    after = edited(
        project,
        lambda current: add_shots(current, [replace(row, **_given(current, row, values)) for row in rows]),
    )
    made = after.shots[-len(rows) :]
    say(
        as_json,
        msgspec.to_builtins(made),
        [f"{item.id}: {_subject(after, item)}, {item.kind}" for item in made],
    )


@shots_group.command("set")
@click.argument("project", type=ProjectPath)
@click.argument("rows", nargs=-1, required=True)
@_options
@JSON
def set_(project: Path, rows: tuple[str, ...], as_json: bool, **values: Any) -> None:
    """Change rows, by number or id, several at once."""
    ids = shot_ids(read_project(project), rows)
    values = _taken_in(project, values)

    def edit(current: Project) -> Project:
        for shot_id in ids:
            shot = current.shot(shot_id)
            assert shot is not None
            current = change_shots(current, [shot_id], **_given(current, shot, values))
        return current

    after = edited(project, edit)
    made = [item for item in after.shots if item.id in ids]
    say(as_json, msgspec.to_builtins(made), [f"{item.id}: {_subject(after, item)}" for item in made])


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
    fields = _taken_in(project, {"tones": fields})["tones"]
    after = edited(project, lambda current: set_tone(current, _tone(fields, current.tone)))
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
    """The line styles that come with Altana, or a row's own; --save keeps it as a file for other rows and projects."""
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
    """The figures behind proof, review and final in this project; with a word and FIELD=VALUE …, set them; `usual` as the
    only field puts them back."""
    read = read_project(project)
    if word is not None and fields:
        now = USUAL_QUALITIES.of(word) if fields == (AS_USUAL,) else read.qualities.of(word)
        given = {} if fields == (AS_USUAL,) else fields_of(fields)
        read = edited(project, lambda current: set_making(current, word, replace(now, **given)))
    lines = [
        f"{name:7} {made.passes} passes, film frames {made.film_passes}, shadow map {made.shadow_px} px"
        for name in QUALITY_WORDS
        for made in (read.qualities.of(name),)
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
    made = write_pages(read, rows, model, out, wanted, template)
    say(as_json, {"files": [str(path) for path in made]}, [str(path) for path in made])


@click.command("remembered")
@click.argument("picture", type=click.Path(dir_okay=False, path_type=Path))
@JSON
def remembered_(picture: Path, as_json: bool) -> None:
    """The camera that a picture was made with."""
    held = remembered(picture)
    camera = held.camera
    lines = [
        f"{camera.name} of {held.project}: eye {', '.join(f'{value:.3f}' for value in camera.eye)}, {camera.focal_mm:g} mm"
    ]
    say(as_json, msgspec.to_builtins(held), lines)
