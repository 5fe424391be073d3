"""A film written while its frames are still being drawn."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from pathlib import Path
from typing import Protocol

from altana.core.light.transport import Cancelled
from altana.core.progress import Progress
from altana.jobs.requests import Film
from altana.render.encode import Pixels, write_film


class Frames(Protocol):
    """What the encoder needs of whoever draws the frames."""

    quality: str
    item: Film

    def read(self, frames: Path, numbers: range) -> Iterator[Pixels]:
        """The drawn film frames, one after the other."""

    def stamped(self, pixels: Pixels, number: int) -> Pixels:
        """A film frame with its stamp, where one is asked for."""


class Encoding:
    """Writes a film in its own thread, from frames as they become ready."""

    def __init__(self, work: Frames, path: Path, frames: Path) -> None:
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

    def wait(self, progress: Progress) -> None:
        """Until all is written.  Raises Cancelled when ``progress`` says False, or what went wrong in
        writing."""
        while self._thread.is_alive():
            if not progress(self._written / max(1, len(self._work.item.frames))):
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
