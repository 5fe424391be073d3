"""The sheet that asks what stills or which film to make, and where."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QCheckBox, QComboBox, QDialog, QFileDialog, QGridLayout, QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from altana.app.theme.widgets import NumberField, Segments, button, label
from altana.app.work import Order
from altana.core.conventions import parse_rate
from altana.core.project import Walk
from altana.jobs.requests import Part
from altana.render.encode import CONTAINERS

QUALITY = (
    ("Proof", "proof", "One pass: quick, edges softened"),
    ("Review", "review", "Eight passes: smooth edges, soft shadows"),
    ("Final", "final", "Thirty-two passes"),
)


class ExportSheet(QDialog):
    """Asks for quality, size, kind and folder, and for the part of a walk; ``order()`` says what was chosen."""

    def __init__(self, parent: QWidget, title: str, what: str, folder: Path, size: str, walk: Walk | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setMinimumWidth(460)
        film = walk is not None
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 18)
        column.setSpacing(12)
        column.addWidget(label(title, "title"))
        told = label(what, "quiet")
        told.setWordWrap(True)
        column.addWidget(told)
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(9)
        self.quality = Segments([(name, tip) for name, _, tip in QUALITY])
        self.quality.take(1)
        self._quality = 1
        self.quality.chosen.connect(self._take_quality)
        self.size_choice = QComboBox()
        self.size_choice.setEditable(False)
        self.size_choice.setAccessibleName("Size")
        self.size_choice.setToolTip("Largest width and height; every camera keeps its proportion")
        self.size_choice.addItems([f"As set ({size})", "Half", "Quarter"])
        self.kind = QComboBox()
        self.kind.setAccessibleName("Kind")
        self.kind.addItems([item.words for item in CONTAINERS.values()] if film else ["PNG", "JPEG"])
        self.folder = QLineEdit(str(folder))
        self.folder.setAccessibleName("Folder")
        self.folder.setToolTip("Where the files go")
        browse = button("Choose…", "", "Choose another folder", self._browse)
        row = QHBoxLayout()
        row.addWidget(self.folder, 1)
        row.addWidget(browse)
        for index, (text, widget) in enumerate((("Quality", self.quality), ("Size", self.size_choice), ("Kind", self.kind))):
            grid.addWidget(label(text, "quiet"), index, 0)
            grid.addWidget(widget, index, 1)
        grid.addWidget(label("Folder", "quiet"), 3, 0)
        grid.addLayout(row, 3, 1)
        seconds = walk.seconds if walk else 0.0
        self._walk = walk
        self.from_field = NumberField("From", "Second of the walk at which the film begins", "s", 2, 0.5, 0.0, max(0.0, seconds))
        self.to_field = NumberField("To", "Second of the walk at which the film ends", "s", 2, 0.5, 0.0, max(0.0, seconds))
        self.from_field.show_value(0.0)
        self.to_field.show_value(seconds)
        self.step_choice = QComboBox()
        self.step_choice.setAccessibleName("Film frames")
        self.step_choice.setToolTip("Fewer film frames for a quick look; the film lasts as long")
        self.step_choice.addItems(["Every one", "Every second", "Every fourth"])
        self.strip = QCheckBox("Contact strip, a picture a second")
        self.strip.setToolTip("One PNG of small pictures with their times, beside the film")
        self.keep = QCheckBox("Keep the film frames as PNG")
        self.keep.setToolTip("In a folder beside the film, by number")
        if film:
            span = QHBoxLayout()
            span.setSpacing(8)
            span.addWidget(self.from_field)
            span.addWidget(label("to", "quiet"))
            span.addWidget(self.to_field)
            grid.addWidget(label("From", "quiet"), 4, 0)
            grid.addLayout(span, 4, 1)
            grid.addWidget(label("Film frames", "quiet"), 5, 0)
            grid.addWidget(self.step_choice, 5, 1)
            grid.addWidget(self.strip, 6, 1)
            grid.addWidget(self.keep, 7, 1)
        grid.setColumnStretch(1, 1)
        column.addLayout(grid)
        buttons = QHBoxLayout()
        buttons.addStretch(1)
        buttons.addWidget(button("Cancel", "", "Make nothing (Escape)", self.reject))
        self.go = button("Make film" if film else "Make stills", "primary", "Start in the background", self.accept)
        self.go.setDefault(True)
        buttons.addWidget(self.go)
        column.addLayout(buttons)

    def _take_quality(self, index: int) -> None:
        self._quality = index

    def _browse(self) -> None:
        chosen = QFileDialog.getExistingDirectory(self, "Folder for the files", self.folder.text())
        if chosen:
            self.folder.setText(chosen)

    @property
    def scale(self) -> float:
        """Per cent of the size."""
        return (100.0, 50.0, 25.0)[max(0, self.size_choice.currentIndex())]

    @property
    def out(self) -> Path:
        """The folder."""
        return Path(self.folder.text()).expanduser()

    def order(self, cameras: tuple[str, ...], walks: tuple[str, ...]) -> Order:
        """What was chosen, for these cameras and walks."""
        kind = "jpg" if self.kind.currentText() == "JPEG" else "png"
        walk = self._walk
        if walk is None:
            return Order(cameras, walks, self.scale, kind, QUALITY[self._quality][1])
        step = (1, 2, 4)[max(0, self.step_choice.currentIndex())]
        last = self.to_field.value
        part = Part(
            self.from_field.value,
            None if last >= walk.seconds else last,
            step,
            max(1, round(parse_rate(walk.rate) / step)) if self.strip.isChecked() else 0,
            self.keep.isChecked(),
        )
        film = list(CONTAINERS)[self.kind.currentIndex()]
        return Order(cameras, walks, self.scale, kind, QUALITY[self._quality][1], film=film, part=part)
