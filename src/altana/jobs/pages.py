"""Pages for the client from what was made: a contact sheet, a presentation as PDF with vector plans, a page that turns
panoramas in any browser, and an index of a folder of files.
"""

from __future__ import annotations

import base64
import html
import io
import json
import math
import zipfile
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import numpy as np
import tifffile
from PIL import Image, ImageDraw, ImageFont
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from altana.core.conventions import Vec2, Vec3
from altana.core.errors import UserError
from altana.core.geometry.drawing import Drafter, PlanDrawing, building_extent
from altana.core.geometry.rays import RayScene
from altana.core.model import Model, Storey
from altana.core.project import PANORAMA, Camera, Project
from altana.jobs.requests import Film, Pano, Picture
from altana.jobs.shotlist import Row
from altana.render.encode import film_frame_at, still_bytes
from altana.storage.files import make_folder, write_atomically

INK, PENCIL, LEAF, PAPER, GREEN = (
    (36, 33, 28),
    (101, 94, 83),
    (251, 250, 246),
    (244, 241, 234),
    (30, 123, 109),
)
TEMPLATES = ("one", "grid")
#: Above the floor of a storey, where its plan is cut.
CUT_M = 1.2
#: So much is shown round a building.
MARGIN_M = 3.0
#: A4 lying, points.
PAGE_PT = (841.89, 595.28)
HALF_VIEW_M = 4.0
#: The plan beside a single picture shows so much about its camera.
AROUND_M = 15.0
LARGEST_SIDE = 2000


@dataclass(frozen=True, slots=True)
class Shown:
    """A picture for the client: its file, its row, and its words."""

    path: Path
    row: Row
    title: str
    caption: str

    @property
    def camera(self) -> Camera | None:
        """Its camera, where it has one."""
        return self.row.item.camera if isinstance(self.row.item, Picture | Pano) else None


def shown_of(project: Project, rows: Sequence[Row], out: Path) -> tuple[Shown, ...]:
    """What was made of the rows that are on, in their order.  Raises UserError where nothing was."""
    made = []
    for row in rows:
        path = out / row.file if row.file else None
        if path is None or not row.shot.on or not path.is_file() or path.suffix == ".exr":
            continue
        item = row.item
        if isinstance(item, Film):
            made.append(Shown(path, row, item.walk.name, item.walk.note))
        elif isinstance(item, Picture | Pano):
            made.append(Shown(path, row, item.camera.name, item.camera.intent))
    if not made:
        raise UserError(
            f"Nothing of the shot list was made in {out} yet. Make it first; pages show what was made."
        )
    return tuple(made)


def small(path: Path, longest: int) -> Image.Image:
    """A picture or a film's first film frame, no larger than so many pixels, on paper where it is transparent."""
    suffix = path.suffix.lower()
    if suffix in (".mp4", ".mov", ".webm", ".avi"):
        pixels = film_frame_at(path, 0.0, Fraction(25))
        if pixels is None:
            raise UserError(f"{path.name} holds no film frame.")
        image = Image.fromarray(pixels)
    elif suffix in (".tif", ".tiff"):
        whole = tifffile.imread(path)
        image = Image.fromarray(
            (whole[..., :3] >> 8).astype(np.uint8) if whole.dtype == np.uint16 else whole[..., :3]
        )
    else:
        with Image.open(path) as opened:
            opened.load()
            image = opened.copy()
    if image.mode.startswith("I"):
        image = Image.fromarray((np.asarray(image) >> 8).astype(np.uint8))
    if image.mode == "RGBA":
        ground = Image.new("RGB", image.size, LEAF)
        ground.paste(image, mask=image.getchannel("A"))
        image = ground
    image = image.convert("RGB")
    image.thumbnail((longest, longest), Image.Resampling.LANCZOS)
    return image


# ---------------------------------------------------------------------- contact sheet


def contact_sheet(project: Project, pictures: Sequence[Shown], columns: int = 4, wide: int = 440) -> bytes:
    """All pictures small, with number, name and file, as one PNG."""
    gap, below, head = 26, 58, 92
    columns = max(1, min(columns, len(pictures)))
    high = round(wide * 0.66)
    rows = -(-len(pictures) // columns)
    sheet = Image.new("RGB", (gap + columns * (wide + gap), head + rows * (high + below + gap) + gap), LEAF)
    draw = ImageDraw.Draw(sheet)
    title, plain, quiet = (ImageFont.load_default(size) for size in (34, 20, 16))
    draw.text((gap, 28), project.name, fill=INK, font=title)
    draw.text((sheet.width - gap, 46), f"{len(pictures)} pictures", fill=PENCIL, font=plain, anchor="rm")
    draw.line((gap, head - 14, sheet.width - gap, head - 14), fill=GREEN, width=2)
    for number, shown in enumerate(pictures):
        row, column = divmod(number, columns)
        x, y = gap + column * (wide + gap), head + row * (high + below + gap)
        picture = small(shown.path, max(wide, high))
        picture.thumbnail((wide, high), Image.Resampling.LANCZOS)
        sheet.paste(picture, (x + (wide - picture.width) // 2, y + high - picture.height))
        draw.text(
            (x, y + high + 10), _short(f"{number + 1}  {shown.title}", plain, wide), fill=INK, font=plain
        )
        draw.text((x, y + high + 36), _short(shown.row.file, quiet, wide), fill=PENCIL, font=quiet)
    return still_bytes(np.asarray(sheet), "png", f"{project.name}: contact sheet")


def _short(text: str, font: ImageFont.FreeTypeFont | ImageFont.ImageFont, wide: int) -> str:
    while len(text) > 4 and font.getlength(text) > wide:
        text = text[:-4].rstrip("…") + "…"
    return text


# ---------------------------------------------------------------------- presentation


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


class Plans:
    """Plans of a model's storeys as vectors, cut once each."""

    def __init__(self, model: Model) -> None:
        self._model = model
        self._drafter = Drafter(model, RayScene.of(model))
        self._held: dict[str, PlanDrawing] = {}

    def storey_of(self, eye: Vec3) -> Storey | None:
        """The storey that an eye stands on."""
        return self._model.storey_of_eye(eye)

    def drawing(self, storey: Storey) -> PlanDrawing:
        """The plan of a storey."""
        if storey.id not in self._held:
            self._held[storey.id] = self._drafter.plan(storey.elevation_m, storey.elevation_m + CUT_M)
        return self._held[storey.id]


def _colour(canvas: Canvas, colour: tuple[int, int, int], fill: bool = True) -> None:
    red, green, blue = (value / 255.0 for value in colour)
    (canvas.setFillColorRGB if fill else canvas.setStrokeColorRGB)(red, green, blue)


def _ground(canvas: Canvas) -> None:
    _colour(canvas, LEAF)
    canvas.rect(0, 0, *PAGE_PT, stroke=0, fill=1)


def _title_page(canvas: Canvas, project: Project, pictures: Sequence[Shown], plans: Plans) -> None:
    _ground(canvas)
    _colour(canvas, INK)
    canvas.setFont("Helvetica-Bold", 30)
    canvas.drawString(48, PAGE_PT[1] - 92, project.name)
    _colour(canvas, PENCIL)
    canvas.setFont("Helvetica", 12)
    words = f"{len(pictures)} pictures" + (f"   {project.author}" if project.author else "")
    canvas.drawString(48, PAGE_PT[1] - 114, words)
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
        _plan(canvas, plans, storey, cameras, (x, 70.0, wide, PAGE_PT[1] - 230))
        _colour(canvas, PENCIL)
        canvas.setFont("Helvetica", 10)
        canvas.drawString(x, 50, storey.name)
    canvas.showPage()


def _plan(
    canvas: Canvas,
    plans: Plans,
    storey: Storey,
    cameras: Iterable[tuple[int, Camera]],
    box: tuple[float, float, float, float],
    around_m: float = 0.0,
) -> None:
    """A plan as vectors in a box (x, y, width, height in points), with numbered cameras; so many metres about the first
    camera, or the whole building."""
    drawing = plans.drawing(storey)
    cameras = list(cameras)
    (x0, y0), (x1, y1) = building_extent(drawing, MARGIN_M)
    if around_m and cameras:
        x, y, _ = cameras[0][1].eye
        (x0, y0), (x1, y1) = (x - around_m, y - around_m), (x + around_m, y + around_m)
    for _, camera in cameras:
        x0, y0 = min(x0, camera.eye[0] - 2.0), min(y0, camera.eye[1] - 2.0)
        x1, y1 = max(x1, camera.eye[0] + 2.0), max(y1, camera.eye[1] + 2.0)
    left, bottom, wide, high = box
    scale = min(wide / max(x1 - x0, 1e-6), high / max(y1 - y0, 1e-6))
    off_x, off_y = (
        left + (wide - scale * (x1 - x0)) / 2 - scale * x0,
        bottom + (high - scale * (y1 - y0)) / 2 - scale * y0,
    )

    def at(place: Sequence[float]) -> Vec2:
        return off_x + scale * place[0], off_y + scale * place[1]

    canvas.saveState()
    clip = canvas.beginPath()
    clip.rect(left, bottom, wide, high)
    canvas.clipPath(clip, stroke=0)
    _colour(canvas, PENCIL, False)
    canvas.setLineWidth(0.25)
    for first, second in drawing.beyond.tolist():
        canvas.line(*at(first), *at(second))
    _colour(canvas, INK)
    _colour(canvas, INK, False)
    canvas.setLineWidth(0.5)
    for outline in drawing.outlines:
        path = canvas.beginPath()
        points = outline.points.tolist()
        path.moveTo(*at(points[0]))
        for point in points[1:]:
            path.lineTo(*at(point))
        canvas.drawPath(path, stroke=1, fill=1 if outline.closed and not outline.glass else 0)
    for number, camera in cameras:
        _camera_mark(canvas, at(camera.eye[:2]), camera, number, scale)
    canvas.restoreState()


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
    canvas.setFont("Helvetica-Bold", 7)
    canvas.drawCentredString(at[0], at[1] - 2.5, str(number))


def _picture_on(canvas: Canvas, shown: Shown, box: tuple[float, float, float, float], longest: int) -> None:
    image = small(shown.path, longest)
    left, bottom, wide, high = box
    scale = min(wide / image.width, high / image.height)
    size = (image.width * scale, image.height * scale)
    buffer = io.BytesIO()
    image.save(buffer, "JPEG", quality=90, subsampling=0)
    buffer.seek(0)
    canvas.drawImage(ImageReader(buffer), left + (wide - size[0]) / 2, bottom + (high - size[1]) / 2, *size)


def _words(
    canvas: Canvas, text: str, x: float, y: float, size: float, wide: float, bold: bool = False
) -> None:
    font = "Helvetica-Bold" if bold else "Helvetica"
    canvas.setFont(font, size)
    plain = text.encode("latin-1", "replace").decode("latin-1")
    while len(plain) > 4 and canvas.stringWidth(plain, font, size) > wide:
        plain = plain[:-4].rstrip(".") + "..."
    canvas.drawString(x, y, plain)


def _one_page(canvas: Canvas, project: Project, shown: Shown, number: int, plans: Plans) -> None:
    _ground(canvas)
    camera = shown.camera
    side = 190.0 if camera is not None else 0.0
    _picture_on(
        canvas, shown, (36, 84, PAGE_PT[0] - 72 - (side + 20 if side else 0), PAGE_PT[1] - 126), LARGEST_SIDE
    )
    if camera is not None:
        storey = plans.storey_of(camera.eye)
        if storey is not None:
            _plan(
                canvas,
                plans,
                storey,
                [(number, camera)],
                (PAGE_PT[0] - 36 - side, 84, side, PAGE_PT[1] - 126),
                AROUND_M,
            )
    _colour(canvas, INK)
    _words(canvas, f"{number}   {shown.title}", 36, 54, 15, 520, True)
    _colour(canvas, PENCIL)
    if shown.caption:
        _words(canvas, shown.caption, 36, 34, 11, 520)
    _words(canvas, project.name, PAGE_PT[0] - 36 - 190, 34, 9, 190)


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


# ---------------------------------------------------------------------- look round, offline


def look_round_page(
    project: Project,
    pictures: Sequence[Shown],
    rays: RayScene | None,
    plans: Plans | None,
    longest: int = 4096,
) -> bytes:
    """One HTML file that turns panoramas in any browser, offline: pictures, plan and script are in it.

    Panoramas whose places see each other are linked.  rays : the model, for that; plans : for the plan to press on.
    Raises UserError where there is no panorama.
    """
    rounds = [shown for shown in pictures if shown.row.shot.kind == PANORAMA and shown.camera is not None]
    if not rounds:
        raise UserError(
            "No panorama was made yet. Add one to the shot list and make it; the page shows what was made."
        )
    scenes = []
    for shown in rounds:
        camera = shown.camera
        assert camera is not None
        image = small(shown.path, longest * (2 if shown.row.shot.stereo_m else 1))
        if shown.row.shot.stereo_m:
            image = image.crop((0, 0, image.width, image.height // 2))
        buffer = io.BytesIO()
        image.save(buffer, "JPEG", quality=88)
        scenes.append(
            {
                "name": shown.title,
                "caption": shown.caption,
                "eye": [round(value, 3) for value in camera.eye],
                "heading": round(camera.heading_deg, 3),
                "picture": "data:image/jpeg;base64," + base64.b64encode(buffer.getvalue()).decode(),
                "links": [],
            }
        )
    eyes = [camera.eye for shown in rounds if (camera := shown.camera) is not None]
    for a, one in enumerate(scenes):
        one["links"] = [b for b in range(len(scenes)) if a != b and _in_sight(rays, eyes[a], eyes[b])]
    plan = _plan_svg(plans, rounds) if plans is not None else ""
    script = (Path(__file__).parent / "look_round.js").read_text(encoding="utf-8")
    style = (Path(__file__).parent / "look_round.css").read_text(encoding="utf-8")
    # No name can end the script or begin a comment in it.
    data = json.dumps({"scenes": scenes}, ensure_ascii=True).replace("<", "\\u003c").replace(">", "\\u003e")
    title = html.escape(project.name)
    return (
        f'<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><title>{title}</title>\n'
        '<meta name="viewport" content="width=device-width, initial-scale=1">\n'
        "<meta http-equiv=\"Content-Security-Policy\" content=\"default-src 'none'; img-src data:; script-src 'unsafe-inline'; style-src 'unsafe-inline'\">\n"
        f'<style>\n{style}</style></head>\n<body>\n<canvas id="view" tabindex="0" aria-label="Panorama"></canvas>\n'
        f'<header><h1>{title}</h1><p id="name"></p></header>\n<nav id="links" aria-label="Go to"></nav>\n<aside id="plan">{plan}</aside>\n'
        f'<button id="two" type="button">Two eyes</button>\n<script>\nconst DATA = {data};\n{script}</script>\n</body></html>\n'
    ).encode()


def _in_sight(rays: RayScene | None, one: Vec3, other: Vec3) -> bool:
    """Whether two places see each other; without a model all do."""
    if rays is None:
        return True
    run = np.asarray(other) - np.asarray(one)
    length = float(np.linalg.norm(run))
    return length > 0.05 and not bool(
        rays.blocked(np.array([one]), (run / length)[None], np.array([length - 0.02]))[0]
    )


def _plan_svg(plans: Plans, rounds: Sequence[Shown]) -> str:
    """The plan of the first panorama's storey, with a dot to press on for each panorama there."""
    first = rounds[0].camera
    assert first is not None
    storey = plans.storey_of(first.eye)
    if storey is None:
        return ""
    drawing = plans.drawing(storey)
    (x0, y0), (x1, y1) = building_extent(drawing, MARGIN_M)
    parts = []
    for outline in drawing.outlines:
        points = " ".join(f"{x - x0:.2f},{y1 - y:.2f}" for x, y in outline.points.tolist())
        fill = "#24211c" if outline.closed and not outline.glass else "none"
        parts.append(f'<polyline points="{points}" fill="{fill}" stroke="#24211c" stroke-width="0.06"/>')
    for number, shown in enumerate(rounds):
        camera = shown.camera
        assert camera is not None
        x, y = camera.eye[0] - x0, y1 - camera.eye[1]
        title = html.escape(shown.title)
        parts.append(
            f'<circle data-scene="{number}" cx="{x:.2f}" cy="{y:.2f}" r="0.7" tabindex="0"><title>{title}</title></circle>'
        )
    return (
        f'<svg viewBox="0 0 {x1 - x0:.2f} {y1 - y0:.2f}" role="img" aria-label="Plan">{"".join(parts)}</svg>'
    )


# ---------------------------------------------------------------------- a folder or a zip


def index_page(project: Project, pictures: Sequence[Shown], more: Sequence[Path] = ()) -> bytes:
    """A page beside the files that shows and names them; it opens in any browser, offline."""
    cells = []
    for shown in pictures:
        buffer = io.BytesIO()
        small(shown.path, 480).save(buffer, "JPEG", quality=82)
        source = "data:image/jpeg;base64," + base64.b64encode(buffer.getvalue()).decode()
        name, href = html.escape(shown.title), html.escape(shown.row.file)
        caption = html.escape(shown.caption)
        cells.append(
            f'<figure><a href="{href}"><img src="{source}" alt="{name}"></a><figcaption><b>{name}</b><br>{caption}</figcaption></figure>'
        )
    files = "".join(
        f'<li><a href="{html.escape(path.name)}">{html.escape(path.name)}</a></li>' for path in more
    )
    title = html.escape(project.name)
    return (
        f'<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><title>{title}</title><style>\n'
        "body{font-family:sans-serif;background:#f4f1ea;color:#24211c;margin:2rem}h1{border-bottom:2px solid #1e7b6d;padding-bottom:.4rem}\n"
        "main{display:flex;flex-wrap:wrap;gap:1.5rem}figure{margin:0;width:300px}img{width:100%}figcaption{color:#655e53;font-size:.9rem}\n"
        f"a{{color:#1e7b6d}}</style></head><body><h1>{title}</h1><ul>{files}</ul><main>{''.join(cells)}</main></body></html>\n"
    ).encode()


def client_zip(project: Project, pictures: Sequence[Shown], more: Sequence[Path], path: Path) -> Path:
    """Everything for the client as one zip, with its index page.  Equal files make an equal zip."""
    part = path.with_name(f".{path.name}.part")
    make_folder(path.parent)
    try:
        with zipfile.ZipFile(part, "w") as archive:
            files = [
                ("index.html", index_page(project, pictures, more)),
                *((item.name, item.read_bytes()) for item in more),
            ]
            files += [(shown.row.file, shown.path.read_bytes()) for shown in pictures]
            for name, data in files:
                info = zipfile.ZipInfo(name)
                info.compress_type = (
                    zipfile.ZIP_DEFLATED if name.endswith((".html", ".pdf")) else zipfile.ZIP_STORED
                )
                archive.writestr(info, data)
        part.replace(path)
    finally:
        part.unlink(missing_ok=True)
    return path


def write_pages(
    project: Project, rows: Sequence[Row], model: Model, out: Path, what: Sequence[str], template: str = "one"
) -> list[Path]:
    """Write pages of the kinds asked for: "sheet", "presentation", "look-round", "index", "zip".  Raises UserError."""
    pictures = shown_of(project, rows, out)
    made: list[Path] = []

    def put(name: str, data: bytes) -> None:
        write_atomically(out / name, data)
        made.append(out / name)

    if "sheet" in what:
        put("contact-sheet.png", contact_sheet(project, pictures))
    if "presentation" in what:
        put("presentation.pdf", presentation(project, pictures, model, template))
    if "look-round" in what:
        put("look-round.html", look_round_page(project, pictures, RayScene.of(model), Plans(model)))
    if "index" in what:
        put("index.html", index_page(project, pictures, made))
    if "zip" in what:
        made.append(
            client_zip(
                project,
                pictures,
                [path for path in made if path.name != "index.html"],
                out / "for-the-client.zip",
            )
        )
    return made
