"""A check of the real vertical edges in a picture: how far they deviate from vertical, in pixels of the
output.

The model's own edges are asked, those within a tenth of a degree of vertical; of each the longest stretch
that can be seen counts, if it is long enough to be noticed.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from altana.core.camera.bounds import cut_away, look
from altana.core.camera.view import View
from altana.core.conventions import Bools, Floats
from altana.core.geometry.edges import edges_of
from altana.core.geometry.rays import RayScene
from altana.core.model import Model

#: Edges of the model that lean by more than this are not meant to be vertical.
UPRIGHT_DEG = 0.1
SHORTEST_M = 0.2
#: A seen edge counts from this share of the frame's height on.
SHARE = 0.10
MOST_EDGES = 240
SAMPLES = 25
NO_LINES: Floats = np.zeros((0, 2, 2))


@dataclass(frozen=True, slots=True, eq=False)
class Verticals:
    """``lines`` (k, 2, 2) in pixels of the output, lower end first, ``deviation_px`` (k,) how far the upper
    end lies to the right of the lower, and the largest of all in size."""

    lines: Floats
    deviation_px: Floats

    @property
    def worst_px(self) -> float:
        """The largest deviation in size; 0 where no vertical edge is seen."""
        return float(np.abs(self.deviation_px).max()) if len(self.deviation_px) else 0.0

    @property
    def count(self) -> int:
        """How many edges were seen."""
        return len(self.deviation_px)


NO_VERTICALS = Verticals(NO_LINES, np.zeros(0))


def upright_edges(model: Model) -> Floats:
    """(k, 2, 3) float64: the model's vertical edges, lower end first; pieces of one edge that meet are
    joined."""
    points = edges_of(model).points.astype(float)
    if not len(points):
        return np.zeros((0, 2, 3))
    turned = points[:, 0, 2] > points[:, 1, 2]
    points = np.where(turned[:, None, None], points[:, ::-1], points)
    run = points[:, 1] - points[:, 0]
    upright = np.hypot(run[:, 0], run[:, 1]) <= np.tan(np.radians(UPRIGHT_DEG)) * np.maximum(run[:, 2], 0.0)
    points = points[upright & (run[:, 2] > 0.01)]
    place = np.round(points[:, 0, :2] / 2e-3).astype(np.int64)
    order = np.lexsort((points[:, 0, 2], place[:, 1], place[:, 0]))
    points, place = points[order], place[order]
    joined: list[Floats] = []
    last = None
    for line, at in zip(points, map(tuple, place.tolist()), strict=True):
        if last == at and line[0, 2] <= joined[-1][1, 2] + 2e-3:
            if line[1, 2] > joined[-1][1, 2]:
                joined[-1] = np.stack([joined[-1][0], line[1]])
        else:
            joined.append(line)
        last = at
    edges = np.array(joined).reshape(-1, 2, 3)
    kept: Floats = edges[edges[:, 1, 2] - edges[:, 0, 2] >= SHORTEST_M]
    return kept


def check_verticals(
    edges: Floats, view: View, rays: RayScene, passed: Bools, share: float = SHARE
) -> Verticals:
    """The seen vertical edges of a view and their deviation.

    edges : from :func:`upright_edges`; passed : what sight goes through, as in
    :mod:`altana.core.geometry.sight`.
    share : of the frame's height that a seen stretch must have.
    """
    if not len(edges):
        return NO_VERTICALS
    chosen = _promising(edges, view, share)
    if not len(chosen):
        return NO_VERTICALS
    along = np.linspace(0.0, 1.0, SAMPLES)
    places = chosen[:, :1] + (chosen[:, 1:] - chosen[:, :1]) * along[None, :, None]
    flat = places.reshape(-1, 3)
    pixels = view.project(flat)
    inside = (pixels[:, 2] > 1e-3) & (pixels[:, 0] >= 0) & (pixels[:, 0] <= view.width_px)
    inside &= (pixels[:, 1] >= -0.5) & (pixels[:, 1] <= view.height_px + 0.5)
    seen = np.zeros(len(flat), bool)
    seen[inside] = _visible(flat[inside], view, rays, passed)
    first, last = _longest_run(seen.reshape(-1, SAMPLES))
    rows = np.arange(len(chosen))
    pixel = pixels[:, :2].reshape(-1, SAMPLES, 2)
    low, high = pixel[rows, first], pixel[rows, last]
    long = (last > first) & (np.linalg.norm(high - low, axis=1) >= share * view.height_px)
    return Verticals(np.stack([low, high], axis=1)[long], (high - low)[long, 0])


def _promising(edges: Floats, view: View, share: float) -> Floats:
    """The longest edges in the frame, cut to what lies before the eye and within the frame's height."""
    right, up, forward = view.pose.axes()
    offsets = edges - np.asarray(view.pose.eye)
    x, y, z = offsets @ right, offsets @ up, offsets @ forward
    left, right_edge, bottom, top = view.edges()
    enter, leave = np.zeros(len(edges)), np.ones(len(edges))
    # Inside the frame each of these is positive; each runs evenly along an edge, so the crossing is a share.
    for inside in (z - 0.05, x - left * z, right_edge * z - x, y - bottom * z, top * z - y):
        run = inside[:, 1] - inside[:, 0]
        at = -inside[:, 0] / np.where(np.abs(run) < 1e-12, 1.0, run)
        enter = np.where(run > 1e-12, np.maximum(enter, at), enter)
        leave = np.where(run < -1e-12, np.minimum(leave, at), leave)
        gone = (np.abs(run) <= 1e-12) & (inside[:, 0] < 0)
        leave = np.where(gone, -1.0, leave)
    there = enter < leave - 1e-6
    run = edges[:, 1] - edges[:, 0]
    cut = np.stack([edges[:, 0] + run * enter[:, None], edges[:, 0] + run * leave[:, None]], axis=1)[there]
    pixels = view.project(cut.reshape(-1, 3))[:, :2].reshape(-1, 2, 2)
    length = np.linalg.norm(pixels[:, 1] - pixels[:, 0], axis=1)
    order = np.argsort(-length)[:MOST_EDGES]
    chosen: Floats = cut[order][length[order] >= share * view.height_px]
    return chosen


def _visible(points: Floats, view: View, rays: RayScene, passed: Bools) -> Bools:
    """(n,) bool: which points nothing hides; the faces that meet at an edge do not hide it."""
    offsets = points - np.asarray(view.pose.eye)
    away = np.linalg.norm(offsets, axis=1)
    along = offsets / away[:, None]
    reached = look(view, rays, along, passed)[1].distance_m
    seen: Bools = (reached >= away * (1.0 - 1e-3) - 5e-3) & ~cut_away(view, points)
    return seen


def _longest_run(seen: Bools) -> tuple[np.ndarray, np.ndarray]:
    """First and last index of the longest run of True in each row; equal where there is none."""
    count = seen.shape[1]
    length = np.zeros(len(seen), int)
    best, end = np.zeros(len(seen), int), np.zeros(len(seen), int)
    for column in range(count):
        length = np.where(seen[:, column], length + 1, 0)
        better = length > best
        best, end = np.where(better, length, best), np.where(better, column, end)
    return np.maximum(end - best + 1, 0), end
