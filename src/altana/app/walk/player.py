"""The bar that plays a walk at its real rate, and scrubs."""

from __future__ import annotations

import time

from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout

from altana.app.theme.widgets import Slider, button, label
from altana.app.theme.words import tr
from altana.app.walk.timeline import Timeline
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import parse_rate
from altana.core.project import Walk
from altana.core.walk.sample import WalkLine

PLAY_MS = 10


class PlayBar(QFrame):
    """Moves the moment of the view state.  ``started`` and ``stopped`` tell of playing."""

    started = Signal()
    stopped = Signal()

    def __init__(self, workspace: Workspace, timeline: Timeline) -> None:
        super().__init__()
        self._state, self._timeline = workspace.state, timeline
        self.line: WalkLine | None = None
        self._playing_since = 0.0
        #: The walk that was played last.
        self.played: Walk | None = None
        self._clock = QTimer(self)
        self._clock.setInterval(PLAY_MS)
        self._clock.timeout.connect(self._tick)
        self._build()

    def show_line(self, line: WalkLine | None) -> None:
        """The walk as it is now."""
        self.line = line
        self.play.setEnabled(line is not None)
        self.slider.setEnabled(line is not None)
        walk = self._state.walk
        if walk is not None:
            self.slider.blockSignals(True)
            self.slider.setRange(0, max(1, round(walk.seconds * 100)))
            self.slider.blockSignals(False)

    def show_moment(self, seconds: float, number: int) -> None:
        """The moment, and the number of its film frame."""
        walk = self._state.walk
        self.slider.blockSignals(True)
        self.slider.setValue(round(seconds * 100))
        self.slider.blockSignals(False)
        self._moment.setText(
            tr("{now:.2f} s of {whole:g} s · frame {number}", now=seconds, whole=walk.seconds, number=number)
            if walk is not None
            else ""
        )

    def halt(self) -> None:
        """Stop without a word: nobody looks any more."""
        self._clock.stop()
        self.play.setText(tr("Play"))

    def _build(self) -> None:
        self.setObjectName("chrome")
        self.setFixedHeight(46)
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 4, 14, 4)
        row.setSpacing(10)
        self.play = button(tr("Play"), "", tr("Play or stop, at the real rate (Space)"), self.toggle_play)
        self.play.setFixedWidth(66)
        self.slider = Slider()
        self.slider.setAccessibleName(tr("Moment"))
        self.slider.setToolTip(tr("The moment shown; drag to scrub"))
        self.slider.valueChanged.connect(self._scrubbed)
        self._moment = label("0.00 s")
        self._moment.setMinimumWidth(168)
        self.loop = button(
            tr("Loop"),
            "small",
            tr("Begin anew at the end; with several places chosen, between the first and the last of them"),
            checkable=True,
        )
        row.addWidget(self.play)
        row.addWidget(self.loop)
        row.addWidget(self.slider, 1)
        row.addWidget(self._moment)

    @property
    def playing(self) -> bool:
        """Whether the walk is played."""
        return self._clock.isActive()

    def stop(self) -> None:
        """Stop playing."""
        if self._clock.isActive():
            self._clock.stop()
            self.stopped.emit()
        self.play.setText(tr("Play"))

    def _scrubbed(self, value: int) -> None:
        self.stop()
        self._state.set_moment(value / 100.0)

    def _part_played(self) -> tuple[float, float]:
        """From when to when is played: the whole walk, or looping between the chosen places."""
        assert self.line is not None
        whole = self.line.walk.seconds
        if self.loop.isChecked() and len(self._timeline.keys) >= 2:
            seconds = self.line.timing.key_s
            return float(seconds[min(self._timeline.keys)]), min(
                whole, float(seconds[max(self._timeline.keys)])
            )
        return 0.0, whole

    def toggle_play(self) -> None:
        """Play from here, or stop."""
        walk = self._state.walk
        if self._clock.isActive():
            self.stop()
            # What rests is drawn sharp.
            self._state.set_moment(self._state.moment)
            return
        if walk is None or self.line is None:
            return
        begin, end = self._part_played()
        start = self._state.moment if begin <= self._state.moment < end - 0.05 else begin
        self._playing_since = time.monotonic() - start
        self.played = walk
        self.started.emit()
        self.play.setText(tr("Stop"))
        self._clock.start()

    def _tick(self) -> None:
        """Time goes on as it does; pictures that come late are left out."""
        walk = self._state.walk
        if walk is None or self.line is None:
            self.stop()
            return
        begin, end = self._part_played()
        seconds = time.monotonic() - self._playing_since
        if seconds >= end and self.loop.isChecked():
            # What went beyond the end belongs to the next round: time is not lost.
            seconds = begin + (seconds - begin) % max(end - begin, 1e-3)
            self._playing_since = time.monotonic() - seconds
        elif seconds >= end:
            seconds = end
            self.stop()
        rate = float(parse_rate(walk.rate))
        if (
            self.playing
            and int(seconds * rate + 1e-6) == int(self._state.moment * rate + 1e-6)
            and seconds > self._state.moment
        ):
            return
        self._state.set_moment(seconds)
