"""A child's worker that dies of one order, fails at another, and does a third; light, so that children start
fast."""

from __future__ import annotations

import os
from collections.abc import Callable

from altana.jobs.orders import LightProgress, See, Survey
from altana.jobs.service import Desk, Task


def worker(desk: Desk) -> Callable[[Task], None]:
    """What does a task."""

    def work(task: Task) -> None:
        if isinstance(task.order, See):
            os._exit(1)
        if isinstance(task.order, Survey):
            raise RuntimeError("the worker stumbled")
        desk.answer(task, LightProgress(1.0))

    return work
