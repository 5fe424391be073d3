"""Cameras and walks in USD: lens, apertures with their offsets, clipping, focus, exposure, a time sample for
each film frame; metres, z up.

Focal length and apertures are tenths of a scene unit (UsdGeomCamera); the scene unit is a metre.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from pxr import Gf, Sdf, Tf, Usd, UsdGeom

from altana.core.conventions import Vec3
from altana.exchange.travelling import Frame, Travelling, placement

#: Millimetres in a tenth of a metre.
TENTH_MM = 100.0
NEAREST_M, FARTHEST_M = 0.01, 100_000.0
#: Light of a cd/m² comes out as 1 / (1.2 · 2^EV).
SATURATION = math.log2(1.2)


def write_usd(
    path: Path, items: Sequence[Travelling], offset: Vec3, also: Callable[[Usd.Stage], object] | None = None
) -> None:
    """Write a stage, text or binary by the path's suffix.  offset : metres, what the model's file has been
    moved by.  also : adds more to it."""
    stage = Usd.Stage.CreateInMemory()
    UsdGeom.SetStageUpAxis(stage, UsdGeom.Tokens.z)
    UsdGeom.SetStageMetersPerUnit(stage, 1.0)
    top = UsdGeom.Xform.Define(stage, "/Cameras")
    stage.SetDefaultPrim(top.GetPrim())
    moving = [item for item in items if item.rate is not None]
    if moving:
        rate = float(max(item.rate or 0 for item in moving))
        stage.SetTimeCodesPerSecond(rate)
        stage.SetFramesPerSecond(rate)
        stage.SetStartTimeCode(0.0)
        stage.SetEndTimeCode(max(item.frames[-1].seconds for item in moving) * rate)
    names: set[str] = set()
    for item in items:
        _define(stage, item, _name(item.name, names), offset)
    if also is not None:
        also(stage)
    stage.GetRootLayer().Export(str(path))


def _name(name: str, taken: set[str]) -> str:
    """A name that a prim may have; names that come out alike are counted."""
    stem = Tf.MakeValidIdentifier(name) or "Camera"
    free_name, number = stem, 1
    while free_name in taken:
        number += 1
        free_name = f"{stem}_{number}"
    taken.add(free_name)
    return free_name


def _define(stage: Usd.Stage, item: Travelling, name: str, offset: Vec3) -> None:
    camera = UsdGeom.Camera.Define(stage, f"/Cameras/{name}")
    prim = camera.GetPrim()
    prim.SetMetadata("displayName", item.name)
    if item.intent:
        prim.SetMetadata("documentation", item.intent)
    for key, value in (
        ("note", item.note),
        ("size_px", f"{item.first.view.width_px} x {item.first.view.height_px}"),
    ):
        if value:
            prim.SetCustomDataByKey(f"altana:{key}", value)
    place = camera.AddTransformOp()
    rate = stage.GetTimeCodesPerSecond()
    for frame in item.frames:
        when = Usd.TimeCode.Default() if len(item.frames) == 1 else Usd.TimeCode(frame.seconds * rate)
        place.Set(Gf.Matrix4d(*placement(frame.view, offset).T.ravel().tolist()), when)
        for attribute, value in _values(camera, item, frame):
            # What does not change on the way is told once.
            if when.IsDefault() or frame is item.first or attribute.Get(when) != value:
                attribute.Set(value, when)


def _values(camera: UsdGeom.Camera, item: Travelling, frame: Frame) -> list[tuple[Any, Any]]:
    view, lens = frame.view, frame.view.lens
    wide, high = view.sensor_mm
    return [
        (camera.CreateFocalLengthAttr(), lens.focal_mm / TENTH_MM),
        (camera.CreateHorizontalApertureAttr(), wide / TENTH_MM),
        (camera.CreateVerticalApertureAttr(), high / TENTH_MM),
        (camera.CreateHorizontalApertureOffsetAttr(), lens.cross_mm / TENTH_MM),
        (camera.CreateVerticalApertureOffsetAttr(), lens.rise_mm / TENTH_MM),
        (camera.CreateClippingRangeAttr(), Gf.Vec2f(view.near_m or NEAREST_M, view.far_m or FARTHEST_M)),
        (camera.CreateFStopAttr(), item.f_number),
        (camera.CreateFocusDistanceAttr(), item.focus_m or 0.0),
        (camera.CreateExposureAttr(), -(frame.ev + SATURATION)),
        (camera.GetPrim().CreateAttribute("altana:ev", Sdf.ValueTypeNames.Float), frame.ev),
    ]
