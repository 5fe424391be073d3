"""The child that computes light."""

from __future__ import annotations

import threading
from pathlib import Path

from altana.core.light.transport import Cancelled
from altana.core.picture_key import ESTIMATED, KNOWN, ROUGH
from altana.jobs.light import KeptLighting, keep_rough_light, light_of
from altana.jobs.models import open_project_models
from altana.jobs.orders import ComputeLight, LightKnown, LightProgress, MoreLightKnown
from altana.jobs.service import Desk, Task, Work

#: What points see is kept so long after light was asked for: the next hour of a sun that is being set takes a
#: fifth of the time.
KEPT_S = 120.0


class LightingWorker:
    """Computes soft light; it comes back through the cache."""

    def __init__(self, desk: Desk) -> None:
        self._desk = desk
        self._kept = KeptLighting()
        self._later: threading.Timer | None = None

    def __call__(self, task: Task) -> None:
        """Do one task."""
        if self._later is not None:
            self._later.cancel()
            self._later.join()
        try:
            if isinstance(task.order, ComputeLight):
                self._light(task, task.order)
        finally:
            self._later = threading.Timer(KEPT_S, self._kept.let_go)
            self._later.daemon = True
            self._later.start()

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
