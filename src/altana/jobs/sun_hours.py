"""Hours of sun as a picture in false colour: of a camera's view, or of a storey's plan; with a legend, and
figures as CSV."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw

from altana.core.conventions import Bools, Floats, Floats32
from altana.core.geometry.drawing import Drafter, building_extent
from altana.core.geometry.rays import RayScene
from altana.core.light.shade import day_hours, solid_rays, sun_hours, turning_days
from altana.core.light.study import false_colour, legend_steps, shown_hours
from altana.core.light.transport import Cancelled
from altana.core.model import Model, Storey
from altana.core.progress import Progress
from altana.core.project import Camera, Light
from altana.core.staging import WHOLE, Staging
from altana.render.lettering import letters
from altana.render.renderer import Renderer
from altana.storage.files import make_folder, write_atomically

#: A place on a surface is looked at from a little before it.
BEFORE_M = 0.02
BAND_ROWS = 64
LEGEND_PX = 46
#: A plan is looked at on a grid of so many places along its longer side, so high above the floor.
PLAN_PX, PLAN_ABOVE_M = 1080, 0.1
#: Walls are cut so high above the floor; so much ground is shown round the building.
PLAN_CUT_M, PLAN_AROUND_M = 1.2, 20.0
NOTHING = np.array([0.93, 0.92, 0.90])


@dataclass(frozen=True, slots=True)
class HoursPicture:
    """``hours`` (height, width) and where something is (height, width); ``places`` (height, width, 3)
    metres."""

    hours: Floats
    there: Bools
    places: Floats
    shade: Floats32
    days: tuple[Light, ...]
    #: Outlines of what a plan cuts, each (n, 2) pixels.
    lines: tuple[Floats, ...] = ()

    @property
    def most(self) -> float:
        """The longest that the sun is up on any of the days, hours: the end of the scale."""
        return max((len(day_hours(day, 0.5)[0]) * 0.5 for day in self.days), default=0.0)


def _days(light: Light, whole_year: bool) -> tuple[Light, ...]:
    return turning_days(light) if whole_year else (light,)


def hours_in_view(
    model: Model,
    camera: Camera,
    light: Light,
    width_px: int,
    whole_year: bool,
    progress: Progress,
    staging: Staging = WHOLE,
) -> HoursPicture:
    """Hours of sun on everything a camera sees.  Raises Cancelled."""
    view = camera.view(width_px, max(16, round(width_px * camera.height_px / camera.width_px)))
    renderer = Renderer(model)
    try:
        facts = renderer.facts(view, staging)
    finally:
        renderer.close()
    rows, columns = np.mgrid[0 : view.height_px, 0 : view.width_px] + 0.5
    along = view.rays(np.column_stack([columns.ravel(), rows.ravel()]))
    away = facts.depth_m.ravel().astype(float) / np.maximum(along @ view.pose.forward, 1e-9)
    there = np.isfinite(away)
    normal = facts.normal.reshape(-1, 3).astype(float)
    normal = np.where((normal * along).sum(axis=1, keepdims=True) > 0.0, -normal, normal)
    places = np.asarray(view.pose.eye) + along * np.where(there, away, 0.0)[:, None] + normal * BEFORE_M
    shape = (view.height_px, view.width_px)
    hours = _counted(model, _days(light, whole_year), places, there, shape[1], progress)
    shade = (0.55 + 0.45 * np.clip(normal @ np.array([0.3, -0.4, 0.87]), 0.0, 1.0)).astype(np.float32)
    return HoursPicture(
        hours.reshape(shape),
        there.reshape(shape),
        places.reshape(*shape, 3),
        shade.reshape(shape),
        _days(light, whole_year),
    )


def hours_on_plan(
    model: Model, storey: Storey, light: Light, whole_year: bool, progress: Progress
) -> HoursPicture:
    """Hours of sun over a storey's floor and the ground round the building, north up.  Raises Cancelled."""
    drawing = Drafter(model, RayScene.of(model)).plan(storey.elevation_m, storey.elevation_m + PLAN_CUT_M)
    if any(item.closed for item in drawing.outlines):
        low, high = building_extent(drawing, PLAN_AROUND_M)
    else:
        # Nothing is cut: ground, or a thing that is no building.
        (x0, y0, _), (x1, y1, _) = model.bounds.tolist()
        low, high = (x0, y0), (x1, y1)
    step = max(high[0] - low[0], high[1] - low[1], 1.0) / PLAN_PX
    x = np.arange(low[0] + step / 2, high[0], step)
    y = np.arange(high[1] - step / 2, low[1], -step)
    places = np.stack(
        np.broadcast_arrays(x[None, :], y[:, None], storey.elevation_m + PLAN_ABOVE_M), axis=-1
    ).reshape(-1, 3)
    there = np.ones(len(places), bool)
    shape = (len(y), len(x))
    hours = _counted(model, _days(light, whole_year), places, there, len(x), progress)
    lines = tuple(
        np.column_stack([(item.points[:, 0] - low[0]) / step, (high[1] - item.points[:, 1]) / step])
        for item in drawing.outlines
    )
    return HoursPicture(
        hours.reshape(shape),
        there.reshape(shape),
        places.reshape(*shape, 3),
        np.ones(shape, np.float32),
        _days(light, whole_year),
        lines,
    )


def _counted(
    model: Model, days: Sequence[Light], places: Floats, there: Bools, wide: int, progress: Progress
) -> Floats:
    """(n,) hours of sun, some rows at a time; what faces away from the sun shades itself."""
    solid = solid_rays(model)
    hours = np.zeros(len(places))
    for start in range(0, len(places), wide * BAND_ROWS):
        if not progress(start / len(places)):
            raise Cancelled
        some = np.arange(start, min(start + wide * BAND_ROWS, len(places)))[
            there[start : start + wide * BAND_ROWS]
        ]
        if len(some):
            hours[some] = sun_hours(solid, days, places[some])
    return hours


def shown(picture: HoursPicture, title: str) -> Image.Image:
    """The picture in false colour with its legend and what it shows."""
    high, wide = picture.hours.shape
    colour = (
        false_colour(picture.hours.ravel(), picture.most).reshape(high, wide, 3) * picture.shade[..., None]
    )
    colour = np.where(picture.there[..., None], colour, NOTHING)
    whole = Image.new("RGB", (wide, high + LEGEND_PX), "#f4f1ea")
    whole.paste(Image.fromarray(np.rint(np.clip(colour, 0.0, 1.0) * 255).astype(np.uint8)), (0, 0))
    draw, font = ImageDraw.Draw(whole), letters(12)
    for line in picture.lines:
        draw.line([(float(x), float(y)) for x, y in line], fill="#24211c", width=2)
    draw.rectangle([0, high, wide, high + LEGEND_PX], fill="#f4f1ea")
    left, top, bar = 12, high + 8, min(320, wide - 24)
    for x in range(bar):
        r, g, b = (
            int(value * 255) for value in false_colour(np.array([x / bar * picture.most]), picture.most)[0]
        )
        draw.line([(left + x, top), (left + x, top + 10)], fill=(r, g, b))
    for value in legend_steps(picture.most):
        x = left + round(value / max(picture.most, 1e-9) * bar)
        draw.line([(x, top + 10), (x, top + 13)], fill="#24211c")
        draw.text((x, top + 14), f"{value:g} h", fill="#24211c", font=font, anchor="mt" if value else "lt")
    least, mean, most = shown_hours(picture.hours, picture.there)
    figures = f"least {least:.1f} h, mean {mean:.1f} h, most {most:.1f} h"
    beside = left + bar + 32
    for row, words in enumerate((title, figures)):
        if beside + draw.textlength(words, font) < wide:
            draw.text((beside, top - 2 + row * 17), words, fill="#24211c", font=font)
    return whole


def table(picture: HoursPicture, every: int = 8) -> str:
    """Figures as CSV: a place of every so many pixels, metres, and its hours of sun."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(["px", "py", "x", "y", "z", "hours"])
    for py in range(every // 2, picture.hours.shape[0], every):
        for px in range(every // 2, picture.hours.shape[1], every):
            if picture.there[py, px]:
                x, y, z = picture.places[py, px].tolist()
                rows.writerow([px, py, f"{x:.3f}", f"{y:.3f}", f"{z:.3f}", f"{picture.hours[py, px]:.2f}"])
    return out.getvalue()


def write_hours(picture: HoursPicture, path: Path, title: str) -> tuple[Path, Path]:
    """The picture as PNG and its figures beside it.  Raises UserError."""
    make_folder(path.parent)
    buffer = io.BytesIO()
    shown(picture, title).save(buffer, "PNG")
    figures = path.with_suffix(".csv")
    write_atomically(path, buffer.getvalue(), "Nothing else was changed.")
    write_atomically(figures, table(picture).encode(), "The picture is kept.")
    return path, figures


def title_of(light: Light, whole_year: bool) -> str:
    """What was counted."""
    return (
        f"Hours of sun, mean of the turning days of {light.date[:4]}"
        if whole_year
        else f"Hours of sun on {light.date}"
    )
