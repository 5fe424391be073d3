"""The panorama from here, live while it is placed."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPen

from altana.app.canvas.live import LivePicture
from altana.app.theme.lengths import length
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import button
from altana.app.theme.words import tr
from altana.app.workspace.soon import Soon
from altana.app.workspace.workspace import Workspace
from altana.core.edits.cameras import change_camera
from altana.core.edits.shots import add_shots, start_values
from altana.core.light.own import light_for
from altana.core.picture_key import round_key
from altana.core.project import PANORAMA, Camera
from altana.jobs.shotlist import NEAR_M, NearThing, near_things, set_aside
from altana.render.panorama import pixel_of

#: Panoramas are drawn so wide while something moves, and no wider than the draft once it rests.
MOVING_PX, RESTING_PX = 512, 1024
COMPASS = {"N": 0.0, "E": 90.0, "S": 180.0, "W": 270.0}


class RoundPlace(LivePicture):
    """The panorama from where the camera stands, levelled and live while it is placed; a drag turns its
    front."""

    channel = "round"
    #: What stands near was found out.
    looked = Signal()

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        super().__init__(workspace, tokens)
        self.near: tuple[NearThing, ...] = ()
        self.setAccessibleName(tr("All round from here"))
        self.setToolTip(
            tr(
                "Drag to turn the front; move the eye on the plan; arrow keys turn and step. Escape or Z: back to the Frame."
            )
        )
        self.add = button(
            tr("Panorama to shot list"),
            "onwell",
            tr("A row of the shot list: a panorama from here"),
            self.add_row,
        )
        self._row.addWidget(self.add)
        self._row.addWidget(
            button(
                tr("Back to the Frame"), "onwell", tr("The camera's picture (Z or Escape)"), self.left.emit
            )
        )
        self._grab: tuple[QPointF, Camera] | None = None
        self._keys = Soon(self, 400, self._end_keys)
        self._stepping = False

    def size_of(self) -> tuple[int, int]:
        """Twice as wide as high."""
        return (2, 1)

    @property
    def _moving(self) -> bool:
        return self._bridge.in_gesture or self._grab is not None

    def refresh(self) -> None:
        """Coarse at once while something moves, fine when it rests."""
        camera = self._state.shown
        if camera is None or not self.isVisible():
            return
        # Turning needs no drawing: the picture is drawn with north in its middle, and shown turned.
        key = round_key(camera, self._studio.scenery, self._state.hiding)
        self.update()
        if key == self._for:
            return
        self._for = key
        if self._moving:
            self._order("coarse")
        self._rest.start()

    def rested(self) -> None:
        """Fine, and what stands too near."""
        self._order("full")

    def _order(self, look: str) -> None:
        camera = self._state.shown
        if camera is None or not self.isVisible():
            return
        # A panorama looks past no bound.
        whole = replace(
            camera, near_m=None, far_m=None, wall_cuts=(), heading_deg=0.0, tilt_deg=0.0, roll_deg=0.0
        )
        staging = self._studio.staging(self._bridge.project, whole, self._state.hiding)
        width = MOVING_PX if look == "coarse" else RESTING_PX
        light = light_for(self._bridge.project.light, camera)
        self._latest = self._studio.order_round(
            self.channel, look, whole, light, 0 if look == "coarse" else 2, staging, width
        )

    def drawn(self) -> None:
        """What stands too near is looked for once it rests."""
        scene, camera = self._studio.scene, self._state.shown
        if self.look != "coarse" and scene is not None and camera is not None:
            self.near = near_things(scene.rays, scene.owner, scene.model, camera)
            self.looked.emit()

    def caption(self) -> str:
        """That it is level, what is set aside, and what is too near."""
        camera = self._state.shown
        if camera is None:
            return ""
        lean = (
            tr(" (the camera leans by {hypot:.1f}°)", hypot=math.hypot(camera.tilt_deg, camera.roll_deg))
            if camera.tilt_deg or camera.roll_deg
            else ""
        )
        near = (
            tr(" · ! {near} nearer than {near_m:g} m", near=len(self.near), near_m=NEAR_M)
            if self.near
            else ""
        )
        return tr(
            "All round, level{lean} · front {heading_deg:.0f}°{near} · {set_aside}",
            lean=lean,
            heading_deg=camera.heading_deg,
            near=near,
            set_aside=set_aside(camera),
        )

    def paint_image(self, painter: QPainter, rect: QRectF) -> None:
        """The picture turned so that the front lies in its middle."""
        camera = self._state.shown
        if self.image is None or camera is None:
            return
        painter.save()
        painter.setClipRect(rect)
        shift = -(camera.heading_deg % 360.0) / 360.0 * rect.width()
        for turn in (0.0, rect.width()):
            painter.drawImage(rect.translated(shift + turn, 0.0), self.image)
        painter.restore()

    def paint_over(self, painter: QPainter, rect: QRectF) -> None:
        """The horizon, the front, the compass, and badges on what stands too near."""
        camera = self._state.shown
        if camera is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        white, dark = QColor(255, 255, 255, 210), QColor(0, 0, 0, 120)
        middle = rect.center()
        for colour, width in ((dark, 2.6), (white, 1.0)):
            painter.setPen(QPen(colour, width, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(rect.left(), middle.y()), QPointF(rect.right(), middle.y()))
            painter.setPen(QPen(colour, width + 0.6))
            painter.drawLine(QPointF(middle.x(), middle.y() - 12), QPointF(middle.x(), middle.y() + 12))
        for word, heading in (*COMPASS.items(), ("front", camera.heading_deg)):
            turn = math.radians(heading)
            x, _ = self._at(rect, (math.sin(turn), math.cos(turn), 0.0), camera)
            self._badge(
                painter, QPointF(x, rect.top() + 14 if word == "front" else rect.bottom() - 12), word, False
            )
        for item in self.near[:6]:
            self._badge(
                painter,
                QPointF(*self._at(rect, item.towards, camera)),
                f"! {item.name} {length(item.away_m)}",
                True,
            )

    def _at(self, rect: QRectF, towards: tuple[float, float, float], camera: Camera) -> tuple[float, float]:
        (x, y), *_ = pixel_of(np.array([towards]), 2000, 1000, camera.heading_deg).tolist()
        return rect.left() + x / 2000.0 * rect.width(), rect.top() + y / 1000.0 * rect.height()

    def _badge(self, painter: QPainter, at: QPointF, text: str, trouble: bool) -> None:
        painter.setFont(text_font(8))
        wide = painter.fontMetrics().horizontalAdvance(text) + 10
        box = QRectF(at.x() - wide / 2, at.y() - 8, wide, 16)
        box.moveLeft(min(max(box.left(), 4.0), self.width() - wide - 4.0))
        painter.setPen(QPen(QColor(self._tokens.brick), 1.6) if trouble else Qt.PenStyle.NoPen)
        painter.setBrush(QColor(self._tokens.band))
        painter.drawRect(box)
        painter.setPen(QColor(self._tokens.band_text))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    # ------------------------------------------------------------------ placing

    def add_row(self) -> None:
        """A row of the shot list: the panorama from here."""
        active = self._state.active
        if active is not None:
            self._bridge.apply(
                tr("Add panoramas"),
                lambda project: add_shots(project, [start_values(project, PANORAMA, active.id)]),
            )

    def _editable(self) -> bool:
        active = self._state.active
        return self._state.held and active is not None and not active.locked

    def _move(self, camera: Camera) -> None:
        if self._bridge.in_gesture:
            self._bridge.preview(
                lambda p: change_camera(
                    p, camera.id, lambda c: replace(c, eye=camera.eye, heading_deg=camera.heading_deg % 360.0)
                )
            )
        elif not self._state.held:
            self._state.look(camera)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold of the panorama."""
        camera = self._state.shown
        if event.button() == Qt.MouseButton.LeftButton and camera is not None:
            self._end_keys()
            self._grab = (event.position(), camera)
            if self._editable():
                self._bridge.begin()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """What was taken hold of stays under the pointer."""
        if self._grab is not None:
            start, camera = self._grab
            run = (event.position().x() - start.x()) / max(1.0, self.rect_of().width()) * 360.0
            self._move(replace(camera, heading_deg=camera.heading_deg - run))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """One undo step for the whole drag."""
        if self._grab is None or event.button() != Qt.MouseButton.LeftButton:
            return
        moved = abs(event.position().x() - self._grab[0].x()) >= 1.0
        self._grab = None
        if self._bridge.in_gesture:
            if moved:
                self._bridge.commit(tr("Turn camera"))
            else:
                self._bridge.cancel()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right turn the front by five degrees (Shift: one), up and down step by ten centimetres."""
        turns = {Qt.Key.Key_Left: -5.0, Qt.Key.Key_Right: 5.0}
        steps = {Qt.Key.Key_Up: 0.1, Qt.Key.Key_Down: -0.1}
        key, camera = Qt.Key(event.key()), self._state.shown
        if camera is None or (key not in turns and key not in steps):
            super().keyPressEvent(event)
            return
        if self._editable() and not self._bridge.in_gesture:
            self._bridge.begin()
            self._stepping = True
        self._keys.start()
        if key in turns:
            finer = 0.2 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            self._move(replace(camera, heading_deg=camera.heading_deg + turns[key] * finer))
        else:
            x, y, z = camera.eye
            turn = math.radians(camera.heading_deg)
            self._move(
                replace(camera, eye=(x + math.sin(turn) * steps[key], y + math.cos(turn) * steps[key], z))
            )

    def _end_keys(self) -> None:
        self._keys.stop()
        if self._stepping:
            self._stepping = False
            self._bridge.commit(tr("Move camera"))
