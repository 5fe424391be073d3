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


def kind_of(name: str, opacity: float, pictured: bool = False) -> str:
    """Glass by its opacity, water by its name, otherwise solid.

    pictured : a picture lies on it, which ripples would hide.
    """
    if not pictured and _WATER.search(name.replace("_", " ")) and not _NOT_WATER.search(name):
        return WATER
    return GLASS if opacity < SOLID_FROM else SOLID
