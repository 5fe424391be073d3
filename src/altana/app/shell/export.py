"""The sheet that asks what stills or which film to make, and where."""

from __future__ import annotations

from dataclasses import dataclass, replace
from pathlib import Path

from PySide6.QtGui import QAction
from PySide6.QtWidgets import QDialog, QFileDialog, QGridLayout, QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from altana.app.shell.small_test import SmallTest, trial_size
from altana.app.theme.number_field import NumberField
from altana.app.theme.size_field import SizeField
from altana.app.theme.widgets import ChoiceBox, Segments, button, check_box, label, menu_button
from altana.app.theme.words import capital, spoken, tr
from altana.app.workspace.times import times
from altana.app.workspace.work import Order
from altana.core.conventions import parse_rate
from altana.core.edits.formats import DESTINATIONS, FILM_SIZES, TEST_PX
from altana.core.errors import UserError
from altana.core.file_kinds import FILM_KINDS, KINDS
from altana.core.project import QUALITY_WORDS, RENDITIONS, Project, Qualities, Walk
from altana.jobs.estimates import bytes_for, expected_for, size_words
from altana.jobs.paces import scene_of
from altana.jobs.requests import Film, Part, file_stem, request_for
from altana.render.encode import CORNERS, NO_STAMP, STAMPS, Stamp

SMALL_TEST = tr("A small test, {test_px} px", test_px=TEST_PX)
#: Per cent of every camera's own size.
SHARES = {
    tr("Each as set"): 100.0,
    tr("Half"): 50.0,
    tr("Quarter"): 25.0,
    tr("Twice as large"): 200.0,
    tr("Four times as large"): 400.0,
    SMALL_TEST: 100.0,
}


class StampRow(QWidget):
    """What is written into a corner of each film frame, in which corner, how large."""

    def __init__(self) -> None:
        super().__init__()
        self.stamps = {name: QAction(words, self, checkable=True) for name, words in STAMPS.items()}
        self.choice = menu_button(
            tr("None ▾"),
            tr("Stamp: what is written into a corner of each film frame"),
            lambda menu: menu.addActions(list(self.stamps.values())),
        )
        self.corner = ChoiceBox()
        self.corner.setAccessibleName(tr("Corner of the stamp"))
        self.corner.setToolTip(tr("The corner that the stamp stands in"))
        self.corner.addItems([capital(spoken(name)) for name in CORNERS])
        tip = tr("Height of the stamp's text, per cent of the film's height")
        self.size_field = NumberField(tr("Stamp size"), tip, "%", 1, 0.5, 1.0, 20.0)
        self.size_field.setFixedWidth(70)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        for part in (self.choice, self.corner, self.size_field):
            row.addWidget(part)
        for action in self.stamps.values():
            action.toggled.connect(self._show)
        self.show_value(NO_STAMP)

    @property
    def value(self) -> Stamp:
        """What is chosen."""
        fields = tuple(name for name, action in self.stamps.items() if action.isChecked())
        return Stamp(fields, CORNERS[max(0, self.corner.currentIndex())], self.size_field.value / 100.0)

    def show_value(self, stamp: Stamp) -> None:
        """Start from this."""
        for name, action in self.stamps.items():
            action.setChecked(name in stamp.fields)
        self.corner.setCurrentIndex(CORNERS.index(stamp.corner))
        self.size_field.show_value(100.0 * stamp.size)
        self._show()

    def _show(self) -> None:
        chosen = [spoken(name) for name, action in self.stamps.items() if action.isChecked()]
        self.choice.setText(f"{capital(', '.join(chosen))} ▾" if chosen else tr("None ▾"))
        self.corner.setEnabled(bool(chosen))
        self.size_field.setEnabled(bool(chosen))


@dataclass(frozen=True, slots=True)
class LastChosen:
    """What was chosen in such a sheet, so that the next one begins with it: everything but size, part and
    folder."""

    quality: int
    kind: int
    drawn: int
    stamp: Stamp
    strip: bool
    keep: bool


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
        """size : width and height as set; None for several cameras, each with its own.  cameras : of what
        stills are made."""
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setMinimumWidth(460)
        film = walk is not None
        self.trial = SmallTest()
        self._made_of = (project, cameras)
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 18)
        column.setSpacing(12)
        column.addWidget(label(title, "title"))
        words = label(what, "quiet")
        words.setWordWrap(True)
        column.addWidget(words)
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(9)
        self._add_common(grid, project.qualities, size, folder, film)
        self._add_film(grid, walk)
        grid.setColumnStretch(1, 1)
        column.addLayout(grid)
        column.addWidget(self.expected)
        column.addWidget(self.trial)
        self._follow()
        buttons = QHBoxLayout()
        if not film:
            buttons.addWidget(self.trial.button)
        buttons.addStretch(1)
        buttons.addWidget(button(tr("Cancel"), "", tr("Make nothing (Escape)"), self.reject))
        buttons.addWidget(self.go)
        column.addLayout(buttons)

    def _follow(self) -> None:
        """The time and size that are told follow what is chosen."""
        size, choice, step = self.size_field.changed, self.size_choice.activated, self.step_choice.activated
        for changed in (size, choice, step, self.kind.activated, self.drawn.activated):
            changed.connect(self._show_expected)
        for field in (self.from_field, self.to_field):
            field.changed.connect(self._show_expected)
        self.trial.changed.connect(self._show_expected)
        for box in (self.strip, self.keep):
            box.toggled.connect(self._show_expected)
        self._show_expected()

    def _add_common(
        self, grid: QGridLayout, qualities: Qualities, size: tuple[int, int] | None, folder: Path, film: bool
    ) -> None:
        self.quality = Segments(
            [
                (
                    capital(spoken(word)),
                    tr("Passes: {film_passes}", film_passes=qualities.of(word).film_passes),
                )
                for word in QUALITY_WORDS
            ]
        )
        self.quality.take(1)
        self._quality = 1
        self.quality.chosen.connect(self._take_quality)
        self.size_field = SizeField(FILM_SIZES if film else DESTINATIONS, even=film)
        self.size_choice = ChoiceBox()
        self.size_choice.setAccessibleName(tr("Size"))
        self.size_choice.setToolTip(tr("Largest width and height; every camera keeps its proportion"))
        self.size_choice.addItems(list(SHARES))
        if size is not None:
            self.size_field.own = size
            self.size_field.show_size(*size)
        sized: QWidget = self.size_choice if size is None else self.size_field
        self.kind = ChoiceBox()
        self.kind.setAccessibleName(tr("Kind"))
        self.kind.setToolTip(tr("The kind of file, and what it is for"))
        self.kind.addItems([spoken(KINDS[name].words) for name in FILM_KINDS] if film else ["PNG", "JPEG"])
        self._add_end(film)
        self.folder = QLineEdit(str(folder))
        self.folder.setAccessibleName(tr("Folder"))
        self.folder.setToolTip(tr("Where the files go"))
        browse = button(tr("Choose…"), "", tr("Choose another folder"), self._browse)
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.folder, 1)
        row.addWidget(browse)
        for index, (text, widget) in enumerate(
            ((tr("Quality"), self.quality), (tr("Size"), sized), (tr("Kind"), self.kind))
        ):
            grid.addWidget(label(text, "quiet"), index, 0)
            grid.addWidget(widget, index, 1)
        grid.addWidget(label(tr("Folder"), "quiet"), 3, 0)
        grid.addLayout(row, 3, 1)

    def _add_end(self, film: bool) -> None:
        self.expected = label("", "quiet")
        self.expected.setToolTip(
            tr("From what was measured on this machine; another light or model takes longer or shorter")
        )
        self.go = button(
            tr("Make film") if film else tr("Make stills"),
            "primary",
            tr("Start in the background"),
            self.accept,
        )
        self.go.setDefault(True)

    def _add_film(self, grid: QGridLayout, walk: Walk | None) -> None:
        seconds = walk.seconds if walk else 0.0
        self._walk = walk
        self.stamp = StampRow()
        self.from_field = NumberField(
            tr("From"), tr("Second of the walk at which the film begins"), "s", 2, 0.5, 0.0, max(0.0, seconds)
        )
        self.to_field = NumberField(
            tr("To"), tr("Second of the walk at which the film ends"), "s", 2, 0.5, 0.0, max(0.0, seconds)
        )
        self.from_field.show_value(0.0)
        self.to_field.show_value(seconds)
        self.step_choice = ChoiceBox()
        self.step_choice.setAccessibleName(tr("Film frames"))
        self.step_choice.setToolTip(tr("Fewer film frames for a quick look; the film lasts as long"))
        self.step_choice.addItems([tr("Every one"), tr("Every second"), tr("Every fourth")])
        self.drawn = ChoiceBox()
        self.drawn.setAccessibleName(tr("Drawn as"))
        self.drawn.setToolTip(
            tr("Materials, white card, lines or pencil; lines stand still from film frame to film frame")
        )
        self.drawn.addItems([tr("As its row says"), *(capital(spoken(name)) for name in RENDITIONS)])
        self.strip = check_box(
            tr("Contact strip, a picture a second"),
            tr("One PNG of small pictures with their times, beside the film"),
        )
        self.keep = check_box(tr("Keep the film frames as PNG"), tr("In a folder beside the film, by number"))
        if walk is None:
            return
        span = QHBoxLayout()
        span.setSpacing(8)
        span.addWidget(self.from_field)
        span.addWidget(label(tr("to"), "quiet"))
        span.addWidget(self.to_field)
        grid.addWidget(label(tr("From"), "quiet"), 4, 0)
        grid.addLayout(span, 4, 1)
        rows = (
            (tr("Film frames"), self.step_choice),
            (tr("Drawn as"), self.drawn),
            (tr("Stamp"), self.stamp),
        )
        for row, (text, widget) in enumerate(rows, 5):
            grid.addWidget(label(text, "quiet"), row, 0)
            grid.addWidget(widget, row, 1)
        grid.addWidget(self.strip, 8, 1)
        grid.addWidget(self.keep, 9, 1)

    def _show_expected(self, *_: object) -> None:
        """How long it will take and how large it will be."""
        (project, ids), walk = self._made_of, self._walk
        cameras = tuple(camera for item in ids if (camera := project.camera(item)) is not None)
        order = self.order(ids, (walk.id,) if walk is not None else ())
        walks = (walk,) if walk is not None else ()
        try:
            request = request_for(
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
            self.expected.setText(spoken(error.sentence))
            self.go.setEnabled(False)
            return
        self.go.setEnabled(not self.trial.running)
        time = expected_for(request.items, order.quality, project.qualities, scene_of(project))
        size = sum(bytes_for(item, order.quality) for item in request.items)
        frames = [
            tr("{frames} film frames: ", frames=len(item.frames))
            for item in request.items
            if isinstance(item, Film)
        ]
        self.expected.setText(f"{''.join(frames)}{times(time)}, {size_words(size)}")

    def _take_quality(self, index: int) -> None:
        self._quality = index
        self._show_expected()

    def _browse(self) -> None:
        chosen = QFileDialog.getExistingDirectory(self, tr("Folder for the files"), self.folder.text())
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

    @property
    def chosen(self) -> LastChosen:
        """What is chosen now, for the next sheet."""
        return LastChosen(
            self._quality,
            self.kind.currentIndex(),
            self.drawn.currentIndex(),
            self.stamp.value,
            self.strip.isChecked(),
            self.keep.isChecked(),
        )

    def begin_with(self, last: LastChosen) -> None:
        """Start from what was chosen the last time."""
        self.quality.take(last.quality)
        self._quality = last.quality
        self.kind.setCurrentIndex(last.kind)
        self.drawn.setCurrentIndex(last.drawn)
        self.stamp.show_value(last.stamp)
        self.strip.setChecked(last.strip)
        self.keep.setChecked(last.keep)
        self._show_expected()

    def test_order(self) -> Order | None:
        """The first picture as it is set here, small."""
        project, ids = self._made_of
        first = project.camera(ids[0]) if ids else None
        if first is None:
            return None
        typed = None if self.size_choice.isVisible() else self.size_field.size_px
        size = trial_size((first.width_px, first.height_px), typed)
        return replace(
            self.order((first.id,), ()), size=size, scale=100.0, name=f"{file_stem(first.name)}-test"
        )

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
            self.stamp.value,
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
