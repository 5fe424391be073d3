"""The child processes of the window: what they are asked for, and what they answer; pictures, plans and light come from them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np
from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtGui import QImage

from altana.app.workspace.background import Background
from altana.app.workspace.child import Child, ServingChild
from altana.app.workspace.notices import Notices
from altana.app.workspace.scene import Scene, prepared
from altana.core.camera.view import View
from altana.core.errors import UserError
from altana.core.hiding import NOTHING_HIDDEN, Hiding
from altana.core.picture_key import Scenery
from altana.core.project import Camera, Light, Limits, Patch, Project, Walk
from altana.core.staging import WHOLE, Staging
from altana.jobs.models import open_project_models
from altana.jobs.orders import (
    CheckFilm,
    CheckPicture,
    CheckPictures,
    CheckWalk,
    ComputeLight,
    Cover,
    Covered,
    Covering,
    DrawFinished,
    Drawn,
    DrawPicture,
    DrawPlan,
    DrawRound,
    DrawSection,
    ExposureProposed,
    Failure,
    FilmChecked,
    LightKnown,
    LightProgress,
    ModelsOpened,
    OpenModels,
    Order,
    PictureChecked,
    PlanDrawn,
    ProposeExposure,
    Reply,
    RouteUnrolled,
    SectionDrawn,
    See,
    Seeing,
    Seen,
    ShowLight,
    StopCovering,
    Survey,
    Surveyed,
    Unroll,
    WalkChecked,
)
from altana.jobs.requests import Picture
from altana.jobs.service import Answer, Task

#: What a picture consists of is reckoned at this width.
FACTS_PX = 256
SEEN_CHANNEL = "seen"


def _needed(project: Project) -> Project:
    """What the children need of a project: its models and its light; hundreds of cameras would only be copied."""
    return replace(project, cameras=(), walks=(), planned=())


class Studio(QObject):
    """Opens models and orders pictures, plans and light.

    Every order is answered once, with a signal of its own, or ends with ``order_failed``.
    """

    opened = Signal()
    opening = Signal(str)
    #: The models could not be opened; what is open stays.
    open_failed = Signal()
    #: An order came to nothing: its channel, its revision and its Failure.
    order_failed = Signal(str, int, object)
    picture = Signal(str, int, QImage, str)
    plan = Signal(str, object, object)
    section = Signal(object)
    surveyed = Signal(object)
    walk_checked = Signal(object, object)
    film_checked = Signal(object, object)
    unrolled = Signal(object, object)
    composed = Signal(str, object, int)
    checked = Signal(str, object, float)
    covering = Signal(float)
    covered = Signal(object)
    exposed = Signal(object)
    seeing = Signal(float)
    seen = Signal(object)
    light_progress = Signal(float)
    relit = Signal()

    def __init__(
        self,
        notices: Notices,
        background: Background,
        project: Callable[[], Project],
        start_child: Callable[..., ServingChild] = Child,
    ) -> None:
        """project : the project as shown now.  start_child : what starts one; tests put one without a process in its place."""
        super().__init__()
        self._notices, self._background, self._project = notices, background, project
        self._scenes = 0
        self.scene: Scene | None = None
        self.light_known = False
        self._opening = 0
        self._revision = 0
        self._asked: tuple[Project, str] | None = None
        self.pictures = start_child("altana.jobs.workers:pictures", "pictures", pictures=True, patience=10)
        self.drafting = start_child("altana.jobs.workers:drafting", "plans and sections")
        self.lighting = start_child("altana.jobs.workers:lighting", "light", patience=15)
        self.processes = (self.pictures, self.drafting, self.lighting)
        for child in self.processes:
            child.answered.connect(partial(self._take, child))
            child.restarted.connect(partial(self._again, child))
            child.given_up.connect(partial(self._given_up, child))
        self._takes: dict[type[Reply], Callable[[Answer, Any], None]] = {
            Failure: self._take_failure,
            ModelsOpened: self._take_opened,
            Drawn: self._take_picture,
            ExposureProposed: lambda answer, reply: self.exposed.emit(dict(reply.ev)),
            PictureChecked: self._take_check,
            FilmChecked: lambda answer, reply: self.film_checked.emit(reply.walk, reply.flags),
            Seeing: lambda answer, reply: self.seeing.emit(reply.share),
            Seen: lambda answer, reply: self.seen.emit(reply.shares),
            Covering: lambda answer, reply: self.covering.emit(reply.share),
            Covered: lambda answer, reply: self.covered.emit(reply.objects),
            Surveyed: lambda answer, reply: self.surveyed.emit(reply.problems),
            PlanDrawn: lambda answer, reply: self.plan.emit(answer.channel, reply.drawing, reply.grid),
            SectionDrawn: lambda answer, reply: self.section.emit(reply.drawing),
            WalkChecked: lambda answer, reply: self.walk_checked.emit(reply.walk, reply.flags),
            RouteUnrolled: lambda answer, reply: self.unrolled.emit(reply.walk, reply.sheet),
            LightProgress: lambda answer, reply: self.light_progress.emit(reply.share),
            LightKnown: self._take_light,
        }

    @property
    def patches(self) -> tuple[Patch, ...]:
        """The mends of ours on the model that is open."""
        return self._asked[0].patches if self._asked is not None else ()

    def close(self) -> None:
        """End all child processes."""
        for child in self.processes:
            child.close()

    # ------------------------------------------------------------------ opening

    def open(self, project: Project, path: Path, keep: bool = False) -> None:
        """Open the project's models in the background.  keep : what is open stays in use until the new scene is there."""
        self._opening += 1
        turn = self._opening
        self._asked = (_needed(project), str(path))
        if not keep:
            self.scene = None
        if not project.models:
            self.opened.emit()
            return
        self.opening.emit(", ".join(Path(item.path).name for item in project.models))

        def read() -> Scene | UserError:
            try:
                return prepared(open_project_models(project, path, lambda _: turn == self._opening).model)
            except UserError as error:
                return error

        self._background.run(
            "opening the models",
            read,
            lambda scene: self._take_scene(scene, project, turn),
            lambda: self._not_opened(turn),
        )

    def _not_opened(self, turn: int) -> None:
        if turn == self._opening:
            self.open_failed.emit()

    def _take_scene(self, scene: Scene | UserError, project: Project, turn: int) -> None:
        if turn != self._opening:
            # Another project was opened meanwhile; what became of this one is nobody's concern any more.
            return
        if isinstance(scene, UserError):
            self.open_failed.emit()
            self._notices.trouble(scene.sentence)
            return
        self.scene = scene
        self._scenes += 1
        for child in (self.pictures, self.drafting):
            self._tell(child)
        self.light(project)
        self.opened.emit()

    def _tell(self, child: ServingChild) -> None:
        """Tell a child which models are open."""
        if self._asked is None:
            return
        project, path = self._asked
        child.send(Task("models", self._next(), -10, OpenModels(project, path)))
        if child is self.drafting:
            child.send(Task("survey", self._next(), 5, Survey()))

    def _again(self, child: ServingChild) -> None:
        """A child died and was started again: it is told what is open, and what it was asked for is asked for again."""
        if child is self.lighting:
            self._order_light()
            return
        self._tell(child)
        child.send_again()
        self.relit.emit()

    def _given_up(self, child: ServingChild) -> None:
        self.light_progress.emit(1.0)
        self._notices.trouble(
            f"The part of Altana for {child.name} ended again and again and is left off. Nothing is lost: save the project and start Altana anew."
        )

    def light(self, project: Project) -> None:
        """Compute the light of a project, unless it is kept."""
        if self._asked is not None and project.models == self._asked[0].models:
            self._asked = (_needed(project), self._asked[1])
            self._order_light()

    def _order_light(self) -> None:
        if self._asked is not None:
            self.lighting.send(Task("light", self._next(), 0, ComputeLight(*self._asked)))

    def staging(self, project: Project, camera: Camera | None, hiding: Hiding = NOTHING_HIDDEN) -> Staging:
        """What a camera's picture shows, less what is hidden while working; everything where no model is open."""
        if self.scene is None:
            return WHOLE
        return hiding.applied(self.scene.lookup.staging(project, camera), self.scene.lookup)

    def walk_staging(self, project: Project, walk: Walk | None, hiding: Hiding = NOTHING_HIDDEN) -> Staging:
        """What a walk's film shows, less what is hidden while working."""
        if self.scene is None:
            return WHOLE
        return hiding.applied(self.scene.lookup.for_walk(project, walk), self.scene.lookup)

    @property
    def ordered(self) -> int:
        """How many orders have gone out."""
        return self._revision

    @property
    def scenery(self) -> Scenery:
        """What all pictures depend on, as it is now."""
        return Scenery.of(self._project(), self._scenes, self.light_known)

    def _next(self) -> int:
        self._revision += 1
        return self._revision

    # ------------------------------------------------------------------ orders

    def _order(self, child: ServingChild, channel: str, urgency: int, order: Order) -> int:
        revision = self._next()
        child.send(Task(channel, revision, urgency, order))
        return revision

    def order_picture(
        self,
        channel: str,
        look: str,
        view: View,
        light: Light,
        ev: float,
        inside: bool,
        urgency: int,
        staging: Staging = WHOLE,
    ) -> int:
        """Ask for a picture; its revision comes back with ``picture``."""
        return self._order(
            self.pictures, channel, urgency, DrawPicture(look, view, light, ev, inside, staging)
        )

    def order_round(
        self,
        channel: str,
        look: str,
        camera: Camera,
        light: Light,
        urgency: int,
        staging: Staging,
        width_px: int,
    ) -> int:
        """Ask for a panorama of a camera's place, so wide; it comes with ``picture`` under this revision."""
        return self._order(self.pictures, channel, urgency, DrawRound(look, camera, light, staging, width_px))

    def order_finished(self, channel: str, item: Picture, project: Project, base: Path, urgency: int) -> int:
        """Ask for a still as its file will show it; it comes with ``picture`` under this revision."""
        needed = replace(_needed(project), models=(), patches=(), shots=())
        return self._order(self.pictures, channel, urgency, DrawFinished(item, needed, str(base)))

    def order_exposure(self, wanted: Sequence[tuple[Camera, Staging]], light: Light) -> None:
        """Ask which exposure brings the middle of each camera's picture to middle grey; it comes with ``exposed`` by camera."""
        self._order(self.pictures, "exposure", 2, ProposeExposure(tuple(wanted), light))

    def order_facts(self, camera_id: str, view: View, staging: Staging, width_px: int = FACTS_PX) -> int:
        """Ask what a picture consists of, looked at so wide; the answer comes with ``composed`` under this revision."""
        return self._order(
            self.pictures, f"facts:{camera_id}", 2, CheckPicture(camera_id, view, width_px, staging)
        )

    def order_checks(self, wanted: Sequence[tuple[str, View, Staging]]) -> None:
        """Ask for the checks of many cameras (id, view, staging); each comes with ``checked``.  None: leave off."""
        self._order(self.pictures, "checks", 6, CheckPictures(tuple(wanted), FACTS_PX))

    def order_coverage(self, project: Project, cameras: Sequence[str], walks: Sequence[str]) -> None:
        """Ask what these cameras and walks see of the model; it comes with ``covering`` and ``covered``."""
        self._order(self.pictures, "coverage", 7, Cover(project, tuple(cameras), tuple(walks)))

    def stop_coverage(self) -> None:
        """Leave off what is under way."""
        self._order(self.pictures, "coverage", 7, StopCovering())
        self.covering.emit(1.0)

    def order_seen(self, cameras: Sequence[Camera]) -> None:
        """Ask what each camera sees; the answer comes with ``seen``."""
        views = {
            item.id: item.view(FACTS_PX, max(8, round(FACTS_PX * item.height_px / item.width_px)))
            for item in cameras
        }
        self._order(self.pictures, SEEN_CHANNEL, 0, See(views))

    def order_plan(self, channel: str, floor_m: float, cut_m: float, hidden: tuple[int, ...] = ()) -> None:
        """Ask for a plan without the hidden objects; it comes back with ``plan`` on its channel."""
        self._order(self.drafting, channel, 1, DrawPlan(floor_m, cut_m, hidden))

    def order_section(
        self, origin: tuple[float, float], heading_deg: float, quick: bool, hidden: tuple[int, ...] = ()
    ) -> None:
        """Ask for the section along a line of sight; a quick one shows the cut only."""
        self._order(self.drafting, "section", 0, DrawSection(origin, heading_deg, quick, hidden))

    def order_walk_check(self, walk: Walk, limits: Limits) -> None:
        """Ask what is wrong with a walk; the answer comes with ``walk_checked``."""
        self._order(self.drafting, "walk", 3, CheckWalk(walk, limits))

    def order_film_check(self, walk: Walk, project: Project) -> None:
        """Ask what the film frames of a walk show of cut faces and gaps; the answer comes with ``film_checked``."""
        self._order(
            self.pictures, "film", 8, CheckFilm(walk, replace(_needed(project), models=(), patches=()))
        )

    def order_unrolled(self, walk: Walk) -> None:
        """Ask for the long section of a walk's route; it comes with ``unrolled``."""
        self._order(self.drafting, "unrolled", 2, Unroll(walk))

    # ------------------------------------------------------------------ replies

    def _take(self, child: ServingChild, answer: Answer) -> None:
        if child is self.pictures or not isinstance(answer.reply, ModelsOpened):
            self._takes[type(answer.reply)](answer, answer.reply)

    def _take_failure(self, answer: Answer, failure: Failure) -> None:
        if failure.order == ComputeLight.__name__:
            self.light_progress.emit(1.0)
        if failure.trace:
            self._notices.fault(f"{failure.order} in the background", failure.trace, failure.sentence)
        elif failure.order != OpenModels.__name__:
            # That the models cannot be opened was said by whoever opened them for the window.
            self._notices.trouble(failure.sentence)
        self.order_failed.emit(answer.channel, answer.revision, failure)

    def _take_opened(self, answer: Answer, opened: ModelsOpened) -> None:
        self.light_known = opened.lit
        # Pictures asked for before the model was there are asked for again.
        QTimer.singleShot(0, self.relit.emit)

    def _take_picture(self, answer: Answer, drawn: Drawn) -> None:
        pixels = np.ascontiguousarray(self.pictures.service.take_picture(drawn))
        height, width = pixels.shape[:2]
        image = QImage(pixels.data, width, height, width * 3, QImage.Format.Format_RGB888).copy()
        self.picture.emit(answer.channel, answer.revision, image, drawn.note)

    def _take_check(self, answer: Answer, found: PictureChecked) -> None:
        if answer.channel == "checks":
            self.checked.emit(found.camera_id, found.check, found.share)
        else:
            self.composed.emit(found.camera_id, found.check, answer.revision)

    def _take_light(self, answer: Answer, known: LightKnown) -> None:
        self.light_progress.emit(1.0)
        if known.estimated:
            return
        self.light_known = True
        self._order(self.pictures, "light", -5, ShowLight(known.light))
