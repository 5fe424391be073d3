"""The files of one item of a run: a picture with its master, layers and what it remembers, or a film."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path

from altana.core.progress import Progress
from altana.core.staging import Lookup
from altana.jobs.film import FilmWork
from altana.jobs.film_check import FilmCheck
from altana.jobs.film_files import keep_before
from altana.jobs.finished import RunBooks
from altana.jobs.journal import Journal
from altana.jobs.masters import camera_json, write_master
from altana.jobs.models import Opened
from altana.jobs.picture import PictureWork
from altana.jobs.requests import Film, Item, Pano, Picture, Request, target
from altana.storage.files import make_folder, write_atomically


@dataclass(slots=True)
class ItemFiles:
    """Writes what items become.  ``go_on`` : asked often; when it says False the work ends with Cancelled."""

    request: Request
    opened: Opened
    lookup: Lookup
    out: Path
    work: PictureWork
    finished: RunBooks
    journal: Journal
    go_on: Callable[[], bool]
    #: Files that were written, the item's own left aside.
    written: list[Path]
    #: What the reading back of each film found, by file.
    checks: dict[str, FilmCheck]

    def make(self, item: Item, begin: float, span: float, label: str) -> None:
        """Make one item.  begin, span : where it begins in the whole run, and its share of it, 0 to 1.
        Raises UserError or Cancelled."""
        make_folder(target(self.out, item).parent)
        if isinstance(item, Film):
            self._film(item, begin, span, label)
        else:
            self._picture(item, begin, span, label)

    def _picture(self, item: Picture | Pano, begin: float, span: float, label: str) -> None:
        def told(share: float) -> bool:
            self.journal.progress(begin + span * min(1.0, share), label, min(1.0, share))
            return self.go_on()

        path = target(self.out, item)
        if isinstance(item, Picture):
            if self.request.passes:
                item = replace(item, shot=replace(item.shot, passes=True))
            data, master = self.work.stills.still(item, told)
        else:
            data, faces, master = self.work.panoramas.panorama(item, told)
            for name, square in faces.items():
                beside = path.with_name(f"{path.stem}-{name}{path.suffix}")
                write_atomically(beside, square, "Pictures made before are kept.")
                self.written.append(beside)
        if master is not None:
            self.written.append(write_master(self.out, item.file, master))
        if isinstance(item, Picture) and item.shot.passes:
            self._passes(item, path, told)
        if path.is_file() and path.read_bytes() != data:
            keep_before(path)
        write_atomically(path, data, "Pictures made before are kept.")
        sidecar = path.with_name(f"{path.name}.camera.json")
        write_atomically(
            sidecar, (camera_json(self.request.project, item) + "\n").encode(), "The picture is kept."
        )

    def _passes(self, item: Picture, path: Path, progress: Progress) -> None:
        """The layers of a still, beside its file."""
        beside = path.with_name(f"{path.stem}.passes.exr")
        write_atomically(beside, self.work.stills.passes(item, progress), "Pictures made before are kept.")
        self.written.append(beside)

    def _film(self, item: Film, begin: float, span: float, label: str) -> None:
        def progress(share: float, text: str) -> bool:
            self.journal.progress(begin + span * share, f"{label}, {text}", share)
            return self.go_on()

        quality = item.quality or self.request.quality
        work = FilmWork(
            self.request.project,
            quality,
            item,
            self.opened,
            self.lookup,
            self.work.rows.renderer,
            self.out,
            progress,
            self.work,
        )
        try:
            film = work.make(self.finished.frames_folder(item))
        finally:
            soft = self.work.rows.soft
            if soft is not None:
                # A film whose sun moved left another light behind.
                self.work.rows.renderer.relight(soft.pixels)
            self.work.rows.lit = None
        self.written += film.beside
        self.checks[item.file] = film.check
        self.journal.write("checked", file=item.file, **film.check.facts())
