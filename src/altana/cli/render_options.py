"""What ``altana render`` can be told, and the order that it makes of it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import click

from altana.cli.machines import CERTIFICATES, SHARED_FOLDER
from altana.core.edits.shots import add_shots, start_values
from altana.core.file_kinds import FILM_KINDS
from altana.core.project import PANORAMA, QUALITY_WORDS, RENDITIONS, Camera, Project, Walk
from altana.core.ranges import MINUTES, SAMPLES
from altana.jobs.made import models_digest, outdated_rows
from altana.jobs.models import Opened
from altana.jobs.requests import Part, Request, check_scale, parse_size, request_for
from altana.jobs.shotlist import chosen_rows, fitted, rows_of, shot_request, sized, trial
from altana.render.encode import CORNERS, STAMPS, Stamp
from altana.storage.made import DIRECT, all_made

OPTIONS = (
    click.option("--camera", "cameras", multiple=True, help="A camera by name or id; give it several times."),
    click.option("--all", "everything", is_flag=True, help="All cameras."),
    click.option("--walk", "walks", multiple=True, help="A walk by name or id; give it several times."),
    click.option("--all-walks", is_flag=True, help="All walks."),
    click.option(
        "--shot",
        "shots",
        multiple=True,
        help="A row of the shot list, by number or id; give it several times.",
    ),
    click.option("--shots", "every_shot", is_flag=True, help="All rows of the shot list that are on."),
    click.option(
        "--panorama",
        "panoramas",
        multiple=True,
        help="A panorama from a camera's place; give it several times.",
    ),
    click.option(
        "--out-of-date",
        "outdated",
        is_flag=True,
        help="Of the rows that are on those that are missing or would be another now.",
    ),
    click.option(
        "--name", default="", help="The file's name without its kind, where one picture or film is made."
    ),
    click.option("--unlisted", is_flag=True, help="Not in the list of what was made (`altana made`)."),
    click.option(
        "--project-name", default="", hidden=True, help="Of which project, where a copy of it is handed over."
    ),
    click.option(
        "--test",
        "trial_run",
        is_flag=True,
        help="Rows as proofs of a quarter of the size, into the folder tests.",
    ),
    click.option(
        "--stereo",
        type=float,
        default=0.0,
        help="Panoramas for two eyes so far apart, metres, one above the other.",
    ),
    click.option("--faces", is_flag=True, help="The six faces of panoramas as files too."),
    click.option("--date", "today", default="", help="What {date} in names becomes."),
    click.option("--version", "version_name", default="", help="What {version} in names becomes."),
    click.option("--after", help="A command that is run when all is done."),
    click.option(
        "--switch-off",
        "off",
        is_flag=True,
        help="Switch the machine off when all is done, a minute after saying so.",
    ),
    click.option("--size", help="Largest width x height in pixels; cameras and rows keep their proportion."),
    click.option("--scale", type=float, default=100.0, help="Per cent of the size, 1 to 400."),
    click.option("--rate", help="Frames a second of films instead of the walks' own."),
    click.option(
        "--quality",
        type=click.Choice(QUALITY_WORDS),
        help="review where nothing is said; of rows instead of their own.",
    ),
    click.option(
        "--samples", type=int, default=0, help="Final: samples a pixel instead of what rows and final say."
    ),
    click.option("--minutes", type=float, default=0.0, help="Final: so many minutes for each picture."),
    click.option(
        "--passes",
        is_flag=True,
        help="Beside each still an EXR of layers: light, albedo, normal, depth, objects, materials.",
    ),
    click.option(
        "--kind", type=click.Choice(["png", "jpg"]), default="png", show_default=True, help="Kind of picture."
    ),
    click.option(
        "--film", type=click.Choice(FILM_KINDS), default="mp4", show_default=True, help="Kind of film."
    ),
    click.option("--from", "from_s", type=float, default=0.0, help="Films begin at this second of the walk."),
    click.option("--to", "to_s", type=float, help="Films end at this second of the walk."),
    click.option(
        "--step",
        type=int,
        default=1,
        show_default=True,
        help="Every n-th film frame only; the film lasts as long.",
    ),
    click.option(
        "--strip", type=int, default=0, help="A contact strip of every n-th film frame beside each film."
    ),
    click.option(
        "--keep-frames", is_flag=True, help="Keep the film frames as PNG in a folder beside the film."
    ),
    click.option(
        "--drawn",
        type=click.Choice(RENDITIONS),
        help="How everything is drawn, instead of as its row of the shot list says.",
    ),
    click.option(
        "--stamp", help=f"Written into a corner of film frames, with commas between: {', '.join(STAMPS)}."
    ),
    click.option("--stamp-corner", type=click.Choice(CORNERS), default=Stamp().corner, show_default=True),
    click.option(
        "--stamp-size", type=float, default=3.0, show_default=True, help="Per cent of the film's height."
    ),
    click.option(
        "--out", required=True, type=click.Path(file_okay=False, path_type=Path), help="Folder for the files."
    ),
    click.option(
        "--job",
        type=click.Path(file_okay=False, path_type=Path),
        help="Folder for the journal and unfinished pieces.",
    ),
    click.option("--resume", is_flag=True, help="Make only what the job has not finished."),
    click.option(
        "--base",
        type=click.Path(file_okay=False, path_type=Path),
        help="Folder that the project's model paths start from.",
    ),
    click.option(
        "--awake", is_flag=True, help="Keep the machine from falling asleep meanwhile, where the system can."
    ),
    click.option(
        "--on",
        "on",
        default="",
        help="Address of the scheduler whose machines make it, such as tcp://host:8786.",
    ),
    click.option(
        "--machines", type=click.IntRange(1), help="So many processes of this machine, instead of one."
    ),
    CERTIFICATES,
    SHARED_FOLDER,
    click.option(
        "--plan-machines",
        is_flag=True,
        help="Only say how long it would take on several machines of this kind.",
    ),
)


def render_options(function: Any) -> Any:
    """Give a command the options of ``altana render``."""
    for option in reversed(OPTIONS):
        function = option(function)
    return function


@dataclass(frozen=True, slots=True)
class RenderOptions:
    """What was said on the command line, by the options' names."""

    cameras: tuple[str, ...]
    everything: bool
    walks: tuple[str, ...]
    all_walks: bool
    shots: tuple[str, ...]
    every_shot: bool
    panoramas: tuple[str, ...]
    outdated: bool
    name: str
    unlisted: bool
    project_name: str
    trial_run: bool
    stereo: float
    faces: bool
    today: str
    version_name: str
    after: str | None
    off: bool
    size: str | None
    scale: float
    rate: str | None
    quality: str | None
    samples: int
    minutes: float
    passes: bool
    kind: str
    film: str
    from_s: float
    to_s: float | None
    step: int
    strip: int
    keep_frames: bool
    drawn: str | None
    stamp: str | None
    stamp_corner: str
    stamp_size: float
    out: Path
    job: Path | None
    resume: bool
    base: Path | None
    awake: bool
    on: str
    machines: int | None
    certificates: Path | None
    shared: Path | None
    plan_machines: bool

    @property
    def listed(self) -> bool:
        """Whether rows of the shot list are meant."""
        return bool(self.shots) or self.every_shot or self.outdated or bool(self.panoramas)

    def part(self) -> Part:
        """The part of films that is wanted, and their stamp."""
        fields = tuple(name.strip() for name in self.stamp.split(",")) if self.stamp else ()
        stamp = Stamp(fields, self.stamp_corner, self.stamp_size / 100.0)
        return Part(self.from_s, self.to_s, self.step, self.strip, self.keep_frames, stamp)


Subjects = tuple[tuple[Camera, ...], tuple[Walk, ...]]


def subjects_of(options: RenderOptions, project: Project) -> Subjects:
    """The cameras and walks that were named; none where rows are meant.  Raises UserError, and UsageError
    where nothing was named."""
    cameras = project.cameras if options.everything else tuple(map(project.camera_named, options.cameras))
    walks = project.walks if options.all_walks else tuple(map(project.walk_named, options.walks))
    if bool(cameras or walks) == options.listed:
        raise click.UsageError(
            "Name what to make: --camera, --all, --walk or --all-walks; or --shot, --shots, --out-of-date or --panorama."
        )
    return cameras, walks


def request_of(
    options: RenderOptions, path: Path, project: Project, subjects: Subjects, opened: Opened
) -> Request | None:
    """The request that was meant; None where nothing is out of date.  path : the project's file.  Raises
    UserError."""
    request: Request | None
    if options.listed:
        request = _of_rows(options, path, project, opened)
        if request is None:
            return None
    else:
        cameras, walks = subjects
        request = request_for(
            project,
            cameras,
            walks,
            parse_size(options.size) if options.size else None,
            options.rate,
            options.quality or "review",
            options.kind,
            options.scale / 100.0,
            options.film,
            options.part(),
            options.drawn or "",
            options.name,
        )
    SAMPLES.check("Samples: a number", options.samples)
    MINUTES.check("A time", options.minutes)
    of = "" if options.unlisted else options.project_name or path.name
    return replace(request, samples=options.samples, minutes=options.minutes, passes=options.passes, of=of)


def _of_rows(options: RenderOptions, path: Path, project: Project, opened: Opened) -> Request | None:
    """Of rows of the shot list, or of panoramas that stand in none; None where no row is out of date."""
    shots = options.shots
    if options.panoramas:
        project = _with_panoramas(
            project,
            options.panoramas,
            options.size,
            options.quality or "review",
            options.kind,
            options.stereo,
            options.faces,
        )
        shots = tuple(item.id for item in project.shots[-len(options.panoramas) :])
    rows = rows_of(project, opened.model, options.today, options.version_name)
    if options.outdated:
        folder = options.base or path.parent
        rows = outdated_rows(
            project, rows, options.out, folder, all_made(folder), models_digest(project, folder)
        )
        if not rows:
            return None
    else:
        rows = chosen_rows(rows, shots)
    request = (
        trial(rows, project) if options.trial_run else shot_request(rows, project, options.quality or "")
    )
    if options.panoramas:
        # Their rows stand in no project, and have the size already.
        return replace(request, way=DIRECT)
    items = request.items
    if options.size:
        items = tuple(fitted(item, parse_size(options.size)) for item in items)
    if options.scale != 100.0:
        check_scale(options.scale / 100.0)
        items = tuple(sized(item, options.scale / 100.0) for item in items)
    return replace(request, items=items)


def _with_panoramas(
    project: Project,
    names: tuple[str, ...],
    size: str | None,
    quality: str,
    kind: str,
    stereo_m: float,
    faces: bool,
) -> Project:
    """The project with a row for each panorama asked for by camera."""
    width = parse_size(size)[0] if size else 4000
    rows = []
    for name in names:
        camera = project.camera_named(name)
        row = start_values(project, PANORAMA, camera.id)
        kinds = "png" if kind == "png" else "jpg"
        rows.append(
            replace(
                row,
                width_px=width,
                quality=quality,
                file=kinds,
                folder="",
                keep_master=False,
                pattern="{camera}-panorama",
                stereo_m=stereo_m,
                faces=faces,
            )
        )
    return add_shots(project, rows)
