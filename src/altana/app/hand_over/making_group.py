"""How rows are made: quality, the sun of their own, masters, contact strips."""

from __future__ import annotations

from altana.app.hand_over.chosen_rows import ChosenRows
from altana.app.theme.figures import FiguresDialog
from altana.app.theme.widgets import Group, NumberField, Segments, button, check_box, relabel
from altana.core.edits.shots import set_qualities
from altana.core.project import FILM, QUALITY_WORDS, STILL, Shot


class MakingGroup:
    """Quality and what goes with it."""

    def __init__(self, chosen: ChosenRows) -> None:
        self._chosen = chosen
        self.group = group = Group("Making")
        self.quality = Segments([(word.capitalize(), "How many passes it takes") for word in QUALITY_WORDS])
        self.quality.chosen.connect(lambda index: self._chosen.set("Quality", quality=QUALITY_WORDS[index]))
        group.add_wide(self.quality)
        self.figures = button(
            "What the words stand for…",
            "small",
            "Passes and shadows of proof, review and final in this project",
            self._ask_figures,
        )
        group.add_wide(self.figures)
        self.hour_on = button("off", "small", "A sun of this row's own", self._switch_hour, checkable=True)
        self.hour_on.setFixedWidth(38)
        self.hour = NumberField(
            "Time of day", "Local hour of the sun, for these rows alone", "h", 2, 0.25, 0.0, 24.0
        )
        self.hour.changed.connect(lambda value: self._chosen.set("Time of day", hour=value))
        group.add_pair("Time of day", self.hour_on, self.hour)
        self.master = check_box(
            "Keep the linear master", "An EXR beside the delivery: tone is changed without drawing again"
        )
        self.master.clicked.connect(lambda on: self._chosen.set("Master", keep_master=on))
        group.add_wide(self.master)
        self.strip = check_box(
            "Contact strip, a picture a second", "Films: small pictures with their times, beside the film"
        )
        self.strip.clicked.connect(lambda on: self._chosen.set("Contact strip", strip_every=25 if on else 0))
        group.add_wide(self.strip)

    def _switch_hour(self) -> None:
        self._chosen.set(
            "Time of day", hour=self._chosen.project.light.hour if self.hour_on.isChecked() else None
        )

    def _ask_figures(self) -> None:
        dialog = FiguresDialog(self._chosen.project.qualities, self.group)
        if dialog.exec():
            made = dialog.qualities
            self._chosen.bridge.apply(
                "Figures of proof, review and final", lambda project: set_qualities(project, made)
            )

    def show(self, shots: list[Shot]) -> None:
        """Follow the chosen rows."""
        first = shots[0]
        for word, item in zip(QUALITY_WORDS, self.quality.buttons(), strict=True):
            making = self._chosen.project.qualities.of(word)
            item.setToolTip(f"{making.passes} passes a picture, {making.film_passes} a film frame")
        kinds = {shot.quality for shot in shots}
        self.quality.take(QUALITY_WORDS.index(first.quality) if len(kinds) == 1 else -1)
        self.group.show_figure(first.quality if len(kinds) == 1 else "differ")
        self.hour_on.setChecked(first.hour is not None)
        relabel(self.hour_on, "on" if first.hour is not None else "off")
        self.hour.setEnabled(first.hour is not None)
        self.hour.show_value(self._chosen.project.light.hour if first.hour is None else first.hour)
        self.master.setChecked(all(shot.keep_master for shot in shots))
        self.master.setEnabled(all(shot.kind == STILL for shot in shots))
        self.strip.setChecked(all(shot.strip_every > 0 for shot in shots))
        self.strip.setEnabled(all(shot.kind == FILM for shot in shots))
