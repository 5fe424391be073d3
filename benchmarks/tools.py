"""How long the window's tools ask the model where walls are: for each camera of a project, beside one fan of
rays.

    python benchmarks/tools.py PROJECT

Every tool is asked twice for each camera, and the second time counts: trees are built where rays go the first
time.  What is printed is the median and the worst of the thread's own clock, and how many fans of 315 rays
the median takes.
"""

from __future__ import annotations

import sys
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np

from altana.app.workspace.scene import prepared
from altana.core.back_through import back_through_wall
from altana.core.errors import Refused
from altana.core.past import candidates
from altana.core.standing_tools import TOOLS
from altana.core.targets import facade_ahead
from altana.jobs.models import open_project_models
from altana.storage.project_file import read_project

RAYS = 315


def own_time(ask: Callable[[], object]) -> float:
    """Seconds of this thread; what is refused took its time, too."""
    began = time.thread_time()
    try:
        ask()
    except Refused:
        pass
    return time.thread_time() - began


def main() -> None:
    """Print a line for each tool."""
    path = Path(sys.argv[1])
    project = read_project(path)
    scene = prepared(open_project_models(project, path).model)
    walls = scene.walls or scene.rays
    along = np.random.default_rng(1).normal(size=(RAYS, 3))
    along /= np.linalg.norm(along, axis=1, keepdims=True)
    tools: dict[str, Callable[..., object]] = {
        "a fan of rays": lambda camera: scene.rays.cast(np.tile(camera.eye, (RAYS, 1)), along),
        "fit façade": lambda camera: facade_ahead(scene.model, walls, camera),
        "back through wall": lambda camera: back_through_wall(
            scene.model, scene.rays, camera, None, scene.bodies
        ),
        "past…": lambda camera: candidates(scene.model, scene.rays, scene.bodies, camera),
        **{name.lower(): lambda camera, ask=ask: ask(camera, walls) for name, ask in TOOLS.items()},
    }
    fan = 0.0
    print(f"{len(project.cameras)} cameras, {len(scene.model.faces)} triangles")
    for name, ask in tools.items():
        times = [[own_time(lambda: ask(camera)) for _ in range(2)][1] for camera in project.cameras]  # noqa: B023 - asked at once
        middle = float(np.median(times))
        fan = fan or middle
        print(f"{name:24} {middle * 1e3:6.1f} ms  worst {max(times) * 1e3:6.1f} ms  {middle / fan:6.1f} ×")


if __name__ == "__main__":
    main()
