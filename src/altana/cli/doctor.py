"""``altana doctor``: what of this machine Altana uses, and what is missing: card, memory, cores, compiler,
fonts, caches, and a test picture."""

from __future__ import annotations

import ctypes.util
import os
import platform
import shutil
import subprocess
import sys
import time
from collections.abc import Callable
from dataclasses import asdict, dataclass
from pathlib import Path

import click
import numpy as np
import numpy.typing as npt
import psutil

from altana.cli.shared import JSON, say
from altana.core.errors import UserError
from altana.core.fonts import FONTS
from altana.demo.faulty_house import write_faulty_house
from altana.importers.memory import free_bytes
from altana.jobs.models import open_project_models
from altana.jobs.surroundings import sky_for
from altana.render.context import drawn_by
from altana.render.quality import FULL
from altana.render.renderer import Renderer
from altana.render.traced.engine import llvm_library
from altana.storage.cache import cache_folder, limit_bytes
from altana.storage.log import log_file
from altana.storage.project_file import read_project
from altana.storage.scratch import scratch_folder
from altana.version import version_words

TEST_SIZE = (320, 180)
FONT_FILES = ("Lato-Regular.ttf", "Lato-Medium.ttf", "Lato-Semibold.ttf", "Lato-Bold.ttf")
#: So long the path tracer may take to say that it starts.
TRACER_S = 60


@dataclass(frozen=True, slots=True)
class Finding:
    """One line: what it is about, what was found, and where something is missing what that keeps from working
    and what to do."""

    about: str
    found: str
    missing: str = ""
    #: Whether Altana cannot make pictures without it.
    needed: bool = False


def examine() -> list[Finding]:
    """Look at everything; takes some seconds."""
    findings = [
        Finding("Altana", version_words()),
        Finding("Python", f"{platform.python_version()}, {sys.executable}"),
        _machine(),
    ]
    for look in (_drawing, _compiler, _fonts, _window, _caches, _test_picture):
        findings.append(_looked(look))
    findings.append(Finding("Log", str(log_file())))
    return findings


def _looked(look: Callable[[], Finding]) -> Finding:
    about = look.__name__.strip("_").replace("_", " ").capitalize()
    try:
        return look()
    except UserError as error:
        return Finding(about, "no", error.sentence, needed=about in ("Drawing", "Test picture"))
    except Exception as error:  # noqa: BLE001 - whatever is wrong with a machine is told, and the rest is looked at
        return Finding(about, "no", f"{type(error).__name__}: {error}", needed=about == "Test picture")


def _machine() -> Finding:
    memory = psutil.virtual_memory()
    processor = next(
        (line.partition(":")[2].strip() for line in _lines("/proc/cpuinfo") if line.startswith("model name")),
        platform.machine(),
    )
    return Finding(
        "Machine",
        f"{os.cpu_count()} cores ({processor}), {memory.total / 1e9:.1f} GB of memory, {free_bytes() / 1e9:.1f} GB of it free for Altana",
    )


def _lines(path: str) -> list[str]:
    try:
        return Path(path).read_text(errors="replace").splitlines()
    except OSError:
        return []


def _drawing() -> Finding:
    by = drawn_by()
    soft = "llvmpipe" in by or "softpipe" in by
    return Finding(
        "Drawing",
        f"{by}: {'in software' if soft else 'on the graphics card'}",
        "No graphics card is used: everything works, slower. Install its driver for Mesa or Vulkan, if there is one."
        if soft
        else "",
    )


def _compiler() -> Finding:
    library = llvm_library()
    if not library or not (Path(library).is_file() or ctypes.util.find_library("LLVM-19")):
        return Finding(
            "Compiler",
            "no LLVM 19",
            "Final pictures cannot be made. Install Debian's libllvm19, or choose review.",
        )
    # In a process of its own: a library that does not fit ends it.
    code = "from altana.render.traced.engine import start_engine; m, fast = start_engine(); import drjit; print(m.__version__, float(drjit.sum(m.Float([1, 2]))[0]))"
    done = subprocess.run(
        [sys.executable, "-c", code], capture_output=True, text=True, timeout=TRACER_S, check=False
    )
    if done.returncode or "3.0" not in done.stdout:
        return Finding(
            "Compiler",
            library,
            "It does not work with the path tracer. Install Debian's libllvm19, or choose review.",
        )
    return Finding("Compiler", f"{library}, path tracer {done.stdout.split()[0]}")


def _fonts() -> Finding:
    gone = [name for name in FONT_FILES if not (FONTS / name).is_file()]
    if gone:
        return Finding("Fonts", str(FONTS), f"{', '.join(gone)} missing. Install Altana anew.")
    return Finding("Fonts", f"{len(FONT_FILES)} of Altana's own in {FONTS}")


def _window() -> Finding:
    shown = os.environ.get("WAYLAND_DISPLAY") or os.environ.get("DISPLAY") or ""
    code = "from PySide6.QtCore import qVersion; from PySide6.QtWidgets import QApplication; a = QApplication([]); print(qVersion())"
    settings = dict(os.environ) if shown else {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run(
        [sys.executable, "-c", code],
        capture_output=True,
        text=True,
        timeout=TRACER_S,
        check=False,
        env=settings,
    )
    if done.returncode:
        wrong = done.stderr.strip().splitlines()
        return Finding(
            "Window",
            "no",
            f"The window cannot open ({wrong[-1][:160] if wrong else 'Qt ends'}). Install the packages of packages-debian.txt.",
        )
    return Finding(
        "Window", f"Qt {done.stdout.strip()}, {f'display {shown}' if shown else 'no display: commands only'}"
    )


def _caches() -> Finding:
    folder = cache_folder()
    taken_bytes = (
        sum(path.stat().st_size for path in folder.rglob("*") if path.is_file()) if folder.is_dir() else 0
    )
    place = folder
    while not place.exists():
        place = place.parent
    writable = os.access(place, os.W_OK)
    free = shutil.disk_usage(place).free
    return Finding(
        "Caches",
        f"{taken_bytes / 1e9:.2f} GB of at most {limit_bytes() / 1e9:.1f} GB in {folder}; {free / 1e9:.1f} GB of the disk are free",
        ""
        if writable
        else "It cannot be written to: every model is read anew each time. Set ALTANA_CACHE to another folder.",
    )


def _test_picture() -> Finding:
    with scratch_folder() as folder:
        path = write_faulty_house(folder)
        began = time.monotonic()
        pixels = test_picture(path)
        took = time.monotonic() - began
    spread = float(pixels.std())
    if spread < 5.0:
        return Finding(
            "Test picture",
            "empty",
            "The driver draws nothing. Use another one, or LIBGL_ALWAYS_SOFTWARE=1.",
            needed=True,
        )
    return Finding(
        "Test picture", f"{TEST_SIZE[0]} × {TEST_SIZE[1]} px of a small house, model read, in {took:.2f} s"
    )


def test_picture(path: Path) -> npt.NDArray[np.uint8]:
    """A picture of the generated house from its garden, (height, width, 3) uint8.  path : its project."""
    project = read_project(path)
    opened = open_project_models(project, path)
    renderer = Renderer(opened.model)
    try:
        camera = project.camera_named("From the garden")
        sky = sky_for(project.light, path.parent)
        pixels = renderer.picture(camera.view(*TEST_SIZE), sky, camera.ev, FULL)
    finally:
        renderer.close()
    assert pixels is not None
    return pixels


@click.command("doctor")
@JSON
def doctor(as_json: bool) -> None:
    """Tell what of this machine is used and what is missing, with a test picture and its time."""
    findings = examine()
    lines = []
    for item in findings:
        lines.append(f"{item.about:14}{item.found}")
        if item.missing:
            lines.append(f"{'':14}! {item.missing}")
    say(as_json, {"findings": [asdict(item) for item in findings]}, lines)
    stuck = [item.missing for item in findings if item.needed and item.missing]
    if stuck:
        raise UserError(f"Altana cannot make pictures here: {stuck[0]}")
