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


def _finite(text: str) -> float:
    value = float(text.replace(",", "."))
    if not math.isfinite(value):
        raise Refused(f"“{text}” is too large.")
    return value
