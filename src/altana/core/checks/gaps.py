"""What is beyond: holes an inside camera sees out through, ground that ends in view, background cut by the
far bound.

A gap is where a camera in a room sees the sky, or something under the open sky, and no pane lies between.
Neighbouring places of the picture make one gap; the plane in which its rim lies is found from the surfaces
around it, so that a panel can be put across it.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field

import numpy as np
import scipy

from altana.core.camera.bounds import sight_begins
from altana.core.camera.view import View
from altana.core.conventions import Bools, Floats, Floats32, Ints32, Vec3
from altana.core.geometry.cross import EAST, UP, crossed
from altana.core.geometry.rays import RayScene
from altana.core.model import Model
from altana.core.project import CEILING, PANEL

#: Gaps smaller than this share of the frame are cracks that nobody sees.
SMALLEST_SHARE = 0.0006
MOST_GAPS = 12
#: So many places across the frame are asked whether they lie under the open sky.
ASKED = 96
#: The rim of a gap lies in a plane when its surfaces do within this.
FLAT_M = 0.04
#: The rim that is looked at is this part of the picture's width.
RIM_SHARE = 80
#: Rays stop being "up" at this distance; a roof is nearer.
SKY_M = 60.0
#: A panel reaches past what is seen of the hole by this.
OVERLAP_M = 0.04


@dataclass(frozen=True, slots=True)
class Gap:
    """One gap: ``kind`` "hole" or "ground", its share of the frame, its box in shares of the frame (left,
    top, right, bottom), and for a hole the corners of a panel across it (empty where no plane was found) and
    what kind that is."""

    kind: str
    share: float
    box: tuple[float, float, float, float]
    corners: tuple[Vec3, ...] = ()
    panel: str = PANEL
    beside: str = ""


@dataclass(frozen=True, slots=True)
class Gaps:
    """Shares of the frame (0 to 1): ``out`` seen through holes, ``ground_ends`` below the horizon where
    nothing is, ``background`` that the far bound takes away; and the single gaps, largest first."""

    out: float = 0.0
    ground_ends: float = 0.0
    background: float = 0.0
    gaps: tuple[Gap, ...] = ()
    #: (height, width) bool: where holes and missing ground are; None where nothing is.
    mask: Bools | None = field(default=None, compare=False)


NO_GAPS = Gaps()


@dataclass(frozen=True, slots=True)
class PictureFacts:
    """A picture as facts: object numbers (-1 sky), depths, surface directions and whether a pane lies before,
    each (height, width, …), with the view that they belong to."""

    view: View
    object_index: Ints32
    depth_m: Floats32
    normal: Floats32
    pane: Bools


def find_gaps(model: Model, rays: RayScene, seen: PictureFacts, beyond: Ints32 | None = None) -> Gaps:
    """The gaps of a picture.  beyond : object numbers of the same picture without its far bound, where it has
    one."""
    view = seen.view
    height, width = seen.object_index.shape
    y, x = np.mgrid[0:height, 0:width]
    pixels = np.column_stack(
        [(x.ravel() + 0.5) * view.width_px / width, (y.ravel() + 0.5) * view.height_px / height]
    )
    along = view.rays(pixels)
    sky = seen.object_index < 0
    background = np.zeros_like(sky) if beyond is None else sky & (beyond >= 0)
    nothing = sky & ~background
    down = along[:, 2].reshape(height, width) < 0.0
    ground = nothing & down & ~seen.pane
    holes = np.zeros_like(sky)
    if _roofed(view, rays):
        holes = ~seen.pane & ~background & (sky | _open_sky(rays, seen, along))
        ground = ground & ~holes
    gaps = _regions(model, seen, along, holes, "hole") + _regions(model, seen, along, ground, "ground")
    gaps.sort(key=lambda gap: -gap.share)
    mask = holes | ground | background
    shares = (float(holes.mean()), float(ground.mean()), float(background.mean()))
    return Gaps(*shares, tuple(gaps[:MOST_GAPS]), mask if mask.any() else None)


def _roofed(view: View, rays: RayScene) -> bool:
    """Whether sight begins in a room: all over the frame, or all but all over it, where a bound lies."""
    x, y = np.meshgrid((0.08, 0.5, 0.92), (0.2, 0.5, 0.8))
    along = view.rays(np.column_stack([x.ravel() * view.width_px, y.ravel() * view.height_px]))
    begins = sight_begins(view, along)
    if not begins.any():
        return rays.roofed(view.pose.eye)
    places = np.asarray(view.pose.eye) + along * (begins + 0.05)[:, None]
    return sum(rays.roofed(_vec(place)) for place in places) >= len(places) - 1


def _open_sky(rays: RayScene, seen: PictureFacts, along: Floats) -> Bools:
    """(height, width) bool: which surfaces lie under the open sky, asked on a coarser grid."""
    height, width = seen.object_index.shape
    step = max(1, width // ASKED)
    rows, columns = np.arange(step // 2, height, step), np.arange(step // 2, width, step)
    index = (rows[:, None] * width + columns[None, :]).ravel()
    depth = seen.depth_m.ravel()[index].astype(float)
    met = np.isfinite(depth)
    forward = seen.view.pose.forward
    away = np.where(met, depth, 0.0) / np.maximum(along[index] @ forward, 1e-9)
    place = (
        np.asarray(seen.view.pose.eye)
        + along[index] * away[:, None]
        + seen.normal.reshape(-1, 3)[index] * 0.03
    )
    up = np.tile((0.0, 0.0, 1.0), (len(index), 1))
    above = rays.cast(place + (0.0, 0.0, 0.02), up).distance_m
    coarse = (met & (above > SKY_M)).reshape(len(rows), len(columns))
    # Each pixel takes the answer of its nearest asked place, but only for surfaces of the same object.
    nearest_row = np.clip((np.arange(height) - step // 2 + step // 2) // step, 0, len(rows) - 1)
    nearest_column = np.clip(np.arange(width) // step, 0, len(columns) - 1)
    spread = coarse[np.ix_(nearest_row, nearest_column)]
    asked = seen.object_index[np.ix_(rows, columns)][np.ix_(nearest_row, nearest_column)]
    same = asked == seen.object_index
    lies_open = _mostly_open(
        seen.object_index.ravel()[index], coarse.ravel(), int(seen.object_index.max()) + 1
    )
    number = np.maximum(seen.object_index, 0)
    open_sky: Bools = np.where(same, spread, lies_open[number] if len(lies_open) else False) & (
        seen.object_index >= 0
    )
    return open_sky


def _mostly_open(numbers: Ints32, lies_open: Bools, count: int) -> Bools:
    """Per object: whether most of what was asked of it lies under the open sky."""
    if count <= 0:
        return np.zeros(0, bool)
    there = numbers >= 0
    asked = np.bincount(numbers[there], minlength=count)
    yes = np.bincount(numbers[there], weights=lies_open[there].astype(float), minlength=count)
    is_open: Bools = yes > 0.5 * np.maximum(asked, 1)
    return is_open


def _regions(model: Model, seen: PictureFacts, along: Floats, mask: Bools, kind: str) -> list[Gap]:
    # A line of pixels that is hard to tell does not part a gap in two.
    labels, count = scipy.ndimage.label(scipy.ndimage.binary_dilation(mask, iterations=2))
    labels = np.where(mask, labels, 0)
    if not count:
        return []
    height, width = mask.shape
    size = np.bincount(labels.ravel(), minlength=count + 1)[1:]
    boxes = scipy.ndimage.find_objects(labels)
    regions = []
    for number in np.argsort(-size)[:MOST_GAPS].tolist():
        share = float(size[number]) / mask.size
        if share < SMALLEST_SHARE:
            break
        rows, columns = boxes[number]
        box = (columns.start / width, rows.start / height, columns.stop / width, rows.stop / height)
        corners, panel, beside = (
            _panel(model, seen, along, labels == number + 1, mask) if kind == "hole" else ((), PANEL, "")
        )
        regions.append(Gap(kind, share, box, corners, panel, beside))
    return regions


def _panel(
    model: Model, seen: PictureFacts, along: Floats, region: Bools, holes: Bools
) -> tuple[tuple[Vec3, ...], str, str]:
    """Corners of a panel in the plane that a gap's rim lies in, its kind, and what it lies beside."""
    wide = max(3, region.shape[1] // RIM_SHARE)
    rim = scipy.ndimage.binary_dilation(region, iterations=wide) & ~holes & np.isfinite(seen.depth_m)
    index = np.flatnonzero(rim.ravel())
    if len(index) < 4:
        return (), PANEL, ""
    forward, eye = seen.view.pose.forward, np.asarray(seen.view.pose.eye)
    away = seen.depth_m.ravel()[index].astype(float) / np.maximum(along[index] @ forward, 1e-9)
    points = eye + along[index] * away[:, None]
    normals = seen.normal.reshape(-1, 3)[index].astype(float)
    inner = region & ~scipy.ndimage.binary_erosion(region)
    edge = along[np.flatnonzero(inner.ravel())]
    farthest = 4.0 * float(np.median(away))
    for normal, at in _rim_planes(points, normals, edge.mean(axis=0)):
        slope = edge @ normal
        reach = (at - eye @ normal) / np.where(np.abs(slope) < 1e-6, np.nan, slope)
        good = np.isfinite(reach) & (reach > 0) & (reach < farthest)
        # A plane that the gap's outline runs off is the plane of a reveal, not of the opening.
        if good.mean() > 0.97:
            flat = np.abs(points @ normal - at) < FLAT_M
            numbers = seen.object_index.ravel()[index][flat]
            beside = (
                model.objects[int(np.bincount(numbers[numbers >= 0]).argmax())].name
                if (numbers >= 0).any()
                else ""
            )
            panel = CEILING if normal[2] < -0.9 else PANEL
            return _rectangle(eye + edge[good] * reach[good, None], normal, at), panel, beside
    return (), PANEL, ""


def _rectangle(met: Floats, normal: Floats, at: float) -> tuple[Vec3, ...]:
    """The rectangle in a plane that holds (n, 3) points of it and a little more, upright where the plane
    is."""
    level = abs(normal[2]) > 0.9
    u = EAST if level else crossed(UP, normal)
    u = u / np.linalg.norm(u)
    v = crossed(normal, u)
    spread = np.stack([met @ u, met @ v], axis=1)
    low, high = spread.min(axis=0) - OVERLAP_M, spread.max(axis=0) + OVERLAP_M
    # Counter-clockwise seen from the eye's side.
    ring = ((low[0], low[1]), (high[0], low[1]), (high[0], high[1]), (low[0], high[1]))
    origin = normal * (at - 1e-3)
    return tuple(_vec(origin + u * a + v * b) for a, b in ring)


def _rim_planes(points: Floats, normals: Floats, sight: Floats) -> list[tuple[Floats, float]]:
    """Planes that points of a rim lie in, as unit normal and place along it, best first.

    A plane counts by how much of the rim agrees with it and by how squarely it stands to the line of sight:
    the rim of an opening shows its reveals as well, edge on.
    """
    sight = sight / max(float(np.linalg.norm(sight)), 1e-9)
    planes: list[tuple[float, Floats, float]] = []
    for number in range(0, len(points), max(1, len(points) // 80)):
        normal = normals[number]
        at = float(points[number] @ normal)
        if any(abs(at - distance) < FLAT_M and float(normal @ other) > 0.98 for _, other, distance in planes):
            continue
        agreeing = int(((np.abs(points @ normal - at) < FLAT_M) & (normals @ normal > 0.98)).sum())
        planes.append((agreeing * abs(float(normal @ sight)), normal, at))
    planes.sort(key=lambda item: -item[0])
    return [(normal, at) for _, normal, at in planes[:4]]


def _vec(values: Floats) -> Vec3:
    x, y, z = values.tolist()
    return (x, y, z)


def ground_level(model: Model) -> float:
    """Where plain ground to the horizon lies: just below the lowest ground or water that the model has."""
    ground = [
        item for item in model.objects if item.category in ("Terrain", "Road", "Water") and item.face_count
    ]
    if not ground:
        return float(model.bounds[0, 2]) - 0.02
    tops = [
        float(model.vertices[model.faces[item.first_face : item.first_face + item.face_count]][..., 2].max())
        for item in ground
    ]
    return min(tops) - 0.05 if math.isfinite(min(tops)) else 0.0
