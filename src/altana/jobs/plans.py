"""Plans of a model's storeys as vectors, for pages."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import scipy
import shapely

from altana.core.conventions import Bools, Floats, Vec2, Vec3
from altana.core.geometry.drawing import Drafter, Outline, PlanDrawing, SectionDrawing
from altana.core.geometry.rays import RayScene
from altana.core.model import Model, Storey

#: Above the floor of a storey, where its plan is cut.
CUT_M = 1.2
#: So much is shown round a building.
MARGIN_M = 3.0
#: Ends of lines nearer than this are one.
JOINED_M = 0.02
#: Steps and eaves lie so far about a building.
ABOUT_M = 1.0


class Plans:
    """Plans of a model's storeys, cut once each."""

    def __init__(self, model: Model) -> None:
        self._model = model
        self._drafter = Drafter(model, RayScene.of(model))
        self._held: dict[str, PlanDrawing] = {}

    def storey_of(self, eye: Vec3) -> Storey | None:
        """The storey that an eye stands on."""
        return self._model.storey_of_eye(eye)

    def drawing(self, storey: Storey, cut_m: float = CUT_M) -> PlanDrawing:
        """The plan of a storey, cut so far above its floor."""
        key = f"{storey.id} {cut_m:.4f}"
        if key not in self._held:
            self._held[key] = self._drafter.plan(storey.elevation_m, storey.elevation_m + cut_m)
        return self._held[key]

    def section(self, origin: Vec2, heading_deg: float) -> SectionDrawing:
        """The section through a place along a heading."""
        return self._drafter.section(origin, heading_deg)

    def rooms_extent(self, storey: Storey) -> tuple[Vec2, Vec2] | None:
        """Lowest and highest corner of a storey's rooms on the plan, metres; None where it has none."""
        outlines = [
            place for room in self._model.rooms if room.storey_id == storey.id for place in room.outline
        ]
        if not outlines:
            return None
        points = np.array(outlines)
        (x0, y0), (x1, y1) = points.min(axis=0).tolist(), points.max(axis=0).tolist()
        return (x0, y0), (x1, y1)


def whole_outlines(
    outlines: Sequence[Outline], low: Vec2, high: Vec2, kept: Vec2
) -> tuple[list[Outline], shapely.Geometry]:
    """The outlines of buildings that lie within a rectangle as a whole, and the ground that the others stand
    on; outlines that touch are of one building.

    kept : a place (metres) whose building is drawn whatever it reaches to.
    """
    boxes = [
        shapely.box(*item.points.min(axis=0), *item.points.max(axis=0)).buffer(JOINED_M) for item in outlines
    ]
    if not boxes:
        return [], shapely.Polygon()
    first, second = shapely.STRtree(boxes).query(boxes, predicate="intersects")
    graph = scipy.sparse.coo_array((np.ones(len(first)), (first, second)), shape=(len(boxes), len(boxes)))
    building = scipy.sparse.csgraph.connected_components(graph, directed=False)[1]
    whole = shapely.box(*low, *high)
    out = {int(building[number]) for number, box in enumerate(boxes) if not whole.contains(box)}
    nearest = min(range(len(boxes)), key=lambda number: boxes[number].distance(shapely.Point(kept)))
    out.discard(int(building[nearest]))
    gone = [
        shapely.envelope(
            shapely.union_all([boxes[number] for number in np.flatnonzero(building == one)])
        ).buffer(ABOUT_M)
        for one in out
    ]
    return [
        item for number, item in enumerate(outlines) if int(building[number]) not in out
    ], shapely.union_all(gone)


def whole_things(lines: Floats, low: Vec2, high: Vec2) -> Bools:
    """(n,) bool: which of (n, 2, 2) lines belong to things that lie within a rectangle as a whole, so that
    nothing is drawn cut off.

    Lines hang together where their ends meet.
    """
    if not len(lines):
        return np.zeros(0, bool)
    ends = np.rint(lines.reshape(-1, 2) / JOINED_M).astype(np.int64)
    _, place = np.unique(ends, axis=0, return_inverse=True)
    first, second = place.reshape(-1, 2).T
    count = int(place.max()) + 1
    graph = scipy.sparse.coo_array((np.ones(len(first)), (first, second)), shape=(count, count))
    thing = scipy.sparse.csgraph.connected_components(graph, directed=False)[1][first]
    beyond = ((lines < np.asarray(low)) | (lines > np.asarray(high))).any(axis=(1, 2))
    out = np.zeros(int(thing.max()) + 1, bool)
    out[thing[beyond]] = True
    kept: Bools = ~out[thing]
    return kept
