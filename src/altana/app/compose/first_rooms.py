"""Where there is no camera yet: the rooms of the building, each to stand in with one press."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QVBoxLayout, QWidget

from altana.app.theme.plain_text import short_name
from altana.app.theme.widgets import button, label
from altana.app.theme.words import tr
from altana.app.workspace.rooms import stand_in
from altana.app.workspace.workspace import Workspace

#: More rooms than this are found on the Model desk, and by Find.
MOST = 9


class FirstRooms(QWidget):
    """Buttons of the largest rooms; gone as soon as there is a camera."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self._workspace = workspace
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(5)
        self.buttons: dict[str, QWidget] = {}
        workspace.bridge.cameras_changed.connect(self.refresh)
        workspace.studio.opened.connect(self._rooms_changed)
        self.refresh()

    def refresh(self) -> None:
        """In sight while there are rooms and no camera."""
        self.setVisible(bool(self.buttons) and not self._workspace.bridge.project.cameras)

    def _rooms_changed(self) -> None:
        while self._column.count():
            item = self._column.takeAt(0)
            old = item.widget() if item is not None else None
            if old is not None:
                old.hide()
                old.deleteLater()
        scene = self._workspace.studio.scene
        rooms = scene.model.rooms if scene is not None else ()
        self.buttons = {}
        self._column.addWidget(label(tr("Begin in a room:"), "quiet"))
        for room in rooms[:MOST]:
            tip = tr("Stand a camera in “{name}”, in the corner that shows most of it", name=room.name)
            stand_button = button(
                short_name(room.name, 24), "", tip, partial(stand_in, self._workspace, room)
            )
            self._column.addWidget(stand_button)
            self.buttons[room.name] = stand_button
        if len(rooms) > MOST:
            more = label(tr("%n more on the Model desk, and by Find.", "", len(rooms) - MOST), "quiet")
            more.setWordWrap(True)
            self._column.addWidget(more)
        self.refresh()
