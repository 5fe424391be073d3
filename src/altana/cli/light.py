"""``altana light``: place, date, time, sky and surroundings of a project; where the sun stands, and what
shades a place."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

import click
import msgspec
import numpy as np

from altana.cli.shared import (
    BASE,
    JOB,
    JSON,
    ProjectPath,
    asked_to_stop,
    edited,
    numbers,
    opened_models,
    say,
    storey_named,
    tell_progress,
    vec3,
    without_none,
)
from altana.core.edits.light import checked_light, light_from_model, set_light, set_surroundings
from altana.core.errors import Refused, UserError
from altana.core.geometry.drawing import Drafter
from altana.core.geometry.rays import RayScene
from altana.core.light.above import CUT_ABOVE_M, camera_above, with_camera
from altana.core.light.clock import hour_words, offset_h, parse_hour, parse_zone
from altana.core.light.place import parse_place, place_words
from altana.core.light.shade import Span, sun_day
from altana.core.light.study import Study, add_day_film, add_study, shown_hours
from altana.core.light.sun import illuminance, sun_azimuth, sun_position, towards_sun
from altana.core.light.transport import Cancelled
from altana.core.project import SKIES, SURROUNDINGS_USES, Camera, Light, Project
from altana.core.staging import Lookup
from altana.jobs.journal import Journal
from altana.jobs.sun_hours import hours_in_view, hours_on_plan, title_of, write_hours
from altana.jobs.surroundings import read_surroundings
from altana.storage.files import make_folder
from altana.storage.project_file import read_project, take_in
from altana.storage.towns import nearest_town, town_named


class _LightCommands(click.Group):
    """A first word that is no subcommand is the project whose light is set or said."""

    def parse_args(self, ctx: click.Context, args: list[str]) -> list[str]:
        if args and args[0] not in self.commands and args[0] != "--help":
            args = ["set", *args]
        return super().parse_args(ctx, args)


@click.group("light", cls=_LightCommands)
def light_group() -> None:
    """Set the light: place, date and time, sky, surroundings."""


def facts_of(light: Light) -> dict[str, Any]:
    """The light as it is and where its sun stands, as plain values."""
    azimuth, elevation = sun_azimuth(light)
    sun_lux, sky_lux = illuminance(light)
    facts: dict[str, Any] = msgspec.to_builtins(light)
    return facts | {
        "time": hour_words(light.hour),
        "offset_h": offset_h(light),
        "azimuth_deg": round(azimuth, 4),
        "elevation_deg": round(elevation, 4),
        "direction": [round(value, 6) for value in towards_sun(light)],
        "sun_lux": round(sun_lux, 1),
        "sky_lux": round(sky_lux, 3),
    }


def _lines(light: Light) -> list[str]:
    azimuth, elevation = sun_azimuth(light)
    ahead = offset_h(light)
    zone = light.zone or "no zone named"
    name = (
        f"{light.place} ({place_words(light.latitude_deg, light.longitude_deg)})"
        if light.place
        else place_words(light.latitude_deg, light.longitude_deg)
    )
    round_ = light.surroundings
    return [
        f"{name}; {zone}, UTC{ahead:+g} h; north {light.north_deg:g}°",
        f"{light.date} {hour_words(light.hour)}, {light.sky} sky: sun at azimuth {azimuth:.2f}°, {elevation:.2f}° above the horizon",
        f"surroundings {round_.file} as {round_.use}, turned {round_.turn_deg:g}°, {round_.strength_ev:+g} EV"
        if round_.file
        else "no surroundings",
    ]


def _at_place(text: str, zone: str | None) -> dict[str, Any]:
    """Place and, where none is named, the time zone of a town or of the town nearest to a place."""
    match = parse_place(text)
    town = town_named(text) if match is None else nearest_town(*match)
    latitude, longitude = (town.latitude_deg, town.longitude_deg) if match is None else match
    facts: dict[str, Any] = {
        "latitude_deg": latitude,
        "longitude_deg": longitude,
        "place": town.words if match is None else "",
    }
    return facts if zone is not None else facts | {"zone": town.zone}


@light_group.command("set", hidden=True)
@click.argument("project", type=ProjectPath)
@click.option("--place", help="LAT,LON in any usual notation, or a town.")
@click.option("--from-model", is_flag=True, help="Place and north as the model file says.")
@click.option("--zone", help="Time zone by name (Europe/Zurich), or hours ahead of UTC (+2).")
@click.option("--date", "day", help="2026-06-21.")
@click.option("--time", "clock", help="Clock time, such as 17:30.")
@click.option("--north", type=float, help="Degrees from the model's +Y to true north, clockwise.")
@click.option("--sky", type=click.Choice(SKIES))
@click.option("--haze", type=float, help="Haze of a clear sky, 0 to 1.")
@click.option(
    "--surroundings",
    help="A 2:1 picture (HDR, EXR, JPEG, PNG …), or none; one from elsewhere is copied beside the project.",
)
@click.option("--turn", type=float, help="Turn of the surroundings, degrees clockwise.")
@click.option("--strength", type=float, help="Strength of the surroundings, EV.")
@click.option("--as", "use", type=click.Choice(SURROUNDINGS_USES), help="What the surroundings are for.")
@click.option(
    "--sun",
    "sun",
    type=click.Choice(["picture", "hour"]),
    help="Which sun shines where surroundings light: the one in the picture, or that of date and hour.",
)
@JSON
def set_(project: Path, as_json: bool, **values: Any) -> None:
    """Set the light of a project; without options, say it."""
    read = read_project(project)
    edits: list[Callable[[Project], Project]] = []
    if values["from_model"]:
        place = opened_models(read, project).model.place
        edits.append(lambda current: light_from_model(current, place))
        if (
            values["zone"] is None
            and place is not None
            and place.latitude_deg is not None
            and place.longitude_deg is not None
        ):
            zone = nearest_town(place.latitude_deg, place.longitude_deg).zone
            edits.append(lambda current: set_light(current, zone=zone))
    given: dict[str, Any] = _at_place(values["place"], values["zone"]) if values["place"] else {}
    if values["zone"] is not None:
        name, ahead = parse_zone(values["zone"])
        given |= {"zone": name} | ({} if name else {"utc_offset_h": ahead})
    given |= without_none(
        date=values["day"],
        hour=None if values["clock"] is None else parse_hour(values["clock"]),
        north_deg=values["north"],
        sky=values["sky"],
        haze=values["haze"],
    )
    if given:
        edits.append(lambda current: set_light(current, **given))
    around = _surroundings(project, values)
    if around:
        edits.append(lambda current: set_surroundings(current, **around))

    def edit(current: Project) -> Project:
        for change in edits:
            current = change(current)
        return current

    after = edited(project, edit) if edits else read
    say(as_json, facts_of(after.light), _lines(after.light))


def _surroundings(project: Path, values: dict[str, Any]) -> dict[str, Any]:
    """What is said of surroundings; their file is read before it is named, and copied beside the project."""
    surroundings = without_none(turn_deg=values["turn"], strength_ev=values["strength"], use=values["use"])
    if values["sun"] is not None:
        surroundings["sun_of_hour"] = values["sun"] == "hour"
    name = values["surroundings"]
    if name is None:
        return surroundings
    if name == "none":
        return surroundings | {"file": ""}
    path = Path(name) if Path(name).is_file() else project.parent / name
    if not path.is_file():
        raise UserError(f"{name} is not there. Nothing was changed. Name a 2:1 picture that is.")
    read_surroundings(path)
    return surroundings | {"file": take_in(path, [], project, "surroundings")}


def _moment(light: Light, text: str) -> Light:
    """The light at D,HH:MM."""
    day, _, clock = text.partition(",")
    if not clock:
        raise Refused(f"“{text}” is no date and time. Write it as 2026-06-21,17:30.")
    return checked_light(replace(light, date=day.strip(), hour=parse_hour(clock)))


@light_group.command("sun")
@click.argument("project", type=ProjectPath)
@click.option("--at", "when", help="D,HH:MM; the project's own date and time where it is left out.")
@JSON
def sun(project: Path, when: str | None, as_json: bool) -> None:
    """Where the sun stands: azimuth from true north, elevation, and the direction in the model."""
    light = read_project(project).light
    light = light if when is None else _moment(light, when)
    azimuth, elevation = sun_azimuth(light)
    facts = {
        "date": light.date,
        "time": hour_words(light.hour),
        "offset_h": offset_h(light),
        "azimuth_deg": round(azimuth, 4),
        "elevation_deg": round(elevation, 4),
        "heading_deg": round(sun_position(light)[0], 4),
        "direction": [round(value, 6) for value in towards_sun(light)],
    }
    say(as_json, facts, [f"azimuth {azimuth:.2f}°, elevation {elevation:.2f}°"])


def _span_facts(span: Span) -> dict[str, Any]:
    return {
        "from": hour_words(span.begin_h),
        "to": hour_words(span.end_h),
        "from_h": round(span.begin_h, 4),
        "to_h": round(span.end_h, 4),
        "by": span.by,
        "object": span.object_id,
    }


@light_group.command("shade")
@click.argument("project", type=ProjectPath)
@click.option("--point", required=True, callback=numbers(3), help="The place: x,y,z in metres.")
@click.option("--date", "day", help="2026-06-21; the project's date where it is left out.")
@JSON
def shade(project: Path, point: tuple[float, ...], day: str | None, as_json: bool) -> None:
    """Hours of sun at a place, and what shades it from when to when."""
    read = read_project(project)
    light = checked_light(replace(read.light, date=day)) if day else read.light
    model = opened_models(read, project).model
    place = vec3(tuple(np.asarray(point) - np.asarray(model.offset)))
    sun_hours = sun_day(model, RayScene.of(model), light, place)
    facts = {
        "date": light.date,
        "point": list(point),
        "sunrise": None if sun_hours.rise_h is None else hour_words(sun_hours.rise_h),
        "sunset": None if sun_hours.set_h is None else hour_words(sun_hours.set_h),
        "hours": round(sun_hours.hours, 3),
        "sunny": [_span_facts(span) for span in sun_hours.spans if not span.object_id],
        "shaded": [_span_facts(span) for span in sun_hours.spans if span.object_id],
    }
    lines = [f"{sun_hours.hours:.2f} hours of sun on {light.date}"]
    lines += [
        f"{hour_words(span.begin_h)} to {hour_words(span.end_h)}: {span.by or 'sun'}"
        for span in sun_hours.spans
    ]
    say(as_json, facts, lines)


@light_group.command("hours")
@click.argument("project", type=ProjectPath)
@click.option("--camera", help="Hours of sun on what this camera sees.")
@click.option("--storey", help="Hours of sun over this storey, as a plan.")
@click.option("--date", "day", help="2026-06-21; the project's date where it is left out.")
@click.option("--year", is_flag=True, help="The mean of the year's four turning days.")
@click.option(
    "--width",
    type=click.IntRange(16, 8192),
    default=960,
    show_default=True,
    help="Of a camera's picture, pixels.",
)
@click.option(
    "--out",
    required=True,
    type=click.Path(dir_okay=False, path_type=Path),
    help="F.png; F.csv comes beside it.",
)
@BASE
@JOB
@JSON
def hours(
    project: Path,
    camera: str | None,
    storey: str | None,
    day: str | None,
    year: bool,
    width: int,
    out: Path,
    base: Path | None,
    job: Path | None,
    as_json: bool,
) -> None:
    """Hours of sun in false colour, with a legend and figures."""
    if (camera is None) == (storey is None):
        raise click.UsageError("Name either --camera or --storey.")
    read = read_project(project)
    light = checked_light(replace(read.light, date=day)) if day else read.light
    model = opened_models(read, base / "project.altana" if base else project).model
    journal, stopped = Journal(make_folder(job) if job else None), asked_to_stop()

    def told(share: float) -> bool:
        journal.progress(share, "Counting hours of sun")
        tell_progress(share, "Counting hours of sun")
        return not stopped()

    try:
        if camera is not None:
            chosen = read.camera_named(camera)
            staging = Lookup(model).staging(read, chosen)
            hours_seen = hours_in_view(model, chosen, light, width, year, told, staging)
        else:
            hours_seen = hours_on_plan(model, storey_named(model, storey), light, year, told)
    except Cancelled:
        raise UserError("Stopped. Nothing was written.") from None
    picture, figures = write_hours(hours_seen, out.with_suffix(".png"), title_of(light, year))
    least, mean, most = shown_hours(hours_seen.hours, hours_seen.there)
    facts = {
        "files": [str(picture), str(figures)],
        "least": round(least, 2),
        "mean": round(mean, 2),
        "most": round(most, 2),
    }
    say(
        as_json,
        facts,
        [str(picture), str(figures), f"{least:.1f} to {most:.1f} hours, {mean:.1f} in the mean"],
    )


def _camera_above(read: Project, project: Path, storey: str | None) -> Camera:
    """The camera for plans with shadows."""
    model = opened_models(read, project).model
    chosen = storey_named(model, storey) if storey is not None else None
    level = chosen or (model.storeys[0] if model.storeys else None)
    floor = level.elevation_m if level is not None else float(model.bounds[0, 2])
    drawing = Drafter(model, RayScene.of(model)).plan(floor, floor + CUT_ABOVE_M)
    return camera_above(model, drawing, chosen)


@light_group.command("study")
@click.argument("project", type=ProjectPath)
@click.option("--camera", help="Whose pictures; or:")
@click.option("--above", is_flag=True, help="Plans with shadows: a camera straight above, which is added.")
@click.option("--storey", help="Of --above: the plan of this storey, cut at 1.2 m.")
@click.option("--from", "begin", default="8:00", show_default=True, help="Clock time.")
@click.option("--to", "end", default="18:00", show_default=True, help="Clock time.")
@click.option("--step", default="1:00", show_default=True, help="Hours and minutes.")
@click.option("--year", is_flag=True, help="On the year's four turning days.")
@click.option(
    "--film", is_flag=True, help="A walk on the spot through the day as well, and its film in the list."
)
@JSON
def study(
    project: Path,
    camera: str | None,
    above: bool,
    storey: str | None,
    begin: str,
    end: str,
    step: str,
    year: bool,
    film: bool,
    as_json: bool,
) -> None:
    """A shade study: rows of the shot list for a camera over a day, or over the year's turning days."""
    read = read_project(project)
    if (camera is None) == (not above):
        raise click.UsageError("Say --camera NAME or --above.")
    if storey is not None and not above:
        raise click.UsageError("--storey is of --above.")
    standing = _camera_above(read, project, storey) if above else read.camera_named(camera or "")
    wanted = Study(parse_hour(begin), parse_hour(end), parse_hour(step), year)

    def edit(current: Project) -> Project:
        current, chosen = with_camera(current, standing)
        after = add_study(current, chosen, wanted)
        return add_day_film(after, chosen) if film else after

    before = len(read.shots)
    rows = edited(project, edit).shots[before:]
    facts = [
        {"date": row.date, "time": "" if row.hour is None else hour_words(row.hour), "kind": row.kind}
        for row in rows
    ]
    say(as_json, facts, [f"{len(rows)} rows were added to the shot list."])
