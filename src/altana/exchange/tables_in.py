"""Cameras and walks of tables: Altana's own CSV and JSON, and any CSV of places with a name, x, y and z."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterable
from pathlib import Path
from typing import Any

from altana.core.conventions import Vec3
from altana.core.errors import Refused, UserError
from altana.core.measures import parse_length
from altana.core.project import Camera
from altana.exchange.incoming import CAMERA, MOST_FRAMES, Lens, Offer, usual_ev, walk_of

#: A table larger than this is none of cameras.
LARGEST_BYTES = 200_000_000
#: Columns by other names that tables of places have.
ALSO = {
    "eye_x": "x", "eye_y": "y", "eye_z": "z", "east": "x", "north": "y", "height": "z", "focal": "focal_mm", "lens": "focal_mm",
    "camera": "name", "view": "name", "width": "width_px", "sensor_width": "sensor_width_mm", "exposure": "ev", "direction": "heading",
}  # fmt: skip
Row = dict[str, Any]


def read_table(path: Path, offset: Vec3) -> list[Offer]:
    """Cameras, and walks where a name has several film frames.  offset : metres, what the project's model has
    been moved by.  Raises UserError."""
    try:
        if path.stat().st_size > LARGEST_BYTES:
            raise UserError(f"{path.name} is too large for a table of cameras. Nothing was taken.")
        text = path.read_bytes().decode("utf-8-sig")
    except OSError as error:
        raise UserError(f"{path.name} cannot be read. Nothing was taken.") from error
    except UnicodeDecodeError as error:
        raise UserError(f"{path.name} is no text in UTF-8. Save it as UTF-8; nothing was taken.") from error
    try:
        rows = list(_json_rows(path, text) if path.suffix.lower() == ".json" else _csv_rows(path, text))
    except csv.Error as error:
        raise UserError(f"{path.name} is no table that can be read. Nothing was taken.") from error
    if not rows:
        raise UserError(f"{path.name} has no rows with a place. Nothing was taken.")
    if len(rows) > MOST_FRAMES:
        raise UserError(f"{path.name} has more than {MOST_FRAMES} rows. Nothing was taken.")
    named: dict[str, list[Row]] = {}
    for row in rows:
        named.setdefault(str(row["name"]), []).append(row)
    return [_taken(path, name, lines, offset) for name, lines in named.items()]


def _csv_rows(path: Path, text: str) -> Iterable[Row]:
    # Lines end as they please: some tools write a return alone.
    lines = io.StringIO(text, newline="")
    first = next(iter(lines), "")
    lines.seek(0)
    table = csv.reader(lines, delimiter=";" if first.count(";") > first.count(",") else ",")
    headings = [ALSO.get(item.strip().lower(), item.strip().lower()) for item in next(table, [])]
    if not {"x", "y", "z"} <= set(headings):
        raise UserError(
            f"{path.name} has no columns x, y and z in its first line. Name them so, in metres; nothing was taken."
        )
    for number, values in enumerate(table, 2):
        if not any(value.strip() for value in values):
            continue
        row: Row = {key: value.strip() for key, value in zip(headings, values, strict=False) if value.strip()}
        # A cell that a spreadsheet would take for a formula is written with a mark before it.
        row["name"] = str(row.get("name") or f"Place {number - 1}").removeprefix("'")
        row["line"] = number
        yield row


def _json_rows(path: Path, text: str) -> Iterable[Row]:
    try:
        tree = json.loads(text)
        for camera in tree["cameras"]:
            for frame in camera["frames"]:
                yield {
                    **{key: value for key, value in frame.items() if value is not None},
                    "name": str(camera["name"]),
                    "intent": camera.get("intent") or "",
                    "note": camera.get("note") or "",
                    "rate": camera.get("rate"),
                }
    except (ValueError, KeyError, TypeError, RecursionError) as error:
        raise UserError(
            f"{path.name} is no table of cameras as Altana writes it. Nothing was taken."
        ) from error


def _taken(path: Path, name: str, rows: list[Row], offset: Vec3) -> Offer:
    try:
        cameras = [_camera(name, row, offset) for row in rows]
    except (Refused, ValueError, KeyError) as error:
        line = rows[0].get("line")
        where = f"Line {line} of {path.name}" if line else f"“{name}” in {path.name}"
        raise UserError(
            f"{where} has a value that is no number or makes no camera. Nothing was taken."
        ) from error
    seconds = [float(row.get("seconds") or 0.0) for row in rows]
    if len(rows) > 1 and seconds[-1] > seconds[0]:
        step = (seconds[-1] - seconds[0]) / (len(seconds) - 1)
        rate = str(rows[0].get("rate") or (round(1.0 / step) if step > 1e-6 else 25))
        try:
            return walk_of(name, seconds, cameras, rate)
        except Refused as error:
            return Offer(CAMERA, name, cameras[0], lost=(error.sentence,))
    lost = (f"“{name}” stands in {len(rows)} rows; the first is taken.",) if len(rows) > 1 else ()
    return Offer(CAMERA, name, cameras[0], lost=lost)


def _camera(name: str, row: Row, offset: Vec3) -> Camera:
    x, y, z = (parse_length(str(row[axis])) - moved for axis, moved in zip("xyz", offset, strict=True))
    lens = Lens(
        float(row.get("focal_mm") or 24.0),
        float(row.get("sensor_width_mm") or 36.0),
        float(row.get("rise_mm") or 0.0),
        float(row.get("cross_mm") or 0.0),
        int(float(row.get("width_px") or 1920)),
        int(float(row.get("height_px") or 1080)),
    )
    near, far = (float(row[key]) if row.get(key) not in (None, "") else None for key in ("near_m", "far_m"))
    return Camera(
        "",
        name.strip()[:200] or "Camera",
        (x, y, z),
        float(row.get("heading") or 0.0) % 360.0,
        float(row.get("tilt") or 0.0),
        float(row.get("roll") or 0.0),
        focal_mm=lens.focal_mm,
        sensor_width_mm=lens.sensor_mm,
        rise_mm=lens.rise_mm,
        cross_mm=lens.cross_mm,
        width_px=lens.width_px,
        height_px=lens.height_px,
        format_name="From the file",
        ev=usual_ev(row.get("ev")),
        intent=str(row.get("intent") or ""),
        note=str(row.get("note") or ""),
        near_m=near,
        far_m=far,
    )
