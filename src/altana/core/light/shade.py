"""Sun and shade at places: when the sun shines there on a day, and what stands in its way at the other
times."""

from __future__ import annotations

import functools
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from altana.core.conventions import Floats, Ints32, Vec3
from altana.core.geometry.rays import RayScene
from altana.core.geometry.sight import passed_faces, see
from altana.core.light.sun import sun_position, towards_sun
from altana.core.model import GLASS, Model
from altana.core.project import Light

STEP_H = 1.0 / 12.0
#: What stands so near to a place is the ground it lies on.
START_M = 0.02
#: The days on which the year turns, spring to winter.
TURNING_DAYS = ("03-20", "06-21", "09-23", "12-21")


@dataclass(frozen=True, slots=True)
class Span:
    """From one hour of the day to another; ``by`` is what shades, empty while the sun shines."""

    begin_h: float
    end_h: float
    by: str = ""
    object_id: str = ""


@dataclass(frozen=True, slots=True)
class SunDay:
    """A day at one place: sunrise and sunset (hours, None where the sun does neither), the hours of sun, and
    every span in order."""

    rise_h: float | None
    set_h: float | None
    hours: float
    spans: tuple[Span, ...]


def day_hours(light: Light, step_h: float = STEP_H) -> tuple[Floats, Floats]:
    """(n,) hours of the light's day in even steps at which the sun is up, and (n, 3) the directions towards
    it; not to be written to."""
    return _day_hours(replace(light, hour=12.0), step_h)


# While the sun is dragged through a day, that day is asked for at every step.
@functools.lru_cache(maxsize=32)
def _day_hours(light: Light, step_h: float) -> tuple[Floats, Floats]:
    hours, directions = [], []
    for hour in np.arange(step_h / 2, 24.0, step_h).tolist():
        at = replace(light, hour=hour)
        if sun_position(at)[1] > 0.0:
            hours.append(hour)
            directions.append(towards_sun(at))
    day = np.array(hours), np.array(directions).reshape(-1, 3)
    for item in day:
        item.flags.writeable = False
    return day


def shading_faces(model: Model, rays: RayScene, places: Floats, towards: Floats) -> Ints32:
    """(n,) the triangle that stands between each place (n, 3) and the sun (n, 3), -1 where it shines; panes
    let it through."""
    return see(rays, places + towards * START_M, towards, passed_faces(model)).face


def sun_day(model: Model, rays: RayScene, light: Light, place: Vec3) -> SunDay:
    """A day at a place (metres)."""
    hours, towards = day_hours(light)
    if not len(hours):
        return SunDay(None, None, 0.0, ())
    faces = shading_faces(model, rays, np.tile(place, (len(hours), 1)), towards)
    owner = model.face_objects()
    spans: list[Span] = []
    for hour, face in zip(hours.tolist(), faces.tolist(), strict=True):
        shading = model.objects[int(owner[face])] if face >= 0 else None
        name, object_id = (shading.name or shading.id, shading.id) if shading is not None else ("", "")
        begin, end = hour - STEP_H / 2, hour + STEP_H / 2
        last = spans[-1] if spans else None
        if last is not None and last.object_id == object_id and abs(last.end_h - begin) < 1e-6:
            spans[-1] = replace(last, end_h=end)
        else:
            spans.append(Span(begin, end, name, object_id))
    sunny = sum(span.end_h - span.begin_h for span in spans if not span.object_id)
    return SunDay(spans[0].begin_h, spans[-1].end_h, sunny, tuple(spans))


def solid_rays(model: Model) -> RayScene:
    """The rays of what keeps the sun off: everything but panes and leaves with holes in their pictures."""
    clear = np.array([item.kind == GLASS or item.has_holes for item in model.materials], bool)
    return RayScene.of(model, chosen=~clear[model.face_material])


def sun_hours(solid: RayScene, lights: Sequence[Light], places: Floats) -> Floats:
    """(n,) hours of sun at places (n, 3), the mean of several days, in half-hour steps.  solid : as from
    :func:`solid_rays`."""
    total: Floats = np.zeros(len(places))
    for light in lights:
        for direction in day_hours(light, 0.5)[1]:
            along = np.tile(direction, (len(places), 1))
            total += ~solid.shaded(places + along * START_M, along) * 0.5
    return total / max(len(lights), 1)


def turning_days(light: Light) -> tuple[Light, ...]:
    """The light on the year's four turning days."""
    year = light.date[:4]
    return tuple(replace(light, date=f"{year}-{day}") for day in TURNING_DAYS)
