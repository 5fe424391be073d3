"""The unattended run of the shot list: a process of its own that outlives the window, steered and followed by
files.

The job lies in the cache, one folder a project: a copy of the project as it was ordered, the arguments, the
journal. Opening the project again finds a run that is still going, or one that was broken off and can go on.
"""

from __future__ import annotations

import hashlib
import json
import os
import shutil
import signal
import subprocess
import sys
from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QObject, QTimer, Signal

from altana.app.theme.words import tr
from altana.app.workspace.ordered import HERE, Ordered, read_ordered, write_ordered
from altana.core.project import Project
from altana.jobs.added import Added, add_order, orders_left
from altana.jobs.following import ASIDE, DRAWING, MADE, WAITING, JournalFollower, Piece, State
from altana.jobs.job_files import (
    ENOUGH_FILE,
    KEEP_ON_FILE,
    ORDER_FILE,
    OUT_FILE,
    PAUSE_FILE,
    SWITCH_OFF_FILE,
    not_wanted,
)
from altana.storage.cache import cache_folder
from altana.storage.files import make_folder, write_atomically
from altana.storage.project_file import write_project

POLL_MS = 200
#: What happens when all is made.
NOTHING, NOTIFY, CLOSE, COMMAND, OFF = "nothing", "notify", "close", "command", "off"
ENDS = {
    NOTHING: tr("Nothing"),
    NOTIFY: tr("Say so"),
    CLOSE: tr("Close Altana"),
    OFF: tr("Switch the machine off"),
    COMMAND: tr("Run a command…"),
}


#: What is written into the job's folder once somebody has seen its end.
SEEN_FILE = "seen"


class Production(QObject):
    """One run of rows of a project's shot list; ``changed`` when something happened, ``ended(good,
    sentence)`` at its end.

    beside : what is added to the name of its job, where another run of the same project may go on.
    """

    changed = Signal()
    ended = Signal(bool, str)

    def __init__(self, beside: str = "") -> None:
        super().__init__()
        self._beside = beside
        self.state = State()
        self.out = Path()
        self.end_action, self.end_command = NOTHING, ""
        # Where it is made, and whether the machine is kept from falling asleep meanwhile.
        self.where, self.keep_awake = HERE, True
        self._process: subprocess.Popen[bytes] | None = None
        self._job: Path | None = None
        self._journal: JournalFollower | None = None
        self._timer = QTimer(self)
        self._timer.setInterval(POLL_MS)
        self._timer.timeout.connect(self.follow)

    # ------------------------------------------------------------------ starting

    @staticmethod
    def job_of(project_path: Path, beside: str = "") -> Path:
        """Where the job of a project lies."""
        name = hashlib.blake2b(str(project_path.resolve()).encode(), digest_size=8).hexdigest()
        return cache_folder() / "jobs" / (name + beside)

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
        quality: str = "",
    ) -> None:
        """Start making rows (id, file) into a folder, in this quality instead of their own where one is
        named; while a run goes on they are added to it.  Raises UserError."""
        if self.running:
            self._add(project, shots, trial, quality)
            return
        job = self.job_of(project_path, self._beside)
        shutil.rmtree(job, ignore_errors=True)
        make_folder(job)
        write_project(job / "project.altana", project, passing=True)
        ordered = Ordered(
            str(out),
            str(project_path.parent),
            tuple(shot_id for shot_id, _ in shots),
            tuple(file for _, file in shots),
            trial,
            quality,
            project_path.name,
            self.where,
        )
        write_ordered(job, ordered)
        self._launch(job, ordered, resume=False)

    def _add(self, project: Project, shots: list[tuple[str, str]], trial: bool, quality: str) -> None:
        """More rows for the run that goes on; what of them still waits in it is made only once, as it was
        ordered last."""
        job = self._job
        assert job is not None
        files = [file for _, file in shots]
        add_order(job, project, Added(tuple(shot_id for shot_id, _ in shots), trial, quality))
        gone = [file for file in not_wanted(job) if file not in files]
        write_atomically(job / OUT_FILE, json.dumps(gone).encode())
        ordered = read_ordered(job)
        if ordered is not None:
            more = tuple(file for file in files if file not in ordered.files)
            write_ordered(job, replace(ordered, files=(*ordered.files, *more)))
        for file in files:
            piece = self.state.pieces.setdefault(file, Piece())
            if piece.state != DRAWING:
                piece.state, piece.sentence = WAITING, ""
        self.changed.emit()

    def take_out(self, files: list[str]) -> None:
        """These files are not wanted any more; the one in hand is left off."""
        if self._job is not None and self.running:
            left = [
                file
                for file in files
                if (piece := self.state.pieces.get(file)) is not None and piece.state in (WAITING, DRAWING)
            ]
            names = [*not_wanted(self._job), *left]
            write_atomically(self._job / OUT_FILE, json.dumps(names).encode())

    def _launch(self, job: Path, ordered: Ordered, resume: bool) -> None:
        command = [sys.executable, "-m", "altana", "render", *ordered.words(job)]
        command += ["--resume"] if resume else []
        command += ["--awake"] if self.keep_awake else []
        if self.end_action == COMMAND and self.end_command:
            command += ["--after", self.end_command]
        for name in (PAUSE_FILE, SEEN_FILE):
            (job / name).unlink(missing_ok=True)
        with (job / "stdout").open("wb") as printed, (job / "stderr").open("wb") as wrong:
            # A session of its own: it lives on when the window is closed.
            self.choose_off(self.end_action == OFF, job)
            self._process = subprocess.Popen(
                command, stdout=printed, stderr=wrong, stdin=subprocess.DEVNULL, start_new_session=True
            )
        self._watch(job, ordered)
        if resume:
            # What an earlier turn of the same job ended with no longer counts.
            self.state.ended = ""

    def _watch(self, job: Path, ordered: Ordered) -> None:
        self._job, self.out, self._journal = job, Path(ordered.out), JournalFollower(job)
        self.state = State({file: Piece() for file in ordered.files})
        self._timer.start()
        self.changed.emit()

    def pick_up(self, project_path: Path) -> str:
        """Find a run of this project: "going" when it still goes on and is followed from now, "broken" when
        it was broken off and ``resume`` can go on with it, "over" when it came to its end and nobody has seen
        that yet; "" when there is none, or it was stopped by somebody."""
        job = self.job_of(project_path, self._beside)
        ordered = read_ordered(job)
        if ordered is None or self.running:
            return ""
        state = State({file: Piece() for file in ordered.files})
        for event in JournalFollower(job).events():
            state.take(event)
        if _alive(state.process, job) and not (
            state.ended == "done" and not state.off and not orders_left(job)
        ):
            self._process = None
            self._watch(job, ordered)
            return "going"
        if (job / SEEN_FILE).exists() or state.ended == "cancelled":
            return ""
        if state.ended == "done":
            self.state, self.out = state, Path(ordered.out)
            (job / SEEN_FILE).touch()
            return "over"
        return "broken"

    @property
    def summary(self) -> str:
        """What a run that is over came to."""
        return self.state.summary(self.out)

    def resume(self, project_path: Path) -> None:
        """Go on with a run that was broken off."""
        job = self.job_of(project_path, self._beside)
        ordered = read_ordered(job)
        if ordered is not None and not self.running:
            self._launch(job, ordered, resume=True)

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
        """The final picture in hand has samples enough: it is cleaned and written as it is, and the run goes
        on."""
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
        if self.state.ended == "done" and self._job is not None and orders_left(self._job):
            # Something was added just as the run came to its end.
            ordered = read_ordered(self._job)
            if ordered is not None:
                self._launch(self._job, ordered, resume=True)
                return
        if self._job is not None and self.state.ended in ("done", "cancelled"):
            (self._job / SEEN_FILE).touch()
        state, aside = self.state, self.state.count(ASIDE)
        count = state.count(MADE)
        if state.ended == "done":
            more = tr(" %n were set aside.", "", aside) if aside else ""
            off = f" {state.sentence}" if state.sentence else ""
            self.ended.emit(
                not aside,
                tr("%n files made in {out}.{more}{off}", "", count, out=self.out, more=more, off=off),
            )
        elif state.ended == "cancelled":
            self.ended.emit(
                False,
                tr(
                    "Stopped. %n files were finished; what was made is kept in {out}.",
                    "",
                    count,
                    out=self.out,
                ),
            )
        else:
            words = ""
            if self._job is not None and (self._job / "stderr").is_file():
                lines = (self._job / "stderr").read_text(errors="replace").strip().splitlines()
                words = lines[-1] if lines else ""
            sentence = (
                state.sentence
                or words
                or tr("The run came to a sudden end. What was made is kept; it can go on where it was.")
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
