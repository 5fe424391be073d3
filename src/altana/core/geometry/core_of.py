"""Where in a model the building stands: what most triangles belong to, without far surroundings."""

from __future__ import annotations

import numpy as np

from altana.core.conventions import Floats
from altana.core.model import Model

#: About so many triangles are looked at.
LOOKED_AT = 400_000
#: The building is taken for no smaller and no larger than this, metres from its middle.
LEAST_M, MOST_M = 5.0, 90.0


def core_of(model: Model) -> tuple[Floats, float, float]:
    """Middle (3,), radius and lowest height of what most triangles belong to, metres."""
    middle = model.vertices[model.faces[:: max(1, len(model.faces) // LOOKED_AT)]].mean(axis=1).astype(float)
    low, high = np.percentile(middle, 1.0, axis=0), np.percentile(middle, 99.0, axis=0)
    centre = np.median(middle, axis=0)
    reach = np.linalg.norm(np.maximum(high - centre, centre - low)[:2])
    return centre, float(np.clip(reach, LEAST_M, MOST_M)), float(low[2])
