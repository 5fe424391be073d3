"""What has been found about each camera's picture, kept for as long as the camera stays as it was looked at."""

from __future__ import annotations

from collections.abc import Hashable, Iterable

from PySide6.QtCore import QObject, Signal

from altana.app.bridge import Bridge
from altana.app.scene import Studio
from altana.core.camera.bounds import place_of_sight
from altana.core.checks.camera_check import CameraCheck, Trouble, troubles
from altana.core.mends import Ground, mend
from altana.core.project import Camera, Project


def picture_key(camera: Camera) -> Hashable:
    """What decides what a camera's picture shows, light aside."""
    return camera.view(), camera.left_out, camera.nudges, camera.cap


class CheckBook(QObject):
    """Checks by camera; ``changed`` names the camera of a new one, ``progress`` tells of a check of all."""

    changed = Signal(str)
    progress = Signal(float)

    def __init__(self, bridge: Bridge, studio: Studio) -> None:
        super().__init__()
        self._bridge, self._studio = bridge, studio
        self._held: dict[str, tuple[Hashable, CameraCheck]] = {}
        self._asked: dict[str, Hashable] = {}
        studio.composed.connect(self._take)
        studio.checked.connect(self._take_one_of_all)
        for signal in (studio.opened, bridge.left_out_changed, bridge.models_changed):
            signal.connect(self._forget)

    def _forget(self) -> None:
        self._held.clear()
        self._asked.clear()

    # ------------------------------------------------------------------ asking

    def asked(self, camera: Camera) -> None:
        """Note what a camera was like when its picture was asked about."""
        self._asked[camera.id] = picture_key(camera)

    def check_all(self) -> int:
        """Check every camera whose check is not of now; how many were asked about."""
        wanted = [camera for camera in self._bridge.project.cameras if self.of(camera) is None]
        for camera in wanted:
            self.asked(camera)
        self._studio.order_checks([(c.id, c.view(), self._studio.staging(self._bridge.project, c)) for c in wanted])
        self.progress.emit(0.0 if wanted else 1.0)
        return len(wanted)

    def stop(self) -> None:
        """Leave the rest of a check of all."""
        self._studio.order_checks([])
        self.progress.emit(1.0)

    def _take(self, camera_id: str, found: CameraCheck) -> None:
        key = self._asked.get(camera_id)
        if key is not None:
            self._held[camera_id] = (key, found)
        self.changed.emit(camera_id)

    def _take_one_of_all(self, camera_id: str, found: CameraCheck, share: float) -> None:
        self._take(camera_id, found)
        self.progress.emit(share)

    # ------------------------------------------------------------------ telling

    def of(self, camera: Camera) -> CameraCheck | None:
        """The check of a camera as it stands, or None."""
        held = self._held.get(camera.id)
        return held[1] if held is not None and held[0] == picture_key(camera) else None

    def latest(self, camera_id: str) -> CameraCheck | None:
        """The last check of a camera, even if it has moved since."""
        held = self._held.get(camera_id)
        return held[1] if held is not None else None

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
        wanted = [(camera, self.latest(camera.id)) for item in camera_ids if (camera := self._bridge.project.camera(item)) is not None]
        if any(camera.locked for camera, _ in wanted):
            self._bridge.failed.emit("The camera is locked. Unlock it, then mend it.")
            return False

        def edit(project: Project) -> Project:
            for camera, found in wanted:
                if found is None:
                    raise ValueError(f"{camera.name} has not been looked at yet. Wait for its picture.")
                project = mend(project, camera.id, code, found, ground)
            return project

        return self._bridge.apply(label, edit)
