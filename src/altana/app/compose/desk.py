"""The Compose desk: strip, Frame with its facts, Plan and Section, settings.

Frame, Plan and Section can each take the large place; a tall format lays the desk out side by side instead.
"""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from PySide6.QtCore import QPoint, Qt, QTimer
from PySide6.QtWidgets import QHBoxLayout, QMenu, QSplitter, QStackedWidget, QVBoxLayout, QWidget

from altana.app.canvas.frame import FrameView
from altana.app.canvas.live import FinishedView, RoundPlace
from altana.app.canvas.plan import PlanView
from altana.app.canvas.section import SectionView
from altana.app.canvas.variants import VariantsView
from altana.app.compose.check_all import CheckAllPage
from altana.app.compose.facts import Facts
from altana.app.compose.frame_tools import FrameTools
from altana.app.compose.settings import CameraSettings
from altana.app.compose.strip import Strip
from altana.app.theme.tokens import Tokens
from altana.app.theme.widgets import rule
from altana.app.workspace.view_state import ViewState
from altana.app.workspace.workspace import Workspace
from altana.core.checks.camera_check import MENDS, CameraCheck, Trouble
from altana.core.conventions import COMMON_FOCALS_MM, STANDING_M, Vec3
from altana.core.edits.keeping import add_variant, set_ladder
from altana.core.lens import hold_subject
from altana.core.project import Camera

#: Narrower pictures than this get the desk laid out side by side.
TALL = 0.92
PLACES = ("frame", "plan", "section")


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
        self.variants = VariantsView(workspace, tokens)
        self.finished = FinishedView(workspace, tokens)
        self.round = RoundPlace(workspace, tokens)
        self.plan = PlanView(workspace, tokens)
        self.section = SectionView(workspace, tokens)
        self.settings = CameraSettings(workspace)
        self.check_page = CheckAllPage(workspace, self.strip.thumb)
        self.facts = Facts()
        self.large = "frame"
        self._tall = False
        self._flicked = -1
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
        self.pictures = QStackedWidget()
        self.pictures.addWidget(self.frame)
        for page in (self.variants, self.finished, self.round):
            self.pictures.addWidget(page)
        frame_pane = QWidget()
        column = QVBoxLayout(frame_pane)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.pictures, 1)
        column.addWidget(self.facts)
        self._panes: dict[str, QWidget] = {"frame": frame_pane, "plan": self.plan, "section": self.section}
        self.outer = QSplitter(Qt.Orientation.Vertical)
        self._inner = QSplitter(Qt.Orientation.Horizontal)
        for split in (self.outer, self._inner):
            split.setChildrenCollapsible(False)
            split.setHandleWidth(1)
        # The page takes the place of Frame, Plan and Section; strip and settings stay.
        self._middle = QStackedWidget()
        self._middle.addWidget(self.outer)
        self._middle.addWidget(self.check_page)
        row.addWidget(self._middle, 1)
        row.addWidget(rule(vertical=True))
        row.addWidget(self.settings)
        self._lay_out()

    def _connect(self) -> None:
        state, studio = self._state, self._studio
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(30)
        self._soon.timeout.connect(self._show_facts)
        state.shown_changed.connect(self._changed)
        studio.opened.connect(self._show_facts)
        self.book.changed.connect(self._looked_at)
        self._limits = self._bridge.project.limits
        self._bridge.settled.connect(self._follow_limits)
        self.strip.stand.connect(self.arm)
        self.strip.stand_for.connect(lambda shot: self.arm(True, shot))
        for view in (self.plan, self.frame):
            view.stood.connect(lambda: self.arm(False))
        self.facts.mend.connect(self._mend)
        self.variants.left.connect(lambda: self.compare(False))
        for live in (self.finished, self.round):
            live.left.connect(lambda: self.look_at(self.frame))
        self.check_page.left.connect(lambda: self.check_all(False))
        self.check_page.go.connect(self._go_to_checked)
        self.settings.cut.pick_wanted.connect(self.pick_wall)
        for sheet in (self.frame, self.plan, self.section):
            sheet.wall_picked.connect(self._take_wall)

    # ------------------------------------------------------------------ places

    def _lay_out(self) -> None:
        """Put the large pane first and the two others beside or below it."""
        others = [name for name in PLACES if name != self.large]
        tall = self._tall and self.large == "frame"
        self.outer.setOrientation(Qt.Orientation.Horizontal if tall else Qt.Orientation.Vertical)
        self._inner.setOrientation(Qt.Orientation.Vertical if tall else Qt.Orientation.Horizontal)
        self.outer.insertWidget(0, self._panes[self.large])
        self.outer.insertWidget(1, self._inner)
        for index, name in enumerate(others):
            self._inner.insertWidget(index, self._panes[name])
        self.outer.setSizes(self._tall_sizes() if tall else [430, 300])
        self._inner.setSizes([500, 500])
        for index, stretch in ((0, 3), (1, 2)):
            self.outer.setStretchFactor(index, stretch)
            self._inner.setStretchFactor(index, 1)
        # The sheets ask for different least sizes; evened out once they have their place.
        QTimer.singleShot(0, lambda: self._inner.setSizes([1000, 1000]))

    def _tall_sizes(self) -> list[int]:
        """As wide as a tall picture needs at this height, within reason."""
        camera = self._state.shown
        whole = max(self.outer.width(), 600)
        proportion = camera.width_px / camera.height_px if camera is not None else 0.8
        wanted = round(max(self.outer.height() - 62, 300) * proportion + 172)
        large = min(max(wanted, round(whole * 0.45)), round(whole * 0.64))
        return [large, whole - large]

    def set_large(self, name: str) -> None:
        """Give the large place to Frame, Plan or Section; asked again, the Frame takes it back."""
        self.large = "frame" if name == self.large else name
        self._lay_out()
        self._panes[self.large].setFocus()
        # The panes have their new sizes only after this has ended.
        QTimer.singleShot(0, self.section.fit)
        if self.large == "plan":
            QTimer.singleShot(0, self.plan.fit)

    def _follow_format(self) -> None:
        camera = self._state.shown
        tall = camera is not None and camera.width_px / camera.height_px < TALL
        if tall != self._tall:
            self._tall = tall
            if self.large == "frame":
                self._lay_out()

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
        self._follow_format()
        camera, scene = self._state.shown, self._studio.scene
        trouble = self.book.standing(camera) if scene is not None and camera is not None else ""
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
        """What was found in a picture; while a camera moves, what was found before stays, figures of moments ago."""
        if camera is None:
            return None
        return self.book.of(camera) or (self.book.latest(camera.id) if self._bridge.in_gesture else None)

    def _looked_at(self, camera_id: str) -> None:
        camera = self._state.shown
        if camera is not None and camera.id == camera_id:
            self.facts.show_check(self._found(camera), camera, self._bridge.project.limits)
            self.settings.cut.show_camera(
                camera, bool(self._workspace.edits.targets) and self._state.loose is None
            )
            self.frame.update()

    def _troubles(self) -> tuple[Trouble, ...]:
        camera = self._state.shown
        return self.book.troubles(camera) if camera is not None else ()

    def fill_mends(self, menu: QMenu, codes: tuple[str, ...]) -> None:
        """The mends of some kinds of trouble of the shown camera; for cut faces also what is opened, to be chosen."""
        active = self._state.active
        usable = active is not None and not active.locked and self._state.held
        for trouble in self._troubles():
            if trouble.code not in codes:
                continue
            for code in trouble.mends:
                if code != "go" and active is not None:
                    action = menu.addAction(
                        MENDS[code], partial(self.book.mend, (active.id,), code, MENDS[code])
                    )
                    action.setEnabled(usable)
        if "cut" in codes and self.facts.opened:
            menu.addSeparator()
            for object_id, name in self.facts.opened[:14]:
                menu.addAction(f"Choose {name}", partial(self._choose_object, object_id))
        if not usable:
            menu.addAction("The view is loose: go back to the camera first").setEnabled(False)

    def _choose_object(self, object_id: str) -> None:
        self._state.choose_object(object_id)
        self.frame.update()

    def _offer_mends(self, fact: str) -> None:
        """A fact in trouble was pressed: where it is shows in the Frame, its mends in a menu below the fact."""
        aid, codes = {
            "cut": ("cut faces", ("cut",)),
            "gap": ("gaps", ("gap", "ground")),
            "far": ("gaps", ("far",)),
        }[fact]
        if aid not in self.frame.aids:
            self.frame.toggle_aid(aid)
            self.tools.show_camera()
        self.mend_menu = QMenu(self)
        self.fill_mends(self.mend_menu, codes)
        place = self.facts.buttons[fact]
        self.mend_menu.popup(
            place.mapToGlobal(place.rect().topLeft()) - QPoint(0, self.mend_menu.sizeHint().height())
        )

    def _mend(self, fact: str) -> None:
        """A fact in trouble was pressed."""
        active = self._state.active
        if fact == "edges":
            self._choose_object(self.facts.grazed)
        elif fact in ("cut", "gap", "far"):
            self._offer_mends(fact)
        elif active is None or active.locked or not self._state.held:
            self._bridge.notices.trouble(
                "The view is loose: go back to the camera, or move it here, then mend it."
            )
        elif fact == "lean":
            self.settings.verticals.plumb_now()
        elif fact == "eye":
            self.settings.standpoint.take_height(STANDING_M)
        elif fact == "stretch":
            longer = next(
                (value for value in COMMON_FOCALS_MM if value > active.focal_mm + 0.01), active.focal_mm
            )
            self._workspace.edits.commit("Calmer lens", hold_subject, longer)

    # ------------------------------------------------------------------ variants

    @property
    def comparing(self) -> bool:
        """Whether variants stand side by side in place of the Frame."""
        return self.pictures.currentWidget() is self.variants

    def compare(self, on: bool | None = None) -> None:
        """Variants side by side, or the one picture."""
        wanted = not self.comparing if on is None else on
        self.look_at(self.variants if wanted else self.frame)

    def look_at(self, page: QWidget) -> None:
        """What takes the large place: the Frame, its variants, the picture as it will be made, the panorama from here; what
        is there already gives way to the Frame."""
        self._flick_to(-1)
        page = self.frame if page is self.pictures.currentWidget() else page
        self.pictures.setCurrentWidget(page)
        page.setFocus()

    def keep_try(self) -> None:
        """Keep what the Frame shows as a variant of the camera: the loose view, or the camera as it is."""
        active, loose = self._state.active, self._state.loose
        if active is None:
            return
        tried = (
            replace(active.with_view(loose.pose, loose.lens), aim_m=loose.aim_m)
            if loose is not None
            else None
        )
        self._bridge.apply("Keep a try", lambda p: add_variant(p, active.id, tried))

    def take_ladder(self, kind: str) -> None:
        """Lay a ladder of tries beside the camera."""
        active = self._state.active
        if active is not None and self._bridge.apply(
            f"Ladder of {kind}", lambda p: set_ladder(p, active.id, kind)
        ):
            self.compare(True)

    def flick(self) -> None:
        """Show the next variant in the Frame, and after the last the camera again."""
        active = self._state.active
        if active is None or not active.variants:
            return
        self._flick_to(self._flicked + 1 if self._flicked + 1 < len(active.variants) else -1)

    def _flick_to(self, index: int) -> None:
        active = self._state.active
        self._flicked = index if active is not None and index < len(active.variants) else -1
        before = self.frame.override
        self.frame.override = active.variants[index] if active is not None and index >= 0 else None
        if before is not self.frame.override:
            self.frame.refresh()
            self.tools.show_camera()

    def leave_flicking(self) -> None:
        """Back from a variant to the camera itself."""
        self._flick_to(-1)
