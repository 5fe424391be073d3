"""A run: makes everything a request asks for, piece by piece, and keeps a journal.

The journal (``journal.jsonl`` in the job's folder) has one line an event; whoever watches the run reads it.
A finished piece is renamed into place, so a run that was broken off has whole pieces or none, and the same
request started again with ``resume`` makes only what is missing.
"""

from __future__ import annotations

import errno
import os
import shutil
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

from altana.core.errors import UserError
from altana.core.light.transport import Cancelled, LightMap
from altana.core.progress import Telling
from altana.core.staging import Lookup
from altana.jobs import power
from altana.jobs.elsewhere import Lent, Machines, MachinesGone
from altana.jobs.estimates import START_JOB, bytes_for, drawn_of, job_of, seconds_of
from altana.jobs.film_check import FilmCheck
from altana.jobs.finished import RunBooks
from altana.jobs.item_files import ItemFiles
from altana.jobs.job_files import PAUSE_FILE, first_wanted, not_wanted
from altana.jobs.journal import Journal
from altana.jobs.light import known_light, light_of
from altana.jobs.made import models_digest, note
from altana.jobs.models import Opened
from altana.jobs.paces import known_paces, learn, scene_of
from altana.jobs.picture import PictureWork
from altana.jobs.requests import Item, Request, target
from altana.jobs.rows.shared import Rows
from altana.render.renderer import Renderer
from altana.storage.files import explain, make_folder
from altana.storage.made import DIRECT

#: What computing the light counts for in the progress of a run, seconds, where it is not kept yet; opening
#: counts as what it took before.
LIGHT_S = 30.0
FULL = (errno.ENOSPC, errno.EDQUOT)
#: Room beyond what a piece needs, before a run that found the disk full goes on.
ROOM_BYTES = 1_000_000
TRIES = 3


@dataclass(slots=True)
class Run:
    """One run of a request.  ``stop`` is asked often; when it says True the run ends with Cancelled."""

    request: Request
    opened: Opened
    out: Path
    job: Path | None = None
    resume: bool = False
    stop: Callable[[], bool] = lambda: False
    telling: Telling | None = None
    journal: Journal = field(init=False)
    lookup: Lookup = field(init=False)
    _finished: RunBooks = field(init=False)
    _files: ItemFiles = field(init=False)
    _soft: LightMap | None = None
    _work: PictureWork | None = None
    written: list[Path] = field(default_factory=list)
    #: What the reading back of each film found, by file.
    checks: dict[str, FilmCheck] = field(default_factory=dict)
    #: Rows that could not be made, by file, with the reason in a sentence.
    aside: dict[str, str] = field(default_factory=dict)
    #: The project's folder, where background pictures lie.
    base: Path | None = None
    #: Whether a full disk is waited for.
    patient: bool = False
    #: Whether the machine is switched off afterwards; a file in the job's folder may ask for it as well.
    off: bool = False
    #: When its process began, seconds since the epoch, where opening is part of what it takes.
    begun: float | None = None
    #: Asked before every piece with the files left: whether something that is not of this run goes first.
    gives_way: Callable[[Run, set[str]], bool] | None = None
    #: Asked before a piece: whether it was ordered once more since, and is made then.
    passes_on: Callable[[Run, str], bool] | None = None
    #: Other machines, where they do the drawing.
    machines: Machines | None = None
    #: Whether the machine is kept from falling asleep meanwhile; only told.
    awake: bool = False
    _light_share: float = 0.0
    _in_hand: str = ""

    def switch_off(self, say: Callable[[str], None]) -> None:
        """What was chosen for the end: count down, and switch the machine off unless someone says no."""
        if not power.wanted(self.job, self.off):
            return

        def told(left_s: float, sentence: str) -> None:
            self.journal.write("off", left=round(left_s, 1), sentence=sentence)
            if left_s == 0.0 or round(left_s) % 10 == 0:
                say(sentence)

        power.switch_off(self.job, told, self.stop)

    def go(self) -> list[Path] | None:
        """Make everything; the files written, or None where it gave way to something else before its end.
        Raises UserError or Cancelled."""
        self.lookup = Lookup(self.opened.model)
        make_folder(self.out)
        if self.job is not None:
            make_folder(self.job)
        self.journal = Journal(self.job, self.telling)
        self.journal.write(
            "start",
            digest=self.request.digest(),
            pieces=len(self.request.items),
            process=os.getpid(),
            awake=self.awake,
        )
        try:
            if not self._make():
                return None
        except Cancelled:
            self.journal.write("cancelled", files=[str(path) for path in self.written])
            raise
        except UserError as error:
            self.journal.write("failed", sentence=error.sentence)
            raise
        except OSError as error:
            sentence = explain(error, self.out, "What was finished is kept.")
            self.journal.write("failed", sentence=sentence.sentence)
            raise sentence from error
        self.journal.write("done", files=[str(path) for path in self.written], aside=self.aside)
        return self.written

    def _make(self) -> bool:
        """Whether it came to its end."""
        self._finished = RunBooks(self.request, self.out, self.job, self.resume, self.journal)
        left = [item for item in self.request.items if not self._finished.holds(item)]
        self.written += [target(self.out, item) for item in self.request.items if item not in left]
        self._finished.tell(left)
        whole = len(left)
        if not left:
            return True
        expected = {id(item): max(0.1, self._expected_s(item)) for item in left}
        soon = known_light(self.opened, self.request.project.light) is not None
        first = known_paces().expected(START_JOB, self._scene).seconds if soon else LIGHT_S
        total = first + sum(expected.values())
        self._light_share = begin = first / total
        renderer = self._renderer()
        self._get_ready(renderer)
        if self.begun is not None and soon:
            learn(START_JOB, time.time() - self.begun, self._scene)
        lent = self._lend(left)
        try:
            while left:
                if self.gives_way is not None and self.gives_way(self, {item.file for item in left}):
                    return False
                item = self._next(left)
                if lent is not None:
                    lent.expect(sorted(left, key=self._place), self._finished.drawn_before)
                left.remove(item)
                if item.file in not_wanted(self.job):
                    self.journal.write("out", file=item.file)
                    continue
                if self.passes_on is not None and self.passes_on(self, item.file):
                    continue
                count = whole - len(left) - 1
                # Pieces count by what they are expected to take: a film is not done as soon as a still.
                span = expected[id(item)] / total
                self._piece(renderer, item, begin, span, f"{item.name} ({count + 1} of {whole})")
                begin += span
        finally:
            if lent is not None:
                lent.close()
            self._close_work()
            renderer.close()
        return True

    def _get_ready(self, renderer: Renderer) -> None:
        """What makes pictures, and what makes files of them."""
        self._work = PictureWork(
            Rows(
                self.request.project,
                self.opened,
                self.lookup,
                renderer,
                self.base or self.out,
                self._soft,
                self.out,
            )
        )
        self._work.rows.samples, self._work.rows.minutes = self.request.samples, self.request.minutes
        self._work.rows.job = self.job
        self._files = ItemFiles(
            self.request,
            self.opened,
            self.lookup,
            self.out,
            self._work,
            self._finished,
            self.journal,
            self._go_on,
            self.written,
            self.checks,
        )

    def _close_work(self) -> None:
        if self._work is not None:
            self._work.close()

    def _lend(self, left: list[Item]) -> Lent | None:
        """What other machines need for these items goes to them."""
        if self.machines is None or self._work is None:
            return None
        lent = self.machines.lend(self.request, self._work, left, self._light_progress, self.journal.write)
        self._work.rows.elsewhere = lent
        return lent

    def _expected_s(self, item: Item) -> float:
        return seconds_of(item, self.request.quality, self.request.project.qualities, scene=self._scene)

    @property
    def _scene(self) -> str:
        return scene_of(self.request.project)

    def _next(self, left: list[Item]) -> Item:
        """The piece that comes next: in the order that the job's folder asks for, if it does."""
        return min(left, key=self._place)

    def _place(self, item: Item) -> int:
        wanted = first_wanted(self.job)
        return wanted.index(item.file) if item.file in wanted else len(wanted)

    def _piece(self, renderer: Renderer, item: Item, begin: float, span: float, label: str) -> None:
        """Make one piece.  A full disk is waited for; a row of the shot list that fails is set aside, and the
        rest goes on."""
        tries = 0
        while True:
            self.journal.progress(begin, label)
            self.journal.write("begin", file=item.file)
            self._in_hand = item.file
            started, drawn_before = time.monotonic(), renderer.views_drawn
            if self._work is not None:
                self._work.rows.other_samples = False
            try:
                self._files.make(item, begin, span, label)
            except MachinesGone:
                raise
            except UserError as error:
                if isinstance(error.__cause__, OSError) and error.__cause__.errno in FULL and self.patient:
                    self._wait_for_room(error, item)
                    continue
                if self._alone:
                    self._remember(item, 0.0, error.sentence)
                    raise
                self._set_aside(item, error.sentence)
                return
            except Cancelled:
                if item.file in not_wanted(self.job) and not self.stop():
                    self.journal.write("out", file=item.file)
                    return
                raise
            except Exception as error:
                # Whatever went wrong inside, a night's other rows are not lost for it.
                tries += 1
                if tries < TRIES and not isinstance(error, MemoryError):
                    continue
                if self._alone and not isinstance(error, MemoryError):
                    raise
                self._set_aside(item, _not_made(item, error))
                return
            took = time.monotonic() - started
            self._learn(item, took, renderer.views_drawn - drawn_before)
            self.written.append(target(self.out, item))
            self._remember(item, took)
            self._finished.note(item, took)
            return

    def _learn(self, item: Item, took: float, drawn: int) -> None:
        """Only what was drawn from beginning to end says how long drawing takes: not what was resumed, nor
        what was only toned.

        drawn : so many pictures were drawn for it now.
        """
        qualities = self.request.project.qualities
        pictures, _ = drawn_of(item, self.request.quality, qualities)
        if not self.resume and drawn >= pictures and not self._own_samples():
            learn(job_of(item, self.request.quality, qualities), took, self._scene)

    @property
    def _alone(self) -> bool:
        """Whether one thing was asked for: then there is nothing that could go on without it."""
        return self.request.way == DIRECT and len(self.request.items) == 1

    def _own_samples(self) -> bool:
        """Whether an item got other samples than its row says: its time says nothing of others."""
        return bool(
            self.request.samples or self.request.minutes or (self._work and self._work.rows.other_samples)
        )

    def _set_aside(self, item: Item, sentence: str) -> None:
        self.aside[item.file] = sentence
        self.journal.write("aside", file=item.file, sentence=sentence)
        self._remember(item, 0.0, sentence)

    def _remember(self, item: Item, took_s: float, sentence: str = "") -> None:
        """Into the list of everything ever made, beside the project."""
        if self.base is not None and self.request.of:
            models = models_digest(self.request.project, self.base)
            note(self.request, item, self.out, self.base, models, took_s, sentence)

    def _wait_for_room(self, error: UserError, item: Item) -> None:
        """Pause until the disk has room again, or the run is stopped."""
        sentence = f"{error.sentence} Waiting for room in {self.out}; what was made is kept."
        self.journal.write("paused", sentence=sentence)
        needed = int(bytes_for(item, self.request.quality)) + ROOM_BYTES
        while shutil.disk_usage(self.out).free < needed:
            if self.stop():
                raise Cancelled
            time.sleep(0.25)
        self.journal.write("going", file=item.file)

    def _go_on(self) -> bool:
        """Whether to go on; while the job's folder asks for a pause, nothing is done."""
        if self.job is not None and (self.job / PAUSE_FILE).exists():
            self.journal.write("paused", sentence="Paused.")
            while (self.job / PAUSE_FILE).exists() and not self.stop():
                time.sleep(0.1)
            self.journal.write("going")
        return not self.stop() and self._in_hand not in not_wanted(self.job)

    def _renderer(self) -> Renderer:
        # Whatever the quality, the light is the same: a picture must not depend on what happened to be kept.
        self._soft = light_of(
            self.opened, self.request.project.light, self._light_progress, self.base or self.out
        )
        return Renderer(self.opened.model, self._soft)

    def _light_progress(self, share: float) -> bool:
        self.journal.progress(share * self._light_share, "Light")
        return not self.stop()


def _not_made(item: Item, error: Exception) -> str:
    reason = (
        "there was not enough memory"
        if isinstance(error, MemoryError)
        else f"{type(error).__name__}: {error}"
    )
    return f"{item.name} could not be made: {reason}. The others are. Try it smaller, or on its own."
