"""How long a list would take on several machines: a small simulation of what the fleet does, in seconds and
bytes."""

from __future__ import annotations

import heapq
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from altana.core.project import Project
from altana.jobs.estimates import START_JOB, bytes_for, expected_for, seconds_of, short_time
from altana.jobs.machines.pieces import Face, Frames, Round, Still, Tile, a_time, pieces_of
from altana.jobs.paces import known_paces, scene_of
from altana.jobs.requests import Item, Request

#: What a plain office network carries, bytes a second; files came at 270 MB/s between processes of one
#: machine.
NETWORK = 1.1e8
#: Seconds of the run's own machine for each piece, and for each byte of a result that is read back; measured
#: on two cores (`benchmarks/machines.py`: 6.3 ms, 806 MB/s).
PIECE_S, BYTE_S = 0.0065, 1.3e-9
#: Bytes of a drawn pixel on its way where it comes in parts: three or four float32.
PART_BYTES = 16.0
COUNTS = (1, 2, 3, 4, 6, 8, 12, 16, 24, 32, 64)


@dataclass(frozen=True, slots=True)
class Cost:
    """One piece: seconds on a machine, and bytes that come back."""

    seconds: float
    size: float = 0.0


@dataclass(frozen=True, slots=True)
class Simulated:
    """What a simulation gave, seconds: in all; how long the run's own machine and its network were busy;
    machines' mean share of time at work."""

    seconds: float
    head_s: float
    network_s: float
    busy: float


def simulate(
    pieces: Sequence[Cost],
    machines: int,
    start_s: float = 0.0,
    luggage: float = 0.0,
    network: float = NETWORK,
) -> Simulated:
    """Pieces in their order, each to the machine that is free first.

    start_s : what each machine takes to begin (reading the model).  luggage : bytes that go to each machine
    once; they and all results pass one after the other through the network of the run's own machine, and
    every result is taken in by that machine alone.
    """
    sent, head, wire = 0.0, 0.0, 0.0
    free: list[float] = []
    for _ in range(machines):
        sent += luggage / network
        free.append(sent + start_s)
    wire = sent
    heapq.heapify(free)
    ends = []
    for piece in pieces:
        begin = heapq.heappop(free)
        heapq.heappush(free, begin + piece.seconds)
        ends.append((begin + piece.seconds, piece))
    carried = taken = 0.0
    for end, piece in sorted(ends, key=lambda item: item[0]):
        carried = max(carried, end) + piece.size / network
        own = PIECE_S + piece.size * BYTE_S
        taken = max(taken, carried) + own
        wire, head = wire + piece.size / network, head + own
    whole = max(taken, 0.0)
    work = sum(piece.seconds for piece in pieces)
    return Simulated(whole, head, wire, work / (machines * whole) if whole else 0.0)


@dataclass(frozen=True, slots=True)
class Plan:
    """How long a list takes on several machines of this kind: seconds by how many there are; ``sure`` as for
    any expected time."""

    seconds: dict[int, float]
    pieces: int
    sure: bool

    @property
    def enough(self) -> int:
        """So many machines that a tenth more of them would not save a twentieth of the time."""
        best = min(self.seconds.values())
        return next(count for count, took in self.seconds.items() if took <= 1.1 * best)

    def facts(self) -> dict[str, Any]:
        """As plain values."""
        return {
            "pieces": self.pieces,
            "seconds": {str(count): round(took, 1) for count, took in self.seconds.items()},
            "enough": self.enough,
            "sure": self.sure,
        }

    def lines(self) -> list[str]:
        """For people."""
        lines = [
            f"{self.pieces} pieces. On machines of this kind it takes {'about' if self.sure else 'very roughly'}:"
        ]
        lines += [f"{count:5} {short_time(took)}" for count, took in self.seconds.items()]
        return [
            *lines,
            f"More than {self.enough} hardly help: the largest piece, starting, and this machine's own share decide then.",
        ]


def plan_of(items: Sequence[Item], request: Request) -> Plan:
    """Plan a request's items by the paces that are known."""
    project: Project = request.project
    costs = [cost for item in items for cost in _costs(item, request)]
    scene = scene_of(project)
    start = known_paces().expected(START_JOB, scene).seconds
    seconds = {count: simulate(costs, count, start, 50e6).seconds for count in COUNTS}
    sure = expected_for(items, request.quality, project.qualities, scene).sure
    return Plan(seconds, len(costs), sure)


def _costs(item: Item, request: Request) -> list[Cost]:
    whole = seconds_of(item, request.quality, request.project.qualities, scene=scene_of(request.project))
    pieces = pieces_of(item, request, a_time(item, request))
    first = pieces[0]
    if isinstance(first, Still | Round):
        return [Cost(whole, bytes_for(item, getattr(item, "quality", "") or request.quality))]
    if isinstance(first, Frames):
        count = sum(len(piece.numbers) for piece in pieces if isinstance(piece, Frames))
        # A film frame travels as PNG.
        size = 1.5 * item.width_px * item.height_px
        parts = [len(piece.numbers) for piece in pieces if isinstance(piece, Frames)]
        return [Cost(whole * part / count, size * part) for part in parts]
    size = (
        item.width_px
        * item.height_px
        * PART_BYTES
        * (1.7 if isinstance(first, Face) else 1.0 if isinstance(first, Tile) else 2.5)
    )
    return [Cost(whole / len(pieces), size / len(pieces)) for _ in pieces]
