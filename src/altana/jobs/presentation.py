"""A presentation as PDF: plans as vectors with the cameras on them, and the pictures that were made."""

from __future__ import annotations

import io
import math
from collections.abc import Callable, Iterable, Sequence

import numpy as np
import shapely
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from altana.core.conventions import Floats, Vec2
from altana.core.errors import UserError
from altana.core.geometry.drawing import Outline, PlanDrawing, building_extent
from altana.core.model import Model, Storey
from altana.core.naming import counted
from altana.core.project import Camera, Project
from altana.jobs.plans import MARGIN_M, Plans, whole_outlines, whole_things
from altana.jobs.shown import GREEN, INK, LEAF, PENCIL, Shown, small
from altana.render.lettering import PAGE, PAGE_BOLD, make_page_letters

TEMPLATES = ("one", "grid")
#: A4 lying, points.
PAGE_PT = (841.89, 595.28)
HALF_VIEW_M = 4.0
LARGEST_SIDE = 2000
#: Free all round a page, and at least so much below a wide picture for its words; the plan there, and the column beside a tall one.
EDGE_PT, FOOT_PT, PLAN_PT, SIDE_PT = 32.0, 104.0, (220.0, 96.0), 220.0
#: A picture of this proportion or more stands over its words, others beside them.
WIDE_FROM = 1.28


def presentation(
    project: Project,
    pictures: Sequence[Shown],
    model: Model,
    template: str = "one",
    told: Callable[[float], bool] | None = None,
) -> bytes:
    """A PDF: a title page with a plan of each storey and the cameras on it, then one picture a page or four.

    Equal pictures make equal bytes.  Raises UserError.
    """
    if template not in TEMPLATES:
        raise UserError(f"“{template}” is no template. Choose {' or '.join(TEMPLATES)}.")
    buffer = io.BytesIO()
    make_page_letters()
    canvas = Canvas(buffer, pagesize=PAGE_PT, invariant=1)
    canvas.setTitle(project.name)
    canvas.setAuthor(project.author)
    canvas.setCreator("Altana")
    plans = Plans(model)
    _title_page(canvas, project, pictures, plans)
    step = 1 if template == "one" else 4
    for begin in range(0, len(pictures), step):
        if told is not None and not told(begin / len(pictures)):
            break
        group = pictures[begin : begin + step]
        if template == "one":
            _one_page(canvas, project, group[0], begin + 1, plans)
        else:
            _grid_page(canvas, project, group, begin + 1)
        canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def _colour(canvas: Canvas, colour: tuple[int, int, int], fill: bool = True) -> None:
    red, green, blue = (value / 255.0 for value in colour)
    (canvas.setFillColorRGB if fill else canvas.setStrokeColorRGB)(red, green, blue)


def _ground(canvas: Canvas) -> None:
    _colour(canvas, LEAF)
    canvas.rect(0, 0, *PAGE_PT, stroke=0, fill=1)


def _title_page(canvas: Canvas, project: Project, pictures: Sequence[Shown], plans: Plans) -> None:
    _ground(canvas)
    _colour(canvas, INK)
    _words(canvas, project.name, 48, PAGE_PT[1] - 92, 30, PAGE_PT[0] - 96, bold=True)
    _colour(canvas, PENCIL)
    words = counted(len(pictures), "picture") + (f"   {project.author}" if project.author else "")
    _words(canvas, words, 48, PAGE_PT[1] - 114, 12, PAGE_PT[0] - 96)
    _colour(canvas, GREEN, False)
    canvas.setLineWidth(1.4)
    canvas.line(48, PAGE_PT[1] - 130, PAGE_PT[0] - 48, PAGE_PT[1] - 130)
    storeys: dict[str, tuple[Storey, list[tuple[int, Camera]]]] = {}
    for number, shown in enumerate(pictures, 1):
        camera = shown.camera
        storey = plans.storey_of(camera.eye) if camera is not None else None
        if camera is not None and storey is not None:
            storeys.setdefault(storey.id, (storey, []))[1].append((number, camera))
    held = sorted(storeys.values(), key=lambda item: item[0].elevation_m)[:2]
    wide = (PAGE_PT[0] - 96 - 30 * (len(held) - 1)) / max(1, len(held))
    for place, (storey, cameras) in enumerate(held):
        x = 48 + place * (wide + 30)
        _plan(canvas, plans, storey, cameras, (x, 70.0, wide, PAGE_PT[1] - 230), rooms_only=True)
        _colour(canvas, PENCIL)
        _words(canvas, storey.name, x, 50, 10, wide)
    canvas.showPage()


def _plan(
    canvas: Canvas,
    plans: Plans,
    storey: Storey,
    cameras: Iterable[tuple[int, Camera]],
    box: tuple[float, float, float, float],
    rooms_only: bool = False,
) -> None:
    """A plan as vectors in a box (x, y, width, height in points), with numbered cameras: of all that is built, or of what has
    rooms.  What would be cut off by the box is left out."""
    drawing = plans.drawing(storey)
    cameras = list(cameras)
    rooms = plans.rooms_extent(storey) if rooms_only else None
    x0, y0, x1, y1 = _extent(drawing, rooms, [camera for _, camera in cameras])
    left, bottom, wide, high = box
    scale = min(wide / max(x1 - x0, 1e-6), high / max(y1 - y0, 1e-6))
    off_x, off_y = (
        left + (wide - scale * (x1 - x0)) / 2 - scale * x0,
        bottom + (high - scale * (y1 - y0)) / 2 - scale * y0,
    )
    low, upper = (x0 - 0.01, y0 - 0.01), (x1 + 0.01, y1 + 0.01)
    outlines, gone = whole_outlines(drawing.outlines, low, upper, ((x0 + x1) / 2, (y0 + y1) / 2))
    beyond = drawing.beyond[whole_things(drawing.beyond, low, upper)]
    if len(beyond):
        beyond = beyond[~shapely.intersects_xy(gone, *beyond.mean(axis=1).T)]

    def at(place: Sequence[float]) -> Vec2:
        return off_x + scale * place[0], off_y + scale * place[1]

    _lines(canvas, beyond, at)
    canvas.setLineWidth(min(0.5, 0.12 * scale))
    _cut(canvas, outlines, at)
    canvas.saveState()
    clip = canvas.beginPath()
    clip.rect(left, bottom, wide, high)
    canvas.clipPath(clip, stroke=0)
    for number, camera in cameras:
        _camera_mark(canvas, at(camera.eye[:2]), camera, number, scale)
    canvas.restoreState()


def _extent(
    drawing: PlanDrawing, rooms: tuple[Vec2, Vec2] | None, cameras: Iterable[Camera]
) -> tuple[float, float, float, float]:
    """What is to be shown, metres: rooms with a margin, or all that is built; and every camera."""
    if rooms is None:
        (x0, y0), (x1, y1) = building_extent(drawing, MARGIN_M)
    else:
        (x0, y0), (x1, y1) = rooms
        x0, y0, x1, y1 = x0 - MARGIN_M, y0 - MARGIN_M, x1 + MARGIN_M, y1 + MARGIN_M
    for camera in cameras:
        x0, y0 = min(x0, camera.eye[0] - 2.0), min(y0, camera.eye[1] - 2.0)
        x1, y1 = max(x1, camera.eye[0] + 2.0), max(y1, camera.eye[1] + 2.0)
    return x0, y0, x1, y1


def _lines(canvas: Canvas, beyond: Floats, at: Callable[[Sequence[float]], Vec2]) -> None:
    """What lies below the cut."""
    _colour(canvas, PENCIL, False)
    canvas.setLineWidth(0.25)
    for first, second in beyond.tolist():
        canvas.line(*at(first), *at(second))


def _cut(canvas: Canvas, outlines: Iterable[Outline], at: Callable[[Sequence[float]], Vec2]) -> None:
    """What is cut, filled."""
    _colour(canvas, INK)
    _colour(canvas, INK, False)
    for outline in outlines:
        points = outline.points
        path = canvas.beginPath()
        path.moveTo(*at(points[0].tolist()))
        for point in points[1:].tolist():
            path.lineTo(*at(point))
        canvas.drawPath(path, stroke=1, fill=1 if outline.closed and not outline.glass else 0)


def _camera_mark(canvas: Canvas, at: Vec2, camera: Camera, number: int, scale: float) -> None:
    half = math.radians(camera.view().angles_of_view()[0]) / 2
    heading, reach = math.radians(camera.heading_deg), max(14.0, HALF_VIEW_M * scale)
    _colour(canvas, GREEN)
    _colour(canvas, GREEN, False)
    canvas.saveState()
    canvas.setFillAlpha(0.22)
    path = canvas.beginPath()
    path.moveTo(*at)
    for angle in np.linspace(-half, half, 9).tolist():
        path.lineTo(at[0] + reach * math.sin(heading + angle), at[1] + reach * math.cos(heading + angle))
    path.close()
    canvas.drawPath(path, stroke=0, fill=1)
    canvas.restoreState()
    canvas.circle(*at, 6.5, stroke=0, fill=1)
    canvas.setFillColorRGB(1, 1, 1)
    canvas.setFont(PAGE_BOLD, 7)
    canvas.drawCentredString(at[0], at[1] - 2.5, str(number))


def _picture_on(
    canvas: Canvas,
    shown: Shown,
    box: tuple[float, float, float, float],
    longest: int,
    align: tuple[float, float] = (0.5, 0.5),
) -> None:
    """A picture as large as a box lets it; align : where in the box, 0 to 1 from left and from below."""
    image = small(shown.path, longest)
    left, bottom, wide, high = box
    scale = min(wide / image.width, high / image.height)
    size = (image.width * scale, image.height * scale)
    buffer = io.BytesIO()
    image.save(buffer, "JPEG", quality=90, subsampling=0)
    buffer.seek(0)
    place = (left + (wide - size[0]) * align[0], bottom + (high - size[1]) * align[1])
    canvas.drawImage(ImageReader(buffer), *place, *size)


def _words(
    canvas: Canvas, text: str, x: float, y: float, size: float, wide: float, bold: bool = False
) -> None:
    font = PAGE_BOLD if bold else PAGE
    canvas.setFont(font, size)
    while len(text) > 4 and canvas.stringWidth(text, font, size) > wide:
        text = text[:-4].rstrip("…") + "…"
    canvas.drawString(x, y, text)


def _one_page(canvas: Canvas, project: Project, shown: Shown, number: int, plans: Plans) -> None:
    """One picture as large as the page lets it be; its words and where it was taken below it, or beside a tall one."""
    _ground(canvas)
    item = shown.row.item
    proportion = item.width_px / max(item.height_px, 1) if item is not None else 1.5
    camera, (page_wide, page_high) = shown.camera, PAGE_PT
    storey = plans.storey_of(camera.eye) if camera is not None else None
    if proportion >= WIDE_FROM:
        high = min(page_high - EDGE_PT - FOOT_PT, (page_wide - 2 * EDGE_PT) / proportion)
        bottom = page_high - EDGE_PT - high
        _picture_on(canvas, shown, (EDGE_PT, bottom, page_wide - 2 * EDGE_PT, high), LARGEST_SIDE, (0.5, 1.0))
        words_at, words_wide = (EDGE_PT, bottom - 30), page_wide - 2 * EDGE_PT - PLAN_PT[0] - 20
        plan = (page_wide - EDGE_PT - PLAN_PT[0], EDGE_PT / 2, PLAN_PT[0], bottom - EDGE_PT / 2 - 10)
    else:
        wide = min(page_wide - 2 * EDGE_PT - SIDE_PT - 24, (page_high - 2 * EDGE_PT) * proportion)
        _picture_on(
            canvas, shown, (EDGE_PT, EDGE_PT, wide, page_high - 2 * EDGE_PT), LARGEST_SIDE, (0.0, 0.5)
        )
        left = EDGE_PT + wide + 24
        words_at, words_wide = (left, page_high - EDGE_PT - 14), page_wide - EDGE_PT - left
        plan = (left, EDGE_PT + 20, min(words_wide, 300.0), 260.0)
    if camera is not None and storey is not None:
        _plan(canvas, plans, storey, [(number, camera)], plan, rooms_only=True)
    x, y = words_at
    _colour(canvas, INK)
    _words(canvas, f"{number}   {shown.title}", x, y, 15, words_wide, True)
    _colour(canvas, PENCIL)
    if shown.caption:
        _words(canvas, shown.caption, x, y - 18, 11, words_wide)
    _words(canvas, project.name, x, EDGE_PT / 2 + 2, 9, words_wide)


def _grid_page(canvas: Canvas, project: Project, group: Sequence[Shown], first: int) -> None:
    _ground(canvas)
    wide, high = (PAGE_PT[0] - 72 - 24) / 2, (PAGE_PT[1] - 100) / 2 - 34
    for place, shown in enumerate(group):
        row, column = divmod(place, 2)
        x, y = 36 + column * (wide + 24), PAGE_PT[1] - 36 - (row + 1) * high - row * 40
        _picture_on(canvas, shown, (x, y, wide, high), LARGEST_SIDE // 2)
        _colour(canvas, INK)
        _words(canvas, f"{first + place}   {shown.title}", x, y - 14, 10, wide, True)
        _colour(canvas, PENCIL)
        _words(canvas, shown.caption or shown.row.file, x, y - 27, 8.5, wide)
    _colour(canvas, PENCIL)
    _words(canvas, project.name, 36, 20, 8, 400)
