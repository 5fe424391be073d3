"""Rays on their way: as sides send them, and as lines that bring light."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from altana.core.conventions import Bools, Floats32, Ints, Ints32
from altana.core.light.seen import GROUPS


@dataclass(frozen=True, slots=True)
class RayBundle:
    """Rays of some sides (k, r): where from, where to, the triangle each meets (-1: none), how far, whether
    from behind, and whether from within a body."""

    origin: Floats32
    out: Floats32
    face: Ints32
    run: Floats32
    behind: Bools
    inner: Bools

    @classmethod
    def none(cls, origin: Floats32, out: Floats32) -> RayBundle:
        """Rays that are not sent yet: they meet nothing."""
        shape = out.shape[:2]
        run = np.full(shape, np.inf, np.float32)
        return cls(
            origin, out, np.full(shape, -1, np.int32), run, np.zeros(shape, bool), np.zeros(shape, bool)
        )


@dataclass(frozen=True, slots=True)
class Lines:
    """Rays that count, each of a ``group`` (k,) of its side: where from, where to, what each meets and how
    far away, whether from behind, the share (k, 3 or 1) of its light that comes, and whether it comes
    ``straight`` (k,), mirrored by nothing."""

    group: Ints
    origin: Floats32
    out: Floats32
    face: Ints32
    run: Floats32
    behind: Bools
    passed: Floats32
    straight: Bools

    @classmethod
    def of(cls, sent: RayBundle, counted: Bools) -> Lines:
        """Of the rays of some sides those that count (k, r); nothing is lost of them."""
        sides, rays = counted.shape
        group = np.arange(sides)[:, None] * GROUPS + np.arange(rays)[None] // (rays // GROUPS)
        return cls(
            group[counted],
            sent.origin[counted],
            sent.out[counted],
            sent.face[counted],
            sent.run[counted],
            sent.behind[counted],
            np.ones((int(counted.sum()), 1), np.float32),
            np.ones(int(counted.sum()), bool),
        )

    def only(self, which: Bools | Ints) -> Lines:
        """Those (k,) alone."""
        return Lines(*(getattr(self, name)[which] for name in self.__dataclass_fields__))

    def and_(self, other: Lines) -> Lines:
        """These and behind them others, not sorted."""
        pairs = ((getattr(self, name), getattr(other, name)) for name in self.__dataclass_fields__)
        return Lines(*(np.concatenate(pair) for pair in pairs))

    def sorted(self) -> Lines:
        """The same, sorted by their groups."""
        return self.only(np.argsort(self.group, kind="stable"))
