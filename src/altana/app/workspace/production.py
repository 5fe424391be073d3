"""The unattended run of the shot list: a process of its own that outlives the window, steered and followed by files.

The job lies in the cache, one folder a project: a copy of the project as it was ordered, the arguments, the journal.
Opening the project again finds a run that is still going, or one that was broken off and can go on.
"""

from __future__ import annotations

import hashlib
import json
import os
import shutil
import signal
import subprocess
import sys
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal

from altana.core.errors import UserError
from altana.core.project import Project
from altana.jobs.following import JournalFollower
from altana.jobs.power import KEEP_ON_FILE, SWITCH_OFF_FILE
from altana.jobs.run import ORDER_FILE, PAUSE_FILE
from altana.jobs.tracing import ENOUGH_FILE
from altana.storage.cache import cache_folder
from altana.storage.files import make_folder, write_atomically
from altana.storage.project_file import write_project

POLL_MS = 200
WAITING, DRAWING, MADE, ASIDE = "waiting", "drawing", "made", "set aside"
#: What happens when all is made.
NOTHING, NOTIFY, CLOSE, COMMAND, OFF = "nothing", "notify", "close", "command", "off"
ENDS = {
    NOTHING: "Nothing",
    NOTIFY: "Say so",
    CLOSE: "Close Altana",
    OFF: "Switch the machine off",
    COMMAND: "Run a command…",
}


@dataclass(slots=True)
class Piece:
    """What is known of one file: its state, the share done, how long it took, and why it was set aside."""

    state: str = WAITING
    share: float = 0.0
    took: float = 0.0
    sentence: str = ""


@dataclass(slots=True)
class State:
    """A run as its journal tells it."""

    pieces: dict[str, Piece] = field(default_factory=dict)
    share: float = 0.0
    label: str = ""
    #: How far the piece in hand is.
    part: float = 0.0
    paused: str = ""
    ended: str = ""
    sentence: str = ""
    process: int = 0
    #: Seconds since the process began, by its last line.
    spent: float = 0.0
    #: All is made and the machine is about to be switched off: what is said of it; empty while that is not so.
    off: str = ""

    def take(self, event: dict[str, Any]) -> None:
        """One line of the journal."""
        kind, file = event.get("event"), str(event.get("file", ""))
        self.spent = float(event.get("seconds", self.spent))
        if kind == "start":
            self.process, self.ended, self.paused = int(event.get("process", 0)), "", ""
        elif kind == "progress":
            self.share, self.label, self.part = (
                float(event["share"]),
                str(event["label"]),
                float(event.get("part", 0.0)),
            )
        elif kind == "begin":
            self.pieces.setdefault(file, Piece()).state = DRAWING
        elif kind == "piece":
            piece = self.pieces.setdefault(file, Piece())
            piece.state, piece.share, piece.took = MADE, 1.0, float(event.get("took", 0.0))
        elif kind == "aside":
            piece = self.pieces.setdefault(file, Piece())
            piece.state, piece.sentence = ASIDE, str(event.get("sentence", ""))
        elif kind == "paused":
            self.paused = str(event.get("sentence", "Paused."))
        elif kind == "going":
            self.paused = ""
        elif kind == "off":
            self.off = str(event.get("sentence", ""))
            if float(event.get("left", 0.0)) <= 0.0:
                self.sentence, self.off = self.off, ""
        elif kind in ("done", "failed", "cancelled"):
            self.ended, self.sentence = str(kind), str(event.get("sentence", ""))

    def count(self, state: str) -> int:
        """How many files are in a state."""
        return sum(piece.state == state for piece in self.pieces.values())


class Production(QObject):
    """One run of a project's shot list; ``changed`` when something happened, ``ended(good, sentence)`` at its end."""

    changed = Signal()
    ended = Signal(bool, str)

    def __init__(self) -> None:
        super().__init__()
        self.state = State()
        self.out = Path()
        self.end_action, self.end_command = NOTHING, ""
        self._process: subprocess.Popen[bytes] | None = None
        self._job: Path | None = None
        self._journal: JournalFollower | None = None
        self._timer = QTimer(self)
        self._timer.setInterval(POLL_MS)
        self._timer.timeout.connect(self.follow)

    # ------------------------------------------------------------------ starting

    @staticmethod
    def job_of(project_path: Path) -> Path:
        """Where the job of a project lies."""
        name = hashlib.blake2b(str(project_path.resolve()).encode(), digest_size=8).hexdigest()
        return cache_folder() / "jobs" / name

    @property
    def running(self) -> bool:
        """Whether a run goes on, paused or not."""
        return self._timer.isActive()

    @property
    def paused(self) -> bool:
        """Whether a pause is asked for."""
        return self._job is not None and (self._job / PAUSE_FILE).exists()

    def start(
        self,
        project: Project,
        project_path: Path,
        out: Path,
        shots: list[tuple[str, str]],
        trial: bool = False,
    ) -> None:
        """Start making rows (id, file) into a folder.  Raises UserError."""
        if self.running:
            raise UserError("Something is being made already. Wait for it, or cancel it.")
        job = self.job_of(project_path)
        shutil.rmtree(job, ignore_errors=True)
        make_folder(job)
        write_project(job / "project.altana", project)
        wanted = {
            "out": str(out),
            "base": str(project_path.parent),
            "shots": [shot_id for shot_id, _ in shots],
            "files": [file for _, file in shots],
            "trial": trial,
        }
        write_atomically(job / "wanted.json", json.dumps(wanted).encode())
        self._launch(job, wanted, resume=False)

    def _launch(self, job: Path, wanted: dict[str, Any], resume: bool) -> None:
        command = [
            sys.executable,
            "-m",
            "altana",
            "render",
            str(job / "project.altana"),
            "--base",
            wanted["base"],
        ]
        command += ["--out", wanted["out"], "--job", str(job), "--json"]
        for shot_id in wanted["shots"]:
            command += ["--shot", shot_id]
        command += ["--test"] if wanted.get("trial") else []
        command += ["--resume"] if resume else []
        if self.end_action == COMMAND and self.end_command:
            command += ["--after", self.end_command]
        (job / PAUSE_FILE).unlink(missing_ok=True)
        with (job / "stdout").open("wb") as said, (job / "stderr").open("wb") as wrong:
            # A session of its own: it lives on when the window is closed.
            self.choose_off(self.end_action == OFF, job)
            self._process = subprocess.Popen(
                command, stdout=said, stderr=wrong, stdin=subprocess.DEVNULL, start_new_session=True
            )
        self._watch(job, wanted)
        if resume:
            # What an earlier turn of the same job ended with no longer counts.
            self.state.ended = ""

    def _watch(self, job: Path, wanted: dict[str, Any]) -> None:
        self._job, self.out, self._journal = job, Path(wanted["out"]), JournalFollower(job)
        self.state = State({file: Piece() for file in wanted["files"]})
        self._timer.start()
        self.changed.emit()

    def pick_up(self, project_path: Path) -> str:
        """Find a run of this project: "going" when it still goes on and is followed from now, "broken" when it was broken
        off and ``resume`` can go on with it, "" when there is none."""
        job = self.job_of(project_path)
        wanted = self._wanted(job)
        if wanted is None or self.running:
            return ""
        state = State({file: Piece() for file in wanted["files"]})
        for event in JournalFollower(job).events():
            state.take(event)
        if state.ended == "done" and not state.off:
            return ""
        if _alive(state.process, job):
            self._process = None
            self._watch(job, wanted)
            return "going"
        return "" if state.ended == "done" else "broken"

    def resume(self, project_path: Path) -> None:
        """Go on with a run that was broken off."""
        job = self.job_of(project_path)
        wanted = self._wanted(job)
        if wanted is not None and not self.running:
            self._launch(job, wanted, resume=True)

    @staticmethod
    def _wanted(job: Path) -> dict[str, Any] | None:
        try:
            made = json.loads((job / "wanted.json").read_text())
            return made if {"out", "base", "shots", "files"} <= set(made) else None
        except (OSError, ValueError, TypeError):
            return None

    # ------------------------------------------------------------------ steering

    def pause(self, on: bool) -> None:
        """Pause after the pass in hand, or go on."""
        if self._job is not None and self.running:
            if on:
                (self._job / PAUSE_FILE).touch()
            else:
                (self._job / PAUSE_FILE).unlink(missing_ok=True)
            self.changed.emit()

    def enough(self) -> None:
        """The final picture in hand has samples enough: it is cleaned and written as it is, and the run goes on."""
        if self._job is not None and self.running:
            (self._job / ENOUGH_FILE).touch()

    def choose_off(self, on: bool, job: Path | None = None) -> None:
        """Switch the machine off at the end, or not; it may still be chosen while a run goes on."""
        folder = job or (self._job if self.running else None)
        if folder is not None:
            (folder / KEEP_ON_FILE).unlink(missing_ok=True)
            if on:
                (folder / SWITCH_OFF_FILE).touch()
            else:
                (folder / SWITCH_OFF_FILE).unlink(missing_ok=True)

    def keep_on(self) -> None:
        """The machine stays on after all."""
        if self._job is not None:
            (self._job / KEEP_ON_FILE).touch()

    def cancel(self) -> None:
        """Stop; what is finished stays.  While the machine is about to be switched off: it stays on."""
        if self.state.off:
            self.keep_on()
            return
        process = self._process.pid if self._process is not None else self.state.process
        if (
            self.running
            and process
            and self._job is not None
            and (self._process is not None or _alive(process, self._job))
        ):
            (self._job / PAUSE_FILE).unlink(missing_ok=True)
            os.kill(process, signal.SIGTERM)

    def prefer(self, files: list[str]) -> None:
        """Ask for these files in this order, before all others."""
        if self._job is not None and self.running:
            write_atomically(self._job / ORDER_FILE, json.dumps(files).encode())

    # ------------------------------------------------------------------ following

    def follow(self) -> None:
        """Read what the journal has to say since the last time."""
        if self._job is None or self._journal is None:
            return
        events = self._journal.events()
        for event in events:
            self.state.take(event)
        drawing = next((piece for piece in self.state.pieces.values() if piece.state == DRAWING), None)
        if drawing is not None:
            drawing.share = min(1.0, max(0.0, self.state.part))
        alive = (
            self._process.poll() is None
            if self._process is not None
            else _alive(self.state.process, self._job)
        )
        if events:
            self.changed.emit()
        if not alive and not events:
            self._finish()

    @property
    def left_s(self) -> float:
        """Seconds that are probably left; -1 while that is not known."""
        spent, share = self.state.spent, self.state.share
        return spent / share - spent if share > 0.01 and spent > 3.0 and not self.state.paused else -1.0

    def _finish(self) -> None:
        self._timer.stop()
        self._process = None
        state, aside = self.state, self.state.count(ASIDE)
        made = state.count(MADE)
        if state.ended == "done":
            more = f" {aside} {'was' if aside == 1 else 'were'} set aside." if aside else ""
            off = f" {state.sentence}" if state.sentence else ""
            self.ended.emit(
                not aside, f"{made} {'file' if made == 1 else 'files'} made in {self.out}.{more}{off}"
            )
        elif state.ended == "cancelled":
            self.ended.emit(False, f"Stopped. {made} files were finished and are kept in {self.out}.")
        else:
            said = ""
            if self._job is not None and (self._job / "stderr").is_file():
                lines = (self._job / "stderr").read_text(errors="replace").strip().splitlines()
                said = lines[-1] if lines else ""
            sentence = (
                state.sentence
                or said
                or "The run came to a sudden end. What was made is kept; it can go on where it was."
            )
            self.ended.emit(False, sentence)
        self.changed.emit()

    def leave(self) -> None:
        """The window closes: the run goes on without it."""
        self._timer.stop()
        if self._process is not None:
            # The process goes on; nobody here waits for it any more.
            self._process.returncode = self._process.poll() or 0
            self._process = None


def _alive(process: int, job: Path) -> bool:
    """Whether a process is there and is this job's: numbers of processes are used again."""
    if process <= 0:
        return False
    try:
        return str(job).encode() in Path(f"/proc/{process}/cmdline").read_bytes()
    except OSError:
        return False
