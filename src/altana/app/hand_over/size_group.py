"""The size of rows, a region of them, and the front of a panorama."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QMenu, QWidget

from altana.app.hand_over.chosen_rows import ChosenRows, show_number
from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import ChoiceBox, Group, button, check_box, menu_button, relabel
from altana.app.theme.words import spoken, tr
from altana.core.camera.pose import direction_to
from altana.core.conventions import Vec3
from altana.core.edits.shots import PANORAMA_WIDTHS
from altana.core.naming import print_width_mm, size_for_print
from altana.core.project import PANORAMA, STILL, Shot
from altana.core.staging import object_points
from altana.jobs.requests import Pano
from altana.jobs.shotlist import Row

#: What the panorama's usual sizes are for.
PANORAMA_SIZES = {1024: tr("Draft"), 4000: tr("Page"), 6000: tr("Large"), 12000: tr("Largest")}


class SizeGroup:
    """Format, pixels, print; for a panorama its size, its front, two eyes and six faces."""

    def __init__(self, chosen: ChosenRows) -> None:
        self._chosen = chosen
        self.group = group = Group(tr("Size"))
        self.form = ChoiceBox()
        self.form.setAccessibleName(tr("Format"))
        self.form.setToolTip(tr("Which of the camera's formats; for a panorama one of the usual sizes"))
        # A panorama of another width than the usual ones.
        self.form.setPlaceholderText(tr("Own width"))
        self.form.activated.connect(self._choose_form)
        group.add_field(tr("Format"), self.form)
        self.scale = chosen.number(
            "scale", tr("Scale"), tr("Per cent of the format's size"), "%", 0, 5.0, 1.0, 400.0
        )
        group.add_field(tr("Scale"), self.scale)
        self.width = chosen.number(
            "width_px",
            tr("Width"),
            tr("Pixels across; 0 goes back to the format's own"),
            "px",
            0,
            10.0,
            0,
            32768,
        )
        group.add_field(tr("Width"), self.width)
        self.width.nothing = tr("format's")
        self._add_print()
        self._add_region()
        self._add_panorama()

    def _add_print(self) -> None:
        group, chosen = self.group, self._chosen
        self.dpi = chosen.number(
            "dpi",
            tr("Resolution"),
            tr("Dots an inch, written into the file; 0 writes none"),
            "dpi",
            0,
            50.0,
            0.0,
            4800.0,
        )
        self.dpi.nothing = tr("none")
        group.add_field(tr("Resolution"), self.dpi)
        self.print_width = NumberField(
            tr("Print width"),
            tr("Width on paper at this resolution, also in cm or in (11 in); the pixels follow"),
            "mm",
            0,
            5.0,
            1.0,
            5000.0,
        )
        self.print_width.changed.connect(self._set_print)
        self.print_width.nothing = "–"
        group.add_field(tr("Print width"), self.print_width)

    def _add_region(self) -> None:
        chosen = self._chosen
        self.region = button(
            tr("Region…"),
            "small",
            tr("Make a part of the picture only: draw it in the picture below"),
            chosen.region_wanted.emit,
        )
        self.whole = button(
            tr("Whole"),
            "small",
            tr("The whole picture again"),
            lambda: chosen.set(tr("Whole picture"), region=None),
        )
        self.group.add_wide(self.region, self.whole)

    def _add_panorama(self) -> None:
        group = self.group
        chosen = self._chosen
        self.front_on = button(
            tr("off"),
            "small",
            tr("A front of this row's own, not the camera's heading"),
            self._switch_front,
            checkable=True,
        )
        self.front_on.setFixedWidth(38)
        self.front = NumberField(
            tr("Front"), tr("Heading of the panorama's middle: 0 north, 90 east"), "°", 1, 5.0, -360.0, 360.0
        )
        self.front.changed.connect(
            lambda value: chosen.set(tr("Front of the panorama"), front_deg=value % 360.0)
        )
        self._front_label = group.add_pair(tr("Front"), self.front_on, self.front)
        self.towards = menu_button(
            tr("Front towards ▾"), tr("What the panorama's middle looks at"), self._fill_towards
        )
        group.add_wide(self.towards)
        self.stereo = check_box(tr("Stereo, eyes 64 mm apart"), tr("Two panoramas, one above the other"))
        self.stereo.clicked.connect(lambda on: chosen.set(tr("Stereo"), stereo_m=0.064 if on else 0.0))
        self.faces = check_box(
            tr("Six faces as files too"), tr("Front, right, back, left, up and down beside the panorama")
        )
        self.faces.clicked.connect(lambda on: chosen.set(tr("Six faces"), faces=on))
        group.add_wide(self.stereo)
        group.add_wide(self.faces)

    def _choose_form(self, index: int) -> None:
        if self._chosen.rows and self._chosen.rows[0].shot.kind == PANORAMA:
            self._chosen.set(tr("Size of the panorama"), width_px=PANORAMA_WIDTHS[index], scale=100.0)
        else:
            self._chosen.set(tr("Format"), format_index=index)

    def _set_print(self, millimetres: float) -> None:
        shot = self._chosen.rows[0].shot if self._chosen.rows else None
        if shot is not None:
            dpi = shot.dpi or 300.0
            self._chosen.set(
                tr("Print width"), width_px=size_for_print(millimetres, dpi), dpi=dpi, scale=100.0
            )

    def _switch_front(self) -> None:
        item = self._chosen.rows[0].item
        own = (
            round(item.camera.heading_deg, 1)
            if self.front_on.isChecked() and isinstance(item, Pano)
            else None
        )
        self._chosen.set(tr("Front of the panorama"), front_deg=own)

    def _fill_towards(self, menu: QMenu) -> None:
        """Rooms, the object chosen elsewhere, and where other cameras stand."""
        item = self._chosen.rows[0].item if self._chosen.rows else None
        scene, project = self._chosen.studio.scene, self._chosen.project
        if not isinstance(item, Pano) or scene is None:
            menu.addAction(tr("The model is not open yet")).setEnabled(False)
            return
        chosen = scene.lookup.index.get(self._chosen.state.object_id or "")
        if chosen is not None:
            middle = object_points(scene.model, chosen).mean(axis=0).tolist()
            menu.addAction(
                tr("{name} (chosen)", name=scene.model.objects[chosen].name),
                partial(self.face, item, tuple(middle)),
            )
        rooms = menu.addMenu(tr("The middle of a room"))
        for room in scene.model.rooms:
            x, y = (sum(values) / len(room.outline) for values in zip(*room.outline, strict=True))
            rooms.addAction(room.name, partial(self.face, item, (x, y, item.camera.eye[2])))
        cameras = menu.addMenu(tr("Where a camera stands"))
        for camera in project.cameras:
            if camera.id != item.camera.id:
                cameras.addAction(camera.name, partial(self.face, item, camera.eye))

    def face(self, item: Pano, place: Vec3) -> None:
        """Turn the front of the chosen panorama towards a place."""
        heading, _, _ = direction_to(item.camera.eye, (place[0], place[1], item.camera.eye[2]))
        self._chosen.set(tr("Front of the panorama"), front_deg=round(heading % 360.0, 2))

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
        relabel(self.front_on, tr("on") if own else tr("off"))
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
            camera = self._chosen.project.camera(first.subject) if first.kind == STILL else None
            names = (
                [spoken(item.name) for item in camera.all_formats]
                if camera is not None and len({shot.subject for shot in shots}) == 1
                else []
            )
            at = first.format_index if names else -1
        if names != [self.form.itemText(index) for index in range(self.form.count())]:
            self.form.clear()
            self.form.addItems(names)
        self.form.setEnabled(bool(names))
        self.form.setCurrentIndex(at)
