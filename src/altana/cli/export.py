"""``altana export``: cameras and walks for other tools."""

from __future__ import annotations

from pathlib import Path

import click

from altana.cli.shared import JSON, ProjectPath, say
from altana.core.naming import counted
from altana.jobs.sending import KINDS, send
from altana.storage.project_file import read_project


@click.command("export")
@click.argument("project", type=ProjectPath)
@click.option("--cameras", "all_cameras", is_flag=True, help="All cameras, or those named by --camera.")
@click.option("--walks", "all_walks", is_flag=True, help="All walks, or those named by --walk.")
@click.option("--camera", "cameras", multiple=True, help="A camera by name or id; give it several times.")
@click.option("--walk", "walks", multiple=True, help="A walk by name or id; give it several times.")
@click.option(
    "--to",
    "out",
    required=True,
    type=click.Path(dir_okay=False, path_type=Path),
    help=f"The file: {', '.join(KINDS)}.",
)
@click.option("--rate", default="", help="Film frames a second of walks instead of their own.")
@JSON
def export(
    project: Path,
    all_cameras: bool,
    all_walks: bool,
    cameras: tuple[str, ...],
    walks: tuple[str, ...],
    out: Path,
    rate: str,
    as_json: bool,
) -> None:
    """Write cameras and walks, exactly as they stand, for other tools."""
    if not (all_cameras or all_walks or cameras or walks):
        raise click.UsageError("Name what to write: --cameras, --walks, --camera N or --walk N.")
    read = read_project(project)
    chosen = tuple(read.camera_named(name) for name in cameras) or (read.cameras if all_cameras else ())
    walked = tuple(read.walk_named(name) for name in walks) or (read.walks if all_walks else ())
    sent = send(read, project, chosen, walked, out, rate)
    for sentence in sent.not_held:
        click.echo(sentence, err=True)
    facts = {
        "file": str(sent.file),
        "cameras": list(sent.cameras),
        "walks": sent.walks,
        "offset_m": list(sent.offset_m),
        "not_held": list(sent.not_held),
    }
    told = f"{out}: {counted(len(sent.cameras), 'camera')}, {counted(len(sent.walks), 'walk')}"
    say(as_json, facts, [told])
