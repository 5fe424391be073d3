"""What of a difference between neighbours is grain of few rays, and what is light: the weights by which it is
taken out."""

from __future__ import annotations

import numpy as np

from altana.core.conventions import Floats

#: Light that differs by more than STEP standard errors is no grain, or by more than MUCH_STEP where the light
#: itself is hardly known: by GRAINS of it.
STEP, MUCH_STEP, GRAINS = 2.0, 4.0, (0.15, 0.35)
#: A neighbour whose light is far less known than its own says no more than one that is so much less known.
MOST_UNSURE = 2.0
#: Differences that are no matter, as a share of the light.
ALIKE = 0.02


def steps(share: Floats) -> Floats:
    """(n,) by how many standard errors light may differ where it is known up to a ``share`` (n,) of it."""
    return np.interp(share, GRAINS, (STEP, MUCH_STEP))


def agreement(off: Floats, step: Floats, error: Floats, others: Floats, level: Floats) -> Floats:
    """How much neighbours count, 0 to 1.

    off : how much their light differs, lux.  step : as ``steps`` says.  error, others : squares of the
    standard errors, of what takes and of its neighbours.  level : its light, lux.
    """
    bound = step**2 * (error + np.minimum(others, MOST_UNSURE * error)) + (ALIKE * level) ** 2 + 1e-6
    counts: Floats = np.exp(-(off**2) / bound)
    return counts
