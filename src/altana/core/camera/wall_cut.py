"""The wall cut: a bound along a wall's face instead of across the view.

It is an upright rectangle on a wall's inner face: a line of sight that comes from the far side and passes the
rectangle meets nothing of the wall, every other one is as it was.  So an angled camera looks past one wall
and opens nothing else; what stands well before the wall stays, unless the cut is told to be deeper.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from altana.core.conventions import Floats, Vec3

#: A bound lies this far beyond the face it is set on, so that no sliver of the face is left.
HAIR_M = 0.005
#: An extent that stands for a wall without ends.
ENDLESS_M = 1e5


@dataclass(frozen=True, slots=True)
class WallCut:
    """A cut along a wall's inner face.

    ``place`` is a point on the face and ``heading_deg`` the level direction from the wall into the room that
    is kept. The rectangle reaches ``left_m`` and ``right_m`` along the wall (seen along that direction),
    ``down_m`` and ``up_m`` from the place.  ``offset_m`` moves it on into the room.  It takes away what lies
    up to ``depth_m`` before it: the wall's thickness, or all there is.
    """

    place: Vec3
    heading_deg: float
    left_m: float = ENDLESS_M
    right_m: float = ENDLESS_M
    down_m: float = ENDLESS_M
    up_m: float = ENDLESS_M
    offset_m: float = 0.0
    depth_m: float = ENDLESS_M
    on: bool = True
    name: str = ""
    object_id: str = ""

    @property
    def normal(self) -> Floats:
        """(3,) unit vector into the room."""
        turn = math.radians(self.heading_deg)
        return np.array([math.sin(turn), math.cos(turn), 0.0])

    @property
    def along(self) -> Floats:
        """(3,) unit vector along the wall, to the right seen along the normal."""
        turn = math.radians(self.heading_deg)
        return np.array([math.cos(turn), -math.sin(turn), 0.0])

    @property
    def at_m(self) -> float:
        """Where its plane lies along the normal, metres."""
        return float(np.asarray(self.place) @ self.normal) + self.offset_m

    def corners(self) -> Floats:
        """(4, 3) float64: left foot, right foot, right head, left head."""
        middle = np.asarray(self.place) + self.normal * self.offset_m
        up = np.array([0.0, 0.0, 1.0])
        return np.array(
            [
                middle + self.along * aside + up * rise
                for aside, rise in (
                    (-self.left_m, -self.down_m),
                    (self.right_m, -self.down_m),
                    (self.right_m, self.up_m),
                    (-self.left_m, self.up_m),
                )
            ]
        )

    def turned_over(self) -> WallCut:
        """The same rectangle with the other side kept."""
        return replace(
            self,
            heading_deg=(self.heading_deg + 180.0) % 360.0,
            left_m=self.right_m,
            right_m=self.left_m,
            offset_m=-self.offset_m,
        )

    def holds(self, eye: Vec3) -> bool:
        """Whether an eye stands in what is cut away, so that its sight begins on the cut."""
        return 0.0 < self.at_m - float(np.asarray(eye) @ self.normal) <= self.depth_m

    def enters(self, eye: Vec3, along: Floats) -> Floats:
        """(n,) float64: how far along (n, 3) unit rays from an eye what is cut away begins; 0 for an eye
        within."""
        before = self.at_m - self.depth_m - float(np.asarray(eye) @ self.normal)
        return np.maximum(before / np.maximum(along @ self.normal, 1e-9), 0.0)

    def distance(self, eye: Vec3, along: Floats) -> Floats:
        """(n,) float64: how far along (n, 3) unit rays from an eye the cut lies; 0 where a ray does not pass
        it."""
        behind = self.at_m - float(np.asarray(eye) @ self.normal)
        towards = along @ self.normal
        reached = np.zeros(len(along))
        if behind <= 0.0:
            return reached
        met = towards > 1e-9
        away = np.where(met, behind / np.where(met, towards, 1.0), 0.0)
        at = np.asarray(eye) + along * away[:, None] - np.asarray(self.place)
        aside, rise = at @ self.along, at[:, 2]
        inside = (
            met
            & (aside >= -self.left_m)
            & (aside <= self.right_m)
            & (rise >= -self.down_m)
            & (rise <= self.up_m)
        )
        return np.where(inside, away, 0.0)
