"""Where the sun stands, by place, date and hour.

The low-precision solar coordinates of the Astronomical Almanac (good to about 0.01 degrees between 1950
and 2050), then the usual turn into the horizon's system.  Refraction is left out.
"""

from __future__ import annotations

import math
from datetime import UTC, date, datetime, timedelta

from altana.core.conventions import Vec3, wrap_heading
from altana.core.errors import Refused
from altana.core.project import Light

#: Illuminance on a surface square to the sun and of the open sky on level ground, lux, clear summer air.
SUN_LUX = 98_000.0
SKY_LUX = 21_000.0


def sun_position(light: Light) -> tuple[float, float]:
    """Heading (degrees clockwise from north) and altitude (degrees) of the sun.

    Raises Refused when the date cannot be read.
    """
    try:
        day = date.fromisoformat(light.date)
    except ValueError as error:
        raise Refused(f"“{light.date}” is not a date; write it as 2026-06-21.") from error
    moment = datetime(day.year, day.month, day.day, tzinfo=UTC) + timedelta(
        hours=light.hour - light.utc_offset_h
    )
    days = (moment - datetime(2000, 1, 1, 12, tzinfo=UTC)).total_seconds() / 86400.0
    declination, right_ascension = _equatorial(days)
    sidereal_h = (18.697374558 + 24.06570982441908 * days) % 24.0
    hour_angle = math.radians(sidereal_h * 15.0 + light.longitude_deg) - right_ascension
    latitude = math.radians(light.latitude_deg)
    up = math.sin(latitude) * math.sin(declination) + math.cos(latitude) * math.cos(declination) * math.cos(
        hour_angle
    )
    east = -math.cos(declination) * math.sin(hour_angle)
    north = math.cos(latitude) * math.sin(declination) - math.sin(latitude) * math.cos(
        declination
    ) * math.cos(hour_angle)
    return wrap_heading(math.degrees(math.atan2(east, north))), math.degrees(
        math.asin(max(-1.0, min(1.0, up)))
    )


def _equatorial(days: float) -> tuple[float, float]:
    longitude = math.radians((280.460 + 0.9856474 * days) % 360.0)
    anomaly = math.radians((357.528 + 0.9856003 * days) % 360.0)
    ecliptic = longitude + math.radians(1.915 * math.sin(anomaly) + 0.020 * math.sin(2 * anomaly))
    obliquity = math.radians(23.439 - 4.0e-7 * days)
    right_ascension = math.atan2(math.cos(obliquity) * math.sin(ecliptic), math.cos(ecliptic))
    return math.asin(math.sin(obliquity) * math.sin(ecliptic)), right_ascension


def towards_sun(light: Light) -> Vec3:
    """Unit vector from the ground to the sun."""
    heading, altitude = (math.radians(value) for value in sun_position(light))
    return (
        math.sin(heading) * math.cos(altitude),
        math.cos(heading) * math.cos(altitude),
        math.sin(altitude),
    )


def illuminance(light: Light) -> tuple[float, float]:
    """Sun (on a surface square to it) and sky (on level ground) in lux, thinning towards the horizon."""
    altitude = sun_position(light)[1]
    height = math.sin(math.radians(max(altitude, 0.0)))
    air = math.exp(-0.21 / max(height, 0.02)) / math.exp(-0.21)
    sun = SUN_LUX * air * (1.0 - 0.75 * light.haze) if altitude > 0.0 else 0.0
    sky = SKY_LUX * (0.12 + 0.88 * height**0.6) * (1.0 + 0.9 * light.haze)
    return sun, sky if altitude > 0.0 else SKY_LUX * 0.02
