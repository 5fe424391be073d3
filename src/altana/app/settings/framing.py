"""The lower settings groups: what is left out and nudged, the formats with their guides, and the intent."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QLineEdit, QListWidget, QListWidgetItem, QMenu, QPlainTextEdit, QWidget

from altana.app.theme.widgets import Group, NumberField, Segments, button, label, menu_button
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
from altana.core.edits.keeping import leave_out, nudge
from altana.core.errors import Refused
from altana.core.project import GUIDES, Camera, Project

if TYPE_CHECKING:
    from altana.app.settings.camera import CameraSettings

#: Typing that pauses this long is one undo step.
TYPED_MS = 900


class FormatGroup:
    """Size, proportion, sensor fit and guides of the format in use, and the camera's other formats."""

    def __init__(self, panel: CameraSettings) -> None:
        self._panel = panel
        self.group = Group("Format")
        self.choose = menu_button("Format ▾", "Formats: change this one, take another or add one", self._fill)
        self.swap = button("Wide / high", "small", "Swap width and height (key W)", self.swap_now)
        self.group.add_wide(self.choose, self.swap)
        self.width = panel.field(
            "Width", "Pixels across", "px", 0, 10.0, "Format", lambda c: float(c.width_px), self._with_width, 16, 32768
        )
        self.height = panel.field(
            "Height", "Pixels up", "px", 0, 10.0, "Format", lambda c: float(c.height_px), self._with_height, 16, 32768
        )
        self.group.add_pair("Size", self.width, self.height)
        self.proportion = QLineEdit()
        self.proportion.setAccessibleName("Proportion")
        self.proportion.setToolTip("Width to height, such as 16:9 or 2.39:1; the height follows")
        self.proportion.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.proportion.editingFinished.connect(self._take_proportion)
        self.group.add_field("Proportion", self.proportion)
        self.kept = Segments([("free", "Width and height each by itself"), ("linked", "The proportion is kept: the other side follows")])
        self.kept.chosen.connect(self._link)
        self.group.add_field("Sides", self.kept)
        self.resizing = Segments(
            [
                ("same view", "Another size shows the same width of view"),
                ("shows more", "Another size shows more or less, things keep their size"),
            ]
        )
        self.resizing.chosen.connect(self._more)
        self.group.add_field("Resizing", self.resizing)
        self.fit = Segments(
            [
                ("width", "The sensor's width is kept when the proportion changes"),
                ("height", "The sensor's height is kept when the proportion changes"),
            ]
        )
        self.fit.chosen.connect(lambda index: panel.commit("Sensor fit", lambda c, v: replace(c, keep_sensor_height=v), index == 1))
        self.group.add_field("Sensor keeps", self.fit)
        self.guides = menu_button("Guides ▾", "Guides: lines over the Frame, never in the picture (key G: on or off)", self._fill_guides)
        self.group.add_wide(self.guides)
        self._linked = self._shows_more = False
        self.kept.take(0)
        self.resizing.take(0)

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

    def _take_proportion(self) -> None:
        if not self.proportion.isModified():
            return
        self.proportion.setModified(False)
        try:
            wanted = parse_proportion(self.proportion.text())
        except Refused as error:
            self._panel._bridge.notices.trouble(error.sentence)
            return
        self._panel.commit(
            "Proportion", lambda c, v: self._sized(c, *size_for(c.width_px, c.height_px, width=c.width_px, proportion=v)), wanted
        )

    def swap_now(self) -> None:
        """Wide becomes high, and back."""
        self._panel.commit("Swap wide and high", lambda c, _: swapped(c))

    def _fill(self, menu: QMenu) -> None:
        for name, width, height in DESTINATIONS:
            menu.addAction(f"{name}\t{width} × {height}", lambda name=name, width=width, height=height: self.take(name, width, height))
        added = menu.addMenu("Another format for this camera")
        for name, width, height in DESTINATIONS:
            added.addAction(f"{name}\t{width} × {height}", lambda name=name, width=width, height=height: self.add(name, width, height))
        active = self._panel._state.active
        if active is not None and len(active.all_formats) > 1:
            menu.addSeparator()
            for index, item in enumerate(active.all_formats):
                menu.addAction(f"Remove {item.name}", lambda index=index: self.remove(index))

    def take(self, name: str, width: int, height: int) -> None:
        """Give the format in use another size."""
        self._panel.commit("Format", lambda c, _: resized(c, width, height, self._shows_more, name))

    def add(self, name: str, width: int, height: int) -> None:
        """Another format for the chosen cameras, in use from now on."""
        targets = self._panel.targets()

        def edit(project: Project) -> Project:
            for camera_id in targets:
                project = add_format(project, camera_id, name, width, height)
            return project

        self._panel._bridge.apply("Add format", edit)

    def use(self, index: int) -> None:
        """Take another of the camera's formats."""
        active = self._panel._state.active
        if active is not None and not active.locked:
            self._panel._bridge.apply("Choose format", lambda p: choose_format(p, active.id, index))

    def step(self, by: int) -> None:
        """The next or the last of the camera's formats."""
        active = self._panel._state.active
        if active is not None:
            self.use((active.format_index + by) % len(active.all_formats))

    def remove(self, index: int) -> None:
        """Without one of the camera's formats."""
        active = self._panel._state.active
        if active is not None:
            self._panel._bridge.apply("Remove format", lambda p: remove_format(p, active.id, index))

    def _fill_guides(self, menu: QMenu) -> None:
        active = self._panel._state.active
        for guide in GUIDES:
            made = menu.addAction(guide.capitalize(), lambda guide=guide: self.toggle_guide(guide))
            made.setCheckable(True)
            made.setChecked(active is not None and guide in active.guides)

    def toggle_guide(self, guide: str) -> None:
        """One guide of the format on or off."""

        def change(camera: Camera, _: object) -> Camera:
            kept = tuple(item for item in camera.guides if item != guide)
            return replace(camera, guides=kept if guide in camera.guides else (*camera.guides, guide))

        self._panel.commit("Guides", change)

    def show_camera(self, camera: Camera) -> None:
        """Show the format in use."""
        if not self.proportion.isModified():
            self.proportion.setText(proportion_text(camera.width_px, camera.height_px))
        self.fit.take(1 if camera.keep_sensor_height else 0)
        text = f"{camera.format_name} ▾"
        if self.choose.text() != text:
            self.choose.setText(text)
        self.guides.setText(f"Guides: {', '.join(camera.guides) or 'none'} ▾")
        self.group.show_figure(f"{proportion_text(camera.width_px, camera.height_px)} · {camera.width_px} × {camera.height_px}")


class IntentGroup:
    """What the picture is to show, a note, and whether it is done."""

    def __init__(self, panel: CameraSettings) -> None:
        self._panel = panel
        self.group = Group("Intent")
        self.line = QLineEdit()
        self.line.setAccessibleName("Intent")
        self.line.setPlaceholderText("What should this picture show?")
        self.line.setToolTip("One line: what the picture is for; goes to captions and the contact sheet")
        self.line.editingFinished.connect(self._take_line)
        self.group.add_wide(self.line)
        self.note = QPlainTextEdit()
        self.note.setAccessibleName("Note")
        self.note.setPlaceholderText("A note for yourself")
        self.note.setFixedHeight(58)
        self.note.setTabChangesFocus(True)
        self._pause = QTimer(self.note)
        self._pause.setSingleShot(True)
        self._pause.setInterval(TYPED_MS)
        self._pause.timeout.connect(self._take_note)
        self.note.textChanged.connect(self._typed)
        self.group.add_wide(self.note)
        self.done = QCheckBox("Done")
        self.done.setAccessibleName("Done")
        self.done.setToolTip("This picture is composed as it should be")
        self.done.clicked.connect(
            lambda checked: panel.commit("Done" if checked else "To do", lambda c, v: replace(c, done=v), bool(checked))
        )
        self.group.add_wide(self.done)
        self._shown = ""

    def _take_line(self) -> None:
        if self.line.isModified():
            self.line.setModified(False)
            self._panel.commit("Intent", lambda c, v: replace(c, intent=v), self.line.text().strip())

    def _typed(self) -> None:
        if self.note.toPlainText() != self._shown:
            self._pause.start()

    def _take_note(self) -> None:
        self._shown = self.note.toPlainText()
        active = self._panel._state.active
        if active is not None and active.note != self._shown:
            self._panel.commit("Note", lambda c, v: replace(c, note=v), self._shown)

    def show_camera(self, camera: Camera) -> None:
        """Show intent, note and whether it is done."""
        if not self.line.isModified():
            self.line.setText(camera.intent)
        if camera.note != self._shown and not self._pause.isActive():
            self._shown = camera.note
            self.note.setPlainText(camera.note)
        self.done.setChecked(camera.done)
        self.group.show_figure("done" if camera.done else "to do" if camera.intent else "")


class LeftOutGroup:
    """What this camera's picture leaves out, and what is nudged for it; each line can be taken back."""

    def __init__(self, panel: CameraSettings) -> None:
        self._panel = panel
        self.group = Group("Left out")
        self.list = QListWidget()
        self.list.setAccessibleName("Left out of this camera's picture")
        self.list.setToolTip("Left out of, or nudged for, this camera alone; Delete takes a line back")
        self.list.setFixedHeight(72)
        self.group.add_wide(self.list)
        self.chosen = label("Press on an object in the Frame", "quiet")
        self.chosen.setWordWrap(True)
        self.chosen.setMinimumWidth(60)
        self.group.add_wide(self.chosen)
        self.out = button("Leave out", "small", "Leave the chosen object out of this camera's picture (key O)", self.leave_out_now)
        self.back = button("Take back", "small", "Show the chosen line's object as it is in the model", self.take_back)
        self.group.add_wide(self.out, self.back)
        self.moves = [
            NumberField(f"Move {axis}", f"Nudge the chosen object {axis}, for this camera only", "", 2, 0.05)
            for axis in ("east", "north", "up")
        ]
        self.turned = NumberField("Turn", "Turn the chosen object clockwise, for this camera only", "", 1, 5.0)
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
        self._nudge_label = label("Nudge east, north, up (m), turn (°)", "quiet")
        self.group.add_wide(self._nudge_label)
        self.group.add_wide(holder)

    def leave_out_now(self) -> None:
        """Leave the chosen object out of the chosen cameras."""
        object_id, targets = self._panel._state.object_id, self._panel.targets()
        if object_id and targets:
            self._panel._bridge.apply("Leave out", lambda p: leave_out(p, targets, "objects", object_id))

    def take_back(self) -> None:
        """Take the chosen line back, or whatever is said of the chosen object."""
        item = self.list.currentItem()
        kind, name = item.data(Qt.ItemDataRole.UserRole) if item is not None else ("objects", self._panel._state.object_id)
        active = self._panel._state.active
        if active is None or not name:
            return
        if kind == "nudge":
            self._panel._bridge.apply("Take nudge back", lambda p: nudge(p, active.id, name))
        else:
            self._panel._bridge.apply("Show again", lambda p: leave_out(p, [active.id], kind, name, False))

    def _nudge(self) -> None:
        active, object_id = self._panel._state.active, self._panel._state.object_id
        if active is None or not object_id:
            return
        x, y, z = (field.value for field in self.moves)
        self._panel._bridge.apply("Nudge object", lambda p: nudge(p, active.id, object_id, (x, y, z), self.turned.value))

    def _name(self, kind: str, name: str) -> str:
        scene = self._panel._studio.scene
        if scene is None:
            return name
        if kind == "storeys":
            storey = scene.model.storey(name)
            return f"storey {storey.name}" if storey else name
        if kind == "categories":
            return f"all {name}"
        number = scene.lookup.index.get(name)
        return scene.model.objects[number].name if number is not None else f"{name} (not in the model now)"

    def show_camera(self, camera: Camera) -> None:
        """List what differs from the model, and show the chosen object's nudge."""
        lines = [
            (kind, name, f"{self._name(kind, name)}: left out")
            for kind in ("objects", "categories", "storeys")
            for name in getattr(camera.left_out, kind)
        ]
        for item in camera.nudges:
            words = (
                "taken out"
                if item.out
                else ", ".join(f"{value:+.2f} m {axis}" for value, axis in zip(item.move, ("east", "north", "up"), strict=True) if value)
                + (f" turned {item.turn_deg:.0f}°" if item.turn_deg else "")
            )
            lines.append(("nudge", item.object_id, f"{self._name('objects', item.object_id)}: {words}"))
        if [self.list.item(row).text() for row in range(self.list.count())] != [text for _, _, text in lines]:
            self.list.clear()
            for kind, name, text in lines:
                made = QListWidgetItem(text)
                made.setData(Qt.ItemDataRole.UserRole, (kind, name))
                self.list.addItem(made)
        object_id = self._panel._state.object_id
        self.chosen.setText(f"Chosen: {self._name('objects', object_id)}" if object_id else "Press on an object in the Frame to choose it.")
        self.out.setEnabled(bool(object_id))
        self.back.setEnabled(bool(lines))
        held = next((item for item in camera.nudges if item.object_id == object_id), None)
        for field, value in zip(self.moves, held.move if held else (0.0, 0.0, 0.0), strict=True):
            field.show_value(value)
            field.setEnabled(bool(object_id))
        self.turned.show_value(held.turn_deg if held else 0.0)
        self.turned.setEnabled(bool(object_id))
        project = self._panel._bridge.project.left_out
        whole = len(project.objects) + len(project.categories) + len(project.storeys)
        count = f"{len(lines)} here" if lines else "nothing here"
        self.group.show_figure(count + (f" · {whole} in all" if whole else ""))
