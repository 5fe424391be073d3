"""One film: its frames are drawn first, and written into the film while further ones are drawn; then the file
is read back.

Frames lie in the job's folder, each renamed into place when it is whole, so that a run that was broken off
goes on with those it has.  The encoder runs beside the renderer in its own thread and reads the frames from
there in order: whatever was drawn earlier, the film's bytes are the same.
"""

from __future__ import annotations

import filecmp
import os
import shutil
from collections.abc import Hashable, Iterator
from dataclasses import dataclass, field, replace
from datetime import date
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

from altana.core.camera.view import View
from altana.core.conventions import Floats32, parse_rate
from altana.core.light.clock import hour_words
from altana.core.light.own import light_for
from altana.core.light.transport import Cancelled
from altana.core.progress import NamedProgress, Progress
from altana.core.project import FILM, Light, Project, Shot
from altana.core.staging import Lookup, Staging
from altana.core.standing import standable
from altana.core.walk.sample import WalkLine, WalkSamples, resolve, sample
from altana.jobs.film_calm import Calming
from altana.jobs.film_check import FilmCheck
from altana.jobs.film_encoding import Encoding
from altana.jobs.film_files import drop, frame_path, keep_before, put_sequence
from altana.jobs.film_reading import CHECK_SHARE, FilmReading
from altana.jobs.light import MovingLight, moving_light
from altana.jobs.models import Opened
from altana.jobs.picture import PictureWork
from altana.jobs.requests import Film, target
from altana.jobs.rows.shared import quality_of
from altana.jobs.surroundings import sky_for
from altana.render.encode import Pixels, contact_strip, exr_bytes, stamped, still_bytes
from altana.render.quality import Quality
from altana.render.renderer import Renderer
from altana.storage.files import make_folder, write_atomically

#: A strip is for a quick look; more pictures than these are no longer one.
MOST_IN_A_STRIP = 200
#: So many film frames are kept in memory for the encoder.
MOST_FRESH = 6
INSIDE_EV = 12.5


@dataclass(frozen=True, slots=True)
class FilmResult:
    """What a film left: files beside it, and its check."""

    beside: tuple[Path, ...]
    check: FilmCheck


@dataclass(slots=True)
class FilmWork:
    """Makes one film.  ``progress(share, text)`` is called often; when it says False the work ends with
    Cancelled."""

    project: Project
    quality: str
    item: Film
    opened: Opened
    lookup: Lookup
    renderer: Renderer
    out: Path
    progress: NamedProgress
    pictures: PictureWork | None = None
    line: WalkLine = field(init=False)
    samples: WalkSamples = field(init=False)
    light: MovingLight | None = field(init=False)
    _fresh: dict[int, Pixels] = field(default_factory=dict)
    #: How far the work is.
    _share: float = 0.0
    #: The last traced film frame: while camera and light stand still it is the same.
    _standing: tuple[Hashable, bytes] | None = None

    def make(self, frames: Path) -> FilmResult:
        """Draw, encode, check; ``frames`` is the folder that film frames go to.  Raises UserError or
        Cancelled."""
        item = self.item
        self.prepare()
        if item.sequence:
            self._draw(frames, None)
            check = FilmReading(self, frames).sequence()
            beside = self._strip(frames)
            put_sequence(frames, item, target(self.out, item))
            return FilmResult(beside, check)
        final = target(self.out, item)
        part = final.with_name(f".{final.name}.part")
        try:
            encoding = Encoding(self, part, frames)
            self._draw(frames, encoding)
            encoding.wait(
                lambda share: self.progress(1.0 - CHECK_SHARE * 2 + CHECK_SHARE * share, "writing the film")
            )
            check = FilmReading(self, frames).film(part)
            if final.is_file() and not filecmp.cmp(final, part, shallow=False):
                keep_before(final)
            os.replace(part, final)
        finally:
            part.unlink(missing_ok=True)
        beside = (*self._strip(frames), *self._kept(frames))
        drop(frames)
        return FilmResult(beside, check)

    def prepare(self) -> None:
        """Find where the camera is at each film frame, and the light of each.  Raises UserError or
        Cancelled."""
        self.line = resolve(self.item.walk, standable(self.opened.model))
        self.samples = sample(self.line, parse_rate(self.item.rate))
        frames = list(self.item.frames)
        self.light = moving_light(
            self.opened,
            self._still_light,
            (self.samples.hour[frames], self.samples.lamps[frames]),
            lambda share: self.progress(0.1 * share, "light"),
            self._base,
            None if self.pictures is None else self.pictures.rows.lighting,
        )

    # ------------------------------------------------------------------ frames

    def _draw(self, frames: Path, encoding: Encoding | None) -> None:
        numbers = self.item.frames
        calming = Calming(self, frames) if self.traced else None
        try:
            for place, number in enumerate(numbers):
                begun = 0.1 if self.light else 0.0
                self._share = begun + (1.0 - begun - 2 * CHECK_SHARE) * place / len(numbers)
                if not self.progress(self._share, f"film frame {place + 1} of {len(numbers)}"):
                    raise Cancelled
                if not self.path(frames, number).is_file():
                    if calming is None:
                        data = self.as_it_came(number)
                    else:
                        data, pixels = calming.frame(place)
                        self._keep_fresh(number, pixels)
                    write_atomically(self.path(frames, number), data, "Frames made before are kept.")
                if encoding is not None:
                    encoding.ready(place + 1)
        except BaseException:
            if encoding is not None:
                encoding.stop()
            raise

    def path(self, frames: Path, number: int) -> Path:
        """Where a film frame lies."""
        return frame_path(frames, self.item, number)

    @property
    def traced(self) -> bool:
        """Whether the light of its frames is followed to its end: they are calmed then, each by its
        neighbours."""
        return self.pictures is not None and self.pictures.tracer.traced(self._row, film=True)

    def as_it_came(self, number: int) -> bytes:
        """A film frame as its file, made here or elsewhere; a traced one as it is for itself.  Raises
        UserError or Cancelled."""
        if self.pictures is None or self.pictures.rows.elsewhere is None:
            return self.frame_bytes(number)
        return self.pictures.rows.elsewhere.frame(self.item, number, self._going_on(number))

    def _going_on(self, number: int) -> Progress:
        return lambda _: self.progress(self._share, f"film frame {number}")

    def frame_bytes(self, number: int) -> bytes:
        """A film frame as its file, after ``prepare``; a traced one is not calmed.  Raises UserError or
        Cancelled."""
        item = self.item
        view = self.samples.view(number, item.width_px, item.height_px)
        if not self.traced:
            return self._frame_bytes(view, number)
        key = (view, float(self.samples.ev[number]), self._light_at(number))
        if self._standing is None or self._standing[0] != key:
            self._standing = key, self._frame_bytes(view, number)
        return self._standing[1]

    def _frame_bytes(self, view: View, number: int) -> bytes:
        item = self.item
        if item.sequence == "exr":
            return exr_bytes(self._light(view, number), f"{item.name}, frame {number}")
        pixels = self.picture(view, number)
        if self.traced:
            return still_bytes(pixels, "png", fast=True)
        if item.sequence:
            return still_bytes(self.stamped(pixels, number), item.sequence, f"{item.name}, frame {number}")
        self._keep_fresh(number, pixels)
        return still_bytes(pixels, "png", fast=True)

    def _keep_fresh(self, number: int, pixels: Pixels | None) -> None:
        """The encoder takes it from here instead of reading the file again, if it comes in time."""
        if pixels is not None:
            self._fresh[number] = pixels
        for old in sorted(self._fresh)[:-MOST_FRESH]:
            self._fresh.pop(old, None)

    @property
    def _still_light(self) -> Light:
        """The sun where it is not keyed: the row's hour, or the project's."""
        return light_for(self.project.light, None, self.item.shot)

    def _lit(self, number: int) -> Any:
        """The sky of a film frame; the soft light goes with it."""
        if self.light is None:
            light = self._light_at(number)
            if self.pictures is not None:
                return self.pictures.rows.sky(light, lambda share: self.progress(0.0, "light"))
            return sky_for(light, self._base)
        light, pixels = self.light.at(self.samples.light(number))
        self.renderer.relight(pixels)
        return sky_for(light, self._base)

    def staging(self) -> Staging:
        """What the walk's film shows, less what its row leaves out."""
        staging = self.lookup.for_walk(self.project, self.item.walk)
        shot = self.item.shot
        if shot is None or not shot.left_out:
            return staging
        return replace(
            staging, omitted=tuple(sorted({*staging.omitted, *self.lookup.numbers([shot.left_out])}))
        )

    @property
    def _quality(self) -> Quality:
        return quality_of(self.project.qualities.of(self.quality), film=True)

    @property
    def _base(self) -> Path:
        return self.pictures.rows.base if self.pictures is not None else self.out

    @property
    def _row(self) -> Shot:
        """The film's row; a film straight from its walk is drawn as the Frame shows it."""
        return self.item.shot or Shot("", FILM, self.item.walk.id, quality=self.quality)

    def _light_at(self, number: int) -> Light:
        """The light of a film frame: its sun moves and its lamps are dimmed where that is keyed."""
        return self.samples.light(number).of(self._still_light)

    def picture(self, view: View, number: int) -> Pixels:
        """A film frame as it is drawn, through any view, in the light of its moment."""
        ev = float(self.samples.ev[number])
        if self.pictures is not None and self.pictures.film_frames.special(self._row):
            item = replace(self.item, shot=self._row)
            return self.pictures.film_frames.film_frame(
                item,
                view,
                ev,
                self._lit(number),
                self.staging(),
                self._light_at(number),
                self._going_on(number),
            )
        staging = self.staging()
        pixels = self.renderer.picture(
            view, self._lit(number), ev, self._quality, ev < INSIDE_EV, None, staging
        )
        assert pixels is not None
        return pixels

    def _light(self, view: View, number: int) -> Floats32:
        ev = float(self.samples.ev[number])
        staging = self.staging()
        if self.traced:
            assert self.pictures is not None
            return self.pictures.film_frames.traced_frame(
                self._row, view, ev, self._light_at(number), staging, self._going_on(number)
            ).light
        light = self.renderer.master(
            view, self._lit(number), self._quality, ev < INSIDE_EV, None, staging, ev
        )
        assert light is not None
        return light.light

    def read(self, frames: Path, numbers: range) -> Iterator[Pixels]:
        """The drawn film frames, one after the other."""
        for number in numbers:
            fresh = self._fresh.get(number)
            if fresh is not None:
                yield fresh
                continue
            with Image.open(self.path(frames, number)) as image:
                yield np.asarray(image.convert("RGB"))

    # ------------------------------------------------------------------ stamp

    def stamped(self, pixels: Pixels, number: int) -> Pixels:
        """A film frame with its stamp, where one is asked for."""
        stamp = self.item.part.stamp
        text = stamp_text(self.project, self.item, self.samples, self._still_light, number)
        return stamped(pixels, text, stamp) if text else pixels

    # ------------------------------------------------------------------ what is left beside the film

    def _strip(self, frames: Path) -> tuple[Path, ...]:
        item = self.item
        if not item.part.strip_every or item.sequence == "exr":
            return ()
        chosen = item.frames[:: item.part.strip_every][:MOST_IN_A_STRIP]
        rate = parse_rate(item.rate)
        texts = (f"{float(number / rate):.2f} s   frame {number}" for number in chosen)
        sheet = contact_strip(zip(self.read(frames, chosen), texts, strict=True), len(chosen))
        path = target(self.out, item).with_name(f"{Path(item.file).stem}-strip.png")
        write_atomically(path, still_bytes(sheet, "png", f"{item.name}: contact strip"), "The film is kept.")
        return (path,)

    def _kept(self, frames: Path) -> tuple[Path, ...]:
        item = self.item
        if not item.part.keep_frames:
            return ()
        kept = make_folder(target(self.out, item).with_name(f"{Path(item.file).stem}-frames"))
        for old in kept.glob("[0-9]" * 6 + ".png"):
            old.unlink()
        for number in item.frames:
            path = self.path(frames, number)
            shutil.move(path, kept / path.name)
        return (kept,)


def stamp_text(project: Project, item: Film, samples: WalkSamples, light: Light, number: int) -> str:
    """What is written on a film frame.  light : where the sun is not keyed."""
    hour = float(samples.hour[number]) if np.isfinite(samples.hour[number]) else light.hour
    day = date.fromisoformat(light.date)
    words = {
        "project": lambda: project.name,
        "camera": lambda: item.walk.name,
        "frame": lambda: f"frame {number}",
        "time": lambda: f"{float(number / parse_rate(item.rate)):.2f} s",
        "sun": lambda: f"{day.day} {day:%B %Y} {hour_words(hour)}",
    }
    return "   ".join(words[name]() for name in item.part.stamp.fields)
