"""What a lens does to a picture: holding the subject's size, edge stretch against a limit, depth, fitting.

Formulas stand in docs/camera.md: size at distance D is f/D, so another focal length f' keeps it at D' = D
f'/f.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from altana.core.camera.view import View
from altana.core.conventions import FULL_FRAME_WIDTH_MM, Floats, Vec2, wrap_heading
from altana.core.errors import Refused
from altana.core.project import Camera, Limits
from altana.core.ranges import FOCAL_MM

#: Free space round a fitted subject, as a share of the frame's shorter side.
FIT_MARGIN = 0.05
WIDEST_FIT_MM, LONGEST_FIT_MM = 8.0, 1200.0
#: A subject that is looked at squarely lies at most so far beside the axis of a shifted lens.
STEEPEST_SHIFT_DEG = 40.0
FARTHEST_FIT_M = 2_000.0
#: A subject that is looked at squarely lies at most so far beside the axis of a shifted lens.
STEEPEST_SHIFT_DEG = 40.0


def hold_subject(camera: Camera, focal_mm: float) -> Camera:
    """Another focal length with the subject's size kept: the eye moves along the line of sight to D' = D
    f'/f.

    What is looked at stays where it is in space and in the frame: the picture of its plane keeps its size, so
    the shifts, which are lengths on the sensor, stay too.
    """
    away = camera.aim_m * focal_mm / camera.focal_mm
    eye = tuple((np.asarray(camera.aim) - camera.pose.forward * away).tolist())
    return replace(camera, eye=(eye[0], eye[1], eye[2]), aim_m=away, focal_mm=focal_mm)


def stretch_limits(view: View, limits: Limits) -> tuple[float, float]:
    """Edge stretch of the two limiting lenses in this frame's proportion, without shift."""
    width, height = view.sensor_mm
    diagonal = math.hypot(1.0, height / width) * FULL_FRAME_WIDTH_MM / 2
    wide, very = (math.hypot(1.0, diagonal / focal) for focal in (limits.wide_mm, limits.very_wide_mm))
    return wide, very


def stretch_grade(view: View, limits: Limits) -> int:
    """0 calm, 1 beyond the first limit, 2 beyond the second."""
    stretch = view.edge_stretch()
    wide, very = stretch_limits(view, limits)
    return int(stretch > wide + 1e-3) + int(stretch > very + 1e-3)


@dataclass(frozen=True, slots=True)
class Extent:
    """Tangents of what points span about the forward axis: left, right, bottom, top."""

    left: float
    right: float
    bottom: float
    top: float


def extent(camera: Camera, points: Floats) -> Extent | None:
    """What (n, 3) points span, or None when some lie beside or behind the eye."""
    offsets = np.asarray(points, float) - np.asarray(camera.eye)
    x, y, z = camera.pose.axes() @ offsets.T
    if (z <= 1e-3).any():
        return None
    across, up = x / z, y / z
    return Extent(float(across.min()), float(across.max()), float(up.min()), float(up.max()))


def _centred(camera: Camera, points: Floats) -> tuple[Camera, Extent] | None:
    """The camera turned (never tilted when it is level) so that the points lie evenly to both sides."""
    middle = np.asarray(points, float).mean(axis=0) - np.asarray(camera.eye)
    camera = replace(
        camera,
        heading_deg=wrap_heading(math.degrees(math.atan2(middle[0], middle[1]))),
        cross_mm=0.0,
        roll_deg=0.0,
    )
    if camera.tilt_deg != 0.0:
        camera = replace(
            camera, tilt_deg=math.degrees(math.atan2(middle[2], math.hypot(middle[0], middle[1])))
        )
    for _ in range(60):
        span = extent(camera, points)
        if span is None:
            return None
        turn = math.degrees(math.atan(span.left) + math.atan(span.right)) / 2
        tilt = (
            math.degrees(math.atan(span.bottom) + math.atan(span.top)) / 2 if camera.tilt_deg != 0.0 else 0.0
        )
        if abs(turn) + abs(tilt) < 1e-12:
            break
        camera = replace(camera, heading_deg=wrap_heading(camera.heading_deg + turn))
        if camera.tilt_deg != 0.0:
            camera = replace(camera, tilt_deg=max(-85.0, min(85.0, camera.tilt_deg + tilt)))
    return (camera, span) if span is not None else None


def _focal_for(camera: Camera, span: Extent, margin: float) -> float:
    """The longest focal length at which a centred extent fits, with the margin free all round."""
    width, height = camera.view().sensor_mm
    free = margin * min(width, height)
    across = max((span.right - span.left) / 2, 1e-9)
    up = max((span.top - span.bottom) / 2, 1e-9)
    return min((width / 2 - free) / across, (height / 2 - free) / up)


def _framed(camera: Camera, span: Extent, focal_mm: float) -> Camera:
    """With this focal length, and the height of the picture centred by rise where the camera is level."""
    rise = focal_mm * (span.top + span.bottom) / 2
    return replace(camera, focal_mm=focal_mm, rise_mm=rise, cross_mm=focal_mm * (span.left + span.right) / 2)


def fit_by_lens(
    camera: Camera, points: Floats, margin: float = FIT_MARGIN, square_deg: float | None = None
) -> Camera:
    """Turn towards the points and choose the focal length that just holds them all; the eye stays.

    points : (n, 3) metres.  A level camera stays level: rise centres the picture.  At least two points touch
    the margin.  square_deg : the heading to keep, degrees; the lens is then shifted until the points lie in
    the middle. Raises Refused when they reach beside the eye, need a lens that does not exist, or a shift
    over STEEPEST_SHIFT_DEG.
    """
    aim = _centred(camera, points) if square_deg is None else _squared(camera, points, square_deg)
    if aim is None:
        raise Refused(
            "It reaches beside or behind the eye, so no lens holds it. Step back, or fit by distance."
        )
    turned, span = aim
    focal = _focal_for(turned, span, margin)
    if focal < WIDEST_FIT_MM:
        raise Refused(f"From here it would take a lens of {focal:.1f} mm. Step back, or fit by distance.")
    if focal > LONGEST_FIT_MM:
        raise Refused(f"From here it would take a lens of {focal:.0f} mm. Step closer, or fit by distance.")
    return _aimed(_framed(turned, span, focal), points)


def _squared(camera: Camera, points: Floats, heading_deg: float) -> tuple[Camera, Extent] | None:
    """The camera level at a heading, the points at most STEEPEST_SHIFT_DEG beside its axis."""
    camera = replace(camera, heading_deg=wrap_heading(heading_deg), tilt_deg=0.0, roll_deg=0.0, cross_mm=0.0)
    span = extent(camera, points)
    if span is None:
        return None
    beside = abs(math.degrees(math.atan((span.left + span.right) / 2)))
    if beside > STEEPEST_SHIFT_DEG:
        raise Refused(
            f"Seen squarely it lies {beside:.0f}° beside the line of sight. Fit it square by distance, or step along it first."
        )
    return camera, span


def fit_by_distance(
    camera: Camera, points: Floats, margin: float = FIT_MARGIN, square_deg: float | None = None
) -> Camera:
    """Keep the focal length and walk back or forward, at the same height, until the points are just held.

    The eye moves on the line from the middle of the points through the eye; with ``square_deg``, a heading to
    keep, on the line through their middle along that heading.  Raises Refused when there is no such place
    within FARTHEST_FIT_M.
    """
    points = np.asarray(points, float)
    middle = points.mean(axis=0)
    x, y, z = camera.eye
    turn = math.radians(camera.heading_deg if square_deg is None else square_deg)
    away = np.array([x - middle[0], y - middle[1]])
    if square_deg is not None:
        along = np.array([math.cos(turn), -math.sin(turn)])
        aside = points[:, :2] @ along
        middle[:2] += along * ((aside.min() + aside.max()) / 2 - middle[:2] @ along)
    if square_deg is not None or np.linalg.norm(away) < 1e-6:
        away = -np.array([math.sin(turn), math.cos(turn)])
    away /= np.linalg.norm(away)

    def longest(distance: float) -> tuple[float, Camera, Extent | None]:
        eye = (float(middle[0] + away[0] * distance), float(middle[1] + away[1] * distance), z)
        stood = replace(camera, eye=eye)
        aim = _centred(stood, points) if square_deg is None else _squared(stood, points, square_deg)
        return (_focal_for(aim[0], aim[1], margin), *aim) if aim else (0.0, camera, None)

    low, high = 0.0, 1.0
    while longest(high)[0] < camera.focal_mm:
        low, high = high, high * 1.6
        if high > FARTHEST_FIT_M:
            raise Refused("There is no place from which this lens holds it. Choose a wider lens.")
    for _ in range(80):
        half = (low + high) / 2
        if longest(half)[0] < camera.focal_mm:
            low = half
        else:
            high = half
    _, turned, span = longest(high)
    if span is None:
        raise Refused("There is no place from which this lens holds it. Choose a wider lens.")
    return _aimed(_framed(turned, span, camera.focal_mm), points)


def _aimed(camera: Camera, points: Floats) -> Camera:
    """What is looked at lies at the points' middle depth."""
    depth = float(((np.asarray(points, float) - np.asarray(camera.eye)) @ camera.pose.forward).mean())
    return replace(camera, aim_m=max(0.1, depth), looks_at_point=True)


def focal_for_edge(camera: Camera, place: Vec2) -> float | None:
    """The focal length, to 0.1 mm, at which an edge of the field of view runs through a place on the plan;
    None beside or behind the eye."""
    dx, dy = place[0] - camera.eye[0], place[1] - camera.eye[1]
    heading = math.radians(camera.heading_deg)
    ahead = dx * math.sin(heading) + dy * math.cos(heading)
    aside = abs(dx * math.cos(heading) - dy * math.sin(heading))
    if ahead < 0.05 or aside < 1e-3:
        return None
    half = camera.view().sensor_mm[0] / 2 - abs(camera.cross_mm)
    return float(min(FOCAL_MM.high, max(FOCAL_MM.low, round(half * ahead / aside, 1))))
