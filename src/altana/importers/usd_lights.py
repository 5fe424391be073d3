"""Lights of a USD stage as lamps: what UsdLux says of them, in lumens.

A light's luminance is its intensity x 2^exposure, cd/m2, over its surface; where it is normalised that is
divided by the surface. A flat surface throws into the half space before it, a round one all round.  Suns and
skies of the file are not taken.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from pxr import UsdLux

from altana.core.conventions import Floats
from altana.importers.lights import add_lamp, kelvin_of, space_of
from altana.importers.raw import RawModel

FLAT = (UsdLux.DiskLight, UsdLux.RectLight)


def is_lamp(prim: Any) -> bool:
    """Whether it is a light with a place."""
    return any(prim.IsA(kind) for kind in (UsdLux.SphereLight, UsdLux.CylinderLight, *FLAT))


def add_usd_lamp(raw: RawModel, prim: Any, name: str, world: Floats, time: Any, metres: float) -> None:
    """Keep a light.  world : (4, 4) metres, Z up.  metres : per unit of the stage."""
    light = UsdLux.LightAPI(prim)
    strength = _value(light.GetIntensityAttr(), time, 1.0) * 2.0 ** min(
        _value(light.GetExposureAttr(), time, 0.0), 60.0
    )
    surface = _surface(prim, time, metres)
    if _value(light.GetNormalizeAttr(), time, 0.0):
        strength /= max(surface, 1e-9)
    kelvin = _value(light.GetColorTemperatureAttr(), time, 6500.0)
    if not _value(light.GetEnableColorTemperatureAttr(), time, 0.0):
        red, _, blue = (float(part) for part in light.GetColorAttr().Get(time) or (1.0, 1.0, 1.0))
        kelvin = kelvin_of(red, blue)
    lumens = strength * math.pi * surface
    whole = 90.0 if any(prim.IsA(kind) for kind in FLAT) else None
    half: float | None = whole
    shaping = UsdLux.ShapingAPI(prim)
    cone = shaping.GetShapingConeAngleAttr()
    if cone and cone.Get(time) is not None and float(cone.Get(time)) < (half or 180.0):
        half = float(cone.Get(time))
    along = -world[:3, 2] if half is not None and half <= 90.0 else None
    # A cone cuts off what a light throws beside it; ahead it stays as bright.
    add_lamp(raw, name, world, lumens / space_of(whole), kelvin, along, half if half is not None else 45.0)


def _surface(prim: Any, time: Any, metres: float) -> float:
    """What shines, m2."""
    if prim.IsA(UsdLux.SphereLight):
        light = UsdLux.SphereLight(prim)
        radius = _value(light.GetRadiusAttr(), time, 0.5) * metres
        return 4.0 * math.pi * radius * radius
    if prim.IsA(UsdLux.DiskLight):
        radius = _value(UsdLux.DiskLight(prim).GetRadiusAttr(), time, 0.5) * metres
        return math.pi * radius * radius
    if prim.IsA(UsdLux.RectLight):
        rect = UsdLux.RectLight(prim)
        return (
            _value(rect.GetWidthAttr(), time, 1.0) * _value(rect.GetHeightAttr(), time, 1.0) * metres * metres
        )
    tube = UsdLux.CylinderLight(prim)
    return (
        2.0
        * math.pi
        * _value(tube.GetRadiusAttr(), time, 0.5)
        * _value(tube.GetLengthAttr(), time, 1.0)
        * metres
        * metres
    )


def _value(attribute: Any, time: Any, usual: float) -> float:
    value = attribute.Get(time) if attribute else None
    return float(value) if value is not None and np.isfinite(value) else usual
