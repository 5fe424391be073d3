"""Reading the models again, mends of ours on them, what no picture shows, and what is hidden while
working."""

from __future__ import annotations

from PySide6.QtCore import QObject

from altana.app.canvas.plan import PlanView
from altana.app.model.desk import ModelDesk
from altana.app.shell.activity import Activity
from altana.app.shell.files import ProjectFiles
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.patching import ground_to_horizon
from altana.jobs.orders import CheckPictures, Cover, Failure, See

#: Orders whose progress stands in the line at the bottom.
LONG_ORDERS = (See.__name__, Cover.__name__, CheckPictures.__name__)
TOLD_PROBLEMS = (
    "missing-model",
    "incomplete",
    "incomplete-file",
    "missing-files",
    "unit-assumed",
    "far-away",
    "stray-objects",
)
SEEING, COVERING, CHECKING = (
    tr("Seeing what changed"),
    tr("Looking at what is covered"),
    tr("Checking all cameras"),
)


class ModelActions(QObject):
    """What concerns the models as a whole; follows their opening."""

    def __init__(
        self, workspace: Workspace, files: ProjectFiles, activity: Activity, desk: ModelDesk, plan: PlanView
    ) -> None:
        super().__init__()
        self._bridge, self._state, self._studio, self._notices = (
            workspace.bridge,
            workspace.state,
            workspace.studio,
            workspace.notices,
        )
        self._files, self._activity, self._desk, self._plan = files, activity, desk, plan
        desk.coverage.overlaid.connect(self._show_unseen)
        desk.reload_wanted.connect(self.reload)
        desk.reopen_wanted.connect(self.reopen)
        desk.add_model_wanted.connect(files.add_model_dialog)
        studio = self._studio
        studio.open_failed.connect(self._open_failed)
        studio.order_failed.connect(self._order_failed)
        studio.opening.connect(lambda names: activity.tell(tr("Opening {names}", names=names)))
        studio.opened.connect(self._opened)
        studio.covering.connect(lambda share: activity.tell_share(COVERING, share))
        studio.seeing.connect(lambda share: activity.tell_share(SEEING, share))
        workspace.book.progress.connect(lambda share: activity.tell_share(CHECKING, share))
        workspace.bridge.patches_changed.connect(self._patches_changed)
        self._lit = workspace.bridge.project.light
        self._lamps = workspace.bridge.project.light.lamps.hung
        workspace.bridge.settled.connect(self._follow_light)

    def _follow_light(self) -> None:
        """Another light is computed once its drag has ended."""
        light = self._bridge.project.light
        lamps = light.lamps.hung
        if lamps != self._lamps:
            # How lamps glow is part of the model that is shown.
            self._lamps, self._lit = lamps, light
            if self._files.path is not None and self._studio.scene is not None:
                self._studio.open(self._bridge.project, self._files.path, keep=True)
        elif light != self._lit:
            self._lit = light
            self._studio.light(self._bridge.project)

    def reload(self) -> None:
        """Read the model files again; every camera says what changed in its view."""
        if self._files.path is None or not self._bridge.project.models:
            self._notices.note(tr("There is no model to read again."))
        elif self._desk.reloading.begin():
            self._activity.tell(SEEING, 0.0)
        else:
            self.reopen()

    def reopen(self) -> None:
        """Open the project's models anew."""
        if self._files.path is not None:
            self._studio.open(self._bridge.project, self._files.path)

    def _opened(self) -> None:
        self._activity.tell()
        scene = self._studio.scene
        if scene is None:
            return
        self._state.overview = scene.overview
        if self._state.active is None:
            self._state.shown_changed.emit()
        sentences = [item.sentence for item in scene.model.problems if item.code in TOLD_PROBLEMS]
        if sentences and not self._notices.said:
            self._notices.note(sentences[0])

    def _open_failed(self) -> None:
        self._desk.reloading.abandon()
        self._activity.tell()

    def _order_failed(self, channel: str, revision: int, failure: Failure) -> None:
        if failure.order in LONG_ORDERS or channel == "grab":
            self._activity.tell()
        if failure.order == See.__name__:
            self._desk.reloading.abandon()

    def _show_unseen(self, on: bool) -> None:
        """What no picture shows is outlined on the plan as well."""
        scene = self._studio.scene
        numbers = scene.lookup.index if scene is not None else {}
        ids = self._desk.coverage.never if on else ()
        self._plan.show_unseen(frozenset(numbers[item] for item in ids if item in numbers))

    def _patches_changed(self) -> None:
        """Mends of ours on the model came or went: the scene is put together anew, from the cache."""
        path = self._files.path
        if path is None or self._studio.scene is None or self._bridge.in_gesture:
            return
        if self._studio.patches != self._bridge.project.patches:
            self._studio.open(self._bridge.project, path, keep=True)

    def ground_to_horizon(self) -> None:
        """Plain ground to the horizon, as a mend of ours."""
        scene = self._studio.scene
        if scene is not None:
            self._bridge.apply(
                tr("Ground to the horizon"), lambda project: ground_to_horizon(project, scene.model)[0]
            )

    def hide_object(self) -> None:
        """Hide the chosen object while working, or show it again."""
        chosen, hiding = self._state.object_id, self._state.hiding
        if chosen:
            self._state.hide(hiding.turned("objects", chosen, chosen not in hiding.hidden.objects))
