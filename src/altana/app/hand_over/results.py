"""What was made: the files, one of them large, against its last version or another file."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QHBoxLayout, QMenu, QSizePolicy, QStackedWidget, QVBoxLayout, QWidget

from altana.app.canvas.look_round import LookRound
from altana.app.canvas.picture_view import ACTUAL, AGAINST, DIFFERENCE, FIT, NAMES, PictureView, read_picture
from altana.app.hand_over.film_player import FilmPlayer
from altana.app.hand_over.made_list import FILMS, MadeList, States, entries_of
from altana.app.hand_over.phone import PhonePanel
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import OneLine, Segments, menu_button, rule
from altana.app.theme.words import tr
from altana.app.workspace.background import Background, Newest
from altana.core.project import PANORAMA
from altana.jobs.job_files import BEFORE_FOLDER
from altana.jobs.panoramas import front_of
from altana.jobs.shotlist import Row

VIEWS = (
    (FIT, tr("Whole"), tr("The whole picture (key F)")),
    (ACTUAL, tr("Actual pixels"), tr("A pixel of the picture on a pixel of the screen (key 1)")),
    (
        AGAINST,
        tr("Against"),
        tr("This and the last version, or another file, side by side and moved together"),
    ),
    (DIFFERENCE, tr("Difference"), tr("What differs from it, four times as strong")),
)
LAST = tr("Last version ▾")


class ResultsPage(QWidget):
    """Everything made, the chosen file large.  ``shown_changed`` when another is seen or seen otherwise."""

    shown_changed = Signal()

    def __init__(self, tokens: Tokens, background: Background, row_of: Callable[[Path], Row | None]) -> None:
        super().__init__()
        self._tokens, self._row_of = tokens, row_of
        self.out = Path()
        self._opened: Path | None = None
        self._shown: tuple[Path, float] | None = None
        #: What the file is compared with: its last version, or another file that was chosen for it.
        self._before: Path | None = None
        self.other: Path | None = None
        self._then = ""
        self.picture, self.round, self.film = PictureView(tokens), LookRound(tokens), FilmPlayer(tokens)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.files = MadeList(background)
        self.files.currentRowChanged.connect(self.open_file)
        row.addWidget(self.files)
        row.addWidget(rule(vertical=True))
        self.viewers = QStackedWidget()
        self.viewers.addWidget(self.picture)
        self.viewers.addWidget(self._round_page())
        self.viewers.addWidget(self._film_page())
        #: What is known of the file: from what it was made, when, and what has changed since.
        self.told = OneLine("quiet")
        self.told.setContentsMargins(12, 4, 12, 4)
        side = QVBoxLayout()
        side.setSpacing(0)
        side.addWidget(self.told)
        side.addWidget(self.viewers, 1)
        row.addLayout(side, 1)
        self.view_choice = Segments([(name, tip) for _, name, tip in VIEWS])
        self.view_choice.chosen.connect(lambda index: self.choose_view(VIEWS[index][0]))
        self.compared = menu_button(
            LAST, tr("Compared with: the last version of the file, or another one"), self._fill_compared
        )
        self.compared.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
        self._pictures_read = Newest(background, "reading a picture", self._take_read)
        self.picture.mode_changed.connect(self.show_view)

    def _round_page(self) -> QWidget:
        """Look round, what the stand-in host says of the file, and the stand-in phone."""
        holder = QWidget()
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.round_before = LookRound(self._tokens)
        self.round_before.hide()
        self.round.peer, self.round_before.peer = self.round_before, self.round
        both = QHBoxLayout()
        both.setSpacing(2)
        both.addWidget(self.round_before, 1)
        both.addWidget(self.round, 1)
        column.addLayout(both, 1)
        self.phone = PhonePanel(self.round)
        column.addWidget(self.phone)
        return holder

    def _film_page(self) -> QWidget:
        """The film, and its last version or another in step with it."""
        holder = QWidget()
        self.film_before = FilmPlayer(self._tokens)
        self.film_before.hide()
        self.film.peer = self.film_before
        both = QHBoxLayout(holder)
        both.setContentsMargins(0, 0, 0, 0)
        both.setSpacing(2)
        both.addWidget(self.film_before, 1)
        both.addWidget(self.film, 1)
        return holder

    @property
    def round_holder(self) -> QWidget | None:
        """What the panorama and the one beside it lie in."""
        return self.viewers.widget(1)

    @property
    def film_holder(self) -> QWidget | None:
        """What the film and the one beside it lie in."""
        return self.viewers.widget(2)

    def fill(self, out: Path, base: Path, states: States = ()) -> None:
        """List everything that was made.  out : where deliveries go; base : the project's folder; states :
        what is known of it."""
        self.out = out
        self.files.show_entries(entries_of(out, base, states))
        entry = self.files.entry
        self.told.tell(entry.told if entry is not None else "")
        if self._shown != self._version and not self.picture.drawing_region:
            self.open_file()

    @property
    def _version(self) -> tuple[Path, float] | None:
        """The file to be shown, with the time at which it was made; None where nothing is in sight."""
        entry = self.files.entry
        return (entry.path, entry.when) if entry is not None and not self.isHidden() else None

    @property
    def made(self) -> list[Path]:
        """The files, as they are listed."""
        return [entry.path for entry in self.files.entries]

    def _called(self, path: Path) -> str:
        return path.relative_to(self.out).as_posix() if path.is_relative_to(self.out) else path.name

    @property
    def file(self) -> Path | None:
        """The file that is looked at."""
        entry = self.files.entry
        return entry.path if entry is not None else None

    def family(self, path: Path) -> str:
        """What a file is looked at as: a film, a panorama or a picture."""
        row = self._row_of(path)
        if path.suffix in FILMS:
            return "film"
        round_ = (
            "panorama" in path.name
            or "stereo" in path.name
            or (row is not None and row.shot.kind == PANORAMA)
        )
        return "panorama" if round_ else "picture"

    def _stereo(self, path: Path) -> bool:
        row = self._row_of(path)
        return (row is not None and row.shot.stereo_m > 0) or "stereo" in path.name

    def open_file(self, _: int = 0) -> None:
        """Show the chosen file, once it is read."""
        path = self.file
        entry = self.files.entry
        self.told.tell(entry.told if entry is not None else "")
        # Whoever looks at another file no longer draws in that one.
        self.picture.drawing_region = False
        self._pictures_read.forget()
        self._shown = self._version
        if path != self._opened:
            # What another file shows would be wrong while this one is read.
            self._opened = path
            self.other = self.other if path is not None and self._fits(path, self.other) else None
            self.picture.show_picture(None)
            self.round.show_panorama(None)
        if path is None or self.isHidden() or not path.is_file():
            self.picture.show_picture(None)
            self.show_view()
            return
        before = path.parent / BEFORE_FOLDER / path.name
        self._before = self.other or (before if before.is_file() else None)
        family = self.family(path)
        names = self.names
        if family == "film":
            self.viewers.setCurrentIndex(2)
            beside = not self.film_before.isHidden() and self._before is not None
            self.film_before.open(self._before)
            self.film_before.setVisible(beside)
            self.film.open(path)
            self.film_before.caption, self.film.caption = names if beside else ("", "")
        elif family == "panorama":
            self.viewers.setCurrentIndex(1)
            if self._before is None:
                self.round_before.hide()
            self.phone.show_file(path)
            self._read_both(path)
        else:
            self.viewers.setCurrentWidget(self.picture)
            self._read_both(path)
        self.show_view()

    def _fits(self, path: Path, other: Path | None) -> bool:
        return (
            other is not None
            and other != path
            and other.is_file()
            and self.family(path) == self.family(other)
        )

    @property
    def names(self) -> tuple[str, str]:
        """What the two are called that are compared."""
        if self.other is None or self.file is None:
            return NAMES
        return self._called(self.other), self._called(self.file)

    def _read_both(self, path: Path) -> None:
        """Read a picture and what it is compared with beside the window: a large one takes seconds."""
        before, round_ = self._before, self.family(path) == "panorama"

        def read() -> tuple[Path, tuple[QImage | None, float], tuple[QImage | None, float]]:
            return path, _read(path, round_), (_read(before, round_) if before is not None else (None, 0.0))

        self._pictures_read.wish(read)

    def _take_read(
        self, pictures: tuple[Path, tuple[QImage | None, float], tuple[QImage | None, float]]
    ) -> None:
        path, (now, front), (before, other_front) = pictures
        if path != self.file or self.isHidden():
            return
        names = self.names
        if self.viewers.currentWidget() is self.round_holder:
            other = self._before or path
            self.round_before.show_panorama(before, self._stereo(other), other_front, names[0])
            self.round.show_panorama(now, self._stereo(path), front, names[1])
            self.round.turn(0.0, 0.0)
        else:
            self.picture.show_picture(now, before, names=names)
        self._look_so()
        self.show_view()

    # ------------------------------------------------------------------ how it is looked at

    def _fill_compared(self, menu: QMenu) -> None:
        path = self.file
        if path is None:
            return
        last = menu.addAction(tr("Last version"), partial(self.compare, None))
        last.setEnabled((path.parent / BEFORE_FOLDER / path.name).is_file())
        menu.addSeparator()
        for other in self.made:
            if self._fits(path, other):
                action = menu.addAction(self._called(other), partial(self.compare, other))
                action.setCheckable(True)
                action.setChecked(other == self.other)

    def compare(self, other: Path | None) -> None:
        """Compare the file with another one; None: with its last version."""
        self.other = other
        self.compared.setText(LAST if other is None else f"{other.stem[:18]} ▾")
        self._then = AGAINST if other is not None else ""
        self.open_file()
        if self.viewers.currentWidget() is self.film_holder:
            self._look_so()

    def _look_so(self) -> None:
        """The way of looking that was asked for before the files were read."""
        mode, self._then = self._then, ""
        if mode:
            self.choose_view(mode)

    @property
    def shows_panorama(self) -> bool:
        """Whether a panorama is looked at."""
        return self.viewers.currentWidget() is self.round_holder and self.file is not None

    def show_toned(self, image: QImage) -> None:
        """The file that is looked at, in another tone."""
        if self.shows_panorama:
            self.round.show_toned(image)
        else:
            self.picture.show_picture(image, None, True)

    def show_view(self) -> None:
        """Which ways of looking there are for what is shown."""
        picture = self.viewers.currentWidget() is self.picture and self.picture.image is not None
        other = self.file is not None and self.viewers.currentWidget() in (
            self.round_holder,
            self.film_holder,
        )
        self.view_choice.setEnabled(picture or other)
        for index, item in enumerate(self.view_choice.buttons()):
            mode = VIEWS[index][0]
            beside = mode == FIT or (mode == AGAINST and self._before is not None)
            item.setEnabled((picture and (index < 2 or self.picture.has_before)) or (other and beside))
        mode = self.picture.mode if picture else (AGAINST if self._beside else FIT)
        self.view_choice.take([name for name, _, _ in VIEWS].index(mode) if picture or other else -1)
        self.compared.setEnabled(self.file is not None)
        if self.other is None:
            self.compared.setText(LAST)
        self.shown_changed.emit()

    @property
    def shows_picture(self) -> bool:
        """Whether a still is looked at."""
        return self.viewers.currentWidget() is self.picture and self.picture.image is not None

    @property
    def _beside(self) -> bool:
        """Whether two panoramas or two films are beside each other."""
        pair = self.round_before if self.viewers.currentWidget() is self.round_holder else self.film_before
        return not pair.isHidden()

    def choose_view(self, mode: str) -> None:
        """How the file is looked at: a picture in four ways, a panorama or a film alone or beside another."""
        shown = self.viewers.currentWidget()
        if shown is self.picture:
            self.picture.choose(mode)
            return
        on = mode == AGAINST and self._before is not None
        if shown is self.round_holder:
            self.round_before.setVisible(on)
            self.round.turn(self.round.heading_deg, self.round.tilt_deg)
        else:
            self.film_before.setVisible(on)
            self.film_before.caption, self.film.caption = self.names if on else ("", "")
            self.film.seek(self.film.seconds)
        self.show_view()


def _read(path: Path, round_: bool) -> tuple[QImage | None, float]:
    """A picture, and where its middle looks to if it is a panorama."""
    return read_picture(path), front_of(path) if round_ else 0.0
