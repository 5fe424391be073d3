"""What holds a place on the plan: corners, wall faces, centre lines, the storey's grid of angles, the middle
between walls."""

from __future__ import annotations

import math

from altana.app.workspace.scene import Scene
from altana.core.conventions import Vec2
from altana.core.edits.cameras import SHORTEST_AIM_M
from altana.core.geometry.snapping import Snap, SnapGrid
from altana.core.project import Camera
from altana.core.standing import clearances

#: How near, in pixels, the pointer must come to be held.
HOLD_PX = 8.0
#: The eye keeps this far from a wall face that holds it.
OFF_WALL_M = 0.02
#: Walls farther apart than this hold nothing between them.
WIDEST_M = 40.0


class Holding:
    """``by`` is what holds the last place that was asked for; None where nothing does."""

    def __init__(self) -> None:
        self.grid: SnapGrid | None = None
        self.by: Snap | None = None

    def place(self, place: Vec2, px_per_m: float, free: bool, off_wall: bool = False) -> Vec2:
        """The place, or what it is held by.  off_wall : an eye does not stand in the wall that holds it."""
        self.by = None
        snap = None if free or self.grid is None else self.grid.hold(place, HOLD_PX / px_per_m)
        if snap is None:
            return place
        self.by = snap
        away = math.dist(place, snap.place)
        if not off_wall or away < 1e-6:
            return snap.place
        step = OFF_WALL_M / away
        return (
            snap.place[0] + (place[0] - snap.place[0]) * step,
            snap.place[1] + (place[1] - snap.place[1]) * step,
        )

    def aim(self, eye: Vec2, place: Vec2, free: bool) -> Vec2:
        """The aim, its direction held by the storey's grid of angles unless something nearer holds it."""
        length = math.dist(eye, place)
        if free or self.by is not None or self.grid is None or length < SHORTEST_AIM_M:
            return place
        heading = math.degrees(math.atan2(place[0] - eye[0], place[1] - eye[1])) % 360.0
        angle = math.radians(self.grid.hold_heading(heading))
        return (eye[0] + math.sin(angle) * length, eye[1] + math.cos(angle) * length)

    def between(self, scene: Scene | None, camera: Camera, place: Vec2, px_per_m: float, free: bool) -> Vec2:
        """The middle between the side walls holds the eye when it comes near."""
        if free or self.by is not None or scene is None:
            return place
        _, right, _, left = clearances(scene.rays, (*place, camera.eye[2]), camera.heading_deg)
        off = (right - left) / 2
        if not math.isfinite(off) or abs(off) * px_per_m > HOLD_PX * 0.7 or left + right > WIDEST_M:
            return place
        heading = math.radians(camera.heading_deg)
        point = (place[0] + math.cos(heading) * off, place[1] - math.sin(heading) * off)
        self.by = Snap(point, "between walls")
        return point
