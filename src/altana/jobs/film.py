"""One film: its frames are drawn first, and written into the film while further ones are drawn; then the file is read back.

Frames lie in the job's folder, each renamed into place when it is whole, so that a run that was broken off goes on with
those it has.  The encoder runs beside the renderer in its own thread and reads the frames from there in order: whatever
was drawn earlier, the film's bytes are the same.
"""

from __future__ import annotations

import filecmp
import os
import shutil
import threading
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from datetime import date
from fractions import Fraction
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

from altana.core.camera.view import View
from altana.core.conventions import Floats32, parse_rate
from altana.core.errors import UserError
from altana.core.light.clock import hour_words
from altana.core.light.own import light_for
from altana.core.light.transport import Cancelled
from altana.core.project import FILM, Light, Project, Shot
from altana.core.staging import Lookup, Staging
from altana.core.standing import standable
from altana.core.walk.sample import WalkLine, WalkSamples, resolve, sample
from altana.jobs.light import MovingLight, moving_light
from altana.jobs.models import Opened
from altana.jobs.picture import PictureWork, quality_of
from altana.jobs.progress import Told
from altana.jobs.requests import Film, target
from altana.jobs.surroundings import sky_for
from altana.render.encode import (
    Pixels,
    contact_strip,
    exr_bytes,
    film_facts,
    film_frame_at,
    stamped,
    still_bytes,
    write_film,
)
from altana.render.renderer import Quality, Renderer
from altana.storage.files import make_folder, write_atomically

#: A strip is for a quick look; more pictures than these are no longer one.
MOST_IN_A_STRIP = 200
#: A film frame differs from the Frame by less than this on average, of 255.  Encoders lose what is fine, not what is
#: where: both are compared as means of blocks.
NEAR_ENOUGH, BLOCKS_ACROSS = 5.0, 80
#: So many film frames are kept in memory for the encoder.
MOST_FRESH = 6
#: The share of a film's work that comes after its frames.
CHECK_SHARE = 0.06
INSIDE_EV = 12.5
#: The last version of what was made again, beside it.
BEFORE_FOLDER = "before"


@dataclass(frozen=True, slots=True)
class FilmCheck:
    """What reading a film back found: ``differs`` has a sentence for everything that is not as promised; ``compared``
    the numbers of the film frames compared with the Frame and their mean difference, of 255."""

    frames: int
    seconds: float
    rate: str
    width_px: int
    height_px: int
    compared: tuple[tuple[int, float], ...]
    differs: tuple[str, ...] = ()

    def facts(self) -> dict[str, Any]:
        """As plain values."""
        return {
            "frames": self.frames,
            "length_s": round(self.seconds, 4),
            "rate": self.rate,
            "size": [self.width_px, self.height_px],
            "compared": [[number, round(off, 2)] for number, off in self.compared],
            "differs": list(self.differs),
        }

    @property
    def sentence(self) -> str:
        """One sentence for people."""
        if self.differs:
            return f"Differs: {' '.join(self.differs)}"
        worst = max((off for _, off in self.compared), default=0.0)
        return (
            f"Checked: {self.frames} film frames, {self.seconds:.2f} s at {self.rate}, {self.width_px} × {self.height_px} px; "
            f"{len(self.compared)} film frames sought and like the Frame (within {worst:.1f} of 255)."
        )


@dataclass(frozen=True, slots=True)
class Made:
    """What a film left: files beside it, and its check."""

    beside: tuple[Path, ...]
    check: FilmCheck


@dataclass(slots=True)
class FilmWork:
    """Makes one film.  ``told(share, text)`` is called often; when it says False the work ends with Cancelled."""

    project: Project
    quality: str
    item: Film
    opened: Opened
    lookup: Lookup
    renderer: Renderer
    out: Path
    told: Told
    pictures: PictureWork | None = None
    line: WalkLine = field(init=False)
    samples: WalkSamples = field(init=False)
    light: MovingLight | None = field(init=False)
    _fresh: dict[int, Pixels] = field(default_factory=dict)

    def make(self, frames: Path) -> Made:
        """Draw, encode, check; ``frames`` is the folder that film frames go to.  Raises UserError or Cancelled."""
        item = self.item
        self.prepare()
        if item.sequence:
            self._draw(frames, None)
            check = self._checked_sequence(frames)
            beside = self._strip(frames)
            self._put_sequence(frames)
            return Made(beside, check)
        final = target(self.out, item)
        part = final.with_name(f".{final.name}.part")
        try:
            encoding = Encoding(self, part, frames)
            self._draw(frames, encoding)
            encoding.wait(
                lambda share: self.told(1.0 - CHECK_SHARE * 2 + CHECK_SHARE * share, "writing the film")
            )
            check = self._checked(part, frames)
            if final.is_file() and not filecmp.cmp(final, part, shallow=False):
                keep_before(final)
            os.replace(part, final)
        finally:
            part.unlink(missing_ok=True)
        beside = (*self._strip(frames), *self._kept(frames))
        _drop(frames)
        return Made(beside, check)

    def prepare(self) -> None:
        """Find where the camera is at each film frame, and the light of each.  Raises UserError or Cancelled."""
        self.line = resolve(self.item.walk, standable(self.opened.model))
        self.samples = sample(self.line, parse_rate(self.item.rate))
        self.light = moving_light(
            self.opened,
            self._still_light,
            self.samples.hour[list(self.item.frames)],
            lambda share: self.told(0.1 * share, "light"),
            self._base,
        )

    # ------------------------------------------------------------------ frames

    def _draw(self, frames: Path, encoding: Encoding | None) -> None:
        numbers = self.item.frames
        try:
            for made, number in enumerate(numbers):
                share = (
                    0.1 + (0.9 - 2 * CHECK_SHARE) * made / len(numbers)
                    if self.light
                    else (1 - 2 * CHECK_SHARE) * made / len(numbers)
                )
                if not self.told(share, f"film frame {made + 1} of {len(numbers)}"):
                    raise Cancelled
                if not self.path(frames, number).is_file():
                    data = self._from_elsewhere(number, share) or self.frame_bytes(number)
                    write_atomically(self.path(frames, number), data, "Frames made before are kept.")
                if encoding is not None:
                    encoding.ready(made + 1)
        except BaseException:
            if encoding is not None:
                encoding.stop()
            raise

    def path(self, frames: Path, number: int) -> Path:
        """Where a film frame lies."""
        return frame_path(frames, self.item, number)

    def _from_elsewhere(self, number: int, share: float) -> bytes | None:
        if self.pictures is None or self.pictures.elsewhere is None:
            return None
        text = f"film frame {number}"
        return self.pictures.elsewhere.frame(self.item, number, lambda _: self.told(share, text))

    def frame_bytes(self, number: int) -> bytes:
        """A film frame as its file, after ``prepare``.  Raises UserError or Cancelled."""
        item = self.item
        view = self.samples.view(number, item.width_px, item.height_px)
        if item.sequence == "exr":
            return exr_bytes(self._light(view, number), f"{item.name}, frame {number}")
        pixels = self._picture(view, number)
        if item.sequence:
            return still_bytes(self.stamped(pixels, number), item.sequence, f"{item.name}, frame {number}")
        # The encoder takes it from here instead of reading the file again, if it comes in time.
        self._fresh[number] = pixels
        for old in sorted(self._fresh)[:-MOST_FRESH]:
            self._fresh.pop(old, None)
        return still_bytes(pixels, "png", fast=True)

    @property
    def _still_light(self) -> Light:
        """The sun where it is not keyed: the row's hour, or the project's."""
        return light_for(self.project.light, None, self.item.shot)

    def _lit(self, number: int) -> Any:
        """The sky of a film frame; the soft light goes with it."""
        if self.light is None:
            if self.pictures is not None:
                return self.pictures.sky(self._still_light, lambda share: self.told(0.0, "light"))
            return sky_for(self._still_light, self._base)
        light, pixels = self.light.at(float(self.samples.hour[number]))
        self.renderer.relight(pixels)
        return sky_for(light, self._base)

    def _staging(self) -> Staging:
        """What the walk's film shows, less what its row leaves out."""
        made = self.lookup.for_walk(self.project, self.item.walk)
        shot = self.item.shot
        if shot is None or not shot.left_out:
            return made
        return replace(made, omitted=tuple(sorted({*made.omitted, *self.lookup.numbers([shot.left_out])})))

    @property
    def _quality(self) -> Quality:
        return quality_of(self.project.qualities.of(self.quality), film=True)

    @property
    def _base(self) -> Path:
        return self.pictures.base if self.pictures is not None else self.out

    @property
    def _row(self) -> Shot:
        """The film's row; a film straight from its walk is drawn as the Frame shows it."""
        return self.item.shot or Shot("", FILM, self.item.walk.id, quality=self.quality)

    def _light_at(self, number: int) -> Light:
        """The light of a film frame: its sun moves where that is keyed."""
        return self._still_light if self.light is None else self.light.at(float(self.samples.hour[number]))[0]

    def _picture(self, view: View, number: int) -> Pixels:
        ev = float(self.samples.ev[number])
        if self.pictures is not None and self.pictures.special(self._row):
            item = replace(self.item, shot=self._row)
            return self.pictures.film_frame(
                item, view, ev, self._lit(number), self._staging(), self._light_at(number)
            )
        staging = self._staging()
        pixels = self.renderer.picture(
            view, self._lit(number), ev, self._quality, ev < INSIDE_EV, None, staging
        )
        assert pixels is not None
        return pixels

    def _light(self, view: View, number: int) -> Floats32:
        ev = float(self.samples.ev[number])
        staging = self._staging()
        if self.pictures is not None and self.pictures.traced(self._row, film=True):
            return self.pictures.traced_frame(self._row, view, ev, self._light_at(number), staging).light
        made = self.renderer.master(view, self._lit(number), self._quality, ev < INSIDE_EV, None, staging, ev)
        assert made is not None
        return made.light

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
        text = self.stamp_text(number)
        return stamped(pixels, text, stamp) if text else pixels

    def stamp_text(self, number: int) -> str:
        """What is written on a film frame."""
        words = {
            "project": lambda: self.project.name,
            "camera": lambda: self.item.walk.name,
            "frame": lambda: f"frame {number}",
            "time": lambda: f"{float(number / parse_rate(self.item.rate)):.2f} s",
            "sun": lambda: self._sun_text(number),
        }
        return "   ".join(words[name]() for name in self.item.part.stamp.fields)

    def _sun_text(self, number: int) -> str:
        light = self._still_light
        hour = float(self.samples.hour[number]) if np.isfinite(self.samples.hour[number]) else light.hour
        day = date.fromisoformat(light.date)
        return f"{day.day} {day:%B %Y} {hour_words(hour)}"

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

    def _put_sequence(self, frames: Path) -> None:
        """The folder of frames takes the place of an older one, whose pictures go; nothing else in it is touched."""
        final = make_folder(target(self.out, self.item))
        wanted = {self.path(frames, number).name for number in self.item.frames}
        for name in sorted(wanted):
            os.replace(_beside(frames / name, final), final / name)
        for old in final.glob("[0-9]" * 6 + f".{self.item.sequence}"):
            if old.name not in wanted:
                old.unlink()
        _drop(frames)

    # ------------------------------------------------------------------ reading back

    def _compared(self) -> list[int]:
        numbers = self.item.frames
        return sorted({numbers[0], numbers[len(numbers) // 2], numbers[-1]})

    def _as_in_frame(self, number: int) -> Pixels:
        """The picture that the window's Frame shows at the moment of a film frame."""
        second = float(number / parse_rate(self.item.rate))
        camera = self.line.camera_at(second)
        if self.item.walk.turntable is not None:
            camera = replace(
                camera,
                heading_deg=float(self.samples.heading_deg[number]) % 360.0,
                eye=_point(self.samples.eye[number]),
            )
        return self.stamped(
            self._picture(camera.view(self.item.width_px, self.item.height_px), number), number
        )

    def _checked(self, part: Path, frames: Path) -> FilmCheck:
        """Open the finished file as a player would.  Raises UserError where frames are missing: the drawn ones are kept."""
        item, rate, count = self.item, self.item.film_rate, len(self.item.frames)
        facts = film_facts(part)
        gif = item.container == "gif"
        if facts.frames != count or not (gif or abs(facts.rate - rate) <= rate / 1000):
            name = target(self.out, item).name
            raise UserError(
                f"{name} read back with {facts.frames} of {count} frames and was not kept. The frames are in {frames}; start again with --resume."
            )
        differs = []
        if (facts.width, facts.height) != (item.width_px, item.height_px):
            differs.append(
                f"It is {facts.width} × {facts.height} px, not {item.width_px} × {item.height_px}."
            )
        if abs(facts.seconds - count / rate) > 1.0 / rate:
            differs.append(f"It lasts {facts.seconds:.2f} s, not {float(count / rate):.2f}.")
        compared = []
        for step, number in enumerate(self._compared()):
            self.told(1.0 - CHECK_SHARE * (1.0 - step / 3.0), "comparing with the Frame")
            place = (number - item.frames[0]) // item.part.step
            shown = film_frame_at(part, float(place / rate), rate)
            if shown is None:
                differs.append(f"Seeking to {float(place / rate):.2f} s finds no film frame.")
                continue
            off = _apart(shown, self._as_in_frame(number))
            compared.append((number, off))
            if off > NEAR_ENOUGH:
                differs.append(f"Film frame {number} differs from the Frame by {off:.1f} of 255 on average.")
        return FilmCheck(
            count, facts.seconds, _text(rate), facts.width, facts.height, tuple(compared), tuple(differs)
        )

    def _checked_sequence(self, frames: Path) -> FilmCheck:
        item, rate = self.item, self.item.film_rate
        missing = [number for number in item.frames if not self.path(frames, number).is_file()]
        if missing:
            raise UserError(f"Film frame {missing[0]} of {item.name} is missing. Start again with --resume.")
        compared: list[tuple[int, float]] = []
        if item.sequence != "exr":
            for number in self._compared():
                drawn = next(self.read(frames, range(number, number + 1)))
                compared.append((number, _apart(drawn, self._as_in_frame(number))))
        worst = [number for number, off in compared if off > NEAR_ENOUGH]
        differs = tuple(f"Film frame {number} differs from the Frame." for number in worst)
        count = len(item.frames)
        return FilmCheck(
            count, float(count / rate), _text(rate), item.width_px, item.height_px, tuple(compared), differs
        )


class Encoding:
    """Writes a film in its own thread, from frames as they become ready."""

    def __init__(self, work: FilmWork, path: Path, frames: Path) -> None:
        self._work, self._path, self._frames = work, path, frames
        self._ready = self._written = 0
        self._stopped = False
        self._error: BaseException | None = None
        self._changed = threading.Condition()
        self._thread = threading.Thread(target=self._run, daemon=True)
        self._thread.start()

    def ready(self, count: int) -> None:
        """So many film frames are drawn, from the first on.  Raises what went wrong in writing."""
        with self._changed:
            self._ready = count
            self._changed.notify_all()
        if self._error is not None:
            raise self._error

    def stop(self) -> None:
        """Leave off; the unfinished file is of no use."""
        with self._changed:
            self._stopped = True
            self._changed.notify_all()
        self._thread.join()

    def wait(self, told: Callable[[float], bool]) -> None:
        """Until all is written.  Raises Cancelled when ``told`` says False, or what went wrong in writing."""
        while self._thread.is_alive():
            if not told(self._written / max(1, len(self._work.item.frames))):
                self.stop()
                raise Cancelled
            self._thread.join(0.2)
        if self._error is not None:
            raise self._error

    def _pictures(self) -> Iterator[Pixels]:
        item = self._work.item
        for place, number in enumerate(item.frames):
            with self._changed:
                self._changed.wait_for(lambda place=place: self._ready > place or self._stopped)  # type: ignore[misc]
                if self._stopped:
                    raise Cancelled
            pixels = next(self._work.read(self._frames, range(number, number + 1)))
            self._written = place
            yield self._work.stamped(pixels, number)

    def _run(self) -> None:
        item = self._work.item
        try:
            write_film(
                self._path,
                self._pictures(),
                item.film_rate,
                item.width_px,
                item.height_px,
                item.container,
                self._work.quality,
            )
        except Cancelled:
            pass
        except BaseException as error:  # noqa: BLE001 - handed over to the thread that waits
            self._error = error


def _apart(one: Pixels, other: Pixels) -> float:
    """Mean difference of two pictures of equal size, as means of square blocks; without measure where sizes differ."""
    if one.shape != other.shape:
        return 255.0
    side = max(4, one.shape[1] // BLOCKS_ACROSS)
    high, wide = (size // side * side for size in one.shape[:2])
    means = [
        pixels[:high, :wide]
        .astype(np.float32)
        .reshape(high // side, side, wide // side, side, 3)
        .mean(axis=(1, 3))
        for pixels in (one, other)
    ]
    return float(np.abs(means[0] - means[1]).mean()) if means[0].size else 0.0


def _beside(path: Path, folder: Path) -> Path:
    """The file on the folder's own file system, so that it can be renamed into place."""
    if path.stat().st_dev == folder.stat().st_dev:
        return path
    near = folder / f".{path.name}.part"
    shutil.move(path, near)
    return near


def frame_path(frames: Path, item: Film, number: int) -> Path:
    """Where a film frame lies in the folder of a film's frames."""
    return frames / f"{number:06d}.{item.sequence or 'png'}"


def keep_before(path: Path) -> None:
    """A file that is about to be replaced by another stays beside it, for comparison."""
    before = make_folder(path.parent / BEFORE_FOLDER) / path.name
    before.unlink(missing_ok=True)
    try:
        os.link(path, before)
    except OSError:
        # Not every file system knows hard links.
        shutil.copyfile(path, before)


def _drop(folder: Path) -> None:
    for path in folder.iterdir():
        path.unlink()
    folder.rmdir()


def _point(values: Any) -> tuple[float, float, float]:
    x, y, z = values.tolist()
    return (x, y, z)


def _text(rate: Fraction) -> str:
    return str(rate.numerator) if rate.denominator == 1 else f"{rate.numerator}/{rate.denominator}"
