"""What the checks found on the walk, and one press each to go there or to mend it."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QObject, QSize, Qt, Signal
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from altana.app.theme.widgets import Group, button
from altana.app.theme.words import spoken, tr
from altana.app.walk.edits import WalkEdits
from altana.core.walk.checks import Flag
from altana.core.walk.mends import WORDS as MEND_WORDS
from altana.core.walk.mends import mends_for


class FlagsGroup(QObject):
    """``go_to(seconds)`` when a flag is pressed, ``mend_wanted(flag, how)`` when a mend is."""

    go_to = Signal(float)
    mend_wanted = Signal(object, str)

    def __init__(self, edits: WalkEdits) -> None:
        super().__init__()
        self._edits = edits
        self.flags: tuple[Flag, ...] = ()
        self.group = Group(tr("Checks"))
        self.flag_list = QListWidget()
        self.flag_list.setAccessibleName(tr("What the checks found"))
        self.flag_list.setWordWrap(True)
        self.flag_list.setFixedHeight(84)
        self.flag_list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        for signal in (self.flag_list.itemClicked, self.flag_list.itemActivated):
            signal.connect(
                lambda item: self.go_to.emit(self.flags[int(item.data(Qt.ItemDataRole.UserRole))].worst_s)
            )
        self.flag_list.currentRowChanged.connect(self._show_mends)
        self.group.add_wide(self.flag_list)
        self.mends = {
            how: button(spoken(words), "small", spoken(tip), partial(self._want_mend, how))
            for how, (words, tip) in MEND_WORDS.items()
        }
        holder = QWidget()
        self._mend_row = QVBoxLayout(holder)
        self._mend_row.setContentsMargins(0, 0, 0, 0)
        self._mend_row.setSpacing(4)
        for mend_button in self.mends.values():
            self._mend_row.addWidget(mend_button)
            mend_button.hide()
        self.group.add_wide(holder)

    def _show_mends(self, row: int) -> None:
        line = self._edits.line
        offered = mends_for(self.flags[row], line) if line is not None and 0 <= row < len(self.flags) else ()
        for how, mend_button in self.mends.items():
            mend_button.setVisible(how in offered)

    def _want_mend(self, how: str) -> None:
        row = self.flag_list.currentRow()
        if 0 <= row < len(self.flags):
            self.mend_wanted.emit(self.flags[row], how)

    def show_flags(self, flags: tuple[Flag, ...] | None) -> None:
        """What the checks found; None while they are still looking."""
        row = self.flag_list.currentRow()
        self.flags = flags or ()
        self.flag_list.clear()
        for number, flag in enumerate(self.flags):
            entry = QListWidgetItem(f"! {number + 1}  {spoken(flag.sentence)}")
            entry.setData(Qt.ItemDataRole.UserRole, number)
            entry.setToolTip(tr("Press: goes there, and offers what mends it"))
            entry.setSizeHint(self._row_size(entry.text()))
            self.flag_list.addItem(entry)
        self.flag_list.setVisible(bool(flags))
        self.flag_list.setCurrentRow(row if row < len(self.flags) else -1)
        self._show_mends(self.flag_list.currentRow())
        self.group.show_figure(
            "…" if flags is None else tr("{flags} found", flags=len(flags)) if flags else tr("nothing found")
        )

    def _row_size(self, text: str) -> QSize:
        """The list's own guess at wrapped rows is a line short."""
        wide = self.flag_list.width() - 30
        box = self.flag_list.fontMetrics().boundingRect(0, 0, wide, 200, Qt.TextFlag.TextWordWrap, text)
        return QSize(wide, box.height() + 6)
