"""The settings of the chosen rows of the shot list."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QFileDialog, QLineEdit, QMenu, QVBoxLayout, QWidget

from altana.app.bridge import Bridge
from altana.app.theme.widgets import Group, NumberField, Segments, button, check_box, label, menu_button, relabel, stacked
from altana.core.edits.shots import FILM_FILES, PANORAMA_FILES, STILL_FILES, apply_preset, change_shots
from altana.core.errors import UserError
from altana.core.naming import FIELDS, print_width_mm, size_for_print
from altana.core.project import BACKGROUNDS, FILM, LINES, PANORAMA, PENCIL, PLAIN, RENDITIONS, STILL, Project, Shot
from altana.jobs.shotlist import Row
from altana.render.encode import CONTAINERS, SEQUENCES
from altana.render.pictures import WORDS
from altana.storage.files import write_atomically
from altana.storage.presets import SUFFIX, preset_json, read_preset

QUALITIES = ("proof", "review", "final")
FILES = {STILL: STILL_FILES, FILM: FILM_FILES, PANORAMA: PANORAMA_FILES}


class ShotSettings(QWidget):
    """Shows the chosen rows, and changes all of them at once; ``region_wanted`` asks for a region drawn in the Frame."""

    region_wanted = Signal()

    def __init__(self, bridge: Bridge, presets: Path) -> None:
        super().__init__()
        self._bridge, self.presets = bridge, presets
        self._rows: tuple[Row, ...] = ()
        self.setObjectName("chrome")
        self.setFixedWidth(262)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 10, 14, 10)
        column.setSpacing(8)
        self._groups = (self._drawn_group(), self._size_group(), self._file_group(), self._making_group())
        self._groups[3].fold()
        column.addWidget(stacked(self._groups), 1)
        self.preset_menu = menu_button("Presets ▾", "How rows are made, kept for other rows and other projects", self._fill_presets)
        column.addWidget(self.preset_menu)
        self.show_rows(())

    # ------------------------------------------------------------------ building

    def _choice(self, name: str, tip: str, choices: tuple[str, ...], chosen: Callable[[str], None]) -> QComboBox:
        made = QComboBox()
        made.setAccessibleName(name)
        made.setToolTip(tip)
        made.addItems(list(choices))
        made.activated.connect(lambda index: chosen(made.itemText(index)))
        return made

    def _number(self, field: str, name: str, tip: str, unit: str, decimals: int, step: float, low: float, high: float) -> NumberField:
        made = NumberField(name, tip, unit, decimals, step, low, high)
        made.changed.connect(lambda value: self._set(name, **{field: type(getattr(Shot(""), field))(value)}))
        return made

    def _drawn_group(self) -> Group:
        group = Group("Drawn as")
        self.rendition = self._choice(
            "Drawn as", "Materials, white card, lines or pencil", RENDITIONS, lambda v: self._set("Drawn as", rendition=v)
        )
        group.add_wide(self.rendition)
        self.background = self._choice(
            "Background", "What stands behind the building", BACKGROUNDS, lambda v: self._set("Background", background=v)
        )
        group.add_field("Background", self.background)
        self.colour = QLineEdit()
        self.colour.setAccessibleName("Background colour")
        self.colour.setToolTip("Colour of a plain background, as #rrggbb")
        self.colour.editingFinished.connect(lambda: self._typed(self.colour, "Background colour", "background_colour"))
        group.add_field("Colour", self.colour)
        self.picture = button(
            "Choose a picture…", "small", "A picture in the project's folder, its middle on the horizon", self._choose_picture
        )
        group.add_wide(self.picture)
        fields = (
            ("outline_px", "Outlines", "Width of outlines, pixels in a picture 1080 px high", "px", 1, 0.2, 0.2, 40.0),
            ("crease_px", "Creases", "Width of lines within bodies; 0 draws none", "px", 1, 0.2, 0.0, 40.0),
            ("roughness", "Roughness", "How far pencil wavers and overshoots", "", 2, 0.05, 0.0, 1.0),
            ("hatching", "Hatching", "How dark shadows are hatched", "", 2, 0.05, 0.0, 1.0),
        )
        self.style_fields: dict[str, NumberField] = {}
        for field, name, tip, unit, decimals, step, low, high in fields:
            made = NumberField(name, tip, unit, decimals, step, low, high)
            made.changed.connect(partial(self._set_style, name, field))
            self.style_fields[field] = made
            group.add_field(name, made)
        self.hidden = check_box("Hidden lines dashed", "What is behind shows as dashed lines")
        self.hidden.clicked.connect(lambda on: self._set_style("Hidden lines", "hidden", on))
        group.add_wide(self.hidden)
        return group

    def _size_group(self) -> Group:
        group = Group("Size")
        self.form = QComboBox()
        self.form.setAccessibleName("Format")
        self.form.setToolTip("Which of the camera's formats")
        self.form.activated.connect(lambda index: self._set("Format", format_index=index))
        group.add_field("Format", self.form)
        self.scale = self._number("scale", "Scale", "Per cent of the format's size", "%", 0, 5.0, 1.0, 400.0)
        group.add_field("Scale", self.scale)
        self.width_field = self._number("width_px", "Width", "Pixels across; 0: the format's own", "px", 0, 10.0, 0, 32768)
        group.add_field("Width", self.width_field)
        self.dpi = self._number("dpi", "Resolution", "Dots an inch, written into the file; 0 writes none", "dpi", 0, 50.0, 0.0, 4800.0)
        group.add_field("Resolution", self.dpi)
        self.print_field = NumberField("Print width", "Millimetres across at this resolution; the pixels follow", "mm", 0, 5.0, 1.0, 5000.0)
        self.print_field.changed.connect(self._set_print)
        group.add_field("Print width", self.print_field)
        self.region = button("Region…", "small", "Make a part of the picture only: draw it in the picture below", self.region_wanted.emit)
        self.whole = button("Whole", "small", "The whole picture again", lambda: self._set("Whole picture", region=None))
        group.add_wide(self.region, self.whole)
        self.stereo = check_box("Stereo, eyes 64 mm apart", "Two panoramas, one above the other")
        self.stereo.clicked.connect(lambda on: self._set("Stereo", stereo_m=0.064 if on else 0.0))
        self.faces = check_box("Six faces as files too", "Front, right, back, left, up and down beside the panorama")
        self.faces.clicked.connect(lambda on: self._set("Six faces", faces=on))
        group.add_wide(self.stereo)
        group.add_wide(self.faces)
        return group

    def _file_group(self) -> Group:
        group = Group("File")
        self.file = QComboBox()
        self.file.setAccessibleName("Kind of file")
        self.file.setToolTip("Kind of file")
        self.file.activated.connect(lambda index: self._set("Kind of file", file=self.file.itemData(index)))
        group.add_wide(self.file)
        self.pattern = QLineEdit()
        self.pattern.setAccessibleName("Name")
        self.pattern.setToolTip("Name of the file. Fields: " + ", ".join(f"{{{name}}}" for name in FIELDS))
        self.pattern.editingFinished.connect(lambda: self._typed(self.pattern, "Name of the file", "pattern"))
        group.add_field("Name", self.pattern)
        self.folder = QLineEdit()
        self.folder.setAccessibleName("Folder")
        self.folder.setToolTip("Folder below the delivery; the same fields as in the name")
        self.folder.editingFinished.connect(lambda: self._typed(self.folder, "Folder of the file", "folder"))
        group.add_field("Folder", self.folder)
        self.example = label("", "quiet")
        self.example.setWordWrap(True)
        group.add_wide(self.example)
        return group

    def _making_group(self) -> Group:
        group = Group("Making")
        self.quality = Segments([("Proof", "Three passes"), ("Review", "Eight passes"), ("Final", "Thirty-two passes")])
        self.quality.chosen.connect(lambda index: self._set("Quality", quality=QUALITIES[index]))
        group.add_wide(self.quality)
        self.hour_on = button("off", "small", "A sun of this row's own", self._switch_hour, checkable=True)
        self.hour_on.setFixedWidth(38)
        self.hour = NumberField("Time of day", "Local hour of the sun, for these rows alone", "h", 2, 0.25, 0.0, 24.0)
        self.hour.changed.connect(lambda value: self._set("Time of day", hour=value))
        group.add_pair("Time of day", self.hour_on, self.hour)
        self.master = check_box("Keep the linear master", "An EXR beside the delivery: tone is changed without drawing again")
        self.master.clicked.connect(lambda on: self._set("Master", keep_master=on))
        group.add_wide(self.master)
        self.strip = check_box("Contact strip, a picture a second", "Films: small pictures with their times, beside the film")
        self.strip.clicked.connect(lambda on: self._set("Contact strip", strip_every=25 if on else 0))
        group.add_wide(self.strip)
        return group

    # ------------------------------------------------------------------ changing

    @property
    def _ids(self) -> list[str]:
        return [row.shot.id for row in self._rows]

    def _set(self, text: str, **values: object) -> None:
        ids = self._ids
        if ids and not self._bridge.apply(text, lambda project: change_shots(project, ids, **values)):
            self.show_rows(self._rows)

    def _set_style(self, text: str, field: str, value: object) -> None:
        ids = self._ids

        def edit(project: Project) -> Project:
            for shot_id in ids:
                shot = project.shot(shot_id)
                if shot is not None:
                    project = change_shots(project, [shot_id], style=replace(shot.style, **{field: value}))  # type: ignore[arg-type]
            return project

        if ids and not self._bridge.apply(text, edit):
            self.show_rows(self._rows)

    def _typed(self, field: QLineEdit, text: str, name: str) -> None:
        if field.isModified():
            field.setModified(False)
            self._set(text, **{name: field.text().strip()})

    def _set_print(self, millimetres: float) -> None:
        shot = self._rows[0].shot if self._rows else None
        if shot is not None:
            dpi = shot.dpi or 300.0
            self._set("Print width", width_px=size_for_print(millimetres, dpi), dpi=dpi, scale=100.0)

    def _switch_hour(self) -> None:
        self._set("Time of day", hour=self._bridge.project.light.hour if self.hour_on.isChecked() else None)

    def _choose_picture(self) -> None:
        path, _ = QFileDialog.getOpenFileName(self, "Background picture", str(self.presets), "Pictures (*.png *.jpg *.jpeg *.tif)")
        if path:
            self._set("Background picture", background="picture", background_file=Path(path).name)

    # ------------------------------------------------------------------ presets

    def _fill_presets(self, menu: QMenu) -> None:
        menu.addAction("Keep how this row is made…", self._save_preset).setEnabled(len(self._rows) == 1)
        menu.addAction("Use a file…", self._use_file).setEnabled(bool(self._rows))
        found = sorted(self.presets.glob(f"*{SUFFIX}")) if self.presets.is_dir() else []
        if found:
            menu.addSeparator()
        for path in found:
            menu.addAction(path.stem, partial(self.use_preset, path)).setEnabled(bool(self._rows))

    def _save_preset(self) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Keep preset", str(self.presets / f"preset{SUFFIX}"), f"Presets (*{SUFFIX})")
        if path:
            self.save_preset(Path(path))

    def save_preset(self, path: Path) -> None:
        """Write how the chosen row is made."""
        path = path if path.suffix == SUFFIX else path.with_name(path.name + SUFFIX)
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            write_atomically(path, preset_json(self._rows[0].shot))
        except UserError as error:
            self._bridge.failed.emit(error.sentence)

    def _use_file(self) -> None:
        path, _ = QFileDialog.getOpenFileName(self, "Use preset", str(self.presets), f"Presets (*{SUFFIX})")
        if path:
            self.use_preset(Path(path))

    def use_preset(self, path: Path) -> None:
        """Make the chosen rows as a file says."""
        try:
            values, ids = read_preset(path), self._ids
        except UserError as error:
            self._bridge.failed.emit(error.sentence)
            return
        self._bridge.apply(f"Preset {path.stem}", lambda project: apply_preset(project, ids, values))

    # ------------------------------------------------------------------ showing

    def show_rows(self, rows: tuple[Row, ...]) -> None:
        """Follow the chosen rows."""
        self._rows = rows
        for group in self._groups:
            group.body.setEnabled(bool(rows))
        self.preset_menu.setEnabled(True)
        if not rows:
            self._groups[0].show_figure("no row chosen")
            return
        shots = [row.shot for row in rows]
        first = shots[0]
        self._groups[0].show_figure(f"{len(rows)} rows" if len(rows) > 1 else "")
        for choice, name in ((self.rendition, "rendition"), (self.background, "background")):
            values = {getattr(shot, name) for shot in shots}
            choice.setCurrentIndex(choice.findText(getattr(first, name)) if len(values) == 1 else -1)
        _text(self.colour, first.background_colour, len({shot.background_colour for shot in shots}) == 1)
        self.colour.setEnabled(first.background == PLAIN or first.kind == FILM)
        self.picture.setEnabled(first.background == "picture")
        drawn = {shot.rendition for shot in shots}
        for name, field in self.style_fields.items():
            _number(field, [float(getattr(shot.style, name)) for shot in shots])
            field.setEnabled(bool(drawn & {LINES, PENCIL}) and (name in ("outline_px", "crease_px") or PENCIL in drawn))
        self.hidden.setChecked(first.style.hidden)
        self.hidden.setEnabled(LINES in drawn)
        self._show_size(shots)
        self._show_file(rows, shots)
        kinds = {shot.quality for shot in shots}
        self.quality.take(QUALITIES.index(first.quality) if len(kinds) == 1 else -1)
        self._groups[3].show_figure(first.quality if len(kinds) == 1 else "differ")
        self.hour_on.setChecked(first.hour is not None)
        relabel(self.hour_on, "on" if first.hour is not None else "off")
        self.hour.setEnabled(first.hour is not None)
        self.hour.show_value(self._bridge.project.light.hour if first.hour is None else first.hour)
        self.master.setChecked(all(shot.keep_master for shot in shots))
        self.master.setEnabled(all(shot.kind == STILL for shot in shots))
        self.strip.setChecked(all(shot.strip_every > 0 for shot in shots))
        self.strip.setEnabled(all(shot.kind == FILM for shot in shots))

    def _show_size(self, shots: list[Shot]) -> None:
        first = shots[0]
        camera = self._bridge.project.camera(first.subject) if first.kind == STILL else None
        formats = [item.name for item in camera.all_formats] if camera is not None and len({shot.subject for shot in shots}) == 1 else []
        if formats != [self.form.itemText(index) for index in range(self.form.count())]:
            self.form.clear()
            self.form.addItems(formats)
        self.form.setEnabled(bool(formats))
        self.form.setCurrentIndex(first.format_index if formats else -1)
        _number(self.scale, [shot.scale for shot in shots])
        _number(self.width_field, [float(shot.width_px) for shot in shots])
        _number(self.dpi, [shot.dpi for shot in shots])
        item = self._rows[0].item
        millimetres = print_width_mm(item.width_px, first.dpi) if item is not None else 0.0
        self.print_field.show_value(millimetres)
        self.print_field.setEnabled(first.kind == STILL)
        for part in (self.region, self.whole):
            part.setEnabled(first.kind == STILL and len(shots) == 1)
        self.whole.setEnabled(first.region is not None)
        for box, on in ((self.stereo, first.stereo_m > 0), (self.faces, first.faces)):
            box.setVisible(first.kind == PANORAMA)
            box.setChecked(on)
        self._groups[1].show_figure(f"{item.width_px} × {item.height_px} px" if item is not None and len(shots) == 1 else "")

    def _show_file(self, rows: tuple[Row, ...], shots: list[Shot]) -> None:
        first = shots[0]
        same = len({shot.kind for shot in shots}) == 1
        names = FILES[first.kind] if same else ()
        words = {**WORDS, **{name: item.words for name, item in CONTAINERS.items()}, **{name: item[1] for name, item in SEQUENCES.items()}}
        if names != tuple(self.file.itemData(index) for index in range(self.file.count())):
            self.file.clear()
            for name in names:
                self.file.addItem(words[name], name)
        self.file.setEnabled(same)
        self.file.setCurrentIndex(names.index(first.file) if same and len({shot.file for shot in shots}) == 1 else -1)
        _text(self.pattern, first.pattern, len({shot.pattern for shot in shots}) == 1)
        _text(self.folder, first.folder, len({shot.folder for shot in shots}) == 1)
        becomes = f"becomes {rows[0].file}" if len(rows) == 1 else f"{rows[0].file} and {len(rows) - 1} more"
        self.example.setText(" ".join(part for part in (rows[0].wrong or becomes, rows[0].note if len(rows) == 1 else "") if part))
        self._groups[2].show_figure(first.file if len(shots) == 1 else "")


def _number(field: NumberField, values: list[float]) -> None:
    if max(values) - min(values) > 1e-9:
        field.show_mixed()
    else:
        field.show_value(values[0])


def _text(field: QLineEdit, value: str, same: bool) -> None:
    if not field.isModified():
        field.setText(value if same else "")
        field.setPlaceholderText("" if same else "varies")
