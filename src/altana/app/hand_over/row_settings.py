"""The settings of the chosen rows of the shot list."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QFileDialog, QLineEdit, QMenu, QVBoxLayout, QWidget

from altana.app.hand_over.row_groups import LinesGroup, RowLeftOut, SizeGroup
from altana.app.theme.colour_field import ColourField
from altana.app.theme.figures import FiguresDialog
from altana.app.theme.widgets import (
    Group,
    NumberField,
    Segments,
    button,
    check_box,
    label,
    menu_button,
    relabel,
    stacked,
)
from altana.app.workspace.workspace import Workspace
from altana.core.edits.shots import (
    FILM_FILES,
    PANORAMA_FILES,
    STILL_FILES,
    apply_preset,
    change_shots,
    set_qualities,
)
from altana.core.errors import UserError
from altana.core.naming import FIELDS
from altana.core.project import (
    BACKGROUNDS,
    FILM,
    GROUNDS,
    LINES,
    MATERIALS,
    PANORAMA,
    PENCIL,
    PICTURE,
    PLAIN,
    QUALITY_WORDS,
    RENDITIONS,
    SKY,
    STILL,
    TRANSPARENT,
    WHITE_CARD,
    Project,
    Shot,
)
from altana.jobs.shotlist import Row
from altana.render.encode import CONTAINERS, SEQUENCES
from altana.render.pictures import WORDS
from altana.storage.files import write_atomically
from altana.storage.presets import SUFFIX, preset_json, read_preset
from altana.storage.project_file import take_in

FILES = {STILL: STILL_FILES, FILM: FILM_FILES, PANORAMA: PANORAMA_FILES}


class ShotSettings(QWidget):
    """Shows the chosen rows, and changes all of them at once; ``region_wanted`` asks for a region drawn in the Frame."""

    region_wanted = Signal()

    def __init__(self, workspace: Workspace, presets: Path) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__()
        self._bridge, self.presets, self.studio, self.state = bridge, presets, studio, state
        self.project_path = Path("untitled.altana").resolve()
        self._rows: tuple[Row, ...] = ()
        self.setObjectName("chrome")
        self.setFixedWidth(262)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 10, 14, 10)
        column.setSpacing(8)
        self.lines, self.sizes, self.left_out = LinesGroup(self), SizeGroup(self), RowLeftOut(self)
        self._drawn, self._filed, self._making = self._drawn_group(), self._file_group(), self._making_group()
        self._groups = (
            self._drawn,
            self.lines.group,
            self.sizes.group,
            self._filed,
            self._making,
            self.left_out.group,
        )
        for group in (self._making, self.left_out.group):
            group.fold()
        self.hint = label("Choose rows in the list: what is set here goes to all of them.", "quiet")
        self.hint.setWordWrap(True)
        column.addWidget(self.hint)
        column.addWidget(stacked(self._groups), 1)
        self.preset_menu = menu_button(
            "Presets ▾", "How rows are made, kept for other rows and other projects", self._fill_presets
        )
        column.addWidget(self.preset_menu)
        self.show_rows(())

    # ------------------------------------------------------------------ building

    def _choice(
        self, name: str, tip: str, choices: tuple[str, ...], chosen: Callable[[str], None]
    ) -> QComboBox:
        made = QComboBox()
        made.setAccessibleName(name)
        made.setToolTip(tip)
        made.addItems(list(choices))
        made.activated.connect(lambda index: chosen(made.itemText(index)))
        return made

    def number(
        self, field: str, name: str, tip: str, unit: str, decimals: int, step: float, low: float, high: float
    ) -> NumberField:
        """A number that is a field of the rows."""
        made = NumberField(name, tip, unit, decimals, step, low, high)
        made.changed.connect(lambda value: self.set(name, **{field: type(getattr(Shot(""), field))(value)}))
        return made

    def _drawn_group(self) -> Group:
        group = Group("Drawn as")
        self.rendition = self._choice(
            "Drawn as",
            "Materials, white card, lines or pencil",
            RENDITIONS,
            lambda v: self.set("Drawn as", rendition=v),
        )
        group.add_wide(self.rendition)
        self.background = self._choice(
            "Background",
            "What stands behind the building",
            BACKGROUNDS,
            lambda v: self.set("Background", background=SKY if v == "paper" else v),
        )
        self._background_label = group.add_field("Background", self.background)
        self.colour = ColourField("Background colour", "Colour of a plain background")
        self.colour.changed.connect(lambda value: self.set("Background colour", background_colour=value))
        self._colour_label = group.add_pair("Colour", self.colour)
        self.picture = button(
            "Choose a picture…",
            "small",
            "It is copied into the project's folder; its middle lies on the horizon",
            self._choose_picture,
        )
        group.add_wide(self.picture)
        self.ground = self._choice(
            "Ground",
            "What lies below the horizon where the model ends",
            GROUNDS,
            lambda v: self.set("Ground", ground=v),
        )
        self._its_ground = group.add_field("Ground", self.ground)
        self.ground_colour = ColourField("Ground colour", "Colour of a plain ground")
        self.ground_colour.changed.connect(lambda value: self.set("Ground colour", ground_colour=value))
        self._ground_label = group.add_pair("Colour", self.ground_colour)
        return group

    def _file_group(self) -> Group:
        group = Group("File")
        self.file = QComboBox()
        self.file.setAccessibleName("Kind of file")
        self.file.setToolTip("Kind of file")
        self.file.activated.connect(lambda index: self.set("Kind of file", file=self.file.itemData(index)))
        group.add_wide(self.file)
        self.pattern = QLineEdit()
        self.pattern.setAccessibleName("Name")
        self.pattern.setToolTip("Name of the file. Fields: " + ", ".join(f"{{{name}}}" for name in FIELDS))
        self.pattern.editingFinished.connect(lambda: self._typed(self.pattern, "Name of the file", "pattern"))
        # Patterns are long: in half the width their beginning would be out of sight.
        named = label("Name", "quiet")
        named.setBuddy(self.pattern)
        group.add_wide(named)
        group.add_wide(self.pattern)
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
        self.quality = Segments([(word.capitalize(), "How many passes it takes") for word in QUALITY_WORDS])
        self.quality.chosen.connect(lambda index: self.set("Quality", quality=QUALITY_WORDS[index]))
        group.add_wide(self.quality)
        self.figures = button(
            "What the words stand for…",
            "small",
            "Passes and shadows of proof, review and final in this project",
            self._ask_figures,
        )
        group.add_wide(self.figures)
        self.hour_on = button("off", "small", "A sun of this row's own", self._switch_hour, checkable=True)
        self.hour_on.setFixedWidth(38)
        self.hour = NumberField(
            "Time of day", "Local hour of the sun, for these rows alone", "h", 2, 0.25, 0.0, 24.0
        )
        self.hour.changed.connect(lambda value: self.set("Time of day", hour=value))
        group.add_pair("Time of day", self.hour_on, self.hour)
        self.master = check_box(
            "Keep the linear master", "An EXR beside the delivery: tone is changed without drawing again"
        )
        self.master.clicked.connect(lambda on: self.set("Master", keep_master=on))
        group.add_wide(self.master)
        self.strip = check_box(
            "Contact strip, a picture a second", "Films: small pictures with their times, beside the film"
        )
        self.strip.clicked.connect(lambda on: self.set("Contact strip", strip_every=25 if on else 0))
        group.add_wide(self.strip)
        return group

    # ------------------------------------------------------------------ changing

    @property
    def ids(self) -> list[str]:
        """The chosen rows."""
        return [row.shot.id for row in self._rows]

    @property
    def rows(self) -> tuple[Row, ...]:
        """The chosen rows as they will be made."""
        return self._rows

    @property
    def project(self) -> Project:
        """The project as it is now."""
        return self._bridge.project

    def set(self, text: str, **values: object) -> None:
        """Set fields of all chosen rows, as one step."""
        ids = self.ids
        self.apply(text, lambda project: change_shots(project, ids, **values))

    def apply(self, text: str, edit: Callable[[Project], Project]) -> None:
        """A step that changes rows; where it cannot be, the fields show again what is."""
        if self.ids and not self._bridge.apply(text, edit):
            self.show_rows(self._rows)

    def fail(self, sentence: str) -> None:
        """Say what could not be done."""
        self._bridge.notices.trouble(sentence)

    def _typed(self, field: QLineEdit, text: str, name: str) -> None:
        if field.isModified():
            field.setModified(False)
            self.set(text, **{name: field.text().strip()})

    def _switch_hour(self) -> None:
        self.set("Time of day", hour=self._bridge.project.light.hour if self.hour_on.isChecked() else None)

    def _choose_picture(self) -> None:
        path, _ = QFileDialog.getOpenFileName(
            self,
            "Background picture",
            str(self.project_path.parent),
            "Pictures (*.png *.jpg *.jpeg *.tif *.tiff *.webp *.hdr *.exr)",
        )
        if path:
            self.use_picture(Path(path))

    def use_picture(self, path: Path) -> None:
        """Put a picture behind the chosen rows; one from elsewhere is copied beside the project."""
        try:
            name = take_in(path, [], self.project_path, "backgrounds")
        except UserError as error:
            self.fail(error.sentence)
            return
        self.set("Background picture", background=PICTURE, background_file=name)

    def _ask_figures(self) -> None:
        dialog = FiguresDialog(self._bridge.project.qualities, self)
        if dialog.exec():
            made = dialog.qualities
            self._bridge.apply(
                "Figures of proof, review and final", lambda project: set_qualities(project, made)
            )

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
        path, _ = QFileDialog.getSaveFileName(
            self, "Keep preset", str(self.presets / f"preset{SUFFIX}"), f"Presets (*{SUFFIX})"
        )
        if path:
            self.save_preset(Path(path))

    def save_preset(self, path: Path) -> None:
        """Write how the chosen row is made."""
        path = path if path.suffix == SUFFIX else path.with_name(path.name + SUFFIX)
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            write_atomically(path, preset_json(self._rows[0].shot))
        except UserError as error:
            self._bridge.notices.trouble(error.sentence)

    def _use_file(self) -> None:
        path, _ = QFileDialog.getOpenFileName(self, "Use preset", str(self.presets), f"Presets (*{SUFFIX})")
        if path:
            self.use_preset(Path(path))

    def use_preset(self, path: Path) -> None:
        """Make the chosen rows as a file says."""
        try:
            values, ids = read_preset(path), self.ids
        except UserError as error:
            self._bridge.notices.trouble(error.sentence)
            return
        self._bridge.apply(f"Preset {path.stem}", lambda project: apply_preset(project, ids, values))

    # ------------------------------------------------------------------ showing

    def show_rows(self, rows: tuple[Row, ...]) -> None:
        """Follow the chosen rows."""
        self._rows = rows
        for group in self._groups:
            group.setVisible(bool(rows))
        self.hint.setVisible(not rows)
        if not rows:
            return
        shots = [row.shot for row in rows]
        first = shots[0]
        self._drawn.show_figure(f"{len(rows)} rows" if len(rows) > 1 else "")
        self.rendition.setCurrentIndex(
            RENDITIONS.index(first.rendition) if len({shot.rendition for shot in shots}) == 1 else -1
        )
        drawn = {shot.rendition for shot in shots} <= {LINES, PENCIL}
        names = ["paper", TRANSPARENT] if drawn else list(BACKGROUNDS)
        if names != [self.background.itemText(index) for index in range(self.background.count())]:
            self.background.clear()
            self.background.addItems(names)
        stands = {"paper" if drawn and shot.background != TRANSPARENT else shot.background for shot in shots}
        self.background.setCurrentIndex(names.index(stands.pop()) if len(stands) == 1 else -1)
        self.colour.show_value(first.background_colour, len({shot.background_colour for shot in shots}) == 1)
        self.ground.setCurrentIndex(
            self.ground.findText(first.ground) if len({shot.ground for shot in shots}) == 1 else -1
        )
        self.ground_colour.show_value(first.ground_colour, len({shot.ground_colour for shot in shots}) == 1)
        backgrounds = {shot.background for shot in shots}
        # A panorama has the sky all round; a drawing has its paper, or none where it is transparent.
        behind = {shot.kind for shot in shots} != {PANORAMA}
        apart = behind and bool({shot.rendition for shot in shots} & {MATERIALS, WHITE_CARD})
        shown: tuple[tuple[bool, tuple[QWidget, ...]], ...] = (
            (behind, (self._background_label, self.background)),
            (apart and PLAIN in backgrounds, (self._colour_label, self.colour)),
            (apart and PICTURE in backgrounds, (self.picture,)),
            (apart, (self._its_ground, self.ground)),
            (apart and PLAIN in {shot.ground for shot in shots}, (self._ground_label, self.ground_colour)),
        )
        for on, parts in shown:
            for part in parts:
                part.setVisible(on)
        self.picture.setText(
            Path(first.background_file).name if first.background_file else "Choose a picture…"
        )
        self.lines.show(shots)
        self.sizes.show(rows, shots)
        self.left_out.show(shots)
        self._show_file(rows, shots)
        for word, item in zip(QUALITY_WORDS, self.quality.buttons(), strict=True):
            making = self._bridge.project.qualities.of(word)
            item.setToolTip(f"{making.passes} passes a picture, {making.film_passes} a film frame")
        kinds = {shot.quality for shot in shots}
        self.quality.take(QUALITY_WORDS.index(first.quality) if len(kinds) == 1 else -1)
        self._making.show_figure(first.quality if len(kinds) == 1 else "differ")
        self.hour_on.setChecked(first.hour is not None)
        relabel(self.hour_on, "on" if first.hour is not None else "off")
        self.hour.setEnabled(first.hour is not None)
        self.hour.show_value(self._bridge.project.light.hour if first.hour is None else first.hour)
        self.master.setChecked(all(shot.keep_master for shot in shots))
        self.master.setEnabled(all(shot.kind == STILL for shot in shots))
        self.strip.setChecked(all(shot.strip_every > 0 for shot in shots))
        self.strip.setEnabled(all(shot.kind == FILM for shot in shots))

    def _show_file(self, rows: tuple[Row, ...], shots: list[Shot]) -> None:
        first = shots[0]
        same = len({shot.kind for shot in shots}) == 1
        names = FILES[first.kind] if same else ()
        words = {
            **WORDS,
            **{name: item.words for name, item in CONTAINERS.items()},
            **{name: item[1] for name, item in SEQUENCES.items()},
        }
        if names != tuple(self.file.itemData(index) for index in range(self.file.count())):
            self.file.clear()
            for name in names:
                self.file.addItem(words[name], name)
        self.file.setEnabled(same)
        self.file.setCurrentIndex(
            names.index(first.file) if same and len({shot.file for shot in shots}) == 1 else -1
        )
        _text(self.pattern, first.pattern, len({shot.pattern for shot in shots}) == 1)
        _text(self.folder, first.folder, len({shot.folder for shot in shots}) == 1)
        becomes = f"becomes {rows[0].file}" if len(rows) == 1 else f"{rows[0].file} and {len(rows) - 1} more"
        self.example.setText(
            " ".join(
                part for part in (rows[0].wrong or becomes, rows[0].note if len(rows) == 1 else "") if part
            )
        )
        self._filed.show_figure(first.file if len(shots) == 1 else "")


def _text(field: QLineEdit, value: str, same: bool) -> None:
    if not field.isModified():
        field.setText(value if same else "")
        field.setPlaceholderText("" if same else "varies")
