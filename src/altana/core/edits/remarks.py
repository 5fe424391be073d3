"""Changes to the remarks of a project."""

from __future__ import annotations

from dataclasses import replace

from altana.core.errors import Refused
from altana.core.project import Project
from altana.core.project.remark import Remark


def remark_of(project: Project, remark_id: str) -> Remark:
    """The remark with this id or title.  Raises Refused with a sentence that lists what there is."""
    for item in project.remarks:
        if remark_id in (item.id, item.title):
            return item
    known = ", ".join(f"“{item.title}”" for item in project.remarks) or "none yet"
    raise Refused(f"There is no remark “{remark_id}”. Remarks: {known}.")


def keep_remark(project: Project, remark: Remark) -> Project:
    """With this remark; one that came before under the same id takes its words, and keeps what answers it."""
    before = next((item for item in project.remarks if item.id == remark.id), None)
    if before is None:
        return replace(project, remarks=(*project.remarks, remark))
    merged = replace(
        remark,
        picture=remark.picture or before.picture,
        camera=remark.camera or before.camera,
        planned=remark.planned or before.planned,
        answer=before.answer,
        answered=before.answered,
    )
    return change_remark(project, remark.id, merged)


def change_remark(project: Project, remark_id: str, changed: Remark) -> Project:
    """One remark as another."""
    return replace(
        project, remarks=tuple(changed if item.id == remark_id else item for item in project.remarks)
    )


def answer_remark(project: Project, remark_id: str, camera_id: str, answer: str = "") -> Project:
    """A remark answered by a camera, with words.  Raises Refused where there is no such camera."""
    remark = remark_of(project, remark_id)
    if camera_id and project.camera(camera_id) is None:
        raise Refused(f"There is no camera {camera_id} to answer it.")
    return change_remark(
        project, remark.id, replace(remark, camera=camera_id, answer=answer.strip(), answered=True)
    )


def reopen_remark(project: Project, remark_id: str) -> Project:
    """A remark that waits for its answer again; the camera stays."""
    remark = remark_of(project, remark_id)
    return change_remark(project, remark.id, replace(remark, answered=False))


def drop_remark(project: Project, remark_id: str) -> Project:
    """Without this remark; the camera that it became stays."""
    remark = remark_of(project, remark_id)
    return replace(project, remarks=tuple(item for item in project.remarks if item.id != remark.id))
