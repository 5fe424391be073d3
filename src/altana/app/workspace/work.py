"""Work in the background: starts ``altana render``, ``altana gaps`` or ``altana light hours`` as a child
process and follows its journal."""

from __future__ import annotations

import json
import shutil
import sys
import time
from dataclasses import dataclass, field
from pathlib import Path

import msgspec
from PySide6.QtCore import QObject, QProcess, QTimer, Signal

from altana.app.theme.words import tr
from altana.core.project import Project
from altana.jobs.following import JournalFollower
from altana.jobs.requests import Part
from altana.storage.project_file import write_project
from altana.storage.scratch import new_scratch

POLL_MS = 200


@dataclass(frozen=True, slots=True)
class Order:
    """What is to be made: cameras and walks by id, and how."""

    cameras: tuple[str, ...] = ()
    walks: tuple[str, ...] = ()
    scale: float = 100.0
    kind: str = "png"
    quality: str = "review"
    rate: str = ""
    film: str = "mp4"
    part: Part = field(default_factory=Part)
    #: How it is drawn instead of as its row of the shot list says; empty: as that says.
    drawn: str = ""
    #: Largest width and height, where they are not the camera's own.
    size: tuple[int, int] | None = None
    #: The file's name without its kind, where it is not the camera's; whether it is listed among what was
    #: made.
    name: str = ""
    noted: bool = True


@dataclass(frozen=True, slots=True)
class FilmFacts:
    """What reading a film back found, as the command prints it."""

    frames: int
    length_s: float
    rate: str
    differs: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Rendered:
    """What the command prints at its end: the files that were made, and the films among them read back."""

    files: tuple[str, ...]
    checks: dict[str, FilmFacts] = field(default_factory=dict)


class Work(QObject):
    """One running job at a time; ``progress(share, label, seconds left or -1)``."""

    started = Signal()
    progress = Signal(float, str, float)
    finished = Signal(bool, str, str)

    def __init__(self) -> None:
        super().__init__()
        self._process: QProcess | None = None
        self._job: Path | None = None
        self._journal: JournalFollower | None = None
        self._out = Path()
        #: Whether the last job made pictures or films, which are among the results.
        self.of_pictures = False
        self._began = 0.0
        self._cancelled = False
        self._poll = QTimer(self)
        self._poll.setInterval(POLL_MS)
        self._poll.timeout.connect(self._follow)

    @property
    def running(self) -> bool:
        """Whether a job runs."""
        return self._process is not None

    def start(self, project: Project, project_path: Path, order: Order, out: Path) -> None:
        """Start making pictures and films; the project is handed over as it is now, saved or not."""
        arguments = ["--kind", order.kind, "--quality", order.quality, "--scale", str(order.scale)]
        for camera in order.cameras:
            arguments += ["--camera", camera]
        for walk in order.walks:
            arguments += ["--walk", walk]
        arguments += ["--rate", order.rate] if order.rate else []
        arguments += [
            "--film",
            order.film,
            "--from",
            str(order.part.from_s),
            "--step",
            str(order.part.step),
            "--strip",
            str(order.part.strip_every),
        ]
        arguments += ["--to", str(order.part.to_s)] if order.part.to_s is not None else []
        arguments += ["--drawn", order.drawn] if order.drawn else []
        arguments += ["--size", f"{order.size[0]}x{order.size[1]}"] if order.size is not None else []
        arguments += ["--name", order.name] if order.name else []
        arguments += ["--unlisted"] if not order.noted else ["--project-name", project_path.name]
        arguments += ["--keep-frames"] if order.part.keep_frames else []
        stamp = order.part.stamp
        if stamp.fields:
            size = f"{stamp.size * 100:.3f}"
            arguments += [
                "--stamp",
                ",".join(stamp.fields),
                "--stamp-corner",
                stamp.corner,
                "--stamp-size",
                size,
            ]
        self._launch("render", project, project_path, out, arguments)

    def list_gaps(self, project: Project, project_path: Path, out: Path) -> None:
        """Start the list of gaps with pictures, for whoever models."""
        self._launch("gaps", project, project_path, out, [])

    def send(self, project: Project, project_path: Path, out: Path, arguments: list[str]) -> None:
        """Start writing a file for other tools that takes drawing or long; arguments : of ``altana
        export``."""
        self._launch("export", project, project_path, out, arguments, out.parent)

    def count_hours(
        self, project: Project, project_path: Path, out: Path, camera: str, storey: str, year: bool
    ) -> None:
        """Start hours of sun on what a camera (its id) sees, or over a storey; ``out`` is the picture."""
        of = ["--camera", camera] if camera else ["--storey", storey]
        self._launch(
            "light hours", project, project_path, out, [*of, *(["--year"] if year else [])], out.parent
        )

    def _launch(
        self,
        command: str,
        project: Project,
        project_path: Path,
        out: Path,
        arguments: list[str],
        folder: Path | None = None,
    ) -> None:
        if self.running:
            return
        self.of_pictures = command == "render"
        self._job = new_scratch()
        self._journal = JournalFollower(self._job)
        self._out, self._began, self._cancelled = folder or out, time.monotonic(), False
        snapshot = self._job / "project.altana"
        write_project(snapshot, project, passing=True)
        whole = [
            "-m",
            "altana",
            *command.split(),
            str(snapshot),
            "--base",
            str(project_path.parent),
            "--out",
            str(out),
        ]
        process = QProcess(self)
        process.finished.connect(self._ended)
        process.start(sys.executable, [*whole, "--job", str(self._job), "--json", *arguments])
        self._process = process
        self._poll.start()
        self.started.emit()
        self.progress.emit(0.0, "Starting", -1.0)

    def cancel(self) -> None:
        """Stop after the piece in hand; what is finished stays."""
        if self._process is not None:
            self._cancelled = True
            self._process.terminate()
            QTimer.singleShot(8000, self._kill)

    def _kill(self) -> None:
        if self._process is not None and self._cancelled:
            self._process.kill()

    def _follow(self) -> None:
        if self._journal is None:
            return
        shares = [event for event in self._journal.events() if event["event"] == "progress"]
        last = shares[-1] if shares else None
        if last is not None:
            spent = time.monotonic() - self._began
            left = spent / last["share"] - spent if last["share"] > 0.03 and spent > 2.0 else -1.0
            self.progress.emit(float(last["share"]), str(last["label"]), left)

    def _ended(self, code: int, _: QProcess.ExitStatus) -> None:
        process, self._process = self._process, None
        self._poll.stop()
        assert process is not None
        error = bytes(process.readAllStandardError().data()).decode("utf-8", "replace").strip()
        printed = bytes(process.readAllStandardOutput().data()).decode("utf-8", "replace")
        process.deleteLater()
        if self._job is not None:
            shutil.rmtree(self._job, ignore_errors=True)
            self._job = None
        if code == 0:
            rendered = msgspec.convert(json.loads(printed), Rendered)
            count, checked = len(rendered.files), _checked(list(rendered.checks.values()))
            self.finished.emit(
                True,
                tr("%n files made in {out}{checked}", "", count, out=self._out, checked=checked),
                str(self._out),
            )
        else:
            self.finished.emit(
                False,
                error.splitlines()[-1]
                if error
                else tr("The job came to a sudden end. Pictures made before are kept; start it again."),
                str(self._out),
            )

    def close(self) -> None:
        """End with the window."""
        if self._process is not None:
            self._process.finished.disconnect(self._ended)
            self._process.terminate()
            if not self._process.waitForFinished(3000):
                self._process.kill()
                self._process.waitForFinished(1000)
            self._process = None
        if self._job is not None:
            shutil.rmtree(self._job, ignore_errors=True)


def _checked(checks: list[FilmFacts]) -> str:
    """What reading the films back found, in a few words."""
    differs = [sentence for check in checks for sentence in check.differs]
    if differs:
        return tr(". Differs: {differs}", differs=" ".join(differs))
    if len(checks) == 1:
        (check,) = checks
        return tr(
            ". Checked: {frames} film frames, {seconds:.2f} s at {rate}, like the Frame",
            frames=check.frames,
            seconds=check.length_s,
            rate=check.rate,
        )
    return tr(". %n films checked", "", len(checks)) if checks else ""
