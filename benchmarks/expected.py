"""Expected times against what things take: varied jobs of a project, after the first ten of them were made.

    python benchmarks/expected.py PROJECT [JOBS]        50 jobs unless said otherwise: 10 to learn from, 40
    that count

What was learnt before is set aside for the while.  Prints each job and the share within a factor of two.
"""

from __future__ import annotations

import random
import sys
import tempfile
import time
from dataclasses import replace
from pathlib import Path

from altana.core.edits.shots import start_values
from altana.core.project import FILM, LINES, MATERIALS, PANORAMA, PENCIL, STILL, WHITE_CARD, Project
from altana.jobs import paces
from altana.jobs.estimates import expected_of
from altana.jobs.following import JournalFollower
from altana.jobs.models import Opened, open_project_models
from altana.jobs.paces import scene_of
from altana.jobs.requests import Film, Item, Pano, Part, Picture, Request
from altana.jobs.run import Run
from altana.storage.project_file import read_project

LEARNT = 10


def jobs_of(project: Project, count: int, chance: random.Random) -> list[Item]:
    """Stills, regions, panoramas and films in every quality, of many sizes."""
    made: list[Item] = []
    for number in range(count):
        camera = chance.choice(project.cameras)
        quality = chance.choice(["proof", "proof", "review", "review", "final"])
        kind = chance.choice([STILL, STILL, STILL, "region", PANORAMA, FILM])
        drawn = chance.choice([MATERIALS, MATERIALS, WHITE_CARD, LINES, PENCIL])
        if kind == FILM and project.walks:
            walk = chance.choice(project.walks)
            shot = replace(
                start_values(project, FILM, walk.id), quality="proof" if quality == "final" else quality
            )
            wide = chance.choice([192, 320, 480])
            part = Part(0.0, min(walk.seconds, chance.choice([0.4, 0.8])))
            made.append(
                Film(walk, wide, round(wide * 9 / 32) * 2, walk.rate, f"{number}.mp4", "mp4", part, shot)
            )
        elif kind == PANORAMA:
            shot = replace(
                start_values(project, PANORAMA, camera.id),
                quality=quality,
                keep_master=False,
                samples=8 if quality == "final" else 0,
            )
            wide = chance.choice([256, 512, 1024])
            made.append(Pano(shot, camera, wide, wide // 2, f"{number}.jpg"))
        else:
            wide = chance.choice([240, 480, 960, 1440] if quality != "final" else [160, 320, 480])
            region = (0.25, 0.25, 0.75, 0.75) if kind == "region" else None
            shot = replace(
                start_values(project, STILL, camera.id),
                quality=quality,
                rendition=drawn,
                keep_master=False,
                region=region,
                samples=chance.choice([8, 24]) if quality == "final" else 0,
            )
            made.append(
                Picture(shot, camera, wide, round(wide * camera.height_px / camera.width_px), f"{number}.png")
            )
    return made


def measured(project: Project, opened: Opened, items: list[Item], out: Path) -> list[tuple[float, float]]:
    """Expected and measured seconds of each item, made one after the other."""
    found: list[tuple[float, float]] = []
    for item in items:
        expected = expected_of(item, "review", project.qualities, scene=scene_of(project))
        job = out.parent / f"job-{len(found)}"
        run = Run(Request(project, (item,)), opened, out, job)
        run.base = opened.base
        run.go()
        if run.aside:
            print(f"set aside: {run.aside}", flush=True)
            continue
        took = next(
            float(event["took"]) for event in JournalFollower(job).events() if event["event"] == "piece"
        )
        found.append((expected.seconds, took))
        word = item.shot.quality if item.shot is not None else ""
        what = f"{type(item).__name__} {item.width_px} × {item.height_px} {word} {item.shot.rendition if item.shot else ''}"
        sure = "" if expected.sure else "  (in doubt)"
        print(
            f"{expected.seconds:8.2f} s expected, {took:8.2f} s, {took / expected.seconds:5.2f} x  {what}{sure}",
            flush=True,
        )
    return found


def main() -> None:
    """Measure one project."""
    path = Path(sys.argv[1])
    count = int(sys.argv[2]) if len(sys.argv) > 2 else 50
    project = read_project(path)
    opened = open_project_models(project, path)
    with tempfile.TemporaryDirectory() as folder:
        paces._path = lambda: Path(folder) / "measured.json"
        began = time.monotonic()
        found = measured(project, opened, jobs_of(project, count, random.Random(7)), Path(folder) / "out")
    after = found[LEARNT:]
    within = sum(0.5 <= took / expected <= 2.0 for expected, took in after)
    print(f"{within} of {len(after)} within a factor of two; {time.monotonic() - began:.0f} s in all")


if __name__ == "__main__":
    main()
