"""Exposure from the picture: proposed for cameras when asked for, and taken for a camera that was just stood
outside."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from PySide6.QtCore import QObject

from altana.app.theme.words import tr
from altana.app.workspace.bridge import Bridge
from altana.app.workspace.studio import Studio
from altana.core.conventions import EV_OUTSIDE
from altana.core.edits.cameras import change_camera
from altana.core.project import Camera, Project

STOOD = tr("Stand a camera")


class Exposing(QObject):
    """Asks the pictures' process what light a camera sees, and sets its exposure."""

    def __init__(self, bridge: Bridge, studio: Studio) -> None:
        super().__init__()
        self._bridge, self._studio = bridge, studio
        #: Cameras that were asked for by hand, and the one that was just stood, as it was then.
        self._asked: dict[str, Camera] = {}
        self._stood: Camera | None = None
        self._known = {camera.id for camera in bridge.project.cameras}
        bridge.settled.connect(self._settled)
        studio.exposed.connect(self._take)

    def propose(self, camera_ids: Iterable[str]) -> None:
        """Set the exposure of cameras so that the middle of each picture comes out as middle grey."""
        cameras = [camera for item in camera_ids if (camera := self._bridge.project.camera(item)) is not None]
        self._asked = {camera.id: camera for camera in cameras}
        self._order(cameras)

    def _order(self, cameras: list[Camera]) -> None:
        project = self._bridge.project
        wanted = [(camera, self._studio.staging(project, camera)) for camera in cameras]
        if wanted and self._studio.scene is not None:
            self._studio.order_exposure(wanted, project.light)

    def _settled(self) -> None:
        project = self._bridge.project
        new = [camera for camera in project.cameras if camera.id not in self._known]
        self._known = {camera.id for camera in project.cameras}
        if (
            self._bridge.document.undo_label == STOOD
            and len(new) == 1
            and not new[0].inside
            and new[0].ev == EV_OUTSIDE
        ):
            self._stood = new[0]
            self._order(new)

    def _take(self, exposures: dict[str, float]) -> None:
        stood, self._stood = self._stood, None
        if stood is not None and stood.id in exposures and stood.id not in self._asked:
            # The start value is part of standing: one undo takes both back.  A camera that was changed since
            # keeps its own.
            if self._bridge.project.camera(stood.id) == stood:
                self._bridge.amend(STOOD, lambda project: _exposed(project, {stood.id: exposures[stood.id]}))
            return
        wanted = {name: ev for name, ev in exposures.items() if name in self._asked}
        self._asked = {}
        if wanted:
            self._bridge.apply(tr("Proposed exposure"), lambda project: _exposed(project, wanted))


def _exposed(project: Project, exposures: dict[str, float]) -> Project:
    for name, ev in exposures.items():
        camera = project.camera(name)
        if camera is not None and not camera.locked:
            project = change_camera(project, name, lambda c, ev=ev: replace(c, ev=ev))  # type: ignore[misc]
    return project
