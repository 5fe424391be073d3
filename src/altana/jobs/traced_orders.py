"""Orders of path tracing: to the child that traces, and to machines that trace a part."""

from __future__ import annotations

from dataclasses import dataclass

from altana.core.conventions import Floats32
from altana.core.project import Light
from altana.core.staging import Staging
from altana.jobs.orders import Order, Reply
from altana.render.traced.sights import Sights


@dataclass(frozen=True, slots=True)
class TracePicture(Order):
    """A picture by path tracing.  Answered with TraceProgress and in the end Traced.

    ``sights`` : the rays of its pixels.  ``samples`` a pixel, or what is done after ``seconds`` (0: no
    limit).  ``keep`` : the file in which unfinished sums are kept, empty for none; ``enough`` : a file that
    says, while it is there, to stop with what there is.
    """

    sights: Sights
    light: Light
    staging: Staging
    ev: float
    samples: int
    seconds: float = 0.0
    #: Stop where no more grain than this is left, as ``Sums.grain`` says it; 0: whatever is left.
    grain: float = 0.0
    white: bool = False
    sky_shown: bool = True
    seed: int = 1
    keep: str = ""
    enough: str = ""
    #: Whether the answer brings colour and direction of what is first seen, too.
    guides: bool = False
    #: Only one band of it (``render.traced.tracer.bands``), answered with TracedBand; -1: all of it.
    band: int = -1


@dataclass(frozen=True, slots=True)
class TraceProgress(Reply):
    """How many samples there are, how far the work is, and how much grain is left."""

    samples: int
    share: float
    grain: float

    @property
    def final(self) -> bool:
        return False


@dataclass(frozen=True, slots=True)
class TracedBand(Reply):
    """Some rows of a picture with its grain: means over all samples of light (rows, width, 3) and coverage
    (rows, width), and what guides the denoiser, both (rows, width, 3)."""

    light: Floats32
    cover: Floats32
    albedo: Floats32
    normal: Floats32


@dataclass(frozen=True, slots=True)
class Traced(Reply):
    """Light (height, width, 3) in cd/m2 of what covers each pixel, without grain; coverage (height, width);
    samples a pixel; where it was asked for, ``albedo`` (height, width, 3), the colour of what is first seen
    behind panes, linear."""

    light: Floats32
    cover: Floats32
    samples: int
    albedo: Floats32 | None = None
