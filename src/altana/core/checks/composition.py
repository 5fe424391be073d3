"""What a picture consists of: shares of floor, ceiling, sky and ground, what its edges cut, and depth.

Reckoned from a picture of object numbers, depths and directions that is taken a little larger than the frame,
so that what lies just outside is known too.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from altana.core.camera.view import Lens, View
from altana.core.conventions import Floats32
from altana.core.model import Model

#: The picture is taken larger by this share on each side.
AROUND = 0.06
#: Less than this share of an object inside, or outside, the frame is a graze.
GRAZE = 0.06
GROUND = frozenset({"Terrain", "Road", "Water"})
FLOORS = frozenset({"Floor", "Stair", "Covering"})
#: What one minds when an edge cuts it; walls and floors run out of every picture.
MINDED = frozenset({"Furniture", "Light fixture", "Planting", "Vessel", "Door", "Column", "Sign", "Other"})
SMALLEST_PX = 24
FARTHEST_SUBJECT_M = 80.0


@dataclass(frozen=True, slots=True)
class Edge:
    """An object at the frame's edge: ``share_inside`` of what could be seen of it, and whether it only
    grazes."""

    object_id: str
    name: str
    share_inside: float
    grazes: bool


@dataclass(frozen=True, slots=True)
class Composition:
    """Shares of the frame (0 to 1), objects at its edges, and the depth ratio of farthest to nearest
    subject."""

    floor: float
    ceiling: float
    sky: float
    ground: float
    edges: tuple[Edge, ...]
    nearest_m: float
    farthest_m: float

    @property
    def depth_ratio(self) -> float:
        """How many times larger the nearest subject appears than the farthest at equal size."""
        return self.farthest_m / self.nearest_m if self.nearest_m > 0 else 1.0


def wider(view: View, width_px: int) -> tuple[View, int, int]:
    """The view at a small width, enlarged by AROUND on every side, and the margins in pixels (across, up)."""
    height_px = max(8, round(width_px * view.height_px / view.width_px))
    across, up = round(width_px * AROUND), round(height_px * AROUND)
    scale = (width_px + 2 * across) / width_px
    sensor = view.sensor_mm[0] * scale
    lens = Lens(view.lens.focal_mm, sensor, view.lens.rise_mm, view.lens.cross_mm)
    return (
        replace(
            view,
            lens=lens,
            width_px=width_px + 2 * across,
            height_px=height_px + 2 * up,
            keep_sensor_height=False,
        ),
        across,
        up,
    )


def compose(
    model: Model,
    object_index: npt.NDArray[np.int32],
    depth_m: Floats32,
    normal: Floats32,
    across: int,
    up: int,
) -> Composition:
    """Figures of a frame from (height, width) numbers and depths and (height, width, 3) directions.

    across, up : width of the margin round the frame in pixels.
    """
    inner = np.s_[up : object_index.shape[0] - up, across : object_index.shape[1] - across]
    seen, depth, facing = object_index[inner], depth_m[inner], normal[inner][..., 2]
    # One answer for each object, looked up for each pixel; the last stands for the sky.
    ground, floors, minded = (
        np.array([item.category in kinds for item in model.objects] + [False], bool)[seen]
        for kinds in (GROUND, FLOORS, MINDED)
    )
    flat_up, flat_down = facing > 0.85, facing < -0.85
    floor = floors & flat_up & ~ground
    ceiling = flat_down & (seen >= 0)
    size = seen.size
    # What one compares are things near enough to be compared; a far shore is background.
    span = depth[(depth < FARTHEST_SUBJECT_M) & minded]
    span = span if span.size > 50 else span[:0]
    near, far = (float(np.percentile(span, q)) for q in (2, 98)) if span.size else (0.0, 0.0)
    return Composition(
        float(floor.sum()) / size,
        float(ceiling.sum()) / size,
        float((seen < 0).sum()) / size,
        float(ground.sum()) / size,
        _edges(model, object_index, across, up),
        near,
        far,
    )


def _edges(model: Model, numbers: npt.NDArray[np.int32], across: int, up: int) -> tuple[Edge, ...]:
    count = len(model.objects)
    inside = np.zeros(numbers.shape, bool)
    inside[up : numbers.shape[0] - up, across : numbers.shape[1] - across] = True
    drawn = numbers >= 0
    within = np.bincount(numbers[drawn & inside], minlength=count)
    around = np.bincount(numbers[drawn & ~inside], minlength=count)
    edges = []
    for number in np.flatnonzero((within > 0) & (around > 0) & (within + around >= SMALLEST_PX)).tolist():
        item = model.objects[number]
        if item.category not in MINDED:
            continue
        share = float(within[number]) / float(within[number] + around[number])
        edges.append(Edge(item.id, item.name, share, share < GRAZE or share > 1.0 - GRAZE))
    # Grazes first, the slightest of them before all.
    return tuple(sorted(edges, key=lambda edge: (not edge.grazes, -abs(edge.share_inside - 0.5))))
