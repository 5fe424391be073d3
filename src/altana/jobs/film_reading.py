"""A finished film read back as a player would, and compared with what the window's Frame shows."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any, Protocol

import numpy as np

from altana.core.camera.view import View
from altana.core.conventions import parse_rate
from altana.core.errors import UserError
from altana.core.progress import NamedProgress
from altana.core.walk.sample import WalkLine, WalkSamples
from altana.jobs.film_check import NEAR_ENOUGH, FilmCheck, apart, rate_text
from altana.jobs.requests import Film, target
from altana.render.encode import Pixels

#: The share of a film's work that comes after its frames.
CHECK_SHARE = 0.06


class Frames(Protocol):
    """What reading back needs of whoever made the film."""

    item: Film
    out: Path
    line: WalkLine
    samples: WalkSamples

    @property
    def progress(self) -> NamedProgress:
        """NamedProgress how far the work is."""

    @property
    def traced(self) -> bool:
        """Whether the light of its frames was followed to its end."""

    def path(self, frames: Path, number: int) -> Path:
        """Where a film frame lies."""

    def read(self, frames: Path, numbers: range) -> Iterator[Pixels]:
        """The drawn film frames, one after the other."""

    def picture(self, view: View, number: int) -> Pixels:
        """A film frame as it is drawn, through any view, in the light of its moment."""

    def stamped(self, pixels: Pixels, number: int) -> Pixels:
        """A film frame with its stamp, where one is asked for."""


class FilmReading:
    """Reads one film back; ``frames`` is where its frames lie."""

    def __init__(self, work: Frames, frames: Path) -> None:
        self._work, self._frames = work, frames

    def _compared(self) -> list[int]:
        numbers = self._work.item.frames
        return sorted({numbers[0], numbers[len(numbers) // 2], numbers[-1]})

    def _as_in_frame(self, number: int) -> Pixels:
        """The picture that the window's Frame shows at the moment of a film frame."""
        second = float(number / parse_rate(self._work.item.rate))
        camera = self._work.line.camera_at(second)
        if self._work.item.walk.turntable is not None:
            camera = replace(
                camera,
                heading_deg=float(self._work.samples.heading_deg[number]) % 360.0,
                eye=_point(self._work.samples.eye[number]),
            )
        view = camera.view(self._work.item.width_px, self._work.item.height_px)
        if self._work.traced and _same_view(
            view, self._work.samples.view(number, view.width_px, view.height_px)
        ):
            # Following the light again would take minutes, and leave other grain.
            drawn = next(self._work.read(self._frames, range(number, number + 1)))
            return drawn if self._work.item.sequence else self._work.stamped(drawn, number)
        return self._work.stamped(self._work.picture(view, number), number)

    def film(self, part: Path) -> FilmCheck:
        """Open the finished file as a player would.  Raises UserError where frames are missing: the drawn
        ones are kept."""
        # The library of films is loaded by those who make films.
        from altana.render.film_file import film_facts, film_frame_at

        item, rate, count = self._work.item, self._work.item.film_rate, len(self._work.item.frames)
        facts = film_facts(part)
        gif = item.container == "gif"
        if facts.frames != count or not (gif or abs(facts.rate - rate) <= rate / 1000):
            name = target(self._work.out, item).name
            raise UserError(
                f"{name} read back with {facts.frames} of {count} frames and was not kept. The frames are in {self._frames}; start again with --resume."
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
            self._work.progress(1.0 - CHECK_SHARE * (1.0 - step / 3.0), "comparing with the Frame")
            place = (number - item.frames[0]) // item.part.step
            shown = film_frame_at(part, float(place / rate), rate)
            if shown is None:
                differs.append(f"Seeking to {float(place / rate):.2f} s finds no film frame.")
                continue
            off = apart(shown, self._as_in_frame(number))
            compared.append((number, off))
            if off > NEAR_ENOUGH:
                differs.append(f"Film frame {number} differs from the Frame by {off:.1f} of 255 on average.")
        return FilmCheck(
            count, facts.seconds, rate_text(rate), facts.width, facts.height, tuple(compared), tuple(differs)
        )

    def sequence(self) -> FilmCheck:
        """Look whether all frames of a folder are there.  Raises UserError."""
        item, rate = self._work.item, self._work.item.film_rate
        missing = [number for number in item.frames if not self._work.path(self._frames, number).is_file()]
        if missing:
            raise UserError(f"Film frame {missing[0]} of {item.name} is missing. Start again with --resume.")
        compared: list[tuple[int, float]] = []
        if item.sequence != "exr":
            for number in self._compared():
                drawn = next(self._work.read(self._frames, range(number, number + 1)))
                compared.append((number, apart(drawn, self._as_in_frame(number))))
        worst = [number for number, off in compared if off > NEAR_ENOUGH]
        differs = tuple(f"Film frame {number} differs from the Frame." for number in worst)
        count = len(item.frames)
        return FilmCheck(
            count,
            float(count / rate),
            rate_text(rate),
            item.width_px,
            item.height_px,
            tuple(compared),
            differs,
        )


def _same_view(one: View, other: View) -> bool:
    """Whether two cameras show the same, within half a pixel at the corners."""
    corners = np.array([[0.0, 0.0], [one.width_px, 0.0], [0.0, one.height_px], [one.width_px, one.height_px]])
    far = other.project(np.asarray(one.pose.eye) + one.rays(corners) * 10.0)[:, :2]
    near = float(np.linalg.norm(np.subtract(one.pose.eye, other.pose.eye))) < 0.001
    return near and bool((np.abs(far - corners) < 0.5).all())


def _point(values: Any) -> tuple[float, float, float]:
    x, y, z = values.tolist()
    return (x, y, z)
