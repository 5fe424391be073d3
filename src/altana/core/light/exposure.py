"""An exposure value as f-number and shutter, at ISO 100: 2^EV = N²/t (ISO 2720)."""

from __future__ import annotations

from dataclasses import dataclass

#: Nominal f-numbers of full stops; stop k is exactly √2 to the power k.
F_NUMBERS = ("1.4", "2", "2.8", "4", "5.6", "8", "11", "16", "22")
FIRST_STOP = 1
#: The usual one, and how long and how short a shutter is before another f-number serves better.
USUAL_STOP, LONGEST_S, SHORTEST_S = 6, 1.0 / 45.0, 1.0 / 1500.0
#: Nominal shutters, as they are engraved: halves of each other, roughly.
SHUTTERS = (1, 2, 4, 8, 15, 30, 60, 125, 250, 500, 1000, 2000, 4000, 8000)


@dataclass(frozen=True, slots=True)
class Exposure:
    """A pair that gives an exposure value: the stop (f-number √2^stop) and the exact shutter, seconds."""

    stop: int
    seconds: float

    @property
    def f_number(self) -> str:
        """The nominal f-number."""
        return F_NUMBERS[self.stop - FIRST_STOP]

    @property
    def shutter(self) -> str:
        """The nearest nominal shutter, ``1/125 s`` or ``4 s``."""
        if self.seconds > 0.7:
            return (
                f"{self.seconds:.0f} s"
                if self.seconds >= 9.5
                else f"{self.seconds:.1f} s".replace(".0 s", " s")
            )
        if self.seconds > 0.3:
            return "1/2 s"
        nearest = min(
            SHUTTERS, key=lambda value: abs(value * self.seconds - 1.0) / min(1.0, value * self.seconds)
        )
        return f"1/{nearest} s"

    @property
    def words(self) -> str:
        """Both, as one says them."""
        return f"f/{self.f_number} · {self.shutter}"


def exposure_for(ev: float) -> Exposure:
    """f-number and shutter for an exposure value: f/8 where its shutter can be held by hand, else the next
    that can."""
    stop = USUAL_STOP
    while stop > FIRST_STOP and 2.0**stop / 2.0**ev > LONGEST_S:
        stop -= 1
    while stop < FIRST_STOP + len(F_NUMBERS) - 1 and 2.0**stop / 2.0**ev < SHORTEST_S:
        stop += 1
    return Exposure(stop, 2.0**stop / 2.0**ev)
