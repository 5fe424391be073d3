"""The child that computes light."""

from __future__ import annotations

import threading
from pathlib import Path

from altana.core.light.transport import Cancelled
from altana.core.picture_key import ESTIMATED, KNOWN, ROUGH
from altana.jobs.light import KeptLighting, keep_rough_light, light_of
from altana.jobs.models import open_project_models
from altana.jobs.orders import (
    ComputeLight,
    LightKnown,
    LightPlaces,
    LightProgress,
    MoreLightKnown,
    PlacesFound,
    PlacesLit,
)
from altana.jobs.pixel_light import PixelWork
from altana.jobs.service import Desk, Task, Work

#: What points see is kept so long after light was asked for: the next hour of a sun that is being set takes a
#: fifth of the time.
KEPT_S = 120.0
#: So many times it is told how far the light of a picture has come: the window has other things to do; and
#: the last of it comes with the light.
TOLD, LAST_SHARE = 20, 0.99


class LightingWorker:
    """Computes soft light; it comes back through the cache."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        self._kept = KeptLighting()
        self._pixels = PixelWork()
        self._later: threading.Timer | None = None

    def __call__(self, task: Task) -> None:
        """Do one task."""
        if self._later is not None:
            self._later.cancel()
            self._later.join()
        try:
            if isinstance(task.order, ComputeLight):
                self._light(task, task.order)
            elif isinstance(task.order, LightPlaces) and task.order.found is not None:
                self._light_places(task, task.order, task.order.found)
        finally:
            self._later = threading.Timer(KEPT_S, self._let_go)
            self._later.daemon = True
            self._later.start()

    def _let_go(self) -> None:
        self._kept.let_go()
        self._pixels.let_go()

    def _light_places(self, task: Task, order: LightPlaces, found: PlacesFound) -> None:
        told = -1

        def progress(share: float) -> bool:
            nonlocal told
            if self._desk.outdated(task):
                return False
            if int(share * TOLD) > told:
                told = int(share * TOLD)
                self._desk.answer(task, PlacesLit(order.picture, min(share, LAST_SHARE)))
            return True

        def shown(share: float) -> None:
            self._desk.answer(task, PlacesLit(order.picture, share, more=True))

        opened = open_project_models(order.project, Path(order.path))
        try:
            self._pixels.light(opened, found, Path(order.path).parent, progress, shown)
        except Cancelled:
            # Something more urgent goes first; something newer of this kind stands in its place.
            self._desk.later(task)

    def _light(self, task: Task, order: ComputeLight) -> None:
        def progress(share: float) -> bool:
            self._desk.answer(task, LightProgress(share))
            return not self._desk.outdated(task)

        opened, base = open_project_models(order.project, Path(order.path)), Path(order.path).parent
        wanted = order.project.light
        try:
            if keep_rough_light(opened, wanted, progress, base, self._kept):
                self._desk.answer(task, LightKnown(wanted, ROUGH))
            light = light_of(opened, wanted, progress, base, self._kept)
        except Cancelled:
            return
        self._desk.answer(task, LightKnown(wanted, ESTIMATED if light is None else KNOWN))
        try:
            for other in order.also if light is not None else ():
                light_of(opened, other, progress, base, self._kept)
                self._desk.answer(task, MoreLightKnown(other))
        except Cancelled:
            return


def lighting(desk: Desk) -> Work:
    """The child that computes light."""
    return LightingWorker(desk)
