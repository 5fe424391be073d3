"""What a run asks of other machines; who they are and how they are reached is none of its business."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any, Protocol

from altana.core.conventions import Floats32
from altana.core.errors import UserError
from altana.core.progress import Progress
from altana.jobs.requests import Film, Item, Pano, Picture, Request
from altana.render.outputs import Master

if TYPE_CHECKING:
    from altana.jobs.picture import PictureWork


class MachinesGone(UserError):
    """Nobody is there any more who could make anything: the run ends, and keeps what it has."""


@dataclass(frozen=True, slots=True)
class WholeMade:
    """A picture that was made elsewhere from beginning to end: the bytes of its file, its master, its layers
    and its faces by name, where they are wanted."""

    data: bytes
    master: bytes | None = None
    passes: bytes | None = None
    squares: dict[str, bytes] = field(default_factory=dict)


class Elsewhere(Protocol):
    """Other machines.  ``told(share)`` is called often; all raise Cancelled where it says False, and
    UserError."""

    def whole(self, item: Picture | Pano, progress: Progress) -> WholeMade | None:
        """A picture; None where it is made from parts."""

    def drawn(self, item: Picture, progress: Progress) -> Master | None:
        """The master of a still drawn in passes, from its tiles; None where it is not made from parts."""

    def traced(self, item: Picture | Pano, eye: int, progress: Progress) -> Master | None:
        """The master of a traced picture, from its bands; None where it is not made from parts.  eye : of a
        panorama for two."""

    def face(self, item: Pano, name: str, progress: Progress) -> Floats32:
        """Light of one face of a panorama."""

    def slice(self, item: Pano, aside_m: float, number: int, progress: Progress) -> Floats32:
        """Light of one slice of a panorama for two eyes."""

    def frame(self, item: Film, number: int, progress: Progress) -> bytes:
        """A film frame as its file."""


class Lent(Elsewhere, Protocol):
    """Other machines that have all they need for one request."""

    def expect(self, items: list[Item], there: Callable[[Film, int], bool]) -> None:
        """What is wanted from now on, and in which order.  there : says of a film frame whether it is drawn
        already."""

    def close(self) -> None:
        """Nothing more is wanted."""


class Machines(Protocol):
    """Other machines."""

    def facts(self) -> list[dict[str, Any]]:
        """Who did what, how fast, and what failed where, as plain values."""

    def lend(
        self,
        request: Request,
        work: PictureWork,
        items: list[Item],
        progress: Progress,
        journal: Callable[..., None],
    ) -> Lent:
        """Send what is needed for some items of a request, its light included.  Raises UserError or
        Cancelled."""
