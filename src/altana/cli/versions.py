"""``altana versions``: earlier saves of a project, what changed, and the way back."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

import click

from altana.cli.shared import JSON, ProjectPath, say
from altana.core.edits.cameras import change_camera
from altana.core.errors import UserError
from altana.core.merging import differences
from altana.core.project import Project
from altana.storage.project_file import from_json, read_project, versions_folder
from altana.storage.sharing import change_project
from altana.storage.versions import versions_of


@click.group("versions")
def versions_group() -> None:
    """Earlier saves of a project: the last twenty."""


def _read(path: Path, number: int) -> Project:
    versions = versions_of(versions_folder(), path)
    if not 1 <= number <= len(versions):
        raise UserError(f"There is no version {number}: {len(versions)} are kept, 1 being the newest.")
    return from_json(versions[number - 1].data, f"version {number} of {path.name}")


@versions_group.command("list")
@click.argument("project", type=ProjectPath)
@JSON
def list_(project: Path, as_json: bool) -> None:
    """The earlier saves, the newest first, and what the next save changed."""
    later, facts, lines = read_project(project), [], []
    for number, version in enumerate(versions_of(versions_folder(), project), 1):
        when = datetime.fromtimestamp(version.seconds, UTC).astimezone()
        try:
            project_then = from_json(version.data, version.path.name)
        except UserError as error:
            facts.append(
                {"number": number, "until": when.isoformat(timespec="seconds"), "damaged": error.sentence}
            )
            lines.append(f"{number:2}  until {when:%Y-%m-%d %H:%M}  {error.sentence}")
            continue
        changed = [item.words for item in differences(project_then, later)]
        facts.append(
            {
                "number": number,
                "until": when.isoformat(timespec="seconds"),
                "cameras": len(project_then.cameras),
                "walks": len(project_then.walks),
                "rows": len(project_then.shots),
                "changed": changed,
            }
        )
        lines.append(
            f"{number:2}  until {when:%Y-%m-%d %H:%M}  {len(project_then.cameras)} cameras; then {'; '.join(changed[:4]) or 'nothing'}"
        )
        later = project_then
    say(as_json, facts, lines or ["No earlier save is kept yet."])


@versions_group.command("take")
@click.argument("project", type=ProjectPath)
@click.argument("number", type=int)
@click.option(
    "--camera", "cameras", multiple=True, help="Only this camera, by name or id as it is in that version."
)
@JSON
def take(project: Path, number: int, cameras: tuple[str, ...], as_json: bool) -> None:
    """Go back to an earlier save, or take single cameras of it; what is saved now becomes the newest
    version."""
    version = _read(project, number)
    cameras_then = [version.camera_named(name) for name in cameras]

    def edit(current: Project) -> Project:
        if not cameras_then:
            return version
        for camera in cameras_then:
            if current.camera(camera.id) is not None:
                current = change_camera(current, camera.id, lambda _, camera=camera: camera)  # type: ignore[misc]
            else:
                current = replace(current, cameras=(*current.cameras, camera))
        return current

    before = read_project(project)
    changed = [item.words for item in differences(before, change_project(project, edit))]
    say(as_json, {"number": number, "changed": changed}, changed or ["Nothing was another in that version."])
