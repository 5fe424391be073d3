"""Where an IFC file says that its building stands, and in what unit."""

from __future__ import annotations

import math
from typing import Any

import ifcopenshell
import ifcopenshell.geom
import ifcopenshell.util.element
import ifcopenshell.util.placement
import ifcopenshell.util.unit

from altana.core.model import Place
from altana.importers.units import unit_name


def place_of(file: Any) -> Place | None:
    """Where on earth the site stands, which way is north, and its map coordinates."""
    latitude = longitude = None
    height = 0.0
    for site in file.by_type("IfcSite"):
        if site.RefLatitude and site.RefLongitude:
            latitude, longitude = _degrees(site.RefLatitude), _degrees(site.RefLongitude)
            height = float(site.RefElevation or 0.0) * metres_of(file)
            break
    north, origin, grid = 0.0, None, ""
    for context in file.by_type("IfcGeometricRepresentationContext", include_subtypes=False):
        direction = getattr(context, "TrueNorth", None)
        if direction is not None:
            x, y = (float(value) for value in direction.DirectionRatios[:2])
            north = round(math.degrees(math.atan2(x, y)), 9)
            break
    for operation in file.by_type("IfcMapConversion") if file.schema != "IFC2X3" else ():
        scale = float(operation.Scale or 1.0)
        unit = metres_of(file) if scale == 1.0 else 1.0
        origin = (
            float(operation.Eastings) * unit,
            float(operation.Northings) * unit,
            float(operation.OrthogonalHeight or 0.0) * unit,
        )
        grid = str(getattr(operation.TargetCRS, "Name", "") or "")
        if operation.XAxisAbscissa is not None and operation.XAxisOrdinate is not None:
            # The map's north, where the file says nothing of the true one, which differs from it by a degree
            # or two.
            turned = math.degrees(math.atan2(float(operation.XAxisOrdinate), float(operation.XAxisAbscissa)))
            north = north or turned
        break
    if latitude is None and origin is None and north == 0.0:
        return None
    return Place(latitude, longitude, height, north, origin, grid)


def _degrees(parts: Any) -> float:
    """Degrees of a compound measure: degrees, minutes, seconds, millionths of a second, all of one sign."""
    values = [float(value) for value in parts] + [0.0] * 4
    return values[0] + values[1] / 60.0 + values[2] / 3600.0 + values[3] / 3.6e9


def metres_of(file: Any) -> float:
    """How long one unit of the file is, metres."""
    try:
        return float(ifcopenshell.util.unit.calculate_unit_scale(file))
    except Exception:  # noqa: BLE001 - the border of a foreign parser
        # Files without units fail in several ways; metres are what the standard then leaves.
        return 1.0


def unit_of(file: Any) -> str:
    """The file's unit in a word, empty where it names none."""
    try:
        named = ifcopenshell.util.unit.get_project_unit(file, "LENGTHUNIT") is not None
    except Exception:  # noqa: BLE001 - the border of a foreign parser
        # Units that are damaged are none.
        named = False
    return unit_name(metres_of(file)) if named else ""
