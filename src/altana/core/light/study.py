"""Shade studies: the times of a day, or of the year's turning days, at which a place is looked at."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from altana.core.conventions import Bools, Floats
from altana.core.edits.shots import add_shots, start_values
from altana.core.edits.walks import add_walk
from altana.core.errors import Refused
from altana.core.light.clock import day_of, hour_words
from altana.core.light.shade import TURNING_DAYS, day_hours
from altana.core.light.sun import sun_position
from altana.core.project import FILM, KEYED, STILL, Light, Project, Shot, Walk, WalkKey
from altana.core.ranges import HOUR

MOST_PICTURES = 96
#: A film of a day lasts so long for each hour of sun.
FILM_S_AN_HOUR = 1.5
FOLDER = "shade"


@dataclass(frozen=True, slots=True)
class Study:
    """From one clock time to another in steps, on one day or the four turning days of its year."""

    from_h: float = 8.0
    to_h: float = 18.0
    step_h: float = 1.0
    turning_days: bool = False


def moments(light: Light, study: Study) -> tuple[Light, ...]:
    """The light at each time of a study at which the sun is up.  Raises Refused for times that make none, or
    too many."""
    for what, value in (("A beginning", study.from_h), ("An end", study.to_h)):
        HOUR.check(what, value)
    if not study.from_h <= study.to_h or study.step_h < 1.0 / 12.0:
        raise Refused("A study goes from one time to a later one, in steps of five minutes at least.")
    days = [f"{light.date[:4]}-{day}" for day in TURNING_DAYS] if study.turning_days else [light.date]
    day_of(days[0])
    hours = np.arange(study.from_h, study.to_h + 1e-6, study.step_h).tolist()
    if len(hours) * len(days) > MOST_PICTURES:
        raise Refused(f"That is more than {MOST_PICTURES} pictures. Take larger steps, or fewer hours.")
    wanted = [replace(light, date=day, hour=round(hour, 4)) for day in days for hour in hours]
    moments_up = tuple(item for item in wanted if sun_position(item)[1] > 0.0)
    if not moments_up:
        raise Refused("The sun is not up at any of these times.")
    return moments_up


def add_study(project: Project, camera_id: str, study: Study) -> Project:
    """Rows of the shot list for a camera at each time of a study, in a folder of their own.  Raises
    Refused."""
    rows: list[Shot] = []
    start = start_values(project, STILL, camera_id)
    for item in moments(project.light, study):
        clock = hour_words(item.hour).replace(":", "").zfill(4)
        rows.append(
            replace(
                start,
                hour=item.hour,
                date=item.date,
                folder=f"{FOLDER}/{{camera}}",
                pattern=f"{item.date}-{clock}",
                keep_master=False,
            )
        )
    return add_shots(project, rows)


def day_film(project: Project, camera_id: str) -> Walk:
    """A film in which the day goes by before a camera that stands still: a walk on the spot with its hours
    keyed.  Raises Refused."""
    camera = project.camera(camera_id)
    if camera is None:
        raise Refused("There is no such camera.")
    up = day_hours(project.light)[0]
    if not len(up):
        raise Refused("The sun does not rise on this day.")
    first, last = float(up[0]), float(up[-1])
    x, y, z = camera.eye
    key = WalkKey(
        camera.eye,
        camera.heading_deg,
        camera.tilt_deg,
        camera.focal_mm,
        camera.ev,
        rise_mm=camera.rise_mm,
        cross_mm=camera.cross_mm,
        hour=round(first, 3),
    )
    # A route has a length: two millimetres, which no picture shows.
    end = replace(key, eye=(x + 2e-3, y, z), hour=round(last, 3))
    seconds = round((last - first) * FILM_S_AN_HOUR, 1)
    return Walk(
        "",
        f"A day, {camera.name}",
        (key, end),
        seconds=seconds,
        looking=KEYED,
        follow_floor=False,
        width_px=camera.width_px // 2 * 2,
        height_px=camera.height_px // 2 * 2,
    )


def add_day_film(project: Project, camera_id: str) -> Project:
    """The walk of :func:`day_film`, and a row for its film.  Raises Refused."""
    after, walk = add_walk(project, day_film(project, camera_id))
    return add_shots(after, [start_values(after, FILM, walk)])


#: From no sun to all day: dark blue, green, yellow, red; the steps are told by the legend.
_COLOURS = np.array(
    [
        (0.10, 0.12, 0.32),
        (0.11, 0.38, 0.55),
        (0.22, 0.60, 0.46),
        (0.72, 0.76, 0.30),
        (0.96, 0.66, 0.22),
        (0.86, 0.28, 0.16),
    ]
)


def false_colour(hours: Floats, most: float) -> Floats:
    """(n, 3) displayed colours of hours of sun from 0 to ``most``."""
    at = np.clip(np.nan_to_num(hours) / max(most, 1e-9), 0.0, 1.0) * (len(_COLOURS) - 1)
    low = np.minimum(at.astype(int), len(_COLOURS) - 2)
    share = (at - low)[:, None]
    mixed: Floats = _COLOURS[low] * (1.0 - share) + _COLOURS[low + 1] * share
    return mixed


def shown_hours(hours: Floats, there: Bools) -> tuple[float, float, float]:
    """Least, mean and most hours where something is there; zeros where nothing is."""
    some = hours[there]
    return (float(some.min()), float(some.mean()), float(some.max())) if len(some) else (0.0, 0.0, 0.0)


def legend_steps(most: float) -> Sequence[float]:
    """Round figures from nothing to the most."""
    step = next((item for item in (0.5, 1.0, 2.0, 3.0, 4.0) if most / item <= 6), 4.0)
    return np.arange(0.0, most + 1e-6, step).tolist()
