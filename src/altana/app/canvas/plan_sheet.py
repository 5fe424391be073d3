"""What the Plan draws: a real cut through the storey, room names, cameras and what they see."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF, QResizeEvent, QShowEvent

from altana.app.canvas.gestures.stand import StandGesture
from altana.app.canvas.holding import Holding
from altana.app.canvas.never_seen import NeverSeen
from altana.app.canvas.plan_cameras import PlanCameras
from altana.app.canvas.plan_controls import PlanControls
from altana.app.canvas.room_names import paint_room_names
from altana.app.canvas.sheet import Sheet
from altana.app.canvas.sun_path import SunPath
from altana.app.theme.lengths import length
from altana.app.theme.style import text_font
from altana.app.theme.tokens import LIGHT, Tokens
from altana.app.theme.words import tr
from altana.app.workspace.scene import Scene
from altana.app.workspace.soon import Soon
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import STANDING_M, Bools, Vec2, Vec3
from altana.core.geometry.drawing import PlanDrawing
from altana.core.geometry.snapping import Snap, SnapGrid
from altana.core.model import LOWEST_EYE_M, Storey
from altana.core.project import Camera
from altana.core.ranges import CUT_RANGE_M

CUT_ABOVE_FLOOR_M = 1.2
#: What a press does while something is armed, in a long and a short form.
STANDING_HINTS = (
    tr("Press where the eye is, drag to what it looks at (Return: in the middle). Escape leaves."),
    tr("Press: eye. Drag: aim. Escape leaves."),
)
WALL_HINTS = (
    tr("Press on the wall to look past: a cut along its inner face. Escape leaves."),
    tr("Press on a wall. Escape leaves."),
)


class PlanSheet(Sheet):
    """One storey as drawn: its cut, its rooms' names, the cameras on it.  What hands do with it is in
    ``PlanView``."""

    title = tr("Plan")

    #: The camera that is being stood.
    _stood: StandGesture | None = None

    def __init__(self, workspace: Workspace, tokens: Tokens, channel: str = "plan") -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        # A drawing stands on white paper, whatever the chrome is.
        tokens = LIGHT
        super().__init__(workspace, tokens)
        self._channel = channel
        self.storey: Storey | None = None
        self.cut_above_m = CUT_ABOVE_FLOOR_M
        self.lines = workspace.lines
        self.lines.changed.connect(self._lines_changed)
        self.holding = Holding()
        self.drawing: PlanDrawing | None = None
        self.cameras = PlanCameras(self, workspace, tokens)
        self.sun = SunPath(self, bridge, tokens)
        self.standing = False
        #: The next press picks a wall for a wall cut.
        self.picking_wall = False
        #: Objects that no picture shows, laid over the drawing while coverage is looked at.
        self.never_seen = NeverSeen()
        self.for_shot = ""
        self.drawing_route = False
        self.eye_height_m = STANDING_M
        self.overlay: Callable[[QPainter, PlanSheet], None] | None = None
        self._fitted_for = ""
        self._due = False
        self.controls = PlanControls(self)
        self._reorder = Soon(self, 20, self._order)
        state.shown_changed.connect(self.update)
        state.selection_changed.connect(self._follow_selection)
        state.hiding_changed.connect(self._order)
        for signal in (bridge.cameras_changed, bridge.light_changed, state.sun_changed):
            signal.connect(self.update)
        studio.plan.connect(self._take_drawing)
        studio.opened.connect(self._scene_opened)

    @property
    def dragging(self) -> bool:
        """Whether something is dragged, or a camera being stood."""
        return self.gesture is not None or self._stood is not None

    @property
    def dimensioned(self) -> bool:
        """Whether dimensions are said: while a camera is stood, or something has been dragged."""
        return self._stood is not None or (self.gesture is not None and self.gesture.moved)

    @property
    def scene(self) -> Scene | None:
        """The model that is open."""
        return self._studio.scene

    # ------------------------------------------------------------------ storey and drawing

    def _scene_opened(self) -> None:
        self.storey = None
        self.drawing = None
        scene = self._studio.scene
        self.controls.show_model(scene.model if scene is not None else None)
        if scene is None:
            return
        self._follow_selection()
        if self.storey is None:
            storeys = scene.model.storeys
            self.choose_storey(min(storeys, key=lambda item: abs(item.elevation_m)) if storeys else None)
        self.controls.place()

    def choose_storey(self, storey: Storey | None) -> None:
        """Show a storey; its drawing comes from the drafting process."""
        self.storey = storey
        scene = self._studio.scene
        if scene is not None and storey in scene.model.storeys:
            self.controls.storeys.setCurrentIndex(
                len(scene.model.storeys) - 1 - scene.model.storeys.index(storey)
            )
        self._order()
        self.update()

    def storey_chosen(self, index: int) -> None:
        """A storey by its place in the list, the uppermost first."""
        scene = self._studio.scene
        if scene is not None and 0 <= index < len(scene.model.storeys):
            self.choose_storey(scene.model.storeys[::-1][index])

    def step_storey(self, up: int) -> None:
        """The storey above (1) or below (-1)."""
        index = self.controls.storeys.currentIndex() - up
        if 0 <= index < self.controls.storeys.count():
            self.storey_chosen(index)

    def set_cut(self, above_m: float) -> None:
        """Cut at another height above the storey's floor."""
        self.cut_above_m = min(CUT_RANGE_M.high, max(CUT_RANGE_M.low, above_m))
        self.controls.cut_field.show_value(self.cut_above_m)
        self._reorder.start()

    def _lines_changed(self) -> None:
        self._set_lines()
        self.repaint_base()

    def _order(self) -> None:
        if self.storey is None:
            return
        # A plan that nobody sees waits until it comes to sight.
        self._due = not self.isVisible()
        if not self._due:
            scene = self._studio.scene
            hidden = (
                self._state.hiding.applied(scene.lookup.staging(self._bridge.project, None), scene.lookup)
                if scene
                else None
            )
            gone = (*hidden.omitted, *hidden.faint) if hidden is not None and self._state.hiding else ()
            floor = self.storey.elevation_m
            self._studio.order_plan(self._channel, floor, floor + self.cut_above_m, gone)

    def showEvent(self, event: QShowEvent) -> None:
        """A plan that comes to sight asks for what it missed."""
        super().showEvent(event)
        if self.overlay is None:
            self._follow_selection()
        if self._due:
            self._order()

    def _follow_selection(self) -> None:
        scene, camera = self._studio.scene, self._state.active
        # While a camera is stood or dragged here nothing moves under the pointer.
        if scene is None or camera is None or not self.isVisible() or self._stood is not None or self.gesture:
            return
        wanted = scene.model.storey_of_eye(camera.eye)
        if wanted is not None and wanted != self.storey:
            self.choose_storey(wanted)
        if not self._in_sight(camera.eye):
            self.centre_on(camera)
        self.update()

    def centre_on(self, camera: Camera) -> None:
        """Move the sheet so that a camera and what it looks at are in sight."""
        # Eye and subject together say more than the eye alone.
        ahead = camera.pose.point_ahead(min(camera.aim_m, 20.0) * 0.5)
        self.centre = (ahead[0], ahead[1])
        self.repaint_base()

    def _in_sight(self, eye: Vec3) -> bool:
        return self.rect().adjusted(20, 20, -20, -20).contains(self.to_screen(eye[0], eye[1]).toPoint())

    def _take_drawing(self, channel: str, drawing: PlanDrawing, snaps: SnapGrid) -> None:
        if (
            channel != self._channel
            or self.storey is None
            or abs(drawing.floor_m - self.storey.elevation_m) > 1e-6
        ):
            return
        self.drawing, self.holding.grid = drawing, snaps
        self.paths.show(drawing.outlines, drawing.beyond, drawing.fine)
        self.never_seen.show(self.never_seen.numbers, drawing.outlines)
        self._set_lines()
        fits = self._fitted_for == (self._studio.scene.model.source if self._studio.scene else "")
        if fits or not self.fit():
            self.repaint_base()

    def show_unseen(self, numbers: frozenset[int]) -> None:
        """Lay over the drawing what is never seen; nothing takes the overlay away."""
        self.never_seen.show(numbers, self.drawing.outlines if self.drawing is not None else ())
        self.update()

    def _paint_unseen(self, painter: QPainter) -> None:
        painter.save()
        painter.translate(self.width() / 2, self.height() / 2)
        painter.scale(self._scale, -self._scale)
        painter.translate(-self.centre[0], -self.centre[1])
        self.never_seen.paint(painter, self._tokens.brick)
        painter.restore()
        self.marks.tag(painter, QPointF(12, self.height() - 20), self.never_seen.words, self._tokens.brick)

    def _set_lines(self) -> None:
        scene = self._studio.scene
        linework = scene.model.linework if scene is not None else None
        self.paths.lines.lay_of(linework, self.lines.which, lambda: self.lines.on_plan(linework))
        off = len(self.lines.off & set(linework.layers)) if linework is not None else 0
        some = (
            tr("{shown} of {whole}", shown=len(linework.layers) - off, whole=len(linework.layers))
            if linework is not None and off
            else ""
        )
        words = tr("off") if not self.lines.shown else some
        self.controls.lines_button.setText(tr("Lines: {words} ▾", words=words) if words else tr("Lines ▾"))
        self.controls.place()

    def fit(self) -> bool:
        """Show the whole building: the rooms, else what is cut.  False where nothing is known to be shown."""
        scene = self._studio.scene
        if scene is None:
            return False
        self._fitted_for = scene.model.source
        points: list[Vec2] = [point for room in scene.model.rooms for point in room.outline]
        points += [(camera.eye[0], camera.eye[1]) for camera in self._bridge.project.cameras if camera.inside]
        cut = self.drawing.outlines if self.drawing is not None else ()
        places = np.array(points) if points or not cut else np.concatenate([item.points for item in cut])
        if not len(places):
            return False
        self.fit_to(places)
        return True

    # ------------------------------------------------------------------ painting

    def _lettering(self, painter: QPainter) -> None:
        if self.scene is not None and self.storey is not None:
            rooms = [room for room in self.scene.model.rooms if room.storey_id == self.storey.id]
            over = [self.marks.title_box(self.title, self._detail()), *self.controls.boxes()]
            self.cameras.lettered = paint_room_names(
                painter, rooms, self.to_screen, self._tokens, over, self.cameras.marks()
            )

    def _detail(self) -> str:
        """How the plan is cut."""
        if self.storey is None:
            return ""
        above = length(self.cut_above_m)
        return tr("cut {cut_above_m} above {name}", cut_above_m=above, name=self.storey.name)

    def paintEvent(self, _: QPaintEvent) -> None:
        """The drawing, then cameras, then what a drag says."""
        painter = QPainter(self)
        self._paint_ground(
            painter, tr("Drawing the plan…") if self._studio.scene or self.storey else tr("No model yet")
        )
        if self.never_seen.numbers:
            self._paint_unseen(painter)
        if self.overlay is not None:
            self.overlay(painter, self)
        else:
            self.cameras.paint(painter)
        if self._state.sun_shown:
            self.sun.paint(painter)
        if self.holding.by is not None:
            self._hold_mark(painter, self.holding.by)
        if self.standing:
            self.marks.hint(painter, STANDING_HINTS)
        elif self.picking_wall:
            self.marks.hint(painter, WALL_HINTS)
        self.marks.titled(painter, self.title, self._detail())
        self._north(painter)
        self.marks.scale_bar(painter, self._scale)
        self.marks.focus_ring(painter)
        painter.end()

    def _same_storey(self, camera: Camera) -> bool:
        scene = self._studio.scene
        return scene is None or self.storey is None or scene.model.storey_of_eye(camera.eye) == self.storey

    def on_storey(self, cameras: list[Camera]) -> Bools:
        """(n,) bool: which cameras stand on the storey that is shown."""
        scene = self._studio.scene
        if scene is None or self.storey is None or not scene.model.storeys:
            return np.ones(len(cameras), bool)
        floors = np.array(sorted(item.elevation_m for item in scene.model.storeys))
        heights = np.array([camera.eye[2] for camera in cameras]) - LOWEST_EYE_M
        index = np.maximum(np.searchsorted(floors, heights + 0.05, side="right") - 1, 0)
        same: Bools = np.abs(floors[index] - self.storey.elevation_m) < 1e-9
        return same

    def _hold_mark(self, painter: QPainter, snap: Snap) -> None:
        at = self.to_screen(*snap.place)
        painter.setPen(QPen(QColor(self._tokens.ink), 1.2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for run in (QPointF(7, 7), QPointF(7, -7)):
            painter.drawLine(at - run, at + run)
        self.marks.tag(painter, at + QPointF(11, -12), snap.kind)

    def _north(self, painter: QPainter) -> None:
        painter.setPen(QPen(QColor(self._tokens.pencil), 1.3))
        middle = QPointF(self.width() - 24, 27 if self.width() > 430 else 77)
        painter.save()
        painter.translate(middle)
        painter.rotate(self._bridge.project.light.north_deg)
        painter.drawLine(QPointF(0, -11), QPointF(0, 11))
        painter.drawPolyline(QPolygonF([QPointF(-4, -5), QPointF(0, -11), QPointF(4, -5)]))
        painter.restore()
        painter.setFont(text_font(8.5))
        painter.drawText(middle + QPointF(-4, 25), "N")

    def resizeEvent(self, event: QResizeEvent) -> None:
        """The controls keep their corner."""
        super().resizeEvent(event)
        self.controls.place()
