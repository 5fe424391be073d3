"""The shot list as a table: one row a file, with its picture, how it is drawn, its size, name, expected time
and state."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from PySide6.QtCore import QEvent, QModelIndex, QPersistentModelIndex, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QImage, QKeyEvent, QPainter, QPen, QResizeEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHeaderView,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTableWidget,
    QTableWidgetItem,
)

from altana.app.theme.empty import EmptyHint
from altana.app.theme.plain_text import tip_text
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import moment, spoken, tr
from altana.app.workspace.times import times
from altana.core.file_kinds import KINDS
from altana.core.project import FILM, LINES, PANORAMA, PENCIL, TRANSPARENT, Project, Shot
from altana.core.styles import called
from altana.jobs.estimates import bytes_for, expected_of
from altana.jobs.following import DRAWING, MADE, OUT, WAITING, Piece
from altana.jobs.paces import Paces, known_paces, scene_of
from altana.jobs.requests import Film, Item, Picture
from altana.jobs.shotlist import Row
from altana.storage.made import ASIDE as NOT_MADE
from altana.storage.made import MadeFile

COLUMNS = ("", tr("Picture"), tr("Of"), tr("Drawn"), tr("Size"), tr("File"), tr("Expected"), tr("State"))
WIDTHS = (44, 86, 0, 84, 104, 0, 74, 96)
#: Columns that are left out of a list narrower than this, by their number: the file, and how it is drawn.
NEEDS_PX = {5: 660, 3: 580}
ROW_PX = 52
#: From this width of the list on its pictures are larger.
LARGE_FROM_PX, LARGE_ROW_PX, LARGE_PICTURE_PX = 1000, 78, 138
ON, THUMB, SUBJECT, DRAWN, SIZE, FILE, EXPECTED, STATE = range(8)


@dataclass(frozen=True, slots=True)
class RowState:
    """How the file of a row stands: as it was made, what has changed since, whether it is there."""

    made: MadeFile
    changed: tuple[str, ...]
    there: bool

    @property
    def words(self) -> tuple[str, str]:
        """Two lines: the state, and when it was made or what changed."""
        when = moment(self.made.when)
        if self.made.state == NOT_MADE:
            return tr("! set aside"), when
        if not self.there:
            return tr("gone"), when
        if self.changed:
            return tr("out of date"), ", ".join(spoken(what) for what in self.changed)
        return f"✓ {self.made.took_s:.0f} s", when

    @property
    def told(self) -> str:
        """All of it in a sentence."""
        first, second = self.words
        if self.made.state == NOT_MADE:
            return tr("Not made: {sentence}", sentence=spoken(self.made.sentence))
        return (
            tr("Out of date: {second} changed since it was made", second=second)
            if self.changed
            else tr("{first}, made {second}", first=first, second=second)
        )


class ShotTable(QTableWidget):
    """Shows rows; ``switched(shot ids, on)`` by the box in front or Space, ``moved(by)`` and ``removed()`` by
    keys."""

    switched = Signal(list, bool)
    moved = Signal(int)
    removed = Signal()
    doubled = Signal()

    def __init__(self, tokens: Tokens, image_of: Callable[[Row], QImage | None]) -> None:
        super().__init__(0, len(COLUMNS))
        self._tokens, self.image_of = tokens, image_of
        self.rows: tuple[Row, ...] = ()
        self._project = Project()
        self._paces, self._scene = Paces(), ""
        self.pieces: dict[str, Piece] = {}
        self.states: dict[str, RowState] = {}
        self.setHorizontalHeaderLabels(list(COLUMNS))
        self.setAccessibleName(tr("Shot list"))
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setShowGrid(False)
        # Tab leaves the list; the arrows go about in it.
        self.setTabKeyNavigation(False)
        self.setWordWrap(True)
        self.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.verticalHeader().hide()
        self.verticalHeader().setDefaultSectionSize(ROW_PX)
        header = self.horizontalHeader()
        header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        header.setHighlightSections(False)
        for column, wide in enumerate(WIDTHS):
            header.setSectionResizeMode(
                column, QHeaderView.ResizeMode.Fixed if wide else QHeaderView.ResizeMode.Stretch
            )
            if wide:
                self.setColumnWidth(column, wide)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setItemDelegate(_Painted(self, tokens))
        self.itemChanged.connect(self._box)
        self.hint = EmptyHint(
            self,
            tr(
                "Nothing is in the shot list yet. Choose cameras in Compose; Add chosen cameras makes a row of each."
            ),
        )

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Where there is little width, what a row is of keeps its room; the rest is told beside the list."""
        super().resizeEvent(event)
        wide = event.size().width()
        for column, least in NEEDS_PX.items():
            self.setColumnHidden(column, wide < least)
        large = wide >= LARGE_FROM_PX
        self.setColumnWidth(THUMB, LARGE_PICTURE_PX if large else WIDTHS[THUMB])
        self.setColumnWidth(EXPECTED, WIDTHS[EXPECTED] + (20 if large else 0))
        self.verticalHeader().setDefaultSectionSize(self.row_px)

    @property
    def row_px(self) -> int:
        """How high a row is: with larger pictures where there is the room."""
        return LARGE_ROW_PX if self.viewport().width() >= LARGE_FROM_PX else ROW_PX

    def show_rows(self, project: Project, rows: Sequence[Row]) -> None:
        """Other rows, or the same changed; what is chosen stays chosen."""
        chosen = set(self.chosen)
        self._project, self.rows, self._paces = project, tuple(rows), known_paces()
        self._scene = scene_of(project)
        self.blockSignals(True)
        self.setRowCount(len(rows))
        for number, row in enumerate(rows):
            self._fill(number, row)
        self._tell_states()
        self.clearSelection()
        model = self.selectionModel()
        for number, row in enumerate(rows):
            if row.shot.id in chosen:
                model.select(
                    self.model().index(number, 0), model.SelectionFlag.Select | model.SelectionFlag.Rows
                )
        self.blockSignals(False)
        self.itemSelectionChanged.emit()

    def show_pieces(self, pieces: dict[str, Piece]) -> None:
        """How far the run is with each file."""
        self.pieces = pieces
        self.viewport().update()

    def show_states(self, states: dict[str, RowState]) -> None:
        """How the files of rows stand, by the row's id."""
        self.states = states
        self._tell_states()
        self.viewport().update()

    def _tell_states(self) -> None:
        """A row's state for who points at it, and for who cannot see it."""
        self.blockSignals(True)
        for number, row in enumerate(self.rows):
            item, state = self.item(number, STATE), self.states.get(row.shot.id)
            if item is not None:
                item.setToolTip(tip_text(state.told if state is not None else ""))
                item.setData(
                    Qt.ItemDataRole.AccessibleTextRole, " ".join(state.words) if state is not None else ""
                )
        self.blockSignals(False)

    @property
    def chosen(self) -> list[str]:
        """Ids of the chosen rows, in their order."""
        numbers = sorted({index.row() for index in self.selectedIndexes()})
        return [self.rows[number].shot.id for number in numbers if number < len(self.rows)]

    def choose(self, shot_ids: Sequence[str]) -> None:
        """Choose rows by id."""
        self.blockSignals(True)
        self.clearSelection()
        model = self.selectionModel()
        for number, row in enumerate(self.rows):
            if row.shot.id in shot_ids:
                model.select(
                    self.model().index(number, 0), model.SelectionFlag.Select | model.SelectionFlag.Rows
                )
        self.blockSignals(False)
        chosen = [number for number, row in enumerate(self.rows) if row.shot.id in shot_ids]
        if chosen:
            self.scrollTo(self.model().index(chosen[-1], 0))
            self.scrollTo(self.model().index(chosen[0], 0))
        self.itemSelectionChanged.emit()

    def _fill(self, number: int, row: Row) -> None:
        shot = row.shot
        box = QTableWidgetItem(f"{number + 1}")
        box.setFlags(
            Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsUserCheckable
        )
        box.setCheckState(Qt.CheckState.Checked if shot.on else Qt.CheckState.Unchecked)
        box.setToolTip(tr("Made with the list, or left out of it for now"))
        self.setItem(number, ON, box)
        texts = (
            "",
            self._subject(row),
            _drawn_text(shot),
            _size_text(row.item, shot),
            row.file or row.wrong,
            "" if row.item is None else _expected(row.item, shot, self._project, self._paces, self._scene),
            "",
        )
        for column, text in enumerate(texts, 1):
            item = QTableWidgetItem(text)
            item.setToolTip(tip_text(row.wrong or text))
            self.setItem(number, column, item)

    def _subject(self, row: Row) -> str:
        shot, item = row.shot, row.item
        subject = (
            self._project.walk(shot.subject) if shot.kind == FILM else self._project.camera(shot.subject)
        )
        name = subject.name if subject is not None else tr("gone")
        if shot.kind == PANORAMA:
            return (
                tr("{name}\nstereo panorama", name=name)
                if shot.stereo_m
                else tr("{name}\npanorama", name=name)
            )
        if shot.kind == FILM:
            round_about = isinstance(item, Film) and item.walk.turntable is not None
            what = tr("turntable") if round_about else tr("walk")
            return f"{name}\n{what}"
        return (
            f"{name}\n{spoken(item.camera.format_name) if item is not None and not isinstance(item, Film) else ''}"
            + (tr(" · region") if shot.region else "")
        )

    def _box(self, item: QTableWidgetItem) -> None:
        if item.column() == ON and item.row() < len(self.rows):
            shot, on = self.rows[item.row()].shot, item.checkState() == Qt.CheckState.Checked
            if shot.on != on:
                # A box in one of the chosen rows is the box of all of them.
                self.switched.emit(self.chosen if shot.id in self.chosen else [shot.id], on)

    def event(self, event) -> bool:  # type: ignore[no-untyped-def]
        """Control with up and down, and Delete, mean rows here, not what they mean in the rest of the
        window."""
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            control = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
            if event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Space) or (
                control and event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_A, Qt.Key.Key_D)
            ):
                event.accept()
                return True
        return bool(super().event(event))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Control with up and down moves rows; Delete takes them out."""
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier and event.key() in (
            Qt.Key.Key_Up,
            Qt.Key.Key_Down,
        ):
            self.moved.emit(-1 if event.key() == Qt.Key.Key_Up else 1)
        elif event.key() == Qt.Key.Key_Delete:
            self.removed.emit()
        elif event.key() == Qt.Key.Key_Space:
            if not self.chosen and self.currentRow() >= 0:
                # Come to by the Tab key: the row that the frame of focus is on is meant.
                self.selectRow(self.currentRow())
            first = next((row.shot for row in self.rows if row.shot.id in self.chosen), None)
            if first is not None:
                self.switched.emit(self.chosen, not first.on)
        elif event.modifiers() & Qt.KeyboardModifier.ControlModifier and event.key() == Qt.Key.Key_D:
            self.doubled.emit()
        else:
            super().keyPressEvent(event)


class _Painted(QStyledItemDelegate):
    """Paints the small picture and the state; everything else is text."""

    def __init__(self, table: ShotTable, tokens: Tokens) -> None:
        super().__init__(table)
        self._table, self._tokens = table, tokens

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        """All rows are as high."""
        return QSize(40, self._table.row_px)

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        """One cell."""
        table, number = self._table, index.row()
        if number >= len(table.rows) or index.column() not in (THUMB, STATE, FILE):
            super().paint(painter, option, index)
            return
        row = table.rows[number]
        painter.save()
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        box = QRectF(option.rect)
        painter.fillRect(box, QColor(self._tokens.verdigris if chosen else self._tokens.leaf))
        ink = QColor(self._tokens.on_verdigris if chosen else self._tokens.ink)
        if index.column() == THUMB:
            self._picture(painter, box.adjusted(4, 4, -4, -4), row)
        elif index.column() == FILE:
            self._file(painter, box.adjusted(6, 2, -6, -2), row, ink, chosen)
        else:
            self._state(painter, box.adjusted(6, 0, -6, 0), row, ink)
        painter.restore()

    def _picture(self, painter: QPainter, box: QRectF, row: Row) -> None:
        image = self._table.image_of(row)
        if image is None:
            painter.setPen(QPen(QColor(self._tokens.rule), 1.0))
            painter.setBrush(QColor(self._tokens.paper))
            painter.drawRoundedRect(box.adjusted(2, 2, -2, -2), 3, 3)
            painter.setPen(QColor(self._tokens.pencil))
            painter.setFont(text_font(8))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, tr("film") if row.shot.kind == FILM else "…")
            return
        scale = min(box.width() / image.width(), box.height() / image.height())
        wide, high = image.width() * scale, image.height() * scale
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        place = QRectF(box.center().x() - wide / 2, box.center().y() - high / 2, wide, high)
        painter.drawImage(place, image)
        # White paper would not be told from the table.
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(QColor(self._tokens.rule), 1.0))
        painter.drawRect(place.adjusted(0.5, 0.5, -0.5, -0.5))

    def _file(self, painter: QPainter, box: QRectF, row: Row, ink: QColor, chosen: bool) -> None:
        painter.setFont(text_font(9))
        if row.wrong:
            painter.setPen(QColor(self._tokens.on_verdigris if chosen else self._tokens.brick))
            painter.drawText(
                box, Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap, f"! {spoken(row.wrong)}"
            )
            return
        folder, _, name = row.file.rpartition("/")
        painter.setPen(ink)
        metrics = painter.fontMetrics()
        half = box.height() / 2
        shown = metrics.elidedText(name, Qt.TextElideMode.ElideMiddle, int(box.width()))
        painter.drawText(
            QRectF(box.x(), box.y(), box.width(), half),
            Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignLeft,
            shown,
        )
        painter.setPen(ink if chosen else QColor(self._tokens.pencil))
        shown = metrics.elidedText(folder or "–", Qt.TextElideMode.ElideMiddle, int(box.width()))
        painter.drawText(
            QRectF(box.x(), box.y() + half, box.width(), half),
            Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft,
            shown,
        )

    def _state(self, painter: QPainter, box: QRectF, row: Row, ink: QColor) -> None:
        piece, state = self._table.pieces.get(row.file), self._table.states.get(row.shot.id)
        painter.setFont(text_font(9))
        painter.setPen(ink)
        if piece is not None and piece.state == DRAWING:
            top = box.adjusted(0, 0, 0, -8)
            painter.drawText(top, Qt.AlignmentFlag.AlignVCenter, f"{piece.share:.0%}")
            bar = QRectF(box.x(), box.center().y() + 8, box.width(), 4)
            painter.fillRect(bar, QColor(self._tokens.rule))
            painter.fillRect(QRectF(bar.x(), bar.y(), bar.width() * piece.share, bar.height()), ink)
        elif piece is not None and piece.state in (WAITING, OUT):
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, spoken(piece.state))
        elif state is not None:
            first, second = state.words
            metrics, half = painter.fontMetrics(), box.height() / 2
            low = QRectF(box.x(), box.y() + half, box.width(), half - 4)
            top = QRectF(box.x(), box.y() + 4, box.width(), half - 4)
            painter.drawText(top, Qt.AlignmentFlag.AlignBottom, first)
            shown = metrics.elidedText(second, Qt.TextElideMode.ElideRight, int(box.width()))
            painter.drawText(low, Qt.AlignmentFlag.AlignTop, shown)
        elif piece is not None:
            text = f"✓ {piece.took:.0f} s" if piece.state == MADE else tr("! set aside")
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, text)


def _drawn_text(shot: Shot) -> str:
    """How a row is drawn, and what is special about it."""
    if shot.background == TRANSPARENT:
        return tr("{rendition}, no background", rendition=spoken(shot.rendition))
    drawn = spoken(shot.rendition)
    return f"{drawn}\n{spoken(called(shot.style))}" if shot.rendition in (LINES, PENCIL) else drawn


def _size_text(item: Item | None, shot: Shot) -> str:
    if item is None:
        return ""
    kind = KINDS[shot.file].short
    high = item.height_px * (2 if shot.stereo_m else 1)
    wide = item.width_px
    if shot.region is not None and not isinstance(item, Film):
        if isinstance(item, Picture):
            view = item.view()
            wide, high = view.width_px, view.height_px
    dpi = f"\n{kind} · {shot.dpi:g} dpi" if shot.dpi else f"\n{kind} · {spoken(shot.quality)}"
    return f"{wide} × {high}{dpi}"


def _expected(item: Item, shot: Shot, project: Project, paces: Paces, scene: str) -> str:
    expected = expected_of(item, shot.quality, project.qualities, paces, scene)
    size = bytes_for(item, shot.quality)
    time = times(expected, about=False)
    return f"{time}\n{size / 1e6:.1f} MB"
