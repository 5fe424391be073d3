"""Shots that are wanted, without a camera yet."""

from __future__ import annotations

from dataclasses import replace

from altana.core.edits.cameras import add_camera
from altana.core.errors import Refused
from altana.core.project import Camera, PlannedShot, Project, next_id


def plan_shot(project: Project, intent: str, note: str = "") -> tuple[Project, str]:
    """A picture that is wanted, without a camera.  Raises Refused for an empty intent."""
    if not intent.strip():
        raise Refused("A planned shot says what it should show.")
    shot_id = next_id("shot", tuple(item.id for item in project.planned))
    return replace(
        project, planned=(*project.planned, PlannedShot(shot_id, intent.strip(), note.strip()))
    ), shot_id


def drop_shot(project: Project, shot_id: str) -> Project:
    """Without this planned shot."""
    return replace(project, planned=tuple(item for item in project.planned if item.id != shot_id))


def stand_planned(project: Project, shot_id: str, camera: Camera) -> tuple[Project, str]:
    """A camera for a planned shot: it takes intent and note, and the shot is no longer only planned."""
    shot = next((item for item in project.planned if item.id == shot_id), None)
    if shot is None:
        return add_camera(project, camera)
    return add_camera(drop_shot(project, shot_id), replace(camera, intent=shot.intent, note=shot.note))
