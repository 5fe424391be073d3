"""What the window and its children take while it is worked with, round after round on every desk.

    python benchmarks/window_memory.py PROJECT [ROUNDS]

A round goes through all four desks with something to do on each: another camera, turned and turned back, a
plan of another storey, the section, panorama and as it will be made, a walk scrubbed, the model's tree
searched, rows and results looked at.  Memory is what belongs to the processes alone (USS), so that models
mapped by all count once at most.
"""

from __future__ import annotations

import os
import shutil
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import psutil
from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QApplication

from altana.app.shell.window import COMPOSE, HAND_OVER, MODEL, WALK, MainWindow
from altana.app.theme.style import apply_theme

ROUNDS, SETTLED = 300, 50


def memory() -> dict[str, float]:
    """Megabytes of this process and of each child that is there for long."""
    here = psutil.Process()
    made = {"window": here.memory_full_info().uss / 1e6}
    for number, child in enumerate(sorted(here.children(), key=lambda item: item.create_time())):
        try:
            made[f"child {number + 1}"] = child.memory_full_info().uss / 1e6
        except psutil.Error:
            continue
    return made


class Rounds:
    """The window, and what is done with it."""

    def __init__(self, window: MainWindow, application: QApplication) -> None:
        self.window, self._application = window, application

    def live(self, seconds: float) -> None:
        """Let the window live."""
        end = time.monotonic() + seconds
        while time.monotonic() < end:
            self._application.processEvents()
            time.sleep(0.002)

    def until(self, condition: Callable[[], object], seconds: float = 60.0) -> None:
        end = time.monotonic() + seconds
        while not condition() and time.monotonic() < end:
            self._application.processEvents()
            time.sleep(0.005)

    def one(self, number: int) -> None:
        """Something on every desk."""
        window = self.window
        bridge, state = window.workspace.bridge, window.workspace.state
        cameras = bridge.project.cameras
        window.going.choose_desk(COMPOSE)
        state.select(cameras[number % len(cameras)].id)
        self.live(0.15)
        for turn in (1.0, -1.0):
            window.workspace.edits.commit(
                "Turn", lambda c, v: replace(c, heading_deg=(c.heading_deg + v) % 360.0), turn
            )
            self.live(0.05)
        bridge.undo()
        bridge.undo()
        scene = window.workspace.studio.scene
        assert scene is not None
        storeys = scene.model.storeys
        window.compose.plan.choose_storey(storeys[number % len(storeys)])
        self.live(0.1)
        if number % 4 == 0:
            window.compose.pictures.look_at(window.compose.pictures.finished)
            self.live(0.2)
            window.compose.pictures.look_at(window.compose.frame)
        window.going.choose_desk(MODEL)
        self.live(0.1)
        window.going.choose_desk(WALK)
        for share in (0.1, 0.5, 0.9):
            walk = state.walk
            state.set_moment(share * (walk.seconds if walk is not None else 1.0))
            self.live(0.05)
        window.going.choose_desk(HAND_OVER)
        shots = bridge.project.shots
        if shots:
            window.handover.table.choose([shots[number % len(shots)].id])
        self.live(0.1)


def main() -> int:
    """Go round, and print a line every twenty-five rounds and the growth at the end."""
    source, rounds = Path(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else ROUNDS
    application = QApplication([])
    apply_theme(application)
    with tempfile.TemporaryDirectory(prefix="altana-rounds-") as folder:
        project = Path(shutil.copytree(source.parent, Path(folder) / "project")) / source.name
        settings = QSettings(str(Path(folder) / "settings.ini"), QSettings.Format.IniFormat)
        window = MainWindow(settings=settings)
        window.resize(1280, 800)
        window.show()
        window.files.open_path(project)
        work = Rounds(window, application)
        work.until(lambda: window.workspace.studio.lit == 2, 300.0)
        before: dict[str, float] = {}
        for number in range(rounds):
            work.one(number)
            if number % 25 == 0 or number in (SETTLED, rounds - 1):
                work.live(2.0)
                now = memory()
                if number == SETTLED:
                    before = now
                print(
                    number,
                    f"{sum(now.values()):.0f} MB",
                    "  ".join(f"{k} {v:.0f}" for k, v in now.items()),
                    flush=True,
                )
        after = memory()
        if before:
            print(f"growth after round {SETTLED}: {sum(after.values()) / sum(before.values()) - 1.0:+.1%}")
        window.files.may_leave = lambda: True  # type: ignore[method-assign]
        window.close()
        work.live(0.5)
    return 0


if __name__ == "__main__":
    sys.exit(main())
