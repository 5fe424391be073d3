"""Pictures and films made straight from the window: stills, a film, the Frame as it is, the list of gaps."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from PySide6.QtCore import QObject
from PySide6.QtGui import QGuiApplication, QImage
from PySide6.QtWidgets import QWidget

from altana.app.canvas.picture_view import pixels_of
from altana.app.shell.activity import Activity
from altana.app.shell.export import ExportSheet
from altana.app.shell.files import ProjectFiles
from altana.app.workspace.work import Work
from altana.app.workspace.workspace import Workspace
from altana.core.errors import UserError
from altana.core.light.own import light_for
from altana.jobs.requests import file_stem
from altana.jobs.service import SLOT_BYTES
from altana.render.encode import still_bytes
from altana.storage.files import make_folder, write_atomically

CLIPBOARD, FILE = "clipboard", "file"


@dataclass(frozen=True, slots=True)
class _Grab:
    """A picture of the Frame on order: its revision, where it goes, its camera's name."""

    revision: int = 0
    where: str = ""
    name: str = ""


class Making(QObject):
    """Asks, and makes in the background; one job at a time."""

    def __init__(
        self, window: QWidget, workspace: Workspace, files: ProjectFiles, activity: Activity, work: Work
    ) -> None:
        super().__init__()
        self._window, self._workspace, self._files, self._activity, self.work = (
            window,
            workspace,
            files,
            activity,
            work,
        )
        self._grabbed = _Grab()
        self.sheet: ExportSheet | None = None
        workspace.studio.picture.connect(self._arrived)
        work.progress.connect(activity.tell_job)
        work.finished.connect(self._ended)

    @property
    def ordered(self) -> int:
        """The revision of the Frame's picture on order."""
        return self._grabbed.revision

    def _busy(self) -> bool:
        if self.work.running:
            self._workspace.notices.note("Something is being made already. Wait for it, or cancel it below.")
        return self.work.running

    def _start(self, sheet: ExportSheet, cameras: tuple[str, ...], walks: tuple[str, ...]) -> None:
        project = self._workspace.bridge.document.settled
        self.work.start(project, self._files.project_path, sheet.order(cameras, walks), sheet.out)

    def make_stills(self) -> None:
        """Ask, then make pictures of the chosen cameras in the background."""
        project, state = self._workspace.bridge.project, self._workspace.state
        chosen = state.selected or tuple(camera.id for camera in project.cameras)
        if not chosen or self._busy():
            return
        first = project.camera(chosen[0])
        assert first is not None
        what, size = first.name, f"{first.width_px} × {first.height_px}"
        if len(chosen) > 1:
            what, size = f"{len(chosen)} cameras, each in its own proportion and size", "each its own"
        sheet = ExportSheet(
            self._window, "Make stills", what, self._files.out_folder("stills"), size, project.qualities
        )
        sheet.accepted.connect(lambda: self._start(sheet, chosen, ()))
        sheet.open()
        self.sheet = sheet

    def make_film(self) -> None:
        """Ask, then make a film of the chosen walk in the background."""
        project, walk = self._workspace.bridge.project, self._workspace.state.walk
        if walk is None or self._busy():
            return
        what = f"{walk.name}: {walk.seconds:g} s at {walk.rate} film frames a second"
        size = f"{walk.width_px} × {walk.height_px}"
        sheet = ExportSheet(
            self._window, "Make film", what, self._files.out_folder("films"), size, project.qualities, walk
        )
        sheet.accepted.connect(lambda: self._start(sheet, (), (walk.id,)))
        sheet.open()
        self.sheet = sheet

    def list_gaps(self) -> None:
        """A page with pictures of all gaps, for whoever models, beside the project."""
        if not self._busy():
            files = self._files
            self.work.list_gaps(
                self._workspace.bridge.document.settled, files.project_path, files.out_folder("gaps")
            )

    def count_hours(self, camera: str, storey: str, year: bool) -> None:
        """Hours of sun on what a camera sees, or over a storey, as a picture with figures beside the project."""
        if self._busy():
            return
        files, project = self._files, self._workspace.bridge.document.settled
        held = project.camera(camera)
        name = file_stem(held.name if held is not None else storey)
        days = f"{project.light.date[:4]} turning days" if year else project.light.date
        out = files.out_folder("sun") / f"{name}, {days}.png"
        self.work.count_hours(project, files.project_path, out, camera, storey, year)

    def _ended(self, good: bool, sentence: str, folder: str) -> None:
        self._activity.end_job(good, sentence, Path(folder))
        if not good:
            self._workspace.notices.trouble(sentence)

    # ------------------------------------------------------------------ the Frame as it is

    def copy_frame(self) -> None:
        """The Frame as it is, in the format's exact size, to the clipboard."""
        self._grab(CLIPBOARD)

    def save_frame(self) -> None:
        """The Frame as it is, in the format's exact size, as a PNG named like the camera beside the project."""
        self._grab(FILE)

    def _grab(self, where: str) -> None:
        space = self._workspace
        shown, notices, project = space.state.shown, space.notices, space.bridge.project
        if shown is None or space.studio.scene is None:
            notices.note("There is no picture yet. Open a model and stand a camera first.")
            return
        if shown.width_px * shown.height_px * 3 > SLOT_BYTES:
            size = f"{shown.width_px} × {shown.height_px} px"
            notices.note(f"{size} is too large for that. Put the camera in the shot list and make it there.")
            return
        staging = space.studio.staging(project, shown, space.state.hiding)
        revision = space.studio.order_picture(
            "grab", "still", shown.view(), light_for(project.light, shown), shown.ev, shown.inside, 1, staging
        )
        self._grabbed = _Grab(revision, where, shown.name or "view")
        self._activity.tell("Drawing the Frame")

    def _arrived(self, channel: str, revision: int, image: QImage, _: str) -> None:
        grab = self._grabbed
        if channel != "grab" or revision != grab.revision:
            return
        self._activity.tell()
        notices = self._workspace.notices
        if grab.where == CLIPBOARD:
            QGuiApplication.clipboard().setImage(image)
            notices.done(f"{grab.name} is on the clipboard, {image.width()} × {image.height()} px.")
            return
        try:
            path = _free(self._files.out_folder("frames"), file_stem(grab.name))
            write_atomically(path, still_bytes(pixels_of(image), "png", grab.name))
        except UserError as error:
            notices.trouble(error.sentence)
            return
        notices.done(f"Written: {path}, {image.width()} × {image.height()} px.")


def _free(folder: Path, stem: str) -> Path:
    """A name in a folder that nothing has yet.  Raises UserError."""
    make_folder(folder)
    number, path = 1, folder / f"{stem}.png"
    while path.exists():
        number += 1
        path = folder / f"{stem}-{number}.png"
    return path
