"""When: date and clock time, dragged through the day and the year, and the sky."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import date, timedelta

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLineEdit, QSlider

from altana.app.theme.plain_text import tip_text
from altana.app.theme.value_field import ValueField
from altana.app.theme.widgets import Group, Segments, Slider, label, menu_button
from altana.app.theme.words import capital, spoken, tr
from altana.app.workspace.workspace import Workspace
from altana.core.edits.light import set_light
from altana.core.errors import Refused
from altana.core.light.clock import day_of, hour_words, parse_hour
from altana.core.light.shade import TURNING_DAYS, day_hours
from altana.core.light.sun import illuminance, sun_azimuth
from altana.core.project import SKIES, Light

STEP_MIN = 5
DAYS = 365
TURNS = (tr("Spring begins"), tr("Longest day"), tr("Autumn begins"), tr("Shortest day"))


class MomentGroup:
    """Two sliders with their fields, and the sky.  A drag is one undo step, and is seen at once in the
    Frame."""

    def __init__(self, workspace: Workspace) -> None:
        self._bridge = workspace.bridge
        self.group = group = Group(tr("Date, time and sky"))
        self.time = self._field(tr("Time"), tr("Clock time, such as 17:30"), self._time_typed)
        group.add_field(tr("Time"), self.time)
        self.hours = self._slider(
            tr("Time of day"), 24 * 60 // STEP_MIN, self._hour_dragged, tr("Time of day")
        )
        group.add_wide(self.hours)
        self.date = self._field(tr("Date"), tr("Such as 2026-06-21"), self._date_typed)
        group.add_field(tr("Date"), self.date)
        self.days = self._slider(tr("Day of the year"), DAYS - 1, self._day_dragged, tr("Date"))
        group.add_wide(self.days)
        self.turns = menu_button(
            tr("Turning days ▾"), tr("The four days on which the year turns"), self._fill_turns
        )
        group.add_wide(self.turns)
        tips = (tr("Clear sky with sun"), tr("Hazy: a weak sun, a bright sky"), tr("Overcast: no sun"))
        self.sky = Segments([(capital(spoken(name)), tip) for name, tip in zip(SKIES, tips, strict=True)])
        self.sky.chosen.connect(self._choose_sky)
        group.add_wide(self.sky)
        self.facts = label("", "quiet")
        self.facts.setWordWrap(True)
        group.add_wide(self.facts)

    def _field(self, name: str, tip: str, typed: Callable[[], None]) -> QLineEdit:
        field = ValueField()
        field.setAccessibleName(name)
        field.setToolTip(tip_text(tip))
        field.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        field.editingFinished.connect(typed)
        return field

    def _slider(self, name: str, last: int, dragged: Callable[[int], None], undo: str) -> QSlider:
        slider = Slider()
        slider.setAccessibleName(name)
        slider.setToolTip(tip_text(tr("{name}; drag, or left and right keys", name=name)))
        slider.setRange(0, last)
        slider.setPageStep(12)
        slider.sliderPressed.connect(self._bridge.begin)
        slider.valueChanged.connect(dragged)
        slider.sliderReleased.connect(lambda: self._bridge.commit(undo))
        return slider

    def _change(self, undo: str, **values: object) -> None:
        if self._bridge.in_gesture:
            self._bridge.preview(lambda project: set_light(project, **values))
        else:
            self._bridge.apply(undo, lambda project: set_light(project, **values))

    def _hour_dragged(self, step: int) -> None:
        self._change(tr("Time of day"), hour=min(24.0, step * STEP_MIN / 60.0))

    def _day_dragged(self, number: int) -> None:
        year = day_of(self._bridge.project.light.date).year
        self._change(tr("Date"), date=(date(year, 1, 1) + timedelta(days=number)).isoformat())

    def _time_typed(self) -> None:
        if not self.time.isModified():
            return
        self.time.setModified(False)
        try:
            self._change(tr("Time of day"), hour=parse_hour(self.time.text()))
        except Refused as error:
            self._bridge.notices.trouble(error.sentence)
            self.show_light(self._bridge.project.light)

    def _date_typed(self) -> None:
        if self.date.isModified():
            self.date.setModified(False)
            self._change(tr("Date"), date=self.date.text().strip())
            self.show_light(self._bridge.project.light)

    def _fill_turns(self, menu) -> None:  # type: ignore[no-untyped-def]
        year = self._bridge.project.light.date[:4]
        for words, day in zip(TURNS, TURNING_DAYS, strict=True):
            menu.addAction(f"{words}, {day}", lambda day=day: self._change(tr("Date"), date=f"{year}-{day}"))

    def _choose_sky(self, index: int) -> None:
        self._change(tr("Sky"), sky=SKIES[index])

    def show_light(self, light: Light) -> None:
        """Follow the project."""
        for field, text in ((self.time, hour_words(light.hour)), (self.date, light.date)):
            if not field.isModified():
                field.setText(text)
        day = day_of(light.date)
        for slider, value in (
            (self.hours, round(light.hour * 60 / STEP_MIN)),
            (self.days, min(DAYS - 1, (day - date(day.year, 1, 1)).days)),
        ):
            slider.blockSignals(True)
            slider.setValue(value)
            slider.blockSignals(False)
        self.sky.take(SKIES.index(light.sky))
        azimuth, elevation = sun_azimuth(light)
        up = day_hours(replace(light, hour=12.0))[0]
        day_words = (
            tr("The sun is up from {begin} to {end}.", begin=hour_words(up[0]), end=hour_words(up[-1]))
            if len(up)
            else tr("The sun does not rise on this day.")
        )
        lux = sum(illuminance(light))
        height = (
            tr("{elevation:.1f}° high", elevation=elevation)
            if elevation > 0
            else tr("{elevation:.1f}° below the horizon", elevation=-elevation)
        )
        brightness = f"{lux:,.0f}".replace(",", " ")
        self.facts.setText(
            tr(
                "Sun at {azimuth:.1f}°, {height}; {brightness} lux. {day_words}",
                azimuth=azimuth,
                height=height,
                brightness=brightness,
                day_words=day_words,
            )
        )
        self.group.show_figure(f"{hour_words(light.hour)} · {spoken(light.sky)}")
