"""Where a machine that was lent makes pieces: it lays out the project that came with the order, and draws as
any run does."""

from __future__ import annotations

import logging
import socket
import time
import traceback
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

from altana.core.errors import UserError
from altana.core.light.transport import Cancelled
from altana.core.staging import Lookup
from altana.jobs.film import FilmWork
from altana.jobs.light import known_light, light_of
from altana.jobs.machines import files
from altana.jobs.machines.pieces import (
    Band,
    Common,
    Face,
    Frames,
    Piece,
    PieceOrder,
    Result,
    Round,
    RoundBand,
    Slices,
    Still,
    Tile,
    packed,
    packed_array,
    read_common,
    read_order,
)
from altana.jobs.models import open_project_models
from altana.jobs.picture import PictureWork
from altana.jobs.requests import Picture
from altana.jobs.rows.shared import Rows
from altana.jobs.traced_orders import TracedBand
from altana.render.panorama import Place, slices_of
from altana.render.renderer import Renderer
from altana.storage.cache import cache_folder, light_file
from altana.storage.files import make_folder

log = logging.getLogger(__name__)

#: What is asked of the network: bytes of a file, from a place on.
Fetch = Callable[[str, int], bytes]


def machine_name() -> str:
    """What this machine is called for people."""
    return socket.gethostname()


@dataclass(slots=True)
class Bench:
    """Makes pieces of one project after the other.  ``stop`` says that nobody wants the piece in hand any
    more."""

    fetch: Fetch
    stop: Callable[[], bool] = lambda: False
    _common: str = ""
    _work: PictureWork | None = None
    _quality: str = ""
    _film: tuple[str, FilmWork] | None = None
    _fetched: int = 0
    name: str = field(default_factory=machine_name)

    def make(self, data: bytes) -> Result:
        """The result of an order as it arrived; what goes wrong is told in it."""
        started = time.monotonic()
        self._fetched = 0
        try:
            order = read_order(data)
            result = self._piece(self._prepared(order), order.piece)
        except UserError as error:
            result = Result(self.name, 0.0, refused=error.sentence)
        except Cancelled:
            result = Result(self.name, 0.0, refused="It was not wanted any more.")
        except MemoryError:
            self.forget()
            result = Result(
                self.name,
                0.0,
                refused=f"There is not enough memory on {self.name}. Make the row smaller, or make it on another machine.",
            )
        except Exception:
            log.exception("a piece failed")
            self.forget()
            result = Result(self.name, 0.0, fault=traceback.format_exc())
        return Result(
            self.name,
            round(time.monotonic() - started, 3),
            result.files,
            result.arrays,
            self._fetched,
            result.refused,
            result.fault,
        )

    def forget(self) -> None:
        """Let go of the project in hand."""
        work, self._work, self._common, self._film = self._work, None, "", None
        if work is not None:
            work.close()
            work.rows.renderer.close()

    def _prepared(self, order: PieceOrder) -> PictureWork:
        if self._work is not None and self._common == order.common:
            return self._work
        self.forget()
        self._bring([order.common])
        common = read_common((files.store() / order.common).read_bytes())
        self._bring([file.digest for file in common.files])
        folder = make_folder(cache_folder() / "lent" / "projects" / order.common)
        files.lay_out(common.files, folder)
        self._work = self._begun(common, folder)
        self._common, self._quality = order.common, common.quality
        return self._work

    def _begun(self, common: Common, folder: Path) -> PictureWork:
        project = common.project
        opened = open_project_models(project, folder / "project.altana")
        self._light(common)
        soft = known_light(opened, project.light) or light_of(opened, project.light, self._going, folder)
        work = PictureWork(
            Rows(project, opened, Lookup(opened.model), Renderer(opened.model, soft), folder, soft)
        )
        work.rows.samples, work.rows.minutes = common.samples, common.minutes
        return work

    def _light(self, common: Common) -> None:
        """Kept light maps into the cache, under names that are digests."""
        for file in common.lights:
            path = light_file(file.name)
            if not path.is_file():
                self._bring([file.digest])
                files.lay_out([file], path.parent)
                (path.parent / file.name).replace(path)

    def _bring(self, digests: list[str]) -> None:
        self._fetched += files.bring(digests, self.fetch)

    def _going(self, _share: float) -> bool:
        return not self.stop()

    def _piece(self, work: PictureWork, piece: Piece) -> Result:
        match piece:
            case Still(item):
                return self._still(work, item)
            case Round(item):
                data, squares, master = work.panoramas.panorama(item, self._going)
                more = {f"square {name}": square for name, square in squares.items()}
                return self._files(data, master, more)
            case Tile(item, number):
                light, cover = work.stills.tile(item, number, self._going)
                return self._arrays(light=light, cover=cover)
            case Band(item, number):
                return self._band(work.tracer.band(item, 0, number, self._going))
            case RoundBand(item, eye, number):
                return self._band(work.tracer.band(item, eye, number, self._going))
            case Slices():
                return self._slices(work, piece)
            case Face(item, name):
                return self._arrays(light=work.panoramas.face(item, name, self._going))
            case Frames():
                return self._frames(work, piece)

    def _still(self, work: PictureWork, item: Picture) -> Result:
        data, master = work.stills.still(item, self._going)
        more = {"passes": work.stills.passes(item, self._going)} if item.shot.passes else {}
        return self._files(data, master, more)

    def _files(self, data: bytes, master: bytes | None, more: dict[str, bytes]) -> Result:
        files = {"data": data, **more}
        return Result(self.name, 0.0, files=files if master is None else {**files, "master": master})

    def _band(self, band: TracedBand) -> Result:
        return self._arrays(light=band.light, cover=band.cover, albedo=band.albedo, normal=band.normal)

    def _slices(self, work: PictureWork, piece: Slices) -> Result:
        item = piece.item
        place, size = Place(item.camera.eye, item.front_deg), (item.width_px, item.height_px)
        every = slices_of(place, item.eyes[piece.eye], size)[piece.start : piece.stop]
        return self._arrays(
            **{
                str(piece.start + number): work.panoramas.slice(item, one, self._going)
                for number, one in enumerate(every)
            }
        )

    def _frames(self, work: PictureWork, piece: Frames) -> Result:
        film = self._filming(work, piece)
        frames = {}
        for number in piece.numbers:
            if self.stop():
                raise Cancelled
            frames[str(number)] = film.frame_bytes(number)
        return Result(self.name, 0.0, files=frames)

    def _filming(self, work: PictureWork, piece: Frames) -> FilmWork:
        """The film in hand; where its camera is at each frame is found once."""
        key = repr(piece.item)
        if self._film is None or self._film[0] != key:
            film = FilmWork(
                work.rows.project,
                piece.item.quality or self._quality,
                piece.item,
                work.rows.opened,
                work.rows.lookup,
                work.rows.renderer,
                work.rows.base,
                lambda share, text: self._going(share),
                work,
            )
            film.prepare()
            self._film = key, film
        return self._film[1]

    def _arrays(self, **arrays: object) -> Result:
        return Result(self.name, 0.0, arrays={name: packed_array(array) for name, array in arrays.items()})


_bench: Bench | None = None


def do_piece(order: bytes) -> bytes:
    """Make one piece: the one thing that a worker of a cluster does.  Takes and gives values as they
    travel."""
    global _bench
    import distributed

    worker = distributed.get_worker()
    key = worker.get_current_task()

    def unwanted() -> bool:
        task = worker.state.tasks.get(key)
        return task is None or task.state not in ("executing", "long-running")

    def fetch(digest: str, start: int) -> bytes:
        data = distributed.utils.sync(worker.loop, worker.scheduler.altana_get, digest=digest, start=start)
        if isinstance(data, str):
            raise UserError(data)
        return bytes(data)

    if _bench is None:
        _bench = Bench(fetch)
    _bench.stop, _bench.fetch = unwanted, fetch
    _bench.name = str(worker.name)
    return packed(_bench.make(order))
