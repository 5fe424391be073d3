"""The list of everything that was made: files of the delivery and of wherever else something was made to, the
newest first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

from PySide6.QtCore import QEvent, QFile, QSize, Qt, Signal
from PySide6.QtGui import QIcon, QImage, QImageReader, QKeyEvent, QPixmap
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QMessageBox

from altana.app.canvas.picture_view import image_of, read_picture
from altana.app.theme.empty import EmptyHint
from altana.app.theme.plain_text import tip_text
from altana.app.theme.words import moment, spoken, tr
from altana.app.workspace.background import Background, Newest
from altana.jobs.job_files import BEFORE_FOLDER, MASTER_FOLDER
from altana.jobs.remembered import SIDECAR
from altana.storage.made import ASIDE, TEST, MadeFile

ICON_PX = QSize(96, 60)
PICTURES, FILMS = (".png", ".jpg", ".tif"), (".mp4", ".mov", ".webm", ".avi", ".gif")
#: What was made, with what has changed since.
States = Sequence[tuple[MadeFile, tuple[str, ...]]]


@dataclass(frozen=True, slots=True)
class Entry:
    """One file: its name as it is listed, its state in a few words, and all that is known of it in one
    line."""

    path: Path
    name: str
    state: str
    told: str
    when: float


def entries_of(out: Path, base: Path, states: States) -> list[Entry]:
    """Everything that was made, the newest first.  base : the project's folder, from which lines name their
    files."""
    noted = {state.path(base): (state, changed) for state, changed in states}
    lying = [
        path
        for path in out.rglob("*")
        if path.suffix in (*PICTURES, *FILMS)
        and not {BEFORE_FOLDER, MASTER_FOLDER} & set(path.parts)
        and not path.name.startswith(".")
    ]
    elsewhere = [
        path
        for path, (state, _) in noted.items()
        if path not in lying
        and (state.state == ASIDE or (path.is_file() and path.suffix in (*PICTURES, *FILMS)))
    ]
    entries = [_entry(path, out, base, noted.get(path)) for path in (*lying, *elsewhere)]
    return sorted(entries, key=lambda entry: (-entry.when, entry.name))


def _entry(path: Path, out: Path, base: Path, known: tuple[MadeFile, tuple[str, ...]] | None) -> Entry:
    folder = out if path.is_relative_to(out) else base
    name = path.relative_to(folder).as_posix() if path.is_relative_to(folder) else path.name
    if known is None:
        when = path.stat().st_mtime if path.exists() else 0.0
        return Entry(
            path, name, "", tr("{path}: made before Altana kept a list of what it makes.", path=path), when
        )
    record, changed = known
    state = state_text(record, changed)
    day = moment(record.when)
    took = f", {record.took_s:.0f} s" if record.took_s >= 1 else ""
    words = f"{record.name} · {spoken(record.shot.quality)}, {record.width_px} × {record.height_px} px · {day}{took} · "
    if record.state == ASIDE:
        words = tr(
            "{name} · not made, {day}: {sentence}",
            name=record.name,
            day=day,
            sentence=spoken(record.sentence),
        )
    else:
        words += (
            tr("out of date: {changed}", changed=", ".join(spoken(what) for what in changed))
            if changed
            else tr("current")
        )
    kind = tr("test, ") if record.way == TEST else ""
    when = path.stat().st_mtime if path.is_file() else record.when
    return Entry(path, record.name, f"{kind}{state} · {day}", words, when)


def state_text(record: MadeFile, changed: Sequence[str]) -> str:
    """How what was made stands, in a word or two."""
    if record.state == ASIDE:
        return tr("set aside")
    return tr("out of date") if changed else tr("current")


class MadeList(QListWidget):
    """Shows entries with their small pictures.  ``thrown_away`` when a file has gone to the desktop's
    trash."""

    thrown_away = Signal()
    #: A file could not be thrown away, with the reason.
    refused = Signal(str)

    def __init__(self, background: Background) -> None:
        super().__init__()
        self.entries: list[Entry] = []
        #: The folder whose newest file is to be looked at, until the list has been read anew.
        self._sought: Path | None = None
        self.itemPressed.connect(lambda _: self._stop_seeking())
        self.setAccessibleName(tr("What was made"))
        self.setIconSize(ICON_PX)
        self.setFixedWidth(230)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setWordWrap(True)
        self.hint = EmptyHint(
            self, tr("Nothing was made yet. Everything that is made for this project is listed here.")
        )
        self._icons = Newest(background, "reading small pictures", self._take_icons)

    def show_entries(self, entries: list[Entry]) -> None:
        """Other entries, or the same ones in another state; what is looked at stays so."""
        if entries == self.entries and self.count() == len(entries):
            return
        current = self.entry
        same = [entry.path for entry in entries] == [entry.path for entry in self.entries]
        newer = not same or [entry.when for entry in entries] != [entry.when for entry in self.entries]
        self.entries = entries
        self.blockSignals(True)
        if not same:
            self.clear()
            for _ in entries:
                self.addItem(QListWidgetItem())
        for number, entry in enumerate(entries):
            item = self.item(number)
            # A file's name may break behind a folder.
            item.setText(entry.name.replace("/", "/\u200b") + (f"\n{entry.state}" if entry.state else ""))
            item.setToolTip(tip_text(f"{entry.path}\n{entry.told}"))
            if current is not None and entry.path == current.path:
                self.setCurrentRow(number)
        self.blockSignals(False)
        if newer:
            paths = [entry.path for entry in entries]
            self._icons.wish(lambda: [small_picture(path) for path in paths])
        if entries and self.currentRow() < 0:
            self.setCurrentRow(0)
        if newer:
            self._look_at_newest()
            self._stop_seeking()

    @property
    def entry(self) -> Entry | None:
        """The entry that is looked at."""
        row = self.currentRow()
        return self.entries[row] if 0 <= row < len(self.entries) else None

    def event(self, event: QEvent) -> bool:
        """Delete means the file here, not the camera chosen elsewhere."""
        if (
            event.type() == QEvent.Type.ShortcutOverride
            and isinstance(event, QKeyEvent)
            and event.key() == Qt.Key.Key_Delete
        ):
            event.accept()
            return True
        return bool(super().event(event))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Delete throws the file away, after asking once."""
        if event.key() == Qt.Key.Key_Delete:
            self.ask_throw_away()
        else:
            super().keyPressEvent(event)

    def ask_throw_away(self) -> None:
        """Ask, and put the file with its camera beside it into the desktop's trash."""
        entry = self.entry
        if entry is None or not entry.path.is_file():
            return
        box = QMessageBox(self.window())
        box.setWindowTitle(tr("Into the trash"))
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setText(tr("Put {name} into the trash? The row of the shot list stays.", name=entry.path.name))
        go = box.addButton(tr("Into the trash"), QMessageBox.ButtonRole.DestructiveRole)
        box.addButton(tr("Keep it"), QMessageBox.ButtonRole.RejectRole)
        box.exec()
        if box.clickedButton() is go:
            self.throw_away(entry.path)

    def throw_away(self, path: Path) -> None:
        """Into the desktop's trash, from where it can be got back."""
        if not QFile.moveToTrash(str(path)):
            self.refused.emit(
                tr(
                    "{name} could not be put into the trash of this disk. It is where it was; delete it in its folder.",
                    name=path.name,
                )
            )
            return
        beside = path.with_name(path.name + SIDECAR)
        if beside.is_file():
            QFile.moveToTrash(str(beside))
        self.thrown_away.emit()

    def choose(self, path: Path) -> None:
        """Look at a file."""
        for number, entry in enumerate(self.entries):
            if entry.path == path:
                self.setCurrentRow(number)

    def seek(self, folder: Path) -> None:
        """Look at the newest file of a folder: the one that is listed now, and what the list holds once it is
        read anew."""
        self._sought = folder
        self._look_at_newest()

    def _stop_seeking(self) -> None:
        self._sought = None

    def _look_at_newest(self) -> None:
        folder = self._sought
        listed = [entry for entry in self.entries if folder is not None and entry.path.is_relative_to(folder)]
        if listed:
            self.choose(max(listed, key=lambda entry: entry.when).path)

    def _take_icons(self, images: list[QImage]) -> None:
        for number, image in enumerate(images):
            item = self.item(number)
            if item is not None:
                item.setIcon(QIcon(QPixmap.fromImage(image)))


def small_picture(path: Path) -> QImage:
    """A small picture of a picture file or film; grey where there is none."""
    reader = QImageReader(str(path))
    size = reader.size()
    if path.suffix == ".tif" and path.is_file():
        whole = read_picture(path)
        if whole is not None:
            return _scaled(whole)
    elif path.suffix in FILMS:
        frame = _first_frame(path)
        if frame is not None:
            return _scaled(frame)
    elif size.isValid():
        reader.setScaledSize(size.scaled(ICON_PX, Qt.AspectRatioMode.KeepAspectRatio))
        return reader.read()
    image = QImage(ICON_PX, QImage.Format.Format_RGB32)
    image.fill(0x8A8A8A)
    return image


def _scaled(image: QImage) -> QImage:
    return image.scaled(
        ICON_PX, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
    )


def _first_frame(path: Path) -> QImage | None:
    """The film frame in the middle of a film's first second; None where it cannot be read."""
    import av

    from altana.render.film_file import film_frame_at

    try:
        pixels = film_frame_at(path, 0.5, Fraction(25))
    except (av.FFmpegError, OSError, ValueError, IndexError):
        return None
    return image_of(pixels) if pixels is not None else None
