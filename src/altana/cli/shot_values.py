"""What can be said of a row of the shot list on the command line, and what it means."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any

import click

from altana.cli.shared import without_none
from altana.cli.values import Field, FieldValue, fields_of, number_of
from altana.core.camera.pose import direction_to
from altana.core.errors import Refused, UserError
from altana.core.light.clock import parse_hour
from altana.core.measures import parse_millimetres
from altana.core.naming import size_for_print
from altana.core.project import (
    BACKGROUNDS,
    GROUNDS,
    PANORAMA,
    QUALITY_WORDS,
    RENDITIONS,
    SKIES,
    Making,
    Project,
    Shot,
    Style,
    Tone,
)
from altana.core.styles import STYLES, style_named
from altana.storage.presets import STYLE_SUFFIX, read_style
from altana.storage.project_file import take_in

TONE_FIELDS = tuple(Tone.__slots__)
MAKING_FIELDS = tuple(Making.__slots__)
STYLE_FIELDS = tuple(name for name in Style.__slots__ if name != "name")
#: A row's own tone given up for the project's.
AS_PROJECT = Field("project")
TONE_VALUE = FieldValue(Tone(), TONE_FIELDS, words=("project",), own={"highlights": float})
#: The figures behind a quality put back.
AS_USUAL = Field("usual")


#: The options of a row.
ROW_OPTIONS = (
    click.option("--format", "format_name", help="Which of the camera's formats, by name or number from 1."),
    click.option("--on/--off", "on", default=None),
    click.option("--drawn", "rendition", type=click.Choice(RENDITIONS)),
    click.option("--quality", type=click.Choice(QUALITY_WORDS)),
    click.option("--background", type=click.Choice(BACKGROUNDS)),
    click.option("--background-colour", help="#rrggbb, for a plain background."),
    click.option("--background-file", help="A picture in the project's folder, fitted to the horizon."),
    click.option(
        "--ground", type=click.Choice(GROUNDS), help="What lies below the horizon where the model ends."
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
    click.option("--name", "pattern", help="Name of the file: {order}-{camera}-{format} and other fields."),
    click.option(
        "--file", help="Kind of file: png, png16, jpg, tif, exr; mp4, h265, mov, webm, avi, gif, png-frames …"
    ),
    click.option("--dpi", type=float, help="Written into the file; 0 writes none."),
    click.option("--scale", type=float, help="Per cent of the format's size, 25 to 400."),
    click.option("--width", "width_px", type=int, help="Pixels across instead of the format's."),
    click.option(
        "--print-width", help="Width on paper, such as 297, 30cm or 11in; with --dpi the pixels follow."
    ),
    click.option("--region", help="LEFT,TOP,RIGHT,BOTTOM in shares of the frame, or `whole`."),
    click.option("--stereo", "stereo_m", type=float, help="Panoramas: two eyes so far apart, metres."),
    click.option(
        "--front",
        help="Panoramas: the heading of the middle, X,Y,Z or a camera's name to look towards, or `camera`.",
    ),
    click.option("--faces/--no-faces", default=None, help="Panoramas: the six faces as files too."),
    click.option("--step", type=int, help="Films: every n-th film frame."),
    click.option("--strip", "strip_every", type=int, help="Films: a contact strip of every n-th film frame."),
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


def row_options(function: Any) -> Any:
    """Give a command the options of a row."""
    for option in reversed(ROW_OPTIONS):
        function = option(function)
    return function


#: Options that become the row's field of the same name as they are.
AS_THEY_ARE = (
    *("on", "rendition", "quality", "background", "background_colour", "background_file", "ground"),
    *("ground_colour", "folder", "pattern", "file", "dpi", "scale", "width_px", "stereo_m", "faces", "step"),
    *("strip_every", "keep_master", "passes", "samples", "minutes", "until_clean"),
)


def given_values(project: Project, shot: Shot, values: dict[str, Any]) -> dict[str, Any]:
    """What was said of a row, as its fields.  Raises Refused for what means nothing."""
    given = without_none(**{name: values[name] for name in AS_THEY_ARE})
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
            None if values["tones"] == (AS_PROJECT,) else tone_of(values["tones"], shot.tone or project.tone)
        )
    return given


def files_taken_in(project: Path, values: dict[str, Any]) -> dict[str, Any]:
    """The same values with files from elsewhere copied beside the project, because a project names only what
    lies in its folder."""
    own_values = dict(values)
    if values.get("background_file"):
        own_values["background_file"] = _within(project, values["background_file"], "backgrounds")
    own_values["tones"] = tuple(
        Field("table", _within(project, item.value, "tables"))
        if item.name == "table" and item.value
        else item
        for item in values.get("tones") or ()
    )
    return own_values


def _within(project: Path, name: str, folder: str) -> str:
    """A file's name as the project stores it; the row says so where it is not there yet.  Raises UserError
    for one that lies elsewhere and is not there."""
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


def tone_of(given: tuple[Field, ...], now: Tone) -> Tone:
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
