"""Standing a camera in a room at once."""

from __future__ import annotations

from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.edits.cameras import add_camera
from altana.core.errors import Refused
from altana.core.model import Room
from altana.core.rooms_stood import stand_in_room


def stand_in(workspace: Workspace, room: Room) -> bool:
    """A camera in a room, from the corner that shows most of it; it is the chosen one.  False, with a
    sentence, where there is none."""
    scene = workspace.studio.scene
    if scene is None:
        return False
    try:
        camera = stand_in_room(scene.model, scene.rays, scene.floors, room)
    except Refused as error:
        workspace.notices.trouble(error.sentence)
        return False
    created = workspace.bridge.apply_adding(tr("Stand a camera"), lambda project: add_camera(project, camera))
    if created:
        workspace.state.select(created)
    return bool(created)
