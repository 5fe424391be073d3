"""The opened model in the window, and the child processes that draw it.

The window itself keeps the arrays only for quick questions (the floor under a point, the wall beside it); pictures,
plans and light come from children.
"""

from __future__ import annotations

import threading
from collections.abc import Hashable, Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any

import numpy as np
from PySide6.QtCore import QObject, QSocketNotifier, QTimer, Signal
from PySide6.QtGui import QImage

from altana.core.camera.view import View
from altana.core.checks.cut_faces import Bodies, bodies_of
from altana.core.checks.perspective import main_axes
from altana.core.conventions import Bools, Floats, Ints32, Vec3
from altana.core.errors import UserError
from altana.core.geometry.rays import RayScene
from altana.core.geometry.sight import passed_faces
from altana.core.hiding import NOTHING_HIDDEN, Hiding
from altana.core.model import Model
from altana.core.project import Camera, Light, Limits, Patch, Project, Walk
from altana.core.staging import WHOLE, Lookup, Staging
from altana.core.standing import Footing, footing, standable
from altana.core.targets import overview
from altana.jobs.models import open_project_models
from altana.jobs.requests import Item, Picture
from altana.jobs.service import Answer, Service, Task

#: The ray caster is fed this many triangles at a time, so that the window answers meanwhile.
PIECE = 8_000
#: What a picture consists of is reckoned at this width.
FACTS_PX = 256


@dataclass(frozen=True, slots=True)
class Scene:
    """A model ready for questions: ``rays`` meets everything, ``floors`` only what one stands on; ``lookup`` finds
    objects by what names them."""

    model: Model
    rays: RayScene
    floors: RayScene
    lookup: Lookup
    #: (faces,) the object each triangle belongs to.
    owner: Ints32
    #: The whole building, as the Frame shows it without a camera.
    overview: Camera
    #: (2, 3) lowest and highest corner, metres.
    bounds: Floats
    #: (faces,) bool: panes, which sight goes through.
    panes: Bools
    #: What encloses space, for telling what a bound opens.
    bodies: Bodies
    #: Main directions of the walls, degrees.
    axes: tuple[float, ...] = ()
    _footings: dict[Vec3, Footing] = field(default_factory=dict)

    def footing(self, eye: Vec3) -> Footing:
        """Floor, ceiling and what is wrong with a place; asked for by several views at a time, so it is kept."""
        held = self._footings.get(eye)
        if held is None:
            if len(self._footings) > 2000:
                self._footings.clear()
            held = self._footings[eye] = footing(self.rays, self.floors, eye)
        return held


def _needed(project: Project) -> Project:
    """What the children need of a project: its models and its light; hundreds of cameras would only be copied."""
    return replace(project, cameras=(), walks=(), planned=())


def prepared(model: Model) -> Scene:
    """The model ready for questions; everything that takes time is done here, not at the first question."""
    rays, floors = RayScene.of(model, PIECE), standable(model, PIECE)
    for scene in (rays, floors):
        scene.warm()
    return Scene(
        model,
        rays,
        floors,
        Lookup(model),
        model.face_objects(),
        overview(model),
        model.bounds,
        passed_faces(model),
        bodies_of(model),
        main_axes(model),
    )


class Child(QObject):
    """A service whose answers arrive as signals; it is started again when it dies."""

    answered = Signal(object)
    restarted = Signal()

    def __init__(self, handler: str, pictures: bool = False, patience: int = 2) -> None:
        super().__init__()
        self._service = Service(handler, pictures, patience)
        self._closed = False
        self._notifier: QSocketNotifier | None = None
        self._watch()

    @property
    def service(self) -> Service:
        """The process itself."""
        return self._service

    def _watch(self) -> None:
        self._notifier = QSocketNotifier(self._service.connection.fileno(), QSocketNotifier.Type.Read, self)
        self._notifier.activated.connect(self._receive)

    def send(self, task: Task) -> None:
        """Ask for something."""
        if not self._closed:
            self._service.send(task)

    def _receive(self) -> None:
        try:
            while not self._closed and self._service.connection.poll():
                self.answered.emit(self._service.connection.recv())
        except (EOFError, OSError):
            self._again()

    def _again(self) -> None:
        if self._closed:
            return
        if self._notifier is not None:
            self._notifier.setEnabled(False)
            self._notifier.deleteLater()
        if self._service.restarts >= 5:
            self._closed = True
            return
        self._service.restart()
        self._watch()
        self.restarted.emit()

    def close(self) -> None:
        """End the process."""
        if not self._closed:
            self._closed = True
            if self._notifier is not None:
                self._notifier.setEnabled(False)
            self._service.close()


class Studio(QObject):
    """Opens models and orders pictures, plans and light."""

    opened = Signal()
    opening = Signal(str)
    failed = Signal(str)
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
    _read = Signal(object, object, int)

    def __init__(self) -> None:
        super().__init__()
        self.scene: Scene | None = None
        self.light_known = False
        self._order = 0
        self._revision = 0
        self._asked: tuple[Project, str] | None = None
        self.pictures = Child("altana.jobs.workers:pictures", pictures=True, patience=10)
        self.drafting = Child("altana.jobs.workers:drafting")
        self.lighting = Child("altana.jobs.workers:lighting", patience=15)
        self.pictures.answered.connect(self._picture_answer)
        self.drafting.answered.connect(self._plan_answer)
        self.lighting.answered.connect(self._light_answer)
        self.pictures.restarted.connect(lambda: self._tell_children(only=self.pictures))
        self.drafting.restarted.connect(lambda: self._tell_children(only=self.drafting))
        self._read.connect(self._take_scene)

    @property
    def patches(self) -> tuple[Patch, ...]:
        """The mends of ours on the model that is open."""
        return self._asked[0].patches if self._asked is not None else ()

    def close(self) -> None:
        """End all child processes."""
        for child in (self.pictures, self.drafting, self.lighting):
            child.close()

    # ------------------------------------------------------------------ opening

    def open(self, project: Project, path: Path, keep: bool = False) -> None:
        """Open the project's models in the background.  keep : what is open stays in use until the new scene is there."""
        self._order += 1
        order = self._order
        self._asked = (_needed(project), str(path))
        if not keep:
            self.scene = None
        if not project.models:
            self.opened.emit()
            return
        self.opening.emit(", ".join(Path(item.path).name for item in project.models))

        def waiting(_: float) -> bool:
            return order == self._order

        def read() -> None:
            try:
                result: Any = prepared(open_project_models(project, path, waiting).model)
            except UserError as error:
                result = error.sentence
            try:
                self._read.emit(result, project, order)
            except RuntimeError:
                return  # the window was closed meanwhile

        threading.Thread(target=read, daemon=True).start()

    def _take_scene(self, result: Any, project: Project, order: int) -> None:
        if order != self._order:
            return
        if isinstance(result, str):
            self.failed.emit(result)
            return
        self.scene = result
        self._tell_children()
        self.light(project)
        self.opened.emit()

    def _tell_children(self, only: Child | None = None) -> None:
        if self._asked is None:
            return
        for child in (self.pictures, self.drafting):
            if only in (None, child):
                child.send(Task("scene", self._next(), -10, "scene", self._asked))
        if only in (None, self.drafting):
            self.drafting.send(Task("survey", self._next(), 5, "survey", ()))
        if only is not None:
            self.relit.emit()

    def light(self, project: Project) -> None:
        """Compute the light of a project, unless it is kept."""
        if self._asked is not None:
            self._asked = (_needed(project), self._asked[1])
            self.lighting.send(Task("light", self._next(), 0, "light", self._asked))

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

    def _next(self) -> int:
        self._revision += 1
        return self._revision

    # ------------------------------------------------------------------ orders and answers

    def order_picture(
        self, channel: str, look: str, view: View, light: Light, ev: float, inside: bool, urgency: int, staging: Staging = WHOLE
    ) -> int:
        """Ask for a picture; its revision comes back with ``picture``."""
        revision = self._next()
        self.pictures.send(Task(channel, revision, urgency, "picture", (look, view, light, ev, inside, staging)))
        return revision

    def order_round(self, channel: str, look: str, camera: Camera, light: Light, urgency: int, staging: Staging, width_px: int) -> int:
        """Ask for a panorama of a camera's place, so wide; it comes with ``picture`` under this revision."""
        revision = self._next()
        self.pictures.send(Task(channel, revision, urgency, "round", (look, camera, light, staging, width_px)))
        return revision

    def order_finished(self, channel: str, item: Picture, project: Project, base: Path, urgency: int) -> int:
        """Ask for a still as its file will show it; it comes with ``picture`` under this revision."""
        revision = self._next()
        needed = replace(_needed(project), models=(), patches=(), shots=())
        self.pictures.send(Task(channel, revision, urgency, "finished", (item, needed, str(base))))
        return revision

    def finished_key(self, item: Item, project: Project) -> Hashable:
        """What a picture of the shot list depends on: while it stays equal, so does the picture."""
        return item, project.tone, project.light, project.qualities, project.left_out, self.light_known

    def order_exposure(self, wanted: Sequence[tuple[Camera, Staging]], light: Light) -> None:
        """Ask which exposure brings the middle of each camera's picture to middle grey; it comes with ``exposed`` by camera."""
        self.pictures.send(Task("exposure", self._next(), 2, "exposure", (tuple(wanted), light)))

    def order_facts(self, camera_id: str, view: View, staging: Staging, width_px: int = FACTS_PX) -> int:
        """Ask what a picture consists of, looked at so wide; the answer comes with ``composed`` under this revision."""
        revision = self._next()
        self.pictures.send(Task(f"facts:{camera_id}", revision, 2, "facts", (view, width_px, staging)))
        return revision

    def order_checks(self, wanted: Sequence[tuple[str, View, Staging]]) -> None:
        """Ask for the checks of many cameras (id, view, staging); each comes with ``checked``.  None: leave off."""
        self.pictures.send(Task("checks", self._next(), 6, "checks", (tuple(wanted), len(wanted), FACTS_PX)))

    def order_coverage(self, project: Project, cameras: Sequence[str], walks: Sequence[str]) -> None:
        """Ask what these cameras and walks see of the model; it comes with ``covering`` and ``covered``."""
        self.pictures.send(Task("coverage", self._next(), 7, "coverage", (project, tuple(cameras), tuple(walks), None)))

    def stop_coverage(self) -> None:
        """Leave off what is under way."""
        self.pictures.send(Task("coverage", self._next(), 7, "coverage stopped", ()))

    def order_seen(self, cameras: Sequence[Camera]) -> None:
        """Ask what each camera sees; the answer comes with ``seen``."""
        views = {item.id: item.view(FACTS_PX, max(8, round(FACTS_PX * item.height_px / item.width_px))) for item in cameras}
        self.pictures.send(Task("seen", self._next(), 0, "seen", (views,)))

    def order_plan(self, channel: str, floor_m: float, cut_m: float, hidden: tuple[int, ...] = ()) -> None:
        """Ask for a plan without the hidden objects; it comes back with ``plan`` on its channel."""
        self.drafting.send(Task(channel, self._next(), 1, "plan", (floor_m, cut_m, hidden)))

    def order_walk_check(self, walk: Walk, limits: Limits) -> None:
        """Ask what is wrong with a walk; the answer comes with ``walk_checked``."""
        self.drafting.send(Task("walk", self._next(), 3, "walk", (walk, limits)))

    def order_film_check(self, walk: Walk, project: Project) -> None:
        """Ask what the film frames of a walk show of cut faces and gaps; the answer comes with ``film_checked``."""
        needed = replace(_needed(project), models=(), patches=())
        self.pictures.send(Task("film", self._next(), 8, "film", (walk, needed, 0)))

    def order_unrolled(self, walk: Walk) -> None:
        """Ask for the long section of a walk's route; it comes with ``unrolled``."""
        self.drafting.send(Task("unrolled", self._next(), 2, "unrolled", (walk,)))

    def order_section(self, origin: tuple[float, float], heading_deg: float, quick: bool, hidden: tuple[int, ...] = ()) -> None:
        """Ask for the section along a line of sight; a quick one shows the cut only."""
        self.drafting.send(Task("section", self._next(), 0, "section", (origin, heading_deg, quick, hidden)))

    def _picture_answer(self, answer: Answer) -> None:
        if answer.kind == "picture":
            pixels = np.ascontiguousarray(self.pictures.service.take_picture(answer.value))
            height, width = pixels.shape[:2]
            image = QImage(pixels.data, width, height, width * 3, QImage.Format.Format_RGB888).copy()
            self.picture.emit(answer.channel, answer.revision, image, answer.value[3])
        elif answer.kind == "seeing":
            self.seeing.emit(answer.value)
        elif answer.kind == "exposed":
            self.exposed.emit(answer.value)
        elif answer.kind == "seen":
            self.seen.emit(answer.value)
        elif answer.kind == "checked":
            self.checked.emit(*answer.value)
        elif answer.kind == "film":
            self.film_checked.emit(*answer.value)
        elif answer.kind == "covering":
            self.covering.emit(answer.value)
        elif answer.kind == "covered":
            self.covered.emit(answer.value)
        elif answer.kind == "facts":
            self.composed.emit(answer.channel.partition(":")[2], answer.value, answer.revision)
        elif answer.kind == "failed":
            self.failed.emit(answer.value)
        elif answer.kind == "done":
            self.light_known = bool(answer.value)
            # Pictures asked for before the model was there are asked for again.
            QTimer.singleShot(0, self.relit.emit)

    def _plan_answer(self, answer: Answer) -> None:
        if answer.kind == "plan":
            self.plan.emit(answer.channel, *answer.value)
        elif answer.kind == "section":
            self.section.emit(answer.value)
        elif answer.kind == "walk":
            self.walk_checked.emit(*answer.value)
        elif answer.kind == "unrolled":
            self.unrolled.emit(*answer.value)
        elif answer.kind == "survey":
            self.surveyed.emit(answer.value)
        elif answer.kind == "failed":
            self.failed.emit(answer.value)

    def _light_answer(self, answer: Answer) -> None:
        if answer.kind == "progress":
            self.light_progress.emit(float(answer.value))
        elif answer.kind == "failed":
            self.light_progress.emit(1.0)
            self.failed.emit(answer.value)
        else:
            self.light_progress.emit(1.0)
            if self._asked is not None and not (self.light_known and answer.value == self._asked[0].light):
                self.light_known = True
            self.pictures.send(Task("light", self._next(), -5, "light", (answer.value,)))
