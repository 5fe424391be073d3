"""What a surface is by its name and its opacity, where a file says no more."""

from __future__ import annotations

import re

from altana.core.model import GLASS, SOLID, WATER

#: Opacity from which on a surface is solid.
SOLID_FROM = 0.9
_WATER = re.compile(r"(?<![a-z])(water|lake|sea|pond|river|ocean|pool)(?![a-z])", re.IGNORECASE)
#: Words that tell of something else of that name: a colour, a pipe, a wall round a pool.
_NOT_WATER = re.compile(
    r"(paint|wall|tile|plaster|coat|paper|board|stain|colou?r|[- ]?(blue|green|grey|gray)|pipe|tank|heater|proof|tap|closet|meter|boiler|"
    r"wood|stone|grass|shell|side|front|table|house|deck|edge|ladder|cover)",
    re.IGNORECASE,
)


_FROSTED = re.compile(
    r"frost|satin|milk|opal|etched|sand[ -]?blast|translucent|obscure|opaque glass", re.IGNORECASE
)
#: A pane of which a file says nothing more, and one that is called frosted.
CLEAR_ROUGHNESS, FROSTED_ROUGHNESS = 0.1, 0.5


def pane_roughness(name: str, told: float | None = None) -> float:
    """How rough a pane is.  told : what the file says of it, None where that says nothing of panes: many writers leave the figure of
    everyday surfaces with glass, and a window through which nothing is seen is worse than a frosted one that is clear."""
    rough = CLEAR_ROUGHNESS if told is None else told
    return max(rough, FROSTED_ROUGHNESS) if _FROSTED.search(name) else rough


def kind_of(name: str, opacity: float, pictured: bool = False) -> str:
    """Glass by its opacity, water by its name, otherwise solid.

    pictured : a picture lies on it, which ripples would hide.
    """
    if not pictured and _WATER.search(name.replace("_", " ")) and not _NOT_WATER.search(name):
        return WATER
    return GLASS if opacity < SOLID_FROM else SOLID
