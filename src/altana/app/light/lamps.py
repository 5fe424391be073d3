"""Lamps: on and off, their groups, what else is a lamp, and presets for day, dusk and evening."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QListWidget, QListWidgetItem

from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import Group, Segments, button, check_box
from altana.app.workspace.workspace import Workspace
from altana.core.edits.light import mark_lamp, set_lamp_group, set_lamps, set_light
from altana.core.light.lamps import lamps_of
from altana.core.light.shade import day_hours
from altana.core.project import Light, Project
from altana.core.ranges import KELVIN, STRENGTH_EV

#: So long after sunset.
DUSK_H, EVENING_H = 1.0 / 3.0, 1.1
NOON_H = 12.0


class LampsGroup:
    """A switch for all, a list of groups with their own, strength and warmth of the chosen one."""

    def __init__(self, workspace: Workspace) -> None:
        self._bridge, self._studio, self._state = workspace.bridge, workspace.studio, workspace.state
        self.group = group = Group("Lamps")
        self.on = check_box("Lamps are on", "All lamps of the project, as their groups say")
        self.on.clicked.connect(
            lambda on: self._apply("Lamps on" if on else "Lamps off", lambda p: set_lamps(p, on))
        )
        group.add_wide(self.on)
        self.presets = Segments(
            [
                ("Day", "Noon, lamps off"),
                ("Dusk", "Twenty minutes after sunset, lamps on"),
                ("Evening", "An hour after sunset, lamps on"),
            ]
        )
        self.presets.chosen.connect(self.take_preset)
        group.add_wide(self.presets)
        self.list = QListWidget()
        self.list.setAccessibleName("Groups of lamps")
        self.list.setToolTip("Groups of lamps; the box switches one")
        self.list.setFixedHeight(92)
        self.list.itemChanged.connect(self._switched)
        self.list.currentItemChanged.connect(lambda *_: self._show_chosen())
        group.add_wide(self.list)
        self.strength = NumberField(
            "Strength",
            "+1 doubles the light of the chosen group",
            "EV",
            1,
            0.5,
            STRENGTH_EV.low,
            STRENGTH_EV.high,
        )
        self.strength.changed.connect(lambda value: self._set("Strength of lamps", strength_ev=value))
        group.add_field("Strength", self.strength)
        self.kelvin = NumberField(
            "Warmth", "2700 is warm, 4000 neutral; 0 for as they are", "K", 0, 100.0, 0.0, KELVIN.high
        )
        self.kelvin.nothing = "as they are"
        self.kelvin.changed.connect(lambda value: self._set("Warmth of lamps", kelvin=value))
        group.add_field("Warmth", self.kelvin)
        self.mark = button(
            "Chosen object is a lamp", "small", "Its surface gives light; again: no longer", self.mark_chosen
        )
        group.add_wide(self.mark)
        workspace.state.object_changed.connect(self._show_mark)

    def _apply(self, undo: str, edit: Callable[[Project], Project]) -> None:
        self._bridge.apply(undo, edit)

    def _chosen(self) -> str:
        item = self.list.currentItem() or self.list.item(0)
        return str(item.data(Qt.ItemDataRole.UserRole)) if item is not None else ""

    def _set(self, undo: str, **values: object) -> None:
        name = self._chosen()
        if name:
            self._apply(undo, lambda project: set_lamp_group(project, name, **values))

    def _switched(self, item: QListWidgetItem) -> None:
        name, on = str(item.data(Qt.ItemDataRole.UserRole)), item.checkState() == Qt.CheckState.Checked
        if self._bridge.project.light.lamps.group(name).on != on:
            words = f"{name} {'on' if on else 'off'}"
            self._apply(words, lambda project: set_lamp_group(project, name, on=on))

    def take_preset(self, index: int) -> None:
        """Day, dusk or evening on the light's date."""
        up = day_hours(replace(self._bridge.project.light, hour=NOON_H))[0]
        end = float(up[-1]) if len(up) else 16.0
        hour = (NOON_H, end + DUSK_H, end + EVENING_H)[index] % 24.0
        words = ("Day", "Dusk", "Evening")[index]
        self._apply(words, lambda project: set_lamps(set_light(project, hour=round(hour, 3)), index > 0))

    def mark_chosen(self) -> None:
        """The chosen object is a lamp from now on, or no longer."""
        chosen = self._state.object_id
        if not chosen:
            self._bridge.notices.note("Choose an object in the Frame first.")
            return
        marked = any(item.object_id == chosen for item in self._bridge.project.light.lamps.marked)
        words = "No lamp" if marked else "A lamp"
        self._apply(words, lambda project: mark_lamp(project, chosen, not marked))

    def _show_mark(self) -> None:
        chosen = self._state.object_id
        marked = any(item.object_id == chosen for item in self._bridge.project.light.lamps.marked)
        self.mark.setText("Chosen object is no lamp" if marked else "Chosen object is a lamp")
        self.mark.setEnabled(bool(chosen))

    def _show_chosen(self) -> None:
        name = self._chosen()
        held = self._bridge.project.light.lamps.group(name)
        for field, value in ((self.strength, held.strength_ev), (self.kelvin, held.kelvin)):
            field.setEnabled(bool(name))
            field.show_value(value)

    def show_light(self, light: Light) -> None:
        """Follow the project."""
        self.on.setChecked(light.lamps.on)
        self.presets.take(-1)
        scene = self._studio.scene
        counts: dict[str, int] = {}
        for lamp in lamps_of(scene.model, light.lamps) if scene is not None else ():
            counts[lamp.group] = counts.get(lamp.group, 0) + 1
        names = [self.list.item(row).data(Qt.ItemDataRole.UserRole) for row in range(self.list.count())]
        self.list.blockSignals(True)
        if names != list(counts):
            self.list.clear()
            for name in counts:
                item = QListWidgetItem()
                item.setData(Qt.ItemDataRole.UserRole, name)
                item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
                self.list.addItem(item)
        for row, (name, count) in enumerate(counts.items()):
            item = self.list.item(row)
            item.setText(f"{name}  ·  {count}")
            on = light.lamps.group(name).on
            item.setCheckState(Qt.CheckState.Checked if on else Qt.CheckState.Unchecked)
        self.list.blockSignals(False)
        self.list.setVisible(bool(counts))
        self._show_chosen()
        self._show_mark()
        total = sum(counts.values())
        self.group.show_figure(f"{total}, {'on' if light.lamps.on else 'off'}" if total else "none")
