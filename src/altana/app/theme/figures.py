"""The dialog for what proof, review and final stand for in a project."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from altana.app.theme.number_field import NumberField
from altana.app.theme.plain_text import tip_text
from altana.app.theme.widgets import button, label
from altana.app.theme.words import capital, spoken, tr
from altana.core.project import QUALITY_WORDS, USUAL_QUALITIES, Making, Qualities

#: Column by column: field, heading, what it does, step, lowest and highest.
COLUMNS = (
    (
        "passes",
        tr("Passes, pictures"),
        tr(
            "Each pass draws the whole picture once more, the sun and the pixels a little elsewhere: smoother"
        ),
        1,
        1,
        256,
    ),
    (
        "film_passes",
        tr("Passes, film frames"),
        tr("The same for a film frame, and for stills made straight from a camera"),
        1,
        1,
        256,
    ),
    (
        "shadow_px",
        tr("Shadow map, px"),
        tr("Side of the map that the sun's shadows are read from: larger gives finer edges"),
        512,
        256,
        8192,
    ),
    (
        "samples",
        tr("Samples, pictures"),
        tr("Light is followed to its end along so many paths a pixel instead of passes; 0 draws in passes"),
        16,
        0,
        4096,
    ),
    ("film_samples", tr("Samples, film frames"), tr("The same for a film frame"), 8, 0, 4096),
    (
        "light_rays",
        tr("Light rays, pictures"),
        tr(
            "Of stills and panoramas drawn in passes: so many rays look for the light of each place that is seen, as for the Frame at rest; 0 takes the light of the whole model, which is there at once"
        ),
        16,
        0,
        1024,
    ),
)


class FiguresDialog(QDialog):
    """``qualities`` are what was set when it was accepted."""

    def __init__(self, now: Qualities, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("What proof, review and final stand for"))
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 16, 18, 14)
        column.setSpacing(10)
        explanation = label(
            tr("In this project, for all rows, films and stills. Twice the passes take twice as long."),
            "quiet",
        )
        explanation.setWordWrap(True)
        column.addWidget(explanation)
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(6)
        self.fields: dict[tuple[str, str], NumberField] = {}
        for place, (_, heading, tip, *_) in enumerate(COLUMNS, 1):
            named = label(heading, "quiet")
            named.setToolTip(tip_text(tip))
            grid.addWidget(named, 0, place, Qt.AlignmentFlag.AlignRight)
        for row, word in enumerate(QUALITY_WORDS, 1):
            grid.addWidget(label(capital(spoken(word))), row, 0)
            for place, (name, heading, tip, step, low, high) in enumerate(COLUMNS, 1):
                field = NumberField(f"{capital(spoken(word))}: {heading}", tip, "", 0, step, low, high)
                self.fields[word, name] = field
                grid.addWidget(field, row, place)
        column.addLayout(grid)
        foot = QHBoxLayout()
        foot.addWidget(
            button(
                tr("The usual figures"),
                "small",
                tr("As they come with Altana"),
                lambda: self.show_figures(USUAL_QUALITIES),
            )
        )
        foot.addStretch(1)
        foot.addWidget(button(tr("Cancel"), "", tr("Change nothing (Escape)"), self.reject))
        keep = button(tr("Use these"), "primary", tr("For everything that is made from now on"), self.accept)
        keep.setDefault(True)
        foot.addWidget(keep)
        column.addLayout(foot)
        self.show_figures(now)

    def show_figures(self, qualities: Qualities) -> None:
        """Show the figures of all words."""
        for (word, name), field in self.fields.items():
            field.setModified(False)
            field.show_value(float(getattr(qualities.of(word), name)))

    @property
    def qualities(self) -> Qualities:
        """What the fields say now."""
        qualities = {
            word: Making(**{name: round(self.fields[word, name].value) for name, *_ in COLUMNS})
            for word in QUALITY_WORDS
        }
        return Qualities(**qualities)
