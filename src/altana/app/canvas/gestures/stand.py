"""Standing a camera: a press is where the eye is, the drag is what it looks at; the same on the plan and in
the Frame."""

from __future__ import annotations

from dataclasses import replace

from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import Vec2
from altana.core.edits.cameras import add_camera
from altana.core.edits.planned import stand_planned
from altana.core.errors import Refused
from altana.core.project import Camera, Project
from altana.core.standing import ground_at, stand

OFF_THE_LAND = tr("There is no ground here; the eye stands as if that beside the building went on.")


class StandGesture:
    """One camera that is being stood.  Raises Refused where there is no floor to stand on.

    floor_m : the floor that is meant; the camera stands on what is really there.  for_shot : the planned shot
    it is for.
    """

    def __init__(
        self, workspace: Workspace, eye: Vec2, floor_m: float, eye_height_m: float, for_shot: str = ""
    ) -> None:
        self._bridge, self._state = workspace.bridge, workspace.state
        scene = workspace.studio.scene
        if scene is None:
            raise Refused(tr("No model is open yet."))
        self._scene, self._floor_m, self._eye_height_m, self._for_shot = (
            scene,
            floor_m,
            eye_height_m,
            for_shot,
        )
        self.eye = eye
        self._known = {camera.id for camera in self._bridge.project.cameras}
        self._stood((eye[0], eye[1] + 1.0))
        self._bridge.begin()

    def _stood(self, aim: Vec2) -> Camera:
        scene = self._scene
        camera = stand(scene.model, scene.floors, self.eye, aim, self._floor_m, self._eye_height_m)
        inside, outside = self._state.usual_focals_mm
        return replace(
            camera, kept_plumb=self._state.plumb_new, focal_mm=inside if camera.inside else outside
        )

    def aim_at(self, aim: Vec2) -> None:
        """Look at a place.  Raises Refused where the camera cannot stand so."""
        camera = self._stood(aim)

        def edit(project: Project) -> Project:
            shot = self._for_shot
            return (stand_planned(project, shot, camera) if shot else add_camera(project, camera))[0]

        self._bridge.preview(edit)

    @property
    def created(self) -> str:
        """The id of the camera that is being stood, or was."""
        new = [camera.id for camera in self._bridge.project.cameras if camera.id not in self._known]
        return new[0] if new else ""

    def finish(self) -> None:
        """One undo step; the camera is the chosen one."""
        self._bridge.commit(tr("Stand a camera"))
        if self.created:
            self._state.select(self.created)
            if ground_at(self._scene.floors, self.eye, self._floor_m) is None:
                self._bridge.notices.note(OFF_THE_LAND)

    def cancel(self) -> None:
        """No camera after all."""
        self._bridge.cancel()
