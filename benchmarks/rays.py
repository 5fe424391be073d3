"""The ray caster's trees: filled from arrays as they lie against triangle by triangle, and one tree against
many.

    python benchmarks/rays.py [MODEL]        a wavy ground of two million triangles, unless a model file is
    named

Prints seconds of building, the longest time in which another thread of Python did not run meanwhile, and the
time that 230 400 rays from one place, and single ones, take.
"""

from __future__ import annotations

import sys
import threading
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np

from altana.core.geometry import blocks, trees
from altana.core.geometry.rays import RayScene
from altana.core.geometry.runs import runs_of
from altana.core.geometry.trees import Tree
from altana.jobs.models import open_model


def waves(side: int) -> tuple[np.ndarray, np.ndarray]:
    """A ground of side × side corners, 0.1 m apart."""
    x, y = (part.ravel().astype(np.float32) * 0.1 for part in np.meshgrid(np.arange(side), np.arange(side)))
    first = np.arange(side * (side - 1)).reshape(side - 1, side)[:, :-1].ravel()
    faces = [(first, first + 1, first + side), (first + 1, first + side + 1, first + side)]
    return (
        np.column_stack([x, y, np.sin(x) + np.cos(y)]).astype(np.float32),
        np.concatenate([np.column_stack(part) for part in faces]).astype(np.int32),
    )


def silent_ms(build: Callable[[], object]) -> tuple[float, float]:
    """Seconds of building, and the longest silence of another thread meanwhile, milliseconds."""
    gaps, over = [0.0], threading.Event()

    def tick() -> None:
        last = time.perf_counter()
        while not over.is_set():
            time.sleep(0.0005)
            now = time.perf_counter()
            gaps.append(now - last)
            last = now

    thread = threading.Thread(target=tick)
    thread.start()
    started = time.perf_counter()
    build()
    took = time.perf_counter() - started
    over.set()
    thread.join()
    return took, max(gaps) * 1000.0


def ask(scene: RayScene, middle: np.ndarray) -> str:
    """How long many rays at once and single ones take."""
    random = np.random.default_rng(1)
    along = random.normal(size=(230_400, 3))
    along /= np.linalg.norm(along, axis=1, keepdims=True)
    start = np.tile(middle, (len(along), 1))
    scene.cast(start, along)
    began = time.perf_counter()
    scene.cast(start, along)
    many = time.perf_counter() - began
    began = time.perf_counter()
    for number in range(200):
        scene.cast(start[number : number + 1], along[number : number + 1])
    single = (time.perf_counter() - began) / 200
    return f"230 400 rays {many * 1000:6.0f} ms, a single one {single * 1000:5.2f} ms"


def main() -> None:
    """Run and print."""
    if len(sys.argv) > 1:
        model = open_model(Path(sys.argv[1]))[0]
        vertices, faces, runs = model.vertices, model.faces, runs_of(model)
    else:
        (vertices, faces), runs = waves(1001), None
    vertices, faces = np.ascontiguousarray(vertices, np.float32), np.ascontiguousarray(faces, np.int32)
    middle = np.median(vertices, axis=0).astype(float) + (0.0, 0.0, 1.6)
    print(f"{len(faces)} triangles")
    part = np.ascontiguousarray(faces[: min(len(faces), 1_000_000)])
    took, silent = silent_ms(lambda: Tree(vertices, part))
    print(
        f"  a tree of {len(part)} from arrays      {took:6.2f} s, another thread silent for {silent:5.0f} ms"
    )
    known, trees._library = trees._library, lambda: None
    fed, silent = silent_ms(lambda: Tree(vertices, part))
    trees._library = known
    print(
        f"  … triangle by triangle          {fed:6.2f} s, another thread silent for {silent:5.0f} ms, {fed / took:.1f} x"
    )
    for name, whole in (("in blocks", 0), ("in one tree", blocks.WHOLE)):
        blocks.WHOLE = whole
        scene = RayScene(vertices, faces, runs)
        began = time.perf_counter()
        scene.warm()
        warm = time.perf_counter() - began
        print(f"  all of it {name:12} {warm:6.2f} s; {ask(scene, middle)}")


if __name__ == "__main__":
    main()
