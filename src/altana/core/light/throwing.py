"""What surfaces throw at each other under one sky: the sky and the sun's first bounce, and a matrix for each
further one."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace

import numpy as np
import scipy

from altana.core.conventions import Floats, Ints
from altana.core.light.gathering import Gatherer
from altana.core.light.seen import GROUPS, THREADS, Seen, sums
from altana.core.light.sky import Sky


@dataclass(frozen=True, slots=True)
class Throwing:
    """``steady`` (GROUPS n, 3) lux times rays that sky and sunlit surfaces bring to each group of rays, and
    for each colour what the light (n,) of the sides brings there: matrices (GROUPS n, n)."""

    steady: Floats
    throws: tuple[scipy.sparse.csr_array, ...]

    @classmethod
    def of(cls, seen: Seen, gatherer: Gatherer, sky: Sky, lamps: Floats | None = None) -> Throwing:
        """What is thrown at sides that see this.  lamps : (n, 3) lux straight from lamps."""
        met, surfaces = seen.met, gatherer.surfaces
        sunlit = met.sunlit(gatherer.rays, gatherer.panes, np.asarray(sky.sun), surfaces.normal)
        steady = seen.away.brought(sky)
        starts = met.starts.astype(np.int32) if len(met.side) < 2**31 else met.starts
        shape = (len(starts) - 1, (len(starts) - 1) // GROUPS)
        # What smooth surfaces mirror of each other rays have followed, and of the sun its beams; of lamps
        # they throw a mean, and of the sun too where they are small or bent.
        gloss = surfaces.gloss
        sheen = None if gloss is None else gloss.sheen[met.face]
        bent = None if gloss is None else gloss.plane[met.face] < 0
        throws = []
        for k in range(3):
            passed = np.ascontiguousarray(met.passed[:, min(k, met.passed.shape[1] - 1)])
            reflect = np.ascontiguousarray(surfaces.albedo[:, k])[met.face] * passed
            sunny = sunlit[:, min(k, sunlit.shape[1] - 1)] * np.float32(sky.sun_lux[k])
            if sheen is not None and bent is not None:
                mirrored = sheen * passed
                # Whoever gives a reflectance may have left the sheen out of it.
                reflect = np.maximum(reflect - mirrored, np.float32(0.0))
                steady[:, k] += sums(met.starts, mirrored * bent * sunny)
                if lamps is not None and lamps.any():
                    steady[:, k] += sums(met.starts, mirrored * lamps[met.side, k].astype(np.float32))
            steady[:, k] += sums(met.starts, reflect * sunny)
            # Put together by hand: pairs that there are twice need not be found and added up, which takes as
            # long as all the bounces.
            throws.append(scipy.sparse.csr_array((reflect, met.side, starts), shape=shape))
        return cls(steady, tuple(throws))

    def with_steady(self, steady: Floats) -> Throwing:
        """The same with other light (GROUPS n, 3) besides."""
        return replace(self, steady=self.steady + steady)

    def grey(self) -> Throwing:
        """The same without colours, in one."""
        first = self.throws[0]
        mean = np.zeros(len(first.data), np.float32)
        for throw in self.throws:
            mean += throw.data
        mean /= len(self.throws)
        matrix = scipy.sparse.csr_array((mean, first.indices, first.indptr), shape=first.shape)
        return Throwing(self.steady.mean(axis=1, keepdims=True), (matrix,))

    def brought(self, light: Floats | None) -> Floats:
        """(n, GROUPS, colours) lux times rays that each group of rays brings, once the sides have light
        (n, colours); none: not yet."""
        groups = self.steady
        if light is not None:
            columns = np.ascontiguousarray(light.T, np.float32)
            with ThreadPoolExecutor(THREADS) as pool:
                groups = groups + np.stack(
                    list(pool.map(lambda k: self.throws[k] @ columns[k], range(len(columns)))), axis=1
                )
        return groups.reshape(-1, GROUPS, groups.shape[1])


@dataclass(frozen=True, slots=True)
class Exchange:
    """The light that sides exchange: rays of all of them, ``more`` rays of some; what each ray counts,
    ``weight`` (n,); and light that comes to sides straight from lamps (n, 3) lux."""

    all: Throwing
    more: Throwing | None
    weight: Floats
    lamps: Floats

    def light(self, bounces: int, carried: Ints | None = None) -> tuple[Floats, Floats]:
        """(n, colours) lux after so many bounces, and (n,) how far it may be off: the standard error from its
        rays in groups.

        carried : (n,) the side whose light each throws on.
        """
        lamps = self.lamps if self.all.steady.shape[1] == 3 else self.lamps.mean(axis=1, keepdims=True)
        groups = self._groups(None)
        light = self._summed(groups, lamps)
        for _ in range(bounces):
            groups = self._groups(light if carried is None else light[carried])
            light = self._summed(groups, lamps)
        error: Floats = groups.mean(axis=2).std(axis=1, ddof=1) * np.sqrt(GROUPS) * self.weight
        return light, error

    def _summed(self, groups: Floats, lamps: Floats) -> Floats:
        # One after the other: twice as fast as a sum over so short an axis.
        total: Floats = sum((groups[:, number] for number in range(1, GROUPS)), groups[:, 0])
        return total * self.weight[:, None] + lamps

    def _groups(self, light: Floats | None) -> Floats:
        groups = self.all.brought(light)
        return groups if self.more is None else groups + self.more.brought(light)
