"""What is locked stays as it is, whoever asks: every edit in the window passes here, previews included."""

from __future__ import annotations

from dataclasses import replace
from typing import TypeVar

from altana.core.errors import Refused
from altana.core.project import Camera, Project, Walk

UNLOCK = "Unlock it (key Ctrl+L), then change it."

Locked = TypeVar("Locked", Camera, Walk)


def respect_locks(before: Project, after: Project) -> Project:
    """The project after an edit.  Raises Refused where a locked camera or walk would be changed or removed.

    Marks about a camera (done, hidden on the plan, its group, whether it is in the shot list) are no part of
    what is locked.
    """
    if after.cameras is not before.cameras:
        before_of = {camera.id: camera for camera in after.cameras}
        for camera in before.cameras:
            _check(camera, before_of.get(camera.id), UNLOCK)
    if after.walks is not before.walks:
        routes = {walk.id: walk for walk in after.walks}
        for walk in before.walks:
            _check(walk, routes.get(walk.id), "Unlock it (More ▾), then change it.")
    return after


def unlocked(camera: Camera) -> Camera:
    """The camera itself.  Raises Refused where it is locked."""
    if camera.locked:
        raise Refused(f"{camera.name} is locked. {UNLOCK}")
    return camera


def _check(before: Locked, after: Locked | None, remedy: str) -> None:
    if not before.locked or after is before or (after is not None and not after.locked):
        return
    if after is None or _without_marks(before) != _without_marks(after):
        raise Refused(f"{before.name} is locked. {remedy}")


def _without_marks(thing: Locked) -> Locked:
    if isinstance(thing, Camera):
        return replace(thing, done=False, hidden=False, group="", in_shot_list=False)
    return thing
