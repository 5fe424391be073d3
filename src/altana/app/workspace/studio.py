"""The child processes of the window: what they are asked for, and what they answer; pictures, plans and light
come from them."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

import numpy as np
from PySide6.QtCore import QTimer, Signal
from PySide6.QtGui import QImage

from altana.app.theme.words import tr
from altana.app.workspace.background import Background
from altana.app.workspace.child import Child, ServingChild
from altana.app.workspace.notices import Notices
from altana.app.workspace.ordering import PLACES, Ordering, needed
from altana.app.workspace.scene import Scene, prepared
from altana.core.errors import UserError
from altana.core.hiding import NOTHING_HIDDEN, Hiding
from altana.core.picture_key import ESTIMATED, Scenery
from altana.core.project import Camera, Light, Patch, Project, Walk
from altana.core.staging import WHOLE, Lookup, Staging
from altana.jobs.models import open_project_models
from altana.jobs.orders import (
    ComputeLight,
    Covering,
    ExposureProposed,
    Failure,
    FilmChecked,
    LightKnown,
    LightPlaces,
    LightProgress,
    ModelsOpened,
    MoreLightKnown,
    ObjectsCovered,
    OpenModels,
    PictureChecked,
    PictureDrawn,
    PlacesFound,
    PlacesLit,
    PlanDrawn,
    RouteUnrolled,
    SectionDrawn,
    Seeing,
    SharesSeen,
    ShowLight,
    Survey,
    Surveyed,
    WalkChecked,
)
from altana.jobs.service import PICTURES, Answer, Task


class Studio(Ordering):
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
    covered = Signal(object)
    exposed = Signal(object)
    seeing = Signal(float)
    seen = Signal(object)
    light_progress = Signal(float)
    relit = Signal()
    #: The light of a picture's places, by its channel: how far it has come; whether more is to be seen.
    places_lit = Signal(str, float, bool)
    #: The models of an opening, by its number, were read: they are kept now, and whoever else reads them has
    #: them at once.
    _readable = Signal(int, object)

    def __init__(
        self,
        notices: Notices,
        background: Background,
        project: Callable[[], Project],
        start_child: Callable[..., ServingChild] = Child,
    ) -> None:
        """project : the project as shown now.  start_child : what starts one; tests put one without a process
        in its place."""
        super().__init__(
            start_child(PICTURES[0], "pictures", pictures=PICTURES[1], patience=PICTURES[2]),
            start_child("altana.jobs.children.drafting:drafting", "plans and sections"),
        )
        self._notices, self._background, self._project = notices, background, project
        self._scenes = 0
        self.scene: Scene | None = None
        #: Finds objects by what names them: known a moment before the scene is.
        self._lookup: Lookup | None = None
        self.lit = ESTIMATED
        #: Lights beside the project's that were asked for, and those that are known.
        self._also: tuple[Light, ...] = ()
        self._known: frozenset[Light] = frozenset()
        self._shown: Light | None = None
        self._opening = self._told = 0
        self._asked: tuple[Project, str] | None = None
        self.lighting = start_child("altana.jobs.children.lighting:lighting", "light", patience=15)
        self.processes = (self.pictures, self.drafting, self.lighting)
        self._readable.connect(self._tell_early)
        for child in self.processes:
            child.answered.connect(partial(self._take, child))
            child.restarted.connect(partial(self._again, child))
            child.given_up.connect(partial(self._given_up, child))

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
        """Open the project's models in the background.  keep : what is open stays in use until the new scene
        is there."""
        self._opening += 1
        turn = self._opening
        self._known, self._shown = frozenset(), None
        self._asked = (needed(project), str(path))
        if not keep:
            self.scene = self._lookup = None
        if not project.models:
            self.opened.emit()
            return
        self.opening.emit(", ".join(Path(item.path).name for item in project.models))

        def read() -> Scene | UserError:
            try:
                model = open_project_models(project, path, lambda _: turn == self._opening).model
                lookup = Lookup(model)
                self._readable.emit(turn, lookup)
                return prepared(model, lookup)
            except UserError as error:
                return error

        self._background.run(
            "opening the models",
            read,
            lambda scene: self._take_scene(scene, project, turn),
            lambda: self._not_opened(turn),
        )

    def _tell_early(self, turn: int, lookup: Lookup) -> None:
        """The children open the models, and the first picture is drawn, while the window still prepares them;
        not where others are shown meanwhile."""
        if turn == self._opening and self.scene is None:
            self._told, self._lookup = turn, lookup
            self._scenes += 1
            for child in (self.pictures, self.drafting):
                self._tell(child)

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
        self.scene, self._lookup = scene, None
        self._scenes += int(self._told != turn)
        for child in (self.pictures, self.drafting):
            if self._told != turn:
                self._tell(child)
        self.drafting.send(Task("survey", self._next(), 5, Survey()))
        self.light(project)
        self.opened.emit()

    def _tell(self, child: ServingChild) -> None:
        """Tell a child which models are open."""
        if self._asked is None:
            return
        project, path = self._asked
        child.send(Task("models", self._next(), -10, OpenModels(project, path)))

    def _again(self, child: ServingChild) -> None:
        """A child died and was started again: it is told what is open, and what it was asked for is asked for
        again."""
        if child is self.lighting:
            self._order_light()
            return
        self._tell(child)
        if child is self.drafting:
            child.send(Task("survey", self._next(), 5, Survey()))
        child.send_again()
        self.relit.emit()

    def _given_up(self, child: ServingChild) -> None:
        self.light_progress.emit(1.0)
        self._notices.trouble(
            tr(
                "The part of Altana for {name} ended again and again and is left off. Nothing is lost: save the project and start Altana anew.",
                name=child.name,
            )
        )

    def light(self, project: Project) -> None:
        """Compute the light of a project, unless it is kept."""
        if self._asked is not None and project.models == self._asked[0].models:
            self._asked = (needed(project), self._asked[1])
            self._order_light()

    def light_also(self, lights: tuple[Light, ...]) -> None:
        """Compute the light of cameras and walks that have their own, after the project's."""
        if lights != self._also:
            self._also = lights
            if set(lights) - self._known:
                self._order_light()

    def light_places(self, channel: str, found: PlacesFound | None = None) -> None:
        """Have the light of a picture's places reckoned; none found: leave off what is under way."""
        if self._asked is not None and (found is None or found.name):
            self._order(self.lighting, "places", 5, LightPlaces(*self._asked, channel, found))
        if found is None:
            self.places_lit.emit(channel, 1.0, False)

    def _order_light(self) -> None:
        if self._asked is not None:
            self.lighting.send(Task("light", self._next(), 0, ComputeLight(*self._asked, self._also)))

    def staging(self, project: Project, camera: Camera | None, hiding: Hiding = NOTHING_HIDDEN) -> Staging:
        """What a camera's picture shows, less what is hidden while working; everything where no model is
        open."""
        lookup = self.scene.lookup if self.scene is not None else self._lookup
        return WHOLE if lookup is None else hiding.applied(lookup.staging(project, camera), lookup)

    def walk_staging(self, project: Project, walk: Walk | None, hiding: Hiding = NOTHING_HIDDEN) -> Staging:
        """What a walk's film shows, less what is hidden while working."""
        lookup = self.scene.lookup if self.scene is not None else self._lookup
        return WHOLE if lookup is None else hiding.applied(lookup.for_walk(project, walk), lookup)

    @property
    def scenery(self) -> Scenery:
        """What all pictures depend on, as it is now."""
        return Scenery.of(self._project(), self._scenes, self.lit, self._known)

    # ------------------------------------------------------------------ replies

    def _take(self, child: ServingChild, answer: Answer) -> None:
        if child is self.pictures or not isinstance(answer.reply, ModelsOpened):
            self._take_reply(answer)

    def _take_reply(self, answer: Answer) -> None:
        match answer.reply:
            case Failure() as reply:
                self._take_failure(answer, reply)
            case ModelsOpened() as reply:
                self._take_opened(answer, reply)
            case PictureDrawn() as reply:
                self._take_picture(answer, reply)
            case ExposureProposed() as reply:
                self.exposed.emit(dict(reply.ev))
            case PictureChecked() as reply:
                self._take_check(answer, reply)
            case FilmChecked() as reply:
                self.film_checked.emit(reply.walk, reply.flags)
            case Seeing() as reply:
                self.seeing.emit(reply.share)
            case SharesSeen() as reply:
                self.seen.emit(reply.shares)
            case Covering() as reply:
                self.covering.emit(reply.share)
            case ObjectsCovered() as reply:
                self.covered.emit(reply.objects)
            case Surveyed() as reply:
                self.surveyed.emit(reply.problems)
            case PlanDrawn() as reply:
                self.plan.emit(answer.channel, reply.drawing, reply.grid)
            case SectionDrawn() as reply:
                self.section.emit(reply.drawing)
            case WalkChecked() as reply:
                self.walk_checked.emit(reply.walk, reply.flags)
            case RouteUnrolled() as reply:
                self.unrolled.emit(reply.walk, reply.sheet)
            case LightProgress() as reply:
                self.light_progress.emit(reply.share)
            case PlacesFound() as reply:
                self.light_places(answer.channel.removeprefix(PLACES), reply)
            case PlacesLit() as reply:
                self.places_lit.emit(reply.picture, reply.share, reply.more)
            case LightKnown() as reply:
                self._take_light(answer, reply)
            case MoreLightKnown() as reply:
                self.light_progress.emit(1.0)
                self._known |= {reply.light}
                self._show_light()
                self.relit.emit()
            case reply:
                raise TypeError(f"no such answer: {type(reply).__name__}")

    def _take_failure(self, answer: Answer, failure: Failure) -> None:
        if failure.order in (ComputeLight.__name__, LightPlaces.__name__):
            self.light_progress.emit(1.0)
        if failure.trace:
            self._notices.fault(f"{failure.order} in the background", failure.trace, failure.sentence)
        elif failure.order != OpenModels.__name__:
            # That the models cannot be opened was said by whoever opened them for the window.
            self._notices.trouble(failure.sentence)
        self.order_failed.emit(answer.channel, answer.revision, failure)

    def _take_opened(self, answer: Answer, opened: ModelsOpened) -> None:
        self.lit = opened.lit
        # Pictures asked for before the model was there are asked for again.
        QTimer.singleShot(0, self.relit.emit)

    def _take_picture(self, answer: Answer, drawn: PictureDrawn) -> None:
        pixels = np.ascontiguousarray(self.pictures.service.take_picture(drawn))
        height, width = pixels.shape[:2]
        image = QImage(pixels.data, width, height, width * 3, QImage.Format.Format_RGB888).copy()
        self.picture.emit(answer.channel, answer.revision, image, drawn.note)

    def _take_check(self, answer: Answer, checked: PictureChecked) -> None:
        if answer.channel == "checks":
            self.checked.emit(checked.camera_id, checked.check, checked.share)
        else:
            self.composed.emit(checked.camera_id, checked.check, answer.revision)

    def _take_light(self, answer: Answer, known: LightKnown) -> None:
        if known.final:
            self.light_progress.emit(1.0)
        if known.lit == ESTIMATED:
            return
        self.lit, self._shown = known.lit, known.light
        self._show_light()

    def _show_light(self) -> None:
        """The pictures' child draws in the project's light, and in those beside it that are known."""
        if self._shown is not None:
            others = tuple(sorted(self._known, key=repr))
            self._order(self.pictures, "light", -5, ShowLight(self._shown, self.lit, others))
