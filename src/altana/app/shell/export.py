"""The sheet that asks what stills or which film to make, and where."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtGui import QAction
from PySide6.QtWidgets import (
    QDialog,
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QMenu,
    QVBoxLayout,
    QWidget,
)

from altana.app.theme.number_field import NumberField
from altana.app.theme.size_field import SizeField
from altana.app.theme.widgets import ChoiceBox, Segments, button, check_box, label, menu_button
from altana.app.workspace.work import Order
from altana.core.conventions import parse_rate
from altana.core.edits.formats import DESTINATIONS, FILM_SIZES, TEST_PX
from altana.core.errors import UserError
from altana.core.file_kinds import FILM_KINDS, KINDS
from altana.core.project import QUALITY_WORDS, RENDITIONS, Project, Qualities, Walk
from altana.jobs.estimates import about, bytes_for, expected_for
from altana.jobs.paces import scene_of
from altana.jobs.requests import Film, Part, request_for
from altana.render.encode import CORNERS, STAMPS, Stamp

SMALL_TEST = f"A small test, {TEST_PX} px"
#: Per cent of every camera's own size.
SHARES = {
    "Each as set": 100.0,
    "Half": 50.0,
    "Quarter": 25.0,
    "Twice as large": 200.0,
    "Four times as large": 400.0,
    SMALL_TEST: 100.0,
}


class ExportSheet(QDialog):
    """Asks for quality, size, kind and folder, and for the part of a walk; ``order()`` says what was chosen.

    How everything is drawn is what *As it will be made* shows: what its row of the shot list says.
    """

    def __init__(
        self,
        parent: QWidget,
        title: str,
        what: str,
        folder: Path,
        size: tuple[int, int] | None,
        project: Project,
        cameras: tuple[str, ...] = (),
        walk: Walk | None = None,
    ) -> None:
        """size : width and height as set; None for several cameras, each with its own.  cameras : of what stills are made."""
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setMinimumWidth(460)
        film = walk is not None
        self._made_of = (project, cameras)
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 18)
        column.setSpacing(12)
        column.addWidget(label(title, "title"))
        told = label(what, "quiet")
        told.setWordWrap(True)
        column.addWidget(told)
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(9)
        self._add_common(grid, project.qualities, size, folder, film)
        self._add_film(grid, walk)
        grid.setColumnStretch(1, 1)
        column.addLayout(grid)
        column.addWidget(self.expected)
        for changed in (
            self.size_field.changed,
            self.size_choice.activated,
            self.kind.activated,
            self.step_choice.activated,
            self.drawn.activated,
        ):
            changed.connect(self._show_expected)
        for field in (self.from_field, self.to_field):
            field.changed.connect(self._show_expected)
        for box in (self.strip, self.keep):
            box.toggled.connect(self._show_expected)
        self._show_expected()
        buttons = QHBoxLayout()
        buttons.addStretch(1)
        buttons.addWidget(button("Cancel", "", "Make nothing (Escape)", self.reject))
        buttons.addWidget(self.go)
        column.addLayout(buttons)

    def _add_common(
        self, grid: QGridLayout, qualities: Qualities, size: tuple[int, int] | None, folder: Path, film: bool
    ) -> None:
        self.quality = Segments(
            [(word.capitalize(), f"Passes: {qualities.of(word).film_passes}") for word in QUALITY_WORDS]
        )
        self.quality.take(1)
        self._quality = 1
        self.quality.chosen.connect(self._take_quality)
        self.size_field = SizeField(FILM_SIZES if film else DESTINATIONS, even=film)
        self.size_choice = ChoiceBox()
        self.size_choice.setAccessibleName("Size")
        self.size_choice.setToolTip("Largest width and height; every camera keeps its proportion")
        self.size_choice.addItems(list(SHARES))
        if size is not None:
            self.size_field.own = size
            self.size_field.show_size(*size)
        sized: QWidget = self.size_choice if size is None else self.size_field
        self.kind = ChoiceBox()
        self.expected = label("", "quiet")
        self.expected.setToolTip(
            "From what was measured on this machine; another light or model takes longer or shorter"
        )
        self.go = button(
            "Make film" if film else "Make stills", "primary", "Start in the background", self.accept
        )
        self.go.setDefault(True)
        self.kind.setAccessibleName("Kind")
        self.kind.addItems([KINDS[name].words for name in FILM_KINDS] if film else ["PNG", "JPEG"])
        self.folder = QLineEdit(str(folder))
        self.folder.setAccessibleName("Folder")
        self.folder.setToolTip("Where the files go")
        browse = button("Choose…", "", "Choose another folder", self._browse)
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.folder, 1)
        row.addWidget(browse)
        for index, (text, widget) in enumerate(
            (("Quality", self.quality), ("Size", sized), ("Kind", self.kind))
        ):
            grid.addWidget(label(text, "quiet"), index, 0)
            grid.addWidget(widget, index, 1)
        grid.addWidget(label("Folder", "quiet"), 3, 0)
        grid.addLayout(row, 3, 1)

    def _add_film(self, grid: QGridLayout, walk: Walk | None) -> None:
        seconds = walk.seconds if walk else 0.0
        self._walk = walk
        self.from_field = NumberField(
            "From", "Second of the walk at which the film begins", "s", 2, 0.5, 0.0, max(0.0, seconds)
        )
        self.to_field = NumberField(
            "To", "Second of the walk at which the film ends", "s", 2, 0.5, 0.0, max(0.0, seconds)
        )
        self.from_field.show_value(0.0)
        self.to_field.show_value(seconds)
        self.step_choice = ChoiceBox()
        self.step_choice.setAccessibleName("Film frames")
        self.step_choice.setToolTip("Fewer film frames for a quick look; the film lasts as long")
        self.step_choice.addItems(["Every one", "Every second", "Every fourth"])
        self.drawn = ChoiceBox()
        self.drawn.setAccessibleName("Drawn as")
        self.drawn.setToolTip(
            "Materials, white card, lines or pencil; lines stand still from film frame to film frame"
        )
        self.drawn.addItems(["As its row says", *(name.capitalize() for name in RENDITIONS)])
        self.strip = check_box(
            "Contact strip, a picture a second", "One PNG of small pictures with their times, beside the film"
        )
        self.keep = check_box("Keep the film frames as PNG", "In a folder beside the film, by number")
        if walk is not None:
            span = QHBoxLayout()
            span.setSpacing(8)
            span.addWidget(self.from_field)
            span.addWidget(label("to", "quiet"))
            span.addWidget(self.to_field)
            grid.addWidget(label("From", "quiet"), 4, 0)
            grid.addLayout(span, 4, 1)
            grid.addWidget(label("Film frames", "quiet"), 5, 0)
            grid.addWidget(self.step_choice, 5, 1)
            grid.addWidget(label("Drawn as", "quiet"), 6, 0)
            grid.addWidget(self.drawn, 6, 1)
            grid.addWidget(label("Stamp", "quiet"), 7, 0)
            grid.addLayout(self._stamp_row(), 7, 1)
            grid.addWidget(self.strip, 8, 1)
            grid.addWidget(self.keep, 9, 1)

    def _stamp_row(self) -> QHBoxLayout:
        """What is written into a corner of each film frame, in which corner, how large."""
        self.stamps = {name: QAction(words, self, checkable=True) for name, words in STAMPS.items()}
        self.stamp_choice = menu_button(
            "None ▾", "Stamp: what is written into a corner of each film frame", self._fill_stamps
        )
        self.corner = ChoiceBox()
        self.corner.setAccessibleName("Corner of the stamp")
        self.corner.setToolTip("The corner that the stamp stands in")
        self.corner.addItems([name.capitalize() for name in CORNERS])
        self.corner.setCurrentIndex(CORNERS.index(Stamp().corner))
        self.stamp_size = NumberField(
            "Stamp size", "Height of the stamp's text, per cent of the film's height", "%", 1, 0.5, 1.0, 20.0
        )
        self.stamp_size.show_value(100.0 * Stamp().size)
        self.stamp_size.setFixedWidth(70)
        row = QHBoxLayout()
        row.setSpacing(8)
        for part in (self.stamp_choice, self.corner, self.stamp_size):
            row.addWidget(part)
        for action in self.stamps.values():
            action.toggled.connect(self._show_stamp)
        self._show_stamp()
        return row

    def _fill_stamps(self, menu: QMenu) -> None:
        menu.addActions(list(self.stamps.values()))

    def _show_stamp(self) -> None:
        chosen = [name for name, action in self.stamps.items() if action.isChecked()]
        self.stamp_choice.setText(f"{', '.join(chosen).capitalize()} ▾" if chosen else "None ▾")
        self.corner.setEnabled(bool(chosen))
        self.stamp_size.setEnabled(bool(chosen))

    def _show_expected(self, *_: object) -> None:
        """How long it will take and how large it will be."""
        (project, ids), walk = self._made_of, self._walk
        cameras = tuple(camera for item in ids if (camera := project.camera(item)) is not None)
        order = self.order(ids, (walk.id,) if walk is not None else ())
        walks = (walk,) if walk is not None else ()
        try:
            made = request_for(
                project,
                cameras,
                walks,
                order.size,
                None,
                order.quality,
                order.kind,
                order.scale / 100.0,
                order.film,
                order.part,
                order.drawn,
            )
        except UserError as error:
            self.expected.setText(error.sentence)
            self.go.setEnabled(False)
            return
        self.go.setEnabled(True)
        time = expected_for(made.items, order.quality, project.qualities, scene_of(project))
        size = sum(bytes_for(item, order.quality) for item in made.items)
        frames = [f"{len(item.frames)} film frames: " for item in made.items if isinstance(item, Film)]
        self.expected.setText(f"{''.join(frames)}{about(time, size)}")

    def _take_quality(self, index: int) -> None:
        self._quality = index
        self._show_expected()

    def _browse(self) -> None:
        chosen = QFileDialog.getExistingDirectory(self, "Folder for the files", self.folder.text())
        if chosen:
            self.folder.setText(chosen)

    @property
    def out(self) -> Path:
        """The folder."""
        return Path(self.folder.text()).expanduser()

    @property
    def _scale(self) -> float:
        """Per cent of every camera's own size, where there are several."""
        return 100.0 if self.size_choice.isHidden() else SHARES[self.size_choice.currentText()]

    @property
    def _size(self) -> tuple[int, int] | None:
        """The largest size, where it is not each camera's own."""
        if self.size_choice.isHidden():
            return None if self.size_field.size_px == self.size_field.own else self.size_field.size_px
        return (TEST_PX, TEST_PX) if self.size_choice.currentText() == SMALL_TEST else None

    def order(self, cameras: tuple[str, ...], walks: tuple[str, ...]) -> Order:
        """What was chosen, for these cameras and walks."""
        kind = "jpg" if self.kind.currentText() == "JPEG" else "png"
        walk = self._walk
        if walk is None:
            return Order(cameras, walks, self._scale, kind, QUALITY_WORDS[self._quality], size=self._size)
        step = (1, 2, 4)[max(0, self.step_choice.currentIndex())]
        last = self.to_field.value
        part = Part(
            self.from_field.value,
            None if last >= walk.seconds else last,
            step,
            max(1, round(parse_rate(walk.rate) / step)) if self.strip.isChecked() else 0,
            self.keep.isChecked(),
            Stamp(
                tuple(name for name, action in self.stamps.items() if action.isChecked()),
                CORNERS[max(0, self.corner.currentIndex())],
                self.stamp_size.value / 100.0,
            ),
        )
        film = FILM_KINDS[self.kind.currentIndex()]
        return Order(
            cameras,
            walks,
            100.0,
            kind,
            QUALITY_WORDS[self._quality],
            film=film,
            part=part,
            drawn=("", *RENDITIONS)[max(0, self.drawn.currentIndex())],
            size=self.size_field.size_px,
        )
