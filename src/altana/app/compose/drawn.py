"""How this camera is drawn for delivery: the first row it has in the shot list, set where the camera is
composed."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtWidgets import QComboBox

from altana.app.theme.plain_text import tip_text
from altana.app.theme.widgets import ChoiceBox, Group, label
from altana.app.theme.words import spoken, tr
from altana.app.workspace.workspace import Workspace
from altana.core.edits.shots import add_shots, change_shots, start_values
from altana.core.project import (
    BACKGROUNDS,
    LINES,
    MATERIALS,
    PENCIL,
    RENDITIONS,
    STILL,
    Camera,
    Project,
    Shot,
)
from altana.core.styles import STYLES, called


class DrawnGroup:
    """Drawn as, line style and background of the camera's rows in the format it is in; a choice makes a row
    where none is."""

    def __init__(self, workspace: Workspace) -> None:
        self._bridge, self._state = workspace.bridge, workspace.state
        self.group = Group(tr("Drawn as"))
        self.rendition = self._choice(
            tr("Drawn as"), tr("Materials, white card, lines or pencil; F4 shows it"), RENDITIONS, "rendition"
        )
        self.group.add_wide(self.rendition)
        self.style = self._choice(
            tr("Line style"), tr("How lines are drawn; its figures are set in Hand over"), (), "style"
        )
        self._style_label = self.group.add_field(tr("Style"), self.style)
        self.background = self._choice(
            tr("Background of the picture"), tr("What stands behind the building"), BACKGROUNDS, "background"
        )
        self.group.add_field(tr("Background"), self.background)
        self.told = label("", "quiet")
        self.told.setWordWrap(True)
        self.group.add_wide(self.told)

    def _choice(self, name: str, tip: str, choices: tuple[str, ...], field: str) -> QComboBox:
        box = ChoiceBox()
        box.setAccessibleName(name)
        box.setToolTip(tip_text(tip))
        for word in choices:
            box.addItem(spoken(word), word)
        box.activated.connect(lambda index: self._set(name, field, box.itemData(index)))
        return box

    def _rows(self, project: Project, camera: Camera) -> list[Shot]:
        return [
            item
            for item in project.shots
            if item.kind == STILL and item.subject == camera.id and item.format_index == camera.format_index
        ]

    def _set(self, text: str, field: str, chosen: str) -> None:
        active = self._state.active
        if active is None:
            return
        value: object = chosen
        if field == "style":
            value = next((item for item in STYLES if item.name == chosen), None)
            if value is None:
                return

        def edit(project: Project) -> Project:
            rows = self._rows(project, active)
            if rows:
                return change_shots(project, [item.id for item in rows], **{field: value})
            return add_shots(project, [replace(start_values(project, STILL, active.id), **{field: value})])  # type: ignore[arg-type]

        if not self._bridge.apply(text, edit):
            self.show_camera(active)

    def show_camera(self, camera: Camera) -> None:
        """Follow the shown camera's row."""
        rows = self._rows(self._bridge.project, camera)
        shot = rows[0] if rows else Shot("")
        self.rendition.setCurrentIndex(RENDITIONS.index(shot.rendition))
        self.background.setCurrentIndex(BACKGROUNDS.index(shot.background))
        drawn = shot.rendition in (LINES, PENCIL)
        for part in (self.style, self._style_label):
            part.setVisible(drawn)
        name = called(shot.style)
        names = [style.name for style in STYLES]
        names += [] if name in names else [name]
        if names != [self.style.itemData(index) for index in range(self.style.count())]:
            self.style.clear()
            for one in names:
                self.style.addItem(spoken(one), one)
        self.style.setCurrentIndex(names.index(name))
        count = len(rows)
        self.told.setText(
            tr("Not in the shot list in this format: a choice puts it there.")
            if not rows
            else tr("Its row in the shot list. F4 shows it so.")
            if count == 1
            else tr("Its %n rows in the shot list.", "", count)
        )
        self.group.show_figure(
            spoken(shot.rendition) if rows or shot.rendition != MATERIALS else tr("no row yet")
        )
