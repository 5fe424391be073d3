"""Sending cameras, walks and answers to others, and taking in what they sent."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QWidget

from altana.app.shell.activity import Activity
from altana.app.shell.files import ProjectFiles
from altana.app.shell.remarks_page import RemarksPage
from altana.app.shell.take_page import TakePage
from altana.app.theme.widgets import open_page
from altana.app.theme.words import tr
from altana.app.workspace.work import Work
from altana.app.workspace.workspace import Workspace
from altana.core.project import Camera, Project
from altana.exchange.incoming import Offer
from altana.jobs.brought import TAKEN_IN, look_into
from altana.jobs.reader import Waiting
from altana.jobs.sending import SENT, WITH_MODEL, send
from altana.jobs.sending_edit import EDIT_KINDS
from altana.jobs.sending_plan import PLAN_KINDS
from altana.jobs.taking import take_in_all

BCF_WORDS = {".bcf": tr("Viewpoints with pictures (BCF 3.0)")}
PLANS = dict(
    zip(
        PLAN_KINDS,
        (tr("Plan at 1:100 (PDF)"), tr("Plan at 1:100 (SVG)"), tr("Plan at 1:100 (DXF)")),
        strict=True,
    )
)
EDITS = dict(
    zip(
        EDIT_KINDS,
        (tr("Shot list as an edit (OTIO)"), tr("Captions (WebVTT)"), tr("Captions (SubRip)")),
        strict=True,
    )
)


class Exchange:
    """What travels in and out.  go : shows a camera by its id."""

    def __init__(
        self,
        window: QWidget,
        workspace: Workspace,
        files: ProjectFiles,
        activity: Activity,
        work: Work,
        go: Callable[[str], object],
    ) -> None:
        self._window, self._workspace, self._files, self._activity = window, workspace, files, activity
        self._work, self._go = work, go
        self.take_page: TakePage | None = None
        self.remarks_page: RemarksPage | None = None

    # ------------------------------------------------------------------ out

    def send(self) -> None:
        """Write the chosen cameras, or all, and the walks for other tools; asks for the file."""
        project, state = self._workspace.bridge.document.settled, self._workspace.state
        chosen = [camera for item in state.selected if (camera := project.camera(item)) is not None]
        cameras = chosen if len(chosen) > 1 else list(project.cameras)
        if not cameras and not project.walks:
            self._workspace.notices.note(tr("There is no camera and no walk to send yet."))
            return
        known = SENT | BCF_WORDS | PLANS | EDITS
        kinds = ";;".join(f"{words} (*{suffix})" for suffix, words in known.items())
        start = self._files.project_path.with_suffix(".gltf")
        name, kind = QFileDialog.getSaveFileName(
            self._window, tr("Send cameras and walks"), str(start), kinds
        )
        if name:
            suffix = next((item for item in known if f"(*{item})" in kind), ".gltf")
            path = Path(name)
            self.send_to(path if path.suffix.lower() in known else path.with_suffix(suffix), cameras)

    def send_model(self) -> None:
        """Write the model as it is shown, with the cameras in it; asks for the file."""
        kinds = ";;".join(f"{SENT[suffix]} (*{suffix})" for suffix in WITH_MODEL if suffix in SENT)
        start = self._files.project_path.with_suffix(".glb")
        name, _ = QFileDialog.getSaveFileName(
            self._window, tr("Send the model as it is shown"), str(start), kinds
        )
        if name:
            path = Path(name)
            suffix = path.suffix.lower() if path.suffix.lower() in WITH_MODEL else ".glb"
            self.send_to(
                path.with_suffix(suffix), self._workspace.bridge.document.settled.cameras, whole=True
            )

    def send_to(self, out: Path, cameras: Sequence[Camera], whole: bool = False) -> None:
        """Write cameras and all walks, or what else the kind of file holds, beside the window."""
        kind = out.suffix.lower()
        if kind in BCF_WORDS:
            self._by_command(out, [part for camera in cameras for part in ("--camera", camera.id)])
            return
        if kind in PLANS:
            self._by_command(
                out, ["--plan", *(part for camera in cameras for part in ("--camera", camera.id))]
            )
            return
        if kind in EDITS:
            self._by_command(out, ["--timeline"])
            return
        project, path = self._workspace.bridge.document.settled, self._files.project_path
        notices = self._workspace.notices

        def work() -> Callable[[], object]:
            sent = send(project, path, cameras, project.walks, out, whole=whole)
            lost = f" {' '.join(sent.not_held)}" if sent.not_held else ""
            sentence = tr(
                "{name}: {cameras} and {walks} for other tools.{lost}",
                name=out.name,
                cameras=tr("%n cameras", "", len(sent.cameras)),
                walks=tr("%n walks", "", len(sent.walks)),
                lost=lost,
            )
            return lambda: (notices.note if lost else notices.done)(sentence)

        self._activity.do(tr("Writing {name}", name=out.name), work)

    def send_answers(self) -> None:
        """Write the answered remarks as BCF, each with a new picture; asks for the file."""
        start = self._files.project_path.with_name("answers.bcf")
        name, _ = QFileDialog.getSaveFileName(
            self._window, tr("Send answers back"), str(start), tr("Remarks (*.bcf)")
        )
        if name:
            self.send_answers_to(Path(name).with_suffix(".bcf"))

    def send_answers_to(self, out: Path) -> None:
        """Write the answered remarks to a file, in a process of its own, because pictures are drawn."""
        self._by_command(out, ["--remarks"])

    def _by_command(self, out: Path, arguments: list[str]) -> None:
        if self._work.running:
            self._workspace.notices.note(
                tr("Something is being made already. Wait for it, or cancel it below.")
            )
            return
        self._work.send(self._workspace.bridge.document.settled, self._files.project_path, out, arguments)

    # ------------------------------------------------------------------ in

    def take_in(self) -> None:
        """Look into a file of others; asks for it."""
        kinds = tr("Cameras, walks, remarks ({suffix})", suffix=" ".join(f"*{suffix}" for suffix in TAKEN_IN))
        name, _ = QFileDialog.getOpenFileName(
            self._window, tr("Take in"), str(self._files.project_path.parent), kinds
        )
        if name:
            self.look_into(Path(name))

    def look_into(self, path: Path) -> None:
        """Read a file beside the window, and offer what it holds."""
        scene = self._workspace.studio.scene
        offset = scene.model.offset if scene is not None else (0.0, 0.0, 0.0)

        def work(waiting: Waiting) -> Callable[[], object]:
            content = look_into(path, offset, waiting)
            return lambda: self._offer(path, content)

        self._activity.read(tr("Reading {name}", name=path.name), work)

    def _offer(self, path: Path, offers: list[Offer]) -> None:
        self.take_page = TakePage(self._window, path.name, offers, self._take)
        open_page(self.take_page)

    def _take(self, items: list[Offer], way: str) -> None:
        scene, bridge = self._workspace.studio.scene, self._workspace.bridge
        home, notices = self._files.project_path, self._workspace.notices
        names: list[str] = []
        lost: list[str] = []

        def edit(project: Project) -> Project:
            after, ids, sentences = take_in_all(
                project, home, items, scene.model if scene is not None else None, way
            )
            names[:], lost[:] = ids, sentences
            return after

        if not bridge.apply(tr("Take in"), edit):
            return
        cameras = [item for item in names if bridge.project.camera(item) is not None]
        if cameras:
            self._workspace.state.select(cameras[-1])
        more = f" {' '.join(lost)}" if lost else ""
        (notices.note if lost else notices.done)(tr("%n things taken in.{more}", "", len(items), more=more))

    def remarks(self) -> None:
        """The page of remarks."""
        self.remarks_page = RemarksPage(
            self._window,
            self._workspace.bridge,
            self._files.project_path,
            self._go,
            self.send_answers,
            self.take_in,
        )
        open_page(self.remarks_page)
