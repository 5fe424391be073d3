"""``altana export``: cameras, walks, viewpoints, plans and the list as an edit, for other tools."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import Any

import click

from altana.cli.shared import JSON, ProjectPath, say
from altana.core.edits.remarks import remark_of
from altana.core.naming import counted
from altana.core.project import Camera, Project, Walk
from altana.jobs.sending import KINDS, send
from altana.jobs.sending_edit import EDIT_KINDS, send_timeline
from altana.jobs.sending_plan import PLAN_KINDS, send_plan
from altana.jobs.sending_remarks import send_bcf
from altana.storage.project_file import read_project


@click.command("export")
@click.argument("project", type=ProjectPath)
@click.option("--cameras", "all_cameras", is_flag=True, help="All cameras, or those named by --camera.")
@click.option("--walks", "all_walks", is_flag=True, help="All walks, or those named by --walk.")
@click.option("--camera", "cameras", multiple=True, help="A camera by name or id; give it several times.")
@click.option("--walk", "walks", multiple=True, help="A walk by name or id; give it several times.")
@click.option("--remarks", "answers", is_flag=True, help="To BCF: the remarks that are answered.")
@click.option("--remark", "remarks", multiple=True, help="To BCF: this remark, by title or id.")
@click.option("--plan", is_flag=True, help="The plan of a storey with its cameras, at scale.")
@click.option("--section", help="The section along the line of sight of this camera, at scale.")
@click.option("--storey", help="With --plan: the storey; that of the first camera when left out.")
@click.option(
    "--scale", type=float, default=100.0, show_default=True, help="Of plans and sections, 1 to this."
)
@click.option("--timeline", is_flag=True, help="The shot list as an edit, or as captions from intents.")
@click.option(
    "--still-seconds",
    type=float,
    default=5.0,
    show_default=True,
    help="With --timeline: so long does a still stand.",
)
@click.option("--model", "whole", is_flag=True, help="The model as it is shown, with mends and left out.")
@click.option("--base", hidden=True, type=click.Path(path_type=Path), help="Where the project's files lie.")
@click.option("--job", hidden=True, type=click.Path(path_type=Path), help="Where the window's own job lies.")
@click.option(
    "--to",
    "--out",
    "out",
    required=True,
    type=click.Path(dir_okay=False, path_type=Path),
    help=f"The file: {', '.join((*KINDS, '.bcf', *PLAN_KINDS, *EDIT_KINDS))}.",
)
@click.option("--rate", default="", help="Film frames a second of walks instead of their own.")
@click.option(
    "--bcf-version", type=click.Choice(["2.1", "3.0"]), default="3.0", show_default=True, help="Of BCF."
)
@JSON
def export(project: Path, out: Path, as_json: bool, **values: Any) -> None:
    """Write cameras and walks, exactly as they stand, viewpoints, plans or the list as an edit, for other
    tools."""
    kind = out.suffix.lower()
    if values["base"] is not None:
        # A copy of the project is handed over; what it names lies where the project does.
        values["read"], project = read_project(project), values["base"] / project.name
    if values["plan"] or values["section"]:
        _plan(project, out, as_json, values)
    elif values["timeline"]:
        _timeline(project, out, as_json, values)
    elif kind == ".bcf":
        _bcf(project, out, as_json, values)
    else:
        _cameras(project, out, as_json, values)


def _chosen(read: Project, values: dict[str, Any]) -> tuple[tuple[Camera, ...], tuple[Walk, ...]]:
    cameras = tuple(read.camera_named(name) for name in values["cameras"])
    walks = tuple(read.walk_named(name) for name in values["walks"])
    return cameras or (read.cameras if values["all_cameras"] else ()), walks or (
        read.walks if values["all_walks"] else ()
    )


def _cameras(project: Path, out: Path, as_json: bool, values: dict[str, Any]) -> None:
    named = (values["all_cameras"], values["all_walks"], values["cameras"], values["walks"], values["whole"])
    if not any(named):
        raise click.UsageError("Name what to write: --cameras, --walks, --camera N, --walk N or --model.")
    read = values.get("read") or read_project(project)
    chosen, walked = _chosen(read, values)
    sent = send(read, project, chosen, walked, out, values["rate"], values["whole"])
    _say_lost(sent.not_held)
    facts = {
        "file": str(sent.file),
        "files": [str(sent.file)],
        "cameras": list(sent.cameras),
        "walks": sent.walks,
        "objects": sent.objects,
        "offset_m": list(sent.offset_m),
        "not_held": list(sent.not_held),
    }
    line = f"{out}: {counted(len(sent.cameras), 'camera')}, {counted(len(sent.walks), 'walk')}"
    if sent.objects:
        line += f", {counted(sent.objects, 'object')}"
    say(as_json, facts, [line])


def _say_lost(sentences: Sequence[str]) -> None:
    for sentence in sentences:
        click.echo(sentence, err=True)


def _bcf(project: Path, out: Path, as_json: bool, values: dict[str, Any]) -> None:
    read = values.get("read") or read_project(project)
    cameras, walks = _chosen(read, values)
    if walks:
        raise click.UsageError("BCF holds viewpoints, no walks.")
    remarks = tuple(remark_of(read, name) for name in values["remarks"]) or tuple(
        item for item in read.remarks if values["answers"] and item.answered
    )
    if not (cameras or remarks):
        raise click.UsageError("Name what to write: --cameras, --camera N, --remarks or --remark N.")
    sent = send_bcf(read, project, cameras, remarks, out, values["bcf_version"])
    _say_lost(sent.not_held)
    facts = {
        "file": str(sent.file),
        "files": [str(sent.file)],
        "cameras": list(sent.cameras),
        "remarks": list(sent.answered),
        "not_held": list(sent.not_held),
    }
    line = f"{out}: {counted(len(sent.cameras), 'camera')}, {counted(len(sent.answered), 'answered remark')}"
    say(as_json, facts, [line])


def _plan(project: Path, out: Path, as_json: bool, values: dict[str, Any]) -> None:
    read = values.get("read") or read_project(project)
    chosen, _ = _chosen(read, values)
    section = read.camera_named(values["section"]) if values["section"] else None
    sent = send_plan(
        read, project, chosen or read.cameras, out, values["scale"], values["storey"] or "", section
    )
    facts = {
        "file": str(out),
        "files": [str(out)],
        "scale": values["scale"],
        "page_mm": list(sent.page_mm),
        "paper": sent.paper,
        "cameras": list(sent.cameras),
        "title": sent.title,
    }
    line = (
        f"{out}: {sent.title}, 1:{values['scale']:g} on {sent.paper}, {counted(len(sent.cameras), 'camera')}"
    )
    say(as_json, facts, [line])


def _timeline(project: Path, out: Path, as_json: bool, values: dict[str, Any]) -> None:
    read = values.get("read") or read_project(project)
    clips = send_timeline(read, project, out, values["still_seconds"])
    facts = {
        "file": str(out),
        "files": [str(out)],
        "seconds": clips[-1].end_s if clips else 0.0,
        "clips": [
            {"name": clip.name, "file": clip.file, "begin_s": clip.begin_s, "seconds": clip.seconds}
            for clip in clips
        ],
    }
    say(as_json, facts, [f"{out}: {counted(len(clips), 'clip')}, {facts['seconds']:g} s"])
