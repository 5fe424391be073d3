"""How rows are made: quality, the sun of their own, masters, contact strips."""

from __future__ import annotations

from collections.abc import Callable

from altana.app.hand_over.chosen_rows import ChosenRows, show_number
from altana.app.theme.figures import FiguresDialog
from altana.app.theme.own_light import OwnLightFields
from altana.app.theme.plain_text import tip_text
from altana.app.theme.widgets import Group, Segments, button, check_box
from altana.app.theme.words import capital, spoken, tr
from altana.core.edits.shots import change_shots, set_qualities
from altana.core.light.own import own_of
from altana.core.project import FILM, QUALITY_WORDS, STILL, Making, OwnLight, Project, Shot


class MakingGroup:
    """Quality and what goes with it."""

    def __init__(self, chosen: ChosenRows) -> None:
        self._chosen = chosen
        self.group = group = Group(tr("Making"))
        self.quality = Segments(
            [(capital(spoken(word)), tr("How many passes it takes")) for word in QUALITY_WORDS]
        )
        self.quality.chosen.connect(
            lambda index: self._chosen.set(tr("Quality"), quality=QUALITY_WORDS[index])
        )
        group.add_wide(self.quality)
        self.figures = button(
            tr("What the words stand for…"),
            "small",
            tr("Passes and shadows of proof, review and final in this project"),
            self._ask_figures,
        )
        group.add_wide(self.figures)
        self.own = OwnLightFields(self._set_own, chosen.fail)
        self.own.add_to(group)
        self._add_samples(group)
        self.master = check_box(
            tr("Keep the linear master"),
            tr("An EXR beside the delivery: tone is changed without drawing again"),
        )
        self.master.clicked.connect(lambda on: self._chosen.set(tr("Master"), keep_master=on))
        group.add_wide(self.master)
        self.passes = check_box(
            tr("Layers for compositing"),
            tr("Stills: an EXR beside the picture with light, albedo, normal, depth, objects and materials"),
        )
        self.passes.clicked.connect(lambda on: self._chosen.set(tr("Layers"), passes=on))
        group.add_wide(self.passes)
        self.strip = check_box(
            tr("Contact strip, a picture a second"),
            tr("Films: small pictures with their times, beside the film"),
        )
        self.strip.clicked.connect(
            lambda on: self._chosen.set(tr("Contact strip"), strip_every=25 if on else 0)
        )
        group.add_wide(self.strip)

    def _add_samples(self, group: Group) -> None:
        """When a final picture is done."""
        self.samples = self._chosen.number(
            "samples",
            tr("Samples"),
            tr("Of final pictures, a pixel; 0 takes what final stands for"),
            "",
            0,
            16.0,
            0.0,
            65536.0,
        )
        self.samples.nothing = tr("as final")
        group.add_field(tr("Samples"), self.samples)
        self.minutes = self._chosen.number(
            "minutes",
            tr("Minutes"),
            tr("Of final pictures: stop after so long; 0 for no limit"),
            "min",
            1,
            1.0,
            0.0,
            100_000.0,
        )
        self.minutes.nothing = tr("no limit")
        group.add_field(tr("Stop after"), self.minutes)
        self.clean = check_box(
            tr("Until clean"), tr("As many samples as it takes until hardly any grain is left")
        )
        self.clean.clicked.connect(lambda on: self._chosen.set(tr("Until clean"), until_clean=on))
        group.add_wide(self.clean)

    def _set_own(self, change: Callable[[OwnLight], OwnLight]) -> None:
        ids = self._chosen.ids

        def edit(project: Project) -> Project:
            for shot_id in ids:
                shot = project.shot(shot_id)
                if shot is not None:
                    own = change(own_of(shot))
                    values = {"hour": own.hour, "date": own.date, "sky": own.sky, "lamps": own.lamps}
                    project = change_shots(project, [shot_id], **values)
            return project

        self._chosen.apply(tr("Light of rows"), edit)

    def _ask_figures(self) -> None:
        dialog = FiguresDialog(self._chosen.project.qualities, self.group)
        if dialog.exec():
            qualities = dialog.qualities
            self._chosen.bridge.apply(
                tr("Figures of proof, review and final"), lambda project: set_qualities(project, qualities)
            )
        dialog.deleteLater()

    def show(self, shots: list[Shot]) -> None:
        """Follow the chosen rows."""
        first = shots[0]
        for word, item in zip(QUALITY_WORDS, self.quality.buttons(), strict=True):
            making = self._chosen.project.qualities.of(word)
            item.setToolTip(tip_text(_quality_words(making)))
        kinds = {shot.quality for shot in shots}
        self.quality.take(QUALITY_WORDS.index(first.quality) if len(kinds) == 1 else -1)
        self.group.show_figure(spoken(first.quality) if len(kinds) == 1 else tr("differ"))
        self.own.show(own_of(first), self._chosen.project.light)
        show_number(self.samples, [float(shot.samples) for shot in shots])
        show_number(self.minutes, [shot.minutes for shot in shots])
        self.clean.setChecked(all(shot.until_clean for shot in shots))
        for part in (self.samples, self.minutes, self.clean):
            part.setEnabled(all(shot.quality == "final" for shot in shots))
        self.master.setChecked(all(shot.keep_master for shot in shots))
        self.master.setEnabled(all(shot.kind != FILM for shot in shots))
        self.passes.setChecked(all(shot.passes for shot in shots))
        self.passes.setEnabled(all(shot.kind == STILL for shot in shots))
        self.strip.setChecked(all(shot.strip_every > 0 for shot in shots))
        self.strip.setEnabled(all(shot.kind == FILM for shot in shots))


def _quality_words(making: Making) -> str:
    """What a word of quality stands for."""
    still = tr("%n samples", "", making.samples) if making.samples else tr("%n passes", "", making.passes)
    film = (
        tr("%n samples", "", making.film_samples)
        if making.film_samples
        else tr("%n passes", "", making.film_passes)
    )
    return tr("{still} a picture, {film} a film frame", still=still, film=film) + (
        tr(": light is followed to its end") if making.samples or making.film_samples else ""
    )
