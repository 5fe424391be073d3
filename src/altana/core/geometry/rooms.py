"""Rooms where a file names none: what walls enclose on each storey.

A storey is cut above its door heads, where openings are closed by their lintels.  The cut is drawn onto a
grid; what the grid's free cells hold together without reaching the open is a room.
"""

from __future__ import annotations

import numpy as np
import scipy
import shapely

from altana.core.conventions import Floats, Vec2
from altana.core.geometry.sections import SortedTriangles
from altana.core.model import Model, Room, Storey

#: Above usual door heads and below usual ceilings.
CUT_ABOVE_FLOOR_M = (2.2, 2.35)
CELL_M = 0.06
SMALLEST_M2 = 1.5
LARGEST_CELLS = 9_000_000
NOT_A_WALL = frozenset(
    {"Furniture", "Light fixture", "Railing", "Planting", "Vessel", "Stair", "Beam", "Terrain", "Building"}
)


def found_rooms(model: Model) -> tuple[Room, ...]:
    """The rooms of all storeys, largest first on each, named by number and size."""
    keep = np.array([item.category not in NOT_A_WALL for item in model.objects], bool)[model.face_objects()]
    triangles = SortedTriangles(model.vertices, model.faces[keep], (0.0, 0.0, 1.0))
    floors = sorted(item.elevation_m for item in model.storeys)
    rooms: list[Room] = []
    for storey in model.storeys:
        above = next((z for z in floors if z > storey.elevation_m + 0.5), storey.elevation_m + 3.5)
        rooms += _on(storey, triangles, min(above, storey.elevation_m + 6.0), len(rooms))
    return tuple(rooms)


def _on(storey: Storey, triangles: SortedTriangles, ceiling_m: float, taken: int) -> list[Room]:
    segments = np.concatenate(
        [triangles.cut(storey.elevation_m + up).points[:, :, :2] for up in CUT_ABOVE_FLOOR_M]
    )
    if not len(segments):
        return []
    low, high = segments.min(axis=(0, 1)) - 3 * CELL_M, segments.max(axis=(0, 1)) + 3 * CELL_M
    cell = max(CELL_M, float(np.sqrt(np.prod(high - low) / LARGEST_CELLS)))
    shape = np.ceil((high - low) / cell).astype(int) + 1
    wall = np.zeros((shape[1], shape[0]), bool)
    x, y = ((_along(segments, cell) - low) / cell).astype(int).T
    wall[y, x] = True
    labels, _ = scipy.ndimage.label(~wall)
    border = np.unique(np.concatenate([labels[0], labels[-1], labels[:, 0], labels[:, -1]]))
    sizes = np.bincount(labels.ravel()) * cell * cell
    rooms: list[Room] = []
    order = [
        number
        for number in np.argsort(-sizes).tolist()
        if number and number not in border and sizes[number] >= SMALLEST_M2
    ]
    slices = scipy.ndimage.find_objects(labels)
    for number in order:
        part = slices[number - 1]
        assert part is not None
        outline = _outline(
            labels[part] == number,
            (float(low[0] + part[1].start * cell), float(low[1] + part[0].start * cell)),
            cell,
        )
        if len(outline) < 3 or shapely.Polygon(outline).buffer(-0.35).is_empty:
            continue  # the hollow of a wall
        index = taken + len(rooms) + 1
        rooms.append(
            Room(
                f"found-{index}",
                f"Room {index}, {sizes[number]:.0f} m²",
                storey.id,
                outline,
                storey.elevation_m,
                ceiling_m,
            )
        )
    return rooms


def _along(segments: Floats, cell: float) -> Floats:
    """Points along all segments, less than half a cell apart."""
    run = segments[:, 1] - segments[:, 0]
    count = np.ceil(np.linalg.norm(run, axis=1) / (cell * 0.45)).astype(int) + 1
    index = np.repeat(np.arange(len(segments)), count)
    step = np.arange(len(index)) - np.repeat(np.cumsum(count) - count, count)
    share = (step / np.maximum(count[index] - 1, 1))[:, None]
    points: Floats = segments[index, 0] + run[index] * share
    return points


def _outline(inside: np.ndarray, corner: tuple[float, float], cell: float) -> tuple[Vec2, ...]:
    """The outer outline of a patch of cells: rows of boxes joined, smoothed by half a cell."""
    boxes = []
    for row in range(inside.shape[0]):
        edges = np.flatnonzero(np.diff(np.r_[False, inside[row], False]))
        for start, end in edges.reshape(-1, 2).tolist():
            # Whole numbers, so that the rows really meet.
            boxes.append(shapely.box(start, row, end, row + 1))
    merged = shapely.union_all(boxes).simplify(1.5)
    if isinstance(merged, shapely.MultiPolygon):
        merged = max(merged.geoms, key=lambda item: item.area)
    if not isinstance(merged, shapely.Polygon):
        return ()
    return tuple((corner[0] + x * cell, corner[1] + y * cell) for x, y in list(merged.exterior.coords)[:-1])
