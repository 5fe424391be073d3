"""A campus of ten million triangles: how long opening, standing, checking and drawing take, and how much
memory.

    python benchmarks/large.py [OBJECTS [ABOUT]]    11 400 finely meshed things of 880 triangles and 400
    buildings, unless said otherwise; ABOUT : triangles of each thing

Everything runs as its own command with a cache of its own, by the operating system's accounting of each
finished process.
"""

from __future__ import annotations

import json
import os
import resource
import struct
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import numpy as np
import trimesh

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.light.sky import sky_of
from altana.core.project import Light
from altana.jobs.models import open_model
from altana.render.quality import COARSE, FULL
from altana.render.renderer import Renderer

OBJECTS, BUILDINGS, REACH_M = 11_400, 400, 400.0


def write_campus(path: Path, objects: int, about: int = 0) -> int:
    """A small glTF file of many nodes that share two meshes; returns how many triangles they are.  about :
    triangles of each thing, 0 for 880."""
    side = round((about / 8) ** 0.5)
    rows = (side, 2 * side) if about else (12, 22)
    ball, box = trimesh.creation.uv_sphere(radius=0.6, count=rows), trimesh.creation.box((1, 1, 1))
    box.unmerge_vertices()
    data, tree = (
        b"",
        {
            "asset": {"version": "2.0"},
            "nodes": [],
            "meshes": [],
            "accessors": [],
            "bufferViews": [],
            "materials": [],
        },
    )  # type: ignore[var-annotated]
    for mesh, colour in ((ball, [0.7, 0.3, 0.2, 1]), (box, [0.6, 0.6, 0.55, 1])):
        numbers = []
        for values, kind, words in (
            (mesh.vertices, np.float32, "VEC3"),
            (mesh.vertex_normals, np.float32, "VEC3"),
            (mesh.faces.ravel(), np.uint32, "SCALAR"),
        ):
            raw = np.asarray(values, kind).tobytes()
            tree["bufferViews"].append({"buffer": 0, "byteOffset": len(data), "byteLength": len(raw)})
            data += raw
            code = 5126 if kind is np.float32 else 5125
            tree["accessors"].append(
                {
                    "bufferView": len(tree["bufferViews"]) - 1,
                    "componentType": code,
                    "count": len(values),
                    "type": words,
                }
            )
            numbers.append(len(tree["accessors"]) - 1)
        tree["materials"].append({"pbrMetallicRoughness": {"baseColorFactor": colour, "metallicFactor": 0}})
        drawn = {
            "attributes": {"POSITION": numbers[0], "NORMAL": numbers[1]},
            "indices": numbers[2],
            "material": len(tree["meshes"]),
        }
        tree["meshes"].append({"primitives": [drawn]})
    random = np.random.default_rng(1)
    for number in range(objects):
        x, z = random.uniform(-REACH_M, REACH_M, 2)
        tree["nodes"].append(
            {"name": f"Lamp {number}", "mesh": 0, "translation": [x, random.uniform(0.6, 30), z]}
        )
    for number in range(BUILDINGS):
        (x, z), high = random.uniform(-REACH_M, REACH_M, 2), random.uniform(6, 30)
        scale = [random.uniform(10, 25), high, random.uniform(10, 25)]
        tree["nodes"].append(
            {"name": f"Block {number}", "mesh": 1, "translation": [x, high / 2, z], "scale": scale}
        )
    tree["nodes"].append({"name": "Ground", "mesh": 1, "translation": [0, -0.5, 0], "scale": [1000, 1, 1000]})
    tree["scenes"] = [{"nodes": list(range(len(tree["nodes"])))}]
    tree["buffers"] = [{"byteLength": len(data)}]
    head = json.dumps(tree).encode()
    head += b" " * (-len(head) % 4)
    total = 28 + len(head) + len(data)
    path.write_bytes(
        struct.pack("<4sIIII", b"glTF", 2, total, len(head), 0x4E4F534A)
        + head
        + struct.pack("<II", len(data), 0x004E4942)
        + data
    )
    return objects * len(ball.faces) + (BUILDINGS + 1) * len(box.faces)


def command(*words: str) -> tuple[float, float]:
    """Seconds and gigabytes at most of one command, its children included."""
    started = time.monotonic()
    script = "import resource,sys;from altana.cli.main import run;sys.argv[0]='altana'\ntry: run()\nexcept SystemExit: pass\n"
    script += "print(max(resource.getrusage(w).ru_maxrss for w in (resource.RUSAGE_SELF, resource.RUSAGE_CHILDREN)), file=sys.stderr)"
    done = subprocess.run([sys.executable, "-c", script, *words], capture_output=True, text=True, check=True)
    return time.monotonic() - started, int(done.stderr.strip().splitlines()[-1]) / 1e6


def main() -> None:
    """Print a line for each thing that is measured."""
    objects = int(sys.argv[1]) if len(sys.argv) > 1 else OBJECTS
    about = int(sys.argv[2]) if len(sys.argv) > 2 else 0
    with tempfile.TemporaryDirectory() as folder:
        os.environ["ALTANA_CACHE"] = f"{folder}/cache"
        model, project = Path(folder, "campus.glb"), f"{folder}/campus.altana"
        count = write_campus(model, objects, about)
        print(
            f"{count} triangles in {objects + BUILDINGS + 1} objects, a file of {model.stat().st_size / 1e6:.1f} MB"
        )
        for name, words in (
            ("first time (altana new)", ("new", str(model), "--out", project)),
            ("altana inspect", ("inspect", project)),
            ("altana camera add --stand", ("camera", "add", project, "--stand", "10,10", "--aim", "60,60,0")),
            ("altana check, one camera", ("check", project, "--json")),
        ):
            seconds, memory = command(*words)
            print(f"  {name:28} {seconds:6.2f} s {memory:6.2f} GB")
        started = time.monotonic()
        opened = open_model(model)[0]
        print(f"  opened from the cache        {time.monotonic() - started:6.2f} s")
        started = time.monotonic()
        renderer = Renderer(opened)
        near = View(Pose((10.0, 10.0, 1.6), 45.0), Lens(24.0), 640, 360)
        renderer.picture(near, sky_of(Light()), 14.0, FULL)
        print(f"  first picture, 640 x 360     {time.monotonic() - started:6.2f} s")
        for name, view in (
            ("among it", near),
            ("all of it", View(Pose((-420.0, -420.0, 40.0), 45.0, -3.0), Lens(24.0), 640, 360)),
        ):
            moving = View(view.pose, view.lens, 256, 144)
            renderer.picture(moving, sky_of(Light()), 14.0, COARSE)
            started = time.monotonic()
            for _ in range(5):
                renderer.picture(moving, sky_of(Light()), 14.0, COARSE)
            print(f"  moving, {name:20} {5 / (time.monotonic() - started):6.1f} pictures a second")
        print(
            f"  this process at most         {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1e6:6.2f} GB"
        )


if __name__ == "__main__":
    main()
