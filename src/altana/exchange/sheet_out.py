"""A drawing on paper, in millimetres, as PDF, SVG and DXF: the same lines, fills and words in each."""

from __future__ import annotations

import html
import io
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from altana.core.conventions import Floats
from altana.core.fonts import FAMILY
from altana.render.lettering import PAGE, PAGE_BOLD, make_page_letters

#: Layers with their colours, red green blue, 0 to 255.
LAYERS = {
    "cut": (36, 33, 28),
    "glass": (101, 94, 83),
    "beyond": (130, 123, 112),
    "views": (188, 219, 213),
    "cameras": (30, 123, 109),
    "names": (36, 33, 28),
    "frame": (101, 94, 83),
    "table": (36, 33, 28),
}
#: Words of this layer lie over lines: they clear this share of their height around them.
OVER_LINES, CLEAR = "names", 0.4
#: A letter's height is about seven tenths of its font's size.
LETTER_SHARE = 0.72


@dataclass(frozen=True, slots=True)
class Stroke:
    """A line through (n, 2) places in millimetres from the sheet's lower left corner; filled where
    ``filled``."""

    layer: str
    points: Floats
    width_mm: float = 0.18
    closed: bool = False
    filled: bool = False


@dataclass(frozen=True, slots=True)
class Words:
    """A line of text that begins at a place, so high in millimetres."""

    layer: str
    x: float
    y: float
    text: str
    high_mm: float = 2.5
    bold: bool = False


@dataclass(frozen=True, slots=True)
class PaperSheet:
    """What stands on a sheet of paper, from back to front.  Sides in millimetres."""

    title: str
    wide_mm: float
    high_mm: float
    items: tuple[Stroke | Words, ...]


def wide_mm(text: str, high_mm: float) -> float:
    """How wide words so high are, millimetres."""
    from reportlab.pdfbase.pdfmetrics import stringWidth

    make_page_letters()
    return float(stringWidth(text, PAGE, high_mm / LETTER_SHARE))


def pdf_bytes(sheet: PaperSheet, author: str = "") -> bytes:
    """The sheet as PDF.  Equal sheets make equal bytes."""
    from reportlab.lib.units import mm
    from reportlab.pdfgen.canvas import Canvas

    make_page_letters()
    buffer = io.BytesIO()
    canvas = Canvas(buffer, pagesize=(sheet.wide_mm * mm, sheet.high_mm * mm), invariant=1)
    canvas.setLineJoin(1)
    canvas.setTitle(sheet.title)
    canvas.setAuthor(author)
    canvas.setCreator("Altana")
    for item in sheet.items:
        red, green, blue = (value / 255.0 for value in LAYERS[item.layer])
        if isinstance(item, Words):
            canvas.setFont(PAGE_BOLD if item.bold else PAGE, item.high_mm / LETTER_SHARE * mm)
            if item.layer == OVER_LINES:
                canvas.setStrokeColorRGB(1.0, 1.0, 1.0)
                canvas.setLineWidth(item.high_mm * CLEAR * mm)
                canvas.drawString(item.x * mm, item.y * mm, item.text, mode=1)
            canvas.setFillColorRGB(red, green, blue)
            canvas.drawString(item.x * mm, item.y * mm, item.text)
            continue
        canvas.setStrokeColorRGB(red, green, blue)
        canvas.setFillColorRGB(red, green, blue)
        canvas.setLineWidth(item.width_mm * mm)
        path = canvas.beginPath()
        points = (item.points * mm).tolist()
        path.moveTo(*points[0])
        for point in points[1:]:
            path.lineTo(*point)
        if item.closed:
            path.close()
        canvas.drawPath(
            path, stroke=0 if item.filled and item.layer == "views" else 1, fill=1 if item.filled else 0
        )
    canvas.save()
    return buffer.getvalue()


def svg_text(sheet: PaperSheet) -> str:
    """The sheet as SVG whose unit is a millimetre."""
    parts = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{sheet.wide_mm:g}mm" height="{sheet.high_mm:g}mm" viewBox="0 0 {sheet.wide_mm:g} {sheet.high_mm:g}">',
        f"<title>{html.escape(sheet.title)}</title>",
    ]
    layer = ""
    for item in sheet.items:
        if item.layer != layer:
            parts.append(("</g>" if layer else "") + f'<g id="{item.layer}">')
            layer = item.layer
        colour = "#{:02x}{:02x}{:02x}".format(*LAYERS[item.layer])
        if isinstance(item, Words):
            weight = ' font-weight="bold"' if item.bold else ""
            if item.layer == OVER_LINES:
                weight += f' stroke="#fff" stroke-width="{item.high_mm * CLEAR:.3f}" stroke-linejoin="round" paint-order="stroke"'
            parts.append(
                f'<text x="{item.x:.3f}" y="{sheet.high_mm - item.y:.3f}" font-family="{FAMILY}, sans-serif" font-size="{item.high_mm / LETTER_SHARE:.3f}"{weight} fill="{colour}">{html.escape(item.text)}</text>'
            )
            continue
        places = item.points * (1.0, -1.0) + (0.0, sheet.high_mm)
        points = " ".join(f"{x:.3f},{y:.3f}" for x, y in places.tolist())
        fill = colour if item.filled else "none"
        stroke = "none" if item.filled and item.layer == "views" else colour
        shape = "polygon" if item.closed else "polyline"
        parts.append(
            f'<{shape} points="{points}" fill="{fill}" stroke="{stroke}" stroke-width="{item.width_mm:g}" stroke-linejoin="round"/>'
        )
    return "\n".join([*parts, "</g>" if layer else "", "</svg>", ""])


def dxf_text(sheet: PaperSheet) -> str:
    """The sheet as DXF (R2010) in millimetres of paper, a layer for each kind of line."""
    import ezdxf
    from ezdxf.enums import TextEntityAlignment

    document = ezdxf.new("R2010", units=4)  # type: ignore[attr-defined]
    space = document.modelspace()
    for name, colour in LAYERS.items():
        layer = document.layers.add(name)
        layer.rgb = colour
    _frame(space, sheet)
    for item in sheet.items:
        style = {"layer": item.layer}
        if isinstance(item, Words):
            text = space.add_text(item.text, height=item.high_mm, dxfattribs=style)
            text.set_placement((item.x, item.y), align=TextEntityAlignment.LEFT)
            continue
        points = item.points.tolist()
        if item.filled:
            hatch = space.add_hatch(dxfattribs=style)
            hatch.rgb = LAYERS[item.layer]
            hatch.paths.add_polyline_path(points, is_closed=True)
        if not (item.filled and item.layer == "views"):
            space.add_lwpolyline(
                points, close=item.closed, dxfattribs=style | {"lineweight": _weight(item.width_mm)}
            )
    out = io.StringIO()
    document.write(out)
    return out.getvalue()


def _frame(space: object, sheet: PaperSheet) -> None:
    corners = [(0, 0), (sheet.wide_mm, 0), (sheet.wide_mm, sheet.high_mm), (0, sheet.high_mm)]
    space.add_lwpolyline(corners, close=True, dxfattribs={"layer": "frame"})  # type: ignore[attr-defined]


def _weight(width_mm: float) -> int:
    """The nearest of the line weights that DXF knows, hundredths of a millimetre."""
    known: Sequence[int] = (0, 5, 9, 13, 15, 18, 20, 25, 30, 35, 40, 50, 53, 60, 70, 80, 90, 100)
    return int(known[int(np.argmin(np.abs(np.asarray(known) - width_mm * 100.0)))])
