"""The page of remarks: what others said, with its picture, which camera answers it, and whether it is
answered."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QImage
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from altana.app.shell.remark_picture import RemarkPicture
from altana.app.theme.widgets import ChoiceBox, button, label
from altana.app.theme.words import tr
from altana.app.workspace.bridge import Bridge
from altana.core.edits.remarks import answer_remark, change_remark, drop_remark, reopen_remark
from altana.core.project import Project, Remark

PICTURE_PX = (380, 250)
NO_CAMERA = tr("no camera yet")


class RemarksPage(QDialog):
    """Lists remarks, the open ones first.  ``go`` shows a camera; ``send`` writes the answered ones; home :
    the project's file."""

    def __init__(
        self,
        parent: QWidget,
        bridge: Bridge,
        home: Path,
        go: Callable[[str], object],
        send: Callable[[], object],
        take: Callable[[], object],
    ) -> None:
        super().__init__(parent)
        self._bridge, self._home, self._go = bridge, home, go
        self.setWindowTitle(tr("Remarks"))
        self.resize(860, 600)
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 16)
        column.setSpacing(10)
        column.addWidget(label(tr("Remarks"), "title"))
        self.summary = label("", "quiet")
        column.addWidget(self.summary)
        both = QHBoxLayout()
        both.setSpacing(16)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Remarks"))
        self.list.setMinimumWidth(280)
        self.list.currentRowChanged.connect(lambda _: self._show())
        both.addWidget(self.list, 2)
        both.addLayout(self._side(), 3)
        column.addLayout(both, 1)
        row = QHBoxLayout()
        row.addWidget(button(tr("Take in…"), "", tr("Remarks of a BCF file, offered first"), take))
        self.send = button(
            tr("Send answers back…"), "", tr("The answered remarks as BCF, each with a new picture"), send
        )
        row.addWidget(self.send)
        row.addStretch(1)
        row.addWidget(button(tr("Close"), "", tr("Close this page (Escape)"), self.accept))
        column.addLayout(row)
        bridge.settled.connect(self.refresh)
        self.finished.connect(lambda _: bridge.settled.disconnect(self.refresh))
        self.refresh()

    def _side(self) -> QVBoxLayout:
        side = QVBoxLayout()
        side.setSpacing(8)
        self.picture = RemarkPicture(*PICTURE_PX)
        self.words = label("")
        self.words.setTextFormat(Qt.TextFormat.PlainText)
        self.words.setWordWrap(True)
        side.addWidget(self.picture)
        side.addWidget(self.words)
        side.addStretch(1)
        line = QHBoxLayout()
        line.addWidget(label(tr("Answered by"), "quiet"))
        self.camera = ChoiceBox()
        self.camera.setAccessibleName(tr("Camera that answers it"))
        self.camera.setToolTip(tr("The camera whose picture goes back with the answer"))
        self.camera.activated.connect(lambda _: self._choose_camera())
        line.addWidget(self.camera, 1)
        self.show_it = button(tr("Go there"), "small", tr("Show this camera in Compose"), self._to_camera)
        line.addWidget(self.show_it)
        side.addLayout(line)
        self.answer = QLineEdit()
        self.answer.setAccessibleName(tr("Answer"))
        self.answer.setPlaceholderText(tr("What is said with it"))
        self.answer.setToolTip(tr("Goes back as a comment, with a new picture of the camera"))
        side.addWidget(self.answer)
        row = QHBoxLayout()
        self.answered = button(
            tr("Answered"), "primary", tr("Answered by this camera, with these words"), self._answered
        )
        self.again = button(tr("Open again"), "", tr("It waits for its answer again"), self._reopen)
        self.drop = button(tr("Drop"), "", tr("Without this remark; its camera stays"), self._drop)
        for part in (self.answered, self.again, self.drop):
            row.addWidget(part)
        row.addStretch(1)
        side.addLayout(row)
        return side

    # ------------------------------------------------------------------ showing

    @property
    def _sorted(self) -> list[Remark]:
        return sorted(self._bridge.project.remarks, key=lambda item: (item.answered, item.date))

    @property
    def chosen(self) -> Remark | None:
        """The remark that is looked at."""
        item = self.list.currentItem()
        chosen_id = item.data(Qt.ItemDataRole.UserRole) if item is not None else ""
        return next((one for one in self._bridge.project.remarks if one.id == chosen_id), None)

    def refresh(self) -> None:
        """Follow the project."""
        before = self.chosen
        remarks = self._sorted
        self.list.blockSignals(True)
        self.list.clear()
        for item in remarks:
            row = QListWidgetItem(f"{'✓' if item.answered else '•'} {item.title}\n{_who(item)}")
            row.setData(Qt.ItemDataRole.UserRole, item.id)
            row.setSizeHint(QSize(0, 2 * self.fontMetrics().lineSpacing() + 12))
            self.list.addItem(row)
        self.list.blockSignals(False)
        row_of = next((n for n, item in enumerate(remarks) if before is not None and item.id == before.id), 0)
        self.list.setCurrentRow(row_of if remarks else -1)
        done = sum(item.answered for item in remarks)
        self.summary.setText(
            tr("%n remarks, {done} answered.", "", len(remarks), done=done)
            if remarks
            else tr("No remarks yet. Take in a BCF file, or drop one on the window.")
        )
        self.send.setEnabled(done > 0)
        self._show()

    def _show(self) -> None:
        item, project = self.chosen, self._bridge.project
        for part in (self.camera, self.answer, self.answered, self.again, self.drop, self.show_it):
            part.setEnabled(item is not None)
        self.picture.show_image(self._image(item))
        self.camera.clear()
        self.camera.addItems([NO_CAMERA, *(camera.name for camera in project.cameras)])
        if item is None:
            self.words.setText("")
            self.answer.setText("")
            return
        ids = ["", *(camera.id for camera in project.cameras)]
        self.camera.setCurrentIndex(ids.index(item.camera) if item.camera in ids else 0)
        comments = [f"{one.author}, {one.date[:10]}: {one.text}" for one in item.comments]
        self.words.setText("\n\n".join(part for part in (item.words, *comments) if part) or item.title)
        self.answer.setText(item.answer)
        self.answered.setEnabled(project.camera(item.camera) is not None)
        self.show_it.setEnabled(project.camera(item.camera) is not None)
        self.again.setEnabled(item.answered)

    def _image(self, item: Remark | None) -> QImage:
        """The picture of a remark, where it lies within the project's folder."""
        if item is None or not item.picture:
            return QImage()
        folder = self._home.parent.resolve()
        path = (folder / item.picture).resolve()
        return QImage(str(path)) if path.is_relative_to(folder) and path.is_file() else QImage()

    # ------------------------------------------------------------------ changing

    def _change(self, words: str, edit: Callable[[Project, Remark], Project]) -> None:
        item = self.chosen
        if item is not None:
            self._bridge.apply(words, lambda project: edit(project, item))

    def _choose_camera(self) -> None:
        cameras = self._bridge.project.cameras
        index = self.camera.currentIndex()
        camera = cameras[index - 1].id if index > 0 else ""
        self._change(
            tr("Camera of a remark"),
            lambda project, item: change_remark(project, item.id, _with_camera(item, camera)),
        )

    def _answered(self) -> None:
        words = self.answer.text()
        self._change(
            tr("Answer a remark"), lambda project, item: answer_remark(project, item.id, item.camera, words)
        )

    def _reopen(self) -> None:
        self._change(tr("Open a remark again"), lambda project, item: reopen_remark(project, item.id))

    def _drop(self) -> None:
        self._change(tr("Drop a remark"), lambda project, item: drop_remark(project, item.id))

    def _to_camera(self) -> None:
        item = self.chosen
        if item is not None and item.camera:
            self.accept()
            self._go(item.camera)


def _with_camera(item: Remark, camera: str) -> Remark:
    return replace(item, camera=camera, answered=item.answered and bool(camera))


def _who(item: Remark) -> str:
    return ", ".join(part for part in (item.author or tr("nobody named"), item.date[:10]) if part)
