"""The one window: top bar, desks, and the line at the bottom."""

from __future__ import annotations

import math
from collections.abc import Iterable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QSettings, Qt, QTimer, QUrl
from PySide6.QtGui import QCloseEvent, QDesktopServices, QDragEnterEvent, QDropEvent, QGuiApplication, QImage, QKeyEvent
from PySide6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QInputDialog,
    QMainWindow,
    QMenu,
    QProgressBar,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from altana.app.canvas.aids import AIDS
from altana.app.canvas.picture_view import pixels_of
from altana.app.compose.desk import ComposeDesk
from altana.app.hand_over.desk import HandOverDesk
from altana.app.model.desk import ModelDesk
from altana.app.shell.camera_menu import CameraMenu
from altana.app.shell.commands import MENUS, Action, ActionTable, ShortcutPage
from altana.app.shell.export import ExportSheet
from altana.app.shell.files import ProjectFiles
from altana.app.shell.notice_bar import NoticeBar
from altana.app.shell.search import Entry, SearchField
from altana.app.theme.tokens import LIGHT, Tokens
from altana.app.theme.widgets import button, label, rule
from altana.app.walk.desk import WalkDesk
from altana.app.workspace.notices import Notice, Weight
from altana.app.workspace.work import Work
from altana.app.workspace.workspace import Workspace
from altana.core.edits.keeping import LADDERS, SETTINGS
from altana.core.edits.walks import rename
from altana.core.errors import UserError
from altana.core.hiding import NOTHING_HIDDEN
from altana.core.model import Storey
from altana.core.patching import ground_to_horizon
from altana.core.targets import TARGETS, view_of
from altana.importers.table import READERS
from altana.jobs.orders import CheckPictures, Cover, Failure, See
from altana.jobs.remembered import PICTURES, remembered
from altana.jobs.requests import file_stem
from altana.jobs.service import SLOT_BYTES
from altana.render.encode import still_bytes
from altana.storage.files import make_folder, write_atomically
from altana.storage.project_file import SUFFIX

MODEL, COMPOSE, WALK, HAND_OVER = range(4)
DESKS = (
    ("Model", "The building: objects, what is hidden, problems (Ctrl+1)"),
    ("Compose", "Stand, aim and frame cameras (Ctrl+2)"),
    ("Walk", "Routes and films (Ctrl+3)"),
    ("Hand over", "The shot list, its making, and what was made (Ctrl+4)"),
)
#: Orders whose progress stands in the line at the bottom.
LONG_ORDERS = (See.__name__, Cover.__name__, CheckPictures.__name__)
TOLD_PROBLEMS = ("missing-model", "incomplete", "incomplete-file", "missing-files", "unit-assumed", "far-away", "stray-objects")


class MainWindow(CameraMenu, ProjectFiles, QMainWindow):
    """Puts the parts together; every action of the window is here by name."""

    def __init__(self, tokens: Tokens = LIGHT, settings: QSettings | None = None) -> None:
        QMainWindow.__init__(self)
        self._tokens = tokens
        self._settings = settings or QSettings("Altana", "Altana")
        self.path: Path | None = None
        self.workspace = Workspace.started()
        self.notices, self.bridge = self.workspace.notices, self.workspace.bridge
        self.state, self.studio = self.workspace.state, self.workspace.studio
        self.work = Work()
        self._made_in = Path()
        #: A picture of the Frame on order: its revision, where it goes, and its camera's name.
        self._grabbed: tuple[int, str, str] = (0, "", "")
        self.setWindowTitle("Altana")
        self.setAcceptDrops(True)
        self.resize(1280, 800)
        self._build()
        self.table = ActionTable(self)
        self._add_actions()
        self._connect()
        self._start_autosave()
        self._refresh_top()
        self.frame.setFocus()

    # ------------------------------------------------------------------ building

    def _build(self) -> None:
        self.compose = ComposeDesk(self.workspace, self._tokens)
        self.strip, self.frame, self.plan = self.compose.strip, self.compose.frame, self.compose.plan
        self.section, self.facts, self.settings_panel = self.compose.section, self.compose.facts, self.compose.settings
        self.model_desk = ModelDesk(self.workspace, self._tokens, self.strip.thumb, self.in_background)
        self.walk_desk = WalkDesk(self.workspace, self._tokens)
        presets = Path(self._settings.fileName()).parent / "presets"
        self.handover = HandOverDesk(self.workspace, self._tokens, presets)
        self.desks = QStackedWidget()
        for desk in (self.model_desk, self.compose, self.walk_desk, self.handover):
            self.desks.addWidget(desk)
        self.desks.setCurrentIndex(COMPOSE)
        body = QWidget()
        body.setObjectName("chrome")
        column = QVBoxLayout(body)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self._top_bar())
        column.addWidget(rule())
        self.notice_bar = NoticeBar(self.new_project)
        column.addWidget(self.notice_bar)
        column.addWidget(self.desks, 1)
        column.addWidget(rule())
        column.addWidget(self._bottom_bar())
        self.setCentralWidget(body)

    def _top_bar(self) -> QWidget:
        bar = QWidget()
        bar.setObjectName("chrome")
        bar.setFixedHeight(44)
        row = QHBoxLayout(bar)
        row.setContentsMargins(10, 0, 14, 0)
        row.setSpacing(4)
        self._project_button = QToolButton()
        self._project_button.setObjectName("quiet")
        self._project_button.setStyleSheet("font-weight: 700; font-size: 15px;")
        self._project_button.setToolTip("Everything that can be done, by menus (F10)")
        self._project_button.setAccessibleName("Menu")
        self._project_button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self._menu = QMenu(self)
        self._menu.aboutToShow.connect(self._fill_menu)
        self._project_button.setMenu(self._menu)
        row.addWidget(self._project_button)
        row.addSpacing(24)
        self._desk_group = QButtonGroup(self)
        for index, (name, tip) in enumerate(DESKS):
            made = button(name, "desk", tip, checkable=True)
            self._desk_group.addButton(made, index)
            row.addWidget(made)
        self._desk_group.button(COMPOSE).setChecked(True)
        self._desk_group.idClicked.connect(self.choose_desk)
        row.addStretch(1)
        self._undo = button("Undo", "quiet", "Take the last change back (Ctrl+Z)", self.undo)
        self._redo = button("Redo", "quiet", "Do it again (Ctrl+Shift+Z)", self.redo)
        row.addWidget(self._undo)
        row.addWidget(self._redo)
        self.search = SearchField(self, self._entries)
        row.addWidget(self.search)
        return bar

    def _bottom_bar(self) -> QWidget:
        bar = QWidget()
        bar.setObjectName("chrome")
        bar.setFixedHeight(27)
        row = QHBoxLayout(bar)
        row.setContentsMargins(16, 0, 16, 0)
        row.setSpacing(12)
        self._work_label = label("", "quiet")
        self._work_bar = QProgressBar()
        self._work_bar.setFixedWidth(130)
        self._work_bar.setRange(0, 1000)
        self._work_left = label("", "quiet")
        self._work_cancel = button("Cancel", "quiet", "Stop; what is finished is kept", self.work.cancel)
        self._work_open = button("Open folder", "quiet", "Show the files that were made", self._open_made)
        for item in (self._work_cancel, self._work_open):
            item.setStyleSheet("min-height: 14px; padding: 0 6px;")
        self._saved = label("", "quiet")
        self._place = label("", "quiet")
        for widget in (self._work_label, self._work_bar, self._work_left, self._work_cancel, self._work_open):
            row.addWidget(widget)
        for widget in (self._work_bar, self._work_cancel, self._work_open):
            widget.hide()
        row.addStretch(1)
        row.addWidget(self._saved)
        row.addSpacing(10)
        row.addWidget(self._place)
        return bar

    def _connect(self) -> None:
        self.bridge.settled.connect(self._refresh_top)
        self.bridge.name_changed.connect(self._refresh_top)
        self.notices.told.connect(self.notice_bar.show_notice)
        self.bridge.light_changed.connect(lambda: self.studio.light(self.bridge.project))
        self.strip.menu.connect(self._camera_menu)
        self.strip.planned_menu.connect(self._planned_menu)
        for view in (self.plan, self.section, self.walk_desk.plan):
            view.pointed.connect(self._place.setText)
        self.settings_panel.make_stills.connect(self.make_stills)
        self.walk_desk.make_film.connect(self.make_film)
        self.model_desk.coverage.overlaid.connect(self._show_unseen)
        self.model_desk.reload_wanted.connect(self.reload_models)
        self.model_desk.reopen_wanted.connect(self._reopen_models)
        self.model_desk.add_model_wanted.connect(self.add_model_dialog)
        self.model_desk.compose_wanted.connect(lambda: self.choose_desk(COMPOSE))
        self.studio.open_failed.connect(self._open_failed)
        self.studio.order_failed.connect(self._order_failed)
        self.studio.opening.connect(lambda names: self._show_work(f"Opening {names}", -1.0, ""))
        self.studio.opened.connect(self._scene_opened)
        self.studio.light_progress.connect(self._show_light)
        self.bridge.patches_changed.connect(self._patches_changed)
        self.compose.check_page.listed.connect(self.list_gaps)
        self.compose.book.progress.connect(
            lambda share: self._show_work("Checking all cameras" if share < 1 else "", share if share < 1 else -1.0, "")
        )
        self.studio.covering.connect(
            lambda share: self._show_work("Looking at what is covered" if share < 1 else "", share if share < 1 else -1.0, "")
        )
        self.studio.seeing.connect(
            lambda share: self._show_work("Seeing what changed" if share < 1 else "", share if share < 1 else -1.0, "")
        )
        self.handover.frame_wanted.connect(self.open_picture)
        self.studio.picture.connect(self._frame_grabbed)
        self.work.progress.connect(self._show_job)
        self.work.finished.connect(self._job_ended)

    # ------------------------------------------------------------------ actions

    def _add_actions(self) -> None:
        add = self.table.add
        desk, frame, panel, plan = self.compose, self.frame, self.settings_panel, self.plan
        add(
            Action("New from a model…", "Project", self.new_project, "Ctrl+N"),
            Action("Open…", "Project", self.open_dialog, "Ctrl+O"),
            Action("Save", "Project", self.save, "Ctrl+S"),
            Action("Save as…", "Project", self.save_as, "Ctrl+Shift+S"),
            Action("Add a model or drawing…", "Project", self.add_model_dialog),
            Action("Rename project…", "Project", self._rename_project),
            Action("Lens limits…", "Project", self._ask_limits),
            Action("Quit", "Project", self.close, "Ctrl+Q"),
            Action("Undo", "Edit", self.undo, "Ctrl+Z", enabled=lambda: self.bridge.document.undo_label is not None),
            Action("Redo", "Edit", self.redo, "Ctrl+Shift+Z", enabled=lambda: self.bridge.document.redo_label is not None),
            Action("Find", "Edit", self.search.start, "Ctrl+F"),
            Action("Find a camera in the strip", "Edit", self.strip.filter.setFocus, "Ctrl+Shift+F"),
            Action("Model desk", "Edit", lambda: self.choose_desk(MODEL), "Ctrl+1"),
            Action("Compose desk", "Edit", lambda: self.choose_desk(COMPOSE), "Ctrl+2"),
            Action("Walk desk", "Edit", lambda: self.choose_desk(WALK), "Ctrl+3"),
            Action("Hand-over desk", "Edit", lambda: self.choose_desk(HAND_OVER), "Ctrl+4"),
            Action("Stand a camera", "Camera", self._arm, "C"),
            Action("Next camera", "Camera", lambda: self._next_camera(1), "PgDown"),
            Action("Camera before", "Camera", lambda: self._next_camera(-1), "PgUp"),
            Action("Duplicate", "Camera", self.duplicate_camera, "Ctrl+D"),
            Action("Rename…", "Camera", self._rename_active, "Ctrl+R"),
            Action("Suggest a name", "Camera", self.suggest_name),
            Action("Lock or unlock", "Camera", self._lock_active, "Ctrl+L"),
            Action("Hide on plan, or show", "Camera", self.toggle_hidden, "Ctrl+H"),
            Action("In shot list, or out", "Camera", panel.toggle_shot, "S"),
            Action("Done, or to do", "Camera", self.toggle_done, "Ctrl+Return"),
            Action("Move up in the strip", "Camera", lambda: self.shift_camera(-1), "Alt+Up"),
            Action("Move down in the strip", "Camera", lambda: self.shift_camera(1), "Alt+Down"),
            Action("Group…", "Camera", self._ask_group, "Ctrl+G"),
            Action("Plan a shot…", "Camera", self._ask_planned, "Ctrl+P"),
            Action("Inside or outside again", "Camera", self.find_inside),
            Action("Choose all cameras", "Camera", lambda: self.state.select_many(tuple(self.strip.ids()), self.state.active_id), "Ctrl+A"),
            *(Action(f"Give the others its {name}", "Camera", partial(self.give_settings, (name,))) for name in SETTINGS),
            Action("Make stills…", "Camera", self._export_here, "Ctrl+E"),
            Action("Copy the Frame", "Camera", self.copy_frame, "Ctrl+Shift+C"),
            Action("Save the Frame as a picture", "Camera", self.save_frame, "Ctrl+Shift+E"),
            Action("Remove", "Camera", self.delete_cameras, "Delete"),
            Action("Square to wall", "Standing", lambda: panel.standpoint.use_tool("Square to wall"), "Q"),
            Action("Between walls", "Standing", lambda: panel.standpoint.use_tool("Between walls"), "B"),
            Action("Middle of the room", "Standing", lambda: panel.standpoint.use_tool("Middle of the room"), "Shift+B"),
            Action("Corner", "Standing", lambda: panel.standpoint.use_tool("Corner"), "E"),
            Action("Back to wall", "Standing", lambda: panel.standpoint.use_tool("Back to wall"), "Shift+E"),
            Action("Standing height", "Standing", lambda: panel.standpoint.take_preset(0), "Alt+1"),
            Action("Seated height", "Standing", lambda: panel.standpoint.take_preset(1), "Alt+2"),
            Action("Child's height", "Standing", lambda: panel.standpoint.take_preset(2), "Alt+3"),
            Action("Middle of the room's height", "Standing", lambda: panel.standpoint.take_preset(3), "Alt+4"),
            Action("Tilt to 0°", "Standing", panel.direction.level_now, "0"),
            Action("Turn left by 15°", "Standing", lambda: panel.direction.turn_by(-15.0), "Ctrl+Left"),
            Action("Turn right by 15°", "Standing", lambda: panel.direction.turn_by(15.0), "Ctrl+Right"),
            Action("Turn left by 90°", "Standing", lambda: panel.direction.turn_by(-90.0), "Ctrl+Shift+Left"),
            Action("Turn right by 90°", "Standing", lambda: panel.direction.turn_by(90.0), "Ctrl+Shift+Right"),
            Action("About-face", "Standing", lambda: panel.direction.turn_by(180.0), "Ctrl+Down"),
            Action("Move by typed steps…", "Standing", self._ask_steps, "Ctrl+M"),
            Action("Type eye and aim…", "Standing", self._ask_places, "Ctrl+T"),
            Action("Plumb", "Verticals and cut-away", panel.verticals.plumb_now, "P"),
            Action("Keep plumb, or let it tilt", "Verticals and cut-away", self._toggle_kept, "Shift+P"),
            Action("New cameras kept plumb, or not", "Verticals and cut-away", self._toggle_plumb_new),
            Action("Roll to 0°", "Verticals and cut-away", panel.verticals.level_roll, "Shift+0"),
            Action("Back through wall", "Verticals and cut-away", lambda: panel.cut.go_back(None), "Y"),
            Action("Back through wall by width…", "Verticals and cut-away", panel.cut.ask_back, "Shift+Y"),
            Action("Hide nearer than, on or off", "Verticals and cut-away", panel.cut.near_on.click, "D"),
            Action("Hide beyond, on or off", "Verticals and cut-away", panel.cut.far_on.click, "Shift+D"),
            Action("Wall cut: pick a wall", "Verticals and cut-away", lambda: self.compose.pick_wall(True), "U"),
            Action("Near bound just clear", "Verticals and cut-away", panel.cut.just_clear),
            Action("Near bound to wall cut", "Verticals and cut-away", panel.cut.bound_to_cut),
            Action("Cap the cut, or not", "Verticals and cut-away", panel.cut.cap.click),
            Action("Check all cameras", "Verticals and cut-away", lambda: self.compose.check_all(), "F8"),
            *(
                Action(f"Show {name}", "Verticals and cut-away", partial(self.compose._tools.toggle_aid, name), f"Ctrl+F{9 + number}")
                for number, name in enumerate(AIDS)
            ),
            Action("Ground to the horizon", "Verticals and cut-away", self.ground_to_horizon),
            Action("List gaps for whoever models", "Verticals and cut-away", self.list_gaps),
            Action("Longer lens", "Lens and format", lambda: panel.lens.step_focal(1), "Ctrl++"),
            Action("Shorter lens", "Lens and format", lambda: panel.lens.step_focal(-1), "Ctrl+-"),
            Action("Hold subject size", "Lens and format", panel.lens.toggle_hold, "H"),
            *(Action(f"Fit {name} by {by}", "Lens and format", partial(panel.lens.fit_to, name, by)) for name in TARGETS for by in ("lens", "distance")),
            Action("Propose the exposure", "Lens and format", panel.light.propose_exposure),
            Action("Next format", "Lens and format", lambda: panel.format.step(1), "F3"),
            Action("Format before", "Lens and format", lambda: panel.format.step(-1), "F2"),
            Action("Swap wide and high", "Lens and format", panel.format.swap_now, "W"),
            Action("Hold the view, or let it loose", "Frame", self._loose_or_held, "L"),
            Action("Keep view as a new camera", "Frame", frame.ribbon.keep_as_new, "N"),
            Action("Keep view with the usual lens", "Frame", frame.ribbon.keep_with_usual_lens, "Shift+N"),
            Action("Move camera here", "Frame", frame.ribbon.move_camera_here, "M"),
            Action("View before", "Frame", lambda: self.state.go(-1), "Backspace"),
            Action("View after", "Frame", lambda: self.state.go(1), "Shift+Backspace"),
            Action("Guides on or off", "Frame", self.toggle_guides, "G"),
            Action("Surround on or off", "Frame", self.compose._tools.toggle_around, "A"),
            Action("Walking keeps the eye's height, or not", "Frame", self.toggle_floor, "J"),
            Action("As it will be made, or the Frame", "Frame", lambda: desk.look_at(desk.finished), "F4"),
            Action("All round from here, or the Frame", "Frame", lambda: desk.look_at(desk.round), "Z"),
            Action("Keep a try", "Frame", desk.keep_try, "T"),
            Action("Variants side by side", "Frame", lambda: desk.compare(), "Shift+T"),
            Action("Flick through variants", "Frame", desk.flick, "V"),
            *(Action(f"Ladder of {kind}", "Frame", partial(desk.take_ladder, kind)) for kind in LADDERS),
            Action("Leave the chosen object out", "Frame", panel.left_out.leave_out_now, "O"),
            Action("Take the nudge or leaving out back", "Frame", panel.left_out.take_back, "Shift+O"),
            Action("Plan large, or back", "Plan and section", lambda: desk.set_large("plan"), "F6"),
            Action("Section large, or back", "Plan and section", lambda: desk.set_large("section"), "F7"),
            Action("Storey above", "Plan and section", lambda: plan.step_storey(1), "Ctrl+PgUp"),
            Action("Storey below", "Plan and section", lambda: plan.step_storey(-1), "Ctrl+PgDown"),
            Action("Show camera on plan", "Plan and section", self.show_on_plan, "Home"),
            Action("Reference lines on or off", "Plan and section", self.toggle_linework, "K"),
            Action("Fit the plan", "Plan and section", plan.fit),
            Action("Fit the section", "Plan and section", self.section.fit),
            Action("Reload models", "Model", self.reload_models, "F5"),
            Action("Coverage: what is seen", "Model", self._look_at_coverage),
            Action("Go to the chosen object", "Model", self.go_to_object, "Ctrl+J"),
            Action("Hide the chosen object here", "Model", self.hide_object, "I"),
            Action("Show all", "Model", lambda: self.state.hide(NOTHING_HIDDEN), "Shift+I"),
            Action("Hidden as before", "Model", self.state.hide_as_before, "Ctrl+I"),
            Action("Draw a route", "Walk", self._draw_route, "R"),
            Action("Play", "Walk", self._play, "Space"),
            Action("Keys", "Help", self.show_keys, "F1"),
            Action("Menu", "Help", self._project_button.showMenu, "F10"),
            Action("Full screen", "Help", self._full_screen, "F11"),
        )  # fmt: skip

    def _entries(self) -> Iterable[Entry]:
        """Everything that search can find."""
        project, scene = self.bridge.project, self.studio.scene
        for camera in project.cameras:
            yield Entry(camera.name, "camera", partial(self._go_camera, camera.id))
            if camera.intent:
                yield Entry(f"{camera.intent} ({camera.name})", "intent", partial(self._go_camera, camera.id))
        for shot in project.planned:
            yield Entry(shot.intent, "planned shot", partial(self._stand_planned, shot.id))
        for walk in project.walks:
            yield Entry(walk.name, "walk", partial(self._go_walk, walk.id))
        for action in self.table.actions:
            yield Entry(action.name, "action", action.run)
        if scene is None:
            return
        for room in scene.model.rooms:
            yield Entry(room.name, "room", partial(self._go_room, room.id))
        for storey in scene.model.storeys:
            yield Entry(storey.name, "storey", partial(self._go_storey, storey))
        for item in scene.model.objects:
            yield Entry(item.name, item.category, partial(self._go_object, item.id))

    def _go_camera(self, camera_id: str) -> None:
        self.choose_desk(COMPOSE)
        self.state.select(camera_id)

    def _go_walk(self, walk_id: str) -> None:
        self.choose_desk(WALK)
        self.state.choose_walk(walk_id)

    def _go_room(self, room_id: str) -> None:
        scene = self.studio.scene
        room = next((item for item in scene.model.rooms if item.id == room_id), None) if scene is not None else None
        if scene is None or room is None:
            return
        self.choose_desk(COMPOSE)
        self.plan.choose_storey(scene.model.storey(room.storey_id) or scene.model.storey_below(room.floor_m))
        self.plan.fit_to(room.outline)

    def _go_storey(self, storey: Storey) -> None:
        self.choose_desk(COMPOSE)
        self.plan.choose_storey(storey)

    def _go_object(self, object_id: str) -> None:
        self.choose_desk(MODEL)
        self.model_desk.go_to(object_id)

    def go_to_object(self) -> None:
        """Look at the chosen object: on the Model desk there, elsewhere in the loose view."""
        scene, chosen = self.studio.scene, self.state.object_id
        number = scene.lookup.index.get(chosen) if scene is not None else None
        if scene is None or number is None:
            self.notices.note("Choose an object first: press on it in the Frame, or in the list of the Model desk.")
        elif self.desks.currentIndex() == MODEL:
            self.model_desk.go_to(chosen)
        else:
            self.state.note_view()
            self.state.look(view_of(scene.model, scene.rays, number))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Return ends a route that is being drawn; Escape leaves a variant shown in the Frame."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.walk_desk.draw.isChecked():
            self.walk_desk.end_route()
        elif event.key() == Qt.Key.Key_Escape and self.walk_desk.draw.isChecked():
            self.walk_desk.draw.setChecked(False)
        elif event.key() == Qt.Key.Key_Escape and self.compose.checking:
            self.compose.check_all(False)
        elif event.key() == Qt.Key.Key_Escape:
            self.compose.pick_wall(False)
            self.compose.leave_flicking()
        else:
            super().keyPressEvent(event)

    # ------------------------------------------------------------------ small actions

    def choose_desk(self, index: int) -> None:
        """Go to a desk."""
        self.desks.setCurrentIndex(index)
        self._desk_group.button(index).setChecked(True)

    def _on_compose(self) -> bool:
        return self.desks.currentIndex() == COMPOSE

    def _arm(self) -> None:
        if self._on_compose():
            self.compose.arm(True)

    def _stand_planned(self, shot_id: str) -> None:
        self.choose_desk(COMPOSE)
        self.compose.arm(True, shot_id)

    def _loose_or_held(self) -> None:
        if self.state.held:
            self.state.let_loose()
        else:
            self.state.back_to_camera()

    def _draw_route(self) -> None:
        if self.desks.currentIndex() == WALK:
            self.walk_desk.draw.toggle()

    def _play(self) -> None:
        if self.desks.currentIndex() == WALK:
            self.walk_desk.toggle_play()

    def _full_screen(self) -> None:
        self.setWindowState(self.windowState() ^ Qt.WindowState.WindowFullScreen)

    def _next_camera(self, step: int) -> None:
        ids = self.strip.ids()
        if ids:
            index = ids.index(self.state.active_id) + step if self.state.active_id in ids else 0
            self.state.select(ids[index % len(ids)])

    def _export_here(self) -> None:
        if self.desks.currentIndex() == WALK:
            self.make_film()
        else:
            self.make_stills()

    def undo(self) -> None:
        """Take the last change back."""
        self.bridge.document.undo()

    def redo(self) -> None:
        """Do it again."""
        self.bridge.document.redo()

    def toggle_guides(self) -> None:
        """Guides over the Frame, or not."""
        self.frame.guides_on = not self.frame.guides_on
        self.frame.update()

    def _toggle_kept(self) -> None:
        self.settings_panel.verticals.toggle_kept()

    def _toggle_plumb_new(self) -> None:
        self.state.plumb_new = not self.state.plumb_new
        kept = "are kept plumb: turned up or down, they rise" if self.state.plumb_new else "tilt when they are turned up or down"
        self.notices.note(f"New cameras {kept}.")

    def toggle_floor(self) -> None:
        """Whether walking in the Frame keeps the eye's height above the floor."""
        self.frame.keep_on_floor = not self.frame.keep_on_floor
        self.notices.note(
            "Walking keeps the eye's height above the floor."
            if self.frame.keep_on_floor
            else "Walking stays level, whatever the floor does."
        )

    def toggle_linework(self) -> None:
        """Reference lines on the plans, or not."""
        for plan in (self.plan, self.walk_desk.plan):
            plan.toggle_linework()

    def show_on_plan(self) -> None:
        """Change storey and move the sheet so that the camera is in sight."""
        camera, scene = self.state.active, self.studio.scene
        if camera is not None and scene is not None:
            self.plan.choose_storey(scene.model.storey_of_eye(camera.eye))
            self.plan.centre_on(camera)

    def _look_at_coverage(self) -> None:
        self.choose_desk(MODEL)
        self.model_desk.coverage.look()

    def hide_object(self) -> None:
        """Hide the chosen object while working, or show it again."""
        chosen, hiding = self.state.object_id, self.state.hiding
        if chosen:
            self.state.hide(hiding.turned("objects", chosen, chosen not in hiding.hidden.objects))

    # ------------------------------------------------------------------ project and model

    def _fill_menu(self) -> None:
        menu = self._menu
        menu.clear()
        self.table.fill(menu, MENUS)
        menu.addSeparator()
        recent = menu.addMenu("Open again")
        for path in self.recent():
            recent.addAction(f"{path.stem}   {path.parent}", partial(self.open_path, path))
        recent.setEnabled(bool(self.recent()))

    def _rename_project(self) -> None:
        name, said = QInputDialog.getText(self, "Rename project", "Name", text=self.bridge.project.name)
        if said:
            self.bridge.apply("Rename project", lambda project: rename(project, name))

    def reload_models(self) -> None:
        """Read the model files again; every camera says what changed in its view."""
        if self.path is None or not self.bridge.project.models:
            self.notices.note("There is no model to read again.")
        elif self.model_desk.begin_reload():
            self._show_work("Seeing what changed", 0.0, "")
        else:
            self._reopen_models()

    def _reopen_models(self) -> None:
        if self.path is not None:
            self.studio.open(self.bridge.project, self.path)

    def _show_unseen(self, on: bool) -> None:
        """What no picture shows is outlined on the plan as well."""
        scene = self.studio.scene
        ids = self.model_desk.coverage.never if on and scene is not None else ()
        self.plan.show_unseen(frozenset(scene.lookup.index[item] for item in ids if item in scene.lookup.index) if scene else frozenset())

    def _patches_changed(self) -> None:
        """Mends of ours on the model came or went: the scene is put together anew, from the cache."""
        if self.path is not None and self.studio.scene is not None and self.studio.patches != self.bridge.project.patches:
            if not self.bridge.in_gesture:
                self.studio.open(self.bridge.project, self.path, keep=True)

    def list_gaps(self) -> None:
        """A page with pictures of all gaps, for whoever models, beside the project."""
        if not self._busy():
            self.work.list_gaps(self.bridge.document.settled, self._project_path(), self._out_folder("gaps"))

    def ground_to_horizon(self) -> None:
        """Plain ground to the horizon, as a mend of ours."""
        scene = self.studio.scene
        if scene is not None:
            self.bridge.apply("Ground to the horizon", lambda project: ground_to_horizon(project, scene.model)[0])

    def _open_failed(self) -> None:
        self.model_desk.abandon_reload()
        self._show_work("", -1.0, "")

    def _order_failed(self, channel: str, revision: int, failure: Failure) -> None:
        if failure.order in LONG_ORDERS or revision == self._grabbed[0]:
            self._show_work("", -1.0, "")
        if failure.order == See.__name__:
            self.model_desk.abandon_reload()

    def show_demo_banner(self) -> None:
        """Say that this is the demo, and how to open one's own model."""
        sentence = "This is the demo, the made-up Larkwater ferry terminal. Try everything: your own model is one step away."
        self.notice_bar.show_notice(Notice(Weight.NOTE, sentence), own=True)

    def show_keys(self) -> None:
        """The page of all keys."""
        self.keys_page = ShortcutPage(self, self.table)
        self.keys_page.open()

    # ------------------------------------------------------------------ making

    def make_stills(self) -> None:
        """Ask, then make pictures of the chosen cameras in the background."""
        project = self.bridge.project
        chosen = self.state.selected or tuple(camera.id for camera in project.cameras)
        if not chosen or self._busy():
            return
        first = project.camera(chosen[0])
        assert first is not None
        what = first.name if len(chosen) == 1 else f"{len(chosen)} cameras, each in its own proportion and size"
        size = f"{first.width_px} × {first.height_px}" if len(chosen) == 1 else "each its own"
        sheet = ExportSheet(self, "Make stills", what, self._out_folder("stills"), size, self.bridge.project.qualities)
        sheet.accepted.connect(
            lambda: self.work.start(self.bridge.document.settled, self._project_path(), sheet.order(chosen, ()), sheet.out)
        )
        sheet.open()
        self.sheet = sheet

    def copy_frame(self) -> None:
        """The Frame as it is, in the format's exact size, to the clipboard."""
        self._grab_frame("clipboard")

    def save_frame(self) -> None:
        """The Frame as it is, in the format's exact size, as a PNG named like the camera beside the project."""
        self._grab_frame("file")

    def _grab_frame(self, where: str) -> None:
        shown = self.state.shown
        if shown is None or self.studio.scene is None:
            self.notices.note("There is no picture yet. Open a model and stand a camera first.")
            return
        if shown.width_px * shown.height_px * 3 > SLOT_BYTES:
            self.notices.note(f"{shown.width_px} × {shown.height_px} px is too large for that. Put the camera in the shot list and make it there.")
            return
        staging = self.studio.staging(self.bridge.project, shown, self.state.hiding)
        self._grabbed = (
            self.studio.order_picture("grab", "still", shown.view(), self.bridge.project.light, shown.ev, shown.inside, 1, staging),
            where,
            shown.name or "view",
        )
        self._show_work("Drawing the Frame", -1.0, "")

    def _frame_grabbed(self, channel: str, revision: int, image: QImage, _: str) -> None:
        wanted, where, name = self._grabbed
        if channel != "grab" or revision != wanted:
            return
        self._work_label.setText("")
        if where == "clipboard":
            QGuiApplication.clipboard().setImage(image)
            self.notices.done(f"{name} is on the clipboard, {image.width()} × {image.height()} px.")
            return
        folder = self._out_folder("frames")
        try:
            make_folder(folder)
            number, path = 1, folder / f"{file_stem(name)}.png"
            while path.exists():
                number += 1
                path = folder / f"{file_stem(name)}-{number}.png"
            write_atomically(path, still_bytes(pixels_of(image), "png", name))
        except UserError as error:
            self.notices.trouble(error.sentence)
            return
        self.notices.done(f"Written: {path}, {image.width()} × {image.height()} px.")

    def make_film(self) -> None:
        """Ask, then make a film of the chosen walk in the background."""
        walk = self.state.walk
        if walk is None or self._busy():
            return
        what = f"{walk.name}: {walk.seconds:g} s at {walk.rate} film frames a second"
        sheet = ExportSheet(
            self, "Make film", what, self._out_folder("films"), f"{walk.width_px} × {walk.height_px}", self.bridge.project.qualities, walk
        )
        sheet.accepted.connect(
            lambda: self.work.start(self.bridge.document.settled, self._project_path(), sheet.order((), (walk.id,)), sheet.out)
        )
        sheet.open()
        self.sheet = sheet

    def _busy(self) -> bool:
        if self.work.running:
            self.notices.note("Something is being made already. Wait for it, or cancel it below.")
        return self.work.running

    def _project_path(self) -> Path:
        return self.path or Path("untitled.altana").resolve()

    def _out_folder(self, kind: str) -> Path:
        return self._project_path().parent / kind

    def _show_job(self, share: float, text: str, left: float) -> None:
        self._work_cancel.show()
        self._work_open.hide()
        remaining = ""
        if left >= 0:
            remaining = f"{math.ceil(left / 60)} min left" if left > 90 else f"{max(1, round(left))} s left"
        self._show_work({"Light": "Computing light", "Starting": "Starting"}.get(text, f"Making {text}"), share, remaining)

    @property
    def work_text(self) -> str:
        """What the line at the bottom says of work in the background."""
        return self._work_label.text()

    def _show_work(self, text: str, share: float, left: str) -> None:
        self._work_label.setText(text)
        self._work_bar.setVisible(share >= 0)
        self._work_bar.setValue(round(share * 1000))
        self._work_left.setText(left)

    def _job_ended(self, good: bool, sentence: str, folder: str) -> None:
        self._work_cancel.hide()
        self._work_bar.hide()
        self._work_left.setText("")
        self._made_in = Path(folder)
        self._work_label.setText(sentence if good else "")
        self._work_open.setVisible(good)
        if not good:
            self.notices.trouble(sentence)

    def _open_made(self) -> None:
        QDesktopServices.openUrl(QUrl.fromLocalFile(str(self._made_in)))

    def _show_light(self, share: float) -> None:
        if self.work.running:
            return
        if share >= 1.0:
            self._show_work("", -1.0, "")
        else:
            self._show_work("Computing the light of the building", share, "")

    # ------------------------------------------------------------------ showing

    def _scene_opened(self) -> None:
        self._show_work("", -1.0, "")
        scene = self.studio.scene
        if scene is None:
            return
        self.state.overview = scene.overview
        if self.state.active is None:
            self.state.shown_changed.emit()
        shown = [item.sentence for item in scene.model.problems if item.code in TOLD_PROBLEMS]
        if shown and self.notice_bar.isHidden():
            self.notices.note(shown[0])

    def _refresh_top(self) -> None:
        document = self.bridge.document
        self._project_button.setText(f"{self.bridge.project.name}  ▾")
        for item, word, told in ((self._undo, "Undo", document.undo_label), (self._redo, "Redo", document.redo_label)):
            text = item.fontMetrics().elidedText(f"{word} {told}" if told else word, Qt.TextElideMode.ElideRight, 170)
            if item.text() != text:
                item.setText(text)
            item.setEnabled(told is not None)
        self._saved.setText("changes not saved" if document.changed else "saved" if self.path else "")

    # ------------------------------------------------------------------ window events

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Models, projects and pictures that Altana made may be dropped."""
        if any(Path(url.toLocalFile()).suffix.lower() in (*READERS, *PICTURES, SUFFIX) for url in event.mimeData().urls()):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """Open what was dropped, after the drop has ended."""
        paths = [Path(url.toLocalFile()) for url in event.mimeData().urls()]
        if paths[0].suffix.lower() in PICTURES:
            QTimer.singleShot(0, lambda: self.open_picture(paths[0]))
        else:
            QTimer.singleShot(0, lambda: self.open_path(paths[0]))

    def open_picture(self, path: Path) -> bool:
        """Go to exactly the framing of a picture that Altana made: its camera, or a loose view where that stands otherwise now."""
        try:
            camera = remembered(path).camera
        except UserError as error:
            self.notices.trouble(error.sentence)
            return False
        self.choose_desk(COMPOSE)
        held = self.bridge.project.camera(camera.id)
        if held is not None:
            self.state.select(held.id)
        if held is None or held.view() != camera.view():
            self.state.look(camera)
            self.notices.note(f"This is how {camera.name} stood for {path.name}. “Move camera here” puts it back.")
        return True

    def closeEvent(self, event: QCloseEvent) -> None:
        """Ask about unsaved changes, end the children."""
        if not self._may_leave():
            event.ignore()
            return
        self._autosave.stop()
        self.work.close()
        # A run of the shot list goes on without the window.
        self.handover.production.leave()
        self.studio.close()
        event.accept()
        QGuiApplication.processEvents()
