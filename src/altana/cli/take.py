"""``altana import``: cameras, walks and remarks of other people's files."""

from __future__ import annotations

from pathlib import Path

import click
import msgspec

from altana.cli.shared import JSON, ProjectPath, edited, opened_models, say
from altana.core.edits.remarks import answer_remark, remark_of
from altana.core.errors import UserError
from altana.core.project import Project
from altana.exchange.incoming import Offer
from altana.jobs.brought import TAKEN_IN, look_into
from altana.jobs.taking import WAYS, chosen_of, take_in_all
from altana.storage.project_file import read_project


@click.command("import")
@click.argument("project", type=ProjectPath)
@click.argument("file", type=click.Path(dir_okay=False, path_type=Path))
@click.option("--list", "listed", is_flag=True, help="What the file holds; nothing is taken.")
@click.option("--take", "names", multiple=True, help="This one, by name or number; give it several times.")
@click.option("--all", "everything", is_flag=True, help="All of it.")
@click.option(
    "--as",
    "way",
    type=click.Choice(WAYS),
    default=None,
    help="As cameras, planned shots or walks, instead of as what each is.",
)
@JSON
def take(
    project: Path,
    file: Path,
    listed: bool,
    names: tuple[str, ...],
    everything: bool,
    way: str | None,
    as_json: bool,
) -> None:
    """Take cameras, walks and remarks from a glTF, USD, BCF, CSV or JSON file; it is only looked into until
    something is chosen."""
    read = read_project(project)
    if not file.is_file():
        raise UserError(f"There is no file {file}. Files that are taken in end in {', '.join(TAKEN_IN)}.")
    model = opened_models(read, project).model if read.models else None
    contents = look_into(file, model.offset if model is not None else (0.0, 0.0, 0.0))
    if listed or not (names or everything):
        facts = [_facts(item) for item in contents]
        say(as_json, facts, [_line(number, item) for number, item in enumerate(contents, 1)])
        return
    chosen = list(contents) if everything else chosen_of(contents, names)
    ids_added: list[str] = []
    lost: list[str] = []

    def edit(current: Project) -> Project:
        after, ids, sentences = take_in_all(current, project, chosen, model, way or "")
        ids_added[:], lost[:] = ids, sentences
        return after

    after = edited(project, edit)
    for sentence in lost:
        click.echo(sentence, err=True)
    facts_of = {
        "cameras": [item.name for item in after.cameras if item.id in ids_added],
        "walks": [item.name for item in after.walks if item.id in ids_added],
        "remarks": [item.remark.title for item in chosen if item.remark is not None],
        "not_held": lost,
    }
    say(as_json, facts_of, [f"Taken: {', '.join(item.name for item in chosen)}."])


def _facts(item: Offer) -> dict[str, object]:
    remark = item.remark
    return {
        "kind": item.kind,
        "name": item.name,
        "camera": msgspec.to_builtins(item.camera) if item.camera is not None else None,
        "places": len(item.walk.keys) if item.walk is not None else 0,
        "seconds": item.walk.seconds if item.walk is not None else 0.0,
        "author": remark.author if remark is not None else "",
        "date": remark.date if remark is not None else "",
        "words": remark.words if remark is not None else "",
        "comments": msgspec.to_builtins(remark.comments) if remark is not None else [],
        "hidden": list(item.hidden),
        "picture": bool(item.snapshot),
        "not_held": list(item.lost),
    }


def _line(number: int, item: Offer) -> str:
    more = ""
    if item.walk is not None:
        more = f", {len(item.walk.keys)} places, {item.walk.seconds:g} s"
    elif item.camera is not None:
        more = f", {item.camera.focal_mm:.1f} mm"
    who = f" ({item.remark.author})" if item.remark is not None and item.remark.author else ""
    return f"{number}: {item.kind} “{item.name}”{who}{more}" + "".join(f"\n   {line}" for line in item.lost)


@click.group("remarks")
def remarks_group() -> None:
    """Remarks of others that were taken in: list them, and answer them."""


@remarks_group.command("list")
@click.argument("project", type=ProjectPath)
@JSON
def list_(project: Path, as_json: bool) -> None:
    """Every remark, who made it, which camera answers it, and whether it is answered."""
    read = read_project(project)
    lines = []
    for item in read.remarks:
        camera = read.camera(item.camera)
        state = "answered" if item.answered else "open"
        lines.append(
            f"{item.title} ({item.author or 'nobody named'}): {state}"
            + (f", {camera.name}" if camera is not None else "")
        )
    say(as_json, msgspec.to_builtins(read.remarks), lines or ["No remarks yet."])


@remarks_group.command("answer")
@click.argument("project", type=ProjectPath)
@click.argument("remark")
@click.option("--camera", required=True, help="The camera that answers it, by name or id.")
@click.option("--words", default="", help="What is said with it.")
@JSON
def answer(project: Path, remark: str, camera: str, words: str, as_json: bool) -> None:
    """Answer a remark by a camera; `altana export --remarks` sends it back with a new picture."""

    def edit(current: Project) -> Project:
        return answer_remark(current, remark_of(current, remark).id, current.camera_named(camera).id, words)

    after = edited(project, edit)
    remark_answered = remark_of(after, remark)
    say(
        as_json,
        msgspec.to_builtins(remark_answered),
        [f"“{remark_answered.title}” is answered by “{camera}”."],
    )
