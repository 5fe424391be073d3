"""How long a large file takes to be read, beside a plain reading of it by a library: two million triangles of
wavy ground in each kind.

    python benchmarks/reading.py [KIND …]

Each is read in a process of its own, whose largest memory is printed; the first time of two counts for
neither.
"""

from __future__ import annotations

import resource
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import numpy as np
import trimesh

KINDS = ("ply", "obj", "stl", "glb", "off")
SIDE = 1000


def write(folder: Path) -> None:
    """The ground in every kind."""
    x, y = np.meshgrid(np.linspace(0, 100, SIDE + 1), np.linspace(0, 100, SIDE + 1))
    points = np.column_stack([x.ravel(), y.ravel(), (np.sin(x / 3) * np.cos(y / 4)).ravel()])
    corner = np.arange(SIDE * (SIDE + 1)).reshape(SIDE, SIDE + 1)[:, :-1].ravel()
    faces = np.concatenate(
        [
            np.column_stack([corner, corner + 1, corner + SIDE + 2]),
            np.column_stack([corner, corner + SIDE + 2, corner + SIDE + 1]),
        ]
    )
    ground = trimesh.Trimesh(points, faces, process=False)
    for kind in KINDS:
        ground.export(folder / f"ground.{kind}")


def read(how: str, path: Path) -> None:
    """Read once, and print seconds and gigabytes."""
    from altana.importers.table import read_model, reader_of

    reader_of(path.suffix)
    began = time.perf_counter()
    if how == "altana":
        read_model(path)
    else:
        trimesh.load(path, process=False)
    print(time.perf_counter() - began, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1e6)


def main() -> None:
    """Print a line for each kind."""
    with tempfile.TemporaryDirectory() as folder:
        write(Path(folder))
        for kind in sys.argv[1:] or KINDS:
            path = Path(folder) / f"ground.{kind}"
            (own, memory), (bare, _) = (
                map(
                    float,
                    subprocess.check_output([sys.executable, __file__, how, str(path)], text=True).split(),
                )
                for how in ("altana", "library")
            )
            size = path.stat().st_size / 1e6
            print(
                f"{kind} of {size:.0f} MB: {own:.1f} s, {memory:.2f} GB; by the library {bare:.1f} s: {own / bare:.1f} ×"
            )


if __name__ == "__main__":
    if sys.argv[1:2] in (["altana"], ["library"]):
        read(sys.argv[1], Path(sys.argv[2]))
    else:
        main()
