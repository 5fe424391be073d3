"""Opening, starting and saving projects from the window, and keeping what is not saved yet."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QFileDialog, QMessageBox, QWidget

from altana.app.workspace.bridge import Bridge
from altana.app.workspace.notices import Notices, Offer
from altana.app.workspace.workspace import Workspace
from altana.core.edits.models import add_model
from altana.core.errors import UserError
from altana.core.project import Project
from altana.importers.table import READERS
from altana.jobs.models import open_model
from altana.storage import autosave
from altana.storage.project_file import SUFFIX, read_project, take_in, write_project

RECENT = 6
AUTOSAVE_MS = 4000
MODEL_FILTER = "Building models (" + " ".join(f"*{suffix}" for suffix in sorted(READERS)) + ")"

if TYPE_CHECKING:
    Base = QWidget
else:
    Base = object


class ProjectFiles(Base):
    """The part of the window that deals with files."""

    bridge: Bridge
    path: Path | None
    studio: Any
    state: Any
    _settings: Any
    workspace: Workspace
    notices: Notices
    notice_bar: Any
    handover: Any
    compose: Any

    def _refresh_top(self) -> None:
        raise NotImplementedError

    def _start_autosave(self) -> None:
        self._offered_for: Path | None = None
        self._autosave = QTimer(self)
        self._autosave.setSingleShot(True)
        self._autosave.setInterval(AUTOSAVE_MS)
        self._autosave.timeout.connect(self.keep_now)
        self.bridge.settled.connect(self._autosave.start)

    def keep_now(self) -> None:
        """Keep what is not saved, so that a crash loses nothing."""
        document = self.bridge.document
        if self.path is None:
            return
        # What is still offered stays until the project is saved or its changes are left on purpose.
        offered = self.path == self._offered_for
        if document.changed:
            autosave.keep(self.path, document.settled, beside=offered)
        elif not offered:
            autosave.drop(self.path)

    def _offer_kept(self, project: Project, path: Path) -> None:
        """After a crash: offer what was there."""
        held = autosave.kept(path)
        self._offered_for = None
        if held is None or held.project == project:
            return
        self._offered_for = path
        when = time.strftime("%d %b %H:%M", time.localtime(held.seconds))
        self.notices.note(
            f"Altana ended without saving. Changes up to {when} were kept; the saved project is open.",
            Offer("Take the kept changes", lambda: self.bridge.apply("Take kept changes", lambda _: held.project, over_locks=True)),
        )

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
            self.notices.trouble(error.sentence)
            return False
        self._show_project(project, path)
        return True

    def _show_project(self, project: Project, path: Path) -> None:
        self.path = path.resolve()
        self._remember(self.path)
        self.notice_bar.hide()
        self.state.loose = None
        self.state.walk_id = project.walks[0].id if project.walks else ""
        self.bridge.replace_document(project)
        self.state.forget_views()
        self.state.overview = None
        self.state.select(project.cameras[0].id if project.cameras else "")
        self.studio.open(project, self.path)
        self._offer_kept(project, self.path)
        self.compose.finished.base = self.path.parent
        if self.handover.opened(self.path) == "broken":
            self.notices.note("A run of the shot list was broken off. What was made is kept.", Offer("Go on with it", self.handover.resume))
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
        """Write a new project for these models and open it; reading and copying go on in the background."""

        def work() -> Callable[[], object]:
            project = Project(name=path.stem)
            for model in models:
                # What the model was read from (materials, pictures) is taken along.
                others = open_model(model)[1]
                project = add_model(project, take_in(model, others, path))
            write_project(path, project)
            return lambda: self._show_project(project, path)

        self.in_background(f"Reading {', '.join(item.name for item in models)}", work)
        return True

    def add_model_dialog(self) -> None:
        """Another model into this project."""
        if self.path is None:
            self.new_project()
            return
        name, _ = QFileDialog.getOpenFileName(self, "Choose a building model", "", MODEL_FILTER)
        if not name:
            return
        self.add_model_file(Path(name))

    def add_model_file(self, model: Path) -> None:
        """Take a model or a drawing into the project; reading and copying go on in the background."""
        path = self.path
        assert path is not None

        def work() -> Callable[[], object]:
            stored = take_in(model, open_model(model)[1], path)
            return lambda: self._model_added(stored, path)

        self.in_background(f"Reading {model.name}", work)

    def _model_added(self, stored: str, path: Path) -> None:
        if self.path == path and self.bridge.apply("Add model", lambda project: add_model(project, stored)):
            self.studio.open(self.bridge.project, path)

    def in_background(self, what: str, work: Callable[[], Callable[[], object]]) -> None:
        """Do something slow in a thread; what it returns is run in the window afterwards.  UserErrors are said."""
        self._show_work(what, -1.0, "")
        self.workspace.background.run(what, work, self._after_background, lambda: self._show_work("", -1.0, ""))

    def _after_background(self, after: Callable[[], object]) -> None:
        self._show_work("", -1.0, "")
        after()

    def _show_work(self, text: str, share: float, left: str) -> None:
        raise NotImplementedError

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
            self.notices.trouble(error.sentence)
            return False
        self.bridge.document.mark_saved()
        autosave.drop(self.path)
        self._offered_for = None
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
                self._take_files_along(old, path)
        except UserError as error:
            self.notices.trouble(error.sentence)
            return False
        self.path = path.resolve()
        if not self.save():
            self.path = old
            return False
        self._remember(self.path)
        # Deliveries lie beside the project, wherever it is.
        self.handover.opened(self.path)
        self.compose.finished.base = self.path.parent
        return True

    def _take_files_along(self, old: Path, path: Path) -> None:
        """Models, background pictures and colour tables go where the project goes, under the same names."""
        project = self.bridge.project
        tones = [project.tone, *(shot.tone for shot in project.shots if shot.tone is not None)]
        more = [*(shot.background_file for shot in project.shots), *(tone.table for tone in tones)]
        wanted = [item.path for item in project.models] + [name for name in more if name and (old.parent / name).is_file()]
        for name in dict.fromkeys(wanted):
            stored = take_in(old.parent / name, [], path)
            if stored != name:
                target = path.parent / name
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
        if box.clickedButton() is drop:
            # These changes are left on purpose; what an earlier crash left is still to be decided.
            autosave.drop(self.path, later_only=self.path == self._offered_for)
            return True
        return False
