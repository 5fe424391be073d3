"""Clock time and time zones: what a clock shows at a place, and how far it is ahead of UTC on that day."""

from __future__ import annotations

import re
from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from altana.core.errors import Refused
from altana.core.project import Light
from altana.core.ranges import HOUR, UTC_OFFSET_H


def day_of(text: str) -> date:
    """A date from ``2026-06-21``.  Raises Refused."""
    try:
        return date.fromisoformat(text)
    except ValueError as error:
        raise Refused(f"“{text}” is not a date; write it as 2026-06-21.") from error


def zone_named(name: str) -> ZoneInfo:
    """A time zone by its name in the tz database.  Raises Refused."""
    try:
        return ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError, OSError) as error:
        raise Refused(f"“{name}” is no time zone. Write it as Europe/Zurich, or as hours like +2.") from error


def offset_h(light: Light) -> float:
    """What the clock is ahead of UTC, hours, on the light's day and hour; daylight saving included.  Raises
    Refused."""
    if not light.zone:
        return light.utc_offset_h
    day, zone = day_of(light.date), zone_named(light.zone)
    local = datetime(day.year, day.month, day.day) + timedelta(hours=light.hour)
    ahead = local.replace(tzinfo=zone).utcoffset()
    return ahead.total_seconds() / 3600.0 if ahead is not None else 0.0


def moment(light: Light) -> datetime:
    """The light's moment in UTC.  Raises Refused."""
    day = day_of(light.date)
    return datetime(day.year, day.month, day.day, tzinfo=UTC) + timedelta(hours=light.hour - offset_h(light))


def parse_hour(text: str) -> float:
    """Clock time as hours: ``17:30``, ``17.5``, ``17``, ``5:30 pm``.  Raises Refused."""
    plain = text.strip().lower().removesuffix("h").strip()
    afternoon = re.fullmatch(r"(.*?)\s*([ap])\.?m\.?", plain)
    number = afternoon.group(1) if afternoon else plain
    match = re.fullmatch(r"(\d{1,2}):(\d{2})(?::(\d{2}))?", number)
    try:
        hour = (
            int(match.group(1)) + int(match.group(2)) / 60.0 + int(match.group(3) or 0) / 3600.0
            if match
            else float(number.replace(",", "."))
        )
    except ValueError as error:
        raise Refused(f"“{text}” is no time of day. Write it as 17:30.") from error
    if match and (int(match.group(2)) > 59 or int(match.group(3) or 0) > 59):
        raise Refused(f"“{text}” is no time of day. Write it as 17:30.")
    if afternoon:
        hour = hour % 12.0 + (12.0 if afternoon.group(2) == "p" else 0.0)
    HOUR.check("A time of day", hour)
    return hour


def hour_words(hour: float) -> str:
    """Hours as clock time: ``17:30``."""
    minutes = round(hour * 60.0)
    return f"{minutes // 60 % 24}:{minutes % 60:02d}"


def parse_zone(text: str) -> tuple[str, float]:
    """A time zone by name, or as hours ahead of UTC: the name and the hours, the name empty where hours hold.
    Raises Refused."""
    plain = text.strip()
    match = re.fullmatch(r"(?:UTC|GMT)?\s*([+\-−]?)(\d{1,2})(?::?(\d{2}))?", plain, re.IGNORECASE)
    if match:
        hours = int(match.group(2)) + int(match.group(3) or 0) / 60.0
        ahead = -hours if match.group(1) in ("-", "−") else hours
        UTC_OFFSET_H.check("A time zone", ahead)
        return "", ahead
    return zone_named(plain).key, 0.0
