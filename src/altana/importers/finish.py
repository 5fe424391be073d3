"""What a surface is by its name and its opacity, where a file says no more."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from altana.core.model import GLASS, SOLID, WATER, Material

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


#: Looking-glasses as several languages call them, and what may stand beside that word: a mirror's frame or
#: cabinet is none.
_MIRROR = {
    "mirror",
    "mirrors",
    "spiegel",
    "wandspiegel",
    "badspiegel",
    "miroir",
    "espejo",
    "specchio",
    "spegel",
    "speil",
    "spejl",
    "peili",
}
_BESIDE = {
    "glass",
    "glas",
    "verre",
    "vidrio",
    "vetro",
    "silver",
    "silber",
    "clear",
    "wall",
    "bathroom",
    "bath",
    "material",
    "mat",
    "mtl",
}
#: What silver behind glass throws back of red, green and blue, and how rough it is.
_SILVER, _SMOOTH = (0.88, 0.9, 0.9), 0.02
#: A surface that is darker than the first by itself, and throws back more than the second, is nothing else.
DARK, BRIGHT = 0.2, 0.4


def is_mirror(name: str) -> bool:
    """Whether a material is called a looking-glass, and nothing else."""
    words = set(re.findall(r"[^\W\d_]+", name.lower()))
    return bool(words & _MIRROR) and words <= _MIRROR | _BESIDE


def is_silvered(colour: Sequence[float], shine: Sequence[float]) -> bool:
    """Whether a surface of this colour that throws back so much of what lies around it, of red, green and
    blue, is a looking-glass or bare metal."""
    return max(colour[:3]) < DARK and max(shine[:3]) > BRIGHT


def as_mirror(material: Material, colour: Sequence[float] = _SILVER) -> Material:
    """A material as a looking-glass that throws back so much of red, green and blue."""
    red, green, blue = (min(max(float(value), 0.0), 1.0) for value in colour[:3])
    shown = (red, green, blue, material.colour[3])
    return replace(material, colour=shown, roughness=_SMOOTH, metal=1.0, kind=SOLID)


def pane_roughness(name: str, told: float | None = None) -> float:
    """How rough a pane is.  told : what the file says of it, None where that says nothing of panes: many
    writers leave the figure of everyday surfaces with glass, and a window through which nothing is seen is
    worse than a frosted one that is clear."""
    rough = CLEAR_ROUGHNESS if told is None else told
    return max(rough, FROSTED_ROUGHNESS) if _FROSTED.search(name) else rough


def kind_of(name: str, opacity: float, pictured: bool = False) -> str:
    """Glass by its opacity, water by its name, otherwise solid.

    pictured : a picture lies on it, which ripples would hide.
    """
    if not pictured and _WATER.search(name.replace("_", " ")) and not _NOT_WATER.search(name):
        return WATER
    return GLASS if opacity < SOLID_FROM else SOLID
