"""Pages for the client from what was made: a contact sheet, and an index of a folder of files, also as one
zip with all else."""

from __future__ import annotations

import base64
import html
import io
import zipfile
from collections.abc import Sequence
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from altana.core.geometry.rays import RayScene
from altana.core.model import Model
from altana.core.naming import counted
from altana.core.project import Project
from altana.jobs.look_round_page import look_round_page
from altana.jobs.plans import Plans
from altana.jobs.presentation import presentation
from altana.jobs.shotlist import Row
from altana.jobs.shown import GREEN, INK, LEAF, PENCIL, ClientPicture, shown_of, small
from altana.render.encode import still_bytes
from altana.render.lettering import letters
from altana.storage.files import make_folder, write_atomically


def contact_sheet(
    project: Project, pictures: Sequence[ClientPicture], columns: int = 4, wide: int = 440
) -> bytes:
    """All pictures small, with number, name, what each is to say, and file, as one PNG."""
    captioned = any(shown.caption for shown in pictures)
    gap, below, head = 26, 80 if captioned else 58, 92
    columns = max(1, min(columns, len(pictures)))
    high = round(wide * 0.66)
    rows = -(-len(pictures) // columns)
    sheet = Image.new("RGB", (gap + columns * (wide + gap), head + rows * (high + below + gap) + gap), LEAF)
    draw = ImageDraw.Draw(sheet)
    title, plain, quiet = letters(34, bold=True), letters(20), letters(16)
    draw.text((gap, 28), project.name, fill=INK, font=title)
    draw.text(
        (sheet.width - gap, 46), counted(len(pictures), "picture"), fill=PENCIL, font=plain, anchor="rm"
    )
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
        if shown.caption:
            draw.text((x, y + high + 36), _short(shown.caption, quiet, wide), fill=INK, font=quiet)
        draw.text(
            (x, y + high + (58 if captioned else 36)),
            _short(shown.row.file, quiet, wide),
            fill=PENCIL,
            font=quiet,
        )
    return still_bytes(np.asarray(sheet), "png", f"{project.name}: contact sheet")


def _short(text: str, font: ImageFont.FreeTypeFont | ImageFont.ImageFont, wide: int) -> str:
    while len(text) > 4 and font.getlength(text) > wide:
        text = text[:-4].rstrip("…") + "…"
    return text


# ---------------------------------------------------------------------- a folder or a zip


def index_page(project: Project, pictures: Sequence[ClientPicture], more: Sequence[Path] = ()) -> bytes:
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


def client_zip(project: Project, pictures: Sequence[ClientPicture], more: Sequence[Path], path: Path) -> Path:
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
    """Write pages of the kinds asked for: "sheet", "presentation", "look-round", "index", "zip".  Raises
    UserError."""
    pictures = shown_of(project, rows, out)
    files: list[Path] = []

    def put(name: str, data: bytes) -> None:
        write_atomically(out / name, data)
        files.append(out / name)

    if "sheet" in what:
        put("contact-sheet.png", contact_sheet(project, pictures))
    if "presentation" in what:
        put("presentation.pdf", presentation(project, pictures, model, template))
    if "look-round" in what:
        put("look-round.html", look_round_page(project, pictures, RayScene.of(model), Plans(model)))
    if "index" in what:
        put("index.html", index_page(project, pictures, files))
    if "zip" in what:
        files.append(
            client_zip(
                project,
                pictures,
                [path for path in files if path.name != "index.html"],
                out / "for-the-client.zip",
            )
        )
    return files
