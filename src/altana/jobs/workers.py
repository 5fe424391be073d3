"""What the child processes of the window do: draw pictures, draw plans, compute light."""

from __future__ import annotations

import os
from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np
import numpy.typing as npt

from altana.core.camera.view import View
from altana.core.checks.changes import seen_shares
from altana.core.checks.coverage import Tally
from altana.core.checks.survey import survey
from altana.core.conventions import Floats32
from altana.core.geometry.drawing import Drafter
from altana.core.geometry.rays import RayScene
from altana.core.geometry.snapping import snap_grid
from altana.core.light.own import light_for
from altana.core.light.transport import Cancelled
from altana.core.model import Model
from altana.core.picture_key import ESTIMATED, KNOWN, ROUGH
from altana.core.project import FOLLOWS, Camera, Light, Project, Walk
from altana.core.staging import Lookup, Staging
from altana.core.standing import standable
from altana.core.walk.checks import check_walk, picture_flags
from altana.core.walk.sample import WalkSamples, resolve
from altana.core.walk.unrolled import unroll
from altana.jobs.light import keep_rough_light, known_light, light_of, rough_light
from altana.jobs.looking import Checker, coverage_views, exposure_of, film_views, tallied
from altana.jobs.models import Opened, open_project_models
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
    DrawPicture,
    DrawPlan,
    DrawRound,
    DrawSection,
    ExposureProposed,
    FilmChecked,
    LightKnown,
    LightProgress,
    ModelsOpened,
    OpenModels,
    PictureChecked,
    PlanDrawn,
    ProposeExposure,
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
from altana.jobs.picture import PictureWork
from altana.jobs.service import Desk, Task, Work
from altana.jobs.surroundings import sky_for
from altana.render.panorama import FACES, Place, face_size, face_view, stitched
from altana.render.renderer import COARSE, FULL, SMALL, STILL, Quality, Renderer
from altana.storage.cache import cache_folder
from altana.storage.files import make_folder

#: Samples after which a picture that is being traced is shown.
SHARPENING = (4, 16, 64, 256)
#: Where samples of pictures that are looked at are kept, while something else is drawn.
TRACED_FOLDER = "traced"
#: How often a picture at rest in the window is drawn over itself; fewer where drawing is slow.
PASSES_SETTING = "ALTANA_FRAME_PASSES"


def looks() -> dict[str, Quality]:
    """How small, coarse, full and resting pictures of the window are drawn."""
    told = os.environ.get(PASSES_SETTING, "")
    passes = min(max(int(told), 1), 64) if told.isdigit() else STILL.passes
    return {"small": SMALL, "coarse": COARSE, "full": FULL, "still": replace(STILL, passes=passes)}


LOOKS = looks()


@dataclass(slots=True)
class _Stage:
    """What the pictures' child has open: the models, what draws them, in which light, and what checks them."""

    opened: Opened
    renderer: Renderer
    #: The light whose soft light is shown; None while it is estimated.
    light: Light | None
    checker: Checker
    #: The project whose models are open, and its folder, where surroundings lie.
    project: Project
    base: Path
    finishing: PictureWork | None = None
    #: How well the soft light is known that is shown.
    lit: int = ESTIMATED
    floors: RayScene | None = None


@dataclass(slots=True)
class _Film:
    """A walk whose film frames are being looked at."""

    walk: Walk
    rows: WalkSamples
    views: list[View]
    staging: Staging
    shares: list[tuple[float, float, float]]


class PicturesWorker:
    """Draws and looks at pictures; an order that comes before the models are open is not answered: it is sent again when they are."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        self._stage: _Stage | None = None
        self._film: _Film | None = None
        self._covering: tuple[Tally, list[tuple[str, View, Staging]]] | None = None

    def __call__(self, task: Task) -> None:
        """Do one task."""
        if isinstance(task.order, OpenModels):
            self._open(task, task.order)
        elif self._stage is not None:
            self._do(self._stage, task)

    def _do(self, stage: _Stage, task: Task) -> None:
        match task.order:
            case ShowLight() as order:
                self._show_light(stage, task, order)
            case DrawPicture() as order:
                self._draw_picture(stage, task, order)
            case DrawRound() as order:
                self._draw_round(stage, task, order)
            case DrawFinished() as order:
                self._draw_finished(stage, task, order)
            case ProposeExposure() as order:
                self._propose_exposure(stage, task, order)
            case CheckPicture() as order:
                self._check_picture(stage, task, order)
            case CheckPictures() as order:
                self._check_pictures(stage, task, order)
            case CheckFilm() as order:
                self._check_film(stage, task, order)
            case See() as order:
                self._see(stage, task, order)
            case Cover() as order:
                self._cover(stage, task, order)
            case StopCovering() as order:
                self._stop_covering(stage, task, order)
            case order:
                raise TypeError(f"no such order: {type(order).__name__}")

    def _open(self, task: Task, order: OpenModels) -> None:
        opened = open_project_models(order.project, Path(order.path))
        light = known_light(opened, order.project.light)
        if self._stage is None:
            renderer = Renderer(opened.model, light)
        else:
            renderer = self._stage.renderer
            renderer.show(opened.model, light)
        self._film = self._covering = None
        self._stage = _Stage(
            opened,
            renderer,
            order.project.light if light is not None else None,
            Checker(opened.model, renderer),
            order.project,
            Path(order.path).parent,
        )
        self._stage.lit = ESTIMATED if light is None else KNOWN
        self._desk.answer(task, ModelsOpened(self._stage.lit))

    def _show_light(self, stage: _Stage, task: Task, order: ShowLight) -> None:
        if (stage.light, stage.lit) != (order.light, order.lit):
            light = (known_light if order.lit == KNOWN else rough_light)(stage.opened, order.light)
            stage.renderer.show(stage.opened.model, light)
            stage.light, stage.lit = order.light, order.lit
            self._desk.answer(task, ModelsOpened(order.lit))

    # ------------------------------------------------------------------ drawing

    def _draw_picture(self, stage: _Stage, task: Task, order: DrawPicture) -> None:
        quality = LOOKS[order.look]

        def go_on(_: float) -> bool:
            return not self._desk.outdated(task)

        pixels = stage.renderer.picture(
            order.view,
            sky_for(order.light, stage.base),
            order.ev,
            quality,
            order.inside,
            go_on if quality.passes > 1 else None,
            order.staging,
        )
        if pixels is not None:
            self._desk.picture(task, pixels, order.look)
        else:
            self._desk.later(task)

    def _draw_round(self, stage: _Stage, task: Task, order: DrawRound) -> None:
        """A coarse one is drawn to its end."""
        quality = replace(LOOKS[order.look], divisor=1.0)

        def go_on() -> bool:
            return order.look == "coarse" or not self._desk.outdated(task)

        pixels = drawn_round(
            stage.renderer,
            order.camera,
            order.light,
            stage.base,
            order.staging,
            order.width_px,
            quality,
            go_on,
        )
        if pixels is not None:
            self._desk.picture(task, pixels, order.look)
        else:
            self._desk.later(task)

    def _draw_finished(self, stage: _Stage, task: Task, order: DrawFinished) -> None:
        project, opened = order.project, stage.opened
        if stage.finishing is None:
            stage.finishing = PictureWork(
                project, opened, Lookup(opened.model), stage.renderer, Path(order.base)
            )
            stage.finishing.models_of = stage.project
            stage.finishing.job = make_folder(cache_folder() / TRACED_FOLDER)
        finishing = stage.finishing
        finishing.project, finishing.base, finishing.soft = (
            project,
            Path(order.base),
            known_light(opened, project.light),
        )
        finishing.recheck()
        item, note = order.item, ""
        light = light_for(project.light, item.camera, item.shot)
        if light != project.light and (finishing.soft is None or known_light(opened, light) is None):
            # Its soft light would take minutes, or the Frame could not go back to its own; nothing else is drawn meanwhile.
            item = replace(
                item,
                camera=replace(item.camera, light=FOLLOWS),
                # A tone of its own is meant for that light.
                shot=replace(item.shot, hour=None, date="", sky="", lamps=None, tone=None),
            )
            note = "in the project's light: this row's is not known yet"
        wanted = finishing.samples_of(item.shot) if finishing.traced(item.shot) else 0
        try:
            # A traced picture is shown with few samples first, and sharpens.
            for samples in (*(step for step in SHARPENING if step < wanted), wanted):
                finishing.samples = samples
                shown = finishing.look(item, lambda _: not self._desk.outdated(task))
                told = note or (f"{samples} of {wanted} samples" if samples < wanted else "")
                self._desk.picture(task, np.rint(shown * 255.0).astype(np.uint8), f"{item.quality}|{told}")
        except Cancelled:
            self._desk.later(task)
        finally:
            finishing.samples = 0
            # The Frame goes on in the project's own light.
            finishing.sky(project.light, lambda _: True)

    # ------------------------------------------------------------------ looking

    def _propose_exposure(self, stage: _Stage, task: Task, order: ProposeExposure) -> None:
        found = {
            camera.id: exposure_of(stage.renderer, camera, staging, order.light, stage.base)
            for camera, staging in order.wanted
        }
        self._desk.answer(task, ExposureProposed(found))

    def _check_picture(self, stage: _Stage, task: Task, order: CheckPicture) -> None:
        self._desk.answer(
            task,
            PictureChecked(order.camera_id, stage.checker.check(order.view, order.staging, order.width_px)),
        )

    def _check_pictures(self, stage: _Stage, task: Task, order: CheckPictures) -> None:
        if order.begun < len(order.wanted):
            camera_id, view, staging = order.wanted[order.begun]
            check = stage.checker.check(view, staging, order.width_px)
            self._desk.answer(task, PictureChecked(camera_id, check, (order.begun + 1) / len(order.wanted)))
        if order.begun + 1 < len(order.wanted):
            self._go_on_with(task, replace(order, begun=order.begun + 1))

    def _check_film(self, stage: _Stage, task: Task, order: CheckFilm) -> None:
        model, walk = stage.opened.model, order.walk
        if order.begun == 0:
            if stage.floors is None:
                stage.floors = standable(model)
            rows, views = film_views(walk, resolve(walk, stage.floors))
            self._film = _Film(walk, rows, views, Lookup(model).for_walk(order.project, walk), [])
        film = self._film
        if film is None or film.walk != walk:
            return
        film.shares.append(stage.checker.film_frame(film.views[order.begun], film.staging))
        if order.begun + 1 < len(film.views):
            self._go_on_with(task, replace(order, begun=order.begun + 1))
        else:
            self._desk.answer(
                task, FilmChecked(walk, picture_flags(film.rows, np.array(film.shares), order.project.limits))
            )

    def _see(self, stage: _Stage, task: Task, order: See) -> None:
        found = {}
        for number, (camera_id, view) in enumerate(order.views.items()):
            found[camera_id] = seen_shares(stage.opened.model, stage.renderer.facts(view).object_index)
            self._desk.answer(task, Seeing((number + 1) / len(order.views)))
        self._desk.answer(task, Seen(found))

    def _cover(self, stage: _Stage, task: Task, order: Cover) -> None:
        model, project = stage.opened.model, order.project
        if order.begun == 0:
            cameras = [item for item in project.cameras if item.id in order.cameras]
            walks = [item for item in project.walks if item.id in order.walks]
            self._covering = Tally(model), coverage_views(model, project, cameras, walks)
        if self._covering is None:
            return
        tally, views = self._covering
        if order.begun < len(views):
            tallied(tally, stage.renderer, *views[order.begun])
            self._desk.answer(task, Covering((order.begun + 1) / len(views)))
        if order.begun + 1 < len(views):
            self._go_on_with(task, replace(order, begun=order.begun + 1))
        else:
            self._desk.answer(task, Covered(tally.result()))

    def _stop_covering(self, stage: _Stage, task: Task, order: StopCovering) -> None:
        self._covering = None

    def _go_on_with(self, task: Task, order: CheckPictures | CheckFilm | Cover) -> None:
        """The rest of a long order waits its turn, so that pictures go before; a newer order on the channel goes instead of it."""
        self._desk.listen(block=False)
        self._desk.later(replace(task, order=order))


def drawn_round(
    renderer: Renderer,
    camera: Camera,
    light: Light,
    base: Path,
    staging: Staging,
    width_px: int,
    quality: Quality,
    go_on: Callable[[], bool],
) -> npt.NDArray[np.uint8] | None:
    """A panorama of a camera's place, (width / 2, width, 3), levelled and quick; None when told to stop."""
    place, side, sky = Place(camera.eye, camera.heading_deg), face_size(width_px), sky_for(light, base)
    faces: dict[str, Floats32] = {}
    for name in FACES:
        if not go_on():
            return None
        pixels = renderer.picture(
            face_view(place, name, side), sky, camera.ev, quality, camera.inside, None, staging
        )
        assert pixels is not None
        faces[name] = pixels.astype(np.float32)
    whole = stitched(faces, place, side, (width_px, width_px // 2))
    assert whole is not None
    return np.rint(whole).astype(np.uint8)


@dataclass(frozen=True, slots=True)
class _Building:
    """What the plans' child has open."""

    model: Model
    drafter: Drafter


class DraftingWorker:
    """Draws plans and sections, and looks for what is wrong with the model and with walks."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        self._building: _Building | None = None
        #: Rays against everything, and against what one stands on; only walks need them.
        self._space: tuple[RayScene, RayScene] | None = None

    def __call__(self, task: Task) -> None:
        """Do one task."""
        if isinstance(task.order, OpenModels):
            model = open_project_models(task.order.project, Path(task.order.path)).model
            self._building, self._space = _Building(model, Drafter(model)), None
            self._desk.answer(task, ModelsOpened(KNOWN))
        elif self._building is not None:
            self._do(self._building, task)

    def _do(self, building: _Building, task: Task) -> None:
        match task.order:
            case Survey() as order:
                self._survey(building, task, order)
            case DrawPlan() as order:
                self._draw_plan(building, task, order)
            case DrawSection() as order:
                self._draw_section(building, task, order)
            case CheckWalk() as order:
                self._check_walk(building, task, order)
            case Unroll() as order:
                self._unroll(building, task, order)
            case order:
                raise TypeError(f"no such order: {type(order).__name__}")

    def _survey(self, building: _Building, task: Task, order: Survey) -> None:
        self._desk.answer(task, Surveyed(survey(building.model)))

    def _draw_plan(self, building: _Building, task: Task, order: DrawPlan) -> None:
        building.drafter.hide(order.hidden)
        drawing = building.drafter.plan(order.floor_m, order.cut_m)
        self._desk.answer(task, PlanDrawn(drawing, snap_grid(drawing.outlines)))

    def _draw_section(self, building: _Building, task: Task, order: DrawSection) -> None:
        building.drafter.hide(order.hidden)
        self._desk.answer(
            task, SectionDrawn(building.drafter.section(order.origin, order.heading_deg, order.quick))
        )

    def _rays(self, building: _Building) -> tuple[RayScene, RayScene]:
        if self._space is None:
            self._space = RayScene.of(building.model), standable(building.model)
        return self._space

    def _check_walk(self, building: _Building, task: Task, order: CheckWalk) -> None:
        rays, floors = self._rays(building)
        line = resolve(order.walk, floors)
        self._desk.answer(task, WalkChecked(line.walk, check_walk(line, rays, floors, order.limits)))

    def _unroll(self, building: _Building, task: Task, order: Unroll) -> None:
        rays, floors = self._rays(building)
        line = resolve(order.walk, floors)
        self._desk.answer(task, RouteUnrolled(line.walk, unroll(building.model, rays, floors, line.route)))


class LightingWorker:
    """Computes soft light; it comes back through the cache."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk

    def __call__(self, task: Task) -> None:
        """Do one task."""
        order = task.order
        if not isinstance(order, ComputeLight):
            return

        def progress(share: float) -> bool:
            self._desk.answer(task, LightProgress(share))
            return not self._desk.outdated(task)

        opened, base = open_project_models(order.project, Path(order.path)), Path(order.path).parent
        wanted = order.project.light
        try:
            if keep_rough_light(opened, wanted, progress, base):
                self._desk.answer(task, LightKnown(wanted, ROUGH))
            light = light_of(opened, wanted, progress, base)
        except Cancelled:
            return
        self._desk.answer(task, LightKnown(wanted, ESTIMATED if light is None else KNOWN))


def pictures(desk: Desk) -> Work:
    """The child that draws pictures."""
    return PicturesWorker(desk)


def drafting(desk: Desk) -> Work:
    """The child that draws plans and sections."""
    return DraftingWorker(desk)


def lighting(desk: Desk) -> Work:
    """The child that computes light."""
    return LightingWorker(desk)
