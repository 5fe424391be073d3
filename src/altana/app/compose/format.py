"""Size, proportion, sensor fit and guides of the format in use, and the camera's other formats."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QMenu

from altana.app.compose.fields import CameraFields, FieldSpec
from altana.app.theme.value_field import ValueField
from altana.app.theme.widgets import Group, Segments, button, menu_button
from altana.app.theme.words import capital, spoken, tr
from altana.app.workspace.workspace import Workspace
from altana.core.edits.formats import (
    DESTINATIONS,
    add_format,
    choose_format,
    parse_proportion,
    proportion_text,
    remove_format,
    resized,
    size_for,
    swapped,
)
from altana.core.errors import Refused
from altana.core.project import GUIDES, Camera, Project
from altana.core.ranges import SIDE_PX


class FormatGroup:
    """Size, proportion, sensor fit and guides of the format in use, and the camera's other formats."""

    def __init__(self, workspace: Workspace, fields: CameraFields) -> None:
        self._edits, self._bridge, self._state = workspace.edits, workspace.bridge, workspace.state
        self.group = Group(tr("Format"))
        self.choose = menu_button(
            tr("Format ▾"), tr("Formats: change this one, take another or add one"), self._fill
        )
        self.swap = button(tr("Wide / high"), "small", tr("Swap width and height (key W)"), self.swap_now)
        self.group.add_wide(self.choose, self.swap)
        self.width = fields.field(
            FieldSpec(
                tr("Width"),
                tr("Pixels across; 10 in, 10 x 7 in, 250 mm and ×2 are understood"),
                "px",
                0,
                10.0,
                tr("Format"),
                lambda c: float(c.width_px),
                self._with_width,
                SIDE_PX,
            )
        )
        self.height = fields.field(
            FieldSpec(
                tr("Height"),
                tr("Pixels up; 10 in, 10 x 7 in, 250 mm and ×2 are understood"),
                "px",
                0,
                10.0,
                tr("Format"),
                lambda c: float(c.height_px),
                self._with_height,
                SIDE_PX,
            )
        )
        for side in (self.width, self.height):
            side.sides.connect(self._take_sides)
        self.group.add_pair(tr("Size"), self.width, self.height)
        self._add_proportion()
        self.guides = menu_button(
            tr("Guides ▾"),
            tr("Guides: lines over the Frame, never in the picture (key G: on or off)"),
            self._fill_guides,
        )
        self.group.add_wide(self.guides)
        self._linked, self._shows_more = True, False
        self.kept.take(1)
        self.resizing.take(0)

    def _add_proportion(self) -> None:
        self.proportion = ValueField()
        self.proportion.setAccessibleName(tr("Proportion"))
        self.proportion.setToolTip(tr("Width to height, such as 16:9 or 2.39:1; the height follows"))
        self.proportion.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.proportion.editingFinished.connect(self._take_proportion)
        self.group.add_field(tr("Proportion"), self.proportion)
        self.kept = Segments(
            [
                (tr("free"), tr("Width and height each by itself")),
                (tr("linked"), tr("The proportion is kept: the other side follows")),
            ]
        )
        self.kept.chosen.connect(self._link)
        self.group.add_field(tr("Sides"), self.kept)
        self.resizing = Segments(
            [
                (tr("same view"), tr("Another size shows the same width of view")),
                (tr("shows more"), tr("Another size shows more or less, things keep their size")),
            ]
        )
        self.resizing.chosen.connect(self._more)
        self.group.add_field(tr("Resizing"), self.resizing)
        self.fit = Segments(
            [
                (tr("width"), tr("The sensor's width is kept when the proportion changes")),
                (tr("height"), tr("The sensor's height is kept when the proportion changes")),
            ]
        )
        self.fit.chosen.connect(
            lambda index: self._edits.commit(
                tr("Sensor fit"), lambda c, v: replace(c, keep_sensor_height=v), index == 1
            )
        )
        self.group.add_field(tr("Sensor keeps"), self.fit)

    def _link(self, index: int) -> None:
        self._linked = index == 1

    def _more(self, index: int) -> None:
        self._shows_more = index == 1

    def _sized(self, camera: Camera, width: int, height: int, name: str = "Own size") -> Camera:
        return resized(camera, width, height, self._shows_more, name)

    def _with_width(self, camera: Camera, value: float) -> Camera:
        given = (
            {"width": value, "proportion": camera.width_px / camera.height_px}
            if self._linked
            else {"width": value, "height": float(camera.height_px)}
        )
        return self._sized(camera, *size_for(camera.width_px, camera.height_px, **given))

    def _with_height(self, camera: Camera, value: float) -> Camera:
        given = (
            {"height": value, "proportion": camera.width_px / camera.height_px}
            if self._linked
            else {"height": value, "width": float(camera.width_px)}
        )
        return self._sized(camera, *size_for(camera.width_px, camera.height_px, **given))

    def _take_sides(self, width: float, height: float) -> None:
        """Both sides were typed at once, such as 10 x 7 in."""
        self._edits.do(tr("Format"), lambda c: self._sized(c, round(width), round(height)))

    def _take_proportion(self) -> None:
        if not self.proportion.isModified():
            return
        self.proportion.setModified(False)
        try:
            wanted = parse_proportion(self.proportion.text())
        except Refused as error:
            self._bridge.notices.trouble(error.sentence)
            return
        self._edits.commit(
            tr("Proportion"),
            lambda c, v: self._sized(c, *size_for(c.width_px, c.height_px, width=c.width_px, proportion=v)),
            wanted,
        )

    def swap_now(self) -> None:
        """Wide becomes high, and back."""
        self._edits.do(tr("Swap wide and high"), lambda c: swapped(c))

    def _fill(self, menu: QMenu) -> None:
        for name, width, height in DESTINATIONS:
            menu.addAction(
                f"{spoken(name)}\t{width} × {height}",
                lambda name=name, width=width, height=height: self.take(name, width, height),
            )
        added = menu.addMenu(tr("Another format for this camera"))
        for name, width, height in DESTINATIONS:
            added.addAction(
                f"{spoken(name)}\t{width} × {height}",
                lambda name=name, width=width, height=height: self.add(name, width, height),
            )
        active = self._state.active
        if active is not None and len(active.all_formats) > 1:
            menu.addSeparator()
            for index, item in enumerate(active.all_formats):
                menu.addAction(
                    tr("Remove {name}", name=spoken(item.name)), lambda index=index: self.remove(index)
                )

    def take(self, name: str, width: int, height: int) -> None:
        """Give the format in use another size."""
        self._edits.do(tr("Format"), lambda c: resized(c, width, height, self._shows_more, name))

    def add(self, name: str, width: int, height: int) -> None:
        """Another format for the chosen cameras, in use from now on."""
        targets = self._edits.targets

        def edit(project: Project) -> Project:
            for camera_id in targets:
                project = add_format(project, camera_id, name, width, height)
            return project

        self._bridge.apply(tr("Add format"), edit)

    def use(self, index: int) -> None:
        """Take another of the camera's formats."""
        active = self._state.active
        if active is not None and not active.locked:
            self._bridge.apply(tr("Choose format"), lambda p: choose_format(p, active.id, index))

    def step(self, by: int) -> None:
        """The next or the last of the camera's formats."""
        active = self._state.active
        if active is not None:
            self.use((active.format_index + by) % len(active.all_formats))

    def remove(self, index: int) -> None:
        """Without one of the camera's formats."""
        active = self._state.active
        if active is not None:
            self._bridge.apply(tr("Remove format"), lambda p: remove_format(p, active.id, index))

    def _fill_guides(self, menu: QMenu) -> None:
        active = self._state.active
        for guide in GUIDES:
            action = menu.addAction(capital(spoken(guide)), lambda guide=guide: self.toggle_guide(guide))
            action.setCheckable(True)
            action.setChecked(active is not None and guide in active.guides)

    def toggle_guide(self, guide: str) -> None:
        """One guide of the format on or off."""

        def turned(camera: Camera) -> Camera:
            kept = tuple(item for item in camera.guides if item != guide)
            return replace(camera, guides=kept if guide in camera.guides else (*camera.guides, guide))

        self._edits.do(tr("Guides"), turned)

    def show_camera(self, camera: Camera) -> None:
        """Show the format in use."""
        if not self.proportion.isModified():
            self.proportion.setText(proportion_text(camera.width_px, camera.height_px))
        self.fit.take(1 if camera.keep_sensor_height else 0)
        text = f"{spoken(camera.format_name)} ▾"
        if self.choose.text() != text:
            self.choose.setText(text)
        self.guides.setText(
            tr("Guides: {guides} ▾", guides=", ".join(spoken(guide) for guide in camera.guides) or tr("none"))
        )
        self.group.show_figure(
            f"{proportion_text(camera.width_px, camera.height_px)} · {camera.width_px} × {camera.height_px}"
        )
