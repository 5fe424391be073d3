"""Opening, starting and saving projects from the window, and keeping what is not saved yet."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QObject, QSettings, Qt, Signal
from PySide6.QtWidgets import QFileDialog, QInputDialog, QMessageBox, QWidget

from altana.app.shell.activity import Activity
from altana.app.shell.desktop import remember_recent
from altana.app.shell.sharing import Sharing
from altana.app.shell.versions_page import VersionsPage
from altana.app.theme.widgets import open_page
from altana.app.theme.words import moment, tr
from altana.app.workspace.notices import Offer
from altana.app.workspace.soon import Soon
from altana.app.workspace.workspace import Workspace
from altana.core.edits.models import add_model
from altana.core.edits.walks import rename
from altana.core.errors import UserError
from altana.core.project import Project
from altana.importers.table import READERS
from altana.jobs.models import open_model
from altana.jobs.reader import Waiting
from altana.storage import autosave
from altana.storage.project_file import SUFFIX, read_project, take_in, unknown_fields, write_project

RECENT = 6
AUTOSAVE_MS = 4000
MODEL_FILTER = tr("Building models (") + " ".join(f"*{suffix}" for suffix in sorted(READERS)) + ")"


class ProjectFiles(QObject):
    """Opens, starts and saves projects, and keeps what is not saved yet.

    ``shown`` when another project is on the desks, ``moved`` when the project lies elsewhere, ``saved`` when
    it was written.
    """

    shown = Signal()
    moved = Signal()
    saved = Signal()

    def __init__(
        self, window: QWidget, workspace: Workspace, settings: QSettings, activity: Activity
    ) -> None:
        super().__init__()
        self._window, self._workspace, self.settings, self._activity = window, workspace, settings, activity
        self._bridge, self._notices = workspace.bridge, workspace.notices
        self._state, self._studio = workspace.state, workspace.studio
        self.path: Path | None = None
        #: Where a project that was not saved yet would lie: beside its model.
        self._home = Path("untitled.altana").resolve()
        #: Where such a project is offered to be saved, where the person prefers one place for all.
        self.projects_folder = ""
        self.sharing = Sharing(window, workspace, self._show_project, self.save)
        self._start_autosave()

    @property
    def project_path(self) -> Path:
        """Where the project lies, or would lie."""
        return self.path or self._home

    def out_folder(self, kind: str) -> Path:
        """Where what is made straight from the window goes, beside the project."""
        return self.project_path.parent / kind

    def _start_autosave(self) -> None:
        #: The project whose kept changes are still offered.
        self._offered_for: Path | None = None
        self.autosave = Soon(self, AUTOSAVE_MS, self.keep_now)
        self._bridge.settled.connect(self.autosave.start)

    def keep_after(self, seconds: float) -> None:
        """How soon after a change it is kept."""
        self.autosave.setInterval(round(1000 * seconds))

    def keep_now(self) -> None:
        """Keep what is not saved, so that a crash loses nothing."""
        document = self._bridge.document
        if self.path is None and not self._bridge.project.models:
            return
        path = self.project_path
        # What is still offered stays until the project is saved or its changes are left on purpose.
        offered = path == self._offered_for
        if document.changed:
            autosave.keep(path, document.settled, beside=offered)
        elif not offered:
            autosave.drop(path)

    def _offer_kept(self, project: Project, path: Path) -> None:
        """After a crash: offer what was there."""
        copy = autosave.kept(path)
        self._offered_for = None
        if copy is None or copy.project == project:
            return
        self._offered_for = path
        when = moment(copy.seconds)
        self._notices.note(
            tr(
                "Altana ended without saving. Changes up to {when} were kept; the saved project is open.",
                when=when,
            ),
            Offer(
                tr("Take the kept changes"),
                lambda: self._bridge.apply(tr("Take kept changes"), lambda _: copy.project, over_locks=True),
            ),
        )

    def _tell_unknown(self, path: Path) -> None:
        """What the file holds that this Altana does not know would be lost at the next save."""

        def tell(unknown: tuple[str, ...]) -> None:
            if unknown and path == self.path:
                self._notices.note(_loses(path.name, unknown))

        self._workspace.background.run("looking for what is unknown", partial(unknown_fields, path), tell)

    def show_versions(self) -> None:
        """The page of versions."""
        if self.path is None:
            self._notices.note(tr("The project is not saved yet, so there are no versions of it."))
            return
        self.versions_page = VersionsPage(self._window, self._bridge, self.path)
        open_page(self.versions_page)

    def stop(self) -> None:
        """The window closes."""
        self.autosave.stop()
        self.sharing.stop()

    def recent(self) -> list[Path]:
        """Projects opened lately that are still there."""
        value = self.settings.value("recent", [])
        names = value if isinstance(value, list) else [str(value)]
        return [Path(name) for name in names if Path(str(name)).is_file()]

    def _remember(self, path: Path) -> None:
        names = [str(path), *(str(item) for item in self.recent() if item != path)]
        self.settings.setValue("recent", names[:RECENT])
        self._workspace.background.run("recent documents", lambda: remember_recent(path), lambda _: None)

    def open_path(self, path: Path) -> bool:
        """Open a project, or start one from a model; what is unsaved is asked about first."""
        if not self.may_leave():
            return False
        try:
            if path.suffix.lower() in READERS:
                return self._start_from([path])
            project = read_project(path)
        except UserError as error:
            self._notices.trouble(error.sentence)
            return False
        self._show_project(project, path)
        return True

    def _show_project(self, project: Project, path: Path, saved: bool = True) -> None:
        """Put a project on the desks.  saved : whether it lies there, or would."""
        self.path, self._home = (path.resolve() if saved else None), path.resolve()
        if saved:
            self._remember(self._home)
        self._notices.clear()
        self._state.loose = None
        self._state.walk_id = project.walks[0].id if project.walks else ""
        self._bridge.replace_document(project)
        self._state.forget_views()
        self._state.overview = None
        self._state.select(project.cameras[0].id if project.cameras else "")
        self._studio.open(project, self._home)
        self._offer_kept(project, self._home)
        if saved:
            self.sharing.follow(self._home, project)
            self._tell_unknown(self._home)
        else:
            self.sharing.forget()
        self.shown.emit()

    def new_project(self) -> None:
        """A project from a model file."""
        if not self.may_leave():
            return
        names, _ = QFileDialog.getOpenFileNames(self._window, tr("Choose building models"), "", MODEL_FILTER)
        if names:
            self._start_from([Path(name) for name in names])

    def _start_from(self, models: list[Path]) -> bool:
        """Look at models at once; where the project goes is asked when it is saved first."""
        path, number = models[0].with_suffix(SUFFIX), 1
        while path.exists():
            number += 1
            path = models[0].with_name(f"{models[0].stem} {number}{SUFFIX}")
        return self.start_project(models, path, saved=False)

    def start_project(self, models: list[Path], path: Path, saved: bool = True) -> bool:
        """Open a new project of these models; reading and copying go on in the background.  saved : it is
        written at once."""

        def work(waiting: Waiting) -> Callable[[], object]:
            project = Project(name=path.stem)
            for model in models:
                # What the model was read from (materials, pictures) is taken along.
                others = open_model(model, waiting=waiting)[1]
                project = add_model(project, take_in(model, others, path))
            if saved:
                write_project(path, project)
            return lambda: self._show_project(project, path, saved)

        self._activity.read(tr("Reading {name}", name=", ".join(item.name for item in models)), work)
        return True

    def add_model_dialog(self) -> None:
        """Another model into this project."""
        if not self._bridge.project.models:
            self.new_project()
            return
        name, _ = QFileDialog.getOpenFileName(self._window, tr("Choose a building model"), "", MODEL_FILTER)
        if not name:
            return
        self.add_model_file(Path(name))

    def add_model_file(self, model: Path) -> None:
        """Take a model or a drawing into the project; reading and copying go on in the background."""
        path = self.project_path

        def work(waiting: Waiting) -> Callable[[], object]:
            stored = take_in(model, open_model(model, waiting=waiting)[1], path)
            return lambda: self._model_added(stored, path)

        self._activity.read(tr("Reading {name}", name=model.name), work)

    def _model_added(self, stored: str, path: Path) -> None:
        if self.project_path == path and self._bridge.apply(
            tr("Add model"), lambda project: add_model(project, stored)
        ):
            self._studio.open(self._bridge.project, path)

    def ask_name(self) -> None:
        """Ask for the project's name."""
        name, accepted = QInputDialog.getText(
            self._window, tr("Rename project"), tr("Name"), text=self._bridge.project.name
        )
        if accepted:
            self._bridge.apply(tr("Rename project"), lambda project: rename(project, name))

    def open_dialog(self) -> None:
        """Choose a project or a model."""
        suffixes = " ".join(f"*{suffix}" for suffix in (SUFFIX, *sorted(READERS)))
        kinds = tr("Projects and models ({kinds})", kinds=suffixes)
        name, _ = QFileDialog.getOpenFileName(self._window, tr("Open"), "", kinds)
        if name:
            self.open_path(Path(name))

    def save(self) -> bool:
        """Write the project to its file."""
        if self.path is None:
            return self.save_as()
        try:
            if not self.sharing.write(self.path, self._bridge.document.settled):
                return False
        except UserError as error:
            self._notices.trouble(error.sentence)
            return False
        self._bridge.document.mark_saved()
        autosave.drop(self.path)
        self._offered_for = None
        self.saved.emit()
        return True

    def save_as(self) -> bool:
        """Write the project to another file; models are taken along."""
        start = self.project_path
        if self.path is None and self.projects_folder:
            start = Path(self.projects_folder) / start.name
        name, _ = QFileDialog.getSaveFileName(
            self._window, tr("Save as"), str(start), tr("Altana projects (*{suffix})", suffix=SUFFIX)
        )
        return self.save_to(Path(name).with_suffix(SUFFIX)) if name else False

    def save_to(self, path: Path) -> bool:
        """Write the project to this file and go on with it there."""
        old, home = self.path, self.project_path
        try:
            if self._bridge.project.models and home.parent.resolve() != path.parent.resolve():
                self._take_files_along(home, path)
        except UserError as error:
            self._notices.trouble(error.sentence)
            return False
        self.path = path.resolve()
        if not self.save():
            self.path = old
            return False
        self._remember(self.path)
        self.moved.emit()
        return True

    def _take_files_along(self, old: Path, path: Path) -> None:
        """Models, background pictures and colour tables go where the project goes, under the same names."""
        project = self._bridge.project
        tones = [project.tone, *(shot.tone for shot in project.shots if shot.tone is not None)]
        more = [*(shot.background_file for shot in project.shots), *(tone.table for tone in tones)]
        wanted = [item.path for item in project.models] + [
            name for name in more if name and (old.parent / name).is_file()
        ]
        for name in dict.fromkeys(wanted):
            stored = take_in(old.parent / name, [], path)
            if stored != name:
                target = path.parent / name
                target.parent.mkdir(parents=True, exist_ok=True)
                (path.parent / stored).replace(target)

    def may_leave(self) -> bool:
        """Whether what is open may be left: unsaved changes are asked about."""
        if not self._bridge.document.changed:
            return True
        box = QMessageBox(self._window)
        box.setWindowTitle(tr("Unsaved changes"))
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setText(tr("“{name}” has changes that are not saved.", name=self._bridge.project.name))
        keep = box.addButton(tr("Save"), QMessageBox.ButtonRole.AcceptRole)
        drop = box.addButton(tr("Discard changes"), QMessageBox.ButtonRole.DestructiveRole)
        box.addButton(tr("Stay here"), QMessageBox.ButtonRole.RejectRole)
        box.exec()
        if box.clickedButton() is keep:
            return self.save()
        if box.clickedButton() is drop:
            # These changes are left on purpose; what an earlier crash left is still to be decided.
            autosave.drop(self.project_path, later_only=self.project_path == self._offered_for)
            return True
        return False


def _loses(name: str, unknown: tuple[str, ...]) -> str:
    return tr(
        "{name} holds what this Altana does not know ({unknown}). It is lost when you save; save under another name to keep it.",
        name=name,
        unknown=", ".join(unknown[:3]),
    )
