"""What the child processes of the window do: draw pictures, draw plans, compute light."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np
import numpy.typing as npt

from altana.core.camera.view import View
from altana.core.checks.changes import seen_shares
from altana.core.checks.coverage import Tally
from altana.core.checks.survey import survey
from altana.core.conventions import Floats32
from altana.core.errors import UserError
from altana.core.geometry.drawing import Drafter
from altana.core.geometry.rays import RayScene
from altana.core.geometry.snapping import snap_grid
from altana.core.light.sky import sky_of
from altana.core.light.transport import Cancelled
from altana.core.model import Model
from altana.core.project import Camera, Light, Project
from altana.core.staging import Lookup, Staging
from altana.core.standing import standable
from altana.core.walk.checks import check_walk, picture_flags
from altana.core.walk.sample import resolve
from altana.core.walk.unrolled import unroll
from altana.jobs.light import known_light, light_of
from altana.jobs.looking import Checker, coverage_views, exposure_of, film_views, tallied
from altana.jobs.models import Opened, open_project_models
from altana.jobs.picture import PictureWork
from altana.jobs.service import Desk, Task
from altana.render.panorama import FACES, Place, face_size, face_view, stitched
from altana.render.renderer import COARSE, FULL, STILL, Quality, Renderer

Work = Callable[[Desk, Task], None]
LOOKS: dict[str, Quality] = {"coarse": COARSE, "full": FULL, "still": STILL}


def pictures(_: Desk) -> Work:
    """Tasks: ("scene", project, path), ("light", light), ("picture", look, view, light, ev, inside, staging),
    ("facts", view, width, staging), which answers with a CameraCheck, ("round", look, camera, light, staging, width),
    ("finished", item, project, base), ("exposure", cameras with their stagings, light), ("seen", …), ("checks", …) and ("coverage", …)."""
    held: dict[str, object] = {"renderer": None, "opened": None, "light": None}
    handlers = {
        "picture": _picture,
        "facts": _facts,
        "seen": _seen,
        "checks": _checks,
        "film": _film,
        "coverage": _coverage,
        "round": _round,
        "finished": _finished,
        "exposure": _exposures,
    }

    def work(desk: Desk, task: Task) -> None:
        if task.name == "scene":
            project, path = task.values
            opened = open_project_models(project, Path(path))
            light = known_light(opened, project.light)
            renderer = held["renderer"]
            if isinstance(renderer, Renderer):
                renderer.show(opened.model, light)
            else:
                renderer = Renderer(opened.model, light)
            held.update(renderer=renderer, opened=opened, light=project.light if light is not None else None)
            desk.answer(task, "done", light is not None)
        elif task.name == "light":
            if held["light"] != task.values[0]:
                _relight(held, task.values[0])
                desk.answer(task, "done", True)
        elif task.name == "coverage stopped":
            held.pop("coverage", None)
        else:
            handlers[task.name](held, desk, task)

    return work


def _later(desk: Desk, task: Task) -> None:
    """Interrupted by something more urgent, not replaced by a newer one of its channel: it is still wanted."""
    desk.waiting.setdefault(task.channel, task)


def _checker(held: dict[str, object]) -> Checker | None:
    """What checks pictures of the model that is open; made for the first check and kept for the model."""
    renderer, opened = held["renderer"], held["opened"]
    if not (isinstance(renderer, Renderer) and isinstance(opened, Opened)):
        return None
    kept = held.get("checker")
    if not (isinstance(kept, Checker) and kept.model is opened.model and kept.renderer is renderer):
        held["checker"] = kept = Checker(opened.model, renderer)
    return kept


def _facts(held: dict[str, object], desk: Desk, task: Task) -> None:
    checker = _checker(held)
    if checker is not None:
        view, width, staging = task.values
        desk.answer(task, "facts", checker.check(view, staging, width))


def _checks(held: dict[str, object], desk: Desk, task: Task) -> None:
    """("checks", cameras still to be looked at, how many in all): one at a time, so that pictures go before."""
    checker = _checker(held)
    if checker is None:
        return
    left, count, width = task.values
    if left:
        camera_id, view, staging = left[0]
        desk.answer(task, "checked", (camera_id, checker.check(view, staging, width), (count - len(left) + 1) / count))
    if len(left) > 1:
        desk.listen(block=False)
        # A newer order on the channel goes instead of what is left of this one.
        desk.waiting.setdefault(task.channel, replace(task, values=(left[1:], count, width)))


def _coverage(held: dict[str, object], desk: Desk, task: Task) -> None:
    """("coverage", project): cameras and walks are looked at one picture at a time; the last answers with the whole."""
    checker = _checker(held)
    if checker is None:
        return
    project, cameras, walks, begun = task.values
    if begun is None:
        wanted = [item for item in project.cameras if item.id in cameras], [item for item in project.walks if item.id in walks]
        held["coverage"] = (Tally(checker.model), coverage_views(checker.model, project, *wanted))
        begun = 0
    going = held.get("coverage")
    if not isinstance(going, tuple):
        return
    tally, views = going
    if begun < len(views):
        tallied(tally, checker.renderer, *views[begun])
        desk.answer(task, "covering", (begun + 1) / len(views))
    if begun + 1 < len(views):
        desk.listen(block=False)
        desk.waiting.setdefault(task.channel, replace(task, values=(project, cameras, walks, begun + 1)))
    else:
        desk.answer(task, "covered", tally.result())


def _film(held: dict[str, object], desk: Desk, task: Task) -> None:
    """("film", walk, its left out and limits as a project, frames looked at so far): film frames one at a time."""
    checker = _checker(held)
    if checker is None:
        return
    walk, project, begun = task.values
    if begun == 0:
        floors = held.get("floors")
        if not (isinstance(floors, tuple) and floors[0] is checker.model):
            floors = held["floors"] = (checker.model, standable(checker.model))
        rows, views = film_views(walk, resolve(walk, floors[1]))
        held["film"] = (walk, rows, views, Lookup(checker.model).for_walk(project, walk), [])
    going = held.get("film")
    if not isinstance(going, tuple) or going[0] != walk:
        return
    _, rows, views, staging, found = going
    found.append(checker.film_frame(views[begun], staging))
    if begun + 1 < len(views):
        desk.listen(block=False)
        desk.waiting.setdefault(task.channel, replace(task, values=(walk, project, begun + 1)))
    else:
        desk.answer(task, "film", (walk, picture_flags(rows, np.array(found), project.limits)))


def _seen(held: dict[str, object], desk: Desk, task: Task) -> None:
    """("seen", views by camera): what each camera sees, as shares of its picture, one answer for all."""
    renderer, opened = held["renderer"], held["opened"]
    if not (isinstance(renderer, Renderer) and isinstance(opened, Opened)):
        return
    views: dict[str, View] = task.values[0]
    found = {}
    for number, (camera_id, view) in enumerate(views.items()):
        found[camera_id] = seen_shares(opened.model, renderer.facts(view).object_index)
        desk.answer(task, "seeing", (number + 1) / len(views))
    desk.answer(task, "seen", found)


def _relight(held: dict[str, object], light: Light) -> None:
    renderer, opened = held["renderer"], held["opened"]
    if isinstance(renderer, Renderer) and isinstance(opened, Opened):
        renderer.show(opened.model, known_light(opened, light))
        held["light"] = light


def _picture(held: dict[str, object], desk: Desk, task: Task) -> None:
    renderer = held["renderer"]
    if not isinstance(renderer, Renderer):
        return
    look, view, light, ev, inside, staging = task.values
    assert isinstance(view, View)
    quality = LOOKS[look]

    def go_on(_: float) -> bool:
        return not desk.outdated(task)

    pixels = renderer.picture(view, sky_of(light), ev, quality, inside, go_on if quality.passes > 1 else None, staging)
    if pixels is not None:
        desk.picture(task, pixels, look)
    else:
        _later(desk, task)


def drawn_round(
    renderer: Renderer, camera: Camera, light: Light, staging: Staging, width_px: int, quality: Quality, go_on: Callable[[], bool]
) -> npt.NDArray[np.uint8] | None:
    """A panorama of a camera's place, (width / 2, width, 3), levelled and quick; None when told to stop."""
    place, side, sky = Place(camera.eye, camera.heading_deg), face_size(width_px), sky_of(light)
    faces: dict[str, Floats32] = {}
    for name in FACES:
        if not go_on():
            return None
        pixels = renderer.picture(face_view(place, name, side), sky, camera.ev, quality, camera.inside, None, staging)
        assert pixels is not None
        faces[name] = pixels.astype(np.float32)
    made = stitched(faces, place, side, (width_px, width_px // 2))
    assert made is not None
    return np.rint(made).astype(np.uint8)


def _round(held: dict[str, object], desk: Desk, task: Task) -> None:
    """A panorama of a place as it is now: (look, camera, light, staging, width).  A coarse one is drawn to its end."""
    renderer = held["renderer"]
    if not isinstance(renderer, Renderer):
        return
    look, camera, light, staging, width = task.values
    quality = replace(LOOKS[look], divisor=1.0)
    made = drawn_round(renderer, camera, light, staging, width, quality, lambda: look == "coarse" or not desk.outdated(task))
    if made is not None:
        desk.picture(task, made, look)
    else:
        _later(desk, task)


def _exposures(held: dict[str, object], desk: Desk, task: Task) -> None:
    """("exposure", ((camera, staging), …), light): the proposed exposure of each camera, one answer for all."""
    renderer = held["renderer"]
    if isinstance(renderer, Renderer):
        wanted, light = task.values
        desk.answer(task, "exposed", {camera.id: exposure_of(renderer, camera, staging, light) for camera, staging in wanted})


def _finished(held: dict[str, object], desk: Desk, task: Task) -> None:
    """A still as its file will show it: (item, project without its cameras, the project's folder)."""
    renderer, opened = held["renderer"], held["opened"]
    if not (isinstance(renderer, Renderer) and isinstance(opened, Opened)):
        return
    item, project, base = task.values
    kept = held.get("finishing")
    if not (isinstance(kept, PictureWork) and kept.opened is opened and kept.renderer is renderer):
        held["finishing"] = kept = PictureWork(project, opened, Lookup(opened.model), renderer, Path(base))
    kept.project, kept.base, kept.soft = project, Path(base), known_light(opened, project.light)
    kept.recheck()
    note, hour = "", item.shot.hour
    if hour is not None and (kept.soft is None or known_light(opened, replace(project.light, hour=hour)) is None):
        # Its soft light would take minutes, or the Frame could not go back to its own; nothing else is drawn meanwhile.
        item, note = replace(item, shot=replace(item.shot, hour=None)), "in the project's sun: this row's is not known yet"

    def go_on(_: float) -> bool:
        return not desk.outdated(task)

    try:
        shown = kept.look(item, go_on)
    except Cancelled:
        _later(desk, task)
        return
    except UserError as error:
        desk.answer(task, "failed", error.sentence)
        return
    finally:
        # The Frame goes on in the project's own light.
        kept.sky(None, lambda _: True)
    desk.picture(task, np.rint(shown * 255.0).astype(np.uint8), f"{item.quality}|{note}")


def drafting(_: Desk) -> Work:
    """Tasks: ("scene", project, path), ("plan", floor, cut, hidden), ("section", origin, heading, quick, hidden),
    ("survey",), ("walk", walk, limits) and ("unrolled", walk).  A plan is answered with what a pointer on it holds on to."""
    held: dict[str, tuple[Drafter, Model]] = {}
    spaces: dict[str, tuple[Model, RayScene, RayScene]] = {}

    def work(desk: Desk, task: Task) -> None:
        if task.name == "scene":
            project, path = task.values
            assert isinstance(project, Project)
            model = open_project_models(project, Path(path)).model
            held["drafter"] = Drafter(model), model
            desk.answer(task, "done", True)
        elif "drafter" in held and task.name in ("walk", "unrolled"):
            model = held["drafter"][1]
            space = spaces.get("space")
            if space is None or space[0] is not model:
                space = spaces["space"] = (model, RayScene.of(model), standable(model))
            line = resolve(task.values[0], space[2])
            if task.name == "unrolled":
                desk.answer(task, "unrolled", (line.walk, unroll(model, space[1], space[2], line.route)))
            else:
                desk.answer(task, "walk", (line.walk, check_walk(line, space[1], space[2], task.values[1])))
        elif "drafter" in held:
            desk.answer(task, task.name, _drafted(*held["drafter"], task))

    return work


def _drafted(drafter: Drafter, model: Model, task: Task) -> object:
    if task.name == "survey":
        return survey(model)
    if task.name == "plan":
        floor, cut, hidden = task.values
        drafter.hide(hidden)
        drawing = drafter.plan(floor, cut)
        return drawing, snap_grid(drawing.outlines)
    origin, heading, quick, hidden = task.values
    drafter.hide(hidden)
    return drafter.section(origin, heading, quick)


def lighting(_: Desk) -> Work:
    """Tasks: ("light", project, path)."""

    def work(desk: Desk, task: Task) -> None:
        project, path = task.values

        def progress(share: float) -> bool:
            desk.answer(task, "progress", share)
            return not desk.outdated(task)

        try:
            made = light_of(open_project_models(project, Path(path)), project.light, progress)
        except Cancelled:
            return
        desk.answer(task, "done" if made is not None else "progress", project.light if made is not None else 1.0)

    return work
