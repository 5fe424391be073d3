"""The page of versions: the last saves of a project, what each changed, and the way back."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PySide6.QtWidgets import QDialog, QHBoxLayout, QListWidget, QVBoxLayout, QWidget

from altana.app.theme.widgets import button, label
from altana.app.theme.words import moment, tr
from altana.app.workspace.bridge import Bridge
from altana.core.errors import UserError
from altana.core.merging import differences
from altana.core.project import Camera, Project
from altana.storage.project_file import from_json, versions_folder
from altana.storage.versions import Version, versions_of


class VersionsPage(QDialog):
    """Lists versions; taking one, or single cameras of it, is a step like any other, and undo takes it
    back."""

    def __init__(self, parent: QWidget, bridge: Bridge, path: Path) -> None:
        super().__init__(parent)
        self._bridge = bridge
        self.setWindowTitle(tr("Versions"))
        self.resize(680, 520)
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 16)
        column.setSpacing(10)
        column.addWidget(label(tr("Versions"), "title"))
        column.addWidget(
            label(
                tr("The last saves of {name}, and what is another there than now.", name=path.name), "quiet"
            )
        )
        self._path = path
        self.versions = versions_of(versions_folder(), path)
        #: What was read of them, by place; None where it cannot be.
        self._read: dict[int, Project | None] = {}
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Versions"))
        self.list.addItems(
            [_when(version) for version in self.versions] or [tr("No earlier save is kept yet.")]
        )
        both = QHBoxLayout()
        both.addWidget(self.list, 1)
        both.addLayout(self._side(), 1)
        column.addLayout(both, 1)
        column.addLayout(self._buttons())
        self.list.currentRowChanged.connect(self._show_chosen)
        self.cameras.itemSelectionChanged.connect(self._show_buttons)
        if self.versions:
            self.list.setCurrentRow(0)
        self._show_buttons()

    def _side(self) -> QVBoxLayout:
        self.changed = QListWidget()
        self.changed.setAccessibleName(tr("What is another there"))
        self.cameras = QListWidget()
        self.cameras.setAccessibleName(tr("Cameras that are another there"))
        self.cameras.setSelectionMode(QListWidget.SelectionMode.ExtendedSelection)
        side = QVBoxLayout()
        side.addWidget(label(tr("Another there than now"), "group"))
        side.addWidget(self.changed, 1)
        side.addWidget(label(tr("Its cameras that differ"), "group"))
        side.addWidget(self.cameras, 1)
        return side

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        tip = tr("The project as it was then; undo brings this one back")
        self.whole = button(tr("Take the whole version"), "", tip, self._take_whole)
        tip = tr("Only these cameras as they were then")
        self.some = button(tr("Take the chosen cameras"), "", tip, self._take_cameras)
        row.addWidget(self.whole)
        row.addWidget(self.some)
        row.addStretch(1)
        row.addWidget(button(tr("Close"), "", tr("Close this page (Escape)"), self.accept))
        return row

    @property
    def _chosen(self) -> Project | None:
        row = self.list.currentRow()
        if not 0 <= row < len(self.versions):
            return None
        if row not in self._read:
            try:
                self._read[row] = from_json(self.versions[row].data, self._path.name)
            except UserError:
                self._read[row] = None
        return self._read[row]

    def _differing(self) -> list[Camera]:
        version, now = self._chosen, self._bridge.project
        return (
            [camera for camera in version.cameras if now.camera(camera.id) != camera]
            if version is not None
            else []
        )

    def _show_chosen(self, *_: object) -> None:
        version = self._chosen
        self.changed.clear()
        self.cameras.clear()
        if version is not None:
            self.changed.addItems(
                [item.words for item in differences(self._bridge.project, version)] or ["nothing"]
            )
            self.cameras.addItems([camera.name for camera in self._differing()])
        elif self.versions:
            self.changed.addItem(tr("This version cannot be read any more."))
        self._show_buttons()

    def _show_buttons(self) -> None:
        self.whole.setEnabled(self._chosen is not None and self._chosen != self._bridge.project)
        self.some.setEnabled(bool(self.cameras.selectedItems()))

    def _take_whole(self) -> None:
        version = self._chosen
        if version is not None and self._bridge.apply(
            tr("Take a version"), lambda _: version, over_locks=True
        ):
            self.accept()

    def _take_cameras(self) -> None:
        differing = self._differing()
        chosen = {
            differing[index.row()].id: differing[index.row()] for index in self.cameras.selectedIndexes()
        }

        def edit(project: Project) -> Project:
            kept = tuple(chosen.get(camera.id, camera) for camera in project.cameras)
            back = tuple(camera for camera in chosen.values() if project.camera(camera.id) is None)
            return replace(project, cameras=(*kept, *back))

        if self._bridge.apply(tr("Take cameras of a version"), edit, over_locks=True):
            self.accept()


def _when(version: Version) -> str:
    return tr("Until {when}", when=moment(version.seconds, exact=True))
