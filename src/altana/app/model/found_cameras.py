"""Cameras that stood in the model's file: offered, and taken over only when asked for."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QListWidgetItem

from altana.app.model.lists import short_list
from altana.app.theme.widgets import Group, button
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.edits.cameras import add_camera, from_file
from altana.core.model import FoundCamera, Model
from altana.core.project import Project


class FoundCameras:
    """The list of them; not there while the file has none.  ``taken`` is called when one was taken over,
    ``take_in`` for those of other files, ``send`` to give the project's own to other tools."""

    def __init__(
        self,
        workspace: Workspace,
        taken: Callable[[], object],
        take_in: Callable[[], object],
        send: Callable[[], object],
    ) -> None:
        self._bridge, self._state, self._studio, self._taken = (
            workspace.bridge,
            workspace.state,
            workspace.studio,
            taken,
        )
        self.group = Group(tr("Cameras in the file"))
        self.found = short_list(tr("Cameras in the file"), 74, lambda _: self.take_over(False))
        self.group.add_wide(self.found)
        one = tr("Make the chosen camera of the file one of the project's")
        self.group.add_wide(
            button(tr("Take this"), "small", one, lambda: self.take_over(False)),
            button(
                tr("Take all"),
                "small",
                tr("Make all cameras of the file the project's"),
                lambda: self.take_over(True),
            ),
        )
        tip = tr("Cameras, walks and remarks of another file: glTF, USD, BCF, CSV; offered first")
        away = tr("The project's cameras and walks for other tools: glTF, USD, BCF, tables")
        self.group.add_wide(
            button(tr("Take in…"), "small", tip, take_in), button(tr("Send…"), "small", away, send)
        )

    def show_model(self, model: Model | None) -> None:
        """Another model."""
        self.found.clear()
        cameras = model.cameras if model is not None else ()
        for camera in cameras:
            row = QListWidgetItem(f"{camera.name}  ·  {camera.focal_mm:.0f} mm")
            row.setData(Qt.ItemDataRole.UserRole, camera)
            row.setToolTip(tr("Press Return or “Take this” to make it one of the project's cameras"))
            self.found.addItem(row)
        self.found.setVisible(bool(cameras))
        self.group.show_figure(str(len(cameras)))

    def take_over(self, everything: bool) -> None:
        """Make cameras of the file cameras of the project; inside or outside is found by casting rays."""
        scene = self._studio.scene
        items = [self.found.item(row) for row in range(self.found.count())]
        chosen = items if everything else [item for item in items if item is self.found.currentItem()]
        if scene is None or not chosen:
            return

        def edit(project: Project) -> tuple[Project, str]:
            created = ""
            for item in chosen:
                camera: FoundCamera = item.data(Qt.ItemDataRole.UserRole)
                project, created = add_camera(project, from_file(camera, scene.rays.roofed(camera.eye)))
            return project, created

        created = self._bridge.apply_adding(tr("Take over cameras"), edit)
        if created:
            self._state.select(created)
            self._taken()
