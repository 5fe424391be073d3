"""Panoramas: six square pictures round a place, stitched to one of 2:1 (equirectangular), and its geometry.

The middle of the picture looks along ``heading``: longitude λ lies at u = W (0.5 + λ/360°), latitude φ at
v = H (0.5 - φ/180°).  Faces are drawn wider than they are used, so that what is reckoned from neighbours on
the picture (contact shade, smoothing) is the same on both sides of a border.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import scipy

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.conventions import Floats, Floats32, Vec3
from altana.core.progress import Progress

#: Faces by name: heading and tilt against the panorama's heading, degrees.
FACES: dict[str, tuple[float, float]] = {
    "front": (0.0, 0.0),
    "right": (90.0, 0.0),
    "back": (180.0, 0.0),
    "left": (270.0, 0.0),
    "up": (0.0, 90.0),
    "down": (0.0, -90.0),
}
#: A face reaches this much farther than its square, as a share of its half width.
WIDER = 0.18
#: Light is reckoned for so many places on the side of a face at most: all round for three times as many as in
#: a still.
MOST_SIDE = 320
#: The picture of those places reaches this much farther than its face, as a share of its half width.
OVERLAP = 0.12
SENSOR_MM = 36.0
BAND_ROWS = 256


@dataclass(frozen=True, slots=True)
class Place:
    """Where a panorama is taken: eye in metres, and the heading of its middle in degrees."""

    eye: Vec3
    heading_deg: float = 0.0


def face_size(width_px: int) -> int:
    """Side of the squares, pixels, so that a face's middle is as fine as a panorama so wide: even, without
    the margin."""
    return 2 * math.ceil(width_px / math.pi / 2)


def light_side(width_px: int) -> int:
    """Places on the side of the faces of a panorama so wide."""
    return min(MOST_SIDE, face_size(width_px))


def light_places(width_px: int) -> int:
    """How many places all round a panorama so wide have their light reckoned."""
    return len(FACES) * round(light_side(width_px) * (1.0 + OVERLAP)) ** 2


def face_view(place: Place, face: str, side_px: int, wider: float = WIDER) -> View:
    """The picture of a face; ``side_px`` counts its square, the margin comes on top."""
    heading, tilt = FACES[face]
    whole = 2 * math.ceil(side_px * (1.0 + wider) / 2)
    # The square spans 90 degrees: tan(45) on each side, and the margin goes on in the same plane.
    focal = SENSOR_MM / 2.0 / (whole / side_px)
    return View(
        Pose(place.eye, (place.heading_deg + heading) % 360.0, tilt), Lens(focal, SENSOR_MM), whole, whole
    )


def directions(width_px: int, height_px: int, rows: slice, heading_deg: float) -> Floats:
    """(rows, width, 3) unit directions east, north, up of pixels of a panorama."""
    longitude = np.radians(heading_deg) + ((np.arange(width_px) + 0.5) / width_px - 0.5) * 2.0 * np.pi
    latitude = (0.5 - (np.arange(rows.start, rows.stop) + 0.5) / height_px) * np.pi
    level = np.cos(latitude)[:, None]
    up = np.broadcast_to(np.sin(latitude)[:, None], (len(latitude), width_px))
    return np.stack([level * np.sin(longitude), level * np.cos(longitude), up], axis=2)


def pixel_of(direction: Floats, width_px: int, height_px: int, heading_deg: float) -> Floats:
    """(n, 2) pixels of a panorama that (n, 3) directions lie at."""
    along = np.asarray(direction, float).reshape(-1, 3)
    along = along / np.linalg.norm(along, axis=1, keepdims=True)
    turn = np.degrees(np.arctan2(along[:, 0], along[:, 1])) - heading_deg
    turn = (turn + 180.0) % 360.0 - 180.0
    rise = np.degrees(np.arcsin(np.clip(along[:, 2], -1.0, 1.0)))
    return np.column_stack([width_px * (0.5 + turn / 360.0), height_px * (0.5 - rise / 180.0)])


def stitched(
    faces: dict[str, Floats32],
    place: Place,
    side_px: int,
    size: tuple[int, int],
    progress: Progress | None = None,
) -> Floats32 | None:
    """One picture, (height, width, channels) float32, of six faces as their views of ``side_px`` show them,
    margins included; None when told to stop."""
    width_px, height_px = size
    first = next(iter(faces.values()))
    picture = np.empty((height_px, width_px, first.shape[2]), np.float32)
    views = {name: face_view(place, name, side_px) for name in faces}
    for rows in _bands(height_px):
        if progress is not None and not progress(rows.start / height_px):
            return None
        along = directions(width_px, height_px, rows, place.heading_deg)
        nearest = _nearest_face(along, place.heading_deg)
        band = picture[rows]
        for number, (name, pixels) in enumerate(faces.items()):
            mine = nearest == number
            if mine.any():
                band[mine] = _looked_up(pixels, views[name], along[mine])
    return picture


def _bands(height_px: int) -> Iterator[slice]:
    for top in range(0, height_px, BAND_ROWS):
        yield slice(top, min(height_px, top + BAND_ROWS))


def _nearest_face(along: Floats, heading_deg: float) -> Floats:
    """Which face each direction belongs to, in the order of FACES."""
    axes = []
    for heading, tilt in FACES.values():
        axes.append(Pose((0.0, 0.0, 0.0), (heading_deg + heading) % 360.0, tilt).forward)
    nearest: Floats = np.argmax(along @ np.array(axes).T, axis=2)
    return nearest


def _looked_up(pixels: Floats32, view: View, along: Floats) -> Floats32:
    """The face's colours towards (n, 3) directions, between its pixels (bilinear)."""
    right, up, forward = view.pose.axes()
    depth = np.maximum(along @ forward, 1e-3)
    high, wide = pixels.shape[:2]
    reach = view.lens.focal_mm / SENSOR_MM * wide
    x = wide / 2.0 + (along @ right) / depth * reach - 0.5
    y = high / 2.0 - (along @ up) / depth * reach - 0.5
    return np.stack(
        [
            scipy.ndimage.map_coordinates(pixels[..., channel], [y, x], order=1, mode="nearest")
            for channel in range(pixels.shape[2])
        ],
        axis=1,
    )


def square_of(pixels: Floats32, side_px: int) -> Floats32:
    """A face without its margin."""
    edge = (pixels.shape[0] - side_px) // 2
    return pixels[edge : edge + side_px, edge : edge + side_px]


# ---------------------------------------------------------------------- two eyes

#: Slices all round, and how far each is turned up or down.
SLICES, TILTS_DEG = 48, (0.0, 55.0, -55.0)
#: Level slices count up to this latitude and fade into the turned ones over the next degrees.
LEVEL_TO_DEG, FADE_DEG = 30.0, 8.0


@dataclass(frozen=True, slots=True)
class Slice:
    """One slice of what an eye sees all round: its picture, the heading of its middle, and its tilt."""

    view: View
    middle_deg: float
    tilt_deg: float

    def add(self, whole: Floats32, light: Floats32, heading_deg: float) -> None:
        """Add what the slice shows to a panorama, (height, width, 3), with its share of each pixel.

        Neighbouring slices fade into each other, so that the eye's place goes on evenly; all shares of a
        pixel sum to 1.
        """
        high, wide = whole.shape[:2]
        step = 360.0 / SLICES
        longitude = heading_deg + ((np.arange(wide) + 0.5) / wide - 0.5) * 360.0
        off = (longitude - self.middle_deg + 180.0) % 360.0 - 180.0
        columns = np.flatnonzero(np.abs(off) < step)
        latitude = (0.5 - (np.arange(high) + 0.5) / high) * 180.0
        level = np.clip((LEVEL_TO_DEG + FADE_DEG - np.abs(latitude)) / FADE_DEG, 0.0, 1.0)
        share = (
            level if self.tilt_deg == 0.0 else (1.0 - level) * (np.sign(latitude) == np.sign(self.tilt_deg))
        )
        rows = np.flatnonzero(share > 0.0)
        turn, rise = np.radians(longitude[columns])[None, :], np.radians(latitude[rows])[:, None]
        up = np.broadcast_to(np.sin(rise), (len(rows), len(columns)))
        along = np.stack([np.cos(rise) * np.sin(turn), np.cos(rise) * np.cos(turn), up], axis=2).reshape(
            -1, 3
        )
        weight = share[rows][:, None] * (1.0 - np.abs(off[columns]) / step)[None, :]
        colour = _looked_up(light, self.view, along).reshape(len(rows), len(columns), 3)
        whole[np.ix_(rows, columns)] += (colour * weight[..., None]).astype(np.float32)


def slices_of(place: Place, aside_m: float, size: tuple[int, int]) -> list[Slice]:
    """The slices of one eye: each is seen from beside the middle of the head, square to its own direction.

    aside_m : how far to the right.  Slices that look up and down are seen from nearer the middle, because no
    head turns so.
    """
    slices = []
    x, y, z = place.eye
    for number in range(SLICES):
        middle = place.heading_deg + 360.0 * number / SLICES
        turn = math.radians(middle)
        for tilt in TILTS_DEG:
            apart = aside_m * math.cos(math.radians(tilt))
            eye = (x + apart * math.cos(turn), y - apart * math.sin(turn), z)
            slices.append(Slice(_slice_view(eye, middle, tilt, size[0]), middle, tilt))
    return slices


def _slice_view(eye: Vec3, middle_deg: float, tilt_deg: float, width_px: int) -> View:
    """A picture that holds a slice with its fading neighbours, as fine as the panorama in its middle."""
    step = math.radians(360.0 / SLICES) * 1.02
    if tilt_deg == 0.0:
        # Tall enough for the latitudes that fade, at the slice's own edges.
        half_wide, half_high = (
            math.tan(step),
            math.tan(math.radians(LEVEL_TO_DEG + FADE_DEG)) / math.cos(step) * 1.02,
        )
    else:
        # From the zenith down to the latitudes that fade; widest there.
        low = math.radians(LEVEL_TO_DEG)
        off = math.radians(abs(tilt_deg))
        depth = math.cos(low) * math.cos(off) * math.cos(step) + math.sin(low) * math.sin(off)
        half_wide = math.cos(low) * math.sin(step) / depth * 1.05
        half_high = math.tan(math.radians(90.0 - abs(tilt_deg)) + 0.02)
    a_radian = width_px / (2.0 * math.pi)
    wide, high = max(8, 2 * math.ceil(half_wide * a_radian)), max(8, 2 * math.ceil(half_high * a_radian))
    return View(
        Pose(eye, middle_deg % 360.0, tilt_deg), Lens(SENSOR_MM * a_radian / wide, SENSOR_MM), wide, high
    )
