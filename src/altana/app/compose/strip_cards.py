"""The cards of the strip, painted where they are in sight."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

from PySide6.QtCore import QRect, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QFont, QImage, QPainter, QPainterPath, QPen
from PySide6.QtWidgets import QStyle, QStyledItemDelegate, QStyleOptionViewItem

from altana.app.compose.strip_rows import Heading, Index
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.app.workspace.view_state import ViewState
from altana.core.project import Camera, PlannedShot

THUMB_WIDE, THUMB_HIGH = 158, 92


@dataclass(frozen=True, slots=True)
class CardWords:
    """What a card says below its name, and what is wrong in a few words."""

    line: str
    trouble: str


class Cards(Protocol):
    """What the painter asks the strip."""

    state: ViewState

    def thumb(self, camera_id: str) -> QImage | None:
        """The picture of a camera."""

    def told(self, camera: Camera) -> CardWords:
        """What its card says."""


class CardPainter(QStyledItemDelegate):
    """Paints rows."""

    def __init__(self, strip: Cards, tokens: Tokens) -> None:
        super().__init__()
        self._strip, self._tokens = strip, tokens

    def sizeHint(self, _option: QStyleOptionViewItem, index: Index) -> QSize:
        """The height follows the picture's proportion."""
        row = index.data(Qt.ItemDataRole.UserRole)
        if isinstance(row, Camera):
            return QSize(THUMB_WIDE + 18, thumb_size(row).height() + 57)
        return QSize(THUMB_WIDE + 18, 24 if isinstance(row, Heading) else 50)

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        """One row."""
        row = index.data(Qt.ItemDataRole.UserRole)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        area: QRect = option.rect
        state: QStyle.StateFlag = option.state
        focused = bool(state & QStyle.StateFlag.State_HasFocus)
        if isinstance(row, Camera):
            self._card(painter, area, row, focused)
        elif isinstance(row, PlannedShot):
            self._planned(painter, area, row, focused)
        else:
            self._heading(painter, area, row, focused)
        painter.restore()

    def _heading(self, painter: QPainter, area: QRect, row: Heading, focused: bool) -> None:
        painter.setFont(text_font(9))
        painter.setPen(QColor(self._tokens.pencil))
        sign = "▸" if row.folded else "▾"
        inner = QRectF(area).adjusted(3, 3, -8, 0)
        painter.drawText(
            inner,
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft,
            f"{row.name.upper()}  {sign if row.folded or focused else ''}",
        )
        painter.drawText(inner, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, str(row.count))

    def _planned(self, painter: QPainter, area: QRect, row: PlannedShot, focused: bool) -> None:
        box = QRectF(area).adjusted(1.5, 2.5, -6.5, -3.5)
        painter.setPen(QPen(QColor(self._tokens.pencil), 1.2, Qt.PenStyle.DashLine))
        painter.drawRoundedRect(box, 7, 7)
        self._ring(painter, box, focused)
        painter.setFont(text_font(8.5))
        painter.drawText(
            QRectF(box.left() + 9, box.top() + 4, box.width() - 18, 15),
            Qt.AlignmentFlag.AlignVCenter,
            tr("planned: no camera yet"),
        )
        painter.setPen(QColor(self._tokens.ink))
        painter.setFont(text_font(9.5))
        text = painter.fontMetrics().elidedText(
            row.intent, Qt.TextElideMode.ElideRight, int(box.width() - 18)
        )
        painter.drawText(
            QRectF(box.left() + 9, box.top() + 20, box.width() - 18, 18), Qt.AlignmentFlag.AlignVCenter, text
        )

    def _ring(self, painter: QPainter, box: QRectF, focused: bool) -> None:
        if focused:
            pen = painter.pen()
            painter.setPen(QPen(QColor(self._tokens.ink), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box.adjusted(3, 3, -3, -3), 5, 5)
            painter.setPen(pen)

    def _card(self, painter: QPainter, area: QRect, camera: Camera, focused: bool) -> None:
        box = QRectF(area).adjusted(1.5, 2.5, -6.5, -3.5)
        state = self._strip.state
        if camera.id == state.active_id:
            pen = QPen(QColor(self._tokens.verdigris), 2.2)
        elif camera.id in state.selected:
            pen = QPen(QColor(self._tokens.verdigris), 1.6, Qt.PenStyle.DashLine)
        else:
            pen = QPen(QColor(self._tokens.rule), 1.0)
        painter.setPen(pen)
        painter.setBrush(QColor(self._tokens.leaf))
        painter.drawRoundedRect(box, 7, 7)
        self._ring(painter, box, focused)
        size = thumb_size(camera)
        place = QRectF(box.left() + 7, box.top() + 6, size.width(), size.height())
        clip = QPainterPath()
        clip.addRoundedRect(place, 3, 3)
        painter.save()
        painter.setClipPath(clip)
        image = self._strip.thumb(camera.id)
        painter.fillRect(place, QColor(self._tokens.rule))
        if (
            image is not None
            and abs(image.width() * place.height() - image.height() * place.width())
            < 0.05 * image.width() * place.height()
        ):
            painter.drawImage(place, image)
        painter.restore()
        self._marks(painter, box, place, camera)
        self._text(painter, box, place.bottom(), camera)

    def _text(self, painter: QPainter, box: QRectF, top: float, camera: Camera) -> None:
        wide = int(box.width() - 16)
        painter.setFont(text_font(9.5, QFont.Weight.DemiBold))
        painter.setPen(QColor(self._tokens.ink))
        name = painter.fontMetrics().elidedText(camera.name, Qt.TextElideMode.ElideRight, wide)
        painter.drawText(QRectF(box.left() + 8, top + 3, wide, 17), Qt.AlignmentFlag.AlignVCenter, name)
        facts = self._strip.told(camera)
        painter.setFont(text_font(8.5))
        left = box.left() + 8
        if facts.trouble:
            painter.setPen(QColor(self._tokens.brick))
            painter.setFont(text_font(8.5, QFont.Weight.Bold))
            shown = painter.fontMetrics().elidedText(f"! {facts.trouble}", Qt.TextElideMode.ElideRight, wide)
            painter.drawText(QRectF(left, top + 20, wide, 15), Qt.AlignmentFlag.AlignVCenter, shown)
            return
        painter.setPen(QColor(self._tokens.pencil))
        line = painter.fontMetrics().elidedText(facts.line, Qt.TextElideMode.ElideRight, wide)
        painter.drawText(QRectF(left, top + 20, wide, 15), Qt.AlignmentFlag.AlignVCenter, line)

    def _marks(self, painter: QPainter, box: QRectF, place: QRectF, camera: Camera) -> None:
        """Marks in the upper right corner: locked, in the shot list, done, not on the plan, variants."""
        marks = [
            (camera.locked, "padlock"),
            (camera.in_shot_list, "✓"),
            (camera.done, tr("done")),
            (camera.hidden, tr("off plan")),
            (bool(camera.variants), tr("%n tries", "", len(camera.variants))),
        ]
        right = box.right() - 6
        y = place.top() + 3
        for there, mark in marks:
            if not there:
                continue
            painter.setFont(text_font(8, QFont.Weight.DemiBold))
            wide = 16.0 if mark in ("padlock", "✓") else painter.fontMetrics().horizontalAdvance(mark) + 8.0
            patch = QRectF(right - wide, y, wide, 16)
            painter.setPen(QPen(QColor(self._tokens.rule), 1))
            painter.setBrush(QColor(self._tokens.leaf))
            painter.drawRoundedRect(patch, 4, 4)
            painter.setPen(QColor(self._tokens.ink))
            if mark == "padlock":
                self._padlock(painter, patch.center().x(), patch.center().y())
            else:
                painter.drawText(patch, Qt.AlignmentFlag.AlignCenter, mark)
            right -= wide + 3

    def _padlock(self, painter: QPainter, x: float, y: float) -> None:
        painter.setPen(QPen(QColor(self._tokens.ink), 1.5))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawArc(QRectF(x - 2.5, y - 6, 5, 8), 0, 180 * 16)
        painter.setBrush(QColor(self._tokens.ink))
        painter.drawRect(QRectF(x - 4, y - 1, 8, 5))


def thumb_size(camera: Camera) -> QSize:
    """The size of a camera's picture on its card."""
    scale = min(THUMB_WIDE / camera.width_px, THUMB_HIGH / camera.height_px)
    return QSize(max(8, round(camera.width_px * scale)), max(8, round(camera.height_px * scale)))
