"""What is painted over the Frame's picture and never into any output: aids, notes, the chosen object's
outline."""

from __future__ import annotations

from typing import Protocol

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPen

from altana.app.canvas.aids import HATCHED, hatched, paint_gaps, paint_vanishing, paint_verticals
from altana.app.canvas.frame_picture import FramePicture
from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.edits.cameras import at_rise_limit
from altana.core.project import Camera
from altana.core.staging import object_points

#: The line below the picture that says what it is for.
INTENT_PX = 24

#: Pixels at the Frame's edge where its tools lie.
BESIDE_PX = 80


class FrameState(Protocol):
    """What is said over the picture depends on this."""

    plain: bool
    override: Camera | None
    standing: bool
    picking_wall: bool
    speed: float

    @property
    def camera(self) -> Camera | None:
        """What is shown."""

    @property
    def dragging(self) -> bool:
        """Whether a drag goes on."""

    def width(self) -> int:
        """Pixels."""

    def height(self) -> int:
        """Pixels."""

    def update(self) -> None:
        """Paint again."""


class FrameAids:
    """Paints over one Frame.  ``shown``: the names of the aids that are on (see canvas/aids.py)."""

    def __init__(
        self, frame: FrameState, picture: FramePicture, workspace: Workspace, tokens: Tokens, checking: bool
    ) -> None:
        self._frame, self._picture, self._tokens = frame, picture, tokens
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio
        self._book = workspace.book if checking else None
        self.shown: set[str] = set()
        #: Whether the chosen object is outlined.
        self.outline = True
        self._hatches: dict[str, tuple[object, QImage]] = {}

    def toggle_outline(self) -> None:
        """The outline of the chosen object on or off."""
        self.outline = not self.outline
        self._frame.update()

    def toggle(self, name: str) -> None:
        """Show an aid over the picture, or no longer."""
        self.shown ^= {name}
        self._hatches.clear()
        if name in HATCHED and name in self.shown:
            # Hatches want a finer look than figures do.
            self._picture.ask_facts()
        self._frame.update()

    def paint(self, painter: QPainter, rect: QRectF, camera: Camera) -> None:
        """The aids that are shown, what must be known, and the chosen object."""
        scene = self._studio.scene
        if not self.shown or self._book is None or scene is None or self._frame.override is not None:
            return
        checks = self._book.of(camera)
        if "vanishing" in self.shown:
            paint_vanishing(painter, rect, camera, scene.axes, self._tokens)
        if checks is None:
            return
        for name, mask, colour, falling in (
            ("cut faces", checks.cut.mask, self._tokens.saffron, False),
            ("gaps", checks.gaps.mask, self._tokens.brick, True),
        ):
            if name in self.shown and mask is not None:
                size = (round(rect.width()), round(rect.height()))
                hatch = self._hatches.get(name)
                if hatch is None or hatch[0] != (id(mask), size):
                    hatch = self._hatches[name] = ((id(mask), size), hatched(mask, *size, colour, falling))
                painter.drawImage(rect.topLeft(), hatch[1])
        if "gaps" in self.shown:
            paint_gaps(painter, rect, checks.gaps, self._tokens)
        if "verticals" in self.shown:
            paint_verticals(
                painter, rect, camera, checks.verticals, self._bridge.project.limits, self._tokens
            )

    def notes(self, painter: QPainter, rect: QRectF) -> None:
        """What one must know about this Frame, on a dark band at its foot."""
        notes = []
        scene = self._studio.scene
        if (
            scene is not None
            and not self._frame.plain
            and self._state.hiding
            and self._frame.override is None
        ):
            camera = self._frame.camera
            count = self._state.hiding.differs(
                self._studio.staging(self._bridge.project, camera), scene.lookup
            )
            if count:
                notes.append(tr("%n objects hidden here: the picture shows them", "", count))
        if self._frame.standing:
            notes.append(tr("Press on a floor: the eye. Drag: what it looks at. Escape leaves."))
        if self._frame.picking_wall:
            notes.append(tr("Press on the wall to look past, here or on the plan or section. Escape leaves."))
        shown = self._frame.camera
        if (
            shown is not None
            and self._frame.dragging
            and at_rise_limit(shown, self._bridge.project.limits.steepest_rise_deg)
        ):
            limit = self._bridge.project.limits.steepest_rise_deg
            notes.append(
                tr(
                    "Kept plumb: the lens is shifted as far as it goes ({limit:.0f}°). Let it tilt to look further.",
                    limit=limit,
                )
            )
        if self._frame.dragging and self._frame.speed != 1.0:
            notes.append(tr("speed × {speed:g}", speed=self._frame.speed))
        if not notes:
            return
        painter.setFont(text_font(9))
        text = "   ·   ".join(notes)
        wide = self._frame.width()
        text = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, round(wide - 40))
        box = QRectF(painter.fontMetrics().boundingRect(text)).adjusted(-12, -4, 12, 4)
        # In a small Frame the foot belongs to *Held*; its head is free there.
        at_foot = wide / 2 - box.width() / 2 > BESIDE_PX
        box.moveCenter(QPointF(wide / 2, rect.bottom() - 18 if at_foot else rect.top() + 18))
        painter.fillRect(box, QColor(self._tokens.band))
        painter.setPen(QColor(self._tokens.band_text))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def mark_object(self, painter: QPainter, rect: QRectF, camera: Camera) -> None:
        """A box of thin lines round the chosen object."""
        scene = self._studio.scene
        number = scene.lookup.index.get(self._state.object_id) if scene is not None else None
        if (
            not self.outline
            or scene is None
            or number is None
            or self._frame.override is not None
            or not scene.model.objects[number].face_count
        ):
            return
        points = object_points(scene.model, number).astype(float)
        low, high = points.min(axis=0), points.max(axis=0)
        corners = np.array([[(low, high)[(k >> axis) & 1][axis] for axis in range(3)] for k in range(8)])
        px, py, depth = camera.view().project(corners).T
        if (depth <= 0.01).any():
            return
        x = rect.left() + px / camera.width_px * rect.width()
        y = rect.top() + py / camera.height_px * rect.height()
        painter.save()
        painter.setClipRect(rect)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for colour, width in ((QColor(0, 0, 0, 120), 3.0), (QColor(255, 255, 255, 235), 1.2)):
            painter.setPen(QPen(colour, width))
            for a in range(8):
                for axis in range(3):
                    b = a | (1 << axis)
                    if b != a:
                        painter.drawLine(QPointF(x[a], y[a]), QPointF(x[b], y[b]))
        painter.restore()

    def below(self, painter: QPainter, rect: QRectF, text: str) -> None:
        """What the picture is for, under it."""
        painter.setFont(text_font(9))
        wide = int(max(rect.width(), 240.0))
        words = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, wide - 20)
        band = QRectF(0, 0, painter.fontMetrics().horizontalAdvance(words) + 20, INTENT_PX - 4)
        band.moveTopLeft(QPointF(rect.center().x() - band.width() / 2, rect.bottom() + 5))
        painter.fillRect(band, QColor(self._tokens.band))
        painter.setPen(QColor(self._tokens.band_text))
        painter.drawText(band, Qt.AlignmentFlag.AlignCenter, words)

    def say(self, painter: QPainter, text: str) -> None:
        """One sentence in the middle, where there is no picture."""
        painter.setFont(text_font(10))
        room = painter.fontMetrics().boundingRect(text)
        box = QRectF(0, 0, min(room.width() + 32, self._frame.width() - 8), 30)
        box.moveCenter(QPointF(self._frame.width() / 2, self._frame.height() / 2))
        painter.fillRect(box, QColor(self._tokens.band))
        painter.setPen(QColor(self._tokens.band_text))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
