"""A run: makes everything a request asks for, piece by piece, and keeps a journal.

The journal (``journal.jsonl`` in the job's folder) has one line an event; whoever watches the run reads it.  A
finished piece is renamed into place, so a run that was broken off has whole pieces or none, and the same request
started again with ``resume`` makes only what is missing.
"""

from __future__ import annotations

import json
import os
import shutil
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

from altana.core.conventions import parse_rate
from altana.core.errors import UserError
from altana.core.light.sky import sky_of
from altana.core.light.transport import Cancelled
from altana.core.staging import Lookup
from altana.core.standing import standable
from altana.core.walk.sample import WalkSamples, resolve, sample
from altana.jobs.light import light_of
from altana.jobs.models import Opened
from altana.jobs.requests import Film, Request, Still, target
from altana.render.encode import Pixels, contact_strip, film_facts, still_bytes, write_film
from altana.render.renderer import QUALITIES, Renderer
from altana.storage.files import explain, make_folder, write_atomically

#: The share of a run that computing light takes in its progress.
LIGHT_SHARE = 0.15
#: A strip is for a quick look; more pictures than these are no longer one.
MOST_IN_A_STRIP = 200
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
    written: list[Path] = field(default_factory=list)

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
                if isinstance(item, Still):
                    self._still(renderer, item, begin, span, label)
                else:
                    self._film(renderer, item, begin, span, label)
                self._note(item)
        finally:
            renderer.close()

    def _renderer(self) -> Renderer:
        # Whatever the quality, the light is the same: a picture must not depend on what happened to be kept.
        light = light_of(self.opened, self.request.project.light, self._light_progress)
        return Renderer(self.opened.model, light)

    def _light_progress(self, share: float) -> bool:
        self.journal.progress(share * LIGHT_SHARE, "Light")
        return not self.stop()

    def _finished(self, item: Still | Film) -> bool:
        path = target(self.out, item)
        if not (self.resume and self.job is not None and path.is_file()):
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
        rate = item.film_rate
        line = resolve(item.walk, standable(self.opened.model))
        samples = sample(line, parse_rate(item.rate))
        numbers = item.frames
        frames = self._frames_folder(item)
        sky = sky_of(self.request.project.light)
        for made, number in enumerate(numbers):
            if self.stop():
                raise Cancelled
            self.journal.progress(begin + span * 0.9 * made / len(numbers), f"{label}, film frame {made + 1} of {len(numbers)}")
            if not _frame_path(frames, number).is_file():
                self._frame(renderer, item, samples, number, sky, frames)
        self.journal.progress(begin + span * 0.9, f"{label}, writing the film")
        final = target(self.out, item)
        part = final.with_name(f".{final.name}.part")
        try:
            write_film(part, self._read_frames(frames, numbers), rate, item.width_px, item.height_px, item.container, self.request.quality)
            facts = film_facts(part)
            if facts.frames != len(numbers) or abs(facts.rate - rate) > rate / 1000:
                raise UserError(
                    f"{final.name} read back with {facts.frames} of {len(numbers)} frames and was not kept. The frames are in {frames}; start again with --resume."
                )
            os.replace(part, final)
        finally:
            part.unlink(missing_ok=True)
        self._beside(item, frames)
        for path in frames.iterdir():
            path.unlink()
        frames.rmdir()

    def _beside(self, item: Film, frames: Path) -> None:
        """The contact strip and the kept film frames."""
        final = target(self.out, item)
        if item.part.strip_every:
            chosen = item.frames[:: item.part.strip_every][:MOST_IN_A_STRIP]
            rate = parse_rate(item.rate)
            pictures = zip(
                self._read_frames(frames, chosen), (f"{float(number / rate):.2f} s   frame {number}" for number in chosen), strict=True
            )
            path = final.with_name(f"{Path(item.file).stem}-strip.png")
            write_atomically(
                path, still_bytes(contact_strip(pictures, len(chosen)), "png", f"{item.name}: contact strip"), "The film is kept."
            )
            self.written.append(path)
        if item.part.keep_frames:
            kept = make_folder(final.with_name(f"{Path(item.file).stem}-frames"))
            for old in kept.glob("[0-9]" * 6 + ".png"):
                old.unlink()
            for number in item.frames:
                path = _frame_path(frames, number)
                shutil.move(path, kept / path.name)
            self.written.append(kept)

    def _frames_folder(self, item: Film) -> Path:
        base = self.job if self.job is not None else self.out
        folder = base / f".frames-{Path(item.file).stem}-{self._mark(item)}"
        if folder.is_dir() and not self.resume:
            for path in folder.iterdir():
                path.unlink()
        return make_folder(folder)

    def _frame(self, renderer: Renderer, item: Film, samples: WalkSamples, number: int, sky: Any, frames: Path) -> None:
        view = samples.view(number, item.width_px, item.height_px)
        staging = self.lookup.for_walk(self.request.project, item.walk)
        pixels = renderer.picture(
            view, sky, float(samples.ev[number]), QUALITIES[self.request.quality], samples.ev[number] < 12.5, None, staging
        )
        assert pixels is not None
        write_atomically(_frame_path(frames, number), still_bytes(pixels, "png", fast=True), "Frames made before are kept.")

    def _read_frames(self, frames: Path, numbers: range) -> Iterator[Pixels]:
        for number in numbers:
            if self.stop():
                raise Cancelled
            with Image.open(_frame_path(frames, number)) as image:
                yield np.asarray(image.convert("RGB"))


def _frame_path(frames: Path, number: int) -> Path:
    return frames / f"{number:06d}.png"
