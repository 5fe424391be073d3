"""What this camera's picture leaves out, and what is nudged for it; each line can be taken back."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QListWidget, QListWidgetItem, QWidget

from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import Group, button, label
from altana.app.theme.words import spoken, tr
from altana.app.workspace.workspace import Workspace
from altana.core.edits.left_out import leave_out, nudge
from altana.core.project import Camera


class LeftOutGroup:
    """What this camera's picture leaves out, and what is nudged for it; each line can be taken back."""

    def __init__(self, workspace: Workspace) -> None:
        self._edits, self._bridge, self._state, self._studio = (
            workspace.edits,
            workspace.bridge,
            workspace.state,
            workspace.studio,
        )
        self.group = Group(tr("Left out"))
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Left out of this camera's picture"))
        self.list.setToolTip(tr("Left out of, or nudged for, this camera alone; Delete takes a line back"))
        self.list.setFixedHeight(72)
        self.group.add_wide(self.list)
        self.chosen = label(tr("Press on an object in the Frame"), "quiet")
        self.chosen.setWordWrap(True)
        self.chosen.setMinimumWidth(60)
        self.group.add_wide(self.chosen)
        self.out = button(
            tr("Leave out"),
            "small",
            tr("Leave the chosen object out of this camera's picture (key O)"),
            self.leave_out_now,
        )
        self.back = button(
            tr("Take back"),
            "small",
            tr("Show the chosen line's object as it is in the model"),
            self.take_back,
        )
        self.group.add_wide(self.out, self.back)
        self._add_nudge()

    def _add_nudge(self) -> None:
        self.moves = [
            NumberField(
                tr("Move {axis}", axis=spoken(axis)),
                tr("Nudge the chosen object {axis}, for this camera only", axis=spoken(axis)),
                "",
                2,
                0.05,
            )
            for axis in ("east", "north", "up")
        ]
        self.turned = NumberField(
            tr("Turn"), tr("Turn the chosen object clockwise, for this camera only"), "", 1, 5.0
        )
        for field in (*self.moves, self.turned):
            field.changed.connect(lambda _: self._nudge())
            field.setMinimumWidth(40)
        row = QHBoxLayout()
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(3)
        for field in (*self.moves, self.turned):
            row.addWidget(field)
        holder = QWidget()
        holder.setLayout(row)
        self._nudge_label = label(tr("Nudge east, north, up (m), turn (°)"), "quiet")
        self.group.add_wide(self._nudge_label)
        self.group.add_wide(holder)

    def leave_out_now(self) -> None:
        """Leave the chosen object out of the chosen cameras."""
        object_id, targets = self._state.object_id, self._edits.targets
        if object_id and targets:
            self._bridge.apply(tr("Leave out"), lambda p: leave_out(p, targets, "objects", object_id))

    def take_back(self) -> None:
        """Take the chosen line back, or whatever is said of the chosen object."""
        item = self.list.currentItem()
        kind, name = (
            item.data(Qt.ItemDataRole.UserRole) if item is not None else ("objects", self._state.object_id)
        )
        active = self._state.active
        if active is None or not name:
            return
        if kind == "nudge":
            self._bridge.apply(tr("Take nudge back"), lambda p: nudge(p, active.id, name))
        else:
            self._bridge.apply(tr("Show again"), lambda p: leave_out(p, [active.id], kind, name, False))

    def _nudge(self) -> None:
        active, object_id = self._state.active, self._state.object_id
        if active is None or not object_id:
            return
        x, y, z = (field.value for field in self.moves)
        self._bridge.apply(
            tr("Nudge object"), lambda p: nudge(p, active.id, object_id, (x, y, z), self.turned.value)
        )

    def _name(self, kind: str, name: str) -> str:
        scene = self._studio.scene
        if scene is None:
            return name
        if kind == "storeys":
            storey = scene.model.storey(name)
            return tr("storey {name}", name=storey.name) if storey else name
        if kind == "categories":
            return tr("all {name}", name=name)
        number = scene.lookup.index.get(name)
        return (
            scene.model.objects[number].name
            if number is not None
            else tr("{name} (not in the model now)", name=name)
        )

    def show_camera(self, camera: Camera) -> None:
        """List what differs from the model, and show the chosen object's nudge."""
        lines = [
            (kind, name, tr("{name}: left out", name=self._name(kind, name)))
            for kind in ("objects", "categories", "storeys")
            for name in getattr(camera.left_out, kind)
        ]
        for item in camera.nudges:
            words = (
                tr("taken out")
                if item.out
                else ", ".join(
                    f"{value:+.2f} m {spoken(axis)}"
                    for value, axis in zip(item.move, ("east", "north", "up"), strict=True)
                    if value
                )
                + (tr(" turned {turn_deg:.0f}°", turn_deg=item.turn_deg) if item.turn_deg else "")
            )
            lines.append(("nudge", item.object_id, f"{self._name('objects', item.object_id)}: {words}"))
        if [self.list.item(row).text() for row in range(self.list.count())] != [text for _, _, text in lines]:
            self.list.clear()
            for kind, name, text in lines:
                entry = QListWidgetItem(text)
                entry.setData(Qt.ItemDataRole.UserRole, (kind, name))
                self.list.addItem(entry)
        object_id = self._state.object_id
        self.chosen.setText(
            tr("Chosen: {name}", name=self._name("objects", object_id))
            if object_id
            else tr("Press on an object in the Frame to choose it.")
        )
        self.out.setEnabled(bool(object_id))
        self.back.setEnabled(bool(lines))
        nudge = next((item for item in camera.nudges if item.object_id == object_id), None)
        for field, value in zip(self.moves, nudge.move if nudge else (0.0, 0.0, 0.0), strict=True):
            field.show_value(value)
            field.setEnabled(bool(object_id))
        self.turned.show_value(nudge.turn_deg if nudge else 0.0)
        self.turned.setEnabled(bool(object_id))
        project = self._bridge.project.left_out
        whole = len(project.objects) + len(project.categories) + len(project.storeys)
        count = tr("{lines} here", lines=len(lines)) if lines else tr("nothing here")
        self.group.show_figure(count + (tr(" · {whole} in all", whole=whole) if whole else ""))
