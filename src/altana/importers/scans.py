"""Laser scans: LAS and LAZ, read in pieces so that a scan larger than memory can still be looked at."""

from __future__ import annotations

from pathlib import Path

import laspy
import numpy as np

from altana.core.errors import UserError
from altana.core.model import Problem
from altana.importers.raw import RawModel
from altana.importers.units import settle

PIECE = 1_000_000
#: Every so many-th point is taken so that no more than these are held.
MOST_HELD = 12_000_000


def read_scan(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """The points of a scan.  Raises UserError."""
    raw = RawModel()
    places, shades, echoes = [], [], []
    try:
        with laspy.open(path) as file:
            total = file.header.point_count
            every = max(1, -(-total // MOST_HELD))
            coloured = {"red", "green", "blue"} <= set(file.header.point_format.dimension_names)
            grey = "intensity" in file.header.point_format.dimension_names
            for piece in file.chunk_iterator(PIECE):
                some = piece[::every]
                places.append(np.column_stack([np.asarray(some.x), np.asarray(some.y), np.asarray(some.z)]))
                if coloured:
                    shades.append(
                        np.column_stack([np.asarray(some.red), np.asarray(some.green), np.asarray(some.blue)])
                    )
                if grey:
                    echoes.append(np.asarray(some.intensity))
    except (laspy.errors.LaspyException, ValueError, OSError, EOFError, RuntimeError) as error:
        raise UserError(
            f"{path.name} is damaged and cannot be read as a scan. Nothing was changed. Export it again, or choose another file."
        ) from error
    if not places or not sum(len(piece) for piece in places):
        raise UserError(f"{path.name} holds no points. Nothing was changed. Choose another file.")
    if every > 1:
        raw.problems.append(Problem("thinned", f"The scan has {total} points; every {every}th was read."))
    raw.add_points(path.stem, np.concatenate(places), _colours(shades, echoes))
    settle(raw, unit_m, up, 1.0, "z")
    return raw, []


def _colours(shades: list[np.ndarray], echoes: list[np.ndarray]) -> np.ndarray | None:
    """(n, 4) uint8 from red, green and blue, or grey from how strongly the points threw the beam back; None
    where neither is told."""
    levels = np.concatenate(shades).astype(np.float32) if shades else np.zeros((0, 3), np.float32)
    if not levels.max(initial=0.0) > 0.0:
        grey = np.concatenate(echoes).astype(np.float32) if echoes else np.zeros(0, np.float32)
        if not grey.max(initial=0.0) > 0.0:
            return None
        # Spread over their usual range; the square root brings out what is dim.
        levels = np.repeat(
            np.sqrt(grey / np.float32(np.percentile(grey, 98)))[:, None], 3, axis=1
        ) * np.float32(230.0)
        white = 255.0
    else:
        # Sixteen bits by the standard; many writers fill eight.
        white = 255.0 if levels.max() <= 255 else 65_535.0
    colours = np.full((len(levels), 4), 255, np.uint8)
    colours[:, :3] = np.clip(np.rint(levels / white * 255.0), 0, 255)
    return colours
