"""The Compose desk: strip, Frame with its facts, Plan and Section, settings.

Frame, Plan and Section can each take the large place; a tall format lays the desk out side by side instead.
"""

from __future__ import annotations

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QHBoxLayout, QStackedWidget, QVBoxLayout, QWidget

from altana.app.canvas.frame import FrameView
from altana.app.canvas.plan import PlanView
from altana.app.canvas.section import SectionView
from altana.app.compose.check_all import CheckAllPage
from altana.app.compose.facts import Facts
from altana.app.compose.frame_tools import FrameTools
from altana.app.compose.mending import Mending
from altana.app.compose.pictures import Pictures
from altana.app.compose.places import Places
from altana.app.compose.settings import CameraSettings
from altana.app.compose.strip import Strip
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import rule
from altana.app.workspace.soon import Soon
from altana.app.workspace.view_state import ViewState
from altana.app.workspace.workspace import Workspace
from altana.core.checks.camera_check import CameraCheck
from altana.core.conventions import STANDING_M, Vec3
from altana.core.edits.shots import start_values
from altana.core.project import PANORAMA, Camera


class ComposeDesk(QWidget):
    """Everything that one camera needs in sight at one time."""

    def __init__(self, workspace: Workspace, tokens: Tokens) -> None:
        bridge, state, studio = workspace.bridge, workspace.state, workspace.studio
        super().__init__()
        self._workspace = workspace
        self._bridge, self._state, self._studio = bridge, state, studio
        self.tokens = tokens
        self.book = workspace.book
        self.strip = Strip(workspace, tokens)
        self.frame = FrameView(workspace, tokens, checking=True)
        self.pictures = Pictures(workspace, tokens, self.frame)
        self.plan = PlanView(workspace, tokens)
        self.section = SectionView(workspace, tokens)
        self.settings = CameraSettings(workspace)
        self.check_page = CheckAllPage(workspace, self.strip.thumb)
        self.facts = Facts()
        self.mending = Mending(workspace, self.frame, self.facts, self.settings)
        self._build()
        self.tools = FrameTools(self, self.frame)
        self._connect()

    @property
    def state(self) -> ViewState:
        """What is shown."""
        return self._state

    def _build(self) -> None:
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.strip)
        row.addWidget(rule(vertical=True))
        frame_pane = QWidget()
        column = QVBoxLayout(frame_pane)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.pictures, 1)
        column.addWidget(self.facts)
        self.outer = Places(self._state, frame_pane, self.plan, self.section)
        # The page takes the place of Frame, Plan and Section; strip and settings stay.
        self._middle = QStackedWidget()
        self._middle.addWidget(self.outer)
        self._middle.addWidget(self.check_page)
        row.addWidget(self._middle, 1)
        row.addWidget(rule(vertical=True))
        row.addWidget(self.settings)

    def _connect(self) -> None:
        state, studio = self._state, self._studio
        self._soon = Soon(self, 30, self._show_facts)
        state.shown_changed.connect(self._changed)
        studio.opened.connect(self._show_facts)
        self.book.changed.connect(self._looked_at)
        self._limits = self._bridge.project.limits
        self._bridge.settled.connect(self._follow_limits)
        self.strip.stand.connect(self.arm)
        self.strip.stand_for.connect(lambda shot: self.arm(True, shot))
        for view in (self.plan, self.frame):
            view.stood.connect(lambda: self.arm(False))
        self.mending.aid_shown.connect(self.tools.show_camera)
        self.pictures.flicked.connect(self.tools.show_camera)
        self.pictures.currentChanged.connect(lambda _: self._show_facts())
        self.pictures.round.looked.connect(self._show_facts)
        self.check_page.left.connect(lambda: self.check_all(False))
        self.check_page.go.connect(self._go_to_checked)
        self.settings.cut.pick_wanted.connect(self.pick_wall)
        for sheet in (self.frame, self.plan, self.section):
            sheet.wall_picked.connect(self._take_wall)

    # ------------------------------------------------------------------ places

    def set_large(self, name: str) -> None:
        """Give the large place to Frame, Plan or Section; asked again, the Frame takes it back."""
        self.outer.give(name)
        # The panes have their new sizes only after this has ended.
        QTimer.singleShot(0, self.section.fit)
        if self.outer.large == "plan":
            QTimer.singleShot(0, self.plan.fit)

    # ------------------------------------------------------------------ standing

    def arm(self, on: bool, for_shot: str = "") -> None:
        """Whether the next press on the Plan or in the Frame stands a camera."""
        self.strip.stand_button.setChecked(on)
        self.pick_wall(False)
        self.plan.arm(on, for_shot)
        self.frame.arm(on, for_shot)
        if on:
            self.check_all(False)
            self.plan.setFocus()

    def pick_wall(self, on: bool) -> None:
        """Whether the next press in the Frame, on the plan or section picks a wall for a wall cut."""
        on = on and bool(self._workspace.edits.targets)
        self.settings.cut.pick.setChecked(on)
        for view in (self.frame, self.plan, self.section):
            view.picking_wall = on
            view.update()
        if on:
            self.strip.stand_button.setChecked(False)
            self.plan.standing = self.frame.standing = False
            self.check_all(False)

    def _take_wall(self, place: Vec3) -> None:
        self.pick_wall(False)
        self.settings.cut.take_wall(place)

    def leave_tool(self) -> bool:
        """Leave what the next press would do; whether there was something to leave."""
        picking, standing = self.frame.picking_wall, self.strip.stand_button.isChecked()
        if picking:
            self.pick_wall(False)
        elif standing:
            self.arm(False)
        return picking or standing

    # ------------------------------------------------------------------ checking all

    @property
    def checking(self) -> bool:
        """Whether the page of all checks is in sight."""
        return self._middle.currentIndex() == 1

    def check_all(self, on: bool | None = None) -> None:
        """The page with a row for each camera, or back to Frame, Plan and Section."""
        wanted = not self.checking if on is None else on
        if wanted != self.checking:
            self._middle.setCurrentIndex(1 if wanted else 0)
            (self.check_page.close_button if wanted else self.frame).setFocus()
        if wanted:
            self.check_page.begin()

    def _go_to_checked(self, camera_id: str) -> None:
        self.check_all(False)
        self._state.select(camera_id)

    def use_eye_height(self, height_m: float) -> None:
        """New cameras stand with this eye height."""
        self.plan.eye_height_m = self.frame.eye_height_m = height_m or STANDING_M

    # ------------------------------------------------------------------ facts

    def _changed(self) -> None:
        """While something is dragged the facts follow some thirty times a second; otherwise at once."""
        if not self._bridge.in_gesture:
            self._soon.stop()
            self._show_facts()
        elif not self._soon.isActive():
            self._soon.start()

    def _show_facts(self) -> None:
        self.outer.follow_format()
        camera, scene = self._state.shown, self._studio.scene
        trouble = self.book.standing(camera) if scene is not None and camera is not None else ""
        if camera is not None and self.pictures.all_round:
            width = start_values(self._bridge.project, PANORAMA, camera.id).width_px
            self.facts.show_round(camera, width, self.pictures.round.near, trouble)
            return
        limits = self._bridge.project.limits
        self.facts.show_camera(camera, limits, trouble, scene.axes if scene is not None else ())
        self.facts.show_check(self._found(camera), camera, limits)
        self.tools.show_camera()

    def _follow_limits(self) -> None:
        """Other limits call other lenses wide."""
        if self._bridge.project.limits != self._limits:
            self._limits = self._bridge.project.limits
            self._show_facts()

    def _found(self, camera: Camera | None) -> CameraCheck | None:
        """What was found in a picture; while a camera moves, what was found before stays, figures of moments
        ago."""
        if camera is None:
            return None
        return self.book.of(camera) or (self.book.latest(camera.id) if self._bridge.in_gesture else None)

    def _looked_at(self, camera_id: str) -> None:
        camera = self._state.shown
        if camera is not None and camera.id == camera_id and not self.pictures.all_round:
            self.facts.show_check(self._found(camera), camera, self._bridge.project.limits)
            self.settings.cut.show_camera(
                camera, bool(self._workspace.edits.targets) and self._state.loose is None
            )
            self.frame.update()
