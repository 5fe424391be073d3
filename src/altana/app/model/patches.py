"""Mends of ours on the model: switched, gone to, taken back."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QListWidgetItem

from altana.app.model.lists import short_list
from altana.app.theme.widgets import Group, button
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.patching import remove_patch, turn_patch


class PatchGroup:
    """The list of mends; not there while there are none."""

    def __init__(self, workspace: Workspace, go_to: Callable[[str], None]) -> None:
        self._bridge, self._go_to = workspace.bridge, go_to
        self.patches = short_list(tr("Mends of ours"), 74, self._pressed)
        self.group = Group(tr("Mends of ours"))
        self.group.add_wide(self.patches)
        self.group.add_wide(
            button(tr("On or off"), "small", tr("Switch the chosen mend"), self.turn),
            button(tr("Take back"), "small", tr("Remove the chosen mend; undo brings it back"), self.remove),
        )
        self._bridge.patches_changed.connect(self.refresh)

    def refresh(self) -> None:
        """Follow the project."""
        patches = self._bridge.project.patches
        self.patches.clear()
        for patch in patches:
            row = QListWidgetItem(f"{patch.name}{'' if patch.on else '  (off)'}")
            row.setData(Qt.ItemDataRole.UserRole, patch.id)
            row.setToolTip(
                tr("A mend of ours on the model; the model's file is not changed. Press: goes there")
            )
            self.patches.addItem(row)
        self.group.setVisible(bool(patches))
        self.group.show_figure(str(len(patches)))

    def _chosen(self) -> str:
        item = self.patches.currentItem() or self.patches.item(0)
        return str(item.data(Qt.ItemDataRole.UserRole)) if item is not None else ""

    def _pressed(self, item: QListWidgetItem) -> None:
        self._go_to(f"mend:{item.data(Qt.ItemDataRole.UserRole)}")

    def turn(self) -> None:
        """Switch the chosen mend."""
        chosen = self._chosen()
        patch = next((item for item in self._bridge.project.patches if item.id == chosen), None)
        if patch is not None:
            self._bridge.apply(
                f"{patch.name} {'off' if patch.on else 'on'}", lambda p: turn_patch(p, patch.id, not patch.on)
            )

    def remove(self) -> None:
        """Take the chosen mend back."""
        chosen = self._chosen()
        if chosen:
            self._bridge.apply(tr("Take mend back"), lambda project: remove_patch(project, chosen))
