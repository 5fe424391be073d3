"""How long the window is silent, with the demo and with 500 cameras in a million triangles.

``python benchmarks/window.py [demo|large|PROJECT]``: opens a real window, then goes through opening,
selecting the next camera, dragging on the plan, and dragging in the Frame, while a timer asks every
millisecond whether the event loop still answers.  Prints the longest silence of each and the longest stretch
that the window's own thread worked (the clock of that thread, which stands still while other processes have
the processor), and the time that painting Plan and Section takes during a drag.
"""

from __future__ import annotations

import gc
import os
import sys
import tempfile
import threading
import time
import traceback
from dataclasses import replace
from pathlib import Path

import numpy as np
import trimesh
from PySide6.QtCore import QEvent, QEventLoop, QPointF, QSettings, Qt, QTimer
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QApplication, QWidget

from altana.app.shell.window import WALK, MainWindow
from altana.app.theme.style import apply_theme
from altana.app.workspace.garbage import Garbage
from altana.core.edits.cameras import add_camera
from altana.core.project import Camera, ModelRef, Project
from altana.demo.project import PROJECT, write_demo
from altana.storage.project_file import write_project

CAMERAS, TRIANGLES = 500, 1_000_000


def watch(answered: list[float]) -> None:
    """With WATCH in the environment: where the window is when it has not answered for 60 ms."""

    def look() -> None:
        main = threading.main_thread().ident
        while True:
            time.sleep(0.01)
            if time.perf_counter() - answered[0] > 0.06:
                frame = sys._current_frames().get(main or 0)
                print(
                    "    silent in",
                    " < ".join(
                        f"{f.filename.rpartition('/')[2]}:{f.lineno}"
                        for f in traceback.extract_stack(frame)[:-9:-1]
                    ),
                )
                time.sleep(0.05)

    threading.Thread(target=look, daemon=True).start()


class Silence:
    """Asks every millisecond; remembers how long nobody answered."""

    def __init__(self) -> None:
        self.answered = [time.perf_counter()]
        if os.environ.get("WATCH"):
            watch(self.answered)
        self.gaps: list[float] = []
        self.held: list[float] = []
        self._last, self._used = time.perf_counter(), time.thread_time()
        self._timer = QTimer()
        self._timer.setTimerType(Qt.TimerType.PreciseTimer)
        self._timer.timeout.connect(self._tick)
        self._timer.start(1)

    def _tick(self) -> None:
        now = time.perf_counter()
        used = time.thread_time()
        self.gaps.append((now - self._last) * 1000)
        # On a machine that others use as well, what the window's own thread worked tells more than the clock.
        self.held.append((used - self._used) * 1000)
        self._used = used
        self._last = self.answered[0] = now

    def take(self) -> str:
        """Longest and middle of what is noted so far, which is then forgotten."""
        gaps, held = np.array(self.gaps[1:] or [0.0]), np.array(self.held[1:] or [0.0])
        self.gaps.clear()
        self.held.clear()
        return (
            f"silent {gaps.max():7.1f} ms at most, over 50 ms {int((gaps > 50).sum()):3} x;"
            f"  own work {held.max():6.1f} ms at most, over 50 ms {int((held > 50).sum()):3} x"
        )


class Paints(QWidget):
    """Times how long a widget's painting takes."""

    def __init__(self, widget: QWidget) -> None:
        super().__init__()
        self.times: list[float] = []
        original = widget.paintEvent

        def timed(event) -> None:  # type: ignore[no-untyped-def]
            start = time.thread_time()
            original(event)
            self.times.append((time.thread_time() - start) * 1000)

        widget.paintEvent = timed  # type: ignore[method-assign]

    def take(self) -> str:
        """Middle and worst of the paints so far."""
        times = np.array(self.times or [0.0])
        self.times.clear()
        return f"middle {np.median(times):5.1f} ms, worst {times.max():5.1f} ms of {len(times)}"


def large_project(folder: Path) -> Path:
    """A hall of many small round things, and cameras all over it."""
    scene = trimesh.Scene()
    ball = trimesh.creation.icosphere(subdivisions=2, radius=0.35)
    scene.add_geometry(
        trimesh.creation.box((120, 120, 0.3), trimesh.transformations.translation_matrix((0, 0, -0.15))),
        node_name="Floor",
    )
    for index, x in enumerate((-60.0, 60.0)):
        scene.add_geometry(
            trimesh.creation.box((0.3, 120, 5), trimesh.transformations.translation_matrix((x, 0, 2.5))),
            node_name=f"Wall {index}",
        )
    per = 20 * 320
    count = TRIANGLES // per
    side = int(np.ceil(np.sqrt(count)))
    for number in range(count):
        at = np.array([(number % side) / side * 110 - 55, (number // side) / side * 110 - 55, 0.35])
        pile = trimesh.util.concatenate(
            [ball.copy().apply_translation(at + (0.9 * (k % 5), 0.9 * (k // 5), 0)) for k in range(20)]
        )
        scene.add_geometry(pile, node_name=f"Pile {number}")
    scene.apply_transform(trimesh.transformations.rotation_matrix(-np.pi / 2, (1, 0, 0)))
    scene.export(folder / "large.glb")
    project = Project("Large", models=(ModelRef("model-01", "large.glb"),))
    random = np.random.default_rng(1)
    for number in range(CAMERAS):
        x, y = random.uniform(-50, 50, 2)
        project, _ = add_camera(
            project, Camera("", f"Camera {number}", (float(x), float(y), 1.6), float(random.uniform(0, 360)))
        )
    write_project(folder / "large.altana", project)
    return folder / "large.altana"


def wait(seconds: float) -> None:
    """Let the window live."""
    loop = QEventLoop()
    QTimer.singleShot(int(seconds * 1000), loop.quit)
    loop.exec()


def drag(widget: QWidget, start: QPointF, end: QPointF, steps: int) -> None:
    """A drag with a pause of a sixtieth of a second between its moves."""

    def send(kind: QEvent.Type, at: QPointF, button: Qt.MouseButton, buttons: Qt.MouseButton) -> None:
        QApplication.sendEvent(
            widget,
            QMouseEvent(kind, at, widget.mapToGlobal(at), button, buttons, Qt.KeyboardModifier.NoModifier),
        )

    left, none = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton
    send(QEvent.Type.MouseButtonPress, start, left, left)
    for number in range(1, steps + 1):
        send(QEvent.Type.MouseMove, start + (end - start) * (number / steps), none, left)
        wait(1 / 60)
    send(QEvent.Type.MouseButtonRelease, end, left, none)


def main() -> None:
    """Run and print."""
    which = sys.argv[1] if len(sys.argv) > 1 else "demo"
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    application = QApplication(sys.argv[:1])
    apply_theme(application)
    folder = Path(tempfile.mkdtemp())
    os.environ["ALTANA_AUTOSAVE"] = str(folder / "autosave")
    path = Path(which)
    if which in ("demo", "large"):
        path = large_project(folder) if which == "large" else write_demo(folder) and folder / PROJECT
    window = MainWindow(settings=QSettings(str(folder / "settings.ini"), QSettings.Format.IniFormat))
    Garbage(window.workspace.studio)
    window.show()
    gc.freeze()
    wait(1.0)
    silence = Silence()
    paints = {"Plan": Paints(window.compose.plan), "Section": Paints(window.compose.section)}
    started = time.perf_counter()
    window.files.open_path(path)
    while (
        window.workspace.studio.scene is None
        or window.compose.plan.drawing is None
        or window.compose.frame.picture.image is None
    ):
        wait(0.05)
    print(
        f"{which}: {len(window.workspace.studio.scene.model.faces)} triangles, {len(window.workspace.bridge.project.cameras)} cameras, open after {time.perf_counter() - started:.1f} s"
    )
    print("  opening            ", silence.take())
    wait(25.0)
    print("  while light comes  ", silence.take())
    for _ in range(20):
        window.going.next_camera(1)
        wait(0.25)
    print("  next camera, 20 x  ", silence.take())
    for item in paints.values():
        item.take()
    camera = window.workspace.state.active
    assert camera is not None
    eye = window.compose.plan.to_screen(*camera.eye[:2])
    drag(window.compose.plan, eye, eye + QPointF(60, 25), 90)
    print("  drag on the plan   ", silence.take())
    for name, item in paints.items():
        print(f"    painting {name:8}", item.take())
    wait(1.0)
    silence.take()
    middle = QPointF(window.compose.frame.width() / 2, window.compose.frame.height() / 2)
    drag(window.compose.frame, middle, middle + QPointF(140, 12), 90)
    print("  turn in the Frame  ", silence.take())
    for name, item in paints.items():
        print(f"    painting {name:8}", item.take())
    wait(3.0)
    drag_the_sun(window, silence)
    copies = [
        replace(camera, id=f"copy-{n}", name=f"Copy {n}", heading_deg=(camera.heading_deg + n) % 360.0)
        for n in range(50)
    ]
    window.workspace.bridge.apply("fifty", lambda project: replace(project, cameras=tuple(copies)))
    wait(1.0)
    silence.take()
    started = time.perf_counter()
    window.compose.check_all(True)
    while window.compose.check_page.bar.value() < 1000 and time.perf_counter() - started < 120:
        wait(0.1)
    print(f"  check all, 50 cameras in {time.perf_counter() - started:.1f} s", silence.take())
    if which == "demo":
        play(window, silence)
    window.workspace.bridge.document.mark_saved()
    window.close()


def drag_the_sun(window: MainWindow, silence: Silence) -> None:
    """The sun dragged through the day for five seconds, thirty steps a second: how often another picture
    comes; then how long until the soft light of the hour it was left at is known."""
    window.resize(1960, 1060)
    window.compose.frame.setFixedSize(640 + 2 * 72, 360 + 2 * 14)
    window.table.run("light.panel")
    wait(4.0)
    slider, studio = window.light.moment.hours, window.workspace.studio
    came: list[float] = []

    def note(channel: str, *_: object) -> None:
        if channel == "frame":
            came.append(time.perf_counter())

    studio.picture.connect(note)
    silence.take()
    slider.setSliderDown(True)
    for step in range(150):
        slider.setValue(120 + step % 60)
        wait(1 / 30)
    between = np.diff(came) * 1000.0
    told = silence.take()
    slider.setSliderDown(False)
    studio.picture.disconnect(note)
    rect = window.compose.frame.frame_rect()
    print(
        f"  sun dragged, {rect.width():.0f} x {rect.height():.0f}: {len(came)} pictures, one every {np.median(between):.0f} ms",
        told,
    )
    # Twice: what points see may have been given back before the first.
    for hour in (15.3, 16.1):
        started, shares = time.perf_counter(), []
        told = studio.light_progress.connect(shares.append)
        window.workspace.bridge.apply(
            "hour", lambda p, hour=hour: replace(p, light=replace(p.light, hour=hour))
        )
        while (not shares or shares[-1] < 1.0) and time.perf_counter() - started < 120:
            wait(0.05)
        studio.light_progress.disconnect(told)
        print(f"  soft light of another hour known after {time.perf_counter() - started:.1f} s")
    window.light.hide()


def play(window: MainWindow, silence: Silence) -> None:
    """Play the demo's walk for 20 s in a Frame of 640 x 360, twice: how far what is shown lies behind the
    clock."""
    window.resize(1960, 1060)
    wait(1.0)
    silence.take()
    window.going.choose_desk(WALK)
    desk = window.walk_desk
    desk.frame.setFixedSize(640 + 2 * 72, 360 + 2 * 14)
    wait(8.0)
    print("  coming to the walks", silence.take())
    rect, rate = desk.frame.frame_rect(), 25.0
    shown: list[tuple[float, int]] = []
    desk.frame.film_frame_shown.connect(lambda number: shown.append((time.perf_counter(), number)))
    for turn in ("first", "second"):
        window.workspace.state.set_moment(0.0)
        wait(1.5)
        shown.clear()
        silence.take()
        desk.bar.toggle_play()
        started = time.perf_counter()
        wait(20.0)
        lasted, moment = time.perf_counter() - started, window.workspace.state.moment
        desk.bar.toggle_play()
        # Of each film frame that came up: how much later than its own moment, in film frames; and how far the
        # clock was off.
        late = np.array([(at - started) * rate - number for at, number in shown if at - started < 20.0])
        print(
            f"  play, {turn} time, {rect.width():.0f} x {rect.height():.0f}: {len({n for _, n in shown})} of 500 film frames shown,",
            f"behind by {np.median(late):.1f} (middle) and {late.max():.1f} (most) film frames; clock off by {abs(lasted - moment) * rate:.2f}",
            silence.take(),
        )
        while desk.frame.filling or desk._fill.isActive():
            wait(0.5)


if __name__ == "__main__":
    main()
