"""A run: makes everything a request asks for, piece by piece, and keeps a journal.

The journal (``journal.jsonl`` in the job's folder) has one line an event; whoever watches the run reads it.  A
finished piece is renamed into place, so a run that was broken off has whole pieces or none, and the same request
started again with ``resume`` makes only what is missing.
"""

from __future__ import annotations

import json
import os
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from altana.core.errors import UserError
from altana.core.light.sky import sky_of
from altana.core.light.transport import Cancelled, LightMap
from altana.core.staging import Lookup
from altana.jobs.estimates import learn, pixels_of
from altana.jobs.film import FilmCheck, FilmWork
from altana.jobs.light import light_of
from altana.jobs.models import Opened
from altana.jobs.requests import Film, Request, Still, target
from altana.render.encode import still_bytes
from altana.render.renderer import QUALITIES, Renderer
from altana.storage.files import explain, make_folder, write_atomically

#: The share of a run that computing light takes in its progress.
LIGHT_SHARE = 0.15
Told = Callable[[float, str], None]


@dataclass(slots=True)
class Journal:
    """Appends events to the job's journal; without a folder it only passes progress on."""

    folder: Path | None
    told: Told | None = None
    started: float = field(default_factory=time.monotonic)

    def write(self, event: str, **facts: Any) -> None:
        """One line."""
        if self.folder is None:
            return
        line = json.dumps({"event": event, "seconds": round(time.monotonic() - self.started, 2), **facts})
        with (self.folder / "journal.jsonl").open("a", encoding="utf-8") as file:
            file.write(line + "\n")

    def progress(self, share: float, label: str) -> None:
        """How far the run is, 0 to 1, and what it works on."""
        self.write("progress", share=round(share, 4), label=label)
        if self.told is not None:
            self.told(share, label)


@dataclass(slots=True)
class Run:
    """One run of a request.  ``stop`` is asked often; when it says True the run ends with Cancelled."""

    request: Request
    opened: Opened
    out: Path
    job: Path | None = None
    resume: bool = False
    stop: Callable[[], bool] = lambda: False
    told: Told | None = None
    journal: Journal = field(init=False)
    lookup: Lookup = field(init=False)
    _soft: LightMap | None = None
    written: list[Path] = field(default_factory=list)
    #: What the reading back of each film found, by file.
    checks: dict[str, FilmCheck] = field(default_factory=dict)

    def go(self) -> list[Path]:
        """Make everything; the files written.  Raises UserError or Cancelled."""
        self.lookup = Lookup(self.opened.model)
        make_folder(self.out)
        if self.job is not None:
            make_folder(self.job)
        self.journal = Journal(self.job, self.told)
        self.journal.write("start", digest=self.request.digest(), pieces=len(self.request.items), process=os.getpid())
        try:
            self._make()
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
        self.journal.write("done", files=[str(path) for path in self.written])
        return self.written

    def _make(self) -> None:
        left = [item for item in self.request.items if not self._finished(item)]
        if not left:
            return
        renderer = self._renderer()
        try:
            for number, item in enumerate(left):
                begin = LIGHT_SHARE + (1.0 - LIGHT_SHARE) * number / len(left)
                span = (1.0 - LIGHT_SHARE) / len(left)
                label = f"{item.name} ({number + 1} of {len(left)})"
                self.journal.progress(begin, label)
                started = time.monotonic()
                if isinstance(item, Still):
                    self._still(renderer, item, begin, span, label)
                else:
                    self._film(renderer, item, begin, span, label)
                if not self.resume:
                    learn(self.request.quality, time.monotonic() - started, pixels_of(item))
                self._note(item)
        finally:
            renderer.close()

    def _renderer(self) -> Renderer:
        # Whatever the quality, the light is the same: a picture must not depend on what happened to be kept.
        self._soft = light_of(self.opened, self.request.project.light, self._light_progress)
        return Renderer(self.opened.model, self._soft)

    def _light_progress(self, share: float) -> bool:
        self.journal.progress(share * LIGHT_SHARE, "Light")
        return not self.stop()

    def _finished(self, item: Still | Film) -> bool:
        path = target(self.out, item)
        if not (self.resume and self.job is not None and path.exists()):
            return False
        note = self.job / f"{item.file}.done"
        if note.is_file() and note.read_text() == self._mark(item):
            self.written.append(path)
            return True
        return False

    def _mark(self, item: Still | Film) -> str:
        return Request(self.request.project, (item,), self.request.quality).digest()

    def _note(self, item: Still | Film) -> None:
        self.written.append(target(self.out, item))
        self.journal.write("piece", file=item.file)
        if self.job is not None:
            write_atomically(self.job / f"{item.file}.done", self._mark(item).encode())

    def _still(self, renderer: Renderer, item: Still, begin: float, span: float, label: str) -> None:
        def progress(share: float) -> bool:
            self.journal.progress(begin + span * share, label)
            return not self.stop()

        pixels = renderer.picture(
            item.view(),
            sky_of(self.request.project.light),
            item.camera.ev,
            QUALITIES[self.request.quality],
            item.camera.inside,
            progress,
            self.lookup.staging(self.request.project, item.camera),
        )
        if pixels is None:
            raise Cancelled
        kind = Path(item.file).suffix.lstrip(".")
        write_atomically(target(self.out, item), still_bytes(pixels, kind, item.camera.name), "Pictures made before are kept.")

    def _film(self, renderer: Renderer, item: Film, begin: float, span: float, label: str) -> None:
        def progress(share: float, text: str) -> bool:
            self.journal.progress(begin + span * share, f"{label}, {text}")
            return not self.stop()

        work = FilmWork(self.request.project, self.request.quality, item, self.opened, self.lookup, renderer, self.out, progress)
        try:
            made = work.make(self._frames_folder(item))
        finally:
            if self._soft is not None:
                # A film whose sun moved left another light behind.
                renderer.relight(self._soft.pixels)
        self.written += made.beside
        self.checks[item.file] = made.check
        self.journal.write("checked", file=item.file, **made.check.facts())

    def _frames_folder(self, item: Film) -> Path:
        base = self.job if self.job is not None else self.out
        folder = base / f".frames-{Path(item.file).stem}-{self._mark(item)}"
        if folder.is_dir() and not self.resume:
            for path in folder.iterdir():
                path.unlink()
        return make_folder(folder)
