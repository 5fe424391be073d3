"""A camera's exact picture: pose, lens and frame together, and the mapping to pixels.

The formulas are those of docs/camera.md; every drawing, picture, export and check goes through
this one class.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace

import numpy as np

from altana.core.camera.pose import Pose
from altana.core.camera.wall_cut import WallCut
from altana.core.conventions import FULL_FRAME_HEIGHT_MM, FULL_FRAME_WIDTH_MM, NEAREST_M, Floats
from altana.core.errors import Refused


@dataclass(frozen=True, slots=True)
class Lens:
    """Focal length, sensor width and shifts, all in millimetres.

    ``rise_mm`` > 0 shows more of what is above, ``cross_mm`` > 0 more of what is to the right.
    """

    focal_mm: float = 35.0
    sensor_width_mm: float = FULL_FRAME_WIDTH_MM
    rise_mm: float = 0.0
    cross_mm: float = 0.0

    def __post_init__(self) -> None:
        if not (self.focal_mm > 0 and self.sensor_width_mm > 0):
            raise Refused("Focal length and sensor width are greater than zero.")


@dataclass(frozen=True, slots=True)
class Blur:
    """Depth of field: the radius of the lens's opening and the distance in focus along the view, metres."""

    radius_m: float
    focus_m: float


@dataclass(frozen=True, slots=True)
class View:
    """Pose + lens + picture size (pixels, width before height) + near and far (metres or None)."""

    pose: Pose
    lens: Lens
    width_px: int
    height_px: int
    near_m: float | None = None
    far_m: float | None = None
    keep_sensor_height: bool = field(default=False)
    #: The wall cuts that are on.
    cuts: tuple[WallCut, ...] = ()
    #: What is out of focus is blurred, where pictures are drawn several times over.
    blur: Blur | None = None

    def through(self, right: float, up: float) -> View:
        """The view from another place in the lens's opening, as shares of its radius: what is in focus stays
        where it is, because the lens is shifted back by as much as the eye has moved.  Without blur the view
        itself."""
        if self.blur is None:
            return self
        axes, reach = self.pose.axes(), self.blur.radius_m
        x, y, z = (np.asarray(self.pose.eye) + (axes[0] * right + axes[1] * up) * reach).tolist()
        back = self.lens.focal_mm * reach / self.blur.focus_m
        lens = replace(
            self.lens, cross_mm=self.lens.cross_mm - back * right, rise_mm=self.lens.rise_mm - back * up
        )
        return replace(self, pose=replace(self.pose, eye=(x, y, z)), lens=lens)

    @property
    def sensor_mm(self) -> tuple[float, float]:
        """Width and height in use; the width is kept unless ``keep_sensor_height`` is set."""
        width = self.lens.sensor_width_mm
        if self.keep_sensor_height:
            height = width * FULL_FRAME_HEIGHT_MM / FULL_FRAME_WIDTH_MM
            return height * self.width_px / self.height_px, height
        return width, width * self.height_px / self.width_px

    def edges(self) -> tuple[float, float, float, float]:
        """Tangents of the left, right, bottom and top edge of the frame about the forward axis."""
        width, height = self.sensor_mm
        focal, cross, rise = self.lens.focal_mm, self.lens.cross_mm, self.lens.rise_mm
        return (
            (cross - width / 2) / focal,
            (cross + width / 2) / focal,
            (rise - height / 2) / focal,
            (rise + height / 2) / focal,
        )

    def angles_of_view(self) -> tuple[float, float]:
        """Across and up, in degrees, from the two edge rays of each direction."""
        left, right, bottom, top = (math.degrees(math.atan(edge)) for edge in self.edges())
        return right - left, top - bottom

    def edge_stretch(self) -> float:
        """Worst corner's radial over tangential stretch, 1/cos of its angle off the axis."""
        left, right, bottom, top = self.edges()
        return math.sqrt(1.0 + max(left**2, right**2) + max(bottom**2, top**2))

    def lean_deg(self) -> float:
        """Lean of verticals at the frame's edge at mid-height, in degrees.

        Positive converges upward, 0 for an upright camera.  The vertical vanishing point lies
        focal/tan(tilt) - rise above the frame's centre.
        """
        tilt = math.radians(self.pose.tilt_deg)
        if abs(tilt) < 1e-12:
            return 0.0
        above = self.lens.focal_mm / math.tan(tilt) - self.lens.rise_mm
        lean = math.degrees(math.atan2(self.sensor_mm[0] / 2, abs(above)))
        return math.copysign(lean, above)

    def project(self, points: Floats) -> Floats:
        """World points to pixels.

        points : (n, 3) float64, metres.  Returns (n, 3): px, py in pixels and depth in metres along
        the forward axis.  Points at or behind the eye's plane get NaN pixels; bounds are ignored.
        """
        offsets = np.asarray(points, float).reshape(-1, 3) - np.asarray(self.pose.eye)
        x, y, depth = self.pose.axes() @ offsets.T
        in_front = depth > 1e-12
        safe = np.where(in_front, depth, np.nan)
        width, height = self.sensor_mm
        lens = self.lens
        px = self.width_px * (0.5 + (lens.focal_mm * x / safe - lens.cross_mm) / width)
        py = self.height_px * (0.5 - (lens.focal_mm * y / safe - lens.rise_mm) / height)
        return np.stack([px, py, depth], axis=1)

    def rays(self, pixels: Floats) -> Floats:
        """Unit directions through pixels: the inverse of :meth:`project`.

        pixels : (n, 2) float64.  Returns (n, 3) float64 world directions.
        """
        px, py = np.asarray(pixels, float).reshape(-1, 2).T
        width, height = self.sensor_mm
        lens = self.lens
        x = ((px / self.width_px - 0.5) * width + lens.cross_mm) / lens.focal_mm
        y = ((0.5 - py / self.height_px) * height + lens.rise_mm) / lens.focal_mm
        right, up, forward = (axis[:, None] for axis in self.pose.axes())
        # Coordinate by coordinate: path tracing asks this for every sample of every pixel.
        unit: Floats = right * x
        unit += up * y
        unit += forward
        unit /= np.sqrt(unit[0] * unit[0] + unit[1] * unit[1] + unit[2] * unit[2])
        return unit.T

    def world_to_camera(self) -> Floats:
        """(4, 4) float64: right, up and *backward* rows, as the renderer's clip matrix expects."""
        right, up, forward = self.pose.axes()
        matrix = np.eye(4)
        matrix[:3, :3] = np.stack([right, up, -forward])
        matrix[:3, 3] = -matrix[:3, :3] @ np.asarray(self.pose.eye)
        return matrix

    def clip_matrix(self, tile: tuple[float, float, float, float] | None = None) -> Floats:
        """(4, 4) float64 camera space to clip space for the frame or one tile of it.

        Depths are reversed and know no end: 1 at NEAREST_M before the eye, going to 0 infinitely far away.
        ``tile`` is x, y, width, height in pixels; it may reach outside the frame (a margin around a tile).
        Near and far bounds are left to the renderer, because only camera rays obey them: coinciding surfaces
        must not come out differently because of a bound.
        """
        x, y, w, h = tile or (0, 0, self.width_px, self.height_px)
        left, right, bottom, top = self.edges()
        across, high = (right - left) / self.width_px, (top - bottom) / self.height_px
        tile_left, tile_right = left + across * x, left + across * (x + w)
        tile_top, tile_bottom = top - high * y, top - high * (y + h)
        return np.array(
            [
                [2 / (tile_right - tile_left), 0, (tile_right + tile_left) / (tile_right - tile_left), 0],
                [0, 2 / (tile_top - tile_bottom), (tile_top + tile_bottom) / (tile_top - tile_bottom), 0],
                [0, 0, 0, NEAREST_M],
                [0, 0, -1, 0],
            ]
        )


def focal_for_angle(angle_deg: float, sensor_mm: float) -> float:
    """Focal length (mm) at which a sensor length spans an angle of view, without shift.

    Raises Refused outside 0 to 180 degrees.
    """
    if not 0.0 < angle_deg < 180.0:
        raise Refused("An angle of view lies between 0° and 180°.")
    return sensor_mm / (2.0 * math.tan(math.radians(angle_deg) / 2.0))


def part_of(view: View, region: tuple[float, float, float, float] | None) -> View:
    """A part of a picture (left, top, right, bottom in shares of it) as a picture of its own: the same rays
    through the same pixels, by a smaller sensor and a shifted lens.  The whole where there is no region."""
    if region is None:
        return view
    wide, high = view.sensor_mm
    left, top, right, bottom = region
    x0, y0 = math.floor(left * view.width_px + 0.5), math.floor(top * view.height_px + 0.5)
    x1, y1 = (
        max(x0 + 1, math.floor(right * view.width_px + 0.5)),
        max(y0 + 1, math.floor(bottom * view.height_px + 0.5)),
    )
    cross = view.lens.cross_mm + ((x0 + x1) / 2.0 / view.width_px - 0.5) * wide
    rise = view.lens.rise_mm + (0.5 - (y0 + y1) / 2.0 / view.height_px) * high
    lens = Lens(view.lens.focal_mm, wide * (x1 - x0) / view.width_px, rise, cross)
    return replace(view, lens=lens, width_px=x1 - x0, height_px=y1 - y0, keep_sensor_height=False)
