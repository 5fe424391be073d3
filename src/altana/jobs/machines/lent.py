"""What a run has on other machines: keeps them busy in the run's own order, and puts together what comes
back."""

from __future__ import annotations

import contextlib
import queue
import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any

import distributed
import numpy as np
from distributed.client import ClosedClientError

from altana.core.conventions import Floats32
from altana.core.errors import UserError
from altana.core.light.transport import Cancelled
from altana.core.progress import Progress
from altana.jobs.elsewhere import MachinesGone, WholeMade
from altana.jobs.following import MachineShare
from altana.jobs.machines.bench import do_piece
from altana.jobs.machines.pieces import (
    WIRE,
    Band,
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
    a_time,
    build,
    key_of,
    label_of,
    packed,
    pieces_of,
    read_result,
)
from altana.jobs.masters import sky_drawn
from altana.jobs.picture import PictureWork
from altana.jobs.requests import Film, Item, Pano, Picture, Request
from altana.jobs.tracing import cleaned
from altana.render.outputs import Master
from altana.render.quality import tiles
from altana.render.traced.tracer import Guides, bands

if TYPE_CHECKING:
    from altana.jobs.machines.fleet import Fleet

#: How many pieces wait at each machine beside the one in hand, and how many bytes of results wait here.
WAITING, MOST_BYTES = 1, 1_000_000_000
#: A piece that takes so many times as long as others like it is given to a second machine, when one has
#: nothing to do.
SLOW, SLOW_S = 4.0, 20.0
#: How often a piece is tried where a fault of Altana's own ended it.
TRIES = 3
ASK_S = 0.2
#: What the library says where the scheduler is not there any more.
NOT_THERE = (OSError, TimeoutError, RuntimeError, ClosedClientError)
#: So long nobody may be there before a run says that it waits, and until it gives up.
NOBODY_S, GIVEN_UP_S = 10.0, 600.0


@dataclass(slots=True)
class _InHand:
    """A piece on its way: its futures (a slow one has two), when it was sent, and how often it was tried."""

    piece: Piece
    futures: list[Any]
    sent: float
    tries: int = 0


@dataclass(slots=True)
class LentWork:
    """Machines that have what they need for one request (``jobs.elsewhere.Lent``)."""

    fleet: Fleet
    request: Request
    work: PictureWork
    common: str
    journal: Callable[..., None]
    _pieces: dict[str, list[Piece]] = field(default_factory=dict)
    _queue: list[Piece] = field(default_factory=list)
    _flying: dict[str, _InHand] = field(default_factory=dict)
    _ready: dict[str, Result] = field(default_factory=dict)
    _arrived: queue.Queue[tuple[str, Any]] = field(default_factory=queue.Queue)
    _took: list[float] = field(default_factory=list)
    _nobody_since: float = 0.0
    _said: str = ""
    _in_use: tuple[str, Result] | None = None
    _masters: dict[str, bool] = field(default_factory=dict)

    # ------------------------------------------------------------------ what is wanted

    def expect(self, items: list[Item], there: Callable[[Film, int], bool]) -> None:
        """What is wanted from now on, in which order.  there : whether a film frame is drawn already."""
        wanted: dict[str, Piece] = {}
        for item in items:
            if not isinstance(item, Film) and self._has_master(item):
                continue
            for piece in self._of(item):
                if not isinstance(piece, Frames) or not all(there(piece.item, n) for n in piece.numbers):
                    wanted[self._key(piece)] = piece
        for key in set(self._flying) - set(wanted):
            self._drop(key)
        for key in set(self._ready) - set(wanted):
            del self._ready[key]
        keys = {*self._flying, *self._ready}
        self._queue = [piece for key, piece in wanted.items() if key not in keys]
        self._feed()

    def _has_master(self, item: Picture | Pano) -> bool:
        if item.file not in self._masters:
            self._masters[item.file] = self.work.rows.has_master(item)
        return self._masters[item.file]

    def _drop(self, key: str) -> None:
        _let_go(self._flying.pop(key).futures)

    def _of(self, item: Item) -> list[Piece]:
        if item.file not in self._pieces:
            self._pieces[item.file] = pieces_of(item, self.request, a_time(item, self.request))
        return self._pieces[item.file]

    def _key(self, piece: Piece) -> str:
        return key_of(piece, self.common)

    def close(self) -> None:
        """Nothing more is wanted."""
        for key in list(self._flying):
            self._drop(key)
        self._queue.clear()

    # ------------------------------------------------------------------ sending

    def _feed(self) -> None:
        """So many pieces are on their way that no machine waits, and so few that the order can change."""
        same, _ = self.fleet.machines()
        room = len(same) * (1 + WAITING) - len(self._flying)
        waiting = sum(len(data) for result in self._ready.values() for data in result.files.values())
        waiting += sum(len(data) for result in self._ready.values() for _, data in result.arrays.values())
        while self._queue and (room > 0 or not self._flying) and waiting < MOST_BYTES:
            self._send(self._queue.pop(0))
            room -= 1

    def _send(self, piece: Piece, tries: int = 0) -> None:
        key = self._key(piece)
        self._flying[key] = _InHand(piece, [self._future(piece, key, str(tries))], time.monotonic(), tries)

    def _future(self, piece: Piece, key: str, more: str) -> Any:
        order = packed(PieceOrder(WIRE, build(), self.common, piece))
        try:
            future = self.fleet.client.submit(
                do_piece, order, key=f"{key}-{more}", resources={self.fleet.kind: 1}, pure=False, retries=0
            )
        except NOT_THERE as error:
            raise gone() from error
        future.add_done_callback(lambda done: self._arrived.put((key, done)))
        return future

    # ------------------------------------------------------------------ what comes back

    def result(self, piece: Piece, progress: Progress) -> Result:
        """The result of a piece, when it is there.  Raises UserError or Cancelled."""
        key = self._key(piece)
        while key not in self._ready:
            if not progress(0.0):
                raise Cancelled
            if key not in self._flying:
                # It was put off, or comes earlier than was expected.
                self._queue = [other for other in self._queue if self._key(other) != key]
                self._send(piece)
            self._listen()
        result = self._ready.pop(key)
        if result.refused:
            raise UserError(result.refused)
        return result

    def _listen(self) -> None:
        try:
            key, future = self._arrived.get(timeout=ASK_S)
        except queue.Empty:
            self._watch()
            return
        flight = self._flying.get(key)
        if flight is None or future not in flight.futures:
            return
        self._take(key, flight, future)
        self._feed()

    def _take(self, key: str, flight: _InHand, future: Any) -> None:
        if future.status == "cancelled":
            # The scheduler lost it, with the machine that had it.
            self._again(key, flight, "")
            return
        if future.status == "error":
            self._again(key, flight, _cause(future))
            return
        try:
            result = read_result(future.result(timeout=30))
        except (*NOT_THERE, UserError):
            self._again(key, flight, "")
            return
        facts = self.fleet.done.setdefault(result.machine, MachineShare())
        facts.fetched += result.fetched
        label = label_of(flight.piece)
        if result.fault:
            facts.trouble = f"{label} failed"
            self.journal(
                "trouble", machine=result.machine, sentence=f"{label} failed there.", stack=result.fault
            )
            self._again(key, flight, result.fault)
            return
        if result.refused and flight.tries + 1 < TRIES:
            # Another machine may have the memory, or be wanted still.
            facts.trouble = result.refused
            self.journal("trouble", machine=result.machine, sentence=result.refused)
            self._send(flight.piece, flight.tries + 1)
            return
        facts.pieces, facts.seconds = facts.pieces + 1, facts.seconds + result.seconds
        self._took.append(result.seconds)
        self.journal(
            "helped",
            machine=result.machine,
            file=flight.piece.item.file,
            label=label,
            took=result.seconds,
            fetched=result.fetched,
        )
        _let_go([other for other in flight.futures if other is not future])
        del self._flying[key]
        self._ready[key] = result

    def _again(self, key: str, flight: _InHand, fault: str) -> None:
        if flight.tries + 1 < TRIES:
            self._send(flight.piece, flight.tries + 1)
            return
        del self._flying[key]
        self._ready[key] = Result(
            "",
            0.0,
            refused=f"{label_of(flight.piece)} could not be made on {TRIES} tries{_last_line(fault)}. The others are. "
            "Try it smaller, or on this machine alone.",
        )

    def _watch(self) -> None:
        """Nothing came for a while: is anybody there, and is one piece slower than all others?"""
        same, others = self.fleet.machines()
        if self.fleet.client.status not in ("running", "connecting"):
            raise gone()
        if not same:
            self._nobody(others)
            return
        self._nobody_since = 0.0
        if others:
            self._say(
                f"Not used: {', '.join(others)}; another Altana or another way of drawing would make other pictures."
            )
        self._feed()
        if self._queue or len(self._flying) >= len(same) or not self._took:
            return
        usual = statistics.median(self._took)
        for key, flight in self._flying.items():
            if len(flight.futures) == 1 and time.monotonic() - flight.sent > max(SLOW_S, SLOW * usual):
                flight.futures.append(self._future(flight.piece, key, f"{flight.tries}-twice"))

    def _nobody(self, others: list[str]) -> None:
        now = time.monotonic()
        self._nobody_since = self._nobody_since or now
        silent = now - self._nobody_since
        why = (
            f"{', '.join(others)} cannot make the same pictures as this machine (another Altana, or another way of drawing)"
            if others
            else "no machine is lent"
        )
        if silent > GIVEN_UP_S:
            raise MachinesGone(
                f"Nobody makes pieces: {why}. What was finished is kept; lend a machine with `altana worker`, and start again with --resume."
            )
        if silent > NOBODY_S:
            self._say(f"Waiting: {why}. Lend one with `altana worker`.")

    def _say(self, sentence: str) -> None:
        if sentence != self._said:
            self._said = sentence
            self.journal("trouble", machine="", sentence=sentence)

    # ------------------------------------------------------------------ put together

    def whole(self, item: Picture | Pano, progress: Progress) -> WholeMade | None:
        """A picture; None where it is made from parts."""
        parts = self._of(item)
        if not isinstance(parts[0], Still | Round):
            return None
        result = self.result(parts[0], progress)
        squares = {
            name.removeprefix("square "): data
            for name, data in result.files.items()
            if name.startswith("square ")
        }
        return WholeMade(
            result.files["data"], result.files.get("master"), result.files.get("passes"), squares
        )

    def drawn(self, item: Picture, progress: Progress) -> Master | None:
        """The master of a still drawn in passes, from its tiles; None where it is not made from parts."""
        parts = self._of(item)
        if not isinstance(parts[0], Tile):
            return None
        view = item.view()
        light = np.empty((view.height_px, view.width_px, 3), np.float32)
        cover = np.empty((view.height_px, view.width_px), np.float32)
        for number, (piece, (x, y, w, h)) in enumerate(
            zip(parts, tiles(view.width_px, view.height_px), strict=True)
        ):
            result = self.result(piece, _share(progress, number, len(parts)))
            light[y : y + h, x : x + w] = result.array("light")
            cover[y : y + h, x : x + w] = result.array("cover")
        return Master(light, None if sky_drawn(item.shot) else cover)

    def traced(self, item: Picture | Pano, eye: int, progress: Progress) -> Master | None:
        """The master of a traced picture, from its bands; None where it is not made from parts.  eye : of a
        panorama for two."""
        parts = [
            piece
            for piece in self._of(item)
            if isinstance(piece, Band) or (isinstance(piece, RoundBand) and piece.eye == eye)
        ]
        if not parts:
            return None
        view = item.view() if isinstance(item, Picture) else item
        size = (view.height_px, view.width_px)
        whole = {name: np.empty((*size, 3), np.float32) for name in ("light", "albedo", "normal")}
        whole["cover"] = np.empty(size, np.float32)
        for number, (piece, rows) in enumerate(zip(parts, bands((size[1], size[0])), strict=True)):
            result = self.result(piece, _share(progress, number, len(parts)))
            for name, values in whole.items():
                values[rows.start : rows.stop] = result.array(name)
        sky_shown = sky_drawn(item.shot)
        guides = Guides(whole["albedo"], whole["normal"])
        light = cleaned(whole["light"], whole["cover"], guides, sky_shown)
        return Master(light, None if sky_shown else whole["cover"])

    def face(self, item: Pano, name: str, progress: Progress) -> Floats32:
        """Light of one face of a panorama."""
        piece = next(piece for piece in self._of(item) if isinstance(piece, Face) and piece.name == name)
        values: Floats32 = self.result(piece, progress).array("light")
        return values

    def slice(self, item: Pano, aside_m: float, number: int, progress: Progress) -> Floats32:
        """Light of one slice of a panorama for two eyes."""
        eye = item.eyes.index(aside_m)
        piece = next(
            piece
            for piece in self._of(item)
            if isinstance(piece, Slices) and piece.eye == eye and piece.start <= number < piece.stop
        )
        values: Floats32 = self._opened(piece, progress).array(str(number))
        return values

    def frame(self, item: Film, number: int, progress: Progress) -> bytes:
        """A film frame as its file."""
        piece = next(
            piece for piece in self._of(item) if isinstance(piece, Frames) and number in piece.numbers
        )
        return self._opened(piece, progress).files[str(number)]

    def _opened(self, piece: Piece, progress: Progress) -> Result:
        """The result of a piece that holds several things, which are taken out one after the other."""
        key = self._key(piece)
        if self._in_use is None or self._in_use[0] != key:
            self._in_use = key, self.result(piece, progress)
        return self._in_use[1]


def _let_go(futures: list[Any]) -> None:
    """Say that nobody waits for these any more; where the scheduler is gone there is nobody to say it to."""
    with contextlib.suppress(*NOT_THERE):
        for future in futures:
            future.cancel()


def gone() -> MachinesGone:
    """The error for a run whose scheduler does not answer any more."""
    return MachinesGone(
        "The scheduler is gone. What was finished is kept; start the run once more with --resume."
    )


def _share(progress: Progress, number: int, count: int) -> Progress:
    return lambda share: progress((number + share) / count)


def _cause(future: Any) -> str:
    try:
        error = future.exception(timeout=10)
    except Exception:  # noqa: BLE001 - whatever keeps the cause from being told, the piece failed
        return "the machines that had it ended"
    return "the machines that had it ended" if isinstance(error, distributed.KilledWorker) else str(error)


def _last_line(fault: str) -> str:
    line = fault.strip().splitlines()[-1][:160] if fault.strip() else ""
    return f" ({line})" if line else ""
