"""Lamps: on and off, their groups, what else is a lamp, and presets for day, dusk and evening."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QListWidget, QListWidgetItem

from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import Group, Segments, button, check_box
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.edits.light import dim_lamps, mark_lamp, set_lamp_group, set_lamps, set_light
from altana.core.light.lamps import lamps_of
from altana.core.light.shade import day_hours
from altana.core.project import Light, Project
from altana.core.ranges import KELVIN, LAMP_LEVEL, STRENGTH_EV

#: So long after sunset.
DUSK_H, EVENING_H = 1.0 / 3.0, 1.1
NOON_H = 12.0


class LampsGroup:
    """A switch for all, a list of groups with their own, strength and warmth of the chosen one."""

    def __init__(self, workspace: Workspace) -> None:
        self._bridge, self._studio, self._state = workspace.bridge, workspace.studio, workspace.state
        self.group = group = Group(tr("Lamps"))
        self.on = check_box(tr("Lamps are on"), tr("All lamps of the project, as their groups say"))
        self.on.clicked.connect(
            lambda on: self._apply(tr("Lamps on") if on else tr("Lamps off"), lambda p: set_lamps(p, on))
        )
        group.add_wide(self.on)
        self.level = NumberField(
            tr("Dimmed to"),
            tr("How much of their light all lamps give while they are on"),
            "%",
            0,
            5.0,
            LAMP_LEVEL.low * 100.0,
            LAMP_LEVEL.high * 100.0,
        )
        self.level.changed.connect(
            lambda value: self._apply(tr("Dimming lamps"), lambda p: dim_lamps(p, value / 100.0))
        )
        group.add_field(tr("Dimmed to"), self.level)
        self.presets = Segments(
            [
                (tr("Day"), tr("Noon, lamps off")),
                (tr("Dusk"), tr("Twenty minutes after sunset, lamps on")),
                (tr("Evening"), tr("An hour after sunset, lamps on")),
            ]
        )
        self.presets.chosen.connect(self.take_preset)
        group.add_wide(self.presets)
        self._add_groups()
        self.mark = button(
            tr("Chosen object is a lamp"),
            "small",
            tr("Its surface gives light; again: no longer"),
            self.mark_chosen,
        )
        group.add_wide(self.mark)
        workspace.state.object_changed.connect(self._show_mark)

    def _add_groups(self) -> None:
        """The list of groups, and what the chosen one has of its own."""
        group = self.group
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Groups of lamps"))
        self.list.setToolTip(tr("Groups of lamps; the box switches one"))
        self.list.setFixedHeight(92)
        self.list.itemChanged.connect(self._switched)
        self.list.currentItemChanged.connect(lambda *_: self._show_chosen())
        group.add_wide(self.list)
        self.strength = NumberField(
            tr("Strength"),
            tr("+1 doubles the light of the chosen group"),
            "EV",
            1,
            0.5,
            STRENGTH_EV.low,
            STRENGTH_EV.high,
        )
        self.strength.changed.connect(lambda value: self._set(tr("Strength of lamps"), strength_ev=value))
        group.add_field(tr("Strength"), self.strength)
        self.kelvin = NumberField(
            tr("Warmth"), tr("2700 is warm, 4000 neutral; 0 for as they are"), "K", 0, 100.0, 0.0, KELVIN.high
        )
        self.kelvin.nothing = tr("as they are")
        self.kelvin.changed.connect(lambda value: self._set(tr("Warmth of lamps"), kelvin=value))
        group.add_field(tr("Warmth"), self.kelvin)

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
        words = (tr("Day"), tr("Dusk"), tr("Evening"))[index]
        self._apply(words, lambda project: set_lamps(set_light(project, hour=round(hour, 3)), index > 0))

    def mark_chosen(self) -> None:
        """The chosen object is a lamp from now on, or no longer."""
        chosen = self._state.object_id
        if not chosen:
            self._bridge.notices.note(tr("Choose an object in the Frame first."))
            return
        marked = any(item.object_id == chosen for item in self._bridge.project.light.lamps.marked)
        words = tr("No lamp") if marked else tr("A lamp")
        self._apply(words, lambda project: mark_lamp(project, chosen, not marked))

    def _show_mark(self) -> None:
        chosen = self._state.object_id
        marked = any(item.object_id == chosen for item in self._bridge.project.light.lamps.marked)
        self.mark.setText(tr("Chosen object is no lamp") if marked else tr("Chosen object is a lamp"))
        self.mark.setEnabled(bool(chosen))

    def _show_chosen(self) -> None:
        name = self._chosen()
        group = self._bridge.project.light.lamps.group(name)
        for field, value in ((self.strength, group.strength_ev), (self.kelvin, group.kelvin)):
            field.setEnabled(bool(name))
            field.show_value(value)

    def show_light(self, light: Light) -> None:
        """Follow the project."""
        self.on.setChecked(light.lamps.on)
        self.level.show_value(light.lamps.level * 100.0)
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
        state = tr("on") if light.lamps.on else tr("off")
        self.group.show_figure(f"{total}, {state}" if total else tr("none"))
