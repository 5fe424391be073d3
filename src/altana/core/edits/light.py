"""Edits of the project's light."""

from __future__ import annotations

from dataclasses import replace
from pathlib import PurePosixPath

from altana.core.errors import Refused
from altana.core.light.clock import day_of, zone_named
from altana.core.light.sun import sun_position
from altana.core.model import Place
from altana.core.project import SKIES, SURROUNDINGS_USES, LampGroup, Light, MarkedLamp, Project, Surroundings
from altana.core.ranges import (
    HAZE,
    HOUR,
    KELVIN,
    LAMP_LEVEL,
    LATITUDE_DEG,
    LONGITUDE_DEG,
    LUMENS,
    NORTH_DEG,
    STRENGTH_EV,
    UTC_OFFSET_H,
)


def checked_light(light: Light) -> Light:
    """The light itself, or Refused naming what makes no light."""
    for limits, what, value in (
        (LATITUDE_DEG, "A latitude", light.latitude_deg),
        (LONGITUDE_DEG, "A longitude", light.longitude_deg),
        (UTC_OFFSET_H, "A time zone", light.utc_offset_h),
        (HOUR, "An hour", light.hour),
        (HAZE, "Haze", light.haze),
        (NORTH_DEG, "North", light.north_deg),
        (NORTH_DEG, "Turning the surroundings", light.surroundings.turn_deg),
        (STRENGTH_EV, "A strength of the surroundings", light.surroundings.strength_ev),
    ):
        limits.check(what, value)
    day_of(light.date)
    if light.zone:
        zone_named(light.zone)
    if light.sky not in SKIES:
        raise Refused(f"“{light.sky}” is no sky. Choose {', '.join(SKIES)}.")
    if light.surroundings.use not in SURROUNDINGS_USES:
        raise Refused(
            f"“{light.surroundings.use}” is no use of surroundings. Choose {', '.join(SURROUNDINGS_USES)}."
        )
    path = PurePosixPath(light.surroundings.file)
    if light.surroundings.file and (path.is_absolute() or ".." in path.parts):
        raise Refused(f"The surroundings “{light.surroundings.file}” do not lie in the project's folder.")
    LAMP_LEVEL.check("What lamps are dimmed to", light.lamps.level)
    for group in light.lamps.groups:
        STRENGTH_EV.check("A strength of lamps", group.strength_ev)
        if group.kelvin:
            KELVIN.check("A warmth of lamps", group.kelvin)
    for lamp in light.lamps.marked:
        LUMENS.check("A lamp", lamp.lumens)
        KELVIN.check("A warmth of lamps", lamp.kelvin)
    sun_position(light)
    return light


def set_light(project: Project, **values: object) -> Project:
    """Set fields of the project's light.  Raises Refused."""
    return replace(project, light=checked_light(replace(project.light, **values)))  # type: ignore[arg-type]


def set_surroundings(project: Project, **values: object) -> Project:
    """Set fields of the surroundings; an empty file takes them away.  Raises Refused."""
    now: Surroundings = replace(project.light.surroundings, **values)  # type: ignore[arg-type]
    return set_light(project, surroundings=now)


def light_from_model(project: Project, place: Place | None) -> Project:
    """The place and the north that a model file names.  Raises Refused where it names none."""
    if place is None or place.latitude_deg is None or place.longitude_deg is None:
        raise Refused("The model file does not say where on earth it stands. Type a place or a town.")
    return set_light(
        project,
        latitude_deg=place.latitude_deg,
        longitude_deg=place.longitude_deg,
        north_deg=place.north_deg,
        place="",
    )


def set_lamps(project: Project, on: bool) -> Project:
    """All lamps of the project on or off."""
    return set_light(project, lamps=replace(project.light.lamps, on=on))


def dim_lamps(project: Project, level: float) -> Project:
    """All lamps of the project give a share of their light, 0 to 1, while they are on.  Raises Refused."""
    return set_light(project, lamps=replace(project.light.lamps, level=level))


def set_lamp_group(project: Project, name: str, **values: object) -> Project:
    """How a group of lamps burns.  Raises Refused."""
    lamps = project.light.lamps
    group: LampGroup = replace(lamps.group(name), **values)  # type: ignore[arg-type]
    others = tuple(item for item in lamps.groups if item.name != name)
    return set_light(project, lamps=replace(lamps, groups=(*others, group)))


def mark_lamp(project: Project, object_id: str, on: bool, **values: object) -> Project:
    """An object is a lamp from now on, or no longer.  Raises Refused."""
    lamps = project.light.lamps
    known = next((item for item in lamps.marked if item.object_id == object_id), MarkedLamp(object_id))
    others = tuple(item for item in lamps.marked if item.object_id != object_id)
    marked: MarkedLamp = replace(known, **values)  # type: ignore[arg-type]
    return set_light(project, lamps=replace(lamps, marked=(*others, marked) if on else others))
