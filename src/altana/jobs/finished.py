"""What of a run is finished, as its job's folder and its journal say: a run that was broken off goes on after
that."""

from __future__ import annotations

from dataclasses import dataclass, replace
from pathlib import Path

from altana.jobs.film_files import frame_path, raw_path
from altana.jobs.following import JournalFollower
from altana.jobs.journal import Journal
from altana.jobs.requests import Film, Item, Pano, Picture, Request, target
from altana.storage.files import make_folder, write_atomically


@dataclass(slots=True)
class RunBooks:
    """Keeps the books of one run.  resume : what an earlier run of the same job finished counts."""

    request: Request
    out: Path
    job: Path | None
    resume: bool
    journal: Journal

    def holds(self, item: Item) -> bool:
        """Whether an item was made before, just as it is wanted now."""
        path = target(self.out, item)
        if not (self.resume and self.job is not None and path.exists()):
            return False
        note = self.job / _done_name(item)
        return note.is_file() and note.read_text() == self.mark(item)

    def tell(self, left: list[Item]) -> None:
        """Into the journal what was finished a moment before the run was killed.  left : what is not
        finished."""
        if self.job is None or not self.resume:
            return
        known = {
            event.get("file") for event in JournalFollower(self.job).events() if event.get("event") == "piece"
        }
        for item in self.request.items:
            if item not in left and item.file not in known:
                self.journal.write("piece", file=item.file, took=0.0)

    def mark(self, item: Item) -> str:
        """A name for all that an item shows."""
        # Rows that do not show a picture's own shot list need not know of it.
        project = (
            replace(self.request.project, shots=())
            if isinstance(item, Picture | Pano)
            else self.request.project
        )
        return replace(self.request, project=project, items=(item,)).digest()

    def note(self, item: Item, seconds: float) -> None:
        """An item is made, and took so long."""
        if self.job is not None:
            write_atomically(self.job / _done_name(item), self.mark(item).encode())
        # Told last: killed before, the run tells it when it goes on; killed after, nothing is made or told
        # twice.
        self.journal.write("piece", file=item.file, took=round(seconds, 3))

    def frames_at(self, item: Film) -> Path:
        """Where the drawn frames of a film lie until it is whole."""
        base = self.job if self.job is not None else self.out
        return base / f".frames-{Path(item.file).stem}-{self.mark(item)}"

    def drawn_before(self, item: Film, number: int) -> bool:
        """Whether a film frame was drawn by an earlier run."""
        folder = self.frames_at(item)
        kept = frame_path(folder, item, number), raw_path(folder, item, number)
        return self.resume and any(path.is_file() for path in kept)

    def frames_folder(self, item: Film) -> Path:
        """The folder for a film's frames, empty unless the run goes on after another."""
        folder = self.frames_at(item)
        if folder.is_dir() and not self.resume:
            for path in folder.iterdir():
                path.unlink()
        return make_folder(folder)


def _done_name(item: Item) -> str:
    return f"{item.file.replace('/', '__')}.done"
