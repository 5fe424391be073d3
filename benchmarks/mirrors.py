"""What mirrors cost in pictures of eight passes: each camera's picture with them, and without one kind of
them, in turn.

python benchmarks/mirrors.py PROJECT [--size 960x540] [--camera NAME ...] [--rounds 3]
"""

from __future__ import annotations

import argparse
import contextlib
import statistics
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from unittest import mock

from altana.core.edits.shots import start_values
from altana.core.project import STILL
from altana.core.staging import Lookup
from altana.jobs.light import light_of
from altana.jobs.models import open_project_models
from altana.jobs.picture import PictureWork
from altana.jobs.requests import Picture
from altana.jobs.rows.shared import Rows
from altana.render.flat_pass import FlatPass
from altana.render.mirror_pass import MirrorPass
from altana.render.renderer import Renderer
from altana.storage.project_file import read_project


def spent(draw: Callable[[], object]) -> float:
    """Seconds of processor."""
    start = time.process_time()
    draw()
    return time.process_time() - start


def main() -> None:
    """Print a line a camera."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("project", type=Path)
    parser.add_argument("--size", default="960x540")
    parser.add_argument("--camera", action="append", default=[])
    parser.add_argument("--rounds", type=int, default=3)
    wanted = parser.parse_args()
    width, height = map(int, wanted.size.split("x"))
    project = read_project(wanted.project)
    opened = open_project_models(project, wanted.project)
    soft = light_of(opened, project.light, None, wanted.project.parent)
    renderer = Renderer(opened.model, soft)
    work = PictureWork(Rows(project, opened, Lookup(opened.model), renderer, wanted.project.parent, soft))
    without: dict[str, Callable[[], contextlib.AbstractContextManager[object]]] = {
        "all": contextlib.nullcontext,
        "panes and looking-glasses": lambda: mock.patch.object(FlatPass, "of", lambda *_: None),
        "floors and water": lambda: mock.patch.object(MirrorPass, "_floor", lambda *_: None),
    }
    for camera in project.cameras:
        if wanted.camera and camera.name not in wanted.camera:
            continue
        item = Picture(
            replace(start_values(project, STILL, camera.id), quality="review"), camera, width, height, ""
        )

        def draw(item: Picture = item) -> object:
            return work.stills.master(item, lambda _: True)

        draw()
        seconds: dict[str, list[float]] = {name: [] for name in without}
        for _ in range(wanted.rounds):
            for name, less in without.items():
                with less():
                    seconds[name].append(spent(draw))
        whole, *others = (statistics.median(values) for values in seconds.values())
        ratios = ", ".join(
            f"{name} {whole / other:.2f} x" for name, other in zip([*without][1:], others, strict=True)
        )
        print(f"{camera.name[:34]:34} {whole:5.1f} s; with against without {ratios}", flush=True)
    work.close()
    renderer.close()


if __name__ == "__main__":
    main()
