"""Numbers as people type them, and as the window shows them."""

from __future__ import annotations

import math
import re

from altana.core.errors import Refused

_UNITS_M = {
    "": 1.0,
    "m": 1.0,
    "cm": 0.01,
    "mm": 0.001,
    "km": 1000.0,
    "ft": 0.3048,
    "in": 0.0254,
    "'": 0.3048,
    '"': 0.0254,
    "′": 0.3048,
    "″": 0.0254,
}
_FEET = re.compile(r"^([-+]?)\s*(\d+(?:\.\d+)?)\s*(?:'|′|ft)\s*(?:(\d+(?:\.\d+)?)\s*(?:\"|″|in)?)?$")
_PLAIN = re.compile(r"^([-+]?\d*[.,]?\d+(?:[eE][-+]?\d+)?)\s*([a-zA-Z°'\"′″%]*)$")


def parse_length(text: str) -> float:
    """Metres from ``1.6``, ``160 cm``, ``5'3"``, ``500 ft``.  Raises Refused with a sentence."""
    tidy = text.strip().replace("−", "-")
    feet = _FEET.match(tidy)
    if feet:
        sign, whole, inches = feet.groups()
        metres = float(whole) * 0.3048 + float(inches or 0.0) * 0.0254
        return -metres if sign == "-" else metres
    plain = _PLAIN.match(tidy)
    if plain and plain.group(2).lower() in _UNITS_M:
        return _finite(plain.group(1)) * _UNITS_M[plain.group(2).lower()]
    raise Refused(f"“{text}” is not a length; write 1.6, 160 cm or 5'3\".")


def parse_number(text: str, units: tuple[str, ...] = ("",)) -> float:
    """A number with one of these units, or none.  Raises Refused with a sentence."""
    plain = _PLAIN.match(text.strip().replace("−", "-"))
    if plain and plain.group(2).lower() in ("", *units):
        return _finite(plain.group(1))
    wanted = " or ".join(unit for unit in units if unit)
    raise Refused(f"“{text}” is not a number" + (f" in {wanted}." if wanted else "."))


def parse_millimetres(text: str) -> float:
    """Millimetres from ``297``, ``297 mm``, ``11.7 in``, ``30 cm``.  Raises Refused with a sentence."""
    try:
        return parse_number(text, ("mm",))
    except Refused:
        return parse_length(text) * 1000.0


_TIMES = re.compile(r"^(?:[x×*]\s*(\d+(?:[.,]\d+)?)|(\d+(?:[.,]\d+)?)[x×*])$")
_SIDES = re.compile(r"^(.+?)\s*[x×X]\s*(.+)$")
#: Dots an inch where a size on paper is typed and nothing says how fine it is printed.
USUAL_DPI = 300.0


def parse_pixels(text: str, now: float = 0.0, dpi: float = USUAL_DPI) -> tuple[float, float | None]:
    """A side in pixels, and the other one where both are typed.

    ``1920``, ``1920 x 1080``, ``10 in``, ``10 x 7 in``, ``254 mm`` at these dots an inch, ``×2`` or ``50 %``
    of what it is now.  Raises Refused with a sentence.
    """
    tidy = text.strip().replace("−", "-").removesuffix("px").strip()
    times = _TIMES.match(tidy)
    if times:
        return now * _finite(times.group(1) or times.group(2)), None
    if tidy.endswith("%"):
        return now * parse_number(tidy[:-1]) / 100.0, None
    try:
        sides = _SIDES.match(tidy)
        if sides is None:
            return _side(tidy, "", dpi), None
        first, second = sides.group(1).strip().removesuffix("px").strip(), sides.group(2)
        unit = re.sub(r"[\d.,\s]", "", second)
        return _side(first, unit, dpi), _side(second, "", dpi)
    except Refused:
        raise Refused(
            f"“{text}” is not a size; write 1920, 1920 x 1080, 10 in, 10 x 7 in, 250 mm or ×2."
        ) from None


def _side(text: str, unit: str, dpi: float) -> float:
    """One side in pixels.  unit : of the other side, which holds for this one where it has none."""
    plain = _PLAIN.match(text)
    named = plain.group(2).lower() if plain else ""
    if plain and not named:
        named = unit.lower()
    if plain and not named:
        return _finite(plain.group(1))
    if plain and named in _UNITS_M:
        return float(round(_finite(plain.group(1)) * _UNITS_M[named] / _UNITS_M["in"] * dpi))
    raise Refused("not a side")


def _finite(text: str) -> float:
    value = float(text.replace(",", "."))
    if not math.isfinite(value):
        raise Refused(f"“{text}” is too large.")
    return value
