"""What has been found about each camera's picture, kept for as long as the camera stays as it was looked
at."""

from __future__ import annotations

from collections.abc import Hashable, Iterable

from PySide6.QtCore import QObject, Signal

from altana.app.theme.words import tr
from altana.app.workspace.bridge import Bridge
from altana.app.workspace.studio import Studio
from altana.core.camera.bounds import place_of_sight
from altana.core.checks.camera_check import CameraCheck, Trouble, troubles
from altana.core.edits.locks import unlocked
from altana.core.errors import Refused
from altana.core.mends import Ground, mend
from altana.core.picture_key import PictureKey, check_key
from altana.core.project import Camera, Project

#: So many checks are kept for one camera, and so many orders are remembered.
MOST_HELD, MOST_ASKED = 4, 200


class CheckBook(QObject):
    """Checks by camera; ``changed`` names the camera of a new one, ``progress`` tells of a check of all."""

    changed = Signal(str)
    progress = Signal(float)

    def __init__(self, bridge: Bridge, studio: Studio) -> None:
        super().__init__()
        self._bridge, self._studio = bridge, studio
        #: A few checks for each camera, newest last: the camera as it stands, and the views loose from it.
        self._held: dict[str, dict[Hashable, CameraCheck]] = {}
        self._asked: dict[int, Hashable] = {}
        self._asked_of_all: dict[str, Hashable] = {}
        studio.composed.connect(self._take)
        studio.checked.connect(self._take_one_of_all)
        for signal in (studio.opened, bridge.left_out_changed, bridge.models_changed):
            signal.connect(self._forget)

    def _key(self, camera: Camera) -> PictureKey:
        return check_key(camera, self._studio.scenery)

    def _forget(self) -> None:
        self._held.clear()
        self._asked.clear()
        self._asked_of_all.clear()

    # ------------------------------------------------------------------ asking

    def asked(self, camera: Camera, revision: int) -> None:
        """Note what a camera was like when its picture was asked about under a revision."""
        # Orders that were overtaken by newer ones are never answered.
        if len(self._asked) > MOST_ASKED:
            del self._asked[min(self._asked)]
        self._asked[revision] = self._key(camera)

    def check_all(self) -> int:
        """Check every camera whose check is not of now; how many were asked about."""
        wanted = [camera for camera in self._bridge.project.cameras if self.of(camera) is None]
        self._asked_of_all = {camera.id: self._key(camera) for camera in wanted}
        self._studio.order_checks(
            [(c.id, c.view(), self._studio.staging(self._bridge.project, c)) for c in wanted]
        )
        self.progress.emit(0.0 if wanted else 1.0)
        return len(wanted)

    def stop(self) -> None:
        """Leave the rest of a check of all."""
        self._studio.order_checks([])
        self.progress.emit(1.0)

    def _take(self, camera_id: str, checks: CameraCheck, revision: int) -> None:
        key = self._asked.pop(revision, None)
        if key is not None:
            self._keep(camera_id, key, checks)

    def _keep(self, camera_id: str, key: Hashable, checks: CameraCheck) -> None:
        of_camera = self._held.setdefault(camera_id, {})
        of_camera.pop(key, None)
        of_camera[key] = checks
        while len(of_camera) > MOST_HELD:
            del of_camera[next(iter(of_camera))]
        self.changed.emit(camera_id)

    def _take_one_of_all(self, camera_id: str, checks: CameraCheck, share: float) -> None:
        key = self._asked_of_all.get(camera_id)
        if key is not None:
            self._keep(camera_id, key, checks)
        self.progress.emit(share)

    # ------------------------------------------------------------------ telling

    def of(self, camera: Camera) -> CameraCheck | None:
        """The check of a camera as it stands, or None."""
        return self._held.get(camera.id, {}).get(self._key(camera))

    def latest(self, camera_id: str) -> CameraCheck | None:
        """The last check of a camera, even if it has moved since."""
        of_camera = self._held.get(camera_id)
        return list(of_camera.values())[-1] if of_camera else None

    def standing(self, camera: Camera) -> str:
        """What is wrong with where a camera stands, or nothing."""
        scene = self._studio.scene
        return scene.footing(place_of_sight(camera)).trouble if scene is not None else ""

    def troubles(self, camera: Camera) -> tuple[Trouble, ...]:
        """What is trouble in a camera's picture, as far as it was looked at."""
        return troubles(camera, self.of(camera), self._bridge.project.limits, self.standing(camera))

    # ------------------------------------------------------------------ mending

    def mend(self, camera_ids: Iterable[str], code: str, label: str) -> bool:
        """One undo step that mends one kind of trouble of these cameras; False when nothing was changed."""
        scene = self._studio.scene
        if scene is None:
            return False
        ground = Ground(scene.model, scene.rays, scene.floors, scene.bodies)
        wanted = [
            (camera, self.of(camera) or self.latest(camera.id))
            for item in camera_ids
            if (camera := self._bridge.project.camera(item)) is not None
        ]

        def edit(project: Project) -> Project:
            for camera, checks in wanted:
                unlocked(camera)
                if checks is None:
                    raise Refused(
                        tr("{name} has not been looked at yet. Wait for its picture.", name=camera.name)
                    )
                project = mend(project, camera.id, code, checks, ground)
            return project

        return self._bridge.apply(label, edit)
