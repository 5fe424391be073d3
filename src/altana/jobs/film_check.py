"""What reading a film back found, and how far two pictures are apart."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from typing import Any

import numpy as np

from altana.render.encode import Pixels

#: A film frame differs from the Frame by less than this on average, of 255.  Encoders lose what is fine, not
#: what is where: both are compared as means of blocks.
NEAR_ENOUGH, BLOCKS_ACROSS = 5.0, 80


@dataclass(frozen=True, slots=True)
class FilmCheck:
    """What reading a film back found: ``differs`` has a sentence for everything that is not as promised;
    ``compared`` the numbers of the film frames compared with the Frame and their mean difference, of 255."""

    frames: int
    seconds: float
    rate: str
    width_px: int
    height_px: int
    compared: tuple[tuple[int, float], ...]
    differs: tuple[str, ...] = ()

    def facts(self) -> dict[str, Any]:
        """As plain values."""
        return {
            "frames": self.frames,
            "length_s": round(self.seconds, 4),
            "rate": self.rate,
            "size": [self.width_px, self.height_px],
            "compared": [[number, round(off, 2)] for number, off in self.compared],
            "differs": list(self.differs),
        }

    @property
    def sentence(self) -> str:
        """One sentence for people."""
        if self.differs:
            return f"Differs: {' '.join(self.differs)}"
        worst = max((off for _, off in self.compared), default=0.0)
        return (
            f"Checked: {self.frames} film frames, {self.seconds:.2f} s at {self.rate}, {self.width_px} × {self.height_px} px; "
            f"{len(self.compared)} film frames sought and like the Frame (within {worst:.1f} of 255)."
        )


def apart(one: Pixels, other: Pixels) -> float:
    """Mean difference of two pictures of equal size, as means of square blocks; without measure where sizes
    differ."""
    if one.shape != other.shape:
        return 255.0
    side = max(4, one.shape[1] // BLOCKS_ACROSS)
    high, wide = (size // side * side for size in one.shape[:2])
    means = [
        pixels[:high, :wide]
        .astype(np.float32)
        .reshape(high // side, side, wide // side, side, 3)
        .mean(axis=(1, 3))
        for pixels in (one, other)
    ]
    return float(np.abs(means[0] - means[1]).mean()) if means[0].size else 0.0


def rate_text(rate: Fraction) -> str:
    """A rate as it is read: 24, or 24000/1001."""
    return str(rate.numerator) if rate.denominator == 1 else f"{rate.numerator}/{rate.denominator}"
