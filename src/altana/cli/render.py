"""``altana render``: pictures and films to a folder; the window starts the same command for its own jobs."""

from __future__ import annotations

import contextlib
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import click

from altana.cli.machines import use_shared
from altana.cli.render_options import RenderOptions, render_options, request_of, subjects_of
from altana.cli.shared import (
    JSON,
    ProjectPath,
    asked_to_stop,
    opened_models,
    process_began,
    say,
    tell_progress,
)
from altana.core.errors import UserError
from altana.core.light.transport import Cancelled
from altana.jobs.awake import kept_awake
from altana.jobs.batch import Batch, facts_of
from altana.jobs.elsewhere import Machines
from altana.jobs.estimates import doubts
from altana.jobs.machines.local import local_cluster
from altana.jobs.machines.places import address_of
from altana.jobs.machines.plan import plan_of
from altana.jobs.models import Opened
from altana.jobs.requests import Request
from altana.jobs.run import Run
from altana.storage.project_file import read_project
from altana.storage.scratch import scratch_folder


@click.command("render")
@click.argument("project", type=ProjectPath)
@render_options
@JSON
def render(project: Path, as_json: bool, **values: Any) -> None:
    """Make pictures of cameras and films of walks."""
    options = RenderOptions(**values)
    read = read_project(project)
    folder = options.base or project.parent
    subjects = subjects_of(options, read)
    opened = opened_models(read, (options.base / "project.altana") if options.base else project)
    request = request_of(options, project, read, subjects, opened)
    if request is None:
        nothing = {"files": [], "seconds": 0.0, "checks": {}, "aside": {}}
        say(as_json, nothing, ["Everything is current."])
        return
    for doubt in (*doubts(request.items, options.quality or "review", options.out), *opened.without):
        click.echo(doubt, err=True)
    if options.plan_machines:
        plan = plan_of(request.items, request)
        say(as_json, plan.facts(), plan.lines())
        return
    batch = _made(options, request, opened, folder, as_json)
    if options.after:
        # The person's own command, with the person's own shell.
        done = subprocess.run(
            options.after, shell=True, check=False, stdout=subprocess.PIPE, stderr=subprocess.STDOUT
        )
        click.echo(done.stdout.decode("utf-8", "replace").rstrip(), err=True)
    batch.first.switch_off(lambda sentence: click.echo(sentence, err=True))
    if batch.aside:
        sentences = " ".join(batch.aside.values())
        many = len(request.items) > 1 or options.listed
        raise UserError(
            f"{len(batch.aside)} of {len(request.items)} rows were set aside: {sentences}"
            if many
            else sentences
        )


def _made(options: RenderOptions, request: Request, opened: Opened, folder: Path, as_json: bool) -> Batch:
    """Make a request with all that is added to it, and tell what came of it.  Raises UserError."""
    started = time.monotonic()
    with (
        scratch_folder() as scratch,
        _machines(options.on, options.machines, options.certificates, options.shared) as fleet,
        kept_awake(options.awake, f"Pictures of {request.project.name} are being made") as is_awake,
    ):
        run = Run(
            request,
            opened,
            options.out,
            options.job or scratch,
            options.resume,
            asked_to_stop(),
            None if as_json else tell_progress,
        )
        run.base, run.patient, run.off, run.begun = folder, options.listed, options.off, process_began()
        run.machines, run.awake = fleet, is_awake
        batch = Batch(run, lambda other: opened_models(other, folder / "project.altana"))
        try:
            batch.go()
        except Cancelled:
            raise UserError(
                f"Stopped. {len(batch.written)} of {len(request.items)} files were finished and are kept in {options.out}."
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
    files = (str(path) for path in batch.written)
    say(as_json, facts, [*files, *(check.sentence for check in batch.checks.values())])
    return batch


@contextlib.contextmanager
def _machines(
    on: str, count: int | None, certificates: Path | None, shared: Path | None
) -> Iterator[Machines | None]:
    """Other machines, where some are asked for.  Raises UserError."""
    if on and count:
        raise click.UsageError("Give --on or --machines, not both.")
    if not (on or count):
        yield None
        return
    use_shared(shared)
    address = address_of(on, certificates) if on else ""
    # Loaded only here: most runs need no other machine.
    from altana.jobs.machines.fleet import Fleet

    with local_cluster(count) if count else contextlib.nullcontext(address) as where:
        fleet = Fleet(where, certificates)
        try:
            yield fleet
        finally:
            fleet.close()
