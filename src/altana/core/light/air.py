"""Air: far things go towards the colour of the horizon.  Haze lies on the ground, and from high above little
of it is looked through.

The share follows Beer's law for a haze that thins by height as exp(-z / HAZE_HIGH_M), along a straight line
of sight; the Frame's shader (light.frag) has the same, and a test holds the two together.
"""

from __future__ import annotations

import numpy as np

from altana.core.conventions import Floats
from altana.core.light.sky import HORIZON, Sky

#: Haze thins to a third by so many metres of height; nothing is seen of it nearer than the second.
HAZE_HIGH_M, CLEAR_M = 150.0, 40.0
#: How much of it there is a metre, in clear and in hazy air, and how bright it is against the horizon.
CLEAR_AIR, HAZY_AIR, BRIGHT = 0.00035, 0.0011, 0.9


def air_colour(scale: float) -> Floats:
    """(3,) what distance goes towards, cd/m2: the sky at the horizon, the sun's glow left out.  scale : the
    sky's."""
    colour: Floats = HORIZON * BRIGHT * scale
    return colour


def air_share(sky: Sky, ground_m: float, eye_z: Floats, seen_z: Floats, away_m: Floats) -> Floats:
    """(n,) how much of what is seen is air.

    ground_m : the height on which the haze lies.  eye_z, seen_z : (n,) heights of eyes and of what they see,
    metres; away_m : (n,) how far apart.
    """
    low = np.maximum(np.minimum(eye_z, seen_z) - ground_m, 0.0) / HAZE_HIGH_M
    high = np.maximum(np.maximum(eye_z, seen_z) - ground_m, 0.0) / HAZE_HIGH_M
    between = high - low
    dense = np.where(between > 0.01, (np.exp(-low) - np.exp(-high)) / np.maximum(between, 1e-9), np.exp(-low))
    thick = CLEAR_AIR + (HAZY_AIR - CLEAR_AIR) * sky.haze
    share: Floats = 1.0 - np.exp(-np.maximum(away_m - CLEAR_M, 0.0) * dense * thick)
    return share
