"""Cameras and walks as plain tables: CSV for spreadsheets, JSON for scripts; a row a camera, or a film
frame."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Sequence
from typing import Any

from altana.core.conventions import Vec3
from altana.core.naming import cell
from altana.exchange.travelling import Frame, Travelling, placement

HEADINGS = (
    "name", "frame", "seconds", "x", "y", "z", "heading", "tilt", "roll", "focal_mm", "sensor_width_mm", "sensor_height_mm",
    "rise_mm", "cross_mm", "width_px", "height_px", "near_m", "far_m", "ev",
)  # fmt: skip


def _row(item: Travelling, number: int, frame: Frame, offset: Vec3) -> dict[str, Any]:
    view, lens = frame.view, frame.view.lens
    eye = [round(a + b, 6) for a, b in zip(view.pose.eye, offset, strict=True)]
    values = (
        item.name, number, round(frame.seconds, 9), *eye,
        *(round(value, 6) for value in (view.pose.heading_deg % 360.0, view.pose.tilt_deg, view.pose.roll_deg, lens.focal_mm, *view.sensor_mm)),
        round(lens.rise_mm, 6), round(lens.cross_mm, 6), view.width_px, view.height_px, view.near_m, view.far_m, round(frame.ev, 4),
    )  # fmt: skip
    return dict(zip(HEADINGS, values, strict=True))


def csv_text(items: Sequence[Travelling], offset: Vec3) -> str:
    """The table with its headings; metres with z up, degrees, millimetres."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(HEADINGS)
    for item in items:
        for number, frame in enumerate(item.frames):
            row = _row(item, number, frame, offset)
            table.writerow(
                [cell(row["name"]), *("" if row[name] is None else row[name] for name in HEADINGS[1:])]
            )
    return out.getvalue()


def json_text(items: Sequence[Travelling], offset: Vec3) -> str:
    """All of it with the placement of every frame: (4, 4) rows, x right, y up, looking along -z, metres with
    z up."""
    rows = [
        {
            "name": item.name,
            "intent": item.intent,
            "note": item.note,
            "rate": str(item.rate) if item.rate is not None else None,
            "frames": [
                {**_row(item, number, frame, offset), "placement": placement(frame.view, offset).tolist()}
                for number, frame in enumerate(item.frames)
            ],
        }
        for item in items
    ]
    return (
        json.dumps(
            {"altana": 1, "unit": "m", "up": "z", "cameras": rows},
            ensure_ascii=False,
            allow_nan=False,
            indent=1,
        )
        + "\n"
    )
