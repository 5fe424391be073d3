"""What lies under the pointer in the Frame: a surface, a wall, an edge of the frame."""

from __future__ import annotations

from typing import Protocol

import numpy as np
from PySide6.QtCore import QPointF, QRectF

from altana.app.workspace.workspace import Workspace
from altana.core.camera.bounds import look
from altana.core.conventions import Floats, Vec3
from altana.core.geometry.sight import passed_faces
from altana.core.project import Camera

EDGE_PX = 5.0


class PickedFrame(Protocol):
    """What picking needs of the Frame."""

    plain: bool
    override: Camera | None

    @property
    def camera(self) -> Camera | None:
        """What is shown."""

    def frame_rect(self) -> QRectF:
        """Where the picture lies."""


class FramePicking:
    """Asks the rays of the model about one Frame."""

    def __init__(self, frame: PickedFrame, workspace: Workspace) -> None:
        self._frame = frame
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio

    def _sight(self, at: QPointF, camera: Camera) -> Floats:
        """(1, 3) the line of sight through a point of the widget."""
        rect = self._frame.frame_rect()
        x = (at.x() - rect.left()) / rect.width() * camera.width_px
        y = (at.y() - rect.top()) / rect.height() * camera.height_px
        return camera.view().rays(np.array([[x, y]]))

    def wall_at(self, at: QPointF) -> Vec3 | None:
        """The first surface on the line of sight; panes are walls here."""
        scene, camera = self._studio.scene, self._frame.camera
        if scene is None or camera is None or not self._frame.frame_rect().contains(at):
            return None
        along = self._sight(at, camera)
        _, met = look(camera.view(), scene.rays, along, np.zeros(len(scene.model.faces), bool))
        if met.face[0] < 0:
            return None
        x, y, z = (np.asarray(camera.eye) + along[0] * float(met.distance_m[0])).tolist()
        return x, y, z

    def hit(self, at: QPointF) -> tuple[int, Vec3] | None:
        """The triangle and the place seen at a point of the widget, panes passed by; None for the sky."""
        scene, camera, rect = self._studio.scene, self._frame.camera, self._frame.frame_rect()
        if scene is None or camera is None or rect.isEmpty():
            return None
        direction = self._sight(at, camera)
        omitted = self._studio.staging(self._bridge.project, camera, self._state.hiding).omitted
        _, hits = look(
            camera.view(),
            scene.rays,
            direction,
            passed_faces(scene.model, omitted) if omitted else scene.panes,
        )
        face = int(hits.face[0])
        if face < 0:
            return None
        x, y, z = (np.asarray(camera.eye) + direction[0] * float(hits.distance_m[0])).tolist()
        return face, (x, y, z)

    def edge_at(self, at: QPointF) -> str:
        """The edge of the frame under the pointer."""
        rect = self._frame.frame_rect()
        if not self._state.held or self._frame.override is not None or self._frame.plain:
            return ""
        if not rect.adjusted(-EDGE_PX, -EDGE_PX, EDGE_PX, EDGE_PX).contains(at):
            return ""
        near = [
            (abs(at.x() - rect.left()), "left"),
            (abs(at.x() - rect.right()), "right"),
            (abs(at.y() - rect.top()), "top"),
            (abs(at.y() - rect.bottom()), "bottom"),
        ]
        away, side = min(near)
        return side if away <= EDGE_PX else ""
