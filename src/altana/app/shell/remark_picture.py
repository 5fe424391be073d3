"""The picture that came with a remark, as large as its place lets it be; away where there is none."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QImage, QPixmap
from PySide6.QtWidgets import QLabel

from altana.app.theme.words import tr


class RemarkPicture(QLabel):
    """Holds its place's size, in pixels, whatever it shows."""

    def __init__(self, wide: int, high: int) -> None:
        super().__init__()
        self.setAccessibleName(tr("Picture of the remark"))
        self.setFixedSize(wide, high)
        self.setAlignment(Qt.AlignmentFlag.AlignCenter)

    def show_image(self, image: QImage) -> None:
        """Another picture; a null image for none."""
        self.setVisible(not image.isNull())
        if not image.isNull():
            self.setPixmap(
                QPixmap.fromImage(image).scaled(
                    self.size(),
                    Qt.AspectRatioMode.KeepAspectRatio,
                    Qt.TransformationMode.SmoothTransformation,
                )
            )
