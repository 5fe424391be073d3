"""``altana render``: pictures and films to a folder; the window starts the same command for its own jobs."""

from __future__ import annotations

import contextlib
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import click

from altana.cli.machines import CERTIFICATES
from altana.cli.shared import (
    JSON,
    ProjectPath,
    asked_to_stop,
    opened_models,
    process_began,
    say,
    tell_progress,
)
from altana.core.edits.shots import add_shots, start_values
from altana.core.errors import UserError
from altana.core.file_kinds import FILM_KINDS
from altana.core.light.transport import Cancelled
from altana.core.project import PANORAMA, QUALITY_WORDS, RENDITIONS, Project
from altana.core.ranges import MINUTES, SAMPLES
from altana.jobs.awake import kept_awake
from altana.jobs.batch import Batch, facts_of
from altana.jobs.elsewhere import Machines
from altana.jobs.estimates import doubts
from altana.jobs.machines.local import local_cluster
from altana.jobs.machines.places import address_of
from altana.jobs.machines.plan import plan_of
from altana.jobs.made import models_digest, outdated_rows
from altana.jobs.requests import Part, parse_size, request_for
from altana.jobs.run import Run
from altana.jobs.shotlist import chosen_rows, rows_of, shot_request, trial
from altana.render.encode import CORNERS, STAMPS, Stamp
from altana.storage.made import DIRECT, all_made
from altana.storage.project_file import read_project


@click.command("render")
@click.argument("project", type=ProjectPath)
@click.option("--camera", "cameras", multiple=True, help="A camera by name or id; give it several times.")
@click.option("--all", "everything", is_flag=True, help="All cameras.")
@click.option("--walk", "walks", multiple=True, help="A walk by name or id; give it several times.")
@click.option("--all-walks", is_flag=True, help="All walks.")
@click.option(
    "--shot", "shots", multiple=True, help="A row of the shot list, by number or id; give it several times."
)
@click.option("--shots", "every_shot", is_flag=True, help="All rows of the shot list that are on.")
@click.option(
    "--panorama", "panoramas", multiple=True, help="A panorama from a camera's place; give it several times."
)
@click.option(
    "--out-of-date",
    "outdated",
    is_flag=True,
    help="Of the rows that are on those that are missing or would be another now.",
)
@click.option(
    "--name", default="", help="The file's name without its kind, where one picture or film is made."
)
@click.option("--unlisted", is_flag=True, help="Not in the list of what was made (`altana made`).")
@click.option(
    "--project-name", default="", hidden=True, help="Of which project, where a copy of it is handed over."
)
@click.option(
    "--test",
    "trial_run",
    is_flag=True,
    help="Rows as proofs of a quarter of the size, into the folder tests.",
)
@click.option(
    "--stereo",
    type=float,
    default=0.0,
    help="Panoramas for two eyes so far apart, metres, one above the other.",
)
@click.option("--faces", is_flag=True, help="The six faces of panoramas as files too.")
@click.option("--date", "today", default="", help="What {date} in names becomes.")
@click.option("--version", "version_name", default="", help="What {version} in names becomes.")
@click.option("--after", help="A command that is run when all is done.")
@click.option(
    "--switch-off",
    "off",
    is_flag=True,
    help="Switch the machine off when all is done, a minute after saying so.",
)
@click.option("--size", help="Largest width x height in pixels; each camera keeps its proportion.")
@click.option("--scale", type=float, default=100.0, help="Per cent of the size, 1 to 400.")
@click.option("--rate", help="Frames a second of films instead of the walks' own.")
@click.option(
    "--quality",
    type=click.Choice(QUALITY_WORDS),
    help="review where nothing is said; of rows instead of their own.",
)
@click.option(
    "--samples", type=int, default=0, help="Final: samples a pixel instead of what rows and final say."
)
@click.option("--minutes", type=float, default=0.0, help="Final: so many minutes for each picture.")
@click.option(
    "--passes",
    is_flag=True,
    help="Beside each still an EXR of layers: light, albedo, normal, depth, objects, materials.",
)
@click.option(
    "--kind", type=click.Choice(["png", "jpg"]), default="png", show_default=True, help="Kind of picture."
)
@click.option("--film", type=click.Choice(FILM_KINDS), default="mp4", show_default=True, help="Kind of film.")
@click.option("--from", "from_s", type=float, default=0.0, help="Films begin at this second of the walk.")
@click.option("--to", "to_s", type=float, help="Films end at this second of the walk.")
@click.option(
    "--step",
    type=int,
    default=1,
    show_default=True,
    help="Every n-th film frame only; the film lasts as long.",
)
@click.option(
    "--strip", type=int, default=0, help="A contact strip of every n-th film frame beside each film."
)
@click.option("--keep-frames", is_flag=True, help="Keep the film frames as PNG in a folder beside the film.")
@click.option(
    "--drawn",
    type=click.Choice(RENDITIONS),
    help="How everything is drawn, instead of as its row of the shot list says.",
)
@click.option(
    "--stamp", help=f"Written into a corner of film frames, with commas between: {', '.join(STAMPS)}."
)
@click.option("--stamp-corner", type=click.Choice(CORNERS), default=Stamp().corner, show_default=True)
@click.option(
    "--stamp-size", type=float, default=3.0, show_default=True, help="Per cent of the film's height."
)
@click.option(
    "--out", required=True, type=click.Path(file_okay=False, path_type=Path), help="Folder for the files."
)
@click.option(
    "--job",
    type=click.Path(file_okay=False, path_type=Path),
    help="Folder for the journal and unfinished pieces.",
)
@click.option("--resume", is_flag=True, help="Make only what the job has not finished.")
@click.option(
    "--base",
    type=click.Path(file_okay=False, path_type=Path),
    help="Folder that the project's model paths start from.",
)
@click.option(
    "--awake", is_flag=True, help="Keep the machine from falling asleep meanwhile, where the system can."
)
@click.option(
    "--on", "on", default="", help="Address of the scheduler whose machines make it, such as tcp://host:8786."
)
@click.option("--machines", type=click.IntRange(1), help="So many processes of this machine, instead of one.")
@CERTIFICATES
@click.option(
    "--plan-machines", is_flag=True, help="Only say how long it would take on several machines of this kind."
)
@JSON
def render(
    project: Path,
    cameras: tuple[str, ...],
    everything: bool,
    walks: tuple[str, ...],
    all_walks: bool,
    shots: tuple[str, ...],
    every_shot: bool,
    panoramas: tuple[str, ...],
    outdated: bool,
    name: str,
    unlisted: bool,
    project_name: str,
    trial_run: bool,
    stereo: float,
    faces: bool,
    today: str,
    version_name: str,
    after: str | None,
    off: bool,
    size: str | None,
    scale: float,
    rate: str | None,
    quality: str | None,
    samples: int,
    minutes: float,
    passes: bool,
    kind: str,
    film: str,
    from_s: float,
    to_s: float | None,
    step: int,
    strip: int,
    keep_frames: bool,
    drawn: str | None,
    stamp: str | None,
    stamp_corner: str,
    stamp_size: float,
    out: Path,
    job: Path | None,
    resume: bool,
    base: Path | None,
    awake: bool,
    on: str,
    machines: int | None,
    certificates: Path | None,
    plan_machines: bool,
    as_json: bool,
) -> None:
    """Make pictures of cameras and films of walks."""
    read = read_project(project)
    chosen = read.cameras if everything else tuple(read.camera_named(name) for name in cameras)
    walked = read.walks if all_walks else tuple(read.walk_named(name) for name in walks)
    listed = bool(shots) or every_shot or outdated or bool(panoramas)
    if bool(chosen or walked) == listed:
        raise click.UsageError(
            "Name what to make: --camera, --all, --walk or --all-walks; or --shot, --shots, --out-of-date or --panorama."
        )
    fields = tuple(name.strip() for name in stamp.split(",")) if stamp else ()
    part = Part(from_s, to_s, step, strip, keep_frames, Stamp(fields, stamp_corner, stamp_size / 100.0))
    opened = opened_models(read, (base / "project.altana") if base else project)
    if panoramas:
        read = _with_panoramas(read, panoramas, size, quality or "review", kind, stereo, faces)
        shots = tuple(item.id for item in read.shots[-len(panoramas) :])
    folder = base or project.parent
    if listed:
        rows = rows_of(read, opened.model, today, version_name)
        if outdated:
            rows = outdated_rows(read, rows, out, folder, all_made(folder), models_digest(read, folder))
            if not rows:
                say(
                    as_json,
                    {"files": [], "seconds": 0.0, "checks": {}, "aside": {}},
                    ["Everything is current."],
                )
                return
        else:
            rows = chosen_rows(rows, shots)
        request = trial(rows, read) if trial_run else shot_request(rows, read, quality or "")
        if panoramas:
            # Their rows stand in no project.
            request = replace(request, way=DIRECT)
    else:
        request = request_for(
            read,
            chosen,
            walked,
            parse_size(size) if size else None,
            rate,
            quality or "review",
            kind,
            scale / 100.0,
            film,
            part,
            drawn or "",
            name,
        )
    SAMPLES.check("Samples: a number", samples)
    MINUTES.check("A time", minutes)
    of = "" if unlisted else project_name or project.name
    request = replace(request, samples=samples, minutes=minutes, passes=passes, of=of)
    for doubt in (*doubts(request.items, quality or "review", out), *opened.without):
        click.echo(doubt, err=True)
    if plan_machines:
        plan = plan_of(request.items, request)
        say(as_json, plan.facts(), plan.lines())
        return
    started = time.monotonic()
    with (
        tempfile.TemporaryDirectory(prefix="altana-job-") as scratch,
        _machines(on, machines, certificates) as fleet,
        kept_awake(awake, f"Pictures of {read.name} are being made") as is_awake,
    ):
        run = Run(
            request,
            opened,
            out,
            job or Path(scratch),
            resume,
            asked_to_stop(),
            None if as_json else tell_progress,
        )
        run.base, run.patient, run.off, run.begun = folder, listed, off, process_began()
        run.machines, run.awake = fleet, is_awake
        batch = Batch(run, lambda other: opened_models(other, folder / "project.altana"))
        try:
            batch.go()
        except Cancelled:
            raise UserError(
                f"Stopped. {len(batch.written)} of {len(request.items)} files were finished and are kept in {out}."
            ) from None
    facts = {
        **facts_of(batch),
        "seconds": round(time.monotonic() - started, 2),
        "without": list(opened.without),
    }
    if fleet is not None:
        facts["machines"] = fleet.facts()
    if not as_json and sys.stderr.isatty():
        sys.stderr.write("\n")
    say(
        as_json,
        facts,
        [*(str(path) for path in batch.written), *(check.sentence for check in batch.checks.values())],
    )
    if after:
        # The person's own command, with the person's own shell.
        done = subprocess.run(
            after, shell=True, check=False, stdout=subprocess.PIPE, stderr=subprocess.STDOUT
        )
        click.echo(done.stdout.decode("utf-8", "replace").rstrip(), err=True)
    run.switch_off(lambda sentence: click.echo(sentence, err=True))
    if batch.aside:
        told = " ".join(batch.aside.values())
        many = len(request.items) > 1 or listed
        raise UserError(
            f"{len(batch.aside)} of {len(request.items)} rows were set aside: {told}" if many else told
        )


@contextlib.contextmanager
def _machines(on: str, count: int | None, certificates: Path | None) -> Iterator[Machines | None]:
    """Other machines, where some are asked for.  Raises UserError."""
    if on and count:
        raise click.UsageError("Give --on or --machines, not both.")
    if not (on or count):
        yield None
        return
    address = address_of(on, certificates) if on else ""
    # Loaded only here: most runs need no other machine.
    from altana.jobs.machines.fleet import Fleet

    with local_cluster(count) if count else contextlib.nullcontext(address) as where:
        fleet = Fleet(where, certificates)
        try:
            yield fleet
        finally:
            fleet.close()


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
