"""A presentation as PDF: plans as vectors with the cameras on them, and the pictures that were made."""

from __future__ import annotations

import io
import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from altana.core.conventions import Floats, Vec2
from altana.core.errors import UserError
from altana.core.geometry.drawing import Outline, PlanDrawing, building_extent
from altana.core.model import Model, Storey
from altana.core.naming import counted, runs_of
from altana.core.progress import Progress
from altana.core.project import Camera, Project
from altana.jobs.plans import MARGIN_M, Plans, whole_outlines, whole_things
from altana.jobs.requests import Pano
from altana.jobs.shown import GREEN, INK, LEAF, PENCIL, ClientPicture, small
from altana.render.lettering import PAGE, PAGE_BOLD, make_page_letters

TEMPLATES = ("one", "grid")
#: A4 lying, points.
PAGE_PT = (841.89, 595.28)
HALF_VIEW_M = 4.0
LARGEST_SIDE = 2000
#: Free all round a page, and at least so much below a wide picture for its words; the plan there, and the
#: column beside a tall one.
EDGE_PT, FOOT_PT, PLAN_PT, SIDE_PT = 32.0, 104.0, (220.0, 96.0), 220.0
#: A camera's mark, and marks nearer than this are one, with all their numbers.
MARK_PT, APART_PT = 6.5, 12.0
#: So many plans stand beside each other on a page.
PLANS_A_PAGE = 2
#: A picture of this proportion or more stands over its words, others beside them.
WIDE_FROM = 1.28


def presentation(
    project: Project,
    pictures: Sequence[ClientPicture],
    model: Model,
    template: str = "one",
    progress: Progress | None = None,
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
        if progress is not None and not progress(begin / len(pictures)):
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


@dataclass(frozen=True, slots=True)
class _Standing:
    """Where a picture was taken from: its number and camera, and whether it looks all round."""

    number: int
    camera: Camera
    all_round: bool

    @classmethod
    def of(cls, number: int, shown: ClientPicture) -> _Standing | None:
        """That of a picture; None of a film."""
        return None if shown.camera is None else cls(number, shown.camera, isinstance(shown.row.item, Pano))

    def view(self) -> tuple[float, float]:
        """Its field of view on the plan, radians clockwise from north: from, to."""
        if self.all_round:
            return 0.0, 2.0 * math.pi
        left, right, _, _ = self.camera.view().edges()
        heading = math.radians(self.camera.heading_deg)
        return heading + math.atan(left), heading + math.atan(right)


def _title_page(canvas: Canvas, project: Project, pictures: Sequence[ClientPicture], plans: Plans) -> None:
    """Title, and the plans of all storeys that pictures were taken on: those that the page has no room for on
    pages after it."""
    storeys: dict[str, tuple[Storey, list[_Standing]]] = {}
    for number, shown in enumerate(pictures, 1):
        standing = _Standing.of(number, shown)
        storey = plans.storey_of(standing.camera.eye) if standing is not None else None
        if standing is not None and storey is not None:
            storeys.setdefault(storey.id, (storey, []))[1].append(standing)
    pairs = sorted(storeys.values(), key=lambda item: item[0].elevation_m)
    for first in range(0, max(len(pairs), 1), PLANS_A_PAGE):
        _heading(canvas, project, len(pictures))
        group = pairs[first : first + PLANS_A_PAGE]
        wide = (PAGE_PT[0] - 96 - 30 * (len(group) - 1)) / max(1, len(group))
        for place, (storey, cameras) in enumerate(group):
            x = 48 + place * (wide + 30)
            _plan(canvas, plans, storey, cameras, (x, 70.0, wide, PAGE_PT[1] - 230), rooms_only=True)
            _colour(canvas, PENCIL)
            _words(canvas, storey.name, x, 50, 10, wide)
        canvas.showPage()


def _heading(canvas: Canvas, project: Project, count: int) -> None:
    _ground(canvas)
    _colour(canvas, INK)
    _words(canvas, project.name, 48, PAGE_PT[1] - 92, 30, PAGE_PT[0] - 96, bold=True)
    _colour(canvas, PENCIL)
    words = counted(count, "picture") + (f"   {project.author}" if project.author else "")
    _words(canvas, words, 48, PAGE_PT[1] - 114, 12, PAGE_PT[0] - 96)
    _colour(canvas, GREEN, False)
    canvas.setLineWidth(1.4)
    canvas.line(48, PAGE_PT[1] - 130, PAGE_PT[0] - 48, PAGE_PT[1] - 130)


def _plan(
    canvas: Canvas,
    plans: Plans,
    storey: Storey,
    cameras: Sequence[_Standing],
    box: tuple[float, float, float, float],
    rooms_only: bool = False,
) -> None:
    """A plan as vectors in a box (x, y, width, height in points), with numbered cameras: of all that is
    built, or of what has rooms.  What would be cut off by the box is left out."""
    drawing = plans.drawing(storey)
    rooms = plans.rooms_extent(storey) if rooms_only else None
    x0, y0, x1, y1 = _extent(drawing, rooms, [item.camera for item in cameras])
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
    _views(canvas, at, cameras, max(14.0, HALF_VIEW_M * scale))
    _marks(canvas, at, cameras)
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


def _views(
    canvas: Canvas, at: Callable[[Sequence[float]], Vec2], cameras: Sequence[_Standing], reach: float
) -> None:
    """Fields of view, as far as ``reach`` in points: those of one camera in several formats once, by the
    widest."""
    widest: dict[tuple[object, ...], tuple[float, float]] = {}
    for item in cameras:
        key = (item.camera.eye[:2], item.camera.heading_deg, item.all_round)
        view = item.view()
        if key not in widest or view[1] - view[0] > widest[key][1] - widest[key][0]:
            widest[key] = view
    _colour(canvas, GREEN)
    canvas.saveState()
    canvas.setFillAlpha(0.22)
    for (eye, *_), (begin, end) in widest.items():
        x, y = at(eye)  # type: ignore[arg-type]
        path = canvas.beginPath()
        path.moveTo(x, y)
        for angle in np.linspace(begin, end, 37 if end - begin > math.pi else 9).tolist():
            path.lineTo(x + reach * math.sin(angle), y + reach * math.cos(angle))
        path.close()
        canvas.drawPath(path, stroke=0, fill=1)
    canvas.restoreState()


def _marks(canvas: Canvas, at: Callable[[Sequence[float]], Vec2], cameras: Sequence[_Standing]) -> None:
    """The numbers where cameras stand; those of one place in one mark, so that none covers another."""
    groups: list[tuple[Vec2, list[int]]] = []
    for item in cameras:
        place = at(item.camera.eye[:2])
        near = next((group for group in groups if math.dist(group[0], place) < APART_PT), None)
        if near is None:
            groups.append((place, [item.number]))
        else:
            near[1].append(item.number)
    for (x, y), numbers in groups:
        text = runs_of(numbers)
        wide = max(2 * MARK_PT, canvas.stringWidth(text, PAGE_BOLD, 7) + MARK_PT)
        _colour(canvas, GREEN)
        canvas.roundRect(x - wide / 2, y - MARK_PT, wide, 2 * MARK_PT, MARK_PT, stroke=0, fill=1)
        canvas.setFillColorRGB(1, 1, 1)
        canvas.setFont(PAGE_BOLD, 7)
        canvas.drawCentredString(x, y - 2.5, text)


def _picture_on(
    canvas: Canvas,
    shown: ClientPicture,
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


def _one_page(canvas: Canvas, project: Project, shown: ClientPicture, number: int, plans: Plans) -> None:
    """One picture as large as the page lets it be; its words and where it was taken below it, or beside a
    tall one."""
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
    standing = _Standing.of(number, shown)
    if standing is not None and storey is not None:
        _plan(canvas, plans, storey, [standing], plan, rooms_only=True)
    x, y = words_at
    _colour(canvas, INK)
    _words(canvas, f"{number}   {shown.title}", x, y, 15, words_wide, True)
    _colour(canvas, PENCIL)
    if shown.caption:
        _words(canvas, shown.caption, x, y - 18, 11, words_wide)
    _words(canvas, project.name, x, EDGE_PT / 2 + 2, 9, words_wide)


def _grid_page(canvas: Canvas, project: Project, group: Sequence[ClientPicture], first: int) -> None:
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
