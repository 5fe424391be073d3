"""What a path draws at random, spread evenly over the samples of a pixel, so that fewer of them are needed.

Each draw of a path is a point of a Sobol sequence of its own, scrambled as Owen does and taken in an order of
its own, by hashes (B. Burley, "Practical hash-based Owen scrambling", JCGT 9(4), 2020; the hash is S. Laine's
and T. Karras's with N. Vegdahl's constants).  So the samples of a pixel lie evenly for each draw and each
pair of draws, however many there will be; no two draws and no two pixels are alike.
"""

from __future__ import annotations

from types import ModuleType
from typing import Any

#: What steps from one draw of a path to the next, and from a draw to its second number, in the keys of
#: hashes.
NEXT, ORDER, FIRST, SECOND = 0x9E3779B9, 0x85EBCA6B, 0x6A09E667, 0xC2B2AE35
#: The second number of a Sobol point from the first: sums of bits by Pascal's triangle, halves of halves.
PASCAL = ((1, 0x55555555), (2, 0x33333333), (4, 0x0F0F0F0F), (8, 0x00FF00FF), (16, 0x0000FFFF))


def turned(number: int) -> int:
    """A number of 32 bits with its bits in the other order."""
    return int(f"{number & 0xFFFFFFFF:032b}"[::-1], 2)


def even_draws(mi: ModuleType) -> type[Any]:
    """The class of samplers for this variant of the path tracer."""
    import drjit as dr

    whole = mi.UInt32

    def scrambled(bits: Any, key: Any) -> Any:
        """Owen's scrambling of numbers whose bits are turned round."""
        bits = bits ^ (bits * whole(0x3D20ADEA))
        bits = bits + key
        bits = bits * ((key >> 16) | whole(1))
        bits = bits ^ (bits * whole(0x05526C56))
        return bits ^ (bits * whole(0x53A22864))

    def share(bits: Any) -> Any:
        return mi.Float(dr.brev(bits) >> 8) * mi.Float(2.0**-24)

    class EvenDraws(mi.Sampler):  # type: ignore[name-defined, misc]
        """Draws for one sample of many pixels."""

        def __init__(self) -> None:
            super().__init__(mi.Properties())
            self.sample, self.key, self.draw = whole(0), whole(0), whole(0)

        def begin(self, sample: Any, key: Any) -> None:
            """sample : the number of the sample, its bits ``turned``.  key : for each pixel another."""
            self.sample, self.key, self.draw = sample, key, dr.zeros(whole, dr.width(key))

        def _place(self) -> tuple[Any, Any]:
            key = hashed(mi, self.key + self.draw * whole(NEXT))
            self.draw = self.draw + 1
            return dr.brev(scrambled(self.sample, key)), key

        def next_1d(self, active: Any = True) -> Any:
            """One number, 0 to 1."""
            place, key = self._place()
            return share(scrambled(place, key * whole(ORDER) + whole(FIRST)))

        def next_2d(self, active: Any = True) -> Any:
            """Two numbers, 0 to 1."""
            place, key = self._place()
            other = place
            for step, mask in PASCAL:
                other = other ^ ((other >> step) & whole(mask))
            return mi.Point2f(
                share(scrambled(place, key * whole(ORDER) + whole(FIRST))),
                share(scrambled(other, key * whole(SECOND) + whole(FIRST))),
            )

    return EvenDraws


def hashed(mi: ModuleType, value: Any) -> Any:
    """Numbers that look random, of whole numbers (C. Wellons's search)."""
    whole = mi.UInt32
    value = value ^ (value >> 16)
    value = value * whole(0x21F0AAAD)
    value = value ^ (value >> 15)
    value = value * whole(0xD35A2D97)
    return value ^ (value >> 15)
