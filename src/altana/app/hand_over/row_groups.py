"""Groups of the settings of rows: how lines are drawn, the size, a panorama's front, and what is left out."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QAction, QColor, QIcon, QPainter, QPen, QPixmap
from PySide6.QtWidgets import QComboBox, QFileDialog, QInputDialog, QMenu, QSizePolicy, QWidget

from altana.app.theme.colour_field import ColourField
from altana.app.theme.widgets import Group, NumberField, button, check_box, label, menu_button, relabel
from altana.core.camera.pose import direction_to
from altana.core.conventions import Vec3
from altana.core.edits.shots import PANORAMA_WIDTHS, change_shots, leave_out_of_rows
from altana.core.errors import UserError
from altana.core.naming import print_width_mm, size_for_print
from altana.core.project import LINES, PANORAMA, PENCIL, STILL, Project, Shot, Style, free_name
from altana.core.staging import object_points
from altana.core.styles import STYLES, called
from altana.jobs.requests import Pano
from altana.jobs.shotlist import Row
from altana.storage.files import write_atomically
from altana.storage.presets import STYLE_SUFFIX, read_style, style_json

if TYPE_CHECKING:
    from altana.app.hand_over.row_settings import ShotSettings

#: What the panorama's usual sizes are for.
PANORAMA_SIZES = {1024: "Draft", 4000: "Page", 6000: "Large", 12000: "Largest"}
SAMPLE_PX = QSize(56, 18)


class LinesGroup:
    """The line style of rows drawn as lines or pencil: one by name, changed by its figures, kept as one's own."""

    def __init__(self, panel: ShotSettings) -> None:
        self._panel = panel
        self.group = group = Group("Lines")
        self.styles = menu_button("Ink ▾", "Line style: one by name, or one of your own", self._fill)
        group.add_field("Style", self.styles)
        fields = (
            (
                "outline_px",
                "Outlines",
                "Width of outlines, pixels in a picture 1080 px high",
                "px",
                1,
                0.2,
                0.2,
                40.0,
            ),
            ("crease_px", "Creases", "Width of lines within bodies; 0 draws none", "px", 1, 0.2, 0.0, 40.0),
            ("roughness", "Roughness", "How far pencil wavers and overshoots", "", 2, 0.05, 0.0, 1.0),
            ("hatching", "Hatching", "How dark shadows are hatched", "", 2, 0.05, 0.0, 1.0),
            (
                "seed",
                "Hand",
                "Another number draws the same picture with another hand",
                "",
                0,
                1.0,
                0.0,
                999_999.0,
            ),
        )
        self.styles.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.styles.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.styles.setIconSize(QSize(28, 16))
        self.styles.menu().setStyleSheet("QMenu { icon-size: 28px; }")
        self.fields: dict[str, NumberField] = {}
        self._pencil_parts: list[QWidget] = []
        for field, name, tip, unit, decimals, step, low, high in fields:
            made = NumberField(name, tip, unit, decimals, step, low, high)
            made.changed.connect(partial(self._set, name, field))
            self.fields[field] = made
            named = group.add_field(name, made)
            if field in ("roughness", "hatching", "seed"):
                self._pencil_parts += [named, made]
        self.ink = ColourField("Ink", "Colour of the lines")
        self.ink.changed.connect(lambda value: self._set("Ink", "ink", value))
        group.add_field("Ink", self.ink)
        self.paper = ColourField("Paper", "Colour of the paper")
        self.paper.changed.connect(lambda value: self._set("Paper", "paper", value))
        group.add_field("Paper", self.paper)
        self.hidden = check_box("Hidden lines dashed", "What is behind shows as dashed lines")
        self.hidden.clicked.connect(lambda on: self._set("Hidden lines", "hidden", on))
        group.add_wide(self.hidden)

    def _set(self, text: str, field: str, value: object) -> None:
        kind = type(getattr(Style(), field))
        self._restyle(text, lambda style: replace(style, **{field: kind(value)}))

    def _restyle(self, text: str, change: Callable[[Style], Style]) -> None:
        ids = self._panel.ids

        def edit(project: Project) -> Project:
            for shot_id in ids:
                shot = project.shot(shot_id)
                if shot is not None:
                    project = change_shots(project, [shot_id], style=change(shot.style))
            return project

        self._panel.apply(text, edit)

    def _fill(self, menu: QMenu) -> None:
        now = self._panel.rows[0].shot.style if self._panel.rows else Style()
        for style in STYLES:
            self._offer(menu, style, called(now) == style.name)
        own = sorted(self._panel.presets.glob(f"*{STYLE_SUFFIX}")) if self._panel.presets.is_dir() else []
        if own:
            menu.addSeparator()
        for path in own:
            try:
                self._offer(menu, read_style(path), False)
            except UserError:
                menu.addAction(f"{path.name} (damaged)").setEnabled(False)
        menu.addSeparator()
        menu.addAction("Keep this style…", self._ask_keep)
        menu.addAction("Use a style's file…", self._ask_file)

    def _offer(self, menu: QMenu, style: Style, chosen: bool) -> None:
        made = menu.addAction(sample(style), style.name, partial(self.use, style))
        made.setCheckable(chosen)
        made.setChecked(chosen)

    def use(self, style: Style) -> None:
        """Draw the chosen rows in a style; whether hidden lines show, and the hand, stay the row's own."""
        self._restyle(f"Style {style.name}", lambda now: replace(style, hidden=now.hidden, seed=now.seed))

    def keep(self, name: str) -> None:
        """Keep the first row's style under a name, for all projects."""
        plain = name.strip().replace("/", "-").replace("\0", "").lstrip(".")[:80]
        if not plain or not self._panel.rows:
            return
        folder = self._panel.presets
        kept = (
            {path.name.removesuffix(STYLE_SUFFIX) for path in folder.glob(f"*{STYLE_SUFFIX}")}
            if folder.is_dir()
            else set()
        )
        # One of the same name stays as it is.
        plain = free_name(plain, (*kept, *(item.name for item in STYLES)))
        style = replace(self._panel.rows[0].shot.style, name=plain)
        try:
            self._panel.presets.mkdir(parents=True, exist_ok=True)
            write_atomically(self._panel.presets / f"{plain}{STYLE_SUFFIX}", style_json(style))
        except (UserError, OSError) as error:
            self._panel.fail(
                error.sentence
                if isinstance(error, UserError)
                else f"The style was not kept: {error.strerror}."
            )
            return
        self.use(style)

    def use_file(self, path: Path) -> None:
        """Draw the chosen rows as a style's file says."""
        try:
            self.use(read_style(path))
        except UserError as error:
            self._panel.fail(error.sentence)

    def _ask_keep(self) -> None:
        name, said = QInputDialog.getText(
            self._panel, "Keep this style", "Name", text=self.styles.text().removesuffix(" ▾")
        )
        if said:
            self.keep(name)

    def _ask_file(self) -> None:
        path, _ = QFileDialog.getOpenFileName(
            self._panel, "Use a style", str(self._panel.presets), f"Line styles (*{STYLE_SUFFIX})"
        )
        if path:
            self.use_file(Path(path))

    def show(self, shots: list[Shot]) -> None:
        """Follow the chosen rows; hidden where none of them is drawn with lines."""
        drawn = {shot.rendition for shot in shots} & {LINES, PENCIL}
        self.group.setVisible(bool(drawn))
        first = shots[0].style
        for name, field in self.fields.items():
            show_number(field, [float(getattr(shot.style, name)) for shot in shots])
        for part in self._pencil_parts:
            part.setVisible(PENCIL in drawn)
        for colour, name in ((self.ink, "ink"), (self.paper, "paper")):
            colour.show_value(getattr(first, name), len({getattr(shot.style, name) for shot in shots}) == 1)
        self.hidden.setChecked(first.hidden)
        self.hidden.setVisible(LINES in drawn)
        names = {called(shot.style) for shot in shots}
        words = names.pop() if len(names) == 1 else "Varies"
        self.styles.setText(f"{words} ▾")
        self.styles.setIcon(sample(first))
        self.group.show_figure(words)


def sample(style: Style) -> QIcon:
    """A small sample of a style: its ink on its paper, an outline and a crease."""
    made = QPixmap(SAMPLE_PX * 2)
    made.fill(QColor(style.paper))
    painter = QPainter(made)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    wide, high = made.width(), made.height()
    painter.setPen(QPen(QColor(style.ink), max(0.8, style.outline_px * 1.3)))
    painter.drawRect(QRectF(6, 6, wide - 13, high - 13))
    if style.crease_px > 0:
        painter.setPen(QPen(QColor(style.ink), max(0.6, style.crease_px * 1.3)))
        waver = style.roughness * 5.0 if style.roughness != Style().roughness else 0.0
        for share in (0.35, 0.65):
            painter.drawLine(
                QPointF(wide * share, 6 - waver), QPointF(wide * share + waver, high - 7 + waver)
            )
    painter.end()
    made.setDevicePixelRatio(2.0)
    return QIcon(made)


class SizeGroup:
    """Format, pixels, print; for a panorama its size, its front, two eyes and six faces."""

    def __init__(self, panel: ShotSettings) -> None:
        self._panel = panel
        self.group = group = Group("Size")
        self.form = QComboBox()
        self.form.setAccessibleName("Format")
        self.form.setToolTip("Which of the camera's formats; for a panorama one of the usual sizes")
        self.form.activated.connect(self._choose_form)
        group.add_field("Format", self.form)
        self.scale = panel.number("scale", "Scale", "Per cent of the format's size", "%", 0, 5.0, 1.0, 400.0)
        group.add_field("Scale", self.scale)
        self.width = panel.number(
            "width_px", "Width", "Pixels across; 0 goes back to the format's own", "px", 0, 10.0, 0, 32768
        )
        group.add_field("Width", self.width)
        self.width.nothing = "format's"
        self.dpi = panel.number(
            "dpi",
            "Resolution",
            "Dots an inch, written into the file; 0 writes none",
            "dpi",
            0,
            50.0,
            0.0,
            4800.0,
        )
        self.dpi.nothing = "none"
        group.add_field("Resolution", self.dpi)
        self.print_width = NumberField(
            "Print width",
            "Width on paper at this resolution, also in cm or in (11 in); the pixels follow",
            "mm",
            0,
            5.0,
            1.0,
            5000.0,
        )
        self.print_width.changed.connect(self._set_print)
        self.print_width.nothing = "–"
        group.add_field("Print width", self.print_width)
        self.region = button(
            "Region…",
            "small",
            "Make a part of the picture only: draw it in the picture below",
            panel.region_wanted.emit,
        )
        self.whole = button(
            "Whole", "small", "The whole picture again", lambda: panel.set("Whole picture", region=None)
        )
        group.add_wide(self.region, self.whole)
        self.front_on = button(
            "off",
            "small",
            "A front of this row's own, not the camera's heading",
            self._switch_front,
            checkable=True,
        )
        self.front_on.setFixedWidth(38)
        self.front = NumberField(
            "Front", "Heading of the panorama's middle: 0 north, 90 east", "°", 1, 5.0, -360.0, 360.0
        )
        self.front.changed.connect(lambda value: panel.set("Front of the panorama", front_deg=value % 360.0))
        self._front_label = group.add_pair("Front", self.front_on, self.front)
        self.towards = menu_button(
            "Front towards ▾", "What the panorama's middle looks at", self._fill_towards
        )
        group.add_wide(self.towards)
        self.stereo = check_box("Stereo, eyes 64 mm apart", "Two panoramas, one above the other")
        self.stereo.clicked.connect(lambda on: panel.set("Stereo", stereo_m=0.064 if on else 0.0))
        self.faces = check_box(
            "Six faces as files too", "Front, right, back, left, up and down beside the panorama"
        )
        self.faces.clicked.connect(lambda on: panel.set("Six faces", faces=on))
        group.add_wide(self.stereo)
        group.add_wide(self.faces)

    def _choose_form(self, index: int) -> None:
        if self._panel.rows and self._panel.rows[0].shot.kind == PANORAMA:
            self._panel.set("Size of the panorama", width_px=PANORAMA_WIDTHS[index], scale=100.0)
        else:
            self._panel.set("Format", format_index=index)

    def _set_print(self, millimetres: float) -> None:
        shot = self._panel.rows[0].shot if self._panel.rows else None
        if shot is not None:
            dpi = shot.dpi or 300.0
            self._panel.set("Print width", width_px=size_for_print(millimetres, dpi), dpi=dpi, scale=100.0)

    def _switch_front(self) -> None:
        item = self._panel.rows[0].item
        own = (
            round(item.camera.heading_deg, 1)
            if self.front_on.isChecked() and isinstance(item, Pano)
            else None
        )
        self._panel.set("Front of the panorama", front_deg=own)

    def _fill_towards(self, menu: QMenu) -> None:
        """Rooms, the object chosen elsewhere, and where other cameras stand."""
        item = self._panel.rows[0].item if self._panel.rows else None
        scene, project = self._panel.studio.scene, self._panel.project
        if not isinstance(item, Pano) or scene is None:
            menu.addAction("The model is not open yet").setEnabled(False)
            return
        chosen = scene.lookup.index.get(self._panel.state.object_id or "")
        if chosen is not None:
            middle = object_points(scene.model, chosen).mean(axis=0).tolist()
            menu.addAction(
                f"{scene.model.objects[chosen].name} (chosen)", partial(self.face, item, tuple(middle))
            )
        rooms = menu.addMenu("The middle of a room")
        for room in scene.model.rooms:
            x, y = (sum(values) / len(room.outline) for values in zip(*room.outline, strict=True))
            rooms.addAction(room.name, partial(self.face, item, (x, y, item.camera.eye[2])))
        cameras = menu.addMenu("Where a camera stands")
        for camera in project.cameras:
            if camera.id != item.camera.id:
                cameras.addAction(camera.name, partial(self.face, item, camera.eye))

    def face(self, item: Pano, place: Vec3) -> None:
        """Turn the front of the chosen panorama towards a place."""
        heading, _, _ = direction_to(item.camera.eye, (place[0], place[1], item.camera.eye[2]))
        self._panel.set("Front of the panorama", front_deg=round(heading % 360.0, 2))

    def show(self, rows: tuple[Row, ...], shots: list[Shot]) -> None:
        """Follow the chosen rows."""
        first, item = shots[0], rows[0].item
        self._show_forms(shots)
        show_number(self.scale, [shot.scale for shot in shots])
        # Without a width of its own a row has the format's.
        show_number(
            self.width,
            [float(row.shot.width_px or (row.item.width_px if row.item is not None else 0)) for row in rows],
        )
        show_number(self.dpi, [shot.dpi for shot in shots])
        self.print_width.show_value(print_width_mm(item.width_px, first.dpi) if item is not None else 0.0)
        round_ = first.kind == PANORAMA
        for field in (self.print_width, self.dpi):
            field.setEnabled(first.kind == STILL)
        for part in (self.region, self.whole):
            part.setVisible(not round_)
            part.setEnabled(first.kind == STILL and len(shots) == 1)
        self.whole.setEnabled(first.region is not None)
        for box, on in ((self.stereo, first.stereo_m > 0), (self.faces, first.faces)):
            box.setVisible(round_)
            box.setChecked(on)
        fronts: tuple[QWidget, ...] = (self._front_label, self.front_on, self.front, self.towards)
        for piece in fronts:
            piece.setVisible(round_)
        self.towards.setEnabled(len(shots) == 1)
        own = first.front_deg is not None
        self.front_on.setChecked(own)
        relabel(self.front_on, "on" if own else "off")
        self.front.setEnabled(own)
        self.front.show_value(item.front_deg if isinstance(item, Pano) else 0.0)
        text = f"{item.width_px} × {item.height_px} px" if item is not None and len(shots) == 1 else ""
        if text and item is not None and first.dpi and first.kind == STILL:
            sides = [print_width_mm(side, first.dpi) for side in (item.width_px, item.height_px)]
            text += f" · {sides[0]:.0f} × {sides[1]:.0f} mm"
        if isinstance(item, Pano) and text:
            text += f" · {item.width_px / 360.0:.1f} px/°"
        self.group.show_figure(text)

    def _show_forms(self, shots: list[Shot]) -> None:
        first = shots[0]
        if first.kind == PANORAMA:
            names = [f"{PANORAMA_SIZES[width]}, {width}" for width in PANORAMA_WIDTHS]
            at = PANORAMA_WIDTHS.index(first.width_px) if first.width_px in PANORAMA_WIDTHS else -1
        else:
            camera = self._panel.project.camera(first.subject) if first.kind == STILL else None
            names = (
                [item.name for item in camera.all_formats]
                if camera is not None and len({shot.subject for shot in shots}) == 1
                else []
            )
            at = first.format_index if names else -1
        if names != [self.form.itemText(index) for index in range(self.form.count())]:
            self.form.clear()
            self.form.addItems(names)
        self.form.setEnabled(bool(names))
        self.form.setCurrentIndex(at)


class RowLeftOut:
    """What these rows alone leave out, beside what the project and the camera leave out."""

    def __init__(self, panel: ShotSettings) -> None:
        self._panel = panel
        self.group = Group("Left out")
        self.menu = menu_button(
            "Leave out ▾", "Leave out of these rows alone: categories, storeys, the chosen object", self._fill
        )
        self.group.add_wide(self.menu)
        self.names = label("", "quiet")
        self.names.setWordWrap(True)
        self.group.add_wide(self.names)

    def _fill(self, menu: QMenu) -> None:
        scene = self._panel.studio.scene
        if scene is None or not self._panel.rows:
            menu.addAction("The model is not open yet").setEnabled(False)
            return
        held = self._panel.rows[0].shot.left_out
        chosen = scene.lookup.index.get(self._panel.state.object_id or "")
        objects = [scene.model.objects[chosen].id] if chosen is not None else []
        for object_id in dict.fromkeys([*objects, *held.objects]):
            self._offer(menu, "objects", object_id, object_id in held.objects)
        categories, storeys = menu.addMenu("A whole category"), menu.addMenu("A whole storey")
        for name in sorted({item.category for item in scene.model.objects}):
            self._offer(categories, "categories", name, name in held.categories)
        for storey in scene.model.storeys:
            self._offer(storeys, "storeys", storey.id, storey.id in held.storeys)

    def _offer(self, menu: QMenu, kind: str, name: str, out: bool) -> None:
        made: QAction = menu.addAction(self._called(kind, name), partial(self.leave_out, kind, name, not out))
        made.setCheckable(True)
        made.setChecked(out)

    def leave_out(self, kind: str, name: str, out: bool) -> None:
        """Leave something out of the chosen rows, or show it again."""
        ids = self._panel.ids
        self._panel.apply(
            "Leave out" if out else "Show again", lambda p: leave_out_of_rows(p, ids, kind, name, out)
        )

    def _called(self, kind: str, name: str) -> str:
        scene = self._panel.studio.scene
        if kind == "categories" or scene is None:
            return name
        if kind == "storeys":
            storey = scene.model.storey(name)
            return storey.name if storey is not None else name
        number = scene.lookup.index.get(name)
        return scene.model.objects[number].name if number is not None else f"{name} (not in the model now)"

    def show(self, shots: list[Shot]) -> None:
        """Follow the chosen rows."""
        outs = {shot.left_out for shot in shots}
        held = shots[0].left_out
        names = [
            self._called(kind, name)
            for kind in ("objects", "categories", "storeys")
            for name in getattr(held, kind)
        ]
        text = ", ".join(names) if len(outs) == 1 else "Rows differ"
        self.names.setText(text)
        self.names.setVisible(bool(text))
        self.group.show_figure(
            "differ" if len(outs) > 1 else f"{len(names)} here" if names else "nothing here"
        )


def show_number(field: NumberField, values: list[float]) -> None:
    """The value of all rows, or that they differ."""
    if max(values) - min(values) > 1e-9:
        field.show_mixed()
    else:
        field.show_value(values[0])
