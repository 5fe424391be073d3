"""Orders that look at pictures instead of showing them: exposure, checks, what is seen, coverage."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from altana.core.camera.view import View
from altana.core.checks.changes import seen_shares
from altana.core.checks.coverage import Tally
from altana.core.project import Walk
from altana.core.staging import Lookup, Staging
from altana.core.standing import standable
from altana.core.walk.checks import picture_flags
from altana.core.walk.sample import WalkSamples, resolve
from altana.jobs.children.stage import Stage
from altana.jobs.looking import coverage_views, exposure_of, film_views, tallied
from altana.jobs.orders import (
    CheckFilm,
    CheckPicture,
    CheckPictures,
    Cover,
    Covering,
    ExposureProposed,
    FilmChecked,
    ObjectsCovered,
    PictureChecked,
    ProposeExposure,
    See,
    Seeing,
    SharesSeen,
    StopCovering,
)
from altana.jobs.service import Desk, Task


@dataclass(slots=True)
class _Film:
    """A walk whose film frames are being looked at."""

    walk: Walk
    rows: WalkSamples
    views: list[View]
    staging: Staging
    shares: list[tuple[float, float, float]]


class Looking:
    """Answers orders about what pictures consist of; a long one is done in parts, so that pictures go
    before."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        self._film: _Film | None = None
        self._covering: tuple[Tally, list[tuple[str, View, Staging]]] | None = None

    def forget(self) -> None:
        """Other models are open."""
        self._film = self._covering = None

    def do(self, stage: Stage, task: Task) -> None:
        """Do one of them."""
        match task.order:
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

    def _propose_exposure(self, stage: Stage, task: Task, order: ProposeExposure) -> None:
        exposures = {
            camera.id: exposure_of(stage.renderer, camera, staging, order.light, stage.base)
            for camera, staging in order.wanted
        }
        self._desk.answer(task, ExposureProposed(exposures))

    def _check_picture(self, stage: Stage, task: Task, order: CheckPicture) -> None:
        self._desk.answer(
            task,
            PictureChecked(order.camera_id, stage.checker.check(order.view, order.staging, order.width_px)),
        )

    def _check_pictures(self, stage: Stage, task: Task, order: CheckPictures) -> None:
        if order.begun < len(order.wanted):
            camera_id, view, staging = order.wanted[order.begun]
            check = stage.checker.check(view, staging, order.width_px)
            self._desk.answer(task, PictureChecked(camera_id, check, (order.begun + 1) / len(order.wanted)))
        if order.begun + 1 < len(order.wanted):
            self._go_on_with(task, replace(order, begun=order.begun + 1))

    def _check_film(self, stage: Stage, task: Task, order: CheckFilm) -> None:
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

    def _see(self, stage: Stage, task: Task, order: See) -> None:
        shares = {}
        for number, (camera_id, view) in enumerate(order.views.items()):
            shares[camera_id] = seen_shares(stage.opened.model, stage.renderer.facts(view).object_index)
            self._desk.answer(task, Seeing((number + 1) / len(order.views)))
        self._desk.answer(task, SharesSeen(shares))

    def _cover(self, stage: Stage, task: Task, order: Cover) -> None:
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
            self._desk.answer(task, ObjectsCovered(tally.result()))

    def _stop_covering(self, stage: Stage, task: Task, order: StopCovering) -> None:
        self._covering = None

    def _go_on_with(self, task: Task, order: CheckPictures | CheckFilm | Cover) -> None:
        """The rest of a long order waits its turn, so that pictures go before; a newer order on the channel
        goes instead of it."""
        self._desk.listen(block=False)
        self._desk.later(replace(task, order=order))
