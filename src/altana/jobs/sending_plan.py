"""Plan and section with cameras, names, fields of view, heights and a table, on paper at scale."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import numpy.typing as npt
import shapely

from altana.core.conventions import Floats
from altana.core.errors import Refused, UserError
from altana.core.geometry.drawing import Outline, building_extent
from altana.core.geometry.rays import RayScene
from altana.core.model import Model, Storey
from altana.core.project import Camera, Project
from altana.core.standing import stance, standable
from altana.exchange.sheet_out import PaperSheet, Stroke, Words, dxf_text, pdf_bytes, svg_text, wide_mm
from altana.jobs.models import open_project_models
from altana.jobs.name_places import places_beside
from altana.jobs.plans import MARGIN_M, Plans
from altana.storage.files import make_folder, write_atomically

PLAN_KINDS = (".pdf", ".svg", ".dxf")
#: Sheets lying, width and height in millimetres.
PAPERS = {"A4": (297.0, 210.0), "A3": (420.0, 297.0), "A2": (594.0, 420.0), "A1": (841.0, 594.0), "A0": (1189.0, 841.0)}  # fmt: skip
#: Free round the sheet, the strip of words above, and the table at the right, millimetres.
EDGE_MM, HEAD_MM, TABLE_MM, ROW_MM = 12.0, 14.0, 92.0, 5.2
#: A field of view is drawn so far on paper, an eye so large, and names so high, so far from it.
REACH_MM, EYE_MM, NAME_MM, BESIDE_MM = 16.0, 1.5, 1.9, 2.4
#: How bad it is for a name to lie over walls, over a field of view, and over lines.
OVER_WALLS, OVER_VIEW, OVER_LINES = 6.0, 1.0, 1.0
#: A section shows what lies so far above and below the eye.
HIGHEST_M = 14.0
LONGEST_NAME = 30
SCALES = (5.0, 5_000.0)
#: What a bar of the scale may stand for, metres.
BARS_M = (0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0)
COLUMNS = (("", 0.0), ("camera", 6.0), ("eye m", 50.0), ("lens mm", 64.0), ("view", 80.0))


@dataclass(frozen=True, slots=True)
class SentPlan:
    """What was drawn: its title, its sheet, and the cameras on it."""

    title: str
    paper: str
    page_mm: tuple[float, float]
    cameras: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class _PlanLines:
    """Lines in metres, and where they reach to."""

    outlines: Sequence[Outline]
    beyond: Floats
    low: Floats
    high: Floats


def send_plan(
    project: Project,
    project_path: Path,
    cameras: Sequence[Camera],
    out: Path,
    scale: float = 100.0,
    storey: str = "",
    section: Camera | None = None,
) -> SentPlan:
    """Write the plan of a storey with its cameras, or the section along a camera's sight.  scale : 1 to this.
    Raises UserError."""
    kind = out.suffix.lower()
    if kind not in PLAN_KINDS:
        raise UserError(
            f"{out.name} is no file that plans are written to. Choose one that ends in {', '.join(PLAN_KINDS)}."
        )
    if not SCALES[0] <= scale <= SCALES[1]:
        raise UserError(f"A scale of 1:{scale:g} is outside 1:{SCALES[0]:g} to 1:{SCALES[1]:g}.")
    model = open_project_models(project, project_path).model
    sheet, paper, shown = (
        _section(project, model, section, scale)
        if section is not None
        else _plan(project, model, cameras, scale, storey)
    )
    make_folder(out.parent)
    if kind == ".pdf":
        data = pdf_bytes(sheet, project.author)
    else:
        data = (svg_text(sheet) if kind == ".svg" else dxf_text(sheet)).encode()
    write_atomically(out, data)
    return SentPlan(sheet.title, paper, (sheet.wide_mm, sheet.high_mm), tuple(item.name for item in shown))


def _storey(model: Model, name: str, cameras: Sequence[Camera]) -> Storey:
    if not model.storeys:
        raise Refused("The model has no storeys, so there is no plan.")
    if name:
        match = next((item for item in model.storeys if name in (item.id, item.name)), None)
        if match is None:
            known = ", ".join(f"“{item.name}”" for item in model.storeys)
            raise Refused(f"There is no storey “{name}”. Storeys: {known}.")
        return match
    for camera in cameras:
        storey = model.storey_of_eye(camera.eye)
        if storey is not None:
            return storey
    return model.storeys[0]


def _plan(
    project: Project, model: Model, cameras: Sequence[Camera], scale: float, name: str
) -> tuple[PaperSheet, str, list[Camera]]:
    storey = _storey(model, name, cameras)
    plans = Plans(model)
    drawing = plans.drawing(storey)
    here = [item for item in cameras if model.storey_of_eye(item.eye) == storey]
    extent = plans.rooms_extent(storey) or building_extent(drawing, 0.0)
    reach = np.array([*extent, *((item.eye[0], item.eye[1]) for item in here)])
    low, high = reach.min(axis=0) - MARGIN_M, reach.max(axis=0) + MARGIN_M
    drawn = _PlanLines(drawing.outlines, drawing.beyond, low, high)
    title = f"{project.name}, {storey.name}"
    sheet = _Page(title, f"Plan, cut {drawing.cut_m - drawing.floor_m:.2f} m above the floor", drawn, scale)
    for number, camera in enumerate(here, 1):
        sheet.camera(
            number, camera, np.array(camera.eye[:2]), math.radians(camera.heading_deg), _half(camera)
        )
    sheet.table(here, _heights(model, here))
    return sheet.finished(), sheet.paper, here


def _half(camera: Camera) -> tuple[float, float]:
    left, right, _, _ = camera.view().edges()
    return math.atan(left), math.atan(right)


def _heights(model: Model, cameras: Sequence[Camera]) -> list[float | None]:
    rays, floors = RayScene.of(model), standable(model)
    heights = []
    for camera in cameras:
        floor = stance(rays, floors, camera).floor_m
        heights.append(None if floor is None else camera.eye[2] - floor)
    return heights


def _section(
    project: Project, model: Model, camera: Camera, scale: float
) -> tuple[PaperSheet, str, list[Camera]]:
    plans = Plans(model)
    drawing = plans.section((camera.eye[0], camera.eye[1]), camera.heading_deg)
    points = np.concatenate([item.points for item in drawing.outlines if item.closed] or [np.zeros((1, 2))])
    at = np.array([0.0, camera.eye[2]])
    # What the camera sees and stands in, not the hill a kilometre on.
    beside = (points[:, 0] > -8.0) & (points[:, 0] < camera.aim_m + 10.0)
    near = points[beside & (np.abs(points[:, 1] - camera.eye[2]) < HIGHEST_M)]
    reach = np.vstack([near if len(near) else points, at[None]])
    low, high = reach.min(axis=0) - 1.0, reach.max(axis=0) + 1.0
    drawn = _PlanLines(drawing.outlines, drawing.beyond, low, high)
    sheet = _Page(f"{project.name}, {camera.name}", "Section along the line of sight", drawn, scale)
    _, _, bottom, top = camera.view().edges()
    # Up on the sheet is up; the line of sight runs to the right.
    angles = (-math.atan(top), -math.atan(bottom))
    sheet.camera(1, camera, at, math.pi / 2.0 - math.radians(camera.tilt_deg), angles)
    sheet.table([camera], _heights(model, [camera]))
    return sheet.finished(), sheet.paper, [camera]


def _short(name: str) -> str:
    return name if len(name) <= LONGEST_NAME else f"{name[: LONGEST_NAME - 3].rstrip()}..."


def _parts(shape: shapely.Geometry | npt.NDArray[np.object_]) -> list[Floats]:
    """The lines and rims (n, 2) of what is left of shapes."""
    # Of a crossed outline made valid there are parts of parts.
    whole = [item for item in shapely.get_parts(shapely.get_parts(shape)) if not item.is_empty]
    return [
        shapely.get_coordinates(item.exterior if isinstance(item, shapely.Polygon) else item)
        for item in whole
        if item.geom_type in ("Polygon", "LineString")
    ]


class _Page:
    """A sheet that is being drawn on: the smallest that holds the drawing at its scale."""

    def __init__(self, title: str, told: str, drawn: _PlanLines, scale: float) -> None:
        self._scale, self._low = scale, drawn.low
        size = (drawn.high - drawn.low) * 1000.0 / scale
        wide, high = size[0] + 2 * EDGE_MM + TABLE_MM + 6.0, size[1] + 2 * EDGE_MM + HEAD_MM
        self.paper = next((name for name, (a, b) in PAPERS.items() if wide <= a and high <= b), "")
        if not self.paper:
            a, b = PAPERS["A0"]
            fits = max(size[0] / (a - wide + size[0]), size[1] / (b - high + size[1])) * scale
            raise Refused(
                f"At 1:{scale:g} it is {size[0] / 1000:.1f} × {size[1] / 1000:.1f} m on paper, more than A0. From 1:{math.ceil(fits / 10) * 10} on it fits."
            )
        self._wide, self._high = PAPERS[self.paper]
        self._title = title
        room = np.array([self._wide - TABLE_MM - 6.0 - 2 * EDGE_MM, self._high - HEAD_MM - 2 * EDGE_MM])
        self._from = np.array([EDGE_MM, EDGE_MM]) + (room - size) / 2.0
        self._box = (self._from, self._from + size)
        self._back: list[Stroke | Words] = []
        self._front: list[Stroke | Words] = []
        self._lines: list[Stroke | Words] = []
        self._walls: list[shapely.Geometry] = []
        self._eyes: list[tuple[Floats, str]] = []
        self._draw(drawn)
        self._front += [
            Words("names", EDGE_MM, self._high - EDGE_MM - 4.0, title, 4.2, True),
            Words("names", EDGE_MM, self._high - EDGE_MM - 10.0, f"{told}   1:{scale:g}", 2.4),
        ]
        self._bar()

    def _at(self, places: Floats) -> Floats:
        place: Floats = self._from + (np.asarray(places, float) - self._low) * 1000.0 / self._scale
        return place

    def _draw(self, drawn: _PlanLines) -> None:
        """What lies within the sheet's box, cut off at its frame."""
        edges = np.concatenate(self._box).tolist()
        if len(drawn.beyond):
            lines = self._at(drawn.beyond.reshape(-1, 2)).reshape(-1, 2, 2)
            inside = shapely.clip_by_rect(shapely.linestrings(lines), *edges)
            for points in _parts(inside):
                self._lines.append(Stroke("beyond", points, 0.13))
        for outline in drawn.outlines:
            points = self._at(outline.points)
            if outline.glass or not outline.closed:
                for part in _parts(shapely.clip_by_rect(shapely.LineString(points), *edges)):
                    self._lines.append(Stroke("glass", part, 0.18))
                continue
            cut = shapely.Polygon(points) if len(points) > 2 else shapely.Polygon()
            whole = self._covers(points)
            self._walls.append(cut if cut.is_valid else shapely.make_valid(cut))
            for part in [points] if whole else _parts(shapely.clip_by_rect(self._walls[-1], *edges)):
                self._lines.append(Stroke("cut", part, 0.25, True, True))
        (x0, y0), (x1, y1) = self._box
        rim = np.array([[x0, y0], [x1, y0], [x1, y1], [x0, y1]])
        self._front.append(Stroke("frame", rim, 0.13, True))

    def _covers(self, points: Floats) -> bool:
        return bool((points >= self._box[0] - 1e-6).all() and (points <= self._box[1] + 1e-6).all())

    def _bar(self) -> None:
        """A bar of round metres, as long as there is room for below the table."""
        fitting = [metres for metres in BARS_M if metres * 1000.0 / self._scale <= TABLE_MM]
        metres = max(fitting, default=BARS_M[0])
        long_mm = metres * 1000.0 / self._scale
        left, y = self._wide - EDGE_MM - TABLE_MM, EDGE_MM + 2.0
        for x in (left, left + long_mm):
            self._front.append(Stroke("table", np.array([[x, y - 1.2], [x, y + 1.2]]), 0.25))
        self._front.append(Stroke("table", np.array([[left, y], [left + long_mm, y]]), 0.25))
        self._front.append(Words("table", left, y + 2.4, f"{metres:g} m", 2.2))

    def camera(
        self, number: int, camera: Camera, place: Floats, heading: float, edges: tuple[float, float]
    ) -> None:
        """An eye with its field of view and its name.  heading : radians clockwise from up on the sheet."""
        at = self._at(place)
        angles = heading + np.linspace(edges[0], edges[1], 13)
        arc = at + REACH_MM * np.column_stack([np.sin(angles), np.cos(angles)])
        self._back.append(Stroke("views", np.vstack([at[None], arc]), 0.13, True, True))
        circle = np.linspace(0.0, 2.0 * math.pi, 25)[:-1]
        self._front.append(
            Stroke(
                "cameras", at + EYE_MM * np.column_stack([np.sin(circle), np.cos(circle)]), 0.2, True, True
            )
        )
        sight = np.array([at, at + REACH_MM * np.array([math.sin(heading), math.cos(heading)])])
        self._front.append(Stroke("cameras", sight, 0.18))
        self._eyes.append((at, f"{number} {camera.name}"))

    def table(self, cameras: Sequence[Camera], heights: Sequence[float | None]) -> None:
        """A row for each camera."""
        left, top = self._wide - EDGE_MM - TABLE_MM, self._high - EDGE_MM - HEAD_MM
        self._front += [Words("table", left + x, top, name, 2.0) for name, x in COLUMNS if name]
        for number, (camera, height) in enumerate(zip(cameras, heights, strict=True), 1):
            y = top - ROW_MM * number
            if y < EDGE_MM + 10.0:
                self._front.append(Words("table", left, y, f"and {len(cameras) - number + 1} more", 2.0))
                break
            across, up = camera.view().angles_of_view()
            cells = (
                str(number), _short(camera.name), "–" if height is None else f"{height:.2f}", f"{camera.focal_mm:.1f}", f"{across:.0f}° × {up:.0f}°",
            )  # fmt: skip
            self._front += [
                Words("table", left + x, y, text, 2.0) for text, (_, x) in zip(cells, COLUMNS, strict=True)
            ]
            line = np.array([[left, y + ROW_MM - 1.4], [left + TABLE_MM, y + ROW_MM - 1.4]])
            self._front.append(Stroke("frame", line, 0.1))

    def _named(self) -> list[Stroke | Words]:
        """The names beside their eyes."""
        if not self._eyes:
            return []
        marks = np.array([at for at, _ in self._eyes])
        sizes = np.array([(wide_mm(name, NAME_MM), NAME_MM) for _, name in self._eyes])
        views = [shapely.Polygon(item.points) for item in self._back if isinstance(item, Stroke)]
        lines = [item.points for item in self._lines if isinstance(item, Stroke) and not item.filled]
        covered = [
            (shapely.union_all(self._walls), OVER_WALLS),
            (shapely.union_all(views), OVER_VIEW),
            (shapely.MultiLineString(lines), OVER_LINES),
        ]
        (x0, y0), (x1, y1) = (corner.tolist() for corner in self._box)
        places = places_beside(marks, sizes, BESIDE_MM, ((x0, y0), (x1, y1)), covered)
        return [
            Words("names", place[0], place[1], name, NAME_MM)
            for place, (_, name) in zip(places.tolist(), self._eyes, strict=True)
        ]

    def finished(self) -> PaperSheet:
        """The sheet with everything in its order."""
        return PaperSheet(
            self._title, self._wide, self._high, (*self._back, *self._lines, *self._front, *self._named())
        )
