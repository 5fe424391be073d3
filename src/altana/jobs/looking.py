"""Looking at a camera's picture: drawn once at a small size, then checked as a whole."""

from __future__ import annotations

import functools
import time
from collections.abc import Iterator, Sequence
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import numpy as np

from altana.core.camera.view import View
from altana.core.checks.camera_check import NO_LOSS, CameraCheck, FarLoss, RemovedObject, Trouble, troubles
from altana.core.checks.composition import compose, wider
from altana.core.checks.coverage import Tally
from altana.core.checks.cut_faces import CutFaces, named, opened_objects
from altana.core.checks.gaps import PictureFacts, find_gaps
from altana.core.checks.perspective import main_axes, perspective
from altana.core.checks.verticals import check_verticals, upright_edges
from altana.core.conventions import Bools, Floats, parse_rate
from altana.core.geometry.rays import RayScene
from altana.core.geometry.sight import passed_faces
from altana.core.light.own import light_for
from altana.core.light.sky import sky_of
from altana.core.light.tone import proposed_ev
from altana.core.model import Model
from altana.core.project import Camera, Light, Project, Walk
from altana.core.staging import Lookup, Staging
from altana.core.standing import standable, standing_trouble
from altana.core.walk.checks import Flag, picture_flags, picture_moments
from altana.core.walk.sample import WalkLine, WalkSamples, resolve, sample
from altana.jobs.light import NOWHERE
from altana.jobs.surroundings import sky_for
from altana.render.outputs import Facts
from altana.render.quality import FULL
from altana.render.renderer import Renderer

#: The window looks at this width, a check asked for by name at the larger one.
WIDTH_PX, CHECK_PX = 256, 640
#: How wide pictures are drawn, and how often, to see what time a far bound saves; under which sky does not
#: matter.
TIMED_PX, TIMED = 480, 3
#: In smaller models a far bound saves nothing: surfaces are drawn once more without it, for the contact shade
#: (measured: 1.24 to 1.48 times the time of a picture of 960 px, demo and real house).
TIMED_FACES = 500_000
TIMING_SKY = sky_of(Light())
#: A walk is looked at so many times a second.
WALK_HZ = Fraction(2)
COVERAGE_PX = 480


class Checker:
    """Checks pictures of one model; what it needs to know of the model is found once."""

    def __init__(self, model: Model, renderer: Renderer, rays: RayScene | None = None) -> None:
        self.model, self.renderer = model, renderer
        self._rays = rays

    @property
    def rays(self) -> RayScene:
        """The model for casting rays."""
        if self._rays is None:
            self._rays = RayScene.of(self.model)
        return self._rays

    @functools.cached_property
    def edges(self) -> Floats:
        """The model's vertical edges."""
        return upright_edges(self.model)

    @functools.cached_property
    def axes(self) -> tuple[float, ...]:
        """The model's main directions."""
        return main_axes(self.model)

    @functools.cached_property
    def _panes(self) -> Bools:
        return passed_faces(self.model)

    def check(self, view: View, staging: Staging, width_px: int = WIDTH_PX) -> CameraCheck:
        """Everything about one picture; ``width_px`` is the width that it is drawn at."""
        around, across, up = wider(view, width_px)
        facts = self.renderer.facts(around, staging)
        composition = compose(self.model, facts.object_index, facts.depth_m, facts.normal, across, up)
        small = replace(
            view,
            lens=replace(view.lens, sensor_width_mm=view.sensor_mm[0]),
            width_px=width_px,
            height_px=around.height_px - 2 * up,
            keep_sensor_height=False,
        )
        seen = _inner(small, facts, across, up)
        beyond, far = self._beyond(small, seen, staging)
        passed = passed_faces(self.model, staging.omitted) if staging.omitted else self._panes
        return CameraCheck(
            composition,
            self._cut(small, staging, seen),
            check_verticals(self.edges, view, self.rays, passed),
            perspective(view, self.axes),
            find_gaps(self.model, self.rays, seen, beyond),
            far,
        )

    def film_frame(self, view: View, staging: Staging) -> tuple[float, float, float]:
        """Shares of one film frame that show cut faces, look out through holes, and see the ground end."""
        facts = self.renderer.facts(view, staging)
        seen = _inner(view, facts, 0, 0)
        beyond = (
            None
            if view.far_m is None
            else self.renderer.facts(replace(view, far_m=None), staging).object_index
        )
        gaps = find_gaps(self.model, self.rays, seen, beyond)
        return self._cut(view, staging, seen).share, gaps.out, gaps.ground_ends

    def _cut(self, view: View, staging: Staging, seen: PictureFacts) -> CutFaces:
        if view.near_m is None and not view.cuts:
            return CutFaces()
        opened = opened_objects(self.model, self.renderer.bodies, view, staging)
        return named(self.model, opened, self.renderer.inside(view, staging, seen.depth_m))

    def _beyond(self, view: View, seen: PictureFacts, staging: Staging) -> tuple[np.ndarray | None, FarLoss]:
        """Object numbers without the far bound, and what the bound leaves out."""
        if view.far_m is None:
            return None, NO_LOSS
        whole = self.renderer.facts(replace(view, far_m=None), staging)
        gone = (seen.object_index < 0) & (whole.object_index >= 0)
        depth = self.model.vertices.astype(float) @ view.pose.forward - float(
            np.asarray(view.pose.eye) @ view.pose.forward
        )
        model_share = float((depth[self.model.faces].min(axis=1) > view.far_m).mean())
        numbers = whole.object_index[gone]
        removed = []
        for number, count in zip(*np.unique(numbers, return_counts=True), strict=True):
            item = self.model.objects[int(number)]
            depths = whole.depth_m[gone & (whole.object_index == number)]
            removed.append(
                RemovedObject(
                    item.id, item.name, float(count) / gone.size, float(depths.min()), float(depths.max())
                )
            )
        removed.sort(key=lambda item: -item.share)
        return whole.object_index, FarLoss(tuple(removed), model_share, self._time_saved(view, staging))

    def _time_saved(self, view: View, staging: Staging) -> float:
        """The share of the time that a picture takes less with its far bound, drawn both ways in turn: the
        shortest of each counts, because whatever else the machine does only makes a time longer.  The first
        drawings, which make shadows, count for nothing."""
        if len(self.model.faces) < TIMED_FACES:
            return 0.0
        larger = TIMED_PX / view.width_px
        bounded = replace(view, width_px=TIMED_PX, height_px=max(1, round(view.height_px * larger)))
        times: dict[bool, float] = {True: np.inf, False: np.inf}
        for turn in range(TIMED + 1):
            for far in (True, False):
                started = time.perf_counter()
                self.renderer.picture(
                    bounded if far else replace(bounded, far_m=None),
                    TIMING_SKY,
                    12.0,
                    FULL,
                    False,
                    None,
                    staging,
                )
                if turn:
                    times[far] = min(times[far], time.perf_counter() - started)
        return float(max(0.0, 1.0 - times[True] / max(times[False], 1e-9)))


def _inner(view: View, facts: Facts, across: int, up: int) -> PictureFacts:
    rows, columns = (
        slice(up, facts.object_index.shape[0] - up),
        slice(across, facts.object_index.shape[1] - across),
    )
    return PictureFacts(
        view,
        facts.object_index[rows, columns],
        facts.depth_m[rows, columns],
        facts.normal[rows, columns],
        facts.pane[rows, columns],
    )


def check_camera(
    model: Model, project: Project, camera: Camera, width_px: int = CHECK_PX, rays: RayScene | None = None
) -> CameraCheck:
    """The check of one camera as its picture shows it; ``rays`` of the model where they are there already."""
    renderer = Renderer(model)
    try:
        return Checker(model, renderer, rays).check(
            camera.view(), Lookup(model).staging(project, camera), width_px
        )
    finally:
        renderer.close()


def check_cameras(
    model: Model, project: Project, cameras: Sequence[Camera], width_px: int = CHECK_PX
) -> Iterator[tuple[Camera, CameraCheck, tuple[Trouble, ...]]]:
    """The checks of many cameras, one after the other, with what is trouble in each."""
    renderer = Renderer(model)
    try:
        checker, lookup, floors = Checker(model, renderer), Lookup(model), standable(model)
        for camera in cameras:
            checks = checker.check(camera.view(), lookup.staging(project, camera), width_px)
            standing = standing_trouble(checker.rays, floors, camera)
            yield camera, checks, troubles(camera, checks, project.limits, standing)
    finally:
        renderer.close()


def film_views(walk: Walk, line: WalkLine) -> tuple[WalkSamples, list[View]]:
    """The moments of a walk that are looked at for cut faces and gaps, and their small pictures."""
    rows = line.at_seconds(picture_moments(line), parse_rate(walk.rate))
    high = max(8, round(WIDTH_PX * walk.height_px / walk.width_px))
    return rows, [rows.view(number, WIDTH_PX, high) for number in range(len(rows))]


def check_film(model: Model, project: Project, line: WalkLine, rays: RayScene) -> tuple[Flag, ...]:
    """The flags of a walk's pictures: bounds that open something, views into holes, ground that ends."""
    renderer = Renderer(model)
    try:
        checker, staging = Checker(model, renderer, rays), Lookup(model).for_walk(project, line.walk)
        rows, views = film_views(line.walk, line)
        figures = np.array([checker.film_frame(view, staging) for view in views])
        return picture_flags(rows, figures, project.limits)
    finally:
        renderer.close()


def coverage_views(
    model: Model, project: Project, cameras: Sequence[Camera], walks: Sequence[Walk]
) -> list[tuple[str, View, Staging]]:
    """The pictures that coverage looks at: every camera, and every walk twice a second."""
    lookup = Lookup(model)
    views: list[tuple[str, View, Staging]] = []
    for camera in cameras:
        high = max(8, round(COVERAGE_PX * camera.height_px / camera.width_px))
        views.append((camera.name, camera.view(COVERAGE_PX, high), lookup.staging(project, camera)))
    floors = standable(model) if walks else None
    for walk in walks:
        assert floors is not None
        samples = sample(resolve(walk, floors), WALK_HZ)
        high = max(8, round(COVERAGE_PX * walk.height_px / walk.width_px))
        staging = lookup.for_walk(project, walk)
        views += [
            (walk.name, samples.view(number, COVERAGE_PX, high), staging) for number in range(len(samples))
        ]
    return views


def tallied(tally: Tally, renderer: Renderer, name: str, view: View, staging: Staging) -> None:
    """Count one picture."""
    facts = renderer.facts(view, staging)
    panes = renderer.facts(view, staging, panes=True)
    # What is seen through a pane counts, and so does the pane.
    front = np.where(panes.object_index != facts.object_index, panes.object_index, -1)
    tally.add(name, facts.object_index, facts.depth_m, front, panes.depth_m)


#: Exposure is proposed from a picture so wide.
EXPOSED_PX = 240


def exposure_of(
    renderer: Renderer, camera: Camera, staging: Staging, light: Light, base: Path = NOWHERE
) -> float:
    """The EV, to a tenth, at which the middle of a camera's picture comes out as middle grey."""
    view = camera.view(EXPOSED_PX, max(8, round(EXPOSED_PX * camera.height_px / camera.width_px)))
    master = renderer.master(
        view, sky_for(light_for(light, camera), base), FULL, camera.inside, None, staging, camera.ev
    )
    assert master is not None
    return round(proposed_ev(master.light), 1)
