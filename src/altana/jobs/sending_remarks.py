"""Cameras as viewpoints with their pictures, and answers to remarks, as BCF."""

from __future__ import annotations

import datetime
import os
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path

from altana.core.errors import UserError
from altana.core.progress import Progress
from altana.core.project import Camera, Project, Remark
from altana.core.staging import Lookup
from altana.jobs.models import Opened, open_project_models
from altana.jobs.requests import request_for
from altana.storage.files import explain, make_folder
from altana.storage.scratch import scratch_folder

#: How large the pictures beside viewpoints are, at most.
SNAPSHOT_PX = (1280, 1280)


@dataclass(frozen=True, slots=True)
class SentRemarks:
    """What was written: names of cameras, titles of remarks that were answered, and what the format does not
    hold."""

    file: Path
    cameras: tuple[str, ...]
    answered: tuple[str, ...]
    not_held: tuple[str, ...]


def send_bcf(
    project: Project,
    project_path: Path,
    cameras: Sequence[Camera],
    remarks: Sequence[Remark],
    out: Path,
    version: str = "3.0",
    now: datetime.datetime | None = None,
    progress: Progress | None = None,
) -> SentRemarks:
    """Write viewpoints of cameras, and remarks with the cameras that answer them; each with a new picture.
    Raises UserError."""
    from altana.exchange.bcf_out import VERSIONS, Sending, unheld_in_bcf, write_bcf

    if version not in VERSIONS:
        raise UserError(f"BCF {version} is not written. Choose {' or '.join(VERSIONS)}.")
    answering = _answering(project, remarks)
    if not cameras and not answering:
        raise UserError("There is no camera and no remark to send. Nothing was written.")
    opened = open_project_models(project, project_path)
    lookup = Lookup(opened.model)
    subjects = {camera.id: camera for camera in [*cameras, *(camera for _, camera in answering)]}
    pictures = snapshots(project, project_path, opened, list(subjects.values()), progress)

    def sending(camera: Camera, remark: Remark | None) -> Sending:
        omitted = lookup.staging(project, camera).omitted
        hidden = tuple(opened.model.objects[number].id for number in omitted)
        return Sending(camera, pictures[camera.id], hidden, remark)

    sent = [sending(camera, None) for camera in cameras] + [
        sending(camera, remark) for remark, camera in answering
    ]
    when = now or datetime.datetime.now(datetime.UTC)

    def write(path: Path) -> None:
        write_bcf(path, project.name, project.author, sent, opened.model.offset, version, when)

    _put(out, write)
    return SentRemarks(
        out,
        tuple(camera.name for camera in cameras),
        tuple(remark.title for remark, _ in answering),
        tuple(unheld_in_bcf(list(subjects.values()), version)),
    )


def _answering(project: Project, remarks: Sequence[Remark]) -> list[tuple[Remark, Camera]]:
    """Remarks with the cameras that answer them.  Raises UserError where one has none."""
    answers = []
    for item in remarks:
        camera = project.camera(item.camera)
        if camera is None:
            raise UserError(
                f"“{item.title}” has no camera that answers it. Answer it first; nothing was written."
            )
        answers.append((item, camera))
    return answers


def _put(out: Path, write: Callable[[Path], None]) -> None:
    """Write a file beside its place and rename it there when it is whole.  Raises UserError."""
    make_folder(out.parent)
    try:
        with scratch_folder(out.parent) as scratch:
            whole = scratch / out.name
            write(whole)
            os.replace(whole, out)
    except OSError as error:
        raise explain(error, out, "What was there before is unchanged.") from error


def snapshots(
    project: Project,
    project_path: Path,
    opened: Opened,
    cameras: Sequence[Camera],
    progress: Progress | None = None,
) -> dict[str, bytes]:
    """A PNG of each camera, as its row is made but small, by its id.  Raises UserError."""
    # Loaded when used: drawing needs the graphics library.
    from altana.jobs.run import Run

    with scratch_folder() as folder:
        files = {}
        for number, camera in enumerate(cameras):
            if progress is not None and not progress(number / len(cameras)):
                raise UserError("Sending was stopped. Nothing was written.")
            request = request_for(
                project, (camera,), (), SNAPSHOT_PX, None, "proof", "png", name=f"view-{number}"
            )
            run = Run(request, opened, folder, base=project_path.parent)
            run.go()
            if run.aside:
                raise UserError(next(iter(run.aside.values())))
            files[camera.id] = (folder / request.items[0].file).read_bytes()
        return files
