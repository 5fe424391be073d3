"""A list of gaps with pictures, for whoever models: one page that opens in any browser, its pictures, and a
table."""

from __future__ import annotations

import csv
import html
import io
from collections.abc import Sequence
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw

from altana.core.checks.camera_check import CameraCheck
from altana.core.checks.gaps import Gap
from altana.core.light.own import light_for
from altana.core.light.transport import Cancelled
from altana.core.naming import cell
from altana.core.progress import NamedProgress
from altana.core.project import Camera, Project
from altana.core.staging import Lookup
from altana.jobs.light import known_light
from altana.jobs.looking import CHECK_PX, Checker
from altana.jobs.models import Opened
from altana.jobs.requests import file_stem
from altana.jobs.surroundings import sky_for
from altana.render.encode import still_bytes
from altana.render.quality import FULL
from altana.render.renderer import Renderer
from altana.storage.files import make_folder, write_atomically

PICTURE_PX = 1280
MARK = (180, 69, 47)
HEADINGS = (
    "number",
    "camera",
    "kind",
    "share_of_frame",
    "left_px",
    "top_px",
    "right_px",
    "bottom_px",
    "beside",
    "x",
    "y",
    "z",
    "picture",
)
KINDS = {"hole": "an opening that nothing closes", "ground": "ground that ends in view"}


def write_gap_list(
    opened: Opened,
    project: Project,
    cameras: Sequence[Camera],
    out: Path,
    progress: NamedProgress | None = None,
) -> list[Path]:
    """Look at every camera; write ``gaps.html``, ``gaps.csv`` and a marked picture where there is a gap.

    progress : called with the share done and the camera's name; returning False ends the work.  Raises
    UserError, or Cancelled.  The files written, the page first; without gaps only page and table.
    """
    make_folder(out)
    renderer = Renderer(opened.model, known_light(opened, project.light))
    rows: list[tuple[object, ...]] = []
    sections: list[str] = []
    written: list[Path] = []
    try:
        checker, lookup = Checker(opened.model, renderer), Lookup(opened.model)
        for number, camera in enumerate(cameras):
            if progress is not None and not progress(number / max(len(cameras), 1), camera.name):
                raise Cancelled
            staging = lookup.staging(project, camera)
            checks = checker.check(camera.view(), staging, CHECK_PX)
            shown = [gap for gap in checks.gaps.gaps if gap.share >= project.limits.gap_share]
            if not shown:
                continue
            high = max(16, round(PICTURE_PX * camera.height_px / camera.width_px))
            pixels = renderer.picture(
                camera.view(PICTURE_PX, high),
                sky_for(light_for(project.light, camera), opened.base),
                camera.ev,
                FULL,
                camera.inside,
                None,
                staging,
            )
            assert pixels is not None
            picture = _marked(Image.fromarray(pixels), shown, len(rows) + 1)
            path = out / f"{len(written) + 1:02d}-{file_stem(camera.name)}.png"
            write_atomically(path, _png(picture, camera.name), "What was listed before is kept.")
            written.append(path)
            sections.append(_section(camera, checks, shown, path.name, len(rows) + 1))
            rows += [_row(len(rows) + 1 + index, camera, gap, path.name) for index, gap in enumerate(shown)]
    finally:
        renderer.close()
    table, page = out / "gaps.csv", out / "gaps.html"
    write_atomically(table, _table(rows).encode(), "The pictures are kept.")
    write_atomically(page, _page(project.name, sections).encode(), "The pictures are kept.")
    return [page, table, *written]


def _png(picture: Image.Image, title: str) -> bytes:
    return still_bytes(np.asarray(picture), "png", title)


def _marked(picture: Image.Image, gaps: Sequence[Gap], first: int) -> Image.Image:
    """The picture with a numbered box round each gap."""
    draw = ImageDraw.Draw(picture)
    for number, gap in enumerate(gaps, first):
        left, top, right, bottom = (
            value * side for value, side in zip(gap.box, (picture.width, picture.height) * 2, strict=True)
        )
        for grow, colour in ((4, (255, 255, 255)), (2, MARK), (3, MARK)):
            draw.rectangle((left - grow, top - grow, right + grow, bottom + grow), outline=colour)
        label = f" {number} "
        box = draw.textbbox((left, top), label, font_size=22)
        draw.rectangle(box, fill=MARK)
        draw.text((left, top), label, fill=(255, 255, 255), font_size=22)
    return picture


def _row(number: int, camera: Camera, gap: Gap, picture: str) -> tuple[object, ...]:
    left, top, right, bottom = gap.box
    corners = gap.corners
    place = (
        [f"{sum(corner[axis] for corner in corners) / len(corners):.3f}" for axis in range(3)]
        if corners
        else ["", "", ""]
    )
    pixels = (
        round(left * camera.width_px),
        round(top * camera.height_px),
        round(right * camera.width_px),
        round(bottom * camera.height_px),
    )
    return (number, camera.name, gap.kind, f"{gap.share:.5f}", *pixels, gap.beside, *place, picture)


def _table(rows: Sequence[tuple[object, ...]]) -> str:
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(HEADINGS)
    table.writerows(
        [cell(item) if isinstance(item, str) and not _number(item) else item for item in row] for row in rows
    )
    return out.getvalue()


def _number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True


def _section(camera: Camera, checks: CameraCheck, gaps: Sequence[Gap], picture: str, first: int) -> str:
    items = "".join(
        f"<li value='{number}'>{KINDS[gap.kind]}{' beside ' + html.escape(gap.beside) if gap.beside else ''}: {gap.share * 100:.1f} % of the picture</li>"
        for number, gap in enumerate(gaps, first)
    )
    name = html.escape(camera.name)
    return f"<section><h2>{name}</h2><img src='{html.escape(picture)}' alt='{name}, gaps marked'><ol>{items}</ol></section>"


def _page(name: str, sections: Sequence[str]) -> str:
    body = "\n".join(sections) or "<p>No gaps were found in any camera's picture.</p>"
    style = "body{font:15px/1.5 sans-serif;max-width:1280px;margin:2em auto;padding:0 1em;color:#24211C;background:#FBFAF6}img{width:100%}"
    title = html.escape(f"{name}: gaps to be closed in the model")
    return f"<!doctype html><meta charset='utf-8'><title>{title}</title><style>{style}</style><h1>{title}</h1>\n{body}\n"
