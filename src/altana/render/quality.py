"""What a picture costs: how often it is drawn over itself, and from where each time."""

from __future__ import annotations

import math
import os
from dataclasses import dataclass, replace

from altana.core.camera.view import View

#: "0" leaves pictures at rest, and stills drawn in passes, in the light of the light map: for slow machines.
PIXEL_LIGHT_SETTING = "ALTANA_PIXEL_LIGHT"
#: Of a picture the light of so many places is reckoned at most: what one of them speaks for is told from its
#: neighbours by plane and direction.
MOST_PLACES, MOST_TIMES = 230_400, 2.0
#: Large pictures are drawn in parts of this size.
TILE_PX = 2048
#: The side of a shadow map unless another is asked for.
USUAL_SHADOW_PX = 2048


@dataclass(frozen=True, slots=True)
class Quality:
    """What a picture costs: passes, shadow map side, whether there is contact shading, size divisor.

    ``small_px`` : finely meshed objects narrower than this are drawn by their coarser versions, where a model
    is so large that it has them, and what is narrower than a twelfth of it is not drawn.
    """

    passes: int = 1
    shadow_px: int = USUAL_SHADOW_PX
    contact: bool = True
    divisor: float = 1.0
    taps: int = 4
    small_px: float = 4.0
    #: Drawn while something moves: shadows of a sun that moves come from the map of the whole building alone.
    hasty: bool = False
    #: Where all that is seen lies close together the shadow map round it is finer; not in films, whose
    #: shadows would change their sharpness from room to room.
    fitted: bool = False


def refining() -> bool:
    """Whether the light of the very places that pictures show is reckoned on this machine."""
    return os.environ.get(PIXEL_LIGHT_SETTING, "1") != "0"


COARSE = Quality(shadow_px=1024, contact=False, divisor=2.5, taps=1, small_px=24.0, hasty=True)
FULL = Quality(taps=2, small_px=10.0)
#: Small pictures, of the strip: no shadow is told from a finer one there.
SMALL = Quality(shadow_px=1024, taps=2, small_px=10.0)
STILL = Quality(passes=8, fitted=True)
#: Shadow maps of half the side do for pictures with no more pixels a radian than this: 480 across with a lens
#: of 24 mm.  A region of a large picture, or a long lens, has more.
SMALL_PX_A_RADIAN = 320.0
#: Pictures drawn so often show what floors and water mirror; in proofs it would cost more than they do.
MIRROR_PASSES = 5
#: What is out of focus is seen from at least so many places in the lens's opening.
BLUR_PASSES = 32


def rays_of(light_rays: int, pixels: int) -> float:
    """How many rays look for the light of each place of a picture: as many as its quality says where it has
    MOST_PLACES, and up to twice as many in small ones, whose grain covers more of what is seen."""
    return light_rays * min(max(MOST_PLACES / max(1, pixels), 1.0), MOST_TIMES)


def passes_of(view: View, quality: Quality) -> int:
    """How often a picture is drawn over itself: blur takes more of it to become even."""
    return (
        max(quality.passes, BLUR_PASSES) if view.blur is not None and quality.passes > 1 else quality.passes
    )


def for_size(quality: Quality, view: View) -> Quality:
    """The quality for a picture of this size: shadows need not be finer than what they are seen in, unless
    finer ones are asked for."""
    left, right, _, _ = view.edges()
    small = view.width_px / (right - left) <= SMALL_PX_A_RADIAN and quality.shadow_px == USUAL_SHADOW_PX
    return replace(quality, shadow_px=SMALL.shadow_px) if small else quality


def on_lens(number: int, count: int) -> tuple[float, float]:
    """Where in the lens's opening a pass looks through, as shares of its radius: evenly spread over the disc,
    and never two passes that follow each other side by side (the turn between them is the golden angle)."""
    away, turn = math.sqrt((number + 0.5) / count), number * math.pi * (3.0 - math.sqrt(5.0))
    return away * math.cos(turn), away * math.sin(turn)


def jittered(number: int, passes: int) -> tuple[float, float]:
    """Sample places within the pixel: an even two-dimensional sequence about its middle."""
    if passes == 1:
        return 0.0, 0.0
    return ((number + 0.5) * 0.7548776662466927) % 1.0 - 0.5, (
        (number + 0.5) * 0.5698402909980532
    ) % 1.0 - 0.5


def tiles(width: int, height: int) -> list[tuple[int, int, int, int]]:
    """The parts in which a large picture is drawn: left, top, width and height of each, pixels."""
    return [
        (x, y, min(TILE_PX, width - x), min(TILE_PX, height - y))
        for y in range(0, height, TILE_PX)
        for x in range(0, width, TILE_PX)
    ]
