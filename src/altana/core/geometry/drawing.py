"""Plans and sections: what a cut through the building shows, ready to be drawn as vectors.

Cut bodies become filled outlines (poché); edges of what lies beyond the cut become light lines, where nothing
hides them from the cut.  A plan is cut level and looked at from above; a section is cut upright along a line
of sight and looked at from its right, so that the camera looks to the right of the sheet.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Bools, Floats, Floats32
from altana.core.distinct import distinct
from altana.core.geometry.cross import crossed
from altana.core.geometry.edges import edges_of
from altana.core.geometry.rays import RayScene
from altana.core.geometry.runs import object_boxes, runs_of
from altana.core.geometry.sections import Segments, SortedTriangles, chain, cut_triangles
from altana.core.model import GLASS, Model

PIECE_M = 0.6
MOST_SORTED = 2_000_000
#: Lines drawn at most; of a large site those nearest to the middle of what is cut go first.
MOST_LINES, MOST_LINES_LARGE = 60_000, 12_000
#: Metres of line in a square metre; a table has about 6, a slatted bench 40.
DENSEST = 16.0


@dataclass(frozen=True, slots=True)
class Outline:
    """One outline of a cut object: (n, 2) float64 metres; ``closed`` bodies are filled."""

    points: Floats
    object_index: int
    closed: bool
    glass: bool

    def __reduce__(self) -> tuple[type[Outline], tuple[Floats, int, bool, bool]]:
        """Drawings come from another process with hundreds of these; the ready-made way takes five times as
        long."""
        return Outline, (self.points, self.object_index, self.closed, self.glass)


@dataclass(frozen=True, slots=True)
class PlanDrawing:
    """``outlines`` of what is cut and ``beyond`` (k, 2, 2) float64 lines of what lies below."""

    cut_m: float
    floor_m: float
    outlines: tuple[Outline, ...]
    beyond: Floats
    #: Lines of things drawn so densely (slats, treads of a grating) that they would turn into a dark patch.
    fine: Floats


def building_extent(drawing: PlanDrawing, margin_m: float) -> tuple[tuple[float, float], tuple[float, float]]:
    """Lowest and highest corner (metres) of what a plan cuts: the building, without the ground far around
    it."""
    points = np.concatenate([item.points for item in drawing.outlines if item.closed] or [np.zeros((1, 2))])
    low, high = np.percentile(points, 2, axis=0) - margin_m, np.percentile(points, 98, axis=0) + margin_m
    return (float(low[0]), float(low[1])), (float(high[0]), float(high[1]))


@dataclass(frozen=True, slots=True)
class SectionDrawing:
    """A section on a sheet of x along ``heading_deg`` from ``origin`` and y as height, both in metres.

    ``beyond`` and ``fine`` (k, 2, 2) are empty in a quick one.
    """

    origin: tuple[float, float]
    heading_deg: float
    outlines: tuple[Outline, ...]
    beyond: Floats
    fine: Floats
    quick: bool = False


#: A section shows what lies within this distance behind its cut, and reaches this far along it.
DEPTH_M, REACH_M = 14.0, 90.0


class Drafter:
    """Draws plans of one model; keeps what the cuts share (sorted triangles, edges, rays)."""

    def __init__(self, model: Model, rays: RayScene | None = None) -> None:
        self._model = model
        # Sorting a large model takes longer than looking through the few runs of triangles that a cut meets.
        self._sorted = (
            SortedTriangles(model.vertices, model.faces, (0.0, 0.0, 1.0))
            if len(model.faces) <= MOST_SORTED
            else None
        )
        self._owner = model.face_objects()
        self._glass = np.array([item.kind == GLASS for item in model.materials] or [False])
        self._rays = rays or RayScene.of(model)
        self._edges = edges_of(model)
        self._omitted: Bools = np.zeros(len(model.objects), bool)
        self._low, self._high = object_boxes(model)

    def hide(self, numbers: tuple[int, ...]) -> None:
        """Draw without these objects from now on (they are hidden while working)."""
        self._omitted = np.zeros(len(self._model.objects), bool)
        self._omitted[list(numbers)] = True

    def section(self, origin: tuple[float, float], heading_deg: float, quick: bool = False) -> SectionDrawing:
        """The section along a line of sight.  quick : the cut only, for while something is dragged."""
        turn = np.radians(heading_deg)
        along, across = np.array([np.sin(turn), np.cos(turn)]), np.array([np.cos(turn), -np.sin(turn)])
        at = float(np.dot(across, origin))
        outlines = self._section_outlines(along, across, at, np.asarray(origin, float))
        empty = np.zeros((0, 2, 2))
        if quick:
            return SectionDrawing(origin, heading_deg, outlines, empty, empty, True)
        lines, dense = self._section_beyond(along, across, at, np.asarray(origin, float))
        return SectionDrawing(origin, heading_deg, outlines, lines[~dense], lines[dense])

    def _section_outlines(
        self, along: Floats, across: Floats, at: float, origin: Floats
    ) -> tuple[Outline, ...]:
        # Objects whose box the cut misses are left aside first: the direction differs with every camera, so
        # nothing can be sorted beforehand.
        half = (self._high - self._low)[:, :2] / 2
        middle = (self._high + self._low)[:, :2] / 2
        near = np.abs(middle @ across - at) <= half @ np.abs(across) + 1e-6
        near &= np.abs((middle - origin) @ along) <= REACH_M + half @ np.abs(along)
        faces = np.flatnonzero(near[self._owner])
        normal = np.array([across[0], across[1], 0.0])
        segments = cut_triangles(self._model.vertices[self._model.faces[faces]], faces, normal, at)
        flat = np.stack([(segments.points[:, :, :2] - origin) @ along, segments.points[:, :, 2]], axis=2)
        return self._chained(flat, segments.face)

    def _section_beyond(
        self, along: Floats, across: Floats, at: float, origin: Floats
    ) -> tuple[Floats, Bools]:
        points = self._edges.points
        # Looked at from the right: what lies beyond is to the left of the line of sight.
        depth = at - points[:, :, :2] @ across
        place = (points[:, :, :2] - origin) @ along
        seen = (
            (depth > 1e-3).all(axis=1) & (depth.min(axis=1) < DEPTH_M) & (np.abs(place) < REACH_M).all(axis=1)
        )
        seen &= np.hypot(place[:, 1] - place[:, 0], points[:, 1, 2] - points[:, 0, 2]) > 0.03
        seen &= ~self._omitted[self._edges.object_index]
        pieces, source = _split(points[seen].astype(float))
        owner = self._edges.object_index[seen][source]
        middle = pieces.mean(axis=1)
        towards = np.tile((across[0], across[1], 0.0), (len(middle), 1))
        reach = at - middle[:, :2] @ across
        run = pieces[:, 1] - pieces[:, 0]
        side = crossed(run, towards)
        side /= np.maximum(np.linalg.norm(side, axis=1, keepdims=True), 1e-12)
        hidden = np.ones(len(pieces), bool)
        for sign in (-1.0, 1.0):
            hidden &= self._rays.blocked(
                middle + side * (sign * 5e-3) + towards * 2e-3, towards, reach - 2e-3
            )
        visible = pieces[~hidden]
        flat = np.stack([(visible[:, :, :2] - origin) @ along, visible[:, :, 2]], axis=2)
        return flat, _dense(flat, owner[~hidden])

    def plan(self, floor_m: float, cut_m: float) -> PlanDrawing:
        """The plan of one storey: its floor height and the height of the cut, both in metres."""
        lines, dense = self._beyond(floor_m, cut_m)
        return PlanDrawing(cut_m, floor_m, self._outlines(cut_m), lines[~dense], lines[dense])

    def _outlines(self, cut_m: float) -> tuple[Outline, ...]:
        segments = self._level_cut(cut_m)
        return self._chained(segments.points[:, :, :2], segments.face)

    def _level_cut(self, cut_m: float) -> Segments:
        if self._sorted is not None:
            return self._sorted.cut(cut_m)
        runs = runs_of(self._model)
        faces = runs.triangles(np.flatnonzero((runs.low[:, 2] <= cut_m) & (runs.high[:, 2] >= cut_m)))
        return cut_triangles(
            self._model.vertices[self._model.faces[faces]], faces, np.array([0.0, 0.0, 1.0]), cut_m
        )

    def _chained(self, flat: Floats, face: npt.NDArray[np.intp]) -> tuple[Outline, ...]:
        owner = self._owner[face]
        glass = self._glass[self._model.face_material[face]]
        outlines = []
        for index in distinct(owner):
            if self._omitted[index]:
                continue
            mine = owner == index
            transparent = bool(glass[mine].mean() > 0.5)
            for points in chain(flat[mine]):
                closed = bool(len(points) > 3 and np.abs(points[0] - points[-1]).max() < 1e-3)
                outlines.append(Outline(points, int(index), closed, transparent))
        return tuple(outlines)

    def _beyond(self, floor_m: float, cut_m: float) -> tuple[Floats, Bools]:
        points = self._edges.points
        top, low = points[:, :, 2].max(axis=1), points[:, :, 2].min(axis=1)
        flat_length = np.linalg.norm(points[:, 1, :2] - points[:, 0, :2], axis=1)
        near = (
            (top < cut_m)
            & (low > floor_m - 0.35)
            & (flat_length > 0.02)
            & ~self._omitted[self._edges.object_index]
        )
        near = _fewer(near, points, MOST_LINES if self._sorted is not None else MOST_LINES_LARGE)
        pieces, source = _split(points[near].astype(float))
        owner = self._edges.object_index[near][source]
        middle = pieces.mean(axis=1) + (0.0, 0.0, 2e-3)
        up = np.tile((0.0, 0.0, 1.0), (len(middle), 1))
        # A hidden line is one with something between it and the cut.  The rays start a hair to both sides,
        # because an edge shared with a lid would otherwise hide itself.
        run = pieces[:, 1] - pieces[:, 0]
        side = np.column_stack([-run[:, 1], run[:, 0], np.zeros(len(run))])
        side /= np.maximum(np.linalg.norm(side, axis=1, keepdims=True), 1e-12)
        hidden = np.ones(len(pieces), bool)
        for sign in (-1.0, 1.0):
            hidden &= self._rays.blocked(middle + side * (sign * 5e-3), up, cut_m - middle[:, 2])
        visible = pieces[~hidden][:, :, :2]
        return visible, _dense(visible, owner[~hidden])


def _fewer(chosen: Bools, points: Floats32, most: int) -> Bools:
    """Of the chosen lines (k,) those that lie nearest to their middle, where there are more than can be
    drawn."""
    numbers = np.flatnonzero(chosen)
    if len(numbers) <= most:
        return chosen
    at = points[numbers, 0, :2]
    away = np.abs(at - np.median(at, axis=0)).max(axis=1)
    mask = np.zeros(len(chosen), bool)
    mask[numbers[np.argpartition(away, most)[:most]]] = True
    return mask


def _dense(lines: Floats, owner: npt.NDArray[np.integer]) -> Bools:
    """Lines of objects with more than DENSEST metres of line in a square metre of their extent."""
    if not len(lines):
        return np.zeros(0, bool)
    count = int(owner.max()) + 1
    low, high = np.full((count, 2), np.inf), np.full((count, 2), -np.inf)
    np.minimum.at(low, owner, lines.min(axis=1))
    np.maximum.at(high, owner, lines.max(axis=1))
    length = np.bincount(owner, weights=np.linalg.norm(lines[:, 1] - lines[:, 0], axis=1), minlength=count)
    size = np.where(np.isfinite(low), np.maximum(high - low, 0.15), 1.0)
    # A slender post has little but its own outline, front and back; only what lies within counts as texture.
    within = length - 4.0 * size.sum(axis=1)
    dense: Bools = (within / size.prod(axis=1) > DENSEST)[owner]
    return dense


def _split(lines: Floats) -> tuple[Floats, npt.NDArray[np.intp]]:
    """Lines cut into pieces of at most PIECE_M, so that hiding works piece by piece, and which line each is
    from."""
    length = np.linalg.norm(lines[:, 1] - lines[:, 0], axis=1)
    count = np.maximum(1, np.ceil(np.minimum(length, 60.0) / PIECE_M)).astype(int)
    index = np.repeat(np.arange(len(lines)), count)
    step = np.arange(len(index)) - np.repeat(np.cumsum(count) - count, count)
    start = (step / count[index])[:, None]
    end = ((step + 1) / count[index])[:, None]
    run = lines[index, 1] - lines[index, 0]
    return np.stack([lines[index, 0] + run * start, lines[index, 0] + run * end], axis=1), index
