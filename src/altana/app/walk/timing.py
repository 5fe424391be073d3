"""How long the walk lasts, its pace, its rate, and how it sets off and comes to rest."""

from __future__ import annotations

from PySide6.QtWidgets import QInputDialog

from altana.app.theme.lengths import length
from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import ChoiceBox, Group, label
from altana.app.theme.words import tr
from altana.app.walk.edits import WalkEdits
from altana.app.walk.timeline import Timeline
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import COMMON_RATES, frame_count, parse_rate, rate_words
from altana.core.errors import Refused
from altana.core.project import Walk
from altana.core.walk.timing import seconds_for_pace

#: The last entry of the rates: one that is typed.
OTHER = tr("Another rate…")


class TimingGroup:
    """The length is what is held: another rate, other eases or another route leave it as it is."""

    def __init__(self, workspace: Workspace, edits: WalkEdits, timeline: Timeline) -> None:
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio
        self._edits, self._timeline = edits, timeline
        self.group = timing = Group(tr("Timing"))
        self.seconds = NumberField(
            tr("Length"), tr("Length of the film in seconds; the pace follows"), "s", 1, 0.5, 0.1, 3600.0
        )
        self.seconds.changed.connect(lambda value: self._edits.set(tr("Walk length"), seconds=value))
        timing.add_field(tr("Length"), self.seconds)
        self.pace = NumberField(
            tr("Pace"),
            tr("Metres a second between eases and pauses; the length follows"),
            "m/s",
            2,
            0.05,
            0.02,
            50.0,
        )
        self.pace.changed.connect(self._set_pace)
        timing.add_field(tr("Pace"), self.pace)
        self.rate = ChoiceBox()
        self.rate.setAccessibleName(tr("Film frames a second"))
        self.rate.setToolTip(tr("Film frames a second; changing it keeps the seconds"))
        for rate in COMMON_RATES:
            self.rate.addItem(rate_words(rate), rate)
        self.rate.addItem(OTHER)
        self.rate.activated.connect(self._set_rate)
        timing.add_field(tr("Rate"), self.rate)
        self.frames = NumberField(
            tr("Film frames"),
            tr("How many film frames at this rate; the length follows"),
            "",
            0,
            1.0,
            1.0,
            400_000.0,
        )
        self.frames.changed.connect(self._set_frames)
        timing.add_field(tr("Film frames"), self.frames)
        self.ease_in = NumberField(tr("Ease in"), tr("Setting off takes so long"), "s", 1, 0.1, 0.0, 60.0)
        self.ease_out = NumberField(
            tr("Ease out"), tr("Coming to rest takes so long"), "s", 1, 0.1, 0.0, 60.0
        )
        self.ease_in.changed.connect(lambda value: self._edits.set(tr("Ease in"), ease_in_s=value))
        self.ease_out.changed.connect(lambda value: self._edits.set(tr("Ease out"), ease_out_s=value))
        timing.add_pair(tr("Ease in, out"), self.ease_in, self.ease_out)
        self.facts = label("", "quiet")
        self.facts.setWordWrap(True)
        timing.add_wide(self.facts)

    def _set_rate(self) -> None:
        walk, rate = self._state.walk, self.rate.currentData()
        if walk is None:
            return
        if rate is None:
            typed, accepted = QInputDialog.getText(
                self.rate, tr("Rate"), tr("Film frames a second, such as 20 or 24000/1001"), text=walk.rate
            )
            try:
                rate = str(parse_rate(typed.strip())) if accepted else walk.rate
            except Refused as error:
                self._bridge.notices.trouble(error.sentence)
                rate = walk.rate
        self._edits.set(tr("Walk rate"), rate=str(rate))
        self.show_walk(self._state.walk or walk)

    def _set_pace(self, pace: float) -> None:
        walk, line = self._state.walk, self._edits.line
        if walk is not None and line is not None:
            self._edits.set(
                tr("Walk pace"), seconds=round(seconds_for_pace(walk, line.route.length_m, pace), 3)
            )

    def _set_frames(self, frames: float) -> None:
        walk = self._state.walk
        if walk is not None:
            self._edits.set(tr("Film frames"), seconds=float(round(frames) / parse_rate(walk.rate)))

    def show_walk(self, walk: Walk) -> None:
        """Follow the chosen walk."""
        turning, line = walk.turntable is not None, self._edits.line
        self.pace.show_value(line.pace_m_s if line is not None else 0.0)
        self.pace.setEnabled(not turning)
        self.ease_in.show_value(walk.ease_in_s)
        self.ease_out.show_value(walk.ease_out_s)
        for part in (self.ease_in, self.ease_out):
            part.setEnabled(not turning)
        self.seconds.show_value(walk.seconds)
        if self.rate.findData(walk.rate) < 0:
            self.rate.insertItem(self.rate.count() - 1, rate_words(walk.rate), walk.rate)
        self.rate.setCurrentIndex(self.rate.findData(walk.rate))
        count = frame_count(walk.seconds, parse_rate(walk.rate))
        self.frames.show_value(count)
        self.group.show_figure(tr("{seconds:.6g} s, held", seconds=walk.seconds))
        if walk.turntable is not None:
            step = abs(walk.turntable.sweep_deg) / count
            self.facts.setText(
                tr(
                    "{count} film frames, {step:.2f}° each; the last is one step before the first.",
                    count=count,
                    step=step,
                )
            )
        elif line is not None:
            self.facts.setText(
                tr(
                    "The route is {length_m}, walked at {pace_m_s:.2f} m/s.",
                    length_m=length(line.route.length_m, 1),
                    pace_m_s=line.pace_m_s,
                )
            )
