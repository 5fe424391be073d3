"""Where the sun stands, by place, date and hour.

The low-precision solar coordinates of the Astronomical Almanac (good to about 0.01 degrees between 1950
and 2050), then the usual turn into the horizon's system.  Refraction is left out.
"""

from __future__ import annotations

import math
from datetime import UTC, datetime

import numpy as np

from altana.core.conventions import Vec3, wrap_heading
from altana.core.light.clock import moment
from altana.core.project import HAZY, OVERCAST, Light

#: Illuminance on a surface square to the sun and of the open sky on level ground, lux, clear summer air.
SUN_LUX = 98_000.0
SKY_LUX = 21_000.0
#: A hazy sky has at least so much haze; an overcast one throws this share of a clear one's light, and the sun
#: nothing.
HAZY_HAZE, OVERCAST_SHARE = 0.75, 0.8
#: Below the first of these altitudes it is twilight; what the sky throws at the others.
TWILIGHT_DEG = (6.0, 0.0, -3.0, -6.0, -9.0, -12.0, -18.0)
TWILIGHT_LUX = (700.0, 110.0, 4.0, 0.25, 0.015, 0.001)
J2000 = datetime(2000, 1, 1, 12, tzinfo=UTC)


def sun_azimuth(light: Light) -> tuple[float, float]:
    """Azimuth (degrees clockwise from true north) and altitude (degrees) of the sun.  Raises Refused for a
    date or a zone that cannot be read."""
    days = (moment(light) - J2000).total_seconds() / 86400.0
    declination, right_ascension = _equatorial(days)
    sidereal_h = (18.697374558 + 24.06570982441908 * days) % 24.0
    hour_angle = math.radians(sidereal_h * 15.0 + light.longitude_deg) - right_ascension
    latitude = math.radians(light.latitude_deg)
    sine, cosine = math.sin(latitude), math.cos(latitude)
    up = sine * math.sin(declination) + cosine * math.cos(declination) * math.cos(hour_angle)
    east = -math.cos(declination) * math.sin(hour_angle)
    north = cosine * math.sin(declination) - sine * math.cos(declination) * math.cos(hour_angle)
    azimuth = wrap_heading(math.degrees(math.atan2(east, north)))
    return azimuth, math.degrees(math.asin(max(-1.0, min(1.0, up))))


def sun_position(light: Light) -> tuple[float, float]:
    """Heading (degrees clockwise from the model's +Y) and altitude (degrees) of the sun.  Raises Refused as
    ``sun_azimuth``."""
    azimuth, altitude = sun_azimuth(light)
    return wrap_heading(azimuth + light.north_deg), altitude


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
    """Sun (on a surface square to it) and sky (on level ground) in lux, thinning towards the horizon; after
    sunset the sky's twilight."""
    altitude = sun_position(light)[1]
    height = math.sin(math.radians(max(altitude, 0.0)))
    air = math.exp(-0.21 / max(height, 0.02)) / math.exp(-0.21)
    haze = haze_of(light)
    sun = SUN_LUX * air * (1.0 - 0.75 * haze) if altitude > 0.0 and light.sky != OVERCAST else 0.0
    return sun, _sky_lux(altitude) * (OVERCAST_SHARE if light.sky == OVERCAST else 1.0 + 0.9 * haze)


def haze_of(light: Light) -> float:
    """How much haze is in the air, 0 to 1, by the sky's word."""
    return {HAZY: max(light.haze, HAZY_HAZE), OVERCAST: 0.0}.get(light.sky, light.haze)


def _sky_lux(altitude_deg: float) -> float:
    """What a clear sky throws on level ground, lux: by day rising with the sun, in twilight as measured
    (figures of the CIE and of the Astronomical Almanac's twilight tables, rounded)."""
    if altitude_deg >= TWILIGHT_DEG[0]:
        return SKY_LUX * (0.12 + 0.88 * math.pow(math.sin(math.radians(altitude_deg)), 0.6))
    day = SKY_LUX * (0.12 + 0.88 * math.pow(math.sin(math.radians(TWILIGHT_DEG[0])), 0.6))
    steps = (day, *TWILIGHT_LUX)
    return math.exp(float(np.interp(-altitude_deg, [-value for value in TWILIGHT_DEG], np.log(steps))))
