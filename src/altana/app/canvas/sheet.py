"""What Plan and Section share: a sheet in metres that can be moved and zoomed, real cuts on it, tags and dimensions."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt
from PySide6.QtCore import QByteArray, QDataStream, QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QBrush,
    QColor,
    QFont,
    QKeyEvent,
    QPainter,
    QPainterPath,
    QPen,
    QPixmap,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from altana.app.theme.style import text_font
from altana.app.theme.tokens import Tokens
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import Floats, Vec2
from altana.core.edits.bounds import change_wall_cut, with_far, with_near
from altana.core.edits.cameras import change_camera, checked
from altana.core.geometry.drawing import Outline
from altana.core.project import Camera

HANDLE_PX = 11.0
#: How near, in pixels, the pointer must come to be held.
HOLD_PX = 8.0
FARTHEST_SEEN_M = 60.0
NEAREST_BOUND_M = 0.02
FINEST, COARSEST = 400.0, 0.4
_ELEMENT = np.dtype([("kind", ">i4"), ("x", ">f8"), ("y", ">f8")])


def apart(a: QPointF, b: QPointF) -> float:
    """Distance between two places on the sheet, in pixels."""
    return math.hypot(a.x() - b.x(), a.y() - b.y())


def path_of(points: Floats, starts: np.ndarray, fill: Qt.FillRule = Qt.FillRule.WindingFill) -> QPainterPath:
    """A path from (n, 2) points; ``starts`` (n,) bool marks where the pen is lifted.

    Ten thousand lines take a millisecond this way, where one call a line would hold the window up for a frame.
    """
    elements = np.empty(len(points), _ELEMENT)
    elements["kind"] = np.where(starts, 0, 1)
    elements["x"], elements["y"] = points[:, 0], points[:, 1]
    rule = 1 if fill == Qt.FillRule.WindingFill else 0
    data = (
        np.array([len(points)], ">i4").tobytes() + elements.tobytes() + np.array([0, rule], ">i4").tobytes()
    )
    path = QPainterPath()
    if len(points):
        QDataStream(QByteArray(data)) >> path
    return path


def lines_path(lines: npt.NDArray[np.floating]) -> QPainterPath:
    """A path of separate (k, 2, 2) lines."""
    flat = np.asarray(lines, float).reshape(-1, 2)
    return path_of(flat, np.arange(len(flat)) % 2 == 0)


def outlines_path(outlines: Sequence[Outline]) -> QPainterPath:
    """A path of closed and open outlines."""
    if not outlines:
        return QPainterPath()
    points = np.concatenate([item.points for item in outlines])
    starts = np.zeros(len(points), bool)
    starts[np.cumsum([0, *(len(item.points) for item in outlines[:-1])])] = True
    return path_of(points, starts)


@dataclass(slots=True)
class Paths:
    """A drawing ready to be painted, in metres."""

    cut: QPainterPath = field(default_factory=QPainterPath)
    glass: QPainterPath = field(default_factory=QPainterPath)
    beyond: QPainterPath = field(default_factory=QPainterPath)
    fine: QPainterPath = field(default_factory=QPainterPath)
    lines: QPainterPath = field(default_factory=QPainterPath)


@dataclass(slots=True)
class Drag:
    """A drag that goes on: what is dragged, of which camera, from where (metres), and the variant keys held."""

    kind: str
    camera: Camera
    start: Vec2
    moved: bool = False


class Sheet(QWidget):
    """Base of Plan and Section.  Subclasses say what is drawn over the cut and what can be dragged."""

    pointed = Signal(str)
    title = ""

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__()
        self._workspace = workspace
        self._bridge, self._state, self._studio, self._tokens = bridge, state, studio, tokens
        self.paths = Paths()
        self._base: QPixmap | None = None
        self._scale, self._centre = 20.0, (5.0, 8.0)
        self._drag: Drag | None = None
        self._pan: tuple[QPointF, Vec2] | None = None
        self._hover: Vec2 | None = None
        self.setMouseTracking(True)
        self.setMinimumSize(200, 140)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(self.title)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self._redraw = QTimer(self)
        self._redraw.setSingleShot(True)
        self._redraw.setInterval(30)
        self._redraw.timeout.connect(self._repaint_base)

    # ------------------------------------------------------------------ coordinates

    @property
    def px_per_m(self) -> float:
        """How many pixels a metre takes."""
        return self._scale

    def to_screen(self, x: float, y: float) -> QPointF:
        """Metres on the sheet to pixels of the widget."""
        return QPointF(
            self.width() / 2 + (x - self._centre[0]) * self._scale,
            self.height() / 2 - (y - self._centre[1]) * self._scale,
        )

    def to_world(self, point: QPointF) -> Vec2:
        """Pixels of the widget to metres on the sheet."""
        return (
            self._centre[0] + (point.x() - self.width() / 2) / self._scale,
            self._centre[1] - (point.y() - self.height() / 2) / self._scale,
        )

    def fit_to(self, points: Sequence[Sequence[float]]) -> None:
        """Show all of these places, metres on the sheet."""
        low, high = np.min(points, axis=0), np.max(points, axis=0)
        self._centre = (float((low[0] + high[0]) / 2), float((low[1] + high[1]) / 2))
        size = np.maximum(high - low, 2.0) * 1.18 + 1.0
        # Plain numbers: what is read off the sheet goes into the project and its file.
        self._scale = float(max(COARSEST, min((self.width() - 20) / size[0], (self.height() - 40) / size[1])))
        self._repaint_base()

    def zoom(self, factor: float, about: QPointF | None = None) -> None:
        """Zoom about a place of the widget, or its middle."""
        at = about or QPointF(self.width() / 2, self.height() / 2)
        before = self.to_world(at)
        self._scale = min(FINEST, max(COARSEST, self._scale * factor))
        after = self.to_world(at)
        self._centre = (self._centre[0] + before[0] - after[0], self._centre[1] + before[1] - after[1])
        self._repaint_base()

    def _pan_to(self, at: QPointF) -> None:
        if self._pan is not None:
            start, centre = self._pan
            self._centre = (
                centre[0] - (at.x() - start.x()) / self._scale,
                centre[1] + (at.y() - start.y()) / self._scale,
            )
            self._repaint_base()

    # ------------------------------------------------------------------ painting

    def _repaint_base(self) -> None:
        """The drawing itself is painted once for each view of it; cameras go on top."""
        ratio = self.devicePixelRatioF()
        base = QPixmap(round(self.width() * ratio), round(self.height() * ratio))
        base.setDevicePixelRatio(ratio)
        base.fill(QColor(self._tokens.leaf))
        painter = QPainter(base)
        painter.translate(self.width() / 2, self.height() / 2)
        painter.scale(self._scale, -self._scale)
        painter.translate(-self._centre[0], -self._centre[1])
        pencil = QColor(self._tokens.pencil)
        for path, alpha in ((self.paths.fine, 105 if self._scale > 90.0 else 34), (self.paths.beyond, 105)):
            pencil.setAlpha(alpha)
            painter.setPen(_cosmetic(pencil, 1.0))
            painter.drawPath(path)
        painter.setPen(_cosmetic(QColor(self._tokens.reference), 1.0))
        painter.drawPath(self.paths.lines)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(_cosmetic(QColor(self._tokens.ink), 1.0))
        painter.setBrush(QColor(self._tokens.leaf))
        painter.drawPath(self.paths.glass)
        painter.setBrush(QColor(self._tokens.ink))
        painter.drawPath(self.paths.cut)
        painter.resetTransform()
        self._lettering(painter)
        painter.end()
        self._base = base
        self.update()

    def _lettering(self, painter: QPainter) -> None:
        """Names that belong to the drawing."""

    def _paint_ground(self, painter: QPainter, waiting: str) -> None:
        if self._base is None:
            painter.fillRect(self.rect(), QColor(self._tokens.leaf))
            painter.setPen(QColor(self._tokens.pencil))
            painter.setFont(text_font(9.5))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, waiting)
        else:
            painter.drawPixmap(0, 0, self._base)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)

    def _hint(self, painter: QPainter, texts: tuple[str, str]) -> None:
        """What the next press does, on a coloured patch at the foot; the shorter words where there is little room."""
        painter.setFont(text_font(9))
        for text in texts:
            box = QRectF(painter.fontMetrics().boundingRect(text)).adjusted(-12, -5, 12, 5)
            if box.width() <= self.width() - 12:
                break
        box.moveCenter(QPointF(self.width() / 2, self.height() - 22))
        painter.fillRect(box, QColor(self._tokens.verdigris))
        painter.setPen(QColor(self._tokens.on_verdigris))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def _focus_ring(self, painter: QPainter) -> None:
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(QColor(self._tokens.ink), 1))
            painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -1.5, -1.5))
            painter.drawRect(QRectF(self.rect()).adjusted(2.5, 2.5, -3.5, -3.5))

    def _tick(self, painter: QPainter, at: QPointF, heading: float) -> None:
        run = QPointF(math.sin(heading + 0.8) * 5, -math.cos(heading + 0.8) * 5)
        painter.drawLine(at - run, at + run)

    def _tag(
        self, painter: QPainter, at: QPointF, text: str, colour: str = "", taken: list[QRectF] | None = None
    ) -> QRectF:
        """Text on a patch of paper, kept within the sheet and, where ``taken`` is given, clear of what stands there."""
        painter.setFont(text_font(8.5))
        box = QRectF(painter.fontMetrics().boundingRect(text)).adjusted(-4, -1, 4, 1)
        box.moveLeft(min(max(at.x(), 4.0), self.width() - box.width() - 4))
        box.moveTop(min(max(at.y() - box.height() / 2, 4.0), self.height() - box.height() - 4))
        if taken is not None:
            for _ in range(6):
                if not any(box.intersects(other) for other in taken):
                    break
                box.translate(0, box.height() + 1)
            taken.append(box)
        ground = QColor(self._tokens.leaf)
        ground.setAlpha(235)
        painter.fillRect(box, ground)
        painter.setPen(QColor(colour or self._tokens.ink))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
        return box

    def _dimension(
        self, painter: QPainter, a: QPointF, b: QPointF, text: str, taken: list[QRectF] | None = None
    ) -> None:
        """A dimension line with ticks and its figure in the middle."""
        painter.setPen(QPen(QColor(self._tokens.ink), 1.0))
        painter.drawLine(a, b)
        along = math.atan2(b.x() - a.x(), a.y() - b.y())
        for end in (a, b):
            self._tick(painter, end, along)
        self._tag(painter, (a + b) / 2 + QPointF(-18, -9), text, taken=taken)

    def _scale_bar(self, painter: QPainter) -> None:
        painter.setFont(text_font(8.5))
        painter.setPen(QPen(QColor(self._tokens.pencil), 1.3))
        metres = next((m for m in (0.5, 1, 2, 5, 10, 20, 50, 100, 200) if m * self._scale > 50), 200)
        length = metres * self._scale
        right, y = self.width() - 18.0, self.height() - 14.0
        painter.drawLine(QPointF(right - length, y), QPointF(right, y))
        for x in (right - length, right):
            painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))
        painter.drawText(
            QRectF(right - length, y - 19, length, 14), Qt.AlignmentFlag.AlignCenter, f"{metres:g} m"
        )

    def _titled(self, painter: QPainter, detail: str) -> None:
        painter.setFont(text_font(9, QFont.Weight.Bold))
        wide = painter.fontMetrics().horizontalAdvance(self.title)
        painter.setFont(text_font(9))
        detailed = painter.fontMetrics().horizontalAdvance(detail)
        paper = QColor(self._tokens.leaf)
        paper.setAlpha(225)
        painter.fillRect(QRectF(0, 0, wide + detailed + 30, 28), paper)
        painter.setPen(QColor(self._tokens.pencil))
        painter.drawText(QPointF(18 + wide, 20), detail)
        painter.setFont(text_font(9, QFont.Weight.Bold))
        painter.setPen(QColor(self._tokens.ink))
        painter.drawText(QPointF(12, 20), self.title)

    def _square_handle(self, painter: QPainter, at: QPointF, colour: str) -> None:
        painter.setPen(QPen(QColor(colour), 1.6))
        painter.setBrush(QColor(self._tokens.leaf))
        painter.drawRect(QRectF(at.x() - 3.5, at.y() - 3.5, 7, 7))

    def _field_shape(
        self,
        painter: QPainter,
        at: QPointF,
        near: list[QPointF],
        far: list[QPointF],
        beyond: list[QPointF],
        cut: bool,
        loose: bool,
    ) -> None:
        """The field of view from where it begins to what stops it, its two edges, and, hatched, what the bounds cut away.

        beyond : what would stop sight without the far bound; empty where there is none.
        """
        wash, hatch = QColor(self._tokens.verdigris), QColor(self._tokens.saffron)
        wash.setAlpha(26 if loose else 42)
        hatch.setAlpha(150)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(wash)
        # Its edge needs no smoothing, which would cost more than all the rest.
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        painter.drawPolygon(QPolygonF([*near[::-1], *far]))
        if cut:
            painter.setBrush(QBrush(hatch, Qt.BrushStyle.BDiagPattern))
            painter.drawPolygon(QPolygonF([at, *near]))
        if beyond:
            shade = QColor(self._tokens.mulberry)
            shade.setAlpha(120)
            painter.setBrush(QBrush(shade, Qt.BrushStyle.FDiagPattern))
            painter.drawPolygon(QPolygonF([*far, *beyond[::-1]]))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(
            QPen(
                QColor(self._tokens.verdigris), 1.4, Qt.PenStyle.DashLine if loose else Qt.PenStyle.SolidLine
            )
        )
        painter.drawLine(near[0], far[0])
        painter.drawLine(near[-1], far[-1])

    def _preview_bound(self, kind: str, camera: Camera, depth_m: float) -> None:
        """Drag the near or far bound to a depth; they never pass each other."""
        depth = round(depth_m, 2)
        if kind == "near" and depth >= NEAREST_BOUND_M and (camera.far is None or depth < camera.far):
            self._bridge.preview(
                lambda p: change_camera(p, camera.id, lambda _: checked(with_near(camera, depth)))
            )
        elif kind == "far" and depth > (camera.near or NEAREST_BOUND_M):
            self._bridge.preview(
                lambda p: change_camera(p, camera.id, lambda _: checked(with_far(camera, depth)))
            )

    def _near_line(self, painter: QPainter, a: QPointF, b: QPointF, towards_eye: QPointF) -> None:
        """The near bound: solid, with teeth on the side that is cut away."""
        painter.setPen(QPen(QColor(self._tokens.saffron), 2.0))
        painter.drawLine(a, b)
        length = apart(a, b)
        away = math.hypot(towards_eye.x(), towards_eye.y()) or 1.0
        tooth = QPointF(towards_eye.x() / away * 5, towards_eye.y() / away * 5)
        for share in np.arange(4.0, max(length, 4.1), 8.0) / max(length, 1e-6):
            foot = a + (b - a) * float(share)
            painter.drawLine(foot, foot + tooth)

    def _pin(self, painter: QPainter, at: QPointF) -> None:
        """A bound that is fixed in the building: a pin at its end."""
        painter.setPen(QPen(QColor(self._tokens.saffron), 1.8))
        painter.setBrush(QColor(self._tokens.saffron))
        painter.drawEllipse(at, 3.2, 3.2)

    def _far_line(self, painter: QPainter, a: QPointF, b: QPointF, figure: str) -> None:
        """The far bound: long dashes and a figure."""
        pen = QPen(QColor(self._tokens.mulberry), 2.0)
        pen.setDashPattern([7, 4])
        painter.setPen(pen)
        painter.drawLine(a, b)
        self._tag(painter, b + QPointF(4, 0), figure, self._tokens.mulberry)

    def _cut_line(
        self, painter: QPainter, a: QPointF, b: QPointF, into: QPointF, on: bool, text: str
    ) -> None:
        """A wall cut, as drafting draws a cutting line: a chain line with thick ends and arrows into the kept room."""
        colour = QColor(self._tokens.saffron if on else self._tokens.pencil)
        pen = QPen(colour, 1.8 if on else 1.1)
        pen.setDashPattern([9, 3, 1.5, 3])
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawLine(a, b)
        length = apart(a, b) or 1.0
        run = (b - a) / length
        size = math.hypot(into.x(), into.y()) or 1.0
        for end, inwards in ((a, run), (b, -run)):
            painter.setPen(QPen(colour, 4.0 if on else 1.2, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
            painter.drawLine(end, end + inwards * min(10.0, length / 3))
            painter.setPen(QPen(colour, 1.6))
            self._arrow(painter, end + into / size * 14, into)
        middle = (a + b) / 2
        if on:
            self._square_handle(painter, middle, self._tokens.saffron)
        if text:
            self._tag(painter, middle + into / size * 12 + QPointF(6, 4), text)

    def _preview_cut(self, camera: Camera, index: int, offset_m: float) -> None:
        """Drag a wall cut along its normal; near the wall's face it is held there."""
        offset = 0.0 if abs(offset_m) < 0.03 else round(offset_m, 2)
        self._bridge.preview(
            lambda p: change_camera(p, camera.id, lambda _: change_wall_cut(camera, index, offset_m=offset))
        )

    def _arrow(self, painter: QPainter, tip: QPointF, run: QPointF) -> None:
        size = math.hypot(run.x(), run.y()) or 1.0
        unit = run / size
        side = QPointF(-unit.y(), unit.x())
        painter.drawLine(tip - unit * 14, tip)
        painter.drawPolyline(QPolygonF([tip - unit * 6 + side * 4, tip, tip - unit * 6 - side * 4]))

    # ------------------------------------------------------------------ events

    def resizeEvent(self, _: QResizeEvent) -> None:
        """Paint the drawing again for the new size."""
        self._redraw.start()

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Zoom about the pointer."""
        self.zoom(1.0015 ** event.angleDelta().y(), event.position())

    def _zoom_key(self, event: QKeyEvent) -> bool:
        if event.key() in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.zoom(1.25)
        elif event.key() == Qt.Key.Key_Minus:
            self.zoom(0.8)
        else:
            return False
        return True


def _cosmetic(colour: QColor, width: float) -> QPen:
    pen = QPen(colour, width)
    pen.setCosmetic(True)
    return pen
