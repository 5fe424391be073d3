"""The rooms of the model: each can be stood in at once."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QListWidgetItem

from altana.app.model.lists import short_list
from altana.app.theme.widgets import Group, button
from altana.app.theme.words import tr
from altana.app.workspace.rooms import stand_in
from altana.app.workspace.workspace import Workspace
from altana.core.model import Model, Room


class RoomsGroup:
    """Lists rooms by storey, the lowest first.  ``stood`` is called when a camera was stood in one."""

    def __init__(self, workspace: Workspace, stood: Callable[[], object]) -> None:
        self._workspace, self._stood = workspace, stood
        self.group = Group(tr("Rooms"))
        # A press chooses; only Return, or a press twice, stands a camera.
        self.rooms = short_list(tr("Rooms"), 92)
        self.rooms.itemActivated.connect(lambda _: self.stand_here())
        self.group.add_wide(self.rooms)
        tip = tr("A camera in the chosen room, from the corner that shows most of it (Return in the list)")
        self.here = button(tr("Stand here"), "small", tip, self.stand_here)
        self.group.add_wide(self.here)

    def show_model(self, model: Model | None) -> None:
        """Another model."""
        self.rooms.clear()
        rooms = model.rooms if model is not None else ()
        for room in sorted(rooms, key=lambda item: item.floor_m):
            storey = model.storey(room.storey_id) if model is not None else None
            item = QListWidgetItem(room.name + (f"  ·  {storey.name}" if storey is not None else ""))
            item.setData(Qt.ItemDataRole.UserRole, room)
            item.setToolTip(tr("Press Return, or twice, to stand a camera in it"))
            self.rooms.addItem(item)
        if rooms:
            self.rooms.setCurrentRow(0)
        self.group.setVisible(bool(rooms))
        self.group.show_figure(str(len(rooms)))

    def stand_here(self) -> None:
        """A camera in the chosen room."""
        item = self.rooms.currentItem()
        if item is not None:
            self.stand_in(item.data(Qt.ItemDataRole.UserRole))

    def stand_in(self, room: Room) -> None:
        """A camera in a room; it is the chosen one."""
        if stand_in(self._workspace, room):
            self._stood()
