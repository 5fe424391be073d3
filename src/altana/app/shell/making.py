"""Pictures and films made straight from the window: stills, a film, the Frame as it is, the list of gaps."""

from __future__ import annotations

import shutil
from dataclasses import dataclass, replace
from pathlib import Path

from PySide6.QtCore import QObject
from PySide6.QtGui import QGuiApplication, QImage
from PySide6.QtWidgets import QWidget

from altana.app.shell.activity import Activity
from altana.app.shell.export import ExportSheet, LastChosen
from altana.app.shell.files import ProjectFiles
from altana.app.theme.widgets import open_page
from altana.app.theme.words import spoken, tr
from altana.app.workspace.work import Order, Work
from altana.app.workspace.workspace import Workspace
from altana.core.edits.shots import row_as_made
from altana.core.errors import UserError
from altana.core.picture_key import KNOWN
from altana.core.project import FILM, STILL, Camera
from altana.jobs.requests import file_stem
from altana.storage.files import make_folder
from altana.storage.scratch import new_scratch

CLIPBOARD, FILE = "clipboard", "file"


@dataclass(frozen=True, slots=True)
class _Grab:
    """The picture of the Frame that is being made: where it goes, its camera's name, its file."""

    where: str = ""
    name: str = ""
    path: Path = Path()


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
        #: The test that is being made for the sheet that is open.
        self._tested: Path | None = None
        self.sheet: ExportSheet | None = None
        #: What was chosen the last time, for stills and for films; as long as the window is open.
        self.last: dict[str, LastChosen] = {}
        work.progress.connect(activity.tell_job)
        work.finished.connect(self._ended)

    def _busy(self) -> bool:
        if self.work.running:
            self._workspace.notices.note(
                tr("Something is being made already. Wait for it, or cancel it below.")
            )
        return self.work.running

    def _start(self, sheet: ExportSheet, cameras: tuple[str, ...], walks: tuple[str, ...]) -> None:
        project = self._workspace.bridge.document.settled
        self.last[FILM if walks else STILL] = sheet.chosen
        self.work.start(project, self._files.project_path, sheet.order(cameras, walks), sheet.out)

    def _start_test(self, sheet: ExportSheet) -> None:
        order = sheet.test_order()
        if order is None or self._busy():
            return
        sheet.trial.begin()
        self._tested = sheet.out / "tests" / f"{order.name}.{order.kind}"
        project = self._workspace.bridge.document.settled
        self.work.start(project, self._files.project_path, order, self._tested.parent)

    def make_stills(self) -> None:
        """Ask, then make pictures of the chosen cameras in the background."""
        project, state = self._workspace.bridge.project, self._workspace.state
        chosen = state.selected or tuple(camera.id for camera in project.cameras)
        if not chosen or self._busy():
            return
        first = project.camera(chosen[0])
        assert first is not None
        what, size = f"{first.name}, {self._look(first)}", (first.width_px, first.height_px)
        if len(chosen) > 1:
            what = tr(
                "{chosen} cameras, each in its own proportion and as its row of the shot list says",
                chosen=len(chosen),
            )
        sheet = ExportSheet(
            self._window,
            tr("Make stills"),
            self._with_light(what),
            self._files.out_folder("stills"),
            size if len(chosen) == 1 else None,
            project,
            chosen,
        )
        sheet.accepted.connect(lambda: self._start(sheet, chosen, ()))
        sheet.trial.wanted.connect(lambda: self._start_test(sheet))
        self._open(sheet, STILL)

    def make_film(self) -> None:
        """Ask, then make a film of the chosen walk in the background."""
        project, walk = self._workspace.bridge.project, self._workspace.state.walk
        if walk is None or self._busy():
            return
        what = tr(
            "{name}: {seconds:g} s at {rate} film frames a second",
            name=walk.name,
            seconds=walk.seconds,
            rate=walk.rate,
        )
        size = (walk.width_px, walk.height_px)
        sheet = ExportSheet(
            self._window,
            tr("Make film"),
            self._with_light(what),
            self._files.out_folder("films"),
            size,
            project,
            walk=walk,
        )
        sheet.accepted.connect(lambda: self._start(sheet, (), (walk.id,)))
        self._open(sheet, FILM)

    def _open(self, sheet: ExportSheet, kind: str) -> None:
        if kind in self.last:
            sheet.begin_with(self.last[kind])
        open_page(sheet)
        self.sheet = sheet

    def _with_light(self, what: str) -> str:
        """What is made, and that it waits for the building's light where that is not known yet: the time that
        is told is without it."""
        if self._workspace.studio.lit == KNOWN:
            return what
        return tr(
            "{what}. The building's soft light is still being computed; pictures wait for it first.",
            what=what,
        )

    def list_gaps(self) -> None:
        """A page with pictures of all gaps, for whoever models, beside the project."""
        if not self._busy():
            files = self._files
            self.work.list_gaps(
                self._workspace.bridge.document.settled, files.project_path, files.out_folder("gaps")
            )

    def count_hours(self, camera: str, storey: str, year: bool) -> None:
        """Hours of sun on what a camera sees, or over a storey, as a picture with figures beside the
        project."""
        if self._busy():
            return
        files, project = self._files, self._workspace.bridge.document.settled
        chosen = project.camera(camera)
        name = file_stem(chosen.name if chosen is not None else storey)
        days = tr("{date} turning days", date=project.light.date[:4]) if year else project.light.date
        out = files.out_folder("sun") / f"{name}, {days}.png"
        self.work.count_hours(project, files.project_path, out, camera, storey, year)

    def _ended(self, good: bool, sentence: str, folder: str) -> None:
        self._activity.end_job(good, sentence, Path(folder), self.work.of_pictures)
        if self._grabbed.where:
            self._take_frame(good)
        tested, self._tested = self._tested, None
        if tested is not None and self.sheet is not None:
            self.sheet.trial.end(tested if good else None, sentence)
        if not good:
            self._workspace.notices.trouble(sentence)

    # ------------------------------------------------------------------ the Frame as it is

    def copy_frame(self) -> None:
        """What the Frame shows, as it will be made in the format's exact size, to the clipboard."""
        self._grab(CLIPBOARD)

    def save_frame(self) -> None:
        """What the Frame shows, as it will be made in the format's exact size, as a PNG named like the camera
        beside the project."""
        self._grab(FILE)

    def _look(self, camera: Camera) -> str:
        shot = row_as_made(self._workspace.bridge.project, STILL, camera.id)
        return tr(
            "drawn as {rendition}, background {background}",
            rendition=spoken(shot.rendition),
            background=spoken(shot.background),
        )

    def _grab(self, where: str) -> None:
        space = self._workspace
        shown, active, notices = space.state.shown, space.state.active, space.notices
        if shown is None or space.studio.scene is None:
            notices.note(tr("There is no picture yet. Open a model and stand a camera first."))
            return
        if self._busy():
            return
        project = space.bridge.document.settled
        camera = active if active is not None else shown
        # The view may be loose, or one that no camera has: it is made as the camera would be from there.
        frame_camera = replace(shown, id=camera.id, name=shown.name or camera.name or "view", variants=())
        others = tuple(frame_camera if item.id == frame_camera.id else item for item in project.cameras)
        project_shown = replace(
            project, cameras=others if frame_camera in others else (*others, frame_camera)
        )
        quality = row_as_made(project_shown, STILL, frame_camera.id).quality
        folder = self._files.out_folder("frames") if where == FILE else new_scratch()
        try:
            name = _free(folder, file_stem(frame_camera.name)).stem
        except UserError as error:
            notices.trouble(error.sentence)
            return
        order = Order((frame_camera.id,), quality=quality, name=name, noted=where == FILE)
        self._grabbed = _Grab(where, frame_camera.name, folder / f"{name}.png")
        self.work.start(project_shown, self._files.project_path, order, folder)

    def _take_frame(self, good: bool) -> None:
        """The picture of the Frame is made: told, or put on the clipboard."""
        grab, self._grabbed = self._grabbed, _Grab()
        image = QImage(str(grab.path)) if good else QImage()
        if grab.where == CLIPBOARD:
            shutil.rmtree(grab.path.parent, ignore_errors=True)
        if not good:
            return
        size = f"{image.width()} × {image.height()} px"
        if grab.where == CLIPBOARD:
            QGuiApplication.clipboard().setImage(image)
            self._workspace.notices.done(tr("{name} is on the clipboard, {size}.", name=grab.name, size=size))
        else:
            self._workspace.notices.done(tr("Written: {path}, {size}.", path=grab.path, size=size))


def _free(folder: Path, stem: str) -> Path:
    """A name in a folder that nothing has yet.  Raises UserError."""
    make_folder(folder)
    number, path = 1, folder / f"{stem}.png"
    while path.exists():
        number += 1
        path = folder / f"{stem}-{number}.png"
    return path
