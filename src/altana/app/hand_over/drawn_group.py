"""How rows are drawn: materials, card, lines or pencil, with what behind and below."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QWidget

from altana.app.hand_over.chosen_rows import ChosenRows, choice
from altana.app.theme.colour_field import ColourField
from altana.app.theme.widgets import Group, button
from altana.app.theme.words import spoken, tr
from altana.core.errors import UserError
from altana.core.project import (
    BACKGROUNDS,
    GROUNDS,
    LINES,
    MATERIALS,
    PANORAMA,
    PENCIL,
    PICTURE,
    PLAIN,
    RENDITIONS,
    SKY,
    TRANSPARENT,
    WHITE_CARD,
    Shot,
)
from altana.storage.project_file import take_in


class DrawnGroup:
    """Drawn as, background, ground."""

    def __init__(self, chosen: ChosenRows) -> None:
        self._chosen = chosen
        self.group = group = Group(tr("Drawn as"))
        self.rendition = choice(
            tr("Drawn as"),
            tr("Materials, white card, lines or pencil"),
            RENDITIONS,
            lambda v: self._chosen.set(tr("Drawn as"), rendition=v),
        )
        group.add_wide(self.rendition)
        self.background = choice(
            tr("Background"),
            tr("What stands behind the building"),
            BACKGROUNDS,
            lambda v: self._chosen.set(tr("Background"), background=SKY if v == "paper" else v),
        )
        self._background_label = group.add_field(tr("Background"), self.background)
        self.colour = ColourField(tr("Background colour"), tr("Colour of a plain background"))
        self.colour.changed.connect(
            lambda value: self._chosen.set(tr("Background colour"), background_colour=value)
        )
        self._colour_label = group.add_pair(tr("Colour"), self.colour)
        self.picture = button(
            tr("Choose a picture…"),
            "small",
            tr("It is copied into the project's folder; its middle lies on the horizon"),
            self._choose_picture,
        )
        group.add_wide(self.picture)
        self.ground = choice(
            tr("Ground"),
            tr("What lies below the horizon where the model ends"),
            GROUNDS,
            lambda v: self._chosen.set(tr("Ground"), ground=v),
        )
        self._its_ground = group.add_field(tr("Ground"), self.ground)
        self.ground_colour = ColourField(tr("Ground colour"), tr("Colour of a plain ground"))
        self.ground_colour.changed.connect(
            lambda value: self._chosen.set(tr("Ground colour"), ground_colour=value)
        )
        self._ground_label = group.add_pair(tr("Colour"), self.ground_colour)

    def _choose_picture(self) -> None:
        path, _ = QFileDialog.getOpenFileName(
            self.group,
            tr("Background picture"),
            str(self._chosen.project_path.parent),
            tr("Pictures (*.png *.jpg *.jpeg *.tif *.tiff *.webp *.hdr *.exr)"),
        )
        if path:
            self.use_picture(Path(path))

    def use_picture(self, path: Path) -> None:
        """Put a picture behind the chosen rows; one from elsewhere is copied beside the project."""
        try:
            name = take_in(path, [], self._chosen.project_path, "backgrounds")
        except UserError as error:
            self._chosen.fail(error.sentence)
            return
        self._chosen.set(tr("Background picture"), background=PICTURE, background_file=name)

    def show(self, shots: list[Shot]) -> None:
        """Follow the chosen rows."""
        first = shots[0]
        self.group.show_figure(tr("%n rows", "", len(shots)) if len(shots) > 1 else "")
        self.rendition.setCurrentIndex(
            RENDITIONS.index(first.rendition) if len({shot.rendition for shot in shots}) == 1 else -1
        )
        drawn = {shot.rendition for shot in shots} <= {LINES, PENCIL}
        names = ["paper", TRANSPARENT] if drawn else list(BACKGROUNDS)
        if names != [self.background.itemData(index) for index in range(self.background.count())]:
            self.background.clear()
            for name in names:
                self.background.addItem(spoken(name), name)
        stands = {"paper" if drawn and shot.background != TRANSPARENT else shot.background for shot in shots}
        self.background.setCurrentIndex(names.index(stands.pop()) if len(stands) == 1 else -1)
        self.colour.show_value(first.background_colour, len({shot.background_colour for shot in shots}) == 1)
        self.ground.setCurrentIndex(
            self.ground.findData(first.ground) if len({shot.ground for shot in shots}) == 1 else -1
        )
        self.ground_colour.show_value(first.ground_colour, len({shot.ground_colour for shot in shots}) == 1)
        backgrounds = {shot.background for shot in shots}
        # A panorama has the sky all round; a drawing has its paper, or none where it is transparent.
        behind = {shot.kind for shot in shots} != {PANORAMA}
        apart = behind and bool({shot.rendition for shot in shots} & {MATERIALS, WHITE_CARD})
        shown: tuple[tuple[bool, tuple[QWidget, ...]], ...] = (
            (behind, (self._background_label, self.background)),
            (apart and PLAIN in backgrounds, (self._colour_label, self.colour)),
            (apart and PICTURE in backgrounds, (self.picture,)),
            (apart, (self._its_ground, self.ground)),
            (apart and PLAIN in {shot.ground for shot in shots}, (self._ground_label, self.ground_colour)),
        )
        for on, parts in shown:
            for part in parts:
                part.setVisible(on)
        self.picture.setText(
            Path(first.background_file).name if first.background_file else tr("Choose a picture…")
        )
