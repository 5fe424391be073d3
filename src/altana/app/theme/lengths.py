"""Lengths and numbers in the words a person prefers: the unit of lengths, and what parts a number's
decimals."""

from __future__ import annotations

import math
from dataclasses import dataclass

from altana.core.measures import parse_length

METRES, CENTIMETRES, MILLIMETRES, FEET = "metres", "centimetres", "millimetres", "feet and inches"
UNITS = (METRES, CENTIMETRES, MILLIMETRES, FEET)
_PER_M = {METRES: (1.0, "m", 0), CENTIMETRES: (100.0, "cm", 2), MILLIMETRES: (1000.0, "mm", 3)}
_INCH_M, _FOOT_IN = 0.0254, 12.0


@dataclass(slots=True)
class Wording:
    """What is preferred; one for the window."""

    unit: str = METRES
    comma: bool = False

    def number(self, text: str) -> str:
        """A number as text, with the decimal sign that is preferred."""
        return text.replace(".", ",") if self.comma else text


#: What the window speaks in.
wording = Wording()


def length(metres: float, decimals: int = 2) -> str:
    """A length in the unit that is preferred; decimals : of metres, so that all units tell it as exactly."""
    if wording.unit == FEET:
        return _feet(metres, max(decimals - 1, 0))
    per_m, unit, fewer = _PER_M[wording.unit]
    text = f"{metres * per_m:.{max(decimals - fewer, 0)}f}"
    if float(text) == 0.0:
        text = text.replace("-", "")
    return f"{wording.number(text)} {unit}"


def _feet(metres: float, decimals: int) -> str:
    inches = round(abs(metres) / _INCH_M, decimals)
    feet = math.floor(inches / _FOOT_IN + 1e-9)
    sign = "-" if metres < 0.0 and inches else ""
    rest = wording.number(f"{abs(inches - feet * _FOOT_IN):.{decimals}f}")
    return f"{sign}{feet}' {rest}\""


def typed_length(text: str) -> float:
    """Metres from what was typed; a bare number is in the unit that is preferred, whole feet where that is
    feet.  Raises Refused."""
    tidy = text.strip().replace("−", "-")
    bare = bool(tidy) and (tidy[-1].isdigit() or tidy[-1] in ".,")
    suffix = {CENTIMETRES: " cm", MILLIMETRES: " mm", FEET: " ft"}.get(wording.unit, "")
    return parse_length(tidy + suffix if bare and not any(sign in tidy for sign in "'\"′″") else tidy)
