"""Final pictures against themselves: how near few cleaned samples are to many plain ones, what another seed
changes, and how fast shadows follow a sun that is dragged.

    python benchmarks/final.py PROJECT converges|seeds|sun|alone [--camera NAME ...]
        [--many N] [--wide PX] [--twice]

`converges` with --wide looks at four parts of larger pictures: all of one would take an hour.  With --twice
it also says how far two plain pictures of as many samples are from each other.
"""

from __future__ import annotations

import argparse
import time
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import flip_evaluator
import numpy as np

from altana.core.light.tone import developed, gain
from altana.core.project import Camera, Light, Project
from altana.core.staging import Lookup
from altana.core.standing import standable
from altana.core.walk.sample import resolve, sample
from altana.jobs.light import known_light
from altana.jobs.models import Opened, open_project_models
from altana.jobs.surroundings import sky_for
from altana.render.calming import REACH, Moment, calmed
from altana.render.quality import COARSE, FULL
from altana.render.renderer import Renderer
from altana.render.traced.engine import start_engine
from altana.render.traced.following import MAX_DEPTH, RR_DEPTH
from altana.render.traced.scene import SceneMaker
from altana.render.traced.sights import FlatSights, Sight, Sights
from altana.render.traced.tracer import Sums, Tracer, denoised
from altana.storage.project_file import read_project

WIDE, HIGH = 128, 72
#: Of the stills whose time is compared: in smaller ones what each sample costs besides weighs more.
ALONE_PX = 960, 540
FEW, FINER = 64, 4
#: Samples of a turn of one of two that are compared.
PORTION = 8


class Studio:
    """A project's models in the path tracer, without a process of their own."""

    def __init__(self, path: Path) -> None:
        self.project: Project = read_project(path)
        self.base = path.parent
        self.opened: Opened = open_project_models(self.project, path)
        self.lookup = Lookup(self.opened.model)
        self.engine, fast = start_engine()
        assert fast, "LLVM is missing"
        self._maker = SceneMaker(self.engine, self.opened.model, False)

    def tracer(self, camera: Camera, light: Light, ev: float, seed: int = 1) -> Tracer:
        """One for a camera's picture."""
        sky = sky_for(light, self.base)
        scenes = self._maker.make(sky, self.lookup.staging(self.project, camera))
        return Tracer(self.engine, scenes, sky, 1.0 / gain(ev), seed)


def traced(tracer: Tracer, sights: Sights, samples: int, sums: Sums | None = None) -> Sums:
    """Go on to so many samples."""
    made = sums or Sums.empty(sights.size)
    while made.samples < samples:
        tracer.add(sights, made)
    return made


def shown(light: np.ndarray, ev: float) -> np.ndarray:
    """As a file has it, 0 to 1."""
    made: np.ndarray = developed(light.astype(np.float32), ev).astype(np.float32)
    return made


@dataclass(frozen=True)
class Part:
    """A part of a picture whose pixels have FINER places each way: many small launches cost more than few
    large ones, and each pixel has as many samples."""

    whole: FlatSights
    left: int
    top: int
    wide: int
    high: int

    @property
    def size(self) -> tuple[int, int]:
        """What is traced, pixels."""
        return FINER * self.wide, FINER * self.high

    def through(self, places: np.ndarray, lens: np.ndarray) -> Sight:
        """As of the whole picture."""
        return self.whole.through(np.asarray(places) / FINER + (self.left, self.top), lens)

    def plain(self, tracer: Tracer, many: int) -> np.ndarray:
        """(high, wide, 3) the light of so many samples a pixel."""
        made = traced(tracer, self, many // FINER**2)
        light, weight = (
            values.reshape(self.high, FINER, self.wide, FINER, -1).sum(axis=(1, 3))
            for values in (made.light, made.weight)
        )
        return light / weight


def parts_of(whole: FlatSights) -> list[Part]:
    """All of a small picture, four parts of a large one."""
    wide, high = whole.size
    if wide <= WIDE:
        return [Part(whole, 0, 0, wide, high)]
    some = int(0.15 * wide), int(0.15 * high)
    corners = ((0.1, 0.15), (0.55, 0.2), (0.15, 0.7), (0.7, 0.65))
    return [Part(whole, int(x * wide), int(y * high), *some) for x, y in corners]


def converges(studio: Studio, cameras: list[Camera], many: int, wide: int, twice: bool) -> None:
    """Few samples cleaned against many plain ones of the same scene."""
    worst, high = 0.0, wide * 9 // 16
    for camera in cameras:
        began = time.perf_counter()
        sights = FlatSights(camera.view(wide, high))
        tracer = studio.tracer(camera, studio.project.light, camera.ev)
        sums = traced(tracer, sights, FEW)
        clean = shown(denoised(sums.mean, tracer.guides(sights)), camera.ev)
        flips, apart = [], []
        for part in parts_of(sights):
            # Others than the first: no two share samples.
            plain, *other = (
                shown(
                    part.plain(studio.tracer(camera, studio.project.light, camera.ev, seed), many), camera.ev
                )
                for seed in ((7, 8) if twice else (7,))
            )
            own = clean[part.top : part.top + part.high, part.left : part.left + part.wide]
            flips.append(float(flip_evaluator.evaluate(plain, np.ascontiguousarray(own), "LDR")[1]))
            apart += [float(flip_evaluator.evaluate(plain, item, "LDR")[1]) for item in other]
        worst = max(worst, float(np.mean(flips)))
        print(
            f"{camera.name[:36]:36} FLIP {np.mean(flips):.3f}  grain of {FEW} {sums.grain:.3f}"
            + (f"  two of {many}: {np.mean(apart):.3f}" if apart else "")
            + f"  {time.perf_counter() - began:.0f} s",
            flush=True,
        )
    print(f"worst {worst:.3f}")


def seeds(studio: Studio) -> None:
    """Film frames of a walk with two seeds, cleaned, alone and calmed by their neighbours: how much they
    differ, of 255."""
    walk = studio.project.walks[0]
    line = resolve(walk, standable(studio.opened.model))
    rows, samples = sample(line), studio.project.qualities.of("final").film_samples
    renderer, off, calm = Renderer(studio.opened.model, None), [], []
    for middle in np.linspace(REACH, len(rows) - 1 - REACH, 5).astype(int).tolist()[1:-1]:
        made: tuple[list[Moment], list[Moment]] = ([], [])
        for number in range(middle - REACH, middle + REACH + 1):
            view = rows.view(number, 4 * WIDE, 4 * HIGH)
            camera, ev = line.camera_at(float(rows.seconds[number])), float(rows.ev[number])
            light = rows.light(number).of(studio.project.light)
            depth = renderer.facts(view, studio.lookup.staging(studio.project, camera)).depth_m
            for run, moments in enumerate(made):
                tracer = studio.tracer(camera, light, ev, 1000 * (run + 1) + number)
                sums = traced(tracer, FlatSights(view), samples)
                clean = denoised(sums.mean, tracer.guides(FlatSights(view)))
                moments.append(Moment.of(view, depth, shown(clean, ev) * np.float32(255.0)))
        one, two = (moments[REACH].picture for moments in made)
        off.append(float(np.abs(one - two).mean()))
        one, two = (calmed(moments[REACH], moments[:REACH] + moments[REACH + 1 :]) for moments in made)
        calm.append(float(np.abs(one - two).mean()))
        print(
            f"film frame {middle}: {off[-1]:.2f} of 255 at {samples} samples, calmed {calm[-1]:.2f}",
            flush=True,
        )
    renderer.close()
    print(f"mean {np.mean(off):.2f}, calmed {np.mean(calm):.2f}, most {np.max(calm):.2f}")


def bare(tracer: Tracer, sensor: Any, integrator: Any, samples: int, seed: int) -> np.ndarray:
    """(height, width, 3) Mitsuba's own ``render`` of a tracer's scene."""
    import mitsuba

    made = mitsuba.render(
        tracer.scenes.whole, sensor=sensor, integrator=integrator, spp=samples, seed=mitsuba.UInt32(seed)
    )
    return np.ascontiguousarray(np.array(made, np.float32)[..., :3])


def alone(studio: Studio, cameras: list[Camera]) -> None:
    """A final still against Mitsuba's own ``render`` of the same scene with as many samples, and the
    denoiser.  When both are warm they take turns at a few samples each: the machine is a fifth slower now and
    then for minutes."""
    import mitsuba

    width, height = ALONE_PX
    for camera in cameras:
        view, sights = camera.view(width, height), FlatSights(camera.view(width, height))
        tracer = studio.tracer(camera, studio.project.light, camera.ev)
        eye, aim = np.asarray(view.pose.eye), np.asarray(view.pose.eye) + view.pose.forward
        sensor = mitsuba.load_dict(
            {
                "type": "perspective",
                "fov": view.angles_of_view()[0],
                "fov_axis": "x",
                "to_world": mitsuba.ScalarTransform4f().look_at(eye.tolist(), aim.tolist(), [0, 0, 1]),
                "film": {"type": "hdrfilm", "width": width, "height": height, "rfilter": {"type": "box"}},
            }
        )
        integrator = mitsuba.load_dict(
            {
                "type": "volpath" if tracer.scenes.has_panes else "path",
                "max_depth": MAX_DEPTH,
                "rr_depth": RR_DEPTH,
            }
        )
        took: dict[str, list[float]] = {"own": [], "bare": []}
        guides = tracer.guides(sights)
        traced(tracer, sights, 2)
        bare(tracer, sensor, integrator, PORTION, 9)
        sums = Sums.empty(sights.size)
        for turn in range(FEW // PORTION):
            began = time.perf_counter()
            traced(tracer, sights, sums.samples + PORTION, sums)
            took["own"].append(time.perf_counter() - began)
            began = time.perf_counter()
            light = bare(tracer, sensor, integrator, PORTION, turn)
            took["bare"].append(time.perf_counter() - began)
        began = time.perf_counter()
        denoised(light, guides)
        cleaned = time.perf_counter() - began
        began = time.perf_counter()
        denoised(sums.mean, tracer.guides(sights))
        took["own"].append(time.perf_counter() - began)
        took["bare"].append(cleaned)
        own, other = (float(np.sum(values)) for values in took.values())
        print(
            f"{camera.name[:36]:36} {own:.1f} s, Mitsuba alone and the denoiser {other:.1f} s: {own / other:.2f} x",
            flush=True,
        )


def sun(studio: Studio, cameras: list[Camera]) -> None:
    """The sun dragged along its path: how long until a picture of 640 x 360 shows its shadows."""
    model, light = studio.opened.model, studio.project.light
    renderer = Renderer(model, known_light(studio.opened, light))
    for camera in cameras:
        view, staging = camera.view(640, 360), studio.lookup.staging(studio.project, camera)
        for name, quality in (("while dragging", COARSE), ("at rest, first", FULL)):
            took = []
            for step in range(7):
                sky = sky_for(replace(light, hour=9.0 + 0.25 * step), studio.base)
                began = time.perf_counter()
                renderer.picture(view, sky, camera.ev, quality, camera.inside, None, staging)
                took.append(time.perf_counter() - began)
            print(f"{camera.name[:36]:36} {name}: {1000 * float(np.median(took[1:])):.0f} ms", flush=True)
    renderer.close()


def main() -> None:
    """One of the four."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("project", type=Path)
    parser.add_argument("what", choices=["converges", "seeds", "sun", "alone"])
    parser.add_argument("--camera", action="append", default=[])
    parser.add_argument("--many", type=int, default=2048)
    parser.add_argument("--wide", type=int, default=WIDE, help="of the pictures of `converges`, px")
    parser.add_argument("--twice", action="store_true")
    wanted = parser.parse_args()
    studio = Studio(wanted.project)
    chosen = [item for item in studio.project.cameras if item.name in wanted.camera]
    cameras = chosen or list(studio.project.cameras[:6])
    if wanted.what == "converges":
        converges(studio, cameras, wanted.many, wanted.wide, wanted.twice)
    elif wanted.what == "seeds":
        seeds(studio)
    elif wanted.what == "alone":
        alone(studio, cameras[:2])
    else:
        sun(studio, cameras)


if __name__ == "__main__":
    main()
