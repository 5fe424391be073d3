"""Check all: one page with a row for each camera, what is trouble in it, and its mends."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QSize, Qt, QTimer, Signal
from PySide6.QtGui import QImage, QPixmap
from PySide6.QtWidgets import QHBoxLayout, QLabel, QSizePolicy, QVBoxLayout, QWidget

from altana.app.theme.widgets import OneLine, Segments, button, label, progress_bar, relabel, rule, scrolling
from altana.app.theme.words import spoken, tr
from altana.app.workspace.soon import Soon
from altana.app.workspace.workspace import Workspace
from altana.core.checks.camera_check import MENDS, Trouble
from altana.core.project import Camera

PICTURE = QSize(88, 50)
#: Rows are filled so many at a time, so that a page of hundreds never holds the window up.
ROWS_AT_ONCE = 1
#: What mends one camera's picture; the others change the project for all.
FOR_ALL = ("ground",)


class CameraRow(QWidget):
    """One camera: picture, name, figures, and a line for each trouble with its mends as buttons."""

    def __init__(self, page: CheckAllPage, camera_id: str) -> None:
        super().__init__()
        self.camera_id = camera_id
        self._page = page
        self.shown: object = None
        self._picture = QLabel()
        self._picture.setFixedSize(PICTURE)
        self._picture.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self._picture.setStyleSheet("background: #8A8A8A;")
        self.name = button("", "quiet", tr("Go to this camera"), lambda: page.go.emit(camera_id))
        self.name.setStyleSheet("font-weight: 700; text-align: left; padding: 0;")
        self.name.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
        self.figures = label("", "quiet")
        self._lines = QVBoxLayout()
        self._lines.setSpacing(3)
        words = QVBoxLayout()
        words.setSpacing(2)
        head = QHBoxLayout()
        head.setSpacing(10)
        head.addWidget(self.name)
        head.addWidget(self.figures, 1)
        words.addLayout(head)
        words.addLayout(self._lines)
        words.addStretch(1)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 5, 14, 5)
        row.setSpacing(14)
        row.addWidget(self._picture, 0, Qt.AlignmentFlag.AlignTop)
        row.addLayout(words, 1)
        self.mends: dict[str, QWidget] = {}

    def show_camera(self, camera: Camera, image: QImage | None) -> None:
        """Follow a camera and what was found about it."""
        book = self._page.book
        checks, troubles = book.of(camera), book.troubles(camera)
        if image is not None:
            self._picture.setPixmap(
                QPixmap.fromImage(image).scaled(
                    PICTURE, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
                )
            )
        relabel(self.name, camera.name)
        self.name.setAccessibleName(tr("Go to {name}", name=camera.name))
        if checks is None:
            self.figures.setText(tr("not looked at yet"))
        else:
            uprights = checks.verticals
            parts = [
                tr("{points}-point", points=checks.perspective.points),
                tr("verticals {worst_px:.1f} px ({count})", worst_px=uprights.worst_px, count=uprights.count),
            ]
            if camera.bounded:
                parts.append(tr("cut faces {share:.1f} %", share=checks.cut.share * 100))
            parts.append(tr("gaps {out:.1f} %", out=checks.gaps.out * 100))
            self.figures.setText(" · ".join(parts))
        key = (camera.name, id(checks), troubles, camera.locked)
        if key != self.shown:
            self.shown = key
            self._fill(camera, troubles, checks is not None)

    def _fill(self, camera: Camera, troubles: tuple[Trouble, ...], known: bool) -> None:
        while self._lines.count():
            item = self._lines.takeAt(0)
            old = item.widget() if item is not None else None
            if old is not None:
                old.hide()
                old.deleteLater()
        self.mends = {}
        for trouble in troubles:
            self._lines.addWidget(self._line(camera, trouble))
        if not troubles:
            self._lines.addWidget(label(tr("nothing found") if known else "…", "quiet"))

    def _line(self, camera: Camera, trouble: Trouble) -> QWidget:
        holder = QWidget()
        line = QHBoxLayout(holder)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(6)
        words = label(f"! {spoken(trouble.sentence)}", "trouble")
        words.setWordWrap(True)
        line.addWidget(words, 1)
        for code in trouble.mends:
            action: Callable[[], object]
            if code == "go":
                action = partial(self._page.go.emit, self.camera_id)
            else:
                action = partial(self._page.mend, self.camera_id, code)
            mend_button = button(
                spoken(MENDS[code]),
                "small",
                tr("{mends}: {name}; can be undone", mends=spoken(MENDS[code]), name=camera.name),
                action,
            )
            mend_button.setEnabled(not camera.locked or code == "go" or code in FOR_ALL)
            mend_button.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
            line.addWidget(mend_button, 0, Qt.AlignmentFlag.AlignTop)
            self.mends[code] = mend_button
        return holder


class CheckAllPage(QWidget):
    """All cameras with their trouble; the check goes on in the background while rows fill."""

    go = Signal(str)
    left = Signal()
    listed = Signal()

    def __init__(self, workspace: Workspace, thumb: Callable[[str], QImage | None]) -> None:
        bridge, state, book = workspace.bridge, workspace.state, workspace.book
        super().__init__()
        self._bridge, self._state, self.book, self._thumb = bridge, state, book, thumb
        self.setObjectName("chrome")
        self.rows: dict[str, CameraRow] = {}
        self._only = 0
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(self._head())
        column.addWidget(rule())
        inner = QWidget()
        inner.setObjectName("chrome")
        self._column = QVBoxLayout(inner)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(0)
        self._column.addStretch(1)
        scroll = scrolling(inner)
        column.addWidget(scroll, 1)
        self._soon = Soon(self, 60, self._follow)
        self._due: list[str] = []
        self.filler = QTimer(self)
        self.filler.setInterval(0)
        self.filler.timeout.connect(self._fill_some)
        book.changed.connect(self._one_changed)
        book.progress.connect(self._show_progress)
        bridge.cameras_changed.connect(self._soon.start)

    def _head(self) -> QVBoxLayout:
        head = QHBoxLayout()
        head.setContentsMargins(16, 10, 14, 4)
        head.setSpacing(8)
        head.addWidget(label(tr("Check all"), "title"))
        self.summary = OneLine("quiet")
        head.addWidget(self.summary, 1)
        self.stop = button(
            tr("Stop"), "", tr("Leave the rest unlooked at; what was found stays"), self.book.stop
        )
        self.again = button(tr("Look again"), "", tr("Check what has changed since"), self.begin)
        self.close_button = button(
            tr("Back to the Frame"), "", tr("Leave this page (Escape)"), self.left.emit
        )
        head.addWidget(self.again)
        head.addWidget(self.close_button)
        whole = QVBoxLayout()
        whole.setSpacing(2)
        whole.addLayout(head)
        whole.addLayout(self._tools())
        return whole

    def _tools(self) -> QHBoxLayout:
        tools = QHBoxLayout()
        tools.setContentsMargins(16, 0, 14, 8)
        tools.setSpacing(8)
        self.which = Segments(
            [
                (tr("All cameras"), tr("Every camera")),
                (tr("With trouble"), tr("Only cameras in whose picture something is wrong")),
            ]
        )
        self.which.take(0)
        self.which.chosen.connect(self._choose)
        tools.addWidget(self.which)
        self.bar = progress_bar(tr("Check of all cameras"))
        self.bar.setMinimumWidth(30)
        self.bar.setMaximumWidth(150)
        tools.addWidget(self.bar)
        tools.addWidget(self.stop)
        tools.addStretch(1)
        self.plumb_all = button(
            tr("Plumb all"),
            "",
            tr("Plumb every camera whose vertical edges are off; one undo step"),
            self._plumb_all,
        )
        self.list_gaps = button(
            tr("List gaps…"),
            "",
            tr("Write a page with pictures of all gaps, for whoever models"),
            self.listed.emit,
        )
        for item in (self.plumb_all, self.list_gaps):
            tools.addWidget(item)
        return tools

    # ------------------------------------------------------------------ looking

    def begin(self) -> None:
        """Check every camera that was not looked at as it is now."""
        self._follow()
        self.book.check_all()

    def _show_progress(self, share: float) -> None:
        going = share < 1.0
        self.bar.setValue(round(share * 1000))
        self.bar.setVisible(going)
        self.stop.setVisible(going)
        self.again.setVisible(not going)
        self._summarise()

    def _choose(self, index: int) -> None:
        self._only = index
        self._follow()

    def _one_changed(self, camera_id: str) -> None:
        if self.isVisible():
            self._refresh(camera_id)
            self._summarise()

    # ------------------------------------------------------------------ rows

    def _follow(self) -> None:
        if not self.isVisible():
            return
        cameras = self._bridge.project.cameras
        wanted = [camera.id for camera in cameras]
        for gone in [item for item in self.rows if item not in wanted]:
            row = self.rows.pop(gone)
            self._column.removeWidget(row)
            row.hide()
            row.deleteLater()
        self._due = wanted
        self.filler.start()
        self._summarise()

    def _fill_some(self) -> None:
        for camera_id in self._due[:ROWS_AT_ONCE]:
            self._refresh(camera_id)
        del self._due[:ROWS_AT_ONCE]
        if not self._due:
            self.filler.stop()

    def _refresh(self, camera_id: str) -> None:
        camera = self._bridge.project.camera(camera_id)
        if camera is None:
            return
        row = self.rows.get(camera_id)
        if row is None:
            row = self.rows[camera_id] = CameraRow(self, camera_id)
            self._column.insertWidget(len(self.rows) - 1, row)
        row.show_camera(camera, self._thumb(camera_id))
        row.setVisible(self._only == 0 or bool(self.book.troubles(camera)))

    def _summarise(self) -> None:
        cameras = self._bridge.project.cameras
        known = [camera for camera in cameras if self.book.of(camera) is not None]
        wrong = sum(bool(self.book.troubles(camera)) for camera in known)
        self.summary.tell(
            tr(
                "{known} of {cameras} looked at · {wrong} with trouble",
                known=len(known),
                cameras=len(cameras),
                wrong=wrong,
            )
        )
        self.plumb_all.setEnabled(
            any(item.code == "verticals" for camera in known for item in self.book.troubles(camera))
        )

    def mend(self, camera_id: str, code: str) -> None:
        """Mend one kind of trouble of a camera, then look again."""
        camera = self._bridge.project.camera(camera_id)
        if camera is not None and self.book.mend([camera_id], code, f"{MENDS[code]}: {camera.name}"):
            self.begin()

    def _plumb_all(self) -> None:
        cameras = [
            c
            for c in self._bridge.project.cameras
            if not c.locked and any(t.code == "verticals" for t in self.book.troubles(c))
        ]
        if cameras and self.book.mend(
            [camera.id for camera in cameras], "plumb", tr("Plumb %n cameras", "", len(cameras))
        ):
            self.begin()
