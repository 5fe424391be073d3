"""A run that may be added to while it goes on: further orders lie in its job's folder and are made by the
same process.

An order is a file in ``more``: rows of a project as it was then, a copy of which lies beside it.  Whoever
adds one writes it whole and renames it into place.  What is wanted first (``job_files.ORDER_FILE``) goes
before everything else, whichever order it belongs to.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any

import msgspec

from altana.core.errors import UserError
from altana.core.project import Project
from altana.jobs.added import Added, orders_left
from altana.jobs.film_check import FilmCheck
from altana.jobs.job_files import first_wanted
from altana.jobs.models import Opened
from altana.jobs.requests import Request
from altana.jobs.run import Run
from altana.jobs.shotlist import chosen_rows, rows_of, shot_request, trial
from altana.storage.project_file import read_project

_ADDED = msgspec.json.Decoder(Added)


def request_of(added: Added, project: Project, opened: Opened, like: Request) -> Request:
    """The request that an order makes.  like : the first one of the run.  Raises UserError."""
    rows = chosen_rows(rows_of(project, opened.model), added.shots)
    request = trial(rows, project) if added.trial else shot_request(rows, project, added.quality)
    return replace(request, of=like.of, passes=like.passes)


@dataclass(slots=True)
class Batch:
    """Makes the first request of a run, and all that is added to it."""

    first: Run
    open_models: Callable[[Project], Opened]
    written: list[Path] = field(default_factory=list)
    checks: dict[str, FilmCheck] = field(default_factory=dict)
    aside: dict[str, str] = field(default_factory=dict)
    _pending: dict[str, Run] = field(default_factory=dict)

    def go(self) -> None:
        """Make everything.  Raises UserError or Cancelled, as ``Run.go`` does."""
        self._pending[""] = self.first
        self._look()
        while self._pending:
            name = self._next()
            run = self._pending[name]
            run.gives_way, run.passes_on = self._gives_way, self._passes_on
            try:
                done = run.go()
            finally:
                self._collect(run)
            if done is not None:
                del self._pending[name]
                if name:
                    Path(name).rename(Path(name).with_suffix(".done"))
            else:
                # What is made already is not made again.
                self._pending[name] = replace_run(run)
            self._look()

    def _collect(self, run: Run) -> None:
        self.written += [path for path in run.written if path not in self.written]
        self.checks |= run.checks
        self.aside |= run.aside

    def _look(self) -> None:
        """Take in what was added."""
        job = self.first.job
        for path in orders_left(job) if job is not None else ():
            if str(path) not in self._pending:
                run = self._run_of(path)
                if run is not None:
                    self._pending[str(path)] = run

    def _run_of(self, path: Path) -> Run | None:
        try:
            added = _ADDED.decode(path.read_bytes())
            project = read_project(path.with_suffix(".altana"))
            known = self.first.request.project
            same = all(
                getattr(known, name) == getattr(project, name) for name in ("models", "patches", "light")
            )
            opened = self.first.opened if same else self.open_models(project)
            request = request_of(added, project, opened, self.first.request)
        except (OSError, msgspec.MsgspecError, UserError) as error:
            sentence = (
                error.sentence if isinstance(error, UserError) else f"An order could not be read: {error}."
            )
            self.aside[path.name] = sentence
            path.rename(path.with_suffix(".done"))
            return None
        return replace_run(self.first, request, opened)

    def _next(self) -> str:
        """The order whose turn it is: the one with the file that is wanted first, else the oldest."""
        job = self.first.job
        files = {name: [item.file for item in run.request.items] for name, run in self._pending.items()}
        for file in first_wanted(job):
            for name, own_files in files.items():
                if file in own_files and file not in self._made:
                    return name
        return next(iter(self._pending))

    @property
    def _made(self) -> set[str]:
        out = self.first.out
        return {path.relative_to(out).as_posix() for path in self.written if path.is_relative_to(out)}

    def _gives_way(self, run: Run, left: set[str]) -> bool:
        """Whether another order has something that is wanted before all that a run has left."""
        self._look()
        self._collect(run)
        others = {
            item.file
            for waiting_run in self._pending.values()
            if waiting_run is not run
            for item in waiting_run.request.items
        } - self._made
        for file in first_wanted(self.first.job):
            if file in left:
                return False
            if file in others:
                return True
        return False

    def _passes_on(self, run: Run, file: str) -> bool:
        """Whether a later order has the same file: it is made only once, as it was ordered last."""
        runs = list(self._pending.values())
        later = runs[next(place for place, other in enumerate(runs) if other is run) + 1 :]
        return any(item.file == file for other in later for item in other.request.items)


def replace_run(run: Run, request: Request | None = None, opened: Opened | None = None) -> Run:
    """A run like another, of another request or of the rest of the same one; both share a journal."""
    new_run = Run(request or run.request, opened or run.opened, run.out, run.job, True, run.stop, run.telling)
    new_run.base, new_run.patient, new_run.off = run.base, run.patient, run.off
    new_run.machines, new_run.awake = run.machines, run.awake
    return new_run


def facts_of(batch: Batch) -> dict[str, Any]:
    """What was made, as ``--json`` prints it."""
    return {
        "files": [str(path) for path in batch.written],
        "checks": {name: check.facts() for name, check in batch.checks.items()},
        "aside": batch.aside,
    }
