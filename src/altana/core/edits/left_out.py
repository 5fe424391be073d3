"""What pictures leave out, and objects moved or taken out for one camera."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from altana.core.conventions import Vec3
from altana.core.edits.cameras import change_camera, checked
from altana.core.project import Camera, LeftOut, Nudge, Project


def nudge(
    project: Project,
    camera_id: str,
    object_id: str,
    move: Vec3 = (0.0, 0.0, 0.0),
    turn_deg: float = 0.0,
    out: bool = False,
) -> Project:
    """Move, turn or take out one object for one camera; a nudge that does nothing is taken off the list."""

    def change(camera: Camera) -> Camera:
        others = tuple(item for item in camera.nudges if item.object_id != object_id)
        if not any(move) and not turn_deg and not out:
            return replace(camera, nudges=others)
        return checked(replace(camera, nudges=(*others, Nudge(object_id, move, turn_deg, out))))

    return change_camera(project, camera_id, change)


def with_left_out(left_out: LeftOut, kind: str, name: str, out: bool) -> LeftOut:
    """The same with one object, category or storey left out, or no longer.  kind : "objects", "categories",
    "storeys"."""
    ids: tuple[str, ...] = getattr(left_out, kind)
    names = tuple(item for item in ids if item != name)
    return replace(left_out, **{kind: (*names, name) if out else names})


def leave_out(project: Project, camera_ids: Iterable[str], kind: str, name: str, out: bool = True) -> Project:
    """Leave something out of these cameras' pictures, or of the whole project's when no camera is named."""
    wanted = set(camera_ids)
    if not wanted:
        return replace(project, left_out=with_left_out(project.left_out, kind, name, out))
    return replace(
        project,
        cameras=tuple(
            replace(item, left_out=with_left_out(item.left_out, kind, name, out))
            if item.id in wanted
            else item
            for item in project.cameras
        ),
    )


def leave_out_of_walks(
    project: Project, walk_ids: Iterable[str], kind: str, name: str, out: bool = True
) -> Project:
    """Leave something out of these walks' films, or show it again."""
    wanted = set(walk_ids)
    return replace(
        project,
        walks=tuple(
            replace(item, left_out=with_left_out(item.left_out, kind, name, out))
            if item.id in wanted
            else item
            for item in project.walks
        ),
    )
