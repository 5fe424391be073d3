"""A stand-in phone below a panorama: its turning sensor as sliders, or as a recorded motion; and what a host
says."""

from __future__ import annotations

import time
from pathlib import Path

import numpy as np
from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QSlider, QVBoxLayout

from altana.app.canvas.look_round import LookRound
from altana.app.theme.plain_text import tip_text
from altana.app.theme.widgets import OneLine, Slider, button, label
from altana.app.theme.words import spoken, tr
from altana.core.errors import UserError
from altana.jobs.panoramas import host_says, mend_in_place, mendable, recorded_motion, seen_by_phone


class PhonePanel(QFrame):
    """Turns a LookRound as a phone would turn a page."""

    #: The file was given other tags.
    mended = Signal()

    def __init__(self, view: LookRound) -> None:
        super().__init__()
        self._view = view
        self._path: Path | None = None
        self.setObjectName("chrome")
        self.setFixedHeight(64)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 4, 12, 4)
        column.setSpacing(2)
        self.verdict = OneLine("quiet")
        top = QHBoxLayout()
        top.addWidget(self.verdict, 1)
        tip = tr("Write into the file what makes a host take it as a panorama; its picture is not touched")
        self.mend = button(tr("Mend tags"), "small", tip, self._mend)
        self.mend.hide()
        top.addWidget(self.mend)
        column.addLayout(top)
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(label(tr("Phone"), "quiet"))
        self.alpha = self._slider(
            tr("Turned"), tr("How far the phone is turned about the vertical"), 0, 359, 0
        )
        self.beta = self._slider(
            tr("Tipped"), tr("How far the phone is tipped: upright in the middle"), 1, 179, 90
        )
        for name, part in (("turned", self.alpha), ("tipped", self.beta)):
            row.addWidget(label(name, "quiet"))
            row.addWidget(part, 1)
        self.motion = button(
            tr("Play a motion"),
            "small",
            tr("A recorded turning of a phone: once round, with a look up and a look down"),
            self._toggle,
        )
        row.addWidget(self.motion)
        column.addLayout(row)
        self._motion = recorded_motion()
        self._since = 0.0
        self._clock = QTimer(self)
        self._clock.setInterval(33)
        self._clock.timeout.connect(self._tick)

    def _slider(self, name: str, tip: str, low: int, high: int, value: int) -> QSlider:
        slider = Slider()
        slider.setRange(low, high)
        slider.setValue(value)
        slider.setAccessibleName(tr("Phone {name}", name=name.lower()))
        slider.setToolTip(tip_text(tip))
        slider.valueChanged.connect(self._turned)
        return slider

    def show_file(self, path: Path) -> None:
        """What the stand-in host says of a file."""
        self._stop()
        self._path = path
        self.mend.hide()
        try:
            verdict = host_says(path)
            self.mend.setVisible(mendable(path))
        except UserError as error:
            self.verdict.setText(f"! {spoken(error.sentence)}")
            return
        self.verdict.setToolTip("\n".join(verdict.reasons))
        self.verdict.setText(
            f"✓ {verdict.reasons[0]}"
            if verdict.taken
            else tr("! A host would not take it as a panorama: {reasons}", reasons=spoken(verdict.reasons[0]))
        )

    def _mend(self) -> None:
        if self._path is None:
            return
        try:
            mend_in_place(self._path)
        except UserError as error:
            self.verdict.tell(f"! {spoken(error.sentence)}")
            return
        self.show_file(self._path)
        self.mended.emit()

    def _turned(self) -> None:
        heading, tilt = seen_by_phone(float(self.alpha.value()), float(self.beta.value()))
        self._view.turn(heading, tilt)

    def _toggle(self) -> None:
        if self._clock.isActive():
            self._stop()
        else:
            self._since = time.monotonic()
            self.motion.setText(tr("Stop"))
            self._clock.start()

    def _stop(self) -> None:
        self._clock.stop()
        self.motion.setText(tr("Play a motion"))

    def _tick(self) -> None:
        now = time.monotonic() - self._since
        if now >= self._motion[-1, 0]:
            self._stop()
            return
        row = int(np.searchsorted(self._motion[:, 0], now))
        heading, tilt = seen_by_phone(*self._motion[row, 1:].tolist())
        self._view.turn(heading, tilt)

    def hideEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        """Out of sight it stops."""
        self._stop()
        super().hideEvent(event)
