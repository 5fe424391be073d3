"""Cameras of USD stages, with their time samples as walks."""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any

import numpy as np
from pxr import Gf, Usd, UsdGeom

from altana.core.conventions import Floats, Vec3
from altana.core.errors import Refused, UserError
from altana.core.project import Camera
from altana.exchange.incoming import (
    CAMERA,
    MOST_FRAMES,
    MOST_TAKEN,
    Lens,
    Offer,
    camera_of,
    sides_of,
    usual_ev,
    walk_of,
)
from altana.exchange.usd_out import FARTHEST_M, NEAREST_M, SATURATION

#: From y up to z up.
TURNED = np.array([[1.0, 0, 0, 0], [0, 0, -1.0, 0], [0, 1.0, 0, 0], [0, 0, 0, 1.0]])


def read_usd_cameras(path: Path, offset: Vec3) -> list[Offer]:
    """Everything that a stage has of cameras.  offset : metres, what the project's model has been moved by.
    Raises UserError."""
    try:
        stage = Usd.Stage.Open(str(path))
    except Exception as error:
        raise UserError(f"{path.name} cannot be read as USD. Nothing was taken.") from error
    if stage is None:
        raise UserError(f"{path.name} cannot be read as USD. Nothing was taken.")
    unit = float(UsdGeom.GetStageMetersPerUnit(stage)) or 0.01
    turned = TURNED if UsdGeom.GetStageUpAxis(stage) == UsdGeom.Tokens.y else np.eye(4)
    offers: list[Offer] = []
    for prim in stage.Traverse():
        if prim.IsA(UsdGeom.Camera) and len(offers) < MOST_TAKEN:
            offers.append(_taken(stage, UsdGeom.Camera(prim), turned, unit, offset))
    return offers


def _taken(stage: Any, camera: Any, turned: Floats, unit: float, offset: Vec3) -> Offer:
    prim = camera.GetPrim()
    name = str(prim.GetDisplayName() or prim.GetName())
    if camera.GetProjectionAttr().Get() == UsdGeom.Tokens.orthographic:
        return Offer(
            CAMERA, name, lost=(f"“{name}” is a parallel view, which no lens has; it is not taken.",)
        )
    times = _times(prim)
    if len(times) > MOST_FRAMES:
        raise Refused(f"“{name}” has more than {MOST_FRAMES} time samples. Nothing was taken.")

    def at(when: Any) -> Camera:
        return _camera(camera, name, when, turned, unit, offset)

    if len(times) < 2:
        return Offer(CAMERA, name, at(times[0] if times else Usd.TimeCode.Default()))
    speed = float(stage.GetTimeCodesPerSecond()) or 24.0
    cameras = [at(when) for when in times]
    rate = str(round(speed)) if abs(speed - round(speed)) < 1e-6 else _fraction(speed)
    try:
        return walk_of(name, [when / speed for when in times], cameras, rate)
    except Refused as error:
        return Offer(CAMERA, name, cameras[0], lost=(error.sentence,))


def _fraction(speed: float) -> str:
    whole = round(speed * 1001 / 1000)
    return f"{whole * 1000}/1001" if abs(whole * 1000 / 1001 - speed) < 1e-3 else "25"


def _times(prim: Any) -> list[float]:
    """The time samples of where a camera stands and of its lens."""
    times: set[float] = set()
    above = prim
    while above and not above.IsPseudoRoot():
        times.update(UsdGeom.Xformable(above).GetTimeSamples() if above.IsA(UsdGeom.Xformable) else ())
        above = above.GetParent()
    for attribute in prim.GetAttributes():
        if attribute.GetName() in ("focalLength", "horizontalApertureOffset", "verticalApertureOffset"):
            times.update(attribute.GetTimeSamples())
    return sorted(times)


def _camera(camera: Any, name: str, when: Any, turned: Floats, unit: float, offset: Vec3) -> Camera:
    prim = camera.GetPrim()
    world = np.array(UsdGeom.Xformable(prim).ComputeLocalToWorldTransform(when), float).T
    world = turned @ world
    world[:3, 3] *= unit
    # Lens and apertures are tenths of a scene unit: millimetres where that is a centimetre, and written so by
    # most tools elsewhere.
    tenth = 100.0 if _by_unit(camera, when, unit) else 1.0
    wide, high = (
        float(item.Get(when)) * tenth
        for item in (camera.GetHorizontalApertureAttr(), camera.GetVerticalApertureAttr())
    )
    size = str(prim.GetCustomDataByKey("altana:size_px") or "")
    try:
        width, height = (int(side) for side in size.split(" x "))
    except ValueError:
        width, height = sides_of(wide / max(high, 1e-9))
    lens = Lens(
        float(camera.GetFocalLengthAttr().Get(when)) * tenth,
        wide,
        float(camera.GetVerticalApertureOffsetAttr().Get(when) or 0.0) * tenth,
        float(camera.GetHorizontalApertureOffsetAttr().Get(when) or 0.0) * tenth,
        width,
        height,
    )
    return camera_of(name, world, offset, lens, **_more(camera, when, unit))


def _by_unit(camera: Any, when: Any, unit: float) -> bool:
    """Whether the aperture is a tenth of a scene unit of a metre, as the standard has it; a film gate is 1 mm
    to 500 mm either way."""
    return unit > 0.5 and float(camera.GetHorizontalApertureAttr().Get(when) or 0.0) < 2.5


def _more(camera: Any, when: Any, unit: float) -> dict[str, Any]:
    prim = camera.GetPrim()
    values: dict[str, Any] = {}
    clipped = camera.GetClippingRangeAttr().Get(when) or Gf.Vec2f(1.0, 1e6)
    near, far = float(clipped[0]) * unit, float(clipped[1]) * unit
    own = prim.GetAttribute("altana:ev")
    if own:
        values["ev"] = usual_ev(own.Get(when))
        # As Altana writes it: what is no bound has these figures.
        if abs(near - NEAREST_M) > 1e-4:
            values["near_m"] = round(near, 6)
        if abs(far - FARTHEST_M) > 1.0:
            values["far_m"] = round(far, 4)
    elif camera.GetExposureAttr().HasAuthoredValue():
        values["ev"] = usual_ev(-float(camera.GetExposureAttr().Get(when)) - SATURATION)
    stop, focus = (
        float(camera.GetFStopAttr().Get(when) or 0.0),
        float(camera.GetFocusDistanceAttr().Get(when) or 0.0),
    )
    if stop > 0.0 and focus > 0.0 and math.isfinite(focus):
        values |= {"blur": True, "f_number": stop, "focus_m": focus * unit}
    note = prim.GetCustomDataByKey("altana:note")
    values |= {"note": str(note)} if note else {}
    intent = prim.GetMetadata("documentation")
    return values | ({"intent": str(intent)} if intent else {})
