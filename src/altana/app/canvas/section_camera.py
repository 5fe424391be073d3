"""The shown camera on the section: its field of view up and down, its bounds, its heights."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Protocol

import numpy as np
from PySide6.QtCore import QPointF, QRect, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from altana.app.canvas.gestures.section import LowerEdgeGesture, UpperEdgeGesture
from altana.app.canvas.gestures.sheet import Grip, SheetGesture
from altana.app.canvas.marks import Marks
from altana.app.canvas.sheet import FARTHEST_SEEN_M
from altana.app.theme.lengths import length
from altana.app.theme.tokens import Tokens
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.camera.bounds import look, place_of_sight, sight_begins, sight_ends
from altana.core.camera.wall_cut import WallCut
from altana.core.conventions import Vec2
from altana.core.project import Camera

FAN_RAYS = 33


class SectionGround(Protocol):
    """What the camera needs of the section on which it is drawn."""

    marks: Marks
    gesture: SheetGesture | None

    @property
    def px_per_m(self) -> float:
        """How many pixels a metre takes."""

    def place_of(self, camera: Camera) -> Vec2:
        """Where the eye lies on the sheet."""

    def to_screen(self, x: float, y: float) -> QPointF:
        """Metres on the sheet to pixels of the widget."""

    def width(self) -> int:
        """Pixels."""

    def height(self) -> int:
        """Pixels."""

    def rect(self) -> QRect:
        """The whole sheet."""


class SectionCamera:
    """Paints the shown camera on one section."""

    def __init__(self, section: SectionGround, workspace: Workspace, tokens: Tokens) -> None:
        self._section, self._tokens = section, tokens
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio
        self._stops = (FARTHEST_SEEN_M, FARTHEST_SEEN_M)

    def _directions(self, camera: Camera) -> np.ndarray:
        """Elevations (radians) of the rays in the plane of sight, from the frame's lower to its upper
        edge."""
        _, _, bottom, top = camera.view().edges()
        return math.radians(camera.tilt_deg) + np.arctan(np.linspace(bottom, top, FAN_RAYS))

    def _reaches(self, camera: Camera, elevation: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Where sight begins, what stops it, and what would without the far bound, metres along each ray."""
        turn = math.radians(camera.heading_deg)
        level = np.cos(elevation)
        directions = np.stack([math.sin(turn) * level, math.cos(turn) * level, np.sin(elevation)], axis=1)
        view = camera.view()
        start, reach = sight_begins(view, directions), np.full(len(elevation), FARTHEST_SEEN_M)
        scene = self._studio.scene
        if scene is not None:
            _, met = look(replace(view, far_m=None), scene.rays, directions, scene.panes)
            reach = np.minimum(met.distance_m, FARTHEST_SEEN_M)
        stop = np.minimum(reach, sight_ends(view, directions))
        return start, np.maximum(stop, start), np.maximum(reach, start)

    def at(self, camera: Camera, elevation: float, length: float) -> QPointF:
        s, z = self._section.place_of(camera)
        return self._section.to_screen(s + math.cos(elevation) * length, z + math.sin(elevation) * length)

    def paint(self, painter: QPainter, camera: Camera) -> None:
        """The camera with what it sees, its bounds and heights."""
        loose = self._state.loose is not None
        green = QColor(self._tokens.verdigris)
        at = self._section.to_screen(*self._section.place_of(camera))
        elevation = self._directions(camera)
        start, reach, without = self._reaches(camera, elevation)
        self._stops = (float(reach[0]), float(reach[-1]))
        near = [self.at(camera, e, r) for e, r in zip(elevation.tolist(), start.tolist(), strict=True)]
        far = [self.at(camera, e, r) for e, r in zip(elevation.tolist(), reach.tolist(), strict=True)]
        beyond = [self.at(camera, e, r) for e, r in zip(elevation.tolist(), without.tolist(), strict=True)]
        cut = camera.near is not None or any(item.holds(camera.eye) for item in camera.cuts)
        self._section.marks.field_shape(
            painter, at, near, far, beyond if camera.far is not None else [], cut, loose
        )
        painter.setPen(QPen(green, 1.1, Qt.PenStyle.DotLine))
        aim = self.at(camera, aimed(camera), camera.aim_m)
        painter.drawLine(at, aim)
        self._bounds(painter, camera, at)
        self._heights(painter, camera, at, aim)
        painter.setPen(QPen(green, 2.0))
        painter.setBrush(QColor(self._tokens.leaf))
        painter.drawEllipse(aim, 4.5, 4.5)
        painter.setBrush(QColor(self._tokens.leaf) if loose else green)
        painter.drawEllipse(at, 6.0, 6.0)
        for grip in self.edge_grips(camera):
            self._section.marks.square_handle(painter, grip.at, self._tokens.verdigris)

    def marks(self, camera: Camera) -> list[QRectF]:
        """Where eye, aim and the handles of the edges lie."""
        at = self._section.to_screen(*self._section.place_of(camera))
        places = [at, self.at(camera, aimed(camera), camera.aim_m), *(g.at for g in self.edge_grips(camera))]
        return [QRectF(place.x() - 7.0, place.y() - 7.0, 14.0, 14.0) for place in places]

    def _bounds(self, painter: QPainter, camera: Camera, at: QPointF) -> None:
        _, _, bottom, top = camera.view().edges()
        tilt = math.radians(camera.tilt_deg)
        side = QPointF(-math.sin(tilt), -math.cos(tilt)) * self._section.px_per_m
        for kind, depth in (("near", camera.near), ("far", camera.far)):
            if depth is None:
                continue
            middle = self.at(camera, tilt, depth)
            grow = max(depth, 9.0 / self._section.px_per_m)
            a, b = middle + side * bottom * grow, middle + side * top * grow
            if kind == "near":
                self._section.marks.near_line(painter, a, b, at - middle)
                fixed = tr(", fixed") if camera.near_at is not None else ""
                self._section.marks.tag(
                    painter,
                    b + QPointF(-36, -14),
                    tr("near {depth:.2f} m{fixed}", depth=depth, fixed=fixed),
                    self._tokens.ink,
                )
                if fixed:
                    self._section.marks.pin(painter, b)
            elif self._section.rect().contains(middle.toPoint()):
                self._section.marks.far_line(painter, a, b, tr("far {depth}", depth=length(depth, 1)))
            else:
                tip = QPointF(
                    self._section.width() - 30, min(max(middle.y(), 44.0), self._section.height() - 40)
                )
                painter.setPen(QPen(QColor(self._tokens.mulberry), 2.0))
                self._section.marks.arrow(painter, tip, QPointF(1, 0))
                self._section.marks.tag(
                    painter,
                    tip + QPointF(-50, -14),
                    tr("far {depth:.0f} m", depth=depth),
                    self._tokens.mulberry,
                )
        for cut in camera.wall_cuts:
            ends = self.cut_ends(camera, cut)
            if ends is not None:
                self._section.marks.cut_line(
                    painter, *ends, cut.on, f"{cut.offset_m:+.2f} m" if cut.offset_m else ""
                )

    def cut_ends(self, camera: Camera, cut: WallCut) -> tuple[QPointF, QPointF, QPointF] | None:
        """Where a wall cut crosses the section: its foot, its head and the way into the room; None where it
        does not."""
        turn = math.radians(camera.heading_deg)
        ahead = np.array([math.sin(turn), math.cos(turn), 0.0])
        facing = float(ahead @ cut.normal)
        if abs(facing) < 0.05:
            return None
        away = (cut.at_m - float(np.asarray(camera.eye) @ cut.normal)) / facing
        aside = float((np.asarray(camera.eye) + ahead * away - np.asarray(cut.place)) @ cut.along)
        if not -cut.left_m <= aside <= cut.right_m:
            return None
        s = self._section.place_of(camera)[0] + away
        low, high = max(cut.place[2] - cut.down_m, -200.0), min(cut.place[2] + cut.up_m, 400.0)
        return (
            self._section.to_screen(s, low),
            self._section.to_screen(s, high),
            QPointF(math.copysign(1.0, facing), 0.0),
        )

    def _heights(self, painter: QPainter, camera: Camera, at: QPointF, aim: QPointF) -> None:
        """Eye above the floor, clear height to the ceiling, and the floor under what is looked at."""
        scene = self._studio.scene
        if scene is None:
            return
        taken: list[QRectF] = [QRectF(at.x() - 8, at.y() - 8, 16, 16)]
        s, z = self._section.place_of(camera)
        here, floor = scene.footing(place_of_sight(camera)), scene.floor_m(camera)
        left = at - QPointF(16, 0)
        if floor is not None and z - floor < 60:
            self._section.marks.dimension(
                painter,
                QPointF(left.x(), self._section.to_screen(s, floor).y()),
                left,
                f"{length(z - floor)}",
                taken,
            )
        if here.ceiling_m is not None and (self._section.gesture is not None or self._section.height() > 330):
            top = QPointF(left.x(), self._section.to_screen(s, here.ceiling_m).y())
            self._section.marks.dimension(painter, left, top, f"{length(here.ceiling_m - z)}", taken)
        beneath = scene.footing(camera.aim)
        if beneath.floor_m is not None and self._section.rect().contains(aim.toPoint()):
            foot = QPointF(aim.x(), self._section.to_screen(s, beneath.floor_m).y())
            pen = QPen(QColor(self._tokens.pencil), 1.0, Qt.PenStyle.DotLine)
            painter.setPen(pen)
            painter.drawLine(aim, foot)
            if self._section.gesture is not None:
                self._section.marks.tag(
                    painter,
                    (aim + foot) / 2 + QPointF(5, 0),
                    f"{length(camera.aim[2] - beneath.floor_m)}",
                    taken=taken,
                )
        if self._section.gesture is not None:
            words = tr("{aim_m} · tilt {tilt_deg:.1f}°", aim_m=length(camera.aim_m), tilt_deg=camera.tilt_deg)
            self._section.marks.tag(painter, aim + QPointF(9, -12), words, taken=taken)
            if isinstance(self._section.gesture, UpperEdgeGesture):
                self._section.marks.tag(
                    painter,
                    self.edge_grips(camera)[0].at + QPointF(9, -8),
                    tr("rise {rise_mm:.1f} mm", rise_mm=camera.rise_mm),
                    taken=taken,
                )

    def edge_grips(self, camera: Camera) -> list[Grip]:
        """The grips at the upper and the lower edge of the frame."""
        _, _, bottom, top = camera.view().edges()
        tilt = math.radians(camera.tilt_deg)
        reach = min(camera.aim_m * 0.8, 0.4 * self._section.width() / self._section.px_per_m)
        grips = []
        for kind, edge, stop in (
            (UpperEdgeGesture, top, self._stops[1]),
            (LowerEdgeGesture, bottom, self._stops[0]),
        ):
            length = reach / max(math.cos(math.atan(edge)), 0.2)
            if self._section.gesture is None:
                # Handles stay on the drawn edge, this side of what stops it.
                length = min(length, max(stop * 0.92, 24.0 / self._section.px_per_m))
            grips.append(Grip(self.at(camera, tilt + math.atan(edge), length), kind))
        return grips


def aimed(camera: Camera) -> float:
    """Elevation, in radians, of the line that the aim is drawn on: a camera that is kept plumb aims by its
    rise."""
    tilt = math.radians(camera.tilt_deg)
    return tilt + math.atan2(camera.rise_mm, camera.focal_mm) if camera.kept_plumb else tilt
