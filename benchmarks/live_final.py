"""How near the Frame's light is to the final picture, at once and when it has rested, and that of a still of
review: FLIP, and patches that are far too dark or too bright.

    python benchmarks/live_final.py PROJECT [--samples 64] [--camera NAME ...] [--evening HOUR] [--out FOLDER]

Both pictures have the same exposure and tone.  With --evening it is that hour, and all lamps are on.  With
--out they are written beside each other, with the difference.
"""

from __future__ import annotations

import argparse
import time
from dataclasses import replace
from pathlib import Path

import flip_evaluator
import numpy as np
from PIL import Image
from scipy import ndimage

from altana.core.edits.shots import start_values
from altana.core.light.tone import developed, gain, proposed_ev
from altana.core.project import STILL, Camera, Project
from altana.core.staging import Lookup
from altana.jobs.light import light_of
from altana.jobs.models import Opened, open_project_models
from altana.jobs.orders import PlacesFound
from altana.jobs.picture import PictureWork
from altana.jobs.pixel_light import PixelWork, find_places, known_pixels
from altana.jobs.requests import Picture
from altana.jobs.rows.shared import Rows
from altana.render.renderer import Renderer
from altana.storage.project_file import read_project

WIDTH, HEIGHT = 640, 360
AT_ONCE, AT_REST, REVIEW = "at once", "at rest", "review"
#: Darker or lighter than final by more than this, in stops, over more than this share of the frame: a patch
#: that is seen.
STOPS, SHARE = 1.5, 0.002
#: Where both are darker than this against white nothing is seen of the difference.
BLACK = 0.004


def worst_patch(live: np.ndarray, final: np.ndarray, white: float) -> float:
    """The share of the frame of the largest connected patch that is more than STOPS darker or lighter than
    final."""
    floor = BLACK * white
    a, b = (np.maximum(picture.mean(axis=2), floor) for picture in (live, final))
    # Grain and single edges are no patches: the mean over three pixels speaks.
    off = np.abs(np.log2(ndimage.uniform_filter(a, 3) / ndimage.uniform_filter(b, 3)))
    # Brighter than white is white in both.
    off[(a > white) & (b > white)] = 0.0
    numbered, count = ndimage.label(off > STOPS)
    sizes = np.bincount(numbered.ravel())[1:] if count else np.zeros(1)
    return float(sizes.max() / off.size)


def rested(work: PictureWork, opened: Opened, project: Project, camera: Camera, base: Path) -> float:
    """Have the light of a picture's own places reckoned, as the Frame has it at rest; how long that takes,
    seconds."""
    view, staging = camera.view(WIDTH, HEIGHT), work.rows.lookup.staging(project, camera)
    start = time.perf_counter()
    name = find_places(work.rows.renderer, opened, project.light, view, staging)
    if name:
        found = PlacesFound(view, project.light, name)
        PixelWork().light(opened, found, base, lambda _: True, lambda _: None)
    work.rows.renderer.pixel_light.show(known_pixels(opened, project.light, view, staging)[1])
    return time.perf_counter() - start


def main() -> None:
    """Print a line a camera."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("project", type=Path)
    parser.add_argument("--samples", type=int, default=64)
    parser.add_argument("--camera", action="append", default=[])
    parser.add_argument("--evening", type=float)
    parser.add_argument("--out", type=Path)
    wanted = parser.parse_args()
    project = read_project(wanted.project)
    if wanted.evening is not None:
        lamps = replace(project.light.lamps, on=True)
        project = replace(project, light=replace(project.light, hour=wanted.evening, lamps=lamps))
    opened = open_project_models(project, wanted.project)
    start = time.perf_counter()
    soft = light_of(opened, project.light, None, wanted.project.parent)
    print(f"soft light of {len(opened.model.faces)} triangles: {time.perf_counter() - start:.1f} s")
    renderer = Renderer(opened.model, soft)
    work = PictureWork(Rows(project, opened, Lookup(opened.model), renderer, wanted.project.parent, soft))
    work.rows.samples = wanted.samples
    cameras: list[Camera] = [c for c in project.cameras if not wanted.camera or c.name in wanted.camera]
    flips: dict[str, list[float]] = {AT_ONCE: [], AT_REST: [], REVIEW: []}
    for camera in cameras:
        made, took = {}, 0.0
        for name in (*flips, "final"):
            if name == AT_REST:
                took = rested(work, opened, project, camera, wanted.project.parent)
            work.rows.hurried = name in (AT_ONCE, AT_REST)
            quality = "final" if name == "final" else "review"
            shot = replace(start_values(project, STILL, camera.id), quality=quality)
            item = Picture(shot, camera, WIDTH, HEIGHT, "")
            made[name] = work.stills.master(item, lambda _: True).light.astype(np.float32)
        renderer.pixel_light.show(None)
        ev = proposed_ev(made["final"])
        shown = {name: developed(light, ev).astype(np.float32) for name, light in made.items()}
        white, line, pictures = 1.0 / gain(ev), f"{camera.name[:34]:34}", []
        for name in flips:
            picture, flip, _ = flip_evaluator.evaluate(shown["final"], shown[name], "LDR")
            patch = worst_patch(made[name], made["final"], white)
            flips[name].append(flip)
            line += f"  {name}: FLIP {flip:.3f}, patch {patch * 100:.2f} %, mean {made[name].mean() / made['final'].mean():.2f} x"
            pictures += [shown[name], picture]
        print(f"{line}  {took:.0f} s", flush=True)
        if wanted.out:
            wanted.out.mkdir(parents=True, exist_ok=True)
            np.save(wanted.out / f"{camera.id}.npy", made["final"])
            both = np.concatenate([*pictures, shown["final"]], axis=1)
            Image.fromarray((np.clip(both, 0, 1) * 255).astype(np.uint8)).save(
                wanted.out / f"{camera.id}.png"
            )
    work.close()
    renderer.close()
    for name, every in flips.items():
        print(f"{name}: mean FLIP {np.mean(every):.3f}, worst {np.max(every):.3f}")


if __name__ == "__main__":
    main()
