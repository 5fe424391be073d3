"""The one window: top bar, desks, and the line at the bottom."""

from __future__ import annotations

import math
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QSettings, Qt, QTimer, QUrl
from PySide6.QtGui import QCloseEvent, QDesktopServices, QDragEnterEvent, QDropEvent, QGuiApplication, QKeyEvent, QKeySequence, QShortcut
from PySide6.QtWidgets import (
    QButtonGroup,
    QComboBox,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QInputDialog,
    QMainWindow,
    QMenu,
    QMessageBox,
    QProgressBar,
    QSplitter,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from altana.app.bridge import Bridge
from altana.app.desks.facts import Facts
from altana.app.desks.walk import WalkDesk
from altana.app.drawings.frame import FrameView
from altana.app.drawings.plan import PlanView
from altana.app.export import ExportSheet
from altana.app.scene import Studio
from altana.app.settings.camera import CameraSettings
from altana.app.state import ViewState
from altana.app.strip import Strip
from altana.app.theme.tokens import LIGHT, Tokens
from altana.app.theme.widgets import button, label, rule
from altana.app.work import Work
from altana.core.edits.cameras import add_camera, remove_camera, set_camera
from altana.core.edits.walks import add_model, rename
from altana.core.errors import UserError
from altana.core.project import Camera, Project
from altana.importers.table import READERS
from altana.storage.project_file import SUFFIX, read_project, take_in, write_project

RECENT = 6
MODEL_FILTER = "Building models (" + " ".join(f"*{suffix}" for suffix in sorted(READERS)) + ")"


class MainWindow(QMainWindow):
    """Puts the parts together; every action of the window is here by name."""

    def __init__(self, tokens: Tokens = LIGHT, settings: QSettings | None = None) -> None:
        super().__init__()
        self._tokens = tokens
        self._settings = settings or QSettings("Altana", "Altana")
        self.path: Path | None = None
        self.bridge = Bridge(Project())
        self.state = ViewState(self.bridge)
        self.studio = Studio()
        self.work = Work()
        self._film_wanted = False
        self.setWindowTitle("Altana")
        self.setAcceptDrops(True)
        self.resize(1280, 800)
        self._build()
        self._connect()
        self._shortcuts()
        self._refresh_top()

    # ------------------------------------------------------------------ building

    def _build(self) -> None:
        self.strip = Strip(self.bridge, self.state, self.studio, self._tokens)
        self.frame = FrameView(self.bridge, self.state, self.studio, self._tokens)
        self.plan = PlanView(self.bridge, self.state, self.studio, self._tokens)
        self.facts = Facts()
        self.settings_panel = CameraSettings(self.bridge, self.state, self.studio)
        self.walk_desk = WalkDesk(self.bridge, self.state, self.studio, self._tokens)
        self.desks = QStackedWidget()
        self.desks.addWidget(self._compose())
        self.desks.addWidget(self.walk_desk)
        body = QWidget()
        body.setObjectName("chrome")
        column = QVBoxLayout(body)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self._top_bar())
        column.addWidget(rule())
        column.addWidget(self._banner())
        column.addWidget(self.desks, 1)
        column.addWidget(rule())
        column.addWidget(self._bottom_bar())
        self.setCentralWidget(body)

    def _compose(self) -> QWidget:
        desk = QWidget()
        row = QHBoxLayout(desk)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.strip)
        row.addWidget(rule(vertical=True))
        upper = QWidget()
        upper_column = QVBoxLayout(upper)
        upper_column.setContentsMargins(0, 0, 0, 0)
        upper_column.setSpacing(0)
        upper_column.addWidget(self.frame, 1)
        upper_column.addWidget(self.facts)
        lower = QWidget()
        lower_column = QVBoxLayout(lower)
        lower_column.setContentsMargins(0, 0, 0, 0)
        lower_column.addWidget(self.plan)
        self._storeys = QComboBox(self.plan)
        self._storeys.setAccessibleName("Storey")
        self._storeys.setToolTip("The storey that the plan shows")
        self._storeys.activated.connect(self._choose_storey)
        self._fit = button("Fit", "quiet", "Show the whole building (key F on the plan)", self.plan.fit)
        self._fit.setParent(self.plan)
        split = QSplitter(Qt.Orientation.Vertical)
        split.setChildrenCollapsible(False)
        split.setHandleWidth(1)
        split.addWidget(upper)
        split.addWidget(lower)
        split.setSizes([440, 300])
        row.addWidget(split, 1)
        row.addWidget(rule(vertical=True))
        row.addWidget(self.settings_panel)
        return desk

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
        self._project_button.setToolTip("Project: new, open, save, recent")
        self._project_button.setAccessibleName("Project menu")
        self._project_button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self._menu = QMenu(self)
        self._menu.aboutToShow.connect(self._fill_menu)
        self._project_button.setMenu(self._menu)
        row.addWidget(self._project_button)
        row.addSpacing(30)
        self._desk_group = QButtonGroup(self)
        for index, (name, tip) in enumerate((("Compose", "Stand, aim and frame cameras (Ctrl+1)"), ("Walk", "Routes and films (Ctrl+2)"))):
            made = button(name, "desk", tip, checkable=True)
            self._desk_group.addButton(made, index)
            row.addWidget(made)
        self._desk_group.button(0).setChecked(True)
        self._desk_group.idClicked.connect(self.choose_desk)
        row.addStretch(1)
        self._undo = button("Undo", "quiet", "Take the last change back (Ctrl+Z)", self.undo)
        self._redo = button("Redo", "quiet", "Do it again (Ctrl+Shift+Z)", self.redo)
        row.addWidget(self._undo)
        row.addWidget(self._redo)
        return bar

    def _banner(self) -> QFrame:
        self._banner_frame = QFrame()
        self._banner_frame.setObjectName("banner")
        row = QHBoxLayout(self._banner_frame)
        row.setContentsMargins(16, 5, 10, 5)
        self._banner_text = label("")
        self._banner_text.setWordWrap(True)
        row.addWidget(self._banner_text, 1)
        self._banner_own = button("Open your own model…", "", "Start a project from a building model (Ctrl+N)", self.new_project)
        row.addWidget(self._banner_own)
        self._banner_close = button("Close", "quiet", "Close this line", self._banner_frame.hide)
        row.addWidget(self._banner_close)
        self._banner_frame.hide()
        return self._banner_frame

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
        self._work_cancel.setStyleSheet("min-height: 14px; padding: 0 6px;")
        self._work_open = button("Open folder", "quiet", "Show the files that were made", self._open_made)
        self._work_open.setStyleSheet("min-height: 14px; padding: 0 6px;")
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
        self._made_in = Path()
        return bar

    def _connect(self) -> None:
        self.bridge.settled.connect(self._refresh_top)
        self.bridge.name_changed.connect(self._refresh_top)
        self.bridge.failed.connect(self.say)
        self.bridge.light_changed.connect(lambda: self.studio.light(self.bridge.project))
        self.state.shown_changed.connect(lambda: self.facts.show_camera(self.state.shown))
        self.strip.stand.connect(self.plan.arm)
        self.strip.menu.connect(self._camera_menu)
        self.plan.stood.connect(lambda: self.strip.stand_button.setChecked(False))
        self.plan.pointed.connect(self._place.setText)
        self.walk_desk.plan.pointed.connect(self._place.setText)
        self.frame.keep_as_new.connect(self.frame.keep_loose_as_new)
        self.settings_panel.make_stills.connect(self.make_stills)
        self.walk_desk.make_film.connect(self.make_film)
        self.studio.failed.connect(self.say)
        self.studio.opening.connect(lambda names: self._show_work(f"Opening {names}", -1.0, ""))
        self.studio.opened.connect(self._scene_opened)
        self.studio.light_progress.connect(self._show_light)
        self.work.progress.connect(self._show_job)
        self.work.finished.connect(self._job_ended)
        self.plan.installEventFilter(self)

    def eventFilter(self, watched, event) -> bool:  # type: ignore[no-untyped-def]
        """The storey choice keeps its corner of the plan."""
        if watched is self.plan and event.type() == event.Type.Resize:
            self._storeys.adjustSize()
            self._storeys.move(10, 30)
            self._fit.move(14 + self._storeys.width(), 30)
        return super().eventFilter(watched, event)

    def _shortcuts(self) -> None:
        pairs: tuple[tuple[str, Callable[[], object]], ...] = (
            ("Ctrl+N", self.new_project),
            ("Ctrl+O", self.open_dialog),
            ("Ctrl+S", self.save),
            ("Ctrl+Shift+S", self.save_as),
            ("Ctrl+Q", self.close),
            ("Ctrl+Z", self.undo),
            ("Ctrl+Shift+Z", self.redo),
            ("Ctrl+1", lambda: self.choose_desk(0)),
            ("Ctrl+2", lambda: self.choose_desk(1)),
            ("Ctrl+E", self._export_here),
            ("C", self._arm),
            ("L", self._loose_or_held),
            ("M", self.frame.move_camera_here),
            ("N", self.frame.keep_loose_as_new),
            ("P", self.settings_panel.plumb_now),
            ("0", self.settings_panel.level_now),
            ("R", self._draw_route),
            ("Space", self._play),
            ("Ctrl+D", self.duplicate_camera),
            ("Delete", self.delete_cameras),
            ("F11", self._full_screen),
            ("PgDown", lambda: self._next_camera(1)),
            ("PgUp", lambda: self._next_camera(-1)),
        )
        for keys, action in pairs:
            shortcut = QShortcut(QKeySequence(keys), self)
            shortcut.activated.connect(action)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Return ends a route that is being drawn."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.walk_desk.draw.isChecked():
            self.walk_desk.end_route()
        elif event.key() == Qt.Key.Key_Escape and self.walk_desk.draw.isChecked():
            self.walk_desk.draw.setChecked(False)
        else:
            super().keyPressEvent(event)

    # ------------------------------------------------------------------ small actions

    def choose_desk(self, index: int) -> None:
        """Go to a desk."""
        self.desks.setCurrentIndex(index)
        self._desk_group.button(index).setChecked(True)
        (self.frame if index == 0 else self.walk_desk.frame).refresh()

    def _on_compose(self) -> bool:
        return self.desks.currentIndex() == 0

    def _arm(self) -> None:
        if self._on_compose():
            self.strip.stand_button.setChecked(True)
            self.plan.arm(True)
            self.plan.setFocus()

    def _loose_or_held(self) -> None:
        if self.state.loose is None:
            self.state.let_loose()
        else:
            self.state.back_to_camera()

    def _draw_route(self) -> None:
        if not self._on_compose():
            self.walk_desk.draw.toggle()

    def _play(self) -> None:
        if not self._on_compose():
            self.walk_desk.toggle_play()

    def _full_screen(self) -> None:
        self.setWindowState(self.windowState() ^ Qt.WindowState.WindowFullScreen)

    def _next_camera(self, step: int) -> None:
        ids = list(self.strip.cards)
        if ids:
            index = ids.index(self.state.active_id) + step if self.state.active_id in ids else 0
            self.state.select(ids[index % len(ids)])

    def _export_here(self) -> None:
        if self._on_compose():
            self.make_stills()
        else:
            self.make_film()

    def undo(self) -> None:
        """Take the last change back."""
        self.bridge.document.undo()

    def redo(self) -> None:
        """Do it again."""
        self.bridge.document.redo()

    def _choose_storey(self, index: int) -> None:
        scene = self.studio.scene
        if scene is not None and 0 <= index < len(scene.model.storeys):
            self.plan.choose_storey(scene.model.storeys[::-1][index])

    def duplicate_camera(self) -> None:
        """A copy of the active camera, selected."""
        active = self.state.active
        if active is None:
            return
        created = self.bridge.apply_adding("Duplicate camera", lambda project: add_camera(project, active))
        if created:
            self.state.select(created)

    def delete_cameras(self) -> None:
        """Remove the chosen cameras; undo brings them back.  Locked ones stay."""
        chosen = [item for item in self.state.selected if (camera := self.bridge.project.camera(item)) is not None and not camera.locked]
        if not chosen or not self._on_compose():
            return

        def edit(project: Project) -> Project:
            for camera_id in chosen:
                project = remove_camera(project, camera_id)
            return project

        self.bridge.apply("Remove camera" if len(chosen) == 1 else f"Remove {len(chosen)} cameras", edit)

    def _camera_menu(self, camera_id: str, at) -> None:  # type: ignore[no-untyped-def]
        camera = self.bridge.project.camera(camera_id)
        if camera is None:
            return
        if camera_id not in self.state.selected:
            self.state.select(camera_id)
        menu = QMenu(self)
        menu.addAction("Rename…", lambda: self._rename_camera(camera))
        menu.addAction("Intent…", lambda: self._set_intent(camera))
        menu.addAction("Duplicate", self.duplicate_camera)
        menu.addAction("Unlock" if camera.locked else "Lock", lambda: self._lock(camera))
        menu.addAction("Make stills…", self.make_stills)
        menu.addSeparator()
        menu.addAction("Remove", self.delete_cameras).setEnabled(not camera.locked)
        menu.popup(at)

    def _rename_camera(self, camera: Camera) -> None:
        name, said = QInputDialog.getText(self, "Rename camera", "Name", text=camera.name)
        if said:
            self.bridge.apply("Rename camera", lambda project: set_camera(project, camera.id, name=name.strip()))

    def _set_intent(self, camera: Camera) -> None:
        text, said = QInputDialog.getText(self, "Intent", "What should this picture show?", text=camera.intent)
        if said:
            self.bridge.apply("Intent", lambda project: set_camera(project, camera.id, intent=text.strip()))

    def _lock(self, camera: Camera) -> None:
        self.bridge.apply(
            "Unlock camera" if camera.locked else "Lock camera", lambda project: set_camera(project, camera.id, locked=not camera.locked)
        )
        self.state.select(camera.id)

    # ------------------------------------------------------------------ project files

    def _fill_menu(self) -> None:
        menu = self._menu
        menu.clear()
        menu.addAction("New from a model…", QKeySequence("Ctrl+N"), self.new_project)
        menu.addAction("Open…", QKeySequence("Ctrl+O"), self.open_dialog)
        recent = menu.addMenu("Open again")
        for path in self.recent():
            recent.addAction(f"{path.stem}   {path.parent}", lambda chosen=path: self.open_path(chosen))
        recent.setEnabled(bool(self.recent()))
        menu.addSeparator()
        menu.addAction("Save", QKeySequence("Ctrl+S"), self.save)
        menu.addAction("Save as…", QKeySequence("Ctrl+Shift+S"), self.save_as)
        menu.addAction("Add a model…", self.add_model_dialog)
        menu.addAction("Rename project…", self._rename_project)
        menu.addAction("About this model…", self._about_model)
        menu.addSeparator()
        menu.addAction("Quit", QKeySequence("Ctrl+Q"), self.close)

    def recent(self) -> list[Path]:
        """Projects opened lately that are still there."""
        value = self._settings.value("recent", [])
        names = value if isinstance(value, list) else [str(value)]
        return [Path(name) for name in names if Path(str(name)).is_file()]

    def _remember(self, path: Path) -> None:
        names = [str(path), *(str(item) for item in self.recent() if item != path)]
        self._settings.setValue("recent", names[:RECENT])

    def open_path(self, path: Path) -> bool:
        """Open a project, or start one from a model; what is unsaved is asked about first."""
        if not self._may_leave():
            return False
        try:
            if path.suffix.lower() in READERS:
                return self._start_from([path])
            project = read_project(path)
        except UserError as error:
            self.say(error.sentence)
            return False
        self._show_project(project, path)
        return True

    def _show_project(self, project: Project, path: Path) -> None:
        self.path = path.resolve()
        self._remember(self.path)
        self._banner_frame.hide()
        self.state.loose = None
        self.state.walk_id = project.walks[0].id if project.walks else ""
        self.bridge.replace_document(project)
        self.state.select(project.cameras[0].id if project.cameras else "")
        self.studio.open(project, self.path)
        self.setWindowTitle(f"{project.name} – Altana")

    def new_project(self) -> None:
        """A project from a model file."""
        if not self._may_leave():
            return
        names, _ = QFileDialog.getOpenFileNames(self, "Choose building models", "", MODEL_FILTER)
        if names:
            self._start_from([Path(name) for name in names])

    def _start_from(self, models: list[Path]) -> bool:
        suggested = models[0].with_suffix(SUFFIX)
        name, _ = QFileDialog.getSaveFileName(self, "Where the project goes", str(suggested), f"Altana projects (*{SUFFIX})")
        if not name:
            return False
        return self.start_project(models, Path(name).with_suffix(SUFFIX))

    def start_project(self, models: list[Path], path: Path) -> bool:
        """Write a new project for these models and open it."""
        try:
            project = Project(name=path.stem)
            for model in models:
                project = add_model(project, take_in(model, [], path))
            write_project(path, project)
        except UserError as error:
            self.say(error.sentence)
            return False
        self._show_project(project, path)
        return True

    def add_model_dialog(self) -> None:
        """Another model into this project."""
        if self.path is None:
            self.new_project()
            return
        name, _ = QFileDialog.getOpenFileName(self, "Choose a building model", "", MODEL_FILTER)
        if not name:
            return
        path = self.path
        try:
            stored = take_in(Path(name), [], path)
        except UserError as error:
            self.say(error.sentence)
            return
        if self.bridge.apply("Add model", lambda project: add_model(project, stored)):
            self.studio.open(self.bridge.project, path)

    def open_dialog(self) -> None:
        """Choose a project or a model."""
        name, _ = QFileDialog.getOpenFileName(
            self, "Open", "", f"Projects and models (*{SUFFIX} {' '.join('*' + s for s in sorted(READERS))})"
        )
        if name:
            self.open_path(Path(name))

    def save(self) -> bool:
        """Write the project to its file."""
        if self.path is None:
            return self.save_as()
        try:
            write_project(self.path, self.bridge.document.settled)
        except UserError as error:
            self.say(error.sentence)
            return False
        self.bridge.document.mark_saved()
        self._refresh_top()
        return True

    def save_as(self) -> bool:
        """Write the project to another file; models are taken along."""
        start = str(self.path) if self.path else f"untitled{SUFFIX}"
        name, _ = QFileDialog.getSaveFileName(self, "Save as", start, f"Altana projects (*{SUFFIX})")
        return self.save_to(Path(name).with_suffix(SUFFIX)) if name else False

    def save_to(self, path: Path) -> bool:
        """Write the project to this file and go on with it there."""
        old = self.path
        try:
            if old is not None and old.parent.resolve() != path.parent.resolve():
                self._take_models_along(old, path)
        except UserError as error:
            self.say(error.sentence)
            return False
        self.path = path.resolve()
        if not self.save():
            self.path = old
            return False
        self._remember(self.path)
        return True

    def _take_models_along(self, old: Path, path: Path) -> None:
        for reference in self.bridge.project.models:
            source = old.parent / reference.path
            stored = take_in(source, [], path)
            if stored != reference.path:
                target = path.parent / reference.path
                target.parent.mkdir(parents=True, exist_ok=True)
                (path.parent / stored).replace(target)

    def _may_leave(self) -> bool:
        if not self.bridge.document.changed or self.path is None:
            return True
        box = QMessageBox(self)
        box.setWindowTitle("Unsaved changes")
        box.setText(f"“{self.bridge.project.name}” has changes that are not saved.")
        keep = box.addButton("Save", QMessageBox.ButtonRole.AcceptRole)
        drop = box.addButton("Leave them", QMessageBox.ButtonRole.DestructiveRole)
        box.addButton("Stay here", QMessageBox.ButtonRole.RejectRole)
        box.exec()
        if box.clickedButton() is keep:
            return self.save()
        return box.clickedButton() is drop

    def _rename_project(self) -> None:
        name, said = QInputDialog.getText(self, "Rename project", "Name", text=self.bridge.project.name)
        if said:
            self.bridge.apply("Rename project", lambda project: rename(project, name))

    def _about_model(self) -> None:
        scene = self.studio.scene
        if scene is None:
            self.say("No model is open yet.")
            return
        model = scene.model
        low, high = model.bounds
        notes = "\n".join(f"• {item.sentence}" for item in model.problems) or "Nothing to report."
        box = QMessageBox(self)
        box.setWindowTitle("About this model")
        box.setText(f"{model.source}: {len(model.faces):,} triangles, {len(model.objects)} objects, unit {model.unit}".replace(",", " "))
        box.setInformativeText(
            f"Size {high[0] - low[0]:.1f} × {high[1] - low[1]:.1f} × {high[2] - low[2]:.1f} m.\nStoreys: {', '.join(s.name for s in model.storeys)}.\n{notes}"
        )
        box.exec()

    def show_demo_banner(self) -> None:
        """Say that this is the demo, and how to open one's own model."""
        self.say("This is the demo, the made-up Larkwater ferry terminal. Try everything: your own model is one step away.", own=True)

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
        sheet = ExportSheet(self, "Make stills", what, self._out_folder("stills"), False, size)
        sheet.accepted.connect(
            lambda: self.work.start(self.bridge.document.settled, self._project_path(), sheet.order(chosen, ()), sheet.out)
        )
        sheet.open()
        self.sheet = sheet

    def make_film(self) -> None:
        """Ask, then make a film of the chosen walk in the background."""
        walk = self.state.walk
        if walk is None or self._busy():
            return
        what = f"{walk.name}: {walk.seconds:g} s at {walk.rate} film frames a second"
        sheet = ExportSheet(self, "Make film", what, self._out_folder("films"), True, f"{walk.width_px} × {walk.height_px}")
        sheet.accepted.connect(
            lambda: self.work.start(self.bridge.document.settled, self._project_path(), sheet.order((), (walk.id,)), sheet.out)
        )
        sheet.open()
        self.sheet = sheet

    def _busy(self) -> bool:
        if self.work.running:
            self.say("Something is being made already. Wait for it, or cancel it below.")
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
        self._show_work(
            f"Making {text}" if text not in ("Light", "Starting") else {"Light": "Computing light", "Starting": "Starting"}[text],
            share,
            remaining,
        )

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
            self.say(sentence)

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
        self._storeys.clear()
        if scene is not None:
            self._storeys.addItems([storey.name for storey in scene.model.storeys[::-1]])
            self._show_storey()
            shown = [
                item.sentence
                for item in scene.model.problems
                if item.code in ("incomplete", "incomplete-file", "missing-files", "unit-assumed", "far-away")
            ]
            if shown:
                self.say(shown[0])

    def _show_storey(self) -> None:
        scene, storey = self.studio.scene, self.plan.storey
        if scene is not None and storey in scene.model.storeys:
            self._storeys.setCurrentIndex(len(scene.model.storeys) - 1 - scene.model.storeys.index(storey))

    def _refresh_top(self) -> None:
        document = self.bridge.document
        self._project_button.setText(f"{self.bridge.project.name}  ▾")
        self._undo.setText(f"Undo {document.undo_label}" if document.undo_label else "Undo")
        self._undo.setEnabled(document.undo_label is not None)
        self._redo.setText(f"Redo {document.redo_label}" if document.redo_label else "Redo")
        self._redo.setEnabled(document.redo_label is not None)
        self._saved.setText("changes not saved" if document.changed else "saved" if self.path else "")
        self._show_storey()

    def say(self, sentence: str, own: bool = False) -> None:
        """A sentence over the desk, until it is closed."""
        self._banner_text.setText(sentence)
        self._banner_own.setVisible(own)
        self._banner_frame.show()

    # ------------------------------------------------------------------ window events

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Models and projects may be dropped."""
        if any(Path(url.toLocalFile()).suffix.lower() in (*READERS, SUFFIX) for url in event.mimeData().urls()):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """Open what was dropped, after the drop has ended."""
        paths = [Path(url.toLocalFile()) for url in event.mimeData().urls()]
        QTimer.singleShot(0, lambda: self.open_path(paths[0]))

    def closeEvent(self, event: QCloseEvent) -> None:
        """Ask about unsaved changes, end the children."""
        if not self._may_leave():
            event.ignore()
            return
        self.work.close()
        self.studio.close()
        event.accept()
        QGuiApplication.processEvents()
