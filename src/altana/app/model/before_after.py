"""Two pictures of one camera: before and after the model was reloaded."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QFont, QImage, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr


class BeforeAfter(QWidget):
    """Two pictures of one camera: before and after the model was reloaded."""

    def __init__(self, tokens: Tokens) -> None:
        super().__init__()
        self._tokens = tokens
        self.before: QImage | None = None
        self.after: QImage | None = None
        self.title = ""
        self.lines: tuple[str, ...] = ()
        self.setAccessibleName(tr("Before and after"))
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)

    def show_change(
        self, title: str, lines: tuple[str, ...], before: QImage | None, after: QImage | None
    ) -> None:
        """Show one camera's change."""
        self.title, self.lines, self.before, self.after = title, lines, before, after
        self.update()

    def paintEvent(self, _: QPaintEvent) -> None:
        """Both pictures side by side, what changed below."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self._tokens.well))
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        bottom = 0.0
        for (word, image), box in zip(
            (("before", self.before), ("after", self.after)), self._boxes(), strict=True
        ):
            if image is not None:
                painter.drawImage(box, image)
            else:
                painter.fillRect(box, QColor("#8A8A8A"))
            painter.setPen(QPen(QColor(self._tokens.ink), 1))
            painter.drawRect(box)
            self._words(painter, QRectF(box.left(), box.bottom() - 22, 90, 22), word)
            bottom = max(bottom, box.bottom())
        self._words(painter, QRectF(16, 12, self.width() - 32, 22), self.title, bold=True)
        for number, line in enumerate(self.lines[:8]):
            self._words(painter, QRectF(16, bottom + 12 + number * 23, self.width() - 32, 20), line)
        painter.end()

    def _boxes(self) -> list[QRectF]:
        """The two pictures' places: beside each other or one above the other, whichever shows them larger."""
        shown = self.after or self.before
        proportion = shown.width() / shown.height() if shown is not None else 1.6
        lines = 23 * min(len(self.lines), 8) + 24
        wide, high = self.width() - 32.0, self.height() - 44.0 - lines
        beside = min((wide - 12) / 2, high * proportion)
        above = min(wide, (high - 12) / 2 * proportion)
        width = max(beside, above, 60.0)
        size = (width, width / proportion)
        second = (0.0, size[1] + 12) if above > beside else (width + 12, 0.0)
        return [QRectF(16 + dx, 44 + dy, *size) for dx, dy in ((0.0, 0.0), second)]

    def _words(self, painter: QPainter, box: QRectF, text: str, bold: bool = False) -> None:
        painter.setFont(text_font(9.5, QFont.Weight.Bold if bold else QFont.Weight.Normal))
        wide = min(painter.fontMetrics().horizontalAdvance(text) + 16.0, box.width())
        band = QRectF(box.left(), box.top(), wide, box.height())
        painter.fillRect(band, QColor(self._tokens.band))
        painter.setPen(QColor(self._tokens.band_text))
        painter.drawText(
            band,
            Qt.AlignmentFlag.AlignCenter,
            painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, int(wide - 10)),
        )
