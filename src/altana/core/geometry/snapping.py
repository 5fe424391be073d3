"""What a pointer on the plan holds on to: corners, wall faces, centre lines of walls, and the storey's
directions."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from altana.core.conventions import Floats, Vec2
from altana.core.geometry.drawing import Outline

#: Shorter pieces of outline are joints and rebates, not walls.
SHORTEST_WALL_M = 0.25
THICKNESS_M = (0.04, 0.75)
#: Directions are held in these steps from the storey's own grid.
ANGLE_STEP_DEG = 15.0


@dataclass(frozen=True, slots=True)
class Snap:
    """Where the pointer is held, and by what: "corner", "wall face" or "wall centre"."""

    place: Vec2
    kind: str


@dataclass(frozen=True, slots=True)
class SnapGrid:
    """corners (k, 2), faces (m, 2, 2) and centres (c, 2, 2) in metres; ``grid_deg`` is the direction most
    walls run in, in degrees from 0 to 90."""

    corners: Floats
    faces: Floats
    centres: Floats
    grid_deg: float

    def hold(self, place: Vec2, reach_m: float) -> Snap | None:
        """The nearest corner in reach, else the nearest face or centre line; None when nothing is near."""
        point = np.asarray(place, float)
        if len(self.corners):
            away = np.linalg.norm(self.corners - point, axis=1)
            nearest = int(np.argmin(away))
            if away[nearest] <= reach_m:
                return Snap((float(self.corners[nearest, 0]), float(self.corners[nearest, 1])), "corner")
        best: tuple[float, Snap] | None = None
        for lines, kind in ((self.faces, "wall face"), (self.centres, "wall centre")):
            on_line = _nearest_on(lines, point)
            if on_line is not None and on_line[0] <= reach_m and (best is None or on_line[0] < best[0]):
                best = (on_line[0], Snap(on_line[1], kind))
        return best[1] if best else None

    def hold_heading(self, heading_deg: float, within_deg: float = 2.0) -> float:
        """The nearest direction of the storey's grid when it is close, else the heading itself."""
        off = (heading_deg - self.grid_deg) / ANGLE_STEP_DEG
        nearest = round(off) * ANGLE_STEP_DEG + self.grid_deg
        return nearest % 360.0 if abs(nearest - heading_deg) <= within_deg else heading_deg


def _nearest_on(lines: Floats, point: Floats) -> tuple[float, Vec2] | None:
    if not len(lines):
        return None
    start, run = lines[:, 0], lines[:, 1] - lines[:, 0]
    share = np.clip(
        np.einsum("ij,ij->i", point - start, run) / np.maximum(np.einsum("ij,ij->i", run, run), 1e-12),
        0.0,
        1.0,
    )
    foot = start + run * share[:, None]
    away = np.linalg.norm(foot - point, axis=1)
    nearest = int(np.argmin(away))
    return float(away[nearest]), (float(foot[nearest, 0]), float(foot[nearest, 1]))


def snap_grid(outlines: Sequence[Outline]) -> SnapGrid:
    """What can be held on to in the cut of a storey."""
    solid = [_joined(outline.points) for outline in outlines if outline.closed and not outline.glass]
    if not solid:
        return SnapGrid(np.zeros((0, 2)), np.zeros((0, 2, 2)), np.zeros((0, 2, 2)), 0.0)
    lines = np.concatenate([np.stack([points[:-1], points[1:]], axis=1) for points in solid])
    length = np.linalg.norm(lines[:, 1] - lines[:, 0], axis=1)
    walls = lines[length >= SHORTEST_WALL_M]
    corners = np.concatenate([points[:-1] for points in solid if len(points) <= 60] or [np.zeros((0, 2))])
    return SnapGrid(corners, walls, _centre_lines(walls), _grid(walls))


def _joined(points: Floats) -> Floats:
    """An outline without the points in the middle of its straight runs."""
    ring = points[:-1]
    before, after = np.roll(ring, 1, axis=0), np.roll(ring, -1, axis=0)
    a, b = ring - before, after - ring
    bend = np.abs(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0])
    kept = ring[bend > 1e-3 * np.maximum(np.linalg.norm(a, axis=1) * np.linalg.norm(b, axis=1), 1e-9)]
    return np.concatenate([kept, kept[:1]]) if len(kept) >= 3 else points


def _grid(walls: Floats) -> float:
    """The direction in which most metres of wall run, modulo a right angle."""
    if not len(walls):
        return 0.0
    run = walls[:, 1] - walls[:, 0]
    length = np.linalg.norm(run, axis=1)
    angle = np.degrees(np.arctan2(run[:, 0], run[:, 1])) % 90.0
    bins = np.round(angle * 10).astype(int) % 900
    best = int(np.argmax(np.bincount(bins, weights=length, minlength=900)))
    near = np.minimum(np.abs(angle - best / 10), 90.0 - np.abs(angle - best / 10)) < 0.2
    turn = np.radians(angle[near] * 4)
    mean = (
        np.degrees(np.arctan2((np.sin(turn) * length[near]).sum(), (np.cos(turn) * length[near]).sum())) / 4
    )
    return round(float(mean % 90.0), 4) % 90.0


def _centre_lines(walls: Floats) -> Floats:
    """Half way between parallel faces that run against each other at a wall's thickness."""
    if len(walls) < 2 or len(walls) > 4000:
        return np.zeros((0, 2, 2))
    run = walls[:, 1] - walls[:, 0]
    length = np.linalg.norm(run, axis=1)
    along = run / length[:, None]
    lines = []
    for index in range(len(walls)):
        opposed = along @ along[index] < -0.9999
        offset = (walls[:, 0] - walls[index, 0]) @ np.array([-along[index, 1], along[index, 0]])
        near = opposed & (np.abs(offset) >= THICKNESS_M[0]) & (np.abs(offset) <= THICKNESS_M[1])
        near[: index + 1] = False
        for other in np.flatnonzero(near).tolist():
            place = (walls[other] - walls[index, 0]) @ along[index]
            low, high = max(0.0, float(place.min())), min(float(length[index]), float(place.max()))
            if high - low >= SHORTEST_WALL_M:
                side = np.array([-along[index, 1], along[index, 0]]) * (offset[other] / 2)
                lines.append(
                    [
                        walls[index, 0] + along[index] * low + side,
                        walls[index, 0] + along[index] * high + side,
                    ]
                )
    return np.array(lines).reshape(-1, 2, 2)
