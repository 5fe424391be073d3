"""Axes, units and signs that every part of Altana shares.

Lengths are metres, right-handed, Z up.  Angles at the surface are degrees; heading is measured
clockwise from +Y seen from above, tilt is positive upwards, positive roll leans the camera
clockwise seen from behind.  Focal length, sensor and shifts are millimetres.  Pixels run right and
down from the outer corner of the top-left pixel, so pixel centres lie at .5.
"""

from __future__ import annotations

import re
from fractions import Fraction
from typing import Final

import numpy as np
import numpy.typing as npt

from altana.core.errors import Refused

Floats = npt.NDArray[np.float64]
Floats32 = npt.NDArray[np.float32]
Ints = npt.NDArray[np.int64]
Ints32 = npt.NDArray[np.int32]
#: Numbers of triangles, objects and the like, of whatever width.
Numbers = Ints | Ints32
Bools = npt.NDArray[np.bool_]
Vec3 = tuple[float, float, float]
Vec2 = tuple[float, float]

FULL_FRAME_WIDTH_MM: Final = 36.0
FULL_FRAME_HEIGHT_MM: Final = 24.0

STANDING_M: Final = 1.60
SEATED_M: Final = 1.20
LOW_M: Final = 1.00

FOCAL_INSIDE_MM: Final = 24.0
FOCAL_OUTSIDE_MM: Final = 35.0
COMMON_FOCALS_MM: Final = (16.0, 18.0, 24.0, 28.0, 35.0, 50.0, 85.0, 120.0)

NEAR_WHEN_ON_M: Final = 1.0
FAR_WHEN_ON_M: Final = 500.0
#: With the near bound off nothing is lost down to this distance.
NEAREST_M: Final = 0.01

EV_INSIDE: Final = 10.0
EV_OUTSIDE: Final = 14.0

COMMON_RATES: Final = (
    "12",
    "15",
    "20",
    "24000/1001",
    "24",
    "25",
    "30000/1001",
    "30",
    "48",
    "50",
    "60000/1001",
    "60",
    "100",
    "120",
)


def wrap_heading(heading_deg: float) -> float:
    """The same heading in [0, 360) degrees."""
    wrapped = heading_deg % 360.0
    # A tiny negative heading rounds to 360.0 exactly, which is outside the range.
    return 0.0 if wrapped >= 360.0 else wrapped


def turn_between(from_deg: float, to_deg: float) -> float:
    """The short way round from one heading to another, in (-180, 180] degrees."""
    turn = (to_deg - from_deg) % 360.0
    return turn - 360.0 if turn > 180.0 else turn


_RATE = re.compile(r"^\d{1,6}(?:[.,]\d{1,6})?(?:/\d{1,6})?$")


def parse_rate(text: str) -> Fraction:
    """A frame rate such as ``25`` or ``24000/1001`` as an exact fraction; ``23.976`` means ``24000/1001``.

    Raises Refused when the text is not a rate between 1 and 240 Hz.
    """
    tidy = text.strip().replace(" ", "")
    try:
        if not _RATE.match(tidy) or ("/" in tidy and not tidy.replace("/", "").isdigit()):
            raise ValueError(tidy)
        rate = Fraction(tidy.replace(",", "."))
    except (ValueError, ZeroDivisionError) as error:
        raise Refused(f"“{text}” is not a frame rate; write 25, 23.976 or 24000/1001.") from error
    if "." in tidy or "," in tidy:
        # Television's rates are a thousandth slower than whole ones, and are called by three of their
        # decimals.
        whole = Fraction(round(rate * 1001 / 1000) * 1000, 1001)
        rate = whole if abs(whole - rate) < Fraction(1, 1500) and rate.denominator != 1 else rate
    if not 1 <= rate <= 240:
        raise Refused(f"A rate of {text} frames a second is outside 1 to 240.")
    return rate


def rate_words(text: str) -> str:
    """A rate as people call it: ``25``, or ``23.976 (24000/1001)``."""
    rate = parse_rate(text)
    return str(rate.numerator) if rate.denominator == 1 else f"{float(rate):.3f}".rstrip("0") + f" ({rate})"


def frame_count(seconds: float, rate: Fraction) -> int:
    """Frames of a film of this length: round(seconds x rate), halves to even, at least one."""
    exact = Fraction(seconds).limit_denominator(1_000_000) * rate
    return max(1, round(exact))
