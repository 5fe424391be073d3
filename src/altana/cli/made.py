"""``altana made``: everything that was ever made for a project, and whether it is still current."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path

import click

from altana.cli.shared import JSON, ProjectPath, opened_models, say
from altana.core.errors import UserError
from altana.jobs.made import states_of
from altana.jobs.shotlist import rows_of
from altana.storage.made import ASIDE
from altana.storage.project_file import read_project


@click.command("made")
@click.argument("project", type=ProjectPath)
@JSON
def made_command(project: Path, as_json: bool) -> None:
    """What was made, when, in which time, and what has changed since."""
    read = read_project(project)
    try:
        model = opened_models(read, project).model
    except UserError:
        # Names of rooms and storeys in file names need the model; what was made can be told without.
        model = None
    facts, lines = [], []
    for record, changed in states_of(read, rows_of(read, model), project.parent, project.name):
        there = record.path(project.parent).exists()
        state = (
            record.state
            if record.state == ASIDE
            else "missing"
            if not there
            else "out of date"
            if changed
            else "current"
        )
        when = datetime.fromtimestamp(record.when, UTC).astimezone()
        facts.append(
            {
                "file": str(record.path(project.parent)),
                "of": record.name,
                "state": state,
                "changed": list(changed) if state == "out of date" else [],
                "made": when.isoformat(timespec="seconds"),
                "took_s": record.took_s,
                "size_px": [record.width_px, record.height_px],
                "quality": record.shot.quality,
                "way": record.way,
                "sentence": record.sentence,
            }
        )
        more = record.sentence or (f"changed: {', '.join(changed)}" if state == "out of date" else "")
        lines.append(
            f"{when:%Y-%m-%d %H:%M}  {record.took_s:6.1f} s  {state:11}  {record.file}  {more}".rstrip()
        )
    say(as_json, facts, lines or ["Nothing was made yet."])
