"""What a file of others holds, offered to be taken: nothing of it is in the project before it is chosen."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QDialog, QHBoxLayout, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from altana.app.shell.remark_picture import RemarkPicture
from altana.app.theme.widgets import ChoiceBox, button, label
from altana.app.theme.words import spoken, tr
from altana.exchange.incoming import Offer
from altana.jobs.taking import WAYS

AS_IT_IS = tr("As what each is")
WORDS = (AS_IT_IS, tr("As cameras"), tr("As planned shots"), tr("As walks"))
PICTURE_PX = (300, 210)
#: A row has room for its box.
ROW_PX = 28


class TakePage(QDialog):
    """Lists what was found; ``taken(items, way)`` is called with what was chosen."""

    def __init__(
        self, parent: QWidget, file: str, offers: Sequence[Offer], taken: Callable[[list[Offer], str], object]
    ) -> None:
        super().__init__(parent)
        self._found, self._taken = list(offers), taken
        self.setWindowTitle(tr("Take in"))
        self.resize(760, 520)
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 16)
        column.setSpacing(10)
        column.addWidget(label(tr("Take in"), "title"))
        explanation = label(
            tr(
                "{file} holds %n things. Only what is ticked is taken; undo takes it back.",
                "",
                len(offers),
                file=file,
            ),
            "quiet",
        )
        explanation.setWordWrap(True)
        column.addWidget(explanation)
        both = QHBoxLayout()
        both.setSpacing(14)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("What the file holds"))
        for item in self._found:
            self.list.addItem(self._row(item))
        self.list.currentRowChanged.connect(self._show)
        self.list.itemChanged.connect(lambda _: self._show_buttons())
        both.addWidget(self.list, 1)
        both.addLayout(self._side(), 1)
        column.addLayout(both, 1)
        column.addLayout(self._buttons())
        self.list.setCurrentRow(0)
        self._show_buttons()

    def _row(self, item: Offer) -> QListWidgetItem:
        whole = item.camera is not None or item.walk is not None or item.remark is not None
        row = QListWidgetItem(f"{item.name}  ·  {spoken(item.kind)}")
        flags = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        row.setFlags(flags | Qt.ItemFlag.ItemIsUserCheckable if whole else flags)
        row.setCheckState(Qt.CheckState.Checked if whole else Qt.CheckState.Unchecked)
        row.setSizeHint(QSize(0, ROW_PX))
        return row

    def _side(self) -> QVBoxLayout:
        side = QVBoxLayout()
        self.picture = RemarkPicture(*PICTURE_PX)
        self.words = label("")
        self.words.setTextFormat(Qt.TextFormat.PlainText)
        self.words.setWordWrap(True)
        self.lost = label("", "trouble")
        self.lost.setWordWrap(True)
        side.addWidget(self.picture)
        side.addWidget(self.words)
        side.addWidget(self.lost)
        side.addStretch(1)
        return side

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.addWidget(button(tr("All"), "small", tr("Tick everything"), lambda: self._tick(True)))
        row.addWidget(button(tr("None"), "small", tr("Tick nothing"), lambda: self._tick(False)))
        row.addStretch(1)
        self.way = ChoiceBox()
        self.way.setAccessibleName(tr("As what it is taken"))
        self.way.setToolTip(tr("A remark may become a planned shot; a walk the camera that it begins with"))
        self.way.addItems(list(WORDS))
        row.addWidget(self.way)
        row.addWidget(button(tr("Cancel"), "", tr("Take nothing (Escape)"), self.reject))
        self.take = button(
            tr("Take"), "primary", tr("Make what is ticked part of the project, as one step"), self._take
        )
        row.addWidget(self.take)
        return row

    def _tick(self, on: bool) -> None:
        for number in range(self.list.count()):
            item = self.list.item(number)
            if item.flags() & Qt.ItemFlag.ItemIsUserCheckable:
                item.setCheckState(Qt.CheckState.Checked if on else Qt.CheckState.Unchecked)

    @property
    def chosen(self) -> list[Offer]:
        """What is ticked."""
        return [
            item
            for number, item in enumerate(self._found)
            if self.list.item(number).checkState() == Qt.CheckState.Checked
        ]

    def _show(self, row: int) -> None:
        if not 0 <= row < len(self._found):
            return
        item = self._found[row]
        self.picture.show_image(QImage.fromData(item.snapshot) if item.snapshot else QImage())
        self.words.setText(_told(item))
        self.lost.setText("\n".join(item.lost))

    def _show_buttons(self) -> None:
        count = len(self.chosen)
        self.take.setEnabled(count > 0)
        self.take.setText(tr("Take {count}", count=count) if count else tr("Take"))

    def _take(self) -> None:
        index, items = self.way.currentIndex(), self.chosen
        self.accept()
        self._taken(items, "" if index == 0 else WAYS[index - 1])


def _told(item: Offer) -> str:
    """What a thing is, in a few lines."""
    lines = []
    if item.camera is not None:
        camera = item.camera
        x, y, z = camera.eye
        lines.append(
            tr(
                "Eye {x:.2f}, {y:.2f}, {z:.2f} m · {focal_mm:.1f} mm · {width_px} × {height_px}",
                x=x,
                y=y,
                z=z,
                focal_mm=camera.focal_mm,
                width_px=camera.width_px,
                height_px=camera.height_px,
            )
        )
    if item.walk is not None:
        walk = item.walk
        lines.append(
            tr(
                "{seconds:g} s at {rate} film frames a second, %n places",
                "",
                len(walk.keys),
                seconds=walk.seconds,
                rate=walk.rate,
            )
        )
    if item.remark is not None:
        remark = item.remark
        lines += [remark.words] if remark.words else []
        who = ", ".join(part for part in (remark.author, remark.date[:10]) if part)
        lines += [who] if who else []
        lines += [f"{comment.author}: {comment.text}" for comment in remark.comments[:4]]
    if item.hidden:
        lines.append(
            tr("%n objects only are shown", "", len(item.hidden))
            if item.only
            else tr("%n objects are not shown", "", len(item.hidden))
        )
    return "\n".join(lines)
