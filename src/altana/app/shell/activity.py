"""The line at the bottom: work in the background with its progress, whether the project is saved, where the
pointer is."""

from __future__ import annotations

import math
import threading
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QUrl, Signal
from PySide6.QtGui import QDesktopServices
from PySide6.QtWidgets import QHBoxLayout, QWidget

from altana.app.theme.widgets import button, label, progress_bar
from altana.app.theme.words import spoken, tr
from altana.app.workspace.background import Background
from altana.jobs.reader import Waiting

#: What the journal of a run calls things, and what is said.
JOB_WORDS = {"Light": tr("Computing light"), "Starting": tr("Starting")}


class Activity(QWidget):
    """Shows one piece of work at a time.  cancel : stops the job that is shown."""

    #: What was made last is to be seen; the folder that it lies in.
    look_wanted = Signal(Path)

    def __init__(self, background: Background, cancel: Callable[[], object]) -> None:
        super().__init__()
        self._background = background
        self._made_in = Path()
        self._cancel_job = cancel
        #: Set where what is being read is not wanted any more; None while nothing is read.
        self._unwanted: threading.Event | None = None
        self.setObjectName("chrome")
        self.setFixedHeight(27)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 0, 16, 0)
        row.setSpacing(12)
        self._label = label("", "quiet")
        self._bar = progress_bar(tr("How far the work is"))
        self._bar.setFixedWidth(130)
        self._left = label("", "quiet")
        self.cancel = button(tr("Cancel"), "quiet", tr("Stop; what is finished is kept"), self._cancel)
        self.open_folder = button(
            tr("Open folder"), "quiet", tr("Show the files that were made"), self._open_made
        )
        self.look = button(
            tr("Look at it"), "quiet", tr("What was made, large, among the results"), self._look_at_made
        )
        for item in (self.cancel, self.look, self.open_folder):
            item.setStyleSheet("min-height: 14px; padding: 0 6px;")
        self.saved = label("", "quiet")
        self.place = label("", "quiet")
        for widget in (self._label, self._bar, self._left, self.cancel, self.look, self.open_folder):
            row.addWidget(widget)
        for widget in (self._bar, self.cancel, self.look, self.open_folder):
            widget.hide()
        row.addStretch(1)
        row.addWidget(self.saved)
        row.addSpacing(10)
        row.addWidget(self.place)

    @property
    def text(self) -> str:
        """What is being done, or nothing."""
        return self._label.text()

    def tell(self, text: str = "", share: float = -1.0, left: str = "") -> None:
        """Say what is being done, how far it is (below 0: not known), and what is left; nothing where nothing
        is done."""
        self._label.setText(spoken(text))
        self._bar.setVisible(share >= 0)
        self._bar.setValue(round(share * 1000))
        self._left.setText(left)

    def tell_share(self, text: str, share: float) -> None:
        """Work that says how far it is and is over at 1."""
        self.tell(text if share < 1 else "", share if share < 1 else -1.0)

    def do(self, what: str, work: Callable[[], Callable[[], object]]) -> None:
        """Do something slow beside the window; what it returns is run in the window afterwards.  UserErrors
        are said."""

        def done(after: Callable[[], object]) -> None:
            self.tell()
            after()

        self.tell(what)
        self._background.run(what, work, done, self.tell)

    def read(self, what: str, work: Callable[[Waiting], Callable[[], object]]) -> None:
        """The same for reading a file in a child, which *Cancel* ends; ``work`` is given what it asks whether
        to go on."""
        unwanted = self._unwanted = threading.Event()
        job_shown = self.cancel.isVisible()
        self.cancel.show()

        def over() -> None:
            if self._unwanted is unwanted:
                self._unwanted = None
                self.cancel.setVisible(job_shown)
            self.tell()

        def done(after: Callable[[], object]) -> None:
            over()
            after()

        self.tell(what)
        self._background.run(what, lambda: work(lambda _: not unwanted.is_set()), done, over)

    def _cancel(self) -> None:
        if self._unwanted is not None:
            self._unwanted.set()
        else:
            self._cancel_job()

    # ------------------------------------------------------------------ a job that makes files

    def tell_job(self, share: float, text: str, left_s: float) -> None:
        """A job goes on: its share, what it makes, and seconds left or -1."""
        self.cancel.show()
        self.look.hide()
        self.open_folder.hide()
        remaining = ""
        if left_s >= 0:
            remaining = (
                tr("{left_s} min left", left_s=math.ceil(left_s / 60))
                if left_s > 90
                else tr("{value} s left", value=max(1, round(left_s)))
            )
        self.tell(JOB_WORDS.get(text, tr("Making {text}", text=text)), share, remaining)

    def end_job(self, good: bool, sentence: str, folder: Path, pictures: bool) -> None:
        """A job ended; what it made lies in a folder.  pictures : it is among the results."""
        self.cancel.hide()
        self._made_in = folder
        self.tell(sentence if good else "")
        self.look.setVisible(good and pictures)
        self.open_folder.setVisible(good)

    def _look_at_made(self) -> None:
        self.look_wanted.emit(self._made_in)

    def _open_made(self) -> None:
        QDesktopServices.openUrl(QUrl.fromLocalFile(str(self._made_in)))
