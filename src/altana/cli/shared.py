"""What the subcommands share: reading a project, numbers from text, one JSON document to stdout."""

from __future__ import annotations

import json
import os
import signal
import sys
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import click

from altana.core.conventions import Vec3
from altana.core.errors import UserError
from altana.core.model import Model, Storey
from altana.core.project import Project
from altana.jobs.models import Opened, open_project_models
from altana.storage.sharing import change_project

BASE = click.option(
    "--base",
    type=click.Path(file_okay=False, path_type=Path),
    help="Folder that the project's model paths start from.",
)
JOB = click.option(
    "--job", type=click.Path(file_okay=False, path_type=Path), help="Folder for the journal of progress."
)
JSON = click.option("--json", "as_json", is_flag=True, help="One JSON document to stdout.")
ProjectPath = click.Path(dir_okay=False, path_type=Path)


def numbers(count: int) -> Callable[[Any, Any, str | None], tuple[float, ...] | None]:
    """A click callback for ``1,2,3``."""

    def parse(_context: Any, parameter: Any, text: str | None) -> tuple[float, ...] | None:
        if text is None:
            return None
        try:
            values = tuple(float(part) for part in text.split(","))
        except ValueError:
            values = ()
        if len(values) != count or not all(abs(value) < 1e9 for value in values):
            raise click.BadParameter(
                f"write {count} numbers with commas between them, such as {','.join('1.5' for _ in range(count))}"
            )
        return values

    return parse


def say(as_json: bool, content: Any, lines: list[str]) -> None:
    """Print one JSON document, or lines for people."""
    click.echo(json.dumps(content, indent=1, ensure_ascii=False) if as_json else "\n".join(lines))


#: Seconds between lines of progress in a log.
LOG_S = 5.0
_told = [-LOG_S]


def tell_progress(share: float, text: str) -> None:
    """Progress on one line of a terminal, or a line now and then where stderr is none."""
    if sys.stderr.isatty():
        sys.stderr.write(f"\r{share:5.0%}  {text[:90]:<90}")
        sys.stderr.flush()
    elif time.monotonic() - _told[0] > LOG_S:
        # Where it goes into a log, a line now and then: a film tells of every film frame.
        _told[0] = time.monotonic()
        sys.stderr.write(f"{share:5.0%}  {text}\n")


def asked_to_stop() -> Callable[[], bool]:
    """From now on Ctrl+C and SIGTERM only ask to stop; what is returned says whether they did."""
    received: list[int] = []
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, lambda signum, _frame: received.append(signum))
    return lambda: bool(received)


def process_began() -> float | None:
    """When this process began, seconds since the epoch; None where the system does not say."""
    try:
        fields = Path("/proc/self/stat").read_text().rpartition(")")[2].split()
        booted = next(
            line for line in Path("/proc/stat").read_text().splitlines() if line.startswith("btime")
        )
        return float(booted.split()[1]) + int(fields[19]) / os.sysconf("SC_CLK_TCK")
    except (OSError, ValueError, StopIteration, IndexError):
        return None


def edited(path: Path, edit: Callable[[Project], Project]) -> Project:
    """Read, change and save a project.  Raises Refused for values that make no picture."""
    return change_project(path, edit)


def opened_models(project: Project, path: Path) -> Opened:
    """The models of a project."""
    return open_project_models(project, path)


def storey_named(model: Model, name: str | None) -> Storey:
    """A storey by its name; the lowest one when none is named.  Raises UserError."""
    if name is None:
        lowest = min(model.storeys, key=lambda item: abs(item.elevation_m), default=None)
        if lowest is None:
            raise UserError("The model has no storeys.")
        return lowest
    for item in model.storeys:
        if name.lower() in (item.name.lower(), item.id.lower()):
            return item
    raise UserError(
        f"There is no storey “{name}”. Storeys: {', '.join(item.name for item in model.storeys)}."
    )


def vec3(values: tuple[float, ...]) -> Vec3:
    """Three numbers as a point."""
    x, y, z = values
    return (x, y, z)


def without_none(**values: Any) -> dict[str, Any]:
    """Only what was given."""
    return {key: value for key, value in values.items() if value is not None}


def shot_ids(project: Project, names: tuple[str, ...]) -> list[str]:
    """Rows of the shot list by number (from 1) or id.  Raises UserError."""
    ids = []
    for name in names:
        shot = next(
            (item for number, item in enumerate(project.shots, 1) if name in (str(number), item.id)), None
        )
        if shot is None:
            raise UserError(f"There is no row “{name}” in the shot list, which has {len(project.shots)}.")
        ids.append(shot.id)
    return ids
