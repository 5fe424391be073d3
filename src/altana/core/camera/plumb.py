"""Plumb: upright verticals by levelling the camera and shifting the lens.

With tilt t, focal f and rise r the ray through the frame's centre has the elevation
a = t + atan(r / f).  Corrected by the amount k the tilt becomes (1 - k) t and the rise
f' tan(a - t'), so the centre of the frame keeps its subject.  See docs/camera.md.
"""

from __future__ import annotations

import math
from dataclasses import replace

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens
from altana.core.errors import Refused

STEEPEST_DEG = 60.0
#: A camera that is kept plumb shifts its lens at most this far off the axis, unless its project says
#: otherwise.
KEPT_DEG = 40.0


def plumb(pose: Pose, lens: Lens, amount: float = 1.0, keep_size: bool = False) -> tuple[Pose, Lens]:
    """The levelled pose and the shifted lens.

    amount : share of the tilt taken out, 0 to 1.  keep_size : keep the subject's width at the
    centre of the frame by shortening the focal length.  Roll goes to 0.

    Raises Refused when the shift would pass 60 degrees off the axis, or the amount is not a share.
    """
    if not 0.0 <= amount <= 1.0:
        raise Refused("The amount of plumb lies between 0 and 1.")
    tilt = math.radians(pose.tilt_deg)
    elevation = tilt + math.atan2(lens.rise_mm, lens.focal_mm)
    levelled = (1.0 - amount) * tilt
    off_axis = elevation - levelled
    if abs(off_axis) > math.radians(STEEPEST_DEG):
        raise Refused(
            f"Plumb would shift the lens {math.degrees(abs(off_axis)):.1f}° off its axis; "
            f"more than {STEEPEST_DEG:.0f}° makes no usable picture. Tilt less, or plumb by a smaller amount."
        )
    focal = lens.focal_mm
    if keep_size:
        focal *= math.cos(off_axis) / math.cos(elevation - tilt)
    rise = focal * math.tan(off_axis)
    return (
        replace(pose, tilt_deg=math.degrees(levelled), roll_deg=0.0),
        replace(lens, focal_mm=focal, rise_mm=rise),
    )


def kept_true(pose: Pose, lens: Lens, steepest_deg: float = KEPT_DEG) -> tuple[Pose, Lens, bool]:
    """A pose that was turned up or down, level again: the turn becomes rise, up to a limit.

    Returns pose, lens, and whether the limit was reached.  The focal length stays.
    """
    elevation = math.degrees(math.radians(pose.tilt_deg) + math.atan2(lens.rise_mm, lens.focal_mm))
    bounded = max(-steepest_deg, min(steepest_deg, elevation))
    rise = lens.focal_mm * math.tan(math.radians(bounded))
    return (
        replace(pose, tilt_deg=0.0, roll_deg=0.0),
        replace(lens, rise_mm=rise),
        abs(elevation) > steepest_deg + 1e-9,
    )
