"""A small picture made before the large one, shown in the sheet that asks."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import QLabel, QVBoxLayout, QWidget

from altana.app.theme.widgets import button, label
from altana.app.theme.words import spoken, tr
from altana.core.edits.formats import TEST_PX, fitting

#: The picture lies in a field of this size.
SHOWN = QSize(416, 234)


def trial_size(own: tuple[int, int], typed: tuple[int, int] | None) -> tuple[int, int]:
    """The size of a test, px: as typed where that is smaller than a test is, else a test's in the same
    proportion."""
    size = typed or own
    return size if max(size) <= TEST_PX else fitting(*size, (TEST_PX, TEST_PX), even=False)


class SmallTest(QWidget):
    """Nothing, until a test is asked for; then how it goes, and the picture.  ``changed`` when one begins or
    ends."""

    wanted = Signal()
    changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        #: Whether one is being made, and the last that was.
        self.running = False
        self.path: Path | None = None
        tip = tr(
            "A small one of the first, {test_px} px at most, shown here; this sheet stays open",
            test_px=TEST_PX,
        )
        self.button = button(tr("Make a test"), "", tip, self.wanted.emit)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        self.picture = QLabel()
        self.picture.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.picture.setMinimumHeight(SHOWN.height())
        self.told = label("", "quiet")
        column.addWidget(self.picture)
        column.addWidget(self.told)
        self.hide()

    def begin(self) -> None:
        """A test is being made."""
        self.path, self.running = None, True
        self.button.setEnabled(False)
        # Where the picture will be.
        self.picture.setText(tr("The test is being made…"))
        self.told.clear()
        self.show()
        self.changed.emit()

    def end(self, path: Path | None, sentence: str) -> None:
        """It is made, or was not, for a reason."""
        self.running = False
        self.button.setEnabled(True)
        # It gave the keyboard away while it could not be pressed, to the button that leaves.
        self.button.setFocus()
        self.changed.emit()
        pixels = QPixmap(str(path)) if path is not None else QPixmap()
        if path is None or pixels.isNull():
            self.picture.clear()
            self.told.setText(spoken(sentence))
            return
        self.path = path
        ratio = self.devicePixelRatioF()
        shown = pixels.scaled(
            SHOWN * ratio, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
        )
        shown.setDevicePixelRatio(ratio)
        self.picture.setPixmap(shown)
        self.picture.setAccessibleName(tr("The test: {name}", name=path.name))
        self.told.setText(f"{path.name}, {pixels.width()} × {pixels.height()} px")
