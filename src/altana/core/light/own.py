"""Whose light holds: a row's own before its camera's, a camera's before the project's."""

from __future__ import annotations

from dataclasses import dataclass, replace

from altana.core.errors import Refused
from altana.core.light.clock import day_of
from altana.core.project import FOLLOWS, SKIES, Camera, Light, OwnLight, Shot
from altana.core.ranges import HOUR


def light_with(light: Light, own: OwnLight) -> Light:
    """The light with what is its owner's."""
    if not own:
        return light
    lamps = light.lamps if own.lamps is None else replace(light.lamps, on=own.lamps)
    return replace(
        light,
        date=own.date or light.date,
        hour=light.hour if own.hour is None else own.hour,
        sky=own.sky or light.sky,
        lamps=lamps,
    )


@dataclass(frozen=True, slots=True)
class MomentLight:
    """The light of one moment of a walk: the local time of day, and the share of their light that lamps give
    (0 to 1); None where the project's hold."""

    hour: float | None = None
    lamps: float | None = None

    def of(self, light: Light) -> Light:
        """The light at this moment, where it is ``light`` otherwise."""
        lamps = light.lamps if self.lamps is None else light.lamps.burning(self.lamps)
        return replace(light, hour=light.hour if self.hour is None else self.hour, lamps=lamps)


def own_of(shot: Shot | None) -> OwnLight:
    """What of the light is a row's own."""
    return FOLLOWS if shot is None else OwnLight(shot.date, shot.hour, shot.sky, shot.lamps)


def light_for(light: Light, camera: Camera | None = None, shot: Shot | None = None) -> Light:
    """The light of a picture: the project's, with what its camera and its row have of their own."""
    return light_with(light_with(light, camera.light if camera is not None else FOLLOWS), own_of(shot))


def checked_own(own: OwnLight, whose: str) -> OwnLight:
    """The same, or Refused naming what is wrong."""
    if own.date:
        day_of(own.date)
    if own.hour is not None:
        HOUR.check(f"{whose}: an hour", own.hour)
    if own.sky and own.sky not in SKIES:
        raise Refused(f"{whose}: “{own.sky}” is no sky. Choose {', '.join(SKIES)}.")
    return own
