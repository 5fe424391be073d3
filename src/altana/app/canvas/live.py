"""What takes the Frame's place for a while, live: the picture as it will be made, and the panorama from
here."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QHideEvent,
    QImage,
    QKeyEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QShowEvent,
)
from PySide6.QtWidgets import QHBoxLayout, QWidget

from altana.app.canvas.picture_view import paint_caption, paint_focus
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import button
from altana.app.theme.words import spoken, tr
from altana.app.workspace.soon import Soon
from altana.app.workspace.workspace import Workspace
from altana.core.edits.shots import camera_in_format, row_as_made
from altana.core.picture_key import row_key
from altana.core.project import LINES, STILL, Camera, Shot
from altana.jobs.requests import Picture

REST_MS = 120


class LivePicture(QWidget):
    """A picture in the well that follows the shown camera; ``left`` when the Frame is wanted back."""

    left = Signal()
    channel = ""

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__()
        # What is drawn has its own left and right, whichever way a language runs.
        self.setLayoutDirection(Qt.LayoutDirection.LeftToRight)
        self._bridge, self._state, self._studio, self._tokens = bridge, state, studio, tokens
        self.image: QImage | None = None
        self.look = ""
        self._latest = 0
        self._for: object = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(220, 150)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self._rest = Soon(self, REST_MS, self.rested)
        self._tools = QWidget(self)
        self._row = QHBoxLayout(self._tools)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(6)
        for signal in (
            state.shown_changed,
            bridge.settled,
            studio.relit,
            bridge.light_changed,
            bridge.left_out_changed,
            state.hiding_changed,
        ):
            signal.connect(self.refresh)
        studio.opened.connect(self._again)
        studio.picture.connect(self._arrived)

    def rested(self) -> None:
        """Nothing has moved for a moment."""

    def refresh(self) -> None:
        """Follow what is shown now."""

    def _again(self) -> None:
        """Another model, or the same one read anew."""
        self._for = None
        self.refresh()

    def size_of(self) -> tuple[int, int]:
        """Width and height of the whole picture, for its proportion."""
        return (16, 9)

    def rect_of(self) -> QRectF:
        """Where the picture lies in the widget."""
        wide, high = self.width() - 28.0, self.height() - 76.0
        w, h = self.size_of()
        scale = min(wide / w, high / h)
        if scale <= 0.0:
            return QRectF()
        rect = QRectF(0, 0, round(w * scale), round(h * scale))
        rect.moveTopLeft(
            QPointF(round((self.width() - rect.width()) / 2), 34 + round((high - rect.height()) / 2))
        )
        return rect

    def _arrived(self, channel: str, revision: int, image: QImage, look: str) -> None:
        if channel == self.channel and (revision == self._latest or look == "coarse"):
            self.image, self.look = image, look
            if revision == self._latest:
                self.drawn()
            self.update()

    def drawn(self) -> None:
        """The newest picture that was asked for is there."""

    def showEvent(self, event: QShowEvent) -> None:
        """It asks for its picture once it is in sight."""
        super().showEvent(event)
        self._again()

    def hideEvent(self, event: QHideEvent) -> None:
        """Out of sight it asks for nothing."""
        super().hideEvent(event)
        self._rest.stop()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """The picture follows the size."""
        super().resizeEvent(event)
        self._tools.adjustSize()
        self._tools.move(self.width() - self._tools.width() - 10, self.height() - self._tools.height() - 8)
        self._again()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Escape goes back to the Frame."""
        if event.key() == Qt.Key.Key_Escape:
            self.left.emit()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, _: QPaintEvent) -> None:
        """The well, the picture, what is to be known of it."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self._tokens.well))
        rect = self.rect_of()
        if self.image is None:
            painter.fillRect(rect, QColor("#8A8A8A"))
            paint_caption(painter, QRectF(self.rect()), tr("Drawing the picture…"), self._tokens)
        else:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            self.paint_image(painter, rect)
            self.paint_over(painter, rect)
            paint_caption(painter, QRectF(self.rect()), self.caption(), self._tokens)
        paint_focus(painter, self, self._tokens)
        painter.end()

    def paint_image(self, painter: QPainter, rect: QRectF) -> None:
        """The picture itself; one of another proportion, just after a format was changed, is never
        stretched."""
        if self.image is not None:
            off = abs(self.image.width() * rect.height() - self.image.height() * rect.width())
            if off > 0.02 * rect.height() * self.image.width():
                painter.fillRect(rect, QColor("#8A8A8A"))
            else:
                painter.drawImage(rect, self.image)

    def caption(self) -> str:
        """What is said above the picture."""
        return ""

    def paint_over(self, painter: QPainter, rect: QRectF) -> None:
        """What is drawn over the picture."""


class FinishedView(LivePicture):
    """The Frame as its row of the shot list will make it: drawn as, background, tone and quality; sharper
    while it rests."""

    channel = "finished"

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        super().__init__(workspace, tokens)
        self.base = Path()
        self.setAccessibleName(tr("As it will be made"))
        self.setToolTip(
            tr("The picture as its row of the shot list makes it. Escape or F4: back to the Frame.")
        )
        self._row.addWidget(
            button(
                tr("Back to the Frame"),
                "onwell",
                tr("The camera's picture to move in (F4 or Escape)"),
                self.left.emit,
            )
        )
        self._word = ""
        self._item: Picture | None = None
        #: What the picture in sight is of; None while another is wanted.
        self._shown: Picture | None = None

    def shot(self, camera: Camera) -> Shot:
        """How the camera is made: by its first row in the format it is in; with the usual values where it has
        none."""
        return row_as_made(self._bridge.project, STILL, camera.id)

    def _wanted(self) -> Picture | None:
        camera, active = self._state.shown, self._state.active
        rect = self.rect_of()
        if camera is None or active is None or rect.isEmpty() or not self.isVisible():
            return None
        ratio = self.devicePixelRatioF()
        shot = self.shot(active)
        framed = camera_in_format(camera, shot.format_index)
        return Picture(
            shot, framed, max(16, round(rect.width() * ratio)), max(16, round(rect.height() * ratio)), ""
        )

    def size_of(self) -> tuple[int, int]:
        """The camera's own proportion."""
        camera = self._state.shown
        return (camera.width_px, camera.height_px) if camera is not None else (16, 9)

    def refresh(self) -> None:
        """Ask for a proof once nothing moves; then for the row's own quality."""
        item = self._wanted()
        project = self._bridge.project
        key = (
            row_key(item, project.tone, project.qualities, self._studio.scenery) if item is not None else None
        )
        if item is not None and key != self._for:
            self._for, self._item = key, item
            # What is still shown is of something else.
            self._shown = None
            self._rest.start()
            self.update()

    def rested(self) -> None:
        """The proof comes first, because it is quick; lines have no passes."""
        if self._item is not None:
            self._order("proof" if self._item.shot.rendition != LINES else self._item.shot.quality)

    def _order(self, word: str) -> None:
        if self._item is not None and self.isVisible():
            self._word = word
            item = replace(self._item, shot=replace(self._item.shot, quality=word))
            self._latest = self._studio.order_finished(self.channel, item, self._bridge.project, self.base, 2)

    def drawn(self) -> None:
        """After the proof the row's own quality."""
        self._shown = self._item
        if self._item is not None and self._word != self._item.shot.quality:
            self._order(self._item.shot.quality)

    @property
    def sharp(self) -> bool:
        """Whether the row's own quality is shown."""
        return self._shown is not None and self.look.partition("|")[0] == self._shown.shot.quality

    def caption(self) -> str:
        """How it is drawn, and how far."""
        if self._shown is None:
            return (
                tr(
                    "As it will be made: drawing it as {rendition}…",
                    rendition=spoken(self._item.shot.rendition),
                )
                if self._item is not None
                else ""
            )
        shot = self._shown.shot
        word, _, note = self.look.partition("|")
        whose = "" if shot.id else tr(", not in the shot list yet")
        more = "" if word == shot.quality else tr(", {quality} follows", quality=spoken(shot.quality))
        return tr(
            "As it will be made: {rendition}, {word}{more}{whose}{note}",
            rendition=spoken(shot.rendition),
            word=spoken(word),
            more=more,
            whose=whose,
            note=f", {spoken(note)}" if note else "",
        )
