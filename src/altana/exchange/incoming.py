"""What comes in: cameras, walks and remarks of a file of somebody else, ready to be taken or left.

Nothing of it is in the project before it is taken.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from altana.core.camera.pose import pose_of
from altana.core.conventions import EV_OUTSIDE, FULL_FRAME_WIDTH_MM, Floats, Vec3, turn_between
from altana.core.errors import Refused
from altana.core.project import KEYED, Camera, Remark, Walk, WalkKey
from altana.core.ranges import FOCAL_MM, SENSOR_MM, SIDE_PX
from altana.core.walk.sample import resolve

CAMERA, WALK, REMARK = "camera", "walk", "remark"
#: A route through places may lie so far off the film frames that came, and turn so much otherwise.
NEAR_M, NEAR_DEG = 0.02, 0.5
#: A walk has at most so many places; a file at most so many cameras and film frames.
MOST_PLACES, MOST_TAKEN, MOST_FRAMES = 60, 2_000, 200_000


@dataclass(frozen=True, slots=True)
class Offer:
    """One thing of a file: a camera, a walk, or a remark with the camera it was made from.

    ``snapshot`` is the picture that came with a remark; ``hidden`` are ids of objects that it does not show
    (or, with ``only``, the only ones that it shows); ``lost`` are sentences about what of it could not be
    taken.
    """

    kind: str
    name: str
    camera: Camera | None = None
    walk: Walk | None = None
    remark: Remark | None = None
    snapshot: bytes = b""
    hidden: tuple[str, ...] = ()
    only: bool = False
    lost: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Lens:
    """A lens as it came: millimetres, and the picture's sides in pixels."""

    focal_mm: float
    sensor_mm: float = FULL_FRAME_WIDTH_MM
    rise_mm: float = 0.0
    cross_mm: float = 0.0
    width_px: int = 1920
    height_px: int = 1080


def sides_of(aspect: float, longest: int = 1920) -> tuple[int, int]:
    """Whole pixels of a proportion, width over height.  Raises Refused for none that makes a picture."""
    if not 0.02 < aspect < 50.0:
        raise Refused("A camera without a proportion cannot be taken.")
    if aspect >= 1.0:
        return longest, max(int(SIDE_PX.low), round(longest / aspect))
    return max(int(SIDE_PX.low), round(longest * aspect)), longest


def lens_across(across_deg: float, aspect: float) -> Lens:
    """The lens, on a full-frame width, that sees so many degrees across.  Raises Refused."""
    if not 1.0 < across_deg < 170.0:
        raise Refused("A camera without an angle of view cannot be taken.")
    width, height = sides_of(aspect)
    # By the pixels that there are: whole pixels are a hair off the proportion.
    focal = FULL_FRAME_WIDTH_MM / (2.0 * math.tan(math.radians(across_deg) / 2.0))
    return Lens(focal, width_px=width, height_px=height)


def camera_of(name: str, world: Floats, offset: Vec3, lens: Lens, **more: Any) -> Camera:
    """A camera from its (4, 4) placement (x right, y up, looking along -z; metres, z up).

    offset : metres, what the model's file has been moved by.  Raises Refused where it makes no picture.
    """
    pose = pose_of(world)
    x, y, z = (a - b for a, b in zip(pose.eye, offset, strict=True))
    for range_, value in ((FOCAL_MM, lens.focal_mm), (SENSOR_MM, lens.sensor_mm), (SIDE_PX, lens.width_px), (SIDE_PX, lens.height_px)):  # fmt: skip
        if value not in range_:
            raise Refused(f"“{name}” has a lens or size that makes no picture.")
    return Camera(
        "",
        name.strip()[:200] or "Camera",
        (x, y, z),
        pose.heading_deg,
        pose.tilt_deg,
        pose.roll_deg,
        focal_mm=lens.focal_mm,
        sensor_width_mm=lens.sensor_mm,
        rise_mm=lens.rise_mm,
        cross_mm=lens.cross_mm,
        width_px=int(lens.width_px),
        height_px=int(lens.height_px),
        format_name="From the file",
        **more,
    )


def key_of(camera: Camera, second: float) -> WalkKey:
    """A camera as a place that a walk passes at a second."""
    return WalkKey(
        camera.eye,
        camera.heading_deg,
        camera.tilt_deg,
        camera.focal_mm,
        camera.ev,
        at_s=second,
        rise_mm=camera.rise_mm,
        cross_mm=camera.cross_mm,
        near_m=camera.near_m,
        far_m=camera.far_m,
    )


def walk_of(name: str, seconds: Sequence[float], cameras: Sequence[Camera], rate: str) -> Offer:
    """A walk through the places of film frames, with as few as keep it near them; what it is off is said.

    seconds : of each camera, from 0.  Raises Refused where it stands still or is no walk.
    """
    moments = np.asarray(seconds, float) - float(seconds[0])
    eyes = np.array([camera.eye for camera in cameras])
    if len(cameras) < 2 or np.linalg.norm(np.ptp(eyes, axis=0)) < 0.05:
        raise Refused(f"“{name}” stands still; it is taken as a camera.")
    frame_s = float(np.median(np.diff(moments)))
    whole = float(moments[-1]) + frame_s
    picked = {0, len(cameras) - 1}
    best: tuple[float, Walk, float, float] | None = None
    while len(picked) <= MOST_PLACES:
        walk = _through(name, sorted(picked), moments, cameras, whole, rate)
        if walk is None:
            break
        off, turned, worst = _off(walk, moments, eyes, cameras)
        score = max(off / NEAR_M, turned / NEAR_DEG)
        if best is None or score < best[0]:
            best = score, walk, off, turned
        if score <= 1.0 or worst in picked:
            break
        picked.add(worst)
    if best is None:
        raise Refused(f"“{name}” cannot be walked; it is taken as a camera.")
    _, walk, off, turned = best
    lost = []
    if off > 1e-3 or turned > 0.05:
        lost.append(
            f"“{name}” is taken as a route through {len(walk.keys)} places; at most it lies {off * 100:.1f} cm and {turned:.1f}° off the film frames that came."
        )
    if any(abs(camera.roll_deg) > 0.01 for camera in cameras):
        lost.append(f"“{name}” rolls on its way; a walk keeps the horizon level.")
    return Offer(WALK, name, walk=walk, lost=tuple(lost))


def _through(
    name: str, picked: Sequence[int], moments: Floats, cameras: Sequence[Camera], whole: float, rate: str
) -> Walk | None:
    keys: list[WalkKey] = []
    for number in picked:
        if keys and math.dist(keys[-1].eye, cameras[number].eye) < 2e-3:
            continue
        keys.append(key_of(cameras[number], round(float(moments[number]), 6)))
    if len(keys) < 2:
        return None
    # The last film frame lies one frame before the film's end, where the route ends.
    keys[0] = replace(keys[0], at_s=None)
    first = cameras[0]
    return Walk(
        "",
        name.strip()[:200] or "Walk",
        tuple(keys),
        seconds=whole,
        rate=rate,
        looking=KEYED,
        follow_floor=False,
        width_px=first.width_px,
        height_px=first.height_px,
        dwell_ease_s=0.0,
    )


def _off(walk: Walk, moments: Floats, eyes: Floats, cameras: Sequence[Camera]) -> tuple[float, float, int]:
    """How far a walk lies off film frames at most, metres and degrees, and which of them is the worst."""
    line = resolve(walk, None)
    rows = line.at_seconds(np.minimum(moments, walk.seconds), _rate(walk.rate))
    away = np.linalg.norm(rows.eye - eyes, axis=1)
    turned = np.array(
        [
            max(
                abs(turn_between(float(heading) % 360.0, camera.heading_deg)),
                abs(float(tilt) - camera.tilt_deg),
            )
            for heading, tilt, camera in zip(rows.heading_deg, rows.tilt_deg, cameras, strict=True)
        ]
    )
    worst = int(np.argmax(np.maximum(away / NEAR_M, turned / NEAR_DEG)))
    return float(away.max()), float(turned.max()), worst


def _rate(text: str) -> Any:
    from altana.core.conventions import parse_rate

    return parse_rate(text)


def usual_ev(told: object) -> float:
    """An exposure value that came, or that of out of doors."""
    try:
        value = float(str(told))
    except ValueError:
        return EV_OUTSIDE
    return value if math.isfinite(value) and -10.0 <= value <= 25.0 else EV_OUTSIDE
