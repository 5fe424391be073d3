"""A date, a time, a sky and lamps of a camera's or a row's own, where they do not follow the project's
light."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QLineEdit

from altana.app.theme.plain_text import tip_text
from altana.app.theme.value_field import ValueField
from altana.app.theme.widgets import ChoiceBox, Group
from altana.app.theme.words import spoken, tr
from altana.core.errors import Refused
from altana.core.light.clock import hour_words, parse_hour
from altana.core.light.own import checked_own
from altana.core.project import FOLLOWS, SKIES, Light, OwnLight

LAMPS = (tr("as the project"), tr("on"), tr("off"))
SKY_WORDS = (tr("as the project"), *(spoken(sky) for sky in SKIES))


class OwnLightFields:
    """Four fields; what is left empty follows the project.  change(own) is called with what was chosen,
    say(sentence) with what is wrong."""

    def __init__(
        self, change: Callable[[Callable[[OwnLight], OwnLight]], object], say: Callable[[str], None]
    ) -> None:
        self._change, self._say = change, say
        self._own = FOLLOWS
        self.time = self._field(
            tr("Own time"), tr("Clock time of its own, such as 17:30; empty follows the project")
        )
        self.date = self._field(
            tr("Own date"), tr("A date of its own, such as 2026-12-21; empty follows the project")
        )
        self.time.editingFinished.connect(self._time_typed)
        self.date.editingFinished.connect(self._date_typed)
        self.sky = self._choice(tr("Own sky"), tr("A sky of its own"), SKY_WORDS)
        self.sky.activated.connect(
            lambda index: self._set(lambda own: replace(own, sky="" if index == 0 else SKIES[index - 1]))
        )
        self.lamps = self._choice(tr("Own lamps"), tr("Lamps on or off for this alone"), LAMPS)
        self.lamps.activated.connect(
            lambda index: self._set(lambda own: replace(own, lamps=(None, True, False)[index]))
        )

    def add_to(self, group: Group) -> None:
        """Lay the fields into a group."""
        group.add_field(tr("Time"), self.time)
        group.add_field(tr("Date"), self.date)
        group.add_field(tr("Sky"), self.sky)
        group.add_field(tr("Lamps"), self.lamps)

    def _field(self, name: str, tip: str) -> QLineEdit:
        field = ValueField()
        field.setAccessibleName(name)
        field.setToolTip(tip_text(tip))
        field.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        return field

    def _choice(self, name: str, tip: str, words: tuple[str, ...]) -> QComboBox:
        box = ChoiceBox()
        box.setAccessibleName(name)
        box.setToolTip(tip_text(tip))
        box.addItems(list(words))
        return box

    def _set(self, change: Callable[[OwnLight], OwnLight]) -> None:
        try:
            checked_own(change(self._own), tr("Here"))
        except Refused as error:
            self._say(spoken(error.sentence))
            return
        self._change(change)

    def _time_typed(self) -> None:
        if not self.time.isModified():
            return
        self.time.setModified(False)
        text = self.time.text().strip()
        try:
            hour = parse_hour(text) if text else None
        except Refused as error:
            self._say(spoken(error.sentence))
            return
        self._set(lambda own: replace(own, hour=hour))

    def _date_typed(self) -> None:
        if self.date.isModified():
            self.date.setModified(False)
            text = self.date.text().strip()
            self._set(lambda own: replace(own, date=text))

    def show(self, own: OwnLight, light: Light) -> None:
        """Follow what is chosen; what follows the project shows the project's, faintly."""
        self._own = own
        for field, text, project in (
            (self.time, "" if own.hour is None else hour_words(own.hour), hour_words(light.hour)),
            (self.date, own.date, light.date),
        ):
            if not field.isModified():
                field.setText(text)
                field.setPlaceholderText(project)
        self.sky.setCurrentIndex(0 if not own.sky else 1 + SKIES.index(own.sky))
        self.lamps.setCurrentIndex({None: 0, True: 1, False: 2}[own.lamps])


def own_words(own: OwnLight) -> str:
    """What is its own, in a few words; empty where it follows the project."""
    parts = [own.date, "" if own.hour is None else hour_words(own.hour), own.sky]
    if own.lamps is not None:
        parts.append(tr("lamps on") if own.lamps else tr("lamps off"))
    return " ".join(part for part in parts if part)
