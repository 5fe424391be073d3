"""The child that draws the pictures of the window."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from dataclasses import replace
from pathlib import Path

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Floats32
from altana.core.errors import UserError
from altana.core.light.own import light_for
from altana.core.light.sky import Sky
from altana.core.light.transport import Cancelled
from altana.core.picture_key import ESTIMATED, KNOWN
from altana.core.project import FOLLOWS, Camera, Project
from altana.core.staging import Lookup, Staging
from altana.jobs.children.looking import Looking
from altana.jobs.children.looks import LOOKS
from altana.jobs.children.stage import Stage
from altana.jobs.light import known_light, rough_light
from altana.jobs.looking import Checker
from altana.jobs.models import are_kept, open_project_models
from altana.jobs.orders import (
    DrawFinished,
    DrawPicture,
    DrawRound,
    FindPlaces,
    ModelsOpened,
    OpenAhead,
    OpenModels,
    PlacesFound,
    ShowLight,
)
from altana.jobs.picture import PictureWork
from altana.jobs.pixel_light import KnownPixels, find_places
from altana.jobs.rows.shared import Rows
from altana.jobs.service import Desk, Task, Work
from altana.jobs.soft import SoftLights
from altana.jobs.surroundings import sky_for
from altana.render.outputs import Pixels
from altana.render.panorama import FACES, Place, face_size, face_view, stitched
from altana.render.quality import Quality
from altana.render.renderer import Renderer
from altana.storage.cache import cache_folder
from altana.storage.files import make_folder
from altana.storage.project_file import SUFFIX, read_project

#: Samples after which a picture that is being traced is shown.
SHARPENING = (4, 16, 64, 256)
#: Where samples of pictures that are looked at are kept, while something else is drawn.
TRACED_FOLDER = "traced"
#: Pictures of a moment: what is drawn so is not kept.
PASSING = "coarse"
#: Pictures that are drawn by the light map alone.
UNREFINED = ("small", PASSING)
#: What is said of a picture whose light is still being looked for.
REFINING = "its light is being refined"
#: The size of a picture that nobody sees.
AHEAD_PX = (320, 180)


class PicturesWorker:
    """Draws and looks at pictures; an order that comes before the models are open is not answered: it is sent
    again when they are."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        self._looking = Looking(desk)
        self._stage: Stage | None = None
        #: What is on the stage was put there before the window asked for it.
        self._ahead = False

    def __call__(self, task: Task) -> None:
        """Do one task."""
        if isinstance(task.order, OpenModels):
            self._open(task, task.order)
        elif isinstance(task.order, OpenAhead):
            self._open_ahead(Path(task.order.path))
        elif self._stage is not None:
            self._do(self._stage, task)

    def _do(self, stage: Stage, task: Task) -> None:
        match task.order:
            case ShowLight() as order:
                self._show_light(stage, task, order)
            case DrawPicture() as order:
                self._draw_picture(stage, task, order)
            case DrawRound() as order:
                self._draw_round(stage, task, order)
            case FindPlaces() as order:
                name = find_places(stage.renderer, stage.opened, order.light, order.view, order.staging)
                self._desk.answer(task, PlacesFound(order.view, order.light, name))
            case DrawFinished() as order:
                self._draw_finished(stage, task, order)
            case _:
                self._looking.do(stage, task)

    def _open_ahead(self, path: Path) -> None:
        """What cannot be opened is told by the window, which opens it in a moment; and it shows how far
        reading is."""
        if path.suffix.lower() != SUFFIX:
            return
        try:
            project = read_project(path)
            if not are_kept(project, path):
                return
            stage, self._ahead = self._set(project, path), True
        except UserError:
            return
        for camera in project.cameras[:1]:
            # The first picture makes the shadow maps, and the driver translates its programs: both are kept
            # for all that follow.
            sky, small = sky_for(project.light, stage.base), camera.view(*AHEAD_PX)
            staging = Lookup(stage.opened.model).staging(project, camera)
            stage.renderer.picture(small, sky, camera.ev, LOOKS["full"], camera.inside, None, staging)

    def _open(self, task: Task, order: OpenModels) -> None:
        stage = self._set(order.project, Path(order.path))
        self._desk.answer(task, ModelsOpened(stage.lit))

    def _set(self, project: Project, path: Path) -> Stage:
        """Put the models of a project on the stage."""
        opened, last_stage, ahead = open_project_models(project, path), self._stage, self._ahead
        light, self._ahead = known_light(opened, project.light), False
        known = (project.light, KNOWN) if light is not None else (None, ESTIMATED)
        if last_stage is None:
            renderer = Renderer(opened.model, light)
        else:
            renderer = last_stage.renderer
            # What was made ready a moment ago stays, with its shadow maps.
            if not ahead or (last_stage.opened.keys, last_stage.base, last_stage.light, last_stage.lit) != (
                opened.keys,
                path.parent,
                *known,
            ):
                renderer.show(opened.model, light)
        self._looking.forget()
        self._stage = stage = Stage(
            opened,
            renderer,
            known[0],
            Checker(opened.model, renderer),
            project,
            path.parent,
            SoftLights(opened, renderer),
            KnownPixels(opened),
        )
        stage.lit = known[1]
        stage.soft.shown(stage.light, stage.lit)
        return stage

    def _show_light(self, stage: Stage, task: Task, order: ShowLight) -> None:
        if order.others != stage.soft.others:
            stage.before.forget()
        stage.soft.know(order.others)
        if (stage.light, stage.lit) != (order.light, order.lit):
            stage.before.forget()
            light = (known_light if order.lit == KNOWN else rough_light)(stage.opened, order.light)
            stage.renderer.show(stage.opened.model, light)
            stage.light, stage.lit = order.light, order.lit
            stage.soft.shown(order.light, order.lit)
            self._desk.answer(task, ModelsOpened(order.lit))

    def _draw_picture(self, stage: Stage, task: Task, order: DrawPicture) -> None:
        quality, sky = LOOKS[order.look], sky_for(order.light, stage.base)

        def go_on(_: float) -> bool:
            return not self._desk.outdated(task)

        def draw() -> Pixels | None:
            stage.soft.put_on(order.light)
            return stage.renderer.picture(
                order.view,
                sky,
                order.ev,
                quality,
                order.inside,
                go_on if quality.passes > 1 else None,
                order.staging,
            )

        refined = order.look not in UNREFINED and stage.lit == KNOWN
        rounds, lit = stage.pixels.of(order.light, order.view, order.staging) if refined else (0, None)
        stage.renderer.pixel_light.show(lit)
        try:
            self._show(stage, task, order.look, (order, sky, rounds), draw)
        finally:
            stage.renderer.pixel_light.show(None)

    def _draw_round(self, stage: Stage, task: Task, order: DrawRound) -> None:
        """A coarse one is drawn to its end."""
        quality, sky = replace(LOOKS[order.look], divisor=1.0), sky_for(order.light, stage.base)

        def go_on() -> bool:
            return order.look == PASSING or not self._desk.outdated(task)

        def draw() -> Pixels | None:
            stage.soft.put_on(order.light)
            return drawn_round(
                stage.renderer, order.camera, sky, order.staging, order.width_px, quality, go_on
            )

        self._show(stage, task, order.look, (order, sky), draw)

    def _show(
        self, stage: Stage, task: Task, look: str, key: Hashable, draw: Callable[[], Pixels | None]
    ) -> None:
        """Answer with a picture: as it was drawn a moment ago, or drawn now; one that is broken off waits its
        turn."""
        pixels = stage.before.find(key)
        if pixels is None:
            pixels = draw()
            if pixels is not None and look != PASSING:
                stage.before.keep(key, pixels)
        if pixels is not None:
            self._desk.picture(task, pixels, look)
        else:
            self._desk.later(task)

    def _draw_finished(self, stage: Stage, task: Task, order: DrawFinished) -> None:
        project, opened = order.project, stage.opened
        if stage.light is not None:
            stage.soft.put_on(stage.light)
        if stage.finishing is None:
            stage.finishing = PictureWork(
                Rows(project, opened, Lookup(opened.model), stage.renderer, Path(order.base))
            )
            stage.finishing.rows.models_of = stage.project
            stage.finishing.rows.job = make_folder(cache_folder() / TRACED_FOLDER)
        finishing = stage.finishing
        finishing.rows.project, finishing.rows.base, finishing.rows.soft = (
            project,
            Path(order.base),
            known_light(opened, project.light),
        )
        finishing.rows.recheck()
        item, note = order.item, ""
        light = light_for(project.light, item.camera, item.shot)
        if light != project.light and (finishing.rows.soft is None or known_light(opened, light) is None):
            # Its soft light would take minutes, or the Frame could not go back to its own; nothing else is
            # drawn meanwhile.
            item = replace(
                item,
                camera=replace(item.camera, light=FOLLOWS),
                # A tone of its own is meant for that light.
                shot=replace(item.shot, hour=None, date="", sky="", lamps=None, tone=None),
            )
            note = "in the project's light: this row's is not known yet"
        wanted = finishing.tracer.samples_of(item.shot) if finishing.tracer.traced(item.shot) else 0
        # A traced picture is shown with few samples first, and sharpens; one that is drawn, before its light
        # is found.
        steps = [(step, False, f"{step} of {wanted} samples") for step in SHARPENING if step < wanted]
        if not wanted and not finishing.places.known(item):
            steps = [(0, True, REFINING)]
        try:
            for samples, hurried, words in (*steps, (wanted, False, "")):
                finishing.rows.samples, finishing.rows.hurried = samples, hurried
                shown = finishing.stills.look(item, lambda _: not self._desk.outdated(task))
                words = note or words
                self._desk.picture(task, np.rint(shown * 255.0).astype(np.uint8), f"{item.quality}|{words}")
        except Cancelled:
            self._desk.later(task)
        finally:
            finishing.rows.samples, finishing.rows.hurried = 0, False
            # The Frame goes on in the project's own light.
            finishing.rows.sky(project.light, lambda _: True)
            stage.soft.back()


def drawn_round(
    renderer: Renderer,
    camera: Camera,
    sky: Sky,
    staging: Staging,
    width_px: int,
    quality: Quality,
    go_on: Callable[[], bool],
) -> npt.NDArray[np.uint8] | None:
    """A panorama of a camera's place, (width / 2, width, 3), levelled and quick; None when told to stop."""
    place, side = Place(camera.eye, camera.heading_deg), face_size(width_px)
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


def pictures(desk: Desk) -> Work:
    """The child that draws pictures."""
    return PicturesWorker(desk)
