"""The Frame to look at: the exact picture in a neutral well, what is painted over it, the buttons for the
ways to move."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QResizeEvent, QShowEvent
from PySide6.QtWidgets import QWidget

from altana.app.canvas.frame_aids import INTENT_PX, FrameAids
from altana.app.canvas.frame_picture import FramePicture
from altana.app.canvas.guides import paint_guides
from altana.app.canvas.loose import LooseRibbon
from altana.app.canvas.picture_view import paint_focus
from altana.app.canvas.ways import WayButtons
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.app.workspace.soon import Soon
from altana.app.workspace.workspace import Workspace
from altana.core.project import Camera

#: The waiting time after the last movement before the picture sharpens.
REST_MS = 90
#: A narrower Frame has no room beside the picture.
ROOMY_PX = 420
#: Room left and right of the picture for what stands there, as long as nothing wider does; above and below
#: it, and everywhere in a small Frame.
BESIDE_PX, MARGIN_PX = 78.0, 14.0
SURROUND_SHADE = QColor(20, 20, 18, 165)
NO_PICTURE = QColor("#8A8A8A")


class FrameWell(QWidget):
    """Shows ``state.shown``, or ``override``.  plain : all of the widget is the picture, and everything is
    looking about."""

    def __init__(
        self, workspace: Workspace, tokens: Tokens, channel: str, plain: bool, walking: bool, checking: bool
    ) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__()
        # What is drawn has its own left and right, whichever way a language runs.
        self.setLayoutDirection(Qt.LayoutDirection.LeftToRight)
        self._workspace = workspace
        self._bridge, self._state, self._studio, self._tokens = bridge, state, studio, tokens
        #: On the Walk desk the picture is a film frame.
        self.walking = walking
        self.plain = plain
        self.guides_on = True
        self.surround = False
        self.override: Camera | None = None
        #: Room that the buttons left and right of the picture take.
        self.beside = (BESIDE_PX, BESIDE_PX)
        #: The next press stands a camera, or picks a wall for a wall cut.
        self.standing = self.picking_wall = False
        #: Steps and drags are this many times as large.
        self.speed = 1.0
        self.picture = self.own_picture(channel, checking)
        self.over = FrameAids(self, self.picture, workspace, tokens, checking)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setMinimumSize(220, 150)
        self.setAccessibleName(tr("Frame"))
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self._rest = Soon(self, REST_MS, lambda: self.picture.order("full"))
        self.ways = WayButtons(self, shift=not plain and not walking)
        self.ribbon = LooseRibbon(workspace, self)
        state.shown_changed.connect(self.refresh)
        for signal in (state.hiding_changed, bridge.left_out_changed, studio.relit, bridge.light_changed):
            signal.connect(self._again)

    @property
    def dragging(self) -> bool:
        """Whether a drag goes on."""
        return False

    @property
    def moving(self) -> bool:
        """Whether the picture moves, by a drag or by keys."""
        return self.dragging

    def own_picture(self, channel: str, checking: bool) -> FramePicture:
        """The picture that this Frame shows."""
        return FramePicture(self, self._workspace, channel, checking)

    @property
    def aids(self) -> set[str]:
        """The aids that are shown over the picture."""
        return self.over.shown

    def rest(self) -> None:
        """Nothing moves any more: sharpen soon."""
        self._rest.start()

    def _show_ribbon(self, camera: Camera | None) -> None:
        loose = not self.plain and self.override is None and not self._state.held
        if self.ribbon.follow(camera if loose else None):
            self._place_overlays()

    @property
    def camera(self) -> Camera | None:
        """What is shown.  A plain Frame shows as much as it has room for."""
        shown = self.override or self._state.shown
        if shown is not None and self.plain:
            return replace(shown, width_px=max(16, self.width()), height_px=max(16, self.height()))
        return shown

    def frame_rect(self) -> QRectF:
        """Where the exact picture lies in the widget."""
        camera = self.camera
        left, right = self.beside
        if self.width() < ROOMY_PX or self.override is not None:
            # A small Frame has its buttons over the picture, and that of a film has none.
            left = right = MARGIN_PX
        wide, high = self.width() - left - right, self.height() - 2 * MARGIN_PX
        if camera is None or wide <= 0 or high <= 0:
            return QRectF()
        if self.plain:
            return QRectF(self.rect())
        if self.surround:
            wide, high = wide * 0.86, high * 0.86
        if self._intent():
            high -= INTENT_PX
        scale = min(wide / camera.width_px, high / camera.height_px)
        w, h = round(camera.width_px * scale), round(camera.height_px * scale)
        raised = INTENT_PX / 2 if self._intent() else 0
        # In the middle, as far as what stands beside it lets it.
        x = min(max((self.width() - w) / 2, left), self.width() - right - w)
        return QRectF(round(x), round((self.height() - h) / 2 - raised), w, h)

    def make_room(self, left: float, right: float) -> None:
        """Keep the picture clear of what stands beside it.  left, right : pixels from the Frame's edges."""
        beside = max(left, BESIDE_PX), max(right, BESIDE_PX)
        if beside != self.beside:
            self.beside = beside
            self.refresh()

    def _intent(self) -> str:
        """What the picture is for, said below it where there is room."""
        camera = self.camera
        return (
            camera.intent
            if camera is not None and self.override is None and not self.plain and self.width() >= ROOMY_PX
            else ""
        )

    def _again(self) -> None:
        self.picture.image_key = None
        self.refresh()

    def toggle_guides(self) -> None:
        """Guides over the Frame, or not."""
        self.guides_on = not self.guides_on
        self.update()

    def toggle_surround(self) -> None:
        """Show what lies outside the frame, dimmed, or only the frame."""
        self.surround = not self.surround
        self._again()

    def refresh(self) -> None:
        """Show the camera as it is now: coarse at once while it moves, sharp when it rests."""
        camera = self.camera
        self._show_ribbon(camera)
        self.ways.setVisible(camera is not None and self.override is None and self.width() >= ROOMY_PX)
        if camera is not None and self.picture.key_of(camera) != self.picture.image_key:
            moving = self.moving or self._bridge.in_gesture or self.override is not None
            self.picture.order("coarse" if moving else "full")
            if moving:
                self._rest.start()
        self.update()

    def paintEvent(self, _: QPaintEvent) -> None:
        """The well, the picture, the guides."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self._tokens.well))
        rect = self.frame_rect()
        camera = self.camera
        if camera is None:
            self.over.say(
                painter,
                tr(
                    "Stand a camera: press “Stand a camera”, then press on the plan and drag to what it looks at."
                ),
            )
        elif self.picture.image is None:
            painter.fillRect(rect, QColor("#8A8A8A"))
            self.over.say(painter, tr("Drawing the picture…"))
        else:
            self._picture(painter, rect, camera)
        paint_focus(painter, self, self._tokens)
        painter.end()

    def _picture(self, painter: QPainter, rect: QRectF, camera: Camera) -> None:
        assert self.picture.image is not None
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        around = self.surround and self.override is None
        target = QRectF(self.rect()) if around else rect
        # A picture of another proportion (just after a format was changed) is never stretched.
        off = (
            abs(self.picture.image.width() * target.height() - self.picture.image.height() * target.width())
            > 0.02 * target.height() * self.picture.image.width()
        )
        if off:
            painter.fillRect(rect, QColor("#8A8A8A"))
        else:
            painter.drawImage(target, self.picture.image)
        if around:
            for part in _outside(QRectF(self.rect()), rect):
                painter.fillRect(part, SURROUND_SHADE)
        if self.guides_on and self.override is None and not self.plain:
            paint_guides(painter, camera, rect)
        self.over.paint(painter, rect, camera)
        self.over.mark_object(painter, rect, camera)
        painter.setPen(QPen(QColor(self._tokens.ink), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(rect.adjusted(-0.5, -0.5, 0.5, 0.5))
        self.over.notes(painter, rect)
        if self._intent():
            self.over.below(painter, rect, self._intent())

    def showEvent(self, event: QShowEvent) -> None:
        """A Frame that comes to sight asks for its picture."""
        super().showEvent(event)
        self._again()

    def resizeEvent(self, _: QResizeEvent) -> None:
        """Place the overlays; the picture follows the new size."""
        self.ways.setVisible(self.camera is not None and self.override is None and self.width() >= ROOMY_PX)
        self._place_overlays()
        self._rest.start()

    def _place_overlays(self) -> None:
        self.ways.move(10, 14)
        self.ways.adjustSize()
        self.ribbon.adjustSize()
        self.ribbon.move(max(0, (self.width() - self.ribbon.width()) // 2), 20)


def _outside(whole: QRectF, inner: QRectF) -> list[QRectF]:
    """The four bands of a rectangle round an inner one."""
    return [
        QRectF(whole.left(), whole.top(), whole.width(), inner.top() - whole.top()),
        QRectF(whole.left(), inner.bottom(), whole.width(), whole.bottom() - inner.bottom()),
        QRectF(whole.left(), inner.top(), inner.left() - whole.left(), inner.height()),
        QRectF(inner.right(), inner.top(), whole.right() - inner.right(), inner.height()),
    ]
