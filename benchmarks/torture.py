# ruff: noqa: BLE001 - whatever fails here, however it does, is what is looked for
"""Everything that goes wrong with files and processes, on purpose, over and over: what was tried and what
failed, as a table.

    scripts/torture [MINUTES [KIND …]]        10 minutes of all kinds unless said otherwise; the exit code is
    1 when anything failed

Kills while saving, kills of runs, two writers, mutated projects, mutated models of every format, damaged
caches, disks that are full, and memory over many rounds.  Everything happens in a folder of its own, which is
removed afterwards.  The seed is printed and may be given by ALTANA_SEED; ALTANA_DEMO names a folder with the
demo, which is written otherwise.
"""

from __future__ import annotations

import contextlib
import json
import logging
import os
import random
import resource
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from pathlib import Path

import numpy as np

from altana.core.edits.cameras import add_camera
from altana.core.errors import UserError
from altana.core.project import Camera, Project
from altana.importers.table import read_model
from altana.jobs.models import main as reader_main
from altana.jobs.models import open_model
from altana.storage.cache import cache_folder, load_light, load_model, model_key
from altana.storage.project_file import from_json, read_project, to_json, write_project

SLOWEST_S = 20.0
#: Told to stop: what is in hand is finished, and the table is printed.
STOPPED = threading.Event()


@dataclass
class Row:
    """One kind of trouble: how often it was tried, and what failed."""

    name: str
    tried: int = 0
    failed: list[str] = field(default_factory=list)

    def fail(self, told: str) -> None:
        self.failed.append(told)
        print(f"  ! {self.name}: {told}", flush=True)


def project_of(count: int) -> Project:
    project = Project(name="Torture")
    for number in range(count):
        project, _ = add_camera(project, Camera("", f"Camera {number}", (float(number), 1.0, 1.6)))
    return project


def until(end: float) -> Iterator[int]:
    number = 0
    while time.monotonic() < end and not STOPPED.is_set():
        yield number
        number += 1


# ---------------------------------------------------------------------- saving


def kills_while_saving(row: Row, folder: Path, chance: random.Random, end: float) -> None:
    """A child saves as fast as it can and is killed: the file is always a whole project that was meant to be
    saved."""
    path = folder / "saved.altana"
    projects = [replace(project_of(count), author=f"a{count}") for count in (3, 30, 120)]
    write_project(path, projects[0], passing=True)
    for _ in until(end):
        child = os.fork()
        if child == 0:
            with contextlib.suppress(BaseException):
                while True:
                    write_project(path, chance.choice(projects), passing=True)
            os._exit(0)
        time.sleep(chance.uniform(0.001, 0.03))
        os.kill(child, signal.SIGKILL)
        os.waitpid(child, 0)
        row.tried += 1
        try:
            if read_project(path) not in projects:
                row.fail("the file holds what nobody saved")
        except UserError as error:
            row.fail(error.sentence)


def full_disks(row: Row, folder: Path, chance: random.Random, end: float) -> None:
    """A save that the disk has no room for: a sentence, and the file as it was."""
    path = folder / "full.altana"
    small, large = project_of(2), project_of(200)
    write_project(path, small, passing=True)
    for _ in until(end):
        child = os.fork()
        if child == 0:
            code = 1
            try:
                signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
                limit = chance.randrange(100, 20_000)
                resource.setrlimit(resource.RLIMIT_FSIZE, (limit, limit))
                write_project(path, large, passing=True)
            except UserError:
                code = 0
            except BaseException:
                code = 2
            os._exit(code)
        code = os.waitstatus_to_exitcode(os.waitpid(child, 0)[1])
        row.tried += 1
        if code != 0:
            row.fail(f"no sentence (code {code})")
        if read_project(path) != small or [item.name for item in folder.glob(".full*")]:
            row.fail("the file is another, or something was left behind")


def two_writers(row: Row, folder: Path, chance: random.Random, end: float) -> None:
    """Several processes add cameras to one project: none is lost."""
    from altana.storage.sharing import change_project

    path = folder / "shared.altana"
    for number in until(end):
        write_project(path, project_of(1), passing=True)
        children = []
        for who in range(3):
            child = os.fork()
            if child == 0:
                code = 0
                try:
                    for turn in range(5):
                        camera = Camera("", f"{who} {turn}")
                        change_project(path, lambda p, camera=camera: add_camera(p, camera)[0])
                except BaseException:
                    code = 1
                os._exit(code)
            children.append(child)
        codes = [os.waitstatus_to_exitcode(os.waitpid(child, 0)[1]) for child in children]
        row.tried += 15
        held = {camera.name for camera in read_project(path).cameras}
        if any(codes) or len(held) != 16:
            row.fail(f"round {number}: {len(held) - 1} of 15 cameras are there")


# ---------------------------------------------------------------------- mutations


ODD = [
    None,
    -1,
    0,
    1e308,
    -1e308,
    10**30,
    "",
    "x" * 5000,
    "\x00",
    "../../etc/passwd",
    "/dev/zero",
    [],
    {},
    [[]] * 50,
    True,
    "<img src=x>",
    "=1+1",
]


def mutated(document: object, chance: random.Random, depth: int = 0) -> object:
    """A document with one place changed, dropped or doubled."""
    if isinstance(document, dict) and document and depth < 6:
        made = dict(document)
        key = chance.choice(list(made))
        what = chance.random()
        if what < 0.15:
            del made[key]
        elif what < 0.3:
            made[chance.choice(["new", key + "x", ""])] = chance.choice(ODD)
        elif what < 0.5 or depth > 4:
            made[key] = chance.choice(ODD)
        else:
            made[key] = mutated(made[key], chance, depth + 1)
        return made
    if isinstance(document, list) and document:
        place = chance.randrange(len(document))
        rest = list(document)
        if chance.random() < 0.3:
            rest.insert(place, rest[place])
        else:
            rest[place] = mutated(rest[place], chance, depth + 1)
        return rest
    return chance.choice(ODD)


def bytes_mutated(data: bytes, chance: random.Random) -> bytes:
    made = bytearray(data)
    for _ in range(chance.choice([1, 1, 2, 8, 40])):
        place = chance.randrange(len(made)) if made else 0
        what = chance.random()
        if what < 0.5 and made:
            made[place] = chance.randrange(256)
        elif what < 0.7:
            del made[place : place + chance.randrange(1, 200)]
        elif what < 0.85:
            made[place:place] = bytes(chance.randrange(256) for _ in range(chance.randrange(1, 40)))
        else:
            made = made[: max(1, place)]
    return bytes(made)


def mutated_projects(row: Row, folder: Path, chance: random.Random, end: float, demo: Path) -> None:
    """A project with something wrong opens, or is refused with a sentence; what opens can be saved and opened
    again."""
    whole = json.loads((demo / "larkwater.altana").read_text())
    for _ in until(end):
        document: object = whole
        for _ in range(chance.choice([1, 1, 2, 5])):
            document = mutated(document, chance)
        data = json.dumps(document).encode()
        if chance.random() < 0.3:
            data = bytes_mutated(data, chance)
        row.tried += 1
        began = time.monotonic()
        try:
            project = from_json(data, "mutant")
        except UserError as error:
            if "Traceback" in error.sentence or not error.sentence.strip():
                row.fail(error.sentence[:200])
            continue
        except BaseException as error:
            row.fail(f"{type(error).__name__}: {error}"[:200])
            continue
        finally:
            if time.monotonic() - began > SLOWEST_S:
                row.fail("took longer than 20 s")
        try:
            if from_json(to_json(project), "again") != project:
                row.fail("another project after saving")
        except BaseException as error:
            row.fail(f"opens, but cannot be saved and opened: {error}"[:200])


def model_seeds(folder: Path, demo: Path) -> list[Path]:
    """Small files of every format that can be made here."""
    import trimesh

    found = (
        [demo / "reference-lines.dxf"]
        if (demo / "reference-lines.dxf").is_file()
        else list(demo.glob("*.dxf"))
    )
    house = trimesh.Scene()
    for number in range(4):
        box = trimesh.creation.box((3.0, 2.0, 2.5))
        box.apply_translation((4.0 * number, 0.0, 1.25))
        house.add_geometry(box, node_name=f"Part {number}")
    for suffix in ("glb", "gltf", "obj", "ply", "stl", "off", "dae", "3mf"):
        path = folder / f"seed.{suffix}"
        try:
            made = (
                house.export(file_type=suffix)
                if suffix in ("glb", "gltf", "obj", "dae", "3mf")
                else house.to_geometry().export(file_type=suffix)
            )
        except BaseException:
            continue
        if isinstance(made, dict):
            for name, data in made.items():
                (folder / name).write_bytes(data)
            path = folder / "model.gltf"
        else:
            path.write_bytes(made.encode() if isinstance(made, str) else made)
        found.append(path)
    usd = folder / "seed.usda"
    usd.write_text('#usda 1.0\n(upAxis = "Z" metersPerUnit = 1)\ndef Cube "Box" { double size = 2 }\n')
    city = folder / "seed.city.json"
    city.write_text(
        json.dumps(
            {
                "type": "CityJSON",
                "version": "1.1",
                "CityObjects": {
                    "a": {
                        "type": "Building",
                        "geometry": [{"type": "MultiSurface", "lod": "1", "boundaries": [[[0, 1, 2, 3]]]}],
                    }
                },
                "vertices": [[0, 0, 0], [9, 0, 0], [9, 9, 0], [0, 9, 0]],
            }
        )
    )
    found += [usd, city]
    small = [path for path in found if path.stat().st_size < 3_000_000]
    ifc = demo / "larkwater.ifc"
    return [*small, *([ifc] if ifc.is_file() else [])]


def read_in_fork(path: Path) -> None:
    """What a reading child does with a model, in a fork of this process, which has the readers loaded: its
    start costs nothing.

    Raises UserError with the child's sentence, and RuntimeError where it came to a sudden end.
    """
    said, says = os.pipe()
    child = os.fork()
    if child == 0:
        os.dup2(says, 2)
        sys.stderr = os.fdopen(2, "w", closefd=False)
        sys.argv = ["reader", str(path), "0.0", ""]
        signal.alarm(int(SLOWEST_S))
        code = reader_main()
        sys.stderr.flush()
        os._exit(code)
    os.close(says)
    with os.fdopen(said, "rb") as pipe:
        lines = pipe.read().decode("utf-8", "replace").strip().splitlines()
    _, status = os.waitpid(child, 0)
    if os.WIFSIGNALED(status):
        raise RuntimeError(f"the reader ended by signal {os.WTERMSIG(status)}")
    if os.WEXITSTATUS(status) == 1 and lines:
        raise UserError(lines[-1])
    if status:
        raise RuntimeError(f"the reader ended with {os.WEXITSTATUS(status)}: {lines[-1:]}")


def mutated_models(row: Row, folder: Path, chance: random.Random, end: float, demo: Path) -> None:
    """A damaged model opens, or is refused with one sentence in time, without a word of Python; every
    twentieth in a process of its own."""
    seeds = model_seeds(folder, demo)
    for seed in seeds:
        # The libraries of each kind are loaded here once, and forked with.
        with contextlib.suppress(UserError):
            read_model(seed)
    for number in until(end):
        seed = chance.choice(seeds)
        path = folder / f"mutant{seed.suffix if seed.suffix != '.json' else '.city.json'}"
        path.write_bytes(bytes_mutated(seed.read_bytes(), chance))
        row.tried += 1
        began = time.monotonic()
        try:
            if number % 20:
                read_in_fork(path)
            else:
                open_model(path, 0.0, lambda spent: spent < SLOWEST_S)
        except UserError as error:
            words = error.sentence
            if "was stopped" in words or "Traceback" in words or "Error:" in words or "went wrong" in words:
                row.fail(f"{seed.name}: {words[:200]}")
                shutil.copyfile(path, folder.parent / f"failed-{len(row.failed)}{path.suffix}")
        except BaseException as error:
            row.fail(f"{seed.name}: {type(error).__name__}: {error}"[:200])
        if time.monotonic() - began > SLOWEST_S + 5.0:
            row.fail(f"{seed.name}: took {time.monotonic() - began:.0f} s")


def damaged_caches(row: Row, folder: Path, chance: random.Random, end: float, demo: Path) -> None:
    """An entry of the cache that is damaged counts as missing."""
    model = demo / "larkwater.glb"
    open_model(model)
    key = model_key(model)
    entry = cache_folder() / "models" / key
    kept = folder / "entry"
    shutil.copytree(entry, kept, dirs_exist_ok=True)
    (cache_folder() / "light").mkdir(exist_ok=True)
    light = cache_folder() / "light" / "torture.npz"
    np.savez(light, pixels=np.zeros((4, 4, 4, 3), np.float16), uv=np.zeros((3, 2), np.float32))
    whole = light.read_bytes()
    for _ in until(end):
        shutil.rmtree(entry, ignore_errors=True)
        shutil.copytree(kept, entry)
        part = chance.choice(list(entry.iterdir()))
        data = part.read_bytes()
        what = chance.random()
        part.write_bytes(
            b""
            if what < 0.3
            else data[: chance.randrange(len(data) + 1)]
            if what < 0.6
            else bytes_mutated(data[:4000], chance) + data[4000:]
        )
        light.write_bytes(
            chance.choice([b"", bytes_mutated(whole, chance), whole[: chance.randrange(len(whole))]])
        )
        row.tried += 2
        try:
            load_model(model, key)
            load_light("torture")
        except BaseException as error:
            row.fail(f"{part.name}: {type(error).__name__}: {error}"[:200])
    light.unlink()
    shutil.rmtree(entry, ignore_errors=True)


# ---------------------------------------------------------------------- runs


def kills_of_runs(row: Row, folder: Path, chance: random.Random, end: float, demo: Path) -> None:
    """A run of stills, drawings and a film is killed again and again and resumed: the same bytes as
    undisturbed."""
    project = read_project(demo / "larkwater.altana")
    walk = replace(project.walks[0], seconds=0.4, rate="10", width_px=96, height_px=54)
    kept = tuple(
        replace(shot, quality="proof", width_px=96, keep_master=False)
        for shot in project.shots
        if shot.kind == "still" and not shot.hour and not shot.date
    )[:4]
    rows = (
        *kept,
        replace(
            next(shot for shot in project.shots if shot.kind == "film" and shot.subject == walk.id),
            quality="proof",
            width_px=96,
        ),
    )
    path = folder / "run.altana"
    write_project(path, replace(project, walks=(walk,), shots=rows), passing=True)
    command = [
        sys.executable,
        "-m",
        "altana",
        "render",
        str(path),
        "--base",
        str(demo),
        "--shots",
        "--unlisted",
    ]
    subprocess.run([*command, "--out", str(folder / "whole")], capture_output=True, check=True)

    def files(out: Path) -> dict[str, bytes]:
        return {
            item.relative_to(out).as_posix(): item.read_bytes()
            for item in out.rglob("*")
            if item.is_file() and not item.name.startswith(".")
        }

    expected = files(folder / "whole")
    for number in until(end):
        out, job = folder / f"out{number}", folder / f"job{number}"
        for _ in range(chance.randrange(1, 5)):
            child = subprocess.Popen(
                [*command, "--out", str(out), "--job", str(job), "--resume"],
                stdout=subprocess.DEVNULL,
                stderr=subprocess.DEVNULL,
                start_new_session=True,
            )
            time.sleep(chance.uniform(0.8, 6.0))
            if child.poll() is None:
                os.killpg(child.pid, chance.choice([signal.SIGKILL, signal.SIGKILL, signal.SIGTERM]))
            child.wait(60)
            row.tried += 1
            if out.exists() and any(
                expected.get(name, b"") != data
                for name, data in files(out).items()
                if not name.endswith(".part")
            ):
                row.fail("half a file stands under its name")
        subprocess.run(
            [*command, "--out", str(out), "--job", str(job), "--resume"], capture_output=True, check=False
        )
        if files(out) != expected:
            row.fail("other bytes in the end")
        shutil.rmtree(out, ignore_errors=True)
        shutil.rmtree(job, ignore_errors=True)


def memory_over_rounds(row: Row, folder: Path, chance: random.Random, end: float, demo: Path) -> None:
    """Small pictures, one after the other, in one process: after the first it grows no more."""
    script = (
        "import sys, resource, psutil\nfrom pathlib import Path\nfrom dataclasses import replace\n"
        "from altana.jobs.models import open_project_models\nfrom altana.storage.project_file import read_project\n"
        "from altana.render.renderer import Renderer\nfrom altana.core.staging import Lookup\nfrom altana.jobs.light import light_of\n"
        "from altana.jobs.picture import PictureWork\nfrom altana.jobs.rows.shared import Rows\nfrom altana.jobs.requests import Picture\nfrom altana.core.edits.shots import start_values\n"
        "path = Path(sys.argv[1])\np = read_project(path)\no = open_project_models(p, path)\nsoft = light_of(o, p.light, lambda _: True, path.parent)\n"
        "r = Renderer(o.model, soft)\nw = PictureWork(Rows(p, o, Lookup(o.model), r, path.parent, soft))\nmark = 0\n"
        "for n in range(int(sys.argv[2])):\n"
        "    c = p.cameras[n % len(p.cameras)]\n"
        "    s = replace(start_values(p, 'still', c.id), quality='proof', keep_master=False)\n"
        "    w.stills.still(Picture(s, c, 96, 54, 'x.png'), lambda _: True)\n"
        "    rss = psutil.Process().memory_info().rss\n"
        "    mark = rss if n == 60 else mark\n"
        "print(mark, rss)\n"
    )
    left = end - time.monotonic()
    count = 1000 if left > 600 else 200 if left > 60 else 90
    done = subprocess.run(
        [sys.executable, "-c", script, str(demo / "larkwater.altana"), str(count)],
        capture_output=True,
        text=True,
        check=False,
    )
    row.tried += count
    try:
        before, after = (int(value) for value in done.stdout.split())
        growth = after / before - 1.0
        row.name += f" ({before / 1e6:.0f} MB, {growth:+.1%})"
        if growth > 0.05:
            row.fail(f"grew by {growth:.1%}")
    except ValueError:
        row.fail(done.stderr.strip().splitlines()[-1] if done.stderr.strip() else "no answer")


# ---------------------------------------------------------------------- all of it


def _broken_off(_number: int, _frame: object) -> None:
    STOPPED.set()


def main() -> int:
    """Run every kind for its share of the time, and print the table."""
    logging.disable(logging.CRITICAL)
    for number in (signal.SIGINT, signal.SIGTERM):
        # Broken off it still tells what it did.
        signal.signal(number, _broken_off)
    minutes = float(sys.argv[1]) if len(sys.argv) > 1 else 10.0
    seed = int(os.environ.get("ALTANA_SEED") or random.SystemRandom().randrange(10**6))
    print(f"seed {seed}, {minutes:g} minutes", flush=True)
    chance = random.Random(seed)
    kinds: list[tuple[str, float, Callable[..., None], bool]] = [
        ("kills while saving", 0.12, kills_while_saving, False),
        ("full disks", 0.05, full_disks, False),
        ("cameras added by several at once", 0.08, two_writers, False),
        ("mutated projects", 0.12, mutated_projects, True),
        ("mutated models", 0.25, mutated_models, True),
        ("damaged caches", 0.06, damaged_caches, True),
        ("kills of runs", 0.24, kills_of_runs, True),
        ("pictures in one process", 0.08, memory_over_rounds, True),
    ]
    wanted = sys.argv[2:]
    kinds = [kind for kind in kinds if not wanted or kind[0] in wanted]
    whole_share = sum(share for _, share, _, _ in kinds)
    with tempfile.TemporaryDirectory(prefix="altana-torture-") as scratch:
        whole = Path(scratch)
        os.environ.setdefault("ALTANA_CACHE", str(whole / "cache"))
        os.environ["ALTANA_AUTOSAVE"] = str(whole / "kept")
        demo = whole / "demo"
        subprocess.run(
            [sys.executable, "-m", "altana", "demo", "--out", str(demo)], capture_output=True, check=True
        )
        rows = []
        for name, share, kind, needs_demo in kinds:
            folder = whole / kind.__name__
            folder.mkdir()
            row = Row(name)
            rows.append(row)
            end = time.monotonic() + 60.0 * minutes * share / whole_share
            try:
                kind(row, folder, chance, end, *([demo] if needs_demo else []))
            except BaseException as error:
                row.fail(f"the torture itself: {type(error).__name__}: {error}")
        for path in whole.glob("failed-*"):
            shutil.copyfile(path, Path(tempfile.gettempdir()) / f"altana-{seed}-{path.name}")
    print("\n| what | tried | failed |\n|---|---:|---:|")
    for row in rows:
        print(f"| {row.name} | {row.tried} | {len(row.failed)} |")
    return 1 if any(row.failed for row in rows) else 0


if __name__ == "__main__":
    sys.exit(main())
