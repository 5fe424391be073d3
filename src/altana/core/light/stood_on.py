"""Small planes on which something stands, as a window's frame does in its reveal: their corners do not say
how light lies between them."""

from __future__ import annotations

import numpy as np

from altana.core.conventions import Bools, Floats, Ints
from altana.core.geometry.rays import RayScene

#: Lines across a plane, as shares of its other side; they begin so far from its rim and run so far before it,
#: metres.
LINES, RIM_M, BEFORE_M = (0.2, 0.5, 0.8), 0.01, 0.02
#: Narrower planes are not looked at.
NARROWEST_M = 0.1


def stood_upon(
    rays: RayScene,
    which: Ints,
    normal: Floats,
    level: Floats,
    axes: tuple[Floats, Floats],
    low: Floats,
    size: Floats,
) -> Bools:
    """(k,) whether anything stands across planes.  which : (k,) their numbers, rows of ``low`` and ``size``
    (n, 2), metres on their ``axes``, twice (n, 3); normal : (n, 3), level : (n,) how far along it they
    lie."""
    stands = np.zeros(len(which), bool)
    u, v = (axis[which] for axis in axes)
    low, size, ahead = low[which], size[which], normal[which]
    middle = ahead * level[which, None]
    wide = np.flatnonzero(size.min(axis=1) >= NARROWEST_M)
    for sign in (1.0, -1.0):
        lifted = middle + ahead * (sign * BEFORE_M)
        for along, across in ((0, 1), (1, 0)):
            for share in LINES:
                ends = []
                for end in (low[:, along] + RIM_M, low[:, along] + size[:, along] - RIM_M):
                    at = np.empty_like(low)
                    at[:, along], at[:, across] = end, low[:, across] + share * size[:, across]
                    ends.append(lifted + at[:, :1] * u + at[:, 1:] * v)
                run = ends[1] - ends[0]
                length = np.maximum(np.linalg.norm(run, axis=1), 1e-9)
                some = wide[~stands[wide]]
                stands[some] = rays.shaded(ends[0][some], run[some] / length[some, None], length[some])
    return stands
