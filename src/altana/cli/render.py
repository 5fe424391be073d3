"""``altana render``: pictures and films to a folder; the window starts the same command for its own jobs."""

from __future__ import annotations

import sys
import tempfile
import time
from pathlib import Path

import click

from altana.cli.shared import JSON, ProjectPath, asked_to_stop, named, opened_models, say, tell_progress
from altana.core.errors import UserError
from altana.core.light.transport import Cancelled
from altana.jobs.requests import Part, parse_size, request_for
from altana.jobs.run import Run
from altana.render.encode import CORNERS, FILM_KINDS, STAMPS, Stamp
from altana.storage.project_file import read_project


@click.command("render")
@click.argument("project", type=ProjectPath)
@click.option("--camera", "cameras", multiple=True, help="A camera by name or id; give it several times.")
@click.option("--all", "everything", is_flag=True, help="All cameras.")
@click.option("--walk", "walks", multiple=True, help="A walk by name or id; give it several times.")
@click.option("--all-walks", is_flag=True, help="All walks.")
@click.option("--size", help="Largest width x height in pixels; each camera keeps its proportion.")
@click.option("--scale", type=float, default=100.0, help="Per cent of the size, 1 to 400.")
@click.option("--rate", help="Frames a second of films instead of the walks' own.")
@click.option("--quality", type=click.Choice(["proof", "review", "final"]), default="review", show_default=True)
@click.option("--kind", type=click.Choice(["png", "jpg"]), default="png", show_default=True, help="Kind of picture.")
@click.option("--film", type=click.Choice(FILM_KINDS), default="mp4", show_default=True, help="Kind of film.")
@click.option("--from", "from_s", type=float, default=0.0, help="Films begin at this second of the walk.")
@click.option("--to", "to_s", type=float, help="Films end at this second of the walk.")
@click.option("--step", type=int, default=1, show_default=True, help="Every n-th film frame only; the film lasts as long.")
@click.option("--strip", type=int, default=0, help="A contact strip of every n-th film frame beside each film.")
@click.option("--keep-frames", is_flag=True, help="Keep the film frames as PNG in a folder beside the film.")
@click.option("--stamp", help=f"Written into a corner of film frames, with commas between: {', '.join(STAMPS)}.")
@click.option("--stamp-corner", type=click.Choice(CORNERS), default=Stamp().corner, show_default=True)
@click.option("--stamp-size", type=float, default=3.0, show_default=True, help="Per cent of the film's height.")
@click.option("--out", required=True, type=click.Path(file_okay=False, path_type=Path), help="Folder for the files.")
@click.option("--job", type=click.Path(file_okay=False, path_type=Path), help="Folder for the journal and unfinished pieces.")
@click.option("--resume", is_flag=True, help="Make only what the job has not finished.")
@click.option("--base", type=click.Path(file_okay=False, path_type=Path), help="Folder that the project's model paths start from.")
@JSON
def render(
    project: Path,
    cameras: tuple[str, ...],
    everything: bool,
    walks: tuple[str, ...],
    all_walks: bool,
    size: str | None,
    scale: float,
    rate: str | None,
    quality: str,
    kind: str,
    film: str,
    from_s: float,
    to_s: float | None,
    step: int,
    strip: int,
    keep_frames: bool,
    stamp: str | None,
    stamp_corner: str,
    stamp_size: float,
    out: Path,
    job: Path | None,
    resume: bool,
    base: Path | None,
    as_json: bool,
) -> None:
    """Make pictures of cameras and films of walks."""
    read = read_project(project)
    chosen = read.cameras if everything else tuple(named(read.camera_named, name) for name in cameras)
    walked = read.walks if all_walks else tuple(named(read.walk_named, name) for name in walks)
    if not chosen and not walked:
        raise click.UsageError("Name what to make: --camera, --all, --walk or --all-walks.")
    fields = tuple(name.strip() for name in stamp.split(",")) if stamp else ()
    part = Part(from_s, to_s, step, strip, keep_frames, Stamp(fields, stamp_corner, stamp_size / 100.0))
    request = request_for(read, chosen, walked, parse_size(size) if size else None, rate, quality, kind, scale / 100.0, film, part)
    opened = opened_models(read, (base / "project.altana") if base else project)
    started = time.monotonic()
    with tempfile.TemporaryDirectory(prefix="altana-job-") as scratch:
        run = Run(request, opened, out, job or Path(scratch), resume, asked_to_stop(), None if as_json else tell_progress)
        try:
            written = run.go()
        except Cancelled:
            raise UserError(f"Stopped. {len(run.written)} of {len(request.items)} files were finished and are kept in {out}.") from None
    facts = {
        "files": [str(path) for path in written],
        "seconds": round(time.monotonic() - started, 2),
        "checks": {name: check.facts() for name, check in run.checks.items()},
    }
    if not as_json and sys.stderr.isatty():
        sys.stderr.write("\n")
    say(as_json, facts, [*(str(path) for path in written), *(check.sentence for check in run.checks.values())])
